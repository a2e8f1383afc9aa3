#include "model/document.h"

#include <QUndoCommand>
#include <algorithm>

#include "model/heard.h"
#include "model/media_watch.h"
#include "model/motion_address.h"
#include "params/first_motion.h"
#include "edit/copies.h"
#include "edit/clipboard.h"
#include "edit/following.h"
#include "edit/items.h"
#include "edit/values.h"
#include "scene/followers.h"
#include "scene/recolour.h"
#include "scene/scene_file.h"
#include "titles/title_table.h"

namespace oa::app {
namespace {

bool sameWays(const Passages& a, const Passages& b) {
  return a.arrive.has_value() == b.arrive.has_value() && a.leave.has_value() == b.leave.has_value();
}

// Whether the same values have one of their own to arrive from or leave to.
bool sameFar(const std::vector<Param>& a, const std::vector<Param>& b) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(), [](const Param& p, const Param& q) { return p.away.size() == q.away.size(); });
}

bool sameLayers(const std::vector<Layer>& a, const std::vector<Layer>& b) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(), [](const Layer& p, const Layer& q) {
    if (p.id != q.id || p.name != q.name || p.locked != q.locked || p.folded != q.folded || p.mask.has_value() != q.mask.has_value() ||
        p.presence.size() != q.presence.size() || !sameWays(p.passes, q.passes) || p.standIn != q.standIn ||
        p.opacity.away.size() != q.opacity.away.size() || !sameFar(p.place, q.place))
      return false;
    if (p.mask && p.mask->source.spec != q.mask->source.spec) return false;
    const bool same =
        std::equal(p.recipe.begin(), p.recipe.end(), q.recipe.begin(), q.recipe.end(), [](const RecipeStep& r, const RecipeStep& t) {
          return r.spec == t.spec && r.on == t.on && r.presence.size() == t.presence.size() && sameWays(r.passes, t.passes) &&
                 sameFar(r.params, t.params);
        });
    return same && sameLayers(p.layers, q.layers);
  });
}

// Which layers show which.
std::vector<double> links(const Scene& scene) {
  std::vector<double> list;
  forEachLayer(scene.layers, [&](const Layer& layer, int) {
    forEachParam(layer, [&](const ParamSpec& spec, const Param& param) {
      if (spec.type == ParamType::Layer) list.push_back(std::get<double>(param.base));
    });
  });
  return list;
}

}  // namespace

class SceneCommand : public QUndoCommand {
 public:
  struct State {
    edit::Snapshot scene;
    Ids selection;
  };
  SceneCommand(Document& document, State before, State after, const QString& label, QString gesture)
      : QUndoCommand(label), document_(document), before_(std::move(before)), after_(std::move(after)), gesture_(std::move(gesture)) {}
  void undo() override {
    // A gesture that goes on after this begins anew.
    document_.endGesture();
    document_.apply(before_.scene, before_.selection);
  }
  void redo() override { document_.apply(after_.scene, after_.selection); }
  [[nodiscard]] int id() const override { return 1; }
  [[nodiscard]] const edit::Snapshot& before() const { return before_.scene; }
  [[nodiscard]] const edit::Snapshot& after() const { return after_.scene; }
  bool mergeWith(const QUndoCommand* other) override {
    const auto* next = static_cast<const SceneCommand*>(other);
    if (gesture_.isEmpty() || gesture_ != next->gesture_) return false;
    after_ = next->after_;
    setText(next->text());
    setObsolete(before_.scene == after_.scene);
    return true;
  }

 private:
  Document& document_;
  State before_;
  State after_;
  QString gesture_;
};

Document::Document(QObject* parent) : QObject(parent), media_(new MediaWatch(*this)), heard_(new Heard(*this)) {
  history_.setUndoLimit(500);
  connect(&history_, &QUndoStack::cleanChanged, this, &Document::fileChanged);
}

Scene Document::shownScene() const {
  const bool there = title_ >= 0 && title_ < static_cast<int>(scene_.table.rows.size());
  Scene shown = there ? filled(scene_, scene_.table, static_cast<std::size_t>(title_)) : scene_;
  for (const ParamAddress& at : still_)
    if (const Table found = table(shown, at); at.param < static_cast<int>(found.count)) {
      found.params[at.param].motion = {};
      found.params[at.param].more.clear();
    }
  return shown;
}

void Document::holdStill(std::vector<ParamAddress> values) {
  if (values == still_) return;
  still_ = std::move(values);
  plan_.reset();
  Q_EMIT heldStillChanged();
}

void Document::showTitle(int row) {
  if (row == title_) return;
  title_ = row;
  plan_.reset();
  Q_EMIT titleChanged();
}

const Plan& Document::plan() const {
  if (!plan_) plan_ = std::make_unique<const Plan>(shownScene());
  return *plan_;
}

void Document::edit(const QString& label, const QString& gesture, const std::function<void(Scene&)>& change) {
  Scene after = scene_;
  change(after);
  push(label, gesture, std::move(after), selection_);
}

bool Document::push(const QString& label, const QString& gesture, Scene after, const Ids& selectionAfter) {
  if (after == scene_) return true;
  assignIds(after);
  // Only another shape or another link can close a circle.
  if (!sameLayers(after.layers, scene_.layers) || links(after) != links(scene_))
    if (const auto ok = edit::checkTree(after); !ok) {
      Q_EMIT refused(QString::fromStdString(ok.error().sentence()));
      Q_EMIT changed(true);  // what showed the refused value shows the old one again
      return false;
    }
  const QString key = gesture.isEmpty() ? QString() : gesture + QLatin1Char('#') + QString::number(gestureNumber_);
  edit::Snapshot state(after, state_);
  history_.push(new SceneCommand(*this, {state_, selection_}, {std::move(state), selectionAfter}, label, key));
  return true;
}

std::vector<Document::State> Document::states() const {
  const auto step = [&](int i) { return static_cast<const SceneCommand*>(history_.command(i)); };
  std::vector<State> all;
  all.push_back({history_.count() > 0 ? step(0)->before() : state_, {}});
  for (int i = 0; i < history_.count(); ++i) all.push_back({step(i)->after(), step(i)->text()});
  return all;
}

void Document::goToState(int state) {
  endGesture();
  history_.setIndex(std::clamp(state, 0, history_.count()));
}

bool Document::perform(const QString& label, const std::function<Result<Ids>(Scene&)>& operation, const QString& gesture) {
  Scene after = scene_;
  const auto selected = operation(after);
  if (!selected) {
    Q_EMIT refused(QString::fromStdString(selected.error().sentence()));
    return false;
  }
  if (!push(label, gesture, std::move(after), *selected)) return false;
  setSelection(*selected);
  return true;
}

void Document::apply(const edit::Snapshot& state, const Ids& selection) {
  Scene scene = state.scene();
  const bool structure = !sameLayers(scene.layers, scene_.layers);
  scene_ = std::move(scene);
  bindFollowers(scene_);
  plan_.reset();
  state_ = state;
  Ids now;
  for (const Id id : selection)
    if (findLayer(scene_, id)) now.push_back(id);
  if (now.empty() && !scene_.layers.empty()) now.push_back(scene_.layers.back().id);
  const bool other = now != selection_;
  selection_ = std::move(now);
  if (other || !presence(currentLayer(), presenceStep_)) presenceStep_ = 0;
  Q_EMIT changed(structure);
  if (other) Q_EMIT currentLayerChanged();
}

void Document::resetUnsaved(Scene scene, const QString& path) {
  reset(std::move(scene), path);
  neverSaved_ = true;
  Q_EMIT fileChanged();
}

void Document::reset(Scene scene, const QString& path) {
  endGesture();
  scene_ = std::move(scene);
  plan_.reset();
  assignIds(scene_);
  bindFollowers(scene_);
  state_ = edit::Snapshot(scene_, {});
  path_ = path;
  neverSaved_ = false;
  selection_.clear();
  presenceStep_ = 0;
  if (!scene_.layers.empty()) selection_.push_back(scene_.layers.back().id);
  history_.clear();
  Q_EMIT begun();
  Q_EMIT changed(true);
  Q_EMIT currentLayerChanged();
  Q_EMIT fileChanged();
}

Status Document::save(const QString& path) {
  endGesture();
  if (auto saved = saveScene(scene_, path.toStdString()); !saved) return saved;
  path_ = path;
  neverSaved_ = false;
  history_.setClean();
  Q_EMIT fileChanged();
  return {};
}

void Document::setSelection(Ids layers) {
  std::erase_if(layers, [this](Id id) { return !findLayer(scene_, id); });
  if (layers.empty() || layers == selection_) return;
  selection_ = std::move(layers);
  presenceStep_ = 0;
  editInPicture({});
  Q_EMIT currentLayerChanged();
}

Document::Table Document::table(Scene& scene, const ParamAddress& at) {
  Layer* layer = findLayer(scene, at.layer);
  if (!layer) return {};
  const auto of = [](std::span<const ParamSpec> specs, std::vector<Param>& params) { return Table{specs, params.data(), params.size()}; };
  if (at.step == ParamAddress::kOpacity) return {{&opacitySpec(), 1}, &layer->opacity, 1};
  if (at.step == ParamAddress::kPlace) return of(placeSpecs(), layer->place);
  const auto ofWay = [&](std::span<const ParamSpec> specs, std::optional<Passage>& way) { return way ? of(specs, way->params) : Table{}; };
  if (at.step == ParamAddress::kArrive) return ofWay(passageSpecs(), layer->passes.arrive);
  if (at.step == ParamAddress::kLeave) return ofWay(passageSpecs(), layer->passes.leave);
  if (at.step == ParamAddress::kMask) return layer->mask ? of(maskSpecs(), layer->mask->params) : Table{};
  RecipeStep* own = step(scene, at.layer, at.step);
  if (!own) return {};
  if (at.item == 0) return of(own->spec->params, own->params);
  if (at.item == ParamAddress::kStepArrives) return ofWay(stepPassageSpecs(), own->passes.arrive);
  if (at.item == ParamAddress::kStepLeaves) return ofWay(stepPassageSpecs(), own->passes.leave);
  const int item = at.item == ParamAddress::kAllItems ? 0 : edit::itemIndex(*own, at.item);
  if (item < 0 || item >= static_cast<int>(own->items.size())) return {};
  return of(own->spec->items->params, own->items[static_cast<std::size_t>(item)].params);
}

RecipeStep* Document::step(Scene& scene, Id layer, int step) {
  Layer* found = findLayer(scene, layer);
  if (!found) return nullptr;
  if (step == ParamAddress::kMaskSource) return found->mask ? &found->mask->source : nullptr;
  return step < 0 || step >= static_cast<int>(found->recipe.size()) ? nullptr : &found->recipe[static_cast<std::size_t>(step)];
}

Presence* Document::presence(Scene& scene, Id layer, int step) {
  Layer* found = findLayer(scene, layer);
  if (!found) return nullptr;
  if (step == 0) return &found->presence;
  RecipeStep* own = step > 0 ? Document::step(scene, layer, step) : nullptr;
  return own ? &own->presence : nullptr;
}

const Presence* Document::presence(Id layer, int step) const { return presence(const_cast<Scene&>(scene_), layer, step); }

void Document::editInPicture(const std::optional<ParamAddress>& at) {
  if (inPicture_ == at) return;
  inPicture_ = at;
  chosenCopies_.clear();
  Q_EMIT inPictureEdited();
}

bool Document::editsInPicture(ParamType type) const {
  if (!inPicture_ || inPicture_->layer != currentLayer() || !valid(*inPicture_) || spec(*inPicture_).type != type) return false;
  const Layer* own = layer();
  return own && own->visible && !own->locked;
}

void Document::chooseCopies(std::vector<std::uint64_t> copies) {
  if (chosenCopies_ == copies) return;
  endGesture();
  chosenCopies_ = std::move(copies);
  Q_EMIT copiesChosen();
}

void Document::changeCopies(const QString& label, const std::function<void(CopyChange&)>& change, bool gesture) {
  if (!inPicture_ || !valid(*inPicture_) || chosenCopies_.empty() || spec(*inPicture_).type != ParamType::Copies) return;
  const ParamAddress at = *inPicture_;
  performOnItems(
      label, at.layer, at.step,
      [&](RecipeStep& step) -> Result<int> {
        if (auto done = edit::changeCopies(step.params[static_cast<std::size_t>(at.param)], chosenCopies_, change); !done)
          return tl::unexpected(done.error());
        return 0;
      },
      gesture ? QStringLiteral("copies/%1/%2/%3").arg(at.layer).arg(at.step).arg(label) : QString());
}

void Document::showPresence(int step) {
  if (step == presenceStep_) return;
  presenceStep_ = step;
  Q_EMIT presenceShown();
}

const RecipeStep* Document::step(Id layer, int step) const { return Document::step(const_cast<Scene&>(scene_), layer, step); }

bool Document::valid(const ParamAddress& at) const {
  const Table found = table(const_cast<Scene&>(scene_), at);
  if (!found.params || at.param < 0 || at.param >= static_cast<int>(found.count)) return false;
  const Param& own = found.params[at.param];
  if (at.isFar()) return farValueOf(own, at.leaving()) != nullptr;
  return at.motion < static_cast<int>(motionCount(own));
}

const ParamSpec& Document::spec(const Scene& scene, const ParamAddress& at) {
  return table(const_cast<Scene&>(scene), at).specs[static_cast<std::size_t>(at.param)];
}

// NOLINTNEXTLINE(clang-analyzer-core.uninitialized.UndefReturn): whoever asks knows that there is one (valid())
Param& Document::param(Scene& scene, const ParamAddress& at) { return table(scene, at).params[at.param]; }

const Param& Document::param(const Scene& scene, const ParamAddress& at) { return param(const_cast<Scene&>(scene), at); }

const Param& Document::shown(const ParamAddress& at) const {
  const Param& own = param(scene_, at);
  if (!at.isFar()) return own;
  far_ = Param();
  far_.base = farValueOf(own, at.leaving())->value;
  return far_;
}

const Param& Document::voice(const ParamAddress& at) const {
  const Param& all = param(scene_, at);
  if (all.more.empty()) return all;
  voice_ = withMotionAlone(all, static_cast<std::size_t>(at.motion));
  return voice_;
}

std::vector<Colour> Document::colours() const { return scene_.palette.colours.empty() ? coloursOf(scene_) : scene_.palette.colours; }

QString Document::labelOf(const ParamAddress& at) const {
  const ParamSpec& s = spec(at);
  return QString::fromStdString(layer(at.layer)->name) + QStringLiteral(" · ") +
         QString::fromUtf8(s.label.data(), static_cast<qsizetype>(s.label.size())).toLower();
}

namespace {
QString gestureOf(const char* verb, const ParamAddress& at) {
  return QStringLiteral("%1/%2/%3/%4/%5/%6").arg(QLatin1String(verb)).arg(at.layer).arg(at.step).arg(at.param).arg(at.item).arg(at.motion);
}
}  // namespace

void Document::setBase(const ParamAddress& at, const Value& value, bool gesture) {
  const QString key = gesture ? gestureOf("value", at) + QString::number(gestureNumber_) : QString();
  if (key.isEmpty() || key != heldGesture_) {
    held_ = param(scene_, at);
    heldItems_ = at.item == ParamAddress::kAllItems ? step(at.layer, at.step)->items : std::vector<Item>();
  }
  heldGesture_ = key;
  if (at.isFar()) {
    edit(labelOf(at), gesture ? gestureOf("value", at) : QString(),
         [&](Scene& scene) { setFarValue(param(scene, at), at.leaving(), value); });
    return;
  }
  edit(labelOf(at), gesture ? gestureOf("value", at) : QString(), [&](Scene& scene) {
    if (at.item == ParamAddress::kAllItems)
      edit::setAllItems(*step(scene, at.layer, at.step), static_cast<std::size_t>(at.param), value, heldItems_);
    else
      param(scene, at) = edit::withBase(spec(scene, at), held_, value);
  });
}

void Document::setFar(const ParamAddress& at, bool leaving, bool has) {
  edit(leaving ? tr("%1: leaves to").arg(labelOf(at)) : tr("%1: arrives from").arg(labelOf(at)), {}, [&](Scene& scene) {
    Param& own = param(scene, at);
    setFarValue(own, leaving, has ? std::optional(own.base) : std::nullopt);
    Layer& owner = *findLayer(scene, at.layer);
    auto& way = owner.passes.way(leaving);
    if (!has || way) return;
    // What has a value of its own for it arrives, without anything else being done to it.
    Passing plain;
    plain.fades = false;
    way = passageOf(plain);
  });
}

void Document::setMotion(const ParamAddress& at, const Motion& motion, bool gesture) {
  const auto which = static_cast<std::size_t>(at.motion);
  edit(labelOf(at), gesture ? gestureOf("motion", at) : QString(), [&](Scene& scene) {
    if (at.item == ParamAddress::kAllItems)
      edit::moveAllItems(*step(scene, at.layer, at.step), static_cast<std::size_t>(at.param), motion, which);
    else
      motionOf(param(scene, at), which) = motion;
  });
}

Motion Document::firstMotionOf(const ParamAddress& at, const Param& param, MotionKind kind) const {
  Motion motion = firstMotion(spec(at), param, kind);
  if (kind != MotionKind::Follow || !edit::nameOf(scene_, motion.follows).empty()) return motion;
  if (const auto leader = edit::firstLeader(scene_, motionAddress(*this, at))) motion.follows = *leader;
  motion.start = 0.9;
  return motion;
}

void Document::addMotion(ParamAddress at, MotionKind kind) {
  Param after = edit::withMotionAdded(spec(at), param(scene_, at), kind);
  at.motion = static_cast<int>(motionCount(after)) - 1;
  if (kind == MotionKind::Follow) {
    Motion& added = motionOf(after, static_cast<std::size_t>(at.motion));
    added = firstMotionOf(at, withMotionAlone(after, static_cast<std::size_t>(at.motion)), kind);
  }
  edit(labelOf(at), {}, [&](Scene& scene) {
    if (at.item == ParamAddress::kAllItems)
      edit::moveAllItems(*step(scene, at.layer, at.step), static_cast<std::size_t>(at.param),
                         motionOf(after, static_cast<std::size_t>(at.motion)), static_cast<std::size_t>(at.motion));
    else
      param(scene, at) = after;
  });
  showMotion(at);
}

void Document::removeMotion(const ParamAddress& at) {
  const auto which = static_cast<std::size_t>(at.motion);
  edit(labelOf(at), {}, [&](Scene& scene) {
    if (at.item != ParamAddress::kAllItems) {
      param(scene, at) = edit::withMotionRemoved(param(scene, at), which);
      return;
    }
    for (Item& item : step(scene, at.layer, at.step)->items) {
      Param& own = item.params[static_cast<std::size_t>(at.param)];
      own = edit::withMotionRemoved(own, which);
    }
  });
}

void Document::pasteMotions(const ParamAddress& at, std::string_view text) {
  const auto pasted = edit::withMotionsFromText(spec(at), param(scene_, at), text);
  if (!pasted) {
    Q_EMIT refused(QString::fromStdString(pasted.error().sentence()));
    return;
  }
  edit(tr("paste motion"), {}, [&](Scene& scene) {
    if (at.item != ParamAddress::kAllItems) {
      param(scene, at) = *pasted;
      return;
    }
    RecipeStep& items = *step(scene, at.layer, at.step);
    for (Item& item : items.items) item.params[static_cast<std::size_t>(at.param)].more.clear();
    for (std::size_t i = 0; i < motionCount(*pasted); ++i)
      edit::moveAllItems(items, static_cast<std::size_t>(at.param), motionOf(*pasted, i), i);
  });
  showMotion(at);
}

int Document::performOnItems(const QString& label, Id layer, int step, const std::function<Result<int>(RecipeStep&)>& operation,
                             const QString& gesture) {
  int index = -1;
  const bool done = perform(
      label,
      [&](Scene& scene) -> Result<Ids> {
        const auto result = operation(*Document::step(scene, layer, step));
        if (!result) return tl::unexpected(result.error());
        index = *result;
        return selection_;
      },
      gesture);
  return done ? index : -1;
}

}  // namespace oa::app
