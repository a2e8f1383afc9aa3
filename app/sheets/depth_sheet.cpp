#include "sheets/depth_sheet.h"

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "scene/tree.h"
#include "widgets/ask_colour.h"
#include "widgets/number_field.h"
#include "widgets/swatch.h"
#include "widgets/text.h"
#include "widgets/theme.h"
#include "widgets/value_slider.h"

namespace oa::app {
namespace {

const ParamSpec kDistance{.id = "distance",
                          .label = "Distance",
                          .help = "How far away the layer is: 1 for the nearest, 2 for what travels half as fast.",
                          .base = 1.0,
                          .min = 1,
                          .max = kMaxDistance,
                          .sliderMin = 1,
                          .sliderMax = 32,
                          .logScale = true};
const ParamSpec kSeconds{.id = "seconds",
                         .label = "Nearest",
                         .help = "How long the nearest takes to travel by the frame's width.",
                         .base = 6.0,
                         .min = 0.1,
                         .max = 3600,
                         .sliderMin = 0.1,
                         .sliderMax = 60,
                         .unit = Unit::Seconds};
const ParamSpec kHaze{.id = "haze",
                      .label = "Haze",
                      .help = "How much of what is very far away is lost in haze.",
                      .base = 0.0,
                      .min = 0,
                      .max = 1,
                      .unit = Unit::Share};

// More than this over what it should be is told.
constexpr double kTooFast = 1.2;

}  // namespace

DepthSheet::DepthSheet(Document& document, QWidget* parent) : Sheet(tr("Depth"), "depth", parent), document_(document) {
  hint_ = new QLabel(this);
  hint_->setObjectName(QStringLiteral("muted"));
  hint_->setWordWrap(true);
  content()->addWidget(hint_);
  list_ = new QWidget(this);
  lines_ = new QVBoxLayout(list_);
  lines_->setContentsMargins(0, 4, 0, 4);
  lines_->setSpacing(8);
  content()->addWidget(list_);
  seconds_ = NumberField::wide(kSeconds, QStringLiteral("nearestSeconds"), this);
  seconds_->setAccessibleName(tr("Seconds in which the nearest travels by the frame's width"));
  connect(seconds_, &NumberField::moved, this, [this](double v) {
    depth_.seconds = v;
    apply(QStringLiteral("seconds"));
  });
  connect(seconds_, &NumberField::released, this, [this] { document_.endGesture(); });
  addLine(tr("Nearest"), seconds_);
  way_ = new QComboBox(this);
  way_->setObjectName(QStringLiteral("depthWay"));
  way_->setAccessibleName(tr("Direction"));
  way_->addItems({tr("to the left"), tr("to the right")});
  connect(way_, &QComboBox::activated, this, [this](int i) {
    depth_.left = i == 0;
    apply({});
  });
  addLine(tr("All travel"), way_);
  auto* haze = new QWidget(this);
  auto* hazeRow = new QHBoxLayout(haze);
  hazeRow->setContentsMargins(0, 0, 0, 0);
  hazeRow->setSpacing(6);
  haze_ = new ValueSlider(kHaze, haze);
  haze_->setObjectName(QStringLiteral("hazeSlider"));
  haze_->setAccessibleName(tr("Haze"));
  hazeField_ = new NumberField(kHaze, haze);
  hazeField_->setObjectName(QStringLiteral("haze"));
  hazeField_->setAccessibleName(tr("Haze"));
  colour_ = new Swatch(haze);
  colour_->setObjectName(QStringLiteral("hazeColour"));
  colour_->setAccessibleName(tr("Colour of the haze"));
  colour_->setToolTip(tr("The colour that the furthest goes over into"));
  hazeRow->addWidget(haze_, 1);
  hazeRow->addWidget(hazeField_);
  hazeRow->addWidget(colour_);
  const auto setHaze = [this](double v) {
    depth_.haze = v;
    apply(QStringLiteral("haze"));
  };
  connect(haze_, &ValueSlider::moved, this, setHaze);
  connect(haze_, &ValueSlider::released, this, [this] { document_.endGesture(); });
  connect(hazeField_, &NumberField::moved, this, setHaze);
  connect(hazeField_, &NumberField::released, this, [this] { document_.endGesture(); });
  connect(colour_, &QAbstractButton::clicked, this, [this] {
    const Colour before = depth_.colour;
    const auto tried = [this](const Colour& c) {
      depth_.colour = c;
      apply(QStringLiteral("colour"));
    };
    if (!askColour(window(), tr("Colour of the haze"), before, document_.colours(), tried)) tried(before);
    document_.endGesture();
  });
  addLine(tr("Haze"), haze);
  apply_ = new QPushButton(tr("Travel by depth"), this);
  apply_->setObjectName(QStringLiteral("travelByDepth"));
  apply_->setToolTip(tr("Sets whole tiles a lap for each of them, so that what is far is slow and the loop closes"));
  connect(apply_, &QPushButton::clicked, this, [this] { apply({}); });
  content()->addWidget(apply_);
  note_ = new QLabel(this);
  note_->setObjectName(QStringLiteral("muted"));
  note_->setWordWrap(true);
  content()->addWidget(note_);
  longer_ = new QPushButton(this);
  longer_->setObjectName(QStringLiteral("lengthenForDepth"));
  connect(longer_, &QPushButton::clicked, this, &DepthSheet::lengthen);
  content()->addWidget(longer_);
  content()->addStretch(1);
  connect(&document, &Document::changed, this, [this] {
    if (isVisible() && !applying_) takeUp();
  });
  connect(&document, &Document::currentLayerChanged, this, [this] {
    if (isVisible()) takeUp();
  });
}

void DepthSheet::showEvent(QShowEvent* event) {
  takeUp();
  Sheet::showEvent(event);
}

Ids DepthSheet::chosen() const {
  if (document_.selection().size() > 1) return document_.selection();
  Ids far;
  for (const Layer& layer : document_.scene().layers)
    if (layer.distance > 0) far.push_back(layer.id);
  return far;
}

void DepthSheet::takeUp() {
  const double seconds = depth_.seconds;
  const bool left = depth_.left;
  const Colour colour = depth_.colour;
  const double haze = depth_.haze;
  depth_ = edit::depthOf(document_.scene(), chosen());
  depth_.seconds = seconds;
  depth_.left = left;
  // What is nowhere yet stays what was wished for here.
  if (depth_.haze <= 0 &&
      !std::any_of(depth_.layers.begin(), depth_.layers.end(), [&](const auto& at) { return document_.layer(at.layer)->distance > 0; }))
    depth_.haze = haze;
  if (depth_.haze <= 0) depth_.colour = colour;
  refresh();
}

void DepthSheet::refresh() {
  const bool same = rows_.size() == depth_.layers.size() && std::equal(rows_.begin(), rows_.end(), depth_.layers.begin(),
                                                                       [](const Row& r, const auto& at) { return r.layer == at.layer; });
  if (!same) {
    for (QWidget* old : list_->findChildren<QWidget*>(QStringLiteral("depthRow"))) {
      old->setObjectName(QStringLiteral("gone"));
      old->hide();
      old->deleteLater();
    }
    rows_.clear();
    for (std::size_t i = 0; i < depth_.layers.size(); ++i) {
      auto* box = new QWidget(list_);
      box->setObjectName(QStringLiteral("depthRow"));
      auto* grid = new QGridLayout(box);
      grid->setContentsMargins(0, 0, 0, 0);
      grid->setHorizontalSpacing(8);
      grid->setVerticalSpacing(0);
      Row row;
      row.layer = depth_.layers[i].layer;
      row.name = new QLabel(box);
      row.says = new QLabel(box);
      row.says->setObjectName(QStringLiteral("muted"));
      row.slider = new ValueSlider(kDistance, box);
      row.field = new NumberField(kDistance, box);
      row.field->setObjectName(QStringLiteral("distance"));
      row.field->setToolTip(text(kDistance.help));
      grid->addWidget(row.name, 0, 0);
      grid->addWidget(row.says, 0, 1, 1, 2, Qt::AlignRight);
      grid->addWidget(row.slider, 1, 0, 1, 2);
      grid->addWidget(row.field, 1, 2);
      grid->setColumnStretch(1, 1);
      lines_->addWidget(box);
      const auto set = [this, i](double v) {
        depth_.layers[i].distance = v;
        apply(QStringLiteral("distance"));
      };
      connect(row.slider, &ValueSlider::moved, this, set);
      connect(row.slider, &ValueSlider::released, this, [this] { document_.endGesture(); });
      connect(row.field, &NumberField::moved, this, set);
      connect(row.field, &NumberField::released, this, [this] { document_.endGesture(); });
      rows_.push_back(row);
    }
  }
  for (std::size_t i = 0; i < rows_.size(); ++i) {
    const QString name = text(document_.layer(rows_[i].layer)->name);
    rows_[i].name->setText(rows_[i].name->fontMetrics().elidedText(name, Qt::ElideRight, 130));
    rows_[i].slider->setValue(depth_.layers[i].distance);
    rows_[i].slider->setAccessibleName(tr("Distance of %1").arg(name));
    rows_[i].field->setValue(depth_.layers[i].distance);
    rows_[i].field->setAccessibleName(tr("Distance of %1").arg(name));
  }
  seconds_->setValue(depth_.seconds);
  way_->setCurrentIndex(depth_.left ? 0 : 1);
  haze_->setValue(depth_.haze);
  hazeField_->setValue(depth_.haze);
  colour_->setColour(depth_.colour);
  tell();
}

void DepthSheet::tell() {
  const bool any = rows_.size() > 1;
  hint_->setText(any ? tr("The nearest passes by the frame’s width in the time below, the others slower. Each goes by whole tiles, so that "
                          "the loop closes and no edge shows.")
                     : tr("Select several layers in the pile, with Ctrl or Shift, to put them at different distances."));
  apply_->setEnabled(any);
  note_->setVisible(any);
  const double lap = document_.scene().frames / document_.scene().rate.value();
  QString fast;
  double most = kTooFast;
  const auto travels = edit::depthTravel(document_.scene(), depth_);
  for (std::size_t i = 0; i < travels.size() && i < rows_.size(); ++i) {
    const auto& t = travels[i];
    rows_[i].says->setText(t.tiles == 1 ? tr("1 tile a lap, %1 px/s").arg(std::lround(t.speed))
                                        : tr("%1 tiles a lap, %2 px/s").arg(t.tiles).arg(std::lround(t.speed)));
    if (t.speed <= t.wanted * most) continue;
    most = t.speed / t.wanted;
    fast = text(document_.layer(t.layer)->name);
  }
  const int frames = edit::framesForDepth(document_.scene(), depth_);
  const bool wishes = any && !fast.isEmpty() && frames > document_.scene().frames;
  note_->setText(wishes ? tr("In a loop of %1 s one tile is too fast for %2.").arg(QString::number(lap, 'f', 1), fast) : QString());
  longer_->setVisible(wishes);
  longer_->setText(tr("Make the loop %1 s long").arg(QString::number(frames / document_.scene().rate.value(), 'f', 1)));
}

void DepthSheet::apply(const QString& gesture) {
  if (rows_.size() < 2) return refresh();
  applying_ = true;
  const Ids selection = document_.selection();
  document_.perform(
      tr("travel by depth"),
      [&](Scene& scene) -> Result<Ids> {
        const auto done = edit::travelByDepth(scene, depth_);
        if (!done) return tl::unexpected(done.error());
        return selection;
      },
      gesture.isEmpty() ? QString() : QStringLiteral("depth/") + gesture);
  applying_ = false;
  refresh();
}

void DepthSheet::lengthen() {
  const int frames = edit::framesForDepth(document_.scene(), depth_);
  applying_ = true;
  const Ids selection = document_.selection();
  document_.perform(tr("loop length for depth"), [&](Scene& scene) -> Result<Ids> {
    scene.frames = frames;
    const auto done = edit::travelByDepth(scene, depth_);
    if (!done) return tl::unexpected(done.error());
    return selection;
  });
  applying_ = false;
  refresh();
}

}  // namespace oa::app
