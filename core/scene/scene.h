// A scene: the frame, the loop, and layers bottom to top. Plain values; copying one is how undo works.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/rational.h"
#include "base/result.h"
#include "image/blend.h"
#include "image/palette.h"
#include "params/param.h"
#include "steps/step.h"

namespace oa {

inline constexpr int kMaxFrameSize = 8192;
inline constexpr int kMaxFrames = 1000000;
inline constexpr std::size_t kMaxLayers = 256;
inline constexpr std::size_t kMaxSteps = 64;
inline constexpr std::size_t kMaxNameBytes = 400;

/// One step of a recipe: which step, whether it is on, its parameters in the order of the step's table.
struct RecipeStep {
  const StepSpec* spec = nullptr;
  bool on = true;
  std::vector<Param> params;
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const RecipeStep&) const = default;
};

RecipeStep newStep(const StepSpec& spec);

struct Layer {
  std::string name;
  bool visible = true;
  bool locked = false;
  BlendMode blend = BlendMode::Normal;
  Param opacity;
  std::vector<RecipeStep> recipe;  ///< a source first, then other steps
  std::string extra = {};          ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const Layer&) const = default;
};

/// The opacity of a layer is a parameter like any other.
const ParamSpec& opacitySpec();

Layer newLayer(const StepSpec& source, std::string name);

struct Scene {
  std::string name;
  int width = 1920;
  int height = 1080;
  Rational rate{30, 1};
  int frames = 300;
  std::optional<Colour> background = Colour{0, 0, 0, 1};  ///< none: transparent
  bool linearLight = false;                               ///< composite in linear light instead of display values
  Palette palette;                                        ///< offered by every colour control; may be empty
  std::vector<Layer> layers;
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in

  [[nodiscard]] double seconds() const { return frames / rate.value(); }
  bool operator==(const Scene&) const = default;
};

/// Greatest common divisor of the laps of everything in the layer that moves; 0 if nothing does.
std::int64_t commonLaps(const Layer& layer);
std::int64_t commonLaps(const Scene& scene);

/// Different frames among the loop's: `frames` divided by what all motions share.
std::int64_t distinctFrames(const Scene& scene);

/// Changes the frame's size. With `scaleLengths` every length in pixels follows, so that the picture
/// stays the same; values are held within their ranges.
void resizeFrame(Scene& scene, int width, int height, bool scaleLengths);

}  // namespace oa
