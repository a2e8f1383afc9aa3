// Pixelate: squares, hexagons or triangles of one colour each.
#include <algorithm>
#include <cmath>
#include <map>
#include <unordered_map>
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

  [[nodiscard]] std::int64_t pieceAt(int px, int py) const {
    const double x = x0 + px * perPixel;
    const double y = y0 + py * perPixel;
    constexpr double kRow = 0.8660254037844386;  // sqrt(3) / 2
    switch (shape) {
      case Shape::Square:
        return key(std::floor(x), std::floor(y), 0);
      case Shape::Hexagon: {
        // The nearer of two rectangular lattices' nearest middles.
        const double ax = std::round(x);
        const double ay = std::round(y / (2 * kRow));
        const double bx = std::floor(x) + 0.5;
        const double by = std::floor(y / (2 * kRow)) + 0.5;
        const double a = (x - ax) * (x - ax) + (y - ay * 2 * kRow) * (y - ay * 2 * kRow);
        const double b = (x - bx) * (x - bx) + (y - by * 2 * kRow) * (y - by * 2 * kRow);
        return a <= b ? key(ax, ay, 0) : key(bx - 0.5, by - 0.5, 1);
      }
      case Shape::Triangle: {
        const double row = std::floor(y / kRow);
        const double up = y / kRow - row;
        // A skewed square, cut along its diagonal.
        const double skewed = x - 0.5 * (y / kRow);
        const double column = std::floor(skewed);
        return key(column, row, skewed - column + up > 1 ? 1 : 0);
      }
    }
    return 0;
  }

 private:
  static std::int64_t key(double x, double y, int half) {
    return ((static_cast<std::int64_t>(y) & 0x3FFFFFFF) << 32) | ((static_cast<std::int64_t>(x) & 0x3FFFFFFF) << 1) | half;
  }
};

// Every pixel's piece as a number from 0 on, and how many there are.
struct PieceMap {
  std::vector<std::uint32_t> index;
  std::size_t count = 0;

  PieceMap(const Pieces& pieces, int width, int height) : index(static_cast<std::size_t>(width) * static_cast<std::size_t>(height)) {
    std::unordered_map<std::int64_t, std::uint32_t> numbers;
    for (int y = 0; y < height; ++y) {
      std::int64_t lastKey = -1;
      std::uint32_t last = 0;
      for (int x = 0; x < width; ++x) {
        const std::int64_t key = pieces.pieceAt(x, y);
        if (key != lastKey || x == 0) {
          lastKey = key;
          last = numbers.emplace(key, static_cast<std::uint32_t>(numbers.size())).first->second;
        }
        index[static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x)] = last;
      }
    }
    count = numbers.size();
  }
};

std::unique_ptr<RowMaker> make(const StepContext& context, const RowMaker& input, int width, int height) {
  Plane plane = wholePlane(input, width, height);
  if (context.number("size") * context.frame().scale <= 1) return planeRows(std::move(plane), input.opaque());
  const PieceMap map(Pieces(context), width, height);
  const auto channels = static_cast<std::size_t>(plane.channels());
  std::vector<double> sums(map.count * channels);
  std::vector<std::uint32_t> pixels(map.count);
  const auto w = static_cast<std::size_t>(width);
  for (int y = 0; y < height; ++y) {
    const float* row = plane.row(y);
    const std::uint32_t* index = map.index.data() + static_cast<std::size_t>(y) * w;
    for (std::size_t x = 0; x < w; ++x) {
      double* sum = sums.data() + index[x] * channels;
      for (std::size_t c = 0; c < channels; ++c) sum[c] += static_cast<double>(row[x * channels + c]);
      ++pixels[index[x]];
    }
  }
  for (std::size_t i = 0; i < map.count; ++i)
    for (std::size_t c = 0; c < channels; ++c) sums[i * channels + c] /= pixels[i];
  parallelBands(height, [&](int y0, int y1) {
    for (int y = y0; y < y1; ++y) {
      float* row = plane.row(y);
      const std::uint32_t* index = map.index.data() + static_cast<std::size_t>(y) * w;
      for (std::size_t x = 0; x < w; ++x)
        for (std::size_t c = 0; c < channels; ++c) row[x * channels + c] = static_cast<float>(sums[index[x] * channels + c]);
    }
  });
  return planeRows(std::move(plane), input.opaque());
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  if (context.number("size") * context.frame().scale <= 1) return input;
  const Pieces pieces(context);
  struct Mean {
    ReferencePixel sum;
    double pixels = 0;
  };
  auto means = std::make_shared<std::map<std::int64_t, Mean>>();
  for (int y = 0; y < context.frame().height; ++y)
    for (int x = 0; x < context.frame().width; ++x) {
      const ReferencePixel p = input(x, y);
      Mean& mean = (*means)[pieces.pieceAt(x, y)];
      mean.sum.channels = p.channels;
      for (std::size_t c = 0; c < 4; ++c) mean.sum.v[c] += p.v[c];
      ++mean.pixels;
    }
  return [pieces, means](int x, int y) {
    const Mean& mean = means->at(pieces.pieceAt(x, y));
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
