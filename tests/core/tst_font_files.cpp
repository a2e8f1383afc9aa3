// Which fonts may be taken along, by the licence bits in their files.
#include <QProcess>
#include <QFile>
#include <QTest>

#include "words/font_files.h"

using namespace oa;

namespace {

QByteArray cabin() {
  const auto files = fontFilesOf("Cabin");
  return files && !files->empty() ? QByteArray::fromStdString(files->front().bytes) : QByteArray();
}

// With other embedding bits in its OS/2 table (OpenType: "fsType", 8 bytes into it).
std::string withBits(QByteArray font, unsigned bits) {
  const auto number = [&](qsizetype at, int bytes) {
    std::uint32_t n = 0;
    for (int i = 0; i < bytes; ++i) n = n << 8 | static_cast<unsigned char>(font[at + i]);
    return n;
  };
  for (std::uint32_t i = 0; i < number(4, 2); ++i) {
    const qsizetype record = 12 + 16 * static_cast<qsizetype>(i);
    if (font.mid(record, 4) != "OS/2") continue;
    const qsizetype at = number(record + 8, 4) + 8;
    font[at] = static_cast<char>(bits >> 8);
    font[at + 1] = static_cast<char>(bits & 255);
  }
  return font.toStdString();
}

}  // namespace

class TestFontFiles : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void theLicenceBitsAreKept_data();
  void theLicenceBitsAreKept();
  void familiesAreFiles();
  void whatIsNoFontIsRefused();
};

void TestFontFiles::theLicenceBitsAreKept_data() {
  QTest::addColumn<unsigned>("bits");
  QTest::addColumn<bool>("may");
  QTest::newRow("installable") << 0x0000U << true;
  QTest::newRow("restricted") << 0x0002U << false;
  QTest::newRow("to look at and print") << 0x0004U << false;
  QTest::newRow("editable") << 0x0008U << true;
  QTest::newRow("the least of two") << 0x000cU << true;
  QTest::newRow("not in parts") << 0x0100U << true;
  QTest::newRow("bitmaps only") << 0x0200U << false;
}

void TestFontFiles::theLicenceBitsAreKept() {
  QFETCH(unsigned, bits);
  QFETCH(bool, may);
  const QByteArray font = cabin();
  QVERIFY(font.size() > 10000);
  QCOMPARE(mayBeTakenAlong(withBits(font, bits)), may);
}

void TestFontFiles::familiesAreFiles() {
  const auto files = fontFilesOf("Cabin");
  QVERIFY(files.has_value() && files->size() >= 4);  // upright and italic, regular and bold
  for (const FontFile& file : *files) {
    QVERIFY(!file.name.empty() && file.name.find('/') == std::string::npos);
    QVERIFY(fontIsOf(file.bytes, {"cabin"}) && !fontIsOf(file.bytes, {"B612", "Cab"}));
  }
  const auto nowhere = fontFilesOf("Nobody's Hand");
  QVERIFY(nowhere.has_value() && nowhere->empty());
}

void TestFontFiles::whatIsNoFontIsRefused() {
  QVERIFY(!mayBeTakenAlong("") && !mayBeTakenAlong("no font"));
  QVERIFY(!takeFont("no font"));
  QByteArray half = cabin();
  half.truncate(half.size() / 40);
  QVERIFY(!takeFont(half.toStdString()));
  QVERIFY(takeFont(cabin().toStdString()));
}

QTEST_GUILESS_MAIN(TestFontFiles)
#include "tst_font_files.moc"
