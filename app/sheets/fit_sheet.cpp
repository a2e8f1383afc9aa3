#include "sheets/fit_sheet.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QToolButton>
#include <QVBoxLayout>

#include "edit/rhythms.h"
#include "widgets/emptied.h"
#include "widgets/number_field.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

const ParamSpec kPeriod{.id = "period",
                        .label = "Rhythm",
                        .help = "How long one round of it takes.",
                        .base = 2.0,
                        .min = 0.05,
                        .max = 36000,
                        .sliderMin = 0.05,
                        .sliderMax = 60,
                        .unit = Unit::Seconds};
const ParamSpec kTolerance{.id = "tolerance",
                           .label = "May be off by",
                           .help = "By how much of itself a rhythm may become slower or faster; 0: by nothing.",
                           .base = 0.02,
                           .min = 0,
                           .max = 0.5,
                           .unit = Unit::Share};
const ParamSpec kLongest{.id = "longest",
                         .label = "Longest loop",
                         .help = "Longer ones are not looked at.",
                         .base = 120.0,
                         .min = 0.1,
                         .max = 3600,
                         .sliderMin = 1,
                         .sliderMax = 600,
                         .unit = Unit::Seconds};
constexpr std::size_t kMostRhythms = 12;

QString number(double v, int decimals = 2) { return text(numberText(v, decimals)); }

}  // namespace

FitSheet::FitSheet(Document& document, QWidget* parent) : Sheet(tr("Loop lengths that fit"), "fit", parent), document_(document) {
  auto* hint = new QLabel(tr("Rhythms that you want, and the lengths at which all of them come home."), this);
  hint->setObjectName(QStringLiteral("muted"));
  addNote(hint);
  list_ = new QWidget(this);
  auto* column = new QVBoxLayout(list_);
  column->setContentsMargins(0, 0, 0, 0);
  column->setSpacing(4);
  content()->addWidget(list_);
  auto* buttons = new QHBoxLayout();
  auto* add = new QPushButton(tr("Add a rhythm"), this);
  add->setObjectName(QStringLiteral("addRhythm"));
  connect(add, &QPushButton::clicked, this, [this] { addRhythm({2, 0}); });
  auto* layers = new QPushButton(tr("Take from layers"), this);
  layers->setObjectName(QStringLiteral("rhythmsOfLayers"));
  layers->setToolTip(tr("Every rhythm that moves something now; in the length that is chosen it goes on at its own speed"));
  connect(layers, &QPushButton::clicked, this, &FitSheet::takeFromLayers);
  buttons->addWidget(add);
  buttons->addWidget(layers);
  buttons->addStretch(1);
  content()->addLayout(buttons);
  const auto field = [&](const ParamSpec& spec, const char* name, double& value) {
    auto* made = NumberField::wide(spec, QLatin1String(name), this);
    made->setValue(value);
    connect(made, &NumberField::moved, this, [this, &value](double v) {
      value = v;
      find();
    });
    addLine(text(spec.label), made);
    return made;
  };
  tolerance_ = field(kTolerance, "tolerance", share_);
  longest_ = field(kLongest, "longestLoop", seconds_);
  found_ = new QListWidget(this);
  found_->setObjectName(QStringLiteral("fits"));
  found_->setAccessibleName(tr("Lengths that fit"));
  found_->setMinimumHeight(190);
  found_->setWordWrap(true);
  content()->addWidget(found_, 1);
  says_ = new QLabel(this);
  says_->setObjectName(QStringLiteral("fitSays"));
  addNote(says_);
  use_ = new QPushButton(tr("Make the loop so long"), this);
  use_->setObjectName(QStringLiteral("primary"));
  auto* last = new QHBoxLayout();
  last->addStretch(1);
  last->addWidget(use_);
  content()->addLayout(last);
  connect(found_, &QListWidget::currentRowChanged, this, [this](int row) { use_->setEnabled(row >= 0); });
  connect(found_, &QListWidget::itemActivated, this, &FitSheet::use);
  connect(use_, &QPushButton::clicked, this, &FitSheet::use);
  connect(&document, &Document::changed, this, [this](bool) { find(); });
  rhythms_ = {{24, 0}, {36, 0}};
  rebuild();
}

void FitSheet::addRhythm(const Rhythm& rhythm) {
  if (rhythms_.size() >= kMostRhythms) return;
  rhythms_.push_back(rhythm);
  rebuild();
}

void FitSheet::takeFromLayers() {
  std::vector<Rhythm> taken;
  for (const int laps : edit::lapsIn(document_.scene()))
    if (taken.size() < kMostRhythms) taken.push_back({edit::periodOf(document_.scene(), laps), laps});
  if (taken.empty()) {
    says_->setText(tr("Nothing moves yet, so there is no rhythm to take."));
    return;
  }
  rhythms_ = std::move(taken);
  rebuild();
}

void FitSheet::rebuild() {
  takeAllOut(list_);
  for (std::size_t i = 0; i < rhythms_.size(); ++i) {
    auto* line = new QWidget(list_);
    auto* row = new QHBoxLayout(line);
    row->setContentsMargins(0, 0, 0, 0);
    auto* name = new QLabel(rhythms_[i].laps > 0 ? tr("× %1 now").arg(rhythms_[i].laps) : tr("Rhythm %1").arg(i + 1), line);
    name->setFixedWidth(80);
    row->addWidget(name);
    auto* seconds = NumberField::wide(kPeriod, QStringLiteral("rhythm%1").arg(i), line);
    seconds->setAccessibleName(tr("Rhythm %1").arg(i + 1));
    seconds->setValue(rhythms_[i].seconds);
    connect(seconds, &NumberField::moved, this, [this, i](double v) {
      rhythms_[i].seconds = v;
      find();
    });
    row->addWidget(seconds, 1);
    auto* remove = new QToolButton(line);
    remove->setObjectName(QStringLiteral("removeRhythm%1").arg(i));
    remove->setIcon(icon(QStringLiteral("x"), Theme::now().muted));
    remove->setIconSize(QSize(14, 14));
    remove->setToolTip(tr("Without this rhythm"));
    remove->setAccessibleName(tr("Without rhythm %1").arg(i + 1));
    connect(remove, &QToolButton::clicked, this, [this, i] {
      rhythms_.erase(rhythms_.begin() + static_cast<std::ptrdiff_t>(i));
      rebuild();
    });
    row->addWidget(remove);
    list_->layout()->addWidget(line);
  }
  find();
}

void FitSheet::find() {
  const Scene& scene = document_.scene();
  std::vector<double> periods;
  for (const Rhythm& rhythm : rhythms_) periods.push_back(rhythm.seconds);
  const double longest = std::min(seconds_, kMaxFrames / scene.rate.value());
  auto fits = worthChoosing(fitLoop(periods, scene.rate, share_, longest));
  // The shortest and the truest, and between them those that are well better than the one before.
  constexpr double kBetter = 0.6;
  fits_.clear();
  for (std::size_t i = 0; i < fits.size(); ++i)
    if (i == 0 || i + 1 == fits.size() || fits[i].off < kBetter * fits_.back().off) fits_.push_back(fits[i]);
  const int row = found_->currentRow();
  found_->clear();
  for (const LoopFit& fit : fits_) {
    const double seconds = static_cast<double>(fit.frames) / scene.rate.value();
    QString below;
    for (std::size_t i = 0; i < rhythms_.size(); ++i)
      below += (below.isEmpty() ? QString() : QStringLiteral(",  ")) +
               tr("%1 s × %2").arg(number(seconds / fit.laps[i]), QString::number(fit.laps[i]));
    const QString off = fit.off == 0 ? tr("exact") : tr("%1 % off").arg(number(fit.off * 100, fit.off < 0.001 ? 3 : 1));
    auto* item = new QListWidgetItem(tr("%1 s  ·  %2 frames  ·  %3").arg(number(seconds), QString::number(fit.frames), off) +
                                     QLatin1Char('\n') + below);
    found_->addItem(item);
  }
  found_->setCurrentRow(fits_.empty() ? -1 : std::clamp(row, 0, found_->count() - 1));
  use_->setEnabled(!fits_.empty());
  says_->setText(rhythms_.empty() ? tr("Add a rhythm to begin with.")
                 : fits_.empty()
                     ? tr("No length of up to %1 s fits all of them: let them be off by more, or allow a longer loop.").arg(number(longest))
                     : QString());
  says_->setVisible(!says_->text().isEmpty());
}

void FitSheet::use() {
  const int row = found_->currentRow();
  if (row < 0 || row >= static_cast<int>(fits_.size())) return;
  const LoopFit fit = fits_[static_cast<std::size_t>(row)];
  std::map<int, int> laps;
  for (std::size_t i = 0; i < rhythms_.size(); ++i)
    if (rhythms_[i].laps > 0) laps[rhythms_[i].laps] = fit.laps[i];
  // From here on they are what they became.
  for (std::size_t i = 0; i < rhythms_.size(); ++i)
    if (rhythms_[i].laps > 0) rhythms_[i].laps = fit.laps[i];
  document_.edit(tr("loop length that fits"), {}, [&](Scene& scene) { edit::takeFit(scene, fit.frames, laps); });
  rebuild();
}

}  // namespace oa::app
