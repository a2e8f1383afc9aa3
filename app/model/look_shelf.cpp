#include "model/look_shelf.h"

#include <QDir>
#include <QFile>
#include <QSaveFile>
#include <QStandardPaths>
#include <algorithm>

namespace oa::app {
namespace {

constexpr qint64 kLargest = 4'000'000;

Result<edit::Look> readLook(const QString& path) {
  QFile file(path);
  if (!file.open(QIODevice::ReadOnly)) return fail(file.errorString().toStdString(), path.toStdString());
  if (file.size() > kLargest) return fail("is too large for a look", path.toStdString());
  auto look = edit::lookFromText(file.readAll().toStdString());
  return look ? std::move(look) : fail(look.error().sentence(), path.toStdString());
}

// A name that a file can have everywhere.
QString fileNameOf(const std::string& name) {
  QString file;
  for (const QChar c : QString::fromStdString(name).simplified())
    file += c.isLetterOrNumber() || c == QLatin1Char('-') ? c.toLower() : QChar(u'-');
  while (file.contains(QLatin1String("--"))) file.replace(QLatin1String("--"), QLatin1String("-"));
  file = file.left(80);
  while (file.startsWith(QLatin1Char('-'))) file.remove(0, 1);
  while (file.endsWith(QLatin1Char('-'))) file.chop(1);
  return (file.isEmpty() ? QStringLiteral("look") : file) + QStringLiteral(".look");
}

}  // namespace

QString LookShelf::folder() { return QStandardPaths::writableLocation(QStandardPaths::AppConfigLocation) + QStringLiteral("/looks"); }

void LookShelf::forget() {
  looks_.clear();
  Q_EMIT changed();
}

const std::vector<LookShelf::Kept>& LookShelf::looks() const {
  if (!looks_.empty()) return looks_;
  for (const bool own : {false, true}) {
    const QDir from(own ? folder() : QStringLiteral(":/oa/looks"));
    for (const QString& name : from.entryList({QStringLiteral("*.look")}, QDir::Files, QDir::Name))
      if (auto look = readLook(from.filePath(name))) looks_.push_back({std::move(*look), own ? from.filePath(name) : QString()});
  }
  // Two sections fill a row of the gallery.
  const auto rank = [](const Kept& kept) {
    static constexpr std::string_view kOrder[] = {"Motion", "Fold", "Light", "Colour", "Lens", "Print"};
    return kept.file.isEmpty() ? std::find(std::begin(kOrder), std::end(kOrder), kept.look.section) - std::begin(kOrder) : 100;
  };
  std::stable_sort(looks_.begin(), looks_.end(),
                   [&](const Kept& a, const Kept& b) { return std::pair(rank(a), a.look.name) < std::pair(rank(b), b.look.name); });
  return looks_;
}

Result<QString> LookShelf::keep(const edit::Look& look) {
  const std::string text = edit::lookToText(look);
  if (const auto again = edit::lookFromText(text); !again) return fail("This look cannot be kept: " + again.error().sentence());
  if (!QDir().mkpath(folder())) return fail("There is no folder to keep looks in, and none can be made: " + folder().toStdString());
  const QString path = folder() + QLatin1Char('/') + fileNameOf(look.name);
  QSaveFile file(path);
  const auto bytes = static_cast<qint64>(text.size());
  if (!file.open(QIODevice::WriteOnly) || file.write(text.data(), bytes) != bytes || !file.commit())
    return fail("The look could not be written: " + file.errorString().toStdString(), path.toStdString());
  forget();
  return path;
}

Result<QString> LookShelf::takeIn(const QString& path) {
  auto look = readLook(path);
  if (!look) return tl::unexpected(look.error());
  look->section.clear();
  return keep(*look);
}

Status LookShelf::remove(const QString& path) {
  QFile file(path);
  if (!file.remove()) return fail("The look could not be deleted: " + file.errorString().toStdString(), path.toStdString());
  forget();
  return {};
}

}  // namespace oa::app
