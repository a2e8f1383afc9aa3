// Names of the blend modes and their plain formulas.
#include <algorithm>
#include <cmath>

#include "image/blend.h"

namespace oa {
namespace {

constexpr std::string_view kNames[kBlendModes] = {
    "normal",     "multiply",   "screen",     "overlay",   "darken", "lighten",    "color-dodge", "color-burn",
    "hard-light", "soft-light", "difference", "exclusion", "hue",    "saturation", "color",       "luminosity",
};

using Rgb = std::array<double, 3>;

double separable(BlendMode mode, double cb, double cs) {
  switch (mode) {
    case BlendMode::Multiply:
      return cb * cs;
    case BlendMode::Screen:
      return cb + cs - cb * cs;
    case BlendMode::Overlay:
      return separable(BlendMode::HardLight, cs, cb);
    case BlendMode::Darken:
      return std::min(cb, cs);
    case BlendMode::Lighten:
      return std::max(cb, cs);
    case BlendMode::ColorDodge:
      return cb == 0 ? 0 : (cs >= 1 ? 1 : std::min(1.0, cb / (1 - cs)));
    case BlendMode::ColorBurn:
      return cb >= 1 ? 1 : (cs <= 0 ? 0 : 1 - std::min(1.0, (1 - cb) / cs));
    case BlendMode::HardLight:
      return cs <= 0.5 ? cb * 2 * cs : separable(BlendMode::Screen, cb, 2 * cs - 1);
    case BlendMode::SoftLight: {
      if (cs <= 0.5) return cb - (1 - 2 * cs) * cb * (1 - cb);
      const double d = cb <= 0.25 ? ((16 * cb - 12) * cb + 4) * cb : std::sqrt(cb);
      return cb + (2 * cs - 1) * (d - cb);
    }
    case BlendMode::Difference:
      return std::abs(cb - cs);
    case BlendMode::Exclusion:
      return cb + cs - 2 * cb * cs;
    default:
      return cs;
  }
}

double lum(const Rgb& c) { return 0.3 * c[0] + 0.59 * c[1] + 0.11 * c[2]; }
double sat(const Rgb& c) { return std::max({c[0], c[1], c[2]}) - std::min({c[0], c[1], c[2]}); }

Rgb setLum(const Rgb& c, double l) {
  const double d = l - lum(c);
  Rgb out{c[0] + d, c[1] + d, c[2] + d};
  const double n = std::min({out[0], out[1], out[2]});
  const double x = std::max({out[0], out[1], out[2]});
  for (double& v : out) {
    if (n < 0) v = l + (v - l) * l / (l - n);
    if (x > 1) v = l + (v - l) * (1 - l) / (x - l);
  }
  return out;
}

Rgb setSat(const Rgb& c, double s) {
  const double n = std::min({c[0], c[1], c[2]});
  const double range = sat(c);
  if (range <= 0) return {0, 0, 0};
  return {(c[0] - n) * s / range, (c[1] - n) * s / range, (c[2] - n) * s / range};
}

Rgb blended(BlendMode mode, const Rgb& cb, const Rgb& cs) {
  switch (mode) {
    case BlendMode::Hue:
      return setLum(setSat(cs, sat(cb)), lum(cb));
    case BlendMode::Saturation:
      return setLum(setSat(cb, sat(cs)), lum(cb));
    case BlendMode::Color:
      return setLum(cs, lum(cb));
    case BlendMode::Luminosity:
      return setLum(cb, lum(cs));
    default:
      return {separable(mode, cb[0], cs[0]), separable(mode, cb[1], cs[1]), separable(mode, cb[2], cs[2])};
  }
}

}  // namespace

std::string_view blendName(BlendMode mode) { return kNames[static_cast<std::size_t>(mode)]; }

Result<BlendMode> blendFromName(std::string_view name) {
  const auto* found = std::find(std::begin(kNames), std::end(kNames), name);
  if (found != std::end(kNames)) return static_cast<BlendMode>(found - std::begin(kNames));
  std::string list;
  for (const auto n : kNames) list += (list.empty() ? "" : ", ") + std::string(n);
  return fail("\"" + std::string(name.substr(0, 40)) + "\" is not a blend mode; use one of: " + list);
}

std::array<double, 4> blendReference(BlendMode mode, const std::array<double, 4>& src, double opacity, const std::array<double, 4>& dst) {
  const double as = src[3] * opacity;
  const double ab = dst[3];
  const auto straight = [](const std::array<double, 4>& p) -> Rgb {
    return p[3] > 0 ? Rgb{p[0] / p[3], p[1] / p[3], p[2] / p[3]} : Rgb{0, 0, 0};
  };
  const Rgb cs = straight(src);
  const Rgb cb = straight(dst);
  const Rgb b = blended(mode, cb, cs);
  std::array<double, 4> out{};
  for (std::size_t i = 0; i < 3; ++i) out[i] = as * (1 - ab) * cs[i] + as * ab * b[i] + (1 - as) * ab * cb[i];
  out[3] = as + ab * (1 - as);
  return out;
}

}  // namespace oa
