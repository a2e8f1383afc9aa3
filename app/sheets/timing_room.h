// Everything in time: all that moves in the scene in one table, what makes the loop as long as it is, and many changed at once.
#pragma once

#include <QSortFilterProxyModel>
#include <QWidget>
#include <vector>

#include "model/document.h"
#include "model/player.h"
#include "sheets/timing_model.h"

class QLabel;
class QLineEdit;
class QPushButton;
class QTableView;
class QVBoxLayout;

namespace oa::app {

class SpreadControls;

class TimingRoom : public QWidget {
  Q_OBJECT
 public:
  TimingRoom(Document& document, Player& player, QWidget* parent = nullptr);
  [[nodiscard]] const TimingModel& lines() const { return *model_; }
  /// The share of the loop that is shown now.
  [[nodiscard]] double now() const;

 Q_SIGNALS:
  void closed();

 protected:
  void showEvent(QShowEvent*) override;
  void keyPressEvent(QKeyEvent* event) override;
  bool eventFilter(QObject* watched, QEvent* event) override;

 private:
  void refresh();
  void showFindings();
  void showChoice();
  void takeNumber(int row, int column, double value);
  void spreadChosen();
  void goTo(const QModelIndex& index);
  /// The motions of the chosen lines, in the order in which they stand.
  [[nodiscard]] std::vector<edit::MotionAddress> chosen() const;

  Document& document_;
  Player& player_;
  TimingModel* model_;
  QSortFilterProxyModel* sorted_;
  QLabel* says_;
  QLineEdit* find_;
  QTableView* table_;
  QWidget* findings_;
  QLabel* choice_;
  SpreadControls* spread_;
  QPushButton* use_;
  QPushButton* show_;
};

}  // namespace oa::app
