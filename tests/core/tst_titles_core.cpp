// Tables of titles, loop lengths that fit and rates that come out as laps.
#include <QTest>
#include <algorithm>
#include <cmath>
#include <random>

#include "loop/fit_loop.h"
#include "support/scenes.h"
#include "titles/title_table.h"

using namespace oa;

class TestTitlesCore : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void tablesAreReadAsTheStandardSays();
  void badTablesAreToldByLine();
  void tablesComeBackAsTheyWere();
  void fieldsAreFilled();
  void badRowsAreNamed();
  void aFileWithoutANameIsNotMade();
  void filesAreNamedSafely();
  void loopsFitAsTheyWouldByTryingAll();
  void knownRhythmsFitExactly();
  void ratesAreReadAsTheyAreSaid();
  void ratesComeOutAsWholeLaps();
};

void TestTitlesCore::tablesAreReadAsTheStandardSays() {
  using Rows = std::vector<CsvRow>;
  QCOMPARE(*csvRows("a,b\r\n1,2\r\n"), (Rows{{"a", "b"}, {"1", "2"}}));
  QCOMPARE(*csvRows("a,b\n1,2"), (Rows{{"a", "b"}, {"1", "2"}}));
  QCOMPARE(*csvRows("\xEF\xBB\xBF"
                    "a\n\n\"x, \"\"y\"\"\nz\"\n"),
           (Rows{{"a"}, {"x, \"y\"\nz"}}));
  QCOMPARE(*csvRows("a;b;c\n1,5;2;"), (Rows{{"a", "b", "c"}, {"1,5", "2", ""}}));
  QCOMPARE(*csvRows("a\tb\n\"1\"\t2"), (Rows{{"a", "b"}, {"1", "2"}}));
  QCOMPARE(*csvRows(""), Rows{});
  QCOMPARE(*csvRows("a\rb"), (Rows{{"a"}, {"b"}}));
}

void TestTitlesCore::badTablesAreToldByLine() {
  const auto says = [](std::string_view text, const char* what) {
    const auto rows = csvRows(text);
    return !rows && rows.error().sentence().find(what) != std::string::npos;
  };
  QVERIFY(says("a,b\n\"x", "line 2"));
  QVERIFY(says("a,b\n1,2\n\"x\"y,1", "line 3"));
  QVERIFY(says("a\n\xFF\xFE", "UTF-8"));
  QVERIFY(says(std::string(kMostCsvCells + 1, ','), "cells"));
  std::string many;
  for (std::size_t i = 0; i < kMostCsvRows + 3; ++i) many += "x\n";
  QVERIFY(says(many, "rows"));
  QVERIFY(says(std::string(kMostCsvBytes + 1, 'x'), "larger"));
  for (const char* text : {"", "a,a\n1,2", "a,\n1,2", "a,b\n"}) QVERIFY2(!tableFromCsv(text).has_value(), text);
}

void TestTitlesCore::tablesComeBackAsTheyWere() {
  std::mt19937 random(3);
  constexpr std::string_view kParts[] = {"a", ",", "\"", "\n", "\r\n", ";", "\xC3\xA9", " ", "{x}", ""};
  for (int i = 0; i < 300; ++i) {
    std::vector<CsvRow> rows(1 + random() % 5);
    const std::size_t wide = 1 + random() % 4;
    for (CsvRow& row : rows)
      for (std::size_t c = 0; c < wide; ++c) {
        std::string cell;
        for (std::size_t n = random() % 5; n > 0; --n) cell += kParts[random() % std::size(kParts)];
        row.push_back(cell);
      }
    // The names of the columns are plain, as they are: what a table is parted by is told by its first line.
    for (std::size_t c = 0; c < wide; ++c) rows[0][c] = "c" + std::to_string(c);
    QCOMPARE(*csvRows(csvText(rows)), rows);
  }
}

void TestTitlesCore::fieldsAreFilled() {
  Scene scene = test::oneLayer("words");
  test::setValue(scene, 0, 0, "text", Text{"{name}\n{line} {{x} {name} {}"});
  QCOMPARE(fieldsOf(scene), (std::vector<std::string>{"name", "line"}));
  const auto table = tableFromCsv("name,line\nMaren Holt,Lamp room\n{line},\n");
  QVERIFY(table.has_value());
  QCOMPARE(filled("{name}\n{line} {{x} {name} {}", *table, 0), std::string("Maren Holt\nLamp room {x} Maren Holt {}"));
  // What a cell says is words, whatever it looks like.
  QCOMPARE(filled("{name}|{other}", *table, 1), std::string("{line}|{other}"));
  const Scene made = filled(scene, *table, 0);
  QCOMPARE(std::get<Text>(test::param(scene, 0, 0, "text").base).text.substr(0, 6), std::string("{name}"));
  QVERIFY(std::get<Text>(made.layers[0].recipe[0].params[0].base).text.starts_with("Maren Holt"));
}

void TestTitlesCore::badRowsAreNamed() {
  Scene scene = test::oneLayer("words");
  test::setValue(scene, 0, 0, "text", Text{"{name}: {what}"});
  auto table = *tableFromCsv("name,what\nA,1\nB\nC,3\n");
  QVERIFY(checkRow(scene, table, 0, "a.mp4").has_value());
  QVERIFY(checkRow(scene, table, 2, "a.mp4").has_value());
  const auto bad = checkRow(scene, table, 1, "a.mp4");
  QVERIFY(!bad && bad.error().sentence().find("row 2 (B)") == 0);
  table = *tableFromCsv("name\nA\n");
  const auto none = checkRow(scene, table, 0, "a.mp4");
  QVERIFY(!none && none.error().sentence().find("{what}") != std::string::npos);
  // Words without a field would all be alike.
  QVERIFY(checkFields(scene).has_value());
  test::setValue(scene, 0, 0, "text", Text{"{{name}"});
  QVERIFY(!checkFields(scene).has_value());
}

// An empty cell would name a hidden file; that row is told, and those beside it are made.
void TestTitlesCore::aFileWithoutANameIsNotMade() {
  Scene scene = test::oneLayer("words");
  test::setValue(scene, 0, 0, "text", Text{"{name}"});
  const auto table = *tableFromCsv("name,line\nA,1\n,2\n...,3\nB,4\n");
  for (const std::string folder : {"", "out/"}) {
    const auto names = fileNames(table, folder + "{name}.mp4");
    QVERIFY(names.has_value());
    QCOMPARE(*names, (std::vector<std::string>{folder + "A.mp4", "", "", folder + "B.mp4"}));
    for (std::size_t row = 0; row < 4; ++row) QCOMPARE(checkRow(scene, table, row, (*names)[row]).has_value(), row == 0 || row == 3);
    QVERIFY(checkRow(scene, table, 1, "").error().sentence().find("row 2: ") == 0);
  }
  QCOMPARE(fileNames(table, "t{row}.mp4")->at(1), std::string("t2.mp4"));
}

void TestTitlesCore::filesAreNamedSafely() {
  const auto table = *tableFromCsv("name,line\n../a b,x\nc:d,y\n");
  const auto names = fileNames(table, "out/{name}-{row}.mp4");
  QVERIFY(names.has_value());
  QCOMPARE(*names, (std::vector<std::string>{"out/-a b-1.mp4", "out/c-d-2.mp4"}));
  QVERIFY(!fileNames(table, "out.mp4").has_value());
  QVERIFY(!fileNames(table, "{nobody}.mp4").has_value());
}

// Every length, every number of laps: nothing shorter fits as well, and what is given is what it says.
void TestTitlesCore::loopsFitAsTheyWouldByTryingAll() {
  std::mt19937 random(11);
  const auto unit = [&] { return std::uniform_real_distribution<double>(0, 1)(random); };
  int found = 0;
  for (int i = 0; i < 120; ++i) {
    std::vector<double> periods(1 + random() % 3);
    for (double& p : periods) p = 0.2 + unit() * 3;
    const Rational rate = i % 3 == 0 ? Rational{30000, 1001} : Rational{static_cast<int>(10 + random() % 20), 1};
    const double tolerance = i % 4 == 0 ? 0 : unit() * 0.1;
    const double longest = 12;
    const auto fits = fitLoop(periods, rate, tolerance, longest);
    const auto worstAt = [&](std::int64_t n) {
      double worst = 0;
      for (const double seconds : periods) {
        double best = 1e9;
        for (int laps = 1; laps <= n; ++laps)
          best = std::min(best, std::abs(static_cast<double>(n) / rate.value() / laps - seconds) / seconds);
        worst = std::max(worst, best);
      }
      return worst;
    };
    double best = tolerance + 1e-9;
    std::size_t next = 0;
    for (std::int64_t n = 1; n <= static_cast<std::int64_t>(longest * rate.value()); ++n) {
      const double worst = worstAt(n);
      const bool listed = next < fits.size() && fits[next].frames == n;
      if (listed) {
        QVERIFY(worst <= best + 1e-12);
        QVERIFY(std::abs(worst - fits[next].off) < 1e-8);
        best = worst;
        ++next;
        ++found;
        if (worst < 1e-9) break;
      } else {
        QVERIFY2(worst > best - 2e-9,
                 qPrintable(QStringLiteral("%1: %2 frames fit by %3, better than %4").arg(i).arg(n).arg(worst).arg(best)));
      }
    }
    QCOMPARE(next, fits.size());
  }
  QVERIFY(found > 150);
}

void TestTitlesCore::knownRhythmsFitExactly() {
  const auto exact = fitLoop({24, 36}, {30, 1}, 0, 600);
  QCOMPARE(exact.size(), std::size_t{1});
  QCOMPARE(exact[0].frames, 72 * 30);
  QCOMPARE(exact[0].laps, (std::vector<int>{3, 2}));
  // With a tolerance a shorter one comes first, and the exact one last.
  const auto near = fitLoop({24, 25}, {30, 1}, 0.05, 1000);
  QVERIFY(near.size() > 1);
  QVERIFY(near.front().frames <= 25 * 30);
  QCOMPARE(near.front().laps, (std::vector<int>{1, 1}));
  QCOMPARE(near.back().frames, 600 * 30);
  QCOMPARE(near.back().off, 0.0);
  QVERIFY(fitLoop({24, 36}, {30, 1}, 0, 60).empty());
  // What is hardly shorter than a truer one is not worth a choice; every one that goes has such a one among those that stay.
  const auto all = fitLoop({24, 36}, {30, 1}, 0.04, 600);
  QVERIFY(all.size() > 3);
  const auto worth = worthChoosing(all);
  QVERIFY(!worth.empty() && worth.back().frames == 2160 && worth.size() < all.size());
  for (const LoopFit& fit : all) {
    const auto next = std::find_if(worth.begin(), worth.end(), [&](const LoopFit& w) { return w.frames >= fit.frames; });
    QVERIFY(next != worth.end() && next->off <= fit.off);
    QVERIFY(next->frames == fit.frames || static_cast<double>(next->frames) <= 1.05 * static_cast<double>(fit.frames));
  }
  for (std::size_t i = 1; i < worth.size(); ++i)
    QVERIFY(static_cast<double>(worth[i].frames) > 1.05 * static_cast<double>(worth[i - 1].frames));
  QVERIFY(worthChoosing({}).empty());
  QVERIFY(fitLoop({}, {30, 1}, 0, 60).empty());
}

void TestTitlesCore::ratesAreReadAsTheyAreSaid() {
  const auto is = [](const char* text, Rate::Of of, double amount) {
    const auto rate = rateFromText(text);
    return rate && rate->of == of && std::abs(rate->amount - amount) < 1e-9;
  };
  QVERIFY(is("2 s", Rate::Of::Period, 2));
  QVERIFY(is("every 2.5 seconds", Rate::Of::Period, 2.5));
  QVERIFY(is(" 2,5s ", Rate::Of::Period, 2.5));
  QVERIFY(is("1 turn in 40 s", Rate::Of::Period, 40));
  QVERIFY(is("3 laps in 2 min", Rate::Of::Period, 40));
  QVERIFY(is("12/min", Rate::Of::Period, 5));
  QVERIFY(is("12 times a minute", Rate::Of::Period, 5));
  QVERIFY(is("0.5 Hz", Rate::Of::Period, 2));
  QVERIFY(is("120 px/s", Rate::Of::Speed, 120));
  QVERIFY(is("90 \xC2\xB0/s", Rate::Of::Speed, 90));
  QVERIFY(is("600 px per minute", Rate::Of::Speed, 10));
  QVERIFY(is("4 beats", Rate::Of::Beats, 4));
  QVERIFY(is("2 bars", Rate::Of::Beats, 8));
  QVERIFY(is("48 frames", Rate::Of::Frames, 48));
  for (const char* text : {"", "fast", "0 s", "-2 s", "2", "2 s s", "120 px", "1 turn in", "1e400 s", "2 parsecs", "px/s"})
    QVERIFY2(!rateFromText(text).has_value(), text);
}

// Against exact fractions: no other whole number of laps comes nearer to the period.
void TestTitlesCore::ratesComeOutAsWholeLaps() {
  std::mt19937 random(5);
  for (int i = 0; i < 2000; ++i) {
    const auto frames = static_cast<std::int64_t>(1 + random() % 5000);
    const auto period = static_cast<std::int64_t>(1 + random() % 6000);
    const auto fit = lapsFor({Rate::Of::Frames, static_cast<double>(period)}, frames, {24, 1}, 0, 0, 1000);
    QVERIFY(fit.has_value());
    // |frames / a - period| <= |frames / b - period| in whole numbers: cross-multiplied.
    const auto nearer = [&](std::int64_t a, std::int64_t b) {
      return std::abs(frames - period * a) * b < std::abs(frames - period * b) * a;
    };
    for (const std::int64_t other : {fit->laps - 1, fit->laps + 1})
      if (other >= 1 && other <= 1000) QVERIFY(!nearer(other, fit->laps));
    QCOMPARE(fit->frames, period * fit->laps);
    QVERIFY(std::abs(fit->seconds * 24 * fit->laps - static_cast<double>(frames)) < 1e-6);
  }
  // 120 px a second over tiles of 300: a lap in 2.5 s.
  const auto fit = lapsFor({Rate::Of::Speed, 120}, 250, {25, 1}, 300, 0, 1000);
  QCOMPARE(fit->laps, 4);
  QCOMPARE(fit->off, 0.0);
  QCOMPARE(lapsFor({Rate::Of::Beats, 4}, 480, {30, 1}, 0, 16, 1000)->laps, 4);
  QVERIFY(!lapsFor({Rate::Of::Speed, 120}, 250, {25, 1}, 0, 0, 1000).has_value());
  QVERIFY(!lapsFor({Rate::Of::Beats, 4}, 250, {25, 1}, 0, 0, 1000).has_value());
  QCOMPARE(lapsFor({Rate::Of::Frames, 1}, 5000, {25, 1}, 0, 0, 1000)->laps, 1000);
}

QTEST_GUILESS_MAIN(TestTitlesCore)
#include "tst_titles_core.moc"
