// The joint of a clip: how visible it is, and where in the clip a better one lies.
#pragma once

#include <functional>
#include <vector>

#include "check/joint.h"
#include "store/clip.h"
#include "store/clip_time.h"

namespace oa {

/// Small pictures of a stretch of a clip, which joints are looked for in.
class ClipSketch {
 public:
  /// Called now and then with the share done; returning false gives up.
  using Progress = std::function<bool(double share)>;
  /// Pictures that begin within `from` to `to` (0: the clip's end), at most kMostSketched. Errors are sentences without the file's name;
  /// giving up is one, too.
  static Result<ClipSketch> make(Clip& clip, double from, double to, const Progress& progress);

  /// What JointReport measures, of the clip played like that, picture by picture.
  [[nodiscard]] JointReport jointOf(const ClipPlay& play) const;

  /// A way to play that lies within the sketch, lasts at least `least` and at most `most` seconds, and whose joint is the least visible:
  /// cut where two pictures, and those beside them, are most alike; where that would still be seen, faded for a part of a second over
  /// the stretches that are most alike. Never one whose joint is more visible than that of `now`, which may come back itself.
  [[nodiscard]] ClipPlay best(const ClipPlay& now, double least, double most) const;

  [[nodiscard]] const MovingInfo& info() const { return info_; }

 private:
  [[nodiscard]] double distance(std::size_t i, std::size_t j, bool coarse) const;
  [[nodiscard]] ClipPlay playFrom(const ClipPlay& now, std::size_t i, std::size_t j, double overlap) const;

  MovingInfo info_;
  std::size_t first_ = 0;  // the clip's number of the first sketched picture
  std::vector<std::vector<float>> fine_;
  std::vector<std::vector<float>> coarse_;
};

inline constexpr std::size_t kMostSketched = 6000;

}  // namespace oa
