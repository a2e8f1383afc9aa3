// Clips for tests, written and read by the ffmpeg command: a reader that knows nothing of ours.
#pragma once

#include <QByteArray>
#include <QImage>
#include <QString>
#include <QStringList>
#include <vector>

namespace oa::test {

/// Runs ffmpeg, or ffprobe, and gives back what it wrote to its standard output; fails the program if it fails.
QByteArray ffmpeg(const QStringList& arguments, const QString& program = QStringLiteral("ffmpeg"), const QByteArray& input = {});

/// A picture for each moment: a bright block that goes across, a number as a row of bits, colours that differ everywhere.
QImage clipPicture(int index, int count, QSize size, bool alpha);

/// Writes `count` of them at `rate` a second; `coding`: the encoder and its options, as for ffmpeg.
void writeClip(const QString& path, int count, double rate, QSize size, bool alpha, const QStringList& coding);

/// The filter that converts colours: zimg's, which reads chroma from where it lies.
inline const QString kZimg = QStringLiteral("zscale=matrix=gbr:range=full:filter=bilinear,format=gbrp");
/// It leaves alpha out, which comes beside it.
inline const QString kZimgWithAlpha = QStringLiteral(
    "split[a][b];[a]alphaextract[d];[b]zscale=matrixin=170m:matrix=gbr:range=full:filter=bilinear,format=gbrp[c];[c][d]alphamerge");
/// For those that are R'G'B' already, or have chroma at every pixel.
inline const QString kPlain = QStringLiteral("scale=flags=accurate_rnd+full_chroma_int+full_chroma_inp+bilinear");

/// All pictures of a clip as ffmpeg reads them: 8 bits, straight alpha. `before`: options for reading, such as a decoder.
std::vector<QImage> readClip(const QString& path, QSize size, const QStringList& before = {}, const QString& filter = kPlain);

/// Largest difference of two pictures in any channel, where both have alpha, and the mean one.
struct Difference {
  int most = 0;
  double mean = 0;
};
Difference differenceOf(const QImage& a, const QImage& b);

}  // namespace oa::test
