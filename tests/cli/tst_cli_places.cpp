// Where the command line writes, and what it leaves when it is stopped: links, pipes, modes, names, interrupts, sequences.
#include <sys/resource.h>
#include <sys/stat.h>
#include <unistd.h>

#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QProcess>
#include <QRandomGenerator>
#include <QTemporaryDir>
#include <QTest>
#include <csignal>

#include "support/files.h"

using namespace oa::test;

namespace {

QString scene(const char* name) { return QStringLiteral(OA_SOURCE_DIR "/demo-data/scenes/") + QLatin1String(name); }
const QString kDusk = scene("dusk.overagain");

QByteArray bytes(const QString& path) {
  QFile file(path);
  return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}

QStringList contents(const QString& folder) {
  return QDir(folder).entryList(QDir::AllEntries | QDir::Hidden | QDir::System | QDir::NoDotAndDotDot, QDir::Name);
}

QStringList small(const QString& target, const QStringList& more = {}) {
  return QStringList{"render", kDusk, "-o", target, "--size", "32x18", "--frames", "0..4", "--quiet"} + more;
}

// Runs a shell line in a folder; "$cli" is the program, "$dusk" the scene.
Finished shell(const QString& line, const QString& folder) {
  return run("/bin/bash", {"-c", QStringLiteral("cli='%1'; dusk='%2'; %3").arg(QStringLiteral(OA_CLI), kDusk, line)}, folder);
}

}  // namespace

class TestCliPlaces : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void filesAreReplacedWithoutAQuestion();
  void helpSaysThatFilesAreReplaced();
  void linksModesAndLongNames_data();
  void linksModesAndLongNames();
  void namesAreNeverAddresses();
  void endingsInAnyCase();
  void endingsThatDoNotFitAreRefused();
  void pipesAreWrittenWhereTheFormatCan();
  void devicesStayDevices();
  void interruptsLeaveNothingBehind_data();
  void interruptsLeaveNothingBehind();
  void killedRunsAreClearedByTheNext_data();
  void killedRunsAreClearedByTheNext();
  void equalProcessNumbersDoNotMeet();
  void longerOldSequencesLeaveNoStaleFrames();
  void picturesAreNumberedByFrame();
  void numbersAtTheirEndsAreRefused();
  void framesWithLeadingZerosAreDecimal();
  void whatIsLeftOutIsNoted();
  void aClosedOutputIsNoFailure();
  void theSameBytesAtEveryRun_data();
  void theSameBytesAtEveryRun();
  void alphaIsKeptByOneRule();
  void tooLargeIsRefusedByName();
  void brokenPicturesGiveTheirOwnReason();
};

void TestCliPlaces::filesAreReplacedWithoutAQuestion() {
  const QTemporaryDir folder;
  for (const char* name : {"a.mp4", "a.webm", "a.gif"}) {
    const QString path = folder.filePath(name);
    QFile old(path);
    QVERIFY(old.open(QIODevice::WriteOnly) && old.write("old") == 3);
    old.close();
    QCOMPARE(cli(small(path)).exitCode, 0);
    QVERIFY(bytes(path).size() > 100);
  }
}

void TestCliPlaces::helpSaysThatFilesAreReplaced() {
  for (const char* verb : {"render", "still", "save"}) QVERIFY2(cli({verb, "--help"}).out.contains("replaced"), verb);
}

void TestCliPlaces::linksModesAndLongNames_data() {
  QTest::addColumn<QStringList>("words");
  QTest::addColumn<QString>("ending");
  QTest::newRow("mp4") << QStringList{"render", kDusk, "--size", "32x18", "--frames", "0..3", "--quiet"} << ".mp4";
  QTest::newRow("webm") << QStringList{"render", kDusk, "--size", "32x18", "--frames", "0..3", "--quiet"} << ".webm";
  QTest::newRow("gif") << QStringList{"render", kDusk, "--size", "32x18", "--frames", "0..3", "--quiet"} << ".gif";
  QTest::newRow("one picture") << QStringList{"render", kDusk, "--size", "32x18", "--frames", "0..0", "--quiet"} << ".png";
  QTest::newRow("still") << QStringList{"still", kDusk, "--size", "32x18"} << ".png";
  QTest::newRow("save") << QStringList{"save", kDusk} << ".overagain";
}

void TestCliPlaces::linksModesAndLongNames() {
  QFETCH(QStringList, words);
  QFETCH(QString, ending);
  const QTemporaryDir folder;
  const auto write = [&](const QString& name) { return cli(words + QStringList{"-o", folder.filePath(name)}); };
  // A link is written through; what it points to keeps its mode.
  const QString real = folder.filePath("real" + ending);
  QFile old(real);
  QVERIFY(old.open(QIODevice::WriteOnly) && old.write("old") == 3);
  old.close();
  QCOMPARE(::chmod(real.toLocal8Bit().constData(), 0600), 0);
  QVERIFY(QFile::link("real" + ending, folder.filePath("link" + ending)));
  const Finished linked = write("link" + ending);
  QVERIFY2(linked.exitCode == 0, linked.err.constData());
  QVERIFY(QFileInfo(folder.filePath("link" + ending)).isSymLink() && bytes(real).size() > 50);
  struct stat info {};
  QCOMPARE(::stat(real.toLocal8Bit().constData(), &info), 0);
  QCOMPARE(static_cast<int>(info.st_mode & 07777), 0600);
  // Names of 255 bytes, colons, folders that are not there.
  const QString longest = QString(255 - static_cast<int>(ending.size()), 'n') + ending;
  for (const QString& name : {longest, "12:30" + ending, "new/folders/a" + ending, "tcp://127.0.0.1:9/a" + ending}) {
    const Finished done = write(name);
    QVERIFY2(done.exitCode == 0, (name.toUtf8() + done.err).constData());
    QVERIFY2(bytes(folder.filePath(name)).size() > 50, qPrintable(name));
  }
  for (const QString& name : contents(folder.path())) QVERIFY2(!name.contains(".part"), qPrintable(name));
}

void TestCliPlaces::namesAreNeverAddresses() {
  // A relative path that looks like an address makes a folder of that name, and nothing else.
  const QTemporaryDir folder;
  const Finished done = cli(small("tcp://localhost:9/a.mp4"), folder.path());
  QVERIFY2(done.exitCode == 0, done.err.constData());
  QCOMPARE(contents(folder.path()), QStringList{"tcp:"});
  QVERIFY(bytes(folder.filePath("tcp:/localhost:9/a.mp4")).size() > 100);
}

void TestCliPlaces::endingsInAnyCase() {
  const QTemporaryDir folder;
  for (const char* name : {"a.MP4", "a.WebM", "a.Gif"}) {
    QCOMPARE(cli(small(folder.filePath(name))).exitCode, 0);
    QVERIFY2(bytes(folder.filePath(name)).size() > 100, name);
  }
  QCOMPARE(cli(small(folder.filePath("f_%02d.PNG"))).exitCode, 0);
  QVERIFY(QFile::exists(folder.filePath("f_04.PNG")) && !QFile::exists(folder.filePath("f_04.png")));
}

void TestCliPlaces::endingsThatDoNotFitAreRefused() {
  const QTemporaryDir folder;
  const Finished photo = cli({"still", kDusk, "-o", folder.filePath("photo.jpg")});
  QVERIFY(photo.exitCode > 0 && photo.err.contains("must end in .png"));
  const Finished format = cli(small(folder.filePath("a.mp4"), {"--format", "webm"}));
  QVERIFY(format.exitCode > 0 && format.err.contains("--format webm"));
  QVERIFY(contents(folder.path()).isEmpty());
}

void TestCliPlaces::pipesAreWrittenWhereTheFormatCan() {
  const QTemporaryDir folder;
  const QString common = "--size 32x18 --frames 0..4";
  QVERIFY(shell("$cli render $dusk -o - --format webm " + common + " | cat > a.webm && $cli render $dusk -o - --format gif " + common +
                    " | cat > a.gif && $cli still $dusk -o - --size 32x18 | cat > a.png && $cli save $dusk -o - | cat > a.overagain && "
                    "$cli render $dusk -o /dev/stdout --format webm " +
                    common + " | cat > b.webm",
                folder.path())
              .exitCode == 0);
  QCOMPARE(probe(folder.filePath("a.webm"))["nb_read_frames"].toString(), QString("5"));
  QCOMPARE(probe(folder.filePath("b.webm"))["nb_read_frames"].toString(), QString("5"));
  QCOMPARE(probe(folder.filePath("a.gif"))["nb_read_frames"].toString(), QString("5"));
  QCOMPARE(probe(folder.filePath("a.png"))["width"].toInt(), 32);
  QCOMPARE(bytes(folder.filePath("a.overagain")), bytes(kDusk));
  // MP4 must go back to its beginning.
  const Finished mp4 = shell("$cli render $dusk -o - --format mp4 " + common + " | cat > a.mp4; exit ${PIPESTATUS[0]}", folder.path());
  QVERIFY(mp4.exitCode > 0 && mp4.err.contains("pipe or a device"));
  QVERIFY(shell("$cli render $dusk -o - " + common, folder.path()).err.contains("--format"));
}

void TestCliPlaces::devicesStayDevices() {
  QCOMPARE(cli({"save", kDusk, "-o", "/dev/null"}).exitCode, 0);
  QCOMPARE(cli({"save", kDusk, "-o", "/dev/stdout"}).exitCode, 0);
  for (const char* device : {"/dev/null", "/dev/stdout"}) {
    struct stat info {};
    QVERIFY2(::stat(device, &info) == 0 && !S_ISREG(info.st_mode), device);
  }
  QVERIFY(QFileInfo("/dev/stdout").isSymLink());
}

void TestCliPlaces::interruptsLeaveNothingBehind_data() {
  QTest::addColumn<QString>("target");
  QTest::addColumn<int>("signal");
  for (const char* target : {"a.mp4", "a.webm", "a.gif", "f_%04d.png", "new/folder/", "deep/er/a.mp4"})
    for (const int signal : {SIGINT, SIGTERM}) QTest::addRow("%s, signal %d", target, signal) << target << signal;
}

void TestCliPlaces::interruptsLeaveNothingBehind() {
  QFETCH(QString, target);
  QFETCH(int, signal);
  QRandomGenerator dice(static_cast<quint32>(signal) * 7919u + static_cast<quint32>(qHash(target, 1)));
  for (int i = 0; i < 4; ++i) {
    const QTemporaryDir folder;
    QProcess process;
    process.setWorkingDirectory(folder.path());
    process.start(QStringLiteral(OA_CLI), {"render", scene("stage-screen.overagain"), "-o", target, "--size", "320x180"});
    QVERIFY(process.waitForStarted());
    // Once something is being written, and then at any moment.
    QVERIFY(QTest::qWaitFor([&] { return !contents(folder.path()).isEmpty() || process.state() == QProcess::NotRunning; }, 20000));
    QElapsedTimer wait;
    wait.start();
    const int until = dice.bounded(400);
    while (wait.elapsed() < until && process.state() == QProcess::Running) process.waitForFinished(5);
    const bool early = process.state() == QProcess::Running;
    ::kill(static_cast<pid_t>(process.processId()), signal);
    QVERIFY(process.waitForFinished(20000));
    // Ended by the signal, as a shell expects, or already done.
    QVERIFY2(process.exitStatus() == QProcess::CrashExit || !early || process.exitCode() == 0, process.readAllStandardError().constData());
    if (process.exitStatus() == QProcess::CrashExit) {
      QStringList left;
      for (const QString& name : contents(folder.path()))
        if (QFileInfo(folder.filePath(name)).isFile() || !contents(folder.filePath(name)).isEmpty()) left << name;
      QVERIFY2(left.isEmpty(), qPrintable(left.join(' ')));
    }
  }
}

void TestCliPlaces::killedRunsAreClearedByTheNext_data() {
  QTest::addColumn<QString>("target");
  for (const char* target : {"a.mp4", "a.webm", "a.gif", "f_%04d.png"}) QTest::newRow(target) << target;
}

void TestCliPlaces::killedRunsAreClearedByTheNext() {
  QFETCH(QString, target);
  const QTemporaryDir folder;
  const QStringList words{"render", scene("stage-screen.overagain"), "-o", target, "--size", "320x180"};
  QProcess process;
  process.setWorkingDirectory(folder.path());
  process.start(QStringLiteral(OA_CLI), words);
  QVERIFY(QTest::qWaitFor([&] { return !contents(folder.path()).isEmpty(); }, 20000));
  process.kill();
  QVERIFY(process.waitForFinished());
  QCOMPARE(contents(folder.path()).size(), 1);
  QCOMPARE(cli(words + QStringList{"--frames", "0..2", "--quiet"}, folder.path()).exitCode, 0);
  for (const QString& name : contents(folder.path())) QVERIFY2(!name.startsWith('.'), qPrintable(name));
}

void TestCliPlaces::equalProcessNumbersDoNotMeet() {
  // Two runs to one target at once, as two containers with equal process numbers would be: each of them whole.
  for (int i = 0; i < 3; ++i) {
    const QTemporaryDir folder;
    QProcess one;
    QProcess two;
    for (QProcess* each : {&one, &two}) {
      each->setWorkingDirectory(folder.path());
      each->start(QStringLiteral(OA_CLI), {"render", kDusk, "-o", "a.mp4", "--size", "64x36", "--frames", "0..29", "--quiet"});
    }
    QVERIFY(one.waitForFinished(60000) && two.waitForFinished(60000));
    QCOMPARE(one.exitCode(), 0);
    QCOMPARE(two.exitCode(), 0);
    QCOMPARE(contents(folder.path()), QStringList{"a.mp4"});
    QCOMPARE(probe(folder.filePath("a.mp4"))["nb_read_frames"].toString(), QString("30"));
  }
}

void TestCliPlaces::longerOldSequencesLeaveNoStaleFrames() {
  const QTemporaryDir folder;
  const auto render = [&](int frames) {
    return cli({"render", scene("stage-screen.overagain"), "-o", folder.filePath("f_%03d.png"), "--size", "32x18", "--set",
                QStringLiteral("frames=%1").arg(frames)});
  };
  QCOMPARE(render(12).exitCode, 0);
  QCOMPARE(contents(folder.path()).size(), 12);
  QFile(folder.filePath("notes.txt")).open(QIODevice::WriteOnly);
  const Finished done = render(5);
  QCOMPARE(done.exitCode, 0);
  QCOMPARE(contents(folder.path()), (QStringList{"f_000.png", "f_001.png", "f_002.png", "f_003.png", "f_004.png", "notes.txt"}));
  QVERIFY2(done.out.contains("7 pictures of a longer, older sequence"), done.out.constData());
}

void TestCliPlaces::picturesAreNumberedByFrame() {
  const QTemporaryDir folder;
  const auto render = [&](const char* range) {
    return cli({"render", kDusk, "-o", folder.filePath("f_%03d.png"), "--size", "32x18", "--quiet", "--frames", range});
  };
  QCOMPARE(render("100..102").exitCode, 0);
  QCOMPARE(contents(folder.path()), (QStringList{"f_100.png", "f_101.png", "f_102.png"}));
  // Others of the loop may be rendered after them, and stand beside them.
  QCOMPARE(render("103..104").exitCode, 0);
  QCOMPARE(contents(folder.path()).size(), 5);
  QCOMPARE(render("-1..0").exitCode, 0);
  QVERIFY(QFile::exists(folder.filePath("f_359.png")) && QFile::exists(folder.filePath("f_000.png")));
  QVERIFY(render("-400..10").exitCode > 0);
}

void TestCliPlaces::numbersAtTheirEndsAreRefused() {
  const QTemporaryDir folder;
  for (const char* range : {"-9223372036854775808..9223372036854775807", "9223372036854775806..9223372036854775807",
                            "-9223372036854775808..-9223372036854775807", "0..9223372036854775807", "99999999999999999999..0"}) {
    const Finished done = cli({"render", kDusk, "-o", folder.filePath("a.mp4"), "--size", "16x16", "--frames", range});
    QVERIFY2(done.exitCode == 1 && !done.err.isEmpty(), range);
  }
  const Finished many = cli({"render", scene("stage-screen.overagain"), "-o", folder.filePath("a.mp4"), "--size", "16x16", "--set",
                             "frames=1000000", "--loops", "3000"});
  QVERIFY2(many.exitCode == 1 && many.err.contains("fewer loops"), many.err.constData());
  QVERIFY(contents(folder.path()).isEmpty());
}

void TestCliPlaces::framesWithLeadingZerosAreDecimal() {
  const QTemporaryDir folder;
  const auto still = [&](const char* frame) {
    const QString path = folder.filePath("a.png");
    return cli({"still", kDusk, "-o", path, "--size", "64x36", "--frame", frame}).exitCode == 0 ? bytes(path) : QByteArray();
  };
  QVERIFY(!still("10").isEmpty());
  QCOMPARE(still("0010"), still("10"));
  QVERIFY(still("0010") != still("8"));
  QVERIFY(still("0x10").isEmpty() && still("ten").isEmpty());
}

void TestCliPlaces::whatIsLeftOutIsNoted() {
  const QTemporaryDir folder;
  const auto said = [&](const QStringList& more) {
    const Finished done = cli(QStringList{"render", kDusk, "-o", folder.filePath("a.mp4"), "--size", "32x18", "--frames", "0..2"} + more);
    return done.exitCode == 0 ? done.out : QByteArray("failed: ") + done.err;
  };
  QVERIFY(!said({}).contains("note:"));
  QVERIFY(said({"--alpha"}).contains("holds no transparency"));
  QVERIFY(said({"--bits", "16"}).contains("8 bits a channel at most"));
}

void TestCliPlaces::aClosedOutputIsNoFailure() {
  const QTemporaryDir folder;
  const QString render = "$cli render $dusk -o a.mp4 --size 32x18 --frames 0..4";
  for (const char* ends : {" >&-", " 2>&-", " <&-", " >&- 2>&- <&-"}) {
    const Finished done = shell(render + ends, folder.path());
    QVERIFY2(done.exitCode == 0, (QByteArray(ends) + done.err).constData());
    QCOMPARE(probe(folder.filePath("a.mp4"))["nb_read_frames"].toString(), QString("5"));
  }
  // Where the words are the result, it is one.
  QVERIFY(shell("$cli info $dusk >&-", folder.path()).exitCode > 0);
  QVERIFY(shell("$cli info $dusk >/dev/full", folder.path()).exitCode > 0);
}

void TestCliPlaces::theSameBytesAtEveryRun_data() {
  QTest::addColumn<QString>("target");
  for (const char* target : {"a.mp4", "a.webm", "a.gif"}) QTest::newRow(target) << target;
}

void TestCliPlaces::theSameBytesAtEveryRun() {
  QFETCH(QString, target);
  QByteArray first;
  for (int i = 0; i < 3; ++i) {
    const QTemporaryDir folder;
    QCOMPARE(cli({"render", scene("stage-screen.overagain"), "-o", folder.filePath(target), "--size", "320x180", "--frames", "0..39",
                  "--quiet", "--alpha"})
                 .exitCode,
             0);
    const QByteArray made = bytes(folder.filePath(target));
    QVERIFY(made.size() > 1000);
    if (first.isEmpty()) first = made;
    QVERIFY(made == first);
  }
}

void TestCliPlaces::alphaIsKeptByOneRule() {
  // Kept where the scene lets something through and the format can hold it; otherwise only if asked for.
  const QTemporaryDir folder;
  const auto format = [&](const char* background, const QStringList& more) {
    const QString path = folder.filePath("f_%d.png");
    const Finished done = cli(QStringList{"render", scene("sea-fog.overagain"), "-o", path, "--size", "32x18", "--frames", "0..0",
                                          "--quiet", "--set", QStringLiteral("background=%1").arg(QLatin1String(background))} +
                              more);
    return done.exitCode == 0 ? probe(folder.filePath("f_0.png"))["pix_fmt"].toString() : QString::fromUtf8(done.err);
  };
  QCOMPARE(format("#102030", {}), QString("rgb24"));
  QCOMPARE(format("#10203080", {}), QString("rgba"));
  QCOMPARE(format("transparent", {}), QString("rgba"));
  QCOMPARE(format("#102030", {"--alpha"}), QString("rgba"));
}

void TestCliPlaces::tooLargeIsRefusedByName() {
  // The shell allows little memory: an allocation that fails is a sentence, not an abort.
#ifdef __SANITIZE_ADDRESS__
  QSKIP("AddressSanitizer itself needs more address space than this allows");
#endif
  const QTemporaryDir folder;
  const Finished done = shell("ulimit -v 400000; exec $cli still $dusk -o a.png --size 8192x8192 --threads 1", folder.path());
  QVERIFY2(done.exitCode == 1, done.err.constData());
  QVERIFY2(done.err.contains("memory"), done.err.constData());
  QVERIFY(contents(folder.path()).isEmpty());
}

void TestCliPlaces::brokenPicturesGiveTheirOwnReason() {
  const QTemporaryDir folder;
  QFile file(folder.filePath("broken.png"));
  QVERIFY(file.open(QIODevice::WriteOnly) && file.write("\x89PNG\r\n\x1a\n and no more") > 0);
  file.close();
  const Finished done = cli({"info", kDusk, "--palette", file.fileName()});
  QVERIFY(done.exitCode > 0);
  QVERIFY2(done.err.contains("is a damaged or unfinished PNG picture"), done.err.constData());
}

QTEST_GUILESS_MAIN(TestCliPlaces)
#include "tst_cli_places.moc"
