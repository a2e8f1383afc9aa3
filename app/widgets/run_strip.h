// What is handed over, as a strip: arrive, the loop so many times, leave. Its parts and the layers in them are dragged, and it is played
// and scrubbed.
#pragma once

#include <QWidget>
#include <optional>
#include <vector>

#include "model/document.h"
#include "model/player.h"

namespace oa::app {

class RunStrip : public QWidget {
  Q_OBJECT
 public:
  RunStrip(Document& document, Player& player, QWidget* parent = nullptr);
  [[nodiscard]] QSize sizeHint() const override { return {600, 50}; }

  enum class Part { Arrive, Loop, Leave };
  /// Where a part lies; one without anything in it is as wide as the words that offer it.
  [[nodiscard]] QRectF rectOf(Part part) const;
  /// Where a frame of the run is shown.
  [[nodiscard]] double xOf(std::int64_t place) const;
  [[nodiscard]] std::int64_t placeAt(double x) const;
  /// A layer on its way: where its bar lies.
  struct Bar {
    Id layer = 0;
    bool leaving = false;
    QRectF rect;
  };
  [[nodiscard]] std::vector<Bar> bars() const;

 Q_SIGNALS:
  /// Somebody asks for a way to arrive or leave for the selected layer.
  void passageWanted(bool leaving);

 protected:
  void paintEvent(QPaintEvent*) override;
  void mousePressEvent(QMouseEvent* event) override;
  void mouseMoveEvent(QMouseEvent* event) override;
  void mouseReleaseEvent(QMouseEvent* event) override;
  void leaveEvent(QEvent* event) override;
  void keyPressEvent(QKeyEvent* event) override;

 private:
  enum class Grab { None, Scrub, ArriveEnd, LoopEnd, LeaveEnd, Bar, BarEnd };
  struct Hit {
    Grab grab = Grab::None;
    std::optional<Bar> bar;
  };
  [[nodiscard]] Hit hitAt(QPointF at) const;
  void drag(QPointF at);
  void dragBar(double frames);
  void describe();

  Document& document_;
  Player& player_;
  RunLength run_;
  Hit held_;
  double pressX_ = 0;
  double perFrame_ = 1;  // pixels, of the part that is dragged, as it was when the drag began
  RunLength pressRun_;
  int pressLoops_ = 1;
  double pressSeconds_ = 0;  // of the run; 0: it is counted in loops
  double pressDelay_ = 0;    // seconds
  double pressLasts_ = 0;
};

}  // namespace oa::app
