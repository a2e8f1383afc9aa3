// Scenes with media in one file: there and back, wherever they go; names that meet; what is missing; large media beside a plain scene;
// damaged and hostile packs.
#include <QDir>
#include <QFile>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>

#include "base/random.h"
#include "scene/media_refs.h"
#include "scene/pack.h"
#include "scene/scene_file.h"
#include "store/media_store.h"
#include "support/files.h"
#include "support/media.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene sceneWith(const std::vector<MediaRef>& files) {
  Scene scene = test::oneLayer("flat", 160, 90);
  for (const MediaRef& file : files) {
    Layer layer = newLayer(*findStep("picture"), mediaName(file));
    layer.recipe[0].params[0].base = layer.recipe[0].params[0].motion.far = file;
    scene.layers.push_back(std::move(layer));
  }
  return scene;
}

std::vector<MediaRef> filesOf(const Scene& scene) {
  std::vector<MediaRef> list;
  forEachMedia(scene, [&](const MediaRef& ref) { list.push_back(ref); });
  return list;
}

QByteArray bytesOf(const QString& path) {
  QFile file(path);
  return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}

void write(const QString& path, const QByteArray& bytes) {
  QFile file(path);
  QVERIFY(file.open(QIODevice::WriteOnly));
  file.write(bytes);
}

}  // namespace

class TestPacks : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void packsHoldAllThatIsShown();
  void anIndependentReaderOpensThem();
  void missingFilesAreNamed();
  void largeFilesLieBesidePlainScenes();
  void damagedPacksGiveASentence();
  void hostileNamesStayInside();
};

void TestPacks::packsHoldAllThatIsShown() {
  QTemporaryDir dir;
  QDir(dir.path()).mkdir("a");
  QDir(dir.path()).mkdir("b");
  // Two of one name, and one shown twice.
  const MediaRef one = test::savedPicture(test::patchwork(60, 40), dir.filePath("a/gull.png"));
  const MediaRef other = test::savedPicture(test::patchwork(50, 30, true), dir.filePath("b/gull.png"));
  const Scene scene = sceneWith({one, other, one});
  const auto before = test::renderFloat(scene, 0);
  const std::string pack = dir.filePath("all.overpack").toStdString();
  QVERIFY(saveScene(scene, pack).has_value());
  // Elsewhere, and all that it was made from gone.
  QTemporaryDir elsewhere;
  QVERIFY(QFile::rename(QString::fromStdString(pack), elsewhere.filePath("all.overpack")));
  QVERIFY(QFile::remove(dir.filePath("a/gull.png")) && QFile::remove(dir.filePath("b/gull.png")));
  MediaStore::shared().clear();
  const auto again = loadScene(elsewhere.filePath("all.overpack").toStdString());
  QVERIFY2(again.has_value(), again ? "" : again.error().sentence().c_str());
  QVERIFY(mediaProblems(*again).empty());
  QCOMPARE(filesOf(*again).size(), std::size_t{3});
  QVERIFY(filesOf(*again)[0].hash == one.hash && filesOf(*again)[1].hash == other.hash);
  QCOMPARE(test::compare(test::renderFloat(*again, 0), before).largest, 0.0);
  // A pack of a pack is the same pack, byte for byte.
  const auto packedAgain = [&](const Scene& from, const char* name) {
    QVERIFY(saveScene(from, elsewhere.filePath(name).toStdString()).has_value());
  };
  packedAgain(*again, "again.overpack");
  const auto third = loadScene(elsewhere.filePath("again.overpack").toStdString());
  QVERIFY(third.has_value());
  packedAgain(*third, "third.overpack");
  QCOMPARE(bytesOf(elsewhere.filePath("third.overpack")), bytesOf(elsewhere.filePath("again.overpack")));
}

void TestPacks::anIndependentReaderOpensThem() {
  QTemporaryDir dir;
  const QString png = dir.filePath("rope.png");
  const Scene scene = sceneWith({test::savedPicture(test::patchwork(60, 40), png)});
  const QString pack = dir.filePath("p.overpack");
  QVERIFY(saveScene(scene, pack.toStdString()).has_value());
  const auto listed =
      test::run("python3", {"-c",
                            "import sys,zipfile;z=zipfile.ZipFile(sys.argv[1]);assert z.testzip() is None;"
                            "print(sorted(z.namelist()));sys.stdout.flush();sys.stdout.buffer.write(z.read('media/rope.png'))",
                            pack});
  QCOMPARE(listed.exitCode, 0);
  QVERIFY(listed.out.startsWith("['media/rope.png', 'scene.overagain']\n"));
  QCOMPARE(listed.out.mid(listed.out.indexOf('\n') + 1), bytesOf(png));
}

void TestPacks::missingFilesAreNamed() {
  QTemporaryDir dir;
  const MediaRef ref = test::savedPicture(test::patchwork(60, 40), dir.filePath("lost.png"));
  const Scene scene = sceneWith({ref});
  QVERIFY(QFile::remove(dir.filePath("lost.png")));
  const auto packed = saveScene(scene, dir.filePath("p.overpack").toStdString());
  QVERIFY(!packed && packed.error().sentence().find("lost.png") != std::string::npos);
  QVERIFY(!QFile::exists(dir.filePath("p.overpack")));
  // A plain scene keeps the way to it.
  QVERIFY(saveScene(scene, dir.filePath("p.overagain").toStdString()).has_value());
  const auto again = loadScene(dir.filePath("p.overagain").toStdString());
  QVERIFY(again && filesOf(*again).at(0) == ref);
}

void TestPacks::largeFilesLieBesidePlainScenes() {
  QTemporaryDir dir;
  // Noise does not pack: more than four megabytes.
  QImage noise(1400, 1200, QImage::Format_RGB888);
  for (int y = 0; y < 1200; ++y)
    for (int x = 0; x < 1400 * 3; ++x) noise.scanLine(y)[x] = static_cast<uchar>(mix64(static_cast<std::uint64_t>(y * 4200 + x)));
  const Scene scene = sceneWith(
      {test::savedPicture(noise, dir.filePath("large.png")), test::savedPicture(test::patchwork(60, 40), dir.filePath("small.png"))});
  QVERIFY(filesOf(scene)[0].bytes > kMostEmbeddedBytes);
  const std::string pack = dir.filePath("p.overpack").toStdString();
  QVERIFY(saveScene(scene, pack).has_value());
  const auto opened = loadScene(pack);
  QVERIFY(opened && filesOf(*opened)[0].data && filesOf(*opened)[1].data);
  QTemporaryDir other;
  const std::string plain = other.filePath("quay.overagain").toStdString();
  QVERIFY(saveScene(*opened, plain).has_value());
  QCOMPARE(QDir(other.filePath("quay-media")).entryList(QDir::Files).size(), 1);
  QVERIFY(QFileInfo(other.filePath("quay.overagain")).size() < 200000);
  const auto again = loadScene(plain);
  QVERIFY(again && mediaProblems(*again).empty());
  QCOMPARE(test::compare(test::renderFloat(*again, 0), test::renderFloat(scene, 0)).largest, 0.0);
}

void TestPacks::damagedPacksGiveASentence() {
  QTemporaryDir dir;
  const Scene scene = sceneWith({test::savedPicture(test::patchwork(60, 40), dir.filePath("a.png"))});
  const QString pack = dir.filePath("p.overpack");
  QVERIFY(saveScene(scene, pack.toStdString()).has_value());
  const QByteArray whole = bytesOf(pack);
  const QString broken = dir.filePath("broken.overpack");
  int refused = 0;
  for (int i = 0; i < 300; ++i) {
    QByteArray bytes = whole;
    if (i < 100)
      bytes.truncate(whole.size() * i / 100);
    else
      bytes[static_cast<qsizetype>((static_cast<std::uint64_t>(i) * 2654435761u) % static_cast<std::uint64_t>(whole.size()))] ^=
          static_cast<char>(1 << (i % 8));
    write(broken, bytes);
    const auto read = loadScene(broken.toStdString());
    if (read) continue;
    ++refused;
    QVERIFY(read.error().sentence().find("broken.overpack") != std::string::npos);
  }
  QVERIFY2(refused > 150, qPrintable(QString::number(refused)));
}

void TestPacks::hostileNamesStayInside() {
  QTemporaryDir dir;
  write(dir.filePath("outside.png"), "not for packs");
  // A scene that names files outside of its pack finds them only where the scene lies, and never through the pack.
  const QString pack = dir.filePath("evil.overpack");
  const auto made = test::run(
      "python3", {"-c",
                  "import sys,zipfile\n"
                  "z=zipfile.ZipFile(sys.argv[1],'w',zipfile.ZIP_DEFLATED)\n"
                  "z.writestr('scene.overagain','{\"overagain\":2,\"layers\":[{\"recipe\":[{\"step\":\"picture\",\"file\":\"../../big\"}]},"
                  "{\"recipe\":[{\"step\":\"picture\",\"file\":\"bomb.png\"}]}]}')\n"
                  "z.writestr('../../big','x')\n"
                  "z.writestr('bomb.png',b'\\0'*(600<<20))\n",
                  pack});
  QCOMPARE(made.exitCode, 0);
  const auto read = loadScene(pack.toStdString());
  QVERIFY(!read);
  QVERIFY2(read.error().sentence().find("unpacked") != std::string::npos, read.error().sentence().c_str());
  QVERIFY(!QFile::exists(QDir(dir.path()).filePath("../../big")));
}

QTEST_GUILESS_MAIN(TestPacks)
#include "tst_packs.moc"
