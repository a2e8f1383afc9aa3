#include "model/journal.h"

#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <QDir>
#include <QFile>
#include <QFileInfo>
#include <QRandomGenerator>
#include <QStandardPaths>

#include "base/files.h"
#include "scene/scene_file.h"
#include "scene/scene_json.h"

namespace oa::app {
namespace {

const QString kScene = QStringLiteral(".overagain");
const QString kPath = QStringLiteral(".path");
const QString kLock = QStringLiteral(".lock");

void removeFiles(const QString& stem) {
  for (const QString& ending : {kScene, kPath, kLock}) QFile::remove(stem + ending);
  QDir(QFileInfo(stem).path() + QLatin1Char('/') + QString::fromStdString(mediaFolderName((stem + kScene).toStdString())))
      .removeRecursively();
}

}  // namespace

RescuedWork::RescuedWork(Scene scene, QString path, QDateTime time, QString stem, int lock)
    : scene_(std::move(scene)), path_(std::move(path)), time_(std::move(time)), stem_(std::move(stem)), lock_(lock) {}

RescuedWork::RescuedWork(RescuedWork&& other) noexcept
    : scene_(std::move(other.scene_)),
      path_(std::move(other.path_)),
      time_(std::move(other.time_)),
      stem_(std::move(other.stem_)),
      lock_(std::exchange(other.lock_, -1)) {}

RescuedWork::~RescuedWork() {
  if (lock_ >= 0) ::close(lock_);
}

void RescuedWork::forget() { removeFiles(stem_); }

Journal::Journal(Document& document, const QString& folder, int milliseconds, QObject* parent) : QObject(parent), document_(document) {
  QDir().mkpath(folder);
  // The lock is held as long as the program lives, however it ends.
  for (int tries = 0; tries < 100 && lock_ < 0; ++tries) {
    stem_ = QDir(folder).filePath(QStringLiteral("work-%1").arg(QRandomGenerator::global()->generate64(), 16, 16, QLatin1Char('0')));
    lock_ = ::open(QFile::encodeName(stem_ + kLock).constData(), O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC, 0600);
    if (lock_ >= 0) ::flock(lock_, LOCK_EX);
  }
  timer_.setSingleShot(true);
  timer_.setInterval(milliseconds);
  connect(&timer_, &QTimer::timeout, this, &Journal::write);
  connect(&document, &Document::changed, this, [this] {
    // Not begun anew by every change: during a drag it would never come.
    if (!timer_.isActive()) timer_.start();
  });
  connect(&document, &Document::fileChanged, this, [this] {
    if (!document_.dirty()) clear();
  });
  writer_ = std::thread([this] { run(); });
}

Journal::~Journal() {
  timer_.stop();
  {
    const std::scoped_lock lock(mutex_);
    next_.reset();
    quit_ = true;
  }
  wake_.notify_all();
  writer_.join();
  // A program that comes here ends well.
  removeFiles(stem_);
  if (lock_ >= 0) ::close(lock_);
}

QString Journal::folder() {
  QString state = qEnvironmentVariable("XDG_STATE_HOME");
  // The base directory specification asks for an absolute path, and for others to be ignored.
  if (!QDir::isAbsolutePath(state)) state = QDir::home().filePath(QStringLiteral(".local/state"));
  return QDir(state).filePath(QStringLiteral("over-again"));
}

void Journal::write() {
  if (!document_.dirty()) return clear();
  {
    const std::scoped_lock lock(mutex_);
    next_ = Page{document_.scene(), document_.path()};
    erase_ = false;
  }
  wake_.notify_all();
}

void Journal::clear() {
  timer_.stop();
  {
    const std::scoped_lock lock(mutex_);
    next_.reset();
    erase_ = true;
  }
  wake_.notify_all();
}

// Disks may be slow: the window never waits for them.
void Journal::run() {
  for (;;) {
    std::optional<Page> page;
    bool erase = false;
    {
      std::unique_lock lock(mutex_);
      wake_.wait(lock, [&] { return quit_ || next_ || erase_; });
      if (quit_) return;
      page = std::exchange(next_, std::nullopt);
      erase = std::exchange(erase_, false);
    }
    if (erase) QFile::remove(stem_ + kScene);
    if (!page) continue;
    // A journal that cannot be written is no reason to disturb the work it is for.
    if (auto path = writeFileAtomically((stem_ + kPath).toStdString(), page->path.toStdString()); !path) continue;
    if (auto kept = saveScene(page->scene, (stem_ + kScene).toStdString()); !kept) continue;
  }
}

std::vector<RescuedWork> Journal::rescued(const QString& folder) {
  std::vector<RescuedWork> list;
  const QDir place(folder);
  for (const QString& name : place.entryList({QStringLiteral("work-*") + kLock}, QDir::Files, QDir::Time)) {
    const QString stem = place.filePath(name.chopped(kLock.size()));
    const int lock = ::open(QFile::encodeName(stem + kLock).constData(), O_RDWR | O_CLOEXEC);
    if (lock < 0) continue;
    // Held by a program that lives, or that is just offering it.
    if (::flock(lock, LOCK_EX | LOCK_NB) != 0) {
      ::close(lock);
      continue;
    }
    const QFileInfo kept(stem + kScene);
    if (!kept.exists()) {
      removeFiles(stem);
      ::close(lock);
      continue;
    }
    auto scene = loadScene((stem + kScene).toStdString());
    if (!scene) {
      ::close(lock);
      continue;
    }
    const auto path = readFile((stem + kPath).toStdString(), 1 << 16);
    list.emplace_back(std::move(*scene), path ? QString::fromStdString(*path) : QString(), kept.lastModified(), stem, lock);
  }
  return list;
}

}  // namespace oa::app
