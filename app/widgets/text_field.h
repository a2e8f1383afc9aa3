// Some lines of words on a card.
#pragma once

#include <QPlainTextEdit>

namespace oa::app {

class TextField : public QPlainTextEdit {
  Q_OBJECT
 public:
  explicit TextField(QWidget* parent = nullptr);
  void setWords(const QString& words);  ///< does not emit

 Q_SIGNALS:
  void moved(const QString& words);
  void released();

 protected:
  bool event(QEvent* event) override;
  void focusOutEvent(QFocusEvent* event) override;

 private:
  void fit();
  QString before_;
};

}  // namespace oa::app
