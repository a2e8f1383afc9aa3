// Words as drawings of one view: the panel, the letters one by one, and what is asked of their box.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <vector>

#include "params/step_context.h"
#include "shapes/line_art.h"
#include "words/typeset.h"

namespace oa {

class WordDrawing {
 public:
  explicit WordDrawing(const StepContext& context);

  /// The panel that fits them, in its colour, or in white where it is filled with something else; empty where there is none.
  [[nodiscard]] LineArt panel() const;
  /// Its bar and its outline.
  [[nodiscard]] LineArt trim() const;
  /// The letters and the caret in their colours, or in white where they are filled with something else.
  [[nodiscard]] LineArt letters() const;
  /// The lines along their edges.
  [[nodiscard]] LineArt lines() const;
  /// Left, top, right and bottom on the plane of the words alone, and with the panel.
  [[nodiscard]] std::array<double, 4> box() const;
  [[nodiscard]] std::array<double, 4> panelBox() const;
  [[nodiscard]] const Typeset& set() const { return *set_; }
  /// Whether the panel is filled with a gradient.
  [[nodiscard]] bool gradedPanel() const;
  /// Whether they are filled with more than colours of their own.
  [[nodiscard]] bool painted() const;

 private:
  struct Placed;
  /// Where something stands that lies at `at` in the typeset words and is `wide` along, in their size: on the plane.
  struct Stand {
    Point at;
    Point along{1, 0};  ///< which way the line runs there, of length 1
    double seen = 1;    ///< at the ends of an outline less and less of it
  };
  [[nodiscard]] Stand standOf(Point at, double wide) const;
  [[nodiscard]] std::vector<Point> panelEdge() const;
  [[nodiscard]] double panelSeen() const;
  // Every letter that is seen, where it is seen.
  template <class Take>
  void eachLetter(const Take& take) const;
  [[nodiscard]] std::size_t typed() const;
  void caret(LineArt& art) const;

  const StepContext& context_;
  const PlaneView& view_;
  std::shared_ptr<const Typeset> set_;
  std::optional<MeasuredLine> way_;  // the outline that they stand on, on the plane
  double gone_ = 0;                  // how far along it they have travelled, as a share
};

}  // namespace oa
