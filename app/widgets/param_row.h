// One parameter on a card: name, control, number with unit, motion pill. Made from the parameter's table alone.
#pragma once

#include <QWidget>
#include <functional>
#include <memory>
#include <optional>

#include "model/document.h"

class QBoxLayout;

namespace oa::app {

class ParamRow : public QWidget {
  Q_OBJECT
 public:
  /// With `pixels` the numbers of a place are shown in pixels, so many for 1.
  ParamRow(Document& document, ParamAddress at, QWidget* parent = nullptr, Point pixels = {});
  /// Takes over the present value, and hides where the table says so.
  void refresh();
  /// A row of an item shows that of another one, or of all.
  void showItem(Id item);
  [[nodiscard]] ParamAddress address() const { return at_; }

 protected:
  /// Back to the default, and what its motion offers.
  void contextMenuEvent(QContextMenuEvent* event) override;

 private:
  void addNumber(QBoxLayout* row, int part);
  void addColour(QBoxLayout* row);
  void addChoice(QBoxLayout* row);
  void addLayerChoice(QBoxLayout* row);
  void addFile(QBoxLayout* row);
  void addText(QBoxLayout* row);
  void addFont(QBoxLayout* row);
  void addCopies(QBoxLayout* row);
  void addOutline(QBoxLayout* row);
  void addToggle(QBoxLayout* row);
  void addSeed(QBoxLayout* row);
  void addCurve(QBoxLayout* row);
  [[nodiscard]] bool keepsProportions() const;
  void copyMotions() const;
  void pasteMotions();

  Document& document_;
  ParamAddress at_;
  const ParamSpec& spec_;
  std::vector<std::function<void(const Value&)>> refreshers_;
  Point pixels_;
  std::vector<std::unique_ptr<ParamSpec>> inPixels_;
  std::optional<Param> shown_;  // what the controls show now
};

}  // namespace oa::app
