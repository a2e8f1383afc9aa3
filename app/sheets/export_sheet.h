// Export: format, size, loops; progress with time left and cancel.
#pragma once

#include <atomic>
#include <thread>

#include "media/export.h"
#include "model/document.h"
#include "sheets/sheet.h"

class QCheckBox;
class QComboBox;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;
class QSpinBox;

namespace oa::app {

class ExportSheet : public Sheet {
  Q_OBJECT
 public:
  ExportSheet(Document& document, QWidget* parent);
  ~ExportSheet() override;
  [[nodiscard]] bool running() const { return thread_.joinable(); }

 Q_SIGNALS:
  void progressed(qint64 done, qint64 total, double secondsLeft);
  void finished(bool ok, const QString& message);

 public Q_SLOTS:
  void start();
  void cancel();

 private:
  [[nodiscard]] ExportFormat format() const;
  void formatChanged();
  void setName(const QString& folder, const QString& name);
  void suggestName();
  void browse();
  void describe();
  void showProgress(qint64 done, qint64 total, double secondsLeft);
  void showEnd(bool ok, const QString& message);
  void setBusy(bool busy);

  Document& document_;
  QComboBox* format_;
  QComboBox* size_;
  QSpinBox* loops_;
  QCheckBox* alpha_;
  QComboBox* bits_;
  QComboBox* dither_;
  QSpinBox* plays_;
  QWidget* loopsLine_;
  QWidget* playsLine_;
  QWidget* alphaLine_;
  QWidget* bitsLine_;
  QWidget* ditherLine_;
  QLineEdit* path_;
  QPushButton* browse_;
  QPushButton* start_;
  QPushButton* cancel_;
  QProgressBar* bar_;
  QLabel* summary_;
  QLabel* message_;
  bool named_ = false;  // the user gave a name, which stays
  bool clear_ = false;  // the scene let something through when it was last looked at
  QString asked_;       // a name that the chooser asked about already
  std::thread thread_;
  std::atomic<bool> stop_{false};
};

}  // namespace oa::app
