#include <benchmark/benchmark.h>

#include <cstring>

#include "image/buffer.h"
#include "ratios.h"
#include "render/frames.h"

namespace {

constexpr int kWidth = 1920;
constexpr int kHeight = 1080;

// noise -> levels -> colour map, screen over a gradient.
oa::Scene chain() {
  oa::Scene scene;
  scene.width = kWidth;
  scene.height = kHeight;
  scene.layers.push_back(oa::newLayer(*oa::findStep("gradient"), "ground"));
  oa::Layer fog = oa::newLayer(*oa::findStep("noise"), "fog");
  fog.recipe[0].params[static_cast<std::size_t>(oa::findParam(fog.recipe[0].spec->params, "detail"))].base = 6.0;
  fog.recipe.push_back(oa::newStep(*oa::findStep("levels")));
  fog.recipe.push_back(oa::newStep(*oa::findStep("colourmap")));
  fog.blend = oa::BlendMode::Screen;
  scene.layers.push_back(fog);
  return scene;
}

void BM_Chain(benchmark::State& state) {
  oa::RenderOptions options;
  options.threads = static_cast<int>(state.range(0));
  oa::Renderer renderer(chain(), kWidth, kHeight, options);
  oa::Frame8 frame;
  int k = 0;
  for (auto _ : state) oa::renderInto(renderer, ++k, oa::Alpha::Premultiplied, frame);
}
BENCHMARK(BM_Chain)->Arg(1)->Arg(2)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace

namespace oa::bench {

void chainRatios() {
  const std::size_t floats = std::size_t{kWidth} * kHeight * 4;
  FloatBuffer from(floats);
  FloatBuffer to(floats);
  std::memset(from.data(), 1, floats * sizeof(float));
  std::memset(to.data(), 1, floats * sizeof(float));
  RenderOptions one;
  one.threads = 1;
  RenderOptions two;
  two.threads = 2;
  Renderer single(chain(), kWidth, kHeight, one);
  Renderer both(chain(), kWidth, kHeight, two);
  Frame8 frame;
  int k = 0;
  const auto copy = [&] {
    std::memcpy(to.data(), from.data(), floats * sizeof(float));
    keep(to.data());
  };
  const auto alone = [&] { renderInto(single, ++k, Alpha::Premultiplied, frame); };
  const auto together = [&] { renderInto(both, ++k, Alpha::Premultiplied, frame); };
  report("chain of noise to 8 bit, one thread, against a copy of a float RGBA frame", ratio(alone, copy, 80), 1.6, false);
  report("the same chain, two threads against one", 1 / ratio(together, alone, 80), 1.6, true);
}

}  // namespace oa::bench
