// Clips as layers: how fast they play, and how often they had best.
#pragma once

#include "scene/scene.h"
#include "store/clip_time.h"

namespace oa::edit {

/// How a picture's step plays its clip; of any other step, or a picture that stands still, nothing is to be made of it.
ClipPlay clipPlayOf(const RecipeStep& source);
/// Plays it that way; whether pictures are mixed, and how long it stands, stay.
void setClipPlay(Scene& scene, Id layer, int step, const ClipPlay& play);
/// Against its own speed, 1 as it was taken; 0 for what is no clip, or stands.
double clipSpeed(const RecipeStep& source, const Scene& scene);
/// The times a lap at which it plays nearest to its own speed, 1 at least.
int bestPlays(const RecipeStep& source, const Scene& scene);

}  // namespace oa::edit
