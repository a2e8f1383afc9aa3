#include "sheets/sound_sheet.h"

#include <QCheckBox>
#include <QDateTime>
#include <QFileDialog>
#include <QFileInfo>
#include <QLabel>
#include <QLocale>
#include <QMouseEvent>
#include <QPainter>
#include <QPushButton>
#include <QSpinBox>
#include <QStandardPaths>
#include <QToolButton>
#include <QVBoxLayout>
#include <cmath>

#include "model/background.h"
#include "model/heard.h"
#include "model/media_watch.h"
#include "sound/track_sound.h"
#include "store/media_store.h"
#include "widgets/number_field.h"
#include "widgets/text.h"
#include "widgets/theme.h"
#include "widgets/wave_drawing.h"

namespace oa::app {

// The whole file, with the loop's stretch in it, which is dragged along.
class WaveStrip : public QWidget {
 public:
  WaveStrip(Document& document, Heard& heard, QWidget* parent) : QWidget(parent), document_(document), heard_(heard) {
    setFixedHeight(64);
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::SizeHorCursor);
    setObjectName(QStringLiteral("waveStrip"));
    setAccessibleName(SoundSheet::tr("Where in the sound the loop lies"));
    setToolTip(SoundSheet::tr("Drag the loop along the sound; the arrow keys move it by a tenth of a second, with Shift by one"));
  }

 protected:
  void paintEvent(QPaintEvent*) override {
    const Theme& t = Theme::now();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const QRectF box = QRectF(rect()).adjusted(0.75, 0.75, -0.75, -0.75);
    p.setPen(QPen(hasFocus() ? t.lagoon : t.line, hasFocus() ? 1.8 : 1));
    p.setBrush(t.card);
    p.drawRoundedRect(box, 6, 6);
    if (length() <= 0) return;
    const QRectF inside = box.adjusted(3, 4, -3, -4);
    drawWave(p, inside, heard_.whole(), t.muted);
    const SoundTrack& track = document_.scene().sound;
    const double from = track.number(SoundParam::From) / length();
    const double wide = track.toggle(SoundParam::Whole) ? 1 - from : document_.scene().seconds() / length();
    const QRectF stretch(inside.left() + from * inside.width(), box.top(), std::max(2.0, wide * inside.width()), box.height());
    p.save();
    p.setClipRect(stretch.intersected(box));
    p.fillRect(stretch, blendOf(t.card, t.lagoon, 0.16));
    drawWave(p, inside, heard_.whole(), t.lagoon);
    p.restore();
    p.setPen(QPen(t.persimmon, 1.6));
    p.drawLine(stretch.topLeft(), stretch.bottomLeft());
    if (stretch.right() < box.right()) p.drawLine(stretch.topRight(), stretch.bottomRight());
  }
  void mousePressEvent(QMouseEvent* event) override {
    if (event->button() != Qt::LeftButton || length() <= 0) return;
    grabbed_ = secondsAt(event->position().x()) - document_.scene().sound.number(SoundParam::From);
    // Pressed beside it, it comes to the pointer.
    if (grabbed_ < 0 || grabbed_ > document_.scene().seconds()) grabbed_ = document_.scene().seconds() / 2;
    dragged_ = true;
    moveTo(secondsAt(event->position().x()) - grabbed_);
  }
  void mouseMoveEvent(QMouseEvent* event) override {
    if (dragged_) moveTo(secondsAt(event->position().x()) - grabbed_);
  }
  void mouseReleaseEvent(QMouseEvent*) override {
    dragged_ = false;
    document_.endGesture();
  }
  void keyPressEvent(QKeyEvent* event) override {
    const int way = event->key() == Qt::Key_Left ? -1 : event->key() == Qt::Key_Right ? 1 : 0;
    if (way == 0 || length() <= 0) return QWidget::keyPressEvent(event);
    moveTo(document_.scene().sound.number(SoundParam::From) + way * (event->modifiers() & Qt::ShiftModifier ? 1.0 : 0.1));
    document_.endGesture();
  }

 private:
  [[nodiscard]] double length() const { return heard_.file() ? heard_.file()->seconds() : 0; }
  [[nodiscard]] double secondsAt(double x) const { return (x - 3) / std::max(1, width() - 6) * length(); }
  void moveTo(double seconds) {
    // The loop stays within the sound where it fits.
    const double most = std::max(0.0, length() - document_.scene().seconds());
    const double from = std::round(std::clamp(seconds, 0.0, most) * 1000) / 1000;
    document_.edit(SoundSheet::tr("move the sound"), QStringLiteral("sound/from"), [&](Scene& scene) {
      Param& param = scene.sound.at(SoundParam::From);
      param.base = param.motion.far = from;
    });
  }

  Document& document_;
  Heard& heard_;
  double grabbed_ = 0;
  bool dragged_ = false;
};

namespace {

bool shorter(const Scene& scene) {
  const SoundTrack& track = scene.sound;
  return !track.toggle(SoundParam::Whole) && track.file().seconds - track.number(SoundParam::From) < scene.seconds() - 0.05;
}

}  // namespace

QString soundFilter() {
  return SoundSheet::tr("Sounds (*.wav *.flac *.ogg *.oga *.opus *.mp3 *.aac *.m4a *.mp4 *.mov *.webm *.mkv);;All files (*)");
}

SoundSheet::SoundSheet(Document& document, QWidget* parent)
    : Sheet(tr("Sound"), "sound", parent), document_(document), heard_(document.heard()) {
  auto* row = new QHBoxLayout;
  auto* words = new QVBoxLayout;
  words->setSpacing(0);
  name_ = new QLabel(this);
  name_->setObjectName(QStringLiteral("soundName"));
  name_->setFont(uiFont(13, 600));
  facts_ = new QLabel(this);
  facts_->setObjectName(QStringLiteral("muted"));
  facts_->setWordWrap(true);
  words->addWidget(name_);
  words->addWidget(facts_);
  row->addLayout(words, 1);
  choose_ = new QPushButton(tr("Choose…"), this);
  choose_->setObjectName(QStringLiteral("chooseSound"));
  choose_->setToolTip(tr("The sound that the scene belongs to; one can be dropped on the window too"));
  row->addWidget(choose_);
  remove_ = new QToolButton(this);
  remove_->setIcon(icon(QStringLiteral("trash-2")));
  remove_->setObjectName(QStringLiteral("removeSound"));
  remove_->setToolTip(tr("Take the sound away"));
  remove_->setAccessibleName(remove_->toolTip());
  row->addWidget(remove_);
  content()->addLayout(row);
  strip_ = new WaveStrip(document_, heard_, this);
  content()->addWidget(strip_);

  fields_.assign(kSoundParams, nullptr);
  const auto field = [&](SoundParam which) {
    const ParamSpec& spec = soundSpecs()[static_cast<std::size_t>(which)];
    auto* made = NumberField::wide(spec, QStringLiteral("sound-%1").arg(text(spec.id)), this);
    made->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    connect(made, &NumberField::moved, this, [this, which, id = text(spec.id)](double v) { set(which, v, id); });
    connect(made, &NumberField::released, this, [this] { document_.endGesture(); });
    fields_[static_cast<std::size_t>(which)] = made;
    addLine(text(spec.label), made);
  };
  const auto heading = [&](const QString& says) {
    auto* label = new QLabel(says, this);
    label->setFont(uiFont(12, 600));
    label->setContentsMargins(0, 10, 0, 0);
    content()->addWidget(label);
  };
  heading(tr("Length of the loop"));
  tempo_ = new QLabel(this);
  tempo_->setObjectName(QStringLiteral("tempo"));
  tempo_->setWordWrap(true);
  content()->addWidget(tempo_);
  auto* length = new QHBoxLayout;
  beats_ = new QSpinBox(this);
  beats_->setObjectName(QStringLiteral("beats"));
  beats_->setRange(1, 512);
  beats_->setValue(16);
  beats_->setSuffix(tr(" beats"));
  beats_->setButtonSymbols(QAbstractSpinBox::NoButtons);
  beats_->setAccessibleName(tr("Beats of the loop"));
  length->addWidget(beats_);
  byBeats_ = new QPushButton(tr("Loop of these beats"), this);
  byBeats_->setObjectName(QStringLiteral("loopOfBeats"));
  length->addWidget(byBeats_, 1);
  auto* tapping = new QPushButton(tr("Tap"), this);
  tapping->setObjectName(QStringLiteral("tapTempo"));
  tapping->setToolTip(tr("Press it on each beat, four times or more, where the tempo that was found is not the right one"));
  length->addWidget(tapping);
  content()->addLayout(length);
  byWhole_ = new QPushButton(tr("Loop as long as the sound"), this);
  byWhole_->setObjectName(QStringLiteral("loopOfSound"));
  content()->addWidget(byWhole_);
  whole_ = new QCheckBox(tr("Whole track, the loop goes round meanwhile"), this);
  whole_->setObjectName(QStringLiteral("wholeTrack"));
  whole_->setToolTip(text(soundSpecs()[static_cast<std::size_t>(SoundParam::Whole)].help));
  content()->addWidget(whole_);
  heading(tr("Where it closes"));
  field(SoundParam::From);
  field(SoundParam::Meet);
  cut_ = new QPushButton(tr("Find a better place nearby"), this);
  cut_->setObjectName(QStringLiteral("findCut"));
  cut_->setToolTip(
      tr("Moves the loop by a quarter of a second at most, to where its end goes over into its beginning with the least change"));
  content()->addWidget(cut_);
  heading(tr("How it is heard"));
  field(SoundParam::Loudness);
  field(SoundParam::FadeIn);
  field(SoundParam::FadeOut);
  muted_ = new QCheckBox(tr("Silent: followed, not heard"), this);
  muted_->setObjectName(QStringLiteral("silent"));
  muted_->setToolTip(text(soundSpecs()[static_cast<std::size_t>(SoundParam::Muted)].help));
  content()->addWidget(muted_);
  content()->addStretch(1);

  connect(choose_, &QPushButton::clicked, this, &SoundSheet::choose);
  connect(remove_, &QToolButton::clicked, this,
          [this] { document_.edit(tr("take the sound away"), {}, [](Scene& scene) { scene.sound = SoundTrack(); }); });
  connect(byBeats_, &QPushButton::clicked, this, &SoundSheet::loopOfBeats);
  connect(byWhole_, &QPushButton::clicked, this, &SoundSheet::loopOfWhole);
  connect(cut_, &QPushButton::clicked, this, &SoundSheet::findCut);
  connect(tapping, &QPushButton::pressed, this, &SoundSheet::tap);
  connect(whole_, &QCheckBox::clicked, this, [this](bool on) { set(SoundParam::Whole, on); });
  connect(muted_, &QCheckBox::clicked, this, [this](bool on) { set(SoundParam::Muted, on); });
  connect(&document, &Document::changed, this, &SoundSheet::refresh);
  connect(&heard_, &Heard::changed, this, &SoundSheet::refresh);
  refresh();
}

void SoundSheet::set(SoundParam which, Value value, const QString& gesture) {
  const ParamSpec& spec = soundSpecs()[static_cast<std::size_t>(which)];
  document_.edit(tr("sound: %1").arg(text(spec.label).toLower()), gesture.isEmpty() ? QString() : QStringLiteral("sound/") + gesture,
                 [&](Scene& scene) {
                   Param& param = scene.sound.at(which);
                   param.base = param.motion.far = std::move(value);
                 });
}

double SoundSheet::beatsPerMinute() const { return tapped_ > 0 ? tapped_ : heard_.tempo().beatsPerMinute; }

void SoundSheet::refresh() {
  const Scene& scene = document_.scene();
  const SoundTrack& track = scene.sound;
  const bool there = track.there();
  const auto number = [](double v, int decimals) { return QLocale::c().toString(v, 'f', decimals); };
  name_->setText(there ? name_->fontMetrics().elidedText(text(mediaName(track.file())), Qt::ElideMiddle, 190) : tr("No sound"));
  facts_->setProperty("problem", !heard_.problem().isEmpty());
  facts_->setStyleSheet(heard_.problem().isEmpty() ? QString() : QStringLiteral("color: %1;").arg(Theme::now().persimmon.name()));
  facts_->setText(!there ? tr("Drop one on the window, or choose a file: then values can follow it, and the loop can last "
                              "as long as its beats do.")
                  : !heard_.problem().isEmpty() ? heard_.problem()
                  : shorter(scene) ? tr("%1 s, shorter than the loop, which ends in silence").arg(number(track.file().seconds, 2))
                                   : tr("%1 s").arg(number(track.file().seconds, 2)));
  remove_->setVisible(there);
  strip_->update();
  strip_->setVisible(there);
  for (std::size_t i = 0; i < fields_.size(); ++i) {
    if (!fields_[i]) continue;
    fields_[i]->setValue(track.number(static_cast<SoundParam>(i)));
    fields_[i]->setEnabled(there);
  }
  const double tempo = beatsPerMinute();
  const double beats = tempo > 0 ? scene.seconds() * tempo / 60 : 0;
  tempo_->setText(!there       ? tr("The loop lasts %1 s.").arg(number(scene.seconds(), 2))
                  : tempo <= 0 ? tr("No tempo was found: tap it, or give the loop a length yourself.")
                               : (tapped_ > 0 ? tr("%1 beats a minute, tapped; the loop lasts %2 of them.")
                                              : tr("%1 beats a minute; the loop lasts %2 of them."))
                                     .arg(number(tempo, 1), text(numberText(beats, 2))));
  byBeats_->setEnabled(there && tempo > 0);
  beats_->setEnabled(there && tempo > 0);
  byWhole_->setEnabled(there && heard_.file());
  cut_->setEnabled(there && heard_.file() && !track.toggle(SoundParam::Whole));
  whole_->setEnabled(there);
  whole_->setChecked(track.toggle(SoundParam::Whole));
  muted_->setEnabled(there);
  muted_->setChecked(track.toggle(SoundParam::Muted));
}

void SoundSheet::choose() {
  const MediaRef& now = document_.scene().sound.file();
  const QString from = now.empty() || now.data ? QStandardPaths::writableLocation(QStandardPaths::MusicLocation) : text(now.path);
  const QString path = QFileDialog::getOpenFileName(window(), tr("Choose a sound"), from, soundFilter());
  if (!path.isEmpty()) take(path);
}

void SoundSheet::take(const QString& path) {
  inBackground(
      this,
      [path]() -> Result<MediaRef> {
        MediaStore& store = MediaStore::shared();
        auto ref = store.takeIn(path.toStdString());
        if (!ref) return ref;
        // A clip may have none.
        const auto sound = store.sound(*ref);
        if (!sound) return tl::unexpected(sound.error());
        ref->seconds = (*sound)->seconds();
        return ref;
      },
      [this](const Result<MediaRef>& taken) {
        if (!taken) {
          Q_EMIT document_.refused(tr("Not added. %1.").arg(text(taken.error().sentence())));
          return;
        }
        taps_.clear();
        tapped_ = 0;
        document_.edit(tr("sound %1").arg(text(mediaName(*taken))), {}, [&](Scene& scene) {
          Param& file = scene.sound.at(SoundParam::File);
          file.base = file.motion.far = *taken;
          Param& from = scene.sound.at(SoundParam::From);
          from.base = from.motion.far = 0.0;
        });
      });
}

void SoundSheet::loopOfBeats() {
  const double tempo = beatsPerMinute();
  if (tempo <= 0) return;
  document_.edit(tr("loop of %1 beats").arg(beats_->value()), {},
                 [&](Scene& scene) { scene.frames = std::min(kMaxFrames, framesOfBeats(tempo, beats_->value(), scene.rate.value())); });
}

void SoundSheet::loopOfWhole() {
  if (!heard_.file()) return;
  const double seconds = heard_.file()->seconds();
  document_.edit(tr("loop as long as the sound"), {}, [&](Scene& scene) {
    scene.frames = std::clamp(static_cast<int>(std::lround(seconds * scene.rate.value())), 1, kMaxFrames);
    Param& from = scene.sound.at(SoundParam::From);
    from.base = from.motion.far = 0.0;
  });
}

void SoundSheet::findCut() {
  const auto file = heard_.file();
  if (!file) return;
  const double from = document_.scene().sound.number(SoundParam::From);
  inBackground(
      this, [file, from, seconds = document_.scene().seconds()] { return bestCut(*file, from, seconds, 0.25); },
      [this, from](double found) {
        if (document_.scene().sound.number(SoundParam::From) == from) set(SoundParam::From, std::round(found * 1e5) / 1e5);
      });
}

void SoundSheet::tap() {
  const qint64 now = QDateTime::currentMSecsSinceEpoch();
  // After a rest it is another count.
  if (!taps_.empty() && now - taps_.back() > 3000) taps_.clear();
  taps_.push_back(now);
  if (taps_.size() >= 4) tapped_ = 60000.0 * static_cast<double>(taps_.size() - 1) / static_cast<double>(taps_.back() - taps_.front());
  refresh();
}

}  // namespace oa::app
