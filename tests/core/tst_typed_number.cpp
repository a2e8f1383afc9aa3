// Numbers as people type them, in any locale.
#include <QTest>
#include <cmath>

#include "params/typed_number.h"

using namespace oa;

namespace {

ParamSpec of(Unit unit) { return {.id = "n", .label = "N", .help = "", .min = -1e9, .max = 1e9, .unit = unit}; }

}  // namespace

class TestTypedNumber : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void isRead_data();
  void isRead();
  void isRefusedWithASentence_data();
  void isRefusedWithASentence();
  void whatIsShownIsReadBack();
};

void TestTypedNumber::isRead_data() {
  QTest::addColumn<int>("unit");
  QTest::addColumn<QString>("text");
  QTest::addColumn<double>("value");
  const auto row = [](const char* text, double value, Unit unit = Unit::None) {
    QTest::addRow("%s (%d)", text, static_cast<int>(unit)) << static_cast<int>(unit) << QString::fromUtf8(text) << value;
  };
  row("90", 90);
  row("+90", 90);
  row("-1.5", -1.5);
  row("\u22121.5", -1.5);
  row("1,5", 1.5);
  row("0,125", 0.125);
  row("1.234,5", 1234.5);
  row("1,234.5", 1234.5);
  row("1.234.567", 1234567);
  row("1,234,567", 1234567);
  row("1 920", 1920);
  row("1'920,5", 1920.5);
  row("1\u00A0920", 1920);
  row(".5", 0.5);
  row(",5", 0.5);
  row("2*120", 240);
  row("2 \u00D7 120", 240);
  row("1920/2", 960);
  row("3:1", 3);
  row("16:9", 16.0 / 9);
  row("1/3", 1.0 / 3);
  row("100 + 20 - 5", 115);
  row("2*3+4*5", 26);
  row("--3", 3);
  row("10 - -2", 12);
  row("50 %", 0.5);
  row("50%", 0.5, Unit::Share);
  row("50", 0.5, Unit::Share);
  row("12,5 %", 0.125, Unit::Share);
  row("90 px", 90, Unit::Pixels);
  row("90PX", 90, Unit::Pixels);
  row("2*45 px", 90, Unit::Pixels);
  row("-140\u00B0", -140, Unit::Degrees);
  row("90 deg", 90, Unit::Degrees);
  row("0.15 cells", 0.15, Unit::Cells);
  row("1 cell", 1, Unit::Cells);
  row("3 : 1", 3, Unit::Ratio);
  row("12 frames", 12, Unit::Frames);
}

void TestTypedNumber::isRead() {
  QFETCH(int, unit);
  QFETCH(QString, text);
  QFETCH(double, value);
  const ParamSpec spec = of(static_cast<Unit>(unit));
  const auto read = typedNumber(text.toStdString(), spec);
  QVERIFY2(read.has_value(), read ? "" : read.error().message.c_str());
  QVERIFY2(std::abs(*read - value) < 1e-9, qPrintable(QString::number(*read)));
}

void TestTypedNumber::isRefusedWithASentence_data() {
  QTest::addColumn<int>("unit");
  QTest::addColumn<QString>("text");
  QTest::addColumn<QString>("sentence");
  const auto row = [](const char* text, const char* sentence, Unit unit = Unit::None) {
    QTest::addRow("'%s' (%d)", text, static_cast<int>(unit)) << static_cast<int>(unit) << QString::fromUtf8(text) << QString(sentence);
  };
  row("", "no number");
  row("   ", "no number");
  row("wide", "\"wide\" is not a number");
  row("5 wide", "not a unit");
  row("5 %", "not in percent", Unit::Pixels);
  row("5 px", "this is in deg", Unit::Degrees);
  row("1/0", "divided by 0");
  row("3*", "missing at the end");
  row("2 3", "left over");
  row("1e400", "not a unit");
  row("nan", "not a number");
  row("inf", "not a number");
}

void TestTypedNumber::isRefusedWithASentence() {
  QFETCH(int, unit);
  QFETCH(QString, text);
  QFETCH(QString, sentence);
  const ParamSpec spec = of(static_cast<Unit>(unit));
  const auto read = typedNumber(text.toStdString(), spec);
  QVERIFY2(!read, qPrintable(QString::number(read.value_or(0))));
  QVERIFY2(QString::fromStdString(read.error().message).contains(sentence), read.error().message.c_str());
}

void TestTypedNumber::whatIsShownIsReadBack() {
  const ParamSpec spec = of(Unit::Pixels);
  for (const double v : {0.0, 1.0, -1.0, 0.1, 123.456, -9999.5, 1e6}) {
    QCOMPARE(*typedNumber(std::to_string(v) + " px", spec), v);
    QCOMPARE(*typedNumber(QString::number(v, 'f', 6).replace('.', ',').toStdString(), spec), v);
  }
}

QTEST_APPLESS_MAIN(TestTypedNumber)
#include "tst_typed_number.moc"
