#include "media/export.h"

#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <filesystem>
#include <system_error>

#include "base/files.h"
#include "base/parallel.h"
#include "media/frame_source.h"
#include "media/movie_writer.h"
#include "media/palette256.h"
#include "media/png.h"

namespace oa {
namespace {

namespace fs = std::filesystem;

// A file under a working name; removed unless kept.
class PartFile {
 public:
  explicit PartFile(std::string target) : target_(std::move(target)), part_(target_ + "." + std::to_string(::getpid()) + ".part") {}
  ~PartFile() {
    if (!kept_) ::unlink(part_.c_str());
  }
  PartFile(const PartFile&) = delete;
  PartFile& operator=(const PartFile&) = delete;
  [[nodiscard]] const std::string& path() const { return part_; }
  Status keep() {
    if (std::rename(part_.c_str(), target_.c_str()) != 0) return fail("could not be written: " + systemReason(errno), target_);
    kept_ = true;
    return {};
  }

 private:
  std::string target_;
  std::string part_;
  bool kept_ = false;
};

// The message of an error names the file the user asked for, not its working name.
template <class T>
Result<T> named(Result<T> result, const std::string& path) {
  if (!result) result.error().where = path;
  return result;
}

Renderer makeRenderer(const Scene& scene, const ExportSettings& s, int width, int height, bool opaque) {
  Scene copy = scene;
  // What cannot hold alpha shows a transparent scene on black, as players would.
  if (opaque && !copy.background) copy.background = Colour{0, 0, 0, 1};
  if (opaque && copy.background) copy.background->a = 1;
  RenderOptions options;
  options.manyFrames = true;
  options.threads = s.threads;
  return Renderer(std::move(copy), width, height, options);
}

Result<ExportResult> exportVideo(const Scene& scene, const ExportSettings& s, const ProgressFunction& progress) {
  ExportResult result;
  const int width = s.width + s.width % 2;
  const int height = s.height + s.height % 2;
  if (width != s.width || height != s.height)
    result.note = "this format needs even sizes, so the file is " + std::to_string(width) + " x " + std::to_string(height);
  const bool alpha = s.alpha && s.format == ExportFormat::WebM;
  const ExportPlan plan = planExport(scene, s);
  PartFile file(s.path);
  MovieSettings movie{s.format, width, height, scene.rate, alpha, plan.count, plan.repeats, s.threads};
  auto writer = named(MovieWriter::open(file.path(), movie), s.path);
  if (!writer) return tl::unexpected(writer.error());
  Renderer renderer = makeRenderer(scene, s, width, height, !alpha);
  const auto done = named(pump<FrameYuv>(
                              plan.first, plan.count, [&](std::int64_t k, FrameYuv& frame) { renderInto(renderer, k, alpha, frame); },
                              [&](const FrameYuv& frame, int) { return (*writer)->add(frame); }, progress),
                          s.path);
  if (!done) return tl::unexpected(done.error());
  if (!*done) {
    result.cancelled = true;
    return result;
  }
  if (auto ok = named((*writer)->finish(), s.path); !ok) return tl::unexpected(ok.error());
  if (auto ok = file.keep(); !ok) return tl::unexpected(ok.error());
  result.frames = plan.count * plan.repeats;
  return result;
}

Result<ExportResult> exportGif(const Scene& scene, const ExportSettings& s, const ProgressFunction& progress) {
  ExportResult result;
  const ExportPlan plan = planExport(scene, s);
  Renderer renderer = makeRenderer(scene, s, s.width, s.height, !s.alpha);
  // The palette is chosen from up to 24 frames of the whole run, reduced.
  std::vector<Frame8> samples;
  const double shrink = std::min(1.0, 320.0 / std::max(s.width, s.height));
  Renderer small =
      makeRenderer(scene, s, std::max(1, static_cast<int>(s.width * shrink)), std::max(1, static_cast<int>(s.height * shrink)), !s.alpha);
  const int count = std::min(24, plan.count);
  for (int i = 0; i < count; ++i) {
    Frame8 frame;
    renderInto(small, plan.first + std::int64_t{i} * plan.count / count, Alpha::Straight, frame);
    samples.push_back(std::move(frame));
    if (progress && !progress({0, plan.count, -1})) {
      result.cancelled = true;
      return result;
    }
  }
  const Palette256 palette(samples, s.alpha);
  PartFile file(s.path);
  auto writer = named(
      MovieWriter::open(file.path(), {ExportFormat::Gif, s.width, s.height, scene.rate, s.alpha, plan.count, plan.repeats, s.threads}),
      s.path);
  if (!writer) return tl::unexpected(writer.error());
  std::vector<std::uint8_t> indexes;
  std::vector<std::uint8_t> firstIndexes;
  const auto done =
      named(pump<Frame8>(
                plan.first, plan.count, [&](std::int64_t k, Frame8& frame) { renderInto(renderer, k, Alpha::Straight, frame); },
                [&](const Frame8& frame, int index) {
                  palette.reduce(frame, s.gifDither, indexes);
                  if (index == 0) firstIndexes = indexes;
                  return (*writer)->add(indexes, palette.argb());
                },
                progress),
            s.path);
  if (!done) return tl::unexpected(done.error());
  if (!*done) {
    result.cancelled = true;
    return result;
  }
  Status ok = (*writer)->add(firstIndexes, palette.argb());
  if (ok) ok = (*writer)->finish();
  if (!ok) return fail(ok.error().message, s.path);
  if (auto kept = file.keep(); !kept) return tl::unexpected(kept.error());
  result.frames = plan.count * plan.repeats;
  if (scene.rate.value() > 50) result.note = "many programs show animated GIFs at 50 frames per second at most";
  return result;
}

// Where numbered pictures go: everything before and after the number, and its width.
struct Numbering {
  fs::path folder;
  std::string before;
  std::string after = ".png";
  int digits = 4;
  bool numbered = true;

  [[nodiscard]] std::string name(int index) const {
    if (!numbered) return before + after;
    std::string number = std::to_string(index);
    if (static_cast<int>(number.size()) < digits) number.insert(0, static_cast<std::size_t>(digits) - number.size(), '0');
    return before + number + after;
  }
};

Result<Numbering> numberingFor(const std::string& path) {
  Numbering n;
  std::error_code ignored;
  const fs::path whole(path);
  if (path.back() == '/' || fs::is_directory(whole, ignored)) {
    n.folder = whole;
    n.before = "frame_";
    return n;
  }
  n.folder = whole.parent_path().empty() ? fs::path(".") : whole.parent_path();
  const std::string file = whole.filename().string();
  const std::size_t percent = file.find('%');
  if (percent == std::string::npos) {
    n.numbered = false;
    n.before = whole.stem().string();
    return n;
  }
  // Only %d, %4d and %04d are understood; the text never reaches a formatting function.
  std::size_t end = percent + 1;
  while (end < file.size() && file[end] >= '0' && file[end] <= '9') ++end;
  if (end >= file.size() || file[end] != 'd' || end - percent > 3 || file.find('%', end) != std::string::npos)
    return fail("the number in the name must look like %04d", path);
  const std::string digits = file.substr(percent + 1, end - percent - 1);
  n.digits = digits.empty() ? 1 : std::clamp(std::stoi(digits), 1, 9);
  n.before = file.substr(0, percent);
  n.after = file.substr(end + 1);
  return n;
}

// A folder for unfinished work beside its final place; removed with all that is still in it.
class PartFolder {
 public:
  explicit PartFolder(fs::path path) : path_(std::move(path)) {}
  ~PartFolder() {
    std::error_code ignored;
    fs::remove_all(path_, ignored);
  }
  PartFolder(const PartFolder&) = delete;
  PartFolder& operator=(const PartFolder&) = delete;
  [[nodiscard]] const fs::path& path() const { return path_; }

 private:
  fs::path path_;
};

Status writePlain(const fs::path& path, const std::string& bytes) {
  std::FILE* file = std::fopen(path.c_str(), "wb");
  if (!file) return fail("could not be written: " + systemReason(errno));
  const bool put = std::fwrite(bytes.data(), 1, bytes.size(), file) == bytes.size();
  const int reason = errno;
  const bool closed = std::fclose(file) == 0;
  if (put && closed) return {};
  return fail("could not be written: " + systemReason(put ? errno : reason));
}

Result<ExportResult> exportPng(const Scene& scene, const ExportSettings& s, const ProgressFunction& progress) {
  ExportResult result;
  const auto numbering = numberingFor(s.path);
  if (!numbering) return tl::unexpected(numbering.error());
  const ExportPlan plan = planExport(scene, s);
  if (!numbering->numbered && plan.count * plan.repeats > 1)
    return fail("several pictures need a folder or a number in the name, such as " + numbering->before + "_%04d.png", s.path);
  std::error_code code;
  const bool madeFolder = fs::create_directories(numbering->folder, code);
  if (code) return fail("the folder could not be made: " + systemReason(code.value()), s.path);
  const PartFolder part(numbering->folder / (".over-again-" + std::to_string(::getpid()) + ".part"));
  fs::create_directory(part.path(), code);
  if (code) return fail("could not be written: " + systemReason(code.value()), s.path);
  Renderer renderer = makeRenderer(scene, s, s.width, s.height, !s.alpha);
  const auto store = [&](const Result<std::string>& png, int index) -> Status {
    if (!png) return tl::unexpected(png.error());
    return writePlain(part.path() / numbering->name(index), *png);
  };
  Result<bool> done = false;
  if (s.pngBits == 16)
    done = pump<Frame16>(
        plan.first, plan.count, [&](std::int64_t k, Frame16& frame) { renderInto(renderer, k, frame); },
        [&](const Frame16& frame, int i) { return store(encodePng(frame, s.alpha), i); }, progress);
  else
    done = pump<Frame8>(
        plan.first, plan.count, [&](std::int64_t k, Frame8& frame) { renderInto(renderer, k, Alpha::Straight, frame); },
        [&](const Frame8& frame, int i) { return store(encodePng(frame, s.alpha), i); }, progress);
  // Repeats are copies, made before anything gets its final name, so that a full disk leaves nothing.
  for (int repeat = 1; done && *done && repeat < plan.repeats; ++repeat)
    for (int i = 0; i < plan.count && !code; ++i)
      fs::copy_file(part.path() / numbering->name(i), part.path() / numbering->name(repeat * plan.count + i), code);
  if (done && *done && !code)
    for (int i = 0; i < plan.count * plan.repeats && !code; ++i)
      fs::rename(part.path() / numbering->name(i), numbering->folder / numbering->name(i), code);
  if (!done || !*done || code) {
    std::error_code ignored;
    fs::remove_all(part.path(), ignored);
    if (madeFolder) fs::remove(numbering->folder, ignored);
    if (!done) return fail(done.error().message, s.path);
    if (code) return fail("could not be written: " + systemReason(code.value()), s.path);
    result.cancelled = true;
    return result;
  }
  result.frames = plan.count * plan.repeats;
  return result;
}

}  // namespace

Result<ExportFormat> formatForPath(const std::string& path) {
  std::error_code ignored;
  if (!path.empty() && (path.back() == '/' || fs::is_directory(path, ignored))) return ExportFormat::Png;
  std::string suffix = fs::path(path).extension().string();
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

Result<ExportResult> exportScene(const Scene& scene, const ExportSettings& s, const ProgressFunction& progress) {
  if (s.width < 1 || s.height < 1 || s.width > kMaxFrameSize || s.height > kMaxFrameSize)
    return fail("the size must lie between 1 x 1 and " + std::to_string(kMaxFrameSize) + " x " + std::to_string(kMaxFrameSize));
  if (s.loops < 1 || s.loops > 10000) return fail("the number of loops must lie between 1 and 10000");
  if (s.range && (s.range->second < s.range->first || s.range->second - s.range->first >= kMaxFrames))
    return fail("the last frame must not come before the first");
  if (s.path.empty()) return fail("no file name was given");
  std::error_code ignored;
  if (s.format != ExportFormat::Png && fs::is_directory(s.path, ignored)) return fail("is a folder", s.path);
  switch (s.format) {
    case ExportFormat::Mp4:
    case ExportFormat::WebM:
      return exportVideo(scene, s, progress);
    case ExportFormat::Gif:
      return exportGif(scene, s, progress);
    case ExportFormat::Png:
      return exportPng(scene, s, progress);
  }
  return fail("unknown format");
}

}  // namespace oa
