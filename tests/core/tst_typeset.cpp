// Words as outlines, beside Pango and Cairo's own pictures of the same; which letter is which; texts that mean no good.
#include <QElapsedTimer>
#include <QTest>
#include <cairo.h>
#include <cmath>
#include <pango/pangocairo.h>

#include "image/sampling.h"
#include "shapes/line_art.h"
#include "words/typeset.h"

using namespace oa;

namespace {

TextStyle styled(const char* text, const char* family = "Cabin") {
  TextStyle style;
  style.text = text;
  style.family = family;
  return style;
}

struct Grey {
  int width;
  int height;
  std::vector<double> v;
};

// Filled by our rasteriser in a font of `size` pixels.
Grey ours(const Typeset& set, int width, int height, double size) {
  LineArt art;
  for (const Letter& letter : set.letters) {
    Filling& filling = art.fillings.emplace_back();
    for (const auto& line : letter.lines) {
      auto& points = filling.lines.emplace_back();
      for (const Point& p : line)
        points.push_back({width / 2.0 + (letter.middle.x + p.x) * size - 0.5, height / 2.0 + (letter.middle.y + p.y) * size - 0.5});
    }
  }
  const auto rows = lineArtRows(std::move(art), width, height);
  const Plane plane = wholePlane(*rows, width, height);
  Grey grey{width, height, {}};
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) grey.v.push_back(static_cast<double>(plane.row(y)[static_cast<std::ptrdiff_t>(x) * 4 + 3]));
  return grey;
}

// By Pango and Cairo.
Grey theirs(const TextStyle& style, int width, int height, double size) {
  cairo_surface_t* surface = cairo_image_surface_create(CAIRO_FORMAT_A8, width, height);
  cairo_t* cairo = cairo_create(surface);
  cairo_font_options_t* options = cairo_font_options_create();
  cairo_font_options_set_hint_style(options, CAIRO_HINT_STYLE_NONE);
  cairo_font_options_set_hint_metrics(options, CAIRO_HINT_METRICS_OFF);
  cairo_font_options_set_antialias(options, CAIRO_ANTIALIAS_GRAY);
  cairo_set_font_options(cairo, options);
  PangoLayout* layout = pango_cairo_create_layout(cairo);
  pango_context_set_round_glyph_positions(pango_layout_get_context(layout), FALSE);
  PangoFontDescription* font = pango_font_description_new();
  pango_font_description_set_family(font, style.family.c_str());
  pango_font_description_set_weight(font, static_cast<PangoWeight>(style.weight));
  pango_font_description_set_absolute_size(font, size * PANGO_SCALE);
  pango_layout_set_font_description(layout, font);
  pango_layout_set_text(layout, style.text.c_str(), -1);
  pango_layout_set_alignment(layout, PANGO_ALIGN_CENTER);
  PangoRectangle all;
  pango_layout_get_extents(layout, nullptr, &all);
  cairo_translate(cairo, width / 2.0 - (all.x + all.width / 2.0) / PANGO_SCALE, height / 2.0 - (all.y + all.height / 2.0) / PANGO_SCALE);
  cairo_set_source_rgba(cairo, 1, 1, 1, 1);
  pango_cairo_layout_path(cairo, layout);
  cairo_fill(cairo);
  cairo_surface_flush(surface);
  Grey grey{width, height, {}};
  const unsigned char* data = cairo_image_surface_get_data(surface);
  const int stride = cairo_image_surface_get_stride(surface);
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) grey.v.push_back(data[y * stride + x] / 255.0);
  pango_font_description_free(font);
  cairo_font_options_destroy(options);
  g_object_unref(layout);
  cairo_destroy(cairo);
  cairo_surface_destroy(surface);
  return grey;
}

double sumOf(const Grey& g) {
  double sum = 0;
  for (const double v : g.v) sum += v;
  return sum;
}

}  // namespace

class TestTypeset : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void lettersAreThoseOfPango_data();
  void lettersAreThoseOfPango();
  void lettersKnowTheirPlace();
  void rightToLeft();
  void whatStandsBetweenStars();
  void linesAreBroken();
  void spacingAndCapitals();
  void fontsThatAreNotThere();
  void axesOfVariableFonts();
  void lettersInColours();
  void hostileTexts_data();
  void hostileTexts();
};

void TestTypeset::lettersAreThoseOfPango_data() {
  QTest::addColumn<QString>("text");
  QTest::addColumn<QString>("family");
  QTest::addColumn<double>("size");
  QTest::newRow("title") << QStringLiteral("Harbour Days") << QStringLiteral("League Spartan") << 60.0;
  QTest::newRow("small") << QStringLiteral("three lines\nof small\nwords") << QStringLiteral("Cabin") << 22.0;
  QTest::newRow("hand") << QStringLiteral("fish & chips") << QStringLiteral("Dancing Script") << 70.0;
  QTest::newRow("figures") << QStringLiteral("14:30 - 22:45") << QStringLiteral("B612") << 48.0;
  QTest::newRow("marks") << QString::fromUtf8("e\u0301 Z\u030c a\u0323\u0302 n\u0303") << QStringLiteral("Cabin") << 60.0;
  QTest::newRow("hebrew") << QString::fromUtf8("שלום לכם") << QStringLiteral("DejaVu Sans") << 60.0;
  QTest::newRow("arabic") << QString::fromUtf8("السلام عليكم") << QStringLiteral("DejaVu Sans") << 60.0;
  QTest::newRow("chinese") << QString::fromUtf8("海上节日") << QStringLiteral("Droid Sans Fallback") << 60.0;
  QTest::newRow("japanese") << QString::fromUtf8("港まつり") << QStringLiteral("Cabin") << 44.0;
  QTest::newRow("both ways") << QString::fromUtf8("pier שלום 12 quay") << QStringLiteral("DejaVu Sans") << 40.0;
}

void TestTypeset::lettersAreThoseOfPango() {
  QFETCH(QString, text);
  QFETCH(QString, family);
  QFETCH(double, size);
  const TextStyle style = styled(text.toUtf8().constData(), family.toUtf8().constData());
  const Grey a = ours(*typeset(style), 480, 160, size);
  const Grey b = theirs(style, 480, 160, size);
  const double area = sumOf(b);
  QVERIFY(area > 200);
  double differs = 0;
  for (std::size_t i = 0; i < a.v.size(); ++i) differs += std::abs(a.v[i] - b.v[i]);
  QVERIFY2(std::abs(sumOf(a) - area) < 0.03 * area, qPrintable(QStringLiteral("%1 of %2").arg(sumOf(a)).arg(area)));
  QVERIFY2(differs < 0.05 * area, qPrintable(QStringLiteral("%1 of %2").arg(differs).arg(area)));
}

void TestTypeset::lettersKnowTheirPlace() {
  const auto set = typeset(styled("one two\nthree"));
  QCOMPARE(set->lines, 2);
  QCOMPARE(set->words, 3);
  QCOMPARE(set->letters.size(), std::size_t{12});  // with the space; the end of a line is none
  for (std::size_t i = 1; i < set->letters.size(); ++i) {
    const Letter& before = set->letters[i - 1];
    const Letter& here = set->letters[i];
    QVERIFY(here.line > before.line || here.middle.x > before.middle.x);
    QVERIFY(here.word >= before.word);
  }
  QCOMPARE(set->letters[0].word, 0);
  QCOMPARE(set->letters[4].word, 1);
  QCOMPARE(set->letters[11].word, 2);
  QCOMPARE(set->letters[11].line, 1);
  QVERIFY(set->letters[11].middle.y > set->letters[0].middle.y + 0.8);
  // About the middle.
  QVERIFY(std::abs(set->left + set->right) < 1e-9 && std::abs(set->top + set->bottom) < 1e-9);
  QVERIFY(set->letters[3].lines.empty());
  QVERIFY(typeset(styled("")).get()->letters.empty());
}

// The first letter of the text is the rightmost, and follows of "forwards" come from there.
void TestTypeset::rightToLeft() {
  const auto set = typeset(styled("שלום", "DejaVu Sans"));
  QCOMPARE(set->letters.size(), std::size_t{4});
  for (std::size_t i = 1; i < 4; ++i) QVERIFY(set->letters[i].middle.x < set->letters[i - 1].middle.x);
}

void TestTypeset::linesAreBroken() {
  TextStyle style = styled("all along the quay there are lanterns");
  const auto one = typeset(style);
  QCOMPARE(one->lines, 1);
  style.width = (one->right - one->left) / 2.5;
  const auto broken = typeset(style);
  QVERIFY(broken->lines >= 3);
  QVERIFY(broken->right - broken->left <= style.width + 0.01);
  style.leading = 2;
  QVERIFY(typeset(style)->bottom > broken->bottom * 1.5);
  // Left and right: all lines begin, or end, at one place.
  style.alignment = Alignment::Left;
  double left = 1e9;
  std::vector<double> begins;
  int line = -1;
  for (const Letter& letter : typeset(style)->letters)
    if (letter.line != line) {
      line = letter.line;
      begins.push_back(letter.middle.x - letter.wide / 2);
      left = std::min(left, begins.back());
    }
  for (const double b : begins) QVERIFY(std::abs(b - left) < 1e-3);
}

void TestTypeset::spacingAndCapitals() {
  TextStyle style = styled("quay");
  const double wide = typeset(style)->right * 2;
  style.spacing = 0.5;
  const double more = typeset(style)->right * 2;
  QVERIFY2(std::abs(more - wide - 4 * 0.5) < 0.51, qPrintable(QString::number(more - wide)));
  style.spacing = 0;
  style.capitals = Capitals::Capitals;
  TextStyle typed = styled("QUAY");
  QVERIFY(std::abs(typeset(style)->right - typeset(typed)->right) < 1e-6);
  style.capitals = Capitals::AsTyped;
  style.weight = 700;
  QVERIFY(typeset(style)->right != wide / 2);
}

void TestTypeset::fontsThatAreNotThere() {
  const auto families = fontFamilies();
  for (const char* shipped : {"League Spartan", "Cabin", "B612", "Dancing Script"})
    QVERIFY2(std::find(families.begin(), families.end(), shipped) != families.end(), shipped);
  QCOMPARE(typeset(styled("quay", "Cabin"))->family, std::string("Cabin"));
  const auto replaced = typeset(styled("quay", "No such font at all"));
  QCOMPARE(replaced->letters.size(), std::size_t{4});
  QVERIFY(replaced->family != "No such font at all" && !replaced->family.empty());
}

// Heavier and wider, as the axis says; what is no axis changes nothing.
void TestTypeset::axesOfVariableFonts() {
  TextStyle style = styled("Harbour", "Inter");
  QVERIFY2(typeset(style)->family == "Inter", "tools/install --test brings it");
  const auto ink = [&] { return sumOf(ours(*typeset(style), 480, 160, 60)); };
  style.axes = "\"wght\" 100";
  const double thin = ink();
  style.axes = "wght 500";
  const double middle = ink();
  style.axes = "'wght'=900, 'slnt' -10";
  const double heavy = ink();
  QVERIFY2(thin < 0.6 * middle && middle < 0.75 * heavy, qPrintable(QStringLiteral("%1 %2 %3").arg(thin).arg(middle).arg(heavy)));
  style.axes = "";
  const double plain = ink();
  for (const char* none : {"wght", "weight 100", "wght x", ",,;", "w\xc3\xbcht 100", "\"wdth\" 1e9"}) {
    style.axes = none;
    QCOMPARE(ink(), plain);
  }
}

// As Cairo paints them; what belongs together is one letter.
void TestTypeset::lettersInColours() {
  const TextStyle style =
      styled("a\xF0\x9F\x8F\xAE\xF0\x9F\x91\xA9\xE2\x80\x8D\xF0\x9F\x9A\x92 \xE2\x9D\xA4\xEF\xB8\x8F\xF0\x9F\x8F\xAE", "Cabin");
  const auto set = typeset(style);
  QCOMPARE(set->letters.size(), std::size_t{6});
  for (const std::size_t i : {1U, 2U, 4U, 5U}) {
    const Letter& letter = set->letters[i];
    QVERIFY(letter.lines.empty());
    const Plane* plane = letter.colours.plane.get();
    QVERIFY(plane && plane->channels() == 4);
    // It fills its place, and its border is clear.
    const double wide = plane->width() / letter.colours.perEm.x;
    QVERIFY(std::abs(wide - letter.wide) < 0.2);
    double alpha = 0;
    for (int y = 0; y < plane->height(); ++y)
      for (int x = 0; x < plane->width(); ++x) {
        const float* const p = plane->row(y) + static_cast<std::ptrdiff_t>(x) * 4;
        for (int c = 0; c < 3; ++c) QVERIFY(p[c] >= 0 && p[c] <= p[3]);
        alpha += static_cast<double>(p[3]);
        if (y == 0 || y + 1 == plane->height()) QCOMPARE(p[3], 0.0F);
      }
    QVERIFY(alpha > 0.25 * plane->width() * plane->height());
    // In the middle of where it stands.
    QVERIFY(std::abs(letter.colours.first.x + wide / 2) < 0.1);
  }
  // A lantern is red, wherever it comes; letters are letters.
  QCOMPARE(set->letters[1].colours.plane.get(), set->letters[5].colours.plane.get());
  QCOMPARE(set->letters[5].shape, std::size_t{1});
  const Plane& lantern = *set->letters[1].colours.plane;
  double red = 0;
  double blue = 0;
  for (int y = 0; y < lantern.height(); ++y)
    for (int x = 0; x < lantern.width(); ++x) red += lantern.row(y)[x * 4], blue += lantern.row(y)[x * 4 + 2];
  QVERIFY(red > 2 * blue);
  QVERIFY(!set->letters[0].colours.plane && !set->letters[0].lines.empty());
}

void TestTypeset::hostileTexts_data() {
  QTest::addColumn<QByteArray>("text");
  QTest::newRow("broken") << QByteArray("a\xff\xfe\xc3(\xed\xa0\x80z");
  QTest::newRow("controls") << QByteArray("a\x01\x02\x1b[31m\x7f\tb\r\n\0c", 14);
  QTest::newRow("zero width") << QByteArray("\xe2\x80\x8b").repeated(30000);
  QTest::newRow("marks") << "a" + QByteArray("\xcc\x81").repeated(20000);
  QTest::newRow("many letters") << QByteArray("harbour days ").repeated(7600);
  QTest::newRow("one word") << QByteArray(100000, 'w');
  QTest::newRow("pictures") << QByteArray("\xF0\x9F\x8F\xAE\xF0\x9F\x91\xA9").repeated(8000);
  QTest::newRow("lines") << QByteArray(100000, '\n');
  QTest::newRow("directions") << QByteArray(
                                     "\xe2\x80\xae"
                                     "a\xe2\x80\xab"
                                     "b\xe2\x81\xa7")
                                     .repeated(5000);
}

void TestTypeset::hostileTexts() {
  QFETCH(QByteArray, text);
  QElapsedTimer timer;
  timer.start();
  TextStyle style = styled("");
  style.text = text.toStdString();
  style.width = 12;
  const auto set = typeset(style);
  QVERIFY(set->letters.size() <= kMostLetters);
  for (const Letter& letter : set->letters) {
    QVERIFY(std::isfinite(letter.middle.x) && std::isfinite(letter.middle.y));
    for (const auto& line : letter.lines)
      for (const Point& p : line) QVERIFY(std::isfinite(p.x) && std::isfinite(p.y));
  }
  QVERIFY(std::isfinite(set->right) && std::isfinite(set->bottom));
  qInfo("%lld ms", static_cast<long long>(timer.elapsed()));
}

void TestTypeset::whatStandsBetweenStars() {
  const auto said = [](const char* text, bool apart) {
    TextStyle style = styled(text);
    if (apart) style.emphasis = Emphasis{"League Spartan", 700, false, 2};
    const auto set = typeset(style);
    QByteArray letters;
    for (const Letter& letter : set->letters) letters += letter.emphasised ? 'x' : 'o';
    return letters;
  };
  QCOMPARE(said("a *bc* d", false), QByteArray("oooooooo"));
  QCOMPARE(said("a *bc* d", true), QByteArray("ooxxoo"));
  QCOMPARE(said("*a* *b", true), QByteArray("xooo"));  // one that is left over is a star
  QCOMPARE(said("2 ** 3", true), QByteArray("ooooo"));
  QCOMPARE(said("*", true), QByteArray("o"));
  QCOMPARE(said("**", true), QByteArray("o"));
  QCOMPARE(said("***a***", true), QByteArray("oxx"));
  QCOMPARE(said("*\xd7\xa9\xd7\x9c\xd7\x95\xd7\x9d* a", true), QByteArray("xxxxoo"));
  // What is set apart is twice as large, and lines are as high as it asks for.
  TextStyle style = styled("quay");
  const double high = typeset(style)->bottom;
  style.text = "*quay*";
  style.emphasis = Emphasis{style.family, style.weight, false, 2};
  QVERIFY(std::abs(typeset(style)->bottom - 2 * high) < 0.02 * high);
}

QTEST_APPLESS_MAIN(TestTypeset)
#include "tst_typeset.moc"
