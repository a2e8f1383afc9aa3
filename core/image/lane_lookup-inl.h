// Sixteen numbers, of which each lane takes its own. Included once for each target, as Highway's -inl files are.
#if defined(OA_LANE_LOOKUP_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_LANE_LOOKUP_INL
#undef OA_LANE_LOOKUP_INL
#else
#define OA_LANE_LOOKUP_INL
#endif

#include <hwy/highway.h>

#include <cstdint>

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

/// What tables of sixteen numbers, at addresses that are multiples of 64, say of the place that each lane names, from 0 to 15. Where a
/// vector, or two of them, hold a whole table it is not read lane by lane.
class LaneLookup {
 public:
  using D = hn::CappedTag<float, 16>;
  using VI = hn::Vec<hn::RebindToSigned<D>>;

  HWY_INLINE explicit LaneLookup(VI which) : which_(which) {}
  /// Of numbers of 32 bits.
  template <class T>
  HWY_INLINE hn::Vec<hn::Rebind<T, D>> of(const T* table) const {
    const hn::Rebind<T, D> d;
    const hn::RebindToSigned<D> di;
    constexpr int kLanes = HWY_HAVE_SCALABLE ? 0 : static_cast<int>(hn::MaxLanes(D()));
    if constexpr (kLanes == 16) {
      return hn::TableLookupLanes(hn::Load(d, table), hn::IndicesFromVec(d, which_));
    } else if constexpr (kLanes == 8) {
      const auto within = hn::IndicesFromVec(d, hn::And(which_, hn::Set(di, 7)));
      return hn::IfThenElse(hn::RebindMask(d, hn::Gt(which_, hn::Set(di, 7))), hn::TableLookupLanes(hn::Load(d, table + 8), within),
                            hn::TableLookupLanes(hn::Load(d, table), within));
    } else {
      return hn::GatherIndex(d, table, which_);
    }
  }

 private:
  VI which_;
};

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#endif
