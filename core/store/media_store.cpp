#include "store/media_store.h"

#include <fcntl.h>
#include <glib.h>
#include <sys/stat.h>

extern "C" {
#include <libavutil/mem.h>
#include <libavutil/sha.h>
}

#include <algorithm>
#include <cerrno>
#include <cmath>

#include "base/files.h"
#include "base/memory.h"
#include "base/numbers.h"
#include "base/parallel.h"
#include "store/drawing_reader.h"
#include "store/picture_reader.h"
#include "store/sample.h"
#include "store/stand_in.h"

namespace oa {

// What a file holds, ready to be shown in any size: a picture's pixels, or a drawing's text.
struct MediaStore::Content {
  Raster raster;
  std::shared_ptr<const std::string> svg;
  [[nodiscard]] std::size_t bytes() const { return svg ? svg->size() : raster.bytes(); }
};

namespace {

std::string sizeKey(int width, int height, EdgePair edges) {
  return "/" + std::to_string(width) + "x" + std::to_string(height) + "/" + std::to_string(static_cast<int>(edges.across)) +
         std::to_string(static_cast<int>(edges.down));
}

std::string seamKey(const SeamSettings& s) {
  const auto number = [](double v) { return numberText(v) + "/"; };
  return "/seam" + std::to_string(s.across) + std::to_string(s.down) + std::to_string(s.cut) + "/" + number(s.band) + number(s.soft) +
         number(s.even);
}

std::size_t bytesOf(const Plane& plane) {
  return static_cast<std::size_t>(plane.stride()) * static_cast<std::size_t>(plane.height()) * sizeof(float);
}

}  // namespace

std::string contentHash(std::string_view bytes) {
  struct Free {
    void operator()(AVSHA* p) const { av_free(p); }
  };
  const std::unique_ptr<AVSHA, Free> sha(av_sha_alloc());
  if (!sha) throw std::bad_alloc();
  std::uint8_t digest[32];
  av_sha_init(sha.get(), 256);
  av_sha_update(sha.get(), reinterpret_cast<const std::uint8_t*>(bytes.data()), bytes.size());
  av_sha_final(sha.get(), digest);
  std::string hash;
  for (const std::uint8_t byte : digest) {
    constexpr char kHex[] = "0123456789abcdef";
    hash += kHex[byte >> 4];
    hash += kHex[byte & 15];
  }
  return hash;
}

bool MediaRef::operator==(const MediaRef& o) const {
  return path == o.path && bytes == o.bytes && hash == o.hash && width == o.width && height == o.height && extra == o.extra &&
         (data == o.data || (data && o.data && *data == *o.data));
}

std::string base64Text(std::string_view bytes) {
  gchar* const text = g_base64_encode(reinterpret_cast<const guchar*>(bytes.data()), bytes.size());
  std::string made(text);
  g_free(text);
  return made;
}

std::string base64Bytes(const std::string& text) {
  gsize size = 0;
  guchar* const bytes = g_base64_decode(text.c_str(), &size);
  std::string made(reinterpret_cast<const char*>(bytes), size);
  g_free(bytes);
  return made;
}

std::string mediaName(const MediaRef& ref) { return ref.path.substr(ref.path.find_last_of('/') + 1); }

MediaStore& MediaStore::shared() {
  static MediaStore store(std::clamp<std::size_t>(memoryOfMachine() / 6, std::size_t{256} << 20, std::size_t{6} << 30));
  return store;
}

void MediaStore::clear() {
  const std::scoped_lock lock(mutex_);
  seen_.clear();
  kept_.clear();
  turns_.clear();
  bytes_ = 0;
}

std::size_t MediaStore::bytes() const {
  const std::scoped_lock lock(mutex_);
  return bytes_;
}

std::shared_ptr<const void> MediaStore::find(const std::string& key) {
  const std::scoped_lock lock(mutex_);
  const auto found = kept_.find(key);
  if (found == kept_.end()) return nullptr;
  turns_.splice(turns_.begin(), turns_, found->second.turn);
  return found->second.what;
}

void MediaStore::keep(const std::string& key, std::shared_ptr<const void> what, std::size_t bytes) {
  const std::scoped_lock lock(mutex_);
  if (bytes > budget_ || kept_.count(key) != 0) return;
  while (bytes_ + bytes > budget_ && !turns_.empty()) {
    const auto last = kept_.find(turns_.back());
    bytes_ -= last->second.bytes;
    kept_.erase(last);
    turns_.pop_back();
  }
  turns_.push_front(key);
  kept_.emplace(key, Kept{std::move(what), bytes, turns_.begin()});
  bytes_ += bytes;
}

void MediaStore::measure(Seen& seen, const std::shared_ptr<const std::string>& text) {
  const auto kind = kindOf(*text);
  Result<PictureSize> size = fail("is not a picture that can be read; " + kindList() + " can");
  seen.drawing = kind == MediaKind::Svg;
  if (seen.drawing && text->size() > kMostDrawingBytes)
    size = fail("is a drawing of more than " + bytesText(kMostDrawingBytes));
  else if (seen.drawing)
    size = drawingSize(text);
  else if (kind)
    size = pictureSize(*kind, *text);
  if (size) {
    seen.width = size->width;
    seen.height = size->height;
  } else {
    seen.sentence = std::make_shared<const std::string>(size.error().message);
  }
}

Result<MediaStore::Seen> MediaStore::see(const MediaRef& ref, std::shared_ptr<const std::string>* content) {
  if (ref.data) {
    if (content) *content = ref.data;
    const std::string key = "data:" + ref.hash;
    {
      const std::scoped_lock lock(mutex_);
      if (const auto known = seen_.find(key); known != seen_.end()) return known->second;
    }
    Seen seen;
    seen.bytes = ref.data->size();
    seen.hash = ref.hash;
    measure(seen, ref.data);
    const std::scoped_lock lock(mutex_);
    seen_[key] = seen;
    return seen;
  }
  const std::string& path = ref.path;
  struct stat now {};
  if (::stat(path.c_str(), &now) != 0)
    return fail(errno == ENOENT || errno == ENOTDIR ? "is not there any more" : systemReason(errno), path);
  Seen seen;
  seen.changed = static_cast<std::int64_t>(now.st_mtim.tv_sec) * 1000000000 + now.st_mtim.tv_nsec;
  seen.bytes = static_cast<std::uint64_t>(now.st_size);
  Seen known;
  {
    const std::scoped_lock lock(mutex_);
    const auto found = seen_.find(path);
    if (found != seen_.end() && found->second.changed == seen.changed && found->second.bytes == seen.bytes) known = found->second;
  }
  if (!known.hash.empty()) {
    if (!content || known.sentence || (!ref.hash.empty() && ref.hash != known.hash)) return known;
    // What was read a moment ago to be taken in.
    if (auto kept = find("file:" + known.hash)) {
      *content = std::static_pointer_cast<const std::string>(kept);
      return known;
    }
  }
  auto bytes = readFile(path, kMostFileBytes);
  if (!bytes) return tl::unexpected(bytes.error());
  seen.bytes = bytes->size();
  seen.hash = contentHash(*bytes);
  const auto text = std::make_shared<const std::string>(std::move(*bytes));
  if (content)
    *content = text;
  else
    keep("file:" + seen.hash, text, text->size());
  measure(seen, text);
  const std::scoped_lock lock(mutex_);
  seen_[path] = seen;
  return seen;
}

Result<MediaRef> MediaStore::takeIn(const MediaRef& ref) {
  const auto seen = see(ref);
  if (!seen) return tl::unexpected(seen.error());
  if (seen->sentence) return fail(*seen->sentence, ref.path);
  return MediaRef{ref.path, seen->bytes, seen->hash, seen->width, seen->height, ref.extra, ref.data};
}

Status MediaStore::look(const MediaRef& ref) {
  if (ref.empty()) return {};
  const auto seen = see(ref);
  if (!seen) return tl::unexpected(seen.error());
  if (seen->sentence) return fail(*seen->sentence, ref.path);
  if (!ref.hash.empty() && ref.hash != seen->hash) return fail("has been changed since it was taken in", ref.path);
  return {};
}

Result<std::shared_ptr<const std::string>> MediaStore::file(const MediaRef& ref) {
  if (auto there = look(ref); !there) return tl::unexpected(there.error());
  std::shared_ptr<const std::string> bytes;
  const auto seen = see(ref, &bytes);
  if (!seen) return tl::unexpected(seen.error());
  if (!bytes || (!ref.hash.empty() && seen->hash != ref.hash)) return fail("has been changed since it was taken in", ref.path);
  return bytes;
}

bool MediaStore::isDrawing(const MediaRef& ref) {
  if (ref.empty()) return true;
  const auto found = content(ref);
  return found && (*found)->svg;
}

Result<std::shared_ptr<const MediaStore::Content>> MediaStore::content(const MediaRef& ref) {
  if (ref.empty()) {
    static const auto sample = std::make_shared<const Content>(Content{{}, std::make_shared<const std::string>(sampleDrawing())});
    return sample;
  }
  // What it held when it was taken in stays what is shown for as long as it is in memory.
  if (!ref.hash.empty())
    if (auto kept = find(ref.hash)) return std::static_pointer_cast<const Content>(kept);
  const std::scoped_lock one(reading_);
  if (!ref.hash.empty())
    if (auto kept = find(ref.hash)) return std::static_pointer_cast<const Content>(kept);
  std::shared_ptr<const std::string> bytes;
  const auto seen = see(ref, &bytes);
  if (!seen) return tl::unexpected(seen.error());
  if (seen->sentence) return fail(*seen->sentence, ref.path);
  if (!ref.hash.empty() && ref.hash != seen->hash) return fail("has been changed since it was taken in", ref.path);
  if (auto kept = find(seen->hash)) return std::static_pointer_cast<const Content>(kept);
  auto made = std::make_shared<Content>();
  if (seen->drawing) {
    made->svg = bytes;
  } else {
    auto raster = readPicture(*kindOf(*bytes), *bytes);
    if (!raster) {
      const std::scoped_lock lock(mutex_);
      seen_[ref.data ? "data:" + ref.hash : ref.path].sentence = std::make_shared<const std::string>(raster.error().message);
      return fail(raster.error().message, ref.path);
    }
    made->raster = std::move(*raster);
  }
  keep(seen->hash, made, made->bytes());
  return std::shared_ptr<const Content>(made);
}

std::shared_ptr<const Plane> MediaStore::mended(const std::string& id, const Content& content, const SeamSettings& seam) {
  const std::string key = id.empty() ? std::string() : id + seamKey(seam);
  if (!key.empty())
    if (auto kept = find(key)) return std::static_pointer_cast<const Plane>(kept);
  Plane whole;
  if (content.svg) {
    const auto size = drawingSize(content.svg);
    if (!size) return nullptr;
    const double less = std::min(1.0, std::sqrt(static_cast<double>(kMostDrawnPixels) / (static_cast<double>(size->width) * size->height)));
    auto drawn =
        readDrawing(content.svg, std::max(1, static_cast<int>(size->width * less)), std::max(1, static_cast<int>(size->height * less)));
    if (!drawn) return nullptr;
    whole = std::move(*drawn);
  } else {
    const Raster& r = content.raster;
    // The largest are worked on a little smaller.
    constexpr double kMost = 64e6;
    const double less = std::min(1.0, std::sqrt(kMost / (static_cast<double>(r.width) * r.height)));
    whole = reducedPicture([&](int y, float* rgba) { r.row(y, rgba); }, r.width, r.height, std::max(1, static_cast<int>(r.width * less)),
                           std::max(1, static_cast<int>(r.height * less)), {Edge::Clamp, Edge::Clamp}, 0);
  }
  auto made = std::make_shared<const Plane>(seamless(whole, seam));
  if (!key.empty()) keep(key, made, bytesOf(*made));
  return made;
}

std::shared_ptr<const TilePicture> MediaStore::tile(const MediaRef& ref, int width, int height, EdgePair edges,
                                                    const std::optional<SeamSettings>& seam) {
  width = std::max(1, width);
  height = std::max(1, height);
  const std::string size = sizeKey(width, height, edges) + (seam ? seamKey(*seam) : std::string());
  const std::string id = ref.empty() ? "sample" : ref.hash;
  if (!id.empty())
    if (auto kept = find(id + size)) return std::static_pointer_cast<const TilePicture>(kept);
  const auto found = withMemory([&] { return content(ref); });
  const std::string key = (found ? id : "missing:" + mediaName(ref)) + size;
  if (!found)
    if (auto kept = find(key)) return std::static_pointer_cast<const TilePicture>(kept);
  auto made = std::make_shared<TilePicture>();
  const auto reduce = [&](const PictureRow& row, int fromWidth, int fromHeight, bool opaque) {
    made->width = std::min(width, fromWidth);
    made->height = std::min(height, fromHeight);
    made->plane = reducedPicture(row, fromWidth, fromHeight, made->width, made->height, edges, kTileBorder);
    made->opaque = opaque;
  };
  const auto fromPlane = [&](const Plane& plane, bool opaque) {
    reduce([&](int y, float* rgba) { std::copy_n(plane.row(y), static_cast<std::size_t>(plane.width()) * 4, rgba); }, plane.width(),
           plane.height(), opaque);
  };
  const bool drawing = found && (*found)->svg;
  if (const auto plane = found && seam ? mended(id, **found, *seam) : nullptr) {
    fromPlane(*plane, !drawing && (*found)->raster.opaque());
  } else if (found && !drawing) {
    const Raster& raster = (*found)->raster;
    // Much larger ones are thinned by means first; at least one and a half of their pixels are left for one, or edges would show steps.
    int block = 1;
    while (raster.width % (2 * block) == 0 && raster.height % (2 * block) == 0 && raster.width >= 3 * block * width &&
           raster.height >= 3 * block * height)
      block *= 2;
    reduce([&, block](int y, float* rgba) { raster.rowOfMeans(y, block, rgba); }, raster.width / block, raster.height / block,
           raster.opaque());
  } else {
    Result<Plane> drawn = fail("is not there");
    if (drawing) drawn = withMemory([&] { return readDrawing((*found)->svg, width, height); });
    const bool standIn = !drawn;
    const int w = std::min(width, 4096);
    const int h = std::min(height, 4096);
    // What cannot be drawn is hatched too.
    if (standIn) drawn = readDrawing(std::make_shared<const std::string>(standInDrawing(mediaName(ref), w, h)), w, h);
    if (!drawn) return nullptr;
    fromPlane(*drawn, standIn);
  }
  // Without a hash nobody could find it again.
  if (!found || !id.empty()) keep(key, made, bytesOf(made->plane));
  return made;
}

}  // namespace oa
