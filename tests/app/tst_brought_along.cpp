// What people bring along, from the drop to the finished loop: six jobs in the real window, their actions counted; ends that meet in any
// layer, layers at distances, colours in time, tiles of several pictures; small pictures in the cache of the desktop.
#include <QComboBox>
#include <QCryptographicHash>
#include <QDateTime>
#include <QDir>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QRadioButton>
#include <QSpinBox>
#include <QTemporaryDir>
#include <QToolButton>
#include <QUrl>

#include "edit/depth.h"
#include "model/heard.h"
#include "model/thumbnails.h"
#include "scene/scene_file.h"
#include "scene/run.h"
#include "sheets/step_gallery.h"
#include "support/clips.h"
#include "support/counted.h"
#include "support/hands.h"
#include "support/media.h"
#include "widgets/fades_dialog.h"
#include "widgets/file_editor.h"
#include "widgets/number_field.h"
#include "widgets/recipe_panel.h"
#include "widgets/seam_row.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using namespace oa::app::test;

namespace {

Scene emptyScene(int frames = 240) {
  Scene scene;
  scene.width = 640;
  scene.height = 360;
  scene.rate = {24, 1};
  scene.frames = frames;
  scene.palette = {"Four", {{0.1f, 0.3f, 0.4f, 1}, {0.9f, 0.5f, 0.3f, 1}, {0.9f, 0.85f, 0.7f, 1}, {0.3f, 0.1f, 0.2f, 1}}};
  return scene;
}

Point travelOf(const Layer& layer, const char* step = "picture") {
  for (const RecipeStep& one : layer.recipe)
    if (one.spec->id == step) return std::get<Point>(one.params[static_cast<std::size_t>(findParam(one.spec->params, "travel"))].base);
  return {};
}

std::string choiceOf(const Layer& layer, const char* id) {
  const RecipeStep& source = layer.recipe[0];
  return std::get<std::string>(source.params[static_cast<std::size_t>(findParam(source.spec->params, id))].base);
}

// Opens the menu of the items' palette and takes its last entry; the dialog comes once the menu is gone.
void fadeFromMenu(Window& window) {
  auto* button = window.recipe().findChild<QToolButton*>(QStringLiteral("itemsFromPalette"));
  QTimer::singleShot(0, button, [] {
    if (QWidget* menu = QApplication::activePopupWidget()) {
      QTest::keyClick(menu, Qt::Key_Up);
      QTest::keyClick(menu, Qt::Key_Return);
    }
  });
  QTest::mouseClick(button, Qt::LeftButton);
}

struct Room {
  Bench bench{"sea-fog.overagain"};
  Window& w{bench.window()};
  explicit Room(int frames = 240) { w.begin(emptyScene(frames)); }
  const Scene& scene() { return w.document().scene(); }
};

}  // namespace

class TestBroughtAlong : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void initTestCase() { QApplication::setAttribute(Qt::AA_DontUseNativeDialogs); }
  void jobMirroredPictureWithAFigureInFront();
  void jobPanoramaInFortySeconds();
  void jobPaintedStrip();
  void jobGritOverFootage();
  void jobColoursInTimeWithATune();
  void jobStreetInFourDepths();
  void anyLayerIsMadeSeamless();
  void theSeamlessPictureIsSaved();
  void distancesAreDragged();
  void coloursKeepTheirSeconds();
  void tilesShowSeveralPictures();
  void smallPicturesAreShared();
  void choosersShowSmallPictures();
};

void TestBroughtAlong::jobMirroredPictureWithAFigureInFront() {
  Room room;
  Hands hands(room.w);
  hands.drop({"quay-strip.png"});
  hands.choose("picture", "across", "mirror");
  hands.type("picture", "travel", "-1");
  hands.drop({"swinging-lantern.webm"});
  told("a mirrored picture scrolling for ever with a figure in front", hands, 6);
  const Scene& scene = room.scene();
  QCOMPARE(scene.layers.size(), std::size_t{2});
  QCOMPARE(travelOf(scene.layers[0]).x, -1.0);
  QVERIFY(reallyMoves(
      scene.layers[0].recipe[0].spec->params[static_cast<std::size_t>(findParam(scene.layers[0].recipe[0].spec->params, "travel"))],
      scene.layers[0].recipe[0].params[static_cast<std::size_t>(findParam(scene.layers[0].recipe[0].spec->params, "travel"))]));
  const auto& figure = std::get<MediaRef>(scene.layers[1].recipe[0].params[0].base);
  QVERIFY(figure.moving());
}

void TestBroughtAlong::jobPanoramaInFortySeconds() {
  QTemporaryDir dir;
  QVERIFY(oa::test::patchwork(2400, 360).save(dir.filePath("panorama.png")));
  Room room;
  Hands hands(room.w);
  hands.drop({dir.filePath("panorama.png")});
  hands.type("picture", "travel", "-1");
  hands.key(Qt::Key_F, Qt::ControlModifier);
  auto* seconds = room.w.findChild<QAbstractSpinBox*>(QStringLiteral("loopSeconds"));
  QVERIFY(seconds);
  hands.typeInto(seconds, "40", true);
  told("a panorama passing by exactly its width in 40 s", hands, 5);
  QCOMPARE(room.scene().frames, 960);
  // By its width: 2400 pixels in 960 frames.
  QCOMPARE(travelOf(room.scene().layers[0]).x, -1.0);
  QCOMPARE(choiceOf(room.scene().layers[0], "across"), std::string("repeat"));
}

void TestBroughtAlong::jobPaintedStrip() {
  Room room;
  Hands hands(room.w);
  hands.drop({"quay-strip.png"});
  hands.choose("picture", "ends", "cut");
  hands.type("picture", "travel", "1");
  told("a painted strip whose ends meet", hands, 4);
  // How well it did is told on the card.
  auto* seam = room.w.recipe().findChild<SeamRow*>();
  QVERIFY(seam && seam->isVisible());
  QTRY_VERIFY_WITH_TIMEOUT(seam->property("after").isValid(), 20000);
  QVERIFY2(seam->property("after").toDouble() < 2, qPrintable(seam->property("after").toString()));
}

void TestBroughtAlong::jobGritOverFootage() {
  Room room;
  Hands hands(room.w);
  hands.drop({"swinging-lantern.webm"});
  hands.choose("picture", "way", "through");
  hands.drop({"paper.png"});
  hands.choose("picture", "across", "repeat");
  hands.choose("picture", "down", "repeat");
  hands.type("picture", "held", "2");
  auto* blend = room.w.recipe().findChild<QComboBox*>(QStringLiteral("blend"));
  QVERIFY(blend);
  hands.count();
  blend->setFocus();
  for (int i = 0; i < blend->count() && blend->currentText().compare("Multiply", Qt::CaseInsensitive) != 0; ++i)
    QTest::keyClick(blend, Qt::Key_Down);
  told("grit from a paper picture over footage", hands, 8);
  QCOMPARE(room.scene().layers[1].blend, BlendMode::Multiply);
  QVERIFY(runOf(room.scene()).frames() > 0);
}

void TestBroughtAlong::jobColoursInTimeWithATune() {
  Room room;
  Hands hands(room.w);
  hands.drop({"rope.svg"});
  hands.drop({"brass.ogg"});
  QTRY_VERIFY_WITH_TIMEOUT(room.w.document().heard().tempo().beatsPerMinute > 0, 30000);
  auto* beats = room.w.findChild<QPushButton*>(QStringLiteral("loopOfBeats"));
  if (!beats->isVisible()) hands.key(Qt::Key_U, Qt::ControlModifier);
  QTRY_VERIFY(beats->isVisible() && beats->isEnabled());
  hands.click(beats);
  hands.key(Qt::Key_T, Qt::ControlModifier);
  StepGallery& gallery = room.w.stepGallery();
  QTRY_VERIFY(gallery.isVisible());
  hands.click(gallery.card(gallery.cardOf("colourmap")));
  hands.count();
  QVERIFY(whenShown<FadesDialog>([&] { fadeFromMenu(room.w); },
                                 [&](FadesDialog& dialog) {
                                   hands.count();
                                   QTest::keyClick(&dialog, Qt::Key_Return);
                                 }));
  told("a recoloured wave drawing cross-fading through four colours in time with a tune", hands, 10);
  const RecipeStep& map = room.scene().layers[0].recipe.back();
  QCOMPARE(map.spec->id, std::string_view("colourmap"));
  for (const Item& item : map.items) {
    const Param& colour = item.params[static_cast<std::size_t>(findParam(map.spec->items->params, "colour"))];
    QCOMPARE(colour.motion.kind, MotionKind::Keyframes);
    QCOMPARE(colour.motion.keys.size(), std::size_t{8});
  }
  // The loop is whole beats long, so each of the four colours is as well.
  const double beat = 60 / room.w.document().heard().tempo().beatsPerMinute;
  const double count = room.scene().frames / room.scene().rate.value() / beat;
  QVERIFY2(std::abs(count - std::round(count)) < 0.05, qPrintable(QString::number(count)));
}

void TestBroughtAlong::jobStreetInFourDepths() {
  QTemporaryDir dir;
  QStringList names;
  for (int i = 0; i < 4; ++i) {
    names << dir.filePath(QStringLiteral("row%1.png").arg(i));
    QVERIFY(oa::test::patchwork(700 + 150 * i, 90, true).save(names.back()));
  }
  Room room(2400);
  Hands hands(room.w);
  hands.drop(names);
  hands.key(Qt::Key_T, Qt::ControlModifier | Qt::ShiftModifier);
  hands.click(child<QPushButton>(&room.w, "travelByDepth"));
  told("a street in four depths", hands, 8);
  double before = 0;
  for (const auto& layer : room.scene().layers) {
    // The upper, the nearer, the faster.
    const double speed = -travelOf(layer).x * std::get<MediaRef>(layer.recipe[0].params[0].base).width;
    QVERIFY2(speed > before, qPrintable(QString::number(speed)));
    before = speed;
  }
  room.w.document().history().undo();
  for (const auto& layer : room.scene().layers) QCOMPARE(layer.distance, 0.0);
}

void TestBroughtAlong::anyLayerIsMadeSeamless() {
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  QTest::keyClick(&w, Qt::Key_T, Qt::ControlModifier);
  StepGallery& gallery = w.stepGallery();
  QTRY_VERIFY(gallery.isVisible());
  QTest::keyClicks(gallery.search(), "seamless");
  const int card = gallery.cardOf("seamless");
  QVERIFY(card >= 0);
  QTest::mouseClick(gallery.card(card), Qt::LeftButton);
  QCOMPARE(w.document().layer()->recipe.back().spec->id, std::string_view("seamless"));
  auto* seam = w.recipe().findChild<SeamRow*>();
  QVERIFY(seam);
  QTRY_VERIFY_WITH_TIMEOUT(seam->property("after").isValid(), 30000);
  const QString words = child<QLabel>(seam, "muted")->text();
  QVERIFY2(words.contains("before") && words.contains("across") && words.contains("down"), qPrintable(words));
  // Other ends, other words.
  auto* box = paramRow(w, "seamless", "meet")->findChild<QComboBox*>();
  box->setFocus();
  QTest::keyClick(box, Qt::Key_Home);
  QTRY_VERIFY_WITH_TIMEOUT(!child<QLabel>(seam, "muted")->text().contains("down"), 30000);
  w.document().history().undo();
  w.document().history().undo();
  QVERIFY(w.document().layer()->recipe.back().spec->id != std::string_view("seamless"));
}

void TestBroughtAlong::theSeamlessPictureIsSaved() {
  QTemporaryDir dir;
  Room room;
  Hands hands(room.w);
  hands.drop({"quay-strip.png"});
  hands.choose("picture", "ends", "cut");
  auto* save = child<QPushButton>(room.w.recipe().findChild<SeamRow*>(), "saveSeamless");
  const QString path = dir.filePath("strip.png");
  QVERIFY(whenShown<QFileDialog>([&] { QTest::mouseClick(save, Qt::LeftButton); },
                                 [&](QFileDialog& dialog) {
                                   auto* name = dialog.findChild<QLineEdit*>(QStringLiteral("fileNameEdit"));
                                   name->setText(path);
                                   QTest::keyClick(name, Qt::Key_Return);
                                 }));
  QTRY_VERIFY_WITH_TIMEOUT(child<QLabel>(room.w.recipe().findChild<SeamRow*>(), "muted")->text().contains("strip.png"), 20000);
  const QImage saved(path);
  const QImage whole(kMedia + "quay-strip.png");
  QCOMPARE(saved.height(), whole.height());
  QCOMPARE(saved.width(), whole.width() - qRound(whole.width() * 0.2));
  // Where nothing can be written, that is said.
  const QString nowhere = QStringLiteral("/proc/strip.png");
  QVERIFY(whenShown<QFileDialog>([&] { QTest::mouseClick(save, Qt::LeftButton); },
                                 [&](QFileDialog& dialog) {
                                   auto* name = dialog.findChild<QLineEdit*>(QStringLiteral("fileNameEdit"));
                                   name->setText(nowhere);
                                   QTest::keyClick(name, Qt::Key_Return);
                                 }));
  QTRY_VERIFY_WITH_TIMEOUT(child<QLabel>(room.w.recipe().findChild<SeamRow*>(), "muted")->property("problem").toBool(), 20000);
}

void TestBroughtAlong::distancesAreDragged() {
  QTemporaryDir dir;
  Room room(2400);
  QStringList names;
  for (const char* name : {"a.png", "b.png"}) {
    names << dir.filePath(name);
    QVERIFY(oa::test::patchwork(300, 100).save(names.back()));
  }
  Hands hands(room.w);
  hands.drop(names);
  QTest::keyClick(&room.w, Qt::Key_T, Qt::ControlModifier | Qt::ShiftModifier);
  auto* sheet = child<QWidget>(&room.w, "sheet-depth");
  QTRY_VERIFY(sheet->isVisible());
  auto fields = sheet->findChildren<NumberField*>(QStringLiteral("distance"));
  QCOMPARE(fields.size(), 2);
  typeInto(fields[1], "6");
  QCOMPARE(room.scene().layers[0].distance, 6.0);
  QCOMPARE(room.scene().layers[1].distance, 1.0);
  const double slow = -travelOf(room.scene().layers[0]).x;
  QVERIFY(slow >= 1 && slow < -travelOf(room.scene().layers[1]).x / 4);
  // Haze by distance is a step of the far one alone.
  typeInto(child<NumberField>(sheet, "haze"), "60");
  QCOMPARE(room.scene().layers[0].recipe.size(), std::size_t{2});
  QCOMPARE(room.scene().layers[1].recipe.size(), std::size_t{1});
  // The other way.
  auto* way = child<QComboBox>(sheet, "depthWay");
  way->setFocus();
  QTest::keyClick(way, Qt::Key_Down);
  QVERIFY(travelOf(room.scene().layers[0]).x > 0);
  for (int i = 0; i < 3; ++i) QTest::keyClick(&room.w, Qt::Key_Z, Qt::ControlModifier);
  QCOMPARE(room.scene().layers[0].distance, 0.0);
  QCOMPARE(room.scene().layers[0].recipe.size(), std::size_t{1});
  // A short loop is too fast for what is far; one press makes it as long as it has to be.
  typeInto(fields[1], "40");
  auto* longer = child<QPushButton>(sheet, "lengthenForDepth");
  QVERIFY(!longer->isVisible());
  room.w.document().edit("short", {}, [](Scene& s) { s.frames = 24; });
  QTRY_VERIFY(longer->isVisible());
  QTest::mouseClick(longer, Qt::LeftButton);
  QVERIFY(room.scene().frames > 24);
  QVERIFY(!longer->isVisible());
}

void TestBroughtAlong::coloursKeepTheirSeconds() {
  Room room(240);
  Hands hands(room.w);
  hands.drop({"rope.svg"});
  QTest::keyClick(&room.w, Qt::Key_T, Qt::ControlModifier);
  StepGallery& gallery = room.w.stepGallery();
  QTRY_VERIFY(gallery.isVisible());
  QTest::mouseClick(gallery.card(gallery.cardOf("colourmap")), Qt::LeftButton);
  const auto ask = [&](const QString& hold, const QString& seconds, const char* which) {
    return whenShown<FadesDialog>([&] { fadeFromMenu(room.w); },
                                  [&](FadesDialog& dialog) {
                                    typeInto(child<NumberField>(&dialog, "fadesHold"), hold);
                                    typeInto(child<NumberField>(&dialog, "fadesFade"), seconds);
                                    QTest::mouseClick(child<QRadioButton>(&dialog, which), Qt::LeftButton, Qt::NoModifier, {8, 8});
                                    QTest::mouseClick(child<QPushButton>(&dialog, "primary"), Qt::LeftButton);
                                  });
  };
  // The loop becomes what four colours take.
  QVERIFY(ask("3", "0.5", "fadesSetLoop"));
  QCOMPARE(room.scene().frames, 336);
  // Or it stays, and they go round as often as is nearest.
  QVERIFY(ask("0.5", "0.5", "fadesFit"));
  QCOMPARE(room.scene().frames, 336);
  const RecipeStep& map = room.scene().layers[0].recipe.back();
  QCOMPARE(map.items[0].params[static_cast<std::size_t>(findParam(map.spec->items->params, "colour"))].motion.laps, 4);
}

void TestBroughtAlong::tilesShowSeveralPictures() {
  QTemporaryDir dir;
  const QString other = dir.filePath("other.png");
  QVERIFY(oa::test::patchwork(300, 200).save(other));
  Room room;
  Hands hands(room.w);
  hands.drop({"paper.png"});
  hands.choose("picture", "across", "repeat");
  auto* vary = paramRow(room.w, "picture", "vary")->findChild<QAbstractButton*>();
  QTest::mouseClick(vary, Qt::LeftButton, Qt::NoModifier, {8, 8});
  ParamRow* second = paramRow(room.w, "picture", "file2");
  QVERIFY(second->isVisible());
  auto* editor = second->findChild<FileEditor*>();
  QCOMPARE(child<QLabel>(editor, "fileName")->property("whole").toString(), QStringLiteral("None"));
  dropFiles(room.w, editor, {other}, {20, 10});
  const auto file = [&] {
    const RecipeStep& source = room.scene().layers[0].recipe[0];
    return std::get<MediaRef>(source.params[static_cast<std::size_t>(findParam(source.spec->params, "file2"))].base);
  };
  QTRY_COMPARE(file().width, 300);
  auto* remove = child<QToolButton>(paramRow(room.w, "picture", "file2"), "fileRemove");
  QTRY_VERIFY(remove->isVisible());
  QTest::mouseClick(remove, Qt::LeftButton);
  QVERIFY(file().empty());
}

void TestBroughtAlong::smallPicturesAreShared() {
  QTemporaryDir dir;
  const QString picture = dir.filePath("a b.png");
  QVERIFY(oa::test::patchwork(900, 300).save(picture));
  const QString place = thumbnailPlace(picture);
  // The standard's own rule: the MD5 of the URI.
  const QByteArray uri = QUrl::fromLocalFile(QFileInfo(picture).canonicalFilePath()).toEncoded();
  QVERIFY(uri.contains("a%20b.png"));
  QVERIFY(
      place.endsWith("/thumbnails/large/" + QString::fromLatin1(QCryptographicHash::hash(uri, QCryptographicHash::Md5).toHex()) + ".png"));
  const QImage small = sharedThumbnail(picture);
  QCOMPARE(small.size(), QSize(256, 85));
  const QImage written(place);
  QCOMPARE(written.text("Thumb::URI").toUtf8(), uri);
  QCOMPARE(written.text("Thumb::MTime"), QString::number(QFileInfo(picture).lastModified().toSecsSinceEpoch()));
  QCOMPARE(QFileInfo(place).permissions() & 0x0077, QFileDevice::Permissions());
  // What another program put there is taken; what is of an older file is not.
  QImage marked(120, 60, QImage::Format_ARGB32);
  marked.fill(Qt::magenta);
  marked.setText("Thumb::URI", QString::fromLatin1(uri));
  marked.setText("Thumb::MTime", QString::number(QFileInfo(picture).lastModified().toSecsSinceEpoch()));
  QVERIFY(marked.save(place));
  QCOMPARE(sharedThumbnail(picture).size(), QSize(120, 60));
  marked.setText("Thumb::MTime", "12345");
  QVERIFY(marked.save(place));
  QCOMPARE(sharedThumbnail(picture).size(), QSize(256, 85));
  // Clips and scenes have one, sounds and texts have none, and that is remembered.
  QVERIFY(!sharedThumbnail(kMedia + "swinging-lantern.webm").isNull());
  QVERIFY(!sharedThumbnail(QStringLiteral(OA_SOURCE_DIR "/demo-data/scenes/sea-fog.overagain")).isNull());
  QVERIFY(sharedThumbnail(kMedia + "brass.ogg").isNull());
  QFile text(dir.filePath("text.png"));
  QVERIFY(text.open(QIODevice::WriteOnly) && text.write("no picture") > 0);
  text.close();
  QVERIFY(sharedThumbnail(text.fileName()).isNull());
  QString failed = thumbnailPlace(text.fileName());
  failed.replace("/large/", "/fail/over-again-" OA_VERSION "/");
  QVERIFY(QFile::exists(failed));
  // What lies in the cache has none of its own.
  QVERIFY(thumbnailPlace(place).isEmpty());
}

void TestBroughtAlong::choosersShowSmallPictures() {
  QTemporaryDir dir;
  QImage plain(64, 64, QImage::Format_RGB32);
  plain.fill(qRgb(250, 20, 230));
  QVERIFY(plain.save(dir.filePath("pink.png")));
  Room room;
  Hands hands(room.w);
  hands.drop({dir.filePath("pink.png")});
  bool seen = false;
  auto* choose = room.w.recipe().findChild<QToolButton*>(QStringLiteral("fileChoose"));
  QVERIFY(whenShown<QFileDialog>([&] { QTest::mouseClick(choose, Qt::LeftButton); },
                                 [&](QFileDialog& dialog) {
                                   const auto pink = [&] {
                                     const QImage shown = dialog.grab().toImage();
                                     int count = 0;
                                     for (int y = 0; y < shown.height(); ++y)
                                       for (int x = 0; x < shown.width(); ++x) {
                                         const QRgb p = shown.pixel(x, y);
                                         count += qRed(p) > 235 && qGreen(p) < 40 && qBlue(p) > 210;
                                       }
                                     return count > 400;
                                   };
                                   seen = QTest::qWaitFor(pink, 10000);
                                   dialog.reject();
                                 }));
  QVERIFY(seen);
}

QTEST_MAIN(TestBroughtAlong)
#include "tst_brought_along.moc"
