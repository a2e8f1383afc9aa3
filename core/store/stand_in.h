// What stands for a picture that cannot be shown.
#pragma once

#include <string>

namespace oa {

/// A hatched drawing with the name of what is missing.
std::string standInDrawing(const std::string& name, int width, int height);

}  // namespace oa
