// SVG path data, read and written (W3C SVG 1.1, section 8.3 and appendix F.6).
#include <algorithm>
#include <charconv>
#include <cmath>
#include <numbers>
#include <utility>

#include "base/outline.h"

namespace oa {
namespace {

// Larger numbers cannot be meant, and squares of them would not be finite.
constexpr double kFarthest = 1e6;

class PathReader {
 public:
  explicit PathReader(std::string_view text) : text_(text) {}

  Result<Outline> read() {
    if (auto ok = readOn(false); !ok) return tl::unexpected(ok.error());
    return made_;
  }
  Result<std::vector<Outline>> readAll() {
    if (auto ok = readOn(true); !ok) return tl::unexpected(ok.error());
    if (!made_.points.empty()) done_.push_back(std::move(made_));
    return std::move(done_);
  }

 private:
  // Up to the end of the first line, or of all.
  Status readOn(bool all) {
    made_.closed = false;
    while (skip(), at_ < text_.size()) {
      const char c = text_[at_];
      if (std::string_view("MmLlHhVvCcSsQqTtAaZz").find(c) != std::string_view::npos) {
        // A second line begins.
        if ((c == 'M' || c == 'm') && !made_.points.empty()) {
          if (!all) break;
          another();
        }
        command_ = c;
        ++at_;
        if (c == 'Z' || c == 'z') {
          if (made_.points.empty()) return bad("begins with Z");
          close();
          if (!all) break;
          now_ = pull_ = made_.points.front().at;
          another();
          before_ = 'Z';
          continue;
        }
        // Behind a closed line the next one may begin where that did.
        if (made_.points.empty() && !done_.empty() && c != 'M' && c != 'm') straightTo(now_);
        if (made_.points.empty() && c != 'M' && c != 'm') return bad("does not begin with M");
      } else if (made_.points.empty()) {
        return bad("does not begin with M");
      }
      if (auto ok = segment(); !ok) return tl::unexpected(ok.error());
      if (points_ + made_.points.size() > kMostOutlinePoints) return bad("has more than " + std::to_string(kMostOutlinePoints) + " points");
    }
    if (made_.points.empty() && done_.empty()) return bad("has no points");
    return {};
  }

  void another() {
    points_ += made_.points.size();
    done_.push_back(std::exchange(made_, Outline{{}, false}));
  }

  static tl::unexpected<Error> bad(const std::string& why) {
    return fail("the path " + why + "; it is written like \"M0 0 L10 0 L10 10 Z\"");
  }

  void skip() {
    while (at_ < text_.size() && (text_[at_] == ' ' || text_[at_] == ',' || text_[at_] == '\n' || text_[at_] == '\t' || text_[at_] == '\r'))
      ++at_;
  }

  bool number(double& to) {
    skip();
    const char* const end = text_.data() + text_.size();
    const char* begin = text_.data() + at_;
    if (begin < end && *begin == '+') ++begin;
    const auto [after, error] = std::from_chars(begin, end, to);
    if (error != std::errc() || !std::isfinite(to) || std::abs(to) > kFarthest) return false;
    at_ = static_cast<std::size_t>(after - text_.data());
    return true;
  }

  // The two flags of an arc may stand without anything between.
  bool flag(bool& to) {
    skip();
    if (at_ >= text_.size() || (text_[at_] != '0' && text_[at_] != '1')) return false;
    to = text_[at_++] == '1';
    return true;
  }

  bool place(Point& to) {
    if (!number(to.x) || !number(to.y)) return false;
    if (relative()) to = {to.x + now_.x, to.y + now_.y};
    return true;
  }
  [[nodiscard]] bool relative() const { return command_ >= 'a'; }

  void straightTo(Point p) {
    made_.points.push_back({p, p, p});
    now_ = pull_ = p;
  }
  void curveTo(Point b, Point c, Point d) {
    made_.points.back().after = b;
    made_.points.push_back({d, c, d});
    now_ = d;
    pull_ = c;
  }
  void quadraticTo(Point control, Point to) {
    const Point from = now_;
    curveTo({from.x + (control.x - from.x) * 2 / 3, from.y + (control.y - from.y) * 2 / 3},
            {to.x + (control.x - to.x) * 2 / 3, to.y + (control.y - to.y) * 2 / 3}, to);
    pull_ = control;
  }
  [[nodiscard]] Point mirrored() const { return {2 * now_.x - pull_.x, 2 * now_.y - pull_.y}; }

  Status segment() {
    const char kind = relative() ? static_cast<char>(command_ - 'a' + 'A') : command_;
    const bool curved = std::string_view("CSQT").find(before_) != std::string_view::npos;
    const bool cubic = before_ == 'C' || before_ == 'S';
    before_ = kind;
    Point a, b, c;
    switch (kind) {
      case 'M':
        if (!place(a)) break;
        straightTo(a);
        // What follows without a letter are lines.
        command_ = relative() ? 'l' : 'L';
        return {};
      case 'L':
        if (!place(a)) break;
        straightTo(a);
        return {};
      case 'H':
      case 'V': {
        double v = 0;
        if (!number(v)) break;
        a = now_;
        double& part = kind == 'H' ? a.x : a.y;
        part = relative() ? part + v : v;
        straightTo(a);
        return {};
      }
      case 'C':
        if (!place(a) || !place(b) || !place(c)) break;
        curveTo(a, b, c);
        return {};
      case 'S':
        a = cubic ? mirrored() : now_;
        if (!place(b) || !place(c)) break;
        curveTo(a, b, c);
        return {};
      case 'Q':
        if (!place(a) || !place(b)) break;
        quadraticTo(a, b);
        return {};
      case 'T':
        a = curved && !cubic ? mirrored() : now_;
        if (!place(b)) break;
        quadraticTo(a, b);
        return {};
      default: {
        double rx = 0;
        double ry = 0;
        double turn = 0;
        bool large = false;
        bool sweep = false;
        if (!number(rx) || !number(ry) || !number(turn) || !flag(large) || !flag(sweep) || !place(a)) break;
        arcTo(std::abs(rx), std::abs(ry), turn, large, sweep, a);
        return {};
      }
    }
    return bad("is not complete after " + std::to_string(at_) + " characters");
  }

  // From end points to a middle and angles (appendix F.6.5), and then quarters as cubic curves.
  void arcTo(double rx, double ry, double degrees, bool large, bool sweep, Point to) {
    const Point from = now_;
    if (rx == 0 || ry == 0 || from == to) return straightTo(to);
    const double phi = degrees * (std::numbers::pi / 180);
    const double c = std::cos(phi);
    const double s = std::sin(phi);
    const double hx = (from.x - to.x) / 2;
    const double hy = (from.y - to.y) / 2;
    const double x1 = c * hx + s * hy;
    const double y1 = c * hy - s * hx;
    const double wide = x1 * x1 / (rx * rx) + y1 * y1 / (ry * ry);
    if (wide > 1) {
      rx *= std::sqrt(wide);
      ry *= std::sqrt(wide);
    }
    const double below = rx * rx * y1 * y1 + ry * ry * x1 * x1;
    const double k = std::sqrt(std::max(0.0, (rx * rx * ry * ry - below) / below)) * (large == sweep ? -1 : 1);
    const double cx = k * rx * y1 / ry;
    const double cy = -k * ry * x1 / rx;
    const Point middle{c * cx - s * cy + (from.x + to.x) / 2, s * cx + c * cy + (from.y + to.y) / 2};
    const double begin = std::atan2((y1 - cy) / ry, (x1 - cx) / rx);
    double sweepBy = std::atan2((-y1 - cy) / ry, (-x1 - cx) / rx) - begin;
    if (sweep && sweepBy < 0) sweepBy += 2 * std::numbers::pi;
    if (!sweep && sweepBy > 0) sweepBy -= 2 * std::numbers::pi;
    const int parts = std::max(1, static_cast<int>(std::ceil(std::abs(sweepBy) / (std::numbers::pi / 2) - 1e-9)));
    const double step = sweepBy / parts;
    const double pull = 4.0 / 3 * std::tan(step / 4);
    const auto on = [&](double x, double y) { return Point{middle.x + c * rx * x - s * ry * y, middle.y + s * rx * x + c * ry * y}; };
    for (int i = 0; i < parts; ++i) {
      const double a = begin + i * step;
      const double b = a + step;
      curveTo(on(std::cos(a) - pull * std::sin(a), std::sin(a) + pull * std::cos(a)),
              on(std::cos(b) + pull * std::sin(b), std::sin(b) - pull * std::cos(b)), i + 1 == parts ? to : on(std::cos(b), std::sin(b)));
    }
  }

  // A line that was led back to its beginning needs no second point there.
  void close() {
    made_.closed = true;
    if (made_.points.size() > 1 && made_.points.back().at == made_.points.front().at) {
      made_.points.front().before = made_.points.back().before;
      made_.points.pop_back();
    }
  }

  std::string_view text_;
  std::size_t at_ = 0;
  char command_ = 0;
  char before_ = 0;
  Point now_;
  Point pull_;
  Outline made_;
  std::vector<Outline> done_;
  std::size_t points_ = 0;  // of those
};

void write(std::string& text, double v) {
  char digits[32];
  const auto [end, error] = std::to_chars(std::begin(digits), std::end(digits), v);
  text.append(digits, end);
}

void write(std::string& text, Point p) {
  text += ' ';
  write(text, p.x);
  text += ' ';
  write(text, p.y);
}

}  // namespace

Result<Outline> outlineFromPath(std::string_view path) { return PathReader(path).read(); }

Result<std::vector<Outline>> outlinesFromPath(std::string_view path) { return PathReader(path).readAll(); }

std::string pathText(const Outline& outline) {
  std::string text;
  if (outline.points.empty()) return text;
  text += 'M';
  write(text, outline.points.front().at);
  const std::size_t pieces = outline.points.size() == 1 ? 0 : pieceCount(outline);
  for (std::size_t i = 0; i < pieces; ++i) {
    const OutlinePoint& from = outline.points[i];
    const OutlinePoint& to = outline.points[(i + 1) % outline.points.size()];
    const bool straight = from.after == from.at && to.before == to.at;
    const bool closing = i + 1 == outline.points.size();
    if (straight && closing) break;
    text += straight ? " L" : " C";
    if (!straight) {
      write(text, from.after);
      write(text, to.before);
    }
    write(text, to.at);
  }
  if (outline.closed) text += " Z";
  return text;
}

}  // namespace oa
