// The window by the clock: how long a change takes to show, and how long the window is ever busy at a stretch.
#include <QApplication>
#include <QElapsedTimer>
#include <QTest>
#include <algorithm>
#include <cstdio>
#include <vector>

#include "support/hands.h"
#include "widgets/number_field.h"
#include "widgets/value_slider.h"
#include "widgets/view.h"

using oa::app::test::Bench;
using oa::app::test::BusyProbe;

namespace {

double median(std::vector<double> v) {
  std::sort(v.begin(), v.end());
  return v.empty() ? 0 : v[v.size() / 2];
}

// Milliseconds from each of `count` changes until a picture comes.
std::vector<double> answers(Bench& bench, int count) {
  std::vector<double> times;
  QElapsedTimer clock;
  bool waiting = false;
  const QObject here;
  QObject::connect(&bench->renderer(), &oa::app::RenderService::frameReady, &here, [&] {
    if (waiting) times.push_back(static_cast<double>(clock.nsecsElapsed()) / 1e6);
    waiting = false;
  });
  for (int i = 0; i < count; ++i) {
    QTest::qWait(60);
    waiting = true;
    clock.start();
    bench->document().edit(QStringLiteral("knob"), QStringLiteral("knob"),
                           [&](oa::Scene& s) { s.layers[1].opacity.base = 0.3 + 0.01 * i; });
    if (!QTest::qWaitFor([&] { return !waiting; }, 2000)) std::printf("no picture within two seconds\n");
  }
  return times;
}

}  // namespace

int main(int argc, char** argv) {
  QApplication application(argc, argv);
  for (const char* scene : {"stage-screen.overagain", "sea-fog.overagain"}) {
    Bench bench(scene);
    bench->resize(1280, 800);
    bench.settle();
    const auto times = answers(bench, 25);
    std::printf("%s\n  a change shows after: median %.1f ms, longest %.1f ms (aim: at most 50)\n", scene, median(times),
                *std::max_element(times.begin(), times.end()));
    bench.settle();
    BusyProbe probe;
    bench->player().setPlaying(true);
    QTest::qWait(300);
    probe.restart();
    QTest::qWait(4000);
    std::printf(
        "  playing: busy at most %.1f ms at a stretch (aim: at most 16; %.1f by the clock), %d frames left out, %.2f pictures a second\n",
        probe.longestWork(), probe.longest(), bench->player().dropped(), bench->player().shownRate());
    bench->player().setPlaying(false);
    bench->document().setCurrentLayer(1);
    QTest::qWait(300);
    auto* slider = oa::app::test::paramRow(bench.window(), "noise", "cell")->findChild<oa::app::ValueSlider*>();
    probe.restart();
    for (int turn = 0; turn < 40; ++turn) {
      const QPointF from(25 + turn, slider->height() / 2.0);
      QMouseEvent press(turn ? QEvent::MouseMove : QEvent::MouseButtonPress, from, slider->mapToGlobal(from), Qt::LeftButton,
                        Qt::LeftButton, Qt::NoModifier);
      QApplication::sendEvent(slider, &press);
      QTest::qWait(16);
    }
    std::printf("  dragging a slider: busy at most %.1f ms at a stretch (aim: at most 16; %.1f by the clock)\n", probe.longestWork(),
                probe.longest());
  }
  return 0;
}
