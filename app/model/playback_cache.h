// Finished pictures of a loop within a budget of bytes, whatever the loop's length.
#pragma once

#include <QImage>
#include <cstddef>
#include <map>
#include <vector>

namespace oa::app {

class PlaybackCache {
 public:
  explicit PlaybackCache(std::size_t budget) : budget_(budget) {}

  /// Another budget from here on; pictures that are too many for it go, the furthest ahead of `hand` first.
  void setBudget(std::size_t budget, int hand);
  /// Begins a loop of `frames` different frames; what was there goes.
  void reset(int frames);
  [[nodiscard]] int frames() const { return frames_; }
  /// The size that pictures are to be made at so that the loop fits the budget: `wanted`, or down to half of it in each
  /// direction; beyond that fewer frames are kept.
  [[nodiscard]] QSize sizeFor(QSize wanted) const;
  /// Pictures of that size are what is wanted from here on; others stay until they are replaced.
  void setSize(QSize size);
  [[nodiscard]] QSize size() const { return size_; }

  /// Keeps a picture. Where the budget is full, the pictures furthest ahead of `hand` (those just passed) make room; false if
  /// this one is such a picture itself.
  bool put(int frame, const QImage& image, int hand);
  /// The picture of a frame (read modulo the loop), or a null image.
  [[nodiscard]] QImage at(int frame) const;
  /// Whether it is there at the wanted size.
  [[nodiscard]] bool sharp(int frame) const;
  /// The next frame from `hand` on that is worth making, or -1: all are there, or as many as fit.
  [[nodiscard]] int next(int hand) const;
  /// The next ones, `count` at most.
  [[nodiscard]] std::vector<int> next(int hand, int count) const;
  /// Frames that are there at the wanted size, of those that fit; 0 to 1.
  [[nodiscard]] double filled() const;
  /// Whether the whole loop fits.
  [[nodiscard]] bool holdsAll() const { return capacity() >= frames_; }
  [[nodiscard]] std::size_t bytes() const { return bytes_; }
  [[nodiscard]] std::size_t budget() const { return budget_; }

 private:
  [[nodiscard]] int capacity() const;
  [[nodiscard]] int ahead(int frame, int hand) const;
  void drop(std::map<int, QImage>::iterator at);
  [[nodiscard]] std::map<int, QImage>::iterator furthest(int hand);

  std::size_t budget_;
  std::size_t bytes_ = 0;
  int frames_ = 1;
  int sharp_ = 0;
  QSize size_{16, 16};
  std::map<int, QImage> pictures_;
};

}  // namespace oa::app
