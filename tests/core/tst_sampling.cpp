// Reading planes between their pixels: every path against plain arithmetic in doubles, at every edge rule and on every SIMD target;
// pictures moved, sized and turned; and the memory they lie in.
#include <QTest>
#include <cmath>
#include <random>
#include <thread>
#include <vector>

#include "base/buffer_pool.h"
#include "image/enlarged.h"
#include "image/resampled.h"
#include "image/sampling.h"
#include "image/strips.h"
#include "support/pictures.h"

using namespace oa;

namespace {

constexpr int kWidth = 83;
constexpr int kHeight = 47;
constexpr Edge kEdges[] = {Edge::Clamp, Edge::Wrap, Edge::Mirror, Edge::Transparent, Edge::Beyond};

// Soft waves; alpha never below a colour.
Plane waves(int channels) {
  Plane plane(kWidth, kHeight, channels);
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x)
      for (int c = 0; c < channels; ++c)
        plane.row(y)[x * channels + c] = static_cast<float>(c == 3 ? 0.95 : 0.45 + 0.4 * std::sin(x * 0.31 + c) * std::cos(y * 0.23 - c));
  return plane;
}

// In doubles: by so many taps each way with the weights of a share.
template <class Weights>
double plainAt(const Plane& plane, Edge edge, double x, double y, int channel, int taps, const Weights& weights) {
  const auto cx = static_cast<std::int64_t>(std::floor(x));
  const auto cy = static_cast<std::int64_t>(std::floor(y));
  double wx[4];
  double wy[4];
  weights(x - std::floor(x), wx);
  weights(y - std::floor(y), wy);
  const int before = taps / 2 - 1;
  double sum = 0;
  for (int k = 0; k < taps; ++k)
    for (int j = 0; j < taps; ++j) {
      const int px = edgeIndex(edge, cx + j - before, plane.width());
      const int py = edgeIndex(edge, cy + k - before, plane.height());
      if (px >= 0 && py >= 0) sum += wx[j] * wy[k] * static_cast<double>(plane.row(py)[px * plane.channels() + channel]);
    }
  return sum;
}

void linearWeights(double t, double* w) {
  w[0] = 1 - t;
  w[1] = t;
}

double plainLinear(const Plane& plane, Edge edge, double x, double y, int channel) {
  return plainAt(plane, edge, x, y, channel, 2, linearWeights);
}

// The cubic B-spline by how far a pixel lies from the place (Unser 1999, eq. 5).
void splineWeights(double t, double* weights) {
  for (int k = 0; k < 4; ++k) {
    const double far = std::abs(t + 1 - k);
    weights[k] = far < 1 ? 2.0 / 3 - far * far + far * far * far / 2 : std::pow(2 - far, 3) / 6;
  }
}

double plainCubic(const Plane& plane, Edge edge, double x, double y, int channel, Cubic cubic) {
  const auto weights = cubic == Cubic::Spline ? splineWeights : cubicWeights;
  const double sum = plainAt(plane, edge, x, y, channel, 4, weights);
  if (plane.channels() == 1) return sum;
  const double alpha = std::clamp(plainAt(plane, edge, x, y, 3, 4, weights), 0.0, 1.0);
  return std::clamp(sum, 0.0, alpha);
}

// Places inside, at the edges and far outside, in runs that stay inside and runs that do not.
struct Places {
  std::vector<float> x;
  std::vector<float> y;
  [[nodiscard]] std::size_t size() const { return x.size(); }
  [[nodiscard]] Point at(std::size_t i) const { return {static_cast<double>(x[i]), static_cast<double>(y[i])}; }
};
Places somePlaces() {
  std::mt19937 random(7);
  std::uniform_real_distribution<double> inside(2, 40);
  std::uniform_real_distribution<double> anywhere(-60, 140);
  Places list;
  const auto add = [&](double x, double y) {
    list.x.push_back(static_cast<float>(x));
    list.y.push_back(static_cast<float>(y));
  };
  for (int i = 0; i < 203; ++i) i < 96 ? add(inside(random), inside(random)) : add(anywhere(random), anywhere(random));
  for (const double v : {0.0, 1.0, static_cast<double>(kWidth - 1), static_cast<double>(kWidth), -0.5}) add(v, v / 2);
  return list;
}

}  // namespace

class TestSampling : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void linearIsLinear();
  void cubicIsCubic();
  void companyChangesNoPixel();
  void shiftsAreTheSamePlaces();
  void stripsHoldThePlane();
  void stripsEndWithTheirRows();
  void whatStandsBehindCountsForNothing();
  void picturesAreMovedSizedAndTurned();
  void storedRowsAreNotCopied();
  void memoryIsUsedAgain();
  void theSmallestThatFitsIsTaken();
  void idleMemoryHasABudget();
  void manyThreadsTakeAndGive();
};

void TestSampling::linearIsLinear() {
  const auto places = somePlaces();
  test::forEachTarget([&](const char* target) {
    for (const int channels : {1, 4}) {
      const Plane plane = waves(channels);
      std::vector<float> out((places.size() + kSpanPadding) * 4);
      for (const Edge edge : kEdges) {
        samplePlane(plane.pixels(), edge, places.x.data(), places.y.data(), static_cast<int>(places.size()), out.data());
        for (std::size_t i = 0; i < places.size(); ++i)
          for (int c = 0; c < channels; ++c) {
            const double expected = plainLinear(plane, edge, places.at(i).x, places.at(i).y, c);
            QVERIFY2(
                std::abs(static_cast<double>(out[i * static_cast<std::size_t>(channels) + static_cast<std::size_t>(c)]) - expected) < 1e-5,
                target);
          }
      }
    }
  });
}

void TestSampling::cubicIsCubic() {
  const auto places = somePlaces();
  test::forEachTarget([&](const char* target) {
    for (const int channels : {1, 4}) {
      const Plane plane = waves(channels);
      std::vector<float> out((places.size() + kSpanPadding) * 4);
      const auto near = [&](std::size_t i, int c, double expected) {
        const double got = static_cast<double>(out[i * static_cast<std::size_t>(channels) + static_cast<std::size_t>(c)]);
        return std::abs(got - expected) < 1e-5;
      };
      const auto readBy = [&](Cubic cubic, Edge edge) {
        const auto plain = [&](double x, double y, int c) { return plainCubic(plane, edge, x, y, c, cubic); };
        samplePlaneCubic(plane.pixels(), edge, places.x.data(), places.y.data(), static_cast<int>(places.size()), out.data(), cubic);
        for (std::size_t i = 0; i < places.size(); ++i)
          for (int c = 0; c < channels; ++c) QVERIFY2(near(i, c, plain(places.at(i).x, places.at(i).y, c)), target);
        // Along a line, also one that leaves the plane, and far from where numbers are fine.
        for (const auto& [at, step] : {std::pair{Point{3.3, 2.1}, Point{0.61, 0.17}}, {Point{-20.7, 60.2}, Point{0.9, -0.8}}}) {
          sampleLineCubic(plane.pixels(), edge, at, step, 150, out.data(), cubic);
          for (int i = 0; i < 150; ++i)
            for (int c = 0; c < channels; ++c)
              QVERIFY2(near(static_cast<std::size_t>(i), c, plain(at.x + step.x * i, at.y + step.y * i, c)), target);
        }
      };
      for (const Edge edge : kEdges)
        for (const Cubic cubic : {Cubic::Convolution, Cubic::Spline}) readBy(cubic, edge);
    }
  });
}

// Several pixels are read at once where that is quicker; one alone, or behind others, is worth the same to the last bit.
void TestSampling::companyChangesNoPixel() {
  const auto places = somePlaces();
  const Plane plane = waves(4);
  const auto n = static_cast<int>(places.size());
  test::forEachTarget([&](const char* target) {
    std::vector<float> all((places.size() + kSpanPadding) * 4);
    std::vector<float> one(kSpanPadding * 4);
    const auto sample = [&](int way, const float* x, const float* y, int count, float* out) {
      if (way == 0) return samplePlane(plane.pixels(), Edge::Clamp, x, y, count, out);
      samplePlaneCubic(plane.pixels(), Edge::Clamp, x, y, count, out, way == 1 ? Cubic::Convolution : Cubic::Spline);
    };
    for (int way = 0; way < 3; ++way) {
      sample(way, places.x.data(), places.y.data(), n, all.data());
      for (std::size_t i = 0; i < places.size(); ++i) {
        sample(way, &places.x[i], &places.y[i], 1, one.data());
        QVERIFY2(std::equal(one.begin(), one.begin() + 4, all.begin() + static_cast<std::ptrdiff_t>(i) * 4), target);
      }
    }
    std::vector<std::int32_t> columns(places.size());
    std::vector<float> shares(places.size());
    for (std::size_t i = 0; i < places.size(); ++i) {
      columns[i] = static_cast<std::int32_t>(i * 7 % (kWidth - 4));
      shares[i] = static_cast<float>(i % 10) / 10;
    }
    sampleColumnsCubic(plane.row(11), 4, columns.data(), shares.data(), n, all.data());
    for (std::size_t i = 0; i < places.size(); ++i) {
      sampleColumnsCubic(plane.row(11), 4, &columns[i], &shares[i], 1, one.data());
      QVERIFY2(std::equal(one.begin(), one.begin() + 4, all.begin() + static_cast<std::ptrdiff_t>(i) * 4), target);
      for (int c = 0; c < 4; ++c) {
        double w[4];
        cubicWeights(static_cast<double>(shares[i]), w);
        double sum = 0;
        for (int k = 0; k < 4; ++k) sum += w[k] * static_cast<double>(plane.row(11)[(columns[i] + k) * 4 + c]);
        QVERIFY2(std::abs(static_cast<double>(one[static_cast<std::size_t>(c)]) - std::clamp(sum, 0.0, 1.0)) < 2e-6, target);
      }
    }
  });
}

// Rows that are read some way off, of planes of one strip and of several: the shifts are mixed from four rows each, the first three and
// the last two from the same ones.
void TestSampling::shiftsAreTheSamePlaces() {
  constexpr int kRows = 5;
  constexpr std::ptrdiff_t kStride = 112;
  std::vector<float> values(kStride * 8);
  for (std::size_t i = 0; i < values.size(); ++i) values[i] = 9 * std::sin(static_cast<float>(i) * 0.1f) + (i % 7 == 0 ? 3.0f : 0.0f);
  ShiftRow shifts[kRows];
  for (int r = 0; r < kRows; ++r) {
    double weights[4];
    cubicWeights(r * 0.21, weights);
    for (int k = 0; k < 4; ++k) {
      shifts[r].across[k] = values.data() + (k + r / 3) * kStride;
      shifts[r].down[k] = values.data() + (k + 3 + r / 3) * kStride;
      shifts[r].weights[k] = static_cast<float>(weights[k]);
    }
  }
  const auto mixed = [&](const ShiftRow& shift, const float* const* from, int i) {
    double sum = 0;
    for (int k = 0; k < 4; ++k) sum += static_cast<double>(shift.weights[k]) * static_cast<double>(from[k][i]);
    return sum;
  };
  test::forEachTarget([&](const char* target) {
    for (const int channels : {1, 4}) {
      const Plane plane = waves(channels);
      const StripPlane strips(*planeRows(waves(channels), true), kWidth, kHeight);
      const std::ptrdiff_t outStride = paddedRow(kWidth, channels);
      std::vector<float> out(static_cast<std::size_t>(outStride * kRows));
      struct Read {
        int x0, y0, n;
        double farthest;
      };
      for (const Edge edge : kEdges)
        // Known to lie close, and perhaps anywhere; beyond the edges, and all within.
        for (const auto& [x0, y0, n, farthest] : {Read{0, 1, kWidth, 15},
                                                  {0, 20, kWidth, 15},
                                                  {0, 20, kWidth, 4e6},
                                                  {0, kHeight - 2, kWidth, 15},
                                                  {0, kHeight - 2, kWidth, 4e6},
                                                  {20, 18, 41, 15},
                                                  {20, 18, 41, 4e6}}) {
          sampleShifted(strips.pixels(), edge, x0, y0, shifts, farthest, n, kRows, out.data(), outStride);
          for (int r = 0; r < kRows; ++r)
            for (int i = 0; i < n; ++i)
              for (int c = 0; c < channels; ++c) {
                const double x = x0 + i + mixed(shifts[r], shifts[r].across, i);
                const double y = y0 + r + mixed(shifts[r], shifts[r].down, i);
                const double got = static_cast<double>(out[static_cast<std::size_t>(r * outStride + i * channels + c)]);
                QVERIFY2(std::abs(got - plainLinear(plane, edge, x, y, c)) < 2e-5, target);
              }
        }
    }
  });
}

void TestSampling::stripsHoldThePlane() {
  for (const int channels : {1, 4}) {
    const Plane plane = waves(channels);
    const StripPlane strips(*planeRows(waves(channels), true), kWidth, kHeight);
    for (int y = 0; y < kHeight; ++y)
      for (int x = 0; x + 1 < kWidth; ++x)
        // A pixel, and behind it its neighbour to the right.
        QVERIFY(std::equal(plane.row(y) + x * channels, plane.row(y) + (x + 2) * channels, strips.pixels().at(x, y)));
  }
}

// Rows of places end where they end: what lies in memory behind them is not looked at, not even to choose a quicker way.
// Whatever their width, nothing is read beyond a row, which may be the last of its memory.
void TestSampling::stripsEndWithTheirRows() {
  for (const int channels : {1, 4})
    for (int width = 1; width <= 140; ++width) {
      constexpr int kRows = 3;
      Plane plane(width, kRows, channels);
      for (int y = 0; y < kRows; ++y)
        for (std::ptrdiff_t i = 0; i < plane.stride(); ++i)
          plane.row(y)[i] = static_cast<float>(i < width * channels ? 1 + y * 1000 + i : -7);
      const StripPlane strips(*planeRows(std::move(plane), true), width, kRows);
      const StripPixels& held = strips.pixels();
      const int floats = width * channels;
      const int last = (floats - 1) / kStripFloats;
      for (int y = 0; y < kRows; ++y) {
        for (int i = 0; i < floats; ++i)
          QCOMPARE(held.first[i / kStripFloats * held.strip + y * kStripStride + i % kStripFloats], static_cast<float>(1 + y * 1000 + i));
        // What the row has behind it may be there as well, what the next row has is not.
        for (int k = floats - last * kStripFloats; k < kStripStride; ++k) {
          const float behind = held.first[last * held.strip + y * kStripStride + k];
          QVERIFY2(behind == 0 || behind == -7, qPrintable(QStringLiteral("%1 wide, row %2, %3: %4").arg(width).arg(y).arg(k).arg(behind)));
        }
      }
    }
}

void TestSampling::whatStandsBehindCountsForNothing() {
  const StripPlane plane(*planeRows(waves(1), true), kWidth, kHeight);
  test::forEachTarget([&](const char* target) {
    for (const int n : {1, 5, 16, 23, 64, 70}) {
      std::vector<float> first;
      for (const float behind : {0.0f, 1e30f, -1e30f, std::nanf("")}) {
        std::vector<float> across(160, behind);
        std::vector<float> down(160, behind);
        std::fill_n(across.begin(), n, 0.3f);
        std::fill_n(down.begin(), n, 0.4f);
        std::vector<float> out(160);
        const float* const a = across.data();
        const float* const b = down.data();
        const ShiftRow shift{{a, a, a, a}, {b, b, b, b}, {1, 0, 0, 0}};
        sampleShifted(plane.pixels(), Edge::Clamp, 2, 9, &shift, 0.5, n, 1, out.data(), 160);
        out.resize(static_cast<std::size_t>(n));
        if (first.empty()) first = out;
        QVERIFY2(out == first, target);
      }
    }
  });
}

void TestSampling::picturesAreMovedSizedAndTurned() {
  const PlaneView have = PlaneView::cover(kWidth, kHeight, kWidth, kHeight);
  test::forEachTarget([&](const char* target) {
    for (const int channels : {1, 4}) {
      const Plane plane = waves(channels);
      const std::shared_ptr<const RowMaker> rows = planeRows(waves(channels), true);
      for (const Affine& map : {Affine{1, 0, 3.4, 0, 1, -2.7}, Affine{1, 0, 0, 0, 1, 0.5}, Affine{1.7, 0, -9, 0, 0.8, 4},
                                Affine{-1, 0, 83, 0, 1, 0}, Affine{0.8, -0.6, 12, 0.6, 0.8, -9}, Affine{1, 0, 500, 0, 1, -300}}) {
        const PlaneView wanted = have.through(map, kWidth, kHeight);
        const auto made = resampled(rows, have, wanted);
        const Plane out = wholePlane(*made, kWidth, kHeight);
        for (int y = 0; y < kHeight; ++y)
          for (int x = 0; x < kWidth; ++x) {
            const Point at = have.pixel(wanted.place(x, y));
            for (int c = 0; c < channels; ++c) {
              const double expected = plainCubic(plane, Edge::Clamp, at.x, at.y, c, Cubic::Convolution);
              const double got = static_cast<double>(out.row(y)[x * channels + c]);
              QVERIFY2(std::abs(got - expected) < 2e-4,
                       qPrintable(QStringLiteral("%1 at %2, %3: %4 %5").arg(QLatin1String(target)).arg(x).arg(y).arg(got).arg(expected)));
            }
          }
        // Rows are the same whichever are asked for together.
        Plane single(kWidth, kHeight, channels);
        for (const int y : {0, 17, kHeight - 1}) {
          made->rows(y, y + 1, single.row(y), single.stride());
          QVERIFY(std::equal(single.row(y), single.row(y) + kWidth * channels, out.row(y)));
        }
      }
    }
  });
}

void TestSampling::storedRowsAreNotCopied() {
  const std::shared_ptr<const RowMaker> rows = planeRows(waves(4), true);
  const SourcePlane source(rows, kWidth, kHeight);
  QCOMPARE(source.pixels().first, rows->stored(0));
  QCOMPARE(source.pixels().row(kHeight - 1), rows->stored(kHeight - 1));
}

void TestSampling::memoryIsUsedAgain() {
  BufferPool pool(std::size_t{64} << 20);
  void* first = pool.take(std::size_t{9} << 20);
  QCOMPARE(reinterpret_cast<std::uintptr_t>(first) % 128, std::uintptr_t{0});
  static_cast<char*>(first)[(std::size_t{9} << 20) - 1] = 1;
  pool.give(first);
  QVERIFY(pool.idle() >= std::size_t{9} << 20);
  // Nearly as large is as good; much larger is another.
  void* again = pool.take((std::size_t{9} << 20) - 5000);
  QCOMPARE(again, first);
  QCOMPARE(pool.idle(), std::size_t{0});
  void* other = pool.take(std::size_t{20} << 20);
  QVERIFY(other != first);
  pool.give(again);
  pool.give(other);
  pool.trim();
  QCOMPARE(pool.idle(), std::size_t{0});
}

void TestSampling::theSmallestThatFitsIsTaken() {
  BufferPool pool(std::size_t{64} << 20);
  constexpr std::size_t kMega = std::size_t{1} << 20;
  void* small = pool.take(4 * kMega);
  void* large = pool.take(7 * kMega);
  pool.give(large);
  pool.give(small);
  // Views that change their size a little need no new memory, and a small one does not hold a large buffer.
  void* again = pool.take(3 * kMega);
  QCOMPARE(again, small);
  void* other = pool.take(4 * kMega);
  QCOMPARE(other, large);
  pool.give(other);
  void* third = pool.take(3 * kMega);
  QVERIFY(third != large);
  for (void* memory : {again, third}) pool.give(memory);
}

void TestSampling::idleMemoryHasABudget() {
  BufferPool pool(std::size_t{8} << 20);
  std::vector<void*> held;
  held.reserve(12);
  for (int i = 0; i < 12; ++i) held.push_back(pool.take(std::size_t{2} << 20));
  for (void* memory : held) {
    pool.give(memory);
    QVERIFY(pool.idle() <= std::size_t{8} << 20);
  }
  QVERIFY(pool.idle() > 0);
#ifndef __SANITIZE_ADDRESS__  // which ends the program there
  QVERIFY_EXCEPTION_THROWN(pool.take(std::size_t{1} << 62), std::bad_alloc);
#endif
}

void TestSampling::manyThreadsTakeAndGive() {
  BufferPool pool(std::size_t{16} << 20);
  std::vector<std::thread> threads;
  threads.reserve(4);
  std::atomic<int> wrong{0};
  for (int t = 0; t < 4; ++t)
    threads.emplace_back([&, t] {
      for (int i = 0; i < 300; ++i) {
        const std::size_t bytes = kPooledBytes * static_cast<std::size_t>(1 + (i + t) % 5);
        auto* memory = static_cast<int*>(pool.take(bytes));
        memory[0] = memory[bytes / sizeof(int) - 1] = t * 1000 + i;
        std::this_thread::yield();
        if (memory[0] != t * 1000 + i || memory[bytes / sizeof(int) - 1] != t * 1000 + i) ++wrong;
        pool.give(memory);
      }
    });
  for (std::thread& thread : threads) thread.join();
  QCOMPARE(wrong.load(), 0);
}

QTEST_GUILESS_MAIN(TestSampling)
#include "tst_sampling.moc"
