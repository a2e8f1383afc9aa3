// Playing and editing: the cache, the rate, and a window that is never busy. No test here fails by the clock of a
// slow machine alone: times are compared with each other or given ten times the room they need.
#include <QListWidget>
#include <QTest>

#include "render/frames.h"
#include "support/hands.h"
#include "widgets/value_slider.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;

class TestPlayback : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void theCacheHoldsTheLoop();
  void theCacheIsWhatTheRendererMakes();
  void playingIsAtTheScenesRate();
  void anEditShowsAndSharpens();
  void draggingKeepsShowingPictures();
  void shortLapsAreRenderedOnce();
  void longLoopsStayWithinTheBudget();
};

void TestPlayback::theCacheHoldsTheLoop() {
  Bench bench("dusk.overagain");
  bench.settle();
  RenderService& r = bench->renderer();
  QCOMPARE(r.filled(), 1.0);
  for (int k = 0; k < bench->document().scene().frames; k += 17) QVERIFY(r.isCached(k));
  bench->document().edit(QStringLiteral("change"), {}, [](Scene& s) { s.layers[0].opacity.base = 0.5; });
  QVERIFY(r.filled() < 1);
}

void TestPlayback::theCacheIsWhatTheRendererMakes() {
  Bench bench("lamp-room.overagain");
  bench.settle();
  for (const int k : {0, 41}) {
    const QImage shown = bench->renderer().cached(k).convertToFormat(QImage::Format_RGBA8888);
    const Frame8 made = frame(bench->document().scene(), k, shown.width(), shown.height());
    for (int y = 0; y < shown.height(); ++y)
      QVERIFY(std::equal(shown.constScanLine(y), shown.constScanLine(y) + shown.width() * 4,
                         made.rgba.data() + static_cast<std::ptrdiff_t>(y) * shown.width() * 4));
  }
}

void TestPlayback::playingIsAtTheScenesRate() {
  Bench bench("dusk.overagain");
  bench.settle();
  Player& player = bench->player();
  QElapsedTimer clock;
  player.setPlaying(true);
  clock.start();
  const int from = player.frame();
  QTest::qWait(1500);
  player.setPlaying(false);
  const double expected = static_cast<double>(clock.elapsed()) / 1000 * bench->document().scene().rate.value();
  const int n = bench->document().scene().frames;
  const auto moved = static_cast<double>(floorMod(player.frame() - from, n));
  QVERIFY2(std::abs(moved - expected) <= 3, qPrintable(QStringLiteral("%1 frames in place of %2").arg(moved).arg(expected)));
}

void TestPlayback::anEditShowsAndSharpens() {
  Bench bench("stage-screen.overagain");
  bench.settle();
  const QImage before = bench->view().image();
  bench->document().edit(QStringLiteral("change"), {}, [](Scene& s) { s.layers[0].opacity.base = 0.3; });
  QVERIFY(QTest::qWaitFor([&] { return bench->view().image() != before; }, 5000));
  QVERIFY(QTest::qWaitFor([&] { return bench->view().image().size() == before.size() && bench->view().image() != before; }, 5000));
  const Frame8 made = frame(bench->document().scene(), bench->player().frame(), before.width(), before.height());
  QTRY_COMPARE(bench->view().image().convertToFormat(QImage::Format_RGBA8888).pixelColor(20, 20),
               QColor(made.rgba[(20 * static_cast<std::size_t>(before.width()) + 20) * 4],
                      made.rgba[(20 * static_cast<std::size_t>(before.width()) + 20) * 4 + 1],
                      made.rgba[(20 * static_cast<std::size_t>(before.width()) + 20) * 4 + 2]));
}

void TestPlayback::draggingKeepsShowingPictures() {
  // Changes every few milliseconds must not starve the picture: new ones arrive while the drag goes on.
  Bench bench("stage-screen.overagain");
  bench.settle();
  int pictures = 0;
  const QObject here;  // pictures still on their way when the test is over concern nobody
  connect(&bench->renderer(), &RenderService::frameReady, &here, [&] { ++pictures; });
  QElapsedTimer clock;
  clock.start();
  for (int i = 0; clock.elapsed() < 1500; ++i) {
    bench->document().edit(QStringLiteral("drag"), QStringLiteral("drag"),
                           [&](Scene& s) { s.layers[1].opacity.base = 0.2 + 0.001 * (i % 700); });
    QTest::qWait(4);
  }
  QVERIFY2(pictures >= 8, qPrintable(QString::number(pictures)));
}

void TestPlayback::shortLapsAreRenderedOnce() {
  Bench bench("dusk.overagain");
  bench->document().edit(QStringLiteral("laps"), {}, [](Scene& s) {
    s.frames = 120;
    for (Layer& layer : s.layers)
      for (RecipeStep& step : layer.recipe)
        for (Param& p : step.params) p.motion.laps = 4;
    for (Layer& layer : s.layers) layer.opacity.motion.laps = 4;
  });
  bench.settle();
  // Thirty pictures serve all 120 frames.
  QCOMPARE(bench->renderer().cached(0).cacheKey(), bench->renderer().cached(30).cacheKey());
  QVERIFY(bench->renderer().cached(0).cacheKey() != bench->renderer().cached(29).cacheKey());
}

void TestPlayback::longLoopsStayWithinTheBudget() {
  Bench bench("dusk.overagain");
  bench->document().edit(QStringLiteral("long"), {}, [](Scene& s) { s.frames = 100000; });
  QVERIFY(QTest::qWaitFor([&] { return !bench->view().image().isNull(); }, 5000));
  bench->player().setFrame(99999);
  QVERIFY(QTest::qWaitFor([&] { return bench->renderer().isCached(99999); }, 20000));
  QVERIFY(bench->renderer().cached(99999).width() >= 16);
}

QTEST_MAIN(TestPlayback)
#include "tst_playback.moc"
