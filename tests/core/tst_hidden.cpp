// What is hidden is not made: what says that it hides what lies below does, nothing below it is asked for there, and no pixel tells.
#include <QTest>
#include <atomic>
#include <cstring>

#include "graph/composite.h"
#include "graph/plane_cache.h"
#include "graph/puller.h"
#include "graph/recipe_pass.h"
#include "image/cropped.h"
#include "image/grey.h"
#include "image/light_shares.h"
#include "image/same_rows.h"
#include "image/sampling.h"
#include "image/sparse.h"
#include "image/transfer.h"
#include "scene/tree.h"
#include "support/graphs.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

constexpr int kWidth = 700;
constexpr int kHeight = 40;

// Pixels of no regularity, half of them clear.
class Confetti final : public RowMaker {
 public:
  explicit Confetti(bool spans) : spans_(spans) {}
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return false; }
  [[nodiscard]] bool makesSpans() const override { return spans_; }
  void span(int y, int x0, int n, float* out) const override {
    asked += n;
    for (int i = 0; i < n; ++i) {
      const unsigned h = static_cast<unsigned>((x0 + i) * 7919 + y * 104729) * 2654435761u;
      const float a = h & 1 ? static_cast<float>((h >> 8) & 255) / 255 : 0;
      for (int c = 0; c < 3; ++c) out[4 * i + c] = a * static_cast<float>((h >> (8 + c)) & 127) / 127;
      out[4 * i + 3] = a;
    }
  }
  void rows(int y0, int y1, float* out, std::ptrdiff_t stride) const override {
    for (int y = y0; y < y1; ++y)
      for (int x = 0; x < kWidth; x += kSpanStep) span(y, x, std::min(kSpanStep, kWidth - x), out + (y - y0) * stride + x * 4);
  }
  mutable std::atomic<int> asked{0};

 private:
  bool spans_;
};

// An opaque colour that knows its light, and covers all.
class Even final : public SpanMaker {
 public:
  explicit Even(bool light = false) : SpanMaker(kWidth) {
    fillRgba(kColour, 16, pixels_);
    if (light) decodeSpan(pixels_, 16);
  }
  [[nodiscard]] int channels() const override { return 4; }
  [[nodiscard]] bool opaque() const override { return true; }
  [[nodiscard]] bool hides(int, int, int) const override { return true; }
  void span(int, int, int n, float* out) const override { fillRgba(pixels_, n, out); }
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override { return std::make_shared<Even>(true); }

 private:
  static constexpr float kColour[4] = {0.3f, 0.6f, 0.1f, 1};
  float pixels_[16 * 4];
};

// One colour in a box, of which nobody is told where it hides anything.
class Silent final : public SameRows {
 public:
  using SameRows::SameRows;
  [[nodiscard]] bool opaque() const override { return false; }
  [[nodiscard]] bool hides(int, int, int) const override { return false; }
  [[nodiscard]] bool full(int, int, int) const override { return false; }
  [[nodiscard]] bool nothing(int, int, int) const override { return false; }
  [[nodiscard]] RowParts something(int, int x0, int n) const override { return {x0, x0 + n}; }
  [[nodiscard]] std::shared_ptr<const RowMaker> linear() const override {
    auto made = same().linear();
    return made ? std::make_shared<Silent>(std::move(made)) : nullptr;
  }
};

// A picture that is opaque in the box, half so about it, and clear elsewhere.
std::shared_ptr<const RowMaker> panel(const PixelBox& box) {
  Plane plane(kWidth, kHeight, 4);
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x) {
      const bool within = x >= box.x0 && x < box.x1 && y >= box.y0 && y < box.y1;
      const bool near = x >= box.x0 - 3 && x < box.x1 + 3 && y >= box.y0 - 3 && y < box.y1 + 3;
      const float a = within ? 1 : near ? 0.5f : 0;
      const float pixel[] = {0.3f * a, 0.6f * a, 0.1f * a, a};
      std::copy_n(pixel, 4, plane.row(y) + static_cast<std::ptrdiff_t>(x) * 4);
    }
  return sparseRows(std::move(plane));
}

std::vector<float> pixelsOf(const std::vector<Stage>& stages, Colour backdrop, bool linear) {
  const Composite all(stages, backdrop, linear ? Composite::Mixing::Light : Composite::Mixing::Display, kWidth);
  std::vector<float> out(static_cast<std::size_t>(kWidth * kHeight) * 4);
  const std::ptrdiff_t stride = paddedRow(kWidth, 4);
  std::vector<float> room(static_cast<std::size_t>(stride * kHeight));
  all.rows(0, kHeight, room.data(), stride);
  for (int y = 0; y < kHeight; ++y) std::memcpy(out.data() + y * kWidth * 4, room.data() + y * stride, sizeof(float) * kWidth * 4);
  return out;
}

Stage stageOf(std::shared_ptr<const RowMaker> rows, BlendMode blend = BlendMode::Normal, float opacity = 1) {
  return {std::make_shared<const RecipePass>(std::move(rows), kWidth), blend, opacity};
}

// What is said of where pixels are something, in which colour, and where they lie, that is not so; null: all is.
const char* wrongPart(const RowMaker& rows, int y, int x0, int n, const float* row) {
  const int channels = rows.channels();
  const float* const part = rows.storedPart(y, x0, n);
  if (part && std::memcmp(part, row + x0 * channels, sizeof(float) * static_cast<std::size_t>(n * channels)) != 0)
    return "other pixels lie there than are made";
  if (channels != 4) return nullptr;
  const auto [alphas, colour] = rows.storedShares(y, x0, n);
  for (int i = 0; alphas && i < n * 4; ++i)
    if ((i % 4 == 3 || colour) && alphas[i / 4] * (colour ? colour[i % 4] : 1) != row[x0 * 4 + i]) return "other alphas lie there";
  std::vector<bool> may(static_cast<std::size_t>(n));
  for (const RowPart& some : rows.something(y, x0, n)) {
    if (some.from < x0 || some.to > x0 + n) return "something beyond what was asked for";
    std::fill(may.begin() + (some.from - x0), may.begin() + (some.to - x0), true);
  }
  const auto tint = rows.tint();
  std::vector<float> own(static_cast<std::size_t>(n) + kSpanPadding);
  if (n <= kSpanStep && rows.alphas(y, x0, n, own.data())) {
    if (!tint || !rows.makesSpans()) return "alphas of what is in no colour, or in no spans";
    // Made from there on, as places are rounded.
    std::vector<float> span(static_cast<std::size_t>(n + kSpanPadding) * 4);
    rows.span(y, x0, n, span.data());
    for (std::size_t i = 0; i < static_cast<std::size_t>(n); ++i) {
      if (own[i] != span[i * 4 + 3]) return "other alphas are made";
      if (own[i] == 1 && !std::equal(tint->begin(), tint->end(), span.begin() + static_cast<std::ptrdiff_t>(i) * 4))
        return "opaque in another colour";
    }
  }
  for (int i = 0; i < n; ++i) {
    const float* const pixel = row + (x0 + i) * 4;
    if (!may[static_cast<std::size_t>(i)] && std::any_of(pixel, pixel + 4, [](float v) { return v != 0; })) return "something unsaid";
    for (std::size_t c = 0; c < 3 && tint; ++c)
      if (std::abs(pixel[c] - pixel[3] * (*tint)[c]) > 3e-6f * pixel[3]) return "no share of its colour";
  }
  return nullptr;
}

// Spans of the size in which layers are laid over each other, and of smaller ones.
int checkClaims(const RowMaker& rows, int width, int height, const char* what, int* nothings = nullptr) {
  int claims = 0;
  const std::ptrdiff_t stride = paddedRow(width, rows.channels());
  std::vector<float> all(static_cast<std::size_t>(stride * height));
  rows.rows(0, height, all.data(), stride);
  for (const int step : {kSpanStep, 16, 5})
    for (int y = 0; y < height; ++y)
      for (int x = 0; x < width; x += step) {
        const int n = std::min(step, width - x);
        const bool hides = rows.hides(y, x, n);
        const bool full = rows.full(y, x, n);
        const bool nothing = rows.channels() == 4 && rows.nothing(y, x, n);
        if (const char* wrong = wrongPart(rows, y, x, n, all.data() + y * stride)) {
          qWarning("%s: %d, %d of %d: %s", what, x, y, n, wrong);
          return -1;
        }
        if (nothings) *nothings += nothing;
        claims += hides && !rows.opaque();
        for (int i = 0; i < n && (hides || full || nothing); ++i) {
          const float* pixel = all.data() + y * stride + static_cast<std::ptrdiff_t>(x + i) * rows.channels();
          if (nothing && std::any_of(pixel, pixel + 4, [](float v) { return v != 0; })) {
            qWarning("%s: %d, %d of %d says that there is nothing", what, x, y, n);
            return -1;
          }
          if (!hides && !full) continue;
          const float share = rows.channels() == 4 ? pixel[3] : full ? pixel[0] : 1;
          if (share != 1) {
            qWarning("%s: %d, %d of %d says that it is whole%s, and is 1 and %g", what, x, y, n, rows.opaque() ? " all over" : "",
                     static_cast<double>(share) - 1);
            return -1;
          }
        }
      }
  return claims;
}

// What is in one colour in light, by itself or by its pixels.
std::vector<float> lightOfShares(const std::shared_ptr<const RowMaker>& rows, bool itself) {
  const Plane plane = wholePlane(itself ? *lightShares(rows, 700) : *rows, 700, 394);
  const Tint tint = lightOf(*rows->tint());
  const float light[4] = {tint[0], tint[1], tint[2], 1};
  std::vector<float> made;
  std::vector<float> row(static_cast<std::size_t>(plane.stride()));
  for (int y = 0; y < 394; ++y) {
    std::copy_n(plane.row(y), plane.stride(), row.begin());
    if (!itself) decodeTint(row.data(), light, row.data(), 700);
    made.insert(made.end(), row.begin(), row.begin() + std::ptrdiff_t{700} * 4);
  }
  return made;
}

}  // namespace

class TestHidden : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void nothingBelowIsAskedFor();
  void noPixelTells();
  void shapesKnowWhereTheyHide_data();
  void shapesKnowWhereTheyHide();
  void whatIsSaidIsTrue();
  void whereThereIsNothingThereIsNone();
  void whatIsNotMixedIsAsItIsShown();
};

void TestHidden::nothingBelowIsAskedFor() {
  for (const bool spans : {true, false}) {
    const auto below = std::make_shared<Confetti>(spans);
    // Two spans of each of sixteen rows, which is one band of what comes in bands.
    (void)pixelsOf({stageOf(below), stageOf(panel({256, 16, 700, 32}))}, {0, 0, 0, 1}, false);
    const int hidden = spans ? 16 * (kWidth - 256) : 0;
    QCOMPARE(below->asked.load(), kWidth * kHeight - hidden);
    // Wholly hidden rows are not made by any.
    below->asked = 0;
    (void)pixelsOf({stageOf(below), stageOf(panel({0, 16, 700, 32}))}, {0, 0, 0, 1}, false);
    QCOMPARE(below->asked.load(), kWidth * (kHeight - 16));
    // What lets something through hides nothing.
    below->asked = 0;
    (void)pixelsOf({stageOf(below), stageOf(panel({0, 0, 700, 40}), BlendMode::Normal, 0.999f)}, {0, 0, 0, 1}, false);
    (void)pixelsOf({stageOf(below), stageOf(panel({0, 0, 700, 40}), BlendMode::Multiply)}, {0, 0, 0, 1}, false);
    QCOMPARE(below->asked.load(), 2 * kWidth * kHeight);
  }
}

void TestHidden::noPixelTells() {
  const PixelBox boxes[] = {{256, 0, 512, 40}, {100, 5, 690, 37}, {0, 0, 700, 40}, {0, 17, 300, 18}};
  for (const PixelBox& box : boxes)
    for (const bool spans : {true, false})
      for (const bool linear : {true, false})
        for (const float ground : {0.0f, 0.4f, 1.0f}) {
          const auto confetti = std::make_shared<Confetti>(spans);
          const auto above = patched(confetti, {0, 0, kWidth, kHeight}, kWidth);
          const auto with = [&](const std::shared_ptr<const RowMaker>& hiding, const std::shared_ptr<const RowMaker>& lowest) {
            return pixelsOf({stageOf(lowest), stageOf(confetti, BlendMode::Screen, 0.7f), stageOf(hiding), stageOf(confetti),
                             stageOf(above, BlendMode::Normal, 0.5f)},
                            {0.2f, 0.9f, 0.4f, ground}, linear);
          };
          const auto even = std::make_shared<Even>();
          // One that is shown by what it keeps, and one that knows its light.
          for (const auto& hiding : {panel(box), patched(even, box, kWidth)})
            for (const auto& lowest : {std::shared_ptr<const RowMaker>(confetti), std::shared_ptr<const RowMaker>(even)})
              QVERIFY(with(hiding, lowest) == with(std::make_shared<Silent>(hiding), lowest));
        }
}

void TestHidden::shapesKnowWhereTheyHide_data() {
  QTest::addColumn<QString>("kind");
  QTest::addColumn<double>("softness");
  QTest::addColumn<double>("turn");
  QTest::addColumn<bool>("claims");
  for (const char* kind : {"rectangle", "ellipse", "polygon", "star"})
    for (const double softness : {0.0, 30.0})
      for (const double turned : {0.0, 33.0})
        QTest::addRow("%s, %g soft, turned by %g", kind, softness, turned)
            << QString::fromLatin1(kind) << softness << turned << (QByteArray(kind) != "star");
}

void TestHidden::shapesKnowWhereTheyHide() {
  QFETCH(QString, kind);
  QFETCH(double, softness);
  QFETCH(double, turn);
  QFETCH(bool, claims);
  Scene scene = oa::test::oneLayer("shape", 640, 360);
  oa::test::setValue(scene, 0, 0, "kind", kind.toStdString());
  oa::test::setValue(scene, 0, 0, "width", 610.0);
  oa::test::setValue(scene, 0, 0, "height", 330.0);
  oa::test::setValue(scene, 0, 0, "softness", softness);
  scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Turn)].base = turn;
  assignIds(scene);
  const PlaneView view = PlaneView::cover(640, 360, 640, 360);
  const auto said = [&](const char* what) {
    const Plan plan(scene);
    return checkClaims(*Puller(plan, nullptr, nullptr).alone(0, view, {0, scene.frames}), 640, 360, what);
  };
  const int plain = said("plain");
  QVERIFY(claims ? plain > 300 : plain >= 0);
  // An outline, and a colour that lets something through, hide nothing.
  oa::test::setValue(scene, 0, 0, "line", 20.0);
  QCOMPARE(said("outline"), 0);
  oa::test::setValue(scene, 0, 0, "line", 0.0);
  oa::test::setValue(scene, 0, 0, "colour", Colour{1, 1, 1, 0.9f});
  QCOMPARE(said("glass"), 0);
  // As a mask of what is opaque by itself, and in a group that is cut at its frame.
  oa::test::setValue(scene, 0, 0, "colour", Colour{1, 1, 1, 1});
  Layer cells = newLayer(*findStep("noise"), "Cells");
  cells.place = scene.layers[0].place;
  cells.mask = newMask(*findStep("shape"));
  cells.mask->source = scene.layers[0].recipe[0];
  scene.layers[0] = cells;
  assignIds(scene);
  const int masked = said("mask");
  QVERIFY(claims ? masked > 300 : masked >= 0);
}

void TestHidden::whatIsSaidIsTrue() {
  int claims = 0;
  int nothings = 0;
  for (unsigned seed = 1; seed <= 120; ++seed) {
    const Scene scene = oa::test::randomGraph(seed, {.width = 160, .height = 90});
    const Plan plan(scene);
    PlaneCache cache(std::size_t{64} << 20);
    const Puller puller(plan, &cache, nullptr);
    const PlaneView view = PlaneView::cover(scene.width, scene.height, 160, 90);
    // The third time what is kept is kept.
    for (const std::int64_t k : {0, 1, 5})
      for (int i = 0; i < static_cast<int>(plan.layers().size()); ++i) {
        const auto rows = puller.alone(i, view, {k, scene.frames});
        const int said = checkClaims(*rows, 160, 90, scene.layers.front().name.c_str(), &nothings);
        QVERIFY2(said >= 0, qPrintable(QStringLiteral("seed %1, frame %2, layer %3").arg(seed).arg(k).arg(i)));
        claims += said;
      }
  }
  QVERIFY2(claims > 1000, qPrintable(QString::number(claims)));
  QVERIFY2(nothings > 1000, qPrintable(QString::number(nothings)));
}

// Marks, letters and words that are kept; asked themselves, since a composite passes over what says so.
void TestHidden::whereThereIsNothingThereIsNone() {
  int tints = 0;
  int apart = 0;
  int lit = 0;
  const auto check = [&](Scene scene, const char* name) {
    scene.linearLight = true;
    const Plan plan(scene);
    PlaneCache cache(std::size_t{64} << 20);
    const Puller puller(plan, &cache, nullptr);
    const Puller plain(plan, nullptr, nullptr);
    const PlaneView view = PlaneView::cover(scene.width, scene.height, 700, 394);
    int nothings = 0;
    for (const std::int64_t k : {0, 1, 2})
      for (int i = 0; i < static_cast<int>(plan.layers().size()); ++i) {
        const auto rows = puller.result(i, view, {k, scene.frames});
        QVERIFY2(checkClaims(*rows, 700, 394, name, &nothings) >= 0, name);
        tints += rows->tint().has_value();
        // Or bits would tell what was kept.
        const auto unkept = plain.result(i, view, {k, scene.frames});
        QVERIFY2(rows->tint() == unkept->tint(), name);
        QVERIFY2((rows->linear() == nullptr) == (unkept->linear() == nullptr), name);
        if (rows->tint()) {
          QVERIFY2(lightOfShares(rows, true) == lightOfShares(rows, false), name);
          QVERIFY2(lightOfShares(unkept, true) == lightOfShares(unkept, false), name);
        }
        lit += rows->linear() != nullptr;
        apart += rows->channels() == 4 && rows->something(200, 0, 256).begin() != rows->something(200, 0, 256).end() &&
                 rows->something(200, 0, 256).begin()->to < 256;
      }
    QVERIFY2(nothings > 10000, name);
  };
  for (const char* name : {"brass-band-levels", "hero-words", "signal-flags", "lamp-after-lamp", "pennant-wall"})
    check(oa::test::demoScene(std::string(name) + ".overagain"), name);
  Scene words = oa::test::oneLayer("words", 1920, 1080);
  oa::test::param(words, 0, 0, "letterTurn").motion = oa::test::swing(20.0);
  check(words, "letters that move");
  QVERIFY2(tints > 30, qPrintable(QString::number(tints)));
  QVERIFY2(apart > 5, qPrintable(QString::number(apart)));
  QVERIFY2(lit > 5, qPrintable(QString::number(lit)));
}

// Over an opaque ground that knows its light, what lies alone is as it is shown: with and without what is known of the layers above.
void TestHidden::whatIsNotMixedIsAsItIsShown() {
  Scene scene = oa::test::oneLayer("gradient", 640, 360);
  const Layer shape = newLayer(*findStep("shape"), "Shape");
  scene.layers.insert(scene.layers.end(), {shape, shape});
  assignIds(scene);
  // A soft disc to the right, a hard one to the left.
  oa::test::setValue(scene, 1, 0, "softness", 200.0);
  oa::test::setValue(scene, 1, 0, "centre", Point{0.75, 0.5});
  oa::test::setValue(scene, 1, 0, "width", 200.0);
  oa::test::setValue(scene, 2, 0, "centre", Point{0.25, 0.5});
  oa::test::setValue(scene, 2, 0, "width", 150.0);
  for (const int layer : {1, 2}) oa::test::setValue(scene, layer, 0, "kind", std::string("ellipse"));
  const auto display = oa::test::renderFloat(scene, 0);
  scene.linearLight = true;
  const auto light = oa::test::renderFloat(scene, 0);
  const auto differ = [&](int fromX, int toX) {
    int count = 0;
    for (int y = 0; y < 360; ++y)
      for (int x = fromX; x < toX; ++x) {
        const std::size_t at = (static_cast<std::size_t>(y) * 640 + static_cast<std::size_t>(x)) * 4;
        count += std::memcmp(display.rgba.data() + at, light.rgba.data() + at, sizeof(float) * 4) != 0;
      }
    return count;
  };
  // Of the hard disc only its edge is mixed; of the soft one all but its middle.
  const int edge = differ(0, 260);
  QVERIFY2(edge > 100 && edge < 1500, qPrintable(QString::number(edge)));
  QCOMPARE(differ(260, 270), 0);
  QVERIFY2(differ(270, 640) > 10000, qPrintable(QString::number(differ(270, 640))));
}

QTEST_GUILESS_MAIN(TestHidden)
#include "tst_hidden.moc"
