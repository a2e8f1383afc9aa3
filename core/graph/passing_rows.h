// What is done to a layer's picture while it arrives or leaves.
#pragma once

#include <functional>
#include <memory>

#include "base/geometry.h"
#include "image/plane_view.h"
#include "image/rows.h"
#include "loop/passing.h"
#include "scene/extent.h"

namespace oa {

/// How much of a wipe has uncovered, in a view of the plane that `box` lies on: a field, 0 to 1.
std::shared_ptr<const RowMaker> wipeRows(const Passing& passing, double there, const Box& box, const PlaneView& view);

/// Makes a picture of four channels in a view.
using MakeRows = std::function<std::shared_ptr<const RowMaker>(const PlaneView& view)>;

/// The picture up to where it has settled, and from there on a smear of the line where it ends, which reaches to the frame's edge at
/// first and to the end of `box` at last.
std::shared_ptr<const RowMaker> smearedRows(const MakeRows& make, Smear from, double there, const Box& box, const PlaneView& view);

/// The picture blurred, in light; `radius` in pixels of the scene.
std::shared_ptr<const RowMaker> softenedRows(const MakeRows& make, double radius, const PlaneView& view);

/// How far a box must go in a direction (degrees clockwise from the right) until it lies outside of the frame.
double wayOut(const Box& box, Point frame, double direction);

}  // namespace oa
