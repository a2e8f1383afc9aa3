// Movies: every format that FFmpeg's containers hold.
#include <algorithm>
#include <cmath>
#include <filesystem>

#include "base/files.h"
#include "base/numbers.h"
#include "media/export_job.h"
#include "media/movie_writer.h"

namespace oa {

MovieSettings movieFor(const Scene& scene, const ExportSettings& s, const ExportPlan& plan, int width, int height) {
  const FormatSpec& spec = formatSpec(s.format);
  MovieSettings movie;
  movie.format = s.format;
  movie.width = width;
  movie.height = height;
  movie.rate = scene.rate;
  movie.alpha = s.alpha && spec.alpha;
  movie.stretches = plan.stretches;
  movie.threads = s.threads;
  movie.bits = std::min(s.bits, spec.deep);
  movie.quality = s.quality;
  return movie;
}

Result<bool> pumpMovie(const Scene& scene, const ExportSettings& s, const ExportPlan& plan, const MovieSettings& movie, MovieWriter& writer,
                       const ProgressFunction& progress) {
  FrameTeam team = exportTeam(scene, s, plan, movie.width, movie.height, !movie.alpha);
  switch (framesOf(movie)) {
    case MovieFrames::Yuv:
      return pump<FrameYuv>(
          plan.rendered(), team,
          [&](Renderer& renderer, std::int64_t i, FrameYuv& frame) { renderInto(renderer, plan.number(i), movie.alpha, frame); },
          [&](const FrameYuv& frame, int) { return writer.add(frame); }, progress);
    case MovieFrames::Rgba8:
      return pump<Frame8>(
          plan.rendered(), team,
          [&](Renderer& renderer, std::int64_t i, Frame8& frame) { renderInto(renderer, plan.number(i), Alpha::Straight, frame); },
          [&](const Frame8& frame, int) { return writer.add(frame); }, progress);
    case MovieFrames::Rgba16:
      break;
  }
  return pump<Frame16>(
      plan.rendered(), team, [&](Renderer& renderer, std::int64_t i, Frame16& frame) { renderInto(renderer, plan.number(i), frame); },
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
  MovieSettings movie = movieFor(scene, s, *plan, width, height);
  if (s.sound && spec.sound) {
    const RunLength length = runOf(scene);
    RunSound run = plan->run ? soundOf(scene, length.frames(), length.arrive) : soundOf(scene, plan->first() + plan->frames());
    addNote(result, run.note);
    if (run.sound && plan->first() > 0)
      movie.sound = [sound = std::move(run.sound), by = std::llround(static_cast<double>(plan->first()) / scene.rate.value() * kSoundRate)](
                        std::int64_t first, int count, float* stereo) { sound(first + by, count, stereo); };
    else
      movie.sound = std::move(run.sound);
  }
  if (s.kilobits > 0) movie.bitRate = std::int64_t{s.kilobits} * 1000;
  const double most = s.megabytes * 1e6;
  const std::string asked = numberText(s.megabytes) + " MB";
  // What came out larger is made again, coarser by as much as that asks for.
  constexpr int kTries = 8;
  constexpr int kCoarsest = 60;
  for (int attempt = 1;; ++attempt) {
    auto file = OutputFile::begin(s.path, spec.container == "webm");
    if (!file) return tl::unexpected(file.error());
    if (most > 0 && !file->seekable()) return fail("a size can only be kept in a file, not in a stream", s.path);
    const auto done = writeOnce(scene, s, *plan, movie, *file, progress);
    if (!done) return tl::unexpected(done.error());
    result.cancelled = !*done;
    if (result.cancelled) return result;
    const double size = static_cast<double>(file->size());
    if (most > 0 && size > most) {
      if (attempt == kTries || movie.coarser >= kCoarsest)
        return fail("does not fit " + asked + ": the smallest that came out is " + numberText(size / 1e6, 3) +
                        " MB; fewer loops or a smaller size need less",
                    s.path);
      movie.coarser = std::min(kCoarsest, movie.coarser + std::max(2, static_cast<int>(std::ceil(6 * std::log2(size / most)))));
      continue;
    }
    if (auto kept = file->keep(); !kept) return tl::unexpected(kept.error());
    if (attempt > 1) addNote(result, "it was made " + std::to_string(attempt) + " times until it fitted " + asked);
    break;
  }
  result.frames = plan->frames();
  if (!s.poster || s.path == "-") return result;
  const std::filesystem::path target(s.path);
  const std::string picture = (target.parent_path() / (target.stem().string() + "-poster.png")).string();
  const auto poster = posterOf(scene, s, movie.alpha);
  if (!poster) return tl::unexpected(poster.error());
  if (auto ok = writeFileAtomically(picture, *poster); !ok) return tl::unexpected(ok.error());
  addNote(result, "its first frame is " + picture);
  return result;
}

}  // namespace oa
