// Everything in time: who comes when, whole layers spread over a lap, and what makes a loop as long as it is.
#include <QTest>
#include <algorithm>
#include <cmath>
#include <numeric>

#include "edit/layers.h"
#include "base/line.h"
#include "edit/timing.h"
#include "scene/plan.h"
#include "scene/tree.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;
using Order = edit::Spread::Order;

namespace {

// A disc that goes across and back while it breathes twice, and is there for a part of the loop only.
Scene discs(int frames) {
  Scene scene = test::oneLayer("shape", 192, 108, frames);
  test::setValue(scene, 0, 0, "width", 30.0);
  test::setValue(scene, 0, 0, "height", 30.0);
  Layer& layer = scene.layers[0];
  layer.place = defaultPlace();
  Param& position = layer.place[static_cast<std::size_t>(PlaceParam::Position)];
  position.base = Point{0.2, 0.5};
  position.motion = test::swing(Point{0.8, 0.5});
  layer.opacity.motion = test::swing(0.4, 2);
  layer.presence = {{0.1, 0.7, 0.1, 0.1}};
  assignIds(scene);
  return scene;
}

edit::Ids copies(Scene& scene, int count) {
  for (int i = 1; i < count; ++i) {
    const auto made = edit::duplicateLayers(scene, {scene.layers.back().id}, " copy");
    if (!made) qFatal("%s", made.error().message.c_str());
  }
  edit::Ids ids;
  for (const Layer& layer : scene.layers) ids.push_back(layer.id);
  return ids;
}

// The i-th layer as the only one that is seen.
std::vector<float> alone(Scene scene, std::size_t i, std::int64_t frame) {
  for (std::size_t k = 0; k < scene.layers.size(); ++k) scene.layers[k].visible = k == i;
  return test::renderFloat(scene, floorMod(frame, std::int64_t{scene.frames})).rgba;
}

double sum(const std::vector<double>& turns) { return std::accumulate(turns.begin(), turns.end(), 0.0); }

Motion turns(int laps) { return test::turn(laps); }

}  // namespace

class TestTiming : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void turnsFillALap();
  void turnsByPlaceKeepProportions();
  void turnsGoAlongALine();
  void copiesComeOneAfterTheOther();
  void linkedCopiesAndGroupsDoToo();
  void whatNeverMovesIsRefused();
  void motionsAreFoundWhereTheyAre();
  void manyAreChangedAtOnce();
  void oddRhythmsAreNamed();
  void whatRepeatsIsCutShort();
};

void TestTiming::turnsFillALap() {
  for (const std::size_t n : {1u, 2u, 3u, 6u, 7u, 40u})
    for (const double over : {1.0, 0.4}) {
      const auto turnsOf = [&](Order order, int seed = 1, bool mirrored = false) {
        return edit::turnsOf({.order = order, .over = over, .mirrored = mirrored, .seed = seed}, n);
      };
      const std::vector<double> forwards = turnsOf(Order::Forwards);
      QVERIFY(std::abs(sum(forwards) - over * (static_cast<double>(n) - 1) / 2) < 1e-9);
      std::vector<double> backwards = turnsOf(Order::Backwards);
      std::reverse(backwards.begin(), backwards.end());
      QVERIFY(backwards == forwards);
      QCOMPARE(sum(turnsOf(Order::Together)), 0.0);
      std::vector<double> random = turnsOf(Order::AtRandom, 5);
      if (n > 6) QVERIFY(random != forwards && random != turnsOf(Order::AtRandom, 6));
      std::sort(random.begin(), random.end());
      QVERIFY(random == forwards);
      const std::vector<double> middle = turnsOf(Order::FromMiddle);
      const std::vector<double> back = turnsOf(Order::Forwards, 1, true);
      for (std::size_t i = 0; i < n; ++i) {
        QVERIFY(middle[i] >= 0 && middle[i] < over && std::abs(middle[i] - middle[n - 1 - i]) < 1e-12);
        QVERIFY(back[i] >= 0 && back[i] < over && std::abs(back[i] - back[n - 1 - i]) < 1e-9);
        // From the middle out, and there and back, are each other's opposite.
        const double most = *std::max_element(middle.begin(), middle.end());
        QVERIFY2(std::abs(middle[i] + back[i] - most) < 1e-9, qPrintable(QString("%1 of %2").arg(i).arg(n)));
      }
    }
  QVERIFY(edit::turnsOf({}, 0).empty());
}

void TestTiming::turnsByPlaceKeepProportions() {
  const std::vector<Point> places{{300, 5}, {100, 9}, {150, 1}, {500, 3}};
  const auto across = edit::turnsOf({.order = Order::Across}, 4, places);
  QVERIFY(std::abs(across[1]) < 1e-12 && std::abs(across[3] - 0.75) < 1e-12);
  QVERIFY(std::abs((across[0] - across[1]) / (across[2] - across[1]) - 4) < 1e-9);
  const auto down = edit::turnsOf({.order = Order::Down, .over = 0.5}, 4, places);
  QVERIFY(std::abs(down[2]) < 1e-12 && std::abs(down[1] - 0.375) < 1e-12 && std::abs(down[0] - 0.1875) < 1e-12);
  // All in one place come together.
  QCOMPARE(sum(edit::turnsOf({.order = Order::Across}, 3, {{1, 1}, {1, 2}, {1, 3}})), 0.0);
}

void TestTiming::turnsGoAlongALine() {
  const std::vector<Point> places{{300, 5}, {100, 9}, {150, 1}, {500, 3}};
  // A straight one across is as from the left; the other way round, as from the right.
  const auto across = edit::turnsOf({.order = Order::Across, .over = 0.8}, 4, places);
  const auto straight = edit::turnsOf({.order = Order::AlongLine, .over = 0.8, .line = {{0, 4}, {700, 4}}}, 4, places);
  const auto back = edit::turnsOf({.order = Order::AlongLine, .over = 0.8, .line = {{700, 4}, {0, 4}}}, 4, places);
  for (std::size_t i = 0; i < 4; ++i) {
    QVERIFY(std::abs(straight[i] - across[i]) < 1e-12);
    QVERIFY(std::abs(straight[i] + back[i] - 0.6) < 1e-12);
  }
  // Round three sides of a square: by how far it is along them, and not by how far it is away.
  const std::vector<Point> line{{0, 0}, {0, 100}, {100, 100}, {100, 0}};
  QVERIFY(std::abs(alongLine(line, {-5, 20}) - 20) < 1e-12);
  QVERIFY(std::abs(alongLine(line, {40, 120}) - 140) < 1e-12);
  QVERIFY(std::abs(alongLine(line, {120, 30}) - 270) < 1e-12);
  QVERIFY(std::abs(alongLine(line, {100, -50}) - 300) < 1e-12);
  const auto round = edit::turnsOf({.order = Order::AlongLine, .line = line}, 3, {{0, 1}, {100, 1}, {50, 100}});
  QVERIFY(std::abs(round[0]) < 1e-12 && round[2] < round[1] && std::abs(round[1] - 2.0 / 3) < 1e-12);
  // Without a line they go in order; layers are not spread at all.
  QVERIFY(edit::turnsOf({.order = Order::AlongLine}, 4, places) == edit::turnsOf({}, 4, places));
  Scene scene = discs(48);
  const edit::Ids ids = copies(scene, 3);
  QVERIFY(!edit::spreadLayers(scene, ids, {.order = Order::AlongLine}));
  // Lengths are those that are seen: along a line that goes as far down as across in the frame's pixels.
  scene.width = 400;
  scene.height = 100;
  const auto placed = [&](std::size_t i, Point at) {
    findLayer(scene, ids[i])->place[static_cast<std::size_t>(PlaceParam::Position)].base = at;
  };
  placed(0, {0, 0});
  placed(1, {0.25, 0});
  placed(2, {0.25, 1});
  QVERIFY(edit::spreadLayers(scene, ids, {.order = Order::AlongLine, .line = {{0, 0}, {0.25, 0}, {0.25, 1}}}).has_value());
  const auto delays = edit::delaysOf(Plan(scene), ids);
  QCOMPARE(delays.size(), std::size_t{3});
  QVERIFY(std::abs(delays[1] - 1.0 / 3) < 1e-9 && std::abs(delays[2] - 2.0 / 3) < 1e-9);
}

void TestTiming::copiesComeOneAfterTheOther() {
  constexpr int kFrames = 48;
  constexpr int kCount = 6;
  Scene scene = discs(kFrames);
  const edit::Ids ids = copies(scene, kCount);
  const auto before = alone(scene, 0, 7);
  const auto done = edit::spreadLayers(scene, ids, {});
  QVERIFY2(done, done ? "" : done.error().message.c_str());
  QVERIFY(*done == ids);
  // The first is where it was; each shows what the one before it showed so many frames ago, parts of the loop and all.
  QVERIFY(alone(scene, 0, 7) == before);
  int differing = 0;
  for (std::size_t i = 1; i < kCount; ++i)
    for (const int f : {0, 5, 30, 47}) {
      QVERIFY2(alone(scene, i, f + kFrames / kCount) == alone(scene, i - 1, f), qPrintable(QString("%1 %2").arg(i).arg(f)));
      differing += alone(scene, i, f) != alone(scene, i - 1, f);
    }
  QVERIFY(differing > 8);
  // Asked for again, nothing moves on.
  const Scene once = scene;
  QVERIFY(edit::spreadLayers(scene, ids, {}));
  const auto delays = edit::delaysOf(Plan(scene), ids);
  for (std::size_t i = 0; i < delays.size(); ++i) QVERIFY(std::abs(delays[i] - edit::delaysOf(Plan(once), ids)[i]) < 1e-12);
  QVERIFY(edit::spreadLayers(scene, ids, {.order = Order::Together}));
  for (std::size_t i = 1; i < kCount; ++i)
    QVERIFY(test::compare({192, 108, alone(scene, i, 9)}, {192, 108, alone(scene, 0, 9)}).largest < 1e-5);
}

void TestTiming::linkedCopiesAndGroupsDoToo() {
  constexpr int kFrames = 40;
  Scene scene = discs(kFrames);
  const Id disc = scene.layers[0].id;
  for (int i = 0; i < 3; ++i) QVERIFY(edit::addLinkedCopy(scene, disc, "again"));
  edit::Ids ids;
  for (const Layer& layer : scene.layers)
    if (layer.id != disc) ids.push_back(layer.id);
  QVERIFY(edit::spreadLayers(scene, ids, {.over = 0.75}));
  for (std::size_t i = 2; i < 4; ++i)
    QVERIFY(test::compare({192, 108, alone(scene, i, 13 + kFrames / 4)}, {192, 108, alone(scene, i - 1, 13)}).largest < 1e-6);

  // A group of two laps that holds the disc: half the loop is its lap.
  Scene grouped = discs(kFrames);
  QVERIFY(edit::groupLayers(grouped, {grouped.layers[0].id}, "pair"));
  test::param(grouped, 0, 0, "laps").base = 2.0;
  const edit::Ids groups = copies(grouped, 2);
  QVERIFY(edit::spreadLayers(grouped, groups, {}));
  for (const int f : {0, 3, 11})
    QVERIFY(test::compare({192, 108, alone(grouped, 1, f + kFrames / 4)}, {192, 108, alone(grouped, 0, f)}).largest < 1e-6);
}

void TestTiming::whatNeverMovesIsRefused() {
  Scene scene = test::oneLayer("flat");
  assignIds(scene);
  const edit::Ids ids = copies(scene, 3);
  const Scene before = scene;
  const auto still = edit::spreadLayers(scene, ids, {});
  QVERIFY(!still && still.error().message.find("Nothing moves") != std::string::npos);
  const auto one = edit::spreadLayers(scene, {ids[0]}, {});
  QVERIFY(!one && one.error().message.find("two layers") != std::string::npos);
  QVERIFY(scene == before);
  // A layer that is locked keeps its time, and so do the others.
  Scene locked = discs(48);
  const edit::Ids pair = copies(locked, 2);
  locked.layers[1].locked = true;
  const Scene held = locked;
  const auto refused = edit::spreadLayers(locked, pair, {});
  QVERIFY(!refused && refused.error().message.find("locked") != std::string::npos && locked == held);
}

void TestTiming::motionsAreFoundWhereTheyAre() {
  Scene scene = discs(48);
  QVERIFY(edit::groupLayers(scene, {scene.layers[0].id}, "group"));
  test::param(scene, 0, 0, "laps").base = 3.0;
  scene.layers.push_back(test::oneLayer("points").layers[0]);
  assignIds(scene);
  test::param(scene, 1, 0, "place2").motion = test::swing(Point{0.9, 0.9}, 5);
  const auto list = edit::motionsIn(scene);
  QCOMPARE(list.size(), std::size_t{3});
  // From the topmost down.
  QCOMPARE(QString::fromStdString(edit::nameOf(scene, list[0].at)), QStringLiteral("Point 2 · Place"));
  QCOMPARE(list[0].rounds(), std::int64_t{5});
  QCOMPARE(QString::fromStdString(edit::nameOf(scene, list[1].at)), QStringLiteral("Place · Position"));
  QCOMPARE(list[1].rounds(), std::int64_t{3});
  QVERIFY(std::abs(list[1].way - 2 * 0.6 * 192) < 1e-9);
  QCOMPARE(QString::fromStdString(edit::nameOf(scene, list[2].at)), QStringLiteral("Layer · Opacity"));
  QCOMPARE(list[2].rounds(), std::int64_t{6});
  for (const auto& timed : list) {
    const Motion* motion = edit::motionAt(scene, timed.at);
    QVERIFY(motion && motion->kind == timed.kind && motion->laps == timed.laps);
  }
  QVERIFY(!edit::motionAt(scene, {9999, 0, 0}));
  QVERIFY(!edit::motionAt(scene, {list[0].at.layer, 0, 0, 9999}));
  QVERIFY(!edit::motionAt(scene, {list[1].at.layer, edit::MotionAddress::kMask, 0}));
}

void TestTiming::manyAreChangedAtOnce() {
  Scene scene = discs(48);
  scene.layers[0].opacity.motion.laps = -2;
  std::vector<edit::MotionAddress> all;
  for (const auto& timed : edit::motionsIn(scene)) all.push_back(timed.at);
  edit::setLaps(scene, all, 7);
  QCOMPARE(edit::motionAt(scene, all[0])->laps, 7);
  QCOMPARE(edit::motionAt(scene, all[1])->laps, -7);
  edit::setLaps(scene, all, 5000);
  QCOMPARE(edit::motionAt(scene, all[0])->laps, kMaxLaps);
  edit::setStarts(scene, all, 1.25);
  for (const auto& at : all) QCOMPARE(edit::motionAt(scene, at)->start, 0.25);
  edit::spreadMotions(scene, all, {.order = Order::Backwards, .over = 0.5});
  // The first keeps its own; the second comes a quarter of a lap sooner.
  QCOMPARE(edit::motionAt(scene, all[0])->start, 0.25);
  QCOMPARE(edit::motionAt(scene, all[1])->start, 0.5);
}

void TestTiming::oddRhythmsAreNamed() {
  Scene scene = test::oneLayer("noise", 192, 108, 840);
  for (int i = 1; i < 4; ++i) scene.layers.push_back(scene.layers[0]);
  for (Layer& layer : scene.layers) layer.id = layer.recipe[0].id = 0;
  assignIds(scene);
  const auto laps = [&](std::initializer_list<int> each) {
    std::size_t i = 0;
    for (const int n : each) test::param(scene, i++, 0, "churn").motion = turns(n);
    for (; i < scene.layers.size(); ++i) test::param(scene, i, 0, "churn").motion = {};
  };
  laps({4, 6, 12, 12});
  QCOMPARE(edit::sharingOf(Plan(scene)).repeats, std::int64_t{2});
  laps({4, 7, 12, 12});
  auto sharing = edit::sharingOf(Plan(scene));
  QCOMPARE(sharing.repeats, std::int64_t{1});
  QCOMPARE(sharing.odd.size(), std::size_t{1});
  QCOMPARE(sharing.odd[0].rounds, std::int64_t{7});
  QCOMPARE(sharing.odd[0].without, std::int64_t{4});
  QCOMPARE(sharing.odd[0].nearest, std::int64_t{8});
  // Mended, the loop repeats as often as was told.
  edit::setRounds(scene, 7, sharing.odd[0].nearest);
  QCOMPARE(edit::sharingOf(Plan(scene)).repeats, sharing.odd[0].without);
  // Where no single one stands out, none is blamed.
  laps({2, 3, 5, 7});
  QVERIFY(edit::sharingOf(Plan(scene)).odd.empty());
  // Something that comes once keeps the loop as long as it is.
  laps({4, 4, 4, 4});
  scene.layers[0].presence = {{0.2, 0.3}};
  sharing = edit::sharingOf(Plan(scene));
  QVERIFY(sharing.once);
  QCOMPARE(sharing.repeats, std::int64_t{1});
  laps({});
  scene.layers[0].presence.clear();
  QCOMPARE(edit::sharingOf(Plan(scene)).repeats, std::int64_t{0});
}

void TestTiming::whatRepeatsIsCutShort() {
  Scene scene = discs(60);
  scene.layers[0].presence.clear();
  for (const auto& timed : edit::motionsIn(scene)) edit::motionAt(scene, timed.at)->laps *= 3;
  const Scene before = scene;
  QVERIFY(edit::shortenToRepeat(scene));
  QCOMPARE(scene.frames, 20);
  for (const int f : {0, 1, 13, 19}) QVERIFY(test::renderFloat(scene, f).rgba == test::renderFloat(before, f).rgba);
  QVERIFY(!edit::shortenToRepeat(scene));
  // Frames that do not go into it are told, and nothing is changed.
  scene = before;
  scene.frames = 61;
  const auto refused = edit::shortenToRepeat(scene);
  QVERIFY(!refused && refused.error().message.find("61 frames") != std::string::npos);
  QCOMPARE(edit::motionsIn(scene)[0].laps, 3);
}

QTEST_GUILESS_MAIN(TestTiming)
#include "tst_timing.moc"
