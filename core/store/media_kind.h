// What a file is, by its content: the only kinds that are opened at all.
#pragma once

#include <optional>
#include <string>
#include <string_view>

namespace oa {

enum class MediaKind { Png, Jpeg, WebP, Gif, Tiff, Avif, Bmp, Exr, JpegXl, Svg };

/// By the first bytes (kKindBytes are enough), whatever the file is called; none: not a picture that can be read.
std::optional<MediaKind> kindOf(std::string_view bytes);
inline constexpr std::size_t kKindBytes = 4096;

/// "PNG", "JPEG", ... for the user.
std::string_view kindName(MediaKind kind);
/// All of them: "PNG, JPEG, ... and SVG".
std::string kindList();
/// Whether a file begins as a picture or drawing does.
bool isPicture(const std::string& path);

}  // namespace oa
