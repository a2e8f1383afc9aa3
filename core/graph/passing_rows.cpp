#include "graph/passing_rows.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numbers>

#include "base/numbers.h"
#include "image/blur.h"
#include "image/buffer.h"
#include "image/cropped.h"
#include "image/resampled.h"
#include "image/sampling.h"

namespace oa {
namespace {

class WipeCover final : public SpanMaker {
 public:
  WipeCover(const Passing& p, double there, const Box& box, const PlaneView& view)
      : SpanMaker(view.width), view_(view), kind_(p.wipe), middle_(box.centre()), soft_(std::max(p.wipeSoft, 1 / view.scale)) {
    // Away from the side where it begins.
    across_ = {-std::cos(p.wipeAngle * kDegree), -std::sin(p.wipeAngle * kDegree)};
    double least = std::numeric_limits<double>::infinity();
    double most = -least;
    for (const Point corner : {Point{box.left, box.top}, {box.right, box.top}, {box.right, box.bottom}, {box.left, box.bottom}}) {
      least = std::min(least, far(corner));
      most = std::max(most, far(corner));
    }
    if (kind_ != Wipe::Line) least = 0;
    front_ = least + std::clamp(there, 0.0, 1.0) * (most - least + soft_);
  }
  [[nodiscard]] int channels() const override { return 1; }
  void span(int y, int x0, int n, float* out) const override {
    for (int i = 0; i < n; ++i) {
      const double share = std::clamp((front_ - far(view_.place(x0 + i, y))) / soft_, 0.0, 1.0);
      out[i] = static_cast<float>(share * share * (3 - 2 * share));
    }
  }

 private:
  // How late it is uncovered, as a length.
  [[nodiscard]] double far(Point p) const {
    if (kind_ == Wipe::Iris) return std::hypot(p.x - middle_.x, p.y - middle_.y);
    if (kind_ == Wipe::Split) return std::abs((p.x - middle_.x) * across_.x + (p.y - middle_.y) * across_.y);
    return p.x * across_.x + p.y * across_.y;
  }
  PlaneView view_;
  Wipe kind_;
  Point middle_;
  Point across_;
  double soft_;
  double front_ = 0;
};

// Pixels of a picture up to a line across or down, and a smear of that line behind it.
class Smeared final : public RowMaker {
 public:
  struct Line {
    bool across = true;   // the smear runs along rows
    bool upwards = true;  // towards larger numbers
    double front = 0;     // in pixels
    double end = 0;
  };
  Smeared(std::shared_ptr<const RowMaker> picture, std::shared_ptr<const RowMaker> line, const Line& at, const PlaneView& view)
      : picture_(std::move(picture)), at_(at), width_(view.width) {
    const int have = at.across ? 2 : view.width;
    line_ = wholePlane(*line, have, at.across ? view.height : 2);
  }
  [[nodiscard]] int channels() const override { return 4; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    picture_->rows(y0, y1, out, stride);
    for (int y = y0; y < y1; ++y) {
      float* const row = out + (y - y0) * stride;
      if (at_.across) {
        for (int x = 0; x < width_; ++x) smear(row + static_cast<std::ptrdiff_t>(x) * 4, line_.row(y), x);
      } else {
        for (int x = 0; x < width_; ++x)
          smear(row + static_cast<std::ptrdiff_t>(x) * 4, line_.row(0) + static_cast<std::ptrdiff_t>(x) * 4, y);
      }
    }
  }

 private:
  void smear(float* pixel, const float* line, int place) const {
    const double beyond = at_.upwards ? place - at_.front : at_.front - place;
    if (beyond <= 0) return;
    const double tail = std::max(1e-6, std::abs(at_.end - at_.front));
    const double left = std::max(0.0, 1 - beyond / tail);
    const auto share = static_cast<float>(left * left);
    for (int c = 0; c < 4; ++c) pixel[c] = line[c] * share;
  }
  std::shared_ptr<const RowMaker> picture_;
  Line at_;
  int width_;
  Plane line_;
};

}  // namespace

std::shared_ptr<const RowMaker> wipeRows(const Passing& passing, double there, const Box& box, const PlaneView& view) {
  return std::make_shared<WipeCover>(passing, there, box, view);
}

std::shared_ptr<const RowMaker> smearedRows(const MakeRows& make, Smear from, double there, const Box& box, const PlaneView& view) {
  if (!view.upright()) {
    const PlaneView upright = view.uprightAround(2);
    return resampled(smearedRows(make, from, there, box, upright), upright, view);
  }
  there = std::clamp(there, 0.0, 1.0);
  Smeared::Line line;
  line.across = from == Smear::Left || from == Smear::Right;
  line.upwards = from == Smear::Left || from == Smear::Top;
  const double low = line.across ? box.left : box.top;
  const double high = line.across ? box.right : box.bottom;
  const double edge = line.upwards ? std::max(high, line.across ? view.frameWidth : view.frameHeight) : std::min(low, 0.0);
  const double front = line.upwards ? mix(low, high, there) : mix(high, low, there);
  const double end = mix(edge, line.upwards ? high : low, there);
  const auto pixels = [&](double at) {
    const Point p = view.pixel(line.across ? Point{at, 0} : Point{0, at});
    return line.across ? p.x : p.y;
  };
  line.front = pixels(front);
  line.end = pixels(end);
  // The line itself, wherever it lies.
  PlaneView strip = line.across ? view.part(0, 0, 2, view.height) : view.part(0, 0, view.width, 2);
  (line.across ? strip.left : strip.top) = front - 0.5 / view.scale;
  return std::make_shared<Smeared>(make(view), make(strip), line, view);
}

std::shared_ptr<const RowMaker> softenedRows(const MakeRows& make, double radius, const PlaneView& view) {
  const double sigma = std::min(radius / 2 * view.scale, kMaxSigma);
  if (sigma < 0.05) return make(view);
  const int around = blurReach(sigma);
  const PlaneView wanted = view.grown(around);
  const auto picture = make(wanted);
  return cropped(blurred(*picture, wanted.width, wanted.height, {sigma, sigma, Edge::Clamp, true}), around, around, view.width,
                 wanted.width);
}

double wayOut(const Box& box, Point frame, double direction) {
  const double c = std::cos(direction * kDegree);
  const double s = std::sin(direction * kDegree);
  constexpr double kNone = 1e-9;
  double way = std::numeric_limits<double>::infinity();
  if (c > kNone) way = std::min(way, (frame.x - box.left) / c);
  if (c < -kNone) way = std::min(way, box.right / -c);
  if (s > kNone) way = std::min(way, (frame.y - box.top) / s);
  if (s < -kNone) way = std::min(way, box.bottom / -s);
  return std::isfinite(way) ? std::max(0.0, way) : 0;
}

}  // namespace oa
