// Scene files: what is read, what is refused and with which sentence, what survives saving.
#include <QTemporaryDir>
#include <QDir>
#include <QFileInfo>
#include <QTest>
#include <nlohmann/json.hpp>

#include "base/files.h"
#include "params/param_json.h"
#include "scene/describe.h"
#include "scene/media_refs.h"
#include "scene/scene_file.h"
#include "scene/tree.h"
#include "render/frames.h"
#include "scene/scene_json.h"
#include "scene/plan.h"
#include "support/files.h"
#include "support/scenes.h"

using namespace oa;

namespace {

// A small whole scene, as text; `layerMore` and `more` are spliced in.
std::string sceneText(const std::string& step = R"({"step":"noise"})", const std::string& more = {}, const std::string& layerMore = {}) {
  return R"({"overagain":1,"size":[320,180],"frames":50)" + more + R"(,"layers":[{"name":"Sea fog")" + layerMore + R"(,"recipe":[)" + step +
         "]}]}";
}

}  // namespace

class TestSceneFiles : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void wrongFilesAreExplained_data();
  void wrongFilesAreExplained();
  void demoScenesRoundTrip();
  void everyParameterRoundTrips();
  void newStepsSurviveSaving();
  void unknownKeysSurvive();
  void unknownKeysSurviveAtEveryLevel();
  void mistakesHaveTheirPlace_data();
  void mistakesHaveTheirPlace();
  void whatIsSavedCanBeOpened();
  void scenesOfFormatOneShowTheSame();
  void everythingThatAFileHoldsCanBeSet();
  void whatSetCannotDoIsAnError_data();
  void whatSetCannotDoIsAnError();
  void aStillValueGivenAMotionMoves();
  void hostileSizesAreRefused();
  void savingAndLoading();
  void pathsSetValues_data();
  void pathsSetValues();
  void wrongPathsAreExplained_data();
  void wrongPathsAreExplained();
  void theSchemaNamesEverything();
  void describingSaysEverything();
  void resizingKeepsThePicture();
  void lapsAreShared();
};

void TestSceneFiles::wrongFilesAreExplained_data() {
  QTest::addColumn<QString>("text");
  QTest::addColumn<QString>("sentence");  // a part of it
  const auto row = [](const char* name, const std::string& text, const char* sentence) {
    QTest::newRow(name) << QString::fromStdString(text) << sentence;
  };
  row("empty", "", "not valid JSON");
  row("not JSON", "{\n\n nonsense", "line 3, column");
  row("another program's JSON", R"({"hello":1})", "not an Over Again scene");
  row("a list", "[1,2]", "not an Over Again scene");
  row("newer", R"({"overagain":3})", "newer version");
  row("version of another type", R"({"overagain":"one"})", "overagain: must be a number");
  row("too wide", R"({"overagain":1,"size":[8193,10]})", "size[0]: 8193 is above 8192");
  row("no height", R"({"overagain":1,"size":[100]})", "size: must be two numbers");
  row("size of nothing", R"({"overagain":1,"size":[100,0]})", "size[1]: 0 is below 1");
  row("half a pixel", R"({"overagain":1,"size":[100.5,10]})", "size[0]: must be a whole number");
  row("rate of nothing", R"({"overagain":1,"rate":[0,1]})", "rate[0]: 0 is below 1");
  row("too fast", R"({"overagain":1,"rate":[1000,1]})", "rate: 1000 frames per second");
  row("no frames", R"({"overagain":1,"frames":0})", "frames: 0 is below 1");
  row("too long", R"({"overagain":1,"frames":1000001})", "frames: 1000001 is above 1000000");
  row("background", R"({"overagain":1,"background":"blue"})", "background: must be a colour");
  row("compositing", R"({"overagain":1,"compositing":"loud"})", "compositing: must be");
  row("layers", R"({"overagain":1,"layers":3})", "layers: must be a list");
  row("a layer without a source", R"({"overagain":1,"layers":[{}]})", "layers[0].recipe: has no source");
  row("unknown step", sceneText(R"({"step":"teleport"})"), "layers[0].recipe[0].step: there is no step \"teleport\"");
  row("a step first", sceneText(R"({"step":"blur"})"), "begins with a source");
  row("a source later", sceneText(R"({"step":"noise"},{"step":"flat"})"), "can only come first");
  row("detail", sceneText(R"({"step":"noise","detail":40})"), "layers[0].noise.detail: 40 is above 12");
  row("half a layer of detail", sceneText(R"({"step":"noise","detail":2.5})"), "layers[0].noise.detail: 2.5 must be a whole number");
  row("text for a number", sceneText(R"({"step":"noise","cell":"big"})"), "layers[0].noise.cell: must be a number, not big");
  row("travel of half a tile", sceneText(R"({"step":"noise","travel":[0.5,0]})"), "layers[0].noise.travel[0]: 0.5 must be a whole number");
  row("a point of one", sceneText(R"({"step":"gradient","from":[1]})"), "layers[0].gradient.from: must be two numbers");
  row("a colour", sceneText(R"({"step":"flat","colour":"teal"})"), "layers[0].flat.colour");
  row("a choice", sceneText(R"({"step":"gradient","kind":"square"})"), "is not one of: linear, radial, conic");
  row("a toggle", sceneText(R"({"step":"noise"},{"step":"levels","invert":1})"), "layers[0].levels.invert: must be true or false");
  row("no stops", sceneText(R"({"step":"gradient","stops":[]})"), "layers[0].gradient.stops: has fewer than 1 items");
  row("a stop outside", sceneText(R"({"step":"gradient","stops":[{"at":2,"colour":"#fff"}]})"),
      "layers[0].gradient.stops[0].at: 2 is above 1");
  row("no laps", sceneText(R"({"step":"noise","churn":{"value":3,"motion":{"kind":"turn","laps":0}}})"),
      "layers[0].noise.churn.motion.laps: 0 is not a whole number of laps");
  row("half a lap", sceneText(R"({"step":"noise","churn":{"value":3,"motion":{"kind":"turn","laps":1.5}}})"),
      "motion.laps: 1.5 is not a whole number");
  row("a motion that cannot close", sceneText(R"({"step":"noise","cell":{"value":90,"motion":{"kind":"turn"}}})"),
      "is not a motion of this parameter; use one of: still, swing");
  row("a motion where none may be", sceneText(R"({"step":"noise","seed":{"value":1,"motion":{"kind":"swing","to":5}}})"),
      "use one of: still");
  row("head start", sceneText(R"({"step":"noise","churn":{"value":3,"motion":{"kind":"turn","start":2}}})"),
      "motion.start: 2 is not between 0 and 1");
  row("pace", sceneText(R"({"step":"noise","churn":{"value":3,"motion":{"kind":"turn","pace":"wild"}}})"),
      "motion.pace: \"wild\" is not an easing");
  row("pace of four", sceneText(R"({"step":"noise","churn":{"value":3,"motion":{"kind":"turn","pace":[2,0,1,1]}}})"),
      "motion.pace: the first and third number");
  row("swing too far", sceneText(R"({"step":"noise","cell":{"value":90,"motion":{"kind":"swing","to":1e9}}})"),
      "motion.to: 1000000000 is above 8192");
  row("shares", sceneText(R"({"step":"noise","cell":{"value":90,"motion":{"kind":"swing","shape":"hold","shares":[0.5,0.5,0.5]}}})"),
      "add up to more than 1");
  row("blend", sceneText(R"({"step":"noise"})", {}, R"(,"blend":"loud")"), "layers[0].blend");
  row("opacity", sceneText(R"({"step":"noise"})", {}, R"(,"opacity":1.5)"), "layers[0].opacity: 1.5 is above 1");
  row("name", sceneText(R"({"step":"noise"})", {}, R"(,"visible":"yes")"), "layers[0].visible: must be true or false");
}

void TestSceneFiles::wrongFilesAreExplained() {
  QFETCH(QString, text);
  QFETCH(QString, sentence);
  const auto scene = sceneFromText(text.toStdString());
  QVERIFY2(!scene, "the file was accepted");
  const QString said = QString::fromStdString(scene.error().sentence());
  QVERIFY2(said.contains(sentence), qPrintable(said));
}

void TestSceneFiles::demoScenesRoundTrip() {
  const auto paths = test::demoScenePaths();
  QVERIFY(paths.size() >= 4);
  for (const auto& path : paths) {
    auto scene = loadScene(path);
    QVERIFY2(scene.has_value(), path.c_str());
    QVERIFY2(mediaProblems(*scene).empty(), path.c_str());
    makeRelative(*scene, path.substr(0, path.find_last_of('/')));
    const std::string text = sceneToText(*scene);
    const auto again = sceneFromText(text);
    QVERIFY(again.has_value());
    QVERIFY(*again == *scene);
    QCOMPARE(sceneToText(*again), text);
    // The files in the tree are as the program itself would write them.
    QCOMPARE(QString::fromStdString(*readFile(path, kMaxSceneBytes)), QString::fromStdString(text));
  }
}

void TestSceneFiles::everyParameterRoundTrips() {
  for (const StepSpec* step : allSteps())
    for (const ParamSpec& spec : step->params)
      for (const MotionKind kind : allowedMotions(spec)) {
        Param param = defaultParam(spec);
        // Files hold colours in 8 bits a channel.
        if (auto* colour = std::get_if<Colour>(&param.base)) *colour = *parseColour("#1f4e5a");
        if (spec.isScalar()) param.base = spec.isWhole() ? std::floor((spec.min + spec.max) / 2) : spec.min + (spec.max - spec.min) / 3;
        param.motion.kind = kind;
        param.motion.far = param.base;
        param.motion.laps = -3;
        param.motion.start = 0.125;
        const Pace paces[] = {*Pace::fromBezier(0.1, -0.5, 0.9, 1.5), Pace::spring(4, 0.5), *Pace::fromSteps(5, StepJump::Both)};
        param.motion.pace = paces[static_cast<std::size_t>(kind) % 3];
        param.motion.shape = SwingShape::Hold;
        param.motion.shares = {0.1, 0.2, 0.3};
        if (canAddMotions(spec) && kind != MotionKind::Still) param.more = {param.motion, param.motion};
        const auto again = paramFromJson(spec, paramToJson(spec, param), "here");
        QVERIFY2(again.has_value(), spec.id.data());
        QVERIFY2(*again == param, (std::string(step->id) + "." + std::string(spec.id) + " " + std::string(motionName(kind))).c_str());
      }
}

void TestSceneFiles::newStepsSurviveSaving() {
  // Defaults are values that files can hold, to the last bit.
  for (const StepSpec* step : allSteps()) {
    Scene scene;
    if (step->kind != StepKind::Source) {
      scene = test::oneLayer("flat");
      scene.layers[0].recipe.push_back(newStep(*step));
    } else {
      scene.layers.push_back(newLayer(*step, "new"));
    }
    assignIds(scene);
    const auto again = sceneFromText(sceneToText(scene));
    QVERIFY2(again && *again == scene, step->id.data());
  }
}

void TestSceneFiles::unknownKeysSurvive() {
  const std::string text = sceneText(R"({"step":"noise","shimmer":{"a":[1,2]},"churn":{"value":3,"motion":{"kind":"turn","sparkle":7}}})",
                                     R"(,"soundtrack":"gulls.ogg")", R"(,"tag":"x")");
  const auto scene = sceneFromText(text);
  QVERIFY(scene.has_value());
  const Json saved = *parseJson(sceneToText(*scene));
  QCOMPARE(saved["soundtrack"].get<std::string>(), std::string("gulls.ogg"));
  const Json& layer = saved["layers"][0];
  QCOMPARE(layer["tag"].get<std::string>(), std::string("x"));
  QCOMPARE(layer["recipe"][0]["shimmer"]["a"][1].get<int>(), 2);
  QCOMPARE(layer["recipe"][0]["churn"]["motion"]["sparkle"].get<int>(), 7);
}

void TestSceneFiles::unknownKeysSurviveAtEveryLevel() {
  // Written by a newer version, with a word of its own wherever an object stands.
  const std::string text = R"({"overagain": 1, "new": 1, "palette": {"name": "p", "colours": ["#102030"], "new": 2},
    "layers": [{"name": "a", "new": 3, "opacity": {"value": 0.5, "new": 4}, "recipe": [
      {"step": "noise", "new": 5,
       "cell": {"value": 90, "new": 6, "motion": {"kind": "keyframes", "new": 7,
         "keys": [{"at": 0, "value": 90, "new": 8}, {"at": 0.5, "value": 120, "new": {"deep": [9]}}]}}},
      {"step": "colourmap", "stops": [{"at": 0, "colour": "#000000", "new": 10}, {"at": 1, "colour": "#ffffff"}]}]}]})";
  const auto scene = sceneFromText(text);
  QVERIFY2(scene.has_value(), scene ? "" : scene.error().sentence().c_str());
  const Json saved = *parseJson(sceneToText(*scene));
  for (const auto& [place, value] :
       std::initializer_list<std::pair<const char*, const char*>>{{"/new", "1"},
                                                                  {"/palette/new", "2"},
                                                                  {"/layers/0/new", "3"},
                                                                  {"/layers/0/opacity/new", "4"},
                                                                  {"/layers/0/recipe/0/new", "5"},
                                                                  {"/layers/0/recipe/0/cell/new", "6"},
                                                                  {"/layers/0/recipe/0/cell/motion/new", "7"},
                                                                  {"/layers/0/recipe/0/cell/motion/keys/0/new", "8"},
                                                                  {"/layers/0/recipe/0/cell/motion/keys/1/new/deep/0", "9"},
                                                                  {"/layers/0/recipe/1/stops/0/new", "10"}}) {
    const Json::json_pointer at(place);
    QVERIFY2(saved.contains(at), place);
    QCOMPARE(saved.at(at).dump(), std::string(value));
  }
  QCOMPARE(unknownKeys(*scene).size(), std::size_t{10});
  // And once more round, the same.
  QVERIFY(*sceneFromText(sceneToText(*scene)) == *scene);
  // A knob that is turned leaves them where they are.
  const auto turned = withValueSet(*scene, "layers[0].noise.cell=95");
  QVERIFY(turned && unknownKeys(*turned).size() == 10);
}

void TestSceneFiles::mistakesHaveTheirPlace_data() {
  QTest::addColumn<QString>("text");
  QTest::addColumn<QString>("place");
  QTest::newRow("a missing comma") << "{\n  \"overagain\": 1\n  \"name\": \"x\"\n}"
                                   << "line 3, column";
  QTest::newRow("cut off") << "{\"overagain\": 1, \"name\": \"x"
                           << "line 1, column";
  std::string list = "{\"overagain\": 1,\n \"layers\": [0";
  for (int i = 0; i < kMaxJsonMembers + 4; ++i) list += ",0";
  QTest::newRow("a list too long") << QString::fromStdString(list + "]}") << "line 2, column";
  QTest::newRow("too deep") << QString("{\"overagain\":\n" + QString(kMaxJsonDepth + 8, '['))
                            << "line 2, column " + QString::number(kMaxJsonDepth);
}

void TestSceneFiles::mistakesHaveTheirPlace() {
  QFETCH(QString, text);
  QFETCH(QString, place);
  const auto scene = sceneFromText(text.toStdString());
  QVERIFY(!scene);
  QVERIFY2(QString::fromStdString(scene.error().sentence()).contains(place), scene.error().sentence().c_str());
}

// The shipped scenes as version 1 saved them, beside what version 1 made of frame 7.
void TestSceneFiles::scenesOfFormatOneShowTheSame() {
  const QDir folder(QStringLiteral(OA_SOURCE_DIR "/tests/files/format1"));
  const auto files = folder.entryInfoList({QStringLiteral("*.overagain")});
  QVERIFY(files.size() >= 10);
  for (const QFileInfo& file : files) {
    const auto scene = loadScene(file.filePath().toStdString());
    QVERIFY2(scene.has_value(), scene ? "" : scene.error().sentence().c_str());
    for (const Layer& layer : scene->layers) QVERIFY(layer.id > 0 && isDefaultPlace(layer.place));
    const auto before = test::decoded(folder.filePath(file.completeBaseName() + QStringLiteral(".png")), 160, 90);
    QCOMPARE(before.size(), std::size_t{1});
    const Frame8 now = frame(*scene, 7, 160, 90);
    int largest = 0;
    for (std::size_t i = 0; i < now.rgba.size(); ++i)
      largest = std::max(largest, std::abs(static_cast<std::uint8_t>(before[0][static_cast<qsizetype>(i)]) - now.rgba[i]));
    QVERIFY2(largest <= 1, qPrintable(file.fileName() + QStringLiteral(": %1 levels").arg(largest)));
    // And saved anew they are of this version, and show the same.
    const auto again = sceneFromText(sceneToText(*scene));
    QVERIFY(again && *again == *scene);
  }
}

void TestSceneFiles::whatIsSavedCanBeOpened() {
  // Many layers, each with curves of many points: 4.5 MB when every number had a line of its own.
  const QTemporaryDir folder;
  const std::string path = folder.filePath("large.overagain").toStdString();
  Scene scene;
  Layer layer = newLayer(*findStep("noise"), "curves");
  Curve curve;
  for (int i = 0; i < 24; ++i) curve.push_back({i / 23.0, i / 31.0});
  for (int i = 0; i < 6; ++i) {
    layer.recipe.push_back(newStep(*findStep("curves")));
    for (Param& param : layer.recipe.back().params) param.base = curve;
  }
  scene.layers.assign(256, layer);
  assignIds(scene);
  const auto saved = saveScene(scene, path);
  QVERIFY2(saved.has_value(), saved ? "" : saved.error().sentence().c_str());
  const auto again = loadScene(path);
  QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
  QVERIFY(*again == scene);
  // What is too large even so is refused before anything is written, and the old file stays.
  for (Layer& each : scene.layers)
    while (each.recipe.size() < kMaxSteps) each.recipe.push_back(each.recipe.back());
  const auto refused = saveScene(scene, path);
  QVERIFY(!refused && refused.error().message.find("could not be opened again") != std::string::npos);
  QVERIFY(loadScene(path).has_value());
}

void TestSceneFiles::everythingThatAFileHoldsCanBeSet() {
  // Each value of each demo scene, set to itself by its own path, is found.
  for (const auto& path : test::demoScenePaths()) {
    const Scene scene = *loadScene(path);
    const Json json = sceneToJson(scene, true);
    std::vector<std::pair<std::string, const Json*>> left{{"", &json}};
    int tried = 0;
    while (!left.empty()) {
      const auto [place, at] = left.back();
      left.pop_back();
      if (at->is_object()) {
        for (const auto& [key, value] : at->items()) left.emplace_back(place.empty() ? key : place + "." + key, &at->at(key));
      } else if (at->is_array() && !at->empty() && at->front().is_structured()) {
        for (std::size_t i = 0; i < at->size(); ++i) left.emplace_back(place + "[" + std::to_string(i) + "]", &(*at)[i]);
      } else {
        const auto set = withValueSet(scene, place + "=" + at->dump());
        QVERIFY2(set.has_value(), (place + ": " + (set ? "" : set.error().sentence())).c_str());
        QVERIFY2(*set == scene, place.c_str());
        ++tried;
      }
    }
    QVERIFY(tried > 40);
  }
}

void TestSceneFiles::whatSetCannotDoIsAnError_data() {
  QTest::addColumn<QByteArray>("assignment");
  for (const char* bad : {"visible=false",
                          "layers[0].motion=5",
                          "layers[0].noise.cell.motion=5",
                          "layers[0].noise.kind.motion.kind=swing",
                          "layers[0].noise.seed.motion.laps=2",
                          "layers[0].noise.cell.motion.lapps=2",
                          "layers[0].noise.cell.vlaue=3",
                          "layers[0].visble=false",
                          "layers[0].noise.cell={\"value\":90,\"motoin\":{}}",
                          "palette.colors=[]",
                          "layers[0].noise.cell.motion.kind=spin",
                          "layers[0].noise.cell[0]=3",
                          "layers[0].name.first=x",
                          "on=false",
                          "name=\xff\xfe",
                          "frames=[1",
                          "layers[0].=3",
                          "layers[0].noise.=1",
                          "layers[0][0].opacity=1",
                          "layers[99999999999999999999].opacity=1"})
    QTest::newRow(bad) << QByteArray(bad);
}

void TestSceneFiles::whatSetCannotDoIsAnError() {
  QFETCH(QByteArray, assignment);
  const auto changed = withValueSet(test::oneLayer("noise"), assignment.toStdString());
  QVERIFY2(!changed, "it was taken without a word");
  QVERIFY(!changed.error().sentence().empty());
}

void TestSceneFiles::aStillValueGivenAMotionMoves() {
  for (const char* kind : {"swing", "keyframes", "wander", "hops"}) {
    const auto changed = withValueSet(test::oneLayer("noise"), std::string("layers[0].noise.cell.motion.kind=") + kind);
    QVERIFY2(changed.has_value(), changed ? "" : changed.error().sentence().c_str());
    QVERIFY2(commonLaps(*changed) > 0 && reallyMoves(changed->layers[0].recipe[0].spec->params[1], changed->layers[0].recipe[0].params[1]),
             kind);
  }
}

void TestSceneFiles::hostileSizesAreRefused() {
  const auto refused = [](const std::string& text) {
    const auto scene = sceneFromText(text);
    return !scene && !scene.error().message.empty();
  };
  QVERIFY(refused(std::string(200000, '[')));
  std::string deep;
  for (int i = 0; i < 100000; ++i) deep += R"({"a":)";
  QVERIFY(refused(deep));
  std::string wide = R"({"overagain":1)";
  for (int i = 0; i < 50000; ++i) wide += ",\"k" + std::to_string(i) + "\":0";
  QVERIFY(refused(wide + "}"));
  QVERIFY(refused(std::string(kMaxSceneBytes + 1, ' ')));
  std::string layers;
  for (std::size_t i = 0; i < kMaxLayers / 2; ++i) layers += std::string(i ? "," : "") + R"({"recipe":[{"step":"flat"}]})";
  const std::string group = R"({"recipe":[{"step":"group"}],"layers":[)" + layers + "]}";
  QVERIFY(sceneFromText(R"({"overagain":2,"layers":[)" + group + "]}").has_value());
  QVERIFY(refused(R"({"overagain":2,"layers":[)" + group + "," + group + "]}"));
  std::string nested = R"({"recipe":[{"step":"flat"}]})";
  for (int i = 0; i < kMaxGroupDepth; ++i) nested = R"({"recipe":[{"step":"group"}],"layers":[)" + nested + "]}";
  QVERIFY(sceneFromText(R"({"overagain":2,"layers":[)" + nested + "]}").has_value());
  QVERIFY(refused(R"({"overagain":2,"layers":[{"recipe":[{"step":"group"}],"layers":[)" + nested + "]}]}"));
  QVERIFY(refused(R"({"overagain":2,"layers":[{"recipe":[{"step":"flat"}],"layers":[{"recipe":[{"step":"flat"}]}]}]})"));
  QVERIFY(refused(R"({"overagain":2,"layers":[{"id":3,"recipe":[{"step":"flat"}]},{"id":3,"recipe":[{"step":"flat"}]}]})"));
  QVERIFY(refused(R"({"overagain":2,"layers":[{"recipe":[{"step":"blur","version":2}]}]})"));
  QVERIFY(refused(R"({"overagain":2,"layers":[{"recipe":[{"step":"flat","version":9}]}]})"));
  QVERIFY(refused(R"({"overagain":2,"layers":[{"recipe":[{"step":"flat"}],"presence":[{"from":0.5,"length":0.1,"in":0.2}]}]})"));
  QVERIFY(refused(R"({"overagain":2,"layers":[{"recipe":[{"step":"flat"}],"mask":{"source":{"step":"blur"}}}]})"));
  QVERIFY(refused(R"({"overagain":1,"name":")" + std::string(1000, 'n') + "\"}"));
  QVERIFY(refused("{\"overagain\":1,\"name\":\"\xff\xfe\"}"));
}

void TestSceneFiles::savingAndLoading() {
  const QTemporaryDir folder;
  const std::string path = folder.filePath("harbour.overagain").toStdString();
  const Scene scene = test::demoScene("sea-fog.overagain");
  QVERIFY(saveScene(scene, path));
  const auto again = loadScene(path);
  QVERIFY(again && *again == scene);
  QVERIFY(writeFileAtomically(path, "{"));
  const auto broken = loadScene(path);
  QVERIFY(!broken && broken.error().sentence().find("harbour.overagain") != std::string::npos);
}

void TestSceneFiles::pathsSetValues_data() {
  QTest::addColumn<QString>("assignment");
  QTest::addColumn<QString>("place");  // JSON pointer into the saved scene
  QTest::addColumn<QString>("value");
  QTest::newRow("frames") << "frames=120"
                          << "/frames"
                          << "120";
  QTest::newRow("a bare word") << "name=Pier"
                               << "/name"
                               << "\"Pier\"";
  QTest::newRow("a step by name") << "layers[0].noise.cell=90"
                                  << "/layers/0/recipe/0/cell"
                                  << "90";
  QTest::newRow("opacity") << "layers[0].opacity=0.25"
                           << "/layers/0/opacity"
                           << "0.25";
  QTest::newRow("the value of what moves") << "layers[0].noise.churn=5"
                                           << "/layers/0/recipe/0/churn/value"
                                           << "5";
  QTest::newRow("laps") << "layers[0].noise.churn.motion.laps=4"
                        << "/layers/0/recipe/0/churn/motion/laps"
                        << "4";
  QTest::newRow("a new motion") << R"(layers[0].noise.cell.motion={"kind":"swing","to":99})"
                                << "/layers/0/recipe/0/cell/motion/to"
                                << "99";
  QTest::newRow("the second of two") << "layers[0].levels[1].contrast=3"
                                     << "/layers/0/recipe/2/contrast"
                                     << "3";
  QTest::newRow("off") << "layers[0].levels.on=false"
                       << "/layers/0/recipe/1/on"
                       << "false";
}

void TestSceneFiles::pathsSetValues() {
  QFETCH(QString, assignment);
  QFETCH(QString, place);
  QFETCH(QString, value);
  Scene scene = test::oneLayer("noise");
  test::addStep(scene, "levels");
  test::addStep(scene, "levels");
  const auto changed = withValueSet(scene, assignment.toStdString());
  QVERIFY2(changed.has_value(), changed ? "" : changed.error().sentence().c_str());
  const Json json = sceneToJson(*changed);
  QCOMPARE(json.at(Json::json_pointer(place.toStdString())).dump(), value.toStdString());
}

void TestSceneFiles::wrongPathsAreExplained_data() {
  QTest::addColumn<QString>("assignment");
  for (const char* bad : {"frames", "frames=", "=3", "framse=3", "layers[5].opacity=1", "layers[0].blur.across=3", "layers[0].noise.cel=3",
                          "layers[x].opacity=1", "layers[0]..opacity=1", "layers[0].noise.cell=-1", "layers[0].noise.cell=nonsense",
                          "layers[-1].opacity=1", "layers=7"})
    QTest::newRow(bad) << bad;
}

void TestSceneFiles::wrongPathsAreExplained() {
  QFETCH(QString, assignment);
  const auto changed = withValueSet(test::oneLayer("noise"), assignment.toStdString());
  QVERIFY(!changed);
  QVERIFY(!changed.error().sentence().empty());
}

void TestSceneFiles::theSchemaNamesEverything() {
  const Json schema = sceneSchema();
  const Json& layer = schema["$defs"]["layer"]["properties"];
  for (const char* key : {"id", "place", "mask", "presence", "hold", "layers"}) QVERIFY2(layer.contains(key), key);
  for (const ParamSpec& spec : placeSpecs()) QVERIFY(layer["place"]["properties"].contains(std::string(spec.id)));
  const auto named = layer["recipe"]["items"]["$ref"].get<std::string>();
  const Json& steps = schema["$defs"][named.substr(named.rfind('/') + 1)]["anyOf"];
  QCOMPARE(steps.size(), allSteps().size());
  for (std::size_t i = 0; i < steps.size(); ++i)
    for (const ParamSpec& spec : allSteps()[i]->params) QVERIFY(steps[i]["properties"].contains(std::string(spec.id)));
}

void TestSceneFiles::describingSaysEverything() {
  for (const StepSpec* step : allSteps()) {
    const std::string text = describeStepText(*step);
    const Json json = describeStep(*step);
    QCOMPARE(json["parameters"].size(), step->params.size());
    QVERIFY(text.find(std::string(step->title)) != std::string::npos);
    QVERIFY(!step->help.empty() && !step->group.empty());
    for (const ParamSpec& spec : step->params) {
      QVERIFY2(text.find("`" + std::string(spec.id) + "`") != std::string::npos, spec.id.data());
      QVERIFY2(!spec.help.empty() && spec.help.back() == '.', spec.id.data());
      QVERIFY2(checkValue(spec, spec.base, "default").has_value(), spec.id.data());
    }
  }
}

void TestSceneFiles::resizingKeepsThePicture() {
  Scene scene = test::oneLayer("noise", 1920, 1080);
  test::addStep(scene, "blur");
  resizeFrame(scene, 960, 540, true);
  QCOMPARE(std::get<double>(test::param(scene, 0, 0, "cell").base), 110.0);
  QCOMPARE(std::get<double>(test::param(scene, 0, 1, "across").base), 9.0);
  QCOMPARE(std::get<double>(test::param(scene, 0, 0, "detail").base), 4.0);
  resizeFrame(scene, 1920, 1080, false);
  QCOMPARE(std::get<double>(test::param(scene, 0, 0, "cell").base), 110.0);
}

void TestSceneFiles::lapsAreShared() {
  Scene scene = test::oneLayer("noise", 100, 100, 240);
  test::param(scene, 0, 0, "churn").motion = test::turn(4);
  QCOMPARE(distinctFrames(scene), std::int64_t{60});
  scene.layers.push_back(newLayer(*findStep("gradient"), "beam"));
  test::param(scene, 1, 0, "angle").motion = test::turn(6);
  QCOMPARE(distinctFrames(scene), std::int64_t{120});  // gcd(4, 6) = 2
  scene.layers[1].visible = false;
  QCOMPARE(distinctFrames(scene), std::int64_t{60});
  test::setValue(scene, 0, 0, "churn", 0.0);  // a turn of nothing stays where it is
  QCOMPARE(distinctFrames(scene), std::int64_t{1});
}

QTEST_GUILESS_MAIN(TestSceneFiles)
#include "tst_scene_files.moc"
