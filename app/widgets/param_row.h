// One parameter on a card: name, control, number with unit, motion pill. Made from the parameter's table alone.
#pragma once

#include <QWidget>
#include <functional>
#include <optional>

#include "model/document.h"

class QBoxLayout;

namespace oa::app {

class ParamRow : public QWidget {
  Q_OBJECT
 public:
  ParamRow(Document& document, ParamAddress at, QWidget* parent = nullptr);
  /// Takes over the present value, and hides where the table says so.
  void refresh();
  /// Of rows that belong to parts, only those of this one are shown.
  void showPart(int part);
  [[nodiscard]] ParamAddress address() const { return at_; }

 protected:
  /// Back to the default, and what its motion offers.
  void contextMenuEvent(QContextMenuEvent* event) override;

 private:
  void addNumber(QBoxLayout* row, int part);
  void addColour(QBoxLayout* row);
  void addChoice(QBoxLayout* row);
  void addLayerChoice(QBoxLayout* row);
  void addToggle(QBoxLayout* row);
  void addSeed(QBoxLayout* row);
  void addStops(QBoxLayout* row);
  void addCurve(QBoxLayout* row);

  Document& document_;
  ParamAddress at_;
  const ParamSpec& spec_;
  std::vector<std::function<void(const Value&)>> refreshers_;
  int part_ = 1;
  std::optional<Param> shown_;  // what the controls show now
};

}  // namespace oa::app
