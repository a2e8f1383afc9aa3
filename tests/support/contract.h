// Scenes about one step, whichever it is, and all that can be changed of it.
#pragma once

#include <algorithm>
#include <cmath>
#include <string>
#include <variant>

#include "base/numbers.h"
#include "params/step_context.h"
#include "support/scenes.h"

namespace oa::test::contract {

// Sources that show other layers get some to show; the tested layer stays the topmost.
inline void showSomething(Scene& scene) {
  const SourceReads reads = scene.layers[0].recipe[0].spec->reads;
  if (reads == SourceReads::Nothing) {
    // What ends somewhere is made to end within the little frame.
    RecipeStep& source = scene.layers[0].recipe[0];
    // What comes with a size of its own is made smaller.
    if (std::any_of(source.spec->params.begin(), source.spec->params.end(), [](const ParamSpec& p) { return p.type == ParamType::File; }))
      scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Size)].base = Point{scene.width / 800.0, scene.width / 800.0};
    for (std::size_t i = 0; source.spec->extent && i < source.params.size(); ++i)
      if (auto* length = std::get_if<double>(&source.params[i].base); length && source.spec->params[i].unit == Unit::Pixels)
        *length = std::max(source.spec->params[i].min, *length * scene.width / 1600);
    return;
  }
  // What reaches far is brought into the little frame.
  if (reads == SourceReads::Stamp)
    for (Param& param : scene.layers[0].recipe[0].params)
      if (auto* outline = std::get_if<Outline>(&param.base); outline && scene.layers[0].recipe[0].spec->extent)
        for (OutlinePoint& p : outline->points)
          for (Point* part : {&p.at, &p.before, &p.after}) *part = {part->x * scene.width / 1600, part->y * scene.width / 1600};
  if (reads == SourceReads::Stamp)
    for (std::size_t i = 0; i < scene.layers[0].recipe[0].params.size(); ++i)
      if (auto* length = std::get_if<double>(&scene.layers[0].recipe[0].params[i].base);
          length && scene.layers[0].recipe[0].spec->params[i].unit == Unit::Pixels)
        *length *= scene.width / 1600.0;
  Scene other = oneLayer("noise", scene.width, scene.height);
  setValue(other, 0, 0, "cell", 40.0);
  addStep(other, "vignette");
  Layer shown = other.layers[0];
  shown.id = 1;
  if (reads == SourceReads::Layers) {
    setValue(scene, 0, 0, "width", std::round(scene.width * 0.6));
    setValue(scene, 0, 0, "height", std::round(scene.height * 0.6));
    scene.layers[0].layers = {shown};
    return;
  }
  shown.visible = reads == SourceReads::Below;
  scene.layers[0].id = 2;
  scene.layers.insert(scene.layers.begin(), shown);
  if (reads == SourceReads::Layer) setValue(scene, 1, 0, "layer", 1.0);
}

// A step alone if it is a source ("noise", or "noise/folded" for one of its varieties), else on a field ("noise") or a picture
// ("gradient") that moves.
inline Scene sceneWith(const std::string& step, const std::string& input, int width = 160, int height = 90) {
  if (input.empty()) {
    const auto slash = step.find('/');
    Scene scene = oneLayer(step.substr(0, slash), width, height);
    if (slash != std::string::npos) setValue(scene, 0, 0, std::string(scene.layers[0].recipe[0].spec->varieties), step.substr(slash + 1));
    showSomething(scene);
    return scene;
  }
  Scene scene = oneLayer(input, width, height);
  if (input == "noise") {
    setValue(scene, 0, 0, "cell", 40.0);
    setValue(scene, 0, 0, "detail", 2.0);
  } else if (input == "gradient") {
    param(scene, 0, 0, "angle").motion = turn(1);
  } else if (input == "shape") {
    setValue(scene, 0, 0, "width", 60.0);
    setValue(scene, 0, 0, "height", 30.0);
  }
  addStep(scene, step);
  // Those that look at another layer have one to look at, hidden below.
  if (scene.layers[0].recipe.back().spec->looking) {
    Layer other = oneLayer("noise", width, height).layers[0];
    other.id = 1;
    other.visible = false;
    scene.layers[0].id = 2;
    scene.layers.insert(scene.layers.begin(), other);
    setValue(scene, 1, 1, "layer", 1.0);
  }
  return scene;
}

inline RecipeStep& tested(Scene& scene) { return scene.layers.back().recipe.back(); }

// Everything that can move does, each parameter in another of the ways it may; `smooth` leaves out those that jump.
inline void setAllMoving(RecipeStep& step, bool smooth = false) {
  int laps = 1;
  std::size_t next = 0;
  forEachParamOf(step, [&](const ParamSpec& spec, Param& p) {
    const std::size_t i = next++;
    auto kinds = allowedMotions(spec);
    if (smooth) std::erase(kinds, MotionKind::Hops);
    if (smooth) std::erase(kinds, MotionKind::Switch);
    // There is no sound, and no other value, that it could follow.
    std::erase(kinds, MotionKind::Sound);
    std::erase(kinds, MotionKind::Follow);
    if (kinds.size() < 2) return;
    p.motion.kind = kinds[1 + i % (kinds.size() - 1)];
    p.motion.laps = (laps % 2 ? laps : -laps) % 5;
    if (p.motion.laps == 0) p.motion.laps = 1;
    p.motion.start = fract(0.1 * laps);
    p.motion.seed = laps;
    ++laps;
    if (auto* number = std::get_if<double>(&p.base))
      p.motion.far = std::clamp(*number * 0.7 + (spec.high() - spec.low()) * 0.05, spec.min, spec.max);
    if (const auto* place = std::get_if<Point>(&p.base); place && !spec.isWhole())
      p.motion.far = Point{place->x * 0.8 + 0.06, place->y * 0.8 + 0.14};
    if (std::holds_alternative<Colour>(p.base)) p.motion.far = Colour{0.9f, 0.3f, 0.2f, 0.8f};
    if (spec.isWhole() && std::holds_alternative<double>(p.motion.far)) p.motion.far = std::round(std::get<double>(p.motion.far));
    if (p.motion.kind == MotionKind::Keyframes) {
      placeKeyframe(p.motion, {0.1, p.base, *Pace::fromName("ease-in-out"), false});
      placeKeyframe(p.motion, {0.6, p.motion.far, {}, !smooth && i % 2 == 0});
    }
    // Every third has a small second one added to it.
    if (i % 3 != 0 || !canAddMotions(spec)) return;
    p.more.push_back(p.motion);
    p.more[0].kind = MotionKind::Swing;
    p.more[0].laps = 3;
  });
}

// The parameters of a step, and behind them those of its last item.
inline std::size_t slotCount(const RecipeStep& step) {
  return step.params.size() + (step.spec->items ? step.spec->items->params.size() : 0);
}
inline const ParamSpec& slotSpec(const StepSpec& spec, std::size_t i) {
  return i < spec.params.size() ? spec.params[i] : spec.items->params[i - spec.params.size()];
}
inline Param& slot(RecipeStep& step, std::size_t i) {
  return i < step.params.size() ? step.params[i] : step.items.back().params[i - step.params.size()];
}

}  // namespace oa::test::contract
