// Everything that moves in a scene as a table: a line for each motion.
#pragma once

#include <QAbstractTableModel>
#include <set>
#include <vector>

#include "edit/timing.h"
#include "model/document.h"

namespace oa::app {

class TimingModel : public QAbstractTableModel {
  Q_OBJECT
 public:
  enum Column { Layer, Value, Kind, Laps, Takes, Start, Speed, Loop, Columns };
  /// Numbers to sort by.
  static constexpr int kSortRole = Qt::UserRole;

  explicit TimingModel(Document& document, QObject* parent = nullptr);
  /// Reads the scene anew. Lines that are the same motions keep their places.
  void read();
  [[nodiscard]] const edit::Timed& timed(int row) const { return lines_[static_cast<std::size_t>(row)].timed; }
  [[nodiscard]] bool isOdd(int row) const;
  /// Rounds that stand against what the others share.
  void setOdd(std::set<std::int64_t> rounds);

  [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] int columnCount(const QModelIndex& parent = {}) const override;
  [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
  [[nodiscard]] QVariant headerData(int section, Qt::Orientation orientation, int role) const override;
  [[nodiscard]] Qt::ItemFlags flags(const QModelIndex& index) const override;
  bool setData(const QModelIndex& index, const QVariant& value, int role) override;

 Q_SIGNALS:
  /// A number was given to a line: laps, or a head start as a share of a lap.
  void edited(int row, int column, double value);

 private:
  struct Line {
    edit::Timed timed;
    QString layer;
    QString value;
  };
  [[nodiscard]] QString words(const Line& line, int column) const;
  [[nodiscard]] double number(const Line& line, int column) const;
  Document& document_;
  std::vector<Line> lines_;
  std::set<std::int64_t> odd_;
};

}  // namespace oa::app
