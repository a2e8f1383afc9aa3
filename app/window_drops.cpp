// What is dropped on the window, or pasted, becomes the obvious thing.
#include <QBuffer>
#include <QClipboard>
#include <QDateTime>
#include <QDir>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QGuiApplication>
#include <QImage>
#include <QLabel>
#include <QMimeData>
#include <QStackedWidget>
#include <QStandardPaths>
#include <QUrl>

#include "edit/source_layers.h"
#include "model/media_watch.h"
#include "scene/scene_file.h"
#include "sheets/palette_sheet.h"
#include "sheets/sound_sheet.h"
#include "store/media_kind.h"
#include "top_bar.h"
#include "widgets/file_chooser.h"
#include "widgets/file_editor.h"
#include "widgets/layer_pile.h"
#include "widgets/text.h"
#include "widgets/view.h"
#include "window.h"

namespace oa::app {
namespace {

// Local files, by what becomes of them.
struct Dropped {
  QStringList pictures;
  QString sound;
  QString palette;
  QString scene;
};

Dropped sorted(const QMimeData& data) {
  Dropped all;
  for (const QUrl& url : data.urls()) {
    if (!url.isLocalFile()) continue;
    const QString path = url.toLocalFile();
    if (isPaletteFile(path))
      all.palette = path;
    else if (showsPicture(path))
      all.pictures << path;
    else if (classOfFile(path.toStdString()) == MediaClass::Sound)
      all.sound = path;
    else
      all.scene = path;
  }
  return all;
}

QString nameOf(const QString& path) { return QFileInfo(path).fileName(); }

}  // namespace

void Window::dragEnterEvent(QDragEnterEvent* event) {
  const Dropped dropped = sorted(*event->mimeData());
  // Over the palettes a picture is there for its colours.
  const bool colours =
      right_->currentWidget() == palettes_ && palettes_->rect().contains(palettes_->mapFrom(this, event->position().toPoint()));
  QString words;
  if (dropped.pictures.size() > 1)
    words = tr("%n pictures become layers", nullptr, static_cast<int>(dropped.pictures.size()));
  else if (!dropped.pictures.isEmpty())
    words = colours ? tr("The colours of %1").arg(nameOf(dropped.pictures.front()))
                    : tr("%1 becomes a layer").arg(nameOf(dropped.pictures.front()));
  else if (!dropped.sound.isEmpty())
    words = tr("%1 becomes the sound").arg(nameOf(dropped.sound));
  else if (!dropped.palette.isEmpty())
    words = tr("The colours of %1").arg(nameOf(dropped.palette));
  else if (!dropped.scene.isEmpty())
    words = tr("Open %1").arg(nameOf(dropped.scene));
  if (words.isEmpty()) return;
  event->acceptProposedAction();
  if (!dropHint_) {
    dropHint_ = new QLabel(this);
    dropHint_->setObjectName(QStringLiteral("dropHint"));
    dropHint_->setAttribute(Qt::WA_TransparentForMouseEvents);
  }
  dropHint_->setText(words);
  dropHint_->adjustSize();
  const QPoint middle = view_->mapTo(this, view_->rect().center());
  dropHint_->move(middle - dropHint_->rect().center());
  dropHint_->show();
  dropHint_->raise();
}

void Window::dragLeaveEvent(QDragLeaveEvent*) {
  if (dropHint_) dropHint_->hide();
}

void Window::dropEvent(QDropEvent* event) {
  if (dropHint_) dropHint_->hide();
  const Dropped dropped = sorted(*event->mimeData());
  event->acceptProposedAction();
  const bool colours =
      right_->currentWidget() == palettes_ && palettes_->rect().contains(palettes_->mapFrom(this, event->position().toPoint()));
  if (dropped.pictures.size() == 1 && colours) {
    palettes_->openFile(dropped.pictures.front());
  } else if (!dropped.pictures.isEmpty()) {
    addPictures(dropped.pictures);
    if (!dropped.sound.isEmpty()) takeSound(dropped.sound);
  } else if (!dropped.sound.isEmpty()) {
    takeSound(dropped.sound);
  } else if (!dropped.palette.isEmpty()) {
    // It changes the scene and can be undone; another scene takes its place.
    if (right_->currentWidget() != palettes_) showPalettes();
    palettes_->openFile(dropped.palette);
  } else if (!dropped.scene.isEmpty() && files_.mayDiscard()) {
    files_.open(dropped.scene);
  }
}

void Window::takeSound(const QString& path) {
  if (right_->currentWidget() != sound_) showSound();
  sound_->take(path);
}

void Window::addPictures(const QStringList& paths) {
  takeInFiles(paths, this, [this](std::vector<MediaRef> taken, const QStringList& sentences) {
    if (!sentences.isEmpty()) topBar_->showError(tr("Not added. %1.").arg(sentences.front()));
    // A container of clips may hold sound alone.
    const auto sound = std::find_if(taken.begin(), taken.end(), [](const MediaRef& ref) { return ref.width == 0 && ref.seconds > 0; });
    if (sound != taken.end()) {
      takeSound(text(sound->path));
      taken.erase(sound);
    }
    if (!taken.empty()) addPictureLayers(taken);
  });
}

void Window::addPictureLayers(const std::vector<MediaRef>& files) {
  showGallery(false);
  document_.perform(tr("add %1").arg(text(mediaName(files.front()))), [&](Scene& scene) -> Result<Ids> {
    Ids added;
    for (const MediaRef& file : files) {
      const Id above = added.empty() ? document_.currentLayer() : added.back();
      const auto layer = edit::addLayer(scene, above, edit::pictureLayer(file, scene));
      if (!layer) return tl::unexpected(layer.error());
      added.push_back(*layer);
    }
    return added;
  });
}

void Window::askForPictures() {
  const QString from =
      document_.path().isEmpty() ? QStandardPaths::writableLocation(QStandardPaths::PicturesLocation) : QFileInfo(document_.path()).path();
  const QStringList paths = chooseFiles(this, tr("Add pictures"), from, pictureFilter());
  if (!paths.isEmpty()) addPictures(paths);
}

bool Window::pasteFiles() {
  const QMimeData* held = QGuiApplication::clipboard()->mimeData();
  if (!held) return false;
  const QStringList pictures = sorted(*held).pictures;
  if (!pictures.isEmpty()) {
    addPictures(pictures);
    return true;
  }
  const QImage image = held->hasImage() ? qvariant_cast<QImage>(held->imageData()) : QImage();
  if (image.isNull()) return false;
  QByteArray png;
  QBuffer buffer(&png);
  if (!buffer.open(QIODevice::WriteOnly) || !image.save(&buffer, "PNG")) return false;
  if (static_cast<std::size_t>(png.size()) <= kMostEmbeddedBytes) {
    addPictureLayers({embedded(png, tr("Pasted picture.png"), image.size())});
    return true;
  }
  // Too large for a scene file: it becomes a file of its own.
  const QDir folder(QStandardPaths::writableLocation(QStandardPaths::PicturesLocation));
  const QString path =
      folder.filePath(tr("Pasted %1.png").arg(QDateTime::currentDateTime().toString(QStringLiteral("yyyy-MM-dd hh-mm-ss-zzz"))));
  QFile file(path);
  if (!folder.mkpath(QStringLiteral(".")) || !file.open(QIODevice::WriteOnly | QIODevice::NewOnly) || file.write(png) != png.size())
    topBar_->showError(tr("The picture was not pasted: %1 cannot be written.").arg(path));
  else
    addPictures({path});
  return true;
}

}  // namespace oa::app
