// The one table of what can be done from menus, buttons and keys: each command stands once, as one action, so that no two places
// fight over a shortcut.
#pragma once

#include <QAction>
#include <QHash>
#include <QKeySequence>
#include <QList>
#include <QObject>
#include <QString>
#include <functional>

class QKeyEvent;
class QMenu;
class QWidget;

namespace oa::app {

struct Command {
  QString id;
  QString text;  ///< as in a menu, with its mnemonic
  QString help;  ///< one sentence: the tooltip, and the page of shortcuts
  QList<QKeySequence> keys = {};
  std::function<void()> run = {};      ///< none: keys that a control has for itself, listed on the page of shortcuts only
  std::function<bool()> enabled = {};  ///< none: always
  std::function<bool()> checked = {};  ///< none: not a switch
  /// The focused control has the key first; only what it leaves is the command's (arrows, Home, Delete).
  bool afterControls = false;
};

class Commands : public QObject {
  Q_OBJECT
 public:
  /// Actions are added to `owner`, whose window their shortcuts work in.
  explicit Commands(QWidget* owner);

  struct Section {
    QString title;    ///< with its mnemonic
    QStringList ids;  ///< "-" is a line between
  };
  void addSection(const QString& title, const QList<Command>& commands);
  [[nodiscard]] const QList<Section>& sections() const { return sections_; }
  [[nodiscard]] const Command& command(const QString& id) const;
  [[nodiscard]] QAction* action(const QString& id) const;
  /// A menu of a section's commands, or of those named.
  void fill(QMenu* menu, const QStringList& ids) const;
  /// Those of a section that have keys.
  [[nodiscard]] QList<Command> withKeys(const Section& section) const;
  /// All keys of a command, as they are written on this desktop.
  [[nodiscard]] static QString keysOf(const Command& command);
  /// Text and shortcut for a button that runs the command.
  [[nodiscard]] QString tip(const QString& id) const;
  /// Runs the command of a key that no control wanted; false if there is none.
  bool runAfterControls(const QKeyEvent& event);
  /// Asks all commands anew whether they are enabled and checked.
  void refresh();

 private:
  QWidget* owner_;
  QList<Section> sections_;
  QHash<QString, Command> commands_;
  QHash<QString, QAction*> actions_;
};

}  // namespace oa::app
