#include "help/help_window.h"

#include <QEvent>
#include <QHBoxLayout>
#include <QLineEdit>
#include <QListWidget>
#include <QTextBrowser>
#include <QVBoxLayout>

#include "widgets/theme.h"

namespace oa::app {
namespace {

QString pageStyle() {
  const Theme& t = Theme::now();
  return QStringLiteral("h2 { color: %1; } h3 { color: %2; } .small { color: %2; font-size: 11px; } td.key { white-space: nowrap; }")
      .arg(t.ink.name(), t.muted.name());
}

}  // namespace

HelpWindow::HelpWindow(std::vector<HelpPage> pages, QWidget* parent) : QDialog(parent), pages_(std::move(pages)) {
  setObjectName(QStringLiteral("helpWindow"));
  setWindowTitle(tr("Help"));
  auto* columns = new QHBoxLayout(this);
  columns->setContentsMargins(14, 14, 14, 14);
  columns->setSpacing(12);
  auto* left = new QVBoxLayout();
  left->setSpacing(8);
  columns->addLayout(left);
  search_ = new QLineEdit(this);
  search_->setObjectName(QStringLiteral("helpSearch"));
  search_->setPlaceholderText(tr("Search"));
  search_->setAccessibleName(tr("Search the help"));
  search_->setClearButtonEnabled(true);
  search_->setFixedWidth(200);
  left->addWidget(search_);
  list_ = new QListWidget(this);
  list_->setObjectName(QStringLiteral("helpList"));
  list_->setAccessibleName(tr("Pages of help"));
  list_->setSpacing(1);
  list_->setFixedWidth(200);
  left->addWidget(list_, 1);
  page_ = new QTextBrowser(this);
  page_->setObjectName(QStringLiteral("helpPage"));
  page_->setAccessibleName(tr("Page of help"));
  page_->setOpenLinks(false);
  page_->document()->setDefaultStyleSheet(pageStyle());
  page_->document()->setDocumentMargin(14);
  columns->addWidget(page_, 1);
  QString group;
  for (std::size_t i = 0; i < pages_.size(); ++i) {
    if (pages_[i].group != group) {
      group = pages_[i].group;
      auto* title = new QListWidgetItem(group, list_);
      title->setFlags(Qt::NoItemFlags);
      title->setFont(uiFont(11, 600));
    }
    auto* item = new QListWidgetItem(QStringLiteral("   ") + pages_[i].title, list_);
    item->setData(Qt::UserRole, static_cast<int>(i));
  }
  connect(list_, &QListWidget::currentItemChanged, this, &HelpWindow::showChosen);
  connect(search_, &QLineEdit::textChanged, this, &HelpWindow::filter);
  resize(720, 560);
}

void HelpWindow::showChosen() {
  const QListWidgetItem* item = list_->currentItem();
  if (item && item->data(Qt::UserRole).isValid()) page_->setHtml(pages_[item->data(Qt::UserRole).toUInt()].html);
}

// In other colours the page is set anew.
void HelpWindow::changeEvent(QEvent* event) {
  QDialog::changeEvent(event);
  if (event->type() != QEvent::PaletteChange || page_->document()->defaultStyleSheet() == pageStyle()) return;
  page_->document()->setDefaultStyleSheet(pageStyle());
  showChosen();
}

void HelpWindow::showPage(const QString& id) {
  for (int at = 0; at < list_->count(); ++at) {
    QListWidgetItem* item = list_->item(at);
    if (!item->data(Qt::UserRole).isValid() || pages_[item->data(Qt::UserRole).toUInt()].id != id) continue;
    search_->clear();
    list_->setCurrentItem(item);
    list_->scrollToItem(item, QAbstractItemView::PositionAtCenter);
    return;
  }
}

QString HelpWindow::shown() const {
  const QListWidgetItem* item = list_->currentItem();
  return item && item->data(Qt::UserRole).isValid() ? pages_[item->data(Qt::UserRole).toUInt()].id : QString();
}

// Pages whose words hold all that was typed; the first of them is shown, those by their title before others.
void HelpWindow::filter(const QString& words) {
  const QStringList parts = words.split(QLatin1Char(' '), Qt::SkipEmptyParts);
  QListWidgetItem* first = nullptr;
  bool byTitle = false;
  for (int at = 0; at < list_->count(); ++at) {
    QListWidgetItem* item = list_->item(at);
    const bool isPage = item->data(Qt::UserRole).isValid();
    if (!isPage) {
      item->setHidden(!parts.isEmpty());
      continue;
    }
    const HelpPage& page = pages_[item->data(Qt::UserRole).toUInt()];
    bool found = true;
    bool inTitle = true;
    for (const QString& part : parts) {
      inTitle = inTitle && page.title.contains(part, Qt::CaseInsensitive);
      found = found && (page.title.contains(part, Qt::CaseInsensitive) || page.html.contains(part, Qt::CaseInsensitive));
    }
    item->setHidden(!found);
    if (!found || (first && (byTitle || !inTitle))) continue;
    first = item;
    byTitle = inTitle;
  }
  if (!parts.isEmpty() && first) list_->setCurrentItem(first);
}

}  // namespace oa::app
