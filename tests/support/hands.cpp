#include "support/hands.h"

#include <QDragMoveEvent>
#include <QLabel>
#include <QMimeData>
#include <QUrl>

#include <QAbstractButton>
#include <QApplication>
#include <QDir>
#include <QMenu>
#include <QMessageBox>
#include <QMouseEvent>
#include <QSettings>
#include <QStandardPaths>
#include <ctime>

#include "scene/scene_file.h"
#include "widgets/theme.h"

namespace oa::app::test {
namespace {

bool prepare() {
  QStandardPaths::setTestModeEnabled(true);
  QSettings::setPath(QSettings::NativeFormat, QSettings::UserScope,
                     QDir::temp().filePath(QStringLiteral("over-again-test-%1").arg(QCoreApplication::applicationPid())));
  QApplication::setStyle(QStringLiteral("Fusion"));
  Theme::apply(*qApp, QStringLiteral("light"));
  return true;
}

bool prepared() {
  static const bool done = prepare();
  return done;
}

void send(QWidget* on, QEvent::Type type, QPointF global, Qt::MouseButton button, Qt::MouseButtons buttons) {
  QMouseEvent event(type, on->mapFromGlobal(global), global, button, buttons, Qt::NoModifier);
  QApplication::sendEvent(on, &event);
}

// Milliseconds that this thread has worked so far.
double threadWork() {
  timespec t{};
  ::clock_gettime(CLOCK_THREAD_CPUTIME_ID, &t);
  return static_cast<double>(t.tv_sec) * 1e3 + static_cast<double>(t.tv_nsec) / 1e6;
}

}  // namespace

Bench::Bench(const char* scene) : window_((prepared(), nullptr)) {
  auto loaded = loadScene(std::string(OA_SOURCE_DIR "/demo-data/scenes/") + scene);
  if (!loaded) qFatal("%s", loaded.error().sentence().c_str());
  window_.begin(*loaded);
  window_.show();
  if (!QTest::qWaitForWindowExposed(&window_)) qFatal("the window did not show");
}

void Bench::activate() {
  window_.activateWindow();
  if (!QTest::qWaitForWindowActive(&window_)) qFatal("the window is not active");
}

void Bench::settle() {
  if (!QTest::qWaitFor([this] { return window_.renderer().filled() >= 1; }, 900000)) qFatal("the loop was not rendered");
  turn();
}

void turn() {
  for (int i = 0; i < 3; ++i) {
    bool turned = false;
    QTimer::singleShot(0, [&] { turned = true; });
    if (!QTest::qWaitFor([&] { return turned; }, 5000)) qFatal("the event loop does not turn");
  }
}

bool changesItsLook(QWidget* widget, int patience) {
  const QImage now = widget->grab().toImage();
  return QTest::qWaitFor([&] { return widget->grab().toImage() != now; }, patience);
}

QString dropFiles(Window& window, QWidget* on, const QStringList& paths, QPoint at) {
  QMimeData data;
  QList<QUrl> urls;
  for (const QString& path : paths) urls << QUrl::fromLocalFile(path);
  data.setUrls(urls);
  QDragEnterEvent enter(at, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(on, &enter);
  const auto* hint = window.findChild<QLabel*>(QStringLiteral("dropHint"));
  QString words = hint && hint->isVisible() ? hint->text() : QString();
  QDropEvent drop(at, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(on, &drop);
  return words;
}

void drag(QWidget* on, QPointF from, QPointF to, int steps) {
  // By places on the screen: what is dragged may move under the pointer.
  const QPointF start = on->mapToGlobal(from);
  const QPointF end = on->mapToGlobal(to);
  send(on, QEvent::MouseButtonPress, start, Qt::LeftButton, Qt::LeftButton);
  for (int i = 1; i <= steps; ++i) {
    send(on, QEvent::MouseMove, start + (end - start) * i / steps, Qt::NoButton, Qt::LeftButton);
    QCoreApplication::processEvents();
  }
  send(on, QEvent::MouseButtonRelease, end, Qt::LeftButton, Qt::NoButton);
  QCoreApplication::processEvents();
}

bool clickInMenu(const std::function<void()>& opening, const QString& entry) {
  bool clicked = false;
  whenShown<QMenu>(opening, [&](QMenu& menu) {
    QMenu* at = &menu;
    QStringList ways = entry.split(QStringLiteral(" > "));
    while (at) {
      const QString word = ways.takeFirst();
      QAction* found = nullptr;
      for (QAction* action : at->actions())
        if (!found && action->isEnabled() && QString(action->text()).remove('&').startsWith(word)) found = action;
      if (!found) break;
      if (ways.isEmpty()) {
        clicked = true;
        QTest::mouseClick(at, Qt::LeftButton, Qt::NoModifier, at->actionGeometry(found).center());
        return;
      }
      at->setActiveAction(found);
      QTest::keyClick(at, Qt::Key_Right);
      at = found->menu() && QTest::qWaitFor([&] { return found->menu()->isVisible(); }, 2000) ? found->menu() : nullptr;
    }
    menu.close();
  });
  return clicked;
}

QStringList entriesOfMenu(const std::function<void()>& opening) {
  QStringList entries;
  whenShown<QMenu>(opening, [&](QMenu& menu) {
    for (const QAction* action : menu.actions())
      if (!action->isSeparator()) entries << QString(action->text()).remove('&');
    menu.close();
  });
  return entries;
}

bool answerBox(const std::function<void()>& opening, int standardButton) {
  bool answered = false;
  whenShown<QMessageBox>(opening, [&](QMessageBox& box) {
    QAbstractButton* button = box.button(static_cast<QMessageBox::StandardButton>(standardButton));
    answered = button != nullptr;
    button ? button->click() : box.reject();
  });
  return answered;
}

void typeInto(QWidget* field, const QString& text) {
  field->setFocus();
  QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
  QTest::keyClicks(field, text);
  QTest::keyClick(field, Qt::Key_Return);
}

ParamRow* paramRow(Window& window, const char* step, const char* param) {
  auto* card = window.findChild<QWidget*>(QStringLiteral("card-") + QLatin1String(step));
  if (!card) qFatal("there is no card of %s", step);
  auto* row = card->findChild<ParamRow*>(QStringLiteral("param-") + QLatin1String(param));
  if (!row) qFatal("%s has no row %s", step, param);
  return row;
}

BusyProbe::BusyProbe() {
  timer_.setTimerType(Qt::PreciseTimer);
  QObject::connect(&timer_, &QTimer::timeout, [this] {
    longest_ = std::max(longest_, static_cast<double>(clock_.nsecsElapsed()) / 1e6);
    const double work = threadWork();
    longestWork_ = std::max(longestWork_, work - workBefore_);
    workBefore_ = work;
    clock_.restart();
  });
  restart();
  timer_.start(0);
}

void BusyProbe::restart() {
  longest_ = longestWork_ = 0;
  workBefore_ = threadWork();
  clock_.restart();
}

LayerTree* pileOf(Window& window) { return &window.layers().tree(); }

QTreeWidgetItem* rowOf(Window& window, int row) { return pileOf(window)->topLevelItem(row); }

Id layerId(Window& window, int place) { return window.document().scene().layers.at(static_cast<std::size_t>(place)).id; }

int placeOfCurrent(Window& window) {
  const auto& layers = window.document().scene().layers;
  for (std::size_t i = 0; i < layers.size(); ++i)
    if (layers[i].id == window.document().currentLayer()) return static_cast<int>(i);
  return -1;
}

void dragRow(Window& window, QTreeWidgetItem* row, QPoint to) {
  LayerTree* tree = pileOf(window);
  QWidget* viewport = tree->viewport();
  const QRect box = tree->visualItemRect(row);
  QTest::mousePress(viewport, Qt::LeftButton, {}, QPoint(box.right() - 50, box.center().y()));
  // The nested loop of a drag is the platform's; what it brings to the tree are these events.
  const std::unique_ptr<QMimeData> mime(
      qobject_cast<QAbstractItemModel*>(tree->model())->mimeData(tree->selectionModel()->selectedIndexes()));
  QDragEnterEvent enter(to, Qt::MoveAction, mime.get(), Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(viewport, &enter);
  QDragMoveEvent move(to, Qt::MoveAction, mime.get(), Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(viewport, &move);
  QDropEvent drop(to, Qt::MoveAction, mime.get(), Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(viewport, &drop);
  QTest::mouseRelease(viewport, Qt::LeftButton, {}, to);
  turn();
}

}  // namespace oa::app::test
