#include "widgets/emptied.h"
#include "widgets/pace_editor.h"

#include <QClipboard>
#include <QGridLayout>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMouseEvent>
#include <QPainter>
#include <QPainterPath>
#include <QSettings>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr double kOvershoot = 1.5;  // how far beyond the lap's ends handles may be dragged
constexpr QSize kPicture(38, 30);
constexpr int kInRow = 5;
constexpr int kMostSaved = 10;
constexpr const char* kSavedKey = "paces/saved";

// Curves as they are; lines and steps from corner to corner.
QPainterPath pathOf(const Pace& pace, const QRectF& box) {
  const auto at = [&](double u, double done) { return QPointF(box.left() + u * box.width(), box.bottom() - done * box.height()); };
  QPainterPath path(at(0, pace.at(0)));
  if (pace.kind() == Pace::Kind::Bezier) {
    const auto& b = pace.bezier();
    path.cubicTo(at(b[0], b[1]), at(b[2], b[3]), at(1, 1));
    return path;
  }
  if (pace.kind() == Pace::Kind::Lines) {
    for (const PaceStop& stop : pace.stops()) path.lineTo(at(stop.at, stop.done));
    return path;
  }
  constexpr int kSamples = 400;
  double before = pace.at(0);
  for (int i = 1; i <= kSamples; ++i) {
    const double u = static_cast<double>(i) / kSamples;
    const double here = pace.at(u);
    if (here != before) path.lineTo(at(u, before));
    if (here != before || i == kSamples) path.lineTo(at(u, here));
    before = here;
  }
  return path;
}

struct Ready {
  const char* name;
  Pace pace;
};
const std::vector<Ready>& readyPaces() {
  static const std::vector<Ready> list{
      {QT_TRANSLATE_NOOP("PaceEditor", "Evenly"), Pace()},
      {QT_TRANSLATE_NOOP("PaceEditor", "Ease"), *Pace::fromName("ease")},
      {QT_TRANSLATE_NOOP("PaceEditor", "Slow at first"), *Pace::fromName("ease-in")},
      {QT_TRANSLATE_NOOP("PaceEditor", "Slow at last"), *Pace::fromName("ease-out")},
      {QT_TRANSLATE_NOOP("PaceEditor", "Slow at both ends"), *Pace::fromName("ease-in-out")},
      {QT_TRANSLATE_NOOP("PaceEditor", "A little too far, and back"), *Pace::fromBezier(0.3, 1.5, 0.6, 1)},
      {QT_TRANSLATE_NOOP("PaceEditor", "Soft spring"), Pace::spring(2, 0.2)},
      {QT_TRANSLATE_NOOP("PaceEditor", "Spring"), Pace::spring(5, 0.55)},
      {QT_TRANSLATE_NOOP("PaceEditor", "Bounce"), Pace::bounce(3, 0.3)},
      {QT_TRANSLATE_NOOP("PaceEditor", "Four steps"), *Pace::fromSteps(4, StepJump::End)},
  };
  return list;
}

}  // namespace

PaceCurve::PaceCurve(QWidget* parent) : QWidget(parent) {
  setObjectName(QStringLiteral("paceCurve"));
  setFixedSize(196, 196);
  setFocusPolicy(Qt::StrongFocus);
  setAccessibleName(tr("Pace of a lap"));
  setToolTip(tr("Drag the two handles. Page Up and Page Down choose one, arrow keys move it."));
}

void PaceCurve::setPace(const Pace& pace) {
  pace_ = pace;
  update();
}

QRectF PaceCurve::box() const { return QRectF(rect()).adjusted(16, 48, -16, -48); }

QPointF PaceCurve::place(int handle) const {
  const auto& b = pace_.bezier();
  const auto i = static_cast<std::size_t>(handle) * 2;
  return {box().left() + b[i] * box().width(), box().bottom() - b[i + 1] * box().height()};
}

void PaceCurve::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(QPen(hasFocus() ? t.lagoon : t.line, 1));
  p.setBrush(t.paper);
  p.drawRoundedRect(QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5), 6, 6);
  p.setPen(QPen(t.line, 1));
  p.setBrush(t.card);
  p.drawRect(box());
  const QPointF from = box().bottomLeft();
  const QPointF to = box().topRight();
  // Lines and steps have no handles; they are written.
  const bool handles = pace_.kind() == Pace::Kind::Bezier;
  if (handles) {
    p.setPen(QPen(t.muted, 1));
    p.drawLine(from, place(0));
    p.drawLine(to, place(1));
  }
  p.setPen(QPen(t.lagoon, 2));
  p.setBrush(Qt::NoBrush);
  p.drawPath(pathOf(pace_, box()));
  if (!handles) return;
  for (const int i : {0, 1}) {
    p.setPen(QPen(i == handle_ ? t.persimmon : t.lagoon, 2));
    p.setBrush(t.card);
    p.drawEllipse(place(i), 6, 6);
  }
}

void PaceCurve::moveHandle(double x, double y) {
  if (pace_.kind() != Pace::Kind::Bezier) return;
  auto b = pace_.bezier();
  const auto i = static_cast<std::size_t>(handle_) * 2;
  b[i] = std::clamp(std::round(x * 100) / 100, 0.0, 1.0);
  b[i + 1] = std::clamp(std::round(y * 100) / 100, 1 - kOvershoot, kOvershoot);
  if (const auto pace = Pace::fromBezier(b[0], b[1], b[2], b[3]); pace && *pace != pace_) {
    setPace(*pace);
    Q_EMIT moved(pace_);
  }
}

void PaceCurve::mousePressEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  handle_ = QLineF(event->position(), place(0)).length() <= QLineF(event->position(), place(1)).length() ? 0 : 1;
  dragging_ = true;
  update();
}

void PaceCurve::mouseMoveEvent(QMouseEvent* event) {
  if (!dragging_) return;
  moveHandle((event->position().x() - box().left()) / box().width(), (box().bottom() - event->position().y()) / box().height());
}

void PaceCurve::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  dragging_ = false;
  Q_EMIT released();
}

void PaceCurve::keyPressEvent(QKeyEvent* event) {
  const auto& b = pace_.bezier();
  const auto i = static_cast<std::size_t>(handle_) * 2;
  const double step = event->modifiers() & Qt::ShiftModifier ? 0.1 : 0.01;
  switch (event->key()) {
    case Qt::Key_PageUp:
    case Qt::Key_PageDown:
      handle_ = 1 - handle_;
      return update();
    case Qt::Key_Left:
      return moveHandle(b[i] - step, b[i + 1]);
    case Qt::Key_Right:
      return moveHandle(b[i] + step, b[i + 1]);
    case Qt::Key_Up:
      return moveHandle(b[i], b[i + 1] + step);
    case Qt::Key_Down:
      return moveHandle(b[i], b[i + 1] - step);
    default:
      QWidget::keyPressEvent(event);
  }
}

QPixmap pacePicture(const Pace& pace, QSize size, const QColor& colour, qreal ratio) {
  QPixmap pixmap(size * ratio);
  pixmap.setDevicePixelRatio(ratio);
  pixmap.fill(Qt::transparent);
  QPainter p(&pixmap);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(QPen(colour, 1.6));
  // What goes beyond its ends has room for it.
  double low = 0;
  double high = 1;
  for (int i = 0; i <= 64; ++i) {
    low = std::min(low, pace.at(i / 64.0));
    high = std::max(high, pace.at(i / 64.0));
  }
  const QRectF all = QRectF(QPointF(), QSizeF(size)).adjusted(3, 4, -3, -4);
  const double unit = all.height() / (high - low);
  p.drawPath(pathOf(pace, QRectF(all.left(), all.top() + (high - 1) * unit, all.width(), unit)));
  return pixmap;
}

PaceEditor::PaceEditor(QWidget* parent) : QFrame(parent, Qt::Popup) {
  setObjectName(QStringLiteral("paceEditor"));
  setAutoFillBackground(true);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(12, 10, 12, 12);
  auto* heading = new QLabel(tr("Pace of a lap"), this);
  heading->setObjectName(QStringLiteral("heading"));
  column->addWidget(heading);
  auto* ready = new QGridLayout();
  ready->setSpacing(2);
  int i = 0;
  for (const Ready& each : readyPaces()) {
    auto* button = picture(each.pace, tr(each.name), this);
    button->setObjectName(QStringLiteral("readyPace%1").arg(i));
    ready->addWidget(button, i / kInRow, i % kInRow);
    ++i;
  }
  column->addLayout(ready);
  curve_ = new PaceCurve(this);
  column->addWidget(curve_, 0, Qt::AlignHCenter);
  auto* line = new QHBoxLayout();
  line->setSpacing(2);
  css_ = new QLineEdit(this);
  css_->setObjectName(QStringLiteral("paceCss"));
  css_->setAccessibleName(tr("The pace as CSS writes it"));
  css_->setToolTip(tr("The pace as CSS writes it: paste one here, such as linear(0, 1.2 40%, 1) or steps(4)"));
  line->addWidget(css_, 1);
  auto* copy = new QToolButton(this);
  copy->setObjectName(QStringLiteral("copyPace"));
  copy->setIcon(icon(QStringLiteral("copy")));
  copy->setToolTip(tr("Copy it, for a page's style sheet"));
  copy->setAccessibleName(copy->toolTip());
  line->addWidget(copy);
  save_ = new QToolButton(this);
  save_->setObjectName(QStringLiteral("savePace"));
  save_->setIcon(icon(QStringLiteral("plus")));
  save_->setToolTip(tr("Keep this pace below"));
  save_->setAccessibleName(save_->toolTip());
  line->addWidget(save_);
  column->addLayout(line);
  problem_ = new QLabel(this);
  problem_->setObjectName(QStringLiteral("error"));
  problem_->setWordWrap(true);
  problem_->hide();
  column->addWidget(problem_);
  saved_ = new QWidget(this);
  auto* kept = new QGridLayout(saved_);
  kept->setContentsMargins(0, 0, 0, 0);
  kept->setSpacing(2);
  column->addWidget(saved_);
  connect(curve_, &PaceCurve::moved, this, &PaceEditor::take);
  connect(curve_, &PaceCurve::released, this, &PaceEditor::released);
  connect(css_, &QLineEdit::returnPressed, this, &PaceEditor::takeText);
  connect(css_, &QLineEdit::textEdited, this, [this] { problem_->hide(); });
  connect(copy, &QToolButton::clicked, this, [this] { QGuiApplication::clipboard()->setText(text(pace_.css())); });
  connect(save_, &QToolButton::clicked, this, [this] {
    QStringList list = QSettings().value(QLatin1String(kSavedKey)).toStringList();
    const QString own = text(pace_.css());
    list.removeAll(own);
    list.prepend(own);
    while (list.size() > kMostSaved) list.removeLast();
    QSettings().setValue(QLatin1String(kSavedKey), list);
    rebuildSaved();
  });
}

QToolButton* PaceEditor::picture(const Pace& pace, const QString& name, QWidget* parent) {
  auto* button = new QToolButton(parent);
  button->setIcon(QIcon(pacePicture(pace, kPicture, Theme::now().lagoon, devicePixelRatioF())));
  button->setIconSize(kPicture);
  button->setToolTip(name);
  button->setAccessibleName(name);
  connect(button, &QToolButton::clicked, this, [this, pace] {
    take(pace);
    Q_EMIT released();
  });
  return button;
}

void PaceEditor::rebuildSaved() {
  takeAllOut(saved_);
  auto* grid = static_cast<QGridLayout*>(saved_->layout());
  int i = 0;
  for (const QString& own : QSettings().value(QLatin1String(kSavedKey)).toStringList()) {
    const auto pace = Pace::fromCss(own.toStdString());
    if (!pace || i >= kMostSaved) continue;
    auto* button = picture(*pace, tr("%1\nThe right button takes it away").arg(own), saved_);
    button->setObjectName(QStringLiteral("savedPace%1").arg(i));
    button->setAccessibleName(tr("Kept pace %1").arg(i + 1));
    button->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(button, &QToolButton::customContextMenuRequested, this, [this, own] {
      QStringList list = QSettings().value(QLatin1String(kSavedKey)).toStringList();
      list.removeAll(own);
      QSettings().setValue(QLatin1String(kSavedKey), list);
      rebuildSaved();
    });
    grid->addWidget(button, i / kInRow, i % kInRow);
    ++i;
  }
  saved_->setVisible(i > 0);
  adjustSize();
}

void PaceEditor::show(const Pace& pace) {
  pace_ = pace;
  curve_->setPace(pace);
  css_->setText(text(pace.css()));
  css_->setCursorPosition(0);
  problem_->hide();
}

void PaceEditor::take(const Pace& pace) {
  show(pace);
  Q_EMIT moved(pace);
}

void PaceEditor::takeText() {
  const auto pace = Pace::fromCss(css_->text().toStdString());
  if (pace) {
    take(*pace);
    Q_EMIT released();
    return;
  }
  problem_->setText(text(pace.error().message));
  problem_->show();
  adjustSize();
}

void PaceEditor::popup(const Pace& pace, const QPoint& globalTopRight) {
  show(pace);
  rebuildSaved();
  adjustSize();
  move(globalTopRight - QPoint(width(), height()));
  QFrame::show();
  curve_->setFocus();
}

}  // namespace oa::app
