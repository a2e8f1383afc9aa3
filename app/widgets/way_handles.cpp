#include "widgets/way_handles.h"

#include <cmath>

#include "edit/keyframes.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr int kDots = 48;      // of a lap, or of the loop
constexpr double kNear = 9;    // pixels within which a keyframe is taken hold of
constexpr int kFine = 100000;  // parts of the loop at which a sum of motions is looked at

QPointF on(const Affine& map, const Point& place) {
  const Point at = map(place);
  return {at.x, at.y};
}

}  // namespace

void paintWay(QPainter& p, const ParamSpec& spec, const Param& param, const Affine& map, const Moment& now) {
  // One motion goes the same way in every lap; several are followed through the loop.
  const bool alone = param.more.empty();
  const int steps = kDots * (alone ? 4 : 16);
  const auto at = [&](int i) {
    const Value value = alone ? valueOnLap(spec, param, fract(static_cast<double>(i) / steps), now.levels)
                              : evaluate(spec, param, {i % steps, steps, 0, 1.0 / 30, now.levels}).value;
    return on(map, std::get<Point>(value));
  };
  QPolygonF way;
  QPolygonF dots;
  for (int i = 0; i <= steps; ++i) {
    const QPointF point = at(i);
    if (way.isEmpty() || way.last() != point) way << point;
    if (i % (steps / kDots) == 0 && i < steps) dots << point;
  }
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(QColor(0, 0, 0, 110), 3));
  p.drawPolyline(way);
  p.setPen(QPen(QColor(255, 255, 255, 130), 1.2));
  p.drawPolyline(way);
  p.setPen(QPen(QColor(0, 0, 0, 120), 0.8));
  p.setBrush(Qt::white);
  for (const QPointF dot : dots) p.drawEllipse(dot, 1.9, 1.9);
  const QPointF here = on(map, std::get<Point>(evaluate(spec, param, now).value));
  p.setPen(QPen(QColor(0, 0, 0, 140), 1));
  p.setBrush(Theme::now().persimmon);
  p.drawEllipse(here, 4, 4);
}

bool WayHandles::shown() const {
  if (!at_ || at_->isFar() || at_->item == ParamAddress::kAllItems || at_->layer != document_.currentLayer() || !document_.valid(*at_))
    return false;
  const ParamSpec& spec = document_.spec(*at_);
  const Layer* layer = document_.layer();
  return spec.type == ParamType::Point && spec.rule == LoopRule::Free && spec.unit != Unit::Pixels && layer->visible && !layer->locked &&
         motion().kind == MotionKind::Keyframes;
}

std::vector<QPointF> WayHandles::places() const {
  std::vector<QPointF> all;
  if (!shown()) return all;
  for (const Keyframe& key : motion().keys) {
    Point place = std::get<Point>(key.value);
    // What is added to it is as it is then.
    if (!param().more.empty()) {
      const auto frame = static_cast<std::int64_t>(std::llround(edit::firstLapAt(motion(), key.at) * kFine)) % kFine;
      place = std::get<Point>(evaluate(document_.spec(*at_), param(), {frame, kFine}).value);
    }
    all.push_back(on(map_, place));
  }
  return all;
}

int WayHandles::hitAt(QPointF place) const {
  const auto all = places();
  int found = -1;
  for (int i = 0; i < static_cast<int>(all.size()); ++i) {
    const double far = QLineF(all[static_cast<std::size_t>(i)], place).length();
    if (far < kNear && (found < 0 || far < QLineF(all[static_cast<std::size_t>(found)], place).length())) found = i;
  }
  return found;
}

void WayHandles::press(int key, QPointF place) {
  held_ = key;
  pressed_ = place;
  before_ = motion();
}

void WayHandles::move(QPointF place, bool straight) {
  if (held_ < 0 || !shown() || held_ >= static_cast<int>(before_.keys.size())) return;
  QPointF by = place - pressed_;
  if (straight) (std::abs(by.x()) > std::abs(by.y()) ? by.ry() : by.rx()) = 0;
  const Affine back = map_.inverse();
  const Point from = back({pressed_.x(), pressed_.y()});
  const Point to = back({pressed_.x() + by.x(), pressed_.y() + by.y()});
  const ParamSpec& spec = document_.spec(*at_);
  const auto held = [&](double v) { return std::clamp(std::round(v * 10000) / 10000, spec.min, spec.max); };
  Motion now = before_;
  auto& value = std::get<Point>(now.keys[static_cast<std::size_t>(held_)].value);
  value = {held(value.x + to.x - from.x), held(value.y + to.y - from.y)};
  document_.setMotion(*at_, now, true);
}

void WayHandles::release() {
  if (held_ < 0) return;
  held_ = -1;
  document_.endGesture();
}

void WayHandles::paint(QPainter& p, const Moment& now) const {
  if (!shown()) return;
  // Of a place in the layer the way is drawn with its handle.
  if (ofLayer()) paintWay(p, document_.spec(*at_), param(), map_, now);
  const Theme& t = Theme::now();
  const auto all = places();
  for (std::size_t i = 0; i < all.size(); ++i) {
    p.setPen(QPen(QColor(0, 0, 0, 140), 4));
    p.setBrush(Qt::NoBrush);
    const QRectF box(all[i].x() - 5, all[i].y() - 5, 10, 10);
    p.drawRect(box);
    p.setPen(QPen(Qt::white, 1.8));
    p.setBrush(static_cast<int>(i) == held_ ? t.persimmon : t.lagoon);
    p.drawRect(box);
  }
}

}  // namespace oa::app
