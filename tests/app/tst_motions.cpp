// Setting things moving: the pill, the curve, the dial.
#include <QClipboard>
#include <QComboBox>
#include <QContextMenuEvent>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>
#include <QSettings>
#include <QTest>
#include <QToolButton>

#include "support/hands.h"
#include "widgets/curve_drawing.h"
#include "widgets/curve_view.h"
#include "widgets/dial.h"
#include "widgets/motion_list.h"
#include "widgets/motion_pill.h"
#include "widgets/number_field.h"
#include "widgets/param_row.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;
using oa::app::test::child;

namespace {

const Param& paramOf(Window& w, const char* row) {
  return w.document().param(qobject_cast<ParamRow*>(oa::app::test::paramRow(w, "noise", row))->address());
}

}  // namespace

class TestMotions : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void thePillSetsAMotion();
  void theCurveIsDragged();
  void speedAndOtherMotionsAreShown();
  void farEndsOfPointsAndColours();
  void ownPaces();
  void pacesAreChosenWrittenAndKept();
  void ownHops();
  void aSwitchIsSet();
  void theDialScrubsAcrossTheJoint();
  void theDialPlays();
  void theListFollowsTheLayer();
};

void TestMotions::thePillSetsAMotion() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  auto* pill = oa::app::test::paramRow(w, "noise", "roughness")->findChild<MotionPill*>();
  QVERIFY(oa::app::test::clickInMenu([&] { pill->click(); }, QStringLiteral("Swing")));
  const Param& p = paramOf(w, "roughness");
  QVERIFY(p.motion.kind == MotionKind::Swing);
  QVERIFY(p.motion.far != p.base);
  // It is the chosen one: its curve is shown.
  QVERIFY(w.motions().chosen().has_value());
  QCOMPARE(w.document().spec(*w.motions().chosen()).id, std::string_view("roughness"));
  QVERIFY(oa::app::test::clickInMenu([&] { pill->click(); }, QStringLiteral("Still")));
  QVERIFY(!paramOf(w, "roughness").motion.moves());
  w.document().history().undo();
  QVERIFY(paramOf(w, "roughness").motion.moves());
}

void TestMotions::theCurveIsDragged() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  auto* pill = oa::app::test::paramRow(w, "noise", "roughness")->findChild<MotionPill*>();
  QVERIFY(oa::app::test::clickInMenu([&] { pill->click(); }, QStringLiteral("Swing")));
  CurveCanvas* canvas = w.curve().canvas();
  const auto bead = canvas->bead();
  QVERIFY(bead.has_value());
  const double far = std::get<double>(paramOf(w, "roughness").motion.far);
  const int steps = w.document().history().count();
  oa::app::test::drag(canvas, *bead, *bead + QPointF(0, 30));
  QVERIFY(std::get<double>(paramOf(w, "roughness").motion.far) < far);
  QCOMPARE(w.document().history().count(), steps + 1);
  // Sideways: the head start, by the share of the loop dragged.
  const QRectF loop = canvas->loopRect();
  oa::app::test::drag(canvas, QPointF(loop.left() + 20, loop.bottom() - 30),
                      QPointF(loop.left() + 20 + loop.width() / 4, loop.bottom() - 30));
  QVERIFY2(std::abs(paramOf(w, "roughness").motion.start - 0.75) < 0.02, qPrintable(QString::number(paramOf(w, "roughness").motion.start)));
  auto* laps = child<NumberField>(&w, "laps");
  laps->setFocus();
  QTest::keyClick(laps, Qt::Key_Up);
  QCOMPARE(paramOf(w, "roughness").motion.laps, 2);
  // Laps of nothing do not exist: stepping down through zero goes on backwards.
  QTest::keyClick(laps, Qt::Key_Down);
  QTest::keyClick(laps, Qt::Key_Down);
  QCOMPARE(paramOf(w, "roughness").motion.laps, -1);
}

// Below the value stands how fast it goes, and behind it what else moves.
void TestMotions::speedAndOtherMotionsAreShown() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  auto* pill = oa::app::test::paramRow(w, "noise", "roughness")->findChild<MotionPill*>();
  QVERIFY(oa::app::test::clickInMenu([&] { pill->click(); }, QStringLiteral("Swing")));
  CurveCanvas* canvas = w.curve().canvas();
  canvas->setShowsSpeed(false);
  canvas->setShowsOthers(false);
  const QPointF high = *canvas->bead();
  const QImage plain = canvas->grab().toImage();
  const auto choose = [&](const QString& entry) {
    return oa::app::test::clickInMenu(
        [&] {
          const QPoint at = canvas->rect().center();
          QContextMenuEvent menu(QContextMenuEvent::Mouse, at, canvas->mapToGlobal(at));
          QApplication::sendEvent(canvas, &menu);
        },
        entry);
  };
  QVERIFY(choose(QStringLiteral("Show its speed")));
  QVERIFY(canvas->showsSpeed() && canvas->speedRect().height() > 20);
  const QImage fast = canvas->grab().toImage();
  QVERIFY(fast != plain);
  // The bead stays on its curve, which has less room, and is dragged there.
  const QPointF bead = *canvas->bead();
  QVERIFY(bead.x() == high.x() && bead.y() < canvas->speedRect().top());
  const double far = std::get<double>(paramOf(w, "roughness").motion.far);
  oa::app::test::drag(canvas, bead, bead + QPointF(0, 15));
  QVERIFY(std::get<double>(paramOf(w, "roughness").motion.far) < far);
  w.document().history().undo();
  QVERIFY(choose(QStringLiteral("Show the layer's other motions")));
  QVERIFY(canvas->grab().toImage() != fast);
  QVERIFY(choose(QStringLiteral("Show the layer's other motions")));
  QCOMPARE(canvas->grab().toImage(), fast);
  // At rest where a sine turns round, fastest half-way.
  const ParamAddress at = *w.motions().chosen();
  const SpeedCurve speed = speedPath(w.document().spec(at), w.document().voice(at), QRectF(0, 0, 400, 100), 0, 1, 10);
  const double way = std::abs(far - std::get<double>(paramOf(w, "roughness").base));
  QVERIFY2(std::abs(speed.fastest - M_PI * way * std::abs(paramOf(w, "roughness").motion.laps) / 10) < 0.02 * speed.fastest,
           qPrintable(QString::number(speed.fastest)));
  QVERIFY(std::abs(speed.path.elementAt(0).y - speed.zero) < 1);
  // A place is two numbers, and goes as fast as both together: here by half the frame each way in half the loop.
  const ParamSpec& place = placeSpecs()[static_cast<std::size_t>(PlaceParam::Position)];
  Param position = defaultParam(place);
  position.motion.kind = MotionKind::Keyframes;
  for (const double share : {0.0, 0.5}) placeKeyframe(position.motion, {share, Point{share, 0.5 - share}, {}, false});
  const QRectF box(0, 0, 400, 100);
  const QPainterPath down = downPath(place, position, box, 0, 1);
  QVERIFY(std::abs(down.elementAt(0).y - 100) < 1 && std::abs(down.elementAt(200).y) < 1);
  QVERIFY(std::abs(speedPath(place, position, box, 0, 1, 10, {300, 400}).fastest - 50) < 0.5);
  QVERIFY(downPath(w.document().spec(at), w.document().voice(at), box, 0, 1).isEmpty());
}

void TestMotions::farEndsOfPointsAndColours() {
  Bench bench("dusk.overagain");
  Window& w = bench.window();
  int layer = 0;
  while (w.document().scene().layers[static_cast<std::size_t>(layer)].recipe[0].spec->id != "gradient") ++layer;
  w.document().setCurrentLayer(oa::app::test::layerId(w, layer));
  oa::app::test::turn();
  auto* row = oa::app::test::paramRow(w, "gradient", "to");
  const ParamAddress at = qobject_cast<ParamRow*>(row)->address();
  Motion motion = w.document().param(at).motion;
  if (!motion.moves()) {
    QVERIFY(oa::app::test::clickInMenu([&] { row->findChild<MotionPill*>()->click(); }, QStringLiteral("Swing")));
  }
  w.motions().choose(at);
  auto* across = child<NumberField>(&w, "farEndAcross");
  oa::app::test::typeInto(across, "0.8");
  QCOMPARE(std::get<Point>(w.document().param(at).motion.far).x, 0.8);
  QVERIFY(child<NumberField>(&w, "farEndDown")->isVisible());
}

void TestMotions::ownPaces() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  auto* pace = child<QComboBox>(&w, "pace");
  pace->setCurrentText(QStringLiteral("ease-in"));
  Q_EMIT pace->activated(pace->currentIndex());
  QCOMPARE(w.document().param(*w.motions().chosen()).motion.pace.name(), std::string("ease-in"));
  // The last entry is the user's own: two handles are dragged over the curve of one lap.
  const int own = pace->count() - 1;
  pace->setCurrentIndex(own);
  Q_EMIT pace->activated(own);
  auto* box = child<QWidget>(&w, "paceEditor");
  QTRY_VERIFY(box->isVisible());
  const auto before = w.document().param(*w.motions().chosen()).motion.pace.bezier();
  auto* area = child<QWidget>(&w, "paceCurve");
  const QPointF handle = area->property("firstHandle").toPointF();
  oa::app::test::drag(area, handle, handle + QPointF(15, -25));
  const auto after = w.document().param(*w.motions().chosen()).motion.pace.bezier();
  QVERIFY(after[0] > before[0] && after[1] > before[1]);
  QCOMPARE(after[2], before[2]);
}

void TestMotions::pacesAreChosenWrittenAndKept() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  QSettings().remove(QStringLiteral("paces/saved"));
  auto* pace = child<QComboBox>(&w, "pace");
  pace->setFocus();
  QTest::keyClick(pace, Qt::Key_End);
  auto* box = child<QWidget>(&w, "paceEditor");
  QTRY_VERIFY(box->isVisible());
  const auto now = [&] { return w.document().param(*w.motions().chosen()).motion.pace; };
  // A spring from its picture.
  QTest::mouseClick(child<QToolButton>(box, "readyPace7"), Qt::LeftButton);
  QVERIFY(now().kind() == Pace::Kind::Lines);
  auto* css = child<QLineEdit>(box, "paceCss");
  QVERIFY(css->text().startsWith(QStringLiteral("linear(0, ")));
  QTest::mouseClick(child<QToolButton>(box, "copyPace"), Qt::LeftButton);
  QCOMPARE(QGuiApplication::clipboard()->text().toStdString(), now().css());
  // One that is pasted, as a style sheet has it.
  css->setFocus();
  css->selectAll();
  QGuiApplication::clipboard()->setText(QStringLiteral("animation-timing-function: steps(3, jump-none);"));
  QTest::keyClick(css, Qt::Key_V, Qt::ControlModifier);
  QTest::keyClick(css, Qt::Key_Return);
  QVERIFY(now() == *Pace::fromSteps(3, StepJump::None));
  QCOMPARE(css->text(), QStringLiteral("steps(3, jump-none)"));
  // What cannot be read is said, and changes nothing.
  const int steps = w.document().history().count();
  oa::app::test::typeInto(css, QStringLiteral("linear(0, 0.5)"));
  auto* problem = child<QLabel>(box, "error");
  QVERIFY(problem->isVisible() && problem->text().contains(QStringLiteral("end with 1")));
  QCOMPARE(w.document().history().count(), steps);
  // Kept, it is there again after another one; the right button takes it away.
  QTest::mouseClick(child<QToolButton>(box, "savePace"), Qt::LeftButton);
  QTest::mouseClick(child<QToolButton>(box, "readyPace0"), Qt::LeftButton);
  QVERIFY(now() == Pace());
  auto* kept = child<QToolButton>(box, "savedPace0");
  QTest::mouseClick(kept, Qt::LeftButton);
  QVERIFY(now() == *Pace::fromSteps(3, StepJump::None));
  QContextMenuEvent menu(QContextMenuEvent::Mouse, kept->rect().center(), kept->mapToGlobal(kept->rect().center()));
  QApplication::sendEvent(kept, &menu);
  QVERIFY(!box->findChild<QToolButton*>(QStringLiteral("savedPace0")));
  w.document().history().undo();
  w.document().history().undo();
  QVERIFY(now() == *Pace::fromSteps(3, StepJump::None));
}

void TestMotions::ownHops() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  auto* pill = oa::app::test::paramRow(w, "noise", "roughness")->findChild<MotionPill*>();
  QVERIFY(oa::app::test::clickInMenu([&] { pill->click(); }, QStringLiteral("Hops")));
  const auto list = [&] { return paramOf(w, "roughness").motion.list; };
  const auto at = [&](int frame) {
    const ParamAddress address = *w.motions().chosen();
    return std::get<double>(evaluate(w.document().spec(address), w.document().param(address), {frame, w.document().scene().frames}).value);
  };
  const int frames = w.document().scene().frames;
  QVector<double> random;
  for (int i = 0; i < frames; i += 5) random << at(i);
  // Written down, the random ones go on as they were.
  auto* own = child<QPushButton>(&w, "ownHops");
  QVERIFY(own->isVisible() && !own->isChecked());
  own->click();
  QCOMPARE(list().size(), std::size_t{5});
  for (int i = 0; i < frames; i += 5) QCOMPARE(at(i), random[i / 5]);
  QVERIFY(!child<NumberField>(&w, "knots")->isVisible());
  // A bead is dragged up and down, as one step; sideways it stays in its order.
  CurveCanvas* canvas = w.curve().canvas();
  const double before = std::get<double>(list()[2]);
  const double other = std::get<double>(list()[3]);
  const bool high = canvas->keyPlace(2).y() < canvas->height() / 2.0;
  const int steps = w.document().history().count();
  oa::app::test::drag(canvas, canvas->keyPlace(2), canvas->keyPlace(2) + QPointF(40, high ? 20 : -20));
  QVERIFY(high ? std::get<double>(list()[2]) < before : std::get<double>(list()[2]) > before);
  QCOMPARE(std::get<double>(list()[3]), other);
  QCOMPARE(w.document().history().count(), steps + 1);
  QCOMPARE(canvas->chosenKey(), 2);
  QCOMPARE(at(frames / 2), std::get<double>(list()[2]));
  // Its value as a number.
  auto* number = child<NumberField>(&w, "farEnd");
  oa::app::test::typeInto(number, "90");  // per cent
  QCOMPARE(std::get<double>(list()[2]), 0.9);
  // A double click adds one where it is clicked, Delete removes it; two stay.
  const QRectF loop = canvas->loopRect();
  QTest::mouseDClick(canvas, Qt::LeftButton, Qt::NoModifier, QPoint(static_cast<int>(loop.left() + loop.width() * 0.5), 10));
  QCOMPARE(list().size(), std::size_t{6});
  QCOMPARE(std::get<double>(list()[3]), 0.9);
  QCOMPARE(canvas->chosenKey(), 3);
  // Undo takes the last one away while it is the chosen one.
  canvas->setFocus();
  canvas->chooseKey(5);
  QTest::mouseDClick(canvas, Qt::LeftButton, Qt::NoModifier, QPoint(static_cast<int>(loop.right()) - 4, 10));
  QCOMPARE(canvas->chosenKey(), 6);
  w.document().history().undo();
  QCOMPARE(list().size(), std::size_t{6});
  QCOMPARE(canvas->chosenKey(), 5);
  for (int i = 0; i < 8; ++i) QTest::keyClick(canvas, Qt::Key_Delete);
  QCOMPARE(list().size(), std::size_t{2});
  own->click();
  QVERIFY(list().empty());
  for (int i = 0; i < frames; i += 5) QCOMPARE(at(i), random[i / 5]);
}

void TestMotions::aSwitchIsSet() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  auto* pill = oa::app::test::paramRow(w, "noise", "roughness")->findChild<MotionPill*>();
  QVERIFY(oa::app::test::clickInMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); }, QStringLiteral("Switch")));
  const auto motion = [&] { return paramOf(w, "roughness").motion; };
  QVERIFY(motion().kind == MotionKind::Switch);
  auto* row = child<QWidget>(&w, "switchRow");
  QVERIFY(row->isVisible());
  // Without a sound there is nothing else to switch it.
  QVERIFY(!child<QComboBox>(&w, "switchBy")->isVisible());
  oa::app::test::typeInto(child<NumberField>(row, "switch-on"), "30");
  QCOMPARE(motion().shares.hold, 0.3);
  oa::app::test::typeInto(child<NumberField>(row, "switch-up"), "90");
  QVERIFY(std::abs(motion().shares.up - 0.9) < 1e-9 && std::abs(motion().shares.hold - 0.1) < 1e-9 && motion().shares.down < 1e-9);
  w.activateWindow();
  QVERIFY(QTest::qWaitForWindowActive(&w));
  QTest::keyClick(child<NumberField>(row, "switch-up"), Qt::Key_Z, Qt::ControlModifier);
  QVERIFY2(std::abs(motion().shares.hold - 0.3) < 1e-9,
           qPrintable(QStringLiteral("%1 %2").arg(motion().shares.up).arg(motion().shares.hold)));
  // A drag to the end and back changes the other shares in nothing.
  const HoldShares before = motion().shares;
  auto* down = child<NumberField>(row, "switch-down");
  const QPointF middle = QRectF(down->rect()).center();
  QTest::mousePress(down, Qt::LeftButton, Qt::NoModifier, middle.toPoint());
  for (const int by : {10, 60, 300, 900, 300, 60, 10, 0}) {
    QMouseEvent move(QEvent::MouseMove, middle + QPointF(by, 0), down->mapToGlobal(middle + QPointF(by, 0)), Qt::LeftButton, Qt::LeftButton,
                     Qt::NoModifier);
    QApplication::sendEvent(down, &move);
    if (by == 900) QVERIFY(motion().shares.down > 0.95 && motion().shares.hold < 0.05);
  }
  QTest::mouseRelease(down, Qt::LeftButton, Qt::NoModifier, middle.toPoint());
  QVERIFY(std::abs(motion().shares.up - before.up) < 1e-9 && std::abs(motion().shares.hold - before.hold) < 1e-9);
  // What flickers may change so many times a lap, and at random.
  auto* changes = child<NumberField>(&w, "knots");
  QVERIFY(!changes->isVisible());
  oa::app::test::typeInto(child<NumberField>(row, "switch-flicker"), "60");
  QVERIFY(changes->isVisible());
  oa::app::test::typeInto(changes, "12");
  QCOMPARE(motion().flicker, 0.6);
  QCOMPARE(motion().knots, 12);
  // A swing that holds has the same shares, and no flicker.
  QVERIFY(oa::app::test::clickInMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); }, QStringLiteral("Swing")));
  QVERIFY(!row->isVisible());
  for (auto* box : w.curve().findChildren<QComboBox*>())
    if (box->findText(QStringLiteral("hold")) >= 0 && box->findText(QStringLiteral("sine")) >= 0) {
      box->setFocus();
      QTest::keyClick(box, Qt::Key_End);
    }
  QVERIFY(row->isVisible() && !child<NumberField>(row, "switch-flicker")->isVisible());
}

void TestMotions::theDialScrubsAcrossTheJoint() {
  Bench bench;
  Window& w = bench.window();
  Dial& dial = w.dial();
  const auto on = [&](double share) {
    const double a = 2 * M_PI * share;
    return dial.centre() + QPointF(std::sin(a), -std::cos(a)) * (dial.radius() - 10);
  };
  oa::app::test::drag(&dial, on(0.25), on(0.25), 1);
  QVERIFY(std::abs(w.player().frame() - 75) <= 1);
  // Over twelve o'clock: the frames go on past the last one to the first.
  QTest::mousePress(&dial, Qt::LeftButton, Qt::NoModifier, on(0.98).toPoint());
  QVERIFY(w.player().frame() > 285);
  QList<int> seen;
  connect(&w.player(), &Player::frameChanged, this, [&](int f) { seen << f; });
  for (const double share : {0.99, 0.01, 0.03}) {
    QMouseEvent move(QEvent::MouseMove, on(share), dial.mapToGlobal(on(share)), Qt::NoButton, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&dial, &move);
  }
  QTest::mouseRelease(&dial, Qt::LeftButton, Qt::NoModifier, on(0.03).toPoint());
  QVERIFY(seen.size() == 3 && seen[0] > 290 && seen[1] < 10 && seen[2] < 15);
}

void TestMotions::theDialPlays() {
  Bench bench;
  Window& w = bench.window();
  QTest::mouseClick(&w.dial(), Qt::LeftButton, Qt::NoModifier, w.dial().centre().toPoint());
  QVERIFY(w.player().playing());
  QTest::mouseClick(&w.dial(), Qt::LeftButton, Qt::NoModifier, w.dial().centre().toPoint());
  QVERIFY(!w.player().playing());
  w.dial().setFocus();
  const int before = w.player().frame();
  QTest::keyClick(&w.dial(), Qt::Key_Right);
  QCOMPARE(w.player().frame(), before + 1);
}

void TestMotions::theListFollowsTheLayer() {
  Bench bench;
  Window& w = bench.window();
  auto* list = w.motions().findChild<QListWidget*>();
  for (int i = 0; i < static_cast<int>(w.document().scene().layers.size()); ++i) {
    w.document().setCurrentLayer(oa::app::test::layerId(w, i));
    int moving = 0;
    const Layer& layer = *w.document().layer();
    for (const RecipeStep& step : layer.recipe)
      for (std::size_t p = 0; p < step.params.size(); ++p)
        moving += step.spec->params[p].canMove() && isShown(step.spec->params, step.params, p) &&
                  reallyMoves(step.spec->params[p], step.params[p]);
    moving += reallyMoves(opacitySpec(), layer.opacity);
    QCOMPARE(list->count(), moving);
  }
}

QTEST_MAIN(TestMotions)
#include "tst_motions.moc"
