// Edit operations: what they do, what they refuse, and that a refusal changes nothing.
#include <QTest>

#include "edit/layers.h"
#include "edit/source_layers.h"
#include "edit/steps.h"
#include "edit/values.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene pile(int layers) {
  Scene scene;
  for (int i = 0; i < layers; ++i) scene.layers.push_back(newLayer(*findStep("noise"), std::string(1, static_cast<char>('a' + i))));
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
  void refusalsChangeNothing();
  void aloneIsASwitch();
  void stepsMoveBehindTheSource();
  void stepsAreCopiedSwitchedAndTakenAway();
  void partsTakeColours();
  void draggingToTheEndAndBackRestoresMotions_data();
  void draggingToTheEndAndBackRestoresMotions();
  void sourcesComeMovingAndInTheScenesColours();
};

void TestEdit::layersMoveLikeInAPile() {
  for (int from = 0; from < 5; ++from)
    for (int to = -2; to < 8; ++to) {
      Scene scene = pile(5);
      const auto at = edit::moveLayer(scene, from, to);
      QVERIFY(at.has_value());
      QCOMPARE(*at, std::clamp(to, 0, 4));
      QCOMPARE(scene.layers[static_cast<std::size_t>(*at)].name, std::string(1, static_cast<char>('a' + from)));
      // The others keep their order.
      std::string rest = names(scene);
      rest.erase(static_cast<std::size_t>(*at), 1);
      QVERIFY(std::is_sorted(rest.begin(), rest.end()));
    }
}

void TestEdit::movingThereAndBackIsNothing() {
  const Scene before = pile(4);
  for (int from = 0; from < 4; ++from)
    for (int to = 0; to < 4; ++to) {
      Scene scene = before;
      QVERIFY(edit::moveLayer(scene, *edit::moveLayer(scene, from, to), from).has_value());
      QVERIFY(scene == before);
    }
}

void TestEdit::layersAreAddedCopiedAndTakenAway() {
  Scene scene = pile(2);
  QCOMPARE(*edit::addLayer(scene, 0, newLayer(*findStep("flat"), "x")), 1);
  QCOMPARE(names(scene), std::string("axb"));
  QCOMPARE(*edit::addLayer(scene, -1, newLayer(*findStep("flat"), "y")), 0);
  QCOMPARE(*edit::addLayer(scene, 99, newLayer(*findStep("flat"), "z")), 4);
  QCOMPARE(names(scene), std::string("yaxbz"));
  QCOMPARE(*edit::duplicateLayer(scene, 1, "!"), 2);
  QCOMPARE(names(scene), std::string("yaa!xbz"));
  QVERIFY(scene.layers[1].recipe == scene.layers[2].recipe);
  // What is current afterwards is always a layer that there is.
  while (!scene.layers.empty()) {
    const int last = static_cast<int>(scene.layers.size()) - 1;
    QCOMPARE(*edit::removeLayer(scene, last), std::max(0, last - 1));
  }
  QCOMPARE(*edit::addLayer(scene, 7, newLayer(*findStep("flat"), "x")), 0);
}

void TestEdit::refusalsChangeNothing() {
  Scene full;
  full.layers.assign(kMaxLayers, newLayer(*findStep("flat"), "x"));
  Scene scene = full;
  QVERIFY(!edit::addLayer(scene, 0, newLayer(*findStep("flat"), "y")).has_value());
  QVERIFY(!edit::duplicateLayer(scene, 0, "").has_value());
  for (const int nowhere : {-1, static_cast<int>(kMaxLayers)}) {
    QVERIFY(!edit::removeLayer(scene, nowhere).has_value());
    QVERIFY(!edit::moveLayer(scene, nowhere, 0).has_value());
    QVERIFY(!edit::renameLayer(scene, nowhere, "n").has_value());
    QVERIFY(!edit::setLayerVisible(scene, nowhere, false).has_value());
    QVERIFY(!edit::setLayerLocked(scene, nowhere, true).has_value());
    QVERIFY(!edit::showLayerAlone(scene, nowhere).has_value());
    QVERIFY(!edit::addStep(scene, nowhere, *findStep("blur")).has_value());
  }
  QVERIFY(!edit::renameLayer(scene, 0, "").has_value());
  QVERIFY(!edit::renameLayer(scene, 0, std::string(kMaxNameBytes + 1, 'x')).has_value());
  QVERIFY(!edit::addStep(scene, 0, *findStep("noise")).has_value());
  QVERIFY(!edit::removeStep(scene, 0, 0).has_value());
  QVERIFY(!edit::moveStep(scene, 0, 0, 1).has_value());
  QVERIFY(!edit::switchStep(scene, 0, 0, false).has_value());
  QVERIFY(!edit::replaceSource(scene, 0, newStep(*findStep("blur"))).has_value());
  QVERIFY(!edit::colourParts(scene, 0, 0, {}).has_value());
  QVERIFY(scene == full);
  scene.layers[0].recipe.resize(1);
  while (scene.layers[0].recipe.size() < kMaxSteps) QVERIFY(edit::addStep(scene, 0, *findStep("levels")).has_value());
  const auto tooMany = edit::addStep(scene, 0, *findStep("levels"));
  QVERIFY(!tooMany && tooMany.error().message.find(std::to_string(kMaxSteps)) != std::string::npos);
}

void TestEdit::aloneIsASwitch() {
  Scene scene = pile(3);
  scene.layers[2].visible = false;
  QVERIFY(edit::showLayerAlone(scene, 1).has_value());
  QVERIFY(edit::isAlone(scene, 1) && !edit::isAlone(scene, 0));
  QVERIFY(edit::showLayerAlone(scene, 0).has_value());
  QVERIFY(edit::isAlone(scene, 0));
  QVERIFY(edit::showLayerAlone(scene, 0).has_value());
  for (const Layer& layer : scene.layers) QVERIFY(layer.visible);
}

void TestEdit::stepsMoveBehindTheSource() {
  Scene scene = pile(1);
  for (const char* id : {"blur", "levels", "grain"}) QVERIFY(edit::addStep(scene, 0, *findStep(id)).has_value());
  QCOMPARE(*edit::moveStep(scene, 0, 3, 0), 1);
  QCOMPARE(steps(scene), std::string("noise grain blur levels "));
  QCOMPARE(*edit::moveStep(scene, 0, 1, 99), 3);
  QCOMPARE(steps(scene), std::string("noise blur levels grain "));
}

void TestEdit::stepsAreCopiedSwitchedAndTakenAway() {
  Scene scene = pile(1);
  QVERIFY(edit::addStep(scene, 0, *findStep("blur")).has_value());
  QCOMPARE(*edit::duplicateStep(scene, 0, 1), 2);
  QVERIFY(scene.layers[0].recipe[1] == scene.layers[0].recipe[2]);
  QVERIFY(edit::switchStep(scene, 0, 2, false).has_value() && !scene.layers[0].recipe[2].on && scene.layers[0].recipe[1].on);
  QCOMPARE(*edit::removeStep(scene, 0, 2), 1);
  QVERIFY(edit::replaceSource(scene, 0, newStep(*findStep("cells"))).has_value());
  QCOMPARE(steps(scene), std::string("cells blur "));
}

void TestEdit::partsTakeColours() {
  Scene scene;
  scene.layers.push_back(newLayer(*findStep("points"), "p"));
  test::setValue(scene, 0, 0, "colour2", Colour{0, 0, 0, 0.5f});
  const std::vector<Colour> two{{1, 0, 0, 1}, {0, 1, 0, 1}};
  QVERIFY(edit::colourParts(scene, 0, 0, two).has_value());
  QVERIFY(std::get<Colour>(test::param(scene, 0, 0, "colour1").base) == two[0]);
  QVERIFY(std::get<Colour>(test::param(scene, 0, 0, "colour2").base) == (Colour{0, 1, 0, 0.5f}));
  QVERIFY(std::get<Colour>(test::param(scene, 0, 0, "colour3").base) == two[0]);
  // Points that are not shown keep theirs.
  QVERIFY(std::get<Colour>(test::param(scene, 0, 0, "colour9").base) == std::get<Colour>(specOf("points", "colour9").base));
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
    // One flat colour has nothing that could move.
    if (variety.spec->id != "flat") QVERIFY2(commonLaps(layer) > 0, name.c_str());
    // Every colour that it shows is one of the scene's, or mixed of them by the map.
    for (const RecipeStep& step : layer.recipe)
      for (std::size_t i = 0; i < step.params.size(); ++i) {
        if (!isShown(step.spec->params, step.params, i)) continue;
        const auto known = [&](const Colour& c) { return std::find(colours.begin(), colours.end(), c) != colours.end(); };
        if (const auto* colour = std::get_if<Colour>(&step.params[i].base)) {
          QVERIFY2(known(*colour), name.c_str());
          ++coloured;
        }
        if (const auto* stops = std::get_if<Stops>(&step.params[i].base)) {
          for (const Stop& stop : *stops) QVERIFY2(known(stop.colour), name.c_str());
          ++coloured;
        }
      }
    // Without colours a texture comes in black and white.
    QVERIFY(edit::sourceLayer(variety, {}).recipe.size() == 1);
  }
  QVERIFY(coloured > 20);
}

QTEST_GUILESS_MAIN(TestEdit)
#include "tst_edit.moc"
