// Colour fringes: nothing at nothing, red one way and blue the other, green where it was, none in the middle.
#include <QTest>
#include <cmath>

#include "fields/input.h"
#include "image/sampling.h"
#include "scene/scene.h"
#include "support/lens.h"

using namespace oa;

namespace {

// A white square; where each channel of it begins and ends in its middle row.
std::array<double, 2> ends(const test::FloatFrame& f, int channel) {
  std::array<double, 2> at{-1, -1};
  for (int x = 1; x < f.width; ++x) {
    const float a = f.at(x - 1, 90, channel), b = f.at(x, 90, channel);
    if (a < 0.5f && b >= 0.5f) at[0] = x - 0.5 + static_cast<double>((0.5f - a) / (b - a));
    if (a >= 0.5f && b < 0.5f) at[1] = x - 0.5 + static_cast<double>((a - 0.5f) / (a - b));
  }
  return at;
}
test::FloatFrame parted(const test::SetUp& setUp) {
  Scene scene = test::stepOn("shape", "fringes", setUp);
  test::setValue(scene, 0, 0, "width", 100.0);
  test::setValue(scene, 0, 0, "height", 100.0);
  test::setValue(scene, 0, 0, "corner", 0.0);
  test::setValue(scene, 0, 0, "colour", Colour{1, 1, 1, 1});
  return test::renderFloat(scene, 0);
}

}  // namespace

class TestFringes : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void apartAlongAWay();
  void apartFromTheMiddle();
  void spansAreAsRows();
};

void TestFringes::noAmountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("gradient", "fringes", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestFringes::apartAlongAWay() {
  const auto f = parted([](const auto& set) { set("by", std::string("way")), set("amount", 14.0), set("angle", 0.0); });
  const auto red = ends(f, 0), green = ends(f, 1), blue = ends(f, 2);
  for (int k = 0; k < 2; ++k) {
    QVERIFY2(std::abs(red[k] - green[k] - 7) < 0.1 && std::abs(green[k] - blue[k] - 7) < 0.1,
             qPrintable(QStringLiteral("%1 %2 %3").arg(red[k]).arg(green[k]).arg(blue[k])));
  }
}

void TestFringes::apartFromTheMiddle() {
  const auto f = parted([](const auto& set) { set("amount", 36.0); });
  const auto red = ends(f, 0), green = ends(f, 1), blue = ends(f, 2);
  // The amount is that of the corners; the square's sides are so much nearer.
  const double part = 18 * 50 / (std::hypot(320, 180) / 2);
  QVERIFY(std::abs(red[1] - green[1] - part) < 0.2 && std::abs(green[1] - blue[1] - part) < 0.2);
  QVERIFY(std::abs(red[0] - green[0] + part) < 0.2);
  QVERIFY(f.at(160, 90, 0) == f.at(160, 90, 2));
}

// Of parts that lie ready and of such that are made.
void TestFringes::spansAreAsRows() {
  const Scene scene = test::stepOn("noise", "fringes");
  const RecipeStep& step = scene.layers[0].recipe[1];
  const PlaneView view = PlaneView::cover(320, 180, 320, 180);
  class Spans final : public Input {
   public:
    explicit Spans(bool ready) : ready_(ready) {}
    [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& asked) const override {
      Plane plane(asked.width, asked.height, 4);
      for (int y = 0; y < asked.height; ++y)
        for (int x = 0; x < asked.width * 4; ++x) plane.row(y)[x] = static_cast<float>((x * 13 + y * 7) % 101) / 101;
      if (ready_) return planeRows(std::move(plane), false);
      class Made final : public SpanMaker {
       public:
        explicit Made(Plane from) : SpanMaker(from.width()), from_(std::move(from)) {}
        [[nodiscard]] int channels() const override { return 4; }
        void span(int y, int x0, int n, float* out) const override { std::copy_n(from_.row(y) + x0 * 4, n * 4, out); }

       private:
        Plane from_;
      };
      return std::make_shared<Made>(std::move(plane));
    }
    [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& asked, const Moment&) const override { return pull(asked); }
    [[nodiscard]] Moment moment() const override { return {0, 48}; }

   private:
    bool ready_;
  };
  for (const bool ready : {true, false}) {
    const auto rows = step.spec->area(contextOf(step, {0, 48}, view), Spans(ready));
    QVERIFY(rows->makesSpans());
    const Plane whole = wholePlane(*rows, 320, 180);
    for (const int x : {0, 17, 256}) {
      alignas(64) float made[(kSpanStep + kSpanPadding) * 4];
      const int n = std::min(kSpanStep, 320 - x);
      rows->span(99, x, n, made);
      QVERIFY(std::equal(made, made + n * 4, whole.row(99) + x * 4));
    }
  }
}

QTEST_GUILESS_MAIN(TestFringes)
#include "tst_fringes.moc"
