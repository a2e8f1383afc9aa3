// What a repeat repeats, ready to be painted.
#pragma once

#include <cstddef>
#include <vector>

#include "fields/input.h"
#include "params/step_context.h"
#include "shapes/marks.h"

namespace oa {

/// The numbers of a stamp as one of its copies has them: motions are ahead of the stamp's own by its shift.
class CopyValues {
 public:
  CopyValues(const Values& values, const LapShift& shift) : values_(values), shift_(shift) {}
  [[nodiscard]] double number(std::string_view id) const {
    const std::size_t index = values_.index(id);
    return std::get<double>(values_.moving(index) ? values_.shifted(index, shift_).value : values_.here(index).value);
  }

 private:
  const Values& values_;
  const LapShift& shift_;
};

/// A stamp with what all its copies share.
class Stamp {
 public:
  /// `layer` is the picture of stamps of the kind "layer", and `largest` the largest size that a copy has beside the stamp's own.
  Stamp(const Values& values, const PlaneView& view, const Input* layer, double largest);

  /// Its shape for copies with such a shift; shapes that move are kept for so many shifts, and the nearest is taken.
  [[nodiscard]] std::uint32_t shape(const LapShift& shift) const;
  /// Adds all of them to a list; what shape() says counts from there.
  /// `shifted`: whether copies have shifts at all.
  void addShapes(std::vector<MarkShape>& shapes, int mostTimes, bool shifted);

  [[nodiscard]] const Values& values() const { return values_; }
  /// How far it reaches from its place, in pixels of the plane, at size 1.
  [[nodiscard]] double reach() const { return reach_; }
  /// The size that its shapes have in their own measure; copies are as much larger as their size is.
  [[nodiscard]] double baseSize() const { return baseSize_; }
  [[nodiscard]] bool shapeMoves() const { return shapeMoves_; }
  [[nodiscard]] bool coloured() const { return coloured_; }
  [[nodiscard]] bool pictured() const { return pictured_; }
  [[nodiscard]] bool graded() const { return graded_; }

 private:
  [[nodiscard]] MarkShape made(const LapShift& shift) const;
  [[nodiscard]] MarkShape plainShape(const LapShift& shift) const;
  [[nodiscard]] MarkShape drawn(const LapShift& shift) const;
  [[nodiscard]] MarkShape pictured(const LapShift& shift) const;

  const Values& values_;
  const PlaneView& view_;
  const Input* layer_;
  double largest_;
  bool shapeMoves_ = false;
  bool pictured_ = false;
  bool drawn_ = false;
  bool coloured_ = true;
  bool graded_ = false;
  double baseSize_ = 1;
  double reach_ = 0;
  std::uint32_t first_ = 0;
  int steps_ = 0;  // shifts that it has shapes for; 0: one for all
  MarkShape picture_;
};

}  // namespace oa
