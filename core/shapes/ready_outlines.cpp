#include "shapes/ready_outlines.h"

#include "shapes/outline_params.h"
#include "shapes/ready_setter.h"

namespace oa {
namespace {

using namespace ready;

class Setter : public ready::Setter {
 public:
  explicit Setter(std::span<Param> params) : ready::Setter(outlineParams(), params) {}
};

// Drawn for so much of the lap, left for a while, and taken away from where it began.
void drawnAndTaken(Setter& make, double drawing) {
  Motion drawn = swing(1.0);
  drawn.shape = SwingShape::Hold;
  drawn.shares = {drawing, 0.9 - drawing, 0.0};
  drawn.start = 0.3;
  Motion away = swing(1.0);
  away.shape = SwingShape::Hold;
  away.shares = {0.35, 0.08, 0.0};
  away.start = 0.75;
  make.movingAll("drawn", drawn).movingAll("from", away);
}

constexpr std::string_view kPanel =
    "M-520 -240 L520 -240 C547 -240 568 -219 568 -192 L568 192 C568 219 547 240 520 240 L-520 240 C-547 240 -568 219 -568 192 L-568 -192 "
    "C-568 -219 -547 -240 -520 -240 Z";

// A bell that opens and closes, with as many points in each pose.
constexpr std::string_view kBellWide =
    "M0 -190 C130 -190 236 -108 250 24 C252 62 214 84 176 72 C120 54 60 62 0 62 C-60 62 -120 54 -176 72 C-214 84 -252 62 -250 24 C-236 "
    "-108 -130 -190 0 -190 Z";
constexpr std::string_view kBellNarrow =
    "M0 -250 C96 -250 168 -150 172 10 C170 70 146 112 112 104 C74 94 38 84 0 84 C-38 84 -74 94 -112 104 C-146 112 -170 70 -172 10 C-168 "
    "-150 -96 -250 0 -250 Z";

const ReadyMade kReady[] = {
    {"Pebble", "A round shape whose edge never rests.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params).set({{"wobble", 26.0}});
     }},
    {"Light round a panel", "A light that runs round a panel with round corners, for ever.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params).set({{"outline", path(kPanel)},
                           {"fill", false},
                           {"width", 2.0},
                           {"colour", hex(0x3d5a60)},
                           {"wobble", 0.0},
                           {"lights", 1.0},
                           {"lightLength", 0.22},
                           {"lightWidth", 12.0}});
     }},
    {"Lights round the frame", "Two lights that follow each other round the frame's edge.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params).set({{"along", std::string("frame")},
                           {"fill", false},
                           {"width", 2.0},
                           {"colour", hex(0x5f7d84)},
                           {"wobble", 0.0},
                           {"lights", 2.0},
                           {"lightLength", 0.14},
                           {"lightWidth", 10.0},
                           {"lightGlow", 46.0},
                           {"tailColour", hex(0xeda86d)}});
     }},
    {"By one pen", "The lines of a drawing, drawn one after the other and taken away again.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter make(params);
       make.set({{"along", std::string("drawing")},
                 {"size", 1.8},
                 {"fill", false},
                 {"width", 5.0},
                 {"colour", hex(0xf3ead2)},
                 {"wobble", 0.0},
                 {"from", 0.0},
                 {"drawn", 0.0}});
       drawnAndTaken(make, 0.45);
     }},
    {"Chase", "Twelve short lights that chase each other round a ring.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params).set({{"outline", Value(circleOutline(330))},
                           {"fill", false},
                           {"width", 0.0},
                           {"wobble", 0.0},
                           {"lights", 12.0},
                           {"lightLength", 0.05},
                           {"lightWidth", 20.0},
                           {"lightTail", 0.9},
                           {"lightGlow", 26.0},
                           {"tailColour", hex(0x1f7672)}});
     }},
    {"Drawn wave", "A brush stroke that is drawn and taken away again.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter make(params);
       make.set(
           {{"outline",
             path("M-700 60 C-560 -190 -430 -190 -330 30 C-240 226 -120 226 -20 20 C70 -172 190 -180 290 10 C390 206 540 190 700 -90")},
            {"fill", false},
            {"width", 34.0},
            {"taper", 0.5},
            {"wobble", 10.0},
            {"bumps", 5.0},
            {"colour", hex(0xeda86d)},
            {"from", 0.0},
            {"drawn", 0.0}});
       drawnAndTaken(make, 0.4);
     }},
    {"Sea lantern", "A pulsing bell with seven strands that follow it.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params)
           .set({{"outline", path(kBellWide)},
                 {"centre", Point{0.5, 0.38}},
                 {"fillColour", hex(0x9e6ba8, 217)},
                 {"colour", hex(0xf0c9e0)},
                 {"width", 6.0},
                 {"wobble", 4.0},
                 {"bumps", 5.0},
                 {"strands", 7.0},
                 {"strandFrom", 0.33},
                 {"strandTo", 0.67},
                 {"strandLength", 420.0},
                 {"strandDiffer", 0.4},
                 {"strandWidth", 18.0},
                 {"strandColour", hex(0xd9a3c9)},
                 {"tipColour", hex(0x6f4f8f)},
                 {"sway", 70.0},
                 {"waves", 1.1},
                 {"swaying", 2.0},
                 {"strandAhead", 1.4}})
           .movingAll("outline", poses({{path(kBellWide), "ease-in"}, {path(kBellNarrow), "ease-out"}}, 2))
           .movingAll("centre", swing(Point{0.5, 0.33}, 2));
     }},
    {"Sea grass", "Blades that sway in the tide, one after the other.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params).set({{"outline", path("M-980 0 C-600 -40 -300 36 0 0 C300 -36 640 30 980 -10")},
                           {"centre", Point{0.5, 1.0}},
                           {"fill", false},
                           {"width", 0.0},
                           {"wobble", 0.0},
                           {"strands", 64.0},
                           {"strandTurn", -90.0},
                           {"strandLength", 560.0},
                           {"strandDiffer", 0.7},
                           {"strandWidth", 30.0},
                           {"strandTaper", 1.0},
                           {"strandColour", hex(0x0f3d3a)},
                           {"tipColour", hex(0x7fae6a)},
                           {"curl", 14.0},
                           {"sway", 38.0},
                           {"waves", 0.5},
                           {"strandAhead", 3.0}});
     }},
    {"Fringe", "A pennant's edge with its strands in the wind.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params).set({{"outline", path("M-620 -150 C-300 -96 300 -96 620 -150")},
                           {"fill", false},
                           {"width", 16.0},
                           {"colour", hex(0xc8472b)},
                           {"wobble", 12.0},
                           {"bumps", 2.0},
                           {"strands", 40.0},
                           {"strandLength", 330.0},
                           {"strandDiffer", 0.15},
                           {"strandWidth", 16.0},
                           {"strandTaper", 0.6},
                           {"strandColour", hex(0xc8472b)},
                           {"tipColour", hex(0xf3cf9b)},
                           {"sway", 30.0},
                           {"waves", 0.8},
                           {"swaying", 2.0},
                           {"strandAhead", 2.0}});
     }},
    {"Sunburst", "Strands that stand out from a ring all round.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params).set({{"outline", Value(circleOutline(150))},
                           {"fillColour", hex(0xf3cf9b)},
                           {"width", 0.0},
                           {"wobble", 0.0},
                           {"strands", 48.0},
                           {"hang", named("outwards")},
                           {"strandLength", 300.0},
                           {"strandDiffer", 0.5},
                           {"strandWidth", 26.0},
                           {"strandTaper", 1.0},
                           {"strandColour", hex(0xf3cf9b)},
                           {"tipColour", hex(0xc8472b)},
                           {"sway", 50.0},
                           {"waves", 0.4},
                           {"strandAhead", 4.0}});
     }},
};

}  // namespace

std::span<const ReadyMade> readyOutlines() { return kReady; }

}  // namespace oa
