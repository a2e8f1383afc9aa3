#include "sheets/export_sheet.h"

#include <QAbstractButton>
#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QDoubleSpinBox>
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

#include "model/heard.h"
#include "model/player.h"
#include "scene/run.h"
#include "widgets/text.h"
#include "widgets/theme.h"

namespace oa::app {

ExportSheet::ExportSheet(Document& document, Player& player, QWidget* parent)
    : Sheet(tr("Export"), "export", parent), document_(document), player_(player) {
  format_ = new QComboBox(this);
  format_->setObjectName(QStringLiteral("format"));
  for (const FormatSpec& spec : exportFormats()) {
    format_->addItem(text(spec.title), static_cast<int>(spec.format));
    format_->setItemData(format_->count() - 1, text(spec.use), Qt::ToolTipRole);
  }
  format_->setMaxVisibleItems(format_->count());
  addLine(tr("As"), format_);
  use_ = new QLabel(this);
  use_->setObjectName(QStringLiteral("muted"));
  addNote(use_);
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
  bits_->setObjectName(QStringLiteral("bits"));
  bitsLine_ = addLine(tr("Depth"), bits_);
  dither_ = new QComboBox(this);
  dither_->addItems({tr("None, flat areas"), tr("Pattern, does not crawl"), tr("Diffusion, smoothest")});
  dither_->setCurrentIndex(1);
  ditherLine_ = addLine(tr("Dither"), dither_);
  quality_ = new QComboBox(this);
  quality_->setObjectName(QStringLiteral("quality"));
  quality_->addItems({tr("Quick, larger file"), tr("Smaller file"), tr("Good"), tr("Best, largest file")});
  quality_->setCurrentIndex(static_cast<int>(ExportQuality::Good));
  qualityLine_ = addLine(tr("Quality"), quality_);
  limit_ = new QDoubleSpinBox(this);
  limit_->setObjectName(QStringLiteral("limit"));
  limit_->setRange(0, 1e6);
  limit_->setDecimals(1);
  limit_->setSpecialValueText(tr("no limit"));
  limit_->setPrefix(tr("at most "));
  limit_->setSuffix(tr(" MB"));
  limit_->setButtonSymbols(QAbstractSpinBox::NoButtons);
  limit_->setToolTip(tr("The file is made again with fewer bits until it fits; a megabyte is a million bytes"));
  limitLine_ = addLine(tr("File size"), limit_);
  sound_ = new QCheckBox(tr("With its sound"), this);
  sound_->setObjectName(QStringLiteral("withSound"));
  sound_->setChecked(true);
  soundLine_ = addLine(QString(), sound_);
  part_ = new QComboBox(this);
  part_->setObjectName(QStringLiteral("part"));
  for (const auto& [name, part] : std::initializer_list<std::pair<QString, RunPart>>{{tr("All: arrive, loop, leave"), RunPart::Run},
                                                                                     {tr("The loop alone"), RunPart::Loop},
                                                                                     {tr("What arrives"), RunPart::Arrive},
                                                                                     {tr("What leaves"), RunPart::Leave}})
    part_->addItem(name, static_cast<int>(part));
  part_->setToolTip(tr("The run as a whole, or a part of it for programs that repeat the middle by themselves"));
  partLine_ = addLine(tr("Part"), part_);
  run_ = new QComboBox(this);
  run_->setObjectName(QStringLiteral("lastLap"));
  run_->addItems({tr("cut where it ends"), tr("whole, its speed a little changed")});
  run_->setToolTip(
      tr("What does not loop sets the length: the last lap is cut there, or footage plays so much slower or faster that it is whole"));
  runLine_ = addLine(tr("Last lap"), run_);
  own_ = new QCheckBox(tr("Keep the footage's sound"), this);
  own_->setObjectName(QStringLiteral("footageSound"));
  ownLine_ = addLine(QString(), own_);
  poster_ = new QCheckBox(tr("First frame as a picture too"), this);
  poster_->setObjectName(QStringLiteral("poster"));
  posterLine_ = addLine(QString(), poster_);
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
  sample_ = new QPushButton(tr("Try two seconds"), this);
  sample_->setObjectName(QStringLiteral("sample"));
  sample_->setToolTip(
      tr("Two seconds from where the loop stands now, made just like the whole and opened, with what the whole would weigh"));
  start_ = new QPushButton(tr("Export"), this);
  start_->setObjectName(QStringLiteral("primary"));
  buttons->addWidget(sample_);
  buttons->addStretch(1);
  buttons->addWidget(cancel_);
  buttons->addWidget(start_);
  content()->addLayout(buttons);
  content()->addStretch(1);
  connect(format_, &QComboBox::currentIndexChanged, this, &ExportSheet::formatChanged);
  connect(size_, &QComboBox::currentIndexChanged, this, &ExportSheet::describe);
  connect(loops_, &QSpinBox::valueChanged, this, &ExportSheet::describe);
  connect(part_, &QComboBox::activated, this, &ExportSheet::describe);
  connect(alpha_, &QCheckBox::toggled, this, &ExportSheet::describe);
  connect(browse_, &QPushButton::clicked, this, &ExportSheet::browse);
  connect(start_, &QPushButton::clicked, this, &ExportSheet::start);
  connect(sample_, &QPushButton::clicked, this, &ExportSheet::trySample);
  connect(run_, &QComboBox::activated, this,
          [this](int i) { document_.edit(tr("last lap"), {}, [&](Scene& scene) { scene.run.wholeLaps = i == 1; }); });
  connect(own_, &QCheckBox::clicked, this,
          [this](bool on) { document_.edit(tr("sound of the footage"), {}, [&](Scene& scene) { scene.run.keepsSound = on; }); });
  connect(&document.heard(), &Heard::changed, this, &ExportSheet::showLines);
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

namespace {

QString weight(double bytes) {
  return bytes < 1e6 ? ExportSheet::tr("%1 kB").arg(std::lround(bytes / 1e3))
                     : ExportSheet::tr("%1 MB").arg(bytes / 1e6, 0, 'f', bytes < 1e7 ? 1 : 0);
}

}  // namespace

ExportSheet::~ExportSheet() {
  stop_ = true;
  if (thread_.joinable()) thread_.join();
}

ExportFormat ExportSheet::format() const { return static_cast<ExportFormat>(format_->currentData().toInt()); }

// Only what the format, and the scene, has to say anything about.
void ExportSheet::showLines() {
  const FormatSpec& spec = formatSpec(format());
  const Scene& scene = document_.scene();
  const RunLength run = runOf(scene);
  use_->setText(text(spec.use));
  alphaLine_->setVisible(spec.alpha);
  bitsLine_->setVisible(spec.deep > 8);
  if (const QList<int> wanted = spec.deep > 8 ? QList<int>{8, spec.deep} : QList<int>{8};
      bits_->property("has") != QVariant::fromValue(wanted)) {
    bits_->setProperty("has", QVariant::fromValue(wanted));
    bits_->clear();
    for (const int bits : wanted) bits_->addItem(tr("%1 bits a channel").arg(bits), bits);
  }
  ditherLine_->setVisible(spec.format == ExportFormat::Gif);
  playsLine_->setVisible(spec.plays);
  partLine_->setVisible(passes(withoutStandIns(scene)));
  loopsLine_->setVisible(!spec.plays && run.seconds <= 0 && part() == RunPart::Loop);
  qualityLine_->setVisible(spec.sized || spec.format == ExportFormat::WebP || spec.format == ExportFormat::Page);
  limitLine_->setVisible(spec.sized);
  soundLine_->setVisible(spec.sound && static_cast<bool>(document_.heard().sound()));
  posterLine_->setVisible(spec.movie());
  runLine_->setVisible(run.seconds > 0);
  run_->setCurrentIndex(scene.run.wholeLaps ? 1 : 0);
  ownLine_->setVisible(document_.plan().runs());
  own_->setChecked(scene.run.keepsSound);
}

RunPart ExportSheet::part() const {
  return passes(withoutStandIns(document_.scene())) ? static_cast<RunPart>(part_->currentData().toInt()) : RunPart::Loop;
}

void ExportSheet::formatChanged() {
  showLines();
  if (named_) {
    const QFileInfo old(path_->text());
    setName(old.path(), old.completeBaseName().remove(QStringLiteral("_%04d")));
  } else {
    suggestName();
  }
  describe();
}

ExportSettings ExportSheet::settings() const {
  ExportSettings settings;
  const FormatSpec& spec = formatSpec(format());
  settings.format = spec.format;
  settings.path = path_->text().trimmed().toStdString();
  const QSize size = size_->currentData().toSize();
  settings.width = size.width();
  settings.height = size.height();
  settings.part = part();
  settings.loops = spec.plays || settings.part != RunPart::Loop || runOf(document_.scene()).seconds > 0 ? 1 : loops_->value();
  settings.plays = spec.plays ? plays_->value() : 0;
  settings.alpha = alpha_->isChecked() && spec.alpha;
  settings.bits = std::max(8, bits_->currentData().toInt());
  settings.gifDither = static_cast<GifDither>(dither_->currentIndex());
  settings.quality = static_cast<ExportQuality>(quality_->currentIndex());
  settings.megabytes = spec.sized ? limit_->value() : 0;
  settings.sound = sound_->isChecked();
  settings.poster = spec.movie() && poster_->isChecked();
  return settings;
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
  const Scene s = withoutStandIns(document_.scene());
  showLines();
  const FormatSpec& spec = formatSpec(format());
  const RunLength run = runOf(s);
  if (const RunPart which = part(); which != RunPart::Loop) {
    const RunSpan span = spanOf(s, run, which);
    const auto seconds = [&](std::int64_t frames) { return text(numberText(static_cast<double>(frames) / s.rate.value(), 2)); };
    summary_->setText(which == RunPart::Run ? tr("%1 frames, %2 s: %3 s to arrive, %4 s of the loop, %5 s to leave.")
                                                  .arg(span.count)
                                                  .arg(seconds(span.count), seconds(run.arrive), seconds(run.loop), seconds(run.leave))
                                            : tr("%1 frames, %2 s.").arg(span.count).arg(seconds(span.count)));
    return;
  }
  if (run.seconds > 0) {
    const double laps = static_cast<double>(run.loop) / s.frames;
    summary_->setText(tr("As long as what does not loop: %1 frames, %2 s, %3 laps of the loop.")
                          .arg(run.loop)
                          .arg(text(numberText(static_cast<double>(run.loop) / s.rate.value(), 2)), text(numberText(laps, 2))));
    return;
  }
  const int loops = spec.plays ? 1 : loops_->value();
  QString line = tr("%1 frames, %2 s; frame %3 is frame 0 again and is not written twice.")
                     .arg(static_cast<qint64>(s.frames) * loops)
                     .arg(text(numberText(s.seconds() * loops, 2)))
                     .arg(s.frames);
  if (format() == ExportFormat::Gif && s.rate.value() > 50) line += tr(" A GIF shows 50 pictures a second at most: frames are left out.");
  if (spec.movie() && !spec.alpha && hasTransparency(s)) line += tr(" This format has no transparency: what is clear becomes black.");
  summary_->setText(line);
}

void ExportSheet::setBusy(bool busy) {
  bar_->setVisible(busy);
  cancel_->setVisible(busy);
  start_->setEnabled(!busy);
  sample_->setEnabled(!busy);
  for (QWidget* w : std::initializer_list<QWidget*>{format_, part_, size_, loops_, plays_, path_, browse_, alpha_, bits_, dither_, quality_,
                                                    limit_, sound_, run_, own_, poster_})
    w->setEnabled(!busy);
}

void ExportSheet::start() {
  if (running()) return;
  const ExportSettings settings = this->settings();
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
  begin(settings, [this, settings](const ExportResult& result) {
    Q_EMIT finished(true,
                    tr("Done: %1 frames in %2.").arg(result.frames).arg(text(settings.path)) +
                        (result.note.empty() ? QString() : QStringLiteral(" ") + tr("Note: ") + text(result.note) + QLatin1Char('.')));
  });
}

void ExportSheet::begin(const ExportSettings& settings, std::function<void(const ExportResult&)> done) {
  stop_ = false;
  message_->setStyleSheet(QString());
  message_->setText(tr("Getting ready…"));
  bar_->setRange(0, 0);
  setBusy(true);
  thread_ = std::thread([this, settings, done = std::move(done), scene = document_.scene()] {
    const auto result = exportScene(scene, settings, [this](const ExportProgress& p) {
      Q_EMIT progressed(p.done, p.total, p.secondsLeft);
      return !stop_;
    });
    if (!result)
      Q_EMIT finished(false, tr("Not exported: %1.").arg(text(result.error().sentence())));
    else if (result->cancelled)
      Q_EMIT finished(true, tr("Cancelled. Nothing was left behind."));
    else
      done(*result);
  });
}

// The two seconds lie in a folder of the program's own, which goes with it.
void ExportSheet::trySample() {
  if (running()) return;
  if (!samples_) samples_ = std::make_unique<QTemporaryDir>();
  if (!samples_->isValid()) return showEnd(false, tr("Not tried: %1.").arg(samples_->errorString()));
  ExportSettings sample = settings();
  const Scene& scene = document_.scene();
  const auto frames = static_cast<std::int64_t>(std::ceil(2 * scene.rate.value()));
  const RunLength run = runOf(scene);
  const RunSpan span = spanOf(scene, run, sample.part);
  const std::int64_t whole = span.count * sample.loops;
  sample.part = RunPart::Loop;
  const std::int64_t most = run.seconds > 0 ? run.frames() : scene.frames;
  sample.range = std::pair(std::int64_t{player_.frame()}, player_.frame() + std::min<std::int64_t>(frames, most) - 1);
  // As many bits for a second as the whole may have.
  const double seconds = static_cast<double>(whole) / scene.rate.value();
  if (sample.megabytes > 0) {
    sample.megabytes *= std::min(1.0, 2 / seconds);
  }
  sample.loops = 1;
  sample.poster = false;
  const QString folder = samples_->filePath(QString::number(++tried_));
  QDir().mkpath(folder);
  const QString name = folder + QStringLiteral("/sample") + (sample.format == ExportFormat::Png ? QStringLiteral("_%04d") : QString()) +
                       text(formatSuffix(sample.format));
  sample.path = name.toStdString();
  begin(sample, [this, folder, name, whole](const ExportResult& result) {
    qint64 bytes = 0;
    for (const QFileInfo& file : QDir(folder).entryInfoList(QDir::Files)) bytes += file.size();
    const double all =
        static_cast<double>(bytes) * static_cast<double>(whole) / static_cast<double>(std::max<std::int64_t>(1, result.frames));
    Q_EMIT sampled(result.frames == 1 || !name.contains(QLatin1Char('%')) ? name : folder);
    Q_EMIT finished(true, tr("A sample of %1; all of it would be about %2.").arg(weight(static_cast<double>(bytes)), weight(all)));
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
