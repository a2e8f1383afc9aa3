// Animated GIFs: delays, thinning, plays, and pictures that are read back by an independent reader.
#include <QFile>
#include <QTemporaryDir>
#include <QTest>
#include <algorithm>

#include "media/gif_timing.h"
#include "media/gif_writer.h"
#include "support/files.h"

using namespace oa;

namespace {

std::vector<std::uint32_t> palette() {
  std::vector<std::uint32_t> colours(256, 0xFF000000u);
  for (std::uint32_t i = 0; i < 255; ++i) colours[i] = 0xFF000000u | i << 16 | (255 - i) << 8;
  colours[255] = 0;
  return colours;
}

// What the application block says: how often it is repeated after the first time; -1 without a block.
int repeatsOf(const QString& path) {
  QFile file(path);
  if (!file.open(QIODevice::ReadOnly)) return -2;
  const QByteArray bytes = file.readAll();
  const qsizetype at = bytes.indexOf("NETSCAPE2.0");
  return at < 0 ? -1 : static_cast<unsigned char>(bytes[at + 13]) + 256 * static_cast<unsigned char>(bytes[at + 14]);
}

QString write(const QTemporaryDir& folder, const GifSettings& settings, const std::vector<std::vector<std::uint8_t>>& pictures) {
  const QString path = folder.filePath("a.gif");
  auto file = OutputFile::begin(path.toStdString(), true);
  auto writer = GifWriter::open(*file, settings);
  if (!writer) return {};
  for (const auto& picture : pictures)
    if (!(*writer)->add(picture, 5)) return {};
  if (!(*writer)->finish() || !file->keep()) return {};
  return path;
}

}  // namespace

class TestGif : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void delaysAddUpAndAreEven_data();
  void delaysAddUpAndAreEven();
  void playsAreToldAsACount_data();
  void playsAreToldAsACount();
  void holesShowNothingOfThePictureBefore();
  void unchangedPixelsStay();
};

void TestGif::delaysAddUpAndAreEven_data() {
  QTest::addColumn<int>("frames");
  QTest::addColumn<int>("num");
  QTest::addColumn<int>("den");
  for (const auto& [frames, num, den] : std::initializer_list<std::tuple<int, int, int>>{{360, 30, 1},
                                                                                         {300, 30, 1},
                                                                                         {1, 30, 1},
                                                                                         {7, 24, 1},
                                                                                         {240, 24000, 1001},
                                                                                         {600, 60, 1},
                                                                                         {601, 60, 1},
                                                                                         {1200, 120, 1},
                                                                                         {997, 240, 1},
                                                                                         {12, 50, 1},
                                                                                         {10, 1, 1},
                                                                                         {5, 101, 1}})
    QTest::addRow("%d at %d/%d", frames, num, den) << frames << num << den;
}

void TestGif::delaysAddUpAndAreEven() {
  QFETCH(int, frames);
  QFETCH(int, num);
  QFETCH(int, den);
  const Rational rate{num, den};
  const GifTiming timing(frames, rate);
  std::int64_t total = 0;
  int least = 1 << 20;
  int most = 0;
  std::int64_t before = -1;
  for (std::int64_t i = 0; i < timing.pictures(); ++i) {
    const int delay = timing.hundredths(i);
    total += delay;
    least = std::min(least, delay);
    most = std::max(most, delay);
    QVERIFY(timing.frame(i) > before && timing.frame(i) < frames);
    before = timing.frame(i);
  }
  // The loop's length, rounded once; no delay that players would slow down; none that stands out, at the joint neither.
  const double exact = frames / rate.value() * 100;
  QVERIFY(total == 2 || std::abs(static_cast<double>(total) - exact) <= 0.5);
  QVERIFY(least >= 2 && most - least <= 1);
  QVERIFY(rate.value() > 50 || timing.pictures() == frames);
  QCOMPARE(timing.frame(0), std::int64_t{0});
  // Thinned frames are as far apart at the joint as elsewhere.
  if (timing.pictures() > 1) {
    const std::int64_t step = timing.frame(1);
    QVERIFY(std::abs(frames - timing.frame(timing.pictures() - 1) - step) <= 1);
  }
}

void TestGif::playsAreToldAsACount_data() {
  QTest::addColumn<int>("plays");
  QTest::addColumn<int>("repeats");
  QTest::newRow("for ever") << 0 << 0;
  QTest::newRow("once") << 1 << -1;
  QTest::newRow("three times") << 3 << 2;
  QTest::newRow("many times") << 1000 << 999;
}

void TestGif::playsAreToldAsACount() {
  QFETCH(int, plays);
  QFETCH(int, repeats);
  const QTemporaryDir folder;
  const std::vector<std::uint8_t> picture(16, 3);
  const QString path = write(folder, {4, 4, plays, false, palette()}, {picture, picture});
  QCOMPARE(repeatsOf(path), repeats);
}

void TestGif::holesShowNothingOfThePictureBefore() {
  // A wholly opaque picture, then one that is clear in its middle.
  const QTemporaryDir folder;
  std::vector<std::uint8_t> opaque(64 * 64, 10);
  std::vector<std::uint8_t> holed(64 * 64, 200);
  for (int y = 16; y < 48; ++y) std::fill_n(holed.begin() + y * 64 + 16, 32, std::uint8_t{255});
  const QString path = write(folder, {64, 64, 0, true, palette()}, {opaque, holed, opaque, holed});
  const auto frames = test::decoded(path, 64, 64);
  QCOMPARE(frames.size(), std::size_t{4});
  for (const std::size_t i : {1, 3}) {
    QCOMPARE(static_cast<int>(static_cast<unsigned char>(frames[i][(32 * 64 + 32) * 4 + 3])), 0);
    QCOMPARE(static_cast<int>(static_cast<unsigned char>(frames[i][(4 * 64 + 4) * 4 + 3])), 255);
  }
  QCOMPARE(static_cast<int>(static_cast<unsigned char>(frames[2][(32 * 64 + 32) * 4 + 3])), 255);
}

void TestGif::unchangedPixelsStay() {
  const QTemporaryDir folder;
  std::vector<std::vector<std::uint8_t>> pictures;
  for (int i = 0; i < 6; ++i) {
    std::vector<std::uint8_t> picture(40 * 30, 7);
    if (i != 3)  // the fourth changes nothing but what the third had
      for (int y = 5; y < 12; ++y) std::fill_n(picture.begin() + y * 40 + 3 + i * 4, 5, static_cast<std::uint8_t>(100 + i));
    pictures.push_back(picture);
  }
  pictures.push_back(pictures.back());
  const QString path = write(folder, {40, 30, 0, false, palette()}, pictures);
  const auto frames = test::decoded(path, 40, 30);
  QCOMPARE(frames.size(), pictures.size());
  for (std::size_t i = 0; i < frames.size(); ++i)
    for (std::size_t p = 0; p < pictures[i].size(); ++p)
      QCOMPARE(static_cast<int>(static_cast<unsigned char>(frames[i][static_cast<qsizetype>(p) * 4])), static_cast<int>(pictures[i][p]));
}

QTEST_GUILESS_MAIN(TestGif)
#include "tst_gif.moc"
