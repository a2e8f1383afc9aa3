#include "base/memory.h"

#include <unistd.h>

#include <algorithm>
#include <cstdint>

#include "base/files.h"
#include "base/numbers.h"

namespace oa {

std::size_t memoryOfMachine() {
  static const std::size_t bytes = [] {
    const long pages = ::sysconf(_SC_PHYS_PAGES);
    const long page = ::sysconf(_SC_PAGESIZE);
    std::size_t least = pages > 0 && page > 0 ? static_cast<std::size_t>(pages) * static_cast<std::size_t>(page) : std::size_t{1} << 32;
    for (const char* file : {"/sys/fs/cgroup/memory.max", "/sys/fs/cgroup/memory/memory.limit_in_bytes"}) {
      const auto text = readFile(file, 64);
      double limit = 0;
      if (text && parseNumber(text->substr(0, text->find('\n')), limit) && limit > 1 << 20)
        least = static_cast<std::size_t>(std::min(static_cast<double>(least), limit));
    }
    return least;
  }();
  return bytes;
}

std::string bytesText(double bytes) {
  const double mib = bytes / (1 << 20);
  return mib < 1000 ? numberText(mib, 0) + " MiB" : numberText(mib / 1024, 1) + " GiB";
}

}  // namespace oa
