// A part of a card under a heading of its own, which folds it.
#pragma once

#include <QWidget>

class QToolButton;
class QVBoxLayout;

namespace oa::app {

class CardSection : public QWidget {
  Q_OBJECT
 public:
  CardSection(const QString& title, bool folded, QWidget* parent = nullptr);
  [[nodiscard]] QVBoxLayout* body() const { return body_; }
  [[nodiscard]] bool folded() const { return folded_; }

 Q_SIGNALS:
  void foldChanged(bool folded);

 protected:
  void paintEvent(QPaintEvent*) override;

 private:
  void fold(bool folded);
  QToolButton* heading_;
  QWidget* content_;
  QVBoxLayout* body_;
  bool folded_ = false;
};

}  // namespace oa::app
