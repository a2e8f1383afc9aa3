#include "scene/run.h"
#include "widgets/view.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QSpinBox>
#include <QTimer>
#include <QVBoxLayout>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "scene/extent.h"
#include "widgets/item_picker.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr int kMargin = 14;
constexpr int kBars = 42;  // above and below the picture
constexpr double kSeamGain = 8;
constexpr double kLeastZoom = 0.02;
constexpr double kMostZoom = 32;

// What differs between two pictures, made visible: middle grey where they agree.
QImage difference(const QImage& a, const QImage& b) {
  QImage out(a.size(), QImage::Format_RGB32);
  for (int y = 0; y < a.height(); ++y) {
    const auto* p = reinterpret_cast<const QRgb*>(a.constScanLine(y));
    const auto* q = reinterpret_cast<const QRgb*>(b.constScanLine(y));
    auto* o = reinterpret_cast<QRgb*>(out.scanLine(y));
    const auto one = [](int from, int to) { return std::clamp(128 + static_cast<int>(kSeamGain * (to - from)), 0, 255); };
    for (int x = 0; x < a.width(); ++x)
      o[x] = qRgb(one(qRed(p[x]), qRed(q[x])), one(qGreen(p[x]), qGreen(q[x])), one(qBlue(p[x]), qBlue(q[x])));
  }
  return out;
}

// The ground behind what is transparent, 24 x 24 pixels that repeat.
const QPixmap& checks() {
  static const QPixmap tile = [] {
    QPixmap made(24, 24);
    made.fill(QColor(0x9A, 0x9A, 0x9A));
    QPainter p(&made);
    p.fillRect(0, 0, 12, 12, QColor(0xB4, 0xB4, 0xB4));
    p.fillRect(12, 12, 12, 12, QColor(0xB4, 0xB4, 0xB4));
    return made;
  }();
  return tile;
}

}  // namespace

View::View(Document& document, RenderService& renderer, Player& player, QWidget* parent)
    : QWidget(parent), document_(document), renderer_(renderer), player_(player), place_(document), outline_(document) {
  setMinimumSize(320, 220);
  setMouseTracking(true);
  setFocusPolicy(Qt::StrongFocus);
  setAccessibleName(tr("Picture"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(kMargin, 8, kMargin, 8);
  auto* bar = new QHBoxLayout();
  bar->setSpacing(4);
  const QString onGrey = QStringLiteral("color: #FFFFFF; background: transparent;");
  fit_ = new QLabel(this);
  fit_->setStyleSheet(onGrey);
  fit_->setFont(uiFont(11));
  bar->addWidget(fit_);
  bar->addStretch(1);
  modes_ = new QButtonGroup(this);
  const std::pair<QString, QString> names[] = {
      {tr("Picture"), tr("The picture as it will be exported")},
      {tr("Seam"), tr("Left of the line the last frame, right of it the first, and their difference below")},
      {tr("Wrap 3×3"), tr("The picture beside itself, to see the edges of tiles")},
      {tr("Stand-in"), tr("A sample title in front; it is not exported")},
      {tr("Safe areas"), tr("What every screen shows: 93 % for action, 90 % for titles")}};
  int id = 0;
  for (const auto& [name, says] : names) {
    auto* button = new QPushButton(name, this);
    button->setCheckable(true);
    button->setToolTip(says);
    button->setFont(uiFont(11, 500));
    button->setStyleSheet(
        QStringLiteral("QPushButton { background: rgba(0,0,0,70); color: #FFFFFF; border: 1px solid transparent; border-radius: 11px; "
                       "padding: 2px 11px; min-height: 17px; }"
                       "QPushButton:hover { background: rgba(0,0,0,110); } QPushButton:focus { border: 1px solid #FFFFFF; }"
                       "QPushButton:checked { background: #F3F0E9; color: #26231F; }"));
    modes_->addButton(button, id++);
    bar->addWidget(button);
  }
  modes_->button(0)->setChecked(true);
  connect(&document_, &Document::colourWanted, this, &View::pickColour);
  connect(modes_, &QButtonGroup::idClicked, this, [this](int i) { setMode(static_cast<ViewMode>(i)); });
  column->addLayout(bar);
  column->addStretch(1);
  status_ = new QLabel(this);
  status_->setStyleSheet(onGrey);
  status_->setFont(uiFont(11));
  auto* below = new QHBoxLayout();
  below->addWidget(status_, 1);
  // Footage goes on while the loop goes round: which lap of it is seen.
  lap_ = new QSpinBox(this);
  lap_->setObjectName(QStringLiteral("footageLap"));
  lap_->setPrefix(tr("Footage in lap "));
  lap_->setRange(1, 1);
  lap_->setFont(uiFont(11));
  lap_->setAccessibleName(tr("Lap of the loop that the footage is seen in"));
  lap_->setToolTip(tr("The footage goes on while the loop goes round: which lap of the loop it is seen in"));
  lap_->hide();
  connect(lap_, &QSpinBox::valueChanged, this, [this](int lap) { player_.setLap(lap - 1); });
  below->addWidget(lap_);
  column->addLayout(below);
  connect(&renderer, &RenderService::frameReady, this, [this](int frame, const QImage& image, Generation generation) {
    // Never back to an older state of the scene; and a late picture of another frame must not flash up while playing, unless it
    // is the first of a newer state: while a knob is turned, what is being made is shown.
    if (generation < shown_) return;
    if (player_.playing() && generation == shown_ && floorMod(frame, document_.scene().frames) != player_.frame()) return;
    shown_ = generation;
    image_ = image;
    update();
    updateStatus();
  });
  connect(&renderer, &RenderService::cacheGrew, this, &View::updateStatus);
  connect(&player, &Player::frameChanged, this, &View::showFrame);
  connect(&player, &Player::speedChanged, this, &View::updateStatus);
  connect(&document, &Document::changed, this, [this] {
    showLaps();
    askForSize();
    update();
  });
  connect(&document, &Document::currentLayerChanged, this, qOverload<>(&QWidget::update));
  connect(&document, &Document::outlineEdited, this, qOverload<>(&QWidget::update));
}

void View::showLaps() {
  const bool runs = document_.plan().runs();
  const RunLength run = runOf(document_.scene());
  const int frames = document_.scene().frames;
  lap_->setMaximum(runs ? static_cast<int>((run.frames + frames - 1) / frames) : 1);
  lap_->setSuffix(tr(" of %1").arg(lap_->maximum()));
  lap_->setVisible(runs && lap_->maximum() > 1);
}

void View::setMode(ViewMode mode) {
  if (mode != mode_) dragged_ = -1;
  mode_ = mode;
  Q_EMIT modeChanged();
  modes_->button(static_cast<int>(mode))->setChecked(true);
  askForSize();
  update();
}

double View::zoom() const {
  if (zoom_ > 0) return zoom_;
  const Scene& s = document_.scene();
  return std::min((width() - 2.0 * kMargin) / s.width, (height() - 2.0 * kBars) / s.height);
}

void View::setZoom(double zoom) {
  zoom_ = zoom <= 0 ? 0 : std::clamp(zoom, kLeastZoom, kMostZoom);
  if (zoom_ == 0) pan_ = {};
  askForSize();
  update();
}

QRectF View::frameRect() const {
  const double z = zoom();
  const Scene& s = document_.scene();
  const QPointF centre = QPointF(width() / 2.0, height() / 2.0) + pan_;
  return {centre.x() - s.width * z / 2, centre.y() - s.height * z / 2, s.width * z, s.height * z};
}

void View::askForSize() {
  const Scene& s = document_.scene();
  const double z = std::min(1.0, zoom() * devicePixelRatioF());
  renderer_.setSize(QSize(static_cast<int>(std::lround(s.width * z)), static_cast<int>(std::lround(s.height * z))));
  fit_->setText((zoom_ > 0 ? tr("%1 %") : tr("Fit %1 %")).arg(std::lround(zoom() * 100)));
}

void View::showFrame(int frame) {
  if (const QImage image = renderer_.cached(frame); !image.isNull()) {
    image_ = image;
    shown_ = renderer_.generation();
  }
  update();
  updateStatus();
}

void View::updateStatus() {
  const Scene& s = document_.scene();
  const int percent = static_cast<int>(std::floor(renderer_.filled() * 100));
  QString line = tr("Frame %1 of %2   ·   %3 % ready").arg(player_.frame()).arg(s.frames).arg(percent);
  if (player_.playing() && player_.shownRate() > 0) line += tr("   ·   %1 pictures a second").arg(player_.shownRate(), 0, 'f', 1);
  if (player_.speed() != 1) line += tr("   ·   %1 × speed").arg(player_.speed());
  // What lies under the pointer, as it will be handed over: place and 8-bit values.
  const QRectF frame = frameRect();
  if (mode_ == ViewMode::Picture && !image_.isNull() && underMouse() && frame.contains(pointer_)) {
    const QColor c = colourAt(pointer_);
    line += tr("   ·   %1, %2: %3 %4 %5")
                .arg(static_cast<int>((pointer_.x() - frame.left()) / frame.width() * s.width))
                .arg(static_cast<int>((pointer_.y() - frame.top()) / frame.height() * s.height))
                .arg(c.red())
                .arg(c.green())
                .arg(c.blue());
    if (c.alpha() < 255) line += tr(" alpha %1").arg(c.alpha());
  }
  if (picking_) line = tr("Click a colour in the picture   ·   Escape leaves it");
  if (line != status_->text()) status_->setText(line);
}

QColor View::colourAt(QPointF place) const {
  const QRectF frame = frameRect();
  if (image_.isNull() || !frame.contains(place)) return Qt::transparent;
  const double x = (place.x() - frame.left()) / frame.width();
  const double y = (place.y() - frame.top()) / frame.height();
  return image_.pixelColor(std::min(image_.width() - 1, static_cast<int>(x * image_.width())),
                           std::min(image_.height() - 1, static_cast<int>(y * image_.height())));
}

void View::pickColour(const ParamAddress& at) {
  setMode(ViewMode::Picture);
  picking_ = at;
  setCursor(Qt::CrossCursor);
  setFocus();
  updateStatus();
}

void View::endPicking() {
  picking_.reset();
  setCursor(Qt::ArrowCursor);
  updateStatus();
}

void View::setPlacing(bool placing) {
  placing_ = placing;
  place_.setAlways(placing);
  Q_EMIT modeChanged();
  update();
}

void View::syncPlace() {
  const QRectF frame = frameRect();
  place_.setView(frame.topLeft(), frame.width() / document_.scene().width);
  place_.setFrame(player_.frame());
  if (outline_.shown()) outline_.setView(toWidget(document_.currentLayer()), player_.frame());
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

std::vector<View::Handle> View::handles() const {
  std::vector<Handle> list;
  const Layer* layer = document_.layer();
  if (!layer || !layer->visible || layer->locked || mode_ != ViewMode::Picture || outline_.shown()) return list;
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
    for (std::size_t i = 0; i < step.params.size() && !placed; ++i)
      if (isShown(step.spec->params, step.params, i)) add(step.spec->params[i], step.params[i], {layer->id, s, static_cast<int>(i)}, {});
    for (const Item& item : step.items)
      for (std::size_t i = 0; i < item.params.size(); ++i)
        add(step.spec->items->params[i], item.params[i], {layer->id, s, static_cast<int>(i), item.id}, itemColour(*step.spec->items, item));
  };
  for (int s = 0; s < static_cast<int>(layer->recipe.size()); ++s) addStep(layer->recipe[static_cast<std::size_t>(s)], s);
  if (layer->mask && layer->mask->on) addStep(layer->mask->source, ParamAddress::kMaskSource);
  return list;
}

void View::paintEvent(QPaintEvent*) {
  QPainter p(this);
  p.fillRect(rect(), Theme::now().surround);
  // Far enlarged, pixels are seen as what they are.
  p.setRenderHint(QPainter::SmoothPixmapTransform, zoom() * devicePixelRatioF() < 4);
  const QRectF frame = frameRect();
  const Scene& scene = document_.scene();
  if (image_.isNull()) return;
  if (mode_ == ViewMode::Wrap) {
    const QSizeF third = frame.size() / 3;
    if (image_.hasAlphaChannel()) p.fillRect(frame, QColor(0xA8, 0xA8, 0xA8));
    for (int y = 0; y < 3; ++y)
      for (int x = 0; x < 3; ++x)
        p.drawImage(QRectF(frame.left() + x * third.width(), frame.top() + y * third.height(), third.width(), third.height()), image_);
    return;
  }
  if (!scene.background || scene.background->a < 1) {
    // Of a large frame only what is seen.
    const QRectF seen = frame.intersected(QRectF(rect()));
    p.drawTiledPixmap(seen, checks(), seen.topLeft() - frame.topLeft());
  }
  if (mode_ == ViewMode::Seam) return paintSeam(p, frame);
  p.drawImage(frame, image_);
  if (mode_ == ViewMode::StandIn) paintStandIn(p, frame);
  if (mode_ == ViewMode::SafeAreas) paintSafeAreas(p, frame);
  paintHandles(p);
}

void View::paintHandles(QPainter& p) {
  const Theme& t = Theme::now();
  p.setRenderHint(QPainter::Antialiasing);
  if (mode_ == ViewMode::Picture) {
    syncPlace();
    outline_.shown() ? outline_.paint(p) : place_.paint(p);
  }
  const auto list = handles();
  for (const Handle& handle : list) paintWay(p, handle.at);
  const bool laidOut = paintSkeleton(p);
  // Two places of one step that belong to no parts are the ends of something.
  for (std::size_t i = 0; i + 1 < list.size(); i += 2) {
    if (list[i].at.step != list[i + 1].at.step || list[i].at.item != 0 || list[i + 1].at.item != 0) continue;
    if (list[i + 1].at.param != list[i].at.param + 1 || laidOut) continue;
    p.setPen(QPen(QColor(0, 0, 0, 120), 3));
    p.drawLine(list[i].place, list[i + 1].place);
    p.setPen(QPen(QColor(255, 255, 255, 220), 1.4));
    p.drawLine(list[i].place, list[i + 1].place);
  }
  for (const Handle& handle : list) {
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
}

// The lines by which the source is laid out, while it is edited and nothing plays. False where it has none.
bool View::paintSkeleton(QPainter& p) const {
  const Layer* layer = document_.layer();
  if (!layer || !layer->visible || layer->locked || mode_ != ViewMode::Picture) return false;
  const RecipeStep& source = layer->recipe.front();
  if (!source.spec->skeleton) return false;
  if (player_.playing() || outline_.shown()) return true;
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

// Where a moving place goes over its lap.
void View::paintWay(QPainter& p, const ParamAddress& at) {
  const ParamSpec& spec = document_.spec(at);
  const Param& param = document_.param(at);
  if (!reallyMoves(spec, param)) return;
  const Affine map = handleMap(at.layer);
  // One motion goes the same way in every lap; several are followed through the loop.
  const bool alone = param.more.empty();
  const int steps = alone ? 96 : 768;
  QPolygonF way;
  for (int i = 0; i <= steps; ++i) {
    const Value value = alone ? valueOnLap(spec, param, fract(static_cast<double>(i) / steps)) : evaluate(spec, param, {i, steps}).value;
    const Point place = map(std::get<Point>(value));
    const QPointF point(place.x, place.y);
    if (way.isEmpty() || way.last() != point) way << point;
  }
  p.setBrush(Qt::NoBrush);
  p.setPen(QPen(QColor(0, 0, 0, 110), 3));
  p.drawPolyline(way);
  p.setPen(QPen(QColor(255, 255, 255, 210), 1.3, Qt::DashLine));
  p.drawPolyline(way);
  const Moment now{player_.frame(), document_.scene().frames};
  const Point here = map(std::get<Point>(evaluate(spec, param, now).value));
  p.setPen(QPen(QColor(0, 0, 0, 140), 1));
  p.setBrush(Qt::white);
  p.drawEllipse(QPointF(here.x, here.y), 3.5, 3.5);
}

void View::paintSeam(QPainter& p, const QRectF& frame) {
  const int n = document_.scene().frames;
  const QImage last = renderer_.cached(n - 1);
  const QImage first = renderer_.cached(0);
  if (last.isNull() || first.isNull() || last.size() != first.size()) {
    p.drawImage(frame, image_);
    p.setPen(Qt::white);
    p.drawText(frame, Qt::AlignCenter, tr("The seam shows once its two frames are rendered."));
    return;
  }
  const QRectF upper(frame.left(), frame.top(), frame.width(), frame.height() / 2);
  const QRectF lower = upper.translated(0, upper.height());
  const double x = split_ * last.width();
  const double screenX = upper.left() + split_ * upper.width();
  // Halves of the height, so that both fit: the upper half of the picture is what is compared.
  const double h = last.height() / 2.0;
  const QRectF leftPart(upper.topLeft(), QPointF(screenX, upper.bottom()));
  const QRectF rightPart(QPointF(screenX, upper.top()), upper.bottomRight());
  p.drawImage(leftPart, last, QRectF(0, h / 2, x, h));
  p.drawImage(rightPart, first, QRectF(x, h / 2, last.width() - x, h));
  // Made anew only when one of the two frames was.
  if (const std::pair keys(last.cacheKey(), first.cacheKey()); keys != differenceOf_) {
    difference_ = difference(last, first);
    differenceOf_ = keys;
  }
  p.drawImage(lower, difference_, QRectF(0, h / 2, last.width(), h));
  p.setPen(QPen(Theme::now().persimmon, 2));
  p.drawLine(QPointF(screenX, upper.top()), QPointF(screenX, upper.bottom()));
  p.setFont(uiFont(11, 600));
  const auto label = [&](const QString& words, QPointF place, Qt::Alignment side) {
    QRectF box = p.fontMetrics().boundingRect(words);
    box = QRectF(0, 0, box.width() + 14, 20);
    box.moveTopLeft(side == Qt::AlignLeft ? place : place - QPointF(box.width(), 0));
    p.fillRect(box, QColor(0, 0, 0, 150));
    p.setPen(Qt::white);
    p.drawText(box, Qt::AlignCenter, words);
  };
  label(tr("frame %1").arg(n - 1), upper.topLeft() + QPointF(6, 6), Qt::AlignLeft);
  label(tr("frame 0"), upper.topRight() + QPointF(-6, 6), Qt::AlignRight);
  label(tr("difference × %1").arg(kSeamGain), lower.topLeft() + QPointF(6, 6), Qt::AlignLeft);
}

void View::paintStandIn(QPainter& p, const QRectF& frame) {
  const double unit = std::min(frame.height(), frame.width() * 0.6);
  p.setPen(Qt::white);
  p.setFont(uiFont(std::max(8, static_cast<int>(unit * 0.13)), 700));
  p.drawText(QRectF(frame.left(), frame.center().y() - unit * 0.16, frame.width(), unit * 0.18), Qt::AlignCenter, tr("Harbour Days"));
  p.setFont(uiFont(std::max(6, static_cast<int>(unit * 0.045)), 500));
  p.drawText(QRectF(frame.left(), frame.center().y() + unit * 0.03, frame.width(), unit * 0.09), Qt::AlignCenter,
             tr("Friday, from six · Pier stage"));
}

void View::paintSafeAreas(QPainter& p, const QRectF& frame) {
  // SMPTE ST 2046-1: 93 % for action, 90 % for titles.
  for (const double share : {0.93, 0.90}) {
    const QRectF box(frame.center().x() - frame.width() * share / 2, frame.center().y() - frame.height() * share / 2, frame.width() * share,
                     frame.height() * share);
    p.setPen(QPen(QColor(0, 0, 0, 110), 3));
    p.drawRect(box);
    p.setPen(QPen(QColor(255, 255, 255, 230), 1, share > 0.92 ? Qt::DashLine : Qt::SolidLine));
    p.drawRect(box);
  }
}

void View::resizeEvent(QResizeEvent*) { askForSize(); }

void View::wheelEvent(QWheelEvent* event) {
  const double factor = std::pow(1.0015, event->angleDelta().y());
  const QPointF under = event->position() - QPointF(width() / 2.0, height() / 2.0) - pan_;
  const double before = zoom();
  const double after = std::clamp(before * factor, kLeastZoom, kMostZoom);
  pan_ -= under * (after / before - 1);
  setZoom(after);
}

void View::mousePressEvent(QMouseEvent* event) {
  if (picking_) {
    const QColor c = colourAt(event->position());
    if (event->button() == Qt::LeftButton && c.alpha() > 0 && document_.valid(*picking_))
      document_.setBase(*picking_, Colour{c.redF(), c.greenF(), c.blueF(), 1}, false);
    return endPicking();
  }
  // The left button drags what it takes hold of, the middle one the picture; the right one asks for the menu.
  if (event->button() != Qt::LeftButton && event->button() != Qt::MiddleButton) return;
  press_ = event->position();
  pressPan_ = pan_;
  dragged_ = -1;
  splitting_ = mode_ == ViewMode::Seam && event->button() == Qt::LeftButton;
  const auto list = event->button() == Qt::LeftButton ? handles() : std::vector<Handle>();
  for (std::size_t i = 0; i < list.size(); ++i)
    if (QLineF(list[i].place, press_).length() < 12) {
      dragged_ = static_cast<int>(i);
      grab_ = list[i].own - press_;
      if (list[i].at.item != 0) document_.chooseItem(list[i].at.layer, list[i].at.step, list[i].at.item);
    }
  if (mode_ == ViewMode::Picture && event->button() == Qt::LeftButton && outline_.shown()) {
    syncPlace();
    outline_.press(press_);
    update();
  } else if (dragged_ < 0 && !splitting_ && mode_ == ViewMode::Picture && event->button() == Qt::LeftButton) {
    syncPlace();
    if (const auto hit = place_.hitAt(press_); hit.part != PlaceHandles::Part::None) place_.press(hit, press_);
  }
  panning_ = dragged_ < 0 && !splitting_ && !place_.dragging() && !outline_.dragging();
  if (panning_) setCursor(Qt::ClosedHandCursor);
}

void View::mouseMoveEvent(QMouseEvent* event) {
  pointer_ = event->position();
  updateStatus();
  if (picking_) return;
  if (!(event->buttons() & (Qt::LeftButton | Qt::MiddleButton))) {
    const auto list = handles();
    const bool over =
        std::any_of(list.begin(), list.end(), [&](const Handle& h) { return QLineF(h.place, event->position()).length() < 12; });
    syncPlace();
    const auto part = mode_ == ViewMode::Picture ? place_.hitAt(event->position()).part : PlaceHandles::Part::None;
    setCursor(over                               ? Qt::PointingHandCursor
              : part == PlaceHandles::Part::None ? Qt::ArrowCursor
              : part == PlaceHandles::Part::Move ? Qt::SizeAllCursor
                                                 : Qt::PointingHandCursor);
    return;
  }
  if (outline_.dragging()) {
    syncPlace();
    outline_.move(event->position(), event->modifiers() & Qt::AltModifier, event->modifiers() & Qt::ShiftModifier);
    return update();
  }
  if (place_.dragging()) {
    place_.move(event->position(), event->modifiers() & Qt::AltModifier, event->modifiers() & Qt::ShiftModifier);
    update();
    return;
  }
  const QRectF frame = frameRect();
  if (dragged_ >= 0) {
    const auto list = handles();
    if (dragged_ >= static_cast<int>(list.size())) return;
    const ParamAddress at = list[static_cast<std::size_t>(dragged_)].at;
    const ParamSpec& spec = document_.spec(at);
    const auto part = [&](double v) { return std::clamp(std::round(v * 1000) / 1000, spec.min, spec.max); };
    const QPointF to = event->position() + grab_;
    const Point share = handleMap(at.layer).inverse()({to.x(), to.y()});
    document_.setBase(at, Point{part(share.x), part(share.y)}, true);
  } else if (splitting_) {
    split_ = std::clamp((event->position().x() - frame.left()) / frame.width(), 0.0, 1.0);
    update();
  } else if (panning_) {
    if (zoom_ == 0) zoom_ = zoom();
    pan_ = pressPan_ + event->position() - press_;
    askForSize();
    update();
  }
}

void View::mouseReleaseEvent(QMouseEvent* event) {
  if (event->button() == Qt::RightButton) return;
  if (dragged_ >= 0) document_.endGesture();
  place_.release();
  outline_.release();
  update();
  dragged_ = -1;
  panning_ = splitting_ = false;
  setCursor(Qt::ArrowCursor);
}

void View::keyPressEvent(QKeyEvent* event) {
  if (picking_ && event->key() == Qt::Key_Escape) return endPicking();
  if (outline_.shown() && mode_ == ViewMode::Picture) {
    if (event->key() == Qt::Key_Escape) return document_.editOutline({});
    if (event->key() == Qt::Key_PageDown || event->key() == Qt::Key_PageUp) {
      outline_.chooseNext(event->key() == Qt::Key_PageDown ? 1 : -1);
      return update();
    }
    if (event->key() == Qt::Key_Delete || event->key() == Qt::Key_Backspace) return outline_.removeChosen();
  }
  // A layer that has handles is nudged; with others the keys go through the loop.
  const QPointF step = event->key() == Qt::Key_Left    ? QPointF(-1, 0)
                       : event->key() == Qt::Key_Right ? QPointF(1, 0)
                       : event->key() == Qt::Key_Up    ? QPointF(0, -1)
                       : event->key() == Qt::Key_Down  ? QPointF(0, 1)
                                                       : QPointF();
  const bool plain = !(event->modifiers() & (Qt::ControlModifier | Qt::AltModifier));
  if (step.isNull() || !plain || mode_ != ViewMode::Picture) return QWidget::keyPressEvent(event);
  if (outline_.shown()) return outline_.nudge(step * (event->modifiers() & Qt::ShiftModifier ? 10 : 1));
  if (!place_.shown()) return QWidget::keyPressEvent(event);
  place_.nudge(step * (event->modifiers() & Qt::ShiftModifier ? 10 : 1));
}

void View::mouseDoubleClickEvent(QMouseEvent* event) {
  if (event->button() != Qt::LeftButton) return;
  if (mode_ == ViewMode::Picture && outline_.shown()) {
    syncPlace();
    outline_.doubleClick(event->position());
    return update();
  }
  setZoom(0);
}

void View::contextMenuEvent(QContextMenuEvent* event) { Q_EMIT menuWanted(event->globalPos()); }

}  // namespace oa::app
