// Outline as a source: areas and widths by numbers, lights that go whole rounds, strands that hang and sway, what is drawn of a line.
#include <QFile>
#include <QTemporaryDir>
#include <QTest>
#include <cmath>
#include <numbers>

#include "base/random.h"
#include "edit/outlines.h"
#include "edit/source_layers.h"
#include "scene/extent.h"
#include "scene/scene_json.h"
#include "scene/tree.h"
#include "store/media_store.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

constexpr double kPi = std::numbers::pi;

void set(Scene& scene, const std::string& id, const Value& value) { test::setValue(scene, 0, 0, id, value); }

// A white line on nothing, with nothing else.
Scene lineOf(const std::string& path, int width = 240, int height = 160, int frames = 24) {
  Scene scene = test::oneLayer("outline", width, height, frames);
  scene.background.reset();
  set(scene, "outline", *outlineFromPath(path));
  set(scene, "wobble", 0.0);
  set(scene, "fill", false);
  set(scene, "width", 0.0);
  for (const char* colour : {"colour", "fillColour", "lightColour", "tailColour", "strandColour", "tipColour"})
    set(scene, colour, Colour{1, 1, 1, 1});
  return scene;
}

double areaOf(const test::FloatFrame& f) { return test::meanOf(f, 3) * f.width * f.height; }

// Where the light is, by its weight.
Point weightOf(const test::FloatFrame& f) {
  double sum = 0;
  Point at;
  for (int y = 0; y < f.height; ++y)
    for (int x = 0; x < f.width; ++x) {
      const double a = static_cast<double>(f.at(x, y, 3));
      sum += a;
      at = {at.x + a * (x + 0.5), at.y + a * (y + 0.5)};
    }
  return {at.x / sum, at.y / sum};
}

constexpr const char* kSquare = "M-60 -60 L60 -60 L60 60 L-60 60 Z";

}  // namespace

class TestOutline : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void areasAndWidths();
  void drawnUpToAShare();
  void dashesMoveOn();
  void lightsGoWholeRounds();
  void lightsLeaveOpenLines();
  void strandsHangWhereTheyShould();
  void strandsFollowTheLine();
  void wobbleComesHome();
  void theExtentHoldsAllOfIt();
  void posesAreSetWhereTheyAre();
  void pointsComeAndGoInAllPoses();
  void mirroredPointsGoAlong();
  void strandsHangFromItsPoints();
  void theFrameIsALine();
  void drawingsAreDrawnLineByLine();
  void edgesOfAnotherLayer();
  void edgesFollowWhereItGoes();
  void readyOnesLoop_data();
  void readyOnesLoop();
  void hostileOutlines_data();
  void hostileOutlines();
};

void TestOutline::areasAndWidths() {
  Scene scene = lineOf(kSquare);
  set(scene, "fill", true);
  QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) - 120 * 120) < 1);
  set(scene, "size", 0.5);
  set(scene, "turn", 30.0);
  QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) - 60 * 60) < 1);
  const Point middle = weightOf(test::renderFloat(scene, 0));
  QVERIFY(std::abs(middle.x - 120) < 0.1 && std::abs(middle.y - 80) < 0.1);
  set(scene, "fill", false);
  set(scene, "width", 6.0);
  // Half of it lies outside, and its corners are round.
  const double line = 4 * 60 * 6 - 4 * (9 - kPi * 9 / 4);
  QVERIFY2(std::abs(areaOf(test::renderFloat(scene, 0)) - line) < 0.02 * line,
           qPrintable(QString::number(areaOf(test::renderFloat(scene, 0)))));
}

void TestOutline::drawnUpToAShare() {
  Scene scene = lineOf("M-100 0 L100 0");
  set(scene, "width", 8.0);
  for (const auto& [from, to] : {std::pair{0.0, 1.0}, {0.0, 0.4}, {0.25, 0.75}, {0.6, 0.6}, {0.8, 0.2}}) {
    set(scene, "from", from);
    set(scene, "drawn", to);
    const double length = std::max(0.0, to - from) * 200;
    const double area = length > 0 ? 8 * length + kPi * 16 : 0;
    QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) - area) < 6);
  }
  // Thinner towards both ends.
  set(scene, "from", 0.0);
  set(scene, "drawn", 1.0);
  set(scene, "taper", 1.0);
  const auto tapered = test::renderFloat(scene, 0);
  QVERIFY(areaOf(test::cut(tapered, 20, 0, 20, 160)) < 0.7 * areaOf(test::cut(tapered, 110, 0, 20, 160)));
}

// Dashes: so much of the line, each moving on to where the next one was.
void TestOutline::dashesMoveOn() {
  Scene scene = lineOf(kSquare);
  set(scene, "width", 4.0);
  set(scene, "dashes", 16.0);
  set(scene, "dash", 0.4);
  const double one = 480.0 / 16 * 0.4 * 4 + kPi * 4;
  for (const int k : {0, 7}) QVERIFY(std::abs(areaOf(test::renderFloat(scene, k)) - 16 * one) < 0.03 * 16 * one);
  QVERIFY(test::compare(test::renderFloat(scene, 12), test::renderFloat(scene, 0)).largest > 0.9);
  QVERIFY(test::renderFloat(scene, 24).rgba == test::renderFloat(scene, 0).rgba);
  // Of a part that is drawn only what lies in it.
  set(scene, "drawn", 0.5);
  QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) - 8 * one) < 0.05 * 8 * one);
}

// It is where a point would be that goes round evenly, and after a lap where it was.
void TestOutline::lightsGoWholeRounds() {
  for (const double rounds : {1.0, 2.0, -1.0}) {
    Scene scene = lineOf(kSquare);
    set(scene, "lights", 1.0);
    set(scene, "lightLength", 0.02);
    set(scene, "lightWidth", 6.0);
    set(scene, "lightTail", 0.0);
    set(scene, "lightGlow", 0.0);
    set(scene, "lightTravel", rounds);
    QVERIFY(test::renderFloat(scene, 24).rgba == test::renderFloat(scene, 0).rgba);
    for (const int k : {1, 5, 8, 14, 19}) {
      double along = std::fmod(rounds * k / 24 + 0.01 + 4, 1.0) * 4;
      const int side = static_cast<int>(along);
      along -= side;
      const Point corners[] = {{-60, -60}, {60, -60}, {60, 60}, {-60, 60}, {-60, -60}};
      const Point at{120 + corners[side].x + along * (corners[side + 1].x - corners[side].x),
                     80 + corners[side].y + along * (corners[side + 1].y - corners[side].y)};
      const Point seen = weightOf(test::renderFloat(scene, k));
      QVERIFY2(std::hypot(seen.x - at.x, seen.y - at.y) < 1.5, qPrintable(QStringLiteral("%1: %2, %3").arg(k).arg(seen.x).arg(seen.y)));
    }
    // Four lights: all sides alike.
    set(scene, "lights", 4.0);
    const auto four = test::renderFloat(scene, 3);
    const Point middle = weightOf(four);
    QVERIFY(std::hypot(middle.x - 120, middle.y - 80) < 0.5);
  }
}

void TestOutline::lightsLeaveOpenLines() {
  Scene scene = lineOf("M-100 0 L100 0");
  set(scene, "lights", 1.0);
  set(scene, "lightLength", 0.25);
  set(scene, "lightGlow", 0.0);
  set(scene, "lightTail", 0.0);
  double most = 0;
  for (int k = 0; k < 24; ++k) most = std::max(most, areaOf(test::renderFloat(scene, k)));
  // At the joint it has just left, or is just coming in.
  QVERIFY(areaOf(test::renderFloat(scene, 0)) < 0.05 * most);
  QVERIFY(areaOf(test::renderFloat(scene, 12)) > 0.95 * most);
}

void TestOutline::strandsHangWhereTheyShould() {
  Scene scene = lineOf("M-90 0 L90 0");
  set(scene, "centre", Point{0.5, 0.2});
  set(scene, "strands", 4.0);
  set(scene, "strandLength", 80.0);
  set(scene, "strandDiffer", 0.0);
  set(scene, "strandWidth", 6.0);
  set(scene, "strandTaper", 0.0);
  set(scene, "sway", 0.0);
  const auto still = test::renderFloat(scene, 0);
  // Four upright bars with round ends, 60 apart.
  QVERIFY(std::abs(areaOf(still) - 4 * (80 * 6 + kPi * 9)) < 12);
  for (int i = 0; i < 4; ++i) {
    const int x = 30 + 60 * i;
    QVERIFY(still.at(x, 70, 3) > 0.99f && still.at(x, 108, 3) > 0.99f && still.at(x, 122, 3) < 0.01f && still.at(x + 8, 70, 3) < 0.01f);
  }
  // Tapered they are thinner below; longer and shorter ones differ.
  set(scene, "strandTaper", 1.0);
  const auto tapered = test::renderFloat(scene, 0);
  QVERIFY(areaOf(test::cut(tapered, 0, 90, 240, 20)) < 0.5 * areaOf(test::cut(tapered, 0, 40, 240, 20)));
  // They sway at their tips, held where they hang.
  set(scene, "sway", 60.0);
  double root = 0;
  double tip = 0;
  const auto first = test::renderFloat(scene, 0);
  for (const int k : {4, 9, 15}) {
    const auto now = test::renderFloat(scene, k);
    root = std::max(root, test::compare(test::cut(now, 0, 30, 240, 8), test::cut(first, 0, 30, 240, 8)).mean);
    tip = std::max(tip, test::compare(test::cut(now, 0, 80, 240, 30), test::cut(first, 0, 80, 240, 30)).mean);
  }
  QVERIFY(tip > 4 * root);
  // Outwards from a closed line: on all sides of it.
  Scene ring = lineOf(kSquare);
  set(ring, "size", 0.3);
  set(ring, "strands", 16.0);
  set(ring, "hang", std::string("outwards"));
  set(ring, "strandLength", 40.0);
  set(ring, "strandDiffer", 0.0);
  set(ring, "strandWidth", 4.0);
  set(ring, "sway", 0.0);
  const Point middle = weightOf(test::renderFloat(ring, 0));
  QVERIFY(std::hypot(middle.x - 120, middle.y - 80) < 2);
  QVERIFY(areaOf(test::cut(test::renderFloat(ring, 0), 106, 66, 28, 28)) < 120);
}

// Where the line goes, they go.
void TestOutline::strandsFollowTheLine() {
  Scene scene = lineOf("M-60 0 L60 0");
  set(scene, "strands", 3.0);
  set(scene, "strandLength", 40.0);
  set(scene, "sway", 0.0);
  Param& outline = test::param(scene, 0, 0, "outline");
  outline.motion.kind = MotionKind::Keyframes;
  placeKeyframe(outline.motion, {0, *outlineFromPath("M-60 0 L60 0"), Pace(), false});
  placeKeyframe(outline.motion, {0.5, *outlineFromPath("M-60 -40 L60 -40"), Pace(), false});
  const Point low = weightOf(test::renderFloat(scene, 0));
  QVERIFY(std::abs(weightOf(test::renderFloat(scene, 12)).y - (low.y - 40)) < 0.2);
  QVERIFY(std::abs(weightOf(test::renderFloat(scene, 6)).y - (low.y - 20)) < 0.2);
}

void TestOutline::wobbleComesHome() {
  Scene scene = lineOf(kSquare, 240, 240, 48);
  set(scene, "fill", true);
  set(scene, "wobble", 12.0);
  set(scene, "bumps", 5.0);
  QVERIFY(test::renderFloat(scene, 48).rgba == test::renderFloat(scene, 0).rgba);
  const auto step = [&](int k) { return test::compare(test::renderFloat(scene, k + 1), test::renderFloat(scene, k)).mean; };
  const double over = step(47);
  QVERIFY(over > 0 && over < 1.5 * std::max({step(5), step(20), step(33)}));
  // No farther than told, or a little.
  const auto frame = test::renderFloat(scene, 11);
  QVERIFY(areaOf(test::cut(frame, 0, 0, 240, 40)) == 0 && areaOf(test::cut(frame, 80, 80, 80, 80)) > 6399);
}

void TestOutline::theExtentHoldsAllOfIt() {
  for (int i = 0; i < 20; ++i) {
    const auto random = [&](int which) { return randomUnit(static_cast<std::uint64_t>(i), static_cast<std::uint64_t>(which)); };
    Scene scene = lineOf(i % 2 == 0 ? kSquare : "M-70 10 C-20 -60 30 60 60 -20", 400, 400);
    set(scene, "fill", i % 3 == 0);
    set(scene, "width", 1 + 12 * random(0));
    set(scene, "wobble", 14 * random(1));
    set(scene, "turn", 360 * random(2));
    set(scene, "lights", std::floor(3 * random(3)));
    set(scene, "lightGlow", 20 * random(4));
    set(scene, "strands", std::floor(5 * random(5)));
    set(scene, "strandLength", 60 * random(6) + 1);
    set(scene, "sway", 200 * random(7));
    assignIds(scene);
    const Plan plan(scene);
    for (const int k : {0, 9, 17}) {
      const Box box = extentWithin(plan, 0, {k, 24}, true).box;
      const auto frame = test::renderFloat(scene, k);
      for (int y = 0; y < 400; ++y)
        for (int x = 0; x < 400; ++x)
          if (x + 2 < box.left || x - 2 > box.right || y + 2 < box.top || y - 2 > box.bottom)
            QVERIFY2(frame.at(x, y, 3) < 0.02f, qPrintable(QStringLiteral("%1 at %2, %3").arg(i).arg(x).arg(y)));
    }
  }
}

void TestOutline::posesAreSetWhereTheyAre() {
  Scene scene = lineOf(kSquare);
  const ParamSpec& spec = findStep("outline")->params[static_cast<std::size_t>(findParam(findStep("outline")->params, "outline"))];
  Param param = test::param(scene, 0, 0, "outline");
  const Outline other = *outlineFromPath("M-60 -30 L60 -30 L60 30 L-60 30 Z");
  // At rest it is the outline itself.
  edit::setOutlineAt(spec, param, {7, 24}, other);
  QVERIFY(edit::outlineAt(spec, param, {0, 24}) == other);
  // By keyframes: the pose of this very frame, or a new one there.
  param.motion.kind = MotionKind::Keyframes;
  placeKeyframe(param.motion, {0, other, Pace(), false});
  placeKeyframe(param.motion, {0.5, *outlineFromPath(kSquare), Pace(), false});
  const Outline third = *outlineFromPath("M-30 -60 L60 -60 L60 60 L-30 60 Z");
  edit::setOutlineAt(spec, param, {12, 24}, third);
  QCOMPARE(param.motion.keys.size(), std::size_t{2});
  QVERIFY(edit::outlineAt(spec, param, {12, 24}) == third);
  edit::setOutlineAt(spec, param, {18, 24}, other);
  QCOMPARE(param.motion.keys.size(), std::size_t{3});
  QVERIFY(edit::outlineAt(spec, param, {18, 24}) == other && edit::outlineAt(spec, param, {12, 24}) == third);
  // With another number of points it would not be a pose of it.
  edit::setOutlineAt(spec, param, {18, 24}, circleOutline(5).points.size() == 4 ? *outlineFromPath("M0 0 L1 1") : circleOutline(5));
  QVERIFY(edit::outlineAt(spec, param, {18, 24}) == other);
  // Of a swing the end that is nearer.
  Param swinging = test::param(scene, 0, 0, "outline");
  swinging.motion = test::swing(third);
  edit::setOutlineAt(spec, swinging, {12, 24}, other);
  QVERIFY(std::get<Outline>(swinging.motion.far) == other && std::get<Outline>(swinging.base) == *outlineFromPath(kSquare));
}

void TestOutline::pointsComeAndGoInAllPoses() {
  Scene scene = lineOf(kSquare);
  const ParamSpec& spec = findStep("outline")->params[static_cast<std::size_t>(findParam(findStep("outline")->params, "outline"))];
  Param param = test::param(scene, 0, 0, "outline");
  param.motion.kind = MotionKind::Keyframes;
  placeKeyframe(param.motion, {0, param.base, Pace(), false});
  placeKeyframe(param.motion, {0.5, circleOutline(40), Pace(), false});
  const Param before = param;
  QVERIFY(edit::addOutlinePoint(param, 1, 0.3).has_value());
  // Between poses it is still the same line, as far as it can be seen.
  for (const int k : {0, 12}) QCOMPARE(edit::outlineAt(spec, param, {k, 24}).points.size(), std::size_t{5});
  QVERIFY(edit::removeOutlinePoint(param, 2).has_value());
  QCOMPARE(edit::outlineAt(spec, param, {12, 24}).points.size(), std::size_t{4});
  QVERIFY(edit::outlineAt(spec, param, {0, 24}) == edit::outlineAt(spec, before, {0, 24}));
  QVERIFY(edit::removeOutlinePoint(param, 0).has_value() && edit::removeOutlinePoint(param, 0).has_value());
  QVERIFY(!edit::removeOutlinePoint(param, 0).has_value());
  QVERIFY(!edit::removeOutlinePoint(param, 9).has_value() && !edit::addOutlinePoint(param, 9, 0.5).has_value());
}

void TestOutline::mirroredPointsGoAlong() {
  const Outline square = *outlineFromPath(kSquare);
  const Outline made = edit::withBothMoved(square, 1, edit::OutlinePart::Point, {80, -50}, false, 4);
  QVERIFY((made.points[1].at == Point{80, -50}) && (made.points[0].at == Point{-80, -50}));
  QVERIFY(made.points[2] == square.points[2] && made.points[3] == square.points[3]);
  // Round points: what pulls goes along with them and stays in line.
  const Outline round = edit::withPointSmoothed(square, 1);
  QVERIFY(!edit::isCorner(round.points[1]) && edit::isCorner(round.points[0]));
  const OutlinePoint& p = round.points[1];
  QVERIFY(std::abs((p.before.x - p.at.x) * (p.after.y - p.at.y) - (p.before.y - p.at.y) * (p.after.x - p.at.x)) < 1e-9);
  const Outline pulled = edit::withPointMoved(round, 1, edit::OutlinePart::After, {60, 0}, false);
  QVERIFY(std::abs(pulled.points[1].before.x - 60) < 1e-9 && pulled.points[1].before.y < -60);
  QVERIFY(edit::withPointMoved(round, 1, edit::OutlinePart::After, {60, 0}, true).points[1].before == p.before);
  QVERIFY(edit::withPointSmoothed(round, 1) == square);
}

// One from each point, wherever those lie, also where the line is bent between them.
void TestOutline::strandsHangFromItsPoints() {
  Scene scene = lineOf("M-90 -40 C-90 -60 -60 -60 -50 -40 L10 -40 L90 -30");
  set(scene, "strands", 1.0);
  set(scene, "strandAt", std::string("its points"));
  set(scene, "strandLength", 60.0);
  set(scene, "strandDiffer", 0.0);
  set(scene, "strandWidth", 4.0);
  set(scene, "strandTaper", 0.0);
  set(scene, "sway", 0.0);
  const auto frame = test::renderFloat(scene, 0);
  const double one = 60 * 4 + kPi * 4;
  QVERIFY2(std::abs(areaOf(frame) - 4 * one) < 12, qPrintable(QString::number(areaOf(frame))));
  for (const int x : {-90, -50, 10, 90}) {
    const auto here = test::cut(frame, 120 + x - 5, 0, 10, 160);
    QVERIFY(std::abs(areaOf(here) - one) < 4);
    QVERIFY(std::abs(weightOf(here).x - 5) < 0.3);
  }
  // Of a closed one none hangs twice from where it begins.
  set(scene, "outline", *outlineFromPath(kSquare));
  set(scene, "strandLength", 15.0);
  QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) - 4 * (15 * 4 + kPi * 4)) < 12);
}

void TestOutline::theFrameIsALine() {
  Scene scene = lineOf(kSquare);
  set(scene, "along", std::string("frame"));
  set(scene, "fill", true);  // says nothing here
  set(scene, "width", 4.0);
  set(scene, "inset", 20.0);
  set(scene, "corner", 0.0);
  const double straight = 2 * (200 + 120) * 4 - 4 * (4 - kPi);
  QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) - straight) < 8);
  set(scene, "corner", 30.0);
  const double round = (2 * (140 + 60) + 2 * kPi * 30) * 4;
  QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) - round) < 8);
  // A light goes round it, clockwise from the upper left.
  set(scene, "width", 0.0);
  set(scene, "corner", 0.0);
  set(scene, "lights", 1.0);
  set(scene, "lightLength", 0.05);
  set(scene, "lightGlow", 0.0);
  set(scene, "lightWidth", 4.0);
  const Point first = weightOf(test::renderFloat(scene, 0));
  const Point then = weightOf(test::renderFloat(scene, 6));
  QVERIFY(std::abs(first.y - 20) < 1 && first.x > 20 && first.x < 60);
  QVERIFY2(then.x > 170 && then.y <= 60, qPrintable(QStringLiteral("%1 %2").arg(then.x).arg(then.y)));
  set(scene, "inset", 500.0);
  QCOMPARE(areaOf(test::renderFloat(scene, 0)), 0.0);
}

// By one pen, one line after the other, or all at once; as long as they are.
void TestOutline::drawingsAreDrawnLineByLine() {
  QTemporaryDir dir;
  const QString path = dir.filePath(QStringLiteral("two.svg"));
  QFile file(path);
  QVERIFY(file.open(QIODevice::WriteOnly));
  file.write(
      R"(<svg xmlns="http://www.w3.org/2000/svg" width="200" height="100"><path d="M10 20 H190" stroke="#000"/><path d="M55 80 H145" stroke="#000"/></svg>)");
  file.close();
  Scene scene = lineOf(kSquare);
  set(scene, "along", std::string("drawing"));
  const auto taken = MediaStore::shared().takeIn(path.toStdString());
  QVERIFY2(taken.has_value(), taken ? "" : taken.error().message.c_str());
  set(scene, "file", *taken);
  set(scene, "width", 4.0);
  const double end = kPi * 4;
  const auto upper = [](const test::FloatFrame& f) { return areaOf(test::cut(f, 0, 0, 240, 80)); };
  const auto lower = [](const test::FloatFrame& f) { return areaOf(test::cut(f, 0, 80, 240, 80)); };
  const auto all = test::renderFloat(scene, 0);
  QVERIFY(std::abs(upper(all) - 180 * 4 - end) < 3 && std::abs(lower(all) - 90 * 4 - end) < 3);
  // Half of both together: three quarters of the first.
  set(scene, "drawn", 0.5);
  const auto half = test::renderFloat(scene, 0);
  QVERIFY(std::abs(upper(half) - 135 * 4 - end) < 3);
  QCOMPARE(lower(half), 0.0);
  set(scene, "inTurn", false);
  const auto both = test::renderFloat(scene, 0);
  QVERIFY(std::abs(upper(both) - 90 * 4 - end) < 3 && std::abs(lower(both) - 45 * 4 - end) < 3);
  // Before one is chosen there is a sample, and one that is gone draws nothing.
  set(scene, "file", MediaRef{});
  QVERIFY(areaOf(test::renderFloat(scene, 0)) > 100);
  set(scene, "file", MediaRef{dir.filePath(QStringLiteral("none.svg")).toStdString()});
  QCOMPARE(areaOf(test::renderFloat(scene, 0)), 0.0);
}

// A panel and a line about it, above it.
Scene panelAndLine() {
  Scene scene = test::oneLayer("shape", 240, 160, 24);
  scene.background.reset();
  scene.layers[0].id = 1;
  test::setValue(scene, 0, 0, "kind", std::string("rectangle"));
  test::setValue(scene, 0, 0, "corner", 0.0);
  Layer line = lineOf(kSquare).layers[0];
  line.id = 2;
  scene.layers.push_back(std::move(line));
  test::setValue(scene, 1, 0, "along", std::string("layer"));
  test::setValue(scene, 1, 0, "layer", 1.0);
  test::setValue(scene, 1, 0, "width", 3.0);
  scene.layers[0].visible = false;
  return scene;
}

void TestOutline::edgesOfAnotherLayer() {
  Scene scene = panelAndLine();
  test::setValue(scene, 0, 0, "width", 120.0);
  test::setValue(scene, 0, 0, "height", 80.0);
  const Plan plan(scene);
  const Box box = extentOf(plan, 0, {0, 24}).box;
  const auto frame = test::renderFloat(scene, 0);
  const double around = 2 * (box.width() + box.height());
  // Its corners are round, or cut a little.
  QVERIFY2(std::abs(areaOf(frame) - around * 3) < 0.06 * around * 3,
           qPrintable(QStringLiteral("%1 of %2").arg(areaOf(frame)).arg(around * 3)));
  const Point middle = weightOf(frame);
  QVERIFY(std::abs(middle.x - box.centre().x) < 0.5 && std::abs(middle.y - box.centre().y) < 0.5);
  // No layer, no line; and a layer that looks at itself is refused.
  test::setValue(scene, 1, 0, "layer", 0.0);
  QCOMPARE(areaOf(test::renderFloat(scene, 0)), 0.0);
  test::setValue(scene, 1, 0, "layer", 2.0);
  QVERIFY(!Plan(scene).status());
}

// Where that layer is placed, and how it moves, its line is too; whatever place the line's own layer has.
void TestOutline::edgesFollowWhereItGoes() {
  Scene scene = panelAndLine();
  test::setValue(scene, 0, 0, "width", 72.0);
  test::setValue(scene, 0, 0, "height", 48.0);
  const Point still = weightOf(test::renderFloat(scene, 0));
  auto& place = scene.layers[0].place;
  Param& position = place[static_cast<std::size_t>(PlaceParam::Position)];
  position.base = position.motion.far = Point{0.5, 0.5};
  position.motion.kind = MotionKind::Swing;
  position.motion.far = Point{0.7, 0.4};
  QCOMPARE(Plan(scene).laps(), std::int64_t{1});
  const Point there = weightOf(test::renderFloat(scene, 12));
  QVERIFY2(std::abs(there.x - still.x - 48) < 1 && std::abs(there.y - still.y + 16) < 1,
           qPrintable(QStringLiteral("%1 %2").arg(there.x - still.x).arg(there.y - still.y)));
  QVERIFY(test::renderFloat(scene, 24).rgba == test::renderFloat(scene, 0).rgba);
  // The line's layer turned and moved: it stays where the panel is.
  auto& own = scene.layers[1].place;
  own[static_cast<std::size_t>(PlaceParam::Turn)].base = 37.0;
  own[static_cast<std::size_t>(PlaceParam::Position)].base = Point{0.2, 0.6};
  const Point again = weightOf(test::renderFloat(scene, 12));
  QVERIFY(std::hypot(again.x - there.x, again.y - there.y) < 0.5);
}

void TestOutline::readyOnesLoop_data() {
  QTest::addColumn<int>("which");
  const auto varieties = edit::sourceVarieties();
  for (std::size_t i = 0; i < varieties.size(); ++i)
    if (varieties[i].spec->id == "outline") QTest::newRow(varieties[i].variety.c_str()) << static_cast<int>(i);
}

void TestOutline::readyOnesLoop() {
  QFETCH(int, which);
  Scene scene;
  scene.frames = 96;
  scene.background.reset();
  scene.layers.push_back(edit::sourceLayer(edit::sourceVarieties()[static_cast<std::size_t>(which)], {}));
  assignIds(scene);
  const auto frame = [&](int k) { return test::renderFloat(scene, k, 192, 108); };
  QVERIFY(test::deviationOf(frame(0), 3) > 0.01);
  QVERIFY(test::compare(frame(0), frame(31)).largest > 0.1);
  const auto step = [&](int k) { return test::compare(frame(k), frame((k + 1) % 96)).mean; };
  QVERIFY(step(95) < 2.5 * std::max({step(10), step(30), step(50), step(70)}));
  const auto again = sceneFromText(sceneToText(scene));
  QVERIFY(again.has_value());
  QVERIFY(test::renderFloat(*again, 17, 192, 108).rgba == frame(17).rgba);
}

void TestOutline::hostileOutlines_data() {
  QTest::addColumn<QString>("path");
  QTest::newRow("one point") << "M5 5";
  QTest::newRow("one point, closed") << "M5 5 Z";
  QTest::newRow("all in one place") << "M5 5 L5 5 L5 5 L5 5 Z";
  QTest::newRow("crosses itself") << "M-50 -50 L50 50 L50 -50 L-50 50 Z";
  QTest::newRow("far away") << "M-16384 -16384 L16384 16384 L16384 -16384 Z";
  QTest::newRow("loops of pulls") << "M0 0 C16000 16000 -16000 16000 0 0 C-16000 -16000 16000 -16000 1 1 Z";
  QString many = QStringLiteral("M0 0");
  for (int i = 1; i < 9999; ++i) many += QStringLiteral(" L%1 %2").arg((i * 7919) % 400 - 200).arg((i * 104729) % 300 - 150);
  QTest::newRow("ten thousand points") << many;
}

void TestOutline::hostileOutlines() {
  QFETCH(QString, path);
  Scene scene = lineOf(path.toStdString(), 120, 80);
  set(scene, "fill", true);
  set(scene, "width", 3.0);
  set(scene, "taper", 1.0);
  set(scene, "wobble", 20.0);
  set(scene, "lights", 3.0);
  set(scene, "strands", 8.0);
  for (const char* hang : {"one way", "outwards"}) {
    set(scene, "hang", std::string(hang));
    const auto frame = test::renderFloat(scene, 5);
    QVERIFY(test::allFinite(frame));
    for (std::size_t i = 3; i < frame.rgba.size(); i += 4) QVERIFY(frame.rgba[i] >= 0 && frame.rgba[i] <= 1.0001f);
  }
}

QTEST_GUILESS_MAIN(TestOutline)
#include "tst_outline.moc"
