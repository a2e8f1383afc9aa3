#include "image/seamless.h"

#include <algorithm>
#include <cmath>
#include <vector>

#include "base/parallel.h"
#include "image/even_light.h"
#include "image/least_cut.h"
#include "image/sided.h"

namespace oa {
namespace {

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
              pixelDifference(in.at(x, line), in.at(size + x, line));
    });
    if (band > 2) keepRoom(cost, band, lines, s.soft);
    path = leastCut(cost, band, lines, pathCloses);
  }
  const auto share = [&](int x, int line) {  // of what came from the other end
    return s.cut ? cutShare(x, path[static_cast<std::size_t>(line)], band, s.soft) : fadeShare(x, band);
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

Plane evened(const Plane& picture, double even) {
  const EvenLight light({&picture}, even);
  Plane out(picture.width(), picture.height(), 4);
  parallelBands(picture.height(), [&](int y0, int y1) {
    std::vector<float> gains(static_cast<std::size_t>(picture.width()));
    for (int y = y0; y < y1; ++y) {
      light.gains((y + 0.5) / picture.height(), picture.width(), gains.data());
      multiplyColours(picture.row(y), gains.data(), picture.width(), out.row(y));
    }
  });
  return out;
}

}  // namespace

SeamSettings seamAlong(std::string_view meet, bool cut, double band, double soft, double even) {
  return {meet != "down", meet != "across", cut, band, soft, even};
}

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
