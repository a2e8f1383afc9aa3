// Everything in time, by hand: the table of all that moves, rhythms mended, layers spread over a lap.
#include <QComboBox>
#include <QHeaderView>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QSpinBox>
#include <QTableView>
#include <QTest>

#include "edit/timing.h"
#include "sheets/timing_room.h"
#include "support/room.h"
#include "support/scenes.h"
#include "widgets/curve_view.h"
#include "widgets/motion_list.h"
#include "widgets/number_field.h"

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
  void allThatMovesIsListed();
  void severalLinesTakeANumber();
  void linesAreFoundAndSorted();
  void anOddRhythmIsMendedAndTheLoopCut();
  void headStartsOfLinesAreSpread();
  void aLineLeadsToItsCurve();
  void lockedLayersStayAsTheyAre();
  void copiesAreSpreadInTime();
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
  for (int i = 0; i < 3; ++i) QTest::keyClick(&room.w, Qt::Key_D, Qt::ControlModifier);
  Ids buoys;
  for (int i = 1; i <= 4; ++i) buoys.push_back(layerId(room.w, i));
  // Chosen in the pile, the topmost and with Shift the lowest of them.
  LayerTree* pile = pileOf(room.w);
  QTest::mouseClick(pile->viewport(), Qt::LeftButton, Qt::NoModifier, pile->visualItemRect(rowOf(room.w, 0)).center());
  QTest::mouseClick(pile->viewport(), Qt::LeftButton, Qt::ShiftModifier, pile->visualItemRect(rowOf(room.w, 3)).center());
  QCOMPARE(room.w.document().selection().size(), std::size_t{4});
  QTest::keyClick(&room.w, Qt::Key_M, Qt::ControlModifier | Qt::ShiftModifier);
  auto* sheet = child<QWidget>(&room.w, "sheet-spread");
  QTRY_VERIFY(sheet->isVisible());
  QTest::mouseClick(child<QPushButton>(sheet, "primary"), Qt::LeftButton);
  const auto spread = [&] {
    std::vector<double> turns;
    for (const double d : edit::delaysOf(room.scene(), buoys)) turns.push_back(std::round(d * 800) / 800);
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

QTEST_MAIN(TestInTime)
#include "tst_in_time.moc"
