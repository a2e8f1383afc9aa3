// Tones become colours.
#include <algorithm>

#include "base/numbers.h"
#include "params/stop_items.h"
#include "simd/colour_table.h"
#include "steps/step.h"

namespace oa {
namespace {

constexpr int kEntries = 1024;

const ParamSpec kParams[] = {
    {.id = "strength",
     .label = "Strength",
     .help = "How much of the new colour replaces the old one.",
     .base = 1.0,
     .min = 0,
     .max = 1,
     .unit = Unit::Share},
    {.id = "mixing",
     .label = "Mixing",
     .help = "OKLab keeps the steps even to the eye; display mixes the stored values, as older programs do.",
     .type = ParamType::Choice,
     .base = std::string("oklab"),
     .rule = LoopRule::Fixed,
     .choices = {"oklab", "display"}},
    {.id = "travel",
     .label = "Travel",
     .help = "How many whole rounds the colours go along the map in a lap.",
     .base = 0.0,
     .min = -64,
     .max = 64,
     .sliderMin = -4,
     .sliderMax = 4,
     .rule = LoopRule::Progress,
     .defaultLaps = 1},
    {.id = "round",
     .label = "Round",
     .help = "What follows the last colour: the same colours back to the first, or the first at once.",
     .type = ParamType::Choice,
     .base = std::string("back"),
     .rule = LoopRule::Fixed,
     .choices = {"back", "again"},
     .shownWhen = ShownWhen{"travel", {}, 1}},
};

void beginning(std::size_t i, std::span<Value> values) {
  static constexpr std::pair<double, unsigned> kBeginnings[] = {{0, 0x102a39}, {0.55, 0x1f7672}, {1, 0xf4e6c8}};
  const auto& [at, colour] = kBeginnings[std::min<std::size_t>(i, 2)];
  values[kStopAt] = at;
  values[kStopColour] = hexColour(colour);
}

const ItemsSpec kStops{.id = "stops",
                       .single = "Colour",
                       .help = "The colours of the tones, from black at the left to white at the right.",
                       .params = stopParams(),
                       .first = 3,
                       .beginning = beginning,
                       .place = "at",
                       .alongLine = true};

ColourMixing mixingOf(const StepContext& context) {
  return context.choice("mixing") == "oklab" ? ColourMixing::OkLab : ColourMixing::Display;
}

// The map as it stands at a moment: its stops, and how far along it the colours have gone.
struct Map {
  Stops stops;
  ColourMixing mixing;
  double gone;  // [0, 1) of a round
  bool back;

  explicit Map(const StepContext& context)
      : stops(stopsOf(context)),
        mixing(mixingOf(context)),
        gone(fract(context.progress("travel") * context.number("travel"))),
        back(context.choice("round") == "back") {}

  [[nodiscard]] Colour at(double tone) const {
    if (gone == 0) return colourAt(stops, tone, mixing);
    // A round that goes back is two maps long.
    const double t = back ? fract(tone / 2 - gone) * 2 : fract(tone - gone);
    return colourAt(stops, t <= 1 ? t : 2 - t, mixing);
  }
  [[nodiscard]] std::shared_ptr<const ColourTable> table() const {
    if (gone == 0) return ColourTable::baked(stops, mixing, kEntries);
    std::vector<std::array<float, 4>> entries;
    for (int i = 0; i < kEntries; ++i) {
      const Colour c = at(static_cast<double>(i) / (kEntries - 1));
      entries.push_back({c.r * c.a, c.g * c.a, c.b * c.a, c.a});
    }
    return std::make_shared<const ColourTable>(std::move(entries));
  }
};

// The table of a field: the grey that was there is mixed in beforehand, so strength costs nothing per pixel.
std::shared_ptr<const ColourTable> fieldTable(const StepContext& context) {
  auto full = Map(context).table();
  const auto strength = static_cast<float>(context.number("strength"));
  if (strength >= 1) return full;
  auto entries = full->entries();
  for (std::size_t i = 0; i < entries.size(); ++i) {
    const float grey = static_cast<float>(i) / (kEntries - 1);
    const float old[4] = {grey, grey, grey, 1};
    for (std::size_t c = 0; c < 4; ++c) entries[i][c] = old[c] + (entries[i][c] - old[c]) * strength;
  }
  return std::make_shared<const ColourTable>(std::move(entries));
}

class FieldMap final : public PointKernel {
 public:
  explicit FieldMap(std::shared_ptr<const ColourTable> table) : table_(std::move(table)) {}
  [[nodiscard]] int outChannels() const override { return 4; }
  [[nodiscard]] bool keepsOpaque() const override { return table_->opaque(); }
  [[nodiscard]] std::shared_ptr<const PointKernel> linear() const override { return std::make_shared<FieldMap>(table_->linear()); }
  void apply(const float* in, float* out, int n, int /*x0*/, int /*y*/) const override { table_->map(in, n, out); }

 private:
  std::shared_ptr<const ColourTable> table_;
};

class PictureMap final : public PointKernel {
 public:
  explicit PictureMap(const StepContext& context)
      : table_(Map(context).table()), strength_(static_cast<float>(context.number("strength"))) {}
  [[nodiscard]] int outChannels() const override { return 4; }
  [[nodiscard]] bool keepsOpaque() const override { return table_->opaque() || strength_ == 0; }
  void apply(const float* in, float* out, int n, int /*x0*/, int /*y*/) const override {
    constexpr int kChunk = 128;
    alignas(64) float tone[kChunk];
    alignas(64) float mapped[kChunk * 4];
    for (int start = 0; start < n; start += kChunk) {
      const int count = std::min(kChunk, n - start);
      const float* p = in + start * 4;
      for (int i = 0; i < count; ++i) {
        const float a = p[i * 4 + 3];
        const float luma = kLuma[0] * p[i * 4] + kLuma[1] * p[i * 4 + 1] + kLuma[2] * p[i * 4 + 2];
        tone[i] = a > 0 ? luma / a : 0;
      }
      std::fill(tone + count, tone + std::min(kChunk, (count + kSpanPadding - 1) / kSpanPadding * kSpanPadding), 0.0f);
      table_->map(tone, count, mapped);
      float* o = out + start * 4;
      for (int i = 0; i < count * 4; ++i) {
        const float a = p[i | 3];
        const float target = mapped[i] * a;
        o[i] = p[i] + (target - p[i]) * strength_;
      }
    }
  }

 private:
  std::shared_ptr<const ColourTable> table_;
  float strength_;
};

std::unique_ptr<PointKernel> make(const StepContext& context, int inChannels) {
  if (inChannels == 1) return std::make_unique<FieldMap>(fieldTable(context));
  return std::make_unique<PictureMap>(context);
}

ReferenceField reference(const StepContext& context, ReferenceField input) {
  const Map map(context);
  const double strength = context.number("strength");
  return [=](int x, int y) {
    const ReferencePixel p = input(x, y);
    const double alpha = p.channels == 1 ? 1 : p.v[3];
    double tone = std::clamp(p.v[0], 0.0, 1.0);
    std::array<double, 4> old{tone, tone, tone, 1};
    if (p.channels == 4) {
      tone = alpha > 0 ? (kLuma[0] * p.v[0] + kLuma[1] * p.v[1] + kLuma[2] * p.v[2]) / alpha : 0;
      old = p.v;
    }
    const Colour c = map.at(tone);
    const std::array<double, 4> target{c.r * c.a * alpha, c.g * c.a * alpha, c.b * c.a * alpha, c.a * alpha};
    ReferencePixel out{4, {}};
    for (std::size_t i = 0; i < 4; ++i) out.v[i] = mix(old[i], target[i], strength);
    return out;
  };
}

// Colours that follow each other closely are as good as an edge; so is the end of the map where it begins again.
double smooth(const StepContext& context, double input) {
  const Map map(context);
  if (map.gone != 0 && !map.back) return 0;
  double closest = 1;
  for (std::size_t i = 1; i < map.stops.size(); ++i)
    if (map.stops[i].colour != map.stops[i - 1].colour) closest = std::min(closest, map.stops[i].at - map.stops[i - 1].at);
  return closest < 0.04 ? 0 : input * std::cbrt(std::min(1.0, 2 * closest));
}

}  // namespace

const StepSpec& colourmapStep() {
  static const StepSpec spec{.id = "colourmap",
                             .title = "Colour map",
                             .group = "colour",
                             .help = "Gives every tone a colour, at an adjustable strength.",
                             .kind = StepKind::Point,
                             .params = kParams,
                             .items = &kStops,
                             .coloursFields = true,
                             .point = make,
                             .smooth = smooth,
                             .reference = reference};
  return spec;
}

}  // namespace oa
