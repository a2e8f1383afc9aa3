#include "store/raster.h"

#include <algorithm>
#include <vector>

#include "image/buffer.h"
#include "image/colour_bytes.h"

namespace oa {
namespace {

template <class T>
void toFloats(const T* in, int channels, int n, float* out) {
  constexpr float kScale = sizeof(T) == 1 ? 1.0f / 255 : 1.0f / 65535;
  if (channels == 3) {
    if constexpr (sizeof(T) == 1) return floatsOfBytes(in, n, out);
    for (int i = 0; i < n; ++i, in += 3, out += 4) {
      for (int c = 0; c < 3; ++c) out[c] = static_cast<float>(in[c]) * kScale;
      out[3] = 1;
    }
    return;
  }
  for (int i = 0; i < n; ++i, in += 4, out += 4) {
    const float alpha = static_cast<float>(in[3]) * kScale;
    // Full alpha leaves a colour as it is, to the bit.
    const float times = in[3] == static_cast<T>(-1) ? kScale : kScale * alpha;
    for (int c = 0; c < 3; ++c) out[c] = static_cast<float>(in[c]) * times;
    out[3] = alpha;
  }
}

// Means of two by two opaque pixels, in whole numbers: what photographs are opened with.
void meansOfTwo(const std::uint8_t* upper, const std::uint8_t* lower, int n, float* out) {
  constexpr float kScale = 1.0f / (255 * 4);
  for (int i = 0; i < n; ++i, upper += 6, lower += 6, out += 4) {
    for (int c = 0; c < 3; ++c) out[c] = static_cast<float>(upper[c] + upper[c + 3] + lower[c] + lower[c + 3]) * kScale;
    out[3] = 1;
  }
}

}  // namespace

std::shared_ptr<std::uint8_t[]> rasterBytes(std::size_t bytes) {
  // Pictures of a clip come and go: their memory is used again.
  auto room = std::make_shared<FloatBuffer>((bytes + sizeof(float) - 1) / sizeof(float));
  auto* const first = reinterpret_cast<std::uint8_t*>(room->data());
  return {std::move(room), first};
}

void Raster::rowOfMeans(int y, int block, float* rgba) const {
  if (block == 1) return row(y, rgba);
  const int n = width / block;
  if (block == 2 && channels == 3 && bits == 8) {
    const std::uint8_t* const upper = data.get() + rowBytes() * static_cast<std::size_t>(2 * y);
    return meansOfTwo(upper, upper + rowBytes(), n, rgba);
  }
  std::vector<float> one(static_cast<std::size_t>(width) * 4);
  std::fill_n(rgba, static_cast<std::size_t>(n) * 4, 0.0f);
  const float share = 1.0f / static_cast<float>(block * block);
  for (int k = 0; k < block; ++k) {
    row(y * block + k, one.data());
    const float* from = one.data();
    for (int i = 0; i < n; ++i, from += static_cast<std::ptrdiff_t>(block) * 4)
      for (int j = 0; j < block; ++j)
        for (int c = 0; c < 4; ++c) rgba[i * 4 + c] += from[j * 4 + c] * share;
  }
}

void Raster::row(int y, float* rgba) const {
  const std::uint8_t* const at = data.get() + rowBytes() * static_cast<std::size_t>(y);
  if (bits == 8)
    toFloats(at, channels, width, rgba);
  else
    toFloats(reinterpret_cast<const std::uint16_t*>(at), channels, width, rgba);
}

}  // namespace oa
