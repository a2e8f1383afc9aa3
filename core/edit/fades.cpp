#include "edit/fades.h"

#include <algorithm>
#include <cmath>

namespace oa::edit {
namespace {

std::size_t countOf(const Fades& fades) { return std::min(fades.colours.size(), kMostFades); }

}  // namespace

double roundSeconds(const Fades& fades) { return static_cast<double>(countOf(fades)) * (fades.hold + fades.fade); }

FadeRounds roundsIn(const Fades& fades, double loopSeconds) {
  const double asked = roundSeconds(fades);
  if (asked <= 0) return {};
  FadeRounds found;
  found.rounds = static_cast<int>(std::clamp(std::round(loopSeconds / asked), 1.0, double{kMaxLaps}));
  const double times = loopSeconds / found.rounds / asked;
  found.hold = fades.hold * times;
  found.fade = fades.fade * times;
  return found;
}

void fadeThrough(Param& colour, const Fades& fades, int rounds, std::size_t first) {
  const std::size_t count = countOf(fades);
  const double each = fades.hold + fades.fade;
  if (count == 0 || each <= 0) return;
  const float alpha = std::get<Colour>(colour.base).a;
  const auto shade = [&](std::size_t i) {
    Colour c = fades.colours[(first + i) % count];
    c.a = alpha;
    return c;
  };
  Motion motion;
  motion.kind = MotionKind::Keyframes;
  motion.laps = rounds;
  motion.far = shade(1);
  // Without a stand a colour is gone through, not stopped at.
  const Pace pace = fades.hold > 0 ? Pace::fromName("ease-in-out").value_or(Pace()) : Pace();
  for (std::size_t i = 0; i < count; ++i) {
    const double begins = static_cast<double>(i) / static_cast<double>(count);
    const double ends = (static_cast<double>(i) + fades.hold / each) / static_cast<double>(count);
    if (fades.fade <= 0) {
      placeKeyframe(motion, {begins, shade(i), {}, true});
      continue;
    }
    placeKeyframe(motion, {begins, shade(i), pace, false});
    if (fades.hold > 0) placeKeyframe(motion, {ends, shade(i), pace, false});
  }
  colour.base = shade(0);
  colour.motion = std::move(motion);
  colour.more.clear();
}

void fadeItemsThrough(RecipeStep& step, std::size_t param, const Fades& fades, int rounds) {
  for (std::size_t i = 0; i < step.items.size(); ++i) fadeThrough(step.items[i].params[param], fades, rounds, i);
}

}  // namespace oa::edit
