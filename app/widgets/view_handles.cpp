// What the view shows over the picture to take hold of: places, ways, how a source is laid out.
#include <QPainter>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "scene/extent.h"
#include "widgets/item_picker.h"
#include "widgets/theme.h"
#include "widgets/view.h"

namespace oa::app {
namespace {

constexpr double kDegree = std::numbers::pi / 180;
constexpr double kWayShare = 0.18;  // how far out a direction is taken hold of, of the frame's shorter side

}  // namespace

void View::syncPlace() {
  const QRectF frame = frameRect();
  place_.setView(frame.topLeft(), frame.width() / document_.scene().width);
  place_.setFrame(player_.frame());
  if (outline_.shown()) outline_.setView(toWidget(document_.currentLayer()), player_.frame());
  if (typing_.shown()) typing_.setView(toWidget(document_.currentLayer()), player_.frame());
  if (copies_.shown()) copies_.setView(toWidget(document_.currentLayer()), player_.frame());
  if (way_.shown()) way_.setView(way_.ofLayer() ? placeMap(document_.currentLayer()) : handleMap(document_.currentLayer()));
}

// From a layer's plane to pixels of this widget.
Affine View::toWidget(Id layer) const {
  const Plan& plan = document_.plan();
  const QRectF frame = frameRect();
  const double zoom = frame.width() / document_.scene().width;
  return toScene(plan, plan.indexOf(layer), {player_.frame(), document_.scene().frames})
      .then({zoom, 0, frame.left(), 0, zoom, frame.top()});
}

// From shares of the layer's own frame to pixels of this widget.
Affine View::handleMap(Id layer) const {
  const Point frame = document_.plan().at(document_.plan().indexOf(layer)).frame;
  const Affine shares{frame.x, 0, 0, 0, frame.y, 0};
  return shares.then(toWidget(layer));
}

Affine View::placeMap(Id layer) const {
  const Plan& plan = document_.plan();
  const int group = plan.at(plan.indexOf(layer)).parent;
  const Scene& scene = document_.scene();
  const Point frame = group >= 0 ? plan.at(group).frame : Point{static_cast<double>(scene.width), static_cast<double>(scene.height)};
  const Affine shares{frame.x, 0, 0, 0, frame.y, 0};
  const QRectF seen = frameRect();
  const double zoom = seen.width() / scene.width;
  const Affine outwards = group >= 0 ? toScene(plan, group, {player_.frame(), scene.frames}) : Affine();
  return shares.then(outwards).then({zoom, 0, seen.left(), 0, zoom, seen.top()});
}

void View::setMotion(const std::optional<ParamAddress>& at) {
  way_.setMotion(at);
  update();
}

std::vector<View::Handle> View::handles() const {
  std::vector<Handle> list;
  const Layer* layer = document_.layer();
  if (!layer || !layer->visible || layer->locked || mode_ != ViewMode::Picture || editsInPicture()) return list;
  const Affine map = handleMap(layer->id);
  const auto add = [&](const ParamSpec& spec, const Param& param, const ParamAddress& address, std::optional<Colour> colour) {
    if (spec.type != ParamType::Point || spec.rule != LoopRule::Free || spec.unit == Unit::Pixels) return;
    const Point at = map(std::get<Point>(param.base));
    const QPointF own(at.x, at.y);
    const QRectF sight = QRectF(rect()).adjusted(kMargin, kBars, -kMargin, -kBars + 8);
    const QPointF place(std::clamp(own.x(), sight.left(), sight.right()), std::clamp(own.y(), sight.top(), sight.bottom()));
    list.push_back({address, place, own, colour});
  };
  const auto addStep = [&](const RecipeStep& step, int s) {
    if (!step.on) return;
    // What ends somewhere is moved by its place: two handles would lie on each other.
    const bool placed = step.spec->extent && s == 0 && place_.shown();
    for (std::size_t i = 0; i < step.params.size() && !placed; ++i) {
      const ParamAddress at{layer->id, s, static_cast<int>(i)};
      if (!isShown(step.spec->params, step.params, i)) continue;
      add(step.spec->params[i], step.params[i], at, {});
      if (const auto grip = gripOf(step, at)) list.push_back(*grip);
    }
    for (const Item& item : step.items)
      for (std::size_t i = 0; i < item.params.size(); ++i)
        add(step.spec->items->params[i], item.params[i], {layer->id, s, static_cast<int>(i), item.id}, itemColour(*step.spec->items, item));
  };
  for (int s = 0; s < static_cast<int>(layer->recipe.size()); ++s) addStep(layer->recipe[static_cast<std::size_t>(s)], s);
  if (layer->mask && layer->mask->on) addStep(layer->mask->source, ParamAddress::kMaskSource);
  return list;
}

// Where a number, an angle or a way is taken hold of, counted from its place on the plane.
std::optional<View::Handle> View::gripOf(const RecipeStep& step, const ParamAddress& at) const {
  const auto specs = step.spec->params;
  const ParamSpec& spec = specs[static_cast<std::size_t>(at.param)];
  if (!spec.grip) return {};
  const Grip& grip = *spec.grip;
  const auto baseOf = [&](std::string_view id) -> const Value* {
    const int i = id.empty() ? -1 : findParam(specs, id);
    return i < 0 ? nullptr : &step.params[static_cast<std::size_t>(i)].base;
  };
  const Point frame = document_.plan().at(document_.plan().indexOf(at.layer)).frame;
  Point from{frame.x / 2, frame.y / 2};
  if (const Value* place = baseOf(grip.from)) from = {std::get<Point>(*place).x * frame.x, std::get<Point>(*place).y * frame.y};
  const Value* turned = baseOf(grip.turned);
  double turn = grip.turn + (turned ? std::get<double>(*turned) : 0);
  Point away;
  const Value& value = step.params[static_cast<std::size_t>(at.param)].base;
  if (grip.kind == Grip::Kind::Step) {
    away = std::get<Point>(value);
  } else if (grip.kind == Grip::Kind::Way) {
    away = {kWayShare * std::min(frame.x, frame.y), 0};
    turn += std::get<double>(value);
  } else {
    away = {std::get<double>(value) / grip.times, 0};
  }
  const double c = std::cos(turn * kDegree);
  const double s = std::sin(turn * kDegree);
  const Affine map = toWidget(at.layer);
  const Point place = map({from.x + away.x * c - away.y * s, from.y + away.x * s + away.y * c});
  const Point begin = map(from);
  const QPointF own(place.x, place.y);
  const QRectF sight = QRectF(rect()).adjusted(kMargin, kBars, -kMargin, -kBars + 8);
  Handle handle{at, {std::clamp(own.x(), sight.left(), sight.right()), std::clamp(own.y(), sight.top(), sight.bottom())}, own, {}};
  handle.grip = &grip;
  handle.from = {begin.x, begin.y};
  return handle;
}

// What it becomes where its grip is dragged to.
Value View::grippedValue(const Handle& handle, QPointF to, bool inSteps) const {
  const ParamSpec& spec = document_.spec(handle.at);
  const RecipeStep& step = *document_.step(handle.at.layer, handle.at.step);
  const Grip& grip = *handle.grip;
  const Affine back = toWidget(handle.at.layer).inverse();
  Point away = back.direction({to.x() - handle.from.x(), to.y() - handle.from.y()});
  const auto held = [&](double v) { return std::clamp(v, spec.min, spec.max); };
  if (grip.kind == Grip::Kind::Reach) {
    const double length = std::hypot(away.x, away.y) * grip.times;
    return held(inSteps ? std::round(length / 10) * 10 : std::round(length));
  }
  const int turned = grip.turned.empty() ? -1 : findParam(step.spec->params, grip.turned);
  const double turn = turned < 0 ? 0 : std::get<double>(step.params[static_cast<std::size_t>(turned)].base);
  if (grip.kind == Grip::Kind::Way) {
    const double angle = std::atan2(away.y, away.x) / kDegree - turn;
    return held(inSteps ? std::round(angle / 15) * 15 : std::round(angle));
  }
  const double c = std::cos(-turn * kDegree);
  const double s = std::sin(-turn * kDegree);
  away = {away.x * c - away.y * s, away.x * s + away.y * c};
  const double fine = inSteps ? 10 : 1;
  return Point{held(std::round(away.x / fine) * fine), held(std::round(away.y / fine) * fine)};
}

void View::paintHandles(QPainter& p) {
  const Theme& t = Theme::now();
  p.setRenderHint(QPainter::Antialiasing);
  if (mode_ == ViewMode::Picture) {
    syncPlace();
    outline_.shown() ? outline_.paint(p) : copies_.shown() ? copies_.paint(p) : typing_.shown() ? typing_.paint(p) : place_.paint(p);
  }
  const auto list = handles();
  const Moment now{player_.frame(), document_.scene().frames};
  for (const Handle& handle : list)
    if (!handle.grip && reallyMoves(document_.spec(handle.at), document_.param(handle.at)))
      paintWay(p, document_.spec(handle.at), document_.param(handle.at), handleMap(handle.at.layer), now);
  const bool laidOut = paintSkeleton(p);
  // Two places of one step that belong to no parts are the ends of something.
  for (std::size_t i = 0; i + 1 < list.size(); i += 2) {
    if (list[i].grip || list[i + 1].grip || list[i].at.step != list[i + 1].at.step || list[i].at.item != 0 || list[i + 1].at.item != 0)
      continue;
    if (list[i + 1].at.param != list[i].at.param + 1 || laidOut) continue;
    p.setPen(QPen(QColor(0, 0, 0, 120), 3));
    p.drawLine(list[i].place, list[i + 1].place);
    p.setPen(QPen(QColor(255, 255, 255, 220), 1.4));
    p.drawLine(list[i].place, list[i + 1].place);
  }
  for (const Handle& handle : list) {
    if (handle.grip) {
      paintGrip(p, handle);
      continue;
    }
    const double radius = handle.at.item != 0 ? 9 : 7;
    p.setPen(QPen(QColor(0, 0, 0, 140), 4));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(handle.place, radius, radius);
    p.setPen(QPen(Qt::white, 2));
    QColor filled(t.persimmon.red(), t.persimmon.green(), t.persimmon.blue(), 200);
    if (handle.colour) filled = QColor::fromRgbF(handle.colour->r, handle.colour->g, handle.colour->b);
    // Hollow where the place itself is out of sight.
    p.setBrush(handle.place == handle.own ? QBrush(filled) : QBrush(Qt::NoBrush));
    p.drawEllipse(handle.place, radius, radius);
  }
  if (mode_ == ViewMode::Picture && !editsInPicture()) way_.paint(p, now);
}

// A diamond on a line from where it is counted.
void View::paintGrip(QPainter& p, const Handle& handle) const {
  for (const auto& [colour, width] : {std::pair(QColor(0, 0, 0, 110), 2.8), std::pair(QColor(255, 255, 255, 200), 1.2)}) {
    p.setPen(QPen(colour, width));
    p.drawLine(handle.from, handle.place);
  }
  const double r = 6.5;
  QPolygonF diamond;
  for (const QPointF corner : {QPointF(0, -r), QPointF(r, 0), QPointF(0, r), QPointF(-r, 0)}) diamond << handle.place + corner;
  p.setPen(QPen(QColor(0, 0, 0, 140), 4));
  p.setBrush(Qt::NoBrush);
  p.drawPolygon(diamond);
  p.setPen(QPen(Qt::white, 1.8));
  const QColor lagoon = Theme::now().lagoon;
  p.setBrush(handle.place == handle.own ? QBrush(QColor(lagoon.red(), lagoon.green(), lagoon.blue(), 220)) : QBrush(Qt::NoBrush));
  p.drawPolygon(diamond);
}

// The lines by which the source is laid out, while it is edited and nothing plays. False where it has none.
bool View::paintSkeleton(QPainter& p) const {
  const Layer* layer = document_.layer();
  if (!layer || !layer->visible || layer->locked || mode_ != ViewMode::Picture) return false;
  const RecipeStep& source = layer->recipe.front();
  if (!source.spec->skeleton) return false;
  if (player_.playing() || editsInPicture()) return true;
  const Plan& plan = document_.plan();
  const int index = plan.indexOf(layer->id);
  PlaneView frame;
  frame.frameWidth = plan.at(index).frame.x;
  frame.frameHeight = plan.at(index).frame.y;
  const Moment at = heldMoment(momentWithin(plan, index, {player_.frame(), document_.scene().frames}), layer->hold);
  const Affine map = toWidget(layer->id);
  p.setBrush(Qt::NoBrush);
  for (const auto& line : source.spec->skeleton(contextOf(source, at, frame))) {
    QPolygonF shown;
    for (const Point& q : line) {
      const Point place = map(q);
      shown << QPointF(place.x, place.y);
    }
    p.setPen(QPen(QColor(0, 0, 0, 90), 2.6));
    p.drawPolyline(shown);
    p.setPen(QPen(QColor(255, 255, 255, 200), 1.1, Qt::DashLine));
    p.drawPolyline(shown);
  }
  return true;
}

}  // namespace oa::app
