// Pictures on disk for tests.
#pragma once

#include <QImage>
#include <QString>
#include <string>

#include "store/media_ref.h"

namespace oa::test {

/// Colours of which no two neighbours are alike, nor the ends; with alpha where asked.
QImage patchwork(int width, int height, bool alpha = false);
/// Saves a picture as PNG and takes it in; fails the program if it cannot.
MediaRef savedPicture(const QImage& image, const QString& path);
/// One of the demo's files, taken in; fails the program if it cannot be.
MediaRef shippedMedia(const std::string& name);

}  // namespace oa::test
