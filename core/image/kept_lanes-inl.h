// Lanes that are wanted, moved to the front. Included once for each target, as Highway's -inl files are.
#ifndef OA_KEPT_LANES_ONCE
#define OA_KEPT_LANES_ONCE

#include <cstdint>

namespace oa {

/// For each choice of eight lanes those that are chosen, in their order; behind them any.
struct LaneOrders {
  std::uint8_t of[256][8] = {};
  constexpr LaneOrders() {
    for (int chosen = 0; chosen < 256; ++chosen) {
      int count = 0;
      for (int lane = 0; lane < 8; ++lane)
        if (chosen >> lane & 1) of[chosen][count++] = static_cast<std::uint8_t>(lane);
    }
  }
};
inline constexpr LaneOrders kLaneOrders;

}  // namespace oa
#endif

#if defined(OA_KEPT_LANES_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_KEPT_LANES_INL
#undef OA_KEPT_LANES_INL
#else
#define OA_KEPT_LANES_INL
#endif

#include <hwy/highway.h>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

/// Moves those lanes of vectors of 32 bits to the front that a mask keeps, several vectors by one mask. Up to eight lanes, where it takes a
/// table, hn::Compress() copies a kilobyte to the stack each time (Highway 1.0.3).
template <class D>
class KeptLanes {
 public:
  using DI = hn::RebindToSigned<D>;

  HWY_INLINE explicit KeptLanes(hn::Mask<D> kept) : kept_(kept), count_(static_cast<int>(hn::CountTrue(D(), kept))) {
    if constexpr (kByTable) {
      alignas(8) std::uint8_t bits[8];
      hn::StoreMaskBits(D(), kept, bits);
      constexpr std::uint8_t kLanes = (1 << hn::MaxLanes(D())) - 1;
      const hn::Rebind<std::uint8_t, D> bytes;
      order_ = hn::PromoteTo(DI(), hn::LoadU(bytes, kLaneOrders.of[bits[0] & kLanes]));
    }
  }
  /// How many are kept.
  [[nodiscard]] int count() const { return count_; }
  /// Writes a whole vector, of which the first count() lanes are those.
  template <class T>
  HWY_INLINE void store(hn::Vec<hn::Rebind<T, D>> v, T* to) const {
    const hn::Rebind<T, D> d;
    if constexpr (kByTable)
      hn::StoreU(hn::TableLookupLanes(v, hn::IndicesFromVec(d, order_)), d, to);
    else
      hn::StoreU(hn::Compress(v, hn::RebindMask(d, kept_)), d, to);
  }

 private:
  static constexpr bool kByTable = !HWY_HAVE_SCALABLE && hn::MaxLanes(D()) <= 8;
  hn::Mask<D> kept_;
  int count_;
  hn::Vec<DI> order_;
};

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#endif
