// What steps hand to each other: makers of rows. A field has one channel, a picture four
// (premultiplied RGBA, display-encoded, float32, interleaved).
#pragma once

#include <algorithm>
#include <cstddef>
#include <memory>

#include "image/row_parts.h"
#include "image/tint.h"

namespace oa {

/// Whole pixels: columns [x0, x1) of rows [y0, y1).
struct PixelBox {
  int x0 = kLeast;
  int y0 = kLeast;
  int x1 = -kLeast;
  int y1 = -kLeast;
  static constexpr int kLeast = -(1 << 29);

  [[nodiscard]] bool empty() const { return x0 >= x1 || y0 >= y1; }
  [[nodiscard]] bool rows(int from, int to) const { return y0 < to && y1 > from; }
  [[nodiscard]] PixelBox within(const PixelBox& o) const {
    return {std::max(x0, o.x0), std::max(y0, o.y0), std::min(x1, o.x1), std::min(y1, o.y1)};
  }
  [[nodiscard]] PixelBox with(const PixelBox& o) const {
    return empty() ? o : o.empty() ? *this : PixelBox{std::min(x0, o.x0), std::min(y0, o.y0), std::max(x1, o.x1), std::max(y1, o.y1)};
  }
  [[nodiscard]] PixelBox grown(int by) const { return {x0 - by, y0 - by, x1 + by, y1 + by}; }
  [[nodiscard]] PixelBox moved(int x, int y) const { return {x0 + x, y0 + y, x1 + x, y1 + y}; }
};

/// Alphas of pixels in one colour where they lie in memory, one after the other.
struct StoredShares {
  const float* alphas = nullptr;
  const float* colour = nullptr;  ///< opaque, if the pixels are products of it and their alphas to the bit
};

/// Makes rows of one frame on demand, in any order and from several threads at once.
class RowMaker {
 public:
  virtual ~RowMaker() = default;
  RowMaker() = default;
  RowMaker(const RowMaker&) = delete;
  RowMaker& operator=(const RowMaker&) = delete;

  [[nodiscard]] virtual int channels() const = 0;  ///< 1 or 4
  /// True if every pixel is known to be opaque; fields always are.
  [[nodiscard]] virtual bool opaque() const { return channels() == 1; }
  /// True if pixels [x0, x0 + n) of row y are known to be opaque, as far as a glance tells; fields always are. What lies below them need
  /// not be made, and no bit may tell: their alpha is 1, and not nearly so, as sums of opaque pixels are.
  [[nodiscard]] virtual bool hides(int /*y*/, int /*x0*/, int /*n*/) const { return channels() == 1; }
  /// True if those values of a field are known to be 1, or those pixels of a picture to be opaque.
  [[nodiscard]] virtual bool full(int y, int x0, int n) const { return channels() != 1 && hides(y, x0, n); }
  /// True if those pixels of a picture are known to be transparent, as far as a glance tells: they need not be laid over anything.
  [[nodiscard]] virtual bool nothing(int /*y*/, int /*x0*/, int /*n*/) const { return false; }
  /// Where in those pixels there may be something, as far as a glance tells; what lies between is transparent.
  [[nodiscard]] virtual RowParts something(int /*y*/, int x0, int n) const { return {x0, x0 + n}; }
  /// Pixels outside of it are transparent; fields have no such box.
  [[nodiscard]] virtual PixelBox bounds() const { return {}; }
  /// Writes rows [y0, y1) at full width; row y goes to out + (y - y0) * stride floats. Rows must
  /// have room for padding up to a stride of paddedRow().
  virtual void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const = 0;
  /// True if span() is as quick as rows(), so that callers can stay within the L1 cache.
  [[nodiscard]] virtual bool makesSpans() const { return false; }
  /// True if spans are slower to make than to read where they lie finished: worth keeping where nothing changes.
  [[nodiscard]] virtual bool costly() const { return !makesSpans(); }
  /// Pixels [x0, x0 + n) of row y, n at most kSpanStep; only called where makesSpans() is true.
  virtual void span(int /*y*/, int /*x0*/, int /*n*/, float* /*out*/) const {}
  /// True if paint() is there: quicker than to lay what span() makes over something.
  [[nodiscard]] virtual bool paints() const { return false; }
  /// Lays pixels [x0, x0 + n) of row y, n at most kSpanStep, over the premultiplied ones at `onto`, by their alpha.
  virtual void paint(int /*y*/, int /*x0*/, int /*n*/, float* /*onto*/) const {}
  /// The same in linear light (image/transfer.h), where that costs no more; null where rows would have to be decoded.
  [[nodiscard]] virtual std::shared_ptr<const RowMaker> linear() const { return nullptr; }
  /// The one colour of which all pixels of a picture are shares, if it is known to be so.
  [[nodiscard]] virtual std::optional<Tint> tint() const { return std::nullopt; }
  /// The alphas of pixels [x0, x0 + n) of row y, n at most kSpanStep, where there is a tint and they are quicker to make than the pixels;
  /// false, and nothing is written, otherwise. Opaque pixels are the tint to the bit. Room for n rounded up to kSpanPadding.
  [[nodiscard]] virtual bool alphas(int /*y*/, int /*x0*/, int /*n*/, float* /*out*/) const { return false; }
  /// Row y where it lies finished in memory, or null: saves a copy.
  [[nodiscard]] virtual const float* stored(int /*y*/) const { return nullptr; }
  /// The first of pixels [x0, x0 + n) of row y, where these lie finished in memory, or null.
  [[nodiscard]] virtual const float* storedPart(int y, int x0, int /*n*/) const {
    const float* const row = stored(y);
    return row ? row + static_cast<std::ptrdiff_t>(x0) * channels() : nullptr;
  }
  /// Their alphas besides, if the pixels are known to be in one colour: a quarter to read. Those of none otherwise.
  [[nodiscard]] virtual StoredShares storedShares(int /*y*/, int /*x0*/, int /*n*/) const { return {}; }
};

/// Pixels of a row that are made at once: two rows of them, through all layers, fit the L1 cache.
inline constexpr int kSpanStep = 256;

/// A maker whose pixels need nothing but their place.
class SpanMaker : public RowMaker {
 public:
  explicit SpanMaker(int width) : width_(width) {}
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const final {
    for (int y = y0; y < y1; ++y)
      for (int x = 0; x < width_; x += kSpanStep)
        span(y, x, std::min(kSpanStep, width_ - x), out + (y - y0) * stride + static_cast<std::ptrdiff_t>(x) * channels());
  }
  [[nodiscard]] bool makesSpans() const final { return true; }

 private:
  int width_;
};

/// A step in which a pixel needs only itself.
class PointKernel {
 public:
  virtual ~PointKernel() = default;
  PointKernel() = default;
  PointKernel(const PointKernel&) = delete;
  PointKernel& operator=(const PointKernel&) = delete;

  [[nodiscard]] virtual int outChannels() const = 0;
  /// True if opaque pixels stay opaque.
  [[nodiscard]] virtual bool keepsOpaque() const { return true; }
  /// The same with pictures in linear light as its result; null where that would cost more.
  [[nodiscard]] virtual std::shared_ptr<const PointKernel> linear() const { return nullptr; }
  /// `n` pixels from (x0, y); `in` may equal `out` where the channel count stays the same. Buffers have room for
  /// n rounded up to kSpanPadding pixels, and that much may be written.
  virtual void apply(const float* in, float* out, int n, int x0, int y) const = 0;
};

/// Kernels may write up to the next multiple of so many pixels.
inline constexpr int kSpanPadding = 16;

/// Floats between rows of `width` pixels: padded for kernels, and off powers of two, since equal
/// low address bits of neighbouring rows would fight for the same cache lines.
constexpr std::ptrdiff_t paddedRow(int width, int channels) {
  const std::ptrdiff_t pixels = (width + kSpanPadding - 1) / kSpanPadding * kSpanPadding + kSpanPadding;
  return pixels * channels + 32;
}

}  // namespace oa
