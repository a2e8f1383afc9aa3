#include "edit/source_layers.h"

#include <algorithm>
#include <cmath>

#include "base/numbers.h"
#include "edit/clips.h"
#include "edit/items.h"
#include "params/first_motion.h"
#include "params/stop_items.h"

namespace oa::edit {

std::vector<SourceVariety> sourceVarieties() {
  std::vector<SourceVariety> list;
  for (const StepSpec* spec : allSteps()) {
    if (spec->kind != StepKind::Source || (spec->reads != SourceReads::Nothing && spec->reads != SourceReads::Stamp)) continue;
    for (const ReadyMade& ready : spec->ready) list.push_back({spec, std::string(ready.name)});
    if (!spec->ready.empty()) continue;
    if (spec->varieties.empty()) {
      list.push_back({spec, {}});
      continue;
    }
    const int param = findParam(spec->params, spec->varieties);
    for (const auto choice : spec->params[static_cast<std::size_t>(param)].choices) list.push_back({spec, std::string(choice)});
  }
  return list;
}

namespace {

const ReadyMade* readyOf(const SourceVariety& variety) {
  const auto found = std::find_if(variety.spec->ready.begin(), variety.spec->ready.end(),
                                  [&](const ReadyMade& ready) { return ready.name == variety.variety; });
  return found == variety.spec->ready.end() ? nullptr : &*found;
}

}  // namespace

std::string_view helpOf(const SourceVariety& variety) {
  const ReadyMade* ready = readyOf(variety);
  return ready ? ready->help : variety.spec->help;
}

std::string titleOf(const SourceVariety& variety) {
  if (variety.variety.empty()) return std::string(variety.spec->title);
  std::string title = variety.variety;
  title[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(title[0])));
  return title;
}

RecipeStep sourceStep(const SourceVariety& variety) {
  RecipeStep step = newStep(*variety.spec);
  if (const ReadyMade* ready = readyOf(variety))
    ready->make(step.params, step.items);
  else if (!variety.variety.empty())
    step.params[static_cast<std::size_t>(findParam(variety.spec->params, variety.spec->varieties))].base = variety.variety;
  return step;
}

std::vector<Item> stopsFrom(const std::vector<Colour>& colours) {
  std::vector<Colour> sorted = colours;
  std::stable_sort(sorted.begin(), sorted.end(), [](const Colour& a, const Colour& b) { return toOkLab(a).L < toOkLab(b).L; });
  const std::size_t count = std::min<std::size_t>(sorted.size(), 6);
  std::vector<Item> stops;
  for (std::size_t i = 0; i < count; ++i) {
    const double share = count == 1 ? 0 : static_cast<double>(i) / static_cast<double>(count - 1);
    Colour colour = sorted[static_cast<std::size_t>(std::lround(share * static_cast<double>(sorted.size() - 1)))];
    colour.a = 1;
    stops.push_back(stopItem({std::round(share * 1000) / 1000, colour}));
  }
  return stops;
}

namespace {

const StepSpec* colouringStep() {
  for (const StepSpec* spec : allSteps())
    if (spec->coloursFields) return spec;
  return nullptr;
}

// The lighter two thirds of them: the lightest, the darkest, the next lightest and so on, so that neighbours differ.
std::vector<Colour> lightOnes(std::vector<Colour> colours) {
  std::stable_sort(colours.begin(), colours.end(), [](const Colour& a, const Colour& b) { return toOkLab(a).L > toOkLab(b).L; });
  colours.resize(std::max<std::size_t>(1, (2 * colours.size() + 2) / 3));
  std::vector<Colour> turns;
  for (std::size_t first = 0, last = colours.size(); first < last;) {
    turns.push_back(colours[first++]);
    if (first < last) turns.push_back(colours[--last]);
  }
  return turns;
}

// What stands before others' layers instead of filling the frame has to be seen before them.
bool standsOut(const StepSpec& spec) { return !spec.ready.empty() || spec.extent; }

// What a source shows in colours of its own, in these instead.
void colourSource(RecipeStep& source, const std::vector<Colour>& colours) {
  const bool out = standsOut(*source.spec);
  const std::vector<Colour> own = out ? lightOnes(colours) : std::vector{colours.front()};
  // None of them would be seen: it comes in its own.
  constexpr double kLight = 0.55;
  if (out && toOkLab(own.front()).L < kLight) return;
  std::size_t next = 0;
  for (std::size_t i = 0; i < source.params.size(); ++i) {
    if (source.spec->params[i].type != ParamType::Colour) continue;
    Colour colour = own[next++ % own.size()];
    if (out) colour.a = std::get<Colour>(source.params[i].base).a;
    source.params[i].base = source.params[i].motion.far = colour;
  }
  if (!source.spec->items) return;
  if (source.spec->items->alongLine)
    source.items = stopsFrom(colours);
  else
    (void)colourItems(source, out ? own : colours);
}

// Sets a source moving that comes at rest: the first value that its table offers for it.
void setMoving(RecipeStep& source) {
  bool moving = false;
  forEachShownParamOf(source, [&](const ParamSpec& spec, const Param& param) { moving = moving || reallyMoves(spec, param); });
  if (moving) return;
  // Each item is at a place of its own on its lap, or all would move as one.
  const auto start = [](const ParamSpec& spec, Param& param, std::size_t item) {
    if (!spec.beginsWith) return;
    if (spec.rule == LoopRule::Progress && std::holds_alternative<Point>(param.base) && std::get<Point>(param.base) == Point{})
      param.base = Point{1, 0};
    param.motion = firstMotion(spec, param, *spec.beginsWith);
    param.motion.start = fract(0.19 * static_cast<double>(item));
    param.motion.seed = static_cast<int>(item) + 1;
  };
  for (std::size_t i = 0; i < source.params.size(); ++i)
    if (isShown(source.spec->params, source.params, i)) start(source.spec->params[i], source.params[i], 0);
  for (std::size_t item = 0; item < source.items.size(); ++item)
    for (std::size_t i = 0; i < source.items[item].params.size(); ++i)
      start(source.spec->items->params[i], source.items[item].params[i], item);
}

}  // namespace

Layer sourceLayer(const SourceVariety& variety, const std::vector<Colour>& colours) {
  Layer layer = newLayer(*variety.spec, titleOf(variety));
  layer.recipe[0] = sourceStep(variety);
  setMoving(layer.recipe[0]);
  const StepSpec* map = colouringStep();
  const PlaneView small = PlaneView::cover(16, 9, 16, 9);
  const bool field = variety.spec->source && variety.spec->source(contextOf(layer.recipe[0], {0, 1}, small))->channels() == 1;
  if (colours.empty()) return layer;
  if (!field) colourSource(layer.recipe[0], colours);
  if (!field || !map) return layer;
  RecipeStep step = newStep(*map);
  step.items = stopsFrom(colours);
  layer.recipe.push_back(std::move(step));
  return layer;
}

Layer pictureLayer(const MediaRef& ref, const Scene& scene) {
  std::string name = mediaName(ref);
  if (const std::size_t dot = name.find_last_of('.'); dot != std::string::npos && dot > 0) name.resize(dot);
  Layer layer = newLayer(*findStep("picture"), name.substr(0, 60));
  RecipeStep& source = layer.recipe[0];
  const auto set = [&](std::string_view id, Value value) {
    Param& param = source.params[static_cast<std::size_t>(findParam(source.spec->params, id))];
    param.base = param.motion.far = std::move(value);
  };
  set("file", ref);
  // Nearly as large as the frame: it is meant to fill it.
  constexpr double kLarge = 0.7;
  const bool large = ref.width >= kLarge * scene.width && ref.height >= kLarge * scene.height;
  const bool wide =
      static_cast<double>(ref.width) * scene.height >= 1.9 * static_cast<double>(ref.height) * scene.width && ref.width > scene.width;
  if (ref.moving()) {
    const bool larger = ref.width > scene.width || ref.height > scene.height;
    set("fit", std::string(large ? "cover" : larger ? "fit" : "natural"));
    set("across", std::string("nothing"));
    set("down", std::string("nothing"));
    set("plays", static_cast<double>(bestPlays(source, scene)));
    return layer;
  }
  set("fit", std::string(large || wide ? "cover" : "natural"));
  set("across", std::string(large || wide ? "repeat" : "nothing"));
  set("down", std::string(large && !wide ? "repeat" : "nothing"));
  return layer;
}

}  // namespace oa::edit
