#include "media/gif_timing.h"

#include <algorithm>

namespace oa {

bool wholeHundredths(std::int64_t frames, const Rational& rate) { return frames * 100 * rate.den % rate.num == 0; }

GifTiming::GifTiming(std::int64_t frames, const Rational& rate) : frames_(frames), pictures_(frames) {
  const std::int64_t ticks = frames * 100 * rate.den;
  total_ = std::max<std::int64_t>(2, (ticks + rate.num / 2) / rate.num);
  if (total_ >= 2 * frames) return;
  // Every second, third, ... frame where that comes out even.
  const std::int64_t most = std::max<std::int64_t>(1, total_ / 2);
  const std::int64_t every = (frames + most - 1) / most;
  pictures_ = frames % every == 0 ? frames / every : most;
}

int GifTiming::hundredths(std::int64_t i) const {
  // The ends are spread so that the longer delays lie between the shorter ones.
  const auto end = [&](std::int64_t n) { return (2 * n * total_ + pictures_) / (2 * pictures_); };
  return static_cast<int>(std::min<std::int64_t>(65535, end(i + 1) - end(i)));
}

}  // namespace oa
