// Layers on their way: laid on top of the others as they arrive and leave.
#include <cmath>
#include <numbers>

#include "graph/mask_rows.h"
#include "graph/passing_rows.h"
#include "graph/puller.h"
#include "scene/extent.h"

namespace oa {
namespace {

// One way with how much of the layer is there by it.
struct Way {
  const Passing* passing;
  double there;
};

std::vector<Way> waysAt(const Moment& now) {
  std::vector<Way> ways;
  if (now.passes->arrive) ways.push_back({&*now.passes->arrive, arrived(*now.passes->arrive, now.since)});
  if (now.passes->leave) ways.push_back({&*now.passes->leave, staying(*now.passes->leave, now.left)});
  std::erase_if(ways, [](const Way& way) { return way.there == 1; });
  return ways;
}

Affine about(Point pivot, double size, double degrees) {
  const double c = std::cos(degrees * kDegree) * size;
  const double s = std::sin(degrees * kDegree) * size;
  return {c, -s, pivot.x - c * pivot.x + s * pivot.y, s, c, pivot.y - s * pivot.x - c * pivot.y};
}

}  // namespace

Affine Puller::wayOf(int index, const Moment& now, const Affine& lies) const {
  const PlanLayer& own = plan_.at(index);
  const Passed whole = passedWhole(now);
  const Point anchor = placeAt(own.layer->place, now).anchor;
  Affine way = about(lies({anchor.x * own.frame.x, anchor.y * own.frame.y}), whole.size, whole.turn);
  Point off = whole.offset;
  for (const Way& w : waysAt(now)) {
    if (w.passing->from != PassFrom::Outside) continue;
    const Point outer = outerFrame(index);
    const double far = wayOut(boxOf(index, now, lies), outer, w.passing->direction) * (1 - w.there);
    off.x += std::cos(w.passing->direction * kDegree) * far;
    off.y += std::sin(w.passing->direction * kDegree) * far;
  }
  way.x0 += off.x;
  way.y0 += off.y;
  return way;
}

// Where it is seen in the plane of its group; what goes on for ever comes as a sheet of the frame.
Box Puller::boxOf(int index, const Moment& now, const Affine& lies) const {
  const Extent extent = extentWithin(plan_, index, now, true);
  const Point outer = outerFrame(index);
  return extent.endless ? Box{0, 0, outer.x, outer.y} : mapped(extent.box, lies);
}

void Puller::addPassing(std::vector<Stage>& stages, int index, const PlaneView& view, const Moment& now, double opacity) const {
  const PlanLayer& own = plan_.at(index);
  const Layer& layer = *own.layer;
  const Point outer = outerFrame(index);
  const std::vector<Way> ways = waysAt(now);
  opacity *= passedWhole(now).opacity;
  if (opacity <= 0) return;

  const Affine lies = placeOf(index, now);
  const bool endless = extentWithin(plan_, index, now, true).endless;
  const Box box = boxOf(index, now, lies);
  const Affine way = wayOf(index, now, lies);
  const Affine map = lies.then(way);
  // So small that nothing of it is seen.
  if (std::abs(map.determinant()) < 1e-9) return;

  const auto pictureIn = [&](const PlaneView& seen) -> std::shared_ptr<const RecipePass> {
    PlaneView inside = seen;
    if (map == Affine()) {
      inside.frameWidth = own.frame.x;
      inside.frameHeight = own.frame.y;
    } else {
      inside = seen.through(map, own.frame.x, own.frame.y);
    }
    return layer.isGroup() ? std::make_shared<const RecipePass>(shown(index, inside, now), inside.width) : pass(index, inside, now);
  };
  MakeRows make = [&](const PlaneView& seen) -> std::shared_ptr<const RowMaker> {
    const bool cut = endless && !(way == Affine());
    return maskedRows(pictureIn(seen), cut ? frameRowsOf(seen.through(way, outer.x, outer.y)) : nullptr, seen.width);
  };
  bool plain = !endless || way == Affine();
  const Box there = mapped(box, way);
  for (const Way& w : ways) {
    const Passing& p = *w.passing;
    if (p.smear != Smear::None) {
      make = [make, &p, &w, there](const PlaneView& seen) { return smearedRows(make, p.smear, w.there, there, seen); };
      plain = false;
    }
    // Letter by letter each is blurred by itself.
    const double radius = p.by == PassBy::Whole ? p.blur * (1 - std::min(1.0, w.there)) : 0;
    if (radius > 0) {
      make = [make, radius](const PlaneView& seen) { return softenedRows(make, radius, seen); };
      plain = false;
    }
    if (p.wipe != Wipe::None && w.there < 1) {
      make = [make, &p, &w, there](const PlaneView& seen) {
        return maskedRows(std::make_shared<const RecipePass>(make(seen), seen.width), wipeRows(p, w.there, there, seen), seen.width);
      };
      plain = false;
    }
  }
  auto rows = plain ? pictureIn(view) : std::make_shared<const RecipePass>(make(view), view.width);
  stages.push_back({std::move(rows), layer.blend, static_cast<float>(opacity)});
}

}  // namespace oa
