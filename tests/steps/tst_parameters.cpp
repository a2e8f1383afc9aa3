// What every step promises of its parameters: each one matters, and the tables that declare them are sound. Nothing here names a step
// but for what a parameter of it needs to show.
#include <QTest>
#include <algorithm>
#include <cmath>

#include "params/first_motion.h"
#include "params/param_json.h"
#include "support/contract.h"
#include "support/media.h"
#include "support/pictures.h"
#include "support/scenes.h"

using namespace oa;
using namespace oa::test::contract;

namespace {

// Other values of one parameter, as far from its default as its type has them.
std::vector<Value> otherValues(const ParamSpec& spec) {
  std::vector<Value> values;
  if (spec.isScalar())
    values = {spec.min, spec.max, spec.isWhole() ? std::floor((spec.low() + spec.high()) / 2) : (spec.low() * 2 + spec.high()) / 3,
              spec.isWhole() ? std::floor((spec.low() * 12 + spec.high()) / 13) : (spec.low() * 29 + spec.high()) / 30};
  if (spec.type == ParamType::Point) values = {spec.isWhole() ? Point{1, 1} : Point{0.3, 0.8}, Point{spec.max, spec.min}};
  if (spec.type == ParamType::Layer) values = {0.0, 1.0};
  if (spec.type == ParamType::File) values = {test::shippedMedia("rope.svg")};
  if (spec.type == ParamType::Outline) values = {circleOutline(20)};
  if (spec.type == ParamType::Text) values = {Text{"Other words"}, Text{"ss01"}, Text{"wght 120"}};
  if (spec.type == ParamType::Font) values = {Text{"B612"}};
  if (spec.type == ParamType::Copies) {
    CopyChanges changes;
    for (std::uint32_t row = 0; row < 3; ++row)
      for (std::uint32_t column = 0; column < 8; ++column) changes.put({std::uint64_t{row} << 32 | column, true, {}, 0, 1, {}, {}});
    values = {changes};
  }
  if (spec.type == ParamType::Toggle) values = {!std::get<bool>(spec.base)};
  if (spec.type == ParamType::Colour) values = {Colour{0.9f, 0.1f, 0.5f, 1}};
  if (spec.type == ParamType::ToneCurve) values = {Curve{{0, 1}, {1, 0}}};
  if (spec.type == ParamType::Choice)
    for (const auto choice : spec.choices) values.emplace_back(std::string(choice));
  return values;
}

// Settings of the other parameters under which one may show: as they are; numbers up (or down) and places pulled in.
void stirred(RecipeStep& step, std::size_t except, bool up) {
  for (std::size_t k = 0; k < step.params.size(); ++k) {
    const ParamSpec& spec = step.spec->params[k];
    if (k == except || spec.type == ParamType::Seed || spec.type == ParamType::Angle) continue;
    Value& value = step.params[k].base;
    if (auto* place = std::get_if<Point>(&value); place && !spec.isWhole()) *place = {0.25 + place->x / 2, 0.25 + place->y / 2};
    auto* number = std::get_if<double>(&value);
    if (number && spec.unit != Unit::Pixels && !spec.isWhole()) *number = mix(*number, up ? spec.high() : spec.low(), 0.5);
    // What is laid out for a large frame, in a small one; sources are made to fit it anyway.
    if (number && spec.unit == Unit::Pixels && !up && step.spec->kind != StepKind::Source) *number = std::max(spec.min, *number / 10);
  }
}

}  // namespace

class TestParameters : public QObject {
  Q_OBJECT
 private Q_SLOTS:
  void everyParameterMatters_data();
  void everyParameterMatters();
  void tablesAreSound();
};

void TestParameters::everyParameterMatters_data() {
  QTest::addColumn<QString>("step");
  for (const StepSpec* spec : allSteps()) QTest::newRow(std::string(spec->id).c_str()) << QString::fromStdString(std::string(spec->id));
}

void TestParameters::everyParameterMatters() {
  QFETCH(QString, step);
  const std::string id = step.toStdString();
  const StepSpec& spec_ = *findStep(id);
  const std::vector<std::string> inputs =
      spec_.kind == StepKind::Source ? std::vector<std::string>{""} : std::vector<std::string>{"noise", "gradient", "picture", "shape"};
  for (std::size_t i = 0; i < slotCount(newStep(spec_)); ++i) {
    const ParamSpec& spec = slotSpec(spec_, i);
    bool matters = false;
    for (const std::string& on : inputs)
      for (const int stir : {0, 1, 2}) {
        Scene scene = sceneWith(id, on, 160, 90);
        // So small that all there is of words, and beside them, is seen.
        if (id == "words") test::setValue(scene, scene.layers.size() - 1, 0, "size", 16.0);
        if (id == "words" && spec.id != "padding") test::setValue(scene, scene.layers.size() - 1, 0, "padding", Point{8, 4});
        if (id == "words") test::setValue(scene, scene.layers.size() - 1, 0, "text", Text{"Harb*our*\nDays"});
        // Only some fonts have axes.
        if (spec.id == "axes") test::setValue(scene, scene.layers.size() - 1, 0, "font", Text{"Inter"});
        if (stir > 0) stirred(tested(scene), i, stir == 1);
        if (spec.rule == LoopRule::Held) scene.frames = 100;
        // Those that show a layer in what they make do so.
        if (spec.type == ParamType::Layer && spec_.reads == SourceReads::Stamp && spec_.items)
          for (std::size_t k = 0; k < spec_.items->params.size(); ++k)
            if (const auto& choices = spec_.items->params[k].choices; std::find(choices.begin(), choices.end(), "layer") != choices.end())
              tested(scene).items.front().params[k].base = std::string("layer");
        // Some say how those of a list go with each other, or when they move.
        if (stir == 2 && spec_.items) {
          for (const std::size_t more : {1, 2}) tested(scene).items.push_back(newItem(*spec_.items, more));
          for (std::size_t k = 0; k < spec_.items->params.size(); ++k)
            if (const ParamSpec& moving = spec_.items->params[k]; moving.beginsWith)
              for (Item& item : tested(scene).items) item.params[k].motion = firstMotion(moving, item.params[k], *moving.beginsWith);
        }
        if (stir == 2 && !spec_.items && spec_.kind == StepKind::Source) setAllMoving(tested(scene));
        // What is counted in rounds only matters while it goes round.
        if (stir == 2 && spec.rule == LoopRule::Progress) slot(tested(scene), i).motion = test::turn();
        if (spec.shownWhen) {  // shown only with another choice: make it so
          const bool ofItem = i >= tested(scene).params.size();
          const std::span<const ParamSpec> table = ofItem ? spec_.items->params : spec_.params;
          const auto make = [&](std::string_view param, const std::vector<std::string_view>& choices, double atLeast) {
            auto& params = ofItem ? tested(scene).items.back().params : tested(scene).params;
            const int other = findParam(table, param);
            Value& value = params[static_cast<std::size_t>(other)].base;
            const ParamSpec& its = table[static_cast<std::size_t>(other)];
            if (const auto* number = std::get_if<double>(&value))
              value = std::max({*number, its.min, atLeast >= 1 ? atLeast : mix(its.low(), its.high(), its.isWhole() ? 0 : 0.2), atLeast});
            else if (std::holds_alternative<bool>(value))
              value = true;
            else if (std::holds_alternative<MediaRef>(value))
              value = choices.front() == "moving" ? test::shippedMedia("swinging-lantern.webm") : MediaRef();
            else
              value = std::string(choices.front());
          };
          // And what it hangs on, which may hang on others.
          for (const ParamSpec* s = &spec; s->shownWhen; s = &table[static_cast<std::size_t>(findParam(table, s->shownWhen->param))]) {
            make(s->shownWhen->param, s->shownWhen->choices, s->shownWhen->atLeast);
            if (!s->shownWhen->with.empty()) make(s->shownWhen->with, s->shownWhen->withChoices, 0);
          }
        }
        // What lies beyond black and white is only seen by a later step.
        const std::size_t at = scene.layers.back().recipe.size() - 1;
        test::addStep(scene, "levels");
        test::setValue(scene, scene.layers.size() - 1, at + 1, "contrast", 0.4);
        const auto before = test::renderFloat(scene, 5);
        for (const Value& value : otherValues(spec)) {
          if (matters) break;
          slot(scene.layers.back().recipe[at], i).base = value;
          matters = test::compare(test::renderFloat(scene, 5), before).largest > 1e-4;
        }
      }
    QVERIFY2(matters, spec.id.data());
  }
}

void TestParameters::tablesAreSound() {
  for (const StepSpec* spec : allSteps()) {
    const int kernels = (spec->source != nullptr) + (spec->point != nullptr) + (spec->area != nullptr) + (spec->stamped != nullptr);
    QCOMPARE(kernels, spec->reads == SourceReads::Nothing || spec->reads == SourceReads::Stamp ? 1 : 0);
    QVERIFY2((spec->reference != nullptr) == (kernels == 1), spec->id.data());
    std::vector<std::string_view> ids;
    if (spec->items) ids.push_back(spec->items->id);
    std::vector<ParamSpec> all(spec->params.begin(), spec->params.end());
    if (spec->items) all.insert(all.end(), spec->items->params.begin(), spec->items->params.end());
    for (const ParamSpec& p : all) {
      QVERIFY2(std::find(ids.begin(), ids.end(), p.id) == ids.end(), p.id.data());
      ids.push_back(p.id);
      QVERIFY2(p.id != "step" && p.id != "on" && p.id != "id" && p.id != "version" && p.id != "presence",
               p.id.data());  // the file's own words
      QVERIFY(p.min <= p.max && p.low() >= p.min && p.high() <= p.max);
      QVERIFY2(!p.label.empty() && p.label.size() <= 14, p.label.data());  // room on the card
      if (p.logScale) QVERIFY(p.low() > 0);
      if (p.shownWhen) QVERIFY(findParam(all, p.shownWhen->param) >= 0);
      if (p.type == ParamType::Choice)
        QVERIFY(std::find(p.choices.begin(), p.choices.end(), std::get<std::string>(p.base)) != p.choices.end());
    }
    if (!spec->items) continue;
    QVERIFY(spec->items->least >= 1 && spec->items->first >= spec->items->least && spec->items->first <= kMaxItems);
    QVERIFY(spec->items->place.empty() || findParam(spec->items->params, spec->items->place) >= 0);
    for (const std::size_t i : {std::size_t{0}, std::size_t{1}, std::size_t{500}, kMaxItems - 1}) {
      const Item item = newItem(*spec->items, i);
      for (std::size_t p = 0; p < item.params.size(); ++p)
        QVERIFY(checkValue(spec->items->params[p], item.params[p].base, "here").has_value());
    }
  }
}

QTEST_GUILESS_MAIN(TestParameters)
#include "tst_parameters.moc"
