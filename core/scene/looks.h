// Whether two scenes show the same.
#pragma once

#include "scene/scene.h"

namespace oa {

/// True if they differ in nothing but what no picture shows: names, locks, the palette, keys that are not known.
bool looksSame(const Scene& a, const Scene& b);

}  // namespace oa
