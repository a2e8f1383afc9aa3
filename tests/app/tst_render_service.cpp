// Pictures for the window: the cache's budget, and answers that are about the scene that is there.
#include <QElapsedTimer>
#include <QSignalSpy>
#include <QTest>
#include <cmath>
#include <deque>

#include "model/playback_cache.h"
#include "model/render_service.h"
#include "render/frames.h"
#include "support/scenes.h"

using namespace oa;
using namespace oa::app;

namespace {

QImage picture(QSize size, QRgb colour) {
  QImage image(size, QImage::Format_RGB32);
  image.fill(colour);
  return image;
}

struct Answers {
  explicit Answers(RenderService& service) {
    QObject::connect(&service, &RenderService::frameReady, &here, [this](int frame, const QImage& image, Generation g) {
      frames.push_back({frame, image, g});
    });
    QObject::connect(&service, &RenderService::jointChecked, &here, [this](const JointCheck&, Generation g) { joints.push_back(g); });
  }
  struct One {
    int frame;
    QImage image;
    Generation generation;
  };
  QObject here;
  std::deque<One> frames;
  std::deque<Generation> joints;
};

bool settled(RenderService& service) {
  return QTest::qWaitFor([&] { return service.filled() >= 1; }, 60000);
}

}  // namespace

class TestRenderService : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void theBudgetHoldsWhateverTheLength_data();
  void theBudgetHoldsWhateverTheLength();
  void whatWasJustPassedMakesRoom();
  void longLoopsArePlayedThroughWithinTheBudget();
  void theFirstSceneMayComeAtOnce();
  void picturesMakeWayForOthers();
  void everyAnswerSaysWhatItIsAbout();
  void theJointIsMeasuredBeforeTheLoop();
  void anotherNameThrowsNothingAway();
  void anotherSizeThrowsNothingAway();
  void atRestThePictureIsAsLargeAsAsked();
  void whatCannotBeShownIsSaid();
};

void TestRenderService::theBudgetHoldsWhateverTheLength_data() {
  QTest::addColumn<int>("frames");
  for (const int frames : {1, 360, 3600, 18000, 54000, 1000000}) QTest::addRow("%d frames", frames) << frames;
}

void TestRenderService::theBudgetHoldsWhateverTheLength() {
  QFETCH(int, frames);
  const std::size_t budget = 24 << 20;
  PlaybackCache cache(budget);
  cache.reset(frames);
  const QSize wanted(160, 90);
  const QSize size = cache.sizeFor(wanted);
  QVERIFY(size.width() >= wanted.width() / 2 && size.width() <= wanted.width());
  cache.setSize(size);
  // A hand that goes round twice, or a few thousand frames, with all that is ahead of it being made.
  std::size_t counted = 0;
  for (int hand = 0; hand < std::min(frames * 2, 2500); ++hand) {
    const int next = cache.next(hand);
    if (next < 0) continue;
    cache.put(next, picture(size, 0xff102030u), hand);
    QVERIFY2(cache.bytes() <= budget, qPrintable(QString::number(cache.bytes())));
    if (hand % 500 == 0) {
      // Counted picture by picture, it is what the cache says.
      counted = 0;
      for (int i = 0; i < std::min(frames, 5000); ++i) counted += static_cast<std::size_t>(cache.at(i).sizeInBytes());
      QVERIFY(counted <= cache.bytes());
    }
  }
  QVERIFY(cache.bytes() > 0);
  if (frames <= 360) QVERIFY(cache.holdsAll() && cache.filled() >= 1);
}

void TestRenderService::whatWasJustPassedMakesRoom() {
  const QSize size(32, 32);
  PlaybackCache cache(10 * (32 * 32 * 4 + 256));
  cache.reset(100);
  cache.setSize(size);
  for (int i = 0; i < 10; ++i) QVERIFY(cache.put(i, picture(size, 0), 0));
  QCOMPARE(cache.next(0), -1);
  QCOMPARE(cache.filled(), 1.0);
  // The hand goes on: what lies behind it is furthest ahead.
  QCOMPARE(cache.next(5), 10);
  QVERIFY(cache.put(10, picture(size, 0), 5));
  QVERIFY(cache.at(4).isNull() && !cache.at(5).isNull() && !cache.at(10).isNull());
  // What is further ahead than all that is there is not taken.
  QVERIFY(!cache.put(4, picture(size, 0), 5));
}

void TestRenderService::longLoopsArePlayedThroughWithinTheBudget() {
  const std::size_t budget = 6 << 20;
  RenderService service(nullptr, budget);
  Scene scene = test::oneLayer("noise", 160, 90, 54000);
  service.setSize({160, 90});
  service.setScene(scene);
  QVERIFY(settled(service));
  QVERIFY(!service.loopIsThere());
  std::size_t most = 0;
  for (int frame = 0; frame < 1500; frame += 25) {
    service.setFrame(frame);
    QVERIFY(QTest::qWaitFor([&] { return service.isCached(frame); }, 20000));
    most = std::max(most, service.cacheBytes());
  }
  QVERIFY2(most <= budget && most > budget / 2, qPrintable(QString::number(most)));
}

// Its thread may begin at any moment of what it is told first.
void TestRenderService::theFirstSceneMayComeAtOnce() {
  const Scene scene = test::oneLayer("noise", 64, 36, 4);
  for (int i = 0; i < 2000; ++i) {
    RenderService service;
    // A little later each time.
    QElapsedTimer timer;
    timer.start();
    while (timer.nsecsElapsed() < i % 400 * 250) {
    }
    service.setScene(scene);
    QCOMPARE(service.generation(), Generation{1});
    if (i % 250 == 0) QVERIFY(settled(service));
  }
}

void TestRenderService::picturesMakeWayForOthers() {
  const std::size_t picture = 160 * 90 * 4;
  MemoryBudget memory(200 * picture);
  RenderService service(nullptr, 100 * picture, memory);
  service.setSize({160, 90});
  service.setScene(test::oneLayer("noise", 160, 90, 60));
  QVERIFY(settled(service));
  QVERIFY(service.loopIsThere());
  QVERIFY(memory.used() >= 60 * picture && memory.used() <= 62 * picture);
  // An export, say, needs most of it: the pictures furthest ahead of the hand go, and are not made again meanwhile.
  MemoryBudget::Share other(memory);
  QVERIFY(memory.ask(180 * picture));
  other.hold(180 * picture);
  QVERIFY(service.cacheBytes() <= 20 * picture && service.cacheBytes() > 15 * picture);
  QVERIFY(service.isCached(0) && !service.isCached(59));
  QVERIFY(!service.loopIsThere());
  service.setFrame(30);
  QVERIFY(QTest::qWaitFor([&] { return service.isCached(30) && service.filled() >= 1; }, 20000));
  QVERIFY(memory.used() <= memory.bytes());
  // There is nothing left at all: what is looked at is made, and what could not be kept is not made over and over.
  other.hold(400 * picture);
  Answers answers(service);
  QSignalSpy made(&service, &RenderService::cacheGrew);
  for (int frame = 10; frame < 50; ++frame) {
    service.setFrame(frame);
    QVERIFY(QTest::qWaitFor([&] { return !answers.frames.empty() && answers.frames.back().frame == frame; }, 20000));
  }
  // Once for each of the forty, and for the one before them, of which it may be said late.
  QVERIFY2(made.count() <= 41, qPrintable(QString::number(made.count())));
  QCOMPARE(service.cacheBytes(), std::size_t{0});
  // With its end they come back.
  other.hold(0);
  service.setFrame(0);
  QVERIFY(QTest::qWaitFor([&] { return service.loopIsThere(); }, 20000));
}

void TestRenderService::everyAnswerSaysWhatItIsAbout() {
  RenderService service;
  Answers answers(service);
  Scene scene = test::oneLayer("noise", 160, 90, 12);
  service.setSize({160, 90});
  Generation before = 0;
  for (int i = 0; i < 20; ++i) {
    scene.layers[0].opacity.base = 0.3 + 0.03 * i;
    service.setScene(scene);
    QVERIFY(service.generation() > before);
    before = service.generation();
    if (i % 3 == 0) QVERIFY(QTest::qWaitFor([&] { return !answers.frames.empty() && answers.frames.back().generation == before; }, 5000));
  }
  QVERIFY(QTest::qWaitFor([&] { return !answers.joints.empty() && answers.joints.back() == before; }, 20000));
  // Never back to an older one, and pictures are those of the generation they name.
  Generation last = 0;
  for (const auto& one : answers.frames) {
    QVERIFY(one.generation >= last && one.generation <= before);
    last = one.generation;
  }
  const Frame8 made = frame(scene, answers.frames.back().frame, 160, 90);
  const QImage shown = answers.frames.back().image.convertToFormat(QImage::Format_RGBA8888);
  QCOMPARE(answers.frames.back().generation, before);
  QVERIFY(std::equal(made.rgba.begin(), made.rgba.begin() + 160 * 4, shown.constScanLine(0)));
}

void TestRenderService::theJointIsMeasuredBeforeTheLoop() {
  RenderService service;
  double filledThen = -1;
  QObject here;
  connect(&service, &RenderService::jointChecked, &here, [&] { filledThen = service.filled(); });
  service.setSize({320, 180});
  service.setScene(test::demoScene("stage-screen.overagain"));
  QVERIFY(QTest::qWaitFor([&] { return filledThen >= 0; }, 300000));
  QVERIFY2(filledThen < 0.5, qPrintable(QString::number(filledThen)));
}

void TestRenderService::anotherNameThrowsNothingAway() {
  RenderService service;
  Scene scene = test::oneLayer("noise", 160, 90, 24);
  service.setSize({160, 90});
  service.setScene(scene);
  QVERIFY(settled(service));
  const auto key = service.cached(7).cacheKey();
  const Generation before = service.generation();
  scene.name = "another";
  scene.layers[0].name = "another";
  scene.layers[0].locked = true;
  scene.palette.colours = {Colour{1, 0, 0, 1}};
  service.setScene(scene);
  QCOMPARE(service.generation(), before);
  QCOMPARE(service.cached(7).cacheKey(), key);
  QCOMPARE(service.filled(), 1.0);
  scene.layers[0].opacity.base = 0.5;
  service.setScene(scene);
  QVERIFY(service.generation() > before && service.filled() < 1);
}

void TestRenderService::anotherSizeThrowsNothingAway() {
  RenderService service;
  service.setSize({160, 90});
  service.setScene(test::oneLayer("noise", 320, 180, 24));
  QVERIFY(settled(service));
  const Generation before = service.generation();
  service.setSize({240, 135});
  // All pictures are still there to play, and become sharp one after the other.
  for (int i = 0; i < 24; ++i) QVERIFY(service.isCached(i));
  QCOMPARE(service.generation(), before);
  QVERIFY(settled(service));
  for (int i = 0; i < 24; ++i) QCOMPARE(service.cached(i).size(), QSize(240, 135));
}

void TestRenderService::atRestThePictureIsAsLargeAsAsked() {
  // The cache can afford half the size only; the picture at rest is whole all the same.
  RenderService service(nullptr, 3 << 20);
  Answers answers(service);
  service.setSize({400, 225});
  service.setScene(test::oneLayer("noise", 800, 450, 600));
  service.setFrame(17);
  QVERIFY(QTest::qWaitFor([&] { return !answers.frames.empty() && answers.frames.back().image.size() == QSize(400, 225); }, 20000));
  QVERIFY(QTest::qWaitFor([&] { return service.isCached(18); }, 120000));
  QCOMPARE(service.cached(18).size(), QSize(200, 112));
  // While playing, single pictures are those of the cache.
  service.setPlaying(true);
  service.setFrame(30);
  QVERIFY(QTest::qWaitFor([&] { return answers.frames.back().frame == 30; }, 20000));
  QCOMPARE(answers.frames.back().image.size(), QSize(200, 112));
}

void TestRenderService::whatCannotBeShownIsSaid() {
  RenderService service;
  QString said;
  QObject here;
  connect(&service, &RenderService::refused, &here, [&](const QString& sentence) { said = sentence; });
  Scene scene = test::oneLayer("noise", 8192, 8192, 2);
  scene.layers[0].recipe.push_back(newStep(*findStep("blur")));
  scene.layers.assign(kMaxLayers, scene.layers[0]);
  scene.layers.back().name = "One too many";
  service.setSize({8192, 8192});
  service.setScene(scene);
  QVERIFY(QTest::qWaitFor([&] { return !said.isEmpty(); }, 20000));
  QVERIFY2(said.contains("memory") && said.contains("needs most"), qPrintable(said));
}

QTEST_GUILESS_MAIN(TestRenderService)
#include "tst_render_service.moc"
