// Colours that fade through a palette: how long each stands, whole rounds, items one behind the other.
#include <QTest>
#include <cmath>

#include "edit/fades.h"
#include "support/scenes.h"

using namespace oa;

namespace {

const std::vector<Colour> kFour{{1, 0, 0, 1}, {0, 1, 0, 1}, {0, 0, 1, 1}, {1, 1, 0, 1}};

Colour at(const RecipeStep& step, const Param& param, double share, int frames = 1200) {
  const auto& spec = step.spec->params[static_cast<std::size_t>(findParam(step.spec->params, "colour"))];
  return std::get<Colour>(evaluate(spec, param, {static_cast<std::int64_t>(std::llround(share * frames)), frames}).value);
}

bool near(const Colour& a, const Colour& b) {
  return std::abs(a.r - b.r) < 1e-4f && std::abs(a.g - b.g) < 1e-4f && std::abs(a.b - b.b) < 1e-4f;
}

}  // namespace

class TestFades : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void roundsAreWhole();
  void eachStandsAndFades();
  void withoutAStandItIsGoneThrough();
  void withoutAFadeItJumps();
  void itemsAreOneColourApart();
  void noMoreThanThereIsRoomFor();
};

void TestFades::roundsAreWhole() {
  const edit::Fades fades{kFour, 2, 0.5};
  QCOMPARE(edit::roundSeconds(fades), 10.0);
  for (const double loop : {3.0, 9.0, 10.0, 12.0, 24.0, 26.0, 600.0}) {
    const auto fits = edit::roundsIn(fades, loop);
    QVERIFY(fits.rounds >= 1);
    // All of it together is the loop, in the proportions that were asked for.
    QVERIFY(std::abs(fits.rounds * 4 * (fits.hold + fits.fade) - loop) < 1e-9);
    QVERIFY(std::abs(fits.hold / fits.fade - 4) < 1e-9);
    // No other number of rounds is nearer.
    QVERIFY(std::abs(fits.rounds - loop / 10) <= 0.5 + 1e-9 || fits.rounds == 1);
  }
  QCOMPARE(edit::roundsIn(fades, 26).rounds, 3);
}

void TestFades::eachStandsAndFades() {
  Scene scene = test::oneLayer("flat");
  RecipeStep& step = scene.layers[0].recipe[0];
  Param& colour = test::param(scene, 0, 0, "colour");
  colour.base = Colour{0.2f, 0.2f, 0.2f, 0.6f};
  edit::fadeThrough(colour, {kFour, 2, 1}, 1);
  for (std::size_t i = 0; i < 4; ++i) {
    // Two thirds of a quarter it stands ...
    for (const double part : {0.0, 0.3, 0.66}) QVERIFY(near(at(step, colour, (static_cast<double>(i) + part) / 4), kFour[i]));
    // ... and half-way through the rest it is between the two.
    const Colour between = at(step, colour, (static_cast<double>(i) + 5.0 / 6) / 4);
    QVERIFY(!near(between, kFour[i]) && !near(between, kFour[(i + 1) % 4]));
    QVERIFY(std::abs(between.a - 0.6f) < 1e-4f);
  }
  QVERIFY(near(at(step, colour, 1), kFour[0]));
  // The last goes back to the first as the others go on.
  const Colour home = at(step, colour, 3.0 / 4 + 5.0 / 24);
  QVERIFY(home.r > 0.9f && home.g > 0.05f && home.g < 0.95f);
}

void TestFades::withoutAStandItIsGoneThrough() {
  Scene scene = test::oneLayer("flat");
  Param& colour = test::param(scene, 0, 0, "colour");
  edit::fadeThrough(colour, {kFour, 0, 1}, 2);
  QCOMPARE(colour.motion.keys.size(), std::size_t{4});
  QCOMPARE(colour.motion.laps, 2);
  // Even speed: half-way in time is half-way in colour, in whatever space they are mixed.
  const RecipeStep& step = scene.layers[0].recipe[0];
  const auto moved = [&](double from, double to) {
    const Colour a = at(step, colour, from);
    const Colour b = at(step, colour, to);
    return std::abs(a.r - b.r) + std::abs(a.g - b.g) + std::abs(a.b - b.b);
  };
  QVERIFY(moved(0.0, 0.01) > 0.02f);
  QVERIFY(moved(0.12, 0.13) > 0.02f);
}

void TestFades::withoutAFadeItJumps() {
  Scene scene = test::oneLayer("flat");
  Param& colour = test::param(scene, 0, 0, "colour");
  edit::fadeThrough(colour, {kFour, 1, 0}, 1);
  const RecipeStep& step = scene.layers[0].recipe[0];
  for (int k = 0; k < 1200; ++k) QVERIFY(near(at(step, colour, k / 1200.0), kFour[static_cast<std::size_t>(k / 300)]));
}

void TestFades::itemsAreOneColourApart() {
  Scene scene = test::oneLayer("noise");
  RecipeStep& map = test::addStep(scene, "colourmap");
  test::setCount(scene, 0, 1, 3);
  const auto which = static_cast<std::size_t>(findParam(map.spec->items->params, "colour"));
  edit::fadeItemsThrough(map, which, {kFour, 2, 1}, 1);
  for (int quarter = 0; quarter < 4; ++quarter)
    for (std::size_t i = 0; i < 3; ++i) {
      const Value value = evaluate(map.spec->items->params[which], map.items[i].params[which], {quarter * 300 + 100, 1200}).value;
      QVERIFY(near(std::get<Colour>(value), kFour[(i + static_cast<std::size_t>(quarter)) % 4]));
    }
}

void TestFades::noMoreThanThereIsRoomFor() {
  Scene scene = test::oneLayer("flat");
  Param& colour = test::param(scene, 0, 0, "colour");
  const Param before = colour;
  edit::fadeThrough(colour, {{}, 1, 1}, 1);
  QVERIFY(colour == before);
  edit::fadeThrough(colour, {kFour, 0, 0}, 1);
  QVERIFY(colour == before);
  edit::fadeThrough(colour, {std::vector<Colour>(300, Colour{0, 0.5f, 1, 1}), 1, 1}, 1);
  QCOMPARE(colour.motion.keys.size(), kMaxKeyframes);
}

QTEST_GUILESS_MAIN(TestFades)
#include "tst_fades.moc"
