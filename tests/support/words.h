// Scenes of words, and where in a picture they are.
#pragma once

#include <algorithm>
#include <cmath>
#include <string>

#include "support/pictures.h"
#include "support/scenes.h"

namespace oa::test::words {

inline void set(Scene& scene, const std::string& id, const Value& value, std::size_t layer = 0) {
  test::setValue(scene, layer, 0, id, value);
}

// White words on nothing.
inline Scene wordsOf(const std::string& text, int width = 480, int height = 160, int frames = 24) {
  Scene scene = test::oneLayer("words", width, height, frames);
  scene.background.reset();
  set(scene, "text", Text{text});
  set(scene, "size", 60.0);
  set(scene, "colour", Colour{1, 1, 1, 1});
  set(scene, "order", std::string("together"));
  return scene;
}

inline double areaOf(const test::FloatFrame& f) { return test::meanOf(f, 3) * f.width * f.height; }

// What is covered, from column to column.
inline double columns(const test::FloatFrame& f, double from, double to) {
  const int a = static_cast<int>(std::lround(from));
  return areaOf(test::cut(f, a, 0, static_cast<int>(std::lround(to)) - a, f.height));
}

struct Ink {
  int left = 1 << 20, top = 1 << 20, right = -1, bottom = -1;
};
inline Ink inkOf(const test::FloatFrame& f) {
  Ink ink;
  for (int y = 0; y < f.height; ++y)
    for (int x = 0; x < f.width; ++x)
      if (f.at(x, y, 3) > 0.002f)
        ink = {std::min(ink.left, x), std::min(ink.top, y), std::max(ink.right, x + 1), std::max(ink.bottom, y + 1)};
  return ink;
}

}  // namespace oa::test::words
