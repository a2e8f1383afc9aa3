#include "scene/pack.h"

#include <zip.h>

#include <algorithm>
#include <map>
#include <memory>
#include <set>

#include "base/memory.h"
#include "scene/json_text.h"
#include "scene/media_refs.h"
#include "scene/named_fonts.h"
#include "scene/scene_json.h"
#include "store/media_store.h"
#include "words/font_files.h"

namespace oa {
namespace {

constexpr const char* kSceneName = "scene.overagain";

struct Discard {
  void operator()(zip_t* p) const { zip_discard(p); }
  void operator()(zip_file_t* p) const { zip_fclose(p); }
};
using Archive = std::unique_ptr<zip_t, Discard>;

Error broken() { return {"is a damaged or unfinished pack", {}}; }

// An entry, unless it holds more than it says or than is allowed.
Result<std::string> entryOf(zip_t* archive, zip_uint64_t index, std::size_t most) {
  zip_stat_t stat;
  if (zip_stat_index(archive, index, 0, &stat) != 0 || (stat.valid & ZIP_STAT_SIZE) == 0) return tl::unexpected(broken());
  if (stat.size > most) return fail("holds more than can be unpacked (" + bytesText(static_cast<double>(most)) + ")");
  const std::unique_ptr<zip_file_t, Discard> file(zip_fopen_index(archive, index, 0));
  if (!file) return tl::unexpected(broken());
  std::string bytes(static_cast<std::size_t>(stat.size), '\0');
  // Read to the end, so that its checksum is looked at.
  const auto got = zip_fread(file.get(), bytes.data(), bytes.size());
  char more = 0;
  if (got != static_cast<zip_int64_t>(bytes.size()) || zip_fread(file.get(), &more, 1) != 0) return tl::unexpected(broken());
  return bytes;
}

constexpr std::string_view kFontFolder = "fonts/";

// Fonts of the pack that the scene names and that are not here: nothing that is installed is replaced. What can't be used of them is
// passed over, as if it were not there: words are then set in what there is, and that is said where fonts are missing.
void takeFonts(zip_t* archive, const Scene& scene, std::size_t& total) {
  const std::set<std::string> unknown = unknownFonts(scene);
  if (unknown.empty()) return;
  const auto count = zip_get_num_entries(archive, 0);
  std::size_t taken = 0;
  for (zip_int64_t i = 0; i < count && taken < kMostFontFiles; ++i) {
    const char* const name = zip_get_name(archive, static_cast<zip_uint64_t>(i), 0);
    if (!name || !std::string_view(name).starts_with(kFontFolder)) continue;
    const auto font = entryOf(archive, static_cast<zip_uint64_t>(i), std::min(kMostFontBytes, kMostPackBytes - total));
    if (!font) continue;
    total += font->size();
    ++taken;
    if (fontIsOf(*font, unknown)) (void)takeFont(*font);
  }
}

}  // namespace

bool isPack(std::string_view bytes) { return bytes.substr(0, 4) == std::string_view("PK\3\4", 4); }

Result<Scene> sceneFromPack(const std::string& bytes) {
  zip_error_t error;
  zip_error_init(&error);
  zip_source_t* const source = zip_source_buffer_create(bytes.data(), bytes.size(), 0, &error);
  const Archive archive(source ? zip_open_from_source(source, ZIP_RDONLY, &error) : nullptr);
  zip_error_fini(&error);
  if (!archive) {
    zip_source_free(source);
    return tl::unexpected(broken());
  }
  const auto count = zip_get_num_entries(archive.get(), 0);
  if (count > kMostPackEntries) return fail("holds more than " + std::to_string(kMostPackEntries) + " files");
  const auto at = zip_name_locate(archive.get(), kSceneName, 0);
  if (at < 0) return fail("is a zip archive without a scene in it");
  const auto text = entryOf(archive.get(), static_cast<zip_uint64_t>(at), kMaxSceneBytes);
  if (!text) return tl::unexpected(text.error());
  auto scene = sceneFromText(*text);
  if (!scene) return scene;
  // Only what the scene names is unpacked, and by names that lie within the pack.
  std::size_t total = 0;
  std::map<std::string, std::shared_ptr<const std::string>> unpacked;
  Status status;
  forEachMedia(*scene, [&](MediaRef& ref) {
    if (!status || ref.data) return;
    auto& held = unpacked[ref.path];
    if (!held) {
      const auto found = zip_name_locate(archive.get(), ref.path.c_str(), 0);
      if (found < 0) return;  // it was missing when the pack was made
      auto entry = entryOf(archive.get(), static_cast<zip_uint64_t>(found), std::min(kMostFileBytes, kMostPackBytes - total));
      if (!entry) {
        status = tl::unexpected(entry.error());
        return;
      }
      total += entry->size();
      held = std::make_shared<const std::string>(std::move(*entry));
    }
    ref.data = held;
    ref.bytes = held->size();
    ref.hash = contentHash(*held);
  });
  if (!status) return tl::unexpected(status.error());
  takeFonts(archive.get(), *scene, total);
  return scene;
}

std::vector<std::string> fontsLeftBehind(const Scene& scene) {
  std::vector<std::string> sentences;
  for (const std::string& family : namedFonts(scene))
    if (const auto files = fontFilesOf(family); !files) sentences.push_back(files.error().sentence());
  return sentences;
}

Result<std::string> packOf(const Scene& scene) {
  Scene written = scene;
  std::map<std::string, std::pair<std::string, std::shared_ptr<const std::string>>> entries;  // by hash: name, content
  std::set<std::string> names;
  std::size_t total = 0;
  Status status;
  forEachMedia(written, [&](MediaRef& ref) {
    if (!status) return;
    auto content = MediaStore::shared().file(ref);
    if (!content) {
      status = tl::unexpected(content.error());
      return;
    }
    auto& entry = entries[contentHash(**content)];
    if (!entry.second) {
      total += (*content)->size();
      // Files of one name each keep theirs, with a number.
      const std::string own = mediaName(ref);
      const std::size_t dot = std::min(own.find_last_of('.'), own.size());
      std::string name = "media/" + own;
      for (int n = 2; !names.insert(name).second; ++n) name = "media/" + own.substr(0, dot) + "-" + std::to_string(n) + own.substr(dot);
      entry = {name, *content};
    }
    ref.path = entry.first;
    ref.data = nullptr;
  });
  if (!status) return tl::unexpected(status.error());
  std::map<std::string, std::string> fonts;  // by their names in the pack
  for (const std::string& family : namedFonts(scene))
    if (auto files = fontFilesOf(family))
      for (FontFile& file : *files) {
        total += file.bytes.size();
        // Files of one name each keep theirs, with a number.
        std::string name = std::string(kFontFolder) + file.name;
        for (int n = 2; fonts.contains(name) && fonts[name] != file.bytes; ++n)
          name = std::string(kFontFolder) + std::to_string(n) + "-" + file.name;
        fonts[name] = std::move(file.bytes);
      }
  if (total > kMostPackBytes)
    return fail("the scene's files are more than a pack may hold (" + bytesText(static_cast<double>(kMostPackBytes)) + ")");
  zip_error_t error;
  zip_error_init(&error);
  zip_source_t* const target = zip_source_buffer_create(nullptr, 0, 0, &error);
  if (!target) return fail("the pack could not be made: there is not enough memory");
  zip_source_keep(target);
  Archive archive(zip_open_from_source(target, ZIP_TRUNCATE, &error));
  const std::string text = sceneToText(written);
  const auto add = [&](const std::string& name, const std::string& bytes, bool packed) {
    zip_source_t* const from = zip_source_buffer(archive.get(), bytes.data(), bytes.size(), 0);
    const auto index = from ? zip_file_add(archive.get(), name.c_str(), from, ZIP_FL_ENC_UTF_8) : -1;
    if (index < 0) {
      zip_source_free(from);
      return false;
    }
    // The same bytes at any time; media are packed already.
    zip_file_set_dostime(archive.get(), static_cast<zip_uint64_t>(index), 0, 0x21, 0);
    return zip_set_file_compression(archive.get(), static_cast<zip_uint64_t>(index), packed ? ZIP_CM_STORE : ZIP_CM_DEFLATE, 0) == 0;
  };
  bool made = archive && add(kSceneName, text, false);
  for (const auto& [hash, entry] : entries) made = made && add(entry.first, *entry.second, true);
  for (const auto& [name, font] : fonts) made = made && add(name, font, false);
  if (made) {
    zip_t* const open = archive.release();
    if (zip_close(open) != 0) {
      zip_discard(open);
      made = false;
    }
  }
  std::string bytes;
  if (made && zip_source_open(target) == 0) {
    zip_source_seek(target, 0, SEEK_END);
    const auto size = zip_source_tell(target);
    zip_source_seek(target, 0, SEEK_SET);
    bytes.resize(static_cast<std::size_t>(std::max<zip_int64_t>(0, size)));
    made = zip_source_read(target, bytes.data(), bytes.size()) == size;
    zip_source_close(target);
  } else {
    made = false;
  }
  zip_source_free(target);
  zip_error_fini(&error);
  if (!made) return fail("the pack could not be made");
  return bytes;
}

}  // namespace oa
