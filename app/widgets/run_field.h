// How long the loop goes on between what arrives and what leaves: so many loops, or seconds.
#pragma once

#include <QLineEdit>

namespace oa::app {

class RunField : public QLineEdit {
  Q_OBJECT
 public:
  explicit RunField(QWidget* parent = nullptr);
  /// `seconds` above 0 stand instead of loops. Does not emit.
  void setLength(int loops, double seconds);

 Q_SIGNALS:
  void loopsWanted(int loops);
  void secondsWanted(double seconds);

 protected:
  void focusInEvent(QFocusEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  [[nodiscard]] QString bare() const;
  void showLength();
  void read();
  void step(int by);
  int loops_ = 1;
  double seconds_ = 0;
};

}  // namespace oa::app
