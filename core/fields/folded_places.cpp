#include "fields/folded_places.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "fields/folded_places.cpp"
#include <hwy/foreach_target.h>
#include <hwy/highway.h>

#include "simd/num-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

// A frame reaches half a pixel beyond the middles of its first and last.
HWY_INLINE Num folded(Num at, Edge edge, const PixelRange& frame) {
  const Num begin(frame.begin - 0.5);
  const double length = frame.end - frame.begin;
  switch (edge) {
    case Edge::Clamp:
      return minOf(maxOf(at, Num(frame.begin)), Num(frame.end - 1));
    case Edge::Mirror: {
      const Num in = at - begin;
      const Num once = in - floorOf(in * Num(0.5 / length)) * Num(2 * length);
      return begin + minOf(once, Num(2 * length) - once);
    }
    case Edge::Wrap:
    case Edge::Transparent:
    case Edge::Beyond:
      break;
  }
  return at;
}

void foldPlaces(const float* shift, float begin, float step, int n, Edge edge, PixelRange frame, float* out) {
  for (int i = 0; i < n; i += Num::lanes())
    folded(mulAddOf(Num::counting(i), Num(static_cast<double>(step)), Num(static_cast<double>(begin))) + Num::load(shift + i), edge, frame)
        .store(out + i);
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(foldPlaces);

void foldedPlaces(const float* shift, float begin, float step, int n, Edge edge, PixelRange frame, float* out) {
  HWY_DYNAMIC_DISPATCH(foldPlaces)(shift, begin, step, n, edge, frame, out);
}

}  // namespace oa
#endif
