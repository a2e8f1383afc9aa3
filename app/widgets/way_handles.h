// The way of a place in the picture: where it is at even times, and its keyframes to be taken hold of.
#pragma once

#include <QPainter>
#include <optional>
#include <vector>

#include "base/affine.h"
#include "model/document.h"

namespace oa::app {

/// Draws where a moving place goes over its lap (several motions: over the loop), with dots at even times: where they lie close it is slow.
/// `map`: from its shares to pixels.
void paintWay(QPainter& p, const ParamSpec& spec, const Param& param, const Affine& map, const Moment& now);

/// Keyframes of the motion whose curve is shown, where that is one of a place of the current layer.
class WayHandles {
 public:
  explicit WayHandles(Document& document) : document_(document) {}
  void setMotion(const std::optional<ParamAddress>& at) { at_ = at; }
  [[nodiscard]] bool shown() const;
  /// The place is one in the layer's group, not in the layer.
  [[nodiscard]] bool ofLayer() const { return at_ && at_->step == ParamAddress::kPlace; }
  /// From shares of the frame that the place is measured in to pixels.
  void setView(const Affine& map) { map_ = map; }
  /// Keyframes in their order.
  [[nodiscard]] std::vector<QPointF> places() const;
  /// The one at a place, -1 if there is none.
  [[nodiscard]] int hitAt(QPointF place) const;
  void press(int key, QPointF place);
  /// `straight`: along one direction alone.
  void move(QPointF place, bool straight);
  void release();
  [[nodiscard]] bool dragging() const { return held_ >= 0; }
  void paint(QPainter& p, const Moment& now) const;

 private:
  [[nodiscard]] const Param& param() const { return document_.param(*at_); }
  [[nodiscard]] const Motion& motion() const { return motionOf(param(), static_cast<std::size_t>(at_->motion)); }

  Document& document_;
  std::optional<ParamAddress> at_;
  Affine map_;
  int held_ = -1;
  QPointF pressed_;
  Motion before_;
};

}  // namespace oa::app
