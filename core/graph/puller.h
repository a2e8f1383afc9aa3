// Makes pictures of a plan: any layer, any view, any moment.
#pragma once

#include <atomic>
#include <functional>
#include <memory>
#include <vector>

#include "graph/composite.h"
#include "scene/extent.h"
#include "scene/plan.h"
#include "graph/plane_cache.h"

namespace oa {

class Puller {
 public:
  using Make = std::function<std::shared_ptr<const RowMaker>()>;

  /// `cache` may be null: then nothing is kept. Once `cancel` is true, pictures come back empty.
  Puller(const Plan& plan, PlaneCache* cache, const std::atomic<bool>* cancel) : plan_(plan), cache_(cache), cancel_(cancel) {}

  [[nodiscard]] const Plan& plan() const { return plan_; }

  /// All visible layers of a group (-1: the scene) that lie below place `count`, in a view of the group's plane.
  [[nodiscard]] std::shared_ptr<const Composite> composite(int group, int count, const PlaneView& view, const Moment& at,
                                                           Colour backdrop) const;
  /// The whole scene, with its background, as its frame is held.
  [[nodiscard]] std::shared_ptr<const Composite> scene(const PlaneView& view, const Moment& at) const;
  /// One layer as it lies in its group, over nothing and unblended.
  [[nodiscard]] std::shared_ptr<const Composite> alone(int layer, const PlaneView& view, const Moment& at) const;
  /// A layer's picture on its own plane: recipe and mask, before place, blend and opacity.
  [[nodiscard]] std::shared_ptr<const RowMaker> result(int layer, const PlaneView& view, const Moment& at) const;
  /// The same for those who look at it: each different picture of what several look at, or what repeats within the loop, is made
  /// once.
  [[nodiscard]] std::shared_ptr<const RowMaker> shown(int layer, const PlaneView& view, const Moment& at) const;
  /// The first `steps` steps of its recipe, without the mask.
  [[nodiscard]] std::shared_ptr<const RowMaker> recipe(int layer, std::size_t steps, const PlaneView& view, const Moment& at) const;
  /// A source, of the layer's recipe or its mask.
  /// All that lies below a layer within its group as it is `then`, where that is, wherever the layer is placed.
  [[nodiscard]] std::shared_ptr<const RowMaker> below(int layer, const PlaneView& view, const Moment& at, const Moment& then) const;
  [[nodiscard]] std::shared_ptr<const RowMaker> source(int layer, const RecipeStep& source, const PlaneView& view, const Moment& at) const;
  /// What `make` makes, or what was kept of it: the first `steps` steps of a recipe, if they rest.
  [[nodiscard]] std::shared_ptr<const RowMaker> kept(int layer, std::size_t steps, const PlaneView& view, const Moment& at,
                                                     const Make& make) const;
  /// From the layer's plane to that of the group it lies in.
  [[nodiscard]] Affine placeOf(int layer, const Moment& at) const;
  [[nodiscard]] Point outerFrame(int layer) const;
  /// From a layer's plane to the scene's, where all groups are at the same moment (Plan counts their laps likewise).
  [[nodiscard]] Affine standing(int layer, const Moment& at) const;

  /// What a layer that shows, or looks at, another one is given of it; -1: nothing.
  [[nodiscard]] std::unique_ptr<Input> shownInput(int viewer, int layer, const Moment& at) const;

 private:
  [[nodiscard]] Composite::Mixing mixing() const;
  /// Adds one layer below the others: stages are gathered from the top, so that what is wholly hidden is never made. True if it hides all
  /// that lies below it.
  bool addStage(std::vector<Stage>& stages, int layer, const PlaneView& view, const Moment& at) const;
  /// What arriving and leaving do to where a layer lies, in the plane of its group; `lies` is where it does so otherwise.
  [[nodiscard]] Box boxOf(int layer, const Moment& now, const Affine& lies) const;
  [[nodiscard]] Affine wayOf(int layer, const Moment& now, const Affine& lies) const;
  /// The same of one that arrives or leaves at the moment.
  void addPassing(std::vector<Stage>& stages, int layer, const PlaneView& view, const Moment& now, double opacity) const;
  bool addStages(std::vector<Stage>& stages, int group, int count, const PlaneView& view, const Moment& at) const;
  /// Where a layer with a mask, or a group cut at its frame, can be seen at all.
  [[nodiscard]] PixelBox reach(int layer, const PlaneView& view, const Moment& at) const;
  /// result() in four channels.
  [[nodiscard]] std::shared_ptr<const RowMaker> pictureOf(int layer, const PlaneView& view, const Moment& at) const;
  [[nodiscard]] std::shared_ptr<const RecipePass> passWithin(int layer, const PlaneView& view, const Moment& at) const;
  [[nodiscard]] std::shared_ptr<const RecipePass> pass(int layer, const PlaneView& view, const Moment& at) const;
  [[nodiscard]] bool cancelled() const { return cancel_ && *cancel_; }

  const Plan& plan_;
  PlaneCache* cache_;
  const std::atomic<bool>* cancel_;
};

/// Nothing: transparent pixels.
std::shared_ptr<const RowMaker> nothingRows(int width);

}  // namespace oa
