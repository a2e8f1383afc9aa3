#include "sheets/export_sheet.h"

#include <QAbstractButton>
#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
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

ExportSheet::ExportSheet(Document& document, QWidget* parent) : Sheet(tr("Export"), "export", parent), document_(document) {
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
  loopsLine_ = addLine(tr("Loops"), loops_);
  plays_ = new QSpinBox(this);
  plays_->setObjectName(QStringLiteral("plays"));
  plays_->setRange(0, 10000);
  plays_->setSpecialValueText(tr("for ever"));
  plays_->setButtonSymbols(QAbstractSpinBox::NoButtons);
  plays_->setToolTip(tr("How often the loop is shown; 0 is for ever. The file is as large either way"));
  playsLine_ = addLine(tr("Shown"), plays_);
  alpha_ = new QCheckBox(tr("Keep transparency"), this);
  alpha_->setObjectName(QStringLiteral("alpha"));
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
    // The user's choice stays until the scene itself becomes clear or opaque.
    if (const bool clear = hasTransparency(s); clear != clear_) {
      clear_ = clear;
      alpha_->setChecked(clear);
    }
    suggestName();
    describe();
  };
  connect(&document, &Document::changed, this, refreshSizes);
  connect(&document, &Document::fileChanged, this, &ExportSheet::suggestName);
  connect(path_, &QLineEdit::textEdited, this, [this] { named_ = true; });
  refreshSizes();
  formatChanged();
}

ExportSheet::~ExportSheet() {
  stop_ = true;
  if (thread_.joinable()) thread_.join();
}

ExportFormat ExportSheet::format() const { return static_cast<ExportFormat>(format_->currentIndex()); }

void ExportSheet::formatChanged() {
  const ExportFormat f = format();
  alphaLine_->setVisible(formatHasAlpha(f));
  bitsLine_->setVisible(f == ExportFormat::Png);
  ditherLine_->setVisible(f == ExportFormat::Gif);
  playsLine_->setVisible(f == ExportFormat::Gif);
  loopsLine_->setVisible(f != ExportFormat::Gif);
  if (named_) {
    const QFileInfo old(path_->text());
    setName(old.path(), old.completeBaseName().remove(QStringLiteral("_%04d")));
  } else {
    suggestName();
  }
  describe();
}

void ExportSheet::setName(const QString& folder, const QString& name) {
  const ExportFormat f = format();
  path_->setText(folder + QLatin1Char('/') + name + (f == ExportFormat::Png ? QStringLiteral("_%04d") : QString()) + text(formatSuffix(f)));
}

// The scene's name, beside the scene's file or with the user's films, until another one is given.
void ExportSheet::suggestName() {
  if (named_) return;
  QString folder = QFileInfo(document_.path()).path();
  if (document_.path().isEmpty()) folder = QStandardPaths::writableLocation(QStandardPaths::MoviesLocation);
  if (folder.isEmpty()) folder = QDir::homePath();
  QString name = text(document_.scene().name).toLower().simplified();
  static const QRegularExpression others(QStringLiteral("[^\\w-]+"), QRegularExpression::UseUnicodePropertiesOption);
  name.replace(others, QStringLiteral("-"));
  while (name.endsWith(QLatin1Char('-'))) name.chop(1);
  setName(folder, name.isEmpty() ? QStringLiteral("loop") : name);
}

void ExportSheet::browse() {
  const QString picked = QFileDialog::getSaveFileName(this, tr("Export to"), path_->text(), tr("*%1").arg(text(formatSuffix(format()))));
  if (picked.isEmpty()) return;
  path_->setText(picked);
  named_ = true;
  asked_ = picked;  // the chooser has asked whether it may be replaced
}

void ExportSheet::describe() {
  const Scene& s = document_.scene();
  const int loops = format() == ExportFormat::Gif ? 1 : loops_->value();
  const double seconds = s.seconds() * loops;
  QString line = tr("%1 frames, %2 s; frame %3 is frame 0 again and is not written twice.")
                     .arg(static_cast<qint64>(s.frames) * loops)
                     .arg(text(numberText(seconds, 2)))
                     .arg(s.frames);
  if (format() == ExportFormat::Gif && s.rate.value() > 50) line += tr(" A GIF shows 50 pictures a second at most: frames are left out.");
  if (format() == ExportFormat::Mp4 && hasTransparency(s)) line += tr(" MP4 has no transparency: what is clear becomes black.");
  summary_->setText(line);
}

void ExportSheet::setBusy(bool busy) {
  bar_->setVisible(busy);
  cancel_->setVisible(busy);
  start_->setEnabled(!busy);
  for (QWidget* w : std::initializer_list<QWidget*>{format_, size_, loops_, plays_, path_, browse_, alpha_, bits_, dither_})
    w->setEnabled(!busy);
}

void ExportSheet::start() {
  if (running()) return;
  ExportSettings settings;
  settings.format = format();
  settings.path = path_->text().trimmed().toStdString();
  const QSize size = size_->currentData().toSize();
  settings.width = size.width();
  settings.height = size.height();
  settings.loops = settings.format == ExportFormat::Gif ? 1 : loops_->value();
  settings.plays = settings.format == ExportFormat::Gif ? plays_->value() : 0;
  settings.alpha = alpha_->isChecked() && formatHasAlpha(settings.format);
  settings.bits = bits_->currentIndex() == 1 ? 16 : 8;
  settings.gifDither = static_cast<GifDither>(dither_->currentIndex());
  if (path_->text() != asked_ && exportReplaces(settings)) {
    QMessageBox box(QMessageBox::Question, tr("Replace what is there?"),
                    settings.format == ExportFormat::Png
                        ? tr("There are pictures of these names already. Replace them?")
                        : tr("“%1” is there already. Replace it?").arg(QFileInfo(path_->text()).fileName()),
                    QMessageBox::Yes | QMessageBox::Cancel, this);
    box.button(QMessageBox::Yes)->setText(tr("Replace"));
    box.setDefaultButton(QMessageBox::Cancel);
    if (box.exec() != QMessageBox::Yes) return;
  }
  asked_.clear();
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

void ExportSheet::showProgress(qint64 done, qint64 total, double secondsLeft) {
  // A bar counts in ints; a thousand steps are more than it has pixels.
  bar_->setRange(0, 1000);
  bar_->setValue(static_cast<int>(total > 0 ? done * 1000 / total : 0));
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
