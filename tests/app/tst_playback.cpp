// Playing and editing: the cache, the rate, and a window that is never busy. No test here fails by the clock of a
// slow machine alone: times are compared with each other or given ten times the room they need.
#include <QListWidget>
#include <QPushButton>
#include <QSettings>
#include <QSplitter>
#include <QTest>

#include "render/frames.h"
#include "sheets/export_sheet.h"
#include "sheets/gallery.h"
#include "sheets/source_gallery.h"
#include "support/hands.h"
#include "widgets/value_slider.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;

// Pictures during a drag that show that it is followed; sanitized builds are many times as slow.
#if defined(__SANITIZE_ADDRESS__) || defined(__SANITIZE_THREAD__)
constexpr int kEnough = 2;
#else
constexpr int kEnough = 8;
#endif

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
  void aKnobTurnedWhilePlayingIsShown();
  void theLampNeverSpeaksOfAnotherScene();
  void hiddenGalleriesHoldAndComputeNothing();
  void roomsAreRemembered();
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
  QVERIFY(QTest::qWaitFor([&] { return player.frame() - from >= 40; }, 20000));
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
    oa::app::test::turn();
  }
  QVERIFY2(pictures >= kEnough, qPrintable(QString::number(pictures)));
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
  // Byte by byte in tst_render_service; here the window's own budget, with its hand jumping about.
  Bench bench("dusk.overagain");
  bench->document().edit(QStringLiteral("long"), {}, [](Scene& s) { s.frames = 100000; });
  for (const int frame : {99999, 3, 50000}) {
    bench->player().setFrame(frame);
    QVERIFY(QTest::qWaitFor([&] { return bench->renderer().isCached(frame); }, 20000));
    QVERIFY(bench->renderer().cacheBytes() <= RenderService::kCacheBytes);
    const QImage shown = bench->renderer().cached(frame).convertToFormat(QImage::Format_RGBA8888);
    const Frame8 made = oa::frame(bench->document().scene(), frame, shown.width(), shown.height());
    QVERIFY(std::equal(made.rgba.begin(), made.rgba.begin() + shown.width() * 4, shown.constScanLine(0)));
  }
}

void TestPlayback::aKnobTurnedWhilePlayingIsShown() {
  Bench bench("stage-screen.overagain");
  bench.settle();
  bench->player().setPlaying(true);
  QVERIFY(QTest::qWaitFor([&] { return bench->player().frame() > 2; }, 20000));
  // Each turn of the knob makes all pictures stale; those that are being made come into the view all the same.
  int shown = 0;
  qint64 last = bench->view().image().cacheKey();
  QElapsedTimer clock;
  clock.start();
  for (int i = 0; clock.elapsed() < 1500; ++i) {
    bench->document().edit("knob", "knob", [&](Scene& s) { s.layers[1].opacity.base = 0.2 + 0.001 * (i % 700); });
    oa::app::test::turn();
    if (bench->view().image().cacheKey() != last) {
      ++shown;
      last = bench->view().image().cacheKey();
    }
  }
  QVERIFY2(shown >= kEnough, qPrintable(QString::number(shown)));
  bench->player().setPlaying(false);
}

void TestPlayback::theLampNeverSpeaksOfAnotherScene() {
  Bench bench("dusk.overagain");
  auto* lamp = oa::app::test::child<QPushButton>(&bench.window(), "lamp");
  QTRY_VERIFY_WITH_TIMEOUT(lamp->text() == "Loops clean" || lamp->text() == "Speed changes", 60000);
  // A scene that jumps: not one moment does it say that it is clean.
  bench->document().edit("jump", {}, [](Scene& s) {
    for (Layer& layer : s.layers) layer.opacity.motion = {};
    Motion& motion = s.layers[0].opacity.motion;
    motion.kind = MotionKind::Still;
    s.layers.resize(1);
    s.frames = 48;
  });
  QVERIFY(lamp->text() == "Looking…");
  bench->document().edit("name", {}, [](Scene& s) { s.name = "another name"; });
  QVERIFY(lamp->text() == "Looking…");
  QTRY_VERIFY_WITH_TIMEOUT(lamp->text() != "Looking…", 60000);
  // Measured once, a new name or a lock changes nothing about it.
  const QString said = lamp->text();
  bench->document().edit("name", {}, [](Scene& s) { s.layers[0].locked = true; });
  QCOMPARE(lamp->text(), said);
}

void TestPlayback::hiddenGalleriesHoldAndComputeNothing() {
  Bench bench;
  QTest::keyClick(&bench.window(), Qt::Key_N, Qt::ControlModifier);
  Gallery& gallery = bench->gallery();
  QTRY_VERIFY_WITH_TIMEOUT(gallery.heldFrames() > gallery.count(), 60000);
  QVERIFY(gallery.working());
  QTest::keyClick(bench.window().focusWidget(), Qt::Key_Escape);
  QVERIFY(!gallery.isVisible());
  QCOMPARE(gallery.heldFrames(), 0);
  QVERIFY(!gallery.working());
  QTest::keyClick(&bench.window(), Qt::Key_L, Qt::ControlModifier);
  QTRY_VERIFY_WITH_TIMEOUT(bench->sources().heldFrames() > 0, 60000);
  QTest::keyClick(bench.window().focusWidget(), Qt::Key_Escape);
  QCOMPARE(bench->sources().heldFrames(), 0);
}

void TestPlayback::roomsAreRemembered() {
  QSize size;
  QByteArray sides;
  {
    Bench bench;
    bench.window().resize(1180, 760);
    auto* splitter = oa::app::test::child<QSplitter>(&bench.window(), "sides");
    splitter->setSizes({700, 470});
    bench->showExport();
    oa::app::test::turn();
    size = bench.window().size();
    sides = splitter->saveState();
    bench->document().history().setClean();
    QVERIFY(bench.window().close());
  }
  {
    Bench again;
    QTRY_COMPARE(again.window().size(), size);
    QCOMPARE(oa::app::test::child<QSplitter>(&again.window(), "sides")->saveState(), sides);
    QVERIFY(again->exportSheet().isVisible());
  }
  QSettings().remove("window");
}

QTEST_MAIN(TestPlayback)
#include "tst_playback.moc"
