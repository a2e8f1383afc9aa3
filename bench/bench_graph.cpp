// Places, copies, warps and values: what the graph costs beside what it shows.
#include <benchmark/benchmark.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

#include <cstdio>
#include <cstring>
#include <opencv2/core.hpp>
#include <opencv2/imgproc.hpp>

#include "base/parallel.h"
#include "image/resampled.h"
#include "image/sampling.h"
#include "params/first_motion.h"
#include "ratios.h"
#include "render/frames.h"
#include "render/renderer.h"
#include "scene/tree.h"

namespace {

constexpr int kWidth = 1920;
constexpr int kHeight = 1080;

// Takes pixels and does nothing with them.
class Nowhere final : public oa::PixelSink {
 public:
  void take(int, int, int, int, const float* const* rgba) override { oa::bench::keep(rgba); }
};

oa::Scene sceneOf(std::vector<oa::Layer> layers, int frames = 120) {
  oa::Scene scene;
  scene.frames = frames;
  scene.layers = std::move(layers);
  oa::assignIds(scene);
  return scene;
}

oa::Layer layerOf(const char* source, int id = 0) {
  oa::Layer layer = oa::newLayer(*oa::findStep(source), source);
  layer.id = id;
  return layer;
}

oa::Param& value(oa::RecipeStep& step, const char* id) {
  return step.params[static_cast<std::size_t>(oa::findParam(step.spec->params, id))];
}

oa::Motion swing(const oa::Value& far) {
  oa::Motion motion;
  motion.kind = oa::MotionKind::Swing;
  motion.far = far;
  return motion;
}

// One frame after the other, each another one, on one thread.
class Frames {
 public:
  explicit Frames(oa::Scene scene, int width = kWidth, int height = kHeight, int threads = 1)
      : renderer_(scene, width, height, {.threads = threads, .manyFrames = true}) {}
  void next() { renderer_.render(frame_++, sink_); }
  void loop() {
    for (int k = 0; k < renderer_.scene().frames; ++k) next();
  }

 private:
  oa::Renderer renderer_;
  Nowhere sink_;
  std::int64_t frame_ = 0;
};

// --- Sampling ---------------------------------------------------------------------------------------------------------------

oa::Plane pattern(int channels, int width = kWidth, int height = kHeight) {
  oa::Plane plane(width, height, channels);
  for (int y = 0; y < height; ++y)
    for (int i = 0; i < width * channels; ++i) plane.row(y)[i] = i % 4 == 3 ? 1.0f : static_cast<float>((i * 7 + y * 3) % 97) / 97;
  return plane;
}

void copyPlane(const oa::Plane& from, oa::Plane& to) {
  std::memcpy(to.row(0), from.row(0), sizeof(float) * static_cast<std::size_t>(from.stride()) * kHeight);
  oa::bench::keep(to.row(0));
}

// All rows, band by band, as a frame asks for them.
void pull(const oa::RowMaker& rows, oa::Plane& out) {
  for (int y = 0; y < kHeight; y += oa::kBandRows) rows.rows(y, std::min(kHeight, y + oa::kBandRows), out.row(y), out.stride());
  oa::bench::keep(out.row(0));
}

void samplingRatios() {
  const std::shared_ptr<const oa::RowMaker> picture = oa::planeRows(pattern(4), true);
  const oa::PlaneView have = oa::PlaneView::cover(kWidth, kHeight, kWidth, kHeight);
  oa::Plane out(kWidth, kHeight, 4);
  const oa::Plane from = pattern(4);
  // A picture that is larger than the frame, turned by 18 degrees about its middle: it covers the frame.
  constexpr int kLargeWidth = 2240;
  constexpr int kLargeHeight = 1700;
  const oa::Plane photograph = pattern(4, kLargeWidth, kLargeHeight);
  const std::shared_ptr<const oa::RowMaker> large = oa::planeRows(pattern(4, kLargeWidth, kLargeHeight), true);
  const oa::PlaneView whole = oa::PlaneView::cover(kLargeWidth, kLargeHeight, kLargeWidth, kLargeHeight);
  const oa::Affine turned = oa::Affine{0.95106, -0.30902, 0, 0.30902, 0.95106, 0};
  const oa::Point middle = turned({kLargeWidth / 2.0, kLargeHeight / 2.0});
  const oa::PlaneView askew = have.through({turned.xx, turned.xy, kWidth / 2.0 - middle.x, turned.yx, turned.yy, kHeight / 2.0 - middle.y},
                                           kLargeWidth, kLargeHeight);
  const cv::Mat source(kLargeHeight, kLargeWidth, CV_32FC4, const_cast<float*>(photograph.row(0)),
                       static_cast<std::size_t>(photograph.stride()) * sizeof(float));
  cv::Mat mapX(kHeight, kWidth, CV_32FC1);
  cv::Mat mapY(kHeight, kWidth, CV_32FC1);
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) {
      const oa::Point at = whole.pixel(askew.place(x, y));
      mapX.at<float>(y, x) = static_cast<float>(at.x);
      mapY.at<float>(y, x) = static_cast<float>(at.y);
    }
  cv::setNumThreads(1);
  cv::Mat remapped(kHeight, kWidth, CV_32FC4);
  oa::bench::report("a turned picture, cubic, against OpenCV's remap, bilinear",
                    oa::bench::ratio([&] { pull(*oa::resampled(large, whole, askew), out); },
                                     [&] { cv::remap(source, remapped, mapX, mapY, cv::INTER_LINEAR, cv::BORDER_REPLICATE); }, 12),
                    0.9, false);
  for (const auto& [name, map] : {std::pair{"a moved picture, cubic, against a copy of it", oa::Affine{1, 0, 40.3, 0, 1, -20.6}},
                                  {"a sized picture, cubic, against a copy of it", oa::Affine{1.37, 0, -200, 0, 1.37, -120}}})
    oa::bench::report(name,
                      oa::bench::ratio([&, view = have.through(map, kWidth, kHeight)] { pull(*oa::resampled(picture, have, view), out); },
                                       [&] { copyPlane(from, out); }, 20),
                      2, false);
}

// What the warp adds to the field that it bends: a smooth one is worked out every few pixels, one with edges at every one.
void warpRatio() {
  const auto compared = [](const char* name, const oa::Layer& plain) {
    oa::Layer bent = plain;
    bent.recipe.push_back(oa::newStep(*oa::findStep("warp")));
    Frames alone(sceneOf({plain}));
    Frames warped(sceneOf({bent}));
    const oa::Plane from = pattern(1);
    oa::Plane to(kWidth, kHeight, 1);
    const oa::Plane picture = pattern(4);
    oa::Plane copied(kWidth, kHeight, 4);
    double best[4] = {1e9, 1e9, 1e9, 1e9};
    for (int i = 0; i < 20; ++i) {
      best[0] = std::min(best[0], oa::bench::quickest([&] { alone.next(); }, 1));
      best[1] = std::min(best[1], oa::bench::quickest([&] { warped.next(); }, 1));
      best[2] = std::min(best[2], oa::bench::quickest([&] { copyPlane(from, to); }, 1));
      best[3] = std::min(best[3], oa::bench::quickest([&] { copyPlane(picture, copied); }, 1));
    }
    std::printf("  (field %.2f ms, warped %.2f ms, copy %.2f ms)\n", best[0] * 1e3, best[1] * 1e3, best[2] * 1e3);
    oa::bench::report(std::string(name) + ", against a copy of it", (best[1] - best[0]) / best[2], 2, false);
    oa::bench::report(std::string(name) + ", against a copy of a float RGBA frame", (best[1] - best[0]) / best[3], 2, false);
  };
  oa::Layer smooth = layerOf("noise");
  value(smooth.recipe[0], "detail").base = 1.0;
  compared("warping a smooth field", smooth);
  compared("warping a field with edges", layerOf("pattern"));
}

// --- The graph --------------------------------------------------------------------------------------------------------------

void placeRatio() {
  oa::Layer own = layerOf("noise");
  value(own.recipe[0], "angle").base = 30.0;
  oa::Layer placed = layerOf("noise");
  placed.place[static_cast<std::size_t>(oa::PlaceParam::Turn)].base = 30.0;
  placed.place[static_cast<std::size_t>(oa::PlaceParam::Size)].base = oa::Point{1.2, 1.2};
  Frames byPlace(sceneOf({placed}));
  Frames byAngle(sceneOf({own}));
  oa::bench::report("noise turned and sized by its place, against its own angle",
                    oa::bench::ratio([&] { byPlace.next(); }, [&] { byAngle.next(); }, 20), 1.05, false);
}

// A small group whose square turns and whose disc swings.
oa::Layer smallGroup() {
  oa::Layer square = layerOf("shape", 2);
  value(square.recipe[0], "width").base = 90.0;
  value(square.recipe[0], "height").base = 90.0;
  oa::Motion turn;
  turn.kind = oa::MotionKind::Turn;
  square.place[static_cast<std::size_t>(oa::PlaceParam::Turn)].motion = turn;
  oa::Layer disc = layerOf("shape", 3);
  value(disc.recipe[0], "kind").base = std::string("ellipse");
  value(disc.recipe[0], "width").base = 50.0;
  value(disc.recipe[0], "height").base = 50.0;
  value(disc.recipe[0], "width").motion = swing(70.0);
  oa::Layer group = layerOf("group", 1);
  value(group.recipe[0], "width").base = 160.0;
  value(group.recipe[0], "height").base = 120.0;
  value(group.recipe[0], "cut").base = true;
  group.layers = {square, disc};
  return group;
}

void copiesRatio() {
  oa::Layer group = smallGroup();
  const oa::Scene once = sceneOf({group});
  group.visible = false;
  std::vector<oa::Layer> layers{group};
  for (int i = 0; i < 40; ++i) {
    oa::Layer copy = layerOf("linked", 10 + i);
    value(copy.recipe[0], "layer").base = 1.0;
    value(copy.recipe[0], "start").base = i / 40.0;
    copy.place[static_cast<std::size_t>(oa::PlaceParam::Position)].base =
        oa::Point{(120.0 + i % 8 * 220) / kWidth, (100.0 + i / 8 * 200) / kHeight};
    layers.push_back(copy);
  }
  // What the blits cost: forty pictures of that size laid over each other's frame, as bytes alone.
  const oa::Plane from = pattern(4);
  oa::Plane to(kWidth, kHeight, 4);
  const auto blits = [&] {
    for (int i = 0; i < 40; ++i)
      for (int y = 0; y < 120; ++y) {
        const std::ptrdiff_t at = (i % 8 * 220 + 40) * 4;
        float* out = to.row(i / 8 * 200 + y) + at;
        const float* in = from.row(y) + at;
        for (int x = 0; x < 160 * 4; x += 4)
          for (int c = 0; c < 4; ++c) out[x + c] = in[x + c] + out[x + c] * (1 - in[x + 3]);
      }
    oa::bench::keep(to.row(0));
  };
  const oa::Scene many = sceneOf(layers);
  double alone = 1e9;
  double copies = 1e9;
  double blit = 1e9;
  for (int i = 0; i < 3; ++i) {
    // A whole loop from its first frame on: nothing is kept from before.
    Frames one(once);
    Frames all(many);
    alone = std::min(alone, oa::bench::quickest([&] { one.loop(); }, 1) / once.frames);
    copies = std::min(copies, oa::bench::quickest([&] { all.loop(); }, 1) / many.frames);
    blit = std::min(blit, oa::bench::quickest(blits, 3));
  }
  oa::bench::report("forty linked copies of a group, against the group and forty blits", copies / (alone + blit), 1.3, false);
}

void lapsRatio() {
  // A group that fills the frame and goes round four times: its different frames are made once.
  oa::Layer noise = layerOf("noise", 2);
  value(noise.recipe[0], "angle").base = 20.0;
  noise.recipe.push_back(oa::newStep(*oa::findStep("colourmap")));
  noise.recipe.push_back(oa::newStep(*oa::findStep("warp")));
  oa::Layer group = layerOf("group", 1);
  group.layers = {noise};
  group.opacity.base = 0.999;  // a picture of its own
  const oa::Scene once = sceneOf({group}, 60);
  value(group.recipe[0], "laps").base = 4.0;
  const oa::Scene four = sceneOf({group}, 60);
  double slow = 1e9;
  double quick = 1e9;
  for (int i = 0; i < 2; ++i) {
    Frames one(once);
    Frames all(four);
    one.loop();
    all.loop();
    slow = std::min(slow, oa::bench::quickest([&] { one.loop(); }, 1));
    quick = std::min(quick, oa::bench::quickest([&] { all.loop(); }, 1));
  }
  oa::bench::report("a group of four laps, against the same in one lap", quick / slow, 0.5, false);
}

void compileRatio() {
  std::vector<oa::Layer> layers;
  for (int i = 0; i < 1000; ++i) {
    oa::Layer layer = layerOf(i % 3 == 0 ? "noise" : i % 3 == 1 ? "points" : "linked", i + 1);
    if (i % 3 == 2) value(layer.recipe[0], "layer").base = static_cast<double>(i - 1);
    layer.recipe.push_back(oa::newStep(*oa::findStep("levels")));
    layers.push_back(std::move(layer));
  }
  const oa::Scene scene = sceneOf(layers);
  const double seconds = oa::bench::quickest([&] { oa::bench::keep(&oa::Plan(scene).layers()); }, 10);
  oa::bench::report("compiling a scene of 1,000 layers, milliseconds", seconds * 1000, 20, false);
}

void valuesRatio() {
  // Ten thousand moving values of all kinds of motion, as forty steps of 250 items' values would be.
  const oa::ParamSpec spec{.id = "v", .label = "v", .help = "", .base = 10.0, .min = -100, .max = 100};
  std::vector<oa::Param> params;
  for (int i = 0; i < 10000; ++i) {
    oa::Param param = oa::defaultParam(spec);
    static const oa::MotionKind kKinds[] = {oa::MotionKind::Swing, oa::MotionKind::Wander, oa::MotionKind::Keyframes, oa::MotionKind::Hops};
    param.motion = oa::firstMotion(spec, param, kKinds[i % 4]);
    param.motion.laps = 1 + i % 5;
    param.motion.start = i / 10000.0;
    params.push_back(std::move(param));
  }
  double sum = 0;
  std::int64_t frame = 0;
  const double seconds = oa::bench::quickest(
      [&] {
        ++frame;
        for (const oa::Param& param : params) sum += std::get<double>(oa::evaluate(spec, param, {frame, 300}).value);
        oa::bench::keep(&sum);
      },
      20);
  oa::bench::report("10,000 moving values for a frame, milliseconds", seconds * 1000, 1, false);
}

// --- Memory -----------------------------------------------------------------------------------------------------------------

long freshPages() {
  rusage usage{};
  getrusage(RUSAGE_SELF, &usage);
  return usage.ru_minflt;
}

void pagesRatio() {
  oa::Layer layer = layerOf("noise");
  layer.recipe.push_back(oa::newStep(*oa::findStep("colourmap")));
  layer.recipe.push_back(oa::newStep(*oa::findStep("blur")));
  Frames frames(sceneOf({layer}), kWidth, kHeight, 2);
  for (int i = 0; i < 6; ++i) frames.next();
  const long before = freshPages();
  for (int i = 0; i < 20; ++i) frames.next();
  oa::bench::report("fresh pages a frame, with an area step", static_cast<double>(freshPages() - before) / 20, 100, false);
}

// The most memory that a program takes which renders two frames of a scene, in GiB.
double peakOf(const oa::Scene& scene, int width, int height) {
  const pid_t child = fork();
  if (child == 0) {
    Frames frames(scene, width, height, 2);
    frames.next();
    frames.next();
    _exit(0);
  }
  int status = 0;
  rusage usage{};
  wait4(child, &status, 0, &usage);
  return WIFEXITED(status) && WEXITSTATUS(status) == 0 ? static_cast<double>(usage.ru_maxrss) / (1 << 20) : 1e9;
}

oa::Scene heavy(int layers, int areas, int width, int height) {
  std::vector<oa::Layer> list;
  for (int i = 0; i < layers; ++i) {
    oa::Layer layer = layerOf(i % 2 ? "noise" : "gradient");
    layer.opacity.base = 0.9;
    if (i < areas) layer.recipe.push_back(oa::newStep(*oa::findStep(i % 2 ? "warp" : "blur")));
    list.push_back(std::move(layer));
  }
  oa::Scene scene = sceneOf(list);
  scene.width = width;
  scene.height = height;
  return scene;
}

}  // namespace

namespace oa::bench {

void memoryRatios() {
  // Before anything else is kept, and before there are threads that a child would not have.
  report("memory at 3840x2160, 30 layers, 10 with area steps, GiB", peakOf(heavy(30, 10, 3840, 2160), 3840, 2160), 1.5, false);
  report("memory at 8192x8192, 4 layers with area steps, GiB", peakOf(heavy(4, 4, 8192, 8192), 8192, 8192), 6, false);
}

void graphRatios(const std::string& only) {
  const std::pair<const char*, void (*)()> parts[] = {{"sampling", samplingRatios}, {"warp", warpRatio},  {"place", placeRatio},
                                                      {"copies", copiesRatio},      {"laps", lapsRatio},  {"compile", compileRatio},
                                                      {"values", valuesRatio},      {"pages", pagesRatio}};
  for (const auto& [name, measure] : parts)
    if (only.empty() || only == name) measure();
}

}  // namespace oa::bench
