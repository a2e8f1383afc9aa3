// Travel by depth: the nearer the faster, whole tiles, closed; what cannot travel is made to; haze that is one step and stays one.
#include <QTemporaryDir>
#include <QTest>
#include <algorithm>
#include <cmath>

#include "edit/depth.h"
#include "scene/scene_json.h"
#include "scene/tree.h"
#include "support/media.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

// A gradient that cannot travel, two fields, and a strip of a picture that ends.
Scene street(const QString& folder) {
  Scene scene = test::oneLayer("gradient", 192, 108, 120);
  for (const char* source : {"noise", "cells", "picture"}) scene.layers.push_back(newLayer(*findStep(source), source));
  test::setValue(scene, 3, 0, "file", test::savedPicture(test::patchwork(64, 40, true), folder + "/strip.png"));
  test::setValue(scene, 3, 0, "across", std::string("nothing"));
  test::setValue(scene, 3, 0, "down", std::string("nothing"));
  assignIds(scene);
  return scene;
}

std::vector<Id> allOf(const Scene& scene) {
  std::vector<Id> ids;
  for (const Layer& layer : scene.layers) ids.push_back(layer.id);
  return ids;
}

Point travelOf(const Layer& layer) {
  for (auto step = layer.recipe.rbegin(); step != layer.recipe.rend(); ++step)
    if (const int i = findParam(step->spec->params, "travel"); i >= 0)
      if (const auto* by = std::get_if<Point>(&step->params[static_cast<std::size_t>(i)].base)) return *by;
  return {};
}

}  // namespace

class TestDepth : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void upperOnesAreNearer();
  void theNearerTheFaster();
  void aLongerLoopGivesTheTrueSpeeds();
  void allOfItCloses();
  void whatCannotTravelIsMadeTo();
  void hazeIsOneStep();
  void distancesAreSaved();
  void refusals();
};

void TestDepth::upperOnesAreNearer() {
  QTemporaryDir dir;
  Scene scene = street(dir.path());
  auto ids = allOf(scene);
  std::reverse(ids.begin(), ids.end());
  std::swap(ids[0], ids[2]);  // however they were selected
  const edit::Depth depth = edit::depthOf(scene, ids);
  QCOMPARE(depth.layers.size(), std::size_t{4});
  for (std::size_t i = 0; i < 4; ++i) {
    QCOMPARE(depth.layers[i].layer, scene.layers[3 - i].id);
    QCOMPARE(depth.layers[i].distance, std::pow(2.0, static_cast<double>(i)));
  }
}

void TestDepth::theNearerTheFaster() {
  QTemporaryDir dir;
  for (const double seconds : {1.0, 3.0, 8.0}) {
    const Scene scene = street(dir.path());
    edit::Depth depth = edit::depthOf(scene, allOf(scene));
    depth.seconds = seconds;
    const auto travels = edit::depthTravel(scene, depth);
    for (std::size_t i = 0; i < travels.size(); ++i) {
      QVERIFY(travels[i].tiles >= 1);
      QVERIFY(std::abs(travels[i].wanted - 192 / seconds / depth.layers[i].distance) < 1e-9);
      // Whole tiles a lap are what is nearest to it.
      const double lap = 4;
      QVERIFY(std::abs(travels[i].speed - travels[i].tiles * travels[i].tile / lap) < 1e-9);
      if (travels[i].wanted * lap > travels[i].tile)
        QVERIFY(std::abs(travels[i].speed - travels[i].wanted) <= travels[i].tile / lap / 2 + 1e-9);
    }
  }
}

void TestDepth::aLongerLoopGivesTheTrueSpeeds() {
  QTemporaryDir dir;
  Scene scene = street(dir.path());
  edit::Depth depth = edit::depthOf(scene, allOf(scene));
  depth.seconds = 3;
  // The gradient, far away, would have to pass wholly within four seconds.
  QVERIFY(edit::depthTravel(scene, depth).back().speed > 2 * edit::depthTravel(scene, depth).back().wanted);
  scene.frames = edit::framesForDepth(scene, depth);
  QVERIFY(scene.frames > 120);
  double before = 1e9;
  for (const auto& travel : edit::depthTravel(scene, depth)) {
    QVERIFY2(std::abs(travel.speed / travel.wanted - 1) < 0.35, qPrintable(QString::number(travel.speed / travel.wanted)));
    QVERIFY(travel.speed < before);
    before = travel.speed;
  }
  QCOMPARE(edit::framesForDepth(scene, depth), scene.frames);
}

void TestDepth::allOfItCloses() {
  QTemporaryDir dir;
  Scene scene = street(dir.path());
  edit::Depth depth = edit::depthOf(scene, allOf(scene));
  depth.haze = 0.6;
  QVERIFY(edit::travelByDepth(scene, depth).has_value());
  const auto first = test::renderFloat(scene, 0);
  QVERIFY(test::renderFloat(scene, scene.frames).rgba == first.rgba);
  QVERIFY(test::renderFloat(scene, 31).rgba != first.rgba);
  for (const Layer& layer : scene.layers) QVERIFY(travelOf(layer).x < 0);
  depth.left = false;
  QVERIFY(edit::travelByDepth(scene, depth).has_value());
  for (const Layer& layer : scene.layers) QVERIFY(travelOf(layer).x > 0);
}

void TestDepth::whatCannotTravelIsMadeTo() {
  QTemporaryDir dir;
  Scene scene = street(dir.path());
  const edit::Depth depth = edit::depthOf(scene, allOf(scene));
  QVERIFY(edit::travelByDepth(scene, depth).has_value());
  QCOMPARE(scene.layers[0].recipe.size(), std::size_t{2});
  QCOMPARE(scene.layers[0].recipe[1].spec->id, std::string_view("seamless"));
  QVERIFY(scene.layers[0].recipe[1].id != 0);
  for (std::size_t i = 1; i < 4; ++i) QCOMPARE(scene.layers[i].recipe.size(), std::size_t{1});
  // The strip goes on beside itself now, in its own height: no edge comes by.
  Scene alone = scene;
  alone.layers.erase(alone.layers.begin(), alone.layers.begin() + 3);
  alone.background.reset();
  for (int k = 0; k < 120; k += 7) {
    const auto f = test::renderFloat(alone, k);
    for (int x = 0; x < 192; ++x) QVERIFY(f.at(x, 54, 3) > 0);
    QCOMPARE(f.at(96, 5, 3), 0.0f);
  }
  // Again it is no second step.
  QVERIFY(edit::travelByDepth(scene, depth).has_value());
  QCOMPARE(scene.layers[0].recipe.size(), std::size_t{2});
}

void TestDepth::hazeIsOneStep() {
  QTemporaryDir dir;
  Scene scene = street(dir.path());
  edit::Depth depth = edit::depthOf(scene, allOf(scene));
  depth.haze = 0.8;
  depth.colour = {0.5f, 0.6f, 0.7f, 1};
  for (int i = 0; i < 3; ++i) QVERIFY(edit::travelByDepth(scene, depth).has_value());
  QCOMPARE(scene.layers[3].recipe.size(), std::size_t{1});  // nothing is between us and the nearest
  QCOMPARE(scene.layers[2].recipe.size(), std::size_t{2});
  QCOMPARE(scene.layers[0].recipe.size(), std::size_t{3});
  double before = 0;
  for (int i = 2; i >= 0; --i) {
    const auto& step = scene.layers[static_cast<std::size_t>(i)].recipe.back();
    const double strength = std::get<double>(step.params[static_cast<std::size_t>(findParam(step.spec->params, "strength"))].base);
    QVERIFY(strength > before && strength < 0.8);
    before = strength;
  }
  // What was set is what is found again.
  const edit::Depth again = edit::depthOf(scene, allOf(scene));
  QVERIFY(std::abs(again.haze - 0.8) < 1e-9);
  QVERIFY(again.colour == depth.colour);
  // The furthest goes over into the colour.
  Scene far = scene;
  far.layers.resize(1);
  const auto hazed = test::renderFloat(far, 0);
  QVERIFY(test::deviationOf(hazed, 1) < 0.35 * test::deviationOf(test::renderFloat(street(dir.path()), 0), 1) + 0.05);
  depth.haze = 0;
  QVERIFY(edit::travelByDepth(scene, depth).has_value());
  QCOMPARE(scene.layers[2].recipe.size(), std::size_t{1});
}

void TestDepth::distancesAreSaved() {
  QTemporaryDir dir;
  Scene scene = street(dir.path());
  QVERIFY(edit::travelByDepth(scene, edit::depthOf(scene, allOf(scene))).has_value());
  const auto again = sceneFromText(sceneToText(scene));
  QVERIFY(again.has_value());
  for (std::size_t i = 0; i < 4; ++i) QCOMPARE(again->layers[i].distance, std::pow(2.0, static_cast<double>(3 - i)));
  for (const char* bad : {"-1", "0.5", "1001", "\"far\"", "[2]"}) {
    std::string text = sceneToText(scene);
    const std::string good = "\"distance\": 8.0";
    const auto at = text.find(good);
    QVERIFY(at != std::string::npos);
    text.replace(at, good.size(), std::string("\"distance\": ") + bad);
    const auto refused = sceneFromText(text);
    QVERIFY2(!refused, bad);
    QVERIFY2(refused.error().sentence().find("distance") != std::string::npos, refused.error().sentence().c_str());
  }
}

void TestDepth::refusals() {
  QTemporaryDir dir;
  Scene scene = street(dir.path());
  QVERIFY(!edit::travelByDepth(scene, {}));
  scene.layers[1].locked = true;
  const Scene before = scene;
  const auto refused = edit::travelByDepth(scene, edit::depthOf(scene, allOf(scene)));
  QVERIFY(!refused && refused.error().message.find("noise") != std::string::npos);
  QVERIFY(sceneToText(scene) == sceneToText(before));
}

QTEST_GUILESS_MAIN(TestDepth)
#include "tst_depth.moc"
