#include "sheets/live_gallery.h"

#include <QAbstractButton>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QScrollArea>
#include <QScrollBar>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <mutex>

#include "base/parallel.h"
#include "render/frames.h"
#include "scene/run.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

// Pictures of a loop; many cards together hold so many.
constexpr int kFrames = 60;
constexpr int kAllFrames = 3600;

QImage pictureOf(Renderer& renderer, std::int64_t frame) {
  Frame8 made;
  renderInto(renderer, frame, Alpha::Premultiplied, made);
  return QImage(made.rgba.data(), made.width, made.height, made.width * 4, QImage::Format_RGBA8888_Premultiplied)
      .convertToFormat(QImage::Format_ARGB32_Premultiplied);
}

// The left half as it was, and a fine line between.
void halve(QImage& picture, const QImage& before) {
  constexpr int kLine = 2;
  const int middle = picture.width() / 2;
  const QRect left(0, 0, middle, picture.height());
  QPainter p(&picture);
  p.setCompositionMode(QPainter::CompositionMode_Source);
  p.drawImage(left, before, left);
  p.fillRect(middle - kLine / 2, 0, kLine, picture.height(), Qt::white);
}

}  // namespace

class LiveCard : public QAbstractButton {
 public:
  LiveCard(const GalleryItem& item, QWidget* parent) : QAbstractButton(parent), details_(item.details), first_(item.first) {
    setText(item.name);
    setAccessibleName(item.details.isEmpty() ? item.name : item.name + QStringLiteral(", ") + item.details);
    setToolTip(item.help);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setMinimumSize(130, 96);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  }
  void addFrame(const QImage& image) {
    const std::scoped_lock lock(mutex_);
    frames_.push_back(image);
  }
  void clearFrames() {
    const std::scoped_lock lock(mutex_);
    frames_.clear();
    shown_ = 0;
  }
  [[nodiscard]] int frames() const {
    const std::scoped_lock lock(mutex_);
    return static_cast<int>(frames_.size());
  }
  void advance() {
    const std::scoped_lock lock(mutex_);
    if (!frames_.empty()) shown_ = (shown_ + 1) % frames_.size();
    update();
  }

 protected:
  // The space bar and Return choose the card; elsewhere the space bar plays the loop, which is not seen here.
  bool event(QEvent* event) override {
    if (event->type() == QEvent::ShortcutOverride && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Space) {
      event->accept();
      return true;
    }
    return QAbstractButton::event(event);
  }
  void keyPressEvent(QKeyEvent* event) override {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) return click();
    QAbstractButton::keyPressEvent(event);
  }
  // The picture keeps the proportions of a screen at any width of the window.
  void resizeEvent(QResizeEvent*) override { setFixedHeight((width() - 14) * 9 / 16 + 12 + wordsHeight()); }
  void paintEvent(QPaintEvent*) override {
    const Theme& t = Theme::now();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    // Chosen by the keyboard and pointed at are two things: a ring, and a lighter card with a darker edge.
    const QRectF card = QRectF(rect()).adjusted(1.5, 1.5, -1.5, -1.5);
    p.setPen(QPen(hasFocus() ? t.persimmon : underMouse() ? t.muted : t.line, hasFocus() ? 2.4 : 1));
    p.setBrush(underMouse() ? blendOf(t.card, t.ink, 0.05) : t.card);
    p.drawRoundedRect(card, 8, 8);
    const QRectF picture = card.adjusted(6, 6, -6, -2 - wordsHeight());
    QPainterPath clip;
    clip.addRoundedRect(picture, 5, 5);
    p.save();
    p.setClipPath(clip);
    p.fillRect(picture, t.surround);
    {
      const std::scoped_lock lock(mutex_);
      const QImage& image = frames_.empty() ? first_ : frames_[shown_];
      if (!image.isNull()) {
        const QSizeF size = QSizeF(image.size()).scaled(picture.size(), Qt::KeepAspectRatioByExpanding);
        p.drawImage(QRectF(picture.center() - QPointF(size.width() / 2, size.height() / 2), size), image);
      }
    }
    p.restore();
    p.setPen(t.ink);
    p.setFont(uiFont(13, 600));
    p.drawText(QRectF(card.left() + 10, picture.bottom() + 3, card.width() - 20, 19), Qt::AlignLeft | Qt::AlignVCenter, text());
    p.setPen(t.muted);
    p.setFont(uiFont(11));
    p.drawText(QRectF(card.left() + 10, picture.bottom() + 20, card.width() - 20, 17), Qt::AlignLeft | Qt::AlignVCenter, details_);
  }

 private:
  [[nodiscard]] int wordsHeight() const { return details_.isEmpty() ? 24 : 40; }
  QString details_;
  QImage first_;
  mutable std::mutex mutex_;
  std::vector<QImage> frames_;
  std::size_t shown_ = 0;
};

LiveGallery::LiveGallery(const QString& title, const QString& says, int columns, QSize thumb, QWidget* parent)
    : QWidget(parent), columns_(columns), thumb_(thumb) {
  setAutoFillBackground(true);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(24, 16, 24, 16);
  top_ = new QHBoxLayout();
  title_ = new QLabel(title, this);
  title_->setObjectName(QStringLiteral("title"));
  says_ = new QLabel(says, this);
  says_->setObjectName(QStringLiteral("muted"));
  auto* close = new QToolButton(this);
  close->setIcon(icon(QStringLiteral("x")));
  close->setToolTip(tr("Back to the scene"));
  close->setAccessibleName(tr("Close"));
  connect(close, &QToolButton::clicked, this, &LiveGallery::closed);
  top_->addWidget(title_);
  top_->addSpacing(12);
  top_->addWidget(says_, 1);
  top_->addWidget(close);
  column->addLayout(top_);
  scroll_ = new QScrollArea(this);
  scroll_->setWidgetResizable(true);
  scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  column->addWidget(scroll_, 1);
  timer_.setInterval(66);
  connect(&timer_, &QTimer::timeout, this, [this] {
    for (LiveCard* card : cards_) card->advance();
  });
}

LiveGallery::~LiveGallery() { stop(); }

void LiveGallery::addTool(QWidget* tool) { top_->insertWidget(top_->count() - 1, tool); }

void LiveGallery::setWords(const QString& title, const QString& says) {
  title_->setText(title);
  says_->setText(says);
}

void LiveGallery::stop() {
  stop_ = true;
  if (thread_.joinable()) thread_.join();
  stop_ = false;
}

void LiveGallery::setItems(std::vector<GalleryItem> items, Scene before) {
  stop();
  // Only pictures change as long as the cards stay what they are.
  const bool same =
      items.size() == items_.size() && std::equal(items.begin(), items.end(), items_.begin(),
                                                  [](const auto& a, const auto& b) { return a.name == b.name && a.section == b.section; });
  items_ = std::move(items);
  before_ = std::move(before);
  if (same)
    for (LiveCard* card : cards_) card->clearFrames();
  else
    rebuild();
  if (isVisible()) start();
}

int LiveGallery::heldFrames() const {
  int held = 0;
  for (const LiveCard* card : cards_) held += card->frames();
  return held;
}

void LiveGallery::rebuild() {
  cards_.clear();
  auto* inside = new QWidget();
  auto* grid = new QGridLayout(inside);
  grid->setSpacing(12);
  grid->setContentsMargins(0, 8, 8, 8);
  for (int c = 0; c < columns_; ++c) grid->setColumnStretch(c, 1);
  int row = -1;
  int place = 0;
  bool wrapped = false;  // the last section goes over several rows, so that none has its heading beside it
  QString section;
  const auto sizeOf = [&](std::size_t first) {
    std::size_t end = first;
    while (end < items_.size() && items_[end].section == items_[first].section) ++end;
    return static_cast<int>(end - first);
  };
  for (std::size_t i = 0; i < items_.size(); ++i) {
    const GalleryItem& item = items_[i];
    if (row < 0 || item.section != section) {
      section = item.section;
      const bool besideLast = beside_ && row >= 0 && !wrapped && place + sizeOf(i) <= columns_;
      if (!besideLast) {
        row += section.isEmpty() ? 1 : 2;
        place = 0;
        wrapped = false;
      }
      if (!section.isEmpty()) {
        auto* heading = new QLabel(section, inside);
        heading->setObjectName(QStringLiteral("heading"));
        grid->addWidget(heading, row - 1, place, 1, beside_ ? 1 : columns_);
      }
    } else if (place == columns_) {
      ++row;
      place = 0;
      wrapped = true;
    }
    auto* card = new LiveCard(item, inside);
    connect(card, &QAbstractButton::clicked, this, [this, i] { Q_EMIT picked(static_cast<int>(i)); });
    grid->addWidget(card, row, place++);
    cards_.push_back(card);
  }
  grid->setRowStretch(row + 1, 1);
  scroll_->setWidget(inside);
}

QAbstractButton* LiveGallery::card(int index) const { return cards_[static_cast<std::size_t>(index)]; }

void LiveGallery::render() {
  giveWayToOthers();
  const auto rendererOf = [&](const Scene& scene, bool run) {
    RenderOptions options;
    options.manyFrames = true;
    options.cancel = &stop_;
    options.run = run;
    return std::make_unique<Renderer>(scene, thumb_.width(), thumb_.height(), options);
  };
  // First one picture of each, then the loops, a frame of each by turns.
  std::vector<std::unique_ptr<Renderer>> renderers;
  for (const GalleryItem& item : items_) renderers.push_back(rendererOf(item.scene, item.run));
  const bool halved = std::any_of(items_.begin(), items_.end(), [](const GalleryItem& item) { return item.halved; });
  const auto before = halved ? rendererOf(before_, false) : nullptr;
  const int frames = std::clamp(kAllFrames / std::max(1, static_cast<int>(items_.size())), 12, kFrames);
  for (int f = 0; f < frames; ++f) {
    const QImage was = before ? pictureOf(*before, before_.frames * f / frames) : QImage();
    for (std::size_t i = 0; i < renderers.size(); ++i) {
      if (stop_) return;
      const std::int64_t all = items_[i].run ? runOf(items_[i].scene).frames() : items_[i].scene.frames;
      QImage picture = pictureOf(*renderers[i], all * f / frames);
      if (stop_) return;
      if (items_[i].halved) halve(picture, was);
      cards_[i]->addFrame(picture);
      if (f == 0) Q_EMIT framesReady(static_cast<int>(i));
    }
  }
}

void LiveGallery::start() {
  if (!thread_.joinable()) thread_ = std::thread([this] { render(); });
}

void LiveGallery::showEvent(QShowEvent*) {
  start();
  timer_.start();
  scroll_->verticalScrollBar()->setValue(0);
  if (!cards_.empty()) cards_.front()->setFocus();
}

void LiveGallery::hideEvent(QHideEvent*) {
  // What is not seen computes nothing and holds no pictures.
  timer_.stop();
  stop();
  for (LiveCard* card : cards_) card->clearFrames();
}

void LiveGallery::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape)
    Q_EMIT closed();
  else
    QWidget::keyPressEvent(event);
}

}  // namespace oa::app
