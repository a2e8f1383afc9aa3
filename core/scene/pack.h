// A scene and its media in one file: a zip archive with the scene and a folder of media.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "scene/scene.h"

namespace oa {

inline constexpr const char* kPackSuffix = ".overpack";

/// Whether a file begins as a zip archive does.
bool isPack(std::string_view bytes);

/// The scene in a pack, its media held by it. Everything in it is checked: sizes, count, names; errors are sentences.
Result<Scene> sceneFromPack(const std::string& bytes);
/// A pack of the scene, with the fonts that it names as far as they may be taken along. A file that is missing, or not the one that was
/// taken in, is named and nothing is made.
Result<std::string> packOf(const Scene& scene);

/// Why fonts that the scene names and that are here are not part of a pack: a sentence for each.
std::vector<std::string> fontsLeftBehind(const Scene& scene);

/// What a pack may hold, unpacked.
inline constexpr std::size_t kMostPackBytes = std::size_t{1} << 30;
inline constexpr int kMostPackEntries = 4096;

}  // namespace oa
