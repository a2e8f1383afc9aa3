// The tree that the layers are shown in: what is dropped on it moves layers, and is shown before it does.
#pragma once

#include <QTreeWidget>

#include "edit/layers.h"

namespace oa::app {

class LayerTree : public QTreeWidget {
  Q_OBJECT
 public:
  explicit LayerTree(QWidget* parent);

  [[nodiscard]] static Id idOf(const QTreeWidgetItem* item);
  [[nodiscard]] QTreeWidgetItem* itemOf(Id id) const;
  [[nodiscard]] edit::Ids selectedIds() const;
  /// Whether a row is held by the mouse.
  [[nodiscard]] bool held() const { return held_; }

 Q_SIGNALS:
  /// Layers were dropped: into a group (0: the scene), at a place counted from the bottom.
  void dropped(const std::vector<int>& layers, int group, int place);
  void released();
  void foldAsked(int layer, bool folded);

 protected:
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dragMoveEvent(QDragMoveEvent* event) override;
  void dragLeaveEvent(QDragLeaveEvent* event) override;
  void dropEvent(QDropEvent* event) override;
  void paintEvent(QPaintEvent* event) override;
  [[nodiscard]] QMimeData* mimeData(const QList<QTreeWidgetItem*>& items) const override;
  void startDrag(Qt::DropActions actions) override;
  void drawBranches(QPainter*, const QRect&, const QModelIndex&) const override {}

 private:
  struct Target {
    Id group = 0;
    int place = 0;
    QRect mark;  // a line between rows, or the whole row of a group
    bool into = false;
    bool valid = false;
  };
  [[nodiscard]] Target targetAt(const QPoint& at) const;

  Target target_;
  bool held_ = false;
};

}  // namespace oa::app
