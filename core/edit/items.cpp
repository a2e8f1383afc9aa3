#include "edit/items.h"

#include <algorithm>
#include <cmath>
#include <utility>

#include "base/numbers.h"
#include "edit/turns.h"
#include "edit/values.h"

namespace oa::edit {
namespace {

bool there(const RecipeStep& step, int index) { return index >= 0 && index < static_cast<int>(step.items.size()); }

tl::unexpected<Error> none(int index) { return fail("there is no item " + std::to_string(index)); }

}  // namespace

Result<int> addItem(RecipeStep& step, int after, Item like) {
  if (!step.spec->items) return fail("this step has no items");
  if (step.items.size() >= kMaxItems) return fail("there are at most " + std::to_string(kMaxItems) + " of them");
  const int at = std::clamp(after + 1, 0, static_cast<int>(step.items.size()));
  like.id = 0;
  step.items.insert(step.items.begin() + at, std::move(like));
  return at;
}

Result<int> addItem(RecipeStep& step, int after) {
  if (!step.spec->items) return fail("this step has no items");
  return addItem(step, after, newItem(*step.spec->items, step.items.size()));
}

Result<int> removeItem(RecipeStep& step, int index) {
  if (!there(step, index)) return none(index);
  const std::size_t least = step.spec->items->least;
  if (step.items.size() <= least) return fail("at least " + std::to_string(least) + " must stay");
  step.items.erase(step.items.begin() + index);
  return std::min(index, static_cast<int>(step.items.size()) - 1);
}

Result<int> moveItem(RecipeStep& step, int from, int to) {
  if (!there(step, from)) return none(from);
  to = std::clamp(to, 0, static_cast<int>(step.items.size()) - 1);
  Item moved = std::move(step.items[static_cast<std::size_t>(from)]);
  step.items.erase(step.items.begin() + from);
  step.items.insert(step.items.begin() + to, std::move(moved));
  return to;
}

int itemIndex(const RecipeStep& step, Id id) {
  const auto found = std::find_if(step.items.begin(), step.items.end(), [&](const Item& item) { return item.id == id; });
  return id == 0 || found == step.items.end() ? -1 : static_cast<int>(found - step.items.begin());
}

void setAllItems(RecipeStep& step, std::size_t param, const Value& value, const std::vector<Item>& before) {
  const ParamSpec& spec = step.spec->items->params[param];
  const bool together = spec.id == step.spec->items->place;
  if (before.size() != step.items.size() || before.empty()) return;
  const Value& first = before.front().params[param].base;
  for (std::size_t i = 0; i < step.items.size(); ++i) {
    const Param& was = before[i].params[param];
    step.items[i].params[param] = withBase(spec, was, together ? shifted(spec, was.base, first, value) : value);
  }
}

void moveAllItems(RecipeStep& step, std::size_t param, const Motion& motion, std::size_t which) {
  if (step.items.empty()) return;
  const ParamSpec& spec = step.spec->items->params[param];
  const Param first = step.items.front().params[param];
  const double firstStart = which < motionCount(first) ? motionOf(first, which).start : 0;
  for (std::size_t i = 0; i < step.items.size(); ++i) {
    Param& own = step.items[i].params[param];
    const bool had = which < motionCount(own);
    const bool moved = had && motionOf(own, which).moves();
    Motion given = motion;
    given.far = shifted(spec, motion.far, first.base, own.base);
    for (Keyframe& key : given.keys) key.value = shifted(spec, key.value, first.base, own.base);
    for (Value& still : given.list) still = shifted(spec, still, first.base, own.base);
    given.seed = (motion.seed + static_cast<int>(i)) % 1000000;
    const double apart = moved ? motionOf(own, which).start - firstStart : static_cast<double>(i) / static_cast<double>(step.items.size());
    given.start = i == 0 ? motion.start : fract(motion.start + apart);
    if (had)
      motionOf(own, which) = std::move(given);
    else if (which == motionCount(own))
      own.more.push_back(std::move(given));
  }
}

void spreadHeadStarts(RecipeStep& step, std::size_t param, std::size_t which, HeadStarts how, int seed) {
  const std::size_t count = step.items.size();
  const std::vector<std::size_t> order = shuffled(count, seed);
  for (std::size_t i = 0; i < count; ++i) {
    Param& own = step.items[i].params[param];
    if (which >= motionCount(own)) continue;
    const std::size_t turn = how == HeadStarts::AtRandom ? order[i] : i;
    motionOf(own, which).start = how == HeadStarts::Together ? 0 : static_cast<double>(turn) / static_cast<double>(count);
  }
}

Result<int> colourItems(RecipeStep& step, const std::vector<Colour>& colours) {
  if (colours.empty()) return fail("there are no colours to give");
  for (std::size_t i = 0; i < step.items.size(); ++i) {
    // A second colour of the same item is the next one.
    std::size_t next = i;
    for (std::size_t p = 0; p < step.items[i].params.size(); ++p) {
      const ParamSpec& spec = step.spec->items->params[p];
      if (spec.type != ParamType::Colour) continue;
      Param& param = step.items[i].params[p];
      Colour colour = colours[next++ % colours.size()];
      colour.a = std::get<Colour>(param.base).a;
      param = withBase(spec, param, colour);
    }
  }
  return 0;
}

}  // namespace oa::edit
