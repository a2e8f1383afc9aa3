// Values that follow others: finding, for each, what it follows.
#pragma once

#include <functional>

#include "scene/scene.h"

namespace oa {

/// Most parameters that lie behind one by following, all told.
inline constexpr int kMostLed = 64;

/// Gives every motion that follows what it follows, as it is now. One whose leader is gone or of another kind, or that would come back to
/// itself, is left without, and stands still. To be called when anything may have changed.
void bindFollowers(Scene& scene);

/// Every parameter of a layer that could be followed, by how it is named; what arrives and leaves is not.
void forEachNamed(Layer& layer, const std::function<void(const LeaderRef&, const ParamSpec&, Param&)>& visit);

}  // namespace oa
