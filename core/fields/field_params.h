// Parameters that several sources and steps have in common, declared once.
#pragma once

#include <initializer_list>
#include <optional>
#include <string_view>
#include <vector>

#include "params/spec.h"

namespace oa::field_params {

ParamSpec cell(double size, std::string_view help);
ParamSpec stretch();
ParamSpec angle(std::string_view help = "Turns the field about the middle of the frame.");
/// Of what makes ends meet: which of them, how soft a cut is, and how far light is evened out (image/seamless.h).
ParamSpec meet(std::string_view base);
ParamSpec softCut(double base);
ParamSpec evenLight();
ParamSpec travel();
/// A place that may lie outside the frame; 0 to 1 across and down it.
ParamSpec place(std::string_view id, std::string_view label, Point at, std::string_view help);
/// How far a lattice evolves within a lap, in whole cells of its inner time.
ParamSpec churn(double cells, std::string_view help);
/// How far ahead of what it shows a copy is.
ParamSpec headStart(std::string_view help);
/// A direction, or how far something is turned, read modulo a round; with a grip it is dragged in the picture.
ParamSpec turned(std::string_view id, std::string_view label, double degrees, std::string_view help, std::optional<Grip> grip = {});
/// What goes by whole ones within a lap, to both sides; the slider covers `most` of them.
ParamSpec goneBy(std::string_view id, std::string_view label, double count, double most, std::string_view help);
/// Frames that each of many stills is held for.
ParamSpec held(std::string_view help);
ParamSpec seed(std::string_view help = "Another number, another field of the same kind.");
ParamSpec contrast();
ParamSpec brightness();
ParamSpec tone();
ParamSpec invert();
/// What lies beyond the frame for steps that read there (Edge in image/borders.h); `before`: for files that do not say it.
ParamSpec edges(std::string_view before);

/// The same parameter, shown only while `param` holds one of `choices`.
ParamSpec when(ParamSpec spec, std::string_view param, std::vector<std::string_view> choices);
/// The same parameter, with the motion that a source begins with which would stand still.
ParamSpec begins(ParamSpec spec, MotionKind motion);

}  // namespace oa::field_params
