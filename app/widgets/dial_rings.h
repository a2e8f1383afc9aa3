// Where the rings of the dial lie: one for each visible layer, the outermost that of the topmost.
#pragma once

#include <QPointF>
#include <optional>
#include <vector>

#include "model/document.h"

namespace oa::app {

struct DialRing {
  Id layer = 0;
  std::int64_t laps = 0;  ///< how often the layer comes home in the loop; 0: it rests
  double begins = 0;      ///< where round the loop its first lap begins
  double radius = 0;
  double taken = 0;  ///< the distance at which it is taken hold of: where it would lie if all had as much room
  double room = 0;   ///< pixels to its neighbours
};

/// A share of the loop as a place on a circle, twelve o'clock the joint; and back.
QPointF onDial(QPointF centre, double radius, double share);
double shareOf(QPointF centre, QPointF place);

/// The rings between two radii. Where they are more than have room, those next to that of `focus` (a layer; 0: none) move off from it, and
/// the others lie close together.
std::vector<DialRing> dialRings(const Document& document, double inner, double outer, Id focus);
/// The ring at a distance from the centre, null if there is none so near.
const DialRing* ringAt(const std::vector<DialRing>& rings, double distance);

}  // namespace oa::app
