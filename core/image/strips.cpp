#include "image/strips.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <cstring>
#include <type_traits>

#include "base/parallel.h"

#undef HWY_TARGET_INCLUDE
#define HWY_TARGET_INCLUDE "image/strips.cpp"
#include <hwy/foreach_target.h>
#include <hwy/cache_control.h>
#include <hwy/highway.h>

#include "image/bilinear-inl.h"

#ifndef OA_STRIPS_ONCE
#define OA_STRIPS_ONCE
namespace oa {
namespace {

// Pixels of a row that are read before those of the next row are: what neighbours down a column read, rows that lie close
// together, is still in the L1 cache.
constexpr int kPiece = 192;
// Rows further down that are fetched meanwhile: the next band begins with them, and no pattern tells the processor.
constexpr int kAhead = 24;
// Divided and multiplied by with shifts: a row's floats are a power of two, and its stride is a sum of two of them.
constexpr int kStripBits = std::countr_zero(static_cast<unsigned>(kStripFloats));
constexpr int kLowBits = std::countr_zero(static_cast<unsigned>(kStripStride));
constexpr int kHighBits = kStripBits - kLowBits;
static_assert(kStripFloats == 1 << kStripBits && kStripStride == (1 << kStripBits) + (1 << kLowBits));
// Shifts of less are taken as such: floats between them and a piece's end are exact to some ten thousandths of a pixel.
constexpr int kNear = 2048;

// Places of a piece: floats from the plane's first, and shares; where some of what is read lies beyond the plane whole pixels too.
struct Places {
  alignas(64) std::int32_t offset[kPiece];
  alignas(64) float tx[kPiece + 4];
  alignas(64) float ty[kPiece + 4];
  alignas(64) std::int32_t column[kPiece];
  alignas(64) std::int32_t line[kPiece];
};

}  // namespace
}  // namespace oa
#endif

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {
namespace hn = hwy::HWY_NAMESPACE;

// Where pixel (x, y) lies, by the plane's edge rule.
HWY_INLINE const float* pixelAt(const StripPixels& plane, Edge edge, std::int64_t x, std::int64_t y) {
  return pixelBy(plane.width, plane.height, edge, x, y, [&](int px, int py) { return plane.at(px, py); });
}

// Pixels of which some neighbours lie beyond the plane.
HWY_NOINLINE void readAtEdges(const StripPixels& plane, Edge edge, const Places& p, int n, float* out) {
  for (int i = 0; i < n; ++i) {
    const std::int64_t x = p.column[i];
    const std::int64_t y = p.line[i];
    const float* const a = pixelAt(plane, edge, x, y);
    const float* const b = pixelAt(plane, edge, x + 1, y);
    const float* const c = pixelAt(plane, edge, x, y + 1);
    const float* const e = pixelAt(plane, edge, x + 1, y + 1);
    if (plane.channels == 4) {
      bilinearColour(a, b, c, e, p.tx[i], p.ty[i], out + i * 4);
      continue;
    }
    // In the order in which four at a time are mixed.
    const float left = *a + (*c - *a) * p.ty[i];
    const float right = *b + (*e - *b) * p.ty[i];
    out[i] = left + (right - left) * p.tx[i];
  }
}

// The same of a field that goes round or is mirrored, for up to 16 places; false where they lie further off than its own size.
HWY_NOINLINE bool readFieldAtEdges(const StripPixels& plane, Edge edge, const Places& p, int n, float* out) {
  const hn::CappedTag<float, 16> d;
  const hn::RebindToSigned<decltype(d)> di;
  using VI = hn::Vec<decltype(di)>;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const bool round = edge == Edge::Wrap;
  if (!round && edge != Edge::Mirror) return false;
  alignas(64) std::int32_t at[4][16];
  alignas(64) float read[4][16];
  // Negative once one of them was too far off.
  VI far = hn::Zero(di);
  const auto within = [&](VI v, int size) HWY_ATTR {
    const VI whole = hn::Set(di, size);
    const VI last = hn::Set(di, 2 * size - 1);
    far = hn::Or(far, hn::Or(hn::Add(v, whole), hn::Sub(last, v)));
    const VI before = round ? hn::Add(v, whole) : hn::Not(v);
    const VI behind = round ? hn::Sub(v, whole) : hn::Sub(last, v);
    return hn::IfThenElse(hn::Lt(v, hn::Zero(di)), before, hn::IfThenElse(hn::Lt(v, whole), v, behind));
  };
  const VI one = hn::Set(di, 1);
  const VI stripWithout = hn::Set(di, static_cast<std::int32_t>(plane.strip) - kStripFloats);
  const auto across = [&](VI column) HWY_ATTR { return hn::Add(hn::Mul(hn::ShiftRight<kStripBits>(column), stripWithout), column); };
  const auto down = [&](VI line) HWY_ATTR { return hn::Mul(line, hn::Set(di, kStripStride)); };
  for (int i = 0; i < n; i += lanes) {
    // What stands behind the last place is anybody's.
    const auto there = hn::FirstN(di, static_cast<std::size_t>(n - i));
    const VI column = hn::IfThenElseZero(there, hn::Load(di, p.column + i));
    const VI line = hn::IfThenElseZero(there, hn::Load(di, p.line + i));
    const VI west = across(within(column, plane.width));
    const VI east = across(within(hn::Add(column, one), plane.width));
    const VI north = down(within(line, plane.height));
    const VI south = down(within(hn::Add(line, one), plane.height));
    hn::Store(hn::Add(west, north), di, at[0] + i);
    hn::Store(hn::Add(east, north), di, at[1] + i);
    hn::Store(hn::Add(west, south), di, at[2] + i);
    hn::Store(hn::Add(east, south), di, at[3] + i);
  }
  if (!hn::AllFalse(di, hn::Lt(far, hn::Zero(di)))) return false;
  for (int k = 0; k < 4; ++k)
    for (int i = 0; i < n; ++i) read[k][i] = plane.first[at[k][i]];
  for (int i = 0; i < n; i += lanes) {
    const auto a = hn::Load(d, read[0] + i);
    const auto b = hn::Load(d, read[1] + i);
    const auto ty = hn::Load(d, p.ty + i);
    const auto left = hn::MulAdd(hn::Sub(hn::Load(d, read[2] + i), a), ty, a);
    const auto right = hn::MulAdd(hn::Sub(hn::Load(d, read[3] + i), b), ty, b);
    hn::Store(hn::MulAdd(hn::Sub(right, left), hn::Load(d, p.tx + i), left), d, read[0] + i);
  }
  std::copy_n(read[0], n, out);
  return true;
}

#if HWY_MAX_BYTES >= 32 && !HWY_HAVE_SCALABLE
// Eight places at a time: blocks of four pixels are put together by loads, which leaves a shuffle a pixel.
HWY_NOINLINE void readFields(const float* first, const Places& p, int n, float* out) {
  const hn::FixedTag<float, 8> d;
  const hn::RepartitionToWide<decltype(d)> dw;
  const D4 d4;
  for (int i = 0; i < n; i += 8) {
    const std::int32_t* const at = p.offset + i;
    hn::Vec<decltype(d)> left[2];
    hn::Vec<decltype(d)> right[2];
    const float* high[4];
    for (int k = 0; k < 4; ++k) {
      high[k] = first + at[k + 4];
      // Kept from being folded into the loads: one that joins as well takes a sum of two registers for a step more.
      asm("" : "+r"(high[k]));
    }
    for (int row = 0; row < 2; ++row) {
      const float* const from = first + row * kStripStride;
      const auto two = [&](int k)
                           HWY_ATTR { return hn::Combine(d, hn::LoadU(d4, high[k] + row * kStripStride), hn::LoadU(d4, from + at[k])); };
      const auto one = hn::BitCast(dw, hn::InterleaveLower(d, two(0), two(1)));
      const auto other = hn::BitCast(dw, hn::InterleaveLower(d, two(2), two(3)));
      left[row] = hn::BitCast(d, hn::InterleaveLower(dw, one, other));
      right[row] = hn::BitCast(d, hn::InterleaveUpper(dw, one, other));
    }
    const auto ty = hn::Load(d, p.ty + i);
    const auto west = hn::MulAdd(hn::Sub(left[1], left[0]), ty, left[0]);
    const auto east = hn::MulAdd(hn::Sub(right[1], right[0]), ty, right[0]);
    hn::StoreU(hn::MulAdd(hn::Sub(east, west), hn::Load(d, p.tx + i), west), d, out + i);
  }
}
#else
HWY_NOINLINE void readFields(const float* first, const Places& p, int n, float* out) {
  for (int i = 0; i < n; i += 4) fourOfField(first, first + kStripStride, p.offset + i, p.tx + i, p.ty + i, out + i);
}
#endif

HWY_NOINLINE void readColours(const float* first, const Places& p, int n, float* out) {
  const ColoursBetween colours;
  int i = 0;
  for (; i + ColoursBetween::kAtOnce <= n; i += ColoursBetween::kAtOnce)
    hn::StoreU(colours.read(first, kStripStride, p.offset + i, p.tx + i, p.ty + i), ColoursBetween::D(), out + i * 4);
  for (; i < n; ++i) {
    const float* const at = first + p.offset[i];
    bilinearColour(at, at + 4, at + kStripStride, at + kStripStride + 4, p.tx[i], p.ty[i], out + i * 4);
  }
}

// Offsets of places from the plane's first float, and how far the furthest of them lead.
template <int kChannels>
class Offsets {
 public:
  using D = hn::CappedTag<float, 16>;
  using DI = hn::RebindToSigned<D>;
  using DU = hn::RebindToUnsigned<D>;

  HWY_INLINE explicit Offsets(const StripPixels& plane)
      : stripWithout_(hn::Set(DI(), static_cast<std::int32_t>(plane.strip) - kStripFloats)), farX_(hn::Zero(DU())), farY_(hn::Zero(DU())) {}

  // Of places k on, of `n` in all: what stands behind the last is anybody's.
  HWY_INLINE void put(hn::Vec<DI> column, hn::Vec<DI> line, int k, int n, Places& p) {
    constexpr int kInStrip = kChannels == 1 ? kStripBits : kStripBits - 2;  // pixels of a strip as a power of two
    auto ux = hn::BitCast(DU(), column);
    auto uy = hn::BitCast(DU(), line);
    const auto strips = hn::Mul(hn::ShiftRight<kInStrip>(column), stripWithout_);
    const auto lines = hn::ShiftLeft<kLowBits>(hn::Add(hn::ShiftLeft<kHighBits>(line), line));
    auto offset = hn::Add(hn::Add(strips, hn::ShiftLeft<kStripBits - kInStrip>(column)), lines);
    if (k + static_cast<int>(hn::Lanes(DI())) > n) {
      const auto there = hn::FirstN(DU(), static_cast<std::size_t>(n - k));
      ux = hn::IfThenElseZero(there, ux);
      uy = hn::IfThenElseZero(there, uy);
      offset = hn::IfThenElseZero(hn::RebindMask(DI(), there), offset);
    }
    hn::Store(offset, DI(), p.offset + k);
    farX_ = hn::Max(farX_, ux);
    farY_ = hn::Max(farY_, uy);
  }
  // Whether all that is read there lies in the plane. As unsigned numbers what lies before the first is far beyond the last.
  [[nodiscard]] HWY_INLINE bool within(const StripPixels& plane) const {
    const auto below = [](hn::Vec<DU> far, int size) HWY_ATTR {
      return size > 1 && hn::AllFalse(DU(), hn::Lt(hn::Set(DU(), static_cast<std::uint32_t>(size - 2)), far));
    };
    return below(farX_, plane.width) && below(farY_, plane.height);
  }

 private:
  hn::Vec<DI> stripWithout_;
  hn::Vec<DU> farX_, farY_;
};

// Where `n` pixels from (x0 + i, y) on are read. The whole pixels are written only where `pixels` is set.
template <int kChannels, bool kPixels>
HWY_NOINLINE bool findPlaces(const StripPixels& plane, int x0, int y, const ShiftRow& shift, int i, int n, Places& p) {
  const hn::CappedTag<float, 16> d;
  const hn::RebindToSigned<decltype(d)> di;
  using V = hn::Vec<decltype(d)>;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const V w[4] = {hn::Set(d, shift.weights[0]), hn::Set(d, shift.weights[1]), hn::Set(d, shift.weights[2]), hn::Set(d, shift.weights[3])};
  const auto mixed = [&](const float* const* from, int k, V sum) HWY_ATTR {
    for (int row = 0; row < 4; ++row) sum = hn::MulAdd(hn::LoadU(d, from[row] + k), w[row], sum);
    return sum;
  };
  Offsets<kChannels> offsets(plane);
  // Added to a whole number of less than 2^22, it leaves the number in the last bits: no overflow is to be looked after.
  constexpr float kToWhole = 12582912.0f;
  const V toWhole = hn::Set(d, kToWhole);
  const auto originX = hn::Set(di, x0 - std::bit_cast<std::int32_t>(kToWhole));
  const auto originY = hn::Set(di, y - std::bit_cast<std::int32_t>(kToWhole));
  V counting = hn::Add(hn::Iota(d, 0.0f), hn::Set(d, static_cast<float>(i)));
  for (int k = 0; k < n; k += lanes) {
    const V x = mixed(shift.across, i + k, counting);
    const V v = mixed(shift.down, i + k, hn::Zero(d));
    counting = hn::Add(counting, hn::Set(d, static_cast<float>(lanes)));
    const V wholeX = hn::Floor(x);
    const V wholeY = hn::Floor(v);
    const auto column = hn::Add(hn::BitCast(di, hn::Add(wholeX, toWhole)), originX);
    const auto line = hn::Add(hn::BitCast(di, hn::Add(wholeY, toWhole)), originY);
    hn::Store(hn::Sub(x, wholeX), d, p.tx + k);
    hn::Store(hn::Sub(v, wholeY), d, p.ty + k);
    if constexpr (kPixels) {
      hn::Store(column, di, p.column + k);
      hn::Store(line, di, p.line + k);
    }
    offsets.put(column, line, k, n, p);
  }
  return offsets.within(plane);
}

// A float of this size has the whole numbers for its last bits, and one below it halves as well.
constexpr float kWholes = 8388608.0f;
constexpr std::int32_t kWholesBits = 0x4B000000;

// The same for places that lie no more than `farthest` off, which is much less than kWholes: they are counted from so far before the
// first, so that none of them is below 1 and what is cut off them is a share. `kRows` rows at once, mixed from the same rows of shifts.
// Returns whether all that is read lies within the plane; `kHeld`: places beyond it are those at its edge.
template <int kChannels, bool kHeld, int kRows>
HWY_NOINLINE bool findPlacesNear(const StripPixels& plane, int x0, int y, const ShiftRow* shifts, int farthest, int i, int n, Places* p) {
  const hn::CappedTag<float, 16> d;
  const hn::RebindToSigned<decltype(d)> di;
  using V = hn::Vec<decltype(d)>;
  const auto lanes = static_cast<int>(hn::Lanes(d));
  const float* const a0 = shifts->across[0] + i;
  const float* const a1 = shifts->across[1] + i;
  const float* const a2 = shifts->across[2] + i;
  const float* const a3 = shifts->across[3] + i;
  const float* const b0 = shifts->down[0] + i;
  const float* const b1 = shifts->down[1] + i;
  const float* const b2 = shifts->down[2] + i;
  const float* const b3 = shifts->down[3] + i;
  V w[kRows][4];
  for (int r = 0; r < kRows; ++r)
    for (int j = 0; j < 4; ++j) w[r][j] = hn::Set(d, shifts[r].weights[j]);
  const int before = farthest + 1;
  const V first = hn::Set(d, static_cast<float>(before));
  // Half a pixel less is rounded to the whole number below; where it lies just between, either will do, with a share of 0 or 1.
  const V toWhole = hn::Set(d, kWholes - 0.5f);
  const V wholes = hn::Set(d, kWholes);
  const auto originX = hn::Set(di, x0 + i - before - kWholesBits);
  const auto originY = hn::Set(di, y - before - kWholesBits);
  // The first and the last pixel, and the last that has a neighbour behind it, as places and whole places are counted.
  const V leastX = hn::Set(d, static_cast<float>(before - x0 - i));
  const V mostX = hn::Set(d, static_cast<float>(before - x0 - i + plane.width - 1));
  const V lastX = hn::Set(d, kWholes + static_cast<float>(before - x0 - i + plane.width - 2));
  const auto leastY = static_cast<float>(before - y);
  const auto mostY = static_cast<float>(before - y + plane.height - 1);
  const auto lastY = kWholes + static_cast<float>(before - y + plane.height - 2);
  Offsets<kChannels> offsets(plane);
  V counting = hn::Add(hn::Iota(d, 0.0f), first);
  for (int k = 0; k < n; k += lanes) {
    const V from[8] = {hn::LoadU(d, a0 + k), hn::LoadU(d, a1 + k), hn::LoadU(d, a2 + k), hn::LoadU(d, a3 + k),
                       hn::LoadU(d, b0 + k), hn::LoadU(d, b1 + k), hn::LoadU(d, b2 + k), hn::LoadU(d, b3 + k)};
    for (int r = 0; r < kRows; ++r) {
      V x = hn::MulAdd(from[0], w[r][0], counting);
      V v = hn::MulAdd(from[4], w[r][0], first);
      x = hn::MulAdd(from[1], w[r][1], x);
      v = hn::MulAdd(from[5], w[r][1], v);
      x = hn::MulAdd(from[2], w[r][2], x);
      v = hn::MulAdd(from[6], w[r][2], v);
      x = hn::MulAdd(from[3], w[r][3], x);
      v = hn::MulAdd(from[7], w[r][3], v);
      if constexpr (kHeld) {
        x = hn::Min(mostX, hn::Max(leastX, x));
        v = hn::Min(hn::Set(d, mostY - static_cast<float>(r)), hn::Max(hn::Set(d, leastY - static_cast<float>(r)), v));
      }
      V countedX = hn::Add(x, toWhole);
      V countedY = hn::Add(v, toWhole);
      if constexpr (kHeld) {
        countedX = hn::Min(lastX, countedX);
        countedY = hn::Min(hn::Set(d, lastY - static_cast<float>(r)), countedY);
      }
      hn::Store(hn::Sub(x, hn::Sub(countedX, wholes)), d, p[r].tx + k);
      hn::Store(hn::Sub(v, hn::Sub(countedY, wholes)), d, p[r].ty + k);
      const auto column = hn::Add(hn::BitCast(di, countedX), originX);
      const auto line = hn::Add(hn::BitCast(di, countedY), hn::Add(originY, hn::Set(di, r)));
      offsets.put(column, line, k, n, p[r]);
    }
    counting = hn::Add(counting, hn::Set(d, static_cast<float>(lanes)));
  }
  return offsets.within(plane);
}

void shifted(const StripPixels& plane, Edge edge, int x0, int y0, const ShiftRow* shifts, int farthest, int n, int rows, float* out,
             std::ptrdiff_t outStride) {
  const bool fits =
      plane.strip * (static_cast<std::ptrdiff_t>(plane.width) * plane.channels / kStripFloats + 1) < (std::ptrdiff_t{1} << 31);
  const bool near = farthest < kNear;
  // Whole numbers are counted from 0 on.
  const bool holds = edge == Edge::Clamp && plane.width > 1 && plane.height > 1 && x0 + n <= plane.width + farthest &&
                     y0 + rows <= plane.height + farthest;
  Places places[2];
  const auto read = [&](const Places& p, int r, int i, int count) HWY_ATTR {
    // The last pixel lies in a strip of its own where the first does not begin one.
    for (int k = 0; k < count + kStripFloats; k += kStripFloats) {
      const float* const ahead = plane.first + p.offset[std::min(k, count - 1)] + kAhead * kStripStride;
      for (int line = 0; line < kStripStride; line += 16) hwy::Prefetch(ahead + line);
    }
    float* const at = out + r * outStride + static_cast<std::ptrdiff_t>(i) * plane.channels;
    plane.channels == 4 ? readColours(plane.first, p, count, at) : readFields(plane.first, p, count, at);
  };
  // Two rows of a field, where both are mixed from the same ones.
  const auto readBothInside = [&](int r, int i, int count) {
    const auto alike = [&](auto rowsOf) { return std::equal(rowsOf(shifts[r]), rowsOf(shifts[r]) + 4, rowsOf(shifts[r + 1])); };
    if (!fits || !near || plane.channels != 1 || r + 1 >= rows || !alike([](const ShiftRow& s) { return s.across; }) ||
        !alike([](const ShiftRow& s) { return s.down; }) ||
        !findPlacesNear<1, false, 2>(plane, x0, y0 + r, shifts + r, farthest, i, count, places))
      return false;
    read(places[0], r, i, count);
    read(places[1], r + 1, i, count);
    return true;
  };
  Places& p = places[0];
  const auto readInside = [&](int r, int i, int count) {
    const int y = y0 + r;
    if (!fits) return false;
    const auto found = [&](auto channels, auto held) HWY_ATTR {
      return near ? findPlacesNear<channels, held, 1>(plane, x0, y, shifts + r, farthest, i, count, places)
                  : !held && findPlaces<channels, false>(plane, x0, y, shifts[r], i, count, p);
    };
    const auto foundAny = [&](auto channels)
                              HWY_ATTR { return found(channels, std::false_type()) || (holds && found(channels, std::true_type())); };
    if (!(plane.channels == 4 ? foundAny(std::integral_constant<int, 4>()) : foundAny(std::integral_constant<int, 1>()))) return false;
    read(p, r, i, count);
    return true;
  };
  for (int begin = 0; begin < n; begin += kPiece)
    for (int r = 0; r < rows; ++r) {
      const int end = std::min(n, begin + kPiece);
      if (readBothInside(r, begin, end - begin)) {
        ++r;
        continue;
      }
      if (readInside(r, begin, end - begin)) continue;
      // As many as can be are read quickly all the same.
      for (int i = begin; i < end; i += 16) {
        const int count = std::min(16, end - i);
        if (readInside(r, i, count)) continue;
        plane.channels == 4 ? findPlaces<4, true>(plane, x0, y0 + r, shifts[r], i, count, p)
                            : findPlaces<1, true>(plane, x0, y0 + r, shifts[r], i, count, p);
        float* const at = out + r * outStride + static_cast<std::ptrdiff_t>(i) * plane.channels;
        if (!fits || plane.channels != 1 || !readFieldAtEdges(plane, edge, p, count, at)) readAtEdges(plane, edge, p, count, at);
      }
    }
}

// `rows` rows of `n` floats into their strips, strip by strip. Behind each row lie fifteen floats more; what the last strip has beyond
// that is 0.
void intoStrips(const float* from, std::ptrdiff_t stride, int n, int rows, float* to, std::ptrdiff_t strip) {
  const hn::CappedTag<float, 16> d;
  for (int i = 0; i < n; i += kStripFloats, to += strip)
    for (int r = 0; r < rows; ++r) {
      const float* const row = from + r * stride + i;
      float* const at = to + static_cast<std::ptrdiff_t>(r) * kStripStride;
      for (int k = 0; k < kStripStride; k += 16) __builtin_prefetch(at + strip + k, 1);
      const int left = n - i;
      if (left >= kStripStride) {
        for (int k = 0; k < kStripFloats; k += static_cast<int>(hn::Lanes(d))) hn::StoreU(hn::LoadU(d, row + k), d, at + k);
        hn::StoreU(hn::LoadU(D4(), row + kStripFloats), D4(), at + kStripFloats);
        continue;
      }
      for (int k = 0; k < kStripFloats; k += static_cast<int>(hn::Lanes(d)))
        hn::StoreU(k < left ? hn::LoadU(d, row + k) : hn::Zero(d), d, at + k);
      hn::StoreU(kStripFloats < left ? hn::LoadU(D4(), row + kStripFloats) : hn::Zero(D4()), D4(), at + kStripFloats);
    }
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();

#if HWY_ONCE
namespace oa {

HWY_EXPORT(shifted);
HWY_EXPORT(intoStrips);

namespace {

// A field's rows [y0, y1), row by row of blocks: what is made is put into its strips out of the L1 cache, and the memory that the next
// row goes to is fetched while it is made.
void spansIntoStrips(const RowMaker& rows, int y0, int y1, int width, float* to, std::ptrdiff_t strip) {
  constexpr int kBlock = kSpanStep;
  alignas(128) float made[kBlock + 2 * kSpanPadding] = {};
  for (int x = 0; x < width; x += kBlock, to += kBlock / kStripFloats * strip) {
    const int n = std::min(kBlock, width - x);
    const auto fetch = [&](int y) {
      for (int i = 0; i < n; i += kStripFloats)
        for (int k = 0; k < kStripStride; k += 16)
          __builtin_prefetch(to + i / kStripFloats * strip + static_cast<std::ptrdiff_t>(y - y0) * kStripStride + k, 1);
    };
    fetch(y0);
    for (int y = y0; y < y1; ++y) {
      if (y + 1 < y1) fetch(y + 1);
      rows.span(y, x, n, made);
      float* const row = to + static_cast<std::ptrdiff_t>(y - y0) * kStripStride;
      // The strip before ends with what this one begins with.
      if (x > 0) std::copy_n(made, 4, row - strip + kStripFloats);
      HWY_DYNAMIC_DISPATCH(intoStrips)(made, kBlock, n, 1, row, strip);
    }
  }
}

}  // namespace

StripPlane::StripPlane(const RowMaker& rows, int width, int height) {
  const int channels = rows.channels();
  const int floats = width * channels;
  const std::ptrdiff_t strip = static_cast<std::ptrdiff_t>(height) * kStripStride;
  const int strips = (floats + kStripFloats - 1) / kStripFloats;
  buffer_ = FloatBuffer(static_cast<std::size_t>(strip * strips));
  float* const first = buffer_.data();
  pixels_ = {first, strip, width, height, channels};
  const bool stored = rows.stored(0) && height > 1;
  parallelBands(height, [&](int y0, int y1) {
    float* const to = first + static_cast<std::ptrdiff_t>(y0) * kStripStride;
    if (stored) {
      const float* const from = rows.stored(y0);
      const std::ptrdiff_t stride = y1 - y0 > 1 ? rows.stored(y0 + 1) - from : 0;
      HWY_DYNAMIC_DISPATCH(intoStrips)(from, stride, floats, y1 - y0, to, strip);
      return;
    }
    if (channels == 1 && rows.makesSpans()) {
      spansIntoStrips(rows, y0, y1, width, to, strip);
      return;
    }
    const std::ptrdiff_t stride = paddedRow(width, channels);
    FloatBuffer band(static_cast<std::size_t>(stride * (y1 - y0)));
    rows.rows(y0, y1, band.data(), stride);
    HWY_DYNAMIC_DISPATCH(intoStrips)(band.data(), stride, floats, y1 - y0, to, strip);
  });
}

void sampleShifted(const StripPixels& plane, Edge edge, int x0, int y0, const ShiftRow* shifts, double farthest, int n, int rows,
                   float* out, std::ptrdiff_t outStride) {
  HWY_DYNAMIC_DISPATCH(shifted)
  (plane, edge, x0, y0, shifts, static_cast<int>(std::ceil(std::min(farthest, 1e6))) + 1, n, rows, out, outStride);
}

}  // namespace oa
#endif
