// Words as drawings of one view: the panel, the letters one by one, and what is asked of their box.
#pragma once

#include <array>
#include <memory>
#include <optional>
#include <vector>

#include "params/step_context.h"
#include "shapes/line_art.h"
#include "words/letter_rows.h"
#include "words/typeset.h"

namespace oa {

/// Letters as they are drawn: those that stand still by their outlines, those that move or are blurred as small pictures.
struct DrawnLetters {
  LineArt standing;
  std::vector<LetterMark> moving;
  std::vector<LetterMark> coloured;  ///< those in colours of their own, painted last
  [[nodiscard]] std::unique_ptr<RowMaker> rows(const PlaneView& view) &&;
};

class WordDrawing {
 public:
  explicit WordDrawing(const StepContext& context);

  /// The panel that fits them, in its colour, or in white where it is filled with something else; empty where there is none.
  [[nodiscard]] LineArt panel() const;
  /// The same in white, wherever it is anything at all.
  [[nodiscard]] LineArt panelShape() const;
  /// Its bar and its outline.
  [[nodiscard]] LineArt trim() const;
  /// The letters and the caret in their colours, or in white where they are filled with something else.
  [[nodiscard]] DrawnLetters letters() const;
  /// The lines along their edges.
  [[nodiscard]] LineArt lines() const;
  /// Left, top, right and bottom on the plane of the words alone, and with the panel.
  [[nodiscard]] std::array<double, 4> box() const;
  [[nodiscard]] std::array<double, 4> panelBox() const;
  /// The same of all that is shown in turn.
  [[nodiscard]] std::array<double, 4> everBox() const;
  /// A caret before byte `at` of its text, on the plane, while nothing moves the letters: its upper and its lower end.
  [[nodiscard]] std::array<Point, 2> caretBefore(std::size_t at) const;
  /// The byte of its text before which the caret stands that is nearest to a place of the plane; of words in lines.
  [[nodiscard]] std::size_t byteNearest(Point at) const;
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
  /// Where the middle of the words lies on the plane, and how large they are.
  struct Measure {
    Point middle;
    double size = 0;
  };
  [[nodiscard]] static Measure measureOf(const StepContext& context);
  [[nodiscard]] Stand standOf(Point at, double wide) const;
  [[nodiscard]] std::vector<Point> panelEdge() const;
  [[nodiscard]] LineArt panelIn(const Colour& colour) const;
  [[nodiscard]] double panelSeen() const;
  // Every letter that is seen, and where; many by several threads, in any order.
  template <class Take>
  void eachLetter(const Take& take) const;
  [[nodiscard]] std::size_t typed() const;  // so many letters, by now
  void caret(LineArt& art) const;
  [[nodiscard]] std::vector<std::vector<Point>> outlineOf(const Placed& placed) const;
  [[nodiscard]] std::shared_ptr<const LetterPicture> pictureOf(const Placed& placed) const;

  const StepContext& context_;
  const PlaneView& view_;
  std::shared_ptr<const Typeset> set_;
  Measure measure_;
  std::optional<MeasuredLine> way_;  // the outline that they stand on, on the plane
  double gone_ = 0;                  // how far along it they have travelled, as a share
};

}  // namespace oa
