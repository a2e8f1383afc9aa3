// Whether bytes are UTF-8 text.
#pragma once

#include <string_view>

namespace oa {

/// RFC 3629: no overlong forms, no surrogates, nothing above U+10FFFF.
bool isUtf8(std::string_view text);

}  // namespace oa
