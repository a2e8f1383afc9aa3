#include "widgets/place_handles.h"

#include <QLineF>
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "edit/places.h"
#include "edit/values.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr double kNear = 10;       // pixels of the widget
constexpr double kSnap = 7;        // pixels of the widget
constexpr double kKnob = 26;       // how far the turn's knob lies off
constexpr double kTurnStep = 15;   // degrees
constexpr double kTurnSnap = 2.5;  // degrees

Point turned(Point p, double degrees) {
  const double a = degrees * std::numbers::pi / 180;
  return {std::cos(a) * p.x - std::sin(a) * p.y, std::sin(a) * p.x + std::cos(a) * p.y};
}

Point difference(Point a, Point b) { return {a.x - b.x, a.y - b.y}; }

// How far to the nearest of the lines, where one is near; the lines are those of places that `own` are moved to.
double snapped(const std::vector<double>& lines, const std::array<double, 3>& own, double reach, double& line) {
  double best = reach;
  double by = 0;
  for (const double each : lines)
    for (const double edge : own)
      if (std::abs(each - edge) < best) {
        best = std::abs(each - edge);
        by = each - edge;
        line = each;
      }
  return by;
}

}  // namespace

bool PlaceHandles::shown() const {
  const Layer* layer = document_.layer();
  if (!layer || layer->locked || !layer->visible) return false;
  if (always_ || !isDefaultPlace(layer->place)) return true;
  const Plan& plan = document_.plan();
  return !extentOf(plan, plan.indexOf(layer->id), {frame_, document_.scene().frames}).endless;
}

QPolygonF PlaceHandles::corners() const {
  const Plan& plan = document_.plan();
  const int index = plan.indexOf(document_.currentLayer());
  if (index < 0) return {};
  const Moment at{frame_, document_.scene().frames};
  const Box box = extentOf(plan, index, at).box;
  const Affine map = toScene(plan, index, at);
  QPolygonF list;
  for (const Point corner : {Point{box.left, box.top}, {box.right, box.top}, {box.right, box.bottom}, {box.left, box.bottom}})
    list << toWidget(map(corner));
  return list;
}

QPointF PlaceHandles::placeOf(const Hit& hit) const {
  const QPolygonF c = corners();
  if (c.size() < 4) return {};
  const auto side = [&](int i) { return (c[i] + c[(i + 1) % 4]) / 2; };
  switch (hit.part) {
    case Part::Corner:
      return c[hit.which];
    case Part::Side:
      return side(hit.which);
    case Part::Turn: {
      // Off the upper side, away from the middle.
      const QPointF middle = (c[0] + c[2]) / 2;
      const QLineF out(middle, side(0));
      if (out.length() < 1e-6) return side(0);
      return side(0) + (side(0) - middle) / out.length() * kKnob;
    }
    case Part::Anchor: {
      const Plan& plan = document_.plan();
      const int index = plan.indexOf(document_.currentLayer());
      const Moment at{frame_, document_.scene().frames};
      const PlanLayer& own = plan.at(index);
      const PlaceAt place = placeAt(own.layer->place, momentWithin(plan, index, at));
      return toWidget(toScene(plan, index, at)({place.anchor.x * own.frame.x, place.anchor.y * own.frame.y}));
    }
    default:
      return (c[0] + c[2]) / 2;
  }
}

PlaceHandles::Hit PlaceHandles::hitAt(QPointF at) const {
  if (!shown()) return {};
  const auto near = [&](const Hit& hit) { return QLineF(placeOf(hit), at).length() < kNear; };
  for (int i = 0; i < 4; ++i)
    if (near({Part::Corner, i})) return {Part::Corner, i};
  if (near({Part::Turn, 0})) return {Part::Turn, 0};
  for (int i = 0; i < 4; ++i)
    if (near({Part::Side, i})) return {Part::Side, i};
  if (near({Part::Anchor, 0})) return {Part::Anchor, 0};
  if (corners().containsPoint(at, Qt::WindingFill)) return {Part::Move, 0};
  return {};
}

void PlaceHandles::press(const Hit& hit, QPointF at) {
  hit_ = hit;
  held_ = document_.scene();
  const Plan plan(held_);
  const int index = plan.indexOf(document_.currentLayer());
  const Moment now{frame_, held_.frames};
  const PlanLayer& own = plan.at(index);
  toGroup_ = toGroup(plan, index, now);
  fromScene_ = own.parent >= 0 ? toScene(plan, own.parent, now).inverse() : Affine();
  ownFrame_ = own.frame;
  outerFrame_ = own.parent >= 0 ? plan.at(own.parent).frame : Point{static_cast<double>(held_.width), static_cast<double>(held_.height)};
  box_ = extentOf(plan, index, now).box;
  place_ = placeAt(own.layer->place, heldMoment(momentWithin(plan, index, now), own.layer->hold));
  linked_ = std::get<bool>(own.layer->place[static_cast<std::size_t>(PlaceParam::Linked)].base);
  press_ = fromScene_(fromWidget(at));
  // Layers of other groups stay: they are moved in a plane of their own.
  moved_.clear();
  for (const Id id : edit::outermost(held_, document_.selection()))
    if (const int other = plan.indexOf(id); plan.at(other).parent == own.parent && !plan.at(other).layer->locked) moved_.push_back(id);
  linesX_ = {0, outerFrame_.x / 3, outerFrame_.x / 2, outerFrame_.x * 2 / 3, outerFrame_.x};
  linesY_ = {0, outerFrame_.y / 3, outerFrame_.y / 2, outerFrame_.y * 2 / 3, outerFrame_.y};
  for (const int sibling : plan.children(own.parent)) {
    const Layer& layer = *plan.at(sibling).layer;
    if (!layer.visible || std::find(moved_.begin(), moved_.end(), layer.id) != moved_.end()) continue;
    const Extent extent = extentOf(plan, sibling, now);
    if (extent.endless) continue;
    const Box placed = mapped(extent.box, toGroup(plan, sibling, now));
    linesX_.insert(linesX_.end(), {placed.left, placed.centre().x, placed.right});
    linesY_.insert(linesY_.end(), {placed.top, placed.centre().y, placed.bottom});
  }
}

void PlaceHandles::move(QPointF to, bool free, bool other) {
  const Point group = fromScene_(fromWidget(to));
  guides_.clear();
  switch (hit_.part) {
    case Part::Move:
      return moveBy(difference(group, press_), free);
    case Part::Corner:
    case Part::Side:
      return sizeTo(group, other);
    case Part::Turn:
      return turnTo(group, free, other);
    case Part::Anchor:
      return anchorTo(group);
    case Part::None:
      return;
  }
}

void PlaceHandles::release() {
  if (dragging()) document_.endGesture();
  hit_ = {};
  guides_.clear();
}

void PlaceHandles::moveBy(Point by, bool free) {
  if (!free) {
    const Box box = mapped(box_, toGroup_);
    const double reach = kSnap / zoom_;
    double line = 0;
    const double x = snapped(linesX_, {box.left + by.x, box.centre().x + by.x, box.right + by.x}, reach, line);
    const Affine scene = fromScene_.inverse();
    if (x != 0 || std::abs(box.centre().x + by.x - line) < 1e-9) guides_.emplace_back(scene({line, 0}), scene({line, outerFrame_.y}));
    by.x += x;
    double lineY = 0;
    const double y = snapped(linesY_, {box.top + by.y, box.centre().y + by.y, box.bottom + by.y}, reach, lineY);
    if (y != 0 || std::abs(box.centre().y + by.y - lineY) < 1e-9) guides_.emplace_back(scene({0, lineY}), scene({outerFrame_.x, lineY}));
    by.y += y;
  }
  document_.edit(QObject::tr("move in the picture"), QStringLiteral("place/move"), [&](Scene& scene) {
    // From what was there at the press, so that there and back is nothing.
    for (const Id id : moved_) findLayer(scene, id)->place = findLayer(held_, id)->place;
    (void)edit::shiftLayers(scene, moved_, by);
  });
}

void PlaceHandles::give(const QString& label, const std::function<void(Layer&)>& change) {
  const Id id = document_.currentLayer();
  document_.edit(label, QStringLiteral("place/%1/%2").arg(label).arg(id), [&](Scene& scene) {
    Layer& layer = *findLayer(scene, id);
    layer.place = findLayer(held_, id)->place;
    change(layer);
  });
}

namespace {

void set(Layer& layer, PlaceParam which, const Value& value) {
  const auto i = static_cast<std::size_t>(which);
  layer.place[i] = edit::withBase(placeSpecs()[i], layer.place[i], value);
}

}  // namespace

void PlaceHandles::sizeTo(Point group, bool other) {
  const Point anchor{place_.position.x * outerFrame_.x, place_.position.y * outerFrame_.y};
  const Point own[4] = {{box_.left, box_.top}, {box_.right, box_.top}, {box_.right, box_.bottom}, {box_.left, box_.bottom}};
  const Point& next = own[(hit_.which + 1) % 4];
  const Point grabbed =
      hit_.part == Part::Corner ? own[hit_.which] : Point{(own[hit_.which].x + next.x) / 2, (own[hit_.which].y + next.y) / 2};
  // Along the layer's own axes, from its anchor.
  const Point before = turned(difference(toGroup_(grabbed), anchor), -place_.turn);
  const Point after = turned(difference({group.x, group.y}, anchor), -place_.turn);
  Point factor{1, 1};
  const auto ratio = [](double a, double b) { return std::abs(b) < 1e-6 ? 1 : std::max(0.0, a / b); };
  if (hit_.part == Part::Side) {
    (hit_.which % 2 == 0 ? factor.y : factor.x) = hit_.which % 2 == 0 ? ratio(after.y, before.y) : ratio(after.x, before.x);
  } else if (other == linked_) {
    factor = {ratio(after.x, before.x), ratio(after.y, before.y)};
  } else {
    const double both = ratio(after.x * before.x + after.y * before.y, before.x * before.x + before.y * before.y);
    factor = {both, both};
  }
  const ParamSpec& spec = placeSpecs()[static_cast<std::size_t>(PlaceParam::Size)];
  give(QObject::tr("size in the picture"), [&](Layer& layer) {
    const Point size = std::get<Point>(layer.place[static_cast<std::size_t>(PlaceParam::Size)].base);
    set(layer, PlaceParam::Size,
        Point{std::clamp(size.x * factor.x, spec.min, spec.max), std::clamp(size.y * factor.y, spec.min, spec.max)});
  });
}

void PlaceHandles::turnTo(Point group, bool free, bool other) {
  const Point anchor{place_.position.x * outerFrame_.x, place_.position.y * outerFrame_.y};
  const auto angle = [&](Point p) { return std::atan2(p.y - anchor.y, p.x - anchor.x) * 180 / std::numbers::pi; };
  give(QObject::tr("turn in the picture"), [&](Layer& layer) {
    const double before = std::get<double>(layer.place[static_cast<std::size_t>(PlaceParam::Turn)].base);
    double turn = before + std::remainder(angle(group) - angle(press_), 360.0);
    const double step = std::round(turn / kTurnStep) * kTurnStep;
    if (other || (!free && std::abs(turn - step) < kTurnSnap)) turn = step;
    set(layer, PlaceParam::Turn, std::round(turn * 100) / 100);
  });
}

// The picture stays where it is: the anchor and the position move together.
void PlaceHandles::anchorTo(Point group) {
  const Point own = toGroup_.inverse()(group);
  give(QObject::tr("anchor in the picture"), [&](Layer& layer) {
    const ParamSpec& spec = placeSpecs()[static_cast<std::size_t>(PlaceParam::Anchor)];
    const auto held = [&](double v) { return std::clamp(v, spec.min, spec.max); };
    const Point position = std::get<Point>(layer.place[static_cast<std::size_t>(PlaceParam::Position)].base);
    set(layer, PlaceParam::Anchor, Point{held(own.x / ownFrame_.x), held(own.y / ownFrame_.y)});
    set(layer, PlaceParam::Position,
        Point{held(position.x + group.x / outerFrame_.x - place_.position.x),
              held(position.y + group.y / outerFrame_.y - place_.position.y)});
  });
}

void PlaceHandles::nudge(QPointF by) {
  const Ids layers = edit::outermost(document_.scene(), document_.selection());
  document_.edit(QObject::tr("nudge"), QStringLiteral("place/nudge"), [&](Scene& scene) {
    (void)edit::shiftLayers(scene, layers, {by.x(), by.y()});
  });
}

void PlaceHandles::paint(QPainter& p) const {
  if (!shown()) return;
  const QPolygonF c = corners();
  if (c.size() < 4) return;
  const Theme& t = Theme::now();
  const auto line = [&](const QPolygonF& way, bool closed) {
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(QColor(0, 0, 0, 110), 3));
    closed ? p.drawPolygon(way) : p.drawPolyline(way);
    p.setPen(QPen(QColor(255, 255, 255, 230), 1.3));
    closed ? p.drawPolygon(way) : p.drawPolyline(way);
  };
  for (const auto& [from, to] : guides_) {
    p.setPen(QPen(t.persimmon, 1.2, Qt::DashLine));
    p.drawLine(toWidget(from), toWidget(to));
  }
  line(c, true);
  const QPointF knob = placeOf({Part::Turn, 0});
  line(QPolygonF({placeOf({Part::Side, 0}), knob}), false);
  const auto disc = [&](QPointF at, double radius, const QBrush& fill) {
    p.setPen(QPen(QColor(0, 0, 0, 150), 1.2));
    p.setBrush(fill);
    p.drawEllipse(at, radius, radius);
  };
  for (int i = 0; i < 4; ++i) {
    disc(c[i], 5, Qt::white);
    disc(placeOf({Part::Side, i}), 3.4, Qt::white);
  }
  disc(knob, 5.5, t.lagoon);
  const QPointF anchor = placeOf({Part::Anchor, 0});
  p.setBrush(Qt::NoBrush);
  for (const auto& [colour, width] : {std::pair{QColor(0, 0, 0, 150), 3.5}, {QColor(255, 255, 255), 1.6}}) {
    p.setPen(QPen(colour, width));
    p.drawEllipse(anchor, 4, 4);
    p.drawLine(anchor - QPointF(8, 0), anchor + QPointF(8, 0));
    p.drawLine(anchor - QPointF(0, 8), anchor + QPointF(0, 8));
  }
}

}  // namespace oa::app
