// The plain path: every pixel on its own, in double precision, by the definitions. Slow; for comparison in tests.
#pragma once

#include <array>
#include <cstdint>
#include <vector>

#include "scene/scene.h"

namespace oa {

/// Premultiplied display-encoded RGBA, row by row.
std::vector<std::array<double, 4>> referenceFrame(const Scene& scene, std::int64_t k, int width, int height);
/// The same of any part of the scene's plane.
std::vector<std::array<double, 4>> referenceFrame(const Scene& scene, std::int64_t k, const PlaneView& view);

}  // namespace oa
