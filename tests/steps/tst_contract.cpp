// What every step promises, tested on every registered step: nothing here names one.
#include <QDir>
#include <QTest>
#include <algorithm>
#include <cmath>

#include "graph/puller.h"
#include "params/first_motion.h"
#include "params/param_json.h"
#include "render/reference.h"
#include "scene/scene_json.h"
#include "support/contract.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;
using namespace oa::test::contract;

namespace {

// The rows of the step, made band by band in a given order of bands.
std::vector<float> rowsInOrder(const Scene& scene, const std::vector<int>& order, int bandRows) {
  const PlaneView frame = PlaneView::cover(scene.width, scene.height, scene.width, scene.height);
  const Plan plan(scene);
  const Puller puller(plan, nullptr, nullptr);
  const RecipePass pass(puller, static_cast<int>(plan.layers().size()) - 1, scene.layers.back().recipe.size(), {5, scene.frames}, frame);
  const std::ptrdiff_t stride = paddedRow(scene.width, pass.channels());
  std::vector<float> out(static_cast<std::size_t>(stride) * static_cast<std::size_t>(scene.height));
  for (const int band : order) {
    const int y0 = band * bandRows;
    pass.rows(y0, std::min(scene.height, y0 + bandRows), out.data() + y0 * stride, stride);
  }
  // Padding is anybody's.
  std::vector<float> pixels;
  for (int y = 0; y < scene.height; ++y)
    pixels.insert(pixels.end(), out.begin() + y * stride, out.begin() + y * stride + scene.width * pass.channels());
  return pixels;
}

}  // namespace

class TestContract : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void steps_data();
  void frameNIsFrameZero_data() { steps_data(); }
  void frameNIsFrameZero();
  void theJointIsAStepLikeAnyOther_data() { steps_data(); }
  void theJointIsAStepLikeAnyOther();
  void threadsAndOrderChangeNothing_data() { steps_data(); }
  void threadsAndOrderChangeNothing();
  void targetsAgreeWithThePlainPath_data() { steps_data(); }
  void targetsAgreeWithThePlainPath();
  void halfSizeLooksLikeFullSize_data() { steps_data(); }
  void halfSizeLooksLikeFullSize();
  void endsOfEveryRangeAreFinite_data() { steps_data(); }
  void endsOfEveryRangeAreFinite();
  void oddSizesAreFilled_data() { steps_data(); }
  void oddSizesAreFilled();
  void savingKeepsThePicture_data() { steps_data(); }
  void savingKeepsThePicture();
  void partsOfThePlaneFitTogether_data() { steps_data(); }
  void partsOfThePlaneFitTogether();
  void turnedViewsShowTheSamePlane_data() { steps_data(); }
  void turnedViewsShowTheSamePlane();
  void transparentStaysTransparent_data() { steps_data(); }
  void transparentStaysTransparent();
  void tilesRepeat_data() { steps_data(); }
  void tilesRepeat();
  void everyStepHasItsTest();
};

void TestContract::steps_data() {
  QTest::addColumn<QString>("step");
  QTest::addColumn<QString>("input");
  for (const StepSpec* spec : allSteps()) {
    const QString id = QString::fromUtf8(spec->id.data(), static_cast<qsizetype>(spec->id.size()));
    if (spec->kind == StepKind::Source) {
      QTest::newRow(qPrintable(id)) << id << QString();
      if (spec->varieties.empty()) continue;
      for (const auto choice : spec->params[static_cast<std::size_t>(findParam(spec->params, spec->varieties))].choices) {
        const QString variety = id + QLatin1Char('/') + QString::fromStdString(std::string(choice));
        QTest::newRow(qPrintable(variety)) << variety << QString();
      }
      continue;
    }
    for (const char* input : {"noise", "gradient"}) QTest::newRow(qPrintable(id + " on " + input)) << id << input;
  }
}

#define FETCH_STEP                           \
  QFETCH(QString, step);                     \
  QFETCH(QString, input);                    \
  const std::string id = step.toStdString(); \
  const std::string on = input.toStdString()

void TestContract::frameNIsFrameZero() {
  FETCH_STEP;
  Scene scene = sceneWith(id, on);
  setAllMoving(tested(scene));
  for (const int k : {0, 7, 23}) {
    const auto here = test::renderFloat(scene, k);
    QVERIFY(test::allFinite(here));
    QVERIFY(test::renderFloat(scene, k + scene.frames).rgba == here.rgba);
    QVERIFY(test::renderFloat(scene, k - 5 * scene.frames).rgba == here.rgba);
  }
}

void TestContract::theJointIsAStepLikeAnyOther() {
  FETCH_STEP;
  Scene scene = sceneWith(id, on, 64, 36);
  scene.frames = 240;
  setAllMoving(tested(scene), true);
  double joint = 0;
  double largest = 0;
  auto before = test::renderFloat(scene, 0);
  for (int k = 1; k <= scene.frames; ++k) {
    auto here = test::renderFloat(scene, k);
    const double step_ = test::compare(here, before).mean;
    if (k == scene.frames)
      joint = step_;
    else
      largest = std::max(largest, step_);
    before = std::move(here);
  }
  QVERIFY2(joint <= largest * 1.5 + 1e-6, qPrintable(QStringLiteral("%1 across the joint, %2 elsewhere").arg(joint).arg(largest)));
}

void TestContract::threadsAndOrderChangeNothing() {
  FETCH_STEP;
  Scene scene = sceneWith(id, on, 133, 75);
  setAllMoving(tested(scene));
  const auto one = test::renderFloat(scene, 3, 133, 75, 1);
  QVERIFY(test::renderFloat(scene, 3, 133, 75, 4).rgba == one.rgba);
  const auto straight = rowsInOrder(scene, {0, 1, 2, 3, 4}, 16);
  QVERIFY(rowsInOrder(scene, {3, 0, 4, 2, 1}, 16) == straight);
  std::vector<int> single(75);
  for (int i = 0; i < 75; ++i) single[static_cast<std::size_t>(i)] = (i * 31) % 75;
  QVERIFY(rowsInOrder(scene, single, 1) == straight);
}

void TestContract::targetsAgreeWithThePlainPath() {
  FETCH_STEP;
  for (const bool moving : {false, true}) {
    Scene scene = sceneWith(id, on, 96, 54);
    if (moving) setAllMoving(tested(scene));
    const auto plain = referenceFrame(scene, 5, 96, 54);
    test::forEachTarget([&](const char* target) {
      const auto fast = test::renderFloat(scene, 5);
      const auto d = test::compare(fast, plain);
      // Tables and wide blurs are approximations: a level and a half of 255 on average is not seen.
      if (d.largest >= 0.04 || d.mean >= 0.004) {
        test::FloatFrame expected{96, 54, {}};
        for (const auto& p : plain)
          for (const double v : p) expected.rgba.push_back(static_cast<float>(v));
        test::writeEvidence("evidence/" + std::string(tested(scene).spec->id), expected, fast);
      }
      QVERIFY2(d.largest < 0.04 && d.mean < 0.004,
               qPrintable(QStringLiteral("%1: largest %2, mean %3").arg(QLatin1String(target)).arg(d.largest).arg(d.mean)));
    });
  }
}

void TestContract::halfSizeLooksLikeFullSize() {
  FETCH_STEP;
  Scene scene = sceneWith(id, on, 640, 360);
  const auto full = test::halved(test::renderFloat(scene, 2, 640, 360));
  const auto half = test::renderFloat(scene, 2, 320, 180);
  const auto d = test::compare(full, half);
  QVERIFY2(d.mean < 0.012, qPrintable(QString::number(d.mean)));
}

void TestContract::endsOfEveryRangeAreFinite() {
  FETCH_STEP;
  Scene scene = sceneWith(id, on, 63, 65);
  const RecipeStep original = tested(scene);
  for (std::size_t i = 0; i < slotCount(original); ++i) {
    const ParamSpec& spec = slotSpec(*original.spec, i);
    std::vector<Value> values;
    if (spec.isScalar()) values = {spec.min, spec.max};
    if (spec.type == ParamType::Point) values = {Point{spec.min, spec.min}, Point{spec.max, spec.min}, Point{spec.max, spec.max}};
    if (spec.type == ParamType::Choice)
      for (const auto choice : spec.choices) values.emplace_back(std::string(choice));
    if (spec.type == ParamType::Outline) values = {*outlineFromPath("M5 5"), *outlineFromPath("M-9000 0 L9000 9000 L0 0 Z")};
    if (spec.type == ParamType::Text)
      values = {Text{}, Text{std::string(400, 'W')}, Text{"a\n\n\nb"}, Text{"\xd7\xa9\xd7\x9c \xd8\xa7\xd9\x84 e\xcc\x81\xcc\x81\xcc\x81"}};
    if (spec.type == ParamType::Font) values = {Text{}, Text{"No such font"}, Text{"B612"}};
    if (spec.type == ParamType::Copies) {
      // A hundred at the ends of all ranges, whichever they are.
      CopyChanges changes;
      for (std::uint64_t k = 0; k < 100; ++k)
        changes.put({(k % 5) << 32 | k,
                     k % 7 == 0,
                     {k % 2 ? 16384.0 : -16384.0, 3},
                     36000,
                     k % 3 ? 0.0 : kMostCopySize,
                     Colour{0, 1, 0, 0.5f},
                     {}});
      values = {changes};
    }
    if (spec.type == ParamType::Toggle) values = {true, false};
    if (spec.type == ParamType::Colour) values = {Colour{0, 0, 0, 0}, Colour{1, 1, 1, 1}};
    if (spec.type == ParamType::ToneCurve) values = {Curve{{0, 1}, {1, 0}}, Curve{{0.5, 0}, {0.505, 1}}, Curve{{0, 0}, {0.2, 1}, {1, 0.5}}};
    for (const Value& value : values) {
      tested(scene) = original;
      slot(tested(scene), i).base = slot(tested(scene), i).motion.far = value;
      const auto picture = test::renderFloat(scene, 4);
      QVERIFY2(test::allFinite(picture), spec.id.data());
      // Premultiplied and within range: what the encoders are handed.
      for (std::size_t p = 0; p < picture.rgba.size(); p += 4)
        for (std::size_t c = 0; c < 4; ++c)
          QVERIFY2(picture.rgba[p + c] > -1e-3f && picture.rgba[p + c] < 1.001f,
                   qPrintable(QStringLiteral("%1: %2").arg(QLatin1String(spec.id.data())).arg(picture.rgba[p + c])));
    }
  }
}

void TestContract::oddSizesAreFilled() {
  FETCH_STEP;
  const Scene scene = sceneWith(id, on);
  for (const auto& [w, h] : {std::pair{1, 1}, {1, 2}, {3, 1}, {63, 65}, {255, 17}, {257, 16}, {512, 1}, {1, 300}})
    QVERIFY2(test::allFinite(test::renderFloat(scene, 1, w, h)), qPrintable(QStringLiteral("%1x%2").arg(w).arg(h)));
}

void TestContract::savingKeepsThePicture() {
  FETCH_STEP;
  Scene scene = sceneWith(id, on);
  setAllMoving(tested(scene));
  const auto again = sceneFromText(sceneToText(scene));
  QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
  // Colours are stored in 8 bits a channel.
  QVERIFY(test::compare(test::renderFloat(*again, 9), test::renderFloat(scene, 9)).largest < 0.02);
}

// The picture of any region at any zoom is that region of the whole picture at that zoom: nothing happens at edges, and what lies
// beyond the frame is there.
void TestContract::partsOfThePlaneFitTogether() {
  FETCH_STEP;
  Scene scene = sceneWith(id, on);
  setAllMoving(tested(scene), true);
  for (const double zoom : {1.0, 1.37}) {
    PlaneView whole;
    whole.frameWidth = scene.width;
    whole.frameHeight = scene.height;
    whole.scale = zoom;
    whole.left = -40 / zoom;
    whole.top = -24 / zoom;
    whole.width = 320;
    whole.height = 208;
    const auto all = test::renderFloat(scene, 5, whole);
    for (const auto& [x, y, w, h] : {std::array{37, 21, 150, 90}, {0, 96, 64, 112}, {200, 3, 120, 33}, {111, 57, 9, 5}}) {
      const auto part = test::renderFloat(scene, 5, whole.part(x, y, w, h));
      const auto d = test::compare(part, test::cut(all, x, y, w, h));
      QVERIFY2(d.largest < 0.03 && d.mean < 0.002,
               qPrintable(QStringLiteral("zoom %1, %2, %3: largest %4, mean %5").arg(zoom).arg(x).arg(y).arg(d.largest).arg(d.mean)));
    }
  }
}

// A place turns, sizes and flips by asking for another view: quarter turns and flips move whole pixels.
void TestContract::turnedViewsShowTheSamePlane() {
  FETCH_STEP;
  Scene scene = sceneWith(id, on);
  setAllMoving(tested(scene), true);
  PlaneView straight;
  straight.frameWidth = scene.width;
  straight.frameHeight = scene.height;
  straight.left = 20;
  straight.top = 10;
  straight.width = 96;
  straight.height = 64;
  const auto plain = test::renderFloat(scene, 5, straight);
  PlaneView quarter = straight;  // its rows run down the plane
  quarter.width = 64;
  quarter.height = 96;
  quarter.xx = quarter.yy = 0;
  quarter.yx = 1;
  quarter.xy = -1;
  quarter.left = straight.left + 96;
  const auto turned = test::renderFloat(scene, 5, quarter);
  PlaneView flipped = straight;
  flipped.xx = -1;
  flipped.left = straight.left + 96;
  const auto mirrored = test::renderFloat(scene, 5, flipped);
  test::FloatFrame backTurned = plain;
  test::FloatFrame backMirrored = plain;
  for (int y = 0; y < 64; ++y)
    for (int x = 0; x < 96; ++x)
      for (int c = 0; c < 4; ++c) {
        const std::size_t to = (static_cast<std::size_t>(y) * 96 + static_cast<std::size_t>(x)) * 4 + static_cast<std::size_t>(c);
        backTurned.rgba[to] = turned.at(y, 95 - x, c);
        backMirrored.rgba[to] = mirrored.at(95 - x, y, c);
      }
  for (const auto* back : {&backTurned, &backMirrored}) {
    const auto d = test::compare(*back, plain);
    QVERIFY2(d.largest < 0.06 && d.mean < 0.004, qPrintable(QStringLiteral("largest %1, mean %2").arg(d.largest).arg(d.mean)));
  }
}

// What a layer does not reach is left out: no step may make something of nothing.
void TestContract::transparentStaysTransparent() {
  FETCH_STEP;
  if (on.empty()) return;
  Scene scene = sceneWith(id, "flat", 64, 36);
  scene.background.reset();
  setAllMoving(tested(scene));
  test::setValue(scene, scene.layers.size() - 1, 0, "colour", Colour{0.4f, 0.7f, 0.2f, 0});
  const auto f = test::renderFloat(scene, 3);
  for (const float v : f.rgba) QCOMPARE(v, 0.0f);
}

// A source that says how large its tile is, seen in a frame one pixel larger than whole tiles: column and row N are column and row 0.
void TestContract::tilesRepeat() {
  FETCH_STEP;
  Scene scene = sceneWith(id, on, 160, 90);
  const RecipeStep& source = tested(scene);
  if (!source.spec->tile) {
    QVERIFY(source.spec->id != "noise" && source.spec->id != "cells");
    return;
  }
  setAllMoving(tested(scene));
  for (std::size_t i = 0; i < source.params.size(); ++i) {
    // What turns or zooms the lattice while it moves makes the tile another one; its own motion stays.
    const ParamSpec& spec = source.spec->params[i];
    if (spec.rule == LoopRule::Round || spec.unit == Unit::Pixels || spec.unit == Unit::Ratio)
      scene.layers[0].recipe[0].params[i] = withMotionAlone({scene.layers[0].recipe[0].params[i].base, Motion(), {}, {}}, 0);
  }
  PlaneView frame = PlaneView::cover(160, 90, 160, 90);
  const TileSize tile = source.spec->tile(contextOf(source, {5, scene.frames}, frame));
  // What comes with a size of its own has a tile of that size, whatever the frame.
  const bool own = source.spec->extent != nullptr;
  const int width = own ? static_cast<int>(std::round(tile.width)) : 160;
  const int height = own ? static_cast<int>(std::round(tile.height)) : 90;
  frame.width = width + 1;
  frame.height = height + 1;
  const StepContext context = contextOf(source, {5, scene.frames}, frame);
  if (tile.width <= 0) {
    QVERIFY(id.find("pattern") == 0);  // it lies round its centre
    return;
  }
  QCOMPARE(tile.degrees, 0.0);
  const double across = width / tile.width;
  const double down = height / tile.height;
  QVERIFY2(std::abs(across - std::round(across)) < 1e-9 && std::abs(down - std::round(down)) < 1e-9, id.c_str());
  const auto rows = source.spec->source(context);
  const std::ptrdiff_t stride = paddedRow(width + 1, rows->channels());
  std::vector<float> out(static_cast<std::size_t>(stride) * static_cast<std::size_t>(height + 1));
  rows->rows(0, height + 1, out.data(), stride);
  const auto channels = rows->channels();
  double worst = 0;
  for (int y = 0; y <= height; ++y)
    for (int c = 0; c < channels; ++c)
      worst = std::max(worst, static_cast<double>(std::abs(out[static_cast<std::size_t>(y * stride + width * channels + c)] -
                                                           out[static_cast<std::size_t>(y * stride + c)])));
  for (int x = 0; x < (width + 1) * channels; ++x)
    worst = std::max(worst,
                     static_cast<double>(std::abs(out[static_cast<std::size_t>(height * stride + x)] - out[static_cast<std::size_t>(x)])));
  // What is enlarged from samples has them in other places of the next tile here, since the frame is no whole number of steps.
  QVERIFY2(worst < 5e-3, qPrintable(QString::number(worst)));
}

void TestContract::everyStepHasItsTest() {
  const QDir sources(QStringLiteral(OA_SOURCE_DIR "/core/steps"));
  const auto files = sources.entryList({QStringLiteral("*.cpp")});
  QCOMPARE(static_cast<std::size_t>(files.size()), allSteps().size());
  for (const QString& file : files) QVERIFY2(QFile::exists(QStringLiteral(OA_SOURCE_DIR "/tests/steps/tst_") + file), qPrintable(file));
}

QTEST_GUILESS_MAIN(TestContract)
#include "tst_contract.moc"
