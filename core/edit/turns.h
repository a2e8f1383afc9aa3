// Who comes when, among many that do the same one after the other.
#pragma once

#include <cstddef>
#include <vector>

#include "base/geometry.h"

namespace oa::edit {

/// How the head starts of many are spread.
struct Spread {
  enum class Order { Together, Forwards, Backwards, FromMiddle, AtRandom, Across, Down, AlongLine };
  Order order = Order::Forwards;
  double over = 1;               ///< the share of a lap within which all have begun, 0 to 1; with 1 they lie evenly round it
  bool mirrored = false;         ///< there and back: the last ones come when the first ones do
  int seed = 1;                  ///< Order::AtRandom
  std::vector<Point> line = {};  ///< Order::AlongLine: two points or more, in the same measure as the places
  bool operator==(const Spread&) const = default;
};

/// How much later than the first each of `count` is, as shares of a lap in [0, over). Across and Down go by `places`, one for each: in
/// proportion to how far they lie from the leftmost, or the topmost; AlongLine by how far along the line its point is that lies nearest to
/// them, from the first of them on. Without places, or without a line, they are Forwards.
std::vector<double> turnsOf(const Spread& spread, std::size_t count, const std::vector<Point>& places = {});

/// The numbers from 0 to count - 1, each once, in an order that `seed` chooses.
std::vector<std::size_t> shuffled(std::size_t count, int seed);

}  // namespace oa::edit
