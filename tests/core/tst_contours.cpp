// Edges of fields, and lines read from drawings: closed, where they should be, and alike to what others draw.
#include <QImage>
#include <QPainter>
#include <QSvgRenderer>
#include <QTest>
#include <cmath>
#include <functional>
#include <numbers>

#include "base/random.h"
#include "image/sampling.h"
#include "shapes/contours.h"
#include "shapes/drawing_lines.h"
#include "shapes/line_art.h"

using namespace oa;

namespace {

// Twice the area that a line goes round, clockwise above 0 (y runs down).
double doubleArea(const std::vector<Point>& line) {
  double sum = 0;
  for (std::size_t i = 0; i + 1 < line.size(); ++i) sum += line[i].x * line[i + 1].y - line[i + 1].x * line[i].y;
  return sum;
}

std::vector<float> field(int width, int height, const std::function<double(double, double)>& f) {
  std::vector<float> v;
  for (int y = 0; y < height; ++y)
    for (int x = 0; x < width; ++x) v.push_back(static_cast<float>(f(x, y)));
  return v;
}

}  // namespace

class TestContours : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void aDiscIsRound();
  void holesRunTheOtherWay();
  void randomFieldsClose();
  void theRimCloses();
  void evenedLinesBeginAtTheUpperLeft();
  void shapesOfADrawing();
  void transformationsApply();
  void whatIsNotSeenIsLeftOut();
  void drawingsAreDrawnAsOthersDrawThem_data();
  void drawingsAreDrawnAsOthersDrawThem();
  void hostileDrawings_data();
  void hostileDrawings();
};

void TestContours::aDiscIsRound() {
  const double r = 21.3;
  const auto values = field(64, 60, [&](double x, double y) { return std::clamp(0.5 + r - std::hypot(x - 31.2, y - 28.7), 0.0, 1.0); });
  const auto lines = contours(values, 64, 60, 0.5f);
  QCOMPARE(lines.size(), std::size_t{1});
  for (const Point& p : lines[0]) QVERIFY(std::abs(std::hypot(p.x - 31.2, p.y - 28.7) - r) < 0.12);
  QVERIFY(std::abs(doubleArea(lines[0]) / 2 - std::numbers::pi * r * r) < 3);
}

void TestContours::holesRunTheOtherWay() {
  const auto values = field(80, 80, [](double x, double y) {
    const double d = std::hypot(x - 40, y - 40);
    return std::clamp(0.5 + std::min(30 - d, d - 12), 0.0, 1.0);
  });
  const auto lines = evenedContours(contours(values, 80, 80, 0.5f), 4, 10);
  QCOMPARE(lines.size(), std::size_t{2});
  QVERIFY(doubleArea(lines[0]) > 0);
  QVERIFY(doubleArea(lines[1]) < 0);
}

// Whatever the field is: every line closes, and all of them go round just what reaches the level.
void TestContours::randomFieldsClose() {
  for (std::uint64_t seed = 0; seed < 60; ++seed) {
    const int w = 1 + static_cast<int>(randomUnit(seed, 1) * 40);
    const int h = 1 + static_cast<int>(randomUnit(seed, 2) * 40);
    // Of whole steps, so that places do not lie between pixels and areas are exact.
    const auto values =
        field(w, h, [&](double x, double y) { return randomUnit(seed * 131 + 7, static_cast<std::uint64_t>(y * 64 + x)) < 0.5 ? 0 : 1; });
    double area = 0;
    for (const auto& line : contours(values, w, h, 0.5f)) {
      QVERIFY(line.size() >= 5);
      QVERIFY(line.front() == line.back());
      area += doubleArea(line) / 2;
    }
    // Each pixel that reaches it is a square about its middle; each cell's corner that is cut off or filled is an eighth.
    double exact = 0;
    for (int y = -1; y < h; ++y)
      for (int x = -1; x < w; ++x) {
        int in = 0;
        bool ul = false;
        bool lr = false;
        for (int k = 0; k < 4; ++k) {
          const int px = x + (k & 1);
          const int py = y + k / 2;
          const bool one = px >= 0 && py >= 0 && px < w && py < h &&
                           values[static_cast<std::size_t>(py) * static_cast<std::size_t>(w) + static_cast<std::size_t>(px)] > 0.5f;
          in += one;
          if (k == 0) ul = one;
          if (k == 3) lr = one;
        }
        // Two opposite corners inside the field have a mean of one half: joined. At the rim the mean is far below it.
        const bool rim = x < 0 || y < 0 || x + 1 >= w || y + 1 >= h;
        const double two = ul == lr && !rim ? 0.75 : ul == lr ? 0.25 : 0.5;
        exact += in == 1 ? 0.125 : in == 2 ? two : in == 3 ? 0.875 : in == 4 ? 1 : 0;
      }
    QVERIFY2(std::abs(area - exact) < 1e-6, qPrintable(QStringLiteral("%1: %2 %3").arg(seed).arg(area).arg(exact)));
  }
}

void TestContours::theRimCloses() {
  const auto lines = contours(std::vector<float>(12 * 7, 1.0f), 12, 7, 0.5f);
  QCOMPARE(lines.size(), std::size_t{1});
  for (const Point& p : lines[0]) QVERIFY(p.x >= -0.5 && p.x <= 11.5 && p.y >= -0.5 && p.y <= 6.5);
  QVERIFY(std::abs(doubleArea(lines[0]) / 2 - (12 * 7 - 0.5)) < 1e-9);
  QVERIFY(contours({}, 0, 0, 0.5f).empty());
  QVERIFY(contours(std::vector<float>(9, 0.0f), 3, 3, 0.5f).empty());
}

void TestContours::evenedLinesBeginAtTheUpperLeft() {
  const auto values = field(90, 60, [](double x, double y) { return x > 10 && x < 80 && y > 8 && y < 50 ? 1 : x > 84 && y > 56 ? 1 : 0; });
  const auto lines = evenedContours(contours(values, 90, 60, 0.5f), 6, 10);
  QCOMPARE(lines.size(), std::size_t{2});
  QVERIFY(lines[0].size() > lines[1].size());
  QVERIFY(std::abs(lines[0][0].x - 10.5) < 2 && std::abs(lines[0][0].y - 8.5) < 2);
  QVERIFY(lines[0].front() == lines[0].back());
  QCOMPARE(evenedContours(contours(values, 90, 60, 0.5f), 6, 1).size(), std::size_t{1});
  QCOMPARE(evenedContours(contours(values, 90, 60, 0.5f), 1000, 9).size(), std::size_t{0});
}

void TestContours::shapesOfADrawing() {
  const auto drawing =
      linesOfDrawing(R"x(<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100"><rect x="10" y="20" width="30" height="40"/>)x"
                     R"x(<circle cx="100" cy="50" r="25"/><ellipse cx="150" cy="50" rx="20" ry="10"/><line x1="1" y1="2" x2="3" y2="4"/>)x"
                     R"x(<polyline points="0,0 10,0 10,10"/><polygon points="0 0 10 0 10 10"/><path d="M0 0 L5 5 M10 10 h5 v5 z l-3 0"/>)x"
                     R"x(<rect width="20" height="10" rx="4"/></svg>)x");
  QVERIFY(drawing.has_value());
  QVERIFY(drawing->size.x == 200 && drawing->size.y == 100);
  const auto& lines = drawing->lines;
  QCOMPARE(lines.size(), std::size_t{10});
  const std::vector<std::size_t> points{4, 4, 4, 2, 3, 3, 2, 3, 2, 8};
  const std::vector<bool> closed{true, true, true, false, false, true, false, true, false, true};
  for (std::size_t i = 0; i < lines.size(); ++i) {
    QCOMPARE(lines[i].points.size(), points[i]);
    QCOMPARE(static_cast<bool>(lines[i].closed), static_cast<bool>(closed[i]));
  }
  for (const Point& p : flattened(lines[1], 0.01)) QVERIFY(std::abs(std::hypot(p.x - 100, p.y - 50) - 25) < 0.02);
  // Behind a closed line the next one begins where that did.
  QVERIFY((lines[8].points[0].at == Point{10, 10} && lines[8].points[1].at == Point{7, 10}));
  const double area = doubleArea(flattened(lines[9], 0.01)) / 2;
  QVERIFY(std::abs(area - (200 - 16 * (4 - std::numbers::pi))) < 0.1);
}

void TestContours::transformationsApply() {
  const auto at = [](const char* transform) {
    const auto drawing = linesOfDrawing(
        QStringLiteral(R"x(<svg viewBox="0 0 100 100"><g transform="translate(5,7)"><path transform="%1" d="M1 2 L10 20"/></g></svg>)x")
            .arg(QLatin1String(transform))
            .toStdString());
    return drawing->lines.at(0).points[1].at;
  };
  const auto near = [](Point a, Point b) { return std::hypot(a.x - b.x, a.y - b.y) < 1e-9; };
  QVERIFY(near(at(""), {15, 27}));
  QVERIFY(near(at("translate(1 2)"), {16, 29}));
  QVERIFY(near(at("scale(2)"), {25, 47}));
  QVERIFY(near(at("scale(2,3) translate(1,1)"), {5 + 22, 7 + 63}));
  QVERIFY(near(at("rotate(90)"), {5 - 20, 7 + 10}));
  QVERIFY(near(at("rotate(180, 10, 20)"), {15, 27}));
  QVERIFY(near(at("matrix(1 0 0.5 1 3 4)"), {5 + 10 + 10 + 3, 7 + 20 + 4}));
  QVERIFY(near(at("skewX(45)"), {5 + 30, 27}));
  // The box that is seen fills what the drawing is large.
  const auto boxed = linesOfDrawing(R"x(<svg width="2in" height="96px" viewBox="10 10 48 48"><path d="M10 10 L58 58"/></svg>)x");
  QVERIFY(boxed->size.x == 192 && boxed->size.y == 96);
  QVERIFY(near(boxed->lines[0].points[0].at, {48, 0}) && near(boxed->lines[0].points[1].at, {144, 96}));
}

void TestContours::whatIsNotSeenIsLeftOut() {
  const auto drawing =
      linesOfDrawing(R"x(<svg><defs><path d="M0 0 L1 1"/></defs><clipPath id="a"><rect width="9" height="9"/></clipPath><text>M0 0</text>)x"
                     R"x(<g display="none"><path d="M0 0 L2 2"/></g><path style="display:none" d="M0 0 L3 3"/><path d="M0 0 L4 4"/>)x"
                     R"x(<path d="nonsense"/></svg>)x");
  QVERIFY(drawing.has_value());
  QCOMPARE(drawing->lines.size(), std::size_t{1});
  QVERIFY(drawing->size.x == 300 && drawing->size.y == 150);
  QVERIFY(!linesOfDrawing("<html/>"));
  QVERIFY(!linesOfDrawing("no drawing"));
}

// Our lines, filled by our rasteriser, beside Qt's own reader and rasteriser of SVG.
void TestContours::drawingsAreDrawnAsOthersDrawThem_data() {
  QTest::addColumn<QString>("svg");
  const auto one = [](const char* inner) {
    return QStringLiteral(R"x(<svg xmlns="http://www.w3.org/2000/svg" width="160" height="120" viewBox="0 0 160 120">%1</svg>)x")
        .arg(QLatin1String(inner));
  };
  QTest::newRow("rectangle") << one(R"x(<rect x="20.5" y="13" width="100" height="70" rx="18" ry="9"/>)x");
  QTest::newRow("ellipse turned") << one(R"x(<ellipse cx="80" cy="60" rx="60" ry="20" transform="rotate(33 80 60)"/>)x");
  QTest::newRow("arcs") << one(R"x(<path d="M40 60 A50 35 20 1 1 120 60 Z"/>)x");
  QTest::newRow("curves") << one(R"x(<path d="m20 20 c60 -40 90 90 120 20 s-40 60 -60 70 q-40 -10 -50 -40 t-10 -50 z"/>)x");
  QTest::newRow("groups") << one(
      R"x(<g transform="translate(80 60) scale(1.5 0.8)"><polygon points="0,-50 12,-14 48,-14 18,8 30,44 0,20"/></g>)x");
}

void TestContours::drawingsAreDrawnAsOthersDrawThem() {
  QFETCH(QString, svg);
  QImage theirs(160, 120, QImage::Format_ARGB32_Premultiplied);
  theirs.fill(Qt::transparent);
  QPainter painter(&theirs);
  painter.setRenderHint(QPainter::Antialiasing);
  QSvgRenderer(svg.toUtf8()).render(&painter, QRectF(0, 0, 160, 120));
  painter.end();
  const auto drawing = linesOfDrawing(svg.toStdString());
  QVERIFY(drawing && drawing->lines.size() == 1);
  LineArt art;
  auto& points = art.fillings.emplace_back().lines.emplace_back();
  for (const Point& p : flattened(drawing->lines[0], 0.02)) points.push_back({p.x - 0.5, p.y - 0.5});
  const auto rows = lineArtRows(std::move(art), 160, 120);
  const Plane ours = wholePlane(*rows, 160, 120);
  double sum = 0;
  double most = 0;
  double area = 0;
  for (int y = 0; y < 120; ++y)
    for (int x = 0; x < 160; ++x) {
      const double cover = static_cast<double>(ours.row(y)[static_cast<std::ptrdiff_t>(x) * 4 + 3]);
      const double d = std::abs(cover - qAlpha(theirs.pixel(x, y)) / 255.0);
      sum += d;
      area += cover;
      most = std::max(most, d);
    }
  QVERIFY(area > 1000);
  QVERIFY2(most < 0.2 && sum / (160 * 120) < 0.0015, qPrintable(QStringLiteral("most %1, mean %2").arg(most).arg(sum / (160 * 120))));
}

void TestContours::hostileDrawings_data() {
  QTest::addColumn<QString>("svg");
  QTest::newRow("empty") << QString();
  QTest::newRow("no end") << QStringLiteral("<svg><g><g><path d='M0 0 L");
  QTest::newRow("deep") << QStringLiteral("<svg>") + QStringLiteral("<g>").repeated(5000) + QStringLiteral("<path d='M0 0 L1 1'/>") +
                               QStringLiteral("</g>").repeated(5000) + QStringLiteral("</svg>");
  QTest::newRow("many") << QStringLiteral("<svg>") + QStringLiteral("<path d='M0 0 L1 1'/>").repeated(50000) + QStringLiteral("</svg>");
  QTest::newRow("huge numbers") << QStringLiteral(
      "<svg width='1e300' viewBox='0 0 1e-300 1'><rect width='1e308' height='1e308' transform='scale(1e308) scale(1e308)'/></svg>");
  QTest::newRow("entities") << QStringLiteral(
      "<!DOCTYPE svg [<!ENTITY a 'aaaaaaaaaa'><!ENTITY b '&a;&a;&a;'>]><svg><path d='&b;&b;'/></svg>");
  QTest::newRow("nan") << QStringLiteral("<svg><circle r='nan' cx='inf'/><path d='M nan 0 L inf 5'/><polyline points='1 2 x'/></svg>");
  QTest::newRow("matrix") << QStringLiteral(
      "<svg><path transform='matrix(0 0 0 0 0 0)' d='M0 0 L5 5'/><path transform='rotate(' d='M0 0 L5 5'/></svg>");
}

void TestContours::hostileDrawings() {
  QFETCH(QString, svg);
  const auto drawing = linesOfDrawing(svg.toStdString());
  if (!drawing) {
    QVERIFY(!drawing.error().message.empty());
    return;
  }
  QVERIFY(drawing->lines.size() <= kMostDrawingLines);
  std::size_t points = 0;
  for (const Outline& line : drawing->lines)
    for (const OutlinePoint& p : line.points) {
      ++points;
      for (const double v : {p.at.x, p.at.y, p.before.x, p.before.y, p.after.x, p.after.y}) QVERIFY(std::abs(v) <= 1e6);
    }
  QVERIFY(points <= kMostDrawingPoints);
}

QTEST_APPLESS_MAIN(TestContours)
#include "tst_contours.moc"
