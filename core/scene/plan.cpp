#include "scene/plan.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "scene/followers.h"
#include "scene/run.h"
#include "scene/tree.h"

namespace oa {
namespace {

std::int64_t lapsOf(const Presence& presence) { return alwaysThere(presence) ? 0 : 1; }

std::int64_t lapsOf(const RecipeStep& step) {
  std::int64_t common = lapsOf(step.presence);
  forEachShownParamOf(step, [&](const ParamSpec& spec, const Param& param) { common = std::gcd(common, lapsOf(spec, param)); });
  return common;
}

// What is left of them where each picture is held: pictures that do not change places with the beat of it never repeat early.
std::int64_t heldLaps(std::int64_t laps, int hold, int frames) {
  if (laps == 0 || hold <= 1) return laps;
  return distinctFrames(frames, laps) % hold == 0 ? laps : 1;
}

const Param* paramOf(const RecipeStep& step, std::string_view id) {
  const int i = findParam(step.spec->params, id);
  return i < 0 ? nullptr : &step.params[static_cast<std::size_t>(i)];
}

double numberOf(const RecipeStep& step, std::string_view id, double otherwise) {
  const Param* param = paramOf(step, id);
  return param ? std::get<double>(param->base) : otherwise;
}

// The group's own frame within an outer one.
Point ownFrame(const Layer& layer, Point outer) {
  if (!layer.isGroup()) return outer;
  const double width = numberOf(layer.recipe.front(), "width", 0);
  const double height = numberOf(layer.recipe.front(), "height", 0);
  return {width > 0 ? width : outer.x, height > 0 ? height : outer.y};
}

// Words pass letter by letter; what has no letters does so as a whole.
Passings waysOf(const Layer& layer, double rate) {
  Passings passes = passingsOf(layer.passes, rate);
  if (layer.recipe.front().spec->pieces) return passes;
  for (auto* way : {&passes.arrive, &passes.leave})
    if (*way) (*way)->by = PassBy::Whole;
  return passes;
}

// Whether what it shows on its own plane is another thing while it arrives or leaves.
bool passesInside(const Layer& layer, const Passings& passes) {
  bool inside = false;
  for (const auto* way : {&passes.arrive, &passes.leave}) inside = inside || (*way && (*way)->by != PassBy::Whole);
  const auto look = [&](const ParamSpec&, const Param& param) { inside = inside || !param.away.empty(); };
  for (const RecipeStep& step : layer.recipe) {
    inside = inside || step.passes.any();
    forEachParamOf(step, look);
  }
  if (layer.mask) {
    forEachParamOf(layer.mask->source, look);
    for (std::size_t i = 0; i < layer.mask->params.size(); ++i) look(maskSpecs()[i], layer.mask->params[i]);
  }
  return inside;
}

// A group whose layers are seen as if they lay beside it: nothing is done to them together.
bool isThrough(const Layer& layer) {
  if (!layer.isGroup() || layer.blend != BlendMode::Normal || layer.mask || !alwaysThere(layer.presence)) return false;
  const Param full = defaultParam(opacitySpec());
  if (layer.opacity.base != full.base || moves(layer.opacity)) return false;
  const Param* cut = paramOf(layer.recipe.front(), "cut");
  if (cut && std::get<bool>(cut->base)) return false;
  return std::none_of(layer.recipe.begin() + 1, layer.recipe.end(), [](const RecipeStep& step) { return step.on; });
}

}  // namespace

Plan::Plan(Scene scene) : scene_(std::move(scene)) {
  assignIds(scene_);
  bindFollowers(scene_);
  children_.emplace_back();
  list(scene_.layers, -1);
  for (std::size_t i = 0; i < layers_.size(); ++i) {
    PlanLayer& layer = layers_[i];
    layer.target = targetOf(layer.layer->recipe.front(), *layer.layer);
    if (layer.layer->mask && layer.layer->mask->on) layer.maskTarget = targetOf(layer.layer->mask->source, *layer.layer);
    findLooks(layer);
  }
  const auto seen = [&](int shown) {
    if (shown >= 0) ++layers_[static_cast<std::size_t>(shown)].viewers;
  };
  for (std::size_t i = 0; i < layers_.size(); ++i) {
    seen(layers_[i].target);
    seen(layers_[i].maskTarget);
    for (const int look : layers_[i].looksAt) seen(look);
  }
  // Every circle is cut where it is found, until there is none.
  for (bool whole = false; !whole;) {
    std::vector<char> state(layers_.size(), 0);
    std::vector<int> way;
    whole = true;
    for (std::size_t i = 0; i < layers_.size() && whole; ++i) whole = resolve(static_cast<int>(i), state, way);
  }
  for (const int i : children(-1)) {
    const PlanLayer& layer = at(i);
    if (!layer.layer->visible) continue;
    laps_ = std::gcd(laps_, layer.placedLaps);
    runs_ = runs_ || layer.runs;
    pulls_ += layer.pulls;
  }
  laps_ = heldLaps(laps_, scene_.hold, scene_.frames);
  arrive_ = arriveFrames(scene_);
}

void Plan::list(const std::vector<Layer>& layers, int parent) {
  for (std::size_t k = 0; k < layers.size(); ++k) {
    const auto index = static_cast<int>(layers_.size());
    PlanLayer made;
    made.layer = &layers[k];
    made.parent = parent;
    made.place = static_cast<int>(k);
    made.through = isThrough(layers[k]);
    made.passes = waysOf(layers[k], scene_.rate.value());
    made.passesWithin = passesInside(layers[k], made.passes);
    if (std::any_of(layers[k].recipe.begin(), layers[k].recipe.end(), [](const RecipeStep& step) { return step.passes.any(); }))
      for (const RecipeStep& step : layers[k].recipe)
        made.stepPasses.push_back(step.passes.any() ? std::optional(passingsOf(step.passes, scene_.rate.value())) : std::nullopt);
    const Point outer = parent < 0 ? Point{static_cast<double>(scene_.width), static_cast<double>(scene_.height)} : at(parent).frame;
    made.frame = ownFrame(layers[k], outer);
    layers_.push_back(made);
    children_.emplace_back();
    children_[static_cast<std::size_t>(parent) + 1].push_back(index);
    index_.emplace(layers[k].id, index);
    list(layers[k].layers, index);
    layers_[static_cast<std::size_t>(index)].next = static_cast<int>(layers_.size());
  }
}

int Plan::indexOf(Id id) const {
  const auto found = index_.find(id);
  return found == index_.end() ? -1 : found->second;
}

int Plan::targetOf(const RecipeStep& source, const Layer& layer) {
  const bool stamp = source.spec->reads == SourceReads::Stamp;
  if (source.spec->reads != SourceReads::Layer && !stamp) return -1;
  const auto id = static_cast<Id>(numberOf(source, "layer", 0));
  if (stamp && id <= 0) return -1;
  const int found = id > 0 ? indexOf(id) : -1;
  if (found < 0) missing_.push_back("\"" + layer.name + "\" shows a layer that is not there any more");
  return found;
}

void Plan::findLooks(PlanLayer& layer) {
  const std::vector<RecipeStep>& recipe = layer.layer->recipe;
  for (std::size_t i = 1; i < recipe.size(); ++i) {
    const auto id = recipe[i].spec->looking && recipe[i].on ? static_cast<Id>(numberOf(recipe[i], "layer", 0)) : 0;
    if (id <= 0) continue;
    layer.looksAt.resize(recipe.size(), -1);
    layer.looksAt[i] = indexOf(id);
    if (layer.looksAt[i] < 0) missing_.push_back("a step of \"" + layer.layer->name + "\" looks at a layer that is not there any more");
  }
}

bool readsBelow(const RecipeStep& step) {
  return step.spec->reads == SourceReads::Below || (step.spec->looksBelow && step.spec->looksBelow(step.params));
}

// The layers that a layer's picture needs.
std::vector<int> Plan::edges(int index) const {
  const PlanLayer& layer = at(index);
  std::vector<int> list;
  if (layer.layer->isGroup()) list = children(index);
  if (!layer.blind &&
      (readsBelow(layer.layer->recipe.front()) || (layer.layer->mask && layer.layer->mask->on && readsBelow(layer.layer->mask->source))))
    for (const int sibling : children(layer.parent))
      if (at(sibling).place < layer.place) list.push_back(sibling);
  if (layer.target >= 0) list.push_back(layer.target);
  if (layer.maskTarget >= 0) list.push_back(layer.maskTarget);
  for (const int look : layer.looksAt)
    if (look >= 0) list.push_back(look);
  return list;
}

// Depth first; a layer that is come upon again on the way to it closes a circle, which is cut: false.
bool Plan::resolve(int index, std::vector<char>& state, std::vector<int>& way) {
  constexpr char kOnTheWay = 1;
  constexpr char kDone = 2;
  if (state[static_cast<std::size_t>(index)] == kDone) return true;
  state[static_cast<std::size_t>(index)] = kOnTheWay;
  way.push_back(index);
  for (const int to : edges(index)) {
    if (state[static_cast<std::size_t>(to)] == kOnTheWay) {
      cut({std::find(way.begin(), way.end(), to), way.end()});
      return false;
    }
    if (!resolve(to, state, way)) return false;
  }
  count(index);
  way.pop_back();
  state[static_cast<std::size_t>(index)] = kDone;
  return true;
}

// Groups alone make no circles: one of its layers shows another, or what lies below.
void Plan::cut(const std::vector<int>& circle) {
  std::string names;
  for (const int index : circle) names += "\"" + at(index).layer->name + "\" shows ";
  circles_.push_back(names + "\"" + at(circle.front()).layer->name + "\" again");
  for (std::size_t i = 0; i < circle.size(); ++i) {
    PlanLayer& from = layers_[static_cast<std::size_t>(circle[i])];
    const int to = circle[(i + 1) % circle.size()];
    if (from.target == to) {
      from.target = -1;
      return;
    }
    if (from.maskTarget == to) {
      from.maskTarget = -1;
      return;
    }
    if (const auto look = std::find(from.looksAt.begin(), from.looksAt.end(), to); look != from.looksAt.end()) {
      *look = -1;
      return;
    }
    if (at(to).parent != circle[i]) {
      from.blind = true;
      return;
    }
  }
}

// What the places share that a layer stands in (Puller::standing()).
std::int64_t Plan::standingLaps(int index) const {
  std::int64_t laps = 0;
  for (int up = index; up >= 0; up = at(up).parent)
    laps = std::gcd(laps, heldLaps(commonLaps(at(up).layer->place), at(up).layer->hold, scene_.frames));
  return laps;
}

void Plan::count(int index) {
  PlanLayer& layer = layers_[static_cast<std::size_t>(index)];
  const Layer& own = *layer.layer;
  const RecipeStep& source = own.recipe.front();
  std::int64_t shown = 0;
  double pulls = 1;
  const auto add = [&](int other, bool placed) {
    const PlanLayer& o = at(other);
    shown = std::gcd(shown, placed ? o.placedLaps : o.laps);
    pulls += o.pulls;
    layer.spreads = layer.spreads || o.spreads;
    layer.runs = layer.runs || o.runs;
    layer.passesWithin = layer.passesWithin || o.passesWithin || (placed && o.layer->passes.any());
  };
  if (own.isGroup()) {
    for (const int child : children(index))
      if (at(child).layer->visible) add(child, true);
    shown *= std::max(1, static_cast<int>(numberOf(source, "laps", 1)));
  }
  const auto addBelow = [&](const RecipeStep& step) {
    if (!readsBelow(step)) return;
    // It is seen where it lies, so that it moves against a layer that moves.
    shown = std::gcd(shown, commonLaps(own.place));
    for (const int sibling : children(layer.parent))
      if (at(sibling).place < layer.place && at(sibling).layer->visible) add(sibling, true);
  };
  addBelow(source);
  if (layer.target >= 0) {
    add(layer.target, false);
    // What a source makes of another layer's picture lies in its own frame.
    if (source.spec->reads == SourceReads::Layer) layer.frame = at(layer.target).frame;
    if (source.spec->follows) shown = std::gcd(shown, std::gcd(standingLaps(layer.target), standingLaps(index)));
  }
  for (const int look : layer.looksAt)
    if (look >= 0) add(look, false);
  shown = std::gcd(shown, lapsOf(source));
  layer.runs = layer.runs || footageOf(source) > 0 || (own.mask && own.mask->on && footageOf(own.mask->source) > 0);
  layer.wholeLaps = layer.laps = shown;
  std::int64_t steps = shown;
  for (std::size_t i = 1; i < own.recipe.size(); ++i) {
    if (!own.recipe[i].on) continue;
    steps = std::gcd(steps, lapsOf(own.recipe[i]));
    if (own.recipe[i].spec->kind != StepKind::Area) continue;
    layer.wholeLaps = steps;
    layer.spreads = true;
  }
  if (own.mask && own.mask->on) {
    shown = steps;
    addBelow(own.mask->source);
    if (layer.maskTarget >= 0) {
      add(layer.maskTarget, false);
      if (own.mask->source.spec->follows) shown = std::gcd(shown, std::gcd(standingLaps(layer.maskTarget), standingLaps(index)));
    }
    steps = std::gcd(shown, lapsOf(own.mask->source));
    for (std::size_t i = 0; i < own.mask->params.size(); ++i) steps = std::gcd(steps, lapsOf(maskSpecs()[i], own.mask->params[i]));
  }
  layer.laps = steps;
  std::int64_t placed = std::gcd(steps, lapsOf(opacitySpec(), own.opacity));
  placed = std::gcd(std::gcd(placed, commonLaps(own.place)), lapsOf(own.presence));
  layer.placedLaps = heldLaps(placed, own.hold, scene_.frames);
  if (layer.runs) layer.laps = layer.wholeLaps = layer.placedLaps = 1;
  layer.pulls = std::min(pulls, 1e15);
}

Status Plan::status() const {
  if (!circles_.empty()) return fail("a layer cannot show itself: " + circles_.front());
  if (pulls_ > kMostPulls)
    return fail("the layers show each other so often that one picture would have to make " +
                std::to_string(static_cast<std::int64_t>(pulls_)) + " of them; at most " + std::to_string(static_cast<int>(kMostPulls)) +
                " can be made");
  return {};
}

std::int64_t commonLaps(const Scene& scene) { return Plan(scene).laps(); }

std::int64_t distinctFrames(const Scene& scene) { return distinctFrames(scene.frames, commonLaps(scene)); }

Moment heldMoment(const Moment& at, int hold) {
  if (hold <= 1) return at;
  const std::int64_t frame = floorMod(at.frame, at.frames);
  Moment held = at.at(frame - frame % hold);
  held.run = std::max<std::int64_t>(0, at.run - frame % hold);
  const double gone = static_cast<double>(frame % hold) / static_cast<double>(at.quicker);
  held.since -= gone;
  held.left -= gone;
  return held;
}

Moment ownMoment(const PlanLayer& layer, const Moment& at) {
  Moment own = heldMoment(at, layer.layer->hold).of(&layer.passes);
  // Footage begins when its layer does.
  if (layer.runs && layer.passes.arrive && std::isfinite(at.since))
    own.run = std::max<std::int64_t>(0, own.run - std::llround(layer.passes.arrive->delay));
  return own;
}

Moment groupMoment(const Layer& group, const Moment& at) {
  const auto laps = static_cast<std::int64_t>(numberOf(group.recipe.front(), "laps", 1));
  if (laps <= 1) return at;
  Moment inside = at.at(floorMod(floorMod(at.frame, at.frames) * laps, at.frames));
  inside.quicker *= laps;
  return inside;
}

Moment shownMoment(const RecipeStep& source, const Moment& at) {
  const auto ahead = static_cast<std::int64_t>(std::llround(numberOf(source, "start", 0) * static_cast<double>(at.frames)));
  return ahead == 0 ? at : at.at(floorMod(at.frame + ahead, at.frames));
}

}  // namespace oa
