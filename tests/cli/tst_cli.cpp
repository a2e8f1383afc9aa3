// The command line as scripts use it: what it writes, what it refuses, its exit codes.
#include <QDir>
#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QTemporaryDir>
#include <QTest>

#include "support/files.h"

using namespace oa::test;

namespace {

QString scene(const char* name) { return QStringLiteral(OA_SOURCE_DIR "/demo-data/scenes/") + QLatin1String(name); }

QByteArray bytes(const QString& path) {
  QFile file(path);
  return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}

// Everything below a folder, hidden too.
QStringList contents(const QString& folder) { return QDir(folder).entryList(QDir::AllEntries | QDir::Hidden | QDir::NoDotAndDotDot); }

}  // namespace

class TestCli : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void helpOfEveryCommand();
  void stillsAreTheSameRoundTheLoop();
  void threadsChangeNoByte();
  void settingValues();
  void savingAChangedScene();
  void otherColours();
  void sizesAndDepths();
  void framesAreModuloTheLoop();
  void numberedPictures();
  void infoAndDescribe();
  void profileTellsWhoseTimeItIs();
  void statsTellWhatItTook();
  void schemaAcceptsTheDemoScenes();
  void checkSaysClean();
  void mistakesAreExplained_data();
  void mistakesAreExplained();
  void failuresLeaveNothingBehind_data();
  void failuresLeaveNothingBehind();
  void aFullDiskIsExplained();
  void quietIsQuiet();
};

void TestCli::helpOfEveryCommand() {
  for (const char* command : {"", "render", "still", "info", "describe", "check", "save", "profile"}) {
    QStringList words;
    if (*command) words << QLatin1String(command);
    const Finished done = cli(words << QStringLiteral("--help"));
    QCOMPARE(done.exitCode, 0);
    QVERIFY2(done.out.size() > 100, command);
  }
  QVERIFY(cli({}).exitCode != 0);
  QCOMPARE(cli({QStringLiteral("--version")}).exitCode, 0);
}

void TestCli::stillsAreTheSameRoundTheLoop() {
  const QTemporaryDir folder;
  const auto still = [&](const char* frame) {
    const QString path = folder.filePath(QLatin1String(frame) + QStringLiteral(".png"));
    const Finished done = cli({QStringLiteral("still"), scene("stage-screen.overagain"), QStringLiteral("--frame"), QLatin1String(frame),
                               QStringLiteral("-o"), path, QStringLiteral("--size"), QStringLiteral("480x270")});
    return done.exitCode == 0 ? bytes(path) : QByteArray();
  };
  const QByteArray first = still("0");
  QVERIFY(first.size() > 10000);
  QCOMPARE(still("300"), first);
  QCOMPARE(still("-300"), first);
  QVERIFY(still("150") != first);
}

void TestCli::threadsChangeNoByte() {
  const QTemporaryDir folder;
  QByteArray one;
  for (const char* threads : {"1", "2", "7"}) {
    const QString path = folder.filePath(QStringLiteral("a.png"));
    QCOMPARE(cli({QStringLiteral("still"), scene("sea-fog.overagain"), QStringLiteral("--frame"), QStringLiteral("31"),
                  QStringLiteral("-o"), path, QStringLiteral("--threads"), QLatin1String(threads)})
                 .exitCode,
             0);
    if (one.isEmpty()) one = bytes(path);
    QCOMPARE(bytes(path), one);
  }
}

void TestCli::settingValues() {
  const QTemporaryDir folder;
  const auto still = [&](const QStringList& more) {
    const QString path = folder.filePath(QStringLiteral("a.png"));
    const Finished done = cli(QStringList{QStringLiteral("still"), scene("sea-fog.overagain"), QStringLiteral("-o"), path,
                                          QStringLiteral("--size"), QStringLiteral("160x90")} +
                              more);
    return done.exitCode == 0 ? bytes(path) : QByteArray();
  };
  const QByteArray before = still({});
  QVERIFY(!before.isEmpty());
  const QByteArray after = still({QStringLiteral("--set"), QStringLiteral("layers[1].visible=false"), QStringLiteral("--set"),
                                  QStringLiteral("layers[0].opacity=0.5")});
  QVERIFY(!after.isEmpty() && after != before);
  const Finished wrong =
      cli({QStringLiteral("info"), scene("sea-fog.overagain"), QStringLiteral("--set"), QStringLiteral("layers[9].opacity=1")});
  QVERIFY(wrong.exitCode != 0 && wrong.err.contains("layers[9]"));
}

void TestCli::savingAChangedScene() {
  const QTemporaryDir folder;
  const QString path = folder.filePath(QStringLiteral("slow.overagain"));
  QCOMPARE(cli({QStringLiteral("save"), scene("dusk.overagain"), QStringLiteral("-o"), path, QStringLiteral("--set"),
                QStringLiteral("frames=900")})
               .exitCode,
           0);
  QCOMPARE(QJsonDocument::fromJson(bytes(path)).object()[QStringLiteral("frames")].toInt(), 900);
  // Without a change the file is the same, byte for byte.
  QCOMPARE(cli({QStringLiteral("save"), scene("dusk.overagain"), QStringLiteral("-o"), path}).exitCode, 0);
  QCOMPARE(bytes(path), bytes(scene("dusk.overagain")));
}

void TestCli::otherColours() {
  const QTemporaryDir folder;
  const QString path = folder.filePath(QStringLiteral("kelp.overagain"));
  const QString palette = QStringLiteral(OA_SOURCE_DIR "/demo-data/palettes/kelp-forest.gpl");
  QCOMPARE(
      cli({QStringLiteral("save"), scene("dusk.overagain"), QStringLiteral("--palette"), palette, QStringLiteral("-o"), path}).exitCode, 0);
  const QJsonObject changed = QJsonDocument::fromJson(bytes(path)).object();
  QCOMPARE(changed[QStringLiteral("palette")].toObject()[QStringLiteral("name")].toString(), QStringLiteral("Kelp forest"));
  QVERIFY(bytes(path) != bytes(scene("dusk.overagain")));
  // A picture's own colours, and a sentence for what is neither.
  const QString picture = folder.filePath(QStringLiteral("p.png"));
  QCOMPARE(cli({QStringLiteral("still"), scene("tide-lines.overagain"), QStringLiteral("-o"), picture, QStringLiteral("--size"),
                QStringLiteral("64x36")})
               .exitCode,
           0);
  QCOMPARE(
      cli({QStringLiteral("save"), scene("dusk.overagain"), QStringLiteral("--palette"), picture, QStringLiteral("-o"), path}).exitCode, 0);
  QCOMPARE(QJsonDocument::fromJson(bytes(path)).object()[QStringLiteral("palette")].toObject()[QStringLiteral("name")].toString(),
           QStringLiteral("p"));
  const Finished wrong =
      cli({QStringLiteral("info"), scene("dusk.overagain"), QStringLiteral("--palette"), folder.filePath(QStringLiteral("none.gpl"))});
  QVERIFY(wrong.exitCode != 0 && wrong.err.contains("none.gpl"));
}

void TestCli::sizesAndDepths() {
  const QTemporaryDir folder;
  const QString path = folder.filePath(QStringLiteral("deep.png"));
  QCOMPARE(cli({QStringLiteral("still"), scene("dusk.overagain"), QStringLiteral("-o"), path, QStringLiteral("--size"),
                QStringLiteral("301x77"), QStringLiteral("--bits"), QStringLiteral("16")})
               .exitCode,
           0);
  const QJsonObject stream = probe(path);
  QCOMPARE(stream[QStringLiteral("width")].toInt(), 301);
  QCOMPARE(stream[QStringLiteral("height")].toInt(), 77);
  QCOMPARE(stream[QStringLiteral("pix_fmt")].toString(), QStringLiteral("rgb48be"));
}

void TestCli::framesAreModuloTheLoop() {
  const QTemporaryDir folder;
  const auto pictures = [&](const QString& range, const QString& name) {
    const QString pattern = folder.filePath(name + QStringLiteral("_%02d.png"));
    const Finished done = cli({QStringLiteral("render"), scene("dusk.overagain"), QStringLiteral("-o"), pattern, QStringLiteral("--size"),
                               QStringLiteral("64x36"), QStringLiteral("--frames"), range, QStringLiteral("--quiet")});
    QList<QByteArray> list;
    if (done.exitCode == 0)
      for (const QString& file : QDir(folder.path()).entryList({name + QStringLiteral("_*.png")}, QDir::Files, QDir::Name))
        list << bytes(folder.filePath(file));
    return list;
  };
  const auto joint = pictures(QStringLiteral("-1..0"), QStringLiteral("a"));
  QCOMPARE(joint.size(), 2);
  const auto beginning = pictures(QStringLiteral("0..0"), QStringLiteral("b"));
  QCOMPARE(beginning.size(), 1);
  // Numbered by frame: the last of the loop, and the first.
  QVERIFY(QFile::exists(folder.filePath(QStringLiteral("a_359.png"))) && QFile::exists(folder.filePath(QStringLiteral("a_00.png"))));
  QCOMPARE(joint[0], beginning[0]);
  QVERIFY(joint[0] != joint[1]);
}

void TestCli::numberedPictures() {
  const QTemporaryDir folder;
  const QString inside = folder.filePath(QStringLiteral("new/folder/"));
  QCOMPARE(
      cli({QStringLiteral("render"), scene("dusk.overagain"), QStringLiteral("-o"), inside, QStringLiteral("--size"),
           QStringLiteral("32x18"), QStringLiteral("--frames"), QStringLiteral("0..4"), QStringLiteral("--loops"), QStringLiteral("2")})
          .exitCode,
      0);
  QCOMPARE(contents(inside).size(), 10);
  QCOMPARE(bytes(inside + QStringLiteral("frame_0000.png")), bytes(inside + QStringLiteral("frame_0005.png")));
}

void TestCli::profileTellsWhoseTimeItIs() {
  const Finished told = cli(
      {QStringLiteral("profile"), scene("dusk.overagain"), QStringLiteral("--size"), QStringLiteral("480x270"), QStringLiteral("--json")});
  QCOMPARE(told.exitCode, 0);
  const QJsonObject json = QJsonDocument::fromJson(told.out).object();
  // All of the work is somebody's: layers' and what is left for laying them over each other.
  double sum = json[u"laying"].toDouble();
  const QJsonArray layers = json[u"layers"].toArray();
  QVERIFY(layers.size() >= 3);
  for (const auto& layer : layers) {
    double own = 0;
    for (const auto& step : layer[u"steps"].toArray()) own += step[u"milliseconds"].toDouble();
    QVERIFY(std::abs(own - layer[u"milliseconds"].toDouble()) < 1e-6);
    sum += own;
  }
  QVERIFY(json[u"work"].toDouble() > 0);
  QVERIFY(std::abs(sum - json[u"work"].toDouble()) < 1e-6);
  const Finished words = cli({QStringLiteral("profile"), scene("dusk.overagain"), QStringLiteral("--size"), QStringLiteral("96x54")});
  QVERIFY(words.out.contains("a frame of 96 x 54 takes "));
  QVERIFY(words.out.contains("blur"));
}

void TestCli::statsTellWhatItTook() {
  const QTemporaryDir folder;
  const QStringList render{QStringLiteral("render"),   scene("dusk.overagain"), QStringLiteral("--size"), QStringLiteral("96x54"),
                           QStringLiteral("--frames"), QStringLiteral("0..4"),  QStringLiteral("-o"),     folder.filePath("p_%02d.png")};
  QVERIFY(cli(render).err.isEmpty());
  const Finished told = cli(render + QStringList{QStringLiteral("--stats")});
  QCOMPARE(told.exitCode, 0);
  QVERIFY2(told.err.contains("rendering ") && told.err.contains("5 pictures rendered"), told.err.constData());
  QVERIFY(told.err.contains("MiB of memory") && told.err.contains("fresh pages a picture"));
}

void TestCli::infoAndDescribe() {
  const Finished info = cli({QStringLiteral("info"), scene("stage-screen.overagain"), QStringLiteral("--json")});
  const QJsonObject json = QJsonDocument::fromJson(info.out).object();
  QCOMPARE(json[QStringLiteral("frames")].toInt(), 300);
  QCOMPARE(json[QStringLiteral("seconds")].toDouble(), 10.0);
  QVERIFY(json[QStringLiteral("layers")].toArray().size() >= 3);
  QVERIFY(cli({QStringLiteral("info"), scene("stage-screen.overagain")}).out.contains("1920 x 1080"));
  const Finished one = cli({QStringLiteral("describe"), QStringLiteral("noise"), QStringLiteral("--json")});
  QCOMPARE(QJsonDocument::fromJson(one.out).object()[QStringLiteral("id")].toString(), QStringLiteral("noise"));
  const Finished all = cli({QStringLiteral("describe"), QStringLiteral("--json")});
  QVERIFY(QJsonDocument::fromJson(all.out).array().size() >= 6);
  QVERIFY(cli({QStringLiteral("describe")}).out.contains("## Gradient (`gradient`)"));
}

void TestCli::schemaAcceptsTheDemoScenes() {
  // An independent validator reads the schema that ships, and refuses a planted mistake.
  const QTemporaryDir folder;
  QFile schema(folder.filePath(QStringLiteral("schema.json")));
  QVERIFY(schema.open(QIODevice::WriteOnly));
  schema.write(cli({QStringLiteral("describe"), QStringLiteral("--schema")}).out);
  schema.close();
  QCOMPARE(bytes(QStringLiteral(OA_SOURCE_DIR "/docs/scene.schema.json")), bytes(schema.fileName()));
  const QString script = QStringLiteral(
      "import json,sys,jsonschema\n"
      "v=jsonschema.Draft202012Validator(json.load(open(sys.argv[1])))\n"
      "bad=0\n"
      "for f in sys.argv[2:]:\n"
      "    s=json.load(open(f)); assert v.is_valid(s), f\n"
      "    s['layers'][0]['blend']='loud'; bad+=not v.is_valid(s)\n"
      "print(bad)\n");
  QStringList words{QStringLiteral("-c"), script, schema.fileName()};
  const QDir scenes(QStringLiteral(OA_SOURCE_DIR "/demo-data/scenes"));
  const auto files = scenes.entryList({QStringLiteral("*.overagain")});
  for (const QString& file : files) words << scenes.filePath(file);
  const Finished done = run(QStringLiteral("/usr/bin/python3"), words);
  QVERIFY2(done.exitCode == 0, done.err.constData());
  QCOMPARE(done.out.trimmed().toInt(), static_cast<int>(files.size()));
}

void TestCli::checkSaysClean() {
  const Finished done = cli({QStringLiteral("check"), scene("lamp-room.overagain"), QStringLiteral("--json")});
  QCOMPARE(done.exitCode, 0);
  const QJsonObject report = QJsonDocument::fromJson(done.out).object();
  QVERIFY(report[QStringLiteral("scene")].toObject()[QStringLiteral("clean")].toBool());
  QVERIFY(!report[QStringLiteral("layers")].toArray().isEmpty());
  QVERIFY(cli({QStringLiteral("check"), scene("lamp-room.overagain")}).out.contains("The loop closes"));
}

void TestCli::mistakesAreExplained_data() {
  QTest::addColumn<QStringList>("words");
  QTest::addColumn<QString>("sentence");
  const auto row = [](const char* name, const QStringList& words, const char* sentence) {
    QTest::newRow(name) << words << QString::fromLatin1(sentence);
  };
  const QString dusk = scene("dusk.overagain");
  row("no such scene", {"still", "nowhere.overagain", "-o", "a.png"}, "nowhere.overagain: could not be opened: there is no such file");
  row("no such command", {"explode"}, "");
  row("no such option", {"still", dusk, "-o", "a.png", "--loud"}, "--loud");
  row("size", {"still", dusk, "-o", "a.png", "--size", "big"}, "is not a size like 1920x1080");
  row("size too large", {"still", dusk, "-o", "a.png", "--size", "9000x10"}, "8192");
  row("ending", {"render", dusk, "-o", "a.avi"}, "must end in .mp4, .webm, .mov, .mkv, .gif, .webp, .apng, .html or .png");
  row("frames", {"render", dusk, "-o", "a.mp4", "--frames", "9..2"}, "is not a range");
  row("loops", {"render", dusk, "-o", "a.mp4", "--loops", "0"}, "loops");
  row("several pictures in one file", {"render", dusk, "-o", "a.png", "--size", "16x16"}, "need a folder or a number in the name");
  row("pattern", {"render", dusk, "-o", "a_%s.png"}, "");
  row("no place", {"render", dusk, "-o", "/proc/no/such/a.mp4", "--size", "16x16"}, "/proc/no/such/a.mp4");
  row("step", {"describe", "teleport"}, "there is no step \"teleport\"");
  row("assignment", {"info", dusk, "--set", "frames=none"}, "frames: must be a number");
}

void TestCli::mistakesAreExplained() {
  QFETCH(QStringList, words);
  QFETCH(QString, sentence);
  const QTemporaryDir folder;
  const Finished done = cli(words, folder.path());
  QVERIFY(done.exitCode > 0);
  const QString said = QString::fromUtf8(done.err);
  QVERIFY2(said.contains(sentence), qPrintable(said));
  QVERIFY2(said.trimmed().count('\n') <= 1, qPrintable(said));  // one sentence, perhaps with a hint at --help
  QVERIFY2(contents(folder.path()).isEmpty(), "something was left behind");
}

void TestCli::failuresLeaveNothingBehind_data() {
  QTest::addColumn<QString>("file");
  for (const char* file : {"a.mp4", "a.webm", "a.gif", "a_%02d.png", "pictures/"}) QTest::newRow(file) << file;
}

void TestCli::failuresLeaveNothingBehind() {
  QFETCH(QString, file);
  const QTemporaryDir folder;
  // The shell limits every file to 8 blocks: the write fails half way, as on a full disk.
  const QString command = QStringLiteral("ulimit -f 8; exec '%1' render '%2' -o '%3' --size 320x180 --frames 0..29")
                              .arg(QStringLiteral(OA_CLI), scene("stage-screen.overagain"), file);
  const Finished done = run(QStringLiteral("/bin/bash"), {QStringLiteral("-c"), command}, folder.path());
  QVERIFY2(done.exitCode > 0, done.out.constData());
  QVERIFY2(done.err.contains("larger than this place allows") || done.err.contains("could not be written"), done.err.constData());
  QVERIFY2(contents(folder.path()).isEmpty(), qPrintable(contents(folder.path()).join(' ')));
}

void TestCli::aFullDiskIsExplained() {
  // A file system of 200 KB, where this machine allows one.
  const QTemporaryDir folder;
  const QString script = QStringLiteral(
                             "mount -t tmpfs -o size=200k tmpfs '%1' 2>/dev/null || exit 77; '%2' render '%3' -o '%1/a.mp4' --size "
                             "640x360; code=$?; ls -A '%1'; exit $code")
                             .arg(folder.path(), QStringLiteral(OA_CLI), scene("stage-screen.overagain"));
  const Finished done = run(QStringLiteral("unshare"),
                            {QStringLiteral("-m"), QStringLiteral("-r"), QStringLiteral("/bin/bash"), QStringLiteral("-c"), script});
  if (done.exitCode == 77 || done.exitCode < 0 || done.err.contains("unshare"))
    QSKIP("no private mounts here; failuresLeaveNothingBehind covers the same path");
  QVERIFY(done.exitCode > 0);
  QVERIFY2(done.err.contains("the disk is full"), done.err.constData());
  QCOMPARE(done.out, QByteArray());
}

void TestCli::quietIsQuiet() {
  const QTemporaryDir folder;
  const Finished done = cli({QStringLiteral("render"), scene("dusk.overagain"), QStringLiteral("-o"),
                             folder.filePath(QStringLiteral("a.gif")), QStringLiteral("--size"), QStringLiteral("32x18"),
                             QStringLiteral("--frames"), QStringLiteral("0..3"), QStringLiteral("--quiet")});
  QCOMPARE(done.exitCode, 0);
  QVERIFY(done.out.isEmpty() && done.err.isEmpty());
}

QTEST_GUILESS_MAIN(TestCli)
#include "tst_cli.moc"
