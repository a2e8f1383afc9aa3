#include "store/picture_reader.h"

#include <vips/vips.h>

#include <chrono>
#include <memory>
#include <mutex>

#include "store/av_picture.h"

namespace oa {
namespace {

struct Unref {
  void operator()(VipsImage* p) const { g_object_unref(p); }
};
using Image = std::unique_ptr<VipsImage, Unref>;

// Once for the program: no reader that its makers do not trust with foreign files, nothing kept between pictures.
bool begin() {
  static const bool begun = [] {
    if (VIPS_INIT("over-again") != 0) return false;
    vips_block_untrusted_set(TRUE);
    vips_cache_set_max(0);
    // What is wrong with a picture is told by its error.
    g_log_set_handler(
        "VIPS", G_LOG_LEVEL_WARNING, [](const gchar*, GLogLevelFlags, const gchar*, gpointer) {}, nullptr);
    return true;
  }();
  return begun;
}

Error broken(MediaKind kind) {
  vips_error_clear();
  return {"is a damaged or unfinished " + std::string(kindName(kind)) + " picture", {}};
}

// One at a time: libvips keeps what went wrong in one place for all threads, and with several at work on one picture that is the only
// place where it is sure to be found.
std::mutex& reading() {
  static std::mutex mutex;
  return mutex;
}

bool byFfmpeg(MediaKind kind) { return kind == MediaKind::Bmp || kind == MediaKind::Exr || kind == MediaKind::JpegXl; }

// Opened by the reader of its kind alone: no guessing.
Image opened(MediaKind kind, std::string_view bytes) {
  void* const data = const_cast<char*>(bytes.data());
  VipsImage* image = nullptr;
  int failed = -1;
  const auto load = [&](auto* reader) {
    failed = reader(data, bytes.size(), &image, "access", VIPS_ACCESS_SEQUENTIAL, "fail_on", VIPS_FAIL_ON_TRUNCATED, nullptr);
  };
  switch (kind) {
    case MediaKind::Png:
      load(vips_pngload_buffer);
      break;
    case MediaKind::Jpeg:
      load(vips_jpegload_buffer);
      break;
    case MediaKind::WebP:
      load(vips_webpload_buffer);
      break;
    case MediaKind::Gif:
      load(vips_gifload_buffer);
      break;
    case MediaKind::Tiff:
      load(vips_tiffload_buffer);
      break;
    case MediaKind::Avif:
      load(vips_heifload_buffer);
      break;
    default:
      break;
  }
  return Image(failed == 0 ? image : nullptr);
}

Status withinLimits(std::int64_t width, std::int64_t height) {
  if (width > kLongestSide || height > kLongestSide)
    return fail("is larger than " + std::to_string(kLongestSide) + " pixels a side (" + std::to_string(width) + " x " +
                std::to_string(height) + "); a smaller copy of it can be read");
  if (width * height > kMostPixels)
    return fail("has more than " + std::to_string(kMostPixels / 1000000) + " million pixels (" + std::to_string(width) + " x " +
                std::to_string(height) + "); a smaller copy of it can be read");
  return {};
}

// Stops a picture that is still being read after the time it may take.
struct Deadline {
  std::chrono::steady_clock::time_point end;
  static void look(VipsImage* image, void*, Deadline* self) {
    if (std::chrono::steady_clock::now() > self->end) vips_image_set_kill(image, TRUE);
  }
};

// The next stage of the chain, if there is one: `step` gets the image and where to put the new one, and returns 0.
template <class Step>
bool chain(Image& image, const Step& step) {
  VipsImage* made = nullptr;
  if (step(image.get(), &made) != 0) return false;
  image.reset(made);
  return true;
}

bool toDisplay(Image& image) {
  const bool deep = image->BandFmt != VIPS_FORMAT_UCHAR && image->BandFmt != VIPS_FORMAT_CHAR;
  if (vips_image_get_typeof(image.get(), VIPS_META_ICC_NAME) != 0) {
    // A profile that does not fit the picture says nothing.
    if (!chain(image, [&](VipsImage* in, VipsImage** out) {
          return vips_icc_transform(in, out, "srgb", "embedded", TRUE, "intent", VIPS_INTENT_RELATIVE, "black_point_compensation", TRUE,
                                    "depth", deep ? 16 : 8, nullptr);
        }))
      vips_error_clear();
  }
  const VipsInterpretation wanted = deep ? VIPS_INTERPRETATION_RGB16 : VIPS_INTERPRETATION_sRGB;
  if (vips_image_guess_interpretation(image.get()) != wanted || image->Bands < 3)
    if (!chain(image, [&](VipsImage* in, VipsImage** out) { return vips_colourspace(in, out, wanted, nullptr); })) return false;
  const VipsBandFormat format = deep ? VIPS_FORMAT_USHORT : VIPS_FORMAT_UCHAR;
  if (image->BandFmt != format && !chain(image, [&](VipsImage* in, VipsImage** out) { return vips_cast(in, out, format, nullptr); }))
    return false;
  if (image->Bands > 4 && !chain(image, [&](VipsImage* in, VipsImage** out) { return vips_extract_band(in, out, 0, "n", 4, nullptr); }))
    return false;
  return image->Bands == 3 || image->Bands == 4;
}

}  // namespace

Result<PictureSize> pictureSize(MediaKind kind, std::string_view bytes) {
  PictureSize size;
  if (byFfmpeg(kind)) {
    auto found = avPictureSize(kind, bytes);
    if (!found) return found;
    size = *found;
  } else {
    const std::scoped_lock lock(reading());
    if (!begin()) return fail("cannot be read: the picture library does not start");
    const Image image = opened(kind, bytes);
    if (!image) return tl::unexpected(broken(kind));
    size = {image->Xsize, image->Ysize};
    if (vips_image_get_orientation_swap(image.get())) std::swap(size.width, size.height);
  }
  if (size.width < 1 || size.height < 1) return tl::unexpected(broken(kind));
  if (auto ok = withinLimits(size.width, size.height); !ok) return tl::unexpected(ok.error());
  return size;
}

Result<Raster> readPicture(MediaKind kind, std::string_view bytes) {
  if (const auto size = pictureSize(kind, bytes); !size) return tl::unexpected(size.error());
  if (byFfmpeg(kind)) return readAvPicture(kind, bytes);
  const std::scoped_lock lock(reading());
  Image image = opened(kind, bytes);
  if (!image) return tl::unexpected(broken(kind));
  // What a reader only tried while it opened the picture is no error of it.
  vips_error_clear();
  const Deadline deadline{std::chrono::steady_clock::now() + std::chrono::milliseconds(static_cast<int>(kMostSeconds * 1000))};
  vips_image_set_progress(image.get(), TRUE);
  g_signal_connect(image.get(), "eval", G_CALLBACK(Deadline::look), const_cast<Deadline*>(&deadline));
  bool read = toDisplay(image);
  // Turning needs all of it.
  if (read && vips_image_get_orientation(image.get()) > 1)
    read = chain(image, [](VipsImage* in, VipsImage** out) { return (*out = vips_image_copy_memory(in)) ? 0 : -1; }) &&
           chain(image, [](VipsImage* in, VipsImage** out) { return vips_autorot(in, out, nullptr); });
  std::size_t size = 0;
  void* const data = read ? vips_image_write_to_memory(image.get(), &size) : nullptr;
  if (!data && std::chrono::steady_clock::now() > deadline.end) {
    vips_error_clear();
    return fail("takes too long to read");
  }
  if (data && vips_error_buffer()[0] != '\0') {
    g_free(data);
    return tl::unexpected(broken(kind));
  }
  if (!data) return tl::unexpected(broken(kind));
  return Raster{image->Xsize,
                image->Ysize,
                image->Bands,
                image->BandFmt == VIPS_FORMAT_USHORT ? 16 : 8,
                {static_cast<const std::uint8_t*>(data), [](const std::uint8_t* p) { g_free(const_cast<std::uint8_t*>(p)); }}};
}

}  // namespace oa
