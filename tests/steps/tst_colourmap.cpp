// Tones to colours.
#include <QTest>
#include <cmath>

#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

class TestColourMap : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void tonesFindTheirColours();
  void strengthMixesWithTheOriginal();
  void greyToGreyIsNothing();
  void alphaOfStopsShows();
};

namespace {

Scene mapped(float grey, const Stops& stops, double strength) {
  Scene scene = test::oneLayer("flat", 16, 16);
  scene.background.reset();
  test::setValue(scene, 0, 0, "colour", Colour{grey, grey, grey, 1});
  test::addStep(scene, "colourmap");
  test::setStops(scene, 0, 1, stops);
  test::setValue(scene, 0, 1, "strength", strength);
  return scene;
}

const Stops kThree{{0, {0.1f, 0.2f, 0.4f, 1}}, {0.5, {0.9f, 0.4f, 0.2f, 1}}, {1, {1, 0.95f, 0.8f, 1}}};

}  // namespace

void TestColourMap::tonesFindTheirColours() {
  for (const float tone : {0.0f, 0.25f, 0.5f, 0.8f, 1.0f}) {
    const auto f = test::renderFloat(mapped(tone, kThree, 1), 0);
    const Colour expected = colourAt(kThree, tone, ColourMixing::OkLab);
    QVERIFY(std::abs(f.at(3, 3, 0) - expected.r) < 4e-3f && std::abs(f.at(3, 3, 1) - expected.g) < 4e-3f &&
            std::abs(f.at(3, 3, 2) - expected.b) < 4e-3f);
  }
}

void TestColourMap::strengthMixesWithTheOriginal() {
  const auto none = test::renderFloat(mapped(0.3f, kThree, 0), 0);
  QVERIFY(std::abs(none.at(0, 0, 0) - 0.3f) < 1e-5f);
  const auto full = test::renderFloat(mapped(0.3f, kThree, 1), 0);
  const auto half = test::renderFloat(mapped(0.3f, kThree, 0.5), 0);
  for (int c = 0; c < 3; ++c) QVERIFY(std::abs(half.at(0, 0, c) - (full.at(0, 0, c) + 0.3f) / 2) < 1e-5f);
}

void TestColourMap::greyToGreyIsNothing() {
  Scene scene = test::oneLayer("noise", 96, 54);
  const auto before = test::renderFloat(scene, 0);
  test::addStep(scene, "colourmap");
  test::setStops(scene, 0, 1, Stops{{0, {0, 0, 0, 1}}, {1, {1, 1, 1, 1}}});
  test::setValue(scene, 0, 1, "mixing", std::string("display"));
  QVERIFY(test::compare(test::renderFloat(scene, 0), before).largest < 1.0 / 1023);
}

void TestColourMap::alphaOfStopsShows() {
  const auto f = test::renderFloat(mapped(0.5f, {{0, {1, 1, 1, 0}}, {1, {1, 1, 1, 1}}}, 1), 0);
  QVERIFY(std::abs(f.at(0, 0, 3) - 0.5f) < 2e-3f);
  QVERIFY(std::abs(f.at(0, 0, 0) - 0.5f) < 2e-3f);  // premultiplied white
}

QTEST_GUILESS_MAIN(TestColourMap)
#include "tst_colourmap.moc"
