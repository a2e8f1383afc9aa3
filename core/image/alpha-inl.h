// Pixels as they lie in a vector: their alpha, what colours may be, and every second of them. Included once for each target, as Highway's
// -inl files are.
#if defined(OA_ALPHA_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_ALPHA_INL
#undef OA_ALPHA_INL
#else
#define OA_ALPHA_INL
#endif

#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

/// Each pixel's alpha in all four of its lanes.
template <class D>
HWY_INLINE hn::Vec<D> alphaOf(D, hn::Vec<D> pixels) {
  return hn::Broadcast<3>(pixels);
}

/// The lanes of alpha.
template <class D>
HWY_INLINE hn::Mask<D> alphaLanes(D d) {
  alignas(16) static constexpr float kIsAlpha[4] = {0, 0, 0, 1};
  return hn::Gt(hn::LoadDup128(d, kIsAlpha), hn::Zero(d));
}

/// And the others.
template <class D>
HWY_INLINE hn::Mask<D> colourLanes(D d) {
  alignas(16) static constexpr float kIsColour[4] = {1, 1, 1, 0};
  return hn::Gt(hn::LoadDup128(d, kIsColour), hn::Zero(d));
}

/// Lanes in which both values are 1, and neither is nearly so: whatever the processor makes of numbers that are next to nothing.
template <class D>
HWY_INLINE hn::Mask<D> bothOne(D d, hn::Vec<D> a, hn::Vec<D> b) {
  const hn::RebindToSigned<D> di;
  const auto one = hn::BitCast(di, hn::Set(d, 1.0f));
  const auto other = hn::Or(hn::Xor(hn::BitCast(di, a), one), hn::Xor(hn::BitCast(di, b), one));
  return hn::RebindMask(d, hn::Eq(other, hn::Zero(di)));
}

/// True where all values are.
template <class D, std::size_t kCount>
HWY_INLINE bool allOne(D d, const hn::Vec<D> (&values)[kCount]) {
  const hn::RebindToSigned<D> di;
  const auto one = hn::BitCast(di, hn::Set(d, 1.0f));
  auto other = hn::Xor(hn::BitCast(di, values[0]), one);
  for (std::size_t k = 1; k < kCount; ++k) other = hn::Or(other, hn::Xor(hn::BitCast(di, values[k]), one));
  return hn::AllTrue(di, hn::Eq(other, hn::Zero(di)));
}

/// True of pixels that are opaque, all of them.
template <class D>
HWY_INLINE bool allOpaque(D d, hn::Vec<D> pixels) {
  return hn::AllTrue(d, hn::Or(hn::Not(alphaLanes(d)), hn::Eq(pixels, hn::Set(d, 1.0f))));
}

/// True of pixels of which there is nothing, no light either.
template <class D>
HWY_INLINE bool allNothing(D d, hn::Vec<D> pixels) {
  return hn::AllTrue(d, hn::Eq(pixels, hn::Zero(d)));
}

/// Premultiplied colours, held to what colours are: cubics and sharpening go a little beyond what they mix.
template <class D>
HWY_INLINE hn::Vec<D> heldColours(D d, hn::Vec<D> sum) {
  const auto alpha = hn::Min(hn::Set(d, 1.0f), hn::Max(hn::Zero(d), hn::Broadcast<3>(sum)));
  return hn::Min(alpha, hn::Max(hn::Zero(d), sum));
}

#if HWY_MAX_BYTES >= 64 && !HWY_HAVE_SCALABLE
/// Of two vectors of four pixels those counted 0 and 2, by turns: a0 b0 a2 b2.
template <class D>
HWY_INLINE hn::Vec<D> evenPixels(D, hn::Vec<D> a, hn::Vec<D> b) {
  return hn::OddEvenBlocks(hn::SwapAdjacentBlocks(b), a);
}
/// And the others: a1 b1 a3 b3.
template <class D>
HWY_INLINE hn::Vec<D> oddPixels(D, hn::Vec<D> a, hn::Vec<D> b) {
  return hn::OddEvenBlocks(b, hn::SwapAdjacentBlocks(a));
}
#endif

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
