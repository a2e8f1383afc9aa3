#include "widgets/recipe_card.h"

#include <QKeyEvent>
#include <QLabel>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

#include "widgets/theme.h"

namespace oa::app {
namespace {

// The round switch: filled when the step is on, a ring when it is off.
class StepSwitch : public QAbstractButton {
 public:
  StepSwitch(bool on, bool fixed, QWidget* parent) : QAbstractButton(parent) {
    setCheckable(true);
    setChecked(on);
    setEnabled(!fixed);
    setFixedSize(20, 20);
    setFocusPolicy(fixed ? Qt::NoFocus : Qt::StrongFocus);
    setToolTip(fixed ? QObject::tr("A recipe always has its source") : QObject::tr("Switch this step on or off"));
    setAccessibleName(QObject::tr("Step on"));
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    const Theme& t = Theme::now();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    if (hasFocus()) {
      p.setPen(QPen(t.lagoon, 1.6));
      p.drawEllipse(QPointF(10, 10), 8.5, 8.5);
    }
    p.setPen(QPen(isChecked() ? t.persimmon : t.muted, 1.8));
    p.setBrush(isChecked() ? QBrush(t.persimmon) : QBrush(Qt::NoBrush));
    p.drawEllipse(QPointF(10, 10), 5, 5);
  }
};

QToolButton* smallButton(const QString& name, const QString& says, QWidget* parent) {
  auto* button = new QToolButton(parent);
  button->setIcon(icon(name, Theme::now().muted));
  button->setIconSize(QSize(14, 14));
  button->setToolTip(says);
  button->setAccessibleName(says);
  return button;
}

}  // namespace

RecipeCard::RecipeCard(const QString& title, const QString& group, Kind kindOf, bool on, bool folded, QWidget* parent)
    : QFrame(parent), source_(kindOf != Kind::Step), fixed_(kindOf == Kind::FixedSource), on_(on) {
  const bool source = source_;
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(10, 6, 10, 6);
  column->setSpacing(2);
  header_ = new QWidget(this);
  header_->setFocusPolicy(Qt::StrongFocus);
  header_->setAccessibleName(title);
  header_->setCursor(source ? Qt::ArrowCursor : Qt::OpenHandCursor);
  header_->setToolTip(source ? QString() : tr("Drag to change the order; Alt with Up or Down does it by keyboard"));
  header_->installEventFilter(this);
  auto* line = new QHBoxLayout(header_);
  line->setContentsMargins(0, 0, 0, 0);
  line->setSpacing(4);
  auto* toggle = new StepSwitch(on || source, source, header_);
  connect(toggle, &QAbstractButton::toggled, this, &RecipeCard::switched);
  line->addWidget(toggle);
  auto* name = new QLabel(title, header_);
  name->setObjectName(QStringLiteral("heading"));
  line->addWidget(name);
  line->addStretch(1);
  auto* kind = new QLabel(group, header_);
  kind->setObjectName(QStringLiteral("muted"));
  kind->setFont(uiFont(11));
  line->addWidget(kind);
  if (fixed_) {
    // Nothing else can stand in its place.
  } else if (source) {
    auto* other = new QPushButton(tr("Change…"), header_);
    other->setObjectName(QStringLiteral("link"));
    other->setToolTip(tr("Another source in place of this one; the other steps stay"));
    connect(other, &QPushButton::clicked, this, &RecipeCard::otherSourceWanted);
    line->addWidget(other);
  } else {
    auto* there = smallButton(QStringLiteral("presence"), tr("There for a part of the loop only"), header_);
    there->setObjectName(QStringLiteral("stepPresence"));
    connect(there, &QToolButton::clicked, this, &RecipeCard::presenceWanted);
    line->addWidget(there);
    auto* copy = smallButton(QStringLiteral("copy"), tr("Duplicate this step"), header_);
    connect(copy, &QToolButton::clicked, this, &RecipeCard::duplicated);
    line->addWidget(copy);
    auto* remove = smallButton(QStringLiteral("trash-2"), tr("Remove this step"), header_);
    connect(remove, &QToolButton::clicked, this, &RecipeCard::removed);
    line->addWidget(remove);
  }
  foldButton_ = smallButton(QStringLiteral("chevron-down"), tr("Fold this card"), header_);
  connect(foldButton_, &QToolButton::clicked, this, [this] {
    fold(!folded_);
    Q_EMIT foldChanged(folded_);
  });
  line->addWidget(foldButton_);
  column->addWidget(header_);
  content_ = new QWidget(this);
  body_ = new QVBoxLayout(content_);
  body_->setContentsMargins(2, 2, 0, 4);
  body_->setSpacing(3);
  column->addWidget(content_);
  fold(folded);
}

void RecipeCard::fold(bool folded) {
  folded_ = folded;
  foldButton_->setIcon(icon(folded ? QStringLiteral("chevron-right") : QStringLiteral("chevron-down"), Theme::now().muted));
  content_->setVisible(!folded);
}

bool RecipeCard::eventFilter(QObject* watched, QEvent* event) {
  if (watched != header_) return QFrame::eventFilter(watched, event);
  if (event->type() == QEvent::ShortcutOverride || event->type() == QEvent::KeyPress) {
    // The clipboard's keys are the step's while its header has the focus.
    auto* key = static_cast<QKeyEvent*>(event);
    const std::pair<QKeySequence::StandardKey, void (RecipeCard::*)()> keys[] = {
        {QKeySequence::Copy, &RecipeCard::copied}, {QKeySequence::Cut, &RecipeCard::cut}, {QKeySequence::Paste, &RecipeCard::pasted}};
    for (const auto& [standard, signal] : keys) {
      if (!key->matches(standard) || (source_ && standard != QKeySequence::Paste)) continue;
      if (event->type() == QEvent::ShortcutOverride)
        event->accept();
      else
        (this->*signal)();
      return true;
    }
  }
  if (source_) return QFrame::eventFilter(watched, event);
  if (event->type() == QEvent::KeyPress) {
    const auto* key = static_cast<QKeyEvent*>(event);
    if ((key->modifiers() & Qt::AltModifier) && (key->key() == Qt::Key_Up || key->key() == Qt::Key_Down)) {
      Q_EMIT nudged(key->key() == Qt::Key_Up ? -1 : 1);
      return true;
    }
    if (key->key() == Qt::Key_Delete) {
      Q_EMIT removed();
      return true;
    }
  }
  if (event->type() == QEvent::MouseButtonPress && static_cast<QMouseEvent*>(event)->button() == Qt::LeftButton)
    press_ = static_cast<QMouseEvent*>(event)->position().toPoint();
  if (event->type() == QEvent::MouseMove) {
    const auto* mouse = static_cast<QMouseEvent*>(event);
    if ((mouse->buttons() & Qt::LeftButton) && (dragging_ || std::abs(mouse->position().y() - press_.y()) > 6)) {
      dragging_ = true;
      raise();
      header_->setCursor(Qt::ClosedHandCursor);
      move(x(), mapToParent(mouse->position().toPoint()).y() - press_.y());
      return true;
    }
  }
  if (event->type() == QEvent::MouseButtonRelease && dragging_ && static_cast<QMouseEvent*>(event)->button() == Qt::LeftButton) {
    dragging_ = false;
    header_->setCursor(Qt::OpenHandCursor);
    Q_EMIT dropped(mapToParent(static_cast<QMouseEvent*>(event)->position().toPoint()).y());
    return true;
  }
  return QFrame::eventFilter(watched, event);
}

void RecipeCard::contextMenuEvent(QContextMenuEvent* event) {
  QMenu menu(this);
  if (source_ && !fixed_) {
    menu.addAction(tr("Another source…"), this, &RecipeCard::otherSourceWanted);
  } else if (!source_) {
    menu.addAction(on_ ? tr("Switch off") : tr("Switch on"), this, [this] { Q_EMIT switched(!on_); });
    menu.addAction(tr("Duplicate"), this, &RecipeCard::duplicated);
    menu.addAction(tr("There for a part of the loop"), this, &RecipeCard::presenceWanted);
    menu.addAction(tr("Arrive by itself"), this, [this] { Q_EMIT passageWanted(false); });
    menu.addAction(tr("Leave by itself"), this, [this] { Q_EMIT passageWanted(true); });
    menu.addSeparator();
    menu.addAction(tr("Cut"), this, &RecipeCard::cut);
    menu.addAction(tr("Copy"), this, &RecipeCard::copied);
    menu.addAction(tr("Move up"), this, [this] { Q_EMIT nudged(-1); });
    menu.addAction(tr("Move down"), this, [this] { Q_EMIT nudged(1); });
  }
  menu.addAction(tr("Paste a step below"), this, &RecipeCard::pasted);
  menu.addSeparator();
  menu.addAction(folded_ ? tr("Unfold") : tr("Fold"), foldButton_, &QToolButton::click);
  if (!source_) {
    menu.addSeparator();
    menu.addAction(tr("Remove"), this, &RecipeCard::removed);
  }
  menu.exec(event->globalPos());
}

void RecipeCard::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(QPen(header_->hasFocus() ? t.lagoon : t.line, header_->hasFocus() ? 1.6 : 1));
  p.setBrush(on_ || source_ ? t.card : t.paper);
  p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 7, 7);
}

}  // namespace oa::app
