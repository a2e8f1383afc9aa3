// What a kernel is given: the values of its parameters at one moment, and the frame.
#pragma once

#include <span>
#include <string>
#include <string_view>
#include <vector>

#include "image/plane_view.h"
#include "params/param.h"

namespace oa {

/// The values of a table of parameters at one moment.
class Values {
 public:
  Values(std::span<const ParamSpec> specs, std::span<const Param> params, const Moment& at);

  [[nodiscard]] double number(std::string_view id) const { return std::get<double>(find(id).value); }
  [[nodiscard]] int integer(std::string_view id) const { return static_cast<int>(number(id)); }
  [[nodiscard]] Point point(std::string_view id) const { return std::get<Point>(find(id).value); }
  [[nodiscard]] Colour colour(std::string_view id) const { return std::get<Colour>(find(id).value); }
  [[nodiscard]] std::string_view choice(std::string_view id) const { return std::get<std::string>(find(id).value); }
  [[nodiscard]] bool toggle(std::string_view id) const { return std::get<bool>(find(id).value); }
  [[nodiscard]] const MediaRef& file(std::string_view id) const { return std::get<MediaRef>(find(id).value); }
  [[nodiscard]] const CopyChanges& copies(std::string_view id) const { return std::get<CopyChanges>(find(id).value); }
  [[nodiscard]] const std::string& text(std::string_view id) const { return std::get<Text>(find(id).value).text; }
  [[nodiscard]] const Curve& curve(std::string_view id) const { return std::get<Curve>(find(id).value); }
  [[nodiscard]] const Outline& outline(std::string_view id) const { return std::get<Outline>(find(id).value); }
  /// Share of the lap done, for LoopRule::Progress parameters; number of the still, for LoopRule::Held ones.
  [[nodiscard]] double progress(std::string_view id) const { return find(id).progress; }
  /// The index of a parameter, for reading the same one many times.
  [[nodiscard]] std::size_t index(std::string_view id) const;
  /// Whether it differs over the loop, or between those that arrive and leave one after the other.
  [[nodiscard]] bool moving(std::size_t index) const {
    return reallyMoves(specs_[index], params_[index]) || (at_.passing() && !params_[index].away.empty());
  }
  [[nodiscard]] const ValueAt& here(std::size_t index) const { return values_[index]; }
  /// The value before motion.
  [[nodiscard]] const Value& base(std::size_t index) const { return params_[index].base; }
  /// The value that one of many has whose motions are ahead of the parameter's.
  [[nodiscard]] ValueAt shifted(std::size_t index, const LapShift& shift) const {
    return evaluate(specs_[index], params_[index], at_, shift);
  }
  /// The same of a number.
  [[nodiscard]] double shiftedNumber(std::size_t index, const LapShift& shift) const {
    return numberAt(specs_[index], params_[index], at_, shift);
  }
  /// How large it becomes at most over the loop (see mostOf()).
  [[nodiscard]] double most(std::string_view id) const {
    const std::size_t i = index(id);
    return mostOf(specs_[i], params_[i]);
  }
  /// The value before motion: what must not jump while a value moves, such as a tile's size.
  [[nodiscard]] double baseNumber(std::string_view id) const;
  [[nodiscard]] const Moment& moment() const { return at_; }
  /// What passes as one while it arrives or leaves.
  [[nodiscard]] PassBy passesBy() const;
  /// What is then done to one of its pieces.
  [[nodiscard]] Passed passed(const Piece& piece) const { return passedPiece(at_, piece); }

 private:
  [[nodiscard]] const ValueAt& find(std::string_view id) const;

  std::span<const ParamSpec> specs_;
  std::span<const Param> params_;
  std::vector<ValueAt> values_;
  Moment at_;
};

/// Everything a kernel may know: values at the moment, those of its items, and the frame. Time comes in only through values.
class StepContext : public Values {
 public:
  /// Of a table without items.
  StepContext(std::span<const ParamSpec> specs, std::span<const Param> params, const Moment& at, const PlaneView& view)
      : Values(specs, params, at), view_(view), runSeconds_(at.runSeconds()) {}
  StepContext(std::span<const ParamSpec> specs, std::span<const Param> params, const ItemsSpec* itemsSpec, std::span<const Item> items,
              const Moment& at, const PlaneView& view);

  /// The same values in another view.
  StepContext(const StepContext& other, const PlaneView& view) : StepContext(other) { view_ = view; }

  [[nodiscard]] const PlaneView& view() const { return view_; }
  [[nodiscard]] const std::vector<Values>& items() const { return items_; }
  /// Seconds of footage that have gone by since what is handed over began.
  [[nodiscard]] double runSeconds() const { return runSeconds_; }

 private:
  std::vector<Values> items_;
  PlaneView view_;
  double runSeconds_;
};

/// Index of a parameter, or -1.
int findParam(std::span<const ParamSpec> specs, std::string_view id);
/// Whether parameter `i` has anything to say with the others as they are (ParamSpec::shownWhen).
bool isShown(std::span<const ParamSpec> specs, std::span<const Param> params, std::size_t i);

}  // namespace oa
