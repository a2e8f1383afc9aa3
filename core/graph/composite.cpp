#include "graph/composite.h"

#include <algorithm>
#include <cstring>

#include "base/parallel.h"
#include "image/buffer.h"
#include "image/grey.h"
#include "image/transfer.h"

namespace oa {

Composite::Composite(std::vector<Stage> stages, Colour backdrop, bool linearLight, int width)
    : stages_(std::move(stages)), linearLight_(linearLight), width_(width) {
  covered_ = !stages_.empty() && stages_[0].blend == BlendMode::Normal && stages_[0].opacity >= 1 && stages_[0].pass->opaque();
  empty_ = !(backdrop.a > 0);
  opaque_ = covered_ || backdrop.a >= 1;
  bounds_ = PixelBox{0, 0, 0, 0};
  for (const Stage& stage : stages_) {
    opaque_ = opaque_ || (stage.blend == BlendMode::Normal && stage.opacity >= 1 && stage.pass->opaque());
    spans_ = spans_ && stage.pass->base().makesSpans();
    boxes_.push_back(stage.pass->bounds());
    painted_.push_back(!linearLight && stage.blend == BlendMode::Normal && stage.opacity >= 1 && stage.pass->paints());
    bounds_ = bounds_.with(boxes_.back());
  }
  if (!empty_ || opaque_) bounds_ = PixelBox();
  const float premultiplied[4] = {backdrop.r * backdrop.a, backdrop.g * backdrop.a, backdrop.b * backdrop.a, backdrop.a};
  fillRgba(premultiplied, 16, backdrop_);
  if (linearLight_) decodeSpan(backdrop_, 16);
}

// Rows of bases that do not come in spans.
struct Composite::Bands {
  int y0 = 0;
  std::vector<const float*> first;
  std::vector<std::ptrdiff_t> strides;
};

void Composite::pixels(int y, int x0, int n, const Bands* bands, float* total) const {
  alignas(128) float made[(kSpanStep + kSpanPadding) * 4];
  alignas(128) float in[(kSpanStep + kSpanPadding) * 4];
  if (!covered_) fillRgba(backdrop_, n, total);
  for (std::size_t s = 0; s < stages_.size(); ++s) {
    // Only what the layer can reach, in steps of what kernels write beyond it.
    const PixelBox& box = boxes_[s];
    if (y < box.y0 || y >= box.y1 || x0 + n <= box.x0 || x0 >= box.x1) continue;
    const Stage& stage = stages_[s];
    const RowMaker& base = stage.pass->base();
    const bool first = s == 0 && covered_;
    float* target = first ? total : made;
    const int skip = box.x0 > x0 ? (box.x0 - x0) / kSpanPadding * kSpanPadding : 0;
    const int end = box.x1 < x0 + n ? std::min(n, (box.x1 - x0 + kSpanPadding - 1) / kSpanPadding * kSpanPadding) : n;
    const int x = x0 + skip;
    const int count = end - skip;
    if (!first && painted_[s]) {
      base.paint(y, x, count, total + static_cast<std::ptrdiff_t>(skip) * 4);
      continue;
    }
    const float* from = in;
    // What lies finished in memory is laid from there.
    const bool lies = !first && !linearLight_ && stage.pass->bare() && base.channels() == 4;
    float* const under = total + static_cast<std::ptrdiff_t>(skip) * 4;
    if (bands && bands->first[s])
      from = bands->first[s] + (y - bands->y0) * bands->strides[s] + static_cast<std::ptrdiff_t>(x) * base.channels();
    else if (const float* row = base.stored(y))
      from = row + static_cast<std::ptrdiff_t>(x) * base.channels();
    else
      base.span(y, x, count, in);
    if (lies) {
      blendSpan(stage.blend, from, stage.opacity, under, count);
      continue;
    }
    stage.pass->finish(from, count, x, y, in, target);
    if (linearLight_) decodeSpan(target, count);
    if (!first) blendSpan(stage.blend, made, stage.opacity, under, count);
  }
  if (linearLight_) encodeSpan(total, n);
}

void Composite::band(int y0, int y1, const TakePixels& take) const {
  std::vector<FloatBuffer> made(stages_.size());
  Bands bands;
  bands.y0 = y0;
  bands.first.assign(stages_.size(), nullptr);
  bands.strides.assign(stages_.size(), 0);
  for (std::size_t s = 0; s < stages_.size(); ++s) {
    const RowMaker& base = stages_[s].pass->base();
    if (base.makesSpans() || painted_[s] || base.stored(y0) || !boxes_[s].rows(y0, y1)) continue;
    bands.strides[s] = paddedRow(width_, base.channels());
    made[s] = FloatBuffer(static_cast<std::size_t>(bands.strides[s] * (y1 - y0)));
    base.rows(y0, y1, made[s].data(), bands.strides[s]);
    bands.first[s] = made[s].data();
  }
  alignas(128) float sum[2][(kSpanStep + kSpanPadding) * 4];
  for (int y = y0; y < y1; y += 2) {
    const int rows = std::min(2, y1 - y);
    for (int x0 = 0; x0 < width_; x0 += kSpanStep) {
      const int n = std::min(kSpanStep, width_ - x0);
      for (int r = 0; r < rows; ++r) pixels(y + r, x0, n, &bands, sum[r]);
      const float* both[2] = {sum[0], sum[1]};
      take(y, rows, x0, n, both);
    }
  }
}

void Composite::span(int y, int x0, int n, float* out) const { pixels(y, x0, n, nullptr, out); }

void Composite::rows(int y0, int y1, float* out, std::ptrdiff_t stride) const {
  for (int from = y0; from < y1; from += kBandRows)
    band(from, std::min(y1, from + kBandRows), [&](int y, int rows, int x0, int n, const float* const* rgba) {
      for (int r = 0; r < rows; ++r)
        std::memcpy(out + (y + r - y0) * stride + static_cast<std::ptrdiff_t>(x0) * 4, rgba[r],
                    sizeof(float) * static_cast<std::size_t>(n) * 4);
    });
}

}  // namespace oa
