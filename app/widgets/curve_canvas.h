// The drawing of a motion over the loop, with beads to drag: the far end of a swing, keyframes, or hops of one's own.
#pragma once

#include <QWidget>
#include <algorithm>
#include <optional>

#include "model/document.h"
#include "model/player.h"

namespace oa::app {

/// Dragging sideways beside the beads sets the head start. Keyframes and hops are added by a double click, moved by dragging,
/// removed by Delete; with the focus, arrow keys choose and move them. Hops follow each other evenly: they move up and down alone.
class CurveCanvas : public QWidget {
  Q_OBJECT
 public:
  CurveCanvas(Document& document, Player& player, QWidget* parent = nullptr);
  void setMotion(std::optional<ParamAddress> at);
  [[nodiscard]] QRectF loopRect() const;
  /// The bead at the far end of a swing's first lap, if there is one.
  [[nodiscard]] std::optional<QPointF> bead() const;
  /// Keyframe or hop `index` in the first lap.
  [[nodiscard]] QPointF keyPlace(int index) const;
  /// Always one that there is, or 0: undo can take away the one that was chosen.
  [[nodiscard]] int chosenKey() const { return std::clamp(chosen_, 0, std::max(0, keys() - 1)); }
  void chooseKey(int index);
  /// Whether the speed is drawn below the value, and the layer's other motions behind it.
  [[nodiscard]] bool showsSpeed() const { return speed_; }
  [[nodiscard]] bool showsOthers() const { return others_; }
  void setShowsSpeed(bool shows);
  void setShowsOthers(bool shows);
  /// Where the speed is drawn; empty where it is not.
  [[nodiscard]] QRectF speedRect() const;

 Q_SIGNALS:
  void keyChosen();

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void mouseDoubleClickEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;

 private:
  enum class Drag { None, Start, FarEnd, Key };
  [[nodiscard]] const Param& param() const { return document_.voice(*at_); }
  [[nodiscard]] const ParamSpec& spec() const { return document_.spec(*at_); }
  [[nodiscard]] bool shows(MotionKind kind) const;
  /// From a share of the lap to the first lap's share of the loop, and back.
  [[nodiscard]] double loopShare(double lap) const;
  [[nodiscard]] double lapShare(double loop) const;
  [[nodiscard]] double heightOf(double value) const;
  /// A number dragged by `pixels` downwards.
  [[nodiscard]] double draggedNumber(double from, double pixels) const;
  [[nodiscard]] int keys() const { return at_ && document_.valid(*at_) ? ownCount(param().motion) : 0; }
  /// Where the value is drawn, as wide as all of it.
  [[nodiscard]] QRectF valueRect() const;
  void paintOthers(QPainter& p, double side) const;
  void paintSpeed(QPainter& p, double side) const;
  void setKeys(const std::function<void(Motion&)>& change);
  void addKey(double at);
  void removeKey(int key);
  void moveKey(int index, double toLap, const Value& value, bool gesture);

  Document& document_;
  Player& player_;
  std::optional<ParamAddress> at_;
  int chosen_ = 0;
  int pressedKey_ = 0;
  double pressedShare_ = 0;  // where on the loop the keyframe was that is dragged
  Param pressed_;
  QPointF press_;
  Drag drag_ = Drag::None;
  bool speed_ = false;
  bool others_ = false;
};

}  // namespace oa::app
