// An animated WebP, by libwebp.
#include <webp/encode.h>
#include <webp/mux.h>

#include <cmath>

#include "media/export_job.h"

namespace oa {
namespace {

struct EncoderDelete {
  void operator()(WebPAnimEncoder* p) const { WebPAnimEncoderDelete(p); }
};

class WebpWriter {
 public:
  static Result<std::unique_ptr<WebpWriter>> open(OutputFile& file, const ExportSettings& s, std::int64_t plays, Rational rate) {
    std::unique_ptr<WebpWriter> writer(new WebpWriter(file, s.alpha, rate));
    WebPAnimEncoderOptions options;
    if (!WebPAnimEncoderOptionsInit(&options) || !WebPConfigInit(&writer->config_)) return fail("could not be set up");
    options.anim_params.loop_count = static_cast<int>(plays);
    // What is clear in the loop is clear on the page.
    options.anim_params.bgcolor = 0;
    WebPConfig& c = writer->config_;
    c.lossless = s.quality == ExportQuality::Best;
    c.quality = s.quality == ExportQuality::Small ? 60 : s.quality == ExportQuality::Best ? 50 : 85;
    // Pixels that changed by a few levels would be taken for the same, picture after picture, and slow motion would fall into blocks:
    // lossy ones are each whole.
    if (!c.lossless) {
      options.kmin = 0;
      options.kmax = 1;
    }
    c.method = s.quality == ExportQuality::Quick ? 0 : 2;
    c.thread_level = 1;
    c.exact = 0;
    writer->encoder_.reset(WebPAnimEncoderNew(s.width, s.height, &options));
    if (!writer->encoder_ || !WebPValidateConfig(&c)) return fail("could not be set up");
    return writer;
  }

  Status add(const Frame8& frame) {
    WebPPicture picture;
    if (!WebPPictureInit(&picture)) return fail("could not be encoded");
    picture.width = frame.width;
    picture.height = frame.height;
    picture.use_argb = 1;
    const int stride = frame.width * 4;
    const bool taken =
        alpha_ ? WebPPictureImportRGBA(&picture, frame.rgba.data(), stride) : WebPPictureImportRGBX(&picture, frame.rgba.data(), stride);
    const bool added = taken && WebPAnimEncoderAdd(encoder_.get(), &picture, timeOf(next_), &config_);
    WebPPictureFree(&picture);
    ++next_;
    return added ? Status{} : fail(std::string("could not be encoded: ") + WebPAnimEncoderGetError(encoder_.get()));
  }

  Status finish() {
    WebPData data;
    WebPDataInit(&data);
    const bool whole =
        WebPAnimEncoderAdd(encoder_.get(), nullptr, timeOf(next_), nullptr) && WebPAnimEncoderAssemble(encoder_.get(), &data);
    Status ok = whole ? Status{} : fail(std::string("could not be encoded: ") + WebPAnimEncoderGetError(encoder_.get()));
    if (ok) ok = file_.write({reinterpret_cast<const char*>(data.bytes), data.size});
    WebPDataClear(&data);
    return ok;
  }

 private:
  WebpWriter(OutputFile& file, bool alpha, Rational rate) : file_(file), alpha_(alpha), rate_(rate) {}
  // Milliseconds, each rounded for itself: the loop as a whole is as long as it is.
  [[nodiscard]] int timeOf(std::int64_t frame) const {
    return static_cast<int>(std::llround(static_cast<double>(frame) * 1000 / rate_.value()));
  }

  OutputFile& file_;
  bool alpha_;
  Rational rate_;
  WebPConfig config_{};
  std::unique_ptr<WebPAnimEncoder, EncoderDelete> encoder_;
  std::int64_t next_ = 0;
};

}  // namespace

Result<ExportResult> exportWebp(const Scene& scene, const ExportSettings& s, const ProgressFunction& progress) {
  ExportResult result;
  auto plan = planExport(scene, s);
  if (!plan) return tl::unexpected(plan.error());
  std::int64_t plays = s.plays;
  // The shorter run that the loop repeats, where milliseconds say its length.
  const double milliseconds = static_cast<double>(plan->rendered()) * 1000 / scene.rate.value();
  holdOnce(*plan, scene, std::abs(milliseconds - std::round(milliseconds)) < 1e-6, plays);
  if (plays > 65535) return fail("that is more plays than an animated WebP can count: 65535 of its own run of frames", s.path);
  if (s.width > 16383 || s.height > 16383 || milliseconds > 1e9)
    return fail("an animated WebP is at most 16383 pixels wide and high", s.path);
  auto file = OutputFile::begin(s.path, true);
  if (!file) return tl::unexpected(file.error());
  auto writer = named(WebpWriter::open(*file, s, plays, scene.rate), s.path);
  if (!writer) return tl::unexpected(writer.error());
  FrameTeam team = exportTeam(scene, s, *plan, s.width, s.height, !s.alpha);
  const auto done = named(pump<Frame8>(
                              plan->frames(), team,
                              [&](Renderer& renderer, std::int64_t i, Frame8& frame) {
                                renderInto(renderer, plan->number(plan->shown(i)), Alpha::Straight, frame);
                              },
                              [&](const Frame8& frame, int) { return (*writer)->add(frame); }, progress),
                          s.path);
  if (auto ok = handOver(done, **writer, *file, s.path, result); !ok) return tl::unexpected(ok.error());
  if (result.cancelled) return result;
  result.frames = plan->frames();
  if (s.loops > 1) addNote(result, "an animated picture holds the loop once; how often it is shown is told by its count of plays");
  return result;
}

}  // namespace oa
