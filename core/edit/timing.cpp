#include "edit/timing.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

#include "base/numbers.h"
#include "edit/placed.h"
#include "edit/rhythms.h"
#include "scene/plan.h"
#include "scene/tree.h"

namespace oa::edit {
namespace {

constexpr const char* kBetween = " · ";

// Own laps of a group; 1 of others.
int lapsWithin(const Layer& layer) {
  if (!layer.isGroup()) return 1;
  const int i = findParam(layer.recipe.front().spec->params, "laps");
  return i < 0
             ? 1
             : std::max(1, static_cast<int>(std::lround(std::get<double>(layer.recipe.front().params[static_cast<std::size_t>(i)].base))));
}

// The head start of a layer that shows another one; null where it shows none.
template <class AnyLayer>
auto headStartOf(AnyLayer& layer) -> decltype(&layer.opacity) {
  auto& source = layer.recipe.front();
  if (source.spec->reads != SourceReads::Layer) return nullptr;
  const int i = findParam(source.spec->params, "start");
  return i < 0 ? nullptr : &source.params[static_cast<std::size_t>(i)];
}

void listOwn(const Scene& scene, const Layer& layer, int times, std::vector<Timed>& list) {
  forEachPlaced(layer, [&](MotionAddress at, const ParamSpec& spec, const Param& param) {
    if (!spec.canMove()) return;
    for (const int count = static_cast<int>(motionCount(param)); at.motion < count; ++at.motion) {
      if (!motionOf(param, static_cast<std::size_t>(at.motion)).moves()) continue;
      const Param alone = withMotionAlone(param, static_cast<std::size_t>(at.motion));
      if (!reallyMoves(spec, alone)) continue;
      const Motion& m = alone.motion;
      list.push_back({at, &spec, m.kind, keepsTime(m) ? m.laps : 0, times, m.start, wayOfLap(scene, spec, alone, m)});
    }
  });
}

void listDown(const Scene& scene, const std::vector<Layer>& layers, int times, std::vector<Timed>& list) {
  for (auto layer = layers.rbegin(); layer != layers.rend(); ++layer) {
    listOwn(scene, *layer, times, list);
    listDown(scene, layer->layers, times * lapsWithin(*layer), list);
  }
}

void listUp(const Scene& scene, const Layer& layer, int times, std::vector<Timed>& list) {
  listOwn(scene, layer, times, list);
  for (const Layer& child : layer.layers) listUp(scene, child, times * lapsWithin(layer), list);
}

// The step or mask source that an address names; null for tables.
template <class AnyLayer>
auto stepAt(AnyLayer& layer, int step) -> decltype(&layer.recipe.front()) {
  if (step == MotionAddress::kMaskSource) return layer.mask ? &layer.mask->source : nullptr;
  return step >= 0 && step < static_cast<int>(layer.recipe.size()) ? &layer.recipe[static_cast<std::size_t>(step)] : nullptr;
}

Param* paramAt(Scene& scene, const MotionAddress& at) {
  Layer* layer = findLayer(scene, at.layer);
  if (!layer) return nullptr;
  std::vector<Param>* params = nullptr;
  if (at.step == MotionAddress::kOpacity) return &layer->opacity;
  if (at.step == MotionAddress::kPlace) params = &layer->place;
  if (at.step == MotionAddress::kMask && layer->mask) params = &layer->mask->params;
  if (RecipeStep* step = stepAt(*layer, at.step)) {
    params = &step->params;
    if (at.item != 0) {
      const auto item = std::find_if(step->items.begin(), step->items.end(), [&](const Item& i) { return i.id == at.item; });
      params = item == step->items.end() ? nullptr : &item->params;
    }
  }
  return params && at.param >= 0 && at.param < static_cast<int>(params->size()) ? &(*params)[static_cast<std::size_t>(at.param)] : nullptr;
}

// Those that keep a time of their own.
template <class Change>
void changeEach(Scene& scene, const std::vector<MotionAddress>& motions, const Change& change) {
  for (std::size_t i = 0; i < motions.size(); ++i)
    if (Motion* m = motionAt(scene, motions[i]); m && m->moves() && keepsTime(*m)) change(*m, i);
}

// How far ahead a layer is, as a share of the loop, and what it does in so many equal parts of it: by its head start where it shows
// another layer, by its first motion else. No parts: nothing in it moves.
struct Clock {
  double ahead = 0;
  std::int64_t laps = 0;
};
Clock clockOf(const Plan& plan, Id id) {
  const Scene& scene = plan.scene();
  const Layer* layer = findLayer(scene, id);
  if (!layer) return {};
  const int index = plan.indexOf(id);
  const std::int64_t laps = index < 0 ? 0 : plan.at(index).placedLaps;
  if (const Param* start = headStartOf(*layer)) return {std::get<double>(start->base), laps};
  for (const Timed& timed : motionsIn(scene, *layer))
    if (timed.laps != 0) return {fract(timed.start) / static_cast<double>(timed.rounds()), laps};
  for (const Timed& timed : motionsIn(scene, *layer))
    if (timed.kind == MotionKind::Follow) return {fract(timed.start) / timed.times, laps};
  return {layer->presence.empty() ? 0 : -layer->presence.front().from, layer->presence.empty() ? 0 : laps};
}

std::vector<Clock> clocksOf(const Plan& plan, const Ids& layers) {
  std::vector<Clock> clocks;
  for (const Id id : layers) clocks.push_back(clockOf(plan, id));
  return clocks;
}

// Of those that move; 0: none does.
std::int64_t fewestLaps(const std::vector<Clock>& clocks) {
  std::int64_t laps = 0;
  for (const Clock& clock : clocks)
    if (clock.laps > 0) laps = laps == 0 ? clock.laps : std::min(laps, clock.laps);
  return laps;
}

}  // namespace

std::vector<Timed> motionsIn(const Scene& scene) {
  std::vector<Timed> list;
  listDown(scene, scene.layers, 1, list);
  return list;
}

std::vector<Timed> motionsIn(const Scene& scene, const Layer& layer) {
  std::vector<Timed> list;
  listUp(scene, layer, 1, list);
  return list;
}

Motion* motionAt(Scene& scene, const MotionAddress& at) {
  Param* param = paramAt(scene, at);
  return param && at.motion >= 0 && at.motion < static_cast<int>(motionCount(*param))
             ? &motionOf(*param, static_cast<std::size_t>(at.motion))
             : nullptr;
}
// What is found is not changed here.
const Motion* motionAt(const Scene& scene, const MotionAddress& at) { return motionAt(const_cast<Scene&>(scene), at); }

std::string valueNameOf(const Scene& scene, const MotionAddress& at) {
  const Layer* layer = findLayer(scene, at.layer);
  if (!layer) return {};
  const Param* param = paramAt(const_cast<Scene&>(scene), at);
  if (!param) return {};
  const auto labelled = [&](std::string owner, std::span<const ParamSpec> specs) {
    return std::move(owner) + kBetween + std::string(specs[static_cast<std::size_t>(at.param)].label);
  };
  if (at.step == MotionAddress::kOpacity) return labelled("Layer", {&opacitySpec(), 1});
  if (at.step == MotionAddress::kPlace) return labelled("Place", placeSpecs());
  if (at.step == MotionAddress::kMask) return labelled("Mask", maskSpecs());
  const RecipeStep& step = *stepAt(*layer, at.step);
  const std::string owner = at.step == MotionAddress::kMaskSource ? "Mask" : std::string(step.spec->title);
  if (at.item == 0) return labelled(owner, step.spec->params);
  const auto item = std::find_if(step.items.begin(), step.items.end(), [&](const Item& i) { return i.id == at.item; });
  return labelled(std::string(step.spec->items->single) + " " + std::to_string(item - step.items.begin() + 1), step.spec->items->params);
}

std::string nameOf(const Scene& scene, const MotionAddress& at) {
  const Param* param = paramAt(const_cast<Scene&>(scene), at);
  const std::size_t count = param ? motionCount(*param) : 0;
  return valueNameOf(scene, at) + (count > 1 ? " " + std::to_string(at.motion + 1) + " of " + std::to_string(count) : std::string());
}

void setLaps(Scene& scene, const std::vector<MotionAddress>& motions, int laps) {
  changeEach(scene, motions, [&](Motion& m, std::size_t) { m.laps = std::clamp(std::abs(laps), 1, kMaxLaps) * (m.laps < 0 ? -1 : 1); });
}

void setStarts(Scene& scene, const std::vector<MotionAddress>& motions, double start) {
  changeEach(scene, motions, [&](Motion& m, std::size_t) { m.start = fract(start); });
}

void spreadMotions(Scene& scene, const std::vector<MotionAddress>& motions, const Spread& spread) {
  const std::vector<double> turns = turnsOf(spread, motions.size());
  std::optional<double> first;
  changeEach(scene, motions, [&](Motion& m, std::size_t i) {
    if (!first) first = m.start + turns[i];
    m.start = fract(*first - turns[i]);
  });
}

std::vector<KeyBead> beadsOf(const Layer& layer) {
  std::vector<KeyBead> beads;
  forEachPlaced(layer, [&](MotionAddress at, const ParamSpec&, const Param& param) {
    for (const int count = static_cast<int>(motionCount(param)); at.motion < count; ++at.motion) {
      const Motion& m = motionOf(param, static_cast<std::size_t>(at.motion));
      if (m.kind != MotionKind::Keyframes) continue;
      for (int k = 0; k < static_cast<int>(m.keys.size()); ++k)
        for (int lap = 0; lap < std::abs(m.laps); ++lap)
          beads.push_back({{at, k}, lap, fract((m.keys[static_cast<std::size_t>(k)].at - m.start + lap) / m.laps)});
    }
  });
  return beads;
}

std::vector<KeyAt> moveKeys(Scene& scene, const std::vector<KeyAt>& keys, double by, bool copies) {
  std::vector<KeyAt> now;
  std::vector<MotionAddress> motions;
  for (const KeyAt& key : keys)
    if (std::find(motions.begin(), motions.end(), key.at) == motions.end()) motions.push_back(key.at);
  for (const MotionAddress& at : motions) {
    Motion* m = motionAt(scene, at);
    if (!m || m->kind != MotionKind::Keyframes) continue;
    std::vector<Keyframe> taken;
    std::vector<Keyframe> left;
    for (int k = 0; k < static_cast<int>(m->keys.size()); ++k) {
      const bool moved = std::find(keys.begin(), keys.end(), KeyAt{at, k}) != keys.end();
      const Keyframe& key = m->keys[static_cast<std::size_t>(k)];
      if (moved) taken.push_back(key);
      if (!moved || copies) left.push_back(key);
    }
    m->keys = std::move(left);
    std::vector<double> places;
    for (Keyframe& key : taken) {
      if (m->keys.size() >= kMaxKeyframes) break;
      key.at = fract(key.at + by * m->laps);
      places.push_back(key.at);
      placeKeyframe(*m, key);
    }
    for (int k = 0; k < static_cast<int>(m->keys.size()); ++k)
      if (std::find(places.begin(), places.end(), m->keys[static_cast<std::size_t>(k)].at) != places.end()) now.push_back({at, k});
  }
  return now;
}

void removeKeys(Scene& scene, const std::vector<KeyAt>& keys) {
  std::vector<KeyAt> last = keys;
  // From the last on, so that those before keep their numbers.
  std::sort(last.begin(), last.end(), [](const KeyAt& a, const KeyAt& b) { return a.key > b.key; });
  for (const KeyAt& key : last)
    if (Motion* m = motionAt(scene, key.at); m && m->keys.size() > 1 && key.key >= 0 && key.key < static_cast<int>(m->keys.size()))
      m->keys.erase(m->keys.begin() + key.key);
}

int ownLaps(const Scene& scene, const Layer& layer) {
  std::vector<Timed> own;
  listOwn(scene, layer, 1, own);
  int laps = 0;
  for (const Timed& timed : own) laps = std::gcd(laps, timed.laps);
  return laps;
}

void setOwnLaps(Scene& scene, Id id, int laps) {
  const Layer* layer = findLayer(scene, id);
  const int before = layer ? ownLaps(scene, *layer) : 0;
  if (before == 0) return;
  std::vector<Timed> own;
  listOwn(scene, *layer, 1, own);
  for (const Timed& timed : own)
    if (timed.laps != 0) {
      const std::int64_t wanted = std::int64_t{std::abs(timed.laps)} / before * std::clamp(laps, 1, kMaxLaps);
      setLaps(scene, {timed.at}, static_cast<int>(std::min<std::int64_t>(wanted, kMaxLaps)));
    }
}

double aheadOf(const Plan& plan, Id layer) {
  const Clock clock = clockOf(plan, layer);
  if (clock.laps == 0) return 0;
  const auto laps = static_cast<double>(clock.laps);
  return fract(clock.ahead * laps) / laps;
}

namespace {

bool holds(const Layer& layer, Id id) {
  return layer.id == id || std::any_of(layer.layers.begin(), layer.layers.end(), [id](const Layer& child) { return holds(child, id); });
}

void bringForward(Layer& layer, double share, const Layer& all) {
  if (Param* start = headStartOf(layer)) start->base = fract(std::get<double>(start->base) + share);
  const auto ahead = [&](Presence& presence) {
    for (Arc& arc : presence) arc.from = fract(arc.from - share);
  };
  ahead(layer.presence);
  for (RecipeStep& step : layer.recipe) ahead(step.presence);
  forEachPlaced(layer, [&](const MotionAddress&, const ParamSpec& spec, Param& param) {
    if (!spec.canMove()) return;
    for (std::size_t i = 0; i < motionCount(param); ++i)
      if (Motion& m = motionOf(param, i); m.moves()) {
        if (keepsTime(m)) m.start = fract(m.start + share * m.laps);
        // What follows something that comes forward too does so by itself.
        if (m.kind == MotionKind::Follow && !holds(all, m.follows.layer)) m.start = fract(m.start + share);
      }
  });
  for (Layer& child : layer.layers) bringForward(child, share * lapsWithin(layer), all);
}

}  // namespace

void bringForward(Layer& layer, double share) { bringForward(layer, share, layer); }

std::vector<double> delaysOf(const Plan& plan, const Ids& layers) {
  const std::vector<Clock> clocks = clocksOf(plan, outermost(plan.scene(), layers));
  const std::int64_t laps = fewestLaps(clocks);
  std::vector<double> delays;
  std::optional<double> first;
  for (const Clock& clock : clocks) {
    if (clock.laps == 0) continue;
    if (!first) first = clock.ahead;
    // What is a rounding error short of a lap is none.
    const double behind = fract((*first - clock.ahead) * static_cast<double>(laps));
    delays.push_back(behind > 1 - 1e-9 ? 0 : behind);
  }
  return delays;
}

Result<Ids> spreadLayers(Scene& scene, const Ids& layers, const Spread& given) {
  // Lengths along a line are those that are seen.
  const auto seen = [&](const Point& share) { return Point{share.x * scene.width, share.y * scene.height}; };
  Spread spread = given;
  std::transform(spread.line.begin(), spread.line.end(), spread.line.begin(), seen);
  if (spread.order == Spread::Order::AlongLine && spread.line.size() < 2)
    return fail("Draw a line in the picture for the layers to go by.");
  const Ids order = outermost(scene, layers);
  if (order.size() < 2) return fail("Select two layers or more to spread them in time.");
  for (const Id id : order)
    if (const Layer* layer = findLayer(scene, id); layer->locked) return fail("\"" + layer->name + "\" is locked");
  const Plan plan{scene};
  const std::vector<Clock> clocks = clocksOf(plan, order);
  const std::int64_t laps = fewestLaps(clocks);
  std::vector<Point> places;
  for (const Id id : order) {
    const std::vector<Param>& place = findLayer(scene, id)->place;
    places.push_back(place.empty() ? Point{} : seen(std::get<Point>(place[static_cast<std::size_t>(PlaceParam::Position)].base)));
  }
  if (laps == 0) return fail("Nothing moves in these layers, so there is nothing to spread.");
  const std::vector<double> turns = turnsOf(spread, order.size(), places);
  const double lap = 1 / static_cast<double>(laps);
  // The first that moves keeps its time.
  const auto lead =
      static_cast<std::size_t>(std::find_if(clocks.begin(), clocks.end(), [](const Clock& c) { return c.laps > 0; }) - clocks.begin());
  const double first = clocks[lead].ahead + turns[lead] * lap;
  for (std::size_t i = 0; i < order.size(); ++i)
    if (clocks[i].laps > 0) bringForward(*findLayer(scene, order[i]), first - turns[i] * lap - clocks[i].ahead);
  return layers;
}

Sharing sharingOf(const Plan& plan) {
  Sharing result;
  std::map<std::int64_t, std::size_t> rhythms;
  std::int64_t shared = 0;
  for (const Timed& timed : motionsIn(plan.scene())) {
    if (timed.kind == MotionKind::Follow) continue;  // what it follows is told already
    const std::int64_t rounds = timed.laps == 0 ? 1 : std::abs(timed.rounds());
    if (timed.laps != 0) ++rhythms[rounds];
    shared = std::gcd(shared, rounds);
  }
  result.repeats = plan.laps();
  result.once = shared > result.repeats;
  for (const auto& [rounds, count] : rhythms) {
    std::int64_t without = 0;
    for (const auto& [other, unused] : rhythms)
      if (other != rounds) without = std::gcd(without, other);
    if (without <= shared) continue;
    const std::int64_t nearest = std::max<std::int64_t>(1, (rounds + without / 2) / without) * without;
    result.odd.push_back({rounds, count, without, nearest});
  }
  std::sort(result.odd.begin(), result.odd.end(),
            [](const OddRhythm& a, const OddRhythm& b) { return a.without != b.without ? a.without > b.without : a.rounds < b.rounds; });
  return result;
}

void setRounds(Scene& scene, std::int64_t from, std::int64_t to) {
  for (const Timed& timed : motionsIn(scene))
    if (timed.laps != 0 && std::abs(timed.rounds()) == from && to % timed.times == 0)
      setLaps(scene, {timed.at}, static_cast<int>(std::min<std::int64_t>(to / timed.times, kMaxLaps)));
}

Result<Ids> shortenToRepeat(Scene& scene) {
  const std::int64_t repeats = commonLaps(scene);
  if (repeats < 2) return fail("The loop does not repeat before it ends.");
  if (scene.frames % repeats != 0)
    return fail("A loop of " + std::to_string(scene.frames) + " frames cannot be cut into " + std::to_string(repeats) +
                " equal parts; give it a number of frames that can.");
  bool whole = true;
  const std::vector<Timed> all = motionsIn(scene);
  for (const Timed& timed : all) whole = whole && timed.laps % static_cast<int>(std::min<std::int64_t>(repeats, kMaxLaps)) == 0;
  if (!whole) return fail("What repeats lies in groups that go round several times; make the laps of those groups fewer.");
  for (const Timed& timed : all)
    if (timed.laps != 0) motionAt(scene, timed.at)->laps = timed.laps / static_cast<int>(repeats);
  for (const Timed& timed : all)
    if (Motion& m = *motionAt(scene, timed.at); m.kind == MotionKind::Follow) m.start = fract(m.start * static_cast<double>(repeats));
  scene.frames /= static_cast<int>(repeats);
  if (scene.beats > 0) scene.beats = std::max(1, scene.beats / static_cast<int>(repeats));
  return Ids{};
}

}  // namespace oa::edit
