// Head starts of copies and letters, spread from outside: what goes to their card, lines that are drawn, and what is seen.
#include <QTest>
#include <cmath>

#include "base/line.h"
#include "edit/spread_parts.h"
#include "scene/scene_json.h"
#include "shapes/line_order.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;
using edit::Parts;
using edit::Spread;
using Order = Spread::Order;

namespace {

constexpr int kFrames = 40;

// Three squares beside each other that are there for half of the lap, at once.
Scene squares() {
  Scene scene = oa::test::oneLayer("repeat", 300, 100, kFrames);
  assignIds(scene);
  const auto set = [&](const char* id, const Value& value) { oa::test::setValue(scene, 0, 0, id, value); };
  set("spread", std::string("grid"));
  set("distance", Point{100, 400});
  set("columns", 3.0);
  set("rows", 1.0);
  set("order", std::string("together"));
  RecipeStep& repeat = scene.layers[0].recipe[0];
  forEachParamOf(repeat, [](const ParamSpec&, Param& param) {
    param.motion = {};
    param.motion.far = param.base;
  });
  oa::test::param(scene, 0, 0, "size1").base = 60.0;
  oa::test::param(scene, 0, 0, "colour1").base = Colour{1, 1, 1, 1};
  Param& opacity = oa::test::param(scene, 0, 0, "opacity1");
  opacity.base = 0.0;
  opacity.motion = oa::test::swing(1.0);
  opacity.motion.kind = MotionKind::Switch;
  opacity.motion.shares = {0, 0.25, 0};
  return scene;
}

// In which frame each of the three comes first, counted from the earliest; by their middles.
std::vector<int> comings(const Scene& scene) {
  std::vector<int> first(3, -1);
  for (int k = 0; k < kFrames; ++k) {
    const auto now = oa::test::renderFloat(scene, k);
    const auto before = oa::test::renderFloat(scene, k + kFrames - 1);
    for (int i = 0; i < 3; ++i)
      if (now.at(50 + 100 * i, 50, 0) > 0.5f && before.at(50 + 100 * i, 50, 0) < 0.5f) first[static_cast<std::size_t>(i)] = k;
  }
  return first;
}

// How many frames later than the leftmost.
std::vector<int> delays(const Scene& scene) {
  std::vector<int> list = comings(scene);
  const int from = list[0];
  for (int& k : list) k = (k - from + kFrames) % kFrames;
  return list;
}

}  // namespace

class TestSpreadParts : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void copiesComeOneAfterTheOther();
  void alongALineTheyComeAsTheyLie();
  void theLineLiesWhereItWasDrawn();
  void lettersComeAsTheyLie();
  void whatIsNoneIsRefused();
  void linesAreMeasured();
};

void TestSpreadParts::copiesComeOneAfterTheOther() {
  Scene scene = squares();
  const Id id = scene.layers[0].id;
  QVERIFY(edit::partsOf(scene.layers[0]) == Parts::Copies);
  QVERIFY(edit::partsMove(scene.layers[0]));
  QVERIFY(delays(scene) == (std::vector<int>{0, 0, 0}));
  const auto spread = [&](const Spread& how) {
    Scene now = scene;
    const auto done = edit::spreadParts(now, id, how);
    if (!done) qFatal("%s", done.error().message.c_str());
    return now;
  };
  // Something comes later, the last before a lap is over; the other way round it is the other way round.
  const auto forwards = delays(spread({.order = Order::Across, .over = 0.75}));
  QVERIFY(forwards[1] != 0 && forwards[2] != forwards[1]);
  const auto inOrder = delays(spread({.over = 0.75}));
  const auto backwards = delays(spread({.order = Order::Backwards, .over = 0.75}));
  // To a frame: they come at the edges of those.
  const auto opposite = [](int a, int b) { return std::abs(std::remainder(a + b, kFrames)) <= 1; };
  QVERIFY(inOrder[1] != 0 && opposite(inOrder[1], backwards[1]) && opposite(inOrder[2], backwards[2]));
  // From the middle the two at its sides come together.
  const auto middle = delays(spread({.order = Order::FromMiddle, .over = 0.6}));
  QVERIFY(middle[0] == middle[2] && middle[1] != middle[0]);
  // There and back those that would come last come with the first.
  const auto back = delays(spread({.order = Order::AlongLine, .over = 0.8, .mirrored = true, .line = {{1.0 / 6, 0.5}, {5.0 / 6, 0.5}}}));
  QVERIFY(std::abs(std::remainder(back[2], kFrames)) <= 1 && back[1] > 4);
  QVERIFY(delays(spread({.order = Order::Together})) == (std::vector<int>{0, 0, 0}));
}

void TestSpreadParts::alongALineTheyComeAsTheyLie() {
  Scene scene = squares();
  const Id id = scene.layers[0].id;
  const auto along = [&](std::vector<Point> line) {
    Scene now = scene;
    if (!edit::spreadParts(now, id, {.order = Order::AlongLine, .over = 0.75, .line = std::move(line)})) qFatal("not spread");
    return delays(now);
  };
  // From the first square to the last: the middle one half as much later as the last.
  const auto right = along({{1.0 / 6, 0.5}, {5.0 / 6, 0.5}});
  const auto within = [](int frames, int wanted) { return std::abs(frames - wanted) <= 1; };
  QVERIFY(within(right[1], 15) && within(right[2], 30));
  const auto left = along({{5.0 / 6, 0.5}, {1.0 / 6, 0.5}});
  QVERIFY(within(kFrames - left[1], 15) && within(kFrames - left[2], 30));
  // A way round: the last lies in the middle of it.
  const auto round = along({{1.0 / 6, 0.5}, {5.0 / 6, 0.5}, {5.0 / 6, 7.0 / 6 + 1.0 / 3 * 2}});
  QVERIFY(round[2] != right[2]);
}

void TestSpreadParts::theLineLiesWhereItWasDrawn() {
  for (const bool placed : {false, true}) {
    Scene scene = squares();
    Layer& layer = scene.layers[0];
    if (placed) {
      layer.place[static_cast<std::size_t>(PlaceParam::Position)].base = Point{0.4, 0.7};
      layer.place[static_cast<std::size_t>(PlaceParam::Size)].base = Point{2, 2};
      layer.place[static_cast<std::size_t>(PlaceParam::Turn)].base = 90.0;
    }
    QVERIFY(edit::spreadParts(scene, layer.id, {.order = Order::AlongLine, .line = {{0.4, 0.7}, {0.4, 0.9}, {0.5, 0.9}}}).has_value());
    const Outline line = std::get<Outline>(oa::test::param(scene, 0, 0, "startLine").base);
    QVERIFY(!line.closed);
    QCOMPARE(line.points.size(), std::size_t{3});
    // On the layer's own plane: turned back by a quarter and half as long.
    const auto from = [&](std::size_t i) {
      return Point{line.points[i].at.x - line.points[0].at.x, line.points[i].at.y - line.points[0].at.y};
    };
    const Point wanted = placed ? Point{10, 0} : Point{0, 20};
    QVERIFY(std::abs(from(1).x - wanted.x) < 0.2 && std::abs(from(1).y - wanted.y) < 0.2);
    QVERIFY(std::abs(from(2).x - (placed ? 10 : 30)) < 0.2 && std::abs(from(2).y - (placed ? -15 : 20)) < 0.2);
    if (placed) QVERIFY(std::abs(line.points[0].at.x) < 0.2 && std::abs(line.points[0].at.y) < 0.2);
    // It is saved with the rest.
    const auto again = sceneFromText(sceneToText(scene));
    QVERIFY(again && *again == scene);
  }
}

void TestSpreadParts::lettersComeAsTheyLie() {
  Scene scene = oa::test::oneLayer("words", 400, 120, kFrames);
  assignIds(scene);
  oa::test::setValue(scene, 0, 0, "text", Text{"IIIII"});
  oa::test::setValue(scene, 0, 0, "size", 60.0);
  QVERIFY(edit::partsOf(scene.layers[0]) == Parts::Letters);
  QVERIFY(!edit::partsMove(scene.layers[0]));
  oa::test::param(scene, 0, 0, "letterOpacity").motion = oa::test::swing(0.0);
  QVERIFY(edit::partsMove(scene.layers[0]));
  const Id id = scene.layers[0].id;
  const auto drawn = [&](const Spread& how) {
    Scene now = scene;
    if (!edit::spreadParts(now, id, how)) qFatal("not spread");
    return oa::test::renderFloat(now, 7);
  };
  const auto mirrored = [](const oa::test::FloatFrame& frame) {
    auto other = frame;
    for (int y = 0; y < frame.height; ++y)
      for (int x = 0; x < frame.width; ++x)
        for (int c = 0; c < 4; ++c)
          other.rgba[(static_cast<std::size_t>(y) * static_cast<std::size_t>(frame.width) + static_cast<std::size_t>(x)) * 4 +
                     static_cast<std::size_t>(c)] = frame.at(frame.width - 1 - x, y, c);
    return other;
  };
  // Upright strokes alike: from the left is the mirror image of from the right.
  const auto right = drawn({.order = Order::AlongLine, .over = 0.9, .line = {{0.1, 0.5}, {0.9, 0.5}}});
  const auto left = drawn({.order = Order::AlongLine, .over = 0.9, .line = {{0.9, 0.5}, {0.1, 0.5}}});
  QVERIFY(oa::test::compare(right, mirrored(left)).mean < 4e-3);
  QVERIFY(oa::test::compare(right, left).mean > 4e-3);
  QVERIFY(oa::test::compare(right, drawn({.order = Order::Together})).mean > 4e-3);
  // There and back is another order than there.
  const auto back = drawn({.order = Order::Forwards, .over = 0.9, .mirrored = true});
  QVERIFY(oa::test::compare(back, drawn({.over = 0.9})).mean > 1e-3);
  // At random another number is another order.
  QVERIFY(oa::test::compare(drawn({.order = Order::AtRandom, .seed = 3}), drawn({.order = Order::AtRandom, .seed = 4})).mean > 1e-3);
}

void TestSpreadParts::whatIsNoneIsRefused() {
  Scene scene = oa::test::oneLayer("noise");
  assignIds(scene);
  QVERIFY(edit::partsOf(scene.layers[0]) == Parts::None);
  QVERIFY(!edit::spreadParts(scene, scene.layers[0].id, {}));
  Scene copies = squares();
  QVERIFY(!edit::spreadParts(copies, 99, {}));
  QVERIFY(!edit::spreadParts(copies, copies.layers[0].id, {.order = Order::AlongLine, .line = {{0.5, 0.5}}}));
  copies.layers[0].locked = true;
  QVERIFY(!edit::spreadParts(copies, copies.layers[0].id, {}));
}

void TestSpreadParts::linesAreMeasured() {
  const std::vector<Point> line{{0, 0}, {0, 30}, {40, 30}};
  QCOMPARE(lengthOf(line), 70.0);
  QCOMPARE(lengthOf({{1, 1}}), 0.0);
  Outline outline;
  outline.closed = false;
  for (const Point& p : line) outline.points.push_back({p, p, p});
  const LineOrder order(outline, {100, 100});
  QVERIFY(std::abs(order.at({95, 115}) - 15.0 / 70) < 1e-9);
  QVERIFY(std::abs(order.at({120, 140}) - 50.0 / 70) < 1e-9);
  QVERIFY(order.at({900, 130}) < 1 && order.at({900, 130}) > 0.999);
  QCOMPARE(LineOrder().at({3, 4}), 0.0);
  QCOMPARE(thereAndBack(0.0), 0.0);
  QCOMPARE(thereAndBack(0.5), 1.0);
  QVERIFY(std::abs(thereAndBack(0.9) - 0.2) < 1e-12);
  // Fewer points, none further off than said; the ends stay.
  std::vector<Point> wavy;
  for (int i = 0; i <= 500; ++i) wavy.push_back({i * 2.0, 60 * std::sin(i / 40.0)});
  for (const double tolerance : {0.5, 2.0, 10.0}) {
    const auto fewer = simplified(wavy, tolerance);
    QVERIFY(fewer.size() < wavy.size() / 4 && fewer.size() > 4);
    QVERIFY(fewer.front() == wavy.front() && fewer.back() == wavy.back());
    for (const Point& p : wavy) {
      double nearest = 1e9;
      for (std::size_t i = 0; i + 1 < fewer.size(); ++i)
        for (int s = 0; s <= 200; ++s)
          nearest = std::min(
              nearest, std::hypot(mix(fewer[i].x, fewer[i + 1].x, s / 200.0) - p.x, mix(fewer[i].y, fewer[i + 1].y, s / 200.0) - p.y));
      QVERIFY(nearest <= tolerance + 0.5);
    }
  }
}

QTEST_GUILESS_MAIN(TestSpreadParts)
#include "tst_spread_parts.moc"
