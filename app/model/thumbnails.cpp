#include "model/thumbnails.h"

#include <QCryptographicHash>
#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QImageReader>
#include <QSaveFile>
#include <QStandardPaths>
#include <QUrl>

#include "model/media_watch.h"
#include "render/frames.h"
#include "scene/pack.h"
#include "scene/scene_file.h"
#include "store/media_kind.h"
#include "store/media_store.h"

namespace oa::app {
namespace {

constexpr int kLarge = 256;
// Larger files would be read for longer than a list of files is looked at.
constexpr qint64 kMostBytes = qint64{128} << 20;

QString cacheFolder() { return QStandardPaths::writableLocation(QStandardPaths::GenericCacheLocation) + QStringLiteral("/thumbnails"); }

QString uriOf(const QFileInfo& file) { return QString::fromLatin1(QUrl::fromLocalFile(file.canonicalFilePath()).toEncoded()); }

QString nameOf(const QString& uri) {
  return QString::fromLatin1(QCryptographicHash::hash(uri.toUtf8(), QCryptographicHash::Md5).toHex()) + QStringLiteral(".png");
}

QString failurePlace(const QString& uri) { return cacheFolder() + QStringLiteral("/fail/over-again-" OA_VERSION "/") + nameOf(uri); }

QString changedOf(const QFileInfo& file) { return QString::number(file.lastModified().toSecsSinceEpoch()); }

// What is kept there, if it is of the file as it is now.
QImage kept(const QString& place, const QFileInfo& file, const QString& uri) {
  QImageReader reader(place, "png");
  const QSize size = reader.size();
  if (!size.isValid() || size.width() > 4 * kLarge || size.height() > 4 * kLarge) return {};
  const QImage image = reader.read();
  // The reader itself cuts keys at their first colon.
  if (image.text(QStringLiteral("Thumb::URI")) != uri || image.text(QStringLiteral("Thumb::MTime")) != changedOf(file)) return {};
  return image;
}

void keep(const QString& place, QImage image, const QFileInfo& file, const QString& uri) {
  const QString folder = QFileInfo(place).path();
  // Nobody else is to see what somebody looks at.
  for (const QString& part : {cacheFolder(), folder})
    if (!QFileInfo::exists(part) && QDir().mkpath(part))
      QFile::setPermissions(part, QFile::ReadOwner | QFile::WriteOwner | QFile::ExeOwner);
  image.setText(QStringLiteral("Thumb::URI"), uri);
  image.setText(QStringLiteral("Thumb::MTime"), changedOf(file));
  image.setText(QStringLiteral("Thumb::Size"), QString::number(file.size()));
  image.setText(QStringLiteral("Software"), QStringLiteral("Over Again"));
  QSaveFile out(place);
  if (!out.open(QIODevice::WriteOnly) || !image.save(&out, "PNG")) return;
  if (out.commit()) QFile::setPermissions(place, QFile::ReadOwner | QFile::WriteOwner);
}

QImage sceneThumbnail(const QString& path) {
  const auto scene = loadScene(path.toStdString());
  if (!scene) return {};
  QSize size(scene->width, scene->height);
  size.scale(kLarge, kLarge, Qt::KeepAspectRatio);
  const Frame8 made = frame(*scene, 0, std::max(1, size.width()), std::max(1, size.height()), Alpha::Premultiplied, 1);
  return QImage(made.rgba.data(), made.width, made.height, made.width * 4, QImage::Format_RGBA8888_Premultiplied).copy();
}

QImage made(const QFileInfo& file) {
  const QString path = file.canonicalFilePath();
  if (path.endsWith(QLatin1String(kSceneSuffix)) || path.endsWith(QLatin1String(kPackSuffix))) return sceneThumbnail(path);
  const auto kind = classOfFile(path.toStdString());
  if (!kind || *kind == MediaClass::Sound) return {};
  const auto ref = MediaStore::shared().takeIn(path.toStdString());
  return ref ? smallPictureNow(*ref, {kLarge, kLarge}) : QImage();
}

}  // namespace

QString thumbnailPlace(const QString& path) {
  const QFileInfo file(path);
  if (file.canonicalFilePath().startsWith(QFileInfo(cacheFolder()).canonicalFilePath() + QLatin1Char('/')) &&
      QFileInfo::exists(cacheFolder()))
    return {};
  return cacheFolder() + QStringLiteral("/large/") + nameOf(uriOf(file));
}

QImage sharedThumbnail(const QString& path) {
  const QFileInfo file(path);
  const QString place = thumbnailPlace(path);
  if (!file.isFile() || !file.isReadable() || file.size() > kMostBytes || place.isEmpty()) return {};
  const QString uri = uriOf(file);
  if (const QImage known = kept(place, file, uri); !known.isNull()) return known;
  if (!kept(failurePlace(uri), file, uri).isNull()) return {};
  const QImage image = made(file);
  if (image.isNull()) {
    QImage nothing(1, 1, QImage::Format_ARGB32);
    nothing.fill(Qt::transparent);
    keep(failurePlace(uri), nothing, file, uri);
    return {};
  }
  keep(place, image, file, uri);
  return image;
}

}  // namespace oa::app
