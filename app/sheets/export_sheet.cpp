#include "sheets/export_sheet.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QRegularExpression>
#include <QSpinBox>
#include <QStandardPaths>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {

ExportSheet::ExportSheet(Document& document, QWidget* parent) : Sheet(tr("Export"), parent), document_(document) {
  format_ = new QComboBox(this);
  format_->setObjectName(QStringLiteral("format"));
  format_->addItem(tr("MP4 video, opens everywhere"));
  format_->addItem(tr("WebM video, also see-through"));
  format_->addItem(tr("GIF, for slides and pages"));
  format_->addItem(tr("PNG pictures, numbered"));
  addLine(tr("As"), format_);
  size_ = new QComboBox(this);
  size_->setObjectName(QStringLiteral("size"));
  addLine(tr("Size"), size_);
  loops_ = new QSpinBox(this);
  loops_->setObjectName(QStringLiteral("loops"));
  loops_->setRange(1, 10000);
  loops_->setButtonSymbols(QAbstractSpinBox::NoButtons);
  loops_->setToolTip(tr("The loop this many times, one after the other without a joint; it is rendered only once"));
  addLine(tr("Loops"), loops_);
  alpha_ = new QCheckBox(tr("Keep transparency"), this);
  alphaLine_ = addLine(QString(), alpha_);
  bits_ = new QComboBox(this);
  bits_->addItems({tr("8 bits a channel"), tr("16 bits a channel")});
  bitsLine_ = addLine(tr("Depth"), bits_);
  dither_ = new QComboBox(this);
  dither_->addItems({tr("None, flat areas"), tr("Pattern, does not crawl"), tr("Diffusion, smoothest")});
  dither_->setCurrentIndex(1);
  ditherLine_ = addLine(tr("Dither"), dither_);
  path_ = new QLineEdit(this);
  path_->setObjectName(QStringLiteral("target"));
  path_->setAccessibleName(tr("File"));
  addLine(tr("File"), path_);
  browse_ = new QPushButton(tr("Choose…"), this);
  auto* pick = new QHBoxLayout();
  pick->addStretch(1);
  pick->addWidget(browse_);
  content()->addLayout(pick);
  summary_ = new QLabel(this);
  summary_->setObjectName(QStringLiteral("muted"));
  addNote(summary_);
  bar_ = new QProgressBar(this);
  bar_->setTextVisible(false);
  bar_->setVisible(false);
  content()->addWidget(bar_);
  message_ = new QLabel(this);
  message_->setObjectName(QStringLiteral("exportMessage"));
  message_->setAccessibleName(tr("State of the export"));
  message_->setTextInteractionFlags(Qt::TextSelectableByMouse);
  addNote(message_);
  auto* buttons = new QHBoxLayout();
  cancel_ = new QPushButton(tr("Cancel"), this);
  cancel_->setObjectName(QStringLiteral("cancelExport"));
  cancel_->setVisible(false);
  start_ = new QPushButton(tr("Export"), this);
  start_->setObjectName(QStringLiteral("primary"));
  buttons->addStretch(1);
  buttons->addWidget(cancel_);
  buttons->addWidget(start_);
  content()->addLayout(buttons);
  content()->addStretch(1);
  connect(format_, &QComboBox::currentIndexChanged, this, &ExportSheet::formatChanged);
  connect(size_, &QComboBox::currentIndexChanged, this, &ExportSheet::describe);
  connect(loops_, &QSpinBox::valueChanged, this, &ExportSheet::describe);
  connect(alpha_, &QCheckBox::toggled, this, &ExportSheet::describe);
  connect(browse_, &QPushButton::clicked, this, &ExportSheet::browse);
  connect(start_, &QPushButton::clicked, this, &ExportSheet::start);
  connect(cancel_, &QPushButton::clicked, this, &ExportSheet::cancel);
  connect(this, &ExportSheet::progressed, this, &ExportSheet::showProgress, Qt::QueuedConnection);
  connect(this, &ExportSheet::finished, this, &ExportSheet::showEnd, Qt::QueuedConnection);
  const auto refreshSizes = [this] {
    const Scene& s = document_.scene();
    const int kept = std::max(0, size_->currentIndex());
    size_->blockSignals(true);
    size_->clear();
    for (const double f : {1.0, 0.5, 0.25, 2.0}) {
      const int w = static_cast<int>(std::lround(s.width * f));
      const int h = static_cast<int>(std::lround(s.height * f));
      if (w >= 1 && h >= 1 && w <= kMaxFrameSize && h <= kMaxFrameSize)
        size_->addItem(QStringLiteral("%1 × %2%3").arg(w).arg(h).arg(f == 1 ? tr("  as the scene") : QString()), QSize(w, h));
    }
    size_->setCurrentIndex(std::min(kept, size_->count() - 1));
    size_->blockSignals(false);
    alpha_->setChecked(!s.background);
    describe();
  };
  connect(&document, &Document::changed, this, refreshSizes);
  refreshSizes();
  formatChanged();
}

ExportSheet::~ExportSheet() {
  stop_ = true;
  if (thread_.joinable()) thread_.join();
}

ExportFormat ExportSheet::format() const { return static_cast<ExportFormat>(format_->currentIndex()); }

void ExportSheet::setTarget(const QString& path) { path_->setText(path); }

void ExportSheet::formatChanged() {
  const ExportFormat f = format();
  alphaLine_->setVisible(formatHasAlpha(f));
  bitsLine_->setVisible(f == ExportFormat::Png);
  ditherLine_->setVisible(f == ExportFormat::Gif);
  QString folder = QStandardPaths::writableLocation(QStandardPaths::MoviesLocation);
  if (folder.isEmpty()) folder = QDir::homePath();
  QString name = text(document_.scene().name).toLower().simplified();
  name.replace(QRegularExpression(QStringLiteral("[^\\w-]+"), QRegularExpression::UseUnicodePropertiesOption), QStringLiteral("-"));
  if (name.isEmpty()) name = QStringLiteral("loop");
  if (!path_->text().isEmpty()) {
    const QFileInfo old(path_->text());
    folder = old.path();
    name = old.completeBaseName().remove(QStringLiteral("_%04d"));
  }
  path_->setText(folder + QLatin1Char('/') + name + (f == ExportFormat::Png ? QStringLiteral("_%04d") : QString()) + text(formatSuffix(f)));
  describe();
}

void ExportSheet::browse() {
  const QString picked = QFileDialog::getSaveFileName(this, tr("Export to"), path_->text(), tr("*%1").arg(text(formatSuffix(format()))));
  if (!picked.isEmpty()) path_->setText(picked);
}

void ExportSheet::describe() {
  const Scene& s = document_.scene();
  const double seconds = s.seconds() * loops_->value();
  QString line = tr("%1 frames, %2 s; frame %3 is frame 0 again and is not written twice.")
                     .arg(static_cast<qint64>(s.frames) * loops_->value())
                     .arg(text(numberText(seconds, 2)))
                     .arg(s.frames);
  if (format() == ExportFormat::Mp4 && !s.background) line += tr(" MP4 has no transparency: what is clear becomes black.");
  summary_->setText(line);
}

void ExportSheet::setBusy(bool busy) {
  bar_->setVisible(busy);
  cancel_->setVisible(busy);
  start_->setEnabled(!busy);
  for (QWidget* w : std::initializer_list<QWidget*>{format_, size_, loops_, path_, browse_, alpha_, bits_, dither_}) w->setEnabled(!busy);
}

void ExportSheet::start() {
  if (running()) return;
  ExportSettings settings;
  settings.format = format();
  settings.path = path_->text().trimmed().toStdString();
  const QSize size = size_->currentData().toSize();
  settings.width = size.width();
  settings.height = size.height();
  settings.loops = loops_->value();
  settings.alpha = alpha_->isChecked() && formatHasAlpha(settings.format);
  settings.pngBits = bits_->currentIndex() == 1 ? 16 : 8;
  settings.gifDither = static_cast<GifDither>(dither_->currentIndex());
  stop_ = false;
  message_->setStyleSheet(QString());
  message_->setText(tr("Getting ready…"));
  bar_->setRange(0, 0);
  setBusy(true);
  thread_ = std::thread([this, settings, scene = document_.scene()] {
    const auto result = exportScene(scene, settings, [this](const ExportProgress& p) {
      Q_EMIT progressed(p.done, p.total, p.secondsLeft);
      return !stop_;
    });
    if (!result)
      Q_EMIT finished(false, tr("Not exported: %1.").arg(text(result.error().sentence())));
    else if (result->cancelled)
      Q_EMIT finished(true, tr("Cancelled. Nothing was left behind."));
    else
      Q_EMIT finished(true,
                      tr("Done: %1 frames in %2.").arg(result->frames).arg(text(settings.path)) +
                          (result->note.empty() ? QString() : QStringLiteral(" ") + tr("Note: ") + text(result->note) + QLatin1Char('.')));
  });
}

void ExportSheet::cancel() { stop_ = true; }

void ExportSheet::showProgress(int done, int total, double secondsLeft) {
  bar_->setRange(0, total);
  bar_->setValue(done);
  QString line = tr("%1 of %2 frames").arg(done).arg(total);
  if (secondsLeft >= 0)
    line += secondsLeft < 60 ? tr(", about %1 s left").arg(std::lround(secondsLeft))
                             : tr(", about %1 min left").arg(std::lround(secondsLeft / 60));
  message_->setText(line);
}

void ExportSheet::showEnd(bool ok, const QString& message) {
  if (thread_.joinable()) thread_.join();
  setBusy(false);
  message_->setStyleSheet(ok ? QString() : QStringLiteral("color: %1;").arg(Theme::now().persimmon.name()));
  message_->setText(message);
}

}  // namespace oa::app
