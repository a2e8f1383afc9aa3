// Values that follow others: later, larger, through others, and never in a circle.
#include <QTest>
#include <cmath>
#include <nlohmann/json.hpp>

#include "edit/following.h"
#include "edit/layers.h"
#include "edit/timing.h"
#include "params/param_json.h"
#include "scene/followers.h"
#include "scene/scene_json.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

constexpr int kFrames = 240;

const ParamSpec& positionSpec() { return placeSpecs()[static_cast<std::size_t>(PlaceParam::Position)]; }
Param& positionOf(Scene& scene, std::size_t layer) { return scene.layers[layer].place[static_cast<std::size_t>(PlaceParam::Position)]; }

Motion following(Id layer, const std::string& param, double delay = 0, double scale = 1) {
  Motion motion;
  motion.kind = MotionKind::Follow;
  motion.follows = {layer, 0, 0, param};
  motion.start = fract(-delay);
  motion.scale = scale;
  motion.far = Point{};
  return motion;
}

// Three layers; the first swings and wanders, in three laps and two.
Scene three() {
  Scene scene = oa::test::oneLayer("noise");
  scene.frames = kFrames;
  scene.layers.push_back(scene.layers[0]);
  scene.layers.push_back(scene.layers[0]);
  for (Layer& layer : scene.layers) {
    layer.id = 0;
    layer.recipe[0].id = 0;
  }
  assignIds(scene);
  Param& lead = positionOf(scene, 0);
  lead.motion = oa::test::swing(Point{0.8, 0.4}, 3);
  lead.motion.start = 0.3;
  Motion more;
  more.kind = MotionKind::Wander;
  more.laps = 2;
  more.far = Point{0.55, 0.6};
  lead.more.push_back(more);
  return scene;
}

Point at(const Scene& scene, std::size_t layer, int frame) {
  return std::get<Point>(
      evaluate(positionSpec(), scene.layers[layer].place[static_cast<std::size_t>(PlaceParam::Position)], {frame, kFrames}).value);
}

bool near(Point a, Point b) { return std::hypot(a.x - b.x, a.y - b.y) < 1e-6; }

}  // namespace

class TestFollowers : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void itDoesTheSameLaterAndLarger();
  void itStopsWhereItsLeaderDoes();
  void throughOthers();
  void neverInACircle();
  void tooManyAreNotFollowed();
  void otherKindsAndUnits();
  void turnsStayWhole();
  void rhythmsAreShared();
  void copiesFollowTheirOwn();
  void comingForwardTogether();
  void whatCanBeChosen();
  void itIsRendered();
  void itIsSaved();
};

void TestFollowers::itDoesTheSameLaterAndLarger() {
  Scene scene = three();
  positionOf(scene, 1).base = Point{0.3, 0.7};
  positionOf(scene, 1).motion = following(scene.layers[0].id, "place.position", 0.25, -0.5);
  // Not looked for yet, it stands still.
  QVERIFY(near(at(scene, 1, 50), {0.3, 0.7}));
  bindFollowers(scene);
  const Point lead = std::get<Point>(positionOf(scene, 0).base);
  double furthest = 0;
  for (int k = 0; k < kFrames; ++k) {
    const Point then = at(scene, 0, k - kFrames / 4);
    const Point wanted{0.3 - 0.5 * (then.x - lead.x), 0.7 - 0.5 * (then.y - lead.y)};
    QVERIFY(near(at(scene, 1, k), wanted));
    furthest = std::max(furthest, std::hypot(wanted.x - 0.3, wanted.y - 0.7));
  }
  QVERIFY(furthest > 0.1);
  QVERIFY(at(scene, 1, kFrames) == at(scene, 1, 0));
  QVERIFY(furthest + std::hypot(0.3, 0.7) <= mostOf(positionSpec(), positionOf(scene, 1)) + 1e-9);
  // The leader is changed: so is what follows, once it is looked for again.
  positionOf(scene, 0).motion.far = Point{0.1, 0.1};
  bindFollowers(scene);
  const Point other = at(scene, 0, 30 - kFrames / 4);
  QVERIFY(near(at(scene, 1, 30), {0.3 - 0.5 * (other.x - lead.x), 0.7 - 0.5 * (other.y - lead.y)}));
  // It goes: what followed it stands still.
  positionOf(scene, 1).motion.follows.layer = 999;
  bindFollowers(scene);
  QVERIFY(!reallyMoves(positionSpec(), positionOf(scene, 1)));
  QVERIFY(near(at(scene, 1, 30), {0.3, 0.7}));
}

// Two motions together want more than there is: what follows does what is shown.
void TestFollowers::itStopsWhereItsLeaderDoes() {
  Scene scene = three();
  Param& lead = scene.layers[0].opacity;
  lead.base = 0.5;
  lead.motion = oa::test::swing(1.0, 3);
  lead.more = {oa::test::swing(1.0, 2)};
  Param& follower = scene.layers[1].opacity;
  follower.base = 0.4;
  follower.motion = following(scene.layers[0].id, "opacity", 0.25, 0.5);
  follower.motion.far = 0.0;
  bindFollowers(scene);
  int held = 0;
  for (int k = 0; k < kFrames; ++k) {
    const auto shown = [&](std::size_t layer, int frame) {
      return std::get<double>(evaluate(opacitySpec(), scene.layers[layer].opacity, {frame, kFrames}).value);
    };
    const double then = shown(0, k - kFrames / 4);
    held += then == 1.0;
    QVERIFY(std::abs(shown(1, k) - (0.4 + 0.5 * (then - 0.5))) < 1e-6);
  }
  QVERIFY(held > 20);
}

void TestFollowers::throughOthers() {
  Scene scene = three();
  positionOf(scene, 1).motion = following(scene.layers[2].id, "place.position", 0.1, 2);
  positionOf(scene, 2).motion = following(scene.layers[0].id, "place.position", 0.2, 0.5);
  bindFollowers(scene);
  const Point lead = std::get<Point>(positionOf(scene, 0).base);
  const Point base = std::get<Point>(positionOf(scene, 1).base);
  for (int k = 0; k < kFrames; k += 7) {
    const Point then = at(scene, 0, k - 72);
    QVERIFY(near(at(scene, 1, k), {base.x + then.x - lead.x, base.y + then.y - lead.y}));
  }
}

void TestFollowers::neverInACircle() {
  Scene scene = three();
  positionOf(scene, 1).motion = following(scene.layers[2].id, "place.position");
  positionOf(scene, 2).motion = following(scene.layers[1].id, "place.position");
  bindFollowers(scene);
  for (int k = 0; k < kFrames; k += 40) {
    QVERIFY(near(at(scene, 1, k), std::get<Point>(positionOf(scene, 1).base)));
    QVERIFY(near(at(scene, 2, k), std::get<Point>(positionOf(scene, 2).base)));
  }
  positionOf(scene, 1).motion = following(scene.layers[1].id, "place.position");
  bindFollowers(scene);
  QVERIFY(!reallyMoves(positionSpec(), positionOf(scene, 1)));
}

// Each doubles the one before: without a limit that would be 2^30 motions behind the last.
void TestFollowers::tooManyAreNotFollowed() {
  Scene scene = three();
  for (int i = 0; i < 30; ++i) {
    scene.layers.push_back(scene.layers[1]);
    scene.layers.back().id = 0;
    scene.layers.back().recipe[0].id = 0;
  }
  assignIds(scene);
  for (std::size_t l = 1; l < scene.layers.size(); ++l) {
    Param& position = positionOf(scene, l);
    position.motion = following(scene.layers[l - 1].id, "place.position", 0.01, 0.3);
    position.more = {following(scene.layers[l - 1].id, "place.position", 0.02, 0.3)};
  }
  bindFollowers(scene);
  for (int k = 0; k < kFrames; ++k) QVERIFY(std::isfinite(at(scene, scene.layers.size() - 1, k).x));
  // The nearest still follow.
  QVERIFY(reallyMoves(positionSpec(), positionOf(scene, 3)));
  // A row is followed as far as it is told.
  for (std::size_t l = 1; l < scene.layers.size(); ++l) positionOf(scene, l).more.clear();
  bindFollowers(scene);
  QVERIFY(reallyMoves(positionSpec(), positionOf(scene, 32)));
}

void TestFollowers::otherKindsAndUnits() {
  const auto spec = [](Unit unit, double low, double high, LoopRule rule = LoopRule::Free) {
    return ParamSpec{.id = "a", .label = "A", .help = "", .base = 0.0, .min = low, .max = high, .unit = unit, .rule = rule};
  };
  const ParamSpec share = spec(Unit::Share, 0, 1);
  const ParamSpec pixels = spec(Unit::Pixels, 0, 200);
  const ParamSpec round = spec(Unit::Degrees, -360, 360, LoopRule::Round);
  QVERIFY(canFollow(pixels, share) && canFollow(share, pixels) && canFollow(round, share) && canFollow(round, round));
  // What turns would jump in what does not.
  QVERIFY(!canFollow(share, round));
  QVERIFY(!canFollow(share, spec(Unit::Share, 0, 1, LoopRule::Progress)) && !canFollow(share, spec(Unit::Share, 0, 1, LoopRule::Fixed)));
  QVERIFY(!canFollow(share, positionSpec()) && canFollow(positionSpec(), positionSpec()));
  // Of other units, as much of the range.
  Param lead;
  lead.base = 0.25;
  lead.motion = oa::test::swing(0.75);
  Param follower;
  follower.base = 10.0;
  follower.motion = following(1, "a", 0, 1);
  follower.motion.far = 10.0;
  follower.motion.bound.leader = std::make_shared<const Leader>(Leader{&share, lead});
  QVERIFY(std::abs(std::get<double>(evaluate(pixels, follower, {120, 240}).value) - 110) < 1e-6);
  Param inPixels = lead;
  inPixels.base = 50.0;
  inPixels.motion.far = 90.0;
  follower.motion.bound.leader = std::make_shared<const Leader>(Leader{&pixels, inPixels});
  QVERIFY(std::abs(std::get<double>(evaluate(pixels, follower, {120, 240}).value) - 50) < 1e-6);
  QVERIFY(std::abs(sumHeight(pixels, follower, 0.5) - 50) < 1e-6);
  // Colours go the same way through OKLab.
  const ParamSpec colour{.id = "c", .label = "C", .help = "", .type = ParamType::Colour, .base = Colour{0, 0, 0, 1}};
  Param from;
  from.base = Colour{0.2f, 0.2f, 0.2f, 1};
  from.motion = oa::test::swing(Colour{0.6f, 0.3f, 0.2f, 1});
  Param to;
  to.base = from.base;
  to.motion = following(1, "c", 0.5);
  to.motion.far = to.base;
  to.motion.bound.leader = std::make_shared<const Leader>(Leader{&colour, from});
  const auto far = std::get<Colour>(evaluate(colour, to, {0, 240}).value);
  QVERIFY(std::abs(far.r - 0.6f) < 1e-4 && std::abs(far.g - 0.3f) < 1e-4 && std::abs(far.b - 0.2f) < 1e-4);
}

void TestFollowers::turnsStayWhole() {
  Scene scene = three();
  const auto turnOf = [](Scene& s, std::size_t layer) -> Param& {
    return s.layers[layer].place[static_cast<std::size_t>(PlaceParam::Turn)];
  };
  const ParamSpec& spec = placeSpecs()[static_cast<std::size_t>(PlaceParam::Turn)];
  turnOf(scene, 0).motion = oa::test::turn(2);
  turnOf(scene, 0).motion.far = 0.0;
  for (const double scale : {1.0, -1.0, 2.4, 0.7}) {
    turnOf(scene, 1).motion = following(scene.layers[0].id, "place.turn", 0.1, scale);
    turnOf(scene, 1).motion.far = 0.0;
    bindFollowers(scene);
    const auto degrees = [&](int k) { return std::get<double>(evaluate(spec, turnOf(scene, 1), {k, kFrames}).value); };
    for (int k = 0; k < kFrames; ++k) {
      // From frame to frame it turns by as much everywhere, across the joint too.
      const double step = std::remainder(degrees(k + 1) - degrees(k), 360);
      QVERIFY(std::abs(step - 2 * 360.0 / kFrames * std::round(scale)) < 1e-6);
    }
  }
}

void TestFollowers::rhythmsAreShared() {
  Scene scene = three();
  positionOf(scene, 0).more.clear();
  positionOf(scene, 1).motion = following(scene.layers[0].id, "place.position", 0.1);
  bindFollowers(scene);
  QCOMPARE(lapsOf(positionSpec(), positionOf(scene, 1)), std::int64_t{3});
  for (int k = 0; k < kFrames; ++k) QVERIFY(near(at(scene, 1, k), at(scene, 1, k + kFrames / 3)));
  for (Layer& layer : scene.layers)
    for (Param& param : layer.recipe[0].params) param.motion.kind = MotionKind::Still;
  QCOMPARE(Plan(scene).laps(), std::int64_t{3});
  // It is told without laps of its own, and keeps step when the loop is cut to what repeats.
  const auto list = edit::motionsIn(Plan(scene).scene());
  const auto follower = std::find_if(list.begin(), list.end(), [](const edit::Timed& t) { return t.kind == MotionKind::Follow; });
  QVERIFY(follower != list.end());
  QCOMPARE(follower->laps, 0);
  std::vector<Point> before;
  before.reserve(kFrames);
  for (int k = 0; k < kFrames / 3; ++k) before.push_back(at(scene, 1, k));
  QVERIFY(edit::shortenToRepeat(scene).has_value());
  QCOMPARE(scene.frames, kFrames / 3);
  bindFollowers(scene);
  for (int k = 0; k < kFrames / 3; ++k) {
    const Param& position = scene.layers[1].place[static_cast<std::size_t>(PlaceParam::Position)];
    QVERIFY(near(std::get<Point>(evaluate(positionSpec(), position, {k, kFrames / 3}).value), before[static_cast<std::size_t>(k)]));
  }
}

void TestFollowers::copiesFollowTheirOwn() {
  Scene scene = three();
  Param& opacity = scene.layers[0].opacity;
  opacity.motion = oa::test::swing(0.2);
  // Within the layer, and another's.
  const RecipeStep& noise = scene.layers[0].recipe[0];
  const int detail = findParam(noise.spec->params, "roughness");
  Param& own = scene.layers[0].recipe[0].params[static_cast<std::size_t>(detail)];
  own.motion = following(scene.layers[0].id, "opacity");
  own.motion.far = own.base;
  positionOf(scene, 0).motion = following(scene.layers[1].id, "place.position");
  const Id outside = scene.layers[1].id;
  const auto made = edit::duplicateLayers(scene, {scene.layers[0].id}, "copy");
  QVERIFY(made.has_value());
  const Layer& copy = *findLayer(scene, made->back());
  QVERIFY(copy.id != scene.layers[0].id);
  QCOMPARE(copy.recipe[0].params[static_cast<std::size_t>(detail)].motion.follows.layer, copy.id);
  QCOMPARE(copy.place[static_cast<std::size_t>(PlaceParam::Position)].motion.follows.layer, outside);
}

void TestFollowers::comingForwardTogether() {
  Scene scene = three();
  positionOf(scene, 1).motion = following(scene.layers[0].id, "place.position", 0.25);
  Param& own = scene.layers[1].opacity;
  own.motion = oa::test::swing(0.2);
  bindFollowers(scene);
  std::vector<Point> before;
  before.reserve(kFrames);
  for (int k = 0; k < kFrames; ++k) before.push_back(at(scene, 1, k));
  edit::bringForward(scene.layers[1], 0.1);
  bindFollowers(scene);
  for (int k = 0; k < kFrames; ++k) QVERIFY(near(at(scene, 1, k), before[static_cast<std::size_t>((k + 24) % kFrames)]));
  // What follows within the layer comes forward with what it follows.
  Scene inner = three();
  Param& opacity = inner.layers[0].opacity;
  opacity.motion = oa::test::swing(0.2);
  Param& roughness = oa::test::param(inner, 0, 0, "roughness");
  roughness.motion = following(inner.layers[0].id, "opacity", 0.25);
  roughness.motion.far = roughness.base;
  edit::bringForward(inner.layers[0], 0.1);
  QVERIFY(std::abs(roughness.motion.start - 0.75) < 1e-12);
  QVERIFY(std::abs(opacity.motion.start - 0.1) < 1e-12);
  // Layers that only follow are spread as well.
  Scene row = three();
  for (const std::size_t l : {1, 2}) positionOf(row, l).motion = following(row.layers[0].id, "place.position");
  for (Layer& layer : row.layers)
    for (Param& param : layer.recipe[0].params) param.motion.kind = MotionKind::Still;
  edit::Spread spread;
  QVERIFY(edit::spreadLayers(row, {row.layers[1].id, row.layers[2].id}, spread).has_value());
  QVERIFY(std::abs(fract(positionOf(row, 1).motion.start - positionOf(row, 2).motion.start) - 0.5) < 1e-9);
}

void TestFollowers::whatCanBeChosen() {
  Scene scene = three();
  positionOf(scene, 1).motion = following(scene.layers[2].id, "place.position");
  const int place = static_cast<int>(PlaceParam::Position);
  const edit::MotionAddress of{scene.layers[2].id, edit::MotionAddress::kPlace, place};
  const auto list = edit::candidatesFor(scene, of);
  QVERIFY(!list.empty());
  QVERIFY(list.front().moves);
  QCOMPARE(list.front().ref.layer, scene.layers[0].id);
  QCOMPARE(list.front().ref.param, std::string("place.position"));
  QVERIFY2(list.front().name == "Place · " + std::string(positionSpec().label), list.front().name.c_str());
  for (const edit::Candidate& candidate : list) {
    // Neither itself nor what follows it.
    QVERIFY(candidate.ref.layer != scene.layers[2].id || candidate.ref.param != "place.position");
    QVERIFY(candidate.ref.layer != scene.layers[1].id || candidate.ref.param != "place.position");
    QVERIFY(edit::refOf(scene, candidate.at) == candidate.ref);
    QVERIFY(!edit::nameOf(scene, candidate.ref).empty());
    // Chosen, it is found.
    Scene chosen = scene;
    positionOf(chosen, 2).motion = following(0, "");
    positionOf(chosen, 2).motion.follows = candidate.ref;
    bindFollowers(chosen);
    QVERIFY(positionOf(chosen, 2).motion.bound.leader != nullptr);
  }
  QVERIFY(edit::firstLeader(scene, of) == list.front().ref);
  QCOMPARE(edit::nameOf(scene, LeaderRef{77, 0, 0, "opacity"}), std::string());
  Scene resting = three();
  positionOf(resting, 0) = Param{positionOf(resting, 0).base, {}, {}, {}};
  QVERIFY(!edit::firstLeader(resting, {resting.layers[2].id, edit::MotionAddress::kPlace, place}));
}

// Followed closely and in the same place, one layer is the other.
void TestFollowers::itIsRendered() {
  Scene led = three();
  led.layers.pop_back();
  led.layers[1].blend = BlendMode::Difference;
  Scene followed = led;
  positionOf(led, 1) = positionOf(led, 0);
  positionOf(followed, 1).motion = following(followed.layers[0].id, "place.position");
  for (const int frame : {0, 35, 190}) {
    const auto a = oa::test::renderFloat(led, frame);
    const auto b = oa::test::renderFloat(followed, frame);
    QVERIFY(oa::test::compare(a, b).largest < 2e-3);
  }
  // As the same picture twice it is black.
  QVERIFY(oa::test::deviationOf(oa::test::renderFloat(followed, 35), 0) < 0.01);
}

void TestFollowers::itIsSaved() {
  Scene scene = three();
  positionOf(scene, 1).motion = following(scene.layers[0].id, "place.position", 0.25, -2);
  Motion item = following(scene.layers[0].id, "x", 0.5);
  item.follows.step = 12;
  item.follows.item = 34;
  positionOf(scene, 2).motion = item;
  const auto again = sceneFromJson(sceneToJson(scene));
  QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
  QVERIFY(*again == scene);
  Json json = paramToJson(positionSpec(), positionOf(scene, 1));
  const auto refused = [&](const char* key, const Json& value, const std::string& where) {
    Json wrong = json;
    wrong["motion"][key] = value;
    const auto read = paramFromJson(positionSpec(), wrong, "p");
    QVERIFY(!read);
    QCOMPARE(read.error().where, where);
  };
  refused("follows", 3, "p.motion.follows");
  refused("follows", {{"layer", 2}}, "p.motion.follows");
  refused("follows", {{"layer", -1}, {"value", "x"}}, "p.motion.follows.layer");
  refused("follows", {{"layer", 2}, {"value", std::string(200, 'x')}}, "p.motion.follows");
  refused("scale", 1e9, "p.motion.scale");
}

QTEST_GUILESS_MAIN(TestFollowers)
#include "tst_followers.moc"
