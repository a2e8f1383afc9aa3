// Formulas: what is read and what is refused, how they are closed, and as they were saved.
#include <QTest>
#include <cmath>
#include <nlohmann/json.hpp>
#include <numbers>
#include <thread>

#include "base/random.h"
#include "loop/formula.h"
#include "loop/random_walk.h"
#include "params/first_motion.h"
#include "params/param_json.h"
#include "params/step_context.h"
#include "support/scenes.h"

using namespace oa;

namespace {

Formula formula(const char* text, FormulaClosing closing = FormulaClosing::Open) {
  const auto read = Formula::fromText(text, closing);
  return read ? *read : (qFatal("%s: %s", text, read.error().message.c_str()), Formula());
}

std::string problemOf(const std::string& text, FormulaClosing closing = FormulaClosing::Open) {
  const auto read = Formula::fromText(text, closing);
  return read ? std::string() : read.error().message;
}

}  // namespace

class TestFormula : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void itIsWorkedOut();
  void whatCannotBeReadIsSaid();
  void theJointIsChecked();
  void itIsClosed_data();
  void itIsClosed();
  void severalThreadsAsk();
  void itMovesValues();
  void itIsSaved();
};

void TestFormula::itIsWorkedOut() {
  const std::pair<const char*, double (*)(double)> same[] = {
      {"sin(angle)", [](double t) { return std::sin(2 * std::numbers::pi * t); }},
      {"t^2 - 0.5 * t", [](double t) { return t * t - 0.5 * t; }},
      {"mix(2, 4, t)", [](double t) { return 2 + 2 * t; }},
      {"clamp(3 * t, 1, 2)", [](double t) { return std::clamp(3 * t, 1.0, 2.0); }},
      {"cos(tau * t) / 2 + abs(t - 0.5)", [](double t) { return std::cos(2 * std::numbers::pi * t) / 2 + std::abs(t - 0.5); }},
      {"wander(5, 7)", [](double t) { return 2 * wanderAt(mix64(7), 5, t < 1 ? t : 0) - 1; }},
      {"smoothstep(0.2, 0.8, t)",
       [](double t) {
         const double x = std::clamp((t - 0.2) / 0.6, 0.0, 1.0);
         return x * x * (3 - 2 * x);
       }},
  };
  for (const auto& [text, of] : same) {
    const Formula f = formula(text);
    for (int i = 0; i <= 997; ++i) QVERIFY2(std::abs(f.at(i / 997.0) - of(i / 997.0)) < 1e-4, text);
  }
  // It is held back where it goes very far.
  QCOMPARE(formula("1000 * t - 500").at(1), kFormulaReach);
  QCOMPARE(formula("1000 * t - 500").most(), kFormulaReach);
  QVERIFY(std::abs(formula("3 * sin(angle)").most() - 3) < 1e-5);
  // Choices jump where they are told to, within a place.
  const Formula chosen = formula("t < 0.5 ? 0.25 : 0.75");
  QCOMPARE(chosen.at(0.4995), 0.25);
  QCOMPARE(chosen.at(0.5005), 0.75);
}

void TestFormula::whatCannotBeReadIsSaid() {
  QVERIFY(problemOf("").find("such as") != std::string::npos);
  QVERIFY(problemOf("  \n").find("such as") != std::string::npos);
  QVERIFY(problemOf("sin(angl)").find("\"angl\" is not known") != std::string::npos);
  QVERIFY(problemOf("sin(angl)").find("character 5") != std::string::npos);
  QVERIFY(problemOf("2 +").find("missing at the end") != std::string::npos);
  QVERIFY(problemOf("sin(angle").find("bracket") != std::string::npos);
  QVERIFY(problemOf("t = 0.5").find("sets nothing") != std::string::npos);
  QVERIFY(problemOf("t <= 0.5 == 1").empty());
  QVERIFY(problemOf("1 / t").find("no number at t = 0.") != std::string::npos);
  QVERIFY(problemOf("sqrt(t - 0.5)").find("no number") != std::string::npos);
  QVERIFY(problemOf("wander(1, 1)").find("no number") != std::string::npos);
  QVERIFY(!problemOf("\"text\"").empty());
  QVERIFY(problemOf(std::string(kMostFormulaBytes, 't')).find("not known") != std::string::npos);
  QVERIFY(problemOf(std::string(kMostFormulaBytes + 1, '1')).find("at most") != std::string::npos);
  QVERIFY(!problemOf(std::string(kMostFormulaBytes, '(')).empty());
  // What blends looks at what comes before the lap, where this is no number.
  QVERIFY(problemOf("sqrt(t)").empty());
  QVERIFY(problemOf("sqrt(t)", FormulaClosing::Blend).find("no number") != std::string::npos);
  QVERIFY(!formulaClosingFromName("shut"));
  for (const std::string_view name : formulaClosingNames()) QCOMPARE(formulaClosingName(*formulaClosingFromName(name)), name);
}

void TestFormula::theJointIsChecked() {
  for (const char* text : {"sin(angle)", "cos(3 * angle) - sin(2 * angle)^2", "wander(7, 1)", "2"}) {
    QVERIFY2(!formula(text).joint().jumps(), text);
    QVERIFY2(!formula(text).joint().corner, text);
  }
  QVERIFY(std::abs(formula("3 * t").joint().jump - 3) < 1e-12);
  QVERIFY(formula("3 * t").joint().jumps());
  QVERIFY(!formula("abs(t - 0.5)").joint().jumps());
  QVERIFY(formula("abs(t - 0.5)").joint().corner);
  QVERIFY(formula("abs(sin(angle / 2))").joint().corner);
}

void TestFormula::itIsClosed_data() {
  QTest::addColumn<QString>("text");
  for (const char* text : {"t", "t^3 - t", "exp(t) * sin(angle)", "3 * t + sin(5 * angle)", "cos(angle / 3)"}) QTest::newRow(text) << text;
}

void TestFormula::itIsClosed() {
  QFETCH(QString, text);
  const std::string words = text.toStdString();
  const Formula open = formula(words.c_str());
  const auto slopeAt = [](const Formula& f, bool end) {
    const double h = 1.0 / 4096;
    return end ? (f.at(1) - f.at(1 - h)) / h : (f.at(h) - f.at(0)) / h;
  };
  for (const FormulaClosing closing : {FormulaClosing::Level, FormulaClosing::Blend, FormulaClosing::ThereAndBack}) {
    const Formula closed = *open.closed(closing);
    QCOMPARE(closed.text(), words);
    QVERIFY(!closed.joint().jumps());
    QVERIFY(std::abs(closed.at(0) - closed.at(1)) < 1e-9);
    QVERIFY(!(closed == open));
  }
  // Level: the tilt alone. Blend: untouched until its last quarter, and smooth. There and back: its own ends, and the same both ways.
  const Formula level = *open.closed(FormulaClosing::Level);
  const Formula blend = *open.closed(FormulaClosing::Blend);
  const Formula back = *open.closed(FormulaClosing::ThereAndBack);
  for (int i = 0; i <= 64; ++i) {
    const double t = i / 64.0;
    QVERIFY(std::abs(level.at(t) - (open.at(t) - t * open.joint().jump)) < 1e-9);
    if (t <= 0.75) QVERIFY(std::abs(blend.at(t) - open.at(t)) < 1e-12);
    QVERIFY(std::abs(back.at(t) - back.at(1 - t)) < 1e-9);
  }
  QVERIFY(!blend.joint().corner);
  QVERIFY(std::abs(slopeAt(blend, true) - slopeAt(blend, false)) < 0.1);
  QVERIFY(!back.joint().corner);
  QVERIFY(std::abs(back.at(0.5) - open.at(1)) < 1e-9);
  QVERIFY(std::abs(slopeAt(back, false)) < 0.2);
  QVERIFY(*level.closed(FormulaClosing::Open) == open);
}

void TestFormula::severalThreadsAsk() {
  const Formula f = formula("sin(angle) * wander(9, 3) + 0.1 * cos(7 * angle)");
  std::vector<double> first(64);
  std::vector<double> second(64);
  const auto ask = [](const Formula& mine, std::vector<double>& into) {
    for (std::size_t i = 0; i < into.size(); ++i) into[i] = mine.at(static_cast<double>(i) / 64);
  };
  std::thread one(ask, f, std::ref(first));
  std::thread two(ask, f, std::ref(second));
  one.join();
  two.join();
  QVERIFY(first == second);
  QVERIFY(first[5] != first[6]);
}

void TestFormula::itMovesValues() {
  Scene scene = oa::test::oneLayer("noise");
  Param& shift = oa::test::param(scene, 0, 0, "roughness");
  const ParamSpec& spec =
      scene.layers[0].recipe[0].spec->params[static_cast<std::size_t>(findParam(scene.layers[0].recipe[0].spec->params, "roughness"))];
  shift.motion = firstMotion(spec, shift, MotionKind::Formula);
  QVERIFY(reallyMoves(spec, shift));
  shift.motion.formula = formula("sin(angle)");
  shift.motion.laps = 3;
  shift.motion.start = 0.125;
  const double base = std::get<double>(shift.base);
  const double way = std::get<double>(shift.motion.far) - base;
  QVERIFY(way != 0);
  QCOMPARE(lapsOf(spec, shift), std::int64_t{3});
  for (int k = 0; k < 240; ++k) {
    const double value = std::get<double>(evaluate(spec, shift, {k, 240}).value);
    const double wanted = base + way * std::sin(2 * std::numbers::pi * (3.0 * k / 240 + 0.125));
    QVERIFY(std::abs(value - std::clamp(wanted, spec.min, spec.max)) < 1e-4);
    QVERIFY(value <= mostOf(spec, shift) + 1e-12);
  }
  QVERIFY(evaluate(spec, shift, {240, 240}).value == evaluate(spec, shift, {0, 240}).value);
  // One that stays at nought moves nothing.
  shift.motion.formula = formula("0 * t");
  QVERIFY(!reallyMoves(spec, shift));
}

void TestFormula::itIsSaved() {
  const Scene scene = oa::test::oneLayer("noise");
  const ParamSpec& spec = *std::find_if(scene.layers[0].recipe[0].spec->params.begin(), scene.layers[0].recipe[0].spec->params.end(),
                                        [](const ParamSpec& s) { return s.id == "roughness"; });
  Param param = defaultParam(spec);
  param.motion = firstMotion(spec, param, MotionKind::Formula);
  param.motion.formula = formula("t^2 + sin(angle)", FormulaClosing::Blend);
  const Json json = paramToJson(spec, param);
  const auto again = paramFromJson(spec, json, "p");
  QVERIFY(again.has_value());
  QVERIFY(*again == param);
  const auto refused = [&](const char* key, const Json& value, const std::string& words, const std::string& where) {
    Json wrong = json;
    wrong["motion"][key] = value;
    const auto read = paramFromJson(spec, wrong, "p");
    QVERIFY(!read);
    QVERIFY2(read.error().message.find(words) != std::string::npos, read.error().message.c_str());
    QCOMPARE(read.error().where, where);
  };
  refused("formula", "sin(", "missing at the end", "p.motion.formula");
  refused("formula", 3, "in quotes", "p.motion.formula");
  refused("closing", "shut", "does not close", "p.motion.closing");
}

QTEST_GUILESS_MAIN(TestFormula)
#include "tst_formula.moc"
