// Words as outlines: shaped, broken into lines, letter by letter.
#pragma once

#include <memory>
#include <optional>
#include <string>
#include <vector>

#include "base/geometry.h"
#include "image/buffer.h"

namespace oa {

enum class Alignment { Left, Centre, Right };
enum class Capitals { AsTyped, Capitals, SmallCapitals };

/// How words between stars are set instead: "come *down* to the quay". Two stars are one star.
struct Emphasis {
  std::string family;
  int weight = 400;
  bool italic = false;
  double size = 1;  ///< beside the others
  bool operator==(const Emphasis&) const = default;
};

/// Everything but how large they are: lengths are shares of the size of the font.
struct TextStyle {
  std::string text;    ///< UTF-8; a line feed begins another line
  std::string family;  ///< of the font; one that is not there is replaced
  int weight = 400;    ///< 100 to 900, as in CSS
  bool italic = false;
  Capitals capitals = Capitals::AsTyped;
  double spacing = 0;  ///< more between letters
  double leading = 1;  ///< from line to line, beside what the font asks for
  Alignment alignment = Alignment::Centre;
  double width = 0;                       ///< lines are broken there; 0: nowhere
  double stretch = 1;                     ///< how wide letters are beside what the font makes them
  std::string features = {};              ///< of OpenType, as in CSS (font-feature-settings): "ss01" 1, "tnum"
  std::string axes = {};                  ///< of a variable font, as in CSS (font-variation-settings): "wght" 650
  std::optional<Emphasis> emphasis = {};  ///< without it a star is a star
  bool operator==(const TextStyle&) const = default;
};

/// What a letter shows in colours of its own, as those of emoji do.
struct LetterColours {
  std::shared_ptr<const Plane> plane;  ///< premultiplied; null where it has none
  Point perEm;                         ///< pixels to the size of the font
  Point first;                         ///< where the middle of its upper left pixel lies, as `lines` do
};

/// What is shaped as one: a letter with its marks, or several that run together.
struct Letter {
  std::vector<std::vector<Point>> lines;  ///< closed ones, each ending where it begins, about its own middle
  LetterColours colours;                  ///< in place of lines
  std::size_t shape = 0;                  ///< the first letter that looks like it
  Point middle;                           ///< of it on the page: half its advance along, half a capital's height over the base line
  double wide = 0;                        ///< its advance
  int line = 0;                           ///< which line it stands in, from above
  int word = 0;                           ///< which word of the text it belongs to
  bool emphasised = false;                ///< it stood between stars
};

/// Set in a font of size 1, about the middle of all lines.
struct Typeset {
  std::vector<Letter> letters;  ///< in the order of the text
  int lines = 0;
  int words = 0;
  // What the lines take up, as high as the font asks for.
  double left = 0, top = 0, right = 0, bottom = 0;
  std::string family;  ///< of the font that most of it is set in
};

/// Letters beyond are left away.
inline constexpr std::size_t kMostLetters = 20000;

/// Shaped by HarfBuzz in Pango's layout (all scripts, in both directions), without hinting, so that every size looks alike. Kept for
/// whoever asks again. Control characters are left out.
std::shared_ptr<const Typeset> typeset(const TextStyle& style);

/// The families that there are, by their names.
std::vector<std::string> fontFamilies();
/// To be called when there are others than before: what is kept is forgotten.
void fontsChanged();

}  // namespace oa
