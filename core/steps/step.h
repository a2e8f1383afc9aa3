// The contract of a step: what it is, its parameters, its kernel. One file per step fills one StepSpec.
#pragma once

#include <array>
#include <functional>
#include <memory>
#include <optional>
#include <span>
#include <string_view>
#include <type_traits>
#include <utility>
#include <vector>

#include "fields/input.h"
#include "image/rows.h"
#include "image/seamless.h"
#include "params/ready_made.h"
#include "params/step_context.h"
#include "params/variant.h"

namespace oa {

/// How a step reaches its input. The planner knows borders, fusing and caching from it.
enum class StepKind {
  Source,  ///< makes a field or a picture
  Point,   ///< a pixel needs only itself
  Area,    ///< needs other pixels: its neighbourhood, or any other place
};

/// What a source shows that is not made by itself.
enum class SourceReads {
  Nothing,  ///< it makes its picture
  Layers,   ///< the layers of its group
  Layer,    ///< another layer: the one that its parameter of type Layer names
  Below,    ///< all that lies below it within its group
  Stamp,    ///< it makes its picture, with that of another layer in it: the one that its parameter "layer" names, if it does
};

/// One pixel of the plain reference path, in double precision; a field uses v[0] alone.
struct ReferencePixel {
  int channels = 1;
  std::array<double, 4> v{};
};
/// The plain picture as a function of whole pixel coordinates, also outside the frame.
class ReferenceField {
 public:
  using Pixel = std::function<ReferencePixel(int x, int y)>;
  /// The field at part `k` of `of` of the loop.
  using Elsewhen = std::function<ReferenceField(int k, int of)>;

  ReferenceField() = default;
  template <class F>
  requires std::is_invocable_r_v<ReferencePixel, F, int, int> ReferenceField(F pixel, Elsewhen elsewhen = {})
      : pixel_(std::move(pixel)), elsewhen_(std::move(elsewhen)) {}
  ReferencePixel operator()(int x, int y) const { return pixel_(x, y); }
  /// Where nobody said what it is then, it is as now.
  [[nodiscard]] ReferenceField at(int k, int of) const { return elsewhen_ ? elsewhen_(k, of) : *this; }

 private:
  Pixel pixel_;
  Elsewhen elsewhen_;
};

struct StepSpec {
  std::string_view id;
  std::string_view title;
  std::string_view group;  ///< shown on the card: "source", "tone", "colour", "soften"
  std::string_view help;
  int version = 1;
  StepKind kind = StepKind::Source;
  std::span<const ParamSpec> params;
  /// The list of equal items that it has; null: none.
  const ItemsSpec* items = nullptr;
  /// The choice parameter whose choices a gallery shows as sources of their own; empty: the step is one.
  std::string_view varieties = {};
  /// What a gallery shows instead of the source as it comes; empty: that.
  std::span<const ReadyMade> ready = {};
  /// Steps: what a gallery offers beside it as it comes.
  std::span<const StepVariant> variants = {};
  /// Sources: where a gallery puts it. Lower ranks come first; sources of one section share their rank.
  struct Shelf {
    std::string_view section = {};  ///< empty: the step's title
    int rank = 1;
    std::string_view noun = {};  ///< behind the name of a variety: "linear gradient"
  };
  Shelf shelf = {};
  /// The point step that gives a field its colours, by the stops that are its items.
  bool coloursFields = false;
  /// The source's seamless tile at this moment, for sources that have one.
  TileSize (*tile)(const StepContext&) = nullptr;
  /// Sources that end somewhere: left, top, right and bottom of all they show, in pixels of the scene; none where they go on for ever.
  std::optional<std::array<double, 4>> (*extent)(const StepContext&) = nullptr;
  /// How far a soft edge is seen beyond that; none: nowhere.
  double (*beyond)(const StepContext&) = nullptr;
  /// Sources that are laid out by lines: those that show how, in pixels of the plane, while it is edited.
  std::vector<std::vector<Point>> (*skeleton)(const StepContext&) = nullptr;
  /// Sources of many copies: where they lie at the moment, what they are taken hold of by in the picture; also those left out.
  std::vector<CopyPlace> (*copies)(const StepContext&) = nullptr;
  /// Sources that arrive and leave letter by letter where they are told to (Values::passesBy()).
  bool pieces = false;
  /// Sources that a mask is offered to begin with.
  bool masks = false;
  /// Bytes of tables that a source builds for a frame, where they are worth counting.
  double (*bytes)(const StepContext&) = nullptr;
  /// Sources that may play something through once, however long the loop is: how many seconds of it there are; 0: they do not.
  double (*footage)(std::span<const Param> params) = nullptr;

  /// Steps that can make the ends of their picture meet: how they do it, if they do. What a source with it shows is in its file.
  std::optional<SeamSettings> (*ends)(std::span<const Param> params) = nullptr;

  /// Where it reads SourceReads::Stamp: what it makes lies where that layer stands.
  bool follows = false;
  /// Sources that show other layers have no kernel: core/graph makes their picture.
  SourceReads reads = SourceReads::Nothing;

  /// Sources that show what lies below them, in their own way, beneath what they make: whether they do, and that picture.
  bool (*looksBelow)(std::span<const Param> params) = nullptr;
  std::shared_ptr<const RowMaker> (*behind)(const StepContext&, const Input& below) = nullptr;

  // The one that fits `kind` is set.
  std::unique_ptr<RowMaker> (*source)(const StepContext&) = nullptr;
  /// Sources whose picture is to be had in light too, as Input::light() says; what comes back may be null.
  std::unique_ptr<RowMaker> (*light)(const StepContext&) = nullptr;
  std::unique_ptr<RowMaker> (*stamped)(const StepContext&, const Input& layer) = nullptr;  ///< where it reads SourceReads::Stamp
  std::unique_ptr<PointKernel> (*point)(const StepContext&, int inChannels) = nullptr;
  std::shared_ptr<const RowMaker> (*area)(const StepContext&, const Input& input) = nullptr;
  /// Area steps that look at another layer too, the one that their parameter "layer" names: `area` and `reference` look at what they work
  /// on in its place.
  std::shared_ptr<const RowMaker> (*looking)(const StepContext&, const Input& input, const Input& layer) = nullptr;
  ReferenceField (*referenceLooking)(const StepContext&, ReferenceField input, ReferenceField layer) = nullptr;
  /// How many pixels of the scene apart what a step makes may be worked out, so that cubic convolution in between is not told from it (to
  /// within a thousandth, but for the sharpness of a crease); `input` is the same of what it works on, 0 for sources. 0: every pixel
  /// counts, which is so where nothing is said.
  double (*smooth)(const StepContext&, double input) = nullptr;
  /// Area steps that are only made upright, and read from there where a view is turned; none: made in any view.
  bool (*upright)(const StepContext&) = nullptr;

  /// The same in plain scalar code, for comparison in tests. `input` is empty for sources.
  ReferenceField (*reference)(const StepContext&, ReferenceField input) = nullptr;
};

/// All steps, sources first, each group in alphabetical order.
std::span<const StepSpec* const> allSteps();
/// nullptr if there is no such step.
const StepSpec* findStep(std::string_view id);
}  // namespace oa
