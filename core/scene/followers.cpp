#include "scene/followers.h"

#include <map>
#include <memory>
#include <tuple>

#include "scene/tree.h"

namespace oa {
namespace {

using Key = std::tuple<int, int, int, std::string>;

struct Named {
  const ParamSpec* spec = nullptr;
  Param* param = nullptr;
  int led = 0;  // parameters that lie behind it, itself counted; 0: not known yet
  bool open = false;
};

class Binder {
 public:
  explicit Binder(Scene& scene) {
    forEachLayer(scene.layers, [&](Layer& layer, int) {
      forEachNamed(layer, [&](const LeaderRef& ref, const ParamSpec& spec, Param& param) {
        named_.emplace(Key{ref.layer, ref.step, ref.item, ref.param}, Named{&spec, &param});
      });
    });
  }

  void bindAll() {
    for (auto& [key, named] : named_) bind(named, 0);
  }

 private:
  // How many lie behind it; more than kMostLed where that are too many, or where it comes back to itself.
  int bind(Named& named, int depth) {
    constexpr int kTooMany = kMostLed + 1;
    if (named.open || depth > kMostLed) return kTooMany;
    if (named.led != 0) return named.led;
    named.open = true;
    int led = 1;
    for (std::size_t i = 0; i < motionCount(*named.param); ++i) {
      Motion& motion = motionOf(*named.param, i);
      if (motion.kind != MotionKind::Follow) continue;
      motion.bound.leader = nullptr;
      const LeaderRef& ref = motion.follows;
      const auto found = named_.find(Key{ref.layer, ref.step, ref.item, ref.param});
      if (found == named_.end() || !canFollow(*named.spec, *found->second.spec)) continue;
      const int behind = bind(found->second, depth + 1);
      if (led + behind > kMostLed) continue;
      led += behind;
      motion.bound.leader = std::make_shared<const Leader>(Leader{found->second.spec, *found->second.param});
    }
    named.open = false;
    return named.led = led;
  }

  std::map<Key, Named> named_;
};

bool anyFollows(const Scene& scene) {
  bool any = false;
  forEachLayer(scene.layers, [&](const Layer& layer, int) {
    forEachParam(layer, [&](const ParamSpec&, const Param& param) {
      for (std::size_t i = 0; i < motionCount(param) && !any; ++i) any = motionOf(param, i).kind == MotionKind::Follow;
    });
  });
  return any;
}

}  // namespace

void forEachNamed(Layer& layer, const std::function<void(const LeaderRef&, const ParamSpec&, Param&)>& visit) {
  const auto table = [&](const std::string& prefix, std::span<const ParamSpec> specs, std::vector<Param>& params) {
    for (std::size_t i = 0; i < params.size(); ++i) visit({layer.id, 0, 0, prefix + std::string(specs[i].id)}, specs[i], params[i]);
  };
  const auto ofStep = [&](RecipeStep& step) {
    for (std::size_t i = 0; i < step.params.size(); ++i)
      visit({layer.id, step.id, 0, std::string(step.spec->params[i].id)}, step.spec->params[i], step.params[i]);
    for (Item& item : step.items)
      for (std::size_t i = 0; i < item.params.size(); ++i)
        visit({layer.id, step.id, item.id, std::string(step.spec->items->params[i].id)}, step.spec->items->params[i], item.params[i]);
  };
  visit({layer.id, 0, 0, "opacity"}, opacitySpec(), layer.opacity);
  table("place.", placeSpecs(), layer.place);
  for (RecipeStep& step : layer.recipe) ofStep(step);
  if (!layer.mask) return;
  table("mask.", maskSpecs(), layer.mask->params);
  ofStep(layer.mask->source);
}

void bindFollowers(Scene& scene) {
  if (anyFollows(scene)) Binder(scene).bindAll();
}

}  // namespace oa
