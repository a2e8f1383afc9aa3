// Words: lines of a font, filled, moving letter by letter, with a panel behind them that fits.
#include <algorithm>
#include <array>
#include <cmath>
#include <memory>
#include <numbers>
#include <optional>
#include <vector>

#include "base/numbers.h"
#include "base/random.h"
#include "image/colour.h"
#include "shapes/line_art.h"
#include "shapes/premultiplied.h"
#include "shapes/rounded_box.h"
#include "steps/step.h"
#include "words/typeset.h"
#include "words/words_params.h"

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

// The panel about the words, or they alone: left, top, right and bottom on the plane.
std::array<double, 4> boxOf(const StepContext& context, const Typeset& set) {
  const Measure m = measureOf(context);
  const Point more = context.toggle("panel") ? context.point("padding") : Point{};
  return {m.middle.x + set.left * m.size - more.x, m.middle.y + set.top * m.size - more.y, m.middle.x + set.right * m.size + more.x,
          m.middle.y + set.bottom * m.size + more.y};
}

class Drawing {
 public:
  explicit Drawing(const StepContext& context) : context_(context), view_(context.view()), set_(typeset(styleOf(context))) {}

  LineArt art() {
    panel();
    letters();
    return std::move(art_);
  }

 private:
  void panel() {
    if (!context_.toggle("panel")) return;
    const auto box = boxOf(context_, *set_);
    if (!(box[2] > box[0]) || !(box[3] > box[1])) return;
    Filling& filling = art_.fillings.emplace_back();
    // It comes and goes with the first of the words.
    const PassBy by = context_.passesBy();
    const double seen = by == PassBy::Whole ? 1 : std::clamp(context_.passed(pieceOf(by, *set_, {}, 0)).there, 0.0, 1.0);
    filling.colour = premultiplied(context_.colour("panelColour"), seen);
    const double round = context_.number("panelCorner");
    auto& line = filling.lines.emplace_back(
        roundedBox({box[0], box[1]}, {box[2], box[3]}, round, std::clamp(static_cast<int>(round * view_.scale), 4, 48)));
    for (Point& p : line) p = view_.pixel(p);
  }

  void letters() {
    const Measure m = measureOf(context_);
    const Turns turns(context_, *set_);
    const double ahead = context_.number("ahead");
    const std::size_t offset = context_.index("offset");
    const std::size_t size = context_.index("letterSize");
    const std::size_t turn = context_.index("letterTurn");
    const std::size_t opacity = context_.index("letterOpacity");
    const std::string_view fill = context_.choice("fill");
    const std::size_t colour = context_.index("colour");
    const std::size_t other = context_.index("other");
    const PassBy by = context_.passesBy();
    const double line = context_.number("line");
    const auto count = static_cast<double>(std::max<std::size_t>(1, set_->letters.size() - 1));
    for (std::size_t i = 0; i < set_->letters.size(); ++i) {
      const Letter& letter = set_->letters[i];
      if (letter.lines.empty()) continue;
      const Piece piece = pieceOf(by, *set_, letter, i);
      const LapShift shift{ahead * turns.of(letter, i), 1, piece};
      const Passed passed = by == PassBy::Whole ? Passed() : context_.passed(piece);
      const auto own = [&](std::size_t id) {
        return context_.moving(id) ? context_.shiftedNumber(id, shift) : std::get<double>(context_.here(id).value);
      };
      const auto tinted = [&](std::size_t id) {
        return std::get<Colour>(context_.moving(id) ? context_.shifted(id, shift).value : context_.here(id).value);
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
      const Colour tint = fill == "along" ? mixColours(tinted(colour), tinted(other), static_cast<double>(i) / count, ColourMixing::OkLab)
                                          : tinted(fill == "by turns" && i % 2 != 0 ? other : colour);
      Filling filling;
      filling.colour = premultiplied(tint, seen);
      for (const auto& contour : letter.lines) {
        auto& points = filling.lines.emplace_back();
        points.reserve(contour.size());
        for (const Point& p : contour) points.push_back(view_.pixel({at.x + p.x * c - p.y * s, at.y + p.x * s + p.y * c}));
        points.back() = points.front();
        if (line > 0) {
          Stroke& stroke = art_.strokes.emplace_back();
          stroke.colour = stroke.second = premultiplied(context_.colour("lineColour"), seen);
          for (const Point& p : points) stroke.points.push_back({p, line / 2 * view_.scale});
        }
      }
      add(std::move(filling));
    }
  }

  // Letters in one colour go together, as long as they do not move over each other.
  void add(Filling filling) {
    const bool still = !context_.moving(context_.index("offset")) && !context_.moving(context_.index("letterTurn")) &&
                       !context_.moving(context_.index("letterSize")) && context_.passesBy() == PassBy::Whole;
    if (still && !art_.fillings.empty() && gathered_ && art_.fillings.back().colour == filling.colour) {
      auto& lines = art_.fillings.back().lines;
      lines.insert(lines.end(), std::make_move_iterator(filling.lines.begin()), std::make_move_iterator(filling.lines.end()));
      return;
    }
    art_.fillings.push_back(std::move(filling));
    gathered_ = true;
  }

  const StepContext& context_;
  const PlaneView& view_;
  std::shared_ptr<const Typeset> set_;
  bool gathered_ = false;
  LineArt art_;
};

std::unique_ptr<RowMaker> make(const StepContext& context) {
  return lineArtRows(Drawing(context).art(), context.view().width, context.view().height);
}

ReferenceField reference(const StepContext& context, ReferenceField) {
  const auto art = std::make_shared<const LineArt>(Drawing(context).art());
  return [art](int x, int y) { return ReferencePixel{4, plainLineArtPixel(*art, x, y)}; };
}

// The lines with what letters stray from them, and the panel. Parts of letters may lie beyond what the font says of its lines.
std::optional<std::array<double, 4>> extent(const StepContext& context) {
  const auto set = typeset(styleOf(context));
  auto box = boxOf(context, *set);
  const double size = context.number("size");
  const double larger = std::max(0.0, context.most("letterSize") - 1) * size;
  const double more = context.most("offset") + context.number("line") / 2 + larger + 0.35 * size;
  return std::array{box[0] - more, box[1] - more, box[2] + more, box[3] + more};
}

}  // namespace

const StepSpec& wordsStep() {
  static const StepSpec spec{.id = "words",
                             .title = "Words",
                             .group = "source",
                             .help = "Words in a font, moving letter by letter if they should, with a panel that fits them.",
                             .kind = StepKind::Source,
                             .params = wordsParams(),
                             .ready = readyWords(),
                             .shelf = {.section = "Words", .rank = 2},
                             .extent = extent,
                             .pieces = true,
                             .masks = true,
                             .source = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
