#include "store/drawing_reader.h"

#include <librsvg/rsvg.h>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <future>
#include <thread>

namespace oa {
namespace {

struct Unref {
  void operator()(gpointer p) const { g_object_unref(p); }
};
using Handle = std::unique_ptr<RsvgHandle, Unref>;
struct SurfaceFree {
  void operator()(cairo_surface_t* p) const { cairo_surface_destroy(p); }
};
struct CairoFree {
  void operator()(cairo_t* p) const { cairo_destroy(p); }
};

constexpr const char* kBroken = "is a damaged or unfinished SVG drawing";

// Without a base address nothing outside of the text can be reached.
Handle opened(const std::string& svg) {
  GError* error = nullptr;
  const std::unique_ptr<GInputStream, Unref> stream(
      g_memory_input_stream_new_from_data(svg.data(), static_cast<gssize>(svg.size()), nullptr));
  Handle handle(rsvg_handle_new_from_stream_sync(stream.get(), nullptr, RSVG_HANDLE_FLAGS_NONE, nullptr, &error));
  g_clear_error(&error);
  if (handle) rsvg_handle_set_dpi(handle.get(), 96);
  return handle;
}

Result<PictureSize> measured(const std::string& svg) {
  const Handle handle = opened(svg);
  if (!handle) return fail(kBroken);
  double width = 0;
  double height = 0;
  if (rsvg_handle_get_intrinsic_size_in_pixels(handle.get(), &width, &height) == FALSE) {
    gboolean hasWidth = FALSE;
    gboolean hasHeight = FALSE;
    gboolean hasBox = FALSE;
    RsvgLength w;
    RsvgLength h;
    RsvgRectangle box;
    rsvg_handle_get_intrinsic_dimensions(handle.get(), &hasWidth, &w, &hasHeight, &h, &hasBox, &box);
    width = hasBox ? box.width : 512;
    height = hasBox ? box.height : 512;
  }
  if (!(width > 0 && height > 0)) return fail(kBroken);
  const auto whole = [](double v) { return static_cast<int>(std::clamp(std::ceil(v - 1e-6), 1.0, static_cast<double>(kLongestSide))); };
  return PictureSize{whole(width), whole(height)};
}

Result<Plane> drawn(const std::string& svg, int width, int height) {
  const Handle handle = opened(svg);
  if (!handle) return fail(kBroken);
  const std::unique_ptr<cairo_surface_t, SurfaceFree> surface(cairo_image_surface_create(CAIRO_FORMAT_ARGB32, width, height));
  const std::unique_ptr<cairo_t, CairoFree> cairo(cairo_create(surface.get()));
  if (cairo_status(cairo.get()) != CAIRO_STATUS_SUCCESS) return fail("cannot be drawn in this size: there is not enough memory");
  // Its own proportions, stretched as a whole.
  const auto size = measured(svg);
  if (!size) return tl::unexpected(size.error());
  cairo_scale(cairo.get(), static_cast<double>(width) / size->width, static_cast<double>(height) / size->height);
  const RsvgRectangle viewport{0, 0, static_cast<double>(size->width), static_cast<double>(size->height)};
  GError* error = nullptr;
  const gboolean done = rsvg_handle_render_document(handle.get(), cairo.get(), &viewport, &error);
  g_clear_error(&error);
  if (done == FALSE) return fail(kBroken);
  cairo_surface_flush(surface.get());
  Plane plane(width, height, 4);
  const unsigned char* const data = cairo_image_surface_get_data(surface.get());
  const int stride = cairo_image_surface_get_stride(surface.get());
  for (int y = 0; y < height; ++y) {
    const auto* in = reinterpret_cast<const std::uint32_t*>(data + static_cast<std::ptrdiff_t>(y) * stride);
    float* out = plane.row(y);
    for (int x = 0; x < width; ++x, out += 4) {
      for (int c = 0; c < 3; ++c) out[c] = static_cast<float>((in[x] >> (16 - 8 * c)) & 255) / 255.0f;
      out[3] = static_cast<float>(in[x] >> 24) / 255.0f;
    }
  }
  return plane;
}

// A drawing cannot be stopped; one that never comes to its end is left behind.
template <class T, class Work>
Result<T> inTime(double seconds, const Work& work) {
  auto promise = std::make_shared<std::promise<Result<T>>>();
  auto result = promise->get_future();
  std::thread([promise, work] { promise->set_value(work()); }).detach();
  if (result.wait_for(std::chrono::duration<double>(seconds)) != std::future_status::ready)
    return fail("is too intricate: it takes too long to draw");
  return result.get();
}

}  // namespace

Result<PictureSize> drawingSize(const std::shared_ptr<const std::string>& svg) {
  // Drawn once, tiny: what takes long then will never be done in full.
  return inTime<PictureSize>(kMostTrialSeconds, [svg]() -> Result<PictureSize> {
    auto size = measured(*svg);
    if (!size) return size;
    if (const auto trial = drawn(*svg, 32, 32); !trial) return tl::unexpected(trial.error());
    return size;
  });
}

Result<Plane> readDrawing(const std::shared_ptr<const std::string>& svg, int width, int height) {
  if (static_cast<std::int64_t>(width) * height > kMostDrawnPixels) return fail("cannot be drawn in this size");
  return inTime<Plane>(kMostDrawingSeconds, [svg, width, height] { return drawn(*svg, width, height); });
}

}  // namespace oa
