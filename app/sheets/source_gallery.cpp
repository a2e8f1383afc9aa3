#include "sheets/source_gallery.h"

#include <QAbstractButton>
#include <QCheckBox>
#include <algorithm>

#include "edit/layers.h"
#include "edit/steps.h"
#include "image/oklab.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

// Colours for a scene that has none of its own yet.
const std::vector<Colour>& spareColours() {
  static const std::vector<Colour> list{hexColour(0x06202f), hexColour(0x10606e), hexColour(0x63b9ae), hexColour(0xf3ead2)};
  return list;
}

// As the steps' tables say: textures stand under their source; what is made of colours from the start comes together.
QString sectionOf(const edit::SourceVariety& variety) {
  return text(variety.spec->shelf.section.empty() ? variety.spec->title : variety.spec->shelf.section);
}

std::vector<edit::SourceVariety> inOrder() {
  std::vector<edit::SourceVariety> list = edit::sourceVarieties();
  std::stable_sort(list.begin(), list.end(), [](const auto& a, const auto& b) { return a.spec->shelf.rank < b.spec->shelf.rank; });
  return list;
}

}  // namespace

SourceGallery::SourceGallery(Document& document, QWidget* parent)
    : LiveGallery(QString(), QString(), 6, QSize(240, 135), parent), document_(document), varieties_(inOrder()) {
  coloured_ = new QCheckBox(tr("In the scene's colours"), this);
  coloured_->setObjectName(QStringLiteral("coloured"));
  coloured_->setToolTip(tr("Adds a colour map with the scene's palette; without it textures come in black and white"));
  coloured_->setChecked(true);
  addTool(coloured_);
  connect(coloured_, &QCheckBox::toggled, this, &SourceGallery::refresh);
  connect(this, &LiveGallery::picked, this, &SourceGallery::use);
}

void SourceGallery::prepare(Purpose purpose) {
  purpose_ = purpose;
  if (purpose == Purpose::NewLayer)
    setWords(tr("Add a layer"), tr("Choose what it is made of. Everything here loops."));
  else
    setWords(tr("Another source"), tr("It takes the place of the layer's source; the other steps stay."));
  coloured_->setVisible(purpose == Purpose::NewLayer);
  refresh();
}

void SourceGallery::refresh() {
  std::vector<Colour> colours;
  if (coloured_->isChecked() || purpose_ == Purpose::ReplaceSource) colours = document_.colours();
  // One colour makes no texture.
  if (coloured_->isChecked() && colours.size() < 2) colours = spareColours();
  if (count() > 0 && colours == shownColours_) return;
  shownColours_ = colours;
  std::vector<GalleryItem> list;
  const auto darkest =
      std::min_element(colours.begin(), colours.end(), [](const Colour& a, const Colour& b) { return toOkLab(a).L < toOkLab(b).L; });
  Colour ground = darkest == colours.end() ? hexColour(0x10222c) : *darkest;
  if (toOkLab(ground).L > 0.35) ground = hexColour(0x10222c);
  ground.a = 1;
  for (const edit::SourceVariety& variety : varieties_) {
    GalleryItem item;
    item.name = text(edit::titleOf(variety));
    item.section = sectionOf(variety);
    if (!variety.spec->shelf.noun.empty()) item.name += QLatin1Char(' ') + text(variety.spec->shelf.noun);
    item.help = text(edit::helpOf(variety));
    item.scene.frames = 180;
    // What does not fill it is seen on the dark of the scene's colours.
    item.scene.background = ground;
    item.scene.layers.push_back(edit::sourceLayer(variety, colours));
    list.push_back(std::move(item));
  }
  setItems(std::move(list));
}

int SourceGallery::cardOf(const std::string& step, const std::string& variety) const {
  for (std::size_t i = 0; i < varieties_.size(); ++i)
    if (varieties_[i].spec->id == step && varieties_[i].variety == variety) return static_cast<int>(i);
  return -1;
}

void SourceGallery::use(int card) {
  const edit::SourceVariety& variety = varieties_[static_cast<std::size_t>(card)];
  purpose_ == Purpose::NewLayer ? addLayer(variety) : replaceSource(variety);
  Q_EMIT closed();
}

void SourceGallery::addLayer(const edit::SourceVariety& variety) {
  const std::vector<Colour> colours = coloured_->isChecked() ? shownColours_ : std::vector<Colour>();
  document_.perform(tr("add layer"), [&](Scene& scene) -> Result<Ids> {
    const auto added = edit::addLayer(scene, document_.currentLayer(), edit::sourceLayer(variety, colours));
    if (!added) return tl::unexpected(added.error());
    return Ids{*added};
  });
}

void SourceGallery::replaceSource(const edit::SourceVariety& variety) {
  const Id layer = document_.currentLayer();
  // As the card shows it: moving, and in the scene's colours where it has some of its own.
  document_.performHere(tr("source %1").arg(text(edit::titleOf(variety)).toLower()), [&](Scene& scene) {
    return edit::replaceSource(scene, layer, edit::sourceLayer(variety, shownColours_).recipe.front());
  });
}

}  // namespace oa::app
