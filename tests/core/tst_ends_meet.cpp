// Pictures whose ends are made to meet: the joint of twenty pictures, measured before and after; known cases; both directions.
#include <QElapsedTimer>
#include <QTest>
#include <cmath>

#include "base/parallel.h"
#include "base/random.h"
#include "image/seamless.h"

using namespace oa;

namespace {

Plane made(int width, int height, const std::function<double(int x, int y, int c)>& f) {
  Plane plane(width, height, 4);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x)
      for (int c = 0; c < 4; ++c) plane.row(y)[x * 4 + c] = static_cast<float>(c == 3 ? 1 : std::clamp(f(x, y, c), 0.0, 1.0));
  return plane;
}

// Smooth noise of a few sizes, light that falls off to a side, blots and stripes: as photographs and paintings have them.
Plane painting(int seed, int width = 240, int height = 160) {
  const auto value = [](std::uint64_t s, double x, double y) {
    const auto corner = [&](double i, double j) { return randomUnit(s, static_cast<std::uint64_t>((i + 1000) * 4096 + j + 1000)); };
    const double i = std::floor(x);
    const double j = std::floor(y);
    const double u = (x - i) * (x - i) * (3 - 2 * (x - i));
    const double v = (y - j) * (y - j) * (3 - 2 * (y - j));
    return (corner(i, j) * (1 - u) + corner(i + 1, j) * u) * (1 - v) + (corner(i, j + 1) * (1 - u) + corner(i + 1, j + 1) * u) * v;
  };
  const auto s = static_cast<std::uint64_t>(seed) * 16;
  const double cell = 8 + 60 * randomUnit(s, 1);
  const double slope = (randomUnit(s, 2) - 0.5) * 0.8;
  const double grit = 0.3 * randomUnit(s, 3);
  const double stripes = randomUnit(s, 4) < 0.4 ? 0.25 : 0;
  return made(width, height, [=](int x, int y, int c) {
    return 0.2 + 0.5 * value(s + 5 + static_cast<std::uint64_t>(c), x / cell, y / cell) + grit * (value(s + 9, x / 2.3, y / 2.3) - 0.5) +
           slope * x / width + slope * 0.6 * y / height + stripes * (std::sin(x * 0.21 + y * 0.03) > 0);
  });
}

}  // namespace

class TestEndsMeet : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void twentyPicturesJoinBetter();
  void whatIsSeamlessStaysSo();
  void bothDirectionsClose();
  void cutsFollowWhatIsAlike();
  void evenLightIsEven();
  void sizesAreThoseSaid();
  void theSameForAnyThreads();
};

void TestEndsMeet::twentyPicturesJoinBetter() {
  double before = 0;
  double after = 0;
  for (int seed = 1; seed <= 20; ++seed)
    for (const bool across : {true, false})
      for (const bool cut : {true, false}) {
        const Plane picture = painting(seed);
        SeamSettings s;
        s.across = across;
        s.down = !across;
        s.cut = cut;
        const double had = jointOf(picture, across);
        const double has = jointOf(seamless(picture, s), across);
        QVERIFY2(has <= had + 1e-6, qPrintable(QStringLiteral("%1: %2 became %3").arg(seed).arg(had).arg(has)));
        QVERIFY2(has < 1.75, qPrintable(QStringLiteral("%1: %2").arg(seed).arg(has)));
        before += had;
        after += has;
      }
  QVERIFY2(after < 0.5 * before, qPrintable(QStringLiteral("%1 of %2").arg(after).arg(before)));
}

void TestEndsMeet::whatIsSeamlessStaysSo() {
  // Waves of a period that the laying over keeps: nothing changes but the size.
  const Plane waves = made(200, 60, [](int x, int y, int) { return 0.5 + 0.4 * std::sin(2 * M_PI * x / 40) * std::cos(y * 0.1); });
  SeamSettings s;
  for (const bool cut : {true, false}) {
    s.cut = cut;
    const Plane tile = seamless(waves, s);
    QCOMPARE(tile.width(), 160);
    for (int y = 0; y < 60; ++y)
      for (int x = 0; x < 160 * 4; ++x) QVERIFY(std::abs(tile.row(y)[x] - waves.row(y)[x]) < 1e-6f);
  }
}

void TestEndsMeet::bothDirectionsClose() {
  for (int seed = 1; seed <= 6; ++seed)
    for (const bool cut : {true, false}) {
      SeamSettings s;
      s.down = true;
      s.cut = cut;
      const Plane picture = painting(seed);
      const Plane tile = seamless(picture, s);
      for (const bool across : {true, false}) {
        QVERIFY(jointOf(tile, across) <= jointOf(picture, across) + 1e-6);
        QVERIFY2(jointOf(tile, across) < 1.8, qPrintable(QStringLiteral("%1 %2 %3").arg(seed).arg(across).arg(jointOf(tile, across))));
      }
    }
}

void TestEndsMeet::cutsFollowWhatIsAlike() {
  // The ends agree only along a slanted line: the cut runs there, and no pixel of the noise round it is mixed.
  const int width = 300;
  const int height = 80;
  const int band = 60;
  const auto same = [&](int x, int y) { return std::abs(x - (12 + y / 3)) <= 2; };
  const Plane picture = made(width, height, [&](int x, int y, int c) {
    const int within = x % (width - band);
    if (same(within, y)) return 0.5;
    return randomUnit(static_cast<std::uint64_t>(c), static_cast<std::uint64_t>(y * width + x)) < 0.5 ? 0.0 : 1.0;
  });
  SeamSettings s;
  s.soft = 0;
  const Plane tile = seamless(picture, s);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < band; ++x) {
      const float got = tile.row(y)[x * 4];
      if (!same(x, y)) QVERIFY2(got == 0.0f || got == 1.0f, qPrintable(QStringLiteral("%1 %2: %3").arg(x).arg(y).arg(got)));
      const int from = x < 12 + y / 3 ? width - band + x : x;
      QCOMPARE(got, picture.row(y)[from * 4]);
    }
}

void TestEndsMeet::evenLightIsEven() {
  const Plane picture = made(240, 160, [](int x, int y, int) { return 0.3 + 0.4 * x / 240.0 + 0.1 * std::sin(y * 0.7); });
  SeamSettings s;
  s.across = false;
  s.even = 1;
  const Plane even = seamless(picture, s);
  const auto mean = [](const Plane& p, int x0, int x1) {
    double sum = 0;
    for (int y = 0; y < p.height(); ++y)
      for (int x = x0; x < x1; ++x) sum += static_cast<double>(p.row(y)[x * 4]);
    return sum / p.height() / (x1 - x0);
  };
  QVERIFY(mean(picture, 180, 240) - mean(picture, 0, 60) > 0.28);
  QVERIFY(std::abs(mean(even, 180, 240) - mean(even, 0, 60)) < 0.05);
  QVERIFY(std::abs(mean(even, 0, 240) - mean(picture, 0, 240)) < 0.03);
}

void TestEndsMeet::sizesAreThoseSaid() {
  for (const double band : {0.02, 0.2, 0.5})
    for (const int size : {1, 2, 7, 240}) {
      const Plane picture = painting(3, size, 9);
      SeamSettings s;
      s.band = band;
      QCOMPARE(seamless(picture, s).width(), seamlessSize(size, band));
      QVERIFY(seamlessSize(size, band) >= 1);
    }
}

void TestEndsMeet::theSameForAnyThreads() {
  SeamSettings s;
  s.down = true;
  s.even = 0.5;
  Plane one;
  Plane two;
  withThreads(1, [&] { one = seamless(painting(5), s); });
  withThreads(2, [&] { two = seamless(painting(5), s); });
  for (int y = 0; y < one.height(); ++y) QVERIFY(std::equal(one.row(y), one.row(y) + one.width() * 4, two.row(y)));
}

QTEST_GUILESS_MAIN(TestEndsMeet)
#include "tst_ends_meet.moc"
