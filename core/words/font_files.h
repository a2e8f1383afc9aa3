// Fonts as files: taken along where their makers let them, and made known where they are not installed.
#pragma once

#include <set>
#include <string>
#include <vector>

#include "base/result.h"

namespace oa {

struct FontFile {
  std::string name;  ///< without its folder
  std::string bytes;
};

/// What a family consists of here: its files, if all of it may be taken along and it is not too large; else a sentence says why not. A
/// family that is not there has none.
Result<std::vector<FontFile>> fontFilesOf(const std::string& family);

/// Whether a font may be part of what others go on working with: the embedding bits of its OS/2 table (OpenType, "fsType") say that it
/// is installable or editable. A font without them, or what is no font, may not.
bool mayBeTakenAlong(const std::string& font);

/// Whether it is of one of these families.
bool fontIsOf(const std::string& font, const std::set<std::string>& families);

/// Makes a font known to this program until it ends. What is not a font is refused.
Status takeFont(const std::string& font);

inline constexpr std::size_t kMostFontBytes = std::size_t{48} << 20;  ///< of a family
inline constexpr std::size_t kMostFontFiles = 40;

}  // namespace oa
