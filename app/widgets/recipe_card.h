// One step of a recipe: a header that folds, switches and is dragged, and the rows of its parameters.
#pragma once

#include <QFrame>

class QToolButton;
class QVBoxLayout;

namespace oa::app {

class RecipeCard : public QFrame {
  Q_OBJECT
 public:
  /// A fixed source is none that another could take the place of: that of a group.
  enum class Kind { Step, Source, FixedSource };
  RecipeCard(const QString& title, const QString& group, Kind kind, bool on, bool folded, QWidget* parent = nullptr);
  /// Rows go here.
  [[nodiscard]] QVBoxLayout* body() const { return body_; }

 Q_SIGNALS:
  void switched(bool on);
  void foldChanged(bool folded);
  void removed();
  void duplicated();
  void copied();
  void cut();
  void pasted();
  /// Somebody asks for the step to be there for a part of the loop only.
  void presenceWanted();
  /// Somebody asks for it to arrive or leave by itself.
  void passageWanted(bool leaving);
  void otherSourceWanted();
  /// Dragged by its header; `y` is the pointer's height in the parent.
  void dropped(int y);
  void nudged(int by);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void paintEvent(QPaintEvent* event) override;
  void contextMenuEvent(QContextMenuEvent* event) override;

 private:
  void fold(bool folded);
  QWidget* header_;
  QToolButton* foldButton_;
  QWidget* content_;
  QVBoxLayout* body_;
  bool source_;
  bool fixed_;
  bool on_;
  bool folded_ = false;
  bool dragging_ = false;
  QPoint press_;
};

}  // namespace oa::app
