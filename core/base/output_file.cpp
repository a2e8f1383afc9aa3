#include "base/output_file.h"

#include <dirent.h>
#include <fcntl.h>
#include <sys/file.h>
#include <sys/random.h>
#include <sys/stat.h>
#include <unistd.h>

#include <algorithm>
#include <cerrno>
#include <cstdio>
#include <filesystem>
#include <mutex>
#include <set>

#include "base/files.h"

namespace oa {
namespace {

namespace fs = std::filesystem;

constexpr int kMostLinks = 40;
constexpr std::string_view kPrefix = ".over-again-";
constexpr std::string_view kSuffix = ".part";

// What this process has begun and not finished. The lock is held while something gets its final name.
std::mutex& unfinishedLock() {
  static std::mutex mutex;
  return mutex;
}
std::set<std::string>& unfinished() {
  static std::set<std::string> paths;
  return paths;
}

// Folders that were made for them; a longer path sorts behind the one it lies in.
std::set<std::string>& unfinishedFolders() {
  static std::set<std::string> paths;
  return paths;
}

std::string parentOf(const std::string& path) {
  const std::size_t slash = path.find_last_of('/');
  if (slash == std::string::npos) return ".";
  return slash == 0 ? "/" : path.substr(0, slash);
}

std::string nameOf(const std::string& path) {
  const std::size_t slash = path.find_last_of('/');
  return slash == std::string::npos ? path : path.substr(slash + 1);
}

// FNV-1a (G. Fowler, L. C. Noll, K.-P. Vo): a target's mark in its working name, short however long the target's name is.
std::string markOf(std::string_view name) {
  std::uint64_t hash = 0xCBF29CE484222325ull;
  for (const char c : name) hash = (hash ^ static_cast<unsigned char>(c)) * 0x100000001B3ull;
  char text[17];
  std::snprintf(text, sizeof text, "%016llx", static_cast<unsigned long long>(hash));
  return text;
}

std::string workName(std::string_view mark) {
  std::uint64_t dice = 0;
  if (::getrandom(&dice, sizeof dice, 0) != sizeof dice) dice = static_cast<std::uint64_t>(::getpid());
  char text[20];
  std::snprintf(text, sizeof text, "-%016llx", static_cast<unsigned long long>(dice));
  return std::string(kPrefix) + std::string(mark) + text + std::string(kSuffix);
}

bool sameFile(int descriptor, const std::string& path) {
  struct stat held {};
  struct stat there {};
  return ::fstat(descriptor, &held) == 0 && ::lstat(path.c_str(), &there) == 0 && held.st_dev == there.st_dev &&
         held.st_ino == there.st_ino;
}

// Working files and folders of this target that nobody holds: their makers were killed.
void clearLeftovers(const std::string& folder, std::string_view mark) {
  const std::string begins = std::string(kPrefix) + std::string(mark) + "-";
  DIR* list = ::opendir(folder.c_str());
  if (!list) return;
  std::vector<std::string> found;
  while (const dirent* entry = ::readdir(list)) {
    const std::string_view name = entry->d_name;
    if (name.substr(0, begins.size()) == begins && name.size() > kSuffix.size() && name.substr(name.size() - kSuffix.size()) == kSuffix)
      found.emplace_back(folder + "/" + entry->d_name);
  }
  ::closedir(list);
  for (const std::string& path : found) {
    const int held = ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NOFOLLOW | O_NONBLOCK);
    if (held < 0) continue;
    std::error_code ignored;
    if (::flock(held, LOCK_EX | LOCK_NB) == 0) fs::remove_all(path, ignored);
    ::close(held);
  }
}

// Locked under its name: another run that found it in the moment before took it for a leftover, and it is made once more.
template <class Make>
int madeAndLocked(const std::string& folder, std::string_view mark, std::string& path, Make make) {
  for (int tries = 0; tries < 100; ++tries) {
    path = folder + "/" + workName(mark);
    const int descriptor = make(path);
    if (descriptor < 0 && errno == EEXIST) continue;
    if (descriptor < 0) return -1;
    if (::flock(descriptor, LOCK_EX) == 0 && sameFile(descriptor, path)) return descriptor;
    ::close(descriptor);
  }
  errno = EEXIST;
  return -1;
}

void syncFolder(const std::string& folder) {
  const int descriptor = ::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
  if (descriptor < 0) return;
  ::fsync(descriptor);
  ::close(descriptor);
}

}  // namespace

Result<Place> placeOf(const std::string& asked) {
  Place place{asked, asked, PlaceKind::New};
  if (asked.empty()) return fail("no file name was given");
  if (asked.find('\0') != std::string::npos) return fail("a file name cannot hold a zero byte", asked);
  struct stat info {};
  const auto judge = [&](const struct stat& what) {
    if (S_ISDIR(what.st_mode)) return PlaceKind::Folder;
    if (S_ISREG(what.st_mode)) return PlaceKind::File;
    return S_ISFIFO(what.st_mode) || S_ISCHR(what.st_mode) ? PlaceKind::Stream : PlaceKind::Refused;
  };
  if (asked == "-") {
    place.path.clear();
    place.kind = PlaceKind::Stream;
    return place;
  }
  if (::stat(asked.c_str(), &info) == 0) {
    place.kind = judge(info);
    // Streams are opened under the name given: what a link in /proc points to has none.
    if (place.kind == PlaceKind::Stream || place.kind == PlaceKind::Refused) return place;
  }
  for (int links = 0;; ++links) {
    struct stat own {};
    if (::lstat(place.path.c_str(), &own) != 0 || !S_ISLNK(own.st_mode)) return place;
    if (links == kMostLinks) return fail("could not be written: the link leads round in a circle", asked);
    std::error_code code;
    const fs::path to = fs::read_symlink(place.path, code);
    if (code) return fail("could not be written: " + systemReason(code.value()), asked);
    place.path = to.is_absolute() ? to.string() : (fs::path(parentOf(place.path)) / to).string();
  }
}

Result<MadeFolders> MadeFolders::above(const std::string& path) {
  std::vector<std::string> missing;
  for (std::string folder = parentOf(path);; folder = parentOf(folder)) {
    struct stat info {};
    if (::stat(folder.c_str(), &info) == 0) break;
    if (errno != ENOENT) return fail("could not be written: " + systemReason(errno), path);
    missing.push_back(folder);
    if (folder == "." || folder == "/") break;
  }
  MadeFolders all;
  const std::scoped_lock lock(unfinishedLock());
  for (auto folder = missing.rbegin(); folder != missing.rend(); ++folder) {
    if (::mkdir(folder->c_str(), 0777) == 0) {
      all.made_.push_back(*folder);
    } else if (errno != EEXIST) {
      const int reason = errno;
      for (auto made = all.made_.rbegin(); made != all.made_.rend(); ++made) ::rmdir(made->c_str());
      all.made_.clear();
      return fail("the folder could not be made: " + systemReason(reason), path);
    }
  }
  unfinishedFolders().insert(all.made_.begin(), all.made_.end());
  return all;
}

MadeFolders::~MadeFolders() {
  if (made_.empty()) return;
  const std::scoped_lock lock(unfinishedLock());
  for (auto folder = made_.rbegin(); folder != made_.rend(); ++folder) {
    ::rmdir(folder->c_str());
    unfinishedFolders().erase(*folder);
  }
}

void MadeFolders::keep() {
  const std::scoped_lock lock(unfinishedLock());
  for (const std::string& folder : made_) unfinishedFolders().erase(folder);
  made_.clear();
}

struct OutputFile::State {
  Place place;
  std::string work;  // empty for streams
  int descriptor = -1;
  bool own = true;  // the descriptor is to be closed here
  int failed = 0;
  MadeFolders made;  // goes after the file that lies in it

  ~State() {
    if (!work.empty()) {
      const std::scoped_lock lock(unfinishedLock());
      ::unlink(work.c_str());
      unfinished().erase(work);
    }
    if (own && descriptor >= 0) ::close(descriptor);
  }
  [[nodiscard]] tl::unexpected<Error> error(int reason) const { return fail("could not be written: " + systemReason(reason), place.asked); }
};

OutputFile::OutputFile(std::unique_ptr<State> state) : state_(std::move(state)) {}
OutputFile::OutputFile(OutputFile&&) noexcept = default;
OutputFile::~OutputFile() = default;

Result<OutputFile> OutputFile::begin(const std::string& asked, bool streams) {
  auto place = placeOf(asked);
  if (!place) return tl::unexpected(place.error());
  auto state = std::make_unique<State>();
  State& s = *state;
  s.place = *place;
  switch (place->kind) {
    case PlaceKind::Folder:
      return fail("is a folder", asked);
    case PlaceKind::Refused:
      return fail("is a disk or a socket, which is not written to", asked);
    case PlaceKind::Stream:
      if (!streams) return fail("is a pipe or a device, and this format must be able to go back; give a file name", asked);
      s.own = !place->path.empty();
      s.descriptor = s.own ? ::open(place->path.c_str(), O_WRONLY | O_CLOEXEC) : STDOUT_FILENO;
      if (s.descriptor < 0) return s.error(errno);
      return OutputFile(std::move(state));
    case PlaceKind::New:
    case PlaceKind::File:
      break;
  }
  if (nameOf(place->path).empty()) return fail("is the name of a folder, not of a file", asked);
  if (nameOf(place->path).size() > 255) return s.error(ENAMETOOLONG);
  auto made = MadeFolders::above(place->path);
  if (!made) return fail(made.error().message, asked);
  s.made = std::move(*made);
  const std::string folder = parentOf(place->path);
  const std::string mark = markOf(nameOf(place->path));
  clearLeftovers(folder, mark);
  const std::scoped_lock lock(unfinishedLock());
  std::string work;
  s.descriptor = madeAndLocked(folder, mark, work,
                               [](const std::string& path) { return ::open(path.c_str(), O_RDWR | O_CREAT | O_EXCL | O_CLOEXEC, 0666); });
  if (s.descriptor < 0) return s.error(errno);
  s.work = work;
  unfinished().insert(s.work);
  // A new file gets the usual rights, a replaced one keeps its own.
  struct stat old {};
  if (::stat(place->path.c_str(), &old) == 0) {
    // Whose file it is cannot always be kept; who may read it can.
    if (::fchown(s.descriptor, old.st_uid, old.st_gid) != 0) errno = 0;
    if (::fchmod(s.descriptor, old.st_mode & 07777) != 0) {
      const int reason = errno;
      ::unlink(s.work.c_str());
      unfinished().erase(s.work);
      s.work.clear();
      return s.error(reason);
    }
  }
  return OutputFile(std::move(state));
}

int OutputFile::descriptor() const { return state_->descriptor; }
bool OutputFile::seekable() const { return !state_->work.empty(); }
std::uint64_t OutputFile::size() const {
  struct stat info {};
  return seekable() && ::fstat(state_->descriptor, &info) == 0 ? static_cast<std::uint64_t>(info.st_size) : 0;
}
const std::string& OutputFile::workPath() const { return state_->work; }

Status OutputFile::write(std::string_view bytes) {
  State& s = *state_;
  while (!bytes.empty() && s.failed == 0) {
    const ssize_t put = ::write(s.descriptor, bytes.data(), bytes.size());
    if (put < 0 && errno == EINTR) continue;
    if (put < 0)
      s.failed = errno;
    else
      bytes.remove_prefix(static_cast<std::size_t>(put));
  }
  if (s.failed != 0) return s.error(s.failed);
  return {};
}

Status OutputFile::keep() {
  State& s = *state_;
  if (s.failed != 0) return s.error(s.failed);
  if (s.work.empty()) return {};
  if (::fsync(s.descriptor) != 0) return s.error(errno);
  {
    const std::scoped_lock lock(unfinishedLock());
    if (std::rename(s.work.c_str(), s.place.path.c_str()) != 0) return s.error(errno);
    unfinished().erase(s.work);
    s.work.clear();
  }
  s.made.keep();
  syncFolder(parentOf(s.place.path));
  return {};
}

struct WorkFolder::State {
  std::string path;
  int descriptor = -1;
  ~State() {
    if (!path.empty()) {
      const std::scoped_lock lock(unfinishedLock());
      std::error_code ignored;
      fs::remove_all(path, ignored);
      unfinished().erase(path);
    }
    if (descriptor >= 0) ::close(descriptor);
  }
};

WorkFolder::WorkFolder(std::unique_ptr<State> state) : state_(std::move(state)) {}
WorkFolder::WorkFolder(WorkFolder&&) noexcept = default;
WorkFolder::~WorkFolder() = default;
const std::string& WorkFolder::path() const { return state_->path; }

Result<WorkFolder> WorkFolder::begin(const std::string& parent, const std::string& target) {
  const std::string mark = markOf(target);
  clearLeftovers(parent, mark);
  auto state = std::make_unique<State>();
  const std::scoped_lock lock(unfinishedLock());
  std::string path;
  state->descriptor = madeAndLocked(parent, mark, path, [](const std::string& name) {
    if (::mkdir(name.c_str(), 0777) != 0) return -1;
    return ::open(name.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC);
  });
  if (state->descriptor < 0) return fail("could not be written: " + systemReason(errno), parent);
  state->path = path;
  unfinished().insert(path);
  return WorkFolder(std::move(state));
}

Status WorkFolder::moveInto(const std::string& folder, const std::vector<std::string>& names, const std::vector<std::string>& stale) {
  State& s = *state_;
  // All on disk before the first gets its name.
  if (::syncfs(s.descriptor) != 0) return fail("could not be written: " + systemReason(errno), folder);
  const std::scoped_lock lock(unfinishedLock());
  const std::string aside = s.path + "/replaced";
  if (::mkdir(aside.c_str(), 0777) != 0) return fail("could not be written: " + systemReason(errno), folder);
  std::vector<std::string> moved;
  std::vector<std::string> kept;
  const auto rename = [](const std::string& from, const std::string& to) { return std::rename(from.c_str(), to.c_str()) == 0; };
  const auto putAside = [&](const std::string& name) {
    struct stat old {};
    if (::lstat((folder + "/" + name).c_str(), &old) != 0) return true;
    if (!rename(folder + "/" + name, aside + "/" + name)) return false;
    kept.push_back(name);
    return true;
  };
  const auto moveOne = [&](const std::string& name) {
    if (!putAside(name) || !rename(s.path + "/" + name, folder + "/" + name)) return false;
    moved.push_back(name);
    return true;
  };
  if (std::all_of(names.begin(), names.end(), moveOne) && std::all_of(stale.begin(), stale.end(), putAside)) {
    syncFolder(folder);
    return {};
  }
  const int reason = errno;
  for (const std::string& name : moved) ::unlink((folder + "/" + name).c_str());
  for (const std::string& name : kept) rename(aside + "/" + name, folder + "/" + name);
  return fail("could not be written: " + systemReason(reason), folder);
}

Status WorkFolder::become(const std::string& folder) {
  State& s = *state_;
  if (::syncfs(s.descriptor) != 0) return fail("could not be written: " + systemReason(errno), folder);
  const std::scoped_lock lock(unfinishedLock());
  if (std::rename(s.path.c_str(), folder.c_str()) != 0) return fail("could not be written: " + systemReason(errno), folder);
  unfinished().erase(s.path);
  s.path.clear();
  syncFolder(parentOf(folder));
  return {};
}

void abandonUnfinished() {
  // Never given back: from here on nothing gets a final name, and the process is about to end.
  unfinishedLock().lock();
  for (const std::string& path : unfinished()) {
    // Other threads may still be putting files into a folder.
    std::error_code failed;
    for (int tries = 0; tries < 1000; ++tries) {
      fs::remove_all(path, failed);
      if (!fs::exists(fs::symlink_status(path, failed))) break;
    }
  }
  for (auto folder = unfinishedFolders().rbegin(); folder != unfinishedFolders().rend(); ++folder) ::rmdir(folder->c_str());
}

}  // namespace oa
