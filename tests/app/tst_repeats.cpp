// Repeats and outlines in the real window: jobs from the gallery to the loop, their actions counted; an outline drawn in the picture,
// posed, hung with strands, and undone; cards that read in their order.
#include <QClipboard>
#include <QComboBox>
#include <QContextMenuEvent>
#include <QSignalSpy>
#include <QToolButton>

#include "edit/outlines.h"
#include "support/counted.h"
#include "support/media.h"
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
    w.resize(1280, 800);
    w.show();
    Scene scene;
    scene.width = 640;
    scene.height = 360;
    scene.rate = {24, 1};
    scene.frames = 96;
    scene.background = hexColour(0x10222c);
    scene.layers = std::move(layers);
    if (scene.layers.empty()) scene.layers.push_back(newLayer(*findStep("flat"), "Ground"));
    w.document().reset(scene, {});
    w.activateWindow();
    (void)QTest::qWaitForWindowActive(&w);
  }
  [[nodiscard]] const Scene& scene() { return w.document().scene(); }
  [[nodiscard]] View& view() { return w.view(); }
  [[nodiscard]] const RecipeStep& source() { return w.document().layer()->recipe[0]; }
  [[nodiscard]] const Param& param(const char* id) {
    return source().params[static_cast<std::size_t>(findParam(source().spec->params, id))];
  }
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
  return edit::outlineAt(room.source().spec->params[0], room.param("outline"), {room.w.player().frame(), room.scene().frames});
}

Layer outlineLayer() {
  Layer layer = newLayer(*findStep("outline"), "Pennant");
  layer.recipe[0].params[0].base = *outlineFromPath("M-120 -80 L120 -80 L120 80 L-120 80 Z");
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
  QVERIFY(!room.w.document().editedOutline());
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
  QVERIFY(!room.w.document().editedOutline());
}

QTEST_MAIN(TestRepeats)
#include "tst_repeats.moc"
