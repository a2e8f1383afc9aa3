// Contrast, brightness and a tone curve, applied to a field in place.
#pragma once

#include <memory>
#include <vector>

#include "image/rows.h"
#include "params/step_context.h"

namespace oa {

/// v becomes curve((v - 0.5) contrast + 0.5 + brightness); without a curve values are not clipped.
struct FieldTone {
  double contrast = 1;
  double brightness = 0;
  bool invert = false;
  Curve curve;  ///< empty: straight

  /// From the parameters of fields/field_params.h.
  static FieldTone of(const StepContext& context);
  [[nodiscard]] double at(double v) const;
};

/// The field with its tones set; `n` values at most are touched beyond a row's width (kSpanPadding).
std::unique_ptr<RowMaker> toned(std::unique_ptr<RowMaker> field, const FieldTone& tone, int width);

}  // namespace oa
