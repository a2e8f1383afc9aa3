// The formats that came last: pictures, alpha, depth, repeats and sizes, by an independent reader.
#include <QtTest>
#include <cmath>

#include "media/formats.h"
#include "store/media_store.h"
#include "support/clips.h"
#include "support/files.h"

using namespace oa::test;

namespace {

constexpr int kWidth = 160;
constexpr int kHeight = 90;

// Half of it clear, in colours that go round.
const char* const kClear = R"({"overagain":2,"name":"Clear & <loud>","size":[160,90],"rate":[25,1],"frames":40,"background":"transparent",
  "layers":[{"name":"n","opacity":0.75,"recipe":[{"step":"noise","cell":40,"churn":{"value":1,"motion":{"kind":"turn","laps":1}}},
  {"step":"colourmap"}]}]})";

QString sceneIn(const QTemporaryDir& dir, QByteArray text = kClear) {
  const QString path = dir.filePath("scene.overagain");
  QFile file(path);
  if (!file.open(QIODevice::WriteOnly) || file.write(text) != text.size()) qFatal("cannot be written");
  return path;
}

Finished render(const QString& scene, const QString& to, const QStringList& more = {}) {
  return cli(QStringList{"render", scene, "-o", to} + more);
}

QImage asImage(const QByteArray& rgba) {
  return QImage(reinterpret_cast<const uchar*>(rgba.constData()), kWidth, kHeight, QImage::Format_RGBA8888).copy();
}

}  // namespace

class TestFormats : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  // Every frame against the numbered PNG pictures of the same scene, with alpha where the format has it.
  void picturesAndAlphaComeThrough_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<QStringList>("more");
    QTest::addColumn<QString>("codec");
    QTest::addColumn<QString>("pixels");
    QTest::addColumn<bool>("alpha");
    QTest::addColumn<double>("mean");
    QTest::addColumn<QString>("decoder");
    const auto row = [](const char* tag, const char* name, const QStringList& more, const char* codec, const char* pixels, bool alpha,
                        double mean, const char* decoder = "") {
      QTest::newRow(tag) << QString::fromLatin1(name) << more << QString::fromLatin1(codec) << QString::fromLatin1(pixels) << alpha << mean
                         << QString::fromLatin1(decoder);
    };
    row("h265", "a.mp4", {"--format", "h265"}, "hevc", "yuv420p", false, 2.5);
    row("h265 10", "b.mp4", {"--format", "h265", "--bits", "10"}, "hevc", "yuv420p10le", false, 2.5);
    row("av1", "a.webm", {"--format", "av1"}, "av1", "yuv420p", false, 3, "libdav1d");
    row("av1 10", "b.webm", {"--format", "av1", "--bits", "10"}, "av1", "yuv420p10le", false, 3, "libdav1d");
    // As near to the picture as without haste.
    row("h264 quick", "q.mp4", {"--quality", "quick"}, "h264", "yuv420p", false, 2.5);
    row("h265 quick", "r.mp4", {"--format", "h265", "--quality", "quick"}, "hevc", "yuv420p", false, 2.5);
    row("vp9 quick", "q.webm", {"--quality", "quick"}, "vp9", "yuv420p", false, 3);
    row("av1 quick", "r.webm", {"--format", "av1", "--quality", "quick"}, "av1", "yuv420p", false, 3, "libdav1d");
    row("prores", "a.mov", {}, "prores", "yuva444p12le", true, 1.0);
    row("ffv1", "a.mkv", {}, "ffv1", "bgra", true, 0);
    row("ffv1 16", "b.mkv", {"--bits", "16"}, "ffv1", "gbrap16le", true, 1);
    row("apng", "a.apng", {}, "apng", "rgba", true, 0);
    row("apng 16", "b.apng", {"--bits", "16"}, "apng", "rgba64be", true, 1);
  }
  void picturesAndAlphaComeThrough() {
    QFETCH(QString, name);
    QFETCH(QStringList, more);
    QFETCH(QString, codec);
    QFETCH(QString, pixels);
    QFETCH(bool, alpha);
    QFETCH(double, mean);
    QFETCH(QString, decoder);
    const QTemporaryDir dir;
    const QString scene = alpha ? sceneIn(dir) : sceneIn(dir, QByteArray(kClear).replace("transparent", "#203040"));
    const Finished done = render(scene, dir.filePath(name), more);
    QVERIFY2(done.exitCode == 0, done.err.constData());
    QVERIFY2(done.err.isEmpty(), done.err.constData());
    const QJsonObject stream = probe(dir.filePath(name));
    QCOMPARE(stream["codec_name"].toString(), codec);
    QCOMPARE(stream["pix_fmt"].toString(), pixels);
    QCOMPARE(stream["nb_read_frames"].toString(), QStringLiteral("40"));
    QCOMPARE(render(scene, dir.filePath("p_%04d.png")).exitCode, 0);
    const auto frames = decoded(dir.filePath(name), kWidth, kHeight, decoder);
    QCOMPARE(static_cast<int>(frames.size()), 40);
    bool clear = false;
    for (int k = 0; k < 40; ++k) {
      const QImage wanted =
          QImage(dir.filePath(QStringLiteral("p_%1.png").arg(k, 4, 10, QLatin1Char('0')))).convertToFormat(QImage::Format_RGBA8888);
      const Difference d = differenceOf(asImage(frames[static_cast<std::size_t>(k)]), wanted);
      QVERIFY2(d.mean <= mean, qPrintable(QStringLiteral("frame %1: %2").arg(k).arg(d.mean)));
      clear = clear || wanted.pixelColor(3, 3).alpha() < 255;
    }
    QCOMPARE(clear, alpha);
    // The joint is a step like the others.
    const DecodedJoint joint = decodedJoint(frames);
    QVERIFY2(joint.joint <= 1.5 * joint.median || joint.joint <= 1.03 * joint.largest,
             qPrintable(QStringLiteral("%1 %2").arg(joint.joint).arg(joint.median)));
  }

  // Nobody but we reads animated WebP here: libwebp's own decoder, through our reader, which tst_clips shows to be true.
  void animatedWebp_data() {
    QTest::addColumn<QString>("quality");
    QTest::addColumn<int>("most");
    QTest::newRow("best") << "best" << 0;
    QTest::newRow("good") << "good" << 60;
    QTest::newRow("quick") << "quick" << 60;
    QTest::newRow("small") << "small" << 90;
  }
  void animatedWebp() {
    QFETCH(QString, quality);
    QFETCH(int, most);
    const QTemporaryDir dir;
    const QString scene = sceneIn(dir);
    const Finished done = render(scene, dir.filePath("a.webp"), {"--quality", quality, "--loops", "7"});
    QVERIFY2(done.exitCode == 0, done.err.constData());
    QCOMPARE(render(scene, dir.filePath("p_%04d.png")).exitCode, 0);
    auto& store = oa::MediaStore::shared();
    const auto ref = store.takeIn(dir.filePath("a.webp").toStdString());
    QVERIFY(ref.has_value());
    // Pictures that come out alike are one that is shown for longer.
    QVERIFY(ref->pictures <= 40 && (most > 0 || ref->pictures == 40));
    QVERIFY(std::abs(ref->seconds - 1.6) < 1e-6);
    const auto clip = store.clip(*ref);
    double first = 0;
    for (int k = 0; k < 40; k += 3) {
      const auto raster = (*clip)->picture(oa::clipAt((*clip)->info(), {}, k / 40.0).parts[0].picture);
      QVERIFY(raster.has_value());
      const QImage shown(raster->data.get(), kWidth, kHeight, QImage::Format_RGBA8888);
      const QImage wanted =
          QImage(dir.filePath(QStringLiteral("p_%1.png").arg(k, 4, 10, QLatin1Char('0')))).convertToFormat(QImage::Format_RGBA8888);
      const Difference d = differenceOf(shown, wanted);
      QVERIFY2(d.most <= most && d.mean <= most / 10.0, qPrintable(QStringLiteral("%1: %2, %3").arg(k).arg(d.most).arg(d.mean)));
      // What is lost does not add up from picture to picture.
      if (k == 0) first = d.mean;
      QVERIFY2(d.mean <= 1.3 * first + 0.1, qPrintable(QStringLiteral("%1: %2, at first %3").arg(k).arg(d.mean).arg(first)));
    }
    // How often it is shown stands in the file (RFC 9649, section 2.7.1.1).
    QFile file(dir.filePath("a.webp"));
    QVERIFY(file.open(QIODevice::ReadOnly));
    const QByteArray bytes = file.readAll();
    const qsizetype anim = bytes.indexOf("ANIM");
    QVERIFY(anim > 0);
    QCOMPARE(static_cast<int>(static_cast<uchar>(bytes[anim + 12])) + 256 * static_cast<uchar>(bytes[anim + 13]), 7);
  }

  void repeatsAreExact_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<QString>("format");
    for (const char* format : {"h265", "av1", "prores", "ffv1"})
      QTest::newRow(format) << QStringLiteral("a") + QString::fromUtf8(oa::formatSuffix(*oa::formatForName(format)).data())
                            << QString::fromLatin1(format);
  }
  void repeatsAreExact() {
    QFETCH(QString, name);
    QFETCH(QString, format);
    const QTemporaryDir dir;
    const Finished done = render(sceneIn(dir), dir.filePath(name), {"--format", format, "--loops", "3"});
    QVERIFY2(done.exitCode == 0, done.err.constData());
    const auto frames = decoded(dir.filePath(name), kWidth, kHeight);
    QCOMPARE(static_cast<int>(frames.size()), 120);
    for (std::size_t i = 0; i < 40; ++i)
      QVERIFY2(frames[i] == frames[i + 40] && frames[i] == frames[i + 80], qPrintable(QString::number(i)));
  }

  // A size is kept, and used: not much smaller than asked where the picture has use for more.
  void sizesAreKept_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<QString>("format");
    QTest::newRow("h264") << "a.mp4"
                          << "h264";
    QTest::newRow("h265") << "a.mp4"
                          << "h265";
    QTest::newRow("vp9") << "a.webm"
                         << "vp9";
    QTest::newRow("av1") << "a.webm"
                         << "av1";
  }
  void sizesAreKept() {
    QFETCH(QString, name);
    QFETCH(QString, format);
    const QTemporaryDir dir;
    const QByteArray busy =
        R"({"overagain":2,"size":[320,180],"rate":[25,1],"frames":40,"background":"#000000","layers":[{"recipe":[{"step":"noise",
      "cell":24,"detail":6,"churn":{"value":3,"motion":{"kind":"turn","laps":1}}},{"step":"colourmap"},{"step":"grain"}]}]})";
    const QString scene = sceneIn(dir, busy);
    for (const double megabytes : {0.08, 0.4}) {
      const Finished done =
          render(scene, dir.filePath(name), {"--format", format, "--megabytes", QString::number(megabytes), "--loops", "2"});
      QVERIFY2(done.exitCode == 0, done.err.constData());
      const auto size = static_cast<double>(QFileInfo(dir.filePath(name)).size());
      QVERIFY2(size <= megabytes * 1e6 && size >= 0.01e6, qPrintable(QString::number(size)));
      QCOMPARE(probe(dir.filePath(name))["nb_read_frames"].toString(), QStringLiteral("80"));
    }
    const Finished none = render(scene, dir.filePath("none" + name), {"--format", format, "--megabytes", "0.0005"});
    QVERIFY(none.exitCode != 0 && none.err.contains("does not fit 0.0005 MB"));
    QVERIFY(!QFileInfo::exists(dir.filePath("none" + name)));
  }

  void whatAFormatCannotIsRefused() {
    const QTemporaryDir dir;
    const QString scene = sceneIn(dir);
    const Finished sized = render(scene, dir.filePath("a.gif"), {"--megabytes", "1"});
    QVERIFY(sized.exitCode != 0 && sized.err.contains("cannot be asked of GIF"));
    const Finished unknown = render(scene, dir.filePath("a.mp4"), {"--format", "avi"});
    QVERIFY(unknown.exitCode != 0 && unknown.err.contains("is not one of: h264, h265"));
    const Finished other = render(scene, dir.filePath("a.mp4"), {"--format", "av1"});
    QVERIFY(other.exitCode != 0 && other.err.contains("ending says something else"));
    QCOMPARE(QDir(dir.path()).entryList({"a.*"}).size(), 0);
  }

  // The page and all that belongs to it, whole or not at all; names and titles may hold anything.
  void aPageWithItsFiles() {
    const QTemporaryDir dir;
    const Finished done = render(sceneIn(dir), dir.filePath("site/two words & more.html"));
    QVERIFY2(done.exitCode == 0, done.err.constData());
    const QString base = dir.filePath("site/two words & more");
    QCOMPARE(probe(base + ".webm")["codec_name"].toString(), QStringLiteral("vp9"));
    QCOMPARE(probe(base + ".mp4")["codec_name"].toString(), QStringLiteral("h264"));
    QCOMPARE(QImage(base + "-poster.png").size(), QSize(kWidth, kHeight));
    QFile page(base + ".html");
    QVERIFY(page.open(QIODevice::ReadOnly));
    const QByteArray html = page.readAll();
    QVERIFY(html.contains("src=\"two%20words%20%26%20more.webm\"") && html.contains("autoplay loop muted playsinline"));
    QVERIFY(html.contains("<title>Clear &amp; &lt;loud></title>") && html.contains("width=\"160\" height=\"90\""));
    QCOMPARE(QDir(dir.filePath("site")).entryList(QDir::Files | QDir::Hidden).size(), 4);
    const Finished broken = render(sceneIn(dir), dir.filePath("other/page.html"), {"--megabytes", "1"});
    QVERIFY(broken.exitCode != 0);
    QVERIFY(!QFileInfo::exists(dir.filePath("other")));
  }

  void aPictureBesideTheMovie() {
    const QTemporaryDir dir;
    const QString scene = sceneIn(dir);
    const Finished done = render(scene, dir.filePath("a.mov"), {"--poster"});
    QVERIFY2(done.exitCode == 0, done.err.constData());
    QCOMPARE(render(scene, dir.filePath("p_%04d.png"), {"--frames", "0..0"}).exitCode, 0);
    QCOMPARE(QImage(dir.filePath("a-poster.png")), QImage(dir.filePath("p_0000.png")));
  }
};

QTEST_GUILESS_MAIN(TestFormats)
#include "tst_formats.moc"
