#include "sheets/source_gallery.h"

#include <QAbstractButton>
#include <QCheckBox>
#include <algorithm>

#include "widgets/text.h"

namespace oa::app {
namespace {

// Colours for a scene that has none of its own yet.
const std::vector<Colour>& spareColours() {
  static const std::vector<Colour> list{hexColour(0x06202f), hexColour(0x10606e), hexColour(0x63b9ae), hexColour(0xf3ead2)};
  return list;
}

// Textures stand under their source; what is made of colours from the start comes together.
QString sectionOf(const SourceVariety& variety) {
  const bool ground = variety.variety.empty() || variety.spec->id == "gradient";
  return ground ? QObject::tr("Colours") : text(variety.spec->title);
}

// Noise, then other textures, colours last.
std::vector<SourceVariety> inOrder() {
  std::vector<SourceVariety> list = sourceVarieties();
  const auto rank = [](const SourceVariety& v) { return v.spec->id == "noise" ? 0 : sectionOf(v) == QObject::tr("Colours") ? 2 : 1; };
  std::stable_sort(list.begin(), list.end(), [&](const SourceVariety& a, const SourceVariety& b) { return rank(a) < rank(b); });
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
  for (const SourceVariety& variety : varieties_) {
    GalleryItem item;
    item.name = text(titleOf(variety));
    item.section = sectionOf(variety);
    if (variety.spec->id == "gradient") item.name = tr("%1 gradient").arg(item.name);
    item.help = text(variety.spec->help);
    item.scene.frames = 180;
    item.scene.layers.push_back(sourceLayer(variety, colours));
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
  const SourceVariety& variety = varieties_[static_cast<std::size_t>(card)];
  purpose_ == Purpose::NewLayer ? addLayer(variety) : replaceSource(variety);
  Q_EMIT closed();
}

void SourceGallery::addLayer(const SourceVariety& variety) {
  if (document_.scene().layers.size() >= kMaxLayers) return;
  const int at = document_.scene().layers.empty() ? 0 : document_.currentLayer() + 1;
  const std::vector<Colour> colours = coloured_->isChecked() ? shownColours_ : std::vector<Colour>();
  document_.edit(tr("add layer"), {}, [&](Scene& scene) { scene.layers.insert(scene.layers.begin() + at, sourceLayer(variety, colours)); });
  document_.setCurrentLayer(at);
}

void SourceGallery::replaceSource(const SourceVariety& variety) {
  const int layer = document_.currentLayer();
  document_.edit(tr("source %1").arg(text(titleOf(variety)).toLower()), {},
                 [&](Scene& scene) { scene.layers[static_cast<std::size_t>(layer)].recipe[0] = sourceStep(variety); });
}

}  // namespace oa::app
