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

/// The dial seen closer round one place: what lies near it is drawn so many times as wide, and the rest of the loop closer together. The
/// joint stays at twelve o'clock.
class DialLens {
 public:
  static constexpr double kClosest = 32;
  /// `zoom` 1: as it is. Round a share of the loop, which stays where it is drawn now, or round the joint if that is near.
  void look(double share, double shown, double zoom);
  [[nodiscard]] double zoom() const { return zoom_; }
  /// Where a share of the loop is drawn, as a share of the circle; whole turns stay whole turns. And back.
  [[nodiscard]] double shown(double share) const { return mapped(share, false); }
  [[nodiscard]] double share(double shown) const { return mapped(shown, true); }

 private:
  [[nodiscard]] double mapped(double from, bool back) const;
  double focus_ = 0;  // 0: the joint
  double place_ = 0;  // where that is drawn
  double zoom_ = 1;
};

/// The rings between two radii. Where they are more than have room, those next to that of `focus` (a layer; 0: none) move off from it, and
/// the others lie close together.
std::vector<DialRing> dialRings(const Document& document, double inner, double outer, Id focus);
/// The ring at a distance from the centre, null if there is none so near.
const DialRing* ringAt(const std::vector<DialRing>& rings, double distance);

}  // namespace oa::app
