// The 256 colours of a GIF, and frames reduced to them.
#include <QTest>
#include <cmath>
#include <set>

#include "media/palette256.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

class TestPalette : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void fewColoursAreKeptExactly();
  void transparencyIsAllOrNothing();
  void reducedPicturesStayClose_data();
  void reducedPicturesStayClose();
  void patternDoesNotCrawl();
};

namespace {

Frame8 reducedBack(const Palette256& palette, const Frame8& frame, GifDither dither) {
  std::vector<std::uint8_t> indexes;
  palette.reduce(frame, dither, indexes);
  Frame8 out{frame.width, frame.height, {}};
  for (const std::uint8_t i : indexes) {
    const std::uint32_t c = palette.argb()[i];
    for (const int shift : {16, 8, 0, 24}) out.rgba.push_back(static_cast<std::uint8_t>(c >> shift));
  }
  return out;
}

double meanError(const Frame8& a, const Frame8& b) {
  double sum = 0;
  for (std::size_t i = 0; i < a.rgba.size(); ++i) sum += std::abs(static_cast<int>(a.rgba[i]) - static_cast<int>(b.rgba[i]));
  return sum / static_cast<double>(a.rgba.size());
}

}  // namespace

void TestPalette::fewColoursAreKeptExactly() {
  Frame8 frame{8, 8, {}};
  for (int i = 0; i < 64; ++i)
    for (const int c : {i % 4 * 60, 200 - i % 4 * 40, 17, 255}) frame.rgba.push_back(static_cast<std::uint8_t>(c));
  const Palette256 palette({frame}, false);
  for (const GifDither dither : {GifDither::None, GifDither::Pattern, GifDither::Diffusion})
    QVERIFY(meanError(reducedBack(palette, frame, dither), frame) < 1.2);
}

void TestPalette::transparencyIsAllOrNothing() {
  Frame8 frame{16, 1, {}};
  for (int i = 0; i < 16; ++i)
    for (const int c : {90, 120, 30, i * 17}) frame.rgba.push_back(static_cast<std::uint8_t>(c));
  const Palette256 palette({frame}, true);
  const Frame8 back = reducedBack(palette, frame, GifDither::None);
  for (int i = 0; i < 16; ++i) QCOMPARE(int{back.rgba[static_cast<std::size_t>(i) * 4 + 3]}, i * 17 >= 128 ? 255 : 0);
}

void TestPalette::reducedPicturesStayClose_data() {
  QTest::addColumn<int>("dither");
  QTest::addColumn<double>("limit");
  QTest::newRow("none") << static_cast<int>(GifDither::None) << 4.0;
  QTest::newRow("pattern") << static_cast<int>(GifDither::Pattern) << 6.0;
  QTest::newRow("diffusion") << static_cast<int>(GifDither::Diffusion) << 6.0;
}

void TestPalette::reducedPicturesStayClose() {
  QFETCH(int, dither);
  QFETCH(double, limit);
  const Frame8 picture = frame(test::demoScene("stage-screen.overagain"), 40, 320, 180);
  const Palette256 palette({picture}, false);
  std::set<std::uint32_t> different(palette.argb().begin(), palette.argb().end());
  QVERIFY(different.size() > 200);
  const Frame8 back = reducedBack(palette, picture, static_cast<GifDither>(dither));
  const double error = meanError(back, picture);
  QVERIFY2(error < limit, qPrintable(QString::number(error)));
  // Dithering is there to keep the mean over an area: 8 x 8 blocks agree better than single pixels.
  double blocks = 0;
  for (int by = 0; by + 8 <= 180; by += 8)
    for (int bx = 0; bx + 8 <= 320; bx += 8)
      for (std::size_t c = 0; c < 3; ++c) {
        double d = 0;
        for (int y = by; y < by + 8; ++y)
          for (int x = bx; x < bx + 8; ++x) {
            const std::size_t i = (static_cast<std::size_t>(y) * 320 + static_cast<std::size_t>(x)) * 4 + c;
            d += back.rgba[i] - picture.rgba[i];
          }
        blocks += std::abs(d / 64) / (22.0 * 40 * 3);
      }
  QVERIFY2(blocks < 2, qPrintable(QString::number(blocks)));
}

void TestPalette::patternDoesNotCrawl() {
  const Frame8 picture = frame(test::demoScene("dusk.overagain"), 0, 128, 72);
  const Palette256 palette({picture}, false);
  std::vector<std::uint8_t> once;
  std::vector<std::uint8_t> twice;
  palette.reduce(picture, GifDither::Pattern, once);
  palette.reduce(picture, GifDither::Pattern, twice);
  QVERIFY(once == twice);
}

QTEST_GUILESS_MAIN(TestPalette)
#include "tst_palette.moc"
