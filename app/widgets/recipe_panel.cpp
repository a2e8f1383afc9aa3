#include "widgets/recipe_panel.h"

#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>
#include <QScrollBar>
#include <QStringList>
#include <QTimer>
#include <QToolButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "edit/clipboard.h"
#include "edit/layers.h"
#include "edit/passages.h"
#include "edit/places.h"
#include "edit/source_layers.h"
#include "edit/steps.h"
#include "model/time_taken.h"
#include "scene/extent.h"
#include "widgets/card_section.h"
#include "widgets/clip_joint_row.h"
#include "widgets/items_editor.h"
#include "widgets/help_mark.h"
#include "widgets/own_card.h"
#include "widgets/passage_card.h"
#include "widgets/presence_card.h"
#include "widgets/presence_rows.h"
#include "widgets/recipe_card.h"
#include "widgets/seam_row.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {

RecipePanel::RecipePanel(Document& document, QWidget* parent) : QWidget(parent), document_(document) {
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(8, 8, 4, 8);
  column->setSpacing(6);
  auto* top = new QHBoxLayout();
  top->setContentsMargins(8, 0, 8, 0);
  auto* heading = new QLabel(tr("Recipe"), this);
  heading->setObjectName(QStringLiteral("heading"));
  owner_ = new QLabel(this);
  owner_->setObjectName(QStringLiteral("muted"));
  owner_->setTextFormat(Qt::PlainText);
  add_ = new QPushButton(tr("Add step"), this);
  add_->setObjectName(QStringLiteral("link"));
  connect(add_, &QPushButton::clicked, this, &RecipePanel::stepsWanted);
  top->addWidget(heading);
  top->addWidget(owner_, 1);
  looks_ = new QPushButton(tr("Looks"), this);
  looks_->setObjectName(QStringLiteral("looksLink"));
  looks_->setProperty("link", true);
  looks_->setToolTip(tr("Steps and motions that go together, seen at work on this layer"));
  connect(looks_, &QPushButton::clicked, this, &RecipePanel::looksWanted);
  top->addWidget(looks_);
  top->addWidget(add_);
  column->addLayout(top);
  timeTaken_ = new TimeTaken(document);
  time_ = new QLabel(this);
  time_->setObjectName(QStringLiteral("timeTaken"));
  time_->setProperty("muted", true);
  time_->setAccessibleName(tr("Time the layer takes"));
  time_->setTextFormat(Qt::PlainText);
  time_->setWordWrap(true);
  time_->setContentsMargins(8, 0, 8, 0);
  time_->hide();
  connect(timeTaken_, &TimeTaken::changed, this, [this] { time_->setText(timeTaken_->sentence()); });
  column->addWidget(time_);
  scroll_ = new QScrollArea(this);
  scroll_->setWidgetResizable(true);
  scroll_->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
  column->addWidget(scroll_, 1);
  connect(&document, &Document::changed, this, [this](bool structure) {
    // Pixels are counted of the frame.
    const QSize frame(document_.scene().width, document_.scene().height);
    const bool other = inPixels_ && frame != frame_;
    frame_ = frame;
    structure || other ? rebuild() : refresh();
  });
  connect(&document, &Document::currentLayerChanged, this, &RecipePanel::rebuild);
  rebuild();
}

void RecipePanel::showTime(bool on) {
  timeTaken_->setOn(on);
  time_->setVisible(on);
}

bool RecipePanel::showsTime() const { return timeTaken_->on(); }

// How large the source's tile is against the frame, and whether the frame's own edges meet.
QString RecipePanel::tileText(int step) const {
  const Layer* layer = document_.layer();
  if (!layer || step >= static_cast<int>(layer->recipe.size())) return {};
  const RecipeStep& at = layer->recipe[static_cast<std::size_t>(step)];
  if (!at.spec->tile) return {};
  const Scene& scene = document_.scene();
  const PlaneView frame = PlaneView::cover(scene.width, scene.height, scene.width, scene.height);
  const TileSize tile = at.spec->tile(contextOf(at, {0, scene.frames}, frame));
  // What has ends is a tile only while it is repeated, and whether its edges meet is its own affair.
  if (tile.width <= 0) return at.spec->extent ? QString() : tr("No tile: it lies round its centre.");
  const auto number = [](double v) { return text(numberText(v, 1)); };
  const QString size =
      (at.spec->extent ? tr("Tile of %1 × %2 px") : tr("Seamless tile %1 × %2 px")).arg(number(tile.width), number(tile.height));
  const double across = scene.width / tile.width;
  const double down = scene.height / tile.height;
  if (tile.degrees != 0) return size + tr(", turned: edges of the frame do not meet");
  const auto whole = [](double v) { return std::abs(v - std::round(v)) < 1e-6; };
  if (!whole(across) || !whole(down)) return size + tr(", %1 × %2 in the frame: its edges do not meet").arg(number(across), number(down));
  if (across == 1 && down == 1) return size + tr(": as large as the frame");
  return size + tr(": %1 × %2 fill the frame").arg(number(across), number(down));
}

void RecipePanel::addStep(const StepSpec& spec) {
  const Id layer = document_.currentLayer();
  document_.performHere(tr("add %1").arg(text(spec.title).toLower()), [&](Scene& scene) { return edit::addStep(scene, layer, spec); });
}

void RecipePanel::removeStep(int step) {
  const Id layer = document_.currentLayer();
  document_.performHere(tr("remove step"), [&](Scene& scene) { return edit::removeStep(scene, layer, step); });
}

void RecipePanel::moveStep(int from, int to) {
  const Id layer = document_.currentLayer();
  document_.performHere(tr("move step"), [&](Scene& scene) { return edit::moveStep(scene, layer, from, to); });
}

void RecipePanel::copyStep(int step) {
  if (const RecipeStep* copied = document_.step(document_.currentLayer(), step))
    QGuiApplication::clipboard()->setText(QString::fromStdString(edit::stepsToText({*copied})));
}

void RecipePanel::pasteSteps(int after) {
  const Id layer = document_.currentLayer();
  const std::string held = QGuiApplication::clipboard()->text().toStdString();
  document_.performHere(tr("paste step"), [&](Scene& scene) { return edit::pasteSteps(scene, layer, after, held); });
}

void RecipePanel::duplicateStep(int step) {
  const Id layer = document_.currentLayer();
  document_.performHere(tr("duplicate step"), [&](Scene& scene) { return edit::duplicateStep(scene, layer, step); });
}

// Card, row and which of its controls.
QStringList RecipePanel::focusPlace() const {
  QWidget* at = scroll_->widget() ? scroll_->widget()->window()->focusWidget() : nullptr;
  if (!at || !content_ || !content_->isAncestorOf(at)) return {};
  QString card;
  QWidget* row = nullptr;
  for (QWidget* up = at; up && up != content_; up = up->parentWidget()) {
    if (!row && up->objectName().startsWith(QLatin1String("param-"))) row = up;
    if (const QString key = up->property("card").toString(); !key.isEmpty()) {
      card = key;
      if (!row) row = up;
    }
  }
  if (!row) return {};
  return {card, row->objectName(), QString::number(row->findChildren<QWidget*>().indexOf(at))};
}

void RecipePanel::focusOn(const QStringList& place) {
  if (place.size() != 3) return;
  for (QWidget* card : content_->findChildren<QWidget*>()) {
    if (card->property("card").toString() != place[0]) continue;
    QWidget* row = card->objectName() == place[1] ? card : card->findChild<QWidget*>(place[1]);
    if (!row) continue;
    const auto controls = row->findChildren<QWidget*>();
    if (const qsizetype i = place[2].toInt(); i >= 0 && i < controls.size()) controls[i]->setFocus();
    return;
  }
}

// A part of a card. Until somebody folds or opens it, it is open where anything in it was set.
QVBoxLayout* RecipePanel::addSection(QVBoxLayout* body, const QString& title, const QString& key, bool atRest, QWidget* card) {
  const auto known = sections_.find(key);
  auto* section = new CardSection(title, known != sections_.end() ? known->second : atRest, card);
  section->setObjectName(QStringLiteral("section-%1").arg(title));
  connect(section, &CardSection::foldChanged, this, [this, key](bool folded) { sections_[key] = folded; });
  body->addWidget(section);
  return section->body();
}

namespace {

// Whether all from `first` up to the next section are as they come.
bool sectionAtRest(const RecipeStep& step, std::size_t first) {
  for (std::size_t i = first; i < step.params.size(); ++i) {
    if (i > first && !step.spec->params[i].section.empty()) break;
    if (step.params[i] != defaultParam(step.spec->params[i])) return false;
  }
  return true;
}

}  // namespace

// The rows of a step, or of the source of a mask, under their headings: items that lead or stand along a line first, others last.
void RecipePanel::addRows(QVBoxLayout* body, const RecipeStep& step, int at, QWidget* card) {
  const Id layer = document_.currentLayer();
  const auto addItems = [&] {
    auto* items = new ItemsEditor(document_, layer, at, card);
    // Cards are made anew for many reasons; what is chosen stays.
    const std::pair<Id, Id> place{layer, step.id};
    if (const auto known = chosenItems_.find(place); known != chosenItems_.end()) items->choose(known->second);
    connect(items, &ItemsEditor::chosen, this, [this, place](Id item) { chosenItems_[place] = item; });
    body->addWidget(items);
  };
  const bool first = step.spec->items && (step.spec->items->alongLine || !step.spec->items->leads.empty());
  if (first) addItems();
  QVBoxLayout* const whole = body;
  bool opening = true;
  for (int i = 0; i < static_cast<int>(step.params.size()); ++i) {
    // The first one is open: it is what the source is about.
    if (const auto section = step.spec->params[static_cast<std::size_t>(i)].section; !section.empty()) {
      body = addSection(whole, text(section), card->property("card").toString() + text(section),
                        !opening && sectionAtRest(step, static_cast<std::size_t>(i)), card);
      opening = false;
    }
    auto* row = new ParamRow(document_, {layer, at, i}, card);
    body->addWidget(row);
    rows_.push_back(row);
  }
  body = whole;
  if (step.spec->items && !first) addItems();
  if (at >= 0 && step.spec->footage) body->addWidget(new ClipJointRow(document_, layer, at, card));
  if (at >= 0 && step.spec->ends) body->addWidget(new SeamRow(document_, layer, at, card));
}

void RecipePanel::rebuild() {
  const QStringList focus = focusPlace();
  rows_.clear();
  tiles_.clear();
  blend_ = nullptr;
  const int scrolled = scroll_->verticalScrollBar()->value();
  // Rebuilding is often the doing of a button or a drag on one of the cards: they go once that is over.
  if (QWidget* old = scroll_->takeWidget()) {
    old->hide();
    old->setObjectName(QStringLiteral("gone"));
    old->deleteLater();
  }
  auto* content = new QWidget();
  content_ = content;
  auto* column = new QVBoxLayout(content);
  column->setContentsMargins(0, 0, 6, 0);
  column->setSpacing(8);
  const Layer* layer = document_.layer();
  for (QPushButton* button : {add_, looks_}) button->setEnabled(layer != nullptr);
  owner_->setText(layer ? tr("of %1").arg(text(layer->name)) : QString());
  if (!layer) {
    auto* hint = new QLabel(tr("Add a layer with the + on the left; its recipe appears here."), content);
    hint->setObjectName(QStringLiteral("muted"));
    hint->setWordWrap(true);
    column->addWidget(hint);
    column->addStretch(1);
    scroll_->setWidget(content);
    return;
  }
  // A locked layer shows its recipe, but nothing on it can be changed.
  content->setEnabled(!layer->locked);
  for (QPushButton* button : {add_, looks_}) button->setEnabled(!layer->locked);
  const Id index = document_.currentLayer();
  std::vector<RecipeCard*> cards;
  for (int s = 0; s < static_cast<int>(layer->recipe.size()); ++s) {
    const RecipeStep& step = layer->recipe[static_cast<std::size_t>(s)];
    const auto same =
        std::count_if(layer->recipe.begin(), layer->recipe.begin() + s, [&](const RecipeStep& r) { return r.spec == step.spec; });
    const QString key = QStringLiteral("%1/%2#%3").arg(text(layer->name), text(step.spec->id)).arg(same);
    const auto kind = step.spec->kind != StepKind::Source ? RecipeCard::Kind::Step
                      : layer->isGroup()                  ? RecipeCard::Kind::FixedSource
                                                          : RecipeCard::Kind::Source;
    auto* card = new RecipeCard(text(step.spec->title), text(step.spec->group), kind, step.on, folded_.count(key) > 0, content);
    card->setObjectName(QStringLiteral("card-%1").arg(text(step.spec->id)));
    card->setProperty("card", key);
    setHelpPage(card, QStringLiteral("step/") + text(step.spec->id));
    addRows(card->body(), step, s, card);
    if (s > 0 && !step.presence.empty()) {
      auto* heading = new QLabel(tr("There for"), card);
      heading->setObjectName(QStringLiteral("muted"));
      heading->setFont(uiFont(11));
      card->body()->addWidget(heading);
      card->body()->addWidget(new PresenceRows(document_, index, s, card));
    }
    if (QWidget* ways = s > 0 ? PassageCard::stepRows(document_, index, s, rows_, card) : nullptr) card->body()->addWidget(ways);
    connect(card, &RecipeCard::passageWanted, this, [this, index, s](bool leaving) {
      document_.performHere(leaving ? tr("leave by itself") : tr("arrive by itself"),
                            [&](Scene& scene) { return edit::setStepPassage(scene, index, s, leaving, true); });
    });
    connect(card, &RecipeCard::presenceWanted, this, [this, index, s] { PresenceRows::addPart(document_, index, s); });
    connect(card, &RecipeCard::copied, this, [this, s] { copyStep(s); });
    connect(card, &RecipeCard::cut, this, [this, s] {
      copyStep(s);
      removeStep(s);
    });
    connect(card, &RecipeCard::pasted, this, [this, s] { pasteSteps(s); });
    if (step.spec->tile) {
      auto* tile = new QLabel(card);
      tile->setObjectName(QStringLiteral("tile"));
      tile->setFont(uiFont(11));
      tile->setWordWrap(true);
      card->body()->addWidget(tile);
      tiles_.emplace_back(tile, s);
    }
    connect(card, &RecipeCard::otherSourceWanted, this, &RecipePanel::otherSourceWanted);
    connect(card, &RecipeCard::foldChanged, this,
            [this, key](bool folded) { folded ? void(folded_.insert(key)) : void(folded_.erase(key)); });
    connect(card, &RecipeCard::switched, this, [this, index, s](bool on) {
      document_.performHere(on ? tr("switch step on") : tr("switch step off"),
                            [&](Scene& scene) { return edit::switchStep(scene, index, s, on); });
    });
    connect(card, &RecipeCard::removed, this, [this, s] { removeStep(s); });
    connect(card, &RecipeCard::nudged, this, [this, s](int by) { moveStep(s, s + by); });
    connect(card, &RecipeCard::duplicated, this, [this, s] { duplicateStep(s); });
    column->addWidget(card);
    cards.push_back(card);
  }
  for (int s = 0; s < static_cast<int>(cards.size()); ++s)
    connect(cards[static_cast<std::size_t>(s)], &RecipeCard::dropped, this, [this, cards, s, column](int y) {
      int target = 0;
      for (int i = 0; i < static_cast<int>(cards.size()); ++i)
        if (i != s && y > cards[static_cast<std::size_t>(i)]->geometry().center().y()) ++target;
      if (target == s)
        column->invalidate(), column->activate();
      else
        moveStep(s, target);
    });

  column->addWidget(placeCard(*layer, content));
  column->addWidget(maskCard(*layer, content));
  const QString presence = QStringLiteral("presence");
  auto* presenceCard = new PresenceCard(document_, *layer, opened_.count(presence) == 0, content);
  connect(presenceCard, &OwnCard::foldChanged, this,
          [this, presence](bool folded) { folded ? void(opened_.erase(presence)) : void(opened_.insert(presence)); });
  column->addWidget(presenceCard);
  const QString passage = QStringLiteral("passage");
  auto* passageCard = new PassageCard(document_, *layer, opened_.count(passage) == 0, content);
  setHelpPage(passageCard, QStringLiteral("card/passage"));
  passageCard->setProperty("card", text(layer->name) + QStringLiteral("/passage"));
  connect(passageCard, &OwnCard::foldChanged, this,
          [this, passage](bool folded) { folded ? void(opened_.erase(passage)) : void(opened_.insert(passage)); });
  connect(passageCard, &PassageCard::passageWanted, this, &RecipePanel::passageWanted);
  rows_.insert(rows_.end(), passageCard->rows().begin(), passageCard->rows().end());
  column->addWidget(passageCard);

  auto* blendCard = new QWidget(content);
  blendCard->setProperty("card", text(layer->name) + QStringLiteral("/blend"));
  auto* blendColumn = new QVBoxLayout(blendCard);
  blendColumn->setContentsMargins(12, 4, 10, 4);
  blendColumn->setSpacing(4);
  auto* line = new QHBoxLayout();
  auto* label = new QLabel(tr("Blend"), blendCard);
  label->setFixedWidth(74);
  blend_ = new QComboBox(blendCard);
  blend_->setObjectName(QStringLiteral("blend"));
  blend_->setAccessibleName(tr("Blend mode"));
  blend_->setToolTip(tr("How this layer mixes with those below it"));
  for (int i = 0; i < kBlendModes; ++i) {
    QString name = text(blendName(static_cast<BlendMode>(i)));
    name.replace(QLatin1Char('-'), QLatin1Char(' '));
    name[0] = name[0].toUpper();
    blend_->addItem(name);
  }
  connect(blend_, &QComboBox::activated, this, [this, index](int mode) {
    document_.edit(tr("blend mode"), {}, [&](Scene& scene) { findLayer(scene, index)->blend = static_cast<BlendMode>(mode); });
  });
  line->addWidget(label);
  line->addWidget(blend_, 1);
  line->addSpacing(58);
  blendColumn->addLayout(line);
  auto* opacity = new ParamRow(document_, {index, ParamAddress::kOpacity, 0}, blendCard);
  rows_.push_back(opacity);
  blendColumn->addWidget(opacity);
  column->addWidget(blendCard);
  column->addStretch(1);
  scroll_->setWidget(content);
  refresh();
  focusOn(focus);
  QTimer::singleShot(0, scroll_, [this, scrolled] { scroll_->verticalScrollBar()->setValue(scrolled); });
}

QWidget* RecipePanel::placeCard(const Layer& layer, QWidget* parent) {
  const Id id = layer.id;
  const QString key = QStringLiteral("place");
  auto* card = new OwnCard(tr("Place"), isDefaultPlace(layer.place) ? tr("as it is") : QString(), opened_.count(key) == 0, parent);
  card->setObjectName(QStringLiteral("placeCard"));
  card->setProperty("card", text(layer.name) + QStringLiteral("/place"));
  setHelpPage(card, QStringLiteral("card/place"));
  connect(card, &OwnCard::foldChanged, this, [this, key](bool folded) { folded ? void(opened_.erase(key)) : void(opened_.insert(key)); });
  auto* unit = new QPushButton(inPixels_ ? tr("px") : QStringLiteral("%"), card);
  unit->setObjectName(QStringLiteral("placeUnit"));
  unit->setToolTip(inPixels_ ? tr("Show the numbers as shares of the frame") : tr("Show the numbers in pixels"));
  unit->setAccessibleName(tr("Unit of the place: %1").arg(inPixels_ ? tr("pixels") : tr("shares")));
  connect(unit, &QPushButton::clicked, this, [this] {
    inPixels_ = !inPixels_;
    rebuild();
  });
  card->addTool(unit);
  const auto pixels = [&](PlaceParam which) -> Point {
    const Plan& plan = document_.plan();
    const int index = plan.indexOf(id);
    if (!inPixels_ || index < 0) return {};
    const int group = plan.at(index).parent;
    if (which == PlaceParam::Position)
      return group >= 0 ? plan.at(group).frame
                        : Point{static_cast<double>(document_.scene().width), static_cast<double>(document_.scene().height)};
    if (which == PlaceParam::Anchor) return plan.at(index).frame;
    if (which != PlaceParam::Size) return {};
    const Box box = extentOf(plan, index, {0, document_.scene().frames}).box;
    return {box.width(), box.height()};
  };
  for (int i = 0; i < kPlaceParams; ++i) {
    auto* row = new ParamRow(document_, {id, ParamAddress::kPlace, i}, card, pixels(static_cast<PlaceParam>(i)));
    card->body()->addWidget(row);
    rows_.push_back(row);
  }
  auto* line = new QHBoxLayout();
  line->setSpacing(2);
  const std::tuple<QString, QString, edit::Fitting> fittings[] = {{tr("Fit"), tr("As large as goes into the frame"), edit::Fitting::Fit},
                                                                  {tr("Cover"), tr("As small as covers the frame"), edit::Fitting::Cover},
                                                                  {tr("Natural"), tr("Its natural size"), edit::Fitting::Natural},
                                                                  {tr("Reset"), tr("As a new layer lies"), edit::Fitting::Reset}};
  for (const auto& [name, says, fitting] : fittings) {
    auto* button = new QPushButton(name, card);
    button->setObjectName(QStringLiteral("link"));
    button->setToolTip(says);
    connect(button, &QPushButton::clicked, this, [this, id, name = name, fitting = fitting] {
      document_.performHere(tr("place: %1").arg(name.toLower()), [&](Scene& scene) { return edit::fitLayers(scene, {id}, fitting); });
    });
    line->addWidget(button);
  }
  line->addStretch(1);
  card->body()->addLayout(line);
  return card;
}

// Sources that a mask can be made of: shapes and gradients, and other layers.
void RecipePanel::fillMaskMenu(QMenu* menu) {
  menu->clear();
  const auto offer = [&](const QString& name, const RecipeStep& source) {
    menu->addAction(name, this, [this, source] {
      opened_.insert(QStringLiteral("mask"));
      const Id layer = document_.currentLayer();
      document_.performHere(tr("mask"), [&](Scene& scene) { return edit::setMask(scene, layer, source); });
    });
  };
  for (const edit::SourceVariety& variety : edit::sourceVarieties())
    if (variety.spec->masks) {
      QString name = text(edit::titleOf(variety));
      if (!variety.spec->shelf.noun.empty()) name += QLatin1Char(' ') + text(variety.spec->shelf.noun);
      offer(name, edit::sourceStep(variety));
    }
  menu->addSeparator();
  for (const StepSpec* spec : allSteps())
    if (spec->reads == SourceReads::Layer) offer(tr("Another layer"), newStep(*spec));
}

QWidget* RecipePanel::maskCard(const Layer& layer, QWidget* parent) {
  const Id id = layer.id;
  const QString key = QStringLiteral("mask");
  const QString note = layer.mask ? text(layer.mask->source.spec->title).toLower() : tr("none");
  auto* card = new OwnCard(tr("Mask"), note, !layer.mask || opened_.count(key) == 0, parent);
  card->setObjectName(QStringLiteral("maskCard"));
  card->setProperty("card", text(layer.name) + QStringLiteral("/mask"));
  setHelpPage(card, QStringLiteral("card/mask"));
  connect(card, &OwnCard::foldChanged, this, [this, key](bool folded) { folded ? void(opened_.erase(key)) : void(opened_.insert(key)); });
  auto* choose = new QPushButton(layer.mask ? tr("Change") : tr("Add mask"), card);
  choose->setObjectName(QStringLiteral("link"));
  choose->setToolTip(tr("Show the layer only where a shape, a gradient or another layer is"));
  auto* menu = new QMenu(choose);
  connect(menu, &QMenu::aboutToShow, this, [this, menu] { fillMaskMenu(menu); });
  choose->setMenu(menu);
  card->addTool(choose);
  if (!layer.mask) return card;
  auto* remove = new QToolButton(card);
  remove->setIcon(icon(QStringLiteral("trash-2"), Theme::now().muted));
  remove->setIconSize(QSize(14, 14));
  remove->setToolTip(tr("Remove the mask"));
  remove->setAccessibleName(tr("Remove the mask"));
  connect(remove, &QToolButton::clicked, this,
          [this, id] { document_.performHere(tr("remove mask"), [&](Scene& scene) { return edit::setMask(scene, id, std::nullopt); }); });
  card->addTool(remove);
  auto* on = new QCheckBox(tr("Masked"), card);
  on->setChecked(layer.mask->on);
  on->setToolTip(tr("Switch the mask on or off"));
  connect(on, &QCheckBox::clicked, this, [this, id](bool checked) {
    document_.edit(checked ? tr("mask on") : tr("mask off"), {}, [&](Scene& scene) { findLayer(scene, id)->mask->on = checked; });
  });
  card->body()->addWidget(on);
  addRows(card->body(), layer.mask->source, ParamAddress::kMaskSource, card);
  for (int i = 0; i < kMaskParams; ++i) {
    auto* row = new ParamRow(document_, {id, ParamAddress::kMask, i}, card);
    card->body()->addWidget(row);
    rows_.push_back(row);
  }
  return card;
}

void RecipePanel::refresh() {
  for (ParamRow* row : rows_) row->refresh();
  for (const auto& [label, step] : tiles_) {
    label->setText(tileText(step));
    label->setVisible(!label->text().isEmpty());
  }
  if (const Layer* layer = document_.layer(); layer && blend_) blend_->setCurrentIndex(static_cast<int>(layer->blend));
}

}  // namespace oa::app
