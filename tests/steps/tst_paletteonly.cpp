// Palette only: nothing at nothing, only its colours, the nearest one, and as much of each as lies between them.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

namespace {

Scene reduced(double dither, const std::string& source = "gradient") {
  Scene scene = test::stepOn(source, "paletteonly", [&](const auto& set) { set("dither", dither), set("grain", 1.0); });
  test::setCount(scene, 0, 1, 3);
  test::setValue(scene, 0, 1, "colour1", Colour{0, 0, 0, 1});
  test::setValue(scene, 0, 1, "colour2", Colour{1, 1, 1, 1});
  test::setValue(scene, 0, 1, "colour3", Colour{0.8f, 0.1f, 0.1f, 1});
  return scene;
}

}  // namespace

class TestPaletteOnly : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void theNearestColour();
  void asMuchOfEachAsLiesBetween();
};

void TestPaletteOnly::noAmountIsTheSameToTheByte() {
  Scene scene = reduced(0.5);
  test::setValue(scene, 0, 1, "amount", 0.0);
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestPaletteOnly::theNearestColour() {
  const Colour from[] = {{0.1f, 0.1f, 0.2f, 1}, {0.9f, 0.95f, 0.8f, 1}, {0.7f, 0.2f, 0.2f, 1}, {0.45f, 0.45f, 0.45f, 1}};
  const Colour to[] = {{0, 0, 0, 1}, {1, 1, 1, 1}, {0.8f, 0.1f, 0.1f, 1}, {0, 0, 0, 1}};
  for (std::size_t k = 0; k < 3; ++k) {
    Scene scene = reduced(0, "flat");
    test::setValue(scene, 0, 0, "colour", from[k]);
    const auto f = test::renderFloat(scene, 0);
    QVERIFY(std::abs(f.at(7, 9, 0) - to[k].r) < 1e-3f && std::abs(f.at(7, 9, 1) - to[k].g) < 1e-3f &&
            std::abs(f.at(7, 9, 2) - to[k].b) < 1e-3f);
  }
}

// Greys between two greys that lie as far apart as the weave reaches.
void TestPaletteOnly::asMuchOfEachAsLiesBetween() {
  for (const float tone : {0.38f, 0.44f, 0.5f, 0.56f}) {
    Scene scene = reduced(1, "flat");
    test::setCount(scene, 0, 1, 2);
    test::setValue(scene, 0, 1, "colour1", Colour{0.32f, 0.32f, 0.32f, 1});
    test::setValue(scene, 0, 1, "colour2", Colour{0.68f, 0.68f, 0.68f, 1});
    test::setValue(scene, 0, 0, "colour", Colour{tone, tone, tone, 1});
    const auto f = test::renderFloat(scene, 0);
    QVERIFY2(std::abs(test::meanOf(f, 0) - static_cast<double>(tone)) < 0.02, qPrintable(QString::number(test::meanOf(f, 0))));
    QVERIFY(test::deviationOf(f, 0) > 0.05);
  }
}

QTEST_GUILESS_MAIN(TestPaletteOnly)
#include "tst_paletteonly.moc"
