// Operations on the items of a step: colour points, stops.
#pragma once

#include <vector>

#include "scene/scene.h"

namespace oa::edit {

/// Adds an item behind the one at `after` (-1: in front) and gives back its index: the next that the step's table offers, or a copy
/// of `like`. Refused over kMaxItems.
Result<int> addItem(RecipeStep& step, int after);
Result<int> addItem(RecipeStep& step, int after, Item like);
/// Index of the item that is next to it afterwards. A list keeps ItemsSpec::least.
Result<int> removeItem(RecipeStep& step, int index);
/// Takes an item to another place in the list; held within it. Its index afterwards.
Result<int> moveItem(RecipeStep& step, int from, int to);
/// Index of the item with an id, -1 if there is none.
int itemIndex(const RecipeStep& step, Id id);

/// Sets a parameter of all items: they take the value, and what moves takes its motions along. Those that say where an item is are
/// moved together instead, as far as the first of them is.
void setAllItems(RecipeStep& step, std::size_t param, const Value& value, const std::vector<Item>& before);

/// How the head starts of a motion are spread over items.
enum class HeadStarts { Together, InOrder, AtRandom };
/// Gives all items a motion: each leads as far from its own value as `motion` does from that of the first. Walks and hops of each are
/// its own; where an item has that motion already, its head start stays as far from the first one's as it was.
void moveAllItems(RecipeStep& step, std::size_t param, const Motion& motion, std::size_t which);
/// Spreads the head starts of a motion evenly over the lap, in the order of the items or in one shuffled by `seed`.
void spreadHeadStarts(RecipeStep& step, std::size_t param, std::size_t which, HeadStarts how, int seed);

/// Gives the items the colours, one after the other; each keeps its alpha.
Result<int> colourItems(RecipeStep& step, const std::vector<Colour>& colours);

}  // namespace oa::edit
