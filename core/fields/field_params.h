// Parameters that several sources have in common, declared once.
#pragma once

#include <initializer_list>
#include <string_view>
#include <vector>

#include "params/spec.h"

namespace oa::field_params {

ParamSpec cell(double size, std::string_view help);
ParamSpec stretch();
ParamSpec angle();
ParamSpec travel();
ParamSpec seed();
ParamSpec contrast();
ParamSpec brightness();
ParamSpec tone();
ParamSpec invert();
/// What lies beyond the frame for steps that read there (Edge in image/borders.h).
ParamSpec edges();

/// The same parameter, shown only while `param` holds one of `choices`.
ParamSpec when(ParamSpec spec, std::string_view param, std::vector<std::string_view> choices);

}  // namespace oa::field_params
