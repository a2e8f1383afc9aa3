#include "image/wide_yuv.h"

#include <algorithm>

#include "base/parallel.h"

namespace oa {
namespace {

constexpr float kRed = 0.2126f;
constexpr float kGreen = 0.7152f;
constexpr float kBlue = 0.0722f;
constexpr float kLuma = 876.0f / 65535;  // 64 to 940
constexpr float kCb = 896.0f / 65535 / 1.8556f;
constexpr float kCr = 896.0f / 65535 / 1.5748f;

std::uint16_t rounded(float v) { return static_cast<std::uint16_t>(std::clamp(v + 0.5f, 4.0f, 1019.0f)); }

float lumaOf(const std::uint16_t* p) {
  return kRed * static_cast<float>(p[0]) + kGreen * static_cast<float>(p[1]) + kBlue * static_cast<float>(p[2]);
}

}  // namespace

void wideYuv(const std::uint16_t* rgba, int width, int height, bool halved, const WideYuv& out) {
  const auto row = [&](int y) { return rgba + static_cast<std::size_t>(y) * static_cast<std::size_t>(width) * 4; };
  parallelBands(height, [&](int y0, int y1) {
    for (int y = y0; y < y1; ++y) {
      const std::uint16_t* in = row(y);
      std::uint16_t* luma = out.y + y * out.strideY;
      for (int x = 0; x < width; ++x) luma[x] = rounded(64 + kLuma * lumaOf(in + static_cast<std::ptrdiff_t>(x) * 4));
      if (out.alpha)
        for (int x = 0; x < width; ++x)
          out.alpha[y * out.strideAlpha + x] =
              static_cast<std::uint16_t>((in[static_cast<std::ptrdiff_t>(x) * 4 + 3] * 1023u + 32767u) / 65535u);
      if (halved && y % 2 != 0) continue;
      const std::ptrdiff_t at = (halved ? y / 2 : y) * out.strideChroma;
      if (!halved) {
        for (int x = 0; x < width; ++x) {
          const std::uint16_t* p = in + static_cast<std::ptrdiff_t>(x) * 4;
          const float l = lumaOf(p);
          out.u[at + x] = rounded(512 + kCb * (static_cast<float>(p[2]) - l));
          out.v[at + x] = rounded(512 + kCr * (static_cast<float>(p[0]) - l));
        }
        continue;
      }
      const std::uint16_t* below = row(y + 1);
      for (int x = 0; x < width; x += 2) {
        float red = 0;
        float blue = 0;
        float l = 0;
        for (const std::uint16_t* p : {in + static_cast<std::ptrdiff_t>(x) * 4, in + static_cast<std::ptrdiff_t>(x) * 4 + 4,
                                       below + static_cast<std::ptrdiff_t>(x) * 4, below + static_cast<std::ptrdiff_t>(x) * 4 + 4}) {
          red += static_cast<float>(p[0]);
          blue += static_cast<float>(p[2]);
          l += lumaOf(p);
        }
        out.u[at + x / 2] = rounded(512 + kCb * (blue - l) / 4);
        out.v[at + x / 2] = rounded(512 + kCr * (red - l) / 4);
      }
    }
  });
}

}  // namespace oa
