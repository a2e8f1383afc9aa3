// A lens that is known pixel by pixel: how far off each is read.
#pragma once

#include "image/plane_view.h"
#include "lens/lens_map.h"

namespace oa {

class ShiftMap : public LensMap {
 public:
  void places(int px, int py, int n, float* x, float* y) const final;
  void slopes(int px, int py, int step, int n, const Slopes& out) const final;

 protected:
  /// How far `n` pixels of row `py` from `px` on are read off, in pixels of the view: at most kSpanStep of them, which may lie up to
  /// kAround pixels outside of the view. Buffers have room for `n` rounded up to kSpanPadding.
  virtual void shifts(int px, int py, int n, float* x, float* y) const = 0;

  /// Cells stick out of a view, and slopes are asked for from their corners.
  static constexpr int kAround = 20;
  /// The view with as much round it.
  static PlaneView around(const PlaneView& view) { return view.grown(kAround); }
};

}  // namespace oa
