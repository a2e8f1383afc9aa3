// What the tables say, for people and for programs.
#pragma once

#include <string>

#include "params/param_json.h"
#include "steps/step.h"

namespace oa {

Json describeParam(const ParamSpec& spec);
Json describeStep(const StepSpec& step);
/// A page of Markdown: the table of parameters.
std::string describeStepText(const StepSpec& step);
/// JSON Schema (draft 2020-12) of the scene format.
Json sceneSchema();

}  // namespace oa
