#include "render/frames.h"

#include "image/pack.h"

namespace oa {
namespace {

class Sink8 final : public PixelSink {
 public:
  Sink8(Frame8& frame, bool straight) : frame_(frame), straight_(straight) {}
  void take(int y, int rows, int x0, int n, const float* const* rgba) override {
    for (int r = 0; r < rows; ++r) {
      const std::size_t at = (static_cast<std::size_t>(y + r) * static_cast<std::size_t>(frame_.width) + static_cast<std::size_t>(x0)) * 4;
      packRgba8(rgba[r], n, x0, y + r, straight_, frame_.rgba.data() + at);
    }
  }

 private:
  Frame8& frame_;
  bool straight_;
};

class Sink16 final : public PixelSink {
 public:
  explicit Sink16(Frame16& frame) : frame_(frame) {}
  void take(int y, int rows, int x0, int n, const float* const* rgba) override {
    for (int r = 0; r < rows; ++r) {
      const std::size_t at = (static_cast<std::size_t>(y + r) * static_cast<std::size_t>(frame_.width) + static_cast<std::size_t>(x0)) * 4;
      packRgba16(rgba[r], n, frame_.rgba.data() + at);
    }
  }

 private:
  Frame16& frame_;
};

class SinkYuv final : public PixelSink {
 public:
  explicit SinkYuv(FrameYuv& frame) : frame_(frame) {}
  void take(int y, int rows, int x0, int n, const float* const* rgba) override {
    if (rows != 2) return;  // heights are even
    const auto width = static_cast<std::size_t>(frame_.width);
    const auto row = static_cast<std::size_t>(y);
    const auto x = static_cast<std::size_t>(x0);
    YuvRows out{};
    const std::size_t chroma = row / 2 * (width / 2) + x / 2;
    out.u = frame_.u.data() + chroma;
    out.v = frame_.v.data() + chroma;
    for (std::size_t r = 0; r < 2; ++r) {
      out.y[r] = frame_.y.data() + (row + r) * width + x;
      out.alpha[r] = frame_.alpha.empty() ? nullptr : frame_.alpha.data() + (row + r) * width + x;
    }
    packYuv420(rgba[0], rgba[1], n, x0, y, out);
  }

 private:
  FrameYuv& frame_;
};

std::size_t pixels(const Renderer& r) { return static_cast<std::size_t>(r.width()) * static_cast<std::size_t>(r.height()); }

}  // namespace

void renderInto(Renderer& renderer, std::int64_t k, Alpha alpha, Frame8& out) {
  out.width = renderer.width();
  out.height = renderer.height();
  out.rgba.resize(pixels(renderer) * 4);
  // An opaque ground leaves nothing to divide by.
  const auto& ground = renderer.scene().background;
  Sink8 sink(out, alpha == Alpha::Straight && (!ground || ground->a < 1));
  renderer.render(k, sink);
}

void renderInto(Renderer& renderer, std::int64_t k, Frame16& out) {
  out.width = renderer.width();
  out.height = renderer.height();
  out.rgba.resize(pixels(renderer) * 4);
  Sink16 sink(out);
  renderer.render(k, sink);
}

void renderInto(Renderer& renderer, std::int64_t k, bool withAlpha, FrameYuv& out) {
  out.width = renderer.width();
  out.height = renderer.height();
  out.y.resize(pixels(renderer));
  out.u.resize(pixels(renderer) / 4);
  out.v.resize(pixels(renderer) / 4);
  out.alpha.resize(withAlpha ? pixels(renderer) : 0);
  SinkYuv sink(out);
  renderer.render(k, sink);
}

Frame8 frame(const Scene& scene, std::int64_t k, int width, int height, Alpha alpha, int threads) {
  RenderOptions options;
  options.threads = threads;
  Renderer renderer(scene, width, height, options);
  Frame8 out;
  renderInto(renderer, k, alpha, out);
  return out;
}

}  // namespace oa
