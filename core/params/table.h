// Short ways to declare the parameters of long tables.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "params/spec.h"

namespace oa::table {

using Choices = std::vector<std::string_view>;

struct Range {
  double base;
  double min;
  double max;
  double sliderMin;
  double sliderMax;
};

ParamSpec number(std::string_view id, std::string_view label, std::string_view help, Range range, Unit unit);
ParamSpec share(std::string_view id, std::string_view label, std::string_view help, double base, double min = 0, double max = 1);
ParamSpec count(std::string_view id, std::string_view label, std::string_view help, Range range);
ParamSpec choice(std::string_view id, std::string_view label, std::string_view help, std::string base, Choices choices);
ParamSpec angle(std::string_view id, std::string_view label, std::string_view help, double base);
ParamSpec colour(std::string_view id, std::string_view label, std::string_view help, unsigned hex);
ParamSpec fixed(ParamSpec spec);
ParamSpec offset(std::string_view id, std::string_view label, std::string_view help, Point base, double reach, double slider);
ParamSpec inSection(std::string_view section, ParamSpec spec);
ParamSpec logarithmic(ParamSpec spec);

}  // namespace oa::table
