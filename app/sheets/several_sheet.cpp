#include "sheets/several_sheet.h"

#include <QComboBox>
#include <QHBoxLayout>
#include <QLabel>
#include <QPainter>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

#include "scene/extent.h"
#include "widgets/number_field.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

const ParamSpec kCount{.id = "count",
                       .label = "How many",
                       .help = "So many of it there will be, the one that there is with them.",
                       .type = ParamType::Integer,
                       .base = 6.0,
                       .min = 2,
                       .max = edit::kMostSeveral,
                       .sliderMin = 2,
                       .sliderMax = 16};
const ParamSpec kReach{
    .id = "reach",
    .label = "Reach",
    .help = "How far it is from the first to the last, beside the frame's width; in a column and across a ring, its height.",
    .base = 0.8,
    .min = 0,
    .max = 4,
    .sliderMin = 0,
    .sliderMax = 1.5,
    .unit = Unit::Share};
const ParamSpec kSize{.id = "size",
                      .label = "Size",
                      .help = "How large they are beside the one that there was.",
                      .base = 1.0,
                      .min = 0.01,
                      .max = 16,
                      .sliderMin = 0.05,
                      .sliderMax = 2,
                      .unit = Unit::Share};
const ParamSpec kLater{.id = "later",
                       .label = "Later",
                       .help = "The share of a lap within which all of them begin what they do, one after the other; 0: together.",
                       .base = 0.25,
                       .min = 0,
                       .max = 1,
                       .unit = Unit::Share};
const ParamSpec kApart{.id = "apart",
                       .label = "Arriving",
                       .help = "How long after one the next arrives.",
                       .base = 0.3,
                       .min = 0,
                       .max = 60,
                       .sliderMin = 0,
                       .sliderMax = 3,
                       .unit = Unit::Seconds};

// What fills the frame is made as small as lets six of it stand beside each other.
constexpr double kSmall = 0.36;
// What is as large as that stays within the frame's height.
constexpr double kInside = 0.62;

}  // namespace

// The frame, with a bead where each will lie.
class FramePlan : public QWidget {
 public:
  explicit FramePlan(QWidget* parent) : QWidget(parent) {
    setFixedHeight(150);
    setAccessibleName(tr("Where they lie"));
  }
  void set(Point frame, Point middle, std::vector<Point> places) {
    frame_ = frame;
    middle_ = middle;
    places_ = std::move(places);
    update();
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    const Theme& t = Theme::now();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double scale = std::min((width() - 24) / frame_.x, (height() - 16) / frame_.y);
    const QRectF frame((width() - frame_.x * scale) / 2, (height() - frame_.y * scale) / 2, frame_.x * scale, frame_.y * scale);
    p.setPen(QPen(t.line, 2));
    p.drawRoundedRect(frame, 4, 4);
    p.setFont(uiFont(10, 600));
    const double radius = places_.size() > 12 ? 5 : 8;
    for (std::size_t i = places_.size(); i-- > 0;) {
      const QPointF at(frame.left() + (middle_.x + places_[i].x) * frame.width(),
                       frame.top() + (middle_.y + places_[i].y) * frame.height());
      p.setPen(QPen(t.lagoon, 1.6));
      p.setBrush(i == 0 ? t.lagoon : t.card);
      p.drawEllipse(at, radius, radius);
      if (radius < 8) continue;
      p.setPen(i == 0 ? t.paper : t.ink);
      p.drawText(QRectF(at.x() - 10, at.y() - 8, 20, 16), Qt::AlignCenter, QString::number(i + 1));
    }
  }

 private:
  Point frame_{16, 9};
  Point middle_{0.5, 0.5};
  std::vector<Point> places_;
};

SeveralSheet::SeveralSheet(Document& document, QWidget* parent) : Sheet(tr("Extra copies"), "several", parent), document_(document) {
  several_.later = std::get<double>(kLater.base);
  several_.apart = std::get<double>(kApart.base);
  says_ = new QLabel(this);
  says_->setObjectName(QStringLiteral("muted"));
  addNote(says_);
  plan_ = new FramePlan(this);
  content()->addWidget(plan_);
  addLine(text(kCount.label), field(kCount, "severalCount", count_));
  auto* laid = new QWidget(this);
  auto* row = new QHBoxLayout(laid);
  row->setContentsMargins(0, 0, 0, 0);
  layout_ = new QComboBox(laid);
  layout_->setObjectName(QStringLiteral("severalLayout"));
  layout_->setAccessibleName(tr("Laid out"));
  layout_->setToolTip(tr("How they lie beside each other"));
  layout_->addItems({tr("in a row"), tr("in a column"), tr("in a ring"), tr("scattered"), tr("where it lies")});
  dice_ = new QToolButton(laid);
  dice_->setObjectName(QStringLiteral("severalDice"));
  dice_->setIcon(icon(QStringLiteral("dices"), Theme::now().ink));
  dice_->setToolTip(tr("Scattered another way"));
  dice_->setAccessibleName(tr("Scattered another way"));
  row->addWidget(layout_, 1);
  row->addWidget(dice_);
  addLine(tr("Laid out"), laid);
  reach_ = field(kReach, "severalReach", several_.reach);
  connect(reach_, &NumberField::moved, this, [this] { reached_ = true; });
  reachLine_ = addLine(text(kReach.label), reach_);
  size_ = field(kSize, "severalSize", several_.size);
  connect(size_, &NumberField::moved, this, [this] { sized_ = true; });
  addLine(text(kSize.label), size_);
  addLine(text(kLater.label), field(kLater, "severalLater", several_.later));
  apartLine_ = addLine(text(kApart.label), field(kApart, "severalApart", several_.apart));
  use_ = addPrimary(tr("Make them"));
  connect(use_, &QPushButton::clicked, this, [this] {
    apply();
    document_.endGesture();
  });
  connect(layout_, &QComboBox::activated, this, [this](int i) {
    several_.layout = static_cast<edit::Several::Layout>(i);
    if (!reached_) {
      several_.reach = i == 0 ? std::get<double>(kReach.base) : kInside;
      reach_->setValue(several_.reach);
    }
    changed(false);
  });
  connect(dice_, &QToolButton::clicked, this, [this] {
    ++several_.seed;
    changed(false);
  });
  connect(&document, &Document::changed, this, [this](bool) { refresh(); });
  connect(&document, &Document::currentLayerChanged, this, &SeveralSheet::refresh);
}

NumberField* SeveralSheet::field(const ParamSpec& spec, const char* name, double& value) {
  auto* made = NumberField::wide(spec, QLatin1String(name), this);
  made->setValue(value);
  connect(made, &NumberField::moved, this, [this, &value](double v) {
    value = v;
    changed(true);
  });
  connect(made, &NumberField::released, this, [this] { document_.endGesture(); });
  return made;
}

void SeveralSheet::showEvent(QShowEvent*) { refresh(); }

void SeveralSheet::changed(bool gestureGoesOn) {
  if (made()) apply();
  if (!gestureGoesOn) document_.endGesture();
  refresh();
}

void SeveralSheet::apply() {
  const Layer* layer = document_.layer();
  if (!layer) return;
  edit::SeveralMade now = made_;
  if (!made()) {
    const auto begun = edit::severalOf(document_.scene(), layer->id);
    if (!begun) return;
    now = *begun;
  }
  several_.count = static_cast<int>(std::lround(count_));
  // Kept before the scene tells that it has changed.
  const edit::SeveralMade before = made_;
  const auto lay = [&](Scene& scene) {
    auto laid = edit::laySeveral(scene, now, several_);
    made_ = now;
    return laid;
  };
  if (!document_.perform(tr("extra copies"), lay, QStringLiteral("several"))) made_ = before;
}

void SeveralSheet::refresh() {
  if (!isVisible()) return;
  const Scene& scene = document_.scene();
  const Layer* layer = document_.layer();
  const bool one = layer && document_.selection().size() == 1;
  use_->setEnabled(one);
  use_->setVisible(!made());
  const bool scattered = several_.layout == edit::Several::Layout::Scattered;
  dice_->setVisible(scattered);
  reachLine_->setVisible(several_.layout != edit::Several::Layout::InPlace);
  apartLine_->setVisible(layer && layer->passes.arrive);
  if (made())
    says_->setText(tr("%1 times %2. What is changed here goes to all of them.")
                       .arg(made_.layers.size())
                       .arg(text(document_.layer(made_.layers.front())->name)));
  else if (one)
    says_->setText(tr("%1 several times: laid out together, each a little later than the one before.").arg(text(layer->name)));
  else
    says_->setText(tr("Select one layer to make several of it."));
  if (!layer) return;
  const Plan& plan = document_.plan();
  const int index = plan.indexOf(layer->id);
  const int parent = plan.at(index).parent;
  const Point frame = parent >= 0 ? plan.at(parent).frame : Point{double(scene.width), double(scene.height)};
  if (one && !sized_) {
    several_.size = extentOf(plan, index, {0, scene.frames}).endless ? kSmall : 1;
    size_->setValue(several_.size);
  }
  edit::Several shown = several_;
  shown.count = static_cast<int>(std::lround(count_));
  plan_->set(frame, made() ? made_.middle : std::get<Point>(layer->place[static_cast<std::size_t>(PlaceParam::Position)].base),
             edit::placesOf(shown, frame.x, frame.y));
}

}  // namespace oa::app
