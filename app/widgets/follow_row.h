// What a value follows, how much later, and how far it goes.
#pragma once

#include <QWidget>
#include <functional>
#include <optional>

#include "model/document.h"

class QHBoxLayout;
class QToolButton;

namespace oa::app {

class NumberField;

class FollowRow : public QWidget {
  Q_OBJECT
 public:
  explicit FollowRow(Document& document, QWidget* parent = nullptr);
  void setMotion(const ParamAddress& at);

 Q_SIGNALS:
  /// What is to become of the motion; `gesture` while a number is dragged.
  void changed(const std::function<void(oa::Motion&)>& edit, bool gesture);
  void released();

 protected:
  void resizeEvent(QResizeEvent*) override;

 private:
  void fill();
  Document& document_;
  std::optional<ParamAddress> at_;
  QHBoxLayout* first_;
  QHBoxLayout* second_;
  QWidget* numbers_;
  QToolButton* leader_;
  NumberField* scale_;
  NumberField* delay_;
};

}  // namespace oa::app
