// Colour spaces against published values, mixing, and the text of colours.
#include <QTest>
#include <cmath>

#include "image/colour.h"
#include "image/transfer.h"
#include "support/pictures.h"

using namespace oa;

namespace {
bool near(double a, double b, double tolerance) { return std::abs(a - b) <= tolerance; }
}  // namespace

class TestColour : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void transferFollowsTheStandard();
  void spansFollowTheScalarCurve();
  void opaquePixelsDoNotDependOnTheirNeighbours();
  void okLabMatchesPublishedValues_data();
  void okLabMatchesPublishedValues();
  void okLabRoundTrips();
  void mixingAvoidsMud();
  void stopsAreFlatBeyondTheirEnds();
  void textRoundTrips();
  void badTextIsRefused();
};

void TestColour::transferFollowsTheStandard() {
  // IEC 61966-2-1: the linear toe, the joint of the two pieces, and mid grey.
  QVERIFY(near(srgbDecode(0.04), 0.04 / 12.92, 1e-9));
  QVERIFY(near(srgbDecode(0.5), 0.2140411, 1e-6));
  QVERIFY(near(srgbEncode(0.18), 0.4613561, 1e-6));
  for (int i = 0; i <= 1000; ++i) QVERIFY(near(srgbEncode(srgbDecode(i / 1000.0)), i / 1000.0, 1e-7));
}

void TestColour::spansFollowTheScalarCurve() {
  test::forEachTarget([](const char* target) {
    alignas(128) float pixels[80 * 4];
    alignas(128) float original[80 * 4];
    for (int i = 0; i < 64; ++i) {
      const float alpha = i % 8 == 0 ? 0.0f : static_cast<float>(i % 8) / 7;
      for (int c = 0; c < 3; ++c) pixels[i * 4 + c] = alpha * static_cast<float>((i * 37 + c * 19) % 101) / 100;
      pixels[i * 4 + 3] = alpha;
    }
    std::copy(std::begin(pixels), std::end(pixels), std::begin(original));
    decodeSpan(pixels, 64);
    for (int i = 0; i < 64; ++i)
      for (int c = 0; c < 3; ++c) {
        const double alpha = original[i * 4 + 3];
        const double expected = alpha > 0 ? srgbDecode(original[i * 4 + c] / alpha) * alpha : 0;
        QVERIFY2(near(pixels[i * 4 + c], expected, 4e-6), target);
      }
    encodeSpan(pixels, 64);
    for (int i = 0; i < 64 * 4; ++i) QVERIFY2(near(pixels[i], original[i], 4e-6), target);
  });
}

// Behind a row's last pixel lies anything: what is there must not change a bit of it.
void TestColour::opaquePixelsDoNotDependOnTheirNeighbours() {
  test::forEachTarget([](const char* target) {
    for (const auto span : {&decodeSpan, &encodeSpan}) {
      alignas(128) float alone[80 * 4];
      alignas(128) float beside[80 * 4];
      for (int i = 0; i < 80; ++i)
        for (int c = 0; c < 4; ++c) {
          alone[i * 4 + c] = c == 3 ? 1.0F : static_cast<float>((i * 37 + c * 19) % 101) / 100;
          // Every fifth is half clear.
          beside[i * 4 + c] = alone[i * 4 + c] * (i % 5 == 4 ? 0.37F : 1.0F);
        }
      span(alone, 64);
      span(beside, 64);
      for (int i = 0; i < 64; ++i)
        for (int c = 0; c < 4 && i % 5 != 4; ++c) QVERIFY2(alone[i * 4 + c] == beside[i * 4 + c], target);
    }
  });
}

void TestColour::okLabMatchesPublishedValues_data() {
  QTest::addColumn<QString>("colour");
  QTest::addColumn<double>("L");
  QTest::addColumn<double>("a");
  QTest::addColumn<double>("b");
  // CSS Color Level 4 gives these for sRGB's corners.
  QTest::newRow("white") << "#ffffff" << 1.0 << 0.0 << 0.0;
  QTest::newRow("red") << "#ff0000" << 0.62796 << 0.22486 << 0.12585;
  QTest::newRow("green") << "#00ff00" << 0.86644 << -0.23389 << 0.17950;
  QTest::newRow("blue") << "#0000ff" << 0.45201 << -0.03246 << -0.31153;
  QTest::newRow("black") << "#000000" << 0.0 << 0.0 << 0.0;
}

void TestColour::okLabMatchesPublishedValues() {
  QFETCH(QString, colour);
  QFETCH(double, L);
  QFETCH(double, a);
  QFETCH(double, b);
  const OkLab lab = toOkLab(*parseColour(colour.toStdString()));
  QVERIFY(near(lab.L, L, 1e-4));
  QVERIFY(near(lab.a, a, 1e-4));
  QVERIFY(near(lab.b, b, 1e-4));
}

void TestColour::okLabRoundTrips() {
  for (int r = 0; r <= 255; r += 15)
    for (int g = 0; g <= 255; g += 17)
      for (int b = 0; b <= 255; b += 51) {
        const Colour c{static_cast<float>(r) / 255, static_cast<float>(g) / 255, static_cast<float>(b) / 255, 1};
        const Colour back = fromOkLab(toOkLab(c));
        QVERIFY(near(back.r, c.r, 1e-4) && near(back.g, c.g, 1e-4) && near(back.b, c.b, 1e-4));
      }
}

void TestColour::mixingAvoidsMud() {
  // Half way from blue to yellow in OKLab keeps its lightness; display mixing gives mid grey.
  const Colour blue{0, 0, 1, 1};
  const Colour yellow{1, 1, 0, 1};
  const OkLab middle = toOkLab(mixColours(blue, yellow, 0.5, ColourMixing::OkLab));
  QVERIFY(near(middle.L, (toOkLab(blue).L + toOkLab(yellow).L) / 2, 0.01));
  const Colour grey = mixColours(blue, yellow, 0.5, ColourMixing::Display);
  QVERIFY(near(grey.r, 0.5, 1e-6) && near(grey.g, 0.5, 1e-6) && near(grey.b, 0.5, 1e-6));
  for (const ColourMixing mixing : {ColourMixing::OkLab, ColourMixing::Display}) {
    QVERIFY(near(mixColours(blue, yellow, 0, mixing).b, 1, 1e-5));
    QVERIFY(near(mixColours(blue, yellow, 1, mixing).r, 1, 1e-5));
    // A transparent end does not bleed its hidden colour.
    const Colour fading = mixColours({1, 0, 0, 1}, {0, 1, 0, 0}, 0.5, mixing);
    QVERIFY(near(fading.r, 1, 1e-4) && near(fading.g, 0, 1e-2) && near(fading.a, 0.5, 1e-6));
  }
}

void TestColour::stopsAreFlatBeyondTheirEnds() {
  const Stops stops{{0.6, {1, 1, 1, 1}}, {0.2, {0, 0, 0, 1}}};  // unsorted on purpose
  QCOMPARE(colourAt(stops, 0.0, ColourMixing::Display).r, 0.0f);
  QCOMPARE(colourAt(stops, 0.9, ColourMixing::Display).r, 1.0f);
  QVERIFY(near(colourAt(stops, 0.4, ColourMixing::Display).r, 0.5, 1e-6));
  // Two stops in one place are a hard edge.
  const Stops edge{{0.5, {0, 0, 0, 1}}, {0.5, {1, 1, 1, 1}}};
  QCOMPARE(colourAt(edge, 0.49, ColourMixing::OkLab).r, 0.0f);
  QVERIFY(colourAt(edge, 0.51, ColourMixing::OkLab).r > 0.999f);
  const auto table = bakeStops(stops, ColourMixing::Display, 11);
  QCOMPARE(table.size(), std::size_t{11});
  QVERIFY(near(table[4][0], 0.5, 1e-6));
}

void TestColour::textRoundTrips() {
  for (const char* text : {"#000000", "#1f7672", "#ffffff", "#12345678", "#ffffff00"})
    QCOMPARE(colourText(*parseColour(text)), std::string(text));
  QCOMPARE(colourText(*parseColour("#fA3")), std::string("#ffaa33"));
  QCOMPARE(colourText(*parseColour("#fa38")), std::string("#ffaa3388"));
}

void TestColour::badTextIsRefused() {
  for (const char* text : {"", "#", "#1", "#12", "#12345", "#1234567", "#123456789", "1f7672", "#gggggg", "red", "# 12345"}) {
    const auto colour = parseColour(text);
    QVERIFY2(!colour && !colour.error().message.empty(), text);
  }
}

QTEST_GUILESS_MAIN(TestColour)
#include "tst_colour.moc"
