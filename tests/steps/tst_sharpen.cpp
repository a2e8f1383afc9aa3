// Sharpen: nothing at nothing, an edge overshoots on both sides alike, flat stays flat, colours stay within their alpha.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

class TestSharpen : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void flatStaysFlat();
  void differsMoreByItsAmount();
  void staysWithinItsAlpha();
};

void TestSharpen::noAmountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "sharpen", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestSharpen::flatStaysFlat() {
  const Scene scene = test::stepOn("flat", "sharpen", [](const auto& set) { set("amount", 3.0), set("radius", 300.0); });
  QVERIFY(test::compare(test::renderFloat(scene, 3), test::renderFloat(test::without(scene), 3)).largest < 1e-5);
}

// As much as a field differs from its blur, so much more does it.
void TestSharpen::differsMoreByItsAmount() {
  Scene blurred =
      test::stepOn("noise", "blur", [](const auto& set) { set("across", 20.0), set("down", 20.0), set("edges", std::string("beyond")); });
  Scene sharp = test::stepOn("noise", "sharpen", [](const auto& set) { set("amount", 0.5), set("radius", 20.0); });
  const auto bare = test::renderFloat(test::without(blurred), 3);
  const auto soft = test::renderFloat(blurred, 3);
  const auto f = test::renderFloat(sharp, 3);
  for (std::size_t i = 0; i < f.rgba.size(); i += 4)
    QVERIFY(std::abs(f.rgba[i] - std::clamp(bare.rgba[i] + 0.5f * (bare.rgba[i] - soft.rgba[i]), 0.0f, 1.0f)) < 2e-3f);
}

void TestSharpen::staysWithinItsAlpha() {
  Scene scene = test::stepOn("shape", "sharpen", [](const auto& set) { set("amount", 8.0), set("radius", 10.0); });
  test::setValue(scene, 0, 0, "width", 100.0);
  test::setValue(scene, 0, 0, "height", 90.0);
  scene.background.reset();
  const auto f = test::renderFloat(scene, 0);
  const auto bare = test::renderFloat(test::without(scene), 0);
  for (std::size_t i = 0; i < f.rgba.size(); i += 4) {
    QCOMPARE(f.rgba[i + 3], bare.rgba[i + 3]);
    for (std::size_t c = 0; c < 3; ++c) QVERIFY(f.rgba[i + c] >= 0 && f.rgba[i + c] <= f.rgba[i + 3]);
  }
}

QTEST_GUILESS_MAIN(TestSharpen)
#include "tst_sharpen.moc"
