#include "widgets/curve_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "widgets/curve_drawing.h"
#include "widgets/far_end.h"
#include "widgets/number_field.h"
#include "widgets/pace_editor.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

// The tables of the motion's own numbers, so that they behave like every other number.
const ParamSpec kLaps{.id = "laps",
                      .label = "Laps",
                      .help = "Whole laps in a loop; negative ones run backwards.",
                      .type = ParamType::Integer,
                      .base = 1.0,
                      .min = -kMaxLaps,
                      .max = kMaxLaps,
                      .sliderMin = -12,
                      .sliderMax = 12};
const ParamSpec kStart{
    .id = "start", .label = "Head start", .help = "Where on its lap the motion begins.", .base = 0.0, .min = 0, .max = 0.999};

constexpr double kOutside = 0.13;  // of the width, on each side, for what came before and comes next

}  // namespace

CurveCanvas::CurveCanvas(Document& document, Player& player, QWidget* parent) : QWidget(parent), document_(document), player_(player) {
  setMinimumSize(220, 90);
  setToolTip(tr("Drag sideways for the head start; drag the bead up or down for how far it swings"));
  setAccessibleName(tr("Curve of the chosen motion"));
  connect(&player, &Player::frameChanged, this, qOverload<>(&QWidget::update));
}

void CurveCanvas::setMotion(std::optional<ParamAddress> at) {
  at_ = at;
  update();
}

QRectF CurveCanvas::loopRect() const { return QRectF(rect()).adjusted(width() * kOutside, 1, -width() * kOutside, -1); }

std::optional<QPointF> CurveCanvas::bead() const {
  if (!at_ || !document_.valid(*at_)) return {};
  const Param& param = document_.param(*at_);
  if (param.motion.kind != MotionKind::Swing) return {};
  // Where in the first lap the swing is at its far end.
  double best = -1;
  double share = 0.5;
  for (int i = 0; i < 400; ++i) {
    const double lap = i / 400.0;
    const double w = swingAt(param.motion.shape, param.motion.shares, param.motion.pace.at(fract(lap + param.motion.start)));
    if (w > best) {
      best = w;
      share = lap;
    }
  }
  const QRectF loop = loopRect();
  const QRectF box = loop.adjusted(0, 18, 0, -24);
  const CurveRange range = curveRange(document_.spec(*at_), param);
  const double v = curveHeight(document_.spec(*at_), param, share);
  const double place = param.motion.laps < 0 ? 1 - share : share;
  return QPointF(loop.left() + loop.width() * place / std::abs(param.motion.laps),
                 box.bottom() - box.height() * (v - range.low) / (range.high - range.low));
}

void CurveCanvas::paintEvent(QPaintEvent*) {
  const Theme& t = Theme::now();
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const QRectF all = QRectF(rect()).adjusted(0.5, 0.5, -0.5, -0.5);
  const QRectF loop = loopRect();
  p.setPen(QPen(t.line, 1));
  p.setBrush(blendOf(t.panel, t.ink, 0.04));
  p.drawRoundedRect(all, 5, 5);
  p.fillRect(loop, t.card);
  p.setFont(uiFont(10));
  p.setPen(t.muted);
  // Beside the loop, where there is room for the word.
  const auto beside = [&](double left, double right, const QString& word) {
    if (p.fontMetrics().horizontalAdvance(word) < right - left) p.drawText(QRectF(left, 4, right - left, 16), Qt::AlignCenter, word);
  };
  beside(all.left(), loop.left(), tr("before"));
  beside(loop.right(), all.right(), tr("again"));
  const double seconds = document_.scene().seconds();
  p.drawText(QRectF(loop.left() + 6, loop.bottom() - 19, 80, 16), Qt::AlignLeft | Qt::AlignVCenter, tr("0 s"));
  p.drawText(QRectF(loop.right() - 126, loop.bottom() - 19, 120, 16), Qt::AlignRight | Qt::AlignVCenter,
             tr("%1 s = 0 s").arg(text(numberText(seconds, 2))));
  if (at_ && document_.valid(*at_) && document_.param(*at_).motion.moves()) {
    const double side = kOutside / (1 - 2 * kOutside);
    p.setPen(QPen(t.lagoon, 2));
    p.setBrush(Qt::NoBrush);
    p.save();
    p.setClipRect(all);
    p.drawPath(motionPath(document_.spec(*at_), document_.param(*at_), QRectF(0, 18, width(), height() - 42), -side, 1 + side));
    p.restore();
  } else {
    p.drawText(loop, Qt::AlignCenter, tr("Choose a motion"));
  }
  p.setPen(QPen(t.persimmon, 1.5));
  p.drawLine(loop.topLeft(), loop.bottomLeft());
  p.drawLine(loop.topRight(), loop.bottomRight());
  const double x = loop.left() + loop.width() * player_.frame() / document_.scene().frames;
  p.setPen(QPen(t.persimmon, 1.5, Qt::DotLine));
  p.drawLine(QPointF(x, loop.top()), QPointF(x, loop.bottom()));
  if (const auto place = bead()) {
    p.setPen(QPen(t.lagoon, 2));
    p.setBrush(t.card);
    p.drawEllipse(*place, 5.5, 5.5);
  }
}

void CurveCanvas::mousePressEvent(QMouseEvent* event) {
  if (!at_ || !document_.valid(*at_) || !document_.param(*at_).motion.moves()) return;
  press_ = event->position();
  pressed_ = document_.param(*at_);
  const auto place = bead();
  onBead_ = place && QLineF(*place, press_).length() < 14;
  dragging_ = true;
}

void CurveCanvas::mouseMoveEvent(QMouseEvent* event) {
  if (!dragging_) return;
  const QPointF moved = event->position() - press_;
  Motion motion = pressed_.motion;
  const ParamSpec& spec = document_.spec(*at_);
  if (onBead_ && std::holds_alternative<double>(pressed_.base)) {
    const double base = std::get<double>(pressed_.base);
    const double far = std::get<double>(motion.far);
    // The height of the drawing stands for the distance there was, or a fifth of the range at least.
    const double reach = std::max(std::abs(far - base), (spec.high() - spec.low()) * 0.2);
    const double to = far - moved.y() / std::max(20, height() - 42) * reach;
    const double digits = std::pow(10, std::floor(std::log10(reach / 100)));
    motion.far = std::clamp(spec.isWhole() ? std::round(to) : std::round(to / digits) * digits, spec.min, spec.max);
  } else {
    const double laps = std::abs(motion.laps);
    const double direction = motion.laps < 0 ? 1 : -1;
    motion.start = fract(std::round((pressed_.motion.start + direction * moved.x() / loopRect().width() * laps) * 1000) / 1000);
  }
  document_.setMotion(*at_, motion, true);
}

void CurveCanvas::mouseReleaseEvent(QMouseEvent*) {
  if (dragging_) document_.endGesture();
  dragging_ = false;
}

CurveView::CurveView(Document& document, Player& player, QWidget* parent) : QWidget(parent), document_(document) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(4, 8, 12, 8);
  column->setSpacing(6);
  tools_ = new QWidget(this);
  auto* rows = new QVBoxLayout(tools_);
  rows->setContentsMargins(0, 0, 0, 0);
  rows->setSpacing(4);
  firstRow_ = new QHBoxLayout();
  secondRow_ = new QHBoxLayout();
  rows->addLayout(firstRow_);
  rows->addLayout(secondRow_);
  auto* row = firstRow_;
  row->setSpacing(4);
  const auto label = [&](const QString& words) {
    auto* l = new QLabel(words, tools_);
    l->setObjectName(QStringLiteral("muted"));
    row->addWidget(l);
  };
  const auto number = [&](const ParamSpec& spec, int width) {
    auto* field = new NumberField(spec, tools_);
    field->setFixedWidth(width);
    field->setAccessibleName(text(spec.label));
    field->setToolTip(text(spec.help));
    row->addWidget(field);
    connect(field, &NumberField::released, this, [this] { document_.endGesture(); });
    return field;
  };
  label(tr("Laps"));
  laps_ = number(kLaps, 40);
  laps_->setObjectName(QStringLiteral("laps"));
  label(tr("From"));
  start_ = number(kStart, 48);
  start_->setObjectName(QStringLiteral("headStart"));
  far_ = new FarEnd(document, tools_);
  row->addWidget(far_);
  row->addStretch(1);
  shape_ = new QComboBox(tools_);
  shape_->setAccessibleName(tr("Shape of the swing"));
  for (const auto& name : swingShapeNames()) shape_->addItem(text(name));
  shape_->setMinimumWidth(86);
  row->addWidget(shape_);
  pace_ = new QComboBox(tools_);
  pace_->setAccessibleName(tr("Pace within a lap"));
  pace_->setToolTip(tr("How a lap hurries and rests (names of the CSS easing standard)"));
  for (const auto& name : Pace::names()) pace_->addItem(text(name));
  pace_->addItem(tr("own curve…"));
  pace_->setObjectName(QStringLiteral("pace"));
  pace_->setMinimumWidth(96);
  row->addWidget(pace_);
  paceEditor_ = new PaceEditor(this);
  connect(paceEditor_->curve(), &PaceCurve::moved, this, [this](const Pace& pace) { change([&](Motion& m) { m.pace = pace; }, true); });
  connect(paceEditor_->curve(), &PaceCurve::released, this, [this] { document_.endGesture(); });
  column->addWidget(tools_);
  canvas_ = new CurveCanvas(document, player, this);
  column->addWidget(canvas_, 1);
  connect(laps_, &NumberField::moved, this,
          [this](double v) { change([&](Motion& m) { m.laps = v == 0 ? (m.laps > 0 ? -1 : 1) : static_cast<int>(v); }, true); });
  connect(start_, &NumberField::moved, this, [this](double v) { change([&](Motion& m) { m.start = v; }, true); });
  connect(pace_, &QComboBox::activated, this, [this](int i) {
    if (i == pace_->count() - 1) {
      if (at_ && document_.valid(*at_))
        paceEditor_->popup(document_.param(*at_).motion.pace, pace_->mapToGlobal(QPoint(pace_->width(), -4)));
      return refresh();
    }
    if (auto pace = Pace::fromName(Pace::names()[static_cast<std::size_t>(i)])) change([&](Motion& m) { m.pace = *pace; }, false);
  });
  connect(shape_, &QComboBox::activated, this, [this](int i) { change([&](Motion& m) { m.shape = static_cast<SwingShape>(i); }, false); });
  connect(&document, &Document::changed, this, &CurveView::refresh);
  refresh();
}

// In a narrow window the two choices stand below the numbers.
void CurveView::resizeEvent(QResizeEvent*) {
  QHBoxLayout* wanted = width() < 470 ? secondRow_ : firstRow_;
  for (QWidget* choice : std::initializer_list<QWidget*>{shape_, pace_}) {
    firstRow_->removeWidget(choice);
    secondRow_->removeWidget(choice);
    wanted->addWidget(choice);
  }
}

void CurveView::change(const std::function<void(Motion&)>& edit, bool gesture) {
  if (!at_ || !document_.valid(*at_)) return;
  Motion motion = document_.param(*at_).motion;
  edit(motion);
  document_.setMotion(*at_, motion, gesture);
}

void CurveView::setMotion(std::optional<ParamAddress> at) {
  at_ = at;
  canvas_->setMotion(at);
  refresh();
}

void CurveView::refresh() {
  const bool moving = at_ && document_.valid(*at_) && document_.param(*at_).motion.moves();
  tools_->setVisible(moving);
  canvas_->update();
  if (!moving) return;
  const Param& param = document_.param(*at_);
  laps_->setValue(param.motion.laps);
  start_->setValue(param.motion.start);
  const bool swings = param.motion.kind == MotionKind::Swing;
  shape_->setVisible(swings);
  shape_->setCurrentIndex(static_cast<int>(param.motion.shape));
  far_->setMotion(at_);
  const auto& names = Pace::names();
  const auto found = std::find(names.begin(), names.end(), param.motion.pace.name());
  pace_->setCurrentIndex(static_cast<int>(found - names.begin()));  // the last entry is the user's own
}

}  // namespace oa::app
