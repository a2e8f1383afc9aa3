#include "model/media_watch.h"

#include <algorithm>
#include <cmath>

#include "model/background.h"
#include "model/document.h"
#include "store/media_store.h"

namespace oa::app {
void takeInFiles(const QStringList& paths, QObject* receiver, std::function<void(std::vector<MediaRef>, QStringList)> done) {
  using Taken = std::pair<std::vector<MediaRef>, QStringList>;
  inBackground(
      receiver,
      [paths] {
        Taken taken;
        for (const QString& path : paths) {
          auto ref = MediaStore::shared().takeIn(path.toStdString());
          if (ref)
            taken.first.push_back(std::move(*ref));
          else
            taken.second << QString::fromStdString(ref.error().sentence());
        }
        return taken;
      },
      [done = std::move(done)](Taken taken) { done(std::move(taken.first), taken.second); });
}

QImage smallPictureNow(const MediaRef& ref, QSize size) {
  QSize own(ref.width > 0 ? ref.width : size.width(), ref.height > 0 ? ref.height : size.height());
  own.scale(size, Qt::KeepAspectRatio);
  const auto tile = MediaStore::shared().tile(ref, own.width(), own.height(), {Edge::Clamp, Edge::Clamp});
  if (!tile) return {};
  QImage image(tile->width, tile->height, QImage::Format_RGBA8888_Premultiplied);
  for (int y = 0; y < tile->height; ++y) {
    const float* in = tile->plane.row(y + kTileBorder) + static_cast<std::ptrdiff_t>(kTileBorder) * 4;
    uchar* out = image.scanLine(y);
    for (int i = 0; i < tile->width * 4; ++i) out[i] = static_cast<uchar>(std::lround(std::clamp(in[i], 0.0f, 1.0f) * 255));
  }
  return image;
}

void smallPictureOf(const MediaRef& ref, QSize size, QObject* receiver, std::function<void(const QImage&)> done) {
  inBackground(
      receiver, [ref, size] { return smallPictureNow(ref, size); }, [done = std::move(done)](const QImage& image) { done(image); });
}

MediaRef embedded(const QByteArray& bytes, const QString& name, QSize size) {
  MediaRef ref;
  ref.path = name.toStdString();
  ref.data = std::make_shared<const std::string>(bytes.toStdString());
  ref.bytes = ref.data->size();
  ref.hash = contentHash(*ref.data);
  ref.width = size.width();
  ref.height = size.height();
  return ref;
}

MediaWatch::MediaWatch(Document& document) : QObject(&document), document_(document) {
  connect(&document, &Document::changed, this, [this] {
    std::vector<MediaRef> now;
    forEachMedia(document_.scene(), [&](const MediaRef& ref) { now.push_back(ref); });
    if (now == seen_) return;
    seen_ = std::move(now);
    look();
  });
  // Also where it is opened or saved again.
  connect(&document, &Document::fileChanged, this, &MediaWatch::look);
}

const MediaProblem* MediaWatch::problemOf(const MediaRef& ref) const {
  const auto found = std::find_if(problems_.begin(), problems_.end(), [&](const MediaProblem& problem) { return problem.ref == ref; });
  return found == problems_.end() ? nullptr : &*found;
}

void MediaWatch::look() {
  again_ = looking_;
  if (looking_) return;
  looking_ = true;
  inBackground(
      this, [scene = document_.scene()] { return mediaProblems(scene); },
      [this](std::vector<MediaProblem> found) {
        looking_ = false;
        const auto same = [](const MediaProblem& a, const MediaProblem& b) { return a.ref == b.ref && a.sentence == b.sentence; };
        if (!std::equal(found.begin(), found.end(), problems_.begin(), problems_.end(), same)) {
          problems_ = std::move(found);
          Q_EMIT problemsChanged();
        }
        if (again_) look();
      });
}

}  // namespace oa::app
