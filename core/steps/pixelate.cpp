// Pixelate: squares, hexagons or triangles of one colour each.
#include <algorithm>
#include <cmath>
#include <map>
#include <utility>
#include <vector>

#include "base/parallel.h"
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
  double x0, y0, perPixel;

  explicit Pieces(const StepContext& context) {
    const FrameInfo& frame = context.frame();
    const auto name = context.choice("shape");
    shape = name == "square" ? Shape::Square : name == "hexagon" ? Shape::Hexagon : Shape::Triangle;
    const double size = context.number("size");
    perPixel = 1 / (size * frame.scale);
    x0 = (frame.sceneX(0) - frame.sceneWidth / 2) / size;
    y0 = (frame.sceneY(0) - frame.sceneHeight / 2) / size;
  }

  [[nodiscard]] Piece at(int px, int py) const {
    const double x = x0 + px * perPixel;
    const double y = y0 + py * perPixel;
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
  StripMaker(const Pieces& pieces, Plane& plane) : pieces_(pieces), plane_(plane), channels_(static_cast<std::size_t>(plane.channels())) {}

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
        if (at == nobody) continue;
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
  std::vector<double> sums_;
  std::vector<std::uint32_t> pixels_, index_;
};

std::unique_ptr<RowMaker> make(const StepContext& context, const RowMaker& input, int width, int height) {
  Plane plane = wholePlane(input, width, height);
  if (context.number("size") * context.frame().scale <= 1) return planeRows(std::move(plane), input.opaque());
  const Pieces pieces(context);
  const int first = pieces.at(0, 0).strip - 1;
  const int last = pieces.at(width - 1, height - 1).strip + 2;
  // So many strips to a task that each has rows enough to be worth one.
  const int together = std::max(1, static_cast<int>(kBandRows * pieces.perPixel));
  parallelBands(
      last - first,
      [&](int from, int to) {
        StripMaker strips(pieces, plane);
        for (int i = from; i < to; ++i) strips.make(first + i);
      },
      together);
  return planeRows(std::move(plane), input.opaque());
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  if (context.number("size") * context.frame().scale <= 1) return input;
  const Pieces pieces(context);
  struct Mean {
    ReferencePixel sum;
    double pixels = 0;
  };
  auto means = std::make_shared<std::map<Piece, Mean>>();
  for (int y = 0; y < context.frame().height; ++y)
    for (int x = 0; x < context.frame().width; ++x) {
      const ReferencePixel p = input(x, y);
      Mean& mean = (*means)[pieces.at(x, y)];
      mean.sum.channels = p.channels;
      for (std::size_t c = 0; c < 4; ++c) mean.sum.v[c] += p.v[c];
      ++mean.pixels;
    }
  return [pieces, means](int x, int y) {
    const Mean& mean = means->at(pieces.at(x, y));
    ReferencePixel p = mean.sum;
    for (double& v : p.v) v /= mean.pixels;
    return p;
  };
}

}  // namespace

const StepSpec& pixelateStep() {
  static const StepSpec spec{.id = "pixelate",
                             .title = "Pixelate",
                             .group = "texture",
                             .help = "Cuts the picture into squares, hexagons or triangles, each with the mean of what it covers.",
                             .kind = StepKind::Area,
                             .params = kParams,
                             .area = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
