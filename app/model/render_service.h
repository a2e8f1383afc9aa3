// Frames for the window, made on a thread of their own: the picture asked for first, then the rest of the loop
// into the playback cache, then thumbnails and the joint check.
#pragma once

#include <QImage>
#include <QObject>
#include <QSize>
#include <atomic>
#include <condition_variable>
#include <memory>
#include <mutex>
#include <thread>
#include <vector>

#include "check/joint.h"
#include "scene/scene.h"

namespace oa::app {

class RenderService : public QObject {
  Q_OBJECT
 public:
  explicit RenderService(QObject* parent = nullptr);
  ~RenderService() override;

  /// A new state of the scene; everything made before is stale. `structure` asks for new thumbnails of all layers.
  void setScene(const Scene& scene);
  /// Size in device pixels that pictures are wanted at; smaller ones are made where memory is short.
  void setSize(QSize pixels);
  void setFrame(int frame);

  /// The finished picture of a frame of the present scene, or a null image.
  [[nodiscard]] QImage cached(int frame) const;
  /// Frames of the loop that are finished, 0 to 1.
  [[nodiscard]] double filled() const;
  [[nodiscard]] bool isCached(int frame) const;
  /// How many milliseconds the last picture took.
  [[nodiscard]] double lastMilliseconds() const { return lastMs_; }

  /// Memory for the playback cache, in bytes.
  static constexpr std::size_t kCacheBytes = std::size_t{1} << 30;

 Q_SIGNALS:
  /// A picture for the present scene: the frame asked for, perhaps coarse at first.
  void frameReady(int frame, const QImage& image);
  void cacheGrew();
  void thumbnailReady(int layer, const QImage& image);
  void jointChecked(const oa::JointCheck& check);

 private:
  struct Job;
  void run();
  void renderFor(Job& job);
  void startOver();  // with the lock held

  mutable std::mutex mutex_;
  std::condition_variable wake_;
  std::thread worker_;
  bool urgent_ = false;  // the frame being made is not to be interrupted
  std::atomic<bool> stale_{false};
  bool quit_ = false;

  // Guarded by mutex_.
  std::shared_ptr<const Scene> scene_;
  QSize size_{640, 360};
  int frame_ = 0;
  std::uint64_t generation_ = 0;
  bool frameWanted_ = false;
  std::vector<QImage> cache_;  // one for each different frame
  int cachedFrames_ = 0;
  std::atomic<double> lastMs_{0};
};

}  // namespace oa::app

Q_DECLARE_METATYPE(oa::JointCheck)
