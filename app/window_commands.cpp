// The window's table of commands. A command is added here and nowhere else: menus, tooltips, shortcuts and their page follow.
#include <QAction>

#include "edit/layers.h"
#include "edit/places.h"
#include "sheets/gallery.h"
#include "top_bar.h"
#include "widgets/layer_pile.h"
#include "widgets/recipe_panel.h"
#include "widgets/view.h"
#include "window.h"

namespace oa::app {

void Window::makeCommands() {
  commands_ = new Commands(this);
  const Command line{QStringLiteral("-"), {}, {}};
  const auto id = [](const char* name) { return QString::fromLatin1(name); };
  const auto layer = [this] { return document_.layer() != nullptr; };

  const auto align = [this, layer, id](const char* name, const QString& words, const QString& help, edit::Align how) {
    return Command{
        id(name),
        words,
        help,
        {},
        [this, how] { document_.performHere(tr("align"), [&](Scene& s) { return edit::alignLayers(s, document_.selection(), how); }); },
        layer};
  };
  const auto spread = [this, id](const char* name, const QString& words, const QString& help, bool across) {
    return Command{id(name),
                   words,
                   help,
                   {},
                   [this, across] {
                     document_.performHere(tr("spread"),
                                           [&](Scene& s) { return edit::distributeLayers(s, document_.selection(), across); });
                   },
                   [this] { return document_.selection().size() > 2; }};
  };

  commands_->addSection(
      tr("&Scene"),
      {{id("new"),
        tr("&New from a starter…"),
        tr("Begin from a ready-made scene"),
        {QKeySequence::New},
        [this] { showGallery(!gallery_->isVisible()); }},
       {id("open"), tr("&Open…"), tr("Open a scene file"), {QKeySequence::Open}, [this] { files_.askToOpen(); }},
       {id("save"), tr("&Save"), tr("Save the scene"), {QKeySequence::Save}, [this] { files_.save(); }},
       {id("saveAs"),
        tr("Save &as…"),
        tr("Save the scene under another name"),
        {QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S)},
        [this] { files_.saveAs(); }},
       line,
       {id("renameScene"),
        tr("&Rename…"),
        tr("Change the scene's name"),
        {QKeySequence(Qt::SHIFT | Qt::Key_F2)},
        [this] { topBar_->editName(); }},
       {id("frame"),
        tr("&Frame and loop…"),
        tr("Frame size, rate and length of the loop"),
        {QKeySequence(Qt::CTRL | Qt::Key_F)},
        [this] { showFrame(); }},
       {id("palette"), tr("&Palette…"), tr("The scene in other colours"), {QKeySequence(Qt::CTRL | Qt::Key_P)}, [this] { showPalettes(); }},
       {id("check"),
        tr("&Check…"),
        tr("Measure the joint, for the scene and each layer"),
        {QKeySequence(Qt::CTRL | Qt::Key_K)},
        [this] { showCheck(); }},
       {id("export"), tr("&Export…"), tr("Hand the loop over as a file"), {QKeySequence(Qt::CTRL | Qt::Key_E)}, [this] { showExport(); }},
       line,
       {id("quit"), tr("&Quit"), tr("Close the window"), {QKeySequence(Qt::CTRL | Qt::Key_Q)}, [this] { close(); }}});

  commands_->addSection(tr("&Edit"), {{id("undo"),
                                       tr("&Undo"),
                                       tr("Take back the last change"),
                                       {QKeySequence(Qt::CTRL | Qt::Key_Z)},
                                       [this] { document_.history().undo(); },
                                       [this] { return document_.history().canUndo(); }},
                                      {id("redo"),
                                       tr("&Redo"),
                                       tr("Do again what was taken back"),
                                       {QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_Z)},
                                       [this] { document_.history().redo(); },
                                       [this] { return document_.history().canRedo(); }},
                                      line,
                                      {id("addStep"),
                                       tr("Add a &step…"),
                                       tr("Add a step to the layer's recipe"),
                                       {QKeySequence(Qt::CTRL | Qt::Key_T)},
                                       [this] {
                                         showRecipe();
                                         recipe_->openAddMenu();
                                       },
                                       [this] { return document_.layer() && !document_.layer()->locked; }},
                                      {id("otherSource"),
                                       tr("Another s&ource…"),
                                       tr("Another source in place of the layer's"),
                                       {},
                                       [this] { showSources(true); },
                                       [this] { return document_.layer() && !document_.layer()->locked; }}});

  commands_->addSection(tr("&Layer"),
                        {{id("addLayer"),
                          tr("&Add a layer…"),
                          tr("Add a layer, from the gallery of sources"),
                          {QKeySequence(Qt::CTRL | Qt::Key_L)},
                          [this] { showSources(false); }},
                         {id("duplicateLayer"),
                          tr("&Duplicate"),
                          tr("Make a copy of the layer above it"),
                          {QKeySequence(Qt::CTRL | Qt::Key_D)},
                          [this] { layers_->duplicate(); },
                          layer},
                         {id("linkedCopy"),
                          tr("Lin&ked copy"),
                          tr("Add a layer that shows this one again and follows it"),
                          {QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_D)},
                          [this] { layers_->addLinkedCopy(); },
                          layer},
                         {id("renameLayer"),
                          tr("&Rename"),
                          tr("Rename the layer"),
                          {QKeySequence(Qt::Key_F2)},
                          [this] { layers_->rename(document_.currentLayer()); },
                          layer},
                         line,
                         {id("showLayer"),
                          tr("&Visible"),
                          tr("Show the layer or hide it"),
                          {QKeySequence(Qt::CTRL | Qt::Key_H)},
                          [this] { layers_->setShown(!document_.layer()->visible); },
                          layer,
                          [this] { return document_.layer() && document_.layer()->visible; }},
                         {id("showAlone"),
                          tr("Al&one"),
                          tr("Show this layer alone, or all again"),
                          {QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_H)},
                          [this] { layers_->toggleAlone(); },
                          layer,
                          [this] { return document_.layer() && edit::areAlone(document_.scene(), document_.selection()); }},
                         {id("lockLayer"),
                          tr("&Locked"),
                          tr("Keep the layer as it is: nothing in it is dragged or changed"),
                          {},
                          [this] { layers_->toggleLock(); },
                          layer,
                          [this] { return document_.layer() && document_.layer()->locked; }},
                         line,
                         {id("group"),
                          tr("&Group"),
                          tr("Make a group of the selected layers"),
                          {QKeySequence(Qt::CTRL | Qt::Key_G)},
                          [this] { layers_->group(); },
                          layer},
                         {id("ungroup"),
                          tr("&Ungroup"),
                          tr("Put the group's layers in its place"),
                          {QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_G)},
                          [this] { layers_->ungroup(); },
                          [this] { return document_.layer() && document_.layer()->isGroup(); }},
                         line,
                         align("alignLeft", tr("Align le&ft"), tr("Left edges to one line, or to the frame's"), edit::Align::Left),
                         align("alignCentre", tr("Align &centre"), tr("Middles to one upright line"), edit::Align::Centre),
                         align("alignRight", tr("Align rig&ht"), tr("Right edges to one line"), edit::Align::Right),
                         align("alignTop", tr("Align to&p"), tr("Upper edges to one line"), edit::Align::Top),
                         align("alignMiddle", tr("Align m&iddle"), tr("Middles to one level line"), edit::Align::Middle),
                         align("alignBottom", tr("Align botto&m"), tr("Lower edges to one line"), edit::Align::Bottom),
                         spread("spreadAcross", tr("&Spread across"), tr("Equal distances between three or more, across"), true),
                         spread("spreadDown", tr("Spread dow&n"), tr("Equal distances between three or more, downwards"), false),
                         line,
                         {id("forward"),
                          tr("For&ward"),
                          tr("Move the layer, or the chosen step, towards the front"),
                          {QKeySequence(Qt::ALT | Qt::Key_Up)},
                          [this] { layers_->nudge(1); },
                          layer,
                          {},
                          true},
                         {id("back"),
                          tr("&Back"),
                          tr("Move the layer, or the chosen step, towards the back"),
                          {QKeySequence(Qt::ALT | Qt::Key_Down)},
                          [this] { layers_->nudge(-1); },
                          layer,
                          {},
                          true},
                         line,
                         {id("removeLayer"),
                          tr("D&elete"),
                          tr("Delete the layer; on a step, colour or keyframe that has the focus, delete that"),
                          {QKeySequence(Qt::Key_Delete)},
                          [this] { layers_->remove(); },
                          layer,
                          {},
                          true}});

  QList<Command> looks;
  const std::tuple<const char*, QString, QString, ViewMode> modes[] = {
      {"viewPicture", tr("&Picture"), tr("The picture as it will be exported"), ViewMode::Picture},
      {"viewSeam", tr("&Seam"), tr("The last frame beside the first, and their difference"), ViewMode::Seam},
      {"viewWrap", tr("&Wrap 3×3"), tr("The picture beside itself, to see the edges of tiles"), ViewMode::Wrap},
      {"viewStandIn", tr("Stand-&in"), tr("A sample title in front; it is not exported"), ViewMode::StandIn},
      {"viewSafe", tr("Safe &areas"), tr("What every screen shows"), ViewMode::SafeAreas}};
  for (const auto& [name, words, help, mode] : modes)
    looks << Command{id(name),
                     words,
                     help,
                     {},
                     [this, mode = mode] { view_->setMode(mode); },
                     {},
                     [this, mode = mode] { return view_ && view_->mode() == mode; }};
  looks << QList<Command>{
      line,
      {id("placing"),
       tr("Place &handles"),
       tr("Move, size and turn the layer in the picture; they are there anyway for what ends somewhere"),
       {QKeySequence(Qt::Key_P)},
       [this] { view_->setPlacing(!view_->placing()); },
       {},
       [this] { return view_ && view_->placing(); },
       true},
      line,
      {id("fit"), tr("&Fit"), tr("Show the whole picture"), {QKeySequence(Qt::CTRL | Qt::Key_0)}, [this] { view_->setZoom(0); }},
      {id("fullSize"),
       tr("F&ull size"),
       tr("Show every pixel of the picture"),
       {QKeySequence(Qt::CTRL | Qt::Key_1)},
       [this] { view_->setZoom(1 / devicePixelRatioF()); }},
      {id("zoomIn"),
       tr("Zoom i&n"),
       tr("Enlarge the picture"),
       {QKeySequence(Qt::CTRL | Qt::Key_Plus), QKeySequence(Qt::CTRL | Qt::Key_Equal)},
       [this] { view_->setZoom(view_->zoom() * 1.25); }},
      {id("zoomOut"),
       tr("Zoom &out"),
       tr("Make the picture smaller"),
       {QKeySequence(Qt::CTRL | Qt::Key_Minus)},
       [this] { view_->setZoom(view_->zoom() / 1.25); }},
      line,
      {id("play"),
       tr("P&lay"),
       tr("Play or stop"),
       {QKeySequence(Qt::Key_Space)},
       [this] { player_.toggle(); },
       {},
       [this] { return player_.playing(); }},
      {id("frameBack"),
       tr("Frame &back"),
       tr("One frame back"),
       {QKeySequence(Qt::Key_Left)},
       [this] { player_.setFrame(player_.frame() - 1); },
       {},
       {},
       true},
      {id("frameOn"),
       tr("Frame fo&rward"),
       tr("One frame on"),
       {QKeySequence(Qt::Key_Right)},
       [this] { player_.setFrame(player_.frame() + 1); },
       {},
       {},
       true},
      {id("joint"), tr("To the &joint"), tr("To frame 0"), {QKeySequence(Qt::Key_Home)}, [this] { player_.setFrame(0); }, {}, {}, true}};
  commands_->addSection(tr("&View"), looks);

  commands_->addSection(
      tr("&Help"),
      {{id("shortcuts"), tr("&Shortcuts"), tr("All keys on one page"), {QKeySequence(Qt::Key_F1)}, [this] { showShortcuts(); }}});

  // What controls have for themselves.
  commands_->addSection(
      tr("In controls"),
      {{id("note-step"),
        {},
        tr("Step a number or slider; with Shift by ten, with Ctrl by a tenth"),
        {QKeySequence(Qt::Key_Up), QKeySequence(Qt::Key_Down)}},
       {id("note-key"),
        {},
        tr("On a curve: move the chosen keyframe in time"),
        {QKeySequence(Qt::SHIFT | Qt::Key_Left), QKeySequence(Qt::SHIFT | Qt::Key_Right)}},
       {id("note-press"), {}, tr("Press the button that has the focus"), {QKeySequence(Qt::Key_Return)}},
       {id("note-menu"), {}, tr("The menu of what has the focus"), {QKeySequence(Qt::Key_Menu), QKeySequence(Qt::SHIFT | Qt::Key_F10)}},
       {id("note-escape"), {}, tr("Close what was opened last"), {QKeySequence(Qt::Key_Escape)}}});
}

}  // namespace oa::app
