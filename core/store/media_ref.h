// A file that a scene shows: where it lies, and what it held when it was taken in.
#pragma once

#include <cstdint>
#include <memory>
#include <string>
#include <string_view>

#include "base/result.h"

namespace oa {

inline constexpr std::size_t kMaxPathBytes = 4096;

/// A value of the scene. No path: no file has been chosen.
struct MediaRef {
  std::string path;         ///< absolute while the scene is open; in scene files relative to them
  std::uint64_t bytes = 0;  ///< size of the file; 0: not known yet
  std::string hash = {};    ///< SHA-256 of its content in hex; empty: not known yet
  int width = 0;            ///< pixels, upright; 0: not known
  int height = 0;
  int pictures = 0;        ///< of a clip or an animated picture; 0: it does not move
  double seconds = 0;      ///< how long a clip or a sound is; 0: neither
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in
  /// The file itself, where the scene holds it; then the path is only a name.
  std::shared_ptr<const std::string> data = {};

  [[nodiscard]] bool moving() const { return pictures > 1; }
  [[nodiscard]] bool empty() const { return path.empty(); }
  bool operator==(const MediaRef& other) const;
};

/// Longer clips and sounds are not taken in: ten hours.
inline constexpr double kMostMediaSeconds = 36000;
/// What a scene file may hold of a file.
inline constexpr std::size_t kMostEmbeddedBytes = std::size_t{4} << 20;

/// SHA-256 in hex.
std::string contentHash(std::string_view bytes);
/// The same of a regular file, read piece by piece, of at most `most` bytes.
Result<std::string> contentHashOfFile(const std::string& path, std::uint64_t most);
/// RFC 4648 base64, and back; what is no base64 comes back empty.
std::string base64Text(std::string_view bytes);
std::string base64Bytes(const std::string& text);

/// The last part of the path.
std::string mediaName(const MediaRef& ref);

}  // namespace oa
