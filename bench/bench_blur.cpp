#include <benchmark/benchmark.h>

#include <algorithm>
#include <cmath>
#include <opencv2/imgproc.hpp>

#include "base/parallel.h"
#include "image/blur.h"
#include "image/buffer.h"
#include "ratios.h"
#include "simd/lattice_noise.h"

namespace {

constexpr int kWidth = 1920;
constexpr int kHeight = 1080;
constexpr double kSigma = 30;  // a radius of 60 px

class Picture final : public oa::RowMaker {
 public:
  Picture() : plane_(kWidth, kHeight, 4) {
    // Blocks of hard edges and fine noise: what a blur has most to do with.
    for (int y = 0; y < kHeight; ++y)
      for (int x = 0; x < kWidth; ++x)
        for (int c = 0; c < 4; ++c)
          plane_.row(y)[x * 4 + c] =
              c == 3 ? 1.0f
                     : ((x / (40 + 30 * c) + y / 70) % 2 ? 0.9f : 0.1f) * (0.9f + 0.1f * static_cast<float>((x * 7 + y * 13) % 11) / 11);
  }
  [[nodiscard]] int channels() const override { return 4; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int y = y0; y < y1; ++y) std::copy(plane_.row(y), plane_.row(y) + kWidth * 4, out + (y - y0) * stride);
  }
  [[nodiscard]] const float* stored(int y) const override { return plane_.row(y); }
  [[nodiscard]] const oa::Plane& plane() const { return plane_; }

 private:
  oa::Plane plane_;
};

void ours(const Picture& picture, oa::Plane& out) {
  const auto maker = oa::blurred(picture, kWidth, kHeight, {kSigma, kSigma, oa::Edge::Clamp, false});
  oa::parallelBands(kHeight, [&](int y0, int y1) { maker->rows(y0, y1, out.row(y0), out.stride()); });
  oa::bench::keep(out.row(0));
}

// As the renderer uses it: each span goes to its consumer while it is in the cache.
void oursInSpans(const Picture& picture) {
  const auto maker = oa::blurred(picture, kWidth, kHeight, {kSigma, kSigma, oa::Edge::Clamp, false});
  oa::parallelBands(kHeight, [&](int y0, int y1) {
    alignas(64) float span[(oa::kSpanStep + oa::kSpanPadding) * 4];
    for (int y = y0; y < y1; ++y)
      for (int x = 0; x < kWidth; x += oa::kSpanStep) {
        maker->span(y, x, std::min(oa::kSpanStep, kWidth - x), span);
        oa::bench::keep(span);
      }
  });
}

void theirs(const cv::Mat& picture, cv::Mat& out) {
  cv::Mat small;
  cv::Mat soft;
  cv::resize(picture, small, cv::Size(kWidth / 4, kHeight / 4), 0, 0, cv::INTER_AREA);
  cv::GaussianBlur(small, soft, cv::Size(), kSigma / 4, kSigma / 4, cv::BORDER_REPLICATE);
  cv::resize(soft, out, cv::Size(kWidth, kHeight), 0, 0, cv::INTER_LINEAR);
  oa::bench::keep(out.data);
}

void BM_Blur(benchmark::State& state) {
  const Picture picture;
  oa::Plane out(kWidth, kHeight, 4);
  for (auto _ : state) oa::withThreads(static_cast<int>(state.range(0)), [&] { ours(picture, out); });
}
BENCHMARK(BM_Blur)->Arg(1)->Arg(2)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace

namespace oa::bench {

void blurRatios() {
  const Picture picture;
  Plane out(kWidth, kHeight, 4);
  cv::Mat source(kHeight, kWidth, CV_32FC4);
  for (int y = 0; y < kHeight; ++y) std::copy(picture.plane().row(y), picture.plane().row(y) + kWidth * 4, source.ptr<float>(y));
  cv::Mat result;
  for (const int threads : {1, 2}) {
    cv::setNumThreads(threads);
    double value = 0;
    const std::string both = ", " + std::to_string(threads) + " thread(s) each, against OpenCV at quarter size";
    withThreads(threads, [&] { value = ratio([&] { theirs(source, result); }, [&] { oursInSpans(picture); }, 25); });
    report("blur of radius 60 px into the consumer's spans" + both, value, 4, true);
    withThreads(threads, [&] { value = ratio([&] { theirs(source, result); }, [&] { ours(picture, out); }, 25); });
    report("the same into a whole frame" + both, value, 1, true);
  }
  // A true Gaussian: separable, in double precision, edges held.
  const int reach = static_cast<int>(kSigma * 5);
  std::vector<double> taps;
  double sum = 0;
  for (int k = -reach; k <= reach; ++k) taps.push_back(std::exp(-0.5 * k * k / (kSigma * kSigma)));
  for (const double t : taps) sum += t;
  std::vector<double> across(std::size_t{kWidth} * kHeight);
  double inside = 0;
  double edge = 0;
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) {
      double v = 0;
      for (int k = -reach; k <= reach; ++k)
        v += taps[static_cast<std::size_t>(k + reach)] * static_cast<double>(picture.plane().row(y)[std::clamp(x + k, 0, kWidth - 1) * 4]);
      across[static_cast<std::size_t>(y) * kWidth + static_cast<std::size_t>(x)] = v / sum;
    }
  for (int y = 0; y < kHeight; y += 3)
    for (int x = 0; x < kWidth; x += 3) {
      double v = 0;
      for (int k = -reach; k <= reach; ++k)
        v += taps[static_cast<std::size_t>(k + reach)] *
             across[static_cast<std::size_t>(std::clamp(y + k, 0, kHeight - 1)) * kWidth + static_cast<std::size_t>(x)];
      const double error = std::abs(v / sum - static_cast<double>(out.row(y)[x * 4]));
      const bool near = x < 90 || y < 90 || x >= kWidth - 90 || y >= kHeight - 90;
      (near ? edge : inside) = std::max(near ? edge : inside, error);
    }
  report("blur: largest error against a true Gaussian, away from the edges, x 1000", inside * 1000, 12, false);
  report("blur: largest error near the edges, x 1000", edge * 1000, 12, false);
}

}  // namespace oa::bench
