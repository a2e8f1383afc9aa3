#include "params/stop_items.h"

namespace oa {

std::span<const ParamSpec> stopParams() {
  static const ParamSpec kParams[] = {
      {.id = "at",
       .label = "Position",
       .help = "Where on the way from the first end to the last the colour stands.",
       .base = 0.0,
       .min = 0,
       .max = 1,
       .unit = Unit::Share},
      {.id = "colour", .label = "Colour", .help = "The stop's colour.", .type = ParamType::Colour, .base = hexColour(0x1f7672)}};
  return kParams;
}

Item stopItem(const Stop& stop) {
  Item item;
  for (const ParamSpec& spec : stopParams()) item.params.push_back(defaultParam(spec));
  item.params[kStopAt].base = item.params[kStopAt].motion.far = stop.at;
  item.params[kStopColour].base = item.params[kStopColour].motion.far = stop.colour;
  return item;
}

Stops stopsOf(const StepContext& context) {
  Stops stops;
  for (const Values& item : context.items()) stops.push_back({item.number("at"), item.colour("colour")});
  return stops;
}

Stops restingStops(std::span<const Item> items) {
  Stops stops;
  for (const Item& item : items)
    stops.push_back({std::get<double>(item.params[kStopAt].base), std::get<Colour>(item.params[kStopColour].base)});
  return stops;
}

}  // namespace oa
