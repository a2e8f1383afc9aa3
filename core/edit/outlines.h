// Operations on outlines and their poses.
#pragma once

#include <cstddef>

#include "base/affine.h"
#include "scene/scene.h"

namespace oa::edit {

/// From an outline's own measure to its layer's plane: where the step's "centre", "size" and "turn" put it, if it has them.
Affine outlinePlace(const RecipeStep& step, const Moment& at, Point frame);

/// The outline as it is at a moment.
Outline outlineAt(const ParamSpec& spec, const Param& param, const Moment& at);

/// Makes it so at that moment: at rest the outline itself; by keyframes the pose that is there, or else a new one; of a swing or a
/// switch the end that is nearer. With other numbers of points nothing is done.
void setOutlineAt(const ParamSpec& spec, Param& param, const Moment& at, const Outline& outline);

/// Puts a point on a piece of the outline and of all its poses, where the line stays as it is. Refused over kMostOutlinePoints.
Status addOutlinePoint(Param& param, std::size_t piece, double t);
/// Takes one out of all poses. Refused where fewer than two would be left.
Status removeOutlinePoint(Param& param, std::size_t index);

/// A point whose line runs through it without a corner, as its neighbours lie; a corner where it was none.
Outline withPointSmoothed(Outline outline, std::size_t index);
bool isCorner(const OutlinePoint& point);
/// With a point, or one of the two that pull beside it, somewhere else; what pulls goes along with its point, and, unless `free`, the
/// one across stays in line.
enum class OutlinePart { Point, Before, After };
Outline withPointMoved(Outline outline, std::size_t index, OutlinePart part, Point to, bool free);
/// The same on both sides of the upright axis through (0, 0): the point that lay across is moved as in a mirror.
Outline withBothMoved(const Outline& outline, std::size_t index, OutlinePart part, Point to, bool free, double tolerance);

}  // namespace oa::edit
