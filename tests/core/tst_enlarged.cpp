// Enlarging from samples: through the samples, exact for straight and curved courses, tiles stay tiles; and reading between pixels.
#include <QTest>
#include <cmath>
#include <numbers>

#include "image/enlarged.h"
#include "image/sampling.h"
#include "support/pictures.h"

using namespace oa;

namespace {

template <class F>
SampleGrid sampled(int width, int height, double step, int channels, F value) {
  SampleGrid grid(PlaneView::cover(width, height, width, height), step, channels);
  for (int y = 0; y < grid.plane.height(); ++y)
    for (int x = 0; x < grid.plane.width(); ++x)
      for (int c = 0; c < channels; ++c)
        grid.plane.row(y)[x * channels + c] = static_cast<float>(value((x - 1) * grid.stepX, (y - 1) * grid.stepY, c));
  return grid;
}

Plane made(const RowMaker& rows, int width, int height) { return wholePlane(rows, width, height); }

}  // namespace

class TestEnlarged : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void curvesAreExact();
  void wavesAreClose();
  void coloursStayInRange();
  void wholeStepsFillTheFrame();
  void oddSizesWork();
  void partsAreAsTheWhole();
  void placesBetweenPixels();
  void edgesAreFollowed();
};

void TestEnlarged::curvesAreExact() {
  // Cubic convolution reproduces quadratics.
  const auto f = [](double x, double y, int c) { return 0.1 + 0.002 * x + 0.00001 * x * x - 0.001 * y + 0.00002 * x * y + 0.05 * c; };
  test::forEachTarget([&](const char* target) {
    for (const double step : {2.0, 3.7, 4.0, 8.0, 17.0, 31.0})
      for (const int channels : {1, 4}) {
        const Plane p = made(*enlarged(sampled(136, 72, step, channels, f), false), 136, 72);
        for (int y = 0; y < 72; ++y)
          for (int x = 0; x < 136; ++x) {
            // Colours are held below their alpha, which is the last and largest here.
            const double v = static_cast<double>(p.row(y)[x * channels]);
            QVERIFY2(std::abs(v - std::clamp(f(x, y, 0), channels == 4 ? 0.0 : -9.0, 9.0)) < 1e-4,
                     qPrintable(QStringLiteral("%1 step %2 at %3, %4").arg(QLatin1String(target)).arg(step).arg(x).arg(y)));
          }
      }
  });
}

void TestEnlarged::wavesAreClose() {
  const auto f = [](double x, double y, int) { return 0.5 + 0.4 * std::sin(x / 9) * std::cos(y / 11); };
  const Plane p = made(*enlarged(sampled(200, 100, 4, 1, f), true), 200, 100);
  double worst = 0;
  for (int y = 0; y < 100; ++y)
    for (int x = 0; x < 200; ++x) worst = std::max(worst, std::abs(static_cast<double>(p.row(y)[x]) - f(x, y, 0)));
  QVERIFY2(worst < 0.006, qPrintable(QString::number(worst)));
}

void TestEnlarged::coloursStayInRange() {
  const auto f = [](double x, double, int c) { return c == 3 ? 0.75 : (std::fmod(x, 32) < 16 ? 0.0 : 0.75); };
  const Plane p = made(*enlarged(sampled(128, 16, 4, 4, f), false), 128, 16);
  for (int x = 0; x < 128 * 4; ++x) QVERIFY(p.row(7)[x] >= 0 && p.row(7)[x] <= 0.75f + 1e-5f);
}

void TestEnlarged::wholeStepsFillTheFrame() {
  for (const int width : {1, 2, 7, 100, 1920}) {
    const SampleGrid grid(PlaneView::cover(width, width, width, width), 5, 1);
    const double steps = width / grid.stepX;
    QVERIFY(std::abs(steps - std::round(steps)) < 1e-9);
    QVERIFY(grid.plane.width() >= 4);
  }
}

void TestEnlarged::oddSizesWork() {
  for (const auto& [w, h] : {std::pair{1, 1}, {2, 1}, {1, 9}, {17, 3}, {255, 2}})
    for (const int channels : {1, 4}) {
      const Plane p = made(*enlarged(sampled(w, h, 6, channels, [](double, double, int c) { return c == 3 ? 1.0 : 0.5; }), true), w, h);
      for (int y = 0; y < h; ++y)
        for (int x = 0; x < w * channels; ++x) {
          // What is opaque is so to the last bit.
          if (x % 4 == 3 && channels == 4)
            QCOMPARE(p.row(y)[x], 1.0f);
          else
            QVERIFY(std::abs(p.row(y)[x] - 0.5f) < 1e-5f);
        }
    }
}

void TestEnlarged::partsAreAsTheWhole() {
  // 336 pixels: steps of two and three are whole.
  const auto f = [](double x, double y, int c) { return c == 3 ? 0.9 : 0.4 + 0.3 * std::sin(x / 7 + c) * std::cos(y / 9); };
  test::forEachTarget([&](const char* target) {
    for (const double step : {2.0, 3.0, 3.7, 8.0, 31.0})
      for (const bool opaque : {true, false}) {
        const auto rows = enlarged(sampled(336, 20, step, 4, f), opaque);
        QVERIFY(rows->makesSpans());
        const Plane whole = made(*rows, 336, 20);
        alignas(64) float part[(kSpanStep + kSpanPadding) * 4];
        for (const auto& [x, n] : {std::pair{0, 256}, {0, 1}, {1, 2}, {2, 9}, {5, 64}, {76, 256}, {77, 256}, {256, 77}, {332, 1}, {331, 2}})
          for (const int y : {0, 3, 19}) {
            rows->span(y, x, n, part);
            QVERIFY2(std::equal(part, part + n * 4, whole.row(y) + x * 4),
                     qPrintable(QStringLiteral("%1 step %2: %3 from %4, %5").arg(QLatin1String(target)).arg(step).arg(n).arg(x).arg(y)));
          }
      }
  });
}

void TestEnlarged::placesBetweenPixels() {
  Plane plane(8, 6, 1);
  for (int y = 0; y < 6; ++y)
    for (int x = 0; x < 8; ++x) plane.row(y)[x] = static_cast<float>(x + 10 * y);
  const float x[] = {0, 2.5f, 6.25f, 3};
  const float y[] = {0, 1.5f, 4, 4.75f};
  float out[16];
  samplePlane(plane.pixels(), Edge::Clamp, x, y, 4, out);
  for (int i = 0; i < 4; ++i) QVERIFY(std::abs(out[i] - (x[i] + 10 * y[i])) < 1e-5f);
}

void TestEnlarged::edgesAreFollowed() {
  Plane plane(4, 4, 1);
  for (int y = 0; y < 4; ++y)
    for (int x = 0; x < 4; ++x) plane.row(y)[x] = static_cast<float>(x + 1);
  const float x[] = {-2, 5, 1e20f, -1e20f};
  const float y[] = {1, 1, -7, 1e20f};
  float out[16];
  const std::pair<Edge, std::pair<float, float>> expected[] = {
      {Edge::Clamp, {1, 4}}, {Edge::Wrap, {3, 2}}, {Edge::Mirror, {2, 3}}, {Edge::Transparent, {0, 0}}};
  for (const auto& [edge, values] : expected) {
    samplePlane(plane.pixels(), edge, x, y, 4, out);
    QCOMPARE(out[0], values.first);
    QCOMPARE(out[1], values.second);
    QVERIFY(std::isfinite(out[2]) && std::isfinite(out[3]));
    QVERIFY(edgeFromName(edge == Edge::Clamp    ? "clamp"
                         : edge == Edge::Wrap   ? "wrap"
                         : edge == Edge::Mirror ? "mirror"
                                                : "transparent") == edge);
  }
}

QTEST_GUILESS_MAIN(TestEnlarged)
#include "tst_enlarged.moc"
