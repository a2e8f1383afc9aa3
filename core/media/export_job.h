// What the formats of an export have in common. Each format is one function in a file of its own.
#pragma once

#include "base/output_file.h"
#include "media/export.h"
#include "media/frame_source.h"
#include "media/movie_writer.h"
#include "render/frame_team.h"

namespace oa {

Result<ExportResult> exportVideo(const Scene& scene, const ExportSettings& settings, const ProgressFunction& progress);
Result<ExportResult> exportGif(const Scene& scene, const ExportSettings& settings, const ProgressFunction& progress);
Result<ExportResult> exportWebp(const Scene& scene, const ExportSettings& settings, const ProgressFunction& progress);
Result<ExportResult> exportApng(const Scene& scene, const ExportSettings& settings, const ProgressFunction& progress);
Result<ExportResult> exportPage(const Scene& scene, const ExportSettings& settings, const ProgressFunction& progress);
Result<ExportResult> exportPng(const Scene& scene, const ExportSettings& settings, const ProgressFunction& progress);

/// Who renders a frame, and who renders many. `opaque`: what lets something through is laid on black, as players would show it.
Renderer exportRenderer(const Scene& scene, const ExportSettings& settings, const ExportPlan& plan, int width, int height, bool opaque);
FrameTeam exportTeam(const Scene& scene, const ExportSettings& settings, const ExportPlan& plan, int width, int height, bool opaque);

/// How a movie of a plan is made, but for its sound.
MovieSettings movieFor(const Scene& scene, const ExportSettings& settings, const ExportPlan& plan, int width, int height);

/// Renders all frames of a plan for a movie's writer, in the form that it takes.
Result<bool> pumpMovie(const Scene& scene, const ExportSettings& settings, const ExportPlan& plan, const MovieSettings& movie,
                       MovieWriter& writer, const ProgressFunction& progress);

/// Animated pictures hold the loop once, and where `shorter` allows it, only the shorter run that it repeats, played so much more often.
void holdOnce(ExportPlan& plan, const Scene& scene, bool shorter, std::int64_t& plays);

/// The first frame that is handed over, as a PNG file.
Result<std::string> posterOf(const Scene& scene, const ExportSettings& settings, bool alpha);

void addNote(ExportResult& result, const std::string& note);

/// The message of an error names the file the user asked for, not its working name.
template <class T>
Result<T> named(Result<T> result, const std::string& path) {
  if (!result) result.error().where = path;
  return result;
}

/// What `pump` came to: ends the file and gives it its name, unless it failed or was cancelled, which `result` then tells.
template <class Writer>
Status handOver(const Result<bool>& pumped, Writer& writer, OutputFile& file, const std::string& path, ExportResult& result) {
  if (!pumped) return tl::unexpected(pumped.error());
  result.cancelled = !*pumped;
  if (result.cancelled) return {};
  if (auto ok = named(writer.finish(), path); !ok) return ok;
  return file.keep();
}

}  // namespace oa
