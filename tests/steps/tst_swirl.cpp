// Swirl: nothing at nothing, there and back, nothing beyond its reach, full corners.
#include <QTest>
#include <cmath>

#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene swirled(double angle, int width = 320, int height = 180) {
  Scene scene = test::oneLayer("noise", width, height);
  test::setValue(scene, 0, 0, "cell", 60.0);
  test::addStep(scene, "swirl");
  test::setValue(scene, 0, 1, "angle", angle);
  test::setValue(scene, 0, 1, "reach", 80.0);
  return scene;
}

}  // namespace

class TestSwirl : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAngleIsTheSameToTheByte();
  void nothingBeyondItsReach();
  void halfARoundTurnsTheMiddle();
  void thereAndBack();
};

void TestSwirl::noAngleIsTheSameToTheByte() {
  Scene scene = swirled(0);
  const auto with = test::renderFloat(scene, 3);
  scene.layers[0].recipe.pop_back();
  QVERIFY(test::renderFloat(scene, 3).rgba == with.rgba);
}

void TestSwirl::nothingBeyondItsReach() {
  Scene scene = swirled(200);
  const auto with = test::renderFloat(scene, 3);
  scene.layers[0].recipe.pop_back();
  const auto without = test::renderFloat(scene, 3);
  int inside = 0;
  for (int y = 0; y < 180; ++y)
    for (int x = 0; x < 320; ++x) {
      const double far = std::hypot(x + 0.5 - 160, y + 0.5 - 90);
      if (far > 80.5)
        QVERIFY(std::abs(with.at(x, y, 0) - without.at(x, y, 0)) < 1e-5f);
      else
        inside += std::abs(with.at(x, y, 0) - without.at(x, y, 0)) > 0.01f;
    }
  QVERIFY(inside > 8000);
}

// With hardly any falloff the middle turns as one: by half a round about a pixel's corner, pixels come to lie on pixels.
void TestSwirl::halfARoundTurnsTheMiddle() {
  Scene scene = swirled(180);
  test::setValue(scene, 0, 1, "falloff", 0.0);
  test::setValue(scene, 0, 1, "reach", 4000.0);
  const auto with = test::renderFloat(scene, 3);
  scene.layers[0].recipe.pop_back();
  const auto without = test::renderFloat(scene, 3);
  for (int y = 85; y < 95; ++y)
    for (int x = 155; x < 165; ++x) QVERIFY(std::abs(with.at(x, y, 0) - without.at(319 - x, 179 - y, 0)) < 0.01f);
}

void TestSwirl::thereAndBack() {
  Scene scene = swirled(150);
  test::addStep(scene, "swirl");
  test::setValue(scene, 0, 2, "angle", -150.0);
  test::setValue(scene, 0, 2, "reach", 80.0);
  const auto back = test::renderFloat(scene, 3);
  scene.layers[0].recipe.resize(1);
  const auto d = test::compare(back, test::renderFloat(scene, 3));
  QVERIFY2(d.largest < 0.03 && d.mean < 0.002, qPrintable(QStringLiteral("%1, %2").arg(d.largest).arg(d.mean)));
}

QTEST_GUILESS_MAIN(TestSwirl)
#include "tst_swirl.moc"
