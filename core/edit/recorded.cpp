#include "edit/recorded.h"

#include <algorithm>
#include <cmath>

#include "edit/closed_curve.h"
#include "edit/placed.h"

namespace oa::edit {
namespace {

constexpr std::size_t kPoints = 240;  // places of a lap at which the curve is compared with the hand

struct Range {
  double low = 1e300;
  double high = -1e300;
  [[nodiscard]] double span() const { return high - low; }
};

Range rangeOf(const std::vector<Sample>& samples) {
  Range range;
  for (const Sample& s : samples) {
    range.low = std::min(range.low, s.value);
    range.high = std::max(range.high, s.value);
  }
  return range;
}

}  // namespace

std::vector<ChangedValue> changedValues(const Layer& before, const Layer& after) {
  std::vector<std::pair<MotionAddress, const Param*>> was;
  forEachPlaced(before, [&](const MotionAddress& at, const ParamSpec&, const Param& param) { was.emplace_back(at, &param); });
  std::vector<ChangedValue> changed;
  // Both are gone through in the same order: the next one is nearly always where it is looked for first.
  std::size_t next = 0;
  forEachPlaced(after, [&](const MotionAddress& at, const ParamSpec& spec, const Param& param) {
    for (std::size_t tried = 0; tried < was.size(); ++tried) {
      const auto& [old, value] = was[(next + tried) % was.size()];
      if (old != at) continue;
      next = (next + tried + 1) % was.size();
      if (value->base != param.base) changed.push_back({at, &spec, *value});
      return;
    }
  });
  return changed;
}

bool canRecord(const ParamSpec& spec) {
  const auto allowed = allowedMotions(spec);
  const bool keyed = std::find(allowed.begin(), allowed.end(), MotionKind::Keyframes) != allowed.end();
  return keyed && (std::holds_alternative<double>(spec.base) || (std::holds_alternative<Point>(spec.base) && canAddMotions(spec)));
}

Result<Recording> recorded(const ParamSpec& spec, const Param& before, const std::vector<Moved>& gesture, int laps, double tolerance) {
  const bool place = std::holds_alternative<Point>(before.base);
  std::vector<Sample> across;
  std::vector<Sample> down;
  for (const Moved& moved : gesture) {
    const double at = moved.at * laps;
    if (const auto* number = std::get_if<double>(&moved.value)) across.push_back({at, *number});
    if (const auto* point = std::get_if<Point>(&moved.value)) {
      across.push_back({at, point->x});
      down.push_back({at, point->y});
    }
  }
  const Range wide = rangeOf(across);
  const Range high = rangeOf(down);
  const double covered = std::max(wide.span(), high.span());
  if (!canRecord(spec) || across.size() < 2 || !(covered > 1e-9)) return fail("nothing was moved while recording");
  const double near = covered * tolerance;
  Recording made;
  made.param = before;
  made.param.motion = Motion();
  made.param.more.clear();
  const auto take = [&](const std::vector<Sample>& samples, const auto& valueOf) {
    FewKeys few = fewKeys(closedLap(samples, kPoints), near);
    made.keys += few.keys.size();
    made.off = std::max(made.off, few.off / covered);
    Motion motion;
    motion.kind = MotionKind::Keyframes;
    motion.laps = laps;
    motion.far = made.param.base;
    motion.keys = std::move(few.keys);
    for (Keyframe& key : motion.keys) key.value = valueOf(std::get<double>(key.value));
    if (made.param.motion.moves())
      made.param.more.push_back(std::move(motion));
    else
      made.param.motion = std::move(motion);
  };
  if (!place) {
    take(across, [](double v) { return v; });
    return made;
  }
  // Each motion leads away from the base value in its own direction alone; where the hand kept still, that is where it was.
  Point base = std::get<Point>(before.base);
  if (wide.span() <= near) base.x = (wide.low + wide.high) / 2;
  if (high.span() <= near) base.y = (high.low + high.high) / 2;
  made.param.base = base;
  if (wide.span() > near) take(across, [&](double x) { return Point{x, base.y}; });
  if (high.span() > near) take(down, [&](double y) { return Point{base.x, y}; });
  return made;
}

}  // namespace oa::edit
