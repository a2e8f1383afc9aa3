#include "scene/run.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <set>

#include "scene/tree.h"

namespace oa {
namespace {

// Footage begins when its layer does.
double delayedFootage(const Layer& layer) {
  const double seconds = footageOf(layer.recipe.front());
  return seconds > 0 && layer.passes.arrive ? seconds + passingOf(*layer.passes.arrive).delay : seconds;
}

double longest(const std::vector<Layer>& layers) {
  double seconds = 0;
  for (const Layer& layer : layers)
    if (layer.visible) seconds = std::max({seconds, delayedFootage(layer), longest(layer.layers)});
  return seconds;
}

}  // namespace

const MediaRef* clipOf(const RecipeStep& step) {
  const int file = findParam(step.spec->params, "file");
  if (file < 0 || !step.spec->footage) return nullptr;
  const auto& ref = std::get<MediaRef>(step.params[static_cast<std::size_t>(file)].base);
  return ref.moving() ? &ref : nullptr;
}

ClipPlay clipPlayOf(const RecipeStep& step) {
  ClipPlay play;
  if (!clipOf(step)) return play;
  const auto value = [&](std::string_view id) -> const Value& {
    return step.params[static_cast<std::size_t>(findParam(step.spec->params, id))].base;
  };
  play.from = std::get<double>(value("from"));
  play.to = std::get<double>(value("to"));
  play.back = std::get<std::string>(value("way")) == "there and back";
  play.stands = std::get<double>(value("stands"));
  play.overlap = std::get<double>(value("overlap"));
  play.between = std::get<bool>(value("between"));
  return play;
}

double footageOf(const RecipeStep& source) { return source.spec->footage ? source.spec->footage(source.params) : 0; }

namespace {

// Frames until everything of one kind is done.
std::int64_t framesOf(const Scene& scene, bool leaving) {
  double longest = 0;
  const auto look = [&](const Passages& passes) {
    if (const auto& way = passes.way(leaving)) longest = std::max(longest, passingOf(*way, scene.rate.value()).ends());
  };
  // What is hidden may be shown by others.
  std::set<Id> shown;
  forEachLayer(scene.layers, [&](const Layer& layer, int) {
    forEachParam(layer, [&](const ParamSpec& spec, const Param& param) {
      if (spec.type == ParamType::Layer) shown.insert(static_cast<Id>(std::get<double>(param.base)));
    });
  });
  const std::function<void(const std::vector<Layer>&)> walk = [&](const std::vector<Layer>& layers) {
    for (const Layer& layer : layers) {
      if (!layer.visible && shown.count(layer.id) == 0) continue;
      look(layer.passes);
      for (const RecipeStep& step : layer.recipe)
        if (step.on) look(step.passes);
      walk(layer.layers);
    }
  };
  walk(scene.layers);
  // A whole number that rounding made a little more of is that number.
  return static_cast<std::int64_t>(std::ceil(longest - 1e-6));
}

}  // namespace

std::int64_t arriveFrames(const Scene& scene) { return framesOf(scene, false); }

std::int64_t leaveFrames(const Scene& scene) { return framesOf(scene, true); }

bool passes(const Scene& scene) { return arriveFrames(scene) > 0 || leaveFrames(scene) > 0; }

RunLength runOf(const Scene& scene) {
  RunLength run;
  const double rate = scene.rate.value();
  run.arrive = arriveFrames(scene);
  run.leave = leaveFrames(scene);
  run.loop = scene.run.seconds > 0 ? std::max<std::int64_t>(1, std::llround(scene.run.seconds * rate))
                                   : std::int64_t{scene.frames} * scene.run.loops;
  run.step = 1 / rate;
  run.seconds = longest(scene.layers);
  const SoundTrack& sound = scene.sound;
  if (sound.there() && sound.toggle(SoundParam::Whole))
    run.seconds = std::max(run.seconds, sound.file().seconds - sound.number(SoundParam::From));
  if (run.seconds <= 0) return run;
  // A last frame that would only begin is left out, but for what rounding makes of a whole one.
  const std::int64_t frames = std::llround(run.seconds * rate);
  run.loop = std::max<std::int64_t>(1, frames - run.arrive - run.leave);
  if (!scene.run.wholeLaps) return run;
  const double laps = static_cast<double>(run.loop) / scene.frames;
  run.loop = std::max<std::int64_t>(1, std::llround(laps)) * scene.frames;
  run.step = run.seconds / static_cast<double>(run.frames());
  return run;
}

Moment runMoment(const RunLength& run, const Scene& scene, std::int64_t frame) {
  Moment at{frame - run.arrive, scene.frames, std::max<std::int64_t>(0, frame), run.step, nullptr};
  at.since = static_cast<double>(frame);
  at.left = static_cast<double>(frame - run.arrive - run.loop);
  return at;
}

std::string_view runPartName(RunPart part) {
  static constexpr std::string_view kNames[] = {"loop", "run", "arrive", "leave"};
  return kNames[static_cast<std::size_t>(part)];
}

RunSpan spanOf(const Scene& scene, const RunLength& run, RunPart part) {
  switch (part) {
    case RunPart::Loop:
      return {run.arrive, run.seconds > 0 ? run.loop : scene.frames};
    case RunPart::Run:
      return {0, run.frames()};
    case RunPart::Arrive:
      return {0, run.arrive};
    case RunPart::Leave:
      return {run.arrive + run.loop, run.leave};
  }
  return {};
}

Scene withoutStandIns(const Scene& scene) {
  Scene left = scene;
  forEachLayer(left.layers, [](Layer& layer, int) {
    if (layer.standIn) layer.visible = false;
  });
  return left;
}

void stretchPassages(Scene& scene, bool leaving, std::int64_t frames) {
  const std::int64_t now = framesOf(scene, leaving);
  if (now <= 0 || frames < 1) return;
  const double times = static_cast<double>(frames) / static_cast<double>(now);
  const auto stretch = [&](Passages& passes) {
    auto& way = passes.way(leaving);
    if (!way) return;
    for (std::size_t i = 0; i < 2; ++i) {
      const ParamSpec& spec = passageSpecs()[i];
      double& seconds = std::get<double>(way->params[i].base);
      seconds = std::clamp(seconds * times, spec.min, spec.max);
    }
  };
  forEachLayer(scene.layers, [&](Layer& layer, int) {
    stretch(layer.passes);
    for (RecipeStep& step : layer.recipe) stretch(step.passes);
  });
}

}  // namespace oa
