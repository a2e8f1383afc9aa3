// How finely pixels are read that show so much of a picture. Included once for each target, as Highway's -inl files are.
#if defined(OA_LENS_LEVEL_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_LENS_LEVEL_INL
#undef OA_LENS_LEVEL_INL
#else
#define OA_LENS_LEVEL_INL
#endif

#include <hwy/highway.h>

#include "lens/rough_log.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

/// As wide as a pixel of the level that is read, in pixels of the view: the shorter side of what a pixel shows, or the piece of the longer
/// one that one point stands for, of which it is so large a part. Only what is enlarged both ways shows more where it is finer.
template <class D>
HWY_INLINE hn::Vec<D> sizeRead(D d, hn::Vec<D> most, hn::Vec<D> least, hn::Vec<D> part) {
  const auto one = hn::Set(d, 1.0f);
  const auto wide = hn::Max(one, hn::Max(least, hn::Mul(most, part)));
  return hn::IfThenElse(hn::Lt(most, one), most, wide);
}

/// The level of pixels of that size, between `finest` and `coarsest`, with its fraction.
template <class D>
HWY_INLINE hn::Vec<D> levelOfSize(D d, hn::Vec<D> size, hn::Vec<D> finest, hn::Vec<D> coarsest) {
  // The binary logarithm as roughLog2() has it.
  const hn::RebindToSigned<D> di;
  const auto bits = hn::BitCast(di, hn::Max(size, hn::Set(d, 1e-3f)));
  const auto whole = hn::ConvertTo(d, hn::Sub(hn::ShiftRight<23>(bits), hn::Set(di, 127)));
  const auto mantissa = hn::Or(hn::And(bits, hn::Set(di, 0x7fffff)), hn::Set(di, 0x3f800000));
  const auto rest = hn::Sub(hn::BitCast(d, mantissa), hn::Set(d, 1.0f));
  const auto bent = hn::MulAdd(rest, hn::Set(d, kLogSecond), hn::Set(d, kLogFirst));
  const auto found = hn::Add(whole, hn::MulAdd(hn::Mul(rest, hn::Sub(hn::Set(d, 1.0f), rest)), bent, rest));
  return hn::Min(hn::Max(found, finest), coarsest);
}

/// Where the pixels of the levels lie that the lanes read, as LevelTable has it.
template <class D>
struct LevelPlacing {
  using VI = hn::Vec<hn::RebindToSigned<D>>;
  hn::Vec<D> scale, shiftX, shiftY, lastX, lastY;
  VI stride, channels;
};

/// How many floats from the level's first the upper left of four neighbours begins, and how far the place lies between them.
template <class D>
HWY_INLINE hn::Vec<hn::RebindToSigned<D>> findPlace(D d, const LevelPlacing<D>& of, hn::Vec<D> x, hn::Vec<D> y, hn::Vec<D>& tx,
                                                    hn::Vec<D>& ty) {
  const auto axis = [&](hn::Vec<D> at, hn::Vec<D> shift, hn::Vec<D> last, hn::Vec<D>& rest) HWY_ATTR {
    // What is no number is read at the end: of the two the second is taken then.
    const auto held = hn::Min(hn::MulAdd(at, of.scale, shift), last);
    const auto v = hn::Max(held, hn::Zero(d));
    const auto whole = hn::Min(hn::Floor(v), hn::Sub(last, hn::Set(d, 1.0f)));
    rest = hn::Sub(v, whole);
    return hn::ConvertTo(hn::RebindToSigned<D>(), whole);
  };
  const auto column = axis(x, of.shiftX, of.lastX, tx);
  const auto row = axis(y, of.shiftY, of.lastY, ty);
  return hn::Add(hn::Mul(row, of.stride), hn::Mul(column, of.channels));
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
