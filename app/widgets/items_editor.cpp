#include "widgets/items_editor.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>

#include "edit/items.h"
#include "widgets/fades_dialog.h"
#include "widgets/item_picker.h"
#include "widgets/stops_editor.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {

ItemsEditor::ItemsEditor(Document& document, Id layer, int step, QWidget* parent)
    : QWidget(parent), document_(document), layer_(layer), step_(step), spec_(document.step(layer, step)->spec) {
  const ItemsSpec& items = *spec_->items;
  const QString single = text(items.single);
  setObjectName(QStringLiteral("itemsEditor"));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(3);
  auto* line = new QHBoxLayout();
  line->setSpacing(2);
  which_ = new QLabel(this);
  which_->setObjectName(QStringLiteral("whichItem"));
  line->addWidget(which_);
  line->addStretch(1);
  const auto tool = [&](const char* name, const char* iconName, const QString& says) {
    auto* button = new QToolButton(this);
    button->setObjectName(QLatin1String(name));
    button->setIcon(icon(QLatin1String(iconName), Theme::now().muted));
    button->setIconSize(QSize(14, 14));
    button->setToolTip(says);
    button->setAccessibleName(says);
    line->addWidget(button);
    return button;
  };
  auto* palette = new QToolButton(this);
  palette->setObjectName(QStringLiteral("itemsFromPalette"));
  palette->setText(tr("Palette…"));
  palette->setToolTip(tr("Give them the colours of the scene’s palette, or let them fade through it"));
  palette->setAccessibleName(tr("Colours from the palette"));
  palette->setPopupMode(QToolButton::InstantPopup);
  auto* ways = new QMenu(palette);
  ways->setToolTipsVisible(true);
  QAction* take = ways->addAction(tr("Its colours, one after the other"), this, &ItemsEditor::paintColours);
  take->setToolTip(tr("Give them the colours of the scene’s palette"));
  QAction* fade = ways->addAction(tr("Fade through it over the loop…"), this, [this] {
    const int colour = findParam(spec_->items->params, "colour");
    if (shownStep() && colour >= 0) fadeThroughPalette(this, document_, {layer_, step_, colour, ParamAddress::kAllItems});
  });
  fade->setToolTip(tr("Each begins one colour further on than the one before it"));
  palette->setMenu(ways);
  palette->setVisible(findParam(items.params, "colour") >= 0);
  line->addWidget(palette);
  all_ = new QToolButton(this);
  all_->setObjectName(QStringLiteral("allItems"));
  all_->setText(tr("All"));
  all_->setCheckable(true);
  all_->setToolTip(tr("What is set goes to all of them; a motion gets head starts that are spread over the lap"));
  all_->setAccessibleName(tr("All of them at once"));
  connect(all_, &QToolButton::clicked, this, [this](bool on) {
    const RecipeStep* shown = shownStep();
    if (!shown) return;
    const auto at = static_cast<std::size_t>(std::clamp(index_, 0, static_cast<int>(shown->items.size()) - 1));
    choose(on ? ParamAddress::kAllItems : shown->items[at].id);
  });
  line->addWidget(all_);
  connect(tool("addItem", "plus", tr("Add one behind the chosen one")), &QToolButton::clicked, this, &ItemsEditor::add);
  remove_ = tool("removeItem", "trash-2", tr("Remove the chosen one"));
  connect(remove_, &QToolButton::clicked, this, &ItemsEditor::remove);
  column->addLayout(line);
  if (items.alongLine) {
    stops_ = new StopsEditor(document, layer, step, this);
    connect(stops_, &StopsEditor::chosen, this, &ItemsEditor::choose);
    column->addWidget(stops_);
  } else {
    picker_ = new ItemPicker(document, layer, step, this);
    connect(picker_, &ItemPicker::chosen, this, &ItemsEditor::choose);
    column->addWidget(picker_);
  }
  item_ = document.step(layer, step)->items.front().id;
  for (int i = 0; i < static_cast<int>(items.params.size()); ++i) {
    auto* row = new ParamRow(document, {layer, step, i, item_}, this);
    column->addWidget(row);
    rows_.push_back(row);
  }
  connect(&document, &Document::changed, this, &ItemsEditor::refresh);
  connect(&document, &Document::itemChosen, this, [this](Id layerAt, int stepAt, Id item) {
    if (layerAt == layer_ && stepAt == step_) choose(item);
  });
  refresh();
}

const RecipeStep* ItemsEditor::shownStep() const {
  const RecipeStep* step = document_.step(layer_, step_);
  return step && step->spec == spec_ && !step->items.empty() ? step : nullptr;
}

void ItemsEditor::choose(Id item) {
  item_ = item;
  refresh();
  Q_EMIT chosen(item_);
}

void ItemsEditor::refresh() {
  const RecipeStep* step = shownStep();
  if (!step) return;
  const int count = static_cast<int>(step->items.size());
  const bool all = item_ == ParamAddress::kAllItems;
  if (!all) {
    // The one that was chosen may be gone: then the one that took its place.
    const int found = edit::itemIndex(*step, item_);
    index_ = found >= 0 ? found : std::clamp(index_, 0, count - 1);
    item_ = step->items[static_cast<std::size_t>(index_)].id;
  }
  const QString single = text(spec_->items->single);
  which_->setText(all ? tr("All %1").arg(count) : tr("%1 %2 of %3").arg(single).arg(index_ + 1).arg(count));
  all_->setChecked(all);
  remove_->setEnabled(!all && count > static_cast<int>(spec_->items->least));
  if (picker_) picker_->setItem(item_);
  if (stops_) stops_->setItem(item_);
  for (ParamRow* row : rows_) row->showItem(item_);
}

void ItemsEditor::add() {
  const RecipeStep* step = shownStep();
  if (!step) return;
  const QString label = tr("add %1").arg(text(spec_->items->single).toLower());
  const int at = stops_ ? stops_->addBehind(index_)
                        : document_.performOnItems(label, layer_, step_, [&](RecipeStep& s) { return edit::addItem(s, index_); });
  if (at >= 0) choose(shownStep()->items[static_cast<std::size_t>(at)].id);
}

void ItemsEditor::remove() {
  if (item_ == ParamAddress::kAllItems) return;
  const int at = document_.performOnItems(tr("remove %1").arg(text(spec_->items->single).toLower()), layer_, step_,
                                          [&](RecipeStep& s) { return edit::removeItem(s, index_); });
  if (at >= 0) choose(shownStep()->items[static_cast<std::size_t>(at)].id);
}

void ItemsEditor::paintColours() {
  const std::vector<Colour> colours = document_.colours();
  if (colours.empty()) return;
  document_.performOnItems(tr("colours from the palette"), layer_, step_, [&](RecipeStep& s) { return edit::colourItems(s, colours); });
}

}  // namespace oa::app
