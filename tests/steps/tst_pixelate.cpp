// Pixelate: pieces of one colour, the mean of what they cover, in three shapes.
#include <QTest>
#include <cmath>
#include <map>
#include <set>

#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Scene pixelated(const char* shape, double size, int width = 240, int height = 160) {
  Scene scene = test::oneLayer("noise", width, height);
  test::setValue(scene, 0, 0, "cell", 60.0);
  test::addStep(scene, "pixelate");
  test::setValue(scene, 0, 1, "shape", std::string(shape));
  test::setValue(scene, 0, 1, "size", size);
  return scene;
}

// Pieces by their tone (no two share one), with how many pixels each has.
std::map<float, int> pieces(const test::FloatFrame& f) {
  std::map<float, int> count;
  for (std::size_t i = 0; i < f.rgba.size(); i += 4) ++count[f.rgba[i]];
  return count;
}

}  // namespace

class TestPixelate : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void squaresAreMeans();
  void areasFit_data();
  void areasFit();
  void theMeanStays();
  void tinyPiecesChangeNothing();
  void nothingIsLeftBare();
};

void TestPixelate::squaresAreMeans() {
  Scene scene = pixelated("square", 40);
  const auto f = test::renderFloat(scene, 0);
  scene.layers[0].recipe.pop_back();
  const auto before = test::renderFloat(scene, 0);
  // Counted from the middle of the frame: 240 x 160 is 6 x 4 squares exactly.
  for (int by = 0; by < 4; ++by)
    for (int bx = 0; bx < 6; ++bx) {
      double sum = 0;
      for (int y = 0; y < 40; ++y)
        for (int x = 0; x < 40; ++x) {
          sum += before.at(bx * 40 + x, by * 40 + y, 0);
          QCOMPARE(f.at(bx * 40 + x, by * 40 + y, 0), f.at(bx * 40, by * 40, 0));
        }
      QVERIFY(std::abs(f.at(bx * 40, by * 40, 0) - sum / 1600) < 1e-5);
    }
}

void TestPixelate::areasFit_data() {
  QTest::addColumn<QString>("shape");
  QTest::addColumn<double>("area");  // of a piece one wide
  QTest::newRow("square") << "square" << 1.0;
  QTest::newRow("hexagon") << "hexagon" << std::sqrt(3.0) / 2;
  QTest::newRow("triangle") << "triangle" << std::sqrt(3.0) / 4;
}

void TestPixelate::areasFit() {
  QFETCH(QString, shape);
  QFETCH(double, area);
  const auto f = test::renderFloat(pixelated(qPrintable(shape), 30), 0);
  // Most pieces lie wholly inside: the median has the area of the shape.
  std::vector<int> sizes;
  for (const auto& [tone, pixels] : pieces(f)) sizes.push_back(pixels);
  std::sort(sizes.begin(), sizes.end());
  const double expected = area * 30 * 30;
  QVERIFY2(std::abs(sizes[sizes.size() / 2] - expected) < 0.08 * expected, qPrintable(QString::number(sizes[sizes.size() / 2])));
  QVERIFY(sizes.back() < 1.1 * expected);
}

void TestPixelate::theMeanStays() {
  for (const char* shape : {"square", "hexagon", "triangle"}) {
    Scene scene = pixelated(shape, 33);
    test::setValue(scene, 0, 1, "edges", std::string("cut"));
    const double after = test::meanOf(test::renderFloat(scene, 0), 0);
    scene.layers[0].recipe.pop_back();
    QVERIFY(std::abs(test::meanOf(test::renderFloat(scene, 0), 0) - after) < 1e-5);
  }
}

void TestPixelate::tinyPiecesChangeNothing() {
  Scene scene = pixelated("square", 1);
  const auto f = test::renderFloat(scene, 0);
  scene.layers[0].recipe.pop_back();
  QVERIFY(test::compare(f, test::renderFloat(scene, 0)).largest < 1e-6);
}

void TestPixelate::nothingIsLeftBare() {
  for (const char* shape : {"square", "hexagon", "triangle"}) {
    Scene scene = test::oneLayer("points", 133, 75);
    scene.background.reset();
    test::addStep(scene, "pixelate");
    test::setValue(scene, 0, 1, "shape", std::string(shape));
    test::setValue(scene, 0, 1, "size", 37.0);
    const auto f = test::renderFloat(scene, 0);
    for (std::size_t i = 3; i < f.rgba.size(); i += 4) QVERIFY(f.rgba[i] > 0.9999f);
  }
}

QTEST_GUILESS_MAIN(TestPixelate)
#include "tst_pixelate.moc"
