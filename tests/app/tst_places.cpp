// Places, groups, masks and the tree, by hand: what is dragged in the picture and in the pile, and what the menus do.
#include <QClipboard>
#include <QComboBox>
#include <QGuiApplication>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPushButton>
#include <QTest>
#include <QToolButton>
#include <cmath>

#include "scene/extent.h"
#include "sheets/step_gallery.h"
#include "support/hands.h"
#include "support/scenes.h"
#include "widgets/dial.h"
#include "widgets/number_field.h"
#include "widgets/own_card.h"
#include "widgets/recipe_panel.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;
using oa::app::test::clickInMenu;
using oa::app::test::dragRow;
using oa::app::test::layerId;
using oa::app::test::pileOf;

namespace {

using Part = PlaceHandles::Part;

// Squares of 200 pixels in a frame of 1000 x 600, each at a place of its own; over a still ground.
Scene squares(int count) {
  Scene scene = oa::test::oneLayer("flat", 1000, 600, 30);
  scene.layers[0].name = "Ground";
  for (int i = 0; i < count; ++i) {
    Layer layer = newLayer(*findStep("shape"), "Square " + std::to_string(i + 1));
    for (const auto& [id, value] : {std::pair{"width", 200.0}, {"height", 200.0}, {"corner", 0.0}})
      layer.recipe[0].params[static_cast<std::size_t>(findParam(layer.recipe[0].spec->params, id))].base = value;
    layer.place[0].base = Point{0.31 + 0.21 * i, 0.41};
    scene.layers.push_back(layer);
  }
  return scene;
}

struct Room {
  Bench bench;
  Window& w = bench.window();
  explicit Room(int count = 1) {
    w.begin(squares(count));
    choose({count});
    oa::app::test::turn();
  }
  // By their places in the scene.
  void choose(const std::vector<int>& places) {
    Ids ids;
    for (const int place : places) ids.push_back(layerId(w, place));
    w.document().setSelection(ids);
  }
  [[nodiscard]] const Layer& layer() { return *w.document().layer(); }
  [[nodiscard]] Point position() { return std::get<Point>(layer().place[0].base); }
  [[nodiscard]] Point size() { return std::get<Point>(layer().place[1].base); }
  [[nodiscard]] double turnOf() { return std::get<double>(layer().place[static_cast<std::size_t>(PlaceParam::Turn)].base); }
  [[nodiscard]] double zoom() { return w.view().zoom(); }
  QPointF at(PlaceHandles::Hit hit) { return w.view().place().placeOf(hit); }
  void drag(QPointF from, QPointF by, Qt::KeyboardModifiers with = {}) {
    QTest::mousePress(&w.view(), Qt::LeftButton, with, from.toPoint());
    for (int i = 1; i <= 6; ++i) {
      const QPointF to = QPointF(from.toPoint()) + by * i / 6;
      QMouseEvent move(QEvent::MouseMove, to, w.view().mapToGlobal(to), Qt::NoButton, Qt::LeftButton, with);
      QApplication::sendEvent(&w.view(), &move);
    }
    QTest::mouseRelease(&w.view(), Qt::LeftButton, with, (QPointF(from.toPoint()) + by).toPoint());
  }
  int steps() { return w.document().history().count(); }
};

bool near(Point a, Point b, double by = 0.004) { return std::abs(a.x - b.x) < by && std::abs(a.y - b.y) < by; }

}  // namespace

class TestPlaces : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void handlesAreThereForWhatEnds();
  void handlesLieInThePictureBeforeItIsPainted();
  void draggingMovesAndIsOneUndo();
  void movesSnapUnlessAltIsHeld();
  void cornersAndSidesSize();
  void theKnobTurns();
  void theAnchorMovesWithoutThePicture();
  void arrowsNudge();
  void severalMoveTogether();
  void fittingsAreOnTheCard();
  void layersAreAligned();
  void groupingByKeys();
  void rowsAreDraggedIntoAndOutOfGroups();
  void groupsFoldAndKeepIt();
  void manyLayersCanBeSearched();
  void switchesAreForAllSelected();
  void masksComeFromTheCard();
  void linkedCopiesFollow();
  void circlesAreRefusedInTheWindow();
  void layersGoThroughTheClipboard();
  void hostileClipboardsAreRefused();
  void presenceIsDraggedOnTheDial();
  void holdingThatDoesNotFitIsSaid();
  void stepsAreChosenFromAGallery();
  void speedAndPixelsAreShown();
};

void TestPlaces::handlesAreThereForWhatEnds() {
  Room room;
  QVERIFY(room.w.view().place().shown());
  room.choose({0});
  QVERIFY(!room.w.view().place().shown());
  QTest::keyClick(&room.w.view(), Qt::Key_P);
  QVERIFY(room.w.view().place().shown());
  QTest::keyClick(&room.w.view(), Qt::Key_P);
  QVERIFY(!room.w.view().place().shown());
  room.choose({1});
  QTest::keyClick(&room.w, Qt::Key_H, Qt::ControlModifier);  // hidden
  QVERIFY(!room.w.view().place().shown());
}

void TestPlaces::handlesLieInThePictureBeforeItIsPainted() {
  Room room;
  // Another frame, and nothing has been painted since.
  Scene larger = squares(1);
  larger.width = 3000;
  larger.height = 900;
  room.w.begin(larger);
  room.choose({1});
  const QRectF frame = room.w.view().frameRect();
  const double z = room.zoom();
  const QPointF corner = frame.topLeft() + QPointF(0.31 * 3000 - 100, 0.41 * 900 - 100) * z;
  const QPointF off = room.at({Part::Corner, 0}) - corner;
  QVERIFY2(std::abs(off.x()) < 0.01 && std::abs(off.y()) < 0.01, qPrintable(QStringLiteral("%1, %2").arg(off.x()).arg(off.y())));
}

void TestPlaces::draggingMovesAndIsOneUndo() {
  Room room;
  const Scene before = room.w.document().scene();
  const int steps = room.steps();
  const double z = room.zoom();
  room.drag(room.at({Part::Move, 0}) + QPointF(30, 30) * z, QPointF(113, 71) * z, Qt::AltModifier);
  QVERIFY(near(room.position(), {0.31 + 0.113, 0.41 + 71.0 / 600}));
  QCOMPARE(room.steps(), steps + 1);
  room.w.document().history().undo();
  QVERIFY(room.w.document().scene() == before);
}

void TestPlaces::movesSnapUnlessAltIsHeld() {
  Room room;
  const double z = room.zoom();
  const QPointF hold = room.at({Part::Move, 0}) + QPointF(30, 30) * z;
  // The middle comes within three pixels of the frame's.
  room.drag(hold, QPointF(187, 51) * z);
  QVERIFY2(near(room.position(), {0.5, 0.5}, 1e-6), qPrintable(QString::number(room.position().x)));
  room.w.document().history().undo();
  room.drag(hold, QPointF(187, 51) * z, Qt::AltModifier);
  QVERIFY(!near(room.position(), {0.5, 0.5}, 1e-4));
  room.w.document().history().undo();
  // To another layer's edge: left edges meet.
  Room two(2);
  const double right = two.position().x;
  two.drag(two.at({Part::Move, 0}) + QPointF(30, 30) * z, QPointF(-207, 160) * z);
  QVERIFY2(std::abs(two.position().x - (right - 0.21)) < 1e-6, qPrintable(QString::number(two.position().x)));
}

void TestPlaces::cornersAndSidesSize() {
  Room room;
  const double z = room.zoom();
  // From the anchor in the middle, a corner 50 pixels further out is half as large again.
  room.drag(room.at({Part::Corner, 2}), QPointF(50, 50) * z);
  QVERIFY(near(room.size(), {1.5, 1.5}, 0.03));
  room.w.document().history().undo();
  room.drag(room.at({Part::Corner, 2}), QPointF(50, -50) * z, Qt::ShiftModifier);
  QVERIFY(near(room.size(), {1.5, 0.5}, 0.03));
  room.w.document().history().undo();
  room.drag(room.at({Part::Side, 1}), QPointF(50, 20) * z);
  QVERIFY(near(room.size(), {1.5, 1}, 0.03));
  // There and back is nothing.
  const Scene before = room.w.document().scene();
  const QPointF corner = room.at({Part::Corner, 0});
  QTest::mousePress(&room.w.view(), Qt::LeftButton, {}, corner.toPoint());
  for (const QPointF by : {QPointF(80, 60), QPointF(400, 300), QPointF(0, 0)}) {
    const QPointF to = QPointF(corner.toPoint()) + by;
    QMouseEvent move(QEvent::MouseMove, to, room.w.view().mapToGlobal(to), Qt::NoButton, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&room.w.view(), &move);
  }
  QTest::mouseRelease(&room.w.view(), Qt::LeftButton, {}, corner.toPoint());
  QVERIFY(near(room.size(), std::get<Point>(before.layers[1].place[1].base), 0.03));
}

void TestPlaces::theKnobTurns() {
  Room room;
  const QPointF knob = room.at({Part::Turn, 0});
  const QPointF middle = room.at({Part::Move, 0});
  const double reach = middle.y() - knob.y();
  // From above the middle to its right: a quarter.
  room.drag(knob, QPointF(reach, reach));
  QVERIFY2(std::abs(room.turnOf() - 90) < 1e-6, qPrintable(QString::number(room.turnOf())));
  // The handles have turned with it.
  QVERIFY(room.at({Part::Turn, 0}).x() > middle.x() + reach * 0.8);
  room.w.document().history().undo();
  room.drag(knob, QPointF(reach * 0.5, 0.13 * reach), Qt::ShiftModifier);
  QVERIFY(std::abs(std::remainder(room.turnOf(), 15.0)) < 1e-9 && room.turnOf() > 0);
}

void TestPlaces::theAnchorMovesWithoutThePicture() {
  Room room;
  room.drag(room.at({Part::Turn, 0}), QPointF(40, 20));
  const QPolygonF before = room.w.view().place().corners();
  room.drag(room.at({Part::Anchor, 0}), QPointF(-40, 30));
  const QPolygonF after = room.w.view().place().corners();
  for (int i = 0; i < 4; ++i)
    QVERIFY2(QLineF(before[i], after[i]).length() < 1,
             qPrintable(QStringLiteral("%1, %2").arg(QLineF(before[i], after[i]).dx()).arg(QLineF(before[i], after[i]).dy())));
  QVERIFY(!near(std::get<Point>(room.layer().place[static_cast<std::size_t>(PlaceParam::Anchor)].base), {0.5, 0.5}));
}

void TestPlaces::arrowsNudge() {
  Room room;
  room.w.view().setFocus();
  const Point start = room.position();
  const int frame = room.w.player().frame();
  QTest::keyClick(&room.w.view(), Qt::Key_Right);
  QVERIFY(near(room.position(), {start.x + 0.001, start.y}, 1e-9));
  QTest::keyClick(&room.w.view(), Qt::Key_Down, Qt::ShiftModifier);
  QVERIFY(near(room.position(), {start.x + 0.001, start.y + 10.0 / 600}, 1e-9));
  QCOMPARE(room.w.player().frame(), frame);
  // Of what has no handles they go through the loop.
  room.choose({0});
  QTest::keyClick(&room.w.view(), Qt::Key_Right);
  QCOMPARE(room.w.player().frame(), frame + 1);
}

void TestPlaces::severalMoveTogether() {
  Room room(3);
  room.choose({1, 3});
  const Point first = std::get<Point>(room.w.document().scene().layers[1].place[0].base);
  room.drag(room.at({Part::Move, 0}) + QPointF(30, 30) * room.zoom(), QPointF(37, -41) * room.zoom(), Qt::AltModifier);
  QVERIFY(near(std::get<Point>(room.w.document().scene().layers[1].place[0].base), {first.x + 0.037, first.y - 41.0 / 600}));
  QVERIFY(near(std::get<Point>(room.w.document().scene().layers[2].place[0].base), {0.52, 0.41}, 1e-9));
}

void TestPlaces::fittingsAreOnTheCard() {
  Room room;
  auto* card = oa::app::test::child<OwnCard>(&room.w, "placeCard");
  card->findChildren<QToolButton*>().first()->click();
  const auto press = [&](const char* words) {
    for (auto* button : oa::app::test::child<OwnCard>(&room.w, "placeCard")->findChildren<QPushButton*>())
      if (button->text() == QLatin1String(words)) button->click();
    oa::app::test::turn();
  };
  press("Fit");
  QVERIFY(near(room.size(), {3, 3}, 1e-6) && near(room.position(), {0.5, 0.5}, 1e-6));
  press("Cover");
  QVERIFY(near(room.size(), {5, 5}, 1e-6));
  press("Natural");
  QVERIFY(near(room.size(), {1, 1}, 1e-6));
  press("Reset");
  QVERIFY(isDefaultPlace(room.layer().place));
}

void TestPlaces::layersAreAligned() {
  Room room(3);
  room.choose({1, 2, 3});
  room.w.commands().action("alignTop")->trigger();
  room.w.commands().action("alignLeft")->trigger();
  for (int i = 1; i <= 3; ++i)
    QVERIFY(near(std::get<Point>(room.w.document().scene().layers[static_cast<std::size_t>(i)].place[0].base), {0.31, 0.41}, 1e-9));
  room.choose({2});
  room.w.commands().action("alignRight")->trigger();
  QVERIFY(near(room.position(), {0.9, 0.41}, 1e-9));
}

void TestPlaces::groupingByKeys() {
  Room room(3);
  const Scene before = room.w.document().scene();
  pileOf(room.w)->setFocus();
  room.choose({2, 3});
  QTest::keyClick(&room.w, Qt::Key_G, Qt::ControlModifier);
  QVERIFY(room.layer().isGroup() && room.layer().layers.size() == 2);
  QCOMPARE(room.w.document().scene().layers.size(), std::size_t{3});
  QTest::keyClick(&room.w, Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
  QCOMPARE(room.w.document().selection().size(), std::size_t{2});
  QVERIFY(room.w.document().scene() == before);
  // One that would change the picture is not opened, and why is said.
  QTest::keyClick(&room.w, Qt::Key_G, Qt::ControlModifier);
  room.w.document().edit("opacity", {}, [&](Scene& s) { findLayer(s, room.w.document().currentLayer())->opacity.base = 0.5; });
  QTest::keyClick(&room.w, Qt::Key_G, Qt::ControlModifier | Qt::ShiftModifier);
  QVERIFY(room.layer().isGroup());
  QVERIFY2(room.w.errorShown().contains("opacity"), qPrintable(room.w.errorShown()));
}

void TestPlaces::rowsAreDraggedIntoAndOutOfGroups() {
  Room room(3);
  room.choose({3});
  QTest::keyClick(&room.w, Qt::Key_G, Qt::ControlModifier);
  const Id group = room.w.document().currentLayer();
  LayerTree* tree = pileOf(room.w);
  const auto row = [&](Id id) { return tree->visualItemRect(tree->itemOf(id)); };
  const Id square = layerId(room.w, 1);
  // Onto the folded group: into it. (Unfolded, the place under it is its topmost.)
  dragRow(room.w, tree->itemOf(square), row(group).center());
  QCOMPARE(room.w.document().layer(group)->layers.size(), std::size_t{2});
  QCOMPARE(room.w.document().layer(group)->layers.back().id, square);
  // Below the last one within it.
  const Id inside = room.w.document().layer(group)->layers.front().id;
  dragRow(room.w, tree->itemOf(square), QPoint(row(inside).center().x(), row(inside).bottom() - 3));
  QCOMPARE(room.w.document().layer(group)->layers.front().id, square);
  // And out of it, over the group.
  dragRow(room.w, tree->itemOf(square), QPoint(row(group).center().x(), row(group).top() + 3));
  QCOMPARE(room.w.document().scene().layers.back().id, square);
  // A group is not dropped into itself.
  dragRow(room.w, tree->itemOf(group), row(inside).center());
  QVERIFY(room.w.errorShown().contains("itself"));
}

void TestPlaces::groupsFoldAndKeepIt() {
  Room room(2);
  room.choose({1, 2});
  QTest::keyClick(&room.w, Qt::Key_G, Qt::ControlModifier);
  const Id group = room.w.document().currentLayer();
  LayerTree* tree = pileOf(room.w);
  QVERIFY(tree->itemOf(group)->isExpanded());
  const QRect row = tree->visualItemRect(tree->itemOf(group));
  QTest::mouseClick(tree->viewport(), Qt::LeftButton, {}, QPoint(row.left() + 8, row.center().y()));
  QVERIFY(room.w.document().layer(group)->folded && !tree->itemOf(group)->isExpanded());
  room.w.document().history().undo();
  QVERIFY(tree->itemOf(group)->isExpanded());
  QTest::keyClick(tree, Qt::Key_Left);
  QVERIFY(room.w.document().layer(group)->folded);
}

void TestPlaces::manyLayersCanBeSearched() {
  Room room(3);
  auto* search = oa::app::test::child<QLineEdit>(&room.w, "search");
  QVERIFY(!search->isVisible());
  room.w.begin(squares(14));
  QVERIFY(search->isVisible());
  room.choose({3, 4});
  QTest::keyClick(&room.w, Qt::Key_G, Qt::ControlModifier);
  search->setFocus();
  QTest::keyClicks(search, "square 3");
  LayerTree* tree = pileOf(room.w);
  int shown = 0;
  for (QTreeWidgetItemIterator it(tree); *it; ++it) shown += !(*it)->isHidden();
  QCOMPARE(shown, 2);  // the square, and the group that it is in
  search->clear();
  for (QTreeWidgetItemIterator it(tree); *it; ++it) QVERIFY(!(*it)->isHidden());
}

void TestPlaces::switchesAreForAllSelected() {
  Room room(3);
  LayerTree* tree = pileOf(room.w);
  // Two rows, with Ctrl.
  QTest::mouseClick(tree->viewport(), Qt::LeftButton, {}, tree->visualItemRect(tree->topLevelItem(0)).center());
  QTest::mouseClick(tree->viewport(), Qt::LeftButton, Qt::ControlModifier, tree->visualItemRect(tree->topLevelItem(2)).center());
  QCOMPARE(room.w.document().selection().size(), std::size_t{2});
  const QRect row = tree->visualItemRect(tree->topLevelItem(0));
  QTest::mouseClick(tree->viewport(), Qt::LeftButton, {}, QPoint(row.left() + 17, row.center().y() + 9));
  const auto& layers = room.w.document().scene().layers;
  QVERIFY(!layers[3].visible && layers[2].visible && !layers[1].visible);
  QTest::keyClick(&room.w, Qt::Key_H, Qt::ControlModifier | Qt::ShiftModifier);
  QVERIFY(layers[3].visible && !layers[2].visible && layers[1].visible && !layers[0].visible);
}

void TestPlaces::masksComeFromTheCard() {
  Room room;
  room.choose({0});
  auto* card = oa::app::test::child<OwnCard>(&room.w, "maskCard");
  auto* add = card->findChild<QPushButton*>("link");
  QVERIFY(clickInMenu([&] { QTest::mouseClick(add, Qt::LeftButton); }, "Ellipse"));
  QVERIFY(room.layer().mask.has_value());
  QCOMPARE(room.layer().mask->source.spec->id, std::string_view("shape"));
  oa::app::test::turn();
  // Its values are on the card, and its centre is dragged in the picture.
  card = oa::app::test::child<OwnCard>(&room.w, "maskCard");
  QVERIFY(card->findChild<QWidget*>("param-grow") && card->findChild<QWidget*>("param-width"));
  const QRectF frame = room.w.view().frameRect();
  room.drag(frame.center(), QPointF(-60, 20));
  const RecipeStep& source = room.layer().mask->source;
  const Point centre = std::get<Point>(source.params[static_cast<std::size_t>(findParam(source.spec->params, "centre"))].base);
  QVERIFY(near(centre, {0.5 - 60 / frame.width(), 0.5 + 20 / frame.height()}));
}

void TestPlaces::linkedCopiesFollow() {
  Room room;
  const Id shown = room.w.document().currentLayer();
  QTest::keyClick(&room.w, Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
  QVERIFY(room.w.document().currentLayer() != shown);
  QCOMPARE(static_cast<Id>(std::get<double>(room.layer().recipe[0].params[0].base)), shown);
  QVERIFY(room.layer().place == room.w.document().layer(shown)->place);
  // The layer that it shows is chosen from a list of those that there are.
  auto* box = oa::app::test::paramRow(room.w, "linked", "layer")->findChild<QComboBox*>();
  QCOMPARE(box->currentData().toInt(), shown);
  QVERIFY(box->findText("Ground", Qt::MatchContains) >= 0);
}

void TestPlaces::circlesAreRefusedInTheWindow() {
  Room room;
  QTest::keyClick(&room.w, Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);
  QTest::keyClick(&room.w, Qt::Key_D, Qt::ControlModifier | Qt::ShiftModifier);  // a copy of the copy
  const Id outer = room.w.document().currentLayer();
  const Id inner = static_cast<Id>(std::get<double>(room.layer().recipe[0].params[0].base));
  room.w.document().setCurrentLayer(inner);
  oa::app::test::turn();
  auto* box = oa::app::test::paramRow(room.w, "linked", "layer")->findChild<QComboBox*>();
  const Scene before = room.w.document().scene();
  const int wrong = box->findData(outer);
  QVERIFY(wrong >= 0);
  box->setFocus();
  while (box->currentIndex() != wrong) {
    const int at = box->currentIndex();
    QTest::keyClick(box, at < wrong ? Qt::Key_Down : Qt::Key_Up);
    if (room.w.document().scene() != before || !room.w.errorShown().isEmpty() || box->currentIndex() == at) break;
  }
  QVERIFY2(room.w.errorShown().contains("shows"), qPrintable(room.w.errorShown()));
}

void TestPlaces::layersGoThroughTheClipboard() {
  Room room(2);
  pileOf(room.w)->setFocus();
  room.choose({1, 2});
  QTest::keyClick(&room.w, Qt::Key_G, Qt::ControlModifier);
  const Layer group = room.layer();
  QTest::keyClick(&room.w, Qt::Key_C, Qt::ControlModifier);
  // Into another scene, with ids of its own.
  room.w.begin(squares(1));
  QTest::keyClick(&room.w, Qt::Key_V, Qt::ControlModifier);
  QVERIFY(room.layer().isGroup());
  QCOMPARE(room.layer().name, group.name);
  QVERIFY(room.layer().layers[1].recipe[0].params == group.layers[1].recipe[0].params);
  QTest::keyClick(&room.w, Qt::Key_X, Qt::ControlModifier);
  QCOMPARE(room.w.document().scene().layers.size(), std::size_t{2});
  QTest::keyClick(&room.w, Qt::Key_V, Qt::ControlModifier);
  QTest::keyClick(&room.w, Qt::Key_V, Qt::ControlModifier);
  QCOMPARE(room.w.document().scene().layers.size(), std::size_t{4});
}

void TestPlaces::hostileClipboardsAreRefused() {
  Room room;
  pileOf(room.w)->setFocus();
  const Scene before = room.w.document().scene();
  for (const QString& held :
       {QStringLiteral("good evening"), QStringLiteral("{\"overagain\":2,\"layers\":[]}"), QString(300000, QLatin1Char('[')),
        QStringLiteral("{\"overagain\":2,\"layers\":[{\"recipe\":[{\"step\":\"noise\",\"cell\":1e99}]}]}"),
        QStringLiteral("{\"overagain\":2,\"layers\":[{\"id\":4,\"recipe\":[{\"step\":\"linked\",\"layer\":4}]}]}")}) {
    QGuiApplication::clipboard()->setText(held);
    QTest::keyClick(&room.w, Qt::Key_V, Qt::ControlModifier);
    QVERIFY(room.w.document().scene() == before);
    QVERIFY2(room.w.errorShown().contains("clipboard"), qPrintable(held.left(60)));
  }
}

void TestPlaces::presenceIsDraggedOnTheDial() {
  Room room;
  auto* card = oa::app::test::child<OwnCard>(&room.w, "presenceCard");
  for (auto* button : card->findChildren<QPushButton*>())
    if (button->text() == "Add part") QTest::mouseClick(button, Qt::LeftButton);
  QCOMPARE(room.layer().presence.size(), std::size_t{1});
  QCOMPARE(room.layer().presence[0].length, 0.5);
  Dial& dial = room.w.dial();
  QTRY_COMPARE(dial.presenceEnds().size(), std::size_t{2});
  // Where it goes is taken from half past to a quarter past, across nothing else.
  const int steps = room.steps();
  const QPointF from = dial.presenceEnds()[1].place;
  const double radius = QLineF(from, dial.centre()).length();
  oa::app::test::drag(&dial, from, dial.centre() + QPointF(radius, 0));
  QVERIFY2(std::abs(room.layer().presence[0].length - 0.25) < 0.02, qPrintable(QString::number(room.layer().presence[0].length)));
  QCOMPARE(room.layer().presence[0].from, 0.0);
  QCOMPARE(room.steps(), steps + 1);
  // Where it comes, over the joint: the other end stays.
  const double last = room.layer().presence[0].from + room.layer().presence[0].length;
  oa::app::test::drag(&dial, dial.presenceEnds()[0].place, dial.centre() + QPointF(-radius, 0));
  const Arc arc = room.layer().presence[0];
  QVERIFY(std::abs(arc.from - 0.75) < 0.02);
  QVERIFY(std::abs(fract(arc.from + arc.length) - last) < 1e-9);
}

void TestPlaces::holdingThatDoesNotFitIsSaid() {
  Room room;
  auto* card = oa::app::test::child<OwnCard>(&room.w, "presenceCard");
  card->findChildren<QToolButton*>().first()->click();
  auto* hold = oa::app::test::child<NumberField>(card, "hold");
  oa::app::test::typeInto(hold, "3");
  QCOMPARE(room.layer().hold, 3);
  const auto says = [&] {
    QString all;
    for (auto* label : card->findChildren<QLabel*>()) all += label->text() + ' ';
    return all;
  };
  QVERIFY(says().contains("10 pictures a second") && !says().contains("held shorter"));
  oa::app::test::typeInto(hold, "4");
  QVERIFY2(says().contains("held shorter. 3 would fit"), qPrintable(says()));
  // And mended at a click.
  auto* mend = oa::app::test::child<QPushButton>(card, "mendHold");
  QVERIFY(mend->isVisible() && mend->text().contains('3'));
  QTest::mouseClick(mend, Qt::LeftButton);
  QCOMPARE(room.layer().hold, 3);
  QVERIFY(!mend->isVisible());
}

void TestPlaces::stepsAreChosenFromAGallery() {
  Room room;
  QTest::keyClick(&room.w, Qt::Key_T, Qt::ControlModifier);
  StepGallery& gallery = room.w.stepGallery();
  QVERIFY(gallery.isVisible() && gallery.count() >= 10);
  // Live, on this layer's own picture: another one for each.
  QTRY_VERIFY_WITH_TIMEOUT(gallery.heldFrames() > gallery.count(), 30000);
  QTest::keyClicks(gallery.search(), "soften");
  QVERIFY(gallery.count() >= 1 && gallery.count() < 6);
  const int card = gallery.cardOf("blur");
  QVERIFY(card >= 0);
  QTest::mouseClick(gallery.card(card), Qt::LeftButton);
  QVERIFY(!gallery.isVisible());
  QCOMPARE(room.layer().recipe.back().spec->id, std::string_view("blur"));
}

void TestPlaces::speedAndPixelsAreShown() {
  Room room;
  room.w.view().setFocus();
  const auto status = [&] {
    QString all;
    for (auto* label : room.w.view().findChildren<QLabel*>()) all += label->text() + '|';
    return all;
  };
  QTest::keyClick(&room.w.view(), Qt::Key_BracketLeft);
  QCOMPARE(room.w.player().speed(), 0.5);
  QVERIFY2(status().contains("0.5 × speed"), qPrintable(status()));
  for (int i = 0; i < 5; ++i) QTest::keyClick(&room.w.view(), Qt::Key_BracketRight);
  QCOMPARE(room.w.player().speed(), 2.0);
  for (int i = 0; i < 40; ++i) QTest::keyClick(&room.w, Qt::Key_Plus, Qt::ControlModifier);
  QCOMPARE(room.w.view().zoom(), 32.0);
  QTest::keyClick(&room.w, Qt::Key_0, Qt::ControlModifier);
  room.bench.settle();
  QTest::mouseMove(&room.w.view(), room.w.view().frameRect().center().toPoint());
  QMouseEvent move(QEvent::MouseMove, room.w.view().frameRect().center(), room.w.view().mapToGlobal(room.w.view().frameRect().center()),
                   Qt::NoButton, Qt::NoButton, Qt::NoModifier);
  QEvent enter(QEvent::Enter);
  QApplication::sendEvent(&room.w.view(), &enter);
  room.w.view().setAttribute(Qt::WA_UnderMouse);
  QApplication::sendEvent(&room.w.view(), &move);
  QVERIFY2(
      status().contains("500, 300:") || status().contains("499, 299:") || status().contains("499, 300:") || status().contains("500, 299:"),
      qPrintable(status()));
}

QTEST_MAIN(TestPlaces)
#include "tst_places.moc"
