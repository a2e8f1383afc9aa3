#include "words/text_layout.h"

#include <algorithm>
#include <cctype>
#include <locale>
#include <sstream>
#include <utility>

namespace oa {
namespace {

// Without what has no picture and could upset a layout, and where each byte of it was.
std::string readable(const std::string& text, std::vector<std::size_t>& from) {
  const Held<char, g_free> valid(g_utf8_make_valid(text.data(), static_cast<gssize>(text.size())));
  std::string out;
  std::size_t letters = 0;
  for (const char* at = valid.get(); *at != '\0' && letters < kMostLetters; at = g_utf8_next_char(at)) {
    const gunichar c = g_utf8_get_char(at);
    if ((c < 32 && c != '\n') || c == 127) continue;
    for (const char* byte = at; byte < g_utf8_next_char(at); ++byte) from.push_back(static_cast<std::size_t>(byte - valid.get()));
    out.append(at, static_cast<std::size_t>(g_utf8_next_char(at) - at));
    ++letters;
  }
  return out;
}

// Takes the stars out and says what stood between them. One that has no other is a star like any.
std::vector<Stretch> takeStars(std::string& text, std::vector<std::size_t>& from) {
  std::string plain;
  std::vector<std::size_t> places;
  std::vector<Stretch> between;
  constexpr std::size_t kNone = std::string::npos;
  std::size_t open = kNone;
  std::size_t opened = 0;  // where that star was
  for (std::size_t i = 0; i < text.size(); ++i) {
    const bool twice = text[i] == '*' && i + 1 < text.size() && text[i + 1] == '*';
    if (text[i] != '*' || twice) {
      plain += text[i];
      places.push_back(from[i]);
      if (twice) ++i;
    } else if (open != kNone) {
      between.push_back({open, plain.size()});
      open = kNone;
    } else {
      open = plain.size();
      opened = from[i];
    }
  }
  if (open != kNone) {
    plain.insert(open, 1, '*');
    places.insert(places.begin() + static_cast<std::ptrdiff_t>(open), opened);
  }
  text = std::move(plain);
  from = std::move(places);
  return between;
}

// Places on the axes of a font as Pango wants them, "wght=650,wdth=90"; what is none is left out.
std::string variations(const std::string& css) {
  std::string all;
  std::istringstream list(css.substr(0, 400));
  for (std::string item; std::getline(list, item, ',');) {
    std::erase_if(item, [](char c) { return c == '"' || c == '\''; });
    std::replace(item.begin(), item.end(), '=', ' ');
    std::istringstream words(item);
    words.imbue(std::locale::classic());
    std::string axis;
    double place = 0;
    if (!(words >> axis >> place) || axis.size() != 4 ||
        !std::all_of(axis.begin(), axis.end(), [](unsigned char c) { return c < 128 && std::isalnum(c); }))
      continue;
    std::ostringstream made;
    made.imbue(std::locale::classic());
    made << (all.empty() ? "" : ",") << axis << '=' << std::clamp(place, -32768.0, 32767.0);
    all += made.str();
  }
  return all;
}

}  // namespace

std::mutex& fontMutex() {
  static std::mutex mutex;
  return mutex;
}

PangoFontMap* fontMap() {
  static const Held<PangoFontMap, g_object_unref> map(pango_cairo_font_map_new());
  return map.get();
}

TextLayout::TextLayout(const TextStyle& style) : text_(readable(style.text, from_)), typed_(style.text.size()) {
  if (style.emphasis) emphasised_ = takeStars(text_, from_);
  const Held<PangoContext, g_object_unref> context(pango_font_map_create_context(fontMap()));
  const Held<cairo_font_options_t, cairo_font_options_destroy> options(cairo_font_options_create());
  cairo_font_options_set_hint_style(options.get(), CAIRO_HINT_STYLE_NONE);
  cairo_font_options_set_hint_metrics(options.get(), CAIRO_HINT_METRICS_OFF);
  pango_cairo_context_set_font_options(context.get(), options.get());
  pango_cairo_context_set_resolution(context.get(), 72);
  pango_context_set_round_glyph_positions(context.get(), FALSE);
  layout_.reset(pango_layout_new(context.get()));
  describe(style);
}

void TextLayout::describe(const TextStyle& style) {
  PangoLayout* const layout = layout_.get();
  const Held<PangoFontDescription, pango_font_description_free> font(pango_font_description_new());
  pango_font_description_set_family(font.get(), style.family.c_str());
  pango_font_description_set_weight(font.get(), static_cast<PangoWeight>(std::clamp(style.weight, 100, 1000)));
  pango_font_description_set_style(font.get(), style.italic ? PANGO_STYLE_ITALIC : PANGO_STYLE_NORMAL);
  if (style.capitals == Capitals::SmallCapitals) pango_font_description_set_variant(font.get(), PANGO_VARIANT_SMALL_CAPS);
  pango_font_description_set_absolute_size(font.get(), kEm * PANGO_SCALE);
  if (const std::string axes = variations(style.axes); !axes.empty()) pango_font_description_set_variations(font.get(), axes.c_str());
  pango_layout_set_font_description(layout, font.get());
  pango_layout_set_text(layout, text_.data(), static_cast<int>(text_.size()));
  const Held<PangoAttrList, pango_attr_list_unref> attributes(pango_attr_list_new());
  if (style.spacing != 0)
    pango_attr_list_insert(attributes.get(), pango_attr_letter_spacing_new(static_cast<int>(style.spacing * kEm * PANGO_SCALE)));
  if (style.capitals == Capitals::Capitals)
    pango_attr_list_insert(attributes.get(), pango_attr_text_transform_new(PANGO_TEXT_TRANSFORM_UPPERCASE));
  if (!style.features.empty()) {
    std::vector<std::size_t> ignored;
    const std::string known = readable(style.features.substr(0, 400), ignored);
    pango_attr_list_insert(attributes.get(), pango_attr_font_features_new(known.c_str()));
  }
  for (const Stretch& part : emphasised_) {
    const Emphasis& own = *style.emphasis;
    const auto there = [&](PangoAttribute* attribute) {
      attribute->start_index = static_cast<guint>(part.from);
      attribute->end_index = static_cast<guint>(part.to);
      pango_attr_list_insert(attributes.get(), attribute);
    };
    there(pango_attr_family_new(own.family.c_str()));
    there(pango_attr_weight_new(static_cast<PangoWeight>(std::clamp(own.weight, 100, 1000))));
    there(pango_attr_style_new(own.italic ? PANGO_STYLE_ITALIC : PANGO_STYLE_NORMAL));
    there(pango_attr_size_new_absolute(static_cast<int>(std::clamp(own.size, 0.05, 20.0) * kEm * PANGO_SCALE)));
  }
  pango_layout_set_attributes(layout, attributes.get());
  pango_layout_set_line_spacing(layout, static_cast<float>(style.leading));
  pango_layout_set_alignment(layout, style.alignment == Alignment::Left    ? PANGO_ALIGN_LEFT
                                     : style.alignment == Alignment::Right ? PANGO_ALIGN_RIGHT
                                                                           : PANGO_ALIGN_CENTER);
  pango_layout_set_wrap(layout, PANGO_WRAP_WORD_CHAR);
  if (style.width > 0) pango_layout_set_width(layout, static_cast<int>(std::min(style.width / style.stretch * kEm, 4e5) * PANGO_SCALE));
}

Point TextLayout::middle() const {
  PangoRectangle all;
  pango_layout_get_extents(layout_.get(), nullptr, &all);
  return {inEm(all.x) + inEm(all.width) / 2, inEm(all.y) + inEm(all.height) / 2};
}

std::size_t TextLayout::typedByte(std::size_t laidOut) const { return laidOut < from_.size() ? from_[laidOut] : typed_; }

std::size_t TextLayout::laidOutByte(std::size_t typed) const {
  return static_cast<std::size_t>(std::lower_bound(from_.begin(), from_.end(), typed) - from_.begin());
}

}  // namespace oa
