// Speeds and rhythms of a scene: what a lap goes through, how often things go round, and all of it in another loop length.
#pragma once

#include <map>
#include <vector>

#include "loop/fit_loop.h"
#include "scene/scene.h"

namespace oa::edit {

/// What one lap of a motion goes through, there and back, in pixels of the scene or in degrees; 0 where it cannot be said in either.
double wayOfLap(const Scene& scene, const ParamSpec& spec, const Param& param, const Motion& motion);

/// The laps that motions of the scene make, each number once, the most first; backwards counts like forwards. Sound is not counted: it
/// goes by once.
std::vector<int> lapsIn(const Scene& scene);
/// How long a lap of so many takes, in seconds.
double periodOf(const Scene& scene, int laps);

/// Gives the loop another length, and every motion of so many laps others, so that what went round in a time goes on doing so.
void takeFit(Scene& scene, std::int64_t frames, const std::map<int, int>& laps);

/// Counts the loop in beats: as many as come nearest to its present length, which becomes that of whole beats at this tempo (beats a
/// minute, above 0).
void setTempo(Scene& scene, double beatsPerMinute);
/// Of a loop that is counted in beats; 0: it is not.
double tempoOf(const Scene& scene);

}  // namespace oa::edit
