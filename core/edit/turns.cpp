#include "edit/turns.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <iterator>
#include <numeric>

#include "base/line.h"
#include "base/random.h"

namespace oa::edit {
namespace {

// The pairs that so many make, with the one that is left over.
std::size_t halfOf(std::size_t count) { return (count + 1) / 2; }

// Of `count` that lie evenly: the last begins one step before the first does again.
std::vector<double> evenly(std::size_t count, double over) {
  std::vector<double> turns(count);
  for (std::size_t i = 0; i < count; ++i) turns[i] = over * static_cast<double>(i) / static_cast<double>(count);
  return turns;
}

// By how far along each is.
std::vector<double> inProportion(std::vector<double> along, double over) {
  const auto [low, high] = std::minmax_element(along.begin(), along.end());
  const double first = *low;
  const double length = *high - first;
  const auto count = static_cast<double>(along.size());
  // As wide as those that lie evenly: between the last and the first again there is room for one step.
  for (double& at : along) at = length > 0 ? over * (at - first) / length * (count - 1) / count : 0;
  return along;
}

// The ones that would come last come with the first, those in the middle last.
std::vector<double> thereAndBack(std::vector<double> turns, double over) {
  const double last = *std::max_element(turns.begin(), turns.end());
  if (last <= 0) return turns;
  for (double& turn : turns) turn = 1 - std::abs(2 * turn / last - 1);
  const double most = *std::max_element(turns.begin(), turns.end());
  const auto levels = static_cast<double>(halfOf(turns.size()));
  for (double& turn : turns) turn = most > 0 ? over * turn / most * (levels - 1) / levels : 0;
  return turns;
}

}  // namespace

// A shuffle after R. Durstenfeld, "Algorithm 235: random permutation", CACM 1964.
std::vector<std::size_t> shuffled(std::size_t count, int seed) {
  constexpr std::uint64_t kApart = 4096;  // numbers of one seed do not meet those of the next
  std::vector<std::size_t> order(count);
  std::iota(order.begin(), order.end(), std::size_t{0});
  for (std::size_t i = count; i > 1; --i) std::swap(order[i - 1], order[mix64(static_cast<std::uint64_t>(seed) * kApart + i) % i]);
  return order;
}

std::vector<double> turnsOf(const Spread& spread, std::size_t count, const std::vector<Point>& places) {
  using Order = Spread::Order;
  if (count == 0) return {};
  const double over = std::clamp(spread.over, 0.0, 1.0);
  const bool lined = spread.order == Order::AlongLine && spread.line.size() > 1;
  const bool placed = (spread.order == Order::Across || spread.order == Order::Down || lined) && places.size() == count;
  std::vector<double> along;
  if (placed)
    std::transform(places.begin(), places.end(), std::back_inserter(along), [&](const Point& p) {
      return lined ? alongLine(spread.line, p) : spread.order == Order::Down ? p.y : p.x;
    });
  std::vector<double> turns = placed ? inProportion(std::move(along), over) : evenly(count, over);
  if (spread.order == Order::Together) std::fill(turns.begin(), turns.end(), 0.0);
  if (spread.order == Order::Backwards) std::reverse(turns.begin(), turns.end());
  if (spread.order == Order::AtRandom) {
    const std::vector<double> in = turns;
    const std::vector<std::size_t> order = shuffled(count, spread.seed);
    for (std::size_t i = 0; i < count; ++i) turns[i] = in[order[i]];
  }
  if (spread.order == Order::FromMiddle) {
    // Two that lie as far from the middle come together.
    const double middle = static_cast<double>(count - 1) / 2;
    const double nearest = count % 2 == 0 ? 0.5 : 0;
    const auto ranks = static_cast<double>(halfOf(count));
    for (std::size_t i = 0; i < count; ++i) turns[i] = over * (std::abs(static_cast<double>(i) - middle) - nearest) / ranks;
  }
  return spread.mirrored ? thereAndBack(std::move(turns), over) : turns;
}

}  // namespace oa::edit
