#include "params/spec.h"

namespace oa {

std::string_view unitText(Unit unit) {
  switch (unit) {
    case Unit::Pixels:
      return "px";
    case Unit::Degrees:
      return "°";
    case Unit::Cells:
      return "cells";
    case Unit::Tiles:
      return "tiles";
    case Unit::Ratio:
      return ": 1";
    case Unit::Seconds:
      return "s";
    case Unit::Decibels:
      return "dB";
    case Unit::Frames:
      return "frames";
    case Unit::Share:
      return "%";
    case Unit::Count:
    case Unit::None:
      break;
  }
  return "";
}

std::string_view typeName(ParamType type) {
  static constexpr std::string_view kNames[] = {"number", "integer", "angle", "point",   "colour", "choice", "toggle", "seed",
                                                "curve",  "layer",   "file",  "outline", "copies", "text",   "font"};
  return kNames[static_cast<std::size_t>(type)];
}

}  // namespace oa
