#include "media/palette256.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "base/parallel.h"
#include "image/colour.h"
#include "image/colour_clusters.h"
#include "image/pack.h"

namespace oa {
namespace {

using Entry = WeightedLab;

OkLab labOf(double r, double g, double b) {
  return toOkLab({static_cast<float>(r / 255), static_cast<float>(g / 255), static_cast<float>(b / 255), 1});
}

double axisOf(const OkLab& lab, std::size_t axis) { return axis == 0 ? lab.L : axis == 1 ? lab.a : lab.b; }

// Colours of all samples, five bits a channel, each with the mean of what fell into it.
std::vector<Entry> histogram(const std::vector<Frame8>& samples) {
  struct Bin {
    double r = 0, g = 0, b = 0, n = 0;
  };
  std::vector<Bin> bins(32 * 32 * 32);
  for (const Frame8& frame : samples)
    for (std::size_t i = 0; i + 3 < frame.rgba.size(); i += 4) {
      const std::uint8_t* p = frame.rgba.data() + i;
      if (p[3] < 128) continue;
      Bin& bin = bins[static_cast<std::size_t>((p[0] >> 3) << 10 | (p[1] >> 3) << 5 | (p[2] >> 3))];
      bin.r += p[0];
      bin.g += p[1];
      bin.b += p[2];
      bin.n += 1;
    }
  std::vector<Entry> entries;
  for (const Bin& bin : bins)
    if (bin.n > 0) entries.push_back({labOf(bin.r / bin.n, bin.g / bin.n, bin.b / bin.n), std::sqrt(bin.n)});
  return entries;
}

// Splits the box with the largest spread at its weighted middle until there are enough.
std::vector<OkLab> medianCut(std::vector<Entry> entries, std::size_t colours) {
  struct Box {
    std::size_t begin, end;
    double spread;
    std::size_t axis;
  };
  const auto measured = [&](std::size_t begin, std::size_t end) {
    Box box{begin, end, 0, 0};
    for (std::size_t axis = 0; axis < 3; ++axis) {
      double low = 1e9;
      double high = -1e9;
      double weight = 0;
      for (std::size_t i = begin; i < end; ++i) {
        low = std::min(low, axisOf(entries[i].lab, axis));
        high = std::max(high, axisOf(entries[i].lab, axis));
        weight += entries[i].weight;
      }
      const double spread = (high - low) * std::cbrt(weight);
      if (spread > box.spread) {
        box.spread = spread;
        box.axis = axis;
      }
    }
    return box;
  };
  std::vector<Box> boxes{measured(0, entries.size())};
  while (boxes.size() < colours) {
    const auto widest = std::max_element(boxes.begin(), boxes.end(), [](const Box& a, const Box& b) { return a.spread < b.spread; });
    if (widest->end - widest->begin < 2 || widest->spread <= 0) break;
    const Box box = *widest;
    std::sort(entries.begin() + static_cast<std::ptrdiff_t>(box.begin), entries.begin() + static_cast<std::ptrdiff_t>(box.end),
              [&](const Entry& a, const Entry& b) { return axisOf(a.lab, box.axis) < axisOf(b.lab, box.axis); });
    double total = 0;
    for (std::size_t i = box.begin; i < box.end; ++i) total += entries[i].weight;
    double sum = 0;
    std::size_t middle = box.begin;
    while (middle < box.end - 2 && sum + entries[middle].weight < total / 2) sum += entries[middle++].weight;
    *widest = measured(box.begin, middle + 1);
    boxes.push_back(measured(middle + 1, box.end));
  }
  std::vector<OkLab> centres;
  for (const Box& box : boxes) {
    OkLab sum;
    double weight = 0;
    for (std::size_t i = box.begin; i < box.end; ++i) {
      const Entry& e = entries[i];
      sum = {sum.L + e.lab.L * e.weight, sum.a + e.lab.a * e.weight, sum.b + e.lab.b * e.weight};
      weight += e.weight;
    }
    centres.push_back({sum.L / weight, sum.a / weight, sum.b / weight});
  }
  return centres;
}

}  // namespace

Palette256::Palette256(const std::vector<Frame8>& samples, bool alpha) : argb_(256, 0xFF000000u), lookup_(64 * 64 * 64), alpha_(alpha) {
  const std::vector<Entry> entries = histogram(samples);
  std::vector<OkLab> centres;
  if (!entries.empty()) {
    centres = medianCut(entries, alpha ? 255 : 256);
    settleMiddles(centres, entries, 3);
  } else {
    centres.push_back({});
  }
  for (std::size_t i = 0; i < centres.size(); ++i) {
    const Colour c = fromOkLab(centres[i]);
    const auto byte = [](float v) { return static_cast<std::uint32_t>(std::lround(v * 255)); };
    argb_[i] = 0xFF000000u | byte(c.r) << 16 | byte(c.g) << 8 | byte(c.b);
  }
  if (alpha) argb_[255] = 0;
  parallelBands(64, [&](int r0, int r1) {
    for (int r = r0; r < r1; ++r)
      for (int g = 0; g < 64; ++g)
        for (int b = 0; b < 64; ++b)
          lookup_[static_cast<std::size_t>(r << 12 | g << 6 | b)] =
              static_cast<std::uint8_t>(nearestMiddle(centres, labOf(r * 255 / 63.0, g * 255 / 63.0, b * 255 / 63.0)));
  });
}

std::uint8_t Palette256::nearest(int r, int g, int b) const {
  const auto six = [](int v) { return static_cast<std::size_t>((std::clamp(v, 0, 255) * 63 + 127) / 255); };
  return lookup_[six(r) << 12 | six(g) << 6 | six(b)];
}

void Palette256::reduce(const Frame8& frame, GifDither dither, std::vector<std::uint8_t>& indexes) const {
  const auto width = static_cast<std::size_t>(frame.width);
  indexes.resize(width * static_cast<std::size_t>(frame.height));
  if (dither != GifDither::Diffusion) {
    const int strength = dither == GifDither::Pattern ? 14 : 0;
    parallelBands(frame.height, [&](int y0, int y1) {
      for (int y = y0; y < y1; ++y)
        for (int x = 0; x < frame.width; ++x) {
          const std::size_t i = static_cast<std::size_t>(y) * width + static_cast<std::size_t>(x);
          const std::uint8_t* p = frame.rgba.data() + i * 4;
          const int nudge = static_cast<int>(std::lround((ditherAt(x, y) - 0.5f) * static_cast<float>(strength)));
          indexes[i] = alpha_ && p[3] < 128 ? 255 : nearest(p[0] + nudge, p[1] + nudge, p[2] + nudge);
        }
    });
    return;
  }
  // Floyd & Steinberg (1976): the error of a pixel goes to its neighbours, 7, 3, 5 and 1 sixteenths.
  std::vector<std::array<float, 3>> here(width + 2);
  std::vector<std::array<float, 3>> below(width + 2);
  for (int y = 0; y < frame.height; ++y) {
    std::fill(below.begin(), below.end(), std::array<float, 3>{});
    for (std::size_t x = 0; x < width; ++x) {
      const std::size_t i = static_cast<std::size_t>(y) * width + x;
      const std::uint8_t* p = frame.rgba.data() + i * 4;
      if (alpha_ && p[3] < 128) {
        indexes[i] = 255;
        continue;
      }
      float wanted[3];
      for (std::size_t c = 0; c < 3; ++c) wanted[c] = static_cast<float>(p[c]) + here[x + 1][c];
      const std::uint8_t index = nearest(static_cast<int>(std::lround(wanted[0])), static_cast<int>(std::lround(wanted[1])),
                                         static_cast<int>(std::lround(wanted[2])));
      indexes[i] = index;
      for (std::size_t c = 0; c < 3; ++c) {
        const float error = std::clamp(wanted[c] - static_cast<float>(argb_[index] >> (16 - 8 * c) & 255), -48.0f, 48.0f);
        here[x + 2][c] += error * 7 / 16;
        below[x][c] += error * 3 / 16;
        below[x + 1][c] += error * 5 / 16;
        below[x + 2][c] += error / 16;
      }
    }
    std::swap(here, below);
  }
}

}  // namespace oa
