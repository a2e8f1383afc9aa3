#include "media/vp9_encoder.h"

#include <vpx/vp8cx.h>
#include <vpx/vpx_encoder.h>

#include <algorithm>
#include <thread>

namespace oa {
namespace {

constexpr int kExactQuantiser = 0;  // lossless

}  // namespace

struct Vp9Encoder::State {
  Vp9Settings settings;
  vpx_codec_ctx_t codec{};
  bool open = false;
  bool exact = false;
  std::vector<std::uint8_t> grey;  // chroma of an alpha plane

  ~State() {
    if (open) vpx_codec_destroy(&codec);
  }
  [[nodiscard]] tl::unexpected<Error> failed() {
    const char* detail = vpx_codec_error_detail(&codec);
    return fail(std::string("could not be encoded: ") + (detail ? detail : vpx_codec_error(&codec)));
  }
};

Vp9Encoder::Vp9Encoder(std::unique_ptr<State> state) : state_(std::move(state)) {}
Vp9Encoder::~Vp9Encoder() = default;

Result<std::unique_ptr<Vp9Encoder>> Vp9Encoder::open(const Vp9Settings& settings) {
  auto state = std::make_unique<State>();
  State& s = *state;
  s.settings = settings;
  vpx_codec_enc_cfg_t config{};
  if (vpx_codec_enc_config_default(vpx_codec_vp9_cx(), &config, 0) != VPX_CODEC_OK) return fail("could not be set up");
  config.g_w = static_cast<unsigned>(settings.width);
  config.g_h = static_cast<unsigned>(settings.height);
  config.g_timebase = {settings.rate.den, settings.rate.num};
  config.g_threads = static_cast<unsigned>(
      std::clamp(settings.threads > 0 ? settings.threads : static_cast<int>(std::thread::hardware_concurrency()), 1, 16));
  config.g_lag_in_frames = 0;
  config.rc_end_usage = settings.bitRate > 0 ? VPX_VBR : VPX_Q;
  if (settings.bitRate > 0) config.rc_target_bitrate = static_cast<unsigned>(std::max<std::int64_t>(1, settings.bitRate / 1000));
  config.rc_min_quantizer = 0;
  config.rc_max_quantizer = 63;
  config.rc_dropframe_thresh = 0;
  config.kf_mode = VPX_KF_DISABLED;  // groups begin where they are asked to
  if (vpx_codec_enc_init(&s.codec, vpx_codec_vp9_cx(), &config, 0) != VPX_CODEC_OK) return s.failed();
  s.open = true;
  const bool ok =
      vpx_codec_control(&s.codec, VP8E_SET_CPUUSED, settings.quick ? 9 : 4) == VPX_CODEC_OK &&
      vpx_codec_control(&s.codec, VP8E_SET_ENABLEAUTOALTREF, 0) == VPX_CODEC_OK &&
      vpx_codec_control(&s.codec, VP8E_SET_CQ_LEVEL, static_cast<unsigned>(settings.quantiser)) == VPX_CODEC_OK &&
      vpx_codec_control(&s.codec, VP9E_SET_ROW_MT, 1) == VPX_CODEC_OK &&
      vpx_codec_control(&s.codec, VP9E_SET_TILE_COLUMNS, settings.width >= 1024 ? 2 : 0) == VPX_CODEC_OK &&
      vpx_codec_control(&s.codec, VP9E_SET_COLOR_SPACE, VPX_CS_BT_709) == VPX_CODEC_OK &&
      vpx_codec_control(&s.codec, VP9E_SET_COLOR_RANGE, settings.alphaPlane ? VPX_CR_FULL_RANGE : VPX_CR_STUDIO_RANGE) == VPX_CODEC_OK;
  if (!ok) return s.failed();
  if (settings.alphaPlane) s.grey.assign(static_cast<std::size_t>(settings.width / 2) * static_cast<std::size_t>(settings.height / 2), 128);
  return std::unique_ptr<Vp9Encoder>(new Vp9Encoder(std::move(state)));
}

Result<Vp9Encoder::Packet> Vp9Encoder::encode(const FrameYuv& frame, std::int64_t number, bool key, bool exact) {
  State& s = *state_;
  if (exact != s.exact && s.settings.bitRate == 0) {
    s.exact = exact;
    if (vpx_codec_control(&s.codec, VP8E_SET_CQ_LEVEL, static_cast<unsigned>(exact ? kExactQuantiser : s.settings.quantiser)) !=
        VPX_CODEC_OK)
      return s.failed();
  }
  // The library only reads through these pointers.
  vpx_image_t image{};
  const auto plane = [](const std::vector<std::uint8_t>& from) { return const_cast<unsigned char*>(from.data()); };
  const bool alpha = s.settings.alphaPlane;
  vpx_img_wrap(&image, VPX_IMG_FMT_I420, static_cast<unsigned>(frame.width), static_cast<unsigned>(frame.height), 1,
               plane(alpha ? frame.alpha : frame.y));
  image.planes[VPX_PLANE_Y] = plane(alpha ? frame.alpha : frame.y);
  image.planes[VPX_PLANE_U] = plane(alpha ? s.grey : frame.u);
  image.planes[VPX_PLANE_V] = plane(alpha ? s.grey : frame.v);
  image.stride[VPX_PLANE_Y] = frame.width;
  image.stride[VPX_PLANE_U] = image.stride[VPX_PLANE_V] = frame.width / 2;
  image.cs = VPX_CS_BT_709;
  image.range = alpha ? VPX_CR_FULL_RANGE : VPX_CR_STUDIO_RANGE;
  if (vpx_codec_encode(&s.codec, &image, number, 1, key ? VPX_EFLAG_FORCE_KF : 0,
                       s.settings.quick ? VPX_DL_REALTIME : VPX_DL_GOOD_QUALITY) != VPX_CODEC_OK)
    return s.failed();
  Packet packet;
  vpx_codec_iter_t iterator = nullptr;
  while (const vpx_codec_cx_pkt_t* out = vpx_codec_get_cx_data(&s.codec, &iterator)) {
    if (out->kind != VPX_CODEC_CX_FRAME_PKT) continue;
    const auto* bytes = static_cast<const std::uint8_t*>(out->data.frame.buf);
    packet.bytes.insert(packet.bytes.end(), bytes, bytes + out->data.frame.sz);
    packet.key = packet.key || (out->data.frame.flags & VPX_FRAME_IS_KEY) != 0;
  }
  if (packet.bytes.empty()) return fail("could not be encoded: a picture came out empty");
  return packet;
}

}  // namespace oa
