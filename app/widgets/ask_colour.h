// Asking for a colour: the scene's palette on top, all other colours below.
#pragma once

#include <QDialog>
#include <functional>
#include <vector>

#include "image/colour.h"

class QColorDialog;

namespace oa::app {

class ColourDialog : public QDialog {
  Q_OBJECT
 public:
  ColourDialog(const QString& title, const Colour& start, const std::vector<Colour>& palette, QWidget* parent = nullptr);
  [[nodiscard]] Colour colour() const;

 Q_SIGNALS:
  void changed(const oa::Colour& colour);

 private:
  QColorDialog* picker_;
};

/// Asks for a colour, `palette` offered first; `changed` is told while choosing. Returns false if it was called off.
bool askColour(QWidget* parent, const QString& title, Colour start, const std::vector<Colour>& palette,
               const std::function<void(const Colour&)>& changed);

}  // namespace oa::app
