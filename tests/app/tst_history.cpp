// The history as a list of pictures, and two states of a scene compared.
#include <QLabel>
#include <QListWidget>
#include <QPushButton>
#include <QTest>

#include "model/comparison.h"
#include "sheets/history_sheet.h"
#include "support/hands.h"
#include "support/scenes.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;
using oa::app::test::child;

namespace {

// A scene that was changed three times, each time another grey.
struct Changed {
  Changed() {
    bench.activate();
    for (const float grey : {0.2f, 0.5f, 0.9f})
      w.document().edit(QStringLiteral("grey %1").arg(static_cast<double>(grey)), {}, [&](Scene& scene) {
        scene.layers.clear();
        scene.background = Colour{grey, grey, grey, 1};
      });
  }
  void open() {
    QTest::keyClick(&w, Qt::Key_Z, Qt::ControlModifier | Qt::AltModifier);
    list = child<QListWidget>(&w, "history");
    QVERIFY(list && list->isVisible());
  }
  [[nodiscard]] QRect row(int at) const { return list->visualItemRect(list->item(at)); }
  void click(int at) const { QTest::mouseClick(list->viewport(), Qt::LeftButton, Qt::NoModifier, row(at).center()); }
  // The box in front of the picture.
  void tick(int at) const {
    QTest::mouseClick(list->viewport(), Qt::LeftButton, Qt::NoModifier, {row(at).left() + 12, row(at).center().y()});
  }
  [[nodiscard]] double grey() const { return static_cast<double>(w.document().scene().background->r); }
  // What the picture shows at a share of its frame's width, 0 to 255.
  [[nodiscard]] int shownAt(double share) const {
    const QRectF frame = w.view().frameRect();
    return w.view()
        .grab()
        .toImage()
        .pixelColor((QPointF(frame.left() + share * frame.width(), frame.center().y()) * w.devicePixelRatioF()).toPoint())
        .red();
  }
  [[nodiscard]] bool shows(double share, double grey) const {
    return QTest::qWaitFor([&] { return std::abs(shownAt(share) - grey * 255) < 3; }, 20000);
  }

  Bench bench{"sea-fog.overagain"};
  Window& w = bench.window();
  QListWidget* list = nullptr;
};

}  // namespace

class TestHistory : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void statesArePicturesToGoTo();
  void theListFollowsWhatIsDone();
  void aStateIsComparedWith();
  void theLineIsDragged();
  void nowIsKeptForComparing();
  void whatIsComparedOutlivesItsStep();
};

void TestHistory::statesArePicturesToGoTo() {
  Changed scene;
  scene.open();
  QCOMPARE(scene.list->count(), 4);
  QCOMPARE(scene.list->item(0)->text(), QStringLiteral("grey 0.9"));
  QCOMPARE(scene.list->item(3)->text(), QStringLiteral("As it was opened"));
  QCOMPARE(scene.list->currentRow(), 0);
  QVERIFY(QTest::qWaitFor([&] { return scene.w.historySheet().pictured(); }, 30000));
  // Each has its own picture.
  const auto middle = [&](int at) { return scene.list->item(at)->icon().pixmap(80, 45).toImage().pixelColor(40, 22).red(); };
  QVERIFY2(std::abs(middle(0) - 230) < 4 && std::abs(middle(1) - 128) < 4 && std::abs(middle(2) - 51) < 4,
           qPrintable(QStringLiteral("%1 %2 %3").arg(middle(0)).arg(middle(1)).arg(middle(2))));
  scene.click(2);
  QVERIFY(std::abs(scene.grey() - 0.2) < 1e-6);
  QCOMPARE(scene.w.document().stateNow(), 1);
  // Those that were taken back stay to be gone to; by keys as well.
  oa::app::test::turn();
  QCOMPARE(scene.list->count(), 4);
  scene.list->setFocus();
  QTest::keyClick(scene.list, Qt::Key_Up);
  QVERIFY(std::abs(scene.grey() - 0.5) < 1e-6);
  QTest::keyClick(scene.list, Qt::Key_Home);
  QVERIFY(std::abs(scene.grey() - 0.9) < 1e-6);
}

void TestHistory::theListFollowsWhatIsDone() {
  Changed scene;
  scene.open();
  QTest::keyClick(&scene.w, Qt::Key_Z, Qt::ControlModifier);
  oa::app::test::turn();
  QCOMPARE(scene.list->currentRow(), 1);
  // Something else instead: what was taken back is gone.
  scene.w.document().edit(QStringLiteral("other"), {}, [](Scene& s) { s.background = Colour{0, 0, 0, 1}; });
  oa::app::test::turn();
  QCOMPARE(scene.list->count(), 4);
  QCOMPARE(scene.list->item(0)->text(), QStringLiteral("other"));
  QCOMPARE(scene.list->currentRow(), 0);
}

void TestHistory::aStateIsComparedWith() {
  Changed scene;
  scene.open();
  QVERIFY(!child<QPushButton>(&scene.w, "look-0")->isVisible());
  scene.tick(2);
  QVERIFY(scene.w.comparison().there());
  QVERIFY(std::abs(scene.grey() - 0.9) < 1e-6);  // a tick goes nowhere
  QVERIFY(child<QPushButton>(&scene.w, "look-0")->isVisible());
  QVERIFY(scene.shows(0.2, 0.9) && scene.shows(0.8, 0.2));
  QTest::mouseClick(child<QPushButton>(&scene.w, "look-2"), Qt::LeftButton);
  QVERIFY(scene.shows(0.2, 0.2) && scene.shows(0.8, 0.2));
  // The key exchanges them.
  QTest::keyClick(&scene.w.view(), Qt::Key_C);
  QVERIFY(scene.shows(0.2, 0.9) && scene.shows(0.8, 0.9));
  QVERIFY(child<QPushButton>(&scene.w, "look-1")->isChecked());
  // Another one instead, and none.
  scene.tick(1);
  QVERIFY(scene.shows(0.8, 0.5));
  QCOMPARE(scene.list->item(2)->checkState(), Qt::Unchecked);
  // A is whatever state one goes to.
  scene.click(2);
  QVERIFY(scene.shows(0.2, 0.2) && scene.shows(0.8, 0.5));
  QTest::mouseClick(child<QPushButton>(&scene.w, "compareStop"), Qt::LeftButton);
  QVERIFY(!scene.w.comparison().there());
  QVERIFY(scene.shows(0.8, 0.2));
  for (int at = 0; at < 4; ++at) QCOMPARE(scene.list->item(at)->checkState(), Qt::Unchecked);
}

void TestHistory::theLineIsDragged() {
  Changed scene;
  scene.open();
  scene.tick(1);
  QVERIFY(scene.shows(0.4, 0.9) && scene.shows(0.6, 0.5));
  const QRectF frame = scene.w.view().frameRect();
  const int steps = scene.w.document().history().count();
  oa::app::test::drag(&scene.w.view(), frame.center(), {frame.left() + frame.width() * 0.25, frame.center().y()});
  QVERIFY(std::abs(scene.w.view().split() - 0.25) < 0.02);
  QVERIFY(scene.shows(0.4, 0.5) && scene.shows(0.1, 0.9));
  QCOMPARE(scene.w.view().frameRect(), frame);  // and the picture stays where it is
  QCOMPARE(scene.w.document().history().count(), steps);
}

void TestHistory::nowIsKeptForComparing() {
  Changed scene;
  QTest::keyClick(&scene.w.view(), Qt::Key_C, Qt::ShiftModifier);
  QVERIFY(scene.w.comparison().there());
  scene.w.document().edit(QStringLiteral("on"), {}, [](Scene& s) { s.background = Colour{0, 0, 0, 1}; });
  QVERIFY(scene.shows(0.2, 0) && scene.shows(0.8, 0.9));
  // Another scene ends it.
  scene.w.begin(oa::test::demoScene("dusk.overagain"));
  QVERIFY(!scene.w.comparison().there());
}

void TestHistory::whatIsComparedOutlivesItsStep() {
  Changed scene;
  QTest::keyClick(&scene.w.view(), Qt::Key_C, Qt::ShiftModifier);
  QTest::keyClick(&scene.w, Qt::Key_Z, Qt::ControlModifier);
  scene.w.document().edit(QStringLiteral("else"), {}, [](Scene& s) { s.background = Colour{0, 0, 0, 1}; });
  QVERIFY(scene.shows(0.2, 0) && scene.shows(0.8, 0.9));
  scene.open();
  for (int at = 0; at < scene.list->count(); ++at) QCOMPARE(scene.list->item(at)->checkState(), Qt::Unchecked);
  QVERIFY(child<QPushButton>(&scene.w, "look-0")->isChecked());
}

QTEST_MAIN(TestHistory)
#include "tst_history.moc"
