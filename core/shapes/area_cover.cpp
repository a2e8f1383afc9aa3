#include "shapes/area_cover.h"

#include <algorithm>
#include <cmath>
#include <cstddef>

namespace oa {
namespace {

// A piece of an edge within the row, from left to right or straight down: `height` is its share of the row, with the direction.
void addPiece(double x0, double x1, double height, int width, float* sums) {
  if (height == 0) return;
  if (x0 > x1) std::swap(x0, x1);
  if (x0 >= width) return;
  if (x1 <= 0) {
    sums[0] += static_cast<float>(height);
    return;
  }
  // What lies left of the picture lets all of the row in.
  if (x0 < 0) {
    const double part = height * (0 - x0) / (x1 - x0);
    sums[0] += static_cast<float>(part);
    height -= part;
    x0 = 0;
  }
  if (x1 > width) {
    height *= (width - x0) / (x1 - x0);
    x1 = width;
  }
  const int first = std::min(static_cast<int>(x0), width - 1);
  const int last = std::min(static_cast<int>(std::ceil(x1)) - 1, width - 1);
  if (last <= first) {
    // Within one pixel: what is right of its middle on average is in it, the rest in the next ones.
    const double share = 1 - ((x0 + x1) / 2 - first);
    sums[first] += static_cast<float>(height * share);
    sums[first + 1] += static_cast<float>(height * (1 - share));
    return;
  }
  const double perPixel = height / (x1 - x0);
  for (int x = first; x <= last; ++x) {
    const double a = std::max(x0, static_cast<double>(x));
    const double b = std::min(x1, static_cast<double>(x + 1));
    const double h = perPixel * (b - a);
    const double share = 1 - ((a + b) / 2 - x);
    sums[x] += static_cast<float>(h * share);
    sums[x + 1] += static_cast<float>(h * (1 - share));
  }
}

}  // namespace

void coverRow(const AreaEdge* edges, std::size_t count, int y, int left, int width, float* sums) {
  std::fill_n(sums, static_cast<std::size_t>(width) + 2, 0.0F);
  // The row as pixels whose corners are whole numbers.
  const double top = y - 0.5;
  const double bottom = y + 0.5;
  for (std::size_t i = 0; i < count; ++i) {
    Point a = edges[i].from;
    Point b = edges[i].to;
    const double way = a.y <= b.y ? 1 : -1;
    if (way < 0) std::swap(a, b);
    const double from = std::max(a.y, top);
    const double to = std::min(b.y, bottom);
    if (from >= to) continue;
    const double slope = (b.x - a.x) / (b.y - a.y);
    const double beside = 0.5 - left;
    addPiece(a.x + (from - a.y) * slope + beside, a.x + (to - a.y) * slope + beside, way * (to - from), width, sums);
  }
  double sum = 0;
  for (int x = 0; x < width; ++x) {
    sum += static_cast<double>(sums[x]);
    sums[x] = static_cast<float>(std::min(1.0, std::abs(sum)));
  }
}

}  // namespace oa
