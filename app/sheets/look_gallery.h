// The looks that a layer can be given, each at work on this layer's own picture.
#pragma once

#include "model/document.h"
#include "model/look_shelf.h"
#include "sheets/live_gallery.h"

class QCheckBox;
class QPushButton;

namespace oa::app {

class LookGallery : public LiveGallery {
  Q_OBJECT
 public:
  LookGallery(Document& document, LookShelf& shelf, QWidget* parent = nullptr);
  /// For the current layer as it is now.
  void prepare();
  /// The card of a look, or -1.
  [[nodiscard]] int cardOf(const QString& name) const;

 Q_SIGNALS:
  /// The layer's own look is to be kept.
  void keepWanted();

 protected:
  void contextMenuEvent(QContextMenuEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  void refresh();
  void takeIn();
  void remove(int card);
  [[nodiscard]] int cardAt(const QWidget* widget) const;
  Document& document_;
  LookShelf& shelf_;
  QCheckBox* instead_;
  QPushButton* keep_;
};

/// Asks for a name and keeps the look of the current layer, with a small picture of it.
void keepLook(QWidget* parent, Document& document, LookShelf& shelf, int frame);

}  // namespace oa::app
