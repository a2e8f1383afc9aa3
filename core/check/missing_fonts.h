// Fonts that a scene names and this machine does not have.
#pragma once

#include <string>
#include <vector>

#include "scene/scene.h"

namespace oa {

/// Their families, each once, sorted. Until they are there, words are set in what the system has instead.
std::vector<std::string> missingFonts(const Scene& scene);

}  // namespace oa
