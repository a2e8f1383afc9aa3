// Keyframes, wander, hops and stills: values at their places, and home at the end of every lap.
#include <QTest>
#include <nlohmann/json.hpp>
#include <cmath>
#include <set>

#include "loop/random_walk.h"
#include "params/param_json.h"
#include "scene/scene_json.h"
#include "support/scenes.h"

using namespace oa;

namespace {

const ParamSpec kNumber{.id = "n", .label = "N", .help = "a test", .base = 5.0, .min = 0, .max = 10};
const ParamSpec kAngle{
    .id = "a", .label = "A", .help = "a test", .type = ParamType::Angle, .base = 0.0, .min = -3600, .max = 3600, .rule = LoopRule::Round};
const ParamSpec kPlace{.id = "p", .label = "P", .help = "a test", .type = ParamType::Point, .base = Point{0.5, 0.5}, .min = 0, .max = 1};
const ParamSpec kPaint{.id = "c", .label = "C", .help = "a test", .type = ParamType::Colour, .base = Colour{0, 0, 0, 1}};

Param keyed(std::vector<Keyframe> keys) {
  Param p = defaultParam(kNumber);
  p.motion.kind = MotionKind::Keyframes;
  for (Keyframe& k : keys) placeKeyframe(p.motion, std::move(k));
  return p;
}

double numberAt(const Param& p, std::int64_t k, std::int64_t n) { return std::get<double>(evaluate(kNumber, p, {k, n}).value); }

Param walking(const ParamSpec& spec, MotionKind kind, const Value& far, int knots, int laps = 1) {
  Param p = defaultParam(spec);
  p.motion.kind = kind;
  p.motion.far = far;
  p.motion.knots = knots;
  p.motion.laps = laps;
  p.motion.seed = 7;
  return p;
}

}  // namespace

class TestMotionsCore : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void keyframesAreMetExactly();
  void theClosingStretchIsImplied();
  void holdAndPaceBelongToTheirStretch();
  void keyframesOfPointsAndColours();
  void placingKeepsTheOrder();
  void wanderClosesInValueSlopeAndCurvature();
  void wanderStaysWithinItsReach();
  void hopsAreHeldEquallyLong();
  void unevenHopsAreOfferedEvenOnes();
  void hopsOfTheUsersOwn();
  void everyMotionIsHomeToTheLastBit();
  void stillsAreCounted();
  void whatReallyMoves();
  void motionsSurviveTheirFile();
  void badMotionsAreNamed_data();
  void badMotionsAreNamed();
};

void TestMotionsCore::keyframesAreMetExactly() {
  const Param p = keyed({{0.0, 1.0, {}, false}, {0.25, 4.0, {}, false}, {0.75, 2.0, {}, false}});
  QCOMPARE(numberAt(p, 0, 100), 1.0);
  QCOMPARE(numberAt(p, 25, 100), 4.0);
  QCOMPARE(numberAt(p, 75, 100), 2.0);
  // Straight between them.
  QVERIFY(std::abs(numberAt(p, 10, 100) - 2.2) < 1e-9);
  QVERIFY(std::abs(numberAt(p, 50, 100) - 3.0) < 1e-9);
}

void TestMotionsCore::theClosingStretchIsImplied() {
  // No keyframe at the joint: the last stretch runs across it.
  const Param p = keyed({{0.2, 0.0, {}, false}, {0.8, 10.0, {}, false}});
  QVERIFY(std::abs(numberAt(p, 0, 100) - 5) < 1e-9);
  QVERIFY(std::abs(numberAt(p, 90, 100) - 7.5) < 1e-9);
  QVERIFY(std::abs(numberAt(p, 10, 100) - 2.5) < 1e-9);
  // One keyframe alone is a value at rest, none is the base.
  QCOMPARE(numberAt(keyed({{0.3, 8.0, {}, false}}), 77, 100), 8.0);
  QCOMPARE(numberAt(keyed({}), 77, 100), 5.0);
}

void TestMotionsCore::holdAndPaceBelongToTheirStretch() {
  const auto ease = *Pace::fromName("ease-in");
  const Param p = keyed({{0.0, 0.0, {}, true}, {0.5, 10.0, ease, false}});
  for (int k = 0; k < 50; ++k) QCOMPARE(numberAt(p, k, 100), 0.0);
  QCOMPARE(numberAt(p, 50, 100), 10.0);
  for (int k = 51; k < 100; ++k) QVERIFY(std::abs(numberAt(p, k, 100) - 10 * (1 - ease.at((k - 50) / 50.0))) < 1e-9);
}

void TestMotionsCore::keyframesOfPointsAndColours() {
  Param place = defaultParam(kPlace);
  place.motion.kind = MotionKind::Keyframes;
  placeKeyframe(place.motion, {0, Point{0, 1}, {}, false});
  placeKeyframe(place.motion, {0.5, Point{1, 0}, {}, false});
  QVERIFY((std::get<Point>(evaluate(kPlace, place, {25, 100}).value) == Point{0.5, 0.5}));
  Param paint = defaultParam(kPaint);
  paint.motion.kind = MotionKind::Keyframes;
  placeKeyframe(paint.motion, {0, Colour{1, 0, 0, 1}, {}, false});
  placeKeyframe(paint.motion, {0.5, Colour{0, 0, 1, 1}, {}, false});
  const Colour half = std::get<Colour>(evaluate(kPaint, paint, {25, 100}).value);
  const Colour expected = mixColours({1, 0, 0, 1}, {0, 0, 1, 1}, 0.5, ColourMixing::OkLab);
  QVERIFY(std::abs(half.r - expected.r) < 1e-6f && std::abs(half.b - expected.b) < 1e-6f);
}

void TestMotionsCore::placingKeepsTheOrder() {
  Motion motion;
  for (const double at : {0.7, 0.2, 0.95, 0.0, 0.2}) placeKeyframe(motion, {at, at * 10, {}, false});
  QCOMPARE(motion.keys.size(), std::size_t{4});
  for (std::size_t i = 1; i < motion.keys.size(); ++i) QVERIFY(motion.keys[i].at > motion.keys[i - 1].at);
  placeKeyframe(motion, {0.2, 9.0, {}, false});
  QCOMPARE(motion.keys.size(), std::size_t{4});
  QCOMPARE(std::get<double>(motion.keys[1].value), 9.0);
}

void TestMotionsCore::wanderClosesInValueSlopeAndCurvature() {
  constexpr double h = 1e-4;
  for (const int knots : {2, 3, 5, 16, 64})
    for (const std::uint64_t seed : {1u, 2u, 99u}) {
      const auto w = [&](double u) { return wanderAt(seed, knots, u); };
      QVERIFY(std::abs(w(0) - w(1 - 1e-12)) < 1e-6);
      const double slopeAfter = (w(h) - w(0)) / h;
      const double slopeBefore = (w(0) - w(1 - h)) / h;
      const double curved = std::abs(w(2 * h) - 2 * w(h) + w(0)) / (h * h) + std::abs(w(1 - 2 * h) - 2 * w(1 - h) + w(0)) / (h * h);
      QVERIFY(std::abs(slopeAfter - slopeBefore) < 2 * h * (curved + 1) + 1e-6);
      // Through its knots, from 0 to 1.
      double low = 1;
      double high = 0;
      for (int j = 0; j < knots; ++j) {
        low = std::min(low, w(static_cast<double>(j) / knots));
        high = std::max(high, w(static_cast<double>(j) / knots));
      }
      QVERIFY(std::abs(low) < 1e-9 && std::abs(high - 1) < 1e-9);
    }
}

void TestMotionsCore::wanderStaysWithinItsReach() {
  const Param p = walking(kPlace, MotionKind::Wander, Point{0.7, 0.55}, 8);
  double left = 1, right = 0, up = 1, down = 0;
  bool apart = false;
  for (int k = 0; k < 400; ++k) {
    const Point v = std::get<Point>(evaluate(kPlace, p, {k, 400}).value);
    left = std::min(left, v.x);
    right = std::max(right, v.x);
    up = std::min(up, v.y);
    down = std::max(down, v.y);
    apart = apart || std::abs((v.x - 0.5) / 0.2 - (v.y - 0.5) / 0.05) > 0.3;
  }
  // About its base, to both sides, each direction by its own reach and on its own way; a spline swings a little beyond.
  QVERIFY(left < 0.32 && left > 0.2 && right > 0.68 && right < 0.8);
  QVERIFY(up < 0.46 && up > 0.42 && down > 0.54 && down < 0.58);
  QVERIFY(apart);
  // Never outside the hard range.
  const Param wide = walking(kNumber, MotionKind::Wander, 10.0, 12);
  for (int k = 0; k < 400; ++k) QVERIFY(numberAt(wide, k, 400) >= 0 && numberAt(wide, k, 400) <= 10);
}

void TestMotionsCore::hopsAreHeldEquallyLong() {
  const Param p = walking(kNumber, MotionKind::Hops, 9.0, 6, 2);
  std::map<double, int> frames;
  int jumps = 0;
  for (int k = 0; k < 120; ++k) {
    ++frames[numberAt(p, k, 120)];
    jumps += numberAt(p, k, 120) != numberAt(p, k + 1, 120);
  }
  QCOMPARE(frames.size(), std::size_t{6});
  for (const auto& [value, count] : frames) QCOMPARE(count, 20);
  QCOMPARE(jumps, 12);
  // Every place once a lap, evenly from one side of the base to the other.
  QVERIFY(std::abs(frames.begin()->first - 1) < 1e-9 && std::abs(frames.rbegin()->first - 9) < 1e-9);
}

void TestMotionsCore::unevenHopsAreOfferedEvenOnes() {
  QCOMPARE(evenHops(300, 1, 7), 6);
  QCOMPARE(evenHops(300, 1, 6), 6);
  QCOMPARE(evenHops(300, -2, 7), 6);
  QCOMPARE(evenHops(97, 1, 5), 1);
  QCOMPARE(evenHops(240, 1, 13), 12);
  // Any number works all the same: stills differ by one frame at most.
  const Param p = walking(kNumber, MotionKind::Hops, 9.0, 7);
  std::map<double, int> frames;
  for (int k = 0; k < 300; ++k) ++frames[numberAt(p, k, 300)];
  QCOMPARE(frames.size(), std::size_t{7});
  for (const auto& [value, count] : frames) QVERIFY(count == 42 || count == 43);
}

void TestMotionsCore::hopsOfTheUsersOwn() {
  Param p = walking(kNumber, MotionKind::Hops, 9.0, 6);
  p.motion.list = {1.0, 7.0, 3.0};
  QCOMPARE(hopCount(p.motion), 3);
  QCOMPARE(numberAt(p, 0, 90), 1.0);
  QCOMPARE(numberAt(p, 29, 90), 1.0);
  QCOMPARE(numberAt(p, 30, 90), 7.0);
  QCOMPARE(numberAt(p, 60, 90), 3.0);
}

void TestMotionsCore::everyMotionIsHomeToTheLastBit() {
  for (const MotionKind kind : {MotionKind::Keyframes, MotionKind::Wander, MotionKind::Hops})
    for (const int laps : {1, 3, -2, 7})
      for (const std::int64_t n : {1, 7, 100, 997}) {
        Param p = walking(kNumber, kind, 8.0, 5, laps);
        p.motion.start = 0.37;
        placeKeyframe(p.motion, {0.1, 2.0, *Pace::fromName("ease"), false});
        placeKeyframe(p.motion, {0.8, 7.0, {}, false});
        for (const std::int64_t k : {std::int64_t{0}, n / 3, n - 1}) {
          QCOMPARE(numberAt(p, k + n, n), numberAt(p, k, n));
          QCOMPARE(numberAt(p, k - 4 * n, n), numberAt(p, k, n));
        }
        Param angle = p;
        QVERIFY(std::isfinite(std::get<double>(evaluate(kAngle, angle, {n / 2, n}).value)));
      }
}

void TestMotionsCore::stillsAreCounted() {
  const ParamSpec held{.id = "held",
                       .label = "Held",
                       .help = "a test",
                       .type = ParamType::Integer,
                       .base = 4.0,
                       .min = 0,
                       .max = 100,
                       .rule = LoopRule::Held};
  Param p = defaultParam(held);
  for (int k = -10; k < 22; ++k) QCOMPARE(evaluate(held, p, {k, 10}).progress, std::floor(((k % 10 + 10) % 10) / 4.0));
  QVERIFY(!held.canMove() && reallyMoves(held, p));
  p.base = 0.0;
  QCOMPARE(evaluate(held, p, {7, 10}).progress, 0.0);
  QVERIFY(!reallyMoves(held, p));
}

void TestMotionsCore::whatReallyMoves() {
  QVERIFY(!reallyMoves(kNumber, keyed({{0, 3.0, {}, false}, {0.5, 3.0, {}, false}})));
  QVERIFY(reallyMoves(kNumber, keyed({{0, 3.0, {}, false}, {0.5, 4.0, {}, false}})));
  QVERIFY(!reallyMoves(kNumber, walking(kNumber, MotionKind::Wander, 5.0, 4)));
  QVERIFY(reallyMoves(kNumber, walking(kNumber, MotionKind::Wander, 6.0, 4)));
  QVERIFY(!reallyMoves(kNumber, walking(kNumber, MotionKind::Hops, 6.0, 1)));
}

void TestMotionsCore::motionsSurviveTheirFile() {
  Param p = walking(kNumber, MotionKind::Hops, 8.0, 9, -3);
  p.motion.start = 0.25;
  p.motion.list = {1.0, 2.5};
  placeKeyframe(p.motion, {0.125, 2.0, *Pace::fromName("ease-out"), false});
  placeKeyframe(p.motion, {0.5, 7.0, {}, true});
  for (const MotionKind kind : {MotionKind::Still, MotionKind::Keyframes, MotionKind::Wander, MotionKind::Hops}) {
    p.motion.kind = kind;
    const auto again = paramFromJson(kNumber, paramToJson(kNumber, p), "here");
    QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
    QVERIFY(*again == p);
  }
}

void TestMotionsCore::badMotionsAreNamed_data() {
  QTest::addColumn<QString>("motion");
  QTest::addColumn<QString>("where");
  QTest::newRow("a closing keyframe") << R"({"kind":"keyframes","keys":[{"at":1,"value":2}]})"
                                      << "keys[0].at";
  QTest::newRow("a value out of range") << R"({"kind":"keyframes","keys":[{"at":0.5,"value":99}]})"
                                        << "keys[0].value";
  QTest::newRow("no value") << R"({"kind":"keyframes","keys":[{"at":0.5}]})"
                            << "keys[0]";
  QTest::newRow("an unknown pace") << R"({"kind":"keyframes","keys":[{"at":0.5,"value":1,"pace":"bouncy"}]})"
                                   << "keys[0].pace";
  QTest::newRow("keys that are none") << R"({"kind":"keyframes","keys":7})"
                                      << "keys";
  QTest::newRow("knots out of range") << R"({"kind":"wander","knots":65})"
                                      << "knots";
  QTest::newRow("half a knot") << R"({"kind":"wander","knots":2.5})"
                               << "knots";
  QTest::newRow("a list of words") << R"({"kind":"hops","values":["high"]})"
                                   << "values[0]";
}

void TestMotionsCore::badMotionsAreNamed() {
  QFETCH(QString, motion);
  QFETCH(QString, where);
  const auto bad = paramFromJson(kNumber, Json{{"value", 5}, {"motion", Json::parse(motion.toStdString())}}, "n");
  QVERIFY(!bad);
  QCOMPARE(QString::fromStdString(bad.error().where), QStringLiteral("n.motion.") + where);
}

QTEST_GUILESS_MAIN(TestMotionsCore)
#include "tst_motions_core.moc"
