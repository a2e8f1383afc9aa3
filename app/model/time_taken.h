// What each layer of the scene takes to make: measured beside the window, while somebody wants to know.
#pragma once

#include <QObject>
#include <QSize>
#include <QString>
#include <QTimer>
#include <atomic>
#include <memory>
#include <optional>

#include "render/profile.h"

namespace oa::app {

class Document;

class TimeTaken : public QObject {
  Q_OBJECT
 public:
  explicit TimeTaken(Document& document);
  ~TimeTaken() override;

  /// Measured anew whenever the scene has rested for a moment.
  void setOn(bool on);
  [[nodiscard]] bool on() const { return on_; }
  /// A sentence about the current layer.
  [[nodiscard]] QString sentence() const;

 Q_SIGNALS:
  void changed();

 private:
  void measure();
  void stop();

  Document& document_;
  QTimer rest_;
  bool on_ = false;
  std::shared_ptr<std::atomic<bool>> cancel_;  // of the measuring that is under way
  std::optional<Profile> found_;
  QSize size_;  // of the pictures that were measured
  QString problem_;
};

}  // namespace oa::app
