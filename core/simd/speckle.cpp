#include "simd/speckle.h"

#include "base/random.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "simd/speckle.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

void tones(const std::uint32_t* x, std::uint32_t y, std::uint32_t still, int n, float* out) {
  const hn::CappedTag<float, 16> d;
  const hn::RebindToUnsigned<decltype(d)> du;
  const hn::RebindToSigned<decltype(d)> di;
  const auto row = hn::Set(du, y * 0x85EBCA77u + still);
  for (int i = 0; i < n; i += static_cast<int>(hn::Lanes(d))) {
    auto h = hn::Xor(hn::Mul(hn::LoadU(du, x + i), hn::Set(du, 0x9E3779B1u)), row);
    h = hn::Xor(h, hn::ShiftRight<16>(h));
    h = hn::Mul(h, hn::Set(du, 0x7FEB352Du));
    h = hn::Xor(h, hn::ShiftRight<15>(h));
    h = hn::Mul(h, hn::Set(du, 0x846CA68Bu));
    h = hn::Xor(h, hn::ShiftRight<16>(h));
    const auto tone = hn::ConvertTo(d, hn::BitCast(di, hn::ShiftRight<8>(h)));
    hn::StoreU(hn::Mul(tone, hn::Set(d, 1.0f / 16777216.0f)), d, out + i);
  }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(tones);

void speckTones(const std::uint32_t* x, std::uint32_t y, std::uint32_t still, int n, float* out) {
  HWY_DYNAMIC_DISPATCH(tones)(x, y, still, n, out);
}

std::uint32_t stillSeed(std::uint32_t seed, std::uint32_t still) {
  return static_cast<std::uint32_t>(mix64((std::uint64_t{seed} << 32) | still) >> 16);
}

}  // namespace oa
#endif
