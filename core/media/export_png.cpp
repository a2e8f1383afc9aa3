// Numbered PNG pictures, or one.
#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <deque>
#include <filesystem>
#include <future>
#include <system_error>
#include <thread>
#include <type_traits>

#include "base/files.h"
#include "base/memory.h"
#include "base/output_file.h"
#include "media/export_job.h"
#include "media/numbering.h"
#include "media/png.h"

namespace oa {
namespace {

namespace fs = std::filesystem;

// Written into a folder of unfinished work, which is synced as a whole.
Status writePlain(const std::string& path, const std::string& bytes) {
  std::FILE* file = std::fopen(path.c_str(), "wbe");
  if (!file) return fail("could not be written: " + systemReason(errno));
  const bool put = std::fwrite(bytes.data(), 1, bytes.size(), file) == bytes.size();
  const int reason = errno;
  const bool closed = std::fclose(file) == 0;
  if (put && closed) return {};
  return fail("could not be written: " + systemReason(put ? errno : reason));
}

using Store = std::function<Status(const Result<std::string>& png, int index)>;

// Pictures that are encoded and stored side by side: a few at a time, in no order.
template <class Frame>
class SideBySide {
 public:
  SideBySide(int threads, bool alpha, const Store& store)
      : most_(threads > 0 ? static_cast<std::size_t>(threads) : std::max(1U, std::thread::hardware_concurrency())),
        alpha_(alpha),
        store_(store) {}

  // The first error of any that is done by now.
  Status take(const Frame& frame, int index) {
    while (under_.size() >= most_)
      if (auto done = oldest(); !done) return done;
    // Where the system has no more threads it is done when it is asked for.
    constexpr auto kWhenever = std::launch::async | std::launch::deferred;
    under_.push_back(std::async(kWhenever, [this, own = frame, index] { return store_(encodePng(own, alpha_), index); }));
    return {};
  }
  Status finish() {
    Status all;
    while (!under_.empty())
      if (auto done = oldest(); !done && all) all = done;
    return all;
  }

 private:
  Status oldest() {
    auto done = under_.front().get();
    under_.pop_front();
    return done;
  }
  std::size_t most_;
  bool alpha_;
  const Store& store_;
  std::deque<std::future<Status>> under_;  // which wait for what they do when they go
};

template <class Frame>
Result<bool> renderAs(const Scene& scene, const ExportSettings& s, const ExportPlan& plan, const ProgressFunction& progress,
                      const Store& store) {
  FrameTeam team = exportTeam(scene, s, plan, s.width, s.height, !s.alpha);
  SideBySide<Frame> encoding(s.threads, s.alpha, store);
  auto done = pump<Frame>(
      plan.rendered(), team,
      [&](Renderer& renderer, std::int64_t i, Frame& frame) {
        if constexpr (std::is_same_v<Frame, Frame16>)
          renderInto(renderer, plan.number(i), frame);
        else
          renderInto(renderer, plan.number(i), Alpha::Straight, frame);
      },
      [&](const Frame& frame, int i) { return encoding.take(frame, i); }, progress);
  if (auto encoded = withMemory([&] { return encoding.finish(); }); done && !encoded) return tl::unexpected(encoded.error());
  return done;
}

Result<bool> renderAll(const Scene& scene, const ExportSettings& s, const ExportPlan& plan, const ProgressFunction& progress,
                       const Store& store) {
  return s.bits > 8 ? renderAs<Frame16>(scene, s, plan, progress, store) : renderAs<Frame8>(scene, s, plan, progress, store);
}

Result<ExportResult> exportOne(const Scene& scene, const ExportSettings& s, const ExportPlan& plan, const ProgressFunction& progress) {
  auto file = OutputFile::begin(s.path, true);
  if (!file) return tl::unexpected(file.error());
  const auto done = renderAll(scene, s, plan, progress, [&](const Result<std::string>& png, int) -> Status {
    if (!png) return tl::unexpected(png.error());
    return file->write(*png);
  });
  if (!done) return fail(done.error().message, s.path);
  ExportResult result;
  result.cancelled = !*done;
  if (result.cancelled) return result;
  if (auto kept = file->keep(); !kept) return tl::unexpected(kept.error());
  result.frames = 1;
  return result;
}

// The number that picture `i` of the whole run bears: counted from 0, or by frame where a range was asked for.
Result<std::int64_t> firstNumber(const ExportSettings& s, const ExportPlan& plan, int frames) {
  if (!s.range) return 0;
  if (s.range->first >= 0) return s.range->first;
  if (plan.frames() > frames)
    return fail("pictures are numbered by frame, and numbers below 0 cannot be; begin at 0 or above, or ask for no more than a loop",
                s.path);
  return s.range->first;
}

}  // namespace

Result<ExportResult> exportPng(const Scene& scene, const ExportSettings& s, const ProgressFunction& progress) {
  const auto plan = planExport(scene, s);
  if (!plan) return tl::unexpected(plan.error());
  Numbering numbering;
  numbering.numbered = false;
  if (s.path != "-") {
    const auto found = numberingFor(s.path);
    if (!found) return tl::unexpected(found.error());
    numbering = *found;
  }
  const std::int64_t total = plan->frames();
  if (!numbering.numbered && total > 1) {
    const std::string stem = fs::path(s.path).stem().string();
    return fail("several pictures need a folder or a number in the name, such as " + (stem == "-" ? "loop" : stem) + "_%04d.png", s.path);
  }
  if (!numbering.numbered) return exportOne(scene, s, *plan, progress);
  const auto first = firstNumber(s, *plan, scene.frames);
  if (!first) return tl::unexpected(first.error());
  const auto number = [&](std::int64_t i) { return *first < 0 ? floorMod(*first + i, scene.frames) : *first + i; };
  if (numbering.name(number(total - 1)).size() > 255) return fail("could not be written: the name is too long", s.path);

  // A folder that is not there yet is made whole beside its place; else the pictures are moved in at the end, all or none.
  std::error_code code;
  const bool there = fs::exists(numbering.folder, code);
  if (there && !fs::is_directory(numbering.folder, code)) return fail("could not be written: part of the path is not a folder", s.path);
  auto made = MadeFolders::above(there ? numbering.folder + "/x" : numbering.folder);
  if (!made) return fail(made.error().message, s.path);
  const fs::path parent = fs::path(numbering.folder).parent_path();
  auto work = named(WorkFolder::begin(there            ? numbering.folder
                                      : parent.empty() ? "."
                                                       : parent.string(),
                                      numbering.before + "%" + numbering.after),
                    s.path);
  if (!work) return tl::unexpected(work.error());
  const auto inWork = [&](std::int64_t i) { return work->path() + "/" + numbering.name(number(i)); };
  // Where each picture that is rendered stands first.
  std::vector<std::int64_t> places(static_cast<std::size_t>(plan->rendered()), -1);
  for (std::int64_t j = 0; j < total; ++j)
    if (auto& place = places[static_cast<std::size_t>(plan->shown(j))]; place < 0) place = j;
  const auto done = renderAll(scene, s, *plan, progress, [&](const Result<std::string>& png, int i) -> Status {
    if (!png) return tl::unexpected(png.error());
    return writePlain(inWork(places[static_cast<std::size_t>(i)]), *png);
  });
  if (!done) return fail(done.error().message, s.path);
  ExportResult result;
  result.cancelled = !*done;
  if (result.cancelled) return result;
  // Repeats are copies, made before anything gets its final name, so that a full disk leaves nothing.
  for (std::int64_t j = 0; j < total && !code; ++j)
    if (const std::int64_t place = places[static_cast<std::size_t>(plan->shown(j))]; place != j)
      fs::copy_file(inWork(place), inWork(j), code);
  if (code) return fail("could not be written: " + systemReason(code.value()), s.path);
  Status kept;
  if (there) {
    std::vector<std::string> names;
    for (std::int64_t i = 0; i < total; ++i) names.push_back(numbering.name(number(i)));
    // Some frames of a loop may be rendered after the others; a whole loop leaves no frames of a longer one behind.
    std::vector<std::string> stale;
    if (!s.range) stale = numbering.thereAfter(total - 1);
    kept = work->moveInto(numbering.folder, names, stale);
    if (kept && !stale.empty())
      addNote(result, std::to_string(stale.size()) + " pictures of a longer, older sequence were taken away: " + stale.front() +
                          (stale.size() > 1 ? " to " + stale.back() : ""));
  } else {
    kept = work->become(numbering.folder);
  }
  if (!kept) return fail(kept.error().message, s.path);
  made->keep();
  result.frames = total;
  return result;
}

}  // namespace oa
