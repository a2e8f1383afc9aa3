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
  void everyKindIsATile_data();
  void everyKindIsATile();
  void everyKindIsCentred();
  void ridgesAreSharpAndBillowsAreRound();
  void streaksAreLong();
  void specksAreWhite();
  void specksAreHeld();
  void foldingFolds();
  void aCoarseGridIsNearlyTheSame();
  void spectrumFollowsRoughness();
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

void TestNoise::everyKindIsATile_data() {
  QTest::addColumn<QString>("kind");
  QTest::addColumn<double>("grid");
  for (const char* kind : {"smooth", "ridged", "billowing", "folded", "streaks", "speckle"})
    for (const double grid : {1.0, 5.0}) QTest::addRow("%s, grid %g", kind, grid) << kind << grid;
}

// Column and row N are column and row 0: seen by moving the field by parts of a tile and looking at the same place.
void TestNoise::everyKindIsATile() {
  QFETCH(QString, kind);
  QFETCH(double, grid);
  Scene scene = noise(40, 4);
  test::setValue(scene, 0, 0, "kind", kind.toStdString());
  test::setValue(scene, 0, 0, "grid", grid);
  const auto f = test::renderFloat(scene, 9);
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
  if (kind == QLatin1String("speckle")) return;
  // A whole tile on, exactly the same picture.
  test::setValue(scene, 0, 0, "churn", 0.0);
  test::setValue(scene, 0, 0, "travel", Point{1, 0});
  test::param(scene, 0, 0, "travel").motion = test::turn(2);
  QVERIFY(test::renderFloat(scene, 24).rgba == test::renderFloat(scene, 0).rgba);
}

void TestNoise::everyKindIsCentred() {
  for (const char* kind : {"smooth", "ridged", "billowing", "folded", "streaks", "speckle"})
    for (const int detail : {1, 5}) {
      double mean = 0;
      double deviation = 0;
      constexpr int kSeeds = 6;
      for (int seed = 0; seed < kSeeds; ++seed) {
        Scene scene = noise(20, detail, 512, 512);
        test::setValue(scene, 0, 0, "kind", std::string(kind));
        test::setValue(scene, 0, 0, "seed", static_cast<double>(seed));
        test::setValue(scene, 0, 0, "speck", 4.0);  // whole pixels: none is a mean of two specks
        const auto f = test::renderFloat(scene, seed);
        mean += test::meanOf(f, 0) / kSeeds;
        deviation += test::deviationOf(f, 0) / kSeeds;
      }
      QVERIFY2(std::abs(mean - 0.5) < 0.02, qPrintable(QStringLiteral("%1: mean %2").arg(QLatin1String(kind)).arg(mean)));
      const bool speckle = QLatin1String(kind) == QLatin1String("speckle");
      QVERIFY2(speckle ? std::abs(deviation - 1 / std::sqrt(12.0)) < 0.01 : deviation > 0.10 && deviation < 0.16,
               qPrintable(QStringLiteral("%1: deviation %2").arg(QLatin1String(kind)).arg(deviation)));
    }
}

void TestNoise::ridgesAreSharpAndBillowsAreRound() {
  // Third moments: ridges have few bright crests, billows few dark creases... one octave shows it purely.
  const auto skew = [](const char* kind) {
    Scene scene = noise(64, 1, 512, 512);
    test::setValue(scene, 0, 0, "kind", std::string(kind));
    test::setValue(scene, 0, 0, "contrast", 0.5);
    const auto f = test::renderFloat(scene, 0);
    const double mean = test::meanOf(f, 0);
    double third = 0;
    for (std::size_t i = 0; i < f.rgba.size(); i += 4) third += std::pow(static_cast<double>(f.rgba[i]) - mean, 3);
    return third / (512.0 * 512) / std::pow(test::deviationOf(f, 0), 3);
  };
  QVERIFY2(std::abs(skew("smooth")) < 0.25, qPrintable(QString::number(skew("smooth"))));
  QVERIFY2(skew("billowing") > 0.3, qPrintable(QString::number(skew("billowing"))));
  // Where noise passes its middle a ridge has its crest: bent sharply, while smooth noise is not.
  const auto sharpest = [](const char* kind) {
    Scene scene = noise(64, 1, 512, 128);
    test::setValue(scene, 0, 0, "kind", std::string(kind));
    test::setValue(scene, 0, 0, "contrast", 0.5);
    const auto f = test::renderFloat(scene, 0);
    double bend = 0;
    for (int y = 0; y < 128; ++y)
      for (int x = 1; x + 1 < 512; ++x)
        bend = std::max(bend, static_cast<double>(std::abs(f.at(x - 1, y, 0) - 2 * f.at(x, y, 0) + f.at(x + 1, y, 0))));
    return bend / test::deviationOf(f, 0);
  };
  QVERIFY(sharpest("ridged") > 3 * sharpest("smooth"));
  QVERIFY(sharpest("billowing") > 3 * sharpest("smooth"));
}

void TestNoise::streaksAreLong() {
  Scene scene = noise(24, 4, 512, 256);
  test::setValue(scene, 0, 0, "kind", std::string("streaks"));
  const auto f = test::renderFloat(scene, 0);
  double across = 0;
  double down = 0;
  for (int y = 0; y + 1 < 256; ++y)
    for (int x = 0; x + 1 < 512; ++x) {
      across += std::abs(f.at(x + 1, y, 0) - f.at(x, y, 0));
      down += std::abs(f.at(x, y + 1, 0) - f.at(x, y, 0));
    }
  QVERIFY2(down > 8 * across, qPrintable(QString::number(down / across)));
}

void TestNoise::specksAreWhite() {
  Scene scene = noise(40, 1, 256, 256);
  test::setValue(scene, 0, 0, "kind", std::string("speckle"));
  test::setValue(scene, 0, 0, "speck", 1.0);
  const auto f = test::renderFloat(scene, 0);
  // No place knows anything of another: correlations at several distances are those of chance.
  for (const auto& [dx, dy] : {std::pair{1, 0}, {0, 1}, {1, 1}, {2, 0}, {16, 3}, {64, 64}}) {
    double sum = 0;
    for (int y = 0; y < 256; ++y)
      for (int x = 0; x < 256; ++x) sum += (wrapped(f, x, y) - 0.5) * (wrapped(f, x + dx, y + dy) - 0.5);
    QVERIFY2(std::abs(sum / 65536 * 12) < 0.02, qPrintable(QStringLiteral("%1, %2: %3").arg(dx).arg(dy).arg(sum / 65536 * 12)));
  }
  test::setValue(scene, 0, 0, "speck", 8.0);
  const auto g = test::renderFloat(scene, 0);
  for (int y = 0; y < 256; ++y)
    for (int x = 0; x < 256; ++x) QCOMPARE(g.at(x, y, 0), g.at(x / 8 * 8, y / 8 * 8, 0));
}

void TestNoise::specksAreHeld() {
  Scene scene = noise(40, 1, 64, 32);
  scene.frames = 12;
  test::setValue(scene, 0, 0, "kind", std::string("speckle"));
  test::setValue(scene, 0, 0, "held", 3.0);
  for (int k = 0; k < 12; ++k) QCOMPARE(test::renderFloat(scene, k).rgba == test::renderFloat(scene, k + 1).rgba, k % 3 != 2);
  QVERIFY(test::renderFloat(scene, 12).rgba == test::renderFloat(scene, 0).rgba);
}

void TestNoise::foldingFolds() {
  // Not folded at all it is the smooth field, up to its coarser sampling.
  Scene scene = noise(80, 3, 256, 128);
  const auto smooth = test::renderFloat(scene, 5);
  test::setValue(scene, 0, 0, "kind", std::string("folded"));
  test::setValue(scene, 0, 0, "fold", 0.0);
  QVERIFY(test::compare(test::renderFloat(scene, 5), smooth).mean < 0.004);
  // The further it folds the finer it gets.
  double before = 0;
  for (const double fold : {0.0, 0.7, 1.5}) {
    test::setValue(scene, 0, 0, "fold", fold);
    const auto f = test::renderFloat(scene, 5);
    double step = 0;
    for (int y = 0; y < 128; ++y)
      for (int x = 0; x + 1 < 256; ++x) step += std::abs(f.at(x + 1, y, 0) - f.at(x, y, 0));
    step /= test::deviationOf(f, 0);
    QVERIFY(step > before * 1.1);
    before = step;
  }
}

void TestNoise::aCoarseGridIsNearlyTheSame() {
  Scene scene = noise(64, 2, 512, 256);
  const auto fine = test::renderFloat(scene, 7);
  test::setValue(scene, 0, 0, "grid", 4.0);
  const auto coarse = test::renderFloat(scene, 7);
  QVERIFY2(test::compare(coarse, fine).mean < 0.003, qPrintable(QString::number(test::compare(coarse, fine).mean)));
  // Coarser than its finest shapes it is softer, but not another field.
  test::setValue(scene, 0, 0, "grid", 24.0);
  const auto soft = test::renderFloat(scene, 7);
  QVERIFY(test::compare(soft, fine).mean < 0.06 && test::compare(soft, fine).mean > 0.004);
}

void TestNoise::spectrumFollowsRoughness() {
  // Power of each octave's own band of frequencies, by a plain Fourier sum along rows: it falls by the square of the roughness from
  // octave to octave (cells of 64 px: bands about 8, 16 and 32 periods in 512 pixels).
  for (const double roughness : {0.3, 0.6}) {
    double power[3] = {};
    for (int seed = 0; seed < 4; ++seed) {
      Scene scene = noise(64, 4, 512, 512);
      test::setValue(scene, 0, 0, "roughness", roughness);
      test::setValue(scene, 0, 0, "seed", static_cast<double>(seed));
      const auto f = test::renderFloat(scene, 0);
      for (int band = 0; band < 3; ++band)
        for (int k = 5 << band; k < 10 << band; ++k)
          for (int y = 0; y < 512; y += 16) {
            double re = 0;
            double im = 0;
            for (int x = 0; x < 512; ++x) {
              re += f.at(x, y, 0) * std::cos(2 * 3.14159265358979 * k * x / 512);
              im += f.at(x, y, 0) * std::sin(2 * 3.14159265358979 * k * x / 512);
            }
            power[band] += re * re + im * im;
          }
    }
    for (int band = 0; band < 2; ++band) {
      const double ratio = power[band + 1] / power[band];
      // Twice as wide a band and leakage between neighbours blur the square: within a factor of 2.2.
      QVERIFY2(ratio > roughness * roughness / 2.2 && ratio < roughness * roughness * 2.2,
               qPrintable(QStringLiteral("roughness %1, band %2: %3").arg(roughness).arg(band).arg(ratio)));
    }
  }
}

QTEST_GUILESS_MAIN(TestNoise)
#include "tst_noise.moc"
