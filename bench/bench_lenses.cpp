// Steps that read elsewhere against OpenCV's remap, bilinear, of the same size; the picture that they read lies ready.
#include <opencv2/imgproc.hpp>

#include <cmath>
#include <cstring>
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
    report(std::string(spec->title) + ", one thread, against OpenCV's remap", one, 1.0, false);
    const auto alone = [&] { withThreads(1, [&] { stepInto(step, input, out); }); };
    const auto both = [&] { withThreads(2, [&] { stepInto(step, input, out); }); };
    report(std::string(spec->title) + ", two threads against one", ratio(alone, both, 8), 1.6, true);
  }
}

}  // namespace oa::bench
