// Balance by tones: nothing at nothing, each tone has its own tinge, light and dark stay as they are, black and white too.
#include <QTest>
#include <cmath>

#include "image/colour.h"
#include "support/lens.h"

using namespace oa;

namespace {

std::array<double, 3> tinged(float tone) {
  Scene scene = test::stepOn("flat", "balance", [](const auto& set) {
    set("amount", 1.0), set("shadows", Colour{0.9f, 0.1f, 0.1f, 1}), set("middles", Colour{0.1f, 0.6f, 0.1f, 1}),
        set("lights", Colour{0.1f, 0.1f, 0.9f, 1});
  });
  test::setValue(scene, 0, 0, "colour", Colour{tone, tone, tone, 1});
  const auto f = test::renderFloat(scene, 0);
  return {static_cast<double>(f.at(3, 3, 0)), static_cast<double>(f.at(3, 3, 1)), static_cast<double>(f.at(3, 3, 2))};
}

}  // namespace

class TestBalance : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noAmountAndGreysAreTheSame();
  void eachToneHasItsTinge();
  void lightStays();
};

void TestBalance::noAmountAndGreysAreTheSame() {
  Scene scene = test::stepOn("gradient", "balance", [](const auto& set) { set("amount", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
  test::setValue(scene, 0, 1, "amount", 1.0);
  for (const char* id : {"shadows", "middles", "lights"}) test::setValue(scene, 0, 1, id, Colour{0.3f, 0.3f, 0.3f, 1});
  QVERIFY(test::compare(test::renderFloat(scene, 3), test::renderFloat(test::without(scene), 3)).largest < 1e-5);
}

void TestBalance::eachToneHasItsTinge() {
  const auto dark = tinged(0.15f), middle = tinged(0.5f), bright = tinged(0.85f);
  QVERIFY(dark[0] > dark[1] + 0.1 && dark[0] > dark[2] + 0.1);
  QVERIFY(middle[1] > middle[0] + 0.1 && middle[1] > middle[2] + 0.1);
  QVERIFY(bright[2] > bright[0] + 0.1 && bright[2] > bright[1] + 0.1);
  for (const double v : tinged(0)) QVERIFY(v < 1e-6);
  for (const double v : tinged(1)) QVERIFY(v > 1 - 1e-6);
}

void TestBalance::lightStays() {
  for (const float tone : {0.3f, 0.5f, 0.6f}) {
    const auto p = tinged(tone);
    double sum = 0;
    for (std::size_t k = 0; k < 3; ++k) sum += static_cast<double>(kLuma[k]) * p[k];
    QVERIFY2(std::abs(sum - static_cast<double>(tone)) < 0.03, qPrintable(QString::number(sum)));
  }
}

QTEST_GUILESS_MAIN(TestBalance)
#include "tst_balance.moc"
