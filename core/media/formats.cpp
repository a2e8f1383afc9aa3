#include "media/formats.h"

#include <algorithm>
#include <filesystem>

namespace oa {
namespace {

constexpr FormatSpec kFormats[] = {
    {.format = ExportFormat::Mp4,
     .name = "h264",
     .suffix = ".mp4",
     .container = "mp4",
     .title = "MP4 video (H.264)",
     .use = "Opens everywhere: players, slides, editors, phones.",
     .sound = true,
     .sized = true,
     .even = true},
    {.format = ExportFormat::H265,
     .name = "h265",
     .suffix = ".mp4",
     .container = "mp4",
     .title = "MP4 video (H.265)",
     .use = "Smaller than H.264, and with 10 bits smoother; for newer players and stage servers.",
     .sound = true,
     .sized = true,
     .even = true,
     .deep = 10},
    {.format = ExportFormat::WebM,
     .name = "vp9",
     .suffix = ".webm",
     .container = "webm",
     .title = "WebM video (VP9)",
     .use = "For web pages, also see-through.",
     .alpha = true,
     .sound = true,
     .sized = true,
     .even = true},
    {.format = ExportFormat::Av1,
     .name = "av1",
     .suffix = ".webm",
     .container = "webm",
     .title = "WebM video (AV1)",
     .use = "For web pages that must be light; slow to make.",
     .sound = true,
     .sized = true,
     .even = true,
     .deep = 10},
    {.format = ExportFormat::ProRes,
     .name = "prores",
     .suffix = ".mov",
     .container = "mov",
     .title = "MOV video (ProRes 4444)",
     .use = "For editing, see-through, 10 bits, hardly any loss; large.",
     .alpha = true,
     .sound = true,
     .even = true,
     .deep = 10},
    {.format = ExportFormat::Ffv1,
     .name = "ffv1",
     .suffix = ".mkv",
     .container = "matroska",
     .title = "MKV video (FFV1)",
     .use = "Without any loss, see-through, for archives and further work; very large.",
     .alpha = true,
     .sound = true,
     .deep = 16},
    {.format = ExportFormat::Gif,
     .name = "gif",
     .suffix = ".gif",
     .container = "",
     .title = "GIF",
     .use = "For slides, mails and pages that take nothing else; 256 colours.",
     .alpha = true,
     .plays = true},
    {.format = ExportFormat::WebP,
     .name = "webp",
     .suffix = ".webp",
     .container = "",
     .title = "WebP, animated",
     .use = "For pages and chats: a GIF in all colours, see-through and smaller.",
     .alpha = true,
     .plays = true},
    {.format = ExportFormat::Apng,
     .name = "apng",
     .suffix = ".apng",
     .container = "apng",
     .title = "APNG, animated",
     .use = "For pages, without any loss and see-through; large.",
     .alpha = true,
     .plays = true,
     .deep = 16},
    {.format = ExportFormat::Png,
     .name = "png",
     .suffix = ".png",
     .container = "",
     .title = "PNG pictures, numbered",
     .use = "For every program that reads pictures; one file for each frame.",
     .alpha = true,
     .deep = 16},
    {.format = ExportFormat::Page,
     .name = "page",
     .suffix = ".html",
     .container = "",
     .title = "Web page",
     .use = "A page to copy from: WebM and MP4 for all browsers, muted and looped, with a picture until they run.",
     .alpha = true,
     .even = true},
};

}  // namespace

std::span<const FormatSpec> exportFormats() { return kFormats; }

const FormatSpec& formatSpec(ExportFormat format) {
  return *std::find_if(std::begin(kFormats), std::end(kFormats), [&](const FormatSpec& f) { return f.format == format; });
}

Result<ExportFormat> formatForName(std::string_view name) {
  std::string all;
  for (const FormatSpec& f : kFormats) {
    if (f.name == name) return f.format;
    all += (all.empty() ? "" : ", ") + std::string(f.name);
  }
  for (const FormatSpec& f : kFormats)
    if (f.suffix.substr(1) == name) return f.format;
  return fail("\"" + std::string(name.substr(0, 40)) + "\" is not one of: " + all);
}

Result<ExportFormat> formatForPath(const std::string& path) {
  std::error_code ignored;
  if (!path.empty() && (path.back() == '/' || std::filesystem::is_directory(path, ignored))) return ExportFormat::Png;
  std::string suffix = std::filesystem::path(path).extension().string();
  std::transform(suffix.begin(), suffix.end(), suffix.begin(),
                 [](unsigned char c) { return static_cast<char>(c >= 'A' && c <= 'Z' ? c + 32 : c); });
  for (const FormatSpec& f : kFormats)
    if (suffix == f.suffix) return f.format;
  return fail("the name must end in .mp4, .webm, .mov, .mkv, .gif, .webp, .apng, .html or .png, or be a folder", path);
}

}  // namespace oa
