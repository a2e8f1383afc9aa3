// A scene as the undo history keeps it: what did not change from one state to the next is kept once.
#pragma once

#include <memory>
#include <vector>

#include "scene/scene.h"

namespace oa::edit {

class Snapshot {
 public:
  Snapshot() = default;
  /// Layers that are as they were in `before` are shared with it.
  Snapshot(const Scene& scene, const Snapshot& before);

  [[nodiscard]] Scene scene() const;
  /// Layers that this one shares with another, the groups among them counted with all that is in them.
  [[nodiscard]] std::size_t sharedWith(const Snapshot& other) const;
  bool operator==(const Snapshot& other) const;

 private:
  struct Node;
  using NodePtr = std::shared_ptr<const Node>;
  struct Index;
  static NodePtr made(const Layer& layer, const Index& before);
  static Layer layerOf(const Node& node);

  Scene frame_;  // all but the layers
  std::vector<NodePtr> layers_;
};

}  // namespace oa::edit
