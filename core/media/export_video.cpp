// Movies: every format that FFmpeg's containers hold.
#include <algorithm>
#include <cmath>

#include "base/memory.h"
#include "media/export_job.h"
#include "media/movie_writer.h"

namespace oa {

Result<bool> pumpMovie(const Scene& scene, const ExportSettings& s, const ExportPlan& plan, const MovieSettings& movie, MovieWriter& writer,
                       const ProgressFunction& progress) {
  Renderer renderer = exportRenderer(scene, s, movie.width, movie.height, !movie.alpha);
  switch (framesOf(movie)) {
    case MovieFrames::Yuv:
      return pump<FrameYuv>(
          plan.first, plan.count, [&](std::int64_t k, FrameYuv& frame) { renderInto(renderer, k, movie.alpha, frame); },
          [&](const FrameYuv& frame, int) { return writer.add(frame); }, progress);
    case MovieFrames::Rgba8:
      return pump<Frame8>(
          plan.first, plan.count, [&](std::int64_t k, Frame8& frame) { renderInto(renderer, k, Alpha::Straight, frame); },
          [&](const Frame8& frame, int) { return writer.add(frame); }, progress);
    case MovieFrames::Rgba16:
      break;
  }
  return pump<Frame16>(
      plan.first, plan.count, [&](std::int64_t k, Frame16& frame) { renderInto(renderer, k, frame); },
      [&](const Frame16& frame, int) { return writer.add(frame); }, progress);
}

namespace {

// All of it once, with settings that stand. False: it was cancelled.
Result<bool> writeOnce(const Scene& scene, const ExportSettings& s, const ExportPlan& plan, const MovieSettings& movie, OutputFile& file,
                       const ProgressFunction& progress) {
  auto writer = named(MovieWriter::open(file, movie), s.path);
  if (!writer) return tl::unexpected(writer.error());
  const auto done = pumpMovie(scene, s, plan, movie, **writer, progress);
  if (!done) return fail(done.error().message, s.path);
  if (!*done) return false;
  if (auto ok = named((*writer)->finish(), s.path); !ok) return tl::unexpected(ok.error());
  return true;
}

}  // namespace

Result<ExportResult> exportVideo(const Scene& scene, const ExportSettings& s, const ProgressFunction& progress) {
  ExportResult result;
  const FormatSpec& spec = formatSpec(s.format);
  const int width = s.width + (spec.even ? s.width % 2 : 0);
  const int height = s.height + (spec.even ? s.height % 2 : 0);
  if (width != s.width || height != s.height)
    addNote(result, "this format needs even sizes, so the file is " + std::to_string(width) + " x " + std::to_string(height));
  const auto plan = planExport(scene, s);
  if (!plan) return tl::unexpected(plan.error());
  MovieSettings movie{
      s.format, width, height, scene.rate, s.alpha && spec.alpha, plan->count, plan->repeats, s.threads, std::min(s.bits, spec.deep),
      s.quality};
  const double seconds = static_cast<double>(plan->count * plan->repeats) / scene.rate.value();
  if (s.sound && spec.sound) {
    RunSound run = soundOf(scene, plan->count * plan->repeats);
    addNote(result, run.note);
    if (run.sound && plan->first > 0)
      movie.sound = [sound = std::move(run.sound), by = std::llround(static_cast<double>(plan->first) / scene.rate.value() * kSoundRate)](
                        std::int64_t first, int count, float* stereo) { sound(first + by, count, stereo); };
    else
      movie.sound = std::move(run.sound);
  }
  if (s.kilobits > 0) movie.bitRate = std::int64_t{s.kilobits} * 1000;
  const double most = s.megabytes * 1e6;
  const double beside = movie.sound ? kSoundBits / 8.0 * seconds : 0;
  // Containers take a little more than what they hold.
  if (most > 0) movie.bitRate = std::llround((most * 0.97 - beside - 2000) * 8 / seconds);
  constexpr std::int64_t kLeast = 8000;
  if (most > 0 && movie.bitRate < kLeast)
    return fail("no picture fits " + bytesText(most) + " in " + std::to_string(std::lround(seconds)) +
                    " s; fewer loops or a smaller size need less",
                s.path);
  // An encoder only aims at a rate: what came out larger is made again with fewer bits.
  constexpr int kTries = 5;
  for (int attempt = 0;; ++attempt) {
    auto file = OutputFile::begin(s.path, spec.container == "webm");
    if (!file) return tl::unexpected(file.error());
    if (most > 0 && !file->seekable()) return fail("a size can only be kept in a file, not in a stream", s.path);
    const auto done = writeOnce(scene, s, *plan, movie, *file, progress);
    if (!done) return tl::unexpected(done.error());
    result.cancelled = !*done;
    if (result.cancelled) return result;
    const double size = static_cast<double>(file->size());
    if (most > 0 && size > most) {
      if (attempt + 1 == kTries)
        return fail("did not fit " + bytesText(most) + " in " + std::to_string(kTries) + " tries; a smaller picture or fewer loops would",
                    s.path);
      movie.bitRate = std::max(kLeast, static_cast<std::int64_t>(static_cast<double>(movie.bitRate) * std::min(0.95, most / size * 0.96)));
      continue;
    }
    if (auto kept = file->keep(); !kept) return tl::unexpected(kept.error());
    if (attempt > 0) addNote(result, "it was made " + std::to_string(attempt + 1) + " times until it fitted");
    break;
  }
  result.frames = plan->count * plan->repeats;
  return result;
}

}  // namespace oa
