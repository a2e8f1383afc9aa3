#include "image/colour.h"

#include <algorithm>
#include <cmath>

#include "base/numbers.h"
#include "image/oklab.h"

namespace oa {

double srgbDecode(double v) { return v <= 0.04045 ? v / 12.92 : std::pow((v + 0.055) / 1.055, 2.4); }
double srgbEncode(double v) { return v <= 0.0031308 ? v * 12.92 : 1.055 * std::pow(v, 1 / 2.4) - 0.055; }

OkLab toOkLab(const Colour& c) {
  const double rgb[3] = {srgbDecode(c.r), srgbDecode(c.g), srgbDecode(c.b)};
  double root[3];
  for (int i = 0; i < 3; ++i) root[i] = std::cbrt(kLmsFromRgb[i][0] * rgb[0] + kLmsFromRgb[i][1] * rgb[1] + kLmsFromRgb[i][2] * rgb[2]);
  const auto lab = [&](int i) { return kLabFromRoots[i][0] * root[0] + kLabFromRoots[i][1] * root[1] + kLabFromRoots[i][2] * root[2]; };
  return {lab(0), lab(1), lab(2)};
}

Colour fromOkLab(const OkLab& c) {
  double lms[3];
  for (int i = 0; i < 3; ++i) lms[i] = std::pow(c.L + kRootsFromAb[i][0] * c.a + kRootsFromAb[i][1] * c.b, 3);
  const auto channel = [&](int i) {
    const double linear = kRgbFromLms[i][0] * lms[0] + kRgbFromLms[i][1] * lms[1] + kRgbFromLms[i][2] * lms[2];
    return static_cast<float>(srgbEncode(std::clamp(linear, 0.0, 1.0)));
  };
  return {channel(0), channel(1), channel(2), 1.0f};
}

namespace {

// mixColours() of two colours whose OKLab is known already; of other mixings it is not looked at.
Colour mixKnown(const Colour& a, const OkLab& p, const Colour& b, const OkLab& q, double t, ColourMixing mixing) {
  if (t <= 0) return a;
  if (t >= 1) return b;
  const double alpha = mix(a.a, b.a, t);
  const double wb = alpha > 0 ? t * b.a / alpha : t;
  Colour out;
  if (mixing == ColourMixing::OkLab) {
    out = fromOkLab({mix(p.L, q.L, wb), mix(p.a, q.a, wb), mix(p.b, q.b, wb)});
  } else {
    out = {static_cast<float>(mix(a.r, b.r, wb)), static_cast<float>(mix(a.g, b.g, wb)), static_cast<float>(mix(a.b, b.b, wb)), 1};
  }
  out.a = static_cast<float>(alpha);
  return out;
}

}  // namespace

Colour mixColours(const Colour& a, const Colour& b, double t, ColourMixing mixing) {
  if (mixing != ColourMixing::OkLab || t <= 0 || t >= 1) return mixKnown(a, {}, b, {}, t, mixing);
  return mixKnown(a, toOkLab(a), b, toOkLab(b), t, mixing);
}

namespace {

Stops sorted(const Stops& stops) {
  Stops copy = stops;
  std::stable_sort(copy.begin(), copy.end(), [](const Stop& p, const Stop& q) { return p.at < q.at; });
  return copy;
}

Colour inSorted(const Stops& stops, double t, ColourMixing mixing) {
  if (t <= stops.front().at) return stops.front().colour;
  for (std::size_t i = 1; i < stops.size(); ++i) {
    if (t > stops[i].at) continue;
    const double span = stops[i].at - stops[i - 1].at;
    return span <= 0 ? stops[i].colour : mixColours(stops[i - 1].colour, stops[i].colour, (t - stops[i - 1].at) / span, mixing);
  }
  return stops.back().colour;
}

}  // namespace

Colour colourAt(const Stops& stops, double t, ColourMixing mixing) { return inSorted(sorted(stops), t, mixing); }

std::vector<std::array<float, 4>> bakeStops(const Stops& stops, ColourMixing mixing, int count) {
  const Stops ordered = sorted(stops);
  // Stops may move, and then a table is baked for every frame: each stop's OKLab is worked out once, not for every entry.
  std::vector<OkLab> known;
  for (const Stop& stop : ordered) known.push_back(mixing == ColourMixing::OkLab ? toOkLab(stop.colour) : OkLab());
  std::vector<std::array<float, 4>> out(static_cast<std::size_t>(count));
  std::size_t next = 0;  // the first stop that is not before the entry
  for (int i = 0; i < count; ++i) {
    const double t = static_cast<double>(i) / (count - 1);
    while (next < ordered.size() && ordered[next].at < t) ++next;
    Colour c = next == 0 ? ordered.front().colour : ordered.back().colour;
    if (next > 0 && next < ordered.size()) {
      const Stop& a = ordered[next - 1];
      const Stop& b = ordered[next];
      c = mixKnown(a.colour, known[next - 1], b.colour, known[next], (t - a.at) / (b.at - a.at), mixing);
    }
    out[static_cast<std::size_t>(i)] = {c.r * c.a, c.g * c.a, c.b * c.a, c.a};
  }
  return out;
}

std::string colourText(const Colour& c) {
  static constexpr char kDigits[] = "0123456789abcdef";
  std::string text = "#";
  const auto add = [&](float v) {
    const int byte = static_cast<int>(std::lround(std::clamp(v, 0.0f, 1.0f) * 255));
    text += kDigits[byte >> 4];
    text += kDigits[byte & 15];
  };
  add(c.r);
  add(c.g);
  add(c.b);
  if (std::lround(c.a * 255) < 255) add(c.a);
  return text;
}

Result<Colour> parseColour(std::string_view text) {
  const auto wrong = [&] {
    return fail("\"" + std::string(text.substr(0, 40)) + "\" is not a colour; write it like #1f7672 or #1f7672cc");
  };
  if (text.empty() || text[0] != '#') return wrong();
  text.remove_prefix(1);
  const bool shortForm = text.size() == 3 || text.size() == 4;
  if (!shortForm && text.size() != 6 && text.size() != 8) return wrong();
  float channels[4] = {0, 0, 0, 1};
  const std::size_t width = shortForm ? 1 : 2;
  for (std::size_t i = 0; i * width < text.size(); ++i) {
    int byte = 0;
    for (std::size_t j = 0; j < width; ++j) {
      const char ch = text[i * width + j];
      int digit = -1;
      if (ch >= '0' && ch <= '9') digit = ch - '0';
      if (ch >= 'a' && ch <= 'f') digit = ch - 'a' + 10;
      if (ch >= 'A' && ch <= 'F') digit = ch - 'A' + 10;
      if (digit < 0) return wrong();
      byte = byte * 16 + digit;
    }
    channels[i] = static_cast<float>(shortForm ? byte * 17 : byte) / 255.0f;
  }
  return Colour{channels[0], channels[1], channels[2], channels[3]};
}

}  // namespace oa
