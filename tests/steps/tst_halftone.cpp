// Halftone: nothing at nothing, as much ink as the tone asks for, one ink or several, the same at half the size.
#include <QTest>
#include <algorithm>
#include <cmath>
#include <iterator>
#include <limits>
#include <utility>

#include "image/rows.h"
#include "scene/scene.h"
#include "support/lens.h"

using namespace oa;

namespace {

test::FloatFrame printed(float tone, const test::SetUp& more = {}) {
  Scene scene = test::stepOn("flat", "halftone", [&](const auto& set) {
    set("size", 24.0), set("soft", 0.0);
    if (more) more(set);
  });
  test::setValue(scene, 0, 0, "colour", Colour{tone, tone, tone, 1});
  return test::renderFloat(scene, 0);
}
void oneInk(const std::function<void(const std::string&, const Value&)>& set) {
  set("inks", std::string("one")), set("ink", Colour{0, 0, 0, 1}), set("paper", Colour{1, 1, 1, 1});
}

}  // namespace

class TestHalftone : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void asMuchInkAsTheToneAsksFor();
  void onlyInkAndPaper();
  void screensAreTurnedAgainstEachOther();
  void aRowIsTheSameWhereverItIsCut();
};

void TestHalftone::noAmountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("gradient", "halftone", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::compare(test::renderFloat(scene, 3), test::renderFloat(test::without(scene), 3)).largest == 0);
}

void TestHalftone::asMuchInkAsTheToneAsksFor() {
  for (const char* shape : {"dots", "lines"}) {
    double before = -1;
    for (const float tone : {0.0f, 0.2f, 0.4f, 0.5f, 0.6f, 0.8f, 1.0f}) {
      const double bare = test::meanOf(printed(tone, [&](const auto& set) { oneInk(set), set("shape", std::string(shape)); }), 0);
      QVERIFY2(bare > before && std::abs(bare - static_cast<double>(tone)) < 0.17,
               qPrintable(QStringLiteral("%1: %2").arg(static_cast<double>(tone)).arg(bare)));
      if (tone == 0.5f) QVERIFY(std::abs(bare - 0.5) < 0.02);
      before = bare;
    }
    QVERIFY(before > 0.98);
  }
}

void TestHalftone::onlyInkAndPaper() {
  const auto f = printed(0.4f, [](const auto& set) {
    set("inks", std::string("one")), set("ink", Colour{0.1f, 0.2f, 0.6f, 1}), set("paper", Colour{0.9f, 0.8f, 0.7f, 1}), set("size", 30.0);
  });
  int between = 0;
  for (int y = 0; y < 180; ++y)
    for (int x = 0; x < 320; ++x) {
      const float share = (f.at(x, y, 0) - 0.1f) / 0.8f;
      QVERIFY(share > -1e-3f && share < 1.001f && std::abs(f.at(x, y, 2) - (0.6f + 0.1f * share)) < 1e-3f);
      between += share > 0.02f && share < 0.98f;
    }
  QVERIFY2(between < 320 * 180 / 3, qPrintable(QString::number(between)));
}

void TestHalftone::screensAreTurnedAgainstEachOther() {
  const auto f = printed(0.5f);
  double same = 0;
  for (std::size_t i = 0; i < f.rgba.size(); i += 4) same += std::abs(f.rgba[i] - f.rgba[i + 1]) < 0.1f;
  QVERIFY(same < 0.75 * 320 * 180 && test::meanOf(f, 0) > 0.45 && test::meanOf(f, 1) > 0.45);
}

// To the byte, for opaque pixels and others, in one ink and in several, and whatever lies behind the last pixel.
void TestHalftone::aRowIsTheSameWhereverItIsCut() {
  const Scene scene = test::stepOn("flat", "halftone", [](const auto& set) { set("size", 17.0), set("angle", 33.0); });
  RecipeStep step = scene.layers[0].recipe[1];
  for (const char* inks : {"each", "one"})
    for (const auto& [alpha, amount] : {std::pair{1.0f, 1.0}, {0.4f, 1.0}, {1.0f, 0.6}, {0.4f, 0.3}})
      test::forEachTarget([&, alpha = alpha, amount = amount](const char* target) {
        step.params[static_cast<std::size_t>(findParam(step.spec->params, "amount"))].base = amount;
        step.params[static_cast<std::size_t>(findParam(step.spec->params, "inks"))].base = std::string(inks);
        const auto kernel = step.spec->point(contextOf(step, {0, 48}, PlaneView::cover(320, 180, 320, 180)), 4);
        alignas(64) float in[(256 + kSpanPadding) * 4];
        alignas(64) float whole[(256 + kSpanPadding) * 4];
        // Many rows: what is rounded twice differs from what is rounded once in one pixel of many.
        for (int y = 0; y < 180; ++y) {
          for (int i = 0; i < 256 * 4; ++i) in[i] = i % 4 == 3 ? alpha : alpha * static_cast<float>((i * 7 + y * 11) % 331) / 331;
          kernel->apply(in, whole, 256, 0, y);
          for (const int begin : {1, 37, 200}) {
            const int count = std::min(53, 256 - begin);
            alignas(64) float part[(64 + kSpanPadding) * 4];
            alignas(64) float own[(64 + kSpanPadding) * 4];
            std::fill(std::begin(own), std::end(own), std::numeric_limits<float>::quiet_NaN());
            std::copy_n(in + begin * 4, count * 4, own);
            kernel->apply(own, part, count, begin, y);
            QVERIFY2(std::equal(part, part + count * 4, whole + begin * 4), target);
          }
        }
      });
}

QTEST_GUILESS_MAIN(TestHalftone)
#include "tst_halftone.moc"
