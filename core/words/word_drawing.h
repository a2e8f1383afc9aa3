// Words as drawings of one view: the panel, the letters one by one, and what is asked of their box.
#pragma once

#include <array>
#include <memory>

#include "params/step_context.h"
#include "shapes/line_art.h"
#include "words/typeset.h"

namespace oa {

class WordDrawing {
 public:
  explicit WordDrawing(const StepContext& context);

  /// The panel that fits them, with its outline and its bar; empty where there is none.
  [[nodiscard]] LineArt panel() const;
  /// The letters and the caret in their colours, or in white where they are filled with something else.
  [[nodiscard]] LineArt letters() const;
  /// The lines along their edges.
  [[nodiscard]] LineArt lines() const;
  /// Left, top, right and bottom on the plane of the words alone, and with the panel.
  [[nodiscard]] std::array<double, 4> box() const;
  [[nodiscard]] std::array<double, 4> panelBox() const;
  [[nodiscard]] const Typeset& set() const { return *set_; }
  /// Whether they are filled with more than colours of their own.
  [[nodiscard]] bool painted() const;

 private:
  struct Placed;
  // Every letter that is seen, where it is seen.
  template <class Take>
  void eachLetter(const Take& take) const;
  [[nodiscard]] std::size_t typed() const;
  void caret(LineArt& art) const;

  const StepContext& context_;
  const PlaneView& view_;
  std::shared_ptr<const Typeset> set_;
};

}  // namespace oa
