#include "support/files.h"

#include <QJsonArray>
#include <QJsonDocument>
#include <QProcess>
#include <algorithm>
#include <cstdlib>

namespace oa::test {

Finished run(const QString& program, const QStringList& arguments, const QString& folder) {
  QProcess process;
  if (!folder.isEmpty()) process.setWorkingDirectory(folder);
  process.start(program, arguments);
  Finished done;
  if (!process.waitForFinished(240000) || process.exitStatus() != QProcess::NormalExit) {
    process.kill();
    process.waitForFinished();
    done.err = process.readAllStandardError() + "\n" + process.errorString().toUtf8();
    return done;
  }
  done.exitCode = process.exitCode();
  done.out = process.readAllStandardOutput();
  done.err = process.readAllStandardError();
  return done;
}

Finished cli(const QStringList& arguments, const QString& folder) { return run(QStringLiteral(OA_CLI), arguments, folder); }

QJsonObject probe(const QString& file) {
  const Finished done =
      run(QStringLiteral("ffprobe"), {QStringLiteral("-v"), QStringLiteral("error"), QStringLiteral("-count_frames"),
                                      QStringLiteral("-select_streams"), QStringLiteral("v:0"), QStringLiteral("-show_streams"),
                                      QStringLiteral("-show_format"), QStringLiteral("-of"), QStringLiteral("json"), file});
  const QJsonObject all = QJsonDocument::fromJson(done.out).object();
  QJsonObject stream = all.value(QStringLiteral("streams")).toArray().first().toObject();
  stream.insert(QStringLiteral("file_duration"), all.value(QStringLiteral("format")).toObject().value(QStringLiteral("duration")));
  return stream;
}

std::vector<QByteArray> decoded(const QString& file, int width, int height, const QString& decoder) {
  QStringList words{QStringLiteral("-v"), QStringLiteral("error")};
  if (!decoder.isEmpty()) words << QStringLiteral("-c:v") << decoder;
  words << QStringLiteral("-i") << file << QStringLiteral("-f") << QStringLiteral("rawvideo") << QStringLiteral("-pix_fmt")
        << QStringLiteral("rgba") << QStringLiteral("-fps_mode") << QStringLiteral("passthrough") << QStringLiteral("-");
  const Finished done = run(QStringLiteral("ffmpeg"), words);
  std::vector<QByteArray> frames;
  const qsizetype size = qsizetype{4} * width * height;
  for (qsizetype at = 0; at + size <= done.out.size(); at += size) frames.push_back(done.out.mid(at, size));
  return frames;
}

double meanDifference(const QByteArray& a, const QByteArray& b) {
  if (a.size() != b.size() || a.isEmpty()) return 1e9;
  double sum = 0;
  for (qsizetype i = 0; i < a.size(); ++i)
    sum += std::abs(static_cast<int>(static_cast<unsigned char>(a[i])) - static_cast<int>(static_cast<unsigned char>(b[i])));
  return sum / static_cast<double>(a.size());
}

DecodedJoint decodedJoint(const std::vector<QByteArray>& frames) {
  DecodedJoint out;
  std::vector<double> steps;
  for (std::size_t i = 0; i + 1 < frames.size(); ++i) steps.push_back(meanDifference(frames[i], frames[i + 1]));
  if (steps.empty()) return out;
  out.largest = *std::max_element(steps.begin(), steps.end());
  std::nth_element(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2), steps.end());
  out.median = steps[steps.size() / 2];
  out.joint = meanDifference(frames.back(), frames.front());
  return out;
}

}  // namespace oa::test
