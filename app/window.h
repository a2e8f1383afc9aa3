// The window: top bar, layers, view, recipe, loop; sheets over the right side. Rooms and sheets are made in
// window_rooms.cpp, commands stand in window_commands.cpp.
#pragma once

#include <QMainWindow>
#include <QPointer>

#include "commands/commands.h"
#include "model/document.h"
#include "model/player.h"
#include "model/render_service.h"
#include "scene_files.h"

class QLabel;
class QMenu;
class QSplitter;
class QStackedWidget;

namespace oa::app {

class CheckSheet;
class Comparison;
class DrawnLine;
class CurveView;
class Dial;
class ExportSheet;
class FirstSteps;
class FitSheet;
class FrameSheet;
class Gallery;
class HelpWindow;
class HistorySheet;
class Journal;
class LayerPile;
class MotionList;
class PaletteSheet;
class PassageGallery;
class RecipePanel;
class Recorder;
class RunStrip;
class Sheet;
class SoundPlayer;
class DepthSheet;
class SoundSheet;
class SourceGallery;
class SeveralSheet;
class SpreadSheet;
class LookGallery;
class LookShelf;
class StepGallery;
class TimingRoom;
class TitlesSheet;
class TopBar;
class View;

class Window : public QMainWindow {
  Q_OBJECT
 public:
  explicit Window(QWidget* parent = nullptr);
  ~Window() override;

  /// Opens a scene file; a broken one leaves the present scene as it is and shows why.
  bool open(const QString& path) { return files_.open(path); }
  /// Takes a starter as a new, unsaved scene.
  void begin(const Scene& scene);
  /// Offers the work that programs left behind which did not end well.
  void offerRescuedWork();

  [[nodiscard]] Document& document() { return document_; }
  [[nodiscard]] Player& player() { return player_; }
  [[nodiscard]] RenderService& renderer() { return renderer_; }
  [[nodiscard]] Commands& commands() { return *commands_; }
  [[nodiscard]] SceneFiles& files() { return files_; }
  [[nodiscard]] Journal& journal() { return *journal_; }
  [[nodiscard]] TopBar& topBar() { return *topBar_; }
  [[nodiscard]] View& view() { return *view_; }
  [[nodiscard]] LayerPile& layers() { return *layers_; }
  [[nodiscard]] RecipePanel& recipe() { return *recipe_; }
  [[nodiscard]] ExportSheet& exportSheet() { return *export_; }
  [[nodiscard]] Gallery& gallery() { return *gallery_; }
  [[nodiscard]] SourceGallery& sources() { return *sources_; }
  [[nodiscard]] StepGallery& stepGallery() { return *steps_; }
  [[nodiscard]] LookGallery& lookGallery() { return *looks_; }
  [[nodiscard]] PaletteSheet& palettes() { return *palettes_; }
  [[nodiscard]] SoundPlayer& soundPlayer() { return *soundPlayer_; }
  [[nodiscard]] MotionList& motions() { return *motions_; }
  [[nodiscard]] CurveView& curve() { return *curve_; }
  [[nodiscard]] Dial& dial() { return *dial_; }
  [[nodiscard]] RunStrip& runStrip() { return *runStrip_; }
  [[nodiscard]] FirstSteps& firstSteps() { return *firstSteps_; }
  [[nodiscard]] Comparison& comparison() { return *comparison_; }
  [[nodiscard]] HistorySheet& historySheet() { return *historySheet_; }
  [[nodiscard]] Recorder& recorder() { return *recorder_; }
  [[nodiscard]] PassageGallery& passages() { return *passages_; }
  /// The message of the last error, empty if it was closed.
  [[nodiscard]] QString errorShown() const;

  void showRecipe();
  void showFrame();
  void showExport();
  void showCheck();
  void showPalettes();
  void showSound();
  void showDepth();
  void showFit();
  void showTitles();
  /// The selected layers spread in time.
  void showSpread();
  /// One layer several times over.
  void showSeveral();
  /// What was done, state by state.
  void showHistory();
  /// Puts the scene as it is now beside what becomes of it, or stops comparing.
  void compareWithNow();
  /// All that moves, in the room of the galleries.
  void showTiming();
  void showGallery(bool show);
  /// The gallery of sources: for a new layer, or in place of the current one's source.
  void showSources(bool replace);
  /// The gallery of steps, at work on the current layer.
  void showSteps();
  void showLooks();
  void keepLook();
  /// The gallery of ways to arrive, or to leave, for the selected layers.
  void showPassages(bool leaving);
  /// All that is only there for judging; where there is none yet, a title is put in front.
  void showStandIns(bool shown);
  /// Plays the run from its beginning, or stops it.
  void playRun();
  void copyLayers();
  void pasteLayers();
  /// Layers that show these files, above the current one.
  void addPictures(const QStringList& paths);
  void askForPictures();
  /// The page of help that tells of what has the focus.
  void showHelp();
  void showShortcuts();
  /// A starter, and the first five things to do with it.
  void beginFirstSteps();

 protected:
  bool eventFilter(QObject* watched, QEvent* event) override;
  void closeEvent(QCloseEvent* event) override;
  void dragEnterEvent(QDragEnterEvent* event) override;
  void dragLeaveEvent(QDragLeaveEvent* event) override;
  void dropEvent(QDropEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  void makeCommands();
  void makeRooms();
  QWidget* makeLoopBar();
  QWidget* makeRunBar(QWidget* parent);
  void makeSheets();
  void makeHelp();
  void connectRooms();
  void rememberRooms();
  void restoreRooms();
  void showSheet(QWidget* sheet);
  void toggleSheet(QWidget* sheet);
  /// Closes what was opened last; false if nothing is open.
  bool closeLast();
  void takeSound(const QString& path);
  void addPictureLayers(const std::vector<MediaRef>& files);
  /// A picture or files from the clipboard; false if it holds none.
  bool pasteFiles();
  /// Gives the renderer the scene as it is looked at: with the fields of the chosen title filled.
  void showScene();
  void showStandInMenu(const QPoint& globalPlace);
  void showMenu(const QPoint& globalPlace, const QStringList& ids);

  Document document_;
  RenderService renderer_;
  Player player_;
  SceneFiles files_;
  Commands* commands_ = nullptr;
  Journal* journal_ = nullptr;
  QMenu* recent_ = nullptr;
  TopBar* topBar_ = nullptr;
  QStackedWidget* middle_ = nullptr;
  QStackedWidget* right_ = nullptr;
  QSplitter* sides_ = nullptr;    // layers and picture | right side
  QSplitter* upper_ = nullptr;    // layers | picture
  QSplitter* stories_ = nullptr;  // those two above the loop
  LayerPile* layers_ = nullptr;
  View* view_ = nullptr;
  QLabel* dropHint_ = nullptr;
  Gallery* gallery_ = nullptr;
  SourceGallery* sources_ = nullptr;
  StepGallery* steps_ = nullptr;
  LookShelf* shelf_ = nullptr;
  LookGallery* looks_ = nullptr;
  PassageGallery* passages_ = nullptr;
  PaletteSheet* palettes_ = nullptr;
  RecipePanel* recipe_ = nullptr;
  FrameSheet* frame_ = nullptr;
  ExportSheet* export_ = nullptr;
  CheckSheet* check_ = nullptr;
  SoundSheet* sound_ = nullptr;
  DepthSheet* depth_ = nullptr;
  FitSheet* fit_ = nullptr;
  TitlesSheet* titles_ = nullptr;
  SpreadSheet* spread_ = nullptr;
  SeveralSheet* several_ = nullptr;
  HistorySheet* historySheet_ = nullptr;
  HelpWindow* help_ = nullptr;  // made when it is first asked for
  FirstSteps* firstSteps_ = nullptr;
  Comparison* comparison_ = nullptr;
  DrawnLine* drawnLine_ = nullptr;
  TimingRoom* timing_ = nullptr;
  SoundPlayer* soundPlayer_ = nullptr;
  Dial* dial_ = nullptr;
  MotionList* motions_ = nullptr;
  CurveView* curve_ = nullptr;
  RunStrip* runStrip_ = nullptr;
  Recorder* recorder_ = nullptr;
  QPointer<QWidget> before_;  // what had the focus when a sheet or gallery opened
};

}  // namespace oa::app
