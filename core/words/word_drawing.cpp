#include "words/word_drawing.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/numbers.h"
#include "base/random.h"
#include "image/colour.h"
#include "shapes/premultiplied.h"
#include "shapes/rounded_box.h"

namespace oa {
namespace {

constexpr double kDegree = std::numbers::pi / 180;

TextStyle styleOf(const StepContext& context) {
  const double size = context.baseNumber("size");
  TextStyle style;
  style.text = context.text("text");
  style.family = context.text("font");
  style.weight = context.integer("weight");
  style.italic = context.toggle("italic");
  const std::string_view capitals = context.choice("capitals");
  style.capitals = capitals == "capitals" ? Capitals::Capitals : capitals == "small capitals" ? Capitals::SmallCapitals : Capitals::AsTyped;
  style.spacing = context.number("spacing");
  style.leading = context.number("leading");
  style.features = context.text("features");
  style.stretch = context.number("stretch");
  const std::string_view align = context.choice("align");
  style.alignment = align == "left" ? Alignment::Left : align == "right" ? Alignment::Right : Alignment::Centre;
  // Lines are broken once for all sizes that they move through.
  style.width = context.number("box") / std::max(1e-3, size);
  return style;
}

// Where each letter comes among the others, 0 to below 1.
class Turns {
 public:
  Turns(const StepContext& context, const Typeset& set)
      : order_(context.choice("order")),
        by_(context.choice("by")),
        seed_(static_cast<std::uint64_t>(context.number("seed"))),
        count_(std::max<std::size_t>(1, by_ == "word"   ? static_cast<std::size_t>(set.words)
                                        : by_ == "line" ? static_cast<std::size_t>(set.lines)
                                                        : set.letters.size())) {}
  [[nodiscard]] double of(const Letter& letter, std::size_t index) const {
    if (order_ == "together") return 0;
    const auto own = by_ == "word" ? static_cast<std::size_t>(letter.word) : by_ == "line" ? static_cast<std::size_t>(letter.line) : index;
    if (order_ == "random") return randomUnit(seed_, own);
    const double along = (static_cast<double>(own) + 0.5) / static_cast<double>(count_);
    if (order_ == "from the middle") return std::abs(2 * along - 1);
    const double first = static_cast<double>(own) / static_cast<double>(count_);
    return order_ == "backwards" ? (static_cast<double>(count_ - 1) / static_cast<double>(count_)) - first : first;
  }

 private:
  std::string_view order_;
  std::string_view by_;
  std::uint64_t seed_;
  std::size_t count_;
};

// Where each comes among those that arrive and leave one after the other.
Piece pieceOf(PassBy by, const Typeset& set, const Letter& letter, std::size_t index) {
  switch (by) {
    case PassBy::Whole:
      break;
    case PassBy::Letter:
      return {index, set.letters.size()};
    case PassBy::Word:
      return {static_cast<std::size_t>(letter.word), static_cast<std::size_t>(set.words)};
    case PassBy::Line:
      return {static_cast<std::size_t>(letter.line), static_cast<std::size_t>(set.lines)};
  }
  return {};
}

// One for one: what a box is on the plane.
struct Measure {
  Point middle;
  double size;
};
Measure measureOf(const StepContext& context) {
  const Point centre = context.point("centre");
  return {{centre.x * context.view().frameWidth, centre.y * context.view().frameHeight}, context.number("size")};
}

constexpr double kHigh = 0.36;  // half of a capital's height, as in Letter::middle

}  // namespace

struct WordDrawing::Placed {
  std::size_t index;
  const Letter& letter;
  const LapShift& shift;
  double seen;
  std::vector<std::vector<Point>> lines;  // in pixels of the view
};

WordDrawing::WordDrawing(const StepContext& context) : context_(context), view_(context.view()), set_(typeset(styleOf(context))) {}

bool WordDrawing::painted() const {
  const std::string_view fill = context_.choice("fill");
  return fill == "gradient" || (fill == "layer" && context_.number("layer") > 0);
}

std::array<double, 4> WordDrawing::box() const {
  const Measure m = measureOf(context_);
  return {m.middle.x + set_->left * m.size, m.middle.y + set_->top * m.size, m.middle.x + set_->right * m.size,
          m.middle.y + set_->bottom * m.size};
}

std::array<double, 4> WordDrawing::panelBox() const {
  auto b = box();
  if (!context_.toggle("panel")) return b;
  const Point more = context_.point("padding");
  b = {b[0] - more.x, b[1] - more.y, b[2] + more.x, b[3] + more.y};
  // A bar lies beside the words, within the panel.
  const double bar = context_.number("barWidth");
  const std::string_view side = context_.choice("bar");
  if (side == "left") b[0] -= bar;
  if (side == "right") b[2] += bar;
  if (side == "top") b[1] -= bar;
  if (side == "bottom") b[3] += bar;
  return b;
}

LineArt WordDrawing::panel() const {
  LineArt art;
  if (!context_.toggle("panel")) return art;
  const auto b = panelBox();
  if (!(b[2] > b[0]) || !(b[3] > b[1])) return art;
  // It comes and goes with the first of the words.
  const PassBy by = context_.passesBy();
  const double seen = by == PassBy::Whole ? 1 : std::clamp(context_.passed(pieceOf(by, *set_, {}, 0)).there, 0.0, 1.0);
  const double round = context_.number("panelCorner");
  auto edge = roundedBox({b[0], b[1]}, {b[2], b[3]}, round, std::clamp(static_cast<int>(round * view_.scale), 4, 48));
  for (Point& p : edge) p = view_.pixel(p);
  Filling& filling = art.fillings.emplace_back();
  filling.colour = premultiplied(context_.colour("panelColour"), seen);
  filling.lines.push_back(edge);
  const std::string_view side = context_.choice("bar");
  if (const double bar = context_.number("barWidth"); side != "none" && bar > 0) {
    std::array<double, 4> c = b;
    if (side == "left") c[2] = c[0] + bar;
    if (side == "right") c[0] = c[2] - bar;
    if (side == "top") c[3] = c[1] + bar;
    if (side == "bottom") c[1] = c[3] - bar;
    Filling& own = art.fillings.emplace_back();
    own.colour = premultiplied(context_.colour("barColour"), seen);
    // As round as the panel where it lies on its corners.
    const double corner = std::min({round, bar / 2, (c[2] - c[0]) / 2, (c[3] - c[1]) / 2});
    auto& line =
        own.lines.emplace_back(roundedBox({c[0], c[1]}, {c[2], c[3]}, corner, std::clamp(static_cast<int>(corner * view_.scale), 4, 48)));
    for (Point& p : line) p = view_.pixel(p);
  }
  if (const double width = context_.number("panelLine"); width > 0) {
    Stroke& stroke = art.strokes.emplace_back();
    stroke.colour = stroke.second = premultiplied(context_.colour("panelLineColour"), seen);
    for (const Point& p : edge) stroke.points.push_back({p, width / 2 * view_.scale});
  }
  return art;
}

// Of so many letters as are typed by now.
std::size_t WordDrawing::typed() const {
  const double share = std::clamp(context_.number("typed"), 0.0, 1.0);
  return static_cast<std::size_t>(std::llround(share * static_cast<double>(set_->letters.size())));
}

template <class Take>
void WordDrawing::eachLetter(const Take& take) const {
  const Measure m = measureOf(context_);
  const Turns turns(context_, *set_);
  const double ahead = context_.number("ahead");
  const std::size_t offset = context_.index("offset");
  const std::size_t size = context_.index("letterSize");
  const std::size_t turn = context_.index("letterTurn");
  const std::size_t opacity = context_.index("letterOpacity");
  const PassBy by = context_.passesBy();
  const std::size_t count = std::min(set_->letters.size(), typed());
  for (std::size_t i = 0; i < count; ++i) {
    const Letter& letter = set_->letters[i];
    if (letter.lines.empty()) continue;
    const Piece piece = pieceOf(by, *set_, letter, i);
    const LapShift shift{ahead * turns.of(letter, i), 1, piece};
    const Passed passed = by == PassBy::Whole ? Passed() : context_.passed(piece);
    const auto own = [&](std::size_t id) {
      return context_.moving(id) ? context_.shiftedNumber(id, shift) : std::get<double>(context_.here(id).value);
    };
    const double seen = own(opacity) * passed.opacity;
    const double large = own(size) * m.size * passed.size;
    if (!(seen > 1.0 / 2048) || !(large * view_.scale > 1e-3)) continue;
    const Point beside = context_.moving(offset) ? std::get<Point>(context_.shifted(offset, shift).value) : context_.point("offset");
    const double turned = (own(turn) + passed.turn) * kDegree;
    const double c = std::cos(turned) * large;
    const double s = std::sin(turned) * large;
    const Point at{m.middle.x + letter.middle.x * m.size + beside.x + passed.offset.x,
                   m.middle.y + letter.middle.y * m.size + beside.y + passed.offset.y};
    Placed placed{i, letter, shift, seen, {}};
    for (const auto& contour : letter.lines) {
      auto& points = placed.lines.emplace_back();
      points.reserve(contour.size());
      for (const Point& p : contour) points.push_back(view_.pixel({at.x + p.x * c - p.y * s, at.y + p.x * s + p.y * c}));
      points.back() = points.front();
    }
    take(std::move(placed));
  }
}

LineArt WordDrawing::letters() const {
  LineArt art;
  const std::string_view fill = context_.choice("fill");
  const bool white = painted();
  const std::size_t colour = context_.index("colour");
  const std::size_t other = context_.index("other");
  const auto last = static_cast<double>(std::max<std::size_t>(1, set_->letters.size() - 1));
  // Letters in one colour go together, as long as they do not move over each other.
  const bool still = !context_.moving(context_.index("offset")) && !context_.moving(context_.index("letterTurn")) &&
                     !context_.moving(context_.index("letterSize")) && context_.passesBy() == PassBy::Whole;
  eachLetter([&](Placed&& placed) {
    const auto tinted = [&](std::size_t id) {
      return std::get<Colour>(context_.moving(id) ? context_.shifted(id, placed.shift).value : context_.here(id).value);
    };
    const Colour tint = white ? Colour{1, 1, 1, 1}
                        : fill == "along"
                            ? mixColours(tinted(colour), tinted(other), static_cast<double>(placed.index) / last, ColourMixing::OkLab)
                            : tinted(fill == "by turns" && placed.index % 2 != 0 ? other : colour);
    const auto ink = premultiplied(tint, placed.seen);
    if (still && !art.fillings.empty() && art.fillings.back().colour == ink) {
      auto& lines = art.fillings.back().lines;
      lines.insert(lines.end(), std::make_move_iterator(placed.lines.begin()), std::make_move_iterator(placed.lines.end()));
    } else {
      art.fillings.push_back({std::move(placed.lines), ink});
    }
  });
  caret(art);
  return art;
}

// Behind the last letter that is typed, on for half of each blink.
void WordDrawing::caret(LineArt& art) const {
  if (!context_.toggle("caret") || set_->letters.empty()) return;
  const double blinks = context_.number("blinks");
  if (blinks != 0 && fract(context_.progress("blinks") * blinks) >= 0.5) return;
  const Measure m = measureOf(context_);
  const std::size_t count = std::min(set_->letters.size(), typed());
  const Letter& beside = set_->letters[count == 0 ? 0 : count - 1];
  const double x = m.middle.x + (beside.middle.x + (count == 0 ? -0.5 : 0.5) * beside.wide + 0.06) * m.size;
  const double y = m.middle.y + beside.middle.y * m.size;
  const double wide = 0.07 * m.size;
  const double high = (kHigh + 0.12) * m.size;
  Filling& filling = art.fillings.emplace_back();
  filling.colour = premultiplied(painted() ? Colour{1, 1, 1, 1} : context_.colour("colour"));
  auto& line = filling.lines.emplace_back();
  for (const Point p : {Point{x, y - high}, {x + wide, y - high}, {x + wide, y + high}, {x, y + high}, {x, y - high}})
    line.push_back(view_.pixel(p));
}

LineArt WordDrawing::lines() const {
  LineArt art;
  const double width = context_.number("line");
  if (width <= 0) return art;
  eachLetter([&](Placed&& placed) {
    for (const auto& points : placed.lines) {
      Stroke& stroke = art.strokes.emplace_back();
      stroke.colour = stroke.second = premultiplied(context_.colour("lineColour"), placed.seen);
      for (const Point& p : points) stroke.points.push_back({p, width / 2 * view_.scale});
    }
  });
  return art;
}

}  // namespace oa
