#include "store/media_kind.h"

#include "base/files.h"

namespace oa {
namespace {

constexpr std::string_view kNames[] = {"PNG", "JPEG", "WebP", "GIF", "TIFF", "AVIF", "BMP", "OpenEXR", "JPEG XL", "SVG"};

// An XML text whose first element is svg, after declarations and comments.
bool isSvg(std::string_view text) {
  if (text.substr(0, 3) == "\xef\xbb\xbf") text.remove_prefix(3);
  for (;;) {
    const std::size_t at = text.find_first_not_of(" \t\r\n");
    if (at == std::string_view::npos || text[at] != '<') return false;
    text.remove_prefix(at);
    if (text.substr(0, 4) == "<svg" || text.substr(0, 8) == "<svg:svg") return true;
    const bool comment = text.substr(0, 4) == "<!--";
    if (!comment && text.substr(0, 2) != "<?" && text.substr(0, 2) != "<!") return false;
    const std::size_t end = text.find(comment ? "-->" : ">");
    if (end == std::string_view::npos) return false;
    text.remove_prefix(end + (comment ? 3 : 1));
  }
}

}  // namespace

std::optional<MediaKind> kindOf(std::string_view bytes) {
  using namespace std::string_view_literals;
  const auto has = [&](std::size_t at, std::string_view what) {
    return bytes.size() >= at + what.size() && bytes.substr(at, what.size()) == what;
  };
  if (has(0, "\x89PNG\r\n\x1a\n"sv)) return MediaKind::Png;
  if (has(0, "\xff\xd8\xff"sv)) return MediaKind::Jpeg;
  if (has(0, "RIFF"sv) && has(8, "WEBP"sv)) return MediaKind::WebP;
  if (has(0, "GIF87a"sv) || has(0, "GIF89a"sv)) return MediaKind::Gif;
  if (has(0, "II*\0"sv) || has(0, "MM\0*"sv)) return MediaKind::Tiff;
  if (has(4, "ftypavif"sv) || has(4, "ftypavis"sv)) return MediaKind::Avif;
  if (has(0, "\x76\x2f\x31\x01"sv)) return MediaKind::Exr;
  if (has(0, "\xff\x0a"sv) || has(0, "\0\0\0\x0cJXL \r\n\x87\n"sv)) return MediaKind::JpegXl;
  if (has(0, "BM"sv) && bytes.size() >= 26) return MediaKind::Bmp;
  if (isSvg(bytes)) return MediaKind::Svg;
  return std::nullopt;
}

std::string_view kindName(MediaKind kind) { return kNames[static_cast<std::size_t>(kind)]; }

std::string kindList() {
  std::string list;
  constexpr std::size_t count = std::size(kNames);
  for (std::size_t i = 0; i < count; ++i) list += (i == 0 ? "" : i + 1 == count ? " and " : ", ") + std::string(kNames[i]);
  return list;
}

bool isPicture(const std::string& path) { return kindOf(beginningOfFile(path, kKindBytes)).has_value(); }

}  // namespace oa
