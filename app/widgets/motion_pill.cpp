#include "widgets/motion_pill.h"

#include <QMenu>
#include <QPainter>
#include <QRandomGenerator>
#include <algorithm>
#include <cmath>

#include "edit/following.h"
#include "edit/items.h"
#include "model/motion_address.h"
#include "params/first_motion.h"
#include "model/heard.h"
#include "widgets/curve_drawing.h"
#include "widgets/fades_dialog.h"
#include "widgets/rate_dialog.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

QString kindTitle(MotionKind kind) {
  switch (kind) {
    case MotionKind::Still:
      return QObject::tr("Still");
    case MotionKind::Turn:
      return QObject::tr("Turn: on and on, home at the end of each lap");
    case MotionKind::Swing:
      return QObject::tr("Swing: there and back");
    case MotionKind::Keyframes:
      return QObject::tr("Keyframes: values of your own round the lap");
    case MotionKind::Wander:
      return QObject::tr("Wander: a smooth random walk that comes home");
    case MotionKind::Hops:
      return QObject::tr("Hops: jumps from place to place, each held");
    case MotionKind::Sound:
      return QObject::tr("Sound: as loud as the scene's sound is");
    case MotionKind::Switch:
      return QObject::tr("Switch: off, on, off; hard, faded or flickering");
    case MotionKind::Follow:
      return QObject::tr("Follow: what another value does, later or larger");
    case MotionKind::Formula:
      return QObject::tr("Formula: written down, such as sin(angle)");
  }
  return {};
}

QIcon kindIcon(const ParamSpec& spec, const Param& param, MotionKind kind) {
  QIcon icon;
  for (const qreal ratio : {1.0, 2.0}) {
    QPixmap pixmap(QSize(28, 16) * ratio);
    pixmap.setDevicePixelRatio(ratio);
    pixmap.fill(Qt::transparent);
    QPainter p(&pixmap);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(Theme::now().lagoon, 1.6));
    Param shown = withMotionAlone(param, 0);
    shown.motion = firstMotion(spec, param, kind);
    shown.motion.laps = kind == MotionKind::Turn ? 2 : 1;
    shown.motion.start = 0;
    if (kind == MotionKind::Still) {
      p.drawLine(QPointF(6, 8), QPointF(22, 8));
    } else if (kind == MotionKind::Follow) {
      // One wave, and the same a little later.
      shown.motion = firstMotion(spec, shown, MotionKind::Swing);
      p.drawPath(motionPath(spec, shown, QRectF(2, 3, 18, 10)));
      p.setPen(QPen(Theme::now().muted, 1.2));
      p.drawPath(motionPath(spec, shown, QRectF(8, 3, 18, 10)));
    } else {
      p.drawPath(motionPath(spec, shown, QRectF(2, 3, 24, 10)));
    }
    icon.addPixmap(pixmap);
  }
  return icon;
}

// What follows a sound, or another value, is only offered where there is one.
std::vector<MotionKind> offeredMotions(const Document& document, const ParamAddress& at) {
  std::vector<MotionKind> kinds = allowedMotions(document.spec(at));
  if (!document.scene().sound.there()) std::erase(kinds, MotionKind::Sound);
  if (!edit::firstLeader(document.scene(), motionAddress(document, at))) std::erase(kinds, MotionKind::Follow);
  return kinds;
}

}  // namespace

MotionPill::MotionPill(Document& document, ParamAddress at, QWidget* parent) : QAbstractButton(parent), document_(document), at_(at) {
  setFocusPolicy(Qt::StrongFocus);
  setFixedSize(52, 22);
  setCursor(Qt::PointingHandCursor);
  setToolTip(tr("What this value does over the loop"));
  setAccessibleName(tr("Motion of %1").arg(oa::app::text(document.spec(at).label)));
  connect(this, &QAbstractButton::clicked, this, &MotionPill::choose);
}

void MotionPill::setAddress(const ParamAddress& at) {
  at_ = at;
  update();
}

void MotionPill::paintEvent(QPaintEvent*) {
  if (!document_.valid(at_)) return;
  const Theme& t = Theme::now();
  const Param& param = document_.param(at_);
  QPainter p(this);
  p.setRenderHint(QPainter::Antialiasing);
  const QRectF box = QRectF(rect()).adjusted(0.75, 0.75, -0.75, -0.75);
  const bool moves = reallyMoves(document_.spec(at_), param);
  p.setPen(QPen(hasFocus() || moves ? t.lagoon : t.line, hasFocus() ? 1.8 : 1.1));
  p.setBrush(moves ? blendOf(t.card, t.lagoon, 0.12) : (underMouse() ? t.panel : t.card));
  p.drawRoundedRect(box, 10.5, 10.5);
  if (!moves) {
    p.setPen(QPen(t.muted, 1.4));
    p.drawLine(QPointF(21, 11), QPointF(31, 11));
    return;
  }
  p.setPen(QPen(t.lagoon, 1.4));
  p.setBrush(Qt::NoBrush);
  Param one = param;
  if (param.more.empty() && keepsTime(param.motion)) one.motion.laps = std::clamp(param.motion.laps, -2, 2);
  p.drawPath(motionPath(document_.spec(at_), one, QRectF(8, 6.5, 18, 9), 0, 1, document_.heard().levels()));
  p.setFont(uiFont(10, 600));
  // Of a sum, how many motions it is of.
  const QString says = param.motion.kind == MotionKind::Follow && param.more.empty() ? QString(QChar(0x2192))
                       : param.more.empty() ? QStringLiteral("×%1").arg(param.motion.laps).replace(QLatin1Char('-'), QChar(0x2212))
                                            : QStringLiteral("%1+").arg(motionCount(param));
  p.drawText(QRectF(27, 0, 22, 22), Qt::AlignCenter, says);
}

void MotionPill::choose() {
  const ParamSpec& spec = document_.spec(at_);
  const Param param = document_.param(at_);
  document_.showMotion(at_);
  QMenu menu(this);
  for (const MotionKind kind : offeredMotions(document_, at_)) {
    QAction* action = menu.addAction(kindIcon(spec, param, kind), kindTitle(kind), this, [this, param, kind] {
      document_.setMotion(at_, document_.firstMotionOf(at_, withMotionAlone(param, 0), kind), false);
      document_.showMotion(at_);
    });
    action->setCheckable(true);
    action->setChecked(param.motion.kind == kind);
  }
  if (spec.type == ParamType::Colour)
    menu.addAction(tr("Fade through the palette…"), this, [this] { fadeThroughPalette(this, document_, at_); });
  if (moves(param)) menu.addSeparator();
  if (param.motion.moves() && keepsTime(param.motion)) {
    QMenu* laps = menu.addMenu(tr("Laps in a loop"));
    for (const int n : {1, 2, 3, 4, 6, 8, 12, -1, -2, -4}) {
      QAction* action = laps->addAction(n < 0 ? tr("%1 backwards").arg(-n) : QString::number(n), this, [this, param, n] {
        Motion motion = param.motion;
        motion.laps = n;
        document_.setMotion(at_, motion, false);
      });
      action->setCheckable(true);
      action->setChecked(param.motion.laps == n);
    }
    if (at_.item != ParamAddress::kAllItems)
      menu.addAction(tr("At a speed…"), this, [this] { RateDialog(document_, at_, window()).exec(); });
  }
  if (moves(param) && canAddMotions(spec)) {
    fillAddMotionMenu(menu.addMenu(tr("Add another motion")), document_, at_);
    if (!param.more.empty()) {
      QMenu* away = menu.addMenu(tr("Take a motion away"));
      for (int i = 0; i < static_cast<int>(motionCount(param)); ++i) {
        ParamAddress voice = at_;
        voice.motion = i;
        const Motion& motion = motionOf(param, static_cast<std::size_t>(i));
        away->addAction(tr("%1: %2, ×%3").arg(i + 1).arg(oa::app::text(motionName(motion.kind))).arg(motion.laps), this,
                        [this, voice] { document_.removeMotion(voice); });
      }
    }
  }
  if (moves(param) && at_.item == ParamAddress::kAllItems) {
    QMenu* starts = menu.addMenu(tr("Head starts"));
    const std::pair<QString, edit::HeadStarts> ways[] = {{tr("Together"), edit::HeadStarts::Together},
                                                         {tr("One after the other"), edit::HeadStarts::InOrder},
                                                         {tr("At random"), edit::HeadStarts::AtRandom}};
    for (const auto& [name, how] : ways)
      starts->addAction(name, this, [this, how = how] {
        const int seed = static_cast<int>(QRandomGenerator::global()->bounded(1000000));
        document_.performOnItems(tr("head starts"), at_.layer, at_.step, [&](RecipeStep& step) -> Result<int> {
          edit::spreadHeadStarts(step, static_cast<std::size_t>(at_.param), static_cast<std::size_t>(at_.motion), how, seed);
          return 0;
        });
      });
  }
  menu.exec(mapToGlobal(QPoint(0, height() + 2)));
}

void fillAddMotionMenu(QMenu* menu, Document& document, const ParamAddress& at) {
  const ParamSpec& spec = document.spec(at);
  const Param param = withMotionAlone(document.param(at), 0);
  menu->setEnabled(canAddMotions(spec) && motionCount(document.param(at)) < kMaxMotions);
  for (const MotionKind kind : offeredMotions(document, at)) {
    if (kind == MotionKind::Still) continue;
    ParamAddress value = at;
    value.motion = 0;
    menu->addAction(kindIcon(spec, param, kind), kindTitle(kind), menu, [&document, value, kind] { document.addMotion(value, kind); });
  }
}

}  // namespace oa::app
