// The memory that all share: what is counted, who gives up and when, and that pools and caches keep to it.
#include <QTest>
#include <atomic>
#include <thread>

#include "base/buffer_pool.h"
#include "base/memory_budget.h"
#include "graph/plane_cache.h"
#include "image/sampling.h"
#include "store/byte_cache.h"

using namespace oa;
using Turn = MemoryBudget::Turn;

namespace {

constexpr std::size_t kMega = std::size_t{1} << 20;

// One who has something, and gives it up when asked.
struct Keeper {
  explicit Keeper(MemoryBudget& budget, Turn turn, std::size_t bytes)
      : share(budget, turn, [this](std::size_t missing) {
          asked.push_back(missing);
          share.shrink(std::min(missing, share.held()));
        }) {
    share.grow(bytes);
  }
  std::vector<std::size_t> asked;
  MemoryBudget::Share share;
};

std::shared_ptr<const RowMaker> plane(int side) { return planeRows(Plane(side, side, 4), true); }

}  // namespace

class TestMemoryBudget : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void whatIsHeldIsCounted();
  void nobodyIsAskedWhileThereIsRoom();
  void theIdleGoFirst();
  void whoIsGoneIsNotAsked();
  void manyGrowAndShrinkAtOnce();
  void thePoolGivesUpWhatLiesReady();
  void filesMakeWayForPictures();
  void planesAreLetGoWhileOthersGoShort();
};

void TestMemoryBudget::whatIsHeldIsCounted() {
  MemoryBudget budget(100);
  QCOMPARE(budget.free(), std::size_t{100});
  MemoryBudget::Share a(budget);
  {
    MemoryBudget::Share b(budget);
    a.grow(30);
    b.hold(50);
    QCOMPARE(budget.used(), std::size_t{80});
    QCOMPARE(a.room(), std::size_t{50});
    b.hold(10);
    a.shrink(5);
    QCOMPARE(budget.used(), std::size_t{35});
    // More than there is can be held: nobody fails for it, and nothing is free.
    b.hold(500);
    QCOMPARE(budget.free(), std::size_t{0});
    QCOMPARE(a.room(), std::size_t{0});
    QCOMPARE(b.room(), std::size_t{75});
  }
  QCOMPARE(budget.used(), std::size_t{25});
  QVERIFY(MemoryBudget::shared().bytes() > 256 * kMega);
}

void TestMemoryBudget::nobodyIsAskedWhileThereIsRoom() {
  MemoryBudget budget(100);
  Keeper keeper(budget, Turn::Pictures, 40);
  QVERIFY(budget.ask(60));
  QVERIFY(keeper.asked.empty());
  QVERIFY(budget.ask(61));
  QCOMPARE(keeper.asked, std::vector<std::size_t>{1});
  QCOMPARE(budget.used(), std::size_t{39});
}

void TestMemoryBudget::theIdleGoFirst() {
  MemoryBudget budget(100);
  Keeper files(budget, Turn::Files, 20);
  Keeper pictures(budget, Turn::Pictures, 30);
  Keeper more(budget, Turn::Pictures, 10);
  Keeper idle(budget, Turn::Idle, 20);
  MemoryBudget::Share own(budget);
  own.grow(20);
  QVERIFY(budget.ask(35));
  QCOMPARE(idle.asked, std::vector<std::size_t>{35});
  QCOMPARE(pictures.asked, std::vector<std::size_t>{15});
  QVERIFY(more.asked.empty() && files.asked.empty());
  // What is in use stays; more than that cannot be had.
  QVERIFY(!budget.ask(90));
  QCOMPARE(budget.used(), std::size_t{20});
  QCOMPARE(files.asked.size(), std::size_t{1});
}

void TestMemoryBudget::whoIsGoneIsNotAsked() {
  MemoryBudget budget(100);
  Keeper stays(budget, Turn::Files, 50);
  { const Keeper goes(budget, Turn::Idle, 50); }
  QVERIFY(budget.ask(70));
  QCOMPARE(stays.asked, std::vector<std::size_t>{20});
}

void TestMemoryBudget::manyGrowAndShrinkAtOnce() {
  MemoryBudget budget(1000);
  Keeper keeper(budget, Turn::Pictures, 0);
  MemoryBudget::Share one(budget);
  std::vector<std::thread> threads;
  threads.reserve(4);
  for (int t = 0; t < 4; ++t)
    threads.emplace_back([&] {
      MemoryBudget::Share own(budget);
      for (int i = 0; i < 2000; ++i) {
        own.grow(100);
        one.grow(100);
        (void)budget.ask(100);
        one.shrink(100);
        own.shrink(100);
      }
    });
  for (std::thread& thread : threads) thread.join();
  QCOMPARE(one.held(), std::size_t{0});
  QCOMPARE(budget.used(), std::size_t{0});
}

void TestMemoryBudget::thePoolGivesUpWhatLiesReady() {
  MemoryBudget budget(64 * kMega);
  BufferPool pool(48 * kMega, budget);
  void* kept = pool.take(16 * kMega);
  void* first = pool.take(20 * kMega);
  void* second = pool.take(8 * kMega);
  QCOMPARE(budget.used(), 44 * kMega);
  pool.give(first);
  pool.give(second);
  // What lies ready counts as well, until somebody needs it.
  QCOMPARE(budget.used(), 44 * kMega);
  QVERIFY(budget.ask(30 * kMega));
  QCOMPARE(pool.idle(), 8 * kMega);
  QCOMPARE(budget.used(), 24 * kMega);
  void* large = pool.take(40 * kMega);
  QCOMPARE(pool.idle(), 8 * kMega);
  // It asks itself as others do; and in need more is taken than there should be, since no picture is refused halfway.
  void* more = pool.take(24 * kMega);
  QCOMPARE(pool.idle(), std::size_t{0});
  QCOMPARE(budget.used(), 80 * kMega);
  for (void* memory : {kept, large, more}) pool.give(memory);
  pool.trim();
  QCOMPARE(budget.used(), std::size_t{0});
}

void TestMemoryBudget::filesMakeWayForPictures() {
  MemoryBudget budget(64 * kMega);
  BufferPool pool(0, budget);
  ByteCache cache(256 * kMega, budget);
  const auto keep = [&](const char* name, std::size_t bytes) {
    const std::shared_ptr<void> memory(pool.take(bytes), [&](void* m) { pool.give(m); });
    cache.keep(name, memory, bytes);
  };
  keep("first", 20 * kMega);
  keep("second", 20 * kMega);
  keep("third", 20 * kMega);
  QVERIFY(cache.find<void>("first"));
  void* picture = pool.take(24 * kMega);
  // What was not asked for longest went.
  QVERIFY(!cache.find<void>("second"));
  QVERIFY(cache.find<void>("first") && cache.find<void>("third"));
  QVERIFY(budget.used() <= 64 * kMega);
  pool.give(picture);
  cache.clear();
}

void TestMemoryBudget::planesAreLetGoWhileOthersGoShort() {
  MemoryBudget budget(100 * kMega);
  PlaneCache cache(16 * kMega, budget);
  const auto key = [](int i) { return PlaneKey{static_cast<Id>(i), 1, 0, PlaneView()}; };
  for (int i = 0; i < 8; ++i) cache.put(key(i), plane(16), kMega, 1000);
  QCOMPARE(cache.bytes(), 8 * kMega);
  MemoryBudget::Share other(budget);
  other.hold(200 * kMega);
  cache.put(key(8), plane(16), kMega, 1000);
  cache.put(key(9), plane(16), kMega, 1000);
  QCOMPARE(cache.bytes(), 6 * kMega);
  QVERIFY(!cache.find(key(3)) && cache.find(key(4)) && cache.find(key(9)));
  // The one that was just made stays in any case.
  for (int i = 10; i < 30; ++i) cache.put(key(i), plane(16), kMega, 1000);
  QCOMPARE(cache.bytes(), kMega);
  QVERIFY(cache.find(key(29)));
  other.hold(0);
  for (int i = 30; i < 36; ++i) cache.put(key(i), plane(16), kMega, 1000);
  QCOMPARE(cache.bytes(), 7 * kMega);
}

QTEST_GUILESS_MAIN(TestMemoryBudget)
#include "tst_memory_budget.moc"
