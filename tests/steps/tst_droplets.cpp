// Droplets: nothing at nothing, water where drops are and nowhere else, against the plain field of all of them, falling home, tiles.
#include <QTest>
#include <cmath>
#include <cstring>

#include "base/numbers.h"
#include "image/sampling.h"
#include "render/reference.h"
#include "support/lens.h"

using namespace oa;

namespace {

Scene rain(const test::SetUp& more = {}, const char* source = "noise") {
  return test::stepOn(source, "droplets", [&](const auto& set) {
    set("count", 30.0), set("size", 34.0), set("sway", 0.0);
    if (more) more(set);
  });
}

}  // namespace

class TestDroplets : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noDropsAreTheSameToTheByte();
  void betweenDropsNothingChanges();
  void againstThePlainField();
  void fallsHome();
  void whatLeavesAtOneSideComesInAtTheOther();
  void theSameHoweverItIsCut();
};

void TestDroplets::noDropsAreTheSameToTheByte() {
  for (const bool none : {true, false}) {
    const Scene scene = rain([&](const auto& set) { none ? set("count", 0.0) : (set("bend", 0.0), set("shine", 0.0), set("rim", 0.0)); });
    QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
  }
}

void TestDroplets::betweenDropsNothingChanges() {
  Scene alone = rain([](const auto& set) { set("alone", true); });
  alone.background.reset();
  const auto water = test::renderFloat(alone, 3);
  const Scene scene = rain();
  const auto f = test::renderFloat(scene, 3);
  const auto bare = test::renderFloat(test::without(scene), 3);
  int dry = 0, wet = 0;
  for (int y = 1; y < 179; ++y)
    for (int x = 1; x < 319; ++x) {
      const double off = static_cast<double>(std::abs(f.at(x, y, 0) - bare.at(x, y, 0)));
      // A pixel beside the water shows a little of what is bent within.
      bool beside = false;
      for (int k = 0; k < 9; ++k) beside = beside || water.at(x + k % 3 - 1, y + k / 3 - 1, 3) > 0;
      if (!beside) {
        QVERIFY2(off < 1e-4, qPrintable(QStringLiteral("%1, %2: %3").arg(x).arg(y).arg(off)));
        ++dry;
      } else {
        wet += off > 0.01;
      }
    }
  QVERIFY2(dry > 20000 && wet > 4000, qPrintable(QStringLiteral("%1, %2").arg(dry).arg(wet)));
}

void TestDroplets::againstThePlainField() {
  Scene scene = rain({}, "gradient");
  scene.width = 160;
  scene.height = 90;
  test::param(scene, 0, 1, "fall").motion = test::turn();
  const auto plain = referenceFrame(scene, 7, 160, 90);
  const auto f = test::renderFloat(scene, 7);
  const auto d = test::compare(f, plain);
  // But for where light is bent round within a pixel.
  int off = 0;
  for (std::size_t i = 0; i < plain.size(); ++i) off += std::abs(static_cast<double>(f.rgba[i * 4]) - plain[i][0]) > 0.03;
  QVERIFY2(off < 200 && d.mean < 0.001, qPrintable(QStringLiteral("%1, %2").arg(off).arg(d.mean)));
}

void TestDroplets::fallsHome() {
  Scene scene = rain([](const auto& set) { set("sway", 12.0); }, "gradient");
  for (const char* id : {"fall", "sways"}) test::param(scene, 0, 1, id).motion = test::turn();
  const auto first = test::renderFloat(scene, 0);
  QVERIFY(test::renderFloat(scene, 24).rgba == first.rgba);
  QVERIFY(test::compare(test::renderFloat(scene, 7), first).mean > 2e-3);
}

void TestDroplets::whatLeavesAtOneSideComesInAtTheOther() {
  Scene scene = rain([](const auto& set) { set("alone", true), set("bend", 0.0), set("shine", 0.0), set("rim", 0.0); }, "flat");
  scene.background.reset();
  PlaneView next = PlaneView::cover(320, 180, 320, 180);
  const auto here = test::renderFloat(scene, 2, next);
  next.left = 320;
  next.top = -180;
  const auto there = test::renderFloat(scene, 2, next);
  QVERIFY(test::meanOf(here, 3) > 0.05);
  QVERIFY2(test::compare(here, there).mean < 1e-3, qPrintable(QString::number(test::compare(here, there).mean)));
}

// Drops are drawn for the pixels that are asked for: no matter which, each comes out the same to the bit.
void TestDroplets::theSameHoweverItIsCut() {
  class Ramp final : public Input {
   public:
    [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view) const override {
      Plane plane(view.width, view.height, 4);
      for (int y = 0; y < view.height; ++y)
        for (int x = 0; x < view.width; ++x)
          for (int c = 0; c < 4; ++c) {
            const Point at = view.place(x, y);
            plane.row(y)[x * 4 + c] = c == 3 ? 1.0f : static_cast<float>(fract(at.x * 0.03 + at.y * 0.011 * c));
          }
      return planeRows(std::move(plane), true);
    }
    [[nodiscard]] std::shared_ptr<const RowMaker> pull(const PlaneView& view, const Moment&) const override { return pull(view); }
    [[nodiscard]] Moment moment() const override { return {}; }
  };
  const PlaneView upright = PlaneView::cover(320, 180, 333, 187);
  PlaneView turned = upright;
  turned.xx = turned.yy = 0.8, turned.xy = -0.6, turned.yx = 0.6;
  const Scene scene = rain();
  const RecipeStep& step = scene.layers[0].recipe[1];
  for (const PlaneView& view : {upright, turned})
    test::forEachTarget([&](const char* target) {
      const auto rows = step.spec->area(contextOf(step, {3, 24}, view), Ramp());
      const Plane whole = wholePlane(*rows, view.width, view.height);
      Plane part(view.width, 40, 4);
      for (const auto& [from, to] : {std::pair{0, 1}, {63, 64}, {5, 38}, {100, 140}, {186, 187}}) {
        rows->rows(from, to, part.row(0), part.stride());
        for (int y = from; y < to; ++y)
          QVERIFY2(std::memcmp(part.row(y - from), whole.row(y), sizeof(float) * 4 * static_cast<std::size_t>(view.width)) == 0, target);
      }
    });
}

QTEST_GUILESS_MAIN(TestDroplets)
#include "tst_droplets.moc"
