// Choosing files, with small pictures of them.
#pragma once

#include <QString>
#include <QStringList>

class QWidget;

namespace oa::app {

/// One file; empty if none was chosen.
QString chooseFile(QWidget* parent, const QString& title, const QString& from, const QString& filter);
/// Several.
QStringList chooseFiles(QWidget* parent, const QString& title, const QString& from, const QString& filter);

}  // namespace oa::app
