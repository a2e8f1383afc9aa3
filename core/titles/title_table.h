// Many titles from one scene: fields in words, filled from the rows of a table.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"
#include "scene/scene.h"
#include "titles/csv.h"

namespace oa {

/// The names of all fields in the words of a scene, `{name}`, in the order in which they come, each once. `{{` stands for a brace.
std::vector<std::string> fieldsOf(const Scene& scene);
/// The names of those in a text.
std::vector<std::string> fieldsIn(std::string_view text);
/// A text with its fields filled by the cells of a row; fields that the table has no column for stay as they are.
std::string filled(std::string_view text, const TitleTable& table, std::size_t row);
/// A scene with the fields of all its words filled, hidden layers' too.
Scene filled(const Scene& scene, const TitleTable& table, std::size_t row);

/// The first row names the columns. Refused where a name is empty or comes twice, or there is no further row.
Result<TitleTable> tableFromCsv(std::string_view text);
std::string csvOf(const TitleTable& table);

/// Why no table can make titles of a scene: its words have no field, and all would be alike. Nothing, if one can.
Status checkFields(const Scene& scene);
/// Why a row cannot be made into a title, "row 3 (line-up): ..."; nothing, if it can: it has a cell for every column, the table a column
/// for every field, and its file a name.
Status checkRow(const Scene& scene, const TitleTable& table, std::size_t row, std::string_view fileName);
/// The names of the files: the pattern with its fields filled, made safe for a file system; `{row}` is the row's number from 1. That of a
/// row that would leave nothing before its ending is empty. Refused where two rows would write the same file.
Result<std::vector<std::string>> fileNames(const TitleTable& table, std::string_view pattern);

}  // namespace oa
