#include "scene/run.h"

#include <algorithm>
#include <cmath>

namespace oa {
namespace {

double longest(const std::vector<Layer>& layers) {
  double seconds = 0;
  for (const Layer& layer : layers)
    if (layer.visible) seconds = std::max({seconds, footageOf(layer.recipe.front()), longest(layer.layers)});
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

RunLength runOf(const Scene& scene) {
  RunLength run;
  const double rate = scene.rate.value();
  run.frames = scene.frames;
  run.step = 1 / rate;
  run.seconds = longest(scene.layers);
  const SoundTrack& sound = scene.sound;
  if (sound.there() && sound.toggle(SoundParam::Whole))
    run.seconds = std::max(run.seconds, sound.file().seconds - sound.number(SoundParam::From));
  if (run.seconds <= 0) return run;
  if (!scene.run.wholeLaps) {
    // A last frame that would only begin is left out, but for what rounding makes of a whole one.
    run.frames = std::max<std::int64_t>(1, std::llround(run.seconds * rate));
    return run;
  }
  const std::int64_t laps = std::max<std::int64_t>(1, std::llround(run.seconds / scene.seconds()));
  run.frames = laps * scene.frames;
  run.step = run.seconds / static_cast<double>(run.frames);
  return run;
}

}  // namespace oa
