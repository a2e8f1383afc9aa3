// The dial by hand: rings named, chosen and turned, gaps and beads dragged, sixty rings, and a closer look.
#include <QLineF>
#include <QTest>
#include <QWheelEvent>

#include "support/room_of_time.h"

using namespace oa;
using namespace oa::app;
using namespace oa::app::test;

class TestDial : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void ringsAreNamedAndChosen();
  void aRingIsTurnedForAHeadStart();
  void aGapIsDraggedForLaps();
  void beadsAreDraggedAcrossTheJoint();
  void severalBeadsGoTogether();
  void sixtyRingsStayReadable();
  void theDialIsSeenCloser();
};

void TestDial::ringsAreNamedAndChosen() {
  RoomOfTime room({4, 8});
  room.w.document().setCurrentLayer(layerId(room.w, 0));
  room.hover(room.onRing(1, 0.3));
  QCOMPARE(room.w.dial().pointedAt(), QStringLiteral("Fog 2 · 8 laps"));
  QTest::mouseClick(&room.w.dial(), Qt::LeftButton, Qt::NoModifier, room.onRing(1, 0.3).toPoint());
  QCOMPARE(room.w.document().currentLayer(), layerId(room.w, 1));
  // What is only clicked stays as it is, and so does the moment.
  QVERIFY(!room.w.document().history().canUndo());
  QCOMPARE(room.w.player().frame(), 0);
  // Dragged, the ring of another layer is in nobody's way.
  room.turnRing(0, 0.3, 0.5);
  QCOMPARE(room.w.document().currentLayer(), layerId(room.w, 1));
  QVERIFY(std::abs(room.w.player().frame() - 60) <= 1);
  room.hover(QPointF(1, 1));
  QVERIFY(room.w.dial().pointedAt().isEmpty());
}

void TestDial::aRingIsTurnedForAHeadStart() {
  RoomOfTime room({4, 8});
  room.w.document().setCurrentLayer(layerId(room.w, 2));
  const Scene before = room.scene();
  // From the middle of an arc, over the joint: a quarter of the loop later.
  room.turnRing(2, 0.87, 1.12);
  const Motion& to = room.scene().layers[2].place[0].motion;
  QVERIFY2(std::abs(to.start - 0.5) < 1e-9, qPrintable(QString::number(to.start)));
  QCOMPARE(room.w.player().frame(), 0);
  room.w.document().history().undo();
  QVERIFY(room.scene() == before);
  // By keys as well: three frames of a hundred and twenty, in two laps.
  room.w.dial().setFocus();
  for (int i = 0; i < 3; ++i) QTest::keyClick(&room.w.dial(), Qt::Key_Right, Qt::AltModifier);
  QVERIFY(std::abs(room.scene().layers[2].place[0].motion.start - (1 - 2 * 3.0 / 120)) < 1e-9);
}

void TestDial::aGapIsDraggedForLaps() {
  RoomOfTime room({4, 8});
  room.w.document().setCurrentLayer(layerId(room.w, 2));
  QCOMPARE(room.w.dial().gaps().size(), std::size_t{2});
  // The end of the first lap, from half the loop to a quarter of it.
  room.turnRing(2, 0.5, 0.26);
  QCOMPARE(room.laps(), (std::vector<int>{4, 8, 4}));
  room.w.document().history().undo();
  QCOMPARE(room.laps(), (std::vector<int>{2, 8, 4}));
  // The last one ends at the joint.
  room.turnRing(2, 1.0, 0.66);
  QCOMPARE(room.laps(), (std::vector<int>{3, 8, 4}));
  // All that moves in a layer goes along.
  room.w.document().edit(QStringLiteral("x"), {}, [](Scene& s) { s.layers[2].opacity.motion = oa::test::swing(0.5, -6); });
  room.turnRing(2, 1.0 / 3, 0.5);
  QCOMPARE(room.laps(), (std::vector<int>{2, -4, 8, 4}));
  // A layer that is locked keeps its own, and is scrubbed over.
  room.w.document().edit(QStringLiteral("x"), {}, [](Scene& s) { s.layers[2].locked = true; });
  room.turnRing(2, 0.5, 0.25);
  QCOMPARE(room.laps(), (std::vector<int>{2, -4, 8, 4}));
  QVERIFY(std::abs(room.w.player().frame() - 30) <= 1);
}

void TestDial::beadsAreDraggedAcrossTheJoint() {
  RoomOfTime room({4, 8});
  room.keys({0.1, 0.4, 0.7});
  QCOMPARE(room.w.dial().beads().size(), std::size_t{3});
  room.turnRing(0, 0.1, -0.05);
  QCOMPARE(room.keyPlaces(), (std::vector<double>{0.4, 0.7, 0.95}));
  // Its value went with it.
  QCOMPARE(std::get<double>(room.opacity().keys[2].value), 0.35);
  room.w.document().history().undo();
  QCOMPARE(room.keyPlaces(), (std::vector<double>{0.1, 0.4, 0.7}));
  // With Ctrl a copy goes.
  room.turnRing(0, 0.4, 0.55, Qt::ControlModifier);
  QCOMPARE(room.keyPlaces(), (std::vector<double>{0.1, 0.4, 0.55, 0.7}));
  QCOMPARE(std::get<double>(room.opacity().keys[2].value), 0.5);
  // Over another one it takes its place; there and back leaves both.
  room.turnRing(0, 0.55, 0.7);
  QCOMPARE(room.keyPlaces(), (std::vector<double>{0.1, 0.4, 0.7}));
  // In two laps each stands twice, and goes by the lap.
  room.keys({0.2, 0.6}, 2);
  QCOMPARE(room.w.dial().beads().size(), std::size_t{4});
  room.turnRing(0, 0.8, 0.85);
  QCOMPARE(room.keyPlaces(), (std::vector<double>{0.2, 0.7}));
}

void TestDial::severalBeadsGoTogether() {
  RoomOfTime room({4, 8});
  room.keys({0.1, 0.4, 0.7});
  Dial& dial = room.w.dial();
  QTest::mouseClick(&dial, Qt::LeftButton, Qt::NoModifier, room.onRing(0, 0.4).toPoint());
  QTest::mouseClick(&dial, Qt::LeftButton, Qt::ShiftModifier, room.onRing(0, 0.7).toPoint());
  QCOMPARE(dial.chosenKeys().size(), std::size_t{2});
  room.turnRing(0, 0.7, 0.8);
  QCOMPARE(room.keyPlaces(), (std::vector<double>{0.1, 0.5, 0.8}));
  QCOMPARE(dial.chosenKeys().size(), std::size_t{2});
  // By keys, a frame at a time.
  dial.setFocus();
  QTest::keyClick(&dial, Qt::Key_Left, Qt::AltModifier);
  QCOMPARE(room.keyPlaces(),
           (std::vector<double>{0.1, std::round((0.5 - 1.0 / 120) * 1000) / 1000, std::round((0.8 - 1.0 / 120) * 1000) / 1000}));
  QTest::keyClick(&dial, Qt::Key_Escape);
  QVERIFY(dial.chosenKeys().empty());
  // A band from the left takes what lies in it.
  const QPointF left = room.onRing(0, 0.7);
  QTest::mousePress(&dial, Qt::LeftButton, Qt::ControlModifier, QPoint(2, 2));
  const QPointF end(dial.centre().x() - 2, dial.height() - 2.0);
  QMouseEvent move(QEvent::MouseMove, end, dial.mapToGlobal(end), Qt::NoButton, Qt::LeftButton, Qt::ControlModifier);
  QApplication::sendEvent(&dial, &move);
  QTest::mouseRelease(&dial, Qt::LeftButton, Qt::ControlModifier, end.toPoint());
  QCOMPARE(dial.chosenKeys().size(), std::size_t{1});
  QCOMPARE(dial.chosenKeys().front().key, 2);
  QVERIFY(left.x() < dial.centre().x());
  // Deleted, they go; the layer does not, and the last keyframe stays.
  const std::size_t layers = room.scene().layers.size();
  QTest::keyClick(&dial, Qt::Key_Delete);
  QCOMPARE(room.opacity().keys.size(), std::size_t{2});
  for (int i = 0; i < 2; ++i) {
    QTest::mouseClick(&dial, Qt::LeftButton, Qt::NoModifier, room.onRing(0, room.opacity().keys.front().at).toPoint());
    QTest::keyClick(&dial, Qt::Key_Delete);
  }
  QCOMPARE(room.opacity().keys.size(), std::size_t{1});
  QCOMPARE(room.scene().layers.size(), layers);
}

void TestDial::sixtyRingsStayReadable() {
  RoomOfTime room({});
  room.w.document().edit(QStringLiteral("x"), {}, [](Scene& s) {
    for (int i = 0; i < 59; ++i) s.layers.push_back(newLayer(*findStep("noise"), "Fog " + std::to_string(i)));
  });
  room.w.document().setCurrentLayer(layerId(room.w, 30));
  const auto& rings = room.w.dial().rings();
  QCOMPARE(rings.size(), std::size_t{60});
  const auto near = [&](std::size_t i) { return std::min(rings[i - 1].radius - rings[i].radius, rings[i].radius - rings[i + 1].radius); };
  // The current one has room, wherever the others are; each lies inside the one before.
  std::size_t own = 0;
  while (rings[own].layer != layerId(room.w, 30)) ++own;
  QVERIFY(near(own) > 5);
  for (std::size_t i = 1; i < rings.size(); ++i) QVERIFY(rings[i].radius < rings[i - 1].radius && rings[i].radius > 20);
  // One that is pointed at gets it, and is named.
  const DialRing other = rings[20];
  room.hover(onDial(room.w.dial().centre(), other.taken, 0.6));
  QVERIFY(room.w.dial().pointedAt().startsWith(QString::fromStdString(room.w.document().layer(other.layer)->name)));
  QVERIFY(std::abs(room.w.dial().rings()[20].radius - other.taken) < 1e-9);
  QVERIFY(near(20) > 5);
}

void TestDial::theDialIsSeenCloser() {
  // There and back, whatever is looked at; the joint stays, and nothing runs over anything.
  for (const double at : {0.0, 0.01, 0.1, 0.37, 0.5, 0.93})
    for (const double zoom : {1.0, 1.4, 5.0, 32.0}) {
      DialLens lens;
      lens.look(at, at, zoom);
      // So near the joint it is the joint that is looked at.
      if (at != 0.01) QVERIFY(std::abs(lens.shown(at) - at) < 1e-9);
      QVERIFY(std::abs(lens.shown(0)) < 1e-12 && std::abs(lens.shown(1) - 1) < 1e-12);
      double last = -1e-9;
      for (int i = 0; i < 333; ++i) {
        const double s = i * 0.003;
        QVERIFY(lens.shown(s) > last);
        last = lens.shown(s);
        QVERIFY(std::abs(lens.share(lens.shown(s)) - s) < 1e-9);
        QVERIFY(std::abs(lens.shown(s + 1) - lens.shown(s) - 1) < 1e-12);
      }
      if (zoom < 20) QVERIFY(std::abs((lens.shown(at + 1e-3) - lens.shown(at)) / 1e-3 - zoom) < 1e-6);
    }
  RoomOfTime room({1, 1});
  Dial& dial = room.w.dial();
  room.keys({0.3, 0.32, 0.8});
  const double radius = dial.radius();
  const auto wheel = [&](QPointF at, int notches) {
    QWheelEvent event(at, dial.mapToGlobal(at), {}, QPoint(0, notches * 120), Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase, false);
    QApplication::sendEvent(&dial, &event);
  };
  const QImage whole = dial.grab().toImage();
  const double apart = QLineF(dial.beads()[0].place, dial.beads()[1].place).length();
  const QPointF pointed = dial.on(radius, 0.3);
  wheel(pointed, 3);
  QVERIFY(dial.zoom() > 2.5);
  QVERIFY(QLineF(dial.on(radius, 0.3), pointed).length() < 1);
  QVERIFY(QLineF(dial.beads()[0].place, dial.beads()[1].place).length() > 2 * apart);
  QVERIFY(dial.grab().toImage() != whole);
  // A bead that is dragged goes where the pointer is, as finely as it is seen.
  const QPointF bead = dial.beads()[1].place;
  const double ring = QLineF(bead, dial.centre()).length();
  oa::app::test::drag(&dial, bead, dial.on(ring, 0.34));
  const double at = room.opacity().keys[1].at;
  QVERIFY2(std::abs(at - 0.34) < 0.004, qPrintable(QString::number(at)));
  room.w.document().history().undo();
  dial.setFocus();
  QTest::keyClick(&dial, Qt::Key_F);
  QCOMPARE(dial.zoom(), 1.0);
}

QTEST_MAIN(TestDial)
#include "tst_dial.moc"
