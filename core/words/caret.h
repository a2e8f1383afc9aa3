// Carets between the letters of a text that is set.
#pragma once

#include <cstddef>

#include "words/typeset.h"

namespace oa {

/// A line between two letters, in a font of size 1, about the middle of all lines, as high as the line it stands in.
struct Caret {
  Point top;
  Point bottom;
};

/// The one before byte `at` of the text as it was typed, or behind the last.
Caret caretBefore(const TextStyle& style, std::size_t at);

/// The byte of the text before which the caret stands that is nearest to a place; the length of the text behind the last.
std::size_t byteNearest(const TextStyle& style, Point at);

}  // namespace oa
