// Pictures on disk for tests.
#pragma once

#include <QImage>
#include <QString>
#include <QTemporaryDir>
#include <string>

#include "scene/scene.h"
#include "store/media_ref.h"

namespace oa::test {

/// Colours of which no two neighbours are alike, nor the ends; with alpha where asked.
QImage patchwork(int width, int height, bool alpha = false);
/// For what the whole program writes, and gone with it.
QTemporaryDir& folder();
/// Saves a picture as PNG and takes it in; fails the program if it cannot.
MediaRef savedPicture(const QImage& image, const QString& path);
/// One of the demo's files, taken in; fails the program if it cannot be.
MediaRef shippedMedia(const std::string& name);

/// A picture alone, over nothing.
Scene sceneOf(const MediaRef& ref, int width = 200, int height = 120, int frames = 20);
/// What lies beside its picture, and over and under it.
void tiled(Scene& scene, const char* across, const char* down);
/// Its picture goes by that many tiles in a loop.
void travels(Scene& scene, Point tiles);

}  // namespace oa::test
