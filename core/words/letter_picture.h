// Letters as small pictures, for those that move: made once, in few sizes, and laid down turned and sized.
#pragma once

#include <cstdint>
#include <memory>
#include <vector>

#include "image/buffer.h"
#include "words/typeset.h"

namespace oa {

/// What a letter covers, or shows where it has colours of its own. All around it is a pixel of nothing, so that what is read between
/// four pixels fades out at its edge.
struct LetterPicture {
  int width = 0;
  int height = 0;
  Point perEm;  ///< pixels to the size of the font
  Point first;  ///< where the middle of its upper left pixel lies in the letter, whose size is 1
  /// How much of each pixel is covered, row by row, 255 being `most`; and of those right of it, below it, and right of that, in the bytes
  /// above, so that what lies between four is read at once. Beyond the last column and row there is nothing.
  std::vector<std::uint32_t> cover;
  double most = 1;  ///< less where it is blurred until nothing of it is covered wholly
  /// Within these there is anything to be read between four pixels: of x, of y, of their sum and of their difference x - y.
  struct Ends {
    double low = 0;
    double high = 0;
  };
  Ends across, down, falling, rising;
  /// Premultiplied, where it has colours of its own, in place of `cover`.
  std::shared_ptr<const Plane> colours;

  [[nodiscard]] std::size_t bytes() const;
};

/// How finely a letter is to be had.
struct LetterDetail {
  double size = 1;     ///< of the font, in pixels of the view
  double sigma = 0;    ///< of a Gaussian blur, as a share of the size of the font
  bool steady = true;  ///< whether it stays as large: it is made in just twice its size then
};

/// A letter in about two pixels for one that it is shown in, fewer where it is blurred; null where it is too large for that. Kept for
/// whoever asks again.
std::shared_ptr<const LetterPicture> letterPicture(const std::shared_ptr<const Typeset>& set, std::size_t letter,
                                                   const LetterDetail& detail);

}  // namespace oa
