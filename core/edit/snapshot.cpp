#include "edit/snapshot.h"

#include <algorithm>
#include <set>
#include <unordered_map>

namespace oa::edit {

struct Snapshot::Node {
  Layer own;  // without its layers
  std::vector<NodePtr> inside;
};

struct Snapshot::Index {
  std::unordered_map<Id, NodePtr> nodes;
  void add(const std::vector<NodePtr>& list) {
    for (const NodePtr& node : list) {
      nodes.emplace(node->own.id, node);
      add(node->inside);
    }
  }
};

namespace {

Layer withoutLayers(const Layer& layer) {
  Layer own;
  own.id = layer.id;
  own.name = layer.name;
  own.visible = layer.visible;
  own.locked = layer.locked;
  own.folded = layer.folded;
  own.blend = layer.blend;
  own.opacity = layer.opacity;
  own.place = layer.place;
  own.placeExtra = layer.placeExtra;
  own.mask = layer.mask;
  own.presence = layer.presence;
  own.passes = layer.passes;
  own.standIn = layer.standIn;
  own.hold = layer.hold;
  own.distance = layer.distance;
  own.recipe = layer.recipe;
  own.extra = layer.extra;
  return own;
}

}  // namespace

Snapshot::NodePtr Snapshot::made(const Layer& layer, const Index& before) {
  auto node = std::make_shared<Node>();
  node->own = withoutLayers(layer);
  for (const Layer& inside : layer.layers) node->inside.push_back(made(inside, before));
  // The same layer with the same layers in it, each of them shared already.
  const auto known = before.nodes.find(layer.id);
  if (known != before.nodes.end() && known->second->own == node->own && known->second->inside == node->inside) return known->second;
  return node;
}

Snapshot::Snapshot(const Scene& scene, const Snapshot& before) {
  Index index;
  index.add(before.layers_);
  for (const Layer& layer : scene.layers) layers_.push_back(made(layer, index));
  frame_.name = scene.name;
  frame_.width = scene.width;
  frame_.height = scene.height;
  frame_.rate = scene.rate;
  frame_.frames = scene.frames;
  frame_.background = scene.background;
  frame_.linearLight = scene.linearLight;
  frame_.hold = scene.hold;
  frame_.beats = scene.beats;
  frame_.bar = scene.bar;
  frame_.palette = scene.palette;
  frame_.sound = scene.sound;
  frame_.run = scene.run;
  frame_.table = scene.table;
  frame_.extra = scene.extra;
}

Layer Snapshot::layerOf(const Node& node) {
  Layer layer = node.own;
  for (const NodePtr& inside : node.inside) layer.layers.push_back(layerOf(*inside));
  return layer;
}

Scene Snapshot::scene() const {
  Scene scene = frame_;
  for (const NodePtr& node : layers_) scene.layers.push_back(layerOf(*node));
  return scene;
}

std::size_t Snapshot::sharedWith(const Snapshot& other) const {
  std::set<const Node*> theirs;
  Index index;
  index.add(other.layers_);
  for (const auto& [id, node] : index.nodes) theirs.insert(node.get());
  Index own;
  own.add(layers_);
  return static_cast<std::size_t>(
      std::count_if(own.nodes.begin(), own.nodes.end(), [&](const auto& entry) { return theirs.count(entry.second.get()) > 0; }));
}

bool Snapshot::operator==(const Snapshot& other) const { return scene() == other.scene(); }

}  // namespace oa::edit
