// Keyframes taken together, and curves told by hand.
#include <QTest>
#include <algorithm>
#include <cmath>
#include <numbers>
#include <random>

#include "edit/closed_curve.h"
#include "edit/keyframes.h"
#include "edit/recorded.h"
#include "loop/pace_reversed.h"
#include "params/param.h"
#include "support/scenes.h"

using namespace oa;
using namespace oa::edit;

namespace {

const ParamSpec kNumber{.id = "n", .label = "N", .help = "A number.", .base = 0.0, .min = -10, .max = 10};
const ParamSpec kSpot{.id = "p", .label = "P", .help = "A place.", .type = ParamType::Point, .base = Point{0.5, 0.5}, .min = -4, .max = 4};

Motion withKeys(const std::vector<double>& places) {
  Motion m;
  m.kind = MotionKind::Keyframes;
  double value = 1;
  for (const double at : places) {
    Keyframe key;
    key.at = at;
    key.value = value;
    key.pace = *Pace::fromBezier(0.2, 0.1 * value, 0.7, 1);
    value += 1;
    placeKeyframe(m, std::move(key));
  }
  return m;
}

// Places of those chosen along their arc.
std::vector<double> gaps(const Motion& m, const KeyNumbers& keys) {
  const KeySpan span = spanOf(m, keys);
  std::vector<double> at;
  for (const int k : keys) at.push_back(fract(m.keys[static_cast<std::size_t>(k)].at - span.from + 1e-12));
  std::sort(at.begin(), at.end());
  return at;
}

double numberOn(const Motion& m, double u) {
  Param param;
  param.base = 0.0;
  param.motion = m;
  return std::get<double>(valueOnLap(kNumber, param, fract(u)));
}

// A hand that goes on a smooth round, and trembles.
std::vector<Sample> hand(double from, double laps, double tremble, unsigned seed) {
  std::mt19937 random(seed);
  std::uniform_real_distribution<double> shake(-tremble, tremble);
  const int last = static_cast<int>(laps * 150);
  std::vector<Sample> samples;
  samples.reserve(static_cast<std::size_t>(last) + 1);
  for (int i = 0; i <= last; ++i) {
    const double t = i / 150.0;
    const double a = 2 * std::numbers::pi * (t + from);
    samples.push_back({from + t, 3 * std::sin(a) + std::sin(2 * a + seed) + shake(random)});
  }
  return samples;
}

}  // namespace

class TestKeyframes : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void theWayBackIsThePaceReversed_data();
  void theWayBackIsThePaceReversed();
  void proportionsAreKept();
  void theyGoRoundTheJoint();
  void evenIsEven();
  void mirroredTwiceIsAsBefore();
  void backwardsIsTheSameWay();
  void thereAndBackIsBoth();
  void lapsClose();
  void fewKeysComeNear();
  void aTremblingHandNeedsNoMore();
  void placesAreAsSmooth();
  void nothingMovedIsRefused();
  void theFirstLapIsFound();
  void whatChangedIsFound();
};

void TestKeyframes::theWayBackIsThePaceReversed_data() {
  QTest::addColumn<QString>("css");
  for (const char* css : {"ease", "ease-in", "cubic-bezier(0.3, -0.5, 0.2, 1.8)", "linear(0, 0.3 20%, 0.2 50%, 1)", "steps(4, jump-end)",
                          "steps(3, jump-start)", "steps(5, jump-none)", "steps(2, jump-both)"})
    QTest::newRow(css) << QString::fromLatin1(css);
}

void TestKeyframes::theWayBackIsThePaceReversed() {
  QFETCH(QString, css);
  const Pace pace = *Pace::fromCss(css.toStdString());
  const Pace back = reversed(pace);
  // Between the moments at which steps go up.
  for (int i = 1; i < 97; ++i) {
    const double u = i / 97.0;
    QVERIFY2(std::abs(back.at(u) - (1 - pace.at(1 - u))) < 1e-5, qPrintable(QString::number(u)));
  }
  QVERIFY(reversed(back) == pace);
}

void TestKeyframes::proportionsAreKept() {
  std::mt19937 random(3);
  for (int round = 0; round < 200; ++round) {
    std::vector<double> places(6);
    for (double& place : places) place = std::uniform_real_distribution<double>(0, 1)(random);
    Motion m = withKeys(places);
    KeyNumbers keys;
    for (int k = 0; k < static_cast<int>(m.keys.size()); ++k)
      if (random() % 3 != 0) keys.push_back(k);
    if (keys.size() < 2) continue;
    const KeySpan span = spanOf(m, keys);
    const auto before = gaps(m, keys);
    const bool lastStays = round % 2 == 0;
    const double length = std::uniform_real_distribution<double>(0.02, 0.95)(random);
    Motion scaled = m;
    const KeyNumbers now = scaleKeys(scaled, keys, length, lastStays);
    QCOMPARE(now.size(), keys.size());
    // The arc has its new length, measured from the end that stays; all lie in it as they did.
    const double stays = lastStays ? span.from + span.length : span.from;
    for (std::size_t i = 0; i < before.size(); ++i) {
      const double along = before[i] / span.length * length;
      const double expected = fract(lastStays ? stays - length + along : stays + along);
      const bool found = std::any_of(now.begin(), now.end(), [&](int k) {
        const double off = std::abs(scaled.keys[static_cast<std::size_t>(k)].at - expected);
        return std::min(off, 1 - off) < 1e-9;
      });
      QVERIFY2(found, qPrintable(QStringLiteral("round %1, key %2").arg(round).arg(i)));
    }
  }
  // Never all round, nor into one.
  Motion m = withKeys({0.1, 0.2, 0.4});
  scaleKeys(m, {0, 1, 2}, 5, false);
  QCOMPARE(m.keys.size(), std::size_t{3});
  scaleKeys(m, {0, 1, 2}, 0, false);
  QCOMPARE(m.keys.size(), std::size_t{3});
  QVERIFY(std::abs(spanOf(m, {0, 1, 2}).length - 0.002) < 1e-9);
}

void TestKeyframes::theyGoRoundTheJoint() {
  Motion m = withKeys({0.1, 0.5, 0.9});
  const KeySpan span = spanOf(m, {0, 2});
  QVERIFY(std::abs(span.from - 0.9) < 1e-12);
  QVERIFY(std::abs(span.length - 0.2) < 1e-12);
  const KeyNumbers now = shiftKeys(m, {0, 2}, 0.15);
  QCOMPARE(now.size(), std::size_t{2});
  QVERIFY(std::abs(m.keys[0].at - 0.05) < 1e-12);
  QVERIFY(std::abs(m.keys[1].at - 0.25) < 1e-12);
  QCOMPARE(std::get<double>(m.keys[0].value), 3.0);
  // One that was not chosen and lies where one comes to stand gives way.
  shiftKeys(m, {0}, 0.45);
  QCOMPARE(m.keys.size(), std::size_t{2});
}

void TestKeyframes::evenIsEven() {
  Motion m = withKeys({0.1, 0.15, 0.4, 0.8});
  spreadKeys(m, {0, 1, 2});
  QVERIFY(std::abs(m.keys[1].at - 0.25) < 1e-12);
  spreadKeys(m, {0, 1, 2, 3});
  for (std::size_t k = 1; k < 4; ++k) QVERIFY(std::abs(fract(m.keys[k].at - m.keys[k - 1].at) - 0.25) < 1e-12);
}

void TestKeyframes::mirroredTwiceIsAsBefore() {
  const Motion m = withKeys({0.05, 0.3, 0.42, 0.8, 0.93});
  for (const KeyNumbers& keys : {KeyNumbers{0, 1, 2}, KeyNumbers{1, 3}, KeyNumbers{0, 3, 4}, KeyNumbers{2}}) {
    Motion twice = m;
    const KeyNumbers once = mirrorKeys(twice, keys);
    if (keys.size() > 1) QVERIFY(twice.keys != m.keys);
    QVERIFY(mirrorKeys(twice, once) == keys);
    for (std::size_t k = 0; k < m.keys.size(); ++k) {
      QVERIFY(std::abs(twice.keys[k].at - m.keys[k].at) < 1e-12);
      QVERIFY(twice.keys[k].value == m.keys[k].value);
      for (int i = 0; i <= 10; ++i) QVERIFY(std::abs(twice.keys[k].pace.at(i / 10.0) - m.keys[k].pace.at(i / 10.0)) < 1e-9);
    }
  }
}

void TestKeyframes::backwardsIsTheSameWay() {
  const Motion m = withKeys({0.1, 0.25, 0.5, 0.9});
  Motion back = m;
  mirrorKeys(back, {0, 1, 2});
  for (int i = 0; i <= 40; ++i) {
    const double u = 0.1 + 0.4 * i / 40;
    QVERIFY2(std::abs(numberOn(back, u) - numberOn(m, 0.6 - u)) < 1e-6, qPrintable(QString::number(u)));
  }
}

void TestKeyframes::thereAndBackIsBoth() {
  const Motion m = withKeys({0.1, 0.3, 0.5, 0.9});
  Motion both = m;
  const KeyNumbers now = thereAndBack(both, {0, 1, 2});
  QCOMPARE(now.size(), std::size_t{5});
  for (int i = 0; i <= 20; ++i) {
    const double u = 0.2 * i / 20;
    QVERIFY(std::abs(numberOn(both, 0.1 + u) - numberOn(m, 0.1 + 2 * u)) < 1e-6);
    QVERIFY(std::abs(numberOn(both, 0.5 - u) - numberOn(both, 0.1 + u)) < 1e-6);
  }
  // It ends where it began, and as fast as it was it goes on.
  QCOMPARE(std::get<double>(both.keys[static_cast<std::size_t>(now.back())].value), 1.0);
  Motion full = m;
  while (full.keys.size() < kMaxKeyframes) placeKeyframe(full, {0.5 + 0.006 * static_cast<double>(full.keys.size()), 0.0, {}, false, {}});
  const auto before = full.keys;
  thereAndBack(full, {0, 1, 2});
  QVERIFY(full.keys == before);
}

void TestKeyframes::lapsClose() {
  for (const double laps : {0.2, 0.6, 0.95, 1.0, 2.7}) {
    const auto samples = hand(0.3, laps, 0, 5);
    const auto lap = closedLap(samples, 240);
    QCOMPARE(lap.size(), std::size_t{240});
    // From each place to the next no further than twice what the hand itself does.
    double most = 0;
    for (std::size_t i = 1; i < samples.size(); ++i) most = std::max(most, std::abs(samples[i].value - samples[i - 1].value) / (1.0 / 150));
    for (std::size_t i = 0; i < lap.size(); ++i) {
      const double step = std::abs(lap[(i + 1) % 240] - lap[i]) * 240;
      QVERIFY2(step < 2 * most + 8, qPrintable(QStringLiteral("%1 laps, place %2: %3 against %4").arg(laps).arg(i).arg(step).arg(most)));
    }
    // Where the hand was last, it is as the hand was.
    for (int i = 0; i * 0.05 < std::min(laps, 0.85); ++i) {
      const double back = i * 0.05;
      const double at = samples.back().at - back;
      const auto place = static_cast<std::size_t>(std::lround(fract(at) * 240)) % 240;
      const double a = 2 * std::numbers::pi * at;
      QVERIFY(std::abs(lap[place] - (3 * std::sin(a) + std::sin(2 * a + 5))) < 0.15);
    }
  }
}

void TestKeyframes::fewKeysComeNear() {
  for (unsigned seed = 1; seed <= 40; ++seed)
    for (const double tolerance : {0.4, 0.1, 0.03}) {
      const auto lap = closedLap(hand(0.1 * seed, 0.3 + 0.06 * seed, 0, seed), 240);
      const FewKeys few = fewKeys(lap, tolerance);
      QVERIFY2(few.off <= tolerance, qPrintable(QStringLiteral("seed %1: %2 off").arg(seed).arg(few.off)));
      QVERIFY2(few.keys.size() <= 20, qPrintable(QStringLiteral("seed %1: %2 keyframes").arg(seed).arg(few.keys.size())));
      Motion m;
      m.kind = MotionKind::Keyframes;
      m.keys = few.keys;
      for (std::size_t i = 0; i < lap.size(); ++i)
        QVERIFY(std::abs(numberOn(m, static_cast<double>(i) / 240) - lap[i]) <= tolerance + 1e-6);
      // Speed goes through every keyframe without a jump.
      for (const Keyframe& key : m.keys) {
        const double h = 1e-4;
        const double before = (numberOn(m, key.at) - numberOn(m, key.at - h)) / h;
        const double after = (numberOn(m, key.at + h) - numberOn(m, key.at)) / h;
        QVERIFY2(std::abs(after - before) < 1.5, qPrintable(QStringLiteral("seed %1: %2, then %3").arg(seed).arg(before).arg(after)));
      }
    }
}

void TestKeyframes::aTremblingHandNeedsNoMore() {
  const auto calm = fewKeys(closedLap(hand(0, 1.4, 0, 2), 240), 0.2);
  const auto shaking = fewKeys(closedLap(hand(0, 1.4, 0.06, 2), 240), 0.2);
  QVERIFY2(shaking.keys.size() <= calm.keys.size() + 2,
           qPrintable(QStringLiteral("%1 against %2").arg(shaking.keys.size()).arg(calm.keys.size())));
}

void TestKeyframes::placesAreAsSmooth() {
  Param before;
  before.base = Point{0.5, 0.5};
  std::vector<Moved> gesture;
  gesture.reserve(190);
  for (int i = 0; i < 190; ++i) {
    const double t = i * 0.005;
    const double a = 2 * std::numbers::pi * t;
    gesture.push_back({t, Point{0.5 + 0.3 * std::cos(a), 0.5 + 0.2 * std::sin(a)}});
  }
  const auto made = recorded(kSpot, before, gesture, 1, 0.03);
  QVERIFY(made.has_value());
  QCOMPARE(motionCount(made->param), std::size_t{2});
  QVERIFY(made->off <= 0.03);
  QVERIFY2(made->keys <= 12, qPrintable(QString::number(made->keys)));
  for (int i = 0; i < 90; ++i) {
    const double t = i / 100.0;
    Moment moment;
    moment.frame = i;
    moment.frames = 100;
    const Point at = std::get<Point>(evaluate(kSpot, made->param, moment).value);
    const double a = 2 * std::numbers::pi * t;
    QVERIFY2(std::hypot(at.x - 0.5 - 0.3 * std::cos(a), at.y - 0.5 - 0.2 * std::sin(a)) < 0.03, qPrintable(QString::number(t)));
  }
  // In one direction alone there is one motion.
  for (Moved& moved : gesture) std::get<Point>(moved.value).y = 0.25;
  const auto flat = recorded(kSpot, before, gesture, 3, 0.03);
  QVERIFY(flat.has_value());
  QCOMPARE(motionCount(flat->param), std::size_t{1});
  QCOMPARE(flat->param.motion.laps, 3);
  QCOMPARE(std::get<Point>(flat->param.base).y, 0.25);
}

void TestKeyframes::nothingMovedIsRefused() {
  Param before;
  before.base = 1.0;
  QVERIFY(!recorded(kNumber, before, {}, 1, 0.02));
  QVERIFY(!recorded(kNumber, before, {{0, 2.0}, {0.5, 2.0}}, 1, 0.02));
  QVERIFY(canRecord(kNumber));
  QVERIFY(canRecord(kSpot));
  ParamSpec travels = kNumber;
  travels.rule = LoopRule::Progress;
  QVERIFY(!canRecord(travels));
}

// Where the motion is at that share of its lap, it shows what the lap holds there.
void TestKeyframes::theFirstLapIsFound() {
  for (const int laps : {1, 3, -1, -4})
    for (const double start : {0.0, 0.3}) {
      Motion m = withKeys({0.1, 0.35, 0.8});
      m.laps = laps;
      m.start = start;
      Param param;
      param.base = 0.0;
      param.motion = m;
      for (const Keyframe& key : m.keys) {
        const double at = firstLapAt(m, key.at);
        QVERIFY(at >= 0 && at < 1.0 / std::abs(laps) + 1e-12);
        const Moment moment{std::llround(at * 1200000), 1200000};
        const double shown = std::get<double>(evaluate(kNumber, param, moment).value);
        QVERIFY2(std::abs(shown - std::get<double>(key.value)) < 1e-3, qPrintable(QStringLiteral("%1 laps: %2").arg(laps).arg(shown)));
      }
    }
}

void TestKeyframes::whatChangedIsFound() {
  const Layer before = test::demoScene("sea-fog.overagain").layers.back();
  QVERIFY(changedValues(before, before).empty());
  Layer after = before;
  after.opacity.base = 0.123;
  after.recipe[0].params[1].base = 77.0;
  after.recipe[0].params[2].motion.laps = 9;  // a motion is no value
  const auto changed = changedValues(before, after);
  QCOMPARE(changed.size(), std::size_t{2});
  QVERIFY((changed[0].at == MotionAddress{before.id, 0, 1}));
  QVERIFY(changed[0].before == before.recipe[0].params[1]);
  QVERIFY((changed[1].at == MotionAddress{before.id, MotionAddress::kOpacity, 0}));
  // What only one of them has is not told.
  after.recipe.push_back(after.recipe.back());
  QCOMPARE(changedValues(before, after).size(), std::size_t{2});
  QCOMPARE(changedValues(after, before).size(), std::size_t{2});
}

QTEST_APPLESS_MAIN(TestKeyframes)
#include "tst_keyframes.moc"
