// Handing a loop over as a file: video, animated picture or numbered pictures.
#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "scene/scene.h"

namespace oa {

enum class ExportFormat { Mp4, WebM, Gif, Png };
enum class GifDither { None, Pattern, Diffusion };

struct ExportSettings {
  ExportFormat format = ExportFormat::Mp4;
  std::string path;  ///< a file; for PNG a folder or a name with a %04d in it; `-`: standard output, where the format can be streamed
  int width = 1920;
  int height = 1080;
  int loops = 1;       ///< how often the loop stands in the file; a GIF holds it once
  int plays = 0;       ///< GIF: how often players show the loop; 0: for ever
  bool alpha = false;  ///< WebM, PNG and GIF (there all or nothing per pixel)
  int pngBits = 8;     ///< 8 or 16
  GifDither gifDither = GifDither::Pattern;
  int threads = 0;
  /// First and last frame, both included and read modulo the loop; none: the whole loop once.
  std::optional<std::pair<std::int64_t, std::int64_t>> range;
};

struct ExportProgress {
  std::int64_t done = 0;
  std::int64_t total = 0;
  double secondsLeft = 0;  ///< negative while unknown
};
/// Called after each frame; returning false cancels.
using ProgressFunction = std::function<bool(const ExportProgress&)>;

struct ExportResult {
  bool cancelled = false;
  std::int64_t frames = 0;  ///< frames in the file, all loops counted
  std::string note;         ///< what had to differ from what was asked, or empty
};

/// Most frames that one file may hold, all loops counted: 19 days at 60 a second.
inline constexpr std::int64_t kMostExportedFrames = 100000000;

/// The format that a file name's ending asks for, in any case; a folder or a %04d pattern means PNG.
Result<ExportFormat> formatForPath(const std::string& path);
std::string_view formatSuffix(ExportFormat format);
[[nodiscard]] bool formatHasAlpha(ExportFormat format);

/// Whether the scene lets something through where no layer covers it: then formats that can keep alpha, and only then unless
/// they are asked to.
[[nodiscard]] bool hasTransparency(const Scene& scene);

/// Whether exporting there would replace something, or put pictures among others of the same names.
[[nodiscard]] bool exportReplaces(const ExportSettings& settings);

/// Renders and encodes at the same time. The file appears under its name only when it is whole; after an
/// error or a cancel nothing is left behind.
Result<ExportResult> exportScene(const Scene& scene, const ExportSettings& settings, const ProgressFunction& progress);

}  // namespace oa
