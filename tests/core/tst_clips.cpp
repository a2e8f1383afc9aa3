// Clips and animated pictures: every picture, in any order, against what an independent reader finds.
#include <QtTest>
#include <QRandomGenerator>
#include <cmath>

#include "check/clip_joint.h"
#include "check/joint.h"
#include "edit/clips.h"
#include "edit/source_layers.h"
#include "media/export.h"
#include "render/frame_team.h"
#include "render/frames.h"
#include "scene/run.h"
#include "scene/tree.h"
#include "store/media_store.h"
#include "support/clips.h"
#include "support/files.h"

using namespace oa;
using namespace oa::test;

namespace {

QImage imageOf(const Raster& raster) {
  QImage image(raster.width, raster.height, QImage::Format_RGBA8888);
  std::vector<float> row(static_cast<std::size_t>(raster.width) * 4);
  for (int y = 0; y < raster.height; ++y) {
    raster.row(y, row.data());
    for (int x = 0; x < raster.width; ++x) {
      const float* p = row.data() + static_cast<std::ptrdiff_t>(x) * 4;
      const auto part = [&](float v) { return std::clamp(static_cast<int>(std::lround(p[3] > 0 ? v / p[3] * 255 : 0)), 0, 255); };
      image.setPixelColor(x, y, QColor(part(p[0]), part(p[1]), part(p[2]), static_cast<int>(std::lround(p[3] * 255))));
    }
  }
  return image;
}

MediaRef takenIn(const QString& path) {
  auto ref = MediaStore::shared().takeIn(path.toStdString());
  if (!ref) qFatal("%s", ref.error().sentence().c_str());
  return *ref;
}

QStringList words(const char* text) { return QString::fromLatin1(text).split(QLatin1Char(' '), Qt::SkipEmptyParts); }

constexpr QSize kSize(96, 64);

}  // namespace

class TestClips : public QObject {
  Q_OBJECT

  QTemporaryDir dir_;
  [[nodiscard]] QString path(const QString& name) const { return dir_.filePath(name); }

 private Q_SLOTS:
  void everyPictureIsTheRightOne_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<QString>("coding");
    QTest::addColumn<bool>("alpha");
    QTest::addColumn<QString>("reader");
    const auto row = [](const char* name, const char* coding, bool alpha = false, const char* reader = "") {
      QTest::newRow(name) << QString::fromLatin1(name) << QString::fromLatin1(coding) << alpha << QString::fromLatin1(reader);
    };
    row("h264.mp4", "-c:v libx264 -g 12 -bf 3 -pix_fmt yuv420p -colorspace smpte170m");
    row("full-range.mp4", "-c:v libx264 -vf scale=out_range=full -pix_fmt yuvj420p -color_range pc -colorspace smpte170m");
    row("709.mp4", "-c:v libx264 -vf scale=out_color_matrix=bt709 -colorspace bt709 -pix_fmt yuv420p");
    row("h265-10bit.mp4", "-c:v libx265 -x265-params log-level=none -pix_fmt yuv420p10le -colorspace smpte170m");
    row("h264.mov", "-c:v libx264 -pix_fmt yuv444p");
    row("vp8.webm", "-c:v libvpx -auto-alt-ref 1 -g 8 -pix_fmt yuv420p -colorspace smpte170m");
    row("vp9.webm", "-c:v libvpx-vp9 -g 8 -pix_fmt yuv420p -colorspace smpte170m");
    row("vp8-alpha.webm", "-c:v libvpx -auto-alt-ref 0 -pix_fmt yuva420p -colorspace smpte170m", true, "-c:v libvpx");
    row("vp9-alpha.webm", "-c:v libvpx-vp9 -auto-alt-ref 0 -pix_fmt yuva420p -colorspace smpte170m", true, "-c:v libvpx-vp9");
    row("prores.mov", "-c:v prores_ks -profile:v 4444 -pix_fmt yuva444p10le", true);
    row("png.mov", "-c:v png -pix_fmt rgba", true);
    row("ffv1.mkv", "-c:v ffv1 -pix_fmt bgra", true);
    row("moving.gif", "-filter_complex split[a][b];[a]palettegen[p];[b][p]paletteuse");
    row("moving.apng", "-f apng -plays 0 -pix_fmt rgba", true);
    row("moving.webp", "-c:v libwebp_anim -lossless 1 -loop 0 -pix_fmt bgra", true);
  }
  void everyPictureIsTheRightOne() {
    QFETCH(QString, name);
    QFETCH(QString, coding);
    QFETCH(bool, alpha);
    QFETCH(QString, reader);
    constexpr int kCount = 30;
    writeClip(path(name), kCount, 25, kSize, alpha, words(coding.toLatin1().constData()));
    // No reader of ffmpeg knows animated WebP: there it is what was written, without a loss.
    std::vector<QImage> wanted;
    if (name.endsWith(QStringLiteral("webp")))
      for (int i = 0; i < kCount; ++i) wanted.push_back(clipPicture(i, kCount, kSize, alpha));
    else
      wanted = readClip(path(name), kSize, words(reader.toLatin1().constData()),
                        !coding.contains(QStringLiteral("420")) ? kPlain
                        : alpha                                 ? kZimgWithAlpha
                                                                : kZimg);
    QCOMPARE(static_cast<int>(wanted.size()), kCount);
    const MediaRef ref = takenIn(path(name));
    QCOMPARE(ref.pictures, kCount);
    QVERIFY2(std::abs(ref.seconds - kCount / 25.0) < 1e-3, qPrintable(QString::number(ref.seconds)));
    QCOMPARE(QSize(ref.width, ref.height), kSize);
    // Forwards, backwards, and from place to place; each time from the file.
    std::vector<int> orders[3];
    for (int i = 0; i < kCount; ++i) {
      orders[0].push_back(i);
      orders[1].push_back(kCount - 1 - i);
      orders[2].push_back(i * 17 % kCount);
    }
    for (const auto& order : orders) {
      MediaStore store(std::size_t{64} << 20);
      const auto clip = store.clip(ref);
      QVERIFY2(clip.has_value(), clip ? "" : clip.error().sentence().c_str());
      for (const int i : order) {
        const auto raster = (*clip)->picture(static_cast<std::size_t>(i));
        QVERIFY(raster.has_value());
        QCOMPARE(raster->opaque(), !alpha && !name.endsWith(QStringLiteral("gif")) && !name.endsWith(QStringLiteral("webp")));
        const Difference d = differenceOf(imageOf(*raster), wanted[static_cast<std::size_t>(i)]);
        QVERIFY2(d.most <= 1, qPrintable(QStringLiteral("picture %1 differs by %2, in the mean %3").arg(i).arg(d.most).arg(d.mean)));
      }
    }
  }

  // Every matrix and range against a converter of another make than ours.
  void coloursAreThoseOfTheFile_data() {
    QTest::addColumn<QString>("filter");
    QTest::addColumn<QString>("tags");
    const auto row = [](const char* name, const char* filter, const char* tags) {
      QTest::newRow(name) << QString::fromLatin1(filter) << QString::fromLatin1(tags);
    };
    row("601", "matrix=170m:range=limited,format=yuv444p", "-colorspace smpte170m");
    row("601 full", "matrix=170m:range=full,format=yuv444p", "-colorspace smpte170m -color_range pc");
    row("709", "matrix=709:range=limited,format=yuv444p", "-colorspace bt709");
    row("709 full, 10 bits", "matrix=709:range=full,format=yuv444p10le", "-colorspace bt709 -color_range pc");
    row("2020, 10 bits", "matrix=2020_ncl:range=limited,format=yuv444p10le", "-colorspace bt2020nc");
  }
  void coloursAreThoseOfTheFile() {
    QFETCH(QString, filter);
    QFETCH(QString, tags);
    const QString file = path(QStringLiteral("colours.mkv"));
    ffmpeg(words("-f lavfi -i testsrc2=s=64x64:r=5:d=1 -vf") + QStringList{QStringLiteral("format=gbrp,avgblur=9,zscale=") + filter} +
           words("-c:v ffv1") + words(tags.toLatin1().constData()) + QStringList{file});
    const auto wanted = readClip(file, {64, 64});
    const auto clip = MediaStore::shared().clip(takenIn(file));
    for (std::size_t i = 0; i < wanted.size(); ++i) {
      const Difference d = differenceOf(imageOf(*(*clip)->picture(i)), wanted[i]);
      QVERIFY2(d.most <= 1, qPrintable(QStringLiteral("%1, in the mean %2").arg(d.most).arg(d.mean)));
    }
  }

  // Six greys in SMPTE ST 2084's code, as the standard has it.
  void moreLightThanADisplayHasIsBroughtDown() {
    const std::vector<double> nits{1, 20, 100, 203, 1000, 4000};
    QByteArray raw;
    const auto plane = [&](const std::function<int(std::size_t)>& code) {
      for (int y = 0; y < 16; ++y)
        for (std::size_t bar = 0; bar < nits.size(); ++bar)
          for (int x = 0; x < 16; ++x) {
            const int value = code(bar);
            raw.append(static_cast<char>(value & 255)).append(static_cast<char>(value >> 8));
          }
    };
    plane([&](std::size_t bar) {
      const double y = std::pow(nits[bar] / 10000, 2610.0 / 16384);
      const double pq = std::pow((3424.0 / 4096 + 2413.0 / 128 * y) / (1 + 2392.0 / 128 * y), 2523.0 / 32);
      return static_cast<int>(std::lround(64 + 876 * pq));
    });
    plane([](std::size_t) { return 512; });
    plane([](std::size_t) { return 512; });
    raw = raw + raw;
    for (const char* coded : {"smpte2084", "arib-std-b67"}) {
      const QString file = path(QLatin1String(coded) + QStringLiteral(".mkv"));
      ffmpeg(
          words("-f rawvideo -pix_fmt yuv444p10le -s 96x16 -r 5 -i - -c:v ffv1 -color_primaries bt2020 -colorspace bt2020nc -color_trc") +
              QStringList{QLatin1String(coded), file},
          "ffmpeg", raw);
      const auto clip = MediaStore::shared().clip(takenIn(file));
      QVERIFY(clip.has_value());
      const QImage shown = imageOf(*(*clip)->picture(0));
      int before = -1;
      for (std::size_t bar = 0; bar < nits.size(); ++bar) {
        const QRgb p = shown.pixel(static_cast<int>(bar) * 16 + 8, 8);
        QVERIFY(std::abs(qRed(p) - qGreen(p)) <= 1 && std::abs(qBlue(p) - qGreen(p)) <= 1);
        QVERIFY(qGreen(p) > before || qGreen(p) == 255);
        before = qGreen(p);
        if (std::string_view(coded) != "smpte2084") continue;
        // Dark and middle tones are what they are; white stays below the brightest, and nothing lies above it.
        const double light = nits[bar] / 203;
        const double wanted = 255 * (light <= 0.0031308 ? 12.92 * light : 1.055 * std::pow(light, 1 / 2.4) - 0.055);
        if (nits[bar] <= 100)
          QVERIFY2(std::abs(qGreen(p) - wanted) <= 1.5, qPrintable(QStringLiteral("%1, %2").arg(nits[bar]).arg(qGreen(p))));
        if (nits[bar] == 203) QVERIFY(qGreen(p) > 220 && qGreen(p) < 245);
        if (nits[bar] >= 1000) QVERIFY(qGreen(p) >= 254);
      }
    }
  }

  // A rate of its own for each picture; 3 pictures are a second long, the others a tenth.
  void variableRatesAreHandled() {
    writeClip(path(QStringLiteral("even.mkv")), 20, 10, kSize, false, words("-c:v ffv1"));
    ffmpeg(QStringList{QStringLiteral("-i"), path(QStringLiteral("even.mkv")), QStringLiteral("-vsync"), QStringLiteral("passthrough"),
                       QStringLiteral("-vf"), QStringLiteral("setpts='(N*0.1+0.9*(gt(N,4)+gt(N,9)+gt(N,14)))/TB'"), QStringLiteral("-c:v"),
                       QStringLiteral("ffv1"), path(QStringLiteral("uneven.mkv"))});
    const MediaRef ref = takenIn(path(QStringLiteral("uneven.mkv")));
    QCOMPARE(ref.pictures, 20);
    const auto clip = MediaStore::shared().clip(ref);
    QVERIFY(clip.has_value());
    const MovingInfo& info = (*clip)->info();
    QVERIFY(std::abs(info.seconds - 4.7) < 0.01);
    for (int i = 0; i < 20; ++i) {
      const double begins = i * 0.1 + 0.9 * ((i > 4) + (i > 9) + (i > 14));
      QVERIFY(std::abs(info.times[static_cast<std::size_t>(i)] - begins) < 2e-3);
      // At its beginning, and shortly before the next one: the same picture.
      const double ends = i + 1 < 20 ? info.times[static_cast<std::size_t>(i) + 1] : info.seconds;
      for (const double t : {begins + 0.005, ends - 0.005})
        QCOMPARE(clipAt(info, {}, t / info.seconds).parts[0].picture, static_cast<std::size_t>(i));
    }
  }

  void uprightWithSquarePixels() {
    writeClip(path(QStringLiteral("flat.mp4")), 5, 10, kSize, false, words("-c:v libx264 -pix_fmt yuv444p -qp 0 -profile:v high444"));
    ffmpeg(QStringList{QStringLiteral("-i"), path(QStringLiteral("flat.mp4")), QStringLiteral("-c"), QStringLiteral("copy"),
                       QStringLiteral("-metadata:s:v"), QStringLiteral("rotate=90"), path(QStringLiteral("turned.mp4"))});
    const MediaRef turned = takenIn(path(QStringLiteral("turned.mp4")));
    QCOMPARE(QSize(turned.width, turned.height), kSize.transposed());
    // The independent reader turns it too.
    const auto wanted = readClip(path(QStringLiteral("turned.mp4")), kSize.transposed(), {}, kPlain);
    const auto picture = (*MediaStore::shared().clip(turned))->picture(3);
    QVERIFY(picture.has_value());
    QVERIFY(differenceOf(imageOf(*picture), wanted[3]).most <= 1);
    ffmpeg(QStringList{QStringLiteral("-i"), path(QStringLiteral("flat.mp4")), QStringLiteral("-vf"), QStringLiteral("setsar=2"),
                       QStringLiteral("-c:v"), QStringLiteral("ffv1"), path(QStringLiteral("wide.mkv"))});
    const MediaRef wide = takenIn(path(QStringLiteral("wide.mkv")));
    QCOMPARE(QSize(wide.width, wide.height), QSize(192, 64));
  }

  // Each picture for as many frames of the loop, first to last, in every way of playing; the loop comes home.
  void pictureByPicture() {
    MovingInfo info{8, 8, {}, 2.4};
    for (int i = 0; i < 24; ++i) info.times.push_back(i * 0.1);
    for (int k = 0; k < 24; ++k) QCOMPARE(clipAt(info, {}, k / 24.0).parts[0].picture, static_cast<std::size_t>(k));
    for (int k = 0; k < 48; ++k) QCOMPARE(clipAt(info, {}, k / 48.0).parts[0].picture, static_cast<std::size_t>(k / 2));
    const ClipPlay back{0, 0, true};
    for (int k = 0; k < 46; ++k) QCOMPARE(clipAt(info, back, k / 46.0).parts[0].picture, static_cast<std::size_t>(k < 24 ? k : 46 - k));
    const ClipPlay part{0.5, 1.7};
    for (int k = 0; k < 12; ++k) QCOMPARE(clipAt(info, part, k / 12.0).parts[0].picture, static_cast<std::size_t>(5 + k));
    const ClipPlay stands{0, 0, false, 0.5};
    for (int k = 0; k < 48; ++k) QCOMPARE(clipAt(info, stands, k / 48.0).parts[0].picture, static_cast<std::size_t>(std::min(k, 23)));
    for (int k = 0; k < 40; ++k) QCOMPARE(clipThrough(info, part, k * 0.1).parts[0].picture, static_cast<std::size_t>(std::min(5 + k, 16)));
  }

  // Where ends fade, and pictures are mixed, nothing jumps: weights are continuous everywhere and add up to 1.
  void weightsGoOverWithoutAJump() {
    MovingInfo info{8, 8, {}, 3};
    for (int i = 0; i < 30; ++i) info.times.push_back(i * 0.1);
    for (const bool back : {false, true})
      for (const double overlap : {0.0, 0.4, 1.5, 9.0})
        for (const double from : {0.0, 0.7}) {
          const ClipPlay play{from, 2.6, back, 0, overlap, true};
          const auto place = [&](double u) {
            double sum = 0;
            std::vector<double> weights(31, 0);
            for (const auto& p : clipAt(info, play, u).parts)
              if (p.weight > 0) {
                sum += p.weight;
                weights[p.picture] += p.weight;
              }
            weights[30] = sum;
            return weights;
          };
          constexpr int kSteps = 6000;
          std::vector<double> before = place((kSteps - 1.0) / kSteps);
          for (int k = 0; k < kSteps; ++k) {
            const auto now = place(static_cast<double>(k) / kSteps);
            QVERIFY(std::abs(now[30] - 1) < 1e-9);
            for (std::size_t i = 0; i < 30; ++i)
              QVERIFY2(std::abs(now[i] - before[i]) < 0.02, qPrintable(QStringLiteral("step %1, picture %2").arg(k).arg(i)));
            before = now;
          }
        }
  }

  // In the scene: frame by frame what was filmed, whatever the number of threads, and home at the end.
  void layersShowTheirClip() {
    writeClip(path(QStringLiteral("layer.mkv")), 20, 10, kSize, true, words("-c:v ffv1 -pix_fmt bgra"));
    Scene scene;
    scene.width = kSize.width();
    scene.height = kSize.height();
    scene.rate = {10, 1};
    scene.frames = 40;
    scene.background.reset();
    const MediaRef ref = takenIn(path(QStringLiteral("layer.mkv")));
    scene.layers.push_back(edit::pictureLayer(ref, scene));
    QCOMPARE(edit::bestPlays(scene.layers[0].recipe[0], scene), 2);
    QVERIFY(std::abs(edit::clipSpeed(scene.layers[0].recipe[0], scene) - 1) < 1e-9);
    const Frame8 first = frame(scene, 0, scene.width, scene.height);
    for (const int k : {0, 1, 7, 19, 20, 33, 39}) {
      const Frame8 shown = frame(scene, k, scene.width, scene.height, Alpha::Straight, 1 + k % 3);
      const QImage image(shown.rgba.data(), shown.width, shown.height, QImage::Format_RGBA8888);
      const Difference d = differenceOf(image, clipPicture(k % 20, 20, kSize, true));
      QVERIFY2(d.most <= 2, qPrintable(QStringLiteral("frame %1: %2").arg(k).arg(d.most)));
    }
    QVERIFY(frame(scene, 40, scene.width, scene.height).rgba == first.rgba);
  }

  // Footage goes on while the loop goes round.
  void footageSetsTheLength() {
    writeClip(path(QStringLiteral("footage.mkv")), 50, 10, kSize, false, words("-c:v ffv1 -pix_fmt bgr0"));
    Scene scene;
    scene.width = kSize.width();
    scene.height = kSize.height();
    scene.rate = {10, 1};
    scene.frames = 16;
    QCOMPARE(runOf(scene).frames(), 16);
    scene.layers.push_back(edit::pictureLayer(takenIn(path(QStringLiteral("footage.mkv"))), scene));
    RecipeStep& step = scene.layers[0].recipe[0];
    step.params[static_cast<std::size_t>(findParam(step.spec->params, "way"))].base = std::string("through");
    QCOMPARE(runOf(scene).frames(), 50);
    // Its pictures are read one after the other.
    QCOMPARE(teamFor(scene, scene.width, scene.height, 8).frames, 1);
    Renderer renderer(scene, scene.width, scene.height, {.manyFrames = true});
    for (const int k : {0, 3, 16, 19, 35, 49, 60}) {
      Frame8 shown;
      renderInto(renderer, k, Alpha::Straight, shown);
      const QImage image(shown.rgba.data(), shown.width, shown.height, QImage::Format_RGBA8888);
      QVERIFY(differenceOf(image, clipPicture(std::min(k, 49), 50, kSize, false)).most <= 2);
    }
    // A part of it begins where it is asked to, not a lap earlier.
    ExportSettings part;
    part.format = ExportFormat::Ffv1;
    part.path = path(QStringLiteral("part.mkv")).toStdString();
    part.width = scene.width;
    part.height = scene.height;
    part.range = std::pair<std::int64_t, std::int64_t>{20, 21};
    QVERIFY(exportScene(scene, part, {}).has_value());
    const auto seen = readClip(path(QStringLiteral("part.mkv")), kSize);
    QVERIFY(seen.size() == 2 && differenceOf(seen[0], clipPicture(20, 50, kSize, false)).most <= 2);
    // 5 s are three laps of 1.6 s and a bit: stretched, the last one is whole.
    scene.run.wholeLaps = true;
    QCOMPARE(runOf(scene).frames(), 48);
    QVERIFY(std::abs(runOf(scene).step * 48 - 5) < 1e-9);
    scene.layers[0].visible = false;
    QCOMPARE(runOf(scene).frames(), 16);
  }

  // Twenty clips that do not come home: none gets worse, most become clean, and what comes round within them is found.
  void aBetterJointIsFound() {
    int clean = 0;
    double before = 0;
    double after = 0;
    for (int i = 0; i < 20; ++i) {
      // A block that swings with a period of its own, or goes on; more or less of it, with grain that never repeats on some.
      const int count = 40 + 3 * i;
      const double period = i % 4 == 3 ? 1000 : 11 + 2 * (i % 7);
      QByteArray raw;
      QRandomGenerator random(static_cast<quint32>(i) + 1);
      for (int k = 0; k < count; ++k)
        for (int y = 0; y < 36; ++y)
          for (int x = 0; x < 64; ++x) {
            const double at = 32 + 22 * std::sin(2 * 3.14159265 * k / period + i);
            const int grain = i % 3 == 2 ? static_cast<int>(random.bounded(20)) : 0;
            const int v = (std::abs(x - at) < 6 && std::abs(y - 18) < 8 ? 200 : 60 + x / 2) + grain;
            for (const int c : {v, v * 3 / 4, 255 - v}) raw.append(static_cast<char>(std::clamp(c, 0, 255)));
          }
      const QString file = path(QStringLiteral("swing%1.mkv").arg(i));
      ffmpeg(words("-f rawvideo -pix_fmt rgb24 -s 64x36 -r 20 -i - -c:v ffv1") + QStringList{file}, QStringLiteral("ffmpeg"), raw);
      const auto clip = MediaStore::shared().clip(takenIn(file));
      QVERIFY(clip.has_value());
      const auto sketch = ClipSketch::make(**clip, 0, 0, {});
      QVERIFY(sketch.has_value());
      const double lasts = sketch->info().seconds;
      const ClipPlay found = sketch->best({}, 0.4 * lasts, lasts);
      const JointReport was = sketch->jointOf({});
      const JointReport is = sketch->jointOf(found);
      const double length = playSeconds(lasts, found);
      QVERIFY2(length >= 0.4 * lasts - 0.051 && length <= lasts + 1e-6, qPrintable(QString::number(length)));
      QVERIFY2(is.clean || is.ratio() <= was.ratio() + 1e-9,
               qPrintable(QStringLiteral("%1: %2 to %3").arg(i).arg(was.ratio()).arg(is.ratio())));
      clean += is.clean;
      before += was.ratio();
      after += is.ratio();
      // What comes round is found.
      if (period < 100 && i % 3 != 2) QVERIFY2(is.clean, qPrintable(QString::number(i)));
      // What is measured is what is shown: whole pictures of the layer at that play.
      if (i > 2) continue;
      Scene scene;
      scene.width = 64;
      scene.height = 36;
      scene.rate = {20, 1};
      scene.frames = static_cast<int>(std::lround(length * 20));
      scene.layers.push_back(edit::pictureLayer(takenIn(file), scene));
      assignIds(scene);
      edit::setClipPlay(scene, scene.layers[0].id, 0, found);
      QVERIFY(checkJoint(scene, false).scene.clean == is.clean);
    }
    QVERIFY2(clean >= 15, qPrintable(QString::number(clean)));
    QVERIFY2(after < 0.75 * before, qPrintable(QStringLiteral("%1 to %2").arg(before).arg(after)));
  }

  void brokenClipsAreSaid() {
    writeClip(path(QStringLiteral("whole.mp4")), 20, 10, kSize, false, words("-c:v libx264 -pix_fmt yuv420p"));
    QFile whole(path(QStringLiteral("whole.mp4")));
    QVERIFY(whole.open(QIODevice::ReadOnly));
    const QByteArray bytes = whole.readAll();
    const auto refused = [&](const QByteArray& content, const QString& name) {
      QFile file(path(name));
      if (!file.open(QIODevice::WriteOnly)) return QString();
      file.write(content);
      file.close();
      const auto ref = MediaStore::shared().takeIn(path(name).toStdString());
      return ref ? QString() : QString::fromStdString(ref.error().sentence());
    };
    QVERIFY(refused(bytes.left(bytes.size() / 3), QStringLiteral("cut.mp4")).contains(QStringLiteral("damaged or unfinished MP4")));
    QVERIFY(refused(bytes.left(64), QStringLiteral("stump.mp4")).contains(QStringLiteral("damaged or unfinished MP4")));
    // Sound alone is no picture.
    ffmpeg(words("-f lavfi -i sine=d=1") + QStringList{path(QStringLiteral("song.m4a"))});
    QFile song(path(QStringLiteral("song.m4a")));
    QVERIFY(song.open(QIODevice::ReadOnly));
    const auto clip = MediaStore::shared().clip(MediaRef{path(QStringLiteral("song.m4a")).toStdString()});
    QVERIFY(!clip && clip.error().message.find("no moving picture") != std::string::npos);
  }
};

QTEST_GUILESS_MAIN(TestClips)
#include "tst_clips.moc"
