// Values that are made of several: motions that add up, items of a step, and all of them at once.
#include <QTest>
#include <algorithm>
#include <cmath>
#include <nlohmann/json.hpp>
#include <set>

#include "edit/items.h"
#include "edit/values.h"
#include "params/first_motion.h"
#include "params/param_json.h"
#include "params/stop_items.h"
#include "render/reference.h"
#include "scene/plan.h"
#include "scene/recolour.h"
#include "scene/scene_json.h"
#include "scene/tree.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

const ParamSpec kNumber{.id = "n", .label = "N", .help = "", .base = 0.0, .min = -100, .max = 100};
const ParamSpec kAngle{
    .id = "a", .label = "A", .help = "", .type = ParamType::Angle, .base = 0.0, .min = -3600, .max = 3600, .rule = LoopRule::Round};
const ParamSpec kPlace{.id = "p", .label = "P", .help = "", .type = ParamType::Point, .base = Point{}, .min = -10, .max = 10};
const ParamSpec kColour{.id = "c", .label = "C", .help = "", .type = ParamType::Colour, .base = Colour{}};

Param summed(const Value& base, std::vector<Motion> motions) {
  Param param{base, motions.front(), {motions.begin() + 1, motions.end()}, {}};
  return param;
}

double numberAt(const ParamSpec& spec, const Param& param, std::int64_t frame, std::int64_t frames = 240) {
  return std::get<double>(evaluate(spec, param, {frame, frames}).value);
}

RecipeStep points(std::size_t count) {
  RecipeStep step = newStep(*findStep("points"));
  step.items.clear();
  for (std::size_t i = 0; i < count; ++i) {
    step.items.push_back(newItem(*step.spec->items, i));
    step.items.back().id = static_cast<int>(i) + 1;
  }
  return step;
}

constexpr std::size_t kPlaceAt = 1;
constexpr std::size_t kReachAt = 2;

std::vector<int> order(const RecipeStep& step) {
  std::vector<int> ids;
  for (const Item& item : step.items) ids.push_back(item.id);
  return ids;
}

}  // namespace

class TestItems : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void motionsAddUp();
  void turnsAndSwingsAddUp();
  void coloursAddUpAsTheEyeSeesThem();
  void sumsStayWithinTheRange();
  void sumsCloseAndRepeatWithTheirLaps();
  void sumsGoAlongWithTheirBase();
  void motionsAreAddedAndTakenAway();
  void sumsInFiles();
  void itemsAreAddedMovedAndTakenAway();
  void listsHaveTheirLimits();
  void allAtOnce();
  void allMoveWithHeadStartsSpread();
  void headStartsAreEvenInAnyOrder();
  void itemsHaveIdsThatStay();
  void movingStopsMoveThePicture();
  void travelGoesRoundTheMap();
  void recolouringReachesItems();
};

void TestItems::motionsAddUp() {
  const Motion slow = test::swing(40.0, 1);
  Motion quick = test::swing(4.0, 7);
  quick.start = 0.3;
  const Param both = summed(10.0, {slow, quick});
  for (int k = 0; k < 240; ++k) {
    const double expected = numberAt(kNumber, summed(10.0, {slow}), k) + numberAt(kNumber, summed(10.0, {quick}), k) - 10;
    QVERIFY(std::abs(numberAt(kNumber, both, k) - expected) < 1e-12);
  }
  const Param way = summed(Point{1, 2}, {test::swing(Point{2, 2}, 1), test::swing(Point{1, 3}, 2)});
  const Point there = std::get<Point>(evaluate(kPlace, way, {60, 240}).value);
  // A quarter of the loop: the first is halfway, the second at its far end.
  QVERIFY(std::abs(there.x - 1.5) < 1e-9 && std::abs(there.y - 3) < 1e-9);
  // Three are as good as two.
  QVERIFY(std::abs(numberAt(kNumber, summed(0.0, {test::swing(1.0), test::swing(1.0), test::swing(1.0)}), 120) - 3) < 1e-9);
}

void TestItems::turnsAndSwingsAddUp() {
  const Param both = summed(30.0, {test::turn(2), test::swing(50.0, 3)});
  for (const int k : {0, 17, 100, 239}) {
    const double swing = numberAt(kAngle, summed(30.0, {test::swing(50.0, 3)}), k) - 30;
    const double expected = 30 + 360 * fract(2.0 * k / 240) + swing;
    QVERIFY(std::abs(numberAt(kAngle, both, k) - expected) < 1e-9);
  }
}

void TestItems::coloursAddUpAsTheEyeSeesThem() {
  const Colour grey = fromOkLab({0.5, 0, 0});
  const Colour lighter = fromOkLab({0.7, 0, 0});
  const Colour redder = fromOkLab({0.5, 0.08, 0});
  const Param both = summed(grey, {test::swing(lighter), test::swing(redder)});
  const OkLab sum = toOkLab(std::get<Colour>(evaluate(kColour, both, {120, 240}).value));
  QVERIFY2(std::abs(sum.L - 0.7) < 1e-3 && std::abs(sum.a - 0.08) < 1e-3 && std::abs(sum.b) < 1e-3, qPrintable(QString::number(sum.a)));
}

void TestItems::sumsStayWithinTheRange() {
  const Param both = summed(90.0, {test::swing(100.0), test::swing(100.0)});
  QCOMPARE(numberAt(kNumber, both, 120), 100.0);
  const Param whole = summed(1.0, {test::swing(4.0), test::swing(4.0, 3)});
  ParamSpec count = kNumber;
  count.type = ParamType::Integer;
  for (int k = 0; k < 240; ++k) QCOMPARE(numberAt(count, whole, k), std::round(numberAt(count, whole, k)));
}

void TestItems::sumsCloseAndRepeatWithTheirLaps() {
  for (int seed = 1; seed <= 40; ++seed) {
    Motion walk = firstMotion(kNumber, {5.0, {}, {}, {}}, MotionKind::Wander);
    walk.far = 20.0;
    walk.seed = seed;
    walk.laps = 2 * (1 + seed % 3);
    Motion hop = firstMotion(kNumber, {5.0, {}, {}, {}}, MotionKind::Hops);
    hop.far = 9.0;
    hop.laps = -4;
    const Param sum = summed(5.0, {walk, hop, test::swing(8.0, 6)});
    const auto common = lapsOf(kNumber, sum);
    QCOMPARE(common, std::int64_t{2});
    for (int k = 0; k < 240; k += 7) {
      QCOMPARE(numberAt(kNumber, sum, k + 240), numberAt(kNumber, sum, k));
      QVERIFY(std::abs(numberAt(kNumber, sum, k + 240 / common) - numberAt(kNumber, sum, k)) < 1e-9);
    }
  }
  // One that goes nowhere does not count.
  QCOMPARE(lapsOf(kNumber, summed(5.0, {test::swing(5.0, 3), test::swing(9.0, 4)})), std::int64_t{4});
  QVERIFY(!reallyMoves(kNumber, summed(5.0, {test::swing(5.0, 3), test::swing(5.0, 4)})));
}

void TestItems::sumsGoAlongWithTheirBase() {
  const Param before = summed(10.0, {test::swing(20.0), test::swing(13.0, 2)});
  const Param after = edit::withBase(kNumber, before, 30.0);
  for (int k = 0; k < 240; k += 5) QVERIFY(std::abs(numberAt(kNumber, after, k) - numberAt(kNumber, before, k) - 20) < 1e-9);
}

void TestItems::motionsAreAddedAndTakenAway() {
  const Param still = defaultParam(kNumber);
  const Param one = edit::withMotionAdded(kNumber, still, MotionKind::Swing);
  QVERIFY(one.more.empty() && one.motion.kind == MotionKind::Swing);
  const Param two = edit::withMotionAdded(kNumber, one, MotionKind::Wander);
  QCOMPARE(motionCount(two), std::size_t{2});
  // It goes another number of laps, or the two would look like one.
  QVERIFY(two.more[0].kind == MotionKind::Wander && two.more[0].laps == 2 && reallyMoves(kNumber, withMotionAlone(two, 1)));
  QVERIFY(edit::withMotionRemoved(two, 1) == one);
  QVERIFY(edit::withMotionRemoved(two, 0).motion == two.more[0] && edit::withMotionRemoved(two, 0).more.empty());
  QVERIFY(!moves(edit::withMotionRemoved(one, 0)));
  Param many = one;
  for (int i = 0; i < 40; ++i) many = edit::withMotionAdded(kNumber, many, MotionKind::Swing);
  QCOMPARE(motionCount(many), kMaxMotions);
  // Whole amounts a lap are not added up.
  ParamSpec progress = kNumber;
  progress.rule = LoopRule::Progress;
  Param turning = defaultParam(progress);
  turning.motion = test::turn(1);
  QVERIFY(edit::withMotionAdded(progress, turning, MotionKind::Turn) == turning);
}

void TestItems::sumsInFiles() {
  const Param sum = summed(10.0, {test::swing(20.0), test::swing(13.0, 2)});
  const auto again = paramFromJson(kNumber, paramToJson(kNumber, sum), "here");
  QVERIFY(again.has_value() && *again == sum);
  const auto refused = [](const char* number) {
    const auto scene =
        sceneFromText(R"({"overagain":2,"size":[64,36],"layers":[{"recipe":[{"step":"noise",)" + std::string(number) + "}]}]}");
    return scene ? std::string() : scene.error().sentence();
  };
  QVERIFY(refused(R"("cell":{"value":80,"motions":[{"kind":"swing","to":90},{"kind":"wander","to":100}]})").empty());
  QVERIFY(refused(R"("cell":{"value":80,"motions":[]})").find("layers[0].noise.cell.motions: must be a list of motions") == 0);
  QVERIFY(refused(R"("cell":{"value":80,"motion":{"kind":"swing"},"motions":[{"kind":"swing"}]})").find("has both") != std::string::npos);
  QVERIFY(refused(R"("churn":{"value":2,"motions":[{"kind":"turn"},{"kind":"turn"}]})").find("cannot be added up") != std::string::npos);
  QVERIFY(refused(R"("cell":{"value":80,"motions":[{"kind":"swing"},{"kind":"leap"}]})").find("motions[1].kind") != std::string::npos);
  std::string many = R"("cell":{"value":80,"motions":[)";
  for (std::size_t i = 0; i <= kMaxMotions; ++i) many += std::string(i ? "," : "") + R"({"kind":"swing"})";
  QVERIFY(refused((many + "]}").c_str()).find("more than 16 motions") != std::string::npos);
}

void TestItems::itemsAreAddedMovedAndTakenAway() {
  RecipeStep step = points(3);
  QCOMPARE(*edit::addItem(step, 0), 1);
  QVERIFY(order(step) == std::vector<int>({1, 0, 2, 3}));
  QVERIFY(step.items[1].params == newItem(*step.spec->items, 3).params);
  QCOMPARE(*edit::moveItem(step, 0, 99), 3);
  QVERIFY(order(step) == std::vector<int>({0, 2, 3, 1}));
  QCOMPARE(*edit::moveItem(step, 3, -5), 0);
  QCOMPARE(*edit::removeItem(step, 3), 2);
  QVERIFY(order(step) == std::vector<int>({1, 0, 2}));
  QCOMPARE(edit::itemIndex(step, 2), 2);
  QCOMPARE(edit::itemIndex(step, 99), -1);
  Item copy = step.items[2];
  QCOMPARE(*edit::addItem(step, 2, copy), 3);
  QVERIFY(step.items[3].params == copy.params && step.items[3].id == 0);
}

void TestItems::listsHaveTheirLimits() {
  RecipeStep step = points(1);
  QVERIFY(!edit::removeItem(step, 0).has_value());
  QVERIFY(!edit::removeItem(step, 7).has_value() && !edit::moveItem(step, -1, 0).has_value());
  while (step.items.size() < kMaxItems) QVERIFY(edit::addItem(step, 0).has_value());
  QVERIFY(!edit::addItem(step, 0).has_value());
  RecipeStep plain = newStep(*findStep("flat"));
  QVERIFY(!edit::addItem(plain, 0).has_value());
  QCOMPARE(points(1).spec->items->least, std::size_t{1});
}

void TestItems::allAtOnce() {
  RecipeStep step = points(4);
  step.items[2].params[kReachAt].motion = test::swing(500.0);
  const auto before = step.items;
  edit::setAllItems(step, kReachAt, 123.0, before);
  for (const Item& item : step.items) QCOMPARE(std::get<double>(item.params[kReachAt].base), 123.0);
  QVERIFY(step.items[2].params[kReachAt].motion.kind == MotionKind::Swing);
  // Where they are is moved together, and a drag to the end and back restores all of it.
  edit::setAllItems(step, kPlaceAt, Point{9, 9}, before);
  const Point first = std::get<Point>(before[0].params[kPlaceAt].base);
  edit::setAllItems(step, kPlaceAt, Point{first.x + 0.1, first.y}, before);
  for (std::size_t i = 0; i < 4; ++i) {
    const Point was = std::get<Point>(before[i].params[kPlaceAt].base);
    const Point now = std::get<Point>(step.items[i].params[kPlaceAt].base);
    QVERIFY(std::abs(now.x - was.x - 0.1) < 1e-9 && std::abs(now.y - was.y) < 1e-9);
  }
}

void TestItems::allMoveWithHeadStartsSpread() {
  RecipeStep step = points(4);
  const Point first = std::get<Point>(step.items[0].params[kPlaceAt].base);
  edit::moveAllItems(step, kPlaceAt, test::swing(Point{first.x + 0.2, first.y}), 0);
  for (std::size_t i = 0; i < 4; ++i) {
    const Param& own = step.items[i].params[kPlaceAt];
    QVERIFY(std::abs(std::get<Point>(own.motion.far).x - std::get<Point>(own.base).x - 0.2) < 1e-9);
    QCOMPARE(own.motion.start, static_cast<double>(i) / 4);
  }
  // A second time what was spread stays spread.
  edit::spreadHeadStarts(step, kPlaceAt, 0, edit::HeadStarts::AtRandom, 5);
  std::vector<double> starts;
  for (const Item& item : step.items) starts.push_back(item.params[kPlaceAt].motion.start);
  Motion quicker = step.items[0].params[kPlaceAt].motion;
  quicker.laps = 3;
  edit::moveAllItems(step, kPlaceAt, quicker, 0);
  for (std::size_t i = 0; i < 4; ++i) {
    QCOMPARE(step.items[i].params[kPlaceAt].motion.laps, 3);
    QVERIFY(std::abs(step.items[i].params[kPlaceAt].motion.start - starts[i]) < 1e-9);
  }
  // Walks of each are its own, and a second motion is added to all.
  Motion walk = firstMotion(step.spec->items->params[kReachAt], withMotionAlone(step.items[0].params[kReachAt], 0), MotionKind::Wander);
  edit::moveAllItems(step, kReachAt, walk, 0);
  std::set<int> seeds;
  for (const Item& item : step.items) seeds.insert(item.params[kReachAt].motion.seed);
  QCOMPARE(seeds.size(), std::size_t{4});
  edit::moveAllItems(step, kReachAt, walk, 1);
  for (const Item& item : step.items) QCOMPARE(item.params[kReachAt].more.size(), std::size_t{1});
}

void TestItems::headStartsAreEvenInAnyOrder() {
  RecipeStep step = points(12);
  edit::moveAllItems(step, kReachAt, test::swing(600.0), 0);
  bool other = false;
  for (int seed = 0; seed < 20; ++seed) {
    edit::spreadHeadStarts(step, kReachAt, 0, edit::HeadStarts::AtRandom, seed);
    std::set<long> starts;
    for (std::size_t i = 0; i < 12; ++i) {
      const double start = step.items[i].params[kReachAt].motion.start;
      starts.insert(std::lround(start * 12));
      other = other || std::lround(start * 12) != static_cast<long>(i);
    }
    QCOMPARE(starts.size(), std::size_t{12});
    QVERIFY(*starts.begin() == 0 && *starts.rbegin() == 11);
  }
  QVERIFY(other);
  edit::spreadHeadStarts(step, kReachAt, 0, edit::HeadStarts::Together, 0);
  for (const Item& item : step.items) QCOMPARE(item.params[kReachAt].motion.start, 0.0);
}

void TestItems::itemsHaveIdsThatStay() {
  Scene scene = test::oneLayer("points");
  assignIds(scene);
  const auto before = order(scene.layers[0].recipe[0]);
  QCOMPARE(std::set<int>(before.begin(), before.end()).size(), before.size());
  QVERIFY(edit::moveItem(scene.layers[0].recipe[0], 0, 2).has_value());
  QVERIFY(edit::addItem(scene.layers[0].recipe[0], 0).has_value());
  assignIds(scene);
  const auto again = sceneFromText(sceneToText(scene));
  QVERIFY(again.has_value() && *again == scene);
  QCOMPARE(again->layers[0].recipe[0].items[0].id, before[1]);
  QVERIFY(again->layers[0].recipe[0].items[1].id > 0);
}

void TestItems::movingStopsMoveThePicture() {
  Scene scene = test::oneLayer("gradient", 200, 40, 24);
  test::setValue(scene, 0, 0, "from", Point{0, 0.5});
  test::setValue(scene, 0, 0, "to", Point{1, 0.5});
  test::setValue(scene, 0, 0, "mixing", std::string("display"));
  test::setStops(scene, 0, 0, {{0, {0, 0, 0, 1}}, {0.5, {1, 0, 0, 1}}, {1, {0, 0, 0, 1}}});
  // The middle one swings right and turns green: halfway round it stands at 0.8.
  test::param(scene, 0, 0, "at2").motion = test::swing(0.8);
  test::param(scene, 0, 0, "colour2").motion = test::swing(Colour{0, 1, 0, 1});
  QCOMPARE(distinctFrames(scene), std::int64_t{24});
  const auto peak = [](const test::FloatFrame& f, int channel) {
    int best = 0;
    for (int x = 0; x < 200; ++x)
      if (f.at(x, 20, channel) > f.at(best, 20, channel)) best = x;
    return best;
  };
  const auto first = test::renderFloat(scene, 0);
  const auto half = test::renderFloat(scene, 12);
  QVERIFY(std::abs(peak(first, 0) - 100) <= 1 && std::abs(peak(half, 1) - 160) <= 1);
  QVERIFY(half.at(160, 20, 0) < 0.02f && half.at(160, 20, 1) > 0.97f);
  QVERIFY(test::renderFloat(scene, 24).rgba == first.rgba);
  // Stops that pass each other are read in the order in which they lie.
  test::param(scene, 0, 0, "at1").motion = test::swing(1.0);
  QVERIFY(test::allFinite(test::renderFloat(scene, 12)));
}

void TestItems::travelGoesRoundTheMap() {
  Scene scene = test::oneLayer("gradient", 256, 8, 40);
  test::setValue(scene, 0, 0, "from", Point{0, 0.5});
  test::setValue(scene, 0, 0, "to", Point{1, 0.5});
  test::setValue(scene, 0, 0, "mixing", std::string("display"));
  test::setStops(scene, 0, 0, {{0, {0, 0, 0, 1}}, {1, {1, 1, 1, 1}}});
  test::addStep(scene, "colourmap");
  const auto still = test::renderFloat(scene, 0);
  QVERIFY(test::renderFloat(scene, 13).rgba == still.rgba);
  test::setValue(scene, 0, 1, "travel", 1.0);
  QVERIFY(test::compare(test::renderFloat(scene, 0), still).largest < 1e-6);
  double joint = test::compare(test::renderFloat(scene, 39), test::renderFloat(scene, 40)).mean;
  double inside = test::compare(test::renderFloat(scene, 19), test::renderFloat(scene, 20)).mean;
  QVERIFY2(joint < inside * 1.7 && inside > 1e-3, qPrintable(QStringLiteral("%1 %2").arg(joint).arg(inside)));
  // Halfway round the way back, the map is turned about; nowhere does a colour jump beside its neighbour.
  const auto half = test::renderFloat(scene, 20);
  for (int x = 0; x < 256; ++x)
    for (int c = 0; c < 3; ++c) QVERIFY(std::abs(half.at(x, 4, c) - still.at(255 - x, 4, c)) < 0.03f);
  for (const int k : {0, 7, 20, 33}) {
    const auto f = test::renderFloat(scene, k);
    for (int x = 1; x < 256; ++x) QVERIFY(std::abs(f.at(x, 4, 0) - f.at(x - 1, 4, 0)) < 0.05f);
  }
  // Round again without a way back, the last colour is followed by the first.
  test::setValue(scene, 0, 1, "round", std::string("again"));
  const auto again = test::renderFloat(scene, 20);
  for (int x = 2; x < 126; ++x) QVERIFY(std::abs(again.at(x, 4, 0) - still.at(x + 128, 4, 0)) < 0.03f);
  const auto plain = referenceFrame(scene, 7, 256, 8);
  QVERIFY(test::compare(test::renderFloat(scene, 7), plain).mean < 0.004);
}

void TestItems::recolouringReachesItems() {
  Scene scene = test::oneLayer("points");
  scene.layers[0].recipe[0].items[1].params[0].more.push_back(test::swing(hexColour(0x123456)));
  const auto colours = coloursOf(scene);
  QCOMPARE(std::count(colours.begin(), colours.end(), hexColour(0x123456)), 1);
  QVERIFY(colours.size() >= scene.layers[0].recipe[0].items.size());
}

QTEST_GUILESS_MAIN(TestItems)
#include "tst_items.moc"
