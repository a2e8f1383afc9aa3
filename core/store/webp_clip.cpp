// Animated WebP, which FFmpeg does not read, by libwebp.
#include <webp/demux.h>

#include <cstring>

#include "base/files.h"
#include "store/moving.h"

namespace oa {
namespace {

constexpr std::size_t kMostBytes = std::size_t{256} << 20;

struct DecoderDelete {
  void operator()(WebPAnimDecoder* p) const { WebPAnimDecoderDelete(p); }
};

Error broken() { return {"is a damaged or unfinished WebP file", {}}; }

class WebpClip final : public MovingReader {
 public:
  static Result<std::unique_ptr<MovingReader>> open(const MediaSource& source, std::shared_ptr<const MovingInfo> known) {
    std::unique_ptr<WebpClip> clip(new WebpClip);
    clip->bytes_ = source.data;
    if (!clip->bytes_) {
      auto bytes = readFile(source.path, kMostBytes);
      if (!bytes) return fail(bytes.error().message);
      clip->bytes_ = std::make_shared<const std::string>(std::move(*bytes));
    }
    clip->data_ = {reinterpret_cast<const std::uint8_t*>(clip->bytes_->data()), clip->bytes_->size()};
    int width = 0;
    int height = 0;
    if (!WebPGetInfo(clip->data_.bytes, clip->data_.size, &width, &height)) return tl::unexpected(broken());
    if (static_cast<std::int64_t>(width) * height > kMostPixels) return fail("is larger than can be read");
    if (!clip->restart()) return tl::unexpected(broken());
    if (known)
      clip->info_ = std::move(known);
    else if (auto ok = clip->list(); !ok)
      return tl::unexpected(ok.error());
    return std::unique_ptr<MovingReader>(std::move(clip));
  }

  [[nodiscard]] std::size_t next() const override { return next_; }

  Result<Raster> picture(std::size_t index) override {
    if (index < next_ && !restart()) return tl::unexpected(broken());
    std::uint8_t* pixels = nullptr;
    while (next_ <= index) {
      int until = 0;
      if (!WebPAnimDecoderGetNext(decoder_.get(), &pixels, &until)) return tl::unexpected(broken());
      ++next_;
    }
    Raster raster{info_->width, info_->height, 4, 8, {}};
    const auto data = rasterBytes(raster.bytes());
    std::memcpy(data.get(), pixels, raster.bytes());
    raster.data = {data, data.get()};
    return raster;
  }

 private:
  bool restart() {
    WebPAnimDecoderOptions options;
    if (!WebPAnimDecoderOptionsInit(&options)) return false;
    options.use_threads = 1;
    decoder_.reset(WebPAnimDecoderNew(&data_, &options));
    next_ = 0;
    return decoder_ != nullptr;
  }

  Status list() {
    WebPAnimInfo about;
    if (!WebPAnimDecoderGetInfo(decoder_.get(), &about) || about.frame_count < 1) return tl::unexpected(broken());
    if (about.frame_count > kMostPictures) return fail("has more pictures than can be read");
    auto info = std::make_shared<MovingInfo>();
    info->width = static_cast<int>(about.canvas_width);
    info->height = static_cast<int>(about.canvas_height);
    // Each says how long it is shown; browsers show those that say next to nothing for a tenth of a second.
    const WebPDemuxer* demuxer = WebPAnimDecoderGetDemuxer(decoder_.get());
    WebPIterator frame;
    if (!WebPDemuxGetFrame(demuxer, 1, &frame)) return tl::unexpected(broken());
    do {
      info->times.push_back(info->seconds);
      info->seconds += frame.duration <= 10 ? 0.1 : frame.duration / 1000.0;
    } while (WebPDemuxNextFrame(&frame));
    WebPDemuxReleaseIterator(&frame);
    if (info->times.size() != about.frame_count) return tl::unexpected(broken());
    info_ = std::move(info);
    return {};
  }

  std::shared_ptr<const std::string> bytes_;
  WebPData data_{};
  std::unique_ptr<WebPAnimDecoder, DecoderDelete> decoder_;
  std::size_t next_ = 0;
};

}  // namespace

Result<std::unique_ptr<MovingReader>> openWebpClip(const MediaSource& source, std::shared_ptr<const MovingInfo> known) {
  return WebpClip::open(source, std::move(known));
}

Result<std::unique_ptr<MovingReader>> openMoving(MediaKind kind, const MediaSource& source, std::shared_ptr<const MovingInfo> known) {
  return kind == MediaKind::WebP ? openWebpClip(source, std::move(known)) : openAvClip(kind, source, std::move(known));
}

}  // namespace oa
