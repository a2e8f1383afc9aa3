#include "image/rolled.h"

#include <algorithm>
#include <cmath>

#include "base/numbers.h"
#include "base/parallel.h"
#include "image/even_light.h"
#include "image/least_cut.h"
#include "image/sided.h"

namespace oa {
namespace {

// Pixels of a band at one end.
int bandOf(int length, double share) { return std::clamp(static_cast<int>(std::lround(length * share)), 1, std::max(1, length / 2)); }

}  // namespace

RolledEnds::RolledEnds(const std::vector<Plane>& pictures, const SeamSettings& settings) : settings_(settings) {
  std::vector<const Plane*> all;
  for (const Plane& picture : pictures) all.push_back(&picture);
  if (settings.even > 0) light_ = std::make_shared<const EvenLight>(all, settings.even);
  if (!settings.cut) return;
  std::vector<Plane> now;
  for (const Plane& picture : pictures) now.push_back(evened(picture));
  if (settings.across) {
    cuts_[0] = cutsOf(now, false);
    for (Plane& picture : now) picture = closedAlong(picture, false);
  }
  if (settings.down) cuts_[1] = cutsOf(now, true);
}

Plane RolledEnds::closed(const Plane& picture) const {
  Plane made = evened(picture);
  if (settings_.across) made = closedAlong(made, false);
  if (settings_.down) made = closedAlong(made, true);
  return made;
}

Plane RolledEnds::evened(const Plane& picture) const {
  Plane out(picture.width(), picture.height(), 4);
  parallelBands(picture.height(), [&](int y0, int y1) {
    std::vector<float> gains(static_cast<std::size_t>(picture.width()));
    for (int y = y0; y < y1; ++y) {
      if (light_) {
        light_->gains((y + 0.5) / picture.height(), picture.width(), gains.data());
        multiplyColours(picture.row(y), gains.data(), picture.width(), out.row(y));
      } else {
        std::copy_n(picture.row(y), static_cast<std::size_t>(picture.width()) * 4, out.row(y));
      }
    }
  });
  return out;
}

RolledEnds::Cuts RolledEnds::cutsOf(const std::vector<Plane>& pictures, bool lying) const {
  const Sided first{pictures.front(), lying};
  const int length = first.length();
  const int lines = first.lines();
  const int half = length / 2;
  const int band = bandOf(length, settings_.band);
  Cuts cuts;
  for (std::size_t end = 0; end < 2; ++end) {
    std::vector<float> cost(static_cast<std::size_t>(band) * static_cast<std::size_t>(lines));
    for (const Plane& picture : pictures) {
      const Sided in{picture, lying};
      for (int line = 0; line < lines; ++line)
        for (int x = 0; x < band; ++x) {
          const int along = end == 0 ? x : length - 1 - x;
          cost[static_cast<std::size_t>(line) * static_cast<std::size_t>(band) + static_cast<std::size_t>(x)] +=
              pixelDifference(in.at(along, line), in.at(floorMod(along + half, length), line));
        }
    }
    // Not along the band's very ends, where there would be no room to go over.
    for (int line = 0; line < lines && band > 4; ++line)
      for (const int x : {0, band - 1})
        cost[static_cast<std::size_t>(line) * static_cast<std::size_t>(band) + static_cast<std::size_t>(x)] += 400;
    for (const int place : leastCut(cost, band, lines, lying && settings_.across))
      cuts[end].push_back(static_cast<float>((place + 0.5) / band));
  }
  return cuts;
}

Plane RolledEnds::closedAlong(const Plane& picture, bool lying) const {
  const Sided in{picture, lying};
  const int length = in.length();
  const int lines = in.lines();
  const int half = length / 2;
  const int band = bandOf(length, settings_.band);
  // For each line the place of both cuts, in pixels of the band.
  std::array<std::vector<double>, 2> places;
  const Cuts& cuts = cuts_[lying ? 1 : 0];
  for (std::size_t end = 0; end < 2 && settings_.cut; ++end) {
    const auto& known = cuts[end];
    const auto count = static_cast<int>(known.size());
    const bool round = lying && settings_.across;
    for (int line = 0; line < lines; ++line) {
      const double at = (line + 0.5) * count / lines - 0.5;
      const double low = std::floor(at);
      const auto knownAt = [&](double i) {
        const int k = round ? floorMod(static_cast<int>(i), count) : std::clamp(static_cast<int>(i), 0, count - 1);
        return static_cast<double>(known[static_cast<std::size_t>(k)]);
      };
      places[end].push_back(mix(knownAt(low), knownAt(low + 1), at - low) * band - 0.5);
    }
  }
  const auto share = [&](std::size_t end, int x, int line) {  // of what lies half of it further on
    if (!settings_.cut) return fadeShare(x, band);
    return cutShare(x, places[end][static_cast<std::size_t>(line)], band, settings_.soft);
  };
  Plane out(picture.width(), picture.height(), 4);
  parallelBands(out.height(), [&](int y0, int y1) {
    const auto mixed = [&](int along, int line, std::size_t end, float* to) {
      const float* const own = in.at(along, line);
      const float* const other = in.at(floorMod(along + half, length), line);
      const auto t = static_cast<float>(share(end, end == 0 ? along : length - 1 - along, line));
      for (int c = 0; c < 4; ++c) to[c] = own[c] + (other[c] - own[c]) * t;
    };
    for (int y = y0; y < y1; ++y) {
      float* const row = out.row(y);
      const auto width = static_cast<std::size_t>(picture.width());
      if (lying) {
        const bool first = y < band;
        if (!first && y < length - band) {
          std::copy_n(picture.row(y), width * 4, row);
          continue;
        }
        for (int x = 0; x < picture.width(); ++x) mixed(y, x, first ? 0 : 1, row + static_cast<std::ptrdiff_t>(x) * 4);
        continue;
      }
      std::copy_n(picture.row(y), width * 4, row);
      // Where the bands would lie over each other each has its half.
      for (int x = 0; x < band; ++x) mixed(x, y, 0, row + static_cast<std::ptrdiff_t>(x) * 4);
      for (int x = std::max(band, length - band); x < length; ++x) mixed(x, y, 1, row + static_cast<std::ptrdiff_t>(x) * 4);
    }
  });
  return out;
}

}  // namespace oa
