// Colour points: colours at their places, mixtures against known OKLab values, and softness.
#include <QTest>
#include <algorithm>
#include <cmath>

#include "image/colour.h"
#include "scene/scene_json.h"
#include "scene/tree.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene twoPoints(Colour left, Colour right, const char* mixing = "oklab", int width = 320, int height = 80) {
  Scene scene = test::oneLayer("points", width, height);
  test::setCount(scene, 0, 0, 2);
  test::setValue(scene, 0, 0, "mixing", std::string(mixing));
  test::setValue(scene, 0, 0, "colour1", left);
  test::setValue(scene, 0, 0, "colour2", right);
  test::setValue(scene, 0, 0, "place1", Point{0.1, 0.5});
  test::setValue(scene, 0, 0, "place2", Point{0.9, 0.5});
  for (const char* reach : {"reach1", "reach2"}) test::setValue(scene, 0, 0, reach, 100.0);
  return scene;
}

bool colourIs(const test::FloatFrame& f, int x, int y, const Colour& expected, double tolerance) {
  const float parts[3] = {expected.r, expected.g, expected.b};
  for (int c = 0; c < 3; ++c)
    if (std::abs(f.at(x, y, c) - parts[c]) >= tolerance) return false;
  return true;
}

}  // namespace

class TestPoints : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void halfwayIsHalfTheMixture();
  void linearMixesLight();
  void mixturesStayClear();
  void placesHaveTheirColours();
  void softnessMelts();
  void eachHasItsOwnSoftness();
  void farFromAllTheNearestIsSeen();
  void fieldsKeepTheNearestColourFarOut();
  void fieldsRunEvenly();
  void oldFilesKeepTheirSpots();
  void reachWins();
  void alphaMixesToo();
  void numberedPointsBecomeItems();
  void hundredsOfPointsAreMixed();
  void morePointsAreReadAndWritten();
};

// Halfway between white and black OKLab has L = 0.5, which is sRGB 0.3886 (B. Ottosson's published matrices: 0.5^3 = 0.125 linear).
void TestPoints::halfwayIsHalfTheMixture() {
  const auto f = test::renderFloat(twoPoints({1, 1, 1, 1}, {0, 0, 0, 1}), 0);
  const double expected = srgbEncode(0.125);
  // The middle lies between two pixels.
  QVERIFY2(std::abs((f.at(159, 40, 0) + f.at(160, 40, 0)) / 2 - expected) < 0.01, qPrintable(QString::number(f.at(160, 40, 0))));
  // Red and blue: published OKLab of the primaries (0.62796, 0.22486, 0.12585) and (0.45201, -0.03246, -0.31153), half of each.
  const Colour purple = fromOkLab({(0.62796 + 0.45201) / 2, (0.22486 - 0.03246) / 2, (0.12585 - 0.31153) / 2});
  QVERIFY(colourIs(test::renderFloat(twoPoints({1, 0, 0, 1}, {0, 0, 1, 1}), 0), 160, 40, purple, 0.02));
}

void TestPoints::linearMixesLight() {
  const auto f = test::renderFloat(twoPoints({1, 1, 1, 1}, {0, 0, 0, 1}, "linear"), 0);
  QVERIFY(std::abs((f.at(159, 40, 0) + f.at(160, 40, 0)) / 2 - srgbEncode(0.5)) < 0.01);
}

// Mixing stored values makes mud: the middle is darker than both of its ends lead the eye to expect. In OKLab it is as light as their
// mean.
void TestPoints::mixturesStayClear() {
  for (const auto& [one, other] : {std::pair{0xff0000u, 0x00c000u}, {0x1c5fd8u, 0xffd23fu}, {0xd02090u, 0x20d0a0u}}) {
    const auto f = test::renderFloat(twoPoints(hexColour(one), hexColour(other)), 0);
    const OkLab mixed = toOkLab({f.at(160, 40, 0), f.at(160, 40, 1), f.at(160, 40, 2), 1});
    const double mean = (toOkLab(hexColour(one)).L + toOkLab(hexColour(other)).L) / 2;
    QVERIFY2(std::abs(mixed.L - mean) < 0.015, qPrintable(QString::number(mixed.L - mean)));
    const Colour stored = mixColours(hexColour(one), hexColour(other), 0.5, ColourMixing::Display);
    QVERIFY(toOkLab(stored).L < mixed.L + 0.01);
  }
}

void TestPoints::placesHaveTheirColours() {
  Scene scene = test::oneLayer("points", 320, 180);
  test::setCount(scene, 0, 0, 16);
  test::setValue(scene, 0, 0, "softness", 0.1);
  for (int i = 1; i <= 16; ++i) test::setValue(scene, 0, 0, "reach" + std::to_string(i), 60.0);
  const auto f = test::renderFloat(scene, 0);
  for (int i = 1; i <= 16; ++i) {
    const Point place = std::get<Point>(test::param(scene, 0, 0, "place" + std::to_string(i)).base);
    const Colour colour = std::get<Colour>(test::param(scene, 0, 0, "colour" + std::to_string(i)).base);
    QVERIFY2(colourIs(f, std::min(319, static_cast<int>(place.x * 320)), std::min(179, static_cast<int>(place.y * 180)), colour, 0.04),
             qPrintable(QString::number(i)));
  }
}

void TestPoints::softnessMelts() {
  double before = 2;
  for (const double softness : {0.0, 0.4, 0.8}) {
    Scene scene = twoPoints({0, 0, 0, 1}, {1, 1, 1, 1});
    test::setValue(scene, 0, 0, "softness", softness);
    const auto f = test::renderFloat(scene, 0);
    double steepest = 0;
    for (int x = 0; x + 1 < 320; ++x) {
      QVERIFY(f.at(x + 1, 40, 0) >= f.at(x, 40, 0) - 0.01 || x < 40 || x > 280);
      steepest = std::max(steepest, static_cast<double>(f.at(x + 1, 40, 0) - f.at(x, 40, 0)));
    }
    QVERIFY(steepest < before * 0.7);
    before = steepest;
  }
}

void TestPoints::eachHasItsOwnSoftness() {
  // A hard point in a soft scene is a disc as wide as its reach: its colour inside, gone soon outside.
  const auto share = [](double softer, int x) {
    Scene scene = twoPoints({1, 1, 1, 1}, {0, 0, 0, 1});
    test::setValue(scene, 0, 0, "melting", std::string("spots"));
    test::setValue(scene, 0, 0, "softness", 1.0);
    test::setValue(scene, 0, 0, "place1", Point{0.5, 0.5});
    test::setValue(scene, 0, 0, "reach1", 40.0);
    test::setValue(scene, 0, 0, "softer1", softer);
    return static_cast<double>(test::renderFloat(scene, 0).at(x, 40, 0));
  };
  QVERIFY(share(-1, 160 - 20) > 0.98 && share(-1, 160 - 80) < 0.02);
  QVERIFY(share(0, 160 - 20) < 0.9 && share(0, 160 - 80) > 0.1);
  // What is as soft as can be gets no softer.
  QCOMPARE(share(1, 100), share(0, 100));
}

void TestPoints::farFromAllTheNearestIsSeen() {
  for (const double softness : {0.0, 0.5}) {
    Scene scene = twoPoints({1, 0, 0, 1}, {0, 1, 0, 1}, "oklab", 1280, 720);
    test::setValue(scene, 0, 0, "softness", softness);
    for (const char* reach : {"reach1", "reach2"}) test::setValue(scene, 0, 0, reach, 1.0);
    const auto f = test::renderFloat(scene, 0);
    for (int y = 5; y < 720; y += 90)
      for (int x = 5; x < 1280; x += 90) {
        const bool left = std::hypot(x - 128, y - 360) < std::hypot(x - 1152, y - 360);
        QVERIFY(f.at(x, y, 3) > 0.999f);
        QVERIFY2(f.at(x, y, left ? 0 : 1) > 0.5f, qPrintable(QStringLiteral("%1, %2").arg(x).arg(y)));
        if (softness == 0 && std::abs(x - 640) > 150) QVERIFY(f.at(x, y, left ? 1 : 0) < 0.2f);
      }
  }
}

void TestPoints::fieldsKeepTheNearestColourFarOut() {
  // Four points near the middle: three quarters of the frame used to be one dull mean of all.
  Scene scene = test::oneLayer("points", 640, 360);
  const Colour colours[4] = {{0.9f, 0.1f, 0.1f, 1}, {0.1f, 0.8f, 0.2f, 1}, {0.1f, 0.2f, 0.9f, 1}, {0.95f, 0.85f, 0.1f, 1}};
  const Point places[4] = {{0.42, 0.4}, {0.58, 0.4}, {0.42, 0.6}, {0.58, 0.6}};
  test::setCount(scene, 0, 0, 4);
  for (int i = 0; i < 4; ++i) {
    const std::string n = std::to_string(i + 1);
    test::setValue(scene, 0, 0, "colour" + n, colours[i]);
    test::setValue(scene, 0, 0, "place" + n, places[i]);
    test::setValue(scene, 0, 0, "reach" + n, 60.0);
  }
  QCOMPARE(std::get<std::string>(test::param(scene, 0, 0, "melting").base), std::string("fields"));
  const auto fields = test::renderFloat(scene, 0);
  const int corners[4][2] = {{4, 4}, {635, 4}, {4, 355}, {635, 355}};
  for (int i = 0; i < 4; ++i) QVERIFY2(colourIs(fields, corners[i][0], corners[i][1], colours[i], 0.12), qPrintable(QString::number(i)));
  // Spots lie on the mean there.
  test::setValue(scene, 0, 0, "melting", std::string("spots"));
  const auto spots = test::renderFloat(scene, 0);
  for (int i = 0; i < 4; ++i) QVERIFY(!colourIs(spots, corners[i][0], corners[i][1], colours[i], 0.2));
}

void TestPoints::fieldsRunEvenly() {
  // Halfway between two equal fields is half the mixture, whatever the reach.
  for (const double reach : {60.0, 150.0, 400.0}) {
    Scene scene = twoPoints({1, 1, 1, 1}, {0, 0, 0, 1});
    for (const char* id : {"reach1", "reach2"}) test::setValue(scene, 0, 0, id, reach);
    const auto f = test::renderFloat(scene, 0);
    QVERIFY(std::abs((f.at(159, 40, 0) + f.at(160, 40, 0)) / 2 - srgbEncode(0.125)) < 0.02);
    for (int x = 1; x < 320; ++x) QVERIFY(f.at(x, 40, 0) <= f.at(x - 1, 40, 0) + 0.004);
  }
}

void TestPoints::oldFilesKeepTheirSpots() {
  const auto scene = sceneFromText(R"({"overagain":1,"size":[64,36],"layers":[{"recipe":[{"step":"points"}]}]})");
  QVERIFY(scene.has_value());
  QCOMPARE(std::get<std::string>(scene->layers[0].recipe[0].params[0].base), std::string("spots"));
  QCOMPARE(newStep(*findStep("points")).spec->params[0].id, std::string_view("melting"));
  // And a new one is saved and read as what it is.
  Scene fresh;
  fresh.layers.push_back(newLayer(*findStep("points"), "new"));
  assignIds(fresh);
  QVERIFY(*sceneFromText(sceneToText(fresh)) == fresh);
}

void TestPoints::reachWins() {
  Scene scene = twoPoints({1, 1, 1, 1}, {0, 0, 0, 1});
  const double equal = test::meanOf(test::renderFloat(scene, 0), 0);
  test::setValue(scene, 0, 0, "reach1", 300.0);
  QVERIFY(test::meanOf(test::renderFloat(scene, 0), 0) > equal + 0.1);
}

void TestPoints::alphaMixesToo() {
  Scene scene = twoPoints({1, 0, 0, 1}, {0, 1, 0, 0});
  scene.background.reset();
  const auto f = test::renderFloat(scene, 0);
  QVERIFY(f.at(32, 40, 3) > 0.9f && f.at(288, 40, 3) < 0.1f);
  QVERIFY(std::abs(f.at(160, 40, 3) - 0.5f) < 0.03f);
  // What cannot be seen does not colour what can: green is hidden.
  QVERIFY(std::abs(f.at(160, 40, 0) / f.at(160, 40, 3) - 1) < 0.02f && f.at(160, 40, 1) < 0.02f);
}

// Files that numbered their points are read as lists, with what moved; what was hidden in them is kept.
void TestPoints::numberedPointsBecomeItems() {
  const auto scene = sceneFromText(R"({"overagain":1,"size":[160,90],"layers":[{"recipe":[{"step":"points","version":2,
    "melting":"spots","count":3,"colour1":"#102030","colour3":"#405060","reach2":77,"colour9":"#ffffff",
    "place3":{"value":[0.25,0.75],"motion":{"kind":"swing","laps":2,"to":[0.5,0.5]}}}]}]})");
  QVERIFY2(scene.has_value(), scene ? "" : scene.error().sentence().c_str());
  const RecipeStep& points = scene->layers[0].recipe[0];
  QCOMPARE(points.items.size(), std::size_t{3});
  QVERIFY(std::get<Colour>(points.items[0].params[0].base) == hexColour(0x102030));
  QVERIFY(std::get<Colour>(points.items[1].params[0].base) == std::get<Colour>(newItem(*points.spec->items, 1).params[0].base));
  QCOMPARE(std::get<double>(points.items[1].params[2].base), 77.0);
  QVERIFY((std::get<Point>(points.items[2].params[1].base) == Point{0.25, 0.75}));
  QCOMPARE(points.items[2].params[1].motion.laps, 2);
  QVERIFY(points.extra.find("colour9") != std::string::npos);
  QVERIFY(points.items[0].id != 0 && points.items[0].id != points.items[1].id);
  for (const char* wrong : {R"("count":0)", R"("count":17)", R"("count":2,"colour2":7)", R"("points":[])", R"("points":[{"place":[9,9]}])"})
    QVERIFY2(
        !sceneFromText(std::string(R"({"overagain":1,"size":[64,36],"layers":[{"recipe":[{"step":"points","version":2,)") + wrong + "}]}]}")
             .has_value(),
        wrong);
}

// Hundreds of points: each still has its colour at its place, whatever order they come in.
void TestPoints::hundredsOfPointsAreMixed() {
  Scene scene = test::oneLayer("points", 400, 200);
  test::setValue(scene, 0, 0, "softness", 0.1);
  auto& items = scene.layers[0].recipe[0].items;
  const ItemsSpec& spec = *scene.layers[0].recipe[0].spec->items;
  items.clear();
  for (int y = 0; y < 10; ++y)
    for (int x = 0; x < 20; ++x) {
      Item item = newItem(spec, items.size());
      item.params[0].base = Colour{static_cast<float>(x) / 19, static_cast<float>(y) / 9, (x + y) % 2 ? 0.2f : 0.8f, 1};
      item.params[1].base = Point{(x + 0.5) / 20, (y + 0.5) / 10};
      item.params[2].base = 14.0;
      items.push_back(std::move(item));
    }
  const auto f = test::renderFloat(scene, 0);
  QVERIFY(test::allFinite(f));
  for (const Item& item : items) {
    const Point at = std::get<Point>(item.params[1].base);
    QVERIFY(colourIs(f, static_cast<int>(at.x * 400), static_cast<int>(at.y * 200), std::get<Colour>(item.params[0].base), 0.06));
  }
  std::reverse(items.begin(), items.end());
  QVERIFY(test::compare(test::renderFloat(scene, 0), f).largest < 1e-3);
}

void TestPoints::morePointsAreReadAndWritten() {
  Scene scene = test::oneLayer("points", 160, 90);
  test::setCount(scene, 0, 0, 3);
  test::setValue(scene, 0, 0, "place3", Point{0.25, 0.5});
  const auto resized = [](Scene s) {
    resizeFrame(s, 320, 180, true);
    return s;
  };
  // Reaches are lengths and follow the frame, places are shares and do not.
  const Scene larger = resized(scene);
  QCOMPARE(std::get<double>(larger.layers[0].recipe[0].items[2].params[2].base), 800.0);
  QVERIFY((std::get<Point>(larger.layers[0].recipe[0].items[2].params[1].base) == Point{0.25, 0.5}));
  QVERIFY(test::compare(test::halved(test::renderFloat(larger, 0)), test::renderFloat(scene, 0)).mean < 0.01);
}

QTEST_GUILESS_MAIN(TestPoints)
#include "tst_points.moc"
