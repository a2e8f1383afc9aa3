// Files on the window: dropped, pasted and chosen pictures become layers; one that is gone is named, stood in for and found again;
// ends are made to meet from the card.
#include <QCheckBox>
#include <QClipboard>
#include <QComboBox>
#include <QDir>
#include <QDragEnterEvent>
#include <QDropEvent>
#include <QFileDialog>
#include <QLabel>
#include <QLineEdit>
#include <QMimeData>
#include <QTemporaryDir>
#include <QToolButton>
#include <QUrl>

#include "edit/steps.h"
#include "model/media_watch.h"
#include "scene/scene_file.h"
#include "sheets/palette_sheet.h"
#include "store/media_store.h"
#include "support/hands.h"
#include "support/media.h"
#include "widgets/file_editor.h"
#include "widgets/recipe_panel.h"
#include "widgets/view.h"

using namespace oa;
using namespace oa::app;
using namespace oa::app::test;

namespace {

const MediaRef& fileOf(Window& window) { return std::get<MediaRef>(window.document().layer()->recipe[0].params[0].base); }

std::string choiceOf(Window& window, const char* id) {
  const RecipeStep& source = window.document().layer()->recipe[0];
  return std::get<std::string>(source.params[static_cast<std::size_t>(findParam(source.spec->params, id))].base);
}

FileEditor* editorOf(Window& window) { return window.recipe().findChild<FileEditor*>(); }

// Presses a button that opens a file chooser and takes a file in it.
bool chooseFile(QAbstractButton* button, const QString& path) {
  return whenShown<QFileDialog>([&] { QTest::mouseClick(button, Qt::LeftButton); },
                                [&](QFileDialog& dialog) {
                                  dialog.selectFile(path);
                                  dialog.setDirectory(QFileInfo(path).path());
                                  auto* name = dialog.findChild<QLineEdit*>(QStringLiteral("fileNameEdit"));
                                  name->setText(path);
                                  QTest::keyClick(name, Qt::Key_Return);
                                });
}

}  // namespace

class TestPictures : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void initTestCase() { QApplication::setAttribute(Qt::AA_DontUseNativeDialogs); }
  void droppedPicturesBecomeLayers();
  void severalAtOnce();
  void aDropOnTheCardShowsAnother();
  void overThePalettesItIsForItsColours();
  void pastedPicturesAreKeptInTheScene();
  void whatIsNoPictureIsRefused();
  void missingFilesAreNamedAndFound();
  void changedFilesAreTakenOnAsking();
  void endsAreMadeToMeet();
  void scenesKeepTheWayToTheirFiles();
  void aGroundIsPickedAndGoes();
};

void TestPictures::droppedPicturesBecomeLayers() {
  QTemporaryDir dir;
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  const std::size_t before = w.document().scene().layers.size();
  QVERIFY(oa::test::patchwork(300, 200).save(dir.filePath("small.png")));
  QVERIFY(dropFiles(w, &w, {dir.filePath("small.png")}).contains("small.png"));
  QTRY_COMPARE(w.document().scene().layers.size(), before + 1);
  QVERIFY(!w.findChild<QLabel*>(QStringLiteral("dropHint"))->isVisible());
  QCOMPARE(w.document().layer()->name, std::string("small"));
  QCOMPARE(fileOf(w).width, 300);
  QCOMPARE(choiceOf(w, "fit"), std::string("natural"));
  QCOMPARE(choiceOf(w, "across"), std::string("nothing"));
  // One step back takes it away again.
  w.document().history().undo();
  QCOMPARE(w.document().scene().layers.size(), before);
  // A large one covers the frame; a wide one reaches over its sides and goes on.
  QVERIFY(oa::test::patchwork(1600, 900).save(dir.filePath("large.png")));
  dropFiles(w, pileOf(w)->viewport(), {dir.filePath("large.png")});
  QTRY_COMPARE(w.document().layer()->name, std::string("large"));
  QCOMPARE(choiceOf(w, "fit"), std::string("cover"));
  QVERIFY(oa::test::patchwork(2400, 300).save(dir.filePath("wide.png")));
  dropFiles(w, &w, {dir.filePath("wide.png")});
  QTRY_COMPARE(w.document().layer()->name, std::string("wide"));
  QCOMPARE(choiceOf(w, "across"), std::string("repeat"));
  QCOMPARE(choiceOf(w, "down"), std::string("nothing"));
}

void TestPictures::severalAtOnce() {
  QTemporaryDir dir;
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  const std::size_t before = w.document().scene().layers.size();
  QStringList paths;
  for (const char* name : {"a.png", "b.png", "c.png"}) {
    paths << dir.filePath(name);
    QVERIFY(oa::test::patchwork(60, 40).save(paths.back()));
  }
  QVERIFY(dropFiles(w, &w, paths).contains("3"));
  QTRY_COMPARE(w.document().scene().layers.size(), before + 3);
  QCOMPARE(w.document().selection().size(), std::size_t{3});
  QCOMPARE(w.document().scene().layers.back().name, std::string("c"));
  w.document().history().undo();
  QCOMPARE(w.document().scene().layers.size(), before);
}

void TestPictures::aDropOnTheCardShowsAnother() {
  QTemporaryDir dir;
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  for (const char* name : {"one.png", "two.png", "three.png"}) QVERIFY(oa::test::patchwork(80, 60).save(dir.filePath(name)));
  dropFiles(w, &w, {dir.filePath("one.png")});
  QTRY_VERIFY(editorOf(w));
  const std::size_t layers = w.document().scene().layers.size();
  dropFiles(w, editorOf(w), {dir.filePath("two.png")}, {20, 10});
  QTRY_COMPARE(mediaName(fileOf(w)), std::string("two.png"));
  QCOMPARE(w.document().scene().layers.size(), layers);
  QCOMPARE(child<QLabel>(editorOf(w), "fileName")->property("whole").toString(), QStringLiteral("two.png"));
  // And its button opens a chooser.
  QVERIFY(chooseFile(child<QToolButton>(editorOf(w), "fileChoose"), dir.filePath("three.png")));
  QTRY_COMPARE(mediaName(fileOf(w)), std::string("three.png"));
}

void TestPictures::overThePalettesItIsForItsColours() {
  QTemporaryDir dir;
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  w.showPalettes();
  turn();
  QVERIFY(oa::test::patchwork(80, 60).save(dir.filePath("colours.png")));
  const std::size_t layers = w.document().scene().layers.size();
  const QWidget* sheet = &w.palettes();
  QVERIFY(dropFiles(w, &w, {dir.filePath("colours.png")}, sheet->mapTo(&w, QPoint(40, 40))).contains("colours"));
  turn();
  QCOMPARE(w.document().scene().layers.size(), layers);
}

void TestPictures::pastedPicturesAreKeptInTheScene() {
  QTemporaryDir dir;
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  const std::size_t before = w.document().scene().layers.size();
  QApplication::clipboard()->setImage(oa::test::patchwork(90, 70, true));
  QTest::keySequence(&w, QKeySequence::Paste);
  QTRY_COMPARE(w.document().scene().layers.size(), before + 1);
  QVERIFY(fileOf(w).data);
  QCOMPARE(fileOf(w).width, 90);
  // It goes with the scene, wherever that goes.
  const QString file = dir.filePath("with.overagain");
  QVERIFY(w.document().save(file).has_value());
  MediaStore::shared().clear();
  const auto again = loadScene(file.toStdString());
  QVERIFY(again);
  const auto& ref = std::get<MediaRef>(again->layers.back().recipe[0].params[0].base);
  QVERIFY(ref == fileOf(w));
  QVERIFY(MediaStore::shared().look(ref).has_value());
  // Text that is layers is still pasted as such.
  w.copyLayers();
  QTest::keySequence(&w, QKeySequence::Paste);
  QTRY_COMPARE(w.document().scene().layers.size(), before + 2);
}

void TestPictures::whatIsNoPictureIsRefused() {
  QTemporaryDir dir;
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  const Scene before = w.document().scene();
  QVERIFY(oa::test::patchwork(80, 60).save(dir.filePath("whole.png")));
  QFile whole(dir.filePath("whole.png"));
  QVERIFY(whole.open(QIODevice::ReadOnly));
  QFile half(dir.filePath("half.png"));
  QVERIFY(half.open(QIODevice::WriteOnly));
  half.write(whole.read(30));
  half.close();
  dropFiles(w, &w, {dir.filePath("half.png")});
  QTRY_VERIFY(w.errorShown().contains("half.png"));
  QVERIFY(w.document().scene() == before);
}

void TestPictures::missingFilesAreNamedAndFound() {
  QTemporaryDir dir;
  QDir(dir.path()).mkdir("before");
  QDir(dir.path()).mkdir("after");
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  QStringList paths;
  for (const char* name : {"before/one.png", "before/two.png"}) {
    paths << dir.filePath(name);
    QVERIFY(oa::test::patchwork(80, static_cast<int>(40 + paths.size())).save(paths.back()));
  }
  dropFiles(w, &w, paths);
  QTRY_VERIFY(editorOf(w));
  const QString scene = dir.filePath("scene.overagain");
  QVERIFY(w.document().save(scene).has_value());
  QVERIFY(QDir().rename(paths[0], dir.filePath("after/one.png")));
  QVERIFY(QDir().rename(paths[1], dir.filePath("after/two.png")));
  MediaStore::shared().clear();
  QVERIFY(w.open(scene));
  QTRY_VERIFY(w.errorShown().contains("one.png is not there"));
  QCOMPARE(w.document().media().problems().size(), std::size_t{2});
  QTRY_COMPARE(child<QToolButton>(editorOf(w), "fileChoose")->text(), QStringLiteral("Find…"));
  // Kept as they are in the scene.
  QCOMPARE(mediaName(fileOf(w)), std::string("two.png"));
  // One that is found finds its neighbour.
  QVERIFY(chooseFile(child<QToolButton>(editorOf(w), "fileChoose"), dir.filePath("after/two.png")));
  QTRY_VERIFY(w.document().media().problems().empty());
  const auto& layers = w.document().scene().layers;
  const auto pathOf = [](const Layer& layer) { return std::get<MediaRef>(layer.recipe[0].params[0].base).path; };
  QCOMPARE(pathOf(layers[layers.size() - 2]), dir.filePath("after/one.png").toStdString());
  QCOMPARE(pathOf(layers.back()), dir.filePath("after/two.png").toStdString());
  QCOMPARE(child<QToolButton>(editorOf(w), "fileChoose")->text(), QStringLiteral("Choose…"));
}

void TestPictures::changedFilesAreTakenOnAsking() {
  QTemporaryDir dir;
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  const QString path = dir.filePath("one.png");
  QVERIFY(oa::test::patchwork(80, 60).save(path));
  dropFiles(w, &w, {path});
  QTRY_VERIFY(editorOf(w));
  const std::string hash = fileOf(w).hash;
  auto* accept = child<QToolButton>(editorOf(w), "fileAccept");
  QVERIFY(!accept->isVisible());
  QVERIFY(oa::test::patchwork(64, 48).save(path));
  w.document().media().look();
  QTRY_VERIFY(accept->isVisible());
  QTest::mouseClick(accept, Qt::LeftButton);
  QTRY_VERIFY(fileOf(w).hash != hash);
  QCOMPARE(fileOf(w).width, 64);
  QTRY_VERIFY(!child<QToolButton>(editorOf(w), "fileAccept")->isVisible());
}

void TestPictures::endsAreMadeToMeet() {
  QTemporaryDir dir;
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  QVERIFY(oa::test::patchwork(400, 60).save(dir.filePath("strip.png")));
  dropFiles(w, &w, {dir.filePath("strip.png")});
  QTRY_VERIFY(editorOf(w));
  auto* row = child<QWidget>(&w.recipe(), "param-ends");
  QVERIFY(!child<QWidget>(&w.recipe(), "param-band")->isVisible());
  auto* box = row->findChild<QComboBox*>();
  box->setFocus();
  QTest::keyClick(box, Qt::Key_Down);
  QTRY_COMPARE(choiceOf(w, "ends"), std::string("cut"));
  QTRY_VERIFY(child<QWidget>(&w.recipe(), "param-band")->isVisible());
  QVERIFY(changesItsLook(&w.view()));
}

void TestPictures::scenesKeepTheWayToTheirFiles() {
  QTemporaryDir dir;
  QDir(dir.path()).mkdir("media");
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  QVERIFY(oa::test::patchwork(80, 60).save(dir.filePath("media/one.png")));
  dropFiles(w, &w, {dir.filePath("media/one.png")});
  QTRY_VERIFY(editorOf(w));
  QVERIFY(w.document().save(dir.filePath("scene.overagain")).has_value());
  QFile file(dir.filePath("scene.overagain"));
  QVERIFY(file.open(QIODevice::ReadOnly));
  QVERIFY(file.readAll().contains("\"media/one.png\""));
  // The whole folder may go elsewhere.
  QTemporaryDir other;
  QVERIFY(QDir().rename(dir.path(), other.filePath("moved")));
  const auto again = loadScene(other.filePath("moved/scene.overagain").toStdString());
  QVERIFY(again);
  QVERIFY(mediaProblems(*again).empty());
}

void TestPictures::aGroundIsPickedAndGoes() {
  QTemporaryDir dir;
  Bench bench("sea-fog.overagain");
  Window& w = bench.window();
  // A figure before a ground that fills the frame.
  QImage image(1920, 1080, QImage::Format_RGB888);
  image.fill(QColor(40, 90, 200));
  for (int y = 300; y < 800; ++y)
    for (int x = 800; x < 1100; ++x) image.setPixelColor(x, y, QColor(230, 150, 60));
  QVERIFY(image.save(dir.filePath("figure.png")));
  dropFiles(w, &w, {dir.filePath("figure.png")});
  QTRY_VERIFY(editorOf(w));
  w.document().performHere(QStringLiteral("add"),
                           [&](Scene& scene) { return edit::addStep(scene, w.document().currentLayer(), *findStep("clear")); });
  bench.settle();
  const QRectF frame = w.view().frameRect();
  const auto place = [&](double x, double y) {
    return QPointF(frame.left() + x * frame.width(), frame.top() + y * frame.height()).toPoint();
  };
  QTRY_VERIFY(w.view().image().pixelColor(w.view().image().width() / 10, w.view().image().height() / 10).blue() > 180);
  auto* dropper = w.recipe().findChild<QToolButton*>(QStringLiteral("dropper"));
  QVERIFY(dropper);
  const auto picked = [&] { return std::get<Colour>(w.document().layer()->recipe[1].params[0].base); };
  const Colour before = picked();
  // Called off first.
  QTest::mouseClick(dropper, Qt::LeftButton);
  QTest::keyClick(&w.view(), Qt::Key_Escape);
  QTest::mouseClick(&w.view(), Qt::LeftButton, {}, place(0.1, 0.1));
  QVERIFY(picked() == before);
  QTest::mouseClick(dropper, Qt::LeftButton);
  QTest::mouseClick(&w.view(), Qt::LeftButton, {}, place(0.1, 0.1));
  QVERIFY(std::abs(picked().b - 200 / 255.0f) < 0.03f && std::abs(picked().r - 40 / 255.0f) < 0.03f);
  // The sea is seen where the ground was, and the figure stays.
  QTRY_VERIFY(w.view().image().pixelColor(w.view().image().width() / 10, w.view().image().height() / 10).blue() < 150);
  QTRY_VERIFY(w.view().image().pixelColor(w.view().image().width() / 2, w.view().image().height() / 2).red() > 200);
}

QTEST_MAIN(TestPictures)
#include "tst_pictures.moc"
