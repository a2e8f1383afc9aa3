#include "model/player.h"

#include <algorithm>
#include <cmath>

namespace oa::app {

Player::Player(Document& document, RenderService& renderer, QObject* parent) : QObject(parent), document_(document), renderer_(renderer) {
  timer_.setTimerType(Qt::PreciseTimer);
  timer_.setInterval(4);
  connect(&timer_, &QTimer::timeout, this, &Player::tick);
}

void Player::setFrame(int frame) {
  frame_ = static_cast<int>(floorMod(frame, document_.scene().frames));
  due_ = frame_;
  clock_.restart();
  renderer_.setFrame(frame_);
  Q_EMIT frameChanged(frame_);
}

void Player::setPlaying(bool play) {
  if (play == playing()) return;
  if (play) {
    due_ = frame_;
    dropped_ = 0;
    shown_ = 0;
    clock_.start();
    second_.start();
    timer_.start();
    renderer_.setPlaying(true);
  } else {
    timer_.stop();
    renderer_.setPlaying(false);
    renderer_.setFrame(frame_);
  }
  Q_EMIT playingChanged(play);
}

void Player::setSpeed(double speed) {
  speed = std::clamp(speed, 0.25, 2.0);
  if (speed == speed_) return;
  speed_ = speed;
  clock_.restart();
  Q_EMIT speedChanged();
}

void Player::tick() {
  const int n = document_.scene().frames;
  const bool full = renderer_.loopIsThere();
  due_ += static_cast<double>(clock_.nsecsElapsed()) / 1e9 * document_.scene().rate.value() * speed_;
  clock_.restart();
  int steps = static_cast<int>(std::floor(due_)) - frame_;
  if (steps <= 0) return;
  if (!full) {
    // Until the loop is there, no frame is left out: the hand waits for each to be made.
    const int next = static_cast<int>(floorMod(frame_ + 1, n));
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
  due_ -= std::floor((frame_ + steps) / static_cast<double>(n)) * n;
  frame_ = static_cast<int>(floorMod(frame_ + steps, n));
  ++shown_;
  if (second_.elapsed() >= 1000) {
    shownRate_ = shown_ * 1000.0 / static_cast<double>(second_.restart());
    shown_ = 0;
  }
  Q_EMIT frameChanged(frame_);
}

}  // namespace oa::app
