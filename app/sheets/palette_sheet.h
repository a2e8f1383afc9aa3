// Palettes: choosing one recolours the scene at once; files and pictures bring more.
#pragma once

#include <QStringList>
#include <vector>

#include "model/document.h"
#include "sheets/sheet.h"

class QCheckBox;
class QLabel;
class QListWidget;
class QPushButton;

namespace oa::app {

/// The palettes that ship with the program, by name.
std::vector<Palette> ownPalettes();

class PaletteSheet : public Sheet {
  Q_OBJECT
 public:
  explicit PaletteSheet(Document& document, QWidget* parent = nullptr);
  /// Takes the scene as it is now for what palettes are tried on.
  void begin();
  /// Reads a palette file, or the main colours of a picture, and tries it; says what is wrong with it otherwise.
  bool openFile(const QString& path);
  [[nodiscard]] QListWidget* list() const { return list_; }
  [[nodiscard]] int rowOf(const QString& name) const;
  [[nodiscard]] const std::vector<Palette>& palettes() const { return palettes_; }

 protected:
  void showEvent(QShowEvent*) override;

 private:
  friend class PaletteDelegate;
  void addPalette(const Palette& palette, bool choose);
  void tryOut(int row);
  void putBack();
  void askForFile(const QString& title, const QString& filter);
  void saveAs();
  void say(const QString& message, bool bad);
  Document& document_;
  std::vector<Palette> palettes_;
  Scene before_;
  bool trying_ = false;  // the change of the scene is this sheet's own
  QListWidget* list_;
  QCheckBox* recolour_;
  QLabel* note_;
  QPushButton* back_;
};

/// Names of files that hold palettes, by their endings.
bool isPaletteFile(const QString& path);

}  // namespace oa::app
