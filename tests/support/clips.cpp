#include "support/clips.h"

#include <QProcess>
#include <algorithm>
#include <cmath>

namespace oa::test {

QByteArray ffmpeg(const QStringList& arguments, const QString& program, const QByteArray& input) {
  QProcess process;
  QStringList all{QStringLiteral("-v"), QStringLiteral("error")};
  if (program == QStringLiteral("ffmpeg")) all << QStringLiteral("-y");
  process.start(program, all + arguments);
  if (!input.isEmpty()) process.write(input);
  process.closeWriteChannel();
  if (!process.waitForFinished(120000) || process.exitCode() != 0)
    qFatal("%s %s: %s", qPrintable(program), qPrintable(arguments.join(QLatin1Char(' '))), process.readAllStandardError().constData());
  return process.readAllStandardOutput();
}

QImage clipPicture(int index, int count, QSize size, bool alpha) {
  QImage image(size, QImage::Format_RGBA8888);
  const double u = static_cast<double>(index) / count;
  for (int y = 0; y < size.height(); ++y)
    for (int x = 0; x < size.width(); ++x) {
      const double px = (x + 0.5) / size.width();
      const double py = (y + 0.5) / size.height();
      const bool block = std::abs(px - 0.1 - 0.8 * u) < 0.08 && std::abs(py - 0.5) < 0.2;
      const int bit = static_cast<int>(px * 8);
      const bool mark = py > 0.85 && ((index >> bit) & 1) != 0;
      const int r = mark || block ? 235 : static_cast<int>(60 + 120 * px);
      const int g = block ? 200 : mark ? 235 : static_cast<int>(50 + 100 * py);
      const int b = block ? 40 : mark ? 235 : static_cast<int>(90 + 80 * std::sin(6.28 * u));
      image.setPixelColor(x, y, QColor(r, g, b, alpha ? (block || mark ? 255 : static_cast<int>(255 * px)) : 255));
    }
  return image;
}

void writeClip(const QString& path, int count, double rate, QSize size, bool alpha, const QStringList& coding) {
  QByteArray raw;
  for (int i = 0; i < count; ++i) {
    const QImage image = clipPicture(i, count, size, alpha);
    for (int y = 0; y < size.height(); ++y) raw.append(reinterpret_cast<const char*>(image.constScanLine(y)), size.width() * 4);
  }
  ffmpeg(QStringList{QStringLiteral("-f"), QStringLiteral("rawvideo"), QStringLiteral("-pix_fmt"), QStringLiteral("rgba"),
                     QStringLiteral("-s"), QStringLiteral("%1x%2").arg(size.width()).arg(size.height()), QStringLiteral("-r"),
                     QString::number(rate), QStringLiteral("-i"), QStringLiteral("-")} +
             coding + QStringList{path},
         QStringLiteral("ffmpeg"), raw);
}

std::vector<QImage> readClip(const QString& path, QSize size, const QStringList& before, const QString& filter) {
  const QByteArray raw = ffmpeg(before + QStringList{QStringLiteral("-i"), path, QStringLiteral("-f"), QStringLiteral("rawvideo"),
                                                     QStringLiteral("-vsync"), QStringLiteral("passthrough"), QStringLiteral("-vf"), filter,
                                                     QStringLiteral("-pix_fmt"), QStringLiteral("rgba"), QStringLiteral("-")});
  const qsizetype bytes = qsizetype{4} * size.width() * size.height();
  std::vector<QImage> list;
  for (qsizetype at = 0; at + bytes <= raw.size(); at += bytes)
    list.push_back(
        QImage(reinterpret_cast<const uchar*>(raw.constData() + at), size.width(), size.height(), QImage::Format_RGBA8888).copy());
  return list;
}

Difference differenceOf(const QImage& a, const QImage& b) {
  Difference d;
  if (a.size() != b.size()) return {255, 255};
  double sum = 0;
  for (int y = 0; y < a.height(); ++y)
    for (int x = 0; x < a.width(); ++x) {
      const QColor p = a.pixelColor(x, y);
      const QColor q = b.pixelColor(x, y);
      const int alpha = std::abs(p.alpha() - q.alpha());
      // What cannot be seen may have any colour.
      const int seen = std::min(p.alpha(), q.alpha());
      const int colour =
          std::max({std::abs(p.red() - q.red()), std::abs(p.green() - q.green()), std::abs(p.blue() - q.blue())}) * seen / 255;
      d.most = std::max({d.most, alpha, colour});
      sum += std::max(alpha, colour);
    }
  d.mean = sum / (static_cast<double>(a.width()) * a.height());
  return d;
}

}  // namespace oa::test
