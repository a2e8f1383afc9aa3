// Words: a panel that fits, letters one after the other, colours, words as stamps and edges; loops of all that is offered.
#include <QTest>
#include <cmath>

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
  Scene scene = test::oneLayer("flat", 480, 270, 48);
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

QTEST_APPLESS_MAIN(TestWords)
#include "tst_words.moc"
