#include "image/seamless.h"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <limits>
#include <vector>

#include "base/numbers.h"
#include "base/parallel.h"

namespace oa {
namespace {

// A plane seen upright or lying on its side, so that both directions share one way.
struct Sided {
  const Plane& plane;
  bool lying;
  [[nodiscard]] int length() const { return lying ? plane.height() : plane.width(); }
  [[nodiscard]] int lines() const { return lying ? plane.width() : plane.height(); }
  [[nodiscard]] const float* at(int along, int line) const {
    return lying ? plane.row(along) + static_cast<std::ptrdiff_t>(line) * 4 : plane.row(line) + static_cast<std::ptrdiff_t>(along) * 4;
  }
};

float difference(const float* a, const float* b) {
  float sum = 0;
  for (int c = 0; c < 4; ++c) sum += (a[c] - b[c]) * (a[c] - b[c]);
  return sum;
}

// For each line where within the band the cheapest way from the first line to the last crosses it. Neighbours are one apart at most;
// a closed way ends where it began.
std::vector<int> cheapestPath(const std::vector<float>& cost, int band, int lines, bool closed) {
  std::vector<float> sum(static_cast<std::size_t>(band));
  std::vector<float> next(static_cast<std::size_t>(band));
  std::vector<std::int8_t> from(cost.size());
  const auto run = [&](int start) {
    for (int x = 0; x < band; ++x)
      sum[static_cast<std::size_t>(x)] =
          start < 0 || x == start ? cost[static_cast<std::size_t>(x)] : std::numeric_limits<float>::infinity();
    for (int line = 1; line < lines; ++line) {
      const std::size_t row = static_cast<std::size_t>(line) * static_cast<std::size_t>(band);
      for (int x = 0; x < band; ++x) {
        const auto at = static_cast<std::size_t>(x);
        std::int8_t way = 0;
        float best = sum[at];
        if (x > 0 && sum[at - 1] < best) {
          best = sum[at - 1];
          way = -1;
        }
        if (x + 1 < band && sum[at + 1] < best) {
          best = sum[at + 1];
          way = 1;
        }
        from[row + static_cast<std::size_t>(x)] = way;
        next[static_cast<std::size_t>(x)] = best + cost[row + static_cast<std::size_t>(x)];
      }
      std::swap(sum, next);
    }
    std::vector<int> path(static_cast<std::size_t>(lines));
    int x = start >= 0 ? start : static_cast<int>(std::min_element(sum.begin(), sum.end()) - sum.begin());
    for (int line = lines - 1; line >= 0; --line) {
      path[static_cast<std::size_t>(line)] = x;
      if (line > 0) x += from[static_cast<std::size_t>(line) * static_cast<std::size_t>(band) + static_cast<std::size_t>(x)];
    }
    return path;
  };
  std::vector<int> path = run(-1);
  // Home by the place where the free way is in its middle.
  if (closed && std::abs(path.front() - path.back()) > 1) path = run(path[static_cast<std::size_t>(lines / 2)]);
  return path;
}

double smooth(double t) { return t * t * (3 - 2 * t); }

// One end laid over the other.
Plane closedAlong(const Plane& picture, bool lying, const SeamSettings& s, bool pathCloses) {
  const Sided in{picture, lying};
  const int size = seamlessSize(in.length(), s.band);
  const int band = in.length() - size;
  const int lines = in.lines();
  Plane out(lying ? picture.width() : size, lying ? size : picture.height(), 4);
  if (band < 1) {
    for (int y = 0; y < out.height(); ++y) std::copy_n(picture.row(y), static_cast<std::size_t>(out.width()) * 4, out.row(y));
    return out;
  }
  std::vector<int> path;
  if (s.cut) {
    std::vector<float> cost(static_cast<std::size_t>(band) * static_cast<std::size_t>(lines));
    parallelBands(lines, [&](int l0, int l1) {
      for (int line = l0; line < l1; ++line)
        for (int x = 0; x < band; ++x)
          cost[static_cast<std::size_t>(line) * static_cast<std::size_t>(band) + static_cast<std::size_t>(x)] =
              difference(in.at(x, line), in.at(size + x, line));
    });
    // Not along the band's very ends, where there would be no room to go over.
    for (int line = 0; line < lines && band > 4; ++line)
      for (const int x : {0, band - 1})
        cost[static_cast<std::size_t>(line) * static_cast<std::size_t>(band) + static_cast<std::size_t>(x)] += 100;
    path = cheapestPath(cost, band, lines, pathCloses);
  }
  // A cut goes over within a part of the band, and never beyond it: where the band ends only one side is left.
  const double reach = std::max(0.5, 0.5 * s.soft * band);
  const auto share = [&](int x, int line) {  // of what came from the other end
    if (!s.cut) return 1 - smooth((x + 0.5) / band);
    const double by = std::min({reach, static_cast<double>(path[static_cast<std::size_t>(line)]),
                                static_cast<double>(band - 1 - path[static_cast<std::size_t>(line)])});
    return 1 - smooth(std::clamp((x - path[static_cast<std::size_t>(line)]) / (2 * std::max(0.5, by)) + 0.5, 0.0, 1.0));
  };
  parallelBands(out.height(), [&](int y0, int y1) {
    for (int y = y0; y < y1; ++y)
      for (int x = 0; x < out.width(); ++x) {
        const int along = lying ? y : x;
        const int line = lying ? x : y;
        const float* const own = in.at(along, line);
        float* const to = out.row(y) + static_cast<std::ptrdiff_t>(x) * 4;
        if (along >= band) {
          std::copy_n(own, 4, to);
          continue;
        }
        const float* const other = in.at(size + along, line);
        const auto t = static_cast<float>(share(along, line));
        for (int c = 0; c < 4; ++c) to[c] = own[c] + (other[c] - own[c]) * t;
      }
  });
  return out;
}

// How light the large parts of the picture are: means over a few cells, seen from any pixel without a kink.
class LargeLight {
 public:
  explicit LargeLight(const Plane& picture) : width_(picture.width()), height_(picture.height()), cells_(kAcross * kDown) {
    std::vector<double> alpha(cells_.size());
    double whole = 0;
    double covered = 0;
    for (int y = 0; y < height_; ++y)
      for (int x = 0; x < width_; ++x) {
        const float* const p = picture.row(y) + static_cast<std::ptrdiff_t>(x) * 4;
        const std::size_t cell = static_cast<std::size_t>(y * std::int64_t{kDown} / height_) * kAcross +
                                 static_cast<std::size_t>(x * std::int64_t{kAcross} / width_);
        const double light = lightOf(p);
        cells_[cell] += light;
        alpha[cell] += static_cast<double>(p[3]);
        whole += light;
        covered += static_cast<double>(p[3]);
      }
    mean_ = covered > 0 ? whole / covered : 0;
    for (std::size_t i = 0; i < cells_.size(); ++i) cells_[i] = alpha[i] > 1e-6 ? cells_[i] / alpha[i] : mean_;
  }
  [[nodiscard]] double mean() const { return mean_; }
  [[nodiscard]] double at(int x, int y) const {
    const double u = (x + 0.5) * kAcross / width_ - 0.5;
    const double v = (y + 0.5) * kDown / height_ - 0.5;
    const auto cell = [&](double column, double row) {
      const int i = std::clamp(static_cast<int>(column), 0, kAcross - 1);
      const int j = std::clamp(static_cast<int>(row), 0, kDown - 1);
      return cells_[static_cast<std::size_t>(j) * kAcross + static_cast<std::size_t>(i)];
    };
    const double s = smooth(u - std::floor(u));
    const double t = smooth(v - std::floor(v));
    const double upper = mix(cell(std::floor(u), std::floor(v)), cell(std::floor(u) + 1, std::floor(v)), s);
    return mix(upper, mix(cell(std::floor(u), std::floor(v) + 1), cell(std::floor(u) + 1, std::floor(v) + 1), s), t);
  }

 private:
  static constexpr int kAcross = 8;
  static constexpr int kDown = 6;
  // Rec. 709 weights on display values.
  static double lightOf(const float* p) {
    return 0.2126 * static_cast<double>(p[0]) + 0.7152 * static_cast<double>(p[1]) + 0.0722 * static_cast<double>(p[2]);
  }
  int width_;
  int height_;
  std::vector<double> cells_;
  double mean_ = 0;
};

Plane evened(const Plane& picture, double even) {
  const LargeLight light(picture);
  Plane out(picture.width(), picture.height(), 4);
  parallelBands(picture.height(), [&](int y0, int y1) {
    for (int y = y0; y < y1; ++y)
      for (int x = 0; x < picture.width(); ++x) {
        const float* const in = picture.row(y) + static_cast<std::ptrdiff_t>(x) * 4;
        float* const to = out.row(y) + static_cast<std::ptrdiff_t>(x) * 4;
        const double gain = std::clamp(light.mean() / std::max(0.02, light.at(x, y)), 0.4, 2.5);
        const auto times = static_cast<float>(std::pow(gain, even));
        for (int c = 0; c < 3; ++c) to[c] = std::min(in[3], in[c] * times);
        to[3] = in[3];
      }
  });
  return out;
}

}  // namespace

int seamlessSize(int size, double band) { return std::max(1, size - static_cast<int>(std::lround(size * std::clamp(band, 0.0, 0.5)))); }

Plane seamless(const Plane& picture, const SeamSettings& settings) {
  Plane made(picture.width(), picture.height(), 4);
  if (settings.even > 0)
    made = evened(picture, settings.even);
  else
    for (int y = 0; y < picture.height(); ++y) std::copy_n(picture.row(y), static_cast<std::size_t>(picture.width()) * 4, made.row(y));
  if (settings.across) made = closedAlong(made, false, settings, false);
  if (settings.down) made = closedAlong(made, true, settings, settings.across);
  return made;
}

double jointOf(const Plane& picture, bool across) {
  const Sided in{picture, !across};
  const int length = in.length();
  std::vector<double> steps(static_cast<std::size_t>(length));
  parallelBands(length, [&](int a0, int a1) {
    for (int a = a0; a < a1; ++a) {
      double sum = 0;
      for (int line = 0; line < in.lines(); ++line) {
        const float* const p = in.at(a, line);
        const float* const q = in.at(a + 1 == length ? 0 : a + 1, line);
        for (int c = 0; c < 4; ++c) sum += std::abs(static_cast<double>(p[c]) - static_cast<double>(q[c]));
      }
      steps[static_cast<std::size_t>(a)] = sum / in.lines();
    }
  });
  const double joint = steps.back();
  std::nth_element(steps.begin(), steps.begin() + length / 2, steps.end());
  const double median = steps[static_cast<std::size_t>(length / 2)];
  constexpr double kFlat = 1e-4;
  return joint < kFlat ? 0 : joint / std::max(kFlat, median);
}

}  // namespace oa
