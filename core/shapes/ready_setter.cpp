#include "shapes/ready_setter.h"

#include "base/outline.h"
#include "image/colour.h"
#include "params/step_context.h"

namespace oa::ready {
namespace {

void put(Param& param, const Value& value) { param.base = param.motion.far = value; }

// What turns has no far end of its own.
void move(Param& param, const Motion& motion) {
  const Value far = motion.kind == MotionKind::Turn || motion.kind == MotionKind::Keyframes ? param.base : motion.far;
  param.motion = motion;
  param.motion.far = far;
}

}  // namespace

Value named(const char* name) { return std::string(name); }
Value hex(unsigned colour, unsigned alpha) {
  Colour made = hexColour(colour);
  made.a = static_cast<float>(alpha) / 255;
  return made;
}
Value path(std::string_view data) { return outlineFromPath(data).value_or(circleOutline(100)); }

Motion swing(Value far, int laps) {
  Motion motion;
  motion.kind = MotionKind::Swing;
  motion.far = std::move(far);
  motion.laps = laps;
  return motion;
}

Motion turning(int laps) {
  Motion motion;
  motion.kind = MotionKind::Turn;
  motion.laps = laps;
  return motion;
}

Motion twinkle(Value far, int laps, HoldShares shares) {
  Motion motion = swing(std::move(far), laps);
  motion.kind = MotionKind::Switch;
  motion.shares = shares;
  motion.knots = 24;
  return motion;
}

Motion poses(std::initializer_list<std::pair<Value, const char*>> poses, int laps) {
  Motion motion;
  motion.kind = MotionKind::Keyframes;
  motion.laps = laps;
  std::size_t i = 0;
  for (const auto& [value, pace] : poses) {
    Keyframe key;
    key.at = static_cast<double>(i++) / static_cast<double>(poses.size());
    key.value = value;
    key.pace = Pace::fromName(pace).value_or(Pace());
    motion.keys.push_back(key);
  }
  return motion;
}

Setter::Setter(std::span<const ParamSpec> specs, std::span<Param> params, const ItemsSpec* itemsSpec, std::vector<Item>* items)
    : specs_(specs), params_(params), itemsSpec_(itemsSpec), items_(items) {
  if (items_) items_->clear();
}

Setter& Setter::set(std::initializer_list<Setting> settings) {
  for (const auto& [id, value] : settings) put(of(id), value);
  return *this;
}

Setter& Setter::movingAll(std::string_view id, const Motion& motion) {
  move(of(id), motion);
  return *this;
}

Setter& Setter::item(std::initializer_list<Setting> settings) {
  Item& made = items_->emplace_back(newItem(*itemsSpec_, 0));
  for (const auto& [id, value] : settings) put(ofItem(made, id), value);
  return *this;
}

Setter& Setter::moving(std::string_view id, const Motion& motion) {
  for (Item& each : *items_) move(ofItem(each, id), motion);
  return *this;
}

Param& Setter::of(std::string_view id) { return params_[static_cast<std::size_t>(findParam(specs_, id))]; }

Param& Setter::ofItem(Item& item, std::string_view id) const {
  return item.params[static_cast<std::size_t>(findParam(itemsSpec_->params, id))];
}

}  // namespace oa::ready
