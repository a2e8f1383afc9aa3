// The joint check: what closes is called clean, what jumps is named.
#include <QTest>
#include <algorithm>

#include "check/joint.h"
#include "support/scenes.h"

using namespace oa;

class TestJoint : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void demoScenesAreClean();
  void stillScenesAreAtRest();
  void aPlantedJumpIsFound_data();
  void aPlantedJumpIsFound();
  void evenStepsAreClean();
  void purposefulJumpsElsewhereAreAllowed();
  void theCulpritIsNamed();
  void cancelling();
};

void TestJoint::demoScenesAreClean() {
  for (const auto& path : test::demoScenePaths()) {
    const Scene scene = test::demoScene(path.substr(path.rfind('/') + 1));
    const JointCheck check = checkJoint(scene, true);
    QVERIFY2(check.scene.clean && check.scene.steady, (path + ": " + check.sentence()).c_str());
    QVERIFY2(check.scene.largest > 0, "nothing moves");
    QCOMPARE(static_cast<std::ptrdiff_t>(check.layers.size()),
             std::count_if(scene.layers.begin(), scene.layers.end(), [](const Layer& layer) { return layer.visible; }));
    for (const LayerJoint& layer : check.layers) QVERIFY2(layer.report.clean, layer.layer.c_str());
  }
}

void TestJoint::stillScenesAreAtRest() {
  const JointCheck check = checkJoint(test::oneLayer("gradient"), true);
  QVERIFY(check.scene.clean);
  QCOMPARE(check.scene.joint, 0.0);
  QVERIFY(check.sentence().find("Nothing moves") != std::string::npos);
}

void TestJoint::aPlantedJumpIsFound_data() {
  QTest::addColumn<double>("factor");
  QTest::addColumn<bool>("clean");
  QTest::newRow("as every other") << 1.0 << true;
  QTest::newRow("within the limit") << 1.49 << true;
  QTest::newRow("just above") << 1.51 << false;
  QTest::newRow("a jump") << 20.0 << false;
}

void TestJoint::aPlantedJumpIsFound() {
  QFETCH(double, factor);
  QFETCH(bool, clean);
  std::vector<double> steps(60, 2.0);
  steps.back() = 2.0 * factor;
  const JointReport report = judgeJoint(steps);
  QCOMPARE(report.clean, clean);
  QVERIFY(std::abs(report.ratio() - factor) < 1e-9);
}

void TestJoint::evenStepsAreClean() {
  std::vector<double> steps;
  for (int i = 0; i < 90; ++i) steps.push_back(1 + 0.9 * std::sin(i * 0.0698));
  QVERIFY(judgeJoint(steps).clean);
  QVERIFY(judgeJoint({}).clean);
  QVERIFY(judgeJoint({5.0}).joint == 5.0);
}

void TestJoint::purposefulJumpsElsewhereAreAllowed() {
  std::vector<double> steps(60, 0.5);
  steps[20] = 30;
  steps.back() = 29;
  QVERIFY(judgeJoint(steps).clean);
  steps.back() = 31;
  QVERIFY(!judgeJoint(steps).clean);
}

void TestJoint::theCulpritIsNamed() {
  // A swing that is held up across the joint and drops at once: nothing else in the loop steps like it.
  Scene scene = test::oneLayer("noise", 160, 90, 40);
  scene.layers.push_back(newLayer(*findStep("flat"), "Signal lamp"));
  scene.layers[1].opacity.motion = test::swing(0.0);
  scene.layers[1].opacity.motion.shape = SwingShape::Hold;
  scene.layers[1].opacity.motion.shares = {0.6, 0.4, 0};
  const JointCheck check = checkJoint(scene, true);
  QVERIFY2(!check.scene.clean, check.sentence().c_str());
  QVERIFY2(check.sentence().find("Signal lamp") != std::string::npos, check.sentence().c_str());
  QVERIFY(check.sentence().find("noise") == std::string::npos);
}

void TestJoint::cancelling() {
  const std::atomic<bool> cancel = true;
  QCOMPARE(checkJoint(test::demoScene("dusk.overagain"), false, &cancel).scene.median, 0.0);
}

QTEST_GUILESS_MAIN(TestJoint)
#include "tst_joint.moc"
