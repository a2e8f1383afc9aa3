// Gradient noise in layers, each finer than the one before, on a lattice that is periodic in x, y and inner time.
//
// Gradient noise after K. Perlin, "Improving Noise" (SIGGRAPH 2002): quintic fade, gradients at lattice
// nodes. Ours differs in the gradients (eight corners of a turned cube) and in that the corner hash takes
// its indices modulo whole periods, so that a tile and a lap close exactly (see docs/loop.md).
#pragma once

#include <cstddef>
#include <cstdint>
#include <memory>
#include <vector>

namespace oa {

inline constexpr int kMaxOctaves = 12;

enum class NoiseShape {
  Smooth,     ///< the sum of octaves
  Ridged,     ///< sharp crests where noise passes its middle; finer crests only upon coarser ones
  Billowing,  ///< round bodies that meet in creases
};

/// The lattice over the picture: pixel (X, Y) (centres at whole numbers) has the cell coordinates
/// u = u0 + ux X + uy Y and v = v0 + vx X + vy Y at the coarsest octave; octave o doubles them o times.
struct NoiseSettings {
  double u0 = 0;
  double ux = 0.01;
  double uy = 0;
  double v0 = 0;
  double vx = 0;
  double vy = 0.01;
  int periodX = 1;  ///< cells in one tile across, at the coarsest octave
  int periodY = 1;
  int octaves = 1;      ///< 1 to kMaxOctaves
  int firstOctave = 0;  ///< only octaves [firstOctave, lastOctave) are made, as strong as among all of them
  int lastOctave = kMaxOctaves;
  NoiseShape shape = NoiseShape::Smooth;
  bool streaks = false;    ///< octaves get finer in v only
  double roughness = 0.5;  ///< strength of an octave against the one before it
  int churn = 0;           ///< cells of inner time in one lap; 0: frozen
  double progress = 0;     ///< share of the lap done
  std::uint32_t seed = 0;
};

/// Cells of inner time that octave `octave` passes in one lap: finer detail lives faster, by 1.4 for each
/// octave, rounded so that it still closes.
int octaveChurn(int churn, int octave);

class LatticeNoise {
 public:
  /// Plans rows of `width` pixels.
  LatticeNoise(const NoiseSettings& settings, int width);
  ~LatticeNoise();

  /// Rows [y0, y1) of the field, about 0.5 with a standard deviation near 0.116 (smooth) for any
  /// number of octaves; not clipped.
  /// Rows must have room for the width rounded up to kSpanPadding.
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const;

  /// `n` values of the smooth field at places in cells of the coarsest octave, for settings with u0 = v0 = 0. Buffers
  /// have room for n rounded up to kSpanPadding; |u| and |v| stay below 2^20.
  void at(const float* u, const float* v, int n, float* out) const;

  /// One value in plain double-precision code; the definition that rows() is tested against.
  [[nodiscard]] static double reference(const NoiseSettings& settings, double x, double y);
  /// The same at a place in cells of the coarsest octave.
  [[nodiscard]] static double referenceAt(const NoiseSettings& settings, double u, double v);

  struct Plan;

 private:
  std::unique_ptr<Plan> plan_;
};

}  // namespace oa
