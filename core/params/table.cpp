#include "params/table.h"

#include <utility>

#include "image/colour.h"

namespace oa::table {

ParamSpec number(std::string_view id, std::string_view label, std::string_view help, Range range, Unit unit) {
  return {.id = id,
          .label = label,
          .help = help,
          .base = range.base,
          .min = range.min,
          .max = range.max,
          .sliderMin = range.sliderMin,
          .sliderMax = range.sliderMax,
          .unit = unit};
}

ParamSpec share(std::string_view id, std::string_view label, std::string_view help, double base, double min, double max) {
  return number(id, label, help, {base, min, max, min, max}, Unit::Share);
}

// A count does not move: copies would come and go.
ParamSpec count(std::string_view id, std::string_view label, std::string_view help, Range range) {
  ParamSpec spec = number(id, label, help, range, Unit::Count);
  spec.type = ParamType::Integer;
  spec.rule = LoopRule::Fixed;
  return spec;
}

ParamSpec choice(std::string_view id, std::string_view label, std::string_view help, std::string base, Choices choices) {
  ParamSpec spec{.id = id, .label = label, .help = help, .type = ParamType::Choice, .base = std::move(base), .rule = LoopRule::Fixed};
  spec.choices = std::move(choices);
  return spec;
}

ParamSpec angle(std::string_view id, std::string_view label, std::string_view help, double base) {
  return {.id = id,
          .label = label,
          .help = help,
          .type = ParamType::Angle,
          .base = base,
          .min = -36000,
          .max = 36000,
          .sliderMin = -180,
          .sliderMax = 180,
          .unit = Unit::Degrees,
          .rule = LoopRule::Round};
}

ParamSpec colour(std::string_view id, std::string_view label, std::string_view help, unsigned hex) {
  return {.id = id, .label = label, .help = help, .type = ParamType::Colour, .base = hexColour(hex)};
}

ParamSpec fixed(ParamSpec spec) {
  spec.rule = LoopRule::Fixed;
  return spec;
}

ParamSpec offset(std::string_view id, std::string_view label, std::string_view help, Point base, double reach, double slider) {
  return {.id = id,
          .label = label,
          .help = help,
          .type = ParamType::Point,
          .base = base,
          .min = -reach,
          .max = reach,
          .sliderMin = -slider,
          .sliderMax = slider,
          .unit = Unit::Pixels};
}

ParamSpec inSection(std::string_view section, ParamSpec spec) {
  spec.section = section;
  return spec;
}

ParamSpec logarithmic(ParamSpec spec) {
  spec.logScale = true;
  return spec;
}

}  // namespace oa::table
