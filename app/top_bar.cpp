#include "top_bar.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QStyle>
#include <QStyleOptionFrame>
#include <QToolButton>
#include <QUndoStack>
#include <QVBoxLayout>
#include <algorithm>

#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr int kRoomy = 1180;  // pixels that the whole pill needs of the bar

QPixmap dot(const QColor& colour, bool ring) {
  QPixmap pixmap(24, 24);
  pixmap.setDevicePixelRatio(2);
  pixmap.fill(Qt::transparent);
  QPainter p(&pixmap);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(QPen(colour, 2));
  p.setBrush(ring ? QBrush(Qt::NoBrush) : QBrush(colour));
  p.drawEllipse(QPointF(6, 6), 3.6, 3.6);
  return pixmap;
}

// The mark of the program: a circle with its joint.
class Mark : public QWidget {
 public:
  explicit Mark(QWidget* parent) : QWidget(parent) {
    setFixedSize(26, 26);
    setToolTip(tr("Over Again"));
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(Theme::now().persimmon, 3.2, Qt::SolidLine, Qt::FlatCap));
    p.drawArc(QRectF(4, 4, 18, 18), 66 * 16, -312 * 16);
    p.setPen(Qt::NoPen);
    p.setBrush(Theme::now().persimmon);
    p.drawEllipse(QPointF(13, 4), 2.4, 2.4);
  }
};

// A name that looks like a heading until it is pointed at or edited. Escape puts it back.
class NameEdit : public QLineEdit {
 public:
  using QLineEdit::QLineEdit;

 protected:
  void keyPressEvent(QKeyEvent* event) override {
    if (event->key() != Qt::Key_Escape) return QLineEdit::keyPressEvent(event);
    setText(property("scene").toString());
    clearFocus();
  }

  // While nobody writes, a name too long for its place says so by an ellipsis.
  void paintEvent(QPaintEvent* event) override {
    constexpr int kBorder = 8;
    const QRect place = rect().adjusted(kBorder, 0, -kBorder, 0);
    if (hasFocus() || fontMetrics().horizontalAdvance(text()) <= place.width()) return QLineEdit::paintEvent(event);
    QPainter p(this);
    QStyleOptionFrame option;
    initStyleOption(&option);
    style()->drawPrimitive(QStyle::PE_PanelLineEdit, &option, &p, this);
    p.setPen(palette().color(QPalette::Text));
    p.drawText(place, Qt::AlignLeft | Qt::AlignVCenter, fontMetrics().elidedText(text(), Qt::ElideRight, place.width()));
  }
};

}  // namespace

TopBar::TopBar(Document& document, const Commands& commands, QWidget* parent) : QWidget(parent), document_(document) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  auto* row = new QHBoxLayout();
  row->setContentsMargins(12, 7, 12, 7);
  row->setSpacing(5);
  row->addWidget(new Mark(this));
  menus_ = new QMenuBar(this);
  menus_->setNativeMenuBar(false);
  menus_->setSizePolicy(QSizePolicy::Minimum, QSizePolicy::Fixed);
  for (const Commands::Section& section : commands.sections()) {
    QStringList ids;
    for (const QString& id : section.ids)
      if (id == QLatin1String("-") || commands.command(id).run) ids << id;
    if (ids.isEmpty()) continue;
    QMenu* menu = menus_->addMenu(section.title);
    menu->setObjectName(QStringLiteral("menu-") + QString(section.title).remove(QLatin1Char('&')).toLower());
    commands.fill(menu, ids);
  }
  row->addWidget(menus_);
  name_ = new NameEdit(this);
  name_->setObjectName(QStringLiteral("sceneName"));
  name_->setAccessibleName(tr("Name of the scene"));
  name_->setPlaceholderText(tr("Untitled"));
  name_->setMaxLength(100);
  name_->setStyleSheet(
      QStringLiteral("QLineEdit { background: transparent; border: 1px solid transparent; font-weight: 600; } "
                     "QLineEdit:hover { border: 1px solid %1; } QLineEdit:focus { background: %2; border: 1.5px solid %3; }")
          .arg(Theme::now().line.name(), Theme::now().card.name(), Theme::now().lagoon.name()));
  row->addWidget(name_);
  dirty_ = new QLabel(QStringLiteral("•"), this);
  dirty_->setObjectName(QStringLiteral("dirtyMark"));
  dirty_->setToolTip(tr("There are changes that are not saved"));
  dirty_->setAccessibleName(tr("Not saved"));
  row->addWidget(dirty_);
  row->addStretch(1);
  const auto button = [&](const QString& id, const QString& words, const char* name) {
    auto* made = new QPushButton(words, this);
    made->setObjectName(QLatin1String(name));
    made->setToolTip(commands.tip(id));
    connect(made, &QPushButton::clicked, commands.action(id), &QAction::trigger);
    row->addWidget(made);
    return made;
  };
  pill_ = button(QStringLiteral("frame"), QString(), "framePill");
  pillTip_ = pill_->toolTip();
  pill_->setStyleSheet(QStringLiteral("QPushButton { border-radius: 14px; padding: 4px 14px; }"));
  row->addStretch(1);
  lamp_ = button(QStringLiteral("check"), QString(), "lamp");
  lamp_->setStyleSheet(QStringLiteral("QPushButton { border-radius: 14px; padding: 4px 10px; }"));
  button(QStringLiteral("palette"), tr("Palette"), "paletteButton")->setProperty("quiet", true);
  button(QStringLiteral("new"), tr("Starters"), "startersButton")->setProperty("quiet", true);
  const auto small = [&](const QString& id, const QString& picture) {
    auto* made = new QToolButton(this);
    made->setIcon(icon(picture));
    made->setIconSize(QSize(17, 17));
    made->setAccessibleName(QString(commands.command(id).text).remove(QLatin1Char('&')));
    connect(made, &QToolButton::clicked, commands.action(id), &QAction::trigger);
    row->addWidget(made);
    return made;
  };
  auto* undo = small(QStringLiteral("undo"), QStringLiteral("undo-2"));
  auto* redo = small(QStringLiteral("redo"), QStringLiteral("redo-2"));
  QUndoStack& history = document.history();
  const auto follow = [undo, redo, &history] {
    undo->setEnabled(history.canUndo());
    redo->setEnabled(history.canRedo());
    undo->setToolTip(history.canUndo() ? QObject::tr("Undo: %1").arg(history.undoText()) : QObject::tr("Nothing to undo"));
    redo->setToolTip(history.canRedo() ? QObject::tr("Redo: %1").arg(history.redoText()) : QObject::tr("Nothing to redo"));
  };
  connect(&history, &QUndoStack::indexChanged, undo, follow);
  follow();
  button(QStringLiteral("export"), tr("Export…"), "primary");
  column->addLayout(row);
  column->addWidget(makeError());
  connect(name_, &QLineEdit::editingFinished, this, [this] {
    const std::string name = name_->text().trimmed().toStdString();
    if (name != document_.scene().name) document_.edit(tr("rename the scene"), {}, [&](Scene& s) { s.name = name; });
  });
  connect(name_, &QLineEdit::returnPressed, name_, [this] { name_->clearFocus(); });
  connect(name_, &QLineEdit::textChanged, this, &TopBar::fitName);
  connect(&document, &Document::changed, this, &TopBar::refresh);
  connect(&document, &Document::fileChanged, this, &TopBar::refresh);
  refresh();
  showLamp(nullptr);
}

// An error shows under the bar until it is closed; the work stays.
QWidget* TopBar::makeError() {
  error_ = new QWidget(this);
  error_->setAutoFillBackground(true);
  error_->setStyleSheet(QStringLiteral("background: %1;").arg(blendOf(Theme::now().panel, Theme::now().persimmon, 0.16).name()));
  auto* row = new QHBoxLayout(error_);
  row->setContentsMargins(16, 6, 12, 6);
  errorText_ = new QLabel(error_);
  errorText_->setObjectName(QStringLiteral("errorText"));
  errorText_->setWordWrap(true);
  errorText_->setTextFormat(Qt::PlainText);
  errorText_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  auto* close = new QToolButton(error_);
  close->setIcon(icon(QStringLiteral("x")));
  close->setAccessibleName(tr("Close the message"));
  connect(close, &QToolButton::clicked, error_, &QWidget::hide);
  row->addWidget(errorText_, 1);
  row->addWidget(close);
  error_->hide();
  return error_;
}

void TopBar::fitName() {
  const int words = name_->fontMetrics().horizontalAdvance(name_->text().isEmpty() ? name_->placeholderText() : name_->text());
  name_->setToolTip(tr("The scene's name: %1").arg(name_->text().isEmpty() ? name_->placeholderText() : name_->text()));
  name_->setFixedWidth(std::clamp(words + 26, 80, width() < kRoomy ? 140 : 220));
}

void TopBar::refresh() {
  const Scene& s = document_.scene();
  const QString name = text(s.name);
  name_->setProperty("scene", name);
  if (!name_->hasFocus() || !name_->isModified()) {
    if (name_->text() != name) name_->setText(name);
    name_->setCursorPosition(0);
  }
  fitName();
  dirty_->setVisible(document_.dirty());
  const QString size = tr("%1 × %2").arg(s.width).arg(s.height);
  const QString rate = text(numberText(s.rate.value(), 3));
  const QString seconds = text(numberText(s.seconds(), 2));
  const QString whole = tr("%1  ·  %2 fps  ·  %3 s = %4 frames").arg(size, rate, seconds).arg(s.frames);
  // Where there is little room the essence stays readable; the rest is a pointer away.
  pill_->setText(width() < kRoomy ? tr("%1 · %2 s").arg(size, seconds) : whole);
  pill_->setToolTip(whole + QLatin1Char('\n') + pillTip_);
  pill_->setAccessibleName(whole);
}

void TopBar::resizeEvent(QResizeEvent*) { refresh(); }

void TopBar::editName() {
  name_->setFocus(Qt::ShortcutFocusReason);
  name_->selectAll();
}

void TopBar::showLamp(const JointCheck* check) {
  const Theme& t = Theme::now();
  if (!check) {
    lamp_->setIcon(QIcon(dot(t.muted, true)));
    lamp_->setText(tr("Looking…"));
    lamp_->setToolTip(tr("The joint is being measured"));
    return;
  }
  const JointReport& r = check->scene;
  if (r.median <= 0 && r.joint <= 0) {
    lamp_->setIcon(QIcon(dot(t.muted, false)));
    lamp_->setText(tr("At rest"));
  } else {
    lamp_->setIcon(QIcon(dot(r.clean ? (r.steady ? t.moss : t.ochre) : t.persimmon, false)));
    lamp_->setText(r.clean ? (r.steady ? tr("Loops clean") : tr("Speed changes")) : tr("Jumps"));
  }
  lamp_->setToolTip(text(check->sentence()));
}

void TopBar::showError(const QString& message) {
  errorText_->setText(message);
  error_->show();
}

void TopBar::hideError() { error_->hide(); }

QString TopBar::errorShown() const { return error_->isHidden() ? QString() : errorText_->text(); }

}  // namespace oa::app
