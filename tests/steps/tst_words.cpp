// Words: a panel that fits, letters one after the other, colours, words as stamps and edges; loops of all that is offered.
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

using namespace oa;

namespace {

void set(Scene& scene, const std::string& id, const Value& value, std::size_t layer = 0) { test::setValue(scene, layer, 0, id, value); }

// White words on nothing.
Scene wordsOf(const std::string& text, int width = 480, int height = 160, int frames = 24) {
  Scene scene = test::oneLayer("words", width, height, frames);
  scene.background.reset();
  set(scene, "text", Text{text});
  set(scene, "size", 60.0);
  set(scene, "colour", Colour{1, 1, 1, 1});
  set(scene, "order", std::string("together"));
  return scene;
}

double areaOf(const test::FloatFrame& f) { return test::meanOf(f, 3) * f.width * f.height; }

// What is covered, from column to column.
double columns(const test::FloatFrame& f, double from, double to) {
  const int a = static_cast<int>(std::lround(from));
  return areaOf(test::cut(f, a, 0, static_cast<int>(std::lround(to)) - a, f.height));
}

struct Ink {
  int left = 1 << 20, top = 1 << 20, right = -1, bottom = -1;
};
Ink inkOf(const test::FloatFrame& f) {
  Ink ink;
  for (int y = 0; y < f.height; ++y)
    for (int x = 0; x < f.width; ++x)
      if (f.at(x, y, 3) > 0.002f)
        ink = {std::min(ink.left, x), std::min(ink.top, y), std::max(ink.right, x + 1), std::max(ink.bottom, y + 1)};
  return ink;
}

}  // namespace

class TestWords : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void sizesLookAlike();
  void thePanelFits();
  void lettersFollowEachOther();
  void wordsAndLinesGoTogether();
  void coloursAlongAndByTurns();
  void theExtentHoldsAllOfIt();
  void wordsAreStampsAndHaveEdges();
  void filesKeepThem();
  void readyOnesLoop_data();
  void readyOnesLoop();
  void hugeAndTiny();
  void shadowsLieBesideAndGlowsAbout();
  void lettersAreCutOutOfLayers();
  void gradientsGoOverTheBox();
  void wordsAreTyped();
  void panelsHaveBarsAndOutlines();
  void lettersWidenAndHaveFeatures();
  void piecesArriveInTheirOrder();
  void wordsBetweenStarsAreSetApart();
  void wordsGoRoundOutlines();
  void wordsLeaveOpenLinesAtTheirEnds();
  void panelsAreNotchedAndGraded();
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

void TestWords::thePanelFits() {
  Scene scene = wordsOf("quay");
  set(scene, "panel", true);
  set(scene, "panelColour", Colour{0, 0, 1, 1});
  set(scene, "padding", Point{20, 10});
  set(scene, "panelCorner", 0.0);
  const auto ink = [&] { return inkOf(test::renderFloat(scene, 0)); };
  const Ink quay = ink();
  const double area = (quay.right - quay.left) * (quay.bottom - quay.top);
  QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) - area) < 0.03 * area);
  // As far beyond the words on both sides, and with longer words, and with another padding.
  set(scene, "padding", Point{0, 0});
  const Ink bare = ink();
  QVERIFY(std::abs(bare.left - quay.left - 20) <= 1 && std::abs(quay.right - bare.right - 20) <= 1);
  QVERIFY(std::abs(bare.top - quay.top - 10) <= 1 && std::abs(quay.bottom - bare.bottom - 10) <= 1);
  set(scene, "text", Text{"quay side"});
  QVERIFY(ink().right - ink().left > 1.6 * (bare.right - bare.left));
  set(scene, "text", Text{"quay\nside"});
  QVERIFY(ink().bottom - ink().top > 1.7 * (bare.bottom - bare.top));
  set(scene, "panelCorner", 20.0);
  const auto round = test::renderFloat(scene, 0);
  QVERIFY(round.at(inkOf(round).left + 1, inkOf(round).top + 1, 3) < 0.01f);
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

void TestWords::coloursAlongAndByTurns() {
  Scene scene = wordsOf("IIIII");
  set(scene, "spacing", 0.6);
  set(scene, "colour", Colour{1, 0, 0, 1});
  set(scene, "other", Colour{0, 0, 1, 1});
  const auto colours = [&] {
    std::vector<std::pair<float, float>> list;
    const auto f = test::renderFloat(scene, 0);
    bool within = false;
    for (int x = 0; x < f.width; ++x) {
      const bool here = f.at(x, 80, 3) > 0.99f;
      if (here && !within) list.emplace_back(f.at(x, 80, 0), f.at(x, 80, 2));
      within = here;
    }
    return list;
  };
  set(scene, "fill", std::string("by turns"));
  const auto turns = colours();
  QCOMPARE(turns.size(), std::size_t{5});
  for (std::size_t i = 0; i < 5; ++i) QVERIFY(std::abs(turns[i].first - (i % 2 == 0 ? 1.0f : 0.0f)) < 0.01f);
  set(scene, "fill", std::string("along"));
  const auto along = colours();
  QVERIFY(along[0].first > 0.98f && along[4].second > 0.98f);
  for (std::size_t i = 1; i < 5; ++i) QVERIFY(along[i].first < along[i - 1].first && along[i].second > along[i - 1].second);
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

void TestWords::shadowsLieBesideAndGlowsAbout() {
  Scene scene = wordsOf("Quay", 480, 200);
  set(scene, "centre", Point{0.4, 0.5});
  const auto plain = test::renderFloat(scene, 0);
  set(scene, "shadow", 1.0);
  set(scene, "shadowOffset", Point{100, 40});
  set(scene, "shadowSoft", 0.0);
  set(scene, "shadowColour", Colour{0, 1, 0, 1});
  // Sharp, it is the same letters once more, in its colour and so far beside them.
  const auto thrown = test::renderFloat(scene, 0);
  double worst = 0;
  for (int y = 40; y < 160; ++y)
    for (int x = 100; x < 380; ++x) {
      const double left = 1 - static_cast<double>(plain.at(x, y, 3));
      worst = std::max(worst, std::abs(static_cast<double>(thrown.at(x, y, 1)) - static_cast<double>(plain.at(x, y, 1)) -
                                       static_cast<double>(plain.at(x - 100, y - 40, 3)) * left));
      worst = std::max(worst, static_cast<double>(std::abs(thrown.at(x, y, 0) - plain.at(x, y, 0))));
    }
  QVERIFY2(worst < 1e-4, qPrintable(QString::number(worst)));
  // Blurred, all of it is there still.
  Scene apart = wordsOf("Quay", 900, 200);
  set(apart, "centre", Point{0.2, 0.5});
  set(apart, "colour", Colour{0, 0, 0, 1});
  set(apart, "shadow", 1.0);
  set(apart, "shadowOffset", Point{450, 0});
  set(apart, "shadowColour", Colour{0, 1, 0, 1});
  set(apart, "shadowSoft", 0.0);
  const double sharp = test::meanOf(test::renderFloat(apart, 0), 1);
  QVERIFY(sharp > 0.005);
  set(apart, "shadowSoft", 16.0);
  QVERIFY(std::abs(test::meanOf(test::renderFloat(apart, 0), 1) - sharp) < 0.02 * sharp);
  // A glow lies about them evenly and falls off.
  Scene glowing = wordsOf("o", 300, 300);
  set(glowing, "glow", 1.0);
  set(glowing, "glowReach", 80.0);
  const auto f = test::renderFloat(glowing, 0);
  const Ink ink = inkOf(test::renderFloat(wordsOf("o", 300, 300), 0));
  const int middle = (ink.top + ink.bottom) / 2;
  QVERIFY(f.at(ink.left - 8, middle, 3) > 0.1f);
  QVERIFY(std::abs(f.at(ink.left - 8, middle, 3) - f.at(ink.right + 7, middle, 3)) < 0.03f);
  QVERIFY(f.at(ink.left - 8, middle, 3) > f.at(ink.left - 30, middle, 3) &&
          f.at(ink.left - 30, middle, 3) > f.at(ink.left - 60, middle, 3));
}

void TestWords::lettersAreCutOutOfLayers() {
  Scene scene = wordsOf("Tide", 320, 160);
  Layer shown = newLayer(*findStep("noise"), "Sea");
  scene.layers.insert(scene.layers.begin(), shown);
  scene.layers[0].visible = false;
  assignIds(scene);
  Scene sea = scene;
  sea.layers.resize(1);
  sea.layers[0].visible = true;
  const auto shape = test::renderFloat(scene, 3);
  set(scene, "fill", std::string("layer"), 1);
  // Of no layer they keep their colour.
  QCOMPARE(test::renderFloat(scene, 3).rgba, shape.rgba);
  set(scene, "layer", static_cast<double>(scene.layers[0].id), 1);
  const auto cutOut = test::renderFloat(scene, 3);
  const auto picture = test::renderFloat(sea, 3);
  double worst = 0;
  for (int y = 0; y < 160; ++y)
    for (int x = 0; x < 320; ++x)
      for (int c = 0; c < 4; ++c)
        worst = std::max(worst, static_cast<double>(std::abs(cutOut.at(x, y, c) - picture.at(x, y, c) * shape.at(x, y, 3))));
  QVERIFY2(worst < 1e-4, qPrintable(QString::number(worst)));
  // They cannot show themselves.
  set(scene, "layer", static_cast<double>(scene.layers[1].id), 1);
  QVERIFY(!Plan(scene).status().has_value());
}

void TestWords::gradientsGoOverTheBox() {
  Scene scene = wordsOf("HHHH", 480, 160);
  set(scene, "fill", std::string("gradient"));
  set(scene, "colour", Colour{1, 0, 0, 1});
  set(scene, "other", Colour{0, 0, 1, 1});
  set(scene, "fillAngle", 0.0);
  const auto f = test::renderFloat(scene, 0);
  const Ink ink = inkOf(f);
  const auto redness = [&](int x) {
    double red = 0;
    double all = 0;
    for (int y = 0; y < f.height; ++y) {
      red += static_cast<double>(f.at(x, y, 0));
      all += static_cast<double>(f.at(x, y, 3));
    }
    return all > 0 ? red / all : -1;
  };
  QVERIFY(redness(ink.left + 3) > 0.85 && redness(ink.right - 4) < 0.15);
  // Turned by half a turn it goes the other way.
  set(scene, "fillAngle", 180.0);
  const auto back = test::renderFloat(scene, 0);
  double red = 0;
  double all = 0;
  for (int y = 0; y < back.height; ++y) {
    red += static_cast<double>(back.at(ink.right - 4, y, 0));
    all += static_cast<double>(back.at(ink.right - 4, y, 3));
  }
  QVERIFY(red / all > 0.85);
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

void TestWords::panelsHaveBarsAndOutlines() {
  Scene scene = wordsOf("Mole", 480, 240);
  set(scene, "panel", true);
  set(scene, "panelCorner", 0.0);
  set(scene, "padding", Point{20, 10});
  const Ink plain = inkOf(test::renderFloat(scene, 0));
  set(scene, "barWidth", 30.0);
  set(scene, "barColour", Colour{1, 0, 0, 1});
  for (const char* side : {"left", "right", "top", "bottom"}) {
    set(scene, "bar", std::string(side));
    const auto f = test::renderFloat(scene, 0);
    const Ink ink = inkOf(f);
    const bool left = side[0] == 'l';
    const bool right = side[0] == 'r';
    const bool top = side[0] == 't';
    QVERIFY(std::abs(ink.left - plain.left + (left ? 30 : 0)) <= 1 && std::abs(ink.right - plain.right - (right ? 30 : 0)) <= 1);
    QVERIFY(std::abs(ink.top - plain.top + (top ? 30 : 0)) <= 1 &&
            std::abs(ink.bottom - plain.bottom - (!left && !right && !top ? 30 : 0)) <= 1);
    const int x = left ? ink.left + 15 : right ? ink.right - 15 : (ink.left + ink.right) / 2;
    const int y = top ? ink.top + 15 : !left && !right ? ink.bottom - 15 : (ink.top + ink.bottom) / 2;
    QVERIFY(f.at(x, y, 0) > 0.99f && f.at(x, y, 1) < 0.01f);
  }
  set(scene, "bar", std::string("none"));
  set(scene, "panelLine", 12.0);
  const Ink lined = inkOf(test::renderFloat(scene, 0));
  QVERIFY(std::abs(plain.left - lined.left - 6) <= 1 && std::abs(lined.bottom - plain.bottom - 6) <= 1);
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
      QVERIFY(now >= before - 1);
      before = now;
    }
    // Half of the time is half of them.
    QVERIFY(std::abs(ink(at(15)) / ink(at(30)) - 0.5) < 0.1);
    QCOMPARE(ink(at(30)), ink(at(31)));
  }
}

void TestWords::wordsBetweenStarsAreSetApart() {
  Scene scene = wordsOf("quay *side*");
  const auto greenOf = [&] {
    const auto f = test::renderFloat(scene, 0);
    return test::meanOf(f, 1) * f.width * f.height;
  };
  const auto areaNow = [&] { return areaOf(test::renderFloat(scene, 0)); };
  const double withStars = areaNow();
  set(scene, "stars", true);
  set(scene, "starFont", Text{"League Spartan"});
  set(scene, "starSize", 1.0);
  set(scene, "starColour", Colour{1, 0, 0, 1});
  const double apart = areaNow();
  QVERIFY(apart < withStars - 20);
  const double side = apart - greenOf();
  set(scene, "stars", false);
  set(scene, "text", Text{"quay side"});
  QVERIFY(std::abs(areaNow() - apart) < 0.01 * apart);
  set(scene, "text", Text{"side"});
  QVERIFY2(std::abs(areaNow() - side) < 0.01 * apart, qPrintable(QStringLiteral("%1, %2").arg(areaNow()).arg(side)));
  // Twice as large takes four times as much.
  set(scene, "text", Text{"*side*"});
  set(scene, "stars", true);
  set(scene, "starSize", 2.0);
  QVERIFY(std::abs(areaNow() - 4 * side) < 0.02 * 4 * side);
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

void TestWords::panelsAreNotchedAndGraded() {
  Scene scene = wordsOf("quay");
  set(scene, "colour", Colour{0, 0, 0, 0});
  set(scene, "panel", true);
  set(scene, "padding", Point{60, 20});
  set(scene, "panelCorner", 0.0);
  const double whole = areaOf(test::renderFloat(scene, 0));
  const Ink box = inkOf(test::renderFloat(scene, 0));
  for (const std::string side : {"left", "right", "top", "bottom"})
    for (const double depth : {30.0, -30.0})
      for (const double corner : {0.0, 12.0}) {
        set(scene, "notch", side);
        set(scene, "notchDepth", depth);
        set(scene, "notchWidth", 0.6);
        set(scene, "panelCorner", corner);
        const bool upright = side == "left" || side == "right";
        const double length = (upright ? box.bottom - box.top : box.right - box.left) - 2 * corner;
        const double expected = whole - depth * 0.6 * length / 2 - (4 - std::numbers::pi) * corner * corner;
        const double area = areaOf(test::renderFloat(scene, 0));
        QVERIFY2(std::abs(area - expected) < 0.02 * whole,
                 qPrintable(QStringLiteral("%1 %2 %3: %4, %5").arg(side.c_str()).arg(depth).arg(corner).arg(area).arg(expected)));
      }
  set(scene, "notch", std::string("none"));
  set(scene, "panelCorner", 0.0);
  set(scene, "panelFill", std::string("gradient"));
  set(scene, "panelColour", Colour{1, 0, 0, 1});
  set(scene, "panelOther", Colour{0, 0, 1, 1});
  set(scene, "panelAngle", 0.0);
  const auto graded = test::renderFloat(scene, 0);
  const int y = (box.top + box.bottom) / 2;
  QVERIFY(graded.at(box.left + 2, y, 0) > 0.9f && graded.at(box.left + 2, y, 2) < 0.1f);
  QVERIFY(graded.at(box.right - 3, y, 2) > 0.9f && graded.at(box.right - 3, y, 0) < 0.1f);
  QVERIFY(std::abs(areaOf(graded) - whole) < 0.01 * whole);
}

QTEST_APPLESS_MAIN(TestWords)
#include "tst_words.moc"
