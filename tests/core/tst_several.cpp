// A layer several times over: where they lie, what is later about them, and that a change of mind leaves nothing behind.
#include <QTest>
#include <cmath>
#include <numeric>

#include "edit/passages.h"
#include "edit/places.h"
#include "edit/several.h"
#include "edit/timing.h"
#include "support/scenes.h"

using namespace oa;
using edit::Several;
using edit::SeveralMade;
using Layout = Several::Layout;

namespace {

// A small shape that swings, between two grounds.
Scene lamp(bool moves = true) {
  Scene scene = oa::test::oneLayer("flat", 400, 200, 60);
  Layer shape = newLayer(*findStep("shape"), "Lamp");
  Param& position = shape.place[static_cast<std::size_t>(PlaceParam::Position)];
  position.base = position.motion.far = Point{0.5, 0.4};
  if (moves) {
    shape.opacity.motion = oa::test::swing(0.2);
    shape.opacity.motion.laps = 2;
  }
  scene.layers.push_back(shape);
  scene.layers.push_back(newLayer(*findStep("noise"), "Fog"));
  scene.layers.back().visible = false;
  assignIds(scene);
  return scene;
}

const Layer& byId(const Scene& scene, Id id) { return *findLayer(scene, id); }
Point placeOf(const Scene& scene, Id id) {
  return std::get<Point>(byId(scene, id).place[static_cast<std::size_t>(PlaceParam::Position)].base);
}
Point sizeOf(const Scene& scene, Id id) { return std::get<Point>(byId(scene, id).place[static_cast<std::size_t>(PlaceParam::Size)].base); }
double delayOf(const Scene& scene, Id id) { return std::get<double>(byId(scene, id).passes.arrive->params.front().base); }

SeveralMade of(const Scene& scene) { return *edit::severalOf(scene, scene.layers[1].id); }

}  // namespace

class TestSeveral : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void rowsLieEvenlyAboutTheFirst();
  void ringsGoRoundAsTheyAreSeen();
  void scatteredOnesKeepApart();
  void eachIsALittleLater();
  void theyArriveOneAfterTheOther();
  void anotherNumberIsAnotherNumber();
  void whatWasMovedSinceStaysMoved();
  void whatIsRefusedChangesNothing();
};

void TestSeveral::rowsLieEvenlyAboutTheFirst() {
  for (const Layout layout : {Layout::Row, Layout::Column}) {
    Scene scene = lamp();
    SeveralMade made = of(scene);
    const auto ids = edit::laySeveral(scene, made, {.count = 5, .layout = layout, .reach = 0.6, .size = 0.5});
    QVERIFY(ids);
    QCOMPARE(ids->size(), std::size_t{5});
    // Above each other in the pile, between what lay below and above.
    QCOMPARE(scene.layers.size(), std::size_t{7});
    QCOMPARE(scene.layers[6].name, std::string("Fog"));
    for (std::size_t i = 0; i < 5; ++i) {
      const Id id = (*ids)[i];
      QCOMPARE(scene.layers[i + 1].id, id);
      QCOMPARE(scene.layers[i + 1].name, i == 0 ? std::string("Lamp") : "Lamp " + std::to_string(i + 1));
      const double along = -0.3 + 0.15 * static_cast<double>(i);
      const Point wanted = layout == Layout::Row ? Point{0.5 + along, 0.4} : Point{0.5, 0.4 + along};
      QVERIFY(std::hypot(placeOf(scene, id).x - wanted.x, placeOf(scene, id).y - wanted.y) < 1e-12);
      QCOMPARE(sizeOf(scene, id), (Point{0.5, 0.5}));
    }
  }
}

void TestSeveral::ringsGoRoundAsTheyAreSeen() {
  for (const int count : {2, 3, 7}) {
    const auto places = edit::placesOf({.count = count, .layout = Layout::Ring, .reach = 0.5}, 400, 200);
    // A circle in pixels, of half the frame's height across, the first at its top; neighbours as far from each other as the next two.
    for (std::size_t i = 0; i < places.size(); ++i) {
      const Point next = places[(i + 1) % places.size()];
      QVERIFY(std::abs(std::hypot(places[i].x * 400, places[i].y * 200) - 50) < 1e-9);
      const double side = std::hypot((next.x - places[i].x) * 400, (next.y - places[i].y) * 200);
      QVERIFY(std::abs(side - 100 * std::sin(M_PI / count)) < 1e-9);
    }
    QVERIFY(std::abs(places[0].x) < 1e-12 && places[0].y < 0);
    if (count > 2) QVERIFY(places[1].x > 0);
  }
}

void TestSeveral::scatteredOnesKeepApart() {
  for (const int seed : {1, 2, 99}) {
    const Several wide{.count = 16, .layout = Layout::Scattered, .reach = 0.8, .seed = seed};
    const auto places = edit::placesOf(wide, 400, 200);
    QVERIFY(places == edit::placesOf(wide, 400, 200));
    double nearest = 1e9;
    for (std::size_t i = 0; i < places.size(); ++i) {
      QVERIFY(std::abs(places[i].x) <= 0.4 && std::abs(places[i].y) <= 0.4);
      for (std::size_t k = 0; k < i; ++k)
        nearest = std::min(nearest, std::hypot((places[i].x - places[k].x) * 400, (places[i].y - places[k].y) * 200));
    }
    // Sixteen on 320 by 160 pixels: a square grid would leave 57, drawn at random the nearest two would be some 10 apart.
    QVERIFY2(nearest > 28, qPrintable(QString::number(nearest)));
    Several other = wide;
    other.seed = seed + 1;
    QVERIFY(places != edit::placesOf(other, 400, 200));
    // The first ones stay where they are when there are more of them.
    other = wide;
    other.count = 20;
    const auto more = edit::placesOf(other, 400, 200);
    QVERIFY(std::equal(places.begin(), places.end(), more.begin()));
  }
}

void TestSeveral::eachIsALittleLater() {
  Scene scene = lamp();
  SeveralMade made = of(scene);
  QVERIFY(edit::laySeveral(scene, made, {.count = 4, .later = 0.5}));
  const auto delays = [&] { return edit::delaysOf(Plan(scene), made.layers); };
  const double wanted[] = {0, 0.125, 0.25, 0.375};
  for (std::size_t i = 0; i < 4; ++i) QVERIFY(std::abs(delays()[i] - wanted[i]) < 1e-9);
  // The first keeps its time, whatever is tried; and together again they are together.
  QVERIFY(edit::laySeveral(scene, made, {.count = 4, .later = 1}));
  QCOMPARE(byId(scene, made.layers[0]).opacity.motion.start, byId(lamp(), made.layers[0]).opacity.motion.start);
  QVERIFY(std::abs(delays()[3] - 0.75) < 1e-9);
  QVERIFY(edit::laySeveral(scene, made, {.count = 4, .later = 0}));
  for (const double delay : delays()) QVERIFY(std::min(delay, 1 - delay) < 1e-9);
  // What stands still is laid out all the same.
  Scene still = lamp(false);
  SeveralMade calm = of(still);
  QVERIFY(edit::laySeveral(still, calm, {.count = 3, .later = 0.5}));
  QCOMPARE(calm.layers.size(), std::size_t{3});
}

void TestSeveral::theyArriveOneAfterTheOther() {
  Scene scene = lamp();
  SeveralMade made = of(scene);
  QVERIFY(edit::setPassage(scene, made.layers, false, Passing{}));
  QVERIFY(edit::laySeveral(scene, made, {.count = 4, .apart = 0.4}));
  for (std::size_t i = 0; i < 4; ++i) QVERIFY(std::abs(delayOf(scene, made.layers[i]) - 0.4 * static_cast<double>(i)) < 1e-12);
  QVERIFY(!byId(scene, made.layers[3]).passes.leave);
}

void TestSeveral::anotherNumberIsAnotherNumber() {
  Scene scene = lamp();
  SeveralMade made = of(scene);
  const Several six{.count = 6, .layout = Layout::Ring, .reach = 0.5, .size = 0.4, .later = 0.5};
  QVERIFY(edit::laySeveral(scene, made, six));
  const Scene once = scene;
  QVERIFY(edit::laySeveral(scene, made, {.count = 9, .layout = Layout::Scattered, .size = 2}));
  QCOMPARE(scene.layers.size(), std::size_t{11});
  QVERIFY(edit::laySeveral(scene, made, {.count = 3}));
  QCOMPARE(scene.layers.size(), std::size_t{5});
  QVERIFY(edit::laySeveral(scene, made, six));
  // As if nothing else had been tried, but for the ids of those that are new.
  for (std::size_t i = 0; i < 6; ++i) {
    const Layer& then = once.layers[i + 1];
    const Layer& now = scene.layers[i + 1];
    QCOMPARE(now.name, then.name);
    QVERIFY(placeOf(scene, now.id) == placeOf(once, then.id) && sizeOf(scene, now.id) == sizeOf(once, then.id));
    QVERIFY(std::abs(now.opacity.motion.start - then.opacity.motion.start) < 1e-12);
  }
}

void TestSeveral::whatWasMovedSinceStaysMoved() {
  Scene scene = lamp();
  SeveralMade made = of(scene);
  QVERIFY(edit::laySeveral(scene, made, {.count = 3, .size = 0.5}));
  QVERIFY(edit::shiftLayers(scene, made.layers, {40, -20}));
  QVERIFY(edit::laySeveral(scene, made, {.count = 5, .reach = 0.4, .size = 0.25}));
  for (std::size_t i = 0; i < 5; ++i) {
    const Point at = placeOf(scene, made.layers[i]);
    QVERIFY(std::hypot(at.x - (0.6 - 0.2 + 0.1 * static_cast<double>(i)), at.y - 0.3) < 1e-12);
    QCOMPARE(sizeOf(scene, made.layers[i]), (Point{0.25, 0.25}));
  }
}

void TestSeveral::whatIsRefusedChangesNothing() {
  Scene scene = lamp();
  SeveralMade made = of(scene);
  const auto refused = [&](const Several& several) {
    const Scene before = scene;
    const edit::Ids layers = made.layers;
    return !edit::laySeveral(scene, made, several) && scene == before && made.layers == layers;
  };
  QVERIFY(refused({.count = 1}));
  QVERIFY(refused({.count = edit::kMostSeveral + 1}));
  QVERIFY(refused({.reach = std::nan("")}));
  QVERIFY(refused({.size = 0}));
  QVERIFY(refused({.later = 1.5}));
  scene.layers[1].locked = true;
  QVERIFY(refused({}));
  scene.layers[1].locked = false;
  scene.layers[1].passes.arrive = newPassage(passageSpecs());
  // Later than an arrival may be: said, and nothing is made.
  QVERIFY(refused({.count = 64, .apart = 1e6}));
  QVERIFY(!edit::severalOf(scene, 4711));
}

QTEST_GUILESS_MAIN(TestSeveral)
#include "tst_several.moc"
