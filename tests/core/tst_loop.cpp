// Time as a circle: phases, laps, paces, swings.
#include <QTest>
#include <cmath>

#include "loop/pace.h"
#include "loop/phase.h"
#include "loop/swing.h"

using namespace oa;

class TestLoop : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void frameNIsFrameZeroToTheLastBit();
  void lapsAreReducedInIntegers();
  void differentFrames_data();
  void differentFrames();
  void easingMatchesTheStandard_data();
  void easingMatchesTheStandard();
  void ownCurvesAreBounded();
  void swingsComeHome();
  void holdSharesAreKept();
  void namesRoundTrip();
};

void TestLoop::frameNIsFrameZeroToTheLastBit() {
  for (const std::int64_t n : {1, 2, 7, 240, 300, 1001, 999983})
    for (const std::int64_t laps : {1, 3, -2, 17, 1000, -1000})
      for (const double start : {0.0, 0.1, 1.0 / 3, 0.999})
        for (const std::int64_t k : {std::int64_t{0}, std::int64_t{1}, n / 2, n - 1})
          for (const std::int64_t around : {std::int64_t{1}, std::int64_t{-3}, std::int64_t{1000000}})
            QCOMPARE(lapPhase({k + around * n, n}, laps, start), lapPhase({k, n}, laps, start));
}

void TestLoop::lapsAreReducedInIntegers() {
  // In floating point 7 laps at frame 1 of 7 would be a hair off; here it is home exactly.
  for (std::int64_t n = 1; n < 200; ++n)
    for (std::int64_t k = 0; k < n; ++k) QCOMPARE(lapPhase({k, n}, n, 0), 0.0);
  // A million frames with a thousand laps stay within the range of integers.
  const double u = lapPhase({999999, 1000000}, 1000, 0);
  QVERIFY(u > 0.998 && u < 1);
  // Backwards is forwards, mirrored.
  for (std::int64_t k = 1; k < 30; ++k) QCOMPARE(lapPhase({k, 30}, -1, 0), lapPhase({30 - k, 30}, 1, 0));
}

void TestLoop::differentFrames_data() {
  QTest::addColumn<qint64>("frames");
  QTest::addColumn<qint64>("laps");
  QTest::addColumn<qint64>("different");
  QTest::newRow("nothing moves") << qint64{300} << qint64{0} << qint64{1};
  QTest::newRow("once round") << qint64{300} << qint64{1} << qint64{300};
  QTest::newRow("four laps") << qint64{300} << qint64{4} << qint64{75};
  QTest::newRow("laps that share nothing with the frames") << qint64{300} << qint64{7} << qint64{300};
  QTest::newRow("laps that share a part") << qint64{300} << qint64{8} << qint64{75};
}

void TestLoop::differentFrames() {
  QFETCH(qint64, frames);
  QFETCH(qint64, laps);
  QFETCH(qint64, different);
  QCOMPARE(distinctFrames(frames, laps), std::int64_t{different});
  // The definition itself: that many frames later every phase is the same again.
  if (laps != 0)
    for (std::int64_t k = 0; k < frames; ++k) QCOMPARE(lapPhase({k + different, frames}, laps, 0.25), lapPhase({k, frames}, laps, 0.25));
}

void TestLoop::easingMatchesTheStandard_data() {
  QTest::addColumn<QString>("name");
  QTest::addColumn<double>("at");
  QTest::addColumn<double>("expected");
  // Solved from the Béziers of CSS Easing Functions Level 1 with 30 digits.
  QTest::newRow("linear") << "linear" << 0.37 << 0.37;
  QTest::newRow("ease, middle") << "ease" << 0.5 << 0.8024033877399;
  QTest::newRow("ease-in, middle") << "ease-in" << 0.5 << 0.3153568125725;
  QTest::newRow("ease-out, middle") << "ease-out" << 0.5 << 0.6846431874275;
  QTest::newRow("ease-in-out, middle") << "ease-in-out" << 0.5 << 0.5;
  QTest::newRow("ease-in-out, quarter") << "ease-in-out" << 0.25 << 0.1291616508;
}

void TestLoop::easingMatchesTheStandard() {
  QFETCH(QString, name);
  QFETCH(double, at);
  QFETCH(double, expected);
  const auto pace = Pace::fromName(name.toStdString());
  QVERIFY(pace.has_value());
  QVERIFY2(std::abs(pace->at(at) - expected) < 1e-6, qPrintable(QString::number(pace->at(at), 'g', 12)));
  QCOMPARE(pace->at(0), 0.0);
  QCOMPARE(pace->at(1), 1.0);
  // Named curves never run backwards.
  for (int i = 0; i < 200; ++i) QVERIFY(pace->at((i + 1) / 200.0) >= pace->at(i / 200.0));
}

void TestLoop::ownCurvesAreBounded() {
  QVERIFY(Pace::fromBezier(0.3, -1, 0.7, 2).has_value());
  for (const auto& bad :
       {std::array<double, 4>{-0.1, 0, 1, 1}, {0, 0, 1.1, 1}, {0, 5, 1, 1}, {0, 0, 1, -5}, {std::nan(""), 0, 1, 1}, {0, INFINITY, 1, 1}})
    QVERIFY(!Pace::fromBezier(bad[0], bad[1], bad[2], bad[3]).has_value());
  const auto unknown = Pace::fromName("bouncy");
  QVERIFY(!unknown && unknown.error().message.find("ease-in-out") != std::string::npos);
  // Steep curves still start and end where they must.
  const auto steep = Pace::fromBezier(1, 0, 0, 1);
  QVERIFY(steep && steep->at(0.4999) < 0.5 && steep->at(0.5001) > 0.5);
  QCOMPARE(steep->name(), std::string());
}

void TestLoop::swingsComeHome() {
  for (const auto& name : swingShapeNames()) {
    const auto shape = swingShapeFromName(name);
    QVERIFY(shape.has_value());
    const HoldShares shares{0.3, 0.2, 0.3};
    QVERIFY(std::abs(swingAt(*shape, shares, 0)) < 1e-12);
    double highest = 0;
    double steepest = 0;
    for (int i = 0; i < 1000; ++i) {
      const double here = swingAt(*shape, shares, i / 1000.0);
      QVERIFY(here >= 0 && here <= 1);
      highest = std::max(highest, here);
      steepest = std::max(steepest, std::abs(swingAt(*shape, shares, (i + 1) / 1000.0) - here));
      // Read modulo a lap, whichever way round.
      QVERIFY(std::abs(swingAt(*shape, shares, i / 1000.0 - 3) - here) < 1e-9);
    }
    QVERIFY2(highest > 0.999, name.c_str());
    // Nothing jumps: a step of a thousandth moves by a hundredth at most.
    QVERIFY2(steepest < 0.01, name.c_str());
  }
}

void TestLoop::holdSharesAreKept() {
  const HoldShares shares{0.1, 0.5, 0.2};
  int up = 0;
  int down = 0;
  for (int i = 0; i < 1000; ++i) {
    const double w = swingAt(SwingShape::Hold, shares, (i + 0.5) / 1000);
    up += w == 1;
    down += w == 0;
  }
  QVERIFY(std::abs(up - 500) <= 2);
  QVERIFY(std::abs(down - 200) <= 2);
  // A share of nothing is a jump, not a division by zero.
  for (int i = 0; i < 100; ++i) QVERIFY(std::isfinite(swingAt(SwingShape::Hold, {0, 0, 0}, i / 100.0)));
  QCOMPARE(swingAt(SwingShape::Hold, {0, 1, 0}, 0.5), 1.0);
}

void TestLoop::namesRoundTrip() {
  for (const auto& name : Pace::names()) QCOMPARE(Pace::fromName(name)->name(), name);
  for (const auto& name : swingShapeNames()) QCOMPARE(std::string(swingShapeName(*swingShapeFromName(name))), name);
  QVERIFY(!swingShapeFromName("sawtooth"));
}

QTEST_GUILESS_MAIN(TestLoop)
#include "tst_loop.moc"
