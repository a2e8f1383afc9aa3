// Trails: nothing at nothing, the past is that of the loop, each fainter and further on, never an unfilled beginning.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

namespace {

// A small square that goes across the frame once.
Scene running(const test::SetUp& setUp) {
  Scene scene = test::stepOn("shape", "trails", [&](const auto& set) {
    set("moved", Point{0, 0}), set("count", 3.0), set("every", 2.0), set("fade", 0.5), set("blend", std::string("behind"));
    if (setUp) setUp(set);
  });
  test::setValue(scene, 0, 0, "width", 8.0);
  test::setValue(scene, 0, 0, "height", 8.0);
  test::setValue(scene, 0, 0, "corner", 0.0);
  test::setValue(scene, 0, 0, "centre", Point{0.2, 0.5});
  test::param(scene, 0, 0, "centre").motion = test::swing(Point{0.8, 0.5});
  scene.background.reset();
  return scene;
}

}  // namespace

class TestTrails : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noCountIsTheSameToTheByte();
  void thePastIsThatOfTheLoop();
  void atRestItIsAsItWas();
  void movedAndTurnedOn();
  void mixedKeepsItsSum();
};

void TestTrails::noCountIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "trails", [](const auto& set) { set("count", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestTrails::thePastIsThatOfTheLoop() {
  const Scene scene = running({});
  // In the first frame too: what was before it came at the end of the loop.
  for (const int k : {0, 1, 5, 13}) {
    const auto f = test::renderFloat(scene, k);
    std::vector<float> open(f.rgba.size() / 4, 1.0f);
    std::vector<float> sum(f.rgba.size() / 4, 0.0f);
    for (int back = 0; back <= 3; ++back) {
      const auto then = test::renderFloat(test::without(scene), k - 2 * back);
      for (std::size_t i = 0; i < sum.size(); ++i) sum[i] += (1 - sum[i]) * then.rgba[i * 4 + 3] * std::pow(0.5f, static_cast<float>(back));
    }
    for (std::size_t i = 0; i < sum.size(); ++i) QVERIFY(std::abs(sum[i] - f.rgba[i * 4 + 3]) < 2e-3f);
  }
}

void TestTrails::atRestItIsAsItWas() {
  for (const char* blend : {"lighter", "mixed"}) {
    Scene scene = test::stepOn("gradient", "trails", [&](const auto& set) { set("moved", Point{0, 0}), set("blend", std::string(blend)); });
    for (Param& p : scene.layers[0].recipe[0].params) p.motion = Motion();
    QVERIFY(test::compare(test::renderFloat(scene, 3), test::renderFloat(test::without(scene), 3)).largest < 1e-5);
  }
}

void TestTrails::movedAndTurnedOn() {
  Scene scene = running([](const auto& set) {
    set("moved", Point{30, 20}), set("count", 1.0), set("every", 0.0), set("turned", 90.0), set("centre", Point{0.2, 0.5});
  });
  test::param(scene, 0, 0, "centre").motion = Motion();
  test::setValue(scene, 0, 0, "width", 20.0);
  const auto f = test::renderFloat(scene, 0);
  // The square lies at (64, 90); its past at (94, 110), upright where it was lying.
  QVERIFY(f.at(64, 90, 3) == 1 && std::abs(f.at(94, 110, 3) - 0.5f) < 0.01f && std::abs(f.at(94, 118, 3) - 0.5f) < 0.02f &&
          f.at(102, 110, 3) < 0.02f);
}

void TestTrails::mixedKeepsItsSum() {
  const Scene scene = running([](const auto& set) { set("blend", std::string("mixed")); });
  const auto f = test::renderFloat(scene, 6);
  QVERIFY(std::abs(test::meanOf(f, 3) - test::meanOf(test::renderFloat(test::without(scene), 6), 3)) < 2e-5);
}

QTEST_GUILESS_MAIN(TestTrails)
#include "tst_trails.moc"
