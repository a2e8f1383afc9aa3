// Patterns: whole periods that fill the frame, shares of light, edges, and travel that comes home.
#include <QTest>
#include <cmath>

#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene pattern(const char* kind, double scale = 32, int width = 256, int height = 128) {
  Scene scene = test::oneLayer("pattern", width, height, 48);
  test::setValue(scene, 0, 0, "kind", std::string(kind));
  test::setValue(scene, 0, 0, "scale", scale);
  test::setValue(scene, 0, 0, "softness", 0.0);
  return scene;
}

const char* const kTiles[] = {"stripes", "checks", "dots", "waves", "honeycomb", "weave", "scales"};
const char* const kAll[] = {"stripes", "checks", "dots", "rings", "waves", "sunburst", "spiral", "honeycomb", "weave", "scales"};

}  // namespace

class TestPattern : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void wholePeriodsFillTheFrame();
  void travelComesHome();
  void stripesAreWhereTheyShould();
  void checksAreWhereTheyShould();
  void shareIsTheLight();
  void softnessWidensTheEdges();
  void turningAWholeTurnChangesNothing();
  void aboutACentreAllIsRound();
};

void TestPattern::wholePeriodsFillTheFrame() {
  for (const char* kind : kTiles) {
    Scene scene = pattern(kind, 37);
    const auto f = test::renderFloat(scene, 5);
    // Moved by half the frame the joint lies in its middle, where any edge would show as a step that is nowhere else.
    double inside = 0;
    double across = 0;
    for (int y = 0; y < f.height; ++y)
      for (int x = 0; x < f.width; ++x) {
        const double right = std::abs(f.at((x + 1) % f.width, y, 0) - f.at(x, y, 0));
        const double down = std::abs(f.at(x, (y + 1) % f.height, 0) - f.at(x, y, 0));
        (x == f.width - 1 ? across : inside) = std::max(x == f.width - 1 ? across : inside, right);
        (y == f.height - 1 ? across : inside) = std::max(y == f.height - 1 ? across : inside, down);
      }
    QVERIFY2(across <= inside * 1.02 + 1e-4, qPrintable(QStringLiteral("%1: %2, %3").arg(QLatin1String(kind)).arg(across).arg(inside)));
  }
}

void TestPattern::travelComesHome() {
  for (const char* kind : kAll) {
    Scene scene = pattern(kind);
    test::setValue(scene, 0, 0, "travel", Point{3, -1});
    const auto start = test::renderFloat(scene, 0);
    QVERIFY2(test::renderFloat(scene, 48).rgba == start.rgba, kind);
    QVERIFY2(test::compare(test::renderFloat(scene, 7), start).mean > 0.01, kind);
    // The last step is one like the others.
    const double joint = test::compare(test::renderFloat(scene, 47), start).mean;
    const double first = test::compare(test::renderFloat(scene, 1), start).mean;
    QVERIFY2(joint < 1.6 * first + 1e-3, kind);
  }
}

void TestPattern::stripesAreWhereTheyShould() {
  const auto f = test::renderFloat(pattern("stripes", 32), 0);
  for (int x = 0; x < 256; ++x) {
    // Light in the middle half of every period of 32; pixels upon an edge are between.
    const double place = (x + 0.5) / 32 - std::floor((x + 0.5) / 32);
    if (std::abs(std::abs(place - 0.5) - 0.25) < 0.04) continue;
    QCOMPARE(f.at(x, 40, 0) > 0.5f, std::abs(place - 0.5) < 0.25);
  }
}

void TestPattern::checksAreWhereTheyShould() {
  Scene scene = pattern("checks", 32);
  const auto f = test::renderFloat(scene, 0);
  for (int y = 2; y < 128; y += 4)
    for (int x = 2; x < 256; x += 4) {
      const auto lit = [](int v) { return std::abs(std::fmod((v + 0.5) / 32, 1.0) - 0.5) < 0.25; };
      const bool edge = (x + 8) % 16 < 2 || (x + 8) % 16 > 13 || (y + 8) % 16 < 2 || (y + 8) % 16 > 13;
      if (!edge) QCOMPARE(f.at(x, y, 0) > 0.5f, lit(x) == lit(y));
    }
}

void TestPattern::shareIsTheLight() {
  for (const char* kind : {"stripes", "waves", "sunburst"})
    for (const double share : {0.2, 0.5, 0.8}) {
      Scene scene = pattern(kind);
      test::setValue(scene, 0, 0, "share", share);
      const double light = test::meanOf(test::renderFloat(scene, 0), 0);
      QVERIFY2(std::abs(light - share) < 0.02, qPrintable(QStringLiteral("%1: %2").arg(QLatin1String(kind)).arg(light)));
    }
  for (const char* kind : kAll) {
    Scene scene = pattern(kind);
    double before = -1;
    if (QLatin1String(kind) == QLatin1String("checks")) continue;  // more of one colour and then of the other
    for (const double share : {0.1, 0.4, 0.7, 1.0}) {
      test::setValue(scene, 0, 0, "share", share);
      const double light = test::meanOf(test::renderFloat(scene, 0), 0);
      QVERIFY2(light > before, kind);
      before = light;
    }
  }
}

void TestPattern::softnessWidensTheEdges() {
  for (const char* kind : {"stripes", "dots", "rings", "honeycomb"}) {
    double before = 2;
    for (const double softness : {0.0, 0.3, 0.8}) {
      Scene scene = pattern(kind, 64);
      test::setValue(scene, 0, 0, "softness", softness);
      const auto f = test::renderFloat(scene, 0);
      double steepest = 0;
      for (int y = 0; y < f.height; ++y)
        for (int x = 0; x + 1 < f.width; ++x)
          steepest = std::max(steepest, static_cast<double>(std::abs(f.at(x + 1, y, 0) - f.at(x, y, 0))));
      QVERIFY2(steepest < before * 0.8, kind);
      before = steepest;
    }
  }
}

void TestPattern::turningAWholeTurnChangesNothing() {
  for (const char* kind : kAll) {
    Scene scene = pattern(kind);
    const auto f = test::renderFloat(scene, 3);
    test::setValue(scene, 0, 0, "angle", 720.0);
    QVERIFY2(test::renderFloat(scene, 3).rgba == f.rgba, kind);
  }
}

void TestPattern::aboutACentreAllIsRound() {
  Scene scene = pattern("rings", 40, 200, 200);
  test::setValue(scene, 0, 0, "softness", 0.5);
  const auto f = test::renderFloat(scene, 0);
  // The same at equal distances: mirrored and turned by a quarter.
  for (int y = 0; y < 200; ++y)
    for (int x = 0; x < 200; ++x) {
      QVERIFY(std::abs(f.at(x, y, 0) - f.at(199 - x, y, 0)) < 1e-4f);
      QVERIFY(std::abs(f.at(x, y, 0) - f.at(y, x, 0)) < 1e-4f);
    }
  // The middle follows the centre.
  test::setValue(scene, 0, 0, "centre", Point{0.25, 0.75});
  const auto g = test::renderFloat(scene, 0);
  for (int y = 0; y < 100; ++y)
    for (int x = 0; x < 100; ++x) QVERIFY(std::abs(g.at(x, y + 50, 0) - f.at(x + 50, y, 0)) < 1e-3f);
}

QTEST_GUILESS_MAIN(TestPattern)
#include "tst_pattern.moc"
