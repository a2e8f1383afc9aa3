// Frames for the window, made on a thread of their own: the picture asked for first, then the joint check, thumbnails, and the
// rest of the loop into the playback cache.
#pragma once

#include <QImage>
#include <QObject>
#include <QSize>
#include <atomic>
#include <condition_variable>
#include <memory>
#include <mutex>
#include <thread>

#include "base/memory_budget.h"
#include "check/joint.h"
#include "model/playback_cache.h"
#include "model/run_slots.h"
#include "scene/scene.h"

namespace oa {
class FrameTeam;
}

namespace oa::app {

/// A state of the scene's pictures: every answer says which one it is about.
using Generation = quint64;

class RenderService : public QObject {
  Q_OBJECT
 public:
  /// `budget`: memory for the playback cache, in bytes, at most; fewer while others who share `memory` need it.
  explicit RenderService(QObject* parent = nullptr, std::size_t budget = kCacheBytes, MemoryBudget& memory = MemoryBudget::shared());
  ~RenderService() override;

  /// A new state of the scene. Where it shows the same pictures as the one before (another name, a lock), all that was made
  /// stays; else the generation is another one from here on.
  void setScene(const Scene& scene);
  /// Makes everything anew: files that the scene shows are others now.
  void refresh();
  [[nodiscard]] Generation generation() const { return generation_; }
  /// Size in device pixels that pictures are wanted at; smaller ones are kept where memory is short, but a picture at rest has
  /// this size. Pictures of another size stay and serve until they are replaced.
  void setSize(QSize pixels);
  void setFrame(int frame);
  /// Footage is shown as it is in this lap of the loop.
  void setLap(int lap);
  [[nodiscard]] int lap() const;
  /// Whether frames are the pictures of the run (RunSlots) instead of those of the loop.
  void setRun(bool run);
  [[nodiscard]] bool run() const;
  /// While playing, single pictures are not made sharper than those of the cache.
  void setPlaying(bool playing);

  /// The finished picture of a frame of the present scene, or a null image.
  [[nodiscard]] QImage cached(int frame) const;
  /// Frames of the loop that are finished, of those that fit the memory; 0 to 1.
  [[nodiscard]] double filled() const;
  /// Whether every frame of the loop is there: playing need not wait for any.
  [[nodiscard]] bool loopIsThere() const;
  [[nodiscard]] bool isCached(int frame) const;
  [[nodiscard]] std::size_t cacheBytes() const;
  /// How many milliseconds the last picture took.
  [[nodiscard]] double lastMilliseconds() const { return lastMs_; }

  static constexpr std::size_t kCacheBytes = std::size_t{1} << 30;

 Q_SIGNALS:
  /// A picture of the frame asked for, perhaps coarse at first. During a drag it may be of a generation before.
  void frameReady(int frame, const QImage& image, quint64 generation);
  void cacheGrew();
  void thumbnailReady(oa::Id layer, const QImage& image, quint64 generation);
  void jointChecked(const oa::JointCheck& check, quint64 generation);
  /// The scene cannot be shown: why.
  void refused(const QString& sentence, quint64 generation);

 private:
  struct Job;
  struct Wish;
  void serve();
  [[nodiscard]] bool workLeft(const Job& job) const;  // with the lock held
  void begin(Job& job);                               // with the lock held
  void work(Job& job);
  void makeFrame(Job& job, const Wish& wish);
  FrameTeam& teamOf(Job& job);
  void fill(Job& job, const std::vector<int>& frames);
  void keep(const Job& job, const std::vector<int>& frames, const std::vector<QImage>& images);
  void makeThumbnail(Job& job);
  void measure(Job& job);
  void setUrgent(const Job& job, bool urgent);
  void giveUp(std::size_t bytes);
  void fitMemory();                // with the lock held
  [[nodiscard]] int hand() const;  // with the lock held

  mutable std::mutex mutex_;
  std::condition_variable wake_;
  std::thread worker_;
  bool urgent_ = false;  // the frame being made is not to be interrupted
  std::atomic<bool> stale_{false};
  bool quit_ = false;
  std::atomic<Generation> generation_{0};

  // Guarded by mutex_.
  std::shared_ptr<const Scene> scene_;
  QSize size_{640, 360};
  int frame_ = 0;
  int lap_ = 0;
  bool run_ = false;
  bool playing_ = false;
  bool frameWanted_ = false;
  PlaybackCache cache_;
  std::atomic<double> lastMs_{0};

  std::size_t most_;
  // Memory is asked for by who makes pictures, never with the lock held.
  MemoryBudget::Share share_;
};

}  // namespace oa::app

Q_DECLARE_METATYPE(oa::JointCheck)
