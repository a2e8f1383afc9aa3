// The main job through the real window: from a starter to a saved scene, by clicks, drags and keys.
#include <QComboBox>
#include <QDropEvent>
#include <QFile>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QMenu>
#include <QMessageBox>
#include <QMimeData>
#include <QPushButton>
#include <QRegularExpression>
#include <QSettings>
#include <QTemporaryDir>
#include <QTest>
#include <QToolButton>

#include "base/files.h"
#include "scene/scene_file.h"
#include "sheets/gallery.h"
#include "sheets/source_gallery.h"
#include "sheets/step_gallery.h"
#include "support/hands.h"
#include "widgets/layer_pile.h"
#include "widgets/number_field.h"
#include "widgets/recipe_panel.h"
#include "widgets/value_slider.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;
using oa::app::test::child;

namespace {

double number(Window& window, int layer, int step, const char* id) {
  const RecipeStep& at = window.document().scene().layers[static_cast<std::size_t>(layer)].recipe[static_cast<std::size_t>(step)];
  return std::get<double>(at.params[static_cast<std::size_t>(findParam(at.spec->params, id))].base);
}

QToolButton* byName(QWidget& in, const char* accessible) {
  for (auto* button : in.findChildren<QToolButton*>())
    if (button->accessibleName() == QLatin1String(accessible)) return button;
  qFatal("there is no button %s", accessible);
}

}  // namespace

class TestWindow : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void fromNothingToASavedScene();
  void layersShowThemselves();
  void layersAreManaged();
  void layersAreDraggedIntoOrder();
  void stepsAreManaged();
  void undoNamesWhatItUndoes();
  void timeIsToldOnWish();
  void brokenFilesLeaveTheWork();
  void droppedScenesOpen();
  void unsavedChangesAreAskedAbout();
  void recentFilesAreKept();
  void unwritablePlacesAreExplained();
  void theFrameSheetChangesTheFrame();
  void keysPlayAndStep();
  void viewsAndZoom();
  void handlesAreDraggedInThePicture();
  void lampTellsTheJoint();
  void startersOpenFromTheGallery();
};

void TestWindow::fromNothingToASavedScene() {
  Bench bench("dusk.overagain");
  Window& w = bench.window();
  const auto layers = w.document().scene().layers.size();
  // Add a noise layer from the gallery behind the +.
  byName(w.layers(), "Add a layer")->click();
  QVERIFY(w.sources().isVisible());
  w.sources().card(w.sources().cardOf("noise", "smooth"))->click();
  QCOMPARE(w.document().scene().layers.size(), layers + 1);
  const int layer = oa::app::test::placeOfCurrent(w);
  // Drag its cell size: one undoable step, however many mouse moves.
  auto* row = oa::app::test::paramRow(w, "noise", "cell");
  auto* slider = row->findChild<ValueSlider*>();
  const double before = number(w, layer, 0, "cell");
  const int steps = w.document().history().count();
  oa::app::test::drag(slider, QPointF(slider->place(before), slider->height() / 2.0),
                      QPointF(slider->width() - 20, slider->height() / 2.0));
  const double after = number(w, layer, 0, "cell");
  QVERIFY(after > before * 1.5);
  QCOMPARE(w.document().history().count(), steps + 1);
  // Type another value, with its unit.
  auto* field = row->findChild<NumberField*>();
  oa::app::test::typeInto(field, "90 px");
  QCOMPARE(number(w, layer, 0, "cell"), 90.0);
  // Laps of the churn, in the tools of its curve.
  auto* laps = child<NumberField>(&w, "laps");
  oa::app::test::typeInto(laps, "3");
  const RecipeStep& noise = w.document().scene().layers[static_cast<std::size_t>(layer)].recipe[0];
  QCOMPARE(noise.params[static_cast<std::size_t>(findParam(noise.spec->params, "churn"))].motion.laps, 3);
  // Undo all of it, and take it back.
  const Scene made = w.document().scene();
  for (int i = 0; i < 3; ++i) QTest::keyClick(&w, Qt::Key_Z, Qt::ControlModifier);
  QVERIFY(number(w, layer, 0, "cell") == before);
  for (int i = 0; i < 3; ++i) QTest::keyClick(&w, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
  QVERIFY(w.document().scene() == made);
  // Save, change, reopen.
  const QTemporaryDir folder;
  const QString path = folder.filePath(QStringLiteral("pier.overagain"));
  QVERIFY(w.document().dirty());
  QVERIFY(w.document().save(path).has_value());
  QVERIFY(!w.document().dirty());
  w.layers().remove();
  QVERIFY(w.document().dirty());
  QVERIFY(w.open(path));
  QVERIFY(w.document().scene() == made);
  QVERIFY(!w.document().dirty());
}

void TestWindow::layersShowThemselves() {
  Bench bench;
  Window& w = bench.window();
  const auto flat = [](Colour colour) {
    Scene scene;
    scene.layers.push_back(newLayer(*findStep("flat"), "Ground"));
    RecipeStep& source = scene.layers.back().recipe.front();
    source.params[static_cast<std::size_t>(findParam(source.spec->params, "colour"))].base = colour;
    return scene;
  };
  const auto seen = [&](const QColor& colour) {
    const QImage pile = oa::app::test::pileOf(w)->viewport()->grab().toImage();
    int count = 0;
    for (int y = 0; y < pile.height(); ++y)
      for (int x = 0; x < pile.width(); ++x) count += pile.pixelColor(x, y) == colour;
    return count > 300;
  };
  w.document().reset(flat({1, 0, 1, 1}), {});
  QTRY_VERIFY(seen(QColor(255, 0, 255)));
  // Of another scene not even for a moment what was there before.
  w.document().reset(flat({0, 1, 1, 1}), {});
  QVERIFY(!seen(QColor(255, 0, 255)));
  QTRY_VERIFY(seen(QColor(0, 255, 255)));
}

void TestWindow::layersAreManaged() {
  Bench bench;
  Window& w = bench.window();
  auto* list = oa::app::test::pileOf(w);
  const Scene original = w.document().scene();
  const int count = list->topLevelItemCount();
  QCOMPARE(count, static_cast<int>(original.layers.size()));
  // The pile shows the top layer first.
  QCOMPARE(list->topLevelItem(0)->text(0), QString::fromStdString(original.layers.back().name));
  list->setCurrentItem(list->topLevelItem(1));
  QCOMPARE(oa::app::test::placeOfCurrent(w), count - 2);
  QTest::keyClick(&w, Qt::Key_D, Qt::ControlModifier);
  QCOMPARE(list->topLevelItemCount(), count + 1);
  QTest::keyClick(list, Qt::Key_Up, Qt::AltModifier);
  QCOMPARE(oa::app::test::placeOfCurrent(w), count);
  QTest::keyClick(list, Qt::Key_F2);
  auto* editor = list->findChild<QLineEdit*>();
  QVERIFY(editor);
  editor->selectAll();
  QTest::keyClicks(editor, QStringLiteral("Gulls"));
  QTest::keyClick(editor, Qt::Key_Return);
  QTRY_COMPARE(w.document().layer()->name, std::string("Gulls"));
  // Its switches lie over the foot of the thumbnail: show, alone, lock.
  const QRect row = list->visualItemRect(list->currentItem());
  const auto press = [&](int which) {
    QTest::mouseClick(list->viewport(), Qt::LeftButton, Qt::NoModifier, QPoint(row.left() + 17 + which * 18, row.center().y() + 9));
  };
  press(0);
  QVERIFY(!w.document().layer()->visible);
  press(0);
  press(1);
  for (const Layer& layer : w.document().scene().layers) QCOMPARE(layer.visible, &layer == w.document().layer());
  press(1);
  for (const Layer& layer : w.document().scene().layers) QVERIFY(layer.visible);
  press(2);
  QVERIFY(w.document().layer()->locked);
  oa::app::test::turn();
  QVERIFY(!w.recipe().findChild<QWidget*>(QStringLiteral("card-noise"))->isEnabled() ||
          w.document().layer()->recipe[0].spec->id != "noise");
  press(2);
  QTest::keyClick(list, Qt::Key_Delete);
  QCOMPARE(list->topLevelItemCount(), count);
  while (w.document().history().canUndo()) w.document().history().undo();
  QVERIFY(w.document().scene() == original);
  // With nothing left the window still stands, and says what to do.
  while (!w.document().scene().layers.empty()) w.layers().remove();
  oa::app::test::turn();
  bool hint = false;
  for (auto* label : w.recipe().findChildren<QLabel*>()) hint = hint || label->text().contains(QStringLiteral("Add a layer"));
  QVERIFY(hint);
}

void TestWindow::layersAreDraggedIntoOrder() {
  Bench bench;
  Window& w = bench.window();
  auto* list = oa::app::test::pileOf(w);
  const std::string top = w.document().scene().layers.back().name;
  const QRect last = list->visualItemRect(list->topLevelItem(list->topLevelItemCount() - 1));
  oa::app::test::dragRow(w, list->topLevelItem(0), QPoint(last.center().x(), last.bottom() - 4));
  QCOMPARE(w.document().scene().layers.front().name, top);
  QCOMPARE(w.document().history().undoText(), QStringLiteral("move layer"));
  w.document().history().undo();
  QCOMPARE(w.document().scene().layers.back().name, top);
}

void TestWindow::stepsAreManaged() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  const auto& layer = [&]() -> const Layer& { return *w.document().layer(); };
  const auto ids = [&] {
    QStringList list;
    for (const RecipeStep& step : layer().recipe)
      list << QString::fromUtf8(step.spec->id.data(), static_cast<qsizetype>(step.spec->id.size()));
    return list;
  };
  const QStringList before = ids();
  const auto add = [&] { return w.recipe().findChild<QPushButton*>(QStringLiteral("link")); };
  add()->click();
  w.stepGallery().card(w.stepGallery().cardOf("levels"))->click();
  add()->click();
  w.stepGallery().card(w.stepGallery().cardOf("blur"))->click();
  QCOMPARE(ids(), before + QStringList({QStringLiteral("levels"), QStringLiteral("blur")}));
  oa::app::test::turn();
  // Drag the last card above the one before it, by its header.
  const auto cards = w.recipe().findChildren<QWidget*>(QRegularExpression(QStringLiteral("^card-")));
  QWidget* last = cards.last();
  QWidget* previous = cards[cards.size() - 2];
  QWidget* header = last->findChild<QWidget*>();
  const double lift = last->y() - previous->y() + 10;
  oa::app::test::drag(header, QPointF(100, 10), QPointF(100, 10 - lift), 12);
  QCOMPARE(ids(), before + QStringList({QStringLiteral("blur"), QStringLiteral("levels")}));
  // Off, on again, duplicated, removed: each undoable.
  oa::app::test::turn();
  auto* card = w.recipe().findChildren<QWidget*>(QStringLiteral("card-blur")).last();
  auto* power = card->findChild<QAbstractButton*>();
  power->click();
  QVERIFY(!layer().recipe[static_cast<std::size_t>(before.size())].on);
  oa::app::test::turn();
  byName(*w.recipe().findChildren<QWidget*>(QStringLiteral("card-blur")).last(), "Duplicate this step")->click();
  QCOMPARE(ids().count(QStringLiteral("blur")), before.count(QStringLiteral("blur")) + 2);
  oa::app::test::turn();
  byName(*w.recipe().findChildren<QWidget*>(QStringLiteral("card-blur")).last(), "Remove this step")->click();
  QCOMPARE(ids().count(QStringLiteral("blur")), before.count(QStringLiteral("blur")) + 1);
  while (w.document().history().canUndo()) w.document().history().undo();
  QCOMPARE(ids(), before);
}

void TestWindow::undoNamesWhatItUndoes() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  auto* row = oa::app::test::paramRow(w, "noise", "cell");
  auto* field = row->findChild<NumberField*>();
  field->setFocus();
  QTest::keyClick(field, Qt::Key_Up);
  const QString name = QString::fromStdString(w.document().layer()->name);
  QCOMPARE(byName(w, "Undo")->toolTip(), QStringLiteral("Undo: %1 · cell size").arg(name));
  byName(w, "Undo")->click();
  QCOMPARE(byName(w, "Redo")->toolTip(), QStringLiteral("Redo: %1 · cell size").arg(name));
}

void TestWindow::timeIsToldOnWish() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  bench.activate();
  auto* said = child<QLabel>(&w, "timeTaken");
  QVERIFY(!said->isVisible());
  const auto toggle = [&] {
    return oa::app::test::clickInMenu([&] { QTest::keyClick(&w, Qt::Key_L, Qt::AltModifier); }, QStringLiteral("How quick it is"));
  };
  QVERIFY(toggle());
  QVERIFY(said->isVisible());
  const QRegularExpression sentence(QStringLiteral("takes ([0-9.]+) of ([0-9.]+) ms a picture, 1920 × 1080(: .+)?"));
  const auto told = [&] { return sentence.match(said->text()).hasMatch(); };
  QVERIFY2(QTest::qWaitFor(told, 60000), qPrintable(said->text()));
  const auto match = sentence.match(said->text());
  QVERIFY(match.captured(1).toDouble() > 0 && match.captured(1).toDouble() <= match.captured(2).toDouble());
  // Of another layer at once: all were measured. Each says its own steps.
  const QString first = said->text();
  const Id before = w.document().currentLayer();
  auto* const pile = oa::app::test::pileOf(w);
  const int other = pile->currentItem() == oa::app::test::rowOf(w, 0) ? 1 : 0;
  QTest::mouseClick(pile->viewport(), Qt::LeftButton, {}, pile->visualItemRect(oa::app::test::rowOf(w, other)).center());
  QVERIFY(w.document().currentLayer() != before);
  QVERIFY(said->text() != first && !said->text().contains(QStringLiteral("Measuring")));
  // Measured anew when the scene is another. (Where all is slow a closed menu may leave the window inactive for a while.)
  bench.activate();
  QVERIFY(QTest::qWaitFor([&] { return QApplication::activeWindow() == &w; }));
  QTest::keyClick(&w, Qt::Key_H, Qt::ControlModifier);
  QVERIFY(!w.document().layer()->visible);
  QVERIFY2(QTest::qWaitFor([&] { return said->text().contains(QStringLiteral("hidden")); }, 60000), qPrintable(said->text()));
  QVERIFY(toggle());
  QVERIFY(!said->isVisible());
}

void TestWindow::brokenFilesLeaveTheWork() {
  Bench bench;
  Window& w = bench.window();
  const Scene before = w.document().scene();
  const QTemporaryDir folder;
  const QString path = folder.filePath(QStringLiteral("broken.overagain"));
  QVERIFY(writeFileAtomically(path.toStdString(), R"({"overagain":1,"layers":[{"recipe":[{"step":"noise","detail":40}]}]})"));
  QVERIFY(!w.open(path));
  QVERIFY2(w.errorShown().contains(QStringLiteral("layers[0].noise.detail: 40 is above 12")), qPrintable(w.errorShown()));
  QVERIFY(w.errorShown().contains(QStringLiteral("broken.overagain")));
  QVERIFY(w.document().scene() == before);
  byName(w, "Close the message")->click();
  QVERIFY(w.errorShown().isEmpty());
}

void TestWindow::droppedScenesOpen() {
  Bench bench;
  Window& w = bench.window();
  QMimeData data;
  data.setUrls({QUrl::fromLocalFile(QStringLiteral(OA_SOURCE_DIR "/demo-data/scenes/sailcloth.overagain"))});
  QDragEnterEvent enter(QPoint(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(&w, &enter);
  QVERIFY(enter.isAccepted());
  QDropEvent drop(QPointF(300, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  QApplication::sendEvent(&w, &drop);
  QVERIFY(w.document().path().endsWith(QStringLiteral("sailcloth.overagain")));
}

void TestWindow::unsavedChangesAreAskedAbout() {
  Bench bench;
  Window& w = bench.window();
  w.layers().remove();
  QVERIFY(w.document().dirty());
  QVERIFY(w.windowTitle().contains(QStringLiteral("[*]")) && w.isWindowModified());
  QVERIFY(oa::app::test::answerBox([&] { w.close(); }, QMessageBox::Cancel));
  QVERIFY(w.isVisible());
  QVERIFY(oa::app::test::answerBox([&] { w.close(); }, QMessageBox::Discard));
  QVERIFY(!w.isVisible());
}

void TestWindow::recentFilesAreKept() {
  Bench bench;
  Window& w = bench.window();
  const QString path = QStringLiteral(OA_SOURCE_DIR "/demo-data/scenes/dusk.overagain");
  QVERIFY(w.open(path));
  QCOMPARE(QSettings().value(QStringLiteral("recent")).toStringList().value(0), path);
  QVERIFY(w.open(QStringLiteral(OA_SOURCE_DIR "/demo-data/scenes/sea-fog.overagain")));
  QVERIFY(w.open(path));
  QCOMPARE(QSettings().value(QStringLiteral("recent")).toStringList().count(path), 1);
}

void TestWindow::unwritablePlacesAreExplained() {
  Bench bench;
  Window& w = bench.window();
  const auto saved = w.document().save(QStringLiteral("/proc/pier.overagain"));
  QVERIFY(!saved && saved.error().sentence().find("/proc/pier.overagain") != std::string::npos);
  QVERIFY(w.document().path().isEmpty());
}

void TestWindow::theFrameSheetChangesTheFrame() {
  Bench bench;
  Window& w = bench.window();
  child<QPushButton>(&w, "framePill")->click();
  auto* frames = w.findChild<QWidget*>(QStringLiteral("frames"));
  QVERIFY2(frames, "no field for the frames of the loop");
  auto* edit = qobject_cast<QLineEdit*>(frames) ? qobject_cast<QLineEdit*>(frames) : frames->findChild<QLineEdit*>();
  oa::app::test::typeInto(edit, "120");
  QCOMPARE(w.document().scene().frames, 120);
  QVERIFY(child<QPushButton>(&w, "framePill")->accessibleName().contains(QStringLiteral("120 frames")));
  w.document().history().undo();
  QCOMPARE(w.document().scene().frames, 300);
}

void TestWindow::keysPlayAndStep() {
  Bench bench;
  Window& w = bench.window();
  w.view().setFocus();
  QTest::keyClick(&w.view(), Qt::Key_Right);
  QTest::keyClick(&w.view(), Qt::Key_Right);
  QCOMPARE(w.player().frame(), 2);
  QTest::keyClick(&w.view(), Qt::Key_Home);
  QTest::keyClick(&w.view(), Qt::Key_Left);
  QCOMPARE(w.player().frame(), 299);  // across the joint
  QTest::keyClick(&w.view(), Qt::Key_Space);
  QVERIFY(w.player().playing());
  QTest::keyClick(&w.view(), Qt::Key_Space);
  QVERIFY(!w.player().playing());
}

void TestWindow::viewsAndZoom() {
  Bench bench;
  Window& w = bench.window();
  bench.settle();
  QVERIFY(!w.view().image().isNull());
  const double fitted = w.view().zoom();
  QTest::keyClick(&w, Qt::Key_1, Qt::ControlModifier);
  QCOMPARE(w.view().zoom(), 1.0);
  QTest::keyClick(&w, Qt::Key_0, Qt::ControlModifier);
  QCOMPARE(w.view().zoom(), fitted);
  // The wheel zooms about the pointer: what is under it stays there.
  const QPointF under(200, 150);
  const QRectF before = w.view().frameRect();
  QWheelEvent wheel(under, w.view().mapToGlobal(under), {}, QPoint(0, 240), Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase, false);
  QApplication::sendEvent(&w.view(), &wheel);
  const QRectF after = w.view().frameRect();
  QVERIFY(after.width() > before.width());
  QVERIFY(std::abs((under.x() - before.left()) / before.width() - (under.x() - after.left()) / after.width()) < 1e-6);
  // Every way of looking shows something of its own in the picture itself, below the row of buttons that differ anyway.
  w.view().setZoom(0);
  QList<QImage> seen;
  const QRect inside = w.view().frameRect().toAlignedRect().adjusted(4, 30, -4, -4);
  for (const char* mode : {"viewPicture", "viewSeam", "viewWrap", "viewSafe"}) {
    w.commands().action(QLatin1String(mode))->trigger();
    bench.settle();
    const QImage picture = w.view().grab(inside).toImage();
    for (const QImage& other : seen) QVERIFY2(picture != other, mode);
    seen << picture;
  }
  // What is shown comes back with its mode, to the pixel.
  w.commands().action(QStringLiteral("viewPicture"))->trigger();
  bench.settle();
  QCOMPARE(w.view().grab(inside).toImage(), seen[0]);
}

void TestWindow::handlesAreDraggedInThePicture() {
  Bench bench("dusk.overagain");
  Window& w = bench.window();
  int layer = 0;
  while (w.document().scene().layers[static_cast<std::size_t>(layer)].recipe[0].spec->id != "gradient") ++layer;
  w.document().setCurrentLayer(oa::app::test::layerId(w, layer));
  const RecipeStep before = w.document().scene().layers[static_cast<std::size_t>(layer)].recipe[0];
  const auto i = static_cast<std::size_t>(findParam(before.spec->params, "to"));
  const Point from = std::get<Point>(before.params[i].base);
  const QRectF frame = w.view().frameRect();
  const QPointF place(frame.left() + from.x * frame.width(), frame.top() + from.y * frame.height());
  const int steps = w.document().history().count();
  oa::app::test::drag(&w.view(), place, place + QPointF(-frame.width() * 0.1, -frame.height() * 0.2));
  const Point to = std::get<Point>(w.document().scene().layers[static_cast<std::size_t>(layer)].recipe[0].params[i].base);
  QVERIFY2(std::abs(to.x - (from.x - 0.1)) < 0.01 && std::abs(to.y - (from.y - 0.2)) < 0.01,
           qPrintable(QStringLiteral("%1 %2").arg(to.x).arg(to.y)));
  QCOMPARE(w.document().history().count(), steps + 1);
}

void TestWindow::lampTellsTheJoint() {
  Bench bench;
  Window& w = bench.window();
  auto* lamp = child<QPushButton>(&w, "lamp");
  QVERIFY(QTest::qWaitFor([&] { return lamp->text() == QStringLiteral("Loops clean"); }, 600000));
  // A layer that jumps at the joint is found and named.
  w.document().edit(QStringLiteral("plant a jump"), {}, [](Scene& scene) {
    Param& opacity = scene.layers.back().opacity;
    opacity.base = 1.0;
    opacity.motion.kind = MotionKind::Swing;
    opacity.motion.far = 0.0;
    opacity.motion.shape = SwingShape::Hold;
    opacity.motion.shares = {0.6, 0.4, 0};
  });
  QVERIFY(QTest::qWaitFor([&] { return lamp->text() == QStringLiteral("Jumps"); }, 600000));
  lamp->click();
  const QString culprit = QString::fromStdString(w.document().scene().layers.back().name);
  QVERIFY(QTest::qWaitFor(
      [&] {
        for (auto* label : w.findChildren<QLabel*>())
          if (label->isVisible() && label->text().contains(QStringLiteral("because of ") + culprit)) return true;
        return false;
      },
      600000));
}

void TestWindow::startersOpenFromTheGallery() {
  Bench bench;
  Window& w = bench.window();
  QTest::keyClick(&w, Qt::Key_N, Qt::ControlModifier);
  QVERIFY(w.gallery().isVisible());
  QVERIFY(w.gallery().count() >= 4);
  // Thumbnails are really rendered, and move.
  QVERIFY(oa::app::test::changesItsLook(w.gallery().card(0)) && oa::app::test::changesItsLook(w.gallery().card(0)));
  w.gallery().card(0)->click();
  QVERIFY(!w.gallery().isVisible());
  QVERIFY(w.document().path().isEmpty());
}

QTEST_MAIN(TestWindow)
#include "tst_window.moc"
