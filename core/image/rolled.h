// A picture that keeps its size and whose ends meet: where they would not, they are hidden by what is whole there once it is rolled round
// by half.
#pragma once

#include <array>
#include <vector>

#include "image/buffer.h"
#include "image/seamless.h"

namespace oa {

/// How the ends of a picture are made to meet, in shares of it: the same for it in every size.
class RolledEnds {
 public:
  /// Found in pictures (premultiplied RGBA) of one size: one, or several moments of what moves, which get one cut together.
  RolledEnds(const std::vector<Plane>& pictures, const SeamSettings& settings);
  /// The picture in any size, evened and with its ends made to meet.
  [[nodiscard]] Plane closed(const Plane& picture) const;

 private:
  // Where the cut crosses each line, in shares of the band: at the beginning and at the end.
  using Cuts = std::array<std::vector<float>, 2>;
  [[nodiscard]] Plane evened(const Plane& picture) const;
  [[nodiscard]] Plane closedAlong(const Plane& picture, bool lying) const;
  [[nodiscard]] Cuts cutsOf(const std::vector<Plane>& pictures, bool lying) const;

  SeamSettings settings_;
  std::array<Cuts, 2> cuts_;  // across, down
  std::shared_ptr<const class EvenLight> light_;
};

}  // namespace oa
