// The far end of a swing, whatever its type: a number, two of them, or a colour.
#pragma once

#include <QWidget>
#include <optional>

#include "model/document.h"

class QHBoxLayout;

namespace oa::app {

class NumberField;
class Swatch;

class FarEnd : public QWidget {
  Q_OBJECT
 public:
  explicit FarEnd(Document& document, QWidget* parent = nullptr);
  /// Shows the far end of this parameter's swing, and nothing for anything else.
  void setMotion(std::optional<ParamAddress> at);

 private:
  void rebuild(const ParamSpec& spec);
  NumberField* addField(const char* name, const QString& accessible, double Point::*part);
  void write(const Value& value);
  [[nodiscard]] const Value& far() const { return document_.param(*at_).motion.far; }

  Document& document_;
  std::optional<ParamAddress> at_;
  const ParamSpec* spec_ = nullptr;  // what the controls were made for
  QHBoxLayout* row_;
  NumberField* number_ = nullptr;
  NumberField* across_ = nullptr;
  NumberField* down_ = nullptr;
  Swatch* swatch_ = nullptr;
};

}  // namespace oa::app
