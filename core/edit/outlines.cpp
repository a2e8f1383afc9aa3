#include "edit/outlines.h"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <string>

#include "base/numbers.h"

namespace oa::edit {
namespace {

// Every outline that the parameter holds: its own, far ends, poses.
template <class Visit>
void eachOutline(Param& param, const Visit& visit) {
  const auto one = [&](Value& value) {
    if (auto* outline = std::get_if<Outline>(&value)) visit(*outline);
  };
  one(param.base);
  for (std::size_t i = 0; i < motionCount(param); ++i) {
    Motion& motion = motionOf(param, i);
    one(motion.far);
    for (Keyframe& key : motion.keys) one(key.value);
    for (Value& value : motion.list) one(value);
  }
}

Point less(Point a, Point b) { return {a.x - b.x, a.y - b.y}; }
Point plus(Point a, Point b) { return {a.x + b.x, a.y + b.y}; }
double lengthOf(Point p) { return std::hypot(p.x, p.y); }
Point mirrored(Point p) { return {-p.x, p.y}; }

}  // namespace

Affine outlinePlace(const RecipeStep& step, const Moment& at, Point frame) {
  const auto value = [&](std::string_view id, const Value& otherwise) {
    const int i = findParam(step.spec->params, id);
    if (i < 0) return otherwise;
    const auto k = static_cast<std::size_t>(i);
    return evaluate(step.spec->params[k], step.params[k], at).value;
  };
  const Value centre = value("centre", Point{0.5, 0.5});
  // Only a share of what was drawn sizes it: words have a size of their own.
  const int sized = findParam(step.spec->params, "size");
  const bool share = sized >= 0 && step.spec->params[static_cast<std::size_t>(sized)].unit == Unit::Ratio;
  const Value size = share ? value("size", 1.0) : Value{1.0};
  const Value turn = value("turn", 0.0);
  const double a = std::get<double>(turn) * (std::numbers::pi / 180);
  const double c = std::cos(a) * std::get<double>(size);
  const double s = std::sin(a) * std::get<double>(size);
  return {c, -s, std::get<Point>(centre).x * frame.x, s, c, std::get<Point>(centre).y * frame.y};
}

Outline outlineAt(const ParamSpec& spec, const Param& param, const Moment& at) {
  return std::get<Outline>(evaluate(spec, param, at).value);
}

void setOutlineAt(const ParamSpec& spec, Param& param, const Moment& at, const Outline& outline) {
  if (std::get<Outline>(param.base).points.size() != outline.points.size()) return;
  Motion& motion = param.motion;
  switch (motion.kind) {
    case MotionKind::Keyframes: {
      const double u = lapPhase(at, motion.laps, motion.start);
      // The pose of this very frame.
      const double frame = std::abs(motion.laps) / static_cast<double>(at.frames);
      const auto near = [&](const Keyframe& key) { return std::abs(fract(key.at - u + 0.5) - 0.5) < 0.5 * frame; };
      if (const auto found = std::find_if(motion.keys.begin(), motion.keys.end(), near); found != motion.keys.end()) {
        found->value = outline;
        return;
      }
      if (motion.keys.size() < kMaxKeyframes) placeKeyframe(motion, {u, outline, *Pace::fromName("ease-in-out"), false});
      return;
    }
    case MotionKind::Swing:
    case MotionKind::Switch:
    case MotionKind::Sound: {
      const auto far = std::get<Outline>(motion.far);
      const auto away = [&](const Outline& end) {
        const Outline now = outlineAt(spec, param, at);
        double sum = 0;
        for (std::size_t i = 0; i < std::min(now.points.size(), end.points.size()); ++i)
          sum += lengthOf(less(now.points[i].at, end.points[i].at));
        return sum;
      };
      if (away(far) < away(std::get<Outline>(param.base)))
        motion.far = outline;
      else
        param.base = outline;
      return;
    }
    default:
      param.base = outline;
      motion.far = outline;
  }
}

Status addOutlinePoint(Param& param, std::size_t piece, double t) {
  const Outline& own = std::get<Outline>(param.base);
  if (own.points.size() >= kMostOutlinePoints) return fail("an outline has at most " + std::to_string(kMostOutlinePoints) + " points");
  if (piece >= pieceCount(own)) return fail("there is no such piece of the outline");
  const std::size_t count = own.points.size();
  eachOutline(param, [&](Outline& outline) {
    if (outline.points.size() == count) outline = withPointOn(outline, piece, t);
  });
  return {};
}

Status removeOutlinePoint(Param& param, std::size_t index) {
  const std::size_t count = std::get<Outline>(param.base).points.size();
  if (index >= count) return fail("there is no such point of the outline");
  if (count <= 2) return fail("an outline keeps at least two points");
  eachOutline(param, [&](Outline& outline) {
    if (outline.points.size() == count) outline.points.erase(outline.points.begin() + static_cast<std::ptrdiff_t>(index));
    // Pulls beyond the ends of an open line mean nothing.
    if (!outline.closed) {
      outline.points.front().before = outline.points.front().at;
      outline.points.back().after = outline.points.back().at;
    }
  });
  return {};
}

bool isCorner(const OutlinePoint& point) { return point.before == point.at && point.after == point.at; }

Outline withPointSmoothed(Outline outline, std::size_t index) {
  const std::size_t n = outline.points.size();
  OutlinePoint& p = outline.points[index];
  if (!isCorner(p)) {
    p.before = p.after = p.at;
    return outline;
  }
  const bool first = index == 0 && !outline.closed;
  const bool last = index + 1 == n && !outline.closed;
  const Point before = outline.points[first ? index : (index + n - 1) % n].at;
  const Point after = outline.points[last ? index : (index + 1) % n].at;
  const Point way = less(after, before);
  const double length = lengthOf(way);
  if (length <= 0) return outline;
  const auto pull = [&](Point neighbour, double side) {
    const double far = side * lengthOf(less(neighbour, p.at)) / 3 / length;
    return Point{p.at.x + way.x * far, p.at.y + way.y * far};
  };
  if (!first) p.before = pull(before, -1);
  if (!last) p.after = pull(after, 1);
  return outline;
}

Outline withPointMoved(Outline outline, std::size_t index, OutlinePart part, Point to, bool free) {
  OutlinePoint& p = outline.points[index];
  if (part == OutlinePart::Point) {
    const Point by = less(to, p.at);
    p = {to, plus(p.before, by), plus(p.after, by)};
    return outline;
  }
  Point& own = part == OutlinePart::Before ? p.before : p.after;
  Point& across = part == OutlinePart::Before ? p.after : p.before;
  own = to;
  const double far = lengthOf(less(across, p.at));
  const double way = lengthOf(less(to, p.at));
  if (!free && far > 0 && way > 0) across = {p.at.x - (to.x - p.at.x) * far / way, p.at.y - (to.y - p.at.y) * far / way};
  return outline;
}

Outline withBothMoved(const Outline& outline, std::size_t index, OutlinePart part, Point to, bool free, double tolerance) {
  const Point was = outline.points[index].at;
  Outline made = withPointMoved(outline, index, part, to, free);
  std::size_t across = index;
  double nearest = tolerance;
  for (std::size_t i = 0; i < outline.points.size(); ++i)
    if (const double away = lengthOf(less(outline.points[i].at, mirrored(was))); away < nearest) {
      nearest = away;
      across = i;
    }
  if (nearest >= tolerance) return made;
  const OutlinePoint& moved = made.points[index];
  // On the axis itself it is its own image: it stays there.
  if (across == index) {
    if (part == OutlinePart::Point) return withPointMoved(outline, index, part, {0, to.y}, free);
    return made;
  }
  // The way along the line is the other one in a mirror.
  made.points[across] = {mirrored(moved.at), mirrored(moved.after), mirrored(moved.before)};
  return made;
}

}  // namespace oa::edit
