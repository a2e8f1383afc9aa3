// An animated GIF with one palette for the whole loop.
#include <algorithm>
#include <cmath>

#include "media/export_job.h"
#include "media/gif_timing.h"
#include "media/gif_writer.h"
#include "media/palette256.h"

namespace oa {
namespace {

// Up to 24 frames of the run, made small: the palette is chosen from them. Fewer where the user called it off.
std::vector<Frame8> samplesOf(const Scene& scene, const ExportSettings& s, const ExportPlan& plan, const ProgressFunction& progress) {
  const double shrink = std::min(1.0, 320.0 / std::max(s.width, s.height));
  Renderer small = exportRenderer(scene, s, plan, std::max(1, static_cast<int>(s.width * shrink)),
                                  std::max(1, static_cast<int>(s.height * shrink)), !s.alpha);
  const std::int64_t count = std::min<std::int64_t>(24, plan.rendered());
  std::vector<Frame8> samples;
  for (std::int64_t i = 0; i < count; ++i) {
    if (progress && !progress({0, plan.frames(), -1})) break;
    Frame8 frame;
    renderInto(small, plan.number(i * plan.rendered() / count), Alpha::Straight, frame);
    samples.push_back(std::move(frame));
  }
  return samples;
}

}  // namespace

Result<ExportResult> exportGif(const Scene& scene, const ExportSettings& s, const ProgressFunction& progress) {
  ExportResult result;
  auto plan = planExport(scene, s);
  if (!plan) return tl::unexpected(plan.error());
  // The loop stands in the file once, or the shorter run that it repeats, where hundredths of a second can say its length.
  std::int64_t plays = s.plays;
  holdOnce(*plan, scene, wholeHundredths(plan->rendered(), scene.rate), plays);
  if (plays > 65535) return fail("that is more plays than a GIF can count: 65535 of its own run of frames", s.path);
  const GifTiming timing(plan->frames(), scene.rate);
  auto file = OutputFile::begin(s.path, true);
  if (!file) return tl::unexpected(file.error());
  const std::vector<Frame8> samples = samplesOf(scene, s, *plan, progress);
  if (static_cast<std::int64_t>(samples.size()) < std::min<std::int64_t>(24, plan->rendered())) {
    result.cancelled = true;
    return result;
  }
  // The last entry stands for clear pixels, or for those that did not change.
  const Palette256 palette(samples, true);
  auto writer = named(GifWriter::open(*file, {s.width, s.height, static_cast<int>(plays), s.alpha, palette.argb()}), s.path);
  if (!writer) return tl::unexpected(writer.error());
  FrameTeam team = exportTeam(scene, s, *plan, s.width, s.height, !s.alpha);
  std::vector<std::uint8_t> indexes;
  const auto done = named(pump<Frame8>(
                              timing.pictures(), team,
                              [&](Renderer& renderer, std::int64_t i, Frame8& frame) {
                                renderInto(renderer, plan->number(plan->shown(timing.frame(i))), Alpha::Straight, frame);
                              },
                              [&](const Frame8& frame, int i) {
                                palette.reduce(frame, s.gifDither, indexes);
                                return (*writer)->add(indexes, timing.hundredths(i));
                              },
                              progress),
                          s.path);
  if (auto ok = handOver(done, **writer, *file, s.path, result); !ok) return tl::unexpected(ok.error());
  if (result.cancelled) return result;
  result.frames = timing.pictures();
  if (timing.pictures() < plan->frames())
    addNote(result, "a GIF shows at most 50 pictures a second, so " + std::to_string(timing.pictures()) + " of " +
                        std::to_string(plan->frames()) + " frames are in it, evenly spread");
  if (s.loops > 1) addNote(result, "a GIF holds the loop once; how often it is shown is told by its count of plays");
  return result;
}

}  // namespace oa
