// The run as files: its parts by an independent reader, laps that are the same again, titles from a table on the command line.
#include <QtTest>

#include "support/clips.h"
#include "support/files.h"

using namespace oa::test;

namespace {

constexpr int kWidth = 96;
constexpr int kHeight = 64;

// A shape that comes from the left in half a second, stays while fog goes round, and goes up.
const char* const kRun = R"({"overagain":2,"name":"Run","size":[96,64],"rate":[20,1],"frames":20,"background":"#000000","run":{"loops":3},
  "layers":[{"name":"fog","recipe":[{"step":"noise","cell":30,"churn":{"value":1,"motion":{"kind":"turn","laps":1}}},{"step":"colourmap"}]},
  {"name":"lamp","arrive":{"from":"outside the frame","lasts":0.5,"fade":false},"leave":{"from":"outside the frame","direction":270,"lasts":0.4},
   "recipe":[{"step":"shape","width":30,"height":20}]}]})";

const char* const kTitle = R"({"overagain":2,"name":"Titles","size":[96,64],"rate":[20,1],"frames":8,"background":"#102030",
  "layers":[{"name":"words","recipe":[{"step":"words","text":"{name}","size":20,"order":"together"}]}]})";

QString sceneIn(const QTemporaryDir& dir, const char* text) {
  const QString path = dir.filePath(QStringLiteral("scene.overagain"));
  QFile file(path);
  if (!file.open(QIODevice::WriteOnly) || file.write(text) < 0) qFatal("cannot be written");
  return path;
}

std::vector<QByteArray> rendered(const QString& scene, const QString& to, const QStringList& more = {}, const QString& decoder = {}) {
  const Finished done = cli(QStringList{QStringLiteral("render"), scene, QStringLiteral("-o"), to} + more);
  if (done.exitCode != 0) qWarning() << done.err;
  return done.exitCode == 0 ? decoded(to, kWidth, kHeight, decoder) : std::vector<QByteArray>();
}

}  // namespace

class TestRunFiles : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void partsAreAsLongAsTheySay() {
    QTemporaryDir dir;
    const QString scene = sceneIn(dir, kRun);
    const auto count = [&](const char* part) {
      return rendered(scene, dir.filePath(QLatin1String(part) + QStringLiteral(".mkv")), {QStringLiteral("--part"), QLatin1String(part)})
          .size();
    };
    QCOMPARE(count("arrive"), std::size_t{10});
    QCOMPARE(count("loop"), std::size_t{20});
    QCOMPARE(count("leave"), std::size_t{8});
    QCOMPARE(count("run"), std::size_t{10 + 60 + 8});
    // Where anything arrives, all of it is what is handed over.
    QCOMPARE(rendered(scene, dir.filePath(QStringLiteral("x.mkv"))).size(), std::size_t{78});
    QCOMPARE(rendered(scene, dir.filePath(QStringLiteral("y.mkv")), {QStringLiteral("--loops"), QStringLiteral("2")}).size(),
             std::size_t{58});
    const Finished none =
        cli({QStringLiteral("render"), scene, QStringLiteral("--set"), QStringLiteral("layers[1].leave=null"), QStringLiteral("--part"),
             QStringLiteral("leave"), QStringLiteral("-o"), dir.filePath(QStringLiteral("z.mkv"))});
    QVERIFY(none.exitCode != 0 && none.err.contains("nothing in the scene leaves"));
    QVERIFY(!QFile::exists(dir.filePath(QStringLiteral("z.mkv"))));
  }

  // Of what is seen only: another font of words that are not set apart is no matter.
  void fontsThatAreMissingAreNamed() {
    QTemporaryDir dir;
    const QString scene = dir.filePath(QStringLiteral("s.overagain"));
    const char* const words = R"({"overagain":2,"name":"w","size":[64,32],"frames":4,"layers":[{"name":"w","recipe":[
        {"step":"words","font":"Kelpwick Grotesk","starFont":"Kelpwick Hand"}]}]})";
    QFile file(scene);
    QVERIFY(file.open(QIODevice::WriteOnly) && file.write(words) > 0);
    file.close();
    for (const QStringList& asked : {QStringList{QStringLiteral("info"), scene}, QStringList{QStringLiteral("check"), scene}}) {
      const Finished told = cli(asked);
      QCOMPARE(told.exitCode, 0);
      QVERIFY2(told.err.contains("the font \"Kelpwick Grotesk\" is not here"), told.err.constData());
      QVERIFY(!told.err.contains("Kelpwick Hand"));
    }
    const Finished both = cli({QStringLiteral("info"), scene, QStringLiteral("--json"), QStringLiteral("--set"),
                               QStringLiteral("layers[0].recipe[0].stars=true")});
    QVERIFY(both.out.contains("Kelpwick Grotesk") && both.out.contains("Kelpwick Hand"));
    const Finished there = cli({QStringLiteral("info"), scene, QStringLiteral("--set"), QStringLiteral("layers[0].recipe[0].font=cabin")});
    QVERIFY(there.exitCode == 0 && there.err.isEmpty());
  }

  // Without a loss: the whole is its parts one after the other, and a lap is the lap before.
  void theWholeIsItsParts() {
    QTemporaryDir dir;
    const QString scene = sceneIn(dir, kRun);
    const auto part = [&](const char* which) {
      return rendered(scene, dir.filePath(QLatin1String(which) + QStringLiteral(".mkv")), {QStringLiteral("--part"), QLatin1String(which)});
    };
    const auto run = part("run");
    std::vector<QByteArray> joined = part("arrive");
    const auto loop = part("loop");
    for (int lap = 0; lap < 3; ++lap) joined.insert(joined.end(), loop.begin(), loop.end());
    const auto leave = part("leave");
    joined.insert(joined.end(), leave.begin(), leave.end());
    QCOMPARE(run.size(), joined.size());
    for (std::size_t i = 0; i < run.size(); ++i) QVERIFY2(run[i] == joined[i], qPrintable(QString::number(i)));
    QVERIFY(run[0] != run[10] && run.back() != run[10]);
    // A still of any moment of it.
    for (const int frame : {0, 7, 35, 77}) {
      const QString still = dir.filePath(QStringLiteral("still.png"));
      QCOMPARE(cli({QStringLiteral("still"), scene, QStringLiteral("--part"), QStringLiteral("run"), QStringLiteral("--frame"),
                    QString::number(frame), QStringLiteral("-o"), still})
                   .exitCode,
               0);
      const QImage image = QImage(still).convertToFormat(QImage::Format_RGBA8888);
      const auto& seen = run[static_cast<std::size_t>(frame)];
      for (int y = 0; y < kHeight; ++y)
        QCOMPARE(QByteArray(reinterpret_cast<const char*>(image.constScanLine(y)), kWidth * 4), seen.mid(y * kWidth * 4, kWidth * 4));
    }
    QVERIFY(cli({QStringLiteral("still"), scene, QStringLiteral("--part"), QStringLiteral("run"), QStringLiteral("--frame"),
                 QStringLiteral("78"), QStringLiteral("-o"), dir.filePath(QStringLiteral("no.png"))})
                .exitCode != 0);
  }

  // Laps are encoded once: behind each other in the file they decode to the same pictures, whatever the encoder.
  void lapsAreTheSameAgain_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<QStringList>("more");
    QTest::addColumn<QString>("decoder");
    QTest::addColumn<double>("off");
    QTest::newRow("h264") << QStringLiteral("a.mp4") << QStringList() << QString() << 3.0;
    QTest::newRow("h265") << QStringLiteral("b.mp4") << QStringList{QStringLiteral("--format"), QStringLiteral("h265")} << QString() << 3.0;
    QTest::newRow("vp9") << QStringLiteral("a.webm") << QStringList() << QString() << 3.0;
    QTest::newRow("av1") << QStringLiteral("b.webm") << QStringList{QStringLiteral("--format"), QStringLiteral("av1")}
                         << QStringLiteral("libdav1d") << 4.0;
    QTest::newRow("prores") << QStringLiteral("a.mov") << QStringList() << QString() << 2.0;
  }
  void lapsAreTheSameAgain() {
    QFETCH(QString, name);
    QFETCH(QStringList, more);
    QFETCH(QString, decoder);
    QFETCH(double, off);
    QTemporaryDir dir;
    const QString scene = sceneIn(dir, kRun);
    const auto frames = rendered(scene, dir.filePath(name), more, decoder);
    QCOMPARE(frames.size(), std::size_t{78});
    for (std::size_t k = 0; k < 20; ++k)
      for (const std::size_t lap : {1, 2}) QVERIFY2(frames[10 + k] == frames[10 + lap * 20 + k], qPrintable(QString::number(k)));
    const auto truth = rendered(scene, dir.filePath(QStringLiteral("truth.mkv")));
    for (std::size_t i = 0; i < frames.size(); ++i) {
      const double d = meanDifference(frames[i], truth[i]);
      QVERIFY2(d < off, qPrintable(QStringLiteral("%1: %2").arg(i).arg(d)));
    }
  }

  void picturesAndAnimationsHoldIt() {
    QTemporaryDir dir;
    const QString scene = sceneIn(dir, kRun);
    QCOMPARE(cli({QStringLiteral("render"), scene, QStringLiteral("-o"), dir.filePath(QStringLiteral("f_%03d.png"))}).exitCode, 0);
    QCOMPARE(QDir(dir.path()).entryList({QStringLiteral("f_*.png")}).size(), 78);
    QCOMPARE(QImage(dir.filePath(QStringLiteral("f_012.png"))), QImage(dir.filePath(QStringLiteral("f_032.png"))));
    QVERIFY(QImage(dir.filePath(QStringLiteral("f_000.png"))) != QImage(dir.filePath(QStringLiteral("f_010.png"))));
    for (const char* name : {"a.gif", "a.webp", "a.apng"})
      QCOMPARE(cli({QStringLiteral("render"), scene, QStringLiteral("-o"), dir.filePath(QLatin1String(name))}).exitCode, 0);
    QCOMPARE(probe(dir.filePath(QStringLiteral("a.apng"))).value(QStringLiteral("nb_read_frames")).toString(), QStringLiteral("78"));
    QCOMPARE(probe(dir.filePath(QStringLiteral("a.gif"))).value(QStringLiteral("nb_read_frames")).toString(), QStringLiteral("78"));
  }

  void infoAndCheckTellOfIt() {
    QTemporaryDir dir;
    const QString scene = sceneIn(dir, kRun);
    const Finished info = cli({QStringLiteral("info"), scene});
    QVERIFY(info.out.contains("arrives in 0.5 s, loops for 3 s, leaves in 0.4 s; 78 frames"));
    const Finished check = cli({QStringLiteral("check"), scene});
    QCOMPARE(check.exitCode, 0);
    QVERIFY(check.out.contains("what arrives meets the loop"));
    const auto json = QJsonDocument::fromJson(cli({QStringLiteral("check"), QStringLiteral("--json"), scene}).out).object();
    QCOMPARE(json.value(QStringLiteral("run")).toArray().size(), 2);
    // Something that jumps where the loop takes it over is told, and fails.
    const Finished jumps = cli(
        {QStringLiteral("check"), scene, QStringLiteral("--set"),
         QStringLiteral(
             "layers[1].shape.centre={\"value\":[0.2,0.5],\"motion\":{\"kind\":\"hops\",\"laps\":1,\"values\":[[0.2,0.5],[0.8,0.5]]}}")});
    QVERIFY(jumps.exitCode != 0);
  }

  void aTableMakesAFileForEachRow() {
    QTemporaryDir dir;
    const QString scene = sceneIn(dir, kTitle);
    QFile csv(dir.filePath(QStringLiteral("rows.csv")));
    QVERIFY(csv.open(QIODevice::WriteOnly));
    csv.write("name,place\nTides,a\n\"Lamps, lit\",b\nBroken\nGulls,d\n");
    csv.close();
    const Finished done = cli({QStringLiteral("render"), scene, QStringLiteral("--table"), csv.fileName(), QStringLiteral("-o"),
                               dir.filePath(QStringLiteral("{name}.mkv"))});
    // The bad row is named, and the others are made all the same.
    QVERIFY(done.exitCode != 0);
    QVERIFY2(done.err.contains("row 3 (Broken)"), done.err.constData());
    for (const char* name : {"Tides", "Lamps, lit", "Gulls"})
      QCOMPARE(decoded(dir.filePath(QLatin1String(name) + QStringLiteral(".mkv")), kWidth, kHeight).size(), std::size_t{8});
    QVERIFY(!QFile::exists(dir.filePath(QStringLiteral("Broken.mkv"))));
    // Each says its own words: as they would be set by hand.
    const auto tides = decoded(dir.filePath(QStringLiteral("Tides.mkv")), kWidth, kHeight);
    const auto byHand = rendered(scene, dir.filePath(QStringLiteral("hand.mkv")),
                                 {QStringLiteral("--set"), QStringLiteral("layers[0].words.text=\"Tides\"")});
    QVERIFY(!byHand.empty() && tides.front() == byHand.front());
    QVERIFY(tides.front() != decoded(dir.filePath(QStringLiteral("Gulls.mkv")), kWidth, kHeight).front());
    // Names that would be the same, or say nothing of a row, are refused before anything is made.
    const Finished same = cli({QStringLiteral("render"), scene, QStringLiteral("--table"), csv.fileName(), QStringLiteral("-o"),
                               dir.filePath(QStringLiteral("one.mkv"))});
    QVERIFY(same.exitCode != 0 && same.err.contains("would write the same file"));
    QVERIFY(!QFile::exists(dir.filePath(QStringLiteral("one.mkv"))));
    QVERIFY(cli({QStringLiteral("info"), scene}).out.contains("{name}"));
  }

  void standInsAreNotHandedOver() {
    QTemporaryDir dir;
    const QString scene = sceneIn(dir, kRun);
    const auto without =
        rendered(scene, dir.filePath(QStringLiteral("a.mkv")), {QStringLiteral("--set"), QStringLiteral("layers[1].visible=false")});
    const auto standIn =
        rendered(scene, dir.filePath(QStringLiteral("b.mkv")), {QStringLiteral("--set"), QStringLiteral("layers[1].standIn=true")});
    QVERIFY(!without.empty() && without == standIn);
  }
};

QTEST_MAIN(TestRunFiles)
#include "tst_run_files.moc"
