#include "edit/spread_parts.h"

#include <algorithm>
#include <cmath>

#include "base/line.h"
#include "scene/extent.h"
#include "scene/plan.h"
#include "scene/tree.h"

namespace oa::edit {
namespace {

constexpr double kTolerance = 2;  // pixels that a drawn line may be smoothed by

Param* paramOf(RecipeStep& step, std::string_view id) {
  const int i = findParam(step.spec->params, id);
  return i < 0 ? nullptr : &step.params[static_cast<std::size_t>(i)];
}

std::string orderOf(Parts parts, Spread::Order order) {
  using Order = Spread::Order;
  const bool copies = parts == Parts::Copies;
  switch (order) {
    case Order::Together:
      return "together";
    case Order::Forwards:
      return copies ? "in order" : "forwards";
    case Order::Backwards:
      return copies ? "in order" : "backwards";
    case Order::FromMiddle:
      return copies ? "outwards" : "from the middle";
    case Order::AtRandom:
      return "random";
    case Order::Across:
      return copies ? "columns" : "along a line";
    case Order::Down:
      return copies ? "rows" : "along a line";
    case Order::AlongLine:
      break;
  }
  return "along a line";
}

// The line on the layer's own plane, from its middle.
Outline lineOf(const Scene& scene, Id id, const Spread& spread, Point centre) {
  std::vector<Point> points;
  if (spread.order != Spread::Order::AlongLine) {
    const bool down = spread.order == Spread::Order::Down;
    points = {down ? Point{0, -scene.height / 2.0} : Point{-scene.width / 2.0, 0},
              down ? Point{0, scene.height / 2.0} : Point{scene.width / 2.0, 0}};
  } else {
    const Plan plan{scene};
    const int index = plan.indexOf(id);
    const Affine here = toScene(plan, index, {0, scene.frames}).inverse();
    const Point frame = plan.at(index).frame;
    for (const Point& share : spread.line) points.push_back(here({share.x * scene.width, share.y * scene.height}));
    points = simplified(points, kTolerance);
    for (Point& p : points) p = {std::round(10 * (p.x - centre.x * frame.x)) / 10, std::round(10 * (p.y - centre.y * frame.y)) / 10};
  }
  Outline line;
  line.closed = false;
  for (const Point& p : points) {
    const Point held{std::clamp(p.x, -16384.0, 16384.0), std::clamp(p.y, -16384.0, 16384.0)};
    line.points.push_back({held, held, held});
  }
  return line;
}

}  // namespace

Parts partsOf(const Layer& layer) {
  const std::string_view source = layer.recipe.empty() ? std::string_view() : layer.recipe.front().spec->id;
  return source == "repeat" ? Parts::Copies : source == "words" ? Parts::Letters : Parts::None;
}

bool partsMove(const Layer& layer) {
  bool moves = false;
  if (partsOf(layer) != Parts::None)
    forEachShownParamOf(layer.recipe.front(),
                        [&](const ParamSpec& spec, const Param& param) { moves = moves || reallyMoves(spec, param); });
  return moves;
}

Result<Ids> spreadParts(Scene& scene, Id id, const Spread& spread) {
  Layer* layer = findLayer(scene, id);
  const Parts parts = layer ? partsOf(*layer) : Parts::None;
  if (parts == Parts::None) return fail("This layer is one thing: there are no copies or letters to spread.");
  if (layer->locked) return fail("\"" + layer->name + "\" is locked");
  if (spread.order == Spread::Order::AlongLine && spread.line.size() < 2) return fail("Draw a line in the picture for them to go by.");
  RecipeStep& source = layer->recipe.front();
  const std::string order = orderOf(parts, spread.order);
  if (order == "along a line")
    paramOf(source, "startLine")->base = lineOf(scene, id, spread, std::get<Point>(paramOf(source, "centre")->base));
  paramOf(source, "order")->base = order;
  const bool backwards = parts == Parts::Copies && spread.order == Spread::Order::Backwards;
  // Who comes first is least ahead on the card, and here the others come later.
  paramOf(source, "ahead")->base = (backwards ? 1 : -1) * std::clamp(spread.over, 0.0, 1.0);
  paramOf(source, "startsBack")->base = spread.mirrored;
  // A repeat's number also says where its copies lie.
  if (parts == Parts::Letters && spread.order == Spread::Order::AtRandom) paramOf(source, "seed")->base = double(spread.seed);
  return Ids{id};
}

}  // namespace oa::edit
