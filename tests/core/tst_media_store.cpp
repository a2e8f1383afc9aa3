// Media: every kind of picture against what was written into it, colour profiles, orientation, alpha; what is missing, changed,
// damaged or hostile; and the budget.
#include <QColorSpace>
#include <QDir>
#include <QElapsedTimer>
#include <QFile>
#include <QImage>
#include <QPainter>
#include <QProcess>
#include <QTemporaryDir>
#include <QTest>
#include <QtEndian>
#include <arpa/inet.h>
#include <netinet/in.h>
#include <sys/socket.h>
#include <sys/stat.h>
#include <unistd.h>

#include <cmath>

#include "image/colour_bytes.h"
#include "store/media_kind.h"
#include "store/media_store.h"
#include "support/files.h"
#include "support/pictures.h"

using namespace oa;

namespace {

constexpr int kWidth = 48;
constexpr int kHeight = 32;

// Soft colours, no two corners alike.
QImage sample(bool alpha) {
  QImage image(kWidth, kHeight, QImage::Format_RGBA8888);
  for (int y = 0; y < kHeight; ++y)
    for (int x = 0; x < kWidth; ++x)
      image.setPixelColor(x, y, QColor(20 + x * 4, 30 + y * 6, 200 - x * 3, alpha ? std::min(255, 40 + x * 4 + y) : 255));
  return image;
}

std::string pathOf(const QTemporaryDir& dir, const char* name) { return dir.filePath(QLatin1String(name)).toStdString(); }

// The picture in its own size, straight colours of 0 to 255.
struct Shown {
  std::shared_ptr<const TilePicture> tile;
  [[nodiscard]] double at(int x, int y, int c) const {
    const float* p = tile->plane.row(y + kTileBorder) + static_cast<std::ptrdiff_t>(x + kTileBorder) * 4;
    if (c == 3) return 255.0 * static_cast<double>(p[3]);
    return p[3] > 0 ? 255.0 * static_cast<double>(p[c] / p[3]) : 0;
  }
};
Shown shown(MediaStore& store, const MediaRef& ref) { return {store.tile(ref, ref.width, ref.height, {Edge::Clamp, Edge::Clamp})}; }

double largestDifference(const Shown& got, const QImage& wanted, bool alpha) {
  double largest = 0;
  for (int y = 0; y < wanted.height(); ++y)
    for (int x = 0; x < wanted.width(); ++x) {
      const QColor c = wanted.pixelColor(x, y);
      const int parts[4] = {c.red(), c.green(), c.blue(), c.alpha()};
      for (int k = 0; k < (alpha ? 4 : 3); ++k) largest = std::max(largest, std::abs(got.at(x, y, k) - parts[k]));
    }
  return largest;
}

bool ffmpeg(const QStringList& arguments) {
  return test::run(QStringLiteral("ffmpeg"), QStringList{"-v", "error", "-y"} + arguments).exitCode == 0;
}

void write(const std::string& path, const QByteArray& bytes) {
  QFile file(QString::fromStdString(path));
  QVERIFY(file.open(QIODevice::WriteOnly));
  file.write(bytes);
}

QByteArray bytesOf(const std::string& path) {
  QFile file(QString::fromStdString(path));
  return file.open(QIODevice::ReadOnly) ? file.readAll() : QByteArray();
}

}  // namespace

class TestMediaStore : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void bytesBecomeColours();
  void picturesShowWhatWasWritten_data();
  void picturesShowWhatWasWritten();
  void deepPicturesKeepTheirDepth();
  void profilesBecomeDisplayColours();
  void picturesStandUpright();
  void drawingsAreDrawnAnewInEverySize();
  void drawingsReachNothingOutside();
  void reducedPicturesKeepTheirMean();
  void kindsGoByContent();
  void missingAndChangedFilesAreNamed();
  void damagedFilesGiveASentence();
  void hugeAndEndlessFilesGiveASentenceAtOnce();
  void theBudgetHolds();
};

void TestMediaStore::picturesShowWhatWasWritten_data() {
  QTest::addColumn<QString>("name");
  QTest::addColumn<bool>("alpha");
  QTest::addColumn<double>("within");
  QTest::newRow("png") << "a.png" << true << 0.6;
  QTest::newRow("opaque png") << "a.png" << false << 0.01;
  QTest::newRow("webp") << "a.webp" << true << 0.6;
  QTest::newRow("tiff") << "a.tiff" << true << 0.6;
  QTest::newRow("bmp") << "a.bmp" << false << 0.01;
  QTest::newRow("jpeg") << "a.jpg" << false << 12.0;
  QTest::newRow("avif") << "a.avif" << false << 14.0;
  QTest::newRow("jpeg xl") << "a.jxl" << true << 0.6;
  QTest::newRow("gif") << "a.gif" << false << 24.0;
  QTest::newRow("exr") << "a.exr" << false << 1.0;
}

void TestMediaStore::picturesShowWhatWasWritten() {
  QFETCH(QString, name);
  QFETCH(bool, alpha);
  QFETCH(double, within);
  QTemporaryDir dir;
  const QImage image = alpha ? sample(true) : sample(false).convertToFormat(QImage::Format_RGB888);
  const QString png = dir.filePath("in.png");
  QVERIFY(image.save(png));
  const QString path = dir.filePath(name);
  if (name.endsWith("png"))
    QVERIFY(image.save(path));
  else if (name.endsWith("webp"))
    QVERIFY(ffmpeg({"-i", png, "-lossless", "1", "-pix_fmt", "bgra", path}));
  else if (name.endsWith("jxl"))
    QVERIFY(ffmpeg({"-i", png, "-distance", "0", path}));
  else if (name.endsWith("exr"))
    // Scene-linear light, as its readers take it.
    QVERIFY(ffmpeg({"-i", png, "-vf", "zscale=tin=iec61966-2-1:t=linear:min=gbr:rin=full,format=gbrpf32le", path}));
  else if (name.endsWith("gif"))
    QVERIFY(ffmpeg({"-i", png, "-vf", "split[a][b];[a]palettegen[p];[b][p]paletteuse=dither=none", path}));
  else if (name.endsWith("avif"))
    QVERIFY(ffmpeg({"-i", png, "-c:v", "libaom-av1", "-still-picture", "1", "-crf", "4", "-pix_fmt", "yuv444p", path}));
  else
    QVERIFY(ffmpeg({"-i", png, "-q:v", "1", path}));
  MediaStore store(std::size_t{64} << 20);
  const auto ref = store.takeIn(path.toStdString());
  QVERIFY2(ref.has_value(), ref ? "" : ref.error().sentence().c_str());
  QCOMPARE(ref->width, kWidth);
  QCOMPARE(ref->height, kHeight);
  QCOMPARE(ref->bytes, static_cast<std::uint64_t>(QFileInfo(path).size()));
  QCOMPARE(ref->hash.size(), std::size_t{64});
  const Shown got = shown(store, *ref);
  QVERIFY(got.tile);
  QVERIFY(store.look(*ref).has_value());
  const double off = largestDifference(got, image, alpha);
  QVERIFY2(off <= within, qPrintable(QString::number(off)));
  // GIF has no word for opaque.
  QCOMPARE(got.tile->opaque, !alpha && !name.endsWith("gif"));
}

void TestMediaStore::deepPicturesKeepTheirDepth() {
  QTemporaryDir dir;
  QImage image(64, 4, QImage::Format_RGBX64);
  for (int y = 0; y < 4; ++y)
    for (int x = 0; x < 64; ++x)
      image.setPixelColor(x, y, QColor::fromRgba64(static_cast<quint16>(20000 + x), static_cast<quint16>(30000 + 3 * x), 7));
  const QString path = dir.filePath("deep.png");
  QVERIFY(image.save(path));
  MediaStore store(std::size_t{64} << 20);
  const auto ref = store.takeIn(path.toStdString());
  QVERIFY(ref);
  const Shown got = shown(store, *ref);
  for (int x = 0; x < 64; ++x) QVERIFY(std::abs(got.at(x, 1, 0) * 257 - (20000 + x)) < 0.6);
}

// Against Qt's own conversion.
void TestMediaStore::profilesBecomeDisplayColours() {
  QTemporaryDir dir;
  for (const auto& [space, name] : {std::pair{QColorSpace::AdobeRgb, "adobe.png"}, {QColorSpace::DisplayP3, "p3.png"}}) {
    QImage image = sample(false).convertToFormat(QImage::Format_RGB888);
    // Colours that stay within sRGB.
    for (int y = 0; y < kHeight; ++y)
      for (int x = 0; x < kWidth; ++x) image.setPixelColor(x, y, QColor(100 + x, 110 + y, 130 - x / 2));
    image.setColorSpace(space);
    const std::string path = pathOf(dir, name);
    QVERIFY(image.save(QString::fromStdString(path)));
    MediaStore store(std::size_t{64} << 20);
    const auto ref = store.takeIn(path);
    QVERIFY(ref);
    const double off = largestDifference(shown(store, *ref), image.convertedToColorSpace(QColorSpace::SRgb), false);
    QVERIFY2(off <= 1.01, qPrintable(QString::number(off)));
    // It is another picture than the numbers alone.
    QVERIFY(largestDifference(shown(store, *ref), image, false) > 3);
  }
}

void TestMediaStore::picturesStandUpright() {
  QTemporaryDir dir;
  const QImage image = sample(false).convertToFormat(QImage::Format_RGB888);
  const std::string path = pathOf(dir, "turned.jpg");
  QVERIFY(image.save(QString::fromStdString(path), "JPG", 100));
  // An Exif header that says: turned by a quarter (6).
  QByteArray jpeg = bytesOf(path);
  const QByteArray exif = QByteArray::fromHex("ffe1002245786966000049492a0008000000010012010300010000000600000000000000");
  jpeg.insert(2, exif);
  write(path, jpeg);
  MediaStore store(std::size_t{64} << 20);
  const auto ref = store.takeIn(path);
  QVERIFY(ref);
  QCOMPARE(ref->width, kHeight);
  QCOMPARE(ref->height, kWidth);
  QVERIFY(largestDifference(shown(store, *ref), image.transformed(QTransform().rotate(90)), false) < 14);
}

void TestMediaStore::drawingsAreDrawnAnewInEverySize() {
  QTemporaryDir dir;
  const std::string path = pathOf(dir, "disc.svg");
  write(
      path,
      R"(<?xml version="1.0"?><!-- a disc --><svg xmlns="http://www.w3.org/2000/svg" width="40" height="20"><ellipse cx="20" cy="10" rx="20" ry="10" fill="#ff8000"/></svg>)");
  MediaStore store(std::size_t{256} << 20);
  const auto ref = store.takeIn(path);
  QVERIFY2(ref.has_value(), ref ? "" : ref.error().sentence().c_str());
  QCOMPARE(ref->width, 40);
  QCOMPARE(ref->height, 20);
  QVERIFY(store.isDrawing(*ref));
  const auto large = store.tile(*ref, 1600, 800, {});
  QCOMPARE(large->width, 1600);
  // Its edge is as sharp as a pixel, and its area that of the formula.
  double area = 0;
  int between = 0;
  for (int y = 0; y < 800; ++y)
    for (int x = 0; x < 1600; ++x) {
      const float a = large->plane.row(y + kTileBorder)[(x + kTileBorder) * 4 + 3];
      area += static_cast<double>(a);
      between += y == 400 && a > 0.01f && a < 0.99f;
    }
  QVERIFY(std::abs(area / (1600.0 * 800) - M_PI / 4) < 1e-3);
  QVERIFY(between <= 4);
}

void TestMediaStore::drawingsReachNothingOutside() {
  QTemporaryDir dir;
  QVERIFY(sample(false).save(dir.filePath("secret.png")));
  const QString secret = QUrl::fromLocalFile(dir.filePath("secret.png")).toString();
  // Somebody who would notice.
  const int listener = ::socket(AF_INET, SOCK_STREAM | SOCK_NONBLOCK, 0);
  sockaddr_in address{};
  address.sin_family = AF_INET;
  address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
  socklen_t length = sizeof address;
  QVERIFY(listener >= 0 && ::bind(listener, reinterpret_cast<sockaddr*>(&address), sizeof address) == 0 && ::listen(listener, 4) == 0);
  QCOMPARE(::getsockname(listener, reinterpret_cast<sockaddr*>(&address), &length), 0);
  const QString there = QStringLiteral("http://127.0.0.1:%1/secret.png").arg(ntohs(address.sin_port));
  for (const QString& reference : {secret, QStringLiteral("secret.png"), there}) {
    const std::string path = pathOf(dir, "reaches.svg");
    write(
        path,
        QStringLiteral(
            R"(<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="40" height="40"><image width="40" height="40" href="%1" xlink:href="%1"/></svg>)")
            .arg(reference)
            .toUtf8());
    MediaStore store(std::size_t{64} << 20);
    const auto ref = store.takeIn(path);
    QVERIFY(ref);
    const auto tile = store.tile(*ref, 40, 40, {});
    for (int y = 0; y < 40; ++y)
      for (int x = 0; x < 40; ++x) QCOMPARE(tile->plane.row(y + kTileBorder)[(x + kTileBorder) * 4 + 3], 0.0f);
  }
  QCOMPARE(::accept(listener, nullptr, nullptr), -1);
  ::close(listener);
}

void TestMediaStore::reducedPicturesKeepTheirMean() {
  QTemporaryDir dir;
  // The finest checks there are: made smaller they are an even grey, without a moire.
  QImage image(600, 400, QImage::Format_RGB888);
  for (int y = 0; y < 400; ++y)
    for (int x = 0; x < 600; ++x) image.setPixelColor(x, y, (x + y) % 2 ? Qt::white : Qt::black);
  const std::string path = pathOf(dir, "checks.png");
  QVERIFY(image.save(QString::fromStdString(path)));
  MediaStore store(std::size_t{64} << 20);
  const auto ref = store.takeIn(path);
  QVERIFY(ref);
  for (const auto& [width, height] : {std::pair{201, 133}, {97, 61}, {13, 9}, {1, 1}}) {
    const auto tile = store.tile(*ref, width, height, {Edge::Wrap, Edge::Wrap});
    for (int y = 0; y < tile->height; ++y)
      for (int x = 0; x < tile->width; ++x)
        QVERIFY(std::abs(static_cast<double>(tile->plane.row(y + kTileBorder)[(x + kTileBorder) * 4]) - 0.5) < 0.03);
  }
  // What lies beyond the sides is what the edge rule says.
  const auto tile = store.tile(*ref, 200, 133, {Edge::Wrap, Edge::Mirror});
  const auto pixel = [&](int x, int y) { return tile->plane.row(y + kTileBorder)[(x + kTileBorder) * 4]; };
  for (int y = 0; y < tile->height; ++y) {
    QCOMPARE(pixel(-1, y), pixel(tile->width - 1, y));
    QCOMPARE(pixel(tile->width, y), pixel(0, y));
  }
  for (int x = 0; x < tile->width; ++x) QCOMPARE(pixel(x, -1), pixel(x, 0));
}

void TestMediaStore::kindsGoByContent() {
  QTemporaryDir dir;
  QVERIFY(sample(false).save(dir.filePath("a.png")));
  QVERIFY(QFile::copy(dir.filePath("a.png"), dir.filePath("song.mp3")));
  MediaStore store(std::size_t{64} << 20);
  QVERIFY(store.takeIn(pathOf(dir, "song.mp3")).has_value());
  QVERIFY(isPicture(pathOf(dir, "song.mp3")));
  write(pathOf(dir, "text.png"), "#EXTM3U\nhttp://127.0.0.1:9/a.png\n");
  const auto refused = store.takeIn(pathOf(dir, "text.png"));
  QVERIFY(!refused);
  QVERIFY(refused.error().sentence().find("not a picture, clip or sound") != std::string::npos);
  QVERIFY(refused.error().sentence().find("PNG, JPEG") != std::string::npos);
  QVERIFY(!isPicture(pathOf(dir, "text.png")));
}

void TestMediaStore::missingAndChangedFilesAreNamed() {
  QTemporaryDir dir;
  const std::string path = pathOf(dir, "a.png");
  QVERIFY(sample(false).save(QString::fromStdString(path)));
  MediaStore store(std::size_t{64} << 20);
  const auto ref = store.takeIn(path);
  QVERIFY(ref);
  const auto whole = store.tile(*ref, kWidth, kHeight, {});
  QVERIFY(QFile::remove(QString::fromStdString(path)));
  QVERIFY(store.look(*ref).error().sentence().find("not there") != std::string::npos);
  // For as long as it is in memory it is shown; then a stand-in of its size.
  QCOMPARE(store.tile(*ref, kWidth, kHeight, {}), whole);
  store.clear();
  const auto standIn = store.tile(*ref, kWidth, kHeight, {});
  QVERIFY(standIn);
  QCOMPARE(standIn->width, kWidth);
  QVERIFY(standIn->opaque);
  // Another picture by that name is not the one that was taken in.
  QVERIFY(sample(true).save(QString::fromStdString(path)));
  QVERIFY(store.look(*ref).error().sentence().find("changed") != std::string::npos);
  QCOMPARE(store.tile(*ref, kWidth, kHeight, {}), standIn);
  // The same content is, wherever it came from.
  QVERIFY(sample(false).save(QString::fromStdString(path)));
  QVERIFY(store.look(*ref).has_value());
  QVERIFY(store.tile(*ref, kWidth, kHeight, {}) != standIn);
}

void TestMediaStore::damagedFilesGiveASentence() {
  QTemporaryDir dir;
  const QImage image = sample(false).convertToFormat(QImage::Format_RGB888);
  for (const char* name : {"a.png", "a.jpg", "a.webp", "a.tiff", "a.bmp"}) {
    const std::string whole = pathOf(dir, name);
    if (QLatin1String(name) == QLatin1String("a.png") || QLatin1String(name) == QLatin1String("a.jpg") ||
        QLatin1String(name) == QLatin1String("a.bmp"))
      QVERIFY(image.save(QString::fromStdString(whole)));
    else
      QVERIFY(ffmpeg({"-i", QString::fromStdString(pathOf(dir, "a.png")), QString::fromStdString(whole)}));
    const QByteArray bytes = bytesOf(whole);
    MediaStore store(std::size_t{64} << 20);
    const std::string cut = pathOf(dir, "cut");
    for (const double share : {0.02, 0.2, 0.5, 0.9}) {
      write(cut, bytes.left(static_cast<qsizetype>(share * static_cast<double>(bytes.size()))));
      const auto ref = store.takeIn(cut);
      if (!ref) {
        QVERIFY(ref.error().sentence().find(cut) != std::string::npos);
        continue;
      }
      // A whole header before half a picture: known as damaged once it was read.
      const auto tile = store.tile(*ref, ref->width, ref->height, {});
      QVERIFY2(tile && !store.look(*ref),
               qPrintable(QStringLiteral("%1 %2 tile %3").arg(QLatin1String(name)).arg(share).arg(tile != nullptr)));
      QVERIFY(store.look(*ref).error().sentence().find("damaged") != std::string::npos);
    }
  }
}

void TestMediaStore::hugeAndEndlessFilesGiveASentenceAtOnce() {
  QTemporaryDir dir;
  MediaStore store(std::size_t{64} << 20);
  const auto refusedAtOnce = [&](const std::string& path, const char* because) {
    QElapsedTimer timer;
    timer.start();
    const auto ref = store.takeIn(path);
    QVERIFY2(!ref, path.c_str());
    QVERIFY2(timer.elapsed() < 1000, path.c_str());
    QVERIFY2(ref.error().sentence().find(because) != std::string::npos, ref.error().sentence().c_str());
  };
  // A PNG of 60000 x 60000 that says so in its header.
  QImage tiny(1, 1, QImage::Format_RGB888);
  tiny.fill(Qt::black);
  const std::string png = pathOf(dir, "huge.png");
  QVERIFY(tiny.save(QString::fromStdString(png)));
  QByteArray bytes = bytesOf(png);
  qToBigEndian<quint32>(60000, bytes.data() + 16);
  qToBigEndian<quint32>(60000, bytes.data() + 20);
  const QByteArray header = bytes.mid(12, 17);
  // CRC-32 of the header, as PNG wants it.
  quint32 crc = 0xffffffffu;
  for (const char c : header) {
    crc ^= static_cast<quint8>(c);
    for (int k = 0; k < 8; ++k) crc = (crc >> 1) ^ ((crc & 1) ? 0xedb88320u : 0);
  }
  qToBigEndian<quint32>(~crc, bytes.data() + 29);
  write(png, bytes);
  refusedAtOnce(png, "million pixels");
  // A BMP that says the same.
  const std::string bmp = pathOf(dir, "huge.bmp");
  QVERIFY(tiny.save(QString::fromStdString(bmp)));
  bytes = bytesOf(bmp);
  qToLittleEndian<qint32>(60000, bytes.data() + 18);
  qToLittleEndian<qint32>(-60000, bytes.data() + 22);
  write(bmp, bytes);
  refusedAtOnce(bmp, "million pixels");
  refusedAtOnce("/dev/zero", "regular");
  // A pipe that nobody writes to.
  const std::string pipe = pathOf(dir, "pipe.png");
  QCOMPARE(::mkfifo(pipe.c_str(), 0600), 0);
  QVERIFY(!isPicture(pipe));
  refusedAtOnce(pipe, "regular");
  refusedAtOnce(dir.path().toStdString(), "folder");
  refusedAtOnce(pathOf(dir, "nowhere.png"), "not there");
  // A drawing whose elements multiply.
  QByteArray bomb =
      R"(<svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" width="9" height="9"><defs><g id="a0"><rect width="9" height="9"/></g>)";
  for (int i = 1; i < 12; ++i) {
    bomb += "<g id=\"a" + QByteArray::number(i) + "\">";
    for (int k = 0; k < 10; ++k) bomb += "<use xlink:href=\"#a" + QByteArray::number(i - 1) + "\"/>";
    bomb += "</g>";
  }
  write(pathOf(dir, "bomb.svg"), bomb + "</defs><use xlink:href=\"#a11\"/></svg>");
  refusedAtOnce(pathOf(dir, "bomb.svg"), "intricate");
}

void TestMediaStore::theBudgetHolds() {
  QTemporaryDir dir;
  std::vector<MediaRef> refs;
  constexpr std::size_t kBudget = 600000;
  MediaStore store(kBudget);
  for (int i = 0; i < 6; ++i) {
    QImage image(120, 100, QImage::Format_RGB888);
    image.fill(QColor(40 * i, 10, 200));
    const QString path = dir.filePath(QString::number(i) + ".png");
    QVERIFY(image.save(path));
    refs.push_back(*store.takeIn(path.toStdString()));
  }
  for (int round = 0; round < 3; ++round)
    for (std::size_t i = 0; i < refs.size(); ++i) {
      const Shown got = shown(store, refs[i]);
      QVERIFY(std::abs(got.at(60, 50, 0) - 40.0 * static_cast<double>(i)) < 0.01);
      QVERIFY(store.bytes() <= kBudget);
    }
  QVERIFY(store.bytes() > 0);
}

// Every value of every channel, at any length, and nothing behind the last pixel.
void TestMediaStore::bytesBecomeColours() {
  test::forEachTarget([](const char* target) {
    for (const int n : {1, 15, 16, 17, 47, 256}) {
      std::vector<std::uint8_t> planes[3];
      for (int c = 0; c < 3; ++c)
        for (int i = 0; i < n; ++i) planes[c].push_back(static_cast<std::uint8_t>(i * 7 + c * 85));
      std::vector<std::uint8_t> rgb(static_cast<std::size_t>(n) * 3 + 1, 77);
      bytesOfPlanes(planes[0].data(), planes[1].data(), planes[2].data(), n, rgb.data());
      QCOMPARE(rgb.back(), std::uint8_t{77});
      std::vector<float> colours(static_cast<std::size_t>(n) * 4 + 1, -1.0f);
      floatsOfBytes(rgb.data(), n, colours.data());
      QCOMPARE(colours.back(), -1.0f);
      for (std::size_t i = 0; i < static_cast<std::size_t>(n); ++i)
        for (std::size_t c = 0; c < 4; ++c) {
          const int wanted = c == 3 ? 255 : planes[c][i];
          if (c < 3) QCOMPARE(int{rgb[i * 3 + c]}, wanted);
          QVERIFY2(std::abs(colours[i * 4 + c] - static_cast<float>(wanted) / 255) < 1e-7f, target);
        }
    }
  });
}

QTEST_GUILESS_MAIN(TestMediaStore)
#include "tst_media_store.moc"
