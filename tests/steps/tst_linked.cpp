// Linked copies as a source: of whatever kind the layer is, also of copies; more in core/tst_known_graphs.
#include <QTest>

#include "scene/plan.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Layer linkedTo(Id target, Id id) {
  Layer layer = newLayer(*findStep("linked"), "Copy");
  layer.id = id;
  layer.recipe[0].params[0].base = static_cast<double>(target);
  return layer;
}

}  // namespace

class TestLinked : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void aCopyOfACopyShowsTheSame();
  void headStartsAddUp();
  void copiesRepeatAsOftenAsTheirLayer();
};

void TestLinked::aCopyOfACopyShowsTheSame() {
  for (const char* source : {"noise", "gradient", "shape", "points"}) {
    Scene scene = test::oneLayer(source, 64, 36);
    scene.layers[0].id = 1;
    const auto own = test::renderFloat(scene, 5);
    scene.layers[0].visible = false;
    scene.layers.push_back(linkedTo(1, 2));
    scene.layers.back().visible = false;
    scene.layers.push_back(linkedTo(2, 3));
    QVERIFY2(test::renderFloat(scene, 5).rgba == own.rgba, source);
  }
}

void TestLinked::headStartsAddUp() {
  Scene scene = test::oneLayer("noise", 64, 36, 24);
  scene.layers[0].id = 1;
  const auto ahead = test::renderFloat(scene, 5 + 6 + 8);
  scene.layers[0].visible = false;
  scene.layers.push_back(linkedTo(1, 2));
  test::setValue(scene, 1, 0, "start", 0.25);
  scene.layers.back().visible = false;
  scene.layers.push_back(linkedTo(2, 3));
  test::setValue(scene, 2, 0, "start", 1.0 / 3);
  QVERIFY(test::renderFloat(scene, 5).rgba == ahead.rgba);
}

void TestLinked::copiesRepeatAsOftenAsTheirLayer() {
  Scene scene = test::oneLayer("noise", 64, 36, 24);
  scene.layers[0].id = 1;
  scene.layers[0].visible = false;
  for (auto& param : scene.layers[0].recipe[0].params)
    if (param.motion.moves()) param.motion.laps = 4;
  scene.layers.push_back(linkedTo(1, 2));
  QCOMPARE(distinctFrames(scene), std::int64_t{6});
}

QTEST_GUILESS_MAIN(TestLinked)
#include "tst_linked.moc"
