// What lies below as a source: all of it, within its group, at another moment; more in core/tst_known_graphs.
#include <QTest>

#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Layer named(const char* source, Id id) {
  Layer layer = newLayer(*findStep(source), source);
  layer.id = id;
  return layer;
}

}  // namespace

class TestBelow : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void itShowsBackgroundAndLayers();
  void itAnswersForAnotherMoment();
  void withinAGroupItEndsAtTheGroup();
};

void TestBelow::itShowsBackgroundAndLayers() {
  Scene scene = test::oneLayer("below", 40, 24);
  scene.background = Colour{0.2f, 0.4f, 0.6f, 1};
  scene.layers[0].recipe.push_back(newStep(*findStep("levels")));
  test::setValue(scene, 0, 1, "invert", true);
  QVERIFY(std::abs(test::renderFloat(scene, 0).at(3, 3, 0) - 0.8f) < 0.01f);
}

void TestBelow::itAnswersForAnotherMoment() {
  Scene scene = test::oneLayer("noise", 40, 24, 24);
  const auto later = test::renderFloat(scene, 3 + 6);
  scene.layers.push_back(named("below", 5));
  test::setValue(scene, 1, 0, "start", 0.25);
  QVERIFY(test::renderFloat(scene, 3).rgba == later.rgba);
}

void TestBelow::withinAGroupItEndsAtTheGroup() {
  Scene scene = test::oneLayer("noise", 40, 24);
  Layer group = named("group", 5);
  Layer glass = named("below", 6);
  glass.recipe.push_back(newStep(*findStep("levels")));
  glass.recipe[1].params[static_cast<std::size_t>(findParam(glass.recipe[1].spec->params, "invert"))].base = true;
  group.layers = {glass};
  const auto bare = test::renderFloat(scene, 2);
  scene.layers.push_back(group);
  QVERIFY(test::renderFloat(scene, 2).rgba == bare.rgba);
}

QTEST_GUILESS_MAIN(TestBelow)
#include "tst_below.moc"
