// The rules of the tree, as tests. Each is proven by a planted violation that it must find.
#include <QDir>
#include <QDirIterator>
#include <QFile>
#include <QMap>
#include <QRegularExpression>
#include <QTemporaryDir>
#include <QTest>

#include "support/files.h"

namespace {

/// Path below the tree's root -> text.
using Tree = QMap<QString, QString>;

Tree readTree(const QStringList& folders, const QStringList& patterns) {
  Tree tree;
  const QDir root(QStringLiteral(OA_SOURCE_DIR));
  for (const QString& folder : folders) {
    QDirIterator it(root.filePath(folder), patterns, QDir::Files, QDirIterator::Subdirectories);
    while (it.hasNext()) {
      QFile file(it.next());
      if (file.open(QIODevice::ReadOnly)) tree.insert(root.relativeFilePath(file.fileName()), QString::fromUtf8(file.readAll()));
    }
  }
  return tree;
}

const QStringList kCode{QStringLiteral("*.cpp"), QStringLiteral("*.h"), QStringLiteral("*.in")};

// Which rooms of the core a room may include from.
const QMap<QString, QStringList> kArrows{
    {"base", {"base"}},
    {"image", {"base", "image"}},
    {"simd", {"base", "image", "simd"}},
    {"loop", {"base", "loop"}},
    {"store", {"base", "image", "store"}},
    {"params", {"base", "image", "loop", "store", "params"}},
    {"fields", {"base", "image", "simd", "loop", "params", "fields"}},
    {"shapes", {"base", "image", "simd", "store", "loop", "params", "fields", "shapes"}},
    {"words", {"base", "image", "simd", "store", "loop", "params", "fields", "shapes", "words"}},
    {"lens", {"base", "image", "fields", "lens"}},
    {"steps", {"base", "image", "simd", "store", "loop", "params", "fields", "lens", "shapes", "words", "steps"}},
    {"scene", {"base", "image", "loop", "store", "params", "words", "steps", "scene"}},
    {"sound", {"base", "loop", "params", "store", "scene", "sound"}},
    {"titles", {"base", "params", "scene", "titles"}},
    {"edit", {"base", "image", "loop", "store", "params", "shapes", "steps", "scene", "sound", "edit"}},
    {"graph", {"base", "image", "loop", "params", "fields", "steps", "scene", "graph"}},
    {"render", {"base", "image", "loop", "params", "steps", "scene", "sound", "graph", "render"}},
    {"check", {"base", "image", "loop", "params", "words", "store", "scene", "render", "check"}},
    {"media", {"base", "image", "loop", "store", "scene", "sound", "render", "media"}},
};

QStringList wrongArrows(const Tree& tree) {
  static const QRegularExpression include(QStringLiteral("^\\s*#include \"(\\w+)/(\\w+)"), QRegularExpression::MultilineOption);
  QStringList found;
  for (auto it = tree.begin(); it != tree.end(); ++it) {
    const QStringList parts = it.key().split('/');
    auto match = include.globalMatch(it.value());
    while (match.hasNext()) {
      const auto m = match.next();
      const QString room = m.captured(1);
      const QString line = it.key() + QStringLiteral(" includes ") + room + QLatin1Char('/') + m.captured(2);
      if (parts[0] == "core") {
        if (!kArrows.value(parts[1]).contains(room)) found << line;
        // No step knows another: of its own room it sees the contract alone.
        if ((parts[1] == "steps" || parts[1] == "fields") && parts[2] != "step.h" && room == "steps" && m.captured(2) != "step" &&
            m.captured(2) != "point_formula" && m.captured(2) != "lens_formula" && parts[2] != m.captured(2) + ".cpp")
          found << line;
      }
      if (parts[0] == "cli" && !kArrows.contains(room)) found << line;
      if (parts[0] == "app" && parts[1] == "model" && (room == "widgets" || room == "sheets")) found << line;
      if (parts[0] == "app" && parts[1] == "widgets" && room == "sheets") found << line;
    }
  }
  return found;
}

QStringList qtInCore(const Tree& tree) {
  static const QRegularExpression qt(QStringLiteral("#include <Q|\\bQ[A-Z][a-z]+[A-Za-z]*\\b(::|\\()|\\bqDebug\\b"));
  QStringList found;
  for (auto it = tree.begin(); it != tree.end(); ++it)
    if ((it.key().startsWith("core/") || it.key().startsWith("cli/") || it.key().startsWith("fuzz/")) && it.value().contains(qt))
      found << it.key();
  return found;
}

// The core says what is wrong through values: it never prints, exits or throws.
QStringList noisyCore(const Tree& tree) {
  static const QRegularExpression noise(QStringLiteral("\\bstd::c(out|err)\\b|\\bprintf\\(|\\bstd::exit\\(|\\bstd::abort\\("));
  QStringList found;
  for (auto it = tree.begin(); it != tree.end(); ++it)
    if (it.key().startsWith("core/") && it.value().contains(noise)) found << it.key();
  return found;
}

// Steps are reached through the registry: nothing outside core/steps and the tests names one's function.
QStringList namedSteps(const Tree& tree) {
  static const QRegularExpression name(QStringLiteral("\\b(\\w+)Step\\(\\)"));
  QStringList steps;
  for (const QString& file : tree.keys())
    if (file.startsWith("core/steps/") && file.endsWith(".cpp")) steps << file.section('/', -1).chopped(4) + QStringLiteral("Step()");
  QStringList found;
  for (auto it = tree.begin(); it != tree.end(); ++it) {
    if (it.key().startsWith("core/steps/")) continue;
    for (const QString& step : steps)
      if (it.value().contains(step)) found << it.key() + QStringLiteral(" names ") + step;
  }
  return found;
}

// The app knows steps by their tables alone.
QStringList stepsNamedInApp(const Tree& tree) {
  static const QRegularExpression name(QStringLiteral("findStep\\(\"|->id [=!]= \"|spec\\.id [=!]= \""));
  QStringList found;
  for (auto it = tree.begin(); it != tree.end(); ++it)
    if (it.key().startsWith("app/") && it.value().contains(name)) found << it.key();
  return found;
}

// A test waits for what it waits for, and not for some time.
QStringList fixedSleeps(const Tree& tree) {
  static const QRegularExpression sleep(QStringLiteral("qWait\\(\\d|sleep_") + QStringLiteral("for"));
  QStringList found;
  for (auto it = tree.begin(); it != tree.end(); ++it)
    if (it.value().contains(sleep)) found << it.key();
  return found;
}

QStringList stepsWithoutTests(const QStringList& files) {
  QStringList found;
  for (const QString& file : files)
    if (file.startsWith("core/steps/") && file.endsWith(".cpp") && !files.contains("tests/steps/tst_" + file.section('/', -1)))
      found << file;
  return found;
}

// Machine paths, words that stand for unfinished work, and what tests must not be.
QStringList wrongWords(const Tree& tree) {
  static const QRegularExpression words(QStringLiteral("/(ho") + QStringLiteral("me|wo") + QStringLiteral("rk|us") +
                                        QStringLiteral("r/local)/(?!kelpwick)|\\b(TO") + QStringLiteral("DO|FIX") +
                                        QStringLiteral("ME|XX") + QStringLiteral("X)\\b|QEXPECT_") + QStringLiteral("FAIL"));
  QStringList found;
  for (auto it = tree.begin(); it != tree.end(); ++it) {
    const auto m = words.match(it.value());
    if (m.hasMatch()) found << it.key() + QStringLiteral(": ") + m.captured();
  }
  return found;
}

QStringList testsThatCannotFail(const Tree& tree) {
  static const QRegularExpression slot(QStringLiteral("^void Test\\w+::(\\w+)\\(\\) \\{(.*?)^\\}"),
                                       QRegularExpression::MultilineOption | QRegularExpression::DotMatchesEverythingOption);
  QStringList found;
  for (auto it = tree.begin(); it != tree.end(); ++it) {
    if (!it.key().startsWith("tests/")) continue;
    auto match = slot.globalMatch(it.value());
    while (match.hasNext()) {
      const auto m = match.next();
      if (m.captured(1).endsWith("_data")) continue;
      if (!m.captured(2).contains(QRegularExpression(QStringLiteral("Q(TRY_)?(VERIFY2?|COMPARE|FAIL)\\b"))))
        found << it.key() + QLatin1Char(' ') + m.captured(1);
    }
  }
  return found;
}

// Command lines of over-again-cli in the documents, each whole on a line of a code block.
QStringList commandLines(const QString& text) {
  static const QRegularExpression block(QStringLiteral("```sh\\n(.*?)```"), QRegularExpression::DotMatchesEverythingOption);
  QStringList lines;
  auto match = block.globalMatch(text);
  while (match.hasNext())
    for (const QString& line : match.next().captured(1).split('\n'))
      if (line.startsWith("build/bin/over-again-cli ")) lines << line.section(QStringLiteral("  #"), 0, 0).trimmed();
  return lines;
}

QString readme() {
  QFile file(QStringLiteral(OA_SOURCE_DIR "/README.md"));
  return file.open(QIODevice::ReadOnly) ? QString::fromUtf8(file.readAll()) : QString();
}

}  // namespace

class TestRules : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void arrowsPointOneWay();
  void theCoreIsFreeOfQt();
  void theCoreIsQuiet();
  void stepsAreNamedNowhere();
  void everyStepIsTested();
  void wordsAreRight();
  void testsCanFail();
  void theReadmesLinesRun();
  void theReferenceIsCurrent();
  void linksLead();
};

void TestRules::arrowsPointOneWay() {
  const QStringList wrong = wrongArrows(readTree({"core", "cli", "app"}, kCode));
  QVERIFY2(wrong.isEmpty(), qPrintable(wrong.join('\n')));
  QCOMPARE(wrongArrows({{"core/base/a.h", "#include \"scene/scene.h\"\n"}}).size(), 1);
  QCOMPARE(wrongArrows({{"core/steps/blur.cpp", "#include \"steps/noise.h\"\n"}}).size(), 1);
  QCOMPARE(wrongArrows({{"core/render/a.cpp", "#include \"media/png.h\"\n"}}).size(), 1);
  QCOMPARE(wrongArrows({{"cli/main.cpp", "#include \"widgets/view.h\"\n"}}).size(), 1);
  QCOMPARE(wrongArrows({{"app/model/a.cpp", "#include \"widgets/view.h\"\n"}}).size(), 1);
}

void TestRules::theCoreIsFreeOfQt() {
  QCOMPARE(qtInCore(readTree({"core", "cli", "fuzz"}, kCode)), QStringList());
  QCOMPARE(qtInCore({{"core/base/a.h", "#include <QString>\n"}}).size(), 1);
  QCOMPARE(qtInCore({{"cli/a.cpp", "QString::number(3)"}}).size(), 1);
}

void TestRules::theCoreIsQuiet() {
  QCOMPARE(noisyCore(readTree({"core"}, kCode)), QStringList());
  QCOMPARE(noisyCore({{"core/base/a.cpp", "std::cout << 1;"}}).size(), 1);
}

void TestRules::stepsAreNamedNowhere() {
  QCOMPARE(namedSteps(readTree({"core", "cli", "app", "bench"}, kCode)), QStringList());
  QCOMPARE(namedSteps({{"core/steps/blur.cpp", ""}, {"app/a.cpp", "blurStep()"}}).size(), 1);
  QCOMPARE(stepsNamedInApp(readTree({"app"}, kCode)), QStringList());
  QCOMPARE(stepsNamedInApp({{"app/a.cpp", "findStep(\"noise\")"}, {"app/b.cpp", "if (v.spec->id == \"gradient\")"}}).size(), 2);
}

void TestRules::everyStepIsTested() {
  QCOMPARE(stepsWithoutTests(readTree({"core/steps", "tests/steps"}, {"*.cpp"}).keys()), QStringList());
  QCOMPARE(stepsWithoutTests({"core/steps/glow.cpp"}).size(), 1);
}

void TestRules::wordsAreRight() {
  Tree all = readTree({"core", "cli", "app", "tests", "fuzz", "bench", "docs", "demo-data"},
                      {"*.cpp", "*.h", "*.md", "*.txt", "*.overagain", "*.json", "*.py"});
  all.insert("README.md", readme());
  QVERIFY(all.size() > 100);
  QCOMPARE(wrongWords(all), QStringList());
  QCOMPARE(wrongWords({{"a.cpp", QStringLiteral("// TO") + "DO later"}}).size(), 1);
  QCOMPARE(wrongWords({{"a.md", QStringLiteral("see /ho") + "me/somebody/x"}}).size(), 1);
}

void TestRules::testsCanFail() {
  QCOMPARE(testsThatCannotFail(readTree({"tests"}, {"tst_*.cpp"})), QStringList());
  QCOMPARE(fixedSleeps(readTree({"tests"}, {"tst_*.cpp"})), QStringList());
  QCOMPARE(fixedSleeps({{"tests/a.cpp", "QTest::qWa" + QString("it(50);")}}).size(), 1);
  QCOMPARE(testsThatCannotFail({{"tests/a.cpp", "void TestA::b() {\n  run();\n}\n"}}).size(), 1);
}

void TestRules::theReadmesLinesRun() {
  const QStringList lines = commandLines(readme());
  QVERIFY(lines.size() >= 5);
  const QTemporaryDir folder;
  for (QString line : lines) {
    // Run in an empty folder, with the tree's own files by whole paths.
    line.replace("build/bin/over-again-cli", QStringLiteral("'" OA_CLI "'"))
        .replace("demo-data/", QStringLiteral(OA_SOURCE_DIR "/demo-data/"));
    if (line.contains(" render ")) line += QStringLiteral(" --size 64x36");
    const auto done = oa::test::run("/bin/bash", {"-c", line}, folder.path());
    QVERIFY2(done.exitCode == 0, qPrintable(line + "\n" + done.err));
  }
  QCOMPARE(commandLines("```sh\nbuild/bin/over-again-cli info x  # says\n```\n"), QStringList("build/bin/over-again-cli info x"));
  for (const char* command : {"demo", "test", ".ci/run", "tools/dev", "tools/install"}) {
    const QFileInfo file(QStringLiteral(OA_SOURCE_DIR "/") + command);
    QVERIFY2(file.isExecutable() && !file.isDir(), command);
  }
  QVERIFY(readme().contains("./demo") && readme().contains("./test"));
}

void TestRules::theReferenceIsCurrent() {
  QFile file(QStringLiteral(OA_SOURCE_DIR "/docs/steps.md"));
  QVERIFY(file.open(QIODevice::ReadOnly));
  QVERIFY2(QString::fromUtf8(file.readAll()).endsWith(QString::fromUtf8(oa::test::cli({"describe"}).out)), "run tools/dev reference");
}

void TestRules::linksLead() {
  static const QRegularExpression link(QStringLiteral("\\]\\((?!https?:|#)([^)#]+)"));
  Tree pages = readTree({"docs"}, {"*.md"});
  pages.insert("README.md", readme());
  QFile contributing(QStringLiteral(OA_SOURCE_DIR "/CONTRIBUTING.md"));
  QVERIFY(contributing.open(QIODevice::ReadOnly));
  pages.insert("CONTRIBUTING.md", QString::fromUtf8(contributing.readAll()));
  int links = 0;
  for (auto it = pages.begin(); it != pages.end(); ++it) {
    const QDir folder(QFileInfo(QStringLiteral(OA_SOURCE_DIR "/") + it.key()).path());
    auto match = link.globalMatch(it.value());
    while (match.hasNext()) {
      const QString target = match.next().captured(1);
      QVERIFY2(QFileInfo::exists(folder.filePath(target)), qPrintable(it.key() + " -> " + target));
      ++links;
    }
  }
  QVERIFY(links > 10);
  // Every picture is shown to somebody.
  for (const QString& picture : QDir(QStringLiteral(OA_SOURCE_DIR "/docs/screenshots")).entryList({"*.png"}))
    QVERIFY2(readme().contains(picture), qPrintable(picture));
}

QTEST_GUILESS_MAIN(TestRules)
#include "tst_rules.moc"
