// Scan lines: nothing at nothing, as many as fit, as dark and as wide as they say, wandering by whole ones, even where they are too fine.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

namespace {

test::FloatFrame lined(const test::SetUp& more, std::int64_t k = 0, int height = 180) {
  Scene scene = test::stepOn("flat", "scanlines", [&](const auto& set) {
    set("pitch", 18.0), set("depth", 1.0), set("soft", 0.0);
    if (more) more(set);
  });
  test::setValue(scene, 0, 0, "colour", Colour{1, 1, 1, 1});
  test::param(scene, 0, 1, "travel").motion = test::turn();
  return test::renderFloat(scene, k, 320 * height / 180, height);
}

}  // namespace

class TestScanLines : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void noDepthIsTheSameToTheByte();
  void asManyAndAsWideAsTheySay();
  void wanderByWholeOnes();
  void tooFineTheyAreEven();
};

void TestScanLines::noDepthIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "scanlines", [](const auto& set) { set("depth", 0.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestScanLines::asManyAndAsWideAsTheySay() {
  for (const double width : {0.25, 0.5, 0.75}) {
    const auto f = lined([&](const auto& set) { set("width", width); });
    int begins = 0;
    for (int y = 1; y < 180; ++y) begins += f.at(5, y, 0) < 0.5f && f.at(5, y - 1, 0) >= 0.5f;
    QVERIFY(std::abs(begins - 10) <= 1);
    QVERIFY2(std::abs(test::meanOf(f, 0) - (1 - width)) < 0.03, qPrintable(QString::number(test::meanOf(f, 0))));
    for (int y = 0; y < 180; ++y) QCOMPARE(f.at(5, y, 0), f.at(300, y, 0));
  }
}

void TestScanLines::wanderByWholeOnes() {
  const auto three = [](const auto& set) { set("travel", 3.0); };
  QVERIFY(test::compare(lined(three, 8), lined(three, 0)).largest < 1e-3);
  QVERIFY(test::compare(lined(three, 4), lined(three, 0)).mean > 0.1);
}

void TestScanLines::tooFineTheyAreEven() {
  const auto f = lined([](const auto& set) { set("pitch", 2.0); }, 0, 45);
  QVERIFY(std::abs(test::meanOf(f, 0) - 0.5) < 0.03 && test::deviationOf(f, 0) < 0.06);
}

QTEST_GUILESS_MAIN(TestScanLines)
#include "tst_scanlines.moc"
