#include "params/passage.h"

#include <algorithm>
#include <array>

#include "params/step_context.h"
#include "params/table.h"

namespace oa {
namespace {

using namespace table;

// The choices of a table in the order of what they stand for.
constexpr std::array kPaces{"soft", "glide", "heavy", "spring"};
constexpr std::array kFroms{"its own", "beside it", "outside the frame"};
constexpr std::array kWipes{"none", "line", "split", "iris"};
constexpr std::array kSmears{"none", "left", "right", "top", "bottom"};
constexpr std::array kBys{"whole", "letter", "word", "line"};
constexpr std::array kOrders{"forwards", "backwards", "from the middle", "random"};

template <class Names>
Choices choicesOf(const Names& names) {
  return {names.begin(), names.end()};
}

ParamSpec when(ParamSpec spec, std::string_view param, Choices choices) {
  spec.shownWhen = ShownWhen{param, std::move(choices)};
  return spec;
}

std::vector<ParamSpec> tableOfPassage() {
  const Passing p;
  ParamSpec overshoot = fixed(share("overshoot", "Overshoot", "How far it goes beyond on its way, and back.", 0));
  overshoot.shownWhen = ShownWhen{"pace", {"soft", "glide", "heavy"}};
  ParamSpec fade{.id = "fade",
                 .label = "Fade",
                 .help = "Grows more and less transparent on its way.",
                 .type = ParamType::Toggle,
                 .base = true,
                 .rule = LoopRule::Fixed};
  ParamSpec seed{.id = "seed",
                 .label = "Seed",
                 .help = "Another number, another random order.",
                 .type = ParamType::Seed,
                 .base = 1.0,
                 .min = 0,
                 .max = 999999,
                 .rule = LoopRule::Fixed,
                 .shownWhen = ShownWhen{"order", {"random"}}};
  const Choices pieces{"letter", "word", "line"};
  const Choices wipes{"line", "split", "iris"};
  return {
      inSection("When", fixed(number("delay", "Delay", "How long it waits before it begins.", {0, 0, 600, 0, 5}, Unit::Seconds))),
      fixed(logarithmic(number("lasts", "Lasts", "How long it is on its way.", {0.8, 0.02, 600, 0.1, 5}, Unit::Seconds))),
      fixed(choice("pace", "Pace", "How it hurries; each rests where it is there, so that the loop goes on without a jolt.", "glide",
                   choicesOf(kPaces))),
      std::move(overshoot),

      inSection("On its way", std::move(fade)),
      fixed(choice("from", "Place", "Where it is before it arrives, or once it has left.", "its own", choicesOf(kFroms))),
      when(fixed(angle("direction", "Direction", "On which side that is: 0 is right, 90 below, 180 left.", p.direction)), "from",
           {"beside it", "outside the frame"}),
      when(fixed(number("distance", "Distance", "How far away that is.", {160, 0, 16384, 0, 1000}, Unit::Pixels)), "from", {"beside it"}),
      fixed(number("size", "Size", "How large it is then, beside what it is.", {1, 0, 50, 0, 3}, Unit::Ratio)),
      fixed(angle("turn", "Turn", "How far it is turned then.", 0)),
      fixed(choice("wipe", "Wipe", "Uncovered along a line, from its middle line, or out of a growing circle.", "none", choicesOf(kWipes))),
      when(fixed(angle("wipeAngle", "its side", "The side where it begins: 0 is right, 90 below, 180 left.", p.wipeAngle)), "wipe",
           {"line", "split"}),
      when(fixed(number("wipeSoft", "its edge", "How soft the edge is.", {24, 0, 4096, 0, 300}, Unit::Pixels)), "wipe", wipes),
      fixed(number("blur", "Blur", "How blurred it is then.", {0, 0, 1000, 0, 120}, Unit::Pixels)),
      fixed(choice("smear", "Smear", "Settles out of a smear of its own edge, from that side on.", "none", choicesOf(kSmears))),

      inSection("One by one", fixed(choice("by", "One by one", "What of words arrives one after the other.", "whole", choicesOf(kBys)))),
      when(fixed(choice("order", "Order", "Which of them comes first.", "forwards", choicesOf(kOrders))), "by", pieces),
      when(fixed(share("overlap", "Overlap", "0: each waits for the one before; 1: all at once.", p.overlap)), "by", pieces),
      std::move(seed),
  };
}

template <class Enum, class Names>
Enum chosen(std::string_view name, const Names& names) {
  const auto found = std::find(names.begin(), names.end(), name);
  return static_cast<Enum>(found == names.end() ? 0 : found - names.begin());
}

}  // namespace

std::span<const ParamSpec> passageSpecs() {
  static const std::vector<ParamSpec> list = tableOfPassage();
  return list;
}

std::span<const ParamSpec> stepPassageSpecs() { return passageSpecs().first(kStepPassageParams); }

Passage newPassage(std::span<const ParamSpec> specs) {
  Passage passage;
  for (const ParamSpec& spec : specs) passage.params.push_back(defaultParam(spec));
  return passage;
}

Passing passingOf(const Passage& passage, double rate) {
  Passing p;
  const auto specs = passageSpecs();
  const auto value = [&](std::string_view id) -> const Value& {
    const auto i = static_cast<std::size_t>(findParam(specs, id));
    return i < passage.params.size() ? passage.params[i].base : specs[i].base;
  };
  const auto number = [&](std::string_view id) { return std::get<double>(value(id)); };
  const auto name = [&](std::string_view id) -> const std::string& { return std::get<std::string>(value(id)); };
  p.delay = number("delay") * rate;
  p.lasts = number("lasts") * rate;
  p.pace = chosen<PassPace>(name("pace"), kPaces);
  p.overshoot = number("overshoot");
  p.fades = std::get<bool>(value("fade"));
  p.from = chosen<PassFrom>(name("from"), kFroms);
  p.direction = number("direction");
  p.distance = number("distance");
  p.size = number("size");
  p.turn = number("turn");
  p.wipe = chosen<Wipe>(name("wipe"), kWipes);
  p.wipeAngle = number("wipeAngle");
  p.wipeSoft = number("wipeSoft");
  p.blur = number("blur");
  p.smear = chosen<Smear>(name("smear"), kSmears);
  p.by = chosen<PassBy>(name("by"), kBys);
  p.order = chosen<PassOrder>(name("order"), kOrders);
  p.overlap = number("overlap");
  p.seed = static_cast<std::uint64_t>(number("seed"));
  return p;
}

Passings passingsOf(const Passages& passages, double rate) {
  Passings both;
  if (passages.arrive) both.arrive = passingOf(*passages.arrive, rate);
  if (passages.leave) both.leave = passingOf(*passages.leave, rate);
  return both;
}

Passage passageOf(const Passing& p) {
  const auto specs = passageSpecs();
  Passage passage = newPassage(specs);
  const auto set = [&](std::string_view id, Value value) {
    Param& param = passage.params[static_cast<std::size_t>(findParam(specs, id))];
    param.base = param.motion.far = std::move(value);
  };
  const auto name = [&](std::string_view id, const auto& names, auto which) {
    set(id, std::string(names[static_cast<std::size_t>(which)]));
  };
  set("delay", p.delay);
  set("lasts", p.lasts);
  name("pace", kPaces, p.pace);
  set("overshoot", p.overshoot);
  set("fade", p.fades);
  name("from", kFroms, p.from);
  set("direction", p.direction);
  set("distance", p.distance);
  set("size", p.size);
  set("turn", p.turn);
  name("wipe", kWipes, p.wipe);
  set("wipeAngle", p.wipeAngle);
  set("wipeSoft", p.wipeSoft);
  set("blur", p.blur);
  name("smear", kSmears, p.smear);
  name("by", kBys, p.by);
  name("order", kOrders, p.order);
  set("overlap", p.overlap);
  set("seed", static_cast<double>(p.seed));
  return passage;
}

namespace {

// From outside of the frame.
template <int Direction>
void slideIn(Passing& p) {
  p.from = PassFrom::Outside;
  p.direction = Direction;
  p.fades = false;
  p.lasts = 1;
}

}  // namespace

std::span<const ReadyPassage> readyPassages() {
  static constexpr ReadyPassage kReady[] = {
      {"Fade", false, [](Passing& p) { p.pace = PassPace::Soft; }},
      {"From the left", false, slideIn<180>},
      {"From the right", false, slideIn<0>},
      {"From above", false, slideIn<270>},
      {"From below", false, slideIn<90>},
      {"Drift up", false,
       [](Passing& p) {
         p.from = PassFrom::Beside;
         p.direction = 90;
         p.distance = 120;
         p.pace = PassPace::Heavy;
         p.lasts = 1.2;
       }},
      {"Grow", false,
       [](Passing& p) {
         p.size = 0;
         p.overshoot = 0.25;
       }},
      {"Spring", false,
       [](Passing& p) {
         p.size = 0.4;
         p.pace = PassPace::Spring;
         p.lasts = 1.2;
       }},
      {"Spin in", false,
       [](Passing& p) {
         p.size = 0.2;
         p.turn = -180;
         p.lasts = 1;
       }},
      {"Wipe", false,
       [](Passing& p) {
         p.wipe = Wipe::Line;
         p.wipeSoft = 80;
         p.fades = false;
         p.pace = PassPace::Soft;
         p.lasts = 1;
       }},
      {"Open", false,
       [](Passing& p) {
         p.wipe = Wipe::Split;
         p.wipeAngle = 90;
         p.wipeSoft = 24;
         p.fades = false;
         p.lasts = 1;
       }},
      {"Iris", false,
       [](Passing& p) {
         p.wipe = Wipe::Iris;
         p.wipeSoft = 40;
         p.fades = false;
         p.lasts = 1.2;
         p.pace = PassPace::Soft;
       }},
      {"Into focus", false,
       [](Passing& p) {
         p.blur = 60;
         p.lasts = 1.2;
       }},
      {"Out of a smear", false,
       [](Passing& p) {
         p.smear = Smear::Left;
         p.fades = true;
         p.lasts = 1.4;
       }},
      {"Letters rise", true,
       [](Passing& p) {
         p.by = PassBy::Letter;
         p.from = PassFrom::Beside;
         p.direction = 90;
         p.distance = 90;
         p.lasts = 1.6;
       }},
      {"Letters grow", true,
       [](Passing& p) {
         p.by = PassBy::Letter;
         p.size = 0;
         p.overshoot = 0.4;
         p.lasts = 1.6;
         p.fades = false;
       }},
      {"Letters into focus", true,
       [](Passing& p) {
         p.by = PassBy::Letter;
         p.blur = 48;
         p.size = 1.25;
         p.overlap = 0.75;
         p.lasts = 1.8;
       }},
      {"Letters flicker on", true,
       [](Passing& p) {
         p.by = PassBy::Letter;
         p.order = PassOrder::Random;
         p.overlap = 0.2;
         p.lasts = 1.8;
         p.pace = PassPace::Spring;
       }},
      {"Word by word", true,
       [](Passing& p) {
         p.by = PassBy::Word;
         p.from = PassFrom::Beside;
         p.direction = 180;
         p.distance = 140;
         p.lasts = 1.8;
         p.overlap = 0.4;
       }},
      {"Line by line", true,
       [](Passing& p) {
         p.by = PassBy::Line;
         p.from = PassFrom::Beside;
         p.direction = 90;
         p.distance = 70;
         p.lasts = 1.6;
         p.overlap = 0.3;
       }},
  };
  return kReady;
}

}  // namespace oa
