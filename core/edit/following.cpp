#include "edit/following.h"

#include <algorithm>
#include <map>
#include <set>
#include <tuple>

#include "edit/placed.h"
#include "scene/tree.h"

namespace oa::edit {
namespace {

std::tuple<int, int, int, std::string> keyOf(const LeaderRef& ref) { return {ref.layer, ref.step, ref.item, ref.param}; }

LeaderRef refIn(const Layer& layer, const MotionAddress& at, const ParamSpec& spec) {
  const std::string id(spec.id);
  if (at.step == MotionAddress::kOpacity) return {layer.id, 0, 0, "opacity"};
  if (at.step == MotionAddress::kPlace) return {layer.id, 0, 0, "place." + id};
  if (at.step == MotionAddress::kMask) return {layer.id, 0, 0, "mask." + id};
  const RecipeStep& step = at.step == MotionAddress::kMaskSource ? layer.mask->source : layer.recipe[static_cast<std::size_t>(at.step)];
  return {layer.id, step.id, at.item, id};
}

struct Known {
  Candidate candidate;
  const ParamSpec* spec = nullptr;
  const Param* param = nullptr;
};

std::vector<Known> allOf(const Scene& scene) {
  std::vector<Known> all;
  const auto down = [&](const auto& self, const std::vector<Layer>& layers) -> void {
    for (auto layer = layers.rbegin(); layer != layers.rend(); ++layer) {
      forEachPlaced(*layer, [&](const MotionAddress& at, const ParamSpec& spec, const Param& param) {
        if (spec.canMove()) all.push_back({{at, refIn(*layer, at, spec), layer->name, {}, reallyMoves(spec, param)}, &spec, &param});
      });
      self(self, layer->layers);
    }
  };
  down(down, scene.layers);
  return all;
}

}  // namespace

std::vector<Candidate> candidatesFor(const Scene& scene, const MotionAddress& follower) {
  const std::vector<Known> all = allOf(scene);
  const auto same = [&](const MotionAddress& at) {
    return at.layer == follower.layer && at.step == follower.step && at.param == follower.param && at.item == follower.item;
  };
  const auto self = std::find_if(all.begin(), all.end(), [&](const Known& k) { return same(k.candidate.at); });
  if (self == all.end()) return {};
  // Those that follow it, and those that follow those.
  std::multimap<std::tuple<int, int, int, std::string>, const Known*> followers;
  for (const Known& known : all)
    for (std::size_t i = 0; i < motionCount(*known.param); ++i)
      if (const Motion& m = motionOf(*known.param, i); m.kind == MotionKind::Follow) followers.emplace(keyOf(m.follows), &known);
  std::set<const Known*> behind = {&*self};
  std::vector<const Known*> open = {&*self};
  while (!open.empty()) {
    const Known* next = open.back();
    open.pop_back();
    const auto [first, last] = followers.equal_range(keyOf(next->candidate.ref));
    for (auto at = first; at != last; ++at)
      if (behind.insert(at->second).second) open.push_back(at->second);
  }
  std::vector<Candidate> list;
  for (const Known& known : all)
    if (canFollow(*self->spec, *known.spec) && !behind.contains(&known)) list.push_back(known.candidate);
  for (Candidate& candidate : list) candidate.name = valueNameOf(scene, candidate.at);
  std::stable_partition(list.begin(), list.end(), [](const Candidate& c) { return c.moves; });
  return list;
}

std::optional<LeaderRef> firstLeader(const Scene& scene, const MotionAddress& follower) {
  const std::vector<Candidate> list = candidatesFor(scene, follower);
  if (list.empty() || !list.front().moves) return {};
  const std::string own = refOf(scene, follower).param;
  const auto same = std::find_if(list.begin(), list.end(), [&](const Candidate& c) { return c.moves && c.ref.param == own; });
  return same == list.end() ? list.front().ref : same->ref;
}

LeaderRef refOf(const Scene& scene, const MotionAddress& at) {
  LeaderRef ref;
  if (const Layer* layer = findLayer(scene, at.layer))
    forEachPlaced(*layer, [&](const MotionAddress& here, const ParamSpec& spec, const Param&) {
      if (here.step == at.step && here.param == at.param && here.item == at.item) ref = refIn(*layer, here, spec);
    });
  return ref;
}

std::string nameOf(const Scene& scene, const LeaderRef& ref) {
  std::string name;
  if (const Layer* layer = findLayer(scene, ref.layer))
    forEachPlaced(*layer, [&](const MotionAddress& at, const ParamSpec& spec, const Param&) {
      if (refIn(*layer, at, spec) == ref) name = layer->name + ", " + valueNameOf(scene, at);
    });
  return name;
}

}  // namespace oa::edit
