// The tutorial step's test: one colour, exactly, everywhere.
#include <QTest>
#include <cmath>

#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

class TestFlat : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void oneColourEverywhere();
  void swingsThroughOkLab();
};

void TestFlat::oneColourEverywhere() {
  Scene scene = test::oneLayer("flat", 70, 33);
  test::setValue(scene, 0, 0, "colour", Colour{0.25f, 0.5f, 0.75f, 1});
  const auto f = test::renderFloat(scene, 0);
  for (std::size_t i = 0; i < f.rgba.size(); i += 4)
    QVERIFY(f.rgba[i] == 0.25f && f.rgba[i + 1] == 0.5f && f.rgba[i + 2] == 0.75f && f.rgba[i + 3] == 1.0f);
}

void TestFlat::swingsThroughOkLab() {
  Scene scene = test::oneLayer("flat", 16, 16, 8);
  test::setValue(scene, 0, 0, "colour", Colour{0, 0, 1, 1});
  test::param(scene, 0, 0, "colour").motion = test::swing(Colour{1, 1, 0, 1});
  const auto middle = test::renderFloat(scene, 2);  // a quarter lap of a sine is half way
  const Colour expected = mixColours({0, 0, 1, 1}, {1, 1, 0, 1}, 0.5, ColourMixing::OkLab);
  QVERIFY(std::abs(middle.at(1, 1, 0) - expected.r) < 1e-5 && std::abs(middle.at(1, 1, 2) - expected.b) < 1e-5);
  const auto far = test::renderFloat(scene, 4);
  QVERIFY(far.at(0, 0, 0) > 0.999f && far.at(0, 0, 2) < 0.001f);
}

QTEST_GUILESS_MAIN(TestFlat)
#include "tst_flat.moc"
