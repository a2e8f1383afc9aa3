// Opaque colours of a byte for each channel.
#pragma once

#include <cstdint>

namespace oa {

/// `n` pixels of red, green, blue as four floats each, from 0 to 1, alpha 1.
void floatsOfBytes(const std::uint8_t* rgb, int n, float* rgba);

/// `n` pixels out of three planes, side by side.
void bytesOfPlanes(const std::uint8_t* red, const std::uint8_t* green, const std::uint8_t* blue, int n, std::uint8_t* rgb);

}  // namespace oa
