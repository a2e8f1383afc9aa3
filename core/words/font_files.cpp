#include "words/font_files.h"

#include <fontconfig/fontconfig.h>

// After it, for it needs it.
#include <fontconfig/fcfreetype.h>
#include <ft2build.h>

#include <algorithm>
#include <filesystem>
#include <memory>
#include <mutex>
#include <set>
#include <system_error>
#include FT_FREETYPE_H

#include "base/files.h"
#include "base/memory.h"
#include "store/media_store.h"
#include "words/typeset.h"

namespace oa {
namespace {

struct Released {
  void operator()(FcPattern* p) const { FcPatternDestroy(p); }
  void operator()(FcObjectSet* p) const { FcObjectSetDestroy(p); }
  void operator()(FcFontSet* p) const { FcFontSetDestroy(p); }
  void operator()(FT_Library p) const { FT_Done_FreeType(p); }
  void operator()(FT_Face p) const { FT_Done_Face(p); }
};
template <class T>
using Owned = std::unique_ptr<T, Released>;

// What `look` finds in the font's first face; `none` where it is no font.
template <class T, class Look>
T faceOf(const std::string& font, T none, const Look& look) {
  FT_Library made = nullptr;
  if (FT_Init_FreeType(&made) != 0) return none;
  const Owned<FT_LibraryRec_> library(made);
  FT_Face face = nullptr;
  if (FT_New_Memory_Face(made, reinterpret_cast<const FT_Byte*>(font.data()), static_cast<FT_Long>(font.size()), 0, &face) != 0)
    return none;
  const Owned<FT_FaceRec_> held(face);
  return look(face);
}

// The files of a family.
std::set<std::string> pathsOf(const std::string& family) {
  const Owned<FcPattern> wanted(FcPatternCreate());
  FcPatternAddString(wanted.get(), FC_FAMILY, reinterpret_cast<const FcChar8*>(family.c_str()));
  const Owned<FcObjectSet> asked(FcObjectSetBuild(FC_FILE, nullptr));
  const Owned<FcFontSet> fonts(FcFontList(nullptr, wanted.get(), asked.get()));
  std::set<std::string> paths;
  for (int i = 0; fonts && i < fonts->nfont; ++i) {
    FcChar8* path = nullptr;
    if (FcPatternGetString(fonts->fonts[i], FC_FILE, 0, &path) == FcResultMatch) paths.insert(reinterpret_cast<const char*>(path));
  }
  return paths;
}

// Where fonts of packs lie while the program runs: the system's fonts are files.
class Folder {
 public:
  ~Folder() {
    std::error_code ignored;
    if (!path_.empty()) std::filesystem::remove_all(path_, ignored);
  }
  Result<std::filesystem::path> path() {
    if (!path_.empty()) return path_;
    std::error_code failed;
    std::string name = (std::filesystem::temp_directory_path(failed) / "over-again-fonts-XXXXXX").string();
    if (failed || !::mkdtemp(name.data()))
      return fail("there is no room for the fonts of the pack: the folder for temporary files can't be written");
    return path_ = name;
  }

 private:
  std::filesystem::path path_;
};

}  // namespace

bool mayBeTakenAlong(const std::string& font) {
  return faceOf(font, false, [](FT_Face face) {
    constexpr unsigned kEditable = 0x0008;
    constexpr unsigned kKinds = 0x000e;
    constexpr unsigned kBitmapsOnly = 0x0200;
    const unsigned bits = FT_Get_FSType_Flags(face);
    return ((bits & kKinds) == 0 || (bits & kEditable) != 0) && (bits & kBitmapsOnly) == 0;
  });
}

bool fontIsOf(const std::string& font, const std::set<std::string>& families) {
  // By fontconfig's own reading of it, which is how it will be found.
  return faceOf(font, false, [&](FT_Face face) {
    const Owned<FcPattern> read(FcFreeTypeQueryFace(face, nullptr, 0, nullptr));
    for (int i = 0; read; ++i) {
      FcChar8* name = nullptr;
      if (FcPatternGetString(read.get(), FC_FAMILY, i, &name) != FcResultMatch) return false;
      if (std::any_of(families.begin(), families.end(), [&](const std::string& family) {
            return FcStrCmpIgnoreCase(name, reinterpret_cast<const FcChar8*>(family.c_str())) == 0;
          }))
        return true;
    }
    return false;
  });
}

Result<std::vector<FontFile>> fontFilesOf(const std::string& family) {
  std::vector<FontFile> files;
  std::size_t total = 0;
  for (const std::string& path : pathsOf(family)) {
    auto bytes = readFile(path, kMostFontBytes);
    if (!bytes) return tl::unexpected(bytes.error());
    total += bytes->size();
    if (total > kMostFontBytes || files.size() == kMostFontFiles)
      return fail("the font \"" + family + "\" is too large to be taken along (more than " +
                  bytesText(static_cast<double>(kMostFontBytes)) + ")");
    if (!mayBeTakenAlong(*bytes)) return fail("the font \"" + family + "\" does not let itself be taken along: its licence bits say so");
    files.push_back({std::filesystem::path(path).filename().string(), std::move(*bytes)});
  }
  return files;
}

Status takeFont(const std::string& font) {
  if (font.size() > kMostFontBytes || !faceOf(font, false, [](FT_Face face) { return FT_IS_SCALABLE(face) != 0; }))
    return fail("one of its fonts is no font that can be used");
  static std::mutex mutex;
  static Folder folder;
  static std::set<std::string> taken;
  const std::lock_guard lock(mutex);
  const std::string name = contentHash(font);
  if (taken.contains(name)) return {};
  const auto where = folder.path();
  if (!where) return tl::unexpected(where.error());
  const std::string path = (*where / (name + ".font")).string();
  if (auto written = writeFileAtomically(path, font); !written) return written;
  if (!FcConfigAppFontAddFile(nullptr, reinterpret_cast<const FcChar8*>(path.c_str())))
    return fail("one of its fonts is no font that can be used");
  taken.insert(name);
  fontsChanged();
  return {};
}

}  // namespace oa
