#include "store/yuv.h"

#include <zimg.h>

extern "C" {
#include <libavutil/pixdesc.h>
}

#include <cstring>
#include <vector>

#include "image/buffer.h"
#include "image/colour_bytes.h"
#include "store/hdr.h"

namespace oa {
namespace {

struct GraphFree {
  void operator()(zimg_filter_graph* p) const { zimg_filter_graph_free(p); }
};

// Rec. ITU-R BT.709-6 from 720 rows on and BT.601-7 below, where a frame names no matrix.
zimg_matrix_coefficients_e matrixOf(const AVFrame& f) {
  switch (f.colorspace) {
    case AVCOL_SPC_BT709:
      return ZIMG_MATRIX_BT709;
    case AVCOL_SPC_FCC:
      return ZIMG_MATRIX_FCC;
    case AVCOL_SPC_SMPTE240M:
      return ZIMG_MATRIX_ST240_M;
    case AVCOL_SPC_BT2020_NCL:
    case AVCOL_SPC_BT2020_CL:
      return ZIMG_MATRIX_BT2020_NCL;
    case AVCOL_SPC_YCGCO:
      return ZIMG_MATRIX_YCGCO;
    case AVCOL_SPC_BT470BG:
    case AVCOL_SPC_SMPTE170M:
      return ZIMG_MATRIX_ST170_M;
    default:
      return f.height >= 720 ? ZIMG_MATRIX_BT709 : ZIMG_MATRIX_ST170_M;
  }
}

zimg_chroma_location_e locationOf(AVChromaLocation location) {
  switch (location) {
    case AVCHROMA_LOC_CENTER:
      return ZIMG_CHROMA_CENTER;
    case AVCHROMA_LOC_TOPLEFT:
      return ZIMG_CHROMA_TOP_LEFT;
    case AVCHROMA_LOC_TOP:
      return ZIMG_CHROMA_TOP;
    case AVCHROMA_LOC_BOTTOMLEFT:
      return ZIMG_CHROMA_BOTTOM_LEFT;
    case AVCHROMA_LOC_BOTTOM:
      return ZIMG_CHROMA_BOTTOM;
    default:
      return ZIMG_CHROMA_LEFT;
  }
}

// "yuvj" formats are full range by their name.
bool isFullRange(const AVFrame& f, const AVPixFmtDescriptor& described) {
  if (f.color_range != AVCOL_RANGE_UNSPECIFIED) return f.color_range == AVCOL_RANGE_JPEG;
  return std::strncmp(described.name, "yuvj", 4) == 0;
}

constexpr std::size_t kAlign = 64;

// A plane of ours, or one of the frame, copied where it does not lie as zimg wants it.
struct PlaneBytes {
  FloatBuffer own;
  std::uint8_t* data = nullptr;
  std::ptrdiff_t stride = 0;

  void make(int width, int height, int bytes) {
    stride =
        static_cast<std::ptrdiff_t>((static_cast<std::size_t>(width) * static_cast<std::size_t>(bytes) + 2 * kAlign - 1) / kAlign * kAlign);
    own = FloatBuffer(static_cast<std::size_t>(stride) * static_cast<std::size_t>(height) / sizeof(float) + 1);
    data = reinterpret_cast<std::uint8_t*>(own.data());
  }
  void take(const AVFrame& f, int plane, int width, int height, int bytes) {
    if (reinterpret_cast<std::uintptr_t>(f.data[plane]) % kAlign == 0 && f.linesize[plane] > 0 &&
        static_cast<std::size_t>(f.linesize[plane]) % kAlign == 0) {
      data = f.data[plane];
      stride = f.linesize[plane];
      return;
    }
    make(width, height, bytes);
    for (int y = 0; y < height; ++y)
      std::memcpy(data + y * stride, f.data[plane] + static_cast<std::ptrdiff_t>(y) * f.linesize[plane],
                  static_cast<std::size_t>(width) * static_cast<std::size_t>(bytes));
  }
};

bool process(const zimg_image_format& from, const zimg_image_format& to, const std::vector<PlaneBytes>& in,
             const std::vector<PlaneBytes>& out) {
  zimg_graph_builder_params params;
  zimg_graph_builder_params_default(&params, ZIMG_API_VERSION);
  params.resample_filter = ZIMG_RESIZE_BICUBIC;
  params.nominal_peak_luminance = kReferenceWhite;
  params.resample_filter_uv = from.width == to.width && from.height == to.height ? ZIMG_RESIZE_BILINEAR : ZIMG_RESIZE_BICUBIC;
  const std::unique_ptr<zimg_filter_graph, GraphFree> graph(zimg_filter_graph_build(&from, &to, &params));
  std::size_t bytes = 0;
  if (!graph || zimg_filter_graph_get_tmp_size(graph.get(), &bytes) != ZIMG_ERROR_SUCCESS) return false;
  PlaneBytes scratch;
  scratch.make(static_cast<int>(bytes / 256) + 1, 256, 1);
  zimg_image_buffer_const source{};
  zimg_image_buffer target{};
  source.version = target.version = ZIMG_API_VERSION;
  for (std::size_t i = 0; i < in.size(); ++i) source.plane[i] = {in[i].data, in[i].stride, ZIMG_BUFFER_MAX};
  for (std::size_t i = 0; i < out.size(); ++i) target.plane[i] = {out[i].data, out[i].stride, ZIMG_BUFFER_MAX};
  return zimg_filter_graph_process(graph.get(), &source, &target, scratch.data, nullptr, nullptr, nullptr, nullptr) == ZIMG_ERROR_SUCCESS;
}

template <class T>
void interleave(const std::vector<PlaneBytes>& planes, int y, int width, std::uint8_t* to) {
  const std::size_t n = planes.size();
  if (sizeof(T) == 1 && n == 3) {
    const auto at = [&](std::size_t c) { return planes[c].data + y * planes[c].stride; };
    return bytesOfPlanes(at(0), at(1), at(2), width, to);
  }
  auto* out = reinterpret_cast<T*>(to);
  for (std::size_t c = 0; c < n; ++c) {
    const auto* in = reinterpret_cast<const T*>(planes[c].data + y * planes[c].stride);
    for (int x = 0; x < width; ++x) out[static_cast<std::size_t>(x) * n + c] = in[x];
  }
}

// Three planes of linear light, and alpha behind them if there is one, as 16-bit display values.
Raster displayRaster(const std::vector<PlaneBytes>& planes, bool alpha, int alphaBytes, int width, int height) {
  Raster raster{width, height, alpha ? 4 : 3, 16, {}};
  const auto data = rasterBytes(raster.bytes());
  for (int y = 0; y < height; ++y) {
    auto* row = reinterpret_cast<std::uint16_t*>(data.get() + raster.rowBytes() * static_cast<std::size_t>(y));
    const auto light = [&](std::size_t c) { return reinterpret_cast<const float*>(planes[c].data + y * planes[c].stride); };
    displayRow(light(0), light(1), light(2), width, row, raster.channels);
    for (int x = 0; alpha && x < width; ++x) {
      const std::uint8_t* const a = planes[3].data + y * planes[3].stride;
      row[x * 4 + 3] = alphaBytes == 2 ? reinterpret_cast<const std::uint16_t*>(a)[x] : static_cast<std::uint16_t>(a[x] * 257);
    }
  }
  raster.data = {data, data.get()};
  return raster;
}

}  // namespace

std::optional<Raster> rasterOfYuv(const AVFrame& f, int width, int height) {
  const AVPixFmtDescriptor* described = av_pix_fmt_desc_get(static_cast<AVPixelFormat>(f.format));
  constexpr std::uint64_t kOther = AV_PIX_FMT_FLAG_RGB | AV_PIX_FMT_FLAG_PAL | AV_PIX_FMT_FLAG_BE | AV_PIX_FMT_FLAG_BITSTREAM |
                                   AV_PIX_FMT_FLAG_HWACCEL | AV_PIX_FMT_FLAG_FLOAT | AV_PIX_FMT_FLAG_BAYER;
  if (!described || (described->flags & kOther) != 0) return std::nullopt;
  const int colours = described->nb_components >= 3 ? 3 : 1;
  const bool alpha = (described->flags & AV_PIX_FMT_FLAG_ALPHA) != 0;
  const int depth = described->comp[0].depth;
  const int bytes = depth > 8 ? 2 : 1;
  // Each component in a plane of its own, its bits at the lower end.
  for (int i = 0; i < described->nb_components; ++i)
    if (described->comp[i].plane != i || described->comp[i].step != bytes || described->comp[i].shift != 0 ||
        described->comp[i].depth != depth)
      return std::nullopt;

  zimg_image_format from;
  zimg_image_format_default(&from, ZIMG_API_VERSION);
  from.width = static_cast<unsigned>(f.width);
  from.height = static_cast<unsigned>(f.height);
  from.pixel_type = bytes == 2 ? ZIMG_PIXEL_WORD : ZIMG_PIXEL_BYTE;
  from.depth = static_cast<unsigned>(depth);
  from.pixel_range = isFullRange(f, *described) ? ZIMG_RANGE_FULL : ZIMG_RANGE_LIMITED;
  zimg_image_format grey = from;
  grey.color_family = ZIMG_COLOR_GREY;
  if (colours == 3) {
    from.color_family = ZIMG_COLOR_YUV;
    from.matrix_coefficients = matrixOf(f);
    from.subsample_w = described->log2_chroma_w;
    from.subsample_h = described->log2_chroma_h;
    from.chroma_location = locationOf(f.chroma_location);
  } else {
    from.color_family = ZIMG_COLOR_GREY;
  }
  zimg_image_format to = from;
  to.width = static_cast<unsigned>(width);
  to.height = static_cast<unsigned>(height);
  to.depth = bytes == 2 ? 16 : 8;
  to.pixel_range = ZIMG_RANGE_FULL;
  to.subsample_w = to.subsample_h = 0;
  if (colours == 3) {
    to.color_family = ZIMG_COLOR_RGB;
    to.matrix_coefficients = ZIMG_MATRIX_RGB;
  }

  // What has more light than a display is made linear first; see below.
  const bool hdr = colours == 3 && isHdr(f);
  if (hdr) {
    from.transfer_characteristics = f.color_trc == AVCOL_TRC_SMPTE2084 ? ZIMG_TRANSFER_ST2084 : ZIMG_TRANSFER_ARIB_B67;
    from.color_primaries = f.color_primaries == AVCOL_PRI_BT709 ? ZIMG_PRIMARIES_BT709 : ZIMG_PRIMARIES_BT2020;
    to.transfer_characteristics = ZIMG_TRANSFER_LINEAR;
    to.color_primaries = ZIMG_PRIMARIES_BT709;
    to.pixel_type = ZIMG_PIXEL_FLOAT;
    to.depth = 32;
  }
  std::vector<PlaneBytes> in(static_cast<std::size_t>(colours));
  std::vector<PlaneBytes> out(static_cast<std::size_t>(colours));
  for (int i = 0; i < colours; ++i) {
    const bool chroma = i > 0;
    in[static_cast<std::size_t>(i)].take(f, i, chroma ? AV_CEIL_RSHIFT(f.width, described->log2_chroma_w) : f.width,
                                         chroma ? AV_CEIL_RSHIFT(f.height, described->log2_chroma_h) : f.height, bytes);
    out[static_cast<std::size_t>(i)].make(width, height, hdr ? 4 : bytes);
  }
  if (!process(from, to, in, out)) return std::nullopt;
  if (colours == 1) {
    for (int i = 0; i < 2; ++i) out.push_back({{}, out[0].data, out[0].stride});
  }
  if (alpha) {
    grey.pixel_range = ZIMG_RANGE_FULL;
    zimg_image_format whole = grey;
    whole.width = to.width;
    whole.height = to.height;
    whole.depth = bytes == 2 ? 16 : 8;
    std::vector<PlaneBytes> inAlpha(1);
    std::vector<PlaneBytes> outAlpha(1);
    inAlpha[0].take(f, described->comp[described->nb_components - 1].plane, f.width, f.height, bytes);
    outAlpha[0].make(width, height, bytes);
    if (!process(grey, whole, inAlpha, outAlpha)) return std::nullopt;
    out.push_back(std::move(outAlpha[0]));
  }
  if (hdr) return displayRaster(out, alpha, bytes, width, height);
  Raster raster{width, height, alpha ? 4 : 3, bytes * 8, {}};
  const auto data = rasterBytes(raster.bytes());
  for (int y = 0; y < height; ++y) {
    std::uint8_t* row = data.get() + raster.rowBytes() * static_cast<std::size_t>(y);
    bytes == 2 ? interleave<std::uint16_t>(out, y, width, row) : interleave<std::uint8_t>(out, y, width, row);
  }
  raster.data = {data, data.get()};
  return raster;
}

}  // namespace oa
