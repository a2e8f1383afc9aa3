// Chooses which of a step's equal parts (point 1, point 2, ...) the card shows, by their colours.
#pragma once

#include <QWidget>
#include <optional>

#include "model/document.h"

namespace oa::app {

class PartPicker : public QWidget {
  Q_OBJECT
 public:
  /// For step `step` of layer `layer`.
  PartPicker(Document& document, Id layer, int step, QWidget* parent = nullptr);
  [[nodiscard]] int part() const { return part_; }
  void setPart(int part);
  /// Parts that are there now.
  [[nodiscard]] int count() const;
  [[nodiscard]] QRectF dotRect(int part) const;
  [[nodiscard]] QSize sizeHint() const override { return {240, 30}; }

 Q_SIGNALS:
  void chosen(int part);

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  Document& document_;
  [[nodiscard]] const RecipeStep* shownStep() const;
  Id layer_;
  int step_;
  const StepSpec* spec_;
  int part_ = 1;
};

/// The colour that stands for a part of a step, if it has one.
std::optional<Colour> partColour(const RecipeStep& step, int part);

}  // namespace oa::app
