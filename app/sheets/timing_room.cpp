#include "sheets/timing_room.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QPainter>
#include <QPushButton>
#include <QSpinBox>
#include <QStyledItemDelegate>
#include <QTableView>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "widgets/emptied.h"
#include "widgets/spread_controls.h"
#include "model/motion_address.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {

namespace {

constexpr int kSide = 288;
constexpr int kRow = 30;
constexpr int kMostMarks = 60;

// Where the laps of a line lie in the loop, and the fields that its numbers are typed into.
class LineDelegate : public QStyledItemDelegate {
 public:
  LineDelegate(TimingRoom& room, const QSortFilterProxyModel& sorted, const TimingModel& model)
      : QStyledItemDelegate(&room), room_(room), sorted_(sorted), model_(model) {}

  void paint(QPainter* p, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
    QStyleOptionViewItem plain = option;
    // The line is marked as a whole; a ring round one of its cells says nothing.
    plain.state &= ~QStyle::State_HasFocus;
    const int row = sorted_.mapToSource(index).row();
    const Theme& t = Theme::now();
    if (index.column() == TimingModel::Laps && model_.isOdd(row)) {
      plain.font.setWeight(QFont::DemiBold);
      plain.palette.setColor(QPalette::Text, t.persimmon);
      plain.palette.setColor(QPalette::HighlightedText, t.persimmon);
    }
    QStyledItemDelegate::paint(p, plain, index);
    if (index.column() != TimingModel::Loop) return;
    const edit::Timed& timed = model_.timed(row);
    p->save();
    p->setRenderHint(QPainter::Antialiasing);
    const QRectF bar = QRectF(option.rect).adjusted(10, 0, -12, 0);
    const double y = bar.center().y();
    const auto at = [&](double share) { return bar.left() + share * bar.width(); };
    p->setPen(QPen(t.line, 2));
    p->drawLine(QPointF(bar.left(), y), QPointF(bar.right(), y));
    if (timed.laps != 0) {
      const auto rounds = static_cast<double>(std::abs(timed.rounds()));
      const double first = timed.laps > 0 ? fract(-timed.start) : timed.start;
      p->setPen(QPen(model_.isOdd(row) ? t.persimmon : t.lagoon, 2, Qt::SolidLine, Qt::FlatCap));
      if (rounds <= kMostMarks)
        for (int lap = 0; lap < static_cast<int>(rounds); ++lap) {
          const double x = at((first + lap) / rounds);
          p->drawLine(QPointF(x, y - 6), QPointF(x, y + 6));
        }
      else
        p->drawLine(QPointF(bar.left(), y), QPointF(bar.right(), y));
    }
    p->setPen(QPen(t.persimmon, 1));
    p->drawLine(QPointF(at(room_.now()), option.rect.top()), QPointF(at(room_.now()), option.rect.bottom()));
    p->restore();
  }

  QWidget* createEditor(QWidget* parent, const QStyleOptionViewItem&, const QModelIndex& index) const override {
    const bool laps = index.column() == TimingModel::Laps;
    if (laps) {
      auto* box = new QSpinBox(parent);
      box->setRange(1, kMaxLaps);
      box->setButtonSymbols(QAbstractSpinBox::NoButtons);
      box->setAccessibleName(tr("Laps"));
      return box;
    }
    auto* box = new QDoubleSpinBox(parent);
    box->setRange(0, 100);
    box->setDecimals(1);
    box->setSuffix(tr(" %"));
    box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    box->setAccessibleName(tr("Head start"));
    return box;
  }

 private:
  TimingRoom& room_;
  const QSortFilterProxyModel& sorted_;
  const TimingModel& model_;
};

QLabel* muted(const QString& words, QWidget* parent) {
  auto* label = new QLabel(words, parent);
  label->setObjectName(QStringLiteral("muted"));
  label->setWordWrap(true);
  return label;
}

QLabel* heading(const QString& words, QWidget* parent) {
  auto* label = new QLabel(words, parent);
  label->setObjectName(QStringLiteral("heading"));
  return label;
}

QString secondsText(double s) { return text(numberText(s, 2)); }

}  // namespace

TimingRoom::TimingRoom(Document& document, Player& player, QWidget* parent) : QWidget(parent), document_(document), player_(player) {
  setObjectName(QStringLiteral("timingRoom"));
  setAutoFillBackground(true);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(24, 16, 24, 16);
  column->setSpacing(10);
  auto* top = new QHBoxLayout();
  auto* title = new QLabel(tr("Everything in time"), this);
  title->setObjectName(QStringLiteral("title"));
  says_ = new QLabel(this);
  says_->setObjectName(QStringLiteral("muted"));
  find_ = new QLineEdit(this);
  find_->setObjectName(QStringLiteral("findTimed"));
  find_->setPlaceholderText(tr("Find a layer, value or motion"));
  find_->setAccessibleName(find_->placeholderText());
  find_->setClearButtonEnabled(true);
  find_->setFixedWidth(240);
  auto* close = new QToolButton(this);
  close->setObjectName(QStringLiteral("closeTiming"));
  close->setIcon(icon(QStringLiteral("x")));
  close->setToolTip(tr("Back to the scene"));
  close->setAccessibleName(tr("Close"));
  connect(close, &QToolButton::clicked, this, &TimingRoom::closed);
  top->addWidget(title);
  top->addSpacing(12);
  top->addWidget(says_, 1);
  top->addWidget(find_);
  top->addWidget(close);
  column->addLayout(top);

  auto* rooms = new QHBoxLayout();
  rooms->setSpacing(18);
  column->addLayout(rooms, 1);
  model_ = new TimingModel(document, this);
  sorted_ = new QSortFilterProxyModel(this);
  sorted_->setSourceModel(model_);
  sorted_->setSortRole(TimingModel::kSortRole);
  sorted_->setFilterKeyColumn(-1);
  sorted_->setFilterCaseSensitivity(Qt::CaseInsensitive);
  table_ = new QTableView(this);
  table_->setObjectName(QStringLiteral("timing"));
  table_->setAccessibleName(tr("All that moves"));
  table_->setModel(sorted_);
  table_->installEventFilter(this);
  table_->setItemDelegate(new LineDelegate(*this, *sorted_, *model_));
  table_->setSelectionBehavior(QAbstractItemView::SelectRows);
  table_->setSelectionMode(QAbstractItemView::ExtendedSelection);
  table_->setEditTriggers(QAbstractItemView::DoubleClicked | QAbstractItemView::EditKeyPressed | QAbstractItemView::AnyKeyPressed);
  table_->setShowGrid(false);
  table_->setWordWrap(false);
  table_->setVerticalScrollMode(QAbstractItemView::ScrollPerPixel);
  table_->verticalHeader()->hide();
  table_->verticalHeader()->setSectionResizeMode(QHeaderView::Fixed);
  table_->verticalHeader()->setDefaultSectionSize(kRow);
  table_->setSortingEnabled(true);
  QHeaderView* header = table_->horizontalHeader();
  header->setHighlightSections(false);
  header->setStretchLastSection(true);
  header->setSortIndicatorClearable(true);
  // As the layers stand in the pile.
  header->setSortIndicator(-1, Qt::AscendingOrder);
  constexpr int kWidths[] = {150, 200, 96, 62, 72, 88, 84};
  for (int i = 0; i < static_cast<int>(std::size(kWidths)); ++i) header->resizeSection(i, kWidths[i]);
  rooms->addWidget(table_, 1);

  auto* side = new QWidget(this);
  side->setFixedWidth(kSide);
  auto* lines = new QVBoxLayout(side);
  lines->setContentsMargins(0, 0, 0, 0);
  lines->setSpacing(8);
  lines->addWidget(heading(tr("How long the loop must be"), side));
  findings_ = new QWidget(side);
  auto* found = new QVBoxLayout(findings_);
  found->setContentsMargins(0, 0, 0, 0);
  found->setSpacing(6);
  lines->addWidget(findings_);
  lines->addSpacing(14);
  lines->addWidget(heading(tr("For the chosen lines"), side));
  choice_ = muted({}, side);
  lines->addWidget(choice_);
  spread_ = new SpreadControls(false, side);
  lines->addWidget(spread_);
  auto* buttons = new QHBoxLayout();
  show_ = new QPushButton(tr("Show its curve"), side);
  show_->setObjectName(QStringLiteral("showTimed"));
  use_ = new QPushButton(tr("Spread head starts"), side);
  use_->setObjectName(QStringLiteral("spreadTimed"));
  buttons->addWidget(show_);
  buttons->addWidget(use_);
  lines->addLayout(buttons);
  lines->addStretch(1);
  rooms->addWidget(side);

  connect(find_, &QLineEdit::textChanged, sorted_, &QSortFilterProxyModel::setFilterFixedString);
  connect(model_, &TimingModel::edited, this, &TimingRoom::takeNumber);
  connect(table_->selectionModel(), &QItemSelectionModel::selectionChanged, this, &TimingRoom::showChoice);
  connect(model_, &QAbstractItemModel::modelReset, this, &TimingRoom::showChoice);
  connect(use_, &QPushButton::clicked, this, &TimingRoom::spreadChosen);
  connect(show_, &QPushButton::clicked, this, [this] {
    const QModelIndexList rows = table_->selectionModel()->selectedRows();
    if (!rows.isEmpty()) goTo(rows.front());
  });
  connect(&document, &Document::changed, this, [this](bool) { refresh(); });
  connect(&player, &Player::frameChanged, this, [this] {
    if (isVisible()) table_->viewport()->update();
  });
}

double TimingRoom::now() const { return static_cast<double>(player_.frame()) / std::max(1, document_.scene().frames); }

void TimingRoom::showEvent(QShowEvent* event) {
  QWidget::showEvent(event);
  refresh();
  table_->setFocus();
}

void TimingRoom::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape) return Q_EMIT closed();
  if ((event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) && table_->hasFocus()) return goTo(table_->currentIndex());
  // Nothing that is done to layers is done from here: they are not to be seen.
  if (event->key() == Qt::Key_Space) QWidget::keyPressEvent(event);
}

bool TimingRoom::eventFilter(QObject* watched, QEvent* event) {
  if (watched != table_ || event->type() != QEvent::ShortcutOverride) return QWidget::eventFilter(watched, event);
  // Elsewhere it renames a layer.
  if (static_cast<QKeyEvent*>(event)->key() == Qt::Key_F2) event->accept();
  return false;
}

std::vector<edit::MotionAddress> TimingRoom::chosen() const {
  QModelIndexList rows = table_->selectionModel()->selectedRows();
  std::sort(rows.begin(), rows.end(), [](const QModelIndex& a, const QModelIndex& b) { return a.row() < b.row(); });
  std::vector<edit::MotionAddress> motions;
  for (const QModelIndex& row : rows) {
    const edit::Timed& timed = model_->timed(sorted_->mapToSource(row).row());
    const Layer* layer = document_.layer(timed.at.layer);
    if (timed.laps != 0 && layer && !layer->locked) motions.push_back(timed.at);
  }
  return motions;
}

void TimingRoom::refresh() {
  if (!isVisible()) return;
  model_->read();
  showFindings();
  showChoice();
}

void TimingRoom::showFindings() {
  const Scene& scene = document_.scene();
  const edit::Sharing sharing = edit::sharingOf(document_.plan());
  const int count = model_->rowCount();
  const double seconds = scene.seconds();
  says_->setText(count == 0   ? tr("Nothing moves yet")
                 : count == 1 ? tr("1 value moves in a loop of %1 s").arg(secondsText(seconds))
                              : tr("%1 values move in a loop of %2 s").arg(count).arg(secondsText(seconds)));
  std::set<std::int64_t> odd;
  for (const edit::OddRhythm& rhythm : sharing.odd) odd.insert(rhythm.rounds);
  model_->setOdd(odd);
  takeAllOut(findings_);
  const auto say = [&](const QString& words) { findings_->layout()->addWidget(muted(words, findings_)); };
  const auto offer = [&](const QString& words, const QString& name, const std::function<void()>& run) {
    auto* button = new QPushButton(words, findings_);
    button->setObjectName(name);
    connect(button, &QPushButton::clicked, this, run);
    findings_->layout()->addWidget(button);
  };
  if (count == 0) return say(tr("A value is set moving with the dash at its end, on a card."));
  if (sharing.repeats > 1) {
    say(tr("The loop shows the same %1 times over: %2 s would do.")
            .arg(sharing.repeats)
            .arg(secondsText(seconds / static_cast<double>(sharing.repeats))));
    offer(tr("Make it %1 s").arg(secondsText(seconds / static_cast<double>(sharing.repeats))), QStringLiteral("shorten"),
          [this] { document_.performHere(tr("loop cut to what it repeats"), [](Scene& s) { return edit::shortenToRepeat(s); }); });
  } else if (sharing.once) {
    say(
        tr("All rhythms come home sooner, but something comes once in the loop: a part of it in which something is there, sound, or "
           "footage."));
  } else {
    say(tr("No part of it repeats: it is as long as it must be."));
  }
  constexpr std::size_t kMostTold = 3;
  for (std::size_t i = 0; i < std::min(sharing.odd.size(), kMostTold); ++i) {
    const edit::OddRhythm& rhythm = sharing.odd[i];
    const QString who = rhythm.count == 1 ? tr("One value goes round × %1.").arg(rhythm.rounds)
                                          : tr("%1 values go round × %2.").arg(rhythm.count).arg(rhythm.rounds);
    say(tr("%1 The others share %2: with × %3 the loop would repeat every %4 s.")
            .arg(who)
            .arg(rhythm.without)
            .arg(rhythm.nearest)
            .arg(secondsText(seconds / static_cast<double>(rhythm.without))));
    offer(tr("Make × %1 into × %2").arg(rhythm.rounds).arg(rhythm.nearest), QStringLiteral("mend%1").arg(i),
          [this, from = rhythm.rounds, to = rhythm.nearest] {
            document_.edit(tr("rhythm that goes into the others"), {}, [&](Scene& s) { edit::setRounds(s, from, to); });
          });
  }
}

void TimingRoom::showChoice() {
  const auto count = static_cast<int>(chosen().size());
  choice_->setText(count == 0   ? tr("Choose one or several. Type laps or a head start into one of them: all of them take it.")
                   : count == 1 ? tr("One line. Type laps or a head start into it; Return shows its curve.")
                                : tr("%1 lines. Laps or a head start typed into one of them go to all.").arg(count));
  use_->setEnabled(count > 1);
  spread_->setEnabled(count > 1);
  show_->setEnabled(!table_->selectionModel()->selectedRows().isEmpty());
}

void TimingRoom::takeNumber(int row, int column, double value) {
  const edit::MotionAddress at = model_->timed(row).at;
  std::vector<edit::MotionAddress> motions = chosen();
  if (std::find(motions.begin(), motions.end(), at) == motions.end()) motions = {at};
  if (column == TimingModel::Laps)
    document_.edit(tr("laps"), {}, [&](Scene& s) { edit::setLaps(s, motions, static_cast<int>(std::lround(value))); });
  else
    document_.edit(tr("head start"), {}, [&](Scene& s) { edit::setStarts(s, motions, value); });
}

void TimingRoom::spreadChosen() {
  const std::vector<edit::MotionAddress> motions = chosen();
  if (motions.size() > 1)
    document_.edit(tr("spread head starts"), {}, [&](Scene& s) { edit::spreadMotions(s, motions, spread_->spread()); });
}

void TimingRoom::goTo(const QModelIndex& index) {
  if (!index.isValid()) return;
  const edit::MotionAddress at = model_->timed(sorted_->mapToSource(index).row()).at;
  Q_EMIT closed();
  document_.setCurrentLayer(at.layer);
  document_.showMotion({at.layer, at.step, at.param, at.item, at.motion});
}

}  // namespace oa::app
