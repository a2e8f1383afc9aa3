#include "sheets/frame_sheet.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDateTime>
#include <QDoubleSpinBox>
#include <QLabel>
#include <QPushButton>
#include <QSpinBox>
#include <QVBoxLayout>
#include <cmath>

#include "edit/rhythms.h"
#include "scene/plan.h"
#include "widgets/ask_colour.h"
#include "widgets/hold_row.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

const std::pair<const char*, QSize> kSizes[] = {
    {"1920 × 1080  full HD", {1920, 1080}}, {"1280 × 720  HD", {1280, 720}},       {"3840 × 2160  UHD", {3840, 2160}},
    {"1080 × 1920  upright", {1080, 1920}}, {"1080 × 1080  square", {1080, 1080}}, {"1024 × 768  4 : 3", {1024, 768}},
    {"2560 × 720  banner", {2560, 720}},
};
const std::pair<const char*, Rational> kRates[] = {
    {"23.976", {24000, 1001}}, {"24", {24, 1}}, {"25", {25, 1}},          {"29.97", {30000, 1001}},
    {"30", {30, 1}},           {"50", {50, 1}}, {"59.94", {60000, 1001}}, {"60", {60, 1}},
};

}  // namespace

FrameSheet::FrameSheet(Document& document, QWidget* parent) : Sheet(tr("Frame and loop"), "frame", parent), document_(document) {
  sizes_ = new QComboBox(this);
  for (const auto& [name, size] : kSizes) sizes_->addItem(QString::fromUtf8(name), size);
  sizes_->setPlaceholderText(tr("Own size"));
  addLine(tr("Size"), sizes_);
  auto* both = new QWidget(this);
  auto* row = new QHBoxLayout(both);
  row->setContentsMargins(0, 0, 0, 0);
  const auto side = [&](const QString& name) {
    auto* box = new QSpinBox(both);
    box->setRange(1, kMaxFrameSize);
    box->setSuffix(tr(" px"));
    box->setAccessibleName(name);
    box->setKeyboardTracking(false);
    box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    return box;
  };
  width_ = side(tr("Width"));
  height_ = side(tr("Height"));
  row->addWidget(width_, 1);
  row->addWidget(new QLabel(QStringLiteral("×"), both));
  row->addWidget(height_, 1);
  addLine(QString(), both);
  scale_ = new QCheckBox(tr("Scale the picture too"), this);
  scale_->setChecked(true);
  scale_->setToolTip(tr("Lengths in pixels follow the frame, so that the picture stays the same"));
  addLine(QString(), scale_);
  rate_ = new QComboBox(this);
  rate_->setObjectName(QStringLiteral("rate"));
  for (const auto& [name, rate] : kRates) rate_->addItem(tr("%1 frames a second").arg(QLatin1String(name)));
  rate_->setPlaceholderText(tr("Own rate"));
  addLine(tr("Rate"), rate_);
  frames_ = new QSpinBox(this);
  frames_->setObjectName(QStringLiteral("frames"));
  frames_->setRange(1, kMaxFrames);
  frames_->setSuffix(tr(" frames"));
  frames_->setKeyboardTracking(false);
  frames_->setButtonSymbols(QAbstractSpinBox::NoButtons);
  addLine(tr("Loop"), frames_);
  seconds_ = new QDoubleSpinBox(this);
  seconds_->setObjectName(QStringLiteral("loopSeconds"));
  seconds_->setRange(0.01, 100000);
  seconds_->setDecimals(3);
  seconds_->setSuffix(tr(" s"));
  seconds_->setKeyboardTracking(false);
  seconds_->setButtonSymbols(QAbstractSpinBox::NoButtons);
  addLine(QString(), seconds_);
  auto* fit = new QPushButton(tr("Lengths that fit several rhythms…"), this);
  fit->setObjectName(QStringLiteral("fitLoop"));
  fit->setProperty("link", true);
  connect(fit, &QPushButton::clicked, this, &FrameSheet::fitWanted);
  auto* fitLine = new QHBoxLayout();
  fitLine->addSpacing(80);
  fitLine->addWidget(fit);
  fitLine->addStretch(1);
  content()->addLayout(fitLine);
  tempo_ = new QDoubleSpinBox(this);
  tempo_->setObjectName(QStringLiteral("tempo"));
  tempo_->setRange(0, 999);
  tempo_->setDecimals(2);
  tempo_->setSpecialValueText(tr("not counted in beats"));
  tempo_->setSuffix(tr(" beats a minute"));
  tempo_->setKeyboardTracking(false);
  tempo_->setButtonSymbols(QAbstractSpinBox::NoButtons);
  tempo_->setToolTip(tr("The loop becomes as long as the whole beats nearest to what it is"));
  addLine(tr("Tempo"), tempo_);
  auto* beats = new QWidget(this);
  auto* beatsRow = new QHBoxLayout(beats);
  beatsRow->setContentsMargins(0, 0, 0, 0);
  beats_ = new QSpinBox(beats);
  beats_->setObjectName(QStringLiteral("loopBeats"));
  beats_->setRange(0, kMaxBeats);
  beats_->setSuffix(tr(" beats"));
  beats_->setAccessibleName(tr("Beats of the loop"));
  bar_ = new QSpinBox(beats);
  bar_->setObjectName(QStringLiteral("beatsOfABar"));
  bar_->setRange(1, kMaxBar);
  bar_->setPrefix(tr("bars of "));
  bar_->setAccessibleName(tr("Beats of a bar"));
  for (QSpinBox* box : {beats_, bar_}) {
    box->setKeyboardTracking(false);
    box->setButtonSymbols(QAbstractSpinBox::NoButtons);
    box->setMinimumWidth(64);
    beatsRow->addWidget(box, 1);
  }
  auto* tapping = new QPushButton(tr("Tap"), beats);
  tapping->setObjectName(QStringLiteral("tapBeats"));
  tapping->setToolTip(tr("Press it on each beat, four times or more"));
  connect(tapping, &QPushButton::pressed, this, &FrameSheet::tap);
  beatsRow->addWidget(tapping);
  addLine(QString(), beats);
  addLine(tr("Hold"), new HoldRow(document, 0, this));
  background_ = new QComboBox(this);
  background_->setObjectName(QStringLiteral("background"));
  background_->addItems({tr("Colour…"), tr("Transparent")});
  addLine(tr("Background"), background_);
  light_ = new QComboBox(this);
  light_->addItems({tr("as other programs do"), tr("in linear light")});
  light_->setToolTip(tr("Which values the blend modes work on"));
  addLine(tr("Blend"), light_);
  note_ = new QLabel(this);
  note_->setObjectName(QStringLiteral("muted"));
  addNote(note_);
  content()->addStretch(1);

  connect(sizes_, &QComboBox::activated, this, [this](int i) { resizeTo(kSizes[i].second.width(), kSizes[i].second.height()); });
  connect(width_, &QSpinBox::valueChanged, this, [this](int v) {
    if (!refreshing_) resizeTo(v, document_.scene().height);
  });
  connect(height_, &QSpinBox::valueChanged, this, [this](int v) {
    if (!refreshing_) resizeTo(document_.scene().width, v);
  });
  connect(rate_, &QComboBox::activated, this,
          [this](int i) { document_.edit(tr("frame rate"), {}, [&](Scene& s) { s.rate = kRates[i].second; }); });
  connect(frames_, &QSpinBox::valueChanged, this, [this](int v) {
    if (!refreshing_) document_.edit(tr("loop length"), {}, [&](Scene& s) { s.frames = v; });
  });
  connect(seconds_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
    if (!refreshing_)
      document_.edit(tr("loop length"), {},
                     [&](Scene& s) { s.frames = static_cast<int>(std::clamp<long>(std::lround(v * s.rate.value()), 1, kMaxFrames)); });
  });
  connect(tempo_, &QDoubleSpinBox::valueChanged, this, [this](double v) {
    if (refreshing_) return;
    document_.edit(tr("tempo"), {}, [&](Scene& s) {
      if (v > 0)
        edit::setTempo(s, v);
      else
        s.beats = 0;
    });
  });
  connect(beats_, &QSpinBox::valueChanged, this, [this](int v) {
    if (!refreshing_) document_.edit(tr("beats of the loop"), {}, [&](Scene& s) { s.beats = v; });
  });
  connect(bar_, &QSpinBox::valueChanged, this, [this](int v) {
    if (!refreshing_) document_.edit(tr("beats of a bar"), {}, [&](Scene& s) { s.bar = v; });
  });
  connect(background_, &QComboBox::activated, this, [this](int i) {
    const auto set = [this](std::optional<Colour> c) {
      document_.edit(tr("background"), QStringLiteral("background"), [&](Scene& s) { s.background = c; });
    };
    if (i == 1)
      set(std::nullopt);
    else if (const auto before = document_.scene().background;
             !askColour(this, tr("Background"), before.value_or(Colour{0.04f, 0.1f, 0.13f, 1}), document_.colours(),
                        [&](const Colour& c) { set(c); }))
      set(before);  // called off: also what was clear is clear again
    document_.endGesture();
    refresh();
  });
  connect(light_, &QComboBox::activated, this,
          [this](int i) { document_.edit(tr("blending"), {}, [&](Scene& s) { s.linearLight = i == 1; }); });
  connect(&document, &Document::changed, this, &FrameSheet::refresh);
  refresh();
}

void FrameSheet::resizeTo(int width, int height) {
  document_.edit(tr("frame size"), {}, [&](Scene& s) { resizeFrame(s, width, height, scale_->isChecked()); });
}

void FrameSheet::tap() {
  const qint64 now = QDateTime::currentMSecsSinceEpoch();
  // After a rest it is another count.
  if (!taps_.empty() && now - taps_.back() > 3000) taps_.clear();
  taps_.push_back(now);
  if (taps_.size() < 4 || taps_.back() <= taps_.front()) return;
  const double tapped = 60000.0 * static_cast<double>(taps_.size() - 1) / static_cast<double>(taps_.back() - taps_.front());
  document_.edit(tr("tempo"), QStringLiteral("tap"), [&](Scene& s) { edit::setTempo(s, std::min(999.0, std::round(tapped * 10) / 10)); });
}

void FrameSheet::refresh() {
  refreshing_ = true;
  const Scene& s = document_.scene();
  tempo_->setValue(edit::tempoOf(s));
  beats_->setValue(s.beats);
  bar_->setValue(s.bar);
  sizes_->setCurrentIndex(sizes_->findData(QSize(s.width, s.height)));
  width_->setValue(s.width);
  height_->setValue(s.height);
  int rate = -1;
  for (int i = 0; i < static_cast<int>(std::size(kRates)); ++i)
    if (kRates[i].second == s.rate) rate = i;
  rate_->setCurrentIndex(rate);
  frames_->setValue(s.frames);
  seconds_->setValue(s.seconds());
  background_->setCurrentIndex(s.background ? 0 : 1);
  light_->setCurrentIndex(s.linearLight ? 1 : 0);
  const auto distinct = distinctFrames(s);
  note_->setText(distinct == s.frames ? tr("All %1 frames differ.").arg(s.frames)
                                      : tr("The picture repeats after %1 frames already, so only those are rendered.").arg(distinct));
  refreshing_ = false;
}

}  // namespace oa::app
