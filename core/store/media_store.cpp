#include "store/media_store.h"

#include <glib.h>
#include <sys/stat.h>

#include <algorithm>
#include <cerrno>
#include <cmath>

#include "base/files.h"
#include "base/memory.h"
#include "base/numbers.h"
#include "base/parallel.h"
#include "image/grey.h"
#include "image/tile_places.h"
#include "image/transfer.h"
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

bool MediaRef::operator==(const MediaRef& o) const {
  return path == o.path && bytes == o.bytes && hash == o.hash && width == o.width && height == o.height && pictures == o.pictures &&
         seconds == o.seconds && extra == o.extra && (data == o.data || (data && o.data && *data == *o.data));
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
  cache_->clear();
  shown_.clear();
  const std::scoped_lock lock(mutex_);
  seen_.clear();
  clips_.clear();
}

std::size_t MediaStore::bytes() const { return cache_->bytes() + shown_.bytes(); }

void MediaStore::measure(Seen& seen, const MediaSource& source) {
  const std::string beginning = source.data ? source.data->substr(0, kKindBytes) : beginningOfFile(source.path, kKindBytes);
  seen.kind = kindOf(beginning);
  Result<PictureSize> size = fail("is not a picture, clip or sound that can be read; " + kindList(MediaClass::Picture) + ", " +
                                  kindList(MediaClass::Clip) + ", " + kindList(MediaClass::Sound) + " can");
  if (seen.kind == MediaKind::Svg && source.data->size() > kMostDrawingBytes) {
    size = fail("is a drawing of more than " + bytesText(kMostDrawingBytes));
  } else if (seen.kind == MediaKind::Svg) {
    size = drawingSize(source.data);
  } else if (seen.kind) {
    const bool picture = classOf(*seen.kind) == MediaClass::Picture;
    if (picture) size = pictureSize(*seen.kind, *source.data);
    if (mayMove(*seen.kind, beginning) && (size || !picture)) {
      const auto moving = openMoving(*seen.kind, source);
      if (moving && (!picture || (*moving)->info().times.size() > 1)) {
        seen.moving = (*moving)->sharedInfo();
        size = PictureSize{seen.moving->width, seen.moving->height};
        seen.seconds = seen.moving->seconds;
      } else if (!moving && !picture) {
        size = tl::unexpected(moving.error());
      }
    }
    // Sound alone.
    if (!picture && !size) {
      const auto sound = withMemory([&] { return readSound(*seen.kind, source); });
      if (sound) {
        seen.seconds = (*sound)->seconds();
        size = PictureSize{};
      } else if (classOf(*seen.kind) == MediaClass::Sound) {
        size = tl::unexpected(sound.error());
      }
    }
  }
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
    measure(seen, {ref.data, {}});
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
    if (auto kept = cache_->find<std::string>("file:" + known.hash)) {
      *content = std::move(kept);
      return known;
    }
  }
  const auto kind = kindOf(beginningOfFile(path, kKindBytes));
  if (!content && kind && classOf(*kind) != MediaClass::Picture) {
    // These are read piece by piece, now and later.
    auto hash = contentHashOfFile(path, kMostClipBytes);
    if (!hash) return tl::unexpected(hash.error());
    seen.hash = std::move(*hash);
    measure(seen, {nullptr, path});
    const std::scoped_lock lock(mutex_);
    seen_[path] = seen;
    return seen;
  }
  auto bytes = readFile(path, kMostFileBytes);
  if (!bytes) return tl::unexpected(bytes.error());
  seen.bytes = bytes->size();
  seen.hash = contentHash(*bytes);
  const auto text = std::make_shared<const std::string>(std::move(*bytes));
  if (content)
    *content = text;
  else
    cache_->keep("file:" + seen.hash, text, text->size());
  measure(seen, {text, path});
  const std::scoped_lock lock(mutex_);
  seen_[path] = seen;
  return seen;
}

Result<MediaRef> MediaStore::takeIn(const MediaRef& ref) {
  const auto seen = see(ref);
  if (!seen) return tl::unexpected(seen.error());
  if (seen->sentence) return fail(*seen->sentence, ref.path);
  return MediaRef{ref.path,      seen->bytes,  seen->hash,
                  seen->width,   seen->height, seen->moving ? static_cast<int>(seen->moving->times.size()) : 0,
                  seen->seconds, ref.extra,    ref.data};
}

Status MediaStore::look(const MediaRef& ref) {
  if (ref.empty()) return {};
  const auto seen = see(ref);
  if (!seen) return tl::unexpected(seen.error());
  if (seen->sentence) return fail(*seen->sentence, ref.path);
  if (!ref.hash.empty() && ref.hash != seen->hash) return fail("has been changed since it was taken in", ref.path);
  return {};
}

Result<std::shared_ptr<Clip>> MediaStore::clip(const MediaRef& ref) {
  const auto keptClip = [&](const std::string& hash) -> std::shared_ptr<Clip> {
    const std::scoped_lock lock(mutex_);
    const auto found = std::find_if(clips_.begin(), clips_.end(), [&](const auto& each) { return each.first == hash; });
    if (found == clips_.end()) return nullptr;
    clips_.splice(clips_.begin(), clips_, found);
    return found->second;
  };
  // What it held when it was taken in stays what is shown for as long as it is open.
  if (auto kept = ref.hash.empty() ? nullptr : keptClip(ref.hash)) return kept;
  if (auto there = look(ref); !there) return tl::unexpected(there.error());
  const auto seen = see(ref);
  if (!seen) return tl::unexpected(seen.error());
  if (auto kept = keptClip(seen->hash)) return kept;
  if (!seen->moving) return fail("holds no moving picture", ref.path);
  auto opened = Clip::open(*seen->kind, {ref.data, ref.path}, "clip:" + seen->hash, cache_, seen->moving);
  if (!opened) return fail(opened.error().message, ref.path);
  constexpr std::size_t kMostOpen = 12;
  // Given up once the lock is: it may have to wait for its thread.
  std::shared_ptr<Clip> oldest;
  const std::scoped_lock lock(mutex_);
  clips_.emplace_front(seen->hash, *opened);
  if (clips_.size() > kMostOpen) {
    oldest = std::move(clips_.back().second);
    clips_.pop_back();
  }
  return std::move(*opened);
}

Result<std::shared_ptr<const Sound>> MediaStore::sound(const MediaRef& ref) {
  const std::string key = "sound:" + ref.hash;
  if (auto kept = ref.hash.empty() ? nullptr : cache_->find<Sound>(key)) return kept;
  if (auto there = look(ref); !there) return tl::unexpected(there.error());
  const std::scoped_lock one(reading_);
  if (auto kept = ref.hash.empty() ? nullptr : cache_->find<Sound>(key)) return kept;
  const auto seen = see(ref);
  if (!seen) return tl::unexpected(seen.error());
  if (!seen->kind || classOf(*seen->kind) == MediaClass::Picture) return fail("is no sound", ref.path);
  auto read = withMemory([&] { return readSound(*seen->kind, {ref.data, ref.path}); });
  if (!read) return fail(read.error().message, ref.path);
  cache_->keep("sound:" + seen->hash, *read, (*read)->stereo.size() * sizeof(float));
  return std::move(*read);
}

std::shared_ptr<const TilePicture> MediaStore::clipTile(const MediaRef& ref, const ClipMix& mix, int width, int height, EdgePair edges) {
  const auto standIn = [&] { return tile(MediaRef{ref.path}, width, height, edges); };
  const auto moving = clip(ref);
  if (!moving) return standIn();
  std::string key = ref.hash;
  std::vector<std::pair<Raster, float>> parts;
  for (const ClipMix::Part& part : mix.parts) {
    if (part.weight <= 0) continue;
    key += "/" + std::to_string(part.picture) + "*" + numberText(part.weight, 9);
  }
  key += sizeKey(width, height, edges);
  if (auto kept = shown_.find<TilePicture>(key)) return kept;
  bool opaque = true;
  for (const ClipMix::Part& part : mix.parts) {
    if (part.weight <= 0) continue;
    auto raster = (*moving)->picture(part.picture);
    if (!raster) return standIn();
    opaque = opaque && raster->opaque();
    parts.emplace_back(std::move(*raster), static_cast<float>(part.weight));
  }
  if (parts.empty()) return standIn();
  const Raster& first = parts.front().first;
  const auto row = [&](int y, float* rgba) {
    first.row(y, rgba);
    if (parts.size() == 1) return;
    const auto n = static_cast<std::size_t>(first.width) * 4;
    std::vector<float> other(n);
    for (std::size_t i = 0; i < n; ++i) rgba[i] *= parts.front().second;
    for (std::size_t k = 1; k < parts.size(); ++k) {
      parts[k].first.row(y, other.data());
      for (std::size_t i = 0; i < n; ++i) rgba[i] += other[i] * parts[k].second;
    }
  };
  auto made = reduced(row, first.width, first.height, std::max(1, width), std::max(1, height), edges, opaque);
  shown_.keep(key, made, bytesOf(made->plane));
  return made;
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
    if (auto kept = cache_->find<Content>(ref.hash)) return kept;
  const std::scoped_lock one(reading_);
  if (!ref.hash.empty())
    if (auto kept = cache_->find<Content>(ref.hash)) return kept;
  if (ref.moving()) {
    // What stands for it is its first picture.
    const auto moving = clip(ref);
    if (!moving) return tl::unexpected(moving.error());
    auto first = (*moving)->picture(0);
    if (!first) return fail(first.error().message, ref.path);
    return std::make_shared<const Content>(Content{std::move(*first), {}});
  }
  std::shared_ptr<const std::string> bytes;
  const auto seen = see(ref, &bytes);
  if (!seen) return tl::unexpected(seen.error());
  if (seen->sentence) return fail(*seen->sentence, ref.path);
  if (!ref.hash.empty() && ref.hash != seen->hash) return fail("has been changed since it was taken in", ref.path);
  if (auto kept = cache_->find<Content>(seen->hash)) return kept;
  auto made = std::make_shared<Content>();
  if (seen->kind && classOf(*seen->kind) != MediaClass::Picture)
    return fail("is a " + std::string(kindName(*seen->kind)) + " file and no picture", ref.path);
  if (seen->kind == MediaKind::Svg) {
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
  cache_->keep(seen->hash, made, made->bytes());
  return std::shared_ptr<const Content>(made);
}

std::shared_ptr<const Plane> MediaStore::mended(const std::string& id, const Content& content, const SeamSettings& seam) {
  const std::string key = id.empty() ? std::string() : id + seamKey(seam);
  if (!key.empty())
    if (auto kept = cache_->find<Plane>(key)) return kept;
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
  if (!key.empty()) cache_->keep(key, made, bytesOf(*made));
  return made;
}

std::shared_ptr<TilePicture> MediaStore::reduced(const PictureRow& row, int fromWidth, int fromHeight, int width, int height,
                                                 EdgePair edges, bool opaque) {
  auto made = std::make_shared<TilePicture>();
  made->width = std::min(width, fromWidth);
  made->height = std::min(height, fromHeight);
  made->plane = reducedPicture(row, fromWidth, fromHeight, made->width, made->height, edges, kTileBorder);
  made->opaque = opaque;
  return made;
}

std::shared_ptr<const TilePicture> MediaStore::tile(const MediaRef& ref, int width, int height, EdgePair edges,
                                                    const std::optional<SeamSettings>& seam) {
  width = std::max(1, width);
  height = std::max(1, height);
  const std::string size = sizeKey(width, height, edges) + (seam ? seamKey(*seam) : std::string());
  const std::string id = ref.empty() ? "sample" : ref.hash;
  if (!id.empty())
    if (auto kept = cache_->find<TilePicture>(id + size)) return kept;
  const auto found = withMemory([&] { return content(ref); });
  const std::string key = (found ? id : "missing:" + mediaName(ref)) + size;
  if (!found)
    if (auto kept = cache_->find<TilePicture>(key)) return kept;
  std::shared_ptr<TilePicture> made;
  const auto reduce = [&](const PictureRow& row, int fromWidth, int fromHeight, bool opaque) {
    made = reduced(row, fromWidth, fromHeight, width, height, edges, opaque);
    // What ends is mixed with nothing there.
    if (!opaque || edges.across == Edge::Transparent || edges.down == Edge::Transparent) return;
    // Without what mixing leaves.
    for (int y = 0; y < made->height; ++y)
      makeOpaque(made->plane.row(y + kTileBorder) + static_cast<std::ptrdiff_t>(kTileBorder) * 4, made->width);
    surround(made->plane, made->width, made->height, edges, kTileBorder);
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
  if (!found || !id.empty()) {
    made->key = key;
    cache_->keep(key, made, bytesOf(made->plane));
  }
  return made;
}

std::shared_ptr<const TilePicture> MediaStore::formed(const std::shared_ptr<const TilePicture>& tile, TileForm form) {
  const std::string key = tile->key + (form.exchanged ? "/exchanged" : "") + (form.decoded ? "/decoded" : "");
  if (!tile->key.empty())
    if (auto kept = cache_->find<TilePicture>(key)) return kept;
  auto made = std::make_shared<TilePicture>();
  made->width = form.exchanged ? tile->height : tile->width;
  made->height = form.exchanged ? tile->width : tile->height;
  made->opaque = tile->opaque;
  made->plane = form.exchanged ? exchanged(tile->plane.pixels()) : Plane(tile->plane.width(), tile->plane.height(), 4);
  parallelBands(form.decoded ? made->plane.height() : 0, [&](int y0, int y1) {
    for (int y = y0; y < y1; ++y)
      decodeSpan(form.exchanged ? made->plane.row(y) : tile->plane.row(y), made->plane.row(y), made->plane.width());
  });
  if (tile->key.empty()) return made;
  made->key = key;
  cache_->keep(key, made, bytesOf(made->plane));
  return made;
}

std::shared_ptr<const TilePicture> MediaStore::lightTile(const MediaRef& ref, int width, int height, EdgePair edges, double gain,
                                                         const std::optional<SeamSettings>& seam) {
  if (ref.hash.empty()) return nullptr;
  width = std::max(1, width);
  height = std::max(1, height);
  const std::string key =
      ref.hash + sizeKey(width, height, edges) + (seam ? seamKey(*seam) : std::string()) + "/light" + numberText(gain, 12);
  if (auto kept = cache_->find<TilePicture>(key)) return kept;
  if (!withMemory([&] { return content(ref); })) return nullptr;
  const auto shown = tile(ref, 2 * width, 2 * height, edges, seam);
  if (!shown) return nullptr;
  if (shown->width < 2 * width - 1 || shown->height < 2 * height - 1) return nullptr;
  auto made = std::make_shared<TilePicture>();
  made->width = width;
  made->height = height;
  made->opaque = shown->opaque;
  made->plane = Plane(width + 2 * kTileBorder, height + 2 * kTileBorder, 4);
  // Twice as many of it and, where one is missing, what lies round it.
  const int pixels = std::max(2 * width, shown->width);
  parallelBands(height, [&](int y0, int y1) {
    FloatBuffer room(static_cast<std::size_t>(paddedRow(pixels, 4)));
    for (int y = y0; y < y1; ++y) {
      float* const to = made->plane.row(y + kTileBorder) + static_cast<std::ptrdiff_t>(kTileBorder) * 4;
      std::fill_n(to, static_cast<std::ptrdiff_t>(width) * 4, 0.0f);
      for (int k = 0; k < 2; ++k) {
        std::copy_n(shown->plane.row(2 * y + k + kTileBorder) + static_cast<std::ptrdiff_t>(kTileBorder) * 4,
                    static_cast<std::ptrdiff_t>(pixels) * 4, room.data());
        if (gain != 1) gained(room.data(), pixels, static_cast<float>(gain));
        decodeSpan(room.data(), pixels);
        for (int i = 0; i < 4 * width; ++i) {
          const float* const pair = room.data() + i / 4 * 8 + i % 4;
          to[i] += (pair[0] + pair[4]) / 4;
        }
      }
    }
  });
  surround(made->plane, width, height, edges, kTileBorder);
  cache_->keep(key, made, bytesOf(made->plane));
  return made;
}

}  // namespace oa
