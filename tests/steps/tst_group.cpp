// Groups as a source: isolated or seen through, their own frames; how they lie in the graph is in core/tst_known_graphs.
#include <QTest>
#include <cmath>

#include "scene/plan.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Layer flat(Colour colour) {
  Layer layer = newLayer(*findStep("flat"), "Flat");
  layer.recipe[0].params[0].base = colour;
  return layer;
}

// Grey, and over it a group of one blue layer that is multiplied.
Scene multiplied() {
  Scene scene = test::oneLayer("group", 40, 24);
  Layer inner = flat({0, 0, 1, 1});
  inner.blend = BlendMode::Multiply;
  scene.layers[0].layers = {inner};
  scene.layers.insert(scene.layers.begin(), flat({0.5f, 0.5f, 0.5f, 1}));
  return scene;
}

}  // namespace

class TestGroup : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void layersBlendThroughAPlainGroup();
  void whatIsDoneToAGroupIsDoneToItAlone();
  void emptyGroupsShowNothing();
  void cutFramesAreTurnedWithTheGroup();
};

void TestGroup::layersBlendThroughAPlainGroup() {
  const auto f = test::renderFloat(multiplied(), 0);
  QVERIFY(std::abs(f.at(5, 5, 2) - 0.5f) < 0.01f && f.at(5, 5, 0) < 0.01f);
  QVERIFY(Plan(multiplied()).at(1).through);
}

void TestGroup::whatIsDoneToAGroupIsDoneToItAlone() {
  // With an opacity of its own it is a picture of its own: blue over nothing is blue.
  Scene scene = multiplied();
  scene.layers[1].opacity.base = 0.999;
  QVERIFY(!Plan(scene).at(1).through);
  QVERIFY(test::renderFloat(scene, 0).at(5, 5, 2) > 0.99f);
  // A step works on all of its layers together.
  Scene stepped = multiplied();
  stepped.layers[1].recipe.push_back(newStep(*findStep("levels")));
  test::setValue(stepped, 1, 1, "invert", true);
  const auto f = test::renderFloat(stepped, 0);
  QVERIFY(f.at(5, 5, 0) > 0.99f && f.at(5, 5, 2) < 0.01f);
}

void TestGroup::emptyGroupsShowNothing() {
  Scene scene = test::oneLayer("group", 20, 12);
  scene.background.reset();
  scene.layers[0].blend = BlendMode::Screen;
  for (const float v : test::renderFloat(scene, 0).rgba) QCOMPARE(v, 0.0f);
}

void TestGroup::cutFramesAreTurnedWithTheGroup() {
  Scene scene = test::oneLayer("group", 100, 100);
  scene.background.reset();
  scene.layers[0].layers = {flat({1, 1, 1, 1})};
  test::setValue(scene, 0, 0, "width", 60.0);
  test::setValue(scene, 0, 0, "height", 40.0);
  test::setValue(scene, 0, 0, "cut", true);
  for (const double turn : {0.0, 30.0, 90.0}) {
    scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Turn)].base = turn;
    const double area = test::meanOf(test::renderFloat(scene, 0), 3) * 100 * 100;
    QVERIFY2(std::abs(area - 60 * 40) < 12, qPrintable(QString::number(area)));
  }
}

QTEST_GUILESS_MAIN(TestGroup)
#include "tst_group.moc"
