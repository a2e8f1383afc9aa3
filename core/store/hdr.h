// Pictures with more light than a display of today shows, brought into what it does.
#pragma once

#include <cstdint>

extern "C" {
#include <libavutil/frame.h>
}

namespace oa {

/// Whether a frame is coded in one of the transfer functions of Rec. ITU-R BT.2100 (perceptual quantisation, hybrid log-gamma).
bool isHdr(const AVFrame& frame);

/// Nits that count as white: the reference level of Rep. ITU-R BT.2408.
inline constexpr double kReferenceWhite = 203;

/// Linear light, 1 for kReferenceWhite, as what a display shows of it in linear light, [0, 1]: up to a knee it stays; above it is
/// compressed by the curve of E. Reinhard et al., "Photographic tone reproduction for digital images", SIGGRAPH 2002, eq. 4, so that 1000
/// nits become 1.
double displayed(double light);

/// Rows of linear light of Rec. 709 primaries to 16-bit sRGB. The largest of a pixel's channels is brought down and the others with it:
/// hues stay.
void displayRow(const float* red, const float* green, const float* blue, int n, std::uint16_t* rgb, int channels);

}  // namespace oa
