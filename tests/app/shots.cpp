// Takes the screenshots of the documentation from the running window, with the demo scenes.
#include <QApplication>
#include <QDir>
#include <QElapsedTimer>
#include <QLineEdit>
#include <QPushButton>
#include <QScrollArea>
#include <QSettings>
#include <QTableView>
#include <QTableWidget>
#include <QTest>
#include <QToolButton>

#include "edit/layers.h"
#include "edit/source_layers.h"
#include "edit/wall.h"
#include "store/media_store.h"
#include "support/hands.h"
#include "sheets/palette_sheet.h"
#include "sheets/export_sheet.h"
#include "sheets/gallery.h"
#include "sheets/passage_gallery.h"
#include "sheets/source_gallery.h"
#include "params/first_motion.h"
#include "model/comparison.h"
#include "model/first_steps.h"
#include "scene/recolour.h"
#include "widgets/curve_view.h"
#include "widgets/motion_pill.h"
#include "widgets/own_card.h"
#include "widgets/recipe_panel.h"
#include "widgets/theme.h"
#include "widgets/view.h"
#include "window.h"

using namespace oa::app;

namespace {

void settle(Window& window) {
  QElapsedTimer timer;
  timer.start();
  while (window.renderer().filled() < 1 && timer.elapsed() < 60000) QTest::qWait(30);
  QTest::qWait(900);
  const auto* lamp = window.findChild<QPushButton*>(QStringLiteral("lamp"));
  while (lamp && lamp->text() == QStringLiteral("Looking…") && timer.elapsed() < 120000) QTest::qWait(30);
}

const oa::Scene& starter(const std::vector<oa::Scene>& scenes, const std::string& name) {
  for (const oa::Scene& scene : scenes)
    if (scene.name == name) return scene;
  return scenes.front();
}

void openCard(Window& window, const char* name) {
  auto* card = window.recipe().findChild<OwnCard*>(QLatin1String(name));
  if (card) card->findChildren<QToolButton*>().first()->click();
  QTest::qWait(50);
  if (auto* scroll = window.recipe().findChild<QScrollArea*>(); scroll && card) scroll->ensureWidgetVisible(card, 0, 40);
}

}  // namespace

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  QApplication::setApplicationName(QStringLiteral("Over Again"));
  const QDir out(argc > 1 ? QString::fromLocal8Bit(argv[1]) : QStringLiteral("."));
  QApplication::setStyle(QStringLiteral("Fusion"));
  Theme::apply(application, QStringLiteral("light"));
  // How the curve was looked at last time is nobody's business here.
  QSettings().remove(QStringLiteral("curve"));
  const auto scenes = starterScenes();
  const auto save = [&](QWidget& widget, const char* name) { widget.grab().save(out.filePath(QLatin1String(name))); };
  const auto choose = [](Window& window, const char* name) {
    oa::forEachLayer(window.document().scene().layers, [&](const oa::Layer& layer, int) {
      if (layer.name == name) window.document().setCurrentLayer(layer.id);
    });
  };
  {
    Window window;
    window.resize(1280, 800);
    window.show();
    // Everything in time: six layers spread over a lap, their rises chosen.
    window.begin(starter(scenes, "Floats, one after the other"));
    window.showTiming();
    if (auto* table = window.findChild<QTableView*>(QStringLiteral("timing")))
      for (int row = 0; row < 12; row += 2)
        table->selectionModel()->select(table->model()->index(row, 0), QItemSelectionModel::Select | QItemSelectionModel::Rows);
    window.player().setFrame(40);
    settle(window);
    save(window, "timing.png");
    window.showGallery(false);
    // Repeats: the card in its order, the line that copies hang on.
    window.begin(starter(scenes, "Signal flags on a line"));
    choose(window, "Flags");
    settle(window);
    window.player().setFrame(30);
    // Two of them are larger and hang lower, one is left out.
    if (auto* section = window.recipe().findChild<QWidget*>(QStringLiteral("section-Single copies")))
      if (auto* choosing = section->findChild<QToolButton*>(QStringLiteral("chooseCopies"))) {
        if (auto* heading = section->findChild<QToolButton*>(QStringLiteral("sectionHeading")); !choosing->isVisible()) heading->click();
        choosing->click();
      }
    {
      auto& document = window.document();
      oa::PlaneView frame;
      frame.frameWidth = document.scene().width;
      frame.frameHeight = document.scene().height;
      const oa::RecipeStep& flags = document.layer()->recipe[0];
      const auto places = flags.spec->copies(oa::contextOf(flags, {30, document.scene().frames}, frame));
      document.chooseCopies({places[3].copy});
      document.changeCopies(
          QStringLiteral("out"), [](oa::CopyChange& c) { c.out = true; }, false);
      document.chooseCopies({places[26].copy, places[33].copy});
      document.changeCopies(
          QStringLiteral("large"),
          [](oa::CopyChange& c) {
            c.by = {0, 34};
            c.size = 1.6;
            c.colour = oa::hexColour(0xeda86d);
          },
          false);
    }
    settle(window);
    QTest::qWait(400);
    save(window, "repeat.png");
    window.document().editInPicture({});
    // An outline with its poses and strands, edited in the picture.
    window.begin(starter(scenes, "A pennant with strands"));
    {
      auto& document = window.document();
      document.perform(QStringLiteral("figure"), [&](oa::Scene& scene) -> oa::Result<oa::edit::Ids> {
        scene.layers.resize(1);
        for (const auto& variety : oa::edit::sourceVarieties()) {
          if (variety.variety != "Sea lantern" && variety.variety != "Bubbles") continue;
          const auto layer = oa::edit::addLayer(scene, scene.layers.back().id, oa::edit::sourceLayer(variety, {}));
          if (!layer) return tl::unexpected(layer.error());
        }
        std::swap(scene.layers[1], scene.layers[2]);
        return oa::edit::Ids{scene.layers[2].id};
      });
      choose(window, "Sea lantern");
      const ParamAddress outline{document.currentLayer(), 0, oa::findParam(oa::findStep("outline")->params, "outline")};
      document.editInPicture(outline);
      document.showMotion(outline);
      settle(window);
      window.player().setFrame(60);
      QTest::qWait(300);
    }
    save(window, "outline.png");
    window.begin(starter(scenes, "Ticket window, framed"));
    choose(window, "Panel");
    openCard(window, "maskCard");
    settle(window);
    window.player().setFrame(64);
    QTest::qWait(300);
    save(window, "tree-and-mask.png");
    window.begin(starter(scenes, "The quay, passing by"));
    window.document().setCurrentLayer(window.document().scene().layers.front().id);
    settle(window);
    // How well its ends meet is told at the lower end of the card.
    if (auto* scroll = window.recipe().findChild<QScrollArea*>())
      if (auto* seam = window.recipe().findChild<QWidget*>(QStringLiteral("seamRow"))) scroll->ensureWidgetVisible(seam, 0, 30);
    QTest::qWait(1500);
    save(window, "pictures.png");
    // A clip in front whose joint is measured, and a tune round the dial that a layer follows.
    window.begin(starter(scenes, "Dusk over the harbour"));
    {
      auto& document = window.document();
      oa::MediaStore& store = oa::MediaStore::shared();
      const auto clip = store.takeIn(std::string(OA_SOURCE_DIR "/demo-data/media/swinging-lantern.webm"));
      const auto tune = store.takeIn(std::string(OA_SOURCE_DIR "/demo-data/media/brass.ogg"));
      if (!clip || !tune) return 1;
      document.edit(QStringLiteral("tune"), {}, [&](oa::Scene& scene) {
        oa::Param& file = scene.sound.at(oa::SoundParam::File);
        file.base = file.motion.far = *tune;
        scene.frames = 240;
      });
      document.perform(QStringLiteral("clip"), [&](oa::Scene& scene) -> oa::Result<oa::edit::Ids> {
        const auto layer = oa::edit::addLayer(scene, document.currentLayer(), oa::edit::pictureLayer(*clip, scene));
        if (!layer) return tl::unexpected(layer.error());
        return oa::edit::Ids{*layer};
      });
      const ParamAddress opacity{document.currentLayer(), ParamAddress::kOpacity, 0};
      oa::Motion loud = oa::firstMotion(document.spec(opacity), document.param(opacity), oa::MotionKind::Sound);
      loud.band = oa::SoundBand::Low;
      loud.far = 0.6;
      document.setMotion(opacity, loud, false);
      document.showMotion(opacity);
    }
    settle(window);
    QTest::qWait(2500);
    window.player().setFrame(20);
    QTest::qWait(300);
    save(window, "clip-and-sound.png");
    // The run: what arrives, the loop, what leaves.
    window.begin(starter(scenes, "A card from the harbour"));
    choose(window, "Greeting");
    openCard(window, "passageCard");
    window.document().edit(QStringLiteral("loops"), {}, [](oa::Scene& scene) { scene.run.loops = 2; });
    window.player().setPlace(62);
    settle(window);
    save(window, "run.png");
    // The first steps, two of them done.
    window.begin(starter(scenes, "Old chart, tide by tide"));
    window.beginFirstSteps();
    window.player().setPlaying(true);
    window.player().setPlaying(false);
    window.player().setFrame(60);
    {
      const ParamAddress at{window.document().currentLayer(), 0,
                            oa::findParam(window.document().layer()->recipe[0].spec->params, "roughness")};
      window.document().setBase(at, 0.62, false);
    }
    settle(window);
    save(window, "first-steps.png");
    window.firstSteps().leave();
    // The same harbour in other colours, beside what it was.
    window.begin(starter(scenes, "Sunset, lantern boats out"));
    {
      auto& document = window.document();
      const auto change = [&](const QString& what, const std::function<void(oa::Scene&)>& how) { document.edit(what, {}, how); };
      const auto& palettes = window.palettes().palettes();
      change(QStringLiteral("Sky · layer hidden"), [](oa::Scene& scene) { scene.layers.back().visible = false; });
      change(QStringLiteral("Palette: %1").arg(QString::fromStdString(palettes[3].name)),
             [&](oa::Scene& scene) { scene = oa::recoloured(scene, palettes[3]); });
      change(QStringLiteral("Sky · layer shown"), [](oa::Scene& scene) { scene.layers.back().visible = true; });
      change(QStringLiteral("Palette: %1").arg(QString::fromStdString(palettes[1].name)),
             [&](oa::Scene& scene) { scene = oa::recoloured(scene, palettes[1]); });
      window.player().setFrame(30);
      window.showHistory();
      oa::app::test::turn();
      const auto states = document.states();
      window.comparison().begin(states[0].scene, QStringLiteral("As it was opened"));
    }
    settle(window);
    QTest::qWait(4000);
    save(window, "compare.png");
    window.comparison().end();
    window.showRecipe();
    // Titles from a table, one of them looked at.
    window.begin(starter(scenes, "The lamp keeper speaks"));
    choose(window, "Panel");
    window.document().edit(QStringLiteral("table"), {}, [](oa::Scene& scene) {
      oa::forEachLayer(scene.layers, [](oa::Layer& layer, int) {
        if (layer.name == "Panel") layer.recipe[0].params[0].base = oa::Text{"{name}\n{role}"};
      });
      scene.table = {{"name", "role"},
                     {{"Maren Holt", "Keeper of the lamp room"},
                      {"Tobias Quill", "Harbour pilot"},
                      {"Anselm Pryor", "Chowder stall"},
                      {"Ida Fenn", "Brass band"},
                      {"Corin Vale", "Sailmaker"},
                      {"Wren Askew", "Tide tables"}}};
    });
    window.showTitles();
    if (auto* table = window.findChild<QTableWidget*>(QStringLiteral("titles"))) table->setCurrentCell(1, 0);
    window.findChild<QLineEdit*>(QStringLiteral("titlePattern"))->setText(QStringLiteral("/home/kelpwick/Videos/{name}.mp4"));
    settle(window);
    save(window, "titles.png");
    window.showRecipe();
    window.begin(starter(scenes, "Ticket window, framed"));
    choose(window, "Panel");
    openCard(window, "maskCard");
    settle(window);
    window.player().setFrame(64);
    QTest::qWait(300);
    save(window, "tree-and-mask.png");
    window.begin(starter(scenes, "The quay, passing by"));
    window.document().setCurrentLayer(window.document().scene().layers.front().id);
    settle(window);
    // How well its ends meet is told at the lower end of the card.
    if (auto* scroll = window.recipe().findChild<QScrollArea*>())
      if (auto* seam = window.recipe().findChild<QWidget*>(QStringLiteral("seamRow"))) scroll->ensureWidgetVisible(seam, 0, 30);
    QTest::qWait(1500);
    save(window, "pictures.png");
    // A clip in front whose joint is measured, and a tune round the dial that a layer follows.
    window.begin(starter(scenes, "Dusk over the harbour"));
    {
      auto& document = window.document();
      oa::MediaStore& store = oa::MediaStore::shared();
      const auto clip = store.takeIn(std::string(OA_SOURCE_DIR "/demo-data/media/swinging-lantern.webm"));
      const auto tune = store.takeIn(std::string(OA_SOURCE_DIR "/demo-data/media/brass.ogg"));
      if (!clip || !tune) return 1;
      document.edit(QStringLiteral("tune"), {}, [&](oa::Scene& scene) {
        oa::Param& file = scene.sound.at(oa::SoundParam::File);
        file.base = file.motion.far = *tune;
        scene.frames = 240;
      });
      document.perform(QStringLiteral("clip"), [&](oa::Scene& scene) -> oa::Result<oa::edit::Ids> {
        const auto layer = oa::edit::addLayer(scene, document.currentLayer(), oa::edit::pictureLayer(*clip, scene));
        if (!layer) return tl::unexpected(layer.error());
        return oa::edit::Ids{*layer};
      });
      const ParamAddress opacity{document.currentLayer(), ParamAddress::kOpacity, 0};
      oa::Motion loud = oa::firstMotion(document.spec(opacity), document.param(opacity), oa::MotionKind::Sound);
      loud.band = oa::SoundBand::Low;
      loud.far = 0.6;
      document.setMotion(opacity, loud, false);
      document.showMotion(opacity);
    }
    settle(window);
    QTest::qWait(2500);
    window.player().setFrame(20);
    QTest::qWait(300);
    save(window, "clip-and-sound.png");
    // The run: what arrives, the loop, what leaves.
    window.begin(starter(scenes, "A card from the harbour"));
    choose(window, "Greeting");
    openCard(window, "passageCard");
    window.document().edit(QStringLiteral("loops"), {}, [](oa::Scene& scene) { scene.run.loops = 2; });
    window.player().setPlace(62);
    settle(window);
    save(window, "run.png");
    // The first steps, two of them done.
    window.begin(starter(scenes, "Old chart, tide by tide"));
    window.beginFirstSteps();
    window.player().setPlaying(true);
    window.player().setPlaying(false);
    window.player().setFrame(60);
    {
      const ParamAddress at{window.document().currentLayer(), 0,
                            oa::findParam(window.document().layer()->recipe[0].spec->params, "roughness")};
      window.document().setBase(at, 0.62, false);
    }
    settle(window);
    save(window, "first-steps.png");
    window.firstSteps().leave();
    // The same harbour in other colours, beside what it was.
    window.begin(starter(scenes, "Sunset, lantern boats out"));
    {
      auto& document = window.document();
      const auto change = [&](const QString& what, const std::function<void(oa::Scene&)>& how) { document.edit(what, {}, how); };
      const auto& palettes = window.palettes().palettes();
      change(QStringLiteral("Sky · layer hidden"), [](oa::Scene& scene) { scene.layers.back().visible = false; });
      change(QStringLiteral("Palette: %1").arg(QString::fromStdString(palettes[3].name)),
             [&](oa::Scene& scene) { scene = oa::recoloured(scene, palettes[3]); });
      change(QStringLiteral("Sky · layer shown"), [](oa::Scene& scene) { scene.layers.back().visible = true; });
      change(QStringLiteral("Palette: %1").arg(QString::fromStdString(palettes[1].name)),
             [&](oa::Scene& scene) { scene = oa::recoloured(scene, palettes[1]); });
      window.player().setFrame(30);
      window.showHistory();
      oa::app::test::turn();
      const auto states = document.states();
      window.comparison().begin(states[0].scene, QStringLiteral("As it was opened"));
    }
    settle(window);
    QTest::qWait(4000);
    save(window, "compare.png");
    window.comparison().end();
    window.showRecipe();
    // Titles from a table, one of them looked at.
    window.begin(starter(scenes, "The lamp keeper speaks"));
    choose(window, "Panel");
    window.document().edit(QStringLiteral("table"), {}, [](oa::Scene& scene) {
      oa::forEachLayer(scene.layers, [](oa::Layer& layer, int) {
        if (layer.name == "Panel") layer.recipe[0].params[0].base = oa::Text{"{name}\n{role}"};
      });
      scene.table = {{"name", "role"},
                     {{"Maren Holt", "Keeper of the lamp room"},
                      {"Tobias Quill", "Harbour pilot"},
                      {"Anselm Pryor", "Chowder stall"},
                      {"Ida Fenn", "Brass band"},
                      {"Corin Vale", "Sailmaker"},
                      {"Wren Askew", "Tide tables"}}};
    });
    window.showTitles();
    if (auto* table = window.findChild<QTableWidget*>(QStringLiteral("titles"))) table->setCurrentCell(1, 0);
    window.findChild<QLineEdit*>(QStringLiteral("titlePattern"))->setText(QStringLiteral("/home/kelpwick/Videos/{name}.mp4"));
    settle(window);
    save(window, "titles.png");
    // Lengths that fit, of a loop that is counted in beats.
    window.begin(starter(scenes, "Lamp after lamp"));
    window.document().edit(QStringLiteral("beats"), {}, [](oa::Scene& scene) { scene.beats = 24; });
    window.showFit();
    QTest::qWait(300);
    settle(window);
    save(window, "fit.png");
    window.showRecipe();
    window.begin(starter(scenes, "Ticket window, framed"));
    choose(window, "Pebbles");
    window.showSteps();
    QElapsedTimer wait;
    wait.start();
    while (wait.elapsed() < 6000) QTest::qWait(50);
    save(window, "steps.png");
    window.showGallery(false);
    window.begin(starter(scenes, "Old chart, tide by tide"));
    window.document().setCurrentLayer(oa::app::test::layerId(window, 0));
    window.showLooks();
    wait.restart();
    while (wait.elapsed() < 4000) QTest::qWait(50);
    save(window, "looks.png");
    window.showGallery(false);
    // Only what was changed last, while it is worked on.
    if (argc > 2) return 0;
  }
  {
    Window window;
    window.resize(1280, 800);
    window.show();
    window.begin(starter(scenes, "Stage screen, evening"));
    window.document().setCurrentLayer(oa::app::test::layerId(window, 2));
    settle(window);
    window.player().setFrame(78);
    QTest::qWait(200);
    save(window, "main-window.png");
    window.view().setMode(ViewMode::Seam);
    window.showCheck();
    QTest::qWait(6000);
    save(window, "check-and-seam.png");
    window.view().setMode(ViewMode::Picture);
    window.showExport();
    window.exportSheet()
        .findChild<QLineEdit*>(QStringLiteral("target"))
        ->setText(QStringLiteral("/home/kelpwick/Videos/stage-screen-evening.mp4"));
    QTest::qWait(300);
    save(window, "export.png");
    window.showRecipe();
    window.begin(starter(scenes, "Sunset, lantern boats out"));
    window.document().setCurrentLayer(oa::app::test::layerId(window, 0));
    {
      const oa::RecipeStep& points = window.document().layer()->recipe[0];
      const ParamAddress place{oa::app::test::layerId(window, 0), 0, oa::findParam(points.spec->items->params, "place"),
                               points.items[3].id};
      window.document().chooseItem(place.layer, 0, place.item);
      window.document().showMotion(place);
    }
    settle(window);
    window.player().setFrame(96);
    QTest::qWait(300);
    // Words whose letters swell, and the same behind them, small and turned.
    {
      auto& document = window.document();
      for (const auto& variety : oa::edit::sourceVarieties())
        if (variety.variety == "Swell")
          document.perform(QStringLiteral("words"), [&](oa::Scene& scene) -> oa::Result<oa::edit::Ids> {
            const auto layer = oa::edit::addLayer(scene, scene.layers.back().id, oa::edit::sourceLayer(variety, {}));
            if (!layer) return tl::unexpected(layer.error());
            return oa::edit::Ids{*layer};
          });
      document.perform(QStringLiteral("wall"),
                       [&](oa::Scene& scene) { return oa::edit::addWall(scene, scene.layers.back().id, "Wall of Swell"); });
      document.setCurrentLayer(document.scene().layers.back().id);
    }
    settle(window);
    QTest::qWait(600);
    save(window, "words.png");
    window.begin(starter(scenes, "Old chart, tide by tide"));
    window.document().setCurrentLayer(oa::app::test::layerId(window, 1));
    {
      const auto& recipe = window.document().layer()->recipe;
      const ParamAddress at{oa::app::test::layerId(window, 1), 0, oa::findParam(recipe[0].spec->params, "brightness")};
      oa::Motion motion = firstMotion(window.document().spec(at), window.document().param(at), oa::MotionKind::Keyframes);
      motion.keys[1].value = 0.02;
      oa::placeKeyframe(motion, {0.75, -0.09, {}, false});
      window.document().setMotion(at, motion, false);
      window.document().showMotion(at);
    }
    window.curve().canvas()->setShowsSpeed(true);
    window.curve().canvas()->chooseSeveral({0, 1});
    settle(window);
    save(window, "keyframes.png");
    window.curve().canvas()->setShowsSpeed(false);
    window.showGallery(true);
    QElapsedTimer timer;
    timer.start();
    while (timer.elapsed() < 5000) QTest::qWait(50);
    save(window, "starters.png");
  }
  Theme::apply(application, QStringLiteral("dark"));
  {
    Window window;
    window.resize(1280, 800);
    window.show();
    // A street in depths: lanterns near, gulls and the quay further off.
    window.begin(starter(scenes, "Dusk over the harbour"));
    {
      auto& document = window.document();
      const std::pair<const char*, oa::Point> rows[] = {
          {"quay-strip.png", {0.5, 0.74}}, {"gull.svg", {0.5, 0.3}}, {"lantern.svg", {0.5, 0.14}}};
      oa::edit::Ids added;
      for (const auto& [name, at] : rows) {
        const auto file = oa::MediaStore::shared().takeIn(std::string(OA_SOURCE_DIR "/demo-data/media/") + name);
        if (!file) return 1;
        document.perform(QStringLiteral("row"), [&, at = at](oa::Scene& scene) -> oa::Result<oa::edit::Ids> {
          oa::Layer layer = oa::edit::pictureLayer(*file, scene);
          layer.place[static_cast<std::size_t>(oa::PlaceParam::Position)].base = at;
          const double size = added.empty() ? 1.0 : 0.6;
          layer.place[static_cast<std::size_t>(oa::PlaceParam::Size)].base = oa::Point{size, size};
          const auto made = oa::edit::addLayer(scene, added.empty() ? document.currentLayer() : added.back(), layer);
          if (!made) return tl::unexpected(made.error());
          added.push_back(*made);
          return oa::edit::Ids{*made};
        });
      }
      document.edit(QStringLiteral("length"), {}, [](oa::Scene& scene) { scene.frames = 1200; });
      document.setSelection(added);
    }
    window.showDepth();
    window.findChild<QPushButton*>(QStringLiteral("travelByDepth"))->click();
    settle(window);
    save(window, "dark.png");
  }
  return 0;
}
