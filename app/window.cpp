#include "window.h"

#include <QAction>
#include <QApplication>
#include <QCloseEvent>
#include <QDialog>
#include <QDialogButtonBox>
#include <QDragEnterEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QGridLayout>
#include <QLabel>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QPainter>
#include <QPushButton>
#include <QScreen>
#include <QSettings>
#include <QStackedWidget>
#include <QToolButton>
#include <QVBoxLayout>

#include "scene/scene_file.h"
#include "sheets/check_sheet.h"
#include "sheets/export_sheet.h"
#include "sheets/frame_sheet.h"
#include "sheets/gallery.h"
#include "sheets/palette_sheet.h"
#include "sheets/source_gallery.h"
#include "widgets/curve_view.h"
#include "widgets/dial.h"
#include "widgets/layer_pile.h"
#include "widgets/motion_list.h"
#include "widgets/recipe_panel.h"
#include "widgets/text.h"
#include "widgets/theme.h"
#include "widgets/view.h"

namespace oa::app {
namespace {

constexpr int kMostRecent = 8;

QPixmap dot(const QColor& colour, bool ring) {
  QPixmap pixmap(24, 24);
  pixmap.setDevicePixelRatio(2);
  pixmap.fill(Qt::transparent);
  QPainter p(&pixmap);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(QPen(colour, 2));
  p.setBrush(ring ? QBrush(Qt::NoBrush) : QBrush(colour));
  p.drawEllipse(QPointF(6, 6), 3.6, 3.6);
  return pixmap;
}

// The mark of the program: a circle with its joint.
class Mark : public QWidget {
 public:
  explicit Mark(QWidget* parent) : QWidget(parent) { setFixedSize(26, 26); }

 protected:
  void paintEvent(QPaintEvent*) override {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(Theme::now().persimmon, 3.2, Qt::SolidLine, Qt::FlatCap));
    p.drawArc(QRectF(4, 4, 18, 18), 66 * 16, -312 * 16);
    p.setPen(Qt::NoPen);
    p.setBrush(Theme::now().persimmon);
    p.drawEllipse(QPointF(13, 4), 2.4, 2.4);
  }
};

QFrame* hairline(bool upright, QWidget* parent) {
  auto* line = new QFrame(parent);
  line->setObjectName(QStringLiteral("hairline"));
  upright ? line->setFixedWidth(1) : line->setFixedHeight(1);
  return line;
}

}  // namespace

Window::Window(QWidget* parent) : QMainWindow(parent), player_(document_, renderer_) {
  setAcceptDrops(true);
  setMinimumSize(1024, 700);
  const QSize room = screen() ? screen()->availableGeometry().size() : QSize(1280, 800);
  resize(QSize(1280, 800).boundedTo(room));
  auto* central = new QWidget(this);
  auto* column = new QVBoxLayout(central);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  column->addWidget(makeTopBar());
  column->addWidget(hairline(false, central));
  auto* body = new QHBoxLayout();
  body->setContentsMargins(0, 0, 0, 0);
  body->setSpacing(0);
  auto* upper = new QHBoxLayout();
  upper->setSpacing(0);
  layers_ = new LayerPile(document_, central);
  layers_->setFixedWidth(224);
  upper->addWidget(layers_);
  upper->addWidget(hairline(true, central));
  view_ = new View(document_, renderer_, player_, central);
  upper->addWidget(view_, 1);
  auto* work = new QWidget(central);
  auto* workColumn = new QVBoxLayout(work);
  workColumn->setContentsMargins(0, 0, 0, 0);
  workColumn->setSpacing(0);
  workColumn->addLayout(upper, 1);
  workColumn->addWidget(hairline(false, work));
  workColumn->addWidget(makeLoopBar());
  body->addWidget(work, 1);
  body->addWidget(hairline(true, central));
  right_ = new QStackedWidget(central);
  right_->setFixedWidth(336);
  recipe_ = new RecipePanel(document_, right_);
  right_->addWidget(recipe_);
  body->addWidget(right_);
  middle_ = new QStackedWidget(central);
  auto* bodyWidget = new QWidget(middle_);
  bodyWidget->setLayout(body);
  middle_->addWidget(bodyWidget);
  gallery_ = new Gallery(middle_);
  middle_->addWidget(gallery_);
  sources_ = new SourceGallery(document_, middle_);
  middle_->addWidget(sources_);
  column->addWidget(middle_, 1);
  setCentralWidget(central);

  auto* frame = new FrameSheet(document_, right_);
  frameSheet_ = frame;
  export_ = new ExportSheet(document_, right_);
  check_ = new CheckSheet(document_, right_);
  palettes_ = new PaletteSheet(document_, right_);
  for (Sheet* sheet : std::initializer_list<Sheet*>{frame, export_, check_, palettes_}) {
    right_->addWidget(sheet);
    connect(sheet, &Sheet::closed, this, &Window::showRecipe);
  }
  connect(gallery_, &Gallery::closed, this, [this] { showGallery(false); });
  connect(sources_, &LiveGallery::closed, this, [this] { showGallery(false); });
  connect(layers_, &LayerPile::layerWanted, this, [this] { showSources(false); });
  connect(recipe_, &RecipePanel::otherSourceWanted, this, [this] { showSources(true); });
  connect(gallery_, &Gallery::chosen, this, [this](const Scene& scene) {
    if (!mayDiscard()) return;
    begin(scene);
    showGallery(false);
  });
  connect(&document_, &Document::changed, this, [this] {
    renderer_.setScene(document_.scene());
    if (player_.frame() >= document_.scene().frames) player_.setFrame(player_.frame());
    showLamp(nullptr);
    refreshTopBar();
  });
  connect(&document_, &Document::fileChanged, this, &Window::refreshTopBar);
  connect(&renderer_, &RenderService::thumbnailReady, layers_, &LayerPile::setThumbnail);
  connect(&renderer_, &RenderService::jointChecked, this, [this](const JointCheck& check) { showLamp(&check); });
  makeActions();
  refreshTopBar();
  view_->setFocus();
}

Window::~Window() {
  player_.setPlaying(false);
  // Widgets look at the document and the renderer to their last moment, and would otherwise outlive both; what the
  // two still say while they go concerns nobody.
  document_.disconnect(this);
  document_.history().disconnect(this);
  renderer_.disconnect(this);
  delete takeCentralWidget();
}

QWidget* Window::makeTopBar() {
  auto* bar = new QWidget(this);
  auto* column = new QVBoxLayout(bar);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(0);
  auto* row = new QHBoxLayout();
  row->setContentsMargins(12, 7, 12, 7);
  row->setSpacing(6);
  row->addWidget(new Mark(bar));
  auto* title = new QLabel(tr("Over Again"), bar);
  title->setFont(uiFont(15, 700));
  title->setStyleSheet(QStringLiteral("font-size: 15px; font-weight: 700;"));
  row->addWidget(title);
  row->addSpacing(8);
  const auto quiet = [&](const QString& words, const QString& says) {
    auto* button = new QPushButton(words, bar);
    button->setObjectName(QStringLiteral("quiet"));
    button->setToolTip(says);
    return button;
  };
  name_ = quiet(QString(), tr("The scene: open, save, begin anew"));
  auto* menu = new QMenu(name_);
  connect(menu, &QMenu::aboutToShow, this, [this, menu] { fillFileMenu(menu); });
  name_->setMenu(menu);
  name_->setIcon(icon(QStringLiteral("chevron-down"), Theme::now().muted));
  name_->setLayoutDirection(Qt::RightToLeft);
  row->addWidget(name_);
  row->addStretch(1);
  pill_ = new QPushButton(bar);
  pill_->setObjectName(QStringLiteral("framePill"));
  pill_->setStyleSheet(QStringLiteral("QPushButton { border-radius: 14px; padding: 4px 18px; }"));
  pill_->setToolTip(tr("Frame size, rate and length of the loop"));
  connect(pill_, &QPushButton::clicked, this, &Window::showFrame);
  row->addWidget(pill_);
  row->addStretch(1);
  lamp_ = new QPushButton(bar);
  lamp_->setObjectName(QStringLiteral("lamp"));
  lamp_->setStyleSheet(QStringLiteral("QPushButton { border-radius: 14px; padding: 4px 12px; }"));
  connect(lamp_, &QPushButton::clicked, this, &Window::showCheck);
  row->addWidget(lamp_);
  auto* palette = quiet(tr("Palette"), tr("The scene in other colours"));
  palette->setObjectName(QStringLiteral("paletteButton"));
  connect(palette, &QPushButton::clicked, this, &Window::showPalettes);
  row->addWidget(palette);
  auto* starters = quiet(tr("Starters"), tr("Ready-made scenes to begin from"));
  connect(starters, &QPushButton::clicked, this, [this] { showGallery(middle_->currentIndex() == 0); });
  row->addWidget(starters);
  const auto small = [&](const QString& name, const QString& says) {
    auto* button = new QToolButton(bar);
    button->setIcon(icon(name));
    button->setIconSize(QSize(17, 17));
    button->setAccessibleName(says);
    row->addWidget(button);
    return button;
  };
  auto* undo = small(QStringLiteral("undo-2"), tr("Undo"));
  auto* redo = small(QStringLiteral("redo-2"), tr("Redo"));
  QUndoStack& history = document_.history();
  connect(undo, &QToolButton::clicked, &history, &QUndoStack::undo);
  connect(redo, &QToolButton::clicked, &history, &QUndoStack::redo);
  const auto follow = [undo, redo, &history] {
    undo->setEnabled(history.canUndo());
    redo->setEnabled(history.canRedo());
    undo->setToolTip(history.canUndo() ? QObject::tr("Undo: %1").arg(history.undoText()) : QObject::tr("Nothing to undo"));
    redo->setToolTip(history.canRedo() ? QObject::tr("Redo: %1").arg(history.redoText()) : QObject::tr("Nothing to redo"));
  };
  connect(&history, &QUndoStack::indexChanged, this, follow);
  follow();
  row->addSpacing(4);
  auto* exportButton = new QPushButton(tr("Export…"), bar);
  exportButton->setObjectName(QStringLiteral("primary"));
  connect(exportButton, &QPushButton::clicked, this, &Window::showExport);
  row->addWidget(exportButton);
  column->addLayout(row);
  // An error shows under the bar until it is closed; the work stays.
  error_ = new QWidget(bar);
  error_->setStyleSheet(QStringLiteral("background: %1;").arg(blendOf(Theme::now().panel, Theme::now().persimmon, 0.16).name()));
  auto* errorRow = new QHBoxLayout(error_);
  errorRow->setContentsMargins(16, 6, 12, 6);
  errorText_ = new QLabel(error_);
  errorText_->setWordWrap(true);
  errorText_->setTextFormat(Qt::PlainText);
  errorText_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  auto* close = new QToolButton(error_);
  close->setIcon(icon(QStringLiteral("x")));
  close->setAccessibleName(tr("Close the message"));
  connect(close, &QToolButton::clicked, error_, &QWidget::hide);
  errorRow->addWidget(errorText_, 1);
  errorRow->addWidget(close);
  error_->hide();
  column->addWidget(error_);
  return bar;
}

QWidget* Window::makeLoopBar() {
  auto* bar = new QWidget(this);
  bar->setFixedHeight(244);
  auto* row = new QHBoxLayout(bar);
  row->setContentsMargins(6, 0, 0, 0);
  row->setSpacing(4);
  dial_ = new Dial(document_, renderer_, player_, bar);
  dial_->setFixedWidth(230);
  row->addWidget(dial_);
  motions_ = new MotionList(document_, bar);
  motions_->setMinimumWidth(150);
  motions_->setMaximumWidth(228);
  row->addWidget(motions_, 1);
  curve_ = new CurveView(document_, player_, bar);
  curve_->setMinimumWidth(276);
  row->addWidget(curve_, 2);
  connect(&document_, &Document::motionShown, motions_, &MotionList::choose);
  connect(motions_, &MotionList::chosenChanged, this, [this] { curve_->setMotion(motions_->chosen()); });
  curve_->setMotion(motions_->chosen());
  return bar;
}

void Window::makeActions() {
  const auto add = [this](const QKeySequence& keys, auto run) {
    auto* action = new QAction(this);
    action->setShortcut(keys);
    connect(action, &QAction::triggered, this, run);
    addAction(action);
  };
  add(QKeySequence(Qt::CTRL | Qt::Key_Z), [this] { document_.history().undo(); });
  add(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z), [this] { document_.history().redo(); });
  add(QKeySequence(Qt::CTRL | Qt::Key_S), [this] { save(); });
  add(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { saveAs(); });
  add(QKeySequence(Qt::CTRL | Qt::Key_N), [this] { showGallery(true); });
  add(QKeySequence(Qt::CTRL | Qt::Key_D), [this] { layers_->duplicateLayer(document_.currentLayer()); });
  add(QKeySequence(Qt::CTRL | Qt::Key_E), [this] { showExport(); });
  add(QKeySequence(Qt::CTRL | Qt::Key_O), [this] {
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Open a scene"), QFileInfo(document_.path()).path(), tr("Scenes (*.overagain)"));
    if (!path.isEmpty() && mayDiscard()) open(path);
  });
  add(QKeySequence(Qt::Key_F1), [this] { showShortcuts(); });
  add(QKeySequence(Qt::CTRL | Qt::Key_0), [this] { view_->setZoom(0); });
  add(QKeySequence(Qt::CTRL | Qt::Key_1), [this] { view_->setZoom(1 / devicePixelRatioF()); });
  add(QKeySequence(Qt::CTRL | Qt::Key_Plus), [this] { view_->setZoom(view_->zoom() * 1.25); });
  add(QKeySequence(Qt::CTRL | Qt::Key_Minus), [this] { view_->setZoom(view_->zoom() / 1.25); });
}

void Window::keyPressEvent(QKeyEvent* event) {
  // Reached when the control with the focus has no use for the key.
  switch (event->key()) {
    case Qt::Key_Space:
      return player_.toggle();
    case Qt::Key_Left:
      return player_.setFrame(player_.frame() - 1);
    case Qt::Key_Right:
      return player_.setFrame(player_.frame() + 1);
    case Qt::Key_Home:
      return player_.setFrame(0);
    case Qt::Key_Escape:
      return showRecipe();
    default:
      QMainWindow::keyPressEvent(event);
  }
}

void Window::refreshTopBar() {
  const Scene& s = document_.scene();
  const QString name = s.name.empty() ? tr("Untitled") : text(s.name);
  name_->setText(name + (document_.dirty() ? QStringLiteral(" •") : QString()));
  name_->setAccessibleName(tr("Scene %1").arg(name));
  setWindowTitle(name + QStringLiteral("[*] – ") + tr("Over Again"));
  setWindowModified(document_.dirty());
  pill_->setText(tr("%1 × %2  ·  %3 fps  ·  %4 s = %5 frames")
                     .arg(s.width)
                     .arg(s.height)
                     .arg(text(numberText(s.rate.value(), 3)), text(numberText(s.seconds(), 2)))
                     .arg(s.frames));
}

void Window::showLamp(const JointCheck* check) {
  const Theme& t = Theme::now();
  if (!check) {
    lamp_->setIcon(QIcon(dot(t.muted, true)));
    lamp_->setText(tr("Looking…"));
    lamp_->setToolTip(tr("The joint is being measured"));
    return;
  }
  const JointReport& r = check->scene;
  if (r.median <= 0 && r.joint <= 0) {
    lamp_->setIcon(QIcon(dot(t.muted, false)));
    lamp_->setText(tr("At rest"));
  } else {
    lamp_->setIcon(QIcon(dot(r.clean ? (r.steady ? t.moss : t.ochre) : t.persimmon, false)));
    lamp_->setText(r.clean ? (r.steady ? tr("Loops clean") : tr("Speed changes")) : tr("Jumps"));
  }
  lamp_->setToolTip(text(check->sentence()));
}

void Window::showRecipe() {
  right_->setCurrentWidget(recipe_);
  view_->setFocus();
}
void Window::showFrame() {
  right_->setCurrentWidget(right_->currentWidget() == frameSheet_ ? static_cast<QWidget*>(recipe_) : frameSheet_);
}
void Window::showExport() {
  showGallery(false);
  right_->setCurrentWidget(export_);
}
void Window::showCheck() {
  showGallery(false);
  right_->setCurrentWidget(check_);
  check_->start();
}
void Window::showPalettes() {
  showGallery(false);
  right_->setCurrentWidget(right_->currentWidget() == palettes_ ? static_cast<QWidget*>(recipe_) : palettes_);
}
void Window::showSources(bool replace) {
  if (replace && !document_.layer()) return;
  sources_->prepare(replace ? SourceGallery::Purpose::ReplaceSource : SourceGallery::Purpose::NewLayer);
  middle_->setCurrentWidget(sources_);
}
void Window::showGallery(bool show) { middle_->setCurrentIndex(show ? 1 : 0); }

void Window::showError(const QString& message) {
  errorText_->setText(message);
  error_->show();
}

QString Window::errorShown() const { return error_->isHidden() ? QString() : errorText_->text(); }

bool Window::open(const QString& path) {
  auto scene = loadScene(path.toStdString());
  if (!scene) {
    showError(tr("The scene could not be opened. %1").arg(text(scene.error().sentence())));
    return false;
  }
  error_->hide();
  player_.setPlaying(false);
  document_.reset(std::move(*scene), QFileInfo(path).absoluteFilePath());
  player_.setFrame(0);
  remember(document_.path());
  showGallery(false);
  return true;
}

void Window::begin(const Scene& scene) {
  player_.setPlaying(false);
  document_.reset(scene, QString());
  player_.setFrame(0);
}

bool Window::save() {
  if (document_.path().isEmpty()) return saveAs();
  if (auto saved = document_.save(document_.path()); !saved) {
    showError(tr("The scene was not saved; your work is still here. %1").arg(text(saved.error().sentence())));
    return false;
  }
  remember(document_.path());
  return true;
}

bool Window::saveAs() {
  QString path = QFileDialog::getSaveFileName(
      this, tr("Save the scene"),
      document_.path().isEmpty() ? text(document_.scene().name) + QLatin1String(kSceneSuffix) : document_.path(),
      tr("Scenes (*.overagain)"));
  if (path.isEmpty()) return false;
  if (!path.endsWith(QLatin1String(kSceneSuffix))) path += QLatin1String(kSceneSuffix);
  if (auto saved = document_.save(path); !saved) {
    showError(tr("The scene was not saved; your work is still here. %1").arg(text(saved.error().sentence())));
    return false;
  }
  remember(path);
  return true;
}

bool Window::mayDiscard() {
  if (!document_.dirty()) return true;
  QMessageBox box(QMessageBox::Question, tr("Unsaved changes"),
                  tr("“%1” has changes that are not saved.").arg(text(document_.scene().name)),
                  QMessageBox::Save | QMessageBox::Discard | QMessageBox::Cancel, this);
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

void Window::remember(const QString& path) {
  QSettings settings;
  QStringList recent = settings.value(QStringLiteral("recent")).toStringList();
  recent.removeAll(path);
  recent.prepend(path);
  settings.setValue(QStringLiteral("recent"), QStringList(recent.mid(0, kMostRecent)));
}

void Window::fillFileMenu(QMenu* menu) {
  menu->clear();
  const auto item = [&](const QString& name, const QKeySequence& keys, auto run) { menu->addAction(name, this, run)->setShortcut(keys); };
  item(tr("New from a starter…"), QKeySequence(Qt::CTRL | Qt::Key_N), [this] { showGallery(true); });
  item(tr("Open…"), QKeySequence(Qt::CTRL | Qt::Key_O), [this] {
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Open a scene"), QFileInfo(document_.path()).path(), tr("Scenes (*.overagain)"));
    if (!path.isEmpty() && mayDiscard()) open(path);
  });
  QMenu* recent = menu->addMenu(tr("Open recent"));
  for (const QString& path : QSettings().value(QStringLiteral("recent")).toStringList())
    recent
        ->addAction(QFileInfo(path).fileName(), this,
                    [this, path] {
                      if (mayDiscard()) open(path);
                    })
        ->setToolTip(path);
  recent->setEnabled(!recent->isEmpty());
  menu->addSeparator();
  item(tr("Save"), QKeySequence(Qt::CTRL | Qt::Key_S), [this] { save(); });
  item(tr("Save as…"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { saveAs(); });
  item(tr("Export…"), QKeySequence(Qt::CTRL | Qt::Key_E), [this] { showExport(); });
  menu->addSeparator();
  item(tr("Shortcuts"), QKeySequence(Qt::Key_F1), [this] { showShortcuts(); });
  item(tr("Close"), QKeySequence(Qt::CTRL | Qt::Key_Q), [this] { close(); });
}

void Window::showShortcuts() {
  QDialog dialog(this);
  dialog.setWindowTitle(tr("Shortcuts"));
  auto* grid = new QGridLayout(&dialog);
  grid->setContentsMargins(24, 20, 24, 16);
  grid->setHorizontalSpacing(28);
  const std::pair<QString, QString> rows[] = {
      {tr("Space"), tr("play or stop")},
      {tr("Left, Right"), tr("one frame back or on")},
      {tr("Home"), tr("to the joint")},
      {tr("Ctrl+Z, Ctrl+Shift+Z"), tr("undo, redo")},
      {tr("Ctrl+N"), tr("begin from a starter")},
      {tr("Ctrl+O, Ctrl+S"), tr("open, save")},
      {tr("Ctrl+Shift+S"), tr("save as")},
      {tr("Ctrl+E"), tr("export")},
      {tr("Ctrl+D"), tr("duplicate the layer")},
      {tr("Alt+Up, Alt+Down"), tr("move the layer or step")},
      {tr("F2"), tr("rename the layer")},
      {tr("Arrows on a curve"), tr("choose a keyframe; up and down for its value, with Shift for its place")},
      {tr("Delete"), tr("delete the layer, step, colour or keyframe")},
      {tr("Ctrl+0, Ctrl+1"), tr("fit the picture, or show it at full size")},
      {tr("Ctrl+Plus, Ctrl+Minus"), tr("zoom")},
      {tr("Up, Down on a number"), tr("step it; with Shift by ten, with Ctrl by a tenth")},
      {tr("Double click on a number"), tr("back to its default")},
  };
  int line = 0;
  for (const auto& [keys, says] : rows) {
    auto* key = new QLabel(keys, &dialog);
    key->setObjectName(QStringLiteral("heading"));
    grid->addWidget(key, line, 0);
    grid->addWidget(new QLabel(says, &dialog), line++, 1);
  }
  auto* buttons = new QDialogButtonBox(QDialogButtonBox::Close, &dialog);
  connect(buttons, &QDialogButtonBox::rejected, &dialog, &QDialog::reject);
  grid->addWidget(buttons, line, 0, 1, 2);
  dialog.exec();
}

void Window::closeEvent(QCloseEvent* event) {
  if (export_->running()) {
    const auto answer = QMessageBox::question(this, tr("Export running"), tr("An export is still running. Stop it and close?"));
    if (answer != QMessageBox::Yes) return event->ignore();
    export_->cancel();
  }
  mayDiscard() ? event->accept() : event->ignore();
}

void Window::dragEnterEvent(QDragEnterEvent* event) {
  if (event->mimeData()->hasUrls()) event->acceptProposedAction();
}

void Window::dropEvent(QDropEvent* event) {
  const auto urls = event->mimeData()->urls();
  if (urls.isEmpty() || !urls.first().isLocalFile()) return;
  const QString path = urls.first().toLocalFile();
  // A palette, or a picture for its colours, changes the scene and can be undone; another scene takes its place.
  if (isPaletteFile(path) || isPictureFile(path)) {
    if (right_->currentWidget() != palettes_) showPalettes();
    palettes_->openFile(path);
  } else if (mayDiscard()) {
    open(path);
  }
}

}  // namespace oa::app
