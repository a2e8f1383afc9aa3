// Shapes: areas known by formula, edges of one width however they are turned, corners, outlines, bounds.
#include <QTest>
#include <cmath>
#include <numbers>
#include <tuple>

#include "base/random.h"
#include "render/reference.h"
#include "scene/place.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene shape(const std::string& kind, double width = 80, double height = 50) {
  Scene scene = test::oneLayer("shape", 160, 120);
  scene.background.reset();
  test::setValue(scene, 0, 0, "kind", kind);
  test::setValue(scene, 0, 0, "width", width);
  test::setValue(scene, 0, 0, "height", height);
  test::setValue(scene, 0, 0, "corner", 0.0);
  test::setValue(scene, 0, 0, "colour", Colour{1, 1, 1, 1});
  return scene;
}

double areaOf(const test::FloatFrame& f) { return test::meanOf(f, 3) * f.width * f.height; }

}  // namespace

class TestShape : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void areasAreThoseOfTheFormulas();
  void turningKeepsAreasAndEdges();
  void stretchedEdgesStayOnePixelWide();
  void softEdgesAreSymmetric();
  void softEdgesEndByThemselves();
  void softEllipsesFollowTheNearestPlace();
  void softEllipsesAreKept();
  void outlinesLieInside();
  void tinyShapesDoNotVanish();
  void whatIsFarFromEdgesIsToldAllTheSame();
};

void TestShape::areasAreThoseOfTheFormulas() {
  const double pi = std::numbers::pi;
  QVERIFY(std::abs(areaOf(test::renderFloat(shape("rectangle"), 0)) - 80 * 50) < 0.5);
  QVERIFY(std::abs(areaOf(test::renderFloat(shape("ellipse"), 0)) - pi * 40 * 25) < 4);
  Scene rounded = shape("rectangle");
  test::setValue(rounded, 0, 0, "corner", 20.0);
  QVERIFY(std::abs(areaOf(test::renderFloat(rounded, 0)) - (80 * 50 - (4 - pi) * 400)) < 3);
  // A corner is never rounder than half the shorter side.
  test::setValue(rounded, 0, 0, "corner", 500.0);
  QVERIFY(std::abs(areaOf(test::renderFloat(rounded, 0)) - (30 * 50 + pi * 625)) < 3);
  for (const int sides : {3, 5, 8, 24}) {
    Scene polygon = shape("polygon", 100, 60);
    test::setValue(polygon, 0, 0, "sides", static_cast<double>(sides));
    const double expected = 0.5 * sides * std::sin(2 * pi / sides) * 50 * 30;
    QVERIFY2(std::abs(areaOf(test::renderFloat(polygon, 0)) - expected) < 6, qPrintable(QString::number(sides)));
  }
  Scene star = shape("star", 100, 100);
  test::setValue(star, 0, 0, "sides", 5.0);
  test::setValue(star, 0, 0, "depth", 0.5);
  // Ten triangles between a long and a short ray.
  QVERIFY(std::abs(areaOf(test::renderFloat(star, 0)) - 10 * 0.5 * 50 * 25 * std::sin(pi / 5)) < 6);
}

void TestShape::turningKeepsAreasAndEdges() {
  for (const char* kind : {"rectangle", "ellipse", "polygon", "star"}) {
    Scene scene = shape(kind);
    const double area = areaOf(test::renderFloat(scene, 0));
    for (const double turn : {17.0, 45.0, 90.0, 200.0}) {
      scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Turn)].base = turn;
      QVERIFY2(std::abs(areaOf(test::renderFloat(scene, 0)) - area) < 0.01 * area, kind);
    }
  }
}

void TestShape::stretchedEdgesStayOnePixelWide() {
  // Eight times as wide: its left edge is still no wider than two pixels.
  Scene scene = shape("rectangle", 10.3, 50);
  scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Size)].base = Point{8, 1};
  const auto f = test::renderFloat(scene, 0);
  int between = 0;
  for (int x = 0; x < 80; ++x) between += f.at(x, 60, 3) > 0.001f && f.at(x, 60, 3) < 0.999f;
  QVERIFY2(between <= 2, qPrintable(QString::number(between)));
}

void TestShape::softEdgesAreSymmetric() {
  Scene scene = shape("rectangle", 80, 50);
  test::setValue(scene, 0, 0, "softness", 20.0);
  const auto f = test::renderFloat(scene, 0);
  // As much is missing inside the edge as is there outside.
  for (int i = 0; i < 9; ++i) QVERIFY(std::abs(f.at(40 + i, 60, 3) + f.at(39 - i, 60, 3) - 1) < 0.01f);
  QVERIFY(f.at(80, 60, 3) > 0.999f);
  QCOMPARE(f.at(20, 60, 3), 0.0f);
}

// No soft edge is cut off where what is worked out ends: there it has come down to nothing.
void TestShape::softEdgesEndByThemselves() {
  for (const auto& [width, height] : {std::pair{110.0, 6.0}, {6.0, 80.0}, {100.0, 60.0}, {60.0, 60.0}})
    for (const double softness : {24.0, 36.0})
      for (const char* kind : {"rectangle", "ellipse", "polygon"}) {
        Scene scene = shape(kind, width, height);
        test::setValue(scene, 0, 0, "softness", softness);
        const test::FloatFrame f = test::renderFloat(scene, 0);
        const double across = (width + softness) / 2 - 1;
        const double down = (height + softness) / 2 - 1;
        float most = 0;
        for (int y = 0; y < f.height; ++y)
          for (int x = 0; x < f.width; ++x)
            if (std::abs(x + 0.5 - 80) > across || std::abs(y + 0.5 - 60) > down) most = std::max(most, f.at(x, y, 3));
        QVERIFY2(most < 0.01f, qPrintable(QStringLiteral("%1 %2x%3: %4").arg(kind).arg(width).arg(height).arg(most)));
        QVERIFY(f.at(80, 60, 3) > 0.3f);
      }
}

// The same from place to place of the edge, found by trying them all.
void TestShape::softEllipsesFollowTheNearestPlace() {
  for (const auto& [width, height, softness] : {std::tuple{110.0, 8.0, 36.0},
                                                {12.0, 80.0, 36.0},
                                                {100.0, 40.0, 36.0},
                                                {60.0, 60.0, 36.0},
                                                {110.0, 8.0, 6.0},
                                                {100.0, 70.0, 150.0},
                                                {3.0, 100.0, 50.0},
                                                {12.0, 100.0, 90.0}}) {
    Scene scene = shape("ellipse", width, height);
    test::setValue(scene, 0, 0, "softness", softness);
    const test::FloatFrame f = test::renderFloat(scene, 0);
    for (int y = 3; y < f.height; y += 6)
      for (int x = 3; x < f.width; x += 6) {
        const double px = x + 0.5 - 80;
        const double py = y + 0.5 - 60;
        double away = 1e9;
        for (int k = 0; k < 12000; ++k) {
          const double t = k * std::numbers::pi / 6000;
          away = std::min(away, std::hypot(px - width / 2 * std::cos(t), py - height / 2 * std::sin(t)));
        }
        if (std::hypot(px / (width / 2), py / (height / 2)) < 1) away = -away;
        const double t = std::clamp(0.5 - away / softness, 0.0, 1.0);
        const double expected = t * t * (3 - 2 * t);
        QVERIFY2(std::abs(static_cast<double>(f.at(x, y, 3)) - expected) < 0.004,
                 qPrintable(
                     QStringLiteral("%1x%2 at %3, %4: %5 for %6").arg(width).arg(height).arg(px).arg(py).arg(f.at(x, y, 3)).arg(expected)));
      }
  }
}

void TestShape::softEllipsesAreKept() {
  const auto costly = [](const char* kind, double width, double softness) {
    Scene scene = shape(kind, width, 60);
    test::setValue(scene, 0, 0, "softness", softness);
    const RecipeStep& step = scene.layers[0].recipe[0];
    const auto rows = step.spec->source(contextOf(step, {0, 120}, PlaneView::cover(160, 120, 160, 120)));
    return rows->makesSpans() && rows->costly();
  };
  QVERIFY(costly("ellipse", 100, 20));
  QVERIFY(!costly("ellipse", 100, 0));
  QVERIFY(!costly("ellipse", 60, 20));
  QVERIFY(!costly("rectangle", 100, 20));
}

void TestShape::outlinesLieInside() {
  Scene scene = shape("rectangle", 80, 50);
  test::setValue(scene, 0, 0, "line", 5.0);
  QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) - (80 * 50 - 70 * 40)) < 1);
  QCOMPARE(test::renderFloat(scene, 0).at(80, 60, 3), 0.0f);
}

void TestShape::tinyShapesDoNotVanish() {
  // A disc of half a pixel is there with its area, wherever it lies.
  Scene scene = shape("ellipse", 2, 2);
  for (const double x : {0.5, 0.5021, 0.5043}) {
    test::setValue(scene, 0, 0, "centre", Point{x, 0.5});
    const double area = areaOf(test::renderFloat(scene, 0));
    QVERIFY2(std::abs(area - std::numbers::pi) < 0.6, qPrintable(QString::number(area)));
  }
}

// Blocks without an edge are not looked at pixel by pixel: no thin, turned, soft or pointed shape may show it.
void TestShape::whatIsFarFromEdgesIsToldAllTheSame() {
  int seed = 1;
  const auto draw = [&](double low, double high) { return low + (high - low) * randomUnit(7, static_cast<std::uint64_t>(seed++)); };
  for (const char* kind : {"rectangle", "ellipse", "polygon", "star"})
    for (int i = 0; i < 12; ++i) {
      // The distance to a long thin ellipse is a rough one: its soft edge is cut at its box.
      const double least = std::string(kind) == "ellipse" && i % 4 == 3 ? 80 : 2;
      Scene scene = shape(kind, draw(least, 220), draw(least, 160));
      test::setValue(scene, 0, 0, "centre", Point{draw(0.1, 0.9), draw(0.1, 0.9)});
      test::setValue(scene, 0, 0, "corner", i % 3 == 0 ? draw(0, 30) : 0.0);
      test::setValue(scene, 0, 0, "line", i % 2 == 0 ? draw(0.3, 24) : 0.0);
      test::setValue(scene, 0, 0, "softness", i % 4 == 3 ? draw(0, 60) : 0.0);
      scene.layers[0].place = defaultPlace();
      scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Turn)].base = draw(-180, 180);
      scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Size)].base = Point{draw(0.5, 2), draw(0.5, 2)};
      const auto d = test::compare(test::renderFloat(scene, 0), referenceFrame(scene, 0, scene.width, scene.height));
      QVERIFY2(d.largest < 2e-3, qPrintable(QString("%1, shape %2: %3").arg(kind).arg(i).arg(d.largest)));
    }
}

QTEST_GUILESS_MAIN(TestShape)
#include "tst_shape.moc"
