#include "params/typed_number.h"

#include <algorithm>
#include <cmath>
#include <string>

#include "base/numbers.h"

namespace oa {
namespace {

bool isDigit(char c) { return c >= '0' && c <= '9'; }

// ASCII for what keyboards and other programs put in: minus signs, thin and fixed blanks, multiplication and division signs.
std::string plain(std::string_view text) {
  struct Pair {
    std::string_view from;
    std::string_view to;
  };
  constexpr Pair kPairs[] = {{"\u2212", "-"}, {"\u2013", "-"}, {"\u00A0", " "}, {"\u202F", " "}, {"\u2009", " "},
                             {"\u00D7", "*"}, {"\u00B7", "*"}, {"\u00F7", "/"}, {"\u2019", "'"}, {"\u00B0", "deg"}};
  std::string out(text);
  for (const Pair& pair : kPairs)
    for (std::size_t at = out.find(pair.from); at != std::string::npos; at = out.find(pair.from, at + pair.to.size()))
      out.replace(at, pair.from.size(), pair.to);
  return out;
}

// sum := product (("+" | "-") product)*, product := number (("*" | "x" | "/" | ":") number)*, a number with an optional unit.
class Reader {
 public:
  Reader(std::string text, const ParamSpec& spec) : text_(std::move(text)), spec_(spec) {}

  Result<double> read() {
    auto value = sum();
    if (!value) return value;
    blanks();
    if (at_ < text_.size()) return fail("\"" + text_.substr(at_, 20) + "\" is left over");
    if (!std::isfinite(*value)) return fail("that is no finite number");
    // In a field of shares a bare number means percent.
    if (spec_.unit == Unit::Share && !percent_) *value /= 100;
    return value;
  }

 private:
  void blanks() {
    while (at_ < text_.size() && text_[at_] == ' ') ++at_;
  }
  bool take(std::string_view signs, char& sign) {
    blanks();
    if (at_ >= text_.size() || signs.find(text_[at_]) == std::string_view::npos) return false;
    sign = text_[at_++];
    return true;
  }

  Result<double> sum() {
    auto left = product();
    for (char sign = 0; left && take("+-", sign);) {
      const auto right = product();
      if (!right) return right;
      *left += sign == '+' ? *right : -*right;
    }
    return left;
  }

  Result<double> product() {
    auto left = number();
    for (char sign = 0; left && take("*x/:", sign);) {
      const auto right = number();
      if (!right) return right;
      if (sign != '*' && sign != 'x' && *right == 0) return fail("nothing can be divided by 0");
      if (sign == '*' || sign == 'x')
        *left *= *right;
      else
        *left /= *right;
    }
    return left;
  }

  // Digits with separators. The last one parts the decimals, unless it came before and groups thousands.
  Result<double> number() {
    blanks();
    double sign = 1;
    for (char c = 0; take("+-", c);)
      if (c == '-') sign = -sign;
    blanks();
    const std::size_t start = at_;
    std::string digits;
    char last = 0;
    std::size_t lastAt = 0;
    int seen[2] = {};
    const auto separator = [](char c) { return c == '.' ? 0 : c == ',' ? 1 : -1; };
    for (; at_ < text_.size(); ++at_) {
      const char c = text_[at_];
      const bool between = at_ + 1 < text_.size() && isDigit(text_[at_ + 1]);
      if (isDigit(c)) {
        digits += c;
      } else if (separator(c) >= 0 && (between || !digits.empty())) {
        ++seen[separator(c)];
        last = c;
        lastAt = digits.size();
      } else if (!((c == ' ' || c == '\'' || c == '_') && !digits.empty() && isDigit(digits.back()) && groupOfThree())) {
        break;
      }
    }
    if (digits.empty()) {
      if (start >= text_.size())
        return fail(text_.find_first_not_of(' ') == std::string::npos ? "there is no number" : "a number is missing at the end");
      return fail("\"" + text_.substr(start, 20) + "\" is not a number");
    }
    const bool decimals = last != 0 && seen[separator(last)] == 1;
    if (decimals) digits.insert(lastAt, ".");
    if (digits.front() == '.') digits.insert(0, "0");
    if (digits.back() == '.') digits.pop_back();
    double value = 0;
    if (!parseNumber(digits, value)) return fail("\"" + text_.substr(start, 20) + "\" is not a number");
    if (auto ok = unit(value); !ok) return tl::unexpected(ok.error());
    return sign * value;
  }

  // After a blank or an apostrophe: exactly three digits, as thousands are grouped.
  [[nodiscard]] bool groupOfThree() const {
    for (std::size_t i = 1; i <= 3; ++i)
      if (at_ + i >= text_.size() || !isDigit(text_[at_ + i])) return false;
    return at_ + 4 >= text_.size() || !isDigit(text_[at_ + 4]);
  }

  Status unit(double& value) {
    const std::size_t start = at_;
    blanks();
    std::size_t end = at_;
    while (end < text_.size() && (std::isalpha(static_cast<unsigned char>(text_[end])) != 0 || text_[end] == '%')) ++end;
    std::string word = text_.substr(at_, end - at_);
    std::transform(word.begin(), word.end(), word.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    if (word.empty() || word == "x") {
      at_ = start;
      return {};
    }
    std::string own(unitText(spec_.unit));
    if (spec_.unit == Unit::Degrees) own = "deg";
    if (word == "%") {
      if (spec_.unit != Unit::Share && spec_.unit != Unit::None && spec_.unit != Unit::Ratio)
        return fail("this is in " + (own.empty() ? std::string("whole numbers") : own) + ", not in percent");
      value /= 100;
      percent_ = true;
    } else if (word != own && !(own.size() > 1 && own.back() == 's' && word == own.substr(0, own.size() - 1)) &&
               !(spec_.unit == Unit::Degrees && (word == "degree" || word == "degrees"))) {
      return fail("\"" + word + "\" is not a unit here" + (own.empty() ? std::string() : "; this is in " + own));
    }
    at_ = end;
    return {};
  }

  std::string text_;
  const ParamSpec& spec_;
  std::size_t at_ = 0;
  bool percent_ = false;
};

}  // namespace

Result<double> typedNumber(std::string_view text, const ParamSpec& spec) { return Reader(plain(text), spec).read(); }

}  // namespace oa
