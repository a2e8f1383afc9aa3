// Pixels parted into their channels, and joined again. Included once for each target, as Highway's -inl files are.
//
// Vectors are only mixed within blocks of four lanes, which is half of what it takes to keep pixels in the order in which they lie:
// block k, lane j of a channel is that of pixel k + j * (blocks of a vector). What is known of each pixel from elsewhere is put into that
// order by PixelOrder.
#if defined(OA_PIXEL_PLANES_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_PIXEL_PLANES_INL
#undef OA_PIXEL_PLANES_INL
#else
#define OA_PIXEL_PLANES_INL
#endif

#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

/// Four vectors of four lanes a block, rows and columns of each block exchanged.
template <class D>
HWY_INLINE void exchangeInBlocks(D d, hn::Vec<D>& v0, hn::Vec<D>& v1, hn::Vec<D>& v2, hn::Vec<D>& v3) {
  const hn::RepartitionToWide<D> dw;
  const auto low01 = hn::BitCast(dw, hn::InterleaveLower(d, v0, v1));
  const auto low23 = hn::BitCast(dw, hn::InterleaveLower(d, v2, v3));
  const auto high01 = hn::BitCast(dw, hn::InterleaveUpper(d, v0, v1));
  const auto high23 = hn::BitCast(dw, hn::InterleaveUpper(d, v2, v3));
  v0 = hn::BitCast(d, hn::InterleaveLower(dw, low01, low23));
  v1 = hn::BitCast(d, hn::InterleaveUpper(dw, low01, low23));
  v2 = hn::BitCast(d, hn::InterleaveLower(dw, high01, high23));
  v3 = hn::BitCast(d, hn::InterleaveUpper(dw, high01, high23));
}

/// The channels of as many RGBA pixels as a vector has lanes.
template <class D>
HWY_INLINE void partPixels(D d, const float* rgba, hn::Vec<D>& r, hn::Vec<D>& g, hn::Vec<D>& b, hn::Vec<D>& a) {
  const auto lanes = hn::Lanes(d);
  r = hn::LoadU(d, rgba);
  g = hn::LoadU(d, rgba + lanes);
  b = hn::LoadU(d, rgba + 2 * lanes);
  a = hn::LoadU(d, rgba + 3 * lanes);
  exchangeInBlocks(d, r, g, b, a);
}

/// What partPixels() took apart, where it lay.
template <class D>
HWY_INLINE void joinPixels(D d, hn::Vec<D> r, hn::Vec<D> g, hn::Vec<D> b, hn::Vec<D> a, float* rgba) {
  const auto lanes = hn::Lanes(d);
  exchangeInBlocks(d, r, g, b, a);
  hn::StoreU(r, d, rgba);
  hn::StoreU(g, d, rgba + lanes);
  hn::StoreU(b, d, rgba + 2 * lanes);
  hn::StoreU(a, d, rgba + 3 * lanes);
}

/// The order of pixels whose channels were parted.
template <class D>
class PixelOrder {
 public:
  HWY_INLINE PixelOrder() {
    const D d;
    const hn::RebindToSigned<D> di;
    const auto blocks = hn::Set(di, static_cast<std::int32_t>(hn::Lanes(d)) / 4);
    const auto lane = hn::Iota(di, 0);
    from_ = hn::IndicesFromVec(d, hn::Add(hn::ShiftRight<2>(lane), hn::Mul(hn::And(lane, hn::Set(di, 3)), blocks)));
  }
  /// Numbers of pixels that lie one beside the other.
  [[nodiscard]] HWY_INLINE hn::Vec<D> of(hn::Vec<D> inARow) const {
    if constexpr (hn::MaxLanes(D()) <= 4) return inARow;
    return hn::TableLookupLanes(inARow, from_);
  }

 private:
  decltype(hn::IndicesFromVec(D(), hn::Zero(hn::RebindToSigned<D>()))) from_;
};

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
