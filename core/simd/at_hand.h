// Numbers at hand for a loop.
#pragma once

#include <type_traits>

namespace oa {

/// A copy on the stack of what is quick to copy, else itself. Nobody else can change the copy while pixels are written, so that its
/// numbers are made vectors once, and not again for each pixel.
template <class T>
using AtHand = std::conditional_t<std::is_trivially_copyable_v<T>, const T, const T&>;

}  // namespace oa
