#include "image/sampling.h"

#include <algorithm>
#include <cmath>
#include <cstring>
#include <string_view>

#include "base/parallel.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/sampling.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

template <int kChannels>
void samplePixels(const Plane& plane, Edge edge, const float* x, const float* y, int n, float* out) {
  const hn::FixedTag<float, 4> d;
  alignas(16) static constexpr float kNothing[4] = {0, 0, 0, 0};
  const int width = plane.width();
  const int height = plane.height();
  for (int i = 0; i < n; ++i) {
    const float fx = std::floor(x[i]);
    const float fy = std::floor(y[i]);
    const float tx = x[i] - fx;
    const float ty = y[i] - fy;
    // Beyond any sensible distance all places are one.
    const auto cx = static_cast<int>(std::clamp(fx, -1e8f, 1e8f));
    const auto cy = static_cast<int>(std::clamp(fy, -1e8f, 1e8f));
    const float* at[4];
    if (cx >= 0 && cy >= 0 && cx + 1 < width && cy + 1 < height) {
      at[0] = plane.row(cy) + cx * kChannels;
      at[1] = at[0] + kChannels;
      at[2] = at[0] + plane.stride();
      at[3] = at[2] + kChannels;
    } else {
      for (int k = 0; k < 4; ++k) {
        const int px = edgeIndex(edge, cx + (k & 1), width);
        const int py = edgeIndex(edge, cy + (k >> 1), height);
        at[k] = px < 0 || py < 0 ? kNothing : plane.row(py) + px * kChannels;
      }
    }
    if constexpr (kChannels == 1) {
      const float upper = *at[0] + (*at[1] - *at[0]) * tx;
      const float lower = *at[2] + (*at[3] - *at[2]) * tx;
      out[i] = upper + (lower - upper) * ty;
    } else {
      const auto a = hn::LoadU(d, at[0]);
      const auto c = hn::LoadU(d, at[2]);
      const auto upper = hn::MulAdd(hn::Sub(hn::LoadU(d, at[1]), a), hn::Set(d, tx), a);
      const auto lower = hn::MulAdd(hn::Sub(hn::LoadU(d, at[3]), c), hn::Set(d, tx), c);
      hn::StoreU(hn::MulAdd(hn::Sub(lower, upper), hn::Set(d, ty), upper), d, out + i * 4);
    }
  }
}

// The weights of cubicWeights(), in floats.
HWY_INLINE void cubicAt(float t, float* w) {
  w[0] = ((-0.5f * t + 1) * t - 0.5f) * t;
  w[1] = (1.5f * t - 2.5f) * t * t + 1;
  w[2] = ((-1.5f * t + 2) * t + 0.5f) * t;
  w[3] = (0.5f * t - 0.5f) * t * t;
}

template <int kChannels>
void samplePixelsCubic(const Plane& plane, Edge edge, const float* x, const float* y, int n, float* out) {
  const hn::FixedTag<float, 4> d;
  alignas(16) static constexpr float kNothing[4] = {0, 0, 0, 0};
  const int width = plane.width();
  const int height = plane.height();
  for (int i = 0; i < n; ++i) {
    const float fx = std::floor(x[i]);
    const float fy = std::floor(y[i]);
    float wx[4];
    float wy[4];
    cubicAt(x[i] - fx, wx);
    cubicAt(y[i] - fy, wy);
    const auto cx = static_cast<int>(std::clamp(fx, -1e8f, 1e8f));
    const auto cy = static_cast<int>(std::clamp(fy, -1e8f, 1e8f));
    if (cx >= 1 && cy >= 1 && cx + 2 < width && cy + 2 < height) {
      const float* at = plane.row(cy - 1) + (cx - 1) * kChannels;
      if constexpr (kChannels == 1) {
        auto rows = hn::Mul(hn::LoadU(d, at), hn::Set(d, wy[0]));
        for (int k = 1; k < 4; ++k) rows = hn::MulAdd(hn::LoadU(d, at + k * plane.stride()), hn::Set(d, wy[k]), rows);
        out[i] = hn::GetLane(hn::SumOfLanes(d, hn::Mul(rows, hn::LoadU(d, wx))));
      } else {
        auto sum = hn::Zero(d);
        for (int k = 0; k < 4; ++k, at += plane.stride()) {
          auto row = hn::Mul(hn::LoadU(d, at), hn::Set(d, wx[0]));
          for (int j = 1; j < 4; ++j) row = hn::MulAdd(hn::LoadU(d, at + j * 4), hn::Set(d, wx[j]), row);
          sum = hn::MulAdd(row, hn::Set(d, wy[k]), sum);
        }
        // The cubic goes a little beyond its samples; colours must not.
        const auto alpha = hn::Min(hn::Set(d, 1.0f), hn::Max(hn::Zero(d), hn::Broadcast<3>(sum)));
        hn::StoreU(hn::Min(alpha, hn::Max(hn::Zero(d), sum)), d, out + i * 4);
      }
      continue;
    }
    auto sum = hn::Zero(d);
    float plain = 0;
    for (int k = 0; k < 4; ++k) {
      const int py = edgeIndex(edge, cy + k - 1, height);
      for (int j = 0; j < 4; ++j) {
        const int px = edgeIndex(edge, cx + j - 1, width);
        const float* const at = px < 0 || py < 0 ? kNothing : plane.row(py) + px * kChannels;
        if constexpr (kChannels == 1)
          plain += *at * wx[j] * wy[k];
        else
          sum = hn::MulAdd(hn::LoadU(d, at), hn::Set(d, wx[j] * wy[k]), sum);
      }
    }
    if constexpr (kChannels == 1) {
      out[i] = plain;
    } else {
      const auto alpha = hn::Min(hn::Set(d, 1.0f), hn::Max(hn::Zero(d), hn::Broadcast<3>(sum)));
      hn::StoreU(hn::Min(alpha, hn::Max(hn::Zero(d), sum)), d, out + i * 4);
    }
  }
}

void sampleAnyCubic(const Plane& plane, Edge edge, const float* x, const float* y, int n, float* out) {
  if (plane.channels() == 1)
    samplePixelsCubic<1>(plane, edge, x, y, n, out);
  else
    samplePixelsCubic<4>(plane, edge, x, y, n, out);
}

void sampleAny(const Plane& plane, Edge edge, const float* x, const float* y, int n, float* out) {
  if (plane.channels() == 1)
    samplePixels<1>(plane, edge, x, y, n, out);
  else
    samplePixels<4>(plane, edge, x, y, n, out);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(sampleAny);
HWY_EXPORT(sampleAnyCubic);

Plane wholePlane(const RowMaker& input, int width, int height) {
  Plane plane(width, height, input.channels());
  parallelBands(height, [&](int y0, int y1) { input.rows(y0, y1, plane.row(y0), plane.stride()); });
  return plane;
}

Edge edgeFromName(std::string_view name) {
  return name == "clamp"    ? Edge::Clamp
         : name == "wrap"   ? Edge::Wrap
         : name == "mirror" ? Edge::Mirror
         : name == "beyond" ? Edge::Beyond
                            : Edge::Transparent;
}

void samplePlane(const Plane& plane, Edge edge, const float* x, const float* y, int n, float* out) {
  HWY_DYNAMIC_DISPATCH(sampleAny)(plane, edge, x, y, n, out);
}

void samplePlaneCubic(const Plane& plane, Edge edge, const float* x, const float* y, int n, float* out) {
  HWY_DYNAMIC_DISPATCH(sampleAnyCubic)(plane, edge, x, y, n, out);
}

namespace {

class StoredRows final : public RowMaker {
 public:
  StoredRows(Plane plane, bool opaque) : plane_(std::move(plane)), opaque_(opaque) {}
  [[nodiscard]] int channels() const override { return plane_.channels(); }
  [[nodiscard]] bool opaque() const override { return opaque_; }
  [[nodiscard]] const float* stored(int y) const override { return plane_.row(y); }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int y = y0; y < y1; ++y)
      std::memcpy(out + (y - y0) * stride, plane_.row(y), sizeof(float) * static_cast<std::size_t>(plane_.width() * channels()));
  }

 private:
  Plane plane_;
  bool opaque_;
};

}  // namespace

std::unique_ptr<RowMaker> planeRows(Plane plane, bool opaque) { return std::make_unique<StoredRows>(std::move(plane), opaque); }

}  // namespace oa
#endif
