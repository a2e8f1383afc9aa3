// Recording by hand: what is done to values while the loop goes round becomes motions that close.
#pragma once

#include <QObject>
#include <optional>
#include <vector>

#include "edit/recorded.h"
#include "model/document.h"
#include "model/player.h"

namespace oa::app {

/// Waits, once armed, for the first gesture that changes numbers or places of the current layer, follows it to its end, and gives those
/// values keyframes instead of the motions that they had: one step to undo. How near the curve keeps to the hand, and how often it goes
/// round, can be changed afterwards, until something else is done.
class Recorder : public QObject {
  Q_OBJECT
 public:
  Recorder(Document& document, Player& player, QObject* parent = nullptr);
  [[nodiscard]] bool armed() const { return armed_; }
  /// Begins to wait, and to play; or gives it up.
  void arm(bool wanted);
  /// What was recorded last.
  struct Take {
    int laps = 1;
    double tolerance = 0.03;  ///< share of what the hand covered
    std::size_t keys = 0;
    double off = 0;  ///< the farthest that a curve is from the hand, as a share of what it covered
  };
  [[nodiscard]] const std::optional<Take>& take() const { return take_; }
  /// Makes other curves out of the same gesture.
  void refine(int laps, double tolerance);
  /// Leaves it as it is.
  void finish();

 Q_SIGNALS:
  void changed();  ///< armed(), or take()

 private:
  struct Track {
    ParamAddress at;
    Param before;
    std::vector<edit::Moved> gesture;
  };
  void documentChanged();
  void findTracks();
  void sample();
  void gestureEnded();
  void write();

  Document& document_;
  Player& player_;
  bool armed_ = false;
  bool writing_ = false;  // the document changes by the recorder itself
  std::optional<Layer> before_;
  std::vector<Track> tracks_;
  int steps_ = 0;  // of the history, before the gesture
  int frame_ = 0;  // of the last sample
  double at_ = 0;  // loops since the gesture began
  std::optional<Take> take_;
};

}  // namespace oa::app
