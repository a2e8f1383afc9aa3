// Sound: read by every coding, cut and joined without a click, followed by values, its tempo found, handed over to the sample.
#include <QtTest>
#include <cmath>
#include <numbers>

#include "media/export.h"
#include "params/first_motion.h"
#include "render/frames.h"
#include "scene/plan.h"
#include "scene/scene_json.h"
#include "scene/tree.h"
#include "sound/levels.h"
#include "sound/tempo.h"
#include "sound/track_sound.h"
#include "store/media_store.h"
#include "support/clips.h"
#include "support/scenes.h"

using namespace oa;
using namespace oa::test;

namespace {

QStringList words(const QString& text) { return text.split(QLatin1Char(' '), Qt::SkipEmptyParts); }

MediaRef takenIn(const QString& path) {
  auto ref = MediaStore::shared().takeIn(path.toStdString());
  if (!ref) qFatal("%s", ref.error().sentence().c_str());
  return *ref;
}

// A sound as ffmpeg reads it.
std::vector<float> readSoundBy(const QString& path) {
  const QByteArray raw = ffmpeg(QStringList{"-i", path, "-map", "0:a", "-f", "f32le", "-ar", "48000", "-ac", "2", "-"});
  std::vector<float> samples(static_cast<std::size_t>(raw.size()) / sizeof(float));
  std::memcpy(samples.data(), raw.constData(), samples.size() * sizeof(float));
  return samples;
}

std::shared_ptr<Sound> made(double seconds, const std::function<double(double t)>& wave) {
  auto sound = std::make_shared<Sound>();
  for (std::int64_t i = 0; i < std::llround(seconds * kSoundRate); ++i) {
    const auto v = static_cast<float>(wave(static_cast<double>(i) / kSoundRate));
    sound->stereo.push_back(v);
    sound->stereo.push_back(v);
  }
  return sound;
}

double tone(double hertz, double t) { return std::sin(2 * std::numbers::pi * hertz * t); }

// How much of its power lies above a frequency, by a discrete Fourier transform of one channel.
double shareAbove(const std::vector<double>& samples, double hertz) {
  const std::size_t n = samples.size();
  double above = 0;
  double all = 1e-30;
  for (std::size_t k = 1; k < n / 2; ++k) {
    double re = 0;
    double im = 0;
    for (std::size_t i = 0; i < n; ++i) {
      // A window, or the ends of the piece themselves would be heard.
      const double w = 0.5 - 0.5 * std::cos(2 * std::numbers::pi * static_cast<double>(i) / static_cast<double>(n));
      const double a = 2 * std::numbers::pi * static_cast<double>(k * i % n) / static_cast<double>(n);
      re += w * samples[i] * std::cos(a);
      im -= w * samples[i] * std::sin(a);
    }
    const double power = re * re + im * im;
    all += power;
    if (static_cast<double>(k) * kSoundRate / static_cast<double>(n) > hertz) above += power;
  }
  return above / all;
}

Scene sceneWithSound(const MediaRef& ref, int frames = 60) {
  Scene scene;
  scene.width = 64;
  scene.height = 36;
  scene.frames = frames;
  scene.layers.push_back(newLayer(*findStep("flat"), "Ground"));
  Param& file = scene.sound.at(SoundParam::File);
  file.base = file.motion.far = ref;
  return scene;
}

void set(Scene& scene, SoundParam which, Value value) {
  Param& param = scene.sound.at(which);
  param.base = param.motion.far = std::move(value);
}

}  // namespace

class TestSound : public QObject {
  Q_OBJECT
  QTemporaryDir dir_;
  [[nodiscard]] QString path(const QString& name) const { return dir_.filePath(name); }

 private Q_SLOTS:
  void everyCodingIsRead_data() {
    QTest::addColumn<QString>("name");
    QTest::addColumn<QString>("coding");
    const auto row = [](const char* name, const char* coding) {
      QTest::newRow(name) << QString::fromLatin1(name) << QString::fromLatin1(coding);
    };
    row("plain.wav", "-c:a pcm_s16le");
    row("deep.wav", "-c:a pcm_s24le -ar 96000");
    row("mono.wav", "-c:a pcm_f32le -ac 1 -ar 44100");
    row("free.flac", "-c:a flac");
    row("opus.ogg", "-c:a libopus");
    row("vorbis.ogg", "-c:a libvorbis -ac 2");
    row("layer.mp3", "-c:a libmp3lame");
    row("raw.aac", "-c:a aac");
    row("song.m4a", "-c:a aac");
  }
  void everyCodingIsRead() {
    QFETCH(QString, name);
    QFETCH(QString, coding);
    ffmpeg(words(QStringLiteral("-f lavfi -i aevalsrc=0.5*sin(440*2*PI*t)|0.3*sin(660*2*PI*t)*exp(-t):s=48000:d=1.37")) + words(coding) +
           QStringList{path(name)});
    const MediaRef ref = takenIn(path(name));
    QCOMPARE(ref.width, 0);
    const auto sound = MediaStore::shared().sound(ref);
    QVERIFY2(sound.has_value(), sound ? "" : sound.error().sentence().c_str());
    const std::vector<float> wanted = readSoundBy(path(name));
    // As long as the independent reader finds it, but for what resampling holds back.
    QVERIFY2(std::abs((*sound)->samples() - static_cast<std::int64_t>(wanted.size() / 2)) <= 64,
             qPrintable(QStringLiteral("%1 and %2").arg((*sound)->samples()).arg(wanted.size() / 2)));
    QCOMPARE(ref.seconds, (*sound)->seconds());
    double worst = 0;
    for (std::size_t i = 2000; i + 2000 < std::min(wanted.size(), (*sound)->stereo.size()); ++i)
      worst = std::max(worst, static_cast<double>(std::abs(wanted[i] - (*sound)->stereo[i])));
    QVERIFY2(worst < 2e-3, qPrintable(QString::number(worst)));
  }

  // Across the joint nothing clicks: no more power in high tones than anywhere else. Joined hard, the same sound has a hundred times more.
  void theJointDoesNotClick() {
    const auto sound = made(3, [](double t) { return 0.5 * tone(220.3, t) + 0.3 * tone(331.7, t); });
    const std::int64_t lap = kSoundRate;
    const auto piece = [&](const LoopStretch& stretch, std::int64_t from) {
      std::vector<double> samples;
      for (std::int64_t i = 0; i < 1024; ++i) samples.push_back(static_cast<double>(stretch.sample(*sound, from + i, 0)));
      return samples;
    };
    const LoopStretch joined{1000, lap, 1920};
    const LoopStretch hard{1000, lap, 0};
    const double usual = shareAbove(piece(joined, lap / 2), 5000);
    const double joint = shareAbove(piece(joined, lap - 512), 5000);
    const double click = shareAbove(piece(hard, lap - 512), 5000);
    QVERIFY2(click > 100 * usual, qPrintable(QStringLiteral("%1 against %2").arg(click).arg(usual)));
    QVERIFY2(joint < 3 * usual + 1e-12, qPrintable(QStringLiteral("%1 against %2").arg(joint).arg(usual)));
    // Where the sound repeats itself after a lap, joining changes nothing.
    const auto repeats = made(3, [](double t) { return 0.5 * tone(220, t); });
    for (std::int64_t i = 0; i < 3000; i += 7) QVERIFY(std::abs(joined.sample(*repeats, i, 1) - hard.sample(*repeats, i, 1)) < 1e-4f);
  }

  // A better place is one where the sound comes round to itself.
  void aBetterCutIsFound() {
    // Repeats after 1.03 s; a stretch of 1 s meets itself nowhere, one of 1.03 s everywhere. A burst spoils it near the beginning.
    const auto sound = made(4, [](double t) {
      const double u = std::fmod(t, 1.03);
      return 0.4 * tone(200 + 60 * u, u) + (t > 0.98 && t < 1.1 ? 0.6 * tone(1500, t) : 0.0);
    });
    const auto difference = [&](double from) {
      double sum = 0;
      for (int i = 0; i < 2400; ++i) {
        const double a = static_cast<double>(sound->stereo[static_cast<std::size_t>((std::llround(from * kSoundRate) + i) * 2)]);
        const double b = static_cast<double>(sound->stereo[static_cast<std::size_t>((std::llround((from + 1.03) * kSoundRate) + i) * 2)]);
        sum += (a - b) * (a - b);
      }
      return sum;
    };
    const double found = bestCut(*sound, 0.0, 1.03, 0.25);
    QVERIFY(found >= 0 && found <= 0.25);
    QVERIFY2(difference(found) < 0.05 * difference(0.0),
             qPrintable(QStringLiteral("%1: %2 of %3").arg(found).arg(difference(found)).arg(difference(0))));
  }

  void tempoOfABeat() {
    // Quavers at 96 beats a minute, the first of four louder.
    const auto sound = made(10, [](double t) {
      const double beat = std::fmod(t, 60.0 / 96);
      return std::exp(-beat * 22) * tone(90, beat) * 0.9;
    });
    const Tempo tempo = tempoOf(*sound);
    QVERIFY2(std::abs(tempo.beatsPerMinute - 96) < 0.5, qPrintable(QString::number(tempo.beatsPerMinute)));
    QCOMPARE(framesOfBeats(tempo.beatsPerMinute, 16, 30), 300);
    QCOMPARE(tempoOf(*made(3, [](double) { return 0.0; })).beatsPerMinute, 0.0);
  }

  // Each band rises where its tones are, and nowhere else; all of them come round.
  void levelsFollowTheirBand() {
    const auto sound = made(4, [](double t) {
      const auto in = [&](double from) { return t >= from && t < from + 0.5 ? 1.0 : 0.0; };
      return 0.5 * (in(0.5) * tone(70, t) + in(1.5) * tone(700, t) + in(2.5) * tone(7000, t));
    });
    Scene scene;
    scene.frames = 120;
    scene.rate = {30, 1};
    const SoundLevels levels = levelsOf(*sound, scene);
    const std::pair<SoundBand, double> loud[] = {{SoundBand::Low, 0.75}, {SoundBand::Middle, 1.75}, {SoundBand::High, 2.75}};
    for (const auto& [band, at] : loud)
      for (const auto& [other, there] : loud) {
        const double level = levels.at(band, there / 4);
        QVERIFY2(band == other ? level > 0.8 : level < 0.25,
                 qPrintable(QStringLiteral("%1 at %2 s: %3").arg(QString::fromUtf8(soundBandName(band).data())).arg(there).arg(level)));
      }
    for (const SoundBand band : {SoundBand::All, SoundBand::Low, SoundBand::Middle, SoundBand::High}) {
      QVERIFY(std::abs(levels.at(band, 0.0) - levels.at(band, 1 - 1e-9)) <
              0.02 + std::abs(levels.at(band, 1 - 1.0 / 120) - levels.at(band, 0.0)));
      for (int k = 0; k < 120; ++k) QVERIFY(levels.at(band, k / 120.0) >= 0 && levels.at(band, k / 120.0) <= 1);
    }
  }

  // A value goes as far as the sound is loud; frame N is frame 0, for any number of threads, and the plain path says the same.
  void valuesFollowTheSound() {
    ffmpeg(words(QStringLiteral("-f lavfi -i aevalsrc=0.8*sin(80*2*PI*t)*between(mod(t\\,1)\\,0\\,0.2):s=48000:d=2")) +
           QStringList{path("beat.wav")});
    Scene scene = sceneWithSound(takenIn(path("beat.wav")));
    Param& opacity = scene.layers[0].opacity;
    opacity.base = 0.1;
    opacity.motion.kind = MotionKind::Sound;
    opacity.motion.band = SoundBand::Low;
    opacity.motion.far = 0.9;
    const auto light = [&](int k, int threads) {
      const Frame8 f = frame(scene, k, 32, 18, Alpha::Straight, threads);
      return static_cast<int>(f.rgba[0]) + f.rgba[1] + f.rgba[2];
    };
    QVERIFY2(light(3, 0) > 3 * light(28, 0), qPrintable(QStringLiteral("%1 %2").arg(light(3, 0)).arg(light(28, 0))));
    QVERIFY(light(33, 0) > 3 * light(28, 0));
    for (const int k : {0, 3, 28, 59}) {
      QCOMPARE(light(k, 1), light(k, 2));
      QCOMPARE(light(k + 60, 1), light(k, 1));
    }
    // It is a motion of the loop's own length, and files keep it.
    QCOMPARE(distinctFrames(scene), 60);
    assignIds(scene);
    const auto again = sceneFromText(sceneToText(scene));
    QVERIFY(again.has_value());
    QVERIFY(*again == scene);
    QCOMPARE(again->layers[0].opacity.motion.band, SoundBand::Low);
  }

  // As many samples as there are pictures' worth, whatever the loops; the second loop's are those of the first.
  void handedOverToTheSample_data() {
    QTest::addColumn<int>("format");
    QTest::addColumn<QString>("name");
    QTest::addColumn<double>("near");
    QTest::newRow("mp4") << static_cast<int>(ExportFormat::Mp4) << QStringLiteral("a.mp4") << 0.06;
    QTest::newRow("h265") << static_cast<int>(ExportFormat::H265) << QStringLiteral("b.mp4") << 0.06;
    QTest::newRow("webm") << static_cast<int>(ExportFormat::WebM) << QStringLiteral("a.webm") << 0.06;
    QTest::newRow("mov") << static_cast<int>(ExportFormat::ProRes) << QStringLiteral("a.mov") << 1e-4;
    QTest::newRow("mkv") << static_cast<int>(ExportFormat::Ffv1) << QStringLiteral("a.mkv") << 1e-4;
  }
  void handedOverToTheSample() {
    QFETCH(int, format);
    QFETCH(QString, name);
    QFETCH(double, near);
    ffmpeg(words(QStringLiteral("-f lavfi -i aevalsrc=0.4*sin(300*2*PI*t)+0.2*sin(1210*2*PI*t*t):s=48000:d=5")) +
           QStringList{path("tune.flac")});
    // 48 frames of 23.976 a second: no whole number of samples.
    Scene scene = sceneWithSound(takenIn(path("tune.flac")), 48);
    scene.rate = {24000, 1001};
    set(scene, SoundParam::Loudness, -6.0);
    set(scene, SoundParam::From, 0.5);
    set(scene, SoundParam::FadeOut, 0.25);
    ExportSettings settings;
    settings.format = static_cast<ExportFormat>(format);
    settings.path = path(name).toStdString();
    settings.width = 64;
    settings.height = 36;
    settings.loops = 3;
    const auto done = exportScene(scene, settings, {});
    QVERIFY2(done.has_value(), done ? "" : done.error().sentence().c_str());
    std::vector<float> heard = readSoundBy(path(name));
    const auto wanted = std::llround(3 * 48 * 1001.0 / 24000 * kSoundRate);
    if (name.endsWith(QStringLiteral("mp4"))) {
      // AAC comes in pieces of 1024: the container says where the last one ends, which this reader leaves to players.
      const QByteArray said =
          ffmpeg({"-select_streams", "a", "-show_entries", "stream=duration_ts", "-of", "csv=p=0", path(name)}, "ffprobe");
      QCOMPARE(said.trimmed().toLongLong(), static_cast<qlonglong>(wanted));
      QVERIFY(static_cast<std::int64_t>(heard.size() / 2) - wanted < 1024);
      heard.resize(static_cast<std::size_t>(wanted) * 2);
    }
    QCOMPARE(static_cast<std::int64_t>(heard.size() / 2), static_cast<std::int64_t>(wanted));
    const RunSound run = soundOf(scene, 144);
    QVERIFY(run.sound && run.note.empty());
    std::vector<float> samples(heard.size());
    run.sound(0, static_cast<int>(heard.size() / 2), samples.data());
    double worst = 0;
    for (std::size_t i = 0; i < heard.size(); ++i) worst = std::max(worst, static_cast<double>(std::abs(heard[i] - samples[i])));
    QVERIFY2(worst < near, qPrintable(QString::number(worst)));
    // Faded to nothing, and muted there is none.
    QVERIFY(std::abs(heard[heard.size() - 2]) < 0.02f);
    settings.sound = false;
    QVERIFY(exportScene(scene, settings, {}).has_value());
    QVERIFY(!ffmpeg({"-show_entries", "stream=codec_type", "-of", "csv=p=0", path(name)}, "ffprobe").contains("audio"));
  }

  // A part of the loop has the part of the sound that is heard there.
  void aPartHasItsOwnSound() {
    ffmpeg(words(QStringLiteral("-f lavfi -i aevalsrc=0.5*sin(200*2*PI*t*t):s=48000:d=4")) + QStringList{path("rising.wav")});
    Scene scene = sceneWithSound(takenIn(path("rising.wav")), 60);
    scene.layers[0].opacity.motion = firstMotion(opacitySpec(), scene.layers[0].opacity, MotionKind::Swing);
    ExportSettings settings;
    settings.format = ExportFormat::Ffv1;
    settings.path = path("part.mkv").toStdString();
    settings.width = 32;
    settings.height = 18;
    settings.range = std::pair<std::int64_t, std::int64_t>{20, 34};
    const auto done = exportScene(scene, settings, {});
    QVERIFY2(done.has_value(), done ? "" : done.error().sentence().c_str());
    const std::vector<float> heard = readSoundBy(path("part.mkv"));
    QCOMPARE(heard.size() / 2, std::size_t{24000});
    std::vector<float> wanted(heard.size());
    soundOf(scene, 60).sound(32000, 24000, wanted.data());
    for (std::size_t i = 0; i < heard.size(); i += 11) QVERIFY2(std::abs(heard[i] - wanted[i]) < 1e-4f, qPrintable(QString::number(i)));
  }

  // The whole track sets the length, and a missing one is told and does not stop the picture.
  void theWholeTrackSetsTheLength() {
    ffmpeg(words(QStringLiteral("-f lavfi -i sine=f=200:d=3.3")) + QStringList{path("long.wav")});
    Scene scene = sceneWithSound(takenIn(path("long.wav")), 30);
    set(scene, SoundParam::Whole, true);
    ExportSettings settings;
    settings.format = ExportFormat::Ffv1;
    settings.path = path("long.mkv").toStdString();
    settings.width = 32;
    settings.height = 18;
    auto done = exportScene(scene, settings, {});
    QVERIFY(done.has_value());
    QCOMPARE(done->frames, std::int64_t{99});
    QCOMPARE(readSoundBy(path("long.mkv")).size() / 2, std::size_t{158400});
    QVERIFY(QFile::remove(path("long.wav")));
    MediaStore::shared().clear();
    done = exportScene(scene, settings, {});
    QVERIFY(done.has_value());
    QVERIFY2(done->note.find("is not there any more") != std::string::npos, done->note.c_str());
  }
};

QTEST_GUILESS_MAIN(TestSound)
#include "tst_sound.moc"
