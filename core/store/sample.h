// What a picture shows before one has been chosen.
#pragma once

#include <string>

namespace oa {

inline constexpr int kSampleWidth = 512;
inline constexpr int kSampleHeight = 384;

/// A tile of waves, without an edge.
std::string sampleDrawing();

}  // namespace oa
