#include "image/rolled.h"

#include <algorithm>
#include <cmath>

#include "base/numbers.h"
#include "image/even_light.h"
#include "image/least_cut.h"
#include "image/sided.h"

namespace oa {
namespace {

// Pixels of a band at one end.
int bandOf(int length, double share) { return std::clamp(static_cast<int>(std::lround(length * share)), 1, std::max(1, length / 2)); }

std::array<std::vector<float>, 2> cutsOf(const std::vector<Plane>& pictures, bool lying, double bandShare, double soft, bool closed) {
  const Sided first{pictures.front(), lying};
  const int length = first.length();
  const int lines = first.lines();
  const int half = length / 2;
  const int band = bandOf(length, bandShare);
  std::array<std::vector<float>, 2> cuts;
  for (std::size_t end = 0; end < 2; ++end) {
    std::vector<float> cost(static_cast<std::size_t>(band) * static_cast<std::size_t>(lines));
    const auto costAt = [&](int line, int x) -> float& {
      return cost[static_cast<std::size_t>(line) * static_cast<std::size_t>(band) + static_cast<std::size_t>(x)];
    };
    for (const Plane& picture : pictures) {
      const Sided in{picture, lying};
      for (int line = 0; line < lines; ++line)
        for (int x = 0; x < band; ++x) {
          const int along = end == 0 ? x : length - 1 - x;
          costAt(line, x) += pixelDifference(in.at(along, line), in.at(static_cast<int>(floorMod(along + half, length)), line));
        }
    }
    if (band > 2) keepRoom(cost, band, lines, soft);
    for (const int place : leastCut(cost, band, lines, closed)) cuts[end].push_back(static_cast<float>((place + 0.5) / band));
  }
  return cuts;
}

// Where the cut crosses line `line` of `lines`, between those that it was found in.
double placeAt(const std::vector<float>& cut, int line, int lines, bool round, int band) {
  const auto count = static_cast<int>(cut.size());
  const double at = (line + 0.5) * count / lines - 0.5;
  const double low = std::floor(at);
  const auto known = [&](double i) {
    const int k = round ? static_cast<int>(floorMod(static_cast<int>(i), count)) : std::clamp(static_cast<int>(i), 0, count - 1);
    return static_cast<double>(cut[static_cast<std::size_t>(k)]);
  };
  return mix(known(low), known(low + 1), at - low) * band - 0.5;
}

void mixPixel(const float* own, const float* other, double t, float* to) {
  for (int c = 0; c < 4; ++c) to[c] = own[c] + (other[c] - own[c]) * static_cast<float>(t);
}

}  // namespace

RolledEnds::RolledEnds(const std::vector<Plane>& pictures, const SeamSettings& settings) : settings_(settings) {
  std::vector<const Plane*> all;
  all.reserve(pictures.size());
  for (const Plane& picture : pictures) all.push_back(&picture);
  if (settings.even > 0) light_ = std::make_shared<const EvenLight>(all, settings.even);
  if (!settings.cut) return;
  // What is cut is what will be there: evened, and for the second way closed in the first.
  const auto madeWith = [&](bool across) {
    RolledEnds before = *this;
    before.settings_.across = across;
    before.settings_.down = false;
    std::vector<Plane> made;
    for (const Plane& picture : pictures) {
      const RolledRows rows(before, picture);
      Plane& out = made.emplace_back(picture.width(), picture.height(), 4);
      for (int y = 0; y < picture.height(); ++y) rows.row(y, out.row(y));
    }
    return made;
  };
  if (settings.across) across_ = cutsOf(madeWith(false), false, settings.band, settings.soft, false);
  if (settings.down) down_ = cutsOf(madeWith(settings.across), true, settings.band, settings.soft, settings.across);
}

RolledRows::RolledRows(const RolledEnds& ends, const Plane& picture)
    : ends_(ends),
      picture_(picture),
      bandX_(bandOf(picture.width(), ends.settings_.band)),
      bandY_(bandOf(picture.height(), ends.settings_.band)) {
  const SeamSettings& s = ends.settings_;
  columns_.resize(static_cast<std::size_t>(picture.width()));
  if (s.down && s.cut)
    for (int x = 0; x < picture.width(); ++x)
      for (std::size_t end = 0; end < 2; ++end)
        columns_[static_cast<std::size_t>(x)][end] = placeAt(ends.down_[end], x, picture.width(), s.across, bandY_);
}

// Of what lies half of it further on.
double RolledRows::share(double x, double cut, int band) const {
  return ends_.settings_.cut ? cutShare(x, cut, band, ends_.settings_.soft) : fadeShare(x, band);
}

void RolledRows::acrossRow(int y, float* rgba) const {
  const SeamSettings& s = ends_.settings_;
  const int width = picture_.width();
  const float* own = picture_.row(y);
  std::vector<float> evened;
  if (ends_.light_) {
    std::vector<float> gains(static_cast<std::size_t>(width));
    evened.resize(static_cast<std::size_t>(width) * 4);
    ends_.light_->gains((y + 0.5) / picture_.height(), width, gains.data());
    multiplyColours(own, gains.data(), width, evened.data());
    own = evened.data();
  }
  std::copy_n(own, static_cast<std::size_t>(width) * 4, rgba);
  // The band at one end, and at the other; where they would lie over each other each has its half.
  for (int end = 0; end < 2 && s.across; ++end) {
    const auto at = static_cast<std::size_t>(end);
    const double cut = s.cut ? placeAt(ends_.across_[at], y, picture_.height(), false, bandX_) : 0;
    for (int x = end == 0 ? 0 : std::max(bandX_, width - bandX_); x < (end == 0 ? bandX_ : width); ++x) {
      const auto other = static_cast<std::ptrdiff_t>(floorMod(x + width / 2, width));
      mixPixel(own + static_cast<std::ptrdiff_t>(x) * 4, own + other * 4, share(end == 0 ? x : width - 1 - x, cut, bandX_),
               rgba + static_cast<std::ptrdiff_t>(x) * 4);
    }
  }
}

void RolledRows::row(int y, float* rgba) const {
  const int width = picture_.width();
  const int height = picture_.height();
  acrossRow(y, rgba);
  const bool first = y < bandY_;
  if (ends_.settings_.down && (first || y >= height - bandY_)) {
    std::vector<float> other(static_cast<std::size_t>(width) * 4);
    acrossRow(static_cast<int>(floorMod(y + height / 2, height)), other.data());
    for (int x = 0; x < width; ++x) {
      float* const to = rgba + static_cast<std::ptrdiff_t>(x) * 4;
      const double cut = columns_[static_cast<std::size_t>(x)][first ? 0 : 1];
      mixPixel(to, other.data() + static_cast<std::ptrdiff_t>(x) * 4, share(first ? y : height - 1 - y, cut, bandY_), to);
    }
  }
}

}  // namespace oa
