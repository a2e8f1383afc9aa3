// Export: format, size, loops; progress with time left and cancel.
#pragma once

#include <QTemporaryDir>
#include <atomic>
#include <functional>
#include <memory>
#include <thread>

#include "media/export.h"
#include "model/document.h"
#include "sheets/sheet.h"

class QCheckBox;
class QComboBox;
class QDoubleSpinBox;
class QLabel;
class QLineEdit;
class QProgressBar;
class QPushButton;
class QSpinBox;

namespace oa::app {

class Player;

class ExportSheet : public Sheet {
  Q_OBJECT
 public:
  ExportSheet(Document& document, Player& player, QWidget* parent);
  ~ExportSheet() override;
  [[nodiscard]] bool running() const { return thread_.joinable(); }

 Q_SIGNALS:
  void progressed(qint64 done, qint64 total, double secondsLeft);
  void finished(bool ok, const QString& message);
  /// Two seconds were made there, to be looked at.
  void sampled(const QString& path);

 public Q_SLOTS:
  void start();
  void cancel();
  void trySample();

 private:
  [[nodiscard]] ExportFormat format() const;
  [[nodiscard]] ExportSettings settings() const;
  /// What is handed over: the loop, where nothing arrives or leaves.
  [[nodiscard]] RunPart part() const;
  void begin(const ExportSettings& settings, std::function<void(const ExportResult&)> done);
  void showLines();
  void formatChanged();
  void setName(const QString& folder, const QString& name);
  void suggestName();
  void browse();
  void describe();
  void showProgress(qint64 done, qint64 total, double secondsLeft);
  void showEnd(bool ok, const QString& message);
  void setBusy(bool busy);

  Document& document_;
  Player& player_;
  QComboBox* format_;
  QLabel* use_;
  QComboBox* quality_;
  QDoubleSpinBox* limit_;
  QCheckBox* sound_;
  QComboBox* part_;
  QWidget* partLine_;
  QComboBox* run_;
  QCheckBox* own_;
  QCheckBox* poster_;
  QWidget* qualityLine_;
  QWidget* limitLine_;
  QWidget* soundLine_;
  QWidget* runLine_;
  QWidget* ownLine_;
  QWidget* posterLine_;
  QPushButton* sample_;
  std::unique_ptr<QTemporaryDir> samples_;
  int tried_ = 0;
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
