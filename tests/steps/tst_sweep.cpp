// Sweep: nothing at nothing, one bar that comes in, passes and goes out, as often as it should.
#include <QTest>
#include <algorithm>
#include <cmath>
#include <iterator>

#include "image/rows.h"
#include "scene/scene.h"
#include "support/lens.h"

using namespace oa;

namespace {

test::FloatFrame at(std::int64_t k, const test::SetUp& more = {}) {
  Scene scene = test::stepOn("flat", "sweep", [&](const auto& set) {
    set("width", 60.0), set("angle", 0.0), set("amount", 1.0), set("soft", 0.2), set("colour", Colour{1, 1, 1, 1}), set("position", 0.0);
    if (more) more(set);
  });
  test::setValue(scene, 0, 0, "colour", Colour{0.2f, 0.2f, 0.2f, 1});
  test::param(scene, 0, 1, "passes").motion = test::turn();
  return test::renderFloat(scene, k);
}
// Columns that are lit.
std::pair<int, int> lit(const test::FloatFrame& f) {
  int first = f.width, last = -1;
  for (int x = 0; x < f.width; ++x)
    if (f.at(x, 90, 0) > 0.6f) first = std::min(first, x), last = x;
  return {first, last};
}

}  // namespace

class TestSweep : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void passesOverTheFrame();
  void passesAsOftenAsItShould();
  void whereThereIsNoneAllStaysAsItIs();
};

void TestSweep::noAmountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("gradient", "sweep", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestSweep::passesOverTheFrame() {
  // It begins wholly outside, is in the middle after half of the loop, and is as wide as it is said to be.
  QVERIFY(lit(at(0)).second < 0);
  const auto [first, last] = lit(at(12));
  QVERIFY2(std::abs(first + last - 319) <= 2 && std::abs(last - first - 54) < 8, qPrintable(QStringLiteral("%1 %2").arg(first).arg(last)));
  QVERIFY(lit(at(6)).first < first && lit(at(18)).first > first);
  QVERIFY(at(24).rgba == at(0).rgba);
}

void TestSweep::passesAsOftenAsItShould() {
  const auto twice = [](const auto& set) { set("passes", 2.0); };
  QVERIFY(test::compare(at(3, twice), at(15, twice)).largest < 1e-4);
  const auto back = [](const auto& set) { set("passes", -1.0); };
  QVERIFY(test::compare(at(5, back), at(19)).largest < 1e-4);
}

// In another place as in their own, fields and pictures.
void TestSweep::whereThereIsNoneAllStaysAsItIs() {
  const Scene scene = test::stepOn("flat", "sweep", [](const auto& set) {
    set("width", 60.0), set("angle", 0.0), set("amount", 1.0), set("passes", 0.0), set("position", 0.5);
  });
  const RecipeStep& step = scene.layers[0].recipe[1];
  for (const int channels : {1, 4})
    test::forEachTarget([&](const char* target) {
      const auto kernel = step.spec->point(contextOf(step, {0, 48}, PlaneView::cover(320, 180, 320, 180)), channels);
      alignas(64) float in[(256 + kSpanPadding) * 4];
      alignas(64) float out[(256 + kSpanPadding) * 4];
      for (int i = 0; i < 256 * channels; ++i) in[i] = static_cast<float>(i % 23) / 29;
      std::fill(std::begin(out), std::end(out), -1.0f);
      kernel->apply(in, out, 256, 0, 40);
      // The bar stands in the middle of the frame, from column 130 to 190.
      QVERIFY2(std::equal(in, in + 128 * channels, out), target);
      QVERIFY2(std::equal(in + 192 * channels, in + 256 * channels, out + 192 * channels), target);
      QVERIFY2(out[160 * channels] > in[160 * channels], target);
      kernel->apply(in, in, 256, 0, 40);
      QVERIFY2(std::equal(in, in + 256 * channels, out), target);
    });
}

QTEST_GUILESS_MAIN(TestSweep)
#include "tst_sweep.moc"
