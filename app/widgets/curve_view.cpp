#include "widgets/curve_view.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "widgets/curve_drawing.h"
#include "widgets/far_end.h"
#include "widgets/follow_row.h"
#include "widgets/formula_row.h"
#include "widgets/number_field.h"
#include "widgets/pace_editor.h"
#include "widgets/switch_row.h"
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
const ParamSpec kKnots{.id = "knots",
                       .label = "Places",
                       .help = "How many random places a lap passes through.",
                       .type = ParamType::Integer,
                       .base = 5.0,
                       .min = 2,
                       .max = kMaxKnots};

}  // namespace

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
  lapsLabel_ = tools_->findChildren<QLabel*>().last();
  laps_ = number(kLaps, 40);
  laps_->setObjectName(QStringLiteral("laps"));
  label(tr("From"));
  startLabel_ = tools_->findChildren<QLabel*>().last();
  start_ = number(kStart, 48);
  start_->setObjectName(QStringLiteral("headStart"));
  far_ = new FarEnd(document, tools_);
  row->addWidget(far_);
  label(tr("Places"));
  placesLabel_ = tools_->findChildren<QLabel*>().last();
  knots_ = number(kKnots, 36);
  knots_->setObjectName(QStringLiteral("knots"));
  another_ = new QToolButton(tools_);
  another_->setIcon(icon(QStringLiteral("dices")));
  another_->setToolTip(tr("Another one at random"));
  another_->setAccessibleName(tr("Another one at random"));
  row->addWidget(another_);
  own_ = new QPushButton(tr("Own list"), tools_);
  own_->setCheckable(true);
  own_->setObjectName(QStringLiteral("ownHops"));
  own_->setToolTip(tr("Values of your own, one after the other, instead of random ones"));
  row->addWidget(own_);
  even_ = new QPushButton(tools_);
  even_->setObjectName(QStringLiteral("evenHops"));
  row->addWidget(even_);
  row->addStretch(1);
  shape_ = new QComboBox(tools_);
  shape_->setAccessibleName(tr("Shape of the swing"));
  for (const auto& name : swingShapeNames()) shape_->addItem(text(name));
  shape_->setMinimumWidth(86);
  row->addWidget(shape_);
  band_ = new QComboBox(tools_);
  band_->setAccessibleName(tr("Part of the sound"));
  band_->setToolTip(tr("Which part of the sound is followed: all of it, or its low, middle or high tones"));
  band_->setObjectName(QStringLiteral("band"));
  for (const auto& name : soundBandNames()) band_->addItem(text(name));
  band_->setMinimumWidth(86);
  row->addWidget(band_);
  pace_ = new QComboBox(tools_);
  pace_->setAccessibleName(tr("Pace within a lap"));
  pace_->setToolTip(tr("How a lap hurries and rests (names of the CSS easing standard)"));
  for (const auto& name : Pace::names()) pace_->addItem(text(name));
  pace_->addItem(tr("own…"));
  pace_->addItem(tr("hold"));
  pace_->setObjectName(QStringLiteral("pace"));
  pace_->setMinimumWidth(96);
  row->addWidget(pace_);
  paceEditor_ = new PaceEditor(this);
  connect(paceEditor_, &PaceEditor::moved, this,
          [this](const Pace& pace) { change([&](Motion& m) { paceOf(m, canvas_->chosenKey()) = pace; }, true); });
  connect(paceEditor_, &PaceEditor::released, this, [this] { document_.endGesture(); });
  switch_ = new SwitchRow(tools_);
  formula_ = new FormulaRow(tools_);
  follow_ = new FollowRow(document, tools_);
  const auto addRow = [&](auto* made) {
    using Row = std::remove_pointer_t<decltype(made)>;
    rows->addWidget(made);
    connect(made, &Row::changed, this, &CurveView::change);
    connect(made, &Row::released, this, [this] { document_.endGesture(); });
  };
  addRow(switch_);
  addRow(formula_);
  addRow(follow_);
  column->addWidget(tools_);
  canvas_ = new CurveCanvas(document, player, this);
  column->addWidget(canvas_, 1);
  connect(laps_, &NumberField::moved, this,
          [this](double v) { change([&](Motion& m) { m.laps = v == 0 ? (m.laps > 0 ? -1 : 1) : static_cast<int>(v); }, true); });
  connect(start_, &NumberField::moved, this, [this](double v) { change([&](Motion& m) { m.start = v; }, true); });
  connect(pace_, &QComboBox::activated, this, [this](int i) {
    if (!at_ || !document_.valid(*at_)) return;
    const int key = canvas_->chosenKey();
    const int names = static_cast<int>(Pace::names().size());
    Motion motion = document_.voice(*at_).motion;
    const bool keyed = motion.kind == MotionKind::Keyframes && !motion.keys.empty();
    if (keyed) motion.keys[static_cast<std::size_t>(key)].hold = i == names + 1;
    if (i < names) paceOf(motion, key) = *Pace::fromName(Pace::names()[static_cast<std::size_t>(i)]);
    document_.setMotion(*at_, motion, false);
    if (i == names) paceEditor_->popup(paceOf(motion, key), pace_->mapToGlobal(QPoint(pace_->width(), -4)));
    refresh();
  });
  connect(shape_, &QComboBox::activated, this, [this](int i) { change([&](Motion& m) { m.shape = static_cast<SwingShape>(i); }, false); });
  connect(band_, &QComboBox::activated, this, [this](int i) { change([&](Motion& m) { m.band = static_cast<SoundBand>(i); }, false); });
  connect(knots_, &NumberField::moved, this, [this](double v) { change([&](Motion& m) { m.knots = static_cast<int>(v); }, true); });
  connect(another_, &QToolButton::clicked, this, [this] { change([](Motion& m) { m.seed = (m.seed + 1) % 1000000; }, false); });
  connect(own_, &QPushButton::clicked, this, [this](bool own) {
    change([this, own](Motion& m) { own ? listHops(document_.spec(*at_), document_.voice(*at_), m) : m.list.clear(); }, false);
  });
  connect(even_, &QPushButton::clicked, this, [this] {
    change(
        [this](Motion& m) {
          const int even = evenHops(document_.scene().frames, m.laps, hopCount(m));
          if (m.list.empty())
            m.knots = even;
          else
            m.list.resize(static_cast<std::size_t>(even), document_.voice(*at_).base);
        },
        false);
  });
  connect(canvas_, &CurveCanvas::keyChosen, this, &CurveView::refresh);
  connect(&document, &Document::changed, this, &CurveView::refresh);
  refresh();
}

// In a narrow window the two choices stand below the numbers.
void CurveView::resizeEvent(QResizeEvent*) {
  QHBoxLayout* wanted = width() < 470 ? secondRow_ : firstRow_;
  for (QWidget* choice : std::initializer_list<QWidget*>{shape_, band_, pace_}) {
    firstRow_->removeWidget(choice);
    secondRow_->removeWidget(choice);
    wanted->addWidget(choice);
  }
}

void CurveView::putOnTop(QWidget* strip) { static_cast<QVBoxLayout*>(layout())->insertWidget(0, strip); }

Pace& CurveView::paceOf(Motion& motion, int key) {
  if (motion.kind != MotionKind::Keyframes || motion.keys.empty()) return motion.pace;
  return motion.keys[static_cast<std::size_t>(std::clamp(key, 0, static_cast<int>(motion.keys.size()) - 1))].pace;
}

void CurveView::change(const std::function<void(Motion&)>& edit, bool gesture) {
  if (!at_ || !document_.valid(*at_)) return;
  Motion motion = document_.voice(*at_).motion;
  edit(motion);
  document_.setMotion(*at_, motion, gesture);
}

void CurveView::setMotion(std::optional<ParamAddress> at) {
  at_ = at;
  canvas_->setMotion(at);
  refresh();
}

void CurveView::refresh() {
  const bool moving = at_ && document_.valid(*at_) && document_.voice(*at_).motion.moves();
  tools_->setVisible(moving);
  canvas_->update();
  if (!moving) return;
  const Param& param = document_.voice(*at_);
  laps_->setValue(param.motion.laps);
  start_->setValue(param.motion.start);
  const MotionKind kind = param.motion.kind;
  const bool walks = kind == MotionKind::Wander || kind == MotionKind::Hops;
  const bool keyed = kind == MotionKind::Keyframes;
  const bool heard = followsSound(param.motion);
  const bool switches = kind == MotionKind::Switch;
  switch_->setVisible(switches || (kind == MotionKind::Swing && param.motion.shape == SwingShape::Hold));
  switch_->setMotion(param.motion, switches && document_.scene().sound.there(), switches);
  const bool timed = keepsTime(param.motion);
  const bool follows = kind == MotionKind::Follow;
  const bool written = kind == MotionKind::Formula;
  formula_->setVisible(written);
  if (written) formula_->setFormula(param.motion.formula);
  follow_->setVisible(follows);
  if (follows) follow_->setMotion(*at_);
  startLabel_->setVisible(!follows);
  start_->setVisible(!follows);
  lapsLabel_->setVisible(timed);
  laps_->setVisible(timed);
  band_->setVisible(heard);
  band_->setCurrentIndex(static_cast<int>(param.motion.band));
  shape_->setVisible(kind == MotionKind::Swing);
  shape_->setCurrentIndex(static_cast<int>(param.motion.shape));
  far_->setMotion(at_, canvas_->chosenKey());
  const bool listed = kind == MotionKind::Hops && !param.motion.list.empty();
  const bool counted = (walks && !listed) || (switches && param.motion.flicker > 0);
  placesLabel_->setVisible(counted);
  placesLabel_->setText(switches ? tr("Changes") : tr("Places"));
  knots_->setVisible(counted);
  knots_->setValue(param.motion.knots);
  another_->setVisible((walks && !listed) || (switches && param.motion.flicker > 0));
  own_->setVisible(kind == MotionKind::Hops);
  own_->setChecked(listed);
  // Hops that do not share the loop's frames equally are said so, with the nearest number that would.
  const int hops = hopCount(param.motion);
  const int even = kind == MotionKind::Hops ? evenHops(document_.scene().frames, param.motion.laps, hops) : hops;
  even_->setVisible(even != hops && even > 1);
  even_->setText(tr("Make it %1").arg(even));
  even_->setToolTip(tr("%1 places do not share the frames of a lap equally: some are held a frame longer. %2 would.").arg(hops).arg(even));
  pace_->setVisible(!walks && !heard && !switches && !follows && !written);
  Motion motion = param.motion;
  const bool holds = keyed && !motion.keys.empty() && motion.keys[static_cast<std::size_t>(canvas_->chosenKey())].hold;
  const auto& names = Pace::names();
  const auto found = std::find(names.begin(), names.end(), paceOf(motion, canvas_->chosenKey()).name());
  // The last two entries are the user's own and none at all, which only a keyframe can have.
  pace_->setMaxCount(static_cast<int>(names.size()) + (keyed ? 2 : 1));
  if (keyed && pace_->count() < static_cast<int>(names.size()) + 2) pace_->addItem(tr("hold"));
  pace_->setCurrentIndex(holds ? static_cast<int>(names.size()) + 1 : static_cast<int>(found - names.begin()));
}

}  // namespace oa::app
