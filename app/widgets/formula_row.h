// A formula as it is written, and how it meets itself at the joint.
#pragma once

#include <QWidget>
#include <functional>

#include "params/param.h"

class QHBoxLayout;
class QLabel;
class QLineEdit;
class QToolButton;

namespace oa::app {

class FormulaRow : public QWidget {
  Q_OBJECT
 public:
  explicit FormulaRow(QWidget* parent = nullptr);
  /// What is half typed stays until it is one.
  void setFormula(const Formula& formula);

 Q_SIGNALS:
  /// What is to become of the motion; `gesture` while it is typed.
  void changed(const std::function<void(oa::Motion&)>& edit, bool gesture);
  void released();

 protected:
  void resizeEvent(QResizeEvent*) override;

 private:
  void typed(const QString& words);
  void close(FormulaClosing closing);
  void say(const QString& problem);
  QHBoxLayout* first_;
  QHBoxLayout* second_;
  QLineEdit* words_;
  QToolButton* joint_;
  QLabel* problem_;
  Formula formula_;
};

}  // namespace oa::app
