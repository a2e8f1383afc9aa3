// What tells one file's content from another's.
extern "C" {
#include <libavutil/mem.h>
#include <libavutil/sha.h>
}

#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cerrno>
#include <new>
#include <vector>

#include "base/files.h"
#include "base/memory.h"
#include "store/media_ref.h"

namespace oa {
namespace {

// SHA-256 (FIPS 180-4).
class Sha {
 public:
  Sha() : sha_(av_sha_alloc()) {
    if (!sha_) throw std::bad_alloc();
    av_sha_init(sha_.get(), 256);
  }
  void add(std::string_view bytes) { av_sha_update(sha_.get(), reinterpret_cast<const std::uint8_t*>(bytes.data()), bytes.size()); }
  std::string text() {
    std::uint8_t digest[32];
    av_sha_final(sha_.get(), digest);
    std::string hash;
    for (const std::uint8_t byte : digest) {
      constexpr char kHex[] = "0123456789abcdef";
      hash += kHex[byte >> 4];
      hash += kHex[byte & 15];
    }
    return hash;
  }

 private:
  struct Free {
    void operator()(AVSHA* p) const { av_free(p); }
  };
  std::unique_ptr<AVSHA, Free> sha_;
};

}  // namespace

std::string contentHash(std::string_view bytes) {
  Sha sha;
  sha.add(bytes);
  return sha.text();
}

Result<std::string> contentHashOfFile(const std::string& path, std::uint64_t most) {
  const int file = ::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK);
  if (file < 0) return fail(systemReason(errno), path);
  struct stat info {};
  Sha sha;
  std::string piece(std::size_t{1} << 20, '\0');
  std::uint64_t all = 0;
  Status ok;
  if (::fstat(file, &info) != 0 || !S_ISREG(info.st_mode)) ok = fail("is not a file", path);
  for (;;) {
    const ::ssize_t got = ok ? ::read(file, piece.data(), piece.size()) : 0;
    if (got < 0) ok = fail(systemReason(errno), path);
    if (got <= 0) break;
    all += static_cast<std::uint64_t>(got);
    if (all > most) {
      ok = fail("is larger than " + bytesText(static_cast<double>(most)), path);
      break;
    }
    sha.add({piece.data(), static_cast<std::size_t>(got)});
  }
  ::close(file);
  if (!ok) return tl::unexpected(ok.error());
  return sha.text();
}

}  // namespace oa
