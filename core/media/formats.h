// What a loop can be handed over as.
#pragma once

#include <span>
#include <string>
#include <string_view>

#include "base/result.h"

namespace oa {

enum class ExportFormat { Mp4, H265, WebM, Av1, ProRes, Ffv1, Gif, WebP, Apng, Png, Page };

struct FormatSpec {
  ExportFormat format;
  std::string_view name;       ///< on the command line: "h264"
  std::string_view suffix;     ///< ".mp4"
  std::string_view container;  ///< FFmpeg's name of it; empty: not written by FFmpeg
  std::string_view title;
  std::string_view use;  ///< what it is for, in a line
  bool alpha = false;
  bool sound = false;
  bool sized = false;  ///< can be made to fit a size in MB, or a bit rate
  bool even = false;   ///< its sides are even
  bool plays = false;  ///< holds the loop once, and says how often it is shown
  int deep = 8;        ///< most bits a channel; 8 is there as well
  [[nodiscard]] bool movie() const { return !container.empty() && !plays; }
};

/// In the order in which they are offered.
std::span<const FormatSpec> exportFormats();
const FormatSpec& formatSpec(ExportFormat format);

/// The format that a file name's ending asks for, in any case: of several the first one. A folder or a %04d pattern means PNG.
Result<ExportFormat> formatForPath(const std::string& path);
/// By FormatSpec::name, or by an ending without its dot.
Result<ExportFormat> formatForName(std::string_view name);
inline std::string_view formatSuffix(ExportFormat format) { return formatSpec(format).suffix; }
[[nodiscard]] inline bool formatHasAlpha(ExportFormat format) { return formatSpec(format).alpha; }

}  // namespace oa
