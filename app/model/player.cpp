#include "model/player.h"

#include <algorithm>
#include <cmath>

namespace oa::app {

Player::Player(Document& document, RenderService& renderer, QObject* parent) : QObject(parent), document_(document), renderer_(renderer) {
  timer_.setTimerType(Qt::PreciseTimer);
  timer_.setInterval(4);
  connect(&timer_, &QTimer::timeout, this, &Player::tick);
  // What is not there any more cannot be played.
  connect(&document, &Document::changed, this, [this] {
    if (mark_ && mark_->from >= document_.scene().frames) clearMark();
    if (!inRun_) return;
    slots_ = RunSlots(document_.scene());
    if (place_ >= slots_.run().frames()) place_ = slots_.run().frames() - 1;
    Q_EMIT placeChanged();
  });
}

void Player::setPlace(std::int64_t place) {
  if (!inRun_) slots_ = RunSlots(document_.scene());
  inRun_ = true;
  const RunLength& run = slots_.run();
  place_ = std::clamp<std::int64_t>(place, 0, run.frames() - 1);
  frame_ = static_cast<int>(floorMod(place_ - run.arrive, document_.scene().frames));
  due_ = static_cast<double>(place_);
  clock_.restart();
  renderer_.setRun(true);
  renderer_.setFrame(shown());
  Q_EMIT placeChanged();
  Q_EMIT frameChanged(frame_);
}

void Player::leaveRun() {
  if (!inRun_) return;
  inRun_ = false;
  renderer_.setRun(false);
  due_ = frame_;
  renderer_.setFrame(frame_);
  Q_EMIT placeChanged();
}

void Player::setFrame(int frame) {
  leaveRun();
  frame_ = static_cast<int>(floorMod(frame, document_.scene().frames));
  due_ = frame_;
  clock_.restart();
  renderer_.setFrame(frame_);
  Q_EMIT frameChanged(frame_);
}

void Player::setPlaying(bool play) {
  if (play == playing()) return;
  if (play) {
    // At its end it begins anew.
    if (inRun_ && place_ + 1 >= slots_.run().frames()) setPlace(0);
    due_ = inRun_ ? static_cast<double>(place_) : frame_;
    dropped_ = 0;
    shown_ = 0;
    clock_.start();
    second_.start();
    timer_.start();
    renderer_.setPlaying(true);
  } else {
    timer_.stop();
    renderer_.setPlaying(false);
    renderer_.setFrame(shown());
  }
  Q_EMIT playingChanged(play);
}

void Player::setLap(int lap) {
  if (lap == lap_) return;
  lap_ = lap;
  renderer_.setLap(lap);
  Q_EMIT lapChanged();
}

void Player::setSpeed(double speed) {
  speed = std::clamp(speed, 0.25, 2.0);
  if (speed == speed_) return;
  speed_ = speed;
  clock_.restart();
  Q_EMIT speedChanged();
}

void Player::setMark(Mark mark) {
  const int n = document_.scene().frames;
  mark = {static_cast<int>(floorMod(mark.from, n)), std::clamp(mark.length, 1, n)};
  if (mark_ == mark) return;
  mark_ = mark;
  Q_EMIT markChanged();
}

void Player::markFrom(int frame) {
  const int n = document_.scene().frames;
  // The end stays where it is, unless it would lie before the beginning.
  const int last = mark_ ? mark_->from + mark_->length - 1 : n - 1;
  setMark({frame, static_cast<int>(floorMod(last - frame, n)) + 1});
}

void Player::markTo(int frame) {
  const int n = document_.scene().frames;
  const int first = mark_ ? mark_->from : 0;
  setMark({first, static_cast<int>(floorMod(frame - first, n)) + 1});
}

void Player::clearMark() {
  if (!mark_) return;
  mark_.reset();
  Q_EMIT markChanged();
}

int Player::after(int frame, int steps) const {
  const int n = document_.scene().frames;
  if (!mark_) return static_cast<int>(floorMod(frame + steps, n));
  // A loop that was shortened since may not have all of it.
  const int length = std::min(mark_->length, n);
  const auto within = static_cast<int>(floorMod(frame - mark_->from, n));
  // From outside, the part is begun.
  if (within >= length) return static_cast<int>(floorMod(mark_->from, n));
  return static_cast<int>(floorMod(mark_->from + floorMod(within + steps, length), n));
}

// The run goes round too, so that its beginning and its end can be judged again and again.
void Player::tickRun() {
  const std::int64_t all = slots_.run().frames();
  const bool full = renderer_.loopIsThere();
  due_ += static_cast<double>(clock_.nsecsElapsed()) / 1e9 * document_.scene().rate.value() * speed_;
  clock_.restart();
  std::int64_t steps = static_cast<std::int64_t>(std::floor(due_)) - place_;
  if (steps <= 0) return;
  if (!full) {
    const int next = slots_.slotOf((place_ + 1) % all);
    if (!renderer_.isCached(next)) {
      due_ = static_cast<double>(place_ + 1);
      if (waitingFor_ != next) renderer_.setFrame(next);
      waitingFor_ = next;
      return;
    }
    waitingFor_ = -1;
    if (steps > 1) due_ = static_cast<double>(place_ + 1);
    steps = 1;
  }
  dropped_ += static_cast<int>(steps) - 1;
  const double rest = due_ - static_cast<double>(place_ + steps);
  place_ = (place_ + steps) % all;
  due_ = static_cast<double>(place_) + rest;
  frame_ = static_cast<int>(floorMod(place_ - slots_.run().arrive, document_.scene().frames));
  ++shown_;
  Q_EMIT placeChanged();
  Q_EMIT frameChanged(frame_);
}

void Player::tick() {
  if (inRun_) return tickRun();
  const bool full = renderer_.loopIsThere();
  due_ += static_cast<double>(clock_.nsecsElapsed()) / 1e9 * document_.scene().rate.value() * speed_;
  clock_.restart();
  int steps = static_cast<int>(std::floor(due_)) - frame_;
  if (steps <= 0) return;
  if (!full) {
    // Until the loop is there, no frame is left out: the hand waits for each to be made.
    const int next = after(frame_, 1);
    if (!renderer_.isCached(next)) {
      due_ = frame_ + 1;
      if (waitingFor_ != next) renderer_.setFrame(next);
      waitingFor_ = next;
      return;
    }
    waitingFor_ = -1;
    if (steps > 1) due_ = frame_ + 1;
    steps = 1;
  }
  dropped_ += steps - 1;
  const double rest = due_ - (frame_ + steps);
  frame_ = after(frame_, steps);
  due_ = frame_ + rest;
  ++shown_;
  if (second_.elapsed() >= 1000) {
    shownRate_ = shown_ * 1000.0 / static_cast<double>(second_.restart());
    shown_ = 0;
  }
  Q_EMIT frameChanged(frame_);
}

}  // namespace oa::app
