#include "shapes/ready_repeats.h"

#include "shapes/ready_setter.h"
#include "shapes/repeat_params.h"

namespace oa {
namespace {

using namespace ready;

class Setter : public ready::Setter {
 public:
  Setter(std::span<Param> params, std::vector<Item>& items) : ready::Setter(repeatParams(), params, &repeatStamps(), &items) {}
};

const ReadyMade kReady[] = {
    {"First snow", "Soft flakes in four depths, the nearest largest and quickest.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("dot")}, {"colour", hex(0xf4f7fa)}, {"size", 64.0}})
           .set({{"spread", named("falling")},
                 {"count", 360.0},
                 {"depths", 4.0},
                 {"far", 0.16},
                 {"faded", 0.55},
                 {"sway", 46.0},
                 {"sizeBy", 0.5},
                 {"direction", 84.0}});
     }},
    {"Drizzle", "Thin streaks that fall steeply.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("line")},
                  {"colour", hex(0xcfe3ea)},
                  {"size", 130.0},
                  {"thick", 0.022},
                  {"turn", 100.0},
                  {"opacity", 0.75},
                  {"fill", named("across")},
                  {"other", hex(0xcfe3ea, 0)},
                  {"fillTurn", 180.0}})
           .set({{"spread", named("falling")},
                 {"count", 360.0},
                 {"passes", 3.0},
                 {"depths", 3.0},
                 {"far", 0.35},
                 {"faded", 0.6},
                 {"sway", 0.0},
                 {"direction", 100.0},
                 {"sizeBy", 0.4}});
     }},
    {"Embers", "Sparks that rise, sway and flicker.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("dot")}, {"colour", hex(0xffb45e)}, {"size", 46.0}, {"opacity", 0.3}})
           .moving("opacity", twinkle(1.0, 3, {0.2, 0.25, 0.3}))
           .set({{"blend", named("add")},
                 {"spread", named("falling")},
                 {"count", 150.0},
                 {"direction", -84.0},
                 {"depths", 3.0},
                 {"far", 0.4},
                 {"sway", 60.0},
                 {"sizeBy", 0.8},
                 {"colourBy", 0.8},
                 {"towards", hex(0xe0512f)}});
     }},
    {"Bubbles", "Rings that rise past in three depths.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("ring")}, {"colour", hex(0xbfe6e2)}, {"size", 104.0}, {"thick", 0.045}, {"opacity", 0.85}})
           .item({{"kind", named("disc")}, {"colour", hex(0x8fd0cc)}, {"size", 84.0}, {"opacity", 0.22}})
           .set({{"pick", named("random")},
                 {"spread", named("falling")},
                 {"count", 70.0},
                 {"direction", -90.0},
                 {"depths", 3.0},
                 {"far", 0.35},
                 {"sway", 34.0},
                 {"sizeBy", 0.8}});
     }},
    {"Confetti", "Slips in the colours of the harbour that turn as they fall.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter make(params, items);
       for (const unsigned colour : {0xc8472bU, 0x1f7672U, 0xf3cf9bU, 0xeda86dU, 0x4f8fa3U})
         make.item({{"kind", named("rectangle")}, {"colour", hex(colour)}, {"size", 46.0}, {"tall", 0.55}, {"corner", 0.12}});
       make.moving("turn", turning(2))
           .moving("tall", swing(0.12, 3))
           .set({{"pick", named("random")},
                 {"spread", named("falling")},
                 {"count", 160.0},
                 {"depths", 3.0},
                 {"far", 0.5},
                 {"faded", 0.2},
                 {"sway", 70.0},
                 {"turnBy", 90.0},
                 {"faster", 1.0}});
     }},
    {"Brass band", "Nine columns of lamps that dance unevenly, with their peaks held.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Motion dance;
       dance.kind = MotionKind::Wander;
       dance.far = 0.75;
       dance.knots = 9;
       dance.laps = 2;
       Setter(params, items)
           .item({{"kind", named("rectangle")}, {"colour", hex(0xf3cf9b)}, {"size", 118.0}, {"tall", 0.3}, {"corner", 0.35}})
           .set({{"spread", named("columns")},
                 {"columns", 9.0},
                 {"rows", 14.0},
                 {"distance", Point{168, 56}},
                 {"level", 0.45},
                 {"differ", named("rows")},
                 {"colourBy", 1.0},
                 {"towards", hex(0xc8472b)},
                 {"order", named("random")},
                 {"ahead", 1.0}})
           .movingAll("level", dance);
     }},
    {"Lamps on a line", "Lamps along a drooping line, lit one after the other.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("disc")},
                  {"colour", hex(0xffd28a)},
                  {"size", 30.0},
                  {"glow", 58.0},
                  {"opacity", 0.28},
                  {"offset", Point{0, 14}}})
           .moving("opacity", swing(1.0, 2))
           .set({{"blend", named("lighter")},
                 {"spread", named("line")},
                 {"count", 22.0},
                 {"lines", 1.0},
                 {"droop", 0.16},
                 {"thread", 3.0},
                 {"threadColour", hex(0x5b4a3a)},
                 {"from", Point{0.03, 0.24}},
                 {"to", Point{0.97, 0.24}},
                 {"order", named("in order")},
                 {"ahead", 2.0}});
     }},
    {"Six lines of lamps", "Six drooping lines whose lamps blink unevenly.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("disc")}, {"colour", hex(0xffc46b)}, {"size", 20.0}, {"glow", 40.0}, {"opacity", 0.2}})
           .item({{"kind", named("disc")}, {"colour", hex(0xff8f5a)}, {"size", 20.0}, {"glow", 40.0}, {"opacity", 0.2}})
           .moving("opacity", twinkle(1.0, 2, {0.06, 0.5, 0.12}))
           .set({{"blend", named("lighter")},
                 {"spread", named("line")},
                 {"count", 18.0},
                 {"lines", 6.0},
                 {"thread", 2.0},
                 {"threadColour", hex(0x4a3d33)},
                 {"gap", Point{0, 150}},
                 {"droop", 0.1},
                 {"from", Point{-0.02, 0.05}},
                 {"to", Point{1.02, 0.05}},
                 {"faster", 1.0}});
     }},
    {"Signal flags", "Pennants on a line, each fluttering a little later than the one before.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter make(params, items);
       for (const unsigned colour : {0xc8472bU, 0xf3ead2U, 0x1f7672U, 0xeda86dU})
         make.item({{"kind", named("polygon")},
                    {"sides", 3.0},
                    {"turn", 174.0},
                    {"colour", hex(colour)},
                    {"size", 74.0},
                    {"tall", 1.25},
                    {"corner", 0.0},
                    {"offset", Point{0, 30}}});
       make.moving("turn", swing(186.0, 3))
           .set({{"spread", named("line")},
                 {"count", 20.0},
                 {"lines", 3.0},
                 {"thread", 3.0},
                 {"threadColour", hex(0x8a8070)},
                 {"gap", Point{0, 290}},
                 {"droop", 0.1},
                 {"from", Point{-0.03, 0.1}},
                 {"to", Point{1.03, 0.1}},
                 {"aligned", true},
                 {"order", named("in order")},
                 {"ahead", 3.0}});
     }},
    {"Rings on the water", "Rings that widen from a point, for ever.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("ring")}, {"colour", hex(0x9bc4bf)}, {"size", 100.0}, {"thick", 0.03}})
           .set({{"spread", named("passing")}, {"count", 9.0}, {"centre", Point{0.5, 0.58}}, {"faded", 0.7}, {"hurry", 0.15}});
     }},
    {"Gateway", "Frames that come nearer and turn as they pass.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter make(params, items);
       for (const unsigned colour : {0x1f7672U, 0xeda86dU, 0xf3ead2U})
         make.item(
             {{"kind", named("rectangle")}, {"colour", hex(colour)}, {"size", 200.0}, {"tall", 0.62}, {"corner", 0.16}, {"line", 9.0}});
       make.set({{"spread", named("passing")}, {"count", 12.0}, {"hurry", 0.9}, {"faded", 0.25}, {"spin", 40.0}});
     }},
    {"Net of floats", "Floats in shifted rows, over which a swell goes from the middle outwards.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item(
               {{"kind", named("disc")}, {"colour", hex(0xe08a55)}, {"other", hex(0x7a2f22)}, {"fill", named("outwards")}, {"size", 30.0}})
           .moving("size", swing(84.0, 2))
           .set({{"spread", named("staggered")}, {"distance", Point{110, 86}}, {"order", named("outwards")}, {"ahead", -3.0}});
     }},
    {"Comb", "Cells of a comb that light up here and there.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("polygon")},
                  {"sides", 6.0},
                  {"colour", hex(0xeda86d)},
                  {"size", 128.0},
                  {"corner", 0.12},
                  {"opacity", 0.14}})
           .moving("opacity", twinkle(0.95, 1, {0.12, 0.1, 0.2}))
           .set({{"spread", named("honeycomb")}, {"distance", Point{122, 122}}, {"colourBy", 0.8}, {"towards", hex(0xc8472b)}});
     }},
    {"Twinkle", "Stars that come and go.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("star")},
                  {"sides", 4.0},
                  {"depth", 0.78},
                  {"corner", 0.0},
                  {"colour", hex(0xfff3d6)},
                  {"size", 44.0},
                  {"glow", 26.0},
                  {"opacity", 0.0}})
           .moving("opacity", twinkle(1.0, 2, {0.14, 0.08, 0.2}))
           .set({{"blend", named("lighter")},
                 {"spread", named("scattered")},
                 {"distance", Point{130, 130}},
                 {"sizeBy", 0.9},
                 {"turnBy", 20.0}});
     }},
    {"Compass rose", "Petals on three rings that turn about each other.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("petal")},
                  {"colour", hex(0x4f8fa3)},
                  {"other", hex(0xf3cf9b)},
                  {"fill", named("across")},
                  {"size", 58.0},
                  {"tall", 2.6}})
           .moving("tall", swing(3.6, 2))
           .set({{"spread", named("ring")},
                 {"count", 16.0},
                 {"rings", 3.0},
                 {"inner", 130.0},
                 {"radius", 430.0},
                 {"aligned", true},
                 {"order", named("outwards")},
                 {"ahead", 0.5}})
           .movingAll("spin", turning(1));
     }},
    {"Sunflower", "Seeds by the golden angle, with waves that run outwards.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("disc")}, {"colour", hex(0xf3cf9b)}, {"size", 12.0}})
           .moving("size", swing(34.0, 2))
           .set({{"spread", named("sunflower")},
                 {"count", 340.0},
                 {"radius", 500.0},
                 {"inner", 20.0},
                 {"differ", named("outwards")},
                 {"colourBy", 1.0},
                 {"towards", hex(0xc8472b)},
                 {"order", named("outwards")},
                 {"ahead", -2.0}});
     }},
    {"Beads", "A spiral of beads that winds itself up without an end.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("disc")}, {"colour", hex(0x9bc4bf)}, {"size", 14.0}})
           .moving("size", swing(40.0, 3))
           .set({{"spread", named("spiral")},
                 {"count", 150.0},
                 {"turns", 5.0},
                 {"radius", 520.0},
                 {"inner", 60.0},
                 {"order", named("in order")},
                 {"ahead", 6.0},
                 {"differ", named("in order")},
                 {"colourBy", 1.0},
                 {"towards", hex(0x1f7672)}})
           .movingAll("spin", turning(1));
     }},
    {"Rivets", "Brass rivets in a grid, over which light passes.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("disc")},
                  {"colour", hex(0x8a6a3a)},
                  {"other", hex(0x2f2214)},
                  {"fill", named("across")},
                  {"fillTurn", 60.0},
                  {"size", 46.0}})
           .moving("colour", swing(hex(0xffe9b8), 1))
           .set({{"spread", named("grid")}, {"distance", Point{110, 110}}, {"order", named("columns")}, {"ahead", 1.0}});
     }},
    {"Scallops", "Arcs in shifted rows that open and close.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("arc")}, {"colour", hex(0xf3ead2)}, {"size", 112.0}, {"thick", 0.05}, {"open", 0.5}})
           .item({{"kind", named("arc")}, {"colour", hex(0x4f8fa3)}, {"size", 64.0}, {"thick", 0.08}, {"open", 0.5}})
           .moving("open", swing(0.86, 1))
           .set({{"spread", named("staggered")}, {"distance", Point{70, 66}}, {"order", named("rows")}, {"ahead", 1.0}});
     }},
    {"Spring tide", "Drops that pass in shifted rows.",
     [](std::span<Param> params, std::vector<Item>& items) {
       Setter(params, items)
           .item({{"kind", named("drop")}, {"colour", hex(0x1f7672)}, {"other", hex(0x9bc4bf)}, {"fill", named("across")}, {"size", 56.0}})
           .moving("turn", swing(14.0, 4))
           .set({{"spread", named("staggered")},
                 {"distance", Point{130, 130}},
                 {"travel", Point{0, 1}},
                 {"order", named("columns")},
                 {"ahead", 2.0},
                 {"differ", named("random")},
                 {"sizeBy", 0.3}});
     }},
};

}  // namespace

std::span<const ReadyMade> readyRepeats() { return kReady; }

}  // namespace oa
