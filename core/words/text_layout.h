// A text as Pango lays it out, for those who read that: its letters, and carets between them. Used under fontMutex().
#pragma once

#include <pango/pangocairo.h>

#include <cstddef>
#include <memory>
#include <mutex>
#include <string>
#include <vector>

#include "words/typeset.h"

namespace oa {

template <auto Free>
struct Freed {
  template <class T>
  void operator()(T* p) const {
    Free(p);
  }
};
template <class T, auto Free>
using Held = std::unique_ptr<T, Freed<Free>>;

/// Fontconfig and the font map are asked by one thread at a time.
std::mutex& fontMutex();
PangoFontMap* fontMap();

/// Layouts are of fonts so large: Cairo counts in 256ths of a pixel, and so fine are letters read.
inline constexpr double kEm = 256;
inline double inEm(int units) { return units / (PANGO_SCALE * kEm); }

/// Where something lies in a text, in bytes.
struct Stretch {
  std::size_t from, to;
};

class TextLayout {
 public:
  explicit TextLayout(const TextStyle& style);
  [[nodiscard]] PangoLayout* get() const { return layout_.get(); }
  /// What is laid out of the text: without what can't be, and without stars.
  [[nodiscard]] const std::string& text() const { return text_; }
  [[nodiscard]] const std::vector<Stretch>& emphasised() const { return emphasised_; }
  /// The middle of all lines, which places are counted from.
  [[nodiscard]] Point middle() const;
  /// From bytes of what is laid out to those of the text as it was typed, and back: the next that is laid out.
  [[nodiscard]] std::size_t typedByte(std::size_t laidOut) const;
  [[nodiscard]] std::size_t laidOutByte(std::size_t typed) const;

 private:
  void describe(const TextStyle& style);

  std::vector<std::size_t> from_;  // where each byte was typed
  std::string text_;
  std::size_t typed_ = 0;  // bytes
  std::vector<Stretch> emphasised_;
  Held<PangoLayout, g_object_unref> layout_;
};

}  // namespace oa
