// The renderer: a pure function of scene, frame and size, whatever the threads, the SIMD target and the path.
#include <QTest>
#include <algorithm>
#include <cmath>

#include "check/joint.h"
#include "graph/composite.h"
#include "graph/plane_cache.h"
#include "graph/puller.h"
#include "image/sampling.h"
#include "image/transfer.h"
#include "render/reference.h"
#include "scene/tree.h"
#include "support/graphs.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

Q_DECLARE_METATYPE(oa::Scene)

class TestRenderer : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void demoScenes_data();
  void frameNIsFrameZero_data() { demoScenes_data(); }
  void frameNIsFrameZero();
  void threadsChangeNothing_data() { demoScenes_data(); }
  void threadsChangeNothing();
  void keepingChangesNothing_data() { demoScenes_data(); }
  void keepingChangesNothing();
  void targetsAgree_data() { demoScenes_data(); }
  void targetsAgree();
  void theReferenceAgrees_data() { demoScenes_data(); }
  void theReferenceAgrees();
  void halfSizeLooksLikeFullSize_data() { demoScenes_data(); }
  void halfSizeLooksLikeFullSize();
  void linearLightAgreesToo();
  void lightIsWhatPicturesShow_data();
  void lightIsWhatPicturesShow();
  void hiddenAndClearLayersDoNotCount();
  void transparentScenesStayTransparent();
  void otherProportionsAreCutNotDistorted();
  void oddSizesAreFilled();
  void ditherIsFixedAndFair();
  void cancellingReturnsEarly();
  void videoLevelsAreBt709();
};

void TestRenderer::demoScenes_data() {
  QTest::addColumn<QString>("path");
  for (const auto& path : test::demoScenePaths()) {
    const QString whole = QString::fromStdString(path);
    QTest::newRow(qPrintable(whole.section('/', -1))) << whole.section('/', -1);
  }
}

void TestRenderer::frameNIsFrameZero() {
  QFETCH(QString, path);
  const Scene scene = test::demoScene(path.toStdString());
  for (const std::int64_t k : {0, 7}) {
    const auto here = test::renderFloat(scene, k, 320, 180);
    for (const std::int64_t around : {1, -2, 1000})
      QVERIFY(test::renderFloat(scene, k + around * scene.frames, 320, 180).rgba == here.rgba);
  }
}

void TestRenderer::threadsChangeNothing() {
  QFETCH(QString, path);
  const Scene scene = test::demoScene(path.toStdString());
  const auto one = test::renderFloat(scene, 17, 333, 187, 1);
  QVERIFY(test::allFinite(one));
  for (const int threads : {2, 3, 8}) QVERIFY(test::renderFloat(scene, 17, 333, 187, threads).rgba == one.rgba);
}

void TestRenderer::keepingChangesNothing() {
  QFETCH(QString, path);
  const Scene scene = test::demoScene(path.toStdString());
  RenderOptions options;
  options.manyFrames = true;
  Renderer keeping(scene, 240, 135, options);
  for (const std::int64_t k : {3, 0, 100, 3}) {
    Frame8 kept;
    renderInto(keeping, k, Alpha::Straight, kept);
    QVERIFY(kept.rgba == frame(scene, k, 240, 135).rgba);
  }
}

void TestRenderer::targetsAgree() {
  QFETCH(QString, path);
  const Scene scene = test::demoScene(path.toStdString());
  const auto best = test::renderFloat(scene, 11, 203, 117);
  int targets = 0;
  test::forEachTarget([&](const char* target) {
    ++targets;
    const auto d = test::compare(test::renderFloat(scene, 11, 203, 117), best);
    // Steep tones make much of the last bits of a coordinate, so single pixels may differ a little more.
    QVERIFY2(d.largest < 0.02 && d.mean < 1e-4,
             qPrintable(QStringLiteral("%1: %2 %3").arg(QLatin1String(target)).arg(d.largest).arg(d.mean)));
  });
  QVERIFY(targets >= 1);
}

void TestRenderer::theReferenceAgrees() {
  QFETCH(QString, path);
  Scene scene = test::demoScene(path.toStdString());
  // What shows another layer within what it makes has no plain path.
  const Plan plan(scene);
  forEachLayer(scene.layers, [&](Layer& layer, int) {
    if (layer.recipe.front().spec->reads == SourceReads::Stamp && plan.at(plan.indexOf(layer.id)).target >= 0) layer.visible = false;
  });
  const int width = 96;
  const int height = 54;
  const auto fast = test::renderFloat(scene, 23, width, height);
  const auto plain = referenceFrame(scene, 23, width, height);
  const auto d = test::compare(fast, plain);
  // Wide blurs are approximations of a true Gaussian; see docs/performance.md for the measured error.
  QVERIFY2(d.largest < 0.03, qPrintable(QString::number(d.largest)));
  QVERIFY2(d.mean < 0.003, qPrintable(QString::number(d.mean)));
}

void TestRenderer::halfSizeLooksLikeFullSize() {
  QFETCH(QString, path);
  const Scene scene = test::demoScene(path.toStdString());
  const auto d = test::compare(test::halved(test::renderFloat(scene, 5, 960, 540)), test::renderFloat(scene, 5, 480, 270));
  QVERIFY2(d.mean < 0.006, qPrintable(QString::number(d.mean)));
}

void TestRenderer::linearLightAgreesToo() {
  Scene scene = test::demoScene("sea-fog.overagain");
  const auto display = test::renderFloat(scene, 23, 96, 54);
  scene.linearLight = true;
  const auto fast = test::renderFloat(scene, 23, 96, 54);
  QVERIFY(test::compare(fast, referenceFrame(scene, 23, 96, 54)).largest < 0.03);
  QVERIFY(test::compare(fast, display).mean > 0.002);  // and it is something else
}

// Layers that know what they are in light, against what is decoded.
void TestRenderer::lightIsWhatPicturesShow_data() {
  QTest::addColumn<Scene>("scene");
  for (const char* name : {"brass-band-levels", "hero-words", "lamp-room", "old-chart", "pennant-wall", "tide-lines"})
    QTest::newRow(name) << test::demoScene(std::string(name) + ".overagain");
  for (unsigned seed = 1; seed <= 40; ++seed) QTest::addRow("graph %u", seed) << test::randomGraph(seed);
}

void TestRenderer::lightIsWhatPicturesShow() {
  QFETCH(Scene, scene);
  // What is shown of a wide blur is worked out every few pixels, and its light is not: tst_blur holds both against a true Gaussian.
  std::vector<float> most;
  const auto pictures = [&](bool light) {
    scene.linearLight = light;
    most.clear();
    const Plan plan(scene);
    PlaneCache cache(std::size_t{64} << 20);
    const Puller puller(plan, &cache, nullptr);
    const PlaneView view = PlaneView::cover(scene.width, scene.height, 272, 153);
    std::vector<Plane> made;
    // The third time what is kept is kept.
    for (const std::int64_t k : {0, 1, 2})
      for (int i = 0; i < static_cast<int>(plan.layers().size()); ++i) {
        const Layer& layer = *plan.at(i).layer;
        if (layer.recipe.front().spec->reads != SourceReads::Nothing || layer.mask) continue;
        std::shared_ptr<const RowMaker> rows = puller.alone(i, view, {k, scene.frames});
        if (light) rows = rows->linear();
        const bool blurs = std::any_of(layer.recipe.begin(), layer.recipe.end(), [](const RecipeStep& s) { return s.spec->id == "blur"; });
        most.push_back(blurs ? 5e-5F : 1e-5F);
        made.push_back(wholePlane(*rows, view.width, view.height));
        for (int y = 0; y < view.height && light; ++y) encodeSpan(made.back().row(y), view.width);
      }
    return made;
  };
  const auto display = pictures(false);
  const auto light = pictures(true);
  QCOMPARE(light.size(), display.size());
  for (std::size_t i = 0; i < light.size(); ++i) {
    float off = 0;
    for (int y = 0; y < light[i].height(); ++y)
      for (int x = 0; x < light[i].width() * 4; ++x) off = std::max(off, std::abs(light[i].row(y)[x] - display[i].row(y)[x]));
    QVERIFY2(off < most[i], qPrintable(QStringLiteral("%1: %2").arg(i).arg(static_cast<double>(off))));
  }
}

void TestRenderer::hiddenAndClearLayersDoNotCount() {
  Scene scene = test::oneLayer("gradient");
  const auto alone = test::renderFloat(scene, 0);
  scene.layers.push_back(newLayer(*findStep("noise"), "hidden"));
  scene.layers.back().visible = false;
  QVERIFY(test::renderFloat(scene, 0).rgba == alone.rgba);
  scene.layers.back().visible = true;
  scene.layers.back().opacity.base = 0.0;
  QVERIFY(test::renderFloat(scene, 0).rgba == alone.rgba);
  scene.layers.back().opacity.base = 1.0;
  QVERIFY(test::renderFloat(scene, 0).rgba != alone.rgba);
}

void TestRenderer::transparentScenesStayTransparent() {
  Scene scene = test::oneLayer("flat");
  scene.background.reset();
  test::setValue(scene, 0, 0, "colour", Colour{1, 0.5f, 0, 0.25f});
  const auto f = test::renderFloat(scene, 0);
  QVERIFY(std::abs(f.at(3, 3, 3) - 0.25) < 1e-6 && std::abs(f.at(3, 3, 0) - 0.25) < 1e-6);
  // Straight bytes carry the colour undivided; premultiplied ones the product.
  QCOMPARE(int{frame(scene, 0, 16, 16, Alpha::Straight).rgba[0]}, 255);
  QVERIFY(std::abs(frame(scene, 0, 16, 16, Alpha::Premultiplied).rgba[0] - 64) <= 1);
  scene.layers.clear();
  for (const float v : test::renderFloat(scene, 0, 20, 20).rgba) QCOMPARE(v, 0.0f);
}

void TestRenderer::otherProportionsAreCutNotDistorted() {
  // A square export of a wide scene shows its middle: the same pixels as the middle of the wide one.
  const Scene scene = test::demoScene("dusk.overagain");
  const auto wide = test::renderFloat(scene, 0, 480, 270);
  const auto square = test::renderFloat(scene, 0, 270, 270);
  double worst = 0;
  for (int y = 0; y < 270; ++y)
    for (int x = 0; x < 270; ++x) worst = std::max(worst, static_cast<double>(std::abs(square.at(x, y, 1) - wide.at(x + 105, y, 1))));
  // Blurs see a nearer edge, so a little is allowed.
  QVERIFY2(worst < 0.08, qPrintable(QString::number(worst)));
}

void TestRenderer::oddSizesAreFilled() {
  const Scene scene = test::demoScene("stage-screen.overagain");
  for (const auto& [w, h] : {std::pair{1, 1}, {2, 1}, {1, 64}, {17, 3}, {63, 65}, {257, 5}, {513, 33}}) {
    const auto f = test::renderFloat(scene, 1, w, h);
    QVERIFY(test::allFinite(f));
    for (std::size_t i = 3; i < f.rgba.size(); i += 4) QVERIFY(f.rgba[i] > 0.999f);
  }
}

void TestRenderer::ditherIsFixedAndFair() {
  Scene scene = test::oneLayer("flat", 256, 256);
  // 100.25 of 255: a quarter of the pixels is 101, whatever the frame, and the mean is kept.
  const float v = 100.25f / 255;
  test::setValue(scene, 0, 0, "colour", Colour{v, v, v, 1});
  const Frame8 a = frame(scene, 0, 256, 256);
  QVERIFY(a.rgba == frame(scene, 13, 256, 256).rgba);
  double sum = 0;
  for (std::size_t i = 0; i < a.rgba.size(); i += 4) {
    QVERIFY(a.rgba[i] == 100 || a.rgba[i] == 101);
    sum += a.rgba[i];
  }
  QVERIFY(std::abs(sum / 65536 - 100.25) < 0.01);
  // What 8 bits hold exactly is left as it is.
  test::setValue(scene, 0, 0, "colour", Colour{10.0f / 255, 128.0f / 255, 1, 1});
  const Frame8 exact = frame(scene, 0, 64, 64);
  for (std::size_t i = 0; i < exact.rgba.size(); i += 4)
    QVERIFY(exact.rgba[i] == 10 && exact.rgba[i + 1] == 128 && exact.rgba[i + 2] == 255);
}

void TestRenderer::cancellingReturnsEarly() {
  const std::atomic<bool> cancel = true;
  RenderOptions options;
  options.cancel = &cancel;
  Renderer renderer(test::demoScene("stage-screen.overagain"), 64, 64, options);
  Frame8 f;
  f.rgba.assign(64 * 64 * 4, 77);
  renderInto(renderer, 0, Alpha::Straight, f);
  QCOMPARE(std::count(f.rgba.begin(), f.rgba.end(), 77), std::ptrdiff_t{64 * 64 * 4});
}

void TestRenderer::videoLevelsAreBt709() {
  // ITU-R BT.709-6, 8-bit limited range: Y = 16 + 219 (0.2126 R + 0.7152 G + 0.0722 B), chroma about 128.
  Scene scene = test::oneLayer("flat", 64, 64);
  for (const Colour& c : {Colour{0, 0, 0, 1}, {1, 1, 1, 1}, {1, 0, 0, 1}, {0, 1, 0, 1}, {0, 0, 1, 1}, {0.2f, 0.6f, 0.4f, 1}}) {
    test::setValue(scene, 0, 0, "colour", c);
    Renderer renderer(scene, 64, 64);
    FrameYuv f;
    renderInto(renderer, 0, false, f);
    const double luma = 0.2126 * c.r + 0.7152 * c.g + 0.0722 * c.b;
    const auto mean = [](const std::vector<std::uint8_t>& plane) {
      double sum = 0;
      for (const std::uint8_t v : plane) sum += v;
      return sum / static_cast<double>(plane.size());
    };
    QVERIFY(std::abs(mean(f.y) - (16 + 219 * luma)) < 0.15);
    const double u = 128 + 224 * (c.b - luma) / 1.8556;
    const double v = 128 + 224 * (c.r - luma) / 1.5748;
    QVERIFY2(std::abs(mean(f.u) - u) < 0.15 && std::abs(mean(f.v) - v) < 0.15,
             qPrintable(QStringLiteral("%1 %2, not %3 %4").arg(mean(f.u)).arg(mean(f.v)).arg(u).arg(v)));
    QVERIFY(f.alpha.empty());
  }
}

QTEST_GUILESS_MAIN(TestRenderer)
#include "tst_renderer.moc"
