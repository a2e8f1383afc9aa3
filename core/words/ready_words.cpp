#include "shapes/ready_setter.h"
#include "words/words_params.h"

namespace oa {
namespace {

using namespace ready;

class Setter : public ready::Setter {
 public:
  explicit Setter(std::span<Param> params) : ready::Setter(wordsParams(), params) {}
};

Motion held(Value far, HoldShares shares, double start) {
  Motion motion = swing(std::move(far));
  motion.shape = SwingShape::Hold;
  motion.shares = shares;
  motion.start = start;
  return motion;
}

const ReadyMade kReady[] = {
    {"Title", "Large words in the middle.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params).set({{"order", std::string("together")}});
     }},
    {"Swell", "Letters that rise and fall, as boats do.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params)
           .set({{"offset", Point{0, -14}}, {"letterTurn", -3.0}, {"ahead", 1.0}})
           .movingAll("offset", swing(Point{0, 14}, 2))
           .movingAll("letterTurn", swing(3.0, 2));
     }},
    {"Lamps going on", "Letters that flicker on one after the other, stay, and go out.",
     [](std::span<Param> params, std::vector<Item>&) {
       Motion on;
       on.kind = MotionKind::Switch;
       on.far = 1.0;
       on.shares = {0.06, 0.62, 0.06};
       on.flicker = 0.7;
       Setter(params)
           .set({{"colour", hex(0xffd98a)}, {"letterOpacity", 0.06}, {"order", std::string("random")}, {"ahead", 0.3}})
           .movingAll("letterOpacity", on);
     }},
    {"These, then the next", "Words that grow letter by letter, stay, and fade for the next ones.",
     [](std::span<Param> params, std::vector<Item>&) {
       Motion grow = held(1.0, {0.16, 0.6, 0.12}, 0.0);
       grow.laps = 3;
       Setter(params)
           .set({{"text", Text{"Low tide at nine\n\nFerries at ten\n\nFire in the cove"}},
                 {"size", 110.0},
                 {"pages", true},
                 {"ahead", -0.14},
                 {"letterSize", 0.4},
                 {"letterOpacity", 0.0}})
           .movingAll("letterSize", grow)
           .movingAll("letterOpacity", grow);
     }},
    {"Frosted panel", "A panel like frosted glass: what runs below it is seen softened.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params).set({{"text", Text{"Ferry to the islands"}},
                           {"font", Text{"Cabin"}},
                           {"size", 96.0},
                           {"order", std::string("together")},
                           {"panel", true},
                           {"panelColour", Colour{0.04F, 0.12F, 0.17F, 0.38F}},
                           {"panelBlur", 40.0},
                           {"padding", Point{72, 40}},
                           {"panelLine", 2.0},
                           {"panelLineColour", Colour{1, 0.93F, 0.78F, 0.5F}}});
     }},
    {"Word by word", "Each word grows out of nothing, and all are taken away again.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params)
           .set({{"text", Text{"Come down\nto the quay"}},
                 {"align", std::string("left")},
                 {"by", std::string("word")},
                 {"ahead", -0.24},
                 {"letterSize", 0.0}})
           .movingAll("letterSize", held(1.0, {0.09, 0.62, 0.06}, 0.2));
     }},
    {"Typed out", "Letter after letter behind a caret that blinks, and taken back again.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params)
           .set({{"text", Text{"Mind the step,\nmind the tide"}},
                 {"font", Text{"B612"}},
                 {"weight", 400.0},
                 {"size", 84.0},
                 {"align", std::string("left")},
                 {"order", std::string("together")},
                 {"caret", true},
                 {"blinks", 12.0},
                 {"typed", 0.0}})
           .movingAll("typed", held(1.0, {0.4, 0.42, 0.1}, 0))
           .movingAll("blinks", turning(1));
     }},
    {"Glowing sign", "Letters as lamps, with their light about them.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params)
           .set({{"text", Text{"Open late"}},
                 {"colour", hex(0xffe9c4)},
                 {"glow", 0.8},
                 {"glowReach", 90.0},
                 {"glowColour", hex(0xff8b3d)},
                 {"order", std::string("together")}})
           .movingAll("glow", swing(1.25, 2));
     }},
    {"Lower panel", "A line of words on a panel that fits them, at the lower left.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params).set({{"text", Text{"Kelpwick Harbour Days"}},
                           {"font", Text{"Cabin"}},
                           {"weight", 600.0},
                           {"size", 64.0},
                           {"centre", Point{0.28, 0.86}},
                           {"order", std::string("together")},
                           {"panel", true},
                           {"panelColour", hex(0x0d2b33, 217)},
                           {"padding", Point{48, 22}}});
     }},
    {"Round about", "Words that go round in a ring.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params)
           .set({{"text", Text{"sails · nets · lamps · ropes · "}},
                 {"set", std::string("along an outline")},
                 {"spread", true},
                 {"size", 110.0},
                 {"colour", hex(0xffd9a8)},
                 {"rounds", 1.0},
                 {"order", std::string("together")}})
           .movingAll("rounds", turning(1));
     }},
    {"By hand", "A line of handwriting that is written letter by letter.",
     [](std::span<Param> params, std::vector<Item>&) {
       Setter(params)
           .set({{"text", Text{"see you at the harbour"}},
                 {"font", Text{"Dancing Script"}},
                 {"size", 170.0},
                 {"colour", hex(0xf3ead2)},
                 {"ahead", -0.4},
                 {"letterOpacity", 0.0}})
           .movingAll("letterOpacity", held(1.0, {0.05, 0.5, 0.08}, 0.25));
     }},
};

}  // namespace

std::span<const ReadyMade> readyWords() { return kReady; }

}  // namespace oa
