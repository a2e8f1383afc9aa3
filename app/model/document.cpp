#include "model/document.h"

#include <QUndoCommand>
#include <algorithm>

#include "edit/values.h"
#include "scene/recolour.h"
#include "scene/scene_file.h"

namespace oa::app {
namespace {

bool sameLayers(const std::vector<Layer>& a, const std::vector<Layer>& b) {
  return std::equal(a.begin(), a.end(), b.begin(), b.end(), [](const Layer& p, const Layer& q) {
    if (p.id != q.id || p.name != q.name || p.locked != q.locked || p.folded != q.folded || p.mask.has_value() != q.mask.has_value() ||
        p.presence.size() != q.presence.size())
      return false;
    if (p.mask && p.mask->source.spec != q.mask->source.spec) return false;
    const bool same = std::equal(p.recipe.begin(), p.recipe.end(), q.recipe.begin(), q.recipe.end(),
                                 [](const RecipeStep& r, const RecipeStep& t) { return r.spec == t.spec && r.on == t.on; });
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

Document::Document(QObject* parent) : QObject(parent) {
  history_.setUndoLimit(500);
  connect(&history_, &QUndoStack::cleanChanged, this, &Document::fileChanged);
}

const Plan& Document::plan() const {
  if (!plan_) plan_ = std::make_unique<const Plan>(scene_);
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
  plan_.reset();
  state_ = state;
  Ids now;
  for (const Id id : selection)
    if (findLayer(scene_, id)) now.push_back(id);
  if (now.empty() && !scene_.layers.empty()) now.push_back(scene_.layers.back().id);
  const bool other = now != selection_;
  selection_ = std::move(now);
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
  state_ = edit::Snapshot(scene_, {});
  path_ = path;
  neverSaved_ = false;
  selection_.clear();
  if (!scene_.layers.empty()) selection_.push_back(scene_.layers.back().id);
  history_.clear();
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
  Q_EMIT currentLayerChanged();
}

Document::Table Document::table(Scene& scene, const ParamAddress& at) {
  Layer* layer = findLayer(scene, at.layer);
  if (!layer) return {};
  const auto of = [](std::span<const ParamSpec> specs, std::vector<Param>& params) { return Table{specs, params.data(), params.size()}; };
  if (at.step == ParamAddress::kOpacity) return {{&opacitySpec(), 1}, &layer->opacity, 1};
  if (at.step == ParamAddress::kPlace) return of(placeSpecs(), layer->place);
  if (at.step == ParamAddress::kMask) return layer->mask ? of(maskSpecs(), layer->mask->params) : Table{};
  if (at.step == ParamAddress::kMaskSource) return layer->mask ? of(layer->mask->source.spec->params, layer->mask->source.params) : Table{};
  if (at.step < 0 || at.step >= static_cast<int>(layer->recipe.size())) return {};
  RecipeStep& step = layer->recipe[static_cast<std::size_t>(at.step)];
  return of(step.spec->params, step.params);
}

bool Document::valid(const ParamAddress& at) const {
  const Table found = table(const_cast<Scene&>(scene_), at);
  return found.params && at.param >= 0 && at.param < static_cast<int>(found.count);
}

const ParamSpec& Document::spec(const Scene& scene, const ParamAddress& at) {
  return table(const_cast<Scene&>(scene), at).specs[static_cast<std::size_t>(at.param)];
}

Param& Document::param(Scene& scene, const ParamAddress& at) { return table(scene, at).params[at.param]; }

const Param& Document::param(const Scene& scene, const ParamAddress& at) { return param(const_cast<Scene&>(scene), at); }

std::vector<Colour> Document::colours() const { return scene_.palette.colours.empty() ? coloursOf(scene_) : scene_.palette.colours; }

QString Document::labelOf(const ParamAddress& at) const {
  const ParamSpec& s = spec(at);
  return QString::fromStdString(layer(at.layer)->name) + QStringLiteral(" · ") +
         QString::fromUtf8(s.label.data(), static_cast<qsizetype>(s.label.size())).toLower();
}

namespace {
QString gestureOf(const char* verb, const ParamAddress& at) {
  return QStringLiteral("%1/%2/%3/%4").arg(QLatin1String(verb)).arg(at.layer).arg(at.step).arg(at.param);
}
}  // namespace

void Document::setBase(const ParamAddress& at, const Value& value, bool gesture) {
  const QString key = gesture ? gestureOf("value", at) + QString::number(gestureNumber_) : QString();
  if (key.isEmpty() || key != heldGesture_) held_ = param(at);
  heldGesture_ = key;
  edit(labelOf(at), gesture ? gestureOf("value", at) : QString(),
       [&](Scene& scene) { param(scene, at) = edit::withBase(spec(scene, at), held_, value); });
}

void Document::setMotion(const ParamAddress& at, const Motion& motion, bool gesture) {
  edit(labelOf(at), gesture ? gestureOf("motion", at) : QString(), [&](Scene& scene) { param(scene, at).motion = motion; });
}

}  // namespace oa::app
