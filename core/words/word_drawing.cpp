#include "words/word_drawing.h"

#include <algorithm>
#include <cmath>
#include <iterator>
#include <numbers>
#include <sstream>
#include <string>
#include <utility>

#include "base/numbers.h"
#include "base/outline.h"
#include "base/parallel.h"
#include "base/random.h"
#include "image/blur.h"
#include "image/colour.h"
#include "image/stacked.h"
#include "shapes/line_order.h"
#include "shapes/premultiplied.h"
#include "shapes/rounded_box.h"
#include "words/caret.h"

namespace oa {
namespace {

// What stands between empty lines; where there are none, each line.
std::vector<std::string> pagesOf(const std::string& text) {
  std::vector<std::string> lines;
  std::istringstream in(text);
  for (std::string line; std::getline(in, line);) lines.push_back(std::move(line));
  const auto empty = [](const std::string& line) { return line.find_first_not_of(" \t\r") == std::string::npos; };
  if (!lines.empty() && std::none_of(lines.begin(), lines.end(), empty)) return lines;
  std::vector<std::string> pages(1);
  for (const std::string& line : lines) {
    if (!empty(line))
      pages.back() += (pages.back().empty() ? "" : "\n") + line;
    else if (!pages.back().empty())
      pages.emplace_back();
  }
  if (pages.back().empty() && pages.size() > 1) pages.pop_back();
  return pages;
}

// The words that are shown now; where several are shown in turn, one of them.
std::string wordsNow(const StepContext& context) {
  const std::string& text = context.text("text");
  if (!context.toggle("pages")) return text;
  const auto pages = pagesOf(text);
  if (!context.moving(context.index("pageRounds"))) return pages.front();
  // A hair further: what a fraction is rounded by must not show the page before.
  const double gone = fract(context.progress("pageRounds") * context.number("pageRounds") + 1e-9);
  return pages[std::min(pages.size() - 1, static_cast<std::size_t>(gone * static_cast<double>(pages.size())))];
}

TextStyle styleOf(const StepContext& context, std::string text) {
  const double size = context.baseNumber("size");
  TextStyle style;
  style.text = std::move(text);
  style.family = context.text("font");
  style.weight = context.integer("weight");
  style.italic = context.toggle("italic");
  const std::string_view capitals = context.choice("capitals");
  style.capitals = capitals == "capitals" ? Capitals::Capitals : capitals == "small capitals" ? Capitals::SmallCapitals : Capitals::AsTyped;
  style.spacing = context.number("spacing");
  style.leading = context.number("leading");
  style.features = context.text("features");
  style.axes = context.text("axes");
  style.stretch = context.number("stretch");
  const std::string_view align = context.choice("align");
  style.alignment = align == "left" ? Alignment::Left : align == "right" ? Alignment::Right : Alignment::Centre;
  // Lines are broken once for all sizes that they move through.
  style.width = context.number("box") / std::max(1e-3, size);
  if (context.toggle("stars"))
    style.emphasis =
        Emphasis{context.text("starFont"), context.integer("starWeight"), context.toggle("starItalic"), context.number("starSize")};
  return style;
}

// Where each letter comes among the others, 0 to below 1.
class Turns {
 public:
  /// `middle` and `size`: where the letters lie, and how large they are.
  Turns(const StepContext& context, const Typeset& set, Point middle, double size)
      : order_(context.choice("order")),
        by_(context.choice("by")),
        back_(order_ != "together" && context.toggle("startsBack")),
        seed_(static_cast<std::uint64_t>(context.number("seed"))),
        count_(std::max<std::size_t>(1, by_ == "word"   ? static_cast<std::size_t>(set.words)
                                        : by_ == "line" ? static_cast<std::size_t>(set.lines)
                                                        : set.letters.size())) {
    if (order_ == kAlongALine) measure(LineOrder(context.outline("startLine"), middle), set, middle, size);
  }
  [[nodiscard]] double of(const Letter& letter, std::size_t index) const {
    if (order_ == "together") return 0;
    const double own = inOrder(ownOf(letter, index));
    return back_ ? thereAndBack(own) : own;
  }

 private:
  [[nodiscard]] std::size_t ownOf(const Letter& letter, std::size_t index) const {
    return by_ == "word" ? static_cast<std::size_t>(letter.word) : by_ == "line" ? static_cast<std::size_t>(letter.line) : index;
  }
  [[nodiscard]] double inOrder(std::size_t own) const {
    if (order_ == "random") return randomUnit(seed_, own);
    if (order_ == kAlongALine) return own < along_.size() ? along_[own] : 0;
    const double along = (static_cast<double>(own) + 0.5) / static_cast<double>(count_);
    if (order_ == "from the middle") return std::abs(2 * along - 1);
    const double first = static_cast<double>(own) / static_cast<double>(count_);
    return order_ == "backwards" ? (static_cast<double>(count_ - 1) / static_cast<double>(count_)) - first : first;
  }
  // Words and lines lie where the middle of their letters does.
  void measure(const LineOrder& line, const Typeset& set, Point middle, double size) {
    std::vector<Point> sums(count_);
    std::vector<int> letters(count_);
    for (std::size_t i = 0; i < set.letters.size(); ++i) {
      const std::size_t own = ownOf(set.letters[i], i);
      if (own >= count_) continue;
      sums[own] = {sums[own].x + set.letters[i].middle.x, sums[own].y + set.letters[i].middle.y};
      ++letters[own];
    }
    for (std::size_t i = 0; i < count_; ++i) {
      const double per = size / std::max(1, letters[i]);
      along_.push_back(line.at({middle.x + sums[i].x * per, middle.y + sums[i].y * per}));
    }
  }

  std::string_view order_;
  std::string_view by_;
  bool back_;
  std::uint64_t seed_;
  std::size_t count_;
  std::vector<double> along_;
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

constexpr double kHigh = 0.36;  // half of a capital's height, as in Letter::middle

}  // namespace

struct WordDrawing::Placed {
  std::size_t index;
  const Letter& letter;
  LapShift shift;
  double seen;
  bool stands;  // nowhere else in the next frame, and sharp
  Point at;     // of its middle, on the plane
  Point along;  // its x axis there, as long as the font is large
  double blur;  // pixels of the plane
  bool steady;  // as large in the next frame
};

WordDrawing::Measure WordDrawing::measureOf(const StepContext& context) {
  const Point centre = context.point("centre");
  return {{centre.x * context.view().frameWidth, centre.y * context.view().frameHeight}, context.number("size")};
}

WordDrawing::WordDrawing(const StepContext& context)
    : context_(context), view_(context.view()), set_(typeset(styleOf(context, wordsNow(context)))), measure_(measureOf(context)) {
  if (context.choice("set") != "along an outline") return;
  const Outline& outline = context.outline("outline");
  const Point middle = measure_.middle;
  // As fine whatever the view is, so that letters stand alike in each.
  auto points = flattened(outline, 0.05);
  for (Point& p : points) p = {p.x + middle.x, p.y + middle.y};
  way_.emplace(std::move(points), outline.closed);
  if (!(way_->length() > 0)) way_.reset();
  if (context.moving(context.index("rounds"))) gone_ = context.progress("rounds") * context.number("rounds");
}

WordDrawing::Stand WordDrawing::standOf(Point at, double wide) const {
  const Measure m = measure_;
  if (!way_) return {{m.middle.x + at.x * m.size, m.middle.y + at.y * m.size}};
  const double whole = way_->length();
  const double half = wide / 2 * m.size / whole;
  const double wideOfAll = (set_->right - set_->left) * m.size;
  const double apart = context_.toggle("spread") && wideOfAll > 0 ? whole / wideOfAll : 1;
  double share = context_.number("startAt") + gone_ + at.x * apart * m.size / whole;
  // What travels off one end of an open line comes in at the other.
  if (!way_->closed() && context_.moving(context_.index("rounds"))) share = fract(share);
  Stand stand;
  if (!way_->closed()) stand.seen = half > 0 ? std::clamp(std::min(share, 1 - share) / half, 0.0, 1.0) : share >= 0 && share <= 1 ? 1 : 0;
  // Its foot stands on the outline, turned as a letter so wide lies on it.
  const Point from = way_->at(share - half).at;
  const Point to = way_->at(share + half).at;
  const double length = std::hypot(to.x - from.x, to.y - from.y);
  stand.along = length > 1e-9 ? Point{(to.x - from.x) / length, (to.y - from.y) / length} : way_->at(share).along;
  const Point foot = way_->at(share).at;
  const double down = at.y * m.size;
  stand.at = {foot.x - stand.along.y * down, foot.y + stand.along.x * down};
  return stand;
}

std::array<Point, 2> WordDrawing::caretBefore(std::size_t at) const {
  const Caret caret = oa::caretBefore(styleOf(context_, wordsNow(context_)), at);
  const Stand stand = standOf({caret.top.x, (caret.top.y + caret.bottom.y) / 2}, 0);
  const double half = (caret.bottom.y - caret.top.y) / 2 * measure_.size;
  const Point down{-stand.along.y * half, stand.along.x * half};
  return {Point{stand.at.x - down.x, stand.at.y - down.y}, Point{stand.at.x + down.x, stand.at.y + down.y}};
}

std::size_t WordDrawing::byteNearest(Point at) const {
  const Measure m = measure_;
  return oa::byteNearest(styleOf(context_, wordsNow(context_)), {(at.x - m.middle.x) / m.size, (at.y - m.middle.y) / m.size});
}

bool WordDrawing::gradedPanel() const { return context_.choice("panelFill") == "gradient"; }

bool WordDrawing::painted() const {
  const std::string_view fill = context_.choice("fill");
  return fill == "gradient" || (fill == "layer" && context_.number("layer") > 0);
}

std::array<double, 4> WordDrawing::box() const {
  const Measure m = measure_;
  if (way_) {
    std::array<double, 4> b{1e18, 1e18, -1e18, -1e18};
    for (const Point& p : way_->points()) b = {std::min(b[0], p.x), std::min(b[1], p.y), std::max(b[2], p.x), std::max(b[3], p.y)};
    const double more = std::max(-set_->top, set_->bottom) * m.size;
    return {b[0] - more, b[1] - more, b[2] + more, b[3] + more};
  }
  return {m.middle.x + set_->left * m.size, m.middle.y + set_->top * m.size, m.middle.x + set_->right * m.size,
          m.middle.y + set_->bottom * m.size};
}

std::array<double, 4> WordDrawing::everBox() const {
  auto all = panelBox();
  if (!context_.toggle("pages")) return all;
  for (const std::string& page : pagesOf(context_.text("text"))) {
    WordDrawing other(*this);
    other.set_ = typeset(styleOf(context_, page));
    const auto b = other.panelBox();
    all = {std::min(all[0], b[0]), std::min(all[1], b[1]), std::max(all[2], b[2]), std::max(all[3], b[3])};
  }
  return all;
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

// It comes and goes with the first of the words.
double WordDrawing::panelSeen() const {
  if (context_.passesBy() == PassBy::Whole) return 1;
  return std::clamp(context_.passed(pieceOf(context_.passesBy(), *set_, {}, 0)).there, 0.0, 1.0);
}

// On the plane, ending where it begins; empty where there is none.
std::vector<Point> WordDrawing::panelEdge() const {
  const auto b = panelBox();
  if (!context_.toggle("panel") || !(b[2] > b[0]) || !(b[3] > b[1])) return {};
  const double round = context_.number("panelCorner");
  auto edge = roundedBox({b[0], b[1]}, {b[2], b[3]}, round, std::clamp(static_cast<int>(round * view_.scale), 4, 48));
  const std::string_view side = context_.choice("notch");
  const double depth = context_.number("notchDepth");
  if (side == "none" || depth == 0) return edge;
  // Three points between the corners at both ends of its side.
  const double corner = std::min({round, (b[2] - b[0]) / 2, (b[3] - b[1]) / 2});
  const bool upright = side == "left" || side == "right";
  const double half = std::max(0.0, (upright ? b[3] - b[1] : b[2] - b[0]) / 2 - corner) * context_.number("notchWidth");
  const double deep = std::min(depth, 0.95 * (upright ? b[2] - b[0] : b[3] - b[1]));
  const Point out{side == "left" ? -1.0 : side == "right" ? 1.0 : 0.0, side == "top" ? -1.0 : side == "bottom" ? 1.0 : 0.0};
  const Point onward{-out.y, out.x};  // clockwise
  const Point middle{(b[0] + b[2]) / 2 + out.x * (b[2] - b[0]) / 2, (b[1] + b[3]) / 2 + out.y * (b[3] - b[1]) / 2};
  const std::array<Point, 3> notch{Point{middle.x - onward.x * half, middle.y - onward.y * half},
                                   {middle.x - out.x * deep, middle.y - out.y * deep},
                                   {middle.x + onward.x * half, middle.y + onward.y * half}};
  std::vector<Point> line;
  // The side is the piece of the edge that its middle lies on.
  const auto holds = [&](Point p, Point q) {
    return upright ? p.x == middle.x && q.x == middle.x && (p.y - middle.y) * (q.y - middle.y) <= 0
                   : p.y == middle.y && q.y == middle.y && (p.x - middle.x) * (q.x - middle.x) <= 0;
  };
  bool cut = false;
  for (std::size_t i = 0; i < edge.size(); ++i) {
    line.push_back(edge[i]);
    if (cut || i + 1 == edge.size() || !holds(edge[i], edge[i + 1])) continue;
    line.insert(line.end(), notch.begin(), notch.end());
    cut = true;
  }
  return line;
}

LineArt WordDrawing::panelIn(const Colour& colour) const {
  LineArt art;
  auto edge = panelEdge();
  if (edge.empty()) return art;
  for (Point& p : edge) p = view_.pixel(p);
  Filling& filling = art.fillings.emplace_back();
  filling.colour = premultiplied(colour, panelSeen());
  filling.lines.push_back(std::move(edge));
  return art;
}

LineArt WordDrawing::panel() const { return panelIn(gradedPanel() ? Colour{1, 1, 1, 1} : context_.colour("panelColour")); }

LineArt WordDrawing::panelShape() const { return panelIn({1, 1, 1, 1}); }

LineArt WordDrawing::trim() const {
  LineArt art;
  auto edge = panelEdge();
  if (edge.empty()) return art;
  const auto b = panelBox();
  const double seen = panelSeen();
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
    const double corner = std::min({context_.number("panelCorner"), bar / 2, (c[2] - c[0]) / 2, (c[3] - c[1]) / 2});
    auto& line =
        own.lines.emplace_back(roundedBox({c[0], c[1]}, {c[2], c[3]}, corner, std::clamp(static_cast<int>(corner * view_.scale), 4, 48)));
    for (Point& p : line) p = view_.pixel(p);
  }
  if (const double width = context_.number("panelLine"); width > 0) {
    Stroke& stroke = art.strokes.emplace_back();
    stroke.colour = stroke.second = premultiplied(context_.colour("panelLineColour"), seen);
    for (const Point& p : edge) stroke.points.push_back({view_.pixel(p), width / 2 * view_.scale});
  }
  return art;
}

std::size_t WordDrawing::typed() const {
  const double share = std::clamp(context_.number("typed"), 0.0, 1.0);
  return static_cast<std::size_t>(std::llround(share * static_cast<double>(set_->letters.size())));
}

template <class Take>
void WordDrawing::eachLetter(const Take& take) const {
  const Measure m = measure_;
  const Turns turns(context_, *set_, m.middle, context_.baseNumber("size"));
  const double ahead = context_.number("ahead");
  const std::size_t offset = context_.index("offset");
  const std::size_t size = context_.index("letterSize");
  const std::size_t turn = context_.index("letterTurn");
  const std::size_t opacity = context_.index("letterOpacity");
  const std::size_t blur = context_.index("letterBlur");
  const Point besideAll = context_.point("offset");
  const PassBy by = context_.passesBy();
  const bool strays = context_.moving(offset);
  const bool sized = context_.moving(size) || context_.moving(context_.index("size"));
  const bool moves = strays || context_.moving(turn) || context_.moving(size) || context_.moving(blur) ||
                     (way_ && context_.moving(context_.index("rounds")));
  const auto place = [&](std::size_t i) {
    const Letter& letter = set_->letters[i];
    if (letter.lines.empty() && !letter.colours.plane) return;
    const Piece piece = pieceOf(by, *set_, letter, i);
    const LapShift shift{ahead * turns.of(letter, i), 1, piece};
    const Passed passed = by == PassBy::Whole ? Passed() : context_.passed(piece);
    const auto own = [&](std::size_t id) {
      return context_.moving(id) ? context_.shiftedNumber(id, shift) : std::get<double>(context_.here(id).value);
    };
    const Stand stand = standOf(letter.middle, letter.wide);
    const double seen = own(opacity) * passed.opacity * stand.seen;
    const double large = own(size) * m.size * passed.size;
    if (!(seen > 1.0 / 2048) || !(large * view_.scale > 1e-3)) return;
    const Point beside = strays ? std::get<Point>(context_.shifted(offset, shift).value) : besideAll;
    const double turned = (own(turn) + passed.turn) * kDegree;
    const double blurred = std::max(0.0, own(blur)) + passed.blur;
    const bool stands = !moves && blurred <= 0 && passed.size == 1 && passed.turn == 0 && passed.offset == Point{};
    take(Placed{i,
                letter,
                shift,
                seen,
                stands,
                {stand.at.x + beside.x * stand.along.x - beside.y * stand.along.y + passed.offset.x,
                 stand.at.y + beside.x * stand.along.y + beside.y * stand.along.x + passed.offset.y},
                {(std::cos(turned) * stand.along.x - std::sin(turned) * stand.along.y) * large,
                 (std::sin(turned) * stand.along.x + std::cos(turned) * stand.along.y) * large},
                blurred,
                !sized && passed.size == 1});
  };
  constexpr int kTogether = 16;
  parallelBands(
      static_cast<int>(typed()),
      [&](int from, int to) {
        for (int i = from; i < to; ++i) place(static_cast<std::size_t>(i));
      },
      kTogether);
}

// In pixels of the view.
std::vector<std::vector<Point>> WordDrawing::outlineOf(const Placed& placed) const {
  std::vector<std::vector<Point>> lines;
  const auto& [c, s] = placed.along;
  for (const auto& contour : placed.letter.lines) {
    auto& points = lines.emplace_back();
    points.reserve(contour.size());
    for (const Point& p : contour) points.push_back(view_.pixel({placed.at.x + p.x * c - p.y * s, placed.at.y + p.x * s + p.y * c}));
    points.back() = points.front();
  }
  return lines;
}

// Null where its outline is to be drawn. As large as it would be without what a view that moves makes of it.
std::shared_ptr<const LetterPicture> WordDrawing::pictureOf(const Placed& placed) const {
  if (placed.stands && !placed.letter.colours.plane) return nullptr;
  const double large = std::hypot(placed.along.x, placed.along.y);
  return letterPicture(set_, placed.index, {large * view_.scale, std::min(placed.blur, kMaxSigma) / 2 / large, placed.steady});
}

DrawnLetters WordDrawing::letters() const {
  DrawnLetters drawn;
  LineArt& art = drawn.standing;
  const std::string_view fill = context_.choice("fill");
  const bool white = painted();
  const std::size_t colour = context_.index("colour");
  const std::size_t other = context_.index("other");
  const std::size_t starred = context_.index("starColour");
  const auto last = static_cast<double>(std::max<std::size_t>(1, set_->letters.size() - 1));
  // Letters in one colour go together, as long as they do not move over each other.
  const bool still = !context_.moving(context_.index("offset")) && !context_.moving(context_.index("letterTurn")) &&
                     !context_.moving(context_.index("letterSize")) && context_.passesBy() == PassBy::Whole && !way_;
  struct Made {
    std::array<float, 4> ink;
    std::optional<LetterMark> mark;
    std::vector<std::vector<Point>> lines;
  };
  std::vector<std::optional<Made>> all(typed());
  eachLetter([&](const Placed& placed) {
    const auto tinted = [&](std::size_t id) {
      return std::get<Colour>(context_.moving(id) ? context_.shifted(id, placed.shift).value : context_.here(id).value);
    };
    const Colour tint = white ? Colour{1, 1, 1, 1}
                        : fill == "along" && !placed.letter.emphasised
                            ? mixColours(tinted(colour), tinted(other), static_cast<double>(placed.index) / last, ColourMixing::OkLab)
                            : tinted(placed.letter.emphasised                      ? starred
                                     : fill == "by turns" && placed.index % 2 != 0 ? other
                                                                                   : colour);
    Made& made = all[placed.index].emplace();
    made.ink = premultiplied(tint, placed.seen);
    if (auto picture = pictureOf(placed)) {
      const auto seen = [&](double x, double y) { return view_.pixel({placed.at.x + x, placed.at.y + y}); };
      const Point middle = seen(0, 0);
      const Point right = seen(placed.along.x, placed.along.y);
      const Point below = seen(-placed.along.y, placed.along.x);
      const bool own = picture->colours != nullptr;
      made.mark =
          letterMark(std::move(picture), {middle, {right.x - middle.x, right.y - middle.y}, {below.x - middle.x, below.y - middle.y}},
                     own ? std::array{0.0F, 0.0F, 0.0F, static_cast<float>(placed.seen)} : made.ink);
    } else {
      made.lines = outlineOf(placed);
    }
  });
  drawn.moving.reserve(
      static_cast<std::size_t>(std::count_if(all.begin(), all.end(), [](const auto& made) { return made && made->mark; })));
  for (auto& made : all) {
    if (!made) continue;
    if (made->mark) {
      (made->mark->picture->colours ? drawn.coloured : drawn.moving).push_back(std::move(*made->mark));
    } else if (still && !art.fillings.empty() && art.fillings.back().colour == made->ink) {
      auto& together = art.fillings.back().lines;
      together.insert(together.end(), std::make_move_iterator(made->lines.begin()), std::make_move_iterator(made->lines.end()));
    } else {
      art.fillings.push_back({std::move(made->lines), made->ink});
    }
  }
  caret(art);
  return drawn;
}

std::unique_ptr<RowMaker> DrawnLetters::rows(const PlaneView& view) && {
  if (moving.empty()) return lineArtRows(std::move(standing), view.width, view.height);
  if (standing.fillings.empty()) return letterRows(std::move(moving), view.width, view.height);
  std::vector<std::shared_ptr<const RowMaker>> both;
  both.push_back(lineArtRows(std::move(standing), view.width, view.height));
  both.push_back(letterRows(std::move(moving), view.width, view.height));
  return stackedRows(std::move(both), view.width);
}

// Behind the last letter that is typed, on for half of each blink.
void WordDrawing::caret(LineArt& art) const {
  if (!context_.toggle("caret") || set_->letters.empty()) return;
  const double blinks = context_.number("blinks");
  if (blinks != 0 && fract(context_.progress("blinks") * blinks) >= 0.5) return;
  const Measure m = measure_;
  const std::size_t count = typed();
  const Letter& beside = set_->letters[count == 0 ? 0 : count - 1];
  const double wide = 0.07 * m.size;
  const Stand stand = standOf({beside.middle.x + (count == 0 ? -0.5 : 0.5) * beside.wide + 0.095, beside.middle.y}, 0.07);
  if (stand.seen < 0.5) return;
  const double high = (kHigh + 0.12) * m.size;
  Filling& filling = art.fillings.emplace_back();
  filling.colour = premultiplied(painted() ? Colour{1, 1, 1, 1} : context_.colour("colour"));
  auto& line = filling.lines.emplace_back();
  for (const Point p : {Point{-wide / 2, -high}, {wide / 2, -high}, {wide / 2, high}, {-wide / 2, high}, {-wide / 2, -high}})
    line.push_back(
        view_.pixel({stand.at.x + p.x * stand.along.x - p.y * stand.along.y, stand.at.y + p.x * stand.along.y + p.y * stand.along.x}));
}

LineArt WordDrawing::lines() const {
  LineArt art;
  const double width = context_.number("line");
  if (width <= 0) return art;
  const Colour colour = context_.colour("lineColour");
  std::vector<std::vector<Stroke>> all(typed());
  eachLetter([&](const Placed& placed) {
    for (const auto& points : outlineOf(placed)) {
      Stroke& stroke = all[placed.index].emplace_back();
      stroke.colour = stroke.second = premultiplied(colour, placed.seen);
      for (const Point& p : points) stroke.points.push_back({p, width / 2 * view_.scale});
    }
  });
  for (auto& strokes : all) std::move(strokes.begin(), strokes.end(), std::back_inserter(art.strokes));
  return art;
}

}  // namespace oa
