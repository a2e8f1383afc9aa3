#include "media/numbering.h"

#include <algorithm>
#include <filesystem>
#include <system_error>

#include "base/output_file.h"

namespace oa {

namespace fs = std::filesystem;

std::string Numbering::name(std::int64_t number) const {
  if (!numbered) return before + after;
  std::string text = std::to_string(number);
  if (static_cast<int>(text.size()) < digits) text.insert(0, static_cast<std::size_t>(digits) - text.size(), '0');
  return before + text + after;
}

bool Numbering::anyThere() const {
  std::error_code ignored;
  for (const auto& entry : fs::directory_iterator(folder, ignored)) {
    const std::string file = entry.path().filename().string();
    if (file.size() <= before.size() + after.size() || file.compare(0, before.size(), before) != 0 ||
        file.compare(file.size() - after.size(), after.size(), after) != 0)
      continue;
    const auto number = file.substr(before.size(), file.size() - before.size() - after.size());
    if (std::all_of(number.begin(), number.end(), [](char c) { return c >= '0' && c <= '9'; })) return true;
  }
  return false;
}

std::vector<std::string> Numbering::thereAfter(std::int64_t last) const {
  std::vector<std::string> list;
  std::error_code ignored;
  for (std::int64_t number = last + 1; fs::exists(fs::path(folder) / name(number), ignored); ++number) list.push_back(name(number));
  return list;
}

Result<Numbering> numberingFor(const std::string& path) {
  Numbering n;
  std::error_code ignored;
  if (path.empty()) return fail("no file name was given");
  if (path.back() == '/' || fs::is_directory(path, ignored)) {
    std::string folder = path;
    while (folder.size() > 1 && folder.back() == '/') folder.pop_back();
    const auto place = placeOf(folder);
    if (!place) return tl::unexpected(place.error());
    n.folder = place->path;
    n.before = "frame_";
    return n;
  }
  const fs::path whole(path);
  n.folder = whole.parent_path().empty() ? "." : whole.parent_path().string();
  const std::string file = whole.filename().string();
  const std::size_t percent = file.find('%');
  if (percent == std::string::npos) {
    n.numbered = false;
    n.before = file;
    n.after.clear();
    return n;
  }
  // Only %d, %4d and %04d are understood; the text never reaches a formatting function.
  std::size_t end = percent + 1;
  while (end < file.size() && file[end] >= '0' && file[end] <= '9') ++end;
  if (end >= file.size() || file[end] != 'd' || end - percent > 3 || file.find('%', end) != std::string::npos)
    return fail("the number in the name must look like %04d", path);
  const std::string digits = file.substr(percent + 1, end - percent - 1);
  n.digits = digits.empty() ? 1 : std::clamp(std::stoi(digits), 1, 9);
  n.before = file.substr(0, percent);
  n.after = file.substr(end + 1);
  return n;
}

}  // namespace oa
