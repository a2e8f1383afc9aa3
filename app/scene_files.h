// Opening, saving and recent files: what goes between the document and the disk, with the questions that belong to it.
#pragma once

#include <QObject>
#include <QStringList>

#include "model/document.h"

class QWidget;

namespace oa::app {

class SceneFiles : public QObject {
  Q_OBJECT
 public:
  /// Questions and choosers stand over `window`.
  SceneFiles(Document& document, QWidget* window);

  /// Opens a scene file; a broken one leaves the present scene as it is, and failed() says why.
  bool open(const QString& path);
  void askToOpen();
  bool save();
  bool saveAs();
  /// Writes a copy of the scene with its media as one file; the scene stays the one it is.
  void pack();
  /// False if the user wants to stay with unsaved changes.
  bool mayDiscard();
  [[nodiscard]] QStringList recent() const;

 Q_SIGNALS:
  void opened();
  void failed(const QString& sentence);

 private:
  bool saveTo(const QString& path);
  void remember(const QString& path);

  Document& document_;
  QWidget* window_;
};

}  // namespace oa::app
