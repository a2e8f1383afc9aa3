// Repeats and outlines in the real window: jobs from the gallery to the loop, their actions counted; an outline drawn in the picture,
// posed, hung with strands, and undone; cards that read in their order.
#include <QClipboard>
#include <QComboBox>
#include <QAbstractButton>
#include <QContextMenuEvent>
#include <QPushButton>
#include <QSignalSpy>
#include <QToolButton>

#include "edit/outlines.h"
#include "support/counted.h"
#include "support/media.h"
#include "support/room.h"
#include "widgets/ask_colour.h"
#include "widgets/card_section.h"
#include "widgets/file_editor.h"
#include "widgets/items_editor.h"
#include "widgets/motion_pill.h"
#include "widgets/recipe_panel.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using namespace oa::app::test;

namespace {

struct Room {
  Window w;
  explicit Room(std::vector<Layer> layers = {}) {
    Scene scene;
    scene.width = 640;
    scene.height = 360;
    scene.rate = {24, 1};
    scene.frames = 96;
    scene.background = hexColour(0x10222c);
    scene.layers = std::move(layers);
    if (scene.layers.empty()) scene.layers.push_back(newLayer(*findStep("flat"), "Ground"));
    showWith(w, &scene);
  }
  [[nodiscard]] const Scene& scene() { return w.document().scene(); }
  [[nodiscard]] View& view() { return w.view(); }
  [[nodiscard]] const RecipeStep& source() { return w.document().layer()->recipe[0]; }
  [[nodiscard]] const Param& param(const char* id) { return sourceParam(w, id); }
  [[nodiscard]] const Param& stamp(const char* id, std::size_t which = 0) {
    return source().items[which].params[static_cast<std::size_t>(findParam(source().spec->items->params, id))];
  }
};

// Where a place of an outline is seen in the view.
QPointF seen(Room& room, Point p) {
  const Affine place = edit::outlinePlace(room.source(), {room.w.player().frame(), room.scene().frames}, {640, 360});
  const Point at = place(p);
  const QRectF frame = room.view().frameRect();
  return frame.topLeft() + QPointF(at.x, at.y) * (frame.width() / 640);
}

Outline outlineNow(Room& room) {
  const auto specs = room.source().spec->params;
  return edit::outlineAt(specs[static_cast<std::size_t>(findParam(specs, "outline"))], room.param("outline"),
                         {room.w.player().frame(), room.scene().frames});
}

Layer outlineLayer() {
  Layer layer = newLayer(*findStep("outline"), "Pennant");
  RecipeStep& source = layer.recipe[0];
  source.params[static_cast<std::size_t>(findParam(source.spec->params, "outline"))].base =
      *outlineFromPath("M-120 -80 L120 -80 L120 80 L-120 80 Z");
  return layer;
}

}  // namespace

class TestRepeats : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void levelBarsThatDance();
  void drawingsThatFall();
  void lampsAlongSixLines();
  void aLightRoundAPanel();
  void bubblesBehindAFigure();
  void sparkles();
  void theCardReadsInItsOrder();
  void oneNumberIsTheShimmer();
  void anOutlineIsDrawnAndPosed();
  void pointsComeGoAndTurnRound();
  void aMirrorAndKeys();
  void singleCopiesAreChosen();
  void copiesWithoutAMouse();
  void lengthsAndWaysAreDragged();
};

// The six jobs of the brief.
void TestRepeats::levelBarsThatDance() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Brass band"));
  told("nine level bars that dance unevenly", hands, 8);
  QCOMPARE(std::get<double>(room.param("columns").base), 9.0);
  QVERIFY(moves(room.param("level")));
  QCOMPARE(std::get<std::string>(room.param("order").base), std::string("random"));
}

void TestRepeats::drawingsThatFall() {
  Room room;
  Hands hands(room.w);
  hands.drop({QStringLiteral("paper.png")});
  hands.addLayer(QStringLiteral("First snow"));
  hands.choose("repeat", "kind", QStringLiteral("Picture"));
  // The file is dropped on its row.
  auto* row = paramRow(room.w, "repeat", "file");
  QVERIFY(row && row->isVisible());
  hands.count();
  dropFiles(room.w, row->findChild<FileEditor*>(), {kMedia + "lantern.svg"});
  QTRY_VERIFY(!std::get<MediaRef>(room.stamp("file").base).empty());
  hands.type("repeat", "depths", QStringLiteral("2"));
  told("falling drawings in two sizes over a picture", hands, 6);
  QCOMPARE(std::get<std::string>(room.stamp("kind").base), std::string("picture"));
  QCOMPARE(std::get<double>(room.param("depths").base), 2.0);
}

void TestRepeats::lampsAlongSixLines() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Six lines of lamps"));
  told("lamps along six drooping lines that blink unevenly", hands, 8);
  QCOMPARE(std::get<double>(room.param("lines").base), 6.0);
  QCOMPARE(room.stamp("opacity").motion.kind, MotionKind::Switch);
}

void TestRepeats::aLightRoundAPanel() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Light round a panel"));
  told("a light running round a panel", hands, 5);
  QVERIFY(std::get<double>(room.param("lights").base) >= 1 && std::get<Outline>(room.param("outline").base).closed);
}

void TestRepeats::bubblesBehindAFigure() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Bubbles"));
  hands.addLayer(QStringLiteral("Sea lantern"));
  QCOMPARE(room.scene().layers.size(), std::size_t{3});
  QCOMPARE(QString::fromStdString(room.w.document().layer()->name), QStringLiteral("Sea lantern"));
  told("bubbles passing upwards behind a posed figure with seven strands", hands, 20);
  QCOMPARE(std::get<double>(room.param("strands").base), 7.0);
  QCOMPARE(room.param("outline").motion.kind, MotionKind::Keyframes);
  QCOMPARE(room.scene().layers.size(), std::size_t{3});
  QCOMPARE(room.w.document().currentLayer(), room.scene().layers[2].id);
}

void TestRepeats::sparkles() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Twinkle"));
  told("sparkles that come and go", hands, 4);
  QVERIFY(moves(room.stamp("opacity")));
}

// Stamps, spread, differences, head starts; what nobody touched is folded, and opens by a click and by a key.
void TestRepeats::theCardReadsInItsOrder() {
  Room room({newLayer(*findStep("repeat"), "Lamps")});
  auto* card = room.w.recipe().findChild<QWidget*>(QStringLiteral("card-repeat"));
  QVERIFY(card);
  auto* items = card->findChild<ItemsEditor*>();
  std::vector<CardSection*> sections;
  for (const char* title : {"section-Spread", "section-Differences", "section-Head starts"})
    sections.push_back(child<CardSection>(card, title));
  const auto top = [&](const QWidget* widget) { return widget->mapTo(card, QPoint()).y(); };
  QVERIFY(top(items) < top(sections[0]) && top(sections[0]) < top(sections[1]) && top(sections[1]) < top(sections[2]));
  QVERIFY(!sections[0]->folded() && sections[1]->folded() && sections[2]->folded());
  QVERIFY(!paramRow(room.w, "repeat", "sizeBy")->isVisible());
  auto* heading = child<QToolButton>(sections[1], "sectionHeading");
  QTest::mouseClick(heading, Qt::LeftButton);
  QVERIFY(paramRow(room.w, "repeat", "sizeBy")->isVisible());
  heading->setFocus();
  QTest::keyClick(heading, Qt::Key_Return);
  QVERIFY(!paramRow(room.w, "repeat", "sizeBy")->isVisible());
  // What was opened stays open when the card is made anew, and what was set is open from the start.
  QTest::mouseClick(heading, Qt::LeftButton);
  room.w.document().performHere(QStringLiteral("add"), [&](Scene& s) { return Result<int>(s.layers.front().visible = true); });
  QTest::mouseClick(child<QToolButton>(child<QWidget>(&room.w.recipe(), "card-repeat"), "addItem"), Qt::LeftButton);
  QVERIFY(!child<CardSection>(&room.w.recipe(), "section-Differences")->folded());
  QCOMPARE(room.source().items.size(), std::size_t{2});
  // Another spread asks for other things.
  Hands hands(room.w);
  QVERIFY(!paramRow(room.w, "repeat", "droop")->isVisible());
  hands.choose("repeat", "spread", QStringLiteral("Line"));
  QVERIFY(paramRow(room.w, "repeat", "droop")->isVisible() && !paramRow(room.w, "repeat", "columns")->isVisible());
  QTest::keyClick(&room.w, Qt::Key_Z, Qt::ControlModifier);
  QVERIFY(!paramRow(room.w, "repeat", "droop")->isVisible());
}

// A motion of the stamp, and how far its copies are apart in time.
void TestRepeats::oneNumberIsTheShimmer() {
  Room room({newLayer(*findStep("repeat"), "Lamps")});
  auto* pill = paramRow(room.w, "repeat", "opacity")->findChild<MotionPill*>();
  QVERIFY(clickInMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); }, QStringLiteral("Switch")));
  QCOMPARE(room.stamp("opacity").motion.kind, MotionKind::Switch);
  room.w.activateWindow();
  QVERIFY(QTest::qWaitForWindowActive(&room.w));
  auto* section = child<CardSection>(&room.w.recipe(), "section-Head starts");
  if (section->folded()) QTest::mouseClick(child<QToolButton>(section, "sectionHeading"), Qt::LeftButton);
  Hands hands(room.w);
  hands.type("repeat", "ahead", QStringLiteral("3"));
  QCOMPARE(std::get<double>(room.param("ahead").base), 3.0);
  QTest::keyClick(&room.w, Qt::Key_Z, Qt::ControlModifier);
  QCOMPARE(std::get<double>(room.param("ahead").base), 1.0);
}

// Drawn by dragging its points, posed at another moment, hung with strands, and all of it undone.
void TestRepeats::anOutlineIsDrawnAndPosed() {
  Room room({outlineLayer()});
  const Scene before = room.scene();
  auto* edit = paramRow(room.w, "outline", "outline")->findChild<QToolButton*>(QStringLiteral("editOutline"));
  QVERIFY(edit);
  QTest::mouseClick(edit, Qt::LeftButton);
  QVERIFY(edit->isChecked());
  View& view = room.view();
  const double zoom = view.frameRect().width() / 640;
  drag(&view, seen(room, {120, -80}), seen(room, {120, -80}) + QPointF(33, -21) * zoom);
  Outline now = outlineNow(room);
  QVERIFY2(std::hypot(now.points[1].at.x - 153, now.points[1].at.y + 101) < 4, qPrintable(QString::number(now.points[1].at.x)));
  QCOMPARE(now.points[0].at.x, -120.0);
  QCOMPARE(room.w.document().history().undoText(), QStringLiteral("Pennant · move a point of the outline").section(" · ", 1));
  // By keyframes: at another moment a drag makes another pose.
  auto* pill = paramRow(room.w, "outline", "outline")->findChild<MotionPill*>();
  QVERIFY(clickInMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); }, QStringLiteral("Keyframes")));
  room.w.activateWindow();
  QVERIFY(QTest::qWaitForWindowActive(&room.w));
  const std::size_t poses = room.param("outline").motion.keys.size();
  room.w.player().setFrame(24);
  const Point corner = outlineNow(room).points[2].at;
  drag(&view, seen(room, corner), seen(room, corner) + QPointF(-40, 30) * zoom);
  QCOMPARE(room.param("outline").motion.keys.size(), poses + 1);
  QVERIFY(std::hypot(outlineNow(room).points[2].at.x - corner.x + 40, outlineNow(room).points[2].at.y - corner.y - 30) < 4);
  // Once more at the same moment: the same pose.
  const Point again = outlineNow(room).points[0].at;
  drag(&view, seen(room, again), seen(room, again) + QPointF(-12, -9) * zoom);
  QCOMPARE(room.param("outline").motion.keys.size(), poses + 1);
  Hands hands(room.w);
  auto* section = child<CardSection>(&room.w.recipe(), "section-Strands");
  if (section->folded()) QTest::mouseClick(child<QToolButton>(section, "sectionHeading"), Qt::LeftButton);
  hands.type("outline", "strands", QStringLiteral("9"));
  hands.type("outline", "strandAhead", QStringLiteral("2"));
  QCOMPARE(std::get<double>(room.param("strands").base), 9.0);
  for (int i = 0; i < 20 && room.w.document().history().canUndo(); ++i) QTest::keyClick(&room.w, Qt::Key_Z, Qt::ControlModifier);
  QVERIFY(room.scene() == before);
}

void TestRepeats::pointsComeGoAndTurnRound() {
  Room room({outlineLayer()});
  QTest::mouseClick(paramRow(room.w, "outline", "outline")->findChild<QToolButton*>(QStringLiteral("editOutline")), Qt::LeftButton);
  View& view = room.view();
  const auto doubleClick = [&](Point p) { QTest::mouseDClick(&view, Qt::LeftButton, Qt::NoModifier, seen(room, p).toPoint()); };
  // On the line: one more, where the line was.
  doubleClick({30, -80});
  QCOMPARE(outlineNow(room).points.size(), std::size_t{5});
  QVERIFY(std::hypot(outlineNow(room).points[1].at.x - 30, outlineNow(room).points[1].at.y + 80) < 4);
  // On a point: round, and a corner again.
  doubleClick({120, 80});
  QVERIFY(!oa::edit::isCorner(outlineNow(room).points[3]));
  // What pulls is dragged like a point, once its point is chosen.
  QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, seen(room, {120, 80}).toPoint());
  const Point pull = outlineNow(room).points[3].after;
  drag(&view, seen(room, pull), seen(room, pull) + QPointF(0, 25));
  QVERIFY(outlineNow(room).points[3].after.y > pull.y + 5);
  QCOMPARE(outlineNow(room).points[3].at.x, 120.0);
  doubleClick({120, 80});
  QVERIFY(oa::edit::isCorner(outlineNow(room).points[3]));
  // Away with it; two stay, whatever is pressed.
  for (int i = 0; i < 6; ++i) {
    const Outline now = outlineNow(room);
    QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, seen(room, now.points.back().at).toPoint());
    view.setFocus();
    QTest::keyClick(&view, Qt::Key_Delete);
  }
  QCOMPARE(outlineNow(room).points.size(), std::size_t{2});
  // Escape ends it, and the handles of the place are there again.
  QTest::keyClick(&view, Qt::Key_Escape);
  QVERIFY(!room.w.document().editedInPicture());
}

void TestRepeats::aMirrorAndKeys() {
  Room room({outlineLayer()});
  QTest::mouseClick(paramRow(room.w, "outline", "outline")->findChild<QToolButton*>(QStringLiteral("editOutline")), Qt::LeftButton);
  View& view = room.view();
  // With Shift both sides go.
  const QPointF from = seen(room, {120, -80});
  QTest::mousePress(&view, Qt::LeftButton, Qt::ShiftModifier, from.toPoint());
  for (int i = 1; i <= 6; ++i) {
    QMouseEvent move(QEvent::MouseMove, from + QPointF(5 * i, 4 * i), view.mapToGlobal(from + QPointF(5 * i, 4 * i)), Qt::NoButton,
                     Qt::LeftButton, Qt::ShiftModifier);
    QApplication::sendEvent(&view, &move);
  }
  QTest::mouseRelease(&view, Qt::LeftButton, Qt::ShiftModifier, (from + QPointF(30, 24)).toPoint());
  const Outline now = outlineNow(room);
  QVERIFY(now.points[1].at.x > 130);
  QCOMPARE(now.points[0].at.x, -now.points[1].at.x);
  QCOMPARE(now.points[0].at.y, now.points[1].at.y);
  // Arrow keys move the chosen one, with Shift by ten.
  view.setFocus();
  const Point at = now.points[1].at;
  QTest::keyClick(&view, Qt::Key_Right);
  QTest::keyClick(&view, Qt::Key_Down, Qt::ShiftModifier);
  QVERIFY(std::abs(outlineNow(room).points[1].at.x - at.x - 1) < 1e-9 && std::abs(outlineNow(room).points[1].at.y - at.y - 10) < 1e-9);
  // Without a mouse: Page Down chooses the next one.
  const Point second = outlineNow(room).points[2].at;
  QTest::keyClick(&view, Qt::Key_PageDown);
  QTest::keyClick(&view, Qt::Key_Left);
  QCOMPARE(outlineNow(room).points[2].at.x, second.x - 1);
  QTest::keyClick(&view, Qt::Key_PageUp);
  QTest::keyClick(&view, Qt::Key_PageUp);
  QTest::keyClick(&view, Qt::Key_Up);
  QCOMPARE(outlineNow(room).points[0].at.y, now.points[0].at.y - 1);
  // As a path to other programs, and from them.
  auto* row = paramRow(room.w, "outline", "outline");
  const auto menu = [&] {
    QContextMenuEvent event(QContextMenuEvent::Mouse, QPoint(4, 4), row->mapToGlobal(QPoint(4, 4)));
    QApplication::sendEvent(row, &event);
  };
  QVERIFY(clickInMenu(menu, QStringLiteral("Copy it as an SVG path")));
  QCOMPARE(QGuiApplication::clipboard()->text().toStdString(), pathText(std::get<Outline>(room.param("outline").base)));
  QGuiApplication::clipboard()->setText(QStringLiteral(" M0 0 h90 v40 z "));
  QVERIFY(clickInMenu(menu, QStringLiteral("Paste an SVG path")));
  QCOMPARE(outlineNow(room).points.size(), std::size_t{3});
  QGuiApplication::clipboard()->setText(QStringLiteral("no path"));
  QVERIFY(!clickInMenu(menu, QStringLiteral("Paste an SVG path")));
  // Another layer: nothing is edited any more.
  room.w.document().performHere(QStringLiteral("x"), [](Scene& s) {
    s.layers.push_back(newLayer(*findStep("flat"), "Other"));
    return Result<int>(0);
  });
  room.w.document().setCurrentLayer(room.scene().layers[1].id);
  QVERIFY(!room.w.document().editedInPicture());
}

// The copies of the current layer, and where they are seen.
std::vector<CopyPlace> copiesOf(Room& room) {
  PlaneView frame;
  frame.frameWidth = 640;
  frame.frameHeight = 360;
  return room.source().spec->copies(contextOf(room.source(), {room.w.player().frame(), room.scene().frames}, frame));
}
QPointF seenAt(Room& room, Point p) {
  const QRectF frame = room.view().frameRect();
  return frame.topLeft() + QPointF(p.x, p.y) * (frame.width() / 640);
}
const CopyChanges& singlesOf(Room& room) { return std::get<CopyChanges>(room.param("singles").base); }

Layer sixRings() {
  Layer layer = newLayer(*findStep("repeat"), "Floats");
  const auto set = [&](const char* id, const Value& value) {
    layer.recipe[0].params[static_cast<std::size_t>(findParam(layer.recipe[0].spec->params, id))].base = value;
  };
  set("spread", std::string("grid"));
  set("columns", 3.0);
  set("rows", 2.0);
  set("distance", Point{160, 120});
  return layer;
}

QWidget* toolsOfCopies(Room& room, QToolButton*& choose) {
  auto* section = child<CardSection>(&room.w.recipe(), "section-Single copies");
  if (section->folded()) QTest::mouseClick(child<QToolButton>(section, "sectionHeading"), Qt::LeftButton);
  auto* row = paramRow(room.w, "repeat", "singles");
  choose = child<QToolButton>(row, "chooseCopies");
  return row;
}

void TestRepeats::singleCopiesAreChosen() {
  Room room({sixRings()});
  const Scene before = room.scene();
  QToolButton* choose = nullptr;
  auto* row = toolsOfCopies(room, choose);
  QVERIFY(!child<QWidget>(row, "copySize")->isVisible());
  QTest::mouseClick(choose, Qt::LeftButton);
  QVERIFY(choose->isChecked());
  QVERIFY(child<QWidget>(row, "copySize")->isVisible() && !child<QWidget>(row, "copySize")->isEnabled());
  View& view = room.view();
  const double zoom = view.frameRect().width() / 640;
  const auto places = copiesOf(room);
  QCOMPARE(places.size(), std::size_t{6});
  // One is dragged, and only that one goes.
  drag(&view, seenAt(room, places[1].at), seenAt(room, places[1].at) + QPointF(20, -12) * zoom);
  QCOMPARE(singlesOf(room).list.size(), std::size_t{1});
  const CopyChange* moved = singlesOf(room).find(places[1].copy);
  QVERIFY(moved && std::hypot(moved->by.x - 20, moved->by.y + 12) < 3);
  QCOMPARE(room.w.document().chosenCopies(), std::vector<std::uint64_t>{places[1].copy});
  QCOMPARE(room.w.document().history().undoText(), QStringLiteral("move copies"));
  // Another, and with Shift a second one beside it: both are sized by one number.
  QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, seenAt(room, places[3].at).toPoint());
  QTest::mouseClick(&view, Qt::LeftButton, Qt::ShiftModifier, seenAt(room, places[4].at).toPoint());
  QCOMPARE(room.w.document().chosenCopies().size(), std::size_t{2});
  typeInto(child<QWidget>(row, "copySize"), QStringLiteral("0.5"));
  QCOMPARE(singlesOf(room).find(places[3].copy)->size, 0.5);
  QCOMPARE(singlesOf(room).find(places[4].copy)->size, 0.5);
  QCOMPARE(copiesOf(room)[3].halfWidth, places[3].halfWidth / 2);
  typeInto(child<QWidget>(row, "copyTurn"), QStringLiteral("30"));
  QCOMPARE(singlesOf(room).find(places[4].copy)->turn, 30.0);
  // With Shift again it is not chosen any more.
  QTest::mouseClick(&view, Qt::LeftButton, Qt::ShiftModifier, seenAt(room, places[4].at).toPoint());
  QCOMPARE(room.w.document().chosenCopies(), std::vector<std::uint64_t>{places[3].copy});
  // In a colour of its own.
  QVERIFY(whenShown<ColourDialog>([&] { QTest::mouseClick(child<QWidget>(row, "copyColour"), Qt::LeftButton); },
                                  [](ColourDialog& dialog) {
                                    QTest::mouseClick(child<QAbstractButton>(&dialog, "palette-0"), Qt::LeftButton);
                                    dialog.accept();
                                  }));
  QCOMPARE(singlesOf(room).find(places[3].copy)->colour, std::optional(room.w.document().colours().front()));
  // A band about the lower row takes all three, and Delete leaves them out: they can be chosen and brought back.
  const QPointF from = seenAt(room, {60, 200});
  drag(&view, from, seenAt(room, {580, 300}));
  QCOMPARE(room.w.document().chosenCopies().size(), std::size_t{3});
  view.setFocus();
  QTest::keyClick(&view, Qt::Key_Delete);
  int out = 0;
  for (const CopyPlace& place : copiesOf(room)) out += place.out;
  QCOMPARE(out, 3);
  QVERIFY(child<QPushButton>(row, "copiesOut")->isChecked());
  QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, seenAt(room, copiesOf(room)[5].at).toPoint());
  QTest::mouseClick(child<QPushButton>(row, "copiesOut"), Qt::LeftButton);
  out = 0;
  for (const CopyPlace& place : copiesOf(room)) out += place.out;
  QCOMPARE(out, 2);
  // As the others again: what was said of it is forgotten.
  QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, seenAt(room, copiesOf(room)[1].at).toPoint());
  QTest::mouseClick(child<QPushButton>(row, "copiesReset"), Qt::LeftButton);
  QVERIFY(!singlesOf(room).find(places[1].copy));
  // What is changed stays where the spread changes, and all of it is undone.
  room.w.activateWindow();
  QVERIFY(QTest::qWaitForWindowActive(&room.w));
  Hands hands(room.w);
  hands.type("repeat", "distance", QStringLiteral("150"));
  QCOMPARE(singlesOf(room).find(places[3].copy)->size, 0.5);
  for (int i = 0; i < 30 && room.w.document().history().canUndo(); ++i) QTest::keyClick(&room.w, Qt::Key_Z, Qt::ControlModifier);
  QVERIFY(room.scene() == before);
  view.setFocus();
  QTest::keyClick(&view, Qt::Key_Escape);
  QVERIFY(!choose->isChecked() && !child<QWidget>(row, "copySize")->isVisible());
}

void TestRepeats::copiesWithoutAMouse() {
  Room room({sixRings()});
  QToolButton* choose = nullptr;
  toolsOfCopies(room, choose);
  choose->setFocus();
  QTest::keyClick(choose, Qt::Key_Return);
  QVERIFY(choose->isChecked());
  View& view = room.view();
  view.setFocus();
  const auto places = copiesOf(room);
  QTest::keyClick(&view, Qt::Key_PageDown);
  QTest::keyClick(&view, Qt::Key_PageDown);
  QCOMPARE(room.w.document().chosenCopies(), std::vector<std::uint64_t>{places[1].copy});
  QTest::keyClick(&view, Qt::Key_Right);
  QTest::keyClick(&view, Qt::Key_Right);
  QTest::keyClick(&view, Qt::Key_Up, Qt::ShiftModifier);
  QCOMPARE(singlesOf(room).find(places[1].copy)->by.x, 2.0);
  QCOMPARE(singlesOf(room).find(places[1].copy)->by.y, -10.0);
  QTest::keyClick(&view, Qt::Key_PageUp);
  QTest::keyClick(&view, Qt::Key_PageUp);
  QCOMPARE(room.w.document().chosenCopies(), std::vector<std::uint64_t>{places[5].copy});
  QTest::keyClick(&view, Qt::Key_Delete);
  QVERIFY(singlesOf(room).find(places[5].copy)->out);
  QTest::keyClick(&view, Qt::Key_Delete);
  QVERIFY(!singlesOf(room).find(places[5].copy));
}

// Radius, direction and distance by their grips in the picture.
void TestRepeats::lengthsAndWaysAreDragged() {
  Room room({sixRings()});
  View& view = room.view();
  const double zoom = view.frameRect().width() / 640;
  // From the middle of the frame by the distance across and down.
  drag(&view, seenAt(room, {320 + 160, 180 + 120}), seenAt(room, {320 + 100, 180 + 70}));
  Point distance = std::get<Point>(room.param("distance").base);
  QVERIFY2(std::hypot(distance.x - 100, distance.y - 70) < 4, qPrintable(QStringLiteral("%1 %2").arg(distance.x).arg(distance.y)));
  // Turned as all of it is.
  Hands hands(room.w);
  hands.type("repeat", "spin", QStringLiteral("90"));
  drag(&view, seenAt(room, {320 - distance.y, 180 + distance.x}), seenAt(room, {320 - 50, 180 + 80}));
  distance = std::get<Point>(room.param("distance").base);
  QVERIFY2(std::hypot(distance.x - 80, distance.y - 50) < 4, qPrintable(QStringLiteral("%1 %2").arg(distance.x).arg(distance.y)));
  hands.type("repeat", "spin", QStringLiteral("0"));
  hands.choose("repeat", "spread", QStringLiteral("Ring"));
  hands.type("repeat", "radius", QStringLiteral("120"));
  drag(&view, seenAt(room, {440, 180}), seenAt(room, {320, 180 + 90}));
  QVERIFY(std::abs(std::get<double>(room.param("radius").base) - 90) < 4);
  QTest::keyClick(&room.w, Qt::Key_Z, Qt::ControlModifier);
  QCOMPARE(std::get<double>(room.param("radius").base), 120.0);
  hands.choose("repeat", "spread", QStringLiteral("Falling"));
  const double way = 0.18 * 360;
  drag(&view, seenAt(room, {320, 180 + way}), seenAt(room, {320, 180 + way}) + QPointF(way, -way) * zoom);
  QVERIFY(std::abs(std::get<double>(room.param("direction").base)) < 3);
}

QTEST_MAIN(TestRepeats)
#include "tst_repeats.moc"
