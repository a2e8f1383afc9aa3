#include "shapes/repeat_params.h"

#include "shapes/line_order.h"

#include <iterator>
#include <string>
#include <vector>

#include "fields/field_params.h"
#include "image/colour.h"
#include "shapes/outline_shape.h"
#include "shapes/spread.h"
#include "params/table.h"

namespace oa {
namespace {

using namespace table;

ParamSpec when(ParamSpec spec, Choices spreads) { return field_params::when(std::move(spec), "spread", std::move(spreads)); }

ParamSpec stampWhen(ParamSpec spec, Choices kinds) { return field_params::when(std::move(spec), "kind", std::move(kinds)); }

const Choices kPlain{"disc", "ring", "rectangle", "bar", "line", "polygon", "star", "arc", "drop", "petal"};
const Choices kTinted{"disc", "ring", "dot", "rectangle", "bar", "line", "polygon", "star", "arc", "drop", "petal", "outline"};
const Choices kColoured{"disc", "ring", "dot", "rectangle", "bar", "line", "polygon", "star", "arc", "drop", "petal"};

// Those that an outline is drawn of.
const Choices kLined{"disc", "rectangle", "bar", "polygon", "star", "drop", "petal", "outline"};

std::vector<ParamSpec> stampParams() {
  const auto lined = [](ParamSpec spec) {
    spec.shownWhen = ShownWhen{"line", {}, 0.01};
    spec.shownWhen->with = "kind";
    spec.shownWhen->withChoices = kLined;
    return spec;
  };
  const auto dashed = [](ParamSpec spec) {
    spec.shownWhen = ShownWhen{"dashes", {}, 1};
    return spec;
  };
  ParamSpec plays =
      number("plays", "Plays", "How often a clip or animated picture is played within a lap.", {1, -64, 64, -8, 8}, Unit::None);
  plays.rule = LoopRule::Progress;
  plays.defaultLaps = 1;
  plays.shownWhen = ShownWhen{"file", {"moving"}, 0, {}, "kind", {"picture"}};
  std::vector<ParamSpec> list{
      choice("kind", "Shape",
             "What is repeated: a plain shape, an outline of your own, a picture or drawing from a file, or another layer.", "disc",
             {"disc", "ring", "dot", "rectangle", "bar", "line", "polygon", "star", "arc", "drop", "petal", "outline", "picture", "layer"}),
      {.id = "file",
       .label = "File",
       .help = "The picture or drawing that is repeated.",
       .type = ParamType::File,
       .base = MediaRef{},
       .rule = LoopRule::Fixed,
       .shownWhen = ShownWhen{"kind", {"picture"}}},
      std::move(plays),
      {.id = "outline",
       .label = "Outline",
       .help = "Its line, through its points; draw it in the picture.",
       .type = ParamType::Outline,
       .base = outlineFromPath("M60 0 C30 -38 -24 -36 -46 0 L-74 -26 L-74 26 L-46 0 C-24 36 30 38 60 0 Z").value_or(circleOutline(60)),
       .min = -16384,
       .max = 16384,
       .unit = Unit::Pixels,
       .shownWhen = ShownWhen{"kind", {"outline"}}},
      stampWhen(colour("colour", "Colour", "What it is filled with.", 0xf3cf9b), kTinted),
      field_params::begins(logarithmic(number("size", "Size", "How wide it is.", {54, 0, 8192, 4, 600}, Unit::Pixels)), MotionKind::Swing),
      logarithmic(number("tall", "Height", "How high it is for its width.", {1, 0.02, 50, 0.1, 10}, Unit::Ratio)),
      angle("turn", "Turn", "Turns it about its middle.", 0),
      share("opacity", "Opacity", "How much it covers what lies below it.", 1),
      stampWhen(number("sides", "Sides", "How many sides it has, or points.", {5, 3, kMostSides, 3, 12}, Unit::Count), {"polygon", "star"}),
      stampWhen(share("depth", "Depth", "How far it is cut in between its points.", 0.55, 0, 0.95), {"star"}),
      stampWhen(share("corner", "Corner", "How round its corners are.", 0.2), {"rectangle", "polygon", "star"}),
      stampWhen(share("thick", "Thickness", "Of its line, as a share of its size.", 0.12, 0.005, 0.5), {"ring", "line", "arc"}),
      stampWhen(share("open", "Opening", "How much of the ring is left away.", 0.5, 0, 0.99), {"arc"}),
      stampWhen(number("line", "Outline", "Width of an outline along its edge; 0 fills it.", {0, 0, 2048, 0, 30}, Unit::Pixels), kLined),
      lined(count("dashes", "Dashes", "In how many dashes its outline is drawn; 0: without a gap.", {0, 0, 200, 0, 40})),
      dashed(share("dash", "Dash", "How much of its place a dash takes up.", 0.55, 0.01, 1)),
      lined(share("taper", "Taper", "How much of it, or of each dash, gets thinner towards its ends.", 0)),
      stampWhen(number("softness", "Softness", "Width of its edge.", {0, 0, 2048, 0, 120}, Unit::Pixels), kPlain),
      stampWhen(number("glow", "Glow", "How far it glows beyond its edge.", {0, 0, 2048, 0, 160}, Unit::Pixels), kPlain),
      stampWhen(fixed(choice("fill", "Fill", "One colour, or one that goes over into another: across it, or from its middle outwards.",
                             "plain", {"plain", "across", "outwards"})),
                kColoured),
      field_params::when(colour("other", "Other colour", "What its colour goes over into.", 0xc8472b), "fill", {"across", "outwards"}),
      field_params::when(angle("fillTurn", "Way", "Which way its colour goes over; 90 is downwards.", 90), "fill", {"across"}),
      offset("offset", "Offset", "How far it lies beside its place.", {0, 0}, 8192, 300),
      fixed(share("share", "Share", "How often this stamp comes among the others.", 1)),
  };
  for (ParamSpec& spec : list)
    if (spec.id == "sides") {
      spec.type = ParamType::Integer;
      spec.rule = LoopRule::Fixed;
    }
  return list;
}

// What else a repeat may have: each stamp that is added is of another kind and colour.
struct Beginning {
  std::string_view kind;
  unsigned colour;
};
constexpr Beginning kBeginnings[] = {{"disc", 0xf3cf9b}, {"ring", 0xe08a55}, {"star", 0xf7e7c8},      {"petal", 0x4f8fa3},
                                     {"drop", 0x9bc4bf}, {"bar", 0xc8472b},  {"rectangle", 0xeda86d}, {"dot", 0xf3ead2}};

void beginning(std::size_t i, std::span<Value> values) {
  const Beginning& start = kBeginnings[i % std::size(kBeginnings)];
  values[0] = std::string(start.kind);
  values[4] = hexColour(start.colour);
}

const Choices kCells{"grid", "staggered", "honeycomb", "columns"};
const Choices kRound{"ring", "spiral", "sunflower"};
const Choices kOrders{"random", "in order", "rows", "columns", "outwards", "lightness"};

ParamSpec gripped(ParamSpec spec, Grip grip) {
  spec.grip = grip;
  return spec;
}

std::vector<ParamSpec> tableOfRepeat() {
  Choices orders = kOrders;
  Choices starts{"together"};
  orders.push_back(kAlongALine);
  starts.insert(starts.end(), orders.begin(), orders.end());
  ParamSpec passes = number("passes", "Passes",
                            "How often each comes by within a lap: the farthest ones, nearer ones once more for each depth; negative goes "
                            "the other way.",
                            {1, -40, 40, -6, 6}, Unit::None);
  passes.rule = LoopRule::Progress;
  passes.defaultLaps = 1;
  ParamSpec travel{.id = "travel",
                   .label = "Travel",
                   .help = "How often the whole of it passes by within a lap, to the right and down; negative goes back.",
                   .type = ParamType::Point,
                   .base = Point{},
                   .min = -64,
                   .max = 64,
                   .sliderMin = -4,
                   .sliderMax = 4,
                   .rule = LoopRule::Progress,
                   .defaultLaps = 1};
  ParamSpec even{.id = "even",
                 .label = "Even",
                 .help = "No two nearer to each other than their distance; else they lie anywhere.",
                 .type = ParamType::Toggle,
                 .base = true,
                 .rule = LoopRule::Fixed};
  ParamSpec aligned{.id = "aligned",
                    .label = "Aligned",
                    .help = "They turn as the line runs that they stand on; else they stay upright.",
                    .type = ParamType::Toggle,
                    .base = false,
                    .rule = LoopRule::Fixed};
  ParamSpec path{.id = "path",
                 .label = "Path",
                 .help = "The line that the copies go along, in pixels from the centre; draw it in the picture.",
                 .type = ParamType::Outline,
                 .base = outlineFromPath("M-700 120 C-480 -260 -240 -260 0 0 C240 260 480 260 700 -120").value_or(circleOutline(300)),
                 .min = -16384,
                 .max = 16384,
                 .unit = Unit::Pixels};
  const auto kept = [](ParamSpec spec) { return field_params::when(std::move(spec), "keep", {"rectangle", "ellipse"}); };
  const auto ordered = [&](ParamSpec spec) { return field_params::when(std::move(spec), "order", orders); };
  const auto coloured = [](ParamSpec spec) {
    spec.shownWhen = ShownWhen{"colourBy", {}, 0.001};
    return spec;
  };
  const auto threaded = [](ParamSpec spec) {
    spec.shownWhen = ShownWhen{"thread", {}, 0.001};
    spec.shownWhen->with = "spread";
    spec.shownWhen->withChoices = {"line", "path"};
    return spec;
  };
  const auto nth = [](ParamSpec spec) {
    spec.shownWhen = ShownWhen{"nth", {}, 1};
    return spec;
  };
  return {
      choice("pick", "Stamps", "Which stamp a copy shows where there are several: one after the other, or drawn at random.", "in order",
             {"in order", "random"}),
      choice("blend", "Overlap",
             "How copies go together that lie over each other: the later one on top, their light added, or the lighter.", "over",
             {"over", "add", "lighter"}),
      {.id = "layer",
       .label = "Layer",
       .help = "The layer or group that stamps of the kind \"layer\" show, and whose lightness copies may follow.",
       .type = ParamType::Layer,
       .base = 0.0,
       .min = 0,
       .max = 1e9,
       .rule = LoopRule::Fixed},

      inSection("Spread", choice("spread", "Spread", "How the copies are laid out.", "honeycomb", spreadNames())),
      when(count("count", "Copies", "How many there are; on each ring or line.", {24, 1, 200000, 1, 400}),
           {"ring", "spiral", "sunflower", "line", "path", "falling", "passing", "scattered"}),
      when(gripped(fixed(offset("distance", "Distance", "From each copy to the next, across and down.", {120, 120}, 8192, 400)),
                   {.kind = Grip::Kind::Step, .from = "centre", .turned = "spin"}),
           {"grid", "staggered", "honeycomb", "columns", "scattered"}),
      when(std::move(even), {"scattered"}),
      when(count("columns", "Columns", "How many stand side by side; 0: as many as reach over the frame.", {0, 0, 1000, 0, 40}), kCells),
      when(count("rows", "Rows", "How many stand over each other; 0: as many as reach over the frame.", {0, 0, 1000, 0, 40}), kCells),
      when(fixed(share("stagger", "Stagger", "How far every other row or ring is shifted, as a share of the distance.", 0.5)),
           {"staggered", "ring"}),
      when(std::move(travel), {"grid", "staggered", "honeycomb"}),
      when(field_params::place("centre", "Centre", {0.5, 0.5}, "Where its middle lies; 0 to 1 across and down the frame."),
           {"grid", "staggered", "honeycomb", "columns", "ring", "spiral", "sunflower", "path", "passing", "scattered"}),
      when(angle("spin", "Spin", "Turns the whole about its centre; what passes turns by so much on its way.", 0),
           {"grid", "staggered", "honeycomb", "columns", "ring", "spiral", "sunflower", "passing"}),
      when(gripped(number("radius", "Radius", "How far out it goes.", {360, 1, 16384, 20, 1200}, Unit::Pixels), {.from = "centre"}),
           {"ring", "spiral", "sunflower"}),
      when(gripped(number("inner", "Inner radius", "How far out it begins.", {60, 0, 16384, 0, 600}, Unit::Pixels),
                   {.from = "centre", .turn = 180}),
           kRound),
      when(count("rings", "Rings", "How many rings lie about each other.", {3, 1, 200, 1, 12}), {"ring"}),
      when(fixed(number("turns", "Turns", "How often it goes round.", {4, -100, 100, -12, 12}, Unit::None)), {"spiral"}),
      when(field_params::place("from", "From", {0.04, 0.2}, "Where the line begins; 0 to 1 across and down the frame."), {"line"}),
      when(field_params::place("to", "To", {0.96, 0.2}, "Where it ends."), {"line"}),
      when(share("droop", "Droop", "How deep it hangs, as a share of its length.", 0.12, -2, 2), {"line"}),
      when(count("lines", "Lines", "How many such lines there are.", {2, 1, 200, 1, 12}), {"line"}),
      when(gripped(offset("gap", "Gap", "From each line to the next, across and down.", {0, 130}, 8192, 400),
                   {.kind = Grip::Kind::Step, .from = "from"}),
           {"line"}),
      when(std::move(path), {"path"}),
      when(fixed(number("apart", "Apart", "How far it is from each copy to the next; 0: as many as there are copies.", {0, 0, 8192, 0, 400},
                        Unit::Pixels)),
           {"line", "path"}),
      when(number("thread", "Thread", "How thick the line itself is; 0: it is not there.", {0, 0, 400, 0, 16}, Unit::Pixels),
           {"line", "path"}),
      threaded(colour("threadColour", "its colour", "What the line is drawn in.", 0x4a5560)),
      when(std::move(aligned), {"ring", "spiral", "sunflower", "line", "path"}),
      when(std::move(passes), {"falling", "passing", "path"}),
      when(gripped(fixed(angle("direction", "Direction", "Where they go: 90 falls, -90 rises, 0 goes to the right.", 90)),
                   {.kind = Grip::Kind::Way}),
           {"falling"}),
      when(count("depths", "Depths", "In how many depths they go: smaller and slower ones farther away.", {3, 1, 12, 1, 6}), {"falling"}),
      when(share("far", "Far size", "How large the farthest are beside the nearest.", 0.4, 0.05, 1), {"falling"}),
      when(share("faded", "Fading", "How much fainter they are when they are far; of what passes, how much of its way it fades for.", 0.4),
           {"falling", "passing"}),
      when(number("sway", "Sway", "How far they go to either side on their way.", {30, 0, 4096, 0, 200}, Unit::Pixels), {"falling"}),
      when(share("hurry", "Hurry", "How much quicker they get as they come nearer.", 0.6), {"passing"}),
      field_params::begins(when(share("level", "Level", "Up to where columns are lit; each has its own head start.", 0.35), {"columns"}),
                           MotionKind::Wander),
      when(share("faint", "Unlit", "How much there is of what is not lit.", 0.14), {"columns"}),
      when(fixed(share("held", "Peak", "For how much of a lap the highest is held that a column was at; 0: not.", 0.12, 0, 0.5)),
           {"columns"}),

      inSection("Differences", choice("differ", "By", "What differences between the copies follow.", "random", kOrders)),
      share("sizeBy", "Size", "How much larger or smaller they get: 1 doubles and halves.", 0, -3, 3),
      angle("turnBy", "Turn", "By how much they are turned, to either side.", 0),
      share("opacityBy", "Opacity", "How much fainter some are than others.", 0),
      share("colourBy", "Colour", "How far some go over into another colour.", 0),
      coloured(colour("towards", "Towards", "The colour that they go over into.", 0xc8472b)),
      number("scatter", "Scatter", "How far they lie beside their place, anywhere.", {0, 0, 4096, 0, 120}, Unit::Pixels),
      count("nth", "Every", "Each so many-th is different; 0: none.", {0, 0, 1000, 0, 12}),
      nth(number("nthSize", "its size", "How large it is beside the others.", {1.6, 0, 20, 0, 3}, Unit::Ratio)),
      nth(colour("nthColour", "its colour", "What it is filled with.", 0xc8472b)),
      share("thinned", "Thinned", "How far there are fewer copies where the chosen layer is darker.", 0),
      choice("keep", "Keep out", "A place that is kept free, as for a title.", "nothing", {"nothing", "rectangle", "ellipse"}),
      kept(field_params::place("keepCentre", "Free centre", {0.5, 0.5}, "Where the middle of the free place lies.")),
      kept(gripped(number("keepWidth", "Free width", "How wide the free place is.", {900, 0, 16384, 0, 1920}, Unit::Pixels),
                   {.from = "keepCentre", .times = 2})),
      kept(gripped(number("keepHeight", "Free height", "How high it is.", {300, 0, 16384, 0, 1080}, Unit::Pixels),
                   {.from = "keepCentre", .turn = 90, .times = 2})),
      kept(number("keepSoft", "Free rim", "How far copies fade towards it.", {120, 0, 8192, 0, 600}, Unit::Pixels)),

      inSection("Head starts", choice("order", "Order", "How the motions of the copies follow each other; together, all move as one.",
                                      "random", std::move(starts))),
      ordered(fixed(
          number("ahead", "Spread over", "How many laps lie between the first and the last of them.", {1, -16, 16, 0, 3}, Unit::None))),
      startLineParam(),
      startsBackParam(orders),
      ordered(count("faster", "Quicker", "Some make up to so many times more laps than the others, drawn at random.", {0, 0, 7, 0, 4})),
      field_params::seed("Another number, another chance."),

      inSection("Single copies", {.id = "singles",
                                  .label = "Changed",
                                  .help = "What is different with single copies: they are chosen in the picture, moved, turned, sized, "
                                          "coloured or left out.",
                                  .type = ParamType::Copies,
                                  .base = CopyChanges{},
                                  .rule = LoopRule::Fixed}),
  };
}

}  // namespace

std::span<const ParamSpec> repeatParams() {
  static const std::vector<ParamSpec> list = tableOfRepeat();
  return list;
}

const ItemsSpec& repeatStamps() {
  static const std::vector<ParamSpec> params = stampParams();
  static const ItemsSpec spec{.id = "stamps",
                              .single = "Stamp",
                              .help = "What is repeated; several take turns.",
                              .params = params,
                              .first = 1,
                              .beginning = beginning,
                              .leads = "Stamps"};
  return spec;
}

}  // namespace oa
