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

}  // namespace

QPointF onDial(QPointF centre, double radius, double share) {
  const double a = 2 * std::numbers::pi * share;
  return {centre.x() + radius * std::sin(a), centre.y() - radius * std::cos(a)};
}

double shareOf(QPointF centre, QPointF place) {
  const QPointF d = place - centre;
  return fract(std::atan2(d.x(), -d.y()) / (2 * std::numbers::pi));
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
