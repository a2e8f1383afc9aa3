// Glow: nothing at nothing, it adds what it says, it falls off, what is dark does not shine, it shines beyond edges, whatever the size.
#include <QTest>
#include <cmath>

#include "graph/plane_cache.h"
#include "graph/puller.h"
#include "image/colour.h"
#include "image/sampling.h"
#include "image/transfer.h"
#include "render/reference.h"
#include "scene/place.h"
#include "support/lens.h"

using namespace oa;

namespace {

// A bright square in the dark.
Scene lamp(const test::SetUp& setUp, double side = 20, int width = 320, int height = 180) {
  Scene scene = test::stepOn(
      "shape", "glow",
      [&](const auto& set) {
        set("tint", Colour{1, 1, 1, 1}), set("radius", 60.0), set("threshold", 0.0);
        if (setUp) setUp(set);
      },
      width, height);
  test::setValue(scene, 0, 0, "width", side);
  test::setValue(scene, 0, 0, "height", side);
  scene.background.reset();
  return scene;
}
// Light over black, in all.
double energy(const test::FloatFrame& f) {
  double sum = 0;
  for (int y = 0; y < f.height; ++y)
    for (int x = 0; x < f.width; ++x) sum += srgbDecode(std::min(1.0, static_cast<double>(f.at(x, y, 1))));
  return sum;
}

}  // namespace

class TestGlow : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountIsTheSameToTheByte();
  void addsWhatItSays();
  void fallsOffFromTheEdgeOn();
  void whatIsDarkDoesNotShine();
  void lightAloneLeavesThePictureOut();
  void edgesOfWhatIsOpaqueAgreeWithThePlainPath();
  void itsLightIsWhatIsShown_data();
  void itsLightIsWhatIsShown();
};

void TestGlow::noAmountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("gradient", "glow", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

// Over an opaque black, in linear light: as much more light as there was, times the amount.
void TestGlow::addsWhatItSays() {
  Scene pattern = test::stepOn("gradient", "glow", [](const auto& set) {
    set("tint", Colour{1, 1, 1, 1}), set("radius", 24.0), set("threshold", 0.0), set("amount", 0.5);
  });
  test::setValue(pattern, 0, 0, "kind", std::string("radial"));
  test::setValue(pattern, 0, 0, "from", Point{0.5, 0.5});
  test::setValue(pattern, 0, 0, "to", Point{0.6, 0.5});
  test::setStops(pattern, 0, 0, Stops{{0, {0.6f, 0.6f, 0.6f, 1}}, {1, {0, 0, 0, 1}}});
  const double before = energy(test::renderFloat(test::without(pattern), 0));
  const double after = energy(test::renderFloat(pattern, 0));
  QVERIFY2(before > 20 && std::abs(after - 1.5 * before) < 0.05 * before, qPrintable(QStringLiteral("%1, %2").arg(before).arg(after)));
}

void TestGlow::fallsOffFromTheEdgeOn() {
  double reached[2] = {};
  for (const int k : {0, 1}) {
    const auto f = test::renderFloat(lamp([&](const auto& set) { set("falloff", k == 0 ? 0.0 : 1.0); }), 0);
    // Beyond the square there is light where nothing was, less and less of it.
    QVERIFY(f.at(176, 90, 3) > 0.1f);
    for (int x = 176; x < 300; ++x) QVERIFY(f.at(x, 90, 3) <= f.at(x - 1, 90, 3) + 2e-3f);
    QVERIFY(f.at(315, 90, 3) < 0.02f);
    reached[k] = static_cast<double>(f.at(205, 90, 3));
    for (std::size_t i = 0; i < f.rgba.size(); i += 4)
      for (std::size_t c = 0; c < 3; ++c) QVERIFY(f.rgba[i + c] <= f.rgba[i + 3] + 1e-5f);
  }
  QVERIFY2(reached[0] > 1.4 * reached[1], qPrintable(QStringLiteral("%1, %2").arg(reached[0]).arg(reached[1])));
}

void TestGlow::whatIsDarkDoesNotShine() {
  Scene scene = test::stepOn("noise", "glow", [](const auto& set) { set("threshold", 1.0); });
  QVERIFY(test::compare(test::renderFloat(scene, 3), test::renderFloat(test::without(scene), 3)).largest < 2e-3);
  test::setValue(scene, 0, 1, "threshold", 0.2);
  const auto lit = test::renderFloat(scene, 3);
  const auto bare = test::renderFloat(test::without(scene), 3);
  for (std::size_t i = 0; i < lit.rgba.size(); ++i) QVERIFY(lit.rgba[i] > bare.rgba[i] - 2e-3f);
  QVERIFY(test::meanOf(lit, 0) > test::meanOf(bare, 0) + 0.02);
}

void TestGlow::lightAloneLeavesThePictureOut() {
  const auto f = test::renderFloat(lamp([](const auto& set) { set("alone", true), set("amount", 0.0); }), 0);
  for (const float v : f.rgba) QVERIFY(v < 1e-6f);
  const auto lit = test::renderFloat(lamp([](const auto& set) { set("alone", true); }), 0);
  QVERIFY(lit.at(160, 90, 3) > 0.3f && lit.at(160, 90, 3) < 1);
}

// Where opaque pixels, half of one and nothing lie side by side, in any order.
void TestGlow::edgesOfWhatIsOpaqueAgreeWithThePlainPath() {
  // A lamp whose edges lie between pixels, turned.
  Scene scene = lamp([](const auto& set) { set("radius", 40.0); }, 43.4, 160, 90);
  scene.layers[0].place = defaultPlace();
  scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Turn)].base = 20.0;
  test::forEachTarget([&](const char* target) {
    const auto d = test::compare(test::renderFloat(scene, 0), referenceFrame(scene, 0, PlaneView::cover(160, 90, 160, 90)));
    QVERIFY2(d.largest < 0.02 && d.mean < 0.002, qPrintable(QStringLiteral("%1: %2, %3").arg(target).arg(d.largest).arg(d.mean)));
  });
}

void TestGlow::itsLightIsWhatIsShown_data() {
  QTest::addColumn<QString>("source");
  QTest::addColumn<bool>("alone");
  QTest::addColumn<bool>("moves");
  QTest::addColumn<bool>("known");
  QTest::newRow("shape") << QStringLiteral("shape") << false << false << true;
  QTest::newRow("shape that changes") << QStringLiteral("shape") << false << true << true;
  QTest::newRow("light alone") << QStringLiteral("gradient") << true << false << true;
  // What is opaque is kept as it is shown, for it is laid as that.
  QTest::newRow("gradient") << QStringLiteral("gradient") << false << false << false;
  QTest::newRow("gradient that changes") << QStringLiteral("gradient") << false << true << true;
}

// Whether it is kept or made anew for each frame.
void TestGlow::itsLightIsWhatIsShown() {
  QFETCH(QString, source);
  QFETCH(bool, alone);
  QFETCH(bool, moves);
  QFETCH(bool, known);
  Scene scene = test::stepOn(source.toUtf8().constData(), "glow", [&](const auto& set) { set("radius", 60.0), set("alone", alone); });
  scene.linearLight = true;
  if (moves) test::param(scene, 0, 1, "amount").motion = test::turn(1);
  const Plan plan(scene);
  const PlaneView view = PlaneView::cover(scene.width, scene.height, scene.width, scene.height);
  PlaneCache cache(std::size_t{64} << 20);
  for (PlaneCache* const keeps : {static_cast<PlaneCache*>(nullptr), &cache})
    for (std::int64_t frame = 0; frame < 4; ++frame) {
      const Puller puller(plan, keeps, nullptr);
      const auto rows = puller.result(0, view, {frame, scene.frames});
      const auto light = rows->linear();
      QCOMPARE(light != nullptr, known);
      if (!light) continue;
      const Plane shown = wholePlane(*rows, view.width, view.height);
      Plane made = wholePlane(*light, view.width, view.height);
      double most = 0;
      for (int y = 0; y < view.height; ++y) {
        encodeSpan(made.row(y), view.width);
        for (int i = 0; i < view.width * 4; ++i) most = std::max(most, static_cast<double>(std::abs(made.row(y)[i] - shown.row(y)[i])));
      }
      QVERIFY2(most < 2e-6, qPrintable(QString::number(most)));
    }
}

QTEST_GUILESS_MAIN(TestGlow)
#include "tst_glow.moc"
