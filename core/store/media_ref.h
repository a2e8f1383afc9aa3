// A file that a scene shows: where it lies, and what it held when it was taken in.
#pragma once

#include <cstdint>
#include <memory>
#include <string>
#include <string_view>

namespace oa {

inline constexpr std::size_t kMaxPathBytes = 4096;

/// A value of the scene. No path: no file has been chosen.
struct MediaRef {
  std::string path;         ///< absolute while the scene is open; in scene files relative to them
  std::uint64_t bytes = 0;  ///< size of the file; 0: not known yet
  std::string hash = {};    ///< SHA-256 of its content in hex; empty: not known yet
  int width = 0;            ///< pixels, upright; 0: not known
  int height = 0;
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in
  /// The file itself, where the scene holds it; then the path is only a name.
  std::shared_ptr<const std::string> data = {};

  [[nodiscard]] bool empty() const { return path.empty(); }
  bool operator==(const MediaRef& other) const;
};

/// What a scene file may hold of a file.
inline constexpr std::size_t kMostEmbeddedBytes = std::size_t{4} << 20;

/// SHA-256 in hex.
std::string contentHash(std::string_view bytes);
/// RFC 4648 base64, and back; what is no base64 comes back empty.
std::string base64Text(std::string_view bytes);
std::string base64Bytes(const std::string& text);

/// The last part of the path.
std::string mediaName(const MediaRef& ref);

}  // namespace oa
