#include "shapes/drawing_lines.h"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <list>
#include <mutex>
#include <numbers>
#include <optional>
#include <pugixml.hpp>
#include <string_view>
#include <utility>

#include "base/affine.h"
#include "store/media_store.h"
#include "store/sample.h"

namespace oa {
namespace {

constexpr int kDeepest = 64;
constexpr double kFarthest = 1e6;

// Numbers with commas or spaces between, as many as there are.
std::vector<double> numbersOf(std::string_view text) {
  std::vector<double> list;
  const char* at = text.data();
  const char* const end = at + text.size();
  while (at < end && list.size() < 2 * kMostOutlinePoints) {
    if (*at == ',' || *at == ' ' || *at == '\n' || *at == '\t' || *at == '\r' || *at == '+') {
      ++at;
      continue;
    }
    double v = 0;
    const auto [after, error] = std::from_chars(at, end, v);
    if (error != std::errc() || !std::isfinite(v)) break;
    list.push_back(std::clamp(v, -kFarthest, kFarthest));
    at = after;
  }
  return list;
}

// A length in pixels (CSS Values and Units, section 6.2); of shares and what stands on fonts nothing is known here.
std::optional<double> lengthOf(std::string_view text) {
  const auto list = numbersOf(text);
  if (list.empty()) return {};
  constexpr std::pair<std::string_view, double> kUnits[] = {{"px", 1},         {"pt", 96 / 72.0}, {"pc", 16},
                                                            {"mm", 96 / 25.4}, {"cm", 96 / 2.54}, {"in", 96}};
  for (const auto& [unit, pixels] : kUnits)
    if (text.ends_with(unit)) return list.front() * pixels;
  return text.ends_with('%') ? std::nullopt : std::optional(list.front());
}

// A list of transformations, the last of which comes first (section 7.6).
Affine transformOf(std::string_view text) {
  Affine all{1, 0, 0, 0, 1, 0};
  int left = 64;
  while (left-- > 0) {
    const std::size_t open = text.find('(');
    const std::size_t close = text.find(')', open == std::string_view::npos ? 0 : open);
    if (open == std::string_view::npos || close == std::string_view::npos) break;
    std::string_view name = text.substr(0, open);
    while (!name.empty() && (name.front() < 'A' || name.front() > 'z')) name.remove_prefix(1);
    while (!name.empty() && (name.back() < 'A' || name.back() > 'z')) name.remove_suffix(1);
    const auto v = numbersOf(text.substr(open + 1, close - open - 1));
    const auto number = [&](std::size_t i, double otherwise) { return i < v.size() ? v[i] : otherwise; };
    Affine one{1, 0, 0, 0, 1, 0};
    constexpr double kDegree = std::numbers::pi / 180;
    if (name == "matrix" && v.size() == 6) one = {v[0], v[2], v[4], v[1], v[3], v[5]};
    if (name == "translate") one = {1, 0, number(0, 0), 0, 1, number(1, 0)};
    if (name == "scale") one = {number(0, 1), 0, 0, 0, number(1, number(0, 1)), 0};
    if (name == "skewX") one = {1, std::tan(number(0, 0) * kDegree), 0, 0, 1, 0};
    if (name == "skewY") one = {1, 0, 0, std::tan(number(0, 0) * kDegree), 1, 0};
    if (name == "rotate") {
      const double c = std::cos(number(0, 0) * kDegree);
      const double s = std::sin(number(0, 0) * kDegree);
      const double x = number(1, 0);
      const double y = number(2, 0);
      one = {c, -s, x - c * x + s * y, s, c, y - s * x - c * y};
    }
    all = one.then(all);
    text.remove_prefix(close + 1);
  }
  return all;
}

Outline ellipse(Point middle, double rx, double ry) {
  Outline outline = circleOutline(1);
  const auto placed = [&](Point p) { return Point{middle.x + p.x * rx, middle.y + p.y * ry}; };
  for (OutlinePoint& p : outline.points) p = {placed(p.at), placed(p.before), placed(p.after)};
  return outline;
}

Outline polyline(const std::vector<double>& numbers, bool closed) {
  Outline outline;
  outline.closed = closed;
  for (std::size_t i = 0; i + 1 < numbers.size() && outline.points.size() < kMostOutlinePoints; i += 2) {
    const Point p{numbers[i], numbers[i + 1]};
    outline.points.push_back({p, p, p});
  }
  return outline;
}

Outline rectangle(double x, double y, double w, double h, double rx, double ry) {
  rx = std::clamp(rx, 0.0, w / 2);
  ry = std::clamp(ry, 0.0, h / 2);
  if (rx == 0 || ry == 0) return polyline({x, y, x + w, y, x + w, y + h, x, y + h}, true);
  // Quarters of an ellipse, nearly: within 0.03 % of its radius.
  constexpr double kPull = 0.5522847498307936;
  const double px = rx * (1 - kPull);
  const double py = ry * (1 - kPull);
  const auto corner = [](Point at, Point before, Point after) { return OutlinePoint{at, before, after}; };
  Outline o;
  o.points = {corner({x + rx, y}, {x + px, y}, {x + rx, y}),
              corner({x + w - rx, y}, {x + w - rx, y}, {x + w - px, y}),
              corner({x + w, y + ry}, {x + w, y + py}, {x + w, y + ry}),
              corner({x + w, y + h - ry}, {x + w, y + h - ry}, {x + w, y + h - py}),
              corner({x + w - rx, y + h}, {x + w - px, y + h}, {x + w - rx, y + h}),
              corner({x + rx, y + h}, {x + rx, y + h}, {x + px, y + h}),
              corner({x, y + h - ry}, {x, y + h - py}, {x, y + h - ry}),
              corner({x, y + ry}, {x, y + ry}, {x, y + py})};
  return o;
}

class Collector {
 public:
  explicit Collector(DrawingLines& to) : to_(to) {}

  void walk(const pugi::xml_node& node, const Affine& outer, int depth) {
    if (depth > kDeepest) return;
    for (const pugi::xml_node& child : node.children()) {
      const std::string_view name = local(child.name());
      if (hidden(child)) continue;
      const Affine here = transformOf(child.attribute("transform").value()).then(outer);
      if (name == "g" || name == "a" || name == "svg" || name == "switch") walk(child, here, depth + 1);
      const auto length = [&](const char* id) { return lengthOf(child.attribute(id).value()); };
      const auto number = [&](const char* id) { return length(id).value_or(0); };
      if (name == "path") {
        if (const auto lines = outlinesFromPath(child.attribute("d").value()))
          for (const Outline& line : *lines) add(line, here);
      } else if (name == "rect") {
        const auto rx = length("rx");
        const auto ry = length("ry");
        const double w = number("width");
        const double h = number("height");
        if (w > 0 && h > 0) add(rectangle(number("x"), number("y"), w, h, rx.value_or(ry.value_or(0)), ry.value_or(rx.value_or(0))), here);
      } else if (name == "circle" || name == "ellipse") {
        const double rx = number(name == "circle" ? "r" : "rx");
        const double ry = number(name == "circle" ? "r" : "ry");
        if (rx > 0 && ry > 0) add(ellipse({number("cx"), number("cy")}, rx, ry), here);
      } else if (name == "line") {
        add(polyline({number("x1"), number("y1"), number("x2"), number("y2")}, false), here);
      } else if (name == "polyline" || name == "polygon") {
        add(polyline(numbersOf(child.attribute("points").value()), name == "polygon"), here);
      }
    }
  }

 private:
  static std::string_view local(std::string_view name) {
    const std::size_t colon = name.rfind(':');
    return colon == std::string_view::npos ? name : name.substr(colon + 1);
  }
  static bool hidden(const pugi::xml_node& node) {
    const std::string_view style = node.attribute("style").value();
    return std::string_view(node.attribute("display").value()) == "none" ||
           std::string_view(node.attribute("visibility").value()) == "hidden" || style.find("display:none") != std::string_view::npos ||
           style.find("display: none") != std::string_view::npos;
  }

  void add(Outline line, const Affine& place) {
    if (line.points.size() < 2 || to_.lines.size() >= kMostDrawingLines) return;
    points_ += line.points.size();
    if (points_ > kMostDrawingPoints) return;
    const auto far = [](Point p) { return Point{std::clamp(p.x, -kFarthest, kFarthest), std::clamp(p.y, -kFarthest, kFarthest)}; };
    for (OutlinePoint& p : line.points) {
      p = {far(place(p.at)), far(place(p.before)), far(place(p.after))};
      if (!std::isfinite(p.at.x + p.at.y + p.before.x + p.before.y + p.after.x + p.after.y)) return;
    }
    to_.lines.push_back(std::move(line));
  }

  DrawingLines& to_;
  std::size_t points_ = 0;
};

}  // namespace

Result<DrawingLines> linesOfDrawing(const std::string& svg) {
  if (svg.size() > kMostDrawingBytes) return fail("is too large a drawing");
  pugi::xml_document document;
  // Entities of one's own are not known to it, nor anything outside of the text.
  if (!document.load_buffer(svg.data(), svg.size())) return fail("is no drawing that can be read");
  const pugi::xml_node root = document.document_element();
  const std::string_view name = root.name();
  if (name != "svg" && !name.ends_with(":svg")) return fail("is no SVG drawing");
  DrawingLines drawing;
  const auto box = numbersOf(root.attribute("viewBox").value());
  const bool boxed = box.size() == 4 && box[2] > 0 && box[3] > 0;
  const auto given = [&](const char* id) {
    const auto length = lengthOf(root.attribute(id).value());
    return length && *length > 0 ? length : std::nullopt;
  };
  const auto w = given("width");
  const auto h = given("height");
  const Point own = boxed ? Point{box[2], box[3]} : Point{300, 150};
  drawing.size = {w ? *w : h ? *h * own.x / own.y : own.x, h ? *h : w ? *w * own.y / own.x : own.y};
  Affine place{1, 0, 0, 0, 1, 0};
  if (boxed) {
    // Whole and in the middle, as is usual.
    const double k = std::min(drawing.size.x / box[2], drawing.size.y / box[3]);
    place = {k, 0, (drawing.size.x - box[2] * k) / 2 - box[0] * k, 0, k, (drawing.size.y - box[3] * k) / 2 - box[1] * k};
  }
  Collector(drawing).walk(root, place, 0);
  return drawing;
}

std::shared_ptr<const DrawingLines> linesOfDrawing(const MediaRef& ref) {
  static std::mutex mutex;
  static std::list<std::pair<std::string, std::shared_ptr<const DrawingLines>>> recent;  // by their hash; used last first
  if (ref.empty()) {
    static const auto sample = std::make_shared<const DrawingLines>(linesOfDrawing(sampleDrawing()).value_or(DrawingLines{}));
    return sample;
  }
  const std::lock_guard lock(mutex);
  if (const auto it = std::find_if(recent.begin(), recent.end(), [&](const auto& k) { return k.first == ref.hash; });
      it != recent.end() && !ref.hash.empty()) {
    recent.splice(recent.begin(), recent, it);
    return it->second;
  }
  const auto bytes = MediaStore::shared().file(ref);
  if (!bytes) return nullptr;
  auto lines = linesOfDrawing(**bytes);
  recent.emplace_front(ref.hash, lines ? std::make_shared<const DrawingLines>(std::move(*lines)) : nullptr);
  constexpr std::size_t kKept = 8;
  if (recent.size() > kKept) recent.pop_back();
  return recent.front().second;
}

}  // namespace oa
