#include "sheets/shortcuts_page.h"

#include <QDialogButtonBox>
#include <QGridLayout>
#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>

namespace oa::app {

ShortcutsPage::ShortcutsPage(const Commands& commands, QWidget* parent) : QDialog(parent) {
  setWindowTitle(tr("Shortcuts"));
  setObjectName(QStringLiteral("shortcuts"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(20, 16, 20, 14);
  auto* scroll = new QScrollArea(this);
  scroll->setWidgetResizable(true);
  scroll->setFrameShape(QFrame::NoFrame);
  auto* inside = new QWidget();
  auto* columns = new QHBoxLayout(inside);
  columns->setSpacing(36);
  // Two columns of sections, so that all of it is seen at once.
  QGridLayout* grids[2];
  int lines[2] = {0, 0};
  for (QGridLayout*& grid : grids) {
    auto* half = new QVBoxLayout();
    grid = new QGridLayout();
    grid->setHorizontalSpacing(18);
    grid->setVerticalSpacing(5);
    grid->setColumnStretch(1, 1);
    half->addLayout(grid);
    half->addStretch(1);
    columns->addLayout(half, 1);
  }
  for (const Commands::Section& section : commands.sections()) {
    const QList<Command> shown = commands.withKeys(section);
    if (shown.isEmpty()) continue;
    const int side = lines[0] <= lines[1] ? 0 : 1;
    int& line = lines[side];
    auto* title = new QLabel(QString(section.title).remove(QLatin1Char('&')), inside);
    title->setObjectName(QStringLiteral("heading"));
    grids[side]->addWidget(title, line++, 0, 1, 2);
    for (const Command& command : shown) {
      auto* key = new QLabel(Commands::keysOf(command), inside);
      key->setStyleSheet(QStringLiteral("font-weight: 600;"));
      auto* says = new QLabel(command.help, inside);
      says->setWordWrap(true);
      grids[side]->addWidget(key, line, 0, Qt::AlignTop);
      grids[side]->addWidget(says, line++, 1);
    }
    grids[side]->setRowMinimumHeight(line++, 8);
  }
  scroll->setWidget(inside);
  column->addWidget(scroll, 1);
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, this);
  connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
  column->addWidget(buttons);
  resize(860, 560);
}

}  // namespace oa::app
