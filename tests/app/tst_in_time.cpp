// Everything in time, by hand: the table of all that moves, rhythms mended, layers spread over a lap.
#include <QCheckBox>
#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTest>
#include <QToolButton>

#include "edit/spread_parts.h"
#include "edit/timing.h"
#include "sheets/timing_room.h"
#include "support/counted.h"
#include "support/room.h"
#include "support/room_of_time.h"
#include "support/scenes.h"
#include "widgets/motion_list.h"
#include "widgets/number_field.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using namespace oa::app::test;

class TestInTime : public QObject {
  Q_OBJECT
 private Q_SLOTS:
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
};

void TestInTime::allThatMovesIsListed() {
  RoomOfTime room({4, 8});
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
  RoomOfTime room({4, 8, 6});
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
  RoomOfTime room({4, 12, 6});
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
  RoomOfTime room({4, 7, 12});
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
  RoomOfTime room({2, 2, 2});
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
  RoomOfTime room({2, 3});
  QVERIFY(room.open());
  room.click(1);
  QTest::keyClick(room.table(), Qt::Key_Return);
  QTRY_VERIFY(!room.table()->isVisible());
  QCOMPARE(room.w.document().layer()->name, std::string("Fog 2"));
  const auto chosen = room.w.motions().chosen();
  QVERIFY(chosen && chosen->layer == room.w.document().currentLayer());
}

void TestInTime::lockedLayersStayAsTheyAre() {
  RoomOfTime room({2, 3});
  room.w.document().edit(QStringLiteral("x"), {}, [](Scene& s) { s.layers[0].locked = true; });
  QVERIFY(room.open());
  QVERIFY(!(room.table()->model()->index(2, TimingModel::Laps).flags() & Qt::ItemIsEditable));
  room.click(0);
  room.click(2, Qt::ShiftModifier);
  room.type(0, TimingModel::Laps, QStringLiteral("5"));
  QCOMPARE(room.laps(), (std::vector<int>{5, 5, 2}));
}

void TestInTime::copiesAreSpreadInTime() {
  RoomOfTime room({1});
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
  RoomOfTime room({4, 8});
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

QTEST_MAIN(TestInTime)
#include "tst_in_time.moc"
