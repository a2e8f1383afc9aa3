// Blur against a true Gaussian, its edges, and what it must not change.
#include <QTest>
#include <cmath>
#include <cstring>
#include <limits>
#include <vector>

#include "image/borders.h"
#include "image/blur.h"
#include "image/blur_axis.h"
#include "image/blur_cells.h"
#include "image/buffer.h"
#include "image/colour.h"
#include "image/sampling.h"
#include "image/transfer.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

// A field given as a function.
class Field final : public RowMaker {
 public:
  Field(int width, int height, std::function<float(int, int)> at) : width_(width), height_(height), at_(std::move(at)) {}
  [[nodiscard]] int channels() const override { return 1; }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int y = y0; y < y1; ++y)
      for (int x = 0; x < width_; ++x) out[(y - y0) * stride + x] = at_(x, y);
  }
  [[nodiscard]] int width() const { return width_; }
  [[nodiscard]] int height() const { return height_; }
  [[nodiscard]] float at(int x, int y) const { return at_(x, y); }

 private:
  int width_;
  int height_;
  std::function<float(int, int)> at_;
};

Plane blurredPlane(const Field& field, const BlurSettings& settings) {
  const auto maker = blurred(field, field.width(), field.height(), settings);
  Plane plane(field.width(), field.height(), 1);
  maker->rows(0, field.height(), plane.row(0), plane.stride());
  return plane;
}

std::size_t placeOf(int x, int y, int width) {
  return static_cast<std::size_t>(y) * static_cast<std::size_t>(width) + static_cast<std::size_t>(x);
}

// The separable Gaussian by its definition.
std::vector<double> trueGaussian(std::vector<double> a, int w, int h, const BlurSettings& s) {
  for (const bool across : {true, false}) {
    const double sigma = across ? s.sigmaX : s.sigmaY;
    if (sigma <= 0) continue;
    const int reach = static_cast<int>(std::ceil(sigma * 5));
    std::vector<double> weights;
    double total = 0;
    for (int k = -reach; k <= reach; ++k) {
      weights.push_back(std::exp(-0.5 * k * k / (sigma * sigma)));
      total += weights.back();
    }
    std::vector<double> b(a.size());
    for (int y = 0; y < h; ++y)
      for (int x = 0; x < w; ++x) {
        double sum = 0;
        auto next = weights.begin();
        for (int k = -reach; k <= reach; ++k) {
          const int i = edgeIndex(s.edge, (across ? x : y) + k, across ? w : h);
          const double weight = *next++;
          if (i >= 0) sum += weight * a[across ? placeOf(i, y, w) : placeOf(x, i, w)];
        }
        b[placeOf(x, y, w)] = sum / total;
      }
    a = std::move(b);
  }
  return a;
}

std::vector<double> trueGaussian(const Field& field, const BlurSettings& s) {
  std::vector<double> a;
  for (int y = 0; y < field.height(); ++y)
    for (int x = 0; x < field.width(); ++x) a.push_back(static_cast<double>(field.at(x, y)));
  return trueGaussian(std::move(a), field.width(), field.height(), s);
}

}  // namespace

class TestBlur : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void followsATrueGaussian_data();
  void followsATrueGaussian();
  void keepsTheMean();
  void aFlatPictureStaysFlat();
  void wrappedBlurKeepsATile();
  void noRadiusIsNothing();
  void directionsAreSeparate();
  void fineStripesDoNotComeBackCoarse();
  void transparentEdgesFade();
  void lightIsBlurredNotItsEncoding();
  void lightFollowsATrueGaussian_data();
  void lightFollowsATrueGaussian();
  void fourRowsAtOnceAreThoseRows();
};

void TestBlur::followsATrueGaussian_data() {
  QTest::addColumn<double>("sigma");
  QTest::addColumn<int>("edge");
  const char* const names[] = {"clamp", "wrap", "mirror", "transparent"};
  for (int e = 0; e < 4; ++e)
    for (const double sigma : {0.7, 1.5, 3.0, 8.0, 15.0, 30.0, 60.0})
      QTest::newRow(qPrintable(QStringLiteral("%1 %2").arg(QLatin1String(names[e])).arg(sigma))) << sigma << e;
}

void TestBlur::followsATrueGaussian() {
  QFETCH(double, sigma);
  QFETCH(int, edge);
  // Hard edges, fine stripes and a slope, up to every border.
  const Field field(
      203, 147, [](int x, int y) { return ((x / 23 + y / 19) % 2 ? 0.9f : 0.1f) * (x % 3 ? 1.0f : 0.6f) + static_cast<float>(y) / 1500; });
  BlurSettings s;
  s.sigmaX = sigma;
  s.sigmaY = sigma * 0.8;
  s.edge = static_cast<Edge>(edge);
  const auto expected = trueGaussian(field, s);
  test::forEachTarget([&](const char* target) {
    const Plane got = blurredPlane(field, s);
    double worst = 0;
    for (int y = 0; y < 147; ++y)
      for (int x = 0; x < 203; ++x) worst = std::max(worst, std::abs(got.row(y)[x] - expected[placeOf(x, y, 203)]));
    QVERIFY2(worst < 0.012, qPrintable(QStringLiteral("%1: %2").arg(QLatin1String(target)).arg(worst)));
  });
}

void TestBlur::keepsTheMean() {
  const Field field(256, 192, [](int x, int y) { return (x * 7 + y * 13) % 50 < 12 ? 1.0f : 0.0f; });
  for (const double sigma : {2.0, 20.0, 90.0}) {
    BlurSettings s;
    s.sigmaX = s.sigmaY = sigma;
    s.edge = Edge::Wrap;
    const Plane got = blurredPlane(field, s);
    double before = 0;
    double after = 0;
    for (int y = 0; y < 192; ++y)
      for (int x = 0; x < 256; ++x) {
        before += field.at(x, y);
        after += got.row(y)[x];
      }
    QVERIFY2(std::abs(after / before - 1) < 0.002, qPrintable(QString::number(after / before)));
  }
}

void TestBlur::aFlatPictureStaysFlat() {
  const Field field(130, 70, [](int, int) { return 0.37f; });
  for (const Edge edge : {Edge::Clamp, Edge::Wrap, Edge::Mirror})
    for (const double sigma : {1.0, 12.0, 200.0}) {
      BlurSettings s;
      s.sigmaX = s.sigmaY = sigma;
      s.edge = edge;
      const Plane got = blurredPlane(field, s);
      for (int y = 0; y < 70; ++y)
        for (int x = 0; x < 130; ++x) QVERIFY(std::abs(got.row(y)[x] - 0.37f) < 1e-4f);
    }
}

void TestBlur::wrappedBlurKeepsATile() {
  Scene scene = test::oneLayer("noise", 240, 120);
  test::setValue(scene, 0, 0, "cell", 30.0);
  test::addStep(scene, "blur");
  test::setValue(scene, 0, 1, "edges", std::string("wrap"));
  for (const double radius : {6.0, 60.0}) {
    test::setValue(scene, 0, 1, "across", radius);
    test::setValue(scene, 0, 1, "down", radius);
    const auto f = test::renderFloat(scene, 0);
    double inside = 0;
    double across = 0;
    for (int y = 0; y < 120; ++y) {
      for (int x = 0; x + 1 < 240; ++x) inside = std::max(inside, static_cast<double>(std::abs(f.at(x + 1, y, 0) - f.at(x, y, 0))));
      across = std::max(across, static_cast<double>(std::abs(f.at(0, y, 0) - f.at(239, y, 0))));
    }
    QVERIFY2(across <= inside * 1.05 + 1e-5, qPrintable(QStringLiteral("%1 %2").arg(across).arg(inside)));
  }
}

void TestBlur::noRadiusIsNothing() {
  Scene scene = test::oneLayer("noise", 97, 53);
  const auto before = test::renderFloat(scene, 0);
  test::addStep(scene, "blur");
  test::setValue(scene, 0, 1, "across", 0.0);
  test::setValue(scene, 0, 1, "down", 0.0);
  QVERIFY(test::compare(test::renderFloat(scene, 0), before).largest < 1e-6);
}

void TestBlur::directionsAreSeparate() {
  const Field stripes(200, 100, [](int x, int) { return x % 20 < 10 ? 1.0f : 0.0f; });
  BlurSettings down;
  down.sigmaY = 25;
  const Plane same = blurredPlane(stripes, down);
  for (int y = 0; y < 100; y += 9)
    for (int x = 0; x < 200; ++x) QVERIFY(std::abs(same.row(y)[x] - stripes.at(x, y)) < 1e-4f);
  BlurSettings across;
  across.sigmaX = 25;
  const Plane gone = blurredPlane(stripes, across);
  for (int x = 80; x < 120; ++x) QVERIFY(std::abs(gone.row(50)[x] - 0.5f) < 0.02f);
}

void TestBlur::fineStripesDoNotComeBackCoarse() {
  // Whatever their period, stripes much finer than the blur are gone; a small grid may not beat with them.
  for (const double sigma : {5.0, 9.0, 17.0, 30.0, 55.0}) {
    double worst = 0;
    for (int period = 3; period < sigma; ++period) {
      const Field stripes(400, 24, [&](int x, int) { return x % period < period / 2 ? 1.0f : 0.0f; });
      BlurSettings s;
      s.sigmaX = s.sigmaY = sigma;
      s.edge = Edge::Wrap;
      const Plane got = blurredPlane(stripes, s);
      // By the definition: what is left of the mean's own harmonics is below 1e-8 for these periods.
      const int lit = period / 2;
      const double mean = static_cast<double>(lit) / period;
      for (int x = 150; x < 250; ++x) worst = std::max(worst, std::abs(got.row(12)[x] - mean));
    }
    QVERIFY2(worst < 0.012, qPrintable(QStringLiteral("%1: %2").arg(sigma).arg(worst)));
  }
}

void TestBlur::transparentEdgesFade() {
  Scene scene = test::oneLayer("flat", 120, 80);
  scene.background.reset();
  test::addStep(scene, "blur");
  test::setValue(scene, 0, 1, "across", 20.0);
  test::setValue(scene, 0, 1, "down", 20.0);
  test::setValue(scene, 0, 1, "edges", std::string("transparent"));
  const auto f = test::renderFloat(scene, 0);
  QVERIFY(std::abs(f.at(0, 40, 3) - 0.52) < 0.04);  // half of the kernel lies outside
  QVERIFY(f.at(60, 40, 3) > 0.999f);
  QVERIFY(f.at(0, 0, 3) < 0.32f);
}

void TestBlur::lightIsBlurredNotItsEncoding() {
  // Half black, half white: the middle of the blurred edge is half the light, 0.735 in display values.
  Scene scene = test::oneLayer("gradient", 200, 40);
  test::setValue(scene, 0, 0, "from", Point{0, 0.5});
  test::setValue(scene, 0, 0, "to", Point{1, 0.5});
  test::setStops(scene, 0, 0, Stops{{0.5, {0, 0, 0, 1}}, {0.5, {1, 1, 1, 1}}});
  test::addStep(scene, "blur");
  test::setValue(scene, 0, 1, "across", 30.0);
  const auto f = test::renderFloat(scene, 0);
  QVERIFY2(std::abs((f.at(99, 20, 0) + f.at(100, 20, 0)) / 2 - 0.735) < 0.02, qPrintable(QString::number(f.at(99, 20, 0))));
}

void TestBlur::lightFollowsATrueGaussian_data() {
  QTest::addColumn<double>("across");
  QTest::addColumn<double>("down");
  // Wide both ways, and wide in one direction only.
  for (const auto& [x, y] :
       {std::pair{1.0, 1.0}, {5.0, 2.0}, {13.0, 4.0}, {2.0, 13.0}, {9.0, 9.0}, {10.0, 5.2}, {0.0, 20.0}, {20.0, 0.0}, {40.0, 3.0}})
    QTest::newRow(qPrintable(QStringLiteral("%1 %2").arg(x).arg(y))) << x << y;
}

void TestBlur::lightFollowsATrueGaussian() {
  QFETCH(double, across);
  QFETCH(double, down);
  constexpr int kWidth = 311;
  constexpr int kHeight = 97;
  for (const bool opaque : {true, false}) {
    // Hard edges from black to white, and from what is there to what is not.
    Plane plane(kWidth, kHeight, 4);
    for (int y = 0; y < kHeight; ++y)
      for (int x = 0; x < kWidth; ++x) {
        const double alpha = opaque ? 1 : (x / 61 + y / 47) % 2 ? 1 : (x / 31) % 3 ? 0.35 : 0;
        for (int c = 0; c < 4; ++c)
          plane.row(y)[x * 4 + c] = static_cast<float>(c == 3 ? alpha : ((x / (40 + 13 * c) + y / 37) % 2 ? 1.0 : 0.02) * alpha);
      }
    BlurSettings s;
    s.sigmaX = across;
    s.sigmaY = down;
    s.linearLight = true;
    std::vector<double> expected[4];
    for (int c = 0; c < 4; ++c) {
      std::vector<double> light;
      for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth; ++x) {
          const float* const p = plane.row(y) + x * 4;
          const auto v = static_cast<double>(p[c]);
          const auto a = static_cast<double>(p[3]);
          light.push_back(c == 3 || a == 0 ? v : srgbDecode(v / a) * a);
        }
      expected[c] = trueGaussian(std::move(light), kWidth, kHeight, s);
    }
    const auto rows = planeRows(std::move(plane), opaque);
    test::forEachTarget([&](const char* target) {
      const auto maker = blurred(*rows, kWidth, kHeight, s);
      // Its light, before anybody has asked what is shown of it.
      const auto inLight = maker->linear();
      QVERIFY(inLight && inLight->opaque() == opaque);
      const Plane light = wholePlane(*inLight, kWidth, kHeight);
      const Plane got = wholePlane(*maker, kWidth, kHeight);
      Plane encoded = wholePlane(*inLight, kWidth, kHeight);
      for (int y = 0; y < kHeight; ++y) encodeSpan(encoded.row(y), kWidth);
      double worst = 0;
      double worstLight = 0;
      double worstEncoded = 0;
      for (int y = 0; y < kHeight; ++y)
        for (int x = 0; x < kWidth; ++x) {
          const std::size_t at = placeOf(x, y, kWidth);
          const double alpha = expected[3][at];
          for (int c = 0; c < 4; ++c) {
            const double wanted = c == 3 ? alpha : alpha > 1e-9 ? srgbEncode(expected[c][at] / alpha) * alpha : 0;
            worst = std::max(worst, std::abs(static_cast<double>(got.row(y)[x * 4 + c]) - wanted));
            worstEncoded = std::max(worstEncoded, std::abs(static_cast<double>(encoded.row(y)[x * 4 + c]) - wanted));
            worstLight =
                std::max(worstLight, std::abs(static_cast<double>(light.row(y)[x * 4 + c]) - expected[static_cast<std::size_t>(c)][at]));
          }
        }
      // As near as what is shown, of which some is worked out every few pixels.
      QVERIFY2(worstEncoded < worst + 5e-5,
               qPrintable(QStringLiteral("%1: %2, %3").arg(QLatin1String(target)).arg(worstEncoded).arg(worst)));
      QVERIFY2(worstLight < 0.0035, qPrintable(QStringLiteral("%1: %2 in light").arg(QLatin1String(target)).arg(worstLight)));
      QVERIFY2(worst < 0.008, qPrintable(QStringLiteral("%1: %2").arg(QLatin1String(target)).arg(worst)));
      // Whatever is asked for first: a part of a row is as the whole of it.
      alignas(64) float part[(kSpanStep + kSpanPadding) * 4];
      if (!maker->makesSpans()) return;
      for (const auto& [x, n] : {std::pair{0, 1}, {0, 256}, {1, 7}, {37, 130}, {256, kWidth - 256}, {kWidth - 1, 1}, {kWidth - 5, 5}}) {
        maker->span(53, x, n, part);
        QVERIFY2(std::memcmp(part, got.row(53) + x * 4, sizeof(float) * 4 * static_cast<std::size_t>(n)) == 0,
                 qPrintable(QStringLiteral("%1: %2 from %3 on").arg(QLatin1String(target)).arg(n).arg(x)));
      }
    });
  }
}

// To the bit, for every number of taps that an axis has, and lengths that fill no vector; and nothing is read of rows that are not theirs.
void TestBlur::fourRowsAtOnceAreThoseRows() {
  constexpr int kWidth = 150;
  test::forEachTarget([&](const char* target) {
    for (int taps = 1; taps <= 2 * kMostReach + 1; taps += 2) {
      Plane rows(kWidth, taps + kRowsAtOnce - 1, 1);
      for (int y = 0; y < rows.height(); ++y)
        for (int x = 0; x < kWidth; ++x) rows.row(y)[x] = static_cast<float>((x * 31 + y * 17) % 97) / 97;
      // Nothing times what is no number is none: no row may be read with a weight of 0.
      rows.row(0)[5] = std::numeric_limits<float>::quiet_NaN();
      std::vector<float> weights;
      weights.reserve(static_cast<std::size_t>(taps));
      for (int k = 0; k < taps; ++k) weights.push_back(0.1f + static_cast<float>(k % 5) * 0.03f);
      const float* from[2 * kMostReach + kRowsAtOnce];
      for (int k = 0; k < rows.height(); ++k) from[k] = rows.row(k);
      for (const int n : {3, 16, 97, kWidth}) {
        std::vector<float> own(kWidth + 1, -1.0f);
        std::vector<std::vector<float>> made(kRowsAtOnce, own);
        float* out[kRowsAtOnce];
        for (int j = 0; j < kRowsAtOnce; ++j) out[j] = made[static_cast<std::size_t>(j)].data();
        weightedRowsFour(from, weights.data(), taps, n, out);
        for (int j = 0; j < kRowsAtOnce; ++j) {
          weightedRows(from + j, weights.data(), taps, n, own.data());
          QVERIFY2(std::memcmp(own.data(), out[j], sizeof(float) * static_cast<std::size_t>(n)) == 0, target);
          QVERIFY2(out[j][n] == -1.0f && (j == 0 || n <= 5 || !std::isnan(out[j][5])), target);
        }
      }
    }
  });
}

QTEST_GUILESS_MAIN(TestBlur)
#include "tst_blur.moc"
