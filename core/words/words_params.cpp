#include "words/words_params.h"

#include <string>
#include <utility>
#include <vector>

#include "fields/field_params.h"
#include "params/table.h"

namespace oa {
namespace {

using namespace table;

ParamSpec toggle(std::string_view id, std::string_view label, std::string_view help, bool base) {
  return {.id = id, .label = label, .help = help, .type = ParamType::Toggle, .base = base, .rule = LoopRule::Fixed};
}

ParamSpec with(std::string_view id, ParamSpec spec, double atLeast = 0) {
  spec.shownWhen = ShownWhen{id, {}, atLeast};
  return spec;
}

std::vector<ParamSpec> tableOfWords() {
  const auto ordered = [](ParamSpec spec) {
    return field_params::when(std::move(spec), "order", {"forwards", "backwards", "from the middle", "random"});
  };
  const auto barred = [](ParamSpec spec) { return field_params::when(std::move(spec), "bar", {"left", "right", "top", "bottom"}); };
  // Whole rounds of a lap.
  const auto whole = [](ParamSpec spec) {
    spec.rule = LoopRule::Progress;
    spec.defaultLaps = 1;
    return spec;
  };
  ParamSpec weight =
      count("weight", "Weight", "How heavy it is: 400 is regular, 700 bold; the nearest there is.", {700, 100, 900, 100, 900});
  return {
      {.id = "text",
       .label = "Words",
       .help = "What is said; Return begins another line.",
       .type = ParamType::Text,
       .base = Text{"Harbour\nDays"},
       .rule = LoopRule::Fixed},
      {.id = "font",
       .label = "Font",
       .help = "The family of its font; one that is not there is replaced until it is.",
       .type = ParamType::Font,
       .base = Text{"League Spartan"},
       .rule = LoopRule::Fixed},
      std::move(weight),
      fixed(number("stretch", "Width", "How wide letters are beside what the font makes them.", {1, 0.2, 5, 0.5, 2}, Unit::Ratio)),
      toggle("italic", "Italic", "Slanted, where the font has it.", false),
      fixed(choice("capitals", "Capitals", "As they were typed, all as capitals, or small ones as small capitals.", "as typed",
                   {"as typed", "capitals", "small capitals"})),
      logarithmic(number("size", "Size", "How large the font is.", {150, 1, 8192, 12, 600}, Unit::Pixels)),
      choice("align", "Lines", "How lines stand to each other.", "centre", {"left", "centre", "right"}),
      fixed(number("box", "Box width", "How wide lines are at most before they are broken; 0: they are not.", {0, 0, 16384, 0, 1920},
                   Unit::Pixels)),
      fixed(share("spacing", "Letter space", "More between letters, as a share of the font's size.", 0, -0.5, 4)),
      fixed(number("leading", "Line space", "From line to line, beside what the font asks for.", {1, 0.2, 6, 0.6, 2}, Unit::Ratio)),
      field_params::place("centre", "Centre", {0.5, 0.5}, "Where their middle lies; 0 to 1 across and down the frame."),

      inSection("Colour", fixed(choice("fill", "Fill",
                                       "One colour, one that goes over into another from the first letter to the last, two "
                                       "by turns, a gradient over all of them, or what another layer shows.",
                                       "plain", {"plain", "along", "by turns", "gradient", "layer"}))),
      colour("colour", "Colour", "What they are filled with.", 0xf7e7c8),
      field_params::when(colour("other", "Other colour", "What the colour goes over into.", 0xc8472b), "fill",
                         {"along", "by turns", "gradient"}),
      field_params::when(angle("fillAngle", "Direction", "Where the gradient goes: 0 is right, 90 is down.", 90), "fill", {"gradient"}),
      field_params::when({.id = "layer",
                          .label = "Layer",
                          .help = "The layer or group whose picture the letters are cut out of.",
                          .type = ParamType::Layer,
                          .base = 0.0,
                          .min = 0,
                          .max = 1e9,
                          .rule = LoopRule::Fixed},
                         "fill", {"layer"}),
      number("line", "Outline", "Width of a line along their edge; 0: there is none.", {0, 0, 512, 0, 30}, Unit::Pixels),
      with("line", colour("lineColour", "its colour", "What the line is drawn in.", 0x10222c), 0.01),

      inSection("Shadow and glow", share("shadow", "Shadow", "How dark a shadow the letters throw; 0: none.", 0)),
      with("shadow", offset("shadowOffset", "its offset", "How far beside them it lies.", {6, 8}, 2048, 80), 0.001),
      with("shadow", number("shadowSoft", "its softness", "How far it is blurred.", {18, 0, 1000, 0, 120}, Unit::Pixels), 0.001),
      with("shadow", colour("shadowColour", "its colour", "What it is coloured in.", 0x04090d), 0.001),
      number("glow", "Glow", "How strongly the letters glow; 0: not at all.", {0, 0, 4, 0, 2}, Unit::Ratio),
      with("glow", number("glowReach", "its reach", "How far the glow is seen.", {60, 0, 2000, 0, 300}, Unit::Pixels), 0.001),
      with("glow", colour("glowColour", "its colour", "What they glow in.", 0xff9a4a), 0.001),

      inSection("Typing", share("typed", "Typed", "How much of the words is there, letter after letter.", 1)),
      toggle("caret", "Caret", "A bar behind the last letter that is there.", false),
      with("caret", whole(number("blinks", "Blinks", "How often it goes out and on again within a lap; 0: it stays.", {6, 0, 400, 0, 40},
                                 Unit::None))),

      inSection("Letter by letter", choice("order", "Order", "How the motions of the letters follow each other; together, all move as one.",
                                           "forwards", {"together", "forwards", "backwards", "from the middle", "random"})),
      ordered(choice("by", "One by one", "What follows each other.", "letter", {"letter", "word", "line"})),
      ordered(fixed(
          number("ahead", "Spread over", "How many laps lie between the first and the last of them.", {1, -16, 16, 0, 3}, Unit::None))),
      offset("offset", "Offset", "How far each lies beside its place.", {0, 0}, 8192, 200),
      logarithmic(number("letterSize", "Letter size", "How large each is beside the others.", {1, 0, 20, 0.1, 4}, Unit::Ratio)),
      angle("letterTurn", "Letter turn", "Turns each about its middle.", 0),
      share("letterOpacity", "Opacity", "How much each covers what lies below it.", 1),
      field_params::when(field_params::seed("Another number, another random order."), "order", {"random"}),

      inSection("Panel", toggle("panel", "Panel", "A panel behind them that fits, whatever they say.", false)),
      with("panel", colour("panelColour", "its colour", "What the panel is filled with.", 0x1f7672)),
      with("panel", offset("padding", "Padding", "How far it reaches beyond the words, across and down.", {64, 28}, 4096, 200)),
      with("panel", number("panelCorner", "its corners", "How round they are.", {28, 0, 4096, 0, 200}, Unit::Pixels)),
      with("panel",
           number("panelLine", "its outline", "Width of a line along its edge; 0: there is none.", {0, 0, 512, 0, 30}, Unit::Pixels)),
      with("panelLine", colour("panelLineColour", "in colour", "What the line is drawn in.", 0xf7e7c8), 0.01),
      with("panel", fixed(choice("bar", "Bar", "A bar along one of its sides.", "none", {"none", "left", "right", "top", "bottom"}))),
      barred(number("barWidth", "its width", "How wide the bar is.", {16, 0, 1024, 0, 100}, Unit::Pixels)),
      barred(colour("barColour", "its colour", "What the bar is filled with.", 0xc8472b)),
      inSection("Font", fixed({.id = "features",
                               .label = "Features",
                               .help = "Features of the font, as in CSS: tnum, ss01, \"liga\" 0.",
                               .type = ParamType::Text,
                               .base = Text{}})),
  };
}

}  // namespace

std::span<const ParamSpec> wordsParams() {
  static const std::vector<ParamSpec> list = tableOfWords();
  return list;
}

}  // namespace oa
