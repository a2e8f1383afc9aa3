// What belongs to a layer beside its recipe: a card with a header that folds it, and what the header offers.
#pragma once

#include <QFrame>

class QHBoxLayout;
class QToolButton;
class QVBoxLayout;

namespace oa::app {

class OwnCard : public QFrame {
  Q_OBJECT
 public:
  OwnCard(const QString& title, const QString& note, bool folded, QWidget* parent = nullptr);
  /// Rows go here.
  [[nodiscard]] QVBoxLayout* body() const { return body_; }
  /// Buttons go here, before the one that folds.
  void addTool(QWidget* tool);

 Q_SIGNALS:
  void foldChanged(bool folded);

 protected:
  void paintEvent(QPaintEvent* event) override;

 private:
  void fold(bool folded);
  QHBoxLayout* header_;
  QToolButton* foldButton_;
  QWidget* content_;
  QVBoxLayout* body_;
  bool folded_ = false;
};

}  // namespace oa::app
