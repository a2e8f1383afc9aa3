// The contract of a step: what it is, its parameters, its kernel. One file per step fills one StepSpec.
#pragma once

#include <array>
#include <functional>
#include <memory>
#include <span>
#include <string_view>
#include <vector>

#include "image/rows.h"
#include "params/param.h"

namespace oa {

/// The frame being made, and how it lies over the scene's own frame. Lengths in a scene are pixels of
/// the scene's frame; `scale` turns them into pixels of this one.
struct FrameInfo {
  int width = 1;
  int height = 1;
  double scale = 1;  ///< pixels of this frame for one pixel of the scene
  double left = 0;   ///< scene x of this frame's left edge
  double top = 0;    ///< scene y of this frame's upper edge
  double sceneWidth = 1;
  double sceneHeight = 1;

  /// Scene coordinates of a pixel's centre.
  [[nodiscard]] double sceneX(double px) const { return left + (px + 0.5) / scale; }
  [[nodiscard]] double sceneY(double py) const { return top + (py + 0.5) / scale; }

  /// A frame of `width` x `height` that covers the scene's frame about its centre: the scene is cut,
  /// never distorted, where the proportions differ.
  static FrameInfo cover(int sceneWidth, int sceneHeight, int width, int height);
};

/// Everything a kernel may know: values at the moment, and the frame. Time comes in only through values.
class StepContext {
 public:
  StepContext(std::span<const ParamSpec> specs, std::span<const Param> params, const Moment& at, const FrameInfo& frame);

  [[nodiscard]] const FrameInfo& frame() const { return frame_; }
  [[nodiscard]] double number(std::string_view id) const { return std::get<double>(find(id).value); }
  [[nodiscard]] int integer(std::string_view id) const { return static_cast<int>(number(id)); }
  [[nodiscard]] Point point(std::string_view id) const { return std::get<Point>(find(id).value); }
  [[nodiscard]] Colour colour(std::string_view id) const { return std::get<Colour>(find(id).value); }
  [[nodiscard]] std::string_view choice(std::string_view id) const { return std::get<std::string>(find(id).value); }
  [[nodiscard]] bool toggle(std::string_view id) const { return std::get<bool>(find(id).value); }
  [[nodiscard]] const Stops& stops(std::string_view id) const { return std::get<Stops>(find(id).value); }
  [[nodiscard]] const Curve& curve(std::string_view id) const { return std::get<Curve>(find(id).value); }
  /// Share of the lap done, for LoopRule::Progress parameters; number of the still, for LoopRule::Held ones.
  [[nodiscard]] double progress(std::string_view id) const { return find(id).progress; }
  /// The value before motion: what must not jump while a value moves, such as a tile's size.
  [[nodiscard]] double baseNumber(std::string_view id) const;

 private:
  [[nodiscard]] const ValueAt& find(std::string_view id) const;

  std::span<const ParamSpec> specs_;
  std::span<const Param> params_;
  std::vector<ValueAt> values_;
  FrameInfo frame_;
};

/// How a step reaches its input. The planner knows borders, fusing and caching from it.
enum class StepKind {
  Source,  ///< makes a field or a picture
  Point,   ///< a pixel needs only itself
  Area,    ///< needs other pixels: its neighbourhood, or any other place
};

/// One pixel of the plain reference path, in double precision; a field uses v[0] alone.
struct ReferencePixel {
  int channels = 1;
  std::array<double, 4> v{};
};
/// The plain picture as a function of whole pixel coordinates, also outside the frame.
using ReferenceField = std::function<ReferencePixel(int x, int y)>;

/// The piece of a source that repeats without an edge, in pixels of the scene, turned by `degrees`.
struct TileSize {
  double width = 0;
  double height = 0;
  double degrees = 0;
};

struct StepSpec {
  std::string_view id;
  std::string_view title;
  std::string_view group;  ///< shown on the card: "source", "tone", "colour", "soften"
  std::string_view help;
  int version = 1;
  StepKind kind = StepKind::Source;
  std::span<const ParamSpec> params;
  /// The choice parameter whose choices a gallery shows as sources of their own; empty: the step is one.
  std::string_view varieties = {};
  /// The source's seamless tile at this moment, for sources that have one.
  TileSize (*tile)(const StepContext&) = nullptr;

  // The one that fits `kind` is set.
  std::unique_ptr<RowMaker> (*source)(const StepContext&) = nullptr;
  std::unique_ptr<PointKernel> (*point)(const StepContext&, int inChannels) = nullptr;
  std::unique_ptr<RowMaker> (*area)(const StepContext&, const RowMaker& input, int inWidth, int inHeight) = nullptr;

  /// The same in plain scalar code, for comparison in tests. `input` is empty for sources.
  ReferenceField (*reference)(const StepContext&, ReferenceField input) = nullptr;
};

/// All steps, sources first, each group in alphabetical order.
std::span<const StepSpec* const> allSteps();
/// nullptr if there is no such step.
const StepSpec* findStep(std::string_view id);
/// Index of a parameter, or -1.
int findParam(std::span<const ParamSpec> specs, std::string_view id);
/// Whether parameter `i` has anything to say with the others as they are (ParamSpec::shownWhen).
bool isShown(std::span<const ParamSpec> specs, std::span<const Param> params, std::size_t i);

}  // namespace oa
