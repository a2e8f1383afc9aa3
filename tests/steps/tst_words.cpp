// Words: their size and order, letters one after the other, words as stamps and edges and along outlines; loops of all that is offered.
#include <QTest>
#include <cmath>
#include <numbers>

#include "base/outline.h"
#include "base/random.h"
#include "edit/source_layers.h"
#include "scene/extent.h"
#include "scene/scene_json.h"
#include "scene/tree.h"
#include "support/pictures.h"
#include "support/scenes.h"
#include "support/words.h"

using namespace oa;
using namespace oa::test::words;

class TestWords : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void sizesLookAlike();
  void lettersFollowEachOther();
  void wordsAndLinesGoTogether();
  void theExtentHoldsAllOfIt();
  void wordsAreStampsAndHaveEdges();
  void filesKeepThem();
  void readyOnesLoop_data();
  void readyOnesLoop();
  void hugeAndTiny();
  void wordsAreShownInTurn();
  void wordsAreTyped();
  void lettersWidenAndHaveFeatures();
  void piecesArriveInTheirOrder();
  void wordsGoRoundOutlines();
  void wordsLeaveOpenLinesAtTheirEnds();
};

// Half as large is a quarter of the area, to a hundredth: nothing is hinted.
void TestWords::sizesLookAlike() {
  Scene scene = wordsOf("Harbour Days");
  const double whole = areaOf(test::renderFloat(scene, 0));
  QVERIFY(whole > 2000);
  set(scene, "size", 30.0);
  QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) - whole / 4) < 0.01 * whole);
  // In the middle, wherever that is.
  set(scene, "centre", Point{0.25, 0.5});
  const Ink ink = inkOf(test::renderFloat(scene, 0));
  QVERIFY(std::abs((ink.left + ink.right) / 2.0 - 120) < 4);
}

// Each is as much there as the first one will be, in as much later.
void TestWords::lettersFollowEachOther() {
  Scene scene = wordsOf("IIII", 480, 160, 32);
  set(scene, "spacing", 1.0);
  const auto frameOf = [&](int k) { return test::renderFloat(scene, k); };
  const Ink ink = inkOf(frameOf(0));
  const double step = (ink.right - ink.left + 60.0) / 4;  // from each to the next: a letter and its space
  const auto area = [&](const test::FloatFrame& f, int i) { return columns(f, ink.left - 30 + step * i, ink.left - 30 + step * (i + 1)); };
  Param& opacity = test::param(scene, 0, 0, "letterOpacity");
  opacity.base = opacity.motion.far = 0.1;
  opacity.motion = test::swing(1.0);
  set(scene, "order", std::string("forwards"));
  set(scene, "ahead", 1.0);
  const auto now = frameOf(4);
  for (int i = 0; i < 4; ++i) {
    const double later = area(frameOf(4 + 8 * i), 0);
    QVERIFY2(std::abs(area(now, i) - later) < 0.02 * area(now, 0) + 2,
             qPrintable(QStringLiteral("%1: %2, %3").arg(i).arg(area(now, i)).arg(later)));
  }
  QVERIFY(std::abs(area(now, 0) - area(now, 2)) > 50);
  // Backwards it is the other way round; from the middle both sides are alike.
  set(scene, "order", std::string("backwards"));
  const auto back = frameOf(4);
  for (int i = 0; i < 4; ++i) QVERIFY(std::abs(area(back, i) - area(now, 3 - i)) < 3);
  set(scene, "order", std::string("from the middle"));
  const auto middle = frameOf(4);
  QVERIFY(std::abs(area(middle, 0) - area(middle, 3)) < 3 && std::abs(area(middle, 1) - area(middle, 2)) < 3);
  QVERIFY(std::abs(area(middle, 0) - area(middle, 1)) > 20);
  QVERIFY(frameOf(32).rgba == frameOf(0).rgba);
}

void TestWords::wordsAndLinesGoTogether() {
  Scene scene = wordsOf("II II\nII II");
  Param& opacity = test::param(scene, 0, 0, "letterOpacity");
  opacity.base = opacity.motion.far = 0.0;
  opacity.motion = test::swing(1.0);
  set(scene, "order", std::string("forwards"));
  set(scene, "ahead", 1.0);
  const auto values = [&] {
    // How much there is at most in each letter: its own opacity.
    std::vector<float> list;
    const auto f = test::renderFloat(scene, 5);
    const Ink ink = inkOf(f);
    for (const int y : {ink.top + 8, ink.bottom - 8}) {
      float most = 0;
      bool within = false;
      for (int x = 0; x < f.width; ++x) {
        const bool here = f.at(x, y, 3) > 0.004f;
        most = here ? std::max(most, f.at(x, y, 3)) : most;
        if (within && !here) {
          list.push_back(most);
          most = 0;
        }
        within = here;
      }
    }
    return list;
  };
  set(scene, "by", std::string("word"));
  const auto words = values();
  QCOMPARE(words.size(), std::size_t{8});
  for (std::size_t i = 0; i < 8; i += 2) QVERIFY(std::abs(words[i] - words[i + 1]) < 0.02f);
  QVERIFY(std::abs(words[0] - words[2]) > 0.1f);
  set(scene, "by", std::string("line"));
  const auto lines = values();
  for (std::size_t i = 0; i < 8; ++i) QVERIFY(std::abs(lines[i] - lines[i / 4 * 4]) < 0.02f);
  QVERIFY(std::abs(lines[0] - lines[4]) > 0.1f);
  set(scene, "by", std::string("letter"));
  QVERIFY(std::abs(values()[0] - values()[1]) > 0.05f);
}

void TestWords::theExtentHoldsAllOfIt() {
  const char* texts[] = {"Harbour\nDays", "fjords (quay)", "\xc3\x85ngstr\xc3\xb6m j", "fly"};
  const char* fonts[] = {"League Spartan", "Cabin", "Dancing Script", "B612"};
  for (std::uint64_t k = 0; k < 24; ++k) {
    Scene scene = wordsOf(texts[k % 4], 900, 500, 24);
    set(scene, "font", Text{fonts[(k / 4) % 4]});
    set(scene, "size", 30 + 60 * randomUnit(k, 1));
    set(scene, "panel", k % 3 == 0);
    set(scene, "italic", k % 5 == 0);
    set(scene, "line", 8 * randomUnit(k, 2));
    set(scene, "order", std::string("forwards"));
    test::param(scene, 0, 0, "offset").motion = test::swing(Point{30 * randomUnit(k, 3), -20});
    test::param(scene, 0, 0, "letterTurn").motion = test::turn(1);
    test::param(scene, 0, 0, "letterSize").motion = test::swing(1 + randomUnit(k, 4));
    const int frame = static_cast<int>(k % 24);
    const Box box = extentOf(Plan(scene), 0, {frame, 24}).box;
    const Ink ink = inkOf(test::renderFloat(scene, frame));
    QVERIFY(ink.right > 0);
    QVERIFY2(ink.left >= box.left - 1 && ink.top >= box.top - 1 && ink.right <= box.right + 1 && ink.bottom <= box.bottom + 1,
             qPrintable(QStringLiteral("%1: %2 %3").arg(k).arg(ink.left - box.left).arg(ink.top - box.top)));
  }
}

// What is changed in the words is changed wherever they are seen: on a wall of them, and round their edges.
void TestWords::wordsAreStampsAndHaveEdges() {
  Scene scene = wordsOf("HO", 480, 160);
  scene.layers[0].id = 1;
  scene.layers[0].visible = false;
  Layer wall = newLayer(*findStep("repeat"), "Wall");
  wall.id = 2;
  scene.layers.push_back(wall);
  set(scene, "spread", std::string("grid"), 1);
  set(scene, "layer", 1.0, 1);
  RecipeStep& repeat = scene.layers[1].recipe[0];
  repeat.items[0].params[0].base = std::string("layer");
  const auto before = test::renderFloat(scene, 0);
  QVERIFY(areaOf(before) > 500);
  set(scene, "text", Text{"HOI"}, 0);
  QVERIFY(test::compare(test::renderFloat(scene, 0), before).largest > 0.5);
  // A line round every letter, and round what is left open in it.
  scene.layers[1] = newLayer(*findStep("outline"), "Edges");
  scene.layers[1].id = 2;
  set(scene, "along", std::string("layer"), 1);
  set(scene, "layer", 1.0, 1);
  set(scene, "wobble", 0.0, 1);
  set(scene, "width", 2.0, 1);
  set(scene, "colour", Colour{1, 1, 1, 1}, 1);
  const double three = areaOf(test::renderFloat(scene, 0));
  set(scene, "text", Text{"HO"}, 0);
  const double two = areaOf(test::renderFloat(scene, 0));
  QVERIFY(two > 300 && three > two + 100);
}

void TestWords::filesKeepThem() {
  Scene scene = wordsOf("Z\xcc\x8c \"quoted\"\n\\ two");
  set(scene, "font", Text{"A font that is not here"});
  const auto again = sceneFromText(sceneToText(scene));
  QVERIFY(again.has_value());
  QVERIFY(test::renderFloat(*again, 0).rgba == test::renderFloat(scene, 0).rgba);
  QCOMPARE(std::get<Text>(test::param(scene, 0, 0, "font").base).text, std::string("A font that is not here"));
  std::string text = sceneToText(scene);
  const auto at = text.find("A font that");
  text.replace(at - 1, 25, "12345");
  const auto bad = sceneFromText(text);
  QVERIFY(!bad && bad.error().sentence().find("text") != std::string::npos);
}

void TestWords::readyOnesLoop_data() {
  QTest::addColumn<QString>("name");
  for (const auto& variety : edit::sourceVarieties())
    if (variety.spec->id == "words")
      QTest::newRow(std::string(variety.variety).c_str()) << QString::fromStdString(std::string(variety.variety));
}

void TestWords::readyOnesLoop() {
  QFETCH(QString, name);
  Scene scene = test::oneLayer("flat", 960, 640, 48);
  for (const auto& variety : edit::sourceVarieties())
    if (variety.spec->id == "words" && variety.variety == name.toStdString()) scene.layers[0] = edit::sourceLayer(variety, {});
  scene.background.reset();
  const auto first = test::renderFloat(scene, 0);
  QVERIFY(test::renderFloat(scene, 48).rgba == first.rgba);
  double most = 0;
  for (int k = 0; k < 48; k += 6) most = std::max(most, areaOf(test::renderFloat(scene, k)));
  QVERIFY2(most > 900, qPrintable(QString::number(most)));
}

void TestWords::hugeAndTiny() {
  for (const double size : {1.0, 8192.0}) {
    Scene scene = wordsOf("Oo", 160, 90, 24);
    set(scene, "size", size);
    set(scene, "letterSize", 20.0);
    set(scene, "line", 512.0);
    set(scene, "panel", true);
    QVERIFY(test::allFinite(test::renderFloat(scene, 0)));
  }
}

// Each for as long, in their order, as if it were alone; the panel fits each, and the extent holds all of them.
void TestWords::wordsAreShownInTurn() {
  Scene scene = wordsOf("quay\n\n harbour days \n \n\nrope\nand tide", 480, 200, 30);
  set(scene, "pages", true);
  set(scene, "panel", true);
  const char* const alone[] = {"quay", " harbour days ", "rope\nand tide"};
  for (int k = 0; k < 30; ++k) {
    Scene one = wordsOf(alone[k / 10], 480, 200, 30);
    set(one, "panel", true);
    QVERIFY2(test::renderFloat(scene, k).rgba == test::renderFloat(one, 0).rgba, qPrintable(QString::number(k)));
  }
  QVERIFY(test::renderFloat(scene, 30).rgba == test::renderFloat(scene, 0).rgba);
  const Plan plan(scene);
  for (const int k : {0, 12, 25}) {
    const Extent extent = extentWithin(plan, 0, {k, 30}, true);
    const Ink ink = inkOf(test::renderFloat(scene, 12));
    QVERIFY(!extent.endless && extent.box.left <= ink.left && extent.box.right >= ink.right);
  }
  // Twice round within the loop, and always the first where nothing moves them on.
  set(scene, "pageRounds", 2.0);
  QVERIFY(test::renderFloat(scene, 15).rgba == test::renderFloat(scene, 0).rgba);
  QVERIFY(test::renderFloat(scene, 5).rgba != test::renderFloat(scene, 0).rgba);
  test::param(scene, 0, 0, "pageRounds").motion.kind = MotionKind::Still;
  QVERIFY(test::renderFloat(scene, 20).rgba == test::renderFloat(scene, 0).rgba);
  // Without empty lines each line is alone.
  set(scene, "text", Text{"quay\nharbour days"});
  test::param(scene, 0, 0, "pageRounds").motion.kind = MotionKind::Turn;
  set(scene, "pageRounds", 1.0);
  Scene second = wordsOf("harbour days", 480, 200, 30);
  set(second, "panel", true);
  QVERIFY(test::renderFloat(scene, 15).rgba == test::renderFloat(second, 0).rgba);
  // Only empty lines: nothing, and no error.
  set(scene, "panel", false);
  set(scene, "text", Text{"\n\n"});
  QCOMPARE(areaOf(test::renderFloat(scene, 4)), 0.0);
}

void TestWords::wordsAreTyped() {
  Scene scene = wordsOf("letters", 480, 160);
  double before = -1;
  for (int n = 0; n <= 7; ++n) {
    set(scene, "typed", n / 7.0);
    const double now = areaOf(test::renderFloat(scene, 0));
    QVERIFY(now > before);
    before = now;
  }
  set(scene, "typed", 3 / 7.0);
  const Ink three = inkOf(test::renderFloat(scene, 0));
  set(scene, "caret", true);
  set(scene, "blinks", 0.0);
  const Ink with = inkOf(test::renderFloat(scene, 0));
  QVERIFY(with.right > three.right && with.right < three.right + 16 && with.top <= three.top && with.bottom >= three.bottom);
  // It blinks as often as it should: on for the first half of each.
  set(scene, "blinks", 4.0);
  test::param(scene, 0, 0, "blinks").motion = test::turn(1);
  for (int k = 0; k < 24; ++k) QCOMPARE(inkOf(test::renderFloat(scene, k)).right == with.right, k % 6 < 3);
}

void TestWords::lettersWidenAndHaveFeatures() {
  Scene scene = wordsOf("Sail", 480, 160);
  const Ink plain = inkOf(test::renderFloat(scene, 0));
  set(scene, "stretch", 1.5);
  const Ink wide = inkOf(test::renderFloat(scene, 0));
  QVERIFY(std::abs((wide.right - wide.left) - 1.5 * (plain.right - plain.left)) < 4);
  QVERIFY(std::abs((wide.bottom - wide.top) - (plain.bottom - plain.top)) <= 1);
  set(scene, "stretch", 1.0);
  const auto usual = test::renderFloat(scene, 0);
  set(scene, "features", Text{"ss01"});  // another small a
  QVERIFY(test::compare(test::renderFloat(scene, 0), usual).largest > 0.5);
  set(scene, "features", Text{"\x01 nonsense ,,, =9999999999"});
  QVERIFY(test::allFinite(test::renderFloat(scene, 0)));
}

// Letter by letter, word by word and line by line, from nothing to all of it.
void TestWords::piecesArriveInTheirOrder() {
  for (const PassBy by : {PassBy::Letter, PassBy::Word, PassBy::Line}) {
    Scene scene = wordsOf("ab cd\nef gh", 480, 240, 30);
    scene.rate = {30, 1};
    Passing p;
    p.by = by;
    p.lasts = 1;
    p.overlap = 0;
    p.from = PassFrom::Beside;
    p.distance = 30;
    scene.layers[0].passes.arrive = passageOf(p);
    RenderOptions options;
    options.run = true;
    Renderer renderer(scene, 480, 240, options);
    const auto at = [&](std::int64_t k) {
      Frame16 frame;
      renderInto(renderer, k, frame);
      return frame;
    };
    const auto ink = [&](const Frame16& f) {
      double sum = 0;
      for (std::size_t i = 3; i < f.rgba.size(); i += 4) sum += f.rgba[i] / 65535.0;
      return sum;
    };
    QCOMPARE(ink(at(0)), 0.0);
    double before = 0;
    for (int k = 1; k <= 30; ++k) {
      const double now = ink(at(k));
      QVERIFY2(now >= before - 1, qPrintable(QStringLiteral("%1: %2 then %3").arg(k).arg(before).arg(now)));
      before = now;
    }
    // Half of the time is half of them.
    QVERIFY(std::abs(ink(at(15)) / ink(at(30)) - 0.5) < 0.1);
    QCOMPARE(ink(at(30)), ink(at(31)));
  }
}

// A quarter of the lap later it is the same ring, turned by a right angle.
void TestWords::wordsGoRoundOutlines() {
  Scene scene = wordsOf("nets and sails", 401, 401, 24);
  set(scene, "size", 40.0);
  set(scene, "set", std::string("along an outline"));
  set(scene, "outline",
      *outlineFromPath(
          "M0 120 C-66.3 120 -120 66.3 -120 0 C-120 -66.3 -66.3 -120 0 -120 C66.3 -120 120 -66.3 120 0 C120 66.3 66.3 120 0 120 Z"));
  const auto still = test::renderFloat(scene, 0);
  QVERIFY(areaOf(still) > 1500);
  const auto distances = [](const test::FloatFrame& f) {
    double least = 1e9;
    double most = 0;
    for (int y = 0; y < f.height; ++y)
      for (int x = 0; x < f.width; ++x)
        if (f.at(x, y, 3) > 0.01f) {
          const double d = std::hypot(x - 200, y - 200);
          least = std::min(least, d);
          most = std::max(most, d);
        }
    return std::pair(least, most);
  };
  const auto [least, most] = distances(still);
  QVERIFY2(least > 80 && most < 165, qPrintable(QStringLiteral("%1, %2").arg(least).arg(most)));
  // In the middle of it they stand upright on top, and there are none at its foot.
  QVERIFY(areaOf(test::cut(still, 150, 20, 100, 80)) > 200);
  QVERIFY(areaOf(test::cut(still, 150, 300, 100, 80)) < 0.01);
  set(scene, "spread", true);
  QVERIFY(areaOf(test::cut(test::renderFloat(scene, 0), 150, 280, 100, 100)) > 100);
  set(scene, "rounds", 1.0);
  test::param(scene, 0, 0, "rounds").motion = test::turn(1);
  const auto first = test::renderFloat(scene, 0);
  const auto later = test::renderFloat(scene, 6);
  double off = 0;
  for (int y = 0; y < 401; ++y)
    for (int x = 0; x < 401; ++x) off += std::abs(static_cast<double>(later.at(400 - y, x, 3) - first.at(x, y, 3)));
  QVERIFY2(off < 0.02 * areaOf(first), qPrintable(QString::number(off / areaOf(first))));
  QVERIFY(test::compare(later, first).largest > 0.5);
  QVERIFY(test::renderFloat(scene, 24).rgba == first.rgba);
}

// What does not fit is not there; what travels goes out at one end and comes in at the other, as if it faded.
void TestWords::wordsLeaveOpenLinesAtTheirEnds() {
  Scene scene = wordsOf("a rather long line of words for it", 480, 160, 48);
  set(scene, "set", std::string("along an outline"));
  set(scene, "outline", *outlineFromPath("M-120 0 L120 0"));
  const Ink ink = inkOf(test::renderFloat(scene, 0));
  QVERIFY2(ink.left >= 102 && ink.right <= 378, qPrintable(QStringLiteral("%1, %2").arg(ink.left).arg(ink.right)));
  set(scene, "text", Text{"iiii"});
  set(scene, "rounds", 1.0);
  test::param(scene, 0, 0, "rounds").motion = test::turn(1);
  const double whole = areaOf(test::renderFloat(scene, 0));
  double least = 1e9;
  double jump = 0;
  for (int k = 0; k < 48; ++k) {
    const double area = areaOf(test::renderFloat(scene, k));
    least = std::min(least, area);
    jump = std::max(jump, std::abs(areaOf(test::renderFloat(scene, k + 1)) - area));
    QVERIFY(inkOf(test::renderFloat(scene, k)).left >= 110);
  }
  QVERIFY(least > 0.4 * whole && least < 0.95 * whole);
  QVERIFY2(jump < 0.3 * whole, qPrintable(QString::number(jump / whole)));
}

QTEST_APPLESS_MAIN(TestWords)
#include "tst_words.moc"
