#include "sheets/passage_gallery.h"

#include <algorithm>

#include "scene/run.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

// The scene as short as the way takes, with a moment of rest at the end where the layer is there.
Scene shownWith(const Scene& scene, Id id, const Passing& passing, bool leaving) {
  Scene shown = scene;
  forEachLayer(shown.layers, [](Layer& layer, int) { layer.passes = {}; });
  Layer* layer = findLayer(shown, id);
  if (!layer) return shown;
  Passing now = passing;
  now.delay = 0.2;
  layer->passes.way(leaving) = passageOf(now);
  shown.run = {};
  shown.run.seconds = 0.8;
  return shown;
}

}  // namespace

PassageGallery::PassageGallery(Document& document, QWidget* parent)
    : LiveGallery(tr("Arrive"), QString(), 5, QSize(240, 135), parent), document_(document) {
  connect(this, &LiveGallery::picked, this, [this](int card) {
    const ReadyPassage& ready = *ready_[static_cast<std::size_t>(card)];
    Passing passing;
    ready.set(passing);
    const Ids layers = document_.selection();
    document_.perform(leaving_ ? tr("leave: %1").arg(text(ready.name).toLower()) : tr("arrive: %1").arg(text(ready.name).toLower()),
                      [&](Scene& scene) { return edit::setPassage(scene, layers, leaving_, passing); });
    Q_EMIT closed();
  });
}

void PassageGallery::prepare(bool leaving) {
  leaving_ = leaving;
  const Layer* layer = document_.layer();
  if (!layer) return;
  setWords(leaving ? tr("Leave") : tr("Arrive"), leaving ? tr("How %1 goes after the loop.").arg(text(layer->name))
                                                         : tr("How %1 comes before the loop takes it over.").arg(text(layer->name)));
  ready_.clear();
  std::vector<GalleryItem> list;
  for (const ReadyPassage& ready : readyPassages()) {
    if (!edit::fits(ready, *layer)) continue;
    ready_.push_back(&ready);
    Passing passing;
    ready.set(passing);
    GalleryItem item;
    item.name = text(ready.name);
    item.section = ready.pieces ? tr("One by one") : tr("As a whole");
    item.scene = shownWith(document_.scene(), layer->id, passing, leaving);
    item.run = true;
    list.push_back(std::move(item));
  }
  setItems(std::move(list));
}

int PassageGallery::cardOf(std::string_view name) const {
  const auto found = std::find_if(ready_.begin(), ready_.end(), [&](const ReadyPassage* r) { return r->name == name; });
  return found == ready_.end() ? -1 : static_cast<int>(found - ready_.begin());
}

}  // namespace oa::app
