// The first steps, on the picture: which one comes next, how it is done, and a way out.
#pragma once

#include <QFrame>

class QLabel;
class QPushButton;

namespace oa::app {

class FirstSteps;

class FirstStepsPanel : public QFrame {
  Q_OBJECT
 public:
  /// Lies in the lower right corner of `on`.
  FirstStepsPanel(FirstSteps& steps, QWidget* on);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void paintEvent(QPaintEvent* event) override;

 private:
  void refresh();
  void settle();
  FirstSteps& steps_;
  QLabel* count_;
  QLabel* title_;
  QLabel* how_;
  QPushButton* leave_;
};

}  // namespace oa::app
