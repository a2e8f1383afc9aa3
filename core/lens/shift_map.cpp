#include "lens/shift_map.h"

#include <algorithm>
#include <cmath>

namespace oa {

void ShiftMap::places(int px, int py, int n, float* x, float* y) const {
  for (int begin = 0; begin < n; begin += kSpanStep) {
    const int count = std::min(kSpanStep, n - begin);
    shifts(px + begin, py, count, x + begin, y + begin);
    for (int i = 0; i < count; ++i) {
      x[begin + i] += static_cast<float>(px + begin + i);
      y[begin + i] += static_cast<float>(py);
    }
  }
}

// From pixel to pixel: what a formula would say of its own slopes would miss where it ends.
void ShiftMap::slopes(int px, int py, int step, int n, const Slopes& out) const {
  constexpr int kRoom = kSpanStep + kSpanPadding;
  alignas(64) float x[2][kRoom];
  alignas(64) float y[2][kRoom];
  // Every pixel where each is asked for, else pairs of them.
  const int together = step == 1 ? kSpanStep - 1 : 1;
  for (int begin = 0; begin < n; begin += together) {
    const int count = std::min(together, n - begin);
    const int first = px + begin * step;
    places(first, py, count + 1, x[0], y[0]);
    places(first, py + 1, count, x[1], y[1]);
    for (int i = 0; i < count; ++i) {
      const int to = begin + i;
      const float xx = x[0][i + 1] - x[0][i], xy = x[1][i] - x[0][i], yx = y[0][i + 1] - y[0][i], yy = y[1][i] - y[0][i];
      const float sum = xx * xx + xy * xy + yx * yx + yy * yy;
      const float det = std::abs(xx * yy - xy * yx);
      const float longer = std::sqrt(0.5f * (sum + std::sqrt(std::max(0.0f, sum * sum - 4 * det * det))));
      out.x[to] = x[0][i];
      out.y[to] = y[0][i];
      out.most[to] = longer;
      out.least[to] = longer > 0 ? det / longer : 0;
      out.xx[to] = xx;
      out.xy[to] = xy;
      out.yx[to] = yx;
      out.yy[to] = yy;
    }
  }
}

}  // namespace oa
