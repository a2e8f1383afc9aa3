// Letters that move are small pictures laid down turned and sized: they look like those that stand still, wherever they are; blurred
// letters, and those in colours of their own.
#include <QTest>
#include <cmath>

#include "params/passage.h"
#include "render/renderer.h"
#include "support/pictures.h"
#include "support/scenes.h"
#include "support/words.h"

using namespace oa;
using namespace oa::test::words;

namespace {

// Moves, but by nothing that is seen.
void stir(Scene& scene) {
  Param& offset = test::param(scene, 0, 0, "offset");
  offset.motion = test::swing(1.0);
  const Point base = std::get<Point>(offset.base);
  offset.motion.far = Point{base.x + 1e-6, base.y};
}

// Where the alpha of a picture lies, and how far about that.
struct Lie {
  double sum = 0, x = 0, y = 0, widthX = 0, widthY = 0;
};
Lie lieOf(const test::FloatFrame& f) {
  Lie lie;
  const auto all = [&](const auto& take) {
    for (int y = 0; y < f.height; ++y)
      for (int x = 0; x < f.width; ++x) take(static_cast<double>(f.at(x, y, 3)), x, y);
  };
  all([&](double a, int x, int y) { lie.sum += a, lie.x += a * x, lie.y += a * y; });
  lie.x /= lie.sum;
  lie.y /= lie.sum;
  all([&](double a, int x, int y) { lie.widthX += a * (x - lie.x) * (x - lie.x), lie.widthY += a * (y - lie.y) * (y - lie.y); });
  lie.widthX = std::sqrt(lie.widthX / lie.sum);
  lie.widthY = std::sqrt(lie.widthY / lie.sum);
  return lie;
}

// How colourful a picture is on the whole.
double colourOf(const test::FloatFrame& f) {
  double sum = 0;
  for (int y = 0; y < f.height; ++y)
    for (int x = 0; x < f.width; ++x)
      sum += static_cast<double>(std::max({f.at(x, y, 0), f.at(x, y, 1), f.at(x, y, 2)}) -
                                 std::min({f.at(x, y, 0), f.at(x, y, 1), f.at(x, y, 2)}));
  return sum;
}

const std::string kLantern = "\xF0\x9F\x8F\xAE";

}  // namespace

class TestMovingLetters : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void theyLookLikeThoseThatStand_data();
  void theyLookLikeThoseThatStand();
  void theirInkIsTheSameEverywhere();
  void blurredOnesAreAsWideAsTheyShould();
  void theyArriveOutOfABlurOneByOne();
  void coloursOfTheirOwn();
  void colouredOnesLoopWithTheOthers();
};

void TestMovingLetters::theyLookLikeThoseThatStand_data() {
  QTest::addColumn<double>("size");
  QTest::addColumn<double>("turn");
  for (const double size : {14.0, 37.0, 60.0, 130.0})
    for (const double turn : {0.0, 9.0, 90.0}) QTest::addRow("%g px, %g degrees", size, turn) << size << turn;
}

void TestMovingLetters::theyLookLikeThoseThatStand() {
  QFETCH(double, size);
  QFETCH(double, turn);
  Scene scene = wordsOf("Quay & Rope", 800, 200);
  set(scene, "size", size);
  set(scene, "letterTurn", turn);
  set(scene, "offset", Point{0.3, 0.7});
  const auto standing = test::renderFloat(scene, 3);
  stir(scene);
  const auto moving = test::renderFloat(scene, 3);
  QVERIFY(standing.rgba != moving.rgba);  // or this compares one way of drawing with itself
  const double area = areaOf(standing);
  QVERIFY2(std::abs(areaOf(moving) - area) < 0.005 * area, qPrintable(QStringLiteral("%1 of %2").arg(areaOf(moving)).arg(area)));
  const auto d = test::compare(moving, standing);
  QVERIFY2(d.largest < 0.25, qPrintable(QString::number(d.largest)));
}

// Nothing wavers as they pass between pixels.
void TestMovingLetters::theirInkIsTheSameEverywhere() {
  Scene scene = wordsOf("Hill", 300, 160);
  stir(scene);
  double least = 1e9;
  double most = 0;
  for (int i = 0; i < 12; ++i) {
    set(scene, "offset", Point{0.09 * i, 0.05 * i});
    stir(scene);
    const double area = areaOf(test::renderFloat(scene, 3));
    least = std::min(least, area);
    most = std::max(most, area);
  }
  QVERIFY2(most - least < 0.002 * most, qPrintable(QStringLiteral("%1 to %2").arg(least).arg(most)));
}

// A blur of so many pixels is a Gaussian of half as many, as that of a layer is; nothing is lost.
void TestMovingLetters::blurredOnesAreAsWideAsTheyShould() {
  for (const double blur : {0.8, 5.0, 24.0, 90.0}) {
    Scene scene = wordsOf("o", 700, 700);
    const Lie sharp = lieOf(test::renderFloat(scene, 0));
    set(scene, "letterBlur", blur);
    const Lie soft = lieOf(test::renderFloat(scene, 0));
    const double sigma = std::sqrt(std::max(0.0, soft.widthX * soft.widthX - sharp.widthX * sharp.widthX));
    QVERIFY2(std::abs(sigma - blur / 2) < 0.06 * blur / 2 + 0.15, qPrintable(QStringLiteral("%1 for %2").arg(sigma).arg(blur / 2)));
    QVERIFY(std::abs(soft.widthY * soft.widthY - sharp.widthY * sharp.widthY - sigma * sigma) < 0.1 * sigma * sigma + 0.5);
    QVERIFY2(std::abs(soft.sum - sharp.sum) < 0.02 * sharp.sum, qPrintable(QStringLiteral("%1 of %2").arg(soft.sum).arg(sharp.sum)));
    QVERIFY2(std::abs(soft.x - sharp.x) < 0.1 + blur / 500 && std::abs(soft.y - sharp.y) < 0.1 + blur / 500,
             qPrintable(QStringLiteral("blur %1: %2, %3").arg(blur).arg(soft.x - sharp.x).arg(soft.y - sharp.y)));
  }
}

// The first is sharp while the last is not: what is blurred is each letter, not their picture.
void TestMovingLetters::theyArriveOutOfABlurOneByOne() {
  Scene scene = wordsOf("II", 480, 160, 30);
  set(scene, "spacing", 2.0);
  scene.rate = {30, 1};
  Passing p;
  p.by = PassBy::Letter;
  p.lasts = 1;
  p.overlap = 0;
  p.fades = false;
  p.blur = 40;
  scene.layers[0].passes.arrive = passageOf(p);
  RenderOptions options;
  options.run = true;
  Renderer renderer(scene, 480, 160, options);
  const auto darkest = [&](std::int64_t k, bool right) {
    Frame16 frame;
    renderInto(renderer, k, frame);
    int most = 0;
    for (int y = 0; y < 160; ++y)
      for (int x = right ? 240 : 0; x < (right ? 480 : 240); ++x)
        most = std::max(most, static_cast<int>(frame.rgba[(static_cast<std::size_t>(y) * 480 + static_cast<std::size_t>(x)) * 4 + 3]));
    return most / 65535.0;
  };
  QVERIFY(darkest(0, false) < 0.5 && darkest(0, true) < 0.5);
  QVERIFY(darkest(15, false) > 0.99 && darkest(15, true) < 0.5);
  QVERIFY(darkest(30, false) > 0.99 && darkest(30, true) > 0.99);
}

// Whatever the words are coloured in; as faint as they are told to be.
void TestMovingLetters::coloursOfTheirOwn() {
  Scene scene = wordsOf(kLantern, 200, 160);
  const auto lantern = test::renderFloat(scene, 0);
  QVERIFY(areaOf(lantern) > 800);
  QVERIFY(colourOf(lantern) > 0.3 * areaOf(lantern));
  set(scene, "colour", Colour{0, 1, 0, 1});
  QVERIFY(test::renderFloat(scene, 0).rgba == lantern.rgba);
  set(scene, "fill", std::string("gradient"));
  QVERIFY(test::renderFloat(scene, 0).rgba == lantern.rgba);
  set(scene, "letterOpacity", 0.5);
  const auto faint = test::renderFloat(scene, 0);
  QVERIFY(std::abs(areaOf(faint) - areaOf(lantern) / 2) < 0.01 * areaOf(lantern));
  set(scene, "letterOpacity", 1.0);
  // Twice as large is four times the area, and a glow lies about it.
  set(scene, "size", 120.0);
  const auto large = test::renderFloat(scene, 0);
  QVERIFY(std::abs(areaOf(large) / areaOf(lantern) - 4) < 0.12);
  set(scene, "glow", 1.0);
  QVERIFY(areaOf(test::renderFloat(scene, 0)) > 1.1 * areaOf(large));
  // Wider where the words are.
  set(scene, "glow", 0.0);
  set(scene, "stretch", 1.5);
  QVERIFY(std::abs(areaOf(test::renderFloat(scene, 0)) / areaOf(large) - 1.5) < 0.03);
}

void TestMovingLetters::colouredOnesLoopWithTheOthers() {
  Scene scene = wordsOf("a" + kLantern + "b", 300, 160, 24);
  Param& turn = test::param(scene, 0, 0, "letterTurn");
  turn.motion = test::swing(1.0);
  turn.motion.far = 40.0;
  set(scene, "order", std::string("forwards"));
  QVERIFY(test::renderFloat(scene, 0).rgba == test::renderFloat(scene, 24).rgba);
  QVERIFY(test::renderFloat(scene, 0).rgba != test::renderFloat(scene, 5).rgba);
  // The lantern keeps its area, however it is turned.
  const double first = colourOf(test::renderFloat(scene, 0));
  for (const int k : {3, 7, 12}) QVERIFY(std::abs(colourOf(test::renderFloat(scene, k)) - first) < 0.03 * first);
}

QTEST_GUILESS_MAIN(TestMovingLetters)
#include "tst_moving_letters.moc"
