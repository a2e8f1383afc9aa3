// A user's hands on real widgets: clicks, drags, keys, menus; and a probe for how long the window was busy.
#pragma once

#include <QApplication>
#include <QElapsedTimer>
#include <QPoint>
#include <QString>
#include <QTest>
#include <QTimer>
#include <QWidget>
#include <functional>

#include "widgets/layer_pile.h"
#include "widgets/layer_tree.h"
#include "widgets/param_row.h"
#include "window.h"

namespace oa::app::test {

/// A window with a demo scene, shown and rendered. Recent files and settings go to a place of the test's own.
class Bench {
 public:
  explicit Bench(const char* scene = "stage-screen.overagain");
  Window& window() { return window_; }
  Window* operator->() { return &window_; }
  /// Gives the window the focus, as keys and menus need it.
  void activate();
  /// Waits until the loop is in the cache.
  void settle();

 private:
  Window window_;
};

/// Lets what is queued be done: until the event loop has turned with nothing left to do for this thread.
void turn();
/// Waits until `widget` looks different from what it looks like now.
bool changesItsLook(QWidget* widget, int patience = 30000);

/// Files dragged over a widget and let go, as a file manager does it; the words that were shown meanwhile.
QString dropFiles(Window& window, QWidget* on, const QStringList& paths, QPoint at = {60, 40});
/// A drag in steps, as a mouse makes it.
void drag(QWidget* on, QPointF from, QPointF to, int steps = 8);
/// Waits for the menu or dialog of this kind that `opening` shows and hands it to `act`, which closes it; false if none came.
template <class T>
bool whenShown(const std::function<void()>& opening, const std::function<void(T&)>& act) {
  bool acted = false;
  int tries = 0;
  QTimer timer;
  QObject::connect(&timer, &QTimer::timeout, [&] {
    QWidget* popup = QApplication::activePopupWidget();
    auto* shown = qobject_cast<T*>(popup ? popup : QApplication::activeModalWidget());
    if (!shown && ++tries < 100) return;
    timer.stop();
    if (!shown) return;
    acted = true;
    act(*shown);
  });
  timer.start(20);
  opening();
  return QTest::qWaitFor([&] { return !timer.isActive(); }, 4000) && acted;
}
/// What the menu that `opening` pops up offers; empty if none does.
QStringList entriesOfMenu(const std::function<void()>& opening);
/// Writes over what a text or number field holds and ends it with Return.
void typeInto(QWidget* field, const QString& text);
/// Clicks an entry of the menu that `opening` pops up, or one of a menu inside it ("Laps in a loop > 4"); false if there is no such
/// entry, or it is disabled.
bool clickInMenu(const std::function<void()>& opening, const QString& entry);
/// Presses a button of the message box that `opening` shows.
bool answerBox(const std::function<void()>& opening, int standardButton);

/// The layers' tree; the row of a layer of the scene, counted from the top; ids and places counted from the bottom.
LayerTree* pileOf(Window& window);
QTreeWidgetItem* rowOf(Window& window, int row);
Id layerId(Window& window, int place);
int placeOfCurrent(Window& window);
/// Presses a row of the pile and drops what is selected then at a place of its viewport.
void dragRow(Window& window, QTreeWidgetItem* row, QPoint to);

template <class T>
T* child(const QWidget* parent, const char* name) {
  T* found = parent->findChild<T*>(QLatin1String(name));
  if (!found) qFatal("there is no %s", name);
  return found;
}

/// The control of a parameter on the first card of a step in the recipe: child<T>(row, ...) from here.
ParamRow* paramRow(Window& window, const char* step, const char* param);

/// Longest time in milliseconds between two turns of the event loop: by the clock, and of that what this thread really
/// worked, which a busy machine does not lengthen.
class BusyProbe {
 public:
  BusyProbe();
  void restart();
  [[nodiscard]] double longest() const { return longest_; }
  [[nodiscard]] double longestWork() const { return longestWork_; }

 private:
  QTimer timer_;
  QElapsedTimer clock_;
  double longest_ = 0;
  double longestWork_ = 0;
  double workBefore_ = 0;
};

}  // namespace oa::app::test
