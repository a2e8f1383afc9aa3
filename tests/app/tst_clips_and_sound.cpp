// Clips and sounds on the window: a clip in front, made seamless; footage and a tune that set the length; values that follow the tune;
// handing over with sound, and a sample of it.
#include <QCheckBox>
#include <QComboBox>
#include <QDir>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QLabel>
#include <QLineEdit>
#include <QMimeData>
#include <QPushButton>
#include <QSpinBox>
#include <QTemporaryDir>
#include <QToolButton>
#include <QUrl>

#include "edit/clips.h"
#include "model/heard.h"
#include "model/sound_player.h"
#include "scene/run.h"
#include "sheets/export_sheet.h"
#include "support/clips.h"
#include "support/files.h"
#include "support/hands.h"
#include "widgets/clip_joint_row.h"
#include "widgets/curve_view.h"
#include "widgets/dial.h"
#include "widgets/file_editor.h"
#include "widgets/motion_pill.h"
#include "widgets/recipe_panel.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using namespace oa::app::test;

namespace {

const QString kBrass = QStringLiteral(OA_SOURCE_DIR "/demo-data/media/brass.ogg");
const QString kLantern = QStringLiteral(OA_SOURCE_DIR "/demo-data/media/swinging-lantern.webm");

// 3 s of a block that swings twice and a half: its end is not its beginning.
QString swinging(const QTemporaryDir& dir) {
  QString path = dir.filePath("swinging.mkv");
  QByteArray raw;
  for (int k = 0; k < 60; ++k)
    for (int y = 0; y < 36; ++y)
      for (int x = 0; x < 64; ++x) {
        const double at = 32 + 22 * std::sin(2 * 3.14159265 * k / 24 + 0.4);
        raw.append(static_cast<char>(std::abs(x - at) < 6 && std::abs(y - 18) < 8 ? 220 : 60 + x));
      }
  oa::test::ffmpeg({"-f", "rawvideo", "-pix_fmt", "gray", "-s", "64x36", "-r", "20", "-i", "-", "-c:v", "ffv1", path}, "ffmpeg", raw);
  return path;
}

template <class T>
const T& valueOf(Window& window, const char* id) {
  const RecipeStep& source = window.document().layer()->recipe[0];
  return std::get<T>(source.params[static_cast<std::size_t>(findParam(source.spec->params, id))].base);
}

// Chooses an entry as the keyboard does.
void choose(QComboBox* box, int index) {
  box->setFocus();
  for (int i = 0; i < box->count() && box->currentIndex() != index; ++i)
    QTest::keyClick(box, box->currentIndex() < index ? Qt::Key_Down : Qt::Key_Up);
}

}  // namespace

class TestClipsAndSound : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void aClipInFront() {
    Bench bench("sea-fog.overagain");
    Window& w = bench.window();
    const std::size_t before = w.document().scene().layers.size();
    QVERIFY(dropFiles(w, &w, {kLantern}).contains("swinging-lantern.webm"));
    QTRY_COMPARE(w.document().scene().layers.size(), before + 1);
    // Once, in its own size, as often a lap as is nearest to its own speed, which the card says.
    QCOMPARE(valueOf<std::string>(w, "across"), std::string("nothing"));
    const double loop = w.document().scene().seconds();
    QCOMPARE(valueOf<double>(w, "plays"), std::round(loop / 2));
    const auto* state = w.recipe().findChild<FileEditor*>()->findChild<QLabel*>(QStringLiteral("muted"));
    QVERIFY2(state->text().contains("300 × 340 · 2.00 s"), qPrintable(state->text()));
    // It moves, and all its pictures are wanted.
    const Plan& plan = w.document().plan();
    QCOMPARE(plan.at(plan.indexOf(w.document().currentLayer())).laps, std::int64_t{1});
    // Its own rows are there, and those of a still picture are not.
    QVERIFY(paramRow(w, "picture", "way")->isVisible() && !paramRow(w, "picture", "ends")->isVisible());
    w.document().history().undo();
    QCOMPARE(w.document().scene().layers.size(), before);
  }

  void aClipIsMadeSeamless() {
    QTemporaryDir dir;
    const QString path = swinging(dir);
    Bench bench("sea-fog.overagain");
    Window& w = bench.window();
    dropFiles(w, &w, {path});
    QTRY_VERIFY(w.document().layer()->name == "swinging");
    auto* row = w.recipe().findChild<ClipJointRow*>();
    QTRY_VERIFY_WITH_TIMEOUT(row->isVisible() && row->property("ratio").toDouble() > 2, 20000);
    const double before = row->property("ratio").toDouble();
    auto* mend = child<QPushButton>(row, "mendClip");
    w.recipe().ensurePolished();
    QTest::mouseClick(mend, Qt::LeftButton);
    QTRY_VERIFY_WITH_TIMEOUT(valueOf<double>(w, "to") > 0, 20000);
    QTRY_VERIFY_WITH_TIMEOUT(row->property("ratio").toDouble() < 1.5, 20000);
    QVERIFY(row->property("ratio").toDouble() < before);
    // One or two whole swings of 1.2 s.
    const double lasts = (valueOf<double>(w, "to") - valueOf<double>(w, "from") - valueOf<double>(w, "overlap")) / 1.2;
    QVERIFY2(std::abs(lasts - std::round(lasts)) < 0.1, qPrintable(QString::number(lasts)));
    QVERIFY(row->findChild<QLabel*>()->text().contains("before:"));
    // One step back, and it is as it was.
    QTest::keyClick(&w, Qt::Key_Z, Qt::ControlModifier);
    QCOMPARE(valueOf<double>(w, "to"), 0.0);
    QTRY_COMPARE_WITH_TIMEOUT(row->property("ratio").toDouble(), before, 20000);
  }

  void footageSetsTheLength() {
    QTemporaryDir dir;
    Bench bench("sea-fog.overagain");
    Window& w = bench.window();
    w.document().edit("shorter", {}, [](Scene& scene) { scene.frames = 24; });
    dropFiles(w, &w, {swinging(dir)});
    QTRY_VERIFY(w.document().layer()->name == "swinging");
    auto* laps = child<QSpinBox>(&w.view(), "footageLap");
    QVERIFY(!laps->isVisible());
    choose(paramRow(w, "picture", "way")->findChild<QComboBox*>(), 2);
    QCOMPARE(valueOf<std::string>(w, "way"), std::string("through"));
    const double rate = w.document().scene().rate.value();
    QCOMPARE(runOf(w.document().scene()).frames(), std::llround(3 * rate));
    QVERIFY(laps->isVisible());
    QCOMPARE(laps->maximum(), static_cast<int>(std::ceil(3 * rate / 24)));
    // Another lap, another picture of it.
    bench.settle();
    const QImage first = w.renderer().cached(0);
    laps->setFocus();
    QTest::keyClick(laps, Qt::Key_Up);
    QTRY_VERIFY_WITH_TIMEOUT(!w.renderer().cached(0).isNull() && w.renderer().cached(0) != first, 30000);
    // The sheet says so, and whether the last lap is whole.
    w.showExport();
    auto* lastLap = child<QComboBox>(&w.exportSheet(), "lastLap");
    QVERIFY(lastLap->isVisible() && !child<QSpinBox>(&w.exportSheet(), "loops")->isVisible());
    choose(lastLap, 1);
    QVERIFY(w.document().scene().run.wholeLaps);
    QCOMPARE(runOf(w.document().scene()).frames() % 24, 0);
  }

  void aTuneSetsTheLength() {
    Bench bench("sea-fog.overagain");
    Window& w = bench.window();
    QVERIFY(dropFiles(w, &w, {kBrass}).contains("becomes the sound"));
    QTRY_VERIFY_WITH_TIMEOUT(w.document().heard().file() != nullptr, 20000);
    // Its sheet opened; the loop becomes sixteen beats of it, which last eight seconds.
    auto* byBeats = child<QPushButton>(&w, "loopOfBeats");
    QTRY_VERIFY(byBeats->isVisible() && byBeats->isEnabled());
    QVERIFY2(child<QLabel>(&w, "tempo")->text().startsWith("120.0 beats"), qPrintable(child<QLabel>(&w, "tempo")->text()));
    QTest::mouseClick(byBeats, Qt::LeftButton);
    QVERIFY(std::abs(w.document().scene().seconds() - 8) < 0.02);
    // It is drawn round the dial, and dragged along its own strip where it is longer than the loop.
    QCOMPARE(static_cast<int>(w.document().heard().wave().size()), Heard::kParts);
    auto* beats = child<QSpinBox>(&w, "beats");
    typeInto(beats, "4");
    QTest::mouseClick(byBeats, Qt::LeftButton);
    QVERIFY(std::abs(w.document().scene().seconds() - 2) < 0.02);
    auto* strip = child<QWidget>(&w, "waveStrip");
    drag(strip, QPointF(strip->width() * 0.1, 30), QPointF(strip->width() * 0.5, 30));
    const double from = w.document().scene().sound.number(SoundParam::From);
    QVERIFY2(std::abs(from - 3.2) < 0.15, qPrintable(QString::number(from)));
    QTest::keyClick(strip, Qt::Key_Right);
    QVERIFY(std::abs(w.document().scene().sound.number(SoundParam::From) - from - 0.1) < 1e-6);
    // Tapped: four times a second.
    auto* tap = child<QPushButton>(&w, "tapTempo");
    QElapsedTimer clock;
    clock.start();
    for (int i = 0; i < 5; ++i) {
      QTest::mouseClick(tap, Qt::LeftButton);
      if (i < 4) QVERIFY(QTest::qWaitFor([&] { return clock.elapsed() >= 400 * (i + 1); }, 5000));
    }
    const double tapped = child<QLabel>(&w, "tempo")->text().section(' ', 0, 0).toDouble();
    QVERIFY2(std::abs(tapped - 150) < 15, qPrintable(QString::number(tapped)));
    // Taken away, and back again.
    QTest::mouseClick(child<QToolButton>(&w, "removeSound"), Qt::LeftButton);
    QVERIFY(!w.document().scene().sound.there());
    QTRY_VERIFY(w.document().heard().wave().empty());
    QTest::keyClick(&w, Qt::Key_Z, Qt::ControlModifier);
    QVERIFY(w.document().scene().sound.there());
  }

  void valuesFollowTheTune() {
    Bench bench("stage-screen.overagain");
    Window& w = bench.window();
    auto* pill = child<ParamRow>(&w.recipe(), "param-opacity")->findChild<MotionPill*>();
    // Without a sound there is nothing to follow.
    const auto offers = [&] { return entriesOfMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); }).filter("Sound").size(); };
    QCOMPARE(offers(), qsizetype{0});
    dropFiles(w, &w, {kBrass});
    QTRY_VERIFY_WITH_TIMEOUT(w.document().heard().levels() != nullptr, 20000);
    w.showRecipe();
    pill = child<ParamRow>(&w.recipe(), "param-opacity")->findChild<MotionPill*>();
    QCOMPARE(offers(), qsizetype{1});
    QVERIFY(clickInMenu([&] { QTest::mouseClick(pill, Qt::LeftButton); }, "Sound: as loud as the scene's sound is"));
    QCOMPARE(w.document().layer()->opacity.motion.kind, MotionKind::Sound);
    auto* band = child<QComboBox>(&w.curve(), "band");
    QVERIFY(band->isVisible() && !child<QWidget>(&w.curve(), "laps")->isVisible());
    choose(band, 1);
    QCOMPARE(w.document().layer()->opacity.motion.band, SoundBand::Low);
    // As long as the loop, since the sound is.
    const Plan& plan = w.document().plan();
    QCOMPARE(plan.at(plan.indexOf(w.document().currentLayer())).placedLaps, std::int64_t{1});
  }

  // Without a device there is silence, and the loop runs on; what a device would be given are the loop's samples, round and round.
  void theLoopIsHeard() {
    Bench bench("sea-fog.overagain");
    Window& w = bench.window();
    dropFiles(w, &w, {kBrass});
    QTRY_VERIFY_WITH_TIMEOUT(static_cast<bool>(w.document().heard().sound()), 20000);
    w.document().edit("two seconds", {}, [](Scene& scene) { scene.frames = static_cast<int>(std::lround(2 * scene.rate.value())); });
    QTRY_VERIFY(static_cast<bool>(w.document().heard().sound()));
    w.player().setFrame(15);
    w.player().setPlaying(true);
    QTRY_VERIFY_WITH_TIMEOUT(w.player().frame() != 15, 30000);
    w.player().setPlaying(false);
    SoundStream stream;
    QVERIFY(stream.open(QIODevice::ReadOnly | QIODevice::Unbuffered));
    constexpr std::int64_t kLap = 1000;
    stream.play(
        [](std::int64_t first, int count, float* out) {
          for (int i = 0; i < count * 2; ++i) out[i] = static_cast<float>(first + i / 2) + (i % 2) * 0.5f;
        },
        900, kLap);
    std::vector<float> heard(2 * 2500);
    QCOMPARE(stream.read(reinterpret_cast<char*>(heard.data()), static_cast<qint64>(heard.size() * sizeof(float))),
             static_cast<qint64>(heard.size() * sizeof(float)));
    for (std::int64_t i = 0; i < 2500; ++i) {
      QCOMPARE(heard[static_cast<std::size_t>(i) * 2], static_cast<float>((900 + i) % kLap));
      QCOMPARE(heard[static_cast<std::size_t>(i) * 2 + 1], static_cast<float>((900 + i) % kLap) + 0.5f);
    }
    QCOMPARE(stream.next(), (900 + 2500) % kLap);
    // In a later lap of footage the same places of the loop are later ones of the sound.
    stream.play(
        [](std::int64_t first, int count, float* out) {
          for (int i = 0; i < count * 2; ++i) out[i] = static_cast<float>(first + i / 2);
        },
        900, kLap, 3 * kLap);
    QCOMPARE(stream.read(reinterpret_cast<char*>(heard.data()), static_cast<qint64>(heard.size() * sizeof(float))),
             static_cast<qint64>(heard.size() * sizeof(float)));
    for (std::int64_t i = 0; i < 2500; ++i)
      QCOMPARE(heard[static_cast<std::size_t>(i) * 2], static_cast<float>(3 * kLap + (900 + i) % kLap));
  }

  void handedOverWithItsSound() {
    QTemporaryDir dir;
    Bench bench("sea-fog.overagain");
    Window& w = bench.window();
    w.document().edit("short", {}, [](Scene& scene) { scene.frames = 30; });
    dropFiles(w, &w, {kBrass});
    QTRY_VERIFY_WITH_TIMEOUT(static_cast<bool>(w.document().heard().sound()), 20000);
    w.showExport();
    ExportSheet& sheet = w.exportSheet();
    auto* with = child<QCheckBox>(&sheet, "withSound");
    QTRY_VERIFY(with->isVisible() && with->isChecked());
    choose(child<QComboBox>(&sheet, "size"), 2);
    const auto exported = [&](const QString& name) {
      typeInto(child<QLineEdit>(&sheet, "target"), dir.filePath(name));
      QTest::mouseClick(child<QPushButton>(&sheet, "primary"), Qt::LeftButton);
      if (!QTest::qWaitFor([&] { return !sheet.running(); }, 120000)) return QByteArray("not done");
      return oa::test::ffmpeg({"-show_entries", "stream=codec_name", "-of", "csv=p=0", dir.filePath(name)}, "ffprobe").simplified();
    };
    QCOMPARE(exported("loud.mp4"), QByteArray("h264 aac"));
    QTest::mouseClick(with, Qt::LeftButton, {}, QPoint(8, with->height() / 2));
    QCOMPARE(exported("mute.mp4"), QByteArray("h264"));
    // Formats without sound do not ask.
    choose(child<QComboBox>(&sheet, "format"), 6);
    QVERIFY(!with->isVisible());
  }

  // A sample lies in a folder of its own; its weight tells that of the whole.
  void twoSecondsAreTried() {
    QTemporaryDir dir;
    Bench bench("sea-fog.overagain");
    Window& w = bench.window();
    w.showExport();
    ExportSheet& sheet = w.exportSheet();
    choose(child<QComboBox>(&sheet, "size"), 2);
    child<QLineEdit>(&sheet, "target")->setText(dir.filePath("whole.mp4"));
    // Nobody is to open it here.
    disconnect(&sheet, &ExportSheet::sampled, nullptr, nullptr);
    QString sample;
    connect(&sheet, &ExportSheet::sampled, this, [&](const QString& path) { sample = path; });
    QTest::mouseClick(child<QPushButton>(&sheet, "sample"), Qt::LeftButton);
    QTRY_VERIFY_WITH_TIMEOUT(!sample.isEmpty() && !sheet.running(), 120000);
    const int frames = static_cast<int>(std::ceil(2 * w.document().scene().rate.value()));
    QCOMPARE(oa::test::probe(sample)["nb_read_frames"].toString().toInt(), frames);
    QVERIFY2(child<QLabel>(&sheet, "exportMessage")->text().contains("all of it would be about"),
             qPrintable(child<QLabel>(&sheet, "exportMessage")->text()));
    QVERIFY(!QFileInfo::exists(dir.filePath("whole.mp4")));
  }
};

QTEST_MAIN(TestClipsAndSound)
#include "tst_clips_and_sound.moc"
