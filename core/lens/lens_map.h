// Which place of a picture each pixel shows.
#pragma once

#include <memory>

#include "image/rows.h"

namespace oa {

/// A map from the pixels of a view to places of the picture that is read, in pixels of the same view (centres at whole numbers), and
/// what light does to what is read there. Made for one view at one moment; called from several threads.
class LensMap {
 public:
  virtual ~LensMap() = default;
  LensMap() = default;
  LensMap(const LensMap&) = delete;
  LensMap& operator=(const LensMap&) = delete;

  /// Where `n` pixels of row `py` from `px` on are read. Buffers have room for `n` rounded up to kSpanPadding.
  virtual void places(int px, int py, int n, float* x, float* y) const = 0;
  /// The same for every `step`-th pixel, and how the place moves from pixel to pixel there.
  struct Slopes {
    float* x;
    float* y;
    float* most;   ///< the longest way of any pixel to its neighbour: the larger singular value of the derivative
    float* least;  ///< the shortest
    float* xx;     ///< d x / d px; then by py, and the same of y
    float* xy;
    float* yx;
    float* yy;
  };
  virtual void slopes(int px, int py, int step, int n, const Slopes& out) const = 0;

  /// How many points of a level are read at most for a pixel that shows a long and narrow piece: 1, 2 or 4. The fewer, the coarser is what
  /// such pixels show, across as well.
  [[nodiscard]] virtual int points() const { return 4; }

  /// The same map to the bit, to be asked for pixels of a box only: one that is drawn is drawn for them at once, small enough to stay in
  /// the cache. Null where nothing is gained. Lives no longer than this one, and is asked by one thread.
  [[nodiscard]] virtual std::unique_ptr<const LensMap> within(const PixelBox& /*box*/) const { return nullptr; }

  enum class Light {
    None,      ///< light() is not there
    Pictures,  ///< it is, and a field becomes a picture
    Both,      ///< it is, and a field stays one
  };
  [[nodiscard]] virtual Light lights() const { return Light::None; }
  /// Where light() leaves anything to be seen; elsewhere nothing is read.
  [[nodiscard]] virtual PixelBox seen() const { return {}; }
  /// True if opaque pixels stay opaque.
  [[nodiscard]] virtual bool keepsOpaque() const { return true; }
  /// Changes `n` pixels of row `y` from `x0` on: premultiplied ones, or values of a field where `channels` is 1. Up to kSpanPadding
  /// pixels more are written.
  virtual void light(int /*x0*/, int /*y*/, int /*n*/, int /*channels*/, float* /*pixels*/) const {}
};

}  // namespace oa
