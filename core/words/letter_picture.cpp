#include "words/letter_picture.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <list>
#include <map>
#include <mutex>
#include <tuple>
#include <utility>

#include "image/blur.h"
#include "image/sampling.h"
#include "shapes/area_cover.h"

namespace oa {
namespace {

// Four sizes to an octave, so that there are about two pixels for one that is shown.
constexpr int kSteps = 4;
constexpr double kFiner = 2;
constexpr double kFinerAtLeast = 1.85;
constexpr int kLargest = kSteps * 11;  // 2048 pixels to the em
constexpr int kSmallest = -kSteps * 4;
constexpr std::int64_t kMostPixels = std::int64_t{1} << 23;
// A blur of so many pixels needs none that are finer.
constexpr double kWidestSigma = 5;
constexpr double kSigmaSteps = 8;  // to a pixel

double perEmOf(int size) { return std::exp2(static_cast<double>(size) / kSteps); }

float* at(Plane& plane, int x, int y) { return plane.row(y) + static_cast<std::ptrdiff_t>(x) * plane.channels(); }

Plane emptyPlane(int width, int height, int channels) {
  Plane plane(width, height, channels);
  for (int y = 0; y < height; ++y) std::fill_n(plane.row(y), static_cast<std::size_t>(width) * static_cast<std::size_t>(channels), 0.0F);
  return plane;
}

// What lies beyond is nothing.
Plane softened(Plane sharp, Point sigma) {
  if (std::max(sigma.x, sigma.y) < 0.02) return sharp;
  const int width = sharp.width();
  const int height = sharp.height();
  const auto rows = planeRows(std::move(sharp), false);
  return wholePlane(*blurred(*rows, width, height, {sigma.x, sigma.y, Edge::Transparent, false}), width, height);
}

// Each the mean of four, the upper left of which lies at its place: with two pixels for one that is shown, it takes in as much as that one
// does, and edges neither waver nor jump as they move.
void widen(Plane& p) {
  for (int y = 0; y < p.height(); ++y)
    for (int x = 0; x < p.width(); ++x) {
      const int nx = std::min(x + 1, p.width() - 1);
      const int ny = std::min(y + 1, p.height() - 1);
      *at(p, x, y) = 0.25F * (*at(p, x, y) + *at(p, nx, y) + *at(p, x, ny) + *at(p, nx, ny));
    }
}

struct Box {
  double left = 1e18, top = 1e18, right = -1e18, bottom = -1e18;
};

Box boxOf(const Letter& letter) {
  Box box;
  for (const auto& line : letter.lines)
    for (const Point& p : line)
      box = {std::min(box.left, p.x), std::min(box.top, p.y), std::max(box.right, p.x), std::max(box.bottom, p.y)};
  return box;
}

// What is read between four pixels lies up to one further than the first of them.
void findEnds(LetterPicture& picture) {
  constexpr LetterPicture::Ends kNone{1e9, -1e9};
  picture.across = picture.down = picture.falling = picture.rising = kNone;
  const auto take = [](LetterPicture::Ends& ends, int low, int high) {
    ends = {std::min(ends.low, static_cast<double>(low)), std::max(ends.high, static_cast<double>(high))};
  };
  const std::uint32_t* cover = picture.cover.data();
  for (int y = 0; y < picture.height; ++y)
    for (int x = 0; x < picture.width; ++x, ++cover) {
      if (*cover == 0) continue;
      take(picture.across, x, x + 1);
      take(picture.down, y, y + 1);
      take(picture.falling, x + y, x + y + 2);
      take(picture.rising, x - y - 1, x - y + 1);
    }
}

std::shared_ptr<LetterPicture> covered(const Letter& letter, double perEm, double sigma) {
  const Box box = boxOf(letter);
  const double around = 2 + std::ceil(3.5 * sigma);
  const double w = std::ceil((box.right - box.left) * perEm) + 2 * around;
  const double h = std::ceil((box.bottom - box.top) * perEm) + 2 * around;
  if (!(w * h <= static_cast<double>(kMostPixels)) || !(w > 0) || !(h > 0)) return nullptr;
  auto made = std::make_shared<LetterPicture>();
  made->width = static_cast<int>(w);
  made->height = static_cast<int>(h);
  made->perEm = {perEm, perEm};
  made->first = {box.left - (around - 0.5) / perEm, box.top - (around - 0.5) / perEm};
  std::vector<AreaEdge> edges;
  const auto seen = [&](Point p) { return Point{(p.x - made->first.x) * perEm, (p.y - made->first.y) * perEm}; };
  for (const auto& line : letter.lines)
    for (std::size_t i = 0; i + 1 < line.size(); ++i) edges.push_back({seen(line[i]), seen(line[i + 1])});
  std::vector<float> shares(static_cast<std::size_t>(made->width + 2) * static_cast<std::size_t>(made->height));
  coverBox(edges.data(), edges.size(), 0, 0, made->width, made->height, shares.data());
  Plane pixels(made->width, made->height, 1);
  for (int y = 0; y < made->height; ++y)
    std::copy_n(shares.data() + static_cast<std::ptrdiff_t>(y) * (made->width + 2), made->width, pixels.row(y));
  pixels = softened(std::move(pixels), {sigma, sigma});
  widen(pixels);
  made->first = {made->first.x + 0.5 / perEm, made->first.y + 0.5 / perEm};
  float most = 1e-6F;
  for (int y = 0; y < made->height; ++y) most = std::max(most, *std::max_element(pixels.row(y), pixels.row(y) + made->width));
  made->most = std::min(static_cast<double>(most), 1.0);
  const auto perShare = static_cast<float>(255 / made->most);
  const auto at = [&](int x, int y) {
    return static_cast<std::size_t>(y) * static_cast<std::size_t>(made->width) + static_cast<std::size_t>(x);
  };
  made->cover.resize(static_cast<std::size_t>(made->width) * static_cast<std::size_t>(made->height));
  for (int y = 0; y < made->height; ++y)
    std::transform(pixels.row(y), pixels.row(y) + made->width, made->cover.begin() + static_cast<std::ptrdiff_t>(at(0, y)),
                   [&](float share) { return static_cast<std::uint32_t>(std::lround(std::clamp(share * perShare, 0.0F, 255.0F))); });
  // In this order each finds its neighbours as they were.
  for (int y = 0; y < made->height; ++y)
    for (int x = 0; x < made->width; ++x) {
      const bool right = x + 1 < made->width;
      const bool below = y + 1 < made->height;
      std::uint32_t& here = made->cover[at(x, y)];
      if (right) here |= (made->cover[at(x + 1, y)] & 255U) << 8;
      if (below) here |= (made->cover[at(x, y + 1)] & 255U) << 16;
      if (right && below) here |= (made->cover[at(x + 1, y + 1)] & 255U) << 24;
    }
  findEnds(*made);
  return made;
}

// Each pixel the mean of four; what lies beyond is nothing.
Plane halved(Plane& from) {
  Plane to = emptyPlane((from.width() + 1) / 2, (from.height() + 1) / 2, from.channels());
  for (int y = 0; y < from.height(); ++y)
    for (int x = 0; x < from.width(); ++x)
      for (int c = 0; c < from.channels(); ++c) at(to, x / 2, y / 2)[c] += at(from, x, y)[c] / 4;
  return to;
}

std::shared_ptr<LetterPicture> coloured(const Letter& letter, double perEm, double sigmaEm) {
  const LetterColours& own = letter.colours;
  const auto laidInto = [](Plane& to, const Plane& from, int around) {
    for (int y = 0; y < from.height(); ++y)
      std::copy_n(from.row(y), static_cast<std::size_t>(from.width()) * 4, at(to, around, y + around));
  };
  Plane pixels(own.plane->width(), own.plane->height(), 4);
  laidInto(pixels, *own.plane, 0);
  auto made = std::make_shared<LetterPicture>();
  made->perEm = own.perEm;
  made->first = own.first;
  while (made->perEm.y >= 2 * perEm && std::min(pixels.width(), pixels.height()) >= 4) {
    pixels = halved(pixels);
    made->first = {made->first.x + 0.5 / made->perEm.x, made->first.y + 0.5 / made->perEm.y};
    made->perEm = {made->perEm.x / 2, made->perEm.y / 2};
  }
  const Point sigma{sigmaEm * made->perEm.x, sigmaEm * made->perEm.y};
  const int around = 1 + static_cast<int>(std::ceil(3.5 * std::max(sigma.x, sigma.y)));
  made->width = pixels.width() + 2 * around;
  made->height = pixels.height() + 2 * around;
  if (std::int64_t{made->width} * made->height > kMostPixels) return nullptr;
  Plane wide = emptyPlane(made->width, made->height, 4);
  laidInto(wide, pixels, around);
  made->first = {made->first.x - around / made->perEm.x, made->first.y - around / made->perEm.y};
  made->colours = std::make_shared<const Plane>(softened(std::move(wide), sigma));
  made->across = {0, made->width - 1.0};
  made->down = {0, made->height - 1.0};
  made->falling = {0, made->width + made->height - 2.0};
  made->rising = {1.0 - made->height, made->width - 1.0};
  return made;
}

// The pictures that were wanted last.
class Kept {
 public:
  using Key = std::tuple<const Typeset*, std::size_t, double, int>;
  std::shared_ptr<const LetterPicture> find(const Key& key) {
    const std::lock_guard lock(mutex_);
    const auto found = known_.find(key);
    if (found == known_.end()) return nullptr;
    used_.splice(used_.begin(), used_, found->second);
    return found->second->picture;
  }
  void put(const Key& key, const std::shared_ptr<const Typeset>& set, std::shared_ptr<const LetterPicture> picture) {
    const std::lock_guard lock(mutex_);
    if (known_.contains(key)) return;
    bytes_ += picture->bytes();
    used_.push_front({key, set, std::move(picture)});
    known_[key] = used_.begin();
    constexpr std::size_t kBudget = std::size_t{128} << 20;
    while (bytes_ > kBudget && used_.size() > 1) {
      bytes_ -= used_.back().picture->bytes();
      known_.erase(used_.back().key);
      used_.pop_back();
    }
  }

 private:
  struct Entry {
    Key key;
    std::shared_ptr<const Typeset> set;  // as long as it lives nothing else has its address
    std::shared_ptr<const LetterPicture> picture;
  };
  std::mutex mutex_;
  std::list<Entry> used_;  // the last first
  std::map<Key, std::list<Entry>::iterator> known_;
  std::size_t bytes_ = 0;
};

}  // namespace

std::size_t LetterPicture::bytes() const {
  return sizeof(LetterPicture) + cover.size() * sizeof(std::uint32_t) +
         (colours ? static_cast<std::size_t>(width) * static_cast<std::size_t>(height) * 16 : 0);
}

std::shared_ptr<const LetterPicture> letterPicture(const std::shared_ptr<const Typeset>& set, std::size_t index,
                                                   const LetterDetail& detail) {
  const Letter& letter = set->letters[index];
  double wanted = (detail.steady ? kFiner : kFinerAtLeast) * detail.size;
  if (!(wanted > 0) || !std::isfinite(wanted)) return nullptr;
  if (detail.sigma > 0) wanted = std::min(wanted, kWidestSigma / detail.sigma);
  const int size = std::max(kSmallest, static_cast<int>(std::ceil(kSteps * std::log2(wanted))));
  if (size > kLargest && !letter.colours.plane) return nullptr;
  const double perEm = detail.steady && detail.sigma <= 0 ? wanted : perEmOf(size);
  const int blur = static_cast<int>(std::lround(std::min(detail.sigma * perEm, 2 * kWidestSigma) * kSigmaSteps));
  static Kept kept;
  const Kept::Key key{set.get(), letter.shape, perEm, blur};
  if (auto found = kept.find(key)) return found;
  const double sigma = blur / kSigmaSteps;
  std::shared_ptr<const LetterPicture> made = letter.colours.plane ? coloured(letter, perEm, sigma / perEm) : covered(letter, perEm, sigma);
  if (made) kept.put(key, set, made);
  return made;
}

}  // namespace oa
