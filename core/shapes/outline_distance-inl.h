// Distances to the edges of plain shapes, and how much of a pixel they cover. Included once for each target, as Highway's -inl
// files are.
#if defined(OA_OUTLINE_DISTANCE_INL) == defined(HWY_TARGET_TOGGLE)
#ifdef OA_OUTLINE_DISTANCE_INL
#undef OA_OUTLINE_DISTANCE_INL
#else
#define OA_OUTLINE_DISTANCE_INL
#endif

#include <algorithm>
#include <cmath>

#include "shapes/outline_shape.h"
#include "simd/inverse-root-inl.h"
#include "simd/num-inl.h"

HWY_BEFORE_NAMESPACE();
namespace oa {
namespace HWY_NAMESPACE {

template <class N>
HWY_INLINE N lengthOf(N x, N y) {
  return rootOf(x * x + y * y);
}

template <class N>
HWY_INLINE N cornersDistance(const OutlineShape& s, N x, N y) {
  N nearest(1e30);
  N side(1.0);
  for (int i = 0; i < s.corners; ++i) {
    const Point& p = s.at[static_cast<std::size_t>(i)];
    const Point& q = s.at[static_cast<std::size_t>(i == 0 ? s.corners - 1 : i - 1)];
    const double ex = q.x - p.x;
    const double ey = q.y - p.y;
    const N wx = x - N(p.x);
    const N wy = y - N(p.y);
    const N t = minOf(N(1.0), maxOf(N(0.0), (wx * N(ex) + wy * N(ey)) * N(1 / std::max(1e-12, ex * ex + ey * ey))));
    const N bx = wx - t * N(ex);
    const N by = wy - t * N(ey);
    nearest = minOf(nearest, bx * bx + by * by);
    // Every edge that a ray to the side crosses changes inside to outside.
    const N above = whereLess(y, N(p.y), N(0.0), N(1.0));
    const N below = whereLess(y, N(q.y), N(1.0), N(0.0));
    const N left = whereLess(N(ey) * wx, N(ex) * wy, N(1.0), N(0.0));
    const N crosses = above * below * left + (N(1.0) - above) * (N(1.0) - below) * (N(1.0) - left);
    side = side * (N(1.0) - N(2.0) * crosses);
  }
  return rootOf(nearest) * side;
}

// The same to the bit, with numbers that are worked out beforehand, and with masks.
HWY_INLINE Num cornersDistance(const OutlineShape& s, Num x, Num y) {
  const Num::D d;
  const auto zero = hn::Zero(d);
  const auto one = hn::Set(d, 1.0f);
  auto nearest = hn::Set(d, 1e30f);
  auto inside = hn::Lt(one, zero);
  for (int i = 0; i < s.corners; ++i) {
    const OutlineShape::Side& side = s.sides[static_cast<std::size_t>(i)];
    const auto ex = hn::Set(d, side.ex);
    const auto ey = hn::Set(d, side.ey);
    const auto py = hn::Set(d, side.y);
    const Num wx = hn::Sub(x.v, hn::Set(d, side.x));
    const Num wy = hn::Sub(y.v, py);
    const Num t = minOf(Num(one), maxOf(Num(zero), (wx * Num(ex) + wy * Num(ey)) * Num(hn::Set(d, side.per))));
    const Num bx = wx - t * Num(ex);
    const Num by = wy - t * Num(ey);
    nearest = hn::Min(nearest, (bx * bx + by * by).v);
    // Every edge that a ray to the side crosses changes inside to outside: above it, below its other end and to its left, or none of them.
    const auto notAbove = hn::Lt(y.v, py);
    const auto below = hn::Lt(y.v, hn::Set(d, side.before));
    const auto left = hn::Lt((Num(ey) * wx).v, (Num(ex) * wy).v);
    inside = hn::Xor(inside, hn::And(hn::Xor(notAbove, left), hn::Xor(notAbove, below)));
  }
  const auto root = hn::Sqrt(nearest);
  return hn::IfThenElse(inside, hn::Neg(root), root);
}

// To the arc itself, which is drawn as a line about it.
template <class N>
HWY_INLINE N arcDistance(const OutlineShape& s, N x, N y) {
  const N sx = absOf(x);
  // Beyond its ends the nearer end counts. They lie at (sine, cosine) of half the opening from straight down.
  const N cross = sx * N(s.open.y) - y * N(s.open.x);
  const N end = lengthOf(sx - N(s.a * s.open.x), y - N(s.a * s.open.y));
  return whereLess(cross, N(0.0), end, absOf(lengthOf(sx, y) - N(s.a)));
}

// The hull of a circle and a point above it: circle, tangent or point, whichever is nearest.
template <class N>
HWY_INLINE N dropDistance(const OutlineShape& s, N x, N y) {
  const double reach = 2 * s.b - s.a;  // from the circle's middle to the point
  const double k = std::min(0.999, s.a / std::max(1e-9, reach));
  const double across = std::sqrt(1 - k * k);
  const N sx = absOf(x);
  const N up = N(s.b - s.a) - y;
  const N along = up * N(across) - sx * N(k);
  const N circle = lengthOf(sx, up) - N(s.a);
  const N tip = lengthOf(sx, up - N(reach));
  const N side = sx * N(across) + up * N(k) - N(s.a);
  const N slanted = whereLess(N(reach * across), along, tip, side);
  return whereLess(along, N(0.0), circle, slanted);
}

// The intersection of two circles.
template <class N>
HWY_INLINE N petalDistance(const OutlineShape& s, N x, N y) {
  const bool upright = s.b >= s.a;
  const double a = std::min(s.a, s.b);
  const double b = std::max(s.a, s.b);
  const N sx = absOf(upright ? x : y);
  const N sy = absOf(upright ? y : x);
  const double radius = (a * a + b * b) / (2 * std::max(1e-9, a));
  const double away = radius - a;
  const N tip = (sx + N(away)) * N(b) - sy * N(away);
  return whereLess(tip, N(0.0), lengthOf(sx, sy - N(b)), lengthOf(sx + N(away), sy) - N(radius));
}

// The nearest place of an ellipse is looked for where the circle that touches it like the last one found would be met (a fixed point of
// the evolute's centres of curvature). It begins beside the place, across the longer way, or towards the middle from outside of it: two
// rounds leave a soft edge within 0.002 of its strength, three where the ellipse is more than ten times as long as wide within 0.003.
template <class N>
HWY_INLINE N ellipseDistance(double a, double b, N x, N y) {
  const N px = absOf(x);
  const N py = absOf(y);
  const double c = a * a - b * b;
  const N tiny(1e-12);
  const N u = px * N(1 / a);
  const N v = py * N(1 / b);
  const N beside = maxOf(N(0.0), N(1.0) - u * u - v * v);
  N tx = maxOf(N(1e-6), a > b ? u : rootOf(u * u + beside));
  N ty = maxOf(N(1e-6), a > b ? rootOf(v * v + beside) : v);
  const N first = inverseRootOf(tx * tx + ty * ty);
  tx = tx * first;
  ty = ty * first;
  const int rounds = std::max(a, b) > 10 * std::min(a, b) ? 3 : 2;
  for (int round = 0; round < rounds; ++round) {
    const N ex = tx * tx * tx * N(c / a);
    const N ey = ty * ty * ty * N(-c / b);
    const N rx = tx * N(a) - ex;
    const N ry = ty * N(b) - ey;
    const N qx = px - ex;
    const N qy = py - ey;
    const N r2 = rx * rx + ry * ry;
    const N times = r2 * inverseRootOf(maxOf(r2, tiny)) * inverseRootOf(maxOf(qx * qx + qy * qy, tiny));
    const N ux = minOf(N(1.0), maxOf(N(1e-6), (qx * times + ex) * N(1 / a)));
    const N uy = minOf(N(1.0), maxOf(N(1e-6), (qy * times + ey) * N(1 / b)));
    const N unit = inverseRootOf(ux * ux + uy * uy);
    tx = ux * unit;
    ty = uy * unit;
  }
  const N away = lengthOf(px - tx * N(a), py - ty * N(b));
  return whereLess(u * u + v * v, N(1.0), N(0.0) - away, away);
}

// Distance to the edge, negative inside, of a place counted from the middle. Exact, but for ellipses with a hard edge: those to first
// order, by the value of (x/a)^2 + (y/b)^2 over its slope.
template <class N>
HWY_INLINE N distanceTo(const OutlineShape& s, N x, N y) {
  N d(0.0);
  switch (s.kind) {
    case OutlineShape::Kind::Rectangle: {
      const N qx = absOf(x) - N(s.a);
      const N qy = absOf(y) - N(s.b);
      const N ox = maxOf(qx, N(0.0));
      const N oy = maxOf(qy, N(0.0));
      d = rootOf(ox * ox + oy * oy) + minOf(maxOf(qx, qy), N(0.0));
      break;
    }
    case OutlineShape::Kind::Circle:
    case OutlineShape::Kind::Dot:
      d = lengthOf(x, y) - N(s.a);
      break;
    case OutlineShape::Kind::Ellipse: {
      // Far from the edge first order is no guess at all.
      if (s.softness > 0) {
        d = s.a == s.b ? lengthOf(x, y) - N(s.a) : ellipseDistance(s.a, s.b, x, y);
        break;
      }
      const N u = x * N(1 / s.a);
      const N v = y * N(1 / s.b);
      const N su = u * N(1 / s.a);
      const N sv = v * N(1 / s.b);
      const N k = rootOf(u * u + v * v);
      d = k * (k - N(1.0)) / maxOf(rootOf(su * su + sv * sv), N(1e-9));
      // The slope is flat in the middle, where the distance is that to the nearer side.
      d = maxOf(d, N(-std::min(s.a, s.b)));
      break;
    }
    case OutlineShape::Kind::Corners:
      d = cornersDistance(s, x, y);
      break;
    case OutlineShape::Kind::Arc:
      d = arcDistance(s, x, y);
      break;
    case OutlineShape::Kind::Drop:
      d = dropDistance(s, x, y);
      break;
    case OutlineShape::Kind::Petal:
      d = petalDistance(s, x, y);
      break;
  }
  d = d - N(s.round);
  if (s.line > 0) d = absOf(d + N(s.line / 2)) - N(s.line / 2);
  return d;
}

// How much of a pixel is covered whose middle is `d` outside of an edge; `pixel` is as wide as it sees it.
template <class N>
HWY_INLINE N coverOf(const OutlineShape& s, N d, N pixel) {
  if (s.kind == OutlineShape::Kind::Dot) {
    const N near = maxOf(N(0.0), N(0.0) - d * N(1 / std::max(1e-9, s.a)));
    return softOf(near);
  }
  if (s.softness <= 0) return minOf(N(1.0), maxOf(N(0.0), N(0.5) - d / pixel));
  // A soft edge narrower than a pixel is a hard one.
  return softOf(N(0.5) - d / maxOf(N(s.softness), pixel));
}

}  // namespace HWY_NAMESPACE
}  // namespace oa
HWY_AFTER_NAMESPACE();
#endif
