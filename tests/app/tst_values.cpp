// Values by hand: motions that add up, items of a step, all of them at once, moving stops; steps and motions through the clipboard;
// when a step is there, how long the scene holds its pictures, and a part of the loop that is played alone.
#include <QClipboard>
#include <QGuiApplication>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QTest>
#include <QToolButton>
#include <cmath>
#include <set>

#include "edit/clipboard.h"
#include "edit/steps.h"
#include "params/stop_items.h"
#include "scene/plan.h"
#include "scene/tree.h"
#include "support/hands.h"
#include "support/scenes.h"
#include "widgets/curve_view.h"
#include "widgets/dial.h"
#include "widgets/item_picker.h"
#include "widgets/items_editor.h"
#include "widgets/motion_list.h"
#include "widgets/motion_pill.h"
#include "widgets/number_field.h"
#include "widgets/own_card.h"
#include "widgets/presence_rows.h"
#include "widgets/recipe_card.h"
#include "widgets/recipe_panel.h"
#include "widgets/stops_editor.h"
#include "widgets/swatch.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;
using oa::app::test::child;
using oa::app::test::clickInMenu;
using oa::app::test::drag;
using oa::app::test::layerId;
using oa::app::test::paramRow;

namespace {

struct Room {
  Bench bench;
  Window& w = bench.window();
  explicit Room(const char* source, const std::vector<const char*>& steps = {}) {
    Scene scene = oa::test::oneLayer(source, 480, 270, 24);
    for (const char* step : steps) oa::test::addStep(scene, step);
    w.begin(scene);
    oa::app::test::turn();
  }
  const RecipeStep& step(int i = 0) { return w.document().layer()->recipe[static_cast<std::size_t>(i)]; }
  const Param& value(const char* id, int i = 0) { return step(i).params[static_cast<std::size_t>(findParam(step(i).spec->params, id))]; }
  const Param& itemValue(std::size_t item, const char* id, int i = 0) {
    return step(i).items[item].params[static_cast<std::size_t>(findParam(step(i).spec->items->params, id))];
  }
  int steps() { return w.document().history().count(); }
  void undo() {
    w.document().history().undo();
    oa::app::test::turn();
  }
  MotionPill* pill(const char* step, const char* param) { return paramRow(w, step, param)->findChild<MotionPill*>(); }
  RecipeCard* card(const char* step) { return child<RecipeCard>(&w, (std::string("card-") + step).c_str()); }
  // The header of a step's card, which has its keys.
  QWidget* header(const char* step) {
    for (QWidget* inside : card(step)->findChildren<QWidget*>())
      if (inside->parentWidget() == card(step) && inside->focusPolicy() == Qt::StrongFocus) return inside;
    qFatal("the card has no header");
  }
};

void rightClick(QWidget* on) {
  const QPoint place(20, on->height() / 2);
  QContextMenuEvent event(QContextMenuEvent::Mouse, place, on->mapToGlobal(place));
  QApplication::sendEvent(on, &event);
}

}  // namespace

class TestValues : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void motionsAreAddedAndListed();
  void oneOfSeveralIsBent();
  void itemsComeGoAndChangePlaces();
  void itemsAreChosenByDragAndKeys();
  void allAreSetAtOnce();
  void headStartsAreSpread();
  void stopsAreDraggedAddedAndRemoved();
  void stopsMove();
  void stopsOfMasksAreThere();
  void stepsGoThroughTheClipboard();
  void brokenStepsAreRefused();
  void motionsGoThroughTheClipboard();
  void stepsComeAndGo();
  void theSceneHoldsItsPictures();
  void aPartIsPlayedAlone();
  void placesAreShownInPixels();
  void sizesBelongTogether();
  void whatLiesBelowIsALayer();
};

void TestValues::motionsAreAddedAndListed() {
  Room room("noise");
  QVERIFY(clickInMenu([&] { room.pill("noise", "brightness")->click(); }, QStringLiteral("Swing")));
  QVERIFY(room.value("brightness").motion.kind == MotionKind::Swing && room.value("brightness").more.empty());
  QVERIFY(clickInMenu([&] { room.pill("noise", "brightness")->click(); }, QStringLiteral("Add another motion > Wander")));
  QCOMPARE(motionCount(room.value("brightness")), std::size_t{2});
  QCOMPARE(room.value("brightness").more[0].laps, 2);
  // The list shows each, and the new one is chosen.
  auto* list = room.w.motions().findChild<QListWidget*>();
  const auto rows = [&] {
    int found = 0;
    for (int i = 0; i < list->count(); ++i) found += list->item(i)->text().contains(QStringLiteral("Brightness"));
    return found;
  };
  QCOMPARE(rows(), 2);
  QVERIFY(room.w.motions().chosen() && room.w.motions().chosen()->motion == 1);
  QVERIFY(list->currentItem()->text().contains(QStringLiteral("2 of 2")));
  // Taken away by key, and brought back.
  list->setFocus();
  QTest::keyClick(list, Qt::Key_Delete);
  QVERIFY(room.value("brightness").more.empty() && room.value("brightness").motion.kind == MotionKind::Swing);
  QCOMPARE(rows(), 1);
  room.undo();
  QCOMPARE(motionCount(room.value("brightness")), std::size_t{2});
  // The first one from the pill's menu: the second stays.
  QVERIFY(clickInMenu([&] { room.pill("noise", "brightness")->click(); }, QStringLiteral("Take a motion away > 1")));
  QVERIFY(room.value("brightness").more.empty() && room.value("brightness").motion.kind == MotionKind::Wander);
  // What goes whole amounts a lap has one motion only.
  QVERIFY(!clickInMenu([&] { room.pill("noise", "churn")->click(); }, QStringLiteral("Add another motion")));
}

void TestValues::oneOfSeveralIsBent() {
  Room room("noise");
  QVERIFY(clickInMenu([&] { room.pill("noise", "brightness")->click(); }, QStringLiteral("Swing")));
  QVERIFY(clickInMenu([&] { room.pill("noise", "brightness")->click(); }, QStringLiteral("Add another motion > Swing")));
  const Motion first = room.value("brightness").motion;
  // The curve is that of the second; its bead sets its far end, its field its laps.
  const auto* canvas = room.w.curve().canvas();
  QVERIFY(canvas->bead().has_value());
  const double before = std::get<double>(room.value("brightness").more[0].far);
  drag(room.w.curve().canvas(), *canvas->bead(), *canvas->bead() + QPointF(0, 25));
  QVERIFY(std::get<double>(room.value("brightness").more[0].far) != before);
  oa::app::test::typeInto(child<NumberField>(&room.w, "laps"), "5");
  QCOMPARE(room.value("brightness").more[0].laps, 5);
  QVERIFY(room.value("brightness").motion == first);
}

void TestValues::itemsComeGoAndChangePlaces() {
  Room room("points");
  auto* items = child<ItemsEditor>(&room.w, "itemsEditor");
  QCOMPARE(room.step().items.size(), std::size_t{5});
  child<QToolButton>(items, "addItem")->click();
  QCOMPARE(room.step().items.size(), std::size_t{6});
  // Behind the first, and chosen.
  QCOMPARE(items->item(), room.step().items[1].id);
  QVERIFY(child<QLabel>(items, "whichItem")->text() == QStringLiteral("Point 2 of 6"));
  const Id added = items->item();
  child<QToolButton>(items, "removeItem")->click();
  QCOMPARE(room.step().items.size(), std::size_t{5});
  QVERIFY(items->item() != added && items->item() == room.step().items[1].id);
  room.undo();
  QCOMPARE(room.step().items[1].id, added);
  // More than sixteen.
  for (int i = 0; i < 20; ++i) child<QToolButton>(items, "addItem")->click();
  QCOMPARE(room.step().items.size(), std::size_t{26});
  // One must stay.
  auto* remove = child<QToolButton>(items, "removeItem");
  while (room.step().items.size() > 1) remove->click();
  QVERIFY(!remove->isEnabled());
}

void TestValues::itemsAreChosenByDragAndKeys() {
  Room room("points");
  auto* picker = child<ItemPicker>(&room.w, "items");
  const auto idOf = [&](std::size_t i) { return room.step().items[i].id; };
  const std::vector<Id> before{idOf(0), idOf(1), idOf(2), idOf(3), idOf(4)};
  const int steps = room.steps();
  drag(picker, picker->dotRect(0).center(), picker->dotRect(3).center(), 12);
  QVERIFY(idOf(3) == before[0] && idOf(0) == before[1]);
  QCOMPARE(room.steps(), steps + 1);
  QCOMPARE(child<ItemsEditor>(&room.w, "itemsEditor")->item(), before[0]);
  picker->setFocus();
  QTest::keyClick(picker, Qt::Key_Left, Qt::AltModifier);
  QCOMPARE(idOf(2), before[0]);
  QTest::keyClick(picker, Qt::Key_Right);
  QCOMPARE(child<ItemsEditor>(&room.w, "itemsEditor")->item(), idOf(3));
}

void TestValues::allAreSetAtOnce() {
  Room room("points");
  auto* items = child<ItemsEditor>(&room.w, "itemsEditor");
  const Scene before = room.w.document().scene();
  child<QToolButton>(items, "allItems")->click();
  QVERIFY(child<QLabel>(items, "whichItem")->text() == QStringLiteral("All 5"));
  QVERIFY(!child<QToolButton>(items, "removeItem")->isEnabled());
  const int steps = room.steps();
  oa::app::test::typeInto(paramRow(room.w, "points", "reach")->findChild<NumberField*>(), "250");
  for (std::size_t i = 0; i < 5; ++i) QCOMPARE(std::get<double>(room.itemValue(i, "reach").base), 250.0);
  QCOMPARE(room.steps(), steps + 1);
  // Where they are is moved together.
  oa::app::test::typeInto(paramRow(room.w, "points", "place")->findChildren<NumberField*>().first(), "0.22");
  for (std::size_t i = 0; i < 5; ++i) {
    const Point was = std::get<Point>(before.layers[0].recipe[0].items[i].params[1].base);
    const Point now = std::get<Point>(room.itemValue(i, "place").base);
    QVERIFY2(std::abs(now.x - was.x - 0.1) < 1e-9 && now.y == was.y,
             qPrintable(QStringLiteral("%1: %2 %3").arg(i).arg(now.x - was.x).arg(now.y - was.y)));
  }
  room.undo();
  room.undo();
  QVERIFY(room.w.document().scene() == before);
}

void TestValues::headStartsAreSpread() {
  Room room("points");
  child<QToolButton>(child<ItemsEditor>(&room.w, "itemsEditor"), "allItems")->click();
  QVERIFY(clickInMenu([&] { room.pill("points", "reach")->click(); }, QStringLiteral("Swing")));
  for (std::size_t i = 0; i < 5; ++i) {
    QVERIFY(room.itemValue(i, "reach").motion.kind == MotionKind::Swing);
    QVERIFY(std::abs(room.itemValue(i, "reach").motion.start - static_cast<double>(i) / 5) < 1e-9);
  }
  // The curve is that of all.
  oa::app::test::typeInto(child<NumberField>(&room.w, "laps"), "3");
  for (std::size_t i = 0; i < 5; ++i) QCOMPARE(room.itemValue(i, "reach").motion.laps, 3);
  QVERIFY(clickInMenu([&] { room.pill("points", "reach")->click(); }, QStringLiteral("Head starts > Together")));
  for (std::size_t i = 0; i < 5; ++i) QCOMPARE(room.itemValue(i, "reach").motion.start, 0.0);
  QVERIFY(clickInMenu([&] { room.pill("points", "reach")->click(); }, QStringLiteral("Head starts > At random")));
  std::vector<double> starts;
  for (std::size_t i = 0; i < 5; ++i) starts.push_back(room.itemValue(i, "reach").motion.start);
  std::sort(starts.begin(), starts.end());
  for (std::size_t i = 0; i < 5; ++i) QVERIFY(std::abs(starts[i] - static_cast<double>(i) / 5) < 1e-9);
  room.undo();
  for (std::size_t i = 0; i < 5; ++i) QCOMPARE(room.itemValue(i, "reach").motion.start, 0.0);
  // Cards that are made anew still show all.
  const Id layer = room.w.document().currentLayer();
  room.w.document().performHere(QStringLiteral("step"), [&](Scene& s) { return edit::addStep(s, layer, *findStep("levels")); });
  oa::app::test::turn();
  QCOMPARE(child<ItemsEditor>(&room.w, "itemsEditor")->item(), ParamAddress::kAllItems);
}

void TestValues::stopsAreDraggedAddedAndRemoved() {
  Room room("gradient");
  auto* stops = child<StopsEditor>(&room.w, "stops");
  const auto at = [&](std::size_t i) { return std::get<double>(room.itemValue(i, "at").base); };
  const double handles = stops->height() - 10.0;
  const int steps = room.steps();
  drag(stops, QPointF(stops->handleX(0), handles), QPointF(stops->handleX(0) + 60, handles));
  QVERIFY(at(0) > 0.1);
  QCOMPARE(room.steps(), steps + 1);
  // A double click on an empty place of the run adds one of the colour that is there.
  const QPoint middle(static_cast<int>((stops->handleX(0) + stops->handleX(1)) / 2), 10);
  const Stops before = stops->stops();
  QTest::mouseDClick(stops, Qt::LeftButton, Qt::NoModifier, middle);
  QCOMPARE(room.step().items.size(), std::size_t{3});
  const Colour there = colourAt(before, at(2), ColourMixing::OkLab);
  QVERIFY(std::abs(std::get<Colour>(room.itemValue(2, "colour").base).g - there.g) < 1e-6f);
  // Its rows are shown; the button adds another beside it.
  auto* items = child<ItemsEditor>(&room.w, "itemsEditor");
  QCOMPARE(items->item(), room.step().items[2].id);
  QVERIFY(std::abs(paramRow(room.w, "gradient", "at")->findChild<NumberField*>()->value() - at(2)) < 1e-9);
  child<QToolButton>(items, "addItem")->click();
  QCOMPARE(room.step().items.size(), std::size_t{4});
  QVERIFY(at(3) > at(2) && at(3) < at(1));
  // Dragged off, or by key.
  drag(stops, QPointF(stops->handleX(3), handles), QPointF(stops->handleX(3), handles + 120));
  QCOMPARE(room.step().items.size(), std::size_t{3});
  stops->setFocus();
  QTest::keyClick(stops, Qt::Key_Right, Qt::ShiftModifier);
  QTest::keyClick(stops, Qt::Key_Delete);
  QCOMPARE(room.step().items.size(), std::size_t{2});
}

void TestValues::stopsMove() {
  Room room("noise", {"colourmap"});
  QVERIFY(clickInMenu([&] { room.pill("colourmap", "colour")->click(); }, QStringLiteral("Swing")));
  QVERIFY(room.itemValue(0, "colour", 1).motion.kind == MotionKind::Swing);
  QVERIFY(room.w.motions().findChild<QListWidget*>()->currentItem()->text().contains(QStringLiteral("Colour 1")));
  // Travel along the map: the way round shows once there is any.
  QVERIFY(!paramRow(room.w, "colourmap", "round")->isVisible());
  oa::app::test::typeInto(paramRow(room.w, "colourmap", "travel")->findChild<NumberField*>(), "-1");
  QVERIFY(paramRow(room.w, "colourmap", "round")->isVisible());
  QCOMPARE(std::get<double>(room.value("travel", 1).base), -1.0);
}

void TestValues::stopsOfMasksAreThere() {
  Room room("noise");
  const Id layer = room.w.document().currentLayer();
  room.w.document().edit(QStringLiteral("mask"), {}, [&](Scene& s) { findLayer(s, layer)->mask = newMask(*findStep("gradient")); });
  auto* card = child<OwnCard>(&room.w, "maskCard");
  for (QToolButton* button : card->findChildren<QToolButton*>())
    if (button->toolTip().contains(QStringLiteral("fold"), Qt::CaseInsensitive)) button->click();
  auto* stops = card->findChild<StopsEditor*>();
  QVERIFY(stops && stops->stops().size() == 2);
  child<QToolButton>(card, "addItem")->click();
  QCOMPARE(room.w.document().layer()->mask->source.items.size(), std::size_t{3});
}

void TestValues::stepsGoThroughTheClipboard() {
  Room room("noise", {"levels", "blur"});
  oa::app::test::typeInto(paramRow(room.w, "levels", "contrast")->findChild<NumberField*>(), "1.7");
  QWidget* levels = room.header("levels");
  levels->setFocus();
  QTest::keyClick(levels, Qt::Key_C, Qt::ControlModifier);
  QVERIFY(edit::holdsSteps(QGuiApplication::clipboard()->text().toStdString()));
  QWidget* blur = room.header("blur");
  blur->setFocus();
  QTest::keyClick(blur, Qt::Key_V, Qt::ControlModifier);
  QCOMPARE(room.w.document().layer()->recipe.size(), std::size_t{4});
  QCOMPARE(room.step(3).spec->id, std::string_view("levels"));
  QVERIFY(room.step(3).params == room.step(1).params && room.step(3).id != room.step(1).id);
  // Into another scene, by the window's own paste: into the layer's recipe, not as a layer.
  room.w.begin(oa::test::oneLayer("cells", 480, 270, 24));
  oa::app::test::turn();
  QTest::keyClick(&room.w, Qt::Key_V, Qt::ControlModifier);
  QCOMPARE(room.w.document().scene().layers.size(), std::size_t{1});
  QVERIFY2(room.w.document().layer()->recipe.size() == 2, qPrintable(room.w.errorShown()));
  QCOMPARE(room.step(1).spec->id, std::string_view("levels"));
  // Cut.
  oa::app::test::turn();
  QWidget* pasted = room.header("levels");
  pasted->setFocus();
  QTest::keyClick(pasted, Qt::Key_X, Qt::ControlModifier);
  QCOMPARE(room.w.document().layer()->recipe.size(), std::size_t{1});
}

void TestValues::brokenStepsAreRefused() {
  Room room("noise", {"levels"});
  const Scene before = room.w.document().scene();
  for (const QString& held : {QStringLiteral("nothing of ours"), QStringLiteral(R"({"overagain":2,"steps":[]})"),
                              QStringLiteral(R"({"overagain":2,"steps":[{"step":"noise"}]})"),
                              QStringLiteral(R"({"overagain":2,"steps":[{"step":"levels","contrast":1e99}]})"),
                              QStringLiteral(R"({"overagain":99,"steps":[{"step":"levels"}]})"), QString(200000, QLatin1Char('['))}) {
    QGuiApplication::clipboard()->setText(held);
    QWidget* levels = room.header("levels");
    levels->setFocus();
    QTest::keyClick(levels, Qt::Key_V, Qt::ControlModifier);
    QVERIFY(room.w.document().scene() == before);
    QVERIFY2(!room.w.errorShown().isEmpty(), qPrintable(held.left(60)));
  }
}

void TestValues::motionsGoThroughTheClipboard() {
  Room room("noise");
  QVERIFY(clickInMenu([&] { room.pill("noise", "brightness")->click(); }, QStringLiteral("Swing")));
  QVERIFY(clickInMenu([&] { room.pill("noise", "brightness")->click(); }, QStringLiteral("Add another motion > Wander")));
  QVERIFY(clickInMenu([&] { rightClick(paramRow(room.w, "noise", "brightness")); }, QStringLiteral("Copy its motion")));
  QVERIFY(clickInMenu([&] { rightClick(paramRow(room.w, "noise", "contrast")); }, QStringLiteral("Paste the motion")));
  const Param& from = room.value("brightness");
  const Param& to = room.value("contrast");
  QCOMPARE(motionCount(to), std::size_t{2});
  QVERIFY(to.motion.kind == MotionKind::Swing && to.more[0].kind == MotionKind::Wander && to.more[0].laps == from.more[0].laps);
  // As far of its own range, from its own value.
  const ParamSpec& a = room.step().spec->params[static_cast<std::size_t>(findParam(room.step().spec->params, "brightness"))];
  const ParamSpec& b = room.step().spec->params[static_cast<std::size_t>(findParam(room.step().spec->params, "contrast"))];
  const double went = (std::get<double>(from.motion.far) - std::get<double>(from.base)) / (a.high() - a.low());
  const double goes = (std::get<double>(to.motion.far) - std::get<double>(to.base)) / (b.high() - b.low());
  QVERIFY2(std::abs(went - goes) < 0.02, qPrintable(QStringLiteral("%1 %2").arg(went).arg(goes)));
  // What cannot move like that says so.
  const Scene before = room.w.document().scene();
  QVERIFY(clickInMenu([&] { rightClick(paramRow(room.w, "noise", "churn")); }, QStringLiteral("Paste the motion")));
  QVERIFY(room.w.document().scene() == before && room.w.errorShown().contains(QStringLiteral("cannot swing")));
}

void TestValues::stepsComeAndGo() {
  Room room("noise", {"levels"});
  child<QToolButton>(room.card("levels"), "stepPresence")->click();
  oa::app::test::turn();
  QCOMPARE(room.step(1).presence.size(), std::size_t{1});
  auto* rows = room.card("levels")->findChild<PresenceRows*>();
  QVERIFY(rows && rows->isVisible());
  // The dial shows the step's arc and drags it; the layer's own presence is another one.
  Dial& dial = room.w.dial();
  QTRY_COMPARE(dial.presenceEnds().size(), std::size_t{2});
  const QPointF from = dial.presenceEnds()[1].place;
  const double radius = QLineF(from, dial.centre()).length();
  drag(&dial, from, dial.centre() + QPointF(radius, 0));
  QVERIFY(std::abs(room.step(1).presence[0].length - 0.25) < 0.03);
  QVERIFY(room.w.document().layer()->presence.empty());
  // Numbers; and gone again, it is always there.
  oa::app::test::typeInto(rows->findChildren<NumberField*>().at(0), "50");
  QCOMPARE(room.step(1).presence[0].from, 0.5);
  rows->findChild<QToolButton*>()->click();
  oa::app::test::turn();
  QVERIFY(room.step(1).presence.empty() && !room.card("levels")->findChild<PresenceRows*>());
}

void TestValues::theSceneHoldsItsPictures() {
  Room room("noise");
  room.w.showFrame();
  auto* row = child<QWidget>(&room.w, "sheet-frame")->findChild<QWidget*>(QStringLiteral("holdRow"));
  QVERIFY(row && row->isVisible());
  auto* field = child<NumberField>(row, "hold");
  oa::app::test::typeInto(field, "3");
  QCOMPARE(room.w.document().scene().hold, 3);
  QCOMPARE(distinctFrames(room.w.document().scene()), std::int64_t{24});
  auto* mend = child<QPushButton>(row, "mendHold");
  QVERIFY(!mend->isVisible());
  oa::app::test::typeInto(field, "5");
  QVERIFY(mend->isVisible());
  QTest::mouseClick(mend, Qt::LeftButton);
  QCOMPARE(room.w.document().scene().hold, 4);
  room.undo();
  QCOMPARE(room.w.document().scene().hold, 5);
}

void TestValues::aPartIsPlayedAlone() {
  Room room("noise");
  Player& player = room.w.player();
  // By keys, across the joint.
  player.setFrame(20);
  QTest::keyClick(&room.w, Qt::Key_I);
  player.setFrame(3);
  QTest::keyClick(&room.w, Qt::Key_O);
  QVERIFY((player.mark() == Player::Mark{20, 8}));
  room.bench.settle();
  std::set<int> seen;
  QObject::connect(&player, &Player::frameChanged, &room.w, [&](int frame) { seen.insert(frame); });
  player.setPlaying(true);
  QVERIFY(QTest::qWaitFor([&] { return seen.size() >= 8 && seen.count(3) && seen.count(20); }, 20000));
  player.setPlaying(false);
  for (const int frame : seen) QVERIFY2(frame >= 20 || frame <= 3, qPrintable(QString::number(frame)));
  QTest::keyClick(&room.w, Qt::Key_O, Qt::ShiftModifier);
  QVERIFY(!player.mark());
  // And by a drag round the dial.
  Dial& dial = room.w.dial();
  const double r = dial.radius();
  QTest::mousePress(&dial, Qt::LeftButton, Qt::ShiftModifier, (dial.centre() + QPointF(r, 0)).toPoint());
  for (const QPointF& to : {QPointF(r * 0.7, r * 0.7), QPointF(0, r)}) {
    QMouseEvent move(QEvent::MouseMove, dial.centre() + to, dial.mapToGlobal(dial.centre() + to), Qt::NoButton, Qt::LeftButton,
                     Qt::ShiftModifier);
    QApplication::sendEvent(&dial, &move);
  }
  QTest::mouseRelease(&dial, Qt::LeftButton, Qt::ShiftModifier, (dial.centre() + QPointF(0, r)).toPoint());
  QVERIFY(player.mark() && std::abs(player.mark()->from - 6) <= 1 && std::abs(player.mark()->length - 7) <= 1);
}

void TestValues::placesAreShownInPixels() {
  Room room("shape");
  auto* card = child<OwnCard>(&room.w, "placeCard");
  const auto across = [&] {
    return child<OwnCard>(&room.w, "placeCard")
        ->findChild<ParamRow*>(QStringLiteral("param-position"))
        ->findChildren<NumberField*>()
        .first();
  };
  QCOMPARE(across()->value(), 0.5);
  child<QPushButton>(card, "placeUnit")->click();
  oa::app::test::turn();
  QCOMPARE(across()->value(), 240.0);
  oa::app::test::typeInto(across(), "120");
  QCOMPARE(std::get<Point>(room.w.document().layer()->place[0].base).x, 0.25);
  // Another frame: the same share is other pixels.
  room.w.document().edit(QStringLiteral("size"), {}, [](Scene& s) { resizeFrame(s, 960, 540, true); });
  oa::app::test::turn();
  QCOMPARE(across()->value(), 240.0);
  child<QPushButton>(child<OwnCard>(&room.w, "placeCard"), "placeUnit")->click();
  oa::app::test::turn();
  QCOMPARE(across()->value(), 0.25);
}

void TestValues::sizesBelongTogether() {
  Room room("shape");
  const auto size = [&] { return std::get<Point>(room.w.document().layer()->place[static_cast<std::size_t>(PlaceParam::Size)].base); };
  auto* row = child<OwnCard>(&room.w, "placeCard")->findChild<ParamRow*>(QStringLiteral("param-size"));
  oa::app::test::typeInto(row->findChildren<NumberField*>().first(), "150");
  QVERIFY2((size() == Point{1.5, 1.5}), qPrintable(QStringLiteral("%1 %2").arg(size().x).arg(size().y)));
  auto* linked = child<OwnCard>(&room.w, "placeCard")->findChild<ParamRow*>(QStringLiteral("param-linked"));
  QTest::mouseClick(linked->findChild<QAbstractButton*>(), Qt::LeftButton, Qt::NoModifier, QPoint(8, 8));
  oa::app::test::typeInto(row->findChildren<NumberField*>().last(), "50");
  QVERIFY((size() == Point{1.5, 0.5}));
}

void TestValues::whatLiesBelowIsALayer() {
  Room room("noise");
  room.w.commands().action(QStringLiteral("layerOfBelow"))->trigger();
  QCOMPARE(room.w.document().scene().layers.size(), std::size_t{2});
  QVERIFY(room.w.document().layer()->recipe[0].spec->reads == SourceReads::Below);
  QCOMPARE(room.w.document().currentLayer(), layerId(room.w, 1));
}

QTEST_MAIN(TestValues)
#include "tst_values.moc"
