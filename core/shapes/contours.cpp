#include "shapes/contours.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstddef>
#include <cstdint>

#include "base/line.h"

namespace oa {
namespace {

// Cells between the middles of pixels, with one round of them outside. An edge between two pixels is named by the upper left one and
// whether it goes down.
class Squares {
 public:
  Squares(const std::vector<float>& values, int width, int height, float level)
      : values_(values), width_(width), height_(height), level_(level) {
    next_.assign(static_cast<std::size_t>(width + 2) * static_cast<std::size_t>(height + 2) * 2, kNone);
  }

  std::vector<std::vector<Point>> lines() {
    for (int y = -1; y < height_; ++y)
      for (int x = -1; x < width_; ++x) cell(x, y);
    std::vector<std::vector<Point>> list;
    for (std::size_t e = 0; e < next_.size(); ++e) {
      if (next_[e] == kNone) continue;
      auto& line = list.emplace_back();
      std::size_t at = e;
      while (next_[at] != kNone) {
        line.push_back(crossing(at));
        const std::size_t to = next_[at];
        next_[at] = kNone;
        at = to;
      }
      line.push_back(line.front());
    }
    return list;
  }

 private:
  static constexpr std::uint32_t kNone = 0xffffffffU;

  [[nodiscard]] float at(int x, int y) const {
    if (x < 0 || y < 0 || x >= width_ || y >= height_) return -1e30f;
    return values_[static_cast<std::size_t>(y) * static_cast<std::size_t>(width_) + static_cast<std::size_t>(x)];
  }
  [[nodiscard]] std::uint32_t edge(int x, int y, bool down) const {
    return (static_cast<std::uint32_t>(y + 1) * static_cast<std::uint32_t>(width_ + 2) + static_cast<std::uint32_t>(x + 1)) * 2 +
           (down ? 1U : 0U);
  }
  [[nodiscard]] Point crossing(std::size_t e) const {
    const bool down = (e & 1) != 0;
    const auto pixel = e / 2;
    const int x = static_cast<int>(pixel % static_cast<std::size_t>(width_ + 2)) - 1;
    const int y = static_cast<int>(pixel / static_cast<std::size_t>(width_ + 2)) - 1;
    const double a = static_cast<double>(at(x, y));
    const double b = static_cast<double>(down ? at(x, y + 1) : at(x + 1, y));
    // Beyond the rim there is nothing: the line lies on the pixels' own edge.
    double t = 0.5;
    if (a > -1e29 && b > -1e29) t = std::clamp((static_cast<double>(level_) - a) / (b - a), 0.0, 1.0);
    return down ? Point{static_cast<double>(x), y + t} : Point{x + t, static_cast<double>(y)};
  }

  void cell(int x, int y) {
    // Clockwise from the upper left, and the edges behind each corner.
    const std::array<float, 4> v{at(x, y), at(x + 1, y), at(x + 1, y + 1), at(x, y + 1)};
    std::array<bool, 4> in{};
    for (std::size_t i = 0; i < 4; ++i) in[i] = v[i] >= level_;
    if (in[0] == in[1] && in[1] == in[2] && in[2] == in[3]) return;
    const std::array<std::uint32_t, 4> edges{edge(x, y, false), edge(x + 1, y, true), edge(x, y + 1, false), edge(x, y, true)};
    const bool opposite = in[0] == in[2] && in[1] == in[3];
    const bool joined = opposite && (v[0] + v[1] + v[2] + v[3]) / 4 >= level_;
    for (std::size_t i = 0; i < 4; ++i) {
      const std::size_t after = (i + 1) % 4;
      if (!in[i] || in[after]) continue;
      // From where the edge of what is within is left to where it was come in by.
      std::size_t k = i;
      if (joined) {
        k = (i + 1) % 4;  // the next corner that is within, about the one that is not
      } else {
        while (in[(k + 3) % 4]) k = (k + 3) % 4;
        k = (k + 3) % 4;
      }
      next_[edges[i]] = edges[k];
    }
  }

  const std::vector<float>& values_;
  int width_;
  int height_;
  float level_;
  std::vector<std::uint32_t> next_;
};

}  // namespace

std::vector<std::vector<Point>> contours(const std::vector<float>& values, int width, int height, float level) {
  if (width <= 0 || height <= 0) return {};
  return Squares(values, width, height, level).lines();
}

std::vector<std::vector<Point>> evenedContours(std::vector<std::vector<Point>> lines, double shortest, std::size_t most) {
  std::erase_if(lines, [&](const auto& line) { return line.size() < 4 || lengthOf(line) < shortest; });
  std::stable_sort(lines.begin(), lines.end(), [](const auto& a, const auto& b) { return lengthOf(a) > lengthOf(b); });
  if (lines.size() > most) lines.resize(most);
  for (auto& line : lines) {
    line.pop_back();
    const std::size_t n = line.size();
    for (int pass = 0; pass < 2; ++pass) {
      std::vector<Point> even(n);
      for (std::size_t i = 0; i < n; ++i) {
        const Point a = line[(i + n - 1) % n];
        const Point b = line[i];
        const Point c = line[(i + 1) % n];
        even[i] = {(a.x + 2 * b.x + c.x) / 4, (a.y + 2 * b.y + c.y) / 4};
      }
      line = std::move(even);
    }
    const auto first = std::min_element(line.begin(), line.end(), [](Point a, Point b) { return a.x + a.y < b.x + b.y; });
    std::rotate(line.begin(), first, line.end());
    line.push_back(line.front());
  }
  return lines;
}

}  // namespace oa
