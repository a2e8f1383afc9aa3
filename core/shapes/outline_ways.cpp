#include "shapes/outline_ways.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "base/affine.h"
#include "image/sampling.h"
#include "shapes/contours.h"
#include "shapes/drawing_lines.h"
#include "shapes/rounded_box.h"

namespace oa {
namespace {

// Where what was drawn lies: sized, turned and placed.
Affine placeOf(const StepContext& context) {
  const double size = context.number("size");
  const double turn = context.number("turn") * (std::numbers::pi / 180);
  const Point centre = context.point("centre");
  const double c = std::cos(turn) * size;
  const double s = std::sin(turn) * size;
  return {c, -s, centre.x * context.view().frameWidth, s, c, centre.y * context.view().frameHeight};
}

Way wayOf(const Outline& outline, const Affine& place, double tolerance) {
  Way way{flattened(outline, tolerance), outline.closed, {}};
  for (Point& p : way.points) p = place(p);
  // One that is closed ends where it began to the last bit.
  if (outline.closed && way.points.size() > 1) way.points.back() = way.points.front();
  return way;
}

double wayLengthOf(const std::vector<Point>& line) {
  double sum = 0;
  for (std::size_t i = 1; i < line.size(); ++i) sum += std::hypot(line[i].x - line[i - 1].x, line[i].y - line[i - 1].y);
  return sum;
}

// How far along an outline each of its points lies.
std::vector<double> sharesOf(const Outline& outline, double tolerance) {
  std::vector<double> until{0};
  for (std::size_t i = 0; i < pieceCount(outline); ++i) {
    const Outline piece{{outline.points[i], outline.points[(i + 1) % outline.points.size()]}, false};
    until.push_back(until.back() + wayLengthOf(flattened(piece, tolerance)));
  }
  const double whole = until.back();
  if (outline.closed && until.size() > outline.points.size()) until.pop_back();
  for (double& share : until) share = whole > 0 ? share / whole : 0;
  return until;
}

std::vector<Way> drawnWays(const StepContext& context, double tolerance) {
  std::vector<Way> ways;
  const auto drawing = linesOfDrawing(context.file("file"));
  if (!drawing) return ways;
  const Affine middle{1, 0, -drawing->size.x / 2, 0, 1, -drawing->size.y / 2};
  const Affine place = middle.then(placeOf(context));
  for (const Outline& line : drawing->lines) ways.push_back(wayOf(line, place, tolerance));
  return ways;
}

// Clockwise from the upper left.
Way frameWay(const StepContext& context) {
  const double inset = context.number("inset");
  const Point to{context.view().frameWidth - inset, context.view().frameHeight - inset};
  Way way;
  const double round = context.number("corner");
  if (to.x > inset && to.y > inset) way.points = roundedBox({inset, inset}, to, round, std::clamp(static_cast<int>(round), 4, 64));
  return way;
}

// As fine whatever the view is, so that the line is the same one in each.
std::vector<Way> edgesOf(const Input& layer) {
  constexpr double kAcross = 640;
  const std::array<double, 4> box = layer.filledNow();
  const double width = box[2] - box[0];
  const double height = box[3] - box[1];
  if (!(width > 0) || !(height > 0)) return {};
  PlaneView view;
  view.scale = std::min(2.0, kAcross / std::max(width, height));
  view.width = std::max(1, static_cast<int>(std::ceil(width * view.scale)));
  view.height = std::max(1, static_cast<int>(std::ceil(height * view.scale)));
  view.left = box[0];
  view.top = box[1];
  const auto rows = layer.pull(view);
  const Plane plane = wholePlane(*rows, view.width, view.height);
  std::vector<float> alpha(static_cast<std::size_t>(view.width) * static_cast<std::size_t>(view.height), 1.0f);
  if (plane.channels() == 4)
    for (int y = 0; y < view.height; ++y)
      for (int x = 0; x < view.width; ++x)
        alpha[static_cast<std::size_t>(y) * static_cast<std::size_t>(view.width) + static_cast<std::size_t>(x)] =
            plane.row(y)[static_cast<std::ptrdiff_t>(x) * 4 + 3];
  const Affine map = layer.standing();
  std::vector<Way> ways;
  for (const auto& line : evenedContours(contours(alpha, view.width, view.height, 0.5f), 12, kMostEdges)) {
    Way& way = ways.emplace_back();
    for (const Point& p : line) way.points.push_back(map(view.place(p.x, p.y)));
    way.points.back() = way.points.front();
  }
  return ways;
}

}  // namespace

std::vector<Way> outlineWays(const StepContext& context, const Input* layer, double tolerance) {
  const std::string_view along = context.choice("along");
  if (along == "frame") return {frameWay(context)};
  if (along == "layer") return layer ? edgesOf(*layer) : std::vector<Way>();
  const double own = tolerance / context.number("size");
  if (along == "drawing") return drawnWays(context, own);
  Way way = wayOf(context.outline("outline"), placeOf(context), own);
  if (context.integer("strands") > 0 && context.choice("strandAt") == "its points") way.own = sharesOf(context.outline("outline"), own);
  return {std::move(way)};
}

}  // namespace oa
