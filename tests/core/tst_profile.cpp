// Whose time it is.
#include <QtTest>
#include <atomic>
#include <chrono>
#include <thread>

#include "base/parallel.h"
#include "base/spent.h"
#include "render/profile.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

class TestProfile : public QObject {
  Q_OBJECT
 private slots:
  void timeIsCountedOnce();
  void helpersWorkForTheirCaller();
  void nothingIsCountedOtherwise();
  void hiddenLayersTakeNone();
  void slowStepsAreFound();
  void countingChangesNoPixel();
  void othersAreNotCounted();
  void stopsWhenAsked();
};

namespace {

// Works for so long.
void work(double milliseconds) {
  const auto end = std::chrono::steady_clock::now() + std::chrono::duration<double, std::milli>(milliseconds);
  while (std::chrono::steady_clock::now() < end) {
  }
}

double sumOf(const Spent& spent) {
  double sum = 0;
  for (std::size_t i = 0; i < spent.owners(); ++i) sum += spent.seconds(i);
  return sum;
}

}  // namespace

void TestProfile::timeIsCountedOnce() {
  Spent spent(4);
  const Spent::Within within(&spent);
  const auto start = std::chrono::steady_clock::now();
  {
    const Spent::Scope outer(1);
    work(3);
    {
      const Spent::Scope inner(2);
      work(6);
      QCOMPARE(Spent::current(), Spent::Owner{2});
    }
    work(3);
  }
  const double whole = std::chrono::duration<double>(std::chrono::steady_clock::now() - start).count();
  QVERIFY(spent.seconds(1) >= 0.006);
  QVERIFY(spent.seconds(2) >= 0.006);
  QCOMPARE(spent.seconds(3), 0.0);
  // What lies within another counts for itself alone.
  QVERIFY(spent.seconds(1) + spent.seconds(2) <= whole);
}

void TestProfile::helpersWorkForTheirCaller() {
  Spent spent(4);
  const Spent::Within within(&spent);
  const Spent::Scope scope(3);
  parallelBands(
      64, [](int y0, int y1) { work(0.05 * (y1 - y0)); }, 1);
  { const Spent::Scope done(1); }
  QVERIFY(spent.seconds(3) >= 64 * 0.05e-3);
}

void TestProfile::nothingIsCountedOtherwise() {
  QVERIFY(!Spent::counting());
  const Spent::Scope scope(7);
  QCOMPARE(Spent::current(), Spent::Owner{0});
}

void TestProfile::hiddenLayersTakeNone() {
  Scene scene = test::oneLayer("noise");
  Layer above = test::oneLayer("flat").layers.front();
  above.id = 900;
  above.recipe.front().id = 901;
  scene.layers.push_back(above);
  const auto found = profiled(scene, 192, 108, 2, 3);
  QVERIFY(found);
  QCOMPARE(found->layers.size(), std::size_t{2});
  QCOMPARE(found->layers[0].layer, Id{900});
  QVERIFY(found->layers[0].milliseconds > 0);
  QCOMPARE(found->layers[1].milliseconds, 0.0);
}

void TestProfile::slowStepsAreFound() {
  Scene scene = test::oneLayer("flat", 640, 360);
  Layer slow = test::oneLayer("noise", 640, 360).layers.front();
  slow.id = 900;
  slow.recipe.front().id = 901;
  scene.layers.push_back(slow);
  test::addStep(scene, "colourmap");
  test::setValue(scene, 1, 0, "cell", 6.0);
  test::addStep(scene, "swirl");
  const auto found = profiled(scene, 640, 360, 1, 3);
  QVERIFY(found);
  const Profile::OfLayer& top = found->layers.front();
  QCOMPARE(top.layer, Id{900});
  QCOMPARE(top.steps.size(), std::size_t{3});
  QVERIFY(top.steps[2].milliseconds > found->layers[1].milliseconds);
  QVERIFY(top.milliseconds > 0.3 * found->work);
}

void TestProfile::countingChangesNoPixel() {
  const Scene scene = test::demoScene("dusk.overagain");
  const auto before = test::renderFloat(scene, 9, 320, 180);
  Spent spent(4096);
  {
    const Spent::Within within(&spent);
    QVERIFY(test::renderFloat(scene, 9, 320, 180).rgba == before.rgba);
  }
  QVERIFY(sumOf(spent) > 0);
}

// What another thread renders meanwhile, on the same helpers, is its own.
void TestProfile::othersAreNotCounted() {
  const Scene scene = test::demoScene("dusk.overagain");
  Spent mine(4096);
  Spent theirs(4096);
  std::atomic<bool> done = false;
  std::thread other([&] {
    do {
      const Spent::Within within(&theirs);
      (void)test::renderFloat(scene, 9, 320, 180);
    } while (!done);
  });
  {
    const Spent::Within within(&mine);
    for (int i = 0; i < 3; ++i)
      parallelBands(
          64,
          [&](int, int) {
            if (Spent::counting() != &mine) done = true;
            work(0.02);
          },
          1);
  }
  const bool mixed = done.exchange(true);
  other.join();
  QVERIFY(!mixed);
  QVERIFY(sumOf(theirs) > 0);
  QVERIFY(mine.seconds(0) >= 3 * 64 * 0.02e-3);
  QCOMPARE(sumOf(mine), mine.seconds(0));
}

void TestProfile::stopsWhenAsked() {
  const std::atomic<bool> cancel = true;
  QVERIFY(!profiled(test::demoScene("dusk.overagain"), 320, 180, 1, 3, &cancel));
  QVERIFY(!Spent::counting());
}

QTEST_GUILESS_MAIN(TestProfile)
#include "tst_profile.moc"
