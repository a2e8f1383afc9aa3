#include "check/clip_joint.h"

#include <algorithm>
#include <cmath>

namespace oa {
namespace {

// Small enough that thousands are compared at once, large enough that a hand that is elsewhere is seen.
constexpr int kWide = 48;
constexpr int kHigh = 27;
constexpr int kBlock = 3;
// Pairs that are looked at closely.
constexpr std::size_t kClosely = 60;
// How long ends fade where a cut would be seen.
constexpr double kFade = 0.5;

// Means of the pixels that lie in each of kWide x kHigh fields, premultiplied.
std::vector<float> sketchOf(const Raster& raster) {
  std::vector<float> sum(static_cast<std::size_t>(kWide) * kHigh * 4, 0);
  std::vector<float> count(static_cast<std::size_t>(kWide) * kHigh, 0);
  std::vector<float> row(static_cast<std::size_t>(raster.width) * 4);
  // Of large pictures some rows will do.
  const int every = std::max(1, raster.height / (kHigh * 8));
  for (int y = 0; y < raster.height; y += every) {
    raster.row(y, row.data());
    const int v = static_cast<int>(static_cast<std::int64_t>(y) * kHigh / raster.height);
    for (int x = 0; x < raster.width; ++x) {
      const auto at = static_cast<std::size_t>(v * kWide + static_cast<int>(static_cast<std::int64_t>(x) * kWide / raster.width));
      for (std::size_t c = 0; c < 4; ++c) sum[at * 4 + c] += row[static_cast<std::size_t>(x) * 4 + c];
      count[at] += 1;
    }
  }
  for (std::size_t i = 0; i < sum.size(); ++i) sum[i] *= count[i / 4] > 0 ? 255 / count[i / 4] : 0;
  return sum;
}

std::vector<float> coarser(const std::vector<float>& fine) {
  constexpr int kAcross = kWide / kBlock;
  std::vector<float> out(static_cast<std::size_t>(kAcross) * (kHigh / kBlock) * 4, 0);
  for (int y = 0; y < kHigh; ++y)
    for (int x = 0; x < kWide; ++x)
      for (std::size_t c = 0; c < 4; ++c)
        out[static_cast<std::size_t>(y / kBlock * kAcross + x / kBlock) * 4 + c] +=
            fine[static_cast<std::size_t>(y * kWide + x) * 4 + c] / (kBlock * kBlock);
  return out;
}

double meanDifference(const std::vector<float>& a, const std::vector<float>& b) {
  float sum = 0;
  for (std::size_t i = 0; i < a.size(); ++i) sum += std::abs(a[i] - b[i]);
  return static_cast<double>(sum) / static_cast<double>(a.size());
}

// How much of a joint is seen: what is clean is as good as anything that is clean.
double visible(const JointReport& report) { return report.clean ? 0 : report.median > 0 ? report.ratio() : report.joint; }

}  // namespace

Result<ClipSketch> ClipSketch::make(Clip& clip, double from, double to, const Progress& progress) {
  ClipSketch sketch;
  sketch.info_ = clip.info();
  const std::vector<double>& times = sketch.info_.times;
  const double end = to > 0 ? to : sketch.info_.seconds;
  sketch.first_ = static_cast<std::size_t>(std::lower_bound(times.begin(), times.end(), from - 1e-6) - times.begin());
  const auto last = static_cast<std::size_t>(std::lower_bound(times.begin(), times.end(), end - 1e-6) - times.begin());
  const std::size_t count = last > sketch.first_ ? last - sketch.first_ : 0;
  if (count < 3) return fail("is too short there to look for a joint");
  if (count > kMostSketched) return fail("has more pictures there than can be looked through; choose a shorter part");
  for (std::size_t i = 0; i < count; ++i) {
    if (progress && !progress(static_cast<double>(i) / static_cast<double>(count))) return fail("was not looked through to its end");
    const auto raster = clip.picture(sketch.first_ + i);
    if (!raster) return tl::unexpected(raster.error());
    sketch.fine_.push_back(sketchOf(*raster));
    sketch.coarse_.push_back(coarser(sketch.fine_.back()));
  }
  return sketch;
}

double ClipSketch::distance(std::size_t i, std::size_t j, bool coarse) const {
  const auto& list = coarse ? coarse_ : fine_;
  const auto pair = [&](std::ptrdiff_t by) {
    const auto last = static_cast<std::ptrdiff_t>(list.size()) - 1;
    const auto a = static_cast<std::size_t>(std::clamp(static_cast<std::ptrdiff_t>(i) + by, std::ptrdiff_t{0}, last));
    const auto b = static_cast<std::size_t>(std::clamp(static_cast<std::ptrdiff_t>(j) + by, std::ptrdiff_t{0}, last));
    return meanDifference(list[a], list[b]);
  };
  // With those beside them, or what goes there would be taken for what comes back.
  return pair(0) + 0.5 * (pair(-1) + pair(1));
}

JointReport ClipSketch::jointOf(const ClipPlay& play) const {
  const double to = play.to > 0 ? std::min(play.to, info_.seconds) : info_.seconds;
  const double seconds = playSeconds(info_.seconds, play);
  const auto begins = [&](double t) {
    return static_cast<double>(std::lower_bound(info_.times.begin(), info_.times.end(), t - 1e-6) - info_.times.begin());
  };
  // As many moments as there are pictures.
  const double pictures = std::max(1.0, begins(to) - begins(play.from)) * seconds / std::max(1e-9, to - play.from);
  const auto count = static_cast<std::size_t>(std::max(2.0, std::round(pictures)));
  const auto shown = [&](std::size_t k) {
    std::vector<float> mixed(fine_.front().size(), 0);
    const ClipMix mix = clipAt(info_, play, static_cast<double>(k % count) / static_cast<double>(count));
    for (const auto& part : mix.parts) {
      if (part.weight <= 0) continue;
      const std::size_t at = std::clamp(part.picture, first_, first_ + fine_.size() - 1) - first_;
      for (std::size_t i = 0; i < mixed.size(); ++i) mixed[i] += fine_[at][i] * static_cast<float>(part.weight);
    }
    return mixed;
  };
  std::vector<double> differences;
  std::vector<float> before = shown(0);
  for (std::size_t k = 1; k <= count; ++k) {
    std::vector<float> now = shown(k);
    differences.push_back(meanDifference(before, now));
    before = std::move(now);
  }
  return judgeJoint(differences);
}

ClipPlay ClipSketch::playFrom(const ClipPlay& now, std::size_t i, std::size_t j, double overlap) const {
  ClipPlay play = now;
  play.back = false;
  play.from = info_.times[first_ + i];
  const double end = first_ + j < info_.times.size() ? info_.times[first_ + j] : info_.seconds;
  play.to = std::min(info_.seconds, end + overlap);
  play.overlap = overlap;
  return play;
}

ClipPlay ClipSketch::best(const ClipPlay& now, double least, double most) const {
  const std::size_t n = fine_.size();
  struct Pair {
    double cost;
    std::size_t i, j;
  };
  const auto end = [&](std::size_t j) { return first_ + j < info_.times.size() ? info_.times[first_ + j] : info_.seconds; };
  // The picture that would have come next is like the one that comes instead.
  std::vector<Pair> pairs;
  for (std::size_t i = 0; i < n; ++i)
    for (std::size_t j = i + 2; j < n; ++j) {
      const double length = end(j) - info_.times[first_ + i];
      if (length < least - 1e-6) continue;
      if (length > most + 1e-6) break;
      pairs.push_back({distance(i, j, true), i, j});
    }
  const std::size_t close = std::min(pairs.size(), kClosely);
  std::partial_sort(pairs.begin(), pairs.begin() + static_cast<std::ptrdiff_t>(close), pairs.end(),
                    [](const Pair& a, const Pair& b) { return a.cost < b.cost; });
  pairs.resize(close);
  for (Pair& pair : pairs) pair.cost = distance(pair.i, pair.j, false);
  std::sort(pairs.begin(), pairs.end(), [](const Pair& a, const Pair& b) { return a.cost < b.cost; });

  const double nowLasts = playSeconds(info_.seconds, now);
  ClipPlay found = now;
  // One that is too long or too short is none.
  const bool fits = nowLasts >= least - 1e-6 && nowLasts <= most + 1e-6 && !now.back;
  double seen = fits ? visible(jointOf(now)) : 1e30;
  const auto tryOne = [&](const ClipPlay& play) {
    const double v = visible(jointOf(play));
    if (v >= seen) return;
    seen = v;
    found = play;
  };
  for (const Pair& pair : pairs) {
    tryOne(playFrom(now, pair.i, pair.j, 0));
    if (seen == 0) return found;
  }
  // A cut would be seen: fade over the stretches that are most alike.
  for (const Pair& pair : pairs) {
    const double room = (first_ + n < info_.times.size() ? info_.times[first_ + n] : info_.seconds) - end(pair.j);
    const double overlap = std::min({kFade, room, (end(pair.j) - info_.times[first_ + pair.i]) / 2});
    if (overlap > 0.05) tryOne(playFrom(now, pair.i, pair.j, overlap));
    if (seen == 0) break;
  }
  // Or over what there is, a little shorter.
  if (seen > 0) {
    ClipPlay play = now;
    play.back = false;
    const double room = nowLasts - least;
    play.overlap = std::min(kFade, std::max(0.0, room));
    if (fits && play.overlap > 0.05) tryOne(play);
  }
  return found;
}

}  // namespace oa
