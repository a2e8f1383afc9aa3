#include "loop/presence.h"

#include <algorithm>

#include "base/numbers.h"

namespace oa {
namespace {

double soft(double t) {
  t = std::clamp(t, 0.0, 1.0);
  return t * t * (3 - 2 * t);
}

double arcAt(const Arc& arc, double phase) {
  const double gone = fract(phase - arc.from);
  // A whole circle without soft ends has no end.
  if (arc.length >= 1 && arc.in <= 0 && arc.out <= 0) return 1;
  if (gone >= arc.length) return 0;
  double there = 1;
  if (arc.in > 0) there = std::min(there, soft(gone / arc.in));
  if (arc.out > 0) there = std::min(there, soft((arc.length - gone) / arc.out));
  return there;
}

}  // namespace

double presenceAt(const Presence& presence, double phase) {
  if (presence.empty()) return 1;
  double most = 0;
  for (const Arc& arc : presence) most = std::max(most, arcAt(arc, phase));
  return most;
}

bool alwaysThere(const Presence& presence) {
  return presence.empty() ||
         std::any_of(presence.begin(), presence.end(), [](const Arc& a) { return a.length >= 1 && a.in <= 0 && a.out <= 0; });
}

}  // namespace oa
