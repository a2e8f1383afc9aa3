// MP4 and WebM.
#include "media/export_job.h"
#include "media/movie_writer.h"

namespace oa {

Result<ExportResult> exportVideo(const Scene& scene, const ExportSettings& s, const ProgressFunction& progress) {
  ExportResult result;
  const int width = s.width + s.width % 2;
  const int height = s.height + s.height % 2;
  if (width != s.width || height != s.height)
    addNote(result, "this format needs even sizes, so the file is " + std::to_string(width) + " x " + std::to_string(height));
  const bool alpha = s.alpha && s.format == ExportFormat::WebM;
  const auto plan = planExport(scene, s);
  if (!plan) return tl::unexpected(plan.error());
  auto file = OutputFile::begin(s.path, s.format == ExportFormat::WebM);
  if (!file) return tl::unexpected(file.error());
  const MovieSettings movie{s.format, width, height, scene.rate, alpha, plan->count, plan->repeats, s.threads};
  auto writer = named(MovieWriter::open(*file, movie), s.path);
  if (!writer) return tl::unexpected(writer.error());
  Renderer renderer = exportRenderer(scene, s, width, height, !alpha);
  const auto done = named(pump<FrameYuv>(
                              plan->first, plan->count, [&](std::int64_t k, FrameYuv& frame) { renderInto(renderer, k, alpha, frame); },
                              [&](const FrameYuv& frame, int) { return (*writer)->add(frame); }, progress),
                          s.path);
  if (auto ok = handOver(done, **writer, *file, s.path, result); !ok) return tl::unexpected(ok.error());
  if (result.cancelled) return result;
  result.frames = plan->count * plan->repeats;
  return result;
}

}  // namespace oa
