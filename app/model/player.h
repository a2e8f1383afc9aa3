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
  /// Whether the run is shown: what arrives, the loop, what leaves. Setting a frame of the loop goes back to that.
  [[nodiscard]] bool inRun() const { return inRun_; }
  /// The frame of the run that is shown, where it is.
  [[nodiscard]] std::int64_t place() const { return place_; }
  void setPlace(std::int64_t place);
  void leaveRun();
  /// What the renderer is asked for: the frame, or in the run the picture.
  [[nodiscard]] int shown() const { return inRun_ ? slots_.slotOf(place_) : frame_; }
  /// The same for another frame of the loop.
  [[nodiscard]] int shownOfLoop(int frame) const { return inRun_ ? slots_.loopSlot(frame) : frame; }
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
  /// Of the run: where it is, or that it is shown or not.
  void placeChanged();

 private:
  void tick();

  Document& document_;
  RenderService& renderer_;
  QTimer timer_;
  QElapsedTimer clock_;
  /// So many frames on, within the marked part.
  [[nodiscard]] int after(int frame, int steps) const;
  void tickRun();
  int frame_ = 0;
  bool inRun_ = false;
  std::int64_t place_ = 0;
  RunSlots slots_;  // where it is shown
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
