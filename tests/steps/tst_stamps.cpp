// What a repeat repeats: other layers, pictures, clips, drawings and outlines, each copy at its own moment.
#include <QFile>
#include <QImage>
#include <QPainter>
#include <QSvgRenderer>
#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <numbers>

#include "base/numbers.h"
#include "scene/scene_json.h"
#include "store/media_store.h"
#include "support/media.h"
#include "support/repeats.h"

using namespace oa;
using namespace oa::test;

class TestStamps : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void posesAreEachCopysOwn();
  void clipsPlayInTheirOwnTime();
  void outlinesInDashes();
  void drawingsAsOthersDrawThem();
  void layersAndPicturesAreStamps();
};

// A pose is a moment of its outline: a quarter of a lap apart, copies show what one shows a quarter later.
void TestStamps::posesAreEachCopysOwn() {
  Scene scene = fourInARow(32);
  setStamp(scene, "kind", std::string("outline"));
  setStamp(scene, "outline", *outlineFromPath("M-10 -10 L10 -10 L10 10 L-10 10 Z"));
  setStamp(scene, "size", 20.0);
  Motion& motion = stamp(scene, "outline").motion;
  motion.kind = MotionKind::Swing;
  motion.far = *outlineFromPath("M-20 -4 L20 -4 L20 4 L-20 4 Z");
  set(scene, "order", std::string("in order"));
  set(scene, "ahead", 1.0);
  const auto frame = test::renderFloat(scene, 0);
  // In the first it is as it was drawn, in the third at its far end: twice as wide, and flat.
  QVERIFY(std::abs(areaOfCopy(frame, 0) - 400) < 8);
  QVERIFY(std::abs(areaOfCopy(frame, 2) - 320) < 8);
  QVERIFY(frame.at(120 + 30 + 17, 30, 3) > 0.9f && frame.at(30 + 17, 30, 3) < 0.01f);
  const auto later = test::renderFloat(scene, 8);
  for (int i = 0; i < 3; ++i)
    QVERIFY(test::compare(test::cut(later, 60 * i, 0, 60, 60), test::cut(frame, 60 * (i + 1), 0, 60, 60)).largest < 0.02);
  // All together they show the same one.
  set(scene, "order", std::string("together"));
  const auto together = test::renderFloat(scene, 8);
  QVERIFY(test::compare(test::cut(together, 0, 0, 60, 60), test::cut(together, 120, 0, 60, 60)).largest < 1e-4);
}

void TestStamps::clipsPlayInTheirOwnTime() {
  Scene scene = fourInARow(32);
  setStamp(scene, "kind", std::string("picture"));
  setStamp(scene, "file", test::shippedMedia("swinging-lantern.webm"));
  setStamp(scene, "size", 40.0);
  set(scene, "order", std::string("in order"));
  set(scene, "ahead", 1.0);
  const auto frame = test::renderFloat(scene, 0);
  QVERIFY(test::compare(test::cut(frame, 0, 0, 60, 60), test::cut(frame, 60, 0, 60, 60)).largest > 0.05);
  const auto later = test::renderFloat(scene, 8);
  for (int i = 0; i < 3; ++i)
    QVERIFY(test::compare(test::cut(later, 60 * i, 0, 60, 60), test::cut(frame, 60 * (i + 1), 0, 60, 60)).largest < 1e-3);
  QVERIFY(test::renderFloat(scene, 32).rgba == frame.rgba);
  set(scene, "ahead", 0.0);
  const auto together = test::renderFloat(scene, 8);
  QVERIFY(test::compare(test::cut(together, 0, 0, 60, 60), test::cut(together, 60, 0, 60, 60)).largest < 1e-4);
}

// As much of a line is there as its dashes take up, on every shape that has one.
void TestStamps::outlinesInDashes() {
  for (const char* kind : {"disc", "rectangle", "bar", "polygon", "star", "drop", "petal", "outline"}) {
    Scene scene = discs("grid", 200, 200);
    set(scene, "columns", 1.0);
    set(scene, "rows", 1.0);
    setStamp(scene, "kind", std::string(kind));
    setStamp(scene, "size", std::string(kind) == "bar" ? 40.0 : 80.0);
    setStamp(scene, "line", 4.0);
    const double whole = areaOf(test::renderFloat(scene, 0));
    setStamp(scene, "dashes", 6.0);
    setStamp(scene, "dash", 0.5);
    const double half = areaOf(test::renderFloat(scene, 0));
    // Half of it, and a round end on both sides of each dash.
    const double ends = 6 * std::numbers::pi * 4;
    QVERIFY2(std::abs(half - whole / 2 - ends) < 0.08 * whole, qPrintable(QStringLiteral("%1: %2 of %3").arg(kind).arg(half).arg(whole)));
    setStamp(scene, "dash", 1.0);
    QVERIFY2(std::abs(areaOf(test::renderFloat(scene, 0)) - whole) < 0.08 * whole,
             qPrintable(QStringLiteral("%1: %2 of %3").arg(kind).arg(areaOf(test::renderFloat(scene, 0))).arg(whole)));
    setStamp(scene, "dash", 0.5);
    setStamp(scene, "taper", 1.0);
    QVERIFY(areaOf(test::renderFloat(scene, 0)) < 0.95 * half);
  }
}

// Small drawings, turned, beside Qt's own reader and rasteriser of SVG.
void TestStamps::drawingsAsOthersDrawThem() {
  QTemporaryDir dir;
  const QString path = dir.filePath(QStringLiteral("buoy.svg"));
  QFile file(path);
  QVERIFY(file.open(QIODevice::WriteOnly));
  file.write(
      R"x(<svg xmlns="http://www.w3.org/2000/svg" width="120" height="150" viewBox="0 0 120 150"><path d="M60 4 L104 90 H16 Z" fill="#c8472b"/>)x"
      R"x(<ellipse cx="60" cy="112" rx="56" ry="30" fill="#1f7672"/><rect x="44" y="40" width="32" height="22" rx="6" fill="#f3ead2"/></svg>)x");
  file.close();
  const auto buoy = MediaStore::shared().takeIn(path.toStdString());
  QVERIFY(buoy.has_value());
  QSvgRenderer svg(path);
  QVERIFY(svg.isValid());
  const double ratio = static_cast<double>(svg.defaultSize().height()) / svg.defaultSize().width();
  for (const double turn : {0.0, 23.0, 90.0, -140.0})
    for (const double size : {24.0, 41.0, 90.0}) {
      Scene scene = discs("grid", 160, 160);
      set(scene, "columns", 1.0);
      set(scene, "rows", 1.0);
      setStamp(scene, "kind", std::string("picture"));
      setStamp(scene, "file", *buoy);
      setStamp(scene, "size", size);
      setStamp(scene, "turn", turn);
      const auto ours = test::renderFloat(scene, 0);
      QImage image(160, 160, QImage::Format_ARGB32_Premultiplied);
      image.fill(Qt::transparent);
      QPainter painter(&image);
      painter.setRenderHint(QPainter::Antialiasing);
      painter.translate(80, 80);
      painter.rotate(turn);
      svg.render(&painter, QRectF(-size / 2, -size * ratio / 2, size, size * ratio));
      painter.end();
      double sum = 0;
      double cover = 0;
      for (int y = 0; y < 160; ++y)
        for (int x = 0; x < 160; ++x) {
          const QRgb q = image.pixel(x, y);
          sum += std::abs(static_cast<double>(ours.at(x, y, 0)) - qRed(q) / 255.0) +
                 std::abs(static_cast<double>(ours.at(x, y, 3)) - qAlpha(q) / 255.0);
          cover += qAlpha(q) / 255.0;
        }
      QVERIFY(cover > 100);
      QVERIFY2(sum / 2 < 0.07 * cover,
               qPrintable(QStringLiteral("%1 px, %2 degrees: %3 of %4").arg(size).arg(turn).arg(sum / 2).arg(cover)));
    }
}

void TestStamps::layersAndPicturesAreStamps() {
  // A shape that lies off the middle of its frame, as a stamp: cut out, and as wide as the stamp is.
  Scene scene = test::oneLayer("shape", 240, 60);
  scene.background.reset();
  scene.layers[0].id = 1;
  scene.layers[0].visible = false;
  test::setValue(scene, 0, 0, "width", 80.0);
  test::setValue(scene, 0, 0, "height", 40.0);
  test::setValue(scene, 0, 0, "corner", 0.0);
  test::setValue(scene, 0, 0, "centre", Point{0.3, 0.5});
  test::setValue(scene, 0, 0, "colour", Colour{0, 1, 0, 1});
  Scene repeat = fourInARow();
  scene.layers.push_back(repeat.layers[0]);
  setStamp(scene, "kind", std::string("layer"));
  set(scene, "layer", 1.0);
  setStamp(scene, "size", 40.0);
  const auto frame = test::renderFloat(scene, 0);
  for (int i = 0; i < 4; ++i) {
    QVERIFY(std::abs(areaOfCopy(frame, i) - 40 * 20) < 60);
    QVERIFY(frame.at(60 * i + 30, 30, 1) > 0.99f && frame.at(60 * i + 30, 30, 0) < 0.01f);
    QVERIFY(frame.at(60 * i + 30, 15, 3) < 0.01f && frame.at(60 * i + 7, 30, 3) < 0.01f);
  }
  // What is changed there is changed here; what is hidden there is shown here.
  test::setValue(scene, 0, 0, "colour", Colour{1, 0, 0, 1});
  QVERIFY(test::renderFloat(scene, 0).at(30, 30, 0) > 0.99f);

  Scene pictures = fourInARow();
  setStamp(pictures, "kind", std::string("picture"));
  setStamp(pictures, "file", test::shippedMedia("lantern.svg"));
  setStamp(pictures, "size", 30.0);
  const auto lanterns = test::renderFloat(pictures, 0);
  QVERIFY(areaOfCopy(lanterns, 0) > 150);
  for (int i = 1; i < 4; ++i)
    QVERIFY(test::compare(test::cut(lanterns, 60 * i, 0, 60, 60), test::cut(lanterns, 0, 0, 60, 60)).largest < 1e-4);

  // A clip is played, whole times a lap.
  setStamp(pictures, "file", test::shippedMedia("swinging-lantern.webm"));
  const auto first = test::renderFloat(pictures, 0);
  QVERIFY(test::compare(test::renderFloat(pictures, 6), first).largest > 0.05);
  QVERIFY(test::renderFloat(pictures, 24).rgba == first.rgba);

  // An outline of one's own, in the stamp's colour: a square fills what it should.
  Scene outlines = fourInARow();
  setStamp(outlines, "kind", std::string("outline"));
  setStamp(outlines, "outline", *outlineFromPath("M7 7 L27 7 L27 17 L7 17 Z"));
  setStamp(outlines, "size", 40.0);
  setStamp(outlines, "colour", Colour{0, 0, 1, 1});
  const auto squares = test::renderFloat(outlines, 0);
  for (int i = 0; i < 4; ++i) {
    QVERIFY(std::abs(areaOfCopy(squares, i) - 40 * 20) < 8);
    QVERIFY(squares.at(60 * i + 30, 30, 2) > 0.99f && squares.at(60 * i + 30, 30, 0) < 0.01f && squares.at(60 * i + 30, 15, 3) < 0.01f);
  }
}

QTEST_APPLESS_MAIN(TestStamps)
#include "tst_stamps.moc"
