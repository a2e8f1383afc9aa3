// The motions of the selected layer, each with a drawing of its curve.
#pragma once

#include <QListWidget>
#include <optional>

#include "model/document.h"

class QLabel;

namespace oa::app {

class MotionList : public QWidget {
  Q_OBJECT
 public:
  explicit MotionList(Document& document, QWidget* parent = nullptr);
  [[nodiscard]] std::optional<ParamAddress> chosen() const { return chosen_; }
  void choose(const ParamAddress& at);

 Q_SIGNALS:
  void chosenChanged();

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  friend class MotionDelegate;
  void refresh();
  void removeChosen();
  void showMenu(const QPoint& place);
  Document& document_;
  QLabel* heading_;
  QListWidget* list_;
  QLabel* hint_;
  std::vector<ParamAddress> motions_;
  std::optional<ParamAddress> chosen_;
  bool refreshing_ = false;
};

}  // namespace oa::app
