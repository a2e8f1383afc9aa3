// Warp by a layer: nothing at nothing, how far lightness and colours push, downhill, another layer or none, no layer that looks at itself.
#include <QTest>
#include <cmath>

#include "edit/layers.h"
#include "scene/plan.h"
#include "support/lens.h"

using namespace oa;

namespace {

// A layer of one tone below, hidden, and one above that it pushes.
Scene pushedBy(const Colour& colour, const test::SetUp& more, bool down) {
  Scene scene = test::stepOn("gradient", "push", more);
  test::setValue(scene, 0, 0, "from", down ? Point{0.5, 0} : Point{0, 0.5});
  test::setValue(scene, 0, 0, "to", down ? Point{0.5, 1} : Point{1, 0.5});
  test::setValue(scene, 0, 0, "mixing", std::string("display"));
  test::setStops(scene, 0, 0, Stops{{0, {0, 0, 1, 1}}, {1, {1, 0, 1, 1}}});
  Scene other = test::oneLayer("flat", 320, 180);
  test::setValue(other, 0, 0, "colour", colour);
  Layer flat = other.layers[0];
  flat.id = 1;
  flat.visible = false;
  scene.layers[0].id = 2;
  scene.layers.insert(scene.layers.begin(), flat);
  test::setValue(scene, 1, 1, "layer", 1.0);
  return scene;
}
Point pushed(const Colour& colour, const test::SetUp& more) {
  const auto x = test::renderFloat(pushedBy(colour, more, false), 0);
  const auto y = test::renderFloat(pushedBy(colour, more, true), 0);
  return {static_cast<double>(x.at(160, 90, 0)) * 320 - 160.5, static_cast<double>(y.at(160, 90, 0)) * 180 - 90.5};
}

}  // namespace

class TestPush : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void lightnessPushesOneWay();
  void coloursPushAcrossAndDown();
  void slopesPushDownhill();
  void theLayerMayBeMissingButNotShowItself();
  void movesWithWhatPushes();
};

void TestPush::noAmountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "push", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestPush::lightnessPushesOneWay() {
  for (const double angle : {0.0, 90.0, 200.0})
    for (const float tone : {0.0f, 0.5f, 0.8f, 1.0f}) {
      const Point p = pushed({tone, tone, tone, 1},
                             [&](const auto& set) { set("by", std::string("lightness")), set("amount", 30.0), set("angle", angle); });
      const double far = 30 * (2 * static_cast<double>(tone) - 1);
      QVERIFY2(std::hypot(p.x - far * std::cos(angle * kDegree), p.y - far * std::sin(angle * kDegree)) < 0.3,
               qPrintable(QStringLiteral("%1, %2").arg(p.x).arg(p.y)));
    }
}

void TestPush::coloursPushAcrossAndDown() {
  const Point p = pushed({1, 0.25f, 0, 1}, [](const auto& set) { set("by", std::string("colours")), set("amount", 20.0); });
  QVERIFY2(std::abs(p.x - 20) < 0.3 && std::abs(p.y + 10) < 0.3, qPrintable(QStringLiteral("%1, %2").arg(p.x).arg(p.y)));
}

// A dot that is light in its middle draws what lies round it towards itself, or pushes it off.
void TestPush::slopesPushDownhill() {
  for (const double amount : {20.0, -20.0}) {
    Scene scene = pushedBy(
        {1, 1, 1, 1}, [&](const auto& set) { set("amount", amount), set("softness", 20.0); }, false);
    Scene other = test::oneLayer("shape", 320, 180);
    test::setValue(other, 0, 0, "width", 60.0);
    test::setValue(other, 0, 0, "height", 60.0);
    scene.layers[0].recipe = other.layers[0].recipe;
    const auto f = test::renderFloat(scene, 0);
    const double left = static_cast<double>(f.at(131, 90, 0)) * 320 - 131.5;
    const double right = static_cast<double>(f.at(188, 90, 0)) * 320 - 188.5;
    QVERIFY2(left * amount < -1 && right * amount > 1, qPrintable(QStringLiteral("%1, %2").arg(left).arg(right)));
    QVERIFY(std::abs(left + right) < 0.5);
    QVERIFY(std::abs(static_cast<double>(f.at(20, 90, 0)) * 320 - 20.5) < 0.3);
  }
}

void TestPush::theLayerMayBeMissingButNotShowItself() {
  Scene scene = pushedBy({1, 1, 1, 1}, {}, false);
  QVERIFY(Plan(scene).status().has_value() && Plan(scene).missing().empty());
  test::setValue(scene, 1, 1, "layer", 2.0);
  const Plan circle(scene);
  QVERIFY(!circle.status().has_value() &&
          QString::fromStdString(circle.status().error().sentence()).contains(QStringLiteral("cannot show itself")));
  test::setValue(scene, 1, 1, "layer", 77.0);
  QCOMPARE(Plan(scene).missing().size(), std::size_t{1});
  QVERIFY(test::allFinite(test::renderFloat(scene, 0)));
}

void TestPush::movesWithWhatPushes() {
  Scene scene = pushedBy(
      {1, 1, 1, 1}, [](const auto& set) { set("by", std::string("lightness")); }, false);
  for (Param& p : scene.layers[1].recipe[0].params) p.motion = Motion();
  QCOMPARE(commonLaps(scene), 0);
  test::param(scene, 0, 0, "colour").motion = test::swing(Colour{0, 0, 0, 1}, 3);
  QCOMPARE(commonLaps(scene), 3);
  QVERIFY(test::compare(test::renderFloat(scene, 4), test::renderFloat(scene, 0)).mean > 0.01);
  QVERIFY(test::renderFloat(scene, 8).rgba == test::renderFloat(scene, 0).rgba);
}

QTEST_GUILESS_MAIN(TestPush)
#include "tst_push.moc"
