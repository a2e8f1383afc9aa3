// Pages of help, made from what they are about: the tables of steps and cards, the controls of sheets, the table of commands.
#pragma once

#include <QCoreApplication>
#include <QString>
#include <span>
#include <vector>

#include "steps/step.h"

class QWidget;

namespace oa::app {

class Commands;

struct HelpPage {
  Q_DECLARE_TR_FUNCTIONS(HelpPage)
 public:
  QString id;     ///< "step/ripple", "card/place", "sheet-export", "room/dial", "keys"
  QString group;  ///< the list is divided by it
  QString title;
  QString html;
};

/// Of a step: what it does, its values with what they do, their ranges and how they can move; the same of its items.
HelpPage pageOf(const StepSpec& step);
/// Of a card that a table stands behind.
HelpPage pageOf(const QString& id, const QString& title, const QString& what, std::span<const ParamSpec> params);
/// Of a sheet or a part of the window: what it is for, its own words, and each control that has a help text.
HelpPage pageOf(const QString& id, const QString& group, const QString& title, const QString& what, const QWidget& part);
/// Of a list of things, each with what it does, by sections.
struct HelpEntry {
  QString section;  ///< may be empty
  QString name;
  QString help;
};
HelpPage pageOf(const QString& id, const QString& group, const QString& title, const QString& what, const std::vector<HelpEntry>& entries);
/// Of formulas: what they may say, and how they are closed.
HelpPage formulaPage();
/// Of all keys.
HelpPage pageOf(const Commands& commands);

}  // namespace oa::app
