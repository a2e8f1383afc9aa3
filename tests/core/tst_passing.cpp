// Arriving and leaving by property: what arrives meets the loop in value and in speed, whatever moves it; what has arrived is the loop.
#include <QTest>
#include <cmath>
#include <nlohmann/json.hpp>
#include <random>

#include "check/meeting.h"
#include "edit/passages.h"
#include "scene/run.h"
#include "scene/scene_json.h"
#include "support/graphs.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

using test::FloatFrame;

class FloatSink final : public PixelSink {
 public:
  explicit FloatSink(FloatFrame& frame) : frame_(frame) {}
  void take(int y, int rows, int x0, int n, const float* const* rgba) override {
    for (int r = 0; r < rows; ++r)
      std::copy_n(rgba[r], n * 4,
                  frame_.rgba.data() +
                      (static_cast<std::size_t>(y + r) * static_cast<std::size_t>(frame_.width) + static_cast<std::size_t>(x0)) * 4);
  }

 private:
  FloatFrame& frame_;
};

FloatFrame inRun(const Scene& scene, std::int64_t frame, int threads = 0) {
  RenderOptions options;
  options.run = true;
  options.threads = threads;
  Renderer renderer(scene, scene.width, scene.height, options);
  FloatFrame made{renderer.width(), renderer.height(), {}};
  made.rgba.resize(static_cast<std::size_t>(made.width) * static_cast<std::size_t>(made.height) * 4);
  FloatSink sink(made);
  renderer.render(frame, sink);
  return made;
}

constexpr PassPace kPaces[] = {PassPace::Soft, PassPace::Glide, PassPace::Heavy, PassPace::Spring};

Scene oneWithIds(const std::string& source, int width = 192, int height = 108, int frames = 24) {
  Scene scene = test::oneLayer(source, width, height, frames);
  assignIds(scene);
  return scene;
}

Scene smallShape(int frames) {
  Scene scene = oneWithIds("shape", 160, 90, frames);
  scene.rate = {30, 1};
  test::setValue(scene, 0, 0, "width", 40.0);
  test::setValue(scene, 0, 0, "height", 24.0);
  return scene;
}

// Every way at once, some of it.
Passing randomPassing(std::mt19937& random) {
  const auto unit = [&] { return std::uniform_real_distribution<double>(0, 1)(random); };
  Passing p;
  p.delay = unit() < 0.5 ? 0 : unit() * 0.2;
  p.lasts = 0.1 + unit() * 0.4;
  p.pace = kPaces[random() % 4];
  p.overshoot = unit() < 0.5 ? 0 : unit();
  p.fades = unit() < 0.6;
  p.from = static_cast<PassFrom>(random() % 3);
  p.direction = unit() * 360;
  p.distance = unit() * 40;
  p.size = unit() * 2;
  p.turn = unit() < 0.5 ? 0 : unit() * 180 - 90;
  p.wipe = static_cast<Wipe>(random() % 4);
  p.wipeAngle = unit() * 360;
  p.wipeSoft = unit() * 20;
  p.blur = unit() < 0.6 ? 0 : unit() * 6;
  p.smear = unit() < 0.7 ? Smear::None : static_cast<Smear>(1 + random() % 4);
  return p;
}

Scene withPassages(Scene scene, unsigned seed) {
  std::mt19937 random(seed * 7919 + 1);
  forEachLayer(scene.layers, [&](Layer& layer, int) {
    if (random() % 3 == 0) return;
    layer.passes.arrive = passageOf(randomPassing(random));
    if (random() % 2 == 0) layer.passes.leave = passageOf(randomPassing(random));
    if (layer.recipe.size() > 1 && random() % 2 == 0) layer.recipe[1].passes.arrive = newPassage(stepPassageSpecs());
  });
  return scene;
}

}  // namespace

class TestPassing : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void pacesRestWhereTheyAreThere();
  void piecesComeInTheirOrder();
  void valuesMeetTheLoopInValueAndSpeed();
  void whatTurnsGoesOnTurning();
  void theRunIsTheLoopOnceAllHasArrived_data();
  void theRunIsTheLoopOnceAllHasArrived();
  void layersBeginOutsideAndEndInPlace();
  void endlessLayersComeAsSheets();
  void wipesUncoverFromTheirSide();
  void smearsEndInThePicture();
  void partsAreCutOutOfTheWhole();
  void stepsComeByThemselves();
  void footageWaitsForItsLayer();
  void lengthsAreThoseOfTheLongest();
  void filesKeepThem();
  void whatWouldJumpIsFound();
};

void TestPassing::pacesRestWhereTheyAreThere() {
  for (const PassPace pace : kPaces)
    for (const double overshoot : {0.0, 1.0}) {
      Passing p;
      p.pace = pace;
      p.overshoot = overshoot;
      p.delay = 1;
      p.lasts = 2;
      QCOMPARE(arrived(p, 0.999), 0.0);
      QCOMPARE(arrived(p, 1), 0.0);
      QCOMPARE(arrived(p, 3), 1.0);
      QCOMPARE(arrived(p, 30), 1.0);
      // Flat at the end: a thousandth of the time before it, less than a thirty thousandth of the way is left.
      QVERIFY2(std::abs(arrived(p, 2.998) - 1) < 3e-5, qPrintable(QString::number(arrived(p, 2.998) - 1)));
      QVERIFY(std::abs(arrived(p, 1.001)) < 0.01);
      QCOMPARE(staying(p, 1), 1.0);
      QCOMPARE(staying(p, 3), 0.0);
      for (double t = 0; t < 4; t += 0.01) QVERIFY(std::abs(arrived(p, 1 + t) - staying(p, 3 - t)) < 1e-9);
      double most = 0;
      for (double t = 0; t < 4; t += 0.01) most = std::max(most, arrived(p, t));
      QCOMPARE(most > 1 + 1e-9, overshoot > 0 || pace == PassPace::Spring);
    }
}

void TestPassing::piecesComeInTheirOrder() {
  Passing p;
  p.by = PassBy::Letter;
  p.overlap = 0.5;
  p.lasts = 3;
  constexpr std::size_t kCount = 9;
  const auto beginOf = [&](std::size_t i) {
    double t = 0;
    while (t < 3 && arrived(p, t, {i, kCount}) <= 0) t += 0.001;
    return t;
  };
  const auto endOf = [&](std::size_t i) {
    double t = 3;
    while (t > 0 && arrived(p, t, {i, kCount}) >= 1) t -= 0.001;
    return t;
  };
  for (std::size_t i = 0; i + 1 < kCount; ++i) QVERIFY(beginOf(i) < beginOf(i + 1));
  // Half of one has gone by when the next begins; the last one ends with the whole.
  QVERIFY(std::abs(beginOf(1) - (endOf(0) - beginOf(0)) / 2) < 0.01);
  QVERIFY(std::abs(endOf(kCount - 1) - 3) < 0.01);
  p.order = PassOrder::Backwards;
  for (std::size_t i = 0; i + 1 < kCount; ++i) QVERIFY(beginOf(i) > beginOf(i + 1));
  p.order = PassOrder::FromMiddle;
  for (std::size_t i = 0; i < kCount / 2; ++i) {
    QVERIFY(beginOf(i) > beginOf(i + 1));
    QVERIFY(std::abs(beginOf(i) - beginOf(kCount - 1 - i)) < 0.002);
  }
  p.order = PassOrder::Random;
  p.seed = 5;
  const double here = beginOf(3);
  p.seed = 6;
  QVERIFY(std::abs(here - beginOf(3)) > 0.001);
  p.overlap = 1;
  for (std::size_t i = 0; i < kCount; ++i) QVERIFY(beginOf(i) < 0.002);
}

// In frames so short that a step is a derivative: the step into the meeting and the one out of it are as large.
void TestPassing::valuesMeetTheLoopInValueAndSpeed() {
  std::mt19937 random(7);
  const auto unit = [&] { return std::uniform_real_distribution<double>(0, 1)(random); };
  const ParamSpec number{.id = "n", .label = "N", .help = "", .base = 0.0, .min = -1000, .max = 1000};
  const ParamSpec place{.id = "p", .label = "P", .help = "", .type = ParamType::Point, .base = Point{}, .min = -1000, .max = 1000};
  const ParamSpec angle{
      .id = "a", .label = "A", .help = "", .type = ParamType::Angle, .base = 0.0, .min = -3600, .max = 3600, .rule = LoopRule::Round};
  constexpr std::int64_t kFrames = 240000;
  int moving = 0;
  for (int i = 0; i < 400; ++i) {
    const ParamSpec& spec = i % 3 == 0 ? number : i % 3 == 1 ? place : angle;
    const auto value = [&]() -> Value {
      if (&spec == &place) return Point{unit() * 200, unit() * 200};
      return unit() * 200;
    };
    Param param = defaultParam(spec);
    param.base = value();
    constexpr MotionKind kSmooth[] = {MotionKind::Still, MotionKind::Swing, MotionKind::Wander, MotionKind::Turn};
    param.motion.kind = kSmooth[random() % (&spec == &angle ? 4 : 3)];
    param.motion.far = value();
    param.motion.laps = 1 + static_cast<int>(random() % 4);
    param.motion.start = unit();
    param.motion.seed = static_cast<int>(random() % 1000);
    setFarValue(param, false, value());
    setFarValue(param, true, value());
    Passings passes;
    Passing p = randomPassing(random);
    // As long as half the loop, so that the way itself is smooth in these steps.
    p.delay = 0;
    p.lasts = kFrames / 2.0;
    passes.arrive = passes.leave = p;
    const auto at = [&](std::int64_t k) {
      Moment moment{k, kFrames};
      moment.since = static_cast<double>(k) + p.lasts;
      moment.left = static_cast<double>(k - kFrames);
      moment.passes = &passes;
      const Value v = evaluate(spec, param, moment).value;
      if (const auto* point = std::get_if<Point>(&v)) return *point;
      return Point{std::get<double>(v), 0};
    };
    for (const std::int64_t meets : {std::int64_t{0}, kFrames}) {
      const Point before = at(meets - 1);
      const Point here = at(meets);
      const Point after = at(meets + 1);
      const double in = std::hypot(here.x - before.x, here.y - before.y);
      const double out = std::hypot(after.x - here.x, after.y - here.y);
      const double jolt = std::hypot(after.x - 2 * here.x + before.x, after.y - 2 * here.y + before.y);
      // A turn is a whole one further on where its lap ends.
      if (std::abs(in - 360) < 1 || std::abs(out - 360) < 1) continue;
      // 200 in a loop of 240000 frames are steps of some thousandths; their change a thousandth of that.
      QVERIFY2(jolt < 1e-5, qPrintable(QStringLiteral("%1: %2 then %3").arg(i).arg(in, 0, 'g', 9).arg(out, 0, 'g', 9)));
      if (in > 1e-4) ++moving;
    }
    // It comes from where it was told to, or, what turns, from as far beside its own way.
    if (&spec == &number) {
      Moment begins{-kFrames / 2, kFrames};
      begins.since = 0;
      begins.left = -1e9;
      begins.passes = &passes;
      QCOMPARE(evaluate(spec, param, begins).value, farValueOf(param, false)->value);
    }
  }
  QVERIFY2(moving > 150, qPrintable(QString::number(moving)));
}

void TestPassing::whatTurnsGoesOnTurning() {
  const ParamSpec spec{
      .id = "a", .label = "A", .help = "", .type = ParamType::Angle, .base = 0.0, .min = -3600, .max = 3600, .rule = LoopRule::Round};
  Param param = defaultParam(spec);
  param.motion = test::turn(5);
  setFarValue(param, false, Value(-90.0));
  Passings passes;
  passes.arrive.emplace();
  passes.arrive->lasts = 200;
  double last = 0;
  for (std::int64_t k = -200; k <= 0; ++k) {
    Moment at{k, 240};
    at.since = static_cast<double>(k + 200);
    at.left = -1e9;
    at.passes = &passes;
    const double angle = std::get<double>(evaluate(spec, param, at).value);
    if (k > -200)
      QVERIFY2(std::abs(std::remainder(angle - last, 360)) < 20, qPrintable(QStringLiteral("%1: %2 after %3").arg(k).arg(angle).arg(last)));
    last = angle;
  }
}

void TestPassing::theRunIsTheLoopOnceAllHasArrived_data() {
  QTest::addColumn<unsigned>("seed");
  for (unsigned seed = 1; seed <= 24; ++seed) QTest::newRow(qPrintable(QString::number(seed))) << seed;
}

void TestPassing::theRunIsTheLoopOnceAllHasArrived() {
  QFETCH(unsigned, seed);
  test::GraphWishes wishes;
  wishes.layers = 5;
  const Scene loop = test::randomGraph(seed, wishes);
  Scene scene = withPassages(loop, seed);
  scene.run.loops = 2;
  const RunLength run = runOf(scene);
  QVERIFY(run.frames() >= 2 * scene.frames);
  for (const std::int64_t k : {std::int64_t{0}, std::int64_t{7}, std::int64_t{scene.frames} - 1, std::int64_t{scene.frames}}) {
    const FloatFrame here = inRun(scene, run.arrive + k);
    // The loop itself knows nothing of what arrives.
    QVERIFY(here.rgba == test::renderFloat(scene, k).rgba);
    QCOMPARE(test::renderFloat(scene, k).rgba, test::renderFloat(scene, k + scene.frames).rgba);
  }
  for (std::int64_t r = 0; r < run.arrive; r += std::max<std::int64_t>(1, run.arrive / 3)) {
    const FloatFrame one = inRun(scene, r, 1);
    QVERIFY(test::allFinite(one));
    QCOMPARE(one.rgba, inRun(scene, r, 2).rgba);
  }
}

void TestPassing::layersBeginOutsideAndEndInPlace() {
  Scene scene = smallShape(30);
  Passing p;
  p.from = PassFrom::Outside;
  p.fades = false;
  p.lasts = 1;
  for (const double direction : {0.0, 90.0, 180.0, 270.0, 215.0}) {
    p.direction = direction;
    QVERIFY(edit::setPassage(scene, {scene.layers[0].id}, false, p).has_value());
    const double all = test::meanOf(inRun(scene, 30), 0);
    QVERIFY(all > 0.02);
    QVERIFY(test::meanOf(inRun(scene, 0), 0) < 1e-6);
    // On its way it is on that side of where it will be.
    const FloatFrame way = inRun(scene, 5);
    double x = 0;
    double y = 0;
    double sum = 0;
    for (int j = 0; j < 90; ++j)
      for (int i = 0; i < 160; ++i) {
        const double v = static_cast<double>(way.at(i, j, 0));
        x += v * (i - 79.5);
        y += v * (j - 44.5);
        sum += v;
      }
    QVERIFY(sum > 0);
    const double angle = direction * 3.14159265358979 / 180;
    QVERIFY(x / sum * std::cos(angle) + y / sum * std::sin(angle) > 5);
  }
}

void TestPassing::endlessLayersComeAsSheets() {
  Scene scene = oneWithIds("noise", 160, 90, 30);
  scene.rate = {30, 1};
  Passing p;
  p.from = PassFrom::Outside;
  p.direction = 180;
  p.fades = false;
  p.lasts = 1;
  QVERIFY(edit::setPassage(scene, {scene.layers[0].id}, false, p).has_value());
  // A noise has no end of its own: what has not come yet leaves the ground bare.
  const FloatFrame way = inRun(scene, 4);
  double left = 0;
  double right = 0;
  for (int y = 0; y < 90; ++y)
    for (int x = 0; x < 8; ++x) {
      left += static_cast<double>(way.at(x, y, 0));
      right += static_cast<double>(way.at(159 - x, y, 0));
    }
  QVERIFY(left > 50);
  QCOMPARE(right, 0.0);
  QCOMPARE(inRun(scene, 30).rgba, test::renderFloat(scene, 0).rgba);
  // The sheet's picture is the layer's own, moved.
  const FloatFrame last = inRun(scene, 29);
  QVERIFY(test::compare(last, test::renderFloat(scene, 29)).mean < 0.01);
}

void TestPassing::wipesUncoverFromTheirSide() {
  Scene scene = oneWithIds("flat", 120, 80, 30);
  scene.rate = {30, 1};
  test::setValue(scene, 0, 0, "colour", Colour{1, 1, 1, 1});
  Passing p;
  p.fades = false;
  p.lasts = 1;
  p.pace = PassPace::Soft;
  p.wipe = Wipe::Line;
  p.wipeAngle = 0;  // from the right
  QVERIFY(edit::setPassage(scene, {scene.layers[0].id}, false, p).has_value());
  FloatFrame half = inRun(scene, 15);
  QVERIFY(half.at(118, 40, 0) > 0.99f && half.at(2, 40, 0) == 0);
  QVERIFY(std::abs(test::meanOf(half, 0) - 0.5) < 0.1);
  p.wipe = Wipe::Split;
  p.wipeAngle = 90;
  QVERIFY(edit::setPassage(scene, {scene.layers[0].id}, false, p).has_value());
  half = inRun(scene, 15);
  QVERIFY(half.at(60, 40, 0) > 0.99f && half.at(60, 1, 0) == 0 && half.at(60, 78, 0) == 0);
  p.wipe = Wipe::Iris;
  QVERIFY(edit::setPassage(scene, {scene.layers[0].id}, false, p).has_value());
  half = inRun(scene, 12);
  QVERIFY(half.at(60, 40, 0) > 0.99f && half.at(2, 2, 0) == 0 && half.at(117, 77, 0) == 0);
  double before = -1;
  for (std::int64_t r = 0; r <= 30; ++r) {
    const double now = test::meanOf(inRun(scene, r), 0);
    QVERIFY(now >= before);
    before = now;
  }
  QCOMPARE(before, 1.0);
}

void TestPassing::smearsEndInThePicture() {
  Scene scene = oneWithIds("pattern", 160, 90, 30);
  scene.rate = {30, 1};
  Passing p;
  p.fades = false;
  p.lasts = 1;
  p.pace = PassPace::Soft;
  for (const Smear smear : {Smear::Left, Smear::Right, Smear::Top, Smear::Bottom}) {
    p.smear = smear;
    QVERIFY(edit::setPassage(scene, {scene.layers[0].id}, false, p).has_value());
    const FloatFrame half = inRun(scene, 15);
    const FloatFrame loop = test::renderFloat(scene, 15);
    // Settled on its side, a smear beyond.
    const bool across = smear == Smear::Left || smear == Smear::Right;
    const bool first = smear == Smear::Left || smear == Smear::Top;
    const int n = across ? 160 : 90;
    double settled = 0;
    double along = 0;
    for (int i = 0; i < n / 3; ++i)
      for (int j = 4; j < (across ? 90 : 160) - 4; ++j) {
        const int at = first ? i : n - 1 - i;
        const auto pixel = [&](const FloatFrame& f, int k) { return across ? f.at(k, j, 0) : f.at(j, k, 0); };
        settled = std::max(settled, std::abs(static_cast<double>(pixel(half, at) - pixel(loop, at))));
        const int far = first ? n - 2 - i : i + 1;
        along = std::max(along, std::abs(static_cast<double>(pixel(half, far) - pixel(half, far - 1))));
      }
    QVERIFY2(settled < 1e-5, qPrintable(QString::number(settled)));
    QVERIFY2(along < 0.06, qPrintable(QString::number(along)));
  }
}

// The picture of a part is that part of the picture, whatever is done to it on its way.
void TestPassing::partsAreCutOutOfTheWhole() {
  for (unsigned seed = 1; seed <= 12; ++seed) {
    test::GraphWishes wishes;
    wishes.layers = 3;
    wishes.areas = false;
    const Scene scene = withPassages(test::randomGraph(seed, wishes), seed);
    RenderOptions options;
    options.run = true;
    options.threads = 1;
    const std::int64_t r = std::max<std::int64_t>(1, runOf(scene).arrive / 2);
    const FloatFrame whole = inRun(scene, r);
    const PlaneView view = PlaneView::cover(scene.width, scene.height, scene.width, scene.height).part(10, 6, 32, 20);
    Renderer renderer(scene, view, options);
    FloatFrame part{32, 20, std::vector<float>(32 * 20 * 4)};
    FloatSink sink(part);
    renderer.render(r, sink);
    const test::Difference off = test::compare(part, test::cut(whole, 10, 6, 32, 20));
    QVERIFY2(off.mean < 0.002, qPrintable(QStringLiteral("seed %1: %2, %3").arg(seed).arg(off.mean).arg(off.largest)));
  }
}

void TestPassing::stepsComeByThemselves() {
  Scene scene = oneWithIds("noise", 96, 54, 30);
  scene.rate = {30, 1};
  const Scene plain = scene;
  test::addStep(scene, "levels");
  test::setValue(scene, 0, 1, "invert", true);
  QVERIFY(edit::setStepPassage(scene, scene.layers[0].id, 1, false, true).has_value());
  QVERIFY(!edit::setStepPassage(scene, scene.layers[0].id, 0, false, true).has_value());
  const RunLength run = runOf(scene);
  QCOMPARE(run.arrive, 24);
  // Before it comes the layer is as it is without; at the end as it is with.
  QVERIFY(test::compare(inRun(scene, 0), test::renderFloat(plain, -24)).largest < 1e-5);
  QCOMPARE(inRun(scene, 24).rgba, test::renderFloat(scene, 0).rgba);
  // An own value of a parameter goes with it.
  setFarValue(test::param(scene, 0, 0, "contrast"), false, Value(0.0));
  QVERIFY(test::deviationOf(inRun(scene, 0), 0) > 0.01);
  scene.layers[0].passes.arrive = newPassage(passageSpecs());
  std::get<bool>(scene.layers[0].passes.arrive->params[4].base) = false;
  QCOMPARE(passageSpecs()[4].id, std::string_view("fade"));
  QVERIFY(test::deviationOf(inRun(scene, 0), 0) < 0.001);
}

void TestPassing::footageWaitsForItsLayer() {
  Scene scene = oneWithIds("shape", 64, 36, 30);
  scene.rate = {30, 1};
  const RunLength run{40, 30, 0, 1.0 / 30, 0};
  const Moment at = runMoment(run, scene, 50);
  QCOMPARE(at.frame, 10);
  QCOMPARE(at.run, 50);
  QCOMPARE(at.since, 50.0);
  QCOMPARE(at.left, -20.0);
}

void TestPassing::lengthsAreThoseOfTheLongest() {
  Scene scene = oneWithIds("shape", 64, 36, 30);
  scene.rate = {25, 1};
  QCOMPARE(runOf(scene).frames(), 30);
  QVERIFY(!passes(scene));
  scene.run.loops = 3;
  QCOMPARE(runOf(scene).frames(), 90);
  Passing p;
  p.delay = 0.4;
  p.lasts = 1;
  QVERIFY(edit::setPassage(scene, {scene.layers[0].id}, false, p).has_value());
  QCOMPARE(runOf(scene).arrive, 35);
  p.lasts = 0.5;
  p.delay = 0;
  QVERIFY(edit::setPassage(scene, {scene.layers[0].id}, true, p).has_value());
  QCOMPARE(runOf(scene).leave, 13);
  scene.run.seconds = 2.02;
  QCOMPARE(runOf(scene).loop, 51);
  QCOMPARE(runOf(scene).frames(), 35 + 51 + 13);
  stretchPassages(scene, false, 70);
  QCOMPARE(runOf(scene).arrive, 70);
  QVERIFY(std::abs(passingOf(*scene.layers[0].passes.arrive).delay - 0.8) < 1e-9);
  // Hidden layers wait for nothing.
  scene.layers[0].visible = false;
  QCOMPARE(runOf(scene).arrive, 0);
  // Nor do those that are only there for judging, once it is handed over.
  scene.layers[0].visible = true;
  scene.layers[0].standIn = true;
  QCOMPARE(runOf(withoutStandIns(scene)).arrive, 0);
}

void TestPassing::filesKeepThem() {
  for (unsigned seed = 1; seed <= 20; ++seed) {
    Scene scene = withPassages(test::randomGraph(seed), seed);
    scene.run.loops = 3;
    scene.run.seconds = 1.5;
    scene.beats = 16;
    scene.bar = 3;
    scene.layers[0].standIn = true;
    scene.table = {{"name", "line"}, {{"Kelpwick", "Harbour"}, {"Days", ""}}};
    Param& opacity = scene.layers[0].opacity;
    setFarValue(opacity, true, Value(0.25));
    const auto again = sceneFromText(sceneToText(scene));
    QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
    assignIds(scene);
    QCOMPARE(QString::fromStdString(sceneToText(*again)), QString::fromStdString(sceneToText(scene)));
    for (std::size_t l = 0; l < scene.layers.size(); ++l) {
      QVERIFY(again->layers[l].passes == scene.layers[l].passes);
      QVERIFY(again->layers[l].opacity == scene.layers[l].opacity);
      QCOMPARE(again->layers[l].standIn, scene.layers[l].standIn);
    }
    QVERIFY(again->run == scene.run && again->table == scene.table && again->beats == 16 && again->bar == 3);
    const auto complete = sceneFromJson(sceneToJson(scene, true));
    QVERIFY(complete.has_value() && *complete == *again);
  }
  const Scene scene = oneWithIds("noise");
  const auto set = withValueSet(scene, "layers[0].arrive.lasts=1.5");
  QVERIFY2(set.has_value(), set ? "" : set.error().sentence().c_str());
  QCOMPARE(passingOf(*set->layers[0].passes.arrive).lasts, 1.5);
  const auto far = withValueSet(scene, "layers[0].opacity.arrivesFrom=0.5");
  QVERIFY(far.has_value());
  QCOMPARE(std::get<double>(farValueOf(far->layers[0].opacity, false)->value), 0.5);
  QVERIFY(!withValueSet(scene, "layers[0].arrive.lasts=-1").has_value());
  QVERIFY(!withValueSet(scene, "layers[0].arrive.speed=1").has_value());
  QVERIFY(!withValueSet(scene, "layers[0].noise.churn.arrivesFrom=1").has_value());
  QVERIFY(!withValueSet(scene, "run.loops=0").has_value());
}

void TestPassing::whatWouldJumpIsFound() {
  Scene scene = smallShape(60);
  test::param(scene, 0, 0, "centre").motion = test::swing(Point{0.7, 0.5});
  QVERIFY(checkMeetings(scene).empty());
  Passing p;
  p.from = PassFrom::Outside;
  p.lasts = 1;
  QVERIFY(edit::setPassage(scene, {scene.layers[0].id}, false, p).has_value());
  QVERIFY(edit::setPassage(scene, {scene.layers[0].id}, true, p).has_value());
  const auto meetings = checkMeetings(scene);
  QCOMPARE(meetings.size(), std::size_t{2});
  for (const Meeting& meeting : meetings)
    QVERIFY2(meeting.clean, qPrintable(QStringLiteral("%1 %2").arg(meeting.step).arg(meeting.beside)));
  // What jumps at the joint of its loop jumps there too.
  Motion& hops = test::param(scene, 0, 0, "centre").motion;
  hops.kind = MotionKind::Hops;
  hops.list = {Point{0.2, 0.5}, Point{0.8, 0.5}};
  QVERIFY(!checkMeetings(scene).front().clean);
}

QTEST_GUILESS_MAIN(TestPassing)
#include "tst_passing.moc"
