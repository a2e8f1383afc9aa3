// Offers what programs that did not end well left behind, with a picture of it and its time.
#pragma once

#include <QDialog>
#include <vector>

#include "model/journal.h"

namespace oa::app {

class RecoveryDialog : public QDialog {
  Q_OBJECT
 public:
  explicit RecoveryDialog(std::vector<RescuedWork> work, QWidget* parent = nullptr);

 Q_SIGNALS:
  /// This one is taken up; the others stay for the next start.
  void chosen(const oa::Scene& scene, const QString& path);

 private:
  std::vector<RescuedWork> work_;
};

}  // namespace oa::app
