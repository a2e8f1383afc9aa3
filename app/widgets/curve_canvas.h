// The drawing of a motion over the loop, with beads to drag: the far end of a swing, keyframes, or hops of one's own. It is drawn in
// curve_canvas.cpp; what hands do with it stands in curve_gestures.cpp.
#pragma once

#include <QWidget>
#include <algorithm>
#include <functional>
#include <optional>
#include <utility>

#include "edit/keyframes.h"
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
  /// Where the loop is drawn; wider than what is seen while one looks closer.
  [[nodiscard]] QRectF loopRect() const;
  /// Shows so much of the loop from a share of it on, a hundredth at least; all of it: look(0, 1).
  void look(double from, double seen);
  [[nodiscard]] double seen() const { return seen_; }
  /// The bead at the far end of a swing's first lap, if there is one.
  [[nodiscard]] std::optional<QPointF> bead() const;
  /// Keyframe or hop `index` in the first lap.
  [[nodiscard]] QPointF keyPlace(int index) const;
  /// Always one that there is, or 0: undo can take away the one that was chosen.
  [[nodiscard]] int chosenKey() const { return std::clamp(chosen_, 0, std::max(0, keys() - 1)); }
  void chooseKey(int index);
  /// Keyframes that are taken together: those of a box, or that were clicked with Shift. Fewer than two are none.
  [[nodiscard]] const edit::KeyNumbers& several() const { return several_; }
  void chooseSeveral(edit::KeyNumbers keys);
  /// The ends of their arc in the first lap, which are dragged to make it slower or faster: where the first and the last of them stand.
  [[nodiscard]] std::optional<std::pair<double, double>> severalEnds() const;
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
  void wheelEvent(QWheelEvent* event) override;

 private:
  enum class Drag { None, Start, FarEnd, Key, Band, Several, First, Last };
  static constexpr double kClosest = 0.01;
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
  static constexpr double kAbove = 18;  // room above and below the curve
  static constexpr double kBelow = 24;
  /// The loop as it is seen, without what came before and comes after; and the shares of the loop at the edges.
  [[nodiscard]] QRectF seenRect() const;
  [[nodiscard]] double leftmost() const { return (0 - loopRect().left()) / loopRect().width(); }
  [[nodiscard]] double rightmost() const { return (width() - loopRect().left()) / loopRect().width(); }
  void paintOthers(QPainter& p) const;
  void paintSpeed(QPainter& p) const;
  void paintSeveral(QPainter& p) const;
  /// Where a share of the loop is drawn to by what is near: the joint, beats, keyframes that are not dragged; else a whole frame.
  [[nodiscard]] double snapped(double share, bool freely) const;
  void dragSeveral(QPointF moved, bool freely);
  void changeSeveral(const std::function<edit::KeyNumbers(Motion&, const edit::KeyNumbers&)>& change);
  void addSeveralTo(class QMenu& menu);
  void takeBand();
  void chooseAll();
  bool severalKey(QKeyEvent* event);
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
  double from_ = 0;  // of the loop, at the left of what is seen
  double seen_ = 1;  // how much of it
  edit::KeyNumbers several_;
  edit::KeyNumbers dragged_;  // those that are dragged, as they were pressed
  QRectF band_;
  bool speed_ = false;
  bool others_ = false;
};

}  // namespace oa::app
