// Pictures as layers: pixel for pixel, as tiles of every kind, travelling by whole ones, made smaller without a moire, varied, jumping.
#include <QTest>
#include <cmath>
#include <limits>

#include "image/sampling.h"
#include "image/tiled.h"
#include "scene/extent.h"
#include "store/media_store.h"
#include "support/media.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;
using test::folder;
using test::sceneOf;
using test::tiled;
using test::travels;

namespace {

constexpr int kWidth = 40;
constexpr int kHeight = 24;

const MediaRef& patches() {
  static const MediaRef ref = test::savedPicture(test::patchwork(kWidth, kHeight), folder().filePath("patches.png"));
  return ref;
}

// The largest difference of two pixels.
double differ(const test::FloatFrame& a, int ax, int ay, const test::FloatFrame& b, int bx, int by) {
  double most = 0;
  for (int c = 0; c < 4; ++c) most = std::max(most, std::abs(static_cast<double>(a.at(ax, ay, c) - b.at(bx, by, c))));
  return most;
}

// Whether one frame is the other moved on; both go on for ever.
double movedBy(const test::FloatFrame& a, const test::FloatFrame& b, int dx, int dy) {
  double most = 0;
  for (int y = std::max(0, dy); y < a.height + std::min(0, dy); ++y)
    for (int x = std::max(0, dx); x < a.width + std::min(0, dx); ++x) most = std::max(most, differ(b, x, y, a, x - dx, y - dy));
  return most;
}

}  // namespace

class TestPicture : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void quarterTurnsAreAsThePlainPath();
  void tilesLookAlikeWhetherWorkedOutOrNot();
  void pixelForPixel();
  void nothingButThePictureIsRead();
  void sizesFitTheFrame();
  void beyondItsSides();
  void gapsAreEmpty();
  void staggeredRowsAndColumns();
  void travelIsByWholeTiles();
  void everyTravelComesHomeWithoutAJump();
  void smallPicturesHaveNoMoire();
  void drawingsStaySharp();
  void variedTilesRepeatAfterTheirPeriod();
  void variedTilesAreDrawnFromSeveralPictures();
  void otherShapesLieWholeWithinTheirTile();
  void jumpsAreHeld();
  void jumpsAreAsSharpAsThePicture();
  void withoutAFileThereIsASample();
  void turnedStripsReachTheFramesEnds();
};

// Whatever lies in memory behind its rows: at every part of a pixel, enlarged and not, at both ends, each value is one.
void TestPicture::nothingButThePictureIsRead() {
  constexpr int kSize = 24;
  Plane plane(kSize + 2 * kTileBorder, kSize + 2 * kTileBorder, 4);
  for (int y = 0; y < plane.height(); ++y) {
    std::fill_n(plane.row(y), plane.stride(), std::numeric_limits<float>::quiet_NaN());
    std::fill_n(plane.row(y), plane.width() * 4, 0.5f);
  }
  for (const TileAxis::Kind kind : {TileAxis::Kind::Nothing, TileAxis::Kind::Edge, TileAxis::Kind::Repeat, TileAxis::Kind::Mirror})
    for (const double step : {0.37, 0.9375, 1.0, 1.6})
      for (int part = 0; part < 16; ++part) {
        Tiling tiling;
        tiling.axes[0] = tiling.axes[1] = {kind, kSize, 0};
        tiling.to = {step, 0, -8 - part / 16.0, 0, step, -8 + part / 16.0};
        tiling.box = {0, 0, 96, 96};
        const auto rows = tiledRows(tiling, plane.pixels(), nullptr, 96);
        std::vector<float> out(96 * 4);
        for (int y = 0; y < 96; ++y) {
          rows->rows(y, y + 1, out.data(), 96 * 4);
          for (const float v : out) QVERIFY2(v >= -1e-4f && v <= 0.51f, qPrintable(QStringLiteral("step %1, row %2").arg(step).arg(y)));
        }
      }
}

// All eight ways in which a tile may lie, moved by parts of a pixel: read with its rows and columns exchanged, and backwards.
void TestPicture::quarterTurnsAreAsThePlainPath() {
  constexpr int kAcross = 37;
  constexpr int kDown = 26;
  constexpr int kSide = 120;
  constexpr int kApart = 7;
  Plane plane(kAcross + 2 * kTileBorder, kDown + 2 * kTileBorder, 4);
  for (int y = 0; y < plane.height(); ++y) {
    std::fill_n(plane.row(y), plane.stride(), std::numeric_limits<float>::quiet_NaN());
    for (int x = 0; x < plane.width(); ++x)
      for (int c = 0; c < 4; ++c)
        plane.row(y)[x * 4 + c] =
            static_cast<float>(c == 3 ? 1.0 : 0.5 + 0.4 * std::sin(x * (0.5 + 0.2 * c)) * std::cos(y * (0.7 - 0.2 * c)));
  }
  for (const TileAxis::Kind across : {TileAxis::Kind::Nothing, TileAxis::Kind::Repeat, TileAxis::Kind::Mirror})
    for (const TileAxis::Kind down : {TileAxis::Kind::Edge, TileAxis::Kind::Mirror})
      for (const double gap : {0.0, 5.0})
        for (int way = 0; way < 8; ++way)
          for (const double part : {0.0, 0.3125}) {
            const double a = way % 2 ? -1 : 1;
            const double b = way / 2 % 2 ? -1 : 1;
            Tiling tiling;
            tiling.axes[0] = {across, kAcross, gap};
            tiling.axes[1] = {down, kDown, gap};
            tiling.to = way < 4 ? Affine{a, 0, 20 * a + part, 0, b, 31 - part} : Affine{0, a, 9 + part, b, 0, -17 * b - part};
            tiling.box = {0, 0, kSide, kSide};
            std::vector<std::array<double, 4>> wanted;
            for (int y = 0; y < kSide; y += kApart)
              for (int x = 0; x < kSide; ++x) wanted.push_back(plainTilePixel(tiling, plane.pixels(), {}, x, y));
            test::forEachTarget([&](const char* target) {
              const auto rows = tiledRows(tiling, plane.pixels(), nullptr, kSide);
              std::vector<float> out(kSide * 4 + kSpanPadding * 4);
              auto pixel = wanted.begin();
              for (int y = 0; y < kSide; y += kApart) {
                rows->rows(y, y + 1, out.data(), kSide * 4);
                double worst = 0;
                for (int x = 0; x < kSide; ++x, ++pixel)
                  for (std::size_t c = 0; c < 4; ++c)
                    worst = std::max(worst, std::abs(static_cast<double>(out[static_cast<std::size_t>(x) * 4 + c]) - (*pixel)[c]));
                QVERIFY2(worst < 2e-4,
                         qPrintable(QStringLiteral("%1: way %2, row %3: %4").arg(QLatin1String(target)).arg(way).arg(y).arg(worst)));
              }
            });
          }
}

void TestPicture::pixelForPixel() {
  Scene scene = sceneOf(patches());
  tiled(scene, "nothing", "nothing");
  const auto frame = test::renderFloat(scene, 0);
  const QImage image = test::patchwork(kWidth, kHeight);
  for (int y = 0; y < 120; ++y)
    for (int x = 0; x < 200; ++x) {
      const int px = x - 80;
      const int py = y - 48;
      const bool inside = px >= 0 && py >= 0 && px < kWidth && py < kHeight;
      QCOMPARE(frame.at(x, y, 3), inside ? 1.0f : 0.0f);
      if (inside) QVERIFY(std::abs(frame.at(x, y, 0) - static_cast<float>(image.pixelColor(px, py).red()) / 255) < 1e-6f);
    }
}

void TestPicture::sizesFitTheFrame() {
  struct Case {
    const char* fit;
    double width, height;
  };
  // 200 x 120 is as wide as five pictures and as high as five.
  const MediaRef wide = test::savedPicture(test::patchwork(80, 24), folder().filePath("wide.png"));
  for (const Case& c : {Case{"natural", 80, 24}, {"fit", 200, 60}, {"cover", 400, 120}, {"stretch", 200, 120}}) {
    Scene scene = sceneOf(wide);
    tiled(scene, "nothing", "nothing");
    test::setValue(scene, 0, 0, "fit", std::string(c.fit));
    for (const Point at : {Point{0.5, 0.5}, {0, 0}, {1, 1}}) {
      test::setValue(scene, 0, 0, "at", at);
      const Plan plan(scene);
      const Extent extent = extentOf(plan, 0, {0, scene.frames});
      QVERIFY(!extent.endless);
      QCOMPARE(extent.box.width(), c.width);
      QCOMPARE(extent.box.height(), c.height);
      QCOMPARE(extent.box.left, (200 - c.width) * at.x);
      QCOMPARE(extent.box.top, (120 - c.height) * at.y);
      // What is said to be covered is, and nothing else.
      const auto frame = test::renderFloat(scene, 0);
      double area = 0;
      for (std::size_t i = 3; i < frame.rgba.size(); i += 4) area += static_cast<double>(frame.rgba[i]);
      const double seen = std::min(c.width, 200.0) * std::min(c.height, 120.0);
      QVERIFY2(std::abs(area - seen) < 0.02 * seen, c.fit);
    }
  }
}

void TestPicture::beyondItsSides() {
  Scene scene = sceneOf(patches());
  tiled(scene, "repeat", "mirror");
  auto frame = test::renderFloat(scene, 0);
  for (int y = 0; y < 120; ++y)
    for (int x = 0; x + kWidth < 200; ++x) QVERIFY(differ(frame, x, y, frame, x + kWidth, y) < 1e-6);
  // Mirrored at each horizontal side: 48 is the picture's top.
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < 200; ++x) {
      QVERIFY(differ(frame, x, 48 + y, frame, x, 47 - y) < 1e-6);
      QVERIFY(differ(frame, x, 71 - y, frame, x, 72 + y) < 1e-6);
    }
  tiled(scene, "edge", "nothing");
  frame = test::renderFloat(scene, 0);
  for (int y = 48; y < 72; ++y) {
    for (int x = 0; x < 80; ++x) QVERIFY(differ(frame, x, y, frame, 80, y) < 1e-6);
    for (int x = 120; x < 200; ++x) QVERIFY(differ(frame, x, y, frame, 119, y) < 1e-6);
  }
  QCOMPARE(frame.at(10, 10, 3), 0.0f);
}

void TestPicture::gapsAreEmpty() {
  for (const char* kind : {"repeat", "mirror"}) {
    Scene scene = sceneOf(patches());
    tiled(scene, kind, kind);
    test::setValue(scene, 0, 0, "gap", 10.0);
    const auto frame = test::renderFloat(scene, 0);
    double area = 0;
    for (std::size_t i = 3; i < frame.rgba.size(); i += 4) area += static_cast<double>(frame.rgba[i]);
    const double share = static_cast<double>(kWidth * kHeight) / ((kWidth + 10) * (kHeight + 10));
    QVERIFY(std::abs(area / (200 * 120) - share) < 0.06);
    for (int y = 48; y < 72; ++y) {
      for (int x = 121; x < 129; ++x) QCOMPARE(frame.at(x, y, 3), 0.0f);
      QCOMPARE(frame.at(135, y, 3), 1.0f);
    }
  }
}

void TestPicture::staggeredRowsAndColumns() {
  for (const double share : {0.5, 0.25}) {
    Scene scene = sceneOf(patches());
    tiled(scene, "repeat", "repeat");
    test::setValue(scene, 0, 0, "shift", share);
    test::setValue(scene, 0, 0, "stagger", std::string("rows"));
    const auto rows = test::renderFloat(scene, 0);
    const int by = static_cast<int>(share * kWidth);
    for (int y = 0; y + kHeight < 120; ++y)
      for (int x = 0; x + by < 200; ++x) QVERIFY(differ(rows, x, y, rows, x + by, y + kHeight) < 1e-5);
    test::setValue(scene, 0, 0, "stagger", std::string("columns"));
    const auto columns = test::renderFloat(scene, 0);
    const int down = static_cast<int>(share * kHeight);
    for (int y = 0; y + down < 120; ++y)
      for (int x = 0; x + kWidth < 200; ++x) QVERIFY(differ(columns, x, y, columns, x + kWidth, y + down) < 1e-5);
  }
}

void TestPicture::travelIsByWholeTiles() {
  // Twenty frames: two pixels of forty a frame; a mirrored tile is eighty wide.
  Scene scene = sceneOf(patches());
  tiled(scene, "repeat", "repeat");
  travels(scene, {1, 0});
  const auto first = test::renderFloat(scene, 0);
  for (const int k : {1, 7, 19, 20}) QVERIFY(movedBy(first, test::renderFloat(scene, k), (2 * k) % kWidth, 0) < 1e-5);
  travels(scene, {-1, 0});
  QVERIFY(movedBy(first, test::renderFloat(scene, 3), -6, 0) < 1e-5);
  tiled(scene, "mirror", "repeat");
  travels(scene, {1, 0});
  const auto mirrored = test::renderFloat(scene, 0);
  for (const int k : {1, 10, 19}) QVERIFY(movedBy(mirrored, test::renderFloat(scene, k), 4 * k, 0) < 1e-5);
  scene.frames = 12;
  tiled(scene, "repeat", "repeat");
  travels(scene, {0, 1});
  QVERIFY(movedBy(test::renderFloat(scene, 0), test::renderFloat(scene, 5), 0, 10) < 1e-5);
}

// The last step of the loop is no larger than the others, whatever travels in whatever way.
void TestPicture::everyTravelComesHomeWithoutAJump() {
  const MediaRef soft = [] {
    QImage image(64, 48, QImage::Format_RGB888);
    for (int y = 0; y < 48; ++y)
      for (int x = 0; x < 64; ++x)
        image.setPixelColor(
            x, y,
            QColor(static_cast<int>(127 + 100 * std::sin(x * M_PI / 32)), static_cast<int>(127 + 100 * std::cos(y * M_PI / 24)),
                   static_cast<int>(127 + 60 * std::sin((x + y) * 0.2))));
    return test::savedPicture(image, folder().filePath("soft.png"));
  }();
  for (const char* across : {"repeat", "mirror"})
    for (const char* down : {"repeat", "mirror"})
      for (const char* stagger : {"none", "rows", "columns"})
        for (const bool vary : {false, true})
          for (const Point tiles : {Point{1, 0}, {0, 1}, {2, -3}}) {
            Scene scene = sceneOf(soft, 160, 100, 240);
            tiled(scene, across, down);
            test::setValue(scene, 0, 0, "stagger", std::string(stagger));
            test::setValue(scene, 0, 0, "shift", 0.37);
            test::setValue(scene, 0, 0, "vary", vary);
            test::setValue(scene, 0, 0, "period", 2.0);
            travels(scene, tiles);
            const auto frame = [&](int k) { return test::renderFloat(scene, k); };
            const double joint = test::compare(frame(239), frame(0)).mean;
            double usual = 0;
            for (const int k : {20, 100, 170}) usual = std::max(usual, test::compare(frame(k), frame(k + 1)).mean);
            QVERIFY2(joint < 1.5 * usual + 1e-6, qPrintable(QStringLiteral("%1 %2 %3 %4 (%5, %6): %7 against %8")
                                                                .arg(QLatin1String(across), QLatin1String(down), QLatin1String(stagger))
                                                                .arg(vary)
                                                                .arg(tiles.x)
                                                                .arg(tiles.y)
                                                                .arg(joint)
                                                                .arg(usual)));
            QVERIFY(test::compare(frame(240), frame(0)).largest == 0);
          }
}

void TestPicture::smallPicturesHaveNoMoire() {
  QImage checks(512, 512, QImage::Format_RGB888);
  for (int y = 0; y < 512; ++y)
    for (int x = 0; x < 512; ++x) checks.setPixelColor(x, y, (x + y) % 2 ? Qt::white : Qt::black);
  Scene scene = sceneOf(test::savedPicture(checks, folder().filePath("checks.png")));
  for (const double size : {0.47, 0.31, 0.11, 0.043})
    for (const double turn : {0.0, 17.0, 45.0}) {
      scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Size)].base = Point{size, size};
      scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Turn)].base = turn;
      const auto frame = test::renderFloat(scene, 0);
      double most = 0;
      for (std::size_t i = 0; i < frame.rgba.size(); i += 4) most = std::max(most, std::abs(static_cast<double>(frame.rgba[i]) - 0.5));
      QVERIFY2(most < 0.06, qPrintable(QStringLiteral("%1 at %2: %3").arg(size).arg(turn).arg(most)));
    }
}

void TestPicture::drawingsStaySharp() {
  const QString path = folder().filePath("half.svg");
  QFile file(path);
  QVERIFY(file.open(QIODevice::WriteOnly));
  file.write(R"(<svg xmlns="http://www.w3.org/2000/svg" width="16" height="16"><rect width="8" height="16" fill="#ffffff"/></svg>)");
  file.close();
  const auto ref = MediaStore::shared().takeIn(path.toStdString());
  QVERIFY(ref);
  Scene scene = sceneOf(*ref);
  tiled(scene, "nothing", "nothing");
  scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Size)].base = Point{8, 6};
  const auto frame = test::renderFloat(scene, 0);
  int between = 0;
  for (int x = 60; x < 140; ++x) between += frame.at(x, 60, 3) > 0.02f && frame.at(x, 60, 3) < 0.98f;
  QVERIFY2(between <= 4, qPrintable(QString::number(between)));
  QVERIFY(frame.at(70, 60, 3) > 0.99f);
  QVERIFY(frame.at(130, 60, 3) < 0.01f);
}

void TestPicture::variedTilesRepeatAfterTheirPeriod() {
  Scene scene = sceneOf(patches(), 400, 160);
  tiled(scene, "repeat", "repeat");
  test::setValue(scene, 0, 0, "vary", true);
  test::setValue(scene, 0, 0, "period", 3.0);
  test::setValue(scene, 0, 0, "tinted", 0.4);
  test::setValue(scene, 0, 0, "moved", 0.5);
  const auto frame = test::renderFloat(scene, 0);
  for (int y = 0; y < 160; ++y)
    for (int x = 0; x + 3 * kWidth < 400; ++x) {
      QVERIFY(differ(frame, x, y, frame, x + 3 * kWidth, y) < 1e-5);
      if (y + 3 * kHeight < 160) QVERIFY(differ(frame, x, y, frame, x, y + 3 * kHeight) < 1e-5);
    }
  double apart = 0;
  for (int y = 0; y < 160; ++y)
    for (int x = 0; x + kWidth < 400; ++x) apart = std::max(apart, differ(frame, x, y, frame, x + kWidth, y));
  QVERIFY(apart > 0.1);
}

void TestPicture::variedTilesAreDrawnFromSeveralPictures() {
  const auto plain = [](QRgb colour, const char* name) {
    QImage image(20, 10, QImage::Format_RGB32);
    image.fill(colour);
    return test::savedPicture(image, folder().filePath(QLatin1String(name)));
  };
  Scene scene = sceneOf(plain(qRgb(255, 0, 0), "red.png"), 400, 200);
  tiled(scene, "repeat", "repeat");
  test::setValue(scene, 0, 0, "vary", true);
  test::setValue(scene, 0, 0, "tinted", 0.0);
  test::setValue(scene, 0, 0, "at", Point{0, 0});
  test::setValue(scene, 0, 0, "period", 20.0);
  test::setValue(scene, 0, 0, "file2", plain(qRgb(0, 255, 0), "green.png"));
  test::setValue(scene, 0, 0, "file4", plain(qRgb(0, 0, 255), "blue.png"));
  const auto whole = test::renderFloat(scene, 0);
  // 400 tiles, each of one colour up to its edges, and each colour about as often as any other.
  int count[3] = {};
  for (int ty = 0; ty < 20; ++ty)
    for (int tx = 0; tx < 20; ++tx) {
      int which = -1;
      for (int c = 0; c < 3; ++c)
        if (whole.at(tx * 20 + 10, ty * 10 + 5, c) > 0.5f) which = c;
      QVERIFY(which >= 0);
      ++count[which];
      for (const auto& [x, y] : {std::pair{2, 2}, {17, 2}, {2, 7}, {17, 7}}) QVERIFY(whole.at(tx * 20 + x, ty * 10 + y, which) > 0.99f);
    }
  for (const int n : count) QVERIFY2(n > 95 && n < 175, qPrintable(QString::number(n)));
  // After the period all is as before; another seed draws others; it closes.
  travels(scene, {1, 0});
  QVERIFY(test::renderFloat(scene, 20).rgba == whole.rgba);
  test::setValue(scene, 0, 0, "seed", 77.0);
  QVERIFY(test::renderFloat(scene, 0).rgba != whole.rgba);
}

void TestPicture::otherShapesLieWholeWithinTheirTile() {
  QImage tall(10, 40, QImage::Format_RGB32);
  tall.fill(qRgb(0, 255, 0));
  QImage base(40, 40, QImage::Format_RGB32);
  base.fill(qRgb(255, 0, 0));
  Scene scene = sceneOf(test::savedPicture(base, folder().filePath("base.png")), 400, 200);
  tiled(scene, "repeat", "repeat");
  test::setValue(scene, 0, 0, "at", Point{0, 0});
  test::setValue(scene, 0, 0, "vary", true);
  test::setValue(scene, 0, 0, "tinted", 0.0);
  test::setValue(scene, 0, 0, "mirrored", 0.0);
  test::setValue(scene, 0, 0, "file2", test::savedPicture(tall, folder().filePath("tall.png")));
  const auto whole = test::renderFloat(scene, 0);
  int found = 0;
  for (int ty = 0; ty < 5; ++ty)
    for (int tx = 0; tx < 10; ++tx) {
      if (whole.at(tx * 40 + 20, ty * 40 + 20, 1) < 0.5f) continue;
      ++found;
      // In the middle of its tile, as high as it, a quarter as wide, and nothing beside it.
      for (int y = 2; y < 38; ++y)
        for (int x = 0; x < 40; ++x) {
          if (x >= 17 && x < 23) QVERIFY(whole.at(tx * 40 + x, ty * 40 + y, 1) > 0.98f);
          if (x < 12 || x >= 28) QVERIFY(whole.at(tx * 40 + x, ty * 40 + y, 3) < 0.02f);
        }
    }
  QVERIFY(found > 8 && found < 42);
}

void TestPicture::jumpsAreHeld() {
  Scene scene = sceneOf(patches(), 120, 80, 24);
  tiled(scene, "repeat", "repeat");
  test::setValue(scene, 0, 0, "held", 4.0);
  for (const bool turned : {false, true}) {
    test::setValue(scene, 0, 0, "turned", turned);
    const auto frame = [&](int k) { return test::renderFloat(scene, k); };
    for (const int k : {0, 8, 20}) {
      QVERIFY(test::compare(frame(k), frame(k + 3)).largest == 0);
      QVERIFY(test::compare(frame(k), frame(k + 4)).mean > 0.02);
    }
    QVERIFY(test::compare(frame(0), frame(24)).largest == 0);
  }
}

void TestPicture::jumpsAreAsSharpAsThePicture() {
  // Whole tiles fill it, mirrored and turned ones too.
  Scene scene = sceneOf(patches(), 240, 240, 24);
  test::setValue(scene, 0, 0, "held", 4.0);
  test::setValue(scene, 0, 0, "turned", true);
  const auto values = [&](int frame) {
    const auto picture = test::renderFloat(scene, frame);
    std::vector<float> all;
    for (int y = 0; y < picture.height; ++y)
      for (int x = 0; x < picture.width; ++x) all.push_back(picture.at(x, y, 0));
    std::sort(all.begin(), all.end());
    return all;
  };
  for (const char* beside : {"repeat", "mirror"}) {
    tiled(scene, beside, beside);
    const auto first = values(0);
    QVERIFY(first.front() < first.back());
    for (const int k : {4, 8, 12, 16, 20}) QCOMPARE(values(k), first);
  }
}

void TestPicture::withoutAFileThereIsASample() {
  Scene scene = sceneOf({}, 640, 480);
  const auto frame = test::renderFloat(scene, 0);
  QVERIFY(test::deviationOf(frame, 1) > 0.05);
  QCOMPARE(test::meanOf(frame, 3), 1.0);
  // It is a tile of 512 x 384 without an edge.
  for (int y = 0; y + 384 < 480; ++y)
    for (int x = 0; x < 128; ++x) {
      QVERIFY(differ(frame, x, y, frame, x + 512, y) < 1e-6);
      QVERIFY(differ(frame, x, y, frame, x, y + 384) < 1e-6);
    }
}

void TestPicture::tilesLookAlikeWhetherWorkedOutOrNot() {
  for (const int period : {1, 3, 8, 20}) {
    TileVariety one{.on = true, .mirrored = 0.5, .moved = 0.7, .tinted = 0.3, .faces = 3, .period = period, .seed = 9};
    TileVariety other = one;
    other.workOut();
    QCOMPARE(other.known.size(), static_cast<std::size_t>(period <= 8 ? period * period : 0));
    for (std::int64_t row = -2 * period - 1; row <= 2 * period; ++row)
      for (std::int64_t column = -2 * period - 1; column <= 2 * period; ++column) {
        const TileLook a = one.of(column, row), b = other.of(column, row);
        QVERIFY(a.mirrored == b.mirrored && a.moved == b.moved && a.gain == b.gain && a.face == b.face);
      }
  }
}

// A row of tiles that a jump turns by a quarter is a column from the top to the bottom.
void TestPicture::turnedStripsReachTheFramesEnds() {
  Scene scene = sceneOf(patches(), 200, 120, 24);
  tiled(scene, "repeat", "nothing");
  test::setValue(scene, 0, 0, "held", 1.0);
  test::setValue(scene, 0, 0, "turned", true);
  int rows = 0;
  int columns = 0;
  for (int k = 0; k < scene.frames; ++k) {
    const auto frame = test::renderFloat(scene, k);
    double area = 0;
    for (std::size_t i = 3; i < frame.rgba.size(); i += 4) area += static_cast<double>(frame.rgba[i]);
    const bool isRow = std::abs(area - 200.0 * kHeight) < 60;
    QVERIFY2(isRow || std::abs(area - 120.0 * kHeight) < 60, qPrintable(QStringLiteral("frame %1: %2").arg(k).arg(area)));
    ++(isRow ? rows : columns);
  }
  QVERIFY(rows > 3 && columns > 3);
}

QTEST_GUILESS_MAIN(TestPicture)
#include "tst_picture.moc"
