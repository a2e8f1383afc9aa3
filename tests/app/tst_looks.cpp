// Looks in the window: seen at work, given, kept, deleted and taken in.
#include <QAbstractButton>
#include <QCheckBox>
#include <QDir>
#include <QFile>
#include <QFileDialog>
#include <QInputDialog>
#include <QLineEdit>
#include <QMessageBox>
#include <QPushButton>
#include <QStandardPaths>
#include <QTemporaryDir>
#include <QTest>

#include "edit/look.h"
#include "model/look_shelf.h"
#include "sheets/look_gallery.h"
#include "support/counted.h"
#include "support/hands.h"
#include "support/pictures.h"

using namespace oa;
using namespace oa::app;
using oa::app::test::Bench;
using oa::app::test::child;
using oa::app::test::whenShown;

namespace {

LookGallery& opened(Bench& bench) {
  bench.activate();
  Window& w = bench.window();
  QTest::keyClick(&w, Qt::Key_L, Qt::ControlModifier | Qt::AltModifier);
  if (!QTest::qWaitFor([&] { return w.lookGallery().isVisible(); })) qFatal("the gallery did not open");
  return w.lookGallery();
}

// Types a name into the box that asks for one.
bool keepAs(QWidget* button, const QString& name) {
  return whenShown<QInputDialog>([&] { QTest::mouseClick(button, Qt::LeftButton); },
                                 [&](QInputDialog& box) {
                                   auto* line = box.findChild<QLineEdit*>();
                                   line->selectAll();
                                   QTest::keyClicks(line, name);
                                   QTest::keyClick(line, Qt::Key_Return);
                                 });
}

}  // namespace

class TestLooks : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void init() {
    QStandardPaths::setTestModeEnabled(true);
    QVERIFY(QDir(LookShelf::folder()).removeRecursively());
  }
  void cleanupTestCase() { QVERIFY(QDir(LookShelf::folder()).removeRecursively()); }
  void eachIsSeenOnTheLayer();
  void oneIsGiven();
  void oneTakesThePlaceOfTheSteps();
  void oneIsKeptAndDeleted();
  void oneIsTakenIn();
};

void TestLooks::eachIsSeenOnTheLayer() {
  Bench bench("sea-fog.overagain");
  bench.activate();
  Window& w = bench.window();
  LookGallery& gallery = opened(bench);
  QCOMPARE(gallery.count(), 24);
  QTRY_VERIFY_WITH_TIMEOUT(gallery.heldFrames() >= 24, 60000);
  // Each is the layer, and each another one: a third of the loop on, where what begins at rest has moved.
  std::vector<oa::test::FloatFrame> seen;
  for (int i = 0; i < gallery.count(); ++i) {
    const Scene& scene = gallery.items()[static_cast<std::size_t>(i)].scene;
    QVERIFY(scene.layers.size() == w.document().scene().layers.size());
    const auto now = oa::test::renderFloat(scene, scene.frames / 6, 96, 54);
    for (const auto& other : seen) QVERIFY2(oa::test::compare(now, other).mean > 1e-4, qPrintable(gallery.card(i)->text()));
    seen.push_back(now);
    QVERIFY(!gallery.card(i)->toolTip().isEmpty());
  }
  QTest::keyClick(&gallery, Qt::Key_Escape);
  QTRY_VERIFY(!gallery.isVisible());
  QVERIFY(!w.document().history().canUndo());
}

void TestLooks::oneIsGiven() {
  Bench bench("sea-fog.overagain");
  bench.activate();
  Window& w = bench.window();
  const std::size_t steps = w.document().layer()->recipe.size();
  const Scene before = w.document().scene();
  oa::app::test::Hands hands(w);
  LookGallery& gallery = opened(bench);
  hands.count();
  hands.click(gallery.card(gallery.cardOf(QStringLiteral("Rain on the pane"))), QPoint(20, 20));
  oa::app::test::told("a look that ships, on one's own layer", hands, 3);
  QVERIFY(!gallery.isVisible());
  QCOMPARE(w.document().layer()->recipe.size(), steps + 2);
  QCOMPARE(w.document().layer()->recipe.back().spec->id, std::string_view("droplets"));
  QCOMPARE(w.document().history().undoText(), QStringLiteral("look Rain on the pane"));
  w.document().history().undo();
  QVERIFY(w.document().scene() == before);
  // From the recipe's own link as well.
  QTest::mouseClick(child<QPushButton>(&w, "looksLink"), Qt::LeftButton);
  QTRY_VERIFY(gallery.isVisible());
}

void TestLooks::oneTakesThePlaceOfTheSteps() {
  Bench bench("sea-fog.overagain");
  bench.activate();
  Window& w = bench.window();
  LookGallery& gallery = opened(bench);
  const std::size_t all = gallery.items().front().scene.layers.back().recipe.size();
  QTest::mouseClick(child<QCheckBox>(&gallery, "lookInstead"), Qt::LeftButton);
  QVERIFY(gallery.items().front().scene.layers.back().recipe.size() < all);
  auto* card = gallery.card(gallery.cardOf(QStringLiteral("Newspaper")));
  card->setFocus();
  QTest::keyClick(card, Qt::Key_Space);
  const auto& recipe = w.document().layer()->recipe;
  QCOMPARE(recipe.size(), std::size_t{4});
  QVERIFY2(recipe[2].spec->id == "halftone", std::string(recipe[2].spec->id).c_str());
  // The next time it is as usual.
  QVERIFY(!child<QCheckBox>(&opened(bench), "lookInstead")->isChecked());
}

void TestLooks::oneIsKeptAndDeleted() {
  Bench bench("sea-fog.overagain");
  bench.activate();
  Window& w = bench.window();
  LookGallery& gallery = opened(bench);
  const std::size_t steps = w.document().layer()->recipe.size();
  QVERIFY(keepAs(child<QPushButton>(&gallery, "keepLook"), QStringLiteral("Über the sea/2")));
  QCOMPARE(gallery.count(), 25);
  const int own = gallery.cardOf(QStringLiteral("Über the sea/2"));
  QCOMPARE(own, 24);
  QCOMPARE(gallery.items()[24].section, QStringLiteral("Your own"));
  // Its file has a picture of it, and nothing of the name that a file cannot have.
  const QStringList files = QDir(LookShelf::folder()).entryList(QDir::Files);
  QCOMPARE(files, QStringList{QStringLiteral("über-the-sea-2.look")});
  QFile file(LookShelf::folder() + QLatin1Char('/') + files.first());
  QVERIFY(file.open(QIODevice::ReadOnly));
  const auto look = edit::lookFromText(file.readAll().toStdString());
  QVERIFY(look.has_value());
  QVERIFY(QImage::fromData(QByteArray::fromStdString(look->picture)).width() > 100);
  QVERIFY(!gallery.items()[24].first.isNull());
  // Kept again under that name it takes its place; another layer is given it.
  QVERIFY(keepAs(child<QPushButton>(&gallery, "keepLook"), QStringLiteral("Über the sea/2")));
  QCOMPARE(gallery.count(), 25);
  QTest::keyClick(&gallery, Qt::Key_Escape);
  w.document().setCurrentLayer(oa::app::test::layerId(w, 1));
  const std::size_t deep = w.document().layer()->recipe.size();
  opened(bench);
  QTest::mouseClick(gallery.card(own), Qt::LeftButton);
  QCOMPARE(w.document().layer()->recipe.size(), deep + steps - 1);
  // One that ships cannot be deleted; one's own is, when that is meant.
  opened(bench);
  gallery.card(3)->setFocus();
  QTest::keyClick(gallery.card(3), Qt::Key_Delete);
  QCOMPARE(gallery.count(), 25);
  gallery.card(own)->setFocus();
  QVERIFY(oa::app::test::answerBox([&] { QTest::keyClick(gallery.card(own), Qt::Key_Delete); }, QMessageBox::Cancel));
  QCOMPARE(gallery.count(), 25);
  bench.activate();
  gallery.card(own)->setFocus();
  QVERIFY(oa::app::test::answerBox([&] { QTest::keyClick(gallery.card(own), Qt::Key_Delete); }, QMessageBox::Yes));
  QCOMPARE(gallery.count(), 24);
  QVERIFY(QDir(LookShelf::folder()).entryList(QDir::Files).isEmpty());
}

void TestLooks::oneIsTakenIn() {
  Bench bench("sea-fog.overagain");
  bench.activate();
  Window& w = bench.window();
  LookGallery& gallery = opened(bench);
  auto* open = child<QPushButton>(&gallery, "openLook");
  QTemporaryDir folder;
  const auto choose = [&](const QString& path) {
    return whenShown<QFileDialog>([&] { QTest::mouseClick(open, Qt::LeftButton); },
                                  [&](QFileDialog& dialog) {
                                    auto* name = dialog.findChild<QLineEdit*>(QStringLiteral("fileNameEdit"));
                                    name->setText(path);
                                    QTest::keyClick(name, Qt::Key_Return);
                                  });
  };
  QVERIFY(
      QFile::copy(QStringLiteral(OA_SOURCE_DIR "/demo-data/looks/lantern.look"), folder.filePath(QStringLiteral("from-elsewhere.look"))));
  QVERIFY(choose(folder.filePath(QStringLiteral("from-elsewhere.look"))));
  QCOMPARE(gallery.count(), 25);
  QCOMPARE(gallery.items()[24].name, QStringLiteral("Lantern"));
  // What is none is said, and all stays as it is.
  QFile wrong(folder.filePath(QStringLiteral("wrong.look")));
  QVERIFY(wrong.open(QIODevice::WriteOnly) && wrong.write("{\"layers\": []}") > 0);
  wrong.close();
  QString said;
  QObject::connect(&w.document(), &Document::refused, &w, [&](const QString& sentence) { said = sentence; });
  QVERIFY(choose(wrong.fileName()));
  QVERIFY2(said.contains(QStringLiteral("holds no look")), qPrintable(said));
  QVERIFY(said.contains(QStringLiteral("wrong.look")));
  QCOMPARE(gallery.count(), 25);
}

QTEST_MAIN(TestLooks)
#include "tst_looks.moc"
