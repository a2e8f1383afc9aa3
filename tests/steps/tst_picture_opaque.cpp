// Pictures where they are opaque: what is known of it, what they keep at their sides, and their light where they are only copied.
#include <QTest>
#include <cmath>

#include "graph/puller.h"
#include "graph/recipe_pass.h"
#include "image/sampling.h"
#include "image/transfer.h"
#include "support/media.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;
using test::folder;
using test::sceneOf;
using test::tiled;
using test::travels;

namespace {

// By how many pixels show one of the scene.
PlaneView viewOf(const Scene& scene, double scale) {
  PlaneView view;
  view.width = static_cast<int>(std::ceil(scene.width * std::max(1.0, scale)));
  view.height = static_cast<int>(std::ceil(scene.height * std::max(1.0, scale)));
  view.frameWidth = scene.width;
  view.frameHeight = scene.height;
  view.scale = scale;
  return view;
}

// Its only layer.
RecipePass passOf(const Scene& scene, int frame, double scale = 1) {
  const Plan plan(scene);
  const Puller puller(plan, nullptr, nullptr);
  return RecipePass(puller, 0, 1, {frame, scene.frames, frame, 1}, viewOf(scene, scale));
}

}  // namespace

class TestPictureOpaque : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void whatIsCopiedKnowsItsLight();
  void whatHidesIsOpaque();
  void whatEndsKeepsItsColour();
};

// In all eight ways to lie: to the bit what decoding says of the pixels. What is mixed of several pixels has none.
void TestPictureOpaque::whatIsCopiedKnowsItsLight() {
  Scene scene = sceneOf(test::savedPicture(test::patchwork(40, 24), folder().filePath("patches.png")), 150, 90);
  for (const bool jumps : {false, true}) {
    tiled(scene, "mirror", "repeat");
    test::setValue(scene, 0, 0, "gap", 0.0);
    test::setValue(scene, 0, 0, "held", jumps ? 1.0 : 0.0);
    test::setValue(scene, 0, 0, "turned", jumps);
    for (int k = 0; k < (jumps ? 16 : 1); ++k) {
      const RecipePass pass = passOf(scene, k);
      const auto light = pass.inLight();
      QVERIFY2(light, qPrintable(QString::number(k)));
      Plane expected = wholePlane(pass, scene.width, scene.height);
      const Plane made = wholePlane(*light, scene.width, scene.height);
      for (int y = 0; y < scene.height; ++y) {
        decodeSpan(expected.row(y), scene.width);
        QVERIFY2(std::equal(expected.row(y), expected.row(y) + std::ptrdiff_t{4} * scene.width, made.row(y)),
                 qPrintable(QStringLiteral("frame %1, row %2").arg(k).arg(y)));
      }
    }
    QVERIFY(!passOf(scene, 0, 0.7).inLight());
    test::setValue(scene, 0, 0, "gap", 7.0);
    QVERIFY(!passOf(scene, 0).inLight());
    test::setValue(scene, 0, 0, "gap", 0.0);
    tiled(scene, "nothing", "repeat");
    QVERIFY(!passOf(scene, 0).inLight());
  }
}

// However it lies, as it is shown and in light; of most pixels that are opaque that is known.
void TestPictureOpaque::whatHidesIsOpaque() {
  const MediaRef large = test::savedPicture(test::patchwork(160, 96), folder().filePath("large.png"));
  QImage faint = test::patchwork(160, 96).convertToFormat(QImage::Format_RGBA8888);
  faint.setPixelColor(70, 40, QColor(20, 30, 40, 250));
  const MediaRef hardly = test::savedPicture(faint, folder().filePath("faint.png"));
  int copies = 0;
  int lights = 0;
  const MediaRef larger = test::savedPicture(test::patchwork(390, 234), folder().filePath("larger.png"));
  for (const MediaRef& ref : {large, larger, hardly})
    for (const char* across : {"nothing", "edge", "repeat", "mirror"})
      for (const char* down : {"nothing", "repeat"})
        for (const char* fit : {"natural", "fit"})
          for (const bool jumps : {false, true})
            for (const double scale : {0.4, 0.51, 1.0, 1.7}) {
              Scene scene = sceneOf(ref);
              tiled(scene, across, down);
              test::setValue(scene, 0, 0, "fit", std::string(fit));
              test::setValue(scene, 0, 0, "held", jumps ? 1.0 : 0.0);
              test::setValue(scene, 0, 0, "turned", jumps);
              if (!jumps) travels(scene, {1, 1});
              const RecipePass pass = passOf(scene, 3, scale);
              const auto [width, height] = std::pair(viewOf(scene, scale).width, viewOf(scene, scale).height);
              const StepContext context = contextOf(scene.layers[0].recipe[0], {3, scene.frames, 3, 1}, viewOf(scene, scale));
              const std::shared_ptr<const RowMaker> copied = pass.inLight();
              const std::shared_ptr<const RowMaker> thinned = findStep("picture")->light(context);
              copies += copied ? 1 : 0;
              lights += thinned ? 1 : 0;
              const ReferenceField plain = findStep("picture")->reference(context, {});
              const auto isWhole = [&](int x, int y) { return std::abs(plain(x, y).v[3] - 1) < 1e-5; };
              const Plane shown = wholePlane(pass, width, height);
              const Plane decoded = copied ? wholePlane(*copied, width, height) : Plane();
              const Plane few = thinned ? wholePlane(*thinned, width, height) : Plane();
              int opaque = 0;
              int hiding = 0;
              for (int y = 0; y < height; ++y)
                for (int x = 0; x < width; ++x) {
                  const auto at = static_cast<std::ptrdiff_t>(x) * 4 + 3;
                  opaque += shown.row(y)[at] == 1 ? 1 : 0;
                  hiding += pass.hides(y, x, 1) ? 1 : 0;
                  QVERIFY(!pass.hides(y, x, 1) || (shown.row(y)[at] == 1 && isWhole(x, y)));
                  QVERIFY(!copied || !copied->hides(y, x, 1) || decoded.row(y)[at] == 1);
                  // Which reads from further off.
                  QVERIFY(!thinned || !thinned->hides(y, x, 1) ||
                          (few.row(y)[at] == 1 && isWhole(x - 2, y) && isWhole(x + 2, y) && isWhole(x, y - 2) && isWhole(x, y + 2)));
                }
              const QString which =
                  QStringLiteral("%1, %2, %3, %4, %5: %6 of %7").arg(across, down, fit).arg(jumps).arg(scale).arg(hiding).arg(opaque);
              if (ref.hash != hardly.hash)
                QVERIFY2(hiding > 0.4 * opaque && opaque > 1000, qPrintable(which));
              else
                QVERIFY2(hiding == 0, qPrintable(which));
            }
  QVERIFY(lights > 20 && copies > 3);
}

// Made smaller, at its own size and larger: white is white as far as it is there.
void TestPictureOpaque::whatEndsKeepsItsColour() {
  QImage white(390, 234, QImage::Format_RGB888);
  white.fill(Qt::white);
  const MediaRef ref = test::savedPicture(white, folder().filePath("white.png"));
  for (const char* across : {"nothing", "edge", "repeat", "mirror"})
    for (const char* down : {"nothing", "edge", "repeat", "mirror"})
      for (const char* fit : {"natural", "fit", "cover", "stretch"})
        for (const double scale : {0.37, 0.5, 1.0, 1.9}) {
          Scene scene = sceneOf(ref);
          tiled(scene, across, down);
          test::setValue(scene, 0, 0, "fit", std::string(fit));
          travels(scene, {1, 1});
          const RecipePass pass = passOf(scene, 3, scale);
          const Plane shown = wholePlane(pass, viewOf(scene, scale).width, viewOf(scene, scale).height);
          float most = 0;
          for (int y = 0; y < shown.height(); ++y)
            for (int i = 0; i < shown.width() * 4; ++i) most = std::max(most, std::abs(shown.row(y)[i] - shown.row(y)[i | 3]));
          QVERIFY2(most < 1e-5f, qPrintable(QStringLiteral("%1, %2, %3, %4").arg(across, down, fit).arg(scale)));
        }
}

QTEST_GUILESS_MAIN(TestPictureOpaque)
#include "tst_picture_opaque.moc"
