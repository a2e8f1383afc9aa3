// Files and folders that appear whole or not at all: where they go, what they leave, and who may write at the same time.
#include <fcntl.h>
#include <sys/file.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <sys/un.h>
#include <sys/wait.h>
#include <unistd.h>

#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <QTest>

#include "base/files.h"
#include "base/output_file.h"

using namespace oa;

namespace {

QStringList contents(const QString& folder) {
  return QDir(folder).entryList(QDir::AllEntries | QDir::Hidden | QDir::System | QDir::NoDotAndDotDot, QDir::Name);
}

std::string in(const QTemporaryDir& folder, const QString& name) { return folder.filePath(name).toStdString(); }

std::string textOf(const std::string& path) { return readFile(path, 1 << 20).value_or("(nothing)"); }

mode_t modeOf(const std::string& path) {
  struct stat info {};
  return ::stat(path.c_str(), &info) == 0 ? info.st_mode & 07777 : 0;
}

}  // namespace

class TestOutputFile : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void appearsOnlyWhenKept();
  void missingFoldersAreMadeAndTakenBack();
  void linksAreWrittenThrough();
  void devicesAndPipesAreNeverReplaced();
  void modesOfReplacedFilesAreKept();
  void namesAreNames_data();
  void namesAreNames();
  void namesOf255BytesWork();
  void leftoversOfKilledRunsAreCleared();
  void twoAtOnceDoNotBreakEachOther();
  void failedRenamesLeaveNothing();
  void aFolderOfPicturesComesAllOrNone();
  void interruptsTakeUnfinishedFilesAway();
};

void TestOutputFile::appearsOnlyWhenKept() {
  const QTemporaryDir folder;
  const std::string path = in(folder, "a.txt");
  QVERIFY(writeFileAtomically(path, "old"));
  {
    auto file = OutputFile::begin(path, false);
    QVERIFY(file.has_value());
    QVERIFY(file->write("half").has_value());
    QCOMPARE(textOf(path), std::string("old"));
  }
  QCOMPARE(contents(folder.path()), QStringList{"a.txt"});
  auto file = OutputFile::begin(path, false);
  QVERIFY(file->write("new").has_value() && file->keep().has_value());
  QCOMPARE(textOf(path), std::string("new"));
  QCOMPARE(contents(folder.path()), QStringList{"a.txt"});
}

void TestOutputFile::missingFoldersAreMadeAndTakenBack() {
  const QTemporaryDir folder;
  { QVERIFY(OutputFile::begin(in(folder, "one/two/a.txt"), false).has_value()); }
  QCOMPARE(contents(folder.path()), QStringList());
  QVERIFY(writeFileAtomically(in(folder, "one/two/a.txt"), "x").has_value());
  QCOMPARE(textOf(in(folder, "one/two/a.txt")), std::string("x"));
}

void TestOutputFile::linksAreWrittenThrough() {
  const QTemporaryDir folder;
  QVERIFY(QDir(folder.path()).mkdir("elsewhere"));
  QVERIFY(writeFileAtomically(in(folder, "elsewhere/real.txt"), "old").has_value());
  QCOMPARE(::symlink("elsewhere/real.txt", in(folder, "link.txt").c_str()), 0);
  QVERIFY(writeFileAtomically(in(folder, "link.txt"), "new").has_value());
  QVERIFY(QFileInfo(folder.filePath("link.txt")).isSymLink());
  QCOMPARE(textOf(in(folder, "elsewhere/real.txt")), std::string("new"));
  // Also to what is not there yet; round in a circle is an error.
  QCOMPARE(::symlink("elsewhere/later.txt", in(folder, "dangling.txt").c_str()), 0);
  QVERIFY(writeFileAtomically(in(folder, "dangling.txt"), "late").has_value());
  QCOMPARE(textOf(in(folder, "elsewhere/later.txt")), std::string("late"));
  QCOMPARE(::symlink("b", in(folder, "a").c_str()), 0);
  QCOMPARE(::symlink("a", in(folder, "b").c_str()), 0);
  const auto circle = writeFileAtomically(in(folder, "a"), "x");
  QVERIFY(!circle && circle.error().message.find("circle") != std::string::npos);
}

void TestOutputFile::devicesAndPipesAreNeverReplaced() {
  const QTemporaryDir folder;
  const std::string pipe = in(folder, "pipe");
  QCOMPARE(::mkfifo(pipe.c_str(), 0600), 0);
  const int reader = ::open(pipe.c_str(), O_RDONLY | O_NONBLOCK);
  QVERIFY(writeFileAtomically(pipe, "through").has_value());
  char bytes[16] = {};
  QCOMPARE(::read(reader, bytes, sizeof bytes), ssize_t{7});
  ::close(reader);
  struct stat info {};
  QVERIFY(::lstat(pipe.c_str(), &info) == 0 && S_ISFIFO(info.st_mode));
  const auto needsToGoBack = OutputFile::begin(pipe, false);
  QVERIFY(!needsToGoBack && needsToGoBack.error().message.find("pipe or a device") != std::string::npos);
  // The device stays a device.
  QVERIFY(writeFileAtomically("/dev/null", "gone").has_value());
  QVERIFY(::stat("/dev/null", &info) == 0 && S_ISCHR(info.st_mode));
  // A socket is refused.
  const int socket = ::socket(AF_UNIX, SOCK_STREAM, 0);
  sockaddr_un address{};
  address.sun_family = AF_UNIX;
  std::snprintf(address.sun_path, sizeof address.sun_path, "%s", in(folder, "s").c_str());
  QCOMPARE(::bind(socket, reinterpret_cast<sockaddr*>(&address), sizeof address), 0);
  QVERIFY(!writeFileAtomically(in(folder, "s"), "x").has_value());
  ::close(socket);
}

void TestOutputFile::modesOfReplacedFilesAreKept() {
  const QTemporaryDir folder;
  const std::string path = in(folder, "private.txt");
  QVERIFY(writeFileAtomically(path, "x").has_value());
  const mode_t usual = modeOf(path);
  QVERIFY((usual & 0400) != 0);
  for (const mode_t mode : {0600, 0640, 0444}) {
    QCOMPARE(::chmod(path.c_str(), mode), 0);
    QVERIFY(writeFileAtomically(path, "y").has_value());
    QCOMPARE(modeOf(path), mode);
  }
}

void TestOutputFile::namesAreNames_data() {
  QTest::addColumn<QString>("name");
  for (const char* name :
       {"12:30.mp4", "tcp://127.0.0.1:9/a.mp4", "file:b.mp4", "pipe:1", "concat:a|b.mp4", "%d%s.mp4", "-x.mp4", "a b\nc.mp4"})
    QTest::newRow(name) << QString::fromUtf8(name);
}

void TestOutputFile::namesAreNames() {
  QFETCH(QString, name);
  const QTemporaryDir folder;
  const std::string path = in(folder, name);
  QVERIFY(writeFileAtomically(path, "here").has_value());
  QCOMPARE(textOf(path), std::string("here"));
}

void TestOutputFile::namesOf255BytesWork() {
  const QTemporaryDir folder;
  const QString name = QString(251, 'n') + ".mp4";
  QVERIFY(writeFileAtomically(in(folder, name), "long").has_value());
  QCOMPARE(contents(folder.path()), QStringList{name});
  const auto longer = writeFileAtomically(in(folder, name + "x"), "x");
  QVERIFY(!longer && longer.error().message.find("too long") != std::string::npos);
}

void TestOutputFile::leftoversOfKilledRunsAreCleared() {
  const QTemporaryDir folder;
  const std::string path = in(folder, "a.txt");
  const pid_t child = ::fork();
  if (child == 0) {
    auto file = OutputFile::begin(path, false);
    auto work = WorkFolder::begin(folder.path().toStdString(), "pictures");
    if (file && work && file->write("half")) ::kill(::getpid(), SIGKILL);
    ::_exit(1);
  }
  int status = 0;
  QCOMPARE(::waitpid(child, &status, 0), child);
  QVERIFY(WIFSIGNALED(status));
  QCOMPARE(contents(folder.path()).size(), 2);
  // Another target leaves them alone; the same ones clear them.
  QVERIFY(writeFileAtomically(in(folder, "b.txt"), "b").has_value());
  QCOMPARE(contents(folder.path()).size(), 3);
  QVERIFY(writeFileAtomically(path, "a").has_value());
  { QVERIFY(WorkFolder::begin(folder.path().toStdString(), "pictures").has_value()); }
  QCOMPARE(contents(folder.path()), (QStringList{"a.txt", "b.txt"}));
}

void TestOutputFile::twoAtOnceDoNotBreakEachOther() {
  const QTemporaryDir folder;
  const std::string path = in(folder, "a.txt");
  auto one = OutputFile::begin(path, false);
  auto two = OutputFile::begin(path, false);
  QVERIFY(one && two);
  QVERIFY(one->write("one").has_value() && two->write("two").has_value());
  QVERIFY(one->keep().has_value());
  QCOMPARE(textOf(path), std::string("one"));
  QVERIFY(two->keep().has_value());
  QCOMPARE(textOf(path), std::string("two"));
  QCOMPARE(contents(folder.path()), QStringList{"a.txt"});
}

void TestOutputFile::failedRenamesLeaveNothing() {
  const QTemporaryDir folder;
  const std::string path = in(folder, "a");
  auto file = OutputFile::begin(path, false);
  QVERIFY(file.has_value() && file->write("x").has_value());
  // Meanwhile a folder took the place.
  QVERIFY(QDir(folder.path()).mkpath("a/full"));
  QVERIFY(!file->keep().has_value());
  { const OutputFile gone = std::move(*file); }
  QCOMPARE(contents(folder.path()), QStringList{"a"});
}

void TestOutputFile::aFolderOfPicturesComesAllOrNone() {
  const QTemporaryDir folder;
  const std::string place = folder.path().toStdString();
  QVERIFY(writeFileAtomically(in(folder, "f_0.png"), "old").has_value());
  QVERIFY(writeFileAtomically(in(folder, "f_2.png"), "stale").has_value());
  {
    auto work = WorkFolder::begin(place, "f_%.png");
    QVERIFY(work.has_value());
    QVERIFY(writeFileAtomically(work->path() + "/f_0.png", "new").has_value());
    // The second one is missing: the first goes back to what it was.
    QVERIFY(!work->moveInto(place, {"f_0.png", "f_1.png"}).has_value());
    QCOMPARE(textOf(in(folder, "f_0.png")), std::string("old"));
    QVERIFY(writeFileAtomically(work->path() + "/f_0.png", "new").has_value());
    QVERIFY(!QFile::exists(folder.filePath("f_1.png")));
  }
  QCOMPARE(contents(folder.path()), (QStringList{"f_0.png", "f_2.png"}));
  auto work = WorkFolder::begin(place, "f_%.png");
  QVERIFY(writeFileAtomically(work->path() + "/f_0.png", "new").has_value());
  QVERIFY(writeFileAtomically(work->path() + "/f_1.png", "new").has_value());
  QVERIFY(work->moveInto(place, {"f_0.png", "f_1.png"}, {"f_2.png"}).has_value());
  { const WorkFolder gone = std::move(*work); }
  QCOMPARE(contents(folder.path()), (QStringList{"f_0.png", "f_1.png"}));
  QCOMPARE(textOf(in(folder, "f_0.png")), std::string("new"));
}

void TestOutputFile::interruptsTakeUnfinishedFilesAway() {
  const QTemporaryDir folder;
  const pid_t child = ::fork();
  if (child == 0) {
    auto file = OutputFile::begin(in(folder, "a.mp4"), false);
    auto work = WorkFolder::begin(folder.path().toStdString(), "pictures");
    if (!file || !work || !file->write("half") || !writeFileAtomically(work->path() + "/f.png", "x")) ::_exit(1);
    abandonUnfinished();
    ::_exit(0);
  }
  int status = 0;
  QCOMPARE(::waitpid(child, &status, 0), child);
  QCOMPARE(WEXITSTATUS(status), 0);
  QCOMPARE(contents(folder.path()), QStringList());
}

QTEST_GUILESS_MAIN(TestOutputFile)
#include "tst_output_file.moc"
