// Finished frames in the forms that screens and files take.
#pragma once

#include <cstdint>
#include <vector>

#include "render/renderer.h"

namespace oa {

/// 8-bit RGBA, rows without padding.
struct Frame8 {
  int width = 0;
  int height = 0;
  std::vector<std::uint8_t> rgba;
};
/// 16-bit RGBA in native byte order.
struct Frame16 {
  int width = 0;
  int height = 0;
  std::vector<std::uint16_t> rgba;
};
/// Planar YCbCr 4:2:0 with an optional full-size alpha plane; width and height are even.
struct FrameYuv {
  int width = 0;
  int height = 0;
  std::vector<std::uint8_t> y, u, v, alpha;
};

enum class Alpha { Premultiplied, Straight };

void renderInto(Renderer& renderer, std::int64_t k, Alpha alpha, Frame8& out);
void renderInto(Renderer& renderer, std::int64_t k, Frame16& out);
void renderInto(Renderer& renderer, std::int64_t k, bool withAlpha, FrameYuv& out);

/// The pure function: frame k of the scene at a size.
Frame8 frame(const Scene& scene, std::int64_t k, int width, int height, Alpha alpha = Alpha::Straight, int threads = 0);

}  // namespace oa
