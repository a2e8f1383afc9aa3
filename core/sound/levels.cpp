#include "sound/levels.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "scene/tree.h"
#include "sound/track_sound.h"
#include "store/media_store.h"

namespace oa {
namespace {

constexpr double kLow = 180;
constexpr double kHigh = 2500;
constexpr double kFall = 0.33;  // seconds

// A section of second order (R. Bristow-Johnson, "Cookbook formulae for audio EQ biquad filter coefficients").
class Section {
 public:
  Section(double hertz, bool high) {
    const double w = 2 * std::numbers::pi * hertz / kSoundRate;
    const double c = std::cos(w);
    const double alpha = std::sin(w) / std::numbers::sqrt2;
    const double a0 = 1 + alpha;
    b1_ = (high ? -(1 + c) : 1 - c) / a0;
    b0_ = b2_ = (high ? 1 + c : 1 - c) / 2 / a0;
    a1_ = -2 * c / a0;
    a2_ = (1 - alpha) / a0;
  }
  double operator()(double x) {
    const double y = b0_ * x + z1_;
    z1_ = b1_ * x - a1_ * y + z2_;
    z2_ = b2_ * x - a2_ * y;
    return y;
  }

 private:
  double b0_, b1_, b2_, a1_, a2_;
  double z1_ = 0;
  double z2_ = 0;
};

// Two of them make a crossover of fourth order.
struct Crossover {
  Section first, second;
  Crossover(double hertz, bool high) : first(hertz, high), second(hertz, high) {}
  double operator()(double x) { return second(first(x)); }
};

// Falls slowly, round and round: the second time round it has met its own end.
void smooth(std::vector<float>& levels, double perFrame) {
  const auto keep = static_cast<float>(std::exp(-perFrame / kFall));
  float held = 0;
  for (int round = 0; round < 2; ++round)
    for (float& level : levels) {
      held = std::max(level, held * keep);
      if (round == 1) level = held;
    }
}

}  // namespace

SoundLevels levelsOf(const Sound& sound, const Scene& scene) {
  const double lap = scene.seconds() * kSoundRate;
  const auto whole = std::max<std::int64_t>(1, std::llround(lap));
  const SoundTrack& track = scene.sound;
  const LoopStretch stretch{std::llround(track.number(SoundParam::From) * kSoundRate), whole,
                            std::min<std::int64_t>(std::llround(track.number(SoundParam::Meet) * kSoundRate), whole / 2)};
  Crossover low(kLow, false);
  Crossover aboveLow(kLow, true);
  Crossover belowHigh(kHigh, false);
  Crossover high(kHigh, true);
  const auto frames = static_cast<std::size_t>(scene.frames);
  std::vector<std::vector<double>> power(kSoundBands, std::vector<double>(frames, 0));
  std::vector<double> counts(frames, 0);
  // A little before the beginning, so that filters are as they would be after a lap.
  const std::int64_t ahead = std::min<std::int64_t>(whole, kSoundRate / 2);
  for (std::int64_t at = -ahead; at < whole; ++at) {
    const double v = 0.5 * static_cast<double>(stretch.sample(sound, at, 0) + stretch.sample(sound, at, 1));
    const double rest = aboveLow(v);
    const double bands[kSoundBands] = {v, low(v), belowHigh(rest), high(v)};
    if (at < 0) continue;
    const auto frame = std::min(frames - 1, static_cast<std::size_t>(static_cast<double>(at) / lap * static_cast<double>(frames)));
    for (std::size_t b = 0; b < kSoundBands; ++b) power[b][frame] += bands[b] * bands[b];
    counts[frame] += 1;
  }
  std::vector<std::vector<float>> levels;
  for (const auto& band : power) {
    auto& list = levels.emplace_back(frames, 0.0f);
    for (std::size_t k = 0; k < frames; ++k) list[k] = static_cast<float>(std::sqrt(band[k] / std::max(1.0, counts[k])));
    smooth(list, 1 / scene.rate.value());
    std::vector<float> sorted = list;
    const std::size_t loud = std::min(frames - 1, frames * 19 / 20);
    std::nth_element(sorted.begin(), sorted.begin() + static_cast<std::ptrdiff_t>(loud), sorted.end());
    const float most = sorted[loud];
    for (float& level : list) level = most > 1e-5f ? std::min(1.0f, level / most) : 0;
  }
  return SoundLevels(std::move(levels));
}

std::shared_ptr<const SoundLevels> followedLevels(const Scene& scene) {
  bool followed = false;
  const auto look = [&](const ParamSpec&, const Param& param) {
    for (std::size_t i = 0; i < motionCount(param); ++i) followed = followed || followsSound(motionOf(param, i));
  };
  forEachLayer(scene.layers, [&](const Layer& layer, int) { forEachParam(layer, look); });
  return followed ? levelsOf(scene) : nullptr;
}

std::shared_ptr<const SoundLevels> levelsOf(const Scene& scene) {
  if (!scene.sound.there()) return nullptr;
  static ByteCache known(std::size_t{32} << 20);
  const auto number = [&](SoundParam which) { return numberText(scene.sound.number(which), 9) + "/"; };
  const MediaRef& file = scene.sound.file();
  const std::string key = file.hash + "/" + number(SoundParam::From) + number(SoundParam::Meet) + std::to_string(scene.frames) + "/" +
                          std::to_string(scene.rate.num) + "/" + std::to_string(scene.rate.den);
  if (auto kept = file.hash.empty() ? nullptr : known.find<SoundLevels>(key)) return kept;
  const auto sound = MediaStore::shared().sound(file);
  if (!sound) return nullptr;
  auto made = std::make_shared<const SoundLevels>(levelsOf(**sound, scene));
  if (!file.hash.empty()) known.keep(key, made, static_cast<std::size_t>(scene.frames) * kSoundBands * sizeof(float));
  return made;
}

}  // namespace oa
