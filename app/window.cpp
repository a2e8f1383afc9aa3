#include "window.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QMenu>
#include <QSplitter>
#include <QStackedWidget>
#include <QAbstractButton>
#include <QAbstractSpinBox>
#include <QApplication>
#include <QCloseEvent>
#include <QComboBox>
#include <QLineEdit>
#include <QMessageBox>
#include <QPlainTextEdit>
#include <QSettings>

#include "edit/clipboard.h"
#include "edit/stand_ins.h"
#include "model/comparison.h"
#include "model/first_steps.h"
#include "model/journal.h"
#include "model/recorder.h"
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
#include "sheets/recovery_dialog.h"
#include "sheets/shortcuts_page.h"
#include "sheets/sound_sheet.h"
#include "sheets/source_gallery.h"
#include "sheets/several_sheet.h"
#include "sheets/spread_sheet.h"
#include "sheets/step_gallery.h"
#include "sheets/timing_room.h"
#include "sheets/titles_sheet.h"
#include "top_bar.h"
#include "widgets/dial.h"
#include "widgets/recipe_panel.h"
#include "widgets/text.h"
#include "widgets/view.h"

namespace oa::app {
Window::Window(QWidget* parent) : QMainWindow(parent), player_(document_, renderer_), files_(document_, this) {
  setAcceptDrops(true);
  setMinimumSize(1024, 700);
  const QSize room = screen() ? screen()->availableGeometry().size() : QSize(1280, 800);
  resize(QSize(1280, 800).boundedTo(room));
  makeCommands();
  makeRooms();
  makeSheets();
  connectRooms();
  journal_ = new Journal(document_, Journal::folder(), Journal::kPatience, this);
  restoreRooms();
  commands_->refresh();
  qApp->installEventFilter(this);
  view_->setFocus();
}

Window::~Window() {
  qApp->removeEventFilter(this);
  player_.setPlaying(false);
  delete journal_;
  // Widgets look at the document and the renderer to their last moment, and would otherwise outlive both; what the
  // two still say while they go concerns nobody.
  document_.disconnect(this);
  document_.history().disconnect(this);
  renderer_.disconnect(this);
  delete takeCentralWidget();
}

void Window::playRun() {
  if (player_.playing() && player_.inRun()) return player_.setPlaying(false);
  player_.setPlaying(false);
  if (!player_.inRun()) player_.setPlace(0);
  player_.setPlaying(true);
}

void Window::showPassages(bool leaving) {
  if (!document_.layer() || document_.layer()->locked) return;
  passages_->prepare(leaving);
  if (middle_->currentIndex() == 0) before_ = focusWidget();
  middle_->setCurrentWidget(passages_);
}

void Window::begin(const Scene& scene) {
  player_.setPlaying(false);
  document_.reset(scene, QString());
  player_.setFrame(0);
}

void Window::offerRescuedWork() {
  auto work = Journal::rescued(Journal::folder());
  if (work.empty()) return;
  auto* dialog = new RecoveryDialog(std::move(work), this);
  dialog->setAttribute(Qt::WA_DeleteOnClose);
  connect(dialog, &RecoveryDialog::chosen, this, [this](const Scene& scene, const QString& path) {
    player_.setPlaying(false);
    document_.resetUnsaved(scene, path);
    player_.setFrame(0);
  });
  dialog->open();
}

void Window::showMenu(const QPoint& globalPlace, const QStringList& ids) {
  QMenu menu(this);
  commands_->refresh();
  commands_->fill(&menu, ids);
  menu.exec(globalPlace);
}

void Window::showStandIns(bool shown) {
  document_.perform(shown ? tr("show the stand-in") : tr("hide the stand-in"), [&](Scene& scene) -> Result<Ids> {
    if (!edit::hasStandIns(scene)) return edit::addStandIn(scene, 0);
    if (auto done = edit::showStandIns(scene, shown); !done) return done;
    return document_.selection();
  });
}

void Window::showStandInMenu(const QPoint& globalPlace) {
  QMenu menu(this);
  menu.setObjectName(QStringLiteral("standInMenu"));
  menu.setToolTipsVisible(true);
  QAction* shown = menu.addAction(tr("Shown"), this, [this] { showStandIns(!edit::standInsShown(document_.scene())); });
  shown->setCheckable(true);
  shown->setChecked(edit::standInsShown(document_.scene()));
  shown->setEnabled(edit::hasStandIns(document_.scene()));
  menu.addSeparator();
  const auto kinds = edit::standIns();
  for (std::size_t i = 0; i < kinds.size(); ++i) {
    QAction* add = menu.addAction(tr("Add: %1").arg(text(kinds[i].name)), this, [this, i] {
      document_.perform(tr("stand-in"), [&](Scene& scene) { return edit::addStandIn(scene, i); });
    });
    add->setToolTip(text(kinds[i].help));
  }
  menu.exec(globalPlace);
}

void Window::showScene() { renderer_.setScene(document_.shownScene()); }

bool Window::eventFilter(QObject* watched, QEvent* event) {
  auto* widget = qobject_cast<QWidget*>(watched);
  if (!widget || widget->window() != this) return false;
  switch (event->type()) {
    case QEvent::Wheel:
      // The wheel changes a value only where the focus is: else it goes on to what scrolls.
      if ((qobject_cast<QComboBox*>(watched) || qobject_cast<QAbstractSpinBox*>(watched) ||
           qobject_cast<QAbstractSpinBox*>(watched->parent())) &&
          !widget->hasFocus()) {
        event->ignore();
        return true;
      }
      break;
    case QEvent::ShortcutOverride: {
      // A number in a box is not text being typed: Space plays, and undo is the scene's unless something is half typed.
      auto* box = qobject_cast<QAbstractSpinBox*>(watched);
      const auto* key = static_cast<QKeyEvent*>(event);
      const auto* line = box ? box->findChild<QLineEdit*>() : nullptr;
      const bool undo = key->matches(QKeySequence::Undo) || key->matches(QKeySequence::Redo);
      if (line && (key->key() == Qt::Key_Space || (undo && !line->isModified()))) {
        event->ignore();
        return true;
      }
      break;
    }
    case QEvent::KeyPress:
      // Space plays, so Return presses the button that has the focus.
      if (const auto* key = static_cast<QKeyEvent*>(event);
          (key->key() == Qt::Key_Return || key->key() == Qt::Key_Enter) && !key->isAutoRepeat())
        if (auto* button = qobject_cast<QAbstractButton*>(watched)) {
          button->click();
          return true;
        }
      break;
    case QEvent::KeyRelease:
      // However long a key repeats, it is one change; letting it go ends it.
      // Of what is typed its own field knows where it ends.
      if (!static_cast<QKeyEvent*>(event)->isAutoRepeat() && !qobject_cast<QPlainTextEdit*>(focusWidget()) &&
          !document_.editsInPicture(ParamType::Text))
        document_.endGesture();
      break;
    case QEvent::FocusOut:
      document_.endGesture();
      break;
    default:
      break;
  }
  return false;
}

void Window::keyPressEvent(QKeyEvent* event) {
  // Reached when the control with the focus has no use for the key.
  if (event->key() == Qt::Key_Escape && closeLast()) return;
  if (!commands_->runAfterControls(*event)) QMainWindow::keyPressEvent(event);
}

bool Window::closeLast() {
  if (recorder_->armed()) {
    recorder_->arm(false);
    return true;
  }
  if (middle_->currentIndex() != 0) {
    showGallery(false);
    return true;
  }
  if (right_->currentWidget() != recipe_) {
    showRecipe();
    return true;
  }
  if (topBar_->errorShown().isEmpty()) return false;
  topBar_->hideError();
  return true;
}

// A sheet takes the focus when it opens and gives it back when it closes.
void Window::showSheet(QWidget* sheet) {
  showGallery(false);
  if (right_->currentWidget() == recipe_) before_ = focusWidget();
  right_->setCurrentWidget(sheet);
  if (auto* opened = qobject_cast<Sheet*>(sheet)) opened->takeFocus();
}

void Window::toggleSheet(QWidget* sheet) { right_->currentWidget() == sheet ? showRecipe() : showSheet(sheet); }

void Window::showRecipe() {
  if (right_->currentWidget() == recipe_) return;
  right_->setCurrentWidget(recipe_);
  QWidget* back = before_ && before_->isVisible() ? before_.data() : view_;
  back->setFocus();
}

void Window::showFrame() { toggleSheet(frame_); }

void Window::showExport() {
  showSheet(export_);
  firstSteps_->handOverSeen();
}

void Window::showPalettes() { toggleSheet(palettes_); }
void Window::showSound() { toggleSheet(sound_); }
void Window::showDepth() { toggleSheet(depth_); }
void Window::showFit() { toggleSheet(fit_); }
void Window::showTitles() { toggleSheet(titles_); }
void Window::showSpread() { toggleSheet(spread_); }
void Window::showSeveral() { toggleSheet(several_); }
void Window::showHistory() { toggleSheet(historySheet_); }

void Window::compareWithNow() {
  if (comparison_->there()) return comparison_->end();
  const auto state = document_.states()[static_cast<std::size_t>(document_.stateNow())];
  comparison_->begin(state.scene, state.name.isEmpty() ? tr("as it was opened") : tr("after: %1").arg(state.name));
}

void Window::showTiming() {
  if (middle_->currentWidget() == timing_) return showGallery(false);
  if (middle_->currentIndex() == 0) before_ = focusWidget();
  middle_->setCurrentWidget(timing_);
}

void Window::showCheck() {
  showSheet(check_);
  check_->start();
}

void Window::showSources(bool replace) {
  if (replace && !document_.layer()) return;
  sources_->prepare(replace ? SourceGallery::Purpose::ReplaceSource : SourceGallery::Purpose::NewLayer);
  if (middle_->currentIndex() == 0) before_ = focusWidget();
  middle_->setCurrentWidget(sources_);
}

void Window::showSteps() {
  if (!document_.layer() || document_.layer()->locked) return;
  if (right_->currentWidget() != recipe_) showRecipe();
  if (middle_->currentIndex() == 0) before_ = focusWidget();
  middle_->setCurrentWidget(steps_);
  steps_->prepare();
}

void Window::showLooks() {
  if (!document_.layer() || document_.layer()->locked) return;
  if (right_->currentWidget() != recipe_) showRecipe();
  if (middle_->currentIndex() == 0) before_ = focusWidget();
  middle_->setCurrentWidget(looks_);
  looks_->prepare();
}

void Window::keepLook() { app::keepLook(this, document_, *shelf_, player_.frame()); }

void Window::copyLayers() {
  if (!document_.layer()) return;
  QGuiApplication::clipboard()->setText(QString::fromStdString(edit::layersToText(document_.scene(), document_.selection())));
}

void Window::pasteLayers() {
  if (pasteFiles()) return;
  const std::string held = QGuiApplication::clipboard()->text().toStdString();
  if (document_.layer() && edit::holdsSteps(held)) {
    recipe_->pasteSteps(static_cast<int>(document_.layer()->recipe.size()) - 1);
    return;
  }
  document_.perform(tr("paste layers"), [&](Scene& scene) { return edit::pasteLayers(scene, document_.currentLayer(), held); });
}

void Window::showGallery(bool show) {
  if (show == (middle_->currentWidget() == gallery_) && (show || middle_->currentIndex() == 0)) return;
  if (show && middle_->currentIndex() == 0) before_ = focusWidget();
  middle_->setCurrentIndex(show ? middle_->indexOf(gallery_) : 0);
  if (!show) (before_ && before_->isVisible() ? before_.data() : view_)->setFocus();
}

void Window::showShortcuts() { ShortcutsPage(*commands_, this).exec(); }

QString Window::errorShown() const { return topBar_->errorShown(); }

void Window::rememberRooms() {
  QSettings settings;
  settings.setValue(QStringLiteral("window/geometry"), saveGeometry());
  for (const QSplitter* each : {sides_, upper_, stories_})
    settings.setValue(QStringLiteral("window/") + each->objectName(), each->saveState());
  settings.setValue(QStringLiteral("window/sheet"), right_->currentWidget()->objectName());
}

void Window::restoreRooms() {
  const QSettings settings;
  restoreGeometry(settings.value(QStringLiteral("window/geometry")).toByteArray());
  for (QSplitter* each : {sides_, upper_, stories_})
    each->restoreState(settings.value(QStringLiteral("window/") + each->objectName()).toByteArray());
  const QString sheet = settings.value(QStringLiteral("window/sheet")).toString();
  for (QWidget* one :
       std::initializer_list<QWidget*>{frame_, export_, check_, palettes_, sound_, depth_, fit_, titles_, spread_, several_, historySheet_})
    if (!sheet.isEmpty() && one->objectName() == sheet) {
      right_->setCurrentWidget(one);
      if (one == check_) check_->start();
    }
}

void Window::closeEvent(QCloseEvent* event) {
  if (export_->running()) {
    const auto answer = QMessageBox::question(this, tr("Export running"), tr("An export is still running. Stop it and close?"));
    if (answer != QMessageBox::Yes) return event->ignore();
    export_->cancel();
  }
  if (titles_->running()) {
    const auto answer = QMessageBox::question(this, tr("Titles being made"), tr("Titles are still being made. Stop and close?"));
    if (answer != QMessageBox::Yes) return event->ignore();
    titles_->stop();
  }
  if (!files_.mayDiscard()) return event->ignore();
  // What is thrown away on purpose is not offered at the next start.
  journal_->clear();
  rememberRooms();
  event->accept();
}

}  // namespace oa::app
