// Colours, font and icons of the interface, in one place; light and dark.
#pragma once

#include <QColor>
#include <QFont>
#include <QIcon>
#include <QString>

class QApplication;
class QPainter;
class QStyleOptionViewItem;

namespace oa::app {

struct Theme {
  QColor paper, panel, card, ink, muted, line, persimmon, lagoon, moss, ochre, surround, onAccent;
  bool dark = false;

  /// The theme in use.
  static const Theme& now();
  /// Loads the font, sets palette and style sheet. Follows the desktop's scheme unless `force` says "light" or "dark".
  static void apply(QApplication& application, const QString& force = {});
};

/// The interface font at a size in pixels; weight 400 to 700.
QFont uiFont(int pixels = 13, int weight = 400);

/// An icon of the shipped set, drawn in `colour` (default: ink).
QIcon icon(const QString& name, const QColor& colour = {});
QPixmap iconPixmap(const QString& name, int size, const QColor& colour, qreal ratio);

/// The ring round the item of a list that the keyboard is at, where the list has the focus.
void drawItemFocus(QPainter& painter, const QStyleOptionViewItem& option, const QRectF& card, double radius);

/// A fixed mix of two colours.
QColor blendOf(const QColor& a, const QColor& b, double share);

}  // namespace oa::app
