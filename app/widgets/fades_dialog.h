// Asks how colours fade through the palette: how long each stands, how long each takes to the next.
#pragma once

#include <QDialog>

#include "edit/fades.h"
#include "model/document.h"

class QLabel;
class QRadioButton;

namespace oa::app {

class NumberField;

class FadesDialog : public QDialog {
  Q_OBJECT
 public:
  FadesDialog(const std::vector<Colour>& colours, double loopSeconds, double longest, QWidget* parent = nullptr);
  [[nodiscard]] const edit::Fades& fades() const { return fades_; }
  /// Whether the loop is to become as long as one round.
  [[nodiscard]] bool setsLoop() const;

 private:
  void tell();

  edit::Fades fades_;
  double loop_;
  double longest_;
  NumberField* hold_;
  NumberField* fade_;
  QRadioButton* fit_;
  QRadioButton* set_;
};

/// Asks, and lets a colour (or those of all items of a step) fade through the scene's palette.
void fadeThroughPalette(QWidget* parent, Document& document, const ParamAddress& at);

}  // namespace oa::app
