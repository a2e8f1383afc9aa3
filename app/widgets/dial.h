// The loop as a circle: twelve o'clock is the joint, the hand is now, each layer has a ring of its laps.
#pragma once

#include <QWidget>
#include <optional>
#include <vector>

#include "model/document.h"
#include "model/player.h"
#include "model/render_service.h"

namespace oa::app {

class Dial : public QWidget {
  Q_OBJECT
 public:
  Dial(Document& document, RenderService& renderer, Player& player, QWidget* parent = nullptr);
  [[nodiscard]] QSize sizeHint() const override { return {224, 224}; }
  [[nodiscard]] QPointF centre() const;
  [[nodiscard]] double radius() const;

 Q_SIGNALS:
  void menuWanted(const QPoint& globalPlace);

 protected:
  void contextMenuEvent(QContextMenuEvent* event) override;
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 public:
  /// The ends of the parts in which the current layer is there, on its ring; empty where it always is, or has no ring.
  struct PresenceEnd {
    int arc = 0;
    bool last = false;  ///< where it goes; else where it comes
    QPointF place;
  };
  [[nodiscard]] std::vector<PresenceEnd> presenceEnds() const;

 private:
  [[nodiscard]] int frameAt(QPointF place) const;
  [[nodiscard]] double shareAt(QPointF place) const;
  void dragEnd(QPointF to, bool freely);
  Document& document_;
  RenderService& renderer_;
  Player& player_;
  bool scrubbing_ = false;
  double ring_ = 0;  // radius of the current layer's ring; 0: it has none
  std::optional<int> markedFrom_;
  int dragged_ = -1;  // of presenceEnds()
};

}  // namespace oa::app
