#include "shapes/stamps.h"

#include <algorithm>
#include <cmath>
#include <list>
#include <mutex>
#include <numbers>
#include <string_view>
#include <tuple>
#include <utility>

#include "base/numbers.h"
#include "image/grey.h"
#include "image/sampling.h"
#include "shapes/line_art.h"
#include "store/media_store.h"

namespace oa {
namespace {

// Parameters that a stamp's shape is made of; the others are each copy's own.
constexpr std::string_view kOfShape[] = {"tall", "depth", "corner", "thick", "open", "line", "softness", "glow", "fillTurn"};
// Shapes that move are made for so many parts of a lap.
constexpr int kShapeSteps = 64;

// Half as large, each pixel the mean of four. The border stays transparent.
std::shared_ptr<const Plane> halved(const Plane& from) {
  const int w = std::max(1, (from.width() - 2 * kPictureBorder) / 2);
  const int h = std::max(1, (from.height() - 2 * kPictureBorder) / 2);
  auto to = std::make_shared<Plane>(w + 2 * kPictureBorder, h + 2 * kPictureBorder, 4);
  for (int y = 0; y < to->height(); ++y) {
    float* const row = to->row(y);
    std::fill_n(row, static_cast<std::size_t>(to->width()) * 4, 0.0f);
    if (y < kPictureBorder || y >= h + kPictureBorder) continue;
    const int sy = kPictureBorder + 2 * (y - kPictureBorder);
    for (int x = 0; x < w; ++x) {
      const float* const a = from.row(sy) + static_cast<std::ptrdiff_t>(kPictureBorder + 2 * x) * 4;
      const float* const b = from.row(std::min(sy + 1, from.height() - 1)) + static_cast<std::ptrdiff_t>(kPictureBorder + 2 * x) * 4;
      for (int c = 0; c < 4; ++c) row[(x + kPictureBorder) * 4 + c] = 0.25f * (a[c] + a[c + 4] + b[c] + b[c + 4]);
    }
  }
  return to;
}

using Pyramid = std::vector<std::shared_ptr<const Plane>>;

// A picture in all its sizes; `fill` fills a row of it.
template <class FillRow>
Pyramid pyramidOf(int width, int height, const FillRow& fill) {
  auto whole = std::make_shared<Plane>(width + 2 * kPictureBorder, height + 2 * kPictureBorder, 4);
  for (int y = 0; y < whole->height(); ++y) {
    float* const row = whole->row(y);
    std::fill_n(row, static_cast<std::size_t>(whole->width()) * 4, 0.0f);
    if (y >= kPictureBorder && y < height + kPictureBorder) fill(y - kPictureBorder, row + std::ptrdiff_t{kPictureBorder} * 4);
  }
  Pyramid list{whole};
  while (std::min(list.back()->width(), list.back()->height()) - 2 * kPictureBorder >= 4) list.push_back(halved(*list.back()));
  return list;
}

// What was made last, by what it was made of: a stamp at rest is not made anew in every frame.
template <class Key>
class RecentPyramids {
 public:
  template <class Make>
  Pyramid of(const Key& key, const Make& make) {
    const std::lock_guard lock(mutex_);
    if (const auto it = std::find_if(known_.begin(), known_.end(), [&](const auto& k) { return k.first == key; }); it != known_.end()) {
      known_.splice(known_.begin(), known_, it);
      return it->second;
    }
    known_.emplace_front(key, make());
    constexpr std::size_t kKept = 8;
    if (known_.size() > kKept) known_.pop_back();
    return known_.front().second;
  }

 private:
  std::mutex mutex_;
  std::list<std::pair<Key, Pyramid>> known_;
};

Pyramid filePyramid(const std::shared_ptr<const TilePicture>& tile) {
  static RecentPyramids<std::shared_ptr<const TilePicture>> recent;
  return recent.of(tile, [&] {
    return pyramidOf(tile->width, tile->height, [&](int y, float* row) {
      std::copy_n(tile->plane.row(y + kTileBorder) + std::ptrdiff_t{kTileBorder} * 4, static_cast<std::size_t>(tile->width) * 4, row);
    });
  });
}

// A line, whose box is known, filled in white.
Pyramid linePyramid(const std::vector<Point>& line, const std::array<double, 4>& box, int across, int down) {
  static RecentPyramids<std::tuple<std::vector<Point>, int, int>> recent;
  return recent.of({line, across, down}, [&] {
    LineArt art;
    auto& points = art.fillings.emplace_back().lines.emplace_back();
    for (const Point& p : line)
      points.push_back({(p.x - box[0]) / (box[2] - box[0]) * across - 0.5, (p.y - box[1]) / (box[3] - box[1]) * down - 0.5});
    const auto rows = lineArtRows(std::move(art), across, down);
    const Plane plane = wholePlane(*rows, across, down);
    return pyramidOf(across, down, [&](int y, float* row) { std::copy_n(plane.row(y), static_cast<std::size_t>(across) * 4, row); });
  });
}

// The picture, or the one of a clip that is shown now.
std::shared_ptr<const TilePicture> fileTile(const Values& values, const MediaRef& ref, int width, int height) {
  constexpr EdgePair kNothing{Edge::Transparent, Edge::Transparent};
  MediaStore& store = MediaStore::shared();
  if (!ref.moving()) return store.tile(ref, width, height, kNothing);
  const auto clip = store.clip(ref);
  const double done = fract(values.number("plays") * values.progress("plays"));
  return store.clipTile(ref, clip ? clipAt((*clip)->info(), {}, done) : ClipMix{}, width, height, kNothing);
}

// The next power of two, so that a size that moves does not ask for a picture of its own in every frame.
int pixelsFor(double wanted) {
  int size = 16;
  while (size < wanted && size < 2048) size *= 2;
  return size;
}

}  // namespace

Stamp::Stamp(const Values& values, const PlaneView& view, const Input* layer, double largest) : values_(values) {
  for (const std::string_view id : kOfShape) shapeMoves_ = shapeMoves_ || values.moving(values.index(id));
  const std::string_view kind = values.choice("kind");
  coloured_ = kind != "picture" && kind != "layer";
  pictured_ = !coloured_ || kind == "outline";
  graded_ = !pictured_ && values.choice("fill") != "plain";
  baseSize_ = std::max(1e-3, values.baseNumber("size"));
  if (pictured_) picture_ = coloured_ ? drawn(view, largest) : pictured(view, layer, largest);
  // The largest that it ever is: what depends on the moment would let all places waver that are counted from it.
  const bool posed = kind == "outline" && values.moving(values.index("outline"));
  const bool tallest = kind == "bar" || kind == "drop" || kind == "petal" || posed;
  const double w = pictured_ ? picture_.halfWidth : baseSize_ / 2;
  const double h = pictured_ && !posed ? picture_.halfHeight : w * std::max(values.most("tall"), tallest ? 3.0 : 0.0);
  reach_ = std::hypot(w, h) + std::max(0.5 * values.most("softness"), values.most("glow"));
}

// An outline of one's own, filled: as wide as the stamp's size.
MarkShape Stamp::drawn(const PlaneView& view, double largest) const {
  MarkShape shape;
  shape.tinted = true;
  const std::vector<Point> line = flattened(values_.outline("outline"), 0.25);
  std::array<double, 4> box{1e18, 1e18, -1e18, -1e18};
  for (const Point& p : line) box = {std::min(box[0], p.x), std::min(box[1], p.y), std::max(box[2], p.x), std::max(box[3], p.y)};
  const double width = box[2] - box[0];
  const double height = box[3] - box[1];
  if (line.size() < 3 || !(width > 0) || !(height > 0)) return shape;
  shape.halfWidth = baseSize_ / 2;
  shape.halfHeight = baseSize_ / 2 * height / width;
  const int across = pixelsFor(2 * baseSize_ * largest * view.scale);
  const int down = std::clamp(static_cast<int>(std::lround(across * height / width)), 1, 4096);
  shape.pictures = linePyramid(line, box, across, down);
  return shape;
}

MarkShape Stamp::pictured(const PlaneView& view, const Input* layer, double largest) const {
  MarkShape shape;
  const double size = baseSize_;
  if (values_.choice("kind") == "picture") {
    const MediaRef& ref = values_.file("file");
    const double ratio = ref.width > 0 && ref.height > 0 ? static_cast<double>(ref.height) / ref.width : 1;
    const int across = pixelsFor(size * largest * view.scale);
    const int down = std::max(1, static_cast<int>(std::lround(across * ratio)));
    const auto tile = fileTile(values_, ref, across, std::min(down, 4096));
    if (!tile) return shape;
    shape.halfWidth = size / 2;
    shape.halfHeight = size / 2 * ratio;
    shape.pictures = filePyramid(tile);
    return shape;
  }
  const std::array<double, 4> box = layer ? layer->filled() : std::array<double, 4>{};
  const double width = box[2] - box[0];
  const double height = box[3] - box[1];
  if (!(width > 0) || !(height > 0)) return shape;
  shape.halfWidth = size / 2;
  shape.halfHeight = size / 2 * height / width;
  PlaneView own;
  own.width = std::min(pixelsFor(size * largest * view.scale), 1024);
  own.scale = own.width / width;
  own.height = std::clamp(static_cast<int>(std::lround(height * own.scale)), 1, 2048);
  own.left = box[0];
  own.top = box[1];
  own.frameWidth = view.frameWidth;
  own.frameHeight = view.frameHeight;
  const auto rows = layer->pull(own);
  const Plane plane = wholePlane(*rows, own.width, own.height);
  shape.pictures = pyramidOf(own.width, own.height, [&](int y, float* row) {
    if (plane.channels() == 4)
      std::copy_n(plane.row(y), static_cast<std::size_t>(own.width) * 4, row);
    else
      greyToRgba(plane.row(y), own.width, row);
  });
  return shape;
}

MarkShape Stamp::made(const LapShift& shift) const {
  if (pictured_) return picture_;
  const CopyValues values(values_, shift);
  const std::string_view kind = values_.choice("kind");
  MarkShape shape;
  OutlineShape& s = shape.outline;
  const double w = baseSize_ / 2;
  const double h = w * values.number("tall");
  s.a = w;
  s.b = h;
  const double shorter = std::min(w, h);
  shape.halfWidth = w;
  shape.halfHeight = h;
  using Kind = OutlineShape::Kind;
  const auto round = [&](double by) {
    s.round = by;
    s.a = std::max(0.0, w - by);
    s.b = std::max(0.0, h - by);
  };
  if (kind == "disc" || kind == "ring") {
    s.kind = w == h ? Kind::Circle : Kind::Ellipse;
    if (kind == "ring") s.line = 2 * shorter * values.number("thick");
  } else if (kind == "dot") {
    s.kind = Kind::Dot;
    shape.halfHeight = w;
  } else if (kind == "rectangle") {
    round(shorter * values.number("corner"));
  } else if (kind == "bar") {
    // A bar stands; a disc is not one.
    s.a = shape.halfWidth = w;
    s.b = shape.halfHeight = values.number("tall") == 1 ? 3 * w : h;
    const double by = std::min(s.a, s.b);
    s.round = by;
    s.a -= by;
    s.b -= by;
  } else if (kind == "line") {
    const double half = w * values.number("thick");
    shape.halfHeight = half;
    s.a = std::max(0.0, w - half);
    s.b = 0;
    s.round = half;
  } else if (kind == "polygon" || kind == "star") {
    round(shorter * values.number("corner") * (kind == "star" ? 0.3 : 1));
    placeCorners(s, static_cast<int>(values_.number("sides")), kind == "star", 1 - values.number("depth"));
  } else if (kind == "arc") {
    s.kind = Kind::Arc;
    const double half = w * values.number("thick");
    s.a = std::max(0.0, w - half);
    s.round = half;
    const double gap = std::numbers::pi * values.number("open");
    s.open = {std::sin(gap), std::cos(gap)};
    shape.halfHeight = w;
  } else if (kind == "drop") {
    s.kind = Kind::Drop;
    // Round below and longer than it is wide.
    s.b = shape.halfHeight = std::max(1.05 * w, values.number("tall") == 1 ? 1.5 * w : h);
  } else {
    s.kind = Kind::Petal;
    s.a = w;
    s.b = shape.halfHeight = values.number("tall") == 1 ? 2.4 * w : h;
  }
  if (kind != "ring" && kind != "dot" && kind != "line" && kind != "arc") s.line = values.number("line");
  s.softness = values.number("softness");
  shape.glow = values.number("glow");
  shape.glowStrength = 0.55;
  if (graded_) {
    shape.graded = true;
    shape.outwards = values_.choice("fill") == "outwards";
    if (shape.outwards) {
      shape.alongX = 1 / std::max(1e-6, shape.halfWidth);
      shape.alongY = 1 / std::max(1e-6, shape.halfHeight);
    } else {
      const double turn = values.number("fillTurn") * (std::numbers::pi / 180);
      const double c = std::cos(turn);
      const double n = std::sin(turn);
      const double reach = std::max(1e-6, std::abs(c) * shape.halfWidth + std::abs(n) * shape.halfHeight);
      shape.alongX = 0.5 * c / reach;
      shape.alongY = 0.5 * n / reach;
      shape.begin = 0.5;
    }
  }
  return shape;
}

void Stamp::addShapes(std::vector<MarkShape>& shapes, int mostTimes) {
  first_ = static_cast<std::uint32_t>(shapes.size());
  if (!shapeMoves_) {
    shapes.push_back(made({}));
    return;
  }
  for (int times = 1; times <= mostTimes; ++times)
    for (int i = 0; i < kShapeSteps; ++i) shapes.push_back(made({static_cast<double>(i) / kShapeSteps, times}));
}

std::uint32_t Stamp::shape(const LapShift& shift) const {
  if (!shapeMoves_) return first_;
  const auto step = static_cast<int>(std::lround(fract(shift.start) * kShapeSteps)) % kShapeSteps;
  return first_ + static_cast<std::uint32_t>((shift.times - 1) * kShapeSteps + step);
}

}  // namespace oa
