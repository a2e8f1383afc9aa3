#include "graph/composite.h"

#include <algorithm>
#include <array>
#include <cstring>

#include "base/parallel.h"
#include "image/buffer.h"
#include "image/grey.h"
#include "image/transfer.h"

namespace oa {

Composite::Composite(std::vector<Stage> stages, Colour backdrop, Mixing mixing, int width)
    : stages_(std::move(stages)), mixing_(mixing), width_(width), colour_(backdrop) {
  const bool inLight = mixing != Mixing::Display;
  covered_ = !stages_.empty() && stages_[0].blend == BlendMode::Normal && stages_[0].opacity >= 1 && stages_[0].pass->opaque();
  empty_ = !(backdrop.a > 0);
  opaque_ = covered_ || backdrop.a >= 1;
  bounds_ = PixelBox{0, 0, 0, 0};
  for (const Stage& stage : stages_) {
    // Bands of rows that are no spans are made of the layer as it is shown.
    auto light = inLight ? stage.pass->inLight() : nullptr;
    if (light && &light->base() != &stage.pass->base() && !light->base().makesSpans()) light = nullptr;
    const RecipePass& laid = light ? *light : *stage.pass;
    spans_ = spans_ && stage.pass->base().makesSpans();
    boxes_.push_back(stage.pass->bounds());
    const bool covering = stage.blend == BlendMode::Normal && stage.opacity >= 1;
    // What is narrower than the spans that are asked for hides none of them.
    const PixelBox there = boxes_.back().within({0, boxes_.back().y0, width, boxes_.back().y1});
    covering_.push_back(covering && there.x1 - there.x0 >= std::min(width, kSpanStep));
    hiding_ = hiding_ || covering_.back();
    opaque_ = opaque_ || (covering && stage.pass->opaque());
    painted_.push_back(covering && stage.pass->paints() && laid.paints() && (light || !inLight));
    light_.push_back(std::move(light));
    bounds_ = bounds_.with(boxes_.back());
  }
  if (!empty_ || opaque_) bounds_ = PixelBox();
  const float premultiplied[4] = {backdrop.r * backdrop.a, backdrop.g * backdrop.a, backdrop.b * backdrop.a, backdrop.a};
  fillRgba(premultiplied, 16, backdrop_);
  if (inLight) decodeSpan(backdrop_, 16);
}

std::shared_ptr<const RowMaker> Composite::linear() const {
  return mixing_ == Mixing::Display ? nullptr : std::make_shared<Composite>(stages_, colour_, Mixing::LightThroughout, width_);
}

// Rows of bases that do not come in spans.
struct Composite::Bands {
  int y0 = 0;
  std::vector<const float*> first;
  std::vector<std::ptrdiff_t> strides;
};

bool Composite::hidesAt(std::size_t s, int y, int x0, int n) const {
  const PixelBox& box = boxes_[s];
  return covering_[s] && y >= box.y0 && y < box.y1 && x0 >= box.x0 && x0 + n <= box.x1 && stages_[s].pass->hides(y, x0, n);
}

int Composite::hidingStage(int y, int x0, int n) const {
  if (!hiding_) return -1;
  for (std::size_t s = stages_.size(); s-- > 0;)
    if (hidesAt(s, y, x0, n)) return static_cast<int>(s);
  return -1;
}

bool Composite::isHidden(std::size_t stage, int y0, int y1) const {
  if (std::none_of(covering_.begin() + static_cast<std::ptrdiff_t>(stage) + 1, covering_.end(), [](bool c) { return c; })) return false;
  const PixelBox box = boxes_[stage].within({0, y0, width_, y1});
  for (int y = box.y0; y < box.y1; ++y)
    for (int x = box.x0 / kSpanStep * kSpanStep; x < box.x1; x += kSpanStep)
      if (hidingStage(y, x, std::min(kSpanStep, width_ - x)) <= static_cast<int>(stage)) return false;
  return true;
}

bool Composite::isSeen(std::size_t s, int y, int x0, int n) const {
  const PixelBox& box = boxes_[s];
  if (y < box.y0 || y >= box.y1 || x0 + n <= box.x0 || x0 >= box.x1) return false;
  // Bounds end where the view does, or beyond.
  const int from = std::max(x0, box.x0);
  return !stages_[s].pass->nothing(y, from, std::min(x0 + n, box.x1) - from);
}

bool Composite::nothing(int y, int x0, int n) const {
  if (!empty_) return false;
  for (std::size_t s = 0; s < stages_.size(); ++s)
    if (isSeen(s, y, x0, n)) return false;
  return true;
}

void Composite::pixels(int y, int x0, int n, const Bands* bands, float* total) const {
  // Those that are seen there, from the top to the first that hides what is below it.
  constexpr std::size_t kAtOnce = 64;
  std::array<std::size_t, kAtOnce> seen;
  std::size_t count = 0;
  std::size_t below = stages_.size();
  int hiding = covered_ ? 0 : -1;
  while (below > 0 && count < kAtOnce) {
    const std::size_t s = --below;
    if (!isSeen(s, y, x0, n)) continue;
    seen[count++] = s;
    if (!hiding_ || !hidesAt(s, y, x0, n)) continue;
    hiding = static_cast<int>(s);
    below = 0;
  }
  // One alone is not turned into light and back; by what the scene is, and not by what happens to be known here, so that no bit tells.
  if (mixing_ == Mixing::Light && covered_ && stages_.size() == 1) return lay(0, y, x0, n, bands, {true, false}, total);
  if (hiding < 0) fillRgba(backdrop_, n, total);
  const bool light = mixing_ != Mixing::Display;
  for (std::size_t s = 0; s < below; ++s)
    if (isSeen(s, y, x0, n)) lay(s, y, x0, n, bands, {static_cast<int>(s) == hiding, light}, total);
  while (count-- > 0) lay(seen[count], y, x0, n, bands, {static_cast<int>(seen[count]) == hiding, light}, total);
  if (mixing_ == Mixing::Light) encodeSpan(total, n);
}

void Composite::lay(std::size_t s, int y, int x0, int n, const Bands* bands, How how, float* total) const {
  alignas(128) float made[(kSpanStep + kSpanPadding) * 4];
  alignas(128) float in[(kSpanStep + kSpanPadding) * 4];
  const Stage& stage = stages_[s];
  const bool knowsLight = how.inLight && light_[s];
  const RecipePass& pass = knowsLight ? *light_[s] : *stage.pass;
  const RowMaker& base = pass.base();
  // Only what the layer can reach, in steps of what kernels write beyond it.
  const PixelBox& box = boxes_[s];
  const int skip = box.x0 > x0 ? (box.x0 - x0) / kSpanPadding * kSpanPadding : 0;
  const int end = box.x1 < x0 + n ? std::min(n, (box.x1 - x0 + kSpanPadding - 1) / kSpanPadding * kSpanPadding) : n;
  const int x = x0 + skip;
  const int count = end - skip;
  float* const under = total + static_cast<std::ptrdiff_t>(skip) * 4;
  const bool first = how.first;
  const bool paints = painted_[s] && knowsLight == how.inLight && (!first || (!base.makesSpans() && !base.stored(y)));
  if (paints && first) std::fill_n(total, static_cast<std::ptrdiff_t>(n) * 4, 0.0f);
  if (paints) return base.paint(y, x, count, under);
  const float* from = in;
  if (bands && bands->first[s])
    from = bands->first[s] + (y - bands->y0) * bands->strides[s] + static_cast<std::ptrdiff_t>(x) * base.channels();
  else if (const float* row = base.stored(y))
    from = row + static_cast<std::ptrdiff_t>(x) * base.channels();
  else
    base.span(y, x, count, in);
  // What lies finished in memory is laid from there.
  if (!first && knowsLight == how.inLight && pass.bare() && base.channels() == 4)
    return blendSpan(stage.blend, from, stage.opacity, under, count);
  float* const target = first ? total : made;
  pass.finish(from, count, x, y, in, target);
  if (how.inLight && !knowsLight) decodeSpan(target, count);
  if (!first) blendSpan(stage.blend, made, stage.opacity, under, count);
}

void Composite::band(int y0, int y1, const TakePixels& take) const {
  std::vector<FloatBuffer> made(stages_.size());
  Bands bands;
  bands.y0 = y0;
  bands.first.assign(stages_.size(), nullptr);
  bands.strides.assign(stages_.size(), 0);
  for (std::size_t s = 0; s < stages_.size(); ++s) {
    const RowMaker& base = stages_[s].pass->base();
    if (base.makesSpans() || painted_[s] || base.stored(y0) || !boxes_[s].rows(y0, y1) || isHidden(s, y0, y1)) continue;
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
