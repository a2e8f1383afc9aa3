// A layer as galleries show it.
#pragma once

#include "scene/scene.h"

namespace oa::app {

/// The scene with this layer alone, over nothing; one that shows what lies below it over that.
Scene shownAlone(const Scene& scene, Id layer);

}  // namespace oa::app
