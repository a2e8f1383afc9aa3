// Fields that are formulas: known at any place, between pixels and beyond the frame.
#pragma once

namespace oa {

/// Places that are asked for at once, at the most.
inline constexpr int kPlacesAtOnce = 256;

/// A field of one channel that is worked out where it is asked for, so that nothing has to be stored and read between.
class PlaceField {
 public:
  virtual ~PlaceField() = default;
  PlaceField() = default;
  PlaceField(const PlaceField&) = delete;
  PlaceField& operator=(const PlaceField&) = delete;

  /// Whether it repeats with the frame, across and down: beyond each of its sides lies the other one.
  [[nodiscard]] bool repeats() const { return repeats_; }
  void setRepeats(bool repeats) { repeats_ = repeats; }

  /// The field at `n` places (x[i], y[i]), kPlacesAtOnce at the most, in pixels of the view that it was made for, whose first has its
  /// middle at (0, 0). Places have to be there, and values are written, up to n rounded up to kSpanPadding.
  virtual void at(const float* x, const float* y, int n, float* out) const = 0;

 private:
  bool repeats_ = false;
};

}  // namespace oa
