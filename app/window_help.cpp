// What the window tells of itself: pages of help, and the first steps.
#include <QLabel>
#include <algorithm>

#include "help/help_window.h"
#include "model/first_steps.h"
#include "model/look_shelf.h"
#include "params/passage.h"
#include "scene/place.h"
#include "sheets/gallery.h"
#include "sheets/look_gallery.h"
#include "sheets/sheet.h"
#include "sheets/timing_room.h"
#include "steps/step.h"
#include "widgets/curve_view.h"
#include "widgets/dial.h"
#include "widgets/help_mark.h"
#include "widgets/layer_pile.h"
#include "widgets/motion_list.h"
#include "widgets/recipe_panel.h"
#include "widgets/run_strip.h"
#include "widgets/text.h"
#include "widgets/view.h"
#include "window.h"

namespace oa::app {

void Window::showHelp() {
  const QString about = helpPageOf(focusWidget());
  if (!help_) makeHelp();
  help_->showPage(about.isEmpty() ? QStringLiteral("room/picture") : about);
  help_->show();
  help_->raise();
}

void Window::makeHelp() {
  std::vector<HelpPage> pages;
  const auto room = [&](const char* id, const QString& title, const QWidget* part) {
    pages.push_back(pageOf(QLatin1String(id), tr("The window"), title, {}, *part));
  };
  room("room/layers", tr("Layers"), layers_);
  room("room/picture", tr("Picture"), view_);
  room("room/recipe", tr("Recipe"), recipe_);
  room("room/dial", tr("Dial"), dial_);
  room("room/motions", tr("Motions"), motions_);
  room("room/curve", tr("Curve"), curve_);
  room("room/run", tr("Run"), runStrip_);
  room("room/timing", tr("Everything in time"), timing_);
  for (const bool sources : {true, false})
    for (const StepSpec* spec : allSteps())
      if ((spec->kind == StepKind::Source) == sources) pages.push_back(pageOf(*spec));
  pages.push_back(pageOf(QStringLiteral("card/place"), tr("Place"), tr("Where a layer is, how large and how turned."), placeSpecs()));
  pages.push_back(pageOf(QStringLiteral("card/mask"), tr("Mask"), tr("A layer is seen only where its mask is."), maskSpecs()));
  pages.push_back(pageOf(QStringLiteral("card/passage"), tr("Arrive, leave"), tr("How a layer comes before the loop, and goes behind it."),
                         passageSpecs()));
  pages.push_back(formulaPage());
  std::vector<HelpEntry> looks;
  for (const LookShelf::Kept& kept : shelf_->looks())
    if (kept.file.isEmpty()) looks.push_back({text(kept.look.section), text(kept.look.name), text(kept.look.help)});
  pages.push_back(pageOf(helpPageOf(looks_), tr("Galleries"), tr("Looks"), commands_->command(QStringLiteral("looks")).help, looks));
  for (const Sheet* sheet : findChildren<Sheet*>()) {
    const auto* title = sheet->findChild<QLabel*>(QStringLiteral("title"));
    // A sheet has the name of the command that opens it, but for two that are named after something else.
    QString command = sheet->objectName().mid(static_cast<int>(qstrlen("sheet-")));
    if (command == QLatin1String("fit")) command = QStringLiteral("fitLoop");
    if (command == QLatin1String("spread")) command = QStringLiteral("spreadInTime");
    pages.push_back(pageOf(helpPageOf(sheet), tr("Sheets"), title->text(), commands_->command(command).help, *sheet));
  }
  pages.push_back(pageOf(*commands_));
  help_ = new HelpWindow(std::move(pages), this);
}

void Window::beginFirstSteps() {
  if (!files_.mayDiscard()) return;
  const auto starters = starterScenes();
  const auto found =
      std::find_if(starters.begin(), starters.end(), [](const Scene& scene) { return scene.name == "Sea fog over deep water"; });
  if (found == starters.end()) return;
  showRecipe();
  showGallery(false);
  begin(*found);
  firstSteps_->begin();
}

}  // namespace oa::app
