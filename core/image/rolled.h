// A picture that keeps its size and whose ends meet: where they would not, they are covered by what is whole there once it is rolled
// round by half.
#pragma once

#include <array>
#include <memory>
#include <vector>

#include "image/buffer.h"
#include "image/seamless.h"

namespace oa {

class EvenLight;

/// How the ends of a picture are made to meet, in shares of it: the same for it in every size.
class RolledEnds {
 public:
  /// Found in pictures (premultiplied RGBA) of one size: one, or several moments of what moves, which get one cut together.
  RolledEnds(const std::vector<Plane>& pictures, const SeamSettings& settings);

 private:
  friend class RolledRows;
  // Where the cut crosses each line, in shares of the band: at the beginning and at the end.
  using Cuts = std::array<std::vector<float>, 2>;

  SeamSettings settings_;
  Cuts across_;
  Cuts down_;
  std::shared_ptr<const EvenLight> light_;
};

/// Such a picture row by row, evened and with its ends made to meet; nothing of it is held. Rows may be asked for in any order and from
/// several threads at once. `picture`, in any size, and `ends` have to last as long.
class RolledRows {
 public:
  RolledRows(const RolledEnds& ends, const Plane& picture);
  void row(int y, float* rgba) const;

 private:
  // Both cuts of a line, in pixels of the band.
  using Places = std::array<double, 2>;
  [[nodiscard]] double share(double x, double cut, int band) const;
  void acrossRow(int y, float* rgba) const;

  const RolledEnds& ends_;
  const Plane& picture_;
  int bandX_;
  int bandY_;
  std::vector<Places> columns_;
};

}  // namespace oa
