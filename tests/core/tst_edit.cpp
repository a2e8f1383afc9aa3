// Edit operations: what they do, what they refuse, and that a refusal changes nothing.
#include <QTest>
#include <functional>
#include <set>

#include "edit/items.h"
#include "edit/layers.h"
#include "edit/places.h"
#include "edit/snapshot.h"
#include "edit/source_layers.h"
#include "edit/steps.h"
#include "edit/values.h"
#include "scene/extent.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene pile(int layers) {
  Scene scene;
  for (int i = 0; i < layers; ++i) {
    scene.layers.push_back(newLayer(*findStep("noise"), std::string(1, static_cast<char>('a' + i))));
    scene.layers.back().id = i + 1;
    scene.layers.back().recipe[0].id = 100 + i;
  }
  return scene;
}

std::string names(const Scene& scene) {
  std::string all;
  for (const Layer& layer : scene.layers) all += layer.name;
  return all;
}

std::string steps(const Scene& scene) {
  std::string all;
  for (const RecipeStep& step : scene.layers[0].recipe) all += std::string(step.spec->id) + " ";
  return all;
}

const ParamSpec& specOf(const char* step, const char* id) {
  const StepSpec* spec = findStep(step);
  return spec->params[static_cast<std::size_t>(findParam(spec->params, id))];
}

}  // namespace

class TestEdit : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void layersMoveLikeInAPile();
  void movingThereAndBackIsNothing();
  void layersAreAddedCopiedAndTakenAway();
  void groupsAreMadeFilledAndOpened();
  void groupsThatDoSomethingAreNotOpened();
  void copiesWithinACopyShowEachOther();
  void circlesAreRefused();
  void placesAreFittedAlignedAndSpread();
  void snapshotsShareWhatDidNotChange();
  void refusalsChangeNothing();
  void aloneIsASwitch();
  void stepsMoveBehindTheSource();
  void stepsAreCopiedSwitchedAndTakenAway();
  void itemsTakeColours();
  void draggingToTheEndAndBackRestoresMotions_data();
  void draggingToTheEndAndBackRestoresMotions();
  void sourcesComeMovingAndInTheScenesColours();
};

void TestEdit::layersMoveLikeInAPile() {
  for (int from = 0; from < 5; ++from)
    for (int to = -2; to < 8; ++to) {
      Scene scene = pile(5);
      // Places are counted in the pile as it is before.
      const int place = std::clamp(to, 0, 5);
      QVERIFY(edit::moveLayers(scene, {from + 1}, {0, to}).has_value());
      const int expected = place > from ? place - 1 : place;
      QCOMPARE(scene.layers[static_cast<std::size_t>(expected)].id, from + 1);
      // The others keep their order.
      std::string rest = names(scene);
      rest.erase(static_cast<std::size_t>(expected), 1);
      QVERIFY(std::is_sorted(rest.begin(), rest.end()));
    }
  // Several at once, in the order they lie in.
  Scene scene = pile(5);
  QVERIFY(edit::moveLayers(scene, {5, 1}, {0, 3}).has_value());
  QCOMPARE(names(scene), std::string("bcaed"));
}

void TestEdit::movingThereAndBackIsNothing() {
  const Scene before = pile(4);
  for (int from = 0; from < 4; ++from)
    for (int to = 0; to <= 4; ++to) {
      Scene scene = before;
      QVERIFY(edit::moveLayers(scene, {from + 1}, {0, to}).has_value());
      QVERIFY(edit::moveLayers(scene, {from + 1}, {0, to > from ? from : from + (to == from ? 0 : 1)}).has_value());
      QVERIFY(scene == before);
    }
}

void TestEdit::layersAreAddedCopiedAndTakenAway() {
  Scene scene = pile(2);
  const auto added = edit::addLayer(scene, 1, newLayer(*findStep("flat"), "x"));
  QVERIFY(added && *added > 101);
  QCOMPARE(names(scene), std::string("axb"));
  QVERIFY(edit::addLayer(scene, 0, newLayer(*findStep("flat"), "z")).has_value());
  QCOMPARE(names(scene), std::string("axbz"));
  const auto copies = edit::duplicateLayers(scene, {1, 2}, "!");
  QVERIFY(copies && copies->size() == 2);
  QCOMPARE(names(scene), std::string("aa!xbb!z"));
  QVERIFY(scene.layers[0].recipe[0].params == scene.layers[1].recipe[0].params);
  // Every id stands once.
  std::set<Id> ids;
  for (const Layer& layer : scene.layers) QVERIFY(ids.insert(layer.id).second && ids.insert(layer.recipe[0].id).second);
  // What is current afterwards is always a layer that there is.
  while (!scene.layers.empty()) {
    const auto next = edit::removeLayers(scene, {scene.layers.front().id});
    QVERIFY(next.has_value());
    QVERIFY(scene.layers.empty() ? next->empty() : next->front() == scene.layers.front().id);
  }
  QVERIFY(edit::addLayer(scene, 0, newLayer(*findStep("flat"), "x")).has_value());
}

void TestEdit::groupsAreMadeFilledAndOpened() {
  Scene scene = pile(5);
  const auto group = edit::groupLayers(scene, {2, 4}, "G");
  QVERIFY(group.has_value());
  QCOMPARE(names(scene), std::string("acGe"));
  QCOMPARE(findLayer(scene, group->front())->layers.size(), std::size_t{2});
  QCOMPARE(findLayer(scene, group->front())->layers[0].id, 2);
  // Into it, within it, out of it.
  QVERIFY(edit::moveLayers(scene, {1}, {group->front(), 1}).has_value());
  QCOMPARE(names(scene), std::string("cGe"));
  QCOMPARE(findLayer(scene, group->front())->layers[1].id, 1);
  QVERIFY(edit::moveLayers(scene, {1}, {group->front(), 0}).has_value());
  QCOMPARE(findLayer(scene, group->front())->layers[0].id, 1);
  QVERIFY(edit::nudgeLayers(scene, {1}, -1).has_value());  // below the lowest: out of the group
  QCOMPARE(names(scene), std::string("caGe"));
  QVERIFY(!edit::moveLayers(scene, {group->front()}, {group->front(), 0}).has_value());
  // A group within a group, and not into that one either.
  const auto outer = edit::groupLayers(scene, {group->front(), 1}, "H");
  QVERIFY(outer.has_value());
  QVERIFY(!edit::moveLayers(scene, {outer->front()}, {group->front(), 0}).has_value());
  // With a layer and the group it lies in selected, the group is meant.
  QVERIFY(edit::duplicateLayers(scene, {2, outer->front()}, "!")->size() == 1);
  QVERIFY(edit::ungroupLayer(scene, outer->front()).has_value());
  QVERIFY(edit::ungroupLayer(scene, group->front()).has_value());
  QVERIFY(!findLayer(scene, group->front()) && findLayer(scene, 2));
  QVERIFY(!edit::ungroupLayer(scene, 2).has_value());
}

void TestEdit::groupsThatDoSomethingAreNotOpened() {
  Scene scene = pile(3);
  const Id group = edit::groupLayers(scene, {1, 2}, "G")->front();
  const Scene plain = scene;
  const std::vector<std::function<void(Layer&)>> doings{[](Layer& l) {
                                                          l.place[0].base = Point{0.2, 0.5};
                                                        },
                                                        [](Layer& l) { l.mask = newMask(*findStep("shape")); },
                                                        [](Layer& l) { l.recipe.push_back(newStep(*findStep("blur"))); },
                                                        [](Layer& l) { l.blend = BlendMode::Screen; },
                                                        [](Layer& l) { l.opacity.base = 0.5; },
                                                        [](Layer& l) {
                                                          l.presence = {{0, 0.5, 0, 0}};
                                                        },
                                                        [](Layer& l) { l.hold = 2; },
                                                        [](Layer& l) { l.recipe[0].params[3].base = 2.0; }};
  for (const auto& does : doings) {
    scene = plain;
    does(*findLayer(scene, group));
    const Scene before = scene;
    const auto refused = edit::ungroupLayer(scene, group);
    QVERIFY(!refused && refused.error().message.find("\"G\" has") != std::string::npos);
    QVERIFY(scene == before);
  }
}

void TestEdit::copiesWithinACopyShowEachOther() {
  Scene scene = pile(2);
  const Id link = edit::addLinkedCopy(scene, 1, "L")->front();
  const Id group = edit::groupLayers(scene, {1, link}, "G")->front();
  const Id copy = edit::duplicateLayers(scene, {group}, "!")->front();
  const Layer& inside = *findLayer(scene, copy);
  QCOMPARE(std::get<double>(inside.layers[1].recipe[0].params[0].base), static_cast<double>(inside.layers[0].id));
  QCOMPARE(std::get<double>(findLayer(scene, link)->recipe[0].params[0].base), 1.0);
}

void TestEdit::circlesAreRefused() {
  Scene scene = pile(2);
  const Id link = edit::addLinkedCopy(scene, 1, "Echo")->front();
  const Id group = edit::groupLayers(scene, {1}, "Lamps")->front();
  // The copy shows layer 1. A copy of the group put into the group would show itself.
  const Id whole = edit::addLinkedCopy(scene, group, "All")->front();
  const Scene before = scene;
  const auto refused = edit::moveLayers(scene, {whole}, {group, 0});
  QVERIFY(!refused);
  QVERIFY2(refused.error().message.find("Lamps") != std::string::npos && refused.error().message.find("All") != std::string::npos,
           refused.error().message.c_str());
  QVERIFY(scene == before);
  RecipeStep source = newStep(*findStep("linked"));
  source.params[0].base = static_cast<double>(link);
  QVERIFY(!edit::setMask(scene, 1, source).has_value());
  QVERIFY(scene == before);
  // A layer that is shown may go; what showed it is told of.
  QVERIFY(edit::removeLayers(scene, {group}).has_value());
  QCOMPARE(Plan(scene).missing().size(), std::size_t{2});
}

void TestEdit::placesAreFittedAlignedAndSpread() {
  Scene scene;
  scene.width = 400;
  scene.height = 200;
  for (int i = 0; i < 3; ++i) {
    scene.layers.push_back(newLayer(*findStep("shape"), "s"));
    scene.layers.back().id = i + 1;
    test::setValue(scene, static_cast<std::size_t>(i), 0, "width", 40.0);
    test::setValue(scene, static_cast<std::size_t>(i), 0, "height", 20.0);
    scene.layers.back().place[0].base = Point{0.2 + 0.1 * i * i, 0.3 + 0.1 * i};
  }
  const auto box = [&](Id id) {
    const Plan plan(scene);
    return mapped(extentOf(plan, plan.indexOf(id), {0, 300}).box, toScene(plan, plan.indexOf(id), {0, 300}));
  };
  QVERIFY(edit::alignLayers(scene, {1, 2, 3}, edit::Align::Left).has_value());
  for (const Id id : {1, 2, 3}) QVERIFY(std::abs(box(id).left - 60) < 1e-6);
  QVERIFY(edit::alignLayers(scene, {2}, edit::Align::Right).has_value());
  QVERIFY(std::abs(box(2).right - 400) < 1e-6);
  QVERIFY(edit::alignLayers(scene, {2}, edit::Align::Middle).has_value());
  QVERIFY(std::abs(box(2).centre().y - 100) < 1e-6);
  QVERIFY(edit::shiftLayers(scene, {3}, {100, 10}).has_value());
  QVERIFY(edit::distributeLayers(scene, {1, 2, 3}, true).has_value());
  QVERIFY(std::abs(box(3).centre().x - (box(1).centre().x + box(2).centre().x) / 2) < 1e-6);
  QVERIFY(!edit::distributeLayers(scene, {1, 2}, true).has_value());
  QVERIFY(edit::fitLayers(scene, {1}, edit::Fitting::Fit).has_value());
  QVERIFY(std::abs(box(1).left) < 1e-6 && std::abs(box(1).width() - 400) < 1e-6 && std::abs(box(1).height() - 200) < 1e-6);
  QVERIFY(edit::fitLayers(scene, {1}, edit::Fitting::Reset).has_value());
  QVERIFY(isDefaultPlace(scene.layers[0].place));
  scene.layers[0].locked = true;
  QVERIFY(!edit::alignLayers(scene, {1}, edit::Align::Left).has_value());
}

void TestEdit::snapshotsShareWhatDidNotChange() {
  Scene scene;
  for (int i = 0; i < 40; ++i) scene.layers.push_back(newLayer(*findStep("points"), "p"));
  assignIds(scene);
  edit::groupLayers(scene, {scene.layers[3].id, scene.layers[4].id}, "G");
  edit::Snapshot before(scene, {});
  QVERIFY(before.scene() == scene);
  for (int i = 0; i < 20; ++i) {
    scene.layers[7].opacity.base = 0.01 * i;
    const edit::Snapshot after(scene, before);
    QVERIFY(after.scene() == scene);
    QCOMPARE(after.sharedWith(before), layerCount(scene) - 1);
    before = after;
  }
}

void TestEdit::refusalsChangeNothing() {
  Scene full;
  full.layers.assign(kMaxLayers, newLayer(*findStep("flat"), "x"));
  assignIds(full);
  Scene scene = full;
  const Id first = scene.layers[0].id;
  QVERIFY(!edit::addLayer(scene, first, newLayer(*findStep("flat"), "y")).has_value());
  QVERIFY(!edit::duplicateLayers(scene, {first}, "").has_value());
  for (const Id nowhere : {-1, 0, 99999}) {
    QVERIFY(!edit::removeLayers(scene, {nowhere}).has_value());
    QVERIFY(!edit::moveLayers(scene, {nowhere}, {0, 0}).has_value());
    QVERIFY(!edit::moveLayers(scene, {first}, {99999, 0}).has_value());
    QVERIFY(!edit::renameLayer(scene, nowhere, "n").has_value());
    QVERIFY(!edit::setLayersVisible(scene, {nowhere}, false).has_value());
    QVERIFY(!edit::setLayersLocked(scene, {first, nowhere}, true).has_value());
    QVERIFY(!edit::showLayersAlone(scene, {nowhere}).has_value());
    QVERIFY(!edit::groupLayers(scene, {nowhere}, "g").has_value());
    QVERIFY(!edit::addLinkedCopy(scene, nowhere, "l").has_value());
    QVERIFY(!edit::setMask(scene, nowhere, std::nullopt).has_value());
    QVERIFY(!edit::addStep(scene, nowhere, *findStep("blur")).has_value());
  }
  QVERIFY(!edit::removeLayers(scene, {}).has_value());
  QVERIFY(!edit::renameLayer(scene, first, "").has_value());
  QVERIFY(!edit::renameLayer(scene, first, std::string(kMaxNameBytes + 1, 'x')).has_value());
  QVERIFY(!edit::addStep(scene, first, *findStep("noise")).has_value());
  QVERIFY(!edit::removeStep(scene, first, 0).has_value());
  QVERIFY(!edit::moveStep(scene, first, 0, 1).has_value());
  QVERIFY(!edit::switchStep(scene, first, 0, false).has_value());
  QVERIFY(!edit::replaceSource(scene, first, newStep(*findStep("blur"))).has_value());
  QVERIFY(scene == full);
  scene.layers[0].recipe.resize(1);
  while (scene.layers[0].recipe.size() < kMaxSteps) QVERIFY(edit::addStep(scene, first, *findStep("levels")).has_value());
  const auto tooMany = edit::addStep(scene, first, *findStep("levels"));
  QVERIFY(!tooMany && tooMany.error().message.find(std::to_string(kMaxSteps)) != std::string::npos);
  // Groups are not nested without an end.
  Scene deep = pile(1);
  for (int i = 0; i < kMaxGroupDepth; ++i) QVERIFY(edit::groupLayers(deep, {deep.layers[0].id}, "g").has_value());
  QVERIFY(!edit::groupLayers(deep, {deep.layers[0].id}, "g").has_value());
}

void TestEdit::aloneIsASwitch() {
  Scene scene = pile(3);
  scene.layers[2].visible = false;
  QVERIFY(edit::showLayersAlone(scene, {2}).has_value());
  QVERIFY(edit::areAlone(scene, {2}) && !edit::areAlone(scene, {1}));
  QVERIFY(edit::showLayersAlone(scene, {1}).has_value());
  QVERIFY(edit::areAlone(scene, {1}));
  QVERIFY(edit::showLayersAlone(scene, {1}).has_value());
  for (const Layer& layer : scene.layers) QVERIFY(layer.visible);
  // Within a group, the group stays and what lies beside it goes.
  const Id group = edit::groupLayers(scene, {1, 2}, "G")->front();
  QVERIFY(edit::showLayersAlone(scene, {1}).has_value());
  QVERIFY(findLayer(scene, group)->visible && findLayer(scene, 1)->visible && !findLayer(scene, 2)->visible &&
          !findLayer(scene, 3)->visible);
}

void TestEdit::stepsMoveBehindTheSource() {
  Scene scene = pile(1);
  for (const char* id : {"blur", "levels", "grain"}) QVERIFY(edit::addStep(scene, 1, *findStep(id)).has_value());
  QCOMPARE(*edit::moveStep(scene, 1, 3, 0), 1);
  QCOMPARE(steps(scene), std::string("noise grain blur levels "));
  QCOMPARE(*edit::moveStep(scene, 1, 1, 99), 3);
  QCOMPARE(steps(scene), std::string("noise blur levels grain "));
}

void TestEdit::stepsAreCopiedSwitchedAndTakenAway() {
  Scene scene = pile(1);
  QVERIFY(edit::addStep(scene, 1, *findStep("blur")).has_value());
  QCOMPARE(*edit::duplicateStep(scene, 1, 1), 2);
  QVERIFY(scene.layers[0].recipe[1].params == scene.layers[0].recipe[2].params);
  QVERIFY(edit::switchStep(scene, 1, 2, false).has_value() && !scene.layers[0].recipe[2].on && scene.layers[0].recipe[1].on);
  QCOMPARE(*edit::removeStep(scene, 1, 2), 1);
  QVERIFY(edit::replaceSource(scene, 1, newStep(*findStep("cells"))).has_value());
  QCOMPARE(steps(scene), std::string("cells blur "));
}

void TestEdit::itemsTakeColours() {
  Scene scene;
  scene.layers.push_back(newLayer(*findStep("points"), "p"));
  test::setValue(scene, 0, 0, "colour2", Colour{0, 0, 0, 0.5f});
  const std::vector<Colour> two{{1, 0, 0, 1}, {0, 1, 0, 1}};
  QVERIFY(!edit::colourItems(scene.layers[0].recipe[0], {}).has_value());
  QVERIFY(edit::colourItems(scene.layers[0].recipe[0], two).has_value());
  QVERIFY(std::get<Colour>(test::param(scene, 0, 0, "colour1").base) == two[0]);
  QVERIFY(std::get<Colour>(test::param(scene, 0, 0, "colour2").base) == (Colour{0, 1, 0, 0.5f}));
  QVERIFY(std::get<Colour>(test::param(scene, 0, 0, "colour3").base) == two[0]);
}

void TestEdit::draggingToTheEndAndBackRestoresMotions_data() {
  QTest::addColumn<int>("kind");
  QTest::newRow("keyframes") << static_cast<int>(MotionKind::Keyframes);
  QTest::newRow("wander") << static_cast<int>(MotionKind::Wander);
  QTest::newRow("hops") << static_cast<int>(MotionKind::Hops);
  QTest::newRow("swing") << static_cast<int>(MotionKind::Swing);
}

void TestEdit::draggingToTheEndAndBackRestoresMotions() {
  QFETCH(int, kind);
  const ParamSpec& spec = specOf("noise", "cell");
  Param pressed = defaultParam(spec);
  pressed.base = 100.0;
  pressed.motion.kind = static_cast<MotionKind>(kind);
  pressed.motion.far = 160.0;
  placeKeyframe(pressed.motion, {0, 60.0, {}, false});
  placeKeyframe(pressed.motion, {0.5, 140.0, {}, false});
  // At the ends of the range all keyframes are held at it; each move starts from what was pressed, so nothing is lost.
  for (const double to : {400.0, spec.max, spec.min, 33.0}) {
    const Param moved = edit::withBase(spec, pressed, to);
    QCOMPARE(std::get<double>(moved.base), to);
    for (const Keyframe& key : moved.motion.keys) {
      const double v = std::get<double>(key.value);
      QVERIFY(v >= spec.min && v <= spec.max);
    }
  }
  QVERIFY(edit::withBase(spec, pressed, 100.0) == pressed);
  const Param further = edit::withBase(spec, pressed, 130.0);
  QCOMPARE(std::get<double>(further.motion.keys[0].value), 90.0);
}

void TestEdit::sourcesComeMovingAndInTheScenesColours() {
  const std::vector<Colour> colours{hexColour(0x112233), hexColour(0xaa5533), hexColour(0xf0e0c0)};
  int coloured = 0;
  for (const auto& variety : edit::sourceVarieties()) {
    const Layer layer = edit::sourceLayer(variety, colours);
    const std::string name = edit::titleOf(variety) + " of " + std::string(variety.spec->id);
    // One flat colour has nothing that could move, and some words are to be read at rest.
    const bool rests = variety.variety == "Title" || variety.variety == "Lower panel" || variety.variety == "Frosted panel";
    if (variety.spec->id != "flat" && !rests) QVERIFY2(commonLaps(layer) > 0, name.c_str());
    // Every colour that it shows is one of the scene's, or mixed of them by the map.
    for (const RecipeStep& step : layer.recipe)
      forEachShownParamOf(step, [&](const ParamSpec&, const Param& param) {
        const auto* colour = std::get_if<Colour>(&param.base);
        if (!colour) return;
        // As clear as the source has it.
        const auto same = [&](const Colour& c) { return c.r == colour->r && c.g == colour->g && c.b == colour->b; };
        QVERIFY2(std::any_of(colours.begin(), colours.end(), same), name.c_str());
        ++coloured;
      });
    // Without colours a texture comes in black and white.
    QVERIFY(edit::sourceLayer(variety, {}).recipe.size() == 1);
  }
  QVERIFY(coloured > 20);
}

QTEST_GUILESS_MAIN(TestEdit)
#include "tst_edit.moc"
