// Sound: the track, where in it the loop lies, and how long the loop is by it.
#pragma once

#include "model/document.h"
#include "sheets/sheet.h"

class QCheckBox;
class QLabel;
class QPushButton;
class QSpinBox;
class QToolButton;

namespace oa::app {

class Heard;
class WaveStrip;

class SoundSheet : public Sheet {
  Q_OBJECT
 public:
  SoundSheet(Document& document, QWidget* parent);
  /// Takes a file in as the scene's sound.
  void take(const QString& path);

 private:
  void refresh();
  void choose();
  void set(SoundParam which, Value value, const QString& gesture = {});
  /// The loop as long as so many beats; it begins on the first one if nobody has moved it yet.
  void loopOfBeats();
  void loopOfWhole();
  void findCut();
  void tap();
  [[nodiscard]] double beatsPerMinute() const;

  Document& document_;
  Heard& heard_;
  QLabel* name_;
  QLabel* facts_;
  QPushButton* choose_;
  QToolButton* remove_;
  WaveStrip* strip_;
  QWidget* rest_;
  std::vector<class NumberField*> fields_;  // by SoundParam; null where there is none
  QCheckBox* whole_;
  QCheckBox* muted_;
  QLabel* tempo_;
  QSpinBox* beats_;
  QPushButton* byBeats_;
  QPushButton* byWhole_;
  QPushButton* cut_;
  std::vector<qint64> taps_;  // milliseconds
  double tapped_ = 0;         // beats a minute
};

/// The filter of file choosers for sounds.
QString soundFilter();

}  // namespace oa::app
