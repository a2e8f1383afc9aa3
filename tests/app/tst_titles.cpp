// Words in the real window: typed on their card, in another font, letter by letter, on a panel; all of it undone; and what looks at them
// follows.
#include <QComboBox>
#include <QMenuBar>
#include <QToolButton>

#include "support/counted.h"
#include "support/room.h"
#include "top_bar.h"
#include "widgets/card_section.h"
#include "widgets/motion_pill.h"
#include "widgets/recipe_panel.h"
#include "widgets/text_field.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using namespace oa::app::test;

namespace {

struct Room {
  Window w;
  Room() {
    Scene scene;
    scene.width = 640;
    scene.height = 360;
    scene.rate = {24, 1};
    scene.frames = 48;
    scene.layers.push_back(newLayer(*findStep("flat"), "Ground"));
    showWith(w, &scene);
  }
  [[nodiscard]] const Param& param(const char* id) { return sourceParam(w, id); }
  [[nodiscard]] std::string words() { return std::get<oa::Text>(param("text").base).text; }
  [[nodiscard]] TextField* field() { return paramRow(w, "words", "text")->findChild<TextField*>(); }
};

void openMenu(Window& w, const QString& title) {
  auto* bar = w.topBar().findChild<QMenuBar*>();
  for (QAction* action : bar->actions())
    if (action->text().remove(QLatin1Char('&')) == title)
      QTest::mouseClick(bar, Qt::LeftButton, Qt::NoModifier, bar->actionGeometry(action).center());
}

}  // namespace

class TestTitles : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void wordsAreTyped();
  void undoIsTheScenes();
  void fromThePicture();
  void anotherFont();
  void letterByLetter();
  void aPanelThatFits();
  void heroWordsWithAWall();
  void wordsStandOnALine();
};

void TestTitles::wordsAreTyped() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Title"));
  QCOMPARE(room.words(), std::string("Harbour\nDays"));
  TextField* field = room.field();
  QVERIFY(field && field->isVisible());
  QCOMPARE(field->toPlainText(), QStringLiteral("Harbour\nDays"));
  QTest::mouseClick(field->viewport(), Qt::LeftButton, Qt::NoModifier, QPoint(20, 12));
  QVERIFY(field->hasFocus());
  QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
  // Space and Return are typed, and do not play or press anything.
  QTest::keyClicks(field, QStringLiteral("see you"));
  QTest::keyClick(field, Qt::Key_Return);
  QTest::keyClicks(field, QStringLiteral("there"));
  QCOMPARE(room.words(), std::string("see you\nthere"));
  QVERIFY(!room.w.player().playing());
  // The view shows it soon: what is seen changes.
  QTRY_VERIFY(!room.w.view().image().isNull());
}

// What was typed in one go is one step, and what stands in the field follows.
void TestTitles::undoIsTheScenes() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Title"));
  TextField* field = room.field();
  field->setFocus();
  QTest::keyClick(field, Qt::Key_End, Qt::ControlModifier);
  QTest::keyClicks(field, QStringLiteral(" again 2027"));
  QCOMPARE(room.words(), std::string("Harbour\nDays again 2027"));
  QTest::keyClick(field, Qt::Key_Z, Qt::ControlModifier);
  QCOMPARE(room.words(), std::string("Harbour\nDays again"));
  QTest::keyClick(field, Qt::Key_Z, Qt::ControlModifier);
  QCOMPARE(room.words(), std::string("Harbour\nDays"));
  QCOMPARE(field->toPlainText(), QStringLiteral("Harbour\nDays"));
  QTest::keyClick(field, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
  QCOMPARE(room.words(), std::string("Harbour\nDays again"));
  // Tab leaves the field.
  QTest::keyClick(field, Qt::Key_Tab);
  QVERIFY(!field->hasFocus());
  QCOMPARE(room.words(), std::string("Harbour\nDays again"));
}

// A double-click on them in the picture: what is typed then goes in their place.
void TestTitles::fromThePicture() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Title"));
  View& view = room.w.view();
  const QPoint middle = view.place().corners().boundingRect().center().toPoint();
  QTest::mouseDClick(&view, Qt::LeftButton, Qt::NoModifier, middle + QPoint(30, 10));
  QVERIFY(view.hasFocus() && view.typing().shown());
  // Into whatever has the focus, letters and spaces that are shortcuts elsewhere among them.
  const auto type = [&](const QString& typed) { QTest::keyClicks(QApplication::focusWidget(), typed); };
  const auto press = [&](Qt::Key key, Qt::KeyboardModifiers with = {}) { QTest::keyClick(QApplication::focusWidget(), key, with); };
  const int frame = room.w.player().frame();
  type(QStringLiteral("Regatta at nine"));
  QCOMPARE(room.words(), std::string("Regatta at nine"));
  QCOMPARE(room.field()->toPlainText(), QStringLiteral("Regatta at nine"));
  QVERIFY(!room.w.player().playing() && room.w.player().frame() == frame);
  // At the caret, wherever the keys have taken it.
  press(Qt::Key_Home);
  type(QStringLiteral("The "));
  press(Qt::Key_Right, Qt::ControlModifier);
  press(Qt::Key_Return);
  press(Qt::Key_End);
  press(Qt::Key_Backspace);
  press(Qt::Key_Left);
  press(Qt::Key_Delete);
  QCOMPARE(room.words(), std::string("The Regatta\n at ni"));
  press(Qt::Key_Up);
  press(Qt::Key_End);
  type(QStringLiteral("s"));
  QCOMPARE(room.words(), std::string("The Regattas\n at ni"));
  // Where it is clicked: before the first letter, whose caret stands at the left of the first line.
  press(Qt::Key_Home);
  const auto [top, bottom] = view.typing().caret();
  press(Qt::Key_End);
  QVERIFY(view.typing().caret().first.x() > top.x() + 60);
  QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, ((top + bottom) / 2 + QPointF(2, 0)).toPoint());
  type(QStringLiteral("*"));
  QCOMPARE(room.words(), std::string("*The Regattas\n at ni"));
  // It is taken back in a few steps, a word or so at a time; Escape, or a click elsewhere, and the words are a layer again.
  press(Qt::Key_Z, Qt::ControlModifier);
  QCOMPARE(room.words(), std::string("The Regattas\n at ni"));
  press(Qt::Key_Escape);
  QVERIFY(!view.typing().shown());
  int steps = 0;
  for (; room.words() != "Harbour\nDays" && steps < 10; ++steps) room.w.document().history().undo();
  QVERIFY2(steps >= 3 && steps < 8, qPrintable(QString::number(steps)));
  QTest::mouseDClick(&view, Qt::LeftButton, Qt::NoModifier, middle);
  QVERIFY(view.typing().shown());
  view.setZoom(0.3);
  QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, QPoint(40, view.height() / 2));
  QVERIFY(!view.typing().shown());
  // Elsewhere it is what it was: the picture is fitted.
  QTest::mouseDClick(&view, Qt::LeftButton, Qt::NoModifier, QPoint(30, view.height() - 60));
  QVERIFY(std::abs(view.zoom() - 0.3) > 1e-6);
}

void TestTitles::anotherFont() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Title"));
  hands.choose("words", "font", QStringLiteral("Dancing Script"));
  QCOMPARE(std::get<oa::Text>(room.param("font").base).text, std::string("Dancing Script"));
  // One that is not there is named, and kept.
  room.w.document().performHere(QStringLiteral("x"), [](Scene& s) {
    RecipeStep& source = s.layers[1].recipe[0];
    source.params[static_cast<std::size_t>(findParam(source.spec->params, "font"))].base = oa::Text{"Nowhere Sans"};
    return Result<int>(0);
  });
  auto* box = paramRow(room.w, "words", "font")->findChild<QComboBox*>();
  QCOMPARE(box->currentText(), QStringLiteral("Nowhere Sans (missing)"));
}

void TestTitles::letterByLetter() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Title"));
  auto* section = child<CardSection>(&room.w.recipe(), "section-Letter by letter");
  if (section->folded()) QTest::mouseClick(child<QToolButton>(section, "sectionHeading"), Qt::LeftButton);
  hands.choose("words", "order", QStringLiteral("From the middle"));
  auto* pill = paramRow(room.w, "words", "letterTurn")->findChild<MotionPill*>();
  QVERIFY(clickInMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); }, QStringLiteral("Swing")));
  QVERIFY(moves(room.param("letterTurn")));
  QVERIFY(paramRow(room.w, "words", "ahead")->isVisible());
}

void TestTitles::aPanelThatFits() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Lower panel"));
  QVERIFY(std::get<bool>(room.param("panel").base));
  const QRectF before = room.w.view().place().corners().boundingRect();
  TextField* field = room.field();
  field->setFocus();
  QTest::keyClick(field, Qt::Key_A, Qt::ControlModifier);
  QTest::keyClicks(field, QStringLiteral("Quay"));
  QVERIFY(room.w.view().place().corners().boundingRect().width() < 0.6 * before.width());
}

// Large words with the same behind them, turned and travelling; the words are changed once, and all follow.
void TestTitles::heroWordsWithAWall() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Title"));
  const Id title = room.w.document().currentLayer();
  hands.count();
  QVERIFY(clickInMenu([&] { openMenu(room.w, QStringLiteral("Layer")); }, QStringLiteral("Wall of many behind")));
  const auto& layers = room.w.document().scene().layers;
  QCOMPARE(layers.size(), std::size_t{3});
  QCOMPARE(layers[2].id, title);
  QCOMPARE(static_cast<Id>(std::get<double>(room.param("layer").base)), title);
  QCOMPARE(room.w.document().layer()->name, std::string("Wall of Title"));
  told("hero words with a wall of the same behind", hands, 15);
}

// The points of the line lie where they are drawn, however large the words are.
void TestTitles::wordsStandOnALine() {
  Room room;
  Hands hands(room.w);
  hands.addLayer(QStringLiteral("Title"));
  auto* section = child<CardSection>(&room.w.recipe(), "section-Along an outline");
  if (section->folded()) QTest::mouseClick(child<QToolButton>(section, "sectionHeading"), Qt::LeftButton);
  QVERIFY(paramRow(room.w, "words", "outline") == nullptr || !paramRow(room.w, "words", "outline")->isVisible());
  hands.choose("words", "set", QStringLiteral("Along an outline"));
  QTRY_VERIFY(paramRow(room.w, "words", "outline") && paramRow(room.w, "words", "outline")->isVisible());
  auto* edit = paramRow(room.w, "words", "outline")->findChild<QToolButton*>(QStringLiteral("editOutline"));
  QTest::mouseClick(edit, Qt::LeftButton);
  QVERIFY(edit->isChecked());
  View& view = room.w.view();
  const double zoom = view.frameRect().width() / 640;
  const auto points = [&] { return std::get<Outline>(room.param("outline").base).points; };
  QCOMPARE(points()[3].at, (Point{300, 0}));
  const QPointF right = view.frameRect().topLeft() + QPointF(620, 180) * zoom;
  drag(&view, right, right + QPointF(-90, -47) * zoom);
  QVERIFY2(std::hypot(points()[3].at.x - 210, points()[3].at.y + 47) < 4,
           qPrintable(QStringLiteral("%1, %2").arg(points()[3].at.x).arg(points()[3].at.y)));
  QCOMPARE(points()[1].at, (Point{-300, 0}));
  room.w.document().history().undo();
  QCOMPARE(points()[3].at, (Point{300, 0}));
}

QTEST_MAIN(TestTitles)
#include "tst_titles.moc"
