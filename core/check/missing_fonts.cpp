#include "check/missing_fonts.h"

#include "scene/named_fonts.h"

namespace oa {

std::vector<std::string> missingFonts(const Scene& scene) {
  const auto unknown = unknownFonts(scene);
  return {unknown.begin(), unknown.end()};
}

}  // namespace oa
