#include "media/export.h"

#include <algorithm>
#include <filesystem>
#include <system_error>

#include "base/output_file.h"
#include "media/export_job.h"
#include "media/numbering.h"
#include "render/budget.h"

namespace oa {

Renderer exportRenderer(const Scene& scene, const ExportSettings& s, int width, int height, bool opaque) {
  Scene copy = scene;
  if (opaque) {
    const Colour c = copy.background.value_or(Colour{0, 0, 0, 0});
    copy.background = Colour{c.r * c.a, c.g * c.a, c.b * c.a, 1};
  }
  RenderOptions options;
  options.manyFrames = true;
  options.threads = s.threads;
  return Renderer(std::move(copy), width, height, options);
}

void addNote(ExportResult& result, const std::string& note) {
  if (note.empty()) return;
  result.note += (result.note.empty() ? "" : "; ") + note;
}

bool hasTransparency(const Scene& scene) { return !scene.background || scene.background->a < 1; }

Result<ExportFormat> formatForPath(const std::string& path) {
  std::error_code ignored;
  if (!path.empty() && (path.back() == '/' || std::filesystem::is_directory(path, ignored))) return ExportFormat::Png;
  std::string suffix = std::filesystem::path(path).extension().string();
  std::transform(suffix.begin(), suffix.end(), suffix.begin(),
                 [](unsigned char c) { return static_cast<char>(c >= 'A' && c <= 'Z' ? c + 32 : c); });
  for (const ExportFormat f : {ExportFormat::Mp4, ExportFormat::WebM, ExportFormat::Gif, ExportFormat::Png})
    if (suffix == formatSuffix(f)) return f;
  return fail("the name must end in .mp4, .webm, .gif or .png, or be a folder", path);
}

std::string_view formatSuffix(ExportFormat format) {
  static constexpr std::string_view kSuffixes[] = {".mp4", ".webm", ".gif", ".png"};
  return kSuffixes[static_cast<std::size_t>(format)];
}

bool formatHasAlpha(ExportFormat format) { return format != ExportFormat::Mp4; }

bool exportReplaces(const ExportSettings& settings) {
  if (settings.format == ExportFormat::Png)
    if (const auto numbering = numberingFor(settings.path); numbering && numbering->numbered) return numbering->anyThere();
  const auto place = placeOf(settings.path);
  return place && place->kind == PlaceKind::File;
}

Result<ExportResult> exportScene(const Scene& scene, const ExportSettings& s, const ProgressFunction& progress) {
  if (s.path.empty()) return fail("no file name was given");
  if (s.width < 1 || s.height < 1 || s.width > kMaxFrameSize || s.height > kMaxFrameSize)
    return fail("the size must lie between 1 x 1 and " + std::to_string(kMaxFrameSize) + " x " + std::to_string(kMaxFrameSize));
  if (s.loops < 1 || s.loops > 10000) return fail("the number of loops must lie between 1 and 10000");
  if (s.plays < 0 || s.plays > 65535) return fail("the number of plays must lie between 0 (for ever) and 65535");
  if (auto plan = planExport(scene, s); !plan) return tl::unexpected(plan.error());
  if (auto fits = fitsBudget(scene, s.width, s.height); !fits) return tl::unexpected(fits.error());
  Result<ExportResult> result;
  switch (s.format) {
    case ExportFormat::Mp4:
    case ExportFormat::WebM:
      result = exportVideo(scene, s, progress);
      break;
    case ExportFormat::Gif:
      result = exportGif(scene, s, progress);
      break;
    case ExportFormat::Png:
      result = exportPng(scene, s, progress);
      break;
  }
  if (!result || result->cancelled) return result;
  const bool png = s.format == ExportFormat::Png;
  if (s.alpha && !formatHasAlpha(s.format)) addNote(*result, "this format holds no transparency, so the picture lies on black");
  if (s.pngBits == 16 && !png) addNote(*result, "16 bits a channel are for PNG pictures; this file has 8");
  if (s.plays > 0 && s.format != ExportFormat::Gif) addNote(*result, "a count of plays is for GIFs");
  return result;
}

}  // namespace oa
