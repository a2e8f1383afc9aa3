// Files: bounded reading, atomic writing.
#pragma once

#include <cstddef>
#include <string>
#include <string_view>

#include "base/result.h"

namespace oa {

/// The whole file, if it is a regular file of at most `limit` bytes.
Result<std::string> readFile(const std::string& path, std::size_t limit);

/// The first bytes of a regular file, at most `count`; empty if it is none or cannot be read.
std::string beginningOfFile(const std::string& path, std::size_t count);

/// Writes beside `path`, flushes to disk and renames: either the old file or the whole new one is there. A pipe or device, and
/// `-` for standard output, is written to (see base/output_file.h).
Status writeFileAtomically(const std::string& path, std::string_view bytes);

/// Why the last system call failed, in words for the user: "the disk is full", "you may not write there".
std::string systemReason(int errorNumber);

}  // namespace oa
