#include "scene/json_text.h"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace oa {
namespace {

// "line 12, column 5" of a byte.
std::string placeInText(std::string_view text, std::size_t byte) {
  const std::string_view before = text.substr(0, std::min(byte, text.size()));
  const auto line = 1 + std::count(before.begin(), before.end(), '\n');
  const std::size_t start = before.rfind('\n');
  const std::size_t column = before.size() - (start == std::string_view::npos ? 0 : start + 1) + 1;
  return "line " + std::to_string(line) + ", column " + std::to_string(column);
}

constexpr std::size_t kLineWidth = 110;

// Short lists and objects stay on one line, so that a curve or a stop is one line of a difference.
void writeJson(const Json& json, std::size_t indent, std::string& out) {
  if (!json.is_structured() || json.empty()) {
    out += json.dump(-1, ' ', false, Json::error_handler_t::replace);
    return;
  }
  // Nothing that holds more than a handful can be short.
  if (json.size() <= 24 && indent > 0) {
    std::string line = json.dump(-1, ' ', false, Json::error_handler_t::replace);
    if (indent + line.size() <= kLineWidth) {
      // A blank after each comma and colon outside of texts.
      std::string spaced;
      bool inText = false;
      for (std::size_t i = 0; i < line.size(); ++i) {
        spaced += line[i];
        if (inText && line[i] == '\\')
          spaced += line[++i];
        else if (line[i] == '"')
          inText = !inText;
        else if (!inText && (line[i] == ',' || line[i] == ':'))
          spaced += ' ';
      }
      out += spaced;
      return;
    }
  }
  const std::string inside(indent + 2, ' ');
  out += json.is_object() ? "{\n" : "[\n";
  bool first = true;
  for (const auto& item : json.items()) {
    if (!first) out += ",\n";
    first = false;
    out += inside;
    if (json.is_object()) out += Json(item.key()).dump(-1, ' ', false, Json::error_handler_t::replace) + ": ";
    writeJson(item.value(), indent + 2, out);
  }
  out += "\n" + std::string(indent, ' ') + (json.is_object() ? "}" : "]");
}

}  // namespace

Result<Json> parseJson(std::string_view text) {
  if (text.size() > kMaxSceneBytes) return fail("is larger than " + std::to_string(kMaxSceneBytes >> 20) + " MB, which no scene is");
  int depth = 0;
  int members[kMaxJsonDepth + 1] = {};
  bool inText = false;
  for (std::size_t i = 0; i < text.size(); ++i) {
    const char c = text[i];
    if (inText) {
      if (c == '\\')
        ++i;
      else if (c == '"')
        inText = false;
    } else if (c == '"') {
      inText = true;
    } else if (c == '[' || c == '{') {
      if (++depth > kMaxJsonDepth)
        return fail(placeInText(text, i) + ": is nested more than " + std::to_string(kMaxJsonDepth) + " deep, which no scene is");
      members[depth] = 0;
    } else if (c == ']' || c == '}') {
      depth = std::max(0, depth - 1);
    } else if (c == ',' && ++members[depth] >= kMaxJsonMembers) {
      return fail(placeInText(text, i) + ": here a list grows longer than " + std::to_string(kMaxJsonMembers) +
                  " members, which no scene has");
    }
  }
  // The parser reports a syntax error by throwing; this is the one place where it may.
  try {
    return Json::parse(text);
  } catch (const Json::parse_error& e) {
    return fail("is not valid JSON at " + placeInText(text, e.byte > 0 ? e.byte - 1 : 0));
  } catch (const Json::exception&) {
    return fail("is not valid JSON");
  }
}

std::string jsonText(const Json& json) {
  std::string text;
  writeJson(json, 0, text);
  return text + "\n";
}

}  // namespace oa
