#include "widgets/view.h"

#include <QButtonGroup>
#include <QHBoxLayout>
#include <QLabel>
#include <QInputMethodEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QSpinBox>
#include <QTimer>
#include <QVBoxLayout>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "model/comparison.h"
#include "edit/stand_ins.h"
#include "scene/run.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr double kLeastZoom = 0.02;
constexpr double kMostZoom = 32;

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
    : QWidget(parent),
      document_(document),
      renderer_(renderer),
      player_(player),
      place_(document),
      outline_(document),
      copies_(document),
      typing_(document),
      way_(document) {
  setAttribute(Qt::WA_InputMethodEnabled);
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
      {tr("Safe areas"), tr("What every screen shows: 93 % for action, 90 % for titles")}};
  const auto addButton = [&](const QString& name, const QString& says) {
    auto* button = new QPushButton(name, this);
    button->setCheckable(true);
    button->setToolTip(says);
    button->setFont(uiFont(11, 500));
    button->setStyleSheet(
        QStringLiteral("QPushButton { background: rgba(0,0,0,70); color: #FFFFFF; border: 1px solid transparent; border-radius: 11px; "
                       "padding: 2px 11px; min-height: 17px; }"
                       "QPushButton:hover { background: rgba(0,0,0,110); } QPushButton:focus { border: 1px solid #FFFFFF; }"
                       "QPushButton:checked { background: #F3F0E9; color: #26231F; }"));
    bar->addWidget(button);
    return button;
  };
  int id = 0;
  for (const auto& [name, says] : names) modes_->addButton(addButton(name, says), id++);
  bar->addSpacing(10);
  standIns_ = addButton(tr("Stand-in"), tr("Something in front to judge the loop by, a title or a speaker; it is not exported"));
  standIns_->setObjectName(QStringLiteral("standIns"));
  connect(standIns_, &QPushButton::clicked, this, [this] {
    standIns_->setChecked(edit::standInsShown(document_.scene()));
    Q_EMIT standInsWanted(standIns_->mapToGlobal(QPoint(0, standIns_->height() + 2)));
  });
  modes_->button(0)->setChecked(true);
  connect(&document_, &Document::colourWanted, this, &View::pickColour);
  connect(modes_, &QButtonGroup::idClicked, this, [this](int i) { setMode(static_cast<ViewMode>(i)); });
  column->addLayout(bar);
  column->addStretch(1);
  status_ = new QLabel(this);
  status_->setObjectName(QStringLiteral("viewStatus"));
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
    if (player_.playing() && generation == shown_ && frame != player_.shown() &&
        floorMod(frame, document_.scene().frames) != player_.shown())
      return;
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
    standIns_->setChecked(edit::standInsShown(document_.scene()));
    update();
  });
  connect(&document, &Document::currentLayerChanged, this, qOverload<>(&QWidget::update));
  connect(&document, &Document::inPictureEdited, this, qOverload<>(&QWidget::update));
  connect(&document, &Document::copiesChosen, this, qOverload<>(&QWidget::update));
}

void View::showLaps() {
  const bool runs = document_.plan().runs();
  const RunLength run = runOf(document_.scene());
  const int frames = document_.scene().frames;
  lap_->setMaximum(runs ? static_cast<int>((run.frames() + frames - 1) / frames) : 1);
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
  const QSize size(static_cast<int>(std::lround(s.width * z)), static_cast<int>(std::lround(s.height * z)));
  renderer_.setSize(size);
  if (comparison_) comparison_->setSize(size);
  fit_->setText((zoom_ > 0 ? tr("%1 %") : tr("Fit %1 %")).arg(std::lround(zoom() * 100)));
}

void View::showFrame(int) {
  if (const QImage image = renderer_.cached(player_.shown()); !image.isNull()) {
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
  if (player_.inRun())
    line = tr("Run %1 s   ·   frame %2 of the loop   ·   %3 % ready")
               .arg(static_cast<double>(player_.place()) / s.rate.value(), 0, 'f', 2)
               .arg(player_.frame())
               .arg(percent);
  if (player_.playing() && player_.shownRate() > 0) line += tr("   ·   %1 pictures a second").arg(player_.shownRate(), 0, 'f', 1);
  if (player_.speed() != 1) line += tr("   ·   %1 × speed").arg(player_.speed());
  if (typing_.shown()) line += tr("   ·   typing; Esc when done");
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
  if (!pointedAt_.isEmpty()) line += tr("   ·   %1").arg(pointedAt_);
  if (picking_) line = tr("Click a colour in the picture   ·   Escape leaves it");
  if (line_ && line_->wanted()) line = tr("Draw a line for them to go by, from the first to the last   ·   Escape leaves it");
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

Point View::shareAt(QPointF place) const {
  const QRectF frame = frameRect();
  return {(place.x() - frame.left()) / frame.width(), (place.y() - frame.top()) / frame.height()};
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

void View::setDrawnLine(DrawnLine& line) {
  line_ = &line;
  connect(&line, &DrawnLine::changed, this, [this] {
    if (line_->wanted() && line_->points().empty()) {
      setMode(ViewMode::Picture);
      setFocus();
    }
    setCursor(line_->wanted() ? Qt::CrossCursor : Qt::ArrowCursor);
    updateStatus();
    update();
  });
}

void View::setComparison(Comparison& comparison) {
  comparison_ = &comparison;
  connect(&comparison, &Comparison::imageChanged, this, qOverload<>(&QWidget::update));
  connect(&comparison, &Comparison::changed, this, [this] {
    askForSize();
    update();
  });
}

bool View::onSplit(QPointF place) const {
  const bool split = comparison_ && comparison_->there() && comparison_->look() == Comparison::Look::Split;
  if (!split || (mode_ != ViewMode::Picture && mode_ != ViewMode::SafeAreas)) return false;
  const QRectF frame = frameRect();
  return frame.contains(place) && std::abs(place.x() - frame.left() - split_ * frame.width()) < 6;
}

void View::setPlacing(bool placing) {
  placing_ = placing;
  place_.setAlways(placing);
  Q_EMIT modeChanged();
  update();
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
  comparison_ && comparison_->there() ? paintCompared(p, frame) : p.drawImage(frame, image_);
  if (mode_ == ViewMode::SafeAreas) paintSafeAreas(p, frame);
  if (mode_ == ViewMode::Picture) paintDrawnLine(p, frame);
  paintHandles(p);
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
  if (line_ && line_->wanted()) {
    if (event->button() == Qt::LeftButton) line_->extend(shareAt(event->position()));
    return;
  }
  // The left button drags what it takes hold of, the middle one the picture; the right one asks for the menu.
  if (event->button() != Qt::LeftButton && event->button() != Qt::MiddleButton) return;
  press_ = event->position();
  pressPan_ = pan_;
  dragged_ = -1;
  splitting_ = event->button() == Qt::LeftButton && (mode_ == ViewMode::Seam || onSplit(press_));
  syncPlace();
  const bool left = event->button() == Qt::LeftButton && !onSplit(press_);
  if (const int key = left && mode_ == ViewMode::Picture && !editsInPicture() ? way_.hitAt(press_) : -1; key >= 0) {
    way_.press(key, press_);
    Q_EMIT keyTaken(key);
    return update();
  }
  const auto list = left ? handles() : std::vector<Handle>();
  for (std::size_t i = 0; i < list.size(); ++i)
    if (QLineF(list[i].place, press_).length() < 12) {
      dragged_ = static_cast<int>(i);
      grab_ = list[i].own - press_;
      if (list[i].at.item != 0) document_.chooseItem(list[i].at.layer, list[i].at.step, list[i].at.item);
    }
  const bool typed = event->button() == Qt::LeftButton && !splitting_ && typingAt(press_);
  if (typed) {
    update();
  } else if (splitting_) {
    setCursor(Qt::SplitHCursor);
  } else if (mode_ == ViewMode::Picture && event->button() == Qt::LeftButton && outline_.shown()) {
    syncPlace();
    outline_.press(press_);
    update();
  } else if (mode_ == ViewMode::Picture && event->button() == Qt::LeftButton && copies_.shown()) {
    syncPlace();
    copies_.press(press_, event->modifiers() & Qt::ShiftModifier);
    update();
  } else if (dragged_ < 0 && !splitting_ && mode_ == ViewMode::Picture && event->button() == Qt::LeftButton) {
    syncPlace();
    if (const auto hit = place_.hitAt(press_); hit.part != PlaceHandles::Part::None) place_.press(hit, press_);
  }
  panning_ = dragged_ < 0 && !splitting_ && !typed && !place_.dragging() && !outline_.dragging() && !copies_.dragging() &&
             !(copies_.shown() && event->button() == Qt::LeftButton);
  if (panning_) setCursor(Qt::ClosedHandCursor);
}

void View::mouseMoveEvent(QMouseEvent* event) {
  pointer_ = event->position();
  updateStatus();
  if (picking_) return;
  if (line_ && line_->wanted()) {
    if (event->buttons() & Qt::LeftButton) line_->extend(shareAt(event->position()));
    return;
  }
  if (!(event->buttons() & (Qt::LeftButton | Qt::MiddleButton))) {
    const auto list = handles();
    const auto found =
        std::find_if(list.rbegin(), list.rend(), [&](const Handle& h) { return QLineF(h.place, event->position()).length() < 12; });
    const bool over = found != list.rend() || (mode_ == ViewMode::Picture && !editsInPicture() && way_.hitAt(event->position()) >= 0);
    pointedAt_ = found != list.rend() ? text(document_.spec(found->at).label) : QString();
    syncPlace();
    const auto part = mode_ == ViewMode::Picture ? place_.hitAt(event->position()).part : PlaceHandles::Part::None;
    setCursor(onSplit(event->position())         ? Qt::SplitHCursor
              : over                             ? Qt::PointingHandCursor
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
  if (copies_.dragging()) {
    syncPlace();
    copies_.move(event->position(), event->modifiers() & Qt::ShiftModifier);
    return update();
  }
  if (way_.dragging()) {
    way_.move(event->position(), event->modifiers() & Qt::ShiftModifier);
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
    const Handle& handle = list[static_cast<std::size_t>(dragged_)];
    const ParamAddress at = handle.at;
    if (handle.grip)
      return document_.setBase(at, grippedValue(handle, event->position() + grab_, event->modifiers() & Qt::ShiftModifier), true);
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
  if (line_ && line_->wanted()) {
    line_->extend(shareAt(event->position()));
    return line_->finish();
  }
  if (dragged_ >= 0) document_.endGesture();
  place_.release();
  way_.release();
  outline_.release();
  copies_.release();
  update();
  dragged_ = -1;
  panning_ = splitting_ = false;
  setCursor(Qt::ArrowCursor);
}

void View::keyPressEvent(QKeyEvent* event) {
  if (picking_ && event->key() == Qt::Key_Escape) return endPicking();
  if (line_ && line_->wanted() && event->key() == Qt::Key_Escape) return line_->clear();
  if (typing_.shown() && mode_ == ViewMode::Picture && WordTyping::takes(*event)) {
    syncPlace();
    typing_.press(*event);
    return update();
  }
  if (outline_.shown() && mode_ == ViewMode::Picture) {
    if (event->key() == Qt::Key_Escape) return document_.editInPicture({});
    if (event->key() == Qt::Key_PageDown || event->key() == Qt::Key_PageUp) {
      outline_.chooseNext(event->key() == Qt::Key_PageDown ? 1 : -1);
      return update();
    }
    if (event->key() == Qt::Key_Delete || event->key() == Qt::Key_Backspace) return outline_.removeChosen();
  }
  if (copies_.shown() && mode_ == ViewMode::Picture) {
    syncPlace();
    if (event->key() == Qt::Key_Escape) return document_.editInPicture({});
    if (event->key() == Qt::Key_PageDown || event->key() == Qt::Key_PageUp)
      return copies_.chooseNext(event->key() == Qt::Key_PageDown ? 1 : -1);
    if (event->key() == Qt::Key_Delete || event->key() == Qt::Key_Backspace) return copies_.leaveOut();
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
  if (copies_.shown()) return copies_.nudge(step * (event->modifiers() & Qt::ShiftModifier ? 10 : 1));
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
  if (typing_.shown()) {
    (void)typingAt(event->position());
    return update();
  }
  if (typeWordsAt(event->position())) return;
  setZoom(0);
}

// On words they are typed; false where there are none.
bool View::typeWordsAt(QPointF at) {
  const Layer* layer = document_.layer();
  if (mode_ != ViewMode::Picture || !layer || layer->locked || !place_.shown()) return false;
  syncPlace();
  if (!place_.corners().containsPoint(at, Qt::OddEvenFill)) return false;
  const auto specs = layer->recipe.front().spec->params;
  const auto words = std::find_if(specs.begin(), specs.end(), [](const ParamSpec& spec) { return spec.type == ParamType::Text; });
  if (words == specs.end()) return false;
  const ParamAddress address{layer->id, 0, static_cast<int>(words - specs.begin())};
  // Of several that are shown in turn only one is in the picture: they are typed on the card.
  const int inTurn = findParam(specs, "pages");
  if (inTurn >= 0 && std::get<bool>(layer->recipe.front().params[static_cast<std::size_t>(inTurn)].base)) {
    document_.typeWords(address);
    return true;
  }
  setFocus();
  typing_.begin(address);
  updateStatus();
  update();
  return true;
}

// A click while words are typed: within them the caret goes there, elsewhere they are done. False where nothing is typed.
bool View::typingAt(QPointF at) {
  if (mode_ != ViewMode::Picture || !typing_.shown()) return false;
  syncPlace();
  if (!place_.corners().containsPoint(at, Qt::OddEvenFill)) {
    typing_.end();
    return false;
  }
  document_.endGesture();
  typing_.press(at);
  return true;
}

bool View::event(QEvent* event) {
  // Letters are the words' own while they are typed, and no shortcuts.
  if (event->type() == QEvent::ShortcutOverride && typing_.shown() && mode_ == ViewMode::Picture &&
      WordTyping::takes(*static_cast<QKeyEvent*>(event)))
    event->accept();
  return QWidget::event(event);
}

void View::inputMethodEvent(QInputMethodEvent* event) {
  if (!typing_.shown() || event->commitString().isEmpty()) return QWidget::inputMethodEvent(event);
  typing_.insert(event->commitString());
  event->accept();
  update();
}

QVariant View::inputMethodQuery(Qt::InputMethodQuery query) const {
  if (query == Qt::ImEnabled) return typing_.shown();
  if (query != Qt::ImCursorRectangle || !typing_.shown()) return QWidget::inputMethodQuery(query);
  const auto [top, bottom] = typing_.caret();
  return QRectF(top, bottom).normalized().adjusted(-1, 0, 1, 0);
}

void View::focusOutEvent(QFocusEvent* event) {
  if (typing_.shown()) document_.endGesture();
  QWidget::focusOutEvent(event);
}

void View::contextMenuEvent(QContextMenuEvent* event) { Q_EMIT menuWanted(event->globalPos()); }

}  // namespace oa::app
