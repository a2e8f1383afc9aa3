// Running programs, and what an independent reader (ffprobe and ffmpeg) finds in a file.
#pragma once

#include <QByteArray>
#include <QJsonObject>
#include <QString>
#include <QStringList>
#include <vector>

namespace oa::test {

struct Finished {
  int exitCode = -1;
  QByteArray out;
  QByteArray err;
};
/// Runs a program to its end (at most four minutes).
Finished run(const QString& program, const QStringList& arguments, const QString& folder = {});
/// Runs over-again-cli.
Finished cli(const QStringList& arguments, const QString& folder = {});

/// The first video stream as ffprobe describes it, with counted frames ("nb_read_frames").
QJsonObject probe(const QString& file);

/// All frames as ffmpeg decodes them to 8-bit RGBA, each width x height x 4 bytes. `decoder` may name one ("libvpx-vp9").
std::vector<QByteArray> decoded(const QString& file, int width, int height, const QString& decoder = {});

/// Mean absolute difference of two frames of equal size, in 8-bit levels.
double meanDifference(const QByteArray& a, const QByteArray& b);

/// The step from the last frame to the first, against the median step between neighbours.
struct DecodedJoint {
  double joint = 0;
  double median = 0;
  double largest = 0;  ///< of the steps within the loop: what jumps on purpose may do so at the joint too
};
DecodedJoint decodedJoint(const std::vector<QByteArray>& frames);

}  // namespace oa::test
