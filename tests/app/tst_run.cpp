// The run in the real window: arrive, loop, leave as a strip that is dragged, scrubbed and played; what stands in front for judging; many
// titles from a table; lengths that fit, speeds and tempo.
#include <QComboBox>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenuBar>
#include <QPushButton>
#include <QSpinBox>
#include <QDir>
#include <QTableWidget>
#include <QTemporaryDir>
#include <QToolButton>

#include "edit/rhythms.h"
#include "edit/stand_ins.h"
#include "sheets/export_sheet.h"
#include "sheets/fit_sheet.h"
#include "sheets/passage_gallery.h"
#include "sheets/titles_sheet.h"
#include "support/counted.h"
#include "support/files.h"
#include "support/room.h"
#include "top_bar.h"
#include "widgets/motion_pill.h"
#include "widgets/number_field.h"
#include "widgets/own_card.h"
#include "widgets/passage_card.h"
#include "widgets/rate_dialog.h"
#include "widgets/recipe_card.h"
#include "widgets/recipe_panel.h"
#include "widgets/run_field.h"
#include "widgets/run_strip.h"
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
    scene.width = 320;
    scene.height = 180;
    scene.rate = {20, 1};
    scene.frames = 20;
    scene.layers.push_back(newLayer(*findStep("flat"), "Ground"));
    Layer shape = newLayer(*findStep("shape"), "Lamp");
    RecipeStep& source = shape.recipe[0];
    for (const auto& [id, v] : {std::pair{"width", 60.0}, {"height", 40.0}})
      source.params[static_cast<std::size_t>(findParam(source.spec->params, id))].base = v;
    scene.layers.push_back(shape);
    showWith(w, &scene);
    w.document().setCurrentLayer(w.document().scene().layers[1].id);
  }
  RunStrip& strip() { return w.runStrip(); }
  const Scene& scene() { return w.document().scene(); }
  // A title of such words, and the sheet of its table.
  TitlesSheet* titlesOf(const QString& words) {
    Hands(w).addLayer(QStringLiteral("Title"));
    typeWords(words);
    w.commands().action(QStringLiteral("titles"))->trigger();
    return child<TitlesSheet>(&w, "sheet-titles");
  }
  void typeWords(const QString& words) {
    auto* field = paramRow(w, "words", "text")->findChild<TextField*>();
    field->setFocus();
    field->selectAll();
    QTest::keyClicks(field, words);
  }
  // From the gallery, as a person picks it.
  void pick(const char* name) {
    QTRY_VERIFY(w.passages().isVisible());
    const int card = w.passages().cardOf(name);
    QVERIFY2(card >= 0, name);
    QTest::mouseClick(w.passages().card(card), Qt::LeftButton);
  }
  void clickPart(RunStrip::Part part) {
    QTest::mouseClick(&strip(), Qt::LeftButton, Qt::NoModifier, strip().rectOf(part).center().toPoint());
  }
  void settle() {
    QTRY_VERIFY_WITH_TIMEOUT(w.renderer().filled() >= 1, 30000);
    turn();
  }
};

QPointF middleOf(const QRectF& rect) { return rect.center(); }

}  // namespace

class TestRun : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void aLayerArrivesFromTheStrip();
  void theStripIsScrubbedAndPlayed();
  void partsAndBarsAreDragged();
  void theCardSetsValues();
  void stepsArriveByThemselves();
  void severalOneAfterTheOther();
  void standInsAreLeftOut();
  void partsAreExported();
  void aTableOfSix();
  void badRowsAreNamed();
  void lengthsThatFit();
  void speedsBecomeLaps();
  void tempoCountsTheLoop();
};

void TestRun::aLayerArrivesFromTheStrip() {
  Room room;
  QCOMPARE(runOf(room.scene()).arrive, 0);
  room.clickPart(RunStrip::Part::Arrive);
  room.pick("From below");
  QTRY_VERIFY(!room.w.passages().isVisible());
  QVERIFY(room.scene().layers[1].passes.arrive.has_value());
  QCOMPARE(runOf(room.scene()).arrive, 20);
  QCOMPARE(room.strip().bars().size(), std::size_t{1});
  room.clickPart(RunStrip::Part::Leave);
  room.pick("Fade");
  QVERIFY(room.scene().layers[1].passes.leave.has_value());
  QCOMPARE(room.strip().bars().size(), std::size_t{2});
  // Both are undone one by one.
  QTest::keyClick(&room.w, Qt::Key_Z, Qt::ControlModifier);
  QVERIFY(!room.scene().layers[1].passes.leave);
  QTest::keyClick(&room.w, Qt::Key_Z, Qt::ControlModifier);
  QVERIFY(!room.scene().layers[1].passes.any());
}

void TestRun::theStripIsScrubbedAndPlayed() {
  Room room;
  room.clickPart(RunStrip::Part::Arrive);
  room.pick("From below");
  const QRectF arrive = room.strip().rectOf(RunStrip::Part::Arrive);
  const QPointF begin(arrive.left() + 3, arrive.bottom() - 4);
  // A drag along the strip: first the layer is not there, then it comes.
  drag(&room.strip(), begin + QPointF(60, 0), begin);
  QVERIFY(room.w.player().inRun());
  QCOMPARE(room.w.player().place(), 0);
  room.settle();
  QTRY_VERIFY(!room.w.view().image().isNull());
  const auto lamp = [&] {
    const QImage image = room.w.view().image();
    return image.pixelColor(image.width() / 2, image.height() / 2);
  };
  QTRY_VERIFY(lamp() != QColor(Qt::white));
  const QColor ground = lamp();
  QTest::keyClick(&room.strip(), Qt::Key_End);
  QCOMPARE(room.w.player().place(), runOf(room.scene()).frames() - 1);
  QTRY_VERIFY(lamp() != ground);
  const QColor there = lamp();
  QTest::keyClick(&room.strip(), Qt::Key_Home);
  QTest::keyClick(&room.strip(), Qt::Key_Right);
  QTest::keyClick(&room.strip(), Qt::Key_Right, Qt::ShiftModifier);
  QCOMPARE(room.w.player().place(), 11);
  // Pointing into the dial goes back to the loop, where everything is there.
  room.w.player().setFrame(0);
  QVERIFY(!room.w.player().inRun());
  QTRY_COMPARE(lamp(), there);
  // Played, it comes by what arrives and goes on into the loop.
  QTest::mouseClick(child<QToolButton>(&room.w, "playRun"), Qt::LeftButton);
  QVERIFY(room.w.player().playing() && room.w.player().inRun());
  QTRY_VERIFY_WITH_TIMEOUT(room.w.player().place() > runOf(room.scene()).arrive + 2, 20000);
  QTest::mouseClick(child<QToolButton>(&room.w, "playRun"), Qt::LeftButton);
  QVERIFY(!room.w.player().playing());
  QTest::keyClick(&room.w, Qt::Key_Space, Qt::ShiftModifier);
  QVERIFY(room.w.player().playing() && room.w.player().inRun());
  QTest::keyClick(&room.w, Qt::Key_Space, Qt::ShiftModifier);
  QVERIFY(!room.w.player().playing());
}

void TestRun::partsAndBarsAreDragged() {
  Room room;
  room.clickPart(RunStrip::Part::Arrive);
  room.pick("Fade");
  room.clickPart(RunStrip::Part::Leave);
  room.pick("Fade");
  const auto passing = [&](bool leaving) { return passingOf(*room.scene().layers[1].passes.way(leaving)); };
  const int steps = room.w.document().history().count();
  const auto bar = room.strip().bars().front();
  QVERIFY(!bar.leaving);
  // Later: it waits, and what arrives takes longer. One step of undo.
  drag(&room.strip(), middleOf(bar.rect), middleOf(bar.rect) + QPointF(40, 0));
  QVERIFY(passing(false).delay > 0.05);
  QCOMPARE(passing(false).lasts, 0.8);
  QCOMPARE(room.w.document().history().count(), steps + 1);
  const double delay = passing(false).delay;
  const QRectF moved = room.strip().bars().front().rect;
  drag(&room.strip(), QPointF(moved.right() - 1, moved.center().y()), QPointF(moved.right() - 50, moved.center().y()));
  QVERIFY(passing(false).lasts < 0.75);
  QCOMPARE(passing(false).delay, delay);
  // The whole part: everything in it in proportion.
  const double share = passing(false).delay / passing(false).lasts;
  const std::int64_t before = runOf(room.scene()).arrive;
  const QRectF loop = room.strip().rectOf(RunStrip::Part::Loop);
  drag(&room.strip(), QPointF(loop.left(), loop.bottom() - 6), QPointF(loop.left() + 60, loop.bottom() - 6));
  QVERIFY(runOf(room.scene()).arrive > before);
  QVERIFY(std::abs(passing(false).delay / passing(false).lasts - share) < 1e-6);
  // More loops, by the edge and by number.
  const QRectF wide = room.strip().rectOf(RunStrip::Part::Loop);
  drag(&room.strip(), QPointF(wide.right(), wide.bottom() - 6), QPointF(wide.right() + 60, wide.bottom() - 6));
  QCOMPARE(room.scene().run.loops, 3);
  auto* loops = child<RunField>(&room.w, "runLoops");
  QVERIFY(loops->text().endsWith(QLatin1Char('3')));
  typeInto(loops, QStringLiteral("5"));
  QCOMPARE(room.scene().run.loops, 5);
  QCOMPARE(runOf(room.scene()).loop, 100);
  // In seconds, typed and dragged; what is neither changes nothing.
  typeInto(loops, QStringLiteral("3.5 s"));
  QCOMPARE(room.scene().run.seconds, 3.5);
  QCOMPARE(runOf(room.scene()).loop, 70);
  const QRectF inSeconds = room.strip().rectOf(RunStrip::Part::Loop);
  drag(&room.strip(), QPointF(inSeconds.right(), inSeconds.bottom() - 6), QPointF(inSeconds.right() + 60, inSeconds.bottom() - 6));
  const double longer = room.scene().run.seconds;
  QVERIFY(longer > 4);
  for (const char* nothing : {"some", "0", "-2", "0 s", "3 laps or so"}) {
    typeInto(loops, QString::fromLatin1(nothing));
    QCOMPARE(room.scene().run.seconds, longer);
    QCOMPARE(room.scene().run.loops, 5);
  }
  QTest::keyClick(loops, Qt::Key_Up);
  QCOMPARE(room.scene().run.seconds, longer + 1);
  typeInto(loops, QStringLiteral("5"));
  QCOMPARE(room.scene().run.seconds, 0.0);
  QTest::keyClick(loops, Qt::Key_Down);
  QCOMPARE(room.scene().run.loops, 4);
  loops->clearFocus();
  QCOMPARE(loops->text(), QStringLiteral("Loop × 4"));
  room.w.document().history().undo();
  QVERIFY(loops->text().endsWith(QLatin1Char('5')));
  const QRectF leave = room.strip().rectOf(RunStrip::Part::Leave);
  const double lasts = passing(true).lasts;
  drag(&room.strip(), QPointF(leave.right() - 1, leave.bottom() - 6), QPointF(leave.right() - 40, leave.bottom() - 6));
  QVERIFY(passing(true).lasts < lasts);
}

void TestRun::theCardSetsValues() {
  Room room;
  auto* card = child<PassageCard>(&room.w.recipe(), "passageCard");
  QTest::mouseClick(card->findChildren<QToolButton*>().first(), Qt::LeftButton);
  QTest::mouseClick(child<QPushButton>(card, "arriveWays"), Qt::LeftButton);
  room.pick("Grow");
  card = child<PassageCard>(&room.w.recipe(), "passageCard");
  ParamRow* lasts = nullptr;
  for (ParamRow* row : card->rows())
    if (row->objectName() == QStringLiteral("param-lasts")) lasts = row;
  QVERIFY(lasts && lasts->isVisible());
  typeInto(lasts->findChild<NumberField*>(), QStringLiteral("2.5"));
  QCOMPARE(passingOf(*room.scene().layers[1].passes.arrive).lasts, 2.5);
  QCOMPARE(runOf(room.scene()).arrive, 50);
  // A value of its own: the width comes from another one.
  auto* values = child<QPushButton>(card, "arriveValues");
  QVERIFY(clickInMenu([&] { QTest::mouseClick(values, Qt::LeftButton); }, QStringLiteral("Shape · Width")));
  const auto width = [&]() -> const Param& {
    const RecipeStep& source = room.scene().layers[1].recipe[0];
    return source.params[static_cast<std::size_t>(findParam(source.spec->params, "width"))];
  };
  QVERIFY(farValueOf(width(), false));
  card = child<PassageCard>(&room.w.recipe(), "passageCard");
  ParamRow* far = nullptr;
  for (ParamRow* row : card->rows())
    if (row->address().isFar()) far = row;
  QVERIFY(far);
  typeInto(far->findChild<NumberField*>(), QStringLiteral("300"));
  QCOMPARE(std::get<double>(farValueOf(width(), false)->value), 300.0);
  QCOMPARE(std::get<double>(width().base), 60.0);
  // From the value's own row it is taken back.
  QVERIFY(clickInMenu(
      [&] {
        ParamRow* row = paramRow(room.w, "shape", "width");
        QContextMenuEvent event(QContextMenuEvent::Mouse, QPoint(10, 10), row->mapToGlobal(QPoint(10, 10)));
        QApplication::sendEvent(row, &event);
      },
      QStringLiteral("Arrives from another value")));
  QVERIFY(!farValueOf(width(), false));
  card = child<PassageCard>(&room.w.recipe(), "passageCard");
  QTest::mouseClick(child<QToolButton>(card, "noArrive"), Qt::LeftButton);
  QVERIFY(!room.scene().layers[1].passes.any());
}

void TestRun::stepsArriveByThemselves() {
  Room room;
  const Id lamp = room.scene().layers[1].id;
  room.w.document().performHere(QStringLiteral("x"), [&](Scene& s) {
    findLayer(s, lamp)->recipe.push_back(newStep(*findStep("blur")));
    return Result<int>(0);
  });
  const auto cards = room.w.recipe().findChildren<RecipeCard*>();
  QCOMPARE(cards.size(), 2);
  QVERIFY(clickInMenu(
      [&] {
        QContextMenuEvent event(QContextMenuEvent::Mouse, QPoint(20, 8), cards[1]->mapToGlobal(QPoint(20, 8)));
        QApplication::sendEvent(cards[1], &event);
      },
      QStringLiteral("Arrive by itself")));
  QVERIFY(room.scene().layers[1].recipe[1].passes.arrive.has_value());
  QCOMPARE(runOf(room.scene()).arrive, 16);
  turn();
  const auto now = room.w.recipe().findChildren<RecipeCard*>();
  ParamRow* delay = nullptr;
  for (ParamRow* row : now[1]->findChildren<ParamRow*>())
    if (row->objectName() == QStringLiteral("param-delay")) delay = row;
  QVERIFY(delay);
  typeInto(delay->findChild<NumberField*>(), QStringLiteral("1"));
  QCOMPARE(runOf(room.scene()).arrive, 36);
}

void TestRun::severalOneAfterTheOther() {
  Room room;
  Ids all;
  for (const Layer& layer : room.scene().layers) all.push_back(layer.id);
  room.w.document().setSelection(all);
  room.w.commands().action(QStringLiteral("arrive"))->trigger();
  room.pick("Fade");
  room.w.document().setSelection(all);
  room.w.commands().refresh();
  room.w.commands().action(QStringLiteral("oneAfterTheOther"))->trigger();
  QCOMPARE(passingOf(*room.scene().layers[0].passes.arrive).delay, 0.0);
  QCOMPARE(passingOf(*room.scene().layers[1].passes.arrive).delay, 0.3);
}

void TestRun::standInsAreLeftOut() {
  Room room;
  const std::size_t layers = room.scene().layers.size();
  auto* button = child<QPushButton>(&room.w.view(), "standIns");
  QVERIFY(!button->isChecked());
  QVERIFY(clickInMenu([&] { QTest::mouseClick(button, Qt::LeftButton); }, QStringLiteral("Add: Lower panel")));
  QCOMPARE(room.scene().layers.size(), layers + 1);
  QVERIFY(room.scene().layers.back().standIn);
  QVERIFY(button->isChecked());
  // Its words are layers like others.
  const Layer& words = room.scene().layers.back().layers.front();
  room.w.document().setCurrentLayer(words.id);
  turn();
  auto* field = paramRow(room.w, "words", "text")->findChild<TextField*>();
  QVERIFY(field);
  room.settle();
  const QImage with = room.w.view().image();
  // Hidden and shown from the menu.
  QVERIFY(clickInMenu([&] { QTest::mouseClick(button, Qt::LeftButton); }, QStringLiteral("Shown")));
  QVERIFY(!room.scene().layers.back().visible);
  room.settle();
  QTRY_VERIFY(room.w.view().image() != with);
  const QImage without = room.w.view().image();
  QVERIFY(clickInMenu([&] { QTest::mouseClick(button, Qt::LeftButton); }, QStringLiteral("Shown")));
  room.settle();
  QTRY_COMPARE(room.w.view().image(), with);
  // What is handed over has none of it, although it is shown.
  QTemporaryDir dir;
  ExportSettings settings;
  settings.format = ExportFormat::Png;
  settings.path = dir.filePath(QStringLiteral("a_%04d.png")).toStdString();
  settings.width = room.scene().width;
  settings.height = room.scene().height;
  QVERIFY(exportScene(room.scene(), settings, {}).has_value());
  const QImage out(dir.filePath(QStringLiteral("a_0000.png")));
  Scene plain = room.scene();
  plain.layers.pop_back();
  settings.path = dir.filePath(QStringLiteral("b_%04d.png")).toStdString();
  QVERIFY(exportScene(plain, settings, {}).has_value());
  QCOMPARE(out, QImage(dir.filePath(QStringLiteral("b_0000.png"))));
  QVERIFY(without != with);
}

void TestRun::partsAreExported() {
  Room room;
  room.clickPart(RunStrip::Part::Arrive);
  room.pick("Fade");
  typeInto(child<RunField>(&room.w, "runLoops"), QStringLiteral("2"));
  room.w.showExport();
  auto& sheet = room.w.exportSheet();
  QTemporaryDir dir;
  auto* part = child<QComboBox>(&sheet, "part");
  QVERIFY(part->isVisible());
  const auto exported = [&](const QString& which, const QString& name) {
    part->setFocus();
    while (part->currentText() != which && part->currentIndex() + 1 < part->count()) QTest::keyClick(part, Qt::Key_Down);
    typeInto(child<QLineEdit>(&sheet, "target"), dir.filePath(name));
    QTest::mouseClick(child<QPushButton>(&sheet, "primary"), Qt::LeftButton);
    (void)QTest::qWaitFor([&] { return !sheet.running(); }, 60000);
    return oa::test::probe(dir.filePath(name)).value(QStringLiteral("nb_read_frames")).toString();
  };
  QCOMPARE(exported(QStringLiteral("All: arrive, loop, leave"), QStringLiteral("run.mp4")), QStringLiteral("56"));
  QCOMPARE(exported(QStringLiteral("The loop alone"), QStringLiteral("loop.mp4")), QStringLiteral("20"));
  QCOMPARE(exported(QStringLiteral("What arrives"), QStringLiteral("arrive.mp4")), QStringLiteral("16"));
}

void TestRun::aTableOfSix() {
  Room room;
  auto* sheet = room.titlesOf(QStringLiteral("{name}"));
  QTRY_VERIFY(sheet->isVisible());
  QTemporaryDir dir;
  QFile csv(dir.filePath(QStringLiteral("rows.csv")));
  QVERIFY(csv.open(QIODevice::WriteOnly));
  csv.write("name,line\nTides,a\nLamps,b\nBoats,c\nNets,d\nGulls,e\nRopes,f\n");
  csv.close();
  sheet->take(csv.fileName());
  auto* table = child<QTableWidget>(sheet, "titles");
  QCOMPARE(table->rowCount(), 6);
  QCOMPARE(table->columnCount(), 2);
  // The chosen row is what the picture says.
  QTRY_COMPARE(sheet->row(), 0);
  room.settle();
  const QImage tides = room.w.view().image();
  QTest::mouseClick(table->viewport(), Qt::LeftButton, Qt::NoModifier, table->visualItemRect(table->item(3, 0)).center());
  QCOMPARE(sheet->row(), 3);
  room.settle();
  QTRY_VERIFY(room.w.view().image() != tides);
  // A cell that is typed is the scene's, and undone like anything else.
  // What is typed on a cell goes into it.
  QTest::mouseClick(table->viewport(), Qt::LeftButton, Qt::NoModifier, table->visualItemRect(table->item(0, 0)).center());
  QTest::keyClick(table, Qt::Key_X);
  auto* editor = table->findChild<QLineEdit*>();
  QVERIFY(editor);
  editor->selectAll();
  QTest::keyClicks(editor, QStringLiteral("Fog"));
  QTest::keyClick(editor, Qt::Key_Return);
  QTRY_COMPARE(room.scene().table.rows[0][0], std::string("Fog"));
  // All six as files of their own.
  auto* pattern = child<QLineEdit>(sheet, "titlePattern");
  pattern->setFocus();
  pattern->selectAll();
  QTest::keyClicks(pattern, dir.filePath(QStringLiteral("{name}.mp4")));
  QTest::mouseClick(child<QPushButton>(sheet, "primary"), Qt::LeftButton);
  QTRY_VERIFY_WITH_TIMEOUT(child<QLabel>(sheet, "titlesMessage")->text().startsWith(QStringLiteral("Made 6 of 6")), 90000);
  for (const char* name : {"Fog", "Lamps", "Boats", "Nets", "Gulls", "Ropes"})
    QCOMPARE(oa::test::probe(dir.filePath(QLatin1String(name) + QStringLiteral(".mp4"))).value(QStringLiteral("nb_read_frames")).toString(),
             QStringLiteral("20"));
  // Without the sheet the scene shows its fields again.
  room.w.showRecipe();
  QCOMPARE(sheet->row(), -1);
}

void TestRun::badRowsAreNamed() {
  Room room;
  auto* sheet = room.titlesOf(QStringLiteral("{name}: {what}"));
  QTemporaryDir dir;
  QFile csv(dir.filePath(QStringLiteral("rows.csv")));
  QVERIFY(csv.open(QIODevice::WriteOnly));
  csv.write("name,what\nA,1\nB\nC,3\n,4\n");
  csv.close();
  sheet->take(csv.fileName());
  auto* pattern = child<QLineEdit>(sheet, "titlePattern");
  pattern->setFocus();
  pattern->selectAll();
  QTest::keyClicks(pattern, dir.filePath(QStringLiteral("{name}.gif")));
  QTest::mouseClick(child<QPushButton>(sheet, "primary"), Qt::LeftButton);
  auto* says = child<QLabel>(sheet, "titlesMessage");
  QTRY_VERIFY_WITH_TIMEOUT(says->text().startsWith(QStringLiteral("Made 2 of 4")), 60000);
  QVERIFY(says->text().contains(QStringLiteral("row 2 (B)")));
  // An empty cell would name a hidden file.
  QVERIFY(says->text().contains(QStringLiteral("row 4: leaves its file without a name")));
  QCOMPARE(QDir(dir.path()).entryList(QDir::Files | QDir::Hidden), (QStringList{"A.gif", "C.gif", "rows.csv"}));
  QVERIFY(QFile::exists(dir.filePath(QStringLiteral("C.gif"))) && !QFile::exists(dir.filePath(QStringLiteral("B.gif"))));
  // Words without a field would be the same in every title.
  room.w.showRecipe();
  room.typeWords(QStringLiteral("Tonight"));
  room.w.commands().action(QStringLiteral("titles"))->trigger();
  QTRY_VERIFY(child<TitlesSheet>(&room.w, "sheet-titles")->isVisible());
  QTest::mouseClick(child<QPushButton>(child<TitlesSheet>(&room.w, "sheet-titles"), "primary"), Qt::LeftButton);
  QTRY_VERIFY(says->text().contains(QStringLiteral("all titles would be alike")));
}

void TestRun::lengthsThatFit() {
  Room room;
  room.w.commands().action(QStringLiteral("fitLoop"))->trigger();
  auto* sheet = child<FitSheet>(&room.w, "sheet-fit");
  QTRY_VERIFY(sheet->isVisible());
  // 24 s and 36 s share 72 s.
  typeInto(child<NumberField>(sheet, "tolerance"), QStringLiteral("0"));
  auto* list = child<QListWidget>(sheet, "fits");
  QCOMPARE(list->count(), 1);
  QVERIFY(list->item(0)->text().startsWith(QStringLiteral("72 s")));
  QTest::mouseClick(child<QPushButton>(sheet, "primary"), Qt::LeftButton);
  QCOMPARE(room.scene().frames, 72 * 20);
  // The second rhythm is another one, and both may be a little off.
  typeInto(child<NumberField>(sheet, "rhythm1"), QStringLiteral("25"));
  typeInto(child<NumberField>(sheet, "tolerance"), QStringLiteral("5"));
  QVERIFY(list->count() > 1);
  QVERIFY(sheet->fits().front().frames <= 25 * 20);
  QTest::mouseClick(child<QToolButton>(sheet, "removeRhythm1"), Qt::LeftButton);
  QCOMPARE(sheet->rhythms().size(), std::size_t{1});
}

void TestRun::speedsBecomeLaps() {
  Room room;
  room.w.document().edit(QStringLiteral("x"), {}, [&](Scene& s) { s.layers[1].recipe[0] = newStep(*findStep("noise")); });
  const auto angle = [&]() -> const Param& {
    const RecipeStep& source = room.scene().layers[1].recipe[0];
    return source.params[static_cast<std::size_t>(findParam(source.spec->params, "angle"))];
  };
  room.w.document().edit(QStringLiteral("x"), {}, [&](Scene& s) {
    s.frames = 200;
    RecipeStep& source = s.layers[1].recipe[0];
    Motion& motion = source.params[static_cast<std::size_t>(findParam(source.spec->params, "angle"))].motion;
    motion.kind = MotionKind::Turn;
    motion.laps = 1;
  });
  auto* pill = paramRow(room.w, "noise", "angle")->findChild<MotionPill*>();
  const auto speed = [&](const QString& words, const char* button) {
    return whenShown<RateDialog>(
        [&] { (void)clickInMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); }, QStringLiteral("At a speed…")); },
        [&](RateDialog& dialog) {
          auto* line = child<QLineEdit>(&dialog, "rate");
          line->selectAll();
          QTest::keyClicks(line, words);
          QTest::mouseClick(child<QPushButton>(&dialog, button), Qt::LeftButton);
        });
  };
  QVERIFY(speed(QStringLiteral("90 °/s"), "changeLoop"));
  // 360 degrees at 90 a second are 4 s; of 10 s nearest are 3 laps at 12 s or 2 at 8: the loop is changed.
  QCOMPARE(angle().motion.laps, 3);
  QCOMPARE(room.scene().frames, 240);
  QVERIFY(speed(QStringLiteral("1 turn in 5 s"), "primary"));
  QCOMPARE(angle().motion.laps, 2);
  QCOMPARE(room.scene().frames, 240);
}

void TestRun::tempoCountsTheLoop() {
  Room room;
  room.w.document().edit(QStringLiteral("x"), {}, [&](Scene& s) { s.frames = 161; });
  room.w.showFrame();
  auto* tempo = child<QDoubleSpinBox>(&room.w, "tempo");
  typeInto(tempo, QStringLiteral("120"));
  // 8.05 s are 16.1 beats: 16, and the loop is 8 s.
  QCOMPARE(room.scene().beats, 16);
  QCOMPARE(room.scene().frames, 160);
  QCOMPARE(child<QSpinBox>(&room.w, "loopBeats")->value(), 16);
  typeInto(child<QSpinBox>(&room.w, "beatsOfABar"), QStringLiteral("3"));
  QCOMPARE(room.scene().bar, 3);
  QTest::keyClick(&room.w, Qt::Key_Z, Qt::ControlModifier);
  QCOMPARE(room.scene().bar, 4);
}

QTEST_MAIN(TestRun)
#include "tst_run.moc"
