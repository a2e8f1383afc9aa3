#include "sheets/step_gallery.h"

#include <QAbstractButton>
#include <QLineEdit>
#include <algorithm>

#include "edit/steps.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

constexpr int kFrames = 120;

// The layer alone over nothing, with one step more.
Scene shownWith(const Scene& scene, Id layer, const StepSpec& step) {
  Scene shown = scene;
  (void)edit::showLayersAlone(shown, {layer});
  if (!edit::areAlone(shown, {layer})) (void)edit::showLayersAlone(shown, {layer});
  shown.frames = std::min(scene.frames, kFrames);
  (void)edit::addStep(shown, layer, step);
  return shown;
}

}  // namespace

StepGallery::StepGallery(Document& document, QWidget* parent)
    : LiveGallery(tr("Add a step"), QString(), 5, QSize(240, 135), parent), document_(document) {
  setSectionsBeside(true);
  search_ = new QLineEdit(this);
  search_->setObjectName(QStringLiteral("stepSearch"));
  search_->setPlaceholderText(tr("Find a step"));
  search_->setAccessibleName(tr("Find a step"));
  search_->setClearButtonEnabled(true);
  search_->setFixedWidth(220);
  addTool(search_);
  connect(search_, &QLineEdit::textChanged, this, &StepGallery::refresh);
  connect(this, &LiveGallery::picked, this, [this](int card) {
    const StepSpec& spec = *steps_[static_cast<std::size_t>(card)];
    const Id layer = document_.currentLayer();
    document_.performHere(tr("add %1").arg(text(spec.title).toLower()), [&](Scene& scene) { return edit::addStep(scene, layer, spec); });
    Q_EMIT closed();
  });
}

void StepGallery::prepare() {
  search_->clear();
  const Layer* layer = document_.layer();
  setWords(tr("Add a step"), layer ? tr("Each at work on %1.").arg(text(layer->name)) : QString());
  refresh();
  search_->setFocus();
}

void StepGallery::refresh() {
  if (!document_.layer()) return;
  const QString wanted = search_->text().trimmed();
  steps_.clear();
  for (const StepSpec* step : allSteps()) {
    const bool fits = wanted.isEmpty() || text(step->title).contains(wanted, Qt::CaseInsensitive) ||
                      text(step->help).contains(wanted, Qt::CaseInsensitive) || text(step->group).contains(wanted, Qt::CaseInsensitive);
    if (step->kind != StepKind::Source && fits) steps_.push_back(step);
  }
  std::stable_sort(steps_.begin(), steps_.end(), [](const StepSpec* a, const StepSpec* b) { return a->group < b->group; });
  std::vector<GalleryItem> list;
  for (const StepSpec* step : steps_) {
    GalleryItem item;
    item.name = text(step->title);
    item.section = text(step->group);
    item.section[0] = item.section[0].toUpper();
    item.help = text(step->help);
    item.scene = shownWith(document_.scene(), document_.currentLayer(), *step);
    list.push_back(std::move(item));
  }
  setItems(std::move(list));
}

int StepGallery::cardOf(std::string_view step) const {
  const auto found = std::find_if(steps_.begin(), steps_.end(), [&](const StepSpec* s) { return s->id == step; });
  return found == steps_.end() ? -1 : static_cast<int>(found - steps_.begin());
}

}  // namespace oa::app
