// Autosave: the scene as it is, kept beside the user's state, so that a crash or a power cut takes seconds and not an evening.
#pragma once

#include <QDateTime>
#include <QObject>
#include <QString>
#include <QTimer>
#include <condition_variable>
#include <mutex>
#include <optional>
#include <thread>
#include <vector>

#include "model/document.h"

namespace oa::app {

/// What a program that did not end well left behind. As long as this lives no other program takes it up.
class RescuedWork {
 public:
  RescuedWork(Scene scene, QString path, QDateTime time, QString stem, int lock);
  RescuedWork(RescuedWork&&) noexcept;
  RescuedWork& operator=(RescuedWork&&) = delete;
  ~RescuedWork();
  [[nodiscard]] const Scene& scene() const { return scene_; }
  /// The file it belongs to; empty if it was never saved.
  [[nodiscard]] const QString& path() const { return path_; }
  [[nodiscard]] const QDateTime& time() const { return time_; }
  /// It is in good hands, or not wanted: takes it off the disk.
  void forget();

 private:
  Scene scene_;
  QString path_;
  QDateTime time_;
  QString stem_;
  int lock_;
};

class Journal : public QObject {
  Q_OBJECT
 public:
  /// Keeps `document` in `folder`, at most `milliseconds` after a change. Each program has files of its own there, under a lock.
  Journal(Document& document, const QString& folder, int milliseconds = kPatience, QObject* parent = nullptr);
  ~Journal() override;

  /// Where journals are: over-again in XDG_STATE_HOME, or ~/.local/state.
  static QString folder();
  /// The work of programs that are gone. What cannot be read is left alone.
  static std::vector<RescuedWork> rescued(const QString& folder);

  /// Takes the journal off the disk: the work is saved, or not wanted.
  void clear();

  static constexpr int kPatience = 5000;

 private:
  struct Page {
    Scene scene;
    QString path;
  };
  void write();
  void run();

  Document& document_;
  QString stem_;  // path of the files without their endings
  int lock_ = -1;
  QTimer timer_;
  std::thread writer_;
  std::mutex mutex_;
  std::condition_variable wake_;
  std::optional<Page> next_;
  bool erase_ = false;
  bool quit_ = false;
};

}  // namespace oa::app
