#include "render/profile.h"

#include <algorithm>
#include <chrono>

#include "base/spent.h"
#include "graph/counted.h"
#include "render/frames.h"

namespace oa {
namespace {

void tell(const Plan& plan, int group, int depth, const Spent& spent, int frames, Profile& out) {
  const auto& children = plan.children(group);
  for (auto child = children.rbegin(); child != children.rend(); ++child) {
    const Layer& layer = *plan.at(*child).layer;
    Profile::OfLayer own{layer.id, layer.name, depth, 0, {}};
    for (std::size_t i = 0; i < layer.recipe.size(); ++i) {
      const double time = spent.seconds(ownerOf(*child, i)) * 1000 / frames;
      own.steps.push_back({std::string(layer.recipe[i].spec->id), time});
      own.milliseconds += time;
    }
    out.layers.push_back(std::move(own));
    if (layer.isGroup()) tell(plan, *child, depth + 1, spent, frames, out);
  }
}

}  // namespace

Result<Profile> profiled(const Scene& scene, int width, int height, int threads, int frames, const std::atomic<bool>* cancel) {
  RenderOptions options;
  options.cancel = cancel;
  options.threads = threads;
  options.manyFrames = true;
  Renderer renderer(scene, width, height, options);
  if (auto ready = renderer.plan().status(); !ready) return tl::unexpected(ready.error());
  Frame8 frame;
  // What rests is kept from the second time on.
  for (int k = 0; k < 2; ++k) renderInto(renderer, k, Alpha::Premultiplied, frame);
  Spent spent(ownersFor(renderer.plan().layers().size()));
  Profile out;
  {
    const Spent::Within within(&spent);
    const auto start = std::chrono::steady_clock::now();
    for (int k = 0; k < frames; ++k)
      renderInto(renderer, 2 + std::int64_t{k} * std::max<std::int64_t>(1, scene.frames / frames), Alpha::Premultiplied, frame);
    out.frame = std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count() / frames;
  }
  if (cancel && *cancel) return fail("stopped");
  tell(renderer.plan(), -1, 0, spent, frames, out);
  out.laying = spent.seconds(0) * 1000 / frames;
  out.work = out.laying;
  for (const Profile::OfLayer& layer : out.layers) out.work += layer.milliseconds;
  return out;
}

}  // namespace oa
