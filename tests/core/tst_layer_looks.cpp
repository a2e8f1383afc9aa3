// Looks that are kept and given to other layers: all that ships, what comes along, what is left behind, and hostile files.
#include <QDir>
#include <QFile>
#include <QTest>
#include <nlohmann/json.hpp>
#include <set>

#include "check/joint.h"
#include "edit/look.h"
#include "scene/followers.h"
#include "scene/scene_json.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;
using edit::Look;

namespace {

QStringList shipped() {
  const QDir folder(QStringLiteral(OA_SOURCE_DIR "/demo-data/looks"));
  QStringList paths;
  for (const QString& name : folder.entryList({QStringLiteral("*.look")})) paths << folder.filePath(name);
  return paths;
}

std::string textOf(const QString& path) {
  QFile file(path);
  return file.open(QIODevice::ReadOnly) ? file.readAll().toStdString() : std::string();
}

void still(Param& param) {
  param.motion = {};
  param.motion.far = param.base;
}

// Something with edges, tones and colours.
Scene ground() {
  Scene scene = oa::test::oneLayer("cells", 320, 180, 48);
  oa::test::addStep(scene, "colourmap");
  for (RecipeStep& step : scene.layers[0].recipe) forEachParamOf(step, [](const ParamSpec&, Param& param) { still(param); });
  assignIds(scene);
  return scene;
}

Look read(const QString& path) {
  auto look = edit::lookFromText(textOf(path));
  return look ? std::move(*look) : (qFatal("%s: %s", qPrintable(path), look.error().sentence().c_str()), Look());
}

// Base values of the steps behind the source.
std::vector<Value> valuesOf(const Layer& layer) {
  std::vector<Value> values;
  for (std::size_t s = 1; s < layer.recipe.size(); ++s)
    forEachParamOf(layer.recipe[s], [&](const ParamSpec&, const Param& param) { values.push_back(param.base); });
  return values;
}

}  // namespace

class TestLayerLooks : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void twentyFourShip();
  void eachShippedOneShowsAndCloses_data();
  void eachShippedOneShowsAndCloses();
  void aLookIsKeptAndGiven();
  void itTakesThePlaceOfSteps();
  void lengthsFitTheFrame();
  void motionsGoFromTheLayersOwnValues();
  void othersAreLeftBehind();
  void whatCannotBeIsRefused();
  void filesAreChecked();
};

void TestLayerLooks::twentyFourShip() {
  QCOMPARE(shipped().size(), 24);
  std::set<std::string> names;
  for (const QString& path : shipped()) {
    const Look look = read(path);
    QVERIFY(!look.help.empty() && !look.section.empty());
    QVERIFY2(names.insert(look.name).second, look.name.c_str());
    // A scene's file as well: whoever opens it sees what it does.
    QVERIFY(sceneFromText(textOf(path)).has_value());
  }
}

void TestLayerLooks::eachShippedOneShowsAndCloses_data() {
  QTest::addColumn<QString>("path");
  for (const QString& path : shipped()) QTest::newRow(qPrintable(QFileInfo(path).baseName())) << path;
}

void TestLayerLooks::eachShippedOneShowsAndCloses() {
  QFETCH(QString, path);
  const Look look = read(path);
  Scene scene = ground();
  const Scene before = scene;
  const auto given = edit::applyLook(scene, scene.layers[0].id, look, false);
  QVERIFY2(given.has_value(), given ? "" : given.error().sentence().c_str());
  QVERIFY(*given == edit::Ids{scene.layers[0].id});
  // All ids are its own.
  std::set<Id> ids{scene.layers[0].id};
  for (const RecipeStep& step : scene.layers[0].recipe) QVERIFY(step.id > 0 && ids.insert(step.id).second);
  Plan plan(scene);
  double most = 0;
  bool moves = false;
  const auto first = oa::test::renderFloat(scene, 0);
  for (const int k : {0, 5, 11, 24, 37}) {
    const auto now = oa::test::renderFloat(scene, k);
    QVERIFY(oa::test::allFinite(now));
    most = std::max(most, oa::test::compare(now, oa::test::renderFloat(before, k)).mean);
    moves = moves || oa::test::compare(now, first).mean > 1e-4;
  }
  QVERIFY2(most > 0.004, qPrintable(QString::number(most)));
  if (plan.laps() != 0) QVERIFY(moves);
  JointMeter meter(scene);
  while (meter.step()) continue;
  const JointReport report = meter.report();
  QVERIFY2(report.clean, qPrintable(QStringLiteral("%1 of %2").arg(report.joint).arg(report.median)));
}

void TestLayerLooks::aLookIsKeptAndGiven() {
  Scene scene = ground();
  RecipeStep& blur = oa::test::addStep(scene, "blur");
  blur.params[0].base = 7.0;
  blur.params[0].motion = oa::test::swing(21.0, 3);
  oa::test::addStep(scene, "vignette").on = false;
  scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Turn)].motion = oa::test::swing(12.0);
  assignIds(scene);
  const auto kept = edit::lookOf(scene, scene.layers[0].id, "My own");
  QVERIFY(kept.has_value());
  Look look = *kept;
  look.picture = std::string("\x89PNG\0\1\2", 7);
  const auto again = edit::lookFromText(edit::lookToText(look));
  QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
  QCOMPARE(again->name, std::string("My own"));
  QCOMPARE(again->picture, look.picture);
  // Given to another source, it does the same to it.
  Scene other = oa::test::oneLayer("noise", scene.width, scene.height, scene.frames);
  assignIds(other);
  QVERIFY(edit::applyLook(other, other.layers[0].id, *again, false).has_value());
  QCOMPARE(other.layers[0].recipe.size(), scene.layers[0].recipe.size());
  for (std::size_t s = 1; s < other.layers[0].recipe.size(); ++s) {
    RecipeStep given = other.layers[0].recipe[s];
    given.id = scene.layers[0].recipe[s].id;
    for (std::size_t i = 0; i < given.items.size(); ++i) given.items[i].id = scene.layers[0].recipe[s].items[i].id;
    QVERIFY2(given == scene.layers[0].recipe[s], given.spec->id.data());
  }
  QVERIFY(other.layers[0].place == scene.layers[0].place);
}

void TestLayerLooks::itTakesThePlaceOfSteps() {
  const Look look = read(shipped().filter(QStringLiteral("lantern")).first());
  for (const bool instead : {false, true}) {
    Scene scene = ground();
    const Scene before = scene;
    QVERIFY(edit::applyLook(scene, scene.layers[0].id, look, instead).has_value());
    const std::size_t added = look.scene.layers[0].recipe.size() - 1;
    QCOMPARE(scene.layers[0].recipe.size(), (instead ? 1 : before.layers[0].recipe.size()) + added);
    QVERIFY(scene.layers[0].recipe[0] == before.layers[0].recipe[0]);
    QVERIFY(scene.layers[0].recipe.back().spec == look.scene.layers[0].recipe.back().spec);
  }
}

void TestLayerLooks::lengthsFitTheFrame() {
  Scene scene = ground();
  scene.width = 1600;
  scene.height = 900;
  oa::test::addStep(scene, "blur").params[0].base = 40.0;
  RecipeStep& shadow = oa::test::addStep(scene, "shadow");
  shadow.params[0].base = Point{20, -30};
  assignIds(scene);
  const Look look = *edit::lookOf(scene, scene.layers[0].id, "lengths");
  Scene small = oa::test::oneLayer("noise", 400, 225);
  assignIds(small);
  QVERIFY(edit::applyLook(small, small.layers[0].id, look, true).has_value());
  const auto& recipe = small.layers[0].recipe;
  QCOMPARE(std::get<double>(recipe[recipe.size() - 2].params[0].base), 10.0);
  QVERIFY(std::get<Point>(recipe.back().params[0].base) == (Point{5, -7.5}));
  // In a frame of the same size they are what they were.
  Scene same = oa::test::oneLayer("noise", 1600, 900);
  assignIds(same);
  QVERIFY(edit::applyLook(same, same.layers[0].id, look, true).has_value());
  QVERIFY(valuesOf(same.layers[0]) == valuesOf(scene.layers[0]));
}

void TestLayerLooks::motionsGoFromTheLayersOwnValues() {
  const Look look = read(shipped().filter(QStringLiteral("at-anchor")).first());
  Scene scene = ground();
  Layer& layer = scene.layers[0];
  Param& position = layer.place[static_cast<std::size_t>(PlaceParam::Position)];
  position.base = Point{0.2, 0.3};
  layer.opacity.base = 0.6;
  QVERIFY(edit::applyLook(scene, layer.id, look, false).has_value());
  const Param& moved = scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Position)];
  QVERIFY(std::get<Point>(moved.base) == (Point{0.2, 0.3}));
  QVERIFY(moved.motion.kind == MotionKind::Formula);
  const Point far = std::get<Point>(moved.motion.far);
  QVERIFY(std::abs(far.x - 0.2) < 1e-9 && std::abs(far.y - 0.318) < 1e-9);
  // What the look says nothing of stays as it is.
  QVERIFY(scene.layers[0].opacity == layer.opacity);
  QCOMPARE(std::get<double>(scene.layers[0].opacity.base), 0.6);
}

void TestLayerLooks::othersAreLeftBehind() {
  Scene scene = ground();
  scene.layers.push_back(scene.layers[0]);
  scene.layers[1].id = 0;
  for (RecipeStep& step : scene.layers[1].recipe) {
    step.id = 0;
    for (Item& item : step.items) item.id = 0;
  }
  assignIds(scene);
  const Id other = scene.layers[0].id;
  const Id own = scene.layers[1].id;
  RecipeStep& push = oa::test::addStep(scene, "push");
  const int shows = findParam(push.spec->params, "layer");
  push.params[static_cast<std::size_t>(shows)].base = double(other);
  RecipeStep& blur = oa::test::addStep(scene, "blur");
  scene.layers[1].opacity.motion = oa::test::swing(0.3);
  const auto follow = [](Param& param, Id leader) {
    still(param);
    param.motion.kind = MotionKind::Follow;
    param.motion.follows = {leader, 0, 0, "opacity"};
  };
  follow(blur.params[0], own);
  follow(blur.params[1], other);
  assignIds(scene);
  const Look look = *edit::lookOf(scene, own, "follows");
  Scene target = oa::test::oneLayer("noise");
  assignIds(target);
  QVERIFY(edit::applyLook(target, target.layers[0].id, look, false).has_value());
  const auto& recipe = target.layers[0].recipe;
  QCOMPARE(std::get<double>(recipe[recipe.size() - 2].params[static_cast<std::size_t>(shows)].base), 0.0);
  // It follows the opacity of the layer that it was given to, which moves now.
  QCOMPARE(recipe.back().params[0].motion.follows.layer, target.layers[0].id);
  QVERIFY(!recipe.back().params[1].motion.moves());
  bindFollowers(target);
  QVERIFY(target.layers[0].recipe.back().params[0].motion.bound.leader != nullptr);
}

void TestLayerLooks::whatCannotBeIsRefused() {
  Scene scene = oa::test::oneLayer("noise");
  assignIds(scene);
  const auto none = edit::lookOf(scene, scene.layers[0].id, "none");
  QVERIFY(!none);
  QVERIFY(none.error().message.find("no look to keep") != std::string::npos);
  QVERIFY(!edit::lookOf(scene, 999, "none"));
  const Look look = read(shipped().first());
  QVERIFY(!edit::applyLook(scene, 999, look, false));
  Scene locked = scene;
  locked.layers[0].locked = true;
  QVERIFY(!edit::applyLook(locked, locked.layers[0].id, look, false));
  const Look lantern = read(shipped().filter(QStringLiteral("lantern")).first());
  Scene full = scene;
  while (full.layers[0].recipe.size() < kMaxSteps - 1) oa::test::addStep(full, "levels");
  assignIds(full);
  const Scene before = full;
  QVERIFY(!edit::applyLook(full, full.layers[0].id, lantern, false));
  QVERIFY(full == before);
  QVERIFY(edit::applyLook(full, full.layers[0].id, lantern, true).has_value());
}

void TestLayerLooks::filesAreChecked() {
  const Json good = Json::parse(textOf(shipped().first()));
  const auto problem = [](const Json& json) {
    const auto read = edit::lookFromText(json.dump());
    return read ? std::string() : read.error().sentence();
  };
  QVERIFY(problem(good).empty());
  const auto with = [&](const char* key, const Json& value) {
    Json json = good;
    json["look"][key] = value;
    return problem(json);
  };
  QVERIFY(with("name", "").find("has no name") != std::string::npos);
  QVERIFY(with("name", 3).find("look.name") != std::string::npos);
  QVERIFY(with("name", std::string(500, 'a')).find("longer than") != std::string::npos);
  QVERIFY(with("picture", "?").find("no base64") != std::string::npos);
  QVERIFY(with("picture", std::string(2000000, 'A')).find("longer than") != std::string::npos);
  Json two = good;
  Json second = two["layers"][0];
  second.erase("id");
  for (Json& step : second["recipe"]) step.erase("id");
  two["layers"].push_back(std::move(second));
  QVERIFY2(problem(two).find("one layer") != std::string::npos, problem(two).c_str());
  Json bare = good;
  bare.erase("look");
  QVERIFY(problem(bare).find("holds no look") != std::string::npos);
  Json wrong = good;
  wrong["layers"][0]["recipe"][0]["step"] = "nothing";
  QVERIFY(problem(wrong).find("layers[0]") != std::string::npos);
  for (const char* text : {"", "[]", "{", "3", "{\"look\": 3}"}) QVERIFY(!edit::lookFromText(text));
}

QTEST_GUILESS_MAIN(TestLayerLooks)
#include "tst_layer_looks.moc"
