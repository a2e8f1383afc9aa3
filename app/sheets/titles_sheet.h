// Many titles from one scene: a table with a row for each, looked at in the window and made into files.
#pragma once

#include <atomic>
#include <thread>

#include "model/document.h"
#include "sheets/sheet.h"
#include "titles/title_table.h"

class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;
class QTableWidget;

namespace oa::app {

class TitlesSheet : public Sheet {
  Q_OBJECT
 public:
  TitlesSheet(Document& document, QWidget* parent);
  ~TitlesSheet() override;
  /// The row that the window shows the fields filled with; -1: none.
  [[nodiscard]] int row() const { return document_.titleShown(); }
  [[nodiscard]] bool running() const { return thread_.joinable(); }
  void stop() { stop_ = true; }
  /// Takes the table of a CSV file.
  void take(const QString& path);

 Q_SIGNALS:
  void progressed(int row, int rows, double share);
  void finished(const QString& message, bool ok);

 protected:
  void showEvent(QShowEvent*) override;
  void hideEvent(QHideEvent*) override;

 private:
  void refresh();
  void cellEdited(int row, int column);
  void columnsOfFields();
  void setRow(int row);
  void make();
  void showEnd(const QString& message, bool ok);

  Document& document_;
  QLabel* hint_;
  QPushButton* fields_;
  QTableWidget* table_;
  QLineEdit* pattern_;
  QPushButton* make_;
  QPushButton* cancel_;
  QProgressBar* bar_;
  QLabel* message_;
  TitleTable shown_;
  int chosen_ = -1;  // the one to be shown again when the sheet is
  bool filling_ = false;
  std::thread thread_;
  std::atomic<bool> stop_{false};
};

}  // namespace oa::app
