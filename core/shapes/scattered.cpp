#include "shapes/scattered.h"

#include <algorithm>
#include <cmath>
#include <list>
#include <mutex>
#include <numbers>

#include "base/numbers.h"
#include "base/random.h"

namespace oa {
namespace {

constexpr int kTries = 24;
constexpr std::size_t kKept = 16;

std::vector<Point> found(Point size, double distance, std::uint64_t seed, std::size_t most) {
  const double cell = distance / std::numbers::sqrt2;
  const int across = std::max(1, static_cast<int>(std::ceil(size.x / cell)));
  const int down = std::max(1, static_cast<int>(std::ceil(size.y / cell)));
  // One place at most lies in each cell.
  std::vector<std::int32_t> cells(static_cast<std::size_t>(across) * static_cast<std::size_t>(down), -1);
  std::vector<Point> places;
  std::vector<std::size_t> open;
  std::uint64_t drawn = 0;
  const auto random = [&] { return randomUnit(seed, drawn++); };
  const auto columnOf = [&](double x) { return std::min(across - 1, static_cast<int>(x / cell)); };
  const auto rowOf = [&](double y) { return std::min(down - 1, static_cast<int>(y / cell)); };
  const auto put = [&](Point p) {
    cells[static_cast<std::size_t>(rowOf(p.y)) * static_cast<std::size_t>(across) + static_cast<std::size_t>(columnOf(p.x))] =
        static_cast<std::int32_t>(places.size());
    open.push_back(places.size());
    places.push_back(p);
  };
  const auto free = [&](Point p) {
    const int cx = columnOf(p.x);
    const int cy = rowOf(p.y);
    for (int y = std::max(0, cy - 2); y <= std::min(down - 1, cy + 2); ++y)
      for (int x = std::max(0, cx - 2); x <= std::min(across - 1, cx + 2); ++x) {
        const std::int32_t other = cells[static_cast<std::size_t>(y) * static_cast<std::size_t>(across) + static_cast<std::size_t>(x)];
        if (other < 0) continue;
        const Point& q = places[static_cast<std::size_t>(other)];
        if ((q.x - p.x) * (q.x - p.x) + (q.y - p.y) * (q.y - p.y) < distance * distance) return false;
      }
    return true;
  };
  put({size.x * random(), size.y * random()});
  while (!open.empty() && places.size() < most) {
    const auto at = static_cast<std::size_t>(random() * static_cast<double>(open.size()));
    const Point from = places[open[at]];
    bool grown = false;
    for (int i = 0; i < kTries && !grown; ++i) {
      // Evenly over the ring from one distance to two.
      const double far = distance * std::sqrt(1 + 3 * random());
      const double turn = 2 * std::numbers::pi * random();
      const Point p{from.x + far * std::cos(turn), from.y + far * std::sin(turn)};
      if (p.x < 0 || p.y < 0 || p.x >= size.x || p.y >= size.y || !free(p)) continue;
      put(p);
      grown = true;
    }
    if (grown) continue;
    open[at] = open.back();
    open.pop_back();
  }
  return places;
}

struct Known {
  Point size;
  double distance;
  std::uint64_t seed;
  std::size_t most;
  std::shared_ptr<const std::vector<Point>> places;
};

}  // namespace

std::shared_ptr<const std::vector<Point>> poissonPlaces(Point size, double distance, std::uint64_t seed, std::size_t most) {
  static std::mutex mutex;
  static std::list<Known> known;
  const auto same = [&](const Known& k) { return k.size == size && k.distance == distance && k.seed == seed && k.most == most; };
  {
    const std::lock_guard lock(mutex);
    if (const auto it = std::find_if(known.begin(), known.end(), same); it != known.end()) {
      known.splice(known.begin(), known, it);
      return it->places;
    }
  }
  // Cells are counted: a distance that is nothing beside the size would need more of them than there is memory.
  const double least = std::sqrt(size.x * size.y / (4.0 * static_cast<double>(most)));
  auto places = std::make_shared<const std::vector<Point>>(found(size, std::max(distance, least), seed, most));
  const std::lock_guard lock(mutex);
  known.push_front({size, distance, seed, most, places});
  if (known.size() > kKept) known.pop_back();
  return places;
}

Point evenPlace(std::uint64_t i, std::uint64_t seed) {
  constexpr double kFirst = 0.7548776662466927;   // 1 / p, with p^3 = p + 1
  constexpr double kSecond = 0.5698402909980532;  // 1 / p^2
  const auto n = static_cast<double>(i);
  return {fract(randomUnit(seed, 0) + kFirst * n), fract(randomUnit(seed, 1) + kSecond * n)};
}

}  // namespace oa
