#include "sound/tempo.h"

#include <soundtouch/BPMDetect.h>

#include <algorithm>
#include <cmath>
#include <vector>

namespace oa {

Tempo tempoOf(const Sound& sound) {
  soundtouch::BPMDetect detector(2, kSoundRate);
  // It writes into what it is given.
  constexpr std::int64_t kPiece = 4096;
  std::vector<soundtouch::SAMPLETYPE> piece;
  const std::int64_t all = std::min<std::int64_t>(sound.samples(), std::int64_t{kSoundRate} * 300);
  for (std::int64_t at = 0; at < all; at += kPiece) {
    const auto count = std::min(kPiece, all - at);
    piece.assign(sound.stereo.begin() + at * 2, sound.stereo.begin() + (at + count) * 2);
    detector.inputSamples(piece.data(), static_cast<int>(count));
  }
  Tempo tempo;
  tempo.beatsPerMinute = static_cast<double>(detector.getBpm());
  if (!(tempo.beatsPerMinute > 20 && tempo.beatsPerMinute < 400)) return {};
  // People count neither slower nor faster.
  while (tempo.beatsPerMinute < 70) tempo.beatsPerMinute *= 2;
  while (tempo.beatsPerMinute > 180) tempo.beatsPerMinute /= 2;
  // A loop of a sound has whole beats: nearly so many are so many.
  const double beats = sound.seconds() * tempo.beatsPerMinute / 60;
  if (beats < 256 && std::abs(beats - std::round(beats)) < 0.01 * beats && std::round(beats) >= 1)
    tempo.beatsPerMinute = std::round(beats) * 60 / sound.seconds();
  // The first that is not weak among all.
  const int count = detector.getBeats(nullptr, nullptr, 0);
  std::vector<float> places(static_cast<std::size_t>(std::max(0, count)));
  std::vector<float> strengths(places.size());
  detector.getBeats(places.data(), strengths.data(), count);
  const float most = strengths.empty() ? 0 : *std::max_element(strengths.begin(), strengths.end());
  for (std::size_t i = 0; i < places.size(); ++i)
    if (strengths[i] >= 0.4f * most) {
      tempo.firstBeat = std::max(0.0, static_cast<double>(places[i]));
      break;
    }
  return tempo;
}

int framesOfBeats(double beatsPerMinute, int beats, double rate) {
  return std::max(1, static_cast<int>(std::lround(beats * 60 / beatsPerMinute * rate)));
}

}  // namespace oa
