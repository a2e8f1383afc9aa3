// Shadow: nothing at nothing, where it falls, how soft and how wide it is, and into the layer.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

namespace {

Scene shaded(const test::SetUp& setUp) {
  Scene scene = test::stepOn("shape", "shadow", [&](const auto& set) {
    set("offset", Point{20, 10}), set("softness", 0.0), set("strength", 1.0), set("colour", Colour{0, 0, 0, 1});
    if (setUp) setUp(set);
  });
  test::setValue(scene, 0, 0, "kind", std::string("rectangle"));
  test::setValue(scene, 0, 0, "width", 100.0);
  test::setValue(scene, 0, 0, "height", 60.0);
  test::setValue(scene, 0, 0, "corner", 0.0);
  scene.background.reset();
  return scene;
}

}  // namespace

class TestShadow : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noStrengthIsTheSameToTheByte();
  void fallsWhereItIsSaidTo();
  void softEdgesKeepItsSum();
  void spreadMakesItWider();
  void insideItStaysWithin();
};

void TestShadow::noStrengthIsTheSameToTheByte() {
  const Scene scene = shaded([](const auto& set) { set("strength", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

// The shape covers 110 to 210 and 60 to 120; its shadow 130 to 230 and 70 to 130.
void TestShadow::fallsWhereItIsSaidTo() {
  const auto f = test::renderFloat(shaded({}), 0);
  QVERIFY(f.at(220, 100, 3) > 0.99f && f.at(220, 100, 0) < 0.01f);
  QVERIFY(f.at(160, 126, 3) > 0.99f && f.at(120, 126, 3) < 0.01f && f.at(232, 100, 3) < 0.01f);
  const auto bare = test::renderFloat(test::without(shaded({})), 0);
  for (int y = 62; y < 118; ++y)
    for (int x = 112; x < 208; ++x)
      for (int c = 0; c < 4; ++c) QCOMPARE(f.at(x, y, c), bare.at(x, y, c));
}

void TestShadow::softEdgesKeepItsSum() {
  double sums[2];
  for (const int k : {0, 1}) {
    const auto f = test::renderFloat(shaded([&](const auto& set) {
                                       set("softness", k * 24.0), set("offset", Point{0, 0}), set("spread", 0.0);
                                     }),
                                     0);
    sums[k] = 0;
    const auto bare = test::renderFloat(test::without(shaded({})), 0);
    for (int y = 0; y < 180; ++y)
      for (int x = 0; x < 320; ++x) {
        // What shows of it is what the layer leaves open.
        const double open = 1 - static_cast<double>(bare.at(x, y, 3));
        if (open > 0.999) sums[k] += static_cast<double>(f.at(x, y, 3));
      }
  }
  // As much comes out at an edge as goes in: along 320 pixels of edge sigma / sqrt(2 pi) each.
  QVERIFY2(sums[0] < 1 && std::abs(sums[1] - 320 * 12 / std::sqrt(2 * std::numbers::pi)) < 140, qPrintable(QString::number(sums[1])));
}

void TestShadow::spreadMakesItWider() {
  const auto wide = test::renderFloat(shaded([](const auto& set) { set("offset", Point{0, 0}), set("spread", 12.0); }), 0);
  QVERIFY(wide.at(219, 90, 3) > 0.9f && wide.at(225, 90, 3) < 0.1f && wide.at(160, 130, 3) > 0.9f);
  const auto less = test::renderFloat(shaded([](const auto& set) { set("spread", -12.0); }), 0);
  QVERIFY(less.at(214, 100, 3) > 0.9f && less.at(222, 100, 3) < 0.1f);
}

void TestShadow::insideItStaysWithin() {
  const auto f = test::renderFloat(shaded([](const auto& set) { set("inside", true), set("softness", 4.0); }), 0);
  const auto bare = test::renderFloat(test::without(shaded({})), 0);
  for (std::size_t i = 3; i < f.rgba.size(); i += 4) QCOMPARE(f.rgba[i], bare.rgba[i]);
  QVERIFY(f.at(116, 90, 1) < 0.05f && std::abs(f.at(190, 100, 1) - bare.at(190, 100, 1)) < 0.02f);
}

QTEST_GUILESS_MAIN(TestShadow)
#include "tst_shadow.moc"
