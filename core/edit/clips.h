// Clips as layers: how fast they play, and how often they had best.
#pragma once

#include "scene/run.h"

namespace oa::edit {

/// Plays a clip that way; whether pictures are mixed, and how long it stands, stay.
void setClipPlay(Scene& scene, Id layer, int step, const ClipPlay& play);
/// Against its own speed, 1 as it was taken; 0 for what is no clip, or stands.
double clipSpeed(const RecipeStep& source, const Scene& scene);
/// The times a lap at which it plays nearest to its own speed, 1 at least.
int bestPlays(const RecipeStep& source, const Scene& scene);

}  // namespace oa::edit
