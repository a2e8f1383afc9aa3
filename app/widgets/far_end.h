// Where a motion goes, whatever the value's type: the far end of a swing, the reach of a walk, or the value of a keyframe or hop.
#pragma once

#include <QWidget>
#include <optional>

#include "model/document.h"

class QHBoxLayout;
class QLabel;

namespace oa::app {

class NumberField;
class Swatch;

class FarEnd : public QWidget {
  Q_OBJECT
 public:
  explicit FarEnd(Document& document, QWidget* parent = nullptr);
  /// Shows where this parameter's motion goes (`key`: its chosen keyframe or hop), and nothing for a turn.
  void setMotion(std::optional<ParamAddress> at, int key);

 private:
  void rebuild(const ParamSpec& spec);
  NumberField* addField(const char* name, const QString& accessible, double Point::*part);
  void write(const Value& value);
  [[nodiscard]] const Value& far() const;

  Document& document_;
  std::optional<ParamAddress> at_;
  int key_ = 0;
  QLabel* label_ = nullptr;
  const ParamSpec* spec_ = nullptr;  // what the controls were made for
  QHBoxLayout* row_;
  NumberField* number_ = nullptr;
  NumberField* across_ = nullptr;
  NumberField* down_ = nullptr;
  Swatch* swatch_ = nullptr;
};

}  // namespace oa::app
