// Loop lengths that fit: wanted rhythms, how much they may be off, and the lengths at which all of them come home.
#pragma once

#include <vector>

#include "loop/fit_loop.h"
#include "model/document.h"
#include "sheets/sheet.h"

class QLabel;
class QListWidget;
class QPushButton;

namespace oa::app {

class NumberField;

class FitSheet : public Sheet {
  Q_OBJECT
 public:
  FitSheet(Document& document, QWidget* parent);
  /// A rhythm: how many seconds, and the laps of the scene that it was taken from; 0: it was typed.
  struct Rhythm {
    double seconds = 2;
    int laps = 0;
  };
  [[nodiscard]] const std::vector<Rhythm>& rhythms() const { return rhythms_; }
  [[nodiscard]] const std::vector<LoopFit>& fits() const { return fits_; }

 private:
  void takeFromLayers();
  void addRhythm(const Rhythm& rhythm);
  void rebuild();
  void find();
  void use();
  Document& document_;
  std::vector<Rhythm> rhythms_;
  std::vector<LoopFit> fits_;
  QWidget* list_;
  NumberField* tolerance_;
  NumberField* longest_;
  QListWidget* found_;
  QLabel* says_;
  QPushButton* use_;
  double share_ = 0.02;
  double seconds_ = 120;
};

}  // namespace oa::app
