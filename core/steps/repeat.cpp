// Repeat: stamps, spread over the plane, each copy a little different and in its own time.
#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <numbers>
#include <string>
#include <type_traits>
#include <vector>

#include "base/numbers.h"
#include "base/parallel.h"
#include "base/random.h"
#include "fields/layer_lightness.h"
#include "image/colour.h"
#include "shapes/line_order.h"
#include "shapes/marks.h"
#include "shapes/premultiplied.h"
#include "shapes/ready_repeats.h"
#include "shapes/repeat_places.h"
#include "shapes/repeat_params.h"
#include "shapes/spread.h"
#include "shapes/stamps.h"
#include "steps/step.h"

namespace oa {
namespace {

enum class Order { Together, Random, InOrder, Rows, Columns, Outwards, Lightness, AlongLine };

Order orderFromName(std::string_view name) {
  constexpr std::string_view kNames[] = {"together", "random", "in order", "rows", "columns", "outwards", "lightness", kAlongALine};
  return static_cast<Order>(std::find(std::begin(kNames), std::end(kNames), name) - std::begin(kNames));
}

// Where a copy comes in an order, [0, 1); `stream` tells random ones apart.
double shareIn(Order order, const Copy& copy, std::uint64_t seed, std::uint64_t stream) {
  switch (order) {
    case Order::Together:
      return 0;
    case Order::Random:
      return randomUnit(mix64(seed * 16 + stream), copy.id());
    case Order::InOrder:
      return copy.along;
    case Order::Rows:
      return copy.row;
    case Order::Columns:
      return copy.column;
    case Order::Outwards:
      return copy.outwards;
    case Order::Lightness:
    case Order::AlongLine:
      break;  // by what others say of its place: see Repeat::share()
  }
  return 0;
}

MarkBlend blendFromName(std::string_view name) {
  return name == "add" ? MarkBlend::Add : name == "lighter" ? MarkBlend::Lighter : MarkBlend::Over;
}

// Pieces that lie over each other would show where they do.
Colour opaque(Colour colour) {
  colour.a = 1;
  return colour;
}

// A parameter of a stamp of which each copy has a value of its own: looked up only where it moves.
template <class T>
class OwnValue {
 public:
  OwnValue(const Values& values, std::string_view id)
      : index_(values.index(id)), moving_(values.moving(index_)), here_(std::get<T>(values.here(index_).value)) {}
  [[nodiscard]] bool moving() const { return moving_; }
  [[nodiscard]] T at(const Values& values, const LapShift& shift) const {
    if (!moving_) return here_;
    if constexpr (std::is_same_v<T, double>)
      return values.shiftedNumber(index_, shift);
    else
      return std::get<T>(values.shifted(index_, shift).value);
  }

 private:
  std::size_t index_;
  bool moving_;
  T here_;
};

struct OwnValues {
  explicit OwnValues(const Values& v)
      : colour(v, "colour"), size(v, "size"), turn(v, "turn"), opacity(v, "opacity"), other(v, "other"), offset(v, "offset") {
    moving = colour.moving() || size.moving() || turn.moving() || opacity.moving() || other.moving() || offset.moving();
  }
  OwnValue<Colour> colour;
  OwnValue<double> size, turn, opacity;
  OwnValue<Colour> other;
  OwnValue<Point> offset;
  bool moving = false;
};

// All that is painted of a repeat at one moment.
struct Painted {
  std::vector<MarkShape> shapes;
  Marks marks;
  SecondColours seconds;
  MarkBlend blend = MarkBlend::Over;
};

class Repeat {
 public:
  Repeat(const StepContext& context, const Input* layer)
      : context_(context),
        differ_(orderFromName(context.choice("differ"))),
        order_(orderFromName(context.choice("order"))),
        ahead_(context.number("ahead")),
        faster_(context.integer("faster")),
        sizeBy_(context.number("sizeBy")),
        turnBy_(context.number("turnBy")),
        opacityBy_(context.number("opacityBy")),
        colourBy_(context.number("colourBy")),
        towards_(context.colour("towards")),
        scatter_(context.number("scatter")),
        nth_(context.integer("nth")),
        nthSize_(context.number("nthSize")),
        nthColour_(context.colour("nthColour")),
        thinned_(context.number("thinned")),
        keepOut_(keepOutOf(context)),
        pickAtRandom_(context.choice("pick") == "random"),
        seed_(static_cast<std::uint64_t>(context.number("seed"))),
        columns_(context.choice("spread") == "columns"),
        singles_(context.copies("singles")) {
    const double larger = std::exp2(std::abs(context.most("sizeBy"))) * (nth_ > 0 ? std::max(1.0, context.most("nthSize")) : 1);
    for (const Values& item : context.items()) {
      const double grown = item.most("size") / std::max(1e-3, item.baseNumber("size"));
      Stamp& stamp = stamps_.emplace_back(item, context.view(), layer, std::max(1.0, grown) * larger);
      own_.emplace_back(item);
      stamp.addShapes(painted_.shapes, faster_ + 1, faster_ > 0 || (order_ != Order::Together && ahead_ != 0));
      margin_ = std::max(margin_, stamp.reach() * std::max(1.0, grown) * larger + item.most("offset"));
      shares_ += std::max(0.0, item.number("share"));
    }
    margin_ += context.most("scatter") + context.most("sway");
    painted_.blend = blendFromName(context.choice("blend"));
    if (thinned_ > 0 || order_ == Order::Lightness || differ_ == Order::Lightness) lightness_ = LayerLightness(layer, context.view());
    if (order_ == Order::AlongLine) line_ = LineOrder(context.outline("startLine"), framePoint(context, "centre"));
    back_ = order_ != Order::Together && context.toggle("startsBack");
    if (columns_) measureColumns();
    if (stamps_.size() > 1 && !pickAtRandom_) takeTurns();
  }

  // Where the copies lie that can be taken hold of: those in sight, with those left out.
  std::vector<CopyPlace> places() && {
    const SpreadSettings settings = laidOut();
    const CopyMaker copies = copyMaker(settings);
    std::vector<CopyPlace> list;
    for (std::size_t i = 0; i < copies.count && list.size() < kMostPlaces; ++i) {
      const Copy copy = copies.at(i);
      if (leftOf(copy) <= 0) continue;
      const Own o = ownOf(copy);
      const MarkShape& shape = painted_.shapes[stamps_[o.which].shape(o.shift)];
      const double plain = stamps_[o.which].baseSize() / 2;
      CopyPlace place{copy.key, o.at, o.turn, shape.halfWidth, shape.halfHeight, o.change && o.change->out};
      if (!(place.halfWidth > 0)) place.halfWidth = place.halfHeight = plain;
      place.halfWidth *= o.size;
      place.halfHeight *= o.size;
      const double far = std::hypot(place.halfWidth, place.halfHeight);
      if (o.at.x + far < 0 || o.at.y + far < 0 || o.at.x - far > settings.frame.x || o.at.y - far > settings.frame.y) continue;
      list.push_back(place);
    }
    return list;
  }

  Painted paint() && {
    const SpreadSettings settings = laidOut();
    const CopyMaker copies = copyMaker(settings);
    drawThreads(settings);
    const std::size_t first = painted_.marks.size();
    painted_.marks.resize(first + copies.count);
    Mark* const marks = painted_.marks.data() + first;
    if (std::any_of(stamps_.begin(), stamps_.end(), [](const Stamp& stamp) { return stamp.graded(); }))
      painted_.seconds.resize(painted_.marks.size());
    std::array<float, 4>* const seconds = painted_.seconds.empty() ? nullptr : painted_.seconds.data() + first;
    constexpr int kAtOnce = 512;
    parallelBands(
        static_cast<int>(copies.count),
        [&](int from, int to) {
          std::array<float, 4> none{};
          for (auto i = static_cast<std::size_t>(from); i < static_cast<std::size_t>(to); ++i) {
            marks[i] = Mark{};
            if (!place(marks[i], seconds ? seconds[i] : none, copies.at(i))) marks[i] = Mark{};
          }
        },
        kAtOnce);
    return std::move(painted_);
  }

 private:
  static constexpr std::size_t kMostPlaces = 20000;

  SpreadSettings laidOut() {
    const SpreadSettings settings = spreadOf(context_, margin_);
    return settings.kind == SpreadKind::Passing ? passingWhole(settings) : settings;
  }

  // The lines that copies hang on, below them: piece by piece, round where pieces meet.
  void drawThreads(const SpreadSettings& settings) {
    const double thick = context_.number("thread");
    if (thick <= 0) return;
    const std::array<float, 4> colour = premultiplied(opaque(context_.colour("threadColour")), 1);
    for (const auto& line : spreadLines(settings))
      for (std::size_t i = 0; i + 1 < line.size(); ++i) {
        const Point along{line[i + 1].x - line[i].x, line[i + 1].y - line[i].y};
        MarkShape piece;
        piece.outline.round = thick / 2;
        piece.outline.a = std::hypot(along.x, along.y) / 2;
        piece.outline.b = 0;
        piece.halfWidth = piece.outline.a + thick / 2;
        piece.halfHeight = thick / 2;
        Mark mark;
        float fainter = 1;
        const Point middle{(line[i].x + line[i + 1].x) / 2, (line[i].y + line[i + 1].y) / 2};
        const double turn = std::atan2(along.y, along.x) * (180 / std::numbers::pi);
        if (!placeMark(mark, piece, {middle, turn}, context_.view(), fainter)) continue;
        mark.shape = static_cast<std::uint32_t>(painted_.shapes.size());
        painted_.shapes.push_back(piece);
        for (std::size_t c = 0; c < 4; ++c) mark.colour[c] = colour[c] * fainter;
        painted_.marks.push_back(mark);
      }
  }

  // What passes grows until it has left the frame, however large the stamp is.
  SpreadSettings passingWhole(SpreadSettings settings) {
    const double far = std::hypot(std::max(settings.centre.x, settings.frame.x - settings.centre.x),
                                  std::max(settings.centre.y, settings.frame.y - settings.centre.y));
    double least = 1e30;
    for (const Values& item : context_.items()) least = std::min(least, std::max(1e-3, item.baseNumber("size")) / 2);
    grown_ = 1.15 * far / least;
    return settings;
  }

  // Which stamp comes when, each as often as its share says and as evenly as can be: who has waited for most comes next.
  void takeTurns() {
    constexpr std::size_t kTurns = 5040;  // a multiple of all small counts
    std::vector<double> waiting(stamps_.size(), 0);
    for (std::size_t i = 0; i < kTurns; ++i) {
      for (std::size_t k = 0; k < stamps_.size(); ++k) waiting[k] += std::max(0.0, stamps_[k].values().number("share"));
      const auto next = static_cast<std::size_t>(std::max_element(waiting.begin(), waiting.end()) - waiting.begin());
      waiting[next] -= shares_;
      turns_.push_back(static_cast<std::uint16_t>(next));
    }
  }

  // Up to where each column is lit now, and the highest it was at lately.
  void measureColumns() {
    const std::size_t level = context_.index("level");
    const double held = context_.number("held");
    constexpr int kLooks = 24;
    for (int i = 0; i < kColumnSteps; ++i) {
      const LapShift shift{i * ahead_ / kColumnSteps, 1};
      const auto levelAt = [&](double before) {
        if (!context_.moving(level)) return context_.number("level");
        return std::get<double>(context_.shifted(level, {shift.start - before, 1}).value);
      };
      levels_[static_cast<std::size_t>(i)] = levelAt(0);
      double peak = levelAt(0);
      for (int k = 1; held > 0 && k <= kLooks; ++k) peak = std::max(peak, levelAt(held * k / kLooks));
      peaks_[static_cast<std::size_t>(i)] = peak;
    }
    peaksShown_ = held > 0;
    faint_ = context_.number("faint");
  }

  // How far a segment is lit.
  [[nodiscard]] double litness(const Copy& copy) const {
    const double own = order_ == Order::Together ? 0 : order_ == Order::Random ? randomUnit(seed_ * 16 + 9, columnOf(copy)) : copy.column;
    const auto at = static_cast<std::size_t>(own * kColumnSteps) % kColumnSteps;
    const double segments = std::max(2.0, segmentsOf());
    const double here = copy.row * (segments - 1);
    const double lit = std::clamp(levels_[at] * segments - here, 0.0, 1.0);
    const double peak = peaksShown_ && std::ceil(peaks_[at] * segments - 1e-6) - 1 == std::round(here) ? 0.85 : 0;
    return std::max({lit, peak, faint_});
  }
  [[nodiscard]] static std::uint64_t columnOf(const Copy& copy) { return static_cast<std::uint64_t>(std::lround(copy.column * 4096)); }
  [[nodiscard]] double segmentsOf() const {
    const int rows = context_.integer("rows");
    return rows > 0 ? rows : 12;
  }

  [[nodiscard]] std::size_t stampOf(const Copy& copy) const {
    if (stamps_.size() == 1) return 0;
    if (!pickAtRandom_) return turns_[copy.number % turns_.size()];
    double at = randomUnit(mix64(seed_ * 16 + 1), copy.id()) * shares_;
    for (std::size_t k = 0; k + 1 < stamps_.size(); ++k) {
      at -= std::max(0.0, stamps_[k].values().number("share"));
      if (at < 0) return k;
    }
    return stamps_.size() - 1;
  }

  [[nodiscard]] double share(Order order, const Copy& copy, std::uint64_t stream) const {
    if (order == Order::AlongLine) return line_.at(copy.at);
    return order == Order::Lightness ? lightness_.at(copy.at) : shareIn(order, copy, seed_, stream);
  }

  // How far through the spread of head starts it comes.
  [[nodiscard]] double startOf(const Copy& copy) const {
    const double own = share(order_, copy, 2);
    return back_ ? thereAndBack(own) : own;
  }

  // A copy with all that is its own.
  struct Own {
    std::size_t which = 0;  // of the stamps
    LapShift shift;
    Point at;
    double turn = 0;
    double size = 1;
    double opacity = 1;
    bool other = false;  // an every so many-th
    const CopyChange* change = nullptr;
  };

  [[nodiscard]] Own ownOf(const Copy& copy) const {
    Own o;
    o.which = stampOf(copy);
    const Stamp& stamp = stamps_[o.which];
    const OwnValues& own = own_[o.which];
    if (own.moving || stamp.shapeMoves())
      o.shift = {ahead_ * startOf(copy), faster_ > 0 ? 1 + static_cast<int>(randomUnit(seed_ * 16 + 3, copy.id()) * (faster_ + 1)) : 1};
    const Values& values = stamp.values();
    o.size = own.size.at(values, o.shift) / stamp.baseSize() * copy.size * grown_;
    o.opacity = own.opacity.at(values, o.shift) * copy.opacity;
    o.turn = own.turn.at(values, o.shift) + copy.turn;
    if (sizeBy_ != 0) o.size *= std::exp2(sizeBy_ * (2 * share(differ_, copy, 4) - 1));
    if (turnBy_ != 0) o.turn += turnBy_ * (2 * share(differ_, copy, 5) - 1);
    if (opacityBy_ > 0) o.opacity *= 1 - opacityBy_ * share(differ_, copy, 6);
    if (columns_) o.opacity *= litness(copy);
    o.other = nth_ > 0 && copy.number % static_cast<std::uint32_t>(nth_) == 0;
    if (o.other) o.size *= nthSize_;
    o.at = copy.at;
    const Point offset = own.offset.at(values, o.shift);
    if (offset != Point{}) {
      const double c = std::cos(copy.turn * (std::numbers::pi / 180)) * copy.size;
      const double s = std::sin(copy.turn * (std::numbers::pi / 180)) * copy.size;
      o.at.x += offset.x * c - offset.y * s;
      o.at.y += offset.x * s + offset.y * c;
    }
    if (scatter_ > 0) {
      const double way = 2 * std::numbers::pi * randomUnit(seed_ * 16 + 7, copy.id());
      const double far = scatter_ * std::sqrt(randomUnit(seed_ * 16 + 8, copy.id()));
      o.at.x += far * std::cos(way);
      o.at.y += far * std::sin(way);
    }
    if (!singles_.list.empty()) o.change = singles_.find(copy.key);
    if (o.change) {
      o.at = {o.at.x + o.change->by.x, o.at.y + o.change->by.y};
      o.turn += o.change->turn;
      o.size *= o.change->size;
    }
    return o;
  }

  // How much of it is left by the place that is kept free, and where there are fewer.
  [[nodiscard]] double leftOf(const Copy& copy) const {
    double left = keepOut_.left(copy.at);
    // The darker it is there the fewer stay, each going and coming softly.
    if (thinned_ > 0)
      left *= mix(1, std::clamp(0.5 + 6 * (lightness_.at(copy.at) - randomUnit(seed_ * 16 + 11, copy.id())), 0.0, 1.0), thinned_);
    return left;
  }

  [[nodiscard]] bool place(Mark& mark, std::array<float, 4>& second, const Copy& copy) const {
    const double left = leftOf(copy);
    if (left <= 0) return false;
    const Own o = ownOf(copy);
    double opacity = o.opacity * left;
    if (!(opacity > 1.0 / 2048) || (o.change && o.change->out)) return false;
    const Stamp& stamp = stamps_[o.which];
    const OwnValues& own = own_[o.which];
    mark.shape = stamp.shape(o.shift);
    float fainter = 1;
    if (!placeMark(mark, painted_.shapes[mark.shape], {o.at, o.turn, o.size}, context_.view(), fainter)) return false;
    opacity = std::min(1.0, opacity) * static_cast<double>(fainter);
    if (stamp.pictured() && painted_.shapes[mark.shape].pictures.empty()) return false;
    if (!stamp.coloured()) {
      mark.colour[3] = static_cast<float>(opacity);
      return true;
    }
    const double tint = colourBy_ > 0 ? colourBy_ * share(differ_, copy, 10) : 0;
    const auto tinted = [&](const Colour& colour) {
      if (o.change && o.change->colour) return *o.change->colour;
      if (o.other) return nthColour_;
      return tint > 0 ? mixColours(colour, towards_, tint, ColourMixing::OkLab) : colour;
    };
    mark.colour = premultiplied(tinted(own.colour.at(stamp.values(), o.shift)), opacity);
    if (stamp.graded()) second = premultiplied(own.other.at(stamp.values(), o.shift), opacity);
    return true;
  }

  static constexpr int kColumnSteps = 256;
  const StepContext& context_;
  Order differ_;
  Order order_;
  double ahead_;
  int faster_;
  double sizeBy_;
  double turnBy_;
  double opacityBy_;
  double colourBy_;
  Colour towards_;
  double scatter_;
  int nth_;
  double nthSize_;
  Colour nthColour_;
  double thinned_;
  LayerLightness lightness_;
  LineOrder line_;
  bool back_ = false;
  KeepOut keepOut_;
  bool pickAtRandom_;
  std::uint64_t seed_;
  bool columns_;
  const CopyChanges& singles_;
  bool peaksShown_ = false;
  double faint_ = 0;
  double margin_ = 0;
  double shares_ = 0;
  double grown_ = 1;  // what passes grows so far beyond its stamp
  std::array<double, kColumnSteps> levels_{};
  std::array<double, kColumnSteps> peaks_{};
  std::vector<Stamp> stamps_;
  std::vector<OwnValues> own_;
  std::vector<std::uint16_t> turns_;
  Painted painted_;
};

std::vector<std::vector<Point>> skeleton(const StepContext& context) {
  auto lines = spreadSkeleton(spreadOf(context, 0));
  const KeepOut keep = keepOutOf(context);
  if (keep.kind == KeepOut::Kind::Rectangle) {
    const Point c = keep.centre;
    lines.push_back({{c.x - keep.a, c.y - keep.b},
                     {c.x + keep.a, c.y - keep.b},
                     {c.x + keep.a, c.y + keep.b},
                     {c.x - keep.a, c.y + keep.b},
                     {c.x - keep.a, c.y - keep.b}});
  } else if (keep.kind == KeepOut::Kind::Ellipse) {
    lines.push_back(ellipseLine(keep.centre, keep.a, keep.b));
  }
  return lines;
}

std::vector<CopyPlace> copies(const StepContext& context) { return Repeat(context, nullptr).places(); }

std::unique_ptr<RowMaker> make(const StepContext& context, const Input& layer) {
  Painted painted = Repeat(context, &layer).paint();
  return markRows(std::move(painted.shapes), std::move(painted.marks), std::move(painted.seconds), painted.blend, context.view());
}

ReferenceField reference(const StepContext& context, ReferenceField) {
  const auto painted = std::make_shared<const Painted>(Repeat(context, nullptr).paint());
  return [painted](int x, int y) {
    return ReferencePixel{4, plainMarkPixel(painted->shapes, painted->marks, painted->seconds, painted->blend, x, y)};
  };
}

}  // namespace

const StepSpec& repeatStep() {
  static const StepSpec spec{.id = "repeat",
                             .title = "Repeat",
                             .group = "source",
                             .help = "One thing many times: stamps, spread over the plane, each a little different and in its own time.",
                             .kind = StepKind::Source,
                             .params = repeatParams(),
                             .items = &repeatStamps(),
                             .ready = readyRepeats(),
                             .shelf = {.section = "Repeated shapes", .rank = 3},
                             .skeleton = skeleton,
                             .copies = copies,
                             .masks = true,
                             .reads = SourceReads::Stamp,
                             .stamped = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
