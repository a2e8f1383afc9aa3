#include "support/graphs.h"

#include <random>

#include "base/numbers.h"
#include "params/stop_items.h"
#include "scene/plan.h"
#include "scene/tree.h"
#include "support/scenes.h"

namespace oa::test {
namespace {

class Maker {
 public:
  Maker(unsigned seed, const GraphWishes& wishes) : random_(seed), wishes_(wishes) {}

  Scene scene() {
    Scene scene;
    scene.name = "graph";
    scene.width = wishes_.width;
    scene.height = wishes_.height;
    scene.frames = wishes_.frames;
    if (chance(0.3)) scene.background = Colour{0.2f, 0.1f, 0.3f, 0.5f};
    scene.linearLight = chance(0.2);
    scene.hold = chance(0.1) ? 2 : 1;
    left_ = wishes_.layers;
    while (left_ > 0) scene.layers.push_back(layer(0, static_cast<int>(scene.layers.size())));
    assignIds(scene);
    linkUp(scene);
    return scene;
  }

 private:
  double unit() { return std::uniform_real_distribution<double>(0, 1)(random_); }
  double within(double low, double high) { return mix(low, high, unit()); }
  bool chance(double share) { return unit() < share; }
  int whole(int low, int high) { return std::uniform_int_distribution<int>(low, high)(random_); }

  void set(RecipeStep& step, const char* id, const Value& value) {
    Param& param = step.params[static_cast<std::size_t>(findParam(step.spec->params, id))];
    param.base = param.motion.far = value;
  }
  Colour colour() {
    return {static_cast<float>(unit()), static_cast<float>(unit()), static_cast<float>(unit()),
            chance(0.5) ? 1 : static_cast<float>(within(0.2, 1))};
  }

  RecipeStep source(bool below) {
    static const char* const kPlain[] = {"shape", "flat", "noise", "pattern", "gradient"};
    const double which = unit();
    const char* name = which < 0.22 ? "linked" : which < 0.3 && below ? "below" : kPlain[whole(0, 4)];
    RecipeStep step = newStep(*findStep(name));
    if (step.spec->id == "shape") {
      static const char* const kKinds[] = {"rectangle", "ellipse", "polygon", "star"};
      set(step, "kind", std::string(kKinds[whole(0, 3)]));
      set(step, "width", within(8, 60));
      set(step, "height", within(8, 40));
      set(step, "corner", within(0, 6));
      set(step, "softness", chance(0.4) ? within(2, 50) : 0.0);
      set(step, "colour", colour());
    }
    if (step.spec->id == "flat") set(step, "colour", colour());
    if (step.spec->id == "noise") {
      set(step, "cell", within(8, 30));
      set(step, "detail", 2.0);
    }
    if (step.spec->id == "pattern") set(step, "scale", within(6, 20));
    for (Item& item : step.items) {
      // Stops that move, each for itself.
      if (chance(0.4)) item.params[kStopAt].motion = swing(unit(), whole(1, 3));
      if (chance(0.4)) item.params[kStopColour].motion = swing(colour(), whole(1, 3));
    }
    if (step.spec->reads == SourceReads::Layer || step.spec->reads == SourceReads::Below) set(step, "start", chance(0.5) ? unit() : 0.0);
    return step;
  }

  RecipeStep step() {
    static const char* const kPoints[] = {"levels", "colourmap", "vividness", "vignette"};
    const bool area = wishes_.areas && chance(0.5);
    RecipeStep made = newStep(*findStep(area ? (chance(0.6) ? "blur" : "warp") : kPoints[whole(0, 3)]));
    if (made.spec->id == "blur") {
      set(made, "across", within(0.5, 6));
      set(made, "down", chance(0.5) ? std::get<double>(made.params[0].base) : within(0.5, 6));
    }
    if (made.spec->id == "warp") {
      set(made, "amount", within(1, 5));
      set(made, "cell", within(16, 40));
    }
    if (chance(0.3)) made.presence.push_back({unit(), within(0.2, 0.9), 0.1, 0.1});
    return made;
  }

  void place(Layer& layer) {
    const auto param = [&](PlaceParam which) -> Param& { return layer.place[static_cast<std::size_t>(which)]; };
    const auto give = [&](PlaceParam which, const Value& value) { param(which).base = param(which).motion.far = value; };
    give(PlaceParam::Position, Point{within(0.1, 0.9), within(0.1, 0.9)});
    if (chance(0.6)) give(PlaceParam::Size, Point{within(0.4, 2), within(0.4, 2)});
    if (chance(0.6)) give(PlaceParam::Turn, chance(0.3) ? 90.0 * whole(-3, 3) : within(-180, 180));
    if (chance(0.3)) give(PlaceParam::Anchor, Point{unit(), unit()});
    if (chance(0.3)) give(PlaceParam::Flip, std::string(chance(0.5) ? "across" : "both"));
    if (chance(0.4)) param(PlaceParam::Turn).motion = turn(whole(1, 2));
    if (chance(0.4)) param(PlaceParam::Position).motion = swing(Point{unit(), unit()}, whole(1, 3));
    // Motions that add up.
    if (chance(0.3)) param(PlaceParam::Turn).more.push_back(swing(within(-60, 60), whole(1, 4)));
    if (chance(0.3)) param(PlaceParam::Position).more.push_back(swing(Point{unit(), unit()}, whole(1, 4)));
  }

  Layer layer(int depth, int number) {
    --left_;
    const bool group = depth < 3 && left_ > 0 && chance(0.35);
    Layer made = newLayer(*findStep(group ? "group" : "flat"), (group ? "G" : "L") + std::to_string(left_));
    if (group) {
      if (chance(0.4)) {
        set(made.recipe[0], "width", static_cast<double>(whole(12, 60)));
        set(made.recipe[0], "height", static_cast<double>(whole(12, 40)));
        set(made.recipe[0], "cut", chance(0.6));
      }
      set(made.recipe[0], "laps", static_cast<double>(whole(1, 3)));
      const int count = whole(1, 3);
      for (int i = 0; i < count && left_ > 0; ++i) made.layers.push_back(layer(depth + 1, i));
    } else {
      made.recipe[0] = source(number > 0);
    }
    if (chance(0.5)) made.recipe.push_back(step());
    if (chance(0.2)) made.recipe.push_back(step());
    if (wishes_.places && chance(0.5)) place(made);
    if (chance(0.4)) made.blend = static_cast<BlendMode>(whole(0, kBlendModes - 1));
    if (chance(0.3)) made.opacity.base = made.opacity.motion.far = within(0.2, 1);
    if (chance(0.2)) made.opacity.motion = swing(unit(), 2);
    if (chance(0.25)) made.presence.push_back({unit(), within(0.2, 1), 0.1, 0.05});
    if (chance(0.15)) made.hold = whole(2, 5);
    if (chance(0.1)) made.visible = false;
    if (chance(0.3)) {
      made.mask = newMask(*findStep("flat"));
      made.mask->source = source(number > 0);
      made.mask->params[static_cast<std::size_t>(MaskParam::Reads)].base = std::string(chance(0.5) ? "alpha" : "lightness");
      if (wishes_.areas && chance(0.3)) made.mask->params[static_cast<std::size_t>(MaskParam::Grow)].base = within(-4, 4);
      if (wishes_.areas && chance(0.3)) made.mask->params[static_cast<std::size_t>(MaskParam::Soften)].base = within(1, 6);
      made.mask->params[static_cast<std::size_t>(MaskParam::Invert)].base = chance(0.3);
    }
    return made;
  }

  // Every link shows some layer, as far as none shows itself by it.
  void linkUp(Scene& scene) {
    const std::vector<Id> ids = allIds(scene);
    for (const Id id : ids) {
      forEachParam(*findLayer(scene, id), [&](const ParamSpec& spec, Param& param) {
        if (spec.type != ParamType::Layer) return;
        for (int tries = 0; tries < 4; ++tries) {
          param.base = param.motion.far = static_cast<double>(ids[static_cast<std::size_t>(whole(0, static_cast<int>(ids.size()) - 1))]);
          if (Plan(scene).circles().empty()) return;
        }
        param.base = param.motion.far = 0.0;
      });
    }
  }

  std::mt19937 random_;
  GraphWishes wishes_;
  int left_ = 0;
};

}  // namespace

Scene randomGraph(unsigned seed, const GraphWishes& wishes) { return Maker(seed, wishes).scene(); }

}  // namespace oa::test
