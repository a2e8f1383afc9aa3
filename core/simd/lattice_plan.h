// What all paths of lattice noise share: octaves at one moment, hashing, gradients.
#pragma once

#include <cstdint>
#include <vector>

#include "simd/lattice_noise.h"

namespace oa {

// The corners (+-1, +-1, +-1) / sqrt(3) turned by a generic rotation: isotropic to second order and without
// a preferred axis in the picture. Computed as Rz(0.7) Ry(0.5) Rx(0.3) c, rounded.
struct Gradients {
  alignas(64) float x[16];
  alignas(64) float y[16];
  alignas(64) float z[16];
};
const Gradients& gradients();

// A node's place is mixed once; each time slice then draws its gradient with a multiplier of its own, so that a
// pixel that looks at two slices pays for one hash.
constexpr std::uint32_t kHashX = 0x9E3779B1u;
constexpr std::uint32_t kHashY = 0x85EBCA77u;

// A cell's number as it stands in the mantissa of the float 2^23 + cell: vectors get it by adding, without the
// several instructions of a conversion.
constexpr std::uint32_t cellBits(std::int64_t cell) { return 0x4B000000u + static_cast<std::uint32_t>(cell); }

constexpr std::uint32_t nodeIndex(std::uint32_t place, std::uint32_t slice) {
  place ^= place >> 15;
  return (place * slice) >> 29;
}

inline double fade(double t) { return t * t * t * (t * (t * 6 - 15) + 10); }

// What one octave needs at one moment, apart from the picture's width.
struct Octave {
  double u0, ux, uy, v0, vx, vy;
  int periodX, periodY;
  std::uint32_t seed;
  std::uint32_t slice[2];  // odd multipliers of both time slices
  double fz;               // share of the way between them
  double weight;           // what the gradient noise is multiplied with
  double strength;         // of the folded shapes
  double shiftU, shiftV;   // from a place in cells of the coarsest octave to one in this octave's
  double timesU, timesV;
};

std::vector<Octave> makeOctaves(const NoiseSettings& settings);

/// Folded shapes are made of |noise| stretched so that three deviations reach 1, where it ends.
inline constexpr double kFoldStretch = 2.2;
/// Their means, measured over many seeds; taken off, so that every octave is centred for itself.
inline constexpr double kRidgeMean = 0.482;
inline constexpr double kBillowMean = 0.347;
/// Ridges carry finer ridges: an octave is multiplied with so many times the height of the one before, at most 1.
inline constexpr double kRidgeCarry = 1.6;
/// The same as vectors of floats take it: an octave's strength goes into the carry that is handed to it.
struct FoldStep {
  float strength;   // of this octave
  float next;       // of the next one: most that is carried there
  float nextCarry;  // kRidgeCarry times that
};
/// One octave's share of a folded field in plain code; `carry` starts at 1 and is handed from octave to octave.
double foldedShape(NoiseShape shape, double noise, double& carry);

struct LatticeNoise::Plan {
  int width = 0;
  bool aligned = true;
  NoiseShape shape = NoiseShape::Smooth;
  std::vector<Octave> octaves;
  std::vector<FoldStep> folds;  // one for each octave, for folded shapes

  // For axis-aligned rows. For each vector of pixels and each octave, one after the other as the sweep reads them:
  // the places within their cells, their fades, and (as integers) their cells counted from the vector's first.
  std::vector<float> stream;
  std::vector<std::int32_t> first;                // the vector's first cell; its complement where all pixels share it
  std::vector<std::vector<std::uint32_t>> hashX;  // per octave and column of nodes
  std::size_t mostNodes = 0;
};

/// Rows of a turned lattice.
void turnedNoiseRows(const LatticeNoise::Plan& plan, int y0, int y1, float* out, std::ptrdiff_t stride);

}  // namespace oa
