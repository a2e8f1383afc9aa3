#include "render/reference.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <memory>

#include "scene/plan.h"
#include "scene/run.h"
#include "sound/levels.h"
#include "graph/puller.h"

namespace oa {
namespace {

using Pixel = std::array<double, 4>;

Pixel curved(Pixel p, double (*curve)(double)) {
  if (p[3] <= 0) return p;
  for (std::size_t i = 0; i < 3; ++i) p[i] = curve(std::min(1.0, p[i] / p[3])) * p[3];
  return p;
}

Pixel asPicture(const ReferencePixel& p) {
  const double grey = std::clamp(p.v[0], 0.0, 1.0);
  return p.channels == 4 ? p.v : Pixel{grey, grey, grey, 1};
}

PlaneView framed(PlaneView view, Point frame) {
  view.frameWidth = frame.x;
  view.frameHeight = frame.y;
  return view;
}

// Pixels that were worked out once are not worked out again: steps look at their neighbours.
ReferenceField remembered(ReferenceField field) {
  auto known = std::make_shared<std::map<std::pair<int, int>, ReferencePixel>>();
  return [known, field = std::move(field)](int x, int y) {
    const auto key = std::pair(x, y);
    if (const auto found = known->find(key); found != known->end()) return found->second;
    return known->emplace(key, field(x, y)).first->second;
  };
}

class Reference {
 public:
  explicit Reference(const Plan& plan) : plan_(plan), puller_(plan, nullptr, nullptr) {}

  ReferenceField composite(int group, int count, const PlaneView& view, const Moment& at, Colour backdrop) const {
    std::vector<Stage> stages;
    addStages(stages, group, count, view, at);
    Pixel behind{backdrop.r * backdrop.a, backdrop.g * backdrop.a, backdrop.b * backdrop.a, backdrop.a};
    const bool linear = plan_.scene().linearLight;
    if (linear) behind = curved(behind, srgbDecode);
    return remembered([=](int x, int y) {
      Pixel total = behind;
      for (const Stage& stage : stages) {
        Pixel source = asPicture(stage.picture(x, y));
        if (linear) source = curved(source, srgbDecode);
        total = blendReference(stage.blend, source, stage.opacity, total);
      }
      return ReferencePixel{4, linear ? curved(total, srgbEncode) : total};
    });
  }

 private:
  struct Stage {
    ReferenceField picture;
    BlendMode blend;
    double opacity;
  };

  void addStages(std::vector<Stage>& stages, int group, int count, const PlaneView& view, const Moment& at) const {
    for (const int index : plan_.children(group)) {
      const PlanLayer& own = plan_.at(index);
      const Layer& layer = *own.layer;
      if (own.place >= count) break;
      const Moment now = heldMoment(at, layer.hold);
      const double opacity = std::get<double>(evaluate(opacitySpec(), layer.opacity, now).value) * presenceAt(layer.presence, now.phase());
      if (!layer.visible || opacity <= 0) continue;
      const PlaneView inside = view.through(puller_.placeOf(index, now), own.frame.x, own.frame.y);
      if (own.through)
        addStages(stages, index, static_cast<int>(plan_.children(index).size()), inside, groupMoment(layer, now));
      else
        stages.push_back({result(index, inside, now), layer.blend, opacity});
    }
  }

  ReferenceField result(int index, const PlaneView& view, const Moment& at) const {
    const Layer& layer = *plan_.at(index).layer;
    ReferenceField picture = recipe(index, layer.recipe.size(), view, at);
    if (!layer.mask || !layer.mask->on) return picture;
    const ReferenceField share = mask(index, view, at);
    return [picture, share](int x, int y) {
      Pixel p = asPicture(picture(x, y));
      for (double& v : p) v *= share(x, y).v[0];
      return ReferencePixel{4, p};
    };
  }

  ReferenceField recipe(int index, std::size_t steps, const PlaneView& view, const Moment& at) const {
    const Layer& layer = *plan_.at(index).layer;
    ReferenceField field = source(index, layer.recipe.front(), view, at);
    for (std::size_t i = 1; i < steps; ++i) {
      const RecipeStep& step = layer.recipe[i];
      const double there = step.on ? presenceAt(step.presence, at.phase()) : 0;
      if (there <= 0) continue;
      const ReferenceField before(field,
                                  [this, index, i, view, at](int k, int of) { return recipe(index, i, view, at.at(at.frames * k / of)); });
      const int look = plan_.lookOf(index, i);
      const ReferenceField made =
          remembered(look < 0 ? step.spec->reference(contextOf(step, at, view), before)
                              : step.spec->referenceLooking(contextOf(step, at, view), before, lookedAt(look, view, at)));
      if (there >= 1) {
        field = made;
        continue;
      }
      field = [field, made, there](int x, int y) {
        ReferencePixel a = field(x, y);
        ReferencePixel b = made(x, y);
        const int channels = std::max(a.channels, b.channels);
        if (a.channels != channels) a.v = asPicture(a);
        if (b.channels != channels) b.v = asPicture(b);
        for (std::size_t c = 0; c < 4; ++c) b.v[c] = a.v[c] + (b.v[c] - a.v[c]) * there;
        b.channels = channels;
        return b;
      };
    }
    return field;
  }

  ReferenceField lookedAt(int index, const PlaneView& view, const Moment& at) const {
    const PlanLayer& shown = plan_.at(index);
    return result(index, framed(view, shown.frame), heldMoment(at, shown.layer->hold));
  }

  ReferenceField source(int index, const RecipeStep& source, const PlaneView& view, const Moment& at) const {
    const PlanLayer& own = plan_.at(index);
    const StepContext context = contextOf(source, at, view);
    const ReferenceField nothing = [](int, int) { return ReferencePixel{4, {}}; };
    switch (source.spec->reads) {
      case SourceReads::Nothing:
      case SourceReads::Stamp:
        return remembered(source.spec->reference(context, {}));
      case SourceReads::Layers: {
        const ReferenceField inside =
            composite(index, static_cast<int>(plan_.children(index).size()), view, groupMoment(*own.layer, at), {0, 0, 0, 0});
        if (!context.toggle("cut")) return inside;
        return [inside, view](int x, int y) {
          // The share of the pixel by counting.
          constexpr int kParts = 16;
          int within = 0;
          for (int i = 0; i < kParts * kParts; ++i) {
            const Point p = view.place(x + (i % kParts + 0.5) / kParts - 0.5, y + (i / kParts + 0.5) / kParts - 0.5);
            within += p.x >= 0 && p.y >= 0 && p.x < view.frameWidth && p.y < view.frameHeight;
          }
          ReferencePixel pixel = inside(x, y);
          for (double& v : pixel.v) v *= within / static_cast<double>(kParts * kParts);
          return pixel;
        };
      }
      case SourceReads::Layer: {
        const int target = &source == &own.layer->recipe.front() ? own.target : own.maskTarget;
        if (target < 0) return nothing;
        const PlanLayer& shown = plan_.at(target);
        const Moment then = heldMoment(shownMoment(source, at), shown.layer->hold);
        const PlaneView there = framed(view, shown.frame);
        return context.choice("shows") == "source" ? recipe(target, 1, there, then) : result(target, there, then);
      }
      case SourceReads::Below: {
        if (own.blind) return nothing;
        const Point outer = puller_.outerFrame(index);
        const PlaneView behind = view.through(puller_.placeOf(index, at).inverse(), outer.x, outer.y);
        const Colour backdrop = own.parent < 0 ? plan_.scene().background.value_or(Colour{0, 0, 0, 0}) : Colour{0, 0, 0, 0};
        return composite(own.parent, own.place, behind, shownMoment(source, at), backdrop);
      }
    }
    return nothing;
  }

  ReferenceField mask(int index, const PlaneView& view, const Moment& at) const {
    const Mask& mask = *plan_.at(index).layer->mask;
    const StepContext context(maskSpecs(), mask.params, at, view);
    const ReferenceField picture = source(index, mask.source, view, at);
    const bool alpha = context.choice("reads") == "alpha";
    ReferenceField field = remembered([picture, alpha](int x, int y) {
      const ReferencePixel p = picture(x, y);
      double v = p.v[0];
      if (p.channels == 4) {
        v = p.v[3];
        if (!alpha) {
          v = 0;
          for (std::size_t c = 0; c < 3; ++c) v += p.v[c] * static_cast<double>(kLuma[c]);
        }
      }
      return ReferencePixel{1, {std::clamp(v, 0.0, 1.0)}};
    });
    const double grow = context.number("grow") * view.scale;
    const auto extreme = [field](int radius, bool largest) {
      return [field, radius, largest](int x, int y) {
        double v = field(x, y).v[0];
        for (int dy = -radius; dy <= radius; ++dy)
          for (int dx = -radius; dx <= radius; ++dx)
            if (dx * dx + dy * dy <= radius * radius) {
              const double o = field(x + dx, y + dy).v[0];
              v = largest ? std::max(v, o) : std::min(v, o);
            }
        return v;
      };
    };
    if (grow != 0) {
      const int whole = static_cast<int>(std::floor(std::abs(grow)));
      const double rest = std::abs(grow) - whole;
      const auto low = extreme(whole, grow > 0);
      const auto high = extreme(whole + 1, grow > 0);
      field = remembered([low, high, rest](int x, int y) {
        const double a = low(x, y);
        return ReferencePixel{1, {rest > 0 ? a + (high(x, y) - a) * rest : a}};
      });
    }
    const double sigma = context.number("soften") / 2 * view.scale;
    if (sigma > 0) {
      const int reach = static_cast<int>(std::ceil(4 * sigma));
      const auto blurredAlong = [=](const ReferenceField& of, int stepX, int stepY) {
        return remembered([=](int x, int y) {
          double sum = 0;
          double weights = 0;
          for (int k = -reach; k <= reach; ++k) {
            const double w = std::exp(-0.5 * k * k / (sigma * sigma));
            sum += w * of(x + k * stepX, y + k * stepY).v[0];
            weights += w;
          }
          return ReferencePixel{1, {sum / weights}};
        });
      };
      field = blurredAlong(blurredAlong(field, 1, 0), 0, 1);
    }
    if (!context.toggle("invert")) return field;
    return [field](int x, int y) { return ReferencePixel{1, {1 - field(x, y).v[0]}}; };
  }

  const Plan& plan_;
  Puller puller_;
};

}  // namespace

std::vector<Pixel> referenceFrame(const Scene& scene, std::int64_t k, int width, int height) {
  return referenceFrame(scene, k, PlaneView::cover(scene.width, scene.height, width, height));
}

std::vector<Pixel> referenceFrame(const Scene& scene, std::int64_t k, const PlaneView& view) {
  const Plan plan(scene);
  const Reference reference(plan);
  const auto levels = followedLevels(scene);
  const ReferenceField picture =
      reference.composite(-1, static_cast<int>(scene.layers.size()), view,
                          heldMoment({k, scene.frames, std::max<std::int64_t>(0, k), runOf(scene).step, levels.get()}, scene.hold),
                          scene.background.value_or(Colour{0, 0, 0, 0}));
  std::vector<Pixel> out;
  for (int y = 0; y < view.height; ++y)
    for (int x = 0; x < view.width; ++x) out.push_back(picture(x, y).v);
  return out;
}

}  // namespace oa
