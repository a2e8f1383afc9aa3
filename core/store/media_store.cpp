#include "store/media_store.h"

#include <fcntl.h>
#include <glib.h>
#include <sys/stat.h>

#include <algorithm>
#include <cerrno>
#include <cmath>

#include "base/files.h"
#include "base/memory.h"
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

}  // namespace

std::string contentHash(std::string_view bytes) {
  gchar* const text = g_compute_checksum_for_data(G_CHECKSUM_SHA256, reinterpret_cast<const guchar*>(bytes.data()), bytes.size());
  std::string hash(text);
  g_free(text);
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
  {
    const std::scoped_lock lock(mutex_);
    const auto known = seen_.find(path);
    if (known != seen_.end() && known->second.changed == seen.changed && known->second.bytes == seen.bytes)
      if (!content || known->second.sentence || (!ref.hash.empty() && ref.hash != known->second.hash)) return known->second;
  }
  auto bytes = readFile(path, kMostFileBytes);
  if (!bytes) return tl::unexpected(bytes.error());
  seen.bytes = bytes->size();
  seen.hash = contentHash(*bytes);
  const auto text = std::make_shared<const std::string>(std::move(*bytes));
  if (content) *content = text;
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

std::shared_ptr<const TilePicture> MediaStore::tile(const MediaRef& ref, int width, int height, EdgePair edges) {
  width = std::max(1, width);
  height = std::max(1, height);
  const std::string size = sizeKey(width, height, edges);
  const std::string id = ref.empty() ? "sample" : ref.hash;
  if (!id.empty())
    if (auto kept = find(id + size)) return std::static_pointer_cast<const TilePicture>(kept);
  const auto found = withMemory([&] { return content(ref); });
  const std::string key = (found ? id : "missing:" + mediaName(ref)) + size;
  if (!found)
    if (auto kept = find(key)) return std::static_pointer_cast<const TilePicture>(kept);
  auto made = std::make_shared<TilePicture>();
  const auto fromPlane = [&](const Plane& drawn) {
    made->width = drawn.width();
    made->height = drawn.height();
    made->plane = reducedPicture([&](int y, float* rgba) { std::copy_n(drawn.row(y), static_cast<std::size_t>(drawn.width()) * 4, rgba); },
                                 drawn.width(), drawn.height(), drawn.width(), drawn.height(), edges, kTileBorder);
  };
  // What cannot be drawn is hatched too.
  Result<Plane> drawn = fail("");
  if (found && (*found)->svg) drawn = withMemory([&] { return readDrawing((*found)->svg, width, height); });
  if (found && !(*found)->svg) {
    const Raster& raster = (*found)->raster;
    made->width = std::min(width, raster.width);
    made->height = std::min(height, raster.height);
    made->plane = reducedPicture([&](int y, float* rgba) { raster.row(y, rgba); }, raster.width, raster.height, made->width, made->height,
                                 edges, kTileBorder);
    made->opaque = raster.opaque();
  } else if (drawn) {
    fromPlane(*drawn);
  } else {
    const int w = std::min(width, 4096);
    const int h = std::min(height, 4096);
    drawn = readDrawing(std::make_shared<const std::string>(standInDrawing(mediaName(ref), w, h)), w, h);
    if (!drawn) return nullptr;
    fromPlane(*drawn);
    made->opaque = true;
  }
  const std::size_t bytes = static_cast<std::size_t>(made->plane.stride()) * static_cast<std::size_t>(made->plane.height()) * sizeof(float);
  // Without a hash nobody could find it again.
  if (!found || !id.empty()) keep(key, made, bytes);
  return made;
}

}  // namespace oa
