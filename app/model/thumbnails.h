// Small pictures of files, in the cache that all programs of a desktop share.
#pragma once

#include <QImage>
#include <QString>

namespace oa::app {

/// Where the small picture of a file lies, or would lie: "Thumbnail Managing Standard" of freedesktop.org, size "large", 256 pixels.
/// Empty for what is in the cache itself.
QString thumbnailPlace(const QString& path);

/// The small picture of a picture, drawing, clip or scene: from the cache if it is of the file as it is now, else made and put there.
/// Null for what has none; that is remembered there as well. Takes as long as reading the file does: not for the window's thread.
QImage sharedThumbnail(const QString& path);

}  // namespace oa::app
