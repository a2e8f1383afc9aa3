// Nothing happens by accident: wheel, keys, focus, gestures, menus, and what is half typed.
#include <QApplication>
#include <QComboBox>
#include <QLabel>
#include <QListWidget>
#include <QTreeWidget>
#include <QMenu>
#include <QMenuBar>
#include <QSpinBox>
#include <QTest>
#include <QToolButton>
#include <QWheelEvent>

#include "sheets/export_sheet.h"
#include "sheets/gallery.h"
#include "sheets/palette_sheet.h"
#include "sheets/shortcuts_page.h"
#include "sheets/source_gallery.h"
#include "support/hands.h"
#include "top_bar.h"
#include "widgets/curve_view.h"
#include "widgets/dial.h"
#include "widgets/layer_pile.h"
#include "widgets/number_field.h"
#include "widgets/recipe_card.h"
#include "widgets/recipe_panel.h"
#include "widgets/value_slider.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;
using oa::app::test::child;
using oa::app::test::clickInMenu;
using oa::app::test::dragRow;
using oa::app::test::layerId;
using oa::app::test::paramRow;
using oa::app::test::pileOf;
using oa::app::test::placeOfCurrent;
using oa::app::test::typeInto;
using oa::app::test::whenShown;

namespace {

void wheel(QWidget* on, int by) {
  const QPointF at = on->rect().center();
  QWheelEvent event(at, on->mapToGlobal(at), {}, {0, by}, Qt::NoButton, Qt::NoModifier, Qt::NoScrollPhase, false);
  QApplication::sendEvent(on, &event);
}

const Scene& scene(Bench& bench) { return bench->document().scene(); }

LayerTree* pile(Bench& bench) { return pileOf(bench.window()); }

// A context menu by the right button; what it offers.
QStringList contextMenu(QWidget* on, QPoint at) {
  return oa::app::test::entriesOfMenu([&] {
    QContextMenuEvent event(QContextMenuEvent::Mouse, at, on->mapToGlobal(at));
    QApplication::sendEvent(on, &event);
  });
}

int steps(Bench& bench) { return bench->document().history().index(); }

}  // namespace

class TestAccidents : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void theWheelChangesOnlyWhatHasTheFocus();
  void anUnselectedLayerIsDraggedIntoOrder();
  void aListIsNotRebuiltUnderAPress();
  void theRightButtonNeverDrags();
  void keyRepeatIsOneUndo();
  void rebuildingKeepsFocusAndFolds();
  void undoBringsTheSelectionBack();
  void draggingToTheEndAndBackRestoresKeyframes();
  void shortcutsLiveAfterTheMenuWasOpened();
  void everyCommandIsInAMenuOnce();
  void menusReadFromLeftToRight();
  void theShortcutsPageIsMadeFromTheTable();
  void rightClicksOfferMenus();
  void spacePlaysFromEverywhere();
  void undoWorksFromANumberField();
  void returnPressesTheButton();
  void numbersAreReadAsPeopleTypeThem();
  void whatCannotBeReadStaysMarked();
  void valuesAreNeverCut();
  void sheetsTakeTheFocusAndGiveItBack();
  void escapeClosesWhatOpenedLast();
  void focusIsSeen();
};

void TestAccidents::theWheelChangesOnlyWhatHasTheFocus() {
  Bench bench;
  auto* blend = child<QComboBox>(&bench->recipe(), "blend");
  bench->view().setFocus();
  const Scene before = scene(bench);
  for (int i = 0; i < 5; ++i) wheel(blend, -120);
  QVERIFY(scene(bench) == before);
  QTest::keyClick(&bench.window(), Qt::Key_E, Qt::ControlModifier);
  auto* loops = child<QSpinBox>(&bench->exportSheet(), "loops");
  bench->view().setFocus();
  wheel(loops, 120);
  QCOMPARE(loops->value(), 1);
  loops->setFocus();
  wheel(loops, 120);
  QCOMPARE(loops->value(), 2);
}

void TestAccidents::anUnselectedLayerIsDraggedIntoOrder() {
  Bench bench;
  LayerTree* tree = pile(bench);
  const auto names = [&] {
    QStringList all;
    for (const Layer& layer : scene(bench).layers) all << QString::fromStdString(layer.name);
    return all;
  };
  const QStringList before = names();
  tree->setCurrentItem(tree->topLevelItem(0));
  // The third row, which is not the current one, is dragged over the first.
  const QRect first = tree->visualItemRect(tree->topLevelItem(0));
  dragRow(bench.window(), tree->topLevelItem(2), QPoint(first.center().x(), first.top() + 4));
  QCOMPARE(names().last(), before[before.size() - 3]);
  QCOMPARE(placeOfCurrent(bench.window()), static_cast<int>(before.size()) - 1);
  QCOMPARE(tree->currentItem(), tree->topLevelItem(0));
  QCOMPARE(tree->topLevelItem(0)->text(0), before[before.size() - 3]);
}

void TestAccidents::aListIsNotRebuiltUnderAPress() {
  Bench bench;
  LayerTree* tree = pile(bench);
  QTreeWidgetItem* const third = tree->topLevelItem(2);
  const QString name = third->text(0);
  QTest::mousePress(tree->viewport(), Qt::LeftButton, {}, tree->visualItemRect(third).center());
  bench->document().perform("remove", [&](Scene& s) { return edit::removeLayers(s, {layerId(bench.window(), 0)}); });
  QCOMPARE(tree->topLevelItem(2), third);
  QCOMPARE(third->text(0), name);
  const int rows = tree->topLevelItemCount();
  QTest::mouseRelease(tree->viewport(), Qt::LeftButton, {}, tree->visualItemRect(third).center());
  QTRY_COMPARE(tree->topLevelItemCount(), rows - 1);
}

void TestAccidents::theRightButtonNeverDrags() {
  Bench bench("lantern-sunset.overagain");
  const auto dragRight = [](QWidget* on, QPoint from, QPoint to) {
    QTest::mousePress(on, Qt::RightButton, {}, from);
    QMouseEvent move(QEvent::MouseMove, to, on->mapToGlobal(QPointF(to)), Qt::NoButton, Qt::RightButton, Qt::NoModifier);
    QApplication::sendEvent(on, &move);
    QTest::mouseRelease(on, Qt::RightButton, {}, to);
  };
  const Scene before = scene(bench);
  bench->document().setCurrentLayer(layerId(bench.window(), 0));
  for (auto* slider : bench->recipe().findChildren<ValueSlider*>())
    if (slider->isVisible()) dragRight(slider, {10, 10}, {40, 10});
  for (auto* field : bench->recipe().findChildren<NumberField*>())
    if (field->isVisible()) dragRight(field, {10, 10}, {60, 10});
  dragRight(bench->curve().canvas(), bench->curve().canvas()->rect().center(), {30, 30});
  const QRectF frame = bench->view().frameRect();
  for (double x = 0.05; x < 1; x += 0.1)
    for (double y = 0.05; y < 1; y += 0.1)
      dragRight(&bench->view(), QPointF(frame.left() + x * frame.width(), frame.top() + y * frame.height()).toPoint(),
                frame.center().toPoint());
  QVERIFY(scene(bench) == before);
  QCOMPARE(bench->view().frameRect(), frame);
  const int at = bench->player().frame();
  dragRight(&bench->dial(), (bench->dial().centre() + QPointF(bench->dial().radius(), 0)).toPoint(), bench->dial().rect().center());
  QCOMPARE(bench->player().frame(), at);
}

void TestAccidents::keyRepeatIsOneUndo() {
  Bench bench;
  bench->document().setCurrentLayer(layerId(bench.window(), 1));
  auto* slider = paramRow(bench.window(), "noise", "cell")->findChild<ValueSlider*>();
  slider->setFocus();
  const Scene before = scene(bench);
  const int history = steps(bench);
  QTest::keyPress(slider, Qt::Key_Right);
  for (int i = 0; i < 12; ++i) {
    QKeyEvent again(QEvent::KeyPress, Qt::Key_Right, Qt::NoModifier, QString(), true);
    QApplication::sendEvent(slider, &again);
    QKeyEvent up(QEvent::KeyRelease, Qt::Key_Right, Qt::NoModifier, QString(), true);
    QApplication::sendEvent(slider, &up);
  }
  QTest::keyRelease(slider, Qt::Key_Right);
  QCOMPARE(steps(bench), history + 1);
  // Letting go ended it: the next press is another one.
  QTest::keyClick(slider, Qt::Key_Right);
  QCOMPARE(steps(bench), history + 2);
  bench->document().history().undo();
  bench->document().history().undo();
  QVERIFY(scene(bench) == before);
}

void TestAccidents::rebuildingKeepsFocusAndFolds() {
  Bench bench;
  bench->document().setCurrentLayer(layerId(bench.window(), 0));
  const auto add = [&](const char* id) { bench->recipe().addStep(*findStep(id)); };
  add("blur");
  add("levels");
  const auto card = [&](const char* name) {
    RecipeCard* found = nullptr;
    for (auto* each : bench->recipe().findChildren<RecipeCard*>(QString("card-") + name))
      if (each->isVisibleTo(&bench.window())) found = each;
    return found;
  };
  QTest::mouseClick(card("levels")->findChildren<QToolButton*>().last(), Qt::LeftButton);
  QVERIFY(!paramRow(bench.window(), "levels", "contrast")->isVisible());
  auto* field = paramRow(bench.window(), "blur", "across")->findChild<NumberField*>();
  field->setFocus();
  QVERIFY(field->hasFocus());
  // Another step comes, one moves: the recipe is made anew each time.
  add("grain");
  auto* again = paramRow(bench.window(), "blur", "across")->findChild<NumberField*>();
  QVERIFY(again != field && again->hasFocus());
  QVERIFY(!paramRow(bench.window(), "levels", "contrast")->isVisible());
  bench->recipe().moveStep(2, 1);
  QVERIFY(paramRow(bench.window(), "blur", "across")->findChild<NumberField*>()->hasFocus());
  QVERIFY(!paramRow(bench.window(), "levels", "contrast")->isVisible());
  bench->document().history().undo();
  QVERIFY(!paramRow(bench.window(), "levels", "contrast")->isVisible());
  QVERIFY(paramRow(bench.window(), "grain", "amount")->isVisible());
}

void TestAccidents::undoBringsTheSelectionBack() {
  Bench bench;
  Window& w = bench.window();
  LayerTree* tree = pile(bench);
  tree->setFocus();
  tree->setCurrentItem(tree->topLevelItem(2));
  const int before = placeOfCurrent(w);
  QTest::keyClick(tree, Qt::Key_Up, Qt::AltModifier);
  QCOMPARE(placeOfCurrent(w), before + 1);
  QCOMPARE(tree->currentItem(), tree->topLevelItem(1));
  QTest::keyClick(&w, Qt::Key_Z, Qt::ControlModifier);
  QCOMPARE(placeOfCurrent(w), before);
  QCOMPARE(tree->currentItem(), tree->topLevelItem(2));
  QTest::keyClick(&w, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
  QCOMPARE(placeOfCurrent(w), before + 1);
  const Id chosen = w.document().currentLayer();
  QTest::keyClick(&w, Qt::Key_D, Qt::ControlModifier);
  QVERIFY(w.document().currentLayer() != chosen);
  QTest::keyClick(&w, Qt::Key_Z, Qt::ControlModifier);
  QCOMPARE(w.document().currentLayer(), chosen);
}

void TestAccidents::draggingToTheEndAndBackRestoresKeyframes() {
  Bench bench;
  bench->document().setCurrentLayer(layerId(bench.window(), 1));
  const int param = findParam(scene(bench).layers[1].recipe[0].spec->params, "cell");
  const ParamAddress at{layerId(bench.window(), 1), 0, param};
  Motion motion = bench->document().param(at).motion;
  motion.kind = MotionKind::Keyframes;
  placeKeyframe(motion, {0, 60.0, {}, false});
  placeKeyframe(motion, {0.5, 700.0, {}, false});
  bench->document().setMotion(at, motion, false);
  bench->document().setBase(at, 300.0, false);
  const Param before = bench->document().param(at);
  auto* slider = paramRow(bench.window(), "noise", "cell")->findChild<ValueSlider*>();
  const double y = slider->height() / 2.0;
  const QPointF start(slider->place(300), y);
  const auto move = [&](QEvent::Type type, QPointF to, Qt::MouseButtons held) {
    QMouseEvent event(type, to, slider->mapToGlobal(to), type == QEvent::MouseMove ? Qt::NoButton : Qt::LeftButton, held, Qt::NoModifier);
    QApplication::sendEvent(slider, &event);
  };
  move(QEvent::MouseButtonPress, start, Qt::LeftButton);
  for (const double x : {0.0, -50.0, slider->width() + 80.0, 20.0, 0.0}) move(QEvent::MouseMove, QPointF(x, y), Qt::LeftButton);
  QVERIFY(std::get<double>(bench->document().param(at).motion.keys[0].value) != 60.0);
  move(QEvent::MouseMove, start, Qt::LeftButton);
  move(QEvent::MouseButtonRelease, start, Qt::NoButton);
  const Param after = bench->document().param(at);
  // The knob stands where a hand can aim at; from there the keyframes are as far away as they were.
  const double back = std::get<double>(after.base);
  QVERIFY(std::abs(back - 300) < 10);
  for (std::size_t i = 0; i < before.motion.keys.size(); ++i)
    QVERIFY(std::abs(std::get<double>(after.motion.keys[i].value) - std::get<double>(before.motion.keys[i].value) - (back - 300)) < 1e-6);
}

void TestAccidents::shortcutsLiveAfterTheMenuWasOpened() {
  Bench bench;
  auto* menu = child<QMenu>(&bench.window(), "menu-scene");
  for (int i = 0; i < 2; ++i) {
    auto* bar = bench->topBar().findChild<QMenuBar*>();
    QTest::mouseClick(bar, Qt::LeftButton, {}, bar->actionGeometry(menu->menuAction()).center());
    QVERIFY(menu->isVisible());
    QTest::keyClick(menu, Qt::Key_Escape);
    QVERIFY(!menu->isVisible());
  }
  QTest::keyClick(&bench.window(), Qt::Key_E, Qt::ControlModifier);
  QVERIFY(bench->exportSheet().isVisible());
  QTest::keyClick(&bench.window(), Qt::Key_N, Qt::ControlModifier);
  QVERIFY(bench->gallery().isVisible());
  QTest::keyClick(&bench.window(), Qt::Key_N, Qt::ControlModifier);
  QVERIFY(!bench->gallery().isVisible());
  QVERIFY(whenShown<ShortcutsPage>([&] { QTest::keyClick(&bench.window(), Qt::Key_F1, Qt::ShiftModifier); },
                                   [](ShortcutsPage& page) { QTest::keyClick(&page, Qt::Key_Escape); }));
  // No key means two things.
  QSet<QString> keys;
  for (const QAction* action : bench.window().findChildren<QAction*>())
    if (action->shortcutContext() != Qt::WidgetShortcut && !action->objectName().isEmpty())
      for (const QKeySequence& key : action->shortcuts()) {
        QVERIFY2(!keys.contains(key.toString()), qPrintable(key.toString()));
        keys.insert(key.toString());
      }
  QVERIFY(keys.size() > 18);
}

void TestAccidents::everyCommandIsInAMenuOnce() {
  Bench bench;
  QHash<QString, int> seen;
  auto* bar = bench->topBar().findChild<QMenuBar*>();
  QSet<QChar> tops;
  for (const QAction* top : bar->actions()) {
    const qsizetype mark = top->text().indexOf('&');
    QVERIFY2(mark >= 0 && !tops.contains(top->text()[mark + 1].toLower()), qPrintable(top->text()));
    tops.insert(top->text()[mark + 1].toLower());
    QSet<QChar> letters;
    for (const QAction* action : top->menu()->actions()) {
      if (action->isSeparator()) continue;
      const qsizetype at = action->text().indexOf('&');
      QVERIFY2(at >= 0, qPrintable(action->text()));
      QVERIFY2(!letters.contains(action->text()[at + 1].toLower()), qPrintable(top->text() + " " + action->text()));
      letters.insert(action->text()[at + 1].toLower());
      ++seen[action->objectName()];
    }
  }
  for (const Commands::Section& section : bench->commands().sections())
    for (const QString& id : section.ids) {
      if (id == "-" || !bench->commands().command(id).run) continue;
      QVERIFY2(seen.value(id) == 1, qPrintable(id));
      QVERIFY2(!bench->commands().command(id).help.isEmpty(), qPrintable(id));
    }
}

void TestAccidents::menusReadFromLeftToRight() {
  Bench bench;
  for (const QMenu* menu : bench.window().findChildren<QMenu*>()) QCOMPARE(menu->layoutDirection(), Qt::LeftToRight);
}

void TestAccidents::theShortcutsPageIsMadeFromTheTable() {
  Bench bench;
  const ShortcutsPage page(bench->commands());
  QStringList words;
  for (const auto* label : page.findChildren<QLabel*>()) words << label->text();
  for (const Commands::Section& section : bench->commands().sections())
    for (const QString& id : section.ids) {
      if (id == "-" || bench->commands().command(id).keys.isEmpty()) continue;
      QVERIFY2(words.contains(bench->commands().command(id).help), qPrintable(id));
    }
}

void TestAccidents::rightClicksOfferMenus() {
  Bench bench;
  bench->document().setCurrentLayer(layerId(bench.window(), 2));
  QVERIFY(contextMenu(&bench->view(), bench->view().rect().center()).contains("Play"));
  QVERIFY(contextMenu(&bench->dial(), bench->dial().rect().center()).contains("To the joint"));
  QVERIFY(contextMenu(bench->curve().canvas(), bench->curve().canvas()->rect().center()).contains("Stop moving"));
  QVERIFY(contextMenu(paramRow(bench.window(), "noise", "cell"), {4, 4}).contains("Back to the default"));
  LayerTree* tree = pile(bench);
  const QStringList entries = contextMenu(tree->viewport(), tree->visualItemRect(tree->topLevelItem(0)).center());
  QVERIFY(entries.contains("Duplicate") && entries.contains("Delete"));
  QCOMPARE(placeOfCurrent(bench.window()), static_cast<int>(scene(bench).layers.size()) - 1);
  auto* card = bench->recipe().findChild<RecipeCard*>();
  QVERIFY(!contextMenu(card, {20, 8}).isEmpty());
}

void TestAccidents::spacePlaysFromEverywhere() {
  Bench bench;
  bench.settle();
  bench->document().setCurrentLayer(layerId(bench.window(), 1));
  QTest::keyClick(&bench.window(), Qt::Key_E, Qt::ControlModifier);
  QList<QWidget*> places{&bench->view(), &bench->dial(), pile(bench), bench->curve().canvas()};
  for (auto* button : bench->topBar().findChildren<QPushButton*>()) places << button;
  places << child<QSpinBox>(&bench->exportSheet(), "loops") << child<QComboBox>(&bench->exportSheet(), "format");
  for (QWidget* place : places) {
    place->setFocus();
    const bool before = bench->player().playing();
    QTest::keyClick(place, Qt::Key_Space);
    QVERIFY2(bench->player().playing() != before, place->metaObject()->className());
  }
  bench->showRecipe();
  auto* field = paramRow(bench.window(), "noise", "cell")->findChild<NumberField*>();
  field->setFocus();
  const bool before = bench->player().playing();
  QTest::keyClick(field, Qt::Key_Space);
  QVERIFY(bench->player().playing() != before);
  // In text that is being typed it is a blank.
  auto* name = child<QLineEdit>(&bench.window(), "sceneName");
  name->setFocus();
  name->selectAll();
  const bool then = bench->player().playing();
  QTest::keyClicks(name, "Pier one");
  QCOMPARE(name->text(), QString("Pier one"));
  QCOMPARE(bench->player().playing(), then);
  bench->player().setPlaying(false);
}

void TestAccidents::undoWorksFromANumberField() {
  Bench bench;
  bench->document().setCurrentLayer(layerId(bench.window(), 1));
  const Scene before = scene(bench);
  auto* field = paramRow(bench.window(), "noise", "cell")->findChild<NumberField*>();
  typeInto(field, "77");
  const Scene changed = scene(bench);
  QVERIFY(!(changed == before));
  QVERIFY(field->hasFocus());
  QTest::keyClick(field, Qt::Key_Z, Qt::ControlModifier);
  QVERIFY(scene(bench) == before);
  QTest::keyClick(field, Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
  QVERIFY(scene(bench) == changed);
  // While something is half typed the keys belong to the text.
  QTest::keyClicks(field, "12");
  QTest::keyClick(field, Qt::Key_Z, Qt::ControlModifier);
  QVERIFY(scene(bench) == changed);
}

void TestAccidents::returnPressesTheButton() {
  Bench bench;
  auto* button = child<QPushButton>(&bench.window(), "paletteButton");
  button->setFocus();
  QTest::keyClick(button, Qt::Key_Return);
  QVERIFY(bench->palettes().isVisible());
}

void TestAccidents::numbersAreReadAsPeopleTypeThem() {
  Bench bench;
  bench->document().setCurrentLayer(layerId(bench.window(), 1));
  auto* field = paramRow(bench.window(), "noise", "cell")->findChild<NumberField*>();
  const std::pair<const char*, double> typed[] = {{"2*120", 240}, {"1,5", 2}, {"1.234,5", 1234.5}, {"90 px", 90}, {"300/2", 150}};
  for (const auto& [text, value] : typed) {
    typeInto(field, text);
    // Held within the range (2 px at least), and shown as what it became.
    QCOMPARE(field->value(), value);
    QVERIFY2(field->problem().isEmpty(), text);
    QVERIFY(!field->text().contains('*'));
  }
  auto* stretch = paramRow(bench.window(), "noise", "stretch")->findChild<NumberField*>();
  typeInto(stretch, "3:1");
  QCOMPARE(stretch->value(), 3.0);
}

void TestAccidents::whatCannotBeReadStaysMarked() {
  Bench bench;
  bench->document().setCurrentLayer(layerId(bench.window(), 1));
  const Scene before = scene(bench);
  auto* field = paramRow(bench.window(), "noise", "cell")->findChild<NumberField*>();
  typeInto(field, "wide");
  QCOMPARE(field->text(), QString("wide"));
  QVERIFY2(field->problem().contains("not a number"), qPrintable(field->problem()));
  QCOMPARE(field->toolTip(), field->problem());
  QVERIFY(field->styleSheet().contains("#b63d24"));
  QVERIFY(scene(bench) == before);
  // It stays when the focus goes, and when something else changes.
  bench->view().setFocus();
  bench->document().edit("other", {}, [](Scene& s) { s.layers[0].opacity.base = 0.5; });
  QCOMPARE(field->text(), QString("wide"));
  field->setFocus();
  QTest::keyClick(field, Qt::Key_Escape);
  QVERIFY(field->problem().isEmpty() && field->text() != "wide");
}

void TestAccidents::valuesAreNeverCut() {
  Bench bench("ticket-display.overagain");
  for (int layer = 0; layer < static_cast<int>(scene(bench).layers.size()); ++layer) {
    bench->document().setCurrentLayer(layerId(bench.window(), layer));
    for (const auto* field : bench->recipe().findChildren<NumberField*>()) {
      if (!field->isVisible()) continue;
      const int needs = field->fontMetrics().horizontalAdvance(field->text());
      QVERIFY2(needs <= field->width() - 8, qPrintable(field->text() + " in " + field->accessibleName()));
    }
  }
  // "0.15 cells" has its first digit.
  const StepSpec& cells = *findStep("cells");
  NumberField orbit(cells.params[static_cast<std::size_t>(findParam(cells.params, "orbit"))]);
  orbit.setValue(0.15);
  QVERIFY(orbit.text().startsWith("0.15"));
  QVERIFY(orbit.fontMetrics().horizontalAdvance(orbit.text()) <= orbit.width() - 8);
}

void TestAccidents::sheetsTakeTheFocusAndGiveItBack() {
  Bench bench;
  bench->document().setCurrentLayer(layerId(bench.window(), 1));
  auto* slider = paramRow(bench.window(), "noise", "cell")->findChild<ValueSlider*>();
  for (const auto& [key, name] : std::initializer_list<std::pair<Qt::Key, const char*>>{
           {Qt::Key_E, "sheet-export"}, {Qt::Key_F, "sheet-frame"}, {Qt::Key_P, "sheet-palette"}}) {
    bench->dial().setFocus();
    QTest::keyClick(&bench.window(), key, Qt::ControlModifier);
    auto* sheet = child<QWidget>(&bench.window(), name);
    QVERIFY2(sheet->isVisible() && sheet->isAncestorOf(bench.window().focusWidget()), name);
    QTest::keyClick(bench.window().focusWidget(), Qt::Key_Escape);
    QVERIFY2(!sheet->isVisible(), name);
    QVERIFY2(bench->dial().hasFocus(), name);
  }
  QVERIFY(slider != nullptr);
}

void TestAccidents::escapeClosesWhatOpenedLast() {
  Bench bench;
  QTest::keyClick(&bench.window(), Qt::Key_E, Qt::ControlModifier);
  QTest::keyClick(&bench.window(), Qt::Key_L, Qt::ControlModifier);
  QVERIFY(bench->sources().isVisible());
  QTest::keyClick(bench.window().focusWidget(), Qt::Key_Escape);
  QVERIFY(!bench->sources().isVisible() && bench->exportSheet().isVisible());
  QTest::keyClick(bench.window().focusWidget(), Qt::Key_Escape);
  QVERIFY(!bench->exportSheet().isVisible() && bench->recipe().isVisible());
}

void TestAccidents::focusIsSeen() {
  // Every control that can have the focus looks different when it has it.
  Bench bench;
  bench->document().setCurrentLayer(layerId(bench.window(), 1));
  oa::app::test::turn();
  int looked = 0;
  for (auto* widget : bench.window().findChildren<QWidget*>()) {
    if (!widget->isVisible() || !widget->isEnabled() || !(widget->focusPolicy() & Qt::TabFocus)) continue;
    if (qobject_cast<View*>(widget) || qobject_cast<QAbstractItemView*>(widget)) continue;  // the picture, and items that have a ring
    if (widget->inherits("QAbstractScrollArea") || widget->width() < 8 || widget->visibleRegion().isEmpty()) continue;
    bench->view().setFocus();
    QWidget* shown = widget->parentWidget() && widget->inherits("QWidget") && widget->accessibleName() == "" ? widget : widget;
    const QRect around = QRect(shown->mapTo(&bench.window(), QPoint()), shown->size()).adjusted(-4, -4, 4, 4);
    const QImage without = bench.window().grab(around).toImage();
    widget->setFocus(Qt::TabFocusReason);
    if (!widget->hasFocus()) continue;
    // The header of a card shows it on the card.
    const QRect card =
        widget->parentWidget() ? QRect(widget->parentWidget()->mapTo(&bench.window(), QPoint()), widget->parentWidget()->size()) : around;
    const QImage with = bench.window().grab(around).toImage();
    bool differs = with != without;
    if (!differs) {
      const QImage cardWith = bench.window().grab(card).toImage();
      bench->view().setFocus();
      differs = cardWith != bench.window().grab(card).toImage();
    }
    QVERIFY2(differs,
             qPrintable(QString("%1 %2 %3").arg(widget->metaObject()->className(), widget->objectName(), widget->accessibleName())));
    ++looked;
  }
  QVERIFY2(looked > 20, qPrintable(QString::number(looked)));
}

QTEST_MAIN(TestAccidents)
#include "tst_accidents.moc"
