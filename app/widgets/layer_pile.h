// The layers as a pile, the top one in front.
#pragma once

#include <QHash>
#include <QImage>
#include <QListWidget>
#include <tuple>
#include <vector>

#include "model/document.h"

namespace oa::app {

class LayerPile : public QWidget {
  Q_OBJECT
 public:
  explicit LayerPile(Document& document, QWidget* parent = nullptr);
  void setThumbnail(int layer, const QImage& image);
  void duplicateLayer(int layer);
  void removeLayer(int layer);
  void moveLayer(int from, int to);
  void setVisible(int layer, bool visible);
  using QWidget::setVisible;
  void rename(int layer);
  /// Shows this layer alone, or all again.
  void toggleSolo(int layer);
  /// A locked layer's places are not dragged in the picture, and its recipe is not changed.
  void toggleLock(int layer);

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
  void rowsMoved();
  void showMenu(const QPoint& place);
  [[nodiscard]] int layerOf(int row) const;

  Document& document_;
  QListWidget* list_;
  QHash<int, QImage> thumbnails_;
  bool refreshing_ = false;
  bool pressed_ = false;  // a row is held: the list is not rebuilt
  bool stale_ = false;
  std::vector<std::tuple<BlendMode, bool, bool, std::int64_t>> looks_;
};

}  // namespace oa::app
