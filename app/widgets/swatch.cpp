#include "widgets/swatch.h"

#include <QPainter>

#include "widgets/stops_editor.h"
#include "widgets/theme.h"

namespace oa::app {

Swatch::Swatch(QWidget* parent) : QAbstractButton(parent) {
  setFocusPolicy(Qt::StrongFocus);
  setMinimumSize(60, 20);
  setCursor(Qt::PointingHandCursor);
}

void Swatch::setColour(const Colour& colour) {
  colour_ = colour;
  update();
}

void Swatch::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const QRectF box = QRectF(rect()).adjusted(1, 1, -1, -1);
  if (colour_.a < 1) paintChecks(p, box);
  p.setPen(QPen(hasFocus() ? Theme::now().lagoon : Theme::now().line, hasFocus() ? 2 : 1));
  p.setBrush(QColor::fromRgbF(colour_.r, colour_.g, colour_.b, colour_.a));
  p.drawRoundedRect(box, 4, 4);
}

}  // namespace oa::app
