// What words are filled with and what lies round them: colours, gradients, layers, shadows and glows, panels, words set apart.
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

class TestWordColours : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void thePanelFits();
  void panelsHaveBarsAndOutlines();
  void panelsAreNotchedAndGraded();
  void panelsBlurWhatLiesBelow();
  void shadowsLieBesideAndGlowsAbout();
  void lettersAreCutOutOfLayers();
  void gradientsGoOverTheBox();
  void coloursAlongAndByTurns();
  void wordsBetweenStarsAreSetApart();
};

void TestWordColours::thePanelFits() {
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

// Only within the panel, as far as its colour lets it through, and as the layer below moves.
void TestWordColours::panelsBlurWhatLiesBelow() {
  Scene scene = wordsOf(" ", 320, 160);
  scene.layers.insert(scene.layers.begin(), newLayer(*findStep("pattern"), "Below"));
  test::setValue(scene, 0, 0, "scale", 20.0);
  test::param(scene, 0, 0, "share").motion = test::swing(1.0);
  test::param(scene, 0, 0, "share").motion.far = 0.8;
  const auto ofWords = [&](const char* id, Value value) { set(scene, id, std::move(value), 1); };
  ofWords("text", Text{"i"});
  ofWords("colour", Colour{1, 1, 1, 0});
  ofWords("panel", true);
  ofWords("panelCorner", 0.0);
  ofWords("padding", Point{80, 30});
  ofWords("panelColour", Colour{0, 0, 0, 0});
  const auto below = test::renderFloat(scene, 3);
  ofWords("panelBlur", 50.0);
  const auto frosted = test::renderFloat(scene, 3);
  const auto unrest = [](const test::FloatFrame& f, int x0, int x1) {
    double sum = 0;
    for (int x = x0; x < x1; ++x) sum += std::abs(static_cast<double>(f.at(x + 1, 80, 0)) - static_cast<double>(f.at(x, 80, 0)));
    return sum;
  };
  QVERIFY2(unrest(frosted, 130, 190) < 0.25 * unrest(below, 130, 190),
           qPrintable(QStringLiteral("%1 of %2").arg(unrest(frosted, 130, 190)).arg(unrest(below, 130, 190))));
  // Beside it nothing is changed.
  for (int y = 0; y < 160; y += 7)
    for (const int x : {3, 40, 280, 310}) QCOMPARE(frosted.at(x, y, 0), below.at(x, y, 0));
  // What lies above it is not in it, and it goes on with what lies below.
  Scene covered = scene;
  covered.layers.push_back(newLayer(*findStep("gradient"), "Above"));
  covered.layers.back().visible = false;
  QVERIFY(test::renderFloat(covered, 3).rgba == frosted.rgba);
  QVERIFY(test::renderFloat(scene, 9).rgba != frosted.rgba);
  QVERIFY(test::renderFloat(scene, 3 + scene.frames).rgba == frosted.rgba);
  // An opaque colour hides it.
  ofWords("panelColour", Colour{0, 0, 1, 1});
  const auto opaque = test::renderFloat(scene, 3);
  QVERIFY(std::abs(opaque.at(120, 80, 2) - 1) < 1e-4f && opaque.at(120, 80, 0) < 1e-4f);
}

void TestWordColours::coloursAlongAndByTurns() {
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

void TestWordColours::shadowsLieBesideAndGlowsAbout() {
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

void TestWordColours::lettersAreCutOutOfLayers() {
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

void TestWordColours::gradientsGoOverTheBox() {
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

void TestWordColours::panelsHaveBarsAndOutlines() {
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

void TestWordColours::wordsBetweenStarsAreSetApart() {
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

void TestWordColours::panelsAreNotchedAndGraded() {
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

QTEST_APPLESS_MAIN(TestWordColours)
#include "tst_word_colours.moc"
