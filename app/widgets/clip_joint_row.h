// On the card of a clip that goes round: how visible its joint is, and the button that looks for a better one.
#pragma once

#include <QTimer>
#include <QWidget>
#include <atomic>
#include <memory>

#include "check/clip_joint.h"
#include "model/document.h"

class QLabel;
class QProgressBar;
class QPushButton;

namespace oa::app {

class ClipJointRow : public QWidget {
  Q_OBJECT
 public:
  ClipJointRow(Document& document, Id layer, int step, QWidget* parent = nullptr);
  ~ClipJointRow() override;
  /// Whether a step has a joint of this kind.
  static bool fits(const RecipeStep& step);

 private:
  struct Sketched;
  void refresh();
  /// Calls `then` with the clip's small pictures, which are made once.
  void withSketch(std::function<void(const std::shared_ptr<const ClipSketch>&)> then);
  void measure();
  void mend();
  void say(const QString& words, bool bad);
  [[nodiscard]] const RecipeStep* step() const;

  Document& document_;
  Id layer_;
  int at_;
  QLabel* state_;
  QPushButton* mend_;
  class NumberField* least_;
  class NumberField* most_;
  QProgressBar* progress_;
  QPushButton* stop_;
  QWidget* wish_;
  QTimer soon_;
  ClipPlay measured_;
  std::string clip_;  // the hash of the file that it is about
  std::shared_ptr<std::atomic<bool>> given_up_;
  std::shared_ptr<std::atomic<int>> share_;
  QTimer watch_;
  QString before_;
};

}  // namespace oa::app
