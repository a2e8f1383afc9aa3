#include "render/budget.h"

#include <algorithm>
#include <functional>

#include "base/memory.h"
#include "base/memory_budget.h"

namespace oa {
namespace {

// Planes of four channels that an area step holds at once beside its result: its input, and one to work in.
constexpr double kPlanesOfAStep = 3;
constexpr double kFramesOnTheWay = 6;

}  // namespace

MemoryNeed memoryNeed(const Scene& scene, int width, int height) {
  const double plane = 4.0 * sizeof(float) * (width + 32.0) * height;
  MemoryNeed need;
  need.bytes = kFramesOnTheWay * 8 * width * static_cast<double>(height);
  const PlaneView view = PlaneView::cover(scene.width, scene.height, width, height);
  double working = 0;
  const std::function<void(const std::vector<Layer>&)> add = [&](const std::vector<Layer>& layers) {
    for (const Layer& layer : layers) {
      if (!layer.visible) continue;
      double bytes = 0;
      bool area = false;
      for (const RecipeStep& step : layer.recipe) {
        if (!step.on && step.spec->kind != StepKind::Source) continue;
        area = area || step.spec->kind == StepKind::Area;
        if (step.spec->bytes) bytes += step.spec->bytes(contextOf(step, {0, scene.frames}, view));
      }
      if (layer.mask && layer.mask->on) bytes += plane / 4;
      if (area) {
        // Its result stays, until the frame is done or for the loop; what it works in goes when the next layer begins.
        bytes += plane;
        working = std::max(working, (kPlanesOfAStep - 1) * plane);
      }
      need.bytes += bytes;
      if (bytes > need.largestBytes || need.largest.empty()) {
        need.largestBytes = bytes;
        need.largest = layer.name;
      }
      add(layer.layers);
    }
  };
  add(scene.layers);
  need.bytes += working;
  return need;
}

Status fitsBudget(const Scene& scene, int width, int height, std::size_t budget) {
  if (budget == 0) budget = MemoryBudget::shared().bytes();
  const MemoryNeed need = memoryNeed(scene, width, height);
  if (need.bytes <= static_cast<double>(budget)) return {};
  return fail("at " + std::to_string(width) + " x " + std::to_string(height) + " a picture needs about " + bytesText(need.bytes) +
              " of memory, and " + bytesText(static_cast<double>(budget)) + " may be used; the layer \"" + need.largest +
              "\" needs most. A smaller size, or fewer layers that blur or warp, needs less");
}

}  // namespace oa
