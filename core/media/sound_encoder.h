// The sound of a movie, encoded as its container has it: AAC, Opus or plain samples.
#pragma once

#include <cstdint>
#include <functional>
#include <memory>

#include "base/av.h"
#include "base/result.h"
#include "media/formats.h"
#include "sound/track_sound.h"

namespace oa {

class SoundEncoder {
 public:
  /// `bitRate`: bits a second, where the coding has one.
  static Result<std::unique_ptr<SoundEncoder>> open(ExportFormat format, int bitRate, bool globalHeader);

  [[nodiscard]] const AVCodecContext& context() const { return *codec_; }
  using Take = std::function<Status(AvPacket)>;
  /// Encodes what lies before sample `until`, and hands on the packets that come of it, timed in samples. `last`: there is no more.
  Status encode(const SoundFunction& sound, std::int64_t until, bool last, const Take& take);

 private:
  SoundEncoder() = default;
  Status send(AVFrame* frame, const Take& take);
  AvCodec codec_;
  std::int64_t next_ = 0;
  std::int64_t last_ = -1;  // where the sound ends, once that is known
  int piece_ = 1024;
};

}  // namespace oa
