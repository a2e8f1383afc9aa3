#include "fields/edged.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "base/parallel.h"
#include "image/buffer.h"
#include "image/sampling.h"

namespace oa {
namespace {

PixelRange framePixels(double before, double length, double scale) {
  const auto pixel = [](double v) { return static_cast<int>(std::lround(std::clamp(v, -1e8, 1e8))); };
  const int begin = pixel(-before * scale);
  return {begin, std::max(begin + 1, pixel((length - before) * scale))};
}

// For each pixel along an axis the one of the frame that stands for it (counted from the frame's first), or -1; and the range
// of those.
struct Sources {
  std::vector<int> of;
  int low = 0;
  int high = -1;

  Sources(int size, PixelRange frame, Edge edge) {
    low = frame.end - frame.begin;
    for (int i = 0; i < size; ++i) {
      of.push_back(edgeIndex(edge, i - frame.begin, frame.end - frame.begin));
      if (of.back() < 0) continue;
      low = std::min(low, of.back());
      high = std::max(high, of.back());
    }
  }
};

}  // namespace

PixelRange frameColumns(const PlaneView& view) { return framePixels(view.left, view.frameWidth, view.scale); }
PixelRange frameRows(const PlaneView& view) { return framePixels(view.top, view.frameHeight, view.scale); }

std::shared_ptr<const RowMaker> edgedRows(const Input& input, const PlaneView& view, Edge edge) {
  if (edge == Edge::Beyond) return input.pull(view);
  const PixelRange columns = frameColumns(view);
  const PixelRange rows = frameRows(view);
  const bool inside = columns.begin <= 0 && columns.end >= view.width && rows.begin <= 0 && rows.end >= view.height;
  if (inside) return input.pull(view);
  const Sources across(view.width, columns, edge);
  const Sources down(view.height, rows, edge);
  const bool nothing = across.high < 0 || down.high < 0;
  // At least one pixel is pulled: it says how many channels there are.
  const int x0 = nothing ? 0 : across.low + columns.begin;
  const int y0 = nothing ? 0 : down.low + rows.begin;
  const auto pulled = input.pull(view.part(x0, y0, nothing ? 1 : across.high - across.low + 1, nothing ? 1 : down.high - down.low + 1));
  const Plane part = wholePlane(*pulled, nothing ? 1 : across.high - across.low + 1, nothing ? 1 : down.high - down.low + 1);
  const int have = part.channels();
  Plane out(view.width, view.height, have);
  parallelBands(view.height, [&](int from, int to) {
    for (int y = from; y < to; ++y) {
      float* row = out.row(y);
      const int sourceRow = nothing ? -1 : down.of[static_cast<std::size_t>(y)];
      for (int x = 0; x < view.width; ++x, row += have) {
        const int source = sourceRow < 0 ? -1 : across.of[static_cast<std::size_t>(x)];
        if (source < 0)
          std::memset(row, 0, sizeof(float) * static_cast<std::size_t>(have));
        else
          std::memcpy(row, part.row(sourceRow - down.low) + static_cast<std::ptrdiff_t>(source - across.low) * have,
                      sizeof(float) * static_cast<std::size_t>(have));
      }
    }
  });
  return planeRows(std::move(out), pulled->opaque() && (edge != Edge::Transparent || have == 1));
}

}  // namespace oa
