// Repeat: every copy in its own time, whatever it shows; places kept free; layers and pictures as stamps; hostile numbers.
#include <QTest>
#include <cmath>
#include <numbers>

#include "base/numbers.h"
#include "base/random.h"
#include "edit/source_layers.h"
#include "scene/plan.h"
#include "scene/scene_json.h"
#include "scene/tree.h"
#include "support/media.h"
#include "support/pictures.h"
#include "support/repeats.h"
#include "support/scenes.h"

using namespace oa;

using namespace oa::test;

class TestRepeat : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void copiesFollowEachOther();
  void someAreQuicker();
  void shapesMoveInTheirOwnTimeToo();
  void stampsTakeTurns();
  void columnsAreLitUpToTheirLevel();
  void whatPassesFillsTheFrameForEver();
  void aPlaceIsKeptFree();
  void everyNthIsDifferent();
  void copiesGoAlongAPath();
  void singleCopiesAreDifferent();
  void whatWasChangedStays();
  void placesAreWhereCopiesAre();
  void placesDoNotWaver();
  void anotherLayerSaysHowMany();
  void noLayerIsItsOwnStamp();
  void readyOnesLoop_data();
  void readyOnesLoop();
  void theWindowOfAViewDoesNotMatter();
  void hostileNumbers();
};

// With the head starts in order a copy is where the first one will be.
void TestRepeat::copiesFollowEachOther() {
  Scene scene = fourInARow();
  stamp(scene, "size").motion = test::swing(40.0);
  stamp(scene, "opacity").base = 0.3;
  stamp(scene, "opacity").motion = test::swing(1.0);
  stamp(scene, "offset").motion = test::swing(Point{0, 8});
  set(scene, "order", std::string("in order"));
  set(scene, "ahead", 1.0);
  double spread = 0;
  for (const int k : {0, 5, 13, 23}) {
    const auto now = test::renderFloat(scene, k);
    for (int i = 0; i < 4; ++i) {
      // A quarter of a lap lies between each and the next.
      const auto then = test::renderFloat(scene, (k + 6 * i) % 24);
      const auto difference = test::compare(test::cut(now, 60 * i, 0, 60, 60), test::cut(then, 0, 0, 60, 60));
      QVERIFY2(difference.largest < 2e-4, qPrintable(QString::number(difference.largest)));
      spread = std::max(spread, std::abs(areaOfCopy(now, i) - areaOfCopy(now, 0)));
    }
  }
  QVERIFY(spread > 100);
  set(scene, "order", std::string("together"));
  const auto now = test::renderFloat(scene, 5);
  for (int i = 1; i < 4; ++i) QVERIFY(std::abs(areaOfCopy(now, i) - areaOfCopy(now, 0)) < 1e-2);
}

// Each makes a whole number of laps: the layer repeats as often as its motion does, and a copy as often as it is quicker.
void TestRepeat::someAreQuicker() {
  Scene scene = fourInARow(48);
  set(scene, "columns", 16.0);
  set(scene, "distance", Point{15, 60});
  setStamp(scene, "size", 4.0);
  stamp(scene, "size").motion = test::swing(13.0, 2);
  set(scene, "order", std::string("in order"));
  set(scene, "faster", 2.0);
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(scene, 27).rgba);
  int times[4] = {};
  for (int i = 0; i < 16; ++i) {
    std::vector<double> areas;
    areas.reserve(24);
    for (int k = 0; k < 24; ++k) areas.push_back(areaOf(test::cut(test::renderFloat(scene, k), 15 * i, 0, 15, 60)));
    int laps = 0;
    for (int n = 1; n <= 3; ++n) {
      bool same = true;
      for (int k = 0; k < 24; ++k)
        same = same && std::abs(areas[static_cast<std::size_t>(k)] - areas[static_cast<std::size_t>((k + 24 / n) % 24)]) < 0.02;
      if (same) laps = n;
    }
    QVERIFY(laps >= 1);
    ++times[laps];
  }
  QVERIFY(times[1] > 0 && times[2] > 0 && times[3] > 0);
}

void TestRepeat::shapesMoveInTheirOwnTimeToo() {
  Scene scene = fourInARow(64);
  setStamp(scene, "kind", std::string("rectangle"));
  stamp(scene, "tall").motion = test::swing(2.5);
  set(scene, "order", std::string("in order"));
  for (const int k : {0, 16, 40}) {
    const auto now = test::renderFloat(scene, k);
    for (int i = 0; i < 4; ++i) {
      const auto then = test::renderFloat(scene, (k + 16 * i) % 64);
      QVERIFY(std::abs(areaOfCopy(now, i) - areaOfCopy(then, 0)) < 0.01 * areaOfCopy(then, 0));
    }
    QVERIFY(std::abs(areaOfCopy(now, 0) - areaOfCopy(now, 2)) > 50 || k == 16);
  }
}

void TestRepeat::stampsTakeTurns() {
  Scene scene = fourInARow();
  set(scene, "columns", 12.0);
  set(scene, "distance", Point{20, 60});
  setStamp(scene, "size", 12.0);
  auto& items = scene.layers[0].recipe[0].items;
  items.push_back(items[0]);
  items.push_back(items[0]);
  setStamp(scene, "colour", Colour{1, 0, 0, 1}, 0);
  setStamp(scene, "colour", Colour{0, 1, 0, 1}, 1);
  setStamp(scene, "colour", Colour{0, 0, 1, 1}, 2);
  const auto counted = [&] {
    std::array<int, 3> found{};
    std::string order;
    const auto frame = test::renderFloat(scene, 0);
    for (int i = 0; i < 12; ++i)
      for (int c = 0; c < 3; ++c)
        if (frame.at(20 * i + 10, 30, c) > 0.9f) {
          ++found[static_cast<std::size_t>(c)];
          order += "rgb"[c];
        }
    return std::pair(found, order);
  };
  QCOMPARE(counted().second, std::string("rgbrgbrgbrgb"));
  setStamp(scene, "share", 0.5, 1);
  setStamp(scene, "share", 0.5, 2);
  QCOMPARE(counted().first, (std::array{6, 3, 3}));
  setStamp(scene, "share", 0.0, 2);
  set(scene, "pick", std::string("random"));
  QCOMPARE(counted().first[2], 0);
  QVERIFY(counted().first[0] > 3 && counted().first[1] > 0);
}

void TestRepeat::columnsAreLitUpToTheirLevel() {
  Scene scene = discs("columns", 120, 120);
  set(scene, "columns", 4.0);
  set(scene, "rows", 10.0);
  set(scene, "distance", Point{30, 12});
  set(scene, "faint", 0.0);
  set(scene, "held", 0.0);
  set(scene, "order", std::string("columns"));
  setStamp(scene, "kind", std::string("rectangle"));
  setStamp(scene, "corner", 0.0);
  setStamp(scene, "size", 20.0);
  setStamp(scene, "tall", 0.5);
  test::param(scene, 0, 0, "level").base = 0.2;
  test::param(scene, 0, 0, "level").motion = test::swing(0.9);
  const double whole = 10 * 20 * 10;  // a column's
  for (const int k : {0, 4, 9, 17}) {
    const auto frame = test::renderFloat(scene, k);
    for (int i = 0; i < 4; ++i) {
      const double u = fract(k / 24.0 + i / 3.0);
      const double level = 0.2 + 0.7 * (0.5 - 0.5 * std::cos(2 * std::numbers::pi * u));
      const double lit = areaOf(test::cut(frame, 30 * i, 0, 30, 120)) / whole;
      QVERIFY2(std::abs(lit - level) < 0.015, qPrintable(QStringLiteral("%1 of %2").arg(lit).arg(level)));
    }
  }
  // Unlit ones are there faintly, and the highest is held for a while.
  set(scene, "faint", 0.25);
  const double faintly = areaOf(test::cut(test::renderFloat(scene, 0), 0, 0, 30, 120)) / whole;
  QVERIFY(std::abs(faintly - (0.2 + 0.8 * 0.25)) < 0.015);
  set(scene, "faint", 0.0);
  set(scene, "held", 0.4);
  // Two fifths of a lap after the top (frame 12) the column is low, and its peak still up.
  const auto later = test::renderFloat(scene, 20);
  QVERIFY(test::meanOf(test::cut(later, 0, 12, 30, 12), 3) > 0.3);
  QVERIFY(test::meanOf(test::cut(later, 0, 36, 30, 12), 3) < 0.05);
}

void TestRepeat::whatPassesFillsTheFrameForEver() {
  Scene scene = discs("passing", 160, 90);
  setStamp(scene, "kind", std::string("ring"));
  setStamp(scene, "thick", 0.1);
  set(scene, "count", 8.0);
  double least = 1e9;
  double most = 0;
  for (int k = 0; k < 24; ++k) {
    const double area = areaOf(test::renderFloat(scene, k));
    least = std::min(least, area);
    most = std::max(most, area);
  }
  QVERIFY(least > 1000);
  QVERIFY2(most < 1.25 * least, qPrintable(QStringLiteral("%1 to %2").arg(least).arg(most)));
  // Each keeps its stamp while others come and go before and behind it.
  auto& items = scene.layers[0].recipe[0].items;
  items.push_back(items[0]);
  items.push_back(items[0]);
  setStamp(scene, "colour", Colour{1, 0, 0, 1}, 0);
  setStamp(scene, "colour", Colour{0, 1, 0, 1}, 1);
  setStamp(scene, "colour", Colour{0, 0, 1, 1}, 2);
  set(scene, "count", 9.0);
  scene.frames = 180;
  std::vector<double> steps;
  steps.reserve(40);
  for (int k = 0; k < 40; ++k) steps.push_back(test::compare(test::renderFloat(scene, k + 1), test::renderFloat(scene, k)).mean);
  std::vector<double> sorted = steps;
  std::sort(sorted.begin(), sorted.end());
  QVERIFY2(sorted.back() < 1.6 * sorted[20], qPrintable(QStringLiteral("%1 among %2").arg(sorted.back()).arg(sorted[20])));
}

void TestRepeat::aPlaceIsKeptFree() {
  for (const std::string kind : {"rectangle", "ellipse"}) {
    Scene scene = discs("grid", 320, 180);
    set(scene, "distance", Point{12, 12});
    setStamp(scene, "size", 8.0);
    set(scene, "keep", kind);
    set(scene, "keepWidth", 160.0);
    set(scene, "keepHeight", 60.0);
    set(scene, "keepSoft", 20.0);
    const auto frame = test::renderFloat(scene, 0);
    // No middle of a copy lies in the free place.
    QVERIFY(areaOf(test::cut(frame, 130, 80, 60, 20)) == 0);
    QVERIFY(areaOf(test::cut(frame, 0, 0, 60, 180)) > 1500);
    const double corner = areaOf(test::cut(frame, 86, 66, 12, 12));
    QVERIFY(kind == "ellipse" ? corner > 5 : corner == 0);
  }
}

void TestRepeat::everyNthIsDifferent() {
  Scene scene = fourInARow();
  set(scene, "nth", 2.0);
  set(scene, "nthSize", 2.0);
  set(scene, "nthColour", Colour{1, 0, 0, 1});
  const auto frame = test::renderFloat(scene, 0);
  for (int i = 0; i < 4; ++i) {
    QCOMPARE(frame.at(60 * i + 30, 30, 1) < 0.1f, i % 2 == 0);
    QVERIFY(std::abs(areaOfCopy(frame, i) - std::numbers::pi * (i % 2 == 0 ? 400 : 100)) < 4);
  }
}

// By count or by distance; round a closed path whole rounds, on an open one without a jump.
void TestRepeat::singleCopiesAreDifferent() {
  Scene scene = fourInARow();
  const auto plain = test::renderFloat(scene, 0);
  CopyChanges changes;
  changes.put({1, true, {}, 0, 1, {}, {}});
  changes.put({2, false, {0, 14}, 0, 0.5, Colour{1, 0, 0, 1}, {}});
  set(scene, "singles", changes);
  const auto frame = test::renderFloat(scene, 0);
  // The first and the last are as they were, the second is not there, the third lies elsewhere, is smaller and red.
  QVERIFY(test::compare(test::cut(frame, 0, 0, 60, 60), test::cut(plain, 0, 0, 60, 60)).largest == 0);
  QVERIFY(test::compare(test::cut(frame, 180, 0, 60, 60), test::cut(plain, 180, 0, 60, 60)).largest == 0);
  QCOMPARE(areaOfCopy(frame, 1), 0.0);
  QVERIFY(std::abs(areaOfCopy(frame, 2) - areaOfCopy(plain, 2) / 4) < 1);
  QVERIFY(frame.at(150, 44, 0) > 0.99f && frame.at(150, 44, 1) < 0.01f && frame.at(150, 30, 3) < 0.01f);
  // Turned, as all of it is.
  setStamp(scene, "kind", std::string("rectangle"));
  setStamp(scene, "tall", 0.2);
  changes.put({0, false, {}, 90, 1, {}, {}});
  set(scene, "singles", changes);
  const auto turned = test::renderFloat(scene, 0);
  QVERIFY(turned.at(30, 37, 3) > 0.99f && turned.at(37, 30, 3) < 0.01f);
  QVERIFY(turned.at(217, 30, 3) > 0.99f && turned.at(210, 37, 3) < 0.01f);
  // It is the same in files.
  const auto again = sceneFromText(sceneToText(scene));
  QVERIFY(again && test::renderFloat(*again, 0).rgba == turned.rgba);
}

// Rows and columns, rings and places along them keep what was said of them when there are more, or they lie elsewhere.
void TestRepeat::whatWasChangedStays() {
  for (const char* spread : {"grid", "staggered", "ring", "line", "spiral"}) {
    Scene scene = discs(spread, 400, 300);
    const auto placesOf = [&] {
      PlaneView frame;
      frame.frameWidth = 400;
      frame.frameHeight = 300;
      const RecipeStep& step = scene.layers[0].recipe[0];
      return step.spec->copies(contextOf(step, {0, 24}, frame));
    };
    set(scene, "distance", Point{70, 60});
    set(scene, "radius", 100.0);
    set(scene, "count", 9.0);
    const auto places = placesOf();
    const CopyPlace one = places[places.size() / 2];
    CopyChanges changes;
    changes.put({one.copy, true, {}, 0, 1, {}, {}});
    set(scene, "singles", changes);
    const auto outOf = [&] {
      int out = 0;
      for (const CopyPlace& place : placesOf())
        if (place.out) {
          ++out;
          if (place.copy != one.copy) return -1;
        }
      return out;
    };
    QCOMPARE(outOf(), 1);
    set(scene, "distance", Point{50, 45});
    set(scene, "radius", 120.0);
    set(scene, "count", 12.0);
    set(scene, "seed", 5.0);
    QCOMPARE(outOf(), 1);
  }
}

// What is taken hold of in the picture lies where it is painted, for every spread and at any moment.
void TestRepeat::placesAreWhereCopiesAre() {
  for (const char* spread : {"grid", "staggered", "honeycomb", "ring", "spiral", "sunflower", "line", "path", "scattered", "falling"}) {
    Scene scene = discs(spread, 480, 270);
    set(scene, "count", 12.0);
    set(scene, "radius", 120.0);
    set(scene, "scatter", 9.0);
    set(scene, "faded", 0.0);
    set(scene, "distance", Point{90, 80});
    set(scene, "path", *outlineFromPath("M-200 40 C-80 -100 80 -100 200 40"));
    setStamp(scene, "size", 16.0);
    for (const int frame : {0, 7}) {
      PlaneView view;
      view.frameWidth = 480;
      view.frameHeight = 270;
      const RecipeStep& step = scene.layers[0].recipe[0];
      const auto places = step.spec->copies(contextOf(step, {frame, 24}, view));
      QVERIFY2(places.size() >= 4, spread);
      const auto shown = test::renderFloat(scene, frame);
      double covered = 0;
      for (const CopyPlace& place : places) {
        QVERIFY(std::abs(place.halfWidth - place.halfHeight) < 1e-9);
        covered += std::numbers::pi * place.halfWidth * place.halfWidth;
        const int x = static_cast<int>(std::floor(place.at.x));
        const int y = static_cast<int>(std::floor(place.at.y));
        if (place.halfWidth < 2 || x < 1 || y < 1 || x >= 479 || y >= 269) continue;
        QVERIFY2(shown.at(x, y, 3) > 0.9f, qPrintable(QStringLiteral("%1 at %2, %3").arg(spread).arg(x).arg(y)));
      }
      // And nothing is painted beside them.
      QVERIFY(areaOf(shown) <= covered * 1.02 + 2);
    }
  }
}

void TestRepeat::copiesGoAlongAPath() {
  Scene scene = discs("path", 240, 160);
  set(scene, "path", *outlineFromPath("M-60 -40 L60 -40 L60 40 L-60 40 Z"));
  setStamp(scene, "size", 8.0);
  set(scene, "count", 10.0);
  const double one = std::numbers::pi * 16;
  QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) - 10 * one) < 3);
  QVERIFY(test::renderFloat(scene, 24).rgba == test::renderFloat(scene, 0).rgba);
  set(scene, "apart", 20.0);  // 400 round
  QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) - 20 * one) < 4);
  // A tenth of a round on, the first corner is empty between two of them again.
  set(scene, "path", *outlineFromPath("M-100 0 L100 0"));
  double least = 1e9;
  double most = 0;
  for (int k = 0; k < 24; ++k) {
    const double area = areaOf(test::renderFloat(scene, k));
    least = std::min(least, area);
    most = std::max(most, area);
  }
  QVERIFY(least > 0.9 * most);
}

// What a stamp does beside moving its copies leaves their places alone.
void TestRepeat::placesDoNotWaver() {
  Scene scene = discs("scattered", 400, 300);
  set(scene, "even", false);
  set(scene, "count", 1.0);
  set(scene, "seed", 3.0);
  setStamp(scene, "size", 30.0);
  stamp(scene, "softness").motion = test::swing(50.0);
  stamp(scene, "glow").motion = test::swing(60.0, 2);
  const auto middle = [&](int k) {
    const auto frame = test::renderFloat(scene, k);
    double sum = 0;
    Point at;
    for (int y = 0; y < 300; ++y)
      for (int x = 0; x < 400; ++x) {
        const double a = static_cast<double>(frame.at(x, y, 3));
        sum += a;
        at = {at.x + a * x, at.y + a * y};
      }
    return sum > 0 ? Point{at.x / sum, at.y / sum} : Point{};
  };
  // One that lies well within the frame.
  const auto within = [](Point p) { return p.x > 110 && p.x < 290 && p.y > 110 && p.y < 190; };
  double seed = 1;
  for (; seed < 200 && !within(middle(0)); ++seed) set(scene, "seed", seed);
  const Point first = middle(0);
  QVERIFY(within(first));
  for (int k = 1; k < 24; ++k) {
    const Point at = middle(k);
    QVERIFY2(std::hypot(at.x - first.x, at.y - first.y) < 0.02, qPrintable(QStringLiteral("%1: %2, %3").arg(k).arg(at.x).arg(at.y)));
  }
}

// Where another layer is dark there are few, and what follows lightness follows it.
void TestRepeat::anotherLayerSaysHowMany() {
  Scene scene = test::oneLayer("gradient", 240, 120);
  scene.layers[0].id = 1;
  test::setStops(scene, 0, 0, {{0, {0, 0, 0, 1}}, {1, {1, 1, 1, 1}}});
  test::setValue(scene, 0, 0, "angle", 0.0);
  // Which half is the dark one is asked of the gradient itself.
  const auto ground = test::renderFloat(scene, 0);
  const bool across = std::abs(ground.at(5, 60, 0) - ground.at(235, 60, 0)) > 0.5f;
  const bool firstIsDark = (across ? ground.at(5, 60, 0) : ground.at(120, 5, 0)) < 0.5f;
  scene.layers[0].visible = false;
  scene.background.reset();
  scene.layers.push_back(discs("grid", 240, 120).layers[0]);
  set(scene, "distance", Point{10, 10});
  setStamp(scene, "size", 6.0);
  set(scene, "layer", 1.0);
  const auto half = [&](const test::FloatFrame& f, bool first) {
    return areaOf(across ? test::cut(f, first ? 0 : 120, 0, 120, 120) : test::cut(f, 0, first ? 0 : 60, 240, 60));
  };
  const auto all = test::renderFloat(scene, 0);
  QVERIFY(std::abs(half(all, true) - half(all, false)) < 0.02 * half(all, true));
  set(scene, "thinned", 1.0);
  const auto thinned = test::renderFloat(scene, 0);
  QVERIFY(half(thinned, firstIsDark) < 0.5 * half(thinned, !firstIsDark));
  set(scene, "thinned", 0.0);
  set(scene, "differ", std::string("lightness"));
  set(scene, "sizeBy", 1.0);
  const auto sized = test::renderFloat(scene, 0);
  QVERIFY(half(sized, firstIsDark) < 0.5 * half(sized, !firstIsDark));
}

void TestRepeat::noLayerIsItsOwnStamp() {
  Scene scene = fourInARow();
  scene.layers[0].id = 1;
  setStamp(scene, "kind", std::string("layer"));
  set(scene, "layer", 1.0);
  QCOMPARE(areaOf(test::renderFloat(scene, 0)), 0.0);
  // Two that show each other.
  scene.layers.push_back(scene.layers[0]);
  scene.layers[1].id = 2;
  test::setValue(scene, 0, 0, "layer", 2.0);
  QVERIFY(test::allFinite(test::renderFloat(scene, 0)));
  // And one that is not there.
  test::setValue(scene, 0, 0, "layer", 99.0);
  QVERIFY(!Plan(scene).missing().empty());
}

void TestRepeat::readyOnesLoop_data() {
  QTest::addColumn<int>("which");
  const auto varieties = edit::sourceVarieties();
  for (std::size_t i = 0; i < varieties.size(); ++i)
    if (varieties[i].spec->id == "repeat") QTest::newRow(varieties[i].variety.c_str()) << static_cast<int>(i);
}

// Each shows something at every moment, moves, comes home, and is the same again from its file.
void TestRepeat::readyOnesLoop() {
  QFETCH(int, which);
  Scene scene;
  scene.width = 1920;
  scene.height = 1080;
  scene.frames = 96;
  scene.background.reset();
  scene.layers.push_back(edit::sourceLayer(edit::sourceVarieties()[static_cast<std::size_t>(which)], {}));
  assignIds(scene);
  std::vector<test::FloatFrame> frames;
  for (const int k : {0, 17, 41, 76}) frames.push_back(test::renderFloat(scene, k, 192, 108));
  double most = 0;
  for (const auto& frame : frames) {
    QVERIFY(test::deviationOf(frame, 3) > 0.02);
    most = std::max(most, test::meanOf(frame, 3));
  }
  for (const auto& frame : frames) QVERIFY2(test::meanOf(frame, 3) > 0.4 * most, "it is thin at times");
  QVERIFY(test::compare(frames[0], frames[1]).largest > 0.1);
  // The step over the joint is like any other.
  const auto step = [&](int k) {
    return test::compare(test::renderFloat(scene, k, 192, 108), test::renderFloat(scene, (k + 1) % 96, 192, 108)).mean;
  };
  QVERIFY(step(95) < 2.5 * std::max({step(10), step(50), step(70)}));
  const auto again = sceneFromText(sceneToText(scene));
  QVERIFY(again.has_value());
  QVERIFY(test::renderFloat(*again, 17, 192, 108).rgba == frames[1].rgba);
}

// A part of the plane, wherever it lies, is what the whole has there.
void TestRepeat::theWindowOfAViewDoesNotMatter() {
  for (const char* spread : {"honeycomb", "falling", "scattered", "passing", "sunflower"}) {
    Scene scene = discs(spread, 200, 120);
    setStamp(scene, "size", 17.0);
    set(scene, "count", 60.0);
    set(scene, "radius", 90.0);
    const PlaneView whole = PlaneView::cover(200, 120, 200, 120);
    const auto all = test::renderFloat(scene, 7, whole);
    const auto part = test::renderFloat(scene, 7, whole.part(63, 31, 90, 70));
    QVERIFY2(test::compare(test::cut(all, 63, 31, 90, 70), part).largest < 1e-4, spread);
  }
}

// Corners of all ranges at once.
void TestRepeat::hostileNumbers() {
  for (int seed = 1; seed <= 24; ++seed) {
    Scene scene = test::oneLayer("repeat", 64, 40, 12);
    RecipeStep& step = scene.layers[0].recipe[0];
    while (step.items.size() < static_cast<std::size_t>(1 + seed % 3)) step.items.push_back(newItem(*step.spec->items, step.items.size()));
    std::uint64_t draws = 0;
    const auto random = [&] { return randomUnit(static_cast<std::uint64_t>(seed), draws++); };
    forEachParamOf(step, [&](const ParamSpec& spec, Param& param) {
      if (random() < 0.5) return;
      const double at = random() < 0.5 ? spec.min : spec.max;
      if (std::holds_alternative<double>(param.base) && spec.type != ParamType::Layer) {
        // So many copies in so many sizes take their time.
        if (spec.id == "count") return void(param.base = random() < 0.3 ? 400.0 : 1.0);
        param.base = at;
      } else if (std::holds_alternative<Point>(param.base)) {
        param.base = Point{at, random() < 0.5 ? spec.min : spec.max};
      } else if (spec.type == ParamType::Choice) {
        param.base = std::string(spec.choices[static_cast<std::size_t>(random() * static_cast<double>(spec.choices.size()))]);
      } else if (spec.type == ParamType::Toggle) {
        param.base = random() < 0.5;
      }
      param.motion.far = param.base;
    });
    QVERIFY2(test::allFinite(test::renderFloat(scene, 5)), qPrintable(QString::number(seed)));
  }
  // As many as there may be.
  Scene many = discs("falling", 64, 40);
  set(many, "count", 200000.0);
  set(many, "depths", 12.0);
  QVERIFY(test::allFinite(test::renderFloat(many, 5)));
}

QTEST_GUILESS_MAIN(TestRepeat)
#include "tst_repeat.moc"
