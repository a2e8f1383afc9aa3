// The chosen motion's curve, unrolled: the loop between two joint lines, and what came before and comes after.
#pragma once

#include <QWidget>
#include <optional>

#include "model/document.h"
#include "model/player.h"
#include "widgets/curve_canvas.h"

class QComboBox;
class QHBoxLayout;
class QLabel;
class QPushButton;
class QToolButton;

namespace oa::app {

class CurveView : public QWidget {
  Q_OBJECT
 public:
  CurveView(Document& document, Player& player, QWidget* parent = nullptr);
  void setMotion(std::optional<ParamAddress> at);
  /// Stands above the curve and its numbers.
  void putOnTop(QWidget* strip);
  [[nodiscard]] CurveCanvas* canvas() const { return canvas_; }

 protected:
  void resizeEvent(QResizeEvent*) override;

 private:
  void refresh();
  /// The pace that the pace box stands for: of the motion, or of the chosen keyframe's stretch.
  static Pace& paceOf(Motion& motion, int key);
  void change(const std::function<void(Motion&)>& edit, bool gesture);
  Document& document_;
  std::optional<ParamAddress> at_;
  CurveCanvas* canvas_;
  QWidget* tools_;
  QHBoxLayout* firstRow_;
  QHBoxLayout* secondRow_;
  class NumberField* laps_;
  class NumberField* start_;
  class FarEnd* far_;
  class PaceEditor* paceEditor_;
  class SwitchRow* switch_;
  class FormulaRow* formula_;
  class FollowRow* follow_;
  class NumberField* knots_;
  QLabel* placesLabel_;
  QToolButton* another_;
  QPushButton* own_;
  QPushButton* even_;
  QComboBox* pace_;
  QComboBox* shape_;
  QComboBox* band_;
  QLabel* lapsLabel_;
  QLabel* startLabel_;
};

}  // namespace oa::app
