#include "edit/clips.h"

#include <algorithm>
#include <cmath>

#include "scene/tree.h"

namespace oa::edit {
namespace {

Param& paramOf(RecipeStep& step, std::string_view id) { return step.params[static_cast<std::size_t>(findParam(step.spec->params, id))]; }
const Param& paramOf(const RecipeStep& step, std::string_view id) {
  return step.params[static_cast<std::size_t>(findParam(step.spec->params, id))];
}

// Seconds of the clip that go by in a play.
double lengthOf(const RecipeStep& step, const MediaRef& clip) {
  const ClipPlay play = clipPlayOf(step);
  return playSeconds(clip.seconds, play) / std::max(0.05, 1 - play.stands);
}

}  // namespace

void setClipPlay(Scene& scene, Id id, int at, const ClipPlay& play) {
  Layer* layer = findLayer(scene, id);
  if (!layer || at < 0 || at >= static_cast<int>(layer->recipe.size())) return;
  RecipeStep& step = layer->recipe[static_cast<std::size_t>(at)];
  if (!clipOf(step)) return;
  const auto set = [&](std::string_view name, Value value) {
    Param& param = paramOf(step, name);
    param.base = param.motion.far = std::move(value);
  };
  const auto rounded = [](double seconds) { return std::round(seconds * 1e5) / 1e5; };
  set("from", rounded(play.from));
  set("to", rounded(play.to));
  set("overlap", rounded(play.overlap));
  set("way", std::string(play.back ? "there and back" : "round"));
  // As near to its own speed as before.
  set("plays", static_cast<double>(bestPlays(step, scene)));
}

double clipSpeed(const RecipeStep& source, const Scene& scene) {
  const MediaRef* clip = clipOf(source);
  if (!clip) return 0;
  if (std::get<std::string>(paramOf(source, "way").base) == "through") return 1;
  const Param& plays = paramOf(source, "plays");
  if (!moves(plays)) return 0;
  return lengthOf(source, *clip) * std::get<double>(plays.base) * std::abs(plays.motion.laps) / scene.seconds();
}

int bestPlays(const RecipeStep& source, const Scene& scene) {
  const MediaRef* clip = clipOf(source);
  if (!clip) return 1;
  const double times = scene.seconds() / std::max(1e-3, lengthOf(source, *clip));
  // Nearest by ratio: twice as fast is as far off as half as fast.
  const double low = std::max(1.0, std::floor(times));
  return static_cast<int>(std::min(1000.0, times / low < (low + 1) / times ? low : low + 1));
}

}  // namespace oa::edit
