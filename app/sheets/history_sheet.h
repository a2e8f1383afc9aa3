// What was done, state by state, each with a small picture: to go back to, or to compare with.
#pragma once

#include <QImage>
#include <vector>

#include "model/comparison.h"
#include "model/document.h"
#include "model/player.h"
#include "sheets/sheet.h"

class QButtonGroup;
class QLabel;
class QListWidget;

namespace oa::app {

/// The newest state stands first. A click goes to a state; a tick compares with it. Small pictures are made one after the other off the
/// window's thread, of what is in sight first.
class HistorySheet : public Sheet {
  Q_OBJECT
 public:
  HistorySheet(Document& document, Player& player, Comparison& comparison, QWidget* parent);
  /// Whether every state in sight has its picture.
  [[nodiscard]] bool pictured() const;

 protected:
  void showEvent(QShowEvent* event) override;
  void resizeEvent(QResizeEvent* event) override;

 private:
  void refresh();
  void refreshLook();
  void makePictures();
  [[nodiscard]] int stateOf(int row) const { return static_cast<int>(states_.size()) - 1 - row; }
  [[nodiscard]] QString nameOf(int state) const;
  [[nodiscard]] std::vector<int> inSight() const;

  struct Known {
    edit::Snapshot scene;
    QImage picture;
  };
  Document& document_;
  Player& player_;
  Comparison& comparison_;
  QListWidget* list_;
  QWidget* looks_;
  QButtonGroup* look_;
  std::vector<Document::State> states_;
  std::vector<Known> known_;  // of the states, in their order
  bool making_ = false;
  bool filling_ = false;
};

}  // namespace oa::app
