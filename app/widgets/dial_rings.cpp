#include "widgets/dial_rings.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "edit/timing.h"

namespace oa::app {
namespace {

constexpr double kPitch = 11;     // pixels between rings that have room
constexpr double kNearPitch = 6;  // at least, round the one that is looked at
constexpr int kNear = 2;          // so many of them at each side
constexpr double kGrab = 3.5;     // pixels within which a ring is taken
constexpr double kJoint = 0.02;   // of the loop, within which the joint itself is looked at

// From the place that is looked at so far, on a side that is `length` long and drawn so long as `room`: half of the room is for what is
// near.
double closer(double far, double length, double room, double zoom, bool back) {
  const double near = std::min(0.5 * room / zoom, 0.9 * length);
  const double nearRoom = near * zoom;
  const double rest = (room - nearRoom) / (length - near);
  if (back) return far <= nearRoom ? far / zoom : near + (far - nearRoom) / rest;
  return far <= near ? far * zoom : nearRoom + (far - near) * rest;
}

}  // namespace

QPointF onDial(QPointF centre, double radius, double share) {
  const double a = 2 * std::numbers::pi * share;
  return {centre.x() + radius * std::sin(a), centre.y() - radius * std::cos(a)};
}

double shareOf(QPointF centre, QPointF place) {
  const QPointF d = place - centre;
  return fract(std::atan2(d.x(), -d.y()) / (2 * std::numbers::pi));
}

void DialLens::look(double share, double shown, double zoom) {
  zoom_ = std::clamp(zoom, 1.0, kClosest);
  focus_ = fract(share);
  place_ = fract(shown);
  const auto atJoint = [](double v) { return v < kJoint || v > 1 - kJoint; };
  if (atJoint(focus_) || atJoint(place_)) focus_ = place_ = 0;
}

double DialLens::mapped(double from, bool back) const {
  if (zoom_ <= 1) return from;
  const double turns = std::floor(from);
  const double at = from - turns;
  if (focus_ == 0) return turns + (at < 0.5 ? closer(at, 0.5, 0.5, zoom_, back) : 1 - closer(1 - at, 0.5, 0.5, zoom_, back));
  const double here = back ? place_ : focus_;
  const double there = back ? focus_ : place_;
  return turns + (at >= here ? there + closer(at - here, 1 - focus_, 1 - place_, zoom_, back)
                             : there - closer(here - at, focus_, place_, zoom_, back));
}

std::vector<DialRing> dialRings(const Document& document, double inner, double outer, Id focus) {
  std::vector<DialRing> rings;
  const Plan& plan = document.plan();
  const auto list = [&](auto& self, int group) -> void {
    const std::vector<int>& children = plan.children(group);
    for (auto it = children.rbegin(); it != children.rend(); ++it) {
      const PlanLayer& layer = plan.at(*it);
      if (!layer.layer->visible) continue;
      const double ahead = layer.placedLaps > 0 ? edit::aheadOf(plan, layer.layer->id) : 0;
      rings.push_back(
          {layer.layer->id, layer.placedLaps, ahead > 0 && layer.placedLaps > 0 ? 1 / static_cast<double>(layer.placedLaps) - ahead : 0});
      if (layer.layer->isGroup() && !layer.layer->folded) self(self, *it);
    }
  };
  list(list, -1);
  if (rings.empty()) return rings;
  const auto n = static_cast<int>(rings.size());
  const double even = n > 1 ? std::min(kPitch, std::max(0.0, outer - inner) / (n - 1)) : kPitch;
  const auto looked = std::find_if(rings.begin(), rings.end(), [&](const DialRing& ring) { return ring.layer == focus; });
  const int at = looked == rings.end() || even >= kNearPitch ? -1 : static_cast<int>(looked - rings.begin());
  for (int i = 0; i < n; ++i) {
    DialRing& ring = rings[static_cast<std::size_t>(i)];
    ring.radius = ring.taken = outer - even * i;
    ring.room = even;
    if (at < 0 || i == at) continue;
    // The one that is looked at stays where it is; those next to it move off, and the others share what is left.
    const int away = std::abs(i - at);
    const int side = i < at ? at : n - 1 - at;
    const double left = even * side;
    const double pitch = std::min(kNearPitch, left / std::min(side, kNear));
    const double rest = side > kNear ? (left - pitch * kNear) / (side - kNear) : 0;
    const double off = away <= kNear ? pitch * away : pitch * kNear + rest * (away - kNear);
    ring.radius = outer - even * at + (i < at ? off : -off);
    ring.room = away <= kNear ? pitch : rest;
  }
  if (at >= 0) rings[static_cast<std::size_t>(at)].room = kNearPitch;
  return rings;
}

const DialRing* ringAt(const std::vector<DialRing>& rings, double distance) {
  const DialRing* found = nullptr;
  for (const DialRing& ring : rings)
    if (std::abs(ring.taken - distance) <= kGrab && (!found || std::abs(ring.taken - distance) < std::abs(found->taken - distance)))
      found = &ring;
  return found;
}

}  // namespace oa::app
