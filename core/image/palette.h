// A palette: colours with a name, and how one palette stands in for another.
#pragma once

#include <string>
#include <vector>

#include "image/colour.h"

namespace oa {

inline constexpr std::size_t kMaxPaletteColours = 256;

struct Palette {
  std::string name;
  std::vector<Colour> colours;
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const Palette&) const = default;
};

/// The index of the colour nearest to `colour` in OKLab; colours must not be empty.
std::size_t nearestColour(const std::vector<Colour>& colours, const Colour& colour);

/// What each of `from` becomes when they are recoloured with `to`: by rank of lightness, so that what was dark stays dark
/// and words stay readable. Up to as many colours as the palette has, each becomes one of its own; more are mixed between
/// neighbours in OKLab. Alpha is kept. Empty palettes change nothing.
std::vector<Colour> matchedColours(const std::vector<Colour>& from, const std::vector<Colour>& to);

}  // namespace oa
