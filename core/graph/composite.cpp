#include "graph/composite.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cstring>

#include "base/parallel.h"
#include "image/buffer.h"
#include "image/grey.h"
#include "image/light_shares.h"
#include "image/transfer.h"

namespace oa {
namespace {

// Steps of a span, by their bits.
using Steps = std::uint32_t;
static_assert(kSpanStep / kSpanPadding < 32);

Steps stepsOf(const RowParts& parts) {
  Steps made = 0;
  for (const auto& [from, to] : parts)
    made |= (Steps{1} << static_cast<unsigned>((to + kSpanPadding - 1) / kSpanPadding)) -
            (Steps{1} << static_cast<unsigned>(from / kSpanPadding));
  return made;
}

// Stretches of them, of `n` pixels.
template <class Each>
void eachStretch(Steps steps, int n, Each each) {
  for (int at = 0; steps != 0;) {
    const int skipped = std::countr_zero(steps);
    const int count = std::countr_one(steps >> static_cast<unsigned>(skipped));
    at += skipped;
    each(at * kSpanPadding, std::min(n, (at + count) * kSpanPadding));
    at += count;
    steps >>= static_cast<unsigned>(skipped + count);
  }
}

}  // namespace

Composite::Composite(std::vector<Stage> stages, Colour backdrop, Mixing mixing, int width)
    : stages_(std::move(stages)), mixing_(mixing), width_(width), colour_(backdrop) {
  covered_ = !stages_.empty() && stages_[0].blend == BlendMode::Normal && stages_[0].opacity >= 1 && stages_[0].pass->opaque();
  empty_ = !(backdrop.a > 0);
  opaque_ = covered_ || backdrop.a >= 1;
  bounds_ = PixelBox{0, 0, 0, 0};
  // By what the scene is, and not by what happens to be known or kept, so that no bit tells.
  partly_ = mixing == Mixing::Light && std::all_of(stages_.begin() + (covered_ ? 1 : 0), stages_.end(), [](const Stage& stage) {
              return stage.pass->base().channels() == 4 && !stage.pass->opaque();
            });
  const bool inLight = mixing != Mixing::Display;
  for (const Stage& stage : stages_) {
    // The lowest is as it is shown where nothing is mixed with it.
    const bool asShown = !inLight || (partly_ && covered_ && laid_.empty());
    // What is in one colour needs none, and may stay as it is shown where it is opaque.
    const auto light = asShown || (partly_ && stage.blend == BlendMode::Normal && stage.pass->tint()) ? nullptr : stage.pass->inLight();
    knowsLight_.push_back(light != nullptr);
    laid_.push_back(light ? light : stage.pass);
    tints_.push_back(inLight && !knowsLight_.back() ? sharesOf(*stage.pass) : Shares{});
    const RecipePass& laid = *laid_.back();
    spans_ = spans_ && laid.base().makesSpans();
    boxes_.push_back(stage.pass->bounds());
    const bool covering = stage.blend == BlendMode::Normal && stage.opacity >= 1;
    // What is narrower than the spans that are asked for hides none of them.
    const PixelBox there = boxes_.back().within({0, boxes_.back().y0, width, boxes_.back().y1});
    covering_.push_back(covering && there.x1 - there.x0 >= std::min(width, kSpanStep));
    hiding_ = hiding_ || covering_.back();
    opaque_ = opaque_ || (covering && stage.pass->opaque());
    painted_.push_back(covering && laid.paints() && (partly_ ? covered_ && laid_.size() == 1 : knowsLight_.back() == inLight));
    bounds_ = bounds_.with(boxes_.back());
  }
  if (!empty_ || opaque_) bounds_ = PixelBox();
  if (partly_ && covered_ && stages_.size() > 1) lowestLight_ = stages_[0].pass->inLight();
  // From the very same rows, or from some that cost next to nothing.
  if (lowestLight_ && &lowestLight_->base() != &stages_[0].pass->base() && !lowestLight_->base().makesSpans()) lowestLight_ = nullptr;
  const float premultiplied[4] = {backdrop.r * backdrop.a, backdrop.g * backdrop.a, backdrop.b * backdrop.a, backdrop.a};
  fillRgba(premultiplied, 16, backdrop_);
  if (inLight && !partly_) decodeSpan(backdrop_, 16);
}

Composite::Shares Composite::sharesOf(const RowMaker& rows) {
  Shares made;
  const auto tint = rows.tint();
  if (!tint) return made;
  const Tint light = lightOf(*tint);
  made.ofOne = true;
  std::copy_n(tint->begin(), 3, made.shown);
  std::copy_n(light.begin(), 3, made.light);
  return made;
}

void Composite::decode(std::size_t s, const float* from, float* to, int n, bool hides) const {
  if (tints_[s].ofOne) return decodeTint(from, tints_[s].light, to, n);
  hides || laid_[s]->opaque() ? decodeOpaque(from, to, n) : decodeSpan(from, to, n);
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

struct Composite::Partly {
  Lit lit{};
  alignas(128) float light[(kSpanStep + kSpanPadding) * 4];  // of the lowest
  Steps there = 0;                                           // of that
  bool knows = false;  // what the lowest is in light: what is as it is shown is to be decoded otherwise
  bool waits = false;  // as it is shown the lowest is made last, where nothing has been laid
};

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
  if (hiding < 0) fillRgba(backdrop_, n, total);
  Partly partly;
  partly.knows = hiding == 0 && lowestLight_;
  partly.waits = partly.knows && below + count > 1;
  const auto layOne = [&](std::size_t s) {
    const bool first = static_cast<int>(s) == hiding;
    if (partly_ && !first) return layPartly(s, y, x0, n, bands, partly, total);
    if (partly.waits) return;
    lay(s, y, x0, n, bands, first, total);
    if (partly_ && knowsLight_[s]) partly.lit.allLit();
  };
  for (std::size_t s = 0; s < below; ++s)
    if (isSeen(s, y, x0, n)) layOne(s);
  while (count-- > 0) layOne(seen[count]);
  if (partly.waits) layBelow(y, x0, n, bands, partly, total);
  if (partly_)
    showLit(total, partly.lit.from(0), n, opaque_);
  else if (mixing_ == Mixing::Light)
    opaque_ ? encodeOpaque(total, n) : encodeSpan(total, n);
}

void Composite::knowLight(int y, int x0, int n, const RowParts& parts, const Bands* bands, Partly& partly) const {
  if (!partly.knows) return;
  const Steps missing = stepsOf(parts) & ~partly.there;
  partly.there |= missing;
  const RowMaker& base = lowestLight_->base();
  alignas(128) float in[(kSpanStep + kSpanPadding) * 4];
  eachStretch(missing, n, [&](int at, int to) {
    const float* from = in;
    if (&base == &laid_[0]->base())
      from = taken(0, y, x0 + at, to - at, bands, in);
    else
      base.span(y, x0 + at, to - at, in);
    lowestLight_->finish(from, to - at, x0 + at, y, in, partly.light + static_cast<std::ptrdiff_t>(at) * 4);
  });
}

void Composite::layBelow(int y, int x0, int n, const Bands* bands, Partly& partly, float* total) const {
  alignas(128) float made[(kSpanStep + kSpanPadding) * 4];
  const UntouchedSteps steps = untouched(partly.lit.from(0), n);
  eachStretch(steps.any, n, [&](int from, int to) {
    float* const there = total + static_cast<std::ptrdiff_t>(from) * 4;
    const Steps all = stepsOf(RowParts(from, to));
    if ((steps.whole & all) == all) return lay(0, y, x0 + from, to - from, bands, true, there);
    lay(0, y, x0 + from, to - from, bands, true, made);
    putUntouched(made, there, partly.lit.from(from), to - from);
  });
}

const float* Composite::taken(std::size_t s, int y, int x, int count, const Bands* bands, float* in) const {
  const RowMaker& base = laid_[s]->base();
  if (bands && bands->first[s])
    return bands->first[s] + (y - bands->y0) * bands->strides[s] + static_cast<std::ptrdiff_t>(x) * base.channels();
  if (const auto [alphas, colour] = base.storedShares(y, x, count); colour) {
    tintCover(alphas, count, 1, colour, in);
    return in;
  }
  if (const float* const part = base.storedPart(y, x, count)) return part;
  base.span(y, x, count, in);
  return in;
}

// Only what the layer can reach, in steps of what kernels write beyond it; counted from x0.
RowParts Composite::reached(std::size_t s, int y, int x0, int n) const {
  const int from = std::max(boxes_[s].x0, x0);
  const int to = std::min(boxes_[s].x1, x0 + n);
  return laid_[s]->something(y, from, to - from).moved(-x0, 0, n).widened(0, kSpanPadding, n);
}

void Composite::layPartly(std::size_t s, int y, int x0, int n, const Bands* bands, Partly& partly, float* total) const {
  alignas(128) float made[(kSpanStep + kSpanPadding) * 4];
  alignas(128) float in[(kSpanStep + kSpanPadding) * 4];
  const Stage& stage = stages_[s];
  const RecipePass& pass = *laid_[s];
  const bool normal = stage.blend == BlendMode::Normal;
  const RowParts parts = reached(s, y, x0, n);
  knowLight(y, x0, n, parts, bands, partly);
  for (const RowPart there : parts) {
    const int x = x0 + there.from;
    const int count = there.to - there.from;
    float* const under = total + static_cast<std::ptrdiff_t>(there.from) * 4;
    const LitPixels lit = partly.lit.from(there.from);
    const float* const light = partly.knows ? partly.light + static_cast<std::ptrdiff_t>(there.from) * 4 : nullptr;
    if (normal && tints_[s].ofOne && pass.bare()) {
      StoredShares shares = pass.base().storedShares(y, x, count);
      const float* const part = shares.alphas && !shares.colour ? pass.base().storedPart(y, x, count) : nullptr;
      if (!shares.alphas && pass.base().alphas(y, x, count, made)) shares = {made, tints_[s].shown};
      if (part || shares.colour) {
        layShares(shares, part, stage.opacity, tints_[s].light, under, light, lit, count);
        continue;
      }
    }
    const float* from = taken(s, y, x, count, bands, in);
    if (!pass.bare()) {
      pass.finish(from, count, x, y, in, made);
      from = made;
    }
    if (normal) {
      if (knowsLight_[s])
        layLight(from, stage.opacity, under, light, lit, count);
      else
        layPartlyLit(from, stage.opacity, tints_[s].ofOne ? tints_[s].light : nullptr, under, light, lit, count);
      continue;
    }
    const float* const below = lightBelow(from, under, light, lit, count);
    if (!knowsLight_[s]) {
      decode(s, from, made, count, false);
      from = made;
    }
    blendSpan(stage.blend, from, stage.opacity, below, under, count);
  }
}

void Composite::lay(std::size_t s, int y, int x0, int n, const Bands* bands, bool first, float* total) const {
  alignas(128) float made[(kSpanStep + kSpanPadding) * 4];
  alignas(128) float in[(kSpanStep + kSpanPadding) * 4];
  const Stage& stage = stages_[s];
  const RecipePass& pass = *laid_[s];
  const RowMaker& base = pass.base();
  const bool paints = painted_[s] && (!first || (!base.makesSpans() && !base.stored(y)));
  if (paints) {
    if (first) std::fill_n(total, static_cast<std::ptrdiff_t>(n) * 4, 0.0f);
    for (const RowPart there : RowParts(std::max(boxes_[s].x0 - x0, 0), std::min(boxes_[s].x1 - x0, n)).widened(0, kSpanPadding, n))
      base.paint(y, x0 + there.from, there.to - there.from, total + static_cast<std::ptrdiff_t>(there.from) * 4);
    return;
  }
  const bool decodes = !partly_ && mixing_ != Mixing::Display && !knowsLight_[s];
  for (const RowPart there : first ? RowParts(0, n) : reached(s, y, x0, n)) {
    const int x = x0 + there.from;
    const int count = there.to - there.from;
    float* const under = total + static_cast<std::ptrdiff_t>(there.from) * 4;
    const float* const from = taken(s, y, x, count, bands, in);
    // What lies finished in memory is laid from there.
    if (!first && !decodes && pass.bare() && base.channels() == 4) {
      blendSpan(stage.blend, from, stage.opacity, under, count);
      continue;
    }
    float* const target = first ? total : made;
    const bool finished = decodes && pass.bare() && base.channels() == 4;
    if (!finished) pass.finish(from, count, x, y, in, target);
    if (decodes) decode(s, finished ? from : target, target, count, first);
    if (!first) blendSpan(stage.blend, made, stage.opacity, under, count);
  }
}

void Composite::band(int y0, int y1, const TakePixels& take) const {
  std::vector<FloatBuffer> made(stages_.size());
  Bands bands;
  bands.y0 = y0;
  bands.first.assign(stages_.size(), nullptr);
  bands.strides.assign(stages_.size(), 0);
  for (std::size_t s = 0; s < stages_.size(); ++s) {
    const RowMaker& base = laid_[s]->base();
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
