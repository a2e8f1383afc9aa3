// Palettes as files of open formats: GIMP palettes, JASC-PAL, lists of hex and CSS colours.
#pragma once

#include <string>
#include <string_view>

#include "base/result.h"
#include "image/palette.h"

namespace oa {

enum class PaletteFormat { Gimp, Jasc, Css, Hex };

/// The format that a file's name asks for: .gpl, .pal, .css; anything else is a list of hex colours.
PaletteFormat paletteFormatOf(std::string_view fileName);

/// Reads any of the formats, told apart by their first line. Formats: GIMP palette (developer documentation of GIMP,
/// "GIMP Palette"), JASC-PAL 0100, and text with colours in it as CSS Color Level 4 writes them: #rgb, #rrggbb, #rrggbbaa,
/// rgb(), hsl(), oklab(), oklch() and the named colours; what is no colour is passed over. Errors name the line. At most
/// kMaxPaletteColours.
Result<Palette> paletteFromText(std::string_view text);
std::string paletteToText(const Palette& palette, PaletteFormat format);

/// A colour as CSS Color Level 4 writes it: hex, rgb(), hsl(), oklab(), oklch() or a name. Channels are held within their range.
Result<Colour> cssColour(std::string_view text);

/// Files: at most 1 MB are read; the name of the file stands in for a palette without one. Errors name the file.
Result<Palette> readPalette(const std::string& path);
Status writePalette(const std::string& path, const Palette& palette);

}  // namespace oa
