// A scene in which much keeps time, in the real window.
#pragma once

#include <QApplication>
#include <QMouseEvent>
#include <QTableView>
#include <QTest>

#include "edit/timing.h"
#include "sheets/timing_room.h"
#include "support/room.h"
#include "support/scenes.h"
#include "widgets/dial.h"

namespace oa::app::test {

/// Layers of noise that churn at their own pace, and a disc that goes to and fro, in a window; and hands for its dial and its table.
struct RoomOfTime {
  Window w;
  explicit RoomOfTime(std::initializer_list<int> laps) {
    Scene scene = oa::test::oneLayer("shape", 320, 180, 120);
    scene.layers.clear();
    std::size_t i = 0;
    for (const int n : laps) {
      scene.layers.push_back(newLayer(*findStep("noise"), "Fog " + std::to_string(++i)));
      oa::test::param(scene, i - 1, 0, "churn").motion = oa::test::turn(n);
    }
    scene.layers.push_back(newLayer(*findStep("shape"), "Buoy"));
    oa::test::setValue(scene, i, 0, "width", 40.0);
    oa::test::setValue(scene, i, 0, "height", 40.0);
    scene.layers.back().place = defaultPlace();
    Param& position = scene.layers.back().place[static_cast<std::size_t>(PlaceParam::Position)];
    position.motion = oa::test::swing(Point{0.5, 0.6}, 2);
    showWith(w, &scene);
  }
  const Scene& scene() { return w.document().scene(); }
  TimingRoom* open() {
    QTest::keyClick(&w, Qt::Key_M, Qt::ControlModifier);
    auto* room = child<TimingRoom>(&w, "timingRoom");
    return QTest::qWaitFor([&] { return room->isVisible(); }) ? room : nullptr;
  }
  QTableView* table() { return child<QTableView>(&w, "timing"); }
  QString at(int row, int column) { return table()->model()->index(row, column).data().toString(); }
  QPoint placeOf(int row, int column) { return table()->visualRect(table()->model()->index(row, column)).center(); }
  void click(int row, Qt::KeyboardModifiers with = Qt::NoModifier) {
    QTest::mouseClick(table()->viewport(), Qt::LeftButton, with, placeOf(row, TimingModel::Value));
  }
  // Types into a cell: the chosen lines stay chosen.
  void type(int row, int column, const QString& words) {
    table()->selectionModel()->setCurrentIndex(table()->model()->index(row, column), QItemSelectionModel::NoUpdate);
    table()->setFocus();
    QTest::keyClick(table(), Qt::Key_F2);
    auto* editor = table()->findChild<QAbstractSpinBox*>();
    QVERIFY(editor);
    editor->selectAll();
    QTest::keyClicks(editor, words);
    QTest::keyClick(editor, Qt::Key_Return);
    turn();
  }
  // The place of a share of the loop on the ring of a layer, counted from the bottom.
  QPointF onRing(int layer, double share) {
    for (const DialRing& ring : w.dial().rings())
      if (ring.layer == layerId(w, layer)) return onDial(w.dial().centre(), ring.radius, share);
    qFatal("no ring");
  }
  // Round the ring, as a hand goes.
  void turnRing(int layer, double from, double to, Qt::KeyboardModifiers with = Qt::NoModifier) {
    QTest::mousePress(&w.dial(), Qt::LeftButton, with, onRing(layer, from).toPoint());
    for (int i = 1; i <= 8; ++i) {
      const QPointF at = onRing(layer, from + (to - from) * i / 8);
      QMouseEvent move(QEvent::MouseMove, at, w.dial().mapToGlobal(at), Qt::NoButton, Qt::LeftButton, with);
      QApplication::sendEvent(&w.dial(), &move);
    }
    QTest::mouseRelease(&w.dial(), Qt::LeftButton, with, onRing(layer, to).toPoint());
  }
  void hover(QPointF at) {
    QMouseEvent move(QEvent::MouseMove, at, w.dial().mapToGlobal(at), Qt::NoButton, Qt::NoButton, Qt::NoModifier);
    QApplication::sendEvent(&w.dial(), &move);
  }
  // The opacity of the first layer, with keyframes at these places.
  Motion& keys(std::initializer_list<double> places, int laps = 1) {
    w.document().setCurrentLayer(layerId(w, 0));
    w.document().edit(QStringLiteral("x"), {}, [&](Scene& s) {
      Param& opacity = s.layers[0].opacity;
      opacity.motion = {};
      opacity.motion.kind = MotionKind::Keyframes;
      opacity.motion.laps = laps;
      double value = 0.2;
      for (const double at : places) opacity.motion.keys.push_back({at, value += 0.15, {}, false, {}});
      oa::test::param(s, 0, 0, "churn").motion = {};
    });
    return opacity();
  }
  Motion& opacity() { return const_cast<Scene&>(scene()).layers[0].opacity.motion; }
  std::vector<double> keyPlaces() {
    std::vector<double> all;
    for (const Keyframe& key : opacity().keys) all.push_back(std::round(key.at * 1000) / 1000);
    return all;
  }
  std::vector<int> laps() {
    std::vector<int> all;
    for (const auto& timed : edit::motionsIn(scene())) all.push_back(timed.laps);
    return all;
  }
};

}  // namespace oa::app::test
