// Lenses alone: how finely and where they ask, what they read there, and places that are none.
#include <QTest>
#include <algorithm>
#include <cmath>
#include <limits>

#include "base/numbers.h"
#include "image/sampling.h"
#include "lens/lens_rows.h"
#include "lens/shift_map.h"
#include "support/pictures.h"

using namespace oa;

namespace {

// A checker of the plane, one pixel of the scene wide, as it is seen in any view: grey where pixels are larger. It remembers the views.
class Checker final : public Input {
 public:
  [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view) const override {
    views.push_back(view);
    Plane plane(view.width, view.height, 1);
    for (int y = 0; y < view.height; ++y)
      for (int x = 0; x < view.width; ++x) {
        const Point at = view.place(x, y);
        const bool light = (static_cast<std::int64_t>(std::floor(at.x)) + static_cast<std::int64_t>(std::floor(at.y))) % 2 == 0;
        plane.row(y)[x] = view.scale < 0.75 ? 0.5f : light ? 1.0f : 0.0f;
      }
    return planeRows(std::move(plane), true);
  }
  [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view, const Moment&) const override { return pull(view); }
  [[nodiscard]] Moment moment() const override { return {}; }
  mutable std::vector<PlaneView> views;
};

// Everything so many times as large as it was, about the upper left corner.
class Sized final : public ShiftMap {
 public:
  explicit Sized(float times, float nowhere = 0) : part_(1 / times - 1), nowhere_(nowhere) {}

 private:
  void shifts(int px, int py, int n, float* x, float* y) const override {
    for (int i = 0; i < n; ++i) {
      x[i] = static_cast<float>(px + i) * part_ + nowhere_;
      y[i] = static_cast<float>(py) * part_;
    }
  }
  float part_, nowhere_;
};

// Bent this way and that, so that pixels show more and less of the picture, and it is turned over here and there.
class Wavy final : public ShiftMap {
 private:
  void shifts(int px, int py, int n, float* x, float* y) const override {
    for (int i = 0; i < n; ++i) {
      x[i] = 60 * std::sin(static_cast<float>(px + i) * 0.07f + static_cast<float>(py) * 0.031f);
      y[i] = 45 * std::cos(static_cast<float>(px + i) * 0.023f - static_cast<float>(py) * 0.083f);
    }
  }
};

// How fine each view of it is, 0 as the frame and 1 half as fine, and a slope, which looks the same in all. As a field, or grey.
class Fineness final : public Input {
 public:
  explicit Fineness(int channels) : channels_(channels) {}
  [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view) const override {
    Plane plane(view.width, view.height, channels_);
    for (int y = 0; y < view.height; ++y)
      for (int x = 0; x < view.width; ++x)
        std::fill_n(plane.row(y) + x * channels_, channels_,
                    static_cast<float>(std::round(-std::log2(view.scale)) + slope(view.place(x, y))));
    return planeRows(std::move(plane), true);
  }
  [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view, const Moment&) const override { return pull(view); }
  [[nodiscard]] Moment moment() const override { return {}; }
  static double slope(Point at) { return 0.02 * at.x + 0.03 * at.y; }

 private:
  int channels_;
};

// Nothing is moved, but pixels of a row show more and more: each so many octaves more than the one before.
class EverMore final : public LensMap {
 public:
  explicit EverMore(double octaves) : octaves_(octaves) {}
  [[nodiscard]] double level(int px) const { return std::clamp(px * octaves_ - 2, -2.0, 9.0); }
  void places(int px, int py, int n, float* x, float* y) const override {
    for (int i = 0; i < n; ++i) x[i] = static_cast<float>(px + i), y[i] = static_cast<float>(py);
  }
  void slopes(int px, int py, int step, int n, const Slopes& out) const override {
    for (int i = 0; i < n; ++i) {
      out.x[i] = static_cast<float>(px + i * step);
      out.y[i] = static_cast<float>(py);
      out.most[i] = out.least[i] = out.xx[i] = out.yy[i] = static_cast<float>(std::exp2(level(px + i * step)));
      out.xy[i] = out.yx[i] = 0;
    }
  }

 private:
  double octaves_;
};

PlaneView frame() { return PlaneView::cover(200, 120, 200, 120); }

}  // namespace

class TestLens : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void asksAsFinelyAsItIsSeen_data();
  void asksAsFinelyAsItIsSeen();
  void whatIsReducedIsEven();
  void whatIsNarrowedOneWayIsEven();
  void eachPixelReadsItsOwnLevels_data();
  void eachPixelReadsItsOwnLevels();
  void placesThatAreNone();
  void everySoManyPixelsAreAsOneByOne();
  void aFieldIsReadAsAGreyPicture();
};

void TestLens::asksAsFinelyAsItIsSeen_data() {
  QTest::addColumn<double>("times");
  QTest::addColumn<double>("scale");
  QTest::newRow("as it is") << 1.0 << 1.0;
  QTest::newRow("twice as large") << 2.0 << 2.0;
  QTest::newRow("four times") << 4.0 << 4.0;
  QTest::newRow("half") << 0.5 << 0.5;
  QTest::newRow("a sixteenth") << 1.0 / 16 << 1.0 / 16;
}

void TestLens::asksAsFinelyAsItIsSeen() {
  QFETCH(double, times);
  QFETCH(double, scale);
  const Checker input;
  (void)lensRows(std::make_unique<Sized>(static_cast<float>(times)), input, frame());
  QCOMPARE(input.views.size(), std::size_t{1});
  QCOMPARE(input.views[0].scale, scale);
  // About as many pixels as are seen, wherever they come from.
  QVERIFY2(input.views[0].width < 200 * 1.6 && input.views[0].height < 120 * 1.6, qPrintable(QString::number(input.views[0].width)));
}

void TestLens::whatIsReducedIsEven() {
  const Checker input;
  const auto rows = lensRows(std::make_unique<Sized>(0.2f), input, frame());
  const Plane made = wholePlane(*rows, 200, 120);
  for (int y = 0; y < 120; ++y)
    for (int x = 0; x < 200; ++x) QVERIFY(std::abs(made.row(y)[x] - 0.5f) < 0.01f);
}

// Pixels that show two or four of stripes side by side, and one of them below: their mean, from as many points, not from a coarser picture.
void TestLens::whatIsNarrowedOneWayIsEven() {
  class Stripes final : public Input {
   public:
    explicit Stripes(int apart) : apart_(apart) {}
    [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view) const override {
      Plane plane(view.width, view.height, 1);
      for (int y = 0; y < view.height; ++y)
        for (int x = 0; x < view.width; ++x)
          plane.row(y)[x] = floorMod(static_cast<std::int64_t>(std::floor(view.place(x, y).x)), apart_) * 2 < apart_ ? 1.0f : 0.0f;
      coarsest = std::min(coarsest, view.scale);
      return planeRows(std::move(plane), true);
    }
    [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view, const Moment&) const override { return pull(view); }
    [[nodiscard]] Moment moment() const override { return {}; }
    mutable double coarsest = 1;

   private:
    int apart_;
  };
  class Narrowed final : public ShiftMap {
   public:
    explicit Narrowed(float times) : times_(times) {}

   private:
    void shifts(int px, int /*py*/, int n, float* x, float* y) const override {
      for (int i = 0; i < n; ++i) x[i] = static_cast<float>(px + i) * (times_ - 1), y[i] = 0;
    }
    float times_;
  };
  for (const int times : {2, 4})
    test::forEachTarget([&](const char* target) {
      const Stripes input(times);
      const auto rows = lensRows(std::make_unique<Narrowed>(static_cast<float>(times)), input, frame());
      const Plane made = wholePlane(*rows, 200, 120);
      for (int y = 0; y < 120; ++y)
        for (int x = 0; x < 200; ++x) QVERIFY2(std::abs(made.row(y)[x] - 0.5f) < 0.02f, target);
      QVERIFY2(input.coarsest >= 0.5, target);
    });
}

void TestLens::eachPixelReadsItsOwnLevels_data() {
  QTest::addColumn<double>("octaves");
  QTest::newRow("slowly") << 0.06;
  QTest::newRow("within a cell") << 0.4;
}

void TestLens::eachPixelReadsItsOwnLevels() {
  QFETCH(double, octaves);
  for (const int channels : {1, 4})
    test::forEachTarget([&](const char* target) {
      const Fineness input(channels);
      const EverMore map(octaves);
      const Plane made = wholePlane(*lensRows(std::make_unique<EverMore>(octaves), input, frame()), 200, 120);
      for (const int y : {0, 61, 119})
        for (int x = 0; x < 200; ++x) {
          // One level alone, two in the middle between them.
          const double level = map.level(x), finer = std::floor(level);
          const double expected = finer + std::clamp((level - finer - 0.4) * 5, 0.0, 1.0) + Fineness::slope(frame().place(x, y));
          for (int c = 0; c < channels; ++c) {
            const double read = made.row(y)[x * channels + c];
            QVERIFY2(std::abs(read - expected) < 0.01,
                     qPrintable(QString("%1: %2 for %3 at %4").arg(target).arg(read).arg(expected).arg(x)));
          }
        }
    });
}

void TestLens::placesThatAreNone() {
  for (const float nowhere : {std::numeric_limits<float>::quiet_NaN(), std::numeric_limits<float>::infinity(), -1e30f, 1e30f})
    test::forEachTarget([&](const char* target) {
      const Checker input;
      const auto rows = lensRows(std::make_unique<Sized>(1.0f, nowhere), input, frame());
      const Plane made = wholePlane(*rows, 200, 120);
      for (int y = 0; y < 120; ++y)
        for (int x = 0; x < 200; ++x) QVERIFY2(made.row(y)[x] >= 0 && made.row(y)[x] <= 1, target);
      for (const PlaneView& view : input.views) QVERIFY2(static_cast<double>(view.width) * view.height < 4e6, target);
    });
}

void TestLens::everySoManyPixelsAreAsOneByOne() {
  constexpr int kMost = 60;
  const Wavy map;
  for (const int step : {1, 3, 16, 40})
    for (const int n : {1, 17, kMost}) {
      std::vector<float> many(8 * (kMost + kSpanPadding));
      std::vector<float> one(8 * kSpanPadding);
      const auto slopes = [](std::vector<float>& v) {
        const std::ptrdiff_t each = static_cast<std::ptrdiff_t>(v.size()) / 8;
        float* const p = v.data();
        return LensMap::Slopes{p, p + each, p + 2 * each, p + 3 * each, p + 4 * each, p + 5 * each, p + 6 * each, p + 7 * each};
      };
      map.slopes(-9, 4, step, n, slopes(many));
      for (int i = 0; i < n; ++i) {
        map.slopes(-9 + i * step, 4, 1, 1, slopes(one));
        for (std::size_t k = 0; k < 8; ++k)
          QCOMPARE(many[k * (kMost + kSpanPadding) + static_cast<std::size_t>(i)], one[k * static_cast<std::size_t>(kSpanPadding)]);
      }
    }
}

// Pixels of several levels and points, as many of them side by side as there happen to be: a field, and the same in all four channels.
void TestLens::aFieldIsReadAsAGreyPicture() {
  class Grey final : public Input {
   public:
    explicit Grey(int channels) : channels_(channels) {}
    [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view) const override {
      Plane plane(view.width, view.height, channels_);
      for (int y = 0; y < view.height; ++y)
        for (int i = 0; i < view.width * channels_; ++i) {
          const int x = i / channels_;
          const Point at = view.place(x, y);
          plane.row(y)[i] = static_cast<float>(0.5 + 0.5 * std::sin(at.x * 0.9) * std::cos(at.y * 0.7));
        }
      return planeRows(std::move(plane), true);
    }
    [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view, const Moment&) const override { return pull(view); }
    [[nodiscard]] Moment moment() const override { return {}; }

   private:
    int channels_;
  };
  test::forEachTarget([&](const char* target) {
    const Plane field = wholePlane(*lensRows(std::make_unique<Wavy>(), Grey(1), frame()), 200, 120);
    const Plane picture = wholePlane(*lensRows(std::make_unique<Wavy>(), Grey(4), frame()), 200, 120);
    for (int y = 0; y < 120; ++y)
      for (int x = 0; x < 200; ++x)
        for (int c = 0; c < 4; ++c) QVERIFY2(std::abs(picture.row(y)[x * 4 + c] - field.row(y)[x]) < 2e-6f, target);
  });
}

QTEST_GUILESS_MAIN(TestLens)
#include "tst_lens.moc"
