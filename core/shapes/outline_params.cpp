#include "shapes/outline_params.h"

#include <vector>

#include "fields/field_params.h"
#include "params/table.h"

namespace oa {
namespace {

using namespace table;

// Only where there is something of it to be seen: a width of half a pixel, or one of a count.
ParamSpec with(std::string_view number, ParamSpec spec, double atLeast = 0.5) {
  spec.shownWhen = ShownWhen{number, {}, atLeast};
  return spec;
}

// How often something goes round within a lap.
ParamSpec rounds(std::string_view id, std::string_view label, std::string_view help, double base) {
  ParamSpec spec = number(id, label, help, {base, -40, 40, -6, 6}, Unit::None);
  spec.rule = LoopRule::Progress;
  spec.defaultLaps = 1;
  return spec;
}

// A stone from the beach.
Outline pebble() {
  return *outlineFromPath(
      "M-40 -230 C90 -262 262 -190 300 -40 C332 88 236 214 84 236 C-70 258 -246 214 -300 70 C-346 -60 -200 -192 -40 -230 Z");
}

std::vector<ParamSpec> tableOfOutline() {
  const auto light = [](ParamSpec spec) { return with("lights", std::move(spec), 1); };
  const auto strand = [](ParamSpec spec) { return with("strands", std::move(spec), 1); };
  const auto evenly = [](ParamSpec spec) { return field_params::when(std::move(spec), "strandAt", {"evenly"}); };
  const auto dashed = [](ParamSpec spec) { return with("dashes", std::move(spec), 1); };
  const auto filled = [](ParamSpec spec) {
    spec.shownWhen = ShownWhen{"fill", {}, 0};
    spec.shownWhen->with = "along";
    spec.shownWhen->withChoices = {"outline"};
    return spec;
  };
  const auto along = [](ParamSpec spec, Choices ways) { return field_params::when(std::move(spec), "along", std::move(ways)); };
  ParamSpec outline{.id = "outline",
                    .label = "Outline",
                    .help = "The line, through its points, in pixels from the middle of the frame. Its poses are keyframes.",
                    .type = ParamType::Outline,
                    .base = pebble(),
                    .min = -16384,
                    .max = 16384,
                    .unit = Unit::Pixels};
  ParamSpec fill{.id = "fill",
                 .label = "Filled",
                 .help = "What lies within the line is filled.",
                 .type = ParamType::Toggle,
                 .base = true,
                 .rule = LoopRule::Fixed};
  ParamSpec inTurn{.id = "inTurn",
                   .label = "One by one",
                   .help = "Where there are several lines, they are drawn one after the other, as by one pen; else all at once.",
                   .type = ParamType::Toggle,
                   .base = true,
                   .rule = LoopRule::Fixed};
  return {
      choice("along", "Along",
             "Which line it is: one of your own, the frame's, the edges of what another layer shows, or those of a drawing.", "outline",
             {"outline", "frame", "layer", "drawing"}),
      along(std::move(outline), {"outline"}),
      along({.id = "layer",
             .label = "Layer",
             .help = "The layer or group whose edges the line follows, wherever it goes.",
             .type = ParamType::Layer,
             .base = 0.0,
             .min = 0,
             .max = 1e9,
             .rule = LoopRule::Fixed},
            {"layer"}),
      along({.id = "file",
             .label = "Drawing",
             .help = "The SVG drawing whose lines are drawn.",
             .type = ParamType::File,
             .base = MediaRef{},
             .rule = LoopRule::Fixed},
            {"drawing"}),
      along(number("inset", "Inset", "How far within the frame's edge it runs.", {36, 0, 4096, 0, 300}, Unit::Pixels), {"frame"}),
      along(number("corner", "Corner", "How round its corners are.", {28, 0, 4096, 0, 300}, Unit::Pixels), {"frame"}),
      along(std::move(inTurn), {"drawing", "layer"}),
      along(field_params::place("centre", "Centre", {0.5, 0.5}, "Where its middle lies; 0 to 1 across and down the frame."),
            {"outline", "drawing"}),
      along(logarithmic(number("size", "Size", "How large it is beside what was drawn.", {1, 0.01, 100, 0.1, 4}, Unit::Ratio)),
            {"outline", "drawing"}),
      along(angle("turn", "Turn", "Turns it about its middle.", 0), {"outline", "drawing"}),

      inSection("Line", number("width", "Width", "How thick the line is; 0: it is not there.", {10, 0, 2048, 0, 60}, Unit::Pixels)),
      with("width", colour("colour", "Colour", "What the line is drawn in.", 0xf3cf9b)),
      with("width", number("softness", "Softness", "Width of its edge.", {0, 0, 2048, 0, 80}, Unit::Pixels)),
      with("width", share("taper", "Taper", "How much of it gets thinner towards its ends, where it has any.", 0)),
      with("width", count("dashes", "Dashes", "In how many dashes it is drawn; 0: without a gap.", {0, 0, 500, 0, 60})),
      dashed(share("dash", "Dash", "How much of its place a dash takes up.", 0.55, 0.01, 1)),
      dashed(rounds("dashTravel", "Moving on", "By how many dashes they move along within a lap; negative goes back.", 1)),
      with("width", share("from", "Drawn from", "Where it begins to be drawn, as a share of its length.", 0)),
      with("width", share("drawn", "Drawn up to", "Up to where it is drawn. From 0 to 1 and back it is drawn and taken away.", 1)),

      inSection("Fill", along(std::move(fill), {"outline"})),
      filled(colour("fillColour", "Colour", "What it is filled with.", 0x1f7672)),

      inSection("Wobble", number("wobble", "Reach", "How far the line strays to both sides.", {16, 0, 2048, 0, 120}, Unit::Pixels)),
      with("wobble", number("bumps", "Bumps", "How many there are along the line.", {3, 1, 60, 1, 16}, Unit::Count)),
      with("wobble", rounds("wobbling", "Rounds", "How often it comes home within a lap.", 1)),

      inSection("Running light", count("lights", "Lights", "How many parts of the line are lit.", {0, 0, 100, 0, 12})),
      light(share("lightLength", "Length", "How long each is, as a share of the line.", 0.18)),
      light(rounds("lightTravel", "Rounds", "How often each goes along the whole line within a lap; negative goes back.", 1)),
      light(share("lightStart", "Start", "Where the first one begins, as a share of the line.", 0)),
      light(number("lightWidth", "Width", "How thick it is.", {14, 0.1, 2048, 1, 60}, Unit::Pixels)),
      light(share("lightTail", "Tail", "How far it gets thinner and fainter towards its end.", 0.8)),
      light(number("lightGlow", "Glow", "How far it glows.", {40, 0, 2048, 0, 200}, Unit::Pixels)),
      light(colour("lightColour", "Colour", "At its head.", 0xfff0cf)),
      light(colour("tailColour", "Tail colour", "At its end.", 0xc8472b)),

      inSection("Strands", count("strands", "Strands", "How many hang from the line.", {0, 0, 2000, 0, 60})),
      strand(fixed(choice("strandAt", "Hang from",
                          "From places that lie evenly along it, or from the points of an outline of your own, one from each.", "evenly",
                          {"evenly", "its points"}))),
      evenly(share("strandFrom", "From", "Where the first one hangs, as a share of the line.", 0)),
      evenly(share("strandTo", "To", "Where the last one hangs.", 1)),
      strand(choice("hang", "Hang", "All one way, or away from the line.", "one way", {"one way", "outwards"})),
      strand(angle("strandTurn", "Way", "Which way they hang: 90 is down; from the line it is counted where they hang outwards.", 90)),
      strand(number("strandLength", "Length", "How long they are.", {220, 1, 8192, 10, 800}, Unit::Pixels)),
      strand(share("strandDiffer", "Difference", "How much shorter some are than others.", 0.35)),
      strand(number("strandWidth", "Width", "How thick they are where they hang.", {12, 0.1, 1024, 1, 60}, Unit::Pixels)),
      strand(share("strandTaper", "Taper", "How far they get thinner towards their tips.", 0.9)),
      strand(colour("strandColour", "Colour", "Where they hang.", 0xf3cf9b)),
      strand(colour("tipColour", "Tip colour", "At their tips.", 0xc8472b)),
      strand(angle("curl", "Curl", "By how much they are bent from end to end.", 0)),
      strand(number("sway", "Sway", "By how much their tips sway to each side.", {40, 0, 720, 0, 120}, Unit::Degrees)),
      strand(rounds("swaying", "Swings", "How often each sways within a lap.", 1)),
      strand(number("waves", "Waves", "How many waves lie along each.", {0.6, 0, 20, 0, 4}, Unit::None)),
      strand(number("strandAhead", "Head starts", "How many swings lie between the first and the last of them.", {1, -16, 16, 0, 3},
                    Unit::None)),
      field_params::seed("Another number, other bumps and lengths."),
  };
}

}  // namespace

std::span<const ParamSpec> outlineParams() {
  static const std::vector<ParamSpec> list = tableOfOutline();
  return list;
}

}  // namespace oa
