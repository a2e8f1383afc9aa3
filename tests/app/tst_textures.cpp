// Making textures by hand: the gallery of sources, colour points in the picture, palettes, curves, keyframes, and a knob while playing.
#include <QApplication>
#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QDropEvent>
#include <QLabel>
#include <QListWidget>
#include <QMimeData>
#include <QPushButton>
#include <QScrollArea>
#include <QSet>
#include <QTemporaryDir>
#include <QTest>
#include <QToolButton>

#include "media/palette_file.h"
#include "params/first_motion.h"
#include "scene/recolour.h"
#include "sheets/palette_sheet.h"
#include "sheets/source_gallery.h"
#include "params/stop_items.h"
#include "scene/plan.h"
#include "scene/tree.h"
#include "support/hands.h"
#include "support/scenes.h"
#include "widgets/ask_colour.h"
#include "widgets/curve_view.h"
#include "widgets/motion_list.h"
#include "widgets/motion_pill.h"
#include "widgets/number_field.h"
#include "widgets/item_picker.h"
#include "widgets/items_editor.h"
#include "widgets/recipe_panel.h"
#include "widgets/swatch.h"
#include "widgets/tone_curve_editor.h"
#include "widgets/value_slider.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;
using oa::app::test::child;
using oa::app::test::clickInMenu;
using oa::app::test::drag;
using oa::app::test::paramRow;

namespace {

Param valueOf(Window& w, const char* id, int step = 0) {
  Scene scene = w.document().scene();
  const auto layers = allIds(scene);
  const auto at = static_cast<std::size_t>(std::find(layers.begin(), layers.end(), w.document().currentLayer()) - layers.begin());
  return oa::test::param(scene, at, static_cast<std::size_t>(step), id);
}

// A small scene of one layer that starts with a source.
void beginWith(Window& w, const char* source, const char* variety = "") {
  Scene scene = oa::test::oneLayer(source, 480, 270, 30);
  if (*variety) oa::test::setValue(scene, 0, 0, std::string(scene.layers[0].recipe[0].spec->varieties), std::string(variety));
  w.begin(scene);
}

QPointF inPicture(Window& w, double x, double y) {
  const QRectF frame = w.view().frameRect();
  return {frame.left() + x * frame.width(), frame.top() + y * frame.height()};
}

// Does something with the colour dialog that `opening` shows, then accepts it (or not).
bool inColourDialog(const std::function<void()>& opening, const std::function<void(ColourDialog&)>& act, bool accept) {
  return oa::app::test::whenShown<ColourDialog>(opening, [&](ColourDialog& dialog) {
    act(dialog);
    accept ? dialog.accept() : dialog.reject();
  });
}

}  // namespace

class TestTextures : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void layersComeFromTheGallery();
  void galleryThumbnailsMove();
  void sourcesAreChanged();
  void colourPointsAreDragged();
  void coloursArePickedFromThePalette();
  void pointsTakeThePalette();
  void palettesRecolourAndComeBack();
  void paletteFilesAreDropped();
  void brokenPalettesSaySo();
  void aKnobIsTurnedWhilePlaying();
  void keyframesAreDrawn();
  void walksAreSet();
  void movingPlacesShowTheirWay();
  void toneCurvesAreBent();
  void rowsComeAndGoWithTheKind();
  void theTileIsTold();
};

void TestTextures::layersComeFromTheGallery() {
  Bench bench("dusk.overagain");
  Window& w = bench.window();
  const std::size_t before = w.document().scene().layers.size();
  child<QToolButton>(&w, "addLayer")->click();
  QVERIFY(w.sources().isVisible());
  QVERIFY(w.sources().count() >= 25);
  const int card = w.sources().cardOf("cells", "web");
  QVERIFY(card >= 0);
  w.sources().card(card)->click();
  QVERIFY(!w.sources().isVisible());
  QCOMPARE(w.document().scene().layers.size(), before + 1);
  QCOMPARE(w.document().layer()->name, std::string("Web"));
  QCOMPARE(std::get<std::string>(valueOf(w, "look").base), std::string("web"));
  // A texture comes in the scene's colours, from dark to light.
  QCOMPARE(w.document().layer()->recipe.size(), std::size_t{2});
  const Stops stops = restingStops(w.document().layer()->recipe[1].items);
  QVERIFY(stops.size() >= 2 && toOkLab(stops.front().colour).L < toOkLab(stops.back().colour).L);
  w.document().history().undo();
  QCOMPARE(w.document().scene().layers.size(), before);
  // Or in black and white.
  w.showSources(false);
  w.sources().coloured()->setChecked(false);
  w.sources().card(w.sources().cardOf("noise", "ridged"))->click();
  QCOMPARE(w.document().layer()->recipe.size(), std::size_t{1});
  // Escape leaves all as it is.
  w.showSources(false);
  QTest::keyClick(&w.sources(), Qt::Key_Escape);
  QVERIFY(!w.sources().isVisible());
}

void TestTextures::galleryThumbnailsMove() {
  Bench bench("dusk.overagain");
  Window& w = bench.window();
  w.showSources(false);
  for (const auto& [step, variety] : {std::pair{"noise", "folded"}, {"cells", "pebbles"}, {"pattern", "spiral"}, {"points", ""}}) {
    QAbstractButton* card = w.sources().card(w.sources().cardOf(step, variety));
    // Once for its first picture, once more because it moves.
    const bool moved = oa::app::test::changesItsLook(card) && oa::app::test::changesItsLook(card);
    // Colour points rest until they are set moving; a picture they have all the same.
    QVERIFY2(moved || QLatin1String(step) == QLatin1String("points"), step);
    const QImage image = card->grab().toImage();
    QSet<QRgb> colours;
    for (int y = 10; y < image.height() - 40; ++y)
      for (int x = 10; x < image.width() - 10; ++x) colours.insert(image.pixel(x, y));
    QVERIFY2(colours.size() > 20, step);
  }
}

void TestTextures::sourcesAreChanged() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  w.document().setCurrentLayer(oa::app::test::layerId(w, 2));
  const Layer before = *w.document().layer();
  auto* card = w.findChild<QWidget*>(QStringLiteral("card-noise"));
  child<QPushButton>(card, "link")->click();
  QVERIFY(w.sources().isVisible());
  w.sources().card(w.sources().cardOf("pattern", "honeycomb"))->click();
  const Layer& after = *w.document().layer();
  QCOMPARE(after.recipe.front().spec->id, std::string_view("pattern"));
  QCOMPARE(after.recipe.size(), before.recipe.size());
  for (std::size_t i = 1; i < before.recipe.size(); ++i) QVERIFY(after.recipe[i] == before.recipe[i]);
  w.document().history().undo();
  QVERIFY(*w.document().layer() == before);
}

void TestTextures::colourPointsAreDragged() {
  Bench bench;
  Window& w = bench.window();
  beginWith(w, "points");
  oa::app::test::turn();
  const Point was = std::get<Point>(valueOf(w, "place3").base);
  const QImage before = w.view().image();
  const int steps = w.document().history().count();
  drag(&w.view(), inPicture(w, was.x, was.y), inPicture(w, 0.4, 0.65));
  const Point now = std::get<Point>(valueOf(w, "place3").base);
  QVERIFY2(std::abs(now.x - 0.4) < 0.01 && std::abs(now.y - 0.65) < 0.01, qPrintable(QStringLiteral("%1, %2").arg(now.x).arg(now.y)));
  QCOMPARE(w.document().history().count(), steps + 1);
  // The picture follows, and the card shows the point that was taken.
  QVERIFY(QTest::qWaitFor([&] { return w.view().image() != before; }, 5000));
  const auto idOf = [&](std::size_t i) { return w.document().layer()->recipe[0].items[i].id; };
  QCOMPARE(child<ItemsEditor>(&w, "itemsEditor")->item(), idOf(2));
  QCOMPARE(paramRow(w, "points", "place")->address().item, idOf(2));
  w.document().history().undo();
  QVERIFY(std::get<Point>(valueOf(w, "place3").base) == was);
  // By its own row of dots, and by keys.
  auto* items = child<ItemPicker>(&w, "items");
  QTest::mouseClick(items, Qt::LeftButton, Qt::NoModifier, items->dotRect(4).center().toPoint());
  QCOMPARE(paramRow(w, "points", "colour")->address().item, idOf(4));
  items->setFocus();
  QTest::keyClick(items, Qt::Key_Left);
  QCOMPARE(paramRow(w, "points", "colour")->address().item, idOf(3));
  // Another scene with something else in the same place.
  const Scene points = w.document().scene();
  beginWith(w, "noise");
  oa::app::test::turn();
  w.begin(points);
  oa::app::test::turn();
  child<ItemsEditor>(&w, "itemsEditor")->choose(idOf(3));
  // Fewer points: the one that is shown is one that is there.
  w.document().edit(QStringLiteral("fewer"), {}, [](Scene& s) { oa::test::setCount(s, 0, 0, 2); });
  QCOMPARE(paramRow(w, "points", "place")->address().item, idOf(1));
}

void TestTextures::coloursArePickedFromThePalette() {
  Bench bench;
  Window& w = bench.window();
  Scene scene = oa::test::oneLayer("points", 480, 270, 30);
  scene.palette = {"two", {hexColour(0xc8472b), hexColour(0x1f7672)}};
  w.begin(scene);
  auto* swatch = paramRow(w, "points", "colour")->findChild<Swatch*>();
  const Colour was = std::get<Colour>(valueOf(w, "colour1").base);
  QVERIFY(inColourDialog([&] { swatch->click(); },
                         [&](ColourDialog& d) {
                           child<Swatch>(&d, "palette-1")->click();
                           // The picture shows it while the dialog is still open.
                           QVERIFY(colourText(std::get<Colour>(valueOf(w, "colour1").base)) == "#1f7672");
                         },
                         true));
  QCOMPARE(colourText(std::get<Colour>(valueOf(w, "colour1").base)), std::string("#1f7672"));
  w.document().history().undo();
  QVERIFY(std::get<Colour>(valueOf(w, "colour1").base) == was);
  // Called off, the old colour stays.
  QVERIFY(inColourDialog([&] { swatch->click(); }, [&](ColourDialog& d) { child<Swatch>(&d, "palette-0")->click(); }, false));
  QVERIFY(std::get<Colour>(valueOf(w, "colour1").base) == was);
}

void TestTextures::pointsTakeThePalette() {
  Bench bench;
  Window& w = bench.window();
  Scene scene = oa::test::oneLayer("points", 480, 270, 30);
  scene.palette = {"three", {hexColour(0xc8472b), hexColour(0x1f7672), hexColour(0xf3f0e9)}};
  w.begin(scene);
  scene = w.document().scene();
  QVERIFY(clickInMenu([&] { QTest::mouseClick(child<QToolButton>(&w, "itemsFromPalette"), Qt::LeftButton); },
                      QStringLiteral("Its colours, one after the other")));
  for (int i = 1; i <= 5; ++i)
    QVERIFY(std::get<Colour>(valueOf(w, qPrintable(QStringLiteral("colour%1").arg(i))).base) ==
            scene.palette.colours[static_cast<std::size_t>(i - 1) % 3]);
  w.document().history().undo();
  QVERIFY(w.document().scene() == scene);
}

void TestTextures::palettesRecolourAndComeBack() {
  Bench bench("dusk.overagain");
  Window& w = bench.window();
  const Scene before = w.document().scene();
  const int steps = w.document().history().count();
  child<QPushButton>(&w, "paletteButton")->click();
  QVERIFY(w.palettes().isVisible());
  QVERIFY(w.palettes().palettes().size() >= 16);
  QListWidget* list = w.palettes().list();
  const auto press = [&](const char* name) {
    const int row = w.palettes().rowOf(QLatin1String(name));
    list->scrollToItem(list->item(row));
    QTest::mouseClick(list->viewport(), Qt::LeftButton, Qt::NoModifier, list->visualItemRect(list->item(row)).center());
  };
  press("Deep water");
  QCOMPARE(w.document().scene().palette.name, std::string("Deep water"));
  QVERIFY(w.document().scene() == recoloured(before, w.document().scene().palette));
  const QImage first = w.view().image();
  // The next one starts from the scene as it was, not from the last try, and by keyboard as well.
  press("Brass band");
  QVERIFY(w.document().scene() == recoloured(before, w.document().scene().palette));
  QVERIFY(QTest::qWaitFor([&] { return w.view().image() != first; }, 5000));
  QTest::keyClick(list, Qt::Key_Down);
  QVERIFY(w.document().scene().palette.name != "Brass band");
  QCOMPARE(w.document().history().count(), steps + 1);
  w.document().history().undo();
  QVERIFY(w.document().scene() == before);
  // As it was, by its button; and only offered, not used.
  press("Gulls");
  child<QPushButton>(&w, "putBack")->click();
  QVERIFY(w.document().scene() == before);
  child<QCheckBox>(&w, "recolour")->setChecked(false);
  press("Night ferry");
  Scene offered = before;
  offered.palette = w.document().scene().palette;
  QVERIFY(w.document().scene() == offered && offered.palette.name == "Night ferry");
  child<QPushButton>(&w, "keep")->click();
  QVERIFY(!w.palettes().isVisible());
}

void TestTextures::paletteFilesAreDropped() {
  Bench bench("dusk.overagain");
  Window& w = bench.window();
  const QTemporaryDir folder;
  const QString path = folder.filePath(QStringLiteral("pier.gpl"));
  QVERIFY(writePalette(path.toStdString(), {"Pier lights", {hexColour(0x101020), hexColour(0x806040), hexColour(0xfff0d0)}}).has_value());
  QMimeData data;
  data.setUrls({QUrl::fromLocalFile(path)});
  QDropEvent drop(QPointF(600, 300), Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
  // Straight to the window: the application only delivers drops of its own drags.
  static_cast<QObject&>(w).event(&drop);
  QVERIFY(w.palettes().isVisible());
  QCOMPARE(w.document().scene().palette.name, std::string("Pier lights"));
  QVERIFY(w.palettes().rowOf(QStringLiteral("Pier lights")) >= 0);
  // A picture gives its own.
  QImage picture(64, 32, QImage::Format_RGB32);
  picture.fill(QColor(0x20, 0x60, 0x90));
  for (int x = 0; x < 32; ++x)
    for (int y = 0; y < 32; ++y) picture.setPixelColor(x, y, QColor(0xf0, 0xc0, 0x70));
  const QString png = folder.filePath(QStringLiteral("beach.png"));
  QVERIFY(picture.save(png));
  QVERIFY(w.palettes().openFile(png));
  QCOMPARE(w.document().scene().palette.name, std::string("beach"));
  QCOMPARE(w.document().scene().palette.colours.size(), std::size_t{2});
}

void TestTextures::brokenPalettesSaySo() {
  Bench bench("dusk.overagain");
  Window& w = bench.window();
  const Scene before = w.document().scene();
  w.showPalettes();
  const QTemporaryDir folder;
  const QString path = folder.filePath(QStringLiteral("torn.gpl"));
  QFile file(path);
  QVERIFY(file.open(QIODevice::WriteOnly));
  file.write("GIMP Palette\n1 2 nothing\n");
  file.close();
  QVERIFY(!w.palettes().openFile(path));
  QVERIFY(w.document().scene() == before);
  bool said = false;
  for (const QLabel* label : w.palettes().findChildren<QLabel*>())
    said = said ||
           (label->isVisible() && label->text().contains(QStringLiteral("line 2")) && label->text().contains(QStringLiteral("torn.gpl")));
  QVERIFY(said);
}

void TestTextures::aKnobIsTurnedWhilePlaying() {
  Bench bench;
  Window& w = bench.window();
  beginWith(w, "cells", "pebbles");
  bench.settle();
  w.player().setPlaying(true);
  QVERIFY(QTest::qWaitFor([&] { return w.player().frame() > 3; }, 20000));
  const double before = std::get<double>(valueOf(w, "cell").base);
  auto* slider = paramRow(w, "cells", "cell")->findChild<ValueSlider*>();
  const int steps = w.document().history().count();
  const int frame = w.player().frame();
  drag(slider, QPointF(slider->width() * 0.4, slider->height() / 2.0), QPointF(slider->width() * 0.8, slider->height() / 2.0), 20);
  QVERIFY(std::get<double>(valueOf(w, "cell").base) != before);
  QVERIFY(w.player().playing());
  QCOMPARE(w.document().history().count(), steps + 1);
  QVERIFY(QTest::qWaitFor([&] { return w.player().frame() != frame; }, 2000));
  w.document().history().undo();
  QCOMPARE(std::get<double>(valueOf(w, "cell").base), before);
  QVERIFY(w.player().playing());
}

void TestTextures::keyframesAreDrawn() {
  Bench bench;
  Window& w = bench.window();
  beginWith(w, "noise");
  auto* pill = paramRow(w, "noise", "roughness")->findChild<MotionPill*>();
  QVERIFY(clickInMenu([&] { pill->click(); }, QStringLiteral("Keyframes")));
  CurveCanvas* canvas = w.curve().canvas();
  QCOMPARE(valueOf(w, "roughness").motion.keys.size(), std::size_t{2});
  // A double click on the curve adds one where it lies, without changing the curve's height there.
  const QRectF loop = canvas->loopRect();
  const double height = std::get<double>(valueOnLap(w.document().spec(*w.motions().chosen()), valueOf(w, "roughness"), 0.25));
  QTest::mouseDClick(canvas, Qt::LeftButton, Qt::NoModifier, QPoint(static_cast<int>(loop.left() + loop.width() * 0.25), 40));
  QCOMPARE(valueOf(w, "roughness").motion.keys.size(), std::size_t{3});
  QCOMPARE(canvas->chosenKey(), 1);
  QVERIFY(std::abs(std::get<double>(valueOf(w, "roughness").motion.keys[1].value) - height) < 0.02);
  // Dragged to another place and height, as one step.
  const int steps = w.document().history().count();
  drag(canvas, canvas->keyPlace(1), canvas->keyPlace(1) + QPointF(loop.width() * 0.1, -25));
  const Keyframe moved = valueOf(w, "roughness").motion.keys[1];
  QVERIFY2(std::abs(moved.at - 0.35) < 0.02, qPrintable(QString::number(moved.at)));
  QVERIFY(std::get<double>(moved.value) > height + 0.02);
  QCOMPARE(w.document().history().count(), steps + 1);
  // Past its neighbour: the order follows.
  drag(canvas, canvas->keyPlace(1), canvas->keyPlace(1) + QPointF(loop.width() * 0.3, 0));
  QCOMPARE(canvas->chosenKey(), 2);
  QVERIFY(std::abs(valueOf(w, "roughness").motion.keys[2].at - 0.65) < 0.02);
  // Its stretch can hold, and its value is a number.
  auto* pace = child<QComboBox>(&w, "pace");
  pace->setCurrentIndex(pace->count() - 1);
  Q_EMIT pace->activated(pace->count() - 1);
  QVERIFY(valueOf(w, "roughness").motion.keys[2].hold && !valueOf(w, "roughness").motion.keys[1].hold);
  QVERIFY(child<NumberField>(&w, "farEnd")->isVisible());
  // By keys: choose, raise, remove.
  canvas->setFocus();
  QTest::keyClick(canvas, Qt::Key_Left);
  QCOMPARE(canvas->chosenKey(), 1);
  const double value = std::get<double>(valueOf(w, "roughness").motion.keys[1].value);
  QTest::keyClick(canvas, Qt::Key_Down);
  QVERIFY(std::get<double>(valueOf(w, "roughness").motion.keys[1].value) < value);
  QTest::keyClick(canvas, Qt::Key_Delete);
  QCOMPARE(valueOf(w, "roughness").motion.keys.size(), std::size_t{2});
  w.document().history().undo();
  QCOMPARE(valueOf(w, "roughness").motion.keys.size(), std::size_t{3});
}

void TestTextures::walksAreSet() {
  Bench bench;
  Window& w = bench.window();
  beginWith(w, "points");
  auto* pill = paramRow(w, "points", "place")->findChild<MotionPill*>();
  QVERIFY(clickInMenu([&] { pill->click(); }, QStringLiteral("Wander")));
  QVERIFY(valueOf(w, "place1").motion.kind == MotionKind::Wander);
  auto* knots = child<NumberField>(&w, "knots");
  QVERIFY(knots->isVisible());
  knots->setFocus();
  QTest::keyClick(knots, Qt::Key_Up);
  QCOMPARE(valueOf(w, "place1").motion.knots, 6);
  // Hops that do not share the frames are told, and made to at a click.
  auto* colour = paramRow(w, "points", "colour")->findChild<MotionPill*>();
  QVERIFY(clickInMenu([&] { colour->click(); }, QStringLiteral("Hops")));
  auto* even = child<QPushButton>(&w, "evenHops");
  QVERIFY(!even->isVisible());  // 30 frames, 5 places
  knots->setFocus();
  QTest::keyClick(knots, Qt::Key_Up);
  QTest::keyClick(knots, Qt::Key_Up);
  QCOMPARE(valueOf(w, "colour1").motion.knots, 7);
  QVERIFY(even->isVisible() && even->text().contains(QLatin1Char('6')));
  even->click();
  QCOMPARE(valueOf(w, "colour1").motion.knots, 6);
  QVERIFY(!even->isVisible());
}

void TestTextures::movingPlacesShowTheirWay() {
  Bench bench;
  Window& w = bench.window();
  beginWith(w, "points");
  bench.settle();
  const QImage still = w.view().grab().toImage();
  const RecipeStep& points = w.document().layer()->recipe[0];
  const ParamAddress at{oa::app::test::layerId(w, 0), 0, findParam(points.spec->items->params, "place"), points.items[4].id};
  w.document().setMotion(at, firstMotion(w.document().spec(at), w.document().param(at), MotionKind::Wander), false);
  bench.settle();
  QVERIFY(w.view().grab().toImage() != still);
  // What wanders takes its reach along when it is dragged.
  const Param before = w.document().param(at);
  const Point place = std::get<Point>(before.base);
  drag(&w.view(), inPicture(w, place.x, place.y), inPicture(w, place.x - 0.2, place.y));
  const Param after = w.document().param(at);
  const auto reach = [](const Param& p) { return std::get<Point>(p.motion.far).x - std::get<Point>(p.base).x; };
  QVERIFY(std::abs(std::get<Point>(after.base).x - (place.x - 0.2)) < 0.01);
  QVERIFY(std::abs(reach(after) - reach(before)) < 1e-9);
}

void TestTextures::toneCurvesAreBent() {
  Bench bench;
  Window& w = bench.window();
  beginWith(w, "noise");
  w.recipe().addStep(*findStep("curves"));
  auto* editor = paramRow(w, "curves", "all")->findChild<ToneCurveEditor*>();
  oa::app::test::turn();  // until the card has its place
  w.recipe().findChild<QScrollArea*>()->ensureWidgetVisible(editor);
  // A straight curve is a thin strip that opens at a click.
  QVERIFY(!editor->isOpen());
  QTest::mouseClick(editor, Qt::LeftButton, Qt::NoModifier, editor->rect().center());
  QVERIFY(editor->isOpen());
  // Its card grows, and the rows below move: until it stands still.
  QRect stood;
  int turns = 0;
  QVERIFY(QTest::qWaitFor([&] {
    const QRect now(editor->mapToGlobal(QPoint()), editor->size());
    turns = now == stood ? turns + 1 : 0;
    stood = now;
    return turns > 4;
  }));
  QCOMPARE(std::get<Curve>(valueOf(w, "all", 1).base).size(), std::size_t{2});
  w.recipe().findChild<QScrollArea*>()->ensureWidgetVisible(editor);
  const QImage before = w.view().image();
  // A click on the line adds a point, the drag goes on with it.
  const int steps = w.document().history().count();
  drag(editor, editor->place({0.5, 0.5}), editor->place({0.5, 0.85}));
  Curve curve = std::get<Curve>(valueOf(w, "all", 1).base);
  QCOMPARE(curve.size(), std::size_t{3});
  QVERIFY2(std::abs(curve[1].x - 0.5) < 0.03 && std::abs(curve[1].y - 0.85) < 0.03,
           qPrintable(QString("%1 %2").arg(curve[1].x).arg(curve[1].y)));
  QCOMPARE(w.document().history().count(), steps + 1);
  QVERIFY(QTest::qWaitFor([&] { return w.view().image() != before; }, 5000));
  // Points do not pass each other; dragged far off they are gone.
  drag(editor, editor->place(curve[1]), editor->place({0.5, 0.2}) + QPointF(0, 0));
  QCOMPARE(std::get<Curve>(valueOf(w, "all", 1).base).size(), std::size_t{3});
  curve = std::get<Curve>(valueOf(w, "all", 1).base);
  drag(editor, editor->place(curve[1]), editor->place(curve[1]) + QPointF(0, 160));
  QCOMPARE(std::get<Curve>(valueOf(w, "all", 1).base).size(), std::size_t{2});
  // By keys, and straight again by a double click.
  editor->setFocus();
  QTest::keyClick(editor, Qt::Key_Right);
  QTest::keyClick(editor, Qt::Key_Down, Qt::ShiftModifier);
  QVERIFY(std::abs(std::get<Curve>(valueOf(w, "all", 1).base).back().y - 0.9) < 1e-9);
  QTest::mouseDClick(editor, Qt::LeftButton, Qt::NoModifier, editor->place({0.5, 0.3}).toPoint());
  QVERIFY((std::get<Curve>(valueOf(w, "all", 1).base) == Curve{{0, 0}, {1, 1}}));
}

void TestTextures::rowsComeAndGoWithTheKind() {
  Bench bench;
  Window& w = bench.window();
  beginWith(w, "noise");
  QVERIFY(paramRow(w, "noise", "cell")->isVisible());
  QVERIFY(!paramRow(w, "noise", "fold")->isVisible() && !paramRow(w, "noise", "speck")->isVisible());
  w.document().edit(QStringLiteral("kind"), {}, [](Scene& s) { oa::test::setValue(s, 0, 0, "kind", std::string("folded")); });
  QVERIFY(paramRow(w, "noise", "fold")->isVisible());
  w.document().edit(QStringLiteral("kind"), {}, [](Scene& s) { oa::test::setValue(s, 0, 0, "kind", std::string("speckle")); });
  QVERIFY(!paramRow(w, "noise", "cell")->isVisible() && paramRow(w, "noise", "held")->isVisible());
  // What is hidden does not move either.
  w.document().edit(QStringLiteral("held"), {}, [](Scene& s) { oa::test::setValue(s, 0, 0, "held", 0.0); });
  QCOMPARE(distinctFrames(w.document().scene()), std::int64_t{1});
}

void TestTextures::theTileIsTold() {
  Bench bench;
  Window& w = bench.window();
  beginWith(w, "noise");
  const auto said = [&] { return child<QLabel>(&w, "tile")->text(); };
  QVERIFY2(said().contains(QStringLiteral("480 × 270")) && said().contains(QStringLiteral("as large as the frame")), qPrintable(said()));
  w.document().edit(QStringLiteral("angle"), {}, [](Scene& s) { oa::test::setValue(s, 0, 0, "angle", 30.0); });
  QVERIFY2(said().contains(QStringLiteral("turned")), qPrintable(said()));
  beginWith(w, "pattern", "stripes");
  QVERIFY2(said().contains(QStringLiteral("120 × ")) && said().contains(QStringLiteral("4 × ")), qPrintable(said()));
  beginWith(w, "pattern", "rings");
  QVERIFY2(said().contains(QStringLiteral("centre")), qPrintable(said()));
}

QTEST_MAIN(TestTextures)
#include "tst_textures.moc"
