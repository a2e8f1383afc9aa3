// The hand of the loop: where it is, and how it moves while playing.
#pragma once

#include <QElapsedTimer>
#include <QObject>
#include <QTimer>
#include <optional>

#include "model/document.h"
#include "model/render_service.h"

namespace oa::app {

class Player : public QObject {
  Q_OBJECT
 public:
  Player(Document& document, RenderService& renderer, QObject* parent = nullptr);

  [[nodiscard]] int frame() const { return frame_; }
  [[nodiscard]] bool playing() const { return timer_.isActive(); }
  /// Reads `frame` modulo the loop.
  void setFrame(int frame);
  void setPlaying(bool play);
  void toggle() { setPlaying(!playing()); }
  /// Against the scene's own rate: a quarter to double.
  void setSpeed(double speed);
  [[nodiscard]] double speed() const { return speed_; }
  /// A part of the loop that is played alone, round and round; it may cross the joint.
  struct Mark {
    int from = 0;
    int length = 1;  ///< in frames, at least 1, at most the loop's
    bool operator==(const Mark&) const = default;
  };
  [[nodiscard]] std::optional<Mark> mark() const { return mark_; }
  void setMark(Mark mark);
  /// From this frame on, to where it ended, or without a mark to where the loop began.
  void markFrom(int frame);
  /// Up to and with this frame.
  void markTo(int frame);
  void clearMark();
  /// Which lap of the loop is played where footage goes on with it, counted from 0.
  void setLap(int lap);
  [[nodiscard]] int lap() const { return lap_; }
  /// Frames that had to be left out since playing began with a full cache.
  [[nodiscard]] int dropped() const { return dropped_; }
  /// Pictures shown in the last second, for the status line.
  [[nodiscard]] double shownRate() const { return shownRate_; }

 Q_SIGNALS:
  void frameChanged(int frame);
  void playingChanged(bool playing);
  void speedChanged();
  void markChanged();
  void lapChanged();

 private:
  void tick();

  Document& document_;
  RenderService& renderer_;
  QTimer timer_;
  QElapsedTimer clock_;
  /// So many frames on, within the marked part.
  [[nodiscard]] int after(int frame, int steps) const;
  int frame_ = 0;
  int lap_ = 0;
  std::optional<Mark> mark_;
  double speed_ = 1;
  double due_ = 0;  // place on the loop by the clock, in frames
  int dropped_ = 0;
  int waitingFor_ = -1;
  int shown_ = 0;
  double shownRate_ = 0;
  QElapsedTimer second_;
};

}  // namespace oa::app
