// The value of type file on a card: a small picture, its name, what is wrong with it, and another one.
#pragma once

#include <QImage>
#include <QWidget>

#include "model/document.h"

class QLabel;
class QMimeData;
class QToolButton;

namespace oa::app {

class FileEditor : public QWidget {
  Q_OBJECT
 public:
  FileEditor(Document& document, ParamAddress at, QWidget* parent = nullptr);
  void setFile(const MediaRef& ref);

 protected:
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dragLeaveEvent(QDragLeaveEvent* event) override;
  void dropEvent(QDropEvent* event) override;

 private:
  void choose();
  void take(const QString& path);
  /// Shows `path` wherever the present file was shown.
  void pointTo(const QString& path);
  void showState();
  [[nodiscard]] bool optional() const;
  /// Its size; of a clip its length, and how fast it plays as well.
  [[nodiscard]] QString facts() const;
  void say(const QString& what, const QString& how);

  Document& document_;
  ParamAddress at_;
  MediaRef ref_;
  bool missing_ = false;
  QLabel* picture_;
  QLabel* name_;
  QLabel* state_;
  QToolButton* choose_;
  QToolButton* accept_;
  QToolButton* remove_;
};

/// The filter of file choosers for pictures, drawings and clips.
QString pictureFilter();
/// The one local picture file of what is dragged; empty if it is none, or several.
QString draggedPicture(const QMimeData& data);
/// Whether a file begins as a picture, drawing or clip does.
bool showsPicture(const QString& path);

}  // namespace oa::app
