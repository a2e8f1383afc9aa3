// Frame settings: size, rate, length of the loop, background.
#pragma once

#include <vector>

#include "model/document.h"
#include "sheets/sheet.h"

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QSpinBox;

namespace oa::app {

class FrameSheet : public Sheet {
  Q_OBJECT
 public:
  FrameSheet(Document& document, QWidget* parent);

 Q_SIGNALS:
  /// Somebody asks for lengths that fit several rhythms.
  void fitWanted();

 private:
  void refresh();
  void tap();
  void resizeTo(int width, int height);
  Document& document_;
  QComboBox* sizes_;
  QSpinBox* width_;
  QSpinBox* height_;
  QCheckBox* scale_;
  QComboBox* rate_;
  QSpinBox* frames_;
  QDoubleSpinBox* seconds_;
  QDoubleSpinBox* tempo_;
  QSpinBox* beats_;
  QSpinBox* bar_;
  std::vector<qint64> taps_;
  QComboBox* background_;
  QComboBox* light_;
  QLabel* note_;
  bool refreshing_ = false;
};

}  // namespace oa::app
