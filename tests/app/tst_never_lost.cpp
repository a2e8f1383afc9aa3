// Work is never lost: names, questions before anything is replaced, the journal and what it brings back, kill -9.
#include <fcntl.h>
#include <sys/file.h>
#include <unistd.h>

#include <QAbstractButton>
#include <QAbstractItemView>
#include <QCheckBox>
#include <QColorDialog>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QDir>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMessageBox>
#include <QProcess>
#include <QPushButton>
#include <QRandomGenerator>
#include <QTemporaryDir>
#include <QTest>
#include <csignal>
#include <vector>

#include "model/journal.h"
#include "scene/scene_file.h"
#include "sheets/export_sheet.h"
#include "sheets/recovery_dialog.h"
#include "support/files.h"
#include "support/hands.h"
#include "support/scenes.h"
#include "top_bar.h"
#include "widgets/ask_colour.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::answerBox;
using oa::app::test::Bench;
using oa::app::test::child;

namespace {

QStringList contents(const QString& folder) {
  return QDir(folder).entryList(QDir::AllEntries | QDir::Hidden | QDir::NoDotAndDotDot, QDir::Name);
}

// Types a name into the chooser that `opening` shows and accepts it; then presses `answer` in the box that asks, if one does.
// Tells whether it asked.
bool chooseFile(const std::function<void()>& opening, const QString& path, QMessageBox::StandardButton answer) {
  bool typed = false;
  bool asked = false;
  QTimer timer;
  QObject::connect(&timer, &QTimer::timeout, [&] {
    QWidget* modal = QApplication::activeModalWidget();
    if (auto* box = qobject_cast<QMessageBox*>(modal)) {
      asked = true;
      box->button(answer)->click();
    } else if (auto* chooser = qobject_cast<QFileDialog*>(modal); chooser && !typed) {
      typed = true;
      auto* line = chooser->findChild<QLineEdit*>("fileNameEdit");
      // Set at once: the chooser's completion would finish the name while it is typed.
      line->setText(path);
      QTest::mouseClick(chooser->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Save), Qt::LeftButton);
    }
  });
  timer.start(30);
  opening();
  return asked;
}

void keepOpenDialogsOurs() { QCoreApplication::setAttribute(Qt::AA_DontUseNativeDialogs); }

}  // namespace

class TestNeverLost : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void initTestCase() { keepOpenDialogsOurs(); }
  void exportTakesItsNameFromTheScene();
  void exportAsksBeforeItReplaces();
  void saveAsAsksWhenItCompletesAName();
  void theScenesNameIsChangedInTheWindow();
  void cancellingTheBackgroundChangesNothing();
  void keepTransparencySurvivesOtherChanges();
  void theJournalKeepsUp();
  void savingClosesTheJournal();
  void theNextStartOffersWhatWasThere();
  void twoProgramsDoNotFight();
  void killedAtAnyMoment();
};

void TestNeverLost::exportTakesItsNameFromTheScene() {
  Bench bench("dusk.overagain");
  auto* target = child<QLineEdit>(&bench->exportSheet(), "target");
  QVERIFY2(target->text().endsWith("/dusk-over-the-harbour.mp4"), qPrintable(target->text()));
  auto* name = child<QLineEdit>(&bench.window(), "sceneName");
  oa::app::test::typeInto(name, "Pier 3, evening");
  QVERIFY2(target->text().endsWith("/pier-3-evening.mp4"), qPrintable(target->text()));
  // A name of the user's own stays.
  QTest::keyClick(&bench.window(), Qt::Key_E, Qt::ControlModifier);
  target->setFocus();
  target->selectAll();
  QTest::keyClicks(target, "/tmp/mine.mp4");
  bench->document().edit("rename", {}, [](Scene& s) { s.name = "Another"; });
  QCOMPARE(target->text(), QString("/tmp/mine.mp4"));
  auto* format = child<QComboBox>(&bench->exportSheet(), "format");
  format->setFocus();
  for (int i = 0; i < 2; ++i) QTest::keyClick(format, Qt::Key_Down);
  QCOMPARE(target->text(), QString("/tmp/mine.webm"));
}

void TestNeverLost::exportAsksBeforeItReplaces() {
  Bench bench("dusk.overagain");
  bench->document().edit("short", {}, [](Scene& s) { s.frames = 6; });
  const QTemporaryDir folder;
  for (const auto& [format, name] : std::initializer_list<std::pair<int, const char*>>{{0, "a.mp4"}, {9, "f_%02d.png"}}) {
    const QString first = folder.filePath(QString(name).replace("%02d", "00"));
    QFile old(first);
    QVERIFY(old.open(QIODevice::WriteOnly) && old.write("old") == 3);
    old.close();
    QTest::keyClick(&bench.window(), Qt::Key_E, Qt::ControlModifier);
    child<QComboBox>(&bench->exportSheet(), "format")->setCurrentIndex(format);
    child<QComboBox>(&bench->exportSheet(), "size")->setCurrentIndex(2);
    child<QLineEdit>(&bench->exportSheet(), "target")->setText(folder.filePath(name));
    auto* start = child<QPushButton>(&bench->exportSheet(), "primary");
    QVERIFY(answerBox([&] { QTest::mouseClick(start, Qt::LeftButton); }, QMessageBox::Cancel));
    QVERIFY(!bench->exportSheet().running());
    QCOMPARE(QFileInfo(first).size(), 3);
    QVERIFY(answerBox([&] { QTest::mouseClick(start, Qt::LeftButton); }, QMessageBox::Yes));
    QVERIFY(QTest::qWaitFor([&] { return !bench->exportSheet().running(); }, 60000));
    QVERIFY(QFileInfo(first).size() > 100);
  }
}

void TestNeverLost::saveAsAsksWhenItCompletesAName() {
  Bench bench("dusk.overagain");
  const QTemporaryDir folder;
  const QString there = folder.filePath("pier.overagain");
  QVERIFY(saveScene(oa::test::demoScene("sea-fog.overagain"), there.toStdString()).has_value());
  const auto saveAs = [&] {
    bench.window().activateWindow();
    QVERIFY(QTest::qWaitForWindowActive(&bench.window()));
    QTest::keyClick(&bench.window(), Qt::Key_S, Qt::ControlModifier | Qt::ShiftModifier);
  };
  QVERIFY(chooseFile(saveAs, folder.filePath("pier"), QMessageBox::Cancel));
  QCOMPARE(loadScene(there.toStdString())->name, oa::test::demoScene("sea-fog.overagain").name);
  QVERIFY(chooseFile(saveAs, folder.filePath("pier"), QMessageBox::Yes));
  QCOMPARE(loadScene(there.toStdString())->name, std::string("Dusk over the harbour"));
  QVERIFY(!chooseFile(saveAs, folder.filePath("quay"), QMessageBox::Cancel));
  QVERIFY(QFile::exists(folder.filePath("quay.overagain")));
}

void TestNeverLost::theScenesNameIsChangedInTheWindow() {
  Bench bench("dusk.overagain");
  auto* name = child<QLineEdit>(&bench.window(), "sceneName");
  QTest::keyClick(&bench.window(), Qt::Key_F2, Qt::ShiftModifier);
  QVERIFY(name->hasFocus());
  QTest::keyClicks(name, "Kelpwick at night");
  QTest::keyClick(name, Qt::Key_Return);
  QCOMPARE(bench->document().scene().name, std::string("Kelpwick at night"));
  QVERIFY(bench.window().windowTitle().contains("Kelpwick at night"));
  QTest::keyClick(&bench.window(), Qt::Key_Z, Qt::ControlModifier);
  QCOMPARE(name->text(), QString("Dusk over the harbour"));
  // Escape leaves it as it was.
  QTest::keyClick(&bench.window(), Qt::Key_F2, Qt::ShiftModifier);
  QTest::keyClicks(name, "nothing");
  QTest::keyClick(name, Qt::Key_Escape);
  QCOMPARE(bench->document().scene().name, std::string("Dusk over the harbour"));
}

void TestNeverLost::cancellingTheBackgroundChangesNothing() {
  Bench bench("dusk.overagain");
  for (const auto& background :
       {std::optional<Colour>(), std::optional<Colour>(hexColour(0x204060, 0.5f)), std::optional<Colour>(hexColour(0x204060))}) {
    bench->document().edit("ground", {}, [&](Scene& s) { s.background = background; });
    const Scene before = bench->document().scene();
    bench->showFrame();
    auto* box = child<QComboBox>(&bench.window(), "background");
    const auto chooseColour = [&] {
      box->setFocus();
      box->showPopup();
      QTest::keyClick(box->view(), Qt::Key_Home);
      QTest::keyClick(box->view(), Qt::Key_Return);
    };
    QVERIFY(oa::app::test::whenShown<ColourDialog>(chooseColour, [](ColourDialog& dialog) {
      dialog.findChild<QColorDialog*>()->setCurrentColor(Qt::red);
      QTest::mouseClick(dialog.findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Cancel), Qt::LeftButton);
    }));
    QVERIFY(bench->document().scene() == before);
    QCOMPARE(box->currentIndex(), background ? 0 : 1);
    bench->showRecipe();
  }
}

void TestNeverLost::keepTransparencySurvivesOtherChanges() {
  Bench bench("dusk.overagain");
  QTest::keyClick(&bench.window(), Qt::Key_E, Qt::ControlModifier);
  child<QComboBox>(&bench->exportSheet(), "format")->setCurrentIndex(1);
  auto* keep = child<QCheckBox>(&bench->exportSheet(), "alpha");
  QVERIFY(!keep->isChecked());
  QTest::mouseClick(keep, Qt::LeftButton, {}, QPoint(8, keep->height() / 2));
  QVERIFY(keep->isChecked());
  bench->document().edit("other", {}, [](Scene& s) { s.layers[0].opacity.base = 0.4; });
  bench->document().edit("size", {}, [](Scene& s) { resizeFrame(s, 640, 360, true); });
  QVERIFY(keep->isChecked());
  // The scene itself becoming clear, or opaque again, is another matter.
  bench->document().edit("clear", {}, [](Scene& s) { s.background.reset(); });
  QVERIFY(keep->isChecked());
  bench->document().edit("opaque", {}, [](Scene& s) { s.background = Colour{0, 0, 0, 1}; });
  QVERIFY(!keep->isChecked());
}

void TestNeverLost::theJournalKeepsUp() {
  const QTemporaryDir folder;
  Document document;
  document.reset(oa::test::demoScene("dusk.overagain"), QString());
  {
    Journal journal(document, folder.path(), 60);
    const auto kept = [&]() -> int {
      for (const QString& name : contents(folder.path()))
        if (name.endsWith(".overagain"))
          if (const auto scene = loadScene(folder.filePath(name).toStdString())) return scene->frames;
      return -1;
    };
    // Changes without a pause, as in a drag, must not put it off for ever.
    QElapsedTimer clock;
    clock.start();
    int frames = 400;
    std::vector<qint64> changed;  // when each change was made
    while (clock.elapsed() < 1200) {
      document.edit("drag", "drag", [&](Scene& s) { s.frames = ++frames; });
      changed.push_back(clock.elapsed());
      oa::app::test::turn();
    }
    const int last = kept();
    QVERIFY2(last > 400, qPrintable(QString::number(last)));
    const qint64 behind = changed.back() - changed[static_cast<std::size_t>(last - 401)];
    QVERIFY2(behind < 600, qPrintable(QStringLiteral("%1 ms").arg(behind)));
    QTRY_COMPARE(kept(), frames);
  }
  // Ended well: nothing stays.
  QCOMPARE(contents(folder.path()), QStringList());
}

void TestNeverLost::savingClosesTheJournal() {
  const QTemporaryDir folder;
  const QTemporaryDir scenes;
  Document document;
  document.reset(oa::test::demoScene("dusk.overagain"), QString());
  Journal journal(document, folder.path(), 20);
  document.edit("change", {}, [](Scene& s) { s.frames = 99; });
  QTRY_COMPARE(contents(folder.path()).size(), 3);
  QVERIFY(document.save(scenes.filePath("a.overagain")).has_value());
  QTRY_VERIFY(contents(folder.path()).filter(".overagain").isEmpty());
}

void TestNeverLost::theNextStartOffersWhatWasThere() {
  const QTemporaryDir state;
  const QByteArray before = qgetenv("XDG_STATE_HOME");
  qputenv("XDG_STATE_HOME", state.path().toLocal8Bit());
  QVERIFY(QDir().mkpath(Journal::folder()));
  // As a program that was killed leaves it.
  const QString stem = Journal::folder() + "/work-00000000000000aa";
  Scene lost = oa::test::demoScene("lamp-room.overagain");
  lost.name = "Almost lost";
  QVERIFY(saveScene(lost, (stem + ".overagain").toStdString()).has_value());
  for (const auto& [ending, text] : {std::pair(".path", "/nowhere/lamp.overagain"), std::pair(".lock", "")}) {
    QFile file(stem + ending);
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(text);
  }
  {
    Bench bench("dusk.overagain");
    bench->offerRescuedWork();
    auto* dialog = child<RecoveryDialog>(&bench.window(), "recovery");
    QTRY_VERIFY(dialog->isVisible());
    QStringList words;
    bool picture = false;
    for (const auto* label : dialog->findChildren<QLabel*>()) {
      words << label->text();
      if (!label->pixmap().isNull())
        picture = label->pixmap().toImage().pixelColor(60, 60) != label->pixmap().toImage().pixelColor(190, 100);
    }
    QVERIFY(picture);
    QVERIFY(words.contains("Almost lost") && words.join(' ').contains("lamp.overagain"));
    QVERIFY(words.join(' ').contains(QLocale().toString(QFileInfo(stem + ".overagain").lastModified(), QLocale::ShortFormat)));
    QTest::mouseClick(child<QPushButton>(dialog, "primary"), Qt::LeftButton);
    QVERIFY(bench->document().scene() == lost);
    QVERIFY(bench->document().dirty());
    QCOMPARE(bench->document().path(), QString("/nowhere/lamp.overagain"));
    QVERIFY(!QFile::exists(stem + ".overagain"));
  }
  qputenv("XDG_STATE_HOME", before);
}

void TestNeverLost::twoProgramsDoNotFight() {
  const QTemporaryDir folder;
  Document one;
  Document two;
  one.reset(oa::test::demoScene("dusk.overagain"), QString());
  two.reset(oa::test::demoScene("dusk.overagain"), QString());
  Journal first(one, folder.path(), 20);
  Journal second(two, folder.path(), 20);
  one.edit("one", {}, [](Scene& s) { s.name = "one"; });
  two.edit("two", {}, [](Scene& s) { s.name = "two"; });
  QTRY_COMPARE(contents(folder.path()).filter(".overagain").size(), 2);
  // What lives is offered to nobody, and what is being offered not twice.
  QVERIFY(Journal::rescued(folder.path()).empty());
  const QString stem = folder.filePath("work-00000000000000bb");
  QVERIFY(saveScene(one.scene(), (stem + ".overagain").toStdString()).has_value());
  QFile lock(stem + ".lock");
  QVERIFY(lock.open(QIODevice::WriteOnly));
  const auto offered = Journal::rescued(folder.path());
  QCOMPARE(offered.size(), std::size_t{1});
  QVERIFY(Journal::rescued(folder.path()).empty());
}

void TestNeverLost::killedAtAnyMoment() {
  // A program that edits, saves and exports without a pause, killed again and again. OA_KILLS says how often; 200 takes minutes.
  const int kills = qEnvironmentVariableIsSet("OA_KILLS") ? qEnvironmentVariableIntValue("OA_KILLS") : 25;
  QRandomGenerator dice(2026);
  int rescued = 0;
  for (int i = 0; i < kills; ++i) {
    const QTemporaryDir folder;
    QProcess victim;
    victim.setProcessEnvironment([&] {
      auto environment = QProcessEnvironment::systemEnvironment();
      environment.insert("XDG_STATE_HOME", folder.filePath("state"));
      return environment;
    }());
    victim.start(QCoreApplication::applicationDirPath() + "/over-again-busy", {folder.filePath("work")});
    QVERIFY(victim.waitForStarted());
    QByteArray said;
    QVERIFY(QTest::qWaitFor(
        [&] {
          said += victim.readAllStandardOutput();
          return said.contains("edit 20\n") || victim.state() == QProcess::NotRunning;
        },
        30000));
    QTest::qWait(dice.bounded(500));
    victim.kill();
    QVERIFY(victim.waitForFinished());
    said += victim.readAllStandardOutput();
    // The last whole line; each edit is said once it is made, 20 ms apart at least.
    const QList<QByteArray> lines = said.left(said.lastIndexOf('\n')).split('\n');
    const int edits = lines.last().mid(5).toInt();
    QVERIFY2(edits >= 20, said.right(200).constData());
    // What was saved or exported is whole, or not there.
    for (const QString& name : contents(folder.filePath("work"))) {
      const QString path = folder.filePath("work/" + name);
      if (name.startsWith('.')) continue;  // working names, cleared by the next run to the same place
      if (name.endsWith(".overagain")) QVERIFY2(loadScene(path.toStdString()).has_value(), qPrintable(name));
      if (name.endsWith(".gif")) QCOMPARE(oa::test::probe(path)["nb_read_frames"].toString(), QString("4"));
    }
    // And the next start finds the work: at most the journal's patience old.
    auto work = Journal::rescued(folder.filePath("state/over-again"));
    if (work.empty()) continue;  // saved a moment before
    ++rescued;
    const int behind = edits - work.front().scene().frames;
    QVERIFY2(behind <= 25, qPrintable(QStringLiteral("%1 edits behind of %2").arg(behind).arg(edits)));
  }
  QVERIFY2(rescued > kills / 2, qPrintable(QString::number(rescued)));
}

QTEST_MAIN(TestNeverLost)
#include "tst_never_lost.moc"
