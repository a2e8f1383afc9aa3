#include "commands/commands.h"

#include <QKeyEvent>
#include <QMenu>
#include <QWidget>

namespace oa::app {

Commands::Commands(QWidget* owner) : QObject(owner), owner_(owner) {}

void Commands::addSection(const QString& title, const QList<Command>& commands) {
  Section section{title, {}};
  for (const Command& command : commands) {
    section.ids << command.id;
    if (command.id == QLatin1String("-")) continue;
    commands_.insert(command.id, command);
    if (!command.run) continue;
    auto* action = new QAction(command.text, owner_);
    action->setObjectName(command.id);
    action->setToolTip(command.help);
    action->setShortcuts(command.keys);
    // Shown in the menu, but the key comes by way of the window once the controls had it.
    if (command.afterControls) action->setShortcutContext(Qt::WidgetShortcut);
    action->setCheckable(static_cast<bool>(command.checked));
    connect(action, &QAction::triggered, this, [this, id = command.id] {
      commands_.value(id).run();
      refresh();
    });
    owner_->addAction(action);
    actions_.insert(command.id, action);
  }
  sections_ << section;
  refresh();
}

const Command& Commands::command(const QString& id) const {
  const auto found = commands_.constFind(id);
  Q_ASSERT(found != commands_.constEnd());
  return *found;
}

QAction* Commands::action(const QString& id) const {
  QAction* found = actions_.value(id);
  Q_ASSERT(found);
  return found;
}

void Commands::fill(QMenu* menu, const QStringList& ids) const {
  menu->setToolTipsVisible(true);
  for (const QString& id : ids) {
    if (id == QLatin1String("-"))
      menu->addSeparator();
    else if (QAction* action = actions_.value(id))
      menu->addAction(action);
  }
}

QList<Command> Commands::withKeys(const Section& section) const {
  QList<Command> found;
  for (const QString& id : section.ids)
    if (id != QLatin1String("-") && !command(id).keys.isEmpty()) found << command(id);
  return found;
}

QString Commands::keysOf(const Command& command) {
  QStringList keys;
  for (const QKeySequence& key : command.keys) keys << key.toString(QKeySequence::NativeText);
  return keys.join(QStringLiteral(", "));
}

QString Commands::tip(const QString& id) const {
  const Command& c = command(id);
  if (c.keys.isEmpty()) return c.help;
  return c.help + QStringLiteral("  (%1)").arg(c.keys.first().toString(QKeySequence::NativeText));
}

bool Commands::runAfterControls(const QKeyEvent& event) {
  const QKeySequence pressed(event.keyCombination());
  for (const Section& section : sections_)
    for (const QString& id : section.ids) {
      const auto found = commands_.constFind(id);
      if (found == commands_.constEnd() || !found->afterControls || !found->keys.contains(pressed)) continue;
      if (!actions_.value(id)->isEnabled()) return false;
      actions_.value(id)->trigger();
      return true;
    }
  return false;
}

void Commands::refresh() {
  for (auto it = actions_.constBegin(); it != actions_.constEnd(); ++it) {
    const Command& c = commands_[it.key()];
    if (c.enabled) it.value()->setEnabled(c.enabled());
    if (c.checked) it.value()->setChecked(c.checked());
  }
}

}  // namespace oa::app
