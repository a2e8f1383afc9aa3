// Kaleidoscope: one side is no mirror, sectors that are equal to the bit, no seam, what is read, and its level.
#include <QTest>
#include <cmath>

#include "support/lens.h"

using namespace oa;

namespace {

test::FloatFrame seen(double sides, double from = 20) {
  return test::renderFloat(test::stepOn(
                               "noise", "kaleidoscope",
                               [&](const auto& set) {
                                 set("sides", sides), set("from", from), set("reads", Point{0.4, 0.6});
                               },
                               200, 200),
                           3);
}

}  // namespace

class TestKaleidoscope : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void oneSideAtItsPlaceIsTheSameToTheByte();
  void mirroredSectorsAreEqualToTheBit();
  void anyNumberOfSidesIsClosed();
  void oneSideOnlyTurns();
};

void TestKaleidoscope::oneSideAtItsPlaceIsTheSameToTheByte() {
  const Scene scene = test::stepOn("noise", "kaleidoscope", [](const auto& set) { set("sides", 1.0); });
  QVERIFY(test::renderFloat(scene, 3).rgba == test::renderFloat(test::without(scene), 3).rgba);
}

void TestKaleidoscope::mirroredSectorsAreEqualToTheBit() {
  const auto any = seen(3);
  const auto even = seen(6);
  const auto four = seen(4);
  const auto eight = seen(8);
  QVERIFY(test::deviationOf(four, 0) > 0.02);
  for (int y = 0; y < 200; ++y)
    for (int x = 0; x < 200; ++x) {
      QVERIFY(any.at(x, y, 0) == any.at(x, 199 - y, 0));
      QVERIFY(even.at(x, y, 0) == even.at(x, 199 - y, 0) && even.at(x, y, 0) == even.at(199 - x, y, 0));
      for (const auto* f : {&four, &eight}) {
        QVERIFY(f->at(x, y, 0) == f->at(y, x, 0));        // mirrored at the diagonal
        QVERIFY(f->at(x, y, 0) == f->at(199 - y, x, 0));  // turned by a quarter
        QVERIFY(f->at(x, y, 0) == f->at(199 - x, 199 - y, 0));
      }
    }
}

// Turned by one side the picture is the same, for numbers whose sides do not fall on pixels too; and nowhere is there a jump.
void TestKaleidoscope::anyNumberOfSidesIsClosed() {
  for (const int sides : {2, 3, 5, 7, 12}) {
    const auto set = [&](double turn) {
      return test::renderFloat(test::stepOn(
                                   "noise", "kaleidoscope",
                                   [&](const auto& to) {
                                     to("sides", double(sides)), to("turn", turn), to("reads", Point{0.4, 0.6});
                                   },
                                   200, 200),
                               3);
    };
    const auto one = set(10);
    const auto next = set(10 + 360.0 / sides);
    QVERIFY2(test::compare(one, next).largest < 2e-3, qPrintable(QString::number(test::compare(one, next).largest)));
    double jump = 0;
    for (int y = 0; y < 200; ++y)
      for (int x = 1; x < 200; ++x) jump = std::max(jump, static_cast<double>(std::abs(one.at(x, y, 0) - one.at(x - 1, y, 0))));
    QVERIFY2(jump < 0.12, qPrintable(QString::number(jump)));
  }
}

void TestKaleidoscope::oneSideOnlyTurns() {
  const test::PlacesRead read("kaleidoscope", [](const auto& set) { set("sides", 1.0), set("from", 90.0), set("size", 2.0); });
  for (int y = 20; y < 160; y += 11)
    for (int x = 90; x < 230; x += 13) {
      const Point p = read.at(x, y);
      QVERIFY(std::abs(p.x - (160 - (y + 0.5 - 90) / 2)) < 0.15 && std::abs(p.y - (90 + (x + 0.5 - 160) / 2)) < 0.15);
    }
}

QTEST_GUILESS_MAIN(TestKaleidoscope)
#include "tst_kaleidoscope.moc"
