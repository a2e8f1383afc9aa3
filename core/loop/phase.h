// Time as a circle: whole frames, whole laps.
#pragma once

#include <cstdint>
#include <limits>

#include "base/numbers.h"
#include "loop/passing.h"

namespace oa {

class SoundLevels;

/// A moment of the loop: frame `frame` of `frames`. Read modulo the loop, so that frame N is
/// frame 0 to the last bit.
struct Moment {
  std::int64_t frame = 0;
  std::int64_t frames = 1;
  /// What does not loop goes by these: the frame of what is handed over, and the seconds of footage that go by in one.
  std::int64_t run = 0;
  double step = 1.0 / 30;
  /// How loud the scene's sound is over the loop; null: it is silent. Lives as long as whoever makes pictures of the moment.
  const SoundLevels* levels = nullptr;
  /// Frames since what arrives began to, and since what leaves began to; in the loop all is there.
  double since = std::numeric_limits<double>::infinity();
  double left = -std::numeric_limits<double>::infinity();
  /// How what is being made arrives and leaves; null: it does not. Lives as long as `levels`.
  const Passings* passes = nullptr;
  /// So many frames of the loop go by in one of the run: the laps of the groups that it is in.
  std::int64_t quicker = 1;

  /// Whether it is on its way, or may be.
  [[nodiscard]] bool passing() const {
    return passes && ((passes->arrive && since < passes->arrive->ends()) || (passes->leave && left > 0));
  }
  /// The same of something else, which may arrive and leave otherwise.
  [[nodiscard]] Moment of(const Passings* others) const {
    Moment moment = *this;
    moment.passes = others;
    return moment;
  }
  /// The same with another place on the loop.
  [[nodiscard]] Moment at(std::int64_t other) const {
    Moment moment = *this;
    moment.frame = other;
    return moment;
  }
  /// Footage that has gone by, in seconds.
  [[nodiscard]] double runSeconds() const { return static_cast<double>(run) * step; }

  /// Share of the loop gone by, in [0, 1).
  [[nodiscard]] double phase() const { return static_cast<double>(floorMod(frame, frames)) / static_cast<double>(frames); }
};

/// Where a motion with whole `laps` and a head start `start` in [0, 1) is on its own lap: [0, 1).
/// The laps are reduced modulo the loop in integers before the division (see docs/loop.md).
inline double lapPhase(const Moment& at, std::int64_t laps, double start) {
  const std::int64_t n = at.frames;
  // Most are within the loop as they come, and whole numbers are divided slowly.
  const auto within = [n](std::int64_t v) { return v >= 0 && v < n ? v : floorMod(v, n); };
  const std::int64_t gone = within(laps) * within(at.frame);
  // The quotient is exact: numbers below 2^52, and a remainder that lies far from the next whole one.
  const bool small = gone < (std::int64_t{1} << 48) && n < (std::int64_t{1} << 24);
  const std::int64_t done =
      small ? gone - static_cast<std::int64_t>(static_cast<double>(gone) / static_cast<double>(n)) * n : floorMod(gone, n);
  return fract(static_cast<double>(done) / static_cast<double>(n) + start);
}

/// How much of it is there, or of one of its pieces: 0 to 1, on the way perhaps beyond.
double thereOf(const Moment& at, const Piece& piece = {});
/// What is done to it where it passes as a whole, and to one of its pieces where it passes by them; but for what is only done to the
/// whole of it: coming from outside of the frame, wipes, blur and smear.
Passed passedWhole(const Moment& at);
Passed passedPiece(const Moment& at, const Piece& piece);

/// How many different frames there are when everything makes laps that share `commonLaps` as
/// greatest common divisor (0: nothing moves).
std::int64_t distinctFrames(std::int64_t frames, std::int64_t commonLaps);

}  // namespace oa
