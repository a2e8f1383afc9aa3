#include "sound/track_sound.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "scene/run.h"
#include "scene/tree.h"
#include "store/media_store.h"

namespace oa {
namespace {

float sampleOf(const Sound& sound, std::int64_t at, int channel) {
  if (at < 0 || at >= sound.samples()) return 0;
  return sound.stereo[static_cast<std::size_t>(at) * 2 + static_cast<std::size_t>(channel)];
}

std::int64_t samplesOf(double seconds) { return std::llround(seconds * kSoundRate); }

// One sound among those heard.
struct Voice {
  std::shared_ptr<const Sound> sound;
  float gain = 1;
  // Going round: laps of a length that need not be whole samples.
  double lap = 0;
  std::int64_t from = 0;
  std::int64_t meet = 0;
  // Going on: silent from here on; negative: as long as it has.
  std::int64_t until = -1;
  // The sample that it begins at; what goes round went round before.
  std::int64_t begins = 0;

  void add(std::int64_t first, int count, float* stereo) const {
    for (int i = 0; i < count; ++i) {
      const std::int64_t at = first + i - begins;
      if (at < 0 && lap <= 0) continue;
      for (int c = 0; c < 2; ++c) {
        float v = 0;
        if (lap > 0) {
          const auto number = static_cast<std::int64_t>(std::floor(static_cast<double>(at) / lap + 1e-9));
          const std::int64_t lapBegins = std::llround(static_cast<double>(number) * lap);
          const std::int64_t lapEnds = std::llround(static_cast<double>(number + 1) * lap);
          v = LoopStretch{from, lapEnds - lapBegins, meet}.sample(*sound, at - lapBegins, c);
        } else if (until < 0 || at < until) {
          v = sampleOf(*sound, from + at, c);
        }
        stereo[static_cast<std::ptrdiff_t>(i) * 2 + c] += v * gain;
      }
    }
  }
};

}  // namespace

float LoopStretch::sample(const Sound& sound, std::int64_t at, int channel) const {
  at = floorMod(at, lap);
  const float v = sampleOf(sound, from + at, channel);
  if (at >= meet) return v;
  const double in = 0.5 - 0.5 * std::cos(std::numbers::pi * (static_cast<double>(at) + 0.5) / static_cast<double>(meet));
  return static_cast<float>(v * in + sampleOf(sound, from + lap + at, channel) * (1 - in));
}

RunSound soundOf(const Scene& scene, std::int64_t frames, std::int64_t arrive) {
  RunSound made;
  std::vector<Voice> voices;
  const auto note = [&](const Error& error) { made.note += (made.note.empty() ? "" : "; ") + error.sentence(); };
  const SoundTrack& track = scene.sound;
  MediaStore& store = MediaStore::shared();
  if (track.there() && !track.toggle(SoundParam::Muted)) {
    const auto sound = store.sound(track.file());
    if (sound) {
      Voice voice;
      voice.sound = *sound;
      voice.gain = static_cast<float>(std::pow(10, track.number(SoundParam::Loudness) / 20));
      voice.from = samplesOf(track.number(SoundParam::From));
      if (!track.toggle(SoundParam::Whole)) {
        voice.lap = scene.seconds() * kSoundRate;
        voice.begins = samplesOf(static_cast<double>(arrive) / scene.rate.value());
        voice.meet = std::min(samplesOf(track.number(SoundParam::Meet)), static_cast<std::int64_t>(voice.lap / 2));
      }
      voices.push_back(std::move(voice));
    } else {
      note(sound.error());
    }
  }
  if (scene.run.keepsSound) {
    forEachLayer(scene.layers, [&](const Layer& layer, int) {
      const RecipeStep& source = layer.recipe.front();
      const double seconds = footageOf(source);
      if (seconds <= 0 || !layer.visible) return;
      const auto sound =
          store.sound(std::get<MediaRef>(source.params[static_cast<std::size_t>(findParam(source.spec->params, "file"))].base));
      // Footage without a sound is silent.
      if (!sound) return;
      Voice voice;
      voice.sound = *sound;
      voice.from = samplesOf(clipPlayOf(source).from - (*sound)->begins);
      voice.until = samplesOf(seconds);
      if (layer.passes.arrive) voice.begins = samplesOf(passingOf(*layer.passes.arrive).delay);
      voices.push_back(std::move(voice));
    });
  }
  if (voices.empty()) return made;
  const std::int64_t all = samplesOf(static_cast<double>(frames) / scene.rate.value());
  const double in = track.there() ? track.number(SoundParam::FadeIn) * kSoundRate : 0;
  const double out = track.there() ? track.number(SoundParam::FadeOut) * kSoundRate : 0;
  made.sound = [voices = std::move(voices), all, in, out](std::int64_t first, int count, float* stereo) {
    std::fill_n(stereo, static_cast<std::size_t>(count) * 2, 0.0f);
    for (const Voice& voice : voices) voice.add(first, count, stereo);
    for (int i = 0; i < count; ++i) {
      const auto at = static_cast<double>(first + i);
      const double left = static_cast<double>(all) - at;
      double gain = 1;
      if (at < in) gain *= at / in;
      if (left < out) gain *= std::max(0.0, left / out);
      if (gain < 1)
        for (int c = 0; c < 2; ++c) stereo[static_cast<std::ptrdiff_t>(i) * 2 + c] *= static_cast<float>(gain);
    }
  };
  return made;
}

double bestCut(const Sound& sound, double from, double seconds, double reach) {
  // Compared over a twentieth of a second, in steps of half a millisecond.
  const std::int64_t length = kSoundRate / 20;
  const std::int64_t lap = samplesOf(seconds);
  const std::int64_t middle = samplesOf(from);
  double least = 1e30;
  std::int64_t best = middle;
  for (std::int64_t by = 0; by <= samplesOf(reach); by += 24)
    for (const std::int64_t at : {middle + by, middle - by}) {
      if (at < 0 || at + lap + length > sound.samples()) continue;
      double difference = 0;
      double loud = 1e-9;
      for (std::int64_t i = 0; i < length; i += 3)
        for (int c = 0; c < 2; ++c) {
          const double a = static_cast<double>(sampleOf(sound, at + i, c));
          const double b = static_cast<double>(sampleOf(sound, at + lap + i, c));
          difference += (a - b) * (a - b);
          loud += a * a + b * b;
        }
      if (difference / loud >= least - 1e-12) continue;
      least = difference / loud;
      best = at;
    }
  return static_cast<double>(best) / kSoundRate;
}

std::vector<WavePart> waveOf(const Sound& sound, double from, double seconds, int count) {
  std::vector<WavePart> parts(static_cast<std::size_t>(std::max(0, count)));
  for (int i = 0; i < count; ++i) {
    const std::int64_t begins = samplesOf(from + seconds * i / count);
    const std::int64_t ends = std::max(begins + 1, samplesOf(from + seconds * (i + 1) / count));
    double sum = 0;
    WavePart& part = parts[static_cast<std::size_t>(i)];
    for (std::int64_t at = begins; at < ends; ++at) {
      const float v = std::max(std::abs(sampleOf(sound, at, 0)), std::abs(sampleOf(sound, at, 1)));
      part.peak = std::max(part.peak, v);
      sum += static_cast<double>(v);
    }
    part.mean = static_cast<float>(sum / static_cast<double>(ends - begins));
  }
  return parts;
}

}  // namespace oa
