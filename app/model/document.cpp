#include "model/document.h"

#include <QUndoCommand>
#include <algorithm>

#include "edit/values.h"
#include "scene/recolour.h"
#include "scene/scene_file.h"

namespace oa::app {
namespace {

bool sameShape(const Scene& a, const Scene& b) {
  if (a.layers.size() != b.layers.size()) return false;
  for (std::size_t i = 0; i < a.layers.size(); ++i) {
    const auto& p = a.layers[i].recipe;
    const auto& q = b.layers[i].recipe;
    if (a.layers[i].name != b.layers[i].name || a.layers[i].locked != b.layers[i].locked || p.size() != q.size()) return false;
    for (std::size_t j = 0; j < p.size(); ++j)
      if (p[j].spec != q[j].spec || p[j].on != q[j].on) return false;
  }
  return true;
}

}  // namespace

// Scenes are small, so a step of the history is simply the scene before and after.
class SceneCommand : public QUndoCommand {
 public:
  struct State {
    Scene scene;
    int current;
  };
  SceneCommand(Document& document, State before, State after, const QString& label, QString gesture)
      : QUndoCommand(label), document_(document), before_(std::move(before)), after_(std::move(after)), gesture_(std::move(gesture)) {}
  void undo() override {
    // A gesture that goes on after this begins anew.
    document_.endGesture();
    document_.apply(before_.scene, before_.current);
  }
  void redo() override { document_.apply(after_.scene, after_.current); }
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

void Document::edit(const QString& label, const QString& gesture, const std::function<void(Scene&)>& change) {
  Scene after = scene_;
  change(after);
  push(label, gesture, std::move(after), current_);
}

void Document::push(const QString& label, const QString& gesture, Scene after, int currentAfter) {
  if (after == scene_) return;
  const QString key = gesture.isEmpty() ? QString() : gesture + QLatin1Char('#') + QString::number(gestureNumber_);
  history_.push(new SceneCommand(*this, {scene_, current_}, {std::move(after), currentAfter}, label, key));
}

bool Document::perform(const QString& label, const std::function<Result<int>(Scene&)>& operation, const QString& gesture) {
  Scene after = scene_;
  const auto current = operation(after);
  if (!current) {
    Q_EMIT refused(QString::fromStdString(current.error().sentence()));
    return false;
  }
  push(label, gesture, std::move(after), *current);
  setCurrentLayer(*current);
  return true;
}

bool Document::performHere(const QString& label, const std::function<Result<int>(Scene&)>& operation) {
  return perform(label, [&](Scene& scene) -> Result<int> {
    const auto done = operation(scene);
    if (!done) return tl::unexpected(done.error());
    return current_;
  });
}

void Document::apply(const Scene& scene, int current) {
  const bool structure = !sameShape(scene, scene_);
  scene_ = scene;
  current = std::clamp(current, 0, std::max(0, static_cast<int>(scene_.layers.size()) - 1));
  const bool other = current != current_;
  current_ = current;
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
  path_ = path;
  neverSaved_ = false;
  current_ = std::max(0, static_cast<int>(scene_.layers.size()) - 1);
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

void Document::setCurrentLayer(int index) {
  index = std::clamp(index, 0, std::max(0, static_cast<int>(scene_.layers.size()) - 1));
  if (index == current_) return;
  current_ = index;
  Q_EMIT currentLayerChanged();
}

const Layer* Document::layer() const {
  return current_ < static_cast<int>(scene_.layers.size()) ? &scene_.layers[static_cast<std::size_t>(current_)] : nullptr;
}

bool Document::valid(const ParamAddress& at) const {
  if (at.layer < 0 || at.layer >= static_cast<int>(scene_.layers.size())) return false;
  if (at.step == ParamAddress::kOpacity) return true;
  const auto& recipe = scene_.layers[static_cast<std::size_t>(at.layer)].recipe;
  return at.step >= 0 && at.step < static_cast<int>(recipe.size()) && at.param >= 0 &&
         at.param < static_cast<int>(recipe[static_cast<std::size_t>(at.step)].params.size());
}

const ParamSpec& Document::spec(const Scene& scene, const ParamAddress& at) {
  if (at.step == ParamAddress::kOpacity) return opacitySpec();
  return scene.layers[static_cast<std::size_t>(at.layer)]
      .recipe[static_cast<std::size_t>(at.step)]
      .spec->params[static_cast<std::size_t>(at.param)];
}

Param& Document::param(Scene& scene, const ParamAddress& at) {
  Layer& layer = scene.layers[static_cast<std::size_t>(at.layer)];
  if (at.step == ParamAddress::kOpacity) return layer.opacity;
  return layer.recipe[static_cast<std::size_t>(at.step)].params[static_cast<std::size_t>(at.param)];
}

const Param& Document::param(const Scene& scene, const ParamAddress& at) { return param(const_cast<Scene&>(scene), at); }

std::vector<Colour> Document::colours() const { return scene_.palette.colours.empty() ? coloursOf(scene_) : scene_.palette.colours; }

QString Document::labelOf(const ParamAddress& at) const {
  const ParamSpec& s = spec(at);
  return QString::fromStdString(scene_.layers[static_cast<std::size_t>(at.layer)].name) + QStringLiteral(" · ") +
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
