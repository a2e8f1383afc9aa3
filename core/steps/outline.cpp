// Outline: a line through points, drawn and filled, with lights that run along it and strands that hang from it.
#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <numbers>
#include <optional>
#include <vector>

#include "base/numbers.h"
#include "base/random.h"
#include "shapes/line_art.h"
#include "shapes/measured_line.h"
#include "shapes/outline_params.h"
#include "shapes/outline_ways.h"
#include "shapes/premultiplied.h"
#include "shapes/ready_outlines.h"
#include "steps/step.h"

namespace oa {
namespace {

constexpr double kTurn = 2 * std::numbers::pi;

// Noise along the line that comes home in both directions: waves of whole numbers along it and over the lap.
class Wobble {
 public:
  explicit Wobble(const StepContext& context) : reach_(context.number("wobble")) {
    const double bumps = context.number("bumps");
    const double rounds = std::round(context.number("wobbling"));
    const double done = context.progress("wobbling");
    const auto seed = static_cast<std::uint64_t>(context.number("seed"));
    constexpr double kAlong[kWaves] = {1, 0.62, 1.7, 2.4};
    constexpr double kStrong[kWaves] = {0.55, 0.4, 0.25, 0.14};
    for (std::size_t i = 0; i < kWaves; ++i) {
      waves_[i].along = std::max(1.0, std::round(bumps * kAlong[i]));
      waves_[i].phase = randomUnit(seed, i) + (i % 2 == 0 ? 1 : -1) * rounds * done * (i == 3 ? 2 : 1);
      waves_[i].height = reach_ * kStrong[i];
    }
  }
  [[nodiscard]] bool any() const { return reach_ > 0; }
  [[nodiscard]] double at(double share) const {
    double sum = 0;
    for (const Wave& w : waves_) sum += w.height * std::sin(kTurn * (w.along * share + w.phase));
    return sum;
  }

 private:
  static constexpr std::size_t kWaves = 4;
  struct Wave {
    double along = 1;
    double phase = 0;
    double height = 0;
  };
  double reach_;
  std::array<Wave, kWaves> waves_{};
};

MeasuredLine wobbled(const MeasuredLine& line, const Wobble& wobble, double scale) {
  if (!wobble.any() || !(line.length() > 0)) return line;
  // Close enough that every bump is round.
  const int parts = static_cast<int>(std::clamp(line.length() * std::min(scale, 1.0) / 4, 48.0, 4000.0));
  std::vector<Point> points;
  const double away = 0.5 / parts;
  for (int i = 0; i <= parts; ++i) {
    const double share = static_cast<double>(i) / parts;
    const Point at = line.at(i == parts && !line.closed() ? 1.0 : share).at;
    const Point before = line.at(share - away).at;
    const Point after = line.at(share + away).at;
    const double length = std::max(1e-9, std::hypot(after.x - before.x, after.y - before.y));
    const double by = wobble.at(share);
    points.push_back({at.x + (after.y - before.y) / length * by, at.y - (after.x - before.x) / length * by});
  }
  if (line.closed()) points.back() = points.front();
  return {std::move(points), line.closed()};
}

// Everything that is drawn, in pixels of the view.
class Drawing {
 public:
  Drawing(const StepContext& context, const Input* layer) : context_(context), view_(context.view()), wobble_(context) {
    double whole = 0;
    for (Way& way : outlineWays(context, layer, 0.15 / view_.scale)) {
      if (way.points.empty()) continue;
      own_ = std::move(way.own);
      Line& line = lines_.emplace_back(Line{wobbled({std::move(way.points), way.closed}, wobble_, view_.scale), whole, 0});
      whole += line.line.length();
      line.to = whole;
    }
    if (lines_.size() == 1) {
      lines_.front().to = 1;
    } else if (whole > 0) {
      for (Line& line : lines_) line = {std::move(line.line), line.from / whole, line.to / whole};
    }
  }

  LineArt art() {
    fill();
    hangStrands();
    for (const Line& line : lines_) drawLine(line);
    for (const Line& line : lines_) lightUp(line.line);
    return std::move(art_);
  }

 private:
  // One of the lines, and which part it is of all of them.
  struct Line {
    MeasuredLine line;
    double from = 0;
    double to = 1;
  };
  [[nodiscard]] Point seen(Point p) const { return view_.pixel(p); }
  [[nodiscard]] double pixels(double length) const { return length * view_.scale; }

  void fill() {
    if (!context_.toggle("fill") || context_.choice("along") != "outline" || lines_.empty() || lines_.front().line.points().size() < 3)
      return;
    Filling& filling = art_.fillings.emplace_back();
    auto& points = filling.lines.emplace_back();
    for (const Point& p : lines_.front().line.points()) points.push_back(seen(p));
    filling.colour = premultiplied(context_.colour("fillColour"));
  }

  void drawLine(const Line& own) {
    const MeasuredLine& line = own.line;
    const double width = context_.number("width");
    double from = context_.number("from");
    double to = context_.number("drawn");
    if (lines_.size() > 1 && context_.toggle("inTurn")) {
      const double part = std::max(1e-12, own.to - own.from);
      from = std::max(0.0, (from - own.from) / part);
      to = std::min(1.0, (to - own.from) / part);
    }
    if (width <= 0 || to <= from || line.points().size() < 2) return;
    Stroke stroke;
    stroke.colour = stroke.second = premultiplied(context_.colour("colour"));
    stroke.softness = pixels(context_.number("softness"));
    int dashes = context_.integer("dashes");
    if (dashes <= 0) return drawPart(line, stroke, from, to, line.closed() && to - from >= 1);
    // As long on all lines.
    if (lines_.size() > 1) dashes = std::max(1, static_cast<int>(std::lround(dashes * (own.to - own.from))));
    // Each moves on to where the next one was, as often as told: all together look alike again.
    const double dash = context_.number("dash");
    const double gone = std::round(context_.number("dashTravel")) * context_.progress("dashTravel");
    for (int i = -1; i <= dashes; ++i) {
      const double begin = (i + fract(gone)) / dashes;
      const double end = begin + dash / dashes;
      // Over the place where a closed line began it goes on at the other end.
      if (line.closed() && from <= 0 && to >= 1) {
        if (i >= 0 && i < dashes) drawPart(line, stroke, begin, end, false);
      } else {
        drawPart(line, stroke, std::max(begin, from), std::min(end, to), false);
      }
    }
  }

  // A part of the line as a stroke of its own, which gets thinner towards its ends unless it goes all the way round.
  void drawPart(const MeasuredLine& line, Stroke stroke, double from, double to, bool round) {
    if (to <= from) return;
    stroke.points = taperedPart(line, from, to, pixels(context_.number("width") / 2), round ? 0 : context_.number("taper"));
    for (StrokePoint& p : stroke.points) p.at = seen(p.at);
    art_.strokes.push_back(std::move(stroke));
  }

  void lightUp(const MeasuredLine& line) {
    const int count = context_.integer("lights");
    const double length = context_.number("lightLength");
    if (count <= 0 || length <= 0 || line.points().size() < 2) return;
    const double gone = std::round(context_.number("lightTravel")) * context_.progress("lightTravel");
    const bool backwards = context_.number("lightTravel") < 0;
    for (int i = 0; i < count; ++i) {
      double from = context_.number("lightStart") + static_cast<double>(i) / count + gone;
      // On an open line each comes in from its beginning and leaves at its end.
      from = line.closed() ? fract(from) : fract(from) * (1 + length) - length;
      light(line, from, from + length, backwards);
    }
  }

  void light(const MeasuredLine& line, double from, double to, bool backwards) {
    const double width = context_.number("lightWidth");
    const double tail = context_.number("lightTail");
    const double glow = context_.number("lightGlow");
    // What of it lies on the line, in shares of the light.
    const double first = line.closed() ? from : std::max(0.0, from);
    const double last = line.closed() ? to : std::min(1.0, to);
    Stroke core;
    core.colour = premultiplied(context_.colour("lightColour"));
    core.second = premultiplied(context_.colour("tailColour"));
    for (const auto& p : line.part(first, last, 32)) {
      const double along = (mix(first, last, p.t) - from) / (to - from);
      const double behind = backwards ? along : 1 - along;  // 0 at its head
      const double left = 1 - tail * behind;
      // Round at its head, and out softly at its end.
      const double fade = std::min(1.0, (1 - behind) * 6) * std::min(1.0, behind * 30 + 0.4);
      core.points.push_back({seen(p.at), pixels(width / 2) * left, fade * left, behind});
    }
    if (core.points.size() < 2) return;
    if (glow > 0) {
      Stroke halo = core;
      halo.softness = pixels(2 * glow);
      for (StrokePoint& p : halo.points) p.opacity *= 0.55;
      art_.strokes.push_back(std::move(halo));
    }
    art_.strokes.push_back(std::move(core));
  }

  // A place by the length of all lines together.
  [[nodiscard]] MeasuredLine::Place placeAt(double share) const {
    if (lines_.size() == 1) return lines_.front().line.at(share);
    share = share >= 1 ? std::nextafter(1.0, 0.0) : share;
    const auto after = std::find_if(lines_.begin(), lines_.end() - 1, [&](const Line& line) { return share < line.to; });
    return after->line.at((share - after->from) / std::max(1e-12, after->to - after->from));
  }

  void hangStrands() {
    int count = context_.integer("strands");
    if (count <= 0 || lines_.empty()) return;
    // From each of the points that the outline was drawn by.
    constexpr std::size_t kMostStrands = 2000;
    const bool points = context_.choice("strandAt") == "its points" && context_.choice("along") == "outline";
    if (points) count = static_cast<int>(std::min(own_.size(), kMostStrands));
    const auto seed = static_cast<std::uint64_t>(context_.number("seed"));
    const double from = context_.number("strandFrom");
    const double to = context_.number("strandTo");
    const bool outwards = context_.choice("hang") == "outwards";
    const double swings = std::round(context_.number("swaying")) * context_.progress("swaying");
    const double waves = context_.number("waves");
    const double sway = context_.number("sway") * kDegree;
    const double curl = context_.number("curl") * kDegree;
    const double taper = context_.number("strandTaper");
    const double radius = pixels(context_.number("strandWidth") / 2);
    // Round a closed line the last one does not hang where the first does.
    const bool round = (lines_.size() > 1 || lines_.front().line.closed()) && to - from >= 1;
    // Short enough to be round, and no shorter.
    const int parts = static_cast<int>(std::clamp(pixels(context_.number("strandLength")) / 24, 10.0, 40.0));
    for (int i = 0; i < count; ++i) {
      const double order = count > 1 ? static_cast<double>(i) / (round ? count : count - 1) : 0.5;
      const MeasuredLine::Place root = placeAt(points ? own_[static_cast<std::size_t>(i)] : mix(from, to, order));
      const double length =
          context_.number("strandLength") * (1 - context_.number("strandDiffer") * randomUnit(seed, 400 + static_cast<std::uint64_t>(i)));
      double turn = context_.number("strandTurn") * kDegree;
      if (outwards) turn += std::atan2(root.along.y, root.along.x) - std::numbers::pi;
      const double phase = swings + order * context_.number("strandAhead");
      Stroke strand;
      strand.colour = premultiplied(context_.colour("strandColour"));
      strand.second = premultiplied(context_.colour("tipColour"));
      Point at = root.at;
      for (int k = 0; k <= parts; ++k) {
        const double t = static_cast<double>(k) / parts;
        strand.points.push_back({seen(at), std::max(0.05, radius * (1 - taper * t)), 1, t});
        // Held where it hangs, the freer the farther down; waves run down it.
        const double way = turn + curl * t + sway * t * std::sin(kTurn * (phase - waves * t));
        at.x += std::cos(way) * length / parts;
        at.y += std::sin(way) * length / parts;
      }
      art_.strokes.push_back(std::move(strand));
    }
  }

  const StepContext& context_;
  const PlaneView& view_;
  Wobble wobble_;
  std::vector<Line> lines_;
  std::vector<double> own_;  // where the outline's own points lie along it
  LineArt art_;
};

std::unique_ptr<RowMaker> make(const StepContext& context, const Input& layer) {
  return lineArtRows(Drawing(context, &layer).art(), context.view().width, context.view().height);
}

ReferenceField reference(const StepContext& context, ReferenceField) {
  const auto art = std::make_shared<const LineArt>(Drawing(context, nullptr).art());
  return [art](int x, int y) { return ReferencePixel{4, plainLineArtPixel(*art, x, y)}; };
}

// The line with all that hangs from it, however it sways.
std::optional<std::array<double, 4>> extent(const StepContext& context) {
  if (context.choice("along") == "layer" || context.choice("along") == "frame") return {};
  std::array<double, 4> box{1e18, 1e18, -1e18, -1e18};
  for (const Way& way : outlineWays(context, nullptr, 1))
    for (const Point& p : way.points) box = {std::min(box[0], p.x), std::min(box[1], p.y), std::max(box[2], p.x), std::max(box[3], p.y)};
  if (box[2] < box[0]) return {};
  double more = context.number("width") / 2 + 1.4 * context.number("wobble");
  if (context.integer("lights") > 0) more = std::max(more, context.number("lightWidth") / 2);
  if (context.integer("strands") > 0) more += context.number("strandLength");
  return std::array{box[0] - more, box[1] - more, box[2] + more, box[3] + more};
}

double beyond(const StepContext& context) {
  return std::max(context.number("softness") / 2, context.integer("lights") > 0 ? context.number("lightGlow") : 0);
}

}  // namespace

const StepSpec& outlineStep() {
  static const StepSpec spec{.id = "outline",
                             .title = "Outline",
                             .group = "source",
                             .help = "A line through points, drawn and filled; lights run along it, and strands hang from it.",
                             .kind = StepKind::Source,
                             .params = outlineParams(),
                             .ready = readyOutlines(),
                             .shelf = {.section = "Outlines, lights and strands", .rank = 4},
                             .extent = extent,
                             .beyond = beyond,
                             .masks = true,
                             .follows = true,
                             .reads = SourceReads::Stamp,
                             .stamped = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
