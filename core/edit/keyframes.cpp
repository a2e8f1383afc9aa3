#include "edit/keyframes.h"

#include <algorithm>
#include <cmath>
#include <functional>

#include "loop/pace_reversed.h"

namespace oa::edit {
namespace {

// Those chosen, in the order of their arc, each with its place along it.
struct Along {
  Keyframe key;
  double place = 0;
};

std::vector<Along> along(const Motion& motion, const KeyNumbers& keys) {
  const KeySpan span = spanOf(motion, keys);
  std::vector<Along> all;
  for (const int k : keys) {
    const Keyframe& key = motion.keys[static_cast<std::size_t>(k)];
    all.push_back({key, fract(key.at - span.from)});
  }
  std::sort(all.begin(), all.end(), [](const Along& a, const Along& b) { return a.place < b.place; });
  return all;
}

// In place of those chosen, at `from` and their places along the arc.
KeyNumbers replaced(Motion& motion, const KeyNumbers& keys, double from, const std::vector<Along>& now) {
  for (auto k = keys.rbegin(); k != keys.rend(); ++k) motion.keys.erase(motion.keys.begin() + *k);
  std::vector<double> places;
  for (const Along& each : now) {
    Keyframe key = each.key;
    key.at = fract(from + each.place);
    places.push_back(key.at);
    placeKeyframe(motion, std::move(key));
  }
  KeyNumbers numbers;
  for (int k = 0; k < static_cast<int>(motion.keys.size()); ++k)
    if (std::find(places.begin(), places.end(), motion.keys[static_cast<std::size_t>(k)].at) != places.end()) numbers.push_back(k);
  return numbers;
}

// The last of a list leads on to whatever comes behind it, as it did; between them the way goes back.
std::vector<Along> backwards(const std::vector<Along>& there, double length) {
  std::vector<Along> back;
  const std::size_t n = there.size();
  for (std::size_t i = 0; i < n; ++i) {
    Along each = there[n - 1 - i];
    each.place = length - each.place;
    const Keyframe& stretch = i + 1 < n ? there[n - 2 - i].key : there[n - 1].key;
    each.key.pace = i + 1 < n ? reversed(stretch.pace) : stretch.pace;
    each.key.hold = stretch.hold;
    back.push_back(std::move(each));
  }
  return back;
}

}  // namespace

KeySpan spanOf(const Motion& motion, const KeyNumbers& keys) {
  std::vector<double> places;
  for (const int k : keys) places.push_back(motion.keys[static_cast<std::size_t>(k)].at);
  if (places.empty()) return {};
  std::sort(places.begin(), places.end());
  // Across the joint first, so that of equal gaps it is the joint's: they begin where the lap does.
  std::size_t first = 0;
  double widest = places.front() + 1 - places.back();
  for (std::size_t i = 1; i < places.size(); ++i)
    if (const double gap = places[i] - places[i - 1]; gap > widest + 1e-12) {
      widest = gap;
      first = i;
    }
  return {places[first], places.size() == 1 ? 0 : 1 - widest};
}

double firstLapAt(const Motion& motion, double lap) {
  const double on = fract(lap - motion.start);
  return (motion.laps < 0 ? fract(1 - on) : on) / std::max(1, std::abs(motion.laps));
}

KeyNumbers shiftKeys(Motion& motion, const KeyNumbers& keys, double by) {
  return replaced(motion, keys, spanOf(motion, keys).from + by, along(motion, keys));
}

KeyNumbers scaleKeys(Motion& motion, const KeyNumbers& keys, double length, bool lastStays) {
  if (keys.size() < 2) return keys;
  const KeySpan span = spanOf(motion, keys);
  const double now = std::clamp(length, kLeastGap * static_cast<double>(keys.size() - 1), 1 - kLeastGap);
  auto all = along(motion, keys);
  for (Along& each : all) each.place *= now / span.length;
  return replaced(motion, keys, lastStays ? span.from + span.length - now : span.from, all);
}

KeyNumbers spreadKeys(Motion& motion, const KeyNumbers& keys) {
  if (keys.size() < 2) return keys;
  const KeySpan span = spanOf(motion, keys);
  auto all = along(motion, keys);
  // All of a lap's are spread over the whole of it.
  const double step =
      keys.size() == motion.keys.size() ? 1.0 / static_cast<double>(keys.size()) : span.length / static_cast<double>(keys.size() - 1);
  for (std::size_t i = 0; i < all.size(); ++i) all[i].place = step * static_cast<double>(i);
  return replaced(motion, keys, span.from, all);
}

KeyNumbers mirrorKeys(Motion& motion, const KeyNumbers& keys) {
  const KeySpan span = spanOf(motion, keys);
  return replaced(motion, keys, span.from, backwards(along(motion, keys), span.length));
}

KeyNumbers thereAndBack(Motion& motion, const KeyNumbers& keys) {
  if (keys.size() < 2 || motion.keys.size() + keys.size() - 1 > kMaxKeyframes) return keys;
  const KeySpan span = spanOf(motion, keys);
  auto there = along(motion, keys);
  for (Along& each : there) each.place /= 2;
  auto back = backwards(there, span.length / 2);
  const std::size_t turn = there.size() - 1;
  there[turn].key.pace = back.front().key.pace;
  there[turn].key.hold = back.front().key.hold;
  for (std::size_t i = 1; i < back.size(); ++i) {
    back[i].place += span.length / 2;
    there.push_back(back[i]);
  }
  return replaced(motion, keys, span.from, there);
}

}  // namespace oa::edit
