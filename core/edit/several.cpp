#include "edit/several.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>

#include "base/random.h"
#include "edit/passages.h"
#include "edit/timing.h"
#include "edit/values.h"

namespace oa::edit {
namespace {

constexpr int kTries = 32;  // for each that is scattered

Error gone(Id layer) { return {"there is no layer " + std::to_string(layer), ""}; }

const Point& pointOf(const Layer& layer, PlaceParam which) { return std::get<Point>(layer.place[static_cast<std::size_t>(which)].base); }

void give(Layer& layer, PlaceParam which, Point value) {
  const ParamSpec& spec = placeSpecs()[static_cast<std::size_t>(which)];
  value = {std::clamp(value.x, spec.min, spec.max), std::clamp(value.y, spec.min, spec.max)};
  Param& param = layer.place[static_cast<std::size_t>(which)];
  param = withBase(spec, param, value);
}

// What was moved or sized by hand since they were laid out stays so.
void takeUp(SeveralMade& made, const Layer& first) {
  const Point at = pointOf(first, PlaceParam::Position);
  const Point size = pointOf(first, PlaceParam::Size);
  made.middle = {made.middle.x + (at.x - made.laidAt.x), made.middle.y + (at.y - made.laidAt.y)};
  made.size = {made.size.x * (size.x / made.laidSize.x), made.size.y * (size.y / made.laidSize.y)};
}

// Each where it is farthest from those before it, out of some places drawn at random: D. P. Mitchell, "Spectrally optimal sampling for
// distribution ray tracing", SIGGRAPH 1991.
std::vector<Point> scattered(const Several& several, double width, double height) {
  std::vector<Point> places;
  std::uint64_t drawn = 0;
  const auto share = [&] { return (randomUnit(static_cast<std::uint64_t>(several.seed), drawn++) - 0.5) * several.reach; };
  for (int i = 0; i < several.count; ++i) {
    Point best;
    double farthest = -1;
    for (int t = 0; t < kTries; ++t) {
      const Point tried{share(), share()};
      double nearest = std::numeric_limits<double>::max();
      for (const Point& other : places) nearest = std::min(nearest, std::hypot((tried.x - other.x) * width, (tried.y - other.y) * height));
      if (nearest <= farthest) continue;
      farthest = nearest;
      best = tried;
    }
    places.push_back(best);
  }
  return places;
}

// As many as are wanted; those that are new lie above the last.
Status count(Scene& scene, Ids& layers, int wanted) {
  const std::string name = findLayer(scene, layers.front())->name;
  while (static_cast<int>(layers.size()) > wanted) {
    if (auto taken = removeLayers(scene, {layers.back()}); !taken) return tl::unexpected(taken.error());
    layers.pop_back();
  }
  while (static_cast<int>(layers.size()) < wanted) {
    auto copied = duplicateLayers(scene, {layers.front()}, " " + std::to_string(layers.size() + 1));
    if (!copied) return tl::unexpected(copied.error());
    LayerPlace last;
    placeOf(scene, layers.back(), last);
    if (auto moved = moveLayers(scene, *copied, {last.group, last.at + 1}); !moved) return tl::unexpected(moved.error());
    layers.push_back(copied->front());
  }
  return {};
}

}  // namespace

std::vector<Point> placesOf(const Several& several, double width, double height) {
  if (several.layout == Several::Layout::Scattered) return scattered(several, width, height);
  std::vector<Point> places(static_cast<std::size_t>(several.count));
  for (int i = 0; i < several.count; ++i) {
    Point& place = places[static_cast<std::size_t>(i)];
    const double along = several.reach * (several.count > 1 ? static_cast<double>(i) / (several.count - 1) - 0.5 : 0);
    const double angle = 2 * std::numbers::pi * i / several.count;
    if (several.layout == Several::Layout::Row) place.x = along;
    if (several.layout == Several::Layout::Column) place.y = along;
    // The first stands above the middle, the others go round as a clock does.
    if (several.layout == Several::Layout::Ring)
      place = {several.reach / 2 * std::sin(angle) * height / width, -several.reach / 2 * std::cos(angle)};
  }
  return places;
}

Result<SeveralMade> severalOf(const Scene& scene, Id layer) {
  const Layer* own = findLayer(scene, layer);
  if (!own) return tl::unexpected(gone(layer));
  const Point at = pointOf(*own, PlaceParam::Position);
  const Point size = pointOf(*own, PlaceParam::Size);
  return SeveralMade{{layer}, at, size, at, size};
}

Result<Ids> laySeveral(Scene& scene, SeveralMade& made, const Several& several) {
  if (several.count < 2 || several.count > kMostSeveral) return fail("2 to " + std::to_string(kMostSeveral) + " can be made of a layer");
  if (!(several.reach >= 0 && several.reach <= 4) || !(several.size >= 0.01 && several.size <= 16) ||
      !(several.later >= 0 && several.later <= 1))
    return fail("they cannot be laid out so far apart, so large or so late");
  for (const Id id : made.layers) {
    const Layer* layer = findLayer(scene, id);
    if (!layer) return tl::unexpected(gone(id));
    if (layer->locked) return fail("\"" + layer->name + "\" is locked");
  }
  Scene changed = scene;
  SeveralMade next = made;
  Ids& layers = next.layers;
  takeUp(next, *findLayer(scene, layers.front()));
  if (auto counted = count(changed, layers, several.count); !counted) return tl::unexpected(counted.error());
  const Plan plan(changed);
  const int parent = plan.at(plan.indexOf(layers.front())).parent;
  const Point frame = parent >= 0 ? plan.at(parent).frame : Point{static_cast<double>(changed.width), static_cast<double>(changed.height)};
  const std::vector<Point> places = placesOf(several, frame.x, frame.y);
  for (std::size_t i = 0; i < layers.size(); ++i) {
    Layer& layer = *findLayer(changed, layers[i]);
    give(layer, PlaceParam::Position, {next.middle.x + places[i].x, next.middle.y + places[i].y});
    give(layer, PlaceParam::Size, {next.size.x * several.size, next.size.y * several.size});
  }
  // What stands still has no head start.
  if (delaysOf(Plan(changed), layers).size() > 1) {
    const Spread spread{.over = several.later};
    if (auto late = spreadLayers(changed, layers, spread); !late) return tl::unexpected(late.error());
  }
  if (findLayer(changed, layers.front())->passes.way(false))
    if (auto ordered = orderPassages(changed, layers, false, several.apart, false); !ordered) return tl::unexpected(ordered.error());
  next.laidAt = pointOf(*findLayer(changed, layers.front()), PlaceParam::Position);
  next.laidSize = pointOf(*findLayer(changed, layers.front()), PlaceParam::Size);
  scene = std::move(changed);
  made = std::move(next);
  return made.layers;
}

}  // namespace oa::edit
