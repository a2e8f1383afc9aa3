// Text within XML and HTML.
#pragma once

#include <string>
#include <string_view>

namespace oa {

/// As the content of an element or of an attribute in double quotes (XML 1.0, 2.4; HTML Living Standard, 13.1.2); control characters are
/// left out.
std::string markupText(std::string_view text);

}  // namespace oa
