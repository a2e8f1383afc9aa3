// Colour spaces and the text form of colours.
#pragma once

#include <array>
#include <string>
#include <string_view>
#include <vector>

#include "base/geometry.h"
#include "base/result.h"

namespace oa {

/// IEC 61966-2-1 (sRGB) transfer functions, for one channel in [0, 1].
double srgbDecode(double encoded);
double srgbEncode(double linear);

/// OKLab (Bjorn Ottosson, "A perceptual color space for image processing", 2020).
struct OkLab {
  double L = 0;
  double a = 0;
  double b = 0;
};
OkLab toOkLab(const Colour& colour);
/// Out-of-gamut results are clipped channel by channel. Alpha is 1.
Colour fromOkLab(const OkLab& lab);

/// Weights of linear red, green and blue in luminance (ITU-R BT.709).
inline constexpr float kLuma[3] = {0.2126f, 0.7152f, 0.0722f};

enum class ColourMixing { OkLab, Display };

/// A stop of a gradient or of a colour map: a colour at a share of the way, 0 to 1.
struct Stop {
  double at = 0;
  Colour colour;
  bool operator==(const Stop&) const = default;
};
using Stops = std::vector<Stop>;

/// The colour a share `t` of the way from a to b. Alpha is mixed premultiplied, so that a
/// transparent end does not bleed its hidden colour.
Colour mixColours(const Colour& a, const Colour& b, double t, ColourMixing mixing);

/// The colour at `t` of sorted or unsorted stops (at least one); flat beyond the ends.
Colour colourAt(const Stops& stops, double t, ColourMixing mixing);

/// `count` premultiplied RGBA entries for t = 0..1, both ends included.
std::vector<std::array<float, 4>> bakeStops(const Stops& stops, ColourMixing mixing, int count);

/// "#rrggbb", or "#rrggbbaa" where alpha is below 1 (CSS Color Level 4 hex notation).
std::string colourText(const Colour& colour);
/// The colour of 0xRRGGBB, exactly as parseColour reads it: defaults survive being saved.
constexpr Colour hexColour(unsigned rgb, float alpha = 1) {
  return {static_cast<float>(rgb >> 16 & 255) / 255.0f, static_cast<float>(rgb >> 8 & 255) / 255.0f, static_cast<float>(rgb & 255) / 255.0f,
          alpha};
}
/// Reads #rgb, #rgba, #rrggbb and #rrggbbaa.
Result<Colour> parseColour(std::string_view text);

}  // namespace oa
