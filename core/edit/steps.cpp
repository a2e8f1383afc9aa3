#include "edit/steps.h"

#include <algorithm>

#include "scene/tree.h"

namespace oa::edit {
namespace {

// The recipe of a layer, null if there is no such layer.
std::vector<RecipeStep>* recipeOf(Scene& scene, Id layer) {
  Layer* found = findLayer(scene, layer);
  return found ? &found->recipe : nullptr;
}

// A step that can be moved and taken away: any but the source.
bool there(const std::vector<RecipeStep>* recipe, int step, int first = 1) {
  return recipe && step >= first && step < static_cast<int>(recipe->size());
}

tl::unexpected<Error> none(int step) {
  return step == 0 ? fail("a recipe always has its source in front") : fail("there is no step " + std::to_string(step));
}

Result<int> inserted(std::vector<RecipeStep>& recipe, int at, RecipeStep step) {
  if (recipe.size() >= kMaxSteps) return fail("a recipe has at most " + std::to_string(kMaxSteps) + " steps");
  recipe.insert(recipe.begin() + at, std::move(step));
  return at;
}

}  // namespace

RecipeStep variantStep(const StepSpec& spec, const StepVariant& variant) {
  RecipeStep step = newStep(spec);
  const auto param = [&](std::string_view id) -> Param& { return step.params[static_cast<std::size_t>(findParam(spec.params, id))]; };
  for (const auto& [id, value] : variant.values) param(id).base = value;
  for (const StepVariant::Moves& moves : variant.moves) {
    Motion& motion = param(moves.param).motion;
    motion.kind = moves.kind;
    motion.laps = moves.laps;
    motion.far = moves.far;
  }
  return step;
}

Result<int> addStep(Scene& scene, Id layer, const StepSpec& spec, const StepVariant* variant) {
  auto* recipe = recipeOf(scene, layer);
  if (!recipe) return fail("there is no layer to add a step to");
  if (spec.kind == StepKind::Source) return fail("a source can only come first");
  return inserted(*recipe, static_cast<int>(recipe->size()), variant ? variantStep(spec, *variant) : newStep(spec));
}

Result<int> removeStep(Scene& scene, Id layer, int step) {
  auto* recipe = recipeOf(scene, layer);
  if (!there(recipe, step)) return none(step);
  recipe->erase(recipe->begin() + step);
  return std::min(step, static_cast<int>(recipe->size()) - 1);
}

Result<int> moveStep(Scene& scene, Id layer, int from, int to) {
  auto* recipe = recipeOf(scene, layer);
  if (!there(recipe, from)) return none(from);
  to = std::clamp(to, 1, static_cast<int>(recipe->size()) - 1);
  RecipeStep moved = std::move((*recipe)[static_cast<std::size_t>(from)]);
  recipe->erase(recipe->begin() + from);
  recipe->insert(recipe->begin() + to, std::move(moved));
  return to;
}

Result<int> duplicateStep(Scene& scene, Id layer, int step) {
  auto* recipe = recipeOf(scene, layer);
  if (!there(recipe, step)) return none(step);
  RecipeStep copy = (*recipe)[static_cast<std::size_t>(step)];
  copy.id = 0;
  return inserted(*recipe, step + 1, std::move(copy));
}

Result<int> switchStep(Scene& scene, Id layer, int step, bool on) {
  auto* recipe = recipeOf(scene, layer);
  if (!there(recipe, step)) return none(step);
  (*recipe)[static_cast<std::size_t>(step)].on = on;
  return step;
}

Result<int> replaceSource(Scene& scene, Id layer, RecipeStep source) {
  auto* recipe = recipeOf(scene, layer);
  if (!there(recipe, 0, 0)) return fail("there is no layer whose source could be changed");
  if (source.spec->kind != StepKind::Source) return fail("a recipe begins with a source");
  if (findLayer(scene, layer)->isGroup()) return fail("a group shows its layers; it has no other source");
  recipe->front() = std::move(source);
  return 0;
}

}  // namespace oa::edit
