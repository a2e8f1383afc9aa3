#include "store/av_frame.h"

extern "C" {
#include <libavutil/pixdesc.h>
#include <libswscale/swscale.h>
}

#include <cstring>

#include "store/yuv.h"

namespace oa {
namespace {

struct ScalerFree {
  void operator()(SwsContext* p) const { sws_freeContext(p); }
};

}  // namespace

std::optional<Raster> rasterOf(const AVFrame& f, int width, int height) {
  if (auto raster = rasterOfYuv(f, width, height)) return raster;
  const auto format = static_cast<AVPixelFormat>(f.format);
  const AVPixFmtDescriptor* described = av_pix_fmt_desc_get(format);
  if (!described || f.width < 1 || f.height < 1 || !sws_isSupportedInput(format)) return std::nullopt;
  const bool deep = described->comp[0].depth > 8;
  const bool alpha = (described->flags & AV_PIX_FMT_FLAG_ALPHA) != 0 || format == AV_PIX_FMT_PAL8;
  const AVPixelFormat wanted = deep ? (alpha ? AV_PIX_FMT_RGBA64LE : AV_PIX_FMT_RGB48LE) : (alpha ? AV_PIX_FMT_RGBA : AV_PIX_FMT_RGB24);
  const std::unique_ptr<SwsContext, ScalerFree> scaler(sws_alloc_context());
  if (!scaler) return std::nullopt;
  const auto set = [&](const char* name, std::int64_t value) { av_opt_set_int(scaler.get(), name, value, 0); };
  set("srcw", f.width);
  set("srch", f.height);
  set("src_format", format);
  set("dstw", width);
  set("dsth", height);
  set("dst_format", wanted);
  set("sws_flags", SWS_BICUBIC | SWS_ACCURATE_RND);
  if (sws_init_context(scaler.get(), nullptr, nullptr) < 0) return std::nullopt;
  Raster raster{width, height, alpha ? 4 : 3, deep ? 16 : 8, {}};
  AvFrame to(av_frame_alloc());
  if (!to) return std::nullopt;
  to->width = width;
  to->height = height;
  to->format = wanted;
  // Its vector code writes in whole vectors.
  if (av_frame_get_buffer(to.get(), 64) < 0 || sws_scale_frame(scaler.get(), to.get(), &f) < 0) return std::nullopt;
  const auto data = rasterBytes(raster.bytes());
  for (int y = 0; y < height; ++y)
    std::memcpy(data.get() + raster.rowBytes() * static_cast<std::size_t>(y),
                to->data[0] + static_cast<std::ptrdiff_t>(y) * to->linesize[0], raster.rowBytes());
  raster.data = {data, data.get()};
  return raster;
}

Raster turnedBy(const Raster& from, int quarters) {
  quarters = ((quarters % 4) + 4) % 4;
  if (quarters == 0) return from;
  Raster to = from;
  if (quarters != 2) std::swap(to.width, to.height);
  const std::size_t size = static_cast<std::size_t>(from.channels) * static_cast<std::size_t>(from.bits / 8);
  const auto data = rasterBytes(to.bytes());
  for (int y = 0; y < to.height; ++y)
    for (int x = 0; x < to.width; ++x) {
      const int column = quarters == 1 ? y : quarters == 2 ? from.width - 1 - x : from.width - 1 - y;
      const int row = quarters == 1 ? from.height - 1 - x : quarters == 2 ? from.height - 1 - y : x;
      std::memcpy(data.get() + to.rowBytes() * static_cast<std::size_t>(y) + size * static_cast<std::size_t>(x),
                  from.data.get() + from.rowBytes() * static_cast<std::size_t>(row) + size * static_cast<std::size_t>(column), size);
    }
  to.data = {data, data.get()};
  return to;
}

}  // namespace oa
