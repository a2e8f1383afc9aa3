#include "widgets/beat_grid.h"

#include <cmath>

namespace oa::app {

double onBeat(const Scene& scene, double share, double within) {
  if (scene.beats < 1) return share;
  const double beat = std::round(share * scene.beats) / scene.beats;
  return std::abs(beat - share) <= within ? beat : share;
}

}  // namespace oa::app
