// Words: lines of a font, filled, moving letter by letter, with a panel behind them that fits, a shadow and a glow.
#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <memory>
#include <numbers>
#include <optional>
#include <vector>

#include "image/blur.h"
#include "image/colour.h"
#include "image/cropped.h"
#include "image/stacked.h"
#include "steps/step.h"
#include "words/word_drawing.h"
#include "words/words_params.h"

namespace oa {
namespace {

// What lies below the letters and has their shape: blurred, moved and in one colour.
struct Halo {
  Point offset;      // pixels of the plane
  double sigma = 0;  // pixels of the plane
  Colour colour;
  double strength = 1;
};

// The lowest first. A glow is a wide one with a narrow one in it, so that it falls off as light does.
std::vector<Halo> halosOf(const StepContext& context) {
  std::vector<Halo> halos;
  if (const double shadow = context.number("shadow"); shadow > 0) {
    Colour colour = context.colour("shadowColour");
    colour.a *= static_cast<float>(shadow);
    halos.push_back({context.point("shadowOffset"), context.number("shadowSoft") / 2, colour, 1});
  }
  if (const double glow = context.number("glow"); glow > 0) {
    const double reach = context.number("glowReach");
    for (const double share : {0.5, 0.16}) halos.push_back({{}, reach * share, context.colour("glowColour"), glow});
  }
  return halos;
}

// Colours along a line through a box.
class Gradient {
 public:
  Gradient(const PlaneView& view, const Colour& from, const Colour& to, double degrees, const std::array<double, 4>& box) : view_(view) {
    const double angle = degrees * (std::numbers::pi / 180);
    const double half = std::max(1e-6, (std::abs(std::cos(angle)) * (box[2] - box[0]) + std::abs(std::sin(angle)) * (box[3] - box[1])) / 2);
    middle_ = {(box[0] + box[2]) / 2, (box[1] + box[3]) / 2};
    along_ = {std::cos(angle) / (2 * half), std::sin(angle) / (2 * half)};
    for (std::size_t i = 0; i < kSteps; ++i) {
      const Colour c = mixColours(from, to, static_cast<double>(i) / (kSteps - 1), ColourMixing::OkLab);
      table_[i] = {c.r * c.a, c.g * c.a, c.b * c.a, c.a};
    }
  }
  [[nodiscard]] std::array<double, 4> at(int x, int y) const {
    const Point p = view_.place(x, y);
    const double t = std::clamp(0.5 + (p.x - middle_.x) * along_.x + (p.y - middle_.y) * along_.y, 0.0, 1.0) * (kSteps - 1);
    const auto i = std::min<std::size_t>(kSteps - 2, static_cast<std::size_t>(t));
    std::array<double, 4> out{};
    for (std::size_t c = 0; c < 4; ++c)
      out[c] = static_cast<double>(table_[i][c]) + static_cast<double>(table_[i + 1][c] - table_[i][c]) * (t - static_cast<double>(i));
    return out;
  }

 private:
  static constexpr std::size_t kSteps = 64;
  PlaneView view_;
  Point middle_;
  Point along_;
  std::array<std::array<float, 4>, kSteps> table_{};
};

class GradientRows final : public SpanMaker {
 public:
  GradientRows(const Gradient& gradient, int width) : SpanMaker(width), gradient_(gradient) {}
  [[nodiscard]] int channels() const override { return 4; }
  void span(int y, int x0, int n, float* out) const override {
    for (int i = 0; i < n; ++i, out += 4) {
      const auto c = gradient_.at(x0 + i, y);
      for (std::size_t k = 0; k < 4; ++k) out[k] = static_cast<float>(c[k]);
    }
  }

 private:
  Gradient gradient_;
};

Gradient letterGradient(const StepContext& context, const WordDrawing& drawing) {
  return {context.view(), context.colour("colour"), context.colour("other"), context.number("fillAngle"), drawing.box()};
}
Gradient panelGradient(const StepContext& context, const WordDrawing& drawing) {
  return {context.view(), context.colour("panelColour"), context.colour("panelOther"), context.number("panelAngle"), drawing.panelBox()};
}

std::shared_ptr<const RowMaker> drawn(LineArt art, const PlaneView& view) { return lineArtRows(std::move(art), view.width, view.height); }

bool looksBelow(std::span<const Param> params) {
  const Values values(wordsParams(), params, {});
  return values.toggle("panel") && values.most("panelBlur") > 0;
}

// Blurred, where the panel is.
std::shared_ptr<const RowMaker> behind(const StepContext& context, const Input& below) {
  const PlaneView& view = context.view();
  auto shape = drawn(WordDrawing(context).panelShape(), view);
  const double sigma = std::min(context.number("panelBlur") / 2 * view.scale, kMaxSigma);
  const PixelBox box = shape->bounds().within({0, 0, view.width, view.height});
  if (box.empty()) return shape;
  // Wide blurs work on cells: they stay where they are when the panel moves.
  const int around = (blurReach(sigma) + kBlurCells - 1) / kBlurCells * kBlurCells;
  const int left = box.x0 / kBlurCells * kBlurCells;
  const int top = box.y0 / kBlurCells * kBlurCells;
  const PlaneView part = view.part(left - around, top - around, box.x1 - left + 2 * around, box.y1 - top + 2 * around);
  auto picture = below.pull(part);
  if (sigma > 0.05) picture = blurred(*picture, part.width, part.height, {sigma, sigma, Edge::Clamp, true});
  const PixelBox whole{left, top, box.x1, box.y1};
  picture = cropped(std::move(picture), around, around, whole.x1 - whole.x0, part.width);
  return paintedRows(std::move(shape), patched(std::move(picture), whole, view.width), view.width);
}

// With those that have colours of their own.
std::shared_ptr<const RowMaker> shapeOf(DrawnLetters letters, const PlaneView& view) {
  if (letters.coloured.empty()) return std::move(letters).rows(view);
  std::vector<std::shared_ptr<const RowMaker>> both;
  auto coloured = std::move(letters.coloured);
  both.push_back(std::move(letters).rows(view));
  both.push_back(letterRows(std::move(coloured), view.width, view.height));
  return stackedRows(std::move(both), view.width);
}

std::shared_ptr<const RowMaker> haloRows(const StepContext& context, const Halo& halo) {
  const PlaneView& view = context.view();
  PlaneView moved = view;
  moved.left -= halo.offset.x;
  moved.top -= halo.offset.y;
  const double sigma = std::min(halo.sigma * view.scale, kMaxSigma);
  const int around = sigma > 0.05 ? blurReach(sigma) : 0;
  const PlaneView wanted = moved.grown(around);
  const StepContext there(context, wanted);
  const auto shape = shapeOf(WordDrawing(there).letters(), wanted);
  // Only round the letters there is anything; wide blurs work on cells, which stay where they are.
  const PixelBox view0{around, around, around + view.width, around + view.height};
  const PixelBox reach = shape->bounds().grown(around).within({0, 0, wanted.width, wanted.height});
  const PixelBox seen = reach.within(view0);
  if (seen.empty()) return patched(shape, {0, 0, 0, 0}, view.width);
  const int left = reach.x0 / kBlurCells * kBlurCells;
  const int top = reach.y0 / kBlurCells * kBlurCells;
  const PlaneView part = wanted.part(left, top, reach.x1 - left, reach.y1 - top);
  std::shared_ptr<const RowMaker> field = alphaRows(shapeOf(WordDrawing(StepContext(context, part)).letters(), part), part.width);
  if (around > 0) field = blurred(*field, part.width, part.height, {sigma, sigma, Edge::Clamp, false});
  field = cropped(std::move(field), seen.x0 - left, seen.y0 - top, seen.x1 - seen.x0, part.width);
  return patched(tintedRows(std::move(field), halo.colour, halo.strength, seen.x1 - seen.x0), seen.moved(-around, -around), view.width);
}

std::unique_ptr<RowMaker> make(const StepContext& context, const Input& layer) {
  const PlaneView& view = context.view();
  const WordDrawing drawing(context);
  const auto halos = halosOf(context);
  const bool graded = drawing.gradedPanel() && context.toggle("panel");
  const bool unpainted = halos.empty() && !drawing.painted() && !graded;
  LineArt panel = drawing.panel();
  LineArt trim = drawing.trim();
  DrawnLetters letters = drawing.letters();
  LineArt lines = drawing.lines();
  if (unpainted && trim.strokes.empty() && letters.moving.empty() && letters.coloured.empty()) {
    // All of it is one drawing.
    for (LineArt* above : {&trim, &letters.standing})
      panel.fillings.insert(panel.fillings.end(), std::make_move_iterator(above->fillings.begin()),
                            std::make_move_iterator(above->fillings.end()));
    panel.strokes = std::move(lines.strokes);
    return lineArtRows(std::move(panel), view.width, view.height);
  }
  const bool only = panel.fillings.empty() && trim.fillings.empty() && trim.strokes.empty() && lines.strokes.empty();
  if (only && unpainted && letters.coloured.empty()) return std::move(letters).rows(view);
  std::vector<std::shared_ptr<const RowMaker>> pictures;
  // What is not there needs no picture of its own.
  if (!panel.fillings.empty()) pictures.push_back(drawn(std::move(panel), view));
  if (graded && !pictures.empty())
    pictures.back() = paintedRows(pictures.back(), std::make_shared<GradientRows>(panelGradient(context, drawing), view.width), view.width);
  if (!trim.fillings.empty() || !trim.strokes.empty()) pictures.push_back(drawn(std::move(trim), view));
  for (const Halo& halo : halos) pictures.push_back(haloRows(context, halo));
  auto coloured = std::move(letters.coloured);
  std::shared_ptr<const RowMaker> shape = std::move(letters).rows(view);
  if (context.choice("fill") == "gradient")
    shape = paintedRows(shape, std::make_shared<GradientRows>(letterGradient(context, drawing), view.width), view.width);
  else if (drawing.painted())
    shape = paintedRows(shape, layer.pull(view), view.width);
  pictures.push_back(std::move(shape));
  if (!coloured.empty()) pictures.push_back(letterRows(std::move(coloured), view.width, view.height));
  if (!lines.strokes.empty()) pictures.push_back(drawn(std::move(lines), view));
  return stackedRows(std::move(pictures), view.width);
}

std::array<double, 4> plainShape(const DrawnLetters& letters, int x, int y) {
  auto pixel = plainLineArtPixel(letters.standing, x, y);
  const auto above = plainLetterPixel(letters.moving, x, y);
  for (std::size_t c = 0; c < 4; ++c) pixel[c] = above[c] + pixel[c] * (1 - above[3]);
  return pixel;
}

// A Gaussian of the alpha of the letters, pixel by pixel.
class PlainHalo {
 public:
  PlainHalo(const StepContext& context, const Halo& halo) : halo_(halo), sigma_(halo.sigma * context.view().scale) {
    PlaneView moved = context.view();
    moved.left -= halo.offset.x;
    moved.top -= halo.offset.y;
    const StepContext there(context, moved);
    letters_ = std::make_shared<const DrawnLetters>(WordDrawing(there).letters());
    reach_ = sigma_ < 0.05 ? 0 : static_cast<int>(std::ceil(sigma_ * 4));
  }
  [[nodiscard]] std::array<double, 4> at(int x, int y) {
    const double share = std::clamp(sum([&](int k) { return across(x, y + k); }) * halo_.strength, 0.0, 1.0);
    const Colour& c = halo_.colour;
    const double a = static_cast<double>(c.a) * share;
    return {static_cast<double>(c.r) * a, static_cast<double>(c.g) * a, static_cast<double>(c.b) * a, a};
  }

 private:
  template <class At>
  double sum(const At& at) const {
    double total = 0;
    double weights = 0;
    for (int k = -reach_; k <= reach_; ++k) {
      const double w = reach_ == 0 ? 1 : std::exp(-0.5 * k * k / (sigma_ * sigma_));
      total += w * at(k);
      weights += w;
    }
    return total / weights;
  }
  double across(int x, int y) {
    if (const auto known = across_.find({x, y}); known != across_.end()) return known->second;
    return across_[{x, y}] = sum([&](int k) { return alpha(x + k, y); });
  }
  double alpha(int x, int y) {
    if (const auto known = alpha_.find({x, y}); known != alpha_.end()) return known->second;
    const double above = plainLetterPixel(letters_->coloured, x, y)[3];
    return alpha_[{x, y}] = above + plainShape(*letters_, x, y)[3] * (1 - above);
  }
  Halo halo_;
  double sigma_;
  int reach_ = 0;
  std::shared_ptr<const DrawnLetters> letters_;
  std::map<std::pair<int, int>, double> alpha_;
  std::map<std::pair<int, int>, double> across_;
};

// What another layer shows is not asked for here.
ReferenceField reference(const StepContext& context, ReferenceField) {
  const WordDrawing drawing(context);
  const auto panel = std::make_shared<const LineArt>(drawing.panel());
  const auto trim = std::make_shared<const LineArt>(drawing.trim());
  const auto letters = std::make_shared<const DrawnLetters>(drawing.letters());
  const auto lines = std::make_shared<const LineArt>(drawing.lines());
  auto halos = std::make_shared<std::vector<PlainHalo>>();
  for (const Halo& halo : halosOf(context)) halos->emplace_back(context, halo);
  const bool inGradient = context.choice("fill") == "gradient";
  const Gradient gradient = letterGradient(context, drawing);
  const bool graded = drawing.gradedPanel();
  const Gradient ofPanel = panelGradient(context, drawing);
  return [=](int x, int y) {
    std::array<double, 4> total{};
    const auto in = [&](bool painted, const Gradient& paint, const std::array<double, 4>& shape) {
      if (!painted) return shape;
      std::array<double, 4> colour = paint.at(x, y);
      for (double& v : colour) v *= shape[3];
      return colour;
    };
    const auto over = [&](const std::array<double, 4>& above) {
      const double left = 1 - above[3];
      for (std::size_t c = 0; c < 4; ++c) total[c] = above[c] + total[c] * left;
    };
    over(in(graded, ofPanel, plainLineArtPixel(*panel, x, y)));
    over(plainLineArtPixel(*trim, x, y));
    for (PlainHalo& halo : *halos) over(halo.at(x, y));
    over(in(inGradient, gradient, plainShape(*letters, x, y)));
    over(plainLetterPixel(letters->coloured, x, y));
    over(plainLineArtPixel(*lines, x, y));
    return ReferencePixel{4, total};
  };
}

// The lines with what letters stray from them, and the panel. Parts of letters may lie beyond what the font says of its lines.
std::optional<std::array<double, 4>> extent(const StepContext& context) {
  const WordDrawing drawing(context);
  const auto box = drawing.everBox();
  const double size = context.number("size");
  const double larger = std::max(0.0, context.most("letterSize") - 1) * size;
  const double pointed = context.toggle("panel") && context.choice("notch") != "none" ? std::max(0.0, -context.number("notchDepth")) : 0;
  const double more = context.most("offset") + context.number("line") / 2 + larger + 0.35 * size + pointed + 2 * context.most("letterBlur");
  return std::array{box[0] - more, box[1] - more, box[2] + more, box[3] + more};
}

// How far shadow and glow go beyond.
double beyond(const StepContext& context) {
  double most = 0;
  for (const Halo& halo : halosOf(context))
    most = std::max(most, std::max(std::abs(halo.offset.x), std::abs(halo.offset.y)) + 3 * halo.sigma);
  return most;
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
                             .beyond = beyond,
                             .pieces = true,
                             .masks = true,
                             .reads = SourceReads::Stamp,
                             .looksBelow = looksBelow,
                             .behind = behind,
                             .stamped = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
