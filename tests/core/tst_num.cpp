// Numbers of formulas on every target, against those of the C library in double precision.
#include <QTest>
#include <cmath>

#include "support/numbers.h"
#include "support/pictures.h"

using namespace oa;

class TestNum : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void powersAreTrueToThemselves();
  void sineAndCosineAreTrue();
};

void TestNum::powersAreTrueToThemselves() {
  std::vector<float> all;
  for (double a = 1e-6; a <= 40; a *= 1.0007) all.push_back(static_cast<float>(a));
  all.push_back(1.0f);
  test::forEachTarget([&](const char* target) {
    for (const double p : {-0.5, 0.0, 0.3, 0.5, 1.0, 1.15, 2.0, 3.0, 4.0}) {
      const std::vector<float> made = test::powersOf(all, p);
      for (std::size_t i = 0; i < all.size(); ++i) {
        const double expected = std::pow(static_cast<double>(all[i]), p);
        QVERIFY2(std::abs(static_cast<double>(made[i]) / expected - 1) < 8e-6,
                 qPrintable(QStringLiteral("%1: %2 to the power %3").arg(target).arg(static_cast<double>(all[i])).arg(p)));
      }
      QCOMPARE(made.back(), 1.0f);
    }
  });
}

void TestNum::sineAndCosineAreTrue() {
  std::vector<float> all;
  for (int i = -40000; i <= 40000; ++i) all.push_back(static_cast<float>(i) * 0.01f);
  test::forEachTarget([&](const char* target) {
    const test::Turns made = test::turnsOf(all);
    for (std::size_t i = 0; i < all.size(); ++i) {
      const auto angle = static_cast<double>(all[i]);
      QVERIFY2(std::abs(static_cast<double>(made.sine[i]) - std::sin(angle)) < 3e-7,
               qPrintable(QStringLiteral("%1: %2").arg(target).arg(angle)));
      QVERIFY2(std::abs(static_cast<double>(made.cosine[i]) - std::cos(angle)) < 3e-7,
               qPrintable(QStringLiteral("%1: %2").arg(target).arg(angle)));
    }
    // Whole turns end where they began.
    QCOMPARE(made.sine[40000], 0.0f);
    QCOMPARE(made.cosine[40000], 1.0f);
  });
}

QTEST_GUILESS_MAIN(TestNum)
#include "tst_num.moc"
