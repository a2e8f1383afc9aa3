#include "support/media.h"

#include "base/random.h"
#include "store/media_store.h"
#include "support/scenes.h"

namespace oa::test {

QImage patchwork(int width, int height, bool alpha) {
  QImage image(width, height, alpha ? QImage::Format_RGBA8888 : QImage::Format_RGB888);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      const auto part = [&](std::uint64_t c) {
        return static_cast<int>(40 + 160 * randomUnit(c + 1, static_cast<std::uint64_t>(y * width + x)));
      };
      image.setPixelColor(x, y, QColor(part(0), part(1), part(2), alpha ? part(3) : 255));
    }
  return image;
}

QTemporaryDir& folder() {
  static QTemporaryDir dir;
  return dir;
}

MediaRef savedPicture(const QImage& image, const QString& path) {
  if (!image.save(path)) qFatal("%s cannot be written", qPrintable(path));
  auto ref = MediaStore::shared().takeIn(path.toStdString());
  if (!ref) qFatal("%s", ref.error().sentence().c_str());
  return *ref;
}

MediaRef shippedMedia(const std::string& name) {
  auto ref = MediaStore::shared().takeIn(std::string(OA_SOURCE_DIR "/demo-data/media/") + name);
  if (!ref) qFatal("%s", ref.error().sentence().c_str());
  return *ref;
}

Scene sceneOf(const MediaRef& ref, int width, int height, int frames) {
  Scene scene = oneLayer("picture", width, height, frames);
  scene.background.reset();
  setValue(scene, 0, 0, "file", ref);
  return scene;
}

void tiled(Scene& scene, const char* across, const char* down) {
  setValue(scene, 0, 0, "across", std::string(across));
  setValue(scene, 0, 0, "down", std::string(down));
}

void travels(Scene& scene, Point tiles) {
  setValue(scene, 0, 0, "travel", tiles);
  param(scene, 0, 0, "travel").motion = turn(1);
}

}  // namespace oa::test
