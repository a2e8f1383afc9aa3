// Exported files, read by an independent reader: frames, rate, size, colour tags, alpha, and the joint.
#include <QDir>
#include <QTemporaryDir>
#include <QTest>
#include <cmath>

#include "support/files.h"
#include "support/scenes.h"
#include "scene/scene_file.h"

using namespace oa::test;

namespace {

constexpr int kWidth = 128;
constexpr int kHeight = 72;

QString demo(const QString& name) { return QStringLiteral(OA_SOURCE_DIR "/demo-data/scenes/") + name; }

}  // namespace

class TestExportFiles : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void everySceneInEveryFormat_data();
  void everySceneInEveryFormat();
  void repeatsAreExact_data();
  void repeatsAreExact();
  void oddRatesStayExact_data();
  void oddRatesStayExact();
  void alphaIsCarried_data();
  void alphaIsCarried();
  void oddSizesAreRoundedUpForVideo();
  void ditherChoicesDiffer();
  void coloursSurviveVideo();
  void sixteenBitsHoldMore();
};

void TestExportFiles::everySceneInEveryFormat_data() {
  QTest::addColumn<QString>("scene");
  QTest::addColumn<QString>("format");
  for (const auto& path : demoScenePaths())
    for (const char* format : {"mp4", "webm", "gif", "png"}) {
      const QString name = QString::fromStdString(path).section('/', -1);
      QTest::newRow(qPrintable(name + " as " + format)) << name << format;
    }
}

void TestExportFiles::everySceneInEveryFormat() {
  QFETCH(QString, scene);
  QFETCH(QString, format);
  oa::Scene loaded = demoScene(scene.toStdString());
  loaded.frames = 72;
  const QTemporaryDir folder;
  const QString target = folder.filePath(format == "png" ? QStringLiteral("f_%04d.png") : QStringLiteral("loop.") + format);
  const Finished done = cli({"render", demo(scene), "-o", target, "--size", QStringLiteral("%1x%2").arg(kWidth).arg(kHeight), "--quiet",
                             "--set", "frames=72", "--part", "loop"});
  QVERIFY2(done.exitCode == 0, done.err.constData());
  const QJsonObject stream = probe(target);
  // Exactly N, never N + 1.
  QCOMPARE(stream["nb_read_frames"].toString().toInt(), loaded.frames);
  QCOMPARE(stream["width"].toInt(), kWidth);
  QCOMPARE(stream["height"].toInt(), kHeight);
  if (format == "mp4" || format == "webm") {
    QCOMPARE(stream["r_frame_rate"].toString(), QStringLiteral("%1/%2").arg(loaded.rate.num).arg(loaded.rate.den));
    QCOMPARE(stream["color_space"].toString(), QStringLiteral("bt709"));
    QCOMPARE(stream["color_transfer"].toString(), QStringLiteral("bt709"));
    QCOMPARE(stream["color_primaries"].toString(), QStringLiteral("bt709"));
    QCOMPARE(stream["color_range"].toString(), QStringLiteral("tv"));
    QCOMPARE(stream["pix_fmt"].toString(), QStringLiteral("yuv420p"));
    QCOMPARE(stream["codec_name"].toString(), format == "mp4" ? QStringLiteral("h264") : QStringLiteral("vp9"));
  }
  if (format != "png") {
    const double seconds = stream["file_duration"].toString().toDouble();
    QVERIFY2(std::abs(seconds - loaded.seconds()) < 0.06, qPrintable(QString::number(seconds)));
  }
  const auto frames = decoded(target, kWidth, kHeight);
  QCOMPARE(static_cast<int>(frames.size()), loaded.frames);
  // Where pictures are held, from one that is another to the next.
  std::vector<QByteArray> others;
  for (std::size_t i = 0; i < frames.size(); i += static_cast<std::size_t>(loaded.hold)) others.push_back(frames[i]);
  const DecodedJoint joint = decodedJoint(others);
  QVERIFY2(joint.median > 0, "nothing moves");
  QVERIFY2(joint.joint <= 1.5 * joint.median || joint.joint <= 1.03 * joint.largest,
           qPrintable(QStringLiteral("joint %1, median %2").arg(joint.joint).arg(joint.median)));
}

void TestExportFiles::repeatsAreExact_data() {
  QTest::addColumn<QString>("format");
  for (const char* format : {"mp4", "webm"}) QTest::newRow(format) << format;
}

void TestExportFiles::repeatsAreExact() {
  QFETCH(QString, format);
  const QTemporaryDir folder;
  const QString target = folder.filePath(QStringLiteral("loop.") + format);
  // 40 frames, three loops; the scene itself repeats four times in a loop, so the run is 10 frames long.
  const Finished done = cli({"render", demo("dusk.overagain"), "-o", target, "--size", "96x54", "--loops", "3", "--set", "frames=40"});
  QVERIFY2(done.exitCode == 0, done.err.constData());
  QCOMPARE(probe(target)["nb_read_frames"].toString().toInt(), 120);
  const auto frames = decoded(target, 96, 54);
  QCOMPARE(static_cast<int>(frames.size()), 120);
  for (std::size_t i = 0; i < 40; ++i) {
    QVERIFY2(frames[i] == frames[i + 40], qPrintable(QString::number(i)));
    QVERIFY2(frames[i] == frames[i + 80], qPrintable(QString::number(i)));
  }
}

void TestExportFiles::oddRatesStayExact_data() {
  QTest::addColumn<QString>("rate");
  QTest::addColumn<QString>("tagged");
  QTest::newRow("film for television") << "[24000,1001]"
                                       << "24000/1001";
  QTest::newRow("29.97") << "[30000,1001]"
                         << "30000/1001";
  QTest::newRow("25") << "[25,1]"
                      << "25/1";
  QTest::newRow("60") << "[60,1]"
                      << "60/1";
}

void TestExportFiles::oddRatesStayExact() {
  QFETCH(QString, rate);
  QFETCH(QString, tagged);
  const QTemporaryDir folder;
  for (const char* format : {"mp4", "webm"}) {
    const QString target = folder.filePath(QStringLiteral("loop.") + format);
    const Finished done = cli(
        {"render", demo("dusk.overagain"), "-o", target, "--size", "64x36", "--set", "rate=" + rate, "--set", "frames=48", "--loops", "2"});
    QVERIFY2(done.exitCode == 0, done.err.constData());
    const QJsonObject stream = probe(target);
    QCOMPARE(stream["nb_read_frames"].toString().toInt(), 96);
    // WebM keeps times in whole milliseconds; the rate is stated all the same.
    QVERIFY2(stream["r_frame_rate"].toString() == tagged || stream["avg_frame_rate"].toString() == tagged,
             qPrintable(stream["r_frame_rate"].toString() + " " + stream["avg_frame_rate"].toString()));
  }
}

void TestExportFiles::alphaIsCarried_data() {
  QTest::addColumn<QString>("format");
  QTest::addColumn<QString>("decoder");
  QTest::addColumn<double>("tolerance");
  QTest::newRow("webm") << "loop.webm"
                        << "libvpx-vp9" << 3.0;
  QTest::newRow("png") << "f_%02d.png"
                       << "" << 1.0;
  QTest::newRow("gif") << "loop.gif"
                       << "" << 128.0;
}

void TestExportFiles::alphaIsCarried() {
  QFETCH(QString, format);
  QFETCH(QString, decoder);
  QFETCH(double, tolerance);
  // Transparent on the left, opaque on the right.
  oa::Scene scene = oneLayer("gradient", 160, 64, 12);
  scene.background.reset();
  setValue(scene, 0, 0, "from", oa::Point{0, 0.5});
  setValue(scene, 0, 0, "to", oa::Point{1, 0.5});
  setStops(scene, 0, 0, oa::Stops{{0, {1, 0.5f, 0, 0}}, {1, {1, 0.5f, 0, 1}}});
  scene.layers[0].opacity.motion = swing(0.7);
  const QTemporaryDir folder;
  const QString file = folder.filePath("a.overagain");
  QVERIFY(oa::saveScene(scene, file.toStdString()));
  const QString target = folder.filePath(format);
  const Finished done = cli({"render", file, "-o", target});
  QVERIFY2(done.exitCode == 0, done.err.constData());
  const auto frames = decoded(target, 160, 64, decoder);
  QCOMPARE(static_cast<int>(frames.size()), 12);
  const auto alpha = [&](int x) { return static_cast<int>(static_cast<unsigned char>(frames[0][(32 * 160 + x) * 4 + 3])); };
  for (const int x : {2, 40, 80, 120, 157})
    QVERIFY2(std::abs(alpha(x) - 255 * (x + 0.5) / 160) <= tolerance, qPrintable(QStringLiteral("%1: %2").arg(x).arg(alpha(x))));
  // Colours are not darkened towards the transparent side.
  const auto red = static_cast<unsigned char>(frames[0][(32 * 160 + 120) * 4]);
  QVERIFY2(red > 240, qPrintable(QString::number(red)));
  // What cannot hold alpha is laid on black, without a complaint.
  const QString flat = folder.filePath("flat.mp4");
  QCOMPARE(cli({"render", file, "-o", flat}).exitCode, 0);
  const auto onBlack = decoded(flat, 160, 64);
  QVERIFY(static_cast<unsigned char>(onBlack[0][(32 * 160 + 2) * 4]) < 25);
}

void TestExportFiles::oddSizesAreRoundedUpForVideo() {
  const QTemporaryDir folder;
  const QString target = folder.filePath("a.mp4");
  const Finished done = cli({"render", demo("dusk.overagain"), "-o", target, "--size", "65x37", "--frames", "0..5"});
  QCOMPARE(done.exitCode, 0);
  QVERIFY(done.out.contains("even sizes"));
  QCOMPARE(probe(target)["width"].toInt(), 66);
  QCOMPARE(probe(target)["height"].toInt(), 38);
}

void TestExportFiles::ditherChoicesDiffer() {
  const QTemporaryDir folder;
  QList<QByteArray> seen;
  for (const char* dither : {"none", "pattern", "diffusion"}) {
    const QString target = folder.filePath(QStringLiteral("%1.gif").arg(dither));
    QCOMPARE(
        cli({"render", demo("stage-screen.overagain"), "-o", target, "--size", "128x72", "--frames", "0..2", "--dither", dither}).exitCode,
        0);
    const auto frames = decoded(target, 128, 72);
    QCOMPARE(static_cast<int>(frames.size()), 3);
    QVERIFY(!seen.contains(frames[0]));
    seen << frames[0];
  }
  QVERIFY(cli({"render", demo("dusk.overagain"), "-o", folder.filePath("x.gif"), "--dither", "loud"}).exitCode > 0);
}

void TestExportFiles::coloursSurviveVideo() {
  // Flat colours through each encoder and back: within what 8-bit limited-range video can hold.
  for (const char* colour : {"#1f7672", "#c8472b", "#f3f0e9", "#10181c"}) {
    const QTemporaryDir folder;
    oa::Scene scene = oneLayer("flat", 64, 64, 4);
    const oa::Colour c = *oa::parseColour(colour);
    setValue(scene, 0, 0, "colour", c);
    const QString file = folder.filePath("a.overagain");
    QVERIFY(oa::saveScene(scene, file.toStdString()));
    for (const char* format : {"mp4", "webm", "gif"}) {
      const QString target = folder.filePath(QStringLiteral("a.") + format);
      QCOMPARE(cli({"render", file, "-o", target}).exitCode, 0);
      // The reader is told nothing: it must find the matrix in the file's own tags.
      const auto frames = decoded(target, 64, 64);
      QVERIFY(!frames.empty());
      const auto at = [&](int i) { return static_cast<double>(static_cast<unsigned char>(frames[0][(20 * 64 + 20) * 4 + i])); };
      QVERIFY2(std::abs(at(0) - c.r * 255) <= 4 && std::abs(at(1) - c.g * 255) <= 4 && std::abs(at(2) - c.b * 255) <= 4,
               qPrintable(QStringLiteral("%1 as %2: %3 %4 %5").arg(colour, format).arg(at(0)).arg(at(1)).arg(at(2))));
    }
  }
}

void TestExportFiles::sixteenBitsHoldMore() {
  const QTemporaryDir folder;
  const QString target = folder.filePath("f_%02d.png");
  QCOMPARE(cli({"render", demo("dusk.overagain"), "-o", target, "--size", "64x36", "--frames", "0..1", "--bits", "16"}).exitCode, 0);
  QCOMPARE(probe(folder.filePath("f_00.png"))["pix_fmt"].toString(), QStringLiteral("rgb48be"));
}

QTEST_GUILESS_MAIN(TestExportFiles)
#include "tst_export_files.moc"
