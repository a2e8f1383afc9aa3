// An animated PNG.
#include <algorithm>

#include "media/export_job.h"
#include "media/movie_writer.h"

namespace oa {

Result<ExportResult> exportApng(const Scene& scene, const ExportSettings& s, const ProgressFunction& progress) {
  ExportResult result;
  auto plan = planExport(scene, s);
  if (!plan) return tl::unexpected(plan.error());
  std::int64_t plays = s.plays;
  holdOnce(*plan, scene, true, plays);
  if (plays > 65535) return fail("that is more plays than an APNG can count: 65535 of its own run of frames", s.path);
  auto file = OutputFile::begin(s.path, false);
  if (!file) return tl::unexpected(file.error());
  MovieSettings movie = movieFor(scene, s, *plan, s.width, s.height);
  movie.plays = static_cast<int>(plays);
  auto writer = named(MovieWriter::open(*file, movie), s.path);
  if (!writer) return tl::unexpected(writer.error());
  const auto done = named(pumpMovie(scene, s, *plan, movie, **writer, progress), s.path);
  if (auto ok = handOver(done, **writer, *file, s.path, result); !ok) return tl::unexpected(ok.error());
  if (result.cancelled) return result;
  result.frames = plan->frames();
  if (s.loops > 1) addNote(result, "an animated picture holds the loop once; how often it is shown is told by its count of plays");
  return result;
}

}  // namespace oa
