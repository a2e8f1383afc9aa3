// The graph by pictures that are known: places, groups, copies, masks, presence and what lies below.
#include <QTest>
#include <algorithm>
#include <cmath>

#include "params/stop_items.h"
#include "support/graphs.h"
#include "support/known_graphs.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;
using namespace oa::test;

class TestKnownGraphs : public QObject {
  Q_OBJECT
 private Q_SLOTS:
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
};

void TestKnownGraphs::groupingChangesNoPixel() {
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

void TestKnownGraphs::placesMoveSizeTurnAndFlip() {
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

void TestKnownGraphs::placesCloseTheLoop() {
  Layer layer = square(1);
  layer.place[static_cast<std::size_t>(PlaceParam::Turn)].motion = test::turn(1);
  layer.place[static_cast<std::size_t>(PlaceParam::Position)].motion = test::swing(Point{0.2, 0.2});
  const Scene scene = sceneOf({layer});
  QVERIFY(test::renderFloat(scene, 24).rgba == test::renderFloat(scene, 0).rgba);
  QVERIFY(test::compare(test::renderFloat(scene, 6), test::renderFloat(scene, 0)).mean > 0.005);
  QCOMPARE(distinctFrames(scene), std::int64_t{24});
}

void TestKnownGraphs::turnedFieldsHaveNoBareCorners() {
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

void TestKnownGraphs::nestedPlacesMultiply() {
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

void TestKnownGraphs::ownFramesAndLaps() {
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

void TestKnownGraphs::copiesFollowAndRunAhead() {
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
void TestKnownGraphs::sharedCopiesAreWhole() {
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

void TestKnownGraphs::copiesOfHiddenLayersAreShown() {
  Layer original = square(1);
  original.visible = false;
  QCOMPARE(redBox(test::renderFloat(sceneOf({original, linkedTo(1, 2)}), 0)), QRect(40, 20, 20, 20));
}

void TestKnownGraphs::whatLiesBelowStaysWhereItIs() {
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
void TestKnownGraphs::glassThatMovesShowsWhatRests() {
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

void TestKnownGraphs::masksCut() {
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

void TestKnownGraphs::presenceComesAndGoes() {
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

void TestKnownGraphs::heldPicturesJump() {
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

QTEST_GUILESS_MAIN(TestKnownGraphs)
#include "tst_known_graphs.moc"
