// The light that pictures hand out in fewer pixels, and blurs that ask for it.
#include <QTest>
#include <cmath>

#include "image/colour.h"
#include "image/sampling.h"
#include "scene/place.h"
#include "support/media.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;
using test::folder;
using test::sceneOf;
using test::tiled;

namespace {

// Light and dark side by side, and places where there is nothing.
const MediaRef& lamp() {
  static const MediaRef ref = [] {
    QImage image(72, 60, QImage::Format_ARGB32);
    for (int y = 0; y < image.height(); ++y)
      for (int x = 0; x < image.width(); ++x) {
        const double r = std::hypot(x - 35.5, y - 29.5);
        const QColor inside = x > 36 ? QColor(3, 8, 20) : QColor(230, 90, 30);
        image.setPixelColor(x, y, r > 29 ? QColor(0, 0, 0, 0) : r > 20 ? QColor(255, 236, 190) : inside);
      }
    return test::savedPicture(image, folder().filePath("lamp.png"));
  }();
  return ref;
}

}  // namespace

class TestPictureLight : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void itsLightIsAllThere();
  void lightIsHandedOutWhereItServes();
  void blurredItIsItsLight_data();
  void blurredItIsItsLight();
};

// The mean of whole tiles, in a quarter of the pixels and wherever these lie, is that of the light of the picture itself.
void TestPictureLight::itsLightIsAllThere() {
  std::array<double, 4> expected{};
  const QImage image(QString::fromStdString(lamp().path));
  for (int y = 0; y < image.height(); ++y)
    for (int x = 0; x < image.width(); ++x) {
      const QColor c = image.pixelColor(x, y);
      const auto light = [&](int value) { return srgbDecode(value / 255.0) * c.alpha() / 255; };
      const std::array<double, 4> pixel{light(c.red()), light(c.green()), light(c.blue()), c.alpha() / 255.0};
      for (std::size_t k = 0; k < 4; ++k) expected[k] += pixel[k] / (image.width() * image.height());
    }
  const Scene scene = sceneOf(lamp(), 432, 360);
  for (const double moved : {0.0, 0.3, 0.77}) {
    PlaneView view = PlaneView::cover(432, 360, 432, 360);
    view.left += moved;
    view.top -= moved / 2;
    const PlaneView few = view.thinned(2);
    const auto rows = findStep("picture")->light(contextOf(scene.layers[0].recipe[0], Moment{0, scene.frames}, few));
    QVERIFY(rows);
    const Plane plane = wholePlane(*rows, few.width, few.height);
    for (int c = 0; c < 4; ++c) {
      double mean = 0;
      for (int y = 0; y < few.height; ++y)
        for (int x = 0; x < few.width; ++x) mean += static_cast<double>(plane.row(y)[x * 4 + c]) / (few.width * few.height);
      const double wanted = expected[static_cast<std::size_t>(c)];
      QVERIFY2(std::abs(mean - wanted) < 1e-4, qPrintable(QStringLiteral("%1: %2 %3").arg(c).arg(mean).arg(wanted)));
    }
  }
}

void TestPictureLight::lightIsHandedOutWhereItServes() {
  const auto handed = [](const Scene& scene, double scale = 0.5) {
    const PlaneView view = PlaneView::cover(200, 150, static_cast<int>(200 * scale), static_cast<int>(150 * scale));
    return findStep("picture")->light(contextOf(scene.layers[0].recipe[0], Moment{0, scene.frames}, view)) != nullptr;
  };
  Scene scene = sceneOf(lamp(), 200, 150);
  QVERIFY(handed(scene));
  // Not in as many pixels as it has, nor in more.
  QVERIFY(!handed(scene, 1) && !handed(scene, 3));
  // Tiles that differ only with a gap between them, of pixels of the view, and no more of them than can be kept.
  test::setValue(scene, 0, 0, "vary", true);
  QVERIFY(!handed(scene));
  test::setValue(scene, 0, 0, "gap", 2.0);
  QVERIFY(!handed(scene));
  test::setValue(scene, 0, 0, "gap", 12.0);
  QVERIFY(handed(scene));
  test::setValue(scene, 0, 0, "period", 9.0);
  QVERIFY(!handed(scene));
  // What is not there, or another picture every time.
  QVERIFY(!handed(sceneOf(MediaRef{folder().filePath("nowhere.png").toStdString()}, 200, 150)));
  QVERIFY(!handed(sceneOf(MediaRef{}, 200, 150)));
  QVERIFY(!handed(sceneOf(test::shippedMedia("swinging-lantern.webm"), 200, 150)));
}

// A blur asks for it in light and in fewer pixels: that must not tell, however it is tiled, tinted, placed and turned.
void TestPictureLight::blurredItIsItsLight_data() {
  QTest::addColumn<double>("across");
  QTest::addColumn<double>("down");
  QTest::addColumn<double>("size");
  QTest::addColumn<double>("turn");
  QTest::addColumn<double>("gap");
  QTest::addColumn<bool>("vary");
  QTest::addColumn<bool>("several");
  QTest::newRow("least that is asked for in fewer pixels") << 6.1 << 6.1 << 1.0 << 0.0 << 0.0 << false << false;
  QTest::newRow("both sides unlike") << 7.0 << 16.5 << 1.0 << 0.0 << 9.0 << false << false;
  QTest::newRow("wide") << 48.0 << 48.0 << 1.0 << 0.0 << 20.0 << true << false;
  QTest::newRow("smaller and turned") << 18.0 << 18.0 << 0.42 << -4.0 << 30.0 << true << false;
  QTest::newRow("larger than it is") << 6.0 << 6.0 << 2.6 << 0.0 << 10.0 << true << false;
  QTest::newRow("quarter") << 14.0 << 14.0 << 0.8 << 90.0 << 0.0 << false << false;
  QTest::newRow("two pictures") << 16.0 << 16.0 << 0.7 << 12.0 << 30.0 << true << true;
  QTest::newRow("tiles that differ, edge to edge") << 14.0 << 14.0 << 1.0 << 0.0 << 0.0 << true << false;
}

void TestPictureLight::blurredItIsItsLight() {
  QFETCH(double, across);
  QFETCH(double, down);
  QFETCH(double, size);
  QFETCH(double, turn);
  QFETCH(double, gap);
  QFETCH(bool, vary);
  QFETCH(bool, several);
  Scene scene = sceneOf(lamp(), 200, 150);
  if (several) test::setValue(scene, 0, 0, "file2", test::savedPicture(test::patchwork(40, 50), folder().filePath("narrow.png")));
  tiled(scene, "repeat", "repeat");
  test::setValue(scene, 0, 0, "gap", gap);
  test::setValue(scene, 0, 0, "vary", vary);
  test::setValue(scene, 0, 0, "tinted", 0.4);
  std::vector<Param>& place = scene.layers[0].place;
  place[static_cast<std::size_t>(PlaceParam::Size)].base = Point{size, size};
  place[static_cast<std::size_t>(PlaceParam::Turn)].base = turn;
  // As it is, and what lies round it.
  const int reach = static_cast<int>(std::ceil(4.5 * std::max(across, down) / 2 * size));
  const PlaneView frame = PlaneView::cover(scene.width, scene.height, scene.width, scene.height);
  const auto sharp = test::renderFloat(scene, 0, frame.grown(reach));
  test::addStep(scene, "blur");
  test::setValue(scene, 0, 1, "across", across);
  test::setValue(scene, 0, 1, "down", down);
  test::setValue(scene, 0, 1, "edges", std::string("beyond"));
  const auto weights = [&](double sigma) {
    std::vector<double> made;
    double sum = 0;
    for (int k = -reach; k <= reach; ++k) made.push_back(std::exp(-0.5 * k * k / (sigma * sigma)));
    for (const double w : made) sum += w;
    for (double& w : made) w /= sum;
    return made;
  };
  const auto alongRow = weights(across / 2 * size);
  const auto downColumn = weights(down / 2 * size);
  std::vector<std::array<double, 4>> light;
  for (std::size_t i = 0; i < sharp.rgba.size(); i += 4) {
    std::array<double, 4> p{};
    const double a = p[3] = static_cast<double>(sharp.rgba[i + 3]);
    for (std::size_t c = 0; c < 3 && a > 0; ++c) p[c] = srgbDecode(std::min(1.0, static_cast<double>(sharp.rgba[i + c]) / a)) * a;
    light.push_back(p);
  }
  const auto mixed = [&](std::size_t from, std::size_t apart, const std::vector<double>& by) {
    std::array<double, 4> sum{};
    for (std::size_t k = 0; k < by.size(); ++k)
      for (std::size_t c = 0; c < 4; ++c) sum[c] += by[k] * light[from + k * apart][c];
    return sum;
  };
  const auto wide = static_cast<std::size_t>(sharp.width);
  for (std::size_t y = 0; y < static_cast<std::size_t>(sharp.height); ++y)
    for (std::size_t x = 0; x < static_cast<std::size_t>(scene.width); ++x) light[y * wide + x] = mixed(y * wide + x, 1, alongRow);
  std::vector<std::array<double, 4>> expected;
  for (std::size_t y = 0; y < static_cast<std::size_t>(scene.height); ++y)
    for (std::size_t x = 0; x < static_cast<std::size_t>(scene.width); ++x) {
      auto p = mixed(y * wide + x, wide, downColumn);
      for (std::size_t c = 0; c < 3 && p[3] > 0; ++c) p[c] = srgbEncode(p[c] / p[3]) * p[3];
      expected.push_back(p);
    }
  const auto made = test::renderFloat(scene, 0);
  const auto found = test::compare(made, expected);
  const auto worst = QStringLiteral("%1 at most, %2 in the mean").arg(found.largest).arg(found.mean);
  QVERIFY2(found.largest < 0.018, qPrintable(worst));
  QVERIFY2(found.mean < 0.0025, qPrintable(worst));
}

QTEST_GUILESS_MAIN(TestPictureLight)
#include "tst_picture_light.moc"
