#include "widgets/outline_handles.h"

#include <QLineF>
#include <QPainter>
#include <QPainterPath>
#include <algorithm>
#include <cmath>

#include "edit/items.h"
#include "scene/extent.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr double kNear = 9;    // pixels of the widget
constexpr double kSnap = 6;    // likewise
constexpr double kAcross = 4;  // how far a point may lie off its image in the mirror, in pixels of the outline

}  // namespace

bool OutlineHandles::shown() const { return document_.editsInPicture(ParamType::Outline); }

Moment OutlineHandles::moment() const {
  const Plan& plan = document_.plan();
  const int index = plan.indexOf(document_.currentLayer());
  return heldMoment(momentWithin(plan, index, {frame_, document_.scene().frames}), document_.layer()->hold);
}

Outline OutlineHandles::now() const {
  const ParamAddress& at = *document_.editedInPicture();
  return edit::outlineAt(document_.spec(at), document_.param(at), moment());
}

Affine OutlineHandles::map() const {
  const ParamAddress& at = *document_.editedInPicture();
  const Plan& plan = document_.plan();
  const Point frame = plan.at(plan.indexOf(at.layer)).frame;
  // What a stamp is like is drawn in the middle, wherever its copies lie.
  if (at.item != 0) return Affine{1, 0, frame.x / 2, 0, 1, frame.y / 2}.then(toWidget_);
  return edit::outlinePlace(*document_.step(at.layer, at.step), moment(), frame).then(toWidget_);
}

QPointF OutlineHandles::seen(Point p) const {
  const Point at = map()(p);
  return {at.x, at.y};
}

QPointF OutlineHandles::placeOf(std::size_t index, edit::OutlinePart part) const {
  const OutlinePoint p = now().points[index];
  return seen(part == edit::OutlinePart::Before ? p.before : part == edit::OutlinePart::After ? p.after : p.at);
}

std::optional<OutlineHandles::Held> OutlineHandles::heldAt(QPointF at) const {
  const Outline outline = now();
  const Affine map = this->map();
  const auto near = [&](Point p) {
    const Point place = map(p);
    return QLineF(QPointF(place.x, place.y), at).length() < kNear ? std::optional(QPointF(place.x, place.y) - at) : std::nullopt;
  };
  // What pulls at the chosen point lies on top of the others.
  if (chosen_ && *chosen_ < outline.points.size()) {
    const OutlinePoint& p = outline.points[*chosen_];
    if (p.before != p.at)
      if (const auto grab = near(p.before)) return Held{*chosen_, edit::OutlinePart::Before, *grab};
    if (p.after != p.at)
      if (const auto grab = near(p.after)) return Held{*chosen_, edit::OutlinePart::After, *grab};
  }
  for (std::size_t i = 0; i < outline.points.size(); ++i)
    if (const auto grab = near(outline.points[i].at)) return Held{i, edit::OutlinePart::Point, *grab};
  return {};
}

void OutlineHandles::give(const QString& label, const std::function<Status(Param&)>& change, bool gesture) {
  const ParamAddress at = *document_.editedInPicture();
  document_.performOnItems(
      label, at.layer, at.step,
      [&](RecipeStep& step) -> Result<int> {
        const int item = at.item == 0 ? -1 : std::max(0, edit::itemIndex(step, at.item));
        auto& params = item < 0 ? step.params : step.items[static_cast<std::size_t>(item)].params;
        if (auto done = change(params[static_cast<std::size_t>(at.param)]); !done) return tl::unexpected(done.error());
        return std::max(0, item);
      },
      gesture ? QStringLiteral("outline/%1/%2").arg(at.layer).arg(at.step) : QString());
}

bool OutlineHandles::press(QPointF at) {
  held_ = heldAt(at);
  if (!held_) return false;
  chosen_ = held_->index;
  before_ = now();
  return true;
}

// To the axes through the middle, and to where other points lie.
Point OutlineHandles::snapped(const Outline& outline, std::size_t index, Point p) const {
  const Affine map = this->map();
  const double reach = kSnap / std::max(1e-9, std::sqrt(std::abs(map.determinant())));
  double bestX = reach;
  double bestY = reach;
  Point to = p;
  const auto offer = [&](Point other) {
    if (const double x = std::abs(other.x - p.x); x < bestX) {
      bestX = x;
      to.x = other.x;
    }
    if (const double y = std::abs(other.y - p.y); y < bestY) {
      bestY = y;
      to.y = other.y;
    }
  };
  offer({0, 0});
  for (std::size_t i = 0; i < outline.points.size(); ++i)
    if (i != index) offer(outline.points[i].at);
  return to;
}

void OutlineHandles::move(QPointF to, bool free, bool both) {
  if (!held_ || !shown() || held_->index >= before_.points.size()) return;
  const QPointF place = to + held_->grab;
  Point p = map().inverse()({place.x(), place.y()});
  if (!free && held_->part == edit::OutlinePart::Point) p = snapped(before_, held_->index, p);
  const ParamSpec& spec = document_.spec(*document_.editedInPicture());
  p = {std::clamp(std::round(p.x * 10) / 10, spec.min, spec.max), std::clamp(std::round(p.y * 10) / 10, spec.min, spec.max)};
  const Outline made = both ? edit::withBothMoved(before_, held_->index, held_->part, p, free, kAcross)
                            : edit::withPointMoved(before_, held_->index, held_->part, p, free);
  give(
      QObject::tr("move a point of the outline"),
      [&](Param& param) -> Status {
        edit::setOutlineAt(spec, param, moment(), made);
        return {};
      },
      true);
}

void OutlineHandles::release() {
  if (held_) document_.endGesture();
  held_.reset();
}

bool OutlineHandles::doubleClick(QPointF at) {
  const ParamSpec& spec = document_.spec(*document_.editedInPicture());
  const Outline outline = now();
  if (const auto found = heldAt(at); found && found->part == edit::OutlinePart::Point) {
    const bool corner = edit::isCorner(outline.points[found->index]);
    give(
        corner ? QObject::tr("make a point round") : QObject::tr("make a point a corner"),
        [&](Param& param) -> Status {
          edit::setOutlineAt(spec, param, moment(), edit::withPointSmoothed(outline, found->index));
          return {};
        },
        false);
    return true;
  }
  // The nearest place of the line.
  const Affine map = this->map();
  double nearest = kNear;
  std::size_t piece = 0;
  double where = -1;
  constexpr int kParts = 64;
  for (std::size_t i = 0; i < pieceCount(outline); ++i)
    for (int k = 1; k < kParts; ++k) {
      const double t = static_cast<double>(k) / kParts;
      const Point p = map(placeOn(outline, i, t));
      if (const double away = QLineF(QPointF(p.x, p.y), at).length(); away < nearest) {
        nearest = away;
        piece = i;
        where = t;
      }
    }
  if (where < 0) return false;
  give(
      QObject::tr("add a point to the outline"), [&](Param& param) { return edit::addOutlinePoint(param, piece, where); }, false);
  chosen_ = piece + 1;
  return true;
}

void OutlineHandles::chooseNext(int by) {
  if (!shown()) return;
  const int n = static_cast<int>(now().points.size());
  chosen_ = chosen_ ? static_cast<std::size_t>(((static_cast<int>(*chosen_) + by) % n + n) % n) : 0;
}

void OutlineHandles::removeChosen() {
  if (!shown() || !chosen_ || *chosen_ >= now().points.size()) return;
  give(
      QObject::tr("remove a point of the outline"), [&](Param& param) { return edit::removeOutlinePoint(param, *chosen_); }, false);
  chosen_.reset();
}

void OutlineHandles::nudge(QPointF by) {
  if (!shown() || !chosen_ || *chosen_ >= now().points.size()) return;
  const ParamSpec& spec = document_.spec(*document_.editedInPicture());
  const Outline outline = now();
  const Point at = outline.points[*chosen_].at;
  give(
      QObject::tr("move a point of the outline"),
      [&](Param& param) -> Status {
        const Point to{std::clamp(at.x + by.x(), spec.min, spec.max), std::clamp(at.y + by.y(), spec.min, spec.max)};
        edit::setOutlineAt(spec, param, moment(), edit::withPointMoved(outline, *chosen_, edit::OutlinePart::Point, to, true));
        return {};
      },
      true);
}

void OutlineHandles::paint(QPainter& p) const {
  if (!shown()) return;
  const Theme& t = Theme::now();
  const Outline outline = now();
  const Affine map = this->map();
  const auto seen = [&](Point q) {
    const Point at = map(q);
    return QPointF(at.x, at.y);
  };
  p.setRenderHint(QPainter::Antialiasing);
  QPainterPath path(seen(outline.points.front().at));
  for (std::size_t i = 0; i < pieceCount(outline); ++i) {
    const OutlinePoint& next = outline.points[(i + 1) % outline.points.size()];
    path.cubicTo(seen(outline.points[i].after), seen(next.before), seen(next.at));
  }
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(QColor(0, 0, 0, 120), 3));
  p.drawPath(path);
  p.setPen(QPen(QColor(255, 255, 255, 230), 1.3));
  p.drawPath(path);
  const auto bead = [&](QPointF at, double radius, const QColor& fill) {
    p.setPen(QPen(QColor(0, 0, 0, 140), 3));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(at, radius, radius);
    p.setPen(QPen(Qt::white, 1.6));
    p.setBrush(fill);
    p.drawEllipse(at, radius, radius);
  };
  if (chosen_ && *chosen_ < outline.points.size()) {
    const OutlinePoint& own = outline.points[*chosen_];
    for (const Point pull : {own.before, own.after}) {
      if (pull == own.at) continue;
      p.setPen(QPen(QColor(0, 0, 0, 120), 2.6));
      p.drawLine(seen(own.at), seen(pull));
      p.setPen(QPen(QColor(255, 255, 255, 220), 1.2));
      p.drawLine(seen(own.at), seen(pull));
      bead(seen(pull), 3.5, t.lagoon);
    }
  }
  for (std::size_t i = 0; i < outline.points.size(); ++i) {
    const bool chosen = chosen_ && *chosen_ == i;
    bead(seen(outline.points[i].at), chosen ? 6.5 : 5, chosen ? t.persimmon : QColor(60, 60, 60, 160));
  }
}

}  // namespace oa::app
