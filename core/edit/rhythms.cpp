#include "edit/rhythms.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "scene/tree.h"
#include "sound/tempo.h"

namespace oa::edit {

double wayOfLap(const Scene& scene, const ParamSpec& spec, const Param& param, const Motion& motion) {
  if (motion.kind == MotionKind::Turn) return spec.rule == LoopRule::Round ? 360 : 0;
  if (motion.kind != MotionKind::Swing) return 0;
  if (const auto* base = std::get_if<double>(&param.base)) {
    const bool told = spec.unit == Unit::Pixels || spec.unit == Unit::Degrees;
    return told ? 2 * std::abs(std::get<double>(motion.far) - *base) : 0;
  }
  if (const auto* base = std::get_if<Point>(&param.base)) {
    const Point far = std::get<Point>(motion.far);
    const Point per = spec.unit == Unit::Share ? Point{static_cast<double>(scene.width), static_cast<double>(scene.height)} : Point{1, 1};
    return spec.unit == Unit::Share || spec.unit == Unit::Pixels ? 2 * std::hypot((far.x - base->x) * per.x, (far.y - base->y) * per.y) : 0;
  }
  return 0;
}

std::vector<int> lapsIn(const Scene& scene) {
  std::set<int, std::greater<>> laps;
  forEachLayer(scene.layers, [&](const Layer& layer, int) {
    forEachParam(layer, [&](const ParamSpec& spec, const Param& param) {
      if (!reallyMoves(spec, param)) return;
      for (std::size_t i = 0; i < motionCount(param); ++i)
        if (const Motion& m = motionOf(param, i); m.moves() && keepsTime(m)) laps.insert(std::abs(m.laps));
    });
  });
  return {laps.begin(), laps.end()};
}

double periodOf(const Scene& scene, int laps) { return scene.seconds() / std::max(1, laps); }

void takeFit(Scene& scene, std::int64_t frames, const std::map<int, int>& laps) {
  scene.frames = static_cast<int>(std::clamp<std::int64_t>(frames, 1, kMaxFrames));
  forEachLayer(scene.layers, [&](Layer& layer, int) {
    forEachParam(layer, [&](const ParamSpec&, Param& param) {
      for (std::size_t i = 0; i < motionCount(param); ++i) {
        Motion& m = motionOf(param, i);
        const auto other = laps.find(std::abs(m.laps));
        if (!m.moves() || !keepsTime(m) || other == laps.end()) continue;
        m.laps = std::clamp(other->second, 1, kMaxLaps) * (m.laps < 0 ? -1 : 1);
      }
    });
  });
}

void setTempo(Scene& scene, double beatsPerMinute) {
  if (!(beatsPerMinute > 0)) return;
  scene.beats = std::clamp(static_cast<int>(std::lround(scene.seconds() * beatsPerMinute / 60)), 1, kMaxBeats);
  scene.frames = std::clamp(framesOfBeats(beatsPerMinute, scene.beats, scene.rate.value()), 1, kMaxFrames);
}

double tempoOf(const Scene& scene) { return scene.beats > 0 ? scene.beats * 60 / scene.seconds() : 0; }

}  // namespace oa::edit
