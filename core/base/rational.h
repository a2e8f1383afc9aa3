// Frame rates are ratios of whole numbers, so that 30000/1001 stays exact.
#pragma once

#include <numeric>
#include <string>

namespace oa {

struct Rational {
  int num = 30;
  int den = 1;

  [[nodiscard]] double value() const { return static_cast<double>(num) / den; }
  [[nodiscard]] Rational reduced() const {
    const int g = std::gcd(num, den);
    return g > 0 ? Rational{num / g, den / g} : *this;
  }
  bool operator==(const Rational&) const = default;
};

}  // namespace oa
