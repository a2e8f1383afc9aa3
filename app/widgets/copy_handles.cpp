#include "widgets/copy_handles.h"

#include <QPainter>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "edit/copies.h"
#include "scene/extent.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr double kNear = 10;            // pixels of the widget
constexpr std::size_t kMostDots = 800;  // with more, only those are shown that were changed or chosen

}  // namespace

bool CopyHandles::shown() const { return document_.editsInPicture(ParamType::Copies); }

std::vector<CopyPlace> CopyHandles::places() const {
  if (!shown()) return {};
  const RecipeStep* step = document_.step(document_.editedInPicture()->layer, document_.editedInPicture()->step);
  if (!step || !step->spec->copies) return {};
  const Plan& plan = document_.plan();
  const int index = plan.indexOf(document_.currentLayer());
  PlaneView frame;
  frame.frameWidth = plan.at(index).frame.x;
  frame.frameHeight = plan.at(index).frame.y;
  const Moment at = heldMoment(momentWithin(plan, index, {frame_, document_.scene().frames}), document_.layer()->hold);
  return step->spec->copies(contextOf(*step, at, frame));
}

QPointF CopyHandles::placeOf(const CopyPlace& place) const {
  const Point at = toWidget_(place.at);
  return {at.x, at.y};
}

bool CopyHandles::chosen(std::uint64_t copy) const {
  const auto& list = document_.chosenCopies();
  return std::find(list.begin(), list.end(), copy) != list.end();
}

// The one whose box holds the place; of several, or of none, the nearest that is near enough. Later ones lie on top.
const CopyPlace* CopyHandles::hitAt(const std::vector<CopyPlace>& places, QPointF at) const {
  const Point p = toWidget_.inverse()({at.x(), at.y()});
  const double near = kNear / std::max(1e-9, std::sqrt(std::abs(toWidget_.determinant())));
  const CopyPlace* best = nullptr;
  double nearest = 1e18;
  for (const CopyPlace& place : places) {
    const double turn = place.turn * (std::numbers::pi / 180);
    const double x = p.x - place.at.x;
    const double y = p.y - place.at.y;
    const double across = std::abs(x * std::cos(turn) + y * std::sin(turn));
    const double down = std::abs(y * std::cos(turn) - x * std::sin(turn));
    const double away = std::hypot(x, y);
    const bool within = across <= std::max(place.halfWidth, near) && down <= std::max(place.halfHeight, near);
    if (within && away <= nearest) {
      nearest = away;
      best = &place;
    }
  }
  return best;
}

void CopyHandles::press(QPointF at, bool more) {
  const auto list = places();
  const CopyPlace* hit = hitAt(list, at);
  std::vector<std::uint64_t> now = document_.chosenCopies();
  if (!hit) {
    if (!more) now.clear();
    before_ = now;
    band_ = QRectF(at, at);
    document_.chooseCopies(std::move(now));
    return;
  }
  const bool was = chosen(hit->copy);
  if (more && was) {
    std::erase(now, hit->copy);
    return document_.chooseCopies(std::move(now));
  }
  if (!was) {
    if (!more) now.clear();
    now.push_back(hit->copy);
    document_.chooseCopies(std::move(now));
  }
  // Of several that are chosen one is meant alone, unless it is dragged.
  clicked_ = more ? std::nullopt : std::optional(hit->copy);
  grab_ = at;
  changes_ = std::get<CopyChanges>(document_.param(*document_.editedInPicture()).base);
}

void CopyHandles::moveChosen(Point by) {
  document_.changeCopies(
      QObject::tr("move copies"),
      [&](CopyChange& change) {
        const Point was = edit::changeOf(changes_, change.copy).by;
        change.by = {std::round((was.x + by.x) * 10) / 10, std::round((was.y + by.y) * 10) / 10};
      },
      true);
}

void CopyHandles::move(QPointF to, bool straight) {
  if (!shown()) return;
  if (band_) {
    band_->setBottomRight(to);
    const QRectF area = band_->normalized();
    std::vector<std::uint64_t> now = before_;
    for (const CopyPlace& place : places())
      if (area.contains(placeOf(place)) && std::find(now.begin(), now.end(), place.copy) == now.end()) now.push_back(place.copy);
    return document_.chooseCopies(std::move(now));
  }
  if (!grab_) return;
  clicked_.reset();
  const Affine back = toWidget_.inverse();
  Point by = back.direction({to.x() - grab_->x(), to.y() - grab_->y()});
  if (straight) (std::abs(by.x) > std::abs(by.y) ? by.y : by.x) = 0;
  moveChosen(by);
}

void CopyHandles::release() {
  if (grab_) document_.endGesture();
  if (clicked_) document_.chooseCopies({*clicked_});
  clicked_.reset();
  grab_.reset();
  band_.reset();
}

void CopyHandles::chooseNext(int by) {
  const auto list = places();
  if (list.empty()) return;
  const auto& now = document_.chosenCopies();
  const auto last =
      now.empty() ? list.end() : std::find_if(list.begin(), list.end(), [&](const CopyPlace& p) { return p.copy == now.back(); });
  const int n = static_cast<int>(list.size());
  const int next = last == list.end() ? 0 : ((static_cast<int>(last - list.begin()) + by) % n + n) % n;
  document_.chooseCopies({list[static_cast<std::size_t>(next)].copy});
}

void CopyHandles::leaveOut() {
  if (!shown()) return;
  const auto& changes = std::get<CopyChanges>(document_.param(*document_.editedInPicture()).base);
  const auto& list = document_.chosenCopies();
  const bool all = std::all_of(list.begin(), list.end(), [&](std::uint64_t copy) { return edit::changeOf(changes, copy).out; });
  document_.changeCopies(
      all ? QObject::tr("bring copies back") : QObject::tr("leave copies out"), [&](CopyChange& change) { change.out = !all; }, false);
}

void CopyHandles::nudge(QPointF by) {
  if (!shown()) return;
  changes_ = std::get<CopyChanges>(document_.param(*document_.editedInPicture()).base);
  moveChosen({by.x(), by.y()});
}

void CopyHandles::paint(QPainter& p) const {
  if (!shown()) return;
  const Theme& t = Theme::now();
  const auto list = places();
  const auto& changes = std::get<CopyChanges>(document_.param(*document_.editedInPicture()).base);
  const double zoom = std::sqrt(std::abs(toWidget_.determinant()));
  p.setRenderHint(QPainter::Antialiasing);
  const auto dot = [&](QPointF at, double radius, const QColor& fill) {
    p.setPen(QPen(QColor(0, 0, 0, 150), 2.4));
    p.setBrush(Qt::NoBrush);
    p.drawEllipse(at, radius, radius);
    p.setPen(QPen(Qt::white, 1.2));
    p.setBrush(fill);
    p.drawEllipse(at, radius, radius);
  };
  for (const CopyPlace& place : list) {
    const QPointF at = placeOf(place);
    const bool own = chosen(place.copy);
    if (own) {
      QPolygonF box;
      const double c = std::cos(place.turn * (std::numbers::pi / 180));
      const double s = std::sin(place.turn * (std::numbers::pi / 180));
      const double w = place.halfWidth + 4 / std::max(1e-9, zoom);
      const double h = place.halfHeight + 4 / std::max(1e-9, zoom);
      for (const Point q : {Point{-w, -h}, {w, -h}, {w, h}, {-w, h}, {-w, -h}}) {
        const Point corner = toWidget_({place.at.x + q.x * c - q.y * s, place.at.y + q.x * s + q.y * c});
        box << QPointF(corner.x, corner.y);
      }
      p.setBrush(Qt::NoBrush);
      p.setPen(QPen(QColor(0, 0, 0, 130), 3.4));
      p.drawPolyline(box);
      p.setPen(QPen(t.persimmon, 1.8));
      p.drawPolyline(box);
    }
    if (place.out) {
      // A ring with a bar through it: it is not there.
      const double r = own ? 6 : 5;
      for (const auto& [colour, width] : {std::pair(QColor(0, 0, 0, 150), 3.2), std::pair(own ? t.persimmon : QColor(Qt::white), 1.5)}) {
        p.setPen(QPen(colour, width));
        p.setBrush(Qt::NoBrush);
        p.drawEllipse(at, r, r);
        p.drawLine(at + QPointF(-r * 0.7, r * 0.7), at + QPointF(r * 0.7, -r * 0.7));
      }
    } else if (own || changes.find(place.copy) || list.size() <= kMostDots) {
      dot(at,
          own                        ? 4
          : changes.find(place.copy) ? 3.5
                                     : 2.2,
          own                        ? t.persimmon
          : changes.find(place.copy) ? t.lagoon
                                     : QColor(255, 255, 255, 190));
    }
  }
  if (band_ && band_->normalized().width() + band_->normalized().height() > 3) {
    p.setPen(QPen(QColor(0, 0, 0, 130), 2.6));
    p.setBrush(QColor(255, 255, 255, 30));
    p.drawRect(band_->normalized());
    p.setPen(QPen(Qt::white, 1.1, Qt::DashLine));
    p.drawRect(band_->normalized());
  }
}

}  // namespace oa::app
