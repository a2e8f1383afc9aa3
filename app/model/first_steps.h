// The first five things that somebody does here, each known to be done from what the scene and the player are like then.
#pragma once

#include <QObject>
#include <array>

#include "model/document.h"
#include "model/player.h"

namespace oa::app {

/// They may be done in any order, and left at any time; nothing is held back meanwhile.
class FirstSteps : public QObject {
  Q_OBJECT
 public:
  static constexpr int kCount = 5;
  FirstSteps(Document& document, Player& player, QObject* parent = nullptr);
  /// Counts from the scene as it is.
  void begin();
  void leave();
  [[nodiscard]] bool running() const { return running_; }
  [[nodiscard]] bool done(int step) const { return done_[static_cast<std::size_t>(step)]; }
  /// The first that is not done; kCount: all are.
  [[nodiscard]] int now() const;
  [[nodiscard]] static QString title(int step);
  [[nodiscard]] static QString how(int step);
  /// Somebody has opened what hands the loop over.
  void handOverSeen() { finish(kCount - 1); }

 Q_SIGNALS:
  void changed();

 private:
  void look();
  void finish(int step);
  Document& document_;
  Player& player_;
  Scene before_;
  bool running_ = false;
  std::array<bool, kCount> done_{};
};

}  // namespace oa::app
