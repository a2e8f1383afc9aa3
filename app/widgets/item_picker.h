// Chooses which of a step's items (colour points, for one) the card shows, by their colours; dragging one reorders them.
#pragma once

#include <QWidget>
#include <optional>

#include "model/document.h"

namespace oa::app {

class ItemPicker : public QWidget {
  Q_OBJECT
 public:
  /// For step `step` of layer `layer`, or for the source of its mask.
  ItemPicker(Document& document, Id layer, int step, QWidget* parent = nullptr);
  [[nodiscard]] Id item() const { return item_; }
  /// Marks an item, or all of them (ParamAddress::kAllItems).
  void setItem(Id item);
  [[nodiscard]] int count() const;
  [[nodiscard]] QRectF dotRect(int index) const;
  [[nodiscard]] QSize sizeHint() const override;
  [[nodiscard]] int heightForWidth(int width) const override;
  [[nodiscard]] bool hasHeightForWidth() const override { return true; }

 Q_SIGNALS:
  void chosen(oa::Id item);

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  /// The step this was made for, or null once another one stands in its place.
  [[nodiscard]] const RecipeStep* shownStep() const;
  [[nodiscard]] double pitch(int width) const;
  [[nodiscard]] int indexAt(QPointF place) const;
  void reorder(int from, int to);

  Document& document_;
  Id layer_;
  int step_;
  const StepSpec* spec_;
  Id item_ = 0;
  Id dragged_ = 0;
};

/// The colour that stands for an item, if it has one.
std::optional<Colour> itemColour(const ItemsSpec& spec, const Item& item);

}  // namespace oa::app
