#include "widgets/rate_dialog.h"

#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

#include "edit/rhythms.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {
namespace {

Result<LapsFit> fitOf(const Document& document, const ParamAddress& at, const QString& words) {
  const Scene& scene = document.scene();
  const auto rate = rateFromText(words.toStdString(), scene.bar);
  if (!rate) return tl::unexpected(rate.error());
  const Param& param = document.param(at);
  const Motion& motion = motionOf(param, static_cast<std::size_t>(at.motion));
  return lapsFor(*rate, scene.frames, scene.rate, edit::wayOfLap(scene, document.spec(at), param, motion), scene.beats, kMaxLaps);
}

}  // namespace

RateDialog::RateDialog(Document& document, const ParamAddress& at, QWidget* parent) : QDialog(parent), document_(document), at_(at) {
  setObjectName(QStringLiteral("rateDialog"));
  setWindowTitle(tr("How fast: %1").arg(text(document.spec(at).label).toLower()));
  auto* column = new QVBoxLayout(this);
  column->setContentsMargins(18, 14, 18, 14);
  column->setSpacing(10);
  rate_ = new QLineEdit(this);
  rate_->setObjectName(QStringLiteral("rate"));
  rate_->setAccessibleName(tr("Speed"));
  rate_->setPlaceholderText(tr("2 s,  1 turn in 40 s,  120 px/s,  12/min,  4 beats"));
  rate_->setMinimumWidth(340);
  const int now = std::abs(motionOf(document.param(at), static_cast<std::size_t>(at.motion)).laps);
  rate_->setText(tr("%1 s").arg(text(numberText(edit::periodOf(document.scene(), now), 3))));
  rate_->selectAll();
  column->addWidget(rate_);
  says_ = new QLabel(this);
  says_->setObjectName(QStringLiteral("rateSays"));
  says_->setWordWrap(true);
  says_->setMinimumHeight(38);
  says_->setAlignment(Qt::AlignTop | Qt::AlignLeft);
  column->addWidget(says_);
  auto* row = new QHBoxLayout();
  auto* leave = new QPushButton(tr("Cancel"), this);
  connect(leave, &QPushButton::clicked, this, &QDialog::reject);
  loop_ = new QPushButton(this);
  loop_->setObjectName(QStringLiteral("changeLoop"));
  loop_->setAutoDefault(false);
  connect(loop_, &QPushButton::clicked, this, [this] { take(true); });
  laps_ = new QPushButton(this);
  laps_->setObjectName(QStringLiteral("primary"));
  laps_->setDefault(true);
  connect(laps_, &QPushButton::clicked, this, [this] { take(false); });
  leave->setAutoDefault(false);
  row->addWidget(leave);
  row->addStretch(1);
  row->addWidget(loop_);
  row->addWidget(laps_);
  column->addLayout(row);
  connect(rate_, &QLineEdit::textChanged, this, &RateDialog::refresh);
  refresh();
}

void RateDialog::refresh() {
  const auto fit = fitOf(document_, at_, rate_->text());
  laps_->setEnabled(fit.has_value());
  laps_->setText(fit ? (fit->laps == 1 ? tr("One lap") : tr("%1 laps").arg(fit->laps)) : tr("Set the laps"));
  const Scene& scene = document_.scene();
  loop_->setVisible(fit && fit->frames != scene.frames && fit->frames <= kMaxFrames);
  if (!fit) {
    QString sentence = text(fit.error().sentence());
    sentence[0] = sentence[0].toUpper();
    return says_->setText(sentence + QLatin1Char('.'));
  }
  loop_->setText(tr("Make the loop %1 s").arg(text(numberText(static_cast<double>(fit->frames) / scene.rate.value(), 3))));
  const QString lap = tr("A lap takes %1 s").arg(text(numberText(fit->seconds, 3)));
  const double percent = std::round(std::abs(fit->off) * 1000) / 10;
  says_->setText(std::abs(fit->off) < 1e-9
                     ? tr("%1, just as wanted.").arg(lap)
                     : tr("%1: %2 % %3 than wanted, so that it comes home.")
                           .arg(lap, text(numberText(std::max(0.1, percent), 1)), fit->off > 0 ? tr("slower") : tr("faster")));
}

void RateDialog::take(bool changeLoop) {
  const auto fit = fitOf(document_, at_, rate_->text());
  if (!fit) return;
  const auto which = static_cast<std::size_t>(at_.motion);
  document_.edit(tr("%1: how fast").arg(document_.labelOf(at_)), {}, [&](Scene& scene) {
    Motion& motion = motionOf(Document::param(scene, at_), which);
    motion.laps = motion.laps < 0 ? -fit->laps : fit->laps;
    if (changeLoop) scene.frames = static_cast<int>(fit->frames);
  });
  accept();
}

}  // namespace oa::app
