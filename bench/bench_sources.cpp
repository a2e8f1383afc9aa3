// Sources of textures: cells, the kinds of noise, colour points, patterns.
#include <benchmark/benchmark.h>

#include <cstring>
#include <string>

#include "base/parallel.h"
#include "image/buffer.h"
#include "image/rows.h"
#include "ratios.h"
#include "scene/scene.h"
#include "simd/cell_field.h"

namespace {

constexpr int kWidth = 1920;
constexpr int kHeight = 1080;

struct Source {
  const oa::StepSpec& spec;
  oa::RecipeStep step;
  oa::Plane plane;

  explicit Source(const char* id, int channels = 1) : spec(*oa::findStep(id)), plane(kWidth, kHeight, channels) {
    step = oa::newStep(spec);
  }
  Source& set(const char* id, const oa::Value& value) {
    step.params[static_cast<std::size_t>(oa::findParam(spec.params, id))].base = value;
    return *this;
  }
  void count(std::size_t items) {
    while (step.items.size() < items) step.items.push_back(oa::newItem(*spec.items, step.items.size()));
  }
  // One whole frame, planning included, on the threads of the arena. Other frames of the loop by turns.
  void make() {
    const oa::StepContext context = oa::contextOf(step, {++frame_, 300}, oa::PlaneView::cover(kWidth, kHeight, kWidth, kHeight));
    const auto rows = spec.source(context);
    oa::parallelBands(kHeight, [&](int y0, int y1) { rows->rows(y0, y1, plane.row(y0), plane.stride()); });
    oa::bench::keep(plane.row(0));
  }

 private:
  int frame_ = 0;
};

oa::CellSettings cellSettings(bool turned) {
  oa::CellSettings s;
  s.periodX = 16;
  s.periodY = 9;
  s.ux = s.vy = 16.0 / kWidth;
  if (turned) {
    s.uy = 0.3 * s.vy;
    s.vx = -0.3 * s.ux;
  }
  s.scatter = 0.9;
  s.seed = 5;
  return s;
}

// Nearest and second nearest, block by block.
void distances(const oa::CellSettings& settings) {
  alignas(64) static thread_local float first[80 * 16];
  alignas(64) static thread_local float second[80 * 16];
  const oa::CellField field(settings);
  const auto size = field.blockSize();
  for (int y = 0; y < kHeight; y += size.height)
    for (int x = 0; x < kWidth; x += size.width) {
      field.block(x, std::min(size.width, kWidth - x), y, std::min(kHeight, y + size.height), {first, second, nullptr}, 80);
      oa::bench::keep(first);
    }
}

void BM_Cells(benchmark::State& state) {
  for (auto _ : state) distances(cellSettings(state.range(0) != 0));
}
BENCHMARK(BM_Cells)->Arg(0)->Arg(1)->Unit(benchmark::kMillisecond);

void BM_Points(benchmark::State& state) {
  Source points("points", 4);
  points.count(8);
  for (auto _ : state) oa::withThreads(static_cast<int>(state.range(0)), [&] { points.make(); });
}
BENCHMARK(BM_Points)->Arg(1)->Arg(2)->Unit(benchmark::kMillisecond)->UseRealTime();

}  // namespace

namespace oa::bench {

void sourceRatios() {
  const std::size_t floats = std::size_t{kWidth} * kHeight * 4;
  FloatBuffer from(floats);
  FloatBuffer to(floats);
  std::memset(from.data(), 1, floats * sizeof(float));
  std::memset(to.data(), 1, floats * sizeof(float));
  const auto copy = [&] {
    std::memcpy(to.data(), from.data(), floats * sizeof(float));
    keep(to.data());
  };
  withThreads(1, [&] {
    report("cells, nearest and second nearest, against a copy of a float RGBA frame",
           ratio([&] { distances(cellSettings(false)); }, copy, 60), 0.9, false);
    report("the same, turned", ratio([&] { distances(cellSettings(true)); }, copy, 60), 2, false);
    Source smooth("noise");
    for (const char* kind : {"ridged", "billowing", "folded", "streaks", "speckle"}) {
      Source other("noise");
      other.set("kind", std::string(kind));
      report(std::string("noise, ") + kind + ", against smooth", ratio([&] { other.make(); }, [&] { smooth.make(); }, 60), 1.5, false);
    }
    Source points("points", 4);
    points.count(8);
    report("eight colour points, against a copy of a float RGBA frame", ratio([&] { points.make(); }, copy, 60), 1.5, false);
  });
  const auto twoAgainstOne = [](const std::string& what, Source& source) {
    double value = 0;
    value = ratio([&] { withThreads(1, [&] { source.make(); }); }, [&] { withThreads(2, [&] { source.make(); }); }, 60);
    report(what + ", two threads against one", value, 1.6, true);
  };
  for (const char* look : {"pebbles", "facets"}) {
    Source cells("cells");
    cells.set("look", std::string(look));
    twoAgainstOne(std::string("cells, ") + look, cells);
  }
  for (const char* kind : {"smooth", "ridged", "billowing", "folded", "streaks"}) {
    Source noise("noise");
    noise.set("kind", std::string(kind));
    twoAgainstOne(std::string("noise, ") + kind, noise);
  }
  Source points("points", 4);
  points.count(8);
  twoAgainstOne("eight colour points", points);
  Source pattern("pattern");
  twoAgainstOne("stripes", pattern);
}

}  // namespace oa::bench
