// The scene's sound, heard while the loop plays at its own speed.
#pragma once

#include <QIODevice>
#include <QObject>
#include <memory>
#include <mutex>

#include "sound/track_sound.h"

class QAudioSink;

namespace oa::app {

class Document;
class Heard;
class Player;

/// Samples for the audio device, from any place on; read on a thread of the device's.
class SoundStream : public QIODevice {
  Q_OBJECT
 public:
  using QIODevice::QIODevice;
  /// `around`: after so many samples it begins anew; 0: never. Sample 0 is that of number `offset` of the sound.
  void play(SoundFunction sound, std::int64_t from, std::int64_t around, std::int64_t offset = 0);
  /// The sample that is read next, counted from `offset`.
  [[nodiscard]] std::int64_t next() const;
  [[nodiscard]] bool isSequential() const override { return true; }
  [[nodiscard]] qint64 bytesAvailable() const override { return qint64{1} << 30; }

 protected:
  qint64 readData(char* data, qint64 most) override;
  qint64 writeData(const char*, qint64) override { return -1; }

 private:
  mutable std::mutex mutex_;
  SoundFunction sound_;
  std::int64_t next_ = 0;
  std::int64_t around_ = 0;
  std::int64_t offset_ = 0;
};

/// Without a device there is silence, and the picture goes on as it does.
class SoundPlayer : public QObject {
  Q_OBJECT
 public:
  SoundPlayer(Document& document, Heard& heard, Player& player, QObject* parent = nullptr);
  ~SoundPlayer() override;
  /// Whether something is heard just now.
  [[nodiscard]] bool sounding() const;
  [[nodiscard]] SoundStream& stream() { return stream_; }

 private:
  void follow();
  void start();
  void stop();
  Document& document_;
  Heard& heard_;
  Player& player_;
  SoundStream stream_;
  std::unique_ptr<QAudioSink> sink_;
};

}  // namespace oa::app
