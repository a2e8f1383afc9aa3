// The one place that media are opened in: what was read is kept, within a budget, for whoever asks for the same again.
#pragma once

#include <cstddef>
#include <list>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <unordered_map>

#include "base/result.h"
#include "image/reduced.h"
#include "image/seamless.h"
#include "image/tiled.h"
#include "store/byte_cache.h"
#include "store/clip.h"
#include "store/clip_time.h"
#include "store/media_ref.h"
#include "store/raster.h"
#include "store/sound_reader.h"

namespace oa {

/// A picture in the size in which it is shown, with what lies beyond its sides round it.
struct TilePicture {
  Plane plane;
  int width = 0;  ///< without the border
  int height = 0;
  bool opaque = false;  ///< all of its own pixels but those next to a side that ends; of still ones that go on all round to the bit
  std::string key;      ///< by which it is found again; none: it is not
};

/// Other ways for the same to lie in memory.
struct TileForm {
  bool exchanged = false;  ///< rows and columns have changed places
  bool decoded = false;    ///< pixel by pixel in linear light (image/transfer.h)
};

class MediaStore {
 public:
  static MediaStore& shared();
  explicit MediaStore(std::size_t budget) : cache_(std::make_shared<ByteCache>(budget)), shown_(budget / 8) {}
  MediaStore(const MediaStore&) = delete;
  MediaStore& operator=(const MediaStore&) = delete;

  /// The file at an absolute path, or what is embedded, taken in: its size, hash and pixels. Errors are sentences with the file's path.
  Result<MediaRef> takeIn(const MediaRef& ref);
  Result<MediaRef> takeIn(const std::string& path) { return takeIn(MediaRef{path}); }

  /// Why a file cannot be shown as it was taken in; an error's `where` is its path. Looks at the disk, and reads a file once that it has
  /// not seen as it is now. Nothing chosen is no error.
  Status look(const MediaRef& ref);

  /// The picture in at least 1 x 1 and at most its own size; drawings in any size. Where it cannot be shown, a hatched stand-in with its
  /// name; for no file the sample. Empty only without memory.
  /// With `seam` its ends are made to meet first: in the size it has of its own, so that it comes out alike in every other.
  std::shared_ptr<const TilePicture> tile(const MediaRef& ref, int width, int height, EdgePair edges,
                                          const std::optional<SeamSettings>& seam = {});
  /// A tile in another form, kept as long as others are.
  std::shared_ptr<const TilePicture> formed(const std::shared_ptr<const TilePicture>& tile, TileForm form);
  /// The same in linear light (image/transfer.h), each pixel the mean of two by two of what tile() shows in twice as many either way, the
  /// colours of these multiplied by `gain`, none above its alpha. Null for no file, and for one that cannot be shown or is not as large as
  /// that, bar a pixel.
  std::shared_ptr<const TilePicture> lightTile(const MediaRef& ref, int width, int height, EdgePair edges, double gain = 1,
                                               const std::optional<SeamSettings>& seam = {});
  /// The clip or animated picture. Errors are sentences with its path.
  Result<std::shared_ptr<Clip>> clip(const MediaRef& ref);
  /// The sound of a file, or of a clip. Errors are sentences with its path.
  Result<std::shared_ptr<const Sound>> sound(const MediaRef& ref);
  /// Pictures of a clip mixed, in the size they are shown in; a stand-in where one cannot be shown.
  std::shared_ptr<const TilePicture> clipTile(const MediaRef& ref, const ClipMix& mix, int width, int height, EdgePair edges);
  /// The file itself, as it was taken in. Errors are sentences with its path.
  Result<std::shared_ptr<const std::string>> file(const MediaRef& ref);
  /// Whether it is drawn anew in any size.
  bool isDrawing(const MediaRef& ref);

  /// Forgets what is kept in memory and known of files.
  void clear();
  [[nodiscard]] std::size_t bytes() const;

 private:
  // A file as it was found last.
  struct Seen {
    std::int64_t changed = 0;  // nanoseconds
    std::uint64_t bytes = 0;
    std::string hash;
    std::shared_ptr<const std::string> sentence;  // why it cannot be read; none: it can
    int width = 0;
    int height = 0;
    double seconds = 0;
    std::shared_ptr<const MovingInfo> moving;  // of clips and animated pictures
    std::optional<MediaKind> kind;
  };
  struct Content;

  // With `content` the file is read, unless it is known that it cannot be shown, or is another one.
  Result<Seen> see(const MediaRef& ref, std::shared_ptr<const std::string>* content = nullptr);
  static void measure(Seen& seen, const MediaSource& source);
  Result<std::shared_ptr<const Content>> content(const MediaRef& ref);
  std::shared_ptr<const Plane> mended(const std::string& id, const Content& content, const SeamSettings& seam);
  // The shape that a picture is shown in, with a border of what its edge rules put there.
  static std::shared_ptr<TilePicture> reduced(const PictureRow& row, int fromWidth, int fromHeight, int width, int height, EdgePair edges,
                                              bool opaque);

  std::shared_ptr<ByteCache> cache_;
  ByteCache shown_;  // pictures of clips as they were shown last: soon they are others
  mutable std::mutex mutex_;
  std::mutex reading_;  // one file is read at a time
  std::unordered_map<std::string, Seen> seen_;
  std::list<std::pair<std::string, std::shared_ptr<Clip>>> clips_;  // by their hash; used last first
};

/// Files that are read at all: pictures and drawings as a whole, clips and sounds piece by piece.
inline constexpr std::size_t kMostFileBytes = std::size_t{512} << 20;
inline constexpr std::uint64_t kMostClipBytes = std::uint64_t{64} << 30;
inline constexpr std::size_t kMostDrawingBytes = std::size_t{16} << 20;

}  // namespace oa
