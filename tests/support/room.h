// A window with a scene in it, at the size that screens are looked at in.
#pragma once

#include <QTest>

#include "support/hands.h"

namespace oa::app::test {

/// Shows it with the scene, or with what it has already, and waits until it has the keyboard.
inline void showWith(Window& w, const Scene* scene) {
  w.resize(1280, 800);
  w.show();
  if (scene) w.document().reset(*scene, {});
  w.activateWindow();
  (void)QTest::qWaitForWindowActive(&w);
}

/// The value of a parameter of the selected layer's source.
inline const Param& sourceParam(Window& w, const char* id) {
  const RecipeStep& source = w.document().layer()->recipe[0];
  return source.params[static_cast<std::size_t>(findParam(source.spec->params, id))];
}

}  // namespace oa::app::test
