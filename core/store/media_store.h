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
#include "store/media_ref.h"
#include "store/raster.h"

namespace oa {

/// A picture in the size in which it is shown, with what lies beyond its sides round it.
struct TilePicture {
  Plane plane;
  int width = 0;  ///< without the border
  int height = 0;
  bool opaque = false;  ///< all of its own pixels
};

class MediaStore {
 public:
  static MediaStore& shared();
  explicit MediaStore(std::size_t budget) : budget_(budget) {}
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
    bool drawing = false;
  };
  struct Kept {
    std::shared_ptr<const void> what;
    std::size_t bytes = 0;
    std::list<std::string>::iterator turn;
  };
  struct Content;

  // With `content` the file is read, unless it is known that it cannot be shown, or is another one.
  Result<Seen> see(const MediaRef& ref, std::shared_ptr<const std::string>* content = nullptr);
  static void measure(Seen& seen, const std::shared_ptr<const std::string>& text);
  Result<std::shared_ptr<const Content>> content(const MediaRef& ref);
  std::shared_ptr<const Plane> mended(const std::string& id, const Content& content, const SeamSettings& seam);
  std::shared_ptr<const void> find(const std::string& key);
  void keep(const std::string& key, std::shared_ptr<const void> what, std::size_t bytes);

  std::size_t budget_;
  mutable std::mutex mutex_;
  std::mutex reading_;  // one file is read at a time
  std::unordered_map<std::string, Seen> seen_;
  std::unordered_map<std::string, Kept> kept_;
  std::list<std::string> turns_;  // used last first
  std::size_t bytes_ = 0;
};

/// Files that are read at all.
inline constexpr std::size_t kMostFileBytes = std::size_t{512} << 20;
inline constexpr std::size_t kMostDrawingBytes = std::size_t{16} << 20;

}  // namespace oa
