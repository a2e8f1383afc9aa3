// The window's rooms and sheets: what it is made of, and what tells whom.
#include <QDesktopServices>
#include <QFileInfo>
#include <QFrame>
#include <QMenu>
#include <QSplitter>
#include <QStackedWidget>
#include <QToolButton>
#include <QUrl>
#include <QVBoxLayout>

#include "edit/stand_ins.h"
#include "model/comparison.h"
#include "model/first_steps.h"
#include "model/heard.h"
#include "model/media_watch.h"
#include "model/recorder.h"
#include "model/sound_player.h"
#include "sheets/check_sheet.h"
#include "sheets/depth_sheet.h"
#include "sheets/export_sheet.h"
#include "sheets/fit_sheet.h"
#include "sheets/frame_sheet.h"
#include "sheets/gallery.h"
#include "sheets/history_sheet.h"
#include "sheets/look_gallery.h"
#include "sheets/palette_sheet.h"
#include "sheets/passage_gallery.h"
#include "sheets/sound_sheet.h"
#include "sheets/source_gallery.h"
#include "sheets/several_sheet.h"
#include "sheets/spread_sheet.h"
#include "sheets/step_gallery.h"
#include "sheets/timing_room.h"
#include "sheets/titles_sheet.h"
#include "top_bar.h"
#include "widgets/curve_view.h"
#include "widgets/dial.h"
#include "widgets/first_steps_panel.h"
#include "widgets/help_mark.h"
#include "widgets/layer_pile.h"
#include "widgets/motion_list.h"
#include "widgets/recipe_panel.h"
#include "widgets/record_strip.h"
#include "widgets/run_field.h"
#include "widgets/run_strip.h"
#include "widgets/text.h"
#include "widgets/theme.h"
#include "widgets/view.h"
#include "window.h"

namespace oa::app {
namespace {

QFrame* hairline(QWidget* parent) {
  auto* line = new QFrame(parent);
  line->setObjectName(QStringLiteral("hairline"));
  line->setFixedHeight(1);
  return line;
}

QSplitter* splitter(Qt::Orientation way, QWidget* parent, const char* name) {
  auto* made = new QSplitter(way, parent);
  made->setObjectName(QLatin1String(name));
  made->setChildrenCollapsible(false);
  made->setHandleWidth(5);
  return made;
}

}  // namespace

void Window::makeRooms() {
  auto* central = new QWidget(this);
  auto* column = new QVBoxLayout(central);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  topBar_ = new TopBar(document_, *commands_, central);
  recent_ = new QMenu(tr("Open recen&t"), this);
  recent_->setObjectName(QStringLiteral("recent"));
  recent_->setToolTipsVisible(true);
  if (auto* scenes = topBar_->findChild<QMenu*>(QStringLiteral("menu-scene"))) {
    scenes->insertMenu(commands_->action(QStringLiteral("save")), recent_);
    connect(scenes, &QMenu::aboutToShow, this, [this] {
      recent_->clear();
      for (const QString& path : files_.recent()) {
        QAction* entry = recent_->addAction(QFileInfo(path).fileName(), this, [this, path] {
          if (files_.mayDiscard()) files_.open(path);
        });
        entry->setToolTip(path);
      }
      recent_->setEnabled(!recent_->isEmpty());
    });
  }
  column->addWidget(topBar_);
  column->addWidget(hairline(central));
  middle_ = new QStackedWidget(central);
  sides_ = splitter(Qt::Horizontal, middle_, "sides");
  stories_ = splitter(Qt::Vertical, sides_, "stories");
  upper_ = splitter(Qt::Horizontal, stories_, "upper");
  layers_ = new LayerPile(document_, upper_);
  layers_->setMinimumWidth(180);
  upper_->addWidget(layers_);
  view_ = new View(document_, renderer_, player_, upper_);
  comparison_ = new Comparison(player_, this);
  view_->setComparison(*comparison_);
  drawnLine_ = new DrawnLine(this);
  view_->setDrawnLine(*drawnLine_);
  firstSteps_ = new FirstSteps(document_, player_, this);
  new FirstStepsPanel(*firstSteps_, view_);
  connect(comparison_, &Comparison::changed, this, [this] { commands_->refresh(); });
  // Another scene has nothing to do with it.
  connect(&document_, &Document::begun, comparison_, &Comparison::end);
  upper_->addWidget(view_);
  upper_->setStretchFactor(1, 1);
  stories_->addWidget(upper_);
  stories_->addWidget(makeLoopBar());
  stories_->setStretchFactor(0, 1);
  sides_->addWidget(stories_);
  right_ = new QStackedWidget(sides_);
  right_->setMinimumWidth(320);
  recipe_ = new RecipePanel(document_, right_);
  right_->addWidget(recipe_);
  sides_->addWidget(right_);
  sides_->setStretchFactor(0, 1);
  sides_->setSizes({1280 - 340, 340});
  upper_->setSizes({224, 700});
  stories_->setSizes({440, 290});
  middle_->addWidget(sides_);
  column->addWidget(middle_, 1);
  setCentralWidget(central);
}

QWidget* Window::makeLoopBar() {
  recorder_ = new Recorder(document_, player_, this);
  auto* bar = new QWidget(stories_);
  bar->setMinimumHeight(264);
  auto* column = new QVBoxLayout(bar);
  column->setContentsMargins(6, 0, 0, 2);
  column->setSpacing(0);
  auto* row = new QHBoxLayout();
  row->setSpacing(4);
  column->addLayout(row, 1);
  column->addWidget(makeRunBar(bar));
  dial_ = new Dial(document_, renderer_, player_, bar);
  dial_->setFixedWidth(230);
  row->addWidget(dial_);
  motions_ = new MotionList(document_, bar);
  motions_->setMinimumWidth(150);
  motions_->setMaximumWidth(228);
  row->addWidget(motions_, 1);
  curve_ = new CurveView(document_, player_, bar);
  curve_->setMinimumWidth(276);
  curve_->putOnTop(new RecordStrip(*recorder_, curve_));
  row->addWidget(curve_, 2);
  connect(&document_, &Document::motionShown, motions_, &MotionList::choose);
  const auto show = [this] {
    curve_->setMotion(motions_->chosen());
    view_->setMotion(motions_->chosen());
  };
  connect(motions_, &MotionList::chosenChanged, this, show);
  connect(view_, &View::keyTaken, this, [this](int key) { curve_->canvas()->chooseKey(key); });
  show();
  return bar;
}

QWidget* Window::makeRunBar(QWidget* parent) {
  auto* bar = new QWidget(parent);
  auto* row = new QHBoxLayout(bar);
  row->setContentsMargins(4, 0, 8, 2);
  row->setSpacing(6);
  auto* record = new QToolButton(bar);
  record->setObjectName(QStringLiteral("record"));
  record->setIcon(icon(QStringLiteral("record")));
  record->setIconSize(QSize(16, 16));
  record->setFixedSize(30, 30);
  record->setCheckable(true);
  record->setToolTip(commands_->tip(QStringLiteral("record")));
  record->setAccessibleName(tr("Record by hand"));
  connect(record, &QToolButton::clicked, recorder_, &Recorder::arm);
  connect(recorder_, &Recorder::changed, record, [this, record] { record->setChecked(recorder_->armed()); });
  row->addWidget(record);
  auto* play = new QToolButton(bar);
  play->setObjectName(QStringLiteral("playRun"));
  play->setIconSize(QSize(16, 16));
  play->setFixedSize(30, 30);
  const auto refresh = [this, play] {
    const bool runs = player_.playing() && player_.inRun();
    play->setIcon(icon(runs ? QStringLiteral("pause") : QStringLiteral("play")));
    play->setToolTip(runs ? tr("Stop the run") : tr("Play the run: what arrives, the loop, what leaves"));
    play->setAccessibleName(runs ? tr("Stop the run") : tr("Play the run"));
  };
  connect(&player_, &Player::playingChanged, play, refresh);
  connect(&player_, &Player::placeChanged, play, refresh);
  connect(play, &QToolButton::clicked, this, &Window::playRun);
  refresh();
  row->addWidget(play);
  runStrip_ = new RunStrip(document_, player_, bar);
  connect(runStrip_, &RunStrip::passageWanted, this, &Window::showPassages);
  row->addWidget(runStrip_, 1);
  auto* loops = new RunField(bar);
  loops->setObjectName(QStringLiteral("runLoops"));
  connect(loops, &RunField::loopsWanted, this, [this](int count) {
    document_.edit(tr("loops of the run"), QStringLiteral("run/count"), [&](Scene& scene) {
      scene.run.loops = count;
      scene.run.seconds = 0;
    });
  });
  connect(loops, &RunField::secondsWanted, this, [this](double seconds) {
    document_.edit(tr("seconds of the run"), QStringLiteral("run/count"), [&](Scene& scene) { scene.run.seconds = seconds; });
  });
  connect(&document_, &Document::changed, loops, [this, loops] {
    loops->setLength(document_.scene().run.loops, document_.scene().run.seconds);
    // What does not loop sets the length instead.
    loops->setEnabled(runOf(document_.scene()).seconds <= 0);
  });
  row->addWidget(loops);
  return bar;
}

void Window::makeSheets() {
  gallery_ = new Gallery(middle_);
  middle_->addWidget(gallery_);
  sources_ = new SourceGallery(document_, middle_);
  middle_->addWidget(sources_);
  steps_ = new StepGallery(document_, middle_);
  middle_->addWidget(steps_);
  shelf_ = new LookShelf(this);
  looks_ = new LookGallery(document_, *shelf_, middle_);
  middle_->addWidget(looks_);
  passages_ = new PassageGallery(document_, middle_);
  middle_->addWidget(passages_);
  timing_ = new TimingRoom(document_, player_, middle_);
  middle_->addWidget(timing_);
  frame_ = new FrameSheet(document_, right_);
  export_ = new ExportSheet(document_, player_, right_);
  connect(export_, &ExportSheet::sampled, this, [](const QString& path) { QDesktopServices::openUrl(QUrl::fromLocalFile(path)); });
  check_ = new CheckSheet(document_, right_);
  palettes_ = new PaletteSheet(document_, right_);
  sound_ = new SoundSheet(document_, right_);
  depth_ = new DepthSheet(document_, right_);
  fit_ = new FitSheet(document_, right_);
  titles_ = new TitlesSheet(document_, right_);
  spread_ = new SpreadSheet(document_, *drawnLine_, right_);
  several_ = new SeveralSheet(document_, right_);
  historySheet_ = new HistorySheet(document_, player_, *comparison_, right_);
  connect(frame_, &FrameSheet::fitWanted, this, &Window::showFit);
  connect(&document_, &Document::titleChanged, this, &Window::showScene);
  connect(&document_, &Document::heldStillChanged, this, &Window::showScene);
  soundPlayer_ = new SoundPlayer(document_, document_.heard(), player_, this);
  for (Sheet* sheet :
       std::initializer_list<Sheet*>{frame_, export_, check_, palettes_, sound_, depth_, fit_, titles_, spread_, several_, historySheet_}) {
    right_->addWidget(sheet);
    setHelpPage(sheet, sheet->objectName());
    connect(sheet, &Sheet::closed, this, &Window::showRecipe);
  }
}

void Window::connectRooms() {
  setHelpPage(looks_, QStringLiteral("gallery/looks"));
  const std::pair<QWidget*, const char*> rooms[] = {{layers_, "room/layers"}, {view_, "room/picture"},    {recipe_, "room/recipe"},
                                                    {dial_, "room/dial"},     {motions_, "room/motions"}, {curve_, "room/curve"},
                                                    {runStrip_, "room/run"},  {timing_, "room/timing"}};
  for (const auto& [part, page] : rooms) setHelpPage(part, QLatin1String(page));
  connect(gallery_, &Gallery::closed, this, [this] { showGallery(false); });
  connect(sources_, &LiveGallery::closed, this, [this] { showGallery(false); });
  connect(steps_, &LiveGallery::closed, this, [this] { showGallery(false); });
  connect(looks_, &LiveGallery::closed, this, [this] { showGallery(false); });
  connect(looks_, &LookGallery::keepWanted, this, &Window::keepLook);
  connect(recipe_, &RecipePanel::looksWanted, this, &Window::showLooks);
  connect(passages_, &LiveGallery::closed, this, [this] { showGallery(false); });
  connect(timing_, &TimingRoom::closed, this, [this] { showGallery(false); });
  connect(recipe_, &RecipePanel::stepsWanted, this, &Window::showSteps);
  connect(recipe_, &RecipePanel::passageWanted, this, &Window::showPassages);
  connect(layers_, &LayerPile::layerWanted, this, [this] { showSources(false); });
  connect(layers_, &LayerPile::menuWanted, this, [this](const QPoint& place, bool ofLayer) {
    const QStringList one{
        QStringLiteral("renameLayer"), QStringLiteral("duplicateLayer"), QStringLiteral("linkedCopy"), QStringLiteral("layerOfBelow"),
        QStringLiteral("-"),           QStringLiteral("group"),          QStringLiteral("ungroup"),    QStringLiteral("-"),
        QStringLiteral("showLayer"),   QStringLiteral("showAlone"),      QStringLiteral("lockLayer"),  QStringLiteral("-"),
        QStringLiteral("forward"),     QStringLiteral("back"),           QStringLiteral("-"),          QStringLiteral("removeLayer"),
        QStringLiteral("-"),           QStringLiteral("addLayer")};
    showMenu(place, ofLayer ? one : QStringList{QStringLiteral("addLayer")});
  });
  connect(view_, &View::menuWanted, this, [this](const QPoint& place) {
    showMenu(place,
             {QStringLiteral("play"), QStringLiteral("joint"), QStringLiteral("-"), QStringLiteral("viewPicture"),
              QStringLiteral("viewSeam"), QStringLiteral("viewWrap"), QStringLiteral("viewStandIn"), QStringLiteral("viewSafe"),
              QStringLiteral("-"), QStringLiteral("fit"), QStringLiteral("fullSize"), QStringLiteral("zoomIn"), QStringLiteral("zoomOut")});
  });
  connect(dial_, &Dial::menuWanted, this, [this](const QPoint& place) {
    showMenu(place, {QStringLiteral("play"), QStringLiteral("joint"), QStringLiteral("frameBack"), QStringLiteral("frameOn"),
                     QStringLiteral("-"), QStringLiteral("frame"), QStringLiteral("check")});
  });
  connect(view_, &View::modeChanged, commands_, &Commands::refresh);
  connect(view_, &View::standInsWanted, this, &Window::showStandInMenu);
  connect(recipe_, &RecipePanel::otherSourceWanted, this, [this] { showSources(true); });
  connect(gallery_, &Gallery::chosen, this, [this](const Scene& scene) {
    if (!files_.mayDiscard()) return;
    begin(scene);
    showGallery(false);
  });
  connect(&files_, &SceneFiles::failed, topBar_, &TopBar::showError);
  connect(&files_, &SceneFiles::opened, this, [this] {
    topBar_->hideError();
    player_.setPlaying(false);
    player_.setFrame(0);
    showGallery(false);
  });
  connect(&document_, &Document::refused, topBar_,
          [this](const QString& sentence) { topBar_->showError(tr("Not done: %1.").arg(sentence)); });
  Generation lampOf = 0;
  connect(&document_, &Document::changed, this, [this, lampOf]() mutable {
    showScene();
    if (player_.frame() >= document_.scene().frames && !player_.inRun()) player_.setFrame(player_.frame());
    // What was measured stays true as long as the pictures are the same.
    if (lampOf != renderer_.generation()) topBar_->showLamp(nullptr);
    lampOf = renderer_.generation();
    commands_->refresh();
  });
  connect(&document_.media(), &MediaWatch::problemsChanged, this, [this] {
    renderer_.refresh();
    const auto& problems = document_.media().problems();
    if (!problems.empty())
      topBar_->showError(tr("%1. A hatched picture stands for it; the layer’s card can find it.").arg(text(problems.front().sentence)));
  });
  connect(&document_, &Document::currentLayerChanged, commands_, &Commands::refresh);
  connect(&player_, &Player::playingChanged, commands_, &Commands::refresh);
  const auto title = [this] {
    const QString name = document_.scene().name.empty() ? tr("Untitled") : text(document_.scene().name);
    setWindowTitle(name + QStringLiteral("[*] – ") + tr("Over Again"));
    setWindowModified(document_.dirty());
    commands_->refresh();
  };
  connect(&document_, &Document::fileChanged, this, title);
  connect(&document_, &Document::changed, this, title);
  title();
  connect(&renderer_, &RenderService::thumbnailReady, this, [this](Id layer, const QImage& image, Generation generation) {
    if (generation == renderer_.generation()) layers_->setThumbnail(layer, image);
  });
  connect(&renderer_, &RenderService::jointChecked, this, [this](const JointCheck& check, Generation generation) {
    if (generation == renderer_.generation()) topBar_->showLamp(&check);
  });
  connect(&renderer_, &RenderService::refused, this, [this](const QString& sentence, Generation generation) {
    if (generation == renderer_.generation()) topBar_->showError(tr("The scene cannot be shown: %1.").arg(sentence));
  });
}

}  // namespace oa::app
