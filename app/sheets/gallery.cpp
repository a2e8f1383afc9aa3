#include "sheets/gallery.h"

#include <QDir>
#include <QFile>

#include "model/media_watch.h"
#include "scene/media_refs.h"
#include "scene/scene_json.h"
#include "widgets/text.h"

namespace oa::app {

std::vector<Scene> starterScenes() {
  std::vector<Scene> scenes;
  const QDir folder(QStringLiteral(":/oa/starters"));
  for (const QString& name : folder.entryList({QStringLiteral("*.overagain")}, QDir::Files, QDir::Name)) {
    QFile file(folder.filePath(name));
    if (!file.open(QIODevice::ReadOnly)) continue;
    auto scene = sceneFromText(file.readAll().toStdString());
    if (!scene) continue;
    // Their pictures are part of the program; the scene holds them from then on.
    forEachMedia(*scene, [](MediaRef& ref) {
      const QString shipped = QStringLiteral(":/oa/media/") + text(mediaName(ref));
      QFile media(shipped);
      if (ref.data || !media.open(QIODevice::ReadOnly)) return;
      ref = embedded(media.readAll(), text(mediaName(ref)), QSize(ref.width, ref.height));
    });
    scenes.push_back(std::move(*scene));
  }
  return scenes;
}

Gallery::Gallery(QWidget* parent)
    : LiveGallery(tr("Begin with a starter"), tr("Each one loops already. Change anything."), 3, QSize(320, 180), parent) {
  std::vector<GalleryItem> list;
  for (Scene& scene : starterScenes()) {
    GalleryItem item;
    item.name = text(scene.name);
    item.details = (scene.layers.size() == 1 ? tr("%1 layer · %2 s") : tr("%1 layers · %2 s"))
                       .arg(scene.layers.size())
                       .arg(text(numberText(scene.seconds(), 1)));
    item.scene = std::move(scene);
    list.push_back(std::move(item));
  }
  setItems(std::move(list));
  connect(this, &LiveGallery::picked, this, [this](int card) { Q_EMIT chosen(items()[static_cast<std::size_t>(card)].scene); });
}

}  // namespace oa::app
