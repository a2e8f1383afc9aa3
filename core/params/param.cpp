#include "params/param.h"

#include <algorithm>
#include <cstddef>
#include <cmath>
#include <functional>
#include <numeric>
#include <type_traits>
#include <utility>

#include "base/random.h"
#include "loop/switch.h"

namespace oa {
namespace {

double mixed(double a, double b, double t) { return mix(a, b, t); }
Point mixed(const Point& a, const Point& b, double t) { return {mix(a.x, b.x, t), mix(a.y, b.y, t)}; }
Outline mixed(const Outline& a, const Outline& b, double t) { return mixOutlines(a, b, t); }
Colour mixed(const Colour& a, const Colour& b, double t) { return mixColours(a, b, t, ColourMixing::OkLab); }

double held(const ParamSpec& spec, double v) {
  if (spec.rule != LoopRule::Round) v = std::clamp(v, spec.min, spec.max);
  return spec.isWhole() ? std::round(v) : v;
}
Point held(const ParamSpec& spec, const Point& p) { return {std::clamp(p.x, spec.min, spec.max), std::clamp(p.y, spec.min, spec.max)}; }
const Colour& held(const ParamSpec&, const Colour& c) { return c; }
const Outline& held(const ParamSpec&, const Outline& o) { return o; }

}  // namespace

Item newItem(const ItemsSpec& spec, std::size_t i) {
  Item item;
  std::vector<Value> values;
  for (const ParamSpec& param : spec.params) values.push_back(param.base);
  spec.beginning(i, values);
  for (std::size_t p = 0; p < spec.params.size(); ++p) {
    Param& param = item.params.emplace_back(defaultParam(spec.params[p]));
    param.base = param.motion.far = values[p];
  }
  return item;
}

Param defaultParam(const ParamSpec& spec) {
  Param param;
  param.base = spec.base;
  param.motion.far = spec.base;
  if (spec.defaultLaps != 0) {
    param.motion.kind = MotionKind::Turn;
    param.motion.laps = spec.defaultLaps;
  }
  return param;
}

std::vector<MotionKind> allowedMotions(const ParamSpec& spec) {
  if (!spec.canMove()) return {MotionKind::Still};
  switch (spec.rule) {
    case LoopRule::Round:
      return {MotionKind::Still, MotionKind::Turn,  MotionKind::Swing,  MotionKind::Keyframes, MotionKind::Wander,
              MotionKind::Hops,  MotionKind::Sound, MotionKind::Switch, MotionKind::Follow,    MotionKind::Formula};
    case LoopRule::Progress:
      return {MotionKind::Still, MotionKind::Turn};
    default:
      // An outline goes by its poses: there is no way for it to stray on.
      if (spec.type == ParamType::Outline)
        return {MotionKind::Still, MotionKind::Swing, MotionKind::Keyframes, MotionKind::Sound, MotionKind::Switch, MotionKind::Formula};
      return {MotionKind::Still, MotionKind::Swing,  MotionKind::Keyframes, MotionKind::Wander, MotionKind::Hops,
              MotionKind::Sound, MotionKind::Switch, MotionKind::Follow,    MotionKind::Formula};
  }
}

bool canAddMotions(const ParamSpec& spec) { return spec.canMove() && spec.rule != LoopRule::Progress; }

std::size_t motionCount(const Param& param) { return 1 + param.more.size(); }

const Motion& motionOf(const Param& param, std::size_t i) { return i == 0 ? param.motion : param.more[i - 1]; }

Motion& motionOf(Param& param, std::size_t i) { return i == 0 ? param.motion : param.more[i - 1]; }

Param withMotionAlone(const Param& param, std::size_t i) { return {param.base, motionOf(param, i), {}, {}}; }

bool moves(const Param& param) {
  return param.motion.moves() || std::any_of(param.more.begin(), param.more.end(), [](const Motion& m) { return m.moves(); });
}

std::string_view motionName(MotionKind kind) {
  static constexpr std::string_view kNames[] = {"still", "turn",  "swing",  "keyframes", "wander",
                                                "hops",  "sound", "switch", "follow",    "formula"};
  return kNames[static_cast<std::size_t>(kind)];
}

bool canPass(const ParamSpec& spec) { return spec.canMove() && spec.rule != LoopRule::Progress; }

const FarValue* farValueOf(const Param& param, bool leaving) {
  const auto found = std::find_if(param.away.begin(), param.away.end(), [&](const FarValue& f) { return f.leaving == leaving; });
  return found == param.away.end() ? nullptr : &*found;
}

void setFarValue(Param& param, bool leaving, const std::optional<Value>& value) {
  std::erase_if(param.away, [&](const FarValue& f) { return f.leaving == leaving; });
  if (!value) return;
  // Arriving comes first, so that equal parameters are equal.
  param.away.insert(leaving ? param.away.end() : param.away.begin(), {leaving, *value});
}

int hopCount(const Motion& motion) { return motion.list.empty() ? motion.knots : static_cast<int>(motion.list.size()); }

int ownCount(const Motion& motion) {
  if (motion.kind == MotionKind::Keyframes) return static_cast<int>(motion.keys.size());
  return motion.kind == MotionKind::Hops ? static_cast<int>(motion.list.size()) : 0;
}

const Value& ownValue(const Motion& motion, int i) {
  const auto at = static_cast<std::size_t>(i);
  return motion.kind == MotionKind::Keyframes ? motion.keys[at].value : motion.list[at];
}

Value& ownValue(Motion& motion, int i) { return const_cast<Value&>(ownValue(std::as_const(motion), i)); }

double ownPlace(const Motion& motion, int i) {
  if (motion.kind == MotionKind::Keyframes) return motion.keys[static_cast<std::size_t>(i)].at;
  return (i + 0.5) / static_cast<double>(motion.list.size());
}

void placeKeyframe(Motion& motion, Keyframe key) {
  key.at = fract(key.at);
  std::erase_if(motion.keys, [&](const Keyframe& k) { return std::abs(k.at - key.at) < 1e-9; });
  const auto after = std::find_if(motion.keys.begin(), motion.keys.end(), [&](const Keyframe& k) { return k.at > key.at; });
  motion.keys.insert(after, std::move(key));
}

namespace {

bool leads(const ParamSpec& spec, const Param& param, const Motion& motion) {
  switch (motion.kind) {
    case MotionKind::Still:
      return false;
    case MotionKind::Keyframes:
      return std::any_of(motion.keys.begin(), motion.keys.end(), [&](const Keyframe& k) { return k.value != motion.keys.front().value; });
    case MotionKind::Hops:
      if (!motion.list.empty())
        return std::any_of(motion.list.begin(), motion.list.end(), [&](const Value& v) { return v != motion.list.front(); });
      return motion.knots > 1 && motion.far != param.base;
    case MotionKind::Swing:
    case MotionKind::Wander:
    case MotionKind::Sound:
    case MotionKind::Switch:
      return motion.far != param.base;
    case MotionKind::Formula:
      return motion.far != param.base && motion.formula.most() > 0;
    case MotionKind::Follow: {
      const Leader* leader = motion.bound.leader.get();
      return leader && motion.scale != 0 && reallyMoves(*leader->spec, leader->param);
    }
    case MotionKind::Turn:
      break;
  }
  // A turn of nothing (no churn, no travel) stays where it is.
  if (spec.rule != LoopRule::Progress) return true;
  if (const auto* number = std::get_if<double>(&param.base)) return *number != 0;
  return std::get<Point>(param.base) != Point{};
}

}  // namespace

bool reallyMoves(const ParamSpec& spec, const Param& param) {
  if (spec.rule == LoopRule::Held) return std::get<double>(param.base) > 0;
  return leads(spec, param, param.motion) ||
         std::any_of(param.more.begin(), param.more.end(), [&](const Motion& m) { return leads(spec, param, m); });
}

bool followsSound(const Motion& motion) {
  return motion.kind == MotionKind::Sound || (motion.kind == MotionKind::Switch && motion.over > 0);
}

bool keepsTime(const Motion& motion) { return motion.kind != MotionKind::Follow && !followsSound(motion); }

// The scene's sound goes by once, and so does what another value does.
std::int64_t lapsOf(const Motion& motion) { return keepsTime(motion) ? motion.laps : 1; }

bool canFollow(const ParamSpec& spec, const ParamSpec& leader) {
  const auto free = [](const ParamSpec& s) {
    return s.canMove() && s.type != ParamType::Outline && (s.rule == LoopRule::Free || s.rule == LoopRule::Round);
  };
  // What turns can only turn others: elsewhere it would jump where a turn is full.
  return free(spec) && free(leader) && spec.base.index() == leader.base.index() &&
         (leader.rule != LoopRule::Round || spec.rule == LoopRule::Round);
}

std::int64_t lapsOf(const ParamSpec& spec, const Param& param) {
  // A row of stills is as long as the loop.
  if (spec.rule == LoopRule::Held) return reallyMoves(spec, param) ? 1 : 0;
  std::int64_t common = 0;
  for (std::size_t i = 0; i < motionCount(param); ++i) {
    const Motion& motion = motionOf(param, i);
    if (!leads(spec, param, motion)) continue;
    const Leader* leader = motion.kind == MotionKind::Follow ? motion.bound.leader.get() : nullptr;
    common = std::gcd(common, leader ? lapsOf(*leader->spec, leader->param) : lapsOf(motion));
  }
  return common;
}

namespace {

template <class T>
T keyframesAt(const Motion& motion, const T& base, double u) {
  if (motion.keys.empty()) return base;
  const std::size_t n = motion.keys.size();
  // The stretch that holds u: from the last keyframe at or before it; before the first one, the closing stretch.
  std::size_t from = n - 1;
  for (std::size_t i = 0; i < n && motion.keys[i].at <= u; ++i) from = i;
  const Keyframe& a = motion.keys[from];
  const Keyframe& b = motion.keys[from + 1 < n ? from + 1 : 0];
  if (a.hold || n == 1) return std::get<T>(a.value);
  const double length = fract(b.at - a.at);
  return mixed(std::get<T>(a.value), std::get<T>(b.value), length > 0 ? a.pace.at(fract(u - a.at) / length) : 0);
}

// Places and numbers go to both sides of their base, each part by a height of its own; colours go one way.
template <class Height>
double spreadTo(double base, double far, const Height& height) {
  return base + (far - base) * (2 * height(0) - 1);
}
template <class Height>
Point spreadTo(const Point& base, const Point& far, const Height& height) {
  return {base.x + (far.x - base.x) * (2 * height(0) - 1), base.y + (far.y - base.y) * (2 * height(1) - 1)};
}
template <class Height>
Colour spreadTo(const Colour& base, const Colour& far, const Height& height) {
  return mixed(base, far, std::clamp(height(0), 0.0, 1.0));
}

template <class Height>
Outline spreadTo(const Outline& base, const Outline&, const Height&) {
  return base;
}

// How far a switch is on.
double switchHeight(const Motion& motion, double u, const SoundLevels* levels) {
  const Flicker flicker{motion.flicker, motion.knots, mix64(static_cast<std::uint64_t>(motion.seed) * 4)};
  if (motion.over <= 0) return switchAt(motion.shares, flicker, u);
  return levels ? switchedBy(levels->at(motion.band, u), motion.over, flicker, u) : 0;
}

template <class T>
T followedTo(const ParamSpec& spec, const T& base, const Motion& motion, double u, const SoundLevels* levels);

// The value that a motion leads to from `base` with a share `u` of its lap behind it, before it is held within its range.
template <class T>
T movedTo(const ParamSpec& spec, const T& base, const Motion& motion, double u, const SoundLevels* levels) {
  const auto seed = [&](std::uint64_t part) { return mix64(static_cast<std::uint64_t>(motion.seed) * 4 + part); };
  switch (motion.kind) {
    case MotionKind::Swing:
      return mixed(base, std::get<T>(motion.far), swingAt(motion.shape, motion.shares, motion.pace.at(u)));
    case MotionKind::Keyframes:
      return keyframesAt(motion, base, u);
    case MotionKind::Wander:
      return spreadTo(base, std::get<T>(motion.far), [&](std::uint64_t part) { return wanderAt(seed(part), motion.knots, u); });
    case MotionKind::Hops: {
      const int index = hopAt(hopCount(motion), u);
      if (!motion.list.empty()) return std::get<T>(motion.list[static_cast<std::size_t>(index)]);
      return spreadTo(base, std::get<T>(motion.far), [&](std::uint64_t part) { return hopHeight(seed(part), motion.knots, index); });
    }
    case MotionKind::Sound:
      return levels ? mixed(base, std::get<T>(motion.far), levels->at(motion.band, u)) : base;
    case MotionKind::Switch:
      return mixed(base, std::get<T>(motion.far), switchHeight(motion, u, levels));
    case MotionKind::Formula:
      return mixed(base, std::get<T>(motion.far), motion.formula.at(u));
    case MotionKind::Follow:
      return followedTo(spec, base, motion, u, levels);
    case MotionKind::Still:
    case MotionKind::Turn:
      break;
  }
  return base;
}

// `value` and how far `led` lies from `base`. Colours add up in OKLab, where steps are even to the eye.
double added(double value, double base, double led) { return value + (led - base); }
Point added(const Point& value, const Point& base, const Point& led) { return {value.x + (led.x - base.x), value.y + (led.y - base.y)}; }
Colour added(const Colour& value, const Colour& base, const Colour& led) {
  const OkLab from = toOkLab(base);
  const OkLab to = toOkLab(led);
  OkLab lab = toOkLab(value);
  lab = {lab.L + to.L - from.L, lab.a + to.a - from.a, lab.b + to.b - from.b};
  Colour sum = fromOkLab(lab);
  sum.a = std::clamp(value.a + led.a - base.a, 0.0f, 1.0f);
  return sum;
}

Outline added(const Outline& value, const Outline& base, const Outline& led) { return addOutlines(value, base, led); }

// `value` and so many times what lies between `base` and `led`.
double addedTimes(double value, double base, double led, double times) { return value + times * (led - base); }
Point addedTimes(const Point& value, const Point& base, const Point& led, double times) {
  return {addedTimes(value.x, base.x, led.x, times), addedTimes(value.y, base.y, led.y, times)};
}
Colour addedTimes(const Colour& value, const Colour& base, const Colour& led, double times) {
  return added(value, base, mixColours(base, led, times, ColourMixing::OkLab));
}
Outline addedTimes(const Outline& value, const Outline&, const Outline&, double) { return value; }

// How far a step of what is followed is here: the same in the same unit, else as much of the range.
double followRatio(const ParamSpec& spec, const ParamSpec& leader) {
  if (spec.unit == leader.unit && spec.unit != Unit::None) return 1;
  const double range = leader.high() - leader.low();
  return &spec == &leader || range <= 0 ? 1 : (spec.high() - spec.low()) / range;
}

// All that is followed does from its own base value on, so many times. A share of the loop is behind it. What turns is turned by whole
// numbers, or it would not close.
template <class T>
T followedTo(const ParamSpec& spec, const T& base, const Motion& motion, double u, const SoundLevels* levels) {
  const Leader* leader = motion.bound.leader.get();
  if (!leader) return base;
  const T* from = std::get_if<T>(&leader->param.base);
  if (!from) return base;
  // As it is shown: its own range holds it.
  T value = *from;
  bool first = true;
  double turned = 0;
  for (std::size_t i = 0; i < motionCount(leader->param); ++i) {
    const Motion& led = motionOf(leader->param, i);
    // Rounded up a little, so that what hops does so in the same frame.
    const double done = fract(u * static_cast<double>(lapsOf(led)) + led.start + 1e-10);
    if (led.kind == MotionKind::Turn) {
      turned += led.pace.at(done);
    } else if (led.moves()) {
      const T there = movedTo(*leader->spec, *from, led, done, levels);
      value = first ? there : added(value, *from, there);
      first = false;
    }
  }
  T sum = addedTimes(base, *from, held(*leader->spec, value), motion.scale * followRatio(spec, *leader->spec));
  if constexpr (std::is_same_v<T, double>)
    return sum + 360 * std::round(motion.scale) * turned;
  else
    return sum;
}

// Calls `with` for the kind of value that this is; of kinds that cannot move the value comes back.
template <class With>
Value forKind(const Value& base, const With& with) {
  if (const auto* number = std::get_if<double>(&base)) return with(*number);
  if (const auto* point = std::get_if<Point>(&base)) return with(*point);
  if (const auto* colour = std::get_if<Colour>(&base)) return with(*colour);
  if (const auto* outline = std::get_if<Outline>(&base)) return with(*outline);
  return base;
}

double plainHeight(const Value& value) {
  if (const auto* number = std::get_if<double>(&value)) return *number;
  if (const auto* point = std::get_if<Point>(&value)) return point->x;
  if (const auto* colour = std::get_if<Colour>(&value)) return toOkLab(*colour).L;
  if (const auto* outline = std::get_if<Outline>(&value)) {
    // How far out it goes, all in all.
    double sum = 0;
    for (const OutlinePoint& p : outline->points) sum += std::hypot(p.at.x, p.at.y);
    return outline->points.empty() ? 0 : sum / static_cast<double>(outline->points.size());
  }
  return 0;
}

}  // namespace

namespace {

// All motions together where each has done `shareOf` of its lap. Turns of round values go on and on.
template <class T, class ShareOf>
T sumOf(const ParamSpec& spec, const Param& param, const T& base, const ShareOf& shareOf, const SoundLevels* levels, double& turned) {
  // Mostly there is one.
  if (param.more.empty() && param.motion.moves() && param.motion.kind != MotionKind::Turn)
    return held(spec, movedTo(spec, base, param.motion, shareOf(param.motion), levels));
  T sum = base;
  bool first = true;
  for (std::size_t i = 0; i < motionCount(param); ++i) {
    const Motion& motion = motionOf(param, i);
    if (!motion.moves()) continue;
    const double u = shareOf(motion);
    if (motion.kind == MotionKind::Turn) {
      turned += motion.pace.at(u);
      continue;
    }
    const T led = movedTo(spec, base, motion, u, levels);
    sum = first ? led : added(sum, base, led);
    first = false;
  }
  return held(spec, sum);
}

template <class ShareOf>
Value summed(const ParamSpec& spec, const Param& param, const ShareOf& shareOf, const SoundLevels* levels) {
  double turned = 0;
  if (const auto* number = std::get_if<double>(&param.base)) {
    const double sum = sumOf(spec, param, *number, shareOf, levels, turned);
    return turned != 0 ? sum + 360 * turned : sum;
  }
  return forKind(param.base, [&](const auto& base) -> Value { return sumOf(spec, param, base, shareOf, levels, turned); });
}

}  // namespace

ValueAt evaluate(const ParamSpec& spec, const Param& param, const Moment& at) { return evaluate(spec, param, at, {}); }

namespace {

// Something between a value of its own and that of the loop. What turns goes on turning all the while: were it mixed, it would jump
// where a turn is full.
template <class T>
T between(const ParamSpec& spec, const T& base, const T& far, const T& value, double there) {
  if (there == 1) return value;
  if constexpr (std::is_same_v<T, double>)
    if (spec.rule == LoopRule::Round) return value + (far - base) * (1 - there);
  return mixed(far, value, there);
}

// The value on its way from where it arrives, or to where it leaves to.
template <class T>
T passed(const ParamSpec& spec, const Param& param, const T& value, const Moment& at, const Piece& piece) {
  const T base = std::get<T>(param.base);
  T now = value;
  if (const FarValue* far = at.passes->arrive ? farValueOf(param, false) : nullptr)
    now = between(spec, base, std::get<T>(far->value), now, arrived(*at.passes->arrive, at.since, piece));
  if (const FarValue* far = at.passes->leave ? farValueOf(param, true) : nullptr)
    now = between(spec, base, std::get<T>(far->value), now, staying(*at.passes->leave, at.left, piece));
  return held(spec, now);
}

bool passes(const Param& param, const Moment& at) { return !param.away.empty() && at.passing(); }

// Values lie side by side, each over many cache lines of which few are looked at: the next one is mostly wanted next.
void fetchNext(const Param& param) {
  constexpr std::size_t kLine = 64;
  constexpr std::size_t kMotion = offsetof(Param, motion);
  const auto* const next = reinterpret_cast<const char*>(&param + 1);
  for (const std::size_t at : {offsetof(Param, base), kMotion, kMotion + offsetof(Motion, pace) + kLine, kMotion + offsetof(Motion, far),
                               kMotion + offsetof(Motion, keys), offsetof(Param, more), offsetof(Param, away)})
    __builtin_prefetch(next + at);
}

// How far a motion's lap is done.
auto lapOf(const Moment& at, const LapShift& shift) {
  return [&at, &shift](const Motion& m) { return lapPhase(at, followsSound(m) ? 1 : lapsOf(m) * shift.times, m.start + shift.start); };
}

}  // namespace

double numberAt(const ParamSpec& spec, const Param& param, const Moment& at, const LapShift& shift) {
  const double base = std::get<double>(param.base);
  double value = base;
  // The first one mostly does: that is known without a call.
  if (param.motion.moves() || moves(param)) {
    double turned = 0;
    value = sumOf(spec, param, base, lapOf(at, shift), at.levels, turned);
    if (turned != 0) value += 360 * turned;
  }
  return passes(param, at) ? passed(spec, param, value, at, shift.piece) : value;
}

ValueAt evaluate(const ParamSpec& spec, const Param& param, const Moment& at, const LapShift& shift) {
  fetchNext(param);
  const Motion& motion = param.motion;
  const auto done = lapOf(at, shift);
  if (spec.rule == LoopRule::Held) {
    const double frames = std::get<double>(param.base);
    return {param.base, frames > 0 ? std::floor(static_cast<double>(floorMod(at.frame, at.frames)) / frames) : 0};
  }
  if (spec.rule == LoopRule::Progress) return {param.base, motion.moves() ? motion.pace.at(done(motion)) : 0};
  // Most are numbers.
  if (std::holds_alternative<double>(param.base)) return {numberAt(spec, param, at, shift), 0};
  Value value = moves(param) ? summed(spec, param, done, at.levels) : param.base;
  if (passes(param, at)) value = forKind(value, [&](const auto& now) -> Value { return passed(spec, param, now, at, shift.piece); });
  return {std::move(value), 0};
}

namespace {

double sizeOf(const Value& value) {
  if (const auto* number = std::get_if<double>(&value)) return *number;
  if (const auto* point = std::get_if<Point>(&value)) return std::hypot(point->x, point->y);
  return 0;
}

}  // namespace

namespace {

double apart(const Value& a, const Value& b) {
  if (const auto* p = std::get_if<Point>(&a)) return std::hypot(p->x - std::get<Point>(b).x, p->y - std::get<Point>(b).y);
  return std::abs(sizeOf(a) - sizeOf(b));
}

// How far what a motion follows leads away from the value at most.
double followReach(const ParamSpec& spec, const Motion& motion) {
  const Leader* leader = motion.kind == MotionKind::Follow ? motion.bound.leader.get() : nullptr;
  if (!leader) return 0;
  double reach = 0;
  for (std::size_t i = 0; i < motionCount(leader->param); ++i) {
    const Motion& led = motionOf(leader->param, i);
    double away = followReach(*leader->spec, led);
    for (const Keyframe& key : led.keys) away = std::max(away, apart(key.value, leader->param.base));
    for (const Value& value : led.list) away = std::max(away, apart(value, leader->param.base));
    if (led.moves()) away = std::max(away, apart(led.far, leader->param.base));
    reach += away * (led.kind == MotionKind::Wander ? 1.3 : led.kind == MotionKind::Formula ? led.formula.most() : 1);
  }
  return reach * std::abs(motion.scale) * followRatio(spec, *leader->spec);
}

}  // namespace

double mostOf(const ParamSpec& spec, const Param& param) {
  const double base = sizeOf(param.base);
  double most = base;
  for (std::size_t i = 0; i < motionCount(param); ++i) {
    const Motion& motion = motionOf(param, i);
    double away = 0;
    const auto count = [&](const Value& value) { away = std::max(away, std::abs(sizeOf(value) - base)); };
    for (const Keyframe& key : motion.keys) count(key.value);
    for (const Value& value : motion.list) count(value);
    if (motion.moves()) count(motion.far);
    // Between its knots a walk goes a little beyond.
    const double beyond = motion.kind == MotionKind::Wander ? 1.3 : motion.kind == MotionKind::Formula ? motion.formula.most() : 1;
    most += motion.kind == MotionKind::Follow ? followReach(spec, motion) : beyond * away;
  }
  return std::holds_alternative<Point>(param.base) ? most : std::min(most, spec.max);
}

Value valueOnLap(const ParamSpec& spec, const Param& param, double u, const SoundLevels* levels) {
  return forKind(param.base, [&](const auto& base) -> Value { return held(spec, movedTo(spec, base, param.motion, u, levels)); });
}

void listHops(const ParamSpec& spec, const Param& param, Motion& motion) {
  const int count = std::max(2, hopCount(param.motion));
  motion.list.clear();
  for (int i = 0; i < count; ++i) motion.list.push_back(valueOnLap(spec, param, (i + 0.5) / count));
}

double curveHeight(const ParamSpec& spec, const Param& param, double lapShare, const SoundLevels* levels) {
  const Motion& motion = param.motion;
  const auto* number = std::get_if<double>(&param.base);
  if (!motion.moves()) return number && spec.rule != LoopRule::Progress ? *number : 0;
  const double u = fract(lapShare + motion.start);
  if (motion.kind == MotionKind::Switch && !number) return switchHeight(motion, u, levels);
  if (motion.kind == MotionKind::Formula && !number) return motion.formula.at(u);
  if (motion.kind == MotionKind::Sound && !number) return levels ? levels->at(motion.band, u) : 0;
  if (motion.kind == MotionKind::Swing && !number) return swingAt(motion.shape, motion.shares, motion.pace.at(u));
  if (motion.kind != MotionKind::Turn) return plainHeight(valueOnLap(spec, param, u, levels));
  const double done = motion.pace.at(u);
  if (spec.rule == LoopRule::Round) return *number + 360 * done;
  return number ? *number * done : done;
}

double sumHeight(const ParamSpec& spec, const Param& param, double loopShare, const SoundLevels* levels) {
  if (param.more.empty()) return curveHeight(spec, param, loopShare * static_cast<double>(lapsOf(param.motion)), levels);
  return plainHeight(summed(
      spec, param, [&](const Motion& m) { return fract(loopShare * static_cast<double>(lapsOf(m)) + m.start); }, levels));
}

}  // namespace oa
