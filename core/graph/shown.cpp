// Pictures of layers that are seen more than once: by several others, or in several laps of their group. Each different one is made
// once, kept, and laid where it is wanted.
#include <algorithm>
#include <cmath>

#include "graph/keepable.h"
#include "graph/puller.h"
#include "image/cropped.h"
#include "image/sampling.h"
#include "image/sparse.h"
#include "scene/extent.h"

namespace oa {
namespace {

// The view of the same pixels that begins at the plane's origin: equal for all views that differ by whole pixels alone.
PlaneView atOrigin(const PlaneView& view, int& offsetX, int& offsetY) {
  constexpr double kFine = 1024;
  const Point origin = view.pixel({0, 0});
  const auto part = [](double v, int& whole) {
    const double fine = std::round(v * kFine);
    whole = static_cast<int>(std::floor(fine / kFine));
    return fine / kFine - whole;
  };
  const double fx = part(origin.x + 0.5, offsetX);
  const double fy = part(origin.y + 0.5, offsetY);
  PlaneView v = view;
  v.left = -(fx * view.xx + fy * view.xy) / view.scale;
  v.top = -(fx * view.yx + fy * view.yy) / view.scale;
  return v;
}

std::shared_ptr<const RowMaker> storedRows(const std::shared_ptr<const RowMaker>& made, const PlaneView& view) {
  return keptAs(made, view.width, [&](const std::shared_ptr<const RowMaker>& rows) -> std::shared_ptr<const RowMaker> {
    if (rows->stored(0)) return rows;
    Plane plane = wholePlane(*rows, view.width, view.height);
    if (rows->channels() == 4 && !rows->opaque()) return sparseRows(std::move(plane));
    return planeRows(std::move(plane), rows->opaque());
  });
}

// Frames after which a view that a moving layer was seen in does not come back soon.
constexpr int kMovedOn = 12;

std::size_t bytesOf(const PlaneView& view) { return static_cast<std::size_t>(view.width) * static_cast<std::size_t>(view.height) * 16; }

}  // namespace

std::shared_ptr<const RowMaker> Puller::shown(int layer, const PlaneView& view, const Moment& at) const {
  const PlanLayer& own = plan_.at(layer);
  const bool again = own.layer->isGroup() && groupMoment(*own.layer, at.at(1)).frame != 1;
  if ((own.viewers < 2 && !again) || cancelled()) return result(layer, view, at);
  // No two of its pictures are alike then, and it may lie elsewhere.
  if (own.passesWithin && plan_.underWay(at)) return result(layer, view, at);
  // Its own frame: those that repeat are one.
  const std::int64_t different = own.laps == 0 ? 1 : distinctFrames(at.frames, own.laps);
  const std::int64_t frame = own.runs ? at.run * at.frames + floorMod(at.frame, at.frames) : floorMod(at.frame, different);
  // What changes by itself may be seen again at any time of the loop, by one that is further on. Of what only moves as a whole the views
  // change.
  const auto loop = static_cast<int>(different > 1 || own.runs ? std::min<std::int64_t>(at.frames, 1 << 20) : kMovedOn);
  const bool light = plan_.scene().linearLight;
  const Extent extent = extentWithin(plan_, layer, at, true);
  if (!extent.endless && !own.spreads) {
    int x = 0;
    int y = 0;
    PlaneView whole = atOrigin(view, x, y);
    const PixelBox box = pixelsOf(whole, extent.box.left, extent.box.top, extent.box.right, extent.box.bottom).grown(1);
    const double pixels = static_cast<double>(box.x1 - box.x0) * (box.y1 - box.y0);
    if (pixels > static_cast<double>(view.width) * view.height) return result(layer, view, at);
    whole = whole.part(box.x0, box.y0, box.x1 - box.x0, box.y1 - box.y0);
    const PixelBox there = box.moved(x, y).within({0, 0, view.width, view.height});
    if (there.empty()) return nothingRows(view.width);
    const PlaneKey key{own.layer->id, PlaneKey::kFinished, frame, whole};
    // Made in that view whether or not it can be kept: frames must not depend on it.
    auto rows = cache_ ? cache_->find(key) : nullptr;
    if (!rows) {
      rows = keepable(pictureOf(layer, whole, at), whole.width, light);
      if (!cache_ || cache_->worthKeeping(own.layer->id)) {
        rows = storedRows(rows, whole);
        if (cache_ && !cancelled()) cache_->put(key, rows, bytesOf(whole), loop);
      }
    }
    const auto seen = cropped(rows, there.x0 - box.x0 - x, there.y0 - box.y0 - y, there.x1 - there.x0, whole.width);
    return patched(seen, there, view.width);
  }
  // What goes on for ever is kept for the very same view, where all of its pictures have room, and a quarter is left for others.
  if (!cache_) return keepable(result(layer, view, at), view.width, light);
  const PlaneKey key{own.layer->id, PlaneKey::kFinished, frame, view};
  if (auto rows = cache_->find(key)) return rows;
  auto made = keepable(result(layer, view, at), view.width, light);
  if (!cache_->hasRoomFor(bytesOf(view) * static_cast<std::size_t>(different) / 3 * 4) || !cache_->wantedAgain(key, loop) || cancelled())
    return made;
  made = storedRows(made, view);
  if (!cancelled()) cache_->put(key, made, bytesOf(view), loop);
  return made;
}

}  // namespace oa
