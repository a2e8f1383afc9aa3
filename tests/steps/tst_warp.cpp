// Warp by noise: nothing at nothing, how far it bends, edges without bare corners, and bends that come home.
#include <QTest>
#include <array>
#include <cmath>

#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

// Red grows across, green grows down: a colour says where a pixel was read.
Scene places(double amount, const char* edges = "clamp", int width = 200, int height = 120) {
  Scene scene = test::oneLayer("gradient", width, height, 48);
  scene.background.reset();
  test::setValue(scene, 0, 0, "from", Point{0, 0.5});
  test::setValue(scene, 0, 0, "to", Point{1, 0.5});
  test::setValue(scene, 0, 0, "mixing", std::string("display"));
  test::setStops(scene, 0, 0, Stops{{0, {0, 0, 1, 1}}, {1, {1, 0, 1, 1}}});
  test::addStep(scene, "warp");
  test::setValue(scene, 0, 1, "amount", amount);
  test::setValue(scene, 0, 1, "cell", 60.0);
  test::setValue(scene, 0, 1, "edges", std::string(edges));
  return scene;
}

}  // namespace

class TestWarp : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountChangesNothing();
  void pixelsMoveByTheAmount();
  void cornersAreOnlyBareWhenAskedTo();
  void bendsComeHome();
  void flatStaysFlat();
  void wrappedEdgesMeet();
  void formulasAreReadWhereTheyAre_data();
  void formulasAreReadWhereTheyAre();
  void partsOfFormulasFitTogether();
};

void TestWarp::noAmountChangesNothing() {
  Scene with = places(0);
  Scene without = with;
  without.layers[0].recipe.pop_back();
  QVERIFY(test::compare(test::renderFloat(with, 3), test::renderFloat(without, 3)).largest < 1e-6);
}

void TestWarp::pixelsMoveByTheAmount() {
  // Red says from which column: the deviation of the shift is the noise's, about 0.116 times four times the amount.
  for (const double amount : {4.0, 12.0}) {
    double sum = 0;
    int count = 0;
    for (int seed = 1; seed <= 6; ++seed) {
      Scene scene = places(amount);
      test::setValue(scene, 0, 1, "seed", static_cast<double>(seed));
      const auto f = test::renderFloat(scene, 0);
      for (int y = 0; y < 120; ++y)
        for (int x = 60; x < 140; ++x) {
          const double moved = f.at(x, y, 0) * 200 - (x + 0.5);
          sum += moved * moved;
          ++count;
        }
    }
    const double deviation = std::sqrt(sum / count);
    QVERIFY2(std::abs(deviation - 4 * 0.116 * amount) < 0.15 * amount, qPrintable(QString::number(deviation / amount)));
  }
}

void TestWarp::cornersAreOnlyBareWhenAskedTo() {
  for (const char* edges : {"clamp", "wrap", "mirror"}) {
    const auto f = test::renderFloat(places(90, edges), 0);
    for (std::size_t i = 3; i < f.rgba.size(); i += 4) QVERIFY2(f.rgba[i] > 0.9999f, edges);
  }
  const auto bare = test::renderFloat(places(90, "transparent"), 0);
  int empty = 0;
  for (std::size_t i = 3; i < bare.rgba.size(); i += 4) empty += bare.rgba[i] < 0.01f;
  QVERIFY(empty > 20);
}

void TestWarp::bendsComeHome() {
  Scene scene = places(30);
  const auto start = test::renderFloat(scene, 0);
  QVERIFY(test::renderFloat(scene, 48).rgba == start.rgba);
  QVERIFY(test::compare(test::renderFloat(scene, 24), start).mean > 0.01);
  const double joint = test::compare(test::renderFloat(scene, 47), start).mean;
  QVERIFY(joint < 2 * test::compare(test::renderFloat(scene, 1), start).mean);
  // At rest where churn is none.
  test::setValue(scene, 0, 1, "churn", 0.0);
  QVERIFY(test::renderFloat(scene, 20).rgba == test::renderFloat(scene, 0).rgba);
}

void TestWarp::flatStaysFlat() {
  Scene scene = test::oneLayer("flat", 90, 50);
  test::addStep(scene, "warp");
  const auto f = test::renderFloat(scene, 0);
  for (std::size_t i = 0; i < f.rgba.size(); ++i) QVERIFY(std::abs(f.rgba[i] - f.rgba[i % 4]) < 1e-6f);
}

void TestWarp::wrappedEdgesMeet() {
  Scene scene = test::oneLayer("noise", 256, 128, 48);
  test::setValue(scene, 0, 0, "cell", 40.0);
  test::addStep(scene, "warp");
  test::setValue(scene, 0, 1, "amount", 12.0);
  test::setValue(scene, 0, 1, "cell", 64.0);
  test::setValue(scene, 0, 1, "edges", std::string("wrap"));
  const auto f = test::renderFloat(scene, 7);
  double inside = 0;
  double across = 0;
  for (int y = 0; y < 128; ++y)
    for (int x = 0; x < 256; ++x) {
      const double right = std::abs(f.at((x + 1) % 256, y, 0) - f.at(x, y, 0));
      (x == 255 ? across : inside) = std::max(x == 255 ? across : inside, right);
    }
  QVERIFY2(across <= inside * 1.02, qPrintable(QStringLiteral("%1, %2").arg(across).arg(inside)));
}

namespace {

Scene bentPattern(const std::string& kind, const char* edges) {
  Scene scene = test::oneLayer("pattern", 240, 136, 48);
  test::setValue(scene, 0, 0, "kind", kind);
  test::setValue(scene, 0, 0, "scale", 34.0);
  test::setValue(scene, 0, 0, "softness", 0.3);
  // What wraps has to repeat with the frame, or pixels are mixed at its edges.
  if (std::string_view(edges) != "wrap") test::setValue(scene, 0, 0, "angle", 20.0);
  test::addStep(scene, "warp");
  test::setValue(scene, 0, 1, "amount", 14.0);
  test::setValue(scene, 0, 1, "cell", 90.0);
  test::setValue(scene, 0, 1, "edges", std::string(edges));
  return scene;
}

}  // namespace

void TestWarp::formulasAreReadWhereTheyAre_data() {
  QTest::addColumn<QString>("kind");
  QTest::addColumn<QString>("edges");
  QTest::addColumn<bool>("invert");
  int i = 0;
  for (const std::string_view kind : findStep("pattern")->params[0].choices)
    for (const char* edges : {"mirror", "clamp", "beyond", "wrap"})
      QTest::addRow("%s %s", std::string(kind).c_str(), edges) << QString::fromStdString(std::string(kind)) << edges << (++i % 3 == 0);
}

// Against the same field, stored and read between its pixels: a step that changes nothing keeps the formula from being asked.
void TestWarp::formulasAreReadWhereTheyAre() {
  QFETCH(QString, kind);
  QFETCH(QString, edges);
  QFETCH(bool, invert);
  Scene scene = bentPattern(kind.toStdString(), edges.toUtf8().constData());
  test::setValue(scene, 0, 0, "invert", invert);
  Scene stored = scene;
  stored.layers[0].recipe.insert(stored.layers[0].recipe.begin() + 1, newStep(*findStep("levels")));
  const auto a = test::renderFloat(scene, 5);
  const auto b = test::renderFloat(stored, 5);
  const auto d = test::compare(a, b);
  // Rays have many edges near their middle.
  QVERIFY2(d.mean < (kind == QLatin1String("sunburst") || kind == QLatin1String("spiral") ? 0.01 : 0.006),
           qPrintable(QString::number(d.mean)));
  const bool central = kind == QLatin1String("rings") || kind == QLatin1String("sunburst") || kind == QLatin1String("spiral");
  QVERIFY2((d.mean > 0) != (central && edges == QLatin1String("wrap")), "read as it should not be");
  // Inside the frame nothing but the sharpness of edges differs, and that at few places.
  int far = 0;
  for (std::size_t i = 0; i < a.rgba.size(); i += 4) far += std::abs(a.rgba[i] - b.rgba[i]) > 0.15F;
  const bool rays = kind == QLatin1String("sunburst") || kind == QLatin1String("spiral");
  QVERIFY2(far < static_cast<int>(a.rgba.size()) / 4 / (rays ? 80 : 250), qPrintable(QString::number(far)));
  // Where nothing is bent it is the field itself.
  test::setValue(scene, 0, 1, "amount", 0.0);
  Scene plain = scene;
  plain.layers[0].recipe.pop_back();
  QVERIFY(test::compare(test::renderFloat(scene, 5), test::renderFloat(plain, 5)).largest < 1e-3);
}

void TestWarp::partsOfFormulasFitTogether() {
  for (const char* edges : {"mirror", "clamp", "beyond"}) {
    Scene scene = bentPattern("weave", edges);
    scene.layers[0].place[static_cast<std::size_t>(PlaceParam::Turn)].base = std::string(edges) == "beyond" ? 12.0 : 0.0;
    const PlaneView whole = PlaneView::cover(240, 136, 240, 136);
    const auto all = test::renderFloat(scene, 7);
    for (const auto& [x, y, w, h] : {std::array{0, 0, 97, 50}, std::array{97, 31, 143, 105}, std::array{13, 77, 16, 59}}) {
      const auto d = test::compare(test::renderFloat(scene, 7, whole.part(x, y, w, h)), test::cut(all, x, y, w, h));
      QVERIFY2(d.largest < 2e-3, qPrintable(QStringLiteral("%1 %2").arg(QLatin1String(edges)).arg(d.largest)));
    }
  }
}

QTEST_GUILESS_MAIN(TestWarp)
#include "tst_warp.moc"
