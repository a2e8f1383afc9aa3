#include "model/sound_player.h"

#include <QAudioDevice>
#include <QAudioFormat>
#include <QAudioSink>
#include <QMediaDevices>
#include <algorithm>
#include <cmath>
#include <cstring>
#include <vector>

#include "model/document.h"
#include "model/heard.h"
#include "model/player.h"
#include "scene/run.h"

namespace oa::app {
namespace {

QAudioFormat soundFormat() {
  QAudioFormat format;
  format.setSampleRate(kSoundRate);
  format.setChannelCount(2);
  format.setSampleFormat(QAudioFormat::Float);
  return format;
}

constexpr qint64 kFrameBytes = 2 * sizeof(float);
// What is waiting in the device's buffer; longer, and a change of place would be heard late.
constexpr int kBuffered = kSoundRate / 8;
// Picture and sound may be so many seconds apart before the sound is set anew.
constexpr double kApart = 0.12;

}  // namespace

void SoundStream::play(SoundFunction sound, std::int64_t from, std::int64_t around, std::int64_t offset) {
  const std::scoped_lock lock(mutex_);
  sound_ = std::move(sound);
  next_ = from;
  around_ = around;
  offset_ = offset;
}

std::int64_t SoundStream::next() const {
  const std::scoped_lock lock(mutex_);
  return next_;
}

qint64 SoundStream::readData(char* data, qint64 most) {
  const std::scoped_lock lock(mutex_);
  qint64 left = most / kFrameBytes;
  const qint64 all = left * kFrameBytes;
  std::vector<float> piece;
  while (left > 0) {
    int count = static_cast<int>(std::min<qint64>(left, 8192));
    if (around_ > 0) {
      next_ = floorMod(next_, around_);
      count = static_cast<int>(std::min<std::int64_t>(count, around_ - next_));
    }
    piece.assign(static_cast<std::size_t>(count) * 2, 0);
    if (sound_) sound_(offset_ + next_, count, piece.data());
    std::memcpy(data, piece.data(), piece.size() * sizeof(float));
    data += static_cast<std::ptrdiff_t>(piece.size() * sizeof(float));
    next_ += count;
    left -= count;
  }
  return all;
}

SoundPlayer::SoundPlayer(Document& document, Heard& heard, Player& player, QObject* parent)
    : QObject(parent), document_(document), heard_(heard), player_(player) {
  stream_.open(QIODevice::ReadOnly | QIODevice::Unbuffered);
  connect(&player, &Player::playingChanged, this, [this](bool playing) { playing ? start() : stop(); });
  connect(&player, &Player::speedChanged, this, &SoundPlayer::start);
  connect(&player, &Player::lapChanged, this, &SoundPlayer::start);
  connect(&player, &Player::frameChanged, this, &SoundPlayer::follow);
  connect(&heard, &Heard::changed, this, &SoundPlayer::start);
}

SoundPlayer::~SoundPlayer() { stop(); }

bool SoundPlayer::sounding() const { return sink_ && sink_->state() != QAudio::StoppedState; }

void SoundPlayer::start() {
  // Slowed down or sped up it would be another tune.
  if (!player_.playing() || player_.speed() != 1 || !heard_.sound()) return stop();
  const double seconds = player_.frame() / document_.scene().rate.value();
  const std::int64_t lap = std::llround(document_.scene().seconds() * kSoundRate);
  if (player_.inRun()) {
    const double rate = document_.scene().rate.value();
    stream_.play(heard_.runSound(), std::llround(static_cast<double>(player_.place()) / rate * kSoundRate),
                 std::llround(static_cast<double>(runOf(document_.scene()).frames()) / rate * kSoundRate), 0);
  } else {
    stream_.play(heard_.sound(), std::llround(seconds * kSoundRate), lap, player_.lap() * lap);
  }
  if (sounding()) return;
  const QAudioDevice device = QMediaDevices::defaultAudioOutput();
  if (device.isNull() || !device.isFormatSupported(soundFormat())) return;
  sink_ = std::make_unique<QAudioSink>(device, soundFormat());
  sink_->setBufferSize(kBuffered * kFrameBytes);
  sink_->start(&stream_);
}

void SoundPlayer::stop() {
  if (sink_) sink_->stop();
  sink_.reset();
}

// The picture waits where it is not made yet, and a marked part goes round by itself: then the sound goes where the picture is.
void SoundPlayer::follow() {
  if (!sounding()) return;
  const double rate = document_.scene().rate.value();
  const double loop = player_.inRun() ? static_cast<double>(runOf(document_.scene()).frames()) / rate : document_.scene().seconds();
  const qint64 waiting = (sink_->bufferSize() - sink_->bytesFree()) / kFrameBytes;
  const double heard = static_cast<double>(stream_.next() - waiting) / kSoundRate;
  const double seen = (player_.inRun() ? static_cast<double>(player_.place()) : player_.frame()) / rate;
  if (std::abs(std::remainder(heard - seen, loop)) > kApart) start();
}

}  // namespace oa::app
