#include "sheets/timing_model.h"

#include <cmath>

#include "widgets/text.h"

namespace oa::app {
namespace {

QString seconds(double s) { return QObject::tr("%1 s").arg(text(numberText(s, s < 10 ? 2 : 1))); }

QString kindName(const edit::Timed& timed) {
  QString name = text(motionName(timed.kind));
  name[0] = name[0].toUpper();
  return timed.laps < 0 ? name + QObject::tr(", back") : name;
}

}  // namespace

TimingModel::TimingModel(Document& document, QObject* parent) : QAbstractTableModel(parent), document_(document) {}

void TimingModel::read() {
  const Scene& scene = document_.scene();
  std::vector<Line> lines;
  for (const edit::Timed& timed : edit::motionsIn(scene)) {
    const oa::Layer* layer = document_.layer(timed.at.layer);
    lines.push_back({timed, layer ? text(layer->name) : QString(), text(edit::nameOf(scene, timed.at))});
  }
  const bool same = std::equal(lines.begin(), lines.end(), lines_.begin(), lines_.end(),
                               [](const Line& a, const Line& b) { return a.timed.at == b.timed.at; });
  if (!same) beginResetModel();
  lines_ = std::move(lines);
  if (!same) return endResetModel();
  if (!lines_.empty()) Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, Columns - 1));
}

bool TimingModel::isOdd(int row) const {
  const edit::Timed& t = timed(row);
  return t.laps != 0 && odd_.count(std::abs(t.rounds())) > 0;
}

void TimingModel::setOdd(std::set<std::int64_t> rounds) {
  if (rounds == odd_) return;
  odd_ = std::move(rounds);
  if (!lines_.empty()) Q_EMIT dataChanged(index(0, 0), index(rowCount() - 1, Columns - 1));
}

int TimingModel::rowCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : static_cast<int>(lines_.size()); }
int TimingModel::columnCount(const QModelIndex& parent) const { return parent.isValid() ? 0 : Columns; }

QString TimingModel::words(const Line& line, int column) const {
  const edit::Timed& t = line.timed;
  const double takes = document_.scene().seconds() / std::max(1.0, std::abs(static_cast<double>(t.rounds())));
  switch (column) {
    case Layer:
      return line.layer;
    case Value:
      return line.value;
    case Kind:
      return kindName(t);
    case Laps:
      if (t.laps == 0) return t.kind == MotionKind::Follow ? tr("follows") : tr("by sound");
      return t.times > 1 ? tr("%1 × %2").arg(std::abs(t.laps)).arg(t.times) : QString::number(std::abs(t.laps));
    case Takes:
      return t.laps == 0 ? QString() : seconds(takes);
    case Start:
      return t.laps == 0 ? QString() : tr("%1 %").arg(text(numberText(t.start * 100, 1)));
    case Speed:
      if (t.way <= 0 || t.laps == 0) return {};
      return tr("%1 %2/s").arg(text(numberText(t.way / takes, t.way / takes < 20 ? 1 : 0)),
                               t.spec->rule == LoopRule::Round || t.spec->unit == Unit::Degrees ? QStringLiteral("°") : tr("px"));
    default:
      return {};
  }
}

double TimingModel::number(const Line& line, int column) const {
  const edit::Timed& t = line.timed;
  const auto rounds = static_cast<double>(std::abs(t.rounds()));
  if (column == Laps) return rounds;
  if (column == Takes) return rounds > 0 ? 1 / rounds : 2;
  if (column == Start || column == Loop) return t.start;
  return t.way * rounds;
}

QVariant TimingModel::data(const QModelIndex& index, int role) const {
  if (!index.isValid()) return {};
  const Line& line = lines_[static_cast<std::size_t>(index.row())];
  const bool numbers = index.column() >= Laps;
  if (role == Qt::DisplayRole) return words(line, index.column());
  if (role == Qt::EditRole)
    return index.column() == Laps ? QVariant(std::abs(line.timed.laps)) : QVariant(std::round(line.timed.start * 1000) / 10);
  if (role == kSortRole) return numbers ? QVariant(number(line, index.column())) : QVariant(words(line, index.column()).toLower());
  if (role == Qt::TextAlignmentRole)
    return QVariant(numbers && index.column() != Loop ? Qt::AlignRight | Qt::AlignVCenter : Qt::AlignVCenter);
  if (role == Qt::ToolTipRole && index.column() == Laps && isOdd(index.row()))
    return tr("Alone against what the others share: it makes the loop as long as it is");
  if (role == Qt::ToolTipRole && index.column() == Laps && line.timed.times > 1) return tr("Laps, and how often its group goes round");
  return {};
}

QVariant TimingModel::headerData(int section, Qt::Orientation orientation, int role) const {
  if (orientation != Qt::Horizontal) return {};
  static const char* const kNames[Columns] = {QT_TR_NOOP("Layer"), QT_TR_NOOP("Value"),      QT_TR_NOOP("Motion"),
                                              QT_TR_NOOP("Laps"),  QT_TR_NOOP("A lap"),      QT_TR_NOOP("Head start"),
                                              QT_TR_NOOP("Speed"), QT_TR_NOOP("In the loop")};
  if (role == Qt::DisplayRole) return tr(kNames[section]);
  if (role == Qt::TextAlignmentRole)
    return QVariant(section >= Laps && section != Loop ? Qt::AlignRight | Qt::AlignVCenter : Qt::AlignLeft | Qt::AlignVCenter);
  return {};
}

Qt::ItemFlags TimingModel::flags(const QModelIndex& index) const {
  Qt::ItemFlags flags = QAbstractTableModel::flags(index);
  const bool numbers = index.column() == Laps || index.column() == Start;
  if (!index.isValid() || !numbers || timed(index.row()).laps == 0) return flags;
  const oa::Layer* layer = document_.layer(timed(index.row()).at.layer);
  return layer && !layer->locked ? flags | Qt::ItemIsEditable : flags;
}

bool TimingModel::setData(const QModelIndex& index, const QVariant& value, int role) {
  bool is = false;
  const double v = value.toDouble(&is);
  if (role != Qt::EditRole || !is || !(flags(index) & Qt::ItemIsEditable)) return false;
  Q_EMIT edited(index.row(), index.column(), index.column() == Start ? v / 100 : v);
  return true;
}

}  // namespace oa::app
