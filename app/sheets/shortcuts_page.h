// All keys on one page, made from the table of commands.
#pragma once

#include <QDialog>

#include "commands/commands.h"

namespace oa::app {

class ShortcutsPage : public QDialog {
  Q_OBJECT
 public:
  explicit ShortcutsPage(const Commands& commands, QWidget* parent = nullptr);
};

}  // namespace oa::app
