// Tables as text: comma-separated values (RFC 4180).
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"

namespace oa {

using CsvRow = std::vector<std::string>;

/// Most rows, cells in a row, and bytes of a file.
inline constexpr std::size_t kMostCsvRows = 10000;
inline constexpr std::size_t kMostCsvCells = 256;
inline constexpr std::size_t kMostCsvBytes = std::size_t{16} << 20;

/// Rows of cells, quoted or not; line ends of any kind, a byte order mark and empty lines are passed over. Cells are parted by commas, or
/// by semicolons or tabs where the first line has more of those. Errors name the line.
Result<std::vector<CsvRow>> csvRows(std::string_view text);
/// The same rows as text, each ending with CR LF.
std::string csvText(const std::vector<CsvRow>& rows);

}  // namespace oa
