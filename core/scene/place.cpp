#include "scene/place.h"

#include <cmath>
#include <numbers>
#include <numeric>

namespace oa {

std::span<const ParamSpec> placeSpecs() {
  static const ParamSpec kSpecs[kPlaceParams] = {
      {.id = "position",
       .label = "Position",
       .help = "Where the layer's anchor lies; 0 to 1 across and down the frame it is in.",
       .type = ParamType::Point,
       .base = Point{0.5, 0.5},
       .min = -8,
       .max = 9,
       .sliderMin = 0,
       .sliderMax = 1,
       .unit = Unit::Share},
      {.id = "size",
       .label = "Size",
       .help = "How many times as wide and as high as it is by nature.",
       .type = ParamType::Point,
       .base = Point{1, 1},
       .min = 0.001,
       .max = 100,
       .sliderMin = 0.05,
       .sliderMax = 3,
       .unit = Unit::Share},
      {.id = "linked",
       .label = "Keep proportions",
       .help = "Width and height are changed together; Shift does the other for as long as it is held in the picture.",
       .type = ParamType::Toggle,
       .base = true,
       .rule = LoopRule::Fixed},
      {.id = "turn",
       .label = "Turn",
       .help = "Turns the layer about its anchor, clockwise.",
       .type = ParamType::Angle,
       .base = 0.0,
       .min = -3600,
       .max = 3600,
       .sliderMin = -180,
       .sliderMax = 180,
       .unit = Unit::Degrees,
       .rule = LoopRule::Round},
      {.id = "anchor",
       .label = "Anchor",
       .help = "The point of the layer that it is held, turned and sized at; 0 to 1 across and down its own frame.",
       .type = ParamType::Point,
       .base = Point{0.5, 0.5},
       .min = -8,
       .max = 9,
       .sliderMin = 0,
       .sliderMax = 1,
       .unit = Unit::Share},
      {.id = "flip",
       .label = "Flip",
       .help = "Exchanges left and right, top and bottom, or both.",
       .type = ParamType::Choice,
       .base = std::string("none"),
       .rule = LoopRule::Fixed,
       .choices = {"none", "across", "down", "both"}},
  };
  return kSpecs;
}

std::vector<Param> defaultPlace() {
  std::vector<Param> place;
  for (const ParamSpec& spec : placeSpecs()) place.push_back(defaultParam(spec));
  return place;
}

bool isDefaultPlace(const std::vector<Param>& place) {
  static const std::vector<Param> usual = defaultPlace();
  return place.empty() || place == usual;
}

PlaceAt placeAt(const std::vector<Param>& place, const Moment& at) {
  PlaceAt p;
  if (place.size() < kPlaceParams) return p;
  const auto value = [&](PlaceParam which) {
    const auto i = static_cast<std::size_t>(which);
    return evaluate(placeSpecs()[i], place[i], at).value;
  };
  p.position = std::get<Point>(value(PlaceParam::Position));
  p.size = std::get<Point>(value(PlaceParam::Size));
  p.turn = std::get<double>(value(PlaceParam::Turn));
  p.anchor = std::get<Point>(value(PlaceParam::Anchor));
  const std::string flip = std::get<std::string>(value(PlaceParam::Flip));
  p.flipAcross = flip == "across" || flip == "both";
  p.flipDown = flip == "down" || flip == "both";
  return p;
}

Affine placeMap(const PlaceAt& place, Point ownFrame, Point outerFrame) {
  // Quarters are exact: a turn by 90 degrees must not shear anything by a rounding error.
  const double turn = std::remainder(place.turn, 360.0);
  double c = std::cos(turn * std::numbers::pi / 180);
  double s = std::sin(turn * std::numbers::pi / 180);
  if (std::remainder(turn, 90.0) == 0) {
    c = std::round(c);
    s = std::round(s);
  }
  const double w = place.size.x * (place.flipAcross ? -1 : 1);
  const double h = place.size.y * (place.flipDown ? -1 : 1);
  Affine map{c * w, -s * h, 0, s * w, c * h, 0};
  const Point anchor = map.direction({place.anchor.x * ownFrame.x, place.anchor.y * ownFrame.y});
  map.x0 = place.position.x * outerFrame.x - anchor.x;
  map.y0 = place.position.y * outerFrame.y - anchor.y;
  return map;
}

std::int64_t commonLaps(const std::vector<Param>& place) {
  std::int64_t common = 0;
  for (std::size_t i = 0; i < place.size(); ++i) common = std::gcd(common, lapsOf(placeSpecs()[i], place[i]));
  return common;
}

}  // namespace oa
