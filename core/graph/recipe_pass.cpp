#include "graph/recipe_pass.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "graph/counted.h"
#include "graph/puller.h"
#include "image/buffer.h"
#include "image/grey.h"
#include "image/light_shares.h"
#include "image/resampled.h"

namespace oa {
namespace {

// The moment of a step of a recipe: one that arrives or leaves by itself does so in its own time.
Moment stepMoment(const Plan& plan, int layer, std::size_t step, const Moment& at) { return at.of(plan.passesOf(layer, step)); }

double thereAt(const RecipeStep& step, const Moment& own) {
  if (!step.on) return 0;
  const double there = presenceAt(step.presence, own.phase());
  return step.passes.any() ? there * std::clamp(thereOf(own), 0.0, 1.0) : there;
}

// The recipe below a step.
class Before final : public Input {
 public:
  Before(const Puller& puller, int layer, std::size_t steps, const Moment& at) : puller_(puller), layer_(layer), steps_(steps), at_(at) {}
  [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view) const override { return pull(view, at_); }
  [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view, const Moment& at) const override {
    return puller_.recipe(layer_, steps_, view, at);
  }
  [[nodiscard]] std::shared_ptr<const RowMaker> light(const PlaneView& view) const override {
    const RecipeStep& source = puller_.plan().at(layer_).layer->recipe[0];
    if (steps_ != 1 || !source.spec->light) return nullptr;
    const auto make = [&] { return source.spec->light(contextOf(source, at_, view)); };
    if (!Spent::counting()) return make();
    const Spent::Scope scope(ownerOf(layer_, 0));
    auto made = make();
    return made ? counted(std::move(made), ownerOf(layer_, 0)) : nullptr;
  }
  [[nodiscard]] Moment moment() const override { return at_; }

 private:
  const Puller& puller_;
  int layer_;
  std::size_t steps_;
  Moment at_;
};

// How many pixels of the scene apart the first `steps` steps of a recipe may be worked out (StepSpec::smooth).
double smoothness(const Puller& puller, int layer, std::size_t steps, const Moment& at, const PlaneView& view) {
  const std::vector<RecipeStep>& recipe = puller.plan().at(layer).layer->recipe;
  double smooth = 0;
  for (std::size_t i = 0; i < steps; ++i) {
    const Moment own = stepMoment(puller.plan(), layer, i, at);
    const double there = i == 0 ? 1 : thereAt(recipe[i], own);
    if (there <= 0) continue;
    const double made = recipe[i].spec->smooth ? recipe[i].spec->smooth(contextOf(recipe[i], own, view), smooth) : 0;
    smooth = there < 1 ? std::min(made, smooth) : made;
  }
  return smooth;
}

// How many pixels of the view apart what an area step makes is worked out.
double coarseness(const Puller& puller, int layer, std::size_t i, const Moment& at, const PlaneView& view) {
  const StepSpec& spec = *puller.plan().at(layer).layer->recipe[i].spec;
  if (!spec.smooth) return 1;
  const double before = smoothness(puller, layer, i, at, view);
  if (before * view.scale < 2) return 1;
  const RecipeStep& step = puller.plan().at(layer).layer->recipe[i];
  const double own = spec.smooth(contextOf(step, stepMoment(puller.plan(), layer, i, at), view), before);
  constexpr double kMost = 8;
  const double apart = std::min({before, own, kMost / view.scale}) * view.scale;
  return std::max(1.0, std::floor(apart));
}

std::shared_ptr<const RowMaker> areaMade(const Puller& puller, int layer, std::size_t i, const Moment& at, const PlaneView& view) {
  const RecipeStep& step = puller.plan().at(layer).layer->recipe[i];
  const Moment own = stepMoment(puller.plan(), layer, i, at);
  const StepContext context = contextOf(step, own, view);
  const Before before(puller, layer, i, at);
  const int look = puller.plan().lookOf(layer, i);
  const auto make = [&](const StepContext& here) {
    return look < 0 ? step.spec->area(here, before) : step.spec->looking(here, before, *puller.shownInput(layer, look, at));
  };
  std::shared_ptr<const RowMaker> made;
  if (view.upright() || !step.spec->upright || !step.spec->upright(context)) {
    const double coarse = coarseness(puller, layer, i, at, view);
    const PlaneView small = coarse > 1 ? view.coarser(coarse) : view;
    made = coarse > 1 ? resampled(make(StepContext(context, small)), small, view) : make(context);
  } else {
    const PlaneView upright = view.uprightAround(2);
    made = resampled(make(StepContext(context, upright)), upright, view);
  }
  const double there = thereAt(step, own);
  return there >= 1 ? made : mixedRows(before.pull(view), made, there, view.width);
}

// `n` values of a field as opaque grey, or pixels as they are.
void asPicture(const float* in, int channels, int n, float* out) {
  if (channels == 4)
    std::memcpy(out, in, sizeof(float) * static_cast<std::size_t>(n) * 4);
  else
    greyToRgba(in, n, out);
}

void mixSpan(const float* from, float* to, float t, int floats) {
  for (int i = 0; i < floats; ++i) to[i] = from[i] + (to[i] - from[i]) * t;
}

// A point step that is only partly there.
class MixedPoint final : public PointKernel {
 public:
  MixedPoint(std::unique_ptr<PointKernel> whole, int inChannels, double there)
      : whole_(std::move(whole)), inChannels_(inChannels), there_(static_cast<float>(there)) {}
  [[nodiscard]] int outChannels() const override { return whole_->outChannels(); }
  [[nodiscard]] bool keepsOpaque() const override { return whole_->keepsOpaque(); }
  void apply(const float* in, float* out, int n, int x0, int y) const override {
    alignas(128) float before[(kSpanStep + kSpanPadding) * 4];
    alignas(128) float made[(kSpanStep + kSpanPadding) * 4];
    const int have = outChannels();
    for (int at = 0; at < n; at += kSpanStep) {
      const int count = std::min(kSpanStep, n - at);
      const float* from = in + static_cast<std::ptrdiff_t>(at) * inChannels_;
      if (have == inChannels_)
        std::memcpy(before, from, sizeof(float) * static_cast<std::size_t>(count * have));
      else
        asPicture(from, inChannels_, count, before);
      whole_->apply(from, made, count, x0 + at, y);
      mixSpan(before, made, there_, count * have);
      std::memcpy(out + static_cast<std::ptrdiff_t>(at) * have, made, sizeof(float) * static_cast<std::size_t>(count * have));
    }
  }

 private:
  std::unique_ptr<PointKernel> whole_;
  int inChannels_;
  float there_;
};

class MixedRows final : public RowMaker {
 public:
  MixedRows(std::shared_ptr<const RowMaker> from, std::shared_ptr<const RowMaker> to, double t, int width)
      : from_(std::move(from)), to_(std::move(to)), t_(static_cast<float>(t)), width_(width) {}
  [[nodiscard]] int channels() const override { return std::max(from_->channels(), to_->channels()); }
  [[nodiscard]] bool opaque() const override { return from_->opaque() && to_->opaque(); }
  [[nodiscard]] bool hides(int y, int x0, int n) const override { return from_->hides(y, x0, n) && to_->hides(y, x0, n); }
  [[nodiscard]] PixelBox bounds() const override { return from_->bounds().with(to_->bounds()); }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const int have = channels();
    const std::ptrdiff_t own = paddedRow(width_, 4);
    FloatBuffer room(static_cast<std::size_t>(own * (y1 - y0) * 2 + own));
    float* const before = room.data();
    float* const after = before + own * (y1 - y0);
    float* const wide = after + own * (y1 - y0);
    from_->rows(y0, y1, before, own);
    to_->rows(y0, y1, after, own);
    for (int y = y0; y < y1; ++y) {
      float* const row = out + (y - y0) * stride;
      const auto fitted = [&](const RowMaker& rows, const float* in) {
        if (rows.channels() == have) return in;
        asPicture(in, rows.channels(), width_, wide);
        return static_cast<const float*>(wide);
      };
      std::memcpy(row, fitted(*to_, after + (y - y0) * own), sizeof(float) * static_cast<std::size_t>(width_ * have));
      mixSpan(fitted(*from_, before + (y - y0) * own), row, t_, width_ * have);
    }
  }

 private:
  std::shared_ptr<const RowMaker> from_;
  std::shared_ptr<const RowMaker> to_;
  float t_;
  int width_;
};

}  // namespace

RecipePass::RecipePass(const Puller& puller, int layer, std::size_t steps, const Moment& at, const PlaneView& view) : width_(view.width) {
  const Layer& own = *puller.plan().at(layer).layer;
  const std::size_t whole = wholeSteps(puller.plan(), layer, steps, at);
  base_ = puller.kept(layer, whole, view, at, [&]() -> std::shared_ptr<const RowMaker> {
    const auto make = [&] {
      return whole == 1 ? puller.source(layer, own.recipe[0], view, at) : areaMade(puller, layer, whole - 1, at, view);
    };
    if (!Spent::counting()) return make();
    const Spent::Scope scope(ownerOf(layer, whole - 1));
    return counted(make(), ownerOf(layer, whole - 1));
  });
  channels_ = base_->channels();
  opaque_ = base_->opaque();
  for (std::size_t i = whole; i < steps; ++i) {
    const RecipeStep& step = own.recipe[i];
    const Moment now = stepMoment(puller.plan(), layer, i, at);
    const double there = thereAt(step, now);
    if (there <= 0) continue;
    auto kernel = step.spec->point(contextOf(step, now, view), channels_);
    if (there < 1) kernel = std::make_unique<MixedPoint>(std::move(kernel), channels_, there);
    if (Spent::counting()) kernel = counted(std::move(kernel), ownerOf(layer, i));
    points_.push_back(std::move(kernel));
    channels_ = points_.back()->outChannels();
    keepsOpaque_ = keepsOpaque_ && points_.back()->keepsOpaque();
  }
  opaque_ = opaque_ && keepsOpaque_;
}

RecipePass::RecipePass(std::shared_ptr<const RowMaker> rows, int width)
    : base_(std::move(rows)), width_(width), channels_(base_->channels()), opaque_(base_->opaque()) {}

std::shared_ptr<const RecipePass> RecipePass::inLight() const {
  if (channels_ == 1) {
    // Before a number becomes three.
    auto made = std::make_shared<RecipePass>(base_, width_);
    made->points_ = points_;
    made->keepsOpaque_ = keepsOpaque_;
    made->greyInLight_ = true;
    return made;
  }
  if (points_.empty()) {
    // Of rows that come whole only what is laid is decoded.
    auto base = base_->tint() && (base_->makesSpans() || base_->stored(0)) ? lightShares(base_, width_) : base_->linear();
    return base ? std::make_shared<RecipePass>(std::move(base), width_) : nullptr;
  }
  auto last = points_.back()->linear();
  if (!last) return nullptr;
  auto made = std::make_shared<RecipePass>(base_, width_);
  made->points_ = points_;
  made->points_.back() = std::move(last);
  made->channels_ = channels_;
  made->opaque_ = opaque_;
  made->keepsOpaque_ = keepsOpaque_;
  return made;
}

// Intermediate results alternate between nothing but `scratch` (fields) and `out` (pictures), so that each
// step reads and writes what the L1 cache holds.
void RecipePass::applyPoints(const float* in, int n, int x0, int y, float* scratch, float* out) const {
  const float* from = in;
  int have = base_->channels();
  for (const auto& point : points_) {
    float* to = point->outChannels() == channels_ ? out : scratch;
    point->apply(from, to, n, x0, y);
    from = to;
    have = point->outChannels();
  }
  if (from != out) std::memcpy(out, from, sizeof(float) * static_cast<std::size_t>(n) * static_cast<std::size_t>(have));
}

void RecipePass::finish(const float* in, int n, int x0, int y, float* scratch, float* rgba) const {
  if (channels_ == 4) return applyPoints(in, n, x0, y, scratch, rgba);
  for (const auto& point : points_) {
    point->apply(in, scratch, n, x0, y);
    in = scratch;
  }
  greyInLight_ ? greyToLight(in, n, rgba) : greyToRgba(in, n, rgba);
}

void RecipePass::rows(int y0, int y1, float* out, std::ptrdiff_t stride) const {
  const int have = base_->channels();
  if (points_.empty()) return base_->rows(y0, y1, out, stride);
  const std::ptrdiff_t baseStride = paddedRow(width_, have);
  FloatBuffer buffer(static_cast<std::size_t>(baseStride * (y1 - y0)));
  base_->rows(y0, y1, buffer.data(), baseStride);
  for (int y = y0; y < y1; ++y) {
    float* row = buffer.data() + (y - y0) * baseStride;
    applyPoints(row, width_, 0, y, row, out + (y - y0) * stride);
  }
}

void RecipePass::span(int y, int x0, int n, float* out) const {
  if (points_.empty()) return base_->span(y, x0, n, out);
  alignas(128) float in[(kSpanStep + kSpanPadding) * 4];
  base_->span(y, x0, n, in);
  applyPoints(in, n, x0, y, in, out);
}

std::size_t wholeSteps(const Plan& plan, int layer, std::size_t steps, const Moment& at) {
  const std::vector<RecipeStep>& recipe = plan.at(layer).layer->recipe;
  std::size_t count = 1;
  for (std::size_t i = 1; i < steps; ++i)
    if (recipe[i].spec->kind == StepKind::Area && thereAt(recipe[i], stepMoment(plan, layer, i, at)) > 0) count = i + 1;
  return count;
}

std::shared_ptr<const RowMaker> mixedRows(std::shared_ptr<const RowMaker> from, std::shared_ptr<const RowMaker> to, double t, int width) {
  return std::make_shared<MixedRows>(std::move(from), std::move(to), t, width);
}

}  // namespace oa
