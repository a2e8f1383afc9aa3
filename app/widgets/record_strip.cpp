#include "widgets/record_strip.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <cmath>

#include "model/recorder.h"
#include "widgets/number_field.h"
#include "widgets/text.h"

namespace oa::app {
namespace {

const ParamSpec kLaps{.id = "laps",
                      .label = "Laps",
                      .help = "How often it goes round in the loop; what was done in any lap is done in all.",
                      .type = ParamType::Integer,
                      .base = 1.0,
                      .min = 1,
                      .max = 24};
// Steps of the slider: from a two-hundredth of what the hand covered to a quarter of it, each as much more as the one before.
constexpr int kSteps = 100;
constexpr double kNearest = 0.005;
constexpr double kFarthest = 0.25;

double toleranceAt(int step) { return kNearest * std::pow(kFarthest / kNearest, static_cast<double>(step) / kSteps); }
int stepOf(double tolerance) {
  return static_cast<int>(std::lround(kSteps * std::log(tolerance / kNearest) / std::log(kFarthest / kNearest)));
}

}  // namespace

RecordStrip::RecordStrip(Recorder& recorder, QWidget* parent) : QWidget(parent), recorder_(recorder) {
  setObjectName(QStringLiteral("recordStrip"));
  auto* row = new QHBoxLayout(this);
  row->setContentsMargins(0, 0, 0, 0);
  row->setSpacing(6);
  words_ = new QLabel(this);
  words_->setObjectName(QStringLiteral("recordWords"));
  words_->setWordWrap(true);
  row->addWidget(words_, 1);
  after_ = new QWidget(this);
  auto* inside = new QHBoxLayout(after_);
  inside->setContentsMargins(0, 0, 0, 0);
  inside->setSpacing(4);
  row->addWidget(after_);
  const auto label = [&](const QString& words) {
    auto* made = new QLabel(words, after_);
    made->setObjectName(QStringLiteral("muted"));
    inside->addWidget(made);
  };
  label(tr("Smooth"));
  near_ = new QSlider(Qt::Horizontal, after_);
  near_->setObjectName(QStringLiteral("recordNear"));
  near_->setRange(0, kSteps);
  near_->setMinimumWidth(64);
  near_->setAccessibleName(tr("How much smoother than the hand"));
  near_->setToolTip(tr("Left: as near to the hand as can be. Right: as few keyframes as can be"));
  inside->addWidget(near_);
  label(text(kLaps.label));
  laps_ = new NumberField(kLaps, after_);
  laps_->setObjectName(QStringLiteral("recordLaps"));
  laps_->setFixedWidth(36);
  laps_->setAccessibleName(tr("Laps of what was recorded"));
  laps_->setToolTip(text(kLaps.help));
  inside->addWidget(laps_);
  auto* done = new QPushButton(tr("Done"), this);
  done->setObjectName(QStringLiteral("recordDone"));
  row->addWidget(done);
  connect(near_, &QSlider::valueChanged, this, &RecordStrip::refine);
  connect(laps_, &NumberField::moved, this, &RecordStrip::refine);
  connect(done, &QPushButton::clicked, this, [this] { recorder_.armed() ? recorder_.arm(false) : recorder_.finish(); });
  connect(&recorder, &Recorder::changed, this, &RecordStrip::refresh);
  refresh();
}

void RecordStrip::refine() { recorder_.refine(static_cast<int>(laps_->value()), toleranceAt(near_->value())); }

void RecordStrip::refresh() {
  const auto& take = recorder_.take();
  setVisible(recorder_.armed() || take);
  after_->setVisible(take.has_value());
  findChild<QPushButton*>(QStringLiteral("recordDone"))->setText(take ? tr("Done") : tr("Cancel"));
  if (!take) return words_->setText(tr("Now drag a value, or the layer in the picture, while the loop goes round"));
  words_->setText(tr("%n keyframe(s), %1 % off at most", nullptr, static_cast<int>(take->keys)).arg(text(numberText(take->off * 100, 1))));
  const QSignalBlocker quiet(near_);
  near_->setValue(stepOf(take->tolerance));
  laps_->setValue(take->laps);
}

}  // namespace oa::app
