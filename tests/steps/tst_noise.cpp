// Noise: a tile without an edge, a lap without a joint, and the statistics that its knobs promise.
#include <QTest>
#include <cmath>

#include "simd/lattice_noise.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene noise(double cell, int detail, int width = 256, int height = 128) {
  Scene scene = test::oneLayer("noise", width, height, 48);
  test::setValue(scene, 0, 0, "cell", cell);
  test::setValue(scene, 0, 0, "detail", static_cast<double>(detail));
  return scene;
}

// Column x of row y of a frame that repeats.
float wrapped(const test::FloatFrame& f, int x, int y) {
  return f.at((x % f.width + f.width) % f.width, (y % f.height + f.height) % f.height, 0);
}

}  // namespace

class TestNoise : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void theFrameIsATile_data();
  void theFrameIsATile();
  void travelMovesByWholeTiles();
  void churnComesHome();
  void fieldsAreCentredAndLively();
  void roughnessShiftsPowerToFineDetail();
  void cellSizeScalesTheShapes();
  void stretchMakesThemWider();
  void seedsDiffer();
  void churningCellsEvolveSmoothly();
  void theDefinitionIsPeriodic();
};

void TestNoise::theFrameIsATile_data() {
  QTest::addColumn<double>("cell");
  QTest::addColumn<int>("detail");
  QTest::addColumn<double>("stretch");
  QTest::newRow("one octave") << 64.0 << 1 << 1.0;
  QTest::newRow("six octaves") << 64.0 << 6 << 1.0;
  QTest::newRow("a cell that does not divide the frame") << 37.0 << 4 << 1.0;
  QTest::newRow("one cell larger than the frame") << 900.0 << 5 << 1.0;
  QTest::newRow("stretched") << 40.0 << 4 << 3.0;
  QTest::newRow("cells of a pixel or two") << 2.0 << 3 << 1.0;
}

void TestNoise::theFrameIsATile() {
  QFETCH(double, cell);
  QFETCH(int, detail);
  QFETCH(double, stretch);
  Scene scene = noise(cell, detail);
  test::setValue(scene, 0, 0, "stretch", stretch);
  const auto f = test::renderFloat(scene, 9);
  // Steps across the tile's edges are no larger than the largest inside.
  double inside = 0;
  double across = 0;
  for (int y = 0; y < f.height; ++y)
    for (int x = 0; x < f.width; ++x) {
      const double right = std::abs(wrapped(f, x + 1, y) - wrapped(f, x, y));
      const double down = std::abs(wrapped(f, x, y + 1) - wrapped(f, x, y));
      (x == f.width - 1 ? across : inside) = std::max(x == f.width - 1 ? across : inside, right);
      (y == f.height - 1 ? across : inside) = std::max(y == f.height - 1 ? across : inside, down);
    }
  QVERIFY2(across <= inside * 1.02 + 1e-6, qPrintable(QStringLiteral("%1 across, %2 inside").arg(across).arg(inside)));
}

void TestNoise::travelMovesByWholeTiles() {
  Scene scene = noise(32, 3);
  test::setValue(scene, 0, 0, "churn", 0.0);
  test::setValue(scene, 0, 0, "travel", Point{1, -2});
  test::param(scene, 0, 0, "travel").motion = test::turn(1);
  const auto start = test::renderFloat(scene, 0);
  QVERIFY(test::renderFloat(scene, 48).rgba == start.rgba);
  // After a quarter of the lap the tile has moved a quarter of its width right and half of its height up.
  const auto later = test::renderFloat(scene, 12);
  double worst = 0;
  for (int y = 0; y < 128; ++y)
    for (int x = 0; x < 256; ++x)
      worst = std::max(worst, static_cast<double>(std::abs(wrapped(later, x + 64, y - 64) - wrapped(start, x, y))));
  QVERIFY2(worst < 1e-3, qPrintable(QString::number(worst)));
}

void TestNoise::churnComesHome() {
  for (const double churn : {1.0, 3.0, 24.0}) {
    Scene scene = noise(48, 4);
    test::setValue(scene, 0, 0, "churn", churn);
    test::param(scene, 0, 0, "churn").motion = test::turn(2);
    // Two laps: half the loop later everything is the same again, to the last bit.
    QVERIFY(test::renderFloat(scene, 24).rgba == test::renderFloat(scene, 0).rgba);
    QVERIFY(test::compare(test::renderFloat(scene, 12), test::renderFloat(scene, 0)).mean > 0.01);
  }
}

void TestNoise::fieldsAreCentredAndLively() {
  // The same spread for any detail and roughness, so that these knobs do not change the contrast.
  for (const int detail : {2, 6}) {
    double spread = 0;
    for (int seed = 0; seed < 8; ++seed) {
      Scene scene = noise(16, detail, 512, 512);
      test::setValue(scene, 0, 0, "seed", static_cast<double>(seed));
      spread += test::deviationOf(test::renderFloat(scene, seed * 5), 0) / 8;
    }
    QVERIFY2(std::abs(spread - 0.116) < 0.008, qPrintable(QString::number(spread)));
  }
  double mean = 0;
  double deviation = 0;
  constexpr int kSeeds = 12;
  for (int seed = 0; seed < kSeeds; ++seed) {
    Scene scene = noise(16, 1, 512, 512);
    test::setValue(scene, 0, 0, "seed", static_cast<double>(seed));
    const auto f = test::renderFloat(scene, seed);
    mean += test::meanOf(f, 0) / kSeeds;
    deviation += test::deviationOf(f, 0) / kSeeds;
  }
  QVERIFY2(std::abs(mean - 0.5) < 0.02, qPrintable(QString::number(mean)));
  QVERIFY2(deviation > 0.10 && deviation < 0.13, qPrintable(QString::number(deviation)));
}

void TestNoise::roughnessShiftsPowerToFineDetail() {
  // Mean absolute step between neighbours, against the spread of the whole: grows with roughness.
  double last = 0;
  for (const double roughness : {0.1, 0.3, 0.5, 0.7, 0.9}) {
    Scene scene = noise(64, 6, 512, 256);
    test::setValue(scene, 0, 0, "roughness", roughness);
    const auto f = test::renderFloat(scene, 0);
    double step = 0;
    for (int y = 0; y < 256; ++y)
      for (int x = 0; x + 1 < 512; ++x) step += std::abs(f.at(x + 1, y, 0) - f.at(x, y, 0));
    const double ratio = step / (511.0 * 256) / test::deviationOf(f, 0);
    QVERIFY2(ratio > last * 1.02, qPrintable(QString::number(ratio)));
    last = ratio;
  }
}

void TestNoise::cellSizeScalesTheShapes() {
  // Twice the cell on twice the frame is the same picture, magnified.
  const auto small = test::renderFloat(noise(32, 3, 256, 128), 5);
  const auto large = test::halved(test::renderFloat(noise(64, 3, 512, 256), 5));
  QVERIFY(test::compare(small, large).mean < 0.01);
}

void TestNoise::stretchMakesThemWider() {
  Scene scene = noise(24, 1, 512, 512);
  test::setValue(scene, 0, 0, "stretch", 4.0);
  const auto f = test::renderFloat(scene, 0);
  double across = 0;
  double down = 0;
  for (int y = 0; y + 1 < 512; ++y)
    for (int x = 0; x + 1 < 512; ++x) {
      across += std::abs(f.at(x + 1, y, 0) - f.at(x, y, 0));
      down += std::abs(f.at(x, y + 1, 0) - f.at(x, y, 0));
    }
  QVERIFY2(std::abs(down / across - 4) < 0.6, qPrintable(QString::number(down / across)));
}

void TestNoise::seedsDiffer() {
  Scene scene = noise(32, 4);
  const auto one = test::renderFloat(scene, 0);
  test::setValue(scene, 0, 0, "seed", 2.0);
  const auto two = test::renderFloat(scene, 0);
  // Unrelated, not merely shifted: hardly any correlation.
  const double m1 = test::meanOf(one, 0);
  const double m2 = test::meanOf(two, 0);
  double sum = 0;
  for (std::size_t i = 0; i < one.rgba.size(); i += 4) sum += (one.rgba[i] - m1) * (two.rgba[i] - m2);
  const double correlation = sum / (static_cast<double>(one.rgba.size()) / 4) / (test::deviationOf(one, 0) * test::deviationOf(two, 0));
  QVERIFY2(std::abs(correlation) < 0.25, qPrintable(QString::number(correlation)));
}

void TestNoise::churningCellsEvolveSmoothly() {
  Scene scene = noise(48, 3);
  scene.frames = 200;
  test::setValue(scene, 0, 0, "churn", 4.0);
  double smallest = 1e9;
  double largest = 0;
  auto before = test::renderFloat(scene, 0, 128, 64);
  for (int k = 1; k <= 200; ++k) {
    auto here = test::renderFloat(scene, k, 128, 64);
    const double step = test::compare(here, before).mean;
    smallest = std::min(smallest, step);
    largest = std::max(largest, step);
    before = std::move(here);
  }
  QVERIFY2(largest < 4 * smallest, qPrintable(QStringLiteral("%1 to %2").arg(smallest).arg(largest)));
}

void TestNoise::theDefinitionIsPeriodic() {
  NoiseSettings s;
  s.ux = 0.05;
  s.vy = 0.05;
  s.periodX = 5;
  s.periodY = 3;
  s.octaves = 4;
  s.churn = 3;
  s.seed = 9;
  for (int i = 0; i < 50; ++i) {
    const double x = i * 1.7;
    const double y = i * 2.3;
    s.progress = 0.3;
    const double here = LatticeNoise::reference(s, x, y);
    QVERIFY(std::abs(LatticeNoise::reference(s, x + 100, y) - here) < 1e-9);     // 5 cells of 20 px
    QVERIFY(std::abs(LatticeNoise::reference(s, x, y - 3 * 60) - here) < 1e-9);  // 3 cells of 20 px
    s.progress = 0;
    const double start = LatticeNoise::reference(s, x, y);
    s.progress = 1;
    QVERIFY(std::abs(LatticeNoise::reference(s, x, y) - start) < 1e-9);
  }
  for (int octave = 0; octave < kMaxOctaves; ++octave) QVERIFY(octaveChurn(3, octave) >= octaveChurn(3, std::max(0, octave - 1)));
  QCOMPARE(octaveChurn(0, 5), 0);
}

QTEST_GUILESS_MAIN(TestNoise)
#include "tst_noise.moc"
