// Four neighbours mixed to one, of fields and of pictures. Included once for each target, as Highway's -inl files are.
#if defined(OA_BILINEAR_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_BILINEAR_INL
#undef OA_BILINEAR_INL
#else
#define OA_BILINEAR_INL
#endif

#include <hwy/highway.h>

#include <cstdint>

#include "image/alpha-inl.h"
#include "image/borders.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

using D4 = hn::FixedTag<float, 4>;
using D2 = hn::FixedTag<float, 2>;

// Where pixel (x, y) lies, by the edge rule of a plane of this size; `at` tells it for one inside.
template <class At>
HWY_INLINE const float* pixelBy(int width, int height, Edge edge, std::int64_t x, std::int64_t y, const At& at) {
  alignas(16) static constexpr float kNothing[4] = {0, 0, 0, 0};
  const int px = edgeIndex(edge, x, width);
  const int py = edgeIndex(edge, y, height);
  return px < 0 || py < 0 ? kNothing : at(px, py);
}

// Four places of a field: pairs of neighbours, of which the first lie where `above` and `below` say, are mixed downwards first, then left
// and right are parted.
template <class Above, class Below>
HWY_INLINE void fourBetween(const Above& above, const Below& below, const float* tx, const float* downwards, float* out) {
  const D4 d;
  const D2 d2;
  const auto ty = hn::LoadU(d, downwards);
  const auto mixed = [&](int k, auto share) HWY_ATTR {
    const auto upper = hn::Combine(d, hn::LoadU(d2, above(k + 1)), hn::LoadU(d2, above(k)));
    const auto lower = hn::Combine(d, hn::LoadU(d2, below(k + 1)), hn::LoadU(d2, below(k)));
    return hn::MulAdd(hn::Sub(lower, upper), share, upper);
  };
  const auto one = mixed(0, hn::InterleaveLower(d, ty, ty));
  const auto two = mixed(2, hn::InterleaveUpper(d, ty, ty));
  const auto left = hn::ConcatEven(d, two, one);
  const auto right = hn::ConcatOdd(d, two, one);
  hn::StoreU(hn::MulAdd(hn::Sub(right, left), hn::LoadU(d, tx), left), d, out);
}
// Of a field whose pixels all lie inside, `offset` floats from `first` and from `below`.
HWY_INLINE void fourOfField(const float* first, const float* below, const std::int32_t* offset, const float* tx, const float* downwards,
                            float* out) {
  fourBetween([&](int k) { return first + offset[k]; }, [&](int k) { return below + offset[k]; }, tx, downwards, out);
}
HWY_INLINE void fourOfField(const float* const* upper, const float* const* lower, const float* tx, const float* downwards, float* out) {
  fourBetween([&](int k) { return upper[k]; }, [&](int k) { return lower[k]; }, tx, downwards, out);
}

// What lies between four pixels of a picture: `a` and `b` beside it above, `c` and `e` below.
HWY_INLINE hn::Vec<D4> betweenColours(const float* a, const float* b, const float* c, const float* e, float tx, float ty) {
  const D4 d;
  const auto above = hn::LoadU(d, a);
  const auto beside = hn::LoadU(d, b);
  const auto left = hn::MulAdd(hn::Sub(hn::LoadU(d, c), above), hn::Set(d, ty), above);
  const auto right = hn::MulAdd(hn::Sub(hn::LoadU(d, e), beside), hn::Set(d, ty), beside);
  return hn::MulAdd(hn::Sub(right, left), hn::Set(d, tx), left);
}

// The same, to the bit, for as many pixels as a vector holds: the two above lie side by side, and those below, so that one load brings
// both.
class ColoursBetween {
 public:
  using D = hn::CappedTag<float, 16>;
  using V = hn::Vec<D>;
  static constexpr int kLanes = static_cast<int>(hn::MaxLanes(D()));
  static constexpr int kAtOnce = kLanes / 4;

  HWY_INLINE ColoursBetween() {
    alignas(64) std::int32_t pixel[16];
    alignas(64) std::int32_t even[16];
    alignas(64) std::int32_t odd[16];
    for (int i = 0; i < 16; ++i) {
      pixel[i] = i / 4;
      even[i] = i / 8 * 2;
      odd[i] = i / 8 * 2 + 1;
    }
    const hn::RebindToSigned<D> di;
    pixel_ = hn::IndicesFromVec(D(), hn::Load(di, pixel));
    even_ = hn::IndicesFromVec(D(), hn::Load(di, even));
    odd_ = hn::IndicesFromVec(D(), hn::Load(di, odd));
  }

  // Each pixel's share, once for each of its channels. Four of them are read.
  [[nodiscard]] HWY_INLINE V each(const float* shares) const { return hn::TableLookupLanes(hn::LoadDup128(D(), shares), pixel_); }

  // Pixels whose upper left neighbours lie `offset` floats from `first`, and the lower ones `below` further on. Four shares are read.
  [[nodiscard]] HWY_INLINE V read(const float* first, std::ptrdiff_t below, const std::int32_t* offset, const float* tx,
                                  const float* ty) const {
    return between([&](int k) { return first + offset[k]; }, [&](int k) { return first + offset[k] + below; }, tx, ty);
  }
  // Pixels whose upper left neighbours, and the lower ones, lie there.
  [[nodiscard]] HWY_INLINE V read(const float* const* upper, const float* const* lower, const float* tx, const float* ty) const {
    return between([&](int k) { return upper[k]; }, [&](int k) { return lower[k]; }, tx, ty);
  }

 private:
  template <class Above, class Below>
  [[nodiscard]] HWY_INLINE V between(const Above& above, const Below& below, const float* tx, const float* ty) const {
#if HWY_MAX_BYTES >= 64 && !HWY_HAVE_SCALABLE
    const D d;
    const hn::FixedTag<float, 8> pair;
    const auto pairs = [&](int one, int other, V share) HWY_ATTR {
      const V upper = hn::Combine(d, hn::LoadU(pair, above(other)), hn::LoadU(pair, above(one)));
      const V lower = hn::Combine(d, hn::LoadU(pair, below(other)), hn::LoadU(pair, below(one)));
      return hn::MulAdd(hn::Sub(lower, upper), share, upper);
    };
    const V down = hn::LoadDup128(d, ty);
    const V even = pairs(0, 2, hn::TableLookupLanes(down, even_));
    const V odd = pairs(1, 3, hn::TableLookupLanes(down, odd_));
    const V left = evenPixels(d, even, odd);
    const V right = oddPixels(d, even, odd);
#elif HWY_MAX_BYTES == 32 && !HWY_HAVE_SCALABLE
    const D d;
    const auto pairs = [&](int k) HWY_ATTR {
      const V upper = hn::LoadU(d, above(k));
      return hn::MulAdd(hn::Sub(hn::LoadU(d, below(k)), upper), hn::Set(d, ty[k]), upper);
    };
    const V one = pairs(0);
    const V other = pairs(1);
    const V left = hn::ConcatLowerLower(d, other, one);
    const V right = hn::ConcatUpperUpper(d, other, one);
#else
    return betweenColours(above(0), above(0) + 4, below(0), below(0) + 4, *tx, *ty);
#endif
#if HWY_MAX_BYTES >= 32 && !HWY_HAVE_SCALABLE
    return hn::MulAdd(hn::Sub(right, left), each(tx), left);
#endif
  }

  decltype(hn::IndicesFromVec(D(), hn::Zero(hn::RebindToSigned<D>()))) pixel_, even_, odd_;
};

HWY_INLINE void bilinearColour(const float* a, const float* b, const float* c, const float* e, float tx, float ty, float* out) {
  hn::StoreU(betweenColours(a, b, c, e, tx, ty), D4(), out);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#endif
