// Files for the window: taken in, looked at and made small off its thread.
#pragma once

#include <QImage>
#include <QObject>
#include <QStringList>
#include <functional>
#include <vector>

#include "scene/media_refs.h"

namespace oa::app {

class Document;

/// Takes files in and calls back on the window's thread, with those that can be shown and sentences about the others; not at all if
/// `receiver` is gone by then.
void takeInFiles(const QStringList& paths, QObject* receiver, std::function<void(std::vector<MediaRef>, QStringList)> done);

/// The picture of a file within `size` pixels, a stand-in where it cannot be shown; null without memory. Reads it.
QImage smallPictureNow(const MediaRef& ref, QSize size);
/// A small picture of a file that fits `size`, or its stand-in.
void smallPictureOf(const MediaRef& ref, QSize size, QObject* receiver, std::function<void(const QImage&)> done);

/// Bytes as a file that the scene holds, such as a picture from the clipboard.
MediaRef embedded(const QByteArray& bytes, const QString& name, QSize size);

/// Knows which of the scene's files cannot be shown.
class MediaWatch : public QObject {
  Q_OBJECT
 public:
  explicit MediaWatch(Document& document);
  [[nodiscard]] const std::vector<MediaProblem>& problems() const { return problems_; }
  /// What is wrong with a file; null if nothing is.
  [[nodiscard]] const MediaProblem* problemOf(const MediaRef& ref) const;
  /// Looks at the disk again, soon.
  void look();

 Q_SIGNALS:
  void problemsChanged();

 private:
  Document& document_;
  std::vector<MediaProblem> problems_;
  std::vector<MediaRef> seen_;  // what was there when it was looked at last
  bool looking_ = false;
  bool again_ = false;
};

}  // namespace oa::app
