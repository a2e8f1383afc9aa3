#include "sheets/step_gallery.h"

#include <QAbstractButton>
#include <QLineEdit>
#include <QToolButton>
#include <algorithm>
#include <iterator>

#include "edit/steps.h"
#include "sheets/shown_alone.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

constexpr int kFrames = 120;

// The layer alone over nothing.
Scene shownAsItIs(const Scene& scene, Id layer) {
  Scene shown = shownAlone(scene, layer);
  shown.frames = std::min(scene.frames, kFrames);
  return shown;
}

// The same with one step more.
Scene shownWith(const Scene& scene, Id layer, const StepSpec& step, const StepVariant* variant) {
  Scene shown = shownAsItIs(scene, layer);
  (void)edit::addStep(shown, layer, step, variant);
  return shown;
}

// In the order of work: what tones there are, what colours, then what is done to them.
int rankOf(std::string_view group) {
  constexpr std::string_view kOrder[] = {"tone", "texture", "soften", "colour", "bend", "light", "body", "fold", "surface"};
  return static_cast<int>(std::find(std::begin(kOrder), std::end(kOrder), group) - std::begin(kOrder));
}

// What changes tones and colours is told from what was there only beside it.
bool isFine(const StepSpec& step) { return rankOf(step.group) <= rankOf("colour"); }

// So few steps are shown with their variants.
constexpr std::size_t kFew = 3;

}  // namespace

StepGallery::StepGallery(Document& document, QWidget* parent)
    : LiveGallery(tr("Add a step"), QString(), 8, QSize(240, 135), parent), document_(document) {
  setSectionsBeside(true);
  search_ = new QLineEdit(this);
  search_->setObjectName(QStringLiteral("stepSearch"));
  search_->setPlaceholderText(tr("Find a step"));
  search_->setAccessibleName(tr("Find a step"));
  search_->setClearButtonEnabled(true);
  search_->setFixedWidth(220);
  variants_ = new QToolButton(this);
  variants_->setObjectName(QStringLiteral("variants"));
  variants_->setText(tr("All variants"));
  variants_->setToolTip(tr("Shows each step's own variants beside it; a few steps found by name show them anyway"));
  variants_->setCheckable(true);
  addTool(variants_);
  addTool(search_);
  connect(variants_, &QToolButton::toggled, this, &StepGallery::refresh);
  connect(search_, &QLineEdit::textChanged, this, &StepGallery::refresh);
  connect(this, &LiveGallery::picked, this, [this](int card) {
    const Offer& offer = offers_[static_cast<std::size_t>(card)];
    const Id layer = document_.currentLayer();
    document_.performHere(tr("add %1").arg(text(offer.step->title).toLower()),
                          [&](Scene& scene) { return edit::addStep(scene, layer, *offer.step, offer.variant); });
    Q_EMIT closed();
  });
}

void StepGallery::prepare() {
  search_->clear();
  variants_->setChecked(false);
  refresh();
  search_->setFocus();
}

void StepGallery::refresh() {
  const Layer* layer = document_.layer();
  if (!layer) return;
  const QString wanted = search_->text().trimmed();
  std::vector<const StepSpec*> steps;
  const auto found = [&](std::string_view words) { return text(words).contains(wanted, Qt::CaseInsensitive); };
  for (const StepSpec* step : allSteps()) {
    const bool named = std::any_of(step->variants.begin(), step->variants.end(), [&](const StepVariant& v) { return found(v.name); });
    const bool fits = wanted.isEmpty() || found(step->title) || found(step->help) || found(step->group) || named;
    if (step->kind != StepKind::Source && fits) steps.push_back(step);
  }
  std::stable_sort(steps.begin(), steps.end(), [](const StepSpec* a, const StepSpec* b) { return rankOf(a->group) < rankOf(b->group); });
  const bool all = variants_->isChecked() || (!wanted.isEmpty() && steps.size() <= kFew);
  const bool fine = std::any_of(steps.begin(), steps.end(), [](const StepSpec* step) { return isFine(*step); });
  setWords(tr("Add a step"),
           (fine ? tr("Each at work on %1. Left of a line: as it was.") : tr("Each at work on %1.")).arg(text(layer->name)));
  offers_.clear();
  for (const StepSpec* step : steps) {
    offers_.push_back({step, nullptr});
    for (const StepVariant& variant : step->variants)
      if (all) offers_.push_back({step, &variant});
  }
  std::vector<GalleryItem> list;
  for (const Offer& offer : offers_) {
    GalleryItem item;
    item.name = offer.variant ? text(offer.variant->name) : text(offer.step->title);
    item.section = text(offer.step->group);
    item.section[0] = item.section[0].toUpper();
    item.help = offer.variant ? text(offer.variant->help) : text(offer.step->help);
    if (all) item.details = offer.variant ? text(offer.step->title) : tr("as it comes");
    item.halved = isFine(*offer.step);
    item.scene = shownWith(document_.scene(), document_.currentLayer(), *offer.step, offer.variant);
    list.push_back(std::move(item));
  }
  setItems(std::move(list), shownAsItIs(document_.scene(), document_.currentLayer()));
}

int StepGallery::cardOf(std::string_view step) const { return cardOf(step, {}); }

int StepGallery::cardOf(std::string_view step, std::string_view variant) const {
  const auto found = std::find_if(offers_.begin(), offers_.end(), [&](const Offer& offer) {
    return offer.step->id == step && (variant.empty() ? !offer.variant : offer.variant && offer.variant->name == variant);
  });
  return found == offers_.end() ? -1 : static_cast<int>(found - offers_.begin());
}

QAbstractButton* StepGallery::variants() const { return variants_; }

}  // namespace oa::app
