// Google Benchmark rows for every part, then the ratios the project promises.
#include <benchmark/benchmark.h>

#include <string>

#include "ratios.h"

namespace oa::bench {
void noiseRatios();
void sourceRatios();
void chainRatios();
void blurRatios();
void exportRatios(const std::string& only = {});
void memoryRatios();
void pictureRatios();
void sceneRates(const std::string& only, const std::string& target);
void lensRatios(const std::string& only = {});
void graphRatios(const std::string& only = {});
}  // namespace oa::bench

int main(int argc, char** argv) {
  if (argc > 1 && std::string(argv[1]) == "graph") return oa::bench::graphRatios(argc > 2 ? argv[2] : ""), 0;
  if (argc > 1 && std::string(argv[1]) == "export") return oa::bench::exportRatios(argc > 2 ? argv[2] : ""), 0;
  if (argc > 1 && std::string(argv[1]) == "pictures") return oa::bench::pictureRatios(), 0;
  if (argc > 1 && std::string(argv[1]) == "scenes") return oa::bench::sceneRates(argc > 2 ? argv[2] : "", argc > 3 ? argv[3] : ""), 0;
  if (argc > 1 && std::string(argv[1]) == "lenses") return oa::bench::lensRatios(argc > 2 ? argv[2] : ""), 0;
  if (argc == 1) oa::bench::memoryRatios();
  benchmark::Initialize(&argc, argv);
  benchmark::RunSpecifiedBenchmarks();
  benchmark::Shutdown();
  if (argc > 1 && std::string(argv[1]) == "blur") return oa::bench::blurRatios(), 0;
  if (argc > 1 && std::string(argv[1]) == "sources") return oa::bench::sourceRatios(), 0;
  oa::bench::noiseRatios();
  oa::bench::sourceRatios();
  oa::bench::chainRatios();
  oa::bench::blurRatios();
  oa::bench::exportRatios();
  oa::bench::graphRatios();
  oa::bench::pictureRatios();
  oa::bench::lensRatios();
  return oa::bench::allMet() ? 0 : 1;
}
