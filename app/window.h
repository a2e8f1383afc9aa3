// The window: top bar, layers, view, recipe, loop; sheets over the right side.
#pragma once

#include <QMainWindow>

#include "model/document.h"
#include "model/player.h"
#include "model/render_service.h"

class QLabel;
class QMenu;
class QPushButton;
class QStackedWidget;

namespace oa::app {

class CheckSheet;
class CurveView;
class Dial;
class ExportSheet;
class Gallery;
class LayerPile;
class MotionList;
class PaletteSheet;
class RecipePanel;
class SourceGallery;
class View;

class Window : public QMainWindow {
  Q_OBJECT
 public:
  explicit Window(QWidget* parent = nullptr);
  ~Window() override;

  /// Opens a scene file; a broken one leaves the present scene as it is and shows why.
  bool open(const QString& path);
  /// Takes a starter as a new, unsaved scene.
  void begin(const Scene& scene);
  bool save();
  bool saveAs();

  [[nodiscard]] Document& document() { return document_; }
  [[nodiscard]] Player& player() { return player_; }
  [[nodiscard]] RenderService& renderer() { return renderer_; }
  [[nodiscard]] View& view() { return *view_; }
  [[nodiscard]] LayerPile& layers() { return *layers_; }
  [[nodiscard]] RecipePanel& recipe() { return *recipe_; }
  [[nodiscard]] ExportSheet& exportSheet() { return *export_; }
  [[nodiscard]] Gallery& gallery() { return *gallery_; }
  [[nodiscard]] SourceGallery& sources() { return *sources_; }
  [[nodiscard]] PaletteSheet& palettes() { return *palettes_; }
  [[nodiscard]] MotionList& motions() { return *motions_; }
  [[nodiscard]] CurveView& curve() { return *curve_; }
  [[nodiscard]] Dial& dial() { return *dial_; }
  /// The message of the last error, empty if it was closed.
  [[nodiscard]] QString errorShown() const;

  void showRecipe();
  void showFrame();
  void showExport();
  void showCheck();
  void showPalettes();
  void showGallery(bool show);
  /// The gallery of sources: for a new layer, or in place of the current one's source.
  void showSources(bool replace);
  void showShortcuts();

 protected:
  void closeEvent(QCloseEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dropEvent(QDropEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  QWidget* makeTopBar();
  QWidget* makeLoopBar();
  void makeActions();
  void refreshTopBar();
  void showError(const QString& message);
  bool mayDiscard();
  void remember(const QString& path);
  void fillFileMenu(QMenu* menu);
  void showLamp(const JointCheck* check);

  Document document_;
  RenderService renderer_;
  Player player_;
  QPushButton* name_ = nullptr;
  QPushButton* pill_ = nullptr;
  QPushButton* lamp_ = nullptr;
  QWidget* error_ = nullptr;
  QLabel* errorText_ = nullptr;
  QStackedWidget* middle_ = nullptr;
  QStackedWidget* right_ = nullptr;
  LayerPile* layers_ = nullptr;
  View* view_ = nullptr;
  Gallery* gallery_ = nullptr;
  SourceGallery* sources_ = nullptr;
  PaletteSheet* palettes_ = nullptr;
  RecipePanel* recipe_ = nullptr;
  QWidget* frameSheet_ = nullptr;
  ExportSheet* export_ = nullptr;
  CheckSheet* check_ = nullptr;
  Dial* dial_ = nullptr;
  MotionList* motions_ = nullptr;
  CurveView* curve_ = nullptr;
};

}  // namespace oa::app
