#include "image/colour_bytes.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/colour_bytes.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

void floats(const std::uint8_t* rgb, int n, float* rgba) {
  const hn::FixedTag<std::uint8_t, 16> d8;
  const hn::FixedTag<std::uint8_t, 4> some;
  const hn::FixedTag<std::int32_t, 4> di;
  const hn::FixedTag<float, 4> d;
  constexpr float kScale = 1.0f / 255;
  const auto scale = hn::Set(d, kScale);
  int i = 0;
  alignas(16) std::uint8_t wide[64];
  for (; i + 16 <= n; i += 16) {
    hn::Vec<decltype(d8)> r, g, b;
    hn::LoadInterleaved3(d8, rgb + i * 3, r, g, b);
    hn::StoreInterleaved4(r, g, b, hn::Set(d8, std::uint8_t{255}), d8, wide);
    for (int k = 0; k < 64; k += 4)
      hn::StoreU(hn::Mul(hn::ConvertTo(d, hn::PromoteTo(di, hn::LoadU(some, wide + k))), scale), d, rgba + i * 4 + k);
  }
  for (; i < n; ++i) {
    for (int c = 0; c < 3; ++c) rgba[i * 4 + c] = static_cast<float>(rgb[i * 3 + c]) * kScale;
    rgba[i * 4 + 3] = 1;
  }
}

void sideBySide(const std::uint8_t* red, const std::uint8_t* green, const std::uint8_t* blue, int n, std::uint8_t* rgb) {
  const hn::FixedTag<std::uint8_t, 16> d;
  int i = 0;
  for (; i + 16 <= n; i += 16)
    hn::StoreInterleaved3(hn::LoadU(d, red + i), hn::LoadU(d, green + i), hn::LoadU(d, blue + i), d, rgb + i * 3);
  for (; i < n; ++i) {
    rgb[i * 3] = red[i];
    rgb[i * 3 + 1] = green[i];
    rgb[i * 3 + 2] = blue[i];
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(floats);
HWY_EXPORT(sideBySide);

void floatsOfBytes(const std::uint8_t* rgb, int n, float* rgba) { HWY_DYNAMIC_DISPATCH(floats)(rgb, n, rgba); }

void bytesOfPlanes(const std::uint8_t* red, const std::uint8_t* green, const std::uint8_t* blue, int n, std::uint8_t* rgb) {
  HWY_DYNAMIC_DISPATCH(sideBySide)(red, green, blue, n, rgb);
}

}  // namespace oa
#endif
