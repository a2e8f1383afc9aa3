// The check: what the joint lamp measured, for the scene and for each layer.
#pragma once

#include <QTimer>
#include <atomic>
#include <thread>

#include "check/joint.h"
#include "model/document.h"
#include "sheets/sheet.h"

class QLabel;
class QVBoxLayout;

namespace oa::app {

class CheckSheet : public Sheet {
  Q_OBJECT
 public:
  CheckSheet(Document& document, QWidget* parent);
  ~CheckSheet() override;
  /// Measures the present scene, layer by layer, in the background.
  void start();

 Q_SIGNALS:
  void measured(const oa::JointCheck& check);

 private:
  void hideEvent(QHideEvent*) override;
  void stop();
  void show(const JointCheck& check);
  using QWidget::show;
  Document& document_;
  QLabel* sentence_;
  QVBoxLayout* rows_;
  QTimer again_;
  std::thread thread_;
  std::atomic<bool> stop_{false};
};

}  // namespace oa::app
