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
