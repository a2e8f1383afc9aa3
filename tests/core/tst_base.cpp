// Files, numbers, randomness, borders, threads.
#include <QDir>
#include <QFile>
#include <QTemporaryDir>
#include <QTest>
#include <atomic>
#include <clocale>
#include <set>

#include "base/files.h"
#include "base/numbers.h"
#include "base/parallel.h"
#include "base/random.h"
#include "image/borders.h"

using namespace oa;

class TestBase : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void numbersAreWrittenShort();
  void numbersAreReadWhole();
  void fractStaysBelowOne();
  void readingIsBounded();
  void writingIsAtomic();
  void writingSaysWhatWentWrong();
  void aFullDiskLeavesTheOldFile();
  void randomnessIsEven();
  void bordersAgreeWithTheirDefinitions();
  void bandsCoverEveryRowOnce();
};

void TestBase::numbersAreWrittenShort() {
  QCOMPARE(numberText(3), std::string("3"));
  QCOMPARE(numberText(-0.0), std::string("0"));
  QCOMPARE(numberText(0.25), std::string("0.25"));
  QCOMPARE(numberText(-12.5), std::string("-12.5"));
  QCOMPARE(numberText(1.0 / 3, 3), std::string("0.333"));
  QCOMPARE(numberText(1e300).size(), std::size_t{301});
  QCOMPARE(numberText(INFINITY), std::string("inf"));
}

void TestBase::numbersAreReadWhole() {
  double v = 0;
  QVERIFY(parseNumber("12.5", v) && v == 12.5);
  QVERIFY(parseNumber("+3", v) && v == 3);
  QVERIFY(parseNumber("-1e3", v) && v == -1000);
  for (const char* bad : {"", "12,5", "3px", "nan", "inf", "1e999", " 3", "--3"}) QVERIFY2(!parseNumber(bad, v), bad);
  // A comma locale must not change how files are read.
  if (std::setlocale(LC_NUMERIC, "de_DE.UTF-8")) QVERIFY(parseNumber("1.5", v) && v == 1.5);
  std::setlocale(LC_NUMERIC, "C");
}

void TestBase::fractStaysBelowOne() {
  QCOMPARE(fract(-0.25), 0.75);
  QCOMPARE(fract(5.0), 0.0);
  QVERIFY(fract(-1e-20) < 1);  // rounds up to 1 and is home again
  QCOMPARE(floorMod(-1, 5), std::int64_t{4});
  QCOMPARE(floorMod(-10, 5), std::int64_t{0});
}

void TestBase::readingIsBounded() {
  const QTemporaryDir folder;
  const std::string path = folder.filePath("a").toStdString();
  QVERIFY(writeFileAtomically(path, std::string(1000, 'x')));
  QCOMPARE(readFile(path, 1000)->size(), std::size_t{1000});
  const auto large = readFile(path, 999);
  QVERIFY(!large && large.error().where == path);
  QVERIFY(!readFile(folder.path().toStdString(), 10));
  const auto missing = readFile(folder.filePath("nothing").toStdString(), 10);
  QVERIFY(!missing && missing.error().sentence().find("no such file") != std::string::npos);
  // What never ends is not read at all.
  QVERIFY(!readFile("/dev/zero", 10));
}

void TestBase::writingIsAtomic() {
  const QTemporaryDir folder;
  const std::string path = folder.filePath("scene").toStdString();
  QVERIFY(writeFileAtomically(path, "old"));
  QFile::setPermissions(QString::fromStdString(path), QFile::ReadOwner | QFile::WriteOwner);
  QVERIFY(writeFileAtomically(path, "new"));
  QCOMPARE(*readFile(path, 10), std::string("new"));
  // Rights are kept, and nothing else lies about.
  QVERIFY(!(QFile::permissions(QString::fromStdString(path)) & QFile::ReadOther));
  QCOMPARE(QDir(folder.path()).entryList(QDir::Files | QDir::Hidden).size(), 1);
}

void TestBase::writingSaysWhatWentWrong() {
  const QTemporaryDir folder;
  const auto nowhere = writeFileAtomically("/proc/no/such/place", "x");
  QVERIFY(!nowhere && nowhere.error().sentence().find("no such file or folder") != std::string::npos);
  QDir(folder.path()).mkdir(QStringLiteral("taken"));
  const auto taken = writeFileAtomically(folder.filePath("taken").toStdString(), "x");
  QVERIFY(!taken && !taken.error().message.empty());
  QCOMPARE(QDir(folder.path()).entryList(QDir::Files | QDir::Hidden).size(), 0);
}

void TestBase::aFullDiskLeavesTheOldFile() {
  if (!QFile::exists(QStringLiteral("/dev/full"))) QSKIP("no /dev/full here");
  // The device that is always full, reached by a link: the write fails, and the sentence says why.
  QFile full(QStringLiteral("/dev/full"));
  QVERIFY(full.open(QIODevice::WriteOnly | QIODevice::Unbuffered));
  QCOMPARE(full.write("x"), qint64{-1});
  QVERIFY(systemReason(ENOSPC).find("full") != std::string::npos);
  QVERIFY(systemReason(EFBIG) != systemReason(ENOSPC));
}

void TestBase::randomnessIsEven() {
  int tenths[10] = {};
  std::set<double> seen;
  for (std::uint64_t i = 0; i < 10000; ++i) {
    const double v = randomUnit(7, i);
    QVERIFY(v >= 0 && v < 1);
    ++tenths[static_cast<int>(v * 10)];
    seen.insert(v);
    QCOMPARE(randomUnit(7, i), v);
  }
  QCOMPARE(seen.size(), std::size_t{10000});
  for (const int count : tenths) QVERIFY(count > 880 && count < 1120);  // four standard deviations
  QVERIFY(randomUnit(7, 1) != randomUnit(8, 1));
}

void TestBase::bordersAgreeWithTheirDefinitions() {
  // Beyond n = 4: clamp 0000 0123 3333, wrap 0123 0123 0123, mirror 3210 0123 3210.
  const int wrap[] = {0, 1, 2, 3, 0, 1, 2, 3, 0, 1, 2, 3};
  const int mirror[] = {3, 2, 1, 0, 0, 1, 2, 3, 3, 2, 1, 0};
  for (int i = -4; i < 8; ++i) {
    QCOMPARE(edgeIndex(Edge::Clamp, i, 4), std::clamp(i, 0, 3));
    QCOMPARE(edgeIndex(Edge::Wrap, i, 4), wrap[i + 4]);
    QCOMPARE(edgeIndex(Edge::Mirror, i, 4), mirror[i + 4]);
    QCOMPARE(edgeIndex(Edge::Transparent, i, 4), i < 0 || i > 3 ? -1 : i);
  }
  QCOMPARE(edgeIndex(Edge::Mirror, -1000000007, 1), 0);
}

void TestBase::bandsCoverEveryRowOnce() {
  for (const int rows : {1, 15, 16, 17, 1080})
    for (const int threads : {1, 2, 5}) {
      std::vector<std::atomic<int>> seen(static_cast<std::size_t>(rows));
      withThreads(threads, [&] {
        parallelBands(rows, [&](int y0, int y1) {
          for (int y = y0; y < y1; ++y) ++seen[static_cast<std::size_t>(y)];
        });
      });
      for (const auto& count : seen) QCOMPARE(count.load(), 1);
    }
}

QTEST_GUILESS_MAIN(TestBase)
#include "tst_base.moc"
