#include "store/clip_time.h"

#include <algorithm>
#include <cmath>

namespace oa {
namespace {

// Moments are worked out from shares, and do not quite meet where a picture begins.
constexpr double kClose = 1e-6;

struct Part {
  std::size_t first = 0;
  std::size_t last = 0;
  double from = 0;  // when the first begins
  double to = 0;    // when the last ends
};

std::size_t pictureAt(const MovingInfo& info, double seconds) {
  const auto after = std::upper_bound(info.times.begin(), info.times.end(), seconds + kClose);
  return after == info.times.begin() ? 0 : static_cast<std::size_t>(after - info.times.begin()) - 1;
}

double endOf(const MovingInfo& info, std::size_t picture) {
  return picture + 1 < info.times.size() ? info.times[picture + 1] : info.seconds;
}

// Whole pictures, one at least.
Part partOf(const MovingInfo& info, const ClipPlay& play) {
  Part part;
  const double to = play.to > 0 ? std::min(play.to, info.seconds) : info.seconds;
  part.first = pictureAt(info, std::clamp(play.from, 0.0, info.times.back()));
  part.last = std::max(part.first, pictureAt(info, std::max(0.0, to - 3 * kClose)));
  part.from = info.times[part.first];
  part.to = endOf(info, part.last);
  return part;
}

// Adds the picture at a time of the clip; `after` is what follows the part's last one.
void add(ClipMix& mix, std::size_t& count, const MovingInfo& info, const Part& part, double seconds, double weight, bool between,
         std::size_t after) {
  if (weight <= 0) return;
  const std::size_t at = std::clamp(pictureAt(info, seconds), part.first, part.last);
  const double gone = (seconds - info.times[at]) / (endOf(info, at) - info.times[at]);
  const double share = between && gone > 1e-4 ? std::min(gone, 1.0) : 0;
  mix.parts[count++] = {at, weight * (1 - share)};
  if (share > 0) mix.parts[count++] = {at == part.last ? after : at + 1, weight * share};
}

}  // namespace

bool ClipMix::operator==(const ClipMix& other) const {
  return std::equal(parts.begin(), parts.end(), other.parts.begin(),
                    [](const Part& a, const Part& b) { return a.weight == b.weight && (a.weight == 0 || a.picture == b.picture); });
}

ClipMix clipAt(const MovingInfo& info, const ClipPlay& play, double u) {
  const Part part = partOf(info, play);
  ClipMix mix;
  std::size_t count = 0;
  const double playing = 1 - play.stands;
  if (u >= playing - 1e-12 && play.stands > 0) {
    add(mix, count, info, part, play.back ? part.from : info.times[part.last], 1, false, part.last);
    return mix;
  }
  u = playing > 0 ? u / playing : 0;
  if (play.back) {
    // From where the first begins to where the last one does, and the same way back: neither end is shown twice.
    const double way = u < 0.5 ? 2 * u : 2 - 2 * u;
    const double seconds = part.from + way * (info.times[part.last] - part.from);
    // Halfway between two pictures the nearer one is there.
    std::size_t at = std::clamp(pictureAt(info, seconds), part.first, part.last);
    if (!play.between) {
      if (at < part.last && info.times[at + 1] - seconds < seconds - info.times[at]) ++at;
      mix.parts[0] = {at, 1};
      return mix;
    }
    add(mix, count, info, part, seconds, 1, true, part.last);
    return mix;
  }
  const double whole = part.to - part.from;
  const double overlap = std::clamp(play.overlap, 0.0, whole / 2);
  const double length = whole - overlap;
  const double gone = u * length;
  if (gone >= overlap) {
    // The picture after the last is the one that the next play begins with: where ends overlap that is still one of the end.
    const std::size_t next = overlap > 0 ? std::min(part.last, pictureAt(info, part.from + length)) : part.first;
    add(mix, count, info, part, part.from + gone, 1, play.between, next);
    return mix;
  }
  const double in = gone / overlap;
  add(mix, count, info, part, part.from + gone, in, play.between, part.first);
  add(mix, count, info, part, part.from + length + gone, 1 - in, play.between, part.last);
  return mix;
}

ClipMix clipThrough(const MovingInfo& info, const ClipPlay& play, double seconds) {
  const Part part = partOf(info, play);
  ClipMix mix;
  std::size_t count = 0;
  const double at = std::min(part.from + std::max(0.0, seconds), info.times[part.last]);
  add(mix, count, info, part, at, 1, false, part.last);
  return mix;
}

double playSeconds(double clipSeconds, const ClipPlay& play) {
  const double to = play.to > 0 ? std::min(play.to, clipSeconds) : clipSeconds;
  const double whole = std::max(0.0, to - std::min(play.from, clipSeconds));
  return (play.back ? 2 : 1) * whole - (play.back ? 0 : std::clamp(play.overlap, 0.0, whole / 2));
}

}  // namespace oa
