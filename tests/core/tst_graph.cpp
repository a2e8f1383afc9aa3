// The graph: hundreds of random scenes, what is kept of them, and what is refused.
#include <QTest>

#include "graph/puller.h"
#include "render/reference.h"
#include "scene/plan.h"
#include "scene/scene_json.h"
#include "scene/tree.h"
#include "support/graphs.h"
#include "support/known_graphs.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;
using namespace oa::test;

class TestGraph : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void randomGraphsCloseAndDoNotDependOnThreads();
  void randomGraphsAgreeWithThePlainPath();
  void randomGraphsAreSavedWhole();
  void partsOfRandomGraphsFitTogether();
  void keepingChangesNothing();
  void theCacheKeepsWhatIsWantedAgainWithinItsBudget();
  void whatNobodyFindsIsForgotten();
  void whatOneHasMadeTheOtherFinds();
  void circlesAreRefusedByName();
  void tanglesAreRefused();
  void missingLayersShowNothing();
  void repeatsAreCounted();
  void whatIsNeverFoundAgainIsNotKept();
};

void TestGraph::randomGraphsCloseAndDoNotDependOnThreads() {
  for (unsigned seed = 1; seed <= 150; ++seed) {
    const Scene scene = test::randomGraph(seed);
    const auto first = test::renderFloat(scene, 0);
    QVERIFY2(test::allFinite(first), qPrintable(QString::number(seed)));
    QVERIFY2(test::renderFloat(scene, scene.frames).rgba == first.rgba, qPrintable(QString::number(seed)));
    const int k = static_cast<int>(seed) % scene.frames;
    QVERIFY2(test::renderFloat(scene, k, 64, 36, 1).rgba == test::renderFloat(scene, k, 64, 36, 2).rgba, qPrintable(QString::number(seed)));
  }
}

void TestGraph::randomGraphsAgreeWithThePlainPath() {
  int visible = 0;
  for (unsigned seed = 1; seed <= 60; ++seed) {
    test::GraphWishes wishes;
    wishes.width = 40;
    wishes.height = 24;
    wishes.layers = 5;
    const Scene scene = test::randomGraph(seed, wishes);
    const int k = static_cast<int>(seed * 7) % scene.frames;
    const auto fast = test::renderFloat(scene, k);
    const auto plain = referenceFrame(scene, k, scene.width, scene.height);
    const auto d = test::compare(fast, plain);
    // Hard edges that are turned and softened again differ by how their pixels are read: few pixels, not many.
    if (d.mean >= 0.006) {
      test::FloatFrame expected{scene.width, scene.height, {}};
      for (const auto& p : plain)
        for (const double v : p) expected.rgba.push_back(static_cast<float>(v));
      test::writeEvidence("evidence/graph" + std::to_string(seed), expected, fast);
    }
    QVERIFY2(d.mean < 0.006, qPrintable(QStringLiteral("seed %1: largest %2, mean %3").arg(seed).arg(d.largest).arg(d.mean)));
    visible += test::deviationOf(fast, 0) > 0.01;
  }
  QVERIFY(visible > 30);  // they do show something
}

void TestGraph::randomGraphsAreSavedWhole() {
  for (unsigned seed = 1; seed <= 150; ++seed) {
    const Scene scene = test::randomGraph(seed);
    const std::string text = sceneToText(scene);
    const auto again = sceneFromText(text);
    QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
    QCOMPARE(sceneToText(*again), text);
    if (seed % 5 == 0) QVERIFY(test::compare(test::renderFloat(*again, 5), test::renderFloat(scene, 5)).mean < 0.004);
  }
}

void TestGraph::partsOfRandomGraphsFitTogether() {
  for (unsigned seed = 1; seed <= 60; ++seed) {
    const Scene scene = test::randomGraph(seed);
    PlaneView whole = PlaneView::cover(64, 36, 64, 36).grown(20);
    whole.scale = seed % 2 ? 1 : 1.6;
    const auto all = test::renderFloat(scene, 3, whole);
    for (const auto& [x, y, w, h] : {std::array{7, 5, 50, 40}, {60, 30, 44, 46}}) {
      const auto d = test::compare(test::renderFloat(scene, 3, whole.part(x, y, w, h)), test::cut(all, x, y, w, h));
      QVERIFY2(d.mean < 0.003, qPrintable(QStringLiteral("seed %1: largest %2, mean %3").arg(seed).arg(d.largest).arg(d.mean)));
    }
  }
}

void TestGraph::keepingChangesNothing() {
  RenderOptions options;
  options.manyFrames = true;
  for (unsigned seed = 1; seed <= 80; ++seed) {
    Scene scene = test::randomGraph(seed);
    // Hardly the last bit of a float: of what is decoded and encoded once more several go.
    for (const bool light : {false, true}) {
      scene.linearLight = light;
      Renderer keeping(scene, 64, 36, options);
      for (const std::int64_t k : {3, 0, 11, 3, 4, 3, 0})
        QVERIFY2(test::compare(test::renderFloat(keeping, k), test::renderFloat(scene, k, 64, 36)).largest < 2.5e-7,
                 qPrintable(QStringLiteral("seed %1, frame %2%3").arg(seed).arg(k).arg(light ? " in light" : "")));
    }
  }
}

void TestGraph::theCacheKeepsWhatIsWantedAgainWithinItsBudget() {
  PlaneCache cache(1000);
  const auto key = [](Id layer, double left = 0) {
    PlaneKey k{layer, 1, 0, {}};
    k.view.left = left;
    return k;
  };
  // The first time says nothing, another view is another picture.
  QVERIFY(!cache.wantedAgain(key(1), 8) && cache.wantedAgain(key(1), 8));
  QVERIFY(!cache.wantedAgain(key(1, 0.5), 8));
  const auto rows = [] { return nothingRows(4); };
  for (Id i = 1; i <= 3; ++i) cache.put(key(i), rows(), 400, 1000);
  QCOMPARE(cache.bytes(), std::size_t{800});
  QVERIFY(!cache.find(key(1)) && cache.find(key(2)) && cache.find(key(3)));
  // What was asked for last stays longest.
  QVERIFY(cache.find(key(2)));
  cache.put(key(4), rows(), 400, 1000);
  QVERIFY(cache.find(key(2)) && !cache.find(key(3)) && cache.find(key(4)));
  cache.put(key(5), rows(), 1001, 1000);
  QVERIFY(!cache.find(key(5)) && cache.bytes() <= 1000);
  // A view that moves asks for another picture every time: none of them is kept.
  for (int i = 0; i < 5000; ++i) QVERIFY(!cache.wantedAgain(key(9, i + 1), 8));
}

void TestGraph::whatNobodyFindsIsForgotten() {
  PlaneCache cache(1000);
  const auto key = [](Id layer) { return PlaneKey{layer, 1, 0, PlaneView()}; };
  QVERIFY(!cache.wantedAgain(key(1), 8));
  cache.put(key(2), nothingRows(4), 100, 3);
  cache.put(key(3), nothingRows(4), 100, 5);
  const auto pass = [&](int frames) {
    for (int i = 0; i < frames; ++i) cache.beginFrame();
  };
  pass(3);
  // What is found stays as long again.
  QVERIFY(cache.find(key(2)));
  pass(3);
  QVERIFY(cache.find(key(2)) && !cache.find(key(3)));
  QCOMPARE(cache.bytes(), std::size_t{100});
  pass(4);
  QVERIFY(!cache.find(key(2)));
  QCOMPARE(cache.bytes(), std::size_t{0});
  // Asked for ten frames ago: that is not soon, but it was asked for just now.
  QVERIFY(!cache.wantedAgain(key(1), 8));
  pass(8);
  QVERIFY(cache.wantedAgain(key(1), 8));
  pass(9);
  QVERIFY(cache.wantedAgain(key(1), 9));
}

// Two renderers of one scene.
void TestGraph::whatOneHasMadeTheOtherFinds() {
  Scene scene = test::oneLayer("gradient", 64, 36, 12);
  (void)test::addStep(scene, "blur");
  const auto cache = std::make_shared<PlaneCache>(std::size_t{1} << 24);
  RenderOptions options;
  options.manyFrames = true;
  options.planes = cache;
  const auto made = [&](Renderer& renderer, int k) {
    Frame8 frame;
    renderInto(renderer, k, Alpha::Straight, frame);
    return frame.rgba;
  };
  Renderer one(scene, 64, 36, options);
  for (int k = 0; k < 3; ++k) QCOMPARE(made(one, k), frame(scene, k, 64, 36).rgba);
  const std::size_t bytes = cache->bytes();
  QVERIFY(bytes > 0);
  Renderer other(scene, 64, 36, options);
  for (int k = 0; k < 12; ++k) QCOMPARE(made(other, k), frame(scene, k, 64, 36).rgba);
  QCOMPARE(cache->bytes(), bytes);
}

void TestGraph::circlesAreRefusedByName() {
  // A copy of the group that it lies in.
  const Scene inside = sceneOf({grouped({square(1), linkedTo(3, 2, "Echo")}, 3, "Lamps")});
  const Plan plan(inside);
  QCOMPARE(plan.circles().size(), std::size_t{1});
  QVERIFY2(plan.circles()[0].find("\"Lamps\"") != std::string::npos && plan.circles()[0].find("\"Echo\"") != std::string::npos,
           plan.circles()[0].c_str());
  QVERIFY(!plan.status());
  // Two copies of each other, and a layer that shows what lies below while that shows it.
  QVERIFY(!Plan(sceneOf({linkedTo(2, 1, "A"), linkedTo(1, 2, "B")})).status());
  QVERIFY(!Plan(sceneOf({linkedTo(2, 1, "A"), made("below", "B", 2)})).status());
  Layer masked = square(1);
  masked.mask = newMask(*findStep("linked"));
  masked.mask->source.params[0].base = 1.0;
  QVERIFY(!Plan(sceneOf({masked})).status());
  // In files as well; and what is made of it all the same ends.
  const auto read = sceneFromText(sceneToText(inside));
  QVERIFY(!read);
  QVERIFY2(read.error().sentence().find("Echo") != std::string::npos, read.error().sentence().c_str());
  QVERIFY(test::allFinite(test::renderFloat(inside, 0)));
  QVERIFY(test::allFinite(test::renderFloat(sceneOf({linkedTo(2, 1, "A"), made("below", "B", 2)}), 0)));
  // Any link of any scene that would close one.
  int refused = 0;
  for (unsigned seed = 1; seed <= 200; ++seed) {
    Scene scene = test::randomGraph(seed);
    const auto ids = allIds(scene);
    Layer& layer = *findLayer(scene, ids[seed % ids.size()]);
    if (layer.isGroup()) continue;
    layer.recipe[0] = linkedTo(ids[(seed * 5) % ids.size()], 0).recipe[0];
    const Plan tied(scene);
    if (tied.circles().empty()) continue;
    ++refused;
    QVERIFY(!sceneFromText(sceneToText(scene)));
    QVERIFY2(tied.circles()[0].find("\"" + layer.name + "\"") != std::string::npos, tied.circles()[0].c_str());
    QVERIFY(test::allFinite(test::renderFloat(scene, 0)));
  }
  QVERIFY(refused > 20);
}

void TestGraph::tanglesAreRefused() {
  // Every group shows the one before twice: 2^30 squares.
  std::vector<Layer> layers{square(1)};
  for (Id id = 2; id < 92; id += 3) {
    const Id before = layers.back().id;
    layers.push_back(grouped({linkedTo(before, id), linkedTo(before, id + 1)}, id + 2));
  }
  const auto status = Plan(sceneOf(layers)).status();
  QVERIFY(!status);
  QVERIFY2(status.error().message.find("show each other so often") != std::string::npos, status.error().message.c_str());
  QVERIFY(!sceneFromText(sceneToText(sceneOf(layers))));
}

void TestGraph::missingLayersShowNothing() {
  const Scene scene = sceneOf({square(1), linkedTo(77, 2, "Echo")});
  const Plan plan(scene);
  QVERIFY(plan.status());
  QCOMPARE(plan.missing().size(), std::size_t{1});
  QVERIFY(plan.missing()[0].find("Echo") != std::string::npos);
  QCOMPARE(redBox(test::renderFloat(scene, 0)), QRect(40, 20, 20, 20));
  const auto again = sceneFromText(sceneToText(scene));
  QVERIFY(again);
  QCOMPARE(std::get<double>(again->layers[1].recipe[0].params[0].base), 77.0);
}

// What the plan says of repeats is so: frames that it calls equal are equal to the byte.
void TestGraph::repeatsAreCounted() {
  int repeating = 0;
  for (unsigned seed = 1; seed <= 120; ++seed) {
    const Scene scene = test::randomGraph(seed);
    const auto distinct = distinctFrames(scene);
    QVERIFY(distinct >= 1 && scene.frames % distinct == 0);
    if (distinct == scene.frames) continue;
    ++repeating;
    for (const int k : {1, 5})
      QVERIFY2(test::renderFloat(scene, k + distinct).rgba == test::renderFloat(scene, k).rgba, qPrintable(QString::number(seed)));
  }
  QVERIFY(repeating >= 3);
}

void TestGraph::whatIsNeverFoundAgainIsNotKept() {
  PlaneCache cache(std::size_t{1} << 20);
  const auto key = [](Id layer, std::int64_t frame) { return PlaneKey{layer, 1, frame, PlaneView()}; };
  const auto kept = [&](Id layer, bool findAgain) {
    int count = 0;
    for (std::int64_t k = 0; k < 400; ++k) {
      if (!cache.worthKeeping(layer)) continue;
      cache.put(key(layer, k), nothingRows(4), 16, 1000);
      if (findAgain && !cache.find(key(layer, k))) return -1;
      ++count;
    }
    return count;
  };
  // One that is found stays; one that never is only now and then, and each layer for itself.
  QCOMPARE(kept(1, true), 400);
  const int never = kept(2, false);
  QVERIFY2(never >= 32 && never < 100, qPrintable(QString::number(never)));
  QVERIFY(cache.worthKeeping(1));
  // However many come and go, they do not fill the memory: each takes the place of one before it.
  const std::size_t full = cache.bytes();
  QVERIFY2(full <= (400 + 33) * 16, qPrintable(QString::number(full)));
  for (std::int64_t k = 1000; k < 9000; ++k)
    if (cache.worthKeeping(2)) cache.put(key(2, k), nothingRows(4), 16, 1000);
  QVERIFY2(cache.bytes() <= full, qPrintable(QString::number(cache.bytes())));
  for (std::int64_t k = 0; k < 400; ++k) QVERIFY(cache.find(key(1, k)));
  // The last of them is there all the same, and once they are found again they are kept again.
  std::int64_t last = 9000;
  while (!cache.worthKeeping(2)) ++last;
  cache.put(key(2, last), nothingRows(4), 16, 1000);
  QVERIFY(cache.find(key(2, last)));
  for (std::int64_t k = 10000; k < 14000; ++k)
    if (cache.worthKeeping(2)) {
      cache.put(key(2, k), nothingRows(4), 16, 1000);
      QVERIFY(cache.find(key(2, k)));
    }
  QVERIFY(kept(2, true) > 300);
}

QTEST_GUILESS_MAIN(TestGraph)
#include "tst_graph.moc"
