#include "scene_files.h"

#include <QAbstractButton>
#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QSettings>

#include "scene/pack.h"
#include "scene/scene_file.h"
#include "widgets/file_chooser.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

constexpr int kMostRecent = 8;

}  // namespace

SceneFiles::SceneFiles(Document& document, QWidget* window) : QObject(window), document_(document), window_(window) {}

bool SceneFiles::open(const QString& path) {
  auto scene = loadScene(path.toStdString());
  if (!scene) {
    Q_EMIT failed(tr("The scene could not be opened. %1").arg(text(scene.error().sentence())));
    return false;
  }
  document_.reset(std::move(*scene), QFileInfo(path).absoluteFilePath());
  remember(document_.path());
  Q_EMIT opened();
  return true;
}

void SceneFiles::askToOpen() {
  const QString path =
      chooseFile(window_, tr("Open a scene"), QFileInfo(document_.path()).path(), tr("Scenes and packs (*.overagain *.overpack)"));
  if (!path.isEmpty() && mayDiscard()) open(path);
}

bool SceneFiles::saveTo(const QString& path) {
  if (auto saved = document_.save(path); !saved) {
    Q_EMIT failed(tr("The scene was not saved; your work is still here. %1").arg(text(saved.error().sentence())));
    return false;
  }
  remember(path);
  return true;
}

bool SceneFiles::save() { return document_.path().isEmpty() ? saveAs() : saveTo(document_.path()); }

bool SceneFiles::saveAs() {
  QString name = text(document_.scene().name);
  name.replace(QLatin1Char('/'), QLatin1Char('-'));
  QString path = QFileDialog::getSaveFileName(
      window_, tr("Save the scene"),
      document_.path().isEmpty() ? (name.isEmpty() ? tr("scene") : name) + QLatin1String(kSceneSuffix) : document_.path(),
      tr("Scenes (*.overagain);;Packs, with all pictures in them (*.overpack)"));
  if (path.isEmpty()) return false;
  if (!path.endsWith(QLatin1String(kSceneSuffix)) && !path.endsWith(QLatin1String(kPackSuffix))) {
    // The chooser asked about the name that was typed, not about the one that it becomes.
    path += QLatin1String(kSceneSuffix);
    if (QFileInfo::exists(path)) {
      QMessageBox box(QMessageBox::Question, tr("Replace the file?"),
                      tr("“%1” is there already. Replace it with this scene?").arg(QFileInfo(path).fileName()),
                      QMessageBox::Yes | QMessageBox::Cancel, window_);
      box.button(QMessageBox::Yes)->setText(tr("Replace"));
      box.setDefaultButton(QMessageBox::Cancel);
      if (box.exec() != QMessageBox::Yes) return false;
    }
  }
  return saveTo(path);
}

void SceneFiles::pack() {
  QString name = text(document_.scene().name);
  name.replace(QLatin1Char('/'), QLatin1Char('-'));
  const QString folder = document_.path().isEmpty() ? QString() : QFileInfo(document_.path()).path() + QLatin1Char('/');
  QString path =
      QFileDialog::getSaveFileName(window_, tr("Pack the scene with its pictures"),
                                   folder + (name.isEmpty() ? tr("scene") : name) + QLatin1String(kPackSuffix), tr("Packs (*.overpack)"));
  if (path.isEmpty()) return;
  if (!path.endsWith(QLatin1String(kPackSuffix))) path += QLatin1String(kPackSuffix);
  if (auto packed = saveScene(document_.scene(), path.toStdString()); !packed)
    return Q_EMIT failed(tr("The pack was not made. %1").arg(text(packed.error().sentence())));
  // It is made all the same: the words are set in another font where this one is not there.
  const auto left = fontsLeftBehind(document_.scene());
  if (!left.empty()) Q_EMIT failed(tr("The pack is made without its fonts: %1.").arg(text(left.front())));
}

bool SceneFiles::mayDiscard() {
  if (!document_.dirty()) return true;
  QMessageBox box(QMessageBox::Question, tr("Unsaved changes"),
                  tr("“%1” has changes that are not saved.").arg(text(document_.scene().name)),
                  QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, window_);
  box.setDefaultButton(QMessageBox::Save);
  switch (box.exec()) {
    case QMessageBox::Save:
      return save();
    case QMessageBox::Discard:
      return true;
    default:
      return false;
  }
}

QStringList SceneFiles::recent() const { return QSettings().value(QStringLiteral("recent")).toStringList(); }

void SceneFiles::remember(const QString& path) {
  QStringList list = recent();
  list.removeAll(path);
  list.prepend(path);
  QSettings().setValue(QStringLiteral("recent"), QStringList(list.mid(0, kMostRecent)));
}

}  // namespace oa::app
