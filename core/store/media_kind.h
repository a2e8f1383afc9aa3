// What a file is, by its content: the only kinds that are opened at all.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace oa {

enum class MediaKind { Png, Jpeg, WebP, Gif, Tiff, Avif, Bmp, Exr, JpegXl, Svg, Mp4, Matroska, Wav, Flac, Ogg, Mp3, Aac };
/// Containers of clips may hold sound alone.
enum class MediaClass { Picture, Clip, Sound };
MediaClass classOf(MediaKind kind);

/// By the first bytes (kKindBytes are enough), whatever the file is called; none: nothing that can be read.
std::optional<MediaKind> kindOf(std::string_view bytes);
inline constexpr std::size_t kKindBytes = 4096;

/// "PNG", "JPEG", ... for the user.
std::string_view kindName(MediaKind kind);
/// All of a class: "PNG, JPEG, ... and SVG".
std::string kindList(MediaClass of);
/// Whether a picture of a kind that may hold several begins as those do that hold them.
bool mayMove(MediaKind kind, std::string_view bytes);
/// Whether a file begins as a picture or drawing does.
bool isPicture(const std::string& path);
/// By how a file begins; none: nothing that can be read.
std::optional<MediaClass> classOfFile(const std::string& path);

}  // namespace oa
