#include "model/comparison.h"

namespace oa::app {
namespace {

// A quarter of what the scene's own pictures may take.
constexpr std::size_t kBytes = RenderService::kCacheBytes / 4;

}  // namespace

Comparison::Comparison(Player& player, QObject* parent) : QObject(parent), player_(player) {
  connect(&player, &Player::frameChanged, this, &Comparison::take);
  connect(&player, &Player::playingChanged, this, [this](bool playing) {
    if (renderer_) renderer_->setPlaying(playing);
  });
}

Comparison::~Comparison() = default;

void Comparison::begin(const edit::Snapshot& other, const QString& name) {
  other_ = other;
  name_ = name;
  look_ = Look::Split;
  if (!renderer_) {
    renderer_ = std::make_unique<RenderService>(nullptr, kBytes);
    connect(renderer_.get(), &RenderService::frameReady, this, [this](int, const QImage& image, quint64) {
      image_ = image;
      Q_EMIT imageChanged();
    });
    image_ = {};
  }
  if (!size_.isEmpty()) renderer_->setSize(size_);
  renderer_->setPlaying(player_.playing());
  const Scene scene = other.scene();
  frames_ = scene.frames;
  renderer_->setScene(scene);
  take();
  Q_EMIT changed();
}

void Comparison::end() {
  if (!other_) return;
  other_.reset();
  renderer_.reset();
  image_ = {};
  Q_EMIT changed();
}

void Comparison::setLook(Look look) {
  if (look == look_ || !other_) return;
  look_ = look;
  Q_EMIT changed();
}

void Comparison::setSize(QSize pixels) {
  size_ = pixels;
  if (renderer_) renderer_->setSize(pixels);
}

void Comparison::take() {
  if (!renderer_) return;
  // A loop of another length goes round by itself.
  const int frame = player_.frame() % frames_;
  renderer_->setFrame(frame);
  if (const QImage ready = renderer_->cached(frame); !ready.isNull()) image_ = ready;
  Q_EMIT imageChanged();
}

}  // namespace oa::app
