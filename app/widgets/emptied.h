// A widget whose content is made anew.
#pragma once

#include <QWidget>

namespace oa::app {

/// Takes everything out of `widget`. It goes when the event loop comes round, since one of them may be what asked for it; until then it is
/// hidden and has no name that anybody finds.
inline void takeAllOut(QWidget* widget) {
  for (QWidget* old : widget->findChildren<QWidget*>(QString(), Qt::FindDirectChildrenOnly)) {
    old->hide();
    old->setObjectName(QString());
    old->deleteLater();
  }
}

}  // namespace oa::app
