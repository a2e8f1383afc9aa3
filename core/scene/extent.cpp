#include "scene/extent.h"

#include <algorithm>

namespace oa {

Box mapped(const Box& box, const Affine& map) {
  Box out{1e18, 1e18, -1e18, -1e18};
  for (const Point corner : {Point{box.left, box.top}, {box.right, box.top}, {box.right, box.bottom}, {box.left, box.bottom}}) {
    const Point p = map(corner);
    out = {std::min(out.left, p.x), std::min(out.top, p.y), std::max(out.right, p.x), std::max(out.bottom, p.y)};
  }
  return out;
}

Moment momentWithin(const Plan& plan, int layer, const Moment& at) {
  const int parent = plan.at(layer).parent;
  if (parent < 0) return heldMoment(at, plan.scene().hold);
  const Moment outer = ownMoment(plan.at(parent), momentWithin(plan, parent, at));
  return groupMoment(*plan.at(parent).layer, outer);
}

Affine toGroup(const Plan& plan, int layer, const Moment& at) {
  const PlanLayer& own = plan.at(layer);
  const Point outer = own.parent >= 0 ? plan.at(own.parent).frame
                                      : Point{static_cast<double>(plan.scene().width), static_cast<double>(plan.scene().height)};
  return placeMap(placeAt(own.layer->place, ownMoment(own, momentWithin(plan, layer, at))), own.frame, outer);
}

Affine toScene(const Plan& plan, int layer, const Moment& at) {
  Affine map = toGroup(plan, layer, at);
  for (int up = plan.at(layer).parent; up >= 0; up = plan.at(up).parent) map = map.then(toGroup(plan, up, at));
  return map;
}

Extent extentOf(const Plan& plan, int layer, const Moment& at) {
  return extentWithin(plan, layer, ownMoment(plan.at(layer), momentWithin(plan, layer, at)));
}

Extent extentWithin(const Plan& plan, int layer, const Moment& now, bool soft) {
  const PlanLayer& own = plan.at(layer);
  const Box frame{0, 0, own.frame.x, own.frame.y};
  const RecipeStep& source = own.layer->recipe.front();
  if (source.spec->reads == SourceReads::Layer && own.target >= 0)
    return extentWithin(plan, own.target, ownMoment(plan.at(own.target), shownMoment(source, now)), soft);
  if (own.layer->isGroup()) {
    const int cut = findParam(source.spec->params, "cut");
    if (cut >= 0 && std::get<bool>(source.params[static_cast<std::size_t>(cut)].base)) return {frame, false};
    Box all{1e18, 1e18, -1e18, -1e18};
    const Moment inner = groupMoment(*own.layer, now);
    for (const int child : plan.children(layer)) {
      const Layer& inside = *plan.at(child).layer;
      if (!inside.visible) continue;
      const Moment then = ownMoment(plan.at(child), inner);
      const Extent extent = extentWithin(plan, child, then, soft);
      if (extent.endless) return {frame, true};
      const Box placed = mapped(extent.box, placeMap(placeAt(inside.place, then), plan.at(child).frame, own.frame));
      all = {std::min(all.left, placed.left), std::min(all.top, placed.top), std::max(all.right, placed.right),
             std::max(all.bottom, placed.bottom)};
    }
    return all.right < all.left ? Extent{frame, true} : Extent{all, false};
  }
  if (!source.spec->extent) return {frame, true};
  PlaneView view;
  view.frameWidth = own.frame.x;
  view.frameHeight = own.frame.y;
  const StepContext context = contextOf(source, now, view);
  const auto found = source.spec->extent(context);
  if (!found) return {frame, true};
  const auto& box = *found;
  const double by = soft && source.spec->beyond ? source.spec->beyond(context) : 0;
  return {{box[0] - by, box[1] - by, box[2] + by, box[3] + by}, false};
}

}  // namespace oa
