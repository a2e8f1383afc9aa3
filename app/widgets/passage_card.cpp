#include "widgets/passage_card.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

#include "edit/passages.h"
#include "widgets/card_section.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

QString secondsOf(const Passage& way) { return text(numberText(passingOf(way).ends(), 2)); }

// Every value of a layer that may arrive and leave by itself, with its place and a name that tells it from others.
struct OwnValue {
  ParamAddress at;
  QString name;
};
std::vector<OwnValue> ownValues(const Layer& layer) {
  std::vector<OwnValue> list;
  const auto add = [&](const ParamSpec& spec, const ParamAddress& at, const QString& of) {
    if (canPass(spec)) list.push_back({at, of.isEmpty() ? text(spec.label) : of + QStringLiteral(" · ") + text(spec.label)});
  };
  for (int s = 0; s < static_cast<int>(layer.recipe.size()); ++s) {
    const RecipeStep& step = layer.recipe[static_cast<std::size_t>(s)];
    for (int i = 0; i < static_cast<int>(step.params.size()); ++i)
      if (isShown(step.spec->params, step.params, static_cast<std::size_t>(i)))
        add(step.spec->params[static_cast<std::size_t>(i)], {layer.id, s, i}, text(step.spec->title));
  }
  for (int i = 0; i < kPlaceParams; ++i)
    add(placeSpecs()[static_cast<std::size_t>(i)], {layer.id, ParamAddress::kPlace, i}, PassageCard::tr("Place"));
  add(opacitySpec(), {layer.id, ParamAddress::kOpacity, 0}, {});
  return list;
}

QToolButton* removeButton(const QString& says, QWidget* parent) {
  auto* remove = new QToolButton(parent);
  remove->setIcon(icon(QStringLiteral("trash-2"), Theme::now().muted));
  remove->setIconSize(QSize(14, 14));
  remove->setToolTip(says);
  remove->setAccessibleName(says);
  return remove;
}

}  // namespace

QString PassageCard::note(const Layer& layer) {
  QString words;
  if (layer.passes.arrive) words = tr("arrives in %1 s").arg(secondsOf(*layer.passes.arrive));
  if (layer.passes.leave)
    words += (words.isEmpty() ? QString() : QStringLiteral(", ")) + tr("leaves in %1 s").arg(secondsOf(*layer.passes.leave));
  return words.isEmpty() ? tr("there all along") : words;
}

PassageCard::PassageCard(Document& document, const Layer& layer, bool folded, QWidget* parent)
    : OwnCard(tr("Arrive, leave"), note(layer), folded, parent), document_(document) {
  setObjectName(QStringLiteral("passageCard"));
  addWay(layer, false);
  addWay(layer, true);
}

void PassageCard::addWay(const Layer& layer, bool leaving) {
  const auto& way = layer.passes.way(leaving);
  auto* line = new QHBoxLayout();
  auto* heading = new QLabel(leaving ? tr("Leave") : tr("Arrive"), this);
  heading->setFont(uiFont(12, 600));
  line->addWidget(heading);
  line->addStretch(1);
  auto* choose = new QPushButton(way ? tr("Another way…") : leaving ? tr("Let it leave…") : tr("Let it arrive…"), this);
  choose->setObjectName(leaving ? QStringLiteral("leaveWays") : QStringLiteral("arriveWays"));
  choose->setProperty("link", true);
  choose->setToolTip(leaving ? tr("What happens to the layer at the end of the run, from a gallery")
                             : tr("What happens to the layer before the loop takes it over, from a gallery"));
  connect(choose, &QPushButton::clicked, this, [this, leaving] { Q_EMIT passageWanted(leaving); });
  line->addWidget(choose);
  body()->addLayout(line);
  if (!way) return;
  auto* remove = removeButton(leaving ? tr("Do not leave") : tr("Do not arrive"), this);
  remove->setObjectName(leaving ? QStringLiteral("noLeave") : QStringLiteral("noArrive"));
  connect(remove, &QToolButton::clicked, this, [this, id = layer.id, leaving] {
    document_.performHere(leaving ? tr("do not leave") : tr("do not arrive"),
                          [&](Scene& scene) { return edit::setPassage(scene, {id}, leaving, std::nullopt); });
  });
  line->addWidget(remove);
  QVBoxLayout* into = body();
  const auto specs = passageSpecs();
  const bool pieces = layer.recipe.front().spec->pieces;
  for (std::size_t i = 0; i < specs.size(); ++i) {
    const std::string_view section = specs[i].section;
    if (section == "One by one" && !pieces) break;
    if (!section.empty() && section != "When") {
      auto* part = new CardSection(text(section), section == "One by one" && passingOf(*way).by == PassBy::Whole, this);
      body()->addWidget(part);
      into = part->body();
    }
    auto* row = new ParamRow(document_, {layer.id, leaving ? ParamAddress::kLeave : ParamAddress::kArrive, static_cast<int>(i)}, this);
    into->addWidget(row);
    rows_.push_back(row);
  }
  addOwnValues(body(), layer, leaving);
}

// Values that come from somewhere else, each with its row.
void PassageCard::addOwnValues(QVBoxLayout* body, const Layer& layer, bool leaving) {
  const auto all = ownValues(layer);
  auto* menu = new QMenu(this);
  for (const OwnValue& own : all) {
    ParamAddress far = own.at;
    far.motion = leaving ? ParamAddress::kFarLeave : ParamAddress::kFarArrive;
    if (!document_.valid(far)) {
      menu->addAction(own.name, this, [this, own, leaving] { document_.setFar(own.at, leaving, true); });
      continue;
    }
    auto* line = new QHBoxLayout();
    auto* name = new QLabel(tr("%1 %2").arg(leaving ? tr("to") : tr("from"), own.name), this);
    name->setObjectName(QStringLiteral("muted"));
    name->setFont(uiFont(11));
    line->addWidget(name, 1);
    auto* remove = removeButton(tr("%1: no value of its own").arg(own.name), this);
    connect(remove, &QToolButton::clicked, this, [this, own, leaving] { document_.setFar(own.at, leaving, false); });
    line->addWidget(remove);
    body->addLayout(line);
    auto* row = new ParamRow(document_, far, this);
    body->addWidget(row);
    rows_.push_back(row);
  }
  auto* add = new QPushButton(leaving ? tr("To another value…") : tr("From another value…"), this);
  add->setObjectName(leaving ? QStringLiteral("leaveValues") : QStringLiteral("arriveValues"));
  add->setToolTip(tr("A value of the layer that is another one then, and comes to what the loop makes of it"));
  add->setProperty("link", true);
  add->setMenu(menu);
  auto* last = new QHBoxLayout();
  last->addWidget(add);
  last->addStretch(1);
  body->addLayout(last);
}

QWidget* PassageCard::stepRows(Document& document, Id layer, int step, std::vector<ParamRow*>& rows, QWidget* parent) {
  const RecipeStep* own = document.step(layer, step);
  if (!own || !own->passes.any()) return nullptr;
  auto* box = new QWidget(parent);
  auto* column = new QVBoxLayout(box);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(3);
  for (const bool leaving : {false, true}) {
    if (!own->passes.way(leaving)) continue;
    auto* line = new QHBoxLayout();
    auto* heading = new QLabel(leaving ? tr("Leaves by itself") : tr("Arrives by itself"), box);
    heading->setObjectName(QStringLiteral("muted"));
    heading->setFont(uiFont(11));
    line->addWidget(heading, 1);
    auto* remove = removeButton(tr("With its layer again"), box);
    connect(remove, &QToolButton::clicked, box, [&document, layer, step, leaving] {
      document.performHere(tr("with its layer"), [&](Scene& scene) { return edit::setStepPassage(scene, layer, step, leaving, false); });
    });
    line->addWidget(remove);
    column->addLayout(line);
    for (int i = 0; i < static_cast<int>(kStepPassageParams); ++i) {
      auto* row = new ParamRow(document, {layer, step, i, leaving ? ParamAddress::kStepLeaves : ParamAddress::kStepArrives}, box);
      column->addWidget(row);
      rows.push_back(row);
    }
  }
  return box;
}

}  // namespace oa::app
