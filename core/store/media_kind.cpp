#include "store/media_kind.h"

#include <algorithm>
#include <vector>

#include "base/files.h"

namespace oa {
namespace {

constexpr std::string_view kNames[] = {"PNG", "JPEG", "WebP", "GIF", "TIFF", "AVIF", "BMP", "OpenEXR", "JPEG XL",
                                       "SVG", "MP4",  "WebM", "WAV", "FLAC", "Ogg",  "MP3", "AAC"};

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
  if (has(4, "ftyp"sv) || has(4, "moov"sv) || has(4, "wide"sv) || has(4, "mdat"sv)) return MediaKind::Mp4;
  if (has(0, "\x1a\x45\xdf\xa3"sv)) return MediaKind::Matroska;
  if (has(0, "RIFF"sv) && has(8, "WAVE"sv)) return MediaKind::Wav;
  if (has(0, "fLaC"sv)) return MediaKind::Flac;
  if (has(0, "OggS"sv)) return MediaKind::Ogg;
  if (has(0, "\xff\x0a"sv) || has(0, "\0\0\0\x0cJXL \r\n\x87\n"sv)) return MediaKind::JpegXl;
  if (has(0, "BM"sv) && bytes.size() >= 26) return MediaKind::Bmp;
  if (isSvg(bytes)) return MediaKind::Svg;
  if (has(0, "ID3"sv)) return MediaKind::Mp3;
  // Frames that begin with eleven set bits; AAC has no layer there.
  if (bytes.size() > 2 && bytes[0] == '\xff' && (bytes[1] & 0xe0) == 0xe0) return (bytes[1] & 6) == 0 ? MediaKind::Aac : MediaKind::Mp3;
  return std::nullopt;
}

std::string_view kindName(MediaKind kind) { return kNames[static_cast<std::size_t>(kind)]; }

std::string kindList(MediaClass of) {
  std::vector<std::string_view> names;
  for (std::size_t i = 0; i < std::size(kNames); ++i)
    if (classOf(static_cast<MediaKind>(i)) == of) names.push_back(kNames[i]);
  std::string list;
  for (std::size_t i = 0; i < names.size(); ++i) list += (i == 0 ? "" : i + 1 == names.size() ? " and " : ", ") + std::string(names[i]);
  return list;
}

MediaClass classOf(MediaKind kind) {
  if (kind <= MediaKind::Svg) return MediaClass::Picture;
  return kind <= MediaKind::Matroska ? MediaClass::Clip : MediaClass::Sound;
}

bool mayMove(MediaKind kind, std::string_view bytes) {
  // The flags of an extended file's header (RFC 9649, section 2.7.1).
  if (kind == MediaKind::WebP) return bytes.size() > 20 && bytes.substr(12, 4) == "VP8X" && (bytes[20] & 2) != 0;
  // The chunk comes before the first picture's data.
  if (kind == MediaKind::Png) return bytes.substr(0, std::min(bytes.find("IDAT"), kKindBytes)).find("acTL") != std::string_view::npos;
  return kind == MediaKind::Gif || classOf(kind) == MediaClass::Clip;
}

bool isPicture(const std::string& path) { return classOfFile(path) == MediaClass::Picture; }

std::optional<MediaClass> classOfFile(const std::string& path) {
  const auto kind = kindOf(beginningOfFile(path, kKindBytes));
  return kind ? std::optional(classOf(*kind)) : std::nullopt;
}

}  // namespace oa
