// A scene: the frame, the loop, and layers bottom to top. Plain values; copying one is how undo works.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/rational.h"
#include "base/result.h"
#include "image/blend.h"
#include "image/palette.h"
#include "loop/presence.h"
#include "params/param.h"
#include "params/passage.h"
#include "scene/place.h"
#include "scene/sound_track.h"
#include "steps/step.h"

namespace oa {

inline constexpr int kMaxFrameSize = 8192;
inline constexpr int kMaxFrames = 1000000;
inline constexpr std::size_t kMaxLayers = 4096;  ///< with those in groups
inline constexpr int kMaxGroupDepth = 16;
inline constexpr int kMaxHold = 1000;
inline constexpr double kMaxDistance = 1000;
inline constexpr std::size_t kMaxSteps = 64;
inline constexpr int kMaxBeats = 100000;
inline constexpr int kMaxBar = 32;
inline constexpr int kMaxRunLoops = 10000;
inline constexpr double kMaxRunSeconds = 86400;
inline constexpr std::size_t kMaxNameBytes = 400;

/// Names a layer, a step or an item for as long as the scene lives, wherever it is moved; 0: it has none yet.
using Id = int;

/// One step of a recipe: which step, whether it is on, its parameters in the order of the step's table.
struct RecipeStep {
  const StepSpec* spec = nullptr;
  Id id = 0;
  bool on = true;
  std::vector<Param> params;
  std::vector<Item> items = {};  ///< of the list that the step has, if it has one
  Presence presence = {};        ///< not of sources
  Passages passes = {};          ///< not of sources
  std::string extra = {};        ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const RecipeStep&) const = default;
};

RecipeStep newStep(const StepSpec& spec);

/// What the step's kernel is given at a moment.
StepContext contextOf(const RecipeStep& step, const Moment& at, const PlaneView& view);

/// Every parameter of a step, its items' too.
template <class Step, class Visit>
void forEachParamOf(Step& step, const Visit& visit) {
  for (std::size_t i = 0; i < step.params.size(); ++i) visit(step.spec->params[i], step.params[i]);
  for (auto& item : step.items)
    for (std::size_t i = 0; i < item.params.size(); ++i) visit(step.spec->items->params[i], item.params[i]);
}

/// Those that have anything to say with the others as they are.
template <class Step, class Visit>
void forEachShownParamOf(Step& step, const Visit& visit) {
  for (std::size_t i = 0; i < step.params.size(); ++i)
    if (isShown(step.spec->params, step.params, i)) visit(step.spec->params[i], step.params[i]);
  for (auto& item : step.items)
    for (std::size_t i = 0; i < item.params.size(); ++i)
      if (isShown(step.spec->items->params, item.params, i)) visit(step.spec->items->params[i], item.params[i]);
}

/// Every value that a parameter holds: its base, those it arrives from and leaves to, the far ends, keyframes and hops of its motions.
template <class AnyParam, class Visit>
void forEachValueOf(AnyParam& param, const Visit& visit) {
  visit(param.base);
  for (auto& far : param.away) visit(far.value);
  for (std::size_t i = 0; i < motionCount(param); ++i) {
    auto& motion = motionOf(param, i);
    visit(motion.far);
    for (auto& key : motion.keys) visit(key.value);
    for (auto& value : motion.list) visit(value);
  }
}

/// Shows a layer only where the mask is: a source of its own, read by its alpha or its lightness.
struct Mask {
  bool on = true;
  RecipeStep source;
  std::vector<Param> params;  ///< in the order of maskSpecs()
  std::string extra = {};     ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const Mask&) const = default;
};

struct Layer {
  Id id = 0;
  std::string name;
  bool visible = true;
  bool locked = false;
  bool folded = false;  ///< a group whose layers the pile does not show
  BlendMode blend = BlendMode::Normal;
  Param opacity;
  std::vector<Param> place;     ///< in the order of placeSpecs()
  std::string placeExtra = {};  ///< keys of newer versions, kept as the JSON text they came in
  std::optional<Mask> mask;
  Presence presence;
  Passages passes;
  bool standIn = false;            ///< only there for judging: not part of what is handed over
  int hold = 1;                    ///< frames that each of its pictures is held for
  double distance = 0;             ///< how far away it is, for travel by depth: 1 and more, 0 where nobody said
  std::vector<RecipeStep> recipe;  ///< a source first, then other steps
  std::vector<Layer> layers;       ///< of a group, bottom to top; others have none
  std::string extra = {};          ///< keys of newer versions, kept as the JSON text they came in

  [[nodiscard]] bool isGroup() const { return !recipe.empty() && recipe.front().spec->reads == SourceReads::Layers; }
  bool operator==(const Layer&) const = default;
};

/// The opacity of a layer is a parameter like any other.
const ParamSpec& opacitySpec();

/// The parameters of a mask, in this order.
enum class MaskParam { Reads, Grow, Soften, Invert };
inline constexpr int kMaskParams = 4;
std::span<const ParamSpec> maskSpecs();
Mask newMask(const StepSpec& source);

Layer newLayer(const StepSpec& source, std::string name);

/// What is handed over: what arrives, the loop so many times, what leaves. Where something in the scene does not loop, all of it lasts
/// as long as the longest of that.
struct Run {
  int loops = 1;           ///< 1 to kMaxRunLoops
  double seconds = 0;      ///< above 0: how long the loop goes on, instead of `loops`
  bool wholeLaps = false;  ///< footage is played a little slower or faster, so that the last lap is whole; else that one is cut
  bool keepsSound = true;  ///< the footage's own sound is heard too
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const Run&) const = default;
};

/// What the fields in words are filled with, a title for each row.
struct TitleTable {
  std::vector<std::string> columns;
  std::vector<std::vector<std::string>> rows;
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in
  bool operator==(const TitleTable&) const = default;
};
inline constexpr std::size_t kMostTitleRows = 10000;
inline constexpr std::size_t kMostTitleColumns = 256;

struct Scene {
  std::string name;
  int width = 1920;
  int height = 1080;
  Rational rate{30, 1};
  int frames = 300;
  std::optional<Colour> background = Colour{0, 0, 0, 1};  ///< none: transparent
  bool linearLight = false;                               ///< composite in linear light instead of display values
  int hold = 1;                                           ///< frames that each picture is held for
  int beats = 0;                                          ///< whole beats that the loop has; 0: it is not counted in beats
  int bar = 4;                                            ///< beats of a bar, 1 to kMaxBar
  Palette palette;                                        ///< offered by every colour control; may be empty
  std::vector<Layer> layers;
  SoundTrack sound;
  Run run;
  TitleTable table;
  std::string extra = {};  ///< keys of newer versions, kept as the JSON text they came in

  [[nodiscard]] double seconds() const { return frames / rate.value(); }
  bool operator==(const Scene&) const = default;
};

/// Greatest common divisor of the laps of everything in the layer that moves; 0 if nothing does. What other layers it shows is
/// not counted (scene/plan.h does).
std::int64_t commonLaps(const Layer& layer);

/// Changes the frame's size. With `scaleLengths` every length in pixels follows, so that the picture
/// stays the same; values are held within their ranges.
void resizeFrame(Scene& scene, int width, int height, bool scaleLengths);

}  // namespace oa
