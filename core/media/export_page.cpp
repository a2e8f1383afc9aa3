// A loop for a web page: the movie twice, for all browsers, a picture until it runs, and the lines that show it.
#include <filesystem>

#include "base/files.h"
#include "base/markup.h"
#include "media/export_job.h"
#include "media/png.h"

namespace oa {
namespace {

namespace fs = std::filesystem;

// Names may hold anything; in an address all but letters, digits and a few marks are written as
// bytes (RFC 3986, 2.1).
std::string address(const std::string& name) {
  std::string out;
  for (const char c : name) {
    const auto byte = static_cast<unsigned char>(c);
    const bool plain = (byte >= '0' && byte <= '9') || (byte >= 'a' && byte <= 'z') || (byte >= 'A' && byte <= 'Z') || c == '-' ||
                       c == '_' || c == '.' || c == '~';
    constexpr char kHex[] = "0123456789ABCDEF";
    if (plain)
      out += c;
    else
      out += {'%', kHex[byte >> 4], kHex[byte & 15]};
  }
  return out;
}

}  // namespace

Result<std::string> posterOf(const Scene& scene, const ExportSettings& s, bool alpha) {
  const auto plan = planExport(scene, s);
  if (!plan) return tl::unexpected(plan.error());
  // Of a run that begins with nothing, what it comes to.
  const RunLength run = runOf(scene);
  const bool begins = !s.range && s.part != RunPart::Loop && s.part != RunPart::Leave && run.arrive > 0;
  Renderer renderer = exportRenderer(scene, s, *plan, s.width, s.height, !alpha);
  Frame8 frame;
  renderInto(renderer, begins ? run.arrive : plan->first(), Alpha::Straight, frame);
  return encodePng(frame, alpha);
}

Result<ExportResult> exportPage(const Scene& scene, const ExportSettings& s, const ProgressFunction& progress) {
  const fs::path target(s.path);
  const fs::path folder = target.has_parent_path() ? target.parent_path() : fs::path(".");
  const std::string base = target.stem().string();
  auto folders = MadeFolders::above(s.path);
  if (!folders) return tl::unexpected(folders.error());
  auto work = WorkFolder::begin(folder.string(), base);
  if (!work) return tl::unexpected(work.error());
  const auto inWork = [&](const std::string& name) { return (fs::path(work->path()) / name).string(); };
  const std::vector<std::string> names{base + ".webm", base + ".mp4", base + "-poster.png", base + ".html"};
  ExportSettings part = s;
  // Pages play without a sound until somebody asks for it.
  part.sound = false;
  ExportResult result;
  for (const ExportFormat format : {ExportFormat::WebM, ExportFormat::Mp4}) {
    const bool first = format == ExportFormat::WebM;
    part.format = format;
    part.path = inWork(names[first ? 0 : 1]);
    part.alpha = s.alpha && formatHasAlpha(format);
    auto done = exportVideo(scene, part, [&](const ExportProgress& p) {
      return !progress || progress({p.done + (first ? 0 : p.total), p.total * 2, first ? -1 : p.secondsLeft, p.rendering, p.encoding});
    });
    if (!done) return fail(done.error().message, s.path);
    result.cancelled = done->cancelled;
    if (result.cancelled) return result;
    result.frames = done->frames;
    if (first) addNote(result, done->note);
  }
  const auto poster = posterOf(scene, s, s.alpha);
  if (!poster) return tl::unexpected(poster.error());
  if (auto ok = writeFileAtomically(inWork(names[2]), *poster); !ok) return fail(ok.error().message, s.path);
  const std::string size = "width=\"" + std::to_string(s.width) + "\" height=\"" + std::to_string(s.height) + "\"";
  const std::string html = "<!doctype html>\n<html lang=\"en\">\n<meta charset=\"utf-8\">\n<title>" + markupText(scene.name) +
                           "</title>\n<!-- From here to the end of the video: to be copied into a page. -->\n<video " + size +
                           " autoplay loop muted playsinline poster=\"" + address(names[2]) +
                           "\" style=\"max-width: 100%; height: auto\">\n" + "  <source src=\"" + address(names[0]) +
                           "\" type=\"video/webm; codecs=vp9\">\n" + "  <source src=\"" + address(names[1]) + "\" type=\"video/mp4\">\n" +
                           "  <img src=\"" + address(names[2]) + "\" " + size + " alt=\"" + markupText(scene.name) +
                           "\">\n</video>\n</html>\n";
  if (auto ok = writeFileAtomically(inWork(names[3]), html); !ok) return fail(ok.error().message, s.path);
  if (auto ok = work->moveInto(folder.string(), names); !ok) return fail(ok.error().message, s.path);
  folders->keep();
  addNote(result, base + ".webm, " + base + ".mp4 and " + base + "-poster.png belong to it");
  return result;
}

}  // namespace oa
