// A line that is drawn in the picture for something to go by.
#pragma once

#include <QObject>
#include <vector>

#include "base/geometry.h"

namespace oa::app {

class DrawnLine : public QObject {
  Q_OBJECT
 public:
  using QObject::QObject;
  /// Whether the next drag in the picture draws it.
  [[nodiscard]] bool wanted() const { return wanted_; }
  /// In shares of the frame; empty: there is none. It is seen in the picture.
  [[nodiscard]] const std::vector<Point>& points() const { return points_; }
  /// Asks for one to be drawn; the one that there was is forgotten.
  void ask();
  /// It goes on to here.
  void extend(const Point& to);
  /// It is drawn. One that is a point at most is none, and asked for again.
  void finish();
  /// It is called off, or no longer needed.
  void clear();

 Q_SIGNALS:
  void changed();
  void drawn();

 private:
  bool wanted_ = false;
  std::vector<Point> points_;
};

}  // namespace oa::app
