// Removing a colour: the ground goes, what stands before it stays, soft rims lie between, its tinge goes, holes are filled.
#include <QPainter>
#include <QTest>
#include <cmath>

#include "support/media.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;

namespace {

constexpr int kSize = 100;

// An orange disc of radius 30 before a ground, its rim antialiased; with `spill` the ground's light lies on it.
MediaRef disc(const QColor& ground, const char* name, bool spill = false) {
  QImage image(kSize, kSize, QImage::Format_RGB888);
  image.fill(ground);
  QPainter p(&image);
  p.setRenderHint(QPainter::Antialiasing);
  p.setPen(Qt::NoPen);
  const QColor orange(0xe0, 0x70, 0x28);
  p.setBrush(spill ? QColor((orange.red() * 3 + ground.red()) / 4, (orange.green() * 3 + ground.green()) / 4,
                            (orange.blue() * 3 + ground.blue()) / 4)
                   : orange);
  p.drawEllipse(QPointF(50, 50), 30, 30);
  p.end();
  return test::savedPicture(image, test::folder().filePath(name));
}

Scene cleared(const MediaRef& ref, const QColor& ground) {
  Scene scene = test::oneLayer("picture", kSize, kSize);
  scene.background.reset();
  test::setValue(scene, 0, 0, "file", ref);
  test::addStep(scene, "clear");
  test::setValue(scene, 0, 1, "colour",
                 Colour{static_cast<float>(ground.redF()), static_cast<float>(ground.greenF()), static_cast<float>(ground.blueF()), 1});
  return scene;
}

double area(const test::FloatFrame& f) { return test::meanOf(f, 3) * kSize * kSize; }

}  // namespace

class TestClear : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void theGroundGoesAndTheFigureStays();
  void spillGoes();
  void rimsGrowAndShrink();
  void holesAreFilled();
  void feathersSoften();
};

void TestClear::theGroundGoesAndTheFigureStays() {
  int n = 0;
  for (const QColor& ground : {QColor(0x20, 0xb0, 0x50), QColor(0x20, 0x50, 0xd0), QColor(0xf4, 0xf4, 0xf4), QColor(0x08, 0x08, 0x08)}) {
    Scene scene = cleared(disc(ground, qPrintable(QStringLiteral("g%1.png").arg(n++))), ground);
    const auto f = test::renderFloat(scene, 0);
    QCOMPARE(f.at(4, 4, 3), 0.0f);
    QCOMPARE(f.at(95, 50, 3), 0.0f);
    QVERIFY2(f.at(50, 50, 3) > 0.999f, qPrintable(ground.name()));
    QVERIFY(std::abs(f.at(50, 50, 0) - 0xe0 / 255.0f) < 0.02f);
    // The rim is where it was, within a pixel.
    QVERIFY2(std::abs(area(f) - M_PI * 900) < 2 * M_PI * 30 * 1.0, qPrintable(QString::number(area(f))));
  }
}

void TestClear::spillGoes() {
  const QColor ground(0x20, 0xb0, 0x50);
  Scene scene = cleared(disc(ground, "spill.png", true), ground);
  test::setValue(scene, 0, 1, "tolerance", 0.1);
  test::setValue(scene, 0, 1, "softness", 0.05);
  const auto chroma = [](const test::FloatFrame& f) { return f.at(50, 50, 1) - 0.5f * (f.at(50, 50, 0) + f.at(50, 50, 2)); };
  test::setValue(scene, 0, 1, "spill", 0.0);
  const auto with = test::renderFloat(scene, 0);
  // An orange has none of green's hue to lose; a green rim has.
  test::setValue(scene, 0, 1, "spill", 1.0);
  const auto without = test::renderFloat(scene, 0);
  QVERIFY(chroma(without) <= chroma(with) + 1e-4f);
  // A greenish grey becomes grey.
  QImage grey(20, 20, QImage::Format_RGB888);
  grey.fill(QColor(120, 150, 125));
  Scene flat = cleared(test::savedPicture(grey, test::folder().filePath("grey.png")), ground);
  test::setValue(flat, 0, 1, "tolerance", 0.02);
  test::setValue(flat, 0, 1, "softness", 0.02);
  test::setValue(flat, 0, 1, "spill", 1.0);
  const auto f = test::renderFloat(flat, 0);
  QVERIFY(f.at(50, 50, 3) > 0.99f);
  QVERIFY2(f.at(50, 50, 1) - std::max(f.at(50, 50, 0), f.at(50, 50, 2)) < 0.03f, qPrintable(QString::number(f.at(50, 50, 1))));
}

void TestClear::rimsGrowAndShrink() {
  const QColor ground(0x20, 0xb0, 0x50);
  Scene scene = cleared(disc(ground, "rim.png"), ground);
  const double own = area(test::renderFloat(scene, 0));
  for (const double by : {-6.0, -2.0, 2.0, 6.0}) {
    test::setValue(scene, 0, 1, "grow", by);
    const double has = area(test::renderFloat(scene, 0));
    QVERIFY2(std::abs(has - own - 2 * M_PI * 30 * by - M_PI * by * by) < 2 * M_PI * 30 * 0.8, qPrintable(QString::number(by)));
  }
}

void TestClear::holesAreFilled() {
  const QColor ground(0x20, 0xb0, 0x50);
  QImage image(kSize, kSize, QImage::Format_RGB888);
  image.fill(ground);
  for (int y = 20; y < 80; ++y)
    for (int x = 20; x < 80; ++x) image.setPixelColor(x, y, QColor(0xe0, 0x70, 0x28));
  for (int y = 48; y < 52; ++y)
    for (int x = 48; x < 52; ++x) image.setPixelColor(x, y, ground);
  Scene scene = cleared(test::savedPicture(image, test::folder().filePath("hole.png")), ground);
  QVERIFY(test::renderFloat(scene, 0).at(50, 50, 3) < 0.01f);
  test::setValue(scene, 0, 1, "holes", 8.0);
  const auto f = test::renderFloat(scene, 0);
  QVERIFY(f.at(50, 50, 3) > 0.99f);
  // The outline stays where it was.
  QVERIFY(f.at(10, 50, 3) < 0.01f);
  QVERIFY(f.at(17, 50, 3) < 0.01f);
  QVERIFY(f.at(22, 50, 3) > 0.99f);
}

void TestClear::feathersSoften() {
  const QColor ground(0x20, 0xb0, 0x50);
  Scene scene = cleared(disc(ground, "feather.png"), ground);
  const auto between = [](const test::FloatFrame& f) {
    int n = 0;
    for (int x = 0; x < kSize; ++x) n += f.at(x, 50, 3) > 0.05f && f.at(x, 50, 3) < 0.95f;
    return n;
  };
  const int hard = between(test::renderFloat(scene, 0));
  test::setValue(scene, 0, 1, "feather", 8.0);
  const auto f = test::renderFloat(scene, 0);
  QVERIFY(between(f) > hard + 8);
  QVERIFY(std::abs(f.at(20, 50, 3) - 0.5f) < 0.15f);
}

QTEST_GUILESS_MAIN(TestClear)
#include "tst_clear.moc"
