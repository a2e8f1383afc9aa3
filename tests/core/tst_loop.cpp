// Time as a circle: phases, laps, paces, swings.
#include <QTest>
#include <algorithm>
#include <cmath>

#include "base/numbers.h"
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
  void linesAndStepsMatchTheStandard();
  void cssIsReadBack();
  void springsAndBouncesComeToRest();
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

// Values worked out by hand after the standard's algorithms.
void TestLoop::linesAndStepsMatchTheStandard() {
  const auto at = [](const char* css, double u) {
    const auto pace = Pace::fromCss(css);
    return pace ? pace->at(u) : -99;
  };
  struct Known {
    const char* css;
    double u, done;
  };
  for (const Known& k : std::initializer_list<Known>{{"linear(0, 0.5 25% 75%, 1)", 0.1, 0.2},
                                                     {"linear(0, 0.5 25% 75%, 1)", 0.5, 0.5},
                                                     {"linear(0, 0.5 25% 75%, 1)", 0.9, 0.8},
                                                     {"linear(0, 1, 0.5, 1)", 1.0 / 3, 1},
                                                     {"linear(0, 1, 0.5, 1)", 0.5, 0.75},
                                                     // One that would go back in time stands where the one before it does.
                                                     {"linear(0, 0.8 60%, 0.4 20%, 1)", 0.6, 0.4},
                                                     {"linear(0, 0.8 60%, 0.4 20%, 1)", 0.3, 0.4},
                                                     {"animation-timing-function: steps(4);", 0, 0},
                                                     {"steps(4)", 0.2499, 0},
                                                     {"steps(4, end)", 0.25, 0.25},
                                                     {"steps(4, jump-end)", 0.999, 0.75},
                                                     {"steps(4, jump-start)", 0, 0.25},
                                                     {"steps(4, start)", 0.75, 1},
                                                     {"steps(4, jump-none)", 0.5, 2.0 / 3},
                                                     {"steps(4, jump-both)", 0, 0.2},
                                                     {"steps(4, jump-both)", 0.99, 0.8},
                                                     {"STEP-END", 0.99, 0},
                                                     {"step-start", 0, 1},
                                                     {" cubic-bezier( 0.42 , 0 , 1 , 1 ) ", 0.5, 0.3153568}})
    QVERIFY2(std::abs(at(k.css, k.u) - k.done) < 1e-6, qPrintable(QString("%1 at %2: %3").arg(k.css).arg(k.u).arg(at(k.css, k.u))));
}

void TestLoop::cssIsReadBack() {
  std::vector<Pace> paces{*Pace::fromBezier(0.1, -0.5, 0.9, 1.5), Pace::spring(5, 0.55), Pace::bounce(3, 0.3)};
  for (const auto& name : Pace::names()) paces.push_back(*Pace::fromName(name));
  for (const StepJump jump : {StepJump::End, StepJump::Start, StepJump::None, StepJump::Both}) paces.push_back(*Pace::fromSteps(7, jump));
  for (int seed = 1; seed <= 50; ++seed) {
    std::vector<PaceStop> stops{{0, 0}};
    for (int i = 1; i < 2 + seed % 30; ++i)
      stops.push_back({fract(std::sin(seed * 12.9898 + i) * 43758.5453), std::sin(seed + i * 3.7) * 4});
    std::sort(stops.begin(), stops.end(), [](const PaceStop& a, const PaceStop& b) { return a.at < b.at; });
    stops.front() = {0, 0};
    stops.push_back({1, 1});
    const auto pace = Pace::fromLines(stops);
    QVERIFY2(pace, pace ? "" : pace.error().message.c_str());
    paces.push_back(*pace);
  }
  for (const Pace& pace : paces) {
    const auto again = Pace::fromCss(pace.css());
    QVERIFY2(again && *again == pace, pace.css().c_str());
    QCOMPARE(pace.at(1), 1.0);
  }
  for (const std::string bad : {"",
                                "bouncy(1)",
                                "linear()",
                                "linear(0)",
                                "linear(0.2, 1)",
                                "linear(0, 0.5)",
                                "linear(0, x, 1)",
                                "linear(0 1% 2% 3%, 1)",
                                "linear(0, 5, 1)",
                                "linear(0, nan, 1)",
                                "linear(0, 1 150%, 1 200%)",
                                "steps(0)",
                                "steps(2.5)",
                                "steps(1, jump-none)",
                                "steps(4, sometimes)",
                                "steps(99999)",
                                "cubic-bezier(0, 0, 1)",
                                "cubic-bezier(2, 0, 1, 1)",
                                "steps(4",
                                "(",
                                ")"}) {
    const auto pace = Pace::fromCss(bad);
    QVERIFY2(!pace && pace.error().message.size() > 10, bad.c_str());
  }
  std::string endless = "linear(0";
  for (int i = 0; i < 3000; ++i) endless += ",0";
  QVERIFY(!Pace::fromCss(endless + ",1)"));
  QVERIFY(!Pace::fromCss(std::string(1000000, '(')));
}

void TestLoop::springsAndBouncesComeToRest() {
  for (const int count : {1, 2, 5, 8})
    for (const double hold : {0.2, 0.6}) {
      const Pace spring = Pace::spring(count, hold);
      const Pace bounce = Pace::bounce(count, hold);
      QCOMPARE(spring.at(0), 0.0);
      QCOMPARE(bounce.at(0), 0.0);
      int crossings = 0;
      int touches = 0;
      double farthest = 9;  // of the swing before
      double far = 0;
      for (int i = 1; i <= 4000; ++i) {
        const double before = spring.at((i - 1) / 4000.0) - 1;
        const double here = spring.at(i / 4000.0) - 1;
        far = std::max(far, std::abs(here));
        if (before * here < 0) {
          ++crossings;
          QVERIFY2(far < farthest, qPrintable(QString("%1 %2").arg(far).arg(farthest)));
          farthest = far;
          far = 0;
        }
        const double fallen = bounce.at(i / 4000.0);
        QVERIFY(fallen <= 1 && fallen >= 0);
        touches += fallen > 0.99 && bounce.at((i - 1) / 4000.0) <= 0.99;
      }
      // Small swings at the end are straightened away.
      QVERIFY2(crossings >= 1 && crossings <= count + 1, qPrintable(QString::number(crossings)));
      if (hold > 0.5) QVERIFY(crossings >= count - 1);
      QVERIFY(touches >= 1 && touches <= count + 1);
      QVERIFY(spring.stops().size() <= kMaxPaceStops);
    }
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
