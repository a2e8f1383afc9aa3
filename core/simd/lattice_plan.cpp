#include "simd/lattice_plan.h"

#include <algorithm>
#include <cmath>

#include "base/numbers.h"
#include "base/random.h"

namespace oa {
namespace {

// Strength of a whole stack of octaves is brought to the same standard deviation, so that turning detail or
// roughness does not change the contrast. 0.62 puts three deviations at the ends of 0 to 1.
constexpr double kGain = 0.62;
// The folded shapes are wider; these bring them to a deviation of about 0.14.
constexpr double kRidgeGain = 0.52;
constexpr double kBillowGain = 0.60;

}  // namespace

const Gradients& gradients() {
  static const Gradients table = [] {
    Gradients g{};
    const double a = 0.3;
    const double b = 0.5;
    const double c = 0.7;
    for (int i = 0; i < 16; ++i) {
      const double s = 1 / std::sqrt(3.0);
      const double px = (i & 1 ? s : -s);
      const double py = (i & 2 ? s : -s);
      const double pz = (i & 4 ? s : -s);
      const double y1 = std::cos(a) * py - std::sin(a) * pz;
      const double z1 = std::sin(a) * py + std::cos(a) * pz;
      const double x2 = std::cos(b) * px + std::sin(b) * z1;
      const double z2 = -std::sin(b) * px + std::cos(b) * z1;
      g.x[i] = static_cast<float>(std::cos(c) * x2 - std::sin(c) * y1);
      g.y[i] = static_cast<float>(std::sin(c) * x2 + std::cos(c) * y1);
      g.z[i] = static_cast<float>(z2);
    }
    return g;
  }();
  return table;
}

int octaveChurn(int churn, int octave) { return static_cast<int>(std::lround(churn * std::pow(1.4, octave))); }

std::vector<Octave> makeOctaves(const NoiseSettings& s) {
  std::vector<Octave> list;
  double energy = 0;
  double strength = 1;
  for (int o = 0; o < s.octaves; ++o, strength *= s.roughness) {
    energy += strength * strength;
    const double f = std::ldexp(1.0, o);
    // Streaks only get finer across.
    const double fu = s.streaks ? 1 : f;
    const double perPixel = std::max(fu * std::hypot(s.ux, s.uy), f * std::hypot(s.vx, s.vy));
    // Cells below two pixels fade out and below one are gone: they would only alias.
    const double visible = std::clamp(1 / perPixel - 1, 0.0, 1.0);
    const std::uint64_t seed = mix64((std::uint64_t{s.seed} << 8) | static_cast<std::uint64_t>(o));
    Octave octave{};
    octave.periodX = s.streaks ? s.periodX : s.periodX << o;
    octave.periodY = s.periodY << o;
    // Each octave is shifted by a share of a cell, or the zeros of all lattices would meet.
    const auto placed = [&](double origin, double times, std::uint64_t index, int period) {
      const double place = origin * times + randomUnit(seed, index);
      return place - std::floor(place / period) * period;
    };
    octave.u0 = placed(s.u0, fu, 0, octave.periodX);
    octave.v0 = placed(s.v0, f, 1, octave.periodY);
    octave.ux = s.ux * fu;
    octave.uy = s.uy * fu;
    octave.vx = s.vx * f;
    octave.vy = s.vy * f;
    const int periodZ = std::max(1, octaveChurn(s.churn, o));
    const double z = randomUnit(seed, 2) + octaveChurn(s.churn, o) * s.progress;
    const auto slice = static_cast<std::int64_t>(std::floor(z));
    octave.fz = z - std::floor(z);
    octave.seed = static_cast<std::uint32_t>(seed >> 20);
    for (int i = 0; i < 2; ++i)
      octave.slice[i] = static_cast<std::uint32_t>(mix64(seed ^ static_cast<std::uint64_t>(floorMod(slice + i, periodZ))) >> 32) | 1u;
    octave.shiftU = randomUnit(seed, 0);
    octave.shiftV = randomUnit(seed, 1);
    octave.timesU = fu;
    octave.timesV = f;
    octave.weight = strength * visible;
    list.push_back(octave);
  }
  const double norm = kGain / std::sqrt(energy);
  const auto first = static_cast<std::size_t>(std::clamp(s.firstOctave, 0, s.octaves));
  list.erase(list.begin(), list.begin() + static_cast<std::ptrdiff_t>(first));
  if (s.lastOctave < s.octaves) list.resize(static_cast<std::size_t>(std::max(s.lastOctave, s.firstOctave) - s.firstOctave));
  std::erase_if(list, [](const Octave& octave) { return octave.weight <= 0; });
  for (Octave& octave : list) {
    octave.strength = octave.weight / std::sqrt(energy) * (s.shape == NoiseShape::Ridged ? kRidgeGain : kBillowGain);
    octave.weight *= norm;
    if (s.shape != NoiseShape::Smooth) octave.weight = kFoldStretch;
  }
  return list;
}

double foldedShape(NoiseShape shape, double noise, double& carry) {
  const double height = std::min(1.0, std::abs(noise));
  if (shape == NoiseShape::Billowing) return height - kBillowMean;
  const double ridge = (1 - height) * (1 - height);
  const double made = carry * (ridge - kRidgeMean);
  carry = std::min(1.0, ridge * kRidgeCarry);
  return made;
}

double LatticeNoise::reference(const NoiseSettings& settings, double x, double y) {
  const double u = settings.u0 + settings.ux * x + settings.uy * y;
  const double v = settings.v0 + settings.vx * x + settings.vy * y;
  return referenceAt(settings, u, v);
}

double LatticeNoise::referenceAt(const NoiseSettings& settings, double placeU, double placeV) {
  const auto& g = gradients();
  double sum = 0.5;
  double carry = 1;
  for (const Octave& o : makeOctaves(settings)) {
    const double u = placeU * o.timesU + o.shiftU;
    const double v = placeV * o.timesV + o.shiftV;
    const double dx = u - std::floor(u);
    const double dy = v - std::floor(v);
    const auto corner = [&](int i, int j, int k) {
      const auto hx = cellBits(floorMod(static_cast<std::int64_t>(std::floor(u)) + i, o.periodX)) * kHashX;
      const auto hy = cellBits(floorMod(static_cast<std::int64_t>(std::floor(v)) + j, o.periodY)) * kHashY;
      const std::uint32_t n = nodeIndex(hx ^ hy ^ o.seed, o.slice[k]);
      return static_cast<double>(g.x[n]) * (dx - i) + static_cast<double>(g.y[n]) * (dy - j) + static_cast<double>(g.z[n]) * (o.fz - k);
    };
    const auto plane = [&](int k) {
      return mix(mix(corner(0, 0, k), corner(1, 0, k), fade(dx)), mix(corner(0, 1, k), corner(1, 1, k), fade(dx)), fade(dy));
    };
    const double noise = o.weight * mix(plane(0), plane(1), fade(o.fz));
    sum += settings.shape == NoiseShape::Smooth ? noise : o.strength * foldedShape(settings.shape, noise, carry);
  }
  return sum;
}

}  // namespace oa
