// A flat colour. The smallest source: docs/adding-a-step.md walks through it.
#include "simd/colour_table.h"
#include "steps/step.h"

namespace oa {
namespace {

const ParamSpec kParams[] = {
    {.id = "colour",
     .label = "Colour",
     .help = "The colour of the whole layer; its alpha lets layers below shine through.",
     .type = ParamType::Colour,
     .base = hexColour(0x1f4e5a)},
};

class FlatRows final : public SpanMaker {
 public:
  FlatRows(int width, std::shared_ptr<const ColourTable> table) : SpanMaker(width), width_(width), table_(std::move(table)) {}
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return table_->opaque(); }
  [[nodiscard]] bool hides(int, int, int) const override { return table_->opaque(); }
  void span(int, int, int n, float* out) const override { table_->fill(0, n, out); }
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override { return std::make_shared<FlatRows>(width_, table_->linear()); }

 private:
  int width_;
  std::shared_ptr<const ColourTable> table_;
};

std::unique_ptr<RowMaker> make(const StepContext& context) {
  const Colour c = context.colour("colour");
  const std::vector<std::array<float, 4>> one{{c.r * c.a, c.g * c.a, c.b * c.a, c.a}};
  return std::make_unique<FlatRows>(context.view().width, std::make_shared<const ColourTable>(one));
}

ReferenceField reference(const StepContext& context, ReferenceField) {
  const Colour c = context.colour("colour");
  return [c](int, int) { return ReferencePixel{4, {c.r * c.a, c.g * c.a, c.b * c.a, c.a}}; };
}

}  // namespace

const StepSpec& flatStep() {
  static const StepSpec spec{.id = "flat",
                             .title = "Flat colour",
                             .group = "source",
                             .help = "One colour over the whole frame.",
                             .kind = StepKind::Source,
                             .params = kParams,
                             .shelf = {.section = "Colours", .rank = 2},
                             .source = make,
                             .reference = reference};
  return spec;
}

}  // namespace oa
