// Switches: off, on for their share, faded or hard, flickering, by time and by sound; closed, and as they were saved.
#include <QTest>
#include <algorithm>
#include <cmath>

#include "loop/switch.h"
#include "params/first_motion.h"
#include "params/param_json.h"
#include "scene/scene_json.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

double measured(const HoldShares& shares, const Flicker& flicker, double above) {
  int count = 0;
  constexpr int kSteps = 10000;
  for (int i = 0; i < kSteps; ++i) count += switchAt(shares, flicker, (i + 0.5) / kSteps) > above;
  return static_cast<double>(count) / kSteps;
}

Param switched(double off, double on, const HoldShares& shares) {
  Param param;
  param.base = off;
  param.motion.kind = MotionKind::Switch;
  param.motion.far = on;
  param.motion.shares = shares;
  return param;
}

}  // namespace

class TestSwitch : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void itIsOnForItsShare();
  void hardOnesJumpAndFadedOnesDoNot();
  void flickerIsLessAndNeverMore();
  void everyFrameComesRound();
  void bySoundItIsOnWhileItIsLoud();
  void itBeginsWithAllOfAShare();
  void sharesFitIntoALap();
  void itIsSaved();
};

void TestSwitch::itIsOnForItsShare() {
  for (const HoldShares& shares : {HoldShares{0, 0.3, 0}, {0.1, 0.2, 0.3}, {0, 1, 0}, {0.5, 0, 0.5}, {0, 0, 0}}) {
    QVERIFY(std::abs(measured(shares, {}, 0.999999) - shares.hold) < 0.01);
    QVERIFY(std::abs(measured(shares, {}, 0) - (shares.up + shares.hold + shares.down)) < 2e-4);
    // Half of each fade lies above its half.
    QVERIFY(std::abs(measured(shares, {}, 0.5) - (shares.hold + (shares.up + shares.down) / 2)) < 2e-3);
  }
}

void TestSwitch::hardOnesJumpAndFadedOnesDoNot() {
  double jump[2] = {};
  for (const bool faded : {false, true})
    for (int i = 0; i < 5000; ++i) {
      const HoldShares shares = faded ? HoldShares{0.1, 0.3, 0.1} : HoldShares{0, 0.4, 0};
      jump[faded] = std::max(jump[faded], std::abs(switchAt(shares, {}, (i + 1) / 5000.0) - switchAt(shares, {}, i / 5000.0)));
    }
  QCOMPARE(jump[0], 1.0);
  QVERIFY(jump[1] < 0.004);
}

void TestSwitch::flickerIsLessAndNeverMore() {
  const HoldShares shares{0.1, 0.7, 0.1};
  int lower = 0;
  for (int i = 0; i < 5000; ++i) {
    const double u = i / 5000.0;
    const double steady = switchAt(shares, {}, u);
    const double half = switchAt(shares, {0.5, 20, 7}, u);
    const double whole = switchAt(shares, {1, 20, 7}, u);
    QVERIFY(half <= steady + 1e-12 && whole <= half + 1e-12 && whole >= 0);
    QVERIFY(half >= 0.5 * steady - 1e-12);
    lower += whole < 0.9 * steady;
  }
  QVERIFY(lower > 1000 && lower < 4000);
  // It changes as often as it may, and another seed is another flicker.
  int changes = 0;
  bool other = false;
  for (int i = 1; i < 2000; ++i) {
    const HoldShares on{0, 1, 0};
    changes += switchAt(on, {1, 20, 7}, i / 2000.0) != switchAt(on, {1, 20, 7}, (i - 1) / 2000.0);
    other = other || switchAt(on, {1, 20, 7}, i / 2000.0) != switchAt(on, {1, 20, 8}, i / 2000.0);
  }
  QVERIFY(changes > 8 && changes < 20);
  QVERIFY(other);
}

void TestSwitch::everyFrameComesRound() {
  Scene scene = test::oneLayer("flat", 40, 30, 48);
  Param& opacity = scene.layers[0].opacity;
  opacity = switched(1, 0.1, {0.1, 0.3, 0.1});
  opacity.motion.laps = 3;
  opacity.motion.start = 0.2;
  opacity.motion.flicker = 0.8;
  opacity.motion.knots = 11;
  for (const int k : {0, 5, 17, 40}) {
    const auto here = test::renderFloat(scene, k);
    QVERIFY(test::renderFloat(scene, k + 48).rgba == here.rgba);
    QVERIFY(test::renderFloat(scene, k + 16).rgba == here.rgba);  // three laps in the loop
  }
  QVERIFY(test::renderFloat(scene, 0).rgba != test::renderFloat(scene, 8).rgba);
}

void TestSwitch::bySoundItIsOnWhileItIsLoud() {
  for (int i = 0; i <= 100; ++i) {
    const double level = i / 100.0;
    const double height = switchedBy(level, 0.5, {}, 0.3);
    if (level <= 0.44) QCOMPARE(height, 0.0);
    if (level >= 0.56) QCOMPARE(height, 1.0);
    QVERIFY(height <= switchedBy(level + 0.01, 0.5, {}, 0.3) + 1e-12);
  }
  Param param = switched(0, 1, {0, 0.5, 0});
  QVERIFY(!followsSound(param.motion));
  param.motion.over = 0.4;
  param.motion.laps = 5;
  QVERIFY(followsSound(param.motion));
  QCOMPARE(lapsOf(param.motion), std::int64_t{1});
  // Without a sound it is off.
  QCOMPARE(std::get<double>(evaluate(opacitySpec(), param, {3, 20}).value), 0.0);
}

void TestSwitch::itBeginsWithAllOfAShare() {
  Param opacity = defaultParam(opacitySpec());
  const Motion first = firstMotion(opacitySpec(), opacity, MotionKind::Switch);
  QCOMPARE(std::get<double>(first.far), 0.0);
  QVERIFY(first.shares.hold > 0.2 && first.shares.up + first.shares.hold + first.shares.down < 0.8);
}

void TestSwitch::sharesFitIntoALap() {
  const auto of = [](const HoldShares& s, HoldPart part) { return part == HoldPart::Up ? s.up : part == HoldPart::Hold ? s.hold : s.down; };
  for (const HoldShares& before : {HoldShares{0.2, 0.5, 0.1}, {0, 1, 0}, {0.3, 0.3, 0.4}, {0, 0, 0}})
    for (const HoldPart part : {HoldPart::Up, HoldPart::Hold, HoldPart::Down})
      for (const double v : {-1.0, 0.0, 0.15, 0.6, 1.0, 3.0}) {
        const HoldShares s = withShare(before, part, v);
        QCOMPARE(of(s, part), std::clamp(v, 0.0, 1.0));
        QVERIFY(s.up >= 0 && s.hold >= 0 && s.down >= 0 && s.up + s.hold + s.down <= 1 + 1e-12);
        // What there is room for stays as it was.
        for (const HoldPart other : {HoldPart::Up, HoldPart::Hold, HoldPart::Down}) {
          if (other == part) continue;
          QVERIFY(of(s, other) <= of(before, other));
          if (before.up + before.hold + before.down - of(before, part) + of(s, part) <= 1) QCOMPARE(of(s, other), of(before, other));
        }
      }
}

void TestSwitch::itIsSaved() {
  Scene scene = test::oneLayer("flat");
  scene.layers[0].opacity = switched(1, 0.25, {0.1, 0.3, 0.2});
  Motion& motion = scene.layers[0].opacity.motion;
  motion.flicker = 0.5;
  motion.over = 0.35;
  motion.band = SoundBand::Low;
  motion.knots = 30;
  motion.seed = 12;
  const auto again = sceneFromText(sceneToText(scene));
  QVERIFY(again.has_value());
  QVERIFY(again->layers[0].opacity == scene.layers[0].opacity);
  for (const char* bad : {"\"flicker\": 1.5", "\"flicker\": -0.1", "\"flicker\": \"much\"", "\"flicker\": []"}) {
    std::string text = sceneToText(scene);
    const std::string good = "\"flicker\": 0.5";
    text.replace(text.find(good), good.size(), bad);
    const auto refused = sceneFromText(text);
    QVERIFY2(!refused && refused.error().sentence().find("flicker") != std::string::npos, bad);
  }
}

QTEST_GUILESS_MAIN(TestSwitch)
#include "tst_switch.moc"
