#include "titles/title_table.h"

#include <algorithm>
#include <filesystem>
#include <functional>
#include <map>
#include <set>
#include <utility>

#include "base/numbers.h"
#include "scene/tree.h"

namespace oa {
namespace {

// Walks through a text: `plain` is given what stands between fields, `field` the name of each.
void walkFields(std::string_view text, const std::function<void(std::string_view)>& plain,
                const std::function<void(std::string_view)>& field) {
  while (!text.empty()) {
    const std::size_t open = text.find('{');
    plain(text.substr(0, open));
    if (open == std::string_view::npos) return;
    text.remove_prefix(open);
    if (text.substr(0, 2) == "{{") {
      plain("{");
      text.remove_prefix(2);
      continue;
    }
    const std::size_t close = text.find('}');
    const std::string_view name = close == std::string_view::npos ? std::string_view() : text.substr(1, close - 1);
    // What is no name is words.
    if (name.empty() || name.find_first_of("{\r\n") != std::string_view::npos) {
      plain("{");
      text.remove_prefix(1);
      continue;
    }
    field(name);
    text.remove_prefix(close + 1);
  }
}

std::string filledBy(std::string_view text, const std::function<const std::string*(std::string_view)>& cell) {
  std::string out;
  walkFields(
      text, [&](std::string_view plain) { out += plain; },
      [&](std::string_view name) {
        if (const std::string* found = cell(name))
          out += *found;
        else
          out += "{" + std::string(name) + "}";
      });
  return out;
}

const std::string* cellOf(const TitleTable& table, std::size_t row, std::string_view column) {
  const auto found = std::find(table.columns.begin(), table.columns.end(), column);
  const auto i = static_cast<std::size_t>(found - table.columns.begin());
  if (found == table.columns.end() || row >= table.rows.size() || i >= table.rows[row].size()) return nullptr;
  return &table.rows[row][i];
}

void forEachWords(const std::vector<Layer>& layers, const std::function<void(const std::string&)>& visit) {
  forEachLayer(layers, [&](const Layer& layer, int) {
    forEachParam(layer, [&](const ParamSpec& spec, const Param& param) {
      if (spec.type == ParamType::Text) visit(std::get<Text>(param.base).text);
    });
  });
}

void forEachWords(std::vector<Layer>& layers, const std::function<void(std::string&)>& visit) {
  forEachLayer(layers, [&](Layer& layer, int) {
    forEachParam(layer, [&](const ParamSpec& spec, Param& param) {
      if (spec.type == ParamType::Text) visit(std::get<Text>(param.base).text);
    });
  });
}

// What file systems refuse, or would take for a folder.
std::string safeName(std::string_view cell) {
  std::string name;
  for (const char c : cell) {
    const auto byte = static_cast<unsigned char>(c);
    name +=
        byte < 0x20 || c == '/' || c == '\\' || c == ':' || c == '*' || c == '?' || c == '"' || c == '<' || c == '>' || c == '|' ? '-' : c;
  }
  while (!name.empty() && (name.front() == '.' || name.front() == ' ')) name.erase(name.begin());
  while (!name.empty() && name.back() == ' ') name.pop_back();
  return name;
}

}  // namespace

std::vector<std::string> fieldsIn(std::string_view text) {
  std::vector<std::string> names;
  walkFields(
      text, [](std::string_view) {},
      [&](std::string_view name) {
        if (std::find(names.begin(), names.end(), name) == names.end()) names.emplace_back(name);
      });
  return names;
}

std::vector<std::string> fieldsOf(const Scene& scene) {
  std::vector<std::string> names;
  forEachWords(std::as_const(scene.layers), [&](const std::string& text) {
    for (std::string& name : fieldsIn(text))
      if (std::find(names.begin(), names.end(), name) == names.end()) names.push_back(std::move(name));
  });
  return names;
}

std::string filled(std::string_view text, const TitleTable& table, std::size_t row) {
  return filledBy(text, [&](std::string_view name) { return cellOf(table, row, name); });
}

Scene filled(const Scene& scene, const TitleTable& table, std::size_t row) {
  Scene made = scene;
  forEachWords(made.layers, [&](std::string& text) { text = filled(text, table, row); });
  return made;
}

Result<TitleTable> tableFromCsv(std::string_view text) {
  auto rows = csvRows(text);
  if (!rows) return tl::unexpected(rows.error());
  if (rows->empty()) return fail("is empty: the first row names the columns, such as name,line");
  TitleTable table;
  table.columns = rows->front();
  std::set<std::string> seen;
  for (const std::string& column : table.columns) {
    if (column.empty()) return fail("a column has no name", "row 1");
    if (!seen.insert(column).second) return fail("there are two columns \"" + column + "\"", "row 1");
  }
  table.rows.assign(rows->begin() + 1, rows->end());
  if (table.rows.empty()) return fail("has no rows below the names of its columns");
  return table;
}

std::string csvOf(const TitleTable& table) {
  std::vector<CsvRow> rows{table.columns};
  rows.insert(rows.end(), table.rows.begin(), table.rows.end());
  return csvText(rows);
}

Status checkFields(const Scene& scene) {
  if (fieldsOf(scene).empty()) return fail("the scene's words have no field, such as {name}: all titles would be alike");
  return {};
}

Status checkRow(const Scene& scene, const TitleTable& table, std::size_t row, std::string_view fileName) {
  const auto& cells = table.rows[row];
  std::string where = "row " + std::to_string(row + 1);
  if (!cells.empty() && !cells.front().empty()) where += " (" + cells.front().substr(0, 40) + ")";
  if (cells.size() != table.columns.size())
    return fail("has " + std::to_string(cells.size()) + " cells where the table has " + std::to_string(table.columns.size()) + " columns",
                where);
  for (const std::string& name : fieldsOf(scene))
    if (!cellOf(table, row, name)) return fail("the table has no column for the field {" + name + "}", where);
  if (fileName.empty()) return fail("leaves its file without a name: fill the columns that name the files", where);
  return {};
}

Result<std::vector<std::string>> fileNames(const TitleTable& table, std::string_view pattern) {
  std::vector<std::string> names;
  std::map<std::string, std::size_t> taken;
  const std::string ending = std::filesystem::path(pattern).extension().string();
  for (const std::string& name : fieldsIn(pattern))
    if (name != "row" && std::find(table.columns.begin(), table.columns.end(), name) == table.columns.end())
      return fail("the table has no column \"" + name + "\" for the files' names");
  for (std::size_t row = 0; row < table.rows.size(); ++row) {
    std::string cell;
    std::string name = filledBy(pattern, [&](std::string_view field) -> const std::string* {
      if (field == "row" && !cellOf(table, row, field)) {
        cell = std::to_string(row + 1);
      } else if (const std::string* found = cellOf(table, row, field)) {
        cell = safeName(*found);
      } else {
        cell.clear();
      }
      return &cell;
    });
    // Nothing but an ending would be a hidden file, and those of two such rows the same one.
    if (const auto last = std::filesystem::path(name).filename(); last.empty() || last == ending) {
      names.emplace_back();
      continue;
    }
    const auto [other, fresh] = taken.emplace(name, row);
    if (!fresh)
      return fail("rows " + std::to_string(other->second + 1) + " and " + std::to_string(row + 1) + " would write the same file, " + name +
                  "; put {row} or another column into the name");
    names.push_back(std::move(name));
  }
  return names;
}

}  // namespace oa
