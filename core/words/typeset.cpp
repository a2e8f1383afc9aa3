#include "words/typeset.h"

#include <cairo-ft.h>
#include <cairo.h>
#include <pango/pangocairo.h>
#include <pango/pangofc-fontmap.h>

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <cstring>
#include <list>
#include <map>
#include <memory>
#include <mutex>
#include <string>
#include <utility>

#include "words/text_layout.h"

namespace oa {
namespace {

constexpr double kTolerance = 0.03;
// What has colours of its own is painted in so many pixels to the size of the font, and no more of them than so many.
constexpr double kColouredEm = 160;
constexpr std::size_t kMostColoured = 400;

// The closed lines of what was drawn last.
std::vector<std::vector<Point>> linesOf(cairo_t* cairo) {
  std::vector<std::vector<Point>> lines;
  const Held<cairo_path_t, cairo_path_destroy> path(cairo_copy_path_flat(cairo));
  for (int i = 0; i < path->num_data; i += path->data[i].header.length) {
    const cairo_path_data_t* const data = path->data + i;
    const auto at = [&] { return Point{data[1].point.x / kEm, data[1].point.y / kEm}; };
    if (data->header.type == CAIRO_PATH_MOVE_TO) lines.push_back({at()});
    if (data->header.type == CAIRO_PATH_LINE_TO && !lines.empty()) lines.back().push_back(at());
  }
  std::erase_if(lines, [](const auto& line) { return line.size() < 3; });
  for (auto& line : lines)
    if (line.front() != line.back()) line.push_back(line.front());
  return lines;
}

// Whether a font has letters in colours of their own.
bool hasColours(PangoFont* font) {
  cairo_scaled_font_t* const scaled = PANGO_IS_CAIRO_FONT(font) ? pango_cairo_font_get_scaled_font(PANGO_CAIRO_FONT(font)) : nullptr;
  if (!scaled || cairo_scaled_font_get_type(scaled) != CAIRO_FONT_TYPE_FT) return false;
  FT_Face const face = cairo_ft_scaled_font_lock_face(scaled);
  const bool coloured = face && FT_HAS_COLOR(face);
  if (face) cairo_ft_scaled_font_unlock_face(scaled);
  return coloured;
}

class Setter {
 public:
  explicit Setter(const TextStyle& style) : style_(style), layout_(style), text_(layout_.text()) {}

  Typeset set() {
    const Held<cairo_surface_t, cairo_surface_destroy> surface(cairo_recording_surface_create(CAIRO_CONTENT_ALPHA, nullptr));
    cairo_.reset(cairo_create(surface.get()));
    cairo_set_tolerance(cairo_.get(), kTolerance);
    read(layout_.get());
    return std::move(made_);
  }

 private:
  void read(PangoLayout* layout) {
    const auto [middleX, middleY] = layout_.middle();
    PangoRectangle all;
    pango_layout_get_extents(layout, nullptr, &all);
    made_.right = inEm(all.width) / 2;
    made_.left = -made_.right;
    made_.bottom = inEm(all.height) / 2;
    made_.top = -made_.bottom;
    made_.lines = pango_layout_get_line_count(layout);
    const std::vector<int> words = wordsOf();
    // By their places in the text: lines that run from right to left are read from the left.
    std::map<int, Letter> letters;
    const Held<PangoLayoutIter, pango_layout_iter_free> iter(pango_layout_get_iter(layout));
    std::map<std::string, std::size_t> families;
    int line = 0;
    do {
      PangoLayoutRun* const run = pango_layout_iter_get_run_readonly(iter.get());
      if (run) {
        PangoRectangle place;
        pango_layout_iter_get_run_extents(iter.get(), nullptr, &place);
        const double base = inEm(pango_layout_iter_get_baseline(iter.get()));
        readRun(run, {inEm(place.x) - middleX, base - middleY}, line, words, letters);
        const Held<PangoFontDescription, pango_font_description_free> shown(pango_font_describe(run->item->analysis.font));
        families[pango_font_description_get_family(shown.get())] += static_cast<std::size_t>(run->item->length);
      } else {
        ++line;  // the end of a line
      }
    } while (pango_layout_iter_next_run(iter.get()));
    made_.letters.reserve(letters.size());
    for (auto& [index, letter] : letters) made_.letters.push_back(std::move(letter));
    made_.words = words.empty() ? 0 : words.back() + 1;
    const auto most = std::max_element(families.begin(), families.end(), [](const auto& a, const auto& b) { return a.second < b.second; });
    if (most != families.end()) made_.family = most->first;
    widen();
    findShapes();
  }

  void readRun(PangoLayoutRun* run, Point at, int line, const std::vector<int>& words, std::map<int, Letter>& letters) {
    PangoFont* const font = run->item->analysis.font;
    const double high = 0.36;  // half of a capital's height, nearly whatever the font
    PangoGlyphItemIter cluster;
    // Clusters come as they are read: where that is from right to left, from the right.
    const bool leftwards = run->item->analysis.level % 2 == 1;
    const bool coloured = hasColours(font);
    double x = leftwards ? at.x + inEm(pango_glyph_string_get_width(run->glyphs)) : at.x;
    for (gboolean more = pango_glyph_item_iter_init_start(&cluster, run, text_.c_str()); more;
         more = pango_glyph_item_iter_next_cluster(&cluster)) {
      // Where it runs from right to left, glyphs are counted backwards.
      const bool forwards = cluster.start_glyph < cluster.end_glyph;
      const int first = forwards ? cluster.start_glyph : cluster.end_glyph + 1;
      const int count = std::abs(cluster.end_glyph - cluster.start_glyph);
      PangoGlyphString part = *run->glyphs;
      part.num_glyphs = count;
      part.glyphs += first;
      part.log_clusters += first;
      const double wide = inEm(pango_glyph_string_get_width(&part));
      if (leftwards) x -= wide;
      Letter letter;
      if (!coloured || !paint(font, part, {wide / 2, -high}, letter)) {
        cairo_new_path(cairo_.get());
        cairo_move_to(cairo_.get(), 0, 0);
        pango_cairo_glyph_string_path(cairo_.get(), font, &part);
        letter.lines = linesOf(cairo_.get());
      }
      letter.wide = wide;
      letter.middle = {x + wide / 2, at.y - high};
      for (auto& contour : letter.lines)
        for (Point& p : contour) p = {p.x - wide / 2, p.y + high};
      letter.line = line;
      const auto index = static_cast<std::size_t>(cluster.start_index);
      letter.word = index < words.size() ? words[index] : 0;
      letter.emphasised = std::any_of(layout_.emphasised().begin(), layout_.emphasised().end(),
                                      [&](const Stretch& s) { return index >= s.from && index < s.to; });
      if (letters.size() < kMostLetters) letters.insert_or_assign(cluster.start_index, std::move(letter));
      if (!leftwards) x += wide;
    }
  }

  void widen() {
    const double k = style_.stretch;
    if (k == 1) return;
    made_.left *= k;
    made_.right *= k;
    for (Letter& letter : made_.letters) {
      letter.middle.x *= k;
      letter.wide *= k;
      for (auto& contour : letter.lines)
        for (Point& p : contour) p.x *= k;
      letter.colours.first.x *= k;
      letter.colours.perEm.x /= k;
    }
  }

  // A letter in colours of its own, about `middle` of what pango lays out from (0, 0). False where it has none: it is an outline then.
  bool paint(PangoFont* font, PangoGlyphString& part, Point middle, Letter& letter) {
    std::vector<std::uint32_t> glyphs;
    glyphs.reserve(static_cast<std::size_t>(part.num_glyphs));
    for (int i = 0; i < part.num_glyphs; ++i) glyphs.push_back(part.glyphs[i].glyph);
    LetterColours& own = letter.colours;
    if (const auto known = painted_.find({font, glyphs}); known != painted_.end()) {
      own = known->second;
      return own.plane != nullptr;
    }
    if (painted_.size() >= kMostColoured) return true;
    PangoRectangle ink;
    pango_glyph_string_extents(&part, font, &ink, nullptr);
    constexpr double kFiner = kColouredEm / kEm;
    const double left = std::floor(ink.x * kFiner / PANGO_SCALE) - 1;
    const double top = std::floor(ink.y * kFiner / PANGO_SCALE) - 1;
    const double w = std::ceil(ink.width * kFiner / PANGO_SCALE) + 3;
    const double h = std::ceil(ink.height * kFiner / PANGO_SCALE) + 3;
    if (w <= 3 || h <= 3 || w > 8 * kColouredEm || h > 8 * kColouredEm) return true;
    const Held<cairo_surface_t, cairo_surface_destroy> surface(
        cairo_image_surface_create(CAIRO_FORMAT_ARGB32, static_cast<int>(w), static_cast<int>(h)));
    const Held<cairo_t, cairo_destroy> cairo(cairo_create(surface.get()));
    cairo_translate(cairo.get(), -left, -top);
    cairo_scale(cairo.get(), kFiner, kFiner);
    cairo_move_to(cairo.get(), 0, 0);
    pango_cairo_show_glyph_string(cairo.get(), font, &part);
    cairo_surface_flush(surface.get());
    if (cairo_status(cairo.get()) != CAIRO_STATUS_SUCCESS) return true;
    auto plane = std::make_shared<Plane>(static_cast<int>(w), static_cast<int>(h), 4);
    const unsigned char* const data = cairo_image_surface_get_data(surface.get());
    const auto stride = static_cast<std::ptrdiff_t>(cairo_image_surface_get_stride(surface.get()));
    bool any = false;
    for (int y = 0; y < plane->height(); ++y)
      for (int x = 0; x < plane->width(); ++x) {
        std::uint32_t argb = 0;
        std::memcpy(&argb, data + y * stride + static_cast<std::ptrdiff_t>(x) * 4, sizeof argb);
        for (int c = 0; c < 4; ++c) plane->row(y)[x * 4 + c] = static_cast<float>(argb >> (c == 3 ? 24 : 16 - 8 * c) & 255) / 255;
        // What is drawn in plain black has no colours.
        any = any || (argb & 0xffffff) != 0;
      }
    if (any) own = {std::move(plane), {kColouredEm, kColouredEm}, {}};
    own.first = {(left + 0.5) / kColouredEm - middle.x, (top + 0.5) / kColouredEm - middle.y};
    painted_[{font, glyphs}] = own;
    return any;
  }

  // Letters that look alike, so that what is made of them is made once.
  void findShapes() {
    std::map<const std::vector<std::vector<Point>>*, std::size_t, ComesBefore> known;
    std::map<const Plane*, std::size_t> pictured;
    for (std::size_t i = 0; i < made_.letters.size(); ++i) {
      Letter& letter = made_.letters[i];
      letter.shape = letter.colours.plane ? pictured.try_emplace(letter.colours.plane.get(), i).first->second
                                          : known.try_emplace(&letter.lines, i).first->second;
    }
  }
  struct ComesBefore {
    bool operator()(const std::vector<std::vector<Point>>* a, const std::vector<std::vector<Point>>* b) const {
      const auto point = [](const Point& p, const Point& q) { return std::pair(p.x, p.y) < std::pair(q.x, q.y); };
      return std::lexicographical_compare(a->begin(), a->end(), b->begin(), b->end(), [&](const auto& l, const auto& m) {
        return std::lexicographical_compare(l.begin(), l.end(), m.begin(), m.end(), point);
      });
    }
  };

  // Which word each byte of the text belongs to: they end at white space.
  [[nodiscard]] std::vector<int> wordsOf() const {
    std::vector<int> words(text_.size(), 0);
    int word = 0;
    bool within = false;
    for (const char* at = text_.c_str(); *at != '\0'; at = g_utf8_next_char(at)) {
      const bool space = g_unichar_isspace(g_utf8_get_char(at));
      if (space && within) ++word;
      within = !space;
      std::fill(words.begin() + (at - text_.c_str()), words.begin() + (g_utf8_next_char(at) - text_.c_str()), word);
    }
    return words;
  }

  const TextStyle& style_;
  TextLayout layout_;
  const std::string& text_;
  Held<cairo_t, cairo_destroy> cairo_;
  std::map<std::pair<PangoFont*, std::vector<std::uint32_t>>, LetterColours> painted_;
  Typeset made_;
};

}  // namespace

namespace {

// What was set last, used last first.
std::list<std::pair<TextStyle, std::shared_ptr<const Typeset>>>& recent() {
  static std::list<std::pair<TextStyle, std::shared_ptr<const Typeset>>> list;
  return list;
}

}  // namespace

std::shared_ptr<const Typeset> typeset(const TextStyle& style) {
  const std::lock_guard lock(fontMutex());
  auto& kept = recent();
  if (const auto it = std::find_if(kept.begin(), kept.end(), [&](const auto& k) { return k.first == style; }); it != kept.end()) {
    kept.splice(kept.begin(), kept, it);
    return it->second;
  }
  kept.emplace_front(style, std::make_shared<const Typeset>(Setter(style).set()));
  constexpr std::size_t kKept = 32;
  if (kept.size() > kKept) kept.pop_back();
  return kept.front().second;
}

std::vector<std::string> fontFamilies() {
  const std::lock_guard lock(fontMutex());
  PangoFontFamily** list = nullptr;
  int count = 0;
  pango_font_map_list_families(fontMap(), &list, &count);
  std::vector<std::string> names;
  names.reserve(static_cast<std::size_t>(std::max(0, count)));
  for (int i = 0; i < count; ++i) names.emplace_back(pango_font_family_get_name(list[i]));
  g_free(static_cast<void*>(list));
  std::sort(names.begin(), names.end());
  names.erase(std::unique(names.begin(), names.end()), names.end());
  return names;
}

void fontsChanged() {
  const std::lock_guard lock(fontMutex());
  pango_fc_font_map_config_changed(PANGO_FC_FONT_MAP(fontMap()));
  recent().clear();
}

}  // namespace oa
