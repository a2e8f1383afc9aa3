#include "media/palette_file.h"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <numbers>
#include <vector>

#include "base/blanks.h"
#include "base/files.h"
#include "base/numbers.h"
#include "media/css_colours.h"

namespace oa {
namespace {

constexpr std::size_t kMostBytes = std::size_t{1} << 20;
constexpr std::size_t kMostNameBytes = 200;

bool isBlank(char c) { return c == ' ' || c == '\t' || c == '\r' || c == '\f' || c == '\v'; }

// Lines one after the other, whatever they end with.
class Lines {
 public:
  explicit Lines(std::string_view text) : rest_(text) {}
  bool next(std::string_view& line) {
    if (done_) return false;
    const std::size_t end = rest_.find('\n');
    line = trimmed(rest_.substr(0, end));
    done_ = end == std::string_view::npos;
    if (!done_) rest_.remove_prefix(end + 1);
    ++number_;
    return true;
  }
  [[nodiscard]] std::string where() const { return "line " + std::to_string(number_); }

 private:
  std::string_view rest_;
  int number_ = 0;
  bool done_ = false;
};

std::vector<std::string> words(std::string_view line) {
  std::vector<std::string> list;
  std::string word;
  for (const char c : line) {
    if (!isBlank(c)) {
      word += c;
    } else if (!word.empty()) {
      list.push_back(std::move(word));
      word.clear();
    }
  }
  if (!word.empty()) list.push_back(std::move(word));
  return list;
}

// Three whole numbers of 0 to 255 at the beginning of a line.
Result<Colour> bytesColour(std::string_view line, const std::string& where) {
  const auto parts = words(line);
  float rgb[3];
  for (std::size_t i = 0; i < 3; ++i) {
    double v = -1;
    if (i >= parts.size() || !parseNumber(parts[i], v) || v != std::floor(v) || v < 0 || v > 255)
      return fail("must begin with three whole numbers from 0 to 255", where);
    rgb[i] = static_cast<float>(v) / 255.0f;
  }
  return Colour{rgb[0], rgb[1], rgb[2], 1};
}

Status add(Palette& palette, const Colour& colour, const std::string& where) {
  if (palette.colours.size() >= kMaxPaletteColours) return fail("has more than " + std::to_string(kMaxPaletteColours) + " colours", where);
  palette.colours.push_back(colour);
  return {};
}

Result<Palette> readGimp(std::string_view text) {
  Palette palette;
  Lines lines(text);
  std::string_view line;
  lines.next(line);
  while (lines.next(line)) {
    if (line.empty() || line.front() == '#') continue;
    if (line.substr(0, 5) == "Name:") {
      palette.name = std::string(trimmed(line.substr(5))).substr(0, kMostNameBytes);
      continue;
    }
    if (line.substr(0, 8) == "Columns:" || line.substr(0, 9) == "Channels:") continue;
    const auto colour = bytesColour(line, lines.where());
    if (!colour) return tl::unexpected(colour.error());
    if (auto ok = add(palette, *colour, lines.where()); !ok) return tl::unexpected(ok.error());
  }
  return palette;
}

Result<Palette> readJasc(std::string_view text) {
  Palette palette;
  Lines lines(text);
  std::string_view line;
  lines.next(line);
  if (!lines.next(line) || line != "0100") return fail("is a JASC palette of an unknown version; 0100 is read", lines.where());
  double count = 0;
  if (!lines.next(line) || !parseNumber(std::string(line), count) || count < 1 || count != std::floor(count))
    return fail("must be the number of colours", lines.where());
  if (count > static_cast<double>(kMaxPaletteColours))
    return fail("has more than " + std::to_string(kMaxPaletteColours) + " colours", lines.where());
  for (int i = 0; i < static_cast<int>(count); ++i) {
    if (!lines.next(line)) return fail("ends after " + std::to_string(i) + " of " + numberText(count) + " colours");
    const auto colour = bytesColour(line, lines.where());
    if (!colour) return tl::unexpected(colour.error());
    palette.colours.push_back(*colour);
  }
  return palette;
}

bool isNameChar(char c) { return std::isalnum(static_cast<unsigned char>(c)) != 0 || c == '-' || c == '_'; }

// Anything that reads as a colour, wherever it stands; bare hex digits count only where a line has nothing else.
Result<Palette> readColours(std::string_view text) {
  Palette palette;
  Lines lines(text);
  std::string_view line;
  while (lines.next(line)) {
    if (line.size() == 6 &&
        std::all_of(line.begin(), line.end(), [](char c) { return std::isxdigit(static_cast<unsigned char>(c)) != 0; })) {
      if (auto ok = add(palette, *parseColour("#" + std::string(line)), lines.where()); !ok) return tl::unexpected(ok.error());
      continue;
    }
    for (std::size_t i = 0; i < line.size();) {
      std::size_t end = i + 1;
      if (line[i] == '#') {
        while (end < line.size() && std::isxdigit(static_cast<unsigned char>(line[end])) != 0) ++end;
      } else if (isNameChar(line[i])) {
        while (end < line.size() && isNameChar(line[end])) ++end;
        if (end < line.size() && line[end] == '(') {
          const std::size_t close = line.find(')', end);
          if (close != std::string_view::npos && cssColour(line.substr(i, close + 1 - i))) end = close + 1;
        } else if (end < line.size() && line[end] == ':') {
          i = end;  // a property's name, not a colour's
          continue;
        }
      }
      if (const auto colour = cssColour(line.substr(i, end - i)))
        if (auto ok = add(palette, *colour, lines.where()); !ok) return tl::unexpected(ok.error());
      i = end;
    }
  }
  return palette;
}

// The parts between brackets: numbers with an optional % or deg, parted by commas, blanks or a slash.
bool functionParts(std::string_view inside, std::vector<double>& values, std::vector<bool>& percent) {
  std::string word;
  const auto take = [&] {
    if (word.empty()) return true;
    bool share = false;
    if (word.back() == '%') {
      share = true;
      word.pop_back();
    } else if (word.size() > 3 && word.substr(word.size() - 3) == "deg") {
      word.resize(word.size() - 3);
    }
    double v = 0;
    if (!parseNumber(word, v)) return false;
    values.push_back(v);
    percent.push_back(share);
    word.clear();
    return true;
  };
  for (const char c : inside) {
    if (isBlank(c) || c == ',' || c == '/') {
      if (!take()) return false;
    } else {
      word += c;
    }
  }
  return take() && (values.size() == 3 || values.size() == 4);
}

float share(double v) { return static_cast<float>(std::clamp(v, 0.0, 1.0)); }

// CSS Color Level 4, section 7.1.
Colour fromHsl(double hue, double saturation, double lightness, double alpha) {
  const auto part = [&](double n) {
    const double k = std::fmod(n + fract(hue / 360) * 12, 12.0);
    return share(lightness - saturation * std::min(lightness, 1 - lightness) * std::max(-1.0, std::min({k - 3, 9 - k, 1.0})));
  };
  return {part(0), part(8), part(4), share(alpha)};
}

}  // namespace

Result<Colour> cssColour(std::string_view text) {
  text = trimmed(text);
  if (!text.empty() && text.front() == '#') return parseColour(text);
  std::string lower(text.substr(0, 64));
  std::transform(lower.begin(), lower.end(), lower.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
  const auto named = std::lower_bound(kCssColours.begin(), kCssColours.end(), std::string_view(lower),
                                      [](const NamedColour& c, std::string_view name) { return c.name < name; });
  if (named != kCssColours.end() && named->name == lower) return hexColour(named->rgb);
  const std::size_t open = lower.find('(');
  if (open != std::string::npos && lower.back() == ')') {
    const std::string function = lower.substr(0, open);
    std::vector<double> v;
    std::vector<bool> percent;
    if (functionParts(std::string_view(lower).substr(open + 1, lower.size() - open - 2), v, percent)) {
      const double alpha = v.size() == 4 ? (percent[3] ? v[3] / 100 : v[3]) : 1;
      const auto part = [&](std::size_t i) { return share(percent[i] ? v[i] / 100 : v[i] / 255); };
      if (function == "rgb" || function == "rgba") return Colour{part(0), part(1), part(2), share(alpha)};
      if (function == "hsl" || function == "hsla") {
        const auto held = [](double x) { return std::clamp(x / 100, 0.0, 1.0); };
        return fromHsl(v[0], held(v[1]), held(v[2]), alpha);
      }
      if (function == "oklab" || function == "oklch") {
        // CSS Color Level 4, sections 9.3 and 9.4: 100 % are a lightness of 1, and 0.4 of the other two.
        const double lightness = std::clamp(percent[0] ? v[0] / 100 : v[0], 0.0, 1.0);
        const auto chroma = [&](std::size_t i) { return std::clamp(percent[i] ? v[i] * 0.004 : v[i], -2.0, 2.0); };
        OkLab lab{lightness, chroma(1), 0};
        if (function == "oklab") {
          lab.b = chroma(2);
        } else {
          const double hue = v[2] * std::numbers::pi / 180;
          const double strength = std::max(0.0, lab.a);
          lab.a = strength * std::cos(hue);
          lab.b = strength * std::sin(hue);
        }
        Colour colour = fromOkLab(lab);
        colour.a = share(alpha);
        return colour;
      }
    }
  }
  return fail("\"" + std::string(text.substr(0, 40)) + "\" is not a colour like #1f7672, rgb(31, 118, 114) or teal");
}

PaletteFormat paletteFormatOf(std::string_view fileName) {
  const auto ends = [&](std::string_view end) {
    return fileName.size() >= end.size() && fileName.substr(fileName.size() - end.size()) == end;
  };
  if (ends(".gpl")) return PaletteFormat::Gimp;
  if (ends(".pal")) return PaletteFormat::Jasc;
  if (ends(".css")) return PaletteFormat::Css;
  return PaletteFormat::Hex;
}

Result<Palette> paletteFromText(std::string_view text) {
  if (text.substr(0, 3) == "\xEF\xBB\xBF") text.remove_prefix(3);
  // In the bytes of a picture anything can be found, colours too.
  if (text.find('\0') != std::string_view::npos) return fail("is not text: a palette is a GIMP or JASC palette file, or text with colours");
  std::string_view first;
  Lines(text).next(first);
  auto palette = first.substr(0, 12) == "GIMP Palette" ? readGimp(text) : first == "JASC-PAL" ? readJasc(text) : readColours(text);
  if (palette && palette->colours.empty())
    return fail("holds no colours; a palette is a GIMP or JASC palette file, or text with colours like #1f7672");
  return palette;
}

std::string paletteToText(const Palette& palette, PaletteFormat format) {
  std::string text;
  // A name must not break the line it stands on.
  std::string name = palette.name.substr(0, kMostNameBytes);
  std::replace_if(
      name.begin(), name.end(), [](unsigned char c) { return c < 32; }, ' ');
  if (format == PaletteFormat::Gimp) text = "GIMP Palette\nName: " + name + "\nColumns: 8\n#\n";
  if (format == PaletteFormat::Jasc) text = "JASC-PAL\r\n0100\r\n" + std::to_string(palette.colours.size()) + "\r\n";
  if (format == PaletteFormat::Css) text = ":root {\n";
  int number = 0;
  for (const Colour& colour : palette.colours) {
    const auto byte = [](float v) { return static_cast<int>(std::lround(std::clamp(v, 0.0f, 1.0f) * 255)); };
    char line[96];
    if (format == PaletteFormat::Gimp)
      std::snprintf(line, sizeof line, "%3d %3d %3d\t%s\n", byte(colour.r), byte(colour.g), byte(colour.b), colourText(colour).c_str());
    else if (format == PaletteFormat::Jasc)
      std::snprintf(line, sizeof line, "%d %d %d\r\n", byte(colour.r), byte(colour.g), byte(colour.b));
    else if (format == PaletteFormat::Css)
      std::snprintf(line, sizeof line, "  --colour-%d: %s;\n", ++number, colourText(colour).c_str());
    else
      std::snprintf(line, sizeof line, "%s\n", colourText(colour).c_str());
    text += line;
  }
  if (format == PaletteFormat::Css) text += "}\n";
  return text;
}

Result<Palette> readPalette(const std::string& path) {
  const auto text = readFile(path, kMostBytes);
  if (!text) return tl::unexpected(text.error());
  auto palette = paletteFromText(*text);
  if (!palette) {
    const Error& e = palette.error();
    return fail(e.where.empty() ? e.message : e.where + " " + e.message, path);
  }
  if (palette->name.empty()) palette->name = std::filesystem::path(path).stem().string();
  return palette;
}

Status writePalette(const std::string& path, const Palette& palette) {
  return writeFileAtomically(path, paletteToText(palette, paletteFormatOf(path)));
}

}  // namespace oa
