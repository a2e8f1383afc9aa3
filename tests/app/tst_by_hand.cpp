// The curve played by hand: several keyframes taken together, looking closer, and motions recorded while the loop goes round.
#include <QContextMenuEvent>
#include <QLabel>
#include <QPushButton>
#include <QSlider>
#include <QTest>
#include <QToolButton>
#include <QWheelEvent>
#include <cmath>

#include "model/recorder.h"
#include "support/hands.h"
#include "support/scenes.h"
#include "widgets/curve_canvas.h"
#include "widgets/curve_view.h"
#include "widgets/motion_list.h"
#include "widgets/number_field.h"
#include "widgets/param_row.h"
#include "widgets/recipe_panel.h"
#include "widgets/value_slider.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;
using oa::app::test::child;

namespace {

// The opacity of the current layer with keyframes at these places of the lap, its curve shown.
struct Keyed {
  explicit Keyed(std::initializer_list<double> places) {
    const Id layer = w.document().currentLayer();
    at = {layer, ParamAddress::kOpacity, 0};
    w.document().edit(QStringLiteral("x"), {}, [&](Scene& scene) {
      Param& opacity = findLayer(scene, layer)->opacity;
      opacity.motion = {};
      opacity.motion.kind = MotionKind::Keyframes;
      double value = 0.1;
      for (const double place : places) opacity.motion.keys.push_back({place, value += 0.15, {}, false, {}});
    });
    w.document().showMotion(at);
    canvas->setFocus();
  }
  [[nodiscard]] const Motion& motion() const { return w.document().param(at).motion; }
  [[nodiscard]] double place(std::size_t key) const { return motion().keys[key].at; }
  // From one place of the canvas to another, as a hand goes, with keys held.
  void drag(QPointF from, QPointF to, Qt::KeyboardModifiers with = Qt::NoModifier) const {
    const auto send = [&](QEvent::Type type, QPointF spot, Qt::MouseButton button, Qt::MouseButtons held) {
      QMouseEvent event(type, spot, canvas->mapToGlobal(spot), button, held, with);
      QApplication::sendEvent(canvas, &event);
    };
    send(QEvent::MouseButtonPress, from, Qt::LeftButton, Qt::LeftButton);
    for (int i = 1; i <= 8; ++i) send(QEvent::MouseMove, from + (to - from) * i / 8, Qt::NoButton, Qt::LeftButton);
    send(QEvent::MouseButtonRelease, to, Qt::LeftButton, Qt::NoButton);
  }
  void click(int key, Qt::KeyboardModifiers with = Qt::NoModifier) const {
    QTest::mouseClick(canvas, Qt::LeftButton, with, canvas->keyPlace(key).toPoint());
  }
  [[nodiscard]] bool choose(const QString& entry) const {
    return oa::app::test::clickInMenu(
        [&] {
          const QPoint middle = canvas->rect().center();
          QContextMenuEvent menu(QContextMenuEvent::Mouse, middle, canvas->mapToGlobal(middle));
          QApplication::sendEvent(canvas, &menu);
        },
        entry);
  }
  // Where an end of what is chosen is taken hold of.
  [[nodiscard]] QPointF end(bool last) const {
    const auto ends = *canvas->severalEnds();
    const QRectF loop = canvas->loopRect();
    const double share = last ? ends.second : ends.first;
    return {loop.left() + loop.width() * share + (last ? 9 : -9), canvas->height() / 2.0};
  }
  void wheel(QPointF where, int notches, Qt::KeyboardModifiers with = Qt::NoModifier) const {
    QWheelEvent event(where, canvas->mapToGlobal(where), {}, QPoint(0, notches * 120), Qt::NoButton, with, Qt::NoScrollPhase, false);
    QApplication::sendEvent(canvas, &event);
  }

  Bench bench{"sea-fog.overagain"};
  Window& w = bench.window();
  CurveCanvas* canvas = w.curve().canvas();
  ParamAddress at;
};

bool near(double a, double b, double by) { return std::abs(a - b) < by; }

}  // namespace

class TestByHand : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void aBoxChoosesSeveral();
  void severalAreSlowedAndMoved();
  void severalByTheMenu();
  void severalByKeys();
  void othersDrawTo();
  void lookingCloser();
  void aValueIsRecorded();
  void theLayerIsRecorded();
  void recordingIsGivenUp();
  void keyframesArePlacesInThePicture();
};

void TestByHand::aBoxChoosesSeveral() {
  Keyed curve({0.1, 0.3, 0.5, 0.8});
  CurveCanvas* canvas = curve.canvas;
  const int steps = curve.w.document().history().count();
  const QRectF loop = canvas->loopRect();
  curve.drag({loop.left() + loop.width() * 0.2, 4}, {loop.left() + loop.width() * 0.6, canvas->height() - 4.0}, Qt::ControlModifier);
  QVERIFY(canvas->several() == (edit::KeyNumbers{1, 2}));
  QCOMPARE(curve.w.document().history().count(), steps);
  // Shift and a click takes one more, or one less.
  curve.click(3, Qt::ShiftModifier);
  QVERIFY(canvas->several() == (edit::KeyNumbers{1, 2, 3}));
  curve.click(1, Qt::ShiftModifier);
  QVERIFY(canvas->several() == (edit::KeyNumbers{2, 3}));
  // A click on another one alone, and Escape, let go of them.
  curve.click(0);
  QVERIFY(canvas->several().empty());
  QCOMPARE(canvas->chosenKey(), 0);
  curve.click(2, Qt::ShiftModifier);
  QVERIFY(canvas->several() == (edit::KeyNumbers{0, 2}));
  QTest::keyClick(canvas, Qt::Key_Escape);
  QVERIFY(canvas->several().empty());
}

void TestByHand::severalAreSlowedAndMoved() {
  Keyed curve({0.1, 0.2, 0.4, 0.8});
  CurveCanvas* canvas = curve.canvas;
  QUndoStack& history = curve.w.document().history();
  curve.click(0);
  curve.click(1, Qt::ShiftModifier);
  curve.click(2, Qt::ShiftModifier);
  const int steps = history.count();
  // Twice as slow: the last goes as far again, the middle one in proportion, in one step; the fourth stays.
  const double wide = canvas->loopRect().width();
  curve.drag(curve.end(true), curve.end(true) + QPointF(0.3 * wide, 0), Qt::AltModifier);
  QCOMPARE(history.count(), steps + 1);
  QVERIFY2(near(curve.place(2), 0.7, 0.01), qPrintable(QString::number(curve.place(2))));
  QVERIFY(near(curve.place(1) - 0.1, (curve.place(2) - 0.1) / 3, 1e-9));
  QCOMPARE(curve.place(0), 0.1);
  QCOMPARE(curve.place(3), 0.8);
  history.undo();
  QCOMPARE(curve.place(2), 0.4);
  // By the first end, which leaves the last where it is.
  curve.drag(curve.end(false), curve.end(false) + QPointF(0.15 * wide, 0), Qt::AltModifier);
  QVERIFY(near(curve.place(0), 0.25, 0.01));
  QCOMPARE(curve.place(2), 0.4);
  history.undo();
  // One of them is dragged, and all go along: across the joint too.
  curve.drag(canvas->keyPlace(1), canvas->keyPlace(1) + QPointF(-0.15 * wide, 0), Qt::AltModifier);
  QCOMPARE(canvas->several().size(), std::size_t{3});
  QVERIFY2(near(curve.place(0), 0.05, 0.01) && near(curve.place(1), 0.25, 0.01) && near(curve.place(3), 0.95, 0.01),
           qPrintable(QStringLiteral("%1 %2 %3").arg(curve.place(0)).arg(curve.place(1)).arg(curve.place(3))));
  // Downwards all of them have less.
  const double before = std::get<double>(curve.motion().keys[1].value);
  curve.drag(canvas->keyPlace(1), canvas->keyPlace(1) + QPointF(0, 12));
  QVERIFY(std::get<double>(curve.motion().keys[1].value) < before);
}

void TestByHand::severalByTheMenu() {
  Keyed curve({0.1, 0.15, 0.4, 0.8});
  const auto before = curve.motion().keys;
  QVERIFY(!curve.choose(QStringLiteral("There and back again")));
  curve.click(0);
  curve.click(2, Qt::ShiftModifier);
  curve.click(1, Qt::ShiftModifier);
  QVERIFY(curve.choose(QStringLiteral("Spread them evenly")));
  QVERIFY(near(curve.place(1), 0.25, 1e-9));
  QVERIFY(curve.choose(QStringLiteral("Run them backwards")));
  QVERIFY(curve.motion().keys[0].value == before[2].value && curve.motion().keys[2].value == before[0].value);
  QVERIFY(curve.choose(QStringLiteral("There and back again")));
  QCOMPARE(curve.motion().keys.size(), std::size_t{6});
  QCOMPARE(curve.canvas->several().size(), std::size_t{5});
  QVERIFY(curve.motion().keys[4].value == curve.motion().keys[0].value);
  for (int i = 0; i < 3; ++i) curve.w.document().history().undo();
  QVERIFY(curve.motion().keys == before);
  QVERIFY(curve.choose(QStringLiteral("Choose all keyframes")));
  QCOMPARE(curve.canvas->several().size(), std::size_t{4});
}

void TestByHand::severalByKeys() {
  Keyed curve({0.1, 0.3, 0.5, 0.8});
  CurveCanvas* canvas = curve.canvas;
  QTest::keyClick(canvas, Qt::Key_A, Qt::ControlModifier);
  QCOMPARE(canvas->several().size(), std::size_t{4});
  QTest::keyClick(canvas, Qt::Key_Right, Qt::ShiftModifier);
  QVERIFY(near(curve.place(0), 0.11, 1e-9) && near(curve.place(3), 0.81, 1e-9));
  curve.click(1);
  curve.click(2, Qt::ShiftModifier);
  QTest::keyClick(canvas, Qt::Key_Delete);
  QCOMPARE(curve.motion().keys.size(), std::size_t{2});
  // One stays, whatever is chosen.
  QTest::keyClick(canvas, Qt::Key_A, Qt::ControlModifier);
  QTest::keyClick(canvas, Qt::Key_Delete);
  QCOMPARE(curve.motion().keys.size(), std::size_t{1});
}

// Keyframes of other motions draw what is dragged, and with Alt they do not; else it goes to whole frames.
void TestByHand::othersDrawTo() {
  Keyed curve({0.1, 0.5});
  Document& document = curve.w.document();
  document.edit(QStringLiteral("y"), {}, [&](Scene& scene) {
    Param& turn = findLayer(scene, curve.at.layer)->place[static_cast<std::size_t>(findParam(placeSpecs(), "turn"))];
    turn.motion.kind = MotionKind::Keyframes;
    turn.motion.keys.push_back({0.3337, 5.0, {}, false, {}});
    turn.motion.keys.push_back({0.9, 9.0, {}, false, {}});
  });
  CurveCanvas* canvas = curve.canvas;
  const double wide = canvas->loopRect().width();
  const auto towards = [&](double share, Qt::KeyboardModifiers with) {
    curve.drag(canvas->keyPlace(0), canvas->keyPlace(0) + QPointF((share - curve.place(0)) * wide, 0), with);
  };
  towards(0.3337 + 3 / wide, Qt::NoModifier);
  QVERIFY2(near(curve.place(0), 0.3337, 1e-6), qPrintable(QString::number(curve.place(0))));
  document.history().undo();
  towards(0.3337 + 3 / wide, Qt::AltModifier);
  QVERIFY(near(curve.place(0), 0.3337 + 3 / wide, 2e-3) && !near(curve.place(0), 0.3337, 1e-6));
  document.history().undo();
  // Where nothing is near, to a whole frame.
  towards(0.217, Qt::NoModifier);
  const double frames = document.scene().frames;
  QVERIFY(near(curve.place(0), std::round(curve.place(0) * frames) / frames, 1e-6) && near(curve.place(0), 0.217, 1 / frames));
  document.history().undo();
  // To the joint.
  towards(2 / wide, Qt::NoModifier);
  QCOMPARE(curve.place(0), 0.0);
}

void TestByHand::lookingCloser() {
  Keyed curve({0.2, 0.6});
  CurveCanvas* canvas = curve.canvas;
  const QPointF key = canvas->keyPlace(1);
  const QImage whole = canvas->grab().toImage();
  curve.wheel(key, 4);
  QVERIFY(canvas->seen() < 0.5);
  // What is pointed at stays where it is.
  QVERIFY2(QLineF(canvas->keyPlace(1), key).length() < 1.5, qPrintable(QString::number(QLineF(canvas->keyPlace(1), key).length())));
  QVERIFY(canvas->grab().toImage() != whole);
  // A keyframe is dragged as much finer as it is closer.
  const double seen = canvas->seen();
  const double wide = canvas->loopRect().width();
  curve.drag(canvas->keyPlace(1), canvas->keyPlace(1) + QPointF(30, 0), Qt::AltModifier);
  QVERIFY(near(curve.place(1), 0.6 + 30 / wide, 1.1e-3));
  QVERIFY(30 / wide < 0.5 * 30 / (wide * seen));
  // Along the loop, never out of it.
  curve.wheel(key, -40, Qt::ShiftModifier);
  QVERIFY(canvas->loopRect().right() < canvas->width());
  for (int i = 0; i < 60; ++i) curve.wheel(key, 1);
  QVERIFY(near(canvas->seen(), 0.01, 1e-9));
  canvas->setFocus();
  QTest::keyClick(canvas, Qt::Key_F);
  QCOMPARE(canvas->seen(), 1.0);
}

void TestByHand::aValueIsRecorded() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  bench.settle();
  auto* row = qobject_cast<ParamRow*>(oa::app::test::paramRow(w, "noise", "roughness"));
  const auto at = row->address();
  const Param before = w.document().param(at);
  QVERIFY(!before.motion.moves());
  const int steps = w.document().history().count();
  QTest::mouseClick(child<QToolButton>(&w, "record"), Qt::LeftButton);
  QVERIFY(w.recorder().armed() && w.player().playing());
  QVERIFY(child<QWidget>(&w, "recordStrip")->isVisible());
  w.player().setPlaying(false);  // frames come one by one, as the test says
  auto* slider = row->findChild<ValueSlider*>();
  const auto mouse = [&](QEvent::Type type, double x, Qt::MouseButton button, Qt::MouseButtons held) {
    const QPointF spot(x, slider->height() / 2.0);
    QMouseEvent event(type, spot, slider->mapToGlobal(spot), button, held, Qt::NoModifier);
    QApplication::sendEvent(slider, &event);
  };
  const int frames = w.document().scene().frames;
  const auto placeAt = [&](double share) { return slider->width() * (0.5 + 0.3 * std::sin(2 * M_PI * share)); };
  mouse(QEvent::MouseButtonPress, placeAt(0), Qt::LeftButton, Qt::LeftButton);
  std::vector<double> wanted;
  for (int f = 1; f < frames * 85 / 100; ++f) {
    w.player().setFrame(f);
    mouse(QEvent::MouseMove, placeAt(static_cast<double>(f) / frames), Qt::NoButton, Qt::LeftButton);
    wanted.push_back(std::get<double>(w.document().param(at).base));
  }
  mouse(QEvent::MouseButtonRelease, placeAt(0.85), Qt::LeftButton, Qt::NoButton);
  // One step; the value is what it was, and moves as the hand did.
  QVERIFY(!w.recorder().armed() && w.recorder().take());
  QCOMPARE(w.document().history().count(), steps + 1);
  const Param& after = w.document().param(at);
  QVERIFY(after.base == before.base);
  QVERIFY(after.motion.kind == MotionKind::Keyframes);
  QVERIFY2(after.motion.keys.size() >= 2 && after.motion.keys.size() <= 8, qPrintable(QString::number(after.motion.keys.size())));
  const auto [least, most] = std::minmax_element(wanted.begin(), wanted.end());
  for (std::size_t i = 0; i < wanted.size(); ++i) {
    const double made = std::get<double>(evaluate(w.document().spec(at), after, {static_cast<int>(i) + 1, frames}).value);
    QVERIFY2(near(made, wanted[i], (*most - *least) * 0.05), qPrintable(QStringLiteral("frame %1").arg(i + 1)));
  }
  QVERIFY(w.motions().chosen() == std::optional(at));
  // Smoother afterwards, in the same step; oftener too.
  auto* smooth = child<QSlider>(&w, "recordNear");
  const std::size_t keys = after.motion.keys.size();
  smooth->setFocus();
  for (int i = 0; i < 4; ++i) QTest::keyClick(smooth, Qt::Key_PageDown);
  QVERIFY(w.document().param(at).motion.keys.size() >= keys);
  oa::app::test::typeInto(child<NumberField>(&w, "recordLaps"), "3");
  QCOMPARE(w.document().param(at).motion.laps, 3);
  QCOMPARE(w.document().history().count(), steps + 1);
  QTest::mouseClick(child<QPushButton>(&w, "recordDone"), Qt::LeftButton);
  QVERIFY(!child<QWidget>(&w, "recordStrip")->isVisible());
  w.document().history().undo();
  QVERIFY(w.document().param(at) == before);
}

void TestByHand::theLayerIsRecorded() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  bench.activate();
  const Id layer = w.document().currentLayer();
  const ParamAddress at{layer, ParamAddress::kPlace, findParam(placeSpecs(), "position")};
  QTest::keyClick(&w.view(), Qt::Key_P);
  QTest::keyClick(&w.view(), Qt::Key_R);
  QVERIFY(w.recorder().armed());
  w.player().setPlaying(false);
  const int frames = w.document().scene().frames;
  const QPointF middle = QRectF(w.view().rect()).center();
  const auto mouse = [&](QEvent::Type type, QPointF spot, Qt::MouseButton button, Qt::MouseButtons held) {
    QMouseEvent event(type, spot, w.view().mapToGlobal(spot), button, held, Qt::AltModifier);
    QApplication::sendEvent(&w.view(), &event);
  };
  const auto round = [&](double share) {
    return middle + QPointF(60 * std::cos(2 * M_PI * share) - 60, 40 * std::sin(2 * M_PI * share)) + QPointF(30, 20);
  };
  mouse(QEvent::MouseButtonPress, round(0), Qt::LeftButton, Qt::LeftButton);
  for (int f = 1; f < frames * 9 / 10; ++f) {
    w.player().setFrame(f);
    mouse(QEvent::MouseMove, round(static_cast<double>(f) / frames), Qt::NoButton, Qt::LeftButton);
  }
  mouse(QEvent::MouseButtonRelease, round(0.9), Qt::LeftButton, Qt::NoButton);
  const Param& after = w.document().param(at);
  QCOMPARE(motionCount(after), std::size_t{2});
  // A round, as wide against its height as the hand's.
  double low[2] = {1e9, 1e9};
  double high[2] = {-1e9, -1e9};
  for (int f = 0; f < frames; ++f) {
    const Point p = std::get<Point>(evaluate(w.document().spec(at), after, {f, frames}).value);
    const double both[2] = {p.x * w.document().scene().width, p.y * w.document().scene().height};
    for (int i = 0; i < 2; ++i) {
      low[i] = std::min(low[i], both[i]);
      high[i] = std::max(high[i], both[i]);
    }
  }
  const double ratio = (high[0] - low[0]) / (high[1] - low[1]);
  QVERIFY2(near(ratio, 1.5, 0.15), qPrintable(QString::number(ratio)));
}

void TestByHand::recordingIsGivenUp() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  QTest::mouseClick(child<QToolButton>(&w, "record"), Qt::LeftButton);
  QVERIFY(w.recorder().armed());
  bench.activate();
  QTest::keyClick(&w.view(), Qt::Key_Escape);
  QVERIFY(!w.recorder().armed());
  QVERIFY(!child<QToolButton>(&w, "record")->isChecked());
  // A click that moves nothing records nothing, and it waits on.
  QTest::mouseClick(child<QToolButton>(&w, "record"), Qt::LeftButton);
  w.player().setPlaying(false);
  auto* opacity = w.recipe().findChild<ValueSlider*>();
  QTest::mouseClick(opacity, Qt::LeftButton, Qt::NoModifier, opacity->rect().center());
  QVERIFY(w.recorder().armed() && !w.recorder().take());
  QTest::mouseClick(child<QToolButton>(&w, "record"), Qt::LeftButton);
  QVERIFY(!w.recorder().armed());
  // Another scene is not recorded into.
  QTest::mouseClick(child<QToolButton>(&w, "record"), Qt::LeftButton);
  w.player().setPlaying(false);
  w.begin(oa::test::demoScene("sea-fog.overagain"));
  QVERIFY(!w.recorder().armed() && !w.recorder().take());
  // Afterwards a drag is a drag again.
  auto* row = qobject_cast<ParamRow*>(oa::app::test::paramRow(w, "noise", "roughness"));
  auto* slider = row->findChild<ValueSlider*>();
  oa::app::test::drag(slider, {slider->width() / 2.0, slider->height() / 2.0}, {slider->width() * 0.8, slider->height() / 2.0});
  QVERIFY(!w.document().param(row->address()).motion.moves());
  QCOMPARE(w.document().history().count(), 1);
}

void TestByHand::keyframesArePlacesInThePicture() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  bench.settle();
  const ParamAddress at{w.document().currentLayer(), ParamAddress::kPlace, findParam(placeSpecs(), "position")};
  const std::vector<Point> places{{0.2, 0.3}, {0.7, 0.4}, {0.5, 0.8}};
  const auto unmoved = w.view().grab().toImage();
  w.document().edit(QStringLiteral("x"), {}, [&](Scene& scene) {
    Motion& motion = Document::param(scene, at).motion;
    motion.kind = MotionKind::Keyframes;
    motion.far = places[0];
    for (std::size_t i = 0; i < places.size(); ++i) motion.keys.push_back({0.3 * static_cast<double>(i), places[i], {}, false, {}});
  });
  w.document().showMotion(at);
  const auto keys = [&]() -> const std::vector<Keyframe>& { return w.document().param(at).motion.keys; };
  QVERIFY(w.view().way().shown());
  QVERIFY(w.view().grab().toImage() != unmoved);
  const auto handles = w.view().way().places();
  QCOMPARE(handles.size(), std::size_t{3});
  const QRectF frame = w.view().frameRect();
  for (std::size_t i = 0; i < 3; ++i) {
    const QPointF share((handles[i].x() - frame.left()) / frame.width(), (handles[i].y() - frame.top()) / frame.height());
    QVERIFY(near(share.x(), places[i].x, 1e-6) && near(share.y(), places[i].y, 1e-6));
  }
  // One is dragged: its value follows, in one step, and it is the one that the curve has chosen.
  const int steps = w.document().history().count();
  oa::app::test::drag(&w.view(), handles[1], handles[1] + QPointF(40, -25));
  const auto& moved = std::get<Point>(keys()[1].value);
  QVERIFY2(near(moved.x, 0.7 + 40 / frame.width(), 2e-4) && near(moved.y, 0.4 - 25 / frame.height(), 2e-4),
           qPrintable(QStringLiteral("%1 %2").arg(moved.x).arg(moved.y)));
  QVERIFY(std::get<Point>(keys()[0].value) == places[0]);
  QCOMPARE(w.document().history().count(), steps + 1);
  QCOMPARE(w.curve().canvas()->chosenKey(), 1);
  w.document().history().undo();
  QVERIFY(std::get<Point>(keys()[1].value) == places[1]);
  // Of another motion they are not shown.
  w.document().showMotion({at.layer, 0, findParam(w.document().layer()->recipe[0].spec->params, "churn")});
  QVERIFY(!w.view().way().shown() && w.view().way().places().empty());
}

QTEST_MAIN(TestByHand)
#include "tst_by_hand.moc"
