#include "widgets/copies_editor.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QScrollArea>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "edit/copies.h"
#include "params/table.h"
#include "widgets/ask_colour.h"
#include "widgets/number_field.h"
#include "widgets/swatch.h"

namespace oa::app {
namespace {

const ParamSpec& sizeSpec() {
  static const ParamSpec spec = table::logarithmic(
      table::number("size", "Size", "How large the chosen copies are beside the others.", {1, 0, kMostCopySize, 0.1, 10}, Unit::Ratio));
  return spec;
}
const ParamSpec& turnSpec() {
  static const ParamSpec spec =
      table::number("turn", "Turn", "By how much the chosen copies are turned.", {0, -36000, 36000, -180, 180}, Unit::Degrees);
  return spec;
}

}  // namespace

CopiesEditor::CopiesEditor(Document& document, ParamAddress at, QWidget* parent) : QWidget(parent), document_(document), at_(at) {
  auto* rows = new QVBoxLayout(this);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(6);
  auto* top = new QHBoxLayout;
  top->setSpacing(6);
  count_ = new QLabel(this);
  count_->setObjectName(QStringLiteral("muted"));
  choose_ = new QToolButton(this);
  choose_->setObjectName(QStringLiteral("chooseCopies"));
  choose_->setText(tr("Choose…"));
  choose_->setCheckable(true);
  choose_->setToolTip(tr(
      "Show the copies in the picture: click some, Shift adds, a band takes several; drag or arrow keys move them, Delete leaves them out, "
      "Page Up and Down go from one to the next"));
  choose_->setAccessibleName(tr("Choose copies in the picture"));
  top->addWidget(count_);
  top->addStretch(1);
  top->addWidget(choose_);
  rows->addLayout(top);

  tools_ = new QWidget(this);
  auto* grid = new QGridLayout(tools_);
  grid->setContentsMargins(0, 0, 0, 2);
  grid->setHorizontalSpacing(6);
  grid->setVerticalSpacing(6);
  chosen_ = new QLabel(tools_);
  chosen_->setWordWrap(true);
  grid->addWidget(chosen_, 0, 0, 1, 4);
  const auto label = [&](const QString& name, int row, int column) {
    auto* text = new QLabel(name, tools_);
    text->setObjectName(QStringLiteral("muted"));
    grid->addWidget(text, row, column);
  };
  label(tr("Size"), 1, 0);
  size_ = addField(sizeSpec(), QStringLiteral("copySize"), &CopyChange::size, tr("size copies"));
  grid->addWidget(size_, 1, 1);
  label(tr("Turn"), 1, 2);
  turn_ = addField(turnSpec(), QStringLiteral("copyTurn"), &CopyChange::turn, tr("turn copies"));
  grid->addWidget(turn_, 1, 3);
  label(tr("Colour"), 2, 0);
  colour_ = new Swatch(tools_);
  colour_->setObjectName(QStringLiteral("copyColour"));
  colour_->setAccessibleName(tr("Colour of the chosen copies"));
  connect(colour_, &QAbstractButton::clicked, this, [this] {
    askColour(this, tr("Colour of the chosen copies"), first().colour.value_or(Colour{1, 1, 1, 1}), document_.colours(),
              [this](const Colour& c) {
                document_.changeCopies(
                    tr("colour copies"), [&](CopyChange& change) { change.colour = c; }, true);
              });
    document_.endGesture();
  });
  grid->addWidget(colour_, 2, 1);
  out_ = new QPushButton(tr("Leave out"), tools_);
  out_->setObjectName(QStringLiteral("copiesOut"));
  out_->setCheckable(true);
  connect(out_, &QPushButton::clicked, this, [this](bool on) {
    document_.changeCopies(
        on ? tr("leave copies out") : tr("bring copies back"), [&](CopyChange& change) { change.out = on; }, false);
  });
  grid->addWidget(out_, 2, 2, 1, 2);
  reset_ = new QPushButton(tr("As the others again"), tools_);
  reset_->setObjectName(QStringLiteral("copiesReset"));
  connect(reset_, &QPushButton::clicked, this, [this] {
    document_.changeCopies(
        tr("make copies as the others"), [](CopyChange& change) { change = edit::changeOf({}, change.copy); }, false);
  });
  grid->addWidget(reset_, 3, 0, 1, 4);
  grid->setColumnStretch(1, 1);
  grid->setColumnStretch(3, 1);
  rows->addWidget(tools_);

  connect(choose_, &QToolButton::clicked, this, [this](bool on) {
    document_.editInPicture(on ? std::optional(at_) : std::nullopt);
    if (on) QTimer::singleShot(0, this, &CopiesEditor::bringIntoSight);
  });
  connect(&document_, &Document::inPictureEdited, this, &CopiesEditor::refresh);
  connect(&document_, &Document::copiesChosen, this, &CopiesEditor::refresh);
  refresh();
}

NumberField* CopiesEditor::addField(const ParamSpec& spec, const QString& name, double CopyChange::*part, const QString& undo) {
  auto* field = new NumberField(spec, tools_);
  field->setObjectName(name);
  field->setAccessibleName(
      tr("%1 of the chosen copies").arg(QString::fromUtf8(spec.label.data(), static_cast<qsizetype>(spec.label.size()))));
  connect(field, &NumberField::moved, this, [this, part, undo](double v) {
    document_.changeCopies(
        undo, [&](CopyChange& change) { change.*part = v; }, true);
  });
  connect(field, &NumberField::released, this, [this] { document_.endGesture(); });
  return field;
}

// The card is long, and this lies at its end.
void CopiesEditor::bringIntoSight() {
  for (QWidget* up = parentWidget(); up; up = up->parentWidget())
    if (auto* scroll = qobject_cast<QScrollArea*>(up)) return scroll->ensureWidgetVisible(reset_, 0, 24);
}

CopyChange CopiesEditor::first() const {
  const auto& list = document_.chosenCopies();
  if (list.empty() || !document_.valid(at_)) return {};
  const auto* changes = std::get_if<CopyChanges>(&document_.param(at_).base);
  return changes ? edit::changeOf(*changes, list.back()) : CopyChange{};
}

void CopiesEditor::refresh() {
  if (!document_.valid(at_)) return;
  const auto* changes = std::get_if<CopyChanges>(&document_.param(at_).base);
  if (!changes) return;
  const int changed = static_cast<int>(changes->list.size());
  count_->setText(changed == 0 ? tr("None is changed") : tr("%n changed", "", changed));
  choose_->setChecked(active());
  tools_->setVisible(active());
  const int n = static_cast<int>(document_.chosenCopies().size());
  chosen_->setText(n == 0 ? tr("Click copies in the picture; Shift adds more.") : tr("%n chosen", "", n));
  const CopyChange own = first();
  for (QWidget* each : std::initializer_list<QWidget*>{size_, turn_, colour_, out_, reset_}) each->setEnabled(n > 0);
  reset_->setEnabled(n > 0 && std::any_of(document_.chosenCopies().begin(), document_.chosenCopies().end(),
                                          [&](std::uint64_t copy) { return changes->find(copy) != nullptr; }));
  size_->setValue(own.size);
  turn_->setValue(own.turn);
  colour_->setColour(own.colour.value_or(Colour{1, 1, 1, 0}));
  out_->setChecked(n > 0 && own.out);
}

}  // namespace oa::app
