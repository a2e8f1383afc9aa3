// The fonts that a scene names.
#pragma once

#include <set>
#include <string>

#include "scene/scene.h"

namespace oa {

/// Their families, as they are written, where the parameter that names them counts.
std::set<std::string> namedFonts(const Scene& scene);
/// The same of fonts that this machine does not have.
std::set<std::string> unknownFonts(const Scene& scene);

}  // namespace oa
