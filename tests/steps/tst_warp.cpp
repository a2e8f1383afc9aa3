// Warp by noise: nothing at nothing, how far it bends, edges without bare corners, and bends that come home.
#include <QTest>
#include <cmath>
#include <tuple>

#include "render/reference.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

// Red grows across, green grows down: a colour says where a pixel was read.
Scene places(double amount, const char* edges = "clamp", int width = 200, int height = 120) {
  Scene scene = test::oneLayer("gradient", width, height, 48);
  scene.background.reset();
  test::setValue(scene, 0, 0, "from", Point{0, 0.5});
  test::setValue(scene, 0, 0, "to", Point{1, 0.5});
  test::setValue(scene, 0, 0, "mixing", std::string("display"));
  test::setStops(scene, 0, 0, Stops{{0, {0, 0, 1, 1}}, {1, {1, 0, 1, 1}}});
  test::addStep(scene, "warp");
  test::setValue(scene, 0, 1, "amount", amount);
  test::setValue(scene, 0, 1, "cell", 60.0);
  test::setValue(scene, 0, 1, "edges", std::string(edges));
  return scene;
}

}  // namespace

class TestWarp : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountChangesNothing();
  void pixelsMoveByTheAmount();
  void cornersAreOnlyBareWhenAskedTo();
  void bendsComeHome();
  void flatStaysFlat();
  void wrappedEdgesMeet();
  void whatLiesBeyondIsRead();
};

void TestWarp::noAmountChangesNothing() {
  Scene with = places(0);
  Scene without = with;
  without.layers[0].recipe.pop_back();
  QVERIFY(test::compare(test::renderFloat(with, 3), test::renderFloat(without, 3)).largest < 1e-6);
}

void TestWarp::pixelsMoveByTheAmount() {
  // Red says from which column: the deviation of the shift is the noise's, about 0.116 times four times the amount.
  for (const double amount : {4.0, 12.0}) {
    double sum = 0;
    int count = 0;
    for (int seed = 1; seed <= 6; ++seed) {
      Scene scene = places(amount);
      test::setValue(scene, 0, 1, "seed", static_cast<double>(seed));
      const auto f = test::renderFloat(scene, 0);
      for (int y = 0; y < 120; ++y)
        for (int x = 60; x < 140; ++x) {
          const double moved = f.at(x, y, 0) * 200 - (x + 0.5);
          sum += moved * moved;
          ++count;
        }
    }
    const double deviation = std::sqrt(sum / count);
    QVERIFY2(std::abs(deviation - 4 * 0.116 * amount) < 0.15 * amount, qPrintable(QString::number(deviation / amount)));
  }
}

void TestWarp::cornersAreOnlyBareWhenAskedTo() {
  for (const char* edges : {"clamp", "wrap", "mirror"}) {
    const auto f = test::renderFloat(places(90, edges), 0);
    for (std::size_t i = 3; i < f.rgba.size(); i += 4) QVERIFY2(f.rgba[i] > 0.9999f, edges);
  }
  const auto bare = test::renderFloat(places(90, "transparent"), 0);
  int empty = 0;
  for (std::size_t i = 3; i < bare.rgba.size(); i += 4) empty += bare.rgba[i] < 0.01f;
  QVERIFY(empty > 20);
}

void TestWarp::bendsComeHome() {
  Scene scene = places(30);
  const auto start = test::renderFloat(scene, 0);
  QVERIFY(test::renderFloat(scene, 48).rgba == start.rgba);
  QVERIFY(test::compare(test::renderFloat(scene, 24), start).mean > 0.01);
  const double joint = test::compare(test::renderFloat(scene, 47), start).mean;
  QVERIFY(joint < 2 * test::compare(test::renderFloat(scene, 1), start).mean);
  // At rest where churn is none.
  test::setValue(scene, 0, 1, "churn", 0.0);
  QVERIFY(test::renderFloat(scene, 20).rgba == test::renderFloat(scene, 0).rgba);
}

void TestWarp::flatStaysFlat() {
  Scene scene = test::oneLayer("flat", 90, 50);
  test::addStep(scene, "warp");
  const auto f = test::renderFloat(scene, 0);
  for (std::size_t i = 0; i < f.rgba.size(); ++i) QVERIFY(std::abs(f.rgba[i] - f.rgba[i % 4]) < 1e-6f);
}

void TestWarp::wrappedEdgesMeet() {
  Scene scene = test::oneLayer("noise", 256, 128, 48);
  test::setValue(scene, 0, 0, "cell", 40.0);
  test::addStep(scene, "warp");
  test::setValue(scene, 0, 1, "amount", 12.0);
  test::setValue(scene, 0, 1, "cell", 64.0);
  test::setValue(scene, 0, 1, "edges", std::string("wrap"));
  const auto f = test::renderFloat(scene, 7);
  double inside = 0;
  double across = 0;
  for (int y = 0; y < 128; ++y)
    for (int x = 0; x < 256; ++x) {
      const double right = std::abs(f.at((x + 1) % 256, y, 0) - f.at(x, y, 0));
      (x == 255 ? across : inside) = std::max(x == 255 ? across : inside, right);
    }
  QVERIFY2(across <= inside * 1.02, qPrintable(QStringLiteral("%1, %2").arg(across).arg(inside)));
}

// Pixels at the frame's edges show what a noise has further out, wherever the bends lead: known every few pixels, and at each.
void TestWarp::whatLiesBeyondIsRead() {
  for (const auto& [amount, cell, detail] : {std::tuple{70.0, 90.0, 1.0}, {25.0, 60.0, 3.0}, {12.0, 12.0, 2.0}})
    for (int seed = 1; seed <= 3; ++seed) {
      Scene scene = test::oneLayer("noise", 160, 90, 48);
      test::setValue(scene, 0, 0, "cell", 24.0);
      test::addStep(scene, "warp");
      test::setValue(scene, 0, 1, "amount", amount);
      test::setValue(scene, 0, 1, "cell", cell);
      test::setValue(scene, 0, 1, "detail", detail);
      test::setValue(scene, 0, 1, "edges", std::string("beyond"));
      test::setValue(scene, 0, 1, "seed", static_cast<double>(seed));
      const auto d = test::compare(test::renderFloat(scene, 5), referenceFrame(scene, 5, 160, 90));
      QVERIFY2(d.largest < 0.01, qPrintable(QStringLiteral("amount %1, seed %2: %3").arg(amount).arg(seed).arg(d.largest)));
    }
}

QTEST_GUILESS_MAIN(TestWarp)
#include "tst_warp.moc"
