// What is known of each pixel once, for all four of its channels. Included once for each target, as Highway's -inl files are.
#if defined(OA_SHARES_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_SHARES_INL
#undef OA_SHARES_INL
#else
#define OA_SHARES_INL
#endif

#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

/// A vector of numbers, one for each pixel, as four vectors that say each of them four times.
template <class D>
class PixelShares {
 public:
  HWY_INLINE PixelShares() {
    const D d;
    const hn::RebindToSigned<D> di;
    const auto pixel = hn::ShiftRight<2>(hn::Iota(di, 0));
    const auto quarter = hn::Set(di, static_cast<std::int32_t>(hn::Lanes(d)) / 4);
    auto at = pixel;
    for (auto& from : from_) {
      from = hn::IndicesFromVec(d, at);
      at = hn::Add(at, quarter);
    }
  }
  /// Those of the pixels whose channels are the `k`th vector of four.
  [[nodiscard]] HWY_INLINE hn::Vec<D> of(int k, hn::Vec<D> shares) const { return hn::TableLookupLanes(shares, from_[k]); }

 private:
  decltype(hn::IndicesFromVec(D(), hn::Zero(hn::RebindToSigned<D>()))) from_[4];
};

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
