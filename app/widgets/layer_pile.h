// The layers as a pile, the top one in front; groups hold piles of their own.
#pragma once

#include <QHash>
#include <QImage>
#include <QWidget>
#include <vector>

#include "model/document.h"

class QLineEdit;
class QTreeWidgetItem;

namespace oa::app {

class LayerTree;

class LayerPile : public QWidget {
  Q_OBJECT
 public:
  explicit LayerPile(Document& document, QWidget* parent = nullptr);
  void setThumbnail(Id layer, const QImage& image);
  [[nodiscard]] LayerTree& tree() { return *tree_; }

  // What the menus do; all of it to every selected layer.
  void duplicate();
  void remove();
  void nudge(int by);
  void setShown(bool shown);
  /// Shows these alone, or all again.
  void toggleAlone();
  /// A locked layer's places are not dragged in the picture, and its recipe is not changed.
  void toggleLock();
  void group();
  void ungroup();
  void addLinkedCopy();
  /// A layer above the current one that shows what lies below it.
  void addBelow();
  void rename(Id layer);

 Q_SIGNALS:
  /// Somebody asks for a new layer.
  void layerWanted();
  /// Somebody asks for a menu: of the current layer, or of the pile.
  void menuWanted(const QPoint& globalPlace, bool ofLayer);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  friend class LayerDelegate;
  void refresh();
  void showSelection();
  void showFound();
  bool pressSwitch(const QPoint& place);
  void showMenu(const QPoint& place);
  /// The layers that a click on one of `layer`'s switches is about: all selected ones if it is among them.
  [[nodiscard]] Ids meant(Id layer) const;

  Document& document_;
  LayerTree* tree_;
  QLineEdit* search_;
  QHash<Id, QImage> thumbnails_;
  bool refreshing_ = false;
  bool stale_ = false;
};

}  // namespace oa::app
