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
#include "shapes/contours.h"
#include "shapes/line_art.h"
#include "shapes/measured_line.h"
#include "store/media_store.h"

namespace oa {
namespace {

// Parameters that a stamp's shape is made of; the others are each copy's own.
constexpr std::string_view kOfShape[] = {"tall",     "depth", "corner",   "thick", "open", "line",
                                         "softness", "glow",  "fillTurn", "dash",  "taper"};
// Shapes that move are made for so many parts of a lap, those that are pictures for fewer.
constexpr int kShapeSteps = 64;
constexpr int kPictureSteps = 16;

// Half as large, each pixel the mean of four. The border stays transparent.
std::shared_ptr<const StampPicture> halved(const StampPicture& from) {
  const int w = std::max(1, (from.width() - 2 * kPictureBorder) / 2);
  const int h = std::max(1, (from.height() - 2 * kPictureBorder) / 2);
  Plane to(w + 2 * kPictureBorder, h + 2 * kPictureBorder, 4);
  for (int y = 0; y < to.height(); ++y) {
    float* const row = to.row(y);
    std::fill_n(row, static_cast<std::size_t>(to.width()) * 4, 0.0f);
    if (y < kPictureBorder || y >= h + kPictureBorder) continue;
    const int sy = kPictureBorder + 2 * (y - kPictureBorder);
    for (int x = 0; x < w; ++x) {
      const float* const a = from.row(sy) + static_cast<std::ptrdiff_t>(kPictureBorder + 2 * x) * 4;
      const float* const b = from.row(std::min(sy + 1, from.height() - 1)) + static_cast<std::ptrdiff_t>(kPictureBorder + 2 * x) * 4;
      for (int c = 0; c < 4; ++c) row[(x + kPictureBorder) * 4 + c] = 0.25f * (a[c] + a[c + 4] + b[c] + b[c + 4]);
    }
  }
  return std::make_shared<const StampPicture>(std::move(to));
}

using Pyramid = std::vector<std::shared_ptr<const StampPicture>>;

// A picture in all its sizes; `fill` fills a row of it.
template <class FillRow>
Pyramid pyramidOf(int width, int height, const FillRow& fill) {
  Plane whole(width + 2 * kPictureBorder, height + 2 * kPictureBorder, 4);
  for (int y = 0; y < whole.height(); ++y) {
    float* const row = whole.row(y);
    std::fill_n(row, static_cast<std::size_t>(whole.width()) * 4, 0.0f);
    if (y >= kPictureBorder && y < height + kPictureBorder) fill(y - kPictureBorder, row + std::ptrdiff_t{kPictureBorder} * 4);
  }
  Pyramid list{std::make_shared<const StampPicture>(std::move(whole))};
  while (std::min(list.back()->width(), list.back()->height()) - 2 * kPictureBorder >= 4) list.push_back(halved(*list.back()));
  return list;
}

// What was made last, by what it was made of: a stamp at rest is not made anew in every frame.
template <class Key>
class RecentPyramids {
 public:
  explicit RecentPyramids(std::size_t kept) : kept_(kept) {}
  template <class Make>
  Pyramid of(const Key& key, const Make& make) {
    {
      const std::lock_guard lock(mutex_);
      if (const auto it = std::find_if(known_.begin(), known_.end(), [&](const auto& k) { return k.first == key; }); it != known_.end()) {
        known_.splice(known_.begin(), known_, it);
        return it->second;
      }
    }
    // Not while others are kept waiting: what is made on several threads may come by here again.
    Pyramid made = make();
    const std::lock_guard lock(mutex_);
    known_.emplace_front(key, made);
    if (known_.size() > kept_) known_.pop_back();
    return made;
  }

 private:
  std::mutex mutex_;
  std::size_t kept_;
  std::list<std::pair<Key, Pyramid>> known_;
};

Pyramid filePyramid(const std::shared_ptr<const TilePicture>& tile) {
  static RecentPyramids<std::shared_ptr<const TilePicture>> recent(2 * kPictureSteps);
  return recent.of(tile, [&] {
    return pyramidOf(tile->width, tile->height, [&](int y, float* row) {
      std::copy_n(tile->plane.row(y + kTileBorder) + std::ptrdiff_t{kTileBorder} * 4, static_cast<std::size_t>(tile->width) * 4, row);
    });
  });
}

// How a line is drawn: filled, or as a stroke. Lengths are those of the line.
struct Drawn {
  std::vector<Point> line;
  bool closed = true;
  double width = 0;  // of the stroke; 0: filled
  int dashes = 0;
  double dash = 1;
  double taper = 0;
  double softness = 0;
  bool operator==(const Drawn&) const = default;
};

// The line in white, about (0, 0), in a picture that shows `half` to all sides.
Pyramid drawnPyramid(const Drawn& drawn, Point half, int across, int down) {
  static RecentPyramids<std::tuple<Drawn, double, double, int, int>> recent(4 * kPictureSteps);
  return recent.of({drawn, half.x, half.y, across, down}, [&] {
    const double k = across / (2 * half.x);
    const auto seen = [&](Point p) { return Point{(p.x + half.x) * k - 0.5, (p.y + half.y) * down / (2 * half.y) - 0.5}; };
    LineArt art;
    if (drawn.width > 0) {
      const MeasuredLine line(drawn.line, drawn.closed);
      const auto stroke = [&](double from, double to, double taper) {
        Stroke& made = art.strokes.emplace_back();
        made.softness = drawn.softness * k;
        made.points = taperedPart(line, from, to, drawn.width / 2 * k, taper);
        for (StrokePoint& p : made.points) p.at = seen(p.at);
      };
      if (drawn.dashes <= 0) stroke(0, 1, drawn.taper);
      for (int i = 0; i < drawn.dashes; ++i) stroke(static_cast<double>(i) / drawn.dashes, (i + drawn.dash) / drawn.dashes, drawn.taper);
    } else {
      auto& points = art.fillings.emplace_back().lines.emplace_back();
      for (const Point& p : drawn.line) points.push_back(seen(p));
    }
    const auto rows = lineArtRows(std::move(art), across, down);
    const Plane plane = wholePlane(*rows, across, down);
    return pyramidOf(across, down, [&](int y, float* row) { std::copy_n(plane.row(y), static_cast<std::size_t>(across) * 4, row); });
  });
}

// The edge of a plain shape, `within` it by so much, about (0, 0).
std::vector<Point> edgeOf(OutlineShape shape, Point half, double within) {
  constexpr int kAcross = 384;
  shape.line = 0;
  shape.softness = 0;
  shape.round -= within;
  PlaneView view;
  view.scale = kAcross / (2 * std::max(half.x, half.y));
  view.width = std::max(8, static_cast<int>(std::ceil(2 * half.x * view.scale)) + 4);
  view.height = std::max(8, static_cast<int>(std::ceil(2 * half.y * view.scale)) + 4);
  view.left = -view.width / (2 * view.scale);
  view.top = -view.height / (2 * view.scale);
  std::vector<MarkShape> shapes(1);
  shapes[0].outline = shape;
  shapes[0].halfWidth = half.x;
  shapes[0].halfHeight = half.y;
  Marks marks{Mark{}};
  float fainter = 1;
  if (!placeMark(marks[0], shapes[0], {}, view, fainter)) return {};
  marks[0].colour = {1, 1, 1, 1};
  const auto rows = markRows(std::move(shapes), std::move(marks), {}, MarkBlend::Over, view);
  const Plane plane = wholePlane(*rows, view.width, view.height);
  std::vector<float> cover;
  for (int y = 0; y < view.height; ++y)
    for (int x = 0; x < view.width; ++x) cover.push_back(plane.row(y)[static_cast<std::ptrdiff_t>(x) * 4 + 3]);
  auto lines = evenedContours(contours(cover, view.width, view.height, 0.5f), 8, 1);
  if (lines.empty()) return {};
  for (Point& p : lines.front()) p = view.place(p.x, p.y);
  return std::move(lines.front());
}

// The picture, or the one of a clip that is shown now.
std::shared_ptr<const TilePicture> fileTile(const Values& values, const LapShift& shift, const MediaRef& ref, int width, int height) {
  constexpr EdgePair kNothing{Edge::Transparent, Edge::Transparent};
  MediaStore& store = MediaStore::shared();
  if (!ref.moving()) return store.tile(ref, width, height, kNothing);
  const auto clip = store.clip(ref);
  const ValueAt plays = values.shifted(values.index("plays"), shift);
  const double done = fract(std::get<double>(plays.value) * plays.progress);
  return store.clipTile(ref, clip ? clipAt((*clip)->info(), {}, done) : ClipMix{}, width, height, kNothing);
}

// The next power of two, so that a size that moves does not ask for a picture of its own in every frame.
int pixelsFor(double wanted) {
  int size = 16;
  while (size < wanted && size < 2048) size *= 2;
  return size;
}

}  // namespace

Stamp::Stamp(const Values& values, const PlaneView& view, const Input* layer, double largest)
    : values_(values), view_(view), layer_(layer), largest_(largest) {
  for (const std::string_view id : kOfShape) shapeMoves_ = shapeMoves_ || values.moving(values.index(id));
  const std::string_view kind = values.choice("kind");
  coloured_ = kind != "picture" && kind != "layer";
  const bool own = kind == "outline";
  const bool broken = values.most("line") > 0 && (values.integer("dashes") > 0 || values.most("taper") > 0);
  constexpr std::string_view kLined[] = {"disc", "rectangle", "bar", "polygon", "star", "drop", "petal"};
  drawn_ = own || (broken && std::find(std::begin(kLined), std::end(kLined), kind) != std::end(kLined));
  pictured_ = !coloured_ || drawn_;
  graded_ = !pictured_ && values.choice("fill") != "plain";
  baseSize_ = std::max(1e-3, values.baseNumber("size"));
  const bool posed = own && values.moving(values.index("outline"));
  const bool plays = kind == "picture" && values.file("file").moving() && values.moving(values.index("plays"));
  if (pictured_ && !drawn_) shapeMoves_ = plays;
  shapeMoves_ = shapeMoves_ || posed;
  if (pictured_) picture_ = drawn_ ? drawn({}) : pictured({});
  // The largest that it ever is: what depends on the moment would let all places waver that are counted from it.
  const bool tallest = kind == "bar" || kind == "drop" || kind == "petal" || posed;
  const double w = pictured_ && !posed ? picture_.halfWidth : baseSize_ / 2 * (posed ? 2 : 1);
  const double h = pictured_ && !posed ? picture_.halfHeight : w * std::max(values.most("tall"), tallest ? 3.0 : 0.0);
  reach_ = std::hypot(w, h) + std::max(0.5 * values.most("softness"), values.most("glow"));
}

// A line that is filled or drawn: an outline of one's own, as wide as the stamp's size, or the edge of a plain shape.
MarkShape Stamp::drawn(const LapShift& shift) const {
  const CopyValues values(values_, shift);
  MarkShape shape;
  shape.tinted = true;
  Drawn drawn;
  drawn.width = values.number("line");
  drawn.dashes = values_.integer("dashes");
  drawn.dash = values.number("dash");
  drawn.taper = values.number("taper");
  drawn.softness = values.number("softness");
  Point half;
  if (values_.choice("kind") == "outline") {
    const std::size_t index = values_.index("outline");
    const Outline& base = std::get<Outline>(values_.base(index));
    const Outline now = values_.moving(index) ? std::get<Outline>(values_.shifted(index, shift).value) : values_.outline("outline");
    std::array<double, 4> box{1e18, 1e18, -1e18, -1e18};
    for (const Point& p : flattened(base, 0.25))
      box = {std::min(box[0], p.x), std::min(box[1], p.y), std::max(box[2], p.x), std::max(box[3], p.y)};
    if (!(box[2] > box[0]) || !(box[3] > box[1])) return shape;
    // Its poses are as large as they were drawn beside the first one.
    const double unit = baseSize_ / (box[2] - box[0]);
    drawn.closed = now.closed;
    drawn.line = flattened(now, 0.25);
    if (drawn.line.size() < 2 || (drawn.line.size() < 3 && !(drawn.width > 0))) return shape;
    for (Point& p : drawn.line) {
      p = {(p.x - (box[0] + box[2]) / 2) * unit, (p.y - (box[1] + box[3]) / 2) * unit};
      half = {std::max(half.x, std::abs(p.x)), std::max(half.y, std::abs(p.y))};
    }
    half = {half.x + drawn.width / 2, half.y + drawn.width / 2};
  } else {
    const MarkShape plain = plainShape(shift);
    half = {plain.halfWidth, plain.halfHeight};
    drawn.width = std::max(drawn.width, 1e-3);
    drawn.line = edgeOf(plain.outline, half, drawn.width / 2);
    if (drawn.line.size() < 3) return shape;
  }
  half = {std::max(half.x, 1e-3) + drawn.softness / 2, std::max(half.y, 1e-3) + drawn.softness / 2};
  shape.halfWidth = half.x;
  shape.halfHeight = half.y;
  const int across = pixelsFor(4 * half.x * largest_ * view_.scale);
  const int down = std::clamp(static_cast<int>(std::lround(across * half.y / half.x)), 1, 4096);
  shape.pictures = drawnPyramid(drawn, half, across, down);
  return shape;
}

MarkShape Stamp::pictured(const LapShift& shift) const {
  const PlaneView& view = view_;
  MarkShape shape;
  const double size = baseSize_;
  if (values_.choice("kind") == "picture") {
    const MediaRef& ref = values_.file("file");
    const double ratio = ref.width > 0 && ref.height > 0 ? static_cast<double>(ref.height) / ref.width : 1;
    const int across = pixelsFor(size * largest_ * view.scale);
    const int down = std::max(1, static_cast<int>(std::lround(across * ratio)));
    const auto tile = fileTile(values_, shift, ref, across, std::min(down, 4096));
    if (!tile) return shape;
    shape.halfWidth = size / 2;
    shape.halfHeight = size / 2 * ratio;
    shape.pictures = filePyramid(tile);
    return shape;
  }
  const std::array<double, 4> box = layer_ ? layer_->filled() : std::array<double, 4>{};
  const double width = box[2] - box[0];
  const double height = box[3] - box[1];
  if (!(width > 0) || !(height > 0)) return shape;
  shape.halfWidth = size / 2;
  shape.halfHeight = size / 2 * height / width;
  PlaneView own;
  own.width = std::min(pixelsFor(size * largest_ * view.scale), 1024);
  own.scale = own.width / width;
  own.height = std::clamp(static_cast<int>(std::lround(height * own.scale)), 1, 2048);
  own.left = box[0];
  own.top = box[1];
  own.frameWidth = view.frameWidth;
  own.frameHeight = view.frameHeight;
  const auto rows = layer_->pull(own);
  const Plane plane = wholePlane(*rows, own.width, own.height);
  shape.tint = rows->tint();
  shape.pictures = pyramidOf(own.width, own.height, [&](int y, float* row) {
    if (plane.channels() == 4)
      std::copy_n(plane.row(y), static_cast<std::size_t>(own.width) * 4, row);
    else
      greyToRgba(plane.row(y), own.width, row);
  });
  return shape;
}

MarkShape Stamp::made(const LapShift& shift) const {
  if (!pictured_) return plainShape(shift);
  if (!shapeMoves_) return picture_;
  return drawn_ ? drawn(shift) : pictured(shift);
}

MarkShape Stamp::plainShape(const LapShift& shift) const {
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

void Stamp::addShapes(std::vector<MarkShape>& shapes, int mostTimes, bool shifted) {
  first_ = static_cast<std::uint32_t>(shapes.size());
  if (!shapeMoves_ || !shifted) {
    steps_ = 0;
    shapes.push_back(made({}));
    return;
  }
  steps_ = pictured_ ? kPictureSteps : kShapeSteps;
  for (int times = 1; times <= mostTimes; ++times)
    for (int i = 0; i < steps_; ++i) shapes.push_back(made({static_cast<double>(i) / steps_, times}));
}

std::uint32_t Stamp::shape(const LapShift& shift) const {
  if (steps_ == 0) return first_;
  const auto step = static_cast<int>(std::lround(fract(shift.start) * steps_)) % steps_;
  return first_ + static_cast<std::uint32_t>((shift.times - 1) * steps_ + step);
}

}  // namespace oa
