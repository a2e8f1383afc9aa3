// Noise folded by noise: every place looks up the field some way off, as two other noises say (domain warping).
#pragma once

#include <memory>

#include "fields/lattice.h"
#include "simd/lattice_noise.h"

namespace oa {

struct FoldedSettings {
  NoiseSettings noise;  ///< the field that is folded, over the frame's pixels; u0 to vy say where
  double amount = 1;    ///< cells that a strong value shifts by
  int detail = 2;       ///< octaves of the two noises that shift
};

/// Octaves below this are folded; finer ones lie straight over them, where the eye cannot tell.
inline constexpr int kFoldedOctaves = 4;

/// The field is worked out every `step` pixels and enlarged; `step` fits its finest folded octave.
double foldedStep(const FoldedSettings& settings);
std::unique_ptr<RowMaker> foldedNoise(const FoldedSettings& settings, const PlaneView& view, double step);

/// One value in double precision.
double foldedReference(const FoldedSettings& settings, double x, double y);

}  // namespace oa
