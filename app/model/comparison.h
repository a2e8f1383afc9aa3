// Another state of the scene beside the one that is worked on: its pictures, at the frame that is shown.
#pragma once

#include <QImage>
#include <QObject>
#include <QSize>
#include <memory>
#include <optional>

#include "edit/snapshot.h"
#include "model/player.h"
#include "model/render_service.h"

namespace oa::app {

/// A is the scene as it is; B is the other one. It goes on being what it was whatever becomes of the history that it came from.
class Comparison : public QObject {
  Q_OBJECT
 public:
  /// How the two are shown: side by side with a line between them, or one of them alone.
  enum class Look { Split, A, B };
  explicit Comparison(Player& player, QObject* parent = nullptr);
  ~Comparison() override;
  [[nodiscard]] bool there() const { return other_.has_value(); }
  [[nodiscard]] const std::optional<edit::Snapshot>& other() const { return other_; }
  [[nodiscard]] QString name() const { return name_; }
  [[nodiscard]] Look look() const { return look_; }
  /// Puts it beside the scene, split.
  void begin(const edit::Snapshot& other, const QString& name);
  void end();
  void setLook(Look look);
  /// B alone if A was shown, else A alone.
  void exchange() { setLook(look_ == Look::A ? Look::B : Look::A); }
  /// Size in device pixels that pictures are wanted at.
  void setSize(QSize pixels);
  /// B's picture of the frame that is shown, or the last one that there was; null before the first.
  [[nodiscard]] const QImage& image() const { return image_; }

 Q_SIGNALS:
  void changed();  ///< there(), look()
  void imageChanged();

 private:
  void take();
  Player& player_;
  std::optional<edit::Snapshot> other_;
  QString name_;
  Look look_ = Look::Split;
  QSize size_;
  int frames_ = 1;  // of B's loop
  QImage image_;
  std::unique_ptr<RenderService> renderer_;  // only while something is compared: it holds pictures of a whole loop
};

}  // namespace oa::app
