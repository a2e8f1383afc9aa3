// The graph: places, groups, links, masks and what lies below, over hundreds of random scenes and by known pictures.
#include <QTest>
#include <algorithm>
#include <cmath>

#include "graph/puller.h"
#include "render/reference.h"
#include "params/stop_items.h"
#include "scene/plan.h"
#include "scene/scene_json.h"
#include "scene/tree.h"
#include "support/graphs.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Layer made(const std::string& source, const std::string& name, Id id) {
  Layer layer = newLayer(*findStep(source), name);
  layer.id = id;
  return layer;
}

void give(Layer& layer, std::size_t step, const std::string& id, const Value& value) {
  Param& param = layer.recipe.at(step).params.at(static_cast<std::size_t>(findParam(layer.recipe[step].spec->params, id)));
  param.base = param.motion.far = value;
}

void place(Layer& layer, PlaceParam which, const Value& value) {
  Param& param = layer.place.at(static_cast<std::size_t>(which));
  param.base = param.motion.far = value;
}

// A still square of 20 x 20 pixels in the middle of 100 x 60.
Layer square(Id id, Colour colour = {1, 0, 0, 1}) {
  Layer layer = made("shape", "Square", id);
  give(layer, 0, "width", 20.0);
  give(layer, 0, "height", 20.0);
  give(layer, 0, "corner", 0.0);
  give(layer, 0, "colour", colour);
  return layer;
}

Scene sceneOf(std::vector<Layer> layers, int width = 100, int height = 60) {
  Scene scene;
  scene.width = width;
  scene.height = height;
  scene.frames = 24;
  scene.layers = std::move(layers);
  return scene;
}

Layer grouped(std::vector<Layer> layers, Id id, const std::string& name = "Group") {
  Layer group = made("group", name, id);
  group.layers = std::move(layers);
  return group;
}

Layer linkedTo(Id target, Id id, const std::string& name = "Copy") {
  Layer layer = made("linked", name, id);
  give(layer, 0, "layer", static_cast<double>(target));
  return layer;
}

// The box of all pixels whose red is above a half.
QRect redBox(const test::FloatFrame& f) {
  QRect box;
  for (int y = 0; y < f.height; ++y)
    for (int x = 0; x < f.width; ++x)
      if (f.at(x, y, 0) > 0.5f) box |= QRect(x, y, 1, 1);
  return box;
}

}  // namespace

class TestGraph : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void whatIsNeverFoundAgainIsNotKept();
  void randomGraphsCloseAndDoNotDependOnThreads();
  void randomGraphsAgreeWithThePlainPath();
  void randomGraphsAreSavedWhole();
  void partsOfRandomGraphsFitTogether();
  void keepingChangesNothing();
  void theCacheKeepsWhatIsWantedAgainWithinItsBudget();
  void groupingChangesNoPixel();
  void placesMoveSizeTurnAndFlip();
  void placesCloseTheLoop();
  void turnedFieldsHaveNoBareCorners();
  void nestedPlacesMultiply();
  void ownFramesAndLaps();
  void copiesFollowAndRunAhead();
  void sharedCopiesAreWhole();
  void copiesOfHiddenLayersAreShown();
  void whatLiesBelowStaysWhereItIs();
  void glassThatMovesShowsWhatRests();
  void masksCut();
  void presenceComesAndGoes();
  void heldPicturesJump();
  void circlesAreRefusedByName();
  void tanglesAreRefused();
  void missingLayersShowNothing();
  void repeatsAreCounted();
};

void TestGraph::randomGraphsCloseAndDoNotDependOnThreads() {
  for (unsigned seed = 1; seed <= 150; ++seed) {
    const Scene scene = test::randomGraph(seed);
    const auto first = test::renderFloat(scene, 0);
    QVERIFY2(test::allFinite(first), qPrintable(QString::number(seed)));
    QVERIFY2(test::renderFloat(scene, scene.frames).rgba == first.rgba, qPrintable(QString::number(seed)));
    const int k = static_cast<int>(seed) % scene.frames;
    QVERIFY2(test::renderFloat(scene, k, 64, 36, 1).rgba == test::renderFloat(scene, k, 64, 36, 2).rgba, qPrintable(QString::number(seed)));
  }
}

void TestGraph::randomGraphsAgreeWithThePlainPath() {
  int visible = 0;
  for (unsigned seed = 1; seed <= 60; ++seed) {
    test::GraphWishes wishes;
    wishes.width = 40;
    wishes.height = 24;
    wishes.layers = 5;
    const Scene scene = test::randomGraph(seed, wishes);
    const int k = static_cast<int>(seed * 7) % scene.frames;
    const auto fast = test::renderFloat(scene, k);
    const auto plain = referenceFrame(scene, k, scene.width, scene.height);
    const auto d = test::compare(fast, plain);
    // Hard edges that are turned and softened again differ by how their pixels are read: few pixels, not many.
    if (d.mean >= 0.006) {
      test::FloatFrame expected{scene.width, scene.height, {}};
      for (const auto& p : plain)
        for (const double v : p) expected.rgba.push_back(static_cast<float>(v));
      test::writeEvidence("evidence/graph" + std::to_string(seed), expected, fast);
    }
    QVERIFY2(d.mean < 0.006, qPrintable(QStringLiteral("seed %1: largest %2, mean %3").arg(seed).arg(d.largest).arg(d.mean)));
    visible += test::deviationOf(fast, 0) > 0.01;
  }
  QVERIFY(visible > 30);  // they do show something
}

void TestGraph::randomGraphsAreSavedWhole() {
  for (unsigned seed = 1; seed <= 150; ++seed) {
    const Scene scene = test::randomGraph(seed);
    const std::string text = sceneToText(scene);
    const auto again = sceneFromText(text);
    QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
    QCOMPARE(sceneToText(*again), text);
    if (seed % 5 == 0) QVERIFY(test::compare(test::renderFloat(*again, 5), test::renderFloat(scene, 5)).mean < 0.004);
  }
}

void TestGraph::partsOfRandomGraphsFitTogether() {
  for (unsigned seed = 1; seed <= 60; ++seed) {
    const Scene scene = test::randomGraph(seed);
    PlaneView whole = PlaneView::cover(64, 36, 64, 36).grown(20);
    whole.scale = seed % 2 ? 1 : 1.6;
    const auto all = test::renderFloat(scene, 3, whole);
    for (const auto& [x, y, w, h] : {std::array{7, 5, 50, 40}, {60, 30, 44, 46}}) {
      const auto d = test::compare(test::renderFloat(scene, 3, whole.part(x, y, w, h)), test::cut(all, x, y, w, h));
      QVERIFY2(d.mean < 0.003, qPrintable(QStringLiteral("seed %1: largest %2, mean %3").arg(seed).arg(d.largest).arg(d.mean)));
    }
  }
}

void TestGraph::keepingChangesNothing() {
  for (unsigned seed = 1; seed <= 40; ++seed) {
    const Scene scene = test::randomGraph(seed);
    RenderOptions options;
    options.manyFrames = true;
    Renderer keeping(scene, 64, 36, options);
    for (const std::int64_t k : {3, 0, 11, 3}) {
      Frame8 kept;
      renderInto(keeping, k, Alpha::Straight, kept);
      QVERIFY2(kept.rgba == frame(scene, k, 64, 36).rgba, qPrintable(QString::number(seed)));
    }
  }
}

void TestGraph::theCacheKeepsWhatIsWantedAgainWithinItsBudget() {
  PlaneCache cache(1000);
  const auto key = [](Id layer, double left = 0) {
    PlaneKey k{layer, 1, 0, {}};
    k.view.left = left;
    return k;
  };
  // The first time says nothing, another view is another picture.
  QVERIFY(!cache.wantedAgain(key(1)) && cache.wantedAgain(key(1)));
  QVERIFY(!cache.wantedAgain(key(1, 0.5)));
  const auto rows = [] { return nothingRows(4); };
  for (Id i = 1; i <= 3; ++i) cache.put(key(i), rows(), 400);
  QCOMPARE(cache.bytes(), std::size_t{800});
  QVERIFY(!cache.find(key(1)) && cache.find(key(2)) && cache.find(key(3)));
  // What was asked for last stays longest.
  QVERIFY(cache.find(key(2)));
  cache.put(key(4), rows(), 400);
  QVERIFY(cache.find(key(2)) && !cache.find(key(3)) && cache.find(key(4)));
  cache.put(key(5), rows(), 1001);
  QVERIFY(!cache.find(key(5)) && cache.bytes() <= 1000);
  // A view that moves asks for another picture every time: none of them is kept.
  for (int i = 0; i < 5000; ++i) QVERIFY(!cache.wantedAgain(key(9, i + 1)));
}

void TestGraph::groupingChangesNoPixel() {
  for (unsigned seed = 1; seed <= 60; ++seed) {
    Scene scene = test::randomGraph(seed);
    if (scene.layers.size() < 2) continue;
    const auto before = test::renderFloat(scene, 5);
    // What reads all below it within its group would see less in one of its own.
    const auto readsBelow = [](const Layer& l) {
      return l.recipe[0].spec->reads == SourceReads::Below || (l.mask && l.mask->source.spec->reads == SourceReads::Below);
    };
    if (std::any_of(scene.layers.begin(), scene.layers.end(), readsBelow)) continue;
    Layer group = grouped({scene.layers[0], scene.layers[1]}, 9999);
    scene.layers.erase(scene.layers.begin());
    scene.layers[0] = group;
    QVERIFY2(test::renderFloat(scene, 5).rgba == before.rgba, qPrintable(QString::number(seed)));
  }
}

void TestGraph::placesMoveSizeTurnAndFlip() {
  Layer layer = square(1);
  QCOMPARE(redBox(test::renderFloat(sceneOf({layer}), 0)), QRect(40, 20, 20, 20));
  place(layer, PlaceParam::Position, Point{0.3, 0.75});
  QCOMPARE(redBox(test::renderFloat(sceneOf({layer}), 0)), QRect(20, 35, 20, 20));
  place(layer, PlaceParam::Size, Point{2, 0.5});
  QCOMPARE(redBox(test::renderFloat(sceneOf({layer}), 0)), QRect(10, 40, 40, 10));
  place(layer, PlaceParam::Turn, 90.0);
  QCOMPARE(redBox(test::renderFloat(sceneOf({layer}), 0)), QRect(25, 25, 10, 40).intersected(QRect(0, 0, 100, 60)));
  // Held at its upper left corner.
  Layer corner = square(1);
  place(corner, PlaceParam::Anchor, Point{0.4, 20.0 / 60});
  place(corner, PlaceParam::Position, Point{0, 0});
  QCOMPARE(redBox(test::renderFloat(sceneOf({corner}), 0)), QRect(0, 0, 20, 20));
  // A gradient from black to red, flipped.
  Layer ramp = made("gradient", "Ramp", 1);
  give(ramp, 0, "from", Point{0, 0.5});
  give(ramp, 0, "to", Point{1, 0.5});
  ramp.recipe[0].items = {stopItem({0, {0, 0, 0, 1}}), stopItem({1, {1, 0, 0, 1}})};
  const auto straight = test::renderFloat(sceneOf({ramp}), 0);
  place(ramp, PlaceParam::Flip, std::string("across"));
  const auto flipped = test::renderFloat(sceneOf({ramp}), 0);
  for (int x = 0; x < 100; ++x) QVERIFY(std::abs(flipped.at(x, 30, 0) - straight.at(99 - x, 30, 0)) < 1e-5f);
}

void TestGraph::placesCloseTheLoop() {
  Layer layer = square(1);
  layer.place[static_cast<std::size_t>(PlaceParam::Turn)].motion = test::turn(1);
  layer.place[static_cast<std::size_t>(PlaceParam::Position)].motion = test::swing(Point{0.2, 0.2});
  const Scene scene = sceneOf({layer});
  QVERIFY(test::renderFloat(scene, 24).rgba == test::renderFloat(scene, 0).rgba);
  QVERIFY(test::compare(test::renderFloat(scene, 6), test::renderFloat(scene, 0)).mean > 0.005);
  QCOMPARE(distinctFrames(scene), std::int64_t{24});
}

void TestGraph::turnedFieldsHaveNoBareCorners() {
  for (const char* source : {"noise", "cells", "pattern", "gradient", "points"}) {
    Layer layer = made(source, source, 1);
    place(layer, PlaceParam::Turn, 33.0);
    place(layer, PlaceParam::Size, Point{0.3, 0.3});
    Scene scene = sceneOf({layer});
    scene.background.reset();
    const auto f = test::renderFloat(scene, 0);
    for (std::size_t i = 3; i < f.rgba.size(); i += 4) QVERIFY2(f.rgba[i] > 0.999f, source);
  }
}

void TestGraph::nestedPlacesMultiply() {
  // Half as large within twice as large is as large as ever, and two turns of 45 degrees are one of 90.
  Layer inner = square(1);
  give(inner, 0, "width", 30.0);
  place(inner, PlaceParam::Size, Point{0.5, 0.5});
  place(inner, PlaceParam::Turn, 45.0);
  Layer group = grouped({inner}, 2);
  place(group, PlaceParam::Size, Point{2, 2});
  place(group, PlaceParam::Turn, 45.0);
  const QRect box = redBox(test::renderFloat(sceneOf({group}), 0));
  QCOMPARE(box, QRect(40, 15, 20, 30));
}

void TestGraph::ownFramesAndLaps() {
  // A square in the corner of a group of 40 x 40 that is cut at its frame, put into the middle of 100 x 60.
  Layer inner = square(1);
  place(inner, PlaceParam::Position, Point{0, 0});
  Layer group = grouped({inner}, 2);
  give(group, 0, "width", 40.0);
  give(group, 0, "height", 40.0);
  QCOMPARE(redBox(test::renderFloat(sceneOf({group}), 0)), QRect(20, 0, 20, 20));
  give(group, 0, "cut", true);
  QCOMPARE(redBox(test::renderFloat(sceneOf({group}), 0)), QRect(30, 10, 10, 10));

  Layer turning = square(1);
  give(turning, 0, "width", 40.0);
  turning.place[static_cast<std::size_t>(PlaceParam::Turn)].motion = test::turn(1);
  Layer four = grouped({turning}, 2);
  give(four, 0, "laps", 4.0);
  const Scene quick = sceneOf({four});
  const Scene once = sceneOf({grouped({turning}, 2)});
  QCOMPARE(distinctFrames(quick), std::int64_t{6});
  for (int k = 0; k < 24; ++k) QVERIFY(test::renderFloat(quick, k).rgba == test::renderFloat(once, (4 * k) % 24).rgba);
}

void TestGraph::copiesFollowAndRunAhead() {
  Layer original = square(1);
  original.place[static_cast<std::size_t>(PlaceParam::Position)].base = Point{0.2, 0.5};
  give(original, 0, "colour", Colour{1, 0, 0, 1});
  original.recipe[0].params[static_cast<std::size_t>(findParam(original.recipe[0].spec->params, "width"))].motion = test::swing(40.0);
  Layer copy = linkedTo(1, 2);
  place(copy, PlaceParam::Position, Point{0.7, 0.5});
  const auto widthAt = [&](int k) { return redBox(test::cut(test::renderFloat(sceneOf({original, copy}), k), 45, 0, 55, 60)).width(); };
  const auto ownWidthAt = [&](int k) { return redBox(test::cut(test::renderFloat(sceneOf({original}), k), 0, 0, 45, 60)).width(); };
  for (const int k : {0, 5, 12}) QCOMPARE(widthAt(k), ownWidthAt(k));
  // A quarter ahead.
  give(copy, 0, "start", 0.25);
  for (const int k : {0, 5, 20}) QCOMPARE(widthAt(k), ownWidthAt(k + 6));
  // What is changed there is changed here; steps of the copy are its own.
  give(original, 0, "height", 40.0);
  QCOMPARE(redBox(test::cut(test::renderFloat(sceneOf({original, copy}), 0), 45, 0, 55, 60)).height(), 40);
  // Its source alone.
  original.recipe.push_back(newStep(*findStep("vividness")));
  give(original, 1, "saturation", -1.0);
  QVERIFY(redBox(test::cut(test::renderFloat(sceneOf({original, copy}), 0), 45, 0, 55, 60)).isEmpty());
  give(copy, 0, "shows", std::string("source"));
  QCOMPARE(redBox(test::cut(test::renderFloat(sceneOf({original, copy}), 0), 45, 0, 55, 60)).height(), 40);
}

// What several copies show is made once, in a picture as large as it is: with its soft edges, wherever it lies, whatever is in it.
void TestGraph::sharedCopiesAreWhole() {
  Layer soft = square(1);
  give(soft, 0, "softness", 24.0);
  soft.visible = false;
  const auto alone = [&](Point at) {
    Layer own = soft;
    own.visible = true;
    place(own, PlaceParam::Position, at);
    return sceneOf({own});
  };
  for (const Point at : {Point{0.31, 0.47}, Point{0.02, 0.98}, Point{0.5, 0.5}}) {
    Layer here = linkedTo(1, 2);
    place(here, PlaceParam::Position, at);
    Layer away = linkedTo(1, 3);
    place(away, PlaceParam::Position, Point{7, 7});
    const auto d = test::compare(test::renderFloat(sceneOf({soft, here, away}), 0), test::renderFloat(alone(at), 0));
    QVERIFY2(d.largest < 2e-3, qPrintable(QString::number(d.largest)));
  }
  // Cut off at the frame's right and lower edge, and taken on by steps that read whole rows.
  for (const Point at : {Point{0.97, 0.5}, Point{0.5, 0.97}, Point{0.97, 0.97}}) {
    Layer here = linkedTo(1, 2);
    place(here, PlaceParam::Position, at);
    here.mask = newMask(*findStep("flat"));
    here.mask->params[static_cast<std::size_t>(MaskParam::Soften)].base = 6.0;
    Layer away = linkedTo(1, 3);
    place(away, PlaceParam::Position, Point{7, 7});
    const auto d = test::compare(test::renderFloat(sceneOf({soft, here, away}), 0), test::renderFloat(alone(at), 0));
    QVERIFY2(d.largest < 2e-3, qPrintable(QString::number(d.largest)));
  }
  // Kept from frame to frame it is the same to the byte; copies that run ahead show what is due.
  Layer turning = square(4);
  give(turning, 0, "softness", 9.0);
  turning.place[static_cast<std::size_t>(PlaceParam::Turn)].motion = test::turn(1);
  Layer group = grouped({turning}, 1);
  group.visible = false;
  std::vector<Layer> layers{group};
  for (int i = 0; i < 5; ++i) {
    Layer copy = linkedTo(1, 10 + i);
    give(copy, 0, "start", 0.2 * i);
    place(copy, PlaceParam::Position, Point{0.17 * i + 0.1, 0.5});
    layers.push_back(copy);
  }
  const Scene many = sceneOf(layers);
  RenderOptions options;
  options.manyFrames = true;
  Renderer keeping(many, 100, 60, options);
  for (const std::int64_t k : {0, 7, 7, 3, 23, 24}) {
    Frame8 kept;
    renderInto(keeping, k, Alpha::Straight, kept);
    QVERIFY(kept.rgba == frame(many, k, 100, 60).rgba);
  }
}

void TestGraph::copiesOfHiddenLayersAreShown() {
  Layer original = square(1);
  original.visible = false;
  QCOMPARE(redBox(test::renderFloat(sceneOf({original, linkedTo(1, 2)}), 0)), QRect(40, 20, 20, 20));
}

void TestGraph::whatLiesBelowStaysWhereItIs() {
  Layer ground = made("noise", "Ground", 1);
  give(ground, 0, "cell", 12.0);
  Layer glass = made("below", "Glass", 2);
  const Scene plain = sceneOf({ground});
  QVERIFY(test::compare(test::renderFloat(sceneOf({ground, glass}), 4), test::renderFloat(plain, 4)).largest < 1e-5);
  // Wherever the glass is placed, what is seen through it lies where it lies; but a step on it works.
  place(glass, PlaceParam::Position, Point{0.2, 0.9});
  place(glass, PlaceParam::Turn, 90.0);
  QVERIFY(test::compare(test::renderFloat(sceneOf({ground, glass}), 4), test::renderFloat(plain, 4)).largest < 1e-4);
  glass.place = defaultPlace();
  glass.mask = newMask(*findStep("shape"));
  auto& shape = glass.mask->source;
  shape.params[static_cast<std::size_t>(findParam(shape.spec->params, "width"))].base = 40.0;
  shape.params[static_cast<std::size_t>(findParam(shape.spec->params, "height"))].base = 20.0;
  glass.recipe.push_back(newStep(*findStep("levels")));
  give(glass, 1, "invert", true);
  const auto seen = test::renderFloat(sceneOf({ground, glass}), 4);
  const auto behind = test::renderFloat(plain, 4);
  QVERIFY(std::abs(seen.at(50, 30, 0) - (1 - behind.at(50, 30, 0))) < 0.01f);
  QCOMPARE(seen.at(5, 5, 0), behind.at(5, 5, 0));
}

// What lies below rests, the glass over it moves, and a copy shows the glass: its picture is another one at every moment.
void TestGraph::glassThatMovesShowsWhatRests() {
  Layer ramp = made("gradient", "Ramp", 1);
  give(ramp, 0, "from", Point{0, 0.5});
  give(ramp, 0, "to", Point{1, 0.5});
  Layer glass = made("below", "Glass", 2);
  glass.visible = false;
  glass.place[static_cast<std::size_t>(PlaceParam::Position)].motion = test::swing(Point{0.9, 0.5});
  const Scene scene = sceneOf({ramp, glass, linkedTo(2, 3)});
  QCOMPARE(distinctFrames(scene), std::int64_t{24});
  QVERIFY(test::compare(test::renderFloat(scene, 12), test::renderFloat(scene, 0)).mean > 0.05);
  RenderOptions options;
  options.manyFrames = true;
  Renderer keeping(scene, 100, 60, options);
  for (const std::int64_t k : {0, 0, 6, 12, 6}) {
    Frame8 kept;
    renderInto(keeping, k, Alpha::Straight, kept);
    QVERIFY(kept.rgba == frame(scene, k, 100, 60).rgba);
  }
}

void TestGraph::masksCut() {
  Layer red = made("flat", "Red", 1);
  give(red, 0, "colour", Colour{1, 0, 0, 1});
  red.mask = newMask(*findStep("shape"));
  const auto set = [&](const char* id, const Value& value) {
    auto& source = red.mask->source;
    source.params[static_cast<std::size_t>(findParam(source.spec->params, id))].base = value;
  };
  set("width", 30.0);
  set("height", 20.0);
  set("corner", 0.0);
  QCOMPARE(redBox(test::renderFloat(sceneOf({red}), 0)), QRect(35, 20, 30, 20));
  const auto given = [&](MaskParam which) -> Value& { return red.mask->params[static_cast<std::size_t>(which)].base; };
  given(MaskParam::Grow) = 4.0;
  QCOMPARE(redBox(test::renderFloat(sceneOf({red}), 0)), QRect(31, 16, 38, 28));
  given(MaskParam::Grow) = -4.0;
  QCOMPARE(redBox(test::renderFloat(sceneOf({red}), 0)), QRect(39, 24, 22, 12));
  given(MaskParam::Grow) = 0.0;
  given(MaskParam::Invert) = true;
  auto f = test::renderFloat(sceneOf({red}), 0);
  QCOMPARE(f.at(50, 30, 0), 0.0f);
  QCOMPARE(f.at(2, 2, 0), 1.0f);
  given(MaskParam::Invert) = false;
  given(MaskParam::Soften) = 10.0;
  f = test::renderFloat(sceneOf({red}), 0);
  QVERIFY(f.at(50, 20, 0) > 0.3f && f.at(50, 20, 0) < 0.7f);
  // By the lightness of a gradient: half of it is half.
  given(MaskParam::Soften) = 0.0;
  given(MaskParam::Reads) = std::string("lightness");
  red.mask->source = newStep(*findStep("flat"));
  red.mask->source.params[0].base = Colour{0.5f, 0.5f, 0.5f, 1};
  QVERIFY(std::abs(test::renderFloat(sceneOf({red}), 0).at(3, 3, 0) - 0.5f) < 1e-4f);
  // By another layer, which is followed.
  Layer shape = square(2);
  shape.visible = false;
  red.mask->source = linkedTo(2, 3).recipe[0];
  given(MaskParam::Reads) = std::string("alpha");
  QCOMPARE(redBox(test::renderFloat(sceneOf({red, shape}), 0)), QRect(40, 20, 20, 20));
  // It moves with the layer that it is of.
  place(red, PlaceParam::Position, Point{0.3, 0.5});
  QCOMPARE(redBox(test::renderFloat(sceneOf({red, shape}), 0)), QRect(20, 20, 20, 20));
}

void TestGraph::presenceComesAndGoes() {
  Layer layer = square(1);
  layer.presence = {{0.75, 0.5, 0, 0}};  // across the joint
  const auto there = [&](int k) { return test::renderFloat(sceneOf({layer}), k).at(50, 30, 0); };
  QCOMPARE(there(18), 1.0f);
  QCOMPARE(there(0), 1.0f);
  QCOMPARE(there(5), 1.0f);
  QCOMPARE(there(6), 0.0f);
  QCOMPARE(there(17), 0.0f);
  layer.presence = {{0, 0.5, 0.25, 0.25}};
  QVERIFY(there(3) > 0.4f && there(3) < 0.6f);
  QCOMPARE(there(6), 1.0f);
  // A step that is there for a while; half of it is half of it.
  Layer stepped = made("flat", "Flat", 1);
  give(stepped, 0, "colour", Colour{1, 1, 1, 1});
  stepped.recipe.push_back(newStep(*findStep("levels")));
  give(stepped, 1, "invert", true);
  stepped.recipe[1].presence = {{0.5, 0.5, 0.25, 0}};
  const auto tone = [&](int k) { return test::renderFloat(sceneOf({stepped}), k).at(5, 5, 0); };
  QCOMPARE(tone(3), 1.0f);
  QVERIFY(std::abs(tone(15) - 0.5f) < 0.01f);
  QCOMPARE(tone(20), 0.0f);
}

void TestGraph::heldPicturesJump() {
  Layer layer = square(1);
  layer.place[static_cast<std::size_t>(PlaceParam::Turn)].motion = test::turn(1);
  give(layer, 0, "width", 40.0);
  const Scene smooth = sceneOf({layer});
  layer.hold = 3;
  Scene held = sceneOf({layer});
  for (int k = 0; k < 24; ++k) QVERIFY(test::renderFloat(held, k).rgba == test::renderFloat(smooth, k - k % 3).rgba);
  // The scene holds all of it.
  Scene all = smooth;
  all.hold = 4;
  for (int k = 0; k < 24; ++k) QVERIFY(test::renderFloat(all, k).rgba == test::renderFloat(smooth, k - k % 4).rgba);
}

void TestGraph::circlesAreRefusedByName() {
  // A copy of the group that it lies in.
  const Scene inside = sceneOf({grouped({square(1), linkedTo(3, 2, "Echo")}, 3, "Lamps")});
  const Plan plan(inside);
  QCOMPARE(plan.circles().size(), std::size_t{1});
  QVERIFY2(plan.circles()[0].find("\"Lamps\"") != std::string::npos && plan.circles()[0].find("\"Echo\"") != std::string::npos,
           plan.circles()[0].c_str());
  QVERIFY(!plan.status());
  // Two copies of each other, and a layer that shows what lies below while that shows it.
  QVERIFY(!Plan(sceneOf({linkedTo(2, 1, "A"), linkedTo(1, 2, "B")})).status());
  QVERIFY(!Plan(sceneOf({linkedTo(2, 1, "A"), made("below", "B", 2)})).status());
  Layer masked = square(1);
  masked.mask = newMask(*findStep("linked"));
  masked.mask->source.params[0].base = 1.0;
  QVERIFY(!Plan(sceneOf({masked})).status());
  // In files as well; and what is made of it all the same ends.
  const auto read = sceneFromText(sceneToText(inside));
  QVERIFY(!read);
  QVERIFY2(read.error().sentence().find("Echo") != std::string::npos, read.error().sentence().c_str());
  QVERIFY(test::allFinite(test::renderFloat(inside, 0)));
  QVERIFY(test::allFinite(test::renderFloat(sceneOf({linkedTo(2, 1, "A"), made("below", "B", 2)}), 0)));
  // Any link of any scene that would close one.
  int refused = 0;
  for (unsigned seed = 1; seed <= 200; ++seed) {
    Scene scene = test::randomGraph(seed);
    const auto ids = allIds(scene);
    Layer& layer = *findLayer(scene, ids[seed % ids.size()]);
    if (layer.isGroup()) continue;
    layer.recipe[0] = linkedTo(ids[(seed * 5) % ids.size()], 0).recipe[0];
    const Plan tied(scene);
    if (tied.circles().empty()) continue;
    ++refused;
    QVERIFY(!sceneFromText(sceneToText(scene)));
    QVERIFY2(tied.circles()[0].find("\"" + layer.name + "\"") != std::string::npos, tied.circles()[0].c_str());
    QVERIFY(test::allFinite(test::renderFloat(scene, 0)));
  }
  QVERIFY(refused > 20);
}

void TestGraph::tanglesAreRefused() {
  // Every group shows the one before twice: 2^30 squares.
  std::vector<Layer> layers{square(1)};
  for (Id id = 2; id < 92; id += 3) {
    const Id before = layers.back().id;
    layers.push_back(grouped({linkedTo(before, id), linkedTo(before, id + 1)}, id + 2));
  }
  const auto status = Plan(sceneOf(layers)).status();
  QVERIFY(!status);
  QVERIFY2(status.error().message.find("show each other so often") != std::string::npos, status.error().message.c_str());
  QVERIFY(!sceneFromText(sceneToText(sceneOf(layers))));
}

void TestGraph::missingLayersShowNothing() {
  const Scene scene = sceneOf({square(1), linkedTo(77, 2, "Echo")});
  const Plan plan(scene);
  QVERIFY(plan.status());
  QCOMPARE(plan.missing().size(), std::size_t{1});
  QVERIFY(plan.missing()[0].find("Echo") != std::string::npos);
  QCOMPARE(redBox(test::renderFloat(scene, 0)), QRect(40, 20, 20, 20));
  const auto again = sceneFromText(sceneToText(scene));
  QVERIFY(again);
  QCOMPARE(std::get<double>(again->layers[1].recipe[0].params[0].base), 77.0);
}

// What the plan says of repeats is so: frames that it calls equal are equal to the byte.
void TestGraph::repeatsAreCounted() {
  int repeating = 0;
  for (unsigned seed = 1; seed <= 120; ++seed) {
    const Scene scene = test::randomGraph(seed);
    const auto distinct = distinctFrames(scene);
    QVERIFY(distinct >= 1 && scene.frames % distinct == 0);
    if (distinct == scene.frames) continue;
    ++repeating;
    for (const int k : {1, 5})
      QVERIFY2(test::renderFloat(scene, k + distinct).rgba == test::renderFloat(scene, k).rgba, qPrintable(QString::number(seed)));
  }
  QVERIFY(repeating >= 3);
}

void TestGraph::whatIsNeverFoundAgainIsNotKept() {
  PlaneCache cache(std::size_t{1} << 20);
  const auto key = [](Id layer, std::int64_t frame) { return PlaneKey{layer, 1, frame, PlaneView()}; };
  const auto kept = [&](Id layer, bool findAgain) {
    int count = 0;
    for (std::int64_t k = 0; k < 400; ++k) {
      if (!cache.worthKeeping(layer)) continue;
      cache.put(key(layer, k), nothingRows(4), 16);
      if (findAgain && !cache.find(key(layer, k))) return -1;
      ++count;
    }
    return count;
  };
  // One that is found stays; one that never is only now and then, and each layer for itself.
  QCOMPARE(kept(1, true), 400);
  const int never = kept(2, false);
  QVERIFY2(never >= 32 && never < 100, qPrintable(QString::number(never)));
  QVERIFY(cache.worthKeeping(1));
}

QTEST_GUILESS_MAIN(TestGraph)
#include "tst_graph.moc"
