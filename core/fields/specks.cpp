#include "fields/specks.h"

#include <algorithm>
#include <cmath>

#include "base/numbers.h"
#include "simd/speckle.h"
#include "simd/tone_table.h"

namespace oa {
namespace {

// Edges that should fall between two pixels may miss that by a rounding error.
constexpr double kEdge = 1e-6;

// Every channel draws its own tones.
std::uint32_t channelStill(std::uint32_t still, std::uint32_t channel) { return still + channel * 0x68BC21EBu; }

}  // namespace

Specks::Cover Specks::Axis::covered(double low) const {
  const double first = std::floor(low + kEdge);
  // Where specks are finer than pixels each pixel shows one, and strength_ takes care of the rest.
  const double share = perPixel >= 1 ? 1 : std::min(1.0, (first + 1 - low) / perPixel);
  return {static_cast<std::uint32_t>(floorMod(static_cast<std::int64_t>(first), count)),
          share > 1 - kEdge ? 1.0f : static_cast<float>(share)};
}

Specks::Specks(const PlaneView& view, double size, std::uint32_t still) : still_(still) {
  const auto axis = [&](double length, double start, double toX, double toY) {
    const int count = std::max(1, static_cast<int>(std::lround(length / size)));
    const double perPixel = count / length / view.scale;
    return Axis{start * count / length, perPixel, count, toX * perPixel, toY * perPixel};
  };
  across_ = axis(view.frameWidth, view.left, view.xx, view.xy);
  down_ = axis(view.frameHeight, view.top, view.yx, view.yy);
  upright_ = view.upright();
  strength_ = static_cast<float>(std::min(1.0, 1 / std::max(across_.perPixel, down_.perPixel)));
  for (int x = 0; upright_ && x < view.width + kSpanPadding; ++x) {
    const Cover cover = across_.at(x);
    columns_.push_back(cover.speck);
    next_.push_back(across_.after(cover.speck));
    shares_.push_back(cover.share);
    crisp_ = crisp_ && (cover.share == 1 || x >= view.width);
  }
}

void Specks::row(std::uint32_t speckRow, int x0, int n, std::uint32_t still, float* out) const {
  speckTones(columns_.data() + x0, speckRow, still, n, out);
  if (crisp_) return;
  alignas(64) float beside[kSpanStep + kSpanPadding];
  for (int at = 0; at < n; at += kSpanStep) {
    const int count = std::min(kSpanStep, n - at);
    speckTones(next_.data() + x0 + at, speckRow, still, count, beside);
    const float* const shares = shares_.data() + x0 + at;
    for (int i = 0; i < count; ++i) out[at + i] = beside[i] + (out[at + i] - beside[i]) * shares[i];
  }
}

void Specks::span(int y, int x0, int n, std::uint32_t channel, float* out) const {
  const std::uint32_t still = channelStill(still_, channel);
  if (!upright_) {
    for (int i = 0; i < n; ++i) out[i] = static_cast<float>(tone(x0 + i, y, channel));
    return;
  }
  const Cover cover = down_.at(y);
  row(cover.speck, x0, n, still, out);
  if (cover.share < 1) {
    alignas(64) float below[kSpanStep + kSpanPadding];
    for (int at = 0; at < n; at += kSpanStep) {
      const int count = std::min(kSpanStep, n - at);
      row(down_.after(cover.speck), x0 + at, count, still, below);
      for (int i = 0; i < count; ++i) out[at + i] = below[i] + (out[at + i] - below[i]) * cover.share;
    }
  }
  if (strength_ < 1) scaleSpan(out, n, strength_, 0.5f - 0.5f * strength_);
}

// A turned pixel counts as an upright one about the same middle.
std::pair<Specks::Cover, Specks::Cover> Specks::coverOf(int x, int y) const {
  if (upright_) return {across_.at(x), down_.at(y)};
  const auto low = [&](const Axis& a) { return a.begin + a.toX * (x + 0.5) + a.toY * (y + 0.5) - a.perPixel / 2; };
  return {across_.covered(low(across_)), down_.covered(low(down_))};
}

double Specks::mean(const Cover& cx, const Cover& cy, std::uint32_t still) const {
  const auto at = [&](std::uint32_t i, std::uint32_t j) { return static_cast<double>(speckTone(i, j, still)); };
  const auto along = [&](std::uint32_t j) { return mix(at(across_.after(cx.speck), j), at(cx.speck, j), static_cast<double>(cx.share)); };
  return mix(along(down_.after(cy.speck)), along(cy.speck), static_cast<double>(cy.share));
}

double Specks::tone(int x, int y, std::uint32_t channel) const {
  const auto [across, down] = coverOf(x, y);
  return 0.5 + (mean(across, down, channelStill(still_, channel)) - 0.5) * static_cast<double>(strength_);
}

}  // namespace oa
