// Between the core's text and Qt's.
#pragma once

#include <QString>
#include <string>
#include <string_view>

#include "base/numbers.h"
#include "params/spec.h"

namespace oa::app {

inline QString text(std::string_view s) { return QString::fromUtf8(s.data(), static_cast<qsizetype>(s.size())); }

/// A number of a parameter as shown: shares as percent, and no more digits than its range can use.
inline QString numberLabel(const ParamSpec& spec, double v) {
  if (spec.unit == Unit::Share) return QString::number(std::lround(v * 100)).replace(QLatin1Char('-'), QChar(0x2212));
  const double span = spec.high() - spec.low();
  const int decimals = spec.isWhole() ? 0 : (span > 200 ? 0 : (span > 20 ? 1 : 2));
  return text(numberText(v, spec.unit == Unit::Pixels && std::abs(v) < 20 && !spec.isWhole() ? 1 : decimals))
      .replace(QLatin1Char('-'), QChar(0x2212));
}

/// The factor between the number shown and the number stored.
inline double shownFactor(const ParamSpec& spec) { return spec.unit == Unit::Share ? 100 : 1; }

}  // namespace oa::app
