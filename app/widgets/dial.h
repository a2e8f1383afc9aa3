// The loop as a circle: twelve o'clock is the joint, the hand is now, each layer has a ring of its laps. It is drawn in dial.cpp;
// what hands do with it stands in dial_gestures.cpp.
#pragma once

#include <QWidget>
#include <functional>
#include <optional>
#include <vector>

#include "edit/timing.h"
#include "model/document.h"
#include "model/player.h"
#include "model/render_service.h"
#include "widgets/dial_rings.h"

namespace oa::app {

class Dial : public QWidget {
  Q_OBJECT
 public:
  Dial(Document& document, RenderService& renderer, Player& player, QWidget* parent = nullptr);
  [[nodiscard]] QSize sizeHint() const override { return {224, 224}; }
  [[nodiscard]] QPointF centre() const;
  [[nodiscard]] double radius() const;
  /// Where a share of the loop lies on a circle about the centre, as closely as it is looked at.
  [[nodiscard]] QPointF on(double radius, double share) const { return onDial(centre(), radius, lens_.shown(share)); }
  [[nodiscard]] double zoom() const { return lens_.zoom(); }

 Q_SIGNALS:
  void menuWanted(const QPoint& globalPlace);

 protected:
  void contextMenuEvent(QContextMenuEvent* event) override;
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;
  void wheelEvent(QWheelEvent* event) override;
  void leaveEvent(QEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 public:
  [[nodiscard]] const std::vector<DialRing>& rings() const;
  /// The current layer's keyframes, and where they stand.
  struct Bead {
    edit::KeyBead key;
    QPointF place;
  };
  [[nodiscard]] std::vector<Bead> beads() const;
  [[nodiscard]] const std::vector<edit::KeyAt>& chosenKeys() const { return chosen_; }
  /// The gaps between the arcs of the current layer's ring that laps are drawn at; none where that has no laps of its own.
  [[nodiscard]] std::vector<QPointF> gaps() const;
  /// What stands below the dial: the name of what is pointed at.
  [[nodiscard]] QString pointedAt() const { return pointedAt_; }
  /// The ends of the parts in which the current layer is there, on its ring; empty where it always is, or has no ring.
  struct PresenceEnd {
    int arc = 0;
    bool last = false;  ///< where it goes; else where it comes
    QPointF place;
  };
  [[nodiscard]] std::vector<PresenceEnd> presenceEnds() const;

 private:
  enum class Drag { None, Scrub, Mark, End, Keys, Turn, Laps, Band, Other };
  [[nodiscard]] int frameAt(QPointF place) const;
  [[nodiscard]] double shareAt(QPointF place) const { return lens_.share(shareOf(centre(), place)); }
  [[nodiscard]] double inner() const;
  [[nodiscard]] double outer() const;
  /// The current layer's ring, null if it has none.
  [[nodiscard]] const DialRing* ownRing() const;
  [[nodiscard]] bool canChange() const;
  [[nodiscard]] double snapped(double share, bool freely) const;
  [[nodiscard]] int beadAt(QPointF place) const;
  [[nodiscard]] int gapAt(QPointF place) const;
  void listen();
  void forgetRings();
  void dragEnd(QPointF to, bool freely);
  void dragKeys(QPointF to, bool freely);
  void dragTurn(QPointF to, bool freely);
  void dragLaps(QPointF to);
  void takeBand();
  void chooseBead(int bead, bool more);
  void nudge(int frames);
  void point(QPointF at);
  /// The layer as it was when the gesture began, so that a drag there and back leaves nothing.
  void changeLayer(const QString& label, const std::function<void(Scene&)>& change);
  /// An arc of the loop, from a share of it on, less so many degrees at both of its ends.
  void drawArc(QPainter& p, double radius, double from, double length, double less = 0) const;
  void paintRings(QPainter& p) const;
  void paintBeads(QPainter& p) const;

  Document& document_;
  RenderService& renderer_;
  Player& player_;
  DialLens lens_;
  Drag drag_ = Drag::None;
  mutable std::vector<DialRing> rings_;
  mutable bool known_ = false;  // rings_ are those of the scene as it is
  Id looked_ = 0;               // the layer whose ring is pointed at
  QString pointedAt_;
  std::optional<int> markedFrom_;
  int dragged_ = -1;  // of presenceEnds(), or of gaps()
  std::vector<edit::KeyAt> chosen_;
  std::vector<edit::KeyAt> moved_;  // those that are dragged, as they stood at first
  double pressed_ = 0;              // where round the loop it began
  QPointF pressedAt_;
  double anchor_ = 0;  // where the dragged bead stood, or the first lap begins
  bool copies_ = false;
  std::optional<Layer> before_;
  QRectF band_;
};

}  // namespace oa::app
