#include "graph/mask_rows.h"

#include <algorithm>
#include <cmath>

#include "graph/puller.h"
#include "image/blur.h"
#include "image/buffer.h"
#include "image/colour.h"
#include "image/cropped.h"
#include "image/grey.h"
#include "image/grow.h"
#include "image/resampled.h"
#include "image/sampling.h"

namespace oa {
namespace {

// One number of a picture's pixels.
class ReadRows final : public RowMaker {
 public:
  ReadRows(std::shared_ptr<const RowMaker> picture, bool alpha, int width) : picture_(std::move(picture)), alpha_(alpha), width_(width) {}
  [[nodiscard]] int channels() const override { return 1; }
  [[nodiscard]] bool full(int y, int x0, int n) const override { return (alpha_ || picture_->channels() == 1) && picture_->full(y, x0, n); }
  [[nodiscard]] bool makesSpans() const override { return picture_->makesSpans(); }
  void span(int y, int x0, int n, float* out) const override {
    if (picture_->channels() == 1) {
      picture_->span(y, x0, n, out);
      return read(out, n, out);
    }
    alignas(128) float rgba[(kSpanStep + kSpanPadding) * 4];
    picture_->span(y, x0, n, rgba);
    read(rgba, n, out);
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const std::ptrdiff_t own = paddedRow(width_, picture_->channels());
    FloatBuffer room(static_cast<std::size_t>(own * (y1 - y0)));
    picture_->rows(y0, y1, room.data(), own);
    for (int y = y0; y < y1; ++y) read(room.data() + (y - y0) * own, width_, out + (y - y0) * stride);
  }

 private:
  void read(const float* in, int n, float* out) const {
    // A field covers everything; what tells its pixels apart is how light they are.
    if (picture_->channels() == 1)
      std::copy_n(in, in == out ? 0 : n, out);
    else
      alpha_ ? takeAlpha(in, n, out) : takeLightness(in, n, out);
    holdField(out, n);
  }
  std::shared_ptr<const RowMaker> picture_;
  bool alpha_;
  int width_;
};

class Inverted final : public RowMaker {
 public:
  Inverted(std::shared_ptr<const RowMaker> field, int width) : field_(std::move(field)), width_(width) {}
  [[nodiscard]] int channels() const override { return 1; }
  [[nodiscard]] bool makesSpans() const override { return field_->makesSpans(); }
  void span(int y, int x0, int n, float* out) const override {
    field_->span(y, x0, n, out);
    turn(out, n);
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    field_->rows(y0, y1, out, stride);
    for (int y = y0; y < y1; ++y) turn(out + (y - y0) * stride, width_);
  }

 private:
  static void turn(float* v, int n) {
    for (int i = 0; i < n; ++i) v[i] = 1 - v[i];
  }
  std::shared_ptr<const RowMaker> field_;
  int width_;
};

class Masked final : public RowMaker {
 public:
  Masked(std::shared_ptr<const RecipePass> picture, std::shared_ptr<const RowMaker> field, int width)
      : picture_(std::move(picture)), field_(std::move(field)), width_(width) {}
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return !field_ && picture_->opaque(); }
  [[nodiscard]] bool hides(int y, int x0, int n) const override { return picture_->hides(y, x0, n) && (!field_ || field_->full(y, x0, n)); }
  [[nodiscard]] PixelBox bounds() const override { return picture_->bounds(); }
  [[nodiscard]] std::optional<Tint> tint() const override { return picture_->channels() == 4 ? picture_->tint() : std::nullopt; }
  [[nodiscard]] bool makesSpans() const override { return picture_->makesSpans() && (!field_ || field_->makesSpans()); }
  void span(int y, int x0, int n, float* out) const override {
    alignas(128) float in[(kSpanStep + kSpanPadding) * 4];
    alignas(128) float share[kSpanStep + kSpanPadding];
    picture_->base().span(y, x0, n, in);
    picture_->finish(in, n, x0, y, in, out);
    if (!field_) return;
    field_->span(y, x0, n, share);
    coverPixels(share, n, out);
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    const RowMaker& base = picture_->base();
    const std::ptrdiff_t own = paddedRow(width_, base.channels());
    const std::ptrdiff_t single = paddedRow(width_, 1);
    FloatBuffer room(static_cast<std::size_t>((own + single) * (y1 - y0)));
    float* const shares = room.data() + own * (y1 - y0);
    base.rows(y0, y1, room.data(), own);
    if (field_) field_->rows(y0, y1, shares, single);
    alignas(128) float scratch[(kSpanStep + kSpanPadding) * 4];
    for (int y = y0; y < y1; ++y)
      for (int x = 0; x < width_; x += kSpanStep) {
        const int n = std::min(kSpanStep, width_ - x);
        alignas(128) float rgba[(kSpanStep + kSpanPadding) * 4];
        picture_->finish(room.data() + (y - y0) * own + static_cast<std::ptrdiff_t>(x) * base.channels(), n, x, y, scratch, rgba);
        if (field_) coverPixels(shares + (y - y0) * single + x, n, rgba);
        std::copy_n(rgba, static_cast<std::ptrdiff_t>(n) * 4, out + (y - y0) * stride + static_cast<std::ptrdiff_t>(x) * 4);
      }
  }

 private:
  std::shared_ptr<const RecipePass> picture_;
  std::shared_ptr<const RowMaker> field_;  // null: all of it
  int width_;
};

// The overlap of a pixel with a rectangle, each pair of sides for itself: exact where pixels and sides are parallel.
class FrameCover final : public SpanMaker {
 public:
  explicit FrameCover(const PlaneView& view) : SpanMaker(view.width), view_(view) {
    // How far a pixel reaches along each axis of the plane.
    reachX_ = (std::abs(view.xx) + std::abs(view.xy)) / view.scale;
    reachY_ = (std::abs(view.yx) + std::abs(view.yy)) / view.scale;
  }
  [[nodiscard]] int channels() const override { return 1; }
  // What lies between two places that are inside is inside.
  [[nodiscard]] bool full(int y, int x0, int n) const override {
    return coverAt(view_.place(x0, y)) == 1 && coverAt(view_.place(x0 + n - 1, y)) == 1;
  }
  void span(int y, int x0, int n, float* out) const override {
    for (int i = 0; i < n; ++i) out[i] = static_cast<float>(coverAt(view_.place(x0 + i, y)));
  }

 private:
  [[nodiscard]] double coverAt(Point p) const { return inside(p.x, view_.frameWidth, reachX_) * inside(p.y, view_.frameHeight, reachY_); }
  static double inside(double at, double length, double reach) {
    const double from = std::max(0.0, at - reach / 2);
    const double to = std::min(length, at + reach / 2);
    const double share = std::clamp((to - from) / reach, 0.0, 1.0);
    // Sides that should fall between two pixels may miss that by a rounding error.
    return share > 1 - 1e-6 ? 1 : share < 1e-6 ? 0 : share;
  }
  PlaneView view_;
  double reachX_;
  double reachY_;
};

// Masks are grown by at most so many pixels; where more are wanted it is done in a coarser view.
constexpr double kMostGrown = 48;

}  // namespace

std::shared_ptr<const RowMaker> frameRowsOf(const PlaneView& view) { return std::make_shared<FrameCover>(view); }

std::shared_ptr<const RowMaker> maskedRows(std::shared_ptr<const RecipePass> picture, std::shared_ptr<const RowMaker> field, int width) {
  return std::make_shared<Masked>(std::move(picture), std::move(field), width);
}

std::shared_ptr<const RowMaker> pictureRows(std::shared_ptr<const RecipePass> picture, int width) {
  return std::make_shared<Masked>(std::move(picture), nullptr, width);
}

PixelBox maskReach(const Puller& puller, int layer, const PlaneView& view, const Moment& at) {
  const Mask& mask = *puller.plan().at(layer).layer->mask;
  const StepContext context(maskSpecs(), mask.params, at, view);
  // Only sources that are quick to ask.
  if (context.toggle("invert") || mask.source.spec->reads != SourceReads::Nothing) return {};
  const double sigma = context.number("soften") / 2 * view.scale;
  const int around =
      static_cast<int>(std::ceil(std::max(0.0, context.number("grow") * view.scale))) + (sigma > 0 ? blurReach(sigma) : 0) + 1;
  if (!mask.source.spec->extent) return {};
  const PixelBox box = puller.source(layer, mask.source, view, at)->bounds();
  return box.empty() ? box : box.grown(around);
}

PixelBox frameBoxOf(const PlaneView& view) { return pixelsOf(view, 0, 0, view.frameWidth, view.frameHeight); }

std::shared_ptr<const RowMaker> maskRows(const Puller& puller, int layer, const PlaneView& view, const Moment& at) {
  const Mask& mask = *puller.plan().at(layer).layer->mask;
  const StepContext context(maskSpecs(), mask.params, at, view);
  const double grow = context.number("grow") * view.scale;
  const double sigma = context.number("soften") / 2 * view.scale;
  const bool alpha = context.choice("reads") == "alpha";
  std::shared_ptr<const RowMaker> field;
  // A little above, or rounding might ask for a coarser view again and again.
  if (std::abs(grow) > kMostGrown * 1.01) {
    const PlaneView small = view.coarser(std::abs(grow) / kMostGrown);
    field = resampled(maskRows(puller, layer, small, at), small, view);
    return field;
  }
  const int around = static_cast<int>(std::ceil(std::abs(grow))) + (sigma > 0 ? blurReach(sigma) : 0);
  const PlaneView wanted = view.grown(around);
  field = std::make_shared<ReadRows>(puller.source(layer, mask.source, wanted, at), alpha, wanted.width);
  if (grow != 0) field = planeRows(grown(wholePlane(*field, wanted.width, wanted.height), grow), true);
  if (sigma > 0) field = blurred(*field, wanted.width, wanted.height, {sigma, sigma, Edge::Clamp, false});
  field = cropped(std::move(field), around, around, view.width, wanted.width);
  if (context.toggle("invert")) field = std::make_shared<Inverted>(std::move(field), view.width);
  return field;
}

}  // namespace oa
