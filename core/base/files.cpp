#include "base/files.h"

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <cstdio>
#include <cstring>

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
  int close() {
    const int result = ::close(fd_);
    fd_ = -1;
    return result;
  }

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
  std::string bytes;
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

Status writeFileAtomically(const std::string& path, std::string_view bytes) {
  std::string part = path + ".XXXXXX";
  File file(::mkostemp(part.data(), O_CLOEXEC));
  if (file.get() < 0) return fail("could not be written: " + systemReason(errno), path);
  const auto failed = [&](int reason) {
    ::unlink(part.c_str());
    return fail("could not be written: " + systemReason(reason), path);
  };
  // Keep the rights of a file that is replaced; a new one gets the usual ones.
  struct stat old {};
  const mode_t mask = ::umask(0);
  ::umask(mask);
  const mode_t mode = ::stat(path.c_str(), &old) == 0 ? (old.st_mode & 07777) : (0666 & ~mask);
  if (::fchmod(file.get(), mode) != 0) return failed(errno);
  while (!bytes.empty()) {
    const ssize_t put = ::write(file.get(), bytes.data(), bytes.size());
    if (put < 0 && errno == EINTR) continue;
    if (put < 0) return failed(errno);
    bytes.remove_prefix(static_cast<std::size_t>(put));
  }
  if (::fsync(file.get()) != 0 || file.close() != 0) return failed(errno);
  if (std::rename(part.c_str(), path.c_str()) != 0) return failed(errno);
  return {};
}

}  // namespace oa
