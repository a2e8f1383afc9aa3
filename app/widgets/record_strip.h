// What stands above the curve while something is recorded by hand, and afterwards.
#pragma once

#include <QWidget>

class QLabel;
class QSlider;

namespace oa::app {

class NumberField;
class Recorder;

class RecordStrip : public QWidget {
  Q_OBJECT
 public:
  explicit RecordStrip(Recorder& recorder, QWidget* parent = nullptr);

 private:
  void refresh();
  void refine();
  Recorder& recorder_;
  QLabel* words_;
  QWidget* after_;
  QSlider* near_;
  NumberField* laps_;
};

}  // namespace oa::app
