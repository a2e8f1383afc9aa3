// What a switch is made of: how long it fades in, is on and fades out, how it flickers, or how loud it has to be.
#pragma once

#include <QWidget>
#include <functional>
#include <optional>

#include "model/document.h"

class QComboBox;

namespace oa::app {

class NumberField;

class SwitchRow : public QWidget {
  Q_OBJECT
 public:
  explicit SwitchRow(QWidget* parent = nullptr);
  /// Shows what a motion has; `sound` where there is one that it could follow. A swing that holds has the same parts, and no flicker.
  void setMotion(const Motion& motion, bool sound, bool flickers);

 Q_SIGNALS:
  /// What is to become of the motion; `gesture` while a number is dragged.
  void changed(const std::function<void(oa::Motion&)>& edit, bool gesture);
  void released();

 private:
  NumberField* up_;
  NumberField* hold_;
  NumberField* down_;
  NumberField* flicker_;
  NumberField* over_;
  QComboBox* by_;
  QWidget* shares_;
  QWidget* sound_;
  QWidget* flickers_;
  HoldShares shown_;
  HoldShares made_;                   // what a drag has made of them
  HoldShares held_;                   // as they were when it began
  std::optional<HoldPart> heldPart_;  // which of them it is about
};

}  // namespace oa::app
