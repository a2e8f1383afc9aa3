// Levels by known values.
#include <QTest>
#include <cmath>

#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

// One flat grey through levels.
float toned(float grey, double contrast, double brightness, bool invert) {
  Scene scene = test::oneLayer("flat", 16, 16);
  test::setValue(scene, 0, 0, "colour", Colour{grey, grey, grey, 1});
  test::addStep(scene, "levels");
  test::setValue(scene, 0, 1, "contrast", contrast);
  test::setValue(scene, 0, 1, "brightness", brightness);
  test::setValue(scene, 0, 1, "invert", invert);
  return test::renderFloat(scene, 0).at(5, 5, 1);
}

}  // namespace

class TestLevels : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void knownValues_data();
  void knownValues();
  void neutralIsNothing();
  void unclampedTonesSurvive();
  void alphaIsLeftAlone();
};

void TestLevels::knownValues_data() {
  QTest::addColumn<float>("grey");
  QTest::addColumn<double>("contrast");
  QTest::addColumn<double>("brightness");
  QTest::addColumn<bool>("invert");
  QTest::addColumn<float>("expected");
  QTest::newRow("neutral") << 0.3f << 1.0 << 0.0 << false << 0.3f;
  QTest::newRow("brighter") << 0.3f << 1.0 << 0.25 << false << 0.55f;
  QTest::newRow("contrast about the middle") << 0.6f << 2.0 << 0.0 << false << 0.7f;
  QTest::newRow("the middle stays") << 0.5f << 7.0 << 0.0 << false << 0.5f;
  QTest::newRow("no contrast") << 0.9f << 0.0 << 0.0 << false << 0.5f;
  QTest::newRow("inverted") << 0.3f << 1.0 << 0.0 << true << 0.7f;
  QTest::newRow("brightness before inverting") << 0.3f << 1.0 << 0.1 << true << 0.6f;
  QTest::newRow("clamped above") << 0.9f << 5.0 << 0.0 << false << 1.0f;
  QTest::newRow("clamped below") << 0.1f << 5.0 << 0.0 << false << 0.0f;
}

void TestLevels::knownValues() {
  QFETCH(float, grey);
  QFETCH(double, contrast);
  QFETCH(double, brightness);
  QFETCH(bool, invert);
  QFETCH(float, expected);
  QVERIFY(std::abs(toned(grey, contrast, brightness, invert) - expected) < 1e-5f);
}

void TestLevels::neutralIsNothing() {
  Scene scene = test::demoScene("sea-fog.overagain");
  const auto before = test::renderFloat(scene, 3, 160, 90);
  test::addStep(scene, "levels");
  QVERIFY(test::compare(test::renderFloat(scene, 3, 160, 90), before).largest < 1e-5);
}

void TestLevels::unclampedTonesSurvive() {
  // Darkened below black and lightened again: gone if clamped, whole if not.
  for (const bool clamp : {true, false}) {
    Scene scene = test::oneLayer("noise", 64, 64);
    const auto original = test::renderFloat(scene, 0);
    test::addStep(scene, "levels");
    test::setValue(scene, 0, 1, "brightness", -0.8);
    test::setValue(scene, 0, 1, "clamp", clamp);
    test::addStep(scene, "levels");
    test::setValue(scene, 0, 2, "brightness", 0.8);
    const double lost = test::compare(test::renderFloat(scene, 0), original).largest;
    QVERIFY2(clamp ? lost > 0.1 : lost < 1e-4, qPrintable(QString::number(lost)));
  }
}

void TestLevels::alphaIsLeftAlone() {
  Scene scene = test::oneLayer("flat", 16, 16);
  scene.background.reset();
  test::setValue(scene, 0, 0, "colour", Colour{0.4f, 0.4f, 0.4f, 0.5f});
  test::addStep(scene, "levels");
  test::setValue(scene, 0, 1, "invert", true);
  const auto f = test::renderFloat(scene, 0);
  QVERIFY(std::abs(f.at(0, 0, 3) - 0.5f) < 1e-6f);
  QVERIFY(std::abs(f.at(0, 0, 0) - 0.3f) < 1e-5f);  // 0.6 straight, at half alpha
}

QTEST_GUILESS_MAIN(TestLevels)
#include "tst_levels.moc"
