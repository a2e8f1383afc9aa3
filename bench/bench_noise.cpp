#include <benchmark/benchmark.h>
#include <libnoise/noise.h>

#include <vector>

#include "base/parallel.h"
#include "image/buffer.h"
#include "ratios.h"
#include "simd/lattice_noise.h"

namespace {

constexpr int kWidth = 1920;
constexpr int kHeight = 1080;

oa::NoiseSettings settings(bool turned) {
  oa::NoiseSettings s;
  s.ux = 9.0 / kWidth;
  s.vy = 5.0 / kHeight;
  if (turned) {
    s.uy = 0.3 * s.vy;
    s.vx = -0.3 * s.ux;
  }
  s.periodX = 9;
  s.periodY = 5;
  s.octaves = 6;
  s.churn = 4;
  s.progress = 0.37;
  s.seed = 7;
  return s;
}

void field(bool turned, oa::Plane& plane) {
  const oa::LatticeNoise noise(settings(turned), kWidth);
  for (int y = 0; y < kHeight; y += oa::kBandRows) noise.rows(y, std::min(kHeight, y + oa::kBandRows), plane.row(y), plane.stride());
  oa::bench::keep(plane.row(0));
}

void yardstick(oa::Plane& plane) {
  noise::module::Perlin perlin;
  perlin.SetOctaveCount(6);
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) plane.row(y)[x] = static_cast<float>(perlin.GetValue(x * 9.0 / kWidth, y * 5.0 / kHeight, 1.48));
  oa::bench::keep(plane.row(0));
}

void BM_NoiseAligned(benchmark::State& state) {
  oa::Plane plane(kWidth, kHeight, 1);
  for (auto _ : state) field(false, plane);
}
BENCHMARK(BM_NoiseAligned)->Unit(benchmark::kMillisecond);

void BM_NoiseTurned(benchmark::State& state) {
  oa::Plane plane(kWidth, kHeight, 1);
  for (auto _ : state) field(true, plane);
}
BENCHMARK(BM_NoiseTurned)->Unit(benchmark::kMillisecond);

}  // namespace

namespace oa::bench {

void noiseRatios() {
  Plane plane(kWidth, kHeight, 1);
  const double libnoise = quickest([&] { yardstick(plane); }, 3);
  const double aligned = quickest([&] { field(false, plane); }, 60);
  const double turned = quickest([&] { field(true, plane); }, 12);
  report("noise, six octaves, axis-aligned, against libnoise's Perlin", libnoise / aligned, 100, true);
  report("noise, six octaves, turned, against libnoise's Perlin", libnoise / turned, 10, true);
}

}  // namespace oa::bench
