// Steps that read elsewhere against OpenCV's remap, bilinear, of the same size; the picture that they read lies ready.
#include <opencv2/imgproc.hpp>

#include <cmath>
#include <cstring>
#include <functional>
#include <map>
#include <memory>
#include <string>
#include <tuple>

#include "base/parallel.h"
#include "image/sampling.h"
#include "ratios.h"
#include "scene/scene.h"

namespace {

constexpr int kWidth = 1920;
constexpr int kHeight = 1080;

// A picture that is there already in whatever view is asked for.
class Ready final : public oa::Input {
 public:
  [[nodiscard]] std::shared_ptr<const oa::RowMaker> pull(const oa::PlaneView& view) const override {
    auto& kept = planes_[{view.width, view.height}];
    if (!kept) {
      oa::Plane plane(view.width, view.height, 4);
      for (int y = 0; y < view.height; ++y)
        for (int i = 0; i < view.width * 4; ++i) plane.row(y)[i] = i % 4 == 3 ? 1.0f : static_cast<float>((i * 7 + y * 3) % 97) / 97;
      kept = oa::planeRows(std::move(plane), true);
    }
    return kept;
  }
  [[nodiscard]] std::shared_ptr<const oa::RowMaker> pull(const oa::PlaneView& view, const oa::Moment&) const override { return pull(view); }
  [[nodiscard]] oa::Moment moment() const override { return {0, 120}; }

 private:
  mutable std::map<std::pair<int, int>, std::shared_ptr<const oa::RowMaker>> planes_;
};

oa::PlaneView frameView() { return oa::PlaneView::cover(kWidth, kHeight, kWidth, kHeight); }

void stepInto(const oa::RecipeStep& step, const oa::Input& input, oa::Plane& out) {
  const auto rows = step.spec->area(oa::contextOf(step, {0, 120}, frameView()), input);
  oa::parallelBands(kHeight, [&](int y0, int y1) { rows->rows(y0, y1, out.row(y0), out.stride()); });
  oa::bench::keep(out.row(0));
}

}  // namespace

namespace oa::bench {
namespace {

void setNumber(RecipeStep& step, std::string_view id, double value) {
  step.params[static_cast<std::size_t>(findParam(step.spec->params, id))].base = value;
}

// Light and surface: against one wide blur, against copying, and against the layer alone.
void finishingRatios(const Ready& input, Plane& out, const std::function<void()>& remap) {
  const auto one = [&](const std::function<void()>& work, const std::function<void()>& other, int rounds = 8) {
    double made = 0;
    withThreads(1, [&] { made = ratio(work, other, rounds); });
    return made;
  };
  RecipeStep blur = newStep(*findStep("blur"));
  setNumber(blur, "across", 320);
  setNumber(blur, "down", 320);
  const RecipeStep glow = newStep(*findStep("glow"));
  report("glow over five radii, one thread, against one wide blur",
         one([&] { stepInto(glow, input, out); }, [&] { stepInto(blur, input, out); }), 2.5, false);
  const Plane from(kWidth, kHeight, 4);
  const auto copy = [&] {
    std::memcpy(out.row(0), from.row(0), sizeof(float) * static_cast<std::size_t>(from.stride()) * kHeight);
    keep(out.row(0));
  };
  RecipeStep droplets = newStep(*findStep("droplets"));
  setNumber(droplets, "count", 300);
  report("300 droplets, one thread, against two copies and a remap",
         one([&] { stepInto(droplets, input, out); },
             [&] {
               copy();
               copy();
               remap();
             }),
         1.0, false);
  const Plane same = wholePlane(*input.pull(frameView()), kWidth, kHeight);
  for (const char* id : {"halftone", "scanlines", "sweep", "balance", "temperature", "paletteonly"}) {
    const RecipeStep step = newStep(*findStep(id));
    const auto kernel = step.spec->point(contextOf(step, {0, 120}, frameView()), 4);
    // Within the spans of the layer, as they run: what is read and written stays in the cache.
    const auto points = [&] {
      alignas(128) float span[(kSpanStep + kSpanPadding) * 4];
      alignas(128) float made[(kSpanStep + kSpanPadding) * 4];
      std::memcpy(span, same.row(kHeight / 2), sizeof(float) * kSpanStep * 4);
      for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth; x += kSpanStep) kernel->apply(span, made, std::min(kSpanStep, kWidth - x), x, y);
      keep(made);
    };
    const bool promised = step.spec->id == "halftone" || step.spec->id == "scanlines";
    report(std::string(step.spec->title) + ", fused, one thread, against a copy", one(points, copy), promised ? 0.6 : 3, false);
  }
  RecipeStep trails = newStep(*findStep("trails"));
  setNumber(trails, "count", 8);
  const auto alone = [&] {
    const auto rows = input.pull(frameView());
    for (int y = 0; y < kHeight; ++y) rows->rows(y, y + 1, out.row(y), out.stride());
    keep(out.row(0));
  };
  report("trails of 8 of a picture that is kept, one thread, against reading it", one([&] { stepInto(trails, input, out); }, alone), 8.5,
         false);
  const RecipeStep fringes = newStep(*findStep("fringes"));
  const auto fringed = fringes.spec->area(contextOf(fringes, {0, 120}, frameView()), input);
  const auto spans = [&] {
    alignas(128) float made[(kSpanStep + kSpanPadding) * 4];
    for (int y = 0; y < kHeight; ++y)
      for (int x = 0; x < kWidth; x += kSpanStep) fringed->span(y, x, std::min(kSpanStep, kWidth - x), made);
    keep(made);
  };
  // Into rows that stay in the cache.
  const auto read = [&] {
    const auto plain = input.pull(frameView());
    Plane row(kWidth, 1, 4);
    for (int y = 0; y < kHeight; ++y) plain->rows(y, y + 1, row.row(0), row.stride());
    keep(row.row(0));
  };
  const double fringing = one(spans, copy);
  report("Colour fringes of a picture that is kept, fused, one thread, against a copy", fringing, 0.6, false);
  report("what of it they add to reading the picture row by row", fringing - one(read, copy), 0.6, false);
  report("the same, into a plane of its own", one([&] { stepInto(fringes, input, out); }, copy), 3, false);
}

}  // namespace

void lensRatios(const std::string& only) {
  const Ready input;
  Plane out(kWidth, kHeight, 4);
  cv::setNumThreads(1);
  cv::Mat source(kHeight, kWidth, CV_32FC4, cv::Scalar(0.2, 0.4, 0.6, 1));
  cv::Mat mapX(kHeight, kWidth, CV_32FC1);
  cv::Mat mapY(kHeight, kWidth, CV_32FC1);
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) {
      mapX.at<float>(y, x) = static_cast<float>(0.95106 * x - 0.30902 * y + 180.3);
      mapY.at<float>(y, x) = static_cast<float>(0.30902 * x + 0.95106 * y - 211.7);
    }
  cv::Mat remapped(kHeight, kWidth, CV_32FC4);
  const auto remap = [&] { cv::remap(source, remapped, mapX, mapY, cv::INTER_LINEAR, cv::BORDER_REPLICATE); };
  for (const StepSpec* spec : allSteps()) {
    if (spec->group != "fold" && spec->group != "bend" && spec->group != "body") continue;
    if (spec->id == "warp" || spec->id == "seamless" || (!only.empty() && spec->id != only)) continue;
    const RecipeStep step = newStep(*spec);
    stepInto(step, input, out);
    double one = 0;
    withThreads(1, [&] { one = ratio([&] { stepInto(step, input, out); }, remap, 8); });
    // The aims are those of swirl, ripple, lens, kaleidoscope, tilt, hinge and ball; the others are told beside them.
    report(std::string(spec->title) + ", one thread, against OpenCV's remap", one,
           spec->id == "droplets" ? 1.7
           : spec->id == "glass"  ? 1.3
                                  : 1.0,
           false);
    const auto alone = [&] { withThreads(1, [&] { stepInto(step, input, out); }); };
    const auto both = [&] { withThreads(2, [&] { stepInto(step, input, out); }); };
    report(std::string(spec->title) + ", two threads against one", ratio(alone, both, 8), 1.6, true);
  }
  if (!only.empty() && only != "finishing") return;
  finishingRatios(input, out, remap);
}

}  // namespace oa::bench
