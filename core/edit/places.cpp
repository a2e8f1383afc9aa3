#include "edit/places.h"

#include <algorithm>
#include <cmath>

#include "edit/values.h"
#include "scene/extent.h"

namespace oa::edit {
namespace {

Param& placeParam(Layer& layer, PlaceParam which) { return layer.place[static_cast<std::size_t>(which)]; }

void give(Layer& layer, PlaceParam which, const Value& value) {
  Param& param = placeParam(layer, which);
  param = withBase(placeSpecs()[static_cast<std::size_t>(which)], param, value);
}

Status there(const Scene& scene, const Ids& layers) {
  for (const Id id : layers) {
    const Layer* layer = findLayer(scene, id);
    if (!layer) return fail("there is no layer " + std::to_string(id));
    if (layer->locked) return fail("\"" + layer->name + "\" is locked");
  }
  if (layers.empty()) return fail("no layer is selected");
  return {};
}

Point outerOf(const Plan& plan, int index) {
  const int parent = plan.at(index).parent;
  return parent >= 0 ? plan.at(parent).frame : Point{static_cast<double>(plan.scene().width), static_cast<double>(plan.scene().height)};
}

// What a layer shows, in the group that it lies in.
Box placedBox(const Plan& plan, Id id) {
  const int index = plan.indexOf(id);
  const Moment start{0, plan.scene().frames};
  return mapped(extentOf(plan, index, start).box, toGroup(plan, index, start));
}

void shift(Scene& scene, const Plan& plan, Id id, Point by) {
  Layer& layer = *findLayer(scene, id);
  const Point outer = outerOf(plan, plan.indexOf(id));
  const ParamSpec& spec = placeSpecs()[static_cast<std::size_t>(PlaceParam::Position)];
  Point position = std::get<Point>(placeParam(layer, PlaceParam::Position).base);
  position.x = std::clamp(position.x + by.x / outer.x, spec.min, spec.max);
  position.y = std::clamp(position.y + by.y / outer.y, spec.min, spec.max);
  give(layer, PlaceParam::Position, position);
}

}  // namespace

Result<Ids> fitLayers(Scene& scene, const Ids& layers, Fitting fitting) {
  if (auto ok = there(scene, layers); !ok) return tl::unexpected(ok.error());
  const Plan plan(scene);
  for (const Id id : layers) {
    Layer& layer = *findLayer(scene, id);
    if (fitting == Fitting::Reset) {
      layer.place = defaultPlace();
      continue;
    }
    if (fitting == Fitting::Natural) {
      give(layer, PlaceParam::Size, Point{1, 1});
      continue;
    }
    const int index = plan.indexOf(id);
    const Extent extent = extentOf(plan, index, {0, scene.frames});
    const Point outer = outerOf(plan, index);
    if (extent.box.width() <= 0 || extent.box.height() <= 0) continue;
    const double across = outer.x / extent.box.width();
    const double down = outer.y / extent.box.height();
    const ParamSpec& size = placeSpecs()[static_cast<std::size_t>(PlaceParam::Size)];
    const double factor = std::clamp(fitting == Fitting::Fit ? std::min(across, down) : std::max(across, down), size.min, size.max);
    give(layer, PlaceParam::Size, Point{factor, factor});
    give(layer, PlaceParam::Turn, 0.0);
    // What it shows comes to the middle of the frame.
    const Point centre = placedBox(Plan(scene), id).centre();
    shift(scene, plan, id, {outer.x / 2 - centre.x, outer.y / 2 - centre.y});
  }
  return layers;
}

Result<Ids> alignLayers(Scene& scene, const Ids& layers, Align how) {
  if (auto ok = there(scene, layers); !ok) return tl::unexpected(ok.error());
  const Plan plan(scene);
  Box all{1e18, 1e18, -1e18, -1e18};
  for (const Id id : layers) {
    const Box box = placedBox(plan, id);
    all = {std::min(all.left, box.left), std::min(all.top, box.top), std::max(all.right, box.right), std::max(all.bottom, box.bottom)};
  }
  if (layers.size() == 1) {
    const Point outer = outerOf(plan, plan.indexOf(layers.front()));
    all = {0, 0, outer.x, outer.y};
  }
  for (const Id id : layers) {
    const Box box = placedBox(plan, id);
    Point by{0, 0};
    if (how == Align::Left) by.x = all.left - box.left;
    if (how == Align::Centre) by.x = all.centre().x - box.centre().x;
    if (how == Align::Right) by.x = all.right - box.right;
    if (how == Align::Top) by.y = all.top - box.top;
    if (how == Align::Middle) by.y = all.centre().y - box.centre().y;
    if (how == Align::Bottom) by.y = all.bottom - box.bottom;
    shift(scene, plan, id, by);
  }
  return layers;
}

Result<Ids> distributeLayers(Scene& scene, const Ids& layers, bool across) {
  if (auto ok = there(scene, layers); !ok) return tl::unexpected(ok.error());
  if (layers.size() < 3) return fail("three layers at least can be distributed");
  const Plan plan(scene);
  std::vector<std::pair<double, Id>> order;
  for (const Id id : layers) {
    const Point centre = placedBox(plan, id).centre();
    order.emplace_back(across ? centre.x : centre.y, id);
  }
  std::sort(order.begin(), order.end());
  const double first = order.front().first;
  const double step = (order.back().first - first) / static_cast<double>(order.size() - 1);
  for (std::size_t i = 0; i < order.size(); ++i) {
    const double by = first + step * static_cast<double>(i) - order[i].first;
    shift(scene, plan, order[i].second, across ? Point{by, 0} : Point{0, by});
  }
  return layers;
}

Result<Ids> shiftLayers(Scene& scene, const Ids& layers, Point by) {
  if (auto ok = there(scene, layers); !ok) return tl::unexpected(ok.error());
  const Plan plan(scene);
  for (const Id id : layers) shift(scene, plan, id, by);
  return layers;
}

}  // namespace oa::edit
