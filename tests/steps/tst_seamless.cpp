// Make seamless as a step: ends that meet in any layer, measured; what stays as it was; travel; a cut that stands still.
#include <QTemporaryDir>
#include <QTest>
#include <cmath>

#include "base/random.h"
#include "check/seam.h"
#include "render/layer_picture.h"
#include "support/media.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

// Twenty layers whose ends do not meet: gradients, pictures of noise that was moved and turned, warps.
Scene layerOf(int seed) {
  const auto number = [&](std::uint64_t which, double low, double high) {
    return low + (high - low) * randomUnit(static_cast<std::uint64_t>(seed), which);
  };
  Scene scene = test::oneLayer(seed % 4 == 0 ? "gradient" : seed % 4 == 1 ? "points" : "noise", 240, 160);
  if (seed % 4 == 0) test::setValue(scene, 0, 0, "angle", number(1, 10, 80));
  if (seed % 4 >= 2) {
    // Cells as large as the frame, turned: its sides have nothing to do with each other.
    test::setValue(scene, 0, 0, "cell", number(2, 30, 110));
    test::setValue(scene, 0, 0, "angle", number(3, 15, 70));
    test::setValue(scene, 0, 0, "detail", std::round(number(4, 1, 4)));
  }
  test::addStep(scene, "seamless");
  test::setValue(scene, 0, 1, "band", number(5, 0.1, 0.45));
  test::setValue(scene, 0, 1, "hide", std::string(seed % 3 == 0 ? "faded" : "cut"));
  return scene;
}

}  // namespace

class TestSeamless : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void twentyLayersJoinBetter();
  void theMiddleStays();
  void itGoesOnBesideItself();
  void travelGoesByWholeTiles();
  void theCutStandsStill();
  void aSoftCutHasRoom();
  void evenLightIsEven();
  void itIsSavedAsItIs();
};

void TestSeamless::twentyLayersJoinBetter() {
  double before = 0;
  double after = 0;
  for (int seed = 0; seed < 20; ++seed) {
    const auto report = measureSeam(layerOf(seed), 0, 1, 0);
    QVERIFY(!report);  // there is no layer without an id
    Scene scene = layerOf(seed);
    scene.layers[0].id = 1;
    const auto found = measureSeam(scene, 1, 1, 5);
    QVERIFY2(found.has_value(), found ? "" : found.error().message.c_str());
    for (const auto& [had, has] : {std::pair{found->before.across, found->after.across}, {found->before.down, found->after.down}}) {
      QVERIFY2(has <= std::max(had, 1.3), qPrintable(QStringLiteral("%1: %2 became %3").arg(seed).arg(had).arg(has)));
      QVERIFY2(has < 2.2, qPrintable(QStringLiteral("%1: %2").arg(seed).arg(has)));
      before += had;
      after += has;
    }
  }
  QVERIFY2(after < 0.2 * before, qPrintable(QStringLiteral("%1 of %2").arg(after).arg(before)));
}

void TestSeamless::theMiddleStays() {
  Scene scene = layerOf(3);
  test::setValue(scene, 0, 1, "band", 0.2);
  const auto made = test::renderFloat(scene, 0);
  scene.layers[0].recipe.pop_back();
  const auto own = test::renderFloat(scene, 0);
  QVERIFY(test::compare(test::cut(made, 49, 33, 142, 94), test::cut(own, 49, 33, 142, 94)).largest < 1e-6);
  QVERIFY(test::compare(test::cut(made, 0, 0, 30, 160), test::cut(own, 0, 0, 30, 160)).largest > 0.05);
}

void TestSeamless::itGoesOnBesideItself() {
  for (const char* meet : {"both", "across", "down"}) {
    Scene scene = layerOf(7);
    test::setValue(scene, 0, 1, "meet", std::string(meet));
    PlaneView wide = PlaneView::cover(240, 160, 240, 160);
    wide.width = 3 * 240;
    wide.height = 3 * 160;
    wide.left = -240;
    wide.top = -160;
    const auto all = test::renderFloat(scene, 0, wide);
    const auto middle = test::cut(all, 240, 160, 240, 160);
    const bool across = std::string(meet) != "down";
    const bool down = std::string(meet) != "across";
    double worst = 0;
    for (int y = 0; y < 160; ++y)
      for (int x = 0; x < 240; ++x) {
        worst = std::max(worst, std::abs(static_cast<double>(all.at(x, y + 160, 0) - middle.at(across ? x : 239 - x, y, 0))));
        worst = std::max(worst, std::abs(static_cast<double>(all.at(x + 240, y, 1) - middle.at(x, down ? y : 159 - y, 1))));
      }
    QVERIFY2(worst < 1e-6, meet);
  }
}

void TestSeamless::travelGoesByWholeTiles() {
  Scene scene = layerOf(2);
  scene.frames = 240;
  // What travels stands still itself here.
  for (Param& param : scene.layers[0].recipe[0].params) param.motion = Motion();
  test::setValue(scene, 0, 1, "travel", Point{-1, 2});
  test::param(scene, 0, 1, "travel").motion = test::turn(1);
  const auto first = test::renderFloat(scene, 0);
  const auto later = test::renderFloat(scene, 9);
  // A pixel a frame to the left, and 2 x 160 / 240 down: read back where that is whole.
  double worst = 0;
  for (int y = 0; y < 160; ++y)
    for (int x = 0; x < 240; ++x)
      worst = std::max(worst, std::abs(static_cast<double>(later.at(x, y, 0) - first.at((x + 9) % 240, (y - 12 + 160) % 160, 0))));
  QVERIFY2(worst < 1e-5, qPrintable(QString::number(worst)));
  QVERIFY(test::renderFloat(scene, 240).rgba == first.rgba);
}

// Which share of a pixel comes from half a frame further on is the same in every frame.
void TestSeamless::theCutStandsStill() {
  Scene scene = layerOf(6);
  test::setValue(scene, 0, 1, "hide", std::string("cut"));
  test::setValue(scene, 0, 1, "meet", std::string("across"));
  Scene plain = scene;
  plain.layers[0].recipe.pop_back();
  const auto shares = [&](int k) {
    const auto own = test::renderFloat(plain, k);
    const auto made = test::renderFloat(scene, k);
    std::vector<double> found;
    for (int y = 0; y < 160; ++y)
      for (int x = 0; x < 240; ++x) {
        const double other = own.at((x + 120) % 240, y, 0) - own.at(x, y, 0);
        found.push_back(std::abs(other) > 0.15 ? (made.at(x, y, 0) - own.at(x, y, 0)) / other : -1);
      }
    return found;
  };
  const auto at0 = shares(0);
  const auto at9 = shares(9);
  int compared = 0;
  int going = 0;
  for (std::size_t i = 0; i < at0.size(); ++i) {
    if (at0[i] < -0.5 || at9[i] < -0.5) continue;
    ++compared;
    going += at0[i] > 0.05 && at0[i] < 0.95;
    QVERIFY2(std::abs(at0[i] - at9[i]) < 1e-3, qPrintable(QStringLiteral("%1 and %2").arg(at0[i]).arg(at9[i])));
  }
  QVERIFY(compared > 2000 && going > 50);
}

// However the cut runs it goes over as softly as it was told to, also where every place in the band is a bad one.
void TestSeamless::aSoftCutHasRoom() {
  for (int seed = 0; seed < 12; ++seed) {
    Scene scene = test::oneLayer(seed % 2 == 0 ? "points" : "gradient", 240, 160);
    if (seed % 2 == 1) test::setValue(scene, 0, 0, "angle", 7.0 * seed);
    const auto own = test::renderFloat(scene, 20 * seed);
    test::addStep(scene, "seamless");
    test::setValue(scene, 0, 1, "meet", std::string("across"));
    const double soft = 0.2 + 0.1 * (seed % 5);
    test::setValue(scene, 0, 1, "soft", soft);
    const auto made = test::renderFloat(scene, 20 * seed);
    const auto steepest = [&](const auto& frame) {
      double found = 0;
      for (int y = 0; y < 160; ++y)
        for (int x = 0; x < 240; ++x)
          for (int c = 0; c < 3; ++c)
            found = std::max(found, std::abs(double{frame.at((x + 1) % 240, y, c)} - frame.at(x, y, c)) * (x < 239 || &frame == &made));
      return found;
    };
    // Of a whole way from nothing to full, gone over in the steepest way that such a curve has.
    const double allowed = 2 * steepest(own) + 1.5 / (soft * 0.35 * 240);
    QVERIFY2(steepest(made) <= allowed, qPrintable(QStringLiteral("%1: %2 of %3").arg(seed).arg(steepest(made)).arg(allowed)));
  }
}

void TestSeamless::evenLightIsEven() {
  Scene scene = test::oneLayer("gradient", 240, 160);
  test::setValue(scene, 0, 0, "angle", 90.0);
  test::addStep(scene, "seamless");
  test::setValue(scene, 0, 1, "band", 0.1);
  const auto thirds = [](const test::FloatFrame& f) {
    return std::abs(test::meanOf(test::cut(f, 30, 0, 60, 160), 1) - test::meanOf(test::cut(f, 150, 0, 60, 160), 1));
  };
  const double uneven = thirds(test::renderFloat(scene, 0));
  test::setValue(scene, 0, 1, "even", 1.0);
  const double even = thirds(test::renderFloat(scene, 0));
  QVERIFY2(uneven > 0.1 && even < 0.5 * uneven, qPrintable(QStringLiteral("%1, evened %2").arg(uneven).arg(even)));
}

void TestSeamless::itIsSavedAsItIs() {
  Scene scene = layerOf(5);
  scene.layers[0].id = 4;
  // Where it lies and how it is mixed is the layer's, not the picture's.
  scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Turn)].base = 30.0;
  scene.layers[0].opacity.base = 0.4;
  const auto saved = seamlessPicture(scene, 4, 1, 3);
  QVERIFY(saved.has_value());
  QCOMPARE(saved->width, 240);
  Scene upright = layerOf(5);
  const auto shown = test::renderFloat(upright, 3);
  double worst = 0;
  for (std::size_t i = 0; i < shown.rgba.size(); ++i) worst = std::max(worst, std::abs(shown.rgba[i] - saved->rgba[i] / 65535.0));
  QVERIFY2(worst < 1e-4, qPrintable(QString::number(worst)));
  // A picture's own ends: the tile in its own size, without its border.
  QTemporaryDir dir;
  QImage ramp(90, 60, QImage::Format_RGB32);
  for (int y = 0; y < 60; ++y)
    for (int x = 0; x < 90; ++x) ramp.setPixel(x, y, qRgb(40 + x * 2, 60 + y, 90));
  Scene picture = test::oneLayer("picture", 240, 160);
  picture.layers[0].id = 1;
  test::setValue(picture, 0, 0, "file", test::savedPicture(ramp, dir.filePath("p.png")));
  QVERIFY(!seamlessPicture(picture, 1, 0, 0));
  test::setValue(picture, 0, 0, "ends", std::string("faded"));
  test::setValue(picture, 0, 0, "band", 0.2);
  const auto tile = seamlessPicture(picture, 1, 0, 0);
  QVERIFY(tile.has_value());
  QCOMPARE(tile->width, 72);
  QCOMPARE(tile->height, 60);
  const auto report = measureSeam(picture, 1, 0, 0);
  QVERIFY(report && report->after.across < report->before.across);
}

QTEST_GUILESS_MAIN(TestSeamless)
#include "tst_seamless.moc"
