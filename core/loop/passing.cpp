#include "loop/passing.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "base/numbers.h"
#include "base/random.h"
#include "loop/phase.h"

namespace oa {
namespace {

// Each is 0 at 0 and 1 at 1, where its slope is 0.
double paced(PassPace pace, double u) {
  const double left = 1 - u;
  switch (pace) {
    case PassPace::Soft:
      return u * u * u * (10 - u * (15 - 6 * u));
    case PassPace::Glide:
      return 1 - left * left * left;
    case PassPace::Heavy:
      return 1 - left * left * left * left * left;
    case PassPace::Spring:
      return 1 - left * left * left * left * left * std::cos(u * 4 * std::numbers::pi);
  }
  return u;
}

// Rises and falls again, flat at both ends, 1 at its highest (u = 0.6).
double beyond(double u) { return u * u * u * (1 - u) * (1 - u) / (0.6 * 0.6 * 0.6 * 0.4 * 0.4); }

// When a piece begins, 0 for the first and 1 for the last.
double turnOf(const Passing& p, const Piece& piece) {
  if (piece.count < 2) return 0;
  const double last = static_cast<double>(piece.count - 1);
  const double along = static_cast<double>(piece.index) / last;
  switch (p.order) {
    case PassOrder::Forwards:
      return along;
    case PassOrder::Backwards:
      return 1 - along;
    case PassOrder::FromMiddle:
      return std::abs(2 * along - 1);
    case PassOrder::Random:
      return randomUnit(mix64(p.seed), piece.index);
  }
  return along;
}

double shareOf(const Passing& p, double gone, const Piece& piece) {
  const double lasts = std::max(1e-6, p.lasts);
  // So many times its own time lies between the beginnings of the first and the last.
  const double spread = p.by == PassBy::Whole || piece.count < 2 ? 0 : static_cast<double>(piece.count - 1) * (1 - p.overlap);
  const double own = lasts / (1 + spread);
  return std::clamp((gone - p.delay - turnOf(p, piece) * (lasts - own)) / own, 0.0, 1.0);
}

double wayGone(const Passing& p, double u) {
  if (u <= 0) return 0;
  if (u >= 1) return 1;
  return paced(p.pace, u) + (p.pace == PassPace::Spring ? 0 : p.overshoot * 0.5 * beyond(u));
}

}  // namespace

double arrived(const Passing& p, double gone, const Piece& piece) { return wayGone(p, shareOf(p, gone, piece)); }

double staying(const Passing& p, double gone, const Piece& piece) { return wayGone(p, 1 - shareOf(p, gone, piece)); }

std::string_view passPaceName(PassPace pace) {
  static constexpr std::array<std::string_view, 4> kNames{"soft", "glide", "heavy", "spring"};
  return kNames[static_cast<std::size_t>(pace)];
}

double thereOf(const Moment& at, const Piece& piece) {
  if (!at.passing()) return 1;
  double there = 1;
  if (at.passes->arrive) there *= arrived(*at.passes->arrive, at.since, piece);
  if (at.passes->leave) there *= staying(*at.passes->leave, at.left, piece);
  return there;
}

namespace {

Passed passedAt(const Moment& at, bool pieces, const Piece& piece) {
  Passed sum;
  if (!at.passing()) return sum;
  const auto add = [&](const Passing& p, double there) {
    if ((p.by != PassBy::Whole) != pieces) return;
    sum.there *= there;
    const double away = 1 - there;
    if (p.fades) sum.opacity *= std::clamp(there, 0.0, 1.0);
    if (p.from == PassFrom::Beside) {
      const double angle = p.direction * std::numbers::pi / 180;
      sum.offset.x += std::cos(angle) * p.distance * away;
      sum.offset.y += std::sin(angle) * p.distance * away;
    }
    sum.size *= std::max(0.0, mix(1.0, p.size, away));
    sum.turn += p.turn * away;
    if (pieces) sum.blur += p.blur * std::max(0.0, away);
  };
  if (at.passes->arrive) add(*at.passes->arrive, arrived(*at.passes->arrive, at.since, piece));
  if (at.passes->leave) add(*at.passes->leave, staying(*at.passes->leave, at.left, piece));
  return sum;
}

}  // namespace

Passed passedWhole(const Moment& at) { return passedAt(at, false, {}); }

Passed passedPiece(const Moment& at, const Piece& piece) { return passedAt(at, true, piece); }

}  // namespace oa
