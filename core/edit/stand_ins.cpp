#include "edit/stand_ins.h"

#include <algorithm>
#include <cmath>

#include "shapes/ready_setter.h"

namespace oa::edit {
namespace {

using namespace ready;

// Lengths are told for a frame of full HD.
double unitOf(const Scene& scene) { return std::sqrt(static_cast<double>(scene.width) * scene.height / (1920.0 * 1080.0)); }

Layer made(const char* step, const char* name, std::initializer_list<Setting> settings) {
  Layer layer = newLayer(*findStep(step), name);
  RecipeStep& source = layer.recipe.front();
  Setter(source.spec->params, source.params, source.spec->items, &source.items).set(settings);
  return layer;
}

// Words at rest, all of one size.
Layer words(const char* name, const char* text, double size, Point centre, std::initializer_list<Setting> more = {}) {
  Layer layer = made("words", name,
                     {{"text", Text{text}}, {"size", size}, {"centre", centre}, {"colour", hex(0xffffff)}, {"order", named("together")}});
  RecipeStep& source = layer.recipe.front();
  Setter(source.spec->params, source.params).set(more);
  return layer;
}

std::vector<Layer> title(double unit) {
  return {words("Line below", "Friday, from six · Pier stage", 50 * unit, {0.5, 0.62}, {{"font", Text{"Cabin"}}, {"weight", 500.0}}),
          words("Title", "Harbour Days", 150 * unit, {0.5, 0.48})};
}

std::vector<Layer> lowerPanel(double unit) {
  return {words("Panel", "Maren Holt\nKeeper of the lamp room", 54 * unit, {0.26, 0.83},
                {{"font", Text{"Cabin"}},
                 {"weight", 600.0},
                 {"align", named("left")},
                 {"panel", true},
                 {"panelColour", hex(0x10222c, 230)},
                 {"padding", Point{40 * unit, 22 * unit}},
                 {"panelCorner", 12 * unit}})};
}

std::vector<Layer> speaker(double unit) {
  return {made("outline", "Speaker",
               {{"outline", path("M -92 -118 C -92 -196 92 -196 92 -118 C 92 -52 66 -8 44 10 L 44 44 C 120 62 236 86 262 190 C 276 254 "
                                 "282 330 284 420 L -284 420 C -282 330 -276 254 -262 190 C -236 86 -120 62 -44 44 L -44 10 C -66 -8 -92 "
                                 "-52 -92 -118 Z")},
                {"centre", Point{0.5, 0.66}},
                {"size", 1.25 * unit},
                {"width", 0.0},
                {"wobble", 0.0},
                {"fill", true},
                {"fillColour", hex(0x121a20)}})};
}

std::vector<Layer> bullets(double unit) {
  return {words("Points", "•  Tides, and how to read them\n•  What the lamp says\n•  Boats that came home", 58 * unit, {0.38, 0.6},
                {{"font", Text{"Cabin"}}, {"weight", 500.0}, {"align", named("left")}, {"leading", 1.5}}),
          words("Heading", "Lamp-room talk", 96 * unit, {0.33, 0.28}, {{"align", named("left")}})};
}

std::vector<Layer> menu(double unit) {
  return {words("Prices", "4.50\n5.20\n3.80\n2.60", 56 * unit, {0.74, 0.58},
                {{"font", Text{"B612"}}, {"weight", 400.0}, {"align", named("right")}, {"leading", 1.5}}),
          words("Dishes", "Smoked haddock chowder\nCrab roll\nSeaweed soup\nHarbour tea", 56 * unit, {0.36, 0.58},
                {{"font", Text{"Cabin"}}, {"weight", 500.0}, {"align", named("left")}, {"leading", 1.5}}),
          words("Heading", "Chowder stall", 110 * unit, {0.5, 0.24}, {{"font", Text{"Dancing Script"}}})};
}

struct Kind {
  StandIn told;
  std::vector<Layer> (*layers)(double unit);
};
constexpr Kind kKinds[] = {{{"Title", "A title and a line below it."}, title},
                           {{"Lower panel", "A name on a panel at the lower left."}, lowerPanel},
                           {{"Speaker", "A speaker's silhouette before the screen."}, speaker},
                           {{"Slide", "A heading and three points."}, bullets},
                           {{"Menu", "Dishes and their prices."}, menu}};

}  // namespace

std::span<const StandIn> standIns() {
  static const std::vector<StandIn> list = [] {
    std::vector<StandIn> all;
    for (const Kind& kind : kKinds) all.push_back(kind.told);
    return all;
  }();
  return list;
}

Result<Ids> addStandIn(Scene& scene, std::size_t which) {
  if (which >= std::size(kKinds)) return fail("there is no such stand-in");
  Layer group = newLayer(*findStep("group"), "Stand-in: " + std::string(kKinds[which].told.name));
  group.layers = kKinds[which].layers(unitOf(scene));
  group.standIn = true;
  group.folded = true;
  return insertLayers(scene, {0, static_cast<int>(scene.layers.size())}, {std::move(group)});
}

Result<Ids> showStandIns(Scene& scene, bool shown) {
  Ids ids;
  forEachLayer(scene.layers, [&](Layer& layer, int) {
    if (!layer.standIn) return;
    layer.visible = shown;
    ids.push_back(layer.id);
  });
  return ids;
}

bool hasStandIns(const Scene& scene) {
  bool any = false;
  forEachLayer(scene.layers, [&](const Layer& layer, int) { any = any || layer.standIn; });
  return any;
}

bool standInsShown(const Scene& scene) {
  bool any = false;
  forEachLayer(scene.layers, [&](const Layer& layer, int) { any = any || (layer.standIn && layer.visible); });
  return any;
}

Result<Ids> setStandIn(Scene& scene, const Ids& layers, bool standIn) {
  for (const Id id : layers)
    if (Layer* layer = findLayer(scene, id)) layer->standIn = standIn;
  return layers;
}

}  // namespace oa::edit
