// Which page of help tells of a widget.
#pragma once

#include <QString>
#include <QVariant>
#include <QWidget>

namespace oa::app {

inline constexpr const char* kHelpProperty = "help";

/// Says which page tells of a widget, and of all in it that has none of its own.
inline void setHelpPage(QWidget* widget, const QString& id) { widget->setProperty(kHelpProperty, id); }

/// That page; empty if there is none.
inline QString helpPageOf(const QWidget* widget) {
  for (; widget; widget = widget->parentWidget())
    if (QString id = widget->property(kHelpProperty).toString(); !id.isEmpty()) return id;
  return {};
}

}  // namespace oa::app
