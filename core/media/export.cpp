#include "media/export.h"

#include <algorithm>

#include "base/output_file.h"
#include "media/export_job.h"
#include "media/numbering.h"
#include "base/memory_budget.h"
#include "render/budget.h"

namespace oa {

namespace {

Scene exported(const Scene& scene, bool opaque) {
  Scene copy = scene;
  if (!opaque) return copy;
  const Colour c = copy.background.value_or(Colour{0, 0, 0, 0});
  copy.background = Colour{c.r * c.a, c.g * c.a, c.b * c.a, 1};
  return copy;
}

RenderOptions optionsFor(const ExportSettings& s, const ExportPlan& plan) {
  RenderOptions options;
  options.manyFrames = true;
  options.threads = s.threads;
  options.run = plan.run;
  return options;
}

}  // namespace

Renderer exportRenderer(const Scene& scene, const ExportSettings& s, const ExportPlan& plan, int width, int height, bool opaque) {
  return Renderer(exported(scene, opaque), width, height, optionsFor(s, plan));
}

FrameTeam exportTeam(const Scene& scene, const ExportSettings& s, const ExportPlan& plan, int width, int height, bool opaque) {
  return {std::make_shared<const Scene>(exported(scene, opaque)), width, height, optionsFor(s, plan)};
}

void holdOnce(ExportPlan& plan, const Scene& scene, bool shorter, std::int64_t& plays) {
  if (plan.run || plan.stretches.size() != 1 || plan.stretches.front().repeats == 1) return;
  ExportStretch& loop = plan.stretches.front();
  if (shorter)
    plays *= std::max<std::int64_t>(1, scene.frames / loop.count);
  else
    loop.count = scene.frames;
  loop.repeats = 1;
}

void addNote(ExportResult& result, const std::string& note) {
  if (note.empty()) return;
  result.note += (result.note.empty() ? "" : "; ") + note;
}

bool hasTransparency(const Scene& scene) { return !scene.background || scene.background->a < 1; }

bool exportReplaces(const ExportSettings& settings) {
  if (settings.format == ExportFormat::Png)
    if (const auto numbering = numberingFor(settings.path); numbering && numbering->numbered) return numbering->anyThere();
  const auto place = placeOf(settings.path);
  return place && place->kind == PlaceKind::File;
}

Result<ExportResult> exportScene(const Scene& given, const ExportSettings& s, const ProgressFunction& progress) {
  const Scene scene = withoutStandIns(given);
  if (s.path.empty()) return fail("no file name was given");
  const FormatSpec& spec = formatSpec(s.format);
  if (s.width < 1 || s.height < 1 || s.width > kMaxFrameSize || s.height > kMaxFrameSize)
    return fail("the size must lie between 1 x 1 and " + std::to_string(kMaxFrameSize) + " x " + std::to_string(kMaxFrameSize));
  if (s.loops < 1 || s.loops > 10000) return fail("the number of loops must lie between 1 and 10000");
  if (s.plays < 0 || s.plays > 65535) return fail("the number of plays must lie between 0 (for ever) and 65535");
  if (auto plan = planExport(scene, s); !plan) return tl::unexpected(plan.error());
  if (auto fits = fitsBudget(scene, s.width, s.height); !fits) return tl::unexpected(fits.error());
  // What is kept only to be quicker makes way for what is handed over.
  (void)MemoryBudget::shared().ask(static_cast<std::size_t>(memoryNeed(scene, s.width, s.height).bytes));
  if ((s.kilobits > 0 || s.megabytes > 0) && !spec.sized)
    return fail("a size or bit rate cannot be asked of " + std::string(spec.title) + "; its quality can");
  if (s.kilobits < 0 || s.kilobits > 1000000 || !(s.megabytes >= 0) || s.megabytes > 1e6)
    return fail("bit rates lie between 1 and 1000000 kilobits a second, sizes between 0 and 1000000 megabytes");
  Result<ExportResult> result;
  if (spec.movie())
    result = exportVideo(scene, s, progress);
  else if (s.format == ExportFormat::Gif)
    result = exportGif(scene, s, progress);
  else if (s.format == ExportFormat::WebP)
    result = exportWebp(scene, s, progress);
  else if (s.format == ExportFormat::Apng)
    result = exportApng(scene, s, progress);
  else if (s.format == ExportFormat::Page)
    result = exportPage(scene, s, progress);
  else
    result = exportPng(scene, s, progress);
  if (!result || result->cancelled) return result;
  if (s.alpha && !spec.alpha) addNote(*result, "this format holds no transparency, so the picture lies on black");
  if (s.bits > spec.deep) addNote(*result, "this format has " + std::to_string(spec.deep) + " bits a channel at most");
  if (s.plays > 0 && !spec.plays) addNote(*result, "a count of plays is for animated pictures");
  return result;
}

}  // namespace oa
