#include "words/caret.h"

#include <algorithm>
#include <cmath>
#include <mutex>

#include "words/text_layout.h"

namespace oa {

Caret caretBefore(const TextStyle& style, std::size_t at) {
  const std::lock_guard lock(fontMutex());
  const TextLayout layout(style);
  const Point middle = layout.middle();
  PangoRectangle place;
  pango_layout_get_cursor_pos(layout.get(), static_cast<int>(std::min(layout.laidOutByte(at), layout.text().size())), &place, nullptr);
  const double x = (inEm(place.x) - middle.x) * style.stretch;
  return {{x, inEm(place.y) - middle.y}, {x, inEm(place.y + place.height) - middle.y}};
}

std::size_t byteNearest(const TextStyle& style, Point at) {
  const std::lock_guard lock(fontMutex());
  const TextLayout layout(style);
  const Point middle = layout.middle();
  const auto units = [](double em) { return static_cast<int>(std::clamp(em * kEm * PANGO_SCALE, -1e9, 1e9)); };
  int index = 0;
  int behind = 0;
  pango_layout_xy_to_index(layout.get(), units(at.x / style.stretch + middle.x), units(at.y + middle.y), &index, &behind);
  const std::string& text = layout.text();
  const char* byte = text.c_str() + std::clamp<std::ptrdiff_t>(index, 0, static_cast<std::ptrdiff_t>(text.size()));
  for (; behind > 0 && *byte != '\0'; --behind) byte = g_utf8_next_char(byte);
  return layout.typedByte(static_cast<std::size_t>(byte - text.c_str()));
}

}  // namespace oa
