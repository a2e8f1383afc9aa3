// Rows of pixels by hand: packed for files, covered, tinted and laid, each pixel as its formula says and not one more.
#include <QTest>
#include <algorithm>
#include <cmath>
#include <random>
#include <vector>

#include "image/blend.h"
#include "image/buffer.h"
#include "image/colour.h"
#include "image/grey.h"
#include "image/pack.h"
#include "image/rows.h"
#include "image/sparse.h"
#include "support/pictures.h"

using namespace oa;

namespace {

constexpr int kMost = kSpanStep;
constexpr int kRoom = kMost + 2 * kSpanPadding;
constexpr std::uint8_t kGuard = 0xA5;
constexpr float kGuardFloat = -77;

// Premultiplied pixels, some of them nothing and some opaque; behind them lies anything.
std::vector<float> pixels(int n, unsigned seed, bool opaque = false) {
  std::mt19937 random(seed);
  std::uniform_real_distribution<float> unit(0, 1);
  std::vector<float> out(kRoom * 4, 0.7f);
  for (int i = 0; i < n; ++i) {
    const float alpha = opaque || i % 7 == 3 ? 1 : i % 5 == 2 ? 0 : unit(random);
    for (int c = 0; c < 3; ++c) out[static_cast<std::size_t>(i) * 4 + static_cast<std::size_t>(c)] = alpha * unit(random);
    out[static_cast<std::size_t>(i) * 4 + 3] = alpha;
  }
  return out;
}

double straight(const std::vector<float>& rgba, int i, std::size_t c) {
  const auto at = static_cast<std::size_t>(i) * 4;
  const auto alpha = static_cast<double>(rgba[at + 3]);
  return alpha > 0 ? static_cast<double>(rgba[at + c]) / alpha : 0;
}

// Rounding errors may move what lies close to a whole number to the other side of it.
bool floorOf(double v, int got) {
  return std::abs(got - std::floor(v)) < 0.5 || (std::abs(v - std::round(v)) < 1e-3 && std::abs(got - v) < 1.01);
}

// What a plane of bytes holds and a guard behind it.
struct Bytes {
  std::vector<std::uint8_t> v;
  int n;
  explicit Bytes(int count) : v(static_cast<std::size_t>(count) + 64, kGuard), n(count) {}
  [[nodiscard]] bool guarded() const {
    return std::all_of(v.begin() + n, v.end(), [](std::uint8_t b) { return b == kGuard; });
  }
};

}  // namespace

class TestPixelRows : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void moviesHoldWhatPixelsSay();
  void bytesHoldWhatPixelsSay();
  void sharesCoverAndTint();
  void whatIsReadOfPixels();
  void behindIsSeenThroughWhatIsOpen();
  void oneColourIsLaidAsItsPixels();
};

// ITU-R BT.709 in limited range, each pixel with its own threshold, chroma of four.
void TestPixelRows::moviesHoldWhatPixelsSay() {
  test::forEachTarget([](const char* target) {
    for (const int n : {2, 14, 16, 18, 30, 32, 34, 62, 100, 256})
      for (const bool withAlpha : {false, true}) {
        const int x0 = n % 3 == 0 ? 52 : 256;
        const int y = 2 * (n % 37);
        const std::vector<float> rows[2] = {pixels(n, 1, !withAlpha), pixels(n, 2, !withAlpha)};
        Bytes luma[2] = {Bytes(n), Bytes(n)};
        Bytes alpha[2] = {Bytes(n), Bytes(n)};
        Bytes u(n / 2);
        Bytes v(n / 2);
        YuvRows out{{luma[0].v.data(), luma[1].v.data()}, u.v.data(), v.v.data(), {nullptr, nullptr}};
        if (withAlpha) out.alpha[0] = alpha[0].v.data(), out.alpha[1] = alpha[1].v.data();
        packYuv420(rows[0].data(), rows[1].data(), n, x0, y, out);
        double sums[2][kMost / 2] = {};
        for (int r = 0; r < 2; ++r)
          for (int i = 0; i < n; ++i) {
            const double red = straight(rows[r], i, 0);
            const double blue = straight(rows[r], i, 2);
            const double l = 0.2126 * red + 0.7152 * straight(rows[r], i, 1) + 0.0722 * blue;
            const auto at = static_cast<std::size_t>(i);
            QVERIFY2(floorOf(16 + 219 * l + static_cast<double>(ditherAt(x0 + i, y + r)), luma[r].v[at]), target);
            if (withAlpha) QVERIFY2(floorOf(255 * static_cast<double>(rows[r][at * 4 + 3]) + 0.5, alpha[r].v[at]), target);
            sums[0][i / 2] += (blue - l) / 4;
            sums[1][i / 2] += (red - l) / 4;
          }
        for (int i = 0; i < n / 2; ++i) {
          const auto threshold = static_cast<double>(ditherAt(x0 / 2 + i, y / 2));
          QVERIFY2(floorOf(128 + 224 * sums[0][i] / 1.8556 + threshold, u.v[static_cast<std::size_t>(i)]), target);
          QVERIFY2(floorOf(128 + 224 * sums[1][i] / 1.5748 + threshold, v.v[static_cast<std::size_t>(i)]), target);
        }
        for (const Bytes* plane : {&luma[0], &luma[1], &u, &v, &alpha[0], &alpha[1]})
          QVERIFY2(plane->guarded() || (!withAlpha && plane->v[0] == kGuard), target);
      }
  });
}

void TestPixelRows::bytesHoldWhatPixelsSay() {
  test::forEachTarget([](const char* target) {
    for (const int n : {1, 3, 4, 7, 16, 33, 130})
      for (const bool divided : {false, true}) {
        const auto rgba = pixels(n, 3);
        Bytes out(n * 4);
        packRgba8(rgba.data(), n, 60, 9, divided, out.v.data());
        for (int i = 0; i < n; ++i)
          for (std::size_t c = 0; c < 4; ++c) {
            const auto at = static_cast<std::size_t>(i) * 4 + c;
            const double value = divided && c < 3 ? straight(rgba, i, c) : static_cast<double>(rgba[at]);
            QVERIFY2(floorOf(255 * value + static_cast<double>(ditherAt(60 + i, 9)), out.v[at]), target);
          }
        QVERIFY2(out.guarded(), target);
      }
  });
}

void TestPixelRows::sharesCoverAndTint() {
  const float colour[4] = {0.3f, 0.2f, 0.6f, 0.75f};
  test::forEachTarget([&](const char* target) {
    for (const int n : {1, 3, 15, 16, 17, 33, 70, 256}) {
      std::vector<float> shares(kRoom, 5);
      for (int i = 0; i < n; ++i) shares[static_cast<std::size_t>(i)] = static_cast<float>(i % 9) / 6 - 0.2f;
      std::vector<float> tinted(kRoom * 4, kGuardFloat);
      tintCover(shares.data(), n, 0.9f, colour, tinted.data());
      const auto before = pixels(n, 4);
      auto covered = before;
      coverPixels(shares.data(), n, covered.data());
      for (int i = 0; i < kRoom * 4; ++i) {
        const auto at = static_cast<std::size_t>(i);
        const float share = shares[at / 4];
        const float wanted = i < n * 4 ? colour[at % 4] * std::clamp(share * 0.9f, 0.0f, 1.0f) : kGuardFloat;
        QVERIFY2(std::abs(tinted[at] - wanted) < 1e-6f, target);
        QVERIFY2(std::abs(covered[at] - (i < n * 4 ? before[at] * share : before[at])) < 1e-6f, target);
      }
    }
  });
}

void TestPixelRows::whatIsReadOfPixels() {
  test::forEachTarget([](const char* target) {
    for (const int n : {1, 15, 16, 40}) {
      const auto rgba = pixels(n, 5);
      std::vector<float> alpha(kRoom);
      std::vector<float> light(kRoom);
      takeAlpha(rgba.data(), n, alpha.data());
      takeLightness(rgba.data(), n, light.data());
      for (std::size_t i = 0; i < static_cast<std::size_t>(n); ++i) {
        QCOMPARE(alpha[i], rgba[i * 4 + 3]);
        const float wanted = rgba[i * 4] * kLuma[0] + rgba[i * 4 + 1] * kLuma[1] + rgba[i * 4 + 2] * kLuma[2];
        QVERIFY2(std::abs(light[i] - wanted) < 1e-6f, target);
      }
      std::vector<float> field(kRoom);
      for (std::size_t i = 0; i < field.size(); ++i) field[i] = static_cast<float>(i % 11) / 4 - 0.8f;
      const auto before = field;
      holdField(field.data(), n);
      for (std::size_t i = 0; i < static_cast<std::size_t>(n); ++i) QCOMPARE(field[i], std::clamp(before[i], 0.0f, 1.0f));
    }
  });
}

void TestPixelRows::behindIsSeenThroughWhatIsOpen() {
  test::forEachTarget([](const char* target) {
    for (const int n : {1, 16, 37}) {
      const auto above = pixels(n, 6);
      const auto below = pixels(n, 7);
      auto both = above;
      layBehind(below.data(), 0.6f, both.data(), n);
      for (std::size_t i = 0; i < static_cast<std::size_t>(n) * 4; ++i) {
        const float open = 1 - above[i / 4 * 4 + 3];
        QVERIFY2(std::abs(both[i] - (above[i] + 0.6f * below[i] * open)) < 1e-6f, target);
      }
    }
  });
}

// Words of one colour lie in memory as shares of it; no pixel may tell.
void TestPixelRows::oneColourIsLaidAsItsPixels() {
  const float colour[4] = {0.31f, 0.17f, 0.59f, 1};
  const int height = 3;
  test::forEachTarget([&](const char* target) {
    for (const int width : {1, 5, 16, 70, 256})
      for (const auto& [another, said] : {std::pair(false, false), {true, false}, {true, true}}) {
        Plane picture(width, height, 4);
        Plane plain(width, height, 4);
        for (int y = 0; y < height; ++y)
          for (int x = 0; x < width; ++x) {
            const float share = x / 20 % 2 == y % 2 ? 0 : x % 3 == 0 ? 1 : static_cast<float>(x % 7) / 7;
            for (int c = 0; c < 4; ++c) {
              // A pixel that is none of the colour, and all of them are laid as they are.
              const bool other = another && x == width - 1 && c == 1;
              plain.row(y)[x * 4 + c] = picture.row(y)[x * 4 + c] = share * colour[c] * (other ? 0.5f : 1);
            }
          }
        const auto rows = sparseRows(std::move(picture), said);
        QVERIFY(rows->paints());
        // Alphas are there of what is seen to be in one colour, and of what is said to be; the colour only of products of both.
        // On the second row there is something from the start.
        const int some = std::min(width, 15);
        const auto [alphas, whole] = rows->storedShares(1, 0, some);
        // A single pixel has a colour, whichever it is.
        const bool two = another && width > 1;
        QCOMPARE(alphas != nullptr, said || !two);
        QCOMPARE(whole != nullptr, !two);
        for (int x = 0; alphas && x < some; ++x) QCOMPARE(alphas[x], plain.row(1)[x * 4 + 3]);
        for (int y = 0; y < height; ++y)
          for (const int x0 : {0, 2, 16, 37})
            for (const int n : {1, 3, 15, 17, 70, 256}) {
              if (x0 + n > width) continue;
              const auto before = pixels(n, 8);
              auto painted = before;
              rows->paint(y, x0, n, painted.data());
              auto laid = before;
              laySpan(plain.row(y) + x0 * 4, laid.data(), n);
              QVERIFY2(painted == laid, target);
              auto tinted = before;
              std::vector<float> shares(kRoom, 9);
              takeAlpha(plain.row(y) + x0 * 4, n, shares.data());
              layTint(shares.data(), colour, tinted.data(), n);
              if (!another) QVERIFY2(tinted == laid, target);
            }
      }
  });
}

QTEST_GUILESS_MAIN(TestPixelRows)
#include "tst_pixel_rows.moc"
