// Values that follow others, and formulas that are written: their rows above the curve, as they are used.
#include <QAction>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QTest>
#include <QToolButton>

#include "support/counted.h"
#include "support/hands.h"
#include "widgets/curve_view.h"
#include "widgets/motion_list.h"
#include "widgets/motion_pill.h"
#include "widgets/number_field.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;
using oa::app::test::child;
using oa::app::test::clickInMenu;

namespace {

const Param& paramOf(Window& w, const char* row) { return w.document().param(oa::app::test::paramRow(w, "noise", row)->address()); }

bool choose(Window& w, const char* row, const QString& motion) {
  auto* pill = oa::app::test::paramRow(w, "noise", row)->findChild<MotionPill*>();
  return clickInMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); }, motion);
}

QWidget* rowOf(Window& w, const char* name) { return child<QWidget>(&w, name); }

}  // namespace

class TestWritten : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void aFormulaIsTyped();
  void whatCannotBeReadStays();
  void aFormulaIsClosed();
  void functionsAreOffered();
  void aValueFollows();
  void whatItFollowedGoes();
  void jobsAreCounted();
};

void TestWritten::aFormulaIsTyped() {
  Bench bench("sea-fog.overagain");
  bench.activate();
  Window& w = bench.window();
  QVERIFY(choose(w, "roughness", QStringLiteral("Formula")));
  QVERIFY(paramOf(w, "roughness").motion.kind == MotionKind::Formula);
  QVERIFY(rowOf(w, "formulaRow")->isVisible());
  auto* words = child<QLineEdit>(&w, "formula");
  QCOMPARE(words->text().toStdString(), Formula().text());
  QCOMPARE(child<QToolButton>(&w, "formulaJoint")->text(), QStringLiteral("Closes"));
  const QImage before = w.curve().canvas()->grab().toImage();
  const int steps = w.document().history().count();
  words->setFocus();
  words->selectAll();
  QTest::keyClicks(words, QStringLiteral("cos(2*angle)"));
  QTest::keyClick(words, Qt::Key_Return);
  QCOMPARE(paramOf(w, "roughness").motion.formula.text(), std::string("cos(2*angle)"));
  QVERIFY(w.curve().canvas()->grab().toImage() != before);
  // All that was typed is one step.
  QCOMPARE(w.document().history().count(), steps + 1);
  w.document().history().undo();
  QCOMPARE(words->text().toStdString(), Formula().text());
  QVERIFY(choose(w, "roughness", QStringLiteral("Swing")));
  QVERIFY(!rowOf(w, "formulaRow")->isVisible());
}

void TestWritten::whatCannotBeReadStays() {
  Bench bench("sea-fog.overagain");
  bench.activate();
  Window& w = bench.window();
  QVERIFY(choose(w, "roughness", QStringLiteral("Formula")));
  auto* words = child<QLineEdit>(&w, "formula");
  auto* row = rowOf(w, "formulaRow");
  auto* problem = child<QLabel>(row, "error");
  QVERIFY(!problem->isVisible());
  words->setFocus();
  words->selectAll();
  QTest::keyClicks(words, QStringLiteral("sin(angl)"));
  QVERIFY(problem->isVisible());
  QVERIFY(problem->text().contains(QStringLiteral("angl")));
  QCOMPARE(words->text(), QStringLiteral("sin(angl)"));
  // What it was last goes on: that of the way there which could be read.
  QVERIFY(paramOf(w, "roughness").motion.formula.text() != "sin(angl)");
  // Something else changes meanwhile: what is typed stays.
  w.document().setBase(oa::app::test::paramRow(w, "noise", "roughness")->address(), 0.4, false);
  QCOMPARE(words->text(), QStringLiteral("sin(angl)"));
  QTest::keyClick(words, Qt::Key_Left);
  QTest::keyClicks(words, QStringLiteral("e"));
  QCOMPARE(paramOf(w, "roughness").motion.formula.text(), std::string("sin(angle)"));
  QVERIFY(!problem->isVisible());
}

void TestWritten::aFormulaIsClosed() {
  Bench bench("sea-fog.overagain");
  bench.activate();
  Window& w = bench.window();
  QVERIFY(choose(w, "roughness", QStringLiteral("Formula")));
  auto* joint = child<QToolButton>(&w, "formulaJoint");
  oa::app::test::typeInto(child<QLineEdit>(&w, "formula"), QStringLiteral("t^2"));
  QCOMPARE(joint->text(), QStringLiteral("Jumps at the joint"));
  for (const auto& [entry, closing] : {std::pair{QStringLiteral("Blend"), FormulaClosing::Blend},
                                       std::pair{QStringLiteral("There and back"), FormulaClosing::ThereAndBack}}) {
    QVERIFY(clickInMenu([&] { QTest::mouseClick(joint, Qt::LeftButton); }, entry));
    QVERIFY(paramOf(w, "roughness").motion.formula.closing() == closing);
    QCOMPARE(joint->text(), QStringLiteral("Closes"));
    QCOMPARE(child<QLineEdit>(&w, "formula")->text(), QStringLiteral("t^2"));
  }
  QVERIFY(clickInMenu([&] { QTest::mouseClick(joint, Qt::LeftButton); }, QStringLiteral("Level")));
  QCOMPARE(joint->text(), QStringLiteral("Corner at the joint"));
  w.document().history().undo();
  QVERIFY(paramOf(w, "roughness").motion.formula.closing() == FormulaClosing::ThereAndBack);
}

void TestWritten::functionsAreOffered() {
  Bench bench("sea-fog.overagain");
  bench.activate();
  Window& w = bench.window();
  QVERIFY(choose(w, "roughness", QStringLiteral("Formula")));
  auto* words = child<QLineEdit>(&w, "formula");
  oa::app::test::typeInto(words, QStringLiteral("0.5 * "));
  words->setFocus();
  words->end(false);
  auto* known = child<QToolButton>(&w, "formulaFunctions");
  QVERIFY(clickInMenu([&] { QTest::mouseClick(known, Qt::LeftButton); }, QStringLiteral("sin, cos, tan")));
  // The cursor stands where its angle goes.
  QTest::keyClicks(words, QStringLiteral("angle"));
  QVERIFY2(words->text().endsWith(QStringLiteral("sin(angle)")), qPrintable(words->text()));
  QVERIFY2(paramOf(w, "roughness").motion.formula.text() == "0.5 * sin(angle)", paramOf(w, "roughness").motion.formula.text().c_str());
}

void TestWritten::aValueFollows() {
  Bench bench("sea-fog.overagain");
  bench.activate();
  Window& w = bench.window();
  QVERIFY(choose(w, "stretch", QStringLiteral("Swing")));
  QVERIFY(choose(w, "roughness", QStringLiteral("Follow")));
  const Motion& motion = paramOf(w, "roughness").motion;
  QVERIFY(motion.kind == MotionKind::Follow);
  QVERIFY(motion.bound.leader != nullptr);
  auto* leader = child<QToolButton>(&w, "leader");
  QVERIFY(leader->isVisible());
  QVERIFY(!child<NumberField>(&w, "laps")->isVisible());
  // Another one is chosen, and how much later and larger it is.
  QVERIFY(clickInMenu([&] { QTest::mouseClick(leader, Qt::LeftButton); },
                      QStringLiteral("%1, Noise · Stretch").arg(QString::fromStdString(w.document().layer()->name))));
  QCOMPARE(paramOf(w, "roughness").motion.follows.param, std::string("stretch"));
  QVERIFY2(leader->toolTip().contains(QStringLiteral("Stretch")), qPrintable(leader->toolTip()));
  oa::app::test::typeInto(child<NumberField>(&w, "followDelay"), QStringLiteral("25"));
  QVERIFY(std::abs(paramOf(w, "roughness").motion.start - 0.75) < 1e-9);
  oa::app::test::typeInto(child<NumberField>(&w, "followScale"), QStringLiteral("-2"));
  QCOMPARE(paramOf(w, "roughness").motion.scale, -2.0);
  // It does what the other does: when that is changed, its curve is another.
  const QImage before = w.curve().canvas()->grab().toImage();
  ParamAddress led = oa::app::test::paramRow(w, "noise", "stretch")->address();
  Motion other = w.document().param(led).motion;
  other.laps = 3;
  w.document().setMotion(led, other, false);
  QVERIFY(w.curve().canvas()->grab().toImage() != before);
  QCOMPARE(lapsOf(w.document().spec(led), paramOf(w, "roughness")), std::int64_t{3});
}

void TestWritten::whatItFollowedGoes() {
  Bench bench("sea-fog.overagain");
  bench.activate();
  Window& w = bench.window();
  QVERIFY(choose(w, "stretch", QStringLiteral("Swing")));
  QVERIFY(choose(w, "roughness", QStringLiteral("Follow")));
  const ParamAddress at = oa::app::test::paramRow(w, "noise", "roughness")->address();
  w.document().edit(QStringLiteral("another"), {}, [&](Scene& scene) { Document::param(scene, at).motion.follows.param = "nothing"; });
  // Looked at again, it is said.
  auto* pill = oa::app::test::paramRow(w, "noise", "roughness")->findChild<MotionPill*>();
  (void)oa::app::test::entriesOfMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); });
  auto* leader = child<QToolButton>(&w, "leader");
  QVERIFY(leader->isVisible());
  QVERIFY(leader->text().contains(QStringLiteral("gone")));
  QVERIFY(!reallyMoves(w.document().spec(at), w.document().param(at)));
  // Chosen anew, it follows what there is.
  QVERIFY(choose(w, "roughness", QStringLiteral("Follow")));
  QVERIFY(reallyMoves(w.document().spec(at), w.document().param(at)));
  QVERIFY(!leader->text().contains(QStringLiteral("gone")));
}

void TestWritten::jobsAreCounted() {
  using oa::app::test::Hands;
  {
    Bench bench("paper-swell.overagain");
    bench.activate();
    Window& w = bench.window();
    // The sun is to go where the boat goes.
    const auto layerOf = [&](const char* name) {
      Id id = 0;
      forEachLayer(w.document().scene().layers, [&](const Layer& layer, int) {
        if (layer.name == name) id = layer.id;
      });
      return id;
    };
    w.document().setCurrentLayer(layerOf("Sun"));
    const ParamAddress at{layerOf("Sun"), ParamAddress::kPlace, static_cast<int>(PlaceParam::Position)};
    Hands hands(w);
    // The card of its place is unfolded for it.
    for (auto* button : w.findChildren<QToolButton*>())
      if (button->accessibleName() == QStringLiteral("Fold Place")) hands.click(button, button->rect().center());
    MotionPill* pill = nullptr;
    for (ParamRow* row : w.findChildren<ParamRow*>())
      if (row->address() == at) pill = row->findChild<MotionPill*>();
    QVERIFY(pill && pill->isVisible());
    hands.count();
    hands.count();
    QVERIFY(clickInMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); }, QStringLiteral("Follow")));
    auto* leader = child<QToolButton>(&w, "leader");
    hands.count();
    hands.count();
    QVERIFY(clickInMenu([&] { QTest::mouseClick(leader, Qt::LeftButton); }, QStringLiteral("Paper boat, Place · Position")));
    oa::app::test::told("a layer that goes where another goes, a little later", hands, 6);
    const Motion& motion = w.document().param(at).motion;
    QCOMPARE(motion.follows.layer, layerOf("Paper boat"));
    QVERIFY(std::abs(motion.start - 0.9) < 1e-9);
    QVERIFY(reallyMoves(w.document().spec(at), w.document().param(at)));
  }
  {
    Bench bench("sea-fog.overagain");
    bench.activate();
    Window& w = bench.window();
    Hands hands(w);
    hands.count();
    hands.count();
    QVERIFY(choose(w, "roughness", QStringLiteral("Formula")));
    hands.typeInto(child<QLineEdit>(&w, "formula"), QStringLiteral("exp(t)"), true);
    auto* joint = child<QToolButton>(&w, "formulaJoint");
    hands.count();
    QVERIFY(clickInMenu([&] { QTest::mouseClick(joint, Qt::LeftButton); }, QStringLiteral("There and back")));
    oa::app::test::told("a value that goes by a formula which closes", hands, 5);
    QVERIFY(!paramOf(w, "roughness").motion.formula.joint().jumps());
  }
}

QTEST_MAIN(TestWritten)
#include "tst_written.moc"
