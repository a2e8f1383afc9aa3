// Handing a loop over as a file: video, animated picture or numbered pictures.
#pragma once

#include <cstdint>
#include <functional>
#include <optional>
#include <string>
#include <vector>

#include "media/formats.h"
#include "scene/run.h"

namespace oa {

/// Quick is as near to the picture as Good is, in a larger file that is there sooner.
enum class ExportQuality { Quick, Small, Good, Best };
enum class GifDither { None, Pattern, Diffusion };

struct ExportSettings {
  ExportFormat format = ExportFormat::Mp4;
  std::string path;  ///< a file; for PNG a folder or a name with a %04d in it; `-`: standard output, where the format can be streamed
  int width = 1920;
  int height = 1080;
  int loops = 1;  ///< how often the loop stands in the file; animated pictures hold it once
  RunPart part = RunPart::Loop;
  int plays = 0;       ///< GIF, WebP, APNG: how often players show the loop; 0: for ever
  bool alpha = false;  ///< where the format has it; in a GIF all or nothing per pixel
  int bits = 8;        ///< of a channel: 8, 10 or 16; more than the format has are as many as it has
  /// Of movies and animated WebP: how near to the picture, against the size of the file and the time it takes.
  ExportQuality quality = ExportQuality::Good;
  /// Of movies that can be sized: so many kilobits a second, or a file of at most so many megabytes (of a million bytes); 0: neither.
  int kilobits = 0;
  double megabytes = 0;
  GifDither gifDither = GifDither::Pattern;
  bool poster = false;  ///< of movies: the first frame as a picture beside the file, named after it
  bool sound = true;    ///< where the format has it and the scene has one
  int threads = 0;
  /// First and last frame, both included and read modulo the loop; none: the whole loop once.
  std::optional<std::pair<std::int64_t, std::int64_t>> range;
};

struct ExportProgress {
  std::int64_t done = 0;
  std::int64_t total = 0;
  double secondsLeft = 0;  ///< negative while unknown
  // Seconds so far: rendering, and what the encoder took beside it.
  double rendering = 0;
  double encoding = 0;
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

/// Whether the scene lets something through where no layer covers it: then formats that can keep alpha, and only then unless
/// they are asked to.
[[nodiscard]] bool hasTransparency(const Scene& scene);

/// Whether exporting there would replace something, or put pictures among others of the same names.
[[nodiscard]] bool exportReplaces(const ExportSettings& settings);

/// Renders and encodes at the same time. The file appears under its name only when it is whole; after an
/// error or a cancel nothing is left behind.
Result<ExportResult> exportScene(const Scene& scene, const ExportSettings& settings, const ProgressFunction& progress);

}  // namespace oa
