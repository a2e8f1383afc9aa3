#include "titles/csv.h"

#include <algorithm>
#include <array>

#include "base/utf8.h"

namespace oa {
namespace {

// The one that the first line has most of, outside of quotes.
char separatorOf(std::string_view text) {
  constexpr std::array kKnown{',', ';', '\t'};
  std::array<int, 3> count{};
  bool quoted = false;
  for (const char c : text) {
    if (c == '"') quoted = !quoted;
    if (!quoted && (c == '\n' || c == '\r')) break;
    for (std::size_t i = 0; i < kKnown.size(); ++i)
      if (!quoted && c == kKnown[i]) ++count[i];
  }
  return kKnown[static_cast<std::size_t>(std::max_element(count.begin(), count.end()) - count.begin())];
}

std::string lineText(std::size_t line) { return "line " + std::to_string(line); }

}  // namespace

Result<std::vector<CsvRow>> csvRows(std::string_view text) {
  if (text.size() > kMostCsvBytes) return fail("is larger than " + std::to_string(kMostCsvBytes >> 20) + " MB");
  if (text.substr(0, 3) == "\xEF\xBB\xBF") text.remove_prefix(3);
  if (!isUtf8(text)) return fail("is not UTF-8 text; save the table as CSV in UTF-8");
  const char separator = separatorOf(text);
  std::vector<CsvRow> rows;
  std::size_t line = 1;
  for (std::size_t at = 0; at < text.size();) {
    CsvRow row;
    const std::size_t begun = line;
    const bool quoted = text[at] == '"';
    for (bool more = true; more;) {
      std::string cell;
      if (at < text.size() && text[at] == '"') {
        ++at;
        for (;; ++at) {
          if (at >= text.size()) return fail("a quoted cell does not end", lineText(begun));
          if (text[at] == '"') {
            if (at + 1 >= text.size() || text[at + 1] != '"') break;
            ++at;
          }
          if (text[at] == '\n') ++line;
          cell += text[at];
        }
        ++at;
        if (at < text.size() && text[at] != separator && text[at] != '\n' && text[at] != '\r')
          return fail("something stands behind a quoted cell", lineText(line));
      } else {
        while (at < text.size() && text[at] != separator && text[at] != '\n' && text[at] != '\r') cell += text[at++];
      }
      row.push_back(std::move(cell));
      if (row.size() > kMostCsvCells) return fail("has more than " + std::to_string(kMostCsvCells) + " cells", lineText(begun));
      more = at < text.size() && text[at] == separator;
      if (more) ++at;
    }
    if (at < text.size() && text[at] == '\r') ++at;
    if (at < text.size() && text[at] == '\n') ++at;
    ++line;
    if (row.size() == 1 && row.front().empty() && !quoted) continue;
    if (rows.size() > kMostCsvRows) return fail("has more than " + std::to_string(kMostCsvRows) + " rows");
    rows.push_back(std::move(row));
  }
  return rows;
}

std::string csvText(const std::vector<CsvRow>& rows) {
  std::string text;
  for (const CsvRow& row : rows) {
    for (std::size_t i = 0; i < row.size(); ++i) {
      if (i > 0) text += ',';
      // An only cell that is empty would be an empty line.
      const bool quoted = row[i].find_first_of(",;\t\"\r\n") != std::string::npos || (row.size() == 1 && row[i].empty());
      if (!quoted) {
        text += row[i];
        continue;
      }
      text += '"';
      for (const char c : row[i]) text += c == '"' ? std::string("\"\"") : std::string(1, c);
      text += '"';
    }
    text += "\r\n";
  }
  return text;
}

}  // namespace oa
