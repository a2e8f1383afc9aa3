#include "edit/depth.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "edit/layers.h"
#include "scene/tree.h"

namespace oa::edit {
namespace {

std::size_t indexOf(const RecipeStep& step, std::string_view id) { return static_cast<std::size_t>(findParam(step.spec->params, id)); }
Value& valueOf(RecipeStep& step, std::string_view id) { return step.params[indexOf(step, id)].base; }

// Whether a step moves by whole tiles a lap, or would once it went on beside itself.
bool travels(const RecipeStep& step) {
  const int i = findParam(step.spec->params, "travel");
  return i >= 0 && step.spec->params[static_cast<std::size_t>(i)].type == ParamType::Point && (step.spec->tile || step.spec->ends);
}

// The last step of a recipe that does; -1: none.
int carrierOf(const Layer& layer) {
  for (std::size_t i = layer.recipe.size(); i-- > 0;)
    if (layer.recipe[i].on && travels(layer.recipe[i])) return static_cast<int>(i);
  return -1;
}

// Goes on beside itself, if it did not.
void repeat(RecipeStep& step) {
  if (isShown(step.spec->params, step.params, indexOf(step, "travel"))) return;
  if (findParam(step.spec->params, "across") >= 0) valueOf(step, "across") = std::string("repeat");
}

double sizeAcross(const Layer& layer) {
  return std::max(1e-3, std::abs(std::get<Point>(layer.place[static_cast<std::size_t>(PlaceParam::Size)].base).x));
}

double tileOf(const Scene& scene, const Layer& layer) {
  const int at = carrierOf(layer);
  double tile = 0;
  if (at >= 0 && layer.recipe[static_cast<std::size_t>(at)].spec->tile) {
    RecipeStep step = layer.recipe[static_cast<std::size_t>(at)];
    repeat(step);
    const PlaneView frame = PlaneView::cover(scene.width, scene.height, scene.width, scene.height);
    // The way down does not matter here.
    if (findParam(step.spec->params, "down") >= 0) valueOf(step, "down") = std::string("repeat");
    tile = step.spec->tile(contextOf(step, {0, scene.frames}, frame)).width;
  }
  if (!(tile > 0)) tile = scene.width;
  return tile * sizeAcross(layer);
}

double nearestOf(const Depth& depth) {
  double nearest = kMaxDistance;
  for (const Depth::At& at : depth.layers) nearest = std::min(nearest, std::clamp(at.distance, 1.0, kMaxDistance));
  return nearest;
}

// A colour map of one colour at the end: what haze is.
RecipeStep* hazeOf(Layer& layer) {
  RecipeStep& last = layer.recipe.back();
  if (!last.spec->coloursFields || layer.recipe.size() < 2 || last.items.empty()) return nullptr;
  const auto colour = static_cast<std::size_t>(findParam(last.spec->items->params, "colour"));
  for (const Item& item : last.items)
    if (item.params[colour].base != last.items.front().params[colour].base || moves(item.params[colour])) return nullptr;
  return &last;
}

void setHaze(Layer& layer, double share, Colour colour) {
  RecipeStep* haze = hazeOf(layer);
  if (share <= 0) {
    if (haze) layer.recipe.pop_back();
    return;
  }
  if (!haze) {
    if (layer.recipe.size() >= kMaxSteps) return;
    layer.recipe.push_back(newStep(*findStep("colourmap")));
    haze = &layer.recipe.back();
    haze->items.resize(std::max<std::size_t>(haze->spec->items->least, 2));
  }
  colour.a = 1;
  for (Item& item : haze->items) item.params[static_cast<std::size_t>(findParam(haze->spec->items->params, "colour"))].base = colour;
  valueOf(*haze, "strength") = share;
}

}  // namespace

std::vector<DepthTravel> depthTravel(const Scene& scene, const Depth& depth) {
  std::vector<DepthTravel> found;
  const double nearest = nearestOf(depth);
  const double lap = scene.frames / scene.rate.value();
  for (const Depth::At& at : depth.layers) {
    const Layer* layer = findLayer(scene, at.layer);
    if (!layer) continue;
    DepthTravel travel;
    travel.layer = at.layer;
    travel.tile = tileOf(scene, *layer);
    travel.wanted = scene.width / std::max(0.05, depth.seconds) * nearest / std::clamp(at.distance, 1.0, kMaxDistance);
    travel.tiles = static_cast<int>(std::clamp(std::round(travel.wanted * lap / travel.tile), 1.0, 64.0));
    travel.speed = travel.tiles * travel.tile / lap;
    found.push_back(travel);
  }
  return found;
}

int framesForDepth(const Scene& scene, const Depth& depth) {
  double frames = scene.frames;
  for (const DepthTravel& travel : depthTravel(scene, depth))
    if (travel.wanted > 0) frames = std::max(frames, std::round(travel.tile / travel.wanted * scene.rate.value()));
  return static_cast<int>(std::min<double>(frames, kMaxFrames));
}

Result<std::vector<Id>> travelByDepth(Scene& scene, const Depth& depth) {
  const auto travels = depthTravel(scene, depth);
  if (travels.empty()) return fail("choose the layers that are to travel first");
  for (const DepthTravel& travel : travels) {
    const Layer& layer = *findLayer(scene, travel.layer);
    if (layer.locked) return fail("the layer " + layer.name + " is locked");
    if (carrierOf(layer) < 0 && layer.recipe.size() >= kMaxSteps)
      return fail("the recipe of " + layer.name + " has no room for one step more");
  }
  const double nearest = nearestOf(depth);
  std::vector<Id> done;
  for (const DepthTravel& travel : travels) {
    Layer& layer = *findLayer(scene, travel.layer);
    const double distance = std::clamp(
        std::find_if(depth.layers.begin(), depth.layers.end(), [&](const auto& at) { return at.layer == travel.layer; })->distance, 1.0,
        kMaxDistance);
    layer.distance = distance;
    if (carrierOf(layer) < 0) {
      RecipeStep seamless = newStep(*findStep("seamless"));
      valueOf(seamless, "meet") = std::string("across");
      // Haze stays the last.
      layer.recipe.insert(hazeOf(layer) ? layer.recipe.end() - 1 : layer.recipe.end(), std::move(seamless));
    }
    RecipeStep& carrier = layer.recipe[static_cast<std::size_t>(carrierOf(layer))];
    repeat(carrier);
    Param& moved = carrier.params[indexOf(carrier, "travel")];
    moved.base = Point{static_cast<double>(depth.left ? -travel.tiles : travel.tiles), std::get<Point>(moved.base).y};
    moved.motion.kind = MotionKind::Turn;
    moved.motion.laps = 1;
    setHaze(layer, std::clamp(depth.haze, 0.0, 1.0) * (1 - nearest / distance), depth.colour);
    done.push_back(travel.layer);
  }
  assignIds(scene);
  return done;
}

Depth depthOf(const Scene& scene, const std::vector<Id>& layers) {
  Depth depth;
  double hazed = 0;
  double before = 0;
  // From the uppermost down.
  std::vector<Id> order;
  const std::function<void(const std::vector<Layer>&)> walk = [&](const std::vector<Layer>& list) {
    for (auto it = list.rbegin(); it != list.rend(); ++it) {
      if (std::find(layers.begin(), layers.end(), it->id) != layers.end()) order.push_back(it->id);
      walk(it->layers);
    }
  };
  walk(scene.layers);
  for (const Id id : order) {
    Layer layer = *findLayer(scene, id);
    const double distance = layer.distance >= 1 ? layer.distance : std::min(kMaxDistance, before > 0 ? before * 2 : 1.0);
    before = distance;
    depth.layers.push_back({id, distance});
    if (RecipeStep* haze = hazeOf(layer); haze && distance > hazed) {
      hazed = distance;
      depth.colour =
          std::get<Colour>(haze->items.front().params[static_cast<std::size_t>(findParam(haze->spec->items->params, "colour"))].base);
      depth.haze = std::get<double>(valueOf(*haze, "strength"));
    }
  }
  const double nearest = depth.layers.empty() ? 1 : nearestOf(depth);
  if (hazed > nearest) depth.haze = std::clamp(depth.haze / (1 - nearest / hazed), 0.0, 1.0);
  return depth;
}

}  // namespace oa::edit
