#include "model/render_service.h"

#include <QElapsedTimer>
#include <algorithm>
#include <cmath>

#include "base/memory.h"
#include "base/parallel.h"
#include "graph/puller.h"
#include "render/budget.h"
#include "render/frame_team.h"
#include "render/frames.h"
#include "scene/extent.h"
#include "scene/looks.h"
#include "scene/plan.h"
#include "scene/tree.h"

namespace oa::app {
namespace {

// A picture that would take longer is shown at half its size first.
constexpr double kPatienceMs = 40;
constexpr int kThumbnailWidth = 116;

QImage toImage(Renderer& renderer, std::int64_t k, bool alone = false) {
  Frame8 frame;
  renderInto(renderer, k, Alpha::Premultiplied, frame);
  const bool alpha = alone || !renderer.scene().background || renderer.scene().background->a < 1;
  const auto format = alpha ? QImage::Format_RGBA8888_Premultiplied : QImage::Format_RGBX8888;
  const QImage wrapped(frame.rgba.data(), frame.width, frame.height, frame.width * 4, format);
  // The raster engine paints this format without converting it again for every repaint.
  return wrapped.convertToFormat(alpha ? QImage::Format_ARGB32_Premultiplied : QImage::Format_RGB32);
}

}  // namespace

// What the worker knows of the generation it works for.
struct RenderService::Job {
  std::shared_ptr<const Scene> scene;
  QSize size;    // of the pictures for the cache
  QSize wanted;  // of the view
  Generation generation = 0;
  int lap = 0;
  bool run = false;
  RunSlots slots;
  // For the cache; where it makes several pictures at once, one that somebody waits for is made by all threads.
  std::unique_ptr<FrameTeam> team;
  std::unique_ptr<Renderer> renderer;
  std::unique_ptr<JointMeter> meter;
  bool coarseShown = false;
  bool refused = false;
  bool measured = false;
  std::vector<Id> layers;
  std::size_t thumbnails = 0;

  [[nodiscard]] std::int64_t numberOf(int frame) const { return run ? slots.placeOf(frame) : frame; }
  [[nodiscard]] RenderOptions options(const std::atomic<bool>* cancel, bool many) const {
    RenderOptions asked;
    asked.manyFrames = many;
    asked.cancel = cancel;
    asked.lap = lap;
    asked.run = run;
    return asked;
  }
};

// A picture that somebody waits for.
struct RenderService::Wish {
  int frame = -1;
  QSize size;
};

RenderService::RenderService(QObject* parent, std::size_t budget, MemoryBudget& memory)
    : QObject(parent),
      cache_(budget),
      most_(budget),
      share_(memory, MemoryBudget::Turn::Pictures, [this](std::size_t missing) { giveUp(missing); }) {
  qRegisterMetaType<oa::JointCheck>();
  worker_ = std::thread([this] { serve(); });
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

void RenderService::setScene(const Scene& scene) {
  auto copy = std::make_shared<const Scene>(scene);
  {
    const std::scoped_lock lock(mutex_);
    const bool same = scene_ && looksSame(*scene_, *copy);
    scene_ = std::move(copy);
    if (same) return;
  }
  refresh();
}

void RenderService::refresh() {
  {
    const std::scoped_lock lock(mutex_);
    if (!scene_) return;
    ++generation_;
    // A picture that somebody waits for is finished although it is out of date by now: during a drag every change comes before
    // the picture of the last one is there, and a picture late by one change is better than none.
    if (!urgent_) stale_ = true;
    frameWanted_ = true;
    fitMemory();
    cache_.reset(run_ ? RunSlots(*scene_).count() : static_cast<int>(distinctFrames(*scene_)));
    share_.hold(cache_.bytes());
    cache_.setSize(cache_.sizeFor(size_));
  }
  wake_.notify_all();
}

void RenderService::setSize(QSize pixels) {
  pixels = pixels.expandedTo(QSize(16, 16)).boundedTo(QSize(kMaxFrameSize, kMaxFrameSize));
  {
    const std::scoped_lock lock(mutex_);
    if (pixels == size_) return;
    size_ = pixels;
    fitMemory();
    cache_.setSize(cache_.sizeFor(size_));
    if (!urgent_) stale_ = true;
    frameWanted_ = true;
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

void RenderService::setLap(int lap) {
  {
    const std::scoped_lock lock(mutex_);
    if (lap == lap_) return;
    lap_ = lap;
  }
  refresh();
}

int RenderService::lap() const {
  const std::scoped_lock lock(mutex_);
  return lap_;
}

void RenderService::setRun(bool run) {
  {
    const std::scoped_lock lock(mutex_);
    if (run == run_) return;
    run_ = run;
  }
  refresh();
}

bool RenderService::run() const {
  const std::scoped_lock lock(mutex_);
  return run_;
}

void RenderService::setPlaying(bool playing) {
  {
    const std::scoped_lock lock(mutex_);
    playing_ = playing;
    if (!playing) frameWanted_ = true;
  }
  wake_.notify_all();
}

QImage RenderService::cached(int frame) const {
  const std::scoped_lock lock(mutex_);
  return cache_.at(frame);
}

bool RenderService::isCached(int frame) const { return !cached(frame).isNull(); }

double RenderService::filled() const {
  const std::scoped_lock lock(mutex_);
  return scene_ ? cache_.filled() : 0;
}

bool RenderService::loopIsThere() const {
  const std::scoped_lock lock(mutex_);
  return scene_ && cache_.holdsAll() && cache_.filled() >= 1;
}

std::size_t RenderService::cacheBytes() const {
  const std::scoped_lock lock(mutex_);
  return cache_.bytes();
}

int RenderService::hand() const { return static_cast<int>(floorMod(frame_, cache_.frames())); }

void RenderService::giveUp(std::size_t bytes) {
  const std::scoped_lock lock(mutex_);
  cache_.setBudget(cache_.bytes() > bytes ? cache_.bytes() - bytes : 0, hand());
  share_.hold(cache_.bytes());
}

void RenderService::fitMemory() {
  cache_.setBudget(std::min(most_, share_.room()), hand());
  share_.hold(cache_.bytes());
  // What had to be small while others needed the memory becomes sharp again.
  if (cache_.size() != size_ && cache_.sizeFor(size_) == size_) cache_.setSize(size_);
}

bool RenderService::workLeft(const Job& job) const {
  // The first scene is there before its generation is, which a thread that begins just then must not see half of.
  if (!scene_ || generation_ == 0) return false;
  if (generation_ != job.generation || job.wanted != size_ || job.size != cache_.size()) return true;
  if (job.refused) return false;
  return frameWanted_ || !job.measured || job.thumbnails < job.layers.size() || cache_.next(frame_) >= 0;
}

void RenderService::begin(Job& job) {
  if (generation_ != job.generation) {
    job = Job();
    job.scene = scene_;
    job.layers = allIds(*scene_);
    job.generation = generation_;
  }
  stale_ = false;
  job.wanted = size_;
  job.size = cache_.size();
  job.coarseShown = false;
  frameWanted_ = true;
  job.lap = lap_;
  job.run = run_;
  job.slots = run_ ? RunSlots(*job.scene) : RunSlots();
}

void RenderService::serve() {
  giveWayToOthers();
  Job job;
  for (;;) {
    bool anew = false;
    {
      std::unique_lock lock(mutex_);
      wake_.wait(lock, [&] { return quit_ || workLeft(job); });
      if (quit_) return;
      anew = generation_ != job.generation || job.wanted != size_ || job.size != cache_.size();
      if (anew) begin(job);
    }
    if (anew) {
      job.renderer.reset();
      job.team.reset();
      const auto fits = fitsBudget(*job.scene, job.wanted.width(), job.wanted.height());
      job.refused = !fits;
      if (!fits) Q_EMIT refused(QString::fromStdString(fits.error().sentence()), job.generation);
    }
    if (job.refused) continue;
    const auto done = withMemory([&]() -> Status {
      work(job);
      return {};
    });
    if (!done) {
      job.refused = true;
      Q_EMIT refused(QString::fromStdString(done.error().sentence()), job.generation);
    }
  }
}

void RenderService::work(Job& job) {
  Wish wish;
  std::vector<int> toFill;
  QImage there;
  int thereFrame = 0;
  {
    const std::scoped_lock lock(mutex_);
    if (generation_ != job.generation) return;
    const int hand = this->hand();
    fitMemory();
    if (frameWanted_) {
      frameWanted_ = false;
      // At rest the picture has the size that is looked at, whatever the cache can afford.
      const QSize full = playing_ ? job.size : job.wanted;
      there = cache_.at(hand);
      thereFrame = frame_;
      if (there.size() != full) wish = {hand, full};
    } else if (job.measured && job.thumbnails >= job.layers.size()) {
      // From the hand onwards, so that playing may begin at once.
      toFill = cache_.next(hand, job.team ? job.team->atOnce() : 1);
      if (toFill.empty()) return;
    }
  }
  if (!there.isNull()) Q_EMIT frameReady(thereFrame, there, job.generation);
  if (!there.isNull() && wish.frame < 0) return;
  if (wish.frame >= 0) return makeFrame(job, wish);
  if (!toFill.empty()) return fill(job, toFill);
  if (!job.measured) return measure(job);
  makeThumbnail(job);
}

void RenderService::measure(Job& job) {
  // A step at a time: a picture that somebody asks for meanwhile comes first.
  if (!job.meter) job.meter = std::make_unique<JointMeter>(withoutStandIns(*job.scene));
  if (job.meter->step()) return;
  JointCheck check;
  check.scene = job.meter->report();
  job.measured = true;
  job.meter.reset();
  Q_EMIT jointChecked(check, job.generation);
}

namespace {

// A layer in its group's frame; one that is small there is shown closer, or there would be little to see.
PlaneView thumbnailView(const Scene& scene, Id layer, int frame, int width, int height) {
  const Plan plan(scene);
  const int index = plan.indexOf(layer);
  const Point outer = index < 0 ? Point{static_cast<double>(scene.width), static_cast<double>(scene.height)}
                                : Puller(plan, nullptr, nullptr).outerFrame(index);
  PlaneView view = PlaneView::cover(static_cast<int>(outer.x), static_cast<int>(outer.y), width, height);
  if (index < 0) return view;
  const Moment now{frame, scene.frames};
  const Extent extent = extentOf(plan, index, now);
  if (extent.endless) return view;
  const Box box = mapped(extent.box, toGroup(plan, index, now));
  constexpr double kRoom = 1.4;  // round it
  const double scale = std::min(width / (box.width() * kRoom), height / (box.height() * kRoom));
  if (!std::isfinite(scale) || scale <= view.scale * 1.2 || scale > 64) return view;
  view.scale = scale;
  view.left = box.centre().x - width / scale / 2;
  view.top = box.centre().y - height / scale / 2;
  return view;
}

}  // namespace

void RenderService::makeThumbnail(Job& job) {
  const Id layer = job.layers[job.thumbnails++];
  RenderOptions options;
  options.layer = layer;
  const Scene& scene = *job.scene;
  const int height = kThumbnailWidth * std::max(1, scene.height) / std::max(1, scene.width) + 1;
  // In the middle of when it is there.
  const Layer* shown = findLayer(scene, layer);
  const Arc there = shown && !shown->presence.empty() ? shown->presence.front() : Arc{0, 0};
  const auto frame = static_cast<int>(std::lround((there.from + there.length / 2) * scene.frames));
  Renderer renderer(scene, thumbnailView(scene, layer, frame, kThumbnailWidth, height), options);
  Q_EMIT thumbnailReady(layer, toImage(renderer, frame, true), job.generation);
}

void RenderService::setUrgent(const Job& job, bool urgent) {
  const std::scoped_lock lock(mutex_);
  urgent_ = urgent;
  if (generation_ != job.generation || job.wanted != size_ || quit_) stale_ = true;
}

void RenderService::makeFrame(Job& job, const Wish& wish) {
  const std::int64_t number = job.numberOf(wish.frame);
  if (lastMs_ > kPatienceMs && !job.coarseShown) {
    job.coarseShown = true;
    // Small enough to keep within the patience, at most a quarter in each direction; so it is not interrupted.
    const double shrink = std::clamp(std::sqrt(kPatienceMs * 0.6 / lastMs_), 0.25, 0.7);
    Renderer coarse(*job.scene, std::max(8, static_cast<int>(job.size.width() * shrink)),
                    std::max(8, static_cast<int>(job.size.height() * shrink)), job.options(nullptr, false));
    // Enlarged here, and not each time that the window paints it.
    Q_EMIT frameReady(wish.frame, toImage(coarse, number).scaled(job.size, Qt::IgnoreAspectRatio, Qt::SmoothTransformation),
                      job.generation);
    setUrgent(job, false);
    if (stale_) return;
  }
  QElapsedTimer timer;
  timer.start();
  const bool quick = lastMs_ <= kPatienceMs;
  setUrgent(job, quick);
  const bool late = stale_;
  QImage image;
  if (!late && wish.size == job.size) {
    const auto make = [&](Renderer& renderer, int) { image = toImage(renderer, number); };
    if (FrameTeam& team = teamOf(job); team.atOnce() == 1) {
      team.each(1, make);
    } else {
      if (!job.renderer)
        job.renderer = std::make_unique<Renderer>(*job.scene, wish.size.width(), wish.size.height(), job.options(&stale_, true));
      make(*job.renderer, 0);
    }
  } else if (!late) {
    Renderer full(*job.scene, wish.size.width(), wish.size.height(), job.options(&stale_, false));
    image = toImage(full, number);
  }
  setUrgent(job, false);
  // Interrupted pictures are unfinished; an urgent one is whole even if it is out of date.
  if (late || (stale_ && !quick)) return;
  lastMs_ = static_cast<double>(timer.nsecsElapsed()) / 1e6;
  Q_EMIT frameReady(wish.frame, image, job.generation);
  keep(job, {wish.frame}, {image});
}

FrameTeam& RenderService::teamOf(Job& job) {
  if (!job.team) job.team = std::make_unique<FrameTeam>(job.scene, job.size.width(), job.size.height(), job.options(&stale_, true));
  return *job.team;
}

void RenderService::fill(Job& job, const std::vector<int>& frames) {
  setUrgent(job, false);
  if (stale_) return;
  QElapsedTimer timer;
  timer.start();
  std::vector<QImage> images(frames.size());
  teamOf(job).each(static_cast<int>(frames.size()), [&](Renderer& renderer, int i) {
    giveWayToOthers();
    images[static_cast<std::size_t>(i)] = toImage(renderer, job.numberOf(frames[static_cast<std::size_t>(i)]));
  });
  setUrgent(job, false);
  if (stale_) return;
  lastMs_ = static_cast<double>(timer.nsecsElapsed()) / 1e6 / static_cast<double>(frames.size());
  keep(job, frames, images);
}

void RenderService::keep(const Job& job, const std::vector<int>& frames, const std::vector<QImage>& images) {
  {
    const std::scoped_lock lock(mutex_);
    if (generation_ != job.generation) return;
    fitMemory();
    for (std::size_t i = 0; i < frames.size(); ++i)
      if (images[i].size() == cache_.size()) cache_.put(frames[i], images[i], hand());
    share_.hold(cache_.bytes());
  }
  Q_EMIT cacheGrew();
}

}  // namespace oa::app
