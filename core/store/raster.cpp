#include "store/raster.h"

#include <cstring>

namespace oa {
namespace {

template <class T>
void toFloats(const T* in, int channels, int n, float* out) {
  constexpr float kScale = sizeof(T) == 1 ? 1.0f / 255 : 1.0f / 65535;
  if (channels == 3) {
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

}  // namespace

void Raster::row(int y, float* rgba) const {
  const std::uint8_t* const at = data.get() + rowBytes() * static_cast<std::size_t>(y);
  if (bits == 8)
    toFloats(at, channels, width, rgba);
  else
    toFloats(reinterpret_cast<const std::uint16_t*>(at), channels, width, rgba);
}

}  // namespace oa
