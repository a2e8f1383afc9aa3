#include "fields/toned.h"

#include <algorithm>
#include <optional>

#include "image/tone_curve.h"
#include "simd/tone_table.h"

namespace oa {
namespace {

class TonedRows final : public RowMaker {
 public:
  TonedRows(std::unique_ptr<RowMaker> field, const FieldTone& tone, int width) : field_(std::move(field)), width_(width) {
    const double sign = tone.invert ? -1 : 1;
    scale_ = static_cast<float>(sign * tone.contrast);
    offset_ = static_cast<float>(0.5 - 0.5 * sign * tone.contrast + tone.brightness);
    if (!tone.curve.empty()) table_.emplace(tone.curve);
  }
  [[nodiscard]] int channels() const override { return 1; }
  [[nodiscard]] bool makesSpans() const override { return field_->makesSpans(); }
  void span(int y, int x0, int n, float* out) const override {
    field_->span(y, x0, n, out);
    set(out, n);
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    field_->rows(y0, y1, out, stride);
    for (int y = y0; y < y1; ++y) set(out + (y - y0) * stride, width_);
  }

 private:
  void set(float* v, int n) const {
    scaleSpan(v, n, scale_, offset_);
    if (table_) table_->apply(v, n);
  }
  std::unique_ptr<RowMaker> field_;
  std::optional<ToneTable> table_;
  int width_;
  float scale_;
  float offset_;
};

}  // namespace

FieldTone FieldTone::of(const StepContext& context) {
  FieldTone tone;
  tone.contrast = context.number("contrast");
  tone.brightness = context.number("brightness");
  if (!isStraight(context.curve("tone"))) tone.curve = context.curve("tone");
  return tone;
}

double FieldTone::at(double v) const {
  const double set = ((invert ? 1 - v : v) - 0.5) * contrast + 0.5 + brightness;
  return curve.empty() ? set : curveAt(curve, std::clamp(set, 0.0, 1.0));
}

std::unique_ptr<RowMaker> toned(std::unique_ptr<RowMaker> field, const FieldTone& tone, int width) {
  if (tone.contrast == 1 && tone.brightness == 0 && !tone.invert && tone.curve.empty()) return field;
  return std::make_unique<TonedRows>(std::move(field), tone, width);
}

}  // namespace oa
