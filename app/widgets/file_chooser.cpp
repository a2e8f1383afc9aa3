#include "widgets/file_chooser.h"

#include <QAbstractItemView>
#include <QFileDialog>
#include <QFileIconProvider>
#include <QFileInfo>
#include <QIconEngine>
#include <QPainter>
#include <algorithm>

#include "model/thumbnails.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

constexpr int kShown = 40;

// Drawn from an image: pixmaps are for the window's thread alone.
class ImageIcon : public QIconEngine {
 public:
  explicit ImageIcon(QImage image) : image_(std::move(image)) {}
  void paint(QPainter* painter, const QRect& rect, QIcon::Mode, QIcon::State) override {
    painter->setRenderHint(QPainter::SmoothPixmapTransform);
    const int side = std::min(rect.width(), rect.height());
    painter->drawImage(QRect(rect.center().x() - side / 2, rect.center().y() - side / 2, side, side), image_);
  }
  QPixmap pixmap(const QSize& size, QIcon::Mode, QIcon::State) override {
    return QPixmap::fromImage(image_.scaled(size, Qt::KeepAspectRatio, Qt::SmoothTransformation));
  }
  [[nodiscard]] QIconEngine* clone() const override { return new ImageIcon(image_); }

 private:
  QImage image_;
};

// Asked by the thread that gathers the files of a folder.
class ThumbnailIcons : public QFileIconProvider {
 public:
  using QFileIconProvider::icon;
  [[nodiscard]] QIcon icon(const QFileInfo& file) const override {
    if (!file.isFile()) return QFileIconProvider::icon(file);
    const QImage small = sharedThumbnail(file.filePath());
    if (small.isNull()) return QFileIconProvider::icon(file);
    // All are as large as the others, each in the middle of its place.
    const QImage fitted = small.scaled(2 * kShown, 2 * kShown, Qt::KeepAspectRatio, Qt::SmoothTransformation);
    QImage place(2 * kShown, 2 * kShown, QImage::Format_ARGB32_Premultiplied);
    place.fill(Qt::transparent);
    QPainter(&place).drawImage((place.width() - fitted.width()) / 2, (place.height() - fitted.height()) / 2, fitted);
    return QIcon(new ImageIcon(place));
  }
};

QStringList chosen(QWidget* parent, const QString& title, const QString& from, const QString& filter, QFileDialog::FileMode mode) {
  static ThumbnailIcons icons;
  const QFileInfo start(from);
  QFileDialog dialog(parent, title, start.isDir() ? from : start.path(), filter);
  dialog.setFileMode(mode);
  dialog.setAcceptMode(QFileDialog::AcceptOpen);
  dialog.setIconProvider(&icons);
  if (start.isFile()) dialog.selectFile(from);
  // Where the desktop has a chooser of its own, that one shows what is in the cache.
  for (QAbstractItemView* view : dialog.findChildren<QAbstractItemView*>())
    if (view->objectName() == QStringLiteral("listView") || view->objectName() == QStringLiteral("treeView"))
      view->setIconSize({kShown, kShown});
  return dialog.exec() == QDialog::Accepted ? dialog.selectedFiles() : QStringList();
}

}  // namespace

QString chooseFile(QWidget* parent, const QString& title, const QString& from, const QString& filter) {
  const QStringList files = chosen(parent, title, from, filter, QFileDialog::ExistingFile);
  return files.isEmpty() ? QString() : files.front();
}

QStringList chooseFiles(QWidget* parent, const QString& title, const QString& from, const QString& filter) {
  return chosen(parent, title, from, filter, QFileDialog::ExistingFiles);
}

}  // namespace oa::app
