#include "base/files.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstring>

#include "base/output_file.h"

namespace oa {
namespace {

class File {
 public:
  explicit File(int fd) : fd_(fd) {}
  ~File() {
    if (fd_ >= 0) ::close(fd_);
  }
  File(const File&) = delete;
  File& operator=(const File&) = delete;
  [[nodiscard]] int get() const { return fd_; }

 private:
  int fd_;
};

}  // namespace

std::string systemReason(int errorNumber) {
  switch (errorNumber) {
    case ENOSPC:
    case EDQUOT:
      return "the disk is full";
    case EFBIG:
      return "the file grew larger than this place allows";
    case EACCES:
    case EPERM:
      return "permission was denied";
    case EROFS:
      return "the disk is read-only";
    case ENOENT:
      return "there is no such file or folder";
    case EISDIR:
      return "it is a folder";
    case ENOTDIR:
      return "part of the path is not a folder";
    case ENAMETOOLONG:
      return "the name is too long";
    default:
      return std::strerror(errorNumber);
  }
}

Result<std::string> readFile(const std::string& path, std::size_t limit) {
  File file(::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK));
  if (file.get() < 0) return fail("could not be opened: " + systemReason(errno), path);
  struct stat info {};
  if (::fstat(file.get(), &info) != 0) return fail("could not be read: " + systemReason(errno), path);
  if (S_ISDIR(info.st_mode)) return fail("is a folder, not a file", path);
  if (!S_ISREG(info.st_mode)) return fail("is not a regular file", path);
  if (info.st_size > 0 && static_cast<std::size_t>(info.st_size) > limit) return fail("is too large to be what it should be", path);
  std::string bytes;
  bytes.reserve(static_cast<std::size_t>(std::max<off_t>(0, info.st_size)));
  char chunk[65536];
  for (;;) {
    const ssize_t got = ::read(file.get(), chunk, sizeof chunk);
    if (got < 0 && errno == EINTR) continue;
    if (got < 0) return fail("could not be read: " + systemReason(errno), path);
    if (got == 0) return bytes;
    if (bytes.size() + static_cast<std::size_t>(got) > limit) return fail("is too large to be what it should be", path);
    bytes.append(chunk, static_cast<std::size_t>(got));
  }
}

std::string beginningOfFile(const std::string& path, std::size_t count) {
  // Opening a pipe would wait for its writer.
  const File file(::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK));
  struct stat info {};
  if (file.get() < 0 || ::fstat(file.get(), &info) != 0 || !S_ISREG(info.st_mode)) return {};
  std::string bytes(count, '\0');
  std::size_t have = 0;
  while (have < count) {
    const ssize_t got = ::read(file.get(), bytes.data() + have, count - have);
    if (got < 0 && errno == EINTR) continue;
    if (got <= 0) break;
    have += static_cast<std::size_t>(got);
  }
  bytes.resize(have);
  return bytes;
}

Status writeFileAtomically(const std::string& path, std::string_view bytes) {
  auto file = OutputFile::begin(path, true);
  if (!file) return tl::unexpected(file.error());
  if (auto ok = file->write(bytes); !ok) return ok;
  return file->keep();
}

}  // namespace oa
