// The loop as a circle: twelve o'clock is the joint, the hand is now, each layer has a ring of its laps.
#pragma once

#include <QWidget>

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

 private:
  [[nodiscard]] int frameAt(QPointF place) const;
  Document& document_;
  RenderService& renderer_;
  Player& player_;
  bool scrubbing_ = false;
};

}  // namespace oa::app
