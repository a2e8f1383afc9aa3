// Pixelate: squares, hexagons or triangles of one colour each.
#include <algorithm>
#include <cmath>
#include <map>
#include <utility>
#include <vector>

#include "base/parallel.h"
#include "fields/edged.h"
#include "fields/lattice.h"
#include "image/cropped.h"
#include "image/sampling.h"
#include "steps/step.h"

namespace oa {
namespace {

const ParamSpec kParams[] = {
    {.id = "shape",
     .label = "Shape",
     .help = "What the picture is cut into.",
     .type = ParamType::Choice,
     .base = std::string("square"),
     .rule = LoopRule::Fixed,
     .choices = {"square", "hexagon", "triangle"}},
    {.id = "size",
     .label = "Size",
     .help = "Width of a piece.",
     .base = 40.0,
     .min = 1,
     .max = 4096,
     .sliderMin = 2,
     .sliderMax = 240,
     .unit = Unit::Pixels,
     .logScale = true},
    {.id = "edges",
     .label = "Edges",
     .help = "Pieces at the frame's edge show the mean of all they cover (beyond), or of what lies within the frame (cut).",
     .type = ParamType::Choice,
     .base = std::string("beyond"),
     .rule = LoopRule::Fixed,
     .choices = {"beyond", "cut"},
     .whenAbsent = Value(std::string("cut"))},
};

enum class Shape { Square, Hexagon, Triangle };

constexpr double kRow = 0.8660254037844386;  // sqrt(3) / 2: rows of hexagons' middles and of triangles

// Pieces lie in strips, one below the other; a hexagon's strip reaches into its neighbours.
struct Piece {
  int strip;
  int column;
  bool operator<(const Piece& other) const { return std::pair(strip, column) < std::pair(other.strip, other.column); }
};

// Which piece a place belongs to; places are counted from the middle of the frame, in sizes.
struct Pieces {
  Shape shape;
  Axes axes;
  double x0, y0, perPixel;  // of an upright view

  Pieces(const StepContext& context, const PlaneView& view) {
    const auto name = context.choice("shape");
    shape = name == "square" ? Shape::Square : name == "hexagon" ? Shape::Hexagon : Shape::Triangle;
    const double size = context.number("size");
    axes = axesAlong(view, {view.frameWidth / 2, view.frameHeight / 2}, {1 / size, 0}, {0, 1 / size});
    perPixel = axes.ux;
    x0 = axes.u0;
    y0 = axes.v0;
  }

  [[nodiscard]] Piece at(int px, int py) const {
    const double x = axes.u0 + px * axes.ux + py * axes.uy;
    const double y = axes.v0 + px * axes.vx + py * axes.vy;
    if (shape == Shape::Square) return {down(y), down(x)};
    if (shape == Shape::Hexagon) {
      // The nearer of two rectangular lattices' nearest middles.
      const double ax = std::floor(x + 0.5);
      const double ay = std::floor(y / (2 * kRow) + 0.5);
      const double bx = std::floor(x) + 0.5;
      const double by = std::floor(y / (2 * kRow)) + 0.5;
      const double a = (x - ax) * (x - ax) + (y - ay * 2 * kRow) * (y - ay * 2 * kRow);
      const double b = (x - bx) * (x - bx) + (y - by * 2 * kRow) * (y - by * 2 * kRow);
      return a <= b ? Piece{2 * static_cast<int>(ay), static_cast<int>(ax)} : Piece{static_cast<int>(2 * by), down(bx)};
    }
    // A skewed square, cut along its diagonal.
    const int row = down(y / kRow);
    const double skewed = x - 0.5 * (y / kRow);
    const int column = down(skewed);
    return {row, 2 * column + (skewed - column + y / kRow - row > 1 ? 1 : 0)};
  }

  // Pixel rows that a strip can reach, one too many rather than too few.
  [[nodiscard]] std::pair<int, int> rowsOf(int strip, int height) const {
    const double high = shape == Shape::Square ? 1 : kRow;
    const double from = shape == Shape::Hexagon ? strip * high - 0.6 : strip * high;
    const double to = shape == Shape::Hexagon ? strip * high + 0.6 : (strip + 1) * high;
    const auto pixel = [&](double y) { return static_cast<int>(std::clamp((y - y0) / perPixel, -1e6, 1e6)); };
    return {std::max(0, pixel(from) - 1), std::min(height, pixel(to) + 2)};
  }

  // The same for columns of pieces in some rows.
  [[nodiscard]] std::pair<int, int> columnsOf(int firstRow, int lastRow, int width) const {
    const int corners[4] = {at(0, firstRow).column, at(0, lastRow).column, at(width - 1, firstRow).column, at(width - 1, lastRow).column};
    return {*std::min_element(corners, corners + 4) - 2, *std::max_element(corners, corners + 4) + 3};
  }

 private:
  static int down(double v) { return static_cast<int>(std::floor(v)); }
};

// Gives the pieces of one strip their means. Pixels of other strips are left alone, so that strips can be made at the same time.
class StripMaker {
 public:
  /// Only pixels of these columns and rows count.
  StripMaker(const Pieces& pieces, Plane& plane, PixelRange columns, PixelRange rows)
      : pieces_(pieces), plane_(plane), channels_(static_cast<std::size_t>(plane.channels())), columns_(columns), rows_(rows) {}

  void make(int strip) {
    const auto [y0, y1] = pieces_.rowsOf(strip, plane_.height());
    if (y0 >= y1) return;
    const auto width = static_cast<std::size_t>(plane_.width());
    const auto [first, last] = pieces_.columnsOf(y0, y1 - 1, plane_.width());
    const auto columns = static_cast<std::size_t>(last - first);
    const std::size_t nobody = columns;  // where pixels of other strips are added up, and forgotten
    sums_.assign((columns + 1) * channels_, 0);
    pixels_.assign(columns + 1, 0);
    index_.resize(width * static_cast<std::size_t>(y1 - y0));
    std::uint32_t* index = index_.data();
    for (int y = y0; y < y1; ++y) {
      const float* row = plane_.row(y);
      for (std::size_t x = 0; x < width; ++x, ++index) {
        const Piece piece = pieces_.at(static_cast<int>(x), y);
        const std::size_t at = piece.strip == strip ? static_cast<std::size_t>(piece.column - first) : nobody;
        *index = static_cast<std::uint32_t>(at);
        if (at == nobody || y < rows_.begin || y >= rows_.end) continue;
        if (static_cast<int>(x) < columns_.begin || static_cast<int>(x) >= columns_.end) continue;
        ++pixels_[at];
        for (std::size_t c = 0; c < channels_; ++c) sums_[at * channels_ + c] += static_cast<double>(row[x * channels_ + c]);
      }
    }
    for (std::size_t i = 0; i < columns; ++i)
      for (std::size_t c = 0; c < channels_; ++c) sums_[i * channels_ + c] /= std::max(1u, pixels_[i]);
    index = index_.data();
    for (int y = y0; y < y1; ++y) {
      float* row = plane_.row(y);
      for (std::size_t x = 0; x < width; ++x, ++index)
        for (std::size_t c = 0; *index != nobody && c < channels_; ++c)
          row[x * channels_ + c] = static_cast<float>(sums_[*index * channels_ + c]);
    }
  }

 private:
  const Pieces& pieces_;
  Plane& plane_;
  std::size_t channels_;
  PixelRange columns_, rows_;
  std::vector<double> sums_;
  std::vector<std::uint32_t> pixels_, index_;
};

// Pieces are made whole, but none so wide that most of what is made lies outside the view.
constexpr double kMostBeyond = 1024;

std::shared_ptr<const RowMaker> make(const StepContext& context, const Input& input) {
  const PlaneView& view = context.view();
  const double wide = context.number("size") * view.scale;
  if (wide <= 1) return input.pull(view);
  const bool cut = context.choice("edges") == "cut";
  const int beyond = cut && view.isFrame() ? 0 : static_cast<int>(std::ceil(std::min(kMostBeyond, 1.2 * wide))) + 1;
  const PlaneView wanted = view.grown(beyond);
  const auto pulled = input.pull(wanted);
  Plane plane = wholePlane(*pulled, wanted.width, wanted.height);
  const Pieces pieces(context, wanted);
  const PixelRange columns = cut ? frameColumns(wanted) : PixelRange{0, wanted.width};
  const PixelRange rows = cut ? frameRows(wanted) : PixelRange{0, wanted.height};
  const int first = pieces.at(0, 0).strip - 1;
  const int last = pieces.at(wanted.width - 1, wanted.height - 1).strip + 2;
  // So many strips to a task that each has rows enough to be worth one.
  const int together = std::max(1, static_cast<int>(kBandRows * pieces.perPixel));
  parallelBands(
      last - first,
      [&](int from, int to) {
        StripMaker strips(pieces, plane, columns, rows);
        for (int i = from; i < to; ++i) strips.make(first + i);
      },
      together);
  return cropped(planeRows(std::move(plane), pulled->opaque() && (!cut || beyond == 0)), beyond, beyond, view.width, wanted.width);
}

bool upright(const StepContext&) { return true; }

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const PlaneView& view = context.view();
  const double wide = context.number("size") * view.scale;
  if (wide <= 1) return input;
  const Pieces pieces(context, view);
  const bool cut = context.choice("edges") == "cut";
  const int beyond = static_cast<int>(std::ceil(1.2 * wide)) + 1;
  struct Mean {
    ReferencePixel sum;
    double pixels = 0;
  };
  auto means = std::make_shared<std::map<Piece, Mean>>();
  for (int y = -beyond; y < view.height + beyond; ++y)
    for (int x = -beyond; x < view.width + beyond; ++x) {
      if (cut && (x < 0 || y < 0 || x >= view.width || y >= view.height)) continue;
      const ReferencePixel p = input(x, y);
      Mean& mean = (*means)[pieces.at(x, y)];
      mean.sum.channels = p.channels;
      for (std::size_t c = 0; c < 4; ++c) mean.sum.v[c] += p.v[c];
      ++mean.pixels;
    }
  return [pieces, means](int x, int y) {
    const auto found = means->find(pieces.at(x, y));
    if (found == means->end()) return ReferencePixel{4, {}};
    ReferencePixel p = found->second.sum;
    for (double& v : p.v) v /= found->second.pixels;
    return p;
  };
}

}  // namespace

const StepSpec& pixelateStep() {
  static const StepSpec spec{.id = "pixelate",
                             .title = "Pixelate",
                             .group = "texture",
                             .help = "Cuts the picture into squares, hexagons or triangles, each with the mean of what it covers.",
                             .version = 2,
                             .kind = StepKind::Area,
                             .params = kParams,
                             .area = make,
                             .upright = upright,
                             .reference = reference};
  return spec;
}

}  // namespace oa
