// The parts of the loop in which a layer or a step is there, each with its soft ends.
#pragma once

#include <QWidget>
#include <vector>

#include "model/document.h"

namespace oa::app {

class NumberField;

class PresenceRows : public QWidget {
  Q_OBJECT
 public:
  /// Of a layer (step 0) or of a step of its recipe.
  PresenceRows(Document& document, Id layer, int step, QWidget* parent = nullptr);
  /// One part more, half the loop long.
  static void addPart(Document& document, Id layer, int step);
  /// "always", "2 parts".
  static QString note(const Presence& presence);

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void addRow(int index);
  void refresh();
  void change(const QString& label, const QString& gesture, const std::function<void(Presence&)>& how);

  Document& document_;
  Id layer_;
  int step_;
  std::vector<std::vector<NumberField*>> fields_;  // of each part: from, length, in, out
};

}  // namespace oa::app
