// A pack takes its fonts along: where they are not installed, its pictures are the same to the byte.
#include <QDir>
#include <QFile>
#include <QJsonArray>
#include <QJsonDocument>
#include <QTemporaryDir>
#include <QTest>

#include "support/files.h"

using namespace oa::test;

namespace {

QByteArray bytes(const QString& path) {
  QFile file(path);
  return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}

void write(const QString& path, const QByteArray& content) {
  QFile file(path);
  QVERIFY(file.open(QIODevice::WriteOnly));
  file.write(content);
}

// Another machine as far as fonts go: it has one family alone.
class PoorInFonts {
 public:
  explicit PoorInFonts(const QString& folder) {
    QDir(folder).mkpath("fonts");
    const Finished found = run("fc-list", {"Cabin:style=Bold", "file"});
    const QString font = QString::fromUtf8(found.out.split('\n').first()).section(':', 0, 0);
    QVERIFY2(QFile::copy(font, folder + "/fonts/" + QFileInfo(font).fileName()), qPrintable(font));
    write(folder + "/fonts.conf", "<?xml version=\"1.0\"?><!DOCTYPE fontconfig SYSTEM \"fonts.dtd\"><fontconfig><dir>" + folder.toUtf8() +
                                      "/fonts</dir><cachedir>" + folder.toUtf8() + "/cache</cachedir></fontconfig>");
    qputenv("FONTCONFIG_FILE", (folder + "/fonts.conf").toUtf8());
  }
  ~PoorInFonts() { qunsetenv("FONTCONFIG_FILE"); }
};

QJsonArray missing(const QString& scene) {
  return QJsonDocument::fromJson(cli({"info", "--json", scene}).out).object()["missingFonts"].toArray();
}

}  // namespace

class TestPackedFonts : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void theyTravelWithThePack();
  void installedOnesAreNotReplaced();
};

void TestPackedFonts::theyTravelWithThePack() {
  QTemporaryDir dir;
  const QString plain = dir.filePath("hand.overagain");
  write(plain, R"({"overagain": 2, "name": "Hand", "size": [320, 120], "frames": 24, "layers": [{"name": "Words", "id": 1, "recipe": [
    {"step": "words", "id": 2, "text": "Fish & chips", "font": "Dancing Script", "size": 60, "stars": true, "starFont": "B612"}]}]})");
  const QString pack = dir.filePath("hand.overpack");
  const Finished packed = cli({"save", plain, "-o", pack});
  QVERIFY2(packed.exitCode == 0 && packed.err.isEmpty(), packed.err.constData());
  int frames = 0;
  const auto frame = [&](const QString& scene) {
    const QString to = dir.filePath(QStringLiteral("%1.png").arg(++frames));
    const Finished made = cli({"still", scene, "--frame", "3", "-o", to});
    return made.exitCode == 0 ? bytes(to) : QByteArray();
  };
  const QByteArray here = frame(plain);
  QVERIFY(!here.isEmpty());
  const PoorInFonts elsewhere(dir.path());
  QCOMPARE(missing(plain), QJsonArray({"B612", "Dancing Script"}));
  QVERIFY(frame(plain) != here);
  QCOMPARE(missing(pack), QJsonArray());
  QCOMPARE(frame(pack), here);
  // From there it is packed again with all that it came with.
  const QString again = dir.filePath("again.overpack");
  QCOMPARE(cli({"save", pack, "-o", again}).exitCode, 0);
  QCOMPARE(frame(again), here);
}

// What is in a pack for a family that is here is left where it is, and what is no font is passed over.
void TestPackedFonts::installedOnesAreNotReplaced() {
  QTemporaryDir dir;
  const QString plain = dir.filePath("plain.overagain");
  write(plain, R"({"overagain": 2, "name": "Hand", "size": [320, 120], "frames": 24, "layers": [{"name": "Words", "id": 1, "recipe": [
    {"step": "words", "id": 2, "text": "Fish & chips", "font": "Nobody's Hand", "size": 60}]}]})");
  const QString pack = dir.filePath("odd.overpack");
  const Finished made = run("python3", {"-c",
                                        "import sys,zipfile\n"
                                        "z=zipfile.ZipFile(sys.argv[2],'w')\n"
                                        "z.write(sys.argv[1],'scene.overagain')\n"
                                        "for n in ('fonts/a.ttf','fonts/../../b.ttf','fonts/'): z.writestr(n,b'\\0\\1\\0\\0 no font')\n"
                                        "z.close()",
                                        plain, pack});
  QCOMPARE(made.exitCode, 0);
  const QString to = dir.filePath("odd.png");
  QCOMPARE(cli({"still", pack, "-o", to}).exitCode, 0);
  QCOMPARE(missing(pack), QJsonArray({"Nobody's Hand"}));
}

QTEST_GUILESS_MAIN(TestPackedFonts)
#include "tst_packed_fonts.moc"
