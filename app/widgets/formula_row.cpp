#include "widgets/formula_row.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QRegularExpression>
#include <QStyle>
#include <QToolButton>
#include <QVBoxLayout>

#include "widgets/help_mark.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

QString closingTitle(FormulaClosing closing) {
  switch (closing) {
    case FormulaClosing::Open:
      return QObject::tr("As it is written");
    case FormulaClosing::Level:
      return QObject::tr("Level: tilted until both ends are as high");
    case FormulaClosing::Blend:
      return QObject::tr("Blend: its last quarter runs over into its beginning");
    case FormulaClosing::ThereAndBack:
      return QObject::tr("There and back: to its end, and home again");
  }
  return {};
}

// What a line of the list of functions puts into the formula.
QString inserted(std::string_view name) {
  QString first = text(name).section(QRegularExpression(QStringLiteral("[ ,(]")), 0, 0);
  return first == QLatin1String("t") || first == QLatin1String("angle") || first == QLatin1String("pi") ? first
                                                                                                        : first + QLatin1String("()");
}

}  // namespace

FormulaRow::FormulaRow(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("formulaRow"));
  setHelpPage(this, QStringLiteral("motion/formula"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(2);
  QHBoxLayout* row = first_ = new QHBoxLayout();
  second_ = new QHBoxLayout();
  for (QHBoxLayout* each : {first_, second_}) {
    each->setSpacing(4);
    column->addLayout(each);
  }
  auto* known = new QToolButton(this);
  known->setObjectName(QStringLiteral("formulaFunctions"));
  known->setText(tr("Functions"));
  known->setToolTip(tr("What a formula may say"));
  known->setPopupMode(QToolButton::InstantPopup);
  auto* list = new QMenu(known);
  list->setToolTipsVisible(true);
  for (const Formula::Function& function : Formula::functions()) {
    QAction* action = list->addAction(tr("%1\t%2").arg(text(function.name), text(function.help)));
    if (function.name.front() == '+') {
      action->setEnabled(false);
      continue;
    }
    connect(action, &QAction::triggered, this, [this, words = inserted(function.name)] {
      words_->insert(words);
      if (words.endsWith(QLatin1Char(')'))) words_->cursorBackward(false);
      words_->setFocus();
      typed(words_->text());
    });
  }
  known->setMenu(list);
  row->addWidget(known);
  words_ = new QLineEdit(this);
  words_->setObjectName(QStringLiteral("formula"));
  words_->setAccessibleName(tr("Formula"));
  words_->setMaxLength(static_cast<int>(kMostFormulaBytes));
  words_->setToolTip(tr("A share of the way to the far end, of t (0 to 1 in a lap) and angle (once round)"));
  row->addWidget(words_, 1);
  joint_ = new QToolButton(this);
  joint_->setObjectName(QStringLiteral("formulaJoint"));
  joint_->setToolTip(tr("How it meets itself where the lap begins again, and what can be done about that"));
  joint_->setPopupMode(QToolButton::InstantPopup);
  auto* ways = new QMenu(joint_);
  for (std::size_t i = 0; i < formulaClosingNames().size(); ++i) {
    const auto closing = static_cast<FormulaClosing>(i);
    QAction* action = ways->addAction(closingTitle(closing), this, [this, closing] { close(closing); });
    action->setCheckable(true);
    connect(ways, &QMenu::aboutToShow, action, [this, action, closing] { action->setChecked(formula_.closing() == closing); });
  }
  joint_->setMenu(ways);
  row->addWidget(joint_);
  problem_ = new QLabel(this);
  problem_->setObjectName(QStringLiteral("error"));
  problem_->setWordWrap(true);
  problem_->hide();
  column->addWidget(problem_);
  connect(words_, &QLineEdit::textEdited, this, &FormulaRow::typed);
  connect(words_, &QLineEdit::editingFinished, this, &FormulaRow::released);
}

// In a narrow window what is said of the joint stands below the formula.
void FormulaRow::resizeEvent(QResizeEvent*) {
  QHBoxLayout* wanted = width() < 400 ? second_ : first_;
  for (QHBoxLayout* each : {first_, second_}) each->removeWidget(joint_);
  wanted->addWidget(joint_, 0, wanted == second_ ? Qt::AlignLeft : Qt::Alignment());
}

void FormulaRow::say(const QString& problem) {
  problem_->setText(problem);
  problem_->setVisible(!problem.isEmpty());
  words_->setAccessibleDescription(problem);
}

void FormulaRow::typed(const QString& words) {
  const auto formula = Formula::fromText(words.toStdString(), formula_.closing());
  say(formula ? QString() : text(formula.error().message));
  if (formula) Q_EMIT changed([formula](Motion& m) { m.formula = *formula; }, true);
}

void FormulaRow::close(FormulaClosing closing) {
  const auto formula = formula_.closed(closing);
  say(formula ? QString() : text(formula.error().message));
  if (formula) Q_EMIT changed([formula](Motion& m) { m.formula = *formula; }, false);
}

void FormulaRow::setFormula(const Formula& formula) {
  const bool other = !(formula == formula_) || words_->text().isEmpty();
  formula_ = formula;
  // Words that cannot be read yet are not taken away; blanks at their ends are no change.
  if ((other || problem_->isHidden()) && words_->text().trimmed().toStdString() != formula.text()) {
    words_->setText(text(formula.text()));
    words_->setCursorPosition(0);
    say({});
  }
  const FormulaJoint joint = formula.joint();
  joint_->setText(joint.jumps() ? tr("Jumps at the joint") : joint.corner ? tr("Corner at the joint") : tr("Closes"));
  joint_->setProperty("problem", joint.jumps());
  joint_->style()->unpolish(joint_);
  joint_->style()->polish(joint_);
  joint_->setAccessibleName(tr("At the joint: %1").arg(joint_->text()));
}

}  // namespace oa::app
