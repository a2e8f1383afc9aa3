#include "graph/puller.h"

#include <algorithm>
#include <cmath>
#include <cstring>

#include "graph/keepable.h"
#include "graph/mask_rows.h"
#include "image/cropped.h"
#include "image/sampling.h"
#include "image/sparse.h"
#include "image/stacked.h"
#include "scene/extent.h"

namespace oa {
namespace {

class Nothing final : public SpanMaker {
 public:
  using SpanMaker::SpanMaker;
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] PixelBox bounds() const override { return {0, 0, 0, 0}; }
  void span(int, int, int n, float* out) const override { std::memset(out, 0, sizeof(float) * static_cast<std::size_t>(n) * 4); }
};

// The same view over a plane with another frame.
PlaneView framed(PlaneView view, Point frame) {
  view.frameWidth = frame.x;
  view.frameHeight = frame.y;
  return view;
}

// Another layer's picture, for a source that makes something of it; -1: nothing. Views are those of that layer's own plane.
class WhatLiesBelow final : public Input {
 public:
  WhatLiesBelow(const Puller& puller, int layer, const Moment& at) : puller_(puller), layer_(layer), at_(at) {}
  [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view) const override { return pull(view, at_); }
  [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view, const Moment& at) const override {
    return puller_.below(layer_, view, at_, at);
  }
  [[nodiscard]] Moment moment() const override { return at_; }

 private:
  const Puller& puller_;
  int layer_;
  Moment at_;
};

class Shown final : public Input {
 public:
  Shown(const Puller& puller, int viewer, int layer, const Moment& at) : puller_(puller), viewer_(viewer), layer_(layer), at_(at) {}
  [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view) const override { return pull(view, at_); }
  [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view, const Moment& at) const override {
    if (layer_ < 0) return nothingRows(view.width);
    const PlanLayer& seen = puller_.plan().at(layer_);
    return puller_.shown(layer_, framed(view, seen.frame), ownMoment(seen, at));
  }
  [[nodiscard]] Moment moment() const override { return at_; }
  [[nodiscard]] std::array<double, 4> filled() const override {
    // As it is at the joint: it does not grow and shrink with what moves.
    return filledAt(at_.at(0));
  }
  [[nodiscard]] std::array<double, 4> filledNow() const override {
    return layer_ < 0 ? filledAt(at_) : filledAt(ownMoment(puller_.plan().at(layer_), at_));
  }
  [[nodiscard]] Affine standing() const override {
    if (layer_ < 0) return {};
    const Affine own = puller_.standing(viewer_, at_);
    // Of what is so small that it is not seen nobody asks where it lies.
    return std::abs(own.determinant()) < 1e-12 ? Affine() : puller_.standing(layer_, at_).then(own.inverse());
  }

 private:
  [[nodiscard]] std::array<double, 4> filledAt(const Moment& at) const {
    if (layer_ < 0) return {};
    const Box box = extentWithin(puller_.plan(), layer_, at, true).box;
    return {box.left, box.top, box.right, box.bottom};
  }
  const Puller& puller_;
  int viewer_;
  int layer_;
  Moment at_;
};

// What does not move for a while is asked for in each frame, also by several renderers by turns; what is only asked for again a loop
// later would fill the memory for it.
constexpr int kSoon = 8;

// Nothing below it can be seen, wherever it is looked at.
bool hidesAll(const Stage& stage) { return stage.blend == BlendMode::Normal && stage.opacity >= 1 && stage.pass->opaque(); }

}  // namespace

std::shared_ptr<const RowMaker> nothingRows(int width) { return std::make_shared<Nothing>(width); }

std::unique_ptr<Input> Puller::shownInput(int viewer, int layer, const Moment& at) const {
  return std::make_unique<Shown>(*this, viewer, layer, at);
}

Point Puller::outerFrame(int layer) const {
  const int parent = plan_.at(layer).parent;
  if (parent >= 0) return plan_.at(parent).frame;
  return {static_cast<double>(plan_.scene().width), static_cast<double>(plan_.scene().height)};
}

Affine Puller::placeOf(int layer, const Moment& at) const {
  const PlanLayer& own = plan_.at(layer);
  return placeMap(placeAt(own.layer->place, at), own.frame, outerFrame(layer));
}

Affine Puller::standing(int layer, const Moment& at) const {
  Affine map;
  for (int up = layer; up >= 0; up = plan_.at(up).parent) {
    const Moment now = ownMoment(plan_.at(up), at);
    const Affine lies = placeOf(up, now);
    map = map.then(lies);
    if (now.passing()) map = map.then(wayOf(up, now, lies));
  }
  return map;
}

bool Puller::addStage(std::vector<Stage>& stages, int index, const PlaneView& view, const Moment& at) const {
  const PlanLayer& own = plan_.at(index);
  const Layer& layer = *own.layer;
  const Moment now = ownMoment(own, at);
  const double there = presenceAt(layer.presence, now.phase());
  const double opacity = std::get<double>(evaluate(opacitySpec(), layer.opacity, now).value) * there;
  if (opacity <= 0 || cancelled()) return false;
  if (now.passing()) {
    const std::size_t before = stages.size();
    addPassing(stages, index, view, now, opacity);
    return stages.size() > before && hidesAll(stages.back());
  }
  const Affine map = placeOf(index, now);
  const PlaneView inside = map == Affine() ? framed(view, own.frame) : view.through(map, own.frame.x, own.frame.y);
  if (own.through) return addStages(stages, index, static_cast<int>(plan_.children(index).size()), inside, groupMoment(layer, now));
  stages.push_back(
      {layer.isGroup() ? std::make_shared<const RecipePass>(shown(index, inside, now), inside.width) : pass(index, inside, now),
       layer.blend, static_cast<float>(opacity)});
  return hidesAll(stages.back());
}

bool Puller::addStages(std::vector<Stage>& stages, int group, int count, const PlaneView& view, const Moment& at) const {
  const auto& children = plan_.children(group);
  for (auto child = children.rbegin(); child != children.rend(); ++child)
    if (plan_.at(*child).place < count && plan_.at(*child).layer->visible && addStage(stages, *child, view, at)) return true;
  return false;
}

Composite::Mixing Puller::mixing() const { return plan_.scene().linearLight ? Composite::Mixing::Light : Composite::Mixing::Display; }

std::shared_ptr<const Composite> Puller::alone(int layer, const PlaneView& view, const Moment& at) const {
  std::vector<Stage> stages;
  if (layer >= 0) addStage(stages, layer, view, heldMoment(at, plan_.scene().hold));
  if (stages.size() == 1) stages.front().blend = BlendMode::Normal;
  return std::make_shared<Composite>(std::move(stages), Colour{0, 0, 0, 0}, mixing(), view.width);
}

std::shared_ptr<const Composite> Puller::composite(int group, int count, const PlaneView& view, const Moment& at, Colour backdrop) const {
  std::vector<Stage> stages;
  addStages(stages, group, count, view, at);
  std::reverse(stages.begin(), stages.end());
  return std::make_shared<Composite>(std::move(stages), backdrop, mixing(), view.width);
}

std::shared_ptr<const Composite> Puller::scene(const PlaneView& view, const Moment& at) const {
  const Scene& scene = plan_.scene();
  return composite(-1, static_cast<int>(scene.layers.size()), view, heldMoment(at, scene.hold),
                   scene.background.value_or(Colour{0, 0, 0, 0}));
}

PixelBox Puller::reach(int layer, const PlaneView& view, const Moment& at) const {
  const Layer& own = *plan_.at(layer).layer;
  PixelBox box{0, 0, view.width, view.height};
  if (own.mask && own.mask->on) box = box.within(maskReach(*this, layer, view, at));
  const StepSpec& spec = *own.recipe.front().spec;
  // Steps may carry a picture beyond the frame that its group was cut at.
  if (spec.reads == SourceReads::Layers && own.recipe.size() == 1 && contextOf(own.recipe.front(), at, view).toggle("cut"))
    box = box.within(frameBoxOf(view));
  return box;
}

// Only what can be seen is made: the rest of the view is transparent.
std::shared_ptr<const RecipePass> Puller::pass(int layer, const PlaneView& view, const Moment& at) const {
  const PixelBox box = reach(layer, view, at);
  if (box.empty()) return std::make_shared<const RecipePass>(nothingRows(view.width), view.width);
  constexpr double kWorthIt = 0.8;
  const double share = static_cast<double>(box.x1 - box.x0) * (box.y1 - box.y0) / (static_cast<double>(view.width) * view.height);
  if (share > kWorthIt) return passWithin(layer, view, at);
  const PlaneView part = view.part(box.x0, box.y0, box.x1 - box.x0, box.y1 - box.y0);
  const auto made = passWithin(layer, part, at);
  return std::make_shared<const RecipePass>(
      patched(made->bare() && made->channels() == 4 ? made->sharedBase() : pictureRows(made, part.width), box, view.width), view.width);
}

std::shared_ptr<const RecipePass> Puller::passWithin(int layer, const PlaneView& view, const Moment& at) const {
  const Layer& own = *plan_.at(layer).layer;
  auto made = std::make_shared<const RecipePass>(*this, layer, own.recipe.size(), at, view);
  if (!own.mask || !own.mask->on) return made;
  return std::make_shared<const RecipePass>(maskedRows(made, maskRows(*this, layer, view, at), view.width), view.width);
}

std::shared_ptr<const RowMaker> Puller::result(int layer, const PlaneView& view, const Moment& at) const {
  if (cancelled()) return nothingRows(view.width);
  const auto made = pass(layer, view, at);
  return made->bare() ? made->sharedBase() : made;
}

std::shared_ptr<const RowMaker> Puller::pictureOf(int layer, const PlaneView& view, const Moment& at) const {
  auto made = result(layer, view, at);
  return made->channels() == 4 ? made : pictureRows(std::make_shared<const RecipePass>(made, view.width), view.width);
}

std::shared_ptr<const RowMaker> Puller::recipe(int layer, std::size_t steps, const PlaneView& view, const Moment& at) const {
  if (cancelled()) return nothingRows(view.width);
  const auto made = std::make_shared<const RecipePass>(*this, layer, steps, at, view);
  return made->bare() ? made->sharedBase() : made;
}

std::shared_ptr<const RowMaker> Puller::below(int layer, const PlaneView& view, const Moment& at, const Moment& then) const {
  const PlanLayer& own = plan_.at(layer);
  const Point outer = outerFrame(layer);
  const Affine map = placeOf(layer, at);
  const PlaneView behind = map == Affine() ? framed(view, outer) : view.through(map.inverse(), outer.x, outer.y);
  const Colour backdrop = own.parent < 0 ? plan_.scene().background.value_or(Colour{0, 0, 0, 0}) : Colour{0, 0, 0, 0};
  return composite(own.parent, own.place, behind, then, backdrop);
}

std::shared_ptr<const RowMaker> Puller::source(int layer, const RecipeStep& source, const PlaneView& view, const Moment& at) const {
  const PlanLayer& own = plan_.at(layer);
  const StepSpec& spec = *source.spec;
  const StepContext context = contextOf(source, at, view);
  switch (spec.reads) {
    case SourceReads::Nothing:
      return spec.source(context);
    case SourceReads::Stamp: {
      const int target = &source == &own.layer->recipe.front() ? own.target : own.maskTarget;
      auto made = spec.stamped(context, Shown(*this, layer, target, at));
      if (own.blind || &source != &own.layer->recipe.front() || !spec.looksBelow || !spec.looksBelow(source.params)) return made;
      std::vector<std::shared_ptr<const RowMaker>> both{spec.behind(context, WhatLiesBelow(*this, layer, at))};
      both.push_back(std::move(made));
      return stackedRows(std::move(both), view.width);
    }
    case SourceReads::Layers: {
      const auto inside = composite(layer, static_cast<int>(plan_.children(layer).size()), view, groupMoment(*own.layer, at), {0, 0, 0, 0});
      if (!context.toggle("cut")) return inside;
      return maskedRows(std::make_shared<const RecipePass>(inside, view.width), frameRowsOf(view), view.width);
    }
    case SourceReads::Layer: {
      const int target = &source == &own.layer->recipe.front() ? own.target : own.maskTarget;
      if (target < 0) return nothingRows(view.width);
      const PlanLayer& seen = plan_.at(target);
      const Moment then = ownMoment(seen, shownMoment(source, at));
      const PlaneView there = framed(view, seen.frame);
      return context.choice("shows") == "source" ? recipe(target, 1, there, then) : shown(target, there, then);
    }
    case SourceReads::Below:
      return own.blind ? nothingRows(view.width) : below(layer, view, at, shownMoment(source, at));
  }
  return nothingRows(view.width);
}

std::shared_ptr<const RowMaker> Puller::kept(int layer, std::size_t steps, const PlaneView& view, const Moment& at,
                                             const Make& make) const {
  if (cancelled()) return nothingRows(view.width);
  const PlanLayer& own = plan_.at(layer);
  // On its way a layer may look otherwise than in the loop.
  if (own.wholeLaps != 0 || (own.passesWithin && plan_.underWay(at))) return make();
  const auto makeIt = [&] {
    auto made = make();
    // A source that makes something of layers knows their light. What lies below is mostly wanted as it is shown.
    const SourceReads reads = own.layer->recipe.front().spec->reads;
    const bool inLight = plan_.scene().linearLight;
    if (steps == 1) return inLight && reads != SourceReads::Nothing ? keepable(made, view.width, reads != SourceReads::Below) : made;
    // Area steps read what they need as it is shown; and what is opaque is laid as that.
    const auto later = own.layer->recipe.begin() + static_cast<std::ptrdiff_t>(steps);
    const bool last = std::none_of(later, own.layer->recipe.end(), [](const RecipeStep& s) { return s.spec->kind == StepKind::Area; });
    return keepable(made, view.width, inLight && last && !made->opaque());
  };
  if (!cache_) return makeIt();
  const PlaneKey key{own.layer->id, steps, 0, view};
  if (auto found = cache_->find(key)) return found;
  auto made = makeIt();
  // What is only wanted once, as in a view that moves, is not worth keeping; what was broken off is not whole.
  if (cancelled() || !cache_->wantedAgain(key, kSoon)) return made;
  // Made as quickly as it could be read; but an area step's maker has the costly part behind it.
  if (!made->costly() && steps == 1) return made;
  // Of what is small in its view only that.
  const PixelBox all{0, 0, view.width, view.height};
  PixelBox box = made->channels() == 4 ? made->bounds().within(all) : all;
  if (box.empty()) box = {0, 0, 1, 1};
  // As spans are laid.
  box.x0 = box.x0 / kSpanPadding * kSpanPadding;
  box.x1 = std::min(view.width, (box.x1 + kSpanPadding - 1) / kSpanPadding * kSpanPadding);
  std::size_t bytes = static_cast<std::size_t>(box.x1 - box.x0) * static_cast<std::size_t>(box.y1 - box.y0) * sizeof(float) *
                      static_cast<std::size_t>(made->channels());
  const bool sparse = made->channels() == 4 && !made->opaque();
  // Shares of one colour lie beside the picture (image/sparse.h).
  if (sparse) bytes += bytes / 4;
  if (!cache_->hasRoomFor(bytes)) return made;
  if (made->costly() && !made->stored(0)) {
    made = keptAs(made, view.width, [&](const std::shared_ptr<const RowMaker>& rows) -> std::shared_ptr<const RowMaker> {
      if (rows->stored(0)) return rows;
      const int width = box.x1 - box.x0;
      const bool opaque = rows->opaque();
      const bool whole = width == view.width && box.y1 - box.y0 == view.height;
      Plane plane = wholePlane(*cropped(rows, box.x0, box.y0, width, view.width), width, box.y1 - box.y0);
      std::shared_ptr<const RowMaker> stored =
          sparse ? sparseRows(std::move(plane), rows->tint().has_value()) : planeRows(std::move(plane), opaque);
      return whole ? stored : patched(std::move(stored), box, view.width);
    });
    if (cancelled()) return made;
  }
  cache_->put(key, made, bytes, kForgotten);
  return made;
}

}  // namespace oa
