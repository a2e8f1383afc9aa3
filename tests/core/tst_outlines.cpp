// Outlines as values: path data there and back, points that are added where the line stays, poses; areas and strokes by numbers.
#include <QTest>
#include <cmath>
#include <numbers>

#include "base/outline.h"
#include "base/random.h"
#include "params/param.h"
#include "shapes/area_cover.h"
#include "shapes/line_art.h"
#include "shapes/measured_line.h"
#include "support/pictures.h"

using namespace oa;

namespace {

constexpr double kPi = std::numbers::pi;

double unit(int seed, int which) { return randomUnit(static_cast<std::uint64_t>(seed), static_cast<std::uint64_t>(which)); }

Outline random(int seed, int points, bool closed) {
  Outline made;
  made.closed = closed;
  for (int i = 0; i < points; ++i) {
    const auto at = [&](int k) { return Point{unit(seed, 12 * i + k) * 80 + 10, unit(seed, 12 * i + k + 1) * 60 + 10}; };
    const Point p = at(0);
    made.points.push_back(unit(seed, 12 * i + 8) < 0.4 ? OutlinePoint{p, p, p} : OutlinePoint{p, at(2), at(4)});
  }
  // Pulls beyond the ends of an open line mean nothing.
  if (!closed) {
    made.points.front().before = made.points.front().at;
    made.points.back().after = made.points.back().at;
  }
  return made;
}

double apart(Point a, Point b) { return std::hypot(a.x - b.x, a.y - b.y); }

double distanceTo(const std::vector<Point>& line, Point p) {
  double nearest = 1e9;
  for (std::size_t i = 0; i + 1 < line.size(); ++i) {
    const Point a = line[i];
    const Point d{line[i + 1].x - a.x, line[i + 1].y - a.y};
    const double l2 = d.x * d.x + d.y * d.y;
    const double t = l2 > 0 ? std::clamp(((p.x - a.x) * d.x + (p.y - a.y) * d.y) / l2, 0.0, 1.0) : 0;
    nearest = std::min(nearest, apart(p, {a.x + t * d.x, a.y + t * d.y}));
  }
  return nearest;
}

std::vector<std::array<double, 4>> painted(const LineArt& art, int width, int height) {
  const auto rows = lineArtRows(art, width, height);
  const std::ptrdiff_t stride = paddedRow(width, 4);
  std::vector<float> out(static_cast<std::size_t>(stride) * static_cast<std::size_t>(height));
  for (int y = 0; y < height; y += 5) rows->rows(y, std::min(height, y + 5), out.data() + y * stride, stride);
  std::vector<std::array<double, 4>> pixels;
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) {
      auto& pixel = pixels.emplace_back();
      for (std::size_t c = 0; c < 4; ++c) pixel[c] = static_cast<double>(out[static_cast<std::size_t>(y * stride + x * 4) + c]);
    }
  return pixels;
}

}  // namespace

class TestOutlines : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void pathsComeBackAsTheyWere();
  void pathsOfAllCommands();
  void badPathsAreRefused_data();
  void badPathsAreRefused();
  void anAddedPointChangesNothing();
  void piecesLieOnTheLine();
  void posesMeetInValueAndSpeed();
  void partsOfALine();
  void areasAreExact();
  void strokesAreThatWide();
  void everyTargetDrawsTheSame();
};

void TestOutlines::pathsComeBackAsTheyWere() {
  for (int seed = 0; seed < 200; ++seed) {
    const Outline made = random(seed, 1 + seed % 9, seed % 2 == 0 && seed % 9 > 0);
    const auto read = outlineFromPath(pathText(made));
    QVERIFY2(read.has_value(), pathText(made).c_str());
    QVERIFY2(*read == made, pathText(made).c_str());
  }
}

void TestOutlines::pathsOfAllCommands() {
  // The same house in three spellings.
  const auto plain = outlineFromPath("M 10 20 L 40 20 L 40 50 L 10 50 Z");
  QVERIFY(plain.has_value());
  QCOMPARE(plain->points.size(), std::size_t{4});
  for (const char* other : {"m10,20h30v30h-30z", "M10 20H40V50H10V20Z", " M10 20 40 20 40 50 10 50z M 90 90 L 95 95"}) {
    const auto read = outlineFromPath(other);
    QVERIFY2(read.has_value() && *read == *plain, other);
  }
  // A quarter circle as an arc: everywhere as far from its middle; the flags may stand close.
  for (const char* arc : {"M 50 0 A 50 50 0 0 1 0 50", "M50 0a50 50 0 01-50 50"}) {
    const auto read = outlineFromPath(arc);
    QVERIFY2(read.has_value(), arc);
    QVERIFY(!read->closed);
    for (const Point& p : flattened(*read, 0.01)) QVERIFY(std::abs(std::hypot(p.x, p.y) - 50) < 0.03);
    QVERIFY(apart(read->points.back().at, {0, 50}) < 1e-9);
  }
  // The long way round an ellipse.
  const auto large = outlineFromPath("M 0 -30 A 60 30 0 1 1 -60 0");
  QVERIFY(large.has_value());
  double most = 0;
  for (const Point& p : flattened(*large, 0.01)) {
    QVERIFY(std::abs(std::hypot(p.x / 60, p.y / 30) - 1) < 2e-3);
    most = std::max(most, p.x);
  }
  QVERIFY(std::abs(most - 60) < 0.1);
  // Smooth ones mirror the pull before them; a quadratic curve by its formula.
  const auto smooth = outlineFromPath("M0 0 C 0 10 10 20 20 20 S 40 10 40 0");
  QVERIFY(smooth.has_value() && (smooth->points[1].after == Point{30, 20}));
  const auto quadratic = outlineFromPath("M0 0 Q 10 20 20 0 T 40 0");
  QVERIFY(quadratic.has_value());
  for (const double t : {0.2, 0.5, 0.9}) QVERIFY(apart(placeOn(*quadratic, 0, t), {20 * t, 40 * t * (1 - t)}) < 1e-9);
  QVERIFY(apart(placeOn(*quadratic, 1, 0.5), {30, -10}) < 1e-9);
}

void TestOutlines::badPathsAreRefused_data() {
  QTest::addColumn<QString>("path");
  for (const char* path : {"", "  ", "L 10 10", "Z", "M", "M 10", "M 1e400 0", "M 10 10 L x 3", "M 1 1 C 2 2 3 3", "M 1 1 A 5 5 0 2 0 9 9",
                           "10 10", "M nan 0", "M 0 0 L 1e9 0", "M 0 0 & 5 5"})
    QTest::newRow(path) << QString::fromLatin1(path);
  QTest::newRow("endless") << QStringLiteral("M 0 0") + QStringLiteral(" 1 1").repeated(20000);
}

void TestOutlines::badPathsAreRefused() {
  QFETCH(QString, path);
  const auto read = outlineFromPath(path.toStdString());
  QVERIFY(!read.has_value());
  QVERIFY(read.error().message.find("the path") == 0);
}

void TestOutlines::anAddedPointChangesNothing() {
  for (int seed = 0; seed < 40; ++seed) {
    const Outline made = random(seed, 4, seed % 2 == 0);
    const std::size_t piece = static_cast<std::size_t>(seed) % pieceCount(made);
    const double t = 0.1 + 0.8 * unit(seed, 900);
    const Outline more = withPointOn(made, piece, t);
    QCOMPARE(more.points.size(), made.points.size() + 1);
    QVERIFY(apart(more.points[piece + 1].at, placeOn(made, piece, t)) < 1e-9);
    for (int i = 0; i <= 20; ++i) {
      const double u = i / 20.0;
      const Point was = placeOn(made, piece, u);
      const Point is = u < t ? placeOn(more, piece, u / t) : placeOn(more, piece + 1, (u - t) / (1 - t));
      QVERIFY(apart(was, is) < 1e-9);
    }
  }
}

void TestOutlines::piecesLieOnTheLine() {
  for (int seed = 0; seed < 30; ++seed) {
    const Outline made = random(seed, 5, seed % 2 == 0);
    for (const double tolerance : {1.0, 0.1}) {
      const auto line = flattened(made, tolerance);
      for (std::size_t piece = 0; piece < pieceCount(made); ++piece)
        for (int i = 0; i <= 40; ++i) QVERIFY(distanceTo(line, placeOn(made, piece, i / 40.0)) <= tolerance + 1e-9);
      if (made.closed) QVERIFY(line.front() == line.back());
    }
  }
  // Nothing, one point, all points in one place.
  QVERIFY(flattened(Outline{}, 1).empty());
  QCOMPARE(flattened(Outline{{{{1, 2}, {1, 2}, {1, 2}}}}, 1).size(), std::size_t{1});
  QVERIFY(flattened(random(1, 9000, true), 0.01, 20000).size() < 40000);
}

// Poses are keyframes: over the joint value and, with such a pace, speed go on.
void TestOutlines::posesMeetInValueAndSpeed() {
  const ParamSpec spec{
      .id = "outline", .label = "Outline", .help = "", .type = ParamType::Outline, .base = random(1, 5, true), .min = -1e4, .max = 1e4};
  Param param = defaultParam(spec);
  param.motion.kind = MotionKind::Keyframes;
  for (int i = 0; i < 3; ++i) {
    Keyframe key;
    key.at = i / 3.0;
    key.value = random(10 + i, 5, true);
    key.pace = *Pace::fromName("ease-in-out");
    placeKeyframe(param.motion, key);
  }
  const auto at = [&](std::int64_t frame) { return std::get<Outline>(evaluate(spec, param, {frame, 3000}).value); };
  QVERIFY(at(0) == std::get<Outline>(param.motion.keys[0].value));
  QVERIFY(at(1000) == std::get<Outline>(param.motion.keys[1].value));
  for (const std::int64_t joint : {0, 1000, 2000}) {
    const Outline a = at(joint - 1);
    const Outline b = at(joint);
    const Outline c = at(joint + 1);
    for (std::size_t i = 0; i < b.points.size(); ++i) {
      QVERIFY(apart(a.points[i].at, b.points[i].at) < 0.05);
      QVERIFY(apart({b.points[i].at.x - a.points[i].at.x, b.points[i].at.y - a.points[i].at.y},
                    {c.points[i].at.x - b.points[i].at.x, c.points[i].at.y - b.points[i].at.y}) < 0.01);
    }
  }
  // Half of the way every point is half-way.
  const Outline half = mixOutlines(random(1, 5, true), random(2, 5, true), 0.5);
  for (std::size_t i = 0; i < 5; ++i)
    QVERIFY(apart(half.points[i].after, {(random(1, 5, true).points[i].after.x + random(2, 5, true).points[i].after.x) / 2,
                                         (random(1, 5, true).points[i].after.y + random(2, 5, true).points[i].after.y) / 2}) < 1e-9);
  QVERIFY(mixOutlines(random(1, 5, true), random(2, 6, true), 0.4) == random(1, 5, true));
  QCOMPARE(allowedMotions(spec).size(), std::size_t{6});
}

void TestOutlines::partsOfALine() {
  const MeasuredLine square({{0, 0}, {10, 0}, {10, 10}, {0, 10}, {0, 0}}, true);
  QCOMPARE(square.length(), 40.0);
  QVERIFY(apart(square.at(0.125).at, {5, 0}) < 1e-9 && apart(square.at(1.375).at, {10, 5}) < 1e-9);
  QVERIFY(apart(square.at(0.375).along, {0, 1}) < 1e-9);
  // Over the place where it began.
  const auto part = square.part(0.9, 1.15);
  double length = 0;
  for (std::size_t i = 1; i < part.size(); ++i) length += apart(part[i].at, part[i - 1].at);
  QVERIFY(std::abs(length - 10) < 1e-9);
  QVERIFY(apart(part.front().at, {0, 4}) < 1e-9 && apart(part.back().at, {6, 0}) < 1e-9);
  QVERIFY(std::any_of(part.begin(), part.end(), [](const auto& p) { return apart(p.at, {0, 0}) < 1e-9; }));
  const MeasuredLine open({{0, 0}, {10, 0}}, false);
  QVERIFY(open.part(-0.5, 0.25).back().at == (Point{2.5, 0}) && open.part(-0.5, 0.25).front().at == (Point{0, 0}));
  QVERIFY(open.part(1.1, 1.5).empty() && MeasuredLine({}, true).part(0, 1).empty() &&
          MeasuredLine({{3, 3}, {3, 3}}, true).part(0, 1).empty());
  QVERIFY((MeasuredLine({{3, 4}}, false).at(0.7).at == Point{3, 4}));
}

// Against parts of each pixel, counted by the winding number.
void TestOutlines::areasAreExact() {
  for (int seed = 0; seed < 12; ++seed) {
    // Stars about a middle, so that no line crosses itself; some reach over the picture's edges.
    Filling filling;
    auto& line = filling.lines.emplace_back();
    const int corners = 3 + seed;
    for (int i = 0; i < corners; ++i) {
      const double far = 10 + 26 * unit(seed, i);
      const double turn = 2 * kPi * (i + 0.3 * unit(seed, 100 + i)) / corners;
      line.push_back({20 + far * std::cos(turn), 15 + far * std::sin(turn)});
    }
    const auto made = painted({{filling}, {}, false}, 40, 30);
    constexpr int kParts = 24;
    for (int y = 0; y < 30; ++y)
      for (int x = 0; x < 40; ++x) {
        int within = 0;
        for (int k = 0; k < kParts * kParts; ++k) {
          const int down = k / kParts;
          const Point p{x - 0.5 + (k % kParts + 0.5) / kParts, y - 0.5 + (down + 0.5) / kParts};
          bool inside = false;
          for (std::size_t i = 0, j = line.size() - 1; i < line.size(); j = i++)
            if ((line[i].y > p.y) != (line[j].y > p.y) &&
                p.x < line[i].x + (p.y - line[i].y) / (line[j].y - line[i].y) * (line[j].x - line[i].x))
              inside = !inside;
          within += inside;
        }
        const double share = within / static_cast<double>(kParts * kParts);
        const double is = made[static_cast<std::size_t>(y) * 40 + static_cast<std::size_t>(x)][3];
        QVERIFY2(std::abs(is - share) < 0.03,
                 qPrintable(QStringLiteral("%1: %2 of %3 at %4, %5").arg(seed).arg(is).arg(share).arg(x).arg(y)));
      }
  }
}

void TestOutlines::strokesAreThatWide() {
  for (const double width : {0.4, 1.0, 3.0, 9.0})
    for (const double turn : {0.0, 0.3, 1.1}) {
      Stroke stroke;
      const Point way{std::cos(turn) * 30, std::sin(turn) * 30};
      // In three pieces, that lie over each other where they meet: nothing is painted twice.
      for (const double t : {-1.0, -0.2, 0.4, 1.0}) stroke.points.push_back({{50 + t * way.x, 50 + t * way.y}, width / 2, 0.5});
      double sum = 0;
      double most = 0;
      for (const auto& pixel : painted({{}, {stroke}, false}, 100, 100)) {
        sum += pixel[3];
        most = std::max(most, pixel[3]);
      }
      const double area = 0.5 * (60 * width + kPi * width * width / 4);
      QVERIFY2(std::abs(sum - area) < 0.04 * area + 0.5, qPrintable(QStringLiteral("%1: %2 of %3").arg(width).arg(sum).arg(area)));
      QVERIFY(most < 0.5001);
    }
}

void TestOutlines::everyTargetDrawsTheSame() {
  LineArt art;
  for (int i = 0; i < 2; ++i) {
    Filling& filling = art.fillings.emplace_back();
    for (const Point& p : flattened(random(i, 5, true), 0.1)) {
      if (filling.lines.empty()) filling.lines.emplace_back();
      filling.lines.back().push_back(p);
    }
    filling.colour = {0.3F, 0.1F * static_cast<float>(i), 0.2F, 0.6F};
  }
  for (int i = 0; i < 24; ++i) {
    Stroke& stroke = art.strokes.emplace_back();
    for (const Point& p : flattened(random(20 + i, 4, i % 2 == 0), 0.3))
      stroke.points.push_back({p, 0.2 + 4 * unit(i, static_cast<int>(stroke.points.size())),
                               unit(i, 500 + static_cast<int>(stroke.points.size())),
                               unit(i, 900 + static_cast<int>(stroke.points.size()))});
    stroke.softness = i % 2 == 1 ? 5 + 4.0 * i : 0;
    stroke.colour = {0.5F, 0.2F, 0.1F, 0.8F};
    stroke.second = {0.1F, 0.2F, 0.6F, 0.6F};
  }
  // Points that are nowhere are left out.
  art.strokes[0].points.push_back({{std::nan(""), 3}});
  art.strokes[1].points.push_back({{1e12, -1e12}});
  int targets = 0;
  test::forEachTarget([&](const char* target) {
    ++targets;
    for (const bool add : {false, true}) {
      art.add = add;
      const auto made = painted(art, 100, 80);
      double worst = 0;
      for (int y = 0; y < 80; ++y)
        for (int x = 0; x < 100; ++x) {
          const auto truth = plainLineArtPixel(art, x, y);
          for (std::size_t c = 0; c < 4; ++c)
            worst = std::max(worst, std::abs(truth[c] - made[static_cast<std::size_t>(y) * 100 + static_cast<std::size_t>(x)][c]));
        }
      QVERIFY2(worst < 2e-3, qPrintable(QStringLiteral("%1: %2").arg(QLatin1String(target)).arg(worst)));
    }
  });
  QVERIFY(targets >= 1);
}

QTEST_APPLESS_MAIN(TestOutlines)
#include "tst_outlines.moc"
