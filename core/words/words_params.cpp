#include "words/words_params.h"

#include <string>
#include <utility>
#include <vector>

#include "fields/field_params.h"
#include "params/table.h"
#include "shapes/line_order.h"

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

// From below once round, so that words in its middle stand on top.
Outline ring() {
  return *outlineFromPath("M0 300 C-166 300 -300 166 -300 0 C-300 -166 -166 -300 0 -300 C166 -300 300 -166 300 0 C300 166 166 300 0 300 Z");
}

std::vector<ParamSpec> tableOfWords() {
  const Choices orders{"forwards", "backwards", "from the middle", "random", kAlongALine};
  const auto ordered = [&](ParamSpec spec) { return field_params::when(std::move(spec), "order", orders); };
  const auto ofPanel = [](ParamSpec spec, std::string_view id, Choices choices) {
    spec.shownWhen = ShownWhen{"panel", {}, 0};
    spec.shownWhen->with = id;
    spec.shownWhen->withChoices = std::move(choices);
    return spec;
  };
  const auto barred = [&](ParamSpec spec) { return ofPanel(std::move(spec), "bar", {"left", "right", "top", "bottom"}); };
  const auto notched = [&](ParamSpec spec) { return ofPanel(std::move(spec), "notch", {"left", "right", "top", "bottom"}); };
  const auto graded = [&](ParamSpec spec) { return ofPanel(std::move(spec), "panelFill", {"gradient"}); };
  // Whole rounds of a lap.
  const auto whole = [](ParamSpec spec) {
    spec.rule = LoopRule::Progress;
    spec.defaultLaps = 1;
    return spec;
  };
  const auto starred = [](ParamSpec spec) { return with("stars", std::move(spec)); };
  const auto along = [](ParamSpec spec) { return field_params::when(std::move(spec), "set", {"along an outline"}); };
  ParamSpec outline{.id = "outline",
                    .label = "Outline",
                    .help = "The line that the words stand on, through its points, in pixels from their middle. Its poses are keyframes.",
                    .type = ParamType::Outline,
                    .base = ring(),
                    .min = -16384,
                    .max = 16384,
                    .unit = Unit::Pixels};
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

      inSection("One after the other",
                toggle("pages", "In turn",
                       "Line after line is shown, each alone; or, where there are empty lines, what stands between them.", false)),
      with("pages",
           whole(number("pageRounds", "Rounds", "How often all of them come round within a lap.", {1, 1, 100, 1, 12}, Unit::None))),

      inSection("Letter by letter", choice("order", "Order", "How the motions of the letters follow each other; together, all move as one.",
                                           "forwards", {"together", "forwards", "backwards", "from the middle", "random", kAlongALine})),
      ordered(choice("by", "One by one", "What follows each other.", "letter", {"letter", "word", "line"})),
      ordered(fixed(
          number("ahead", "Spread over", "How many laps lie between the first and the last of them.", {1, -16, 16, 0, 3}, Unit::None))),
      startLineParam(),
      startsBackParam(orders),
      offset("offset", "Offset", "How far each lies beside its place.", {0, 0}, 8192, 200),
      logarithmic(number("letterSize", "Letter size", "How large each is beside the others.", {1, 0, 20, 0.1, 4}, Unit::Ratio)),
      angle("letterTurn", "Letter turn", "Turns each about its middle.", 0),
      number("letterBlur", "Letter blur", "How blurred each is.", {0, 0, 1000, 0, 80}, Unit::Pixels),
      share("letterOpacity", "Opacity", "How much each covers what lies below it.", 1),
      field_params::when(field_params::seed("Another number, another random order."), "order", {"random"}),

      inSection("Along an outline",
                fixed(choice("set", "Set", "In lines, or on a line of your own.", "in lines", {"in lines", "along an outline"}))),
      along(std::move(outline)),
      along(share("startAt", "Middle at", "Where on the outline their middle lies, as a share of its length.", 0.5)),
      along(toggle("spread", "Spaced out", "Letters are spaced so that they take up the whole of it.", false)),
      along(whole(number("rounds", "Travels", "How many rounds they go along the outline within a lap; negative goes back.",
                         {1, -40, 40, -6, 6}, Unit::None))),

      inSection("Words between stars",
                toggle("stars", "Set apart", "What stands between two stars is set in its own way: *so*. Two stars are one star.", false)),
      starred({.id = "starFont",
               .label = "its font",
               .help = "The family of its font.",
               .type = ParamType::Font,
               .base = Text{"Dancing Script"},
               .rule = LoopRule::Fixed}),
      starred(count("starWeight", "its weight", "How heavy it is.", {700, 100, 900, 100, 900})),
      starred(toggle("starItalic", "its slant", "Slanted, where the font has it.", false)),
      starred(fixed(number("starSize", "its size", "How large it is beside the others.", {1.2, 0.05, 20, 0.4, 3}, Unit::Ratio))),
      starred(colour("starColour", "its colour", "What it is filled with.", 0xffb454)),

      inSection("Panel", toggle("panel", "Panel", "A panel behind them that fits, whatever they say.", false)),
      with("panel", colour("panelColour", "its colour", "What the panel is filled with.", 0x1f7672)),
      with("panel",
           fixed(choice("panelFill", "its fill", "With one colour, or one that goes over into another.", "plain", {"plain", "gradient"}))),
      graded(colour("panelOther", "other colour", "What its colour goes over into.", 0x0d2b33)),
      graded(angle("panelAngle", "its direction", "Where the gradient goes: 0 is right, 90 is down.", 90)),
      with("panel",
           number("panelBlur", "blur below", "How far what lies below is blurred behind it; seen where its colour lets it through.",
                  {0, 0, 1000, 0, 120}, Unit::Pixels)),
      with("panel", offset("padding", "Padding", "How far it reaches beyond the words, across and down.", {64, 28}, 4096, 200)),
      with("panel", number("panelCorner", "its corners", "How round they are.", {28, 0, 4096, 0, 200}, Unit::Pixels)),
      with("panel",
           number("panelLine", "its outline", "Width of a line along its edge; 0: there is none.", {0, 0, 512, 0, 30}, Unit::Pixels)),
      with("panelLine", colour("panelLineColour", "in colour", "What the line is drawn in.", 0xf7e7c8), 0.01),
      with("panel", fixed(choice("bar", "Bar", "A bar along one of its sides.", "none", {"none", "left", "right", "top", "bottom"}))),
      barred(number("barWidth", "its width", "How wide the bar is.", {16, 0, 1024, 0, 100}, Unit::Pixels)),
      barred(colour("barColour", "its colour", "What the bar is filled with.", 0xc8472b)),
      with("panel", fixed(choice("notch", "Notch", "A notch in one of its sides, or a point on it.", "none",
                                 {"none", "left", "right", "top", "bottom"}))),
      notched(number("notchDepth", "its depth", "How far it goes in; a negative one is a point that stands out.",
                     {36, -2048, 2048, -100, 100}, Unit::Pixels)),
      notched(share("notchWidth", "its width", "How much of the side it takes up.", 1, 0.02, 1)),
      inSection("Font", fixed({.id = "features",
                               .label = "Features",
                               .help = "Features of the font, as in CSS: tnum, ss01, \"liga\" 0.",
                               .type = ParamType::Text,
                               .base = Text{}})),
      fixed({.id = "axes",
             .label = "Axes",
             .help = "Where on the axes of a variable font, as in CSS: \"wght\" 650, \"wdth\" 90.",
             .type = ParamType::Text,
             .base = Text{}}),
  };
}

}  // namespace

std::span<const ParamSpec> wordsParams() {
  static const std::vector<ParamSpec> list = tableOfWords();
  return list;
}

}  // namespace oa
