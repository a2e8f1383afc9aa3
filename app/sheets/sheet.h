// A sheet over the right side of the window: a title, a close button, content.
#pragma once

#include <QWidget>

class QVBoxLayout;

class QLabel;
class QPushButton;

namespace oa::app {

class Sheet : public QWidget {
  Q_OBJECT
 public:
  /// `name` stands for the sheet in settings and tests. Content that is higher than the window scrolls, unless it does so itself.
  Sheet(const QString& title, const char* name, QWidget* parent, bool scrolls = true);
  /// Gives the focus to the first control.
  void takeFocus();

 Q_SIGNALS:
  void closed();

 protected:
  [[nodiscard]] QVBoxLayout* content() const { return content_; }
  /// A line of a form: name on the left, control on the right. The line may be hidden where it has nothing to say.
  QWidget* addLine(const QString& name, QWidget* control);
  void addNote(QLabel* label);
  /// The button that does what the sheet is for, below everything else.
  QPushButton* addPrimary(const QString& words);
  void keyPressEvent(QKeyEvent* event) override;

 private:
  QVBoxLayout* content_;
  QWidget* inside_;
};

}  // namespace oa::app
