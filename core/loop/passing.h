// How something comes before the loop takes it over, and goes after: arrive and leave.
#pragma once

#include <cstdint>
#include <optional>
#include <string_view>

#include "base/geometry.h"

namespace oa {

/// How the way is gone. Each rests at the end where the thing is there, so that the loop goes on without a jump in speed.
enum class PassPace {
  Soft,    ///< begins and ends slowly
  Glide,   ///< fast at first, and long in coming to rest
  Heavy,   ///< the same, more so
  Spring,  ///< goes beyond and back twice before it rests
};

/// What of it passes as one.
enum class PassBy { Whole, Letter, Word, Line };
enum class PassOrder { Forwards, Backwards, FromMiddle, Random };
enum class Wipe { None, Line, Split, Iris };
enum class Smear { None, Left, Right, Top, Bottom };
enum class PassFrom { Place, Beside, Outside };

/// One of several that pass one after the other.
struct Piece {
  std::size_t index = 0;
  std::size_t count = 1;
};

/// One way of passing: when, and what is done to it while it is not there. Times are in seconds, or where a scene is made into pictures
/// in frames.
struct Passing {
  double delay = 0;
  double lasts = 0.8;  ///< of all its pieces together
  PassPace pace = PassPace::Glide;
  double overshoot = 0;  ///< 0 to 1: how far it goes beyond on its way

  PassBy by = PassBy::Whole;
  PassOrder order = PassOrder::Forwards;
  double overlap = 0.7;  ///< 0: a piece begins where the one before is there; 1: all at once
  std::uint64_t seed = 1;

  bool fades = true;
  PassFrom from = PassFrom::Place;
  double direction = 180;  ///< where it comes from or goes to, degrees clockwise from the right
  double distance = 0;     ///< pixels of the scene, where it comes from beside its place
  double size = 1;         ///< times as large
  double turn = 0;         ///< degrees
  Wipe wipe = Wipe::None;
  double wipeAngle = 180;  ///< the side it comes from
  double wipeSoft = 0;     ///< width of the edge, pixels of the scene
  double blur = 0;         ///< pixels of the scene
  Smear smear = Smear::None;
  bool operator==(const Passing&) const = default;

  /// From the beginning of its part of the run until all of it is done.
  [[nodiscard]] double ends() const { return delay + lasts; }
};

/// How much of it is there when `gone` has gone by since its part of the run began: 0 before, 1 after, on the way perhaps beyond.
double arrived(const Passing& passing, double gone, const Piece& piece = {});
/// The same of something that leaves: 1 before, 0 after.
double staying(const Passing& passing, double gone, const Piece& piece = {});

/// Both ways of one thing.
struct Passings {
  std::optional<Passing> arrive;
  std::optional<Passing> leave;
};

/// What is done to something on its way.
struct Passed {
  double there = 1;    ///< for colours and numbers of its own: 0 to 1, perhaps beyond
  double opacity = 1;  ///< 0 to 1
  Point offset;        ///< pixels of the scene
  double size = 1;
  double turn = 0;  ///< degrees
  double blur = 0;  ///< pixels of the scene; only of pieces, for what is whole is blurred as a picture
};

std::string_view passPaceName(PassPace pace);

}  // namespace oa
