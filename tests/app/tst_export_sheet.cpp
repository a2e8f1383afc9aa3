// Exporting from the window: the file is read by an independent reader; a cancel leaves nothing.
#include <QComboBox>
#include <QDir>
#include <QFileInfo>
#include <QLabel>
#include <QLineEdit>
#include <QProgressBar>
#include <QPushButton>
#include <QSpinBox>
#include <QTemporaryDir>
#include <QTest>

#include "sheets/export_sheet.h"
#include "support/files.h"
#include "support/hands.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;
using oa::app::test::child;

class TestExportSheet : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void exportsWhatIsShown();
  void cancelLeavesNothing();
  void failuresAreExplained();
  void theRestStaysUsable();
  void formatsShowTheirOwnChoices();
  void quicklyIsLarger();
};

namespace {

void choose(QComboBox* box, int index) {
  box->setCurrentIndex(index);
  Q_EMIT box->activated(index);
}

void open(Bench& bench, const QString& target, int format, int size) {
  QTest::keyClick(&bench.window(), Qt::Key_E, Qt::ControlModifier);
  choose(child<QComboBox>(&bench->exportSheet(), "format"), format);
  choose(child<QComboBox>(&bench->exportSheet(), "size"), size);
  child<QLineEdit>(&bench->exportSheet(), "target")->setText(target);
}

QPushButton* startButton(Bench& bench) { return child<QPushButton>(&bench->exportSheet(), "primary"); }

}  // namespace

void TestExportSheet::exportsWhatIsShown() {
  Bench bench("dusk.overagain");
  bench->document().edit(QStringLiteral("short"), {}, [](Scene& s) { s.frames = 24; });
  const QTemporaryDir folder;
  const QString target = folder.filePath(QStringLiteral("dusk.mp4"));
  open(bench, target, 0, 2);  // MP4 at a quarter of the size
  child<QSpinBox>(&bench->exportSheet(), "loops")->setValue(2);
  QVERIFY(bench->exportSheet().isVisible());
  QTest::mouseClick(startButton(bench), Qt::LeftButton);
  QVERIFY(QTest::qWaitFor([&] { return !bench->exportSheet().running(); }, 120000));
  const QJsonObject stream = oa::test::probe(target);
  QCOMPARE(stream["nb_read_frames"].toString().toInt(), 48);
  QCOMPARE(stream["width"].toInt(), bench->document().scene().width / 4);
  QVERIFY(child<QLabel>(&bench->exportSheet(), "exportMessage")->text().contains(QStringLiteral("dusk.mp4")));
}

void TestExportSheet::cancelLeavesNothing() {
  for (const int format : {0, 1, 2, 3}) {
    Bench bench;
    const QTemporaryDir folder;
    const char* const names[] = {"a.mp4", "a.webm", "a.gif", "pictures_%04d.png"};
    open(bench, folder.filePath(QLatin1String(names[format])), format, 0);
    QTest::mouseClick(startButton(bench), Qt::LeftButton);
    auto* cancel = child<QPushButton>(&bench->exportSheet(), "cancelExport");
    QVERIFY(QTest::qWaitFor([&] { return cancel->isVisible() && bench->exportSheet().findChild<QProgressBar*>()->value() > 0; }, 60000));
    QVERIFY(bench->exportSheet().running());
    QTest::mouseClick(cancel, Qt::LeftButton);
    QVERIFY(QTest::qWaitFor([&] { return !bench->exportSheet().running(); }, 30000));
    QCOMPARE(QDir(folder.path()).entryList(QDir::AllEntries | QDir::Hidden | QDir::NoDotAndDotDot), QStringList());
    QVERIFY(!cancel->isVisible() && startButton(bench)->isEnabled());
  }
}

void TestExportSheet::failuresAreExplained() {
  Bench bench("dusk.overagain");
  open(bench, QStringLiteral("/proc/no/dusk.mp4"), 0, 2);
  QTest::mouseClick(startButton(bench), Qt::LeftButton);
  QVERIFY(QTest::qWaitFor([&] { return !bench->exportSheet().running(); }, 30000));
  const QString said = child<QLabel>(&bench->exportSheet(), "exportMessage")->text();
  QVERIFY2(said.contains(QStringLiteral("/proc/no/dusk.mp4")) && said.contains(QStringLiteral("no such file or folder")), qPrintable(said));
  open(bench, QString(), 0, 2);
  QTest::mouseClick(startButton(bench), Qt::LeftButton);
  QVERIFY(QTest::qWaitFor([&] { return !bench->exportSheet().running(); }, 30000));
  QCOMPARE(child<QLabel>(&bench->exportSheet(), "exportMessage")->text(), QStringLiteral("Not exported: no file name was given."));
}

void TestExportSheet::theRestStaysUsable() {
  // What is changed while exporting shows at once, and does not change the file.
  Bench bench;
  const QTemporaryDir folder;
  const QString target = folder.filePath(QStringLiteral("a.mp4"));
  open(bench, target, 0, 2);
  QTest::mouseClick(startButton(bench), Qt::LeftButton);
  QVERIFY(bench->exportSheet().running());
  QTest::keyClick(&bench.window(), Qt::Key_D, Qt::ControlModifier);
  bench->document().edit(QStringLiteral("frames"), {}, [](Scene& s) { s.frames = 7; });
  QCOMPARE(bench->document().scene().frames, 7);
  QVERIFY(QTest::qWaitFor([&] { return !bench->exportSheet().running(); }, 240000));
  QCOMPARE(oa::test::probe(target)["nb_read_frames"].toString().toInt(), 300);
}

void TestExportSheet::formatsShowTheirOwnChoices() {
  Bench bench("dusk.overagain");
  open(bench, QStringLiteral("loop.mp4"), 0, 0);
  auto* target = child<QLineEdit>(&bench->exportSheet(), "target");
  choose(child<QComboBox>(&bench->exportSheet(), "format"), 6);
  QVERIFY(target->text().endsWith(QStringLiteral(".gif")));
  const auto shows = [&](const char* name) {
    for (auto* box : bench->exportSheet().findChildren<QWidget*>())
      if (box->accessibleName() == QLatin1String(name)) return box->isVisible();
    return false;
  };
  QVERIFY(shows("Dither") && !shows("Depth"));
  choose(child<QComboBox>(&bench->exportSheet(), "format"), 9);
  QVERIFY(!shows("Dither") && shows("Depth"));
  choose(child<QComboBox>(&bench->exportSheet(), "format"), 2);
  QVERIFY(target->text().endsWith(QStringLiteral(".webm")));
}

// The same pictures with less search for what is alike in them: all are there, in more bytes.
void TestExportSheet::quicklyIsLarger() {
  Bench bench("dusk.overagain");
  bench->document().edit(QStringLiteral("short"), {}, [](Scene& s) { s.frames = 12; });
  const QTemporaryDir folder;
  const auto bytes = [&](const QString& name) {
    open(bench, folder.filePath(name), 0, 2);
    QTest::mouseClick(startButton(bench), Qt::LeftButton);
    if (!QTest::qWaitFor([&] { return !bench->exportSheet().running(); }, 120000)) return qint64{-1};
    return oa::test::probe(folder.filePath(name))["nb_read_frames"].toString() == QLatin1String("12")
               ? QFileInfo(folder.filePath(name)).size()
               : qint64{-1};
  };
  const qint64 well = bytes(QStringLiteral("well.mp4"));
  auto* const quality = child<QComboBox>(&bench->exportSheet(), "quality");
  quality->setFocus();
  QTest::keyClick(quality, Qt::Key_Home);
  QVERIFY2(quality->currentText().startsWith(QStringLiteral("Quick")), qPrintable(quality->currentText()));
  const qint64 quickly = bytes(QStringLiteral("quickly.mp4"));
  QVERIFY2(well > 0 && quickly > 1.05 * well, qPrintable(QStringLiteral("%1 %2").arg(well).arg(quickly)));
}

QTEST_MAIN(TestExportSheet)
#include "tst_export_sheet.moc"
