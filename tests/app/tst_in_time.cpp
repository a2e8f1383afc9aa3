// Everything in time, by hand: the table of all that moves, rhythms mended, layers spread over a lap.
#include <QCheckBox>
#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTableView>
#include <QTest>
#include <QToolButton>
#include <QWheelEvent>

#include "edit/spread_parts.h"
#include "edit/timing.h"
#include "sheets/timing_room.h"
#include "support/counted.h"
#include "support/room.h"
#include "support/scenes.h"
#include "widgets/curve_view.h"
#include "widgets/dial.h"
#include "widgets/motion_list.h"
#include "widgets/number_field.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using namespace oa::app::test;

namespace {

// Three layers of noise that churn at their own pace, and a disc that goes to and fro.
struct Room {
  Window w;
  explicit Room(std::initializer_list<int> laps) {
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

}  // namespace

class TestInTime : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void theDialIsSeenCloser();
  void allThatMovesIsListed();
  void severalLinesTakeANumber();
  void linesAreFoundAndSorted();
  void anOddRhythmIsMendedAndTheLoopCut();
  void headStartsOfLinesAreSpread();
  void aLineLeadsToItsCurve();
  void lockedLayersStayAsTheyAre();
  void copiesAreSpreadInTime();
  void aLineIsDrawnForThem();
  void copiesOfOneLayerAreSpread();
  void ringsAreNamedAndChosen();
  void aRingIsTurnedForAHeadStart();
  void aGapIsDraggedForLaps();
  void beadsAreDraggedAcrossTheJoint();
  void severalBeadsGoTogether();
  void sixtyRingsStayReadable();
};

void TestInTime::allThatMovesIsListed() {
  Room room({4, 8});
  QVERIFY(room.open());
  QCOMPARE(room.table()->model()->rowCount(), 3);
  // From the topmost layer down, with what each does.
  QCOMPARE(room.at(0, TimingModel::Layer), QStringLiteral("Buoy"));
  QCOMPARE(room.at(0, TimingModel::Value), QStringLiteral("Place · Position"));
  QCOMPARE(room.at(0, TimingModel::Laps), QStringLiteral("2"));
  QVERIFY(room.at(0, TimingModel::Speed).endsWith(QStringLiteral("px/s")));
  QCOMPARE(room.at(2, TimingModel::Kind), QStringLiteral("Turn"));
  const double seconds = room.scene().seconds();
  QCOMPARE(room.at(2, TimingModel::Takes), QStringLiteral("%1 s").arg(QString::fromStdString(numberText(seconds / 4, 2))));
  // What is changed elsewhere shows.
  room.w.document().edit(QStringLiteral("x"), {}, [](Scene& s) { s.layers[2].place[0].motion = {}; });
  QCOMPARE(room.table()->model()->rowCount(), 2);
  // Layers are out of sight, and so out of reach.
  QTest::keyClick(room.table(), Qt::Key_Delete);
  QCOMPARE(room.scene().layers.size(), std::size_t{3});
  QTest::keyClick(room.table(), Qt::Key_Escape);
  QTRY_VERIFY(!room.table()->isVisible());
}

void TestInTime::severalLinesTakeANumber() {
  Room room({4, 8, 6});
  QVERIFY(room.open());
  room.click(1);
  room.click(3, Qt::ControlModifier);
  room.type(1, TimingModel::Laps, QStringLiteral("5"));
  QCOMPARE(room.laps(), (std::vector<int>{2, 5, 8, 5}));
  room.type(3, TimingModel::Start, QStringLiteral("25"));
  const auto timed = edit::motionsIn(room.scene());
  QCOMPARE(timed[1].start, 0.25);
  QCOMPARE(timed[2].start, 0.0);
  QCOMPARE(timed[3].start, 0.25);
  // A line that is not among the chosen ones takes it alone.
  room.type(2, TimingModel::Laps, QStringLiteral("9"));
  QCOMPARE(room.laps(), (std::vector<int>{2, 5, 9, 5}));
  for (int i = 0; i < 3; ++i) room.w.document().history().undo();
  QCOMPARE(room.laps(), (std::vector<int>{2, 6, 8, 4}));
}

void TestInTime::linesAreFoundAndSorted() {
  Room room({4, 12, 6});
  QVERIFY(room.open());
  auto* find = child<QLineEdit>(&room.w, "findTimed");
  QTest::keyClicks(find, QStringLiteral("fog"));
  QCOMPARE(room.table()->model()->rowCount(), 3);
  QHeaderView* header = room.table()->horizontalHeader();
  const QPoint laps(header->sectionViewportPosition(TimingModel::Laps) + 20, header->height() / 2);
  QTest::mouseClick(header->viewport(), Qt::LeftButton, Qt::NoModifier, laps);
  QStringList order;
  for (int i = 0; i < 3; ++i) order << room.at(i, TimingModel::Laps);
  QStringList other{QStringLiteral("4"), QStringLiteral("6"), QStringLiteral("12")};
  if (order != other) std::reverse(other.begin(), other.end());
  QCOMPARE(order, other);
  typeInto(find, QStringLiteral("nothing like it"));
  QCOMPARE(room.table()->model()->rowCount(), 0);
}

void TestInTime::anOddRhythmIsMendedAndTheLoopCut() {
  Room room({4, 7, 12});
  room.w.document().edit(QStringLiteral("x"), {}, [](Scene& s) { s.layers[3].place[0].motion.laps = 8; });
  QVERIFY(room.open());
  const TimingModel& lines = child<TimingRoom>(&room.w, "timingRoom")->lines();
  QVERIFY(lines.isOdd(2) && !lines.isOdd(0) && !lines.isOdd(1) && !lines.isOdd(3));
  QTest::mouseClick(child<QPushButton>(&room.w, "mend0"), Qt::LeftButton);
  QCOMPARE(room.laps(), (std::vector<int>{8, 12, 8, 4}));
  QVERIFY(!lines.isOdd(2));
  QTest::mouseClick(child<QPushButton>(&room.w, "shorten"), Qt::LeftButton);
  QCOMPARE(room.scene().frames, 30);
  QCOMPARE(room.laps(), (std::vector<int>{2, 3, 2, 1}));
  QVERIFY(!room.w.findChild<QPushButton*>(QStringLiteral("shorten")));
}

void TestInTime::headStartsOfLinesAreSpread() {
  Room room({2, 2, 2});
  QVERIFY(room.open());
  QVERIFY(!child<QPushButton>(&room.w, "spreadTimed")->isEnabled());
  room.click(1);
  room.click(3, Qt::ShiftModifier);
  auto* timing = child<TimingRoom>(&room.w, "timingRoom");
  typeInto(child<NumberField>(timing, "spreadOver"), QStringLiteral("60"));
  QTest::mouseClick(child<QPushButton>(&room.w, "spreadTimed"), Qt::LeftButton);
  const auto timed = edit::motionsIn(room.scene());
  QCOMPARE(timed[1].start, 0.0);
  QVERIFY(std::abs(timed[2].start - 0.8) < 1e-9);
  QVERIFY(std::abs(timed[3].start - 0.6) < 1e-9);
  room.w.document().history().undo();
  QCOMPARE(edit::motionsIn(room.scene())[3].start, 0.0);
}

void TestInTime::aLineLeadsToItsCurve() {
  Room room({2, 3});
  QVERIFY(room.open());
  room.click(1);
  QTest::keyClick(room.table(), Qt::Key_Return);
  QTRY_VERIFY(!room.table()->isVisible());
  QCOMPARE(room.w.document().layer()->name, std::string("Fog 2"));
  const auto chosen = room.w.motions().chosen();
  QVERIFY(chosen && chosen->layer == room.w.document().currentLayer());
}

void TestInTime::lockedLayersStayAsTheyAre() {
  Room room({2, 3});
  room.w.document().edit(QStringLiteral("x"), {}, [](Scene& s) { s.layers[0].locked = true; });
  QVERIFY(room.open());
  QVERIFY(!(room.table()->model()->index(2, TimingModel::Laps).flags() & Qt::ItemIsEditable));
  room.click(0);
  room.click(2, Qt::ShiftModifier);
  room.type(0, TimingModel::Laps, QStringLiteral("5"));
  QCOMPARE(room.laps(), (std::vector<int>{5, 5, 2}));
}

void TestInTime::copiesAreSpreadInTime() {
  Room room({1});
  room.w.document().setCurrentLayer(layerId(room.w, 1));
  Hands hands(room.w);
  for (int i = 0; i < 3; ++i) hands.key(Qt::Key_D, Qt::ControlModifier);
  Ids buoys;
  for (int i = 1; i <= 4; ++i) buoys.push_back(layerId(room.w, i));
  // Chosen in the pile, the topmost and with Shift the lowest of them.
  LayerTree* pile = pileOf(room.w);
  QTest::mouseClick(pile->viewport(), Qt::LeftButton, Qt::NoModifier, pile->visualItemRect(rowOf(room.w, 0)).center());
  QTest::mouseClick(pile->viewport(), Qt::LeftButton, Qt::ShiftModifier, pile->visualItemRect(rowOf(room.w, 3)).center());
  hands.count();
  hands.count();
  QCOMPARE(room.w.document().selection().size(), std::size_t{4});
  hands.key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
  auto* sheet = child<QWidget>(&room.w, "sheet-spread");
  QTRY_VERIFY(sheet->isVisible());
  hands.click(child<QPushButton>(sheet, "primary"));
  told("a layer four times, each a little later than the one before", hands, 8);
  const auto spread = [&] {
    std::vector<double> turns;
    for (const double d : edit::delaysOf(room.w.document().plan(), buoys)) turns.push_back(std::round(d * 800) / 800);
    return turns;
  };
  // A quarter of a lap from one to the next.
  QCOMPARE(spread(), (std::vector<double>{0, 0.25, 0.5, 0.75}));
  // Another order shows at once, by the keyboard as well.
  auto* order = child<QComboBox>(sheet, "spreadOrder");
  order->setFocus();
  QTest::keyClick(order, Qt::Key_Down);
  QCOMPARE(spread(), (std::vector<double>{0, 0.75, 0.5, 0.25}));
  room.w.document().history().undo();
  room.w.document().history().undo();
  QCOMPARE(spread(), (std::vector<double>{0, 0, 0, 0}));
}

void TestInTime::aLineIsDrawnForThem() {
  Room room({4, 8});
  room.w.document().setCurrentLayer(layerId(room.w, 1));
  Hands hands(room.w);
  for (int i = 0; i < 2; ++i) hands.key(Qt::Key_D, Qt::ControlModifier);
  const Ids buoys{layerId(room.w, 1), layerId(room.w, 2), layerId(room.w, 3)};
  const Point places[] = {{0.5, 0.8}, {0.2, 0.2}, {0.8, 0.2}};
  room.w.document().edit(QStringLiteral("places"), {}, [&](Scene& scene) {
    for (std::size_t i = 0; i < 3; ++i) findLayer(scene, buoys[i])->place[static_cast<std::size_t>(PlaceParam::Position)].base = places[i];
  });
  room.w.document().setSelection(buoys);
  Hands drawing(room.w);
  for (int i = 0; i < 3; ++i) drawing.count();  // the keys that open the sheet, the order, the line
  hands.key(Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
  auto* sheet = child<QWidget>(&room.w, "sheet-spread");
  QTRY_VERIFY(sheet->isVisible());
  auto* order = child<QComboBox>(sheet, "spreadOrder");
  const int line = order->findText(QStringLiteral("along a line in the picture"));
  QVERIFY(line >= 0);
  const Scene before = room.scene();
  const auto choose = [&] {
    order->setFocus();
    while (order->currentIndex() < line) QTest::keyClick(order, Qt::Key_Down);
  };
  choose();
  View& view = room.w.view();
  auto* status = child<QLabel>(&view, "viewStatus");
  QVERIFY(status->text().contains(QStringLiteral("Draw a line")));
  // Escape leaves it, and all is as it was.
  QTest::keyClick(&view, Qt::Key_Escape);
  QVERIFY(!status->text().contains(QStringLiteral("Draw a line")));
  QCOMPARE(order->currentIndex(), 0);
  choose();
  const QImage bare = view.grab().toImage();
  const auto at = [&](double x, double y) {
    const QRectF frame = view.frameRect();
    return QPointF(frame.left() + x * frame.width(), frame.top() + y * frame.height());
  };
  // A slip of the hand is no line.
  oa::app::test::drag(&view, at(0.2, 0.2), at(0.2, 0.205));
  QVERIFY(status->text().contains(QStringLiteral("Draw a line")));
  // From the second over the third to the first.
  QTest::mousePress(&view, Qt::LeftButton, Qt::NoModifier, at(0.2, 0.2).toPoint());
  for (const QPointF& to : {at(0.5, 0.2), at(0.8, 0.2), at(0.65, 0.5), at(0.5, 0.8)}) QTest::mouseMove(&view, to.toPoint());
  const int steps = room.w.document().history().index();
  QTest::mouseRelease(&view, Qt::LeftButton, Qt::NoModifier, at(0.5, 0.8).toPoint());
  QCOMPARE(room.w.document().history().index(), steps + 1);
  QVERIFY(!status->text().contains(QStringLiteral("Draw a line")));
  told("three layers one after the other along a line drawn in the picture", drawing, 5);
  // The last of them is the one that was there first: the others come before it, in proportion to how far it is between them.
  const auto delays = edit::delaysOf(room.w.document().plan(), buoys);
  QCOMPARE(delays.size(), std::size_t{3});
  const double across = 0.6 * room.scene().width;
  const double down = std::hypot(0.3 * room.scene().width, 0.6 * room.scene().height);
  QVERIFY(std::abs(delays[1] - 1.0 / 3) < 1e-6);
  QVERIFY(std::abs(delays[2] - delays[1] - 2.0 / 3 * across / (across + down)) < 0.005);
  // The line is seen as long as the sheet is there.
  const QPoint middle = at(0.5, 0.2).toPoint();
  const auto near = [&](const QImage& image) {
    return image.copy(QRect(middle * image.devicePixelRatio() - QPoint(12, 12), QSize(24, 24)));
  };
  QVERIFY(near(view.grab().toImage()) != near(bare));
  room.w.document().history().undo();
  QVERIFY(edit::delaysOf(room.w.document().plan(), buoys) == edit::delaysOf(Plan(before), buoys));
  // Another one shows at once.
  QTest::mouseClick(child<QToolButton>(sheet, "spreadLine"), Qt::LeftButton);
  QTest::mousePress(&view, Qt::LeftButton, Qt::NoModifier, at(0.5, 0.9).toPoint());
  QTest::mouseMove(&view, at(0.5, 0.5).toPoint());
  QTest::mouseMove(&view, at(0.5, 0.1).toPoint());
  QTest::mouseRelease(&view, Qt::LeftButton, Qt::NoModifier, at(0.5, 0.1).toPoint());
  const auto up = edit::delaysOf(room.w.document().plan(), buoys);
  QVERIFY(up[0] < 1e-9 && std::abs(up[1] - up[2]) < 1e-9 && up[1] > 0.5);
}

void TestInTime::copiesOfOneLayerAreSpread() {
  Bench bench("net-of-floats.overagain");
  bench.activate();
  Window& w = bench.window();
  Id repeat = 0;
  for (const Layer& layer : w.document().scene().layers)
    if (edit::partsOf(layer) == edit::Parts::Copies) repeat = layer.id;
  QVERIFY(repeat != 0);
  w.document().setCurrentLayer(repeat);
  QTest::keyClick(&w, Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
  auto* sheet = child<QWidget>(&w, "sheet-spread");
  QTRY_VERIFY(sheet->isVisible());
  const auto value = [&](const char* id) {
    const RecipeStep& source = w.document().layer(repeat)->recipe.front();
    return source.params[static_cast<std::size_t>(findParam(source.spec->params, id))].base;
  };
  auto* order = child<QComboBox>(sheet, "spreadOrder");
  order->setFocus();
  while (order->currentText() != QStringLiteral("from the middle out")) QTest::keyClick(order, Qt::Key_Down);
  const Scene before = w.document().scene();
  QTest::mouseClick(child<QPushButton>(sheet, "primary"), Qt::LeftButton);
  QCOMPARE(std::get<std::string>(value("order")), std::string("outwards"));
  QCOMPARE(std::get<double>(value("ahead")), -1.0);
  // What is changed then shows at once, and each is a step back.
  auto* mirrored = child<QCheckBox>(sheet, "spreadMirrored");
  QTest::mouseClick(mirrored, Qt::LeftButton, Qt::NoModifier, QPoint(10, mirrored->height() / 2));
  QCOMPARE(std::get<bool>(value("startsBack")), true);
  order->setFocus();
  while (order->currentText() != QStringLiteral("along a line in the picture")) QTest::keyClick(order, Qt::Key_Down);
  View& view = w.view();
  const QRectF frame = view.frameRect();
  const auto at = [&](double x, double y) { return QPointF(frame.left() + x * frame.width(), frame.top() + y * frame.height()).toPoint(); };
  QTest::mousePress(&view, Qt::LeftButton, Qt::NoModifier, at(0.1, 0.9));
  for (const QPoint& to : {at(0.3, 0.6), at(0.6, 0.4), at(0.9, 0.1)}) QTest::mouseMove(&view, to);
  QTest::mouseRelease(&view, Qt::LeftButton, Qt::NoModifier, at(0.9, 0.1));
  QCOMPARE(std::get<std::string>(value("order")), std::string("along a line"));
  const Outline line = std::get<Outline>(value("startLine"));
  QVERIFY(line.points.size() >= 2 && line.points.front().at.x < -300 && line.points.back().at.x > 300);
  while (w.document().history().canUndo() && !(w.document().scene() == before)) w.document().history().undo();
  QVERIFY(w.document().scene() == before);
}

void TestInTime::ringsAreNamedAndChosen() {
  Room room({4, 8});
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

void TestInTime::aRingIsTurnedForAHeadStart() {
  Room room({4, 8});
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

void TestInTime::aGapIsDraggedForLaps() {
  Room room({4, 8});
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

void TestInTime::beadsAreDraggedAcrossTheJoint() {
  Room room({4, 8});
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

void TestInTime::severalBeadsGoTogether() {
  Room room({4, 8});
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

void TestInTime::sixtyRingsStayReadable() {
  Room room({});
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

void TestInTime::theDialIsSeenCloser() {
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
  Room room({1, 1});
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

QTEST_MAIN(TestInTime)
#include "tst_in_time.moc"
