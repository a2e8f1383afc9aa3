// Frames made several at once: by how many, that they are the same to the byte, in order, and that what ends it ends all of it.
#include <QTest>
#include <atomic>
#include <new>
#include <set>

#include "media/frame_source.h"
#include "render/frame_team.h"
#include "render/frames.h"
#include "support/graphs.h"
#include "support/scenes.h"

using namespace oa;

namespace {

constexpr std::size_t kGiga = std::size_t{1} << 30;

std::vector<std::uint8_t> bytesOf(Renderer& renderer, std::int64_t k) {
  Frame8 frame;
  renderInto(renderer, k, Alpha::Straight, frame);
  return frame.rgba;
}

RenderOptions threads(int count) {
  RenderOptions options;
  options.threads = count;
  options.manyFrames = true;
  return options;
}

Scene moving() {
  Scene scene = oa::test::oneLayer("noise", 160, 90, 24);
  (void)oa::test::addStep(scene, "blur");
  return scene;
}

}  // namespace

class TestFrameTeam : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void smallFramesAreMadeSeveralAtOnce();
  void framesAreTheSameToTheByte();
  void eachIsMadeOnce();
  void anEncoderGetsThemInOrder();
  void whatFailsEndsAll();
  void aCalledOffExportStops();
};

void TestFrameTeam::smallFramesAreMadeSeveralAtOnce() {
  const Scene scene = moving();
  const auto at = [&](int width, int height, int count, std::size_t memory = 64 * kGiga) {
    return teamFor(scene, width, height, count, memory);
  };
  QCOMPARE(at(320, 180, 1).frames, 1);
  QCOMPARE(at(320, 180, 2).frames, 2);
  QCOMPARE(at(320, 180, 16).frames, 16);
  QCOMPARE(at(1920, 1080, 2).frames, 2);
  QCOMPARE(at(3840, 2160, 2).frames, 1);
  // On many threads a large frame has not enough bands for all of them.
  QCOMPARE(at(3840, 2160, 16).frames, 2);
  QCOMPARE(at(3840, 2160, 16).threads, 8);
  // Where there is little memory, fewer at once, each on more threads.
  QCOMPARE(at(1920, 1080, 16, kGiga / 8).frames, 1);
  const TeamPlan some = at(1920, 1080, 16, kGiga);
  QVERIFY(some.frames > 1 && some.frames < 16 && some.threads > 1);
  for (const int count : {1, 2, 3, 5, 8, 31})
    for (const int width : {16, 400, 1000, 2000, 8192})
      for (const std::size_t memory : {kGiga, 64 * kGiga}) {
        const TeamPlan team = at(width, width, count, memory);
        QVERIFY(team.frames >= 1 && team.threads >= 1 && team.frames * team.threads <= count);
        // No more than half of them are left over.
        QVERIFY(2 * team.frames * team.threads > count);
      }
}

void TestFrameTeam::framesAreTheSameToTheByte() {
  for (unsigned seed = 1; seed <= 12; ++seed) {
    const Scene scene = oa::test::randomGraph(seed);
    Renderer alone(scene, 64, 36, threads(1));
    for (const int count : {1, 2, 5}) {
      FrameTeam team(scene, 64, 36, threads(count));
      QCOMPARE(team.atOnce(), count);
      std::vector<std::vector<std::uint8_t>> made(static_cast<std::size_t>(scene.frames) + 3);
      team.each(static_cast<int>(made.size()),
                [&](Renderer& renderer, int i) { made[static_cast<std::size_t>(i)] = bytesOf(renderer, i); });
      for (std::size_t i = 0; i < made.size(); ++i)
        QVERIFY2(made[i] == bytesOf(alone, static_cast<std::int64_t>(i)), qPrintable(QStringLiteral("seed %1, frame %2").arg(seed).arg(i)));
    }
  }
}

void TestFrameTeam::eachIsMadeOnce() {
  FrameTeam team(moving(), 64, 36, threads(3));
  for (const int count : {0, 1, 2, 50}) {
    std::vector<std::atomic<int>> made(static_cast<std::size_t>(count));
    std::mutex mutex;
    std::set<Renderer*> busy;
    std::atomic<bool> shared{false};
    team.each(count, [&](Renderer& renderer, int i) {
      {
        const std::scoped_lock lock(mutex);
        if (!busy.insert(&renderer).second) shared = true;
      }
      (void)bytesOf(renderer, i);
      ++made[static_cast<std::size_t>(i)];
      const std::scoped_lock lock(mutex);
      busy.erase(&renderer);
    });
    for (const auto& times : made) QCOMPARE(times.load(), 1);
    QVERIFY(!shared);
  }
}

void TestFrameTeam::anEncoderGetsThemInOrder() {
  for (const int count : {1, 2, 4})
    for (const std::int64_t frames : {1, 2, 7, 24}) {
      const Scene scene = moving();
      FrameTeam team(scene, 64, 36, threads(count));
      Renderer alone(scene, 64, 36, threads(1));
      std::vector<std::vector<std::uint8_t>> got;
      std::vector<std::int64_t> told;
      const auto done = pump<Frame8>(
          frames, team, [](Renderer& renderer, std::int64_t i, Frame8& frame) { renderInto(renderer, i, Alpha::Straight, frame); },
          [&](const Frame8& frame, int i) -> Status {
            if (static_cast<std::size_t>(i) != got.size()) return fail("out of order");
            got.push_back(frame.rgba);
            return {};
          },
          [&](const ExportProgress& progress) {
            told.push_back(progress.done);
            return true;
          });
      QVERIFY(done && *done);
      QCOMPARE(static_cast<std::int64_t>(got.size()), frames);
      for (std::size_t i = 0; i < got.size(); ++i) QVERIFY(got[i] == bytesOf(alone, static_cast<std::int64_t>(i)));
      // Each is told of, one after the other.
      QCOMPARE(static_cast<std::int64_t>(told.size()), frames);
      for (std::size_t i = 0; i < told.size(); ++i) QCOMPARE(told[i], static_cast<std::int64_t>(i) + 1);
    }
}

void TestFrameTeam::whatFailsEndsAll() {
  for (const int count : {1, 3}) {
    FrameTeam team(moving(), 64, 36, threads(count));
    const auto fine = [](const Frame8&, int) -> Status { return {}; };
    const auto render = [](Renderer& renderer, std::int64_t i, Frame8& frame) { renderInto(renderer, i, Alpha::Straight, frame); };
    const auto memory = pump<Frame8>(40, team,
                                     [&](Renderer& renderer, std::int64_t i, Frame8& frame) {
                                       if (i == 9) throw std::bad_alloc();
                                       render(renderer, i, frame);
                                     },
                                     fine, {});
    QVERIFY(!memory);
    QVERIFY(QString::fromStdString(memory.error().sentence()).contains(QStringLiteral("memory")));
    std::atomic<int> encoded{0};
    const auto broken = pump<Frame8>(400, team, render,
                                     [&](const Frame8&, int i) -> Status {
                                       ++encoded;
                                       if (i == 5) return fail("the disk is full");
                                       return {};
                                     },
                                     {});
    QVERIFY(!broken);
    QCOMPARE(broken.error().message, std::string("the disk is full"));
    QCOMPARE(encoded.load(), 6);
    // And it works on as before.
    QVERIFY(pump<Frame8>(5, team, render, fine, {}).value_or(false));
  }
}

void TestFrameTeam::aCalledOffExportStops() {
  for (const int count : {1, 3}) {
    FrameTeam team(moving(), 64, 36, threads(count));
    std::atomic<int> rendered{0};
    const auto done = pump<Frame8>(
        1000, team,
        [&](Renderer& renderer, std::int64_t i, Frame8& frame) {
          ++rendered;
          renderInto(renderer, i, Alpha::Straight, frame);
        },
        [](const Frame8&, int) -> Status { return {}; }, [](const ExportProgress& progress) { return progress.done < 20; });
    QVERIFY(done && !*done);
    QVERIFY2(rendered <= 20 + 2 * count, qPrintable(QString::number(rendered)));
  }
}

QTEST_GUILESS_MAIN(TestFrameTeam)
#include "tst_frame_team.moc"
