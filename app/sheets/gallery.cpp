#include "sheets/gallery.h"

#include <QAbstractButton>
#include <QDir>
#include <QFile>
#include <QGridLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QPainter>
#include <QPainterPath>
#include <QScrollArea>
#include <QToolButton>
#include <QVBoxLayout>
#include <mutex>

#include "render/frames.h"
#include "scene/scene_json.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr int kFrames = 60;
constexpr int kThumbWidth = 320;
constexpr int kThumbHeight = 180;

}  // namespace

std::vector<Scene> starterScenes() {
  std::vector<Scene> scenes;
  const QDir folder(QStringLiteral(":/oa/starters"));
  for (const QString& name : folder.entryList({QStringLiteral("*.overagain")}, QDir::Files, QDir::Name)) {
    QFile file(folder.filePath(name));
    if (!file.open(QIODevice::ReadOnly)) continue;
    if (auto scene = sceneFromText(file.readAll().toStdString())) scenes.push_back(std::move(*scene));
  }
  return scenes;
}

class StarterCard : public QAbstractButton {
 public:
  StarterCard(const Scene& scene, QWidget* parent) : QAbstractButton(parent) {
    setText(oa::app::text(scene.name));
    setAccessibleName(tr("Starter %1").arg(text()));
    details_ = tr("%1 layers · %2 s").arg(scene.layers.size()).arg(oa::app::text(numberText(scene.seconds(), 1)));
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    setMinimumSize(200, 160);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
  }
  void addFrame(const QImage& image) {
    const std::scoped_lock lock(mutex_);
    frames_.push_back(image);
  }
  void advance() {
    const std::scoped_lock lock(mutex_);
    if (!frames_.empty()) shown_ = (shown_ + 1) % frames_.size();
    update();
  }

 protected:
  // The picture keeps the proportions of a screen at any width of the window.
  void resizeEvent(QResizeEvent*) override { setFixedHeight((width() - 14) * 9 / 16 + 50); }
  void paintEvent(QPaintEvent*) override {
    const Theme& t = Theme::now();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setRenderHint(QPainter::SmoothPixmapTransform);
    const bool lit = underMouse() || hasFocus();
    const QRectF card = QRectF(rect()).adjusted(1, 1, -1, -1);
    p.setPen(QPen(lit ? t.persimmon : t.line, lit ? 2 : 1));
    p.setBrush(t.card);
    p.drawRoundedRect(card, 8, 8);
    const QRectF picture = card.adjusted(6, 6, -6, -42);
    QPainterPath clip;
    clip.addRoundedRect(picture, 5, 5);
    p.save();
    p.setClipPath(clip);
    p.fillRect(picture, t.surround);
    {
      const std::scoped_lock lock(mutex_);
      if (!frames_.empty()) {
        const QSizeF size = QSizeF(frames_[shown_].size()).scaled(picture.size(), Qt::KeepAspectRatioByExpanding);
        p.drawImage(QRectF(picture.center() - QPointF(size.width() / 2, size.height() / 2), size), frames_[shown_]);
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
  QString details_;
  std::mutex mutex_;
  std::vector<QImage> frames_;
  std::size_t shown_ = 0;
};

Gallery::Gallery(QWidget* parent) : QWidget(parent), scenes_(starterScenes()) {
  setAutoFillBackground(true);
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(24, 16, 24, 16);
  auto* top = new QHBoxLayout();
  auto* title = new QLabel(tr("Begin with a starter"), this);
  title->setObjectName(QStringLiteral("title"));
  auto* says = new QLabel(tr("Each one loops already. Change anything."), this);
  says->setObjectName(QStringLiteral("muted"));
  auto* close = new QToolButton(this);
  close->setIcon(icon(QStringLiteral("x")));
  close->setToolTip(tr("Back to the scene"));
  close->setAccessibleName(tr("Close"));
  connect(close, &QToolButton::clicked, this, &Gallery::closed);
  top->addWidget(title);
  top->addSpacing(12);
  top->addWidget(says, 1);
  top->addWidget(close);
  column->addLayout(top);
  auto* scroll = new QScrollArea(this);
  scroll->setWidgetResizable(true);
  auto* inside = new QWidget();
  auto* grid = new QGridLayout(inside);
  grid->setSpacing(14);
  grid->setContentsMargins(0, 8, 8, 8);
  for (std::size_t i = 0; i < scenes_.size(); ++i) {
    auto* card = new StarterCard(scenes_[i], inside);
    connect(card, &QAbstractButton::clicked, this, [this, i] { Q_EMIT chosen(scenes_[i]); });
    grid->addWidget(card, static_cast<int>(i) / 3, static_cast<int>(i) % 3);
    cards_.push_back(card);
  }
  grid->setRowStretch(static_cast<int>(scenes_.size()), 1);
  scroll->setWidget(inside);
  column->addWidget(scroll, 1);
  timer_.setInterval(66);
  connect(&timer_, &QTimer::timeout, this, [this] {
    for (StarterCard* card : cards_) card->advance();
  });
}

Gallery::~Gallery() {
  stop_ = true;
  if (thread_.joinable()) thread_.join();
}

QAbstractButton* Gallery::card(int index) const { return cards_[static_cast<std::size_t>(index)]; }

void Gallery::render() {
  // First one picture of each, then the loops, a frame of each by turns.
  std::vector<std::unique_ptr<Renderer>> renderers;
  for (const Scene& scene : scenes_) {
    RenderOptions options;
    options.manyFrames = true;
    options.cancel = &stop_;
    renderers.push_back(std::make_unique<Renderer>(scene, kThumbWidth, kThumbHeight, options));
  }
  for (int f = 0; f < kFrames; ++f)
    for (std::size_t i = 0; i < renderers.size(); ++i) {
      if (stop_) return;
      Frame8 frame;
      renderInto(*renderers[i], std::int64_t{scenes_[i].frames} * f / kFrames, Alpha::Premultiplied, frame);
      if (stop_) return;
      const QImage image(frame.rgba.data(), frame.width, frame.height, frame.width * 4, QImage::Format_RGBA8888_Premultiplied);
      cards_[i]->addFrame(image.convertToFormat(QImage::Format_ARGB32_Premultiplied));
      if (f == 0) Q_EMIT framesReady(static_cast<int>(i));
    }
}

void Gallery::showEvent(QShowEvent*) {
  if (!thread_.joinable()) thread_ = std::thread([this] { render(); });
  timer_.start();
  if (!cards_.empty()) cards_.front()->setFocus();
}

void Gallery::hideEvent(QHideEvent*) { timer_.stop(); }

void Gallery::keyPressEvent(QKeyEvent* event) {
  if (event->key() == Qt::Key_Escape)
    Q_EMIT closed();
  else
    QWidget::keyPressEvent(event);
}

}  // namespace oa::app
