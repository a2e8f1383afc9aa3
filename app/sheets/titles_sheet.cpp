#include "sheets/titles_sheet.h"

#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QStandardPaths>
#include <QTableWidget>
#include <QVBoxLayout>

#include "base/files.h"
#include "media/export.h"
#include "scene/run.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {

TitlesSheet::TitlesSheet(Document& document, QWidget* parent) : Sheet(tr("Titles"), "titles", parent), document_(document) {
  hint_ = new QLabel(this);
  hint_->setObjectName(QStringLiteral("titlesHint"));
  addNote(hint_);
  auto* tools = new QHBoxLayout();
  tools->setSpacing(4);
  const auto link = [&](const QString& name, const char* object, const QString& says) {
    auto* button = new QPushButton(name, this);
    button->setObjectName(QLatin1String(object));
    button->setProperty("link", true);
    button->setToolTip(says);
    tools->addWidget(button);
    return button;
  };
  auto* open =
      link(tr("Open CSV…"), "openTable", tr("Take the table from a file of comma-separated values; its first row names the columns"));
  fields_ = link(tr("Columns of fields"), "fieldColumns", tr("A column for each field that the scene's words have"));
  tools->addStretch(1);
  content()->addLayout(tools);
  tools = new QHBoxLayout();
  tools->setSpacing(4);
  tools->addStretch(1);
  auto* add = link(tr("Add row"), "addTitle", tr("One title more"));
  auto* remove = link(tr("Remove row"), "removeTitle", tr("Without the chosen title"));
  table_ = new QTableWidget(this);
  table_->setObjectName(QStringLiteral("titles"));
  table_->setAccessibleName(tr("Titles"));
  table_->setMinimumHeight(210);
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::SingleSelection);
  table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::SelectedClicked | QAbstractItemView::EditKeyPressed |
                          QAbstractItemView::AnyKeyPressed);
  table_->verticalHeader()->setDefaultSectionSize(26);
  table_->horizontalHeader()->setStretchLastSection(true);
  table_->setMinimumWidth(120);
  table_->setFrameShape(QFrame::NoFrame);
  content()->addWidget(table_, 1);
  content()->addLayout(tools);
  pattern_ = new QLineEdit(this);
  pattern_->setObjectName(QStringLiteral("titlePattern"));
  pattern_->setMinimumWidth(80);
  pattern_->setAccessibleName(tr("Names of the files"));
  pattern_->setToolTip(tr("The names of the files, with fields in braces; {row} is the row’s number. Its ending says the format"));
  addLine(tr("Files"), pattern_);
  bar_ = new QProgressBar(this);
  bar_->setRange(0, 1000);
  bar_->setTextVisible(false);
  bar_->setVisible(false);
  content()->addWidget(bar_);
  message_ = new QLabel(this);
  message_->setObjectName(QStringLiteral("titlesMessage"));
  message_->setAccessibleName(tr("State of the titles"));
  message_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  addNote(message_);
  auto* buttons = new QHBoxLayout();
  buttons->addStretch(1);
  cancel_ = new QPushButton(tr("Cancel"), this);
  cancel_->setObjectName(QStringLiteral("cancelTitles"));
  cancel_->setVisible(false);
  make_ = new QPushButton(this);
  make_->setObjectName(QStringLiteral("primary"));
  buttons->addWidget(cancel_);
  buttons->addWidget(make_);
  content()->addLayout(buttons);
  connect(open, &QPushButton::clicked, this, [this] {
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Open a table"), QFileInfo(document_.path()).path(), tr("Tables (*.csv *.tsv *.txt)"));
    if (!path.isEmpty()) take(path);
  });
  connect(fields_, &QPushButton::clicked, this, &TitlesSheet::columnsOfFields);
  connect(add, &QPushButton::clicked, this, [this] {
    if (document_.scene().table.columns.empty()) columnsOfFields();
    document_.edit(tr("one title more"), {}, [](Scene& scene) {
      if (scene.table.rows.size() < kMostTitleRows) scene.table.rows.emplace_back(scene.table.columns.size());
    });
    if (table_->rowCount() > 0) table_->setCurrentCell(table_->rowCount() - 1, 0);
  });
  connect(remove, &QPushButton::clicked, this, [this] {
    const int row = table_->currentRow();
    if (row < 0) return;
    document_.edit(tr("without a title"), {}, [&](Scene& scene) { scene.table.rows.erase(scene.table.rows.begin() + row); });
  });
  connect(table_, &QTableWidget::cellChanged, this, &TitlesSheet::cellEdited);
  connect(table_, &QTableWidget::currentCellChanged, this, [this](int row) {
    if (!filling_) setRow(row);
  });
  connect(make_, &QPushButton::clicked, this, &TitlesSheet::make);
  connect(cancel_, &QPushButton::clicked, this, &TitlesSheet::stop);
  connect(
      this, &TitlesSheet::progressed, this,
      [this](int row, int rows, double share) {
        bar_->setValue(static_cast<int>(1000 * (row + share) / std::max(1, rows)));
        message_->setText(tr("Title %1 of %2").arg(row + 1).arg(rows));
      },
      Qt::QueuedConnection);
  connect(this, &TitlesSheet::finished, this, &TitlesSheet::showEnd, Qt::QueuedConnection);
  connect(&document, &Document::changed, this, &TitlesSheet::refresh);
  connect(&document, &Document::fileChanged, this, [this] {
    if (!pattern_->isModified()) pattern_->clear();
    refresh();
  });
  refresh();
}

TitlesSheet::~TitlesSheet() {
  stop_ = true;
  if (thread_.joinable()) thread_.join();
}

void TitlesSheet::setRow(int row) {
  chosen_ = row;
  document_.showTitle(isVisible() ? row : -1);
}

void TitlesSheet::showEvent(QShowEvent*) { setRow(chosen_); }

void TitlesSheet::hideEvent(QHideEvent*) {
  const int chosen = chosen_;
  setRow(-1);
  chosen_ = chosen;
}

void TitlesSheet::take(const QString& path) {
  const auto bytes = readFile(path.toStdString(), kMostCsvBytes);
  const auto table = bytes ? tableFromCsv(*bytes) : Result<TitleTable>(tl::unexpected(bytes.error()));
  if (!table) return showEnd(tr("Not opened: %1: %2.").arg(QFileInfo(path).fileName(), text(table.error().sentence())), false);
  document_.edit(tr("table of titles"), {}, [&](Scene& scene) { scene.table = *table; });
  message_->clear();
  if (table_->rowCount() > 0) table_->setCurrentCell(0, 0);
}

void TitlesSheet::columnsOfFields() {
  const auto fields = fieldsOf(document_.scene());
  document_.edit(tr("columns of fields"), {}, [&](Scene& scene) {
    for (const std::string& field : fields) {
      if (std::find(scene.table.columns.begin(), scene.table.columns.end(), field) != scene.table.columns.end()) continue;
      scene.table.columns.push_back(field);
      for (auto& row : scene.table.rows) row.resize(scene.table.columns.size());
    }
    if (scene.table.rows.empty() && !scene.table.columns.empty()) scene.table.rows.emplace_back(scene.table.columns.size());
  });
  if (table_->currentRow() < 0 && table_->rowCount() > 0) table_->setCurrentCell(0, 0);
}

void TitlesSheet::cellEdited(int row, int column) {
  if (filling_) return;
  const std::string typed = table_->item(row, column)->text().toStdString();
  document_.edit(tr("title %1").arg(row + 1), {}, [&](Scene& scene) {
    auto& cells = scene.table.rows[static_cast<std::size_t>(row)];
    cells.resize(std::max(cells.size(), scene.table.columns.size()));
    cells[static_cast<std::size_t>(column)] = typed;
  });
}

void TitlesSheet::refresh() {
  const Scene& scene = document_.scene();
  const TitleTable& table = scene.table;
  const auto fields = fieldsOf(scene);
  QStringList missing;
  for (const std::string& field : fields)
    if (std::find(table.columns.begin(), table.columns.end(), field) == table.columns.end())
      missing << QStringLiteral("{%1}").arg(text(field));
  hint_->setText(fields.empty() ? tr("Write {name} into the words of a layer: what stands in braces is filled from the columns of this "
                                     "table, a file for each row.")
                 : missing.isEmpty() ? tr("Choose a row to see it in the picture.")
                                     : tr("No column yet for %1.").arg(missing.join(QStringLiteral(", "))));
  fields_->setEnabled(!missing.isEmpty());
  if (table != shown_) {
    shown_ = table;
    filling_ = true;
    const int row = table_->currentRow();
    const int column = std::max(0, table_->currentColumn());
    table_->setColumnCount(static_cast<int>(table.columns.size()));
    table_->setRowCount(static_cast<int>(table.rows.size()));
    QStringList names;
    for (const std::string& name : table.columns) names << text(name);
    table_->setHorizontalHeaderLabels(names);
    for (int r = 0; r < table_->rowCount(); ++r)
      for (int c = 0; c < table_->columnCount(); ++c) {
        const auto& cells = table.rows[static_cast<std::size_t>(r)];
        const bool there = static_cast<std::size_t>(c) < cells.size();
        auto* item = table_->item(r, c);
        if (!item) table_->setItem(r, c, item = new QTableWidgetItem());
        item->setText(there ? text(cells[static_cast<std::size_t>(c)]) : QString());
        item->setBackground(there ? QBrush() : QBrush(blendOf(Theme::now().card, Theme::now().ochre, 0.25)));
        item->setToolTip(there ? QString() : tr("This row has too few cells"));
      }
    if (row >= 0 && table_->rowCount() > 0)
      table_->setCurrentCell(std::min(row, table_->rowCount() - 1), std::min(column, std::max(0, table_->columnCount() - 1)));
    filling_ = false;
  }
  setRow(table_->rowCount() > 0 ? table_->currentRow() : -1);
  make_->setText(table.rows.size() == 1 ? tr("Make the title") : tr("Make %1 titles").arg(table.rows.size()));
  make_->setEnabled(!table.rows.empty() && !running());
  if (pattern_->text().isEmpty()) {
    QString folder =
        document_.path().isEmpty() ? QStandardPaths::writableLocation(QStandardPaths::MoviesLocation) : QFileInfo(document_.path()).path();
    if (folder.isEmpty()) folder = QDir::homePath();
    pattern_->setText(folder +
                      QStringLiteral("/{%1}.mp4").arg(table.columns.empty() ? QStringLiteral("row") : text(table.columns.front())));
  }
}

void TitlesSheet::make() {
  if (running()) return;
  const Scene scene = document_.scene();
  const std::string pattern = pattern_->text().trimmed().toStdString();
  const auto format = formatForPath(pattern);
  if (!format) return showEnd(tr("Not made: %1.").arg(text(format.error().sentence())), false);
  if (const Status some = checkFields(scene); !some) return showEnd(tr("Not made: %1.").arg(text(some.error().sentence())), false);
  const auto names = fileNames(scene.table, pattern);
  if (!names) return showEnd(tr("Not made: %1.").arg(text(names.error().sentence())), false);
  stop_ = false;
  message_->setStyleSheet(QString());
  bar_->setValue(0);
  bar_->setVisible(true);
  cancel_->setVisible(true);
  make_->setEnabled(false);
  thread_ = std::thread([this, scene, names = *names, format = *format] {
    const auto rows = static_cast<int>(scene.table.rows.size());
    QStringList bad;
    int made = 0;
    for (int row = 0; row < rows && !stop_; ++row) {
      const auto at = static_cast<std::size_t>(row);
      Status ok = checkRow(scene, scene.table, at, names[at]);
      if (ok) {
        const Scene title = filled(scene, scene.table, at);
        ExportSettings settings;
        settings.format = format;
        settings.path = names[at];
        settings.width = scene.width;
        settings.height = scene.height;
        settings.part = passes(withoutStandIns(scene)) ? RunPart::Run : RunPart::Loop;
        settings.alpha = hasTransparency(scene) && formatHasAlpha(format);
        const auto done = exportScene(title, settings, [this, row, rows](const ExportProgress& p) {
          Q_EMIT progressed(row, rows, static_cast<double>(p.done) / static_cast<double>(std::max<std::int64_t>(1, p.total)));
          return !stop_;
        });
        if (!done) ok = tl::unexpected(done.error());
        if (done && !done->cancelled) ++made;
      }
      if (!ok) bad << text(ok.error().sentence());
    }
    const QString sum =
        stop_ ? tr("Cancelled after %1 of %2 titles.").arg(made).arg(rows) : tr("Made %1 of %2 titles.").arg(made).arg(rows);
    Q_EMIT finished(bad.isEmpty() ? sum : sum + QLatin1Char('\n') + bad.join(QStringLiteral("\n")), bad.isEmpty());
  });
}

void TitlesSheet::showEnd(const QString& message, bool ok) {
  if (thread_.joinable()) thread_.join();
  bar_->setVisible(false);
  cancel_->setVisible(false);
  message_->setText(message);
  message_->setStyleSheet(ok ? QString() : QStringLiteral("color: %1;").arg(Theme::now().persimmon.name()));
  make_->setEnabled(!document_.scene().table.rows.empty());
}

}  // namespace oa::app
