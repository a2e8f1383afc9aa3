#include "commands.h"

#include <sys/resource.h>
#include <unistd.h>

#include <algorithm>
#include <charconv>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <filesystem>
#include <iostream>
#include <nlohmann/json.hpp>

#include "base/files.h"
#include "base/memory.h"
#include "base/numbers.h"
#include "base/output_file.h"
#include "check/joint.h"
#include "check/meeting.h"
#include "media/export.h"
#include "media/palette_file.h"
#include "media/picture_file.h"
#include "media/png.h"
#include "scene/pack.h"
#include "scene/plan.h"
#include "render/budget.h"
#include "render/profile.h"
#include "scene/describe.h"
#include "scene/media_refs.h"
#include "scene/named_fonts.h"
#include "scene/recolour.h"
#include "scene/scene_file.h"
#include "scene/scene_json.h"
#include "titles/title_table.h"

namespace oa::cli {
namespace {

constexpr int kColoursOfAPicture = 7;

Result<Scene> opened(const Options& options) {
  auto scene = loadScene(options.scene);
  for (const std::string& assignment : options.assignments) {
    if (!scene) break;
    scene = withValueSet(*scene, assignment);
  }
  if (scene && !options.assignments.empty()) {
    // Files that were named are counted from here.
    makeAbsolute(*scene, std::filesystem::current_path().string());
    completeMedia(*scene);
  }
  if (!scene || options.palette.empty()) return scene;
  auto palette = isPicture(options.palette) ? paletteFromPicture(options.palette, kColoursOfAPicture) : readPalette(options.palette);
  if (!palette) return tl::unexpected(palette.error());
  return recoloured(*scene, *palette);
}

template <class Number>
bool wholeText(std::string_view text, Number& out) {
  const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), out);
  return error == std::errc{} && end == text.data() + text.size() && !text.empty();
}

Result<std::pair<int, int>> sizeOf(const Options& options, const Scene& scene) {
  if (options.size.empty()) return std::pair(scene.width, scene.height);
  const std::size_t x = options.size.find('x');
  std::pair<int, int> size;
  if (x == std::string::npos || !wholeText(std::string_view(options.size).substr(0, x), size.first) ||
      !wholeText(std::string_view(options.size).substr(x + 1), size.second) || size.first < 1 || size.second < 1 ||
      size.first > kMaxFrameSize || size.second > kMaxFrameSize)
    return fail("\"" + options.size + "\" is not a size like 1920x1080, each side from 1 to 8192", "--size");
  return size;
}

Result<std::pair<std::int64_t, std::int64_t>> rangeOf(const std::string& text) {
  const std::size_t dots = text.find("..");
  std::pair<std::int64_t, std::int64_t> range;
  if (dots == std::string::npos || !wholeText(std::string_view(text).substr(0, dots), range.first) ||
      !wholeText(std::string_view(text).substr(dots + 2), range.second) || range.second < range.first)
    return fail("\"" + text + "\" is not a range like 0..29 or -1..0", "--frames");
  return range;
}

std::string timeText(double seconds) {
  const long whole = std::lround(seconds);
  return whole < 60 ? std::to_string(whole) + " s" : std::to_string(whole / 60) + " min " + std::to_string(whole % 60) + " s";
}

Result<std::int64_t> frameOf(const std::string& text) {
  std::int64_t frame = 0;
  if (!wholeText(text, frame)) return fail("\"" + text + "\" is not the number of a frame", "--frame");
  return frame;
}

// By the file's ending, or as --format says: standard output has none.
Result<ExportFormat> formatOf(const Options& options) {
  if (options.format.empty()) {
    if (options.output == "-") return fail("standard output needs --format: vp9, gif, webp or png", "-");
    return formatForPath(options.output);
  }
  auto format = formatForName(options.format);
  if (!format) return fail(format.error().message, "--format");
  const auto ending = formatForPath(options.output);
  if (ending && formatSuffix(*ending) != formatSuffix(*format))
    return fail("the name's ending says something else than --format " + options.format + "; leave one of them out", options.output);
  return format;
}

RunPart partOf(const Options& options, const Scene& scene) {
  for (const RunPart part : {RunPart::Loop, RunPart::Run, RunPart::Arrive, RunPart::Leave})
    if (options.part == runPartName(part)) return part;
  // Frames by number are those of the loop.
  return passes(withoutStandIns(scene)) && options.range.empty() ? RunPart::Run : RunPart::Loop;
}

Json jointJson(const JointReport& r) {
  return {{"joint", r.joint},         {"median", r.median}, {"largest", r.largest}, {"ratio", r.ratio()},
          {"speedJump", r.speedJump}, {"clean", r.clean},   {"steady", r.steady}};
}

// Beside what is asked for, so that it does not get lost among it.
void tellMissingFonts(const Scene& scene) {
  for (const std::string& family : unknownFonts(scene))
    std::cerr << "note: the font \"" << family << "\" is not here; another one is used until it is installed\n";
}

// What an export took, on standard error: the file may be on standard output.
class Stats {
 public:
  void take(const ExportProgress& p) { last_ = p; }
  void tell() const {
    const double whole = std::chrono::duration<double>(std::chrono::steady_clock::now() - start_).count();
    const auto seconds = [](double s) { return numberText(s, 2) + " s"; };
    rusage used{};
    ::getrusage(RUSAGE_SELF, &used);
    const auto pictures = static_cast<double>(std::max<std::int64_t>(1, last_.done));
    std::cerr << "rendering " << seconds(last_.rendering) << ", waiting " << seconds(whole - last_.rendering) << ", encoding beside it "
              << seconds(last_.encoding) << "\n"
              << last_.done << " pictures rendered, " << numberText(last_.rendering > 0 ? pictures / last_.rendering : 0, 1)
              << " a second of rendering\n"
              << "at most " << numberText(static_cast<double>(used.ru_maxrss) / 1024, 0) << " MiB of memory, "
              << numberText(static_cast<double>(used.ru_minflt - pagesBefore_) / pictures, 0) << " fresh pages a picture\n";
  }

 private:
  static long pages() {
    rusage used{};
    ::getrusage(RUSAGE_SELF, &used);
    return used.ru_minflt;
  }
  std::chrono::steady_clock::time_point start_ = std::chrono::steady_clock::now();
  long pagesBefore_ = pages();
  ExportProgress last_;
};

// One title, or the only one there is.
Status renderOne(const Scene& scene, const Options& options, ExportSettings settings, const std::string& path) {
  settings.path = path;
  const bool live = !options.quiet && ::isatty(STDERR_FILENO);
  Stats stats;
  const auto done = exportScene(scene, settings, [&](const ExportProgress& p) {
    stats.take(p);
    if (live)
      std::fprintf(stderr, "\r%lld of %lld frames%s   ", static_cast<long long>(p.done), static_cast<long long>(p.total),
                   p.secondsLeft < 0 ? "" : (", " + timeText(p.secondsLeft) + " left").c_str());
    return true;
  });
  if (live) std::fprintf(stderr, "\r\033[K");
  if (!done) return tl::unexpected(done.error());
  if (options.stats) stats.tell();
  // What went to standard output is not to be mixed with words.
  if (!options.quiet && path != "-") {
    std::cout << path << ": " << done->frames << " frames\n";
    if (!done->note.empty()) std::cout << "note: " << done->note << "\n";
  }
  return {};
}

Status renderTable(const Scene& scene, const Options& options, const ExportSettings& settings) {
  if (options.output == "-") return fail("titles of a table need names of files, such as '{name}.mp4'", "-");
  const auto bytes = readFile(options.table, kMostCsvBytes);
  if (!bytes) return tl::unexpected(bytes.error());
  const auto table = tableFromCsv(*bytes);
  if (!table) return fail(table.error().sentence(), options.table);
  if (const Status some = checkFields(scene); !some) return fail(some.error().message, options.table);
  const auto names = fileNames(*table, options.output);
  if (!names) return fail(names.error().message, options.table);
  std::size_t bad = 0;
  for (std::size_t row = 0; row < table->rows.size(); ++row) {
    Status done = checkRow(scene, *table, row, (*names)[row]);
    if (done) done = renderOne(filled(scene, *table, row), options, settings, (*names)[row]);
    if (done) continue;
    ++bad;
    std::cerr << options.table << ": " << done.error().sentence() << "\n";
  }
  if (bad > 0) return fail(std::to_string(bad) + " of " + std::to_string(table->rows.size()) + " titles could not be made", options.table);
  return {};
}

}  // namespace

Status render(const Options& options) {
  auto scene = opened(options);
  if (!scene) return tl::unexpected(scene.error());
  const auto part = partOf(options, *scene);
  const auto size = sizeOf(options, *scene);
  if (!size) return tl::unexpected(size.error());
  const auto format = formatOf(options);
  if (!format) return tl::unexpected(format.error());
  ExportSettings settings;
  settings.format = *format;
  settings.path = options.output;
  settings.part = part;
  if (part == RunPart::Run && options.loops) scene->run.loops = *options.loops;
  settings.width = size->first;
  settings.height = size->second;
  const FormatSpec& spec = formatSpec(*format);
  settings.loops = spec.plays ? 1 : options.loops.value_or(1);
  settings.plays = spec.plays ? options.loops.value_or(0) : 0;
  settings.quality = options.quality == "quick"   ? ExportQuality::Quick
                     : options.quality == "small" ? ExportQuality::Small
                     : options.quality == "best"  ? ExportQuality::Best
                                                  : ExportQuality::Good;
  settings.megabytes = options.megabytes;
  settings.kilobits = options.kilobits;
  settings.poster = options.poster;
  settings.sound = !options.mute;
  settings.threads = options.threads;
  settings.bits = options.bits;
  // What the scene lets through is kept wherever the format can.
  settings.alpha = options.alpha || (hasTransparency(*scene) && formatHasAlpha(*format));
  settings.gifDither = options.dither == "none"        ? GifDither::None
                       : options.dither == "diffusion" ? GifDither::Diffusion
                                                       : GifDither::Pattern;
  if (!options.range.empty()) {
    const auto range = rangeOf(options.range);
    if (!range) return tl::unexpected(range.error());
    settings.range = *range;
  }
  if (!options.quiet) tellMissingFonts(*scene);
  if (!options.table.empty()) return renderTable(*scene, options, settings);
  return renderOne(*scene, options, settings, options.output);
}

Status still(const Options& options) {
  const auto scene = opened(options);
  if (!scene) return tl::unexpected(scene.error());
  const auto size = sizeOf(options, *scene);
  if (!size) return tl::unexpected(size.error());
  const auto number = frameOf(options.frame);
  if (!number) return tl::unexpected(number.error());
  if (options.output != "-")
    if (const auto format = formatForPath(options.output); !format || *format != ExportFormat::Png)
      if (const auto place = placeOf(options.output); !place || place->kind != PlaceKind::Stream)
        return fail("a still is a PNG picture, so the name must end in .png", options.output);
  if (auto fits = fitsBudget(*scene, size->first, size->second); !fits) return fits;
  RenderOptions render;
  render.threads = options.threads;
  const Scene handedOver = withoutStandIns(*scene);
  const RunLength run = runOf(handedOver);
  render.run = options.part == runPartName(RunPart::Run);
  if (render.run && (*number < 0 || *number >= run.frames()))
    return fail("the run has the frames 0 to " + std::to_string(run.frames() - 1), "--frame");
  const auto png = withMemory([&]() -> Result<std::string> {
    Renderer renderer(handedOver, size->first, size->second, render);
    const bool alpha = hasTransparency(*scene);
    if (options.bits == 16) {
      Frame16 frame;
      renderInto(renderer, *number, frame);
      return encodePng(frame, alpha);
    }
    Frame8 frame;
    renderInto(renderer, *number, Alpha::Straight, frame);
    return encodePng(frame, alpha);
  });
  if (!png) return tl::unexpected(png.error());
  return writeFileAtomically(options.output, *png);
}

Status info(const Options& options) {
  const auto scene = opened(options);
  if (!scene) return tl::unexpected(scene.error());
  if (!options.json) tellMissingFonts(*scene);
  const RunLength run = runOf(withoutStandIns(*scene));
  if (options.json) {
    Json layers = Json::array();
    for (const Layer& layer : scene->layers) {
      Json steps = Json::array();
      for (const RecipeStep& step : layer.recipe) steps.push_back(step.spec->id);
      layers.push_back({{"name", layer.name},
                        {"blend", blendName(layer.blend)},
                        {"visible", layer.visible},
                        {"standIn", layer.standIn},
                        {"laps", commonLaps(layer)},
                        {"frames", distinctFrames(scene->frames, commonLaps(layer))},
                        {"steps", steps}});
    }
    std::cout << Json{{"name", scene->name},
                      {"size", {scene->width, scene->height}},
                      {"rate", {scene->rate.num, scene->rate.den}},
                      {"frames", scene->frames},
                      {"seconds", scene->seconds()},
                      {"distinctFrames", distinctFrames(*scene)},
                      {"transparent", !scene->background},
                      {"run", {{"arrive", run.arrive}, {"loop", run.loop}, {"leave", run.leave}, {"frames", run.frames()}}},
                      {"fields", fieldsOf(*scene)},
                      {"missingFonts", unknownFonts(*scene)},
                      {"layers", layers}}
                     .dump(2)
              << "\n";
    return {};
  }
  std::cout << scene->name << "\n"
            << scene->width << " x " << scene->height << ", " << numberText(scene->rate.value(), 3) << " frames per second, "
            << scene->frames << " frames, " << numberText(scene->seconds(), 3) << " s\n"
            << distinctFrames(*scene) << " different frames\n";
  const auto seconds = [&](std::int64_t frames) { return numberText(static_cast<double>(frames) / scene->rate.value(), 3) + " s"; };
  if (run.arrive > 0 || run.leave > 0)
    std::cout << "run: arrives in " << seconds(run.arrive) << ", loops for " << seconds(run.loop) << ", leaves in " << seconds(run.leave)
              << "; " << run.frames() << " frames\n";
  std::string fields;
  for (const std::string& field : fieldsOf(*scene)) fields += " {" + field + "}";
  if (!fields.empty()) std::cout << "fields:" << fields << "\n";
  for (auto layer = scene->layers.rbegin(); layer != scene->layers.rend(); ++layer) {
    std::cout << "  " << layer->name << ": " << blendName(layer->blend) << (layer->visible ? "" : ", hidden")
              << (layer->standIn ? ", only for judging" : "") << ";";
    for (const RecipeStep& step : layer->recipe) std::cout << " " << step.spec->id << (step.on ? "" : " (off)");
    std::cout << "\n";
  }
  return {};
}

Status describe(const Options& options) {
  if (options.schema) {
    std::cout << sceneSchema().dump(2) << "\n";
    return {};
  }
  if (!options.step.empty()) {
    const StepSpec* step = findStep(options.step);
    if (!step) return fail("there is no step \"" + options.step + "\"; describe without a name lists them all");
    std::cout << (options.json ? describeStep(*step).dump(2) + "\n" : describeStepText(*step));
    return {};
  }
  if (options.json) {
    Json list = Json::array();
    for (const StepSpec* step : allSteps()) list.push_back(describeStep(*step));
    std::cout << list.dump(2) << "\n";
    return {};
  }
  for (const StepSpec* step : allSteps()) std::cout << describeStepText(*step) << "\n";
  return {};
}

Status check(const Options& options) {
  const auto scene = opened(options);
  if (!scene) return tl::unexpected(scene.error());
  tellMissingFonts(*scene);
  const Scene handedOver = withoutStandIns(*scene);
  const JointCheck result = checkJoint(handedOver, true, nullptr, options.threads);
  const std::vector<Meeting> meetings = checkMeetings(handedOver, options.threads);
  if (options.json) {
    Json layers = Json::array();
    for (const LayerJoint& layer : result.layers) {
      Json json = jointJson(layer.report);
      json["layer"] = layer.layer;
      layers.push_back(std::move(json));
    }
    Json meets = Json::array();
    for (const Meeting& meeting : meetings)
      meets.push_back({{"at", runPartName(meeting.leaving ? RunPart::Leave : RunPart::Arrive)},
                       {"step", meeting.step},
                       {"beside", meeting.beside},
                       {"clean", meeting.clean}});
    std::cout << Json{{"sentence", result.sentence()}, {"scene", jointJson(result.scene)}, {"layers", layers}, {"run", meets}}.dump(2)
              << "\n";
  } else {
    std::cout << result.sentence() << "\n";
    const auto line = [](const std::string& name, const JointReport& r) {
      std::cout << "  " << name << ": joint " << numberText(r.joint, 3) << ", usual step " << numberText(r.median, 3) << " levels"
                << (r.clean ? "" : " (jumps)") << (r.steady ? "" : " (speed changes)") << "\n";
    };
    line("whole scene", result.scene);
    for (const LayerJoint& layer : result.layers) line(layer.layer, layer.report);
  }
  if (!options.json)
    for (const Meeting& meeting : meetings)
      std::cout << "  " << (meeting.leaving ? "the loop meets what leaves" : "what arrives meets the loop") << ": step "
                << numberText(meeting.step, 3) << ", beside it " << numberText(meeting.beside, 3) << " levels"
                << (meeting.clean ? "" : " (jumps)") << "\n";
  if (!result.scene.clean) return fail("the loop is not clean");
  for (const Meeting& meeting : meetings)
    if (!meeting.clean)
      return fail(meeting.leaving ? "the picture jumps where it begins to leave" : "the picture jumps where all has arrived");
  return {};
}

Status save(const Options& options) {
  const auto scene = opened(options);
  if (!scene) return tl::unexpected(scene.error());
  if (auto saved = saveScene(*scene, options.output); !saved) return saved;
  if (options.output.ends_with(kPackSuffix))
    for (const std::string& sentence : fontsLeftBehind(*scene)) std::cerr << "note: " << sentence << "\n";
  return {};
}

Status profile(const Options& options) {
  const auto scene = opened(options);
  if (!scene) return tl::unexpected(scene.error());
  const auto size = sizeOf(options, *scene);
  if (!size) return tl::unexpected(size.error());
  if (auto fits = fitsBudget(*scene, size->first, size->second); !fits) return fits;
  constexpr int kFrames = 24;
  const auto found = withMemory([&] { return profiled(withoutStandIns(*scene), size->first, size->second, options.threads, kFrames); });
  if (!found) return tl::unexpected(found.error());
  if (options.json) {
    Json layers = Json::array();
    for (const Profile::OfLayer& layer : found->layers) {
      Json steps = Json::array();
      for (const Profile::Step& step : layer.steps) steps.push_back({{"step", step.step}, {"milliseconds", step.milliseconds}});
      layers.push_back({{"id", layer.layer}, {"name", layer.name}, {"milliseconds", layer.milliseconds}, {"steps", steps}});
    }
    std::cout << Json{{"frame", found->frame}, {"work", found->work}, {"laying", found->laying}, {"layers", layers}}.dump(
                     2, ' ', false, Json::error_handler_t::replace)
              << "\n";
    return {};
  }
  const auto line = [&](int indent, const std::string& name, double milliseconds) {
    std::cout << numberText(milliseconds, 2) << " ms\t" << numberText(100 * milliseconds / std::max(1e-9, found->work), 0) << " %\t"
              << std::string(static_cast<std::size_t>(indent) * 2, ' ') << name << "\n";
  };
  std::cout << "a frame of " << size->first << " x " << size->second << " takes " << numberText(found->frame, 2) << " ms, and "
            << numberText(found->work, 2) << " ms of work on all threads:\n";
  for (const Profile::OfLayer& layer : found->layers) {
    line(layer.depth, layer.name, layer.milliseconds);
    for (const Profile::Step& step : layer.steps) line(layer.depth + 1, step.step, step.milliseconds);
  }
  line(0, "laying layers over each other, and packing", found->laying);
  return {};
}

}  // namespace oa::cli
