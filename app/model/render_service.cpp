#include "model/render_service.h"

#include <QElapsedTimer>
#include <algorithm>
#include <cmath>

#include "base/parallel.h"
#include "render/frames.h"

namespace oa::app {
namespace {

// A picture that would take longer is shown at half its size first.
constexpr double kPatienceMs = 40;

QImage toImage(Renderer& renderer, std::int64_t k) {
  Frame8 frame;
  renderInto(renderer, k, Alpha::Premultiplied, frame);
  const bool alpha = !renderer.scene().background || renderer.scene().background->a < 1;
  const auto format = alpha ? QImage::Format_RGBA8888_Premultiplied : QImage::Format_RGBX8888;
  const QImage wrapped(frame.rgba.data(), frame.width, frame.height, frame.width * 4, format);
  // The raster engine paints this format without converting it again for every repaint.
  return wrapped.convertToFormat(alpha ? QImage::Format_ARGB32_Premultiplied : QImage::Format_RGB32);
}

}  // namespace

struct RenderService::Job {
  std::shared_ptr<const Scene> scene;
  QSize size;
  std::uint64_t generation = 0;
  std::unique_ptr<Renderer> renderer;
  int distinct = 1;
  bool coarseShown = false;
  std::size_t thumbnails = 0;
  bool checked = false;
};

RenderService::RenderService(QObject* parent) : QObject(parent) {
  qRegisterMetaType<oa::JointCheck>();
  worker_ = std::thread([this] { run(); });
}

RenderService::~RenderService() {
  {
    const std::scoped_lock lock(mutex_);
    quit_ = true;
    stale_ = true;
  }
  wake_.notify_all();
  worker_.join();
}

void RenderService::startOver() {
  ++generation_;
  // A picture that somebody waits for is finished although it is out of date by now: during a drag every change
  // comes before the picture of the last one is there, and a picture late by one change is better than none.
  if (!urgent_) stale_ = true;
  frameWanted_ = true;
  cache_.clear();
  cachedFrames_ = 0;
}

void RenderService::setScene(const Scene& scene) {
  auto copy = std::make_shared<const Scene>(scene);
  {
    const std::scoped_lock lock(mutex_);
    scene_ = std::move(copy);
    startOver();
  }
  wake_.notify_all();
}

void RenderService::setSize(QSize pixels) {
  pixels = pixels.expandedTo(QSize(16, 16)).boundedTo(QSize(kMaxFrameSize, kMaxFrameSize));
  {
    const std::scoped_lock lock(mutex_);
    if (pixels == size_) return;
    size_ = pixels;
    startOver();
  }
  wake_.notify_all();
}

void RenderService::setFrame(int frame) {
  {
    const std::scoped_lock lock(mutex_);
    frame_ = frame;
    frameWanted_ = true;
  }
  wake_.notify_all();
}

QImage RenderService::cached(int frame) const {
  const std::scoped_lock lock(mutex_);
  if (cache_.empty()) return {};
  return cache_[static_cast<std::size_t>(floorMod(frame, static_cast<std::int64_t>(cache_.size())))];
}

bool RenderService::isCached(int frame) const { return !cached(frame).isNull(); }

double RenderService::filled() const {
  const std::scoped_lock lock(mutex_);
  return cache_.empty() ? 0 : static_cast<double>(cachedFrames_) / static_cast<double>(cache_.size());
}

void RenderService::run() {
  giveWayToOthers();
  Job job;
  for (;;) {
    {
      std::unique_lock lock(mutex_);
      // Sleep once nothing is asked for and the loop, the thumbnails and the check are done.
      wake_.wait(lock, [&] {
        if (quit_ || (scene_ && generation_ != job.generation) || (scene_ && frameWanted_)) return true;
        return scene_ && (cachedFrames_ < static_cast<int>(cache_.size()) || !job.checked || job.thumbnails < job.scene->layers.size());
      });
      if (quit_) return;
      if (generation_ != job.generation) {
        job = Job();
        job.scene = scene_;
        job.generation = generation_;
        stale_ = false;
        job.distinct = static_cast<int>(distinctFrames(*scene_));
        // A loop that does not fit the memory is shown smaller; a very long one is not kept whole.
        const int keep = std::min(job.distinct, 3600);
        const double bytes = 4.0 * size_.width() * size_.height() * keep;
        const double shrink = std::min(1.0, std::sqrt(static_cast<double>(kCacheBytes) / bytes));
        job.size = QSize(std::max(16, static_cast<int>(size_.width() * shrink)), std::max(16, static_cast<int>(size_.height() * shrink)));
        cache_.assign(static_cast<std::size_t>(job.distinct), QImage());
        cachedFrames_ = 0;
        frameWanted_ = true;
        RenderOptions options;
        options.manyFrames = true;
        options.cancel = &stale_;
        job.renderer = std::make_unique<Renderer>(*job.scene, job.size.width(), job.size.height(), options);
      }
    }
    renderFor(job);
  }
}

void RenderService::renderFor(Job& job) {
  int wanted = -1;
  bool asked = false;
  {
    const std::scoped_lock lock(mutex_);
    if (generation_ != job.generation) return;
    const int n = static_cast<int>(cache_.size());
    const int start = static_cast<int>(floorMod(frame_, n));
    asked = frameWanted_;
    frameWanted_ = false;
    if (asked && !cache_[static_cast<std::size_t>(start)].isNull()) {
      const QImage image = cache_[static_cast<std::size_t>(start)];
      Q_EMIT frameReady(frame_, image);
      return;
    }
    if (asked) {
      wanted = start;
    } else if (cachedFrames_ < n && job.thumbnails >= job.scene->layers.size()) {
      // From the hand onwards, so that playing may begin at once.
      for (int i = 0; i < n && wanted < 0; ++i)
        if (cache_[static_cast<std::size_t>((start + i) % n)].isNull()) wanted = (start + i) % n;
    }
  }
  if (wanted < 0 && job.thumbnails < job.scene->layers.size()) {
    const auto i = job.thumbnails++;
    Scene alone = *job.scene;
    alone.layers = {job.scene->layers[i]};
    alone.layers[0].visible = true;
    alone.layers[0].blend = BlendMode::Normal;
    alone.layers[0].opacity = defaultParam(opacitySpec());
    alone.background.reset();
    Renderer renderer(alone, 116, 116 * std::max(1, alone.height) / std::max(1, alone.width) + 1);
    Q_EMIT thumbnailReady(static_cast<int>(i), toImage(renderer, 0));
    return;
  }
  if (wanted < 0) {
    if (job.checked) return;
    const JointCheck check = checkJoint(*job.scene, false, &stale_);
    job.checked = true;
    if (!stale_) Q_EMIT jointChecked(check);
    return;
  }
  const auto setUrgent = [this, &job](bool urgent) {
    const std::scoped_lock lock(mutex_);
    urgent_ = urgent;
    if (generation_ != job.generation || quit_) stale_ = true;
  };
  if (asked && lastMs_ > kPatienceMs && !job.coarseShown) {
    job.coarseShown = true;
    // Small enough to keep within the patience, at most a quarter in each direction; so it is not interrupted.
    const double shrink = std::clamp(std::sqrt(kPatienceMs * 0.6 / lastMs_), 0.25, 0.7);
    Renderer coarse(*job.scene, std::max(8, static_cast<int>(job.size.width() * shrink)),
                    std::max(8, static_cast<int>(job.size.height() * shrink)));
    // Enlarged here, and not each time that the window paints it.
    Q_EMIT frameReady(wanted, toImage(coarse, wanted).scaled(job.size, Qt::IgnoreAspectRatio, Qt::SmoothTransformation));
    setUrgent(false);
    if (stale_) return;
  }
  QElapsedTimer timer;
  timer.start();
  const bool quick = asked && lastMs_ <= kPatienceMs;
  setUrgent(quick);
  const bool late = stale_;
  const QImage image = late ? QImage() : toImage(*job.renderer, wanted);
  setUrgent(false);
  // Interrupted pictures are unfinished; an urgent one is whole even if it is out of date.
  if (late || (stale_ && !quick)) return;
  lastMs_ = static_cast<double>(timer.nsecsElapsed()) / 1e6;
  if (asked) Q_EMIT frameReady(wanted, image);
  {
    const std::scoped_lock lock(mutex_);
    if (generation_ != job.generation) return;
    QImage& place = cache_[static_cast<std::size_t>(wanted)];
    if (place.isNull()) ++cachedFrames_;
    place = image;
  }
  Q_EMIT cacheGrew();
}

}  // namespace oa::app
