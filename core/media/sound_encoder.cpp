#include "media/sound_encoder.h"

#include <algorithm>
#include <cmath>
#include <vector>

extern "C" {
#include <libavutil/channel_layout.h>
}

namespace oa {

Result<std::unique_ptr<SoundEncoder>> SoundEncoder::open(ExportFormat format, int bitRate, bool globalHeader) {
  const bool mp4 = format == ExportFormat::Mp4 || format == ExportFormat::H265;
  const bool webm = format == ExportFormat::WebM || format == ExportFormat::Av1;
  const char* name = mp4 ? "aac" : webm ? "libopus" : "pcm_s16le";
  const AVCodec* codec = avcodec_find_encoder_by_name(name);
  if (!codec) return fail("the encoder " + std::string(name) + " is missing from this machine's FFmpeg libraries");
  std::unique_ptr<SoundEncoder> made(new SoundEncoder);
  made->codec_.reset(avcodec_alloc_context3(codec));
  AVCodecContext& c = *made->codec_;
  c.sample_rate = kSoundRate;
  c.time_base = {1, kSoundRate};
  av_channel_layout_default(&c.ch_layout, 2);
  c.sample_fmt = mp4 ? AV_SAMPLE_FMT_FLTP : webm ? AV_SAMPLE_FMT_FLT : AV_SAMPLE_FMT_S16;
  if (mp4 || webm) c.bit_rate = bitRate;
  c.flags |= AV_CODEC_FLAG_BITEXACT;
  if (globalHeader) c.flags |= AV_CODEC_FLAG_GLOBAL_HEADER;
  if (const int code = avcodec_open2(&c, codec, nullptr); code < 0) return fail("the sound could not be encoded: " + avReason(code));
  if (c.frame_size > 0) made->piece_ = c.frame_size;
  return made;
}

Status SoundEncoder::send(AVFrame* frame, const Take& take) {
  int code = avcodec_send_frame(codec_.get(), frame);
  while (code >= 0) {
    AvPacket packet(av_packet_alloc());
    if (!packet) return fail("the sound could not be encoded: there is no memory left");
    code = avcodec_receive_packet(codec_.get(), packet.get());
    if (code == AVERROR(EAGAIN) || code == AVERROR_EOF) return {};
    // A coding's last piece is as long as all others; what lies behind the sound's end is not heard.
    if (code >= 0 && last_ >= 0 && packet->pts >= last_) continue;
    if (code >= 0 && last_ >= 0 && packet->pts + packet->duration > last_) packet->duration = last_ - packet->pts;
    if (code >= 0)
      if (auto ok = take(std::move(packet)); !ok) return ok;
  }
  return fail("the sound could not be encoded: " + avReason(code));
}

Status SoundEncoder::encode(const SoundFunction& sound, std::int64_t until, bool last, const Take& take) {
  if (last) last_ = until;
  std::vector<float> stereo(static_cast<std::size_t>(piece_) * 2);
  // The last piece is as long as there is sound.
  while (next_ + piece_ <= until || (last && next_ < until)) {
    const int count = static_cast<int>(std::min<std::int64_t>(piece_, until - next_));
    sound(next_, count, stereo.data());
    AvFrame frame(av_frame_alloc());
    if (!frame) return fail("the sound could not be encoded: there is no memory left");
    frame->nb_samples = count;
    frame->format = codec_->sample_fmt;
    frame->sample_rate = kSoundRate;
    av_channel_layout_copy(&frame->ch_layout, &codec_->ch_layout);
    if (av_frame_get_buffer(frame.get(), 0) < 0) return fail("the sound could not be encoded: there is no memory left");
    frame->pts = next_;
    const auto n = static_cast<std::size_t>(count);
    for (std::size_t i = 0; i < n * 2; ++i) {
      const float v = std::clamp(stereo[i], -1.0f, 1.0f);
      if (codec_->sample_fmt == AV_SAMPLE_FMT_FLTP)
        reinterpret_cast<float*>(frame->data[i % 2])[i / 2] = v;
      else if (codec_->sample_fmt == AV_SAMPLE_FMT_FLT)
        reinterpret_cast<float*>(frame->data[0])[i] = v;
      else
        reinterpret_cast<std::int16_t*>(frame->data[0])[i] = static_cast<std::int16_t>(std::lround(v * 32767));
    }
    next_ += count;
    if (auto ok = send(frame.get(), take); !ok) return ok;
  }
  return last ? send(nullptr, take) : Status{};
}

}  // namespace oa
